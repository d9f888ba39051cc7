"""Which parts of a job are an end's."""

from __future__ import annotations

from tirante.core.document.joints import PointOfBody
from tirante.core.document.parts.saved import SavedPart
from tirante.core.job.worked import Worked


def is_of(job: Worked, saved: SavedPart, end_id: str) -> bool:
    """Whether a part is an end's: by itself, as what holds one of its joints, or as the jig of one that is.

    Args:
        job: that it is of.
        saved: the part.
        end_id: the end.
    """
    if saved.of_end == end_id:
        return True
    made_for = job.saved(saved.made_for) if saved.made_for else None
    if made_for is not None:
        return is_of(job, made_for, end_id)
    for joint in job.design.joints:
        if joint.by != saved.id:
            continue
        if isinstance(joint.held, PointOfBody):
            if joint.held.end_id == end_id:
                return True
        elif (owner := job.saved(joint.held.part)) is not None and owner.of_end == end_id:
            return True
    return False
