"""How a pair of plates stands on a member of the car: from a joint's place and its bolt to the foot, its height and its angles.

The plates are square to the bolt, so that their planes are given by the joint; of where they meet the member the nearest place is taken,
so that the tab points straight at it. Vectors are in car axes [mm].

Source:
    Nearest point of a plane's section of a cylinder, an ellipse; line and plane (derived).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import asin, atan2, degrees, radians, sin, sqrt, tan

import numpy as np
from numpy.typing import NDArray

from tirante.core.brackets.corner import CornerFoot
from tirante.core.brackets.saddle import MOST_FILLET, Saddle
from tirante.core.errors import NotApplicable

Array = NDArray[np.float64]
TOWARD_DEG = 15.0  # a bolt that points at its member closer than this leaves no plate that could stand on it
SQUARE_DEG = (
    89.5  # from here on the plates are taken as square to the tube: over a foot it is some hundredths of a millimetre
)
MOST_LEAN = degrees(MOST_FILLET) - 90.0  # °, from square to skin or face
MOST_TURNED = (
    30.0  # °, of a corner's middle line from the way to the joint: beyond it the joint stands nearly before one wall
)


@dataclass(frozen=True, slots=True, kw_only=True)
class Lying:
    """A plate that lies on a face, its bolt square to that."""

    high: float  # of the joint over the face
    past: bool  # whether the joint is past the face's edge, so that the plate reaches over it
    room: float  # that its foot may lie, from there across the face; infinite where that is not entered
    through: float | None = None  # from the face to the one behind it; None of a flat


@dataclass(frozen=True, slots=True, kw_only=True)
class Standing:
    """A pair of plates on a member: axes of the plates, the foot's middle, and what the feet are cut by."""

    height: float  # from the foot's middle to the joint, in the plates' planes
    foot: Array  # the foot's middle (3)
    x: Array  # along the foot
    y: Array  # from the foot to the joint
    bolt: Array  # square to the plates, the way that `beside` counts
    along: float | None  # of the foot's middle from the member's first end; None of a flat
    length: float | None  # of the member
    round_deg: float | None  # where it stands round a tube, from straight up, right-handed about the way from a to b
    tube_od: float | None = None
    angle_deg: float = 90.0  # between plates and tube
    lean_deg: float = 0.0  # of the plates from square to the skin or face, toward the bolt's way
    face: str = ""  # of a box, in words
    run: Array | None = None  # the member's own direction (3)
    across: tuple[Array, float, float] | None = (
        None  # a face's own way across the member, where its middle is along that, half its width
    )
    turned_deg: float | None = (
        None  # of a box's corner that it straddles: its middle line from `y` toward `x`; None: it stands on a face or a tube
    )
    legs: tuple[float, float] = (0.0, 0.0)  # how far the walls beside that corner reach, the left one first

    lies: Lying | None = None  # of a plate that lies there; None: plates stand

    @property
    def where(self) -> str:
        """The face or corner of a box in words; empty where it stands on none."""
        return self.face if not self.face or self.turned_deg is not None else f"{self.face} face"

    def corner(self, x: float, beside: float) -> Array:
        """A place of a foot in the car (3).

        Args:
            x: along the foot from its middle.
            beside: from the pair's middle along the bolt.
        """
        if self.turned_deg is not None:
            way = 1.0 if x > 0 else -1.0
            far = CornerFoot(width=2 * abs(x), turned_deg=self.turned_deg)
            x, y = far.on_leg(way, far.leg)
        elif self.tube_od is None:
            y = -beside * tan(radians(self.lean_deg))
        else:
            y = Saddle(tube_od=self.tube_od, angle=radians(self.angle_deg), lean=radians(self.lean_deg)).foot(x, beside)
        return self.foot + x * self.x + y * self.y + beside * self.bolt

    def overhang(self, half: float, outer: float, shift: float = 0.0) -> float:
        """How far the feet of both plates reach past the member's ends or its face at most [mm]; less than nothing where they do not.

        Args:
            half: of a foot's width.
            outer: from the pair's middle to a plate's outer face.
            shift: of the foot on the bolt's way along itself; of the other as much the other way.
        """
        corners = [self.corner(x + way * shift, way * outer) for x in (-half, half) for way in (-1.0, 1.0)]
        past = [-np.inf]
        if self.along is not None and self.run is not None and self.length is not None:
            steps = [self.along + float((one - self.foot) @ self.run) for one in corners]
            past += [-min(steps), max(steps) - self.length]
        if self.across is not None:
            way, middle, width = self.across
            past += [abs(float(one @ way) - middle) - width for one in corners]
        if self.turned_deg is not None:
            past += [CornerFoot(width=2 * half).leg - far for far in self.legs]
        return float(max(past))


