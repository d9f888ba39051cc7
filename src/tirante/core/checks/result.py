"""What a check comes to: its worst load case, demand and capacity, source, and the line that reproduces it."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass, field
from math import inf
from typing import Any

from tirante.core.checks.kinds import Asked
from tirante.core.loads.case_seen import CaseSeen


@dataclass(frozen=True, slots=True, kw_only=True)
class Reproduction:
    """Which calculation gives a figure: topic, its input, and the output field that is the figure."""

    topic: str
    input: dict[str, Any]
    output: str  # dotted path
    figure: str  # "capacity" or "demand"


@dataclass(frozen=True, slots=True, kw_only=True)
class CheckResult:
    """One check, its worst load case. Utilisation 1 is the limit; `passed` is decided on the unrounded value."""

    key: str
    name: str
    part: str
    demand: float
    capacity: float
    unit: str
    utilisation: float | None  # None: no load asks for it
    passed: bool
    case: str | None
    factor: float
    factor_name: str
    formula: str
    source: str
    reproduce: Reproduction | None
    note: str = ""
    at: str = ""  # the travel position of the case, in words; empty for a typed one


@dataclass(frozen=True, slots=True, kw_only=True)
class Try:
    """One case of it: demand against capacity, and the calculation that gives the figure."""

    demand: float
    capacity: float
    topic: str
    input: dict[str, Any]
    output: str
    figure: str = "capacity"
    utilisation: float | None = field(default=None)
    note: str = ""
    unit: str | None = None  # when the figure is not in the check's usual unit


def weakest_first(results: Iterable[CheckResult]) -> tuple[CheckResult, ...]:
    """By utilisation, those that nothing asks for last."""
    return tuple(sorted(results, key=lambda r: -(r.utilisation if r.utilisation is not None else -1.0)))


def weaker_of_each(results: Iterable[CheckResult]) -> list[CheckResult]:
    """What is checked at several places gives each check several times; the weakest place's is kept, under that place's name."""
    by_key: dict[str, CheckResult] = {}
    for result in results:
        other = by_key.get(result.key)
        if other is None or (result.utilisation or -1) > (other.utilisation or -1) + 1e-12:
            by_key[result.key] = result
    return list(by_key.values())


def ratio_of(demand: float, capacity: float) -> float:
    """Demand over capacity, of one unit; without end where there is no capacity."""
    return inf if capacity <= 0 < demand else 0.0 if demand <= 0 else demand / capacity


def worst_of(kind: Asked, cases: Iterable[CaseSeen], attempt: Callable[[CaseSeen], Try | None]) -> CheckResult:
    """The case that asks most.

    Args:
        kind: what is asked.
        cases: what the part sees.
        attempt: of a case, demand against capacity; None where it asks nothing.

    Returns:
        The result of the worst case; utilisation None when no case asks for it.
    """
    best: tuple[float, CaseSeen, Try] | None = None
    for case in cases:
        tried = attempt(case)
        if tried is None:
            continue
        ratio = tried.utilisation if tried.utilisation is not None else ratio_of(tried.demand, tried.capacity)
        if best is None or ratio > best[0]:
            best = (ratio, case, tried)
    if best is None:
        return CheckResult(
            key=kind.key, name=kind.name, part=kind.part, demand=0.0, capacity=0.0, unit=kind.unit, utilisation=None,
            passed=True, case=None, factor=kind.factor, factor_name=kind.factor_name, formula=kind.formula,
            source=kind.source, reproduce=None, note="no load case asks for it",
        )  # fmt: skip
    ratio, case, tried = best
    ratio = min(ratio, 1e6)  # finite for every reader
    return CheckResult(
        key=kind.key, name=kind.name, part=kind.part, demand=tried.demand, capacity=tried.capacity,
        unit=tried.unit or kind.unit, utilisation=ratio, passed=ratio <= 1.0, case=case.name, at=case.at, factor=kind.factor, factor_name=kind.factor_name,
        formula=kind.formula, source=kind.source, note=tried.note,
        reproduce=Reproduction(topic=tried.topic, input=tried.input, output=tried.output, figure=tried.figure),
    )  # fmt: skip
