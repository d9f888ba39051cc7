"""Layouts of sticks and sheets that are kept, and what confirming one does to the rack, in one transaction with it."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any, Literal

from pymysql.connections import Connection

from tirante.core.cutting.kept import RackChange
from tirante.core.document.cutting import KEPT, KeptCutting, KeptNest
from tirante.core.document.rack import RackRow

State = Literal["kept", "cut", "undone"]


class Gone(Exception):  # noqa: N818
    """There is no such layout in this job."""


class OtherState(Exception):  # noqa: N818
    """It is cut, or taken back, already."""

    def __init__(self, state: State) -> None:
        super().__init__(state)
        self.state = state


@dataclass(frozen=True, slots=True)
class Stored:
    """A layout with its state."""

    id: str
    state: State
    cutting: KeptCutting | KeptNest
    made_at: datetime


def _stored(row: dict[str, Any]) -> Stored:
    return Stored(row["id"], row["state"], KEPT.validate_json(row["document"]), row["made_at"])


def of_job(connection: Connection[Any], job_id: str) -> list[Stored]:
    """All of a job, the newest first."""
    if not job_id.isascii():  # the column is ASCII, and the database refuses to compare anything else with it
        return []
    with connection.cursor() as cursor:
        cursor.execute("SELECT id, state, document, made_at FROM cutting WHERE job_id = %s ORDER BY made_at DESC, id", (job_id,))  # fmt: skip
        return [_stored(row) for row in cursor.fetchall()]


def standing(connection: Connection[Any], job_id: str) -> tuple[KeptCutting | KeptNest, ...]:
    """The layouts of a job that go with its sheets, the oldest first: kept or cut; one that was taken back is none."""
    return tuple(one.cutting for one in reversed(of_job(connection, job_id)) if one.state != "undone")


def keep(connection: Connection[Any], job_id: str, own_id: str, cutting: KeptCutting | KeptNest, now: datetime) -> None:
    """Keep a layout; a repeat under its id does no harm.

    Args:
        connection: in a transaction.
        job_id: of the job.
        own_id: made by the client.
        cutting: as it was laid out.
        now: UTC.
    """
    with connection.cursor() as cursor:
        cursor.execute(
            "INSERT IGNORE INTO cutting (id, job_id, state, document, made_at, changed_at) VALUES (%s, %s, 'kept', %s, %s, %s)",
            (own_id, job_id, cutting.model_dump_json(), now, now),
        )


def change(
    connection: Connection[Any], job_id: str, own_id: str, before: State, after: State, rule: Callable[[KeptCutting | KeptNest, Sequence[RackRow]], RackChange], now: datetime,
) -> None:  # fmt: skip
    """Confirm a layout or take it back: its state and the rack together, or neither.

    The layout is locked first and the whole rack after it, so that of two who want one stick the second sees what the first left. A layout that
    is in the state wanted already stays as it is: a repeat after a lost answer does no harm.

    Args:
        connection: in a transaction.
        job_id: of the job.
        own_id: of the layout.
        before: the state that it must be in.
        after: that it goes to.
        rule: what the rack is to be.
        now: UTC.

    Raises:
        Gone: no such layout.
        OtherState: it is in another state.
    """
    if not (job_id.isascii() and own_id.isascii()):
        raise Gone
    with connection.cursor() as cursor:
        cursor.execute("SELECT id, state, document, made_at FROM cutting WHERE id = %s AND job_id = %s FOR UPDATE", (own_id, job_id))  # fmt: skip
        row = cursor.fetchone()
        if row is None:
            raise Gone
        stored = _stored(row)
        if stored.state == after:
            return
        if stored.state != before:
            raise OtherState(stored.state)
        cursor.execute("SELECT document FROM rack ORDER BY id FOR UPDATE")
        found = rule(stored.cutting, [RackRow.model_validate_json(one["document"]) for one in cursor.fetchall()])
        for one in found.rows:
            if one.count == 0:
                cursor.execute("DELETE FROM rack WHERE id = %s", (one.id,))
            else:
                cursor.execute(
                    "INSERT INTO rack (id, version, document, changed_at) VALUES (%s, 1, %s, %s) "
                    "ON DUPLICATE KEY UPDATE document = VALUES(document), version = version + 1, changed_at = VALUES(changed_at)",
                    (one.id, one.model_dump_json(), now),
                )
        kept = stored.cutting.model_copy(update={"remnants": found.remnants, "new_heat": found.heat, **({} if found.taken is None else {"rows": found.taken})})  # fmt: skip
        cursor.execute("UPDATE cutting SET state = %s, document = %s, changed_at = %s WHERE id = %s", (after, kept.model_dump_json(), now, own_id))  # fmt: skip


def remove(connection: Connection[Any], job_id: str, own_id: str) -> None:
    """Take away a layout that nothing was cut by; one that is gone stays gone.

    Args:
        connection: in a transaction.
        job_id: of the job.
        own_id: of the layout.

    Raises:
        OtherState: it is cut: what it took off the rack would be forgotten.
    """
    if not (job_id.isascii() and own_id.isascii()):
        return
    with connection.cursor() as cursor:
        cursor.execute("SELECT state FROM cutting WHERE id = %s AND job_id = %s FOR UPDATE", (own_id, job_id))
        row = cursor.fetchone()
        if row is not None and row["state"] == "cut":
            raise OtherState(row["state"])
        cursor.execute("DELETE FROM cutting WHERE id = %s AND job_id = %s", (own_id, job_id))
