"""Tab pairs by their sizes: what a bolt asks for, the least metal that holds with the walls that it stands on, and a spread plate where they ask for one."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from itertools import product
from math import ceil, floor, radians, sin
from typing import Any

from tirante.core.checks.result import CheckResult, weaker_of_each, weakest_first
from tirante.core.document.catalogue import Bolt, Catalogue, Eye, Spacer, bolt_fits, pin_hole, spacer_fits
from tirante.core.document.fields import Length
from tirante.core.document.joints import HeldJoint
from tirante.core.document.parts.bracket import (
    FlatBase,
    SaddleBase,
    TabPair,
)
from tirante.core.document.settings import Settings
from tirante.core.errors import InputError, NotApplicable
from tirante.core.parts.bracket.families.drawn import drawn_outline
from tirante.core.parts.bracket.families.extra import extra_checks, with_extra
from tirante.core.parts.bracket.families.hole_pattern import holes_of, slot_line
from tirante.core.parts.bracket.families.lightened import lightened_checks, with_lightening
from tirante.core.parts.bracket.families.spread_plate import (
    least_spread,
    with_spread,
)
from tirante.core.parts.bracket.families.tab_checks import (
    PLATES,
    feet_of,
    tab_checks,
)
from tirante.core.parts.bracket.families.tab_outline import NARROWEST, TabOutline, tab_outline
from tirante.core.parts.bracket.families.wall_checks import BEYOND, fits_on, wall_checks
from tirante.core.parts.joint import HeldEnd, JointMade
from tirante.core.parts.kind import Choice, Refit
from tirante.core.parts.stands import CUT_TRUE, Stand, stands_true
from tirante.core.units import STEEL_DENSITY

DRAWN_FIT = 1.0  # mm that a drawn hole may be larger than its bolt (AISC 360 D5.2, from memory)
HOLE_OVER_BOLT = 0.4  # mm; common practice, no source
USUAL_LEG = 8.0  # mm, that a wider foot may be welded with; common practice, no source
STOCK = (3.0, 4.0, 5.0, 6.0, 8.0, 10.0, 12.0, 15.0)  # mm, sheet stock; common practice, no source
FEET = (1.0, 1.4, 1.8)  # widths of foot that are tried, times that of the head and a little
# a tab is about as wide as the mean of head and foot: least metal first
ACROSS = 45.0  # °, between plate and tube, over which the tube bounds the foot's width
PLATES_AND_FEET = sorted(product(STOCK, FEET), key=lambda one: (one[0] * (1 + one[1]), one[0]))


def outlines_of(tab: TabPair, gap: float = 0.0) -> tuple[TabOutline, ...]:
    """The contours of its plates: one where both are alike or one is the other turned over, else two, the one the way of the bolt first.

    Args:
        tab: as it is saved.
        gap: between its plates [mm].

    Raises:
        InputError, NotApplicable: with fields of the tab pair ("base_width").
    """
    if tab.drawn is not None:
        return (drawn_outline(tab.drawn, tab.plate.mm),)
    plain = tuple(
        tab_outline(
            tab.head_radius.mm,
            tab.edge.mm,
            tab.base_width.mm,
            tab.height.mm,
            tab.hole.mm,
            tab.plate.mm,
            under,
            holes_of(tab),
            slot_line(tab),
        )
        for under in feet_of(tab, gap)
    )
    return with_lightening(tab, with_extra(tab, plain))


def pair_checks(tab: TabPair, made: JointMade, settings: Settings) -> list[CheckResult]:
    """All checks of a pair of tabs at one joint, its lightening hole with them.

    Args:
        tab: as it is saved.
        made: the joint, with its bolt.
        settings: factors, electrode.
    """
    if not tab.lighten and not tab.extra:
        return tab_checks(tab, made, settings)
    outlines = outlines_of(tab, made.gap)
    return [
        *tab_checks(tab, made, settings),
        *lightened_checks(tab, made, outlines, settings),
        *extra_checks(tab, made, outlines, settings),
    ]


def proportioned(row: Eye, bolt: Bolt, plate: float, previous: TabPair | None = None) -> dict[str, Any]:
    """A tab's sizes for a bolt: 3 bolts wide, with 1.33 b_e of metal beyond the hole (AISC D5.2).

    Args:
        row: the joint held.
        bolt: through it.
        plate: thickness [mm].
        previous: what stands there already; its foot, height at least, weld and grade stay.

    Returns:
        Fields of a `TabPair`.
    """
    if previous and previous.drawn is not None:
        return {"plate": Length(mm=plate)}
    hole = bolt.diameter_mm + HOLE_OVER_BOLT
    radius = rounded_up(1.5 * bolt.diameter_mm)
    beside = radius - hole / 2
    edge = max(radius, rounded_up(1.34 * min(2 * plate + 16.0, beside) + hole / 2))
    height = rounded_up(row.head_diameter_mm / 2 + 10.0)
    base = previous.base if previous else FlatBase()
    if previous:
        height = max(height, previous.height.mm)
    width = 2.0 * radius + 10.0
    if isinstance(base, SaddleBase):
        # a spread plate lies round the tube itself: a foot as wide as it, on top, would take it past half way
        tube = base.tube_od.mm - (2 * previous.spread.thickness.mm if previous and previous.spread else 0.0)
        width = max(NARROWEST * radius, min(width, 0.89 * tube / max(sin(radians(base.angle_deg)), 0.1)))
    if previous and previous.strip:
        width = 2.0 * radius
    height = max(height, rounded_up(radius * 0.75 + 4.0))
    if previous and previous.height_fixed:  # a bolt too large for it shows as a fault of its outline
        height = previous.height.mm
    return {
        "plate": Length(mm=plate), "hole": Length(mm=round(hole, 2)), "head_radius": Length(mm=radius), "edge": Length(mm=edge),
        "base_width": Length(mm=width), "height": Length(mm=height),
    }  # fmt: skip


def rounded_up(value: float, step: float = 0.5) -> float:
    """Up to the next step [mm]."""
    return ceil(value / step - 1e-9) * step


def bolts_for(row: Eye, spacer: Spacer | None, shelf: Catalogue) -> list[Bolt]:
    """Bolts that go through a joint and its spacers.

    Args:
        row: the joint held.
        spacer: beside its ball, or none.
        shelf: to choose from.
    """
    if spacer and not spacer_fits(spacer, row):
        return []
    return [bolt for bolt in shelf.bolts if bolt_fits(bolt.diameter_mm, pin_hole(row, spacer))]


def spacer_of(key: str | None, rows: Catalogue) -> Spacer | None:
    """A spacer by its key.

    Args:
        key: of the row; None: none is chosen.
        rows: to find it in.
    """
    found = rows.find("spacers", key) if key else None
    return found if isinstance(found, Spacer) else None


def bolt_of(key: str | None, rows: Catalogue) -> Bolt | None:
    """A bolt by its key.

    Args:
        key: of the row; None: none is chosen.
        rows: to find it in.
    """
    found = rows.find("bolts", key) if key else None
    return found if isinstance(found, Bolt) else None


def walls_of(tab: TabPair, made: Sequence[JointMade], stands: Sequence[Stand], settings: Settings) -> list[CheckResult]:
    """Checks of the walls that a pair stands on, where every joint stands on a member that is entered.

    Args:
        tab: as it is saved.
        made: its joints.
        stands: where they stand.
        settings: factors.
    """
    if len(stands) != len(made):
        return []
    return weaker_of_each([check for one, stand in zip(made, stands, strict=True) for check in wall_checks(tab, one, stand, settings)])  # fmt: skip


def on_a_spread(
    tab: TabPair, made: Sequence[JointMade], stands: Sequence[Stand], settings: Settings
) -> tuple[TabPair, list[CheckResult]] | None:
    """The same on the least spread plate that its walls hold with; None where none does.

    Args:
        tab: on the walls themselves.
        made: its joints.
        stands: where they stand.
        settings: factors.
    """
    if len(stands) != len(made) or not stands:
        return None
    spread = least_spread(tab, made[0], stands[0], settings)
    on = with_spread(tab, stands[0], spread) if spread else None
    if on is None or spread is None:
        return None
    changed, walls = on[0], []
    for one, stand in zip(made, stands, strict=True):
        other = with_spread(tab, stand, spread)
        if other is None or stands_true(changed, other[1], one.gap):
            return None
        walls += wall_checks(changed, one, other[1], settings)
    return (changed, weaker_of_each(walls)) if all(check.passed for check in walls) else None


def that_stands(tab: TabPair, gap: float) -> TabPair:
    """The same with its foot as wide as its tube lets it be: one that leans is bounded by more than the tube's width."""
    for _ in range(PLATES):  # what one plate lets stand may be too wide for the other
        try:
            outlines_of(tab, gap)
        except (InputError, NotApplicable) as error:
            most = error.limits[1] if error.limits else None
            least = NARROWEST * tab.head_radius.mm
            if most is None or not least <= most < tab.base_width.mm:
                raise
            tab = tab.model_copy(update={"base_width": Length(mm=max(least, floor(2 * most) / 2))})
    return tab


