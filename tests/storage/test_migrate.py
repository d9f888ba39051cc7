"""Migrations: once, in order, past the lock of a dead start, with a dump before."""

import shutil
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from pathlib import Path

import pytest

from tirante.server.mariadb import Instance
from tirante.storage.migrate import FOLDER, migrate, pending_count


@pytest.fixture
def fresh(instance: Instance, worker_id: str) -> Iterator[str]:
    """An empty schema."""
    name = f"migrate_{worker_id}"
    with instance.owner_connection() as connection, connection.cursor() as cursor:
        cursor.execute(f"DROP DATABASE IF EXISTS `{name}`")
        cursor.execute(f"CREATE DATABASE `{name}`")
    yield name
    with instance.owner_connection() as connection, connection.cursor() as cursor:
        cursor.execute(f"DROP DATABASE `{name}`")


def owner() -> str:
    from tirante.server.mariadb import _owner

    return _owner()


def test_each_is_applied_once_and_in_order(fresh: str, instance: Instance) -> None:
    names = sorted(path.stem for path in FOLDER.glob("*.sql"))
    assert pending_count(owner(), instance.socket, fresh) == len(names)
    assert migrate(owner(), instance.socket, fresh) == names
    assert migrate(owner(), instance.socket, fresh) == []
    assert pending_count(owner(), instance.socket, fresh) == 0
    with instance.owner_connection(fresh) as connection, connection.cursor() as cursor:
        cursor.execute("SHOW TABLES")
        tables = {row[0] for row in cursor.fetchall()}
    assert {"job", "draft", "save", "revision", "catalogue_row", "seed"} <= tables


def test_the_lock_of_a_dead_start_is_cleared(fresh: str, instance: Instance) -> None:
    migrate(owner(), instance.socket, fresh)
    gone = subprocess.Popen([sys.executable, "-c", "pass"])
    gone.wait()
    with instance.owner_connection(fresh) as connection, connection.cursor() as cursor:
        cursor.execute("INSERT INTO yoyo_lock (locked, ctime, pid) VALUES (1, NOW(), %s)", (gone.pid,))
    assert migrate(owner(), instance.socket, fresh) == []


def test_an_older_schema_is_dumped_before_it_is_changed(worker_id: str) -> None:
    folder = Path(tempfile.mkdtemp(prefix="tirante-old-"))
    database = Instance(folder)
    try:
        database.start()
        database.bootstrap("old")
        with database.owner_connection("old") as connection, connection.cursor() as cursor:
            cursor.execute("INSERT INTO seed VALUES ('kept', REPEAT('a', 64), NOW())")
            cursor.execute("DELETE FROM _yoyo_migration WHERE migration_id = '0009.rack'")
            cursor.execute("DROP TABLE rack")
        _, applied = database.bootstrap("old")
        assert applied == ["0009.rack"]
        dumps = list((folder / "backups").glob("before-migration-*.sql"))
        assert len(dumps) == 1
        assert "kept" in dumps[0].read_text()
        assert dumps[0].stat().st_mode & 0o077 == 0
    finally:
        database.stop()
        shutil.rmtree(folder, ignore_errors=True)


def test_a_folder_half_made_by_a_kill_is_made_again() -> None:
    folder = Path(tempfile.mkdtemp(prefix="tirante-half-"))
    database = Instance(folder)
    try:
        (folder / "mariadb" / "making").mkdir(parents=True)
        (folder / "mariadb" / "making" / "rubbish").write_text("x")
        (folder / "mariadb" / "data").mkdir()
        database.start()
        database.bootstrap()
        assert database.alive()
    finally:
        database.stop()
        shutil.rmtree(folder, ignore_errors=True)
    assert not database.alive()
