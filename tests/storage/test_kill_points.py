"""At each of ten kill points of a save, of fourteen of a task, of eight of a layout that is cut, and of six of what is signed at the bench, what was acknowledged is there, whole, after a restart.

A child process saves again and again and prints each acknowledgement; it kills itself, or the database, at the n-th
statement of a save. The parent restarts the database and compares.
"""

import atexit
import os
import re
import shutil
import signal
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import UTC, datetime
from functools import cache
from pathlib import Path

import pytest

from tirante.server.mariadb import Instance
from tirante.storage import cuttings, deeds, jobs, measured, rack, revisions, signatures, tasks, ticks
from tirante.storage.pool import Database

ROOT = Path(__file__).resolve().parents[2]
JOB = "0190a0a0-0000-7000-8000-00000000000a"

STRIKES = """
import os, signal, sys, uuid
from datetime import datetime, timedelta
import pymysql.cursors, pymysql.connections
from tirante.core.document.design import Design
from tirante.storage import jobs
from tirante.storage.pool import Credentials, Database

victim, point, database_pid = sys.argv[1], sys.argv[2], int(sys.argv[3])
state = {"count": 0, "armed": False}

def strike():
    os.kill(os.getpid() if victim == "server" else database_pid, signal.SIGKILL)

execute, commit = pymysql.cursors.Cursor.execute, pymysql.connections.Connection.commit

def counted(self, query, args=None):
    if state["armed"] and query.split()[0] in ("SELECT", "UPDATE", "INSERT"):
        state["count"] += 1
        if point == f"statement {state['count']}":
            strike()
    return execute(self, query, args)

def committed(self):
    if state["armed"] and point == "before commit":
        strike()
    done = commit(self)
    if state["armed"] and point == "after commit":
        strike()
    return done

pymysql.cursors.Cursor.execute, pymysql.connections.Connection.commit = counted, committed
host, port, user, password, name = sys.argv[4:9]
database = Database(Credentials(host=host, port=int(port), user=user, password=password, database=name))
now = datetime(2026, 1, 1)
"""

SAVER = (
    STRIKES
    + """
with database.transaction() as c:
    jobs.create_job(c, JOB, Design(name="0"), now)
version = 1
for i in range(1, 8):
    state["armed"] = i == 5
    with database.transaction() as c:
        # a minute between saves: each one also seals a revision
        version = jobs.save_draft(c, JOB, str(uuid.uuid4()), version, Design(name=str(i), note="x" * 2000), now + timedelta(minutes=i))
    print("ack", i, version, flush=True)
    if state["armed"] and point == "after answer":
        strike()
"""
)

# asks for a task, takes it, tells how far it is, ends it with its file, again and again
WORKER = (
    STRIKES
    + """
from tirante.storage import tasks
for i in range(1, 8):
    state["armed"] = i == 5
    task = f"0190a0a0-0000-7000-8000-00000000010{i}"
    with database.transaction() as c:
        tasks.add(c, task, None, "pack", "{}", now + timedelta(seconds=i))
    print("added", i, flush=True)
    with database.transaction() as c:
        assert tasks.claim(c, "w", now + timedelta(seconds=i)).id == task
    with database.transaction() as c:
        tasks.tell(c, task, "w", 1, 2, now + timedelta(seconds=i))
    with database.transaction() as c:
        tasks.end(c, task, "w", now + timedelta(seconds=i), result='{"n": %d}' % i, file=b"x" * 5000)
    print("ended", i, flush=True)
    if state["armed"] and point == "after answer":
        strike()
"""
)

# keeps layouts that each take one offcut of the rack, and confirms them one after the other
CUTTER = (
    STRIKES
    + """
from tirante.core.cutting.kept import confirmed
from tirante.core.document.cutting import KeptCutting, KeptPiece, KeptStick
from tirante.core.document.rack import RackRow
from tirante.storage import cuttings, rack
named = lambda kind, i: f"0190a0a0-0000-7000-8000-0000000{kind:03d}0{i}"
with database.transaction() as c:
    jobs.create_job(c, JOB, Design(name="0"), now)
    for i in range(1, 8):
        row = RackRow(id=named(200, i), stock="32 x 2", material="steel", length_mm=1000.0, offcut=True)
        stick = KeptStick(row_id=row.id, length_mm=1000.0, pieces=(KeptPiece(length_mm=600.0, what="link"),), left_mm=398.0)
        rack.put(c, row, 0, now)
        cuttings.keep(c, JOB, named(300, i), KeptCutting(
            tube="32 x 2", grade="steel", job="0", stock_mm=6000.0, kerf_mm=2.0, trim_start_mm=0.0, trim_end_mm=0.0, sticks=(stick,), rows=(row,)), now)
for i in range(1, 8):
    state["armed"] = i == 5
    with database.transaction() as c:
        cuttings.change(c, JOB, named(300, i), "kept", "cut", lambda kept, rows: confirmed(kept, rows, [named(400, i)], least=100.0, place=""), now)
    print("cut", i, flush=True)
    if state["armed"] and point == "after answer":
        strike()
"""
)