def that_lies(tab: TabPair, gap: float, stands: Sequence[Stand]) -> TabPair:
    """The same with its foot no wider than the members have face and length for; as it is where a narrower one would not lie there either.

    Args:
        tab: as it is saved.
        gap: between its plates [mm].
        stands: where it stands on mounts.
    """
    outer = gap / 2 + tab.plate.mm
    past = max((one.standing.overhang(tab.base_width.mm / 2, outer) for one in stands), default=0.0)
    if tab.drawn is not None or tab.strip or past <= CUT_TRUE:
        return tab
    width = floor(2 * (tab.base_width.mm - 2 * past)) / 2
    if width < NARROWEST * tab.head_radius.mm:
        return tab
    narrower = tab.model_copy(update={"base_width": Length(mm=width)})
    lies = all(one.standing.overhang(width / 2, outer) <= CUT_TRUE for one in stands)
    return narrower if lies else tab


def choice_of(found: Refit, joints: int) -> Choice:
    """A pair as a search gives it: with the mass of all its plates."""
    tab = found.parts[0]
    assert isinstance(tab, TabPair)
    area = outlines_of(tab)[0].contour.area
    stock = f"{tab.plate.mm:g} mm plate"
    return Choice(
        parts=found.parts, joints=found.joints, tube=stock, grade=tab.grade_name, joint=None, stock=(stock, tab.grade_name),
        mass=area * tab.plate.mm * PLATES * joints * STEEL_DENSITY, worst=found.checks[0] if found.checks else None,
    )  # fmt: skip


