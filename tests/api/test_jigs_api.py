"""Jigs laid out through the API, drawn and listed as any part is."""

from __future__ import annotations

import copy
import uuid
from typing import Any

from flask.testing import FlaskClient

from tests.api.asked import of_kind


def ids(count: int) -> list[str]:
    return [str(uuid.uuid4()) for _ in range(count)]


def test_a_jig_is_laid_out_for_an_arm_and_is_a_part_from_then_on(client: FlaskClient, job: dict[str, Any]) -> None:
    design = copy.deepcopy(job["design"])
    arm = of_kind(design, "arm")[0]
    (jig_id,) = ids(1)
    answer = client.post("/api/jigs/new", json={"design": design, "part_id": arm["id"], "jig_id": jig_id})
    assert answer.status_code == 200, answer.json
    (made,) = answer.json["parts"]
    assert (made["kind"], made["holds"], made["name"]) == ("plate_jig", arm["id"], f"{arm['name']}, jig")
    design["parts"].append(made)
    found = client.post("/api/evaluate", json={"design": design}).json
    out = next(one for one in found["parts"] if one["id"] == jig_id)
    assert (out["station"], out["tool"], out["complete"]) == ("jigs", True, True)
    assert {one["hand"] for one in out["own"]["hands"]} == {"LEFT", "RIGHT"}
    for view in out["views"]:
        drawn = client.post("/api/draw", json={"design": design, "part_id": jig_id, "view": view["name"]})
        assert drawn.status_code == 200
        assert drawn.json["drawing"]["items"]
    assert any(one["what"].startswith(f"{made['name']}: left") for one in found["cut_list"]["items"])
    # a plane that is none is told at its field, and nothing is lost
    made["lies"], made["through"] = "through three joints", "lower front, wheel"
    found = client.post("/api/evaluate", json={"design": design}).json
    out = next(one for one in found["parts"] if one["id"] == jig_id)
    assert out["faults"] == [{"field": "through", "message": out["faults"][0]["message"]}]
    assert out["faults"][0]["message"].startswith("Name three joints")


def test_all_at_once_names_what_none_was_laid_out_for(client: FlaskClient, job: dict[str, Any]) -> None:
    design = job["design"]
    answer = client.post("/api/jigs/all", json={"design": design, "ids": ids(len(design["parts"]))}).json
    arms = {one["id"] for one in of_kind(design, "arm")}
    assert {one["holds"] for one in answer["parts"]} == arms
    assert [one["name"] for one in answer["left"]] == ["Front steering rack"]
    few = client.post("/api/jigs/all", json={"design": design, "ids": []})
    assert (few.status_code, few.json["issues"][0]["path"]) == (422, "ids")


def test_what_cannot_be_held_is_refused_with_the_reason(client: FlaskClient, job: dict[str, Any]) -> None:
    design = job["design"]
    rack = of_kind(design, "steering_rack")[0]
    refused = client.post("/api/jigs/new", json={"design": design, "part_id": rack["id"], "jig_id": ids(1)[0]})
    assert (refused.status_code, refused.json["issues"][0]["path"]) == (422, "part_id")
    assert "bought whole" in refused.json["message"]
    gone = client.post("/api/jigs/new", json={"design": design, "part_id": ids(1)[0], "jig_id": ids(1)[0]})
    assert gone.status_code == 404


def test_tools_of_an_end_and_one_jig_for_all_links_come_once(client: FlaskClient, job: dict[str, Any]) -> None:
    design = copy.deepcopy(job["design"])
    end = design["ends"][0]["id"]
    made = client.post("/api/jigs/of-end", json={"design": design, "end_id": end, "ids": ids(9)}).json["parts"]
    assert [one["kind"] for one in made] == ["hub_stand", "plate_jig", "dummy_damper"]
    one = client.post("/api/jigs/for-links", json={"design": design, "jig_id": ids(1)[0]}).json["parts"]
    hanger = client.post("/api/jigs/hanger", json={"design": design, "end_id": end, "jig_id": ids(1)[0]}).json["parts"]
    assert [part["kind"] for part in hanger] == ["hanger"]
    design["parts"] += made + one + hanger
    for of, why in ((end, "has a hanger already"), (ids(1)[0], "not there any more")):
        twice = client.post("/api/jigs/hanger", json={"design": design, "end_id": of, "jig_id": ids(1)[0]})
        assert (twice.status_code, twice.json["issues"][0]["path"]) == (422, "end_id")
        assert why in twice.json["message"]
    assert client.post("/api/jigs/of-end", json={"design": design, "end_id": end, "ids": []}).json["parts"] == []
    again = client.post("/api/jigs/for-links", json={"design": design, "jig_id": ids(1)[0]})
    assert (again.status_code, again.json["issues"][0]["path"]) == (422, "jig_id")
    found = client.post("/api/evaluate", json={"design": design}).json
    assert all(part["complete"] for part in found["parts"] if part["tool"])
    refused = client.post("/api/jigs/of-end", json={"design": design, "end_id": ids(1)[0], "ids": ids(2)})
    assert (refused.status_code, refused.json["issues"][0]["path"]) == (422, "end_id")


def test_a_jig_is_laid_out_on_the_plate_that_the_rack_has(client: FlaskClient, job: dict[str, Any]) -> None:
    design = job["design"]
    arm = of_kind(design, "arm")[0]
    row = {"id": ids(1)[0], "sort": "sheet", "stock": "plate 10 mm", "material": "S355", "length_mm": 2000.0, "width_mm": 1500.0, "count": 1, "place": "wall"}  # fmt: skip
    assert client.post("/api/rack", json={"row": row, "version": 0}).status_code == 200
    try:
        asked = {"design": design, "part_id": arm["id"], "jig_id": ids(1)[0]}
        (jig,) = client.post("/api/jigs/new", json=asked).json["parts"]
        assert (jig["plate_mm"], jig["plate_name"]) == (10.0, "S355 plate")
        assert jig["note"] == "Of the rack: plate 10 mm S355, 2000 × 1500 mm, wall."
        every = client.post("/api/jigs/all", json={"design": design, "ids": ids(9)}).json["parts"]
        assert [one["note"].startswith("Of the rack") for one in every] == [True, *[False] * (len(every) - 1)]
    finally:
        client.post(f"/api/rack/{row['id']}/remove", json={"version": 1})
    (plain,) = client.post("/api/jigs/new", json=asked).json["parts"]
    assert (plain["plate_mm"], plain["note"]) == (12.0, "")
