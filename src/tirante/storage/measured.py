"""What was measured of parts as they are built: rows that are only added; the latest of a thing stands, those before it are kept."""

from __future__ import annotations

import json
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from pymysql.connections import Connection

from tirante.core.job.measured import Stage


@dataclass(frozen=True, slots=True, kw_only=True)
class Measured:
    """A reading of one hand of a part."""

    id: str  # made by the client
    part_id: str
    hand: str
    metal: str
    what: str  # key of what is measured
    figure: float  # in the unit of what is measured
    made: Stage  # how far the part was
    instrument: str
    who: str
    note: str
    person_id: str | None
    came_at: datetime


def add(connection: Connection[Any], job_id: str, one: Measured) -> None:
    """Keep a reading; the same again does no harm.

    Args:
        connection: in a transaction.
        job_id: the job.
        one: it.
    """
    body = json.dumps({"made": one.made, "instrument": one.instrument, "who": one.who, "note": one.note}, ensure_ascii=False)  # fmt: skip
    with connection.cursor() as cursor:
        cursor.execute(
            "INSERT IGNORE INTO measured (id, job_id, part_id, hand, metal, what, figure, body, person_id, came_at) VALUES (%s, %s, %s, %s, %s, %s, %s, %s, %s, %s)",
            (one.id, job_id, one.part_id, one.hand, one.metal, one.what, one.figure, body, one.person_id, one.came_at),
        )


def of_job(connection: Connection[Any], job_id: str) -> list[Measured]:
    """All of a job, in the order in which they came.

    Args:
        connection: in a transaction.
        job_id: the job.
    """
    if not job_id.isascii():
        return []
    with connection.cursor() as cursor:
        cursor.execute("SELECT id, part_id, hand, metal, what, figure, body, person_id, came_at FROM measured WHERE job_id = %s ORDER BY number", (job_id,))  # fmt: skip
        return [Measured(**{k: v for k, v in row.items() if k != "body"}, **json.loads(row["body"])) for row in cursor.fetchall()]  # fmt: skip
