"""Revisions: immutable states of a job, numbered from 1, each with its parent.

One is sealed from the draft when a person names or issues it, when it is exported, or when it had lain idle for 30 s
and the next edit (or a look at the history) comes. A state that is sealed already is not sealed twice.
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import TYPE_CHECKING, Any, Literal

from pymysql.connections import Connection

from tirante.core.document.design import Design
from tirante.storage.documents import pack, unpack

if TYPE_CHECKING:
    from tirante.storage.drafts import Draft

IDLE = timedelta(seconds=30)
RevisionKind = Literal["sealed", "named", "issued", "branch"]
_COLUMNS = "r.number, r.parent, r.kind, r.name, r.reviewer AS typed, r.digest, r.sealed_at, v.name AS reviewed_by, v.at AS reviewed_at, COALESCE(v.limits, '') AS limits"
_OF_JOB = (
    "revision r LEFT JOIN review v ON v.job_id = r.job_id AND v.number = r.number AND NOT EXISTS (SELECT 1 FROM review_withdrawn w WHERE w.review_id = v.id) "
    "WHERE r.job_id = %s"
)


@dataclass(frozen=True, slots=True, kw_only=True)
class RevisionRow:
    """A revision in a list."""

    number: int
    parent: int | None
    kind: RevisionKind
    name: str
    typed: str | None  # a reviewer's name as it was once typed, signed by nobody
    digest: str
    sealed_at: datetime
    reviewed_by: str | None  # who signed the review that stands
    reviewed_at: datetime | None
    limits: str

    @property
    def reviewer(self) -> str | None:
        """Who reviewed it, in words; None: it is not reviewed."""
        return self.reviewed_by or (f"{self.typed} (typed, signed by nobody)" if self.typed else None)


def list_revisions(connection: Connection[Any], job_id: str) -> list[RevisionRow]:
    """Newest first."""
    with connection.cursor() as cursor:
        cursor.execute(f"SELECT {_COLUMNS} FROM {_OF_JOB} ORDER BY r.number DESC", (job_id,))
        return [RevisionRow(**row) for row in cursor.fetchall()]


def get_revision(connection: Connection[Any], job_id: str, number: int) -> tuple[RevisionRow, Design] | None:
    """A revision with its design."""
    with connection.cursor() as cursor:
        cursor.execute(f"SELECT {_COLUMNS}, r.document FROM {_OF_JOB} AND r.number = %s", (job_id, number))
        row = cursor.fetchone()
    if row is None:
        return None
    design = unpack(row.pop("document"))
    return RevisionRow(**row), design


def seal_if_idle(connection: Connection[Any], draft: Draft, now: datetime) -> int | None:
    """Seal the draft as it stands when its last edit is 30 s or more ago; the number, if a new one was made."""
    if now - draft.saved_at < IDLE or _number_of_state(connection, draft) is not None:
        return None
    return _insert(connection, draft.job_id, draft.based_on, "sealed", "", draft.design, now, move_draft=True)


def seal(
    connection: Connection[Any], draft: Draft, now: datetime, *, kind: RevisionKind = "sealed", name: str = "",
) -> int:  # fmt: skip
    """Seal the draft; a plain seal of a state that is sealed already gives that one's number.

    Naming or issuing always makes a revision of its own: what was sealed stays as it was.
    """
    known = _number_of_state(connection, draft)
    if kind == "sealed" and known is not None:
        return known
    return _insert(connection, draft.job_id, draft.based_on, kind, name, draft.design, now, move_draft=True)


def keep_as_branch(
    connection: Connection[Any], job_id: str, parent: int | None, name: str, design: Design, now: datetime
) -> int:
    """Seal another version of the job beside the draft, which stays as it is."""
    return _insert(connection, job_id, parent, "branch", name, design, now, move_draft=False)


def _number_of_state(connection: Connection[Any], draft: Draft) -> int | None:
    """The revision that the draft grew from, when nothing has changed since."""
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT number FROM revision WHERE job_id = %s AND number = %s AND digest = %s",
            (draft.job_id, draft.based_on, draft.digest),
        )
        row = cursor.fetchone()
    return None if row is None else int(row["number"])


def _insert(
    connection: Connection[Any], job_id: str, parent: int | None, kind: RevisionKind, name: str,
    design: Design, now: datetime, *, move_draft: bool,
) -> int:  # fmt: skip
    document, digest = pack(design)
    with connection.cursor() as cursor:
        cursor.execute("SELECT COALESCE(MAX(number), 0) + 1 AS next FROM revision WHERE job_id = %s", (job_id,))
        row = cursor.fetchone()
        number = int(row["next"]) if row else 1
        cursor.execute(
            "INSERT INTO revision (job_id, number, parent, kind, name, document, digest, sealed_at)"
            " VALUES (%s, %s, %s, %s, %s, %s, %s, %s)",
            (job_id, number, parent, kind, name, document, digest, now),
        )
        if move_draft:
            cursor.execute("UPDATE draft SET based_on = %s WHERE job_id = %s", (number, job_id))
    return number
