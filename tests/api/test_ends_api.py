"""Suspension ends over HTTP: from a template to a study and its drawing."""

import json
import uuid
from typing import Any

import numpy as np
import pytest
from flask.testing import FlaskClient

from tests.conftest import ROOT
from tirante.calc import calculate
from tirante.core.document.upgrades import load_design


def study(client: FlaskClient, job: dict[str, Any], i: int = 0, **more: Any) -> dict[str, Any]:
    body = {"design": job["design"], "end_id": job["design"]["ends"][i]["id"], **more}
    return client.post("/api/study", json=body).json


def test_every_template_makes_an_end_that_can_be_studied_and_drawn(client: FlaskClient) -> None:
    design = client.post("/api/jobs", json={"id": str(uuid.uuid4()), "name": "Ends"}).json["design"]
    templates = client.get("/api/templates").json["templates"]
    assert len(templates) >= 13
    for template in templates:
        assert all(point["what"] for point in template["points"])
        end_id = str(uuid.uuid4())
        made = client.post(
            "/api/ends", json={"design": design, "id": end_id, "name": "E", "template": template["name"]}
        ).json["end"]
        one = {**design, "ends": [made]}
        found = client.post("/api/study", json={"design": one, "end_id": end_id}).json
        assert all(found["reached"]), template["name"]
        assert found["ride"]
        assert found["lengths"]
        body = {"design": one, "end_id": end_id, "travel_mm": 30.0 * template["rises"], "roll_deg": 2.0, "unit": "in"}
        drawing = client.post("/api/study/drawing", json=body).json["drawing"]
        assert {"from behind", "from the left", "from above"} <= {i.get("text") for i in drawing["items"]}


def test_the_study_and_the_command_line_cannot_disagree(client: FlaskClient, job: dict[str, Any]) -> None:
    found = study(client, job, roll_deg=1.5, steer=6.0)
    design = load_design(json.dumps(job["design"]))
    end = design.standing(design.ends[0]).model_dump(mode="json")
    rows = [[t, 1.5, 6.0] for t in found["travel_mm"]]
    positions = calculate("cycle", {**end, "rows": rows})["positions"]
    for key, column in found["columns"].items():
        for here, there in zip(column, (p[key] for p in positions), strict=True):
            assert here == (None if there is None else there), key


def test_the_damper_s_ends_are_found_between_positions(client: FlaskClient, job: dict[str, Any]) -> None:
    found = study(client, job)
    damper = job["design"]["ends"][0]["end"]["damper"]
    events = {e["short"]: e["travel_mm"] for e in found["events"] if e["kind"] == "stop"}
    lengths, travel = found["columns"]["damper_length_mm"], found["travel_mm"]
    for name, limit in (("damper closed", damper["closed_mm"]), ("damper open", damper["open_mm"])):
        at = np.interp(events[name], travel, lengths)
        assert at == pytest.approx(limit, abs=1e-6)
    assert found["bump"] == "the damper is closed, before any joint binds"
    assert (found["lowest_mm"], found["highest_mm"]) == (events["damper open"], events["damper closed"])


def test_leaning_closes_the_outer_damper_first(client: FlaskClient, job: dict[str, Any]) -> None:
    # the body leans right: the right wheel is in bump already, and its damper closes sooner than the left one
    level, leaning = study(client, job), study(client, job, roll_deg=2.0)
    assert leaning["bump"].startswith("the right damper is closed")
    assert leaning["droop"].startswith("the left damper is open")
    assert leaning["highest_mm"] < level["highest_mm"]
    assert leaning["lowest_mm"] > level["lowest_mm"]


