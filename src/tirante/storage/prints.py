"""What was printed: which sheets of which revision, of which parts with which metal. A repeat is counted, never doubled."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from pymysql.connections import Connection


@dataclass(frozen=True, slots=True, kw_only=True)
class PrintedPart:
    """A part as it was printed."""

    id: str
    name: str
    metal: str  # fingerprint


@dataclass(frozen=True, slots=True, kw_only=True)
class Print:
    """Sheets that were made, as often as they were."""

    number: int  # of the revision
    issued: bool
    what: str
    parts: tuple[PrintedPart, ...]
    times: int
    last_at: datetime


def record(
    connection: Connection[Any], job_id: str, number: int, what: str, parts: Sequence[PrintedPart], now: datetime, *, issued: bool
) -> None:  # fmt: skip
    """Note that sheets were made; the same again counts one more.

    Args:
        connection: in a transaction.
        job_id: the job.
        number: of the revision.
        what: pack, sheets or labels.
        parts: that are on them.
        now: UTC.
        issued: whether the revision is one to build from.
    """
    text = json.dumps([[one.id, one.name, one.metal] for one in parts], ensure_ascii=False)
    own = hashlib.sha1(f"{job_id} {number} {what} {text}".encode(), usedforsecurity=False).hexdigest()
    with connection.cursor() as cursor:
        cursor.execute(
            "INSERT INTO print (id, job_id, number, issued, what, parts, first_at, last_at) VALUES (%s, %s, %s, %s, %s, %s, %s, %s) "
            "ON DUPLICATE KEY UPDATE times = times + 1, last_at = VALUES(last_at)",
            (own, job_id, number, int(issued), what, text, now, now),
        )


def of_job(connection: Connection[Any], job_id: str, most: int = 200) -> list[Print]:
    """What was printed of a job, the latest first.

    Args:
        connection: in a transaction.
        job_id: the job.
        most: rows that are wanted.
    """
    if not job_id.isascii():
        return []
    with connection.cursor() as cursor:
        cursor.execute("SELECT number, issued, what, parts, times, last_at FROM print WHERE job_id = %s ORDER BY last_at DESC, id LIMIT %s", (job_id, most))  # fmt: skip
        return [
            Print(
                number=int(row["number"]), issued=bool(row["issued"]), what=row["what"], times=int(row["times"]), last_at=row["last_at"],
                parts=tuple(PrintedPart(id=own, name=name, metal=metal) for own, name, metal in json.loads(row["parts"])),
            )
            for row in cursor.fetchall()
        ]  # fmt: skip
