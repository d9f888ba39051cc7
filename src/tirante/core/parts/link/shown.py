"""A link's own figures as any client shows them: stack, ends, jig, how a bought one is shortened, what its adjuster does."""

from __future__ import annotations

from math import floor
from typing import Any, Literal

from pydantic import Field

from tirante.core.checks.shown import Out
from tirante.core.document.settings import Settings
from tirante.core.drawing.sheet import Numbers
from tirante.core.members.link_stack import EndState, LinkStack
from tirante.core.parts.cases import CaseOut
from tirante.core.parts.link.assembly import EngagementRules, LinkEndParts, ThreadedEnd, school_of
from tirante.core.parts.link.built import Built
from tirante.core.parts.link.pieces import shortened


class EndOut(Out):
    """One end as built [mm]."""

    hand: str | None
    label: str
    engagement_mm: float | None
    showing_mm: float | None
    adjust_in_mm: float
    adjust_out_mm: float
    max_showing_mm: float | None
    centre_to_face_mm: float
    ok: bool
    reasons: list[str]
    one_diameter_mm: float | None = None
    for_load_mm: float | None = None
    shank_breaks_first_mm: float | None = None
    two_thirds_of_thread_mm: float | None = None
    needed_mm: float | None = None


class StackOut(Out):
    """The link's stack [mm]."""

    school: str
    centre_to_centre_mm: float
    tube_cut_mm: float
    shortest_mm: float
    longest_mm: float
    mm_per_turn: float | None
    mm_per_half_turn: float | None
    turns_in: float
    turns_out: float
    ends: list[EndOut]


class BoughtOut(Out):
    """How a bought link is shortened."""

    cut_at_mm: float = Field(description="of its tube, from the end that stays")
    cut_off_mm: float
    cut_end: str
    keep_end: str
    told: list[str]


class LinkOwn(Out):
    """What only a link has."""

    kind: Literal["link"] = "link"
    length_mm: float
    cases: list[CaseOut] = Field(default=[])
    stack: StackOut | None = None
    bought: BoughtOut | None = None


class AdjusterOut(Out):
    """What turning the adjuster does, in words, and the steps it goes in."""

    step_turns: float
    text: str
    past: bool


def _end_out(end: LinkEndParts, state: EndState, rules: EngagementRules | None) -> EndOut:
    extra: dict[str, Any] = {}
    if rules:
        extra = {
            "one_diameter_mm": rules.one_diameter, "for_load_mm": rules.for_load,
            "shank_breaks_first_mm": rules.shank_breaks_first, "two_thirds_of_thread_mm": rules.two_thirds_of_thread,
            "needed_mm": rules.default,
        }  # fmt: skip
    return EndOut(
        hand=end.hand if isinstance(end, ThreadedEnd) else None,
        label=end.joint.label if isinstance(end, ThreadedEnd) else end.what,
        engagement_mm=state.engagement, showing_mm=state.showing, adjust_in_mm=state.adjust_in,
        adjust_out_mm=state.adjust_out, max_showing_mm=state.max_showing, centre_to_face_mm=state.face_from_centre,
        ok=state.ok, reasons=list(state.reasons), **extra,
    )  # fmt: skip


def stack_out(built: Built, settings: Settings) -> StackOut:
    """The stack, ready to show.

    Args:
        built: the link.
        settings: for the school in force.
    """
    stack = built.stack
    return StackOut(
        school=school_of(built.assembly.link, settings)[0],
        centre_to_centre_mm=stack.centre_to_centre, tube_cut_mm=stack.tube_cut, shortest_mm=stack.shortest,
        longest_mm=stack.longest, mm_per_turn=stack.per_turn, mm_per_half_turn=stack.per_half_turn,
        turns_in=stack.turns_in, turns_out=stack.turns_out,
        ends=[_end_out(e, s, r) for e, s, r in zip(built.assembly.ends, stack.ends, built.rules, strict=True)],
    )  # fmt: skip


def bought_out(built: Built) -> BoughtOut | None:
    """How a bought link is shortened; None for one that is made.

    Args:
        built: the link.
    """
    cut = shortened(built.assembly, built.stack)
    if cut is None:
        return None
    anew = built.assembly.ends["AB".index(cut.cut)]
    after = (
        "Weld a new insert in there."
        if isinstance(anew, ThreadedEnd) and not anew.tapped
        else "Make that end anew there."
    )
    return BoughtOut(
        cut_at_mm=cut.length, cut_off_mm=cut.off, cut_end=cut.cut, keep_end=cut.keep,
        told=[
            f"Measure from the tube’s end at end {cut.keep}, which stays as it is: buy nothing for it.",
            f"Saw square through the tube. What comes off is end {cut.cut}, its thread with it.", after,
        ],
    )  # fmt: skip


def adjuster_out(stack: LinkStack, turns: float, numbers: Numbers) -> AdjusterOut | None:
    """The link turned out (+) or in (−); None when it does not adjust.

    Args:
        stack: of the link.
        turns: of the link itself (a pair) or of one end.
        numbers: how lengths are written.
    """
    if stack.step is None:
        return None
    past = stack.runs_out(turns)
    turned = f"{'+' if turns > 0 else '−'}{abs(turns):g} turns" if turns else "as built"
    if past:
        says = {
            "out": "past the end: too little thread is left in the insert",
            "in": "past the end: it bottoms or the nut is on the eye",
        }[past]
    else:
        left = [floor(limit * 100 + 1e-9) / 100 for limit in (stack.turns_in, stack.turns_out)]
        says = (
            f"{numbers.written(stack.centre_to_centre + turns * stack.step)} pivot to pivot · "
            f"runs out {left[0]:g} turns in, {left[1]:g} turns out"
        )
    return AdjusterOut(
        step_turns=0.25 if stack.per_turn is not None else 0.5, text=f"{turned} · {says}", past=past is not None
    )
