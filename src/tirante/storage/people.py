"""Who works here, and who is signed in. A password is kept as argon2id alone, a session as the hash of what the browser has."""

from __future__ import annotations

import hashlib
import secrets
from dataclasses import dataclass
from datetime import datetime, timedelta
from functools import cache
from typing import Any, Literal

import argon2
from pymysql.connections import Connection
from pymysql.err import IntegrityError

Role = Literal["owner", "designer", "bench", "reviewer"]
LASTS = timedelta(hours=12)  # a session at most
IDLE = timedelta(hours=2)  # and so long after it was last used
TRIES, WITHIN = 10, timedelta(minutes=15)  # wrong passwords of one name, then none is looked at for a while


class NameTaken(Exception):  # noqa: N818
    """Somebody has that name already."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Person:
    """Somebody who may sign in."""

    id: str
    name: str
    role: Role
    active: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class SignedIn:
    """Somebody at work, and what every change must bring along."""

    person: Person
    csrf: str
    session: str = ""  # its id, no secret


@dataclass(frozen=True, slots=True, kw_only=True)
class Session:
    """Where somebody is signed in."""

    id: str
    person_id: str
    device_id: str | None  # None: at this machine itself
    made_at: datetime
    seen_at: datetime


@cache
def _hasher() -> argon2.PasswordHasher:
    """Argon2id with the library's parameters (RFC 9106, low memory)."""
    return argon2.PasswordHasher()


@cache
def _nobody() -> str:
    """What a password is compared with where there is no such name, so that it takes as long."""
    return _hasher().hash(secrets.token_urlsafe(16))


def _person(row: dict[str, Any]) -> Person:
    return Person(id=row["id"], name=row["name"], role=row["role"], active=bool(row["active"]))


def anybody(connection: Connection[Any]) -> bool:
    """Whether anybody has an account.

    Args:
        connection: in a transaction.
    """
    with connection.cursor() as cursor:
        cursor.execute("SELECT 1 FROM person LIMIT 1")
        return cursor.fetchone() is not None


EVERYBODY = "SELECT id, name, role, active FROM person ORDER BY name"


def everybody(connection: Connection[Any], *, lock: bool = False) -> list[Person]:
    """All people, by name.

    Args:
        connection: in a transaction.
        lock: whether nobody else may change them until it ends.
    """
    with connection.cursor() as cursor:
        cursor.execute(f"{EVERYBODY} FOR UPDATE" if lock else EVERYBODY)
        return [_person(row) for row in cursor.fetchall()]


def add(connection: Connection[Any], person: Person, password: str, now: datetime) -> None:
    """Add somebody.

    Args:
        connection: in a transaction.
        person: with an id of its own.
        password: kept as its hash.
        now: UTC.

    Raises:
        NameTaken: by somebody else.
    """
    with connection.cursor() as cursor:
        try:
            cursor.execute(
                "INSERT INTO person (id, name, role, secret, active, made_at) VALUES (%s, %s, %s, %s, %s, %s)",
                (person.id, person.name, person.role, _hasher().hash(password), int(person.active), now),
            )
        except IntegrityError as error:
            raise NameTaken(person.name) from error


def change(connection: Connection[Any], person: Person, password: str | None = None) -> None:
    """Change role, whether active, password; then nobody is signed in as that person any more.

    Args:
        connection: in a transaction.
        person: as it shall be.
        password: new; None: as it is.
    """
    with connection.cursor() as cursor:
        cursor.execute("UPDATE person SET role = %s, active = %s WHERE id = %s", (person.role, int(person.active), person.id))  # fmt: skip
        if password is not None:
            cursor.execute("UPDATE person SET secret = %s WHERE id = %s", (_hasher().hash(password), person.id))
        cursor.execute("DELETE FROM signed_in WHERE person_id = %s", (person.id,))


def named(connection: Connection[Any], name: str) -> Person | None:
    """Who has a name, as the database compares names: not by case, accents or blanks behind it.

    Args:
        connection: in a transaction.
        name: as it is typed.
    """
    with connection.cursor() as cursor:
        cursor.execute("SELECT id, name, role, active FROM person WHERE name = %s", (name,))
        row = cursor.fetchone()
    return _person(row) if row else None


