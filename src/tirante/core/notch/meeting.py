"""Where the end of a round tube meets round surfaces and boxes: sleeves, cups, other tubes and the faces of a box, at any angle and offset.

Each line of the tube's wall, straight along the tube, is met with each surface by a quadratic, with a box by its two pairs of faces; the tube
begins where the last of its surfaces lets it out. Exact for round surfaces that run on or begin at a place of their axis, and for boxes that
run on. Not covered: sleeves that are shorter than the tube is wide, tubes that are bent there, corners of a box that are rounded.

Source:
    Ray and cylinder, derived. For one surface it is the closed form of docs/methods.md, *Notches*, derived too; both are held against each other.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from math import acos, asin, cos, degrees, hypot, pi, radians, sin
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from tirante.core.errors import InputError, NotApplicable, require_range

Array = NDArray[np.float64]
LEAST_ANGLE = 15.0  # [deg] between the axes; below it the notch is longer than anyone cuts, and the weld's heel closes
WALL_STEPS = 9  # radii through the wall at which a square cut is looked at; its worst may lie between the edges
STEPS = 0.01  # [mm] from which on an edge steps where one surface gives over to another; less is a corner
GRID = 720  # lines round the tube, when its furthest points and its corners are looked for; then ever finer


@dataclass(frozen=True, slots=True, kw_only=True)
class Round:
    """A round surface that a tube is fitted to."""

    name: str
    at: tuple[float, float, float]  # a point of its axis [mm]
    along: tuple[float, float, float]  # of its axis, any length
    radius: float
    begins: bool = False  # at that point, running along its axis from there on; else it runs both ways

    @property
    def told(self) -> str:
        """With its size, in words."""
        return f"{self.name}, ⌀{2 * self.radius:.1f} mm"


@dataclass(frozen=True, slots=True, kw_only=True)
class Block:
    """A box that a tube is fitted to, running on both ways."""

    name: str
    at: tuple[float, float, float]  # a point of its middle line [mm]
    along: tuple[float, float, float]  # of that line, any length
    up: tuple[float, float, float]  # the way that its height stands; what lies along it is taken off
    height: float
    width: float
    plate: bool = False  # it is only a plate's face, which ends there

    @property
    def told(self) -> str:
        """With its size, in words."""
        return self.name if self.plate else f"{self.name}, {self.height:g} × {self.width:g} mm"

    def faces(self) -> tuple[tuple[Array, float], tuple[Array, float]]:
        """The ways across it, square to its middle line and to each other (3), and half its size each way [mm]."""
        m, up = _unit(np.array(self.along, float)), np.array(self.up, float)
        top = _unit(up - (up @ m) * m)
        return (top, self.height / 2), (np.cross(m, top), self.width / 2)


Surface = Round | Block


def round_at(name: str, at: Array, along: Array, radius: float, *, begins: bool = False) -> Round:
    """A round surface by vectors.

    Args:
        name: of it.
        at: a point of its axis (3) [mm].
        along: of its axis (3), any length.
        radius: of it [mm].
        begins: whether it begins at that point.
    """
    a, m = at.tolist(), along.tolist()
    return Round(name=name, at=(a[0], a[1], a[2]), along=(m[0], m[1], m[2]), radius=radius, begins=begins)


@dataclass(frozen=True, slots=True, kw_only=True)
class Branch:
    """The end of a tube: its axis from the work point to the far end, and where round it is counted from."""

    foot: tuple[float, float, float]  # the work point, from which distances along it are measured [mm]
    along: tuple[float, float, float]  # to the far end, any length
    aside: tuple[float, float, float]  # the way to where phi is 0; what lies along the tube is taken off
    od: float
    wall: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Coming:
    """Lines beside an axis: s along a line from its foot, the square of the distance from the axis is out + 2 half s + a s²."""

    a: float
    half: Array  # (lines) [mm]
    out: Array  # (lines) [mm²]
    axial: Array  # (lines) of the foot, along the axis [mm]
    slope: float  # along the axis for a step along a line

    def root(self, radius: float | Array) -> Array:
        """What is half between the two places where lines are so far from the axis, times a; nan where a line passes by.

        Args:
            radius: that far [mm]; or several (radii, 1).
        """
        inside = self.half * self.half - self.a * (self.out - radius**2)
        with np.errstate(invalid="ignore"):
            # a line that just touches is taken to touch: equal tubes do at their sides
            low = -1e-9 * np.maximum(self.a * radius**2, 1e-12)
            return np.asarray(np.sqrt(np.where(inside < low, np.nan, np.maximum(inside, 0.0))))

    def away(self, s: Array) -> Array:
        """Distance from the axis of places along the lines [mm].

        Args:
            s: how far along them [mm]; (…, lines).
        """
        return np.asarray(np.sqrt(np.maximum(self.out + 2 * self.half * s + self.a * s * s, 0.0)))


@dataclass(frozen=True)
class Fitted:
    """A tube's end and what it meets."""

    branch: Branch
    rounds: tuple[Surface, ...]  # in the order of fitting; the first is what it stands on, all round

    @cached_property
    def axes(self) -> tuple[Array, Array, Array]:
        """Along the tube to its far end, to where phi is 0, and a quarter turn on; each of length 1 and square to the others."""
        b = _unit(np.array(self.branch.along, float))
        u = np.array(self.branch.aside, float)
        u = _unit(u - (u @ b) * b)
        return b, u, np.cross(b, u)

    def at(self, phi: Array, radius: float) -> Array:
        """How far from the foot each line of a radius of the wall begins [mm].

        Args:
            phi: round the tube, right-handed about the way to the far end [rad].
            radius: of the wall [mm].
        """
        found = np.full(np.shape(phi), -np.inf)
        for one in self.rounds:
            found = np.fmax(found, self._of(one, phi, radius))
        return found

    @property
    def one_round(self) -> Round | None:
        """The one round surface that it stands on; None where it stands on a box, or on several."""
        first = self.rounds[0]
        return first if isinstance(first, Round) and len(self.rounds) == 1 else None

    @property
    def one_face(self) -> bool:
        """Whether one flat face of a box takes its whole end: a plain cut."""
        first = self.rounds[0]
        if not isinstance(first, Block) or len(self.rounds) > 1:
            return False
        by_face = self._by_face(first, np.arange(GRID) * 2 * pi / GRID, self.branch.od / 2)
        return sum(bool((~np.isnan(one)).any()) for one in by_face) == 1

    def _by_face(self, one: Block, phi: Array, radius: float) -> tuple[Array, Array]:
        """Where lines leave a box by either pair of its faces; nan where they leave it by the other, or pass it by."""
        b, u, w = self.axes
        start = np.array(self.branch.foot, float) - np.array(one.at, float)
        lines = start[:, None] + radius * (np.outer(u, np.cos(phi)) + np.outer(w, np.sin(phi)))
        low, high = [], []
        for normal, half in one.faces():
            off, way = normal @ lines, float(normal @ b)
            if abs(way) < 1e-12:  # it runs along these faces: between them it is held by the others alone
                inside = np.abs(off) <= half
                low.append(np.where(inside, -np.inf, np.inf))
                high.append(np.where(inside, np.inf, -np.inf))
                continue
            ends = np.stack([(-half - off) / way, (half - off) / way])
            low.append(ends.min(axis=0))
            high.append(ends.max(axis=0))
        first, last = np.maximum(*low), np.minimum(*high)
        met = first <= last
        by_first = met & (high[0] <= high[1])
        return np.where(by_first, high[0], np.nan), np.where(met & ~by_first, high[1], np.nan)

    def _of(self, one: Surface, phi: Array, radius: float) -> Array:
        """Of one surface; nan where a line passes it by."""
        if isinstance(one, Block):
            return np.asarray(np.fmax(*self._by_face(one, phi, radius)))
        come = self.coming(one, phi, radius)
        half, root = come.half, come.root(one.radius)
        last = np.asarray((-half + root) / come.a)
        return _from_its_end(last, np.asarray((-half - root) / come.a), come.axial, come.slope) if one.begins else last

    def coming(self, one: Round, phi: Array, radius: float) -> Coming:
        """How lines of the wall come to the axis of a round.

        Args:
            one: the round.
            phi: of the lines [rad].
            radius: of the wall [mm].
        """
        b, u, w = self.axes
        m = _unit(np.array(one.along, float))
        start = np.array(self.branch.foot, float) - np.array(one.at, float)
        lines = start[:, None] + radius * (np.outer(u, np.cos(phi)) + np.outer(w, np.sin(phi)))
        axial = m @ lines
        lines = lines - np.outer(m, axial)
        slope = float(m @ b)
        way = b - slope * m
        return Coming(
            a=float(way @ way), half=way @ lines, out=(lines * lines).sum(axis=0), axial=axial, slope=slope,
        )  # fmt: skip

    def corners(self) -> list[float]:
        """Where round the outside one surface gives over to another [rad]: the edge has a corner there; before and after it where it steps."""
        phi = np.arange(GRID + 1) * 2 * pi / GRID
        found = []
        which = self._governing(phi)
        for i in np.flatnonzero(which[1:] != which[:-1]):
            low, high = float(phi[i]), float(phi[i + 1])
            for _ in range(40):
                middle = (low + high) / 2
                low, high = (middle, high) if self._governing(np.array([middle]))[0] == which[i] else (low, middle)
            before, after = self.at(np.array([low, high]), self.branch.od / 2)
            found += [low, high] if abs(after - before) > STEPS else [low]
        return found

    def _governing(self, phi: Array) -> NDArray[np.intp]:
        radius = self.branch.od / 2
        every = np.stack([s for one in self.rounds for s in (self._by_face(one, phi, radius) if isinstance(one, Block) else (self._of(one, phi, radius),))])  # fmt: skip
        return np.asarray(np.argmax(np.where(np.isnan(every), -np.inf, every), axis=0))

    def places(self, phi: Array, radius: float, s: Array) -> Array:
        """Places on lines of the wall, in space (3, lines) [mm].

        Args:
            phi: of the lines [rad].
            radius: of the wall [mm].
            s: how far along the tube from the foot [mm].
        """
        b, u, w = self.axes
        lines = np.outer(u, np.cos(phi)) + np.outer(w, np.sin(phi))
        return np.asarray(np.array(self.branch.foot, float)[:, None] + radius * lines + np.outer(b, s))

    def at_square(self, phi: Array) -> tuple[Array, Array]:
        """Of a cut square to the surface, through the whole wall: the furthest that leaves no gap anywhere, and the least that sits without
        being dressed.

        Args:
            phi: round the tube [rad].
        """
        outer = self.branch.od / 2
        every = np.stack([self.at(phi, outer - self.branch.wall * i / (WALL_STEPS - 1)) for i in range(WALL_STEPS)])
        return every.min(axis=0), every.max(axis=0)

    def furthest(self, which: Literal["long", "short"]) -> tuple[float, float]:
        """Where the outside reaches furthest toward what it meets, or least: distance from the foot [mm], and where round it [rad]."""
        sign = 1.0 if which == "long" else -1.0
        phi = np.arange(GRID) * 2 * pi / GRID
        step = 2 * pi / GRID
        for _ in range(5):
            best = phi[int(np.argmin(sign * self.at(phi, self.branch.od / 2)))]
            phi = np.linspace(best - step, best + step, 81)
            step /= 40
        return float(self.at(np.array([best]), self.branch.od / 2)[0]), float(best % (2 * pi))

    @cached_property
    def long(self) -> float:
        """Distance of its longest point from the foot [mm]: the tube is sawn to there."""
        return self.furthest("long")[0]

    @cached_property
    def short(self) -> float:
        """Distance of the bottom of the notch from the foot [mm]."""
        return self.furthest("short")[0]

    @property
    def depth(self) -> float:
        """Of the notch, along the tube [mm]."""
        return self.short - self.long

    def angle_to(self, one: Surface) -> float:
        """Acute angle between the axes; of a box between the tube and the face that its middle comes to [rad]."""
        if isinstance(one, Block):
            by_face = self._by_face(one, np.zeros(1), 0.0)
            normal = next((n for (n, _), s in zip(one.faces(), by_face, strict=True) if np.isfinite(s[0])), None)
            return 0.0 if normal is None else asin(min(1.0, abs(float(normal @ self.axes[0]))))
        c = abs(float(self.axes[0] @ _unit(np.array(one.along, float))))
        return acos(min(1.0, c))

    def offset_to(self, one: Surface) -> float:
        """How far the axes pass each other [mm]; nothing of a box."""
        if isinstance(one, Block):
            return 0.0
        b, m = self.axes[0], _unit(np.array(one.along, float))
        normal = np.cross(b, m)
        gap = np.array(self.branch.foot, float) - np.array(one.at, float)
        return abs(float(gap @ _unit(normal))) if float(normal @ normal) > 1e-18 else float(np.linalg.norm(gap))


