"""The shop's rack: rows put in, changed by two, taken away; what is wrong is named by its field."""

from __future__ import annotations

import uuid
from typing import Any

import pytest
from flask.testing import FlaskClient


def row(**more: Any) -> dict[str, Any]:
    plain = {"id": str(uuid.uuid4()), "sort": "tube", "stock": "1 1/4 × 0.120 in", "material": "4130", "length_mm": 6000.0, "width_mm": None, "thick_mm": None,
             "count": 3, "offcut": False, "place": "rack A, low", "heat": "", "note": ""}  # fmt: skip
    return plain | more


def rows(client: FlaskClient) -> dict[str, Any]:
    return {one["row"]["id"]: one for one in client.get("/api/rack").json["rows"]}


def test_a_row_is_put_in_changed_and_taken_out_and_nobody_loses_anything(client: FlaskClient) -> None:
    one = row()
    for _ in range(2):  # a repeat after a lost answer does no harm
        assert client.post("/api/rack", json={"row": one, "version": 0}).status_code == 200
    assert rows(client)[one["id"]] == {"row": one, "version": 1}
    fewer = {**one, "count": 2}
    assert client.post("/api/rack", json={"row": fewer, "version": 1}).status_code == 200
    # another, who has the row as it was, is told and overwrites nothing
    late = client.post("/api/rack", json={"row": {**one, "place": "floor"}, "version": 1})
    assert (late.status_code, late.json["issues"][0]["path"]) == (409, "version")
    assert client.post(f"/api/rack/{one['id']}/remove", json={"version": 1}).status_code == 409
    assert rows(client)[one["id"]] == {"row": fewer, "version": 2}
    for _ in range(2):
        assert client.post(f"/api/rack/{one['id']}/remove", json={"version": 2}).status_code == 200
    assert one["id"] not in rows(client)


@pytest.mark.parametrize(
    ("change", "path"),
    [({"sort": "sheet"}, "row.width_mm"), ({"count": -1}, "row.count"), ({"count": 1.5}, "row.count"), ({"length_mm": 0.0}, "row.length_mm"),
     ({"stock": " "}, "row.stock"), ({"place": "x" * 81}, "row.place"), ({"sort": "wire"}, "row.sort")],
)  # fmt: skip
def test_what_is_wrong_of_a_row_is_named_by_its_field(client: FlaskClient, change: dict[str, Any], path: str) -> None:
    before = rows(client)
    answer = client.post("/api/rack", json={"row": row(**change), "version": 0})
    assert answer.status_code == 422
    assert any(issue["path"] == path for issue in answer.json["issues"]), answer.json
    assert rows(client) == before


def test_only_what_stands_on_the_rack_is_searched_and_what_it_does_not_know_is_told(
    client: FlaskClient, job: dict[str, Any]
) -> None:
    put = [
        row(stock="1 1/2 X 0.120 in"), row(stock="tube-1.25x0.120"), row(stock="2 × 0.120 in", count=0), row(stock="gas pipe, long"),
        row(stock="1 3/4 × 0.120 in", sort="bar"),
    ]  # fmt: skip
    for one in put:
        assert client.post("/api/rack", json={"row": one, "version": 0}).status_code == 200
    found = client.get("/api/rack/tubes").json
    assert set(found["tubes"]) == {"tube-1.5x0.120", "tube-1.25x0.120"}
    assert found["unknown"] == ["gas pipe, long"]
    design = job["design"]
    link = next(part for part in design["parts"] if part["name"] == "Rear lower link")
    design["settings"]["search"]["only_tubes"] = found["tubes"]
    sized = client.post("/api/size", json={"design": design, "part_id": link["id"]}).json
    every = {choice["tube"] for name in ("winner", "runner_up", "nearest") if (choice := sized[name])}
    assert every <= {"1 1/2 × 0.120 in", "1 1/4 × 0.120 in"}
    assert every
    for one in put:
        client.post(f"/api/rack/{one['id']}/remove", json={"version": 1})
    assert client.get("/api/rack/tubes").json == {"tubes": [], "unknown": []}
