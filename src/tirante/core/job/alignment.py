"""The job's links as adjusters: what their turns do, the shortest set of turns, and what thread is left at either end of the range."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from tirante.core.document.parts.link import Link
from tirante.core.document.settings import Settings
from tirante.core.members.link_stack import LinkStack
from tirante.core.parts.link.assembly import Assembly, ThreadedEnd, stack_end, worst_axial
from tirante.core.suspension.cycle import Solved
from tirante.core.suspension.turns import Adjuster, Turned, TurnSet, Wanted, shortest_turns


@dataclass(frozen=True, slots=True, kw_only=True)
class JobAdjuster:
    """A link of the job, or the side of an arm on a rod end, that adjusts, on one side of the car."""

    link: Link
    assembly: Assembly
    stack: LinkStack
    adjuster: Adjuster
    shorter: float  # turns (or half turns) there are, this way …
    longer: float  # … and that

    @property
    def room(self) -> tuple[float, float]:
        """Least and most turns."""
        return -self.shorter, self.longer


def job_adjuster(link: Link, assembly: Assembly, stack: LinkStack, name: str) -> JobAdjuster | None:
    """How a built link adjusts under the name that its end's mechanism has for it; None when it does not."""
    if stack.per_turn is not None:
        made = Adjuster(link=name, kind="pair", mm=stack.per_turn)
        return JobAdjuster(
            link=link, assembly=assembly, stack=stack, adjuster=made, shorter=stack.turns_in, longer=stack.turns_out
        )
    if stack.per_half_turn is not None:
        made = Adjuster(link=name, kind="one_end", mm=stack.per_half_turn)
        return JobAdjuster(
            link=link, assembly=assembly, stack=stack, adjuster=made, shorter=2 * stack.turns_in, longer=2 * stack.turns_out
        )  # fmt: skip
    return None


@dataclass(frozen=True, slots=True, kw_only=True)
class EndLeft:
    """A threaded end at a number of turns [mm]."""

    end: str  # A or B
    engagement: float
    needed: float
    showing: float
    depth_left: float | None  # of the insert's thread past the shank; None where its depth is not known

    @property
    def ok(self) -> bool:
        """Enough is engaged, the nut has its thread, and the shank does not bottom."""
        return (
            self.engagement >= self.needed - 1e-6
            and self.showing >= -1e-6
            and (self.depth_left is None or self.depth_left >= -1e-6)
        )


def ends_at(one: JobAdjuster, turns: float, settings: Settings) -> list[EndLeft]:
    """Engagement, thread showing and depth left of every threaded end when the link is so many turns longer."""
    out = []
    axial = worst_axial(one.link.cases)
    first = True
    for name, parts, state in zip("AB", one.assembly.ends, one.stack.ends, strict=True):
        if not isinstance(parts, ThreadedEnd):
            continue
        built = stack_end(parts, axial, settings)
        moved = turns * built.pitch if one.adjuster.kind == "pair" else turns * built.pitch / 2 if first else 0.0  # type: ignore[union-attr]
        first = False
        engagement = (state.engagement or 0.0) - moved
        depth = parts.insert.thread_depth_mm
        out.append(
            EndLeft(
                end=name, engagement=engagement, needed=built.min_engagement, showing=(state.showing or 0.0) + moved,  # type: ignore[union-attr]
                depth_left=None if depth is None else depth - engagement,
            )
        )  # fmt: skip
    return out


@dataclass(frozen=True, slots=True, kw_only=True)
class Budget:
    """What a link is asked over the wanted range, and what thread that leaves."""

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


HELD_WITHIN = 0.15  # deg


def turned_to(
    done: Solved, sheet: Sequence[Turned], wanted: Sequence[Wanted], room: Mapping[str, tuple[float, float]] | None = None
) -> TurnSet:  # fmt: skip
    """The shortest set of turns that brings what is wanted and leaves the rest of the alignment; failing that, toe; failing that, only it.

    Raises:
        InputError: as `shortest_turns`.
    """
    named = {want.measure for want in wanted}
    found: TurnSet | None = None
    for held in HELD:
        beside = [
            Wanted(measure=m, change=0.0, within=HELD_WITHIN) for m in held
            if m not in named and any(abs(one.change.get(m, 0.0)) > 1e-9 for one in sheet)
        ]  # fmt: skip
        found = shortest_turns(done, sheet, [*wanted, *beside], room)
        if found.reached:
            return found
    assert found
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
