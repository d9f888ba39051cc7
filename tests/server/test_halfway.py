"""The demo job that is built halfway: issued, ticked, one part of it made before a change; its draft as it ships."""

from __future__ import annotations

from collections.abc import Iterator

import pytest
from flask.testing import FlaskClient

from tests.conftest import ROOT, fill
from tirante.api.app import Config, create_app
from tirante.cli import answer
from tirante.core.document.upgrades import load_design
from tirante.server.demo import load_halfway
from tirante.server.mariadb import Instance
from tirante.storage.pool import Database


@pytest.fixture(scope="module")
def database(instance: Instance, worker_id: str) -> Iterator[Database]:
    found = fill(instance.bootstrap(f"halfway_{worker_id}")[0])
    load_halfway(found, ROOT / "data/demo", ["marram"])
    yield found
    found.close()


@pytest.fixture(scope="module")
def halfway(database: Database) -> tuple[FlaskClient, str]:
    client = create_app(Config(database=database, answers=answer)).test_client()
    job = next(one["id"] for one in client.get("/api/jobs").json["jobs"] if one["name"] == "Marram")
    return client, f"/api/jobs/{job}"


def test_what_was_made_before_a_change_is_turned_and_the_rest_fits(halfway: tuple[FlaskClient, str]) -> None:
    client, job = halfway
    found = client.get(f"{job}/made").json
    made = {(one["name"], one["hand"]): one for one in found["parts"]}
    assert len(made) == 9
    rods = [made.pop(("Front tie rod", hand)) for hand in ("left", "right")]
    for rod in rods:
        assert (rod["verdict"], rod["is_now"], rod["number"]) == ("set", "back in the jig", 2)
        # its outer joint went 2 mm outwards: the rod is longer by as much as it lies across the car
        saw = next(one for one in rod["figures"] if one["label"] == "Saw")
        assert 1.9 < saw["now_mm"] - saw["before_mm"] < 2.0
        assert all(end["engaged_mm"] >= end["needed_mm"] for end in rod["ends"])
    assert {one["verdict"] for one in made.values()} == {"fits"}
    assert made["Front damper, upper eye, tabs", "left"]["is_now"] == "painted"


def test_its_draft_is_as_it_ships_and_its_traveller_goes_by_the_issue(halfway: tuple[FlaskClient, str]) -> None:
    client, job = halfway
    shipped = load_design((ROOT / "data/demo/marram.json").read_bytes())
    assert client.get(job).json["design"] == shipped.model_dump(mode="json")
    found = client.get(f"{job}/traveller").json
    rows = {(one["name"], one["hand"]): one for one in found["rows"]}
    assert (found["issued"]["number"], found["draft"]) == (2, False)
    assert rows["Front tie rod", "left"]["waits"]
    assert rows["Front upper arm", "left"]["waits"]
    assert rows["Front upper arm", "right"]["is_now"] == "notched"
    assert not any(one["left_out"] for one in found["rows"])
    steps = client.get(f"{job}/traveller/{rows['Front tie rod', 'left']['part_id']}?hand=left").json["steps"]
    saw = next(one for one in steps if one["step"]["key"] == "saw:0")["marks"][0]["told"]
    assert (saw["heat"], saw["who"]) == ("H 2214", "Builder of Marram")
    changed = client.get(f"{job}/changes").json
    assert [one["name"] for one in changed["parts"] if one["verdict"] != "fits"] == ["Front tie rod"]
    assert client.get(f"{job}/pack.pdf?revision=2").data[:5] == b"%PDF-"
