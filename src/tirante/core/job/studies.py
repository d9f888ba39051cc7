"""An end in motion: its study along the travel, the end at one position, bind map and free motions, each from memory while nothing changed."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING

from tirante import ENGINE_VERSION
from tirante.core.document.end import End
from tirante.core.job.worked import Worked
from tirante.core.parts.part import fingerprint

if TYPE_CHECKING:
    from tirante.core.suspension.as_built import AsBuilt
    from tirante.core.suspension.bind_map import BindMap
    from tirante.core.suspension.cycle import Solved
    from tirante.core.suspension.joint_advice import Advice
    from tirante.core.suspension.still_moves import StillMoves
    from tirante.core.suspension.study import Study
    from tirante.core.suspension.whole_box import Box, WholeBox


def _shape(job: Worked, end_id: str) -> End:
    """An end with what its joints allow: what is watched in its box depends on nothing else of the car."""
    return job.watched(end_id).model_copy(update={"vehicle": None})


def box_key(job: Worked, end_id: str, *more: object) -> str:
    """What an end's whole box depends on.

    Args:
        job: worked out.
        end_id: of the end.
        more: what else the answer does.
    """
    end = job.design.end(end_id)
    assert end
    return fingerprint([ENGINE_VERSION, _shape(job, end_id).model_dump_json(), end.box.model_dump_json(), *more])


def _key(job: Worked, end_id: str, *more: object) -> str:
    end = job.design.end(end_id)
    assert end
    return fingerprint([ENGINE_VERSION, job.watched(end_id).model_dump_json(), end.box.model_dump_json(), *more])


def study_of(job: Worked, end_id: str, roll: float, steer: float) -> Study:
    """An end moved through its travel.

    Args:
        job: worked out.
        end_id: of the end.
        roll: of the body [deg].
        steer: mm of the rack, or deg of the steering arm.

    Raises:
        InputError: the end cannot be put together.
    """
    end = job.design.end(end_id)
    assert end

    def work() -> Study:
        from tirante.core.suspension.study import study

        return study(job.template(end_id), job.watched(end_id), end.box.bump_mm, end.box.droop_mm, roll, steer)

    return job.memory.get("study", _key(job, end_id, roll, steer), work)


def solved_at(job: Worked, end_id: str, travel: float, roll: float, steer: float) -> Solved:
    """An end at a position and at ride height; it waits for no study, but takes its positions where one has been made.

    Args:
        job: worked out.
        end_id: of the end.
        travel: [mm]
        roll: of the body [deg].
        steer: mm of the rack, or deg of the steering arm.

    Raises:
        InputError: the end cannot be put together.
    """
    import numpy as np

    from tirante.core.suspension.cycle import resolved, solved_cycle, taken

    rows = np.array([[travel, 0.0], [roll, 0.0], [steer, 0.0]])
    found: Study | None = job.memory.known("study", _key(job, end_id, roll, steer))
    if found is not None:
        return taken(found.done, rows) or resolved(found.done, rows)
    return solved_cycle(job.template(end_id), job.watched(end_id), rows)


def box_moved(job: Worked, end_id: str) -> Box:
    """An end moved through its whole box.

    Args:
        job: worked out.
        end_id: of the end.

    Raises:
        InputError: the end cannot be put together.
    """
    one = job.design.end(end_id)
    assert one

    def work() -> Box:
        from tirante.core.suspension.whole_box import box_of

        end, box = _shape(job, end_id), one.box
        steer = box.steer_deg if end.steering else box.steer_mm
        return box_of(job.template(end_id), end, bump=box.bump_mm, droop=box.droop_mm, roll=box.roll_deg, steer=steer)

    return job.memory.get("box", box_key(job, end_id), work)


def whole_box_of(job: Worked, end_id: str) -> WholeBox:
    """What is past its limit anywhere in an end's box, before the travel is ended.

    Args:
        job: worked out.
        end_id: of the end.

    Raises:
        InputError: the end cannot be put together.
    """

    def work() -> WholeBox:
        from tirante.core.suspension.whole_box import whole_box

        return whole_box(box_moved(job, end_id))

    return job.memory.get("whole box", box_key(job, end_id), work)


def is_quick(job: Worked) -> bool:
    """Whether all that takes long of a design's evaluation is in memory.

    Args:
        job: worked out, or not yet.
    """
    boxes = (job.memory.known("whole box", box_key(job, end.id)) is not None for end in job.design.ends)
    return job.knows_loads() and all(boxes)


def bind_map_of(job: Worked, end_id: str) -> BindMap:
    """Every joint of an end over its whole box of travel, roll and steer.

    Args:
        job: worked out.
        end_id: of the end.

    Raises:
        InputError: the end cannot be put together.
    """

    def work() -> BindMap:
        from tirante.core.suspension.bind_map import bind_map

        return bind_map(box_moved(job, end_id))

    return job.memory.get("bind", box_key(job, end_id), work)


def joint_advice_of(job: Worked, end_id: str, link: str, which: str) -> tuple[Advice, ...]:
    """What gives a joint more room, each tried over the whole box.

    Args:
        job: worked out.
        end_id: of the end.
        link: of the end's template.
        which: end of it, "a" or "b".

    Raises:
        InputError: the end cannot be put together.
    """

    def work() -> tuple[Advice, ...]:
        from tirante.core.suspension.joint_advice import advice_for

        return advice_for(job.template(end_id), box_moved(job, end_id), link, which)

    return job.memory.get("advice", box_key(job, end_id, link, which), work)


def still_moves_of(job: Worked, end_id: str, in_place: Sequence[str]) -> StillMoves:
    """The freedom that the parts in place leave.

    Args:
        job: worked out.
        end_id: of the end.
        in_place: names of those that are.

    Raises:
        InputError: the end cannot be put together.
    """

    def work() -> StillMoves:
        from tirante.core.suspension.still_moves import still_moves

        return still_moves(job.template(end_id), job.ends[end_id], tuple(in_place))

    return job.memory.get("still", _key(job, end_id, sorted(in_place)), work)


def as_built_of(job: Worked, end_id: str) -> AsBuilt:
    """How far an end's kind is built.

    Args:
        job: worked out.
        end_id: of the end.

    Raises:
        InputError: the end cannot be put together.
    """

    def work() -> AsBuilt:
        from tirante.core.suspension.as_built import as_built

        return as_built(job.template(end_id), job.ends[end_id])

    return job.memory.get("as built", _key(job, end_id), work)
