"""A link that was cut for other lengths, set to those that are asked now: by how many turns, and whether it holds there.

The tube stays, so what the pivots have moved apart comes out of the threads. It is judged there as any link is, with the thread that is
left: what cannot be reached, or does not hold where it is reached, is cut or made anew.
"""

from __future__ import annotations

from dataclasses import replace

from tirante.core.document.settings import Settings
from tirante.core.errors import InputError, NotApplicable
from tirante.core.loads.case_seen import worst_axial
from tirante.core.members.link_stack import LinkStack, as_set
from tirante.core.parts.adjusters import EndLeft, JobAdjuster, ends_at, job_adjuster
from tirante.core.parts.kind import AsCut, ThreadLeft
from tirante.core.parts.link.assembly import Assembly, ThreadedEnd, stack_end
from tirante.core.parts.link.built import Built
from tirante.core.parts.link.checks import link_checks

STEP = 0.05  # [mm] of length that one end's half turns may leave unset before it is told: less than a bush is true to; common practice, no source


def as_cut(cut: Built, asked: Built, settings: Settings, measured: float | None = None) -> AsCut:
    """The link that was cut, set to the length that is asked.

    Args:
        cut: as it was made.
        asked: as it should be now, with what it sees now.
        settings: of the job as it is now.
        measured: how long it was found to stand, centre to centre [mm], its tube being as it was to be cut: what it stands otherwise was turned at
            its threads. None: as long as it was to be made.
    """
    one, other = cut.assembly, asked.assembly
    if one.bend or other.bend or one.link.splice or other.link.splice:
        return AsCut(why="a bent or spliced link is not tried at another length")
    turned = 0.0 if measured is None else measured - cut.stack.centre_to_centre
    moved = asked.stack.centre_to_centre - cut.stack.centre_to_centre - turned
    adjuster = job_adjuster(other.link.id, other.link.name, other, cut.stack, other.link.name)
    if adjuster is None:
        return AsCut(why="it does not adjust")
    turns, left = _turns(adjuster, moved)
    try:
        ends = ends_at(adjuster, turns + turned / adjuster.adjuster.mm, settings)
        stack = _set(other, cut.stack, asked.stack.centre_to_centre - left, ends, settings)
        checks = link_checks(other, stack, settings)
    except (InputError, NotApplicable) as error:
        return AsCut(why=error.message)
    threads = tuple(
        ThreadLeft(end=end.end, showing=end.showing, engaged=end.engagement, needed=end.needed) for end in ends
    )
    short = next((_short(end) for end in ends if not end.ok), None)
    failed = next((check for check in checks if not check.passed), None)
    why = short or (f"there {failed.name} would be over" if failed else "")
    # of a pair turns of the link, of one end half turns of it
    whole = turns if adjuster.adjuster.kind == "pair" else turns / 2
    return AsCut(
        turns=whole, of="the link" if adjuster.adjuster.kind == "pair" else "one end", left=left, why=why, ends=threads
    )


def _turns(adjuster: JobAdjuster, moved: float) -> tuple[float, float]:
    """Turns (half turns of one end), and the length that they leave unset."""
    turns = moved / adjuster.adjuster.mm
    if adjuster.adjuster.kind == "pair":
        return turns, 0.0
    half_turns = float(round(turns))
    left = moved - half_turns * adjuster.adjuster.mm
    return half_turns, left if abs(left) > STEP else 0.0


def _short(end: EndLeft) -> str:
    if end.engagement < end.needed - 1e-6:
        return f"at end {end.end} {end.engagement:.1f} mm would be engaged, and {end.needed:.1f} mm are needed"
    if end.showing < -1e-6:
        return f"at end {end.end} the nut would run off its thread"
    return f"at end {end.end} the shank would bottom in its insert"


def _set(
    assembly: Assembly, cut: LinkStack, centre_to_centre: float, ends: list[EndLeft], settings: Settings
) -> LinkStack:
    """The stack with the tube as it was cut."""
    axial = worst_axial(assembly.cases)
    left = iter(ends)
    showing = [next(left).showing if isinstance(end, ThreadedEnd) else None for end in assembly.ends]
    stack = as_set(centre_to_centre, [stack_end(end, axial, settings) for end in assembly.ends], showing)
    return replace(stack, tube_cut=cut.tube_cut)
