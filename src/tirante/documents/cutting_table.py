"""A simulated cutting table: it reads a plate's DXF back, refuses what a real one would, drives round the rest and says how long it took.

It stands in for a machine and knows no other program's files but by their lines, arcs, circles and polylines on the layer CUT. Feeds are
invented and say so; lengths, pierces and what is refused are worked out.
"""

from __future__ import annotations

import io
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from math import atan2, ceil, cos, degrees, hypot, isfinite, pi, radians, sin
from typing import Any

from tirante.core.errors import InputError

Point = tuple[float, float]
LAYER = "CUT"
MEETS = 0.01  # [mm] within which ends are one; wider, and the torch would run off the sheet between them
FINE = 0.01  # [mm] that a chord may stand off its arc, where shapes are compared
PLACES = 6  # of a millimetre, decimal
SHARP = 10.0  # [deg] of a turn inward, from which a corner without a radius is one that the kerf rounds
FEED = 9000.0  # [mm/min per mm of thickness, divided by it]: invented, of a small plasma table
RAPID = 12_000.0  # [mm/min] between cuts; invented
PIERCE = 0.4  # [s per mm of thickness]; invented


@dataclass(frozen=True, slots=True)
class Stretch:
    """A line or an arc as it is driven: by its ends, and for an arc its centre, radius and whether it turns left."""

    a: Point
    b: Point
    centre: Point | None = None
    radius: float = 0.0
    left: bool = True

    @property
    def turn(self) -> float:
        """Angle that an arc goes through [rad], more than nothing."""
        assert self.centre
        first, last = (atan2(p[1] - self.centre[1], p[0] - self.centre[0]) for p in (self.a, self.b))
        found = (last - first if self.left else first - last) % (2 * pi)
        return found if found > 1e-9 else 2 * pi

    @property
    def length(self) -> float:
        """[mm]"""
        return self.radius * self.turn if self.centre else hypot(self.b[0] - self.a[0], self.b[1] - self.a[1])

    def other_way(self) -> Stretch:
        """Driven from its end."""
        return Stretch(self.b, self.a, self.centre, self.radius, not self.left)

    def points(self) -> Iterator[Point]:
        """Places along it, its first left out, its last in."""
        if self.centre is None:
            yield self.b
            return
        steps = max(2, ceil(self.turn / max(2 * (2 * FINE / max(self.radius, FINE)) ** 0.5, 0.02)))
        begin = atan2(self.a[1] - self.centre[1], self.a[0] - self.centre[0])
        for i in range(1, steps):
            angle = begin + (1 if self.left else -1) * self.turn * i / steps
            yield self.centre[0] + self.radius * cos(angle), self.centre[1] + self.radius * sin(angle)
        yield self.b

    def ways(self) -> tuple[float, float]:
        """Along which way it begins and ends [rad]."""
        if self.centre is None:
            way = atan2(self.b[1] - self.a[1], self.b[0] - self.a[0])
            return way, way
        side = pi / 2 if self.left else -pi / 2
        first, last = (atan2(p[1] - self.centre[1], p[0] - self.centre[0]) + side for p in (self.a, self.b))
        return first, last


@dataclass(frozen=True, slots=True, kw_only=True)
class Driven:
    """What the table did."""

    parts: int  # closed outlines that nothing surrounds
    pierces: int
    cut_mm: float
    rapid_mm: float
    seconds: float
    area_mm2: float  # of metal, as the lines have it
    width_mm: float
    height_mm: float


class Refused(InputError):  # noqa: N818 - as the errors of the core are named
    """A file that the table does not cut, with all that is wrong in it."""

    def __init__(self, faults: Sequence[str]) -> None:
        self.faults = tuple(faults)
        more = f" And {len(faults) - 1} more." if len(faults) > 1 else ""
        super().__init__(f"The cutting table refuses it: {faults[0]}{more}", code="table_refuses", fields=("file",))


