"""Steps ticked and unticked at the bench: rows that are only added; the latest of each says how it stands."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from pymysql.connections import Connection

from tirante.core.document.ticked import NOTHING, Told


@dataclass(frozen=True, slots=True, kw_only=True)
class Tick:
    """A step of a part, done or not after all."""

    id: str  # made by the client
    number: int | None  # of the issued revision whose card it was; None: a draft
    part_id: str
    hand: str
    step: str
    metal: str
    done: bool
    made_at: datetime
    told: Told = NOTHING
    person_id: str | None = None  # who was signed in
    came_at: datetime | None = None  # as it was kept; None: of one that is to be kept


def add(connection: Connection[Any], job_id: str, ticks: Sequence[Tick], now: datetime) -> None:
    """Add ticks; one that came already does no harm.

    Args:
        connection: in a transaction.
        job_id: the job.
        ticks: in any order.
        now: UTC.
    """
    with connection.cursor() as cursor:
        for one in ticks:
            cursor.execute(
                "INSERT IGNORE INTO tick (id, job_id, number, part_id, hand, step, metal, done, made_at, came_at, told, person_id) VALUES (%s, %s, %s, %s, %s, %s, %s, %s, %s, %s, %s, %s)",
                (
                    one.id,
                    job_id,
                    one.number,
                    one.part_id,
                    one.hand,
                    one.step,
                    one.metal,
                    int(one.done),
                    one.made_at,
                    now,
                    one.told.model_dump_json(exclude_defaults=True),
                    one.person_id,
                ),
            )


EVERY = (
    "SELECT id, number, part_id, hand, step, metal, done, made_at, came_at, told, person_id FROM tick WHERE job_id = %s"
)


def every(connection: Connection[Any], job_id: str, part_id: str | None = None) -> list[Tick]:
    """All ticks of a job, or of one of its parts, as they were made at the bench.

    Args:
        connection: in a transaction.
        job_id: the job.
        part_id: of the part; None: of all.
    """
    if not job_id.isascii() or not (part_id or "").isascii():
        return []
    with connection.cursor() as cursor:
        if part_id is None:
            cursor.execute(f"{EVERY} ORDER BY made_at, came_at, id", (job_id,))
        else:
            cursor.execute(f"{EVERY} AND part_id = %s ORDER BY made_at, came_at, id", (job_id, part_id))
        return [
            Tick(
                id=row["id"], number=row["number"], part_id=row["part_id"], hand=row["hand"], step=row["step"], metal=row["metal"], done=bool(row["done"]),
                made_at=row["made_at"], came_at=row["came_at"], told=Told.model_validate_json(row["told"]), person_id=row["person_id"],
            )
            for row in cursor.fetchall()
        ]  # fmt: skip


def standing(connection: Connection[Any], job_id: str) -> list[Tick]:
    """How every step stands that was ever ticked: of each part, hand, step and metal the latest, as it was made at the bench.

    Args:
        connection: in a transaction.
        job_id: the job.
    """
    return list({(one.part_id, one.hand, one.step, one.metal): one for one in every(connection, job_id)}.values())
