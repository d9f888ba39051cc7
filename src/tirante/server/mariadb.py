"""A private MariaDB: own data folder, loopback, own port and socket; never the system's instance."""

from __future__ import annotations

import contextlib
import ctypes
import os
import pwd
import secrets
import shutil
import signal
import socket
import subprocess
import tempfile
import time
from dataclasses import dataclass
from pathlib import Path

import pymysql

from tirante.storage.migrate import migrate, pending_count
from tirante.storage.pool import STRICT, Credentials

DATABASE = "tirante"
_UNSAFE_PORTS = {5060, 5061, 6000, *range(6665, 6670), 6697}  # refused by browsers


class BadDump(Exception):  # noqa: N818
    """A file that is no whole backup; says why."""


def _whole(source: Path) -> bool:
    """Whether a dump was written to its end."""
    with source.open("rb") as stream:
        stream.seek(0, 2)
        stream.seek(max(0, stream.tell() - 200))
        return b"-- Dump completed" in stream.read()


class StartFailed(Exception):  # noqa: N818
    """The database did not start; the message says where its log is."""


def _owner() -> str:
    """The user this runs as (the environment may still name another); the database's owner has the same name."""
    return pwd.getpwuid(os.getuid()).pw_name


def free_port() -> int:
    """A free TCP port on loopback that browsers accept."""
    while True:
        with socket.socket() as probe:
            probe.bind(("127.0.0.1", 0))
            port = int(probe.getsockname()[1])
        if port not in _UNSAFE_PORTS:
            return port


def die_with_parent() -> None:
    """In a child, before it runs: stop when the process that started it dies, however it dies."""
    ctypes.CDLL(None, use_errno=True).prctl(1, signal.SIGTERM)


