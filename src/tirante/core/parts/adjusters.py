"""What turns on a car: links, and sides of arms on rod ends, with the thread that is left at a number of turns."""

from __future__ import annotations

from dataclasses import dataclass

from tirante.core.document.settings import Settings
from tirante.core.loads.case_seen import worst_axial
from tirante.core.members.link_stack import LinkStack
from tirante.core.parts.link.assembly import Assembly, ThreadedEnd, stack_end
from tirante.core.suspension.turns import Adjuster


@dataclass(frozen=True, slots=True, kw_only=True)
class JobAdjuster:
    """A link of the job, or the side of an arm on a rod end, that adjusts, on one side of the car."""

    part_id: str
    name: str
    assembly: Assembly
    stack: LinkStack
    adjuster: Adjuster
    shorter: float  # turns (or half turns) there are, this way …
    longer: float  # … and that

    @property
    def room(self) -> tuple[float, float]:
        """Least and most turns."""
        return -self.shorter, self.longer


def job_adjuster(part_id: str, called: str, assembly: Assembly, stack: LinkStack, name: str) -> JobAdjuster | None:
    """How a built link adjusts; None when it does not.

    Args:
        part_id: of the part that it is, or is a side of.
        called: what a person calls it.
        assembly: of the link, or of the side seen as a link.
        stack: likewise.
        name: that its end's mechanism has for it.
    """
    if stack.per_turn is not None:
        made = Adjuster(link=name, kind="pair", mm=stack.per_turn)
        return JobAdjuster(
            part_id=part_id,
            name=called,
            assembly=assembly,
            stack=stack,
            adjuster=made,
            shorter=stack.turns_in,
            longer=stack.turns_out,
        )
    if stack.per_half_turn is not None:
        made = Adjuster(link=name, kind="one_end", mm=stack.per_half_turn)
        return JobAdjuster(
            part_id=part_id, name=called, assembly=assembly, stack=stack, adjuster=made, shorter=2 * stack.turns_in, longer=2 * stack.turns_out
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
    """Engagement, thread showing and depth left of every threaded end when the link is so many turns longer.

    Args:
        one: the adjuster.
        turns: of a pair, or half turns of one end.
        settings: factors.
    """
    out = []
    axial = worst_axial(one.assembly.cases)
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
