"""The case that asks most of a part that is seen whole in each: its demand, the line that repeats it, its capacity."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Protocol, TypeVar

from tirante.core.checks.kinds import Asked
from tirante.core.checks.result import CheckResult, Reproduction, ratio_of

NOTHING = 1e-9  # less than this asks for nothing


class Case(Protocol):
    """A case with its position, in words."""

    @property
    def case(self) -> str:
        """Its name."""

    @property
    def where(self) -> str:
        """Its position."""


S = TypeVar("S", bound=Case)
Tried = tuple[float, Reproduction | None, float]


def worst_case(kind: Asked, cases: Sequence[S], tried: Callable[[S], Tried]) -> CheckResult:
    """The result of the case that asks most.

    Args:
        kind: what is asked.
        cases: one at least.
        tried: of a case, demand, the line that repeats the figure, capacity.
    """
    found = [(tried(one), one) for one in cases]
    (demand, again, capacity), one = max(found, key=lambda pair: ratio_of(pair[0][0], pair[0][2]))
    ratio, asks = ratio_of(demand, capacity), demand > NOTHING
    return CheckResult(
        key=kind.key, name=kind.name, part=kind.part, demand=demand, capacity=capacity, unit=kind.unit, utilisation=ratio if asks else None, passed=ratio <= 1.0,
        case=one.case if asks else None, factor=kind.factor, factor_name=kind.factor_name, formula=kind.formula, source=kind.source, reproduce=again,
        note="" if asks else "no load case asks for it", at=one.where if asks else "",
    )  # fmt: skip
