"""Where the holes of an adjustable mount are, in the plate's own axes, and how near to each other they may stand.

Source:
    AISC 360 J3.3: at least 2⅔ bolt diameters between centres (from memory); a web of metal as wide as the plate is thick and half a bolt
    between holes: common practice, no source.
"""

from __future__ import annotations

from collections.abc import Sequence
from itertools import combinations
from math import atan2, ceil, cos, degrees, hypot, radians, sin

from tirante.core.document.parts.bracket import ArcOfHoles, GridOfHoles, RowOfHoles, TabPair
from tirante.core.errors import InputError
from tirante.core.flat.contour import Curve, Edge, Straight

Place = tuple[float, float]
SPACING = 8.0 / 3.0  # bolt diameters between centres
OF_BOLT = 0.5  # of the bolt's diameter that a web is wide at least


def places(holes: RowOfHoles | ArcOfHoles | GridOfHoles) -> list[Place]:
    """All holes of a pattern from its first, x along the foot and y away from it [mm].

    Args:
        holes: the pattern.
    """
    if isinstance(holes, RowOfHoles):
        x, y = cos(radians(holes.angle_deg)), sin(radians(holes.angle_deg))
        return [(holes.pitch_mm * i * x, holes.pitch_mm * i * y) for i in range(holes.count)]
    if isinstance(holes, GridOfHoles):
        return [(holes.across_mm * i, holes.up_mm * j) for j in range(holes.rows) for i in range(holes.columns)]
    toward = radians(holes.toward_deg)
    cx, cy = holes.radius_mm * cos(toward), holes.radius_mm * sin(toward)
    turns = [radians(holes.step_deg) * i for i in range(holes.count)]
    return [(cx - cx * cos(t) + cy * sin(t), cy - cx * sin(t) - cy * cos(t)) for t in turns]


def holes_of(tab: TabPair) -> list[Place]:
    """All holes of a tab from its first, which stands over the foot's middle [mm]; that one alone where it has no pattern.

    Args:
        tab: as it is saved.

    Raises:
        InputError: the joint is in a hole that the pattern does not have.
    """
    if tab.holes is None:
        return [(0.0, 0.0)]
    found = places(tab.holes)
    if tab.in_hole > len(found):
        raise InputError(
            f"The joint is in hole {tab.in_hole}, and there are {len(found)}. Put it in another.",
            code="out_of_range", fields=("in_hole",), value=tab.in_hole, limits=(1, len(found)),
        )  # fmt: skip
    return [(round(x, 9) + 0.0, round(y, 9) + 0.0) for x, y in found]


def slotted(tab: TabPair) -> bool:
    """Whether its holes are places in one slot.

    Args:
        tab: as it is saved.
    """
    return isinstance(tab.holes, RowOfHoles | ArcOfHoles) and tab.holes.slotted


def slot_line(tab: TabPair) -> Edge | None:
    """A slot's middle line from the first place, x along the foot and y away from it; None of round holes.

    Args:
        tab: as it is saved.
    """
    one = tab.holes
    if isinstance(one, RowOfHoles) and one.slotted:
        x, y = places(one)[-1]
        return Straight(0.0, 0.0, x, y)
    if isinstance(one, ArcOfHoles) and one.slotted:
        cx, cy = one.radius_mm * cos(radians(one.toward_deg)), one.radius_mm * sin(radians(one.toward_deg))
        a = one.toward_deg + 180.0
        b = a + one.step_deg * (one.count - 1)
        return Curve(cx, cy, one.radius_mm, min(a, b), max(a, b), back=b < a)
    return None


def slot_run(line: Edge) -> float:
    """How far the bolt goes along a slot [mm].

    Args:
        line: its middle line.
    """
    if isinstance(line, Straight):
        return hypot(line.x2 - line.x1, line.y2 - line.y1)
    return radians(line.end_deg - line.start_deg) * line.r


def slot_ways(line: Edge) -> tuple[float, float]:
    """Between which directions from along the foot a slot runs [°].

    Args:
        line: its middle line.
    """
    if isinstance(line, Straight):
        way = degrees(atan2(line.y2 - line.y1, line.x2 - line.x1))
        return way, way
    return line.start_deg + 90.0, line.end_deg + 90.0


def along_a_slot(line: Edge) -> list[Place]:
    """Places along a slot's middle line near enough together that heads round them leave the slot's edge as much metal as they have [mm].

    Args:
        line: its middle line.
    """
    if isinstance(line, Straight):
        return [line.start, line.end]
    steps = max(2, ceil((line.end_deg - line.start_deg) / FINE_DEG))
    return [line._at(line.start_deg + (line.end_deg - line.start_deg) * i / steps) for i in range(steps + 1)]


FINE_DEG = 3.0  # between places of an arc: its bulge past a chord is then 0.03 % of its radius


def least_pitch(holes: Sequence[Place]) -> float | None:
    """Between the centres of the two nearest holes [mm]; None of one.

    Args:
        holes: all.
    """
    return min((hypot(a[0] - b[0], a[1] - b[1]) for a, b in combinations(holes, 2)), default=None)


def require_webs(holes: Sequence[Place], diameter: float, thickness: float) -> None:
    """That enough metal stands between any two holes.

    Args:
        holes: all.
        diameter: of each [mm].
        thickness: of the plate [mm].

    Raises:
        InputError: naming the rule and the least pitch that keeps it.
    """
    pitch = least_pitch(holes)
    web = max(thickness, OF_BOLT * diameter)
    if pitch is not None and pitch - diameter < web - 1e-9:
        raise InputError(
            f"Between two holes {pitch:.1f} mm apart a web of {pitch - diameter:.1f} mm is left: at least the plate’s thickness and half a hole, {web:.1f} mm "
            f"(common practice). Set them {diameter + web:.1f} mm apart or more.",
            code="contradictory", fields=("holes",), value=pitch, limits=(diameter + web, None),
        )  # fmt: skip