# ticks a step, measures, signs, and writes down that it did, in one go, again and again
SIGNER = (
    STRIKES
    + """
from tirante.storage import deeds, measured, people, signatures, ticks
named = lambda kind, i: f"0190a0a0-0000-7000-8000-0000000{kind:03d}0{i}"
with database.transaction() as c:
    jobs.create_job(c, JOB, Design(name="0"), now)
    people.add(c, people.Person(id=named(900, 1), name="Somebody", role="owner", active=True), "a long password", now)
for i in range(1, 8):
    state["armed"] = i == 5
    at = now + timedelta(seconds=i)
    own = {"part_id": named(500, i), "hand": "left", "metal": "ab"}
    with database.transaction() as c:
        ticks.add(c, JOB, [ticks.Tick(id=named(600, i), number=1, step="tack", done=True, made_at=at, person_id=None, **own)], at)
        measured.add(c, JOB, measured.Measured(id=named(700, i), what="length:a", figure=400.0 + i, made="cold", instrument="tape", who="", note="", person_id=None, came_at=at, **own))
        signatures.sign(c, JOB, signatures.Signature(id=named(800, i), number=1, step="second", person_id=named(900, 1), name="Somebody", note="", at=at, **own))
        deeds.add(c, "signed", {"number": i}, named(900, 1), at)
    print("signed", i, flush=True)
    if state["armed"] and point == "after answer":
        strike()
"""
)

POINTS = ["statement 1", "statement 4", "statement 6", "before commit", "after commit"]


@cache
def prepared() -> Path:
    """A database folder, prepared once and stopped; each kill has a copy of its own."""
    folder = Path(tempfile.mkdtemp(prefix="tirante-kill-"))
    atexit.register(shutil.rmtree, folder, ignore_errors=True)
    database = Instance(folder / "prepared")
    database.start()
    database.bootstrap()
    database.stop()
    return folder / "prepared"


@contextmanager
def struck(script: str, victim: str, point: str) -> Iterator[tuple[str, str, Database]]:
    """What a script printed until it, or its database, was killed at a point, its errors, and the database as it is after a restart."""
    folder = Path(tempfile.mkdtemp(prefix="tirante-kill-"))
    shutil.copytree(prepared(), folder / "own")
    database = Instance(folder / "own")
    try:
        database.start()
        credentials, _ = database.bootstrap()
        assert database.process
        given = (credentials.host, str(credentials.port), credentials.user, credentials.password, credentials.database)
        done = subprocess.run(
            [sys.executable, "-c", script.replace("JOB", repr(JOB)), victim, point, str(database.process.pid), *given],
            env={**os.environ, "PYTHONPATH": str(ROOT / "src")}, capture_output=True, text=True, timeout=60,
        )  # fmt: skip
        if victim == "server":
            assert done.returncode == -signal.SIGKILL, done.stderr
        else:
            assert database.process.wait(10) == -signal.SIGKILL, done.stderr
            database.start()
        pool = Database(database.bootstrap()[0], connections=1)
        yield done.stdout, done.stderr, pool
        pool.close()
    finally:
        database.stop()
        shutil.rmtree(folder, ignore_errors=True)


def last(word: str, printed: str) -> int:
    return max(map(int, re.findall(rf"{word} (\d+)", printed)), default=0)


@pytest.mark.parametrize("victim", ["server", "mariadb"])
@pytest.mark.parametrize("point", POINTS)
def test_every_acknowledged_save_is_whole_after_the_kill(victim: str, point: str) -> None:
    with struck(SAVER, victim, point) as (printed, errors, pool):
        acknowledged = last("ack", printed)
        assert acknowledged in (4, 5), errors  # it was struck in the fifth save, and not somewhere else
        with pool.transaction() as connection:
            draft = jobs.get_draft(connection, JOB)
            rows = revisions.list_revisions(connection, JOB)
            sealed = [revisions.get_revision(connection, JOB, row.number) for row in rows]
    # what was acknowledged, or the one that was under way if its commit got through; never a part of it
    assert int(draft.design.name) in (acknowledged, 5)
    assert draft.version == int(draft.design.name) + 1
    assert len(draft.design.note) == 2000
    assert [s[1].name for s in sealed if s] == [str(i) for i in reversed(range(int(draft.design.name)))]
    if point == "after commit":
        assert draft.design.name == "5"
    if point != "after commit" and victim == "server":
        assert draft.design.name == "4"