def _from_its_end(last: Array, first: Array, axial: Array, along: float) -> Array:
    """Where lines leave a round that has an end, flat there: by its side, or by its end; nan where they pass it by.

    Args:
        last: where they would leave it without an end [mm].
        first: where they would come in.
        axial: how far along its axis from its end they begin [mm].
        along: by how much that grows for each mm.
    """
    if abs(along) < 1e-12:
        return np.where(axial >= 0, last, np.nan)
    end = -axial / along
    if along > 0:
        return np.where(last >= end, last, np.nan)
    return np.where(end >= first, np.minimum(last, end), np.nan)


def fit(branch: Branch, rounds: Sequence[Surface]) -> Fitted:
    """The end of a tube, fitted.

    Args:
        branch: the tube's end.
        rounds: what it meets, in the order of fitting: it stands on the first with its whole round; others take off it what is in their way.

    Raises:
        InputError: a size is no size, or the wall fills the tube.
        NotApplicable: the tube is wider than what it stands on, hangs over its side, or runs along it.
    """
    require_range("branch_od_mm", branch.od, 1e-6, None)
    if not 0 < branch.wall < branch.od / 2:
        raise InputError(
            "The wall must be more than nothing and less than half the outside diameter.", code="out_of_range", fields=("branch_wall_mm",),
            value=branch.wall, limits=(0.0, branch.od / 2),
        )  # fmt: skip
    found = Fitted(branch, tuple(rounds))
    first = rounds[0]
    angle, offset = degrees(found.angle_to(first)), found.offset_to(first)
    if angle < LEAST_ANGLE:
        raise NotApplicable(
            f"The tube runs along {first.name} at {angle:.1f}°. Below {LEAST_ANGLE:g}° no notch is cut: lay it at a larger angle.",
            code="along", fields=("angle_deg",), value=angle, limits=(LEAST_ANGLE, 90.0),
        )  # fmt: skip
    if isinstance(first, Block):
        if not np.isfinite(found.at(np.arange(GRID) * 2 * pi / GRID, branch.od / 2)).all():
            raise NotApplicable(
                f"The tube, ⌀{branch.od:.1f} mm, hangs over the side of {first.told}. Bring it to the middle of the face, or take a larger box.",
                code="hangs_over", fields=("offset_mm",),
            )  # fmt: skip
        return found
    if branch.od / 2 > first.radius * (1 + 1e-12):
        raise NotApplicable(
            f"The tube, ⌀{branch.od:.1f} mm, is wider than {first.name}, ⌀{2 * first.radius:.1f} mm: it cannot stand on it. "
            "Take a larger sleeve, or a tube no wider than it.",
            code="wider", fields=("branch_od_mm",), value=branch.od, limits=(0.0, 2 * first.radius),
        )  # fmt: skip
    if offset + branch.od / 2 > first.radius + 1e-9:
        raise NotApplicable(
            f"The tube hangs over the side of {first.name} by {offset + branch.od / 2 - first.radius:.1f} mm: its axis passes the other's at "
            f"{offset:.1f} mm. Bring it within {first.radius - branch.od / 2:.1f} mm.",
            code="hangs_over", fields=("offset_mm",), value=offset, limits=(0.0, first.radius - branch.od / 2),
        )  # fmt: skip
    return found


