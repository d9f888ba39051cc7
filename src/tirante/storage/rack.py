"""The shop's rack: a row a stack of pieces, each with a version, so that two who change one row never lose one another's."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from pymysql.connections import Connection

from tirante.core.document.rack import RackRow


class Changed(Exception):  # noqa: N818
    """Somebody changed or took away the row meanwhile."""


def rows(connection: Connection[Any]) -> list[tuple[RackRow, int]]:
    """All rows with their versions, in the order in which they were put in."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT document, version FROM rack ORDER BY id")
        return [(RackRow.model_validate_json(row["document"]), int(row["version"])) for row in cursor.fetchall()]


def put(connection: Connection[Any], row: RackRow, version: int, now: datetime) -> int:
    """Add a row (version 0), or change one.

    Args:
        connection: in a transaction.
        row: as it is to be.
        version: that it was changed from.
        now: UTC.

    Returns:
        Its new version.

    Raises:
        Changed: it is at another version, or gone.
    """
    text = row.model_dump_json()
    with connection.cursor() as cursor:
        if version == 0:
            added = cursor.execute(
                "INSERT IGNORE INTO rack (id, version, document, changed_at) VALUES (%s, 1, %s, %s)",
                (row.id, text, now),
            )
            if added:
                return 1
            # a repeat after a lost answer does no harm
            cursor.execute("SELECT version FROM rack WHERE id = %s AND document = %s", (row.id, text))
            known = cursor.fetchone()
            if known is None:
                raise Changed
            return int(known["version"])
        if not cursor.execute(
            "UPDATE rack SET document = %s, version = version + 1, changed_at = %s WHERE id = %s AND version = %s",
            (text, now, row.id, version),
        ):
            raise Changed
    return version + 1


def remove(connection: Connection[Any], row_id: str, version: int) -> None:
    """Take a row away; one that is gone already stays gone.

    Args:
        connection: in a transaction.
        row_id: of the row.
        version: that was seen.

    Raises:
        Changed: it is at another version.
    """
    with connection.cursor() as cursor:
        gone = cursor.execute("DELETE FROM rack WHERE id = %s AND version = %s", (row_id, version))
        if not gone and cursor.execute("SELECT id FROM rack WHERE id = %s", (row_id,)):
            raise Changed
