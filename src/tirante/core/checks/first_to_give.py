"""What gives first: of each corner, the parts in order of how many times the worst load they bear before they fail.

A tube should bend before a joint, a thread or a weld lets go: what fails without warning first is pointed out.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Protocol

from tirante.core.checks.kinds import Gives as Way
from tirante.core.checks.kinds import kind_of
from tirante.core.checks.result import CheckResult

NOT_CHECKED_BESIDE = (
    "steering arms that are no part of the job",
    "stub axles",
    "uprights",
    "the axle's housing and its brackets",
    "the frame at the pick-up points",
)


class Checked(Protocol):
    """A part with its checks."""

    @property
    def id(self) -> str:
        """Of the part."""

    @property
    def name(self) -> str:
        """Of the part."""

    @property
    def checks(self) -> Sequence[CheckResult]:
        """All of it."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Gives:
    """One way a part gives."""

    part_id: str
    of: str  # name of the part
    part: str
    check: str
    key: str  # of the check
    case: str
    times: float  # the worst unfactored load, until it gives; of second-order checks approximately
    how: Way


@dataclass(frozen=True, slots=True, kw_only=True)
class Order:
    """What some parts are made of, weakest first, each piece once."""

    gives: tuple[Gives, ...]
    brittle_first: bool
    sentence: str


def order_of(parts: Sequence[Checked]) -> Order:
    """Rank every piece of the parts by its least multiple of the worst load.

    Args:
        parts: worked out.
    """
    weakest: dict[tuple[str, str], Gives] = {}
    for one in parts:
        for check in one.checks:
            kind = kind_of(check.key)
            if not check.utilisation or check.case is None or kind.gives is None:
                continue
            found = Gives(
                part_id=one.id, of=one.name, part=check.part, check=check.name, key=check.key, case=check.case,
                times=check.factor / check.utilisation, how=kind.gives,
            )  # fmt: skip
            key = (one.id, check.part)
            if key not in weakest or found.times < weakest[key].times:
                weakest[key] = found
    ranked = tuple(sorted(weakest.values(), key=lambda one: one.times))
    if not ranked:
        return Order(
            gives=(), brittle_first=False, sentence="No part has a load yet, so nothing says what gives first."
        )
    first = ranked[0]
    brittle = first.how == "lets go"
    sentence = f"First: {first.part} of {first.of}, {first.check[:1].lower()}{first.check[1:]}, at {first.times:.1f} times the load of “{first.case}”."
    if brittle:
        bending = next((one for one in ranked if one.how == "bends"), None)
        sentence += (
            " It lets go without bending first: a stronger joint, thread or weld there, or a tube that bends before it."
        )
        if bending:
            sentence += f" The first to bend is {bending.part} of {bending.of}, at {bending.times:.1f}."
    return Order(gives=ranked, brittle_first=brittle, sentence=sentence)
