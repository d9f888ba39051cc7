"""A demo job that is built halfway: issued as it was before a change, with what was ticked to that.

Apart from what else ships, since it works the whole job out: what does not load it starts without all that this needs.
"""

from __future__ import annotations

import json
import uuid
from collections.abc import Iterator
from datetime import datetime, timedelta
from pathlib import Path
from typing import Any

from tirante.api.jobs import as_issued, stamp_of
from tirante.core.document.design import Design, tied
from tirante.core.document.ticked import Told
from tirante.core.job.bench_steps import steps_told
from tirante.core.job.evaluate import evaluate
from tirante.core.job.memory import Memory
from tirante.core.job.unsettled import unsettled
from tirante.core.job.worked import Worked
from tirante.server.demo import NAMESPACE
from tirante.shipped import the_shelf
from tirante.storage import acknowledged, drafts, issued, jobs, revisions, ticks
from tirante.storage.pool import Database


def load_halfway(database: Database, folder: Path, loaded: list[str], now: datetime) -> None:
    """Build demo jobs halfway: issued as they were before a change, with what was ticked to that; the draft stays as it ships.

    Args:
        database: with the demo jobs.
        folder: of the demo jobs.
        loaded: names of those that were loaded now; others are left as people have made them.
        now: UTC; later than they were loaded, so that they stand first.
    """
    for path in sorted((folder / "halfway").glob("*.json")):
        if path.stem in loaded:
            _halfway(database, str(uuid.uuid5(NAMESPACE, path.stem)), json.loads(path.read_text()), now)


def _halfway(database: Database, job_id: str, told: dict[str, Any], now: datetime) -> None:
    time = datetime.fromisoformat(told["issued"]["at"])
    with database.transaction() as connection:
        shipped = drafts.get_draft(connection, job_id)
        design = _before(shipped.design, told["before"])
        version = jobs.save_draft(connection, job_id, str(uuid.uuid5(NAMESPACE, f"{job_id} before")), shipped.version, design, time)  # fmt: skip
        draft = drafts.get_draft(connection, job_id)
        number = revisions.seal(connection, draft, time, kind="issued", name=told["issued"]["name"])
        found = revisions.get_revision(connection, job_id, number)
        assert found
        job = Worked(design, the_shelf(), Memory())
        lines = unsettled(evaluate(job))
        answered = acknowledged.Acknowledged(person=told["issued"]["answers"], lines=tuple(lines)) if lines else None
        if answered:
            acknowledged.keep(connection, job_id, number, answered.person, answered.lines)
        issued.keep(connection, job_id, number, as_issued(job, stamp_of(found[0], design, answered=answered)))
        ticks.add(connection, job_id, list(_ticks(job, job_id, number, told["ticks"])), time)
        jobs.save_draft(connection, job_id, str(uuid.uuid5(NAMESPACE, f"{job_id} after")), version, shipped.design, now)  # fmt: skip


def _before(design: Design, told: dict[str, Any]) -> Design:
    """The design with points of an end moved."""
    ends = []
    for one in design.ends:
        if one.name == told["end"]:
            moved = {name: tuple(a + b for a, b in zip(one.end.points[name], by, strict=True)) for name, by in told["points"].items()}  # fmt: skip
            end = one.end.model_copy(update={"points": {**one.end.points, **moved}})
            one = one.model_copy(update={"end": end})
        ends.append(one)
    return tied(design.model_copy(update={"ends": tuple(ends)}))


def _ticks(job: Worked, job_id: str, number: int, told: list[dict[str, Any]]) -> Iterator[ticks.Tick]:
    """Every step of a part up to the last of a kind, as it was made."""
    steps = steps_told(job)
    parts = {part.name: part for part in job.parts}
    for one in told:
        part, at = parts[one["part"]], datetime.fromisoformat(one["at"])
        own = steps[part.id]
        last = max(i for i, step in enumerate(own) if step["kind"] == one["through"])
        assert not any(step["hold"] for step in own[: last + 1]), "nobody signed for that"
        for i, step in enumerate(own[: last + 1]):
            given = {name: text for name, text in one["told"].items() if name in ("who", *step["asks"]) or (name == "note" and i == last)}  # fmt: skip
            yield ticks.Tick(
                id=str(uuid.uuid5(NAMESPACE, f"{job_id} {part.id} {one['hand']} {step['key']}")), number=number, part_id=part.id, hand=one["hand"],
                step=step["key"], metal=part.metal, done=True, made_at=at + timedelta(minutes=i), told=Told.model_validate(given), came_at=at,
            )  # fmt: skip
