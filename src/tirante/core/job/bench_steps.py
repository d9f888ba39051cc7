"""The steps of every part of a job, as a bench is told them; kept with what is issued, so that its figures are the issued ones."""

from __future__ import annotations

from typing import Any

from tirante.core.checks.shown import Out
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


def steps_told(job: Worked) -> dict[str, list[dict[str, Any]]]:
    """Of every part by its id its steps; a part that a jig holds names that jig.

    Args:
        job: worked out.
    """
    holders: dict[str, list[str]] = {}
    for saved in job.design.parts:
        if saved.made_for:
            holders.setdefault(saved.made_for, []).append(saved.name)
    return {
        part.id: [
            StepOut(
                key=one.key, kind=one.kind, word=KINDS[one.kind], title=one.title, lines=list(one.lines),
                figures=[FigureOut(label=f.label, mm=f.mm, note=f.note) for f in one.figures],
            ).model_dump()
            for one in steps_of(part, holders.get(part.id, ()))
        ]
        for part in job.parts
    }  # fmt: skip