TASK_POINTS = [
    "statement 2",
    "statement 4",
    "statement 6",
    "statement 9",
    "before commit",
    "after commit",
    "after answer",
]


@pytest.mark.parametrize("victim", ["server", "mariadb"])
@pytest.mark.parametrize("point", TASK_POINTS)
def test_a_task_that_was_asked_for_is_there_after_the_kill_and_is_taken_up_or_done(victim: str, point: str) -> None:
    def named(i: int) -> str:
        return f"0190a0a0-0000-7000-8000-00000000010{i}"

    with struck(WORKER, victim, point) as (printed, errors, pool):
        added, ended = last("added", printed), last("ended", printed)
        assert (added, ended) in ((4, 4), (5, 4), (5, 5)), errors  # it was struck at the fifth, and not somewhere else
        with pool.transaction() as connection:
            for i in range(1, added + 1):
                task = tasks.get(connection, named(i))
                whole = task.state == "done"
                # with its result and its file, or with neither and to be taken up
                assert (task.result is not None, tasks.file_of(connection, task.id) == b"x" * 5000) == (whole, whole)
                assert whole or (i > ended and task.state in ("queued", "running"))
                if whole:
                    assert task.result == f'{{"n": {i}}}'
            left = added == 5 and tasks.get(connection, named(5)).state != "done"
        with pool.transaction() as connection:
            taken = tasks.claim(connection, "next", datetime(2026, 1, 1, 0, 5, tzinfo=UTC).replace(tzinfo=None))
        if left:
            assert taken
            assert taken.id == named(5)


@pytest.mark.parametrize("victim", ["server", "mariadb"])
@pytest.mark.parametrize("point", ["statement 3", "statement 4", "before commit", "after commit"])
def test_a_layout_that_was_being_cut_is_cut_whole_or_not_at_all_and_its_offcut_is_there_once(victim: str, point: str) -> None:  # fmt: skip
    def named(kind: int, i: int) -> str:
        return f"0190a0a0-0000-7000-8000-0000000{kind:03d}0{i}"

    with struck(CUTTER, victim, point) as (printed, errors, pool):
        acknowledged = last("cut", printed)
        assert acknowledged in (4, 5), errors  # it was struck in the fifth, and not somewhere else
        with pool.transaction() as connection:
            states = {one.id: one.state for one in cuttings.of_job(connection, JOB)}
            rows = {row.id: (row.length_mm, row.count) for row, _ in rack.rows(connection)}
    assert len(states) == 7
    for i in range(1, 8):
        if states[named(300, i)] == "cut":
            assert (named(200, i) in rows, rows.get(named(400, i))) == (False, (398.0, 1)), i
        else:
            assert (rows.get(named(200, i)), named(400, i) in rows) == ((1000.0, 1), False), i
    cut = [i for i in range(1, 8) if states[named(300, i)] == "cut"]
    assert cut in (list(range(1, acknowledged + 1)), list(range(1, 6)))
    if point == "after commit":
        assert cut == list(range(1, 6))
    elif victim == "server":
        assert cut == list(range(1, 5))


@pytest.mark.parametrize("victim", ["server", "mariadb"])
@pytest.mark.parametrize("point", ["statement 4", "before commit", "after commit"])
def test_what_was_ticked_measured_and_signed_is_there_after_the_kill_with_its_log_whole(
    victim: str, point: str
) -> None:
    with struck(SIGNER, victim, point) as (printed, errors, pool):
        acknowledged = last("signed", printed)
        assert acknowledged in (4, 5), errors
        with pool.transaction() as connection:
            ticked = [one.id[-1] for one in ticks.every(connection, JOB)]
            read = [one.figure - 400.0 for one in measured.of_job(connection, JOB)]
            signed = [one.id[-1] for one in signatures.of_job(connection, JOB)]
            log = deeds.every(connection)
    there = len(ticked)
    assert there in (acknowledged, 5)
    assert ticked == signed == [str(i) for i in range(1, there + 1)]
    assert read == list(range(1, there + 1))
    assert [one.number for one in log] == list(range(1, there + 1))
    assert deeds.broken_at(log) is None
    if victim == "server":
        assert there == (5 if point == "after commit" else 4)