def test_a_joint_that_comes_to_its_limit_stands_on_the_strip(client: FlaskClient, job: dict[str, Any]) -> None:
    end = job["design"]["ends"][0]["end"]
    end["damper"] = None
    end["points"] = {n: p for n, p in end["points"].items() if not n.startswith("damper")}
    joint = {"bolt_axis": [0.0, 0.0, 1.0], "limit_deg": 6.0}
    end["links"] = {"tie rod": {"a": joint, "b": joint, "clocking_deg": 0.0, "stiffness_n_per_mm": 50000.0}}
    found = study(client, job)
    stops = [e for e in found["events"] if e["kind"] == "stop"]
    warnings = [e for e in found["events"] if e["kind"] == "attention"]
    assert stops
    assert warnings
    assert "joint reaches its limit" in stops[0]["what"]
    # the warning comes before the stop on the way from ride height
    up = [e["travel_mm"] for e in stops if e["travel_mm"] > 0]
    early = [e["travel_mm"] for e in warnings if e["travel_mm"] > 0]
    assert min(early) < min(up)


def test_points_that_make_it_impossible_are_named_and_nothing_breaks(client: FlaskClient, job: dict[str, Any]) -> None:
    points = job["design"]["ends"][0]["end"]["points"]
    points["tie_outer"] = points["tie_inner"]
    found = study(client, job)
    assert {f["field"] for f in found["faults"]} == {"points.tie_inner", "points.tie_outer"}
    body = {"design": job["design"], "end_id": job["design"]["ends"][0]["id"], "travel_mm": 0.0}
    assert client.post("/api/study/drawing", json=body).json["faults"]
    missing = {n: p for n, p in points.items() if n != "wheel_centre"}
    job["design"]["ends"][0]["end"]["points"] = missing
    assert "missing" in study(client, job)["faults"][0]["message"]


def test_a_travel_out_of_reach_says_so_and_shows_the_rest(client: FlaskClient, job: dict[str, Any]) -> None:
    end = job["design"]["ends"][0]
    end["end"]["damper"] = None
    end["end"]["points"] = {n: p for n, p in end["end"]["points"].items() if not n.startswith("damper")}
    end["box"] |= {"bump_mm": 500.0, "droop_mm": 60.0}
    found = study(client, job)
    assert not all(found["reached"])
    assert any(found["reached"])
    assert any(e["short"] == "end of reach" for e in found["events"])
    body = {"design": job["design"], "end_id": end["id"], "travel_mm": 500.0}
    answer = client.post("/api/study/drawing", json=body).json
    assert answer["drawing"] is None
    assert "Move back" in answer["faults"][0]["message"]


def test_a_design_file_of_version_1_is_brought_up_to_date(client: FlaskClient) -> None:
    old = json.loads((ROOT / "tests/storage/design-version-1.json").read_text())
    made = client.post("/api/import", json={"id": str(uuid.uuid4()), "design": old}).json
    assert made["design"]["schema_version"] == 5
    assert made["design"]["ends"] == []
    assert (
        client.post("/api/import", json={"id": str(uuid.uuid4()), "design": {**old, "schema_version": 99}}).status_code
        == 422
    )


def test_unknown_ends_and_templates(client: FlaskClient, job: dict[str, Any]) -> None:
    assert client.post("/api/study", json={"design": job["design"], "end_id": str(uuid.uuid4())}).status_code == 404
    body = {"design": job["design"], "id": str(uuid.uuid4()), "name": "E", "template": "hovercraft"}
    answer = client.post("/api/ends", json=body)
    assert (answer.status_code, answer.json["issues"][0]["path"]) == (422, "template")


def test_points_and_measures_go_out_and_come_in_as_csv(client: FlaskClient, job: dict[str, Any]) -> None:
    end = job["design"]["ends"][0]
    body = {"design": job["design"], "end_id": end["id"]}
    text = client.post("/api/points/write", json=body).json["text"]
    assert client.post("/api/points/read", json={"text": text}).json["points"] == end["end"]["points"]
    bad = client.post("/api/points/read", json={"text": text.replace("118.0", "x")})
    assert bad.status_code == 422
    line = next(n for n, row in enumerate(text.splitlines(), 1) if row.startswith("tie_inner"))
    assert [i["path"] for i in bad.json["issues"]] == [f"line {line}, x"]
    rows = client.post("/api/study/table", json=body).json["text"].splitlines()
    found = study(client, job)
    assert len(rows) == len(found["travel_mm"]) + 1
    column = rows[0].split(",").index("camber_deg")
    assert float(rows[1].split(",")[column]) == pytest.approx(found["columns"]["camber_deg"][0], abs=1e-6)
    for along, place in (("roll", 1), ("steer", 2)):
        swept = (
            client.post("/api/study/table", json={**body, "along": along, "travel_mm": 10.0}).json["text"].splitlines()
        )
        cells = [row.split(",") for row in swept[1:]]
        assert len({row[place] for row in cells}) == len(cells) > 20
        assert {float(row[0]) for row in cells} == {10.0}
        assert len({row[column] for row in cells}) == len(cells)


