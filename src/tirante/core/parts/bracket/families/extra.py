"""Holes that a person puts into a bracket's plates for something else, a clip or a lamp: where they may be, and the metal that is left at their level.

The rule: round each as much metal is left as round a lightening hole, to every edge, hole and foot, and none stands in the head (common practice, no source).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from math import ceil, cos, hypot, radians, sin
from typing import TYPE_CHECKING, Any

import numpy as np

from tirante.core.brackets.tab_bending import Legs, section_stress
from tirante.core.checks.kinds import asked
from tirante.core.checks.result import CheckResult, Try, worst_of
from tirante.core.document.forms.table import FieldGroup, special
from tirante.core.document.parts.bracket import ExtraHole, TabPair
from tirante.core.document.settings import Settings
from tirante.core.errors import InputError
from tirante.core.flat.contour import Hole, polygon
from tirante.core.loads.case_seen import CaseSeen
from tirante.core.parts.bracket.families.place_view import turned_over
from tirante.core.parts.bracket.families.tab_checks import slant_told, slants
from tirante.core.parts.bracket.families.tab_outline import TabOutline
from tirante.core.parts.bracket.families.tab_rims import rim_of
from tirante.core.parts.joint import JointMade
from tirante.core.parts.part import CardLine, Misfit
from tirante.core.quantities import or_more

if TYPE_CHECKING:
    from shapely.geometry import Polygon

STEP = 1.0  # °, of the looks at the pull's angle
EXTRA_FIELDS = FieldGroup(title="Holes for something else", note="a clip, a lamp; in both plates alike", fields=[special("extra", "Holes for something else")])  # fmt: skip


def with_extra(tab: TabPair, outlines: tuple[TabOutline, ...], lowest: float = 0.0) -> tuple[TabOutline, ...]:
    """The outlines with its further holes cut.

    Args:
        tab: as it is saved.
        outlines: without them.
        lowest: under which no hole may reach, over what the tab's height is counted from: of an ear its bend, or the skin of what it lies on [mm].

    Raises:
        InputError: too little metal would be left round one, with how much and the least.
    """
    if not tab.extra:
        return outlines
    rim = rim_of(tab.plate.mm)
    own = [(one.beside_mm, tab.height.mm - one.below_mm, one.diameter_mm) for one in tab.extra]
    for i, (x, y, d) in enumerate(own):
        field = f"extra.{i}"
        least = (tab.hole.mm + d) / 2 + rim
        if tab.extra[i].below_mm < least:
            raise InputError(f"Hole {i + 1} stands in the head: its middle {tab.extra[i].below_mm:g} mm below the joint’s, and {or_more(least)} mm or more leave the head whole.", code="out_of_range", fields=(f"{field}.below_mm",), value=tab.extra[i].below_mm, limits=(least, None))  # fmt: skip
        most = tab.height.mm - lowest - d / 2
        if lowest and tab.extra[i].below_mm > most:
            raise InputError(f"Hole {i + 1} reaches into the bend, or under the skin: {int(10 * most + 1e-9) / 10:.1f} mm below the joint’s or less.", code="out_of_range", fields=(f"{field}.below_mm",), value=tab.extra[i].below_mm, limits=(None, most))  # fmt: skip
        for outline in outlines:
            room = _room(polygon(outline.contour), x, y) - d / 2
            if room < rim:
                most = 2 * (room + d / 2 - rim)
                cure = f"at most {_down(most):g} mm across there" if most >= 3 else "not there"
                raise InputError(f"Round hole {i + 1} {max(room, 0.0):.1f} mm of metal are left, and {rim:g} mm are asked: {cure}. Move it, or widen the foot.", code="out_of_range", fields=(f"{field}.diameter_mm",), value=d, limits=(None, most))  # fmt: skip
        for j, (x2, y2, d2) in enumerate(own[:i]):
            web = hypot(x - x2, y - y2) - (d + d2) / 2
            if web < rim:
                raise InputError(f"Between holes {j + 1} and {i + 1} {max(web, 0.0):.1f} mm of metal are left, and {rim:g} mm are asked. Set them further apart.", code="out_of_range", fields=(f"{field}.beside_mm",), value=web, limits=(rim, None))  # fmt: skip
    holes = tuple(Hole(x, y, d) for x, y, d in own)
    return tuple(replace(one, contour=replace(one.contour, holes=(*one.contour.holes, *holes))) for one in outlines)


def _room(plate: Polygon, x: float, y: float) -> float:
    """From a place to the nearest edge of the metal; less than nothing outside it [mm]."""
    from shapely.geometry import Point

    at = Point(x, y)
    return float(plate.boundary.distance(at)) * (1.0 if plate.contains(at) else -1.0)


def _down(mm: float) -> float:
    return int(2 * mm) / 2


def in_ear(tab: TabPair, at: float, ways: Sequence[float]) -> list[tuple[float, float, float]]:
    """Its further holes in a flat whose ears go off to either side: along the flat, along the bends, diameter [mm].

    Args:
        tab: its ears.
        at: of either joint's hole in the flat, from the middle [mm].
        ways: that its ears go off.
    """
    return [(way * (at - one.below_mm), one.beside_mm, one.diameter_mm) for way in ways for one in tab.extra]


def legs_at(outline: TabOutline, level: float) -> tuple[tuple[float, float], ...]:
    """The metal across a plate at a level: from where to where, holes taken off [mm].

    Args:
        outline: of the plate, with all its holes.
        level: over its foot.
    """
    from shapely.geometry import LineString

    plate = polygon(outline.contour)
    low, _, high, _ = plate.bounds
    met = plate.intersection(LineString([(low - 1.0, level), (high + 1.0, level)]))
    found = [one.bounds for one in getattr(met, "geoms", [met]) if one.length > 0]
    return tuple(sorted((float(a), float(b)) for a, _, b, _ in found))


def sections_of(tab: TabPair, outlines: Sequence[TabOutline]) -> list[tuple[Legs, float]]:
    """The metal across the level of every further hole and of a lightening hole, and from there up to the joint's middle [mm].

    Args:
        tab: as it is saved.
        outlines: of its plates, with all their holes.
    """
    further = len(tab.extra) + (1 if tab.lighten else 0)
    return [
        (
            Legs(thickness=tab.plate.mm, legs=legs_at(outline, hole.y), opening=hole.diameter),
            outline.contour.holes[0].y - hole.y,
        )
        for outline in outlines for hole in outline.contour.holes[-further:]
    ]  # fmt: skip


def extra_checks(tab: TabPair, made: JointMade, outlines: Sequence[TabOutline], settings: Settings) -> list[CheckResult]:  # fmt: skip
    """The metal at the level of every further hole; none where it has none.

    Args:
        tab: as it is saved.
        made: the joint.
        outlines: of its plates, with all their holes.
        settings: factors.
    """
    if not tab.extra or made.bolt is None:
        return []
    kind, (low, high) = asked("tab_holed", "tab", settings.factors), slants(tab, made.held)
    angles = np.linspace(low, high, max(2, ceil((high - low) / STEP) + 1))
    sections = sections_of(tab, outlines)

    def attempt(case: CaseSeen) -> Try | None:
        pull, side = abs(case.axial_n) * kind.factor / made.plates, abs(case.across_n) * kind.factor / made.plates
        if pull == 0 and side == 0:
            return None

        def stress(which: int, angle: float) -> float:
            legs, over = sections[which]
            return section_stress(legs, over, abs(pull * cos(radians(angle))), abs(pull * sin(radians(angle))), side)

        which, worst = max(((i, float(a)) for i in range(len(sections)) for a in angles), key=lambda one: stress(*one))
        legs, over = sections[which]
        data: dict[str, Any] = {
            "thickness_mm": legs.thickness, "legs_mm": [list(one) for one in legs.legs], "opening_mm": legs.opening, "over_mm": over,
            "along_n": abs(pull * cos(radians(worst))), "across_n": abs(pull * sin(radians(worst))), "side_n": side, "yield_mpa": tab.yield_mpa,
        }  # fmt: skip
        told = f"at the level of its hole {over:.1f} mm below the joint’s; {slant_told(tab, made.held)}"
        return Try(demand=stress(which, worst), capacity=tab.yield_mpa, topic="holed-tab", input=data, output="stress_mpa", figure="demand", note=told)  # fmt: skip

    return [worst_of(kind, made.held.cases, attempt)]


def extra_faults(tab: TabPair) -> list[Misfit]:
    """Whether its further holes can be said from the joint's own.

    Args:
        tab: as it is saved.
    """
    if not tab.extra:
        return []
    whats = (
        ("several holes, or a slot", tab.holes is not None),
        ("an outline of its own", tab.drawn is not None),
        ("a strip’s outline", tab.strip),
    )
    what = next((told for told, has in whats if has), None)
    if what is not None:
        return [Misfit(field="extra", message=f"A plate with {what} takes no further holes here. Take one of them off, or draw the holes.")]  # fmt: skip
    if turned_over(tab) and any(one.beside_mm for one in tab.extra):
        return [Misfit(field="extra", message="On a tube that is not square across one plate is the other turned over: a hole beside its axis would not be in line. Put it on the axis.")]  # fmt: skip
    return []


def extra_lines(extra: Sequence[ExtraHole]) -> list[CardLine]:
    """What is said of them on the card.

    Args:
        extra: the holes.
    """
    lines = []
    for one in extra:
        beside = f", {abs(one.beside_mm):g} mm beside its axis" if one.beside_mm else ", on its axis"
        what = f" for {one.what}" if one.what else ""
        lines.append(CardLine(text=f"hole ⌀{one.diameter_mm:g} mm{what}{beside}; below the joint’s", mm=one.below_mm))
    return lines
