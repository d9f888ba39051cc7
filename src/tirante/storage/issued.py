"""What was issued, as it was issued: engine, figures and pack, so that a reprint is what somebody built from."""

from __future__ import annotations

import zlib
from dataclasses import dataclass
from typing import Any

from pymysql.connections import Connection


@dataclass(frozen=True, slots=True, kw_only=True)
class Issued:
    """An issued revision's keepsakes."""

    engine: str
    figures: str  # JSON
    pack: bytes  # zip


def keep(connection: Connection[Any], job_id: str, number: int, issued: Issued) -> None:
    """Keep what was issued; it is never changed.

    Args:
        connection: in the transaction that seals the revision.
        job_id: the job.
        number: of the revision.
        issued: what is kept.
    """
    with connection.cursor() as cursor:
        cursor.execute(
            "INSERT INTO issued (job_id, number, engine, figures, pack) VALUES (%s, %s, %s, %s, %s)",
            (job_id, number, issued.engine, zlib.compress(issued.figures.encode(), 6), issued.pack),
        )


def get(connection: Connection[Any], job_id: str, number: int) -> Issued | None:
    """What was kept; None of a revision that was not issued, or was before anything was kept.

    Args:
        connection: in a transaction.
        job_id: the job.
        number: of the revision.
    """
    with connection.cursor() as cursor:
        cursor.execute("SELECT engine, figures, pack FROM issued WHERE job_id = %s AND number = %s", (job_id, number))
        row = cursor.fetchone()
    if row is None:
        return None
    return Issued(engine=row["engine"], figures=zlib.decompress(row["figures"]).decode(), pack=row["pack"])


def engines(connection: Connection[Any], job_id: str) -> dict[int, str]:
    """The engine of each revision of a job that is kept as it was issued.

    Args:
        connection: in a transaction.
        job_id: the job.
    """
    with connection.cursor() as cursor:
        cursor.execute("SELECT number, engine FROM issued WHERE job_id = %s", (job_id,))
        return {int(row["number"]): row["engine"] for row in cursor.fetchall()}
