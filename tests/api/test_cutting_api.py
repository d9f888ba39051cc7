"""The plates of a job on the simulated cutting table, through the API."""

from __future__ import annotations

import copy
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
