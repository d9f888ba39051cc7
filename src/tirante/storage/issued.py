"""What was issued, as it was issued: engine, figures and pack, so that a reprint is what somebody built from."""

from __future__ import annotations

import zlib
from dataclasses import dataclass
from typing import Any

from pymysql.connections import Connection

from tirante.storage.reviews import pack_of


@dataclass(frozen=True, slots=True, kw_only=True)
class Issued:
    """An issued revision's keepsakes."""

    engine: str
    figures: str  # JSON
    pack: bytes  # zip; with the review that stands on its sheets
    made_of: str | None = None  # JSON: stamp and layouts of its pack; None: issued before they were kept


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
            "INSERT INTO issued (job_id, number, engine, figures, pack, made_of) VALUES (%s, %s, %s, %s, %s, %s)",
            (job_id, number, issued.engine, zlib.compress(issued.figures.encode(), 6), issued.pack, issued.made_of),
        )


def get(connection: Connection[Any], job_id: str, number: int, *, unreviewed: bool = False) -> Issued | None:
    """What was kept; None of a revision that was not issued, or was before anything was kept.

    Args:
        connection: in a transaction.
        job_id: the job.
        number: of the revision.
        unreviewed: its pack without a review, as it was when it was issued.
    """
    with connection.cursor() as cursor:
        cursor.execute("SELECT engine, figures, pack, made_of FROM issued WHERE job_id = %s AND number = %s", (job_id, number))  # fmt: skip
        row = cursor.fetchone()
    if row is None:
        return None
    reviewed = None if unreviewed else pack_of(connection, job_id, number)
    return Issued(engine=row["engine"], figures=zlib.decompress(row["figures"]).decode(), pack=reviewed or row["pack"], made_of=row["made_of"])  # fmt: skip


def engines(connection: Connection[Any], job_id: str) -> dict[int, str]:
    """The engine of each revision of a job that is kept as it was issued.

    Args:
        connection: in a transaction.
        job_id: the job.
    """
    with connection.cursor() as cursor:
        cursor.execute("SELECT number, engine FROM issued WHERE job_id = %s", (job_id,))
        return {int(row["number"]): row["engine"] for row in cursor.fetchall()}
