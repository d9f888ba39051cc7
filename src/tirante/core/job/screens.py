"""What gives first of each corner, and the fatigue screen of everyday cycles, over all parts whatever their kind."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from math import isfinite
from typing import Any

from tirante.core.checks.first_to_give import Order, order_of
from tirante.core.checks.kinds import tells_life
from tirante.core.checks.shown import left_out
from tirante.core.job.worked import Worked
from tirante.core.members.fatigue import screened_end, worst_detail
from tirante.core.members.tube import Section
from tirante.core.parts.part import Part
from tirante.core.parts.registry import kind_of

DETAILS = {"thread": "thread root", "toe": "tube at the insert’s weld", "throat": "insert’s weld"}


@dataclass(frozen=True, slots=True, kw_only=True)
class FatigueScreen:
    """A part's everyday force range and the detail that it asks most of."""

    part_id: str
    name: str
    range: float  # [N]
    detail: str
    share: float  # of the constant-amplitude limit
    cycles: float | None  # to failure by the detail's class; None below its limit
    data: Mapping[str, Any]  # as `calc fatigue` takes it


@dataclass(frozen=True, slots=True, kw_only=True)
class Corner:
    """One end of the car, or what belongs to none."""

    name: str
    order: Order
    fatigue: tuple[FatigueScreen, ...]
    not_screened: tuple[str, ...]  # parts with loads of which nothing says how long they last


def corners(job: Worked) -> list[Corner]:
    """Of each end its parts in the order in which they give, and how they stand to everyday cycles."""
    parts = job.parts
    groups: list[tuple[str, list[Part]]] = [
        (end.name, [part for part in parts if _end_of(part, job) == end.id]) for end in job.design.ends
    ]
    groups.append(("Other parts", [part for part in parts if _end_of(part, job) is None]))
    out = []
    for name, own in groups:
        if not own:
            continue
        screens = {part.id: screen for part in own if (screen := fatigue_of(part, job))}
        missing = [
            p.name
            for p in own
            if p.id not in screens and any(c.case for c in p.checks) and not any(tells_life(c.key) for c in p.checks)
        ]
        order, told = order_of(own), left_out(list(dict.fromkeys(one for part in own for one in part.not_carried)))
        out.append(
            Corner(name=name, order=replace(order, sentence=f"{order.sentence} {told}".strip()), fatigue=tuple(screens.values()), not_screened=tuple(missing))
        )  # fmt: skip
    return out


def _end_of(part: Part, job: Worked) -> str | None:
    """The end that a part belongs to; a bracket to that of the first thing it holds."""
    own = part.saved.of_end
    if own is None:
        for joint in job.held_by(part.id):
            held = job.held_end(joint)
            if held is not None and held.of_end:
                own = held.of_end
                break
    return own if own in job.ends else None


def fatigue_of(part: Part, job: Worked) -> FatigueScreen | None:
    """A part's screen; None where it is not complete or nothing says what it goes through.

    Args:
        part: worked out.
        job: that it belongs to.
    """
    if not part.complete:
        return None
    everyday = kind_of(part.saved).everyday(part, job)
    if everyday is None:
        return None
    data = everyday.details
    found = screened_end(
        everyday.range, data["designation"], Section(od=data["od_mm"], wall=data["wall_mm"]), data["leg_mm"],
        moment_range=data["moment_range_nmm"],
    )  # fmt: skip
    worst = worst_detail(found)
    cycles = found[worst].cycles
    return FatigueScreen(
        part_id=part.id, name=part.name, range=everyday.range, detail=DETAILS[worst], share=found[worst].utilisation,
        cycles=cycles if isfinite(cycles) else None, data=data,
    )  # fmt: skip
