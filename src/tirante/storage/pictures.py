"""Pictures of a job: of a part being made, or measured in. Rows that are only added."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any, Literal

from pymysql.connections import Connection

MOST = 300  # of a job


class Taken(Exception):  # noqa: N818
    """An id that another picture has already."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Kept:
    """A picture, without its dots."""

    id: str
    sort: Literal["step", "survey"]
    part_id: str | None
    hand: str
    step: str
    metal: str
    told: str
    wide: int
    high: int
    sha256: str
    came: str  # SHA-256 of what came
    person_id: str | None
    came_at: datetime


FIELDS = "id, sort, part_id, hand, step, metal, told, wide, high, sha256, came, person_id, came_at"


def add(connection: Connection[Any], job_id: str, kept: Kept, jpeg: bytes) -> bool:
    """Add a picture; the same again does no harm.

    Args:
        connection: in a transaction.
        job_id: the job.
        kept: what it is of.
        jpeg: its dots.

    Returns:
        Whether it is new.

    Raises:
        Taken: its id belongs to another.
    """
    with connection.cursor() as cursor:
        new = cursor.execute(
            "INSERT IGNORE INTO picture (id, job_id, sort, part_id, hand, step, metal, told, wide, high, sha256, came, jpeg, person_id, came_at) VALUES (%s, %s, %s, %s, %s, %s, %s, %s, %s, %s, %s, %s, %s, %s, %s)",
            (kept.id, job_id, kept.sort, kept.part_id, kept.hand, kept.step, kept.metal, kept.told, kept.wide, kept.high, kept.sha256, kept.came, jpeg, kept.person_id, kept.came_at),
        )  # fmt: skip
        cursor.execute("SELECT job_id, came, part_id, hand, step FROM picture WHERE id = %s", (kept.id,))
        row = cursor.fetchone()
    if row is None or tuple(row.values()) != (job_id, kept.came, kept.part_id, kept.hand, kept.step):
        raise Taken(kept.id)
    return bool(new)


def of_job(connection: Connection[Any], job_id: str) -> Sequence[Kept]:
    """All pictures of a job, as they came.

    Args:
        connection: in a transaction.
        job_id: the job.
    """
    with connection.cursor() as cursor:
        cursor.execute(f"SELECT {FIELDS} FROM picture WHERE job_id = %s ORDER BY number", (job_id,))
        return [Kept(**row) for row in cursor.fetchall()]


def jpeg(connection: Connection[Any], job_id: str, picture_id: str) -> bytes | None:
    """The dots of a picture; None: the job has none of that id.

    Args:
        connection: in a transaction.
        job_id: the job.
        picture_id: which.
    """
    with connection.cursor() as cursor:
        cursor.execute("SELECT jpeg FROM picture WHERE job_id = %s AND id = %s", (job_id, picture_id))
        row = cursor.fetchone()
    return row["jpeg"] if row else None