def drive(text: str | bytes, thickness: float, kerf: float = 1.2) -> Driven:
    """Read a DXF and drive round it.

    Args:
        text: the file.
        thickness: of the sheet [mm].
        kerf: width of the cut [mm].

    Raises:
        Refused: what a real table would refuse, each fault with its place.
    """
    from shapely.geometry import Polygon

    loops, faults = loops_of(_read(text))
    # what differs by less than that is one place: where a loop closes on its start it may be off by a rounding
    shapes = [Polygon([(round(x, PLACES), round(y, PLACES)) for x, y in (loop[0].a, *(p for one in loop for p in one.points()))]) for loop in loops]  # fmt: skip
    for shape in shapes:
        if not shape.is_valid:
            from shapely.validation import explain_validity

            faults.append(f"an outline crosses itself: {explain_validity(shape)}.")
    if faults:
        raise Refused(faults)
    inside = [sum(other.contains(shape) for other in shapes if other is not shape) for shape in shapes]
    for i, one in enumerate(shapes):
        for other in shapes[i + 1 :]:
            if one.exterior.intersects(other.exterior):
                x, y = one.exterior.intersection(other.exterior).representative_point().coords[0]
                faults.append(f"two outlines cross or touch at {x:.2f}, {y:.2f}.")
    for loop, shape, depth in zip(loops, shapes, inside, strict=True):
        faults += _shape_faults(loop, shape, depth % 2 == 1, thickness, kerf)
    if faults:
        raise Refused(faults)
    if not loops:
        raise Refused([f"there is nothing on its layer {LAYER}."])
    order = sorted(range(len(loops)), key=lambda i: (-inside[i], loops[i][0].a))  # what is inside first
    at, rapid, cut = (0.0, 0.0), 0.0, 0.0
    for i in order:
        begin = loops[i][0].a
        rapid += hypot(begin[0] - at[0], begin[1] - at[1])
        cut += sum(one.length for one in loops[i])
        at = begin
    area = sum(shape.area * (1 if depth % 2 == 0 else -1) for shape, depth in zip(shapes, inside, strict=True))
    low = [min(shape.bounds[k] for shape in shapes) for k in (0, 1)]
    high = [max(shape.bounds[k] for shape in shapes) for k in (2, 3)]
    seconds = 60 * (cut * thickness / FEED + rapid / RAPID) + len(loops) * PIERCE * thickness
    return Driven(
        parts=sum(depth % 2 == 0 for depth in inside), pierces=len(loops), cut_mm=cut, rapid_mm=rapid, seconds=seconds, area_mm2=area,
        width_mm=high[0] - low[0], height_mm=high[1] - low[1],
    )  # fmt: skip


def _read(text: str | bytes) -> list[Stretch]:
    try:
        found = _entities(text)
    except Refused:
        raise
    except Exception:  # the library meets damage with whatever it meets first
        raise Refused(["it is no DXF that can be read."]) from None
    if not all(isfinite(v) for one in found for v in (*one.a, *one.b, *(one.centre or ()), one.radius)):
        raise Refused(["a figure in it is none."])
    return found


def _entities(text: str | bytes) -> list[Stretch]:
    from ezdxf import recover, units

    data = text.encode() if isinstance(text, str) else text
    document, auditor = recover.read(io.BytesIO(data))
    if not is_whole(data):
        raise Refused(["it is cut off before its end. Save it or send it again."])
    if auditor.has_errors:
        raise Refused(["it is damaged: " + auditor.errors[0].message + "."])
    if document.units != units.MM:
        raise Refused(["it does not say that its lengths are millimetres. Save it with its units stated."])
    found: list[Stretch] = []
    faults = []
    for entity in document.modelspace():
        if entity.dxf.layer != LAYER:
            continue
        kind = entity.dxftype()
        if kind in ("LINE", "ARC", "CIRCLE", "LWPOLYLINE"):
            found += stretches_of(entity, kind)
        else:
            faults.append(f"a {kind} is on layer {LAYER}. Only lines, arcs, circles and polylines of these are cut.")
    if faults:
        raise Refused(faults)
    return found


def is_whole(data: bytes) -> bool:
    """Whether a DXF ends as one does: what was cut off on its way may lack a hole, and would be read without it.

    Args:
        data: of the file, as text or binary.
    """
    return data.rstrip(b"\x00\r\n\t ").endswith(b"EOF")


def stretches_of(entity: Any, kind: str) -> Iterator[Stretch]:
    """An entity of a file as lines and arcs.

    Args:
        entity: of the library that reads the file.
        kind: LINE, ARC, CIRCLE or LWPOLYLINE.
    """
    if kind == "LINE":
        yield Stretch((entity.dxf.start.x, entity.dxf.start.y), (entity.dxf.end.x, entity.dxf.end.y))
    elif kind == "LWPOLYLINE":
        for piece in entity.virtual_entities():
            yield from stretches_of(piece, piece.dxftype())
    else:
        centre, r = (entity.dxf.center.x, entity.dxf.center.y), entity.dxf.radius
        whole = kind == "CIRCLE"
        first, last = (0.0, 360.0) if whole else (entity.dxf.start_angle, entity.dxf.end_angle)
        a, b = ((centre[0] + r * cos(radians(t)), centre[1] + r * sin(radians(t))) for t in (first, last))
        if entity.dxf.hasattr("extrusion") and entity.dxf.extrusion.z < 0:  # seen from below
            a, b, centre = (-a[0], a[1]), (-b[0], b[1]), (-centre[0], centre[1])
            yield Stretch(a, a if whole else b, centre, r, left=False)
        else:
            yield Stretch(a, a if whole else b, centre, r)


