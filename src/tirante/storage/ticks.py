"""Steps ticked and unticked at the bench: rows that are only added; the latest of each says how it stands."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from pymysql.connections import Connection


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
                "INSERT IGNORE INTO tick (id, job_id, number, part_id, hand, step, metal, done, made_at, came_at) VALUES (%s, %s, %s, %s, %s, %s, %s, %s, %s, %s)",
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
                ),
            )


def standing(connection: Connection[Any], job_id: str) -> list[Tick]:
    """How every step stands that was ever ticked: of each part, hand, step and metal the latest, as it was made at the bench.

    Args:
        connection: in a transaction.
        job_id: the job.
    """
    if not job_id.isascii():
        return []
    latest: dict[tuple[str, str, str, str], Tick] = {}
    with connection.cursor() as cursor:
        cursor.execute("SELECT id, number, part_id, hand, step, metal, done, made_at FROM tick WHERE job_id = %s ORDER BY made_at, came_at, id", (job_id,))  # fmt: skip
        for row in cursor.fetchall():
            one = Tick(
                id=row["id"], number=row["number"], part_id=row["part_id"], hand=row["hand"], step=row["step"], metal=row["metal"], done=bool(row["done"]),
                made_at=row["made_at"],
            )  # fmt: skip
            latest[one.part_id, one.hand, one.step, one.metal] = one
    return list(latest.values())
