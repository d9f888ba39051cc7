"""The job's parts as adjusters: what their turns do, the shortest set of turns, and what thread is left at either end of the range."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

from tirante import ENGINE_VERSION
from tirante.core.document.settings import Settings
from tirante.core.errors import InputError
from tirante.core.job.worked import Worked
from tirante.core.parts.adjusters import EndLeft, JobAdjuster, ends_at
from tirante.core.parts.part import fingerprint
from tirante.core.parts.registry import kind_of

if TYPE_CHECKING:
    from tirante.core.suspension.cycle import Solved
    from tirante.core.suspension.turns import Adjuster, Turned, TurnSet, Wanted


def adjusters_of(job: Worked, end_id: str) -> tuple[list[JobAdjuster], list[str]]:
    """What turns at an end, and what of its parts does not, each with the reason.

    Args:
        job: worked out.
        end_id: of the end.

    Raises:
        InputError: the end cannot be put together.
    """
    from tirante.core.suspension.changed import arm_sides

    done = job.at_ride(end_id)
    names = [link.name for link in done.left.assembled.links] + list(arm_sides(done.left.assembled))
    found: list[JobAdjuster] = []
    fixed: list[str] = []
    for part in job.parts:
        if part.saved.of_end == end_id:
            own, why = kind_of(part.saved).adjusters(part, names, job)
            found += own
            fixed += why
    return found, fixed


def sheet_of(job: Worked, end_id: str, adjusters: Sequence[Adjuster]) -> list[Turned]:
    """What each adjuster does, worked out once while only what is wanted changes.

    Args:
        job: worked out.
        end_id: of the end.
        adjusters: of it.

    Raises:
        InputError: the end cannot be put together.
    """

    def work() -> list[Turned]:
        from tirante.core.suspension.turns import turn_sheet

        return turn_sheet(job.at_ride(end_id), adjusters)

    key = fingerprint([ENGINE_VERSION, job.ends[end_id].model_dump_json(), [(a.link, a.kind, a.mm) for a in adjusters]])
    return job.memory.get("turns", key, work)


@dataclass(frozen=True, slots=True, kw_only=True)
class Budget:
    """What an adjuster is asked over the wanted range, and what thread that leaves."""

    adjuster: JobAdjuster
    shortest: float  # turns
    longest: float
    at_shortest: tuple[EndLeft, ...]
    at_longest: tuple[EndLeft, ...]

    @property
    def ok(self) -> bool:
        """Every end holds at both ends of the range."""
        return all(end.ok for end in (*self.at_shortest, *self.at_longest))


HELD = (("toe_deg", "camber_deg", "caster_deg", "pinion_change_deg"), ("toe_deg",), ())
# of a beam, whose wheels one adjuster moves both: its toe as a whole, where both wheels point, and where the axle stands
HELD_OF_BEAM = (
    ("total_toe_deg", "straight_ahead_deg", "camber_deg", "caster_deg", "pinion_change_deg", "axle_steer_deg", "lateral_shift_mm"),
    ("total_toe_deg", "straight_ahead_deg", "axle_steer_deg"), ("total_toe_deg", "straight_ahead_deg"), ("total_toe_deg",), (),
)  # fmt: skip


HELD_WITHIN = 0.15  # deg
HELD_WITHIN_MM = 1.0


def _of_both(wanted: Sequence[Wanted], beam: bool) -> list[Wanted]:
    """Toe that is wanted of a beam is wanted of each of its wheels: of one alone the other would pay for it."""
    toes = [want for want in wanted if want.measure == "toe_deg"]
    if not beam or len(toes) != 1:
        return list(wanted)
    return [*wanted, replace(toes[0], right=not toes[0].right)]


def turned_to(
    done: Solved, sheet: Sequence[Turned], wanted: Sequence[Wanted], room: Mapping[str, tuple[float, float]] | None = None
) -> TurnSet:  # fmt: skip
    """The shortest set of turns that brings what is wanted.

    First with the rest of the alignment left as it is, in quarter turns and then in twelfths. Where no turns do that, with toe left as it
    is. Where none do that either, whatever the rest becomes.

    Args:
        done: the end at ride height.
        sheet: of the adjusters.
        wanted: changes of measures.
        room: of adjusters, how many turns shorter (negative) and longer they may go.

    Raises:
        InputError: as `shortest_turns`.
    """
    from tirante.core.suspension.turns import FINE_STEPS, NO_END, PAIR_STEPS, Wanted, shortest_turns

    beam = done.left.assembled.beam
    wanted = _of_both(wanted, beam)
    named = {want.measure for want in wanted}
    if "toe_deg" in named and beam:
        named |= {"total_toe_deg", "straight_ahead_deg"}
    found: TurnSet | None = None
    refused: InputError | None = None
    for held in HELD_OF_BEAM if beam else HELD:
        beside = [
            Wanted(measure=m, change=0.0, within=HELD_WITHIN_MM if m.endswith("_mm") else HELD_WITHIN) for m in held
            if m not in named and any(abs(one.change.get(m, 0.0)) > 1e-9 for one in sheet)
        ]  # fmt: skip
        for pair_steps in (PAIR_STEPS, FINE_STEPS):
            try:
                found = shortest_turns(done, sheet, [*wanted, *beside], room, pair_steps=pair_steps)
            except InputError as error:
                if error.code != NO_END:
                    raise
                refused = error
                continue
            if found.reached:
                return found
    if found is None:
        assert refused
        raise refused
    return found


def thread_budget(
    done: Solved, sheet: Sequence[Turned], adjusters: Sequence[JobAdjuster], ranges: Mapping[str, float], settings: Settings
) -> tuple[list[Budget], list[tuple[str, TurnSet]]]:  # fmt: skip
    """Turn the job to either end of every wanted range, the rest of the alignment held where it can be, and see what thread is left.

    Args:
        done: the end at ride height.
        sheet: of the adjusters.
        adjusters: of the job.
        ranges: of measures, plus and minus so much from as built.
        settings: factors.

    Returns:
        A budget for each adjuster, and every corner of the range with its turns ("camber_deg +1.5").
    """
    from tirante.core.suspension.turns import Wanted

    extremes: list[tuple[str, TurnSet]] = []
    measures = [m for m in ranges if any(abs(one.change.get(m, 0.0)) > 1e-9 for one in sheet)]
    for measure in measures:
        for sign in (1.0, -1.0):
            if not ranges[measure]:
                continue
            wanted = [
                Wanted(
                    measure=m, change=sign * ranges[m] if m == measure else 0.0, within=0.1 if m == measure else 0.15
                )
                for m in measures
            ]
            extremes.append((f"{measure} {sign * ranges[measure]:+g}", turned_to(done, sheet, wanted)))
    out = []
    for one in adjusters:
        turns = [found.turns.get(one.adjuster.link, 0.0) for _, found in extremes] or [0.0]
        low, high = min(0.0, *turns), max(0.0, *turns)
        out.append(
            Budget(
                adjuster=one, shortest=low, longest=high, at_shortest=tuple(ends_at(one, low, settings)),
                at_longest=tuple(ends_at(one, high, settings)),
            )
        )  # fmt: skip
    return out, extremes
