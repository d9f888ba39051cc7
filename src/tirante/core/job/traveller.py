"""How far a part is made, by the steps that were ticked: what it is by now, what comes next, what waits for somebody else.

A part that is a pair is ticked hand by hand. Ticks name the metal that the part had: of other metal they count for nothing here, and are told.
"""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass
from typing import Protocol

BECOMES = {
    "have": "at hand", "saw": "sawn", "notch": "notched", "cut": "cut", "drill": "drilled", "bend": "bent", "turn": "turned", "tack": "tacked",
    "check": "tacked and checked", "cycle": "cycled on the car", "back": "back in the jig", "second": "tacked and looked at twice", "preheat": "preheated",
    "weld": "welded", "cool": "welded and cold", "inspect": "welded and looked at", "wait": "welded, waited for", "crack": "crack-tested", "ream": "reamed",
    "measure": "measured again", "passed": "passed", "prime": "primed", "paint": "painted", "fit": "fitted", "torque": "torqued", "witness": "marked",
    "seen": "fitted and looked at twice", "outing": "seen to after the first outing",
}  # what a part is by the furthest step that is done, by its kind  # fmt: skip


class AStep(Protocol):
    """A step, as it is told."""

    @property
    def key(self) -> str:
        """Its own within its part."""

    @property
    def kind(self) -> str:
        """Of the table of kinds."""

    @property
    def title(self) -> str:
        """In words."""

    @property
    def hold(self) -> bool:
        """Whether it is signed by somebody else."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Stands:
    """How one hand of a part stands."""

    is_now: str  # in a word or two; empty: nothing is done yet
    done: int
    of: int
    next: str  # title of the first step that is not done; empty: all are
    waits: bool  # whether that is to be signed by somebody else
    left_out: tuple[str, ...]  # titles of steps that are not ticked though a later one is
    unsigned: tuple[str, ...]  # of those, holds


def stands(steps: Sequence[AStep], done: Collection[str]) -> Stands:
    """How far it is made.

    Args:
        steps: of the part, in the order of the work.
        done: keys of those that are ticked or signed.
    """
    furthest = max((i for i, step in enumerate(steps) if step.key in done), default=-1)
    open_ = [step for step in steps if step.key not in done]
    before = [step for step in steps[: furthest + 1] if step.key not in done]
    following = open_[0] if open_ else None
    return Stands(
        is_now=BECOMES[steps[furthest].kind] if furthest >= 0 else "", done=len(steps) - len(open_), of=len(steps),
        next=following.title if following else "", waits=bool(following and following.hold), left_out=tuple(step.title for step in before),
        unsigned=tuple(step.title for step in before if step.hold),
    )  # fmt: skip


def shut_by(steps: Sequence[AStep], key: str, signed: Collection[str]) -> str:
    """The hold that a step waits for: title of the first one before it that nobody signed; empty where it is open.

    Args:
        steps: of the part, in the order of the work.
        key: of the step.
        signed: keys of holds that are signed.
    """
    for step in steps:
        if step.key == key:
            return ""
        if step.hold and step.key not in signed:
            return step.title
    return ""
