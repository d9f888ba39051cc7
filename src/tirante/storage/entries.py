"""Entries of a job: of its survey, and of the car as it is built. Rows that are only added, in the order in which they came."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any, Generic, Protocol, TypeVar

from pydantic import TypeAdapter
from pymysql.connections import Connection

from tirante.core.document.built import BuiltEntry
from tirante.core.document.survey import Entry


class AnyEntry(Protocol):
    """What every entry has."""

    @property
    def id(self) -> str:
        """Made by the client."""
        ...

    @property
    def sort(self) -> str:
        """What sort of entry it is."""
        ...

    def model_dump_json(self) -> str:
        """It as JSON."""
        ...


E = TypeVar("E", bound=AnyEntry)


class Taken(Exception):  # noqa: N818
    """An id that another entry has already."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Kept(Generic[E]):
    """An entry with when it was made."""

    entry: E
    made_at: datetime


class Entries(Generic[E]):
    """A table of entries of one kind.

    Args:
        table: its name, of this program and nobody's input.
        kind: validates what is read back.
    """

    def __init__(self, table: str, kind: TypeAdapter[E]) -> None:
        self._kind = kind
        self._add = (
            f"INSERT IGNORE INTO {table} (id, job_id, sort, body, made_at, came_at) VALUES (%s, %s, %s, %s, %s, %s)"
        )
        self._one = f"SELECT job_id, body FROM {table} WHERE id = %s"
        self._elsewhere = f"SELECT body, made_at FROM {table} WHERE sort = %s AND job_id <> %s ORDER BY number"
        self._all = f"SELECT body, made_at FROM {table} WHERE job_id = %s ORDER BY number"

    def add(self, connection: Connection[Any], job_id: str, entries: Sequence[Kept[E]], now: datetime) -> None:
        """Add entries; one that came already, as it was, does no harm.

        Args:
            connection: in a transaction.
            job_id: the job.
            entries: in the order in which they were made.
            now: UTC.

        Raises:
            Taken: an id belongs to another entry.
        """
        with connection.cursor() as cursor:
            for one in entries:
                body = one.entry.model_dump_json()
                cursor.execute(self._add, (one.entry.id, job_id, one.entry.sort, body, one.made_at, now))
                cursor.execute(self._one, (one.entry.id,))
                row = cursor.fetchone()
                if row is None or (row["job_id"], self.read(row["body"])) != (job_id, one.entry):
                    raise Taken(one.entry.id)

    def read(self, body: str | bytes) -> E:
        """An entry from its JSON.

        Args:
            body: as it is kept.
        """
        return self._kind.validate_json(body)

    def of_job(self, connection: Connection[Any], job_id: str) -> list[Kept[E]]:
        """All entries of a job, as they came.

        Args:
            connection: in a transaction.
            job_id: the job.
        """
        if not job_id.isascii():
            return []
        with connection.cursor() as cursor:
            cursor.execute(self._all, (job_id,))
            return [Kept(entry=self.read(row["body"]), made_at=row["made_at"]) for row in cursor.fetchall()]

    def elsewhere(self, connection: Connection[Any], job_id: str, sort: str) -> list[Kept[E]]:
        """Entries of one sort of every other job, as they came.

        Args:
            connection: in a transaction.
            job_id: the job.
            sort: of the entries.
        """
        with connection.cursor() as cursor:
            cursor.execute(self._elsewhere, (sort, job_id))
            return [Kept(entry=self.read(row["body"]), made_at=row["made_at"]) for row in cursor.fetchall()]


SURVEY: Entries[Entry] = Entries("survey_entry", TypeAdapter(Entry))
BUILT: Entries[BuiltEntry] = Entries("built_entry", TypeAdapter(BuiltEntry))
