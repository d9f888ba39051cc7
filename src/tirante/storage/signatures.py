"""What somebody signed for: rows that are only added; one that is withdrawn is kept, with who withdrew it and why."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from typing import Any

from pymysql.connections import Connection
from pymysql.err import IntegrityError


class SignedAlready(Exception):  # noqa: N818
    """Somebody else was first."""

    def __init__(self, by: str) -> None:
        """
        Args:
            by: who signed.
        """
        super().__init__(by)
        self.by = by


@dataclass(frozen=True, slots=True, kw_only=True)
class Signature:
    """A step of one hand of a part, of this metal, as this issued revision has it, signed for."""

    id: str
    number: int
    part_id: str
    hand: str
    step: str
    metal: str
    person_id: str
    name: str
    note: str
    at: datetime
    withdrawn: str | None = None  # why; None: it stands
    withdrawn_by: str = ""

    @property
    def stands(self) -> bool:
        """Whether it was not withdrawn."""
        return self.withdrawn is None


OF_JOB = (
    "SELECT s.id, s.number, s.part_id, s.hand, s.step, s.metal, s.person_id, s.name, s.note, s.at, w.why AS withdrawn, COALESCE(p.name, '') AS withdrawn_by "
    "FROM signature s LEFT JOIN withdrawn w ON w.signature_id = s.id LEFT JOIN person p ON p.id = w.person_id WHERE s.job_id = %s ORDER BY s.at, s.id"
)


def of_job(connection: Connection[Any], job_id: str) -> list[Signature]:
    """All of a job, withdrawn ones too, in the order in which they were made.

    Args:
        connection: in a transaction.
        job_id: the job.
    """
    if not job_id.isascii():
        return []
    with connection.cursor() as cursor:
        cursor.execute(OF_JOB, (job_id,))
        return [Signature(**row) for row in cursor.fetchall()]


def sign(connection: Connection[Any], job_id: str, one: Signature) -> bool:
    """Keep one; the same again does no harm.

    Args:
        connection: in a transaction.
        job_id: the job.
        one: to be kept.

    Returns:
        Whether it was not there already.

    Raises:
        SignedAlready: the step is signed and not withdrawn.
    """
    own = (one.part_id, one.hand, one.step, one.metal)
    before = [s for s in of_job(connection, job_id) if (s.part_id, s.hand, s.step, s.metal) == own]
    if any(s.id == one.id for s in before):
        return False
    standing = next((s for s in before if s.stands), None)
    if standing is not None:
        raise SignedAlready(standing.name)
    with connection.cursor() as cursor:
        try:
            cursor.execute(
                "INSERT INTO signature (id, job_id, number, part_id, hand, step, metal, nth, person_id, name, note, at) VALUES (%s, %s, %s, %s, %s, %s, %s, %s, %s, %s, %s, %s)",
                (one.id, job_id, one.number, *own, len(before), one.person_id, one.name, one.note, one.at),
            )
        except IntegrityError as error:
            raise SignedAlready("somebody else") from error
    return True


def withdraw(connection: Connection[Any], signature_id: str, person_id: str, why: str, now: datetime) -> None:
    """Withdraw one; withdrawn again it stays as it was.

    Args:
        connection: in a transaction.
        signature_id: of it.
        person_id: who withdraws it.
        why: told with it.
        now: UTC.
    """
    with connection.cursor() as cursor:
        cursor.execute("INSERT IGNORE INTO withdrawn (signature_id, person_id, why, at) VALUES (%s, %s, %s, %s)", (signature_id, person_id, why, now))  # fmt: skip
