"""Checks of a frame's tubes, each a result with the line that reproduces it."""

from __future__ import annotations

from collections.abc import Callable

from tirante.core.checks.kinds import CHECKS, Asked, asked
from tirante.core.checks.result import CheckResult, Reproduction
from tirante.core.document.settings import DesignFactors
from tirante.core.parts.welded.cases import C, stem_of
from tirante.core.parts.welded.judged import TubeForces

Again = Callable[[C, int, str], Reproduction]  # a case, a stretch, an output of `calc arm`


def result(
    kind: Asked, demand: float, capacity: float, case: str, reproduce: Reproduction | None, note: str = "", use: float | None = None
) -> CheckResult:  # fmt: skip
    """A check by its demand and capacity.

    Args:
        kind: what is asked.
        demand: factored.
        capacity: in the same unit.
        case: that asks most.
        reproduce: the line that repeats it.
        note: in words.
        use: of the capacity, where it is no plain ratio.
    """
    share = demand / capacity if use is None else use
    return CheckResult(
        key=kind.key, name=kind.name, part=kind.part, demand=demand, capacity=capacity, unit=kind.unit, utilisation=share, passed=share <= 1.0,
        case=case, factor=kind.factor, factor_name=kind.factor_name, formula=kind.formula, source=kind.source, reproduce=reproduce, note=note,
    )  # fmt: skip


def _of_tube(key: str, one: TubeForces, factors: DesignFactors) -> Asked:
    stem = stem_of(one.name)
    return asked(key, "tube", factors, of=stem, name=f"{stem[0].upper()}{stem[1:]} {CHECKS[key].name}")


def weld_check(one: TubeForces, frame: C, strength: float, factors: DesignFactors, again: Again[C]) -> CheckResult:
    """A tube at its welds.

    Args:
        one: the stretch that is asked most of.
        frame: in its case.
        strength: as-welded yield [MPa].
        factors: the design’s.
        again: the line that repeats a figure.
    """
    kind = _of_tube("frame_weld", one, factors)
    repeats = again(frame, frame.names.index(one.name), "utilisation")
    return result(kind, one.stress * kind.factor, strength, one.case, repeats, told(one), one.weld_use)


def column_check(one: TubeForces, frame: C, factors: DesignFactors, again: Again[C]) -> CheckResult:
    """A tube as a column that bends.

    Args:
        one: the stretch that is asked most of.
        frame: in its case.
        factors: the design’s.
        again: the line that repeats a figure.
    """
    repeats = again(frame, frame.names.index(one.name), "column_and_bending")
    return result(
        _of_tube("frame_column", one, factors), one.column_use, 1.0, one.case, repeats, told(one), one.column_use
    )


def told(one: TubeForces) -> str:
    """What a stretch carries, in words."""
    where = one.name.split(", ")[1] + ", " if "," in one.name else ""
    pull = "pulled" if one.axial >= 0 else "pushed"
    return f"{where}{pull} {abs(one.axial) / 1000:.1f} kN, bent {one.moment / 1000:.0f} N·m, twisted {one.torsion / 1000:.0f} N·m"
