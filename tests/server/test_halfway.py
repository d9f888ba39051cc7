"""The demo job that is built halfway: issued, ticked, one part of it made before a change; its draft as it ships."""

from __future__ import annotations

import uuid
from collections.abc import Iterator
from datetime import timedelta

import pytest
from flask.testing import FlaskClient
from werkzeug.test import TestResponse

from tests.conftest import NOW, ROOT, fill
from tirante.api.app import Config, create_app
from tirante.cli import answer
from tirante.core.document.upgrades import load_design
from tirante.server.halfway import load_halfway
from tirante.server.mariadb import Instance
from tirante.storage.pool import Database


@pytest.fixture(scope="module")
def database(instance: Instance, worker_id: str) -> Iterator[Database]:
    found = fill(instance.bootstrap(f"halfway_{worker_id}")[0])
    load_halfway(found, ROOT / "data/demo", ["marram"], NOW + timedelta(seconds=1))
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
    assert found["mark"] == "attention"  # the tie rods are to be turned
    assert {one["name"] for one in found["parts"] if one["askew"]} == {"Front tie rod"}
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
    assert client.get("/api/jobs").json["jobs"][0]["name"] == "Marram"  # it stands first
    assert [one["name"] for one in changed["parts"] if one["verdict"] != "fits"] == ["Front tie rod"]
    assert client.get(f"{job}/pack.pdf?revision=2").data[:5] == b"%PDF-"


def test_what_is_measured_is_kept_and_judged_and_counts_for_the_turns_that_are_left(halfway: tuple[FlaskClient, str]) -> None:  # fmt: skip
    client, job = halfway
    row = next(one for one in client.get(f"{job}/traveller").json["rows"] if (one["name"], one["hand"]) == ("Front tie rod", "right"))  # fmt: skip
    path = f"{job}/measured/{row['part_id']}"
    (length,) = (one for one in client.get(f"{path}?hand=right").json["wanted"] if one["sort"] == "length")

    def read(figure: float, **more: object) -> TestResponse:
        body = {"id": str(uuid.uuid4()), "hand": "right", "metal": row["metal"], "what": length["key"], "figure": figure, "instrument": "tape", **more}  # fmt: skip
        return client.post(path, json=body)

    def turns() -> float:
        made = client.get(f"{job}/made").json["parts"]
        return next(one["turns"] for one in made if (one["name"], one["hand"]) == ("Front tie rod", "right"))

    before = turns()
    once = str(uuid.uuid4())
    assert read(length["figure"] + 0.9, id=once).status_code == 200
    assert read(length["figure"] + 0.9, id=once).status_code == 200
    found = read(length["figure"] + 1.0, who="Builder of Marram", note="read again").json
    (own,) = (one for one in found["wanted"] if one["key"] == length["key"])
    assert [(one["inside"], one["who"], one["note"]) for one in own["read"]] == [(False, "", ""), (False, "Builder of Marram", "read again")]  # fmt: skip
    assert "0.5 mm more than is let through" in own["read"][-1]["says"]
    # it stands a millimetre longer than it was to be made: so much less is left to turn, of two threads of one pitch
    assert before - turns() == pytest.approx(1.0 / (2 * 25.4 / 18))  # 5/8-18 UNF, ASME B1.1
    after = turns()
    assert read(length["figure"] + 5.0, made="tacked").status_code == 200
    assert turns() == after  # its beads have not drawn that yet
    left = client.get(f"{path}?hand=left").json["wanted"]
    assert not any(one["read"] for one in left)
    for wrong, field in (({"what": "length:none"}, "what"), ({"figure": 1e9}, "figure"), ({"hand": "middle"}, "hand")):
        refused = read(**{"figure": 1.0, **wrong})  # type: ignore[arg-type]
        assert (refused.status_code, refused.json["issues"][0]["path"]) == (422, field)
    assert read(1.0, metal="0" * 16).json["code"] == "stale"
    assert client.get(f"{path}?hand=").status_code == 404
    assert client.get(f"{job}/measured/{uuid.uuid4()}?hand=left").status_code == 404
