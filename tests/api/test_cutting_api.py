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
