"""How long a detail lasts under everyday cycles: a spectrum of stress ranges by the line of its class, summed (Miner); and a screen.

An estimate of a life, not a promise. Corrosion, fretting and hardened eyes are outside it.

Source:
    EN 1993-1-9: detail class Δσ_C at 2 million cycles, slope 3 to 5 million, Δσ_D = (2/5)^(1/3) Δσ_C; threads in
    tension class 50, with (30/d)^0.25 above 30 mm, on the stress area, what bends them counted; fillet welds round a tube's end class 40, throat class 36 (from memory).
    IIW recommendations for fatigue design of welded joints and components (Hobbacher, IIW-1823, from memory): for steel classes alike;
    for aluminium alloys toe 22, root of a fillet 12, fillet in shear 28, slope 3 to 10 million, 5 from there to 1000 million.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import combinations_with_replacement, pairwise
from math import inf, pi

from tirante.core.members.insert_weld import THROAT_OF_LEG
from tirante.core.members.thread import Thread, parse_thread
from tirante.core.members.tube import Section

THREAD_CLASS, TOE_CLASS, THROAT_CLASS = 50.0, 40.0, 36.0  # MPa at 2e6 cycles
LIMIT_OF_CLASS = (2 / 5) ** (1 / 3)
PARTIAL = 1.35  # EN 1993-1-9, safe life, high consequence; from memory
AT_CLASS, AT_LIMIT = 2e6, 5e6


@dataclass(frozen=True, slots=True)
class Classes:
    """What welded details of a metal bear at 2 million cycles [MPa], and where the line of a direct stress bends and ends."""

    toe: float
    throat: float
    shear: float
    bend: float | None  # of a tube bent cold; None: no source
    knee: float  # cycles
    end: float  # cycles

    @property
    def limit(self) -> float:
        """Constant-amplitude limit, of the class."""
        return float((AT_CLASS / self.knee) ** (1 / 3))

    @property
    def cut_off(self) -> float:
        """Of that limit, under which no range of a spectrum does harm."""
        return float((self.knee / self.end) ** (1 / 5))


SHEAR_CLASS = 80.0  # MPa: fillet and plug welds in shear, steel
BEND_CLASS = 100.0  # MPa: a steel tube bent cold, no weld on it; from memory
STEEL = Classes(toe=TOE_CLASS, throat=THROAT_CLASS, shear=SHEAR_CLASS, bend=BEND_CLASS, knee=AT_LIMIT, end=1e8)
ALUMINIUM = Classes(toe=22.0, throat=12.0, shear=28.0, bend=None, knee=1e7, end=1e9)
BY_FAMILY = {"steel": STEEL, "stainless": STEEL, "aluminium": ALUMINIUM}
SHEAR_CUT_OFF = (2 / 100) ** (1 / 5)  # of the class, at 1e8 cycles
FOR_EVER = 1e9  # cycles: below its cut-off a detail has no end by its class
Spectrum = Sequence[tuple[float, float]]  # of all cycles the share, and the fraction of the full range
FULL: Spectrum = ((1.0, 1.0),)
STEPS = 10  # of a straight line
Swing = tuple[float, float]  # from one force to another and back [N]: how far it goes; both sizes added


def straight_line(one_in: float) -> Spectrum:
    """A spectrum whose cycles that go further than a fraction are a straight line over the logarithm of their count, from all of them at
    nothing to one in so many at the full range; in ten steps, each taken at its far end, on the safe side.

    Args:
        one_in: of so many cycles one is full; 1: all are.

    Source:
        The straight-line collective of measured road loads (Haibach, Betriebsfestigkeit; Heuler and Klätschke, Int. J. Fatigue 27, 2005; from memory).
    """
    if one_in <= 1:
        return FULL
    beyond = [one_in ** (-step / STEPS) for step in range(STEPS)] + [0.0]
    return tuple((more - less, (step + 1) / STEPS) for step, (more, less) in enumerate(pairwise(beyond)))


def swings(forces: Sequence[float]) -> tuple[Swing, ...]:
    """Between any two forces along a link that follow one another, and about each by itself: a joint's friction turns over with the
    way its ball turns, as much as the force on it is, so that a shank is bent one way on the way there and the other on the way back.

    Args:
        forces: of every case [N].
    """
    return worst_swings([(abs(a - b), abs(a) + abs(b)) for a, b in combinations_with_replacement(forces, 2)])


def worst_swings(found: Sequence[Swing]) -> tuple[Swing, ...]:
    """Those that no other is as bad as in both, the farthest first."""
    kept: list[Swing] = []
    for one in sorted(set(found), reverse=True):
        if all(one[1] > other[1] for other in kept):
            kept.append(one)
    return tuple(kept)


def friction_arm(friction: float, ball: float) -> float:
    """Moment by which a ball's friction bends what turns it, of each newton on the joint [mm].

    Args:
        friction: of the ball in its race.
        ball: its diameter [mm].
    """
    return friction * ball / 2


def endurance(
    stress_range: float, detail_class: float, *, shear: bool = False, partial: float = PARTIAL, spectrum: bool = False,
    metal: Classes = STEEL,
) -> float:  # fmt: skip
    """Cycles to failure of one stress range: direct stress by slopes 3 and 5, shear by slope 5; `FOR_EVER` where the class has no end.

    Args:
        stress_range: [MPa]
        detail_class: at 2 million cycles [MPa].
        shear: a shear stress.
        partial: factor on the range.
        spectrum: one of several ranges: those under the constant-amplitude limit count down to the cut-off. By itself a direct range under
            the limit does no harm.
        metal: whose line it is.
    """
    factored = stress_range * partial
    if factored <= 0:
        return FOR_EVER
    if shear:
        return (
            FOR_EVER
            if factored <= SHEAR_CUT_OFF * detail_class
            else min(FOR_EVER, AT_CLASS * (detail_class / factored) ** 5)
        )
    limit = metal.limit * detail_class
    if factored >= limit:
        return AT_CLASS * (detail_class / factored) ** 3
    if not spectrum or factored <= metal.cut_off * limit:
        return FOR_EVER
    return min(FOR_EVER, metal.knee * (limit / factored) ** 5)


def life(
    full_range: float, detail_class: float, spectrum: Spectrum = FULL, *, shear: bool = False, partial: float = PARTIAL,
    metal: Classes = STEEL,
) -> float:  # fmt: skip
    """Cycles of a spectrum to failure, by Miner’s sum.

    Args:
        full_range: stress range of the fullest cycle [MPa].
        detail_class: at 2 million cycles [MPa].
        spectrum: of all cycles the share at each fraction of the full range.
        shear: a shear stress.
        partial: factor on the ranges.
        metal: whose line it is.
    """
    most = max((fraction for share, fraction in spectrum if share > 0), default=1.0)
    # as soon as one range is over the limit, those under it do harm too
    several = len(spectrum) > 1 and full_range * most * partial > metal.limit * detail_class
    used = 0.0
    for share, fraction in spectrum:
        n = endurance(full_range * fraction, detail_class, shear=shear, partial=partial, spectrum=several, metal=metal)
        if n < FOR_EVER:
            used += share / n
    return FOR_EVER if used <= 0 else min(FOR_EVER, 1 / used)


@dataclass(frozen=True, slots=True, kw_only=True)
class Screened:
    """A detail under a stress range [MPa]."""

    stress_range: float
    detail_class: float
    limit: float  # constant-amplitude, divided by the partial factor
    cycles: float  # to failure by the class's line, of ranges above the limit; inf at or below it

    @property
    def utilisation(self) -> float:
        """Range over limit."""
        return self.stress_range / self.limit


def screen(stress_range: float, detail_class: float, partial: float = PARTIAL) -> Screened:
    """A stress range against the constant-amplitude limit of a detail class.

    Args:
        stress_range: of an everyday cycle [MPa].
        detail_class: at 2 million cycles [MPa].
        partial: factor on the resistance.
    """
    limit = LIMIT_OF_CLASS * detail_class / partial
    cycles = inf if stress_range <= limit else AT_CLASS * (detail_class / partial / stress_range) ** 3
    return Screened(stress_range=stress_range, detail_class=detail_class, limit=limit, cycles=cycles)


def thread_class(diameter: float) -> float:
    """Of a thread in tension; large ones are weaker [MPa]."""
    return float(THREAD_CLASS * min(1.0, (30.0 / diameter) ** 0.25))


@dataclass(frozen=True, slots=True, kw_only=True)
class Round:
    """What carries a pull and a bending moment alike all round: stress of each newton [1/mm²] and of each newton millimetre [1/mm³]."""

    pull: float
    bend: float

    def stress(self, pull: float, moment: float) -> float:
        """Range at the fibre where both add [MPa].

        Args:
            pull: range of the force [N].
            moment: range of the moment [N·mm].
        """
        return pull * self.pull + moment * self.bend


def of_thread(thread: Thread) -> Round:
    """A thread on its stress area, as its class asks."""
    area = thread.stress_area
    return Round(pull=1 / area, bend=32 / (pi * (4 * area / pi) ** 1.5))


def of_tube(section: Section) -> Round:
    """A tube’s wall."""
    return Round(pull=1 / section.area, bend=section.od / 2 / section.second_moment)


def of_ring(diameter: float, throat: float) -> Round:
    """A fillet all round, as a line (Blodgett).

    Args:
        diameter: of the ring [mm].
        throat: of the fillet [mm].
    """
    return Round(pull=1 / (pi * diameter * throat), bend=4 / (pi * diameter**2 * throat))


def screened_end(
    force_range: float, designation: str, section: Section, leg: float, partial: float = PARTIAL, *, moment_range: float = 0.0
) -> dict[str, Screened]:  # fmt: skip
    """The details of an insert welded into a tube with a joint screwed into it: "thread" (root), "toe" (of its weld, in the tube), "throat".

    Args:
        force_range: most less least axial force of an everyday cycle [N].
        designation: of the thread.
        section: of the tube.
        leg: of the ring weld [mm].
        partial: factor on the range.
        moment_range: that bends it beside the force, of the joint’s friction [N·mm].
    """
    t = parse_thread(designation)
    details = {
        "thread": (of_thread(t), thread_class(t.major)), "toe": (of_tube(section), TOE_CLASS),
        "throat": (of_ring(section.od, THROAT_OF_LEG * leg), THROAT_CLASS),
    }  # fmt: skip
    return {
        name: screen(where.stress(force_range, moment_range), grade, partial)
        for name, (where, grade) in details.items()
    }


def worst_detail(found: dict[str, Screened]) -> str:
    """The detail with the largest share of its limit."""
    return max(found, key=lambda name: found[name].utilisation)
