"""The gates before the core's work: one at a time, the newest of the waiting first, a full queue refused."""

import copy
import threading
import time
from typing import Any

import pytest
from flask import Flask

from tirante.api.gate import Gate
from tirante.api.problems import Refused


def waiting(gate: Gate, count: int) -> None:
    end = time.monotonic() + 5
    while len(gate._waiting) < count:
        assert time.monotonic() < end
        time.sleep(0.005)


def test_the_newest_that_waits_goes_first() -> None:
    gate, order, hold = Gate(places=1), [], threading.Event()

    def work(name: int) -> None:
        with gate.enter():
            order.append(name)
            if name == 0:
                hold.wait(5)

    threads = []
    for name in range(4):
        thread = threading.Thread(target=work, args=(name,))
        thread.start()
        threads.append(thread)
        if name == 0:
            while not order:
                time.sleep(0.005)
        else:
            waiting(gate, name)
    hold.set()
    for thread in threads:
        thread.join(5)
    assert order == [0, 3, 2, 1]


def test_no_more_than_its_places_are_inside() -> None:
    gate, inside, most = Gate(places=2, queue=50), [0], [0]
    lock = threading.Lock()

    def work() -> None:
        with gate.enter():
            with lock:
                inside[0] += 1
                most[0] = max(most[0], inside[0])
            time.sleep(0.01)
            with lock:
                inside[0] -= 1

    threads = [threading.Thread(target=work) for _ in range(20)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join(10)
    assert most[0] == 2
    assert inside[0] == 0


def test_a_full_queue_is_refused_and_an_error_inside_frees_the_place() -> None:
    gate, hold = Gate(places=1, queue=1), threading.Event()

    def sit() -> None:
        with gate.enter():
            hold.wait(5)

    first = threading.Thread(target=sit)
    first.start()
    while gate._free:
        time.sleep(0.005)
    second = threading.Thread(target=sit)
    second.start()
    waiting(gate, 1)
    with pytest.raises(Refused) as caught, gate.enter():
        pass
    assert caught.value.status == 503
    hold.set()
    first.join(5)
    second.join(5)
    with pytest.raises(ZeroDivisionError), gate.enter():
        raise ZeroDivisionError
    with gate.enter():
        pass


def test_who_has_gone_is_not_worked_for_whether_he_waits_or_comes_to_it_late() -> None:
    app, gate, hold, inside = Flask("gate"), Gate(places=1), threading.Event(), threading.Event()
    gone, refused = threading.Event(), []

    def long() -> None:
        with gate.enter():
            inside.set()
            hold.wait(5)

    def waits() -> None:
        with app.test_request_context(environ_overrides={"waitress.client_disconnected": gone.is_set}):
            try:
                with gate.enter():
                    refused.append("worked")
            except Refused as error:
                refused.append(str(error.status))

    one = threading.Thread(target=long)
    one.start()
    assert inside.wait(5)
    two = threading.Thread(target=waits)
    two.start()
    waiting(gate, 1)
    gone.set()
    two.join(5)
    assert refused == ["499"]
    assert gate._waiting == []
    waits()  # gone before it came to the gate
    assert refused == ["499", "499"]
    hold.set()
    one.join(5)
    gone.clear()
    waits()  # the place is free again for whoever listens
    assert refused[-1] == "worked"


def test_what_is_to_be_saved_is_saved_whether_its_sender_listens_or_not() -> None:
    app, gate = Flask("gate"), Gate(places=1)
    left = {"waitress.client_disconnected": lambda: True}
    with app.test_request_context("/api/jobs/one/revisions", method="POST", environ_overrides=left), gate.enter():
        pass
    with app.test_request_context("/api/jobs/one/glance", environ_overrides=left), pytest.raises(Refused), gate.enter():
        pass


def test_what_changes_little_does_not_stand_behind_what_changes_all(app: Flask, job: dict[str, Any]) -> None:
    # a car that no other test knows: nothing of it is in memory, and all of it is after the first evaluation
    design = job["design"]
    design["car"] |= {"mass_kg": 987.65, "corners": None}
    client, services = app.test_client(), app.extensions["tirante"]
    assert client.post("/api/evaluate", json={"design": design}).status_code == 200  # the loads are known from here on
    answered: list[str] = []

    def ask(name: str, asked: dict[str, Any], route: str = "/api/evaluate", **more: str) -> threading.Thread:
        def work() -> None:
            assert app.test_client().post(route, json={"design": asked, **more}).status_code == 200
            answered.append(name)

        thread = threading.Thread(target=work)
        thread.start()
        return thread

    link = next(part for part in design["parts"] if part["kind"] == "link")
    typed = copy.deepcopy(design)
    next(part for part in typed["parts"] if part["kind"] == "link")["cases"] = [{"name": "typed", "axial_n": 1234.0}]
    heavier = copy.deepcopy(design)
    heavier["car"]["mass_kg"] = 1234.5
    moved = copy.deepcopy(design)
    moved["ends"][0]["end"]["points"]["wheel_centre"][2] += 1.2345  # asked for by no other test
    with services.gate.enter():
        slow = [ask("car", heavier), ask("point", moved)]
        waiting(services.gate, 2)
        ask("part", typed).join(30)
        ask("drawing", design, "/api/draw", part_id=link["id"], view="drawing").join(30)
        assert answered == ["part", "drawing"]
    for thread in slow:
        thread.join(30)
    assert sorted(answered) == ["car", "drawing", "part", "point"]
