"""An axle saddle's plates from where its box and its tube stand: how far down its sides reach, how its ends are cut."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import asin, atan2, degrees, pi, radians, sin, sqrt

import numpy as np
from numpy.typing import NDArray

from tirante.core.brackets.saddle_box import SaddleBox
from tirante.core.document.mounts import BoxMember, Mount, RoundMember
from tirante.core.errors import InputError
from tirante.core.flat.contour import Contour, Curve, Straight, straight_sides
from tirante.core.parts.part import Misfit
from tirante.core.quantities import or_less

Array = NDArray[np.float64]
ALONG_DEG = 0.5  # °, that a box may run from along its tube
MOST_LEAN = 30.0  # °, between a side and square to the tube's skin: beyond it no plain fillet is laid; EN 1993-1-8, 4.3.2, from memory
LEAST_UNDER = 60.0  # °, between a side's lower edge and the tube's skin, for a fillet under it; likewise
TIP = 3.0  # mm, of an end plate at its thinnest; common practice, no source
BESIDE = 1.0  # mm that a side may stand off the tube; common practice, no source
TRUE = 0.5  # mm


@dataclass(frozen=True, slots=True, kw_only=True)
class Side:
    """A side of it [mm]."""

    name: str
    inner: float  # of its face toward the box's middle, from the tube's, across
    outer: float
    foot: float  # of its foot over the tube's middle
    opens: float  # between the faces that its fillet lies in [rad]
    hangs: bool  # beside the tube, its fillet under its lower edge; else it stands on it, its fillet outside

    @property
    def middle(self) -> float:
        """Of its thickness, across."""
        return (self.inner + self.outer) / 2


@dataclass(frozen=True, slots=True, kw_only=True)
class SaddleShape:
    """It on its tube; along, across and up from the tube's middle line under the box's middle [mm]."""

    origin: Array  # that place in the car (3)
    axes: Array  # (3, 3) rows: along, across, up
    length: float
    top: float  # of the cap's outer face
    plate: float
    od: float
    aside: float  # of the box's middle across, from over the tube's
    wide: float  # of the box
    sides: tuple[Side, Side]
    from_end: float  # of its nearer end from the tube's first end, along

    @property
    def box(self) -> SaddleBox:
        """Its sides as what they bear is worked out: the taller of both."""
        low = min(one.foot for one in self.sides)
        one, two = self.sides
        return SaddleBox(length=self.length, apart=abs(one.middle - two.middle), tall=self.top - self.plate - low, plate=self.plate)  # fmt: skip

    @property
    def foot(self) -> float:
        """Of its lower foot over the tube's middle."""
        return min(one.foot for one in self.sides)

    def seen(self, place: Array) -> tuple[float, float, float]:
        """A place in the car from the middle between its feet: along, across, up.

        Args:
            place: in the car (3).
        """
        along, across, up = (float(v) for v in self.axes @ (place - self.origin))
        middle = (self.sides[0].middle + self.sides[1].middle) / 2
        return along, across - middle, up - self.foot


def tube_under(box: Mount, mounts: Sequence[Mount]) -> Mount | None:
    """The round member that a box runs along, near enough to stand on it; None where there is none.

    Args:
        box: the mount.
        mounts: all of the job.
    """
    found = []
    for one in mounts:
        if isinstance(one.shape, RoundMember) and (one.end_id, one.body) == (box.end_id, box.body):
            try:
                off = float(np.linalg.norm(_off(box, one)[1]))
            except InputError:
                continue
            if (
                isinstance(box.shape, BoxMember) and off <= one.shape.od_mm / 2 + box.shape.height_mm
            ):  # further off it stands on none
                found.append((off, one))
    return min(found, key=lambda pair: pair[0])[1] if found else None


def _off(box: Mount, tube: Mount) -> tuple[Array, Array]:
    """The way along, and from the tube's middle line to the box's middle, square to that (3)."""
    b, t = box.shape, tube.shape
    assert isinstance(b, BoxMember)
    assert isinstance(t, RoundMember)
    a0, a1, t0, t1 = (np.array(p, float) for p in (b.a, b.b, t.a, t.b))
    u, v = (a1 - a0) / np.linalg.norm(a1 - a0), (t1 - t0) / np.linalg.norm(t1 - t0)
    if float(np.linalg.norm(np.cross(u, v))) > sin(radians(ALONG_DEG)):
        raise InputError(
            f"{box.name} does not run along {tube.name}. Turn it, or give it another tube.",
            code="contradictory",
            fields=("tube",),
        )
    w = (a0 + a1) / 2 - t0
    return v, w - float(w @ v) * v


