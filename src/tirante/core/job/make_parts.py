"""An end's moving members made parts of the job, each by the kind that can stand for it; and plates on what is not made here."""

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


def plate_on_carrier(job: Worked, end_id: str, body: str, point: str, part_id: str) -> SavedPart:
    """A plate for a joint of what carries a wheel: a steering arm, or one of a kingpin's.

    Args:
        job: worked out.
        end_id: of the end.
        body: that carries a wheel, by the template's name.
        point: whose joint it holds.
        part_id: made by the client.

    Raises:
        InputError: the end cannot be put together, nothing of it is so called, or the joint has its plate already.
    """
    template = job.template(end_id)
    end = next(one for one in job.design.ends if one.id == end_id)
    if not template.carries(body):
        raise InputError(f"No “{body[:40]}” carries a wheel here.", code="unknown", fields=("body",))
    where = MadeFrom(
        part_id=part_id, end_id=end_id, end_name=end.name, end=job.ends[end_id], template=template, settings=job.settings
    )  # fmt: skip
    there = next((p for p in job.design.parts if p.of_end == end_id and p.plate_of == (body, point)), None)
    if there:
        raise InputError(f"That joint has its plate already: {there.name}.", code="there_already", fields=("point",))
    made: SavedPart | None = next(
        (part for kind in KINDS.values() if (part := kind.beside(body, point, where)) is not None), None
    )
    if made is None:
        raise InputError(f"The {body.replace('_', ' ')} has no joint at “{point[:40]}”.", code="unknown", fields=("point",))  # fmt: skip
    return made
