"""Confirming a layout on the real database: of two who want one stick exactly one has it, and what ends in the middle changed nothing."""

from __future__ import annotations

import threading
import uuid
from collections.abc import Iterator
from datetime import UTC, datetime

import pytest

from tests.core.test_kept_cuttings import laid, own, row
from tirante.core.cutting.kept import RackChange, confirmed, taken_back
from tirante.core.document.cutting import KeptCutting
from tirante.core.document.rack import RackRow
from tirante.core.errors import InputError
from tirante.storage import cuttings, rack
from tirante.storage.cuttings import Gone, OtherState
from tirante.storage.pool import Database, Unavailable

NOW = datetime(2026, 1, 2, 3, 4, 5, tzinfo=UTC).replace(tzinfo=None)


@pytest.fixture
def job_id(seeded: Database) -> Iterator[str]:
    def clear() -> None:
        with seeded.transaction() as connection, connection.cursor() as cursor:
            cursor.execute("DELETE FROM cutting")
            cursor.execute("DELETE FROM rack")

    clear()
    with seeded.transaction() as connection, connection.cursor() as cursor:
        cursor.execute("SELECT id FROM job LIMIT 1")
        found = cursor.fetchone()
    assert found
    yield found["id"]
    clear()


def on_rack(database: Database) -> dict[str, RackRow]:
    with database.transaction() as connection:
        return {one.id: one for one, _ in rack.rows(connection)}


def kept(database: Database, job_id: str, cutting: KeptCutting) -> str:
    own_id = str(uuid.uuid4())
    with database.transaction() as connection:
        cuttings.keep(connection, job_id, own_id, cutting, NOW)
        cuttings.keep(connection, job_id, own_id, cutting, NOW)  # a repeat does no harm
    return own_id


def confirm(database: Database, job_id: str, own_id: str, first_id: int) -> None:
    def rule(cutting: KeptCutting, rows: object) -> RackChange:
        return confirmed(cutting, rows, [own(first_id + i) for i in range(9)], least=150.0, place="bay 9")  # type: ignore[arg-type]

    with database.transaction() as connection:
        cuttings.change(connection, job_id, own_id, "kept", "cut", rule, NOW)


def test_it_is_cut_once_however_often_it_is_said_and_taken_back_whole(seeded: Database, job_id: str) -> None:
    stick = row(1, 1000.0, 2, place="bay 2")
    with seeded.transaction() as connection:
        rack.put(connection, stick, 0, NOW)
    own_id = kept(seeded, job_id, laid([(600.0, 1)], [stick]))
    confirm(seeded, job_id, own_id, 100)
    once = on_rack(seeded)
    assert once[own(1)].count == 1
    assert [one.length_mm for one in once.values() if one.offcut] == [393.0]
    confirm(seeded, job_id, own_id, 200)
    assert on_rack(seeded) == once
    with seeded.transaction() as connection:
        (stored,) = cuttings.of_job(connection, job_id)
    assert (stored.state, [one.length_mm for one in stored.cutting.remnants]) == ("cut", [393.0])
    with pytest.raises(OtherState), seeded.transaction() as connection:
        cuttings.remove(connection, job_id, own_id)
    for _ in range(2):
        with seeded.transaction() as connection:
            cuttings.change(connection, job_id, own_id, "cut", "undone", taken_back, NOW)
    assert on_rack(seeded) == {own(1): stick}
    with pytest.raises(OtherState):
        confirm(seeded, job_id, own_id, 300)
    with seeded.transaction() as connection:
        cuttings.remove(connection, job_id, own_id)
        assert cuttings.of_job(connection, job_id) == []


@pytest.mark.parametrize("round_", range(4))
def test_of_two_who_confirm_one_offcut_exactly_one_has_it(seeded: Database, job_id: str, round_: int) -> None:
    del round_
    stick = row(1, 1000.0)
    with seeded.transaction() as connection:
        rack.put(connection, stick, 0, NOW)
    both = [kept(seeded, job_id, laid([(600.0, 1)], [stick])) for _ in range(2)]
    begin = threading.Barrier(2)
    came: dict[str, str] = {}

    def go(own_id: str, first_id: int) -> None:
        begin.wait()
        for _ in range(5):
            try:
                confirm(seeded, job_id, own_id, first_id)
                came[own_id] = "cut"
            except InputError as error:
                came[own_id] = error.code
            except Unavailable:  # two waited for each other, and this one gave way: the page asks again
                continue
            return

    threads = [threading.Thread(target=go, args=(own_id, 100 * (i + 1))) for i, own_id in enumerate(both)]
    for one in threads:
        one.start()
    for one in threads:
        one.join()
    assert sorted(came.values()) == ["changed", "cut"]
    left = on_rack(seeded)
    assert own(1) not in left
    assert [one.length_mm for one in left.values()] == [393.0]
    with seeded.transaction() as connection:
        states = {one.id: one.state for one in cuttings.of_job(connection, job_id)}
    assert states == {own_id: "cut" if came[own_id] == "cut" else "kept" for own_id in both}


def test_what_ends_in_the_middle_changed_neither_the_layout_nor_the_rack(
    seeded: Database, job_id: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    stick = row(1, 1000.0)
    with seeded.transaction() as connection:
        rack.put(connection, stick, 0, NOW)
    own_id = kept(seeded, job_id, laid([(600.0, 1)], [stick]))

    def broken(cutting: KeptCutting, **_more: object) -> None:
        raise RuntimeError("killed")

    monkeypatch.setattr(KeptCutting, "model_copy", broken)  # after the rack was written, before the state is
    with pytest.raises(RuntimeError):
        confirm(seeded, job_id, own_id, 100)
    monkeypatch.undo()
    assert on_rack(seeded) == {own(1): stick}
    with seeded.transaction() as connection:
        assert [one.state for one in cuttings.of_job(connection, job_id)] == ["kept"]
    confirm(seeded, job_id, own_id, 100)
    assert own(1) not in on_rack(seeded)


def test_a_layout_of_another_job_or_of_none_is_not_there(seeded: Database, job_id: str) -> None:
    own_id = kept(seeded, job_id, laid([(600.0, 1)], []))
    for job, wanted in ((str(uuid.uuid4()), own_id), (job_id, str(uuid.uuid4())), (job_id, "é")):
        with pytest.raises(Gone):
            confirm(seeded, job, wanted, 100)
