"""What was not settled of a revision when it was issued, and who answers for it; kept with the revision and never changed."""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from pymysql.connections import Connection


@dataclass(frozen=True, slots=True, kw_only=True)
class Acknowledged:
    """A person's name against a list."""

    person: str
    lines: tuple[str, ...]


def keep(connection: Connection[Any], job_id: str, number: int, person: str, lines: Sequence[str]) -> None:
    """Keep it.

    Args:
        connection: in the transaction that seals the revision.
        job_id: the job.
        number: of the revision.
        person: who answers for it.
        lines: what was not settled.
    """
    with connection.cursor() as cursor:
        cursor.execute(
            "INSERT INTO acknowledged (job_id, number, person, `lines`) VALUES (%s, %s, %s, %s)",
            (job_id, number, person, json.dumps(list(lines), ensure_ascii=False)),
        )


def of_job(connection: Connection[Any], job_id: str) -> dict[int, Acknowledged]:
    """Of every revision of a job that was issued so.

    Args:
        connection: in a transaction.
        job_id: the job.
    """
    with connection.cursor() as cursor:
        cursor.execute("SELECT number, person, `lines` FROM acknowledged WHERE job_id = %s", (job_id,))
        return {
            int(row["number"]): Acknowledged(person=row["person"], lines=tuple(json.loads(row["lines"])))
            for row in cursor.fetchall()
        }
