"""The stack of a link along its axis: eye, shank, jam nut, insert, tube; engagement, saw length and adjuster travel.

A shank of length B from eye centre to its end, threaded for A, goes e into an insert whose shoulder stands s out of
the tube, locked by a nut of thickness j. Thread showing behind the locked nut x = A − e − j. The tube's face is
B − e + s from the eye. An end that does not adjust takes its own face-to-centre length.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import inf
from typing import Literal

from tirante.core.errors import InputError

School = Literal["centred", "buried", "exposure"]
Hand = Literal["RH", "LH"]
BURIED_PITCHES = 2  # threads left showing by the buried school; common practice, no source
_ROUNDING = 1e-9  # mm


@dataclass(frozen=True, slots=True, kw_only=True)
class AdjustableEnd:
    """A threaded end as bought, with the engagement it must keep [mm]."""

    pitch: float
    thread_length: float  # A, full thread
    eye_to_shank_end: float  # B
    jam_nut: float  # j
    shoulder: float  # s
    min_engagement: float
    insert_depth: float | None = None  # full thread in the insert
    open_back: bool = False  # the insert is tapped through: a shank that comes out at the back does not bottom
    hand: Hand | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class FixedEnd:
    """An end that does not adjust: bush sleeve, cup, welded clevis."""

    centre_to_face: float  # [mm]


End = AdjustableEnd | FixedEnd


@dataclass(frozen=True, slots=True, kw_only=True)
class EndState:
    """One end as set, before the adjuster is turned; a fixed end has no engagement and no travel [mm]."""

    face_from_centre: float  # tube face to eye centre
    engagement: float | None
    showing: float | None
    adjust_in: float
    adjust_out: float
    max_showing: float | None  # go/no-go: more than this and the engagement is short
    ok: bool
    reasons: tuple[str, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class LinkStack:
    """A link's lengths along its axis [mm]."""

    centre_to_centre: float
    tube_cut: float
    ends: tuple[EndState, EndState]
    shortest: float
    longest: float
    per_turn: float | None  # a right/left-hand pair, per turn of the link
    per_half_turn: float | None  # single adjustable ends, per half turn of the end
    turns_in: float  # of the link (pair) or of one end, until the first limit
    turns_out: float

    @property
    def step(self) -> float | None:
        """What one turn of the link (pair) or of one end changes the length by [mm]; None: nothing turns."""
        if self.per_turn is not None:
            return self.per_turn
        return None if self.per_half_turn is None else 2 * self.per_half_turn

    def runs_out(self, turns: float) -> Literal["in", "out"] | None:
        """Which end of the thread a turn out (+) or in (−) goes past, if any."""
        if turns > self.turns_out + _ROUNDING:
            return "out"
        return "in" if -turns > self.turns_in + _ROUNDING else None

    @property
    def ok(self) -> bool:
        """Both ends hold their minimum and do not bottom."""
        return all(end.ok for end in self.ends)


def _set_end(end: End, school: School, showing: float | None, name: str) -> EndState:
    if isinstance(end, FixedEnd):
        return EndState(
            face_from_centre=end.centre_to_face, engagement=None, showing=None, adjust_in=0.0, adjust_out=0.0,
            max_showing=None, ok=True, reasons=(),
        )  # fmt: skip
    if end.thread_length > end.eye_to_shank_end:
        raise InputError(
            f"The thread ({end.thread_length:g} mm) is longer than the shank it is cut on ({end.eye_to_shank_end:g} mm "
            "from the eye). Check the two lengths.",
            code="contradictory",
            fields=(f"{name}.thread_length_mm",),
            value=end.thread_length,
            limits=(None, end.eye_to_shank_end),
        )
    room = end.thread_length - end.jam_nut
    if school == "centred":
        engagement = end.min_engagement + (room - end.min_engagement) / 2
    else:
        shown = BURIED_PITCHES * end.pitch if showing is None else showing
        engagement = room - shown
    if engagement <= 0:
        raise InputError(
            "Nothing of the thread is left for the insert. Show less thread, use a thinner nut or a longer shank.",
            code="contradictory",
            fields=(f"{name}.thread_length_mm",),
            value=end.thread_length,
        )
    x = room - engagement
    reasons = []
    if x < -_ROUNDING:
        reasons.append(
            f"the thread is {-x:.2f} mm too short for the nut and the minimum engagement: use a longer shank, a "
            "thinner nut or accept less engagement where the load allows"
        )
    if engagement < end.min_engagement - _ROUNDING:
        reasons.append(f"{engagement:.2f} mm engaged, {end.min_engagement:.2f} mm needed: show less thread")
    depth = inf if end.insert_depth is None else end.insert_depth
    if depth < end.min_engagement - _ROUNDING:
        reasons.append(
            f"the insert has {depth:.2f} mm of thread, {end.min_engagement:.2f} mm are needed: use a deeper insert"
        )
    bottom = inf if end.open_back else depth
    if engagement > bottom + _ROUNDING:
        reasons.append(
            f"the shank bottoms: {engagement:.2f} mm in a thread {depth:.2f} mm deep. Show "
            f"{engagement - depth:.2f} mm more thread or use a deeper insert"
        )
    return EndState(
        face_from_centre=end.eye_to_shank_end - engagement + end.shoulder,
        engagement=engagement,
        showing=x,
        adjust_in=max(0.0, min(x, bottom - engagement)),
        adjust_out=max(0.0, engagement - end.min_engagement),
        max_showing=end.thread_length - end.min_engagement - end.jam_nut,
        ok=not reasons,
        reasons=tuple(reasons),
    )


