"""Jobs and their working drafts: one draft a job, replaced by each save, never by a save from an older version."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from typing import Any

from pymysql.connections import Connection

from tirante.core.document.design import Design
from tirante.storage import revisions
from tirante.storage.documents import pack
from tirante.storage.drafts import Draft, Stale, get_draft, note_save, version_of_save
from tirante.storage.reviews import drew


@dataclass(frozen=True, slots=True, kw_only=True)
class JobRow:
    """A job in a list."""

    id: str
    name: str
    demo: str | None
    created_at: datetime
    version: int
    saved_at: datetime


def list_jobs(connection: Connection[Any]) -> list[JobRow]:
    """All jobs, last saved first."""
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT j.id, j.name, j.demo, j.created_at, d.version, d.saved_at FROM job j JOIN draft d ON d.job_id = j.id"
            " ORDER BY d.saved_at DESC, j.id"
        )
        return [JobRow(**row) for row in cursor.fetchall()]


def create_job(
    connection: Connection[Any],
    job_id: str,
    design: Design,
    now: datetime,
    demo: str | None = None,
    by: str | None = None,
) -> Draft:
    """Add a job with its first draft; the same id again gives what is there (a repeated request does no harm).

    Args:
        connection: in a transaction.
        job_id: made by the client.
        design: its first state.
        now: UTC.
        demo: the demo file that it is of.
        by: who is signed in.
    """
    with connection.cursor() as cursor:
        document, digest = pack(design)
        # the row itself decides who was first: a look beforehand would let two wait for each other's gap
        if cursor.execute(
            "INSERT IGNORE INTO job (id, name, demo, created_at) VALUES (%s, %s, %s, %s)",
            (job_id, design.name, demo, now),
        ):
            cursor.execute(
                "INSERT INTO draft (job_id, version, based_on, document, digest, saved_at) VALUES (%s, 1, NULL, %s, %s, %s)",
                (job_id, document, digest, now),
            )
            drew(connection, job_id, by, 1)
    return get_draft(connection, job_id)


def save_draft(
    connection: Connection[Any],
    job_id: str,
    save_id: str,
    from_version: int,
    design: Design,
    now: datetime,
    by: str | None = None,
) -> int:
    """Replace the draft, sealing the one it replaces when that had lain idle.

    Args:
        connection: in a transaction.
        job_id: the job.
        save_id: made by the client; the same id again answers the version it gave and changes nothing.
        from_version: version the edit was made on.
        design: the new state.
        now: UTC.
        by: who is signed in.

    Returns:
        The draft's new version.

    Raises:
        NotFound: no such job.
        Stale: the draft is at another version; it comes with the error.
    """
    current = get_draft(connection, job_id, lock=True)
    done = version_of_save(connection, save_id, job_id)
    if done is not None:
        return done
    if current.version != from_version:
        raise Stale(current)
    document, digest = pack(design)
    version = current.version + 1
    revisions.seal_if_idle(connection, current, now)
    with connection.cursor() as cursor:
        cursor.execute(
            "UPDATE draft SET version = %s, document = %s, digest = %s, saved_at = %s WHERE job_id = %s",
            (version, document, digest, now, job_id),
        )
        cursor.execute("UPDATE job SET name = %s WHERE id = %s", (design.name, job_id))
    note_save(connection, save_id, job_id, version, now)
    drew(connection, job_id, by, version)
    return version