def _unit(vector: Array) -> Array:
    return np.asarray(vector / np.linalg.norm(vector))


def _in_plates(out: Array, bolt: Array, on: str) -> Array:
    """The way to the member within the plates' planes."""
    toward = out - float(out @ bolt) * bolt
    if float(np.linalg.norm(toward)) < sin(radians(TOWARD_DEG)):
        raise NotApplicable(
            f"The bolt points at {on}: plates square to it do not stand there. Turn the bolt across it, or give it another mount.",
            code="bolt_points_at_it", fields=("bolt_axis",),
        )  # fmt: skip
    return _unit(toward)


def on_round(place: Array, bolt: Array, a: Array, b: Array, od: float, on: str = "the tube") -> Standing:
    """On a round tube.

    Args:
        place: of the joint (3).
        bolt: its direction (3), either way.
        a: one end of the tube's middle line (3).
        b: the other.
        od: of the tube.
        on: the tube in words.

    Raises:
        NotApplicable: the joint is inside the tube, its bolt points at it, or its plates pass it.
    """
    length, bolt = float(np.linalg.norm(b - a)), _unit(bolt)
    u, r = _unit(b - a), od / 2
    w = place - a - float((place - a) @ u) * u
    off = float(np.linalg.norm(w))
    if off <= r:
        raise NotApplicable(
            f"The joint stands {off:.1f} mm off the middle of {on}, inside it. Move one of them.",
            code="inside",
            fields=("mount",),
        )
    _in_plates(w / off, bolt, on)
    sin_angle = min(1.0, abs(float(bolt @ u)))
    angle = degrees(asin(sin_angle))
    if angle >= SQUARE_DEG:  # then which way a plate leans is nothing to its foot
        angle, sin_angle, one = 90.0, 1.0, w / off
    else:
        one = _unit(bolt - float(bolt @ u) * u)
    two = np.cross(u, one)
    p, q = float(w @ one), float(w @ two)
    t = _nearest(p, q, r, sin_angle**2)
    if t is None:
        raise NotApplicable(
            f"The plates pass {on} beside it: {abs(p):.1f} mm off its middle, and it is {od:.1f} mm wide. Turn the bolt, or move the joint or the mount.",
            code="passes", fields=("bolt_axis",),
        )  # fmt: skip
    out = p / (r + t * sin_angle**2) * one + q / (r + t) * two
    lean = 0.0 if angle == 90.0 else degrees(asin(max(-1.0, min(1.0, float(out @ bolt)))))
    if abs(lean) > MOST_LEAN:
        raise NotApplicable(
            f"The plates lean {abs(lean):.0f}° from square to {on}’s skin, and no plain fillet is laid beyond {MOST_LEAN:.0f}°. Turn the bolt, or move the joint or the mount.",
            code="passes", fields=("bolt_axis",),
        )  # fmt: skip
    y = _unit(out - float(out @ bolt) * bolt)
    foot = a + float((place - t * (out - float(out @ bolt) * bolt) - a) @ u) * u + r * out
    height = float((place - foot) @ y)
    v = np.cross(u, out)
    v = v if float(v @ bolt) >= 0 else -v
    x = np.cross(y, bolt)
    x = x if float(x @ v) >= 0 else -x
    return Standing(
        height=height, foot=foot, x=x, y=y, bolt=bolt, along=float((foot - a) @ u), length=length, round_deg=_round(out, u), tube_od=od,
        angle_deg=angle, lean_deg=0.0 if abs(lean) < 1e-9 else lean, run=u,
    )  # fmt: skip


def _nearest(p: float, q: float, r: float, square: float) -> float | None:
    """How far a place stands from the nearest point of a plane's section of a tube, over the cosine of its lean [mm]; None where the plane passes it.

    Args:
        p: of the place across the tube, the way that the plane's normal points.
        q: the other way across.
        r: radius of the tube.
        square: sine of the angle between plane and tube, squared.
    """
    if square < 1e-12:
        return None if abs(p) >= r else abs(q) / sqrt(1.0 - (p / r) ** 2) - r
    low, high = 0.0, (abs(q) + abs(p)) / square
    for _ in range(200):
        t = (low + high) / 2
        if (p / (r + t * square)) ** 2 + (q / (r + t)) ** 2 > 1.0:
            low = t
        else:
            high = t
        if high - low < 1e-13 * (1.0 + high):
            break
    return (low + high) / 2


def _round(at: Array, u: Array) -> float:
    """Where a place stands round a tube [°]: from straight up (of an upright one: from ahead), right-handed about its way."""
    up = np.array([0.0, 0.0, 1.0]) if abs(u[2]) < 0.9 else np.array([1.0, 0.0, 0.0])
    top = _unit(up - float(up @ u) * u)
    side = np.cross(u, top)
    return degrees(atan2(float(at @ side), float(at @ top)))


