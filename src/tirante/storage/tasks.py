"""Work that no request waits for: queued, taken by one worker, told how far it is, kept with its result. Several workers may run."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any, Literal

from pymysql.connections import Connection

from tirante.storage.drafts import NotFound

State = Literal["queued", "running", "done", "failed", "cancelled"]
STALE = timedelta(seconds=15)  # without a sign of life: its worker is gone, another takes it up
KEPT = timedelta(days=7)  # after it has ended
MOST_TRIES = 3
MOST_QUEUED = 50


@dataclass(frozen=True, slots=True, kw_only=True)
class Task:
    """A task as it stands."""

    id: str
    job_id: str | None
    kind: str
    state: State
    body: str  # JSON
    done: int
    of: int
    stop: bool
    result: str | None  # JSON
    fault: str | None


class TooMany(Exception):  # noqa: N818
    """More is queued than will be done soon."""


def _task(row: dict[str, Any]) -> Task:
    return Task(
        id=row["id"], job_id=row["job_id"], kind=row["kind"], state=row["state"], body=row["body"], done=row["done"], of=row["of_all"],
        stop=bool(row["stop"]), result=row["result"], fault=row["fault"],
    )  # fmt: skip


def add(connection: Connection[Any], task_id: str, job_id: str | None, kind: str, body: str, now: datetime) -> Task:
    """Queue a task; the same id again gives the one that is there.

    Args:
        connection: in a transaction.
        task_id: made by the client.
        job_id: that it is asked from.
        kind: which worker's road it takes.
        body: JSON, what is to be done.
        now: UTC.

    Raises:
        TooMany: the queue is full.
    """
    with connection.cursor() as cursor:
        cursor.execute("SELECT id FROM task WHERE ended_at < %s", (now - KEPT,))
        for old in cursor.fetchall():
            cursor.execute("DELETE FROM task WHERE id = %s", (old["id"],))
        cursor.execute("SELECT COUNT(*) AS n FROM task WHERE state = 'queued'")
        row = cursor.fetchone()
        if row and row["n"] >= MOST_QUEUED:
            raise TooMany
        cursor.execute(
            "INSERT IGNORE INTO task (id, job_id, kind, body, made_at) VALUES (%s, %s, %s, %s, %s)",
            (task_id, job_id, kind, body, now),
        )
    return get(connection, task_id)


def get(connection: Connection[Any], task_id: str) -> Task:
    """A task.

    Raises:
        NotFound: there is none.
    """
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT id, job_id, kind, state, body, done, of_all, stop, result, fault FROM task WHERE id = %s",
            (task_id,),
        )
        row = cursor.fetchone()
    if row is None:
        raise NotFound(task_id)
    return _task(row)


def stop(connection: Connection[Any], task_id: str, now: datetime) -> Task:
    """Have a task end: one that waits is cancelled, one that runs ends after what it is at, and what is done stands.

    Args:
        connection: in a transaction.
        task_id: of the task.
        now: UTC.

    Raises:
        NotFound: there is none.
    """
    with connection.cursor() as cursor:
        cursor.execute(
            "UPDATE task SET state = 'cancelled', ended_at = %s WHERE id = %s AND state = 'queued'", (now, task_id)
        )
        cursor.execute("UPDATE task SET stop = 1 WHERE id = %s AND state = 'running'", (task_id,))
    return get(connection, task_id)


def claim(connection: Connection[Any], worker: str, now: datetime) -> Task | None:
    """Take the oldest task that waits, or that a worker has left; none when there is none.

    Rows that another worker is just taking are passed over, so that two never take one.

    Args:
        connection: in a transaction, committed at once.
        worker: who takes it.
        now: UTC.
    """
    with connection.cursor() as cursor:
        # looked at without a lock first: a locking search would hold every row that it passes, and the other workers with them
        cursor.execute(
            "SELECT id FROM task WHERE state = 'queued' OR (state = 'running' AND seen_at < %s) ORDER BY made_at LIMIT 20",
            (now - STALE,),
        )
        for row in cursor.fetchall():
            cursor.execute(
                "SELECT id, tries FROM task WHERE id = %s AND (state = 'queued' OR (state = 'running' AND seen_at < %s)) "
                "FOR UPDATE SKIP LOCKED",
                (row["id"], now - STALE),
            )
            free = cursor.fetchone()
            if free is None:
                continue
            if free["tries"] >= MOST_TRIES:
                cursor.execute(
                    "UPDATE task SET state = 'failed', ended_at = %s, fault = %s WHERE id = %s",
                    (now, "It was begun several times, and its worker ended each time.", free["id"]),
                )
                continue
            cursor.execute(
                "UPDATE task SET state = 'running', worker = %s, seen_at = %s, tries = tries + 1, done = 0 WHERE id = %s",
                (worker, now, free["id"]),
            )
            return get(connection, free["id"])
    return None


def tell(connection: Connection[Any], task_id: str, worker: str, done: int, of: int, now: datetime) -> bool:
    """A sign of life, and how far it is; False when it is to end, or is another worker's by now.

    Args:
        connection: in a transaction.
        task_id: of the task.
        worker: who has it.
        done: pieces of it.
        of: how many there are.
        now: UTC.
    """
    with connection.cursor() as cursor:
        own = cursor.execute(
            "UPDATE task SET done = %s, of_all = %s, seen_at = %s WHERE id = %s AND worker = %s AND state = 'running'",
            (done, of, now, task_id, worker),
        )
        cursor.execute("SELECT stop FROM task WHERE id = %s", (task_id,))
        row = cursor.fetchone()
    return bool(own) and row is not None and not row["stop"]


def live(connection: Connection[Any], task_id: str, worker: str, now: datetime) -> None:
    """A sign of life alone.

    Args:
        connection: in a transaction.
        task_id: of the task.
        worker: who has it.
        now: UTC.
    """
    with connection.cursor() as cursor:
        cursor.execute(
            "UPDATE task SET seen_at = %s WHERE id = %s AND worker = %s AND state = 'running'", (now, task_id, worker)
        )


def end(
    connection: Connection[Any],
    task_id: str,
    worker: str,
    now: datetime,
    *,
    result: str | None,
    fault: str | None = None,
    file: bytes | None = None,
) -> bool:
    """Keep what came of a task; False when another worker has it by now, whose answer counts.

    Args:
        connection: in a transaction.
        task_id: of the task.
        worker: who had it.
        now: UTC.
        result: JSON; None when it failed, or was stopped with nothing done.
        fault: why it failed, in words.
        file: what came of it, where that is a file.
    """
    state = "failed" if fault is not None else "cancelled" if result is None else "done"
    with connection.cursor() as cursor:
        return bool(
            cursor.execute(
                "UPDATE task SET state = %s, result = %s, fault = %s, file = %s, ended_at = %s, seen_at = %s "
                "WHERE id = %s AND worker = %s AND state = 'running'",
                (state, result, fault and fault[:500], file, now, now, task_id, worker),
            )
        )


def file_of(connection: Connection[Any], task_id: str) -> bytes | None:
    """The file that came of a task; None when there is none (yet)."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT file FROM task WHERE id = %s", (task_id,))
        row = cursor.fetchone()
    return row["file"] if row else None