def known(connection: Connection[Any], name: str, password: str) -> Person | None:
    """Who has that name and password and is active; None where nobody does, after as long a time.

    Args:
        connection: in a transaction.
        name: as it is typed.
        password: as it is typed.
    """
    with connection.cursor() as cursor:
        cursor.execute("SELECT id, name, role, active, secret FROM person WHERE name = %s", (name,))
        row = cursor.fetchone()
        try:
            _hasher().verify(row["secret"] if row else _nobody(), password)
        except argon2.exceptions.VerifyMismatchError:
            return None
        if row is None or not row["active"]:
            return None
        if _hasher().check_needs_rehash(row["secret"]):
            cursor.execute("UPDATE person SET secret = %s WHERE id = %s", (_hasher().hash(password), row["id"]))
        return _person(row)


def sign_in(
    connection: Connection[Any], person: Person, now: datetime, device_id: str | None = None
) -> tuple[str, str]:
    """Begin a session; those that have ended are cleared away.

    Args:
        connection: in a transaction.
        person: who.
        now: UTC.
        device_id: on which it is valid, and on no other; None: at this machine itself.

    Returns:
        What the browser gets, and what every change must bring along.
    """
    token, csrf = secrets.token_urlsafe(32), secrets.token_urlsafe(32)
    with connection.cursor() as cursor:
        cursor.execute("DELETE FROM signed_in WHERE made_at < %s OR seen_at < %s", (now - LASTS, now - IDLE))
        cursor.execute(
            "INSERT INTO signed_in (token, person_id, csrf, made_at, seen_at, device_id) VALUES (%s, %s, %s, %s, %s, %s)",
            (_hash(token), person.id, csrf, now, now, device_id),
        )
    return token, csrf


def _hash(token: str) -> str:
    return hashlib.sha256(token.encode()).hexdigest()


def who(connection: Connection[Any], token: str, now: datetime, device_id: str | None = None) -> SignedIn | None:
    """Whose session it is; None of one that has ended, was none, or was begun on another device.

    Args:
        connection: in a transaction.
        token: what the browser has.
        now: UTC.
        device_id: that it comes from; None: from this machine itself.
    """
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT p.id, p.name, p.role, p.active, s.csrf, s.seen_at, s.id AS session FROM signed_in s JOIN person p ON p.id = s.person_id "
            "WHERE s.token = %s AND p.active = 1 AND s.made_at >= %s AND s.seen_at >= %s AND s.device_id <=> %s",
            (_hash(token), now - LASTS, now - IDLE, device_id),
        )
        row = cursor.fetchone()
        if row is None:
            return None
        if now - row["seen_at"] > timedelta(minutes=1):  # to the minute is enough, and a page asks many times in one
            cursor.execute("UPDATE signed_in SET seen_at = %s WHERE token = %s", (now, _hash(token)))
    return SignedIn(person=_person(row), csrf=row["csrf"], session=row["session"])


def sessions(connection: Connection[Any], now: datetime) -> list[Session]:
    """Where anybody is signed in, the latest used first.

    Args:
        connection: in a transaction.
        now: UTC.
    """
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT id, person_id, device_id, made_at, seen_at FROM signed_in WHERE made_at >= %s AND seen_at >= %s ORDER BY seen_at DESC, id",
            (now - LASTS, now - IDLE),
        )
        return [Session(**row) for row in cursor.fetchall()]


def end_session(connection: Connection[Any], session: str) -> None:
    """End a session, wherever it is.

    Args:
        connection: in a transaction.
        session: its id.
    """
    with connection.cursor() as cursor:
        cursor.execute("DELETE FROM signed_in WHERE id = %s", (session,))


def sign_out(connection: Connection[Any], token: str) -> None:
    """End a session.

    Args:
        connection: in a transaction.
        token: what the browser has.
    """
    with connection.cursor() as cursor:
        cursor.execute("DELETE FROM signed_in WHERE token = %s", (_hash(token),))
