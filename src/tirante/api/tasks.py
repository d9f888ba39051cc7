"""Work that no request waits for: asked for, looked at, stopped. A worker of its own does it (server/worker.py)."""

from __future__ import annotations

import json
from typing import Annotated, Any, Literal

from flask import Blueprint
from pydantic import BaseModel, ConfigDict, Field

from tirante.api.context import now, services
from tirante.api.designs import DesignIn
from tirante.api.laid import NoPlateOut, PlateNestOut, TubeCutOut
from tirante.api.problems import Refused
from tirante.api.routing import operation
from tirante.api.sizing import SizeAllOut
from tirante.core.document.fields import Id
from tirante.core.document.upgrades import dump_design
from tirante.storage import tasks
from tirante.storage.tasks import Task

blueprint = Blueprint("tasks", __name__)

SIZE_ALL = "size-all"
STICKS, SHEETS = "sticks", "sheets"


class SizeAllIn(DesignIn):
    """The job, and what is to be least."""

    id: Annotated[Id, Field(description="of the task, made by the client: the same again gives the same task")]
    job_id: Id | None = Field(default=None, description="that it is asked from")
    aim: Literal["mass", "cost", "stocks"] = "mass"


class LaidSticksOut(BaseModel):
    """Every tube of the saw's list."""

    tubes: list[TubeCutOut]


class LaidSheetsOut(BaseModel):
    """Every thickness of a job's plates, and the parts whose plates are not among it."""

    nests: list[PlateNestOut]
    left_out: list[NoPlateOut]


class TaskOut(BaseModel):
    """A task as it stands."""

    id: str
    kind: str
    state: Literal["queued", "running", "done", "failed", "cancelled"]
    done: int
    of: int
    fault: str | None
    sized: SizeAllOut | None = Field(description="what came of a search")
    sticks: LaidSticksOut | None = Field(description="what came of laying out on sticks")
    sheets: LaidSheetsOut | None = Field(description="what came of laying out on sheets")
    file: str | None = Field(description="name of the file that came of it")
    revision: int | None = Field(description="that the file is of")


class StopIn(BaseModel):
    """Nothing more to say."""

    model_config = ConfigDict(extra="forbid")


def _out(task: Task) -> TaskOut:
    came = task.result
    made = json.loads(came) if came and task.kind not in (SIZE_ALL, STICKS, SHEETS) else {}
    return TaskOut(
        id=task.id, kind=task.kind, state=task.state, done=task.done, of=task.of, fault=task.fault, file=made.get("name"), revision=made.get("revision"),
        sized=SizeAllOut.model_validate_json(came) if came and task.kind == SIZE_ALL else None,
        sticks=LaidSticksOut.model_validate_json(came) if came and task.kind == STICKS else None,
        sheets=LaidSheetsOut.model_validate_json(came) if came and task.kind == SHEETS else None,
    )  # fmt: skip


def queued(task_id: str, job_id: str | None, kind: str, body: dict[str, Any]) -> TaskOut:
    """Queue a task.

    Args:
        task_id: made by the client.
        job_id: that it is asked from.
        kind: which of the worker's roads it takes.
        body: what is to be done.

    Raises:
        Refused: too much is queued.
    """
    try:
        with services().database.transaction() as connection:
            return _out(tasks.add(connection, task_id, job_id, kind, json.dumps(body), now()))
    except tasks.TooMany as error:
        raise Refused(
            429, "too_many", "Much waits to be done already. Try again when it is done, or stop what is yours."
        ) from error


@operation(blueprint, "POST", "/api/tasks/size-all", body=SizeAllIn, answer=TaskOut)
def size_the_job(data: SizeAllIn) -> TaskOut:
    """Have every member sized together for least mass, least cost or the fewest different stocks."""
    body = {"aim": data.aim, "design": json.loads(dump_design(data.design))}
    return queued(data.id, data.job_id, SIZE_ALL, body)


@operation(blueprint, "GET", "/api/tasks/<task_id>", answer=TaskOut)
def get_task(task_id: str) -> TaskOut:
    """How far it is, and its result when it is done; kept for a week."""
    with services().database.transaction() as connection:
        return _out(tasks.get(connection, task_id))


@operation(blueprint, "POST", "/api/tasks/<task_id>/stop", body=StopIn, answer=TaskOut)
def stop_task(task_id: str, data: StopIn) -> TaskOut:
    """Have it end after the part that it is at; what is done stands."""
    del data
    with services().database.transaction() as connection:
        return _out(tasks.stop(connection, task_id, now()))
