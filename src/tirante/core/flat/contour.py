"""A flat piece's contour: exact lines and arcs in the order they are walked, holes, bends and marks. Never polylines of arcs.

Coordinates in mm. The outer contour is walked with the metal on the left (counter-clockwise).
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from math import atan2, ceil, cos, degrees, hypot, pi, radians, sin
from typing import TYPE_CHECKING

from tirante.core.errors import InputError

if TYPE_CHECKING:
    from collections.abc import Sequence

    from shapely.geometry import Polygon
    from shapely.geometry.base import BaseGeometry

CLOSED_WITHIN = 1e-6  # mm between the end of an edge and the start of the next
FlatPoint = tuple[float, float]


@dataclass(frozen=True, slots=True)
class Straight:
    """A straight edge, from its first to its second point."""

    x1: float
    y1: float
    x2: float
    y2: float

    @property
    def start(self) -> FlatPoint:
        """Where it begins."""
        return self.x1, self.y1

    @property
    def end(self) -> FlatPoint:
        """Where it ends."""
        return self.x2, self.y2


@dataclass(frozen=True, slots=True)
class Curve:
    """A circular edge about a centre, counter-clockwise from start to end [deg]; walked the other way round where `back`."""

    cx: float
    cy: float
    r: float
    start_deg: float
    end_deg: float
    back: bool = False

    def _at(self, degrees_: float) -> FlatPoint:
        return self.cx + self.r * cos(radians(degrees_)), self.cy + self.r * sin(radians(degrees_))

    @property
    def start(self) -> FlatPoint:
        """Where it begins, as it is walked."""
        return self._at(self.end_deg if self.back else self.start_deg)

    @property
    def end(self) -> FlatPoint:
        """Where it ends, as it is walked."""
        return self._at(self.start_deg if self.back else self.end_deg)


Edge = Straight | Curve


@dataclass(frozen=True, slots=True)
class Hole:
    """A round hole."""

    x: float
    y: float
    diameter: float


@dataclass(frozen=True, slots=True)
class Bend:
    """A bend line: up (toward the viewer) by an angle from flat, at an inside radius."""

    line: Straight
    angle_deg: float
    radius: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Contour:
    """A flat piece."""

    edges: tuple[Edge, ...]
    holes: tuple[Hole, ...] = ()
    openings: tuple[tuple[Edge, ...], ...] = ()  # that are not round, each walked counter-clockwise
    bends: tuple[Bend, ...] = ()
    marks: tuple[Straight, ...] = ()

    @property
    def gap(self) -> float:
        """Furthest that the end of an edge stands from the start of the next [mm]; 0 of a closed contour."""
        after = (*self.edges[1:], self.edges[0])
        return max(hypot(a.end[0] - b.start[0], a.end[1] - b.start[1]) for a, b in zip(self.edges, after, strict=True))

    def under(self, by: float, count: int) -> Contour:
        """The same with its first holes cut smaller, to be reamed.

        Args:
            by: so much less across [mm].
            count: how many holes, the first ones.
        """
        if by <= 0:
            return self
        holes = tuple(replace(h, diameter=h.diameter - by) if i < count else h for i, h in enumerate(self.holes))
        return replace(self, holes=holes)

    def placed(self, x: float, y: float, angle_deg: float) -> Contour:
        """Turned about the origin, then moved, exactly.

        Args:
            x: so far [mm].
            y: so far [mm].
            angle_deg: counter-clockwise.
        """

        def at(px: float, py: float) -> FlatPoint:
            c, s = cos(radians(angle_deg)), sin(radians(angle_deg))
            return px * c - py * s + x, px * s + py * c + y

        def edge(one: Edge) -> Edge:
            if isinstance(one, Straight):
                return Straight(*at(*one.start), *at(*one.end))
            return Curve(*at(one.cx, one.cy), one.r, one.start_deg + angle_deg, one.end_deg + angle_deg, one.back)

        def line(one: Straight) -> Straight:
            return Straight(*at(*one.start), *at(*one.end))

        return Contour(
            edges=tuple(edge(one) for one in self.edges), holes=tuple(Hole(*at(one.x, one.y), one.diameter) for one in self.holes),
            openings=tuple(tuple(edge(one) for one in opening) for opening in self.openings),
            bends=tuple(replace(one, line=line(one.line)) for one in self.bends), marks=tuple(line(one) for one in self.marks),
        )  # fmt: skip

    @property
    def bounds(self) -> tuple[float, float, float, float]:
        """Least x and y, largest x and y of the outer contour [mm], arcs at their own extremes."""
        points = [point for edge in self.edges for point in _extremes(edge)]
        xs, ys = [p[0] for p in points], [p[1] for p in points]
        return min(xs), min(ys), max(xs), max(ys)

    @property
    def area(self) -> float:
        """Of the metal, holes taken off, exactly, by Green's theorem on lines and arcs [mm²]."""
        cut = sum(_swept(edge) for opening in self.openings for edge in opening)
        return sum(_swept(edge) for edge in self.edges) - cut - sum(pi * hole.diameter**2 / 4 for hole in self.holes)


def _extremes(edge: Edge) -> list[FlatPoint]:
    found = [edge.start, edge.end]
    if isinstance(edge, Curve):
        first = ceil(edge.start_deg / 90 - 1e-12)
        while first * 90 <= edge.end_deg + 1e-9:
            found.append((edge.cx + edge.r * cos(radians(first * 90)), edge.cy + edge.r * sin(radians(first * 90))))
            first += 1
    return found


