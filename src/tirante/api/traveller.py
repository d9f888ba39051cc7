"""The traveller: how far every part of a car is made, step by step, with what was written down, and what waits for somebody else."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import timedelta
from typing import Any

from flask import Blueprint, request
from pydantic import BaseModel, Field

from tirante.api.bench import WorkedFrom, worked_from
from tirante.api.changes import SinceOut
from tirante.api.context import services
from tirante.api.routing import operation
from tirante.core.document.ticked import Told
from tirante.core.job.bench_steps import StepOut
from tirante.core.job.traveller import stands
from tirante.core.parts.steps import ASKED
from tirante.storage import ticks
from tirante.storage.drafts import NotFound

blueprint = Blueprint("traveller", __name__)
LATE = timedelta(minutes=2)  # between a tick and its arrival, from which it was made while the server was away
NOT_KEPT = (
    "photographs",
    "what the design file, a copy of the job and the pack would need of this: it is kept here, with the job",
)


class RowOut(BaseModel):
    """A part, one hand of it, and how far it is made."""

    part_id: str
    name: str
    word: str
    hand: str
    metal: str
    is_now: str = Field(description="in a word or two; empty: nothing is done yet")
    done: int
    of: int
    next: str
    waits: bool = Field(description="for somebody else, who signs")
    left_out: list[str] = Field(description="steps that are not ticked though a later one is")
    unsigned: list[str] = Field(description="of those, what somebody else was to look at")
    otherwise: int = Field(description="steps that were ticked for it with other metal")


class TravellerOut(BaseModel):
    """The whole car at a glance."""

    job: str
    issued: SinceOut | None
    draft: bool = Field(description="these are the steps of the draft: nothing is to be made by it")
    rows: list[RowOut]
    no_steps: list[str] = Field(description="parts that cannot be made yet, so that they have none")
    gone: list[str] = Field(description="ids of parts that were ticked and are in the job no more")
    not_kept: list[str]


class MarkOut(BaseModel):
    """A step ticked, or taken back: as it was made, never changed."""

    done: bool
    made_at: str
    late: bool = Field(description="made while the server was away, and told afterwards")
    number: int | None
    told: Told


class DoneStepOut(BaseModel):
    """A step with all that was ever marked of it, the latest last."""

    step: StepOut
    done: bool
    marks: list[MarkOut]


class PartTravelsOut(BaseModel):
    """One hand of a part, step by step."""

    part_id: str
    name: str
    hand: str
    metal: str
    steps: list[DoneStepOut]
    asked: dict[str, str] = Field(description="what may be written down with a step, in words")
    other_metal: list[str] = Field(description="what was ticked when it was of other metal, in words")


def _hands(side: str) -> tuple[str, ...]:
    return ("left", "right") if side == "pair" else ("",)


def _parts(found: WorkedFrom) -> tuple[list[dict[str, Any]], dict[str, list[StepOut]]]:
    """The parts as they are worked from, and their steps."""
    job = found.job
    parts = found.kept.get("parts") or [{"id": one.id, "name": one.name, "word": one.word, "side": one.side, "metal": one.metal} for one in job.parts]  # fmt: skip
    return parts, {own: [StepOut.model_validate(one) for one in told] for own, told in found.steps(job).items()}


def _done(marks: Sequence[ticks.Tick], part: dict[str, Any], hand: str) -> set[str]:
    return {
        one.step
        for one in marks
        if one.done and one.part_id == part["id"] and one.hand == hand and one.metal == part.get("metal")
    }


@operation(blueprint, "GET", "/api/jobs/<job_id>/traveller", answer=TravellerOut, query={"draft": "integer"})
def traveller(job_id: str) -> TravellerOut:
    """How far every part is made: as it is issued; by the draft where nothing is, or where it is asked for."""
    found = worked_from(job_id)
    with services().gate_of(found.now).enter():
        parts, steps = _parts(found)
    with services().database.transaction() as connection:
        marks = ticks.standing(connection, job_id)
    rows = []
    for part in parts:
        own = steps.get(part["id"], [])
        for hand in _hands(part["side"]) if own else ():
            now = stands(own, _done(marks, part, hand))
            other = sum(
                one.done and one.part_id == part["id"] and one.hand == hand and one.metal != part.get("metal")
                for one in marks
            )
            rows.append(RowOut(
                part_id=part["id"], name=part["name"], word=part["word"], hand=hand, metal=part.get("metal", ""), is_now=now.is_now, done=now.done, of=now.of,
                next=now.next, waits=now.waits, left_out=list(now.left_out), unsigned=list(now.unsigned), otherwise=other,
            ))  # fmt: skip
    return TravellerOut(
        job=found.design.name, issued=found.since, draft=found.draft, rows=rows,
        no_steps=[part["name"] for part in parts if not steps.get(part["id"])],
        gone=sorted({one.part_id for one in marks if one.done} - {part["id"] for part in parts}), not_kept=list(NOT_KEPT),
    )  # fmt: skip


@operation(
    blueprint, "GET", "/api/jobs/<job_id>/traveller/<part_id>", answer=PartTravelsOut,
    query={"draft": "integer", "hand": "string"},
)  # fmt: skip
def part_travels(job_id: str, part_id: str) -> PartTravelsOut:
    """The steps of one hand of a part, each with all that was marked of it."""
    found = worked_from(job_id)
    with services().gate_of(found.now).enter():
        parts, steps = _parts(found)
    part = next((one for one in parts if one["id"] == part_id), None)
    hand = request.args.get("hand", "")
    if part is None or hand not in _hands(part["side"]):
        raise NotFound(part_id)
    with services().database.transaction() as connection:
        marks = [one for one in ticks.every(connection, job_id, part_id) if one.hand == hand]
    own = [one for one in marks if one.metal == part.get("metal")]
    return PartTravelsOut(
        part_id=part_id, name=part["name"], hand=hand, metal=part.get("metal", ""), asked=ASKED,
        steps=[_step(step, [one for one in own if one.step == step.key]) for step in steps.get(part_id, [])],
        other_metal=_otherwise([one for one in marks if one.metal != part.get("metal")]),
    )  # fmt: skip


def _step(step: StepOut, marks: Sequence[ticks.Tick]) -> DoneStepOut:
    return DoneStepOut(
        step=step, done=bool(marks) and marks[-1].done,
        marks=[
            MarkOut(
                done=one.done, made_at=f"{one.made_at.isoformat()}Z", number=one.number, told=one.told,
                late=one.came_at is not None and one.came_at - one.made_at > LATE,
            )
            for one in marks
        ],
    )  # fmt: skip


def _otherwise(marks: Sequence[ticks.Tick]) -> list[str]:
    """What was ticked of other metal: by metal, how many steps, and from which revision's card."""
    found = []
    for metal in dict.fromkeys(one.metal for one in marks):
        of_it = {one.step: one for one in marks if one.metal == metal}
        done = sum(one.done for one in of_it.values())
        numbers = sorted({one.number for one in of_it.values() if one.number is not None})
        of = f"rev {', '.join(map(str, numbers))}" if numbers else "a draft"
        if done:
            found.append(
                f"{done} {'step was' if done == 1 else 'steps were'} ticked for it as {of} had it: other metal, which counts for nothing here"
            )
    return found
