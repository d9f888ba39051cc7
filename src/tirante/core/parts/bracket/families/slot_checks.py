"""Checks of a pair whose joint stands in a slot: slip along it, and the metal beside it bent across it."""

from __future__ import annotations

from math import ceil, radians, sin

from tirante.core.brackets import bolt as bolts
from tirante.core.brackets import slot
from tirante.core.checks.kinds import asked
from tirante.core.checks.result import CheckResult, Try, worst_of
from tirante.core.document.catalogue import Bolt
from tirante.core.document.parts.bracket import TabPair
from tirante.core.document.settings import Settings
from tirante.core.loads.case_seen import CaseSeen
from tirante.core.members.thread import parse_thread
from tirante.core.parts.bracket.families.hole_pattern import slot_line, slot_run, slot_ways
from tirante.core.parts.joint import HeldEnd


def most_of_sine(low: float, high: float) -> float:
    """The largest |sin| between two angles [°].

    Args:
        low: the least.
        high: the largest.
    """
    first_peak = ceil((low - 90.0) / 180.0) * 180.0 + 90.0
    return 1.0 if first_peak <= high else max(abs(sin(radians(low))), abs(sin(radians(high))))


def shares(tab: TabPair, between: tuple[float, float]) -> tuple[float, float]:
    """How much of a pull goes along the slot, and how much across it, at most; 0 of both without one.

    The pull turns to either side of the tab's axis as much: which side the joint swings to is not known here.

    Args:
        tab: as it is saved.
        between: angles of the pull from the tab's axis [°].
    """
    line = slot_line(tab)
    if line is None:
        return 0.0, 0.0
    first, last = slot_ways(line)
    low, high = between
    # from along the foot a pull at an angle from the tab's axis stands at 90° less or more than that
    both = ((first + low, last + high), (first - high, last - low))
    return max(most_of_sine(*one) for one in both), max(most_of_sine(one[0] + 90.0, one[1] + 90.0) for one in both)


def slot_checks(
    tab: TabPair, bolt: Bolt, held: HeldEnd, settings: Settings, between: tuple[float, float], told: str
) -> list[CheckResult]:
    """Slip along the slot and the strip beside it; none of round holes.

    Args:
        tab: as it is saved.
        bolt: through it.
        held: what stands in it.
        settings: factors.
        between: angles of the pull from the tab's axis [°].
        told: the same in words.
    """
    line = slot_line(tab)
    if line is None:
        return []
    along, across = shares(tab, between)
    clamp, _ = bolts.tightening(bolt.diameter_mm, bolts.bolt_class(bolt.strength_class, bolt.diameter_mm), parse_thread(bolt.designation))  # fmt: skip
    run, beside = slot_run(line), tab.head_radius.mm - tab.hole.mm / 2
    data = {
        "length_mm": run,
        "width_mm": tab.hole.mm,
        "thickness_mm": tab.plate.mm,
        "beside_mm": beside,
        "plates": slot.FACES,
    }
    slip, strip = asked("slot_slip", "slot", settings.factors), asked("slot_beside", "slot", settings.factors)

    def slips(case: CaseSeen) -> Try | None:
        force = abs(case.axial_n) * along * slip.factor
        if not force:
            return None
        return Try(
            demand=force, capacity=slot.slip_resistance(clamp), topic="slot", input={**data, "clamp_n": clamp}, output="slip_n",
            note=f"{told}; {along:.2f} of it along the slot, held by friction alone",
        )  # fmt: skip

    def bends(case: CaseSeen) -> Try | None:
        force = abs(case.axial_n) * across * strip.factor
        if not force:
            return None
        stress = slot.beside_stress(force, run, tab.hole.mm, tab.plate.mm, beside)
        return Try(
            demand=stress, capacity=tab.yield_mpa, topic="slot", input={**data, "force_n": force}, output="stress_mpa", figure="demand",
            note=f"{told}; {across:.2f} of it across the slot",
        )  # fmt: skip

    return [worst_of(slip, held.cases, slips), worst_of(strip, held.cases, bends)]