def on_flat(place: Array, bolt: Array, through: Array, normal: Array, on: str = "the face") -> Standing:
    """On a flat face.

    Args:
        place: of the joint (3).
        bolt: its direction (3), either way.
        through: a place of the face (3).
        normal: the way that it looks (3).
        on: the face in words.

    Raises:
        NotApplicable: the joint is behind the face, or its bolt points at it.
    """
    n, bolt = _unit(normal), _unit(bolt)
    before = float((place - through) @ n)
    if before <= 0:
        raise NotApplicable(f"The joint stands {-before:.1f} mm behind {on}. Move one of them.", code="inside", fields=("mount",))  # fmt: skip
    y = _in_plates(n, bolt, on)
    height = before / float(y @ n)
    lean = degrees(asin(float(bolt @ n)))
    if abs(lean) > MOST_LEAN:
        raise NotApplicable(
            f"The plates lean {abs(lean):.0f}° from square to {on}, and no plain fillet is laid beyond {MOST_LEAN:.0f}°. Turn the bolt, or give it another mount.",
            code="passes", fields=("bolt_axis",),
        )  # fmt: skip
    return Standing(
        height=height, foot=place - height * y, x=np.cross(y, bolt), y=y, bolt=bolt, along=None, length=None, round_deg=None,
        lean_deg=0.0 if abs(lean) < 1e-9 else lean,
    )  # fmt: skip


def on_box(
    place: Array, bolt: Array, a: Array, b: Array, up: Array, size: Sequence[float], on: str = "the box"
) -> Standing:
    """On the face of a box that the joint stands before: of those that it does, the squarest, then the nearest; where it is past all of them, on the corner.

    Args:
        place: of the joint (3).
        bolt: its direction (3), either way.
        a: one end of the box's middle line (3).
        b: the other.
        up: the way of its height (3).
        size: width and height.
        on: the box in words.

    Raises:
        NotApplicable: the joint is inside the box, or stands so to every face that no plate could.
    """
    u = _unit(b - a)
    top = _unit(up - float(up @ u) * u)
    side = np.cross(top, u)
    width, height = size
    found: list[tuple[bool, float, float, Standing]] = []
    why: NotApplicable | None = None
    for out, reach, cross, wide in (
        (top, height / 2, side, width), (-top, height / 2, side, width), (side, width / 2, top, height), (-side, width / 2, top, height),
    ):  # fmt: skip
        face = _facing(out)
        if float((place - a) @ out) <= reach:
            continue
        try:
            one = on_flat(place, bolt, a + reach * out, out, f"the {face} face of {on}")
        except NotApplicable as error:
            why = error
            continue
        past = abs(float((one.foot - a) @ cross)) - wide / 2
        stood = Standing(
            height=one.height, foot=one.foot, x=one.x, y=one.y, bolt=one.bolt, along=float((one.foot - a) @ u), length=float(np.linalg.norm(b - a)),
            round_deg=None, lean_deg=one.lean_deg, face=face, run=u, across=(cross, float(a @ cross), wide / 2),
        )  # fmt: skip
        found.append((past > 0, abs(one.lean_deg), one.height, stood))
    best = min(found, key=lambda one: one[:3]) if found else None
    if best is None or best[0]:
        corner = _on_corner(place, bolt, a, b, (side, top), (width, height))
        if corner is not None:
            return corner
    if best is not None:
        return best[3]
    raise why or NotApplicable(f"The joint stands inside {on}. Move one of them.", code="inside", fields=("mount",))


def lying_on_flat(place: Array, bolt: Array, through: Array, normal: Array, on: str = "the face") -> Standing:
    """A plate lying on a flat face under a joint, its foot below that, or behind it on a level face.

    Args:
        place: of the joint (3).
        bolt: its direction (3), either way.
        through: a place of the face (3).
        normal: the way that it looks (3).
        on: the face in words.

    Raises:
        NotApplicable: the joint is behind the face, or its bolt is not square to it.
    """
    n = _unit(normal)
    high = float((place - through) @ n)
    _require_lying(_unit(bolt), n, high, on)
    up = np.array([0.0, 0.0, 1.0]) if abs(n[2]) < UPRIGHT else np.array([1.0, 0.0, 0.0])
    y = _unit(up - float(up @ n) * n)
    return Standing(
        height=0.0, foot=place - high * n, x=np.cross(y, n), y=y, bolt=n, along=None, length=None, round_deg=None, lies=Lying(high=high, past=False, room=float("inf")),
    )  # fmt: skip


