"""The plates of a job on the simulated cutting table, through the API."""

from __future__ import annotations

import copy
import uuid
from typing import Any

import pytest
from flask.testing import FlaskClient


def test_time_is_of_every_count_and_what_has_no_file_is_named(client: FlaskClient, job: dict[str, Any]) -> None:
    answer = client.post("/api/cutting-table", json={"design": job["design"], "kerf_mm": 1.0})
    assert answer.status_code == 200, answer.json
    found = answer.json
    assert found["seconds"] == pytest.approx(sum(one["count"] * one["seconds"] for one in found["plates"]))
    assert any(one["count"] > 1 for one in found["plates"])
    assert found["left_out"] == []  # its gussets have files too
    bare = copy.deepcopy(job["design"])
    pair = next(part for part in bare["parts"] if part["kind"] == "tab_pair")
    pair["hole"] = {"mm": 90}
    found = client.post("/api/cutting-table", json={"design": bare}).json
    assert pair["name"] in [one["name"] for one in found["left_out"]]
    assert pair["id"] not in [one["part_id"] for one in found["plates"]]


@pytest.mark.parametrize("kerf", [0, -1, 11, "1", None])
def test_a_kerf_that_no_table_has_is_refused_by_its_field(
    client: FlaskClient, job: dict[str, Any], kerf: object
) -> None:
    answer = client.post("/api/cutting-table", json={"design": job["design"], "kerf_mm": kerf})
    assert answer.status_code == 422
    assert "kerf_mm" in answer.json["issues"][0]["path"]


def test_the_saw_s_list_is_laid_out_on_what_the_rack_holds(client: FlaskClient, job: dict[str, Any]) -> None:
    """An offcut put on the rack is cut first, and taken off it by nothing but a person."""
    saw = {"design": job["design"], "stock_mm": 6000.0, "kerf_mm": 2.0, "trim_start_mm": 10.0, "trim_end_mm": 10.0}
    plain = client.post("/api/sticks", json=saw).json["tubes"]
    pieces = client.post("/api/evaluate", json={"design": job["design"]}).json["cut_list"]["pieces"]
    assert sum(len(one["pieces"]) for one in plain) == sum(p["count"] for p in pieces if p["off_mm"] is None)
    assert all(one["proven"] and one["drawing"] and not one["fault"] for one in plain)
    first = plain[0]
    own = {"id": str(uuid.uuid4()), "sort": "tube", "stock": first["tube"], "material": first["grade"], "length_mm": 5000.0, "width_mm": None,
           "count": 1, "offcut": True, "place": "bay 7", "note": ""}  # fmt: skip
    assert client.post("/api/rack", json={"row": own, "version": 0}).status_code == 200
    try:
        after = client.post("/api/sticks", json=saw).json["tubes"][0]
        assert after["new"] == first["new"] - 1
        assert "1 from the rack" in after["told"]
        assert any("bay 7" in item.get("text", "") for item in after["drawing"]["items"])
        assert [one["row"] for one in client.get("/api/rack").json["rows"] if one["row"]["id"] == own["id"]] == [own]
    finally:
        client.post(f"/api/rack/{own['id']}/remove", json={"version": 1})
    short = client.post("/api/sticks", json={**saw, "stock_mm": 100.0}).json["tubes"]
    assert all("Take longer stock" in one["fault"] and one["drawing"] is None for one in short)
    refused = client.post("/api/sticks", json={**saw, "kerf_mm": -1})
    assert (refused.status_code, refused.json["issues"][0]["path"]) == (422, "kerf_mm")


def test_a_layout_is_kept_cut_and_taken_back_through_the_api(client: FlaskClient, job: dict[str, Any]) -> None:
    """Kept as it was laid out; cutting it puts what is left on the rack, taking it back takes that off again."""
    design, path = job["design"], f"/api/jobs/{job['job_id']}/cuttings"
    saw = {"design": design, "stock_mm": 6000.0, "kerf_mm": 2.0, "trim_start_mm": 10.0, "trim_end_mm": 10.0}
    first = client.post("/api/sticks", json=saw).json["tubes"][0]
    before = client.get("/api/rack").json["rows"]
    own = str(uuid.uuid4())
    kept = client.post(path, json={**saw, "id": own, "tube": first["tube"], "grade": first["grade"]})
    assert kept.status_code == 200, kept.json
    (one,) = kept.json["cuttings"]
    assert (one["id"], one["state"], len(one["cutting"]["sticks"])) == (own, "kept", first["new"])
    assert sorted(p["length_mm"] for s in one["cutting"]["sticks"] for p in s["pieces"]) == sorted(first["lengths_mm"])
    ids = [str(uuid.uuid4()) for _ in range(20)]
    said = {"ids": ids, "least_mm": 100.0, "place": "bay 3"}
    cut = client.post(f"{path}/{own}/confirm", json=said)
    assert (cut.status_code, cut.json["cuttings"][0]["state"]) == (200, "cut")
    added = [row["row"] for row in client.get("/api/rack").json["rows"] if row["row"]["id"] in ids]
    assert sum(row["count"] for row in added) == sum(s["left_mm"] >= 100.0 for s in one["cutting"]["sticks"])
    assert all(row["place"] == "bay 3" and row["offcut"] for row in added)
    assert client.post(f"{path}/{own}/remove", json={}).status_code == 409
    undone = client.post(f"{path}/{own}/undo", json={})
    assert undone.json["cuttings"][0]["state"] == "undone"
    assert client.get("/api/rack").json["rows"] == before
    again = client.post(f"{path}/{own}/confirm", json=said)
    assert (again.status_code, again.json["code"]) == (409, "other_state")
    assert client.post(f"{path}/{own}/remove", json={}).json == {"cuttings": []}
    assert client.post(f"{path}/{uuid.uuid4()}/confirm", json=said).status_code == 404
    none = client.post(path, json={**saw, "id": str(uuid.uuid4()), "tube": "oak", "grade": "x"})
    assert (none.status_code, none.json["issues"][0]["path"]) == (422, "tube")


def test_an_offcut_that_is_gone_when_it_is_cut_is_named(client: FlaskClient, job: dict[str, Any]) -> None:
    design, path = job["design"], f"/api/jobs/{job['job_id']}/cuttings"
    saw = {"design": design, "stock_mm": 6000.0, "kerf_mm": 2.0, "trim_start_mm": 10.0, "trim_end_mm": 10.0}
    first = client.post("/api/sticks", json=saw).json["tubes"][0]
    stick = {"id": str(uuid.uuid4()), "sort": "tube", "stock": first["tube"], "material": first["grade"], "length_mm": 5000.0, "width_mm": None,
             "count": 1, "offcut": True, "place": "bay 7", "note": ""}  # fmt: skip
    client.post("/api/rack", json={"row": stick, "version": 0})
    own = str(uuid.uuid4())
    client.post(path, json={**saw, "id": own, "tube": first["tube"], "grade": first["grade"]})
    client.post(f"/api/rack/{stick['id']}/remove", json={"version": 1})
    refused = client.post(f"{path}/{own}/confirm", json={"ids": [str(uuid.uuid4()) for _ in range(9)]})
    assert (refused.status_code, refused.json["code"]) == (409, "changed")
    assert "from bay 7 is not on the rack any more" in refused.json["message"]
    assert client.get(path).json["cuttings"][0]["state"] == "kept"