def saddle_shape(box: Mount, tube: Mount) -> SaddleShape | Misfit:
    """The plates of a box on a tube; or why none stand there.

    Args:
        box: the mount whose plates they are.
        tube: the mount that they stand on.
    """
    shape, under = box.shape, tube.shape
    if not isinstance(shape, BoxMember):
        return Misfit(field="box", message=f"{box.name} is no box: give it a box of the car.")
    if not isinstance(under, RoundMember):
        return Misfit(field="tube", message=f"{tube.name} is not round: its sides are cut for a tube.")
    if not shape.wall_mm:
        return Misfit(field="box", message=f"How thick {box.name}’s wall is is not entered: its plates are as thick.")
    if (box.end_id, box.body) != (tube.end_id, tube.body):
        return Misfit(field="tube", message=f"{tube.name} does not move with {box.name}.")
    try:
        u, off = _off(box, tube)
    except InputError as error:
        return Misfit(field="tube", message=error.message)
    top = np.array(shape.up, float)
    top = (top - float(top @ u) * u) / np.linalg.norm(top - float(top @ u) * u)
    if float(top @ off) < 0:
        top = -top
    across, r, t = np.cross(top, u), under.od_mm / 2, shape.wall_mm
    aside, high = float(off @ across), float(off @ top)
    half, length = shape.width_mm / 2, float(np.linalg.norm(np.array(shape.b) - np.array(shape.a)))
    sides = []
    for name, way in (("right side", -1.0), ("left side", 1.0)):
        inner, outer = aside + way * (half - t), aside + way * half
        near, far = sorted((abs(inner), abs(outer)))
        near = 0.0 if inner * outer < 0 else near
        lean, under_deg = (degrees(asin(min(1.0, abs(one) / r))) for one in ((inner + outer) / 2, near))
        hangs = under_deg >= LEAST_UNDER - 1e-9 and near <= r + BESIDE and abs(inner) < abs(outer)
        if not hangs and (far >= r or lean > MOST_LEAN):
            return Misfit(field="box", message=_no_fillet(box.name, tube.name, (r, t, aside)))
        opens = radians(under_deg) if hangs else pi / 2 + radians(lean)
        sides.append(
            Side(
                name=name, inner=inner, outer=outer, foot=sqrt(max(0.0, r * r - near * near)), opens=opens, hangs=hangs
            )
        )
    cap = high + shape.height_mm / 2
    if cap - t <= min(side.foot for side in sides):
        return Misfit(field="box", message=f"The cap of {box.name} lies on {tube.name}: raise the box.")
    start, stop = np.array(under.a, float), np.array(under.b, float)
    middle_at = float(((np.array(shape.a) + np.array(shape.b)) / 2 - start) @ u)
    over = max(length / 2 - middle_at, middle_at + length / 2 - float(np.linalg.norm(stop - start)))
    if over > TRUE:
        return Misfit(field="box", message=f"{box.name} reaches {over:.1f} mm past the end of {tube.name}. Make it shorter.")  # fmt: skip
    origin = start + middle_at * u
    return SaddleShape(
        origin=origin, axes=np.stack([u, across, top]), length=length, top=cap, plate=t, od=under.od_mm, aside=aside, wide=shape.width_mm, sides=(sides[0], sides[1]),
        from_end=middle_at - length / 2,
    )  # fmt: skip


def _no_fillet(box: str, tube: str, of: tuple[float, float, float]) -> str:
    """Why a side that neither stands on its tube nor hangs beside it is not welded, and how wide a box's sides are."""
    r, t, aside = of
    stands = 2 * (r * sin(radians(MOST_LEAN)) - abs(aside)) + t
    low, high = (
        2 * (one + abs(aside) * way + t) for one, way in ((r * sin(radians(LEAST_UNDER)), 1.0), (r + BESIDE, -1.0))
    )
    hang = f", or {low:.1f} to {high:.1f} mm, so that they hang beside it" if low <= high else ""
    return f"No plain fillet goes along a side of {box} on {tube}. Make it {or_less(max(stands, 0.0))} mm wide or less, so that its sides stand on the tube{hang}; or set it over the tube’s middle."


def rectangle(long: float, wide: float) -> Contour:
    """A plate square at its corners, its lower left at 0.

    Args:
        long: [mm]
        wide: [mm]
    """
    corners = [(0.0, 0.0), (long, 0.0), (long, wide), (0.0, wide)]
    return Contour(edges=straight_sides(corners), holes=())


def end_plate(shape: SaddleShape) -> Contour:
    """What closes an end between sides, cap and tube: x across and y up from the tube's middle.

    Args:
        shape: of the saddle.
    """
    r, top = shape.od / 2, shape.top - shape.plate
    left, right = sorted(one.inner for one in shape.sides)
    # a tip that runs out between side and tube is none: it ends blunt
    tips = [
        way * (min(abs(x), r) - TIP) if side.hangs else x
        for way, x, side in ((-1.0, left, shape.sides[0]), (1.0, right, shape.sides[1]))
    ]
    low_left, low_right = (sqrt(r * r - x * x) for x in tips)
    first, last = degrees(atan2(low_right, tips[1])), degrees(atan2(low_left, tips[0]))
    blunt = [Straight(tips[1], low_right, right, low_right)] if shape.sides[1].hangs else []
    more = [Straight(left, low_left, tips[0], low_left)] if shape.sides[0].hangs else []
    return Contour(
        edges=(
            *blunt, Straight(right, low_right, right, top), Straight(right, top, left, top), Straight(left, top, left, low_left), *more,
            Curve(0.0, 0.0, r, first, last, back=True),
        ),
        holes=(),
    )  # fmt: skip
