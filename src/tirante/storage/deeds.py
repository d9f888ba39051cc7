"""Who did what: rows that are only added, each bound to the one before by a hash, so that none is changed or left out unseen."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any

from pymysql.connections import Connection

START = "0" * 64


@dataclass(frozen=True, slots=True, kw_only=True)
class Deed:
    """Something that somebody did."""

    number: int
    at: datetime
    person_id: str | None
    what: str
    body: str  # JSON
    before_it: str
    link: str


def _link(number: int, at: datetime, person_id: str | None, what: str, body: str, before_it: str) -> str:
    """SHA-256 over the link before and every field, each told apart from the next."""
    told = json.dumps([number, at.isoformat(timespec="microseconds"), person_id, what, body, before_it])
    return hashlib.sha256(told.encode()).hexdigest()


def add(connection: Connection[Any], what: str, of: Mapping[str, Any], person_id: str | None, now: datetime) -> None:
    """Write down what was done, in the transaction that does it.

    Args:
        connection: in a transaction.
        what: was done, a word or two.
        of: what of; never a password.
        person_id: who did it; None: nobody who is known.
        now: UTC.
    """
    body = json.dumps(of, sort_keys=True, ensure_ascii=False)
    with connection.cursor() as cursor:
        cursor.execute("SELECT number, link FROM deed ORDER BY number DESC LIMIT 1 FOR UPDATE")
        row = cursor.fetchone() or {"number": 0, "link": START}
        number = row["number"] + 1
        link = _link(number, now, person_id, what, body, row["link"])
        cursor.execute(
            "INSERT INTO deed (number, at, person_id, what, body, before_it, link) VALUES (%s, %s, %s, %s, %s, %s, %s)",
            (number, now, person_id, what, body, row["link"], link),
        )


def every(connection: Connection[Any]) -> list[Deed]:
    """All of them, in order.

    Args:
        connection: in a transaction.
    """
    with connection.cursor() as cursor:
        cursor.execute("SELECT number, at, person_id, what, body, before_it, link FROM deed ORDER BY number")
        return [Deed(**row) for row in cursor.fetchall()]


def head(connection: Connection[Any]) -> tuple[int, str]:
    """Number and link of the latest; 0 and the start where nothing is written yet.

    Args:
        connection: in a transaction.
    """
    with connection.cursor() as cursor:
        cursor.execute("SELECT number, link FROM deed ORDER BY number DESC LIMIT 1")
        row = cursor.fetchone()
    return (int(row["number"]), row["link"]) if row else (0, START)


def broken_at(deeds: Sequence[Deed]) -> int | None:
    """The number of the first that is not as it was written, or before which one is missing; None where the chain is whole.

    Whoever may write to the database may write all of it anew: that shows only against a link that was kept elsewhere, as on a sheet.

    Args:
        deeds: all, in order.
    """
    before = START
    for i, one in enumerate(deeds, start=1):
        right = _link(one.number, one.at, one.person_id, one.what, one.body, before)
        if (one.number, one.before_it, one.link) != (i, before, right):
            return i
        before = one.link
    return None


def failed_lately(connection: Connection[Any], name: str, now: datetime, within: timedelta) -> int:
    """How many wrong passwords came for a name since it was last signed in with.

    Args:
        connection: in a transaction.
        name: as it was typed.
        now: UTC.
        within: how far back.
    """
    told = json.dumps({"name": name.casefold()}, sort_keys=True, ensure_ascii=False)
    with connection.cursor() as cursor:
        cursor.execute("SELECT what FROM deed WHERE body = %s AND what IN ('wrong password', 'signed in') AND at >= %s ORDER BY number DESC LIMIT 200", (told, now - within))  # fmt: skip
        found = [row["what"] for row in cursor.fetchall()]
    return found.index("signed in") if "signed in" in found else len(found)
