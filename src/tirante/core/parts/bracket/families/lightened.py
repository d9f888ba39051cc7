"""A lightening hole between a tab's hole and its foot: as large as a rule lets it be, and the metal beside it judged.

The rule: round the hole as much metal is left as two plates are thick, 8 mm at least and 16 at most, to every edge, hole and foot, and half the plate's width at
its level (common practice, no source).
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from math import cos, floor, radians, sin
from typing import TYPE_CHECKING

import numpy as np

from tirante.core.brackets.tab_bending import lightened_stress
from tirante.core.checks.kinds import asked
from tirante.core.checks.result import CheckResult, Try, worst_of
from tirante.core.document.forms.table import FieldGroup, number
from tirante.core.document.parts.bracket import Lighten, TabPair
from tirante.core.document.settings import Settings
from tirante.core.errors import InputError
from tirante.core.flat.contour import Contour, Hole, polygon
from tirante.core.loads.case_seen import CaseSeen
from tirante.core.parts.bracket.families.tab_checks import slant_told, slants
from tirante.core.parts.bracket.families.tab_outline import TabOutline
from tirante.core.parts.bracket.families.tab_rims import rim_of
from tirante.core.parts.joint import JointMade
from tirante.core.parts.part import CardLine, Misfit, across

if TYPE_CHECKING:
    from collections.abc import Sequence

    from shapely.geometry import Polygon

HALF = 0.5  # of the width at its level
LEAST = 10.0  # mm: a smaller one is not worth its cut
ALONG = 0.1  # mm, of the places that are looked at
STEP = 1.0  # °, of the looks at the pull's angle


@dataclass(frozen=True, slots=True, kw_only=True)
class Lightening:
    """The hole [mm]."""

    diameter: float
    up: float  # of its middle over the foot's
    width: float  # of the plate at its level
    aside: float  # of that width's middle from the hole's


LIGHTEN_FIELDS = FieldGroup(title="Lightening hole", of="lighten", switch="a hole between the joint’s and the foot, to save weight", fields=[
    number(Lighten, "diameter_mm", "Its diameter", "mm", at="lighten/", optional=True, empty="by the rule"),
])  # fmt: skip


def lightening(tab: TabPair, outlines: Sequence[TabOutline], lowest: float = 0.0) -> Lightening | None:
    """Its lightening hole; None where it has none.

    Args:
        tab: as it is saved.
        outlines: of its plates, without it.
        lowest: under which it may not reach, over what the tab's height is counted from: of an ear its bend, or the skin of what it lies on [mm].

    Raises:
        InputError: there is no room for it, or for one so large.
    """
    if tab.lighten is None:
        return None
    rim = rim_of(tab.plate.mm)
    best: tuple[float, float, float, float] | None = None
    plates = [polygon(one.contour) for one in outlines]
    for up in np.arange(lowest, tab.height.mm, ALONG):
        found = [_at(plate, float(up)) for plate in plates]
        if any(one is None for one in found):
            continue
        radius = min(one[0] for one in found if one) - rim
        left, right = max(one[1] for one in found if one), min(one[2] for one in found if one)
        radius = min(radius, HALF * (right - left) / 2, float(up) - lowest if lowest else np.inf)
        if best is None or radius > best[0]:
            best = radius, float(up), left, right
    most = 0.0 if best is None else floor(4 * best[0]) / 2
    if best is None or most < LEAST:
        raise InputError(f"There is no room for a lightening hole: {rim:g} mm of metal are left round it. Raise the joint or widen the foot, or leave the hole out.", code="contradictory", fields=("lighten",))  # fmt: skip
    wanted = tab.lighten.diameter_mm
    if wanted is not None and wanted > most:
        raise InputError(f"A lightening hole is {most:g} mm at most here: {rim:g} mm of metal are left round it, and half the plate’s width.", code="out_of_range", fields=("lighten.diameter_mm",), value=wanted, limits=(LEAST, most))  # fmt: skip
    _, up, left, right = best
    return Lightening(diameter=wanted or most, up=round(up, 1), width=right - left, aside=abs(left + right) / 2)


def _at(plate: Polygon, up: float) -> tuple[float, float, float] | None:
    """Of a place on the tab's axis: how far it is from the metal's edge, and where the plate's sides are at its level; None outside it."""
    from shapely.geometry import LineString, Point

    at = Point(0.0, up)
    if not plate.contains(at):
        return None
    low, _, high, _ = plate.bounds
    sides = plate.intersection(LineString([(low - 1.0, up), (high + 1.0, up)])).bounds
    return float(plate.boundary.distance(at)), float(sides[0]), float(sides[2])


