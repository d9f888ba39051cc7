"""Work that no request waits for: asked for, looked at, stopped. A worker of its own does it (server/worker.py)."""

from __future__ import annotations

import json
from typing import Annotated, Literal

from flask import Blueprint
from pydantic import BaseModel, ConfigDict, Field

from tirante.api.context import now, services
from tirante.api.designs import DesignIn
from tirante.api.problems import Refused
from tirante.api.routing import operation
from tirante.api.sizing import SizeAllOut
from tirante.core.document.fields import Id
from tirante.core.document.upgrades import dump_design
from tirante.storage import tasks
from tirante.storage.tasks import Task

blueprint = Blueprint("tasks", __name__)

SIZE_ALL = "size-all"


class SizeAllIn(DesignIn):
    """The job, and what is to be least."""

    id: Annotated[Id, Field(description="of the task, made by the client: the same again gives the same task")]
    job_id: Id | None = Field(default=None, description="that it is asked from")
    aim: Literal["mass", "cost", "stocks"] = "mass"


class TaskOut(BaseModel):
    """A task as it stands."""

    id: str
    kind: str
    state: Literal["queued", "running", "done", "failed", "cancelled"]
    done: int
    of: int
    fault: str | None
    sized: SizeAllOut | None = Field(description="what came of it")


class StopIn(BaseModel):
    """Nothing more to say."""

    model_config = ConfigDict(extra="forbid")


def _out(task: Task) -> TaskOut:
    return TaskOut(
        id=task.id, kind=task.kind, state=task.state, done=task.done, of=task.of, fault=task.fault,
        sized=SizeAllOut.model_validate_json(task.result) if task.result and task.kind == SIZE_ALL else None,
    )  # fmt: skip


@operation(blueprint, "POST", "/api/tasks/size-all", body=SizeAllIn, answer=TaskOut)
def size_the_job(data: SizeAllIn) -> TaskOut:
    """Have every member sized together for least mass, least cost or the fewest different stocks."""
    body = json.dumps({"aim": data.aim, "design": json.loads(dump_design(data.design))})
    try:
        with services().database.transaction() as connection:
            return _out(tasks.add(connection, data.id, data.job_id, SIZE_ALL, body, now()))
    except tasks.TooMany as error:
        raise Refused(
            429, "too_many", "Many searches wait already. Try again when they are done, or stop those of yours."
        ) from error


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
