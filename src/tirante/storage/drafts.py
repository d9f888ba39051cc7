"""The working draft of a job: its version, and the saves that made it; a repeated save is known by its id."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from typing import Any

from pymysql.connections import Connection

from tirante.core.document.design import Design
from tirante.storage.documents import unpack_told


class NotFound(Exception):  # noqa: N818
    """There is no such job or revision."""


class OfAnotherJob(Exception):  # noqa: N818
    """A save's id that another job's save has already."""


class Stale(Exception):  # noqa: N818
    """The draft has moved on since the version the save was made from; nothing was changed."""

    def __init__(self, current: Draft) -> None:
        super().__init__("stale")
        self.current = current


@dataclass(frozen=True, slots=True, kw_only=True)
class Draft:
    """The working state of a job."""

    job_id: str
    version: int
    based_on: int | None  # revision
    design: Design
    digest: str
    saved_at: datetime
    told: tuple[str, ...] = ()  # what it says otherwise since it was saved by an older Tirante


def get_draft(connection: Connection[Any], job_id: str, *, lock: bool = False) -> Draft:
    """The draft of a job, locked for the transaction when asked.

    Raises:
        NotFound: no such job.
    """
    statement = "SELECT job_id, version, based_on, document, digest, saved_at FROM draft WHERE job_id = %s"
    if not job_id.isascii():  # the column is ASCII, and the database refuses to compare anything else with it
        raise NotFound(job_id)
    with connection.cursor() as cursor:
        cursor.execute(statement + (" FOR UPDATE" if lock else ""), (job_id,))
        row = cursor.fetchone()
    if row is None:
        raise NotFound(job_id)
    design, told = unpack_told(row["document"])
    return Draft(
        job_id=row["job_id"], version=row["version"], based_on=row["based_on"], design=design, digest=row["digest"], saved_at=row["saved_at"],
        told=told,
    )  # fmt: skip


def version_of_save(connection: Connection[Any], save_id: str, job_id: str) -> int | None:
    """What a save with this id gave, if it was done already.

    Raises:
        OfAnotherJob: the id was used for another job's save.
    """
    with connection.cursor() as cursor:
        cursor.execute("SELECT version, job_id FROM save WHERE save_id = %s", (save_id,))
        row = cursor.fetchone()
    if row is None:
        return None
    if row["job_id"] != job_id:
        raise OfAnotherJob(save_id)
    return int(row["version"])


def note_save(connection: Connection[Any], save_id: str, job_id: str, version: int, now: datetime) -> None:
    """Remember that a save was done."""
    with connection.cursor() as cursor:
        cursor.execute(
            "INSERT INTO save (save_id, job_id, version, saved_at) VALUES (%s, %s, %s, %s)",
            (save_id, job_id, version, now),
        )
