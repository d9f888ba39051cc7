"""Tabs of an outline that was drawn elsewhere: brought to its foot and its hole, measured for the checks, and told where it is thin."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from math import atan2, cos, degrees, hypot, sin
from typing import Any

import numpy as np
from pydantic import ValidationError

from tirante.core.document.fields import Length
from tirante.core.document.parts.bracket import DrawnArc, DrawnHole, DrawnLine, DrawnOutline, FlatBase, TabPair
from tirante.core.errors import InputError
from tirante.core.flat.contour import Contour, Curve, Edge, Hole, Straight, polygon
from tirante.core.parts.bracket.families.tab_outline import TabOutline
from tirante.core.parts.part import Misfit

LEVEL = 0.01  # mm that an outline may reach below its foot
STEP = 0.25  # mm, between the places where its width is measured
AHEAD = 45.0  # °, from straight off the foot, within which metal counts as beyond the hole
LARGEST, SPACE = 2000.0, 500.0  # mm


def contour_of(drawn: DrawnOutline) -> Contour:
    """Its contour, as it is saved.

    Args:
        drawn: the outline.
    """
    openings = tuple(_edges(one) for one in drawn.openings)
    return Contour(edges=_edges(drawn.edges), holes=tuple(Hole(*one.at, one.diameter_mm) for one in drawn.holes), openings=openings)  # fmt: skip


def _edges(drawn: Sequence[DrawnLine | DrawnArc]) -> tuple[Edge, ...]:
    return tuple(
        Straight(*one.a, *one.b) if isinstance(one, DrawnLine) else Curve(*one.centre, one.radius_mm, one.start_deg, one.end_deg, one.back)
        for one in drawn
    )  # fmt: skip


def drawn_outline(drawn: DrawnOutline, thickness: float) -> TabOutline:
    """As a tab's outline, with what is thin about it.

    Args:
        drawn: the outline.
        thickness: of the plate [mm].
    """
    contour = contour_of(drawn)
    from shapely.geometry import Point

    warnings = []
    shape = _metal(contour)
    cut_outs = [_metal(Contour(edges=one)) for one in contour.openings]
    for i, one in enumerate(contour.holes):
        beside = float(shape.exterior.distance(Point(one.x, one.y))) - one.diameter / 2
        others = [
            hypot(one.x - o.x, one.y - o.y) - (one.diameter + o.diameter) / 2 for o in contour.holes if o is not one
        ]
        others += [float(cut.distance(Point(one.x, one.y))) - one.diameter / 2 for cut in cut_outs]
        web = min([beside, *others])
        if web < thickness:
            warnings.append(
                f"only {web:.1f} mm are left beside hole {i + 1}, less than the plate is thick, {thickness:g} mm"
            )
        if one.diameter < thickness:
            warnings.append(f"hole {i + 1} is {one.diameter:g} mm, less than the plate is thick: drill it")
    for i, cut in enumerate(cut_outs):
        web = min([float(shape.exterior.distance(cut)), *(float(cut.distance(o)) for o in cut_outs if o is not cut)])
        if web < thickness:
            warnings.append(f"only {web:.1f} mm are left beside cut-out {i + 1}, less than the plate is thick, {thickness:g} mm")  # fmt: skip
    return TabOutline(contour=contour, low=0.0, warnings=tuple(warnings))


def _metal(contour: Contour) -> Any:
    """Within its edges, its holes not taken off."""
    return polygon(Contour(edges=contour.edges))


def fits_itself(tab: TabPair) -> list[Misfit]:
    """What of a pair does not go with its drawn outline.

    Args:
        tab: as it is saved.
    """
    assert tab.drawn
    faults = []
    if not isinstance(tab.base, FlatBase):
        faults.append(Misfit(field="base/kind", message="An outline that was drawn stands on a flat. For a round tube its foot has to be cut to it: take the usual shape again."))  # fmt: skip
    if tab.holes is not None:
        faults.append(Misfit(field="holes", message="Its holes are those of its drawn outline. Take the row, arc or grid out, or the outline."))  # fmt: skip
    wanted = sizes_of(tab.drawn)
    for field, length in wanted.items():
        if abs(getattr(tab, field).mm - length.mm) > LEVEL:
            faults.append(Misfit(field=field, message=f"Its outline is drawn: this is {length.mm:.2f} mm there. Read the outline again, or take the usual shape."))  # fmt: skip
    return faults


def sizes_of(drawn: DrawnOutline) -> dict[str, Length]:
    """What the checks go by, measured on an outline: each no more than the metal that is there.

    Args:
        drawn: the outline.
    """
    contour, hole = contour_of(drawn), drawn.holes[0]
    whole = polygon(replace(contour, holes=contour.holes[1:]))
    x, y = hole.at
    # metal ends at its edge, and at whatever else is cut out of it
    rings = [np.array(one.segmentize(STEP).coords) for one in (whole.exterior, *whole.interiors)]
    ring = np.concatenate(rings) - np.array([x, y])
    turn = np.degrees(np.arctan2(ring[:, 0], ring[:, 1]))  # from straight off the foot
    off = np.linalg.norm(ring, axis=1)
    least = float(off[np.abs(turn) <= 90.0].min())
    beyond = float(off[np.abs(turn) <= AHEAD].min())
    low, high = drawn.foot_mm
    return {
        "hole": Length(mm=round(hole.diameter_mm, 3)), "head_radius": Length(mm=round(least, 2)), "edge": Length(mm=round(max(beyond, least), 2)),
        "base_width": Length(mm=round(2 * min(-low, high), 2)), "height": Length(mm=round(y, 3)),
    }  # fmt: skip


def outline_from(
    loops: Sequence[Sequence[Edge]], name: str, bolt: float | None, hole: int | None = None
) -> DrawnOutline:
    """A plate's outline from closed loops: the outermost is its contour, round ones inside it are its holes, others its cut-outs.

    Args:
        loops: each in the order that it is walked.
        name: of the file.
        bolt: that goes through the joint's hole [mm], to find it by; None: not known.
        hole: which is the joint's, counted from 0 in the order of the loops; None: the one that the bolt fits best.

    Raises:
        InputError: it is not one plate with a round hole and a straight foot.
    """
    shapes = [_metal(Contour(edges=tuple(loop))) for loop in loops]
    outer = max(range(len(loops)), key=lambda i: shapes[i].area)
    holes: list[Hole] = []
    openings: list[list[Edge]] = []
    for i, loop in enumerate(loops):
        if i == outer:
            continue
        if not shapes[outer].contains(shapes[i]):
            raise InputError(
                "There is more than one plate in the file. Give each a file of its own.",
                code="contradictory",
                fields=("text",),
            )
        one = loop[0]
        if len(loop) != 1 or not isinstance(one, Curve):
            openings.append(_left_about(loop, shapes[i]))
            continue
        holes.append(Hole(one.cx, one.cy, 2 * one.r))
    if not holes:
        raise InputError("There is no hole in it for the joint. Draw one.", code="missing", fields=("text",))
    edges = _left_about(loops[outer], shapes[outer])
    foot = _foot(edges)
    return _brought((edges, *openings), holes, foot, name, _joint_hole(holes, bolt, hole))


def _left_about(loop: Sequence[Edge], shape: Any) -> list[Edge]:
    """A loop counter-clockwise."""
    return list(loop) if shape.exterior.is_ccw else [_other_way(edge) for edge in reversed(loop)]


def loops_of_outline(drawn: DrawnOutline) -> list[list[Edge]]:
    """An outline as the loops that it was read from: its contour, then its holes.

    Args:
        drawn: the outline.
    """
    contour = contour_of(drawn)
    holes: list[list[Edge]] = [[Curve(h.x, h.y, h.diameter / 2, 0.0, 360.0)] for h in contour.holes]
    return [list(contour.edges), *holes, *(list(one) for one in contour.openings)]


def _other_way(edge: Edge) -> Edge:
    if isinstance(edge, Straight):
        return Straight(edge.x2, edge.y2, edge.x1, edge.y1)
    return Curve(edge.cx, edge.cy, edge.r, edge.start_deg, edge.end_deg, not edge.back)


def _foot(edges: Sequence[Edge]) -> Straight:
    """The straight edge that it stands on: the lowest that is level, else the longest of all."""
    straight = [edge for edge in edges if isinstance(edge, Straight)]
    if not straight:
        raise InputError(
            "It has no straight edge to stand on. Draw its foot straight.", code="missing", fields=("text",)
        )

    def length(edge: Straight) -> float:
        return hypot(edge.x2 - edge.x1, edge.y2 - edge.y1)

    low = min(min(edge.y1, edge.y2) for edge in straight)
    level = [
        edge for edge in straight if abs(edge.y1 - low) < LEVEL and abs(edge.y2 - low) < LEVEL and edge.x2 > edge.x1
    ]
    return max(level or straight, key=length)


def _joint_hole(holes: list[Hole], bolt: float | None, which: int | None) -> int:
    if which is not None:
        if not 0 <= which < len(holes):
            raise InputError(
                f"There is no hole {which + 1}: it has {len(holes)}.",
                code="out_of_range",
                fields=("hole",),
                value=which,
            )
        return which
    if bolt is None:
        return max(range(len(holes)), key=lambda i: holes[i].diameter)
    through = [i for i, one in enumerate(holes) if one.diameter >= bolt]
    return min(through or range(len(holes)), key=lambda i: abs(holes[i].diameter - bolt))


def _brought(
    loops: Sequence[Sequence[Edge]], holes: Sequence[Hole], foot: Straight, name: str, joint: int
) -> DrawnOutline:
    """Turned onto its foot and moved under its hole."""
    turn = -atan2(foot.y2 - foot.y1, foot.x2 - foot.x1)
    c, s = cos(turn), sin(turn)

    def turned(x: float, y: float) -> tuple[float, float]:
        dx, dy = x - foot.x1, y - foot.y1
        return c * dx - s * dy, s * dx + c * dy

    shift = turned(holes[joint].x, holes[joint].y)[0]

    def at(x: float, y: float) -> tuple[float, float]:
        u, v = turned(x, y)
        return round(u - shift, 6) + 0.0, round(v, 6) + 0.0

    if any(isinstance(edge, Curve) and edge.r > LARGEST for loop in loops for edge in loop) or any(
        one.diameter > SPACE for one in holes
    ):
        raise InputError(f"An arc in it has a radius of more than {LARGEST:g} mm, or a hole is more than {SPACE:g} mm across: no bracket has. Is its unit right?", code="out_of_range", fields=("unit",))  # fmt: skip

    def drawn(edge: Edge) -> DrawnLine | DrawnArc:
        if isinstance(edge, Straight):
            return DrawnLine(a=at(edge.x1, edge.y1), b=at(edge.x2, edge.y2))
        return DrawnArc(centre=at(edge.cx, edge.cy), radius_mm=edge.r, start_deg=edge.start_deg + degrees(turn), end_deg=edge.end_deg + degrees(turn), back=edge.back)  # fmt: skip

    own = [holes[joint], *(one for i, one in enumerate(holes) if i != joint)]
    first, last = at(foot.x1, foot.y1)[0], at(foot.x2, foot.y2)[0]
    places = tuple(DrawnHole(at=at(one.x, one.y), diameter_mm=round(one.diameter, 6)) for one in own)
    try:
        made, *openings = (tuple(drawn(edge) for edge in loop) for loop in loops)
        found = DrawnOutline(name=name[:120], edges=made, holes=places, openings=tuple(openings), foot_mm=(first, last), waist_mm=1.0)  # fmt: skip
    except ValidationError as error:
        raise InputError(
            "It has more edges or holes than a bracket has, or one of a size that none has.",
            code="too_large",
            fields=("text",),
        ) from error
    shape = _metal(contour_of(found))
    if shape.bounds[1] < -LEVEL:
        raise InputError(f"It reaches {-shape.bounds[1]:.1f} mm below its foot, which lies from {first:.1f} to {last:.1f} mm beside the hole. Draw the foot as its lowest edge.", code="contradictory", fields=("text",))  # fmt: skip
    if not first < 0.0 < last:
        raise InputError(f"The joint’s hole does not stand over the foot, which lies from {first:.1f} to {last:.1f} mm beside it. Choose another hole, or draw the foot under it.", code="contradictory", fields=("hole",))  # fmt: skip
    return found.model_copy(update={"waist_mm": round(_waist(shape, found), 2)})


def _waist(shape: Any, drawn: DrawnOutline) -> float:
    """Least metal across it between its foot and the joint's hole, holes taken off [mm]."""
    from shapely.geometry import LineString

    low, _, high, _ = shape.bounds
    contour = contour_of(drawn)
    metal = polygon(replace(contour, holes=contour.holes[1:]))
    top = drawn.holes[0].at[1] - drawn.holes[0].diameter_mm / 2
    heights = np.arange(STEP, max(top, 2 * STEP), STEP)
    return float(min(metal.intersection(LineString([(low - 1, y), (high + 1, y)])).length for y in heights))