def lying_on_box(
    place: Array, bolt: Array, a: Array, b: Array, up: Array, size: Sequence[float], on: str = "the box"
) -> Standing:
    """A plate lying on the face of a box that its bolt is square to: past the face's edge across the box, or over the face along it.

    Args:
        place: of the joint (3).
        bolt: its direction (3), either way.
        a: one end of the box's middle line (3).
        b: the other.
        up: the way of its height (3).
        size: width and height.
        on: the box in words.

    Raises:
        NotApplicable: no face is square to the bolt with the joint before it.
    """
    u, bolt = _unit(b - a), _unit(bolt)
    top = _unit(up - float(up @ u) * u)
    side = np.cross(top, u)
    width, height = size
    faces = ((top, height / 2, side, width), (side, width / 2, top, height))
    out, reach, cross, wide = max(faces, key=lambda one: abs(float(bolt @ one[0])))
    out = out if float((place - a) @ out) > 0 else -out
    high = float((place - a) @ out) - reach
    face = _facing(out)
    _require_lying(bolt, out, high, f"the {face} face of {on}")
    off = float((place - a) @ cross)
    past = abs(off) > wide / 2
    along = float((place - a) @ u)
    length = float(np.linalg.norm(b - a))
    if past:
        y = cross if off > 0 else -cross
        foot, room = place - high * out - (abs(off) - wide / 2) * y, wide
    else:  # its foot on the longer side
        y = u if along > length / 2 else -u
        foot, room = place - high * out, along if along > length / 2 else length - along
    return Standing(
        height=abs(off) - wide / 2 if past else 0.0, foot=foot, x=np.cross(y, out), y=y, bolt=out, along=along, length=length, round_deg=None, face=face, run=u,
        across=(cross, float(a @ cross), wide / 2), lies=Lying(high=high, past=past, room=room, through=2 * reach),
    )  # fmt: skip


SQUARE_LYING = 5.0  # °, of a bolt from square to the face: beyond it the joint stands askew
UPRIGHT = 0.9


def _require_lying(bolt: Array, out: Array, high: float, on: str) -> None:
    off = degrees(asin(min(1.0, float(np.linalg.norm(np.cross(bolt, out))))))
    if off > SQUARE_LYING:
        raise NotApplicable(f"The bolt is {off:.0f}° from square to {on}: a plate that lies there does not hold it. Turn the bolt, or let plates stand there.", code="passes", fields=("bolt_axis",))  # fmt: skip
    if high <= 0:
        raise NotApplicable(f"The joint stands {-high:.1f} mm behind {on}. Move one of them.", code="inside", fields=("mount",))  # fmt: skip


def _on_corner(
    place: Array, bolt: Array, a: Array, b: Array, ways: tuple[Array, Array], size: tuple[float, float]
) -> Standing | None:
    """Straddling the corner of a box whose two walls the joint stands past; None where it is not, or its bolt is not along the box."""
    u, bolt = _unit(b - a), _unit(bolt)
    if abs(float(bolt @ u)) < sin(radians(SQUARE_DEG)):
        return None
    offs = [float((place - a) @ way) for way in ways]
    if any(abs(off) <= wide / 2 for off, wide in zip(offs, size, strict=True)):
        return None
    outs = [way if off > 0 else -way for way, off in zip(ways, offs, strict=True)]
    bolt = u if float(bolt @ u) > 0 else -u  # the plates stand square across the box
    along = float((place - a) @ u)
    foot = a + along * u + sum(wide / 2 * out for wide, out in zip(size, outs, strict=True))
    height = float(np.linalg.norm(place - foot))
    y = (place - foot) / height
    x = np.cross(y, bolt)
    middle = outs[0] + outs[1]
    turned = degrees(atan2(float(middle @ x), float(middle @ y)))
    if abs(turned) > MOST_TURNED:
        return None
    # the leg that goes right lies on the wall that looks most to the right, and reaches as far as that is wide
    far = {float(out @ x): size[1 - i] for i, out in enumerate(outs)}
    return Standing(
        height=height, foot=foot, x=x, y=y, bolt=bolt, along=along, length=float(np.linalg.norm(b - a)), round_deg=None, run=u,
        face=f"{_facing(outs[1])} {_facing(outs[0])} corner", turned_deg=0.0 if abs(turned) < 1e-9 else turned, legs=(far[min(far)], far[max(far)]),
    )  # fmt: skip


def _facing(out: Array) -> str:
    """The way that a face looks, in words."""
    ways = ((0, "front", "rear"), (1, "left", "right"), (2, "upper", "lower"))
    axis, ahead, back = max(ways, key=lambda one: abs(float(out[one[0]])))
    return ahead if out[axis] > 0 else back
