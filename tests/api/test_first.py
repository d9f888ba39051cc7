"""What an edit waits for goes first: heavier work pauses between its stages, shortly, and never while the picture waits for it."""

from __future__ import annotations

import threading
import time
from typing import Any

import pytest
from flask import Flask
from flask.testing import FlaskClient

from tirante.api import first as module
from tirante.api.first import First
from tirante.api.gate import Gate
from tirante.core.job.memory import Abandoned, Memory


def in_thread(work: object) -> threading.Thread:
    thread = threading.Thread(target=work)  # type: ignore[arg-type]
    thread.start()
    return thread


def test_heavier_work_waits_until_the_picture_is_drawn(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(module, "MOST_S", 30.0)
    monkeypatch.setattr(module, "ALL_S", 30.0)
    first = First()
    memory = Memory(pause=first.pause, waiting=first.waiting)
    order: list[str] = []
    first.begin()
    memory.get("part", 1, lambda: order.append("picture"))  # whoever goes first is not held up
    heavy = in_thread(lambda: memory.get("part", 2, lambda: order.append("heavy") or "done"))
    heavy.join(0.2)
    assert order == ["picture"]
    first.end()
    heavy.join(10.0)
    assert order == ["picture", "heavy"]
    # what is known is given at once, whoever goes first
    first.begin()
    known = in_thread(lambda: order.append(str(memory.get("part", 2, lambda: None))))
    known.join(5.0)
    assert order[2:] == ["done"]
    first.end()


def test_nobody_pauses_longer_than_a_moment(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(module, "MOST_S", 0.05)
    first = First()
    first.begin()
    done = threading.Event()
    in_thread(lambda: (first.pause(), done.set()))
    assert done.wait(5.0)
    first.end()


def test_what_the_picture_waits_for_is_not_held_up_by_it(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(module, "MOST_S", 30.0)
    monkeypatch.setattr(module, "ALL_S", 30.0)
    first = First()
    memory = Memory(pause=first.pause, waiting=first.waiting)
    begun, found = threading.Event(), []

    def stage() -> str:
        begun.set()
        time.sleep(0.05)
        return str(memory.get("ride", "inner", lambda: "inner"))  # a stage of its own: here it would pause

    heavy = in_thread(lambda: memory.get("part", "shared", stage))
    assert begun.wait(5.0)

    def picture() -> None:
        first.begin()
        found.append(memory.get("part", "shared", lambda: "never"))
        first.end()

    drawn = in_thread(picture)
    drawn.join(10.0)
    heavy.join(10.0)
    assert found == ["inner"]


def test_a_picture_that_waits_at_the_gate_lets_the_others_on(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(module, "MOST_S", 30.0)
    monkeypatch.setattr(module, "ALL_S", 30.0)
    first, gate = First(), Gate()
    gate.waiting = first.waiting
    inside, order = threading.Event(), []

    def heavy() -> None:
        with gate.enter():
            inside.set()
            time.sleep(0.1)
            first.pause()  # the picture stands at the gate: nobody is drawn yet
            order.append("heavy")

    one = in_thread(heavy)
    assert inside.wait(5.0)

    def picture() -> None:
        first.begin()
        with gate.enter():
            order.append("picture")
        first.end()

    two = in_thread(picture)
    one.join(10.0)
    two.join(10.0)
    assert order == ["heavy", "picture"]
    assert not first.mine


def test_begun_twice_and_ended_twice_counts_once() -> None:
    first = First()
    first.begin()
    first.begin()
    first.end()
    first.end()
    done = threading.Event()
    in_thread(lambda: (first.pause(), done.set()))
    assert done.wait(0.1)


def test_a_request_for_a_picture_goes_first_while_it_lasts_and_no_other_does(
    client: FlaskClient, app: Flask, monkeypatch: pytest.MonkeyPatch
) -> None:
    first: First = app.extensions["tirante"].first
    seen: list[bool] = []
    pauses: list[str] = []
    asked = app.before_request_funcs.setdefault(None, [])
    monkeypatch.setitem(app.before_request_funcs, None, [*asked, lambda: seen.append(first.mine)])
    monkeypatch.setattr(first, "pause", lambda: pauses.append("pause"))
    for path in ("/api/study/drawing", "/api/draw", "/api/evaluate"):
        client.post(path, json={})
        assert not first.mine
    assert seen == [True, True, False]
    assert pauses == ["pause"]


def test_at_every_gate_of_the_application_a_picture_that_waits_holds_nobody_up(app: Flask) -> None:
    found = app.extensions["tirante"]
    for gate in (found.gate, found.quick, found.short, found.long):
        assert gate.waiting == found.first.waiting


def test_one_request_pauses_no_longer_altogether_than_it_may(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(module, "MOST_S", 0.05)
    monkeypatch.setattr(module, "ALL_S", 0.12)
    first = First()
    first.begin()
    took: list[float] = []

    def request() -> None:
        for _ in range(2):
            first.anew()
            since = time.monotonic()
            for _ in range(200):
                first.pause()
            took.append(time.monotonic() - since)

    in_thread(request).join(10.0)
    first.end()
    assert all(0.1 < one < 1.0 for one in took)  # and not two hundred times 0.05
    assert len(took) == 2


def test_what_is_abandoned_is_taken_over_by_who_waits_for_it() -> None:
    left = threading.local()

    def pause() -> None:
        if getattr(left, "gone", False):
            raise Abandoned

    memory, begun, told = Memory(pause=pause), threading.Event(), []

    def goes() -> None:
        def outer() -> None:
            begun.set()
            time.sleep(0.1)
            left.gone = True
            memory.get("ride", "inner", lambda: told.append("worked for nobody"))

        try:
            memory.get("part", "outer", outer)
        except Abandoned:
            told.append("abandoned")

    one = in_thread(goes)
    assert begun.wait(5.0)
    two = in_thread(
        lambda: told.append(memory.get("part", "outer", lambda: memory.get("ride", "inner", lambda: "found")))
    )
    one.join(10.0)
    two.join(10.0)
    assert sorted(told) == ["abandoned", "found"]
    assert memory.known("part", "outer") == "found"


def test_who_has_gone_is_worked_for_no_further_than_the_stage_he_left_at(
    client: FlaskClient, app: Flask, job: dict[str, Any]
) -> None:
    memory: Memory = app.extensions["tirante"].memory
    design = job["design"] | {"parts": [one | {"note": "of its own"} for one in job["design"]["parts"]]}
    begun: list[str] = []
    get = memory.get

    def seen(stage: str, key: object, work: Any) -> Any:
        begun.append(stage)
        return get(stage, key, work)

    memory.get = seen  # type: ignore[method-assign]
    try:
        answer = client.post(
            "/api/evaluate",
            json={"design": design},
            environ_overrides={"waitress.client_disconnected": lambda: len(begun) > 40},
        )
        assert (answer.status_code, answer.json["code"]) == (499, "gone")
        left_at = len(begun)
        again = client.post("/api/evaluate", json={"design": design})
        assert again.status_code == 200
        assert len(again.json["parts"]) == len(design["parts"])
        assert left_at < (len(begun) - left_at) / 2  # what is known already is given without a look
    finally:
        del memory.get  # type: ignore[method-assign]
