"""Migrations: plain SQL files, one DDL statement each, applied in order, once, forward only."""

from __future__ import annotations

import os
from pathlib import Path
from typing import Any
from urllib.parse import quote

FOLDER = Path(__file__).parent / "migrations"


def _backend(user: str, socket: str, database: str) -> Any:
    import yoyo

    return yoyo.get_backend(
        f"mysql://{quote(user)}@localhost/{quote(database)}?unix_socket={quote(socket, safe='')}&ssl_disabled=1"
    )


def migrate(user: str, socket: str, database: str) -> list[str]:
    """Apply what is pending as the schema's owner, over the server's socket; the names applied.

    A lock that a killed start left behind is cleared when its process is dead.
    """
    import yoyo

    backend = _backend(user, socket, database)
    try:
        known = yoyo.read_migrations(str(FOLDER))
        _clear_dead_lock(backend)
        with backend.lock():
            pending = backend.to_apply(known)
            names = [migration.id for migration in pending]
            backend.apply_migrations(pending)
        return names
    finally:
        backend.connection.close()


def pending_count(user: str, socket: str, database: str) -> int:
    """How many migrations are not applied yet."""
    import yoyo

    backend = _backend(user, socket, database)
    try:
        return len(backend.to_apply(yoyo.read_migrations(str(FOLDER))))
    finally:
        backend.connection.close()


def _clear_dead_lock(backend: Any) -> None:
    rows = backend.execute("SELECT pid FROM yoyo_lock").fetchall()
    backend.commit()
    for row in rows:
        pid = int(row[0])
        try:
            os.kill(pid, 0)
        except ProcessLookupError:
            backend.break_lock()
        except PermissionError:
            continue