def test_a_pick_up_is_moved_with_what_is_made_of_it_as_long_as_before(client: FlaskClient, job: dict[str, Any]) -> None:
    design = job["design"]
    end = design["ends"][0]
    x, y, z = end["end"]["points"]["tie_inner"]
    body = {"design": design, "end_id": end["id"], "point": "tie_inner", "at": [x, y - 5.0, z]}
    found = client.post("/api/ends/move-point", json=body).json
    kept = {**design, "ends": [found["end"], *design["ends"][1:]]}
    anew = json.loads(json.dumps(design))
    anew["ends"][0]["end"]["points"]["tie_inner"] = [x, y - 5.0, z]

    def tie_rod(of: dict[str, Any]) -> float:
        rows = client.post("/api/study", json={"design": of, "end_id": end["id"]}).json["lengths"]
        return next(row["left_mm"] for row in rows if row["part"] == "tie rod")

    assert tie_rod(kept) == pytest.approx(tie_rod(design), abs=1e-4)
    assert tie_rod(anew) == pytest.approx(tie_rod(design) + 5.0, abs=0.01)
    # behind the wheel or ahead of it, a rod that ends 5 mm further in on an arm of so many mm turns the wheel
    assert found["toe_deg"] == pytest.approx(found["end"]["end"]["wheel"]["toe_deg"] - end["end"]["wheel"]["toe_deg"])
    arm = end["end"]["points"]["tie_outer"][0] - end["end"]["points"]["lower_outer"][0]
    assert abs(found["toe_deg"]) == pytest.approx(np.degrees(5.0 / abs(arm)), rel=0.1)
    assert np.sign(found["toe_deg"]) == np.sign(arm)
    refused = client.post("/api/ends/move-point", json={**body, "point": "tie_outer"})
    assert refused.status_code == 422
    assert "moves with the wheel" in refused.get_data(as_text=True)


def own_end(client: FlaskClient, design: dict[str, Any], **how: Any) -> dict[str, Any]:
    body = {"design": design, "id": str(uuid.uuid4()), "name": "Own", **how}
    made: dict[str, Any] = client.post("/api/ends", json=body).json["end"]
    return made


def test_an_own_kind_goes_from_nothing_through_its_points_to_a_file_and_another_end(
    client: FlaskClient, job: dict[str, Any]
) -> None:
    bare = {**job["design"], "ends": [], "parts": [], "joints": []}
    end = own_end(client, bare, begin="independent")
    for sort, what in (("point", "Arm, front"), ("point", "Arm, front"), ("body", "Upright")):
        body = {"design": {**bare, "ends": [end]}, "end_id": end["id"], "sort": sort, "what": what}
        end = client.post("/api/ends/kind/add", json=body).json["end"]
    kind = end["end"]["kind"]
    # two that are called alike are told apart
    assert [p["name"] for p in kind["points"]] == ["wheel_centre", "arm_front", "arm_front_2"]
    assert kind["bodies"] == ["upright", "upright_2"]
    end["end"]["points"] |= {"arm_front": [300.0, 200.0, 250.0], "arm_front_2": [260.0, 520.0, 262.0]}
    kind["bodies"] = ["upright"]
    kind["joints"] = [
        {"kind": "hinge", "name": "pivots", "body": "upright", "on": "ground", "points": ["arm_front", "arm_front_2"]}
    ]
    whole = {"design": {**bare, "ends": [end]}, "end_id": end["id"]}
    found = client.post("/api/study/as-built", json={**whole, "phase": 1.0}).json
    assert (found["whole"], found["beside"], found["faults"]) == (True, 0, [])
    assert {"arm front", "wheel centre"} <= {item.get("text") for item in found["drawing"]["items"]}
    assert client.post("/api/ends/kind", json=whole).json["template"]["own"]
    # saved with the job, and read again as it was
    saved = client.post("/api/import", json={"id": str(uuid.uuid4()), "design": whole["design"]}).json["design"]
    assert saved["ends"][0]["end"]["kind"]["joints"][0]["name"] == "pivots"
    file = client.post("/api/ends/kind/file", json=whole).json
    again = own_end(client, whole["design"], file=file["text"])
    like = own_end(client, whole["design"], like=end["id"])
    for other in (again, like):
        assert other["end"]["end"] == "rear"
        assert other["end"]["points"] == end["end"]["points"]
        assert other["end"]["kind"]["joints"] == saved["ends"][0]["end"]["kind"]["joints"]