def loops_of(every: list[Stretch]) -> tuple[list[list[Stretch]], list[str]]:
    """Closed outlines, and what is wrong with the rest.

    Args:
        every: lines and arcs, in any order.
    """
    faults, seen = [], {}
    for one in every:
        if one.length < MEETS:
            faults.append(f"a line of no length at {one.a[0]:.2f}, {one.a[1]:.2f}.")
            continue
        middle = _halfway(one)
        key = (tuple(sorted((_near(one.a), _near(one.b)))), _near(middle))
        if key in seen:
            faults.append(f"a line is there twice at {middle[0]:.2f}, {middle[1]:.2f}: it would be cut twice.")
        seen[key] = one
    left = list(seen.values())
    loops: list[list[Stretch]] = []
    while left:
        loop = [left.pop(0)]
        while _apart(loop[-1].b, loop[0].a) > MEETS:
            following = min(
                ((min(_apart(loop[-1].b, one.a), _apart(loop[-1].b, one.b)), i) for i, one in enumerate(left)), default=(float("inf"), -1)
            )  # fmt: skip
            if following[0] > MEETS:
                x, y = loop[-1].b
                gap = min(following[0], _apart(loop[-1].b, loop[0].a))
                faults.append(f"an outline is open at {x:.2f}, {y:.2f}, by {gap:.2f} mm.")
                break
            one = left.pop(following[1])
            loop.append(one if _apart(loop[-1].b, one.a) <= MEETS else one.other_way())
        else:
            loops.append(loop)
    return loops, faults


def _shape_faults(loop: list[Stretch], shape: Any, hole: bool, thickness: float, kerf: float) -> list[str]:
    from shapely import maximum_inscribed_circle

    faults = []
    if hole:
        # the widest round that lies in it: of a slot its width
        across = 2 * loop[0].radius if len(loop) == 1 else 2 * maximum_inscribed_circle(shape, FINE).length
        x, y = shape.centroid.coords[0]
        if across < thickness - 1e-9:
            faults.append(
                f"the hole at {x:.2f}, {y:.2f} is {across:.2f} mm across, less than the sheet’s {thickness:g} mm: drill it."
            )
        if shape.buffer(-kerf / 2).is_empty:
            faults.append(f"the cut-out at {x:.2f}, {y:.2f} is narrower than the kerf.")
    elif shape.buffer(-kerf / 2).geom_type != "Polygon":
        faults.append("the plate has a neck narrower than the kerf: it would be cut through.")
    # metal on the left: a turn to the right is an inside corner of the metal
    metal_left = shape.exterior.is_ccw != hole
    for one, following in zip(loop, [*loop[1:], loop[0]], strict=True):
        corner = degrees((following.ways()[0] - one.ways()[1] + pi) % (2 * pi) - pi)
        inward = -corner if metal_left else corner
        if len(loop) > 1 and inward > SHARP:
            x, y = one.b
            faults.append(
                f"an inside corner without a radius at {x:.2f}, {y:.2f}: the kerf leaves {kerf / 2:.2f} mm there. Give it that or more."
            )
        if one.centre and len(loop) > 1 and one.left != metal_left and one.radius < kerf / 2:
            faults.append(
                f"an inside radius of {one.radius:.2f} mm at {one.a[0]:.2f}, {one.a[1]:.2f} is less than half the kerf."
            )
    return faults


def _halfway(one: Stretch) -> Point:
    if one.centre is None:
        return (one.a[0] + one.b[0]) / 2, (one.a[1] + one.b[1]) / 2
    angle = atan2(one.a[1] - one.centre[1], one.a[0] - one.centre[0]) + (1 if one.left else -1) * one.turn / 2
    return one.centre[0] + one.radius * cos(angle), one.centre[1] + one.radius * sin(angle)


def _near(p: Point) -> tuple[int, int]:
    return round(p[0] / MEETS), round(p[1] / MEETS)


def _apart(a: Point, b: Point) -> float:
    return hypot(a[0] - b[0], a[1] - b[1])
