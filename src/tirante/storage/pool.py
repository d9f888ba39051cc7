"""Connections to MariaDB: a small pool, one transaction per unit of work."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager, suppress
from dataclasses import dataclass
from typing import Any

import pymysql
from dbutils.pooled_db import PooledDB
from pymysql.connections import Connection
from pymysql.cursors import DictCursor

STRICT = "STRICT_TRANS_TABLES,ERROR_FOR_DIVISION_BY_ZERO,NO_ZERO_DATE,NO_ZERO_IN_DATE,NO_ENGINE_SUBSTITUTION"


class Unavailable(Exception):  # noqa: N818 - the state, as the API names it
    """The database does not answer; nothing was changed by the call that met this."""


class Full(Exception):  # noqa: N818
    """The disk has no room for what was to be written; nothing was changed."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Credentials:
    """Where the database is and as whom to use it."""

    host: str
    port: int
    user: str
    password: str
    database: str


# cannot connect, server gone, shutting down, killed; two who wait for each other, one who waited too long: tried again it goes
_GONE = {2002, 2003, 2006, 2013, 2014, 1053, 1927, 4031, 1213, 1205}
_NO_ROOM = {1021, 1114}  # disk full, table full
_SYSTEM = {3, 1026, 1030}  # a write failed: the system's own number stands in the message


def is_full(error: BaseException) -> bool:
    """Whether an error means that the disk has no room."""
    if not isinstance(error, pymysql.MySQLError) or not error.args:
        return False
    code, text = error.args[0], str(error.args[-1])
    return code in _NO_ROOM or (code in _SYSTEM and ("28" in text or "No space left" in text))


def is_gone(error: BaseException) -> bool:
    """Whether an error means that the server or the connection is away, not that the statement is wrong."""
    if isinstance(error, pymysql.InterfaceError):
        return True
    return isinstance(error, pymysql.OperationalError) and bool(error.args) and error.args[0] in _GONE


class Database:
    """A pool of connections to one schema."""

    def __init__(self, credentials: Credentials, *, connections: int = 8) -> None:
        self._credentials = credentials
        self._pool = PooledDB(
            creator=pymysql,
            mincached=0,
            maxconnections=connections,
            blocking=True,
            ping=1,
            failures=(pymysql.OperationalError, pymysql.InterfaceError, pymysql.InternalError),
            host=credentials.host,
            port=credentials.port,
            user=credentials.user,
            password=credentials.password,
            database=credentials.database,
            charset="utf8mb4",
            collation="utf8mb4_uca1400_ai_ci",
            autocommit=False,
            ssl_disabled=True,
            sql_mode=STRICT,
            init_command="SET time_zone = '+00:00'",
            connect_timeout=3,
            read_timeout=20,
            write_timeout=20,
            cursorclass=DictCursor,
        )

    @contextmanager
    def transaction(self) -> Iterator[Connection[Any]]:
        """A connection whose work is committed at the end, or rolled back whole on any error.

        Raises:
            Unavailable: the database is away, or two waited for each other and this one gave way.
            Full: the disk has no room.
        """
        try:
            connection = self._pool.connection()
        except (pymysql.Error, OSError) as error:
            raise Unavailable from error
        try:
            connection.begin()
            yield connection
            connection.commit()
        except BaseException as error:
            with suppress(pymysql.Error, OSError):  # the server has rolled back already if the connection is lost
                connection.rollback()
            if is_full(error):
                raise Full from error
            if is_gone(error) or isinstance(error, ConnectionError):
                raise Unavailable from error
            raise
        finally:
            connection.close()

    def answers(self) -> bool:
        """Whether the database can be used now."""
        try:
            with self.transaction() as connection, connection.cursor() as cursor:
                cursor.execute("SELECT 1")
        except Unavailable:
            return False
        return True

    def close(self) -> None:
        """Close every pooled connection."""
        self._pool.close()