def _spread_that_lies(tab: TabPair, made: JointMade, stands: Sequence[Stand]) -> tuple[TabPair, list[str]]:
    """The same with its spread plate reaching no further beyond the feet than its members have room for; or why none lies there."""

    def unfit(one: TabPair) -> list[str]:
        return [told for stand in stands if (told := fits_on(one, made, stand))]

    why = unfit(tab)
    if not why or tab.spread is None:
        return tab, why
    for beyond in sorted((mm for mm in BEYOND if mm < tab.spread.beyond_mm), reverse=True):
        tried = tab.model_copy(update={"spread": tab.spread.model_copy(update={"beyond_mm": beyond})})
        if not unfit(tried):
            return tried, []
    return tab, why


def lightest_pair(
    saved: TabPair, joints: Sequence[HeldJoint], held: Sequence[HeldEnd], settings: Settings, shelf: Catalogue, stands: Sequence[Stand] = ()
) -> Refit:  # fmt: skip
    """Least metal in plate and foot, then the lowest bolt class, that hold what would stand in it; the nearest where nothing does.

    Args:
        saved: as the user keeps it.
        joints: that it holds.
        held: what stands in each.
        settings: factors.
        shelf: the shop's catalogue.
        stands: where it stands on mounts.
    """
    best: Refit | None = None
    why = ""  # of the least that was tried
    kept_out: list[tuple[float, str]] = []  # plates that could not stand there, and why
    spacer = spacer_of(joints[0].spacer, shelf)
    bolts = bolts_for(held[0].row, spacer, shelf)
    for plate, wider in PLATES_AND_FEET:
        for bolt in bolts:
            changed = saved.model_copy(update=proportioned(held[0].row, bolt, plate, saved))
            if changed.hole.mm - saved.ream_mm < plate:
                continue  # no cutter makes such a hole, and none is drilled in a plate that something else would hold with
            if saved.drawn is not None and (wider > 1.0 or not 0.0 <= saved.hole.mm - bolt.diameter_mm <= DRAWN_FIT):
                continue
            if wider > 1.0 and isinstance(saved.base, SaddleBase) and saved.base.angle_deg > ACROSS:
                continue  # its foot is as wide as the tube lets it be
            leg = max(changed.weld_leg_mm, min(plate, USUAL_LEG)) if wider > 1.0 else changed.weld_leg_mm
            changed = changed.model_copy(
                update={"base_width": Length(mm=rounded_up(changed.base_width.mm * wider)), "weld_leg_mm": leg}
            )
            if saved.strip:  # as wide at its head as at its foot
                half = Length(mm=changed.base_width.mm / 2)
                changed = changed.model_copy(update={"head_radius": half, "edge": max(half, changed.edge, key=lambda one: one.mm)})  # fmt: skip
            own = tuple(joint.model_copy(update={"bolt": bolt.key}) for joint in joints)
            made = [JointMade(joint=j, held=h, bolt=bolt, spacer=spacer) for j, h in zip(own, held, strict=True)]
            try:
                changed = that_lies(that_stands(changed, made[0].gap), made[0].gap, stands)
                outlines_of(changed, made[0].gap)
                found = weaker_of_each([check for one in made for check in pair_checks(changed, one, settings)])
            except (InputError, NotApplicable) as error:
                why = why or error.message
                kept_out.append((plate, error.message))
                continue
            past = [fault.message for one in stands for fault in stands_true(changed, one, made[0].gap)]
            changed, unfit = _spread_that_lies(changed, made[0], stands)
            past += unfit
            if past:
                why = why or past[0]
                kept_out.append((plate, past[0]))
                continue
            walls = walls_of(changed, made, stands, settings)
            tried = Refit(parts=(changed,), joints=own, checks=weakest_first([*found, *walls]))
            if tried.passed:
                return tried
            if saved.spread is None and all(check.passed for check in found):
                spread_ = on_a_spread(changed, made, stands, settings)
                if spread_ is not None:
                    return replace(tried, parts=(spread_[0],), checks=weakest_first([*found, *spread_[1]]))
            if best is None or tried.utilisation < best.utilisation:
                best = tried
    if best is not None:
        nearest = best.parts[0]
        assert isinstance(nearest, TabPair)
        return replace(best, left_out=next((told for plate, told in kept_out if plate > nearest.plate.mm), ""))
    fault = why or "No bolt of the catalogue goes through this joint."
    return Refit(parts=(saved,), joints=tuple(joints), checks=(), fault=fault)
