"""Entries of a job's survey: rows that are only added, in the order in which they came."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from pydantic import TypeAdapter
from pymysql.connections import Connection

from tirante.core.document.survey import Entry

_ENTRY: TypeAdapter[Entry] = TypeAdapter(Entry)


class Taken(Exception):  # noqa: N818
    """An id that another entry has already."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Kept:
    """An entry with when it was made."""

    entry: Entry
    made_at: datetime


def add(connection: Connection[Any], job_id: str, entries: Sequence[Kept], now: datetime) -> None:
    """Add entries; one that came already, as it was, does no harm.

    Args:
        connection: in a transaction.
        job_id: the job.
        entries: in the order in which they were made.
        now: UTC.

    Raises:
        Taken: an id belongs to another entry.
    """
    with connection.cursor() as cursor:
        for one in entries:
            body = one.entry.model_dump_json()
            cursor.execute(
                "INSERT INTO survey_entry (id, job_id, sort, body, made_at, came_at) VALUES (%s, %s, %s, %s, %s, %s) ON DUPLICATE KEY UPDATE id = VALUES(id)",
                (one.entry.id, job_id, one.entry.sort, body, one.made_at, now),
            )
            cursor.execute("SELECT job_id, body FROM survey_entry WHERE id = %s", (one.entry.id,))
            row = cursor.fetchone()
            if row is None or (row["job_id"], row["body"]) != (job_id, body):
                raise Taken(one.entry.id)


def of_job(connection: Connection[Any], job_id: str) -> list[Kept]:
    """All entries of a job, as they came.

    Args:
        connection: in a transaction.
        job_id: the job.
    """
    if not job_id.isascii():
        return []
    with connection.cursor() as cursor:
        cursor.execute("SELECT body, made_at FROM survey_entry WHERE job_id = %s ORDER BY number", (job_id,))
        return [Kept(entry=_ENTRY.validate_json(row["body"]), made_at=row["made_at"]) for row in cursor.fetchall()]
