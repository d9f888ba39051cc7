"""An end's moving members made parts of the job, each by the kind that can stand for it."""

from __future__ import annotations

from collections.abc import Sequence

from tirante.core.document.parts.saved import SavedPart
from tirante.core.errors import InputError
from tirante.core.job.worked import Worked
from tirante.core.parts.kind import MadeFrom
from tirante.core.parts.registry import KINDS


def parts_of_end(job: Worked, end_id: str, ids: Sequence[str], kinds: Sequence[str] = ()) -> list[SavedPart]:
    """A part for everything that moves at an end, that has none yet and that some kind can stand for.

    Args:
        job: worked out.
        end_id: of the end.
        ids: made by the client, as many as there are parts to make.
        kinds: only of these; none: of all.

    Raises:
        InputError: the end cannot be put together, or there are more parts to make than ids.
    """
    template, standing = job.template(end_id), job.ends[end_id]
    left = iter(ids)
    made: list[SavedPart] = []
    for end, one in job.not_made():
        kind = next((k for k in KINDS.values() if k.may_be(template, one) and (not kinds or k.key in kinds)), None)
        if end.id != end_id or kind is None:
            continue
        part_id = next(left, None)
        if part_id is None:
            raise InputError("There are more parts to make than ids were given.", code="too_few", fields=("ids",))
        where = MadeFrom(
            part_id=part_id, end_id=end_id, end_name=end.name, end=standing, template=template, settings=job.settings
        )  # fmt: skip
        part = kind.made_from(one, where)
        if part is not None:
            made.append(part)
    return made
