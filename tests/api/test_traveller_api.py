"""The traveller through the API: how far each part is, what was written down, and that a step taken back keeps both."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import Any

import pytest
from flask.testing import FlaskClient

from tests.api.test_prints_api import issue, longer, new_id, save, tick
from tirante.api import jobs as jobs_api


def now_ms() -> int:
    return int(datetime.now(UTC).timestamp() * 1000)


def row(client: FlaskClient, job_id: str, name: str, hand: str = "left") -> dict[str, Any]:
    rows = client.get(f"/api/jobs/{job_id}/traveller").json["rows"]
    return next(one for one in rows if (one["name"], one["hand"]) == (name, hand))


def put(client: FlaskClient, job_id: str, part: dict[str, Any], step: str, hand: str = "left", *, done: bool = True, at: int | None = None, number: int | None = None, **told: str) -> None:  # fmt: skip
    one = tick({"id": part["part_id"], "metal": part["metal"]}, step, hand, done=done, at=at or now_ms(), number=number)
    answer = client.post(f"/api/jobs/{job_id}/ticks", json={"ticks": [{**one, "told": told}]})
    assert answer.status_code == 200, answer.json
    assert answer.json == {"kept": 1, "refused": []}


def test_each_hand_of_a_pair_is_told_by_itself_and_the_whole_car_is_there(client: FlaskClient, job: dict[str, Any]) -> None:  # fmt: skip
    own = job["job_id"]
    found = client.get(f"/api/jobs/{own}/traveller").json
    assert (found["issued"], found["draft"], found["no_steps"], found["gone"]) == (None, True, [], [])
    hands = {(one["name"], one["hand"]) for one in found["rows"]}
    expected = {(part["name"], hand) for part in job["design"]["parts"] for hand in (("left", "right") if part["side"] == "pair" else ("",))}  # fmt: skip
    assert hands == expected
    link = row(client, own, "Rear lower link")
    assert (link["is_now"], link["done"], link["next"]) == ("", 0, "Have at hand")
    for step in ("have", "saw:0", "tack"):
        put(client, own, link, step)
    left, right = row(client, own, "Rear lower link"), row(client, own, "Rear lower link", "right")
    assert (left["is_now"], left["done"], left["next"], left["left_out"]) == ("tacked", 3, "Check it before it is welded", [])  # fmt: skip
    assert (right["is_now"], right["done"]) == ("", 0)
    put(client, own, link, "back")
    past = row(client, own, "Rear lower link")
    assert (past["is_now"], past["unsigned"]) == ("back in the jig", [])
    assert past["left_out"] == ["Check it before it is welded", "Cycle it on the car, tacked"]
    # a damper's tabs, on which no wheel hangs, wait for nobody
    tabs = row(client, own, "Front damper, upper eye, tabs")
    put(client, own, tabs, "weld")
    assert row(client, own, "Front damper, upper eye, tabs")["is_now"] == "welded"


def test_a_step_taken_back_keeps_both_and_what_was_written_down_with_either(client: FlaskClient, job: dict[str, Any]) -> None:  # fmt: skip
    own = job["job_id"]
    link = row(client, own, "Rear lower link")
    path = f"/api/jobs/{own}/traveller/{link['part_id']}?hand=left"
    put(client, own, link, "saw:0", heat="H 4711", who="first", number=None)
    put(client, own, link, "saw:0", done=False, note="5 mm too short: the stop had slipped", who="first")
    put(client, own, link, "saw:0", heat="H 4712", at=now_ms() + 5)
    put(client, own, link, "saw:0", "right", heat="of the other hand")
    steps = {one["step"]["key"]: one for one in client.get(path).json["steps"]}
    sawn = steps["saw:0"]
    assert sawn["done"] is True
    assert [one["done"] for one in sawn["marks"]] == [True, False, True]
    assert [one["told"]["heat"] for one in sawn["marks"]] == ["H 4711", "", "H 4712"]
    assert sawn["marks"][1]["told"]["note"] == "5 mm too short: the stop had slipped"
    assert [one["late"] for one in sawn["marks"]] == [False] * 3
    assert sawn["step"]["asks"] == ["heat"]
    assert steps["weld"]["step"]["asks"] == ["welder", "filler"]
    assert steps["weld"]["marks"] == []
    put(client, own, link, "have")
    put(client, own, link, "have", done=False, at=now_ms() + 5)
    assert next(one for one in client.get(path).json["steps"] if one["step"]["key"] == "have")["done"] is False
    # made an hour ago and told now: it is said that it came late
    put(client, own, link, "tack", at=now_ms() - 3_600_000, welder="somebody")
    tacked = next(one for one in client.get(path).json["steps"] if one["step"]["key"] == "tack")
    assert (tacked["marks"][0]["late"], tacked["marks"][0]["told"]["welder"]) == (True, "somebody")
    for wrong in (path.replace("left", "middle"), path.split("?")[0], f"/api/jobs/{own}/traveller/{new_id()}?hand=left", f"/api/jobs/{new_id()}/traveller"):  # fmt: skip
        assert client.get(wrong).status_code == 404, wrong


def test_what_was_ticked_of_other_metal_or_of_a_part_that_is_gone_counts_for_nothing_and_is_told(client: FlaskClient, job: dict[str, Any]) -> None:  # fmt: skip
    own = job["job_id"]
    number = issue(client, own, "to build from")
    link = row(client, own, "Rear lower link")
    put(client, own, link, "saw:0", number=number)
    design, part_id = longer(job["design"], "Rear lower link")
    save(client, own, design)
    assert row(client, own, "Rear lower link")["done"] == 1  # by what is issued it is as it was
    second = issue(client, own, "longer")
    assert client.get(f"/api/jobs/{own}/traveller").json["issued"]["number"] == second
    now = row(client, own, "Rear lower link")
    assert (now["done"], now["otherwise"]) == (0, 1)
    other = client.get(f"/api/jobs/{own}/traveller/{part_id}?hand=left").json["other_metal"]
    assert other == [f"1 step was ticked for it as rev {number} had it: other metal, which counts for nothing here"]
    gone = {**design, "parts": [part for part in design["parts"] if part["id"] != part_id], "joints": [one for one in design["joints"] if one["held"].get("part") != part_id]}  # fmt: skip
    save(client, own, gone)
    assert client.get(f"/api/jobs/{own}/traveller?draft=1").json["gone"] == [part_id]


def test_what_was_issued_before_anybody_signed_keeps_its_steps_and_nothing_of_it_waits(client: FlaskClient, job: dict[str, Any], monkeypatch: pytest.MonkeyPatch) -> None:  # fmt: skip
    own = job["job_id"]
    told = jobs_api.steps_told
    monkeypatch.setattr(jobs_api, "steps_told", lambda of: {part: [one for one in steps if not one["hold"]] for part, steps in told(of).items()})  # fmt: skip
    number = issue(client, own, "long ago")
    monkeypatch.undo()
    link = row(client, own, "Rear lower link")
    put(client, own, link, "weld", number=number)
    assert row(client, own, "Rear lower link")["unsigned"] == []
    # by the draft of the same metal it is as it was issued; the part as it is changed waits
    put(client, own, link, "cool")
    design, _ = longer(job["design"], "Rear lower link")
    save(client, own, design)
    drafted = client.get(f"/api/jobs/{own}/traveller?draft=1").json["rows"]
    now = next(one for one in drafted if (one["name"], one["hand"]) == ("Rear lower link", "left"))
    assert now["metal"] != link["metal"]
    one = tick({"id": now["part_id"], "metal": now["metal"]}, "weld", "left", at=now_ms())
    assert client.post(f"/api/jobs/{own}/ticks", json={"ticks": [one]}).json["kept"] == 0
