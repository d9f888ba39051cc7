"""Queued work: taken by one worker only, taken up again when that has gone, its result kept."""

from __future__ import annotations

import json
import threading
import uuid
from collections.abc import Iterator
from datetime import UTC, datetime, timedelta
from typing import Any

import pytest

from tests.conftest import ROOT
from tirante.core.document.upgrades import load_design
from tirante.server import worker as workers
from tirante.server.worker import Came, Worker
from tirante.storage import tasks
from tirante.storage.pool import Database, Unavailable

NOW = datetime(2026, 1, 2, 3, 4, 5, tzinfo=UTC).replace(tzinfo=None)


@pytest.fixture
def empty(seeded: Database) -> Iterator[Database]:
    def clear() -> None:
        with seeded.transaction() as connection, connection.cursor() as cursor:
            cursor.execute("DELETE FROM task")

    clear()
    yield seeded
    clear()


def queued(database: Database, kind: str = "size-all", body: str = "{}", at: datetime = NOW) -> str:
    task = str(uuid.uuid4())
    with database.transaction() as connection:
        tasks.add(connection, task, None, kind, body, at)
    return task


def state(database: Database, task: str) -> tasks.Task:
    with database.transaction() as connection:
        return tasks.get(connection, task)


def test_two_workers_that_look_at_once_take_two_tasks(empty: Database) -> None:
    first, second = queued(empty, at=NOW), queued(empty, at=NOW + timedelta(seconds=1))
    # one is in the middle of taking; the other is not held up by it, and passes its row over
    with empty.transaction() as one:
        taken = tasks.claim(one, "one", NOW)
        with empty.transaction() as two:
            other = tasks.claim(two, "two", NOW)
            third = tasks.claim(two, "two", NOW)
    assert taken
    assert other
    assert (taken.id, other.id, third) == (first, second, None)


def test_many_workers_do_every_task_once(empty: Database, monkeypatch: pytest.MonkeyPatch) -> None:
    every = [queued(empty) for _ in range(30)]
    done: list[str] = []

    def road(worker: Worker) -> Any:
        def run(body: dict[str, Any], step: Any) -> Came:
            done.append(worker.name)
            return Came("{}")

        return run

    found = [Worker(empty) for _ in range(4)]
    for one in found:
        one.roads = {"size-all": road(one)}

    def work(one: Worker) -> None:
        while one.once():
            pass

    threads = [threading.Thread(target=work, args=(one,)) for one in found]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert len(done) == len(every)
    assert {state(empty, task).state for task in every} == {"done"}


def test_what_a_dead_worker_left_is_taken_up_and_its_late_answer_counts_for_nothing(empty: Database) -> None:
    task = queued(empty)
    with empty.transaction() as connection:
        assert tasks.claim(connection, "dead", NOW)
    later = NOW + tasks.STALE
    with empty.transaction() as connection:
        assert tasks.claim(connection, "next", later) is None  # it may still be alive
    with empty.transaction() as connection:
        tasks.live(connection, task, "dead", NOW + timedelta(seconds=10))
    with empty.transaction() as connection:
        assert tasks.claim(connection, "next", later + timedelta(seconds=1)) is None  # it is
    gone = later + timedelta(seconds=11)
    with empty.transaction() as connection:
        taken = tasks.claim(connection, "next", gone)
    assert taken
    assert taken.id == task
    with empty.transaction() as connection:
        assert not tasks.tell(connection, task, "dead", 1, 2, gone)
        assert not tasks.end(connection, task, "dead", gone, result="late")
        assert tasks.tell(connection, task, "next", 1, 2, gone)
        assert tasks.end(connection, task, "next", gone, result="own")
    assert (state(empty, task).state, state(empty, task).result) == ("done", "own")


def test_a_task_that_ends_each_of_its_workers_is_given_up(empty: Database) -> None:
    task = queued(empty)
    at = NOW
    for _ in range(tasks.MOST_TRIES):
        with empty.transaction() as connection:
            assert tasks.claim(connection, "w", at)
        at += tasks.STALE + timedelta(seconds=1)
    with empty.transaction() as connection:
        assert tasks.claim(connection, "w", at) is None
    assert state(empty, task).state == "failed"
    assert "several times" in (state(empty, task).fault or "")


def test_a_fault_is_told_in_words_and_never_its_own_text(empty: Database) -> None:
    worker = Worker(empty)

    def breaks(body: dict[str, Any], step: Any) -> Came:
        raise RuntimeError("secret detail")

    worker.roads = {"breaks": breaks}
    broken, unknown = queued(empty, "breaks"), queued(empty, "unheard-of")
    while worker.once():
        pass
    assert "secret" not in (state(empty, broken).fault or "secret")
    assert "unheard-of" in (state(empty, unknown).fault or "")


def test_a_database_that_goes_away_in_the_middle_leaves_the_task_to_be_taken_up(empty: Database) -> None:
    worker = Worker(empty)

    def loses(body: dict[str, Any], step: Any) -> Came:
        raise Unavailable

    worker.roads = {"size-all": loses}
    task = queued(empty)
    with pytest.raises(Unavailable):
        worker.once()
    assert state(empty, task).state == "running"


def test_past_its_time_a_search_ends_with_what_is_done(empty: Database, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(workers, "LIMIT", -1.0)
    design = json.loads((ROOT / "data/demo/tern.json").read_text())
    task = queued(empty, body=json.dumps({"aim": "mass", "design": design}))
    Worker(empty).once()
    found = state(empty, task)
    assert found.state == "done"
    assert json.loads(found.result or "")["stopped"] is True
    assert load_design(json.dumps(design)).parts


def test_what_ended_long_ago_is_cleared_and_a_full_queue_says_so(empty: Database) -> None:
    old = queued(empty)
    with empty.transaction() as connection:
        tasks.stop(connection, old, NOW)
    for _ in range(tasks.MOST_QUEUED):
        queued(empty, at=NOW + tasks.KEPT + timedelta(seconds=1))
    with empty.transaction() as connection, connection.cursor() as cursor:
        assert cursor.execute("SELECT id FROM task WHERE id = %s", (old,)) == 0
    with pytest.raises(tasks.TooMany):
        queued(empty, at=datetime.now(UTC).replace(tzinfo=None))