@dataclass(slots=True)
class Instance:
    """One server in one folder; `folder` is made private to its owner."""

    folder: Path
    port: int = 0
    process: subprocess.Popen[bytes] | None = None
    _sockets: str = ""

    @property
    def _data(self) -> Path:
        return self.folder / "mariadb"

    @property
    def socket(self) -> str:
        """Its socket, in a short private folder: socket paths are limited to 107 bytes."""
        return f"{self._sockets}/s"

    def running_at(self, socket: Path) -> Instance:
        """This one, as another process has started it.

        Args:
            socket: where it listens.
        """
        self._sockets = str(socket.parent)
        return self

    def start(self) -> None:
        """Initialise on first use, start, wait until it answers.

        Raises:
            StartFailed: with what the log's end says.
        """
        self._data.mkdir(parents=True, exist_ok=True)
        self._data.chmod(0o700)
        (self._data / "tmp").mkdir(exist_ok=True)
        self._sockets = self._sockets or tempfile.mkdtemp(prefix="tirante-")
        self.port = self.port or free_port()
        self._write_config()
        if not (self._data / "data" / "mysql").is_dir():
            self._initialise()
        log = (self._data / "error.log").open("ab")
        with log:
            self.process = subprocess.Popen(
                ["mariadbd", f"--defaults-file={self._data / 'my.cnf'}"],
                stdin=subprocess.DEVNULL,
                stdout=log,
                stderr=log,
                preexec_fn=die_with_parent,
                start_new_session=True,
            )
        self._wait()

    def _write_config(self) -> None:
        lines = [
            "[mariadbd]",
            f"datadir={self._data / 'data'}",
            f"socket={self.socket}",
            f"pid-file={self._data / 'pid'}",
            f"log-error={self._data / 'error.log'}",
            # its own: a server that starts clears away what looks like another's temporary tables in a shared one
            f"tmpdir={self._data / 'tmp'}",
            "bind-address=127.0.0.1",
            f"port={self.port}",
            f"user={_owner()}",
            "skip-name-resolve",
            "local-infile=0",
            "character-set-server=utf8mb4",
            "collation-server=utf8mb4_uca1400_ai_ci",
            "default-time-zone=+00:00",
            # several servers side by side (a demo and tests) can use up the machine's asynchronous requests, a start then fails
            "innodb-use-native-aio=0",
            "innodb-log-file-size=32M",
            "innodb-buffer-pool-size=64M",
            "max-allowed-packet=32M",
            f"sql-mode={STRICT}",
            "[client]",
            f"socket={self.socket}",
        ]
        (self._data / "my.cnf").write_text("\n".join(lines) + "\n")

    def _initialise(self) -> None:
        # a folder left half made by a kill in the middle of the first start holds nothing of anyone's
        shutil.rmtree(self._data / "data", ignore_errors=True)
        making = self._data / "making"
        user = _owner()
        command = [
            "mariadb-install-db", f"--defaults-file={self._data / 'my.cnf'}", f"--datadir={making}",
            "--skip-test-db", "--auth-root-authentication-method=socket", f"--auth-root-socket-user={user}",
        ]  # fmt: skip
        # it has been seen to fail on a machine short of something for a moment: what it made is thrown away, and tried anew
        for pause in (0.5, 2.0, None):
            shutil.rmtree(making, ignore_errors=True)
            done = subprocess.run(command, capture_output=True, text=True, stdin=subprocess.DEVNULL)
            if not done.returncode:
                break
            if pause is None:
                raise StartFailed(f"MariaDB's data folder could not be made: {self._said(done)}")
            time.sleep(pause)
        making.rename(self._data / "data")

    def _said(self, done: subprocess.CompletedProcess[str]) -> str:
        """What a failed command printed, and what the server wrote to its own log meanwhile: the reason stands in either."""
        log = self._data / "error.log"
        written = log.read_text(errors="replace") if log.exists() else ""
        parts = [text.strip()[-600:] for text in (done.stderr, done.stdout, written)]
        return f"exit code {done.returncode}. " + "\n".join(part for part in parts if part)

    def _wait(self, seconds: float = 60.0) -> None:
        end = time.monotonic() + seconds
        while time.monotonic() < end:
            listening = False
            if self.process and self.process.poll() is not None:
                break
            with contextlib.suppress(OSError), socket.socket(socket.AF_UNIX) as probe:
                probe.connect(self.socket)
                listening = True
            if listening:
                with contextlib.suppress(pymysql.Error, OSError):
                    self.owner_connection().close()
                    return
            time.sleep(0.03)
        raise StartFailed(f"MariaDB did not start; see {self._data / 'error.log'}")

    def owner_connection(self, database: str | None = None) -> pymysql.connections.Connection:
        """A connection as the owner over the socket, for bootstrap only."""
        return pymysql.connect(
            unix_socket=self.socket,
            user=_owner(),
            database=database,
            charset="utf8mb4",
            autocommit=True,
            ssl_disabled=True,
        )

    def bootstrap(self, database: str = DATABASE) -> tuple[Credentials, list[str]]:
        """Schema, application user and migrations; the application's user has rows of its own schema and no more.

        Returns:
            The application's credentials, and the migrations that were applied.
        """
        user = f"app_{database}"[:32]
        secret = self.folder / f"{database}.secret"
        if not secret.exists():
            fresh = secret.with_suffix(".new")
            fresh.touch(mode=0o600)
            fresh.write_text(secrets.token_urlsafe(24))
            fresh.rename(secret)
        password = secret.read_text()
        with self.owner_connection() as connection, connection.cursor() as cursor:
            cursor.execute(f"CREATE DATABASE IF NOT EXISTS `{database}`")
            for host in ("127.0.0.1", "localhost"):
                cursor.execute(f"CREATE USER IF NOT EXISTS `{user}`@`{host}`")
                cursor.execute(f"ALTER USER `{user}`@`{host}` IDENTIFIED BY %s", (password,))
                cursor.execute(f"GRANT SELECT, INSERT, UPDATE, DELETE ON `{database}`.* TO `{user}`@`{host}`")
            cursor.execute("SELECT COUNT(*) FROM information_schema.tables WHERE table_schema = %s", (database,))
            row = cursor.fetchone()
        if row and row[0] and pending_count(_owner(), self.socket, database):
            self.dump(database, self.folder / "backups" / f"before-migration-{time.strftime('%Y%m%d-%H%M%S')}.sql")
        applied = migrate(_owner(), self.socket, database)
        credentials = Credentials(host="127.0.0.1", port=self.port, user=user, password=password, database=database)
        return credentials, applied

    def dump(self, database: str, target: Path) -> None:
        """Write the schema with all rows as SQL, whole or not at all."""
        target.parent.mkdir(parents=True, exist_ok=True, mode=0o700)
        part = target.with_suffix(".part")
        with part.open("wb") as stream:
            part.chmod(0o600)
            subprocess.run(
                ["mariadb-dump", f"--socket={self.socket}", f"--user={_owner()}", "--single-transaction", "--hex-blob", "--routines", database],
                check=True, stdout=stream,
            )  # fmt: skip
        part.rename(target)

    def load(self, database: str, source: Path) -> None:
        """Replace the schema by a dump's, once that has been loaded whole beside it; nothing is touched before.

        Raises:
            BadDump: the file is no whole dump of this application's.
        """
        if not _whole(source):
            raise BadDump(f"{source} is not a whole backup: its last line, “Dump completed”, is missing.")
        beside = f"{database}_beside"
        try:
            self._fresh(beside)
            self._read_in(beside, source)
            with self.owner_connection() as connection, connection.cursor() as cursor:
                cursor.execute("SELECT table_name FROM information_schema.tables WHERE table_schema = %s", (beside,))
                found = {str(row[0]) for row in cursor.fetchall()}
            if lacking := {"job", "draft", "revision", "save"} - found:
                raise BadDump(f"{source} is no backup of Tirante: it has no table {', '.join(sorted(lacking))}.")
            self._fresh(database)
            self._read_in(database, source)
        finally:
            with self.owner_connection() as connection, connection.cursor() as cursor:
                cursor.execute(f"DROP DATABASE IF EXISTS `{beside}`")

    def _fresh(self, database: str) -> None:
        with self.owner_connection() as connection, connection.cursor() as cursor:
            cursor.execute(f"DROP DATABASE IF EXISTS `{database}`")
            cursor.execute(f"CREATE DATABASE `{database}`")

    def _read_in(self, database: str, source: Path) -> None:
        # binary mode: the client's own commands, a shell among them, are not obeyed in a file that somebody was sent
        with source.open("rb") as stream:
            done = subprocess.run(
                ["mariadb", "--binary-mode", f"--socket={self.socket}", f"--user={_owner()}", database],
                stdin=stream, capture_output=True, text=True,
            )  # fmt: skip
        if done.returncode:
            raise BadDump(f"{source} could not be read in: {done.stderr.strip()[-300:]}")

    def alive(self) -> bool:
        """Whether the process runs."""
        return self.process is not None and self.process.poll() is None

    def stop(self) -> None:
        """Stop it in order and wait."""
        if self.process and self.process.poll() is None:
            self.process.terminate()
            try:
                self.process.wait(30)
            except subprocess.TimeoutExpired:
                self.process.kill()
                self.process.wait()
        if self._sockets and os.path.isdir(self._sockets):
            shutil.rmtree(self._sockets, ignore_errors=True)
            self._sockets = ""