def test_a_kind_that_ships_becomes_the_end_s_own_and_is_carried_as_before(
    client: FlaskClient, job: dict[str, Any]
) -> None:
    end_id = job["design"]["ends"][0]["id"]
    body = {"design": job["design"], "end_id": end_id}
    refused = client.post("/api/ends/kind/add", json={**body, "sort": "point", "what": "x"})
    assert (refused.status_code, refused.json["issues"][0]["path"]) == (422, "end_id")
    made = client.post("/api/ends/own", json=body).json["end"]
    design = {**job["design"], "ends": [made, *job["design"]["ends"][1:]]}
    assert made["end"]["kind"]["carriers"] == ["upright"]
    was, now = (client.post("/api/loads", json={"design": d, "end_id": end_id}).json for d in (job["design"], design))
    assert {**now, "command": ""} == {**was, "command": ""}
    assert client.post("/api/ends/own", json={"design": design, "end_id": end_id}).json["end"] == made


@pytest.mark.parametrize(
    ("change", "path"),
    [
        ({"roles": {"wheel_body": "ground", "wheel_centre": "wheel_centre"}}, "roles.wheel_body"),
        ({"name": "other"}, "kind.name"),
        ({"bodies": ["upright", "ground"]}, ""),
        ({"joints": [{"kind": "ball", "name": "a, b", "bodies": ["upright", "ground"], "point": "wheel_centre"}]}, "joints.0"),
        ({"points": [{"name": "wheel_centre", "what": "x", "at": [1e300, 0, 0]}]}, "points.0.at.0"),
        ({"joints": [{"kind": "pivot", "name": "a", "body": "upright", "on": "ground", "point": "wheel_centre"}]}, "joints.0"),
    ],
)  # fmt: skip
def test_a_kind_that_does_not_hold_together_is_refused_by_its_field(
    client: FlaskClient, job: dict[str, Any], change: dict[str, Any], path: str
) -> None:
    end = own_end(client, job["design"], begin="independent")
    end["end"]["kind"] |= change
    answer = client.post("/api/study/as-built", json={"design": {**job["design"], "ends": [end]}, "end_id": end["id"]})
    assert answer.status_code == 422
    assert any(path in issue["path"] for issue in answer.json["issues"]), answer.json["issues"]


def test_what_cannot_be_put_together_yet_is_told_and_no_end_is_of_two_kinds(
    client: FlaskClient, job: dict[str, Any]
) -> None:
    end = own_end(client, job["design"], begin="beam")
    end["end"]["points"] = {}
    body = {"design": {**job["design"], "ends": [end]}, "end_id": end["id"]}
    found = client.post("/api/study/as-built", json=body).json
    assert found["drawing"] is None
    assert "wheel_centre" in found["faults"][0]["message"]
    for how in ({}, {"begin": "beam", "template": "strut"}, {"file": "{"}, {"like": str(uuid.uuid4())}):
        answer = client.post("/api/ends", json={"design": job["design"], "id": str(uuid.uuid4()), "name": "E", **how})
        assert answer.status_code in (404, 422), how
