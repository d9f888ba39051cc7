"""What the page does with a job between two calls: parts by name and kind, patches put in."""

from __future__ import annotations

import json
import uuid
from typing import Any

from flask.testing import FlaskClient

from tirante.server.worker import Worker


def of_kind(design: dict[str, Any], kind: str) -> list[dict[str, Any]]:
    """The design's own parts of a kind, to be changed in place."""
    return [part for part in design["parts"] if part["kind"] == kind]


def where(design: dict[str, Any], part_id: str) -> int:
    """Its place in the design's list, as an error names it."""
    return next(i for i, part in enumerate(design["parts"]) if part["id"] == part_id)


def named(found: Any, name: str) -> dict[str, Any]:
    """A part of an answer by its name."""
    part: dict[str, Any] = next(part for part in found["parts"] if part["name"] == name)
    return part


def done(client: FlaskClient, worker: Worker, path: str, **body: Any) -> dict[str, Any]:
    """A task that was asked for, once a worker has done all that was queued."""
    asked = client.post(path, json={"id": str(uuid.uuid4()), **body})
    assert asked.status_code == 200, asked.json
    while worker.once():
        pass
    task: dict[str, Any] = client.get(f"/api/tasks/{asked.json['id']}").json
    return task


def packed(
    client: FlaskClient, worker: Worker, job_id: str, what: str = "pack.zip", revision: int | None = None
) -> bytes:
    """A pack, or its sheets alone: asked for, made by a worker, fetched."""
    task = done(client, worker, "/api/tasks/pack", job_id=job_id, what=what, revision=revision)
    assert task["state"] == "done", task
    return client.get(f"/api/tasks/{task['id']}/file").data


def put(design: dict[str, Any], patch: Any) -> dict[str, Any]:
    """The design with a patch in it: parts, joints and rows in the place of those with their ids, or added."""
    made: dict[str, Any] = json.loads(json.dumps(design))

    def over(old: list[Any], new: list[Any], key: str) -> list[Any]:
        every = {one[key]: one for one in (*old, *new)}
        return list(every.values())

    made["parts"] = over(made["parts"], patch["parts"], "id")
    made["joints"] = over(made["joints"], patch["joints"], "id")
    for table, rows in patch["rows"].items():
        made["catalogue"][table] = over(made["catalogue"][table], rows, "key")
    return made
