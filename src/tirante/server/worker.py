"""A worker: takes queued tasks one after the other and does them; `python -m tirante.server.worker`, started by the supervisor.

Any number may run side by side. One that ends in the middle leaves a row without a sign of life, and the next takes it up.
"""

from __future__ import annotations

import json
import logging
import os
import signal
import threading
import uuid
from collections.abc import Callable
from dataclasses import dataclass
from datetime import UTC, datetime
from time import monotonic, perf_counter
from typing import Any

from tirante.api.laid import SheetsIn, SticksIn, sheets_of, sticks_of
from tirante.api.packs import PACK, made
from tirante.api.sizing import sized_out
from tirante.api.tasks import SHEETS, SIZE_ALL, STICKS
from tirante.core.document.rack import RackRow
from tirante.core.document.upgrades import load_design
from tirante.core.errors import TiranteError
from tirante.core.job.memory import Memory
from tirante.core.job.size_all import size_all
from tirante.core.job.worked import Worked
from tirante.documents.pack import Stopped
from tirante.shipped import the_shelf
from tirante.storage import rack, tasks
from tirante.storage.catalogue import load_catalogue
from tirante.storage.drafts import NotFound
from tirante.storage.pool import Database, Full, Unavailable
from tirante.storage.tasks import Task

log = logging.getLogger(__name__)

LIMIT = 600.0  # [s] a task runs at most; what is done then stands
BEAT = 5.0  # [s] between signs of life
IDLE = 0.2  # [s] between looks while there is nothing to do

Step = Callable[[int, int], bool]


@dataclass(frozen=True, slots=True)
class Came:
    """What came of a task."""

    result: str | None = None  # JSON; None: it failed, or was stopped with nothing done
    fault: str | None = None
    file: bytes | None = None


def _now() -> datetime:
    return datetime.now(UTC).replace(tzinfo=None)


class Worker:
    """One worker on a database."""

    def __init__(self, database: Database, memory: Memory | None = None) -> None:
        self.database = database
        self.memory = memory or Memory()
        self.name = f"{os.getpid()}-{uuid.uuid4().hex[:8]}"
        self.roads: dict[str, Callable[[dict[str, Any], Step], Came]] = {
            SIZE_ALL: self._size_all,
            PACK: self._pack,
            STICKS: self._sticks,
            SHEETS: self._sheets,
        }

    def once(self) -> bool:
        """Do one task; False when there is none.

        Raises:
            Unavailable: the database is away.
        """
        with self.database.transaction() as connection:
            task = tasks.claim(connection, self.name, _now())
        if task is None:
            return False
        came = self._done(task)
        with self.database.transaction() as connection:
            tasks.end(connection, task.id, self.name, _now(), result=came.result, fault=came.fault, file=came.file)
        return True

    def _done(self, task: Task) -> Came:
        """What came of it, or why nothing did."""
        road = self.roads.get(task.kind)
        if road is None:
            return Came(fault=f"There is no such kind of task as “{task.kind}”.")
        until = monotonic() + LIMIT

        def step(done: int, of: int) -> bool:
            with self.database.transaction() as connection:
                return tasks.tell(connection, task.id, self.name, done, of, _now()) and monotonic() < until

        with _Beating(self, task.id):
            try:
                return road(json.loads(task.body), step)
            except Stopped:
                return Came()
            except NotFound:
                return Came(fault="That job or revision is not there any more.")
            except TiranteError as error:
                return Came(fault=error.message)
            except (Unavailable, Full):
                raise
            except Exception:
                log.exception("task %s failed", task.id)
                return Came(fault="Something went wrong here, not with what you typed. Try again.")

    def _size_all(self, body: dict[str, Any], step: Step) -> Came:
        design, began = load_design(json.dumps(body["design"])), perf_counter()
        with self.database.transaction() as connection:
            shelf = load_catalogue(connection)
        job = Worked(design, the_shelf(), self.memory)
        found = size_all(job, shelf, body["aim"], step)
        return Came(sized_out(found, job, shelf, perf_counter() - began).model_dump_json())

    def _pack(self, body: dict[str, Any], step: Step) -> Came:
        name, file = made(
            self.database,
            self.memory,
            body["job_id"],
            body["number"],
            body["what"],
            step,
            body.get("parts"),
            body.get("link", ""),
        )
        return Came(json.dumps({"name": name, "revision": body["number"]}), file=file)

    def _sticks(self, body: dict[str, Any], step: Step) -> Came:
        data, revision, rows = SticksIn.model_validate_json(json.dumps(_asked(body))), body["revision"], self._rack()
        return Came(
            sticks_of(Worked(data.design, the_shelf(), self.memory), rows, data, revision, step).model_dump_json()
        )

    def _sheets(self, body: dict[str, Any], step: Step) -> Came:
        data, revision, rows = SheetsIn.model_validate_json(json.dumps(_asked(body))), body["revision"], self._rack()
        return Came(
            sheets_of(Worked(data.design, the_shelf(), self.memory), rows, data, revision, step).model_dump_json()
        )

    def _rack(self) -> list[RackRow]:
        with self.database.transaction() as connection:
            return [row for row, _ in rack.rows(connection)]

    def run(self, end: threading.Event) -> None:
        """Do what there is to do until told to end."""
        while not end.is_set():
            try:
                if self.once():
                    continue
            except (Unavailable, Full):
                end.wait(1.0)
            end.wait(IDLE)


def _asked(body: dict[str, Any]) -> dict[str, Any]:
    return {name: value for name, value in body.items() if name != "revision"}


class _Beating:
    """Signs of life while a task is done, whatever it is at."""

    def __init__(self, worker: Worker, task_id: str) -> None:
        self._worker, self._task, self._end = worker, task_id, threading.Event()
        self._thread = threading.Thread(target=self._beat, daemon=True)

    def _beat(self) -> None:
        while not self._end.wait(BEAT):
            try:
                with self._worker.database.transaction() as connection:
                    tasks.live(connection, self._task, self._worker.name, _now())
            except (Unavailable, Full):
                continue

    def __enter__(self) -> _Beating:
        self._thread.start()
        return self

    def __exit__(self, *_: object) -> None:
        self._end.set()
        self._thread.join()


def main() -> int:
    """Work until told to stop."""
    from tirante.server.app_main import credentials_from_environment, log_to

    log_to(os.environ.get("TIRANTE_LOG"), "worker")
    os.nice(int(os.environ.get("TIRANTE_WORKER_NICE", "19")))  # whoever edits comes first
    end = threading.Event()
    signal.signal(signal.SIGTERM, lambda *_: end.set())
    signal.signal(signal.SIGINT, signal.SIG_IGN)  # the supervisor stops this process, in order
    database = Database(credentials_from_environment(), connections=3)
    try:
        Worker(database).run(end)
    finally:
        database.close()
    return 0


if __name__ == "__main__":
    raise SystemExit(main())
