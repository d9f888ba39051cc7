"""Migrations: plain SQL files, one DDL statement each, applied in order, once, forward only."""

from __future__ import annotations

import os
from pathlib import Path
from urllib.parse import quote

FOLDER = Path(__file__).parent / "migrations"


def migrate(user: str, socket: str, database: str) -> list[str]:
    """Apply what is pending as the schema's owner, over the server's socket; the names applied.

    A lock that a killed start left behind is cleared when its process is dead.
    """
    import yoyo

    url = f"mysql://{quote(user)}@localhost/{quote(database)}?unix_socket={quote(socket, safe='')}&ssl_disabled=1"
    backend = yoyo.get_backend(url)
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

    url = f"mysql://{quote(user)}@localhost/{quote(database)}?unix_socket={quote(socket, safe='')}&ssl_disabled=1"
    backend = yoyo.get_backend(url)
    try:
        return len(backend.to_apply(yoyo.read_migrations(str(FOLDER))))
    finally:
        backend.connection.close()


def _clear_dead_lock(backend: object) -> None:
    rows = backend.execute("SELECT pid FROM yoyo_lock").fetchall()  # type: ignore[attr-defined]
    backend.commit()  # type: ignore[attr-defined]
    for row in rows:
        pid = int(row[0])
        try:
            os.kill(pid, 0)
        except ProcessLookupError:
            backend.break_lock()  # type: ignore[attr-defined]
        except PermissionError:
            continue
