"""Phones and tablets of the shop's network: paired by a code that lasts minutes, known by what they hold, let in until that is ended."""

from __future__ import annotations

import hashlib
import secrets
import uuid
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any, Literal

from pymysql.connections import Connection

LETTERS = "ABCDEFGHJKLMNPQRSTUVWXYZ23456789"  # none that is taken for another in a glance
LENGTH = 8  # 40 bits
OPEN_FOR = timedelta(minutes=5)
TRIES = 5  # wrong codes, then it is shut
LASTS = timedelta(days=90)  # a pairing at most


@dataclass(frozen=True, slots=True, kw_only=True)
class Device:
    """A phone or tablet that was paired."""

    id: str
    name: str
    paired_by: str  # id of a person
    paired_at: datetime
    seen_at: datetime
    ended_at: datetime | None

    def let_in(self, now: datetime) -> bool:
        """Whether it may still ask.

        Args:
            now: UTC.
        """
        return self.ended_at is None and now - self.paired_at < LASTS


def _hash(secret: str) -> str:
    return hashlib.sha256(secret.encode()).hexdigest()


def as_typed(code: str) -> str:
    """A code without what may stand between its letters, in capitals.

    Args:
        code: as it is typed.
    """
    return "".join(one for one in code.upper() if one.isalnum())


def open_pairing(connection: Connection[Any], name: str, made_by: str, now: datetime) -> str:
    """Open a pairing; one that was open is shut.

    Args:
        connection: in a transaction.
        name: the device is to have.
        made_by: id of who lets it in.
        now: UTC.

    Returns:
        The code, that is typed at the device; only its hash is kept.
    """
    code = "".join(secrets.choice(LETTERS) for _ in range(LENGTH))
    with connection.cursor() as cursor:
        cursor.execute(
            "REPLACE INTO pairing (one, code, name, made_by, made_at, wrong) VALUES (1, %s, %s, %s, %s, 0)",
            (_hash(code), name, made_by, now),
        )
    return code


def shut_pairing(connection: Connection[Any]) -> None:
    """Shut what is open.

    Args:
        connection: in a transaction.
    """
    with connection.cursor() as cursor:
        cursor.execute("DELETE FROM pairing WHERE one = 1")


@dataclass(frozen=True, slots=True, kw_only=True)
class Paired:
    """What became of a code that was typed."""

    how: Literal["paired", "wrong", "none open"]
    token: str = ""  # what the device gets
    device: Device | None = None
    left: int = 0  # further tries


def pair(connection: Connection[Any], code: str, now: datetime) -> Paired:
    """Let a device in by a code; each code lets one in, and after too many wrong ones none.

    Args:
        connection: in a transaction.
        code: as it was typed at the device.
        now: UTC.
    """
    with connection.cursor() as cursor:
        cursor.execute("SELECT code, name, made_by, made_at, wrong FROM pairing WHERE one = 1 FOR UPDATE")
        row = cursor.fetchone()
        if row is None or now - row["made_at"] >= OPEN_FOR or row["wrong"] >= TRIES:
            return Paired(how="none open")
        if not secrets.compare_digest(row["code"], _hash(as_typed(code))):
            cursor.execute("UPDATE pairing SET wrong = wrong + 1 WHERE one = 1")
            return Paired(how="wrong", left=TRIES - row["wrong"] - 1)
        cursor.execute("DELETE FROM pairing WHERE one = 1")
        token, device_id = secrets.token_urlsafe(32), str(uuid.uuid4())
        cursor.execute(
            "INSERT INTO device (id, name, token, paired_by, paired_at, seen_at) VALUES (%s, %s, %s, %s, %s, %s)",
            (device_id, row["name"], _hash(token), row["made_by"], now, now),
        )
    made = Device(id=device_id, name=row["name"], paired_by=row["made_by"], paired_at=now, seen_at=now, ended_at=None)
    return Paired(how="paired", token=token, device=made)


def every(connection: Connection[Any]) -> list[Device]:
    """All that were ever paired, the latest first.

    Args:
        connection: in a transaction.
    """
    with connection.cursor() as cursor:
        cursor.execute("SELECT id, name, paired_by, paired_at, seen_at, ended_at FROM device ORDER BY paired_at DESC, id")  # fmt: skip
        return [Device(**row) for row in cursor.fetchall()]


def known(connection: Connection[Any], token: str, now: datetime) -> Device | None:
    """Which device that is; None of one that was never paired or is let in no more.

    Args:
        connection: in a transaction.
        token: what the device has.
        now: UTC.
    """
    with connection.cursor() as cursor:
        cursor.execute("SELECT id, name, paired_by, paired_at, seen_at, ended_at FROM device WHERE token = %s", (_hash(token),))  # fmt: skip
        row = cursor.fetchone()
        found = Device(**row) if row else None
        if found is None or not found.let_in(now):
            return None
        if now - found.seen_at > timedelta(minutes=1):
            cursor.execute("UPDATE device SET seen_at = %s WHERE id = %s", (now, found.id))
    return found


def end(connection: Connection[Any], device_id: str, now: datetime) -> Device | None:
    """Let a device in no more; nobody is signed in on it any longer.

    Args:
        connection: in a transaction.
        device_id: which.
        now: UTC.

    Returns:
        Which one it was; None: there is none, or it was ended before.
    """
    with connection.cursor() as cursor:
        cursor.execute("SELECT id, name, paired_by, paired_at, seen_at, ended_at FROM device WHERE id = %s FOR UPDATE", (device_id,))  # fmt: skip
        row = cursor.fetchone()
        if row is None or row["ended_at"] is not None:
            return None
        cursor.execute("UPDATE device SET ended_at = %s WHERE id = %s", (now, device_id))
        cursor.execute("DELETE FROM signed_in WHERE device_id = %s", (device_id,))
    return Device(**(row | {"ended_at": now}))
