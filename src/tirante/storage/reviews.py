"""Reviews of issued revisions: rows that are only added; one that is withdrawn is kept. And who drew a job, who cannot review it."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from typing import Any

from pymysql.connections import Connection
from pymysql.err import IntegrityError

from tirante.storage.signatures import SignedAlready


@dataclass(frozen=True, slots=True, kw_only=True)
class Review:
    """An issued revision that somebody who did not draw it answers for, within limits."""

    id: str
    number: int
    person_id: str
    name: str
    limits: str
    at: datetime
    withdrawn: str | None = None  # why; None: it stands
    withdrawn_by: str = ""

    @property
    def stands(self) -> bool:
        """Whether it was not withdrawn."""
        return self.withdrawn is None


OF_JOB = (
    "SELECT v.id, v.number, v.person_id, v.name, v.limits, v.at, w.why AS withdrawn, COALESCE(p.name, '') AS withdrawn_by "
    "FROM review v LEFT JOIN review_withdrawn w ON w.review_id = v.id LEFT JOIN person p ON p.id = w.person_id WHERE v.job_id = %s ORDER BY v.at, v.id"
)


def of_job(connection: Connection[Any], job_id: str) -> list[Review]:
    """All of a job, withdrawn ones too, in the order in which they were made.

    Args:
        connection: in a transaction.
        job_id: the job.
    """
    if not job_id.isascii():
        return []
    with connection.cursor() as cursor:
        cursor.execute(OF_JOB, (job_id,))
        return [Review(**row) for row in cursor.fetchall()]


def keep(connection: Connection[Any], job_id: str, one: Review, pack: bytes) -> None:
    """Keep one.

    Args:
        connection: in a transaction.
        job_id: the job.
        one: to be kept.
        pack: of the issue, with it on its sheets.

    Raises:
        SignedAlready: one of that revision stands.
    """
    before = [other for other in of_job(connection, job_id) if other.number == one.number]
    standing = next((other for other in before if other.stands), None)
    if standing is not None:
        raise SignedAlready(standing.name)
    with connection.cursor() as cursor:
        try:
            cursor.execute(
                "INSERT INTO review (id, job_id, number, nth, person_id, name, limits, at, pack) VALUES (%s, %s, %s, %s, %s, %s, %s, %s, %s)",
                (one.id, job_id, one.number, len(before), one.person_id, one.name, one.limits, one.at, pack),
            )
        except IntegrityError as error:
            raise SignedAlready("somebody else") from error


def withdraw(connection: Connection[Any], review_id: str, person_id: str, why: str, now: datetime) -> None:
    """Withdraw one; withdrawn again it stays as it was.

    Args:
        connection: in a transaction.
        review_id: of it.
        person_id: who withdraws it.
        why: told with it.
        now: UTC.
    """
    with connection.cursor() as cursor:
        cursor.execute("INSERT IGNORE INTO review_withdrawn (review_id, person_id, why, at) VALUES (%s, %s, %s, %s)", (review_id, person_id, why, now))  # fmt: skip


PACK_OF = (
    "SELECT v.pack FROM review v LEFT JOIN review_withdrawn w ON w.review_id = v.id "
    "WHERE v.job_id = %s AND v.number = %s AND w.review_id IS NULL"
)


def pack_of(connection: Connection[Any], job_id: str, number: int) -> bytes | None:
    """The pack with the review that stands on its sheets; None where none stands.

    Args:
        connection: in a transaction.
        job_id: the job.
        number: of the issued revision.
    """
    with connection.cursor() as cursor:
        cursor.execute(PACK_OF, (job_id, number))
        row = cursor.fetchone()
    return None if row is None else bytes(row["pack"])


def drew(connection: Connection[Any], job_id: str, person_id: str | None, version: int) -> None:
    """Note that somebody changed a job.

    Args:
        connection: in the transaction that changes it.
        job_id: the job.
        person_id: who did; None: nobody was signed in.
        version: of the draft that came of it.
    """
    with connection.cursor() as cursor:
        cursor.execute("INSERT IGNORE INTO drew (job_id, person_id, version) VALUES (%s, %s, %s)", (job_id, person_id or "", version))  # fmt: skip


def who_drew(connection: Connection[Any], job_id: str) -> dict[str, int]:
    """Whoever changed a job, with the version of the draft with which they began; under an empty id where nobody was signed in.

    Args:
        connection: in a transaction.
        job_id: the job.
    """
    if not job_id.isascii():
        return {}
    with connection.cursor() as cursor:
        cursor.execute("SELECT person_id, version FROM drew WHERE job_id = %s", (job_id,))
        return {row["person_id"]: int(row["version"]) for row in cursor.fetchall()}