def on_one(od: float, wall: float, main_od: float, angle_deg: float, offset: float) -> Fitted:
    """A tube on one round surface, by angle and offset: phi 0 on the obtuse side, a quarter turn away from the other's axis.

    Args:
        od: of the tube [mm].
        wall: of the tube [mm].
        main_od: of what it stands on [mm].
        angle_deg: acute, between the axes.
        offset: at which they pass each other [mm].

    Raises:
        NotApplicable: as `fit`.
    """
    a = radians(angle_deg)
    # the other's axis along x; the branch rises in the plane square to their common normal, which is y
    along, aside = (cos(a), 0.0, sin(a)), (-sin(a), 0.0, cos(a))
    normal = np.cross(along, aside)  # a quarter turn on
    foot = offset * normal
    return fit(
        Branch(foot=(float(foot[0]), float(foot[1]), float(foot[2])), along=along, aside=aside, od=od, wall=wall),
        [Round(name="the main tube", at=(0.0, 0.0, 0.0), along=(1.0, 0.0, 0.0), radius=main_od / 2)],
    )


def weld_angle_range(found: Fitted) -> tuple[float, float]:
    """Least and largest angle between the faces that the weld joins, round the tube [rad]: a fillet's throat depends on it.

    Args:
        found: a fitted end; of its first surface.
    """
    _, u, w = found.axes
    phi = np.arange(360) * pi / 180
    r = found.branch.od / 2
    out = np.outer(u, np.cos(phi)) + np.outer(w, np.sin(phi))  # normals of the tube's outside
    first = found.one_round
    assert first
    faces = from_axis(first, found.places(phi, r, found.at(phi, r)))
    faces = faces / np.linalg.norm(faces, axis=0)  # normals of the surface
    between = np.arccos(np.clip((out * faces).sum(axis=0), -1.0, 1.0))
    return pi - float(between.max()), pi - float(between.min())


def from_axis(one: Round, places: Array) -> Array:
    """The way out from a round's axis to places, square to it (3, places) [mm].

    Args:
        one: the round.
        places: in space (3, places) [mm].
    """
    m = _unit(np.array(one.along, float))
    gap = places - np.array(one.at, float)[:, None]
    return np.asarray(gap - np.outer(m, m @ gap))


def _unit(of: Array) -> Array:
    size = float(hypot(*of))
    if size < 1e-12:
        raise InputError("A direction has no length.", code="no_direction", fields=("along",))
    return of / size


def arc_of(od: float, phi_deg: float, paper: float = 0.0) -> float:
    """Where on a sheet wrapped round a tube a line of it lies [mm].

    Args:
        od: of the tube [mm].
        phi_deg: of the line.
        paper: how thick the sheet is; its middle lies half of it outside the tube, so its length is pi (D + paper) [mm].
    """
    return radians(phi_deg) * (od + paper) / 2
