"""A job at a glance: its car as a small drawing, and what of it is to be settled."""

from __future__ import annotations

from dataclasses import dataclass

from tirante.core.drawing.model import Drawing
from tirante.core.errors import InputError
from tirante.core.job.evaluate import evaluate
from tirante.core.job.studies import solved_at
from tirante.core.job.worked import Worked
from tirante.core.suspension.shown.end_view import Posture
from tirante.core.suspension.shown.posture import postures_of
from tirante.core.suspension.shown.sketch import car_sketch


@dataclass(frozen=True, slots=True, kw_only=True)
class Glance:
    """What a list of jobs says of one."""

    drawing: Drawing | None  # None where no end of it can be put together
    parts: int
    stop: int  # lines to be settled, by how grave they are
    attention: int
    incomplete: int


def glance(job: Worked) -> Glance:
    """A job at a glance.

    Args:
        job: worked out.
    """
    states = [hold.state for hold in evaluate(job).holds]
    postures: list[Posture] = []
    for end in job.design.ends:
        try:
            found = postures_of(solved_at(job, end.id, 0.0, 0.0, 0.0), job.shapes(end.id))[0]
        except InputError:
            continue
        if found is not None:
            postures.append(found)
    return Glance(
        drawing=car_sketch(job.design.name, postures) if postures else None, parts=len(job.design.parts),
        stop=states.count("stop"), attention=states.count("attention"), incomplete=states.count("incomplete"),
    )  # fmt: skip
