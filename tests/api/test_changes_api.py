"""Over HTTP: what changed since a job was issued, the cards of a bench, two people's drafts put together."""

import copy
from typing import Any

import pytest
from flask.testing import FlaskClient

from tests.api.asked import named
from tests.api.test_jobs_api import new, put


def issue(client: FlaskClient, job: dict[str, Any], version: int, name: str = "to build") -> int:
    body = {"save_id": new(), "version": version, "name": name, "issue": True}
    path = f"/api/jobs/{job['job_id']}/revisions"
    found = client.post(path, json=body)
    if found.status_code == 422:
        lines = [one["message"] for one in found.json["issues"]]
        found = client.post(path, json={**body, "acknowledged": lines, "acknowledged_by": "A. Person"})
    assert found.status_code == 200, found.json
    number: int = found.json["number"]
    return number


def with_point(design: dict[str, Any], end: int, name: str, x: float) -> dict[str, Any]:
    found = copy.deepcopy(design)
    point = found["ends"][end]["end"]["points"][name]
    found["ends"][end]["end"]["points"][name] = [point[0] + x, *point[1:]]
    return found


def test_nothing_is_compared_before_anything_is_issued(client: FlaskClient, job: dict[str, Any]) -> None:
    found = client.get(f"/api/jobs/{job['job_id']}/changes").json
    assert found == {"since": None, "parts": [], "otherwise": []}
    bench = client.get(f"/api/jobs/{job['job_id']}/bench").json
    assert bench["draft"] is True
    assert bench["issued"] is None
    assert len(bench["parts"]) == len(job["design"]["parts"])
    assert any(one.startswith("Front, upright: not made here") for one in bench["not_here"])


def test_the_bench_holds_what_is_issued_and_is_told_of_a_newer_draft(client: FlaskClient, job: dict[str, Any]) -> None:
    path = f"/api/jobs/{job['job_id']}"
    number = issue(client, job, 1)
    same = client.get(f"{path}/changes").json
    assert same["since"]["current"] is True
    assert same["parts"] == []
    was = named(client.get(f"{path}/bench").json, "Rear lower link")["card"]["figures"][0]
    put(client, job, with_point(job["design"], 1, "lower_chassis", 2.0), 1)
    found = client.get(f"{path}/changes").json
    assert found["since"]["number"] == number
    assert found["since"]["current"] is False
    one = next(part for part in found["parts"] if part["name"] == "Rear lower link")
    assert one["verdict"] == "set"
    # the bracket at that point was cut for where it stood
    assert {part["name"] for part in found["parts"]} == {"Rear lower link", "Rear lower link, end A, tabs"}
    saw = next(figure for figure in one["figures"] if figure["label"] == "Saw")
    assert saw["before_mm"] == was["mm"]
    bench = client.get(f"{path}/bench").json
    assert bench["draft"] is False
    assert bench["issued"]["number"] == number
    assert named(bench, "Rear lower link")["card"]["figures"][0]["mm"] == was["mm"]
    assert [told["name"] for told in bench["changes"]] == [part["name"] for part in found["parts"]]
    draft = client.get(f"{path}/bench?draft=1").json
    assert draft["draft"] is True
    assert named(draft, "Rear lower link")["card"]["figures"][0]["mm"] == pytest.approx(saw["now_mm"])
    asked = client.get(f"{path}/changes?since={number}").json
    assert asked == found
    assert client.get(f"{path}/changes?since=999").status_code == 404
    assert client.get(f"{path}/changes?since=one").json["code"] == "not_a_revision"


def test_two_drafts_go_together_and_what_both_changed_is_asked_about(client: FlaskClient, job: dict[str, Any]) -> None:
    path = f"/api/jobs/{job['job_id']}/merge"
    base = job["design"]
    theirs = with_point(base, 1, "lower_chassis", 2.0)
    theirs["note"] = "theirs"
    put(client, job, theirs, 1)
    mine = with_point(base, 0, "tie_inner", 1.0)
    found = client.post(path, json={"base": base, "mine": mine}).json
    assert found["clashes"] == []
    assert found["theirs"]["version"] == 2
    points = [end["end"]["points"] for end in found["merged"]["ends"]]
    assert points[1]["lower_chassis"] == theirs["ends"][1]["end"]["points"]["lower_chassis"]
    assert points[0]["tie_inner"] == mine["ends"][0]["end"]["points"]["tie_inner"]
    assert "Front: Tie inner" in found["mine"]
    assert "Rear: Lower chassis" in found["others"]
    mine["note"] = "mine"
    asked = client.post(path, json={"base": base, "mine": mine}).json
    (clash,) = asked["clashes"]
    assert (clash["of"], clash["field"], clash["mine"], clash["theirs"]) == ("the job", "Note", "mine", "theirs")
    assert asked["merged"]["note"] == "theirs"
    taken = client.post(path, json={"base": base, "mine": mine, "take": {clash["key"]: "mine"}}).json
    assert taken["merged"]["note"] == "mine"
    gone = client.post(path, json={"base": base, "mine": mine, "take": {"car/no_such": "mine"}})
    assert (gone.status_code, gone.json["code"]) == (422, "no_such_clash")


def test_what_would_not_stand_together_is_said_and_nothing_is_lost(client: FlaskClient, job: dict[str, Any]) -> None:
    """One takes an end's id for a new end of theirs … a merge that no job may be is refused with its reason."""
    base = job["design"]
    theirs, mine = copy.deepcopy(base), copy.deepcopy(base)
    fresh = new()
    theirs["ends"].append({**copy.deepcopy(base["ends"][0]), "id": fresh, "name": "third"})
    for i in range(6 - len(base["ends"])):
        theirs["ends"].append({**copy.deepcopy(base["ends"][0]), "id": new(), "name": f"more {i}"})
        mine["ends"].append({**copy.deepcopy(base["ends"][0]), "id": new(), "name": f"own {i}"})
    assert put(client, job, theirs, 1).status_code == 200
    found = client.post(f"/api/jobs/{job['job_id']}/merge", json={"base": base, "mine": mine}).json
    assert found["merged"] is None
    assert "8" in found["fault"]
