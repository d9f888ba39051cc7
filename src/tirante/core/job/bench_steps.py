"""The steps of every part of a job, as a bench is told them; kept with what is issued, so that its figures are the issued ones."""

from __future__ import annotations

from typing import Any

from pydantic import Field

from tirante.core.checks.shown import Out
from tirante.core.job.on_car import on_car
from tirante.core.job.results import FigureOut
from tirante.core.job.worked import Worked
from tirante.core.parts.steps import KINDS, steps_of


class StepOut(Out):
    """Something to be done and ticked."""

    key: str
    kind: str
    word: str
    title: str
    figures: list[FigureOut]
    lines: list[str]
    asks: list[str] = Field(
        default_factory=list
    )  # what is to be written down with it, of `ASKED`; none in what was issued before it was asked
    hold: bool = False  # signed by somebody else; what comes after it waits


def steps_told(job: Worked) -> dict[str, list[dict[str, Any]]]:
    """Of every part by its id its steps; a part that a jig holds names that jig.

    Args:
        job: worked out.
    """
    of = on_car(job)
    return {
        part.id: [
            StepOut(
                key=one.key, kind=one.kind, word=KINDS[one.kind], title=one.title, lines=list(one.lines), asks=list(one.asks), hold=one.hold,
                figures=[FigureOut(label=f.label, mm=f.mm, note=f.note) for f in one.figures],
            ).model_dump()
            for one in steps_of(part, of[part.id])
        ]
        for part in job.parts
    }  # fmt: skip
