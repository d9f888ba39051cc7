"""What gives first: of each corner, the parts in order of how many times the worst load they bear before they fail.

A tube should bend before a joint, a thread or a weld lets go: what fails without warning first is pointed out.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Protocol

from tirante.core.checks.shown import CheckOut

BENDS = frozenset(
    [
        "column",
        "column_aisc",
        "stepped",
        "bowed",
        "net",
        "shank_bending",
        "tab_foot",
        "tab_yield",
        "tab_bearing",
        "pin_bending",
        "weld",
        "gusset",
        "stud",
        "machined_bearing",
        "machined_yield",
        "machined_pin",
        "splice_bending",
        "splice_net",
        "tapped_wall",
        "box_stress",
        "box_column",
        "box_plates",
    ]
)


SNAPS = frozenset(
    [
        "thread_tension",
        "strip_insert",
        "strip_shank",
        "joint",
        "joint_side",
        "insert_weld",
        "pin_shear",
        "tab_tension",
        "tab_tearout",
        "tab_weld",
        "pull_out",
        "machined_tension",
        "machined_tearout",
        "spigot_weld",
        "splice_weld",
        "box_seams",
    ]
)


NOT_CHECKED_BESIDE = (
    "steering arms",
    "stub axles",
    "uprights",
    "the axle's housing and its brackets",
    "the frame at the pick-up points",
)


class Checked(Protocol):
    """A link or an arm with its checks."""

    @property
    def id(self) -> str:
        """Of the part."""

    @property
    def name(self) -> str:
        """Of the part."""

    @property
    def checks(self) -> list[CheckOut]:
        """All of it."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Gives:
    """One way a part of a link gives."""

    link_id: str
    link: str
    part: str
    check: str
    key: str  # of the check
    case: str
    times: float  # the worst unfactored load, until it gives; of second-order checks approximately
    how: str  # "bends" or "lets go"


@dataclass(frozen=True, slots=True, kw_only=True)
class Order:
    """The parts of some links, weakest first, each part once."""

    gives: tuple[Gives, ...]
    brittle_first: bool
    sentence: str


def order_of(links: Sequence[Checked]) -> Order:
    """Rank every part of the links and arms by its least multiple of the worst load."""
    weakest: dict[tuple[str, str], Gives] = {}
    for link in links:
        for check in link.checks:
            kind = check.key.split(":")[0]  # of an arm each tube has its own
            if not check.utilisation or check.case is None or kind not in BENDS | SNAPS:
                continue
            found = Gives(
                link_id=link.id, link=link.name, part=check.part, check=check.name, key=check.key, case=check.case,
                times=check.factor / check.utilisation, how="bends" if kind in BENDS else "lets go",
            )  # fmt: skip
            key = (link.id, check.part)
            if key not in weakest or found.times < weakest[key].times:
                weakest[key] = found
    ranked = tuple(sorted(weakest.values(), key=lambda one: one.times))
    if not ranked:
        return Order(
            gives=(), brittle_first=False, sentence="No link has a load yet, so nothing says what gives first."
        )
    first = ranked[0]
    brittle = first.how == "lets go"
    sentence = f"First: {first.part} of {first.link}, {first.check[:1].lower()}{first.check[1:]}, at {first.times:.1f} times the load of “{first.case}”."
    if brittle:
        bending = next((one for one in ranked if one.how == "bends"), None)
        sentence += (
            " It lets go without bending first: a stronger joint, thread or weld there, or a tube that bends before it."
        )
        if bending:
            sentence += f" The first to bend is {bending.part} of {bending.link}, at {bending.times:.1f}."
    return Order(gives=ranked, brittle_first=brittle, sentence=sentence)