def _swept(edge: Edge) -> float:
    """What an edge adds to the area as it is walked [mm²]."""
    if isinstance(edge, Straight):
        return (edge.x1 * edge.y2 - edge.x2 * edge.y1) / 2
    a, b = radians(edge.start_deg), radians(edge.end_deg)
    whole = edge.r * (edge.cx * (sin(b) - sin(a)) - edge.cy * (cos(b) - cos(a))) + edge.r**2 * (b - a)
    return (-whole if edge.back else whole) / 2


def require_closed(contour: Contour, field: str) -> None:
    """Refuse a contour whose edges do not meet.

    Args:
        contour: to be cut.
        field: that it comes from.

    Raises:
        InputError: naming the widest gap.
    """
    if contour.gap > CLOSED_WITHIN:
        raise InputError(
            f"The outline is open by {contour.gap:.3f} mm. Close it before it is cut.", code="open_contour", fields=(field,),
            value=contour.gap, limits=(None, CLOSED_WITHIN),
        )  # fmt: skip


def polygon(contour: Contour, within: float = 0.01) -> Polygon:
    """As a polygon for offsets and distances; never what is cut.

    Args:
        contour: closed.
        within: how far a chord may stand from its arc [mm].
    """
    from shapely.geometry import Point as Dot
    from shapely.geometry import Polygon

    holes = [Dot(hole.x, hole.y).buffer(hole.diameter / 2, quad_segs=64).exterior.coords for hole in contour.holes]
    return Polygon(points_along(contour.edges, within), [*holes, *(points_along(one, within) for one in contour.openings)])  # fmt: skip


def points_along(edges: Sequence[Edge], within: float = 0.01) -> list[FlatPoint]:
    """Corners of a polyline along edges, for shapes that are compared or shown; never what is cut.

    Args:
        edges: closed.
        within: how far a chord may stand from its arc [mm].
    """
    points: list[FlatPoint] = []
    for edge in edges:
        points.append(edge.start)
        if isinstance(edge, Curve):
            turn = abs(edge.end_deg - edge.start_deg)
            least = 2 * degrees(atan2((2 * within * edge.r) ** 0.5, edge.r)) if edge.r > 0 else turn
            steps = max(2, ceil(turn / max(least, 0.1)))
            angles = [edge.start_deg + turn * i / steps for i in range(1, steps)]
            points += [edge._at(angle) for angle in (reversed(angles) if edge.back else angles)]
    return points


def moved(edge: Edge, x: float, y: float) -> Edge:
    """An edge elsewhere.

    Args:
        edge: to be moved.
        x: so far [mm].
        y: so far [mm].
    """
    if isinstance(edge, Straight):
        return Straight(edge.x1 + x, edge.y1 + y, edge.x2 + x, edge.y2 + y)
    return replace(edge, cx=edge.cx + x, cy=edge.cy + y)


def straight_sides(corners: Sequence[FlatPoint]) -> tuple[Straight, ...]:
    """The edges of a polygon.

    Args:
        corners: counter-clockwise [mm].
    """
    return tuple(Straight(*a, *b) for a, b in zip(corners, (*corners[1:], corners[0]), strict=True))


def rounded(x: float, y: float, start_deg: float, radius: float) -> tuple[Curve, ...]:
    """The round of a corner that two edges along the axes make, walked counter-clockwise; none where it is sharp.

    Args:
        x: of the corner as if it were sharp [mm].
        y: likewise.
        start_deg: the way from the round's middle to where it begins: 0, 90, 180 or 270.
        radius: [mm]
    """
    if radius <= 0:
        return ()
    right, up = start_deg in (0.0, 270.0), start_deg in (0.0, 90.0)
    cx, cy = x - radius if right else x + radius, y - radius if up else y + radius
    return (Curve(cx, cy, radius, start_deg, start_deg + 90.0),)


def slot(middle: Edge, width: float) -> tuple[Edge, ...]:
    """The edge of a slot, counter-clockwise.

    Args:
        middle: its middle line, from the middle of one round end to that of the other.
        width: across it [mm].

    Raises:
        InputError: an arc that the slot is wider than.
    """
    r = width / 2
    if isinstance(middle, Straight):
        way = degrees(atan2(middle.y2 - middle.y1, middle.x2 - middle.x1))
        ends = Curve(middle.x2, middle.y2, r, way - 90.0, way + 90.0), Curve(middle.x1, middle.y1, r, way + 90.0, way + 270.0)  # fmt: skip
        return (Straight(*ends[1].end, *ends[0].start), ends[0], Straight(*ends[0].end, *ends[1].start), ends[1])
    if middle.r <= r:
        raise InputError(
            f"A slot {width:g} mm wide does not go round at {middle.r:g} mm from its pivot. Make it narrower, or set the pivot further off.",
            code="contradictory", fields=("holes",), value=middle.r, limits=(r, None),
        )  # fmt: skip
    a, b = middle.start_deg, middle.end_deg
    first, last = middle._at(a), middle._at(b)
    return (
        Curve(middle.cx, middle.cy, middle.r + r, a, b), Curve(*last, r, b, b + 180.0),
        Curve(middle.cx, middle.cy, middle.r - r, a, b, back=True), Curve(*first, r, a + 180.0, a + 360.0),
    )  # fmt: skip


def grown(contour: Contour, by: float) -> BaseGeometry:
    """The outline offset outward (or inward, negative), for spacing and edge distances.

    Args:
        contour: closed.
        by: how far [mm].
    """
    return polygon(Contour(edges=contour.edges)).buffer(by, quad_segs=64)