def with_lightening(tab: TabPair, outlines: tuple[TabOutline, ...], lowest: float = 0.0) -> tuple[TabOutline, ...]:
    """The outlines with the hole cut.

    Args:
        tab: as it is saved.
        outlines: without it.
        lowest: as of `lightening`.

    Raises:
        InputError: there is no room for it.
    """
    one = lightening(tab, outlines, lowest)
    if one is None:
        return outlines
    hole = Hole(0.0, one.up, one.diameter)
    return tuple(replace(each, contour=replace(each.contour, holes=(*each.contour.holes, hole))) for each in outlines)


def lighter_in_ear(tab: TabPair, outlines: Sequence[TabOutline], at: float, ways: Sequence[float]) -> list[tuple[float, float, float]]:  # fmt: skip
    """It in a flat whose ears go off to either side: along the flat, along the bends, diameter [mm].

    Args:
        tab: its ears.
        outlines: of these, with it.
        at: of either joint's hole in the flat, from the middle [mm].
        ways: that its ears go off.
    """
    if tab.lighten is None:
        return []
    hole = outlines[0].contour.holes[-1]
    return [(way * (at - (tab.height.mm - hole.y)), hole.x, hole.diameter) for way in ways]


def lightened_checks(
    tab: TabPair, made: JointMade, outlines: Sequence[TabOutline], settings: Settings, lowest: float = 0.0
) -> list[CheckResult]:
    """The plate beside its lightening hole; none where it has none.

    Args:
        tab: as it is saved.
        made: the joint.
        outlines: of its plates, with the hole or without.
        settings: factors.
        lowest: as of `lightening`.
    """
    if tab.lighten is None or made.bolt is None:
        return []
    plain = [
        replace(one, contour=replace(one.contour, holes=one.contour.holes[: 1 + len(tab.extra)])) for one in outlines
    ]
    hole = lightening(tab, plain, lowest)
    assert hole
    kind, (low, high) = asked("tab_lightened", "tab", settings.factors), slants(tab, made.held)
    over, angles = tab.height.mm - hole.up, np.linspace(low, high, max(2, round((high - low) / STEP) + 1))
    sizes = (tab.plate.mm, hole.width, hole.diameter, over)

    def attempt(case: CaseSeen) -> Try | None:
        pull, side = abs(case.axial_n) * kind.factor / made.plates, abs(case.across_n) * kind.factor / made.plates
        if pull == 0 and side == 0:
            return None

        def stress(angle: float) -> float:
            along, across = abs(pull * cos(radians(angle))), abs(pull * sin(radians(angle)))
            return lightened_stress(*sizes, along, across, side, hole.aside)

        worst = max((float(angle) for angle in angles), key=stress)
        data = {
            "thickness_mm": sizes[0], "width_mm": sizes[1], "hole_mm": sizes[2], "over_mm": sizes[3], "along_n": abs(pull * cos(radians(worst))),
            "across_n": abs(pull * sin(radians(worst))), "side_n": side, "aside_mm": hole.aside, "yield_mpa": tab.yield_mpa,
        }  # fmt: skip
        return Try(demand=stress(worst), capacity=tab.yield_mpa, topic="lightened-tab", input=data, output="stress_mpa", figure="demand", note=slant_told(tab, made.held))  # fmt: skip

    return [worst_of(kind, made.held.cases, attempt)]


def lighten_faults(tab: TabPair) -> list[Misfit]:
    """Whether a rule says where its lightening hole would be.

    Args:
        tab: as it is saved.
    """
    whats = (
        ("several holes, or a slot", tab.holes is not None),
        ("an outline of its own", tab.drawn is not None),
        ("a strip’s outline", tab.strip),
    )
    what = next((told for told, has in whats if has), None)
    if tab.lighten is None or what is None:
        return []
    return [
        Misfit(
            field="lighten",
            message=f"A plate with {what} has no lightening hole by rule. Take one of them off, or draw the hole.",
        )
    ]


def lighter_lines(tab: TabPair, outline: TabOutline) -> list[CardLine]:
    """What is said of it on the card.

    Args:
        tab: as it is saved.
        outline: of a plate, with the hole.
    """
    if tab.lighten is None:
        return []
    hole = outline.contour.holes[-1]
    return [
        CardLine(text="lightening hole on the plate’s axis, its middle below the joint’s", mm=tab.height.mm - hole.y),
        across(text="lightening hole", mm=hole.diameter),
    ]  # fmt: skip


def more_told(tab: TabPair, flat: Contour, ears: int = 2) -> str:
    """What its ears have beside the joint's holes, in a few words.

    Args:
        tab: its ears.
        flat: of them.
        ears: in that flat.
    """
    more = f", {ears * len(tab.extra)} more" if tab.extra else ""
    lighter = "2 lightening holes" if ears == 2 else "lightening hole"
    return f"{more}, {lighter} {flat.holes[-1].diameter:g} mm" if tab.lighten else more
