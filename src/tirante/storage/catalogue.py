"""The shop's catalogue: rows by kind, seeded from the files that ship, added to by CSV."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Sequence
from datetime import datetime
from typing import Any, Literal

from pymysql.connections import Connection

from tirante.core.document.catalogue import KINDS, ROW_MODELS, Catalogue, Row, Table, read_csv


def load_catalogue(connection: Connection[Any]) -> Catalogue:
    """Every row of every kind, in order."""
    found: dict[str, list[Row]] = {kind: [] for kind in KINDS}
    with connection.cursor() as cursor:
        cursor.execute("SELECT kind, document FROM catalogue_row ORDER BY kind, position, row_key")
        for row in cursor.fetchall():
            kind: Table = row["kind"]
            found[kind].append(ROW_MODELS[kind].model_validate_json(row["document"]))
    return Catalogue(**{kind: tuple(rows) for kind, rows in found.items()})  # type: ignore[arg-type]


def put_rows(
    connection: Connection[Any], kind: Table, rows: Sequence[Row], origin: Literal["seed", "shop"]
) -> tuple[int, int]:
    """Add rows and replace those of the same key; how many of each."""
    added = replaced = 0
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT COALESCE(MAX(position), 0) AS last FROM catalogue_row WHERE kind = %s FOR UPDATE", (kind,)
        )
        last = cursor.fetchone()
        position = int(last["last"]) if last else 0
        for row in rows:
            text = json.dumps(row.model_dump(mode="json"), ensure_ascii=False)
            changed = cursor.execute(
                "UPDATE catalogue_row SET document = %s, origin = %s WHERE kind = %s AND row_key = %s",
                (text, origin, kind, row.key),
            )
            if not changed:
                cursor.execute("SELECT 1 FROM catalogue_row WHERE kind = %s AND row_key = %s", (kind, row.key))
                if cursor.fetchone():  # the same row again
                    replaced += 1
                    continue
                position += 1
                cursor.execute(
                    "INSERT INTO catalogue_row (kind, row_key, position, document, origin) VALUES (%s, %s, %s, %s, %s)",
                    (kind, row.key, position, text, origin),
                )
                added += 1
            else:
                replaced += 1
    return added, replaced


def seed_once(connection: Connection[Any], kind: Table, text: str, now: datetime) -> bool:
    """Load a shipped file unless this very file was loaded before; rows that the shop has edited are left alone."""
    name, digest = f"catalogue/{kind}", hashlib.sha256(text.encode()).hexdigest()
    if seed_digest(connection, name) == digest:
        return False
    with connection.cursor() as cursor:
        cursor.execute("SELECT row_key FROM catalogue_row WHERE kind = %s AND origin = 'shop'", (kind,))
        own = {row["row_key"] for row in cursor.fetchall()}
    put_rows(connection, kind, [row for row in read_csv(kind, text) if row.key not in own], "seed")
    note_seed(connection, name, digest, now)
    return True


def seed_digest(connection: Connection[Any], name: str) -> str | None:
    """Digest of a shipped file as it was loaded, None if it never was."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT digest FROM seed WHERE name = %s", (name,))
        row = cursor.fetchone()
    return None if row is None else str(row["digest"])


def note_seed(connection: Connection[Any], name: str, digest: str, now: datetime) -> None:
    """Remember that a shipped file was loaded."""
    with connection.cursor() as cursor:
        cursor.execute(
            "INSERT INTO seed (name, digest, loaded_at) VALUES (%s, %s, %s)"
            " ON DUPLICATE KEY UPDATE digest = VALUES(digest), loaded_at = VALUES(loaded_at)",
            (name, digest, now),
        )