def link_stack(
    centre_to_centre: float, ends: Sequence[End], school: School = "centred", showing: float | None = None
) -> LinkStack:
    """Saw length, engagement and adjuster travel of a two-ended link.

    Two threaded ends of opposite hand (or unstated) are a pair: turning the link moves both, together, until the first
    reaches its limit. Of the same hand they are two single adjusters. One threaded end adjusts by half turns.

    Args:
        centre_to_centre: pivot to pivot as built [mm]
        ends: exactly two.
        school: how much thread shows as built.
        showing: thread showing for "exposure" (required) or "buried" (default two pitches) [mm]

    Returns:
        The stack.

    Raises:
        InputError: no tube is left between the ends, thread lengths contradict, or the exposure is missing.

    Source:
        Geometry (derived); two threads showing for "buried": common practice, no source.
    """
    if len(ends) != 2:
        raise InputError("A link has two ends.", fields=("ends",), value=len(ends))
    if school == "exposure" and showing is None:
        raise InputError("A fixed exposure needs the length of thread to show.", code="missing", fields=("showing_mm",))
    shown = None if school == "centred" else showing
    first, second = (_set_end(end, school, shown, f"ends.{i}") for i, end in enumerate(ends))
    return _stacked(centre_to_centre, ends, (first, second))


def as_set(centre_to_centre: float, ends: Sequence[End], showing: Sequence[float | None]) -> LinkStack:
    """The stack of a link whose threads are set by hand: each end shows its own length, and the tube is what is left.

    Args:
        centre_to_centre: pivot to pivot [mm]
        ends: exactly two.
        showing: thread showing behind each end's nut [mm]; None for an end that does not adjust.

    Raises:
        InputError: an end has nothing left in its insert, or no tube is left between them.

    Source:
        Geometry (derived).
    """
    first, second = (
        _set_end(end, "exposure", shown, f"ends.{i}") for i, (end, shown) in enumerate(zip(ends, showing, strict=True))
    )
    return _stacked(centre_to_centre, ends, (first, second))


def _stacked(centre_to_centre: float, ends: Sequence[End], states: tuple[EndState, EndState]) -> LinkStack:
    first, second = states
    tube_cut = centre_to_centre - first.face_from_centre - second.face_from_centre
    if tube_cut <= 0:
        needed = first.face_from_centre + second.face_from_centre
        raise InputError(
            f"The two ends alone take {needed:.2f} mm, so no tube is left in {centre_to_centre:g} mm between the "
            "pivots. Use shorter ends or join them directly.",
            code="too_short",
            fields=("centre_to_centre_mm",),
            value=centre_to_centre,
            limits=(needed, None),
        )
    per_turn, per_half, turns_in, turns_out, shortest, longest = _travel(ends, (first, second))
    return LinkStack(
        centre_to_centre=centre_to_centre, tube_cut=tube_cut, ends=(first, second),
        shortest=centre_to_centre - shortest, longest=centre_to_centre + longest,
        per_turn=per_turn, per_half_turn=per_half, turns_in=turns_in, turns_out=turns_out,
    )  # fmt: skip


def _travel(
    ends: Sequence[End], states: tuple[EndState, EndState]
) -> tuple[float | None, float | None, float, float, float, float]:
    threaded = [(end, state) for end, state in zip(ends, states, strict=True) if isinstance(end, AdjustableEnd)]
    if not threaded:
        return None, None, 0.0, 0.0, 0.0, 0.0
    turns_in = min(state.adjust_in / end.pitch for end, state in threaded)
    turns_out = min(state.adjust_out / end.pitch for end, state in threaded)
    hands = {end.hand for end, _ in threaded}
    if len(threaded) == 2 and (len(hands) == 2 or hands == {None}):
        per_turn = sum(end.pitch for end, _ in threaded)
        return per_turn, None, turns_in, turns_out, turns_in * per_turn, turns_out * per_turn
    shortest = sum(state.adjust_in for _, state in threaded)
    longest = sum(state.adjust_out for _, state in threaded)
    return None, threaded[0][0].pitch / 2, turns_in, turns_out, shortest, longest
