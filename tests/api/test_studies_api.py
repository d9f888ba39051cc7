"""An end in motion over HTTP: what the page asks beside its study."""

import io
import json
import re
import uuid
from typing import Any

import pdfplumber
import pytest
from flask.testing import FlaskClient

from tests.api.asked import put
from tirante.calc import calculate
from tirante.core.document.upgrades import load_design


def asked(client: FlaskClient, job: dict[str, Any], path: str, i: int = 0, **more: Any) -> dict[str, Any]:
    body = {"design": job["design"], "end_id": job["design"]["ends"][i]["id"], **more}
    answer = client.post(path, json=body)
    assert answer.status_code == 200, answer.json
    return answer.json  # type: ignore[no-any-return]


def test_lifting_one_wheel_of_the_rear_axle_is_travel_and_roll_that_calc_confirms(
    client: FlaskClient, job: dict[str, Any]
) -> None:
    found = asked(client, job, "/api/study/wheels", 1, left_mm=40.0, right_mm=-10.0)
    design = load_design(json.dumps(job["design"]))
    end = design.standing(design.ends[1]).model_dump(mode="json")
    position = calculate("cycle", {**end, "wheels": [[40.0, -10.0, 0.0]]})["positions"][0]
    assert (position["travel_mm"], position["roll_deg"]) == (found["travel_mm"], found["roll_deg"])
    # mid-way between the wheels, the left one higher: the body leans left against the axle
    assert found["travel_mm"] == pytest.approx(15.0, abs=0.1)
    assert found["roll_deg"] < -1
    independent = asked(client, job, "/api/study/wheels", 0, left_mm=40.0, right_mm=0.0)
    assert "beam axle" in independent["faults"][0]["message"]


def test_the_bind_map_draws_the_joint_asked_for(client: FlaskClient, job: dict[str, Any]) -> None:
    found = asked(client, job, "/api/study/bind-map", joint="tie rod, outer end")
    assert found["shown"] == "tie rod, outer end"
    assert "tie rod, outer end" in found["drawing"]["title"]
    shares = [j["share"] for j in found["joints"] if j["share"] is not None]
    assert shares == sorted(shares, reverse=True)
    row = next(j for j in found["joints"] if j["name"] == found["shown"])
    words = [item.get("text") or "" for item in found["drawing"]["items"]]
    # its worst lies where the damper ends the travel, between the cells, each of which stands a little inside that
    cells = [float(word.rstrip("°")) for word in words if re.fullmatch(r"\d+\.\d°", word)]
    assert 0.9 * row["worst_deg"] < max(cells) <= row["worst_deg"] + 0.05
    # as a client asks that has no parts to send: by what the evaluation said they allow
    told = {"tie rod": {"a": 3.0, "b": None}}
    tight = asked(client, job, "/api/study/bind-map", joint="tie rod, inner end", limits=told)
    own = {j["name"]: j["limit_deg"] for j in tight["joints"]}
    assert (own["tie rod, inner end"], own["tie rod, outer end"]) == (3.0, None)
    assert tight["joints"][0]["state"] == "stop"
    assert all("°" in line for line in next(j for j in tight["joints"] if j["name"] == tight["shown"])["advice"])


def test_what_still_moves_is_drawn_with_the_parts_in_place_alone(client: FlaskClient, job: dict[str, Any]) -> None:
    nothing = asked(client, job, "/api/study/still-moves", in_place=[])
    assert nothing["drawing"] is None
    assert not any(part["in_place"] for part in nothing["parts"])
    arm = asked(client, job, "/api/study/still-moves", in_place=["lower arm pivots"], phase=0.5)
    assert (arm["degrees"], arm["motions"]) == (1, ["the lower arm moves"])
    refs = {item.get("ref") for item in arm["drawing"]["items"]}
    assert "body:lower_arm" in refs
    assert not any(ref and ref.startswith(("link:", "body:upper", "wheel")) for ref in refs)
    wrong = asked(client, job, "/api/study/still-moves", in_place=["the engine"])
    assert wrong["faults"][0]["field"] == "in_place"


def test_the_scene_has_every_point_of_the_left_side_once_to_drag(client: FlaskClient, job: dict[str, Any]) -> None:
    scene = asked(client, job, "/api/study/scene")["scene"]
    dragged = [solid["point"] for solid in scene["solids"] if solid["kind"] == "ball" and solid["point"]]
    assert len(dragged) == len(set(dragged))
    assert {"upper_outer", "tie_inner", "wheel_centre", "bar_drop"} <= set(dragged)
    for rows in scene["groups"].values():
        assert len(rows) == len(scene["travel"])


def test_plots_take_any_measure_and_no_other(client: FlaskClient, job: dict[str, Any]) -> None:
    found = asked(client, job, "/api/study/plots", plots=["scrub_radius_mm", "jacking_mm"], along="steer")
    words = {item.get("text") for item in found["drawing"]["items"]}
    assert {"scrub", "jacking", "steer up the page, to the left +"} <= words
    wrong = asked(client, job, "/api/study/plots", plots=["happiness"])
    assert wrong["faults"][0]["field"] == "plots"


def test_another_revision_stands_faint_beside(client: FlaskClient, job: dict[str, Any]) -> None:
    before = json.loads(json.dumps(job["design"]))
    job["design"]["ends"][0]["end"]["points"]["upper_outer"][0] -= 12
    found = asked(client, job, "/api/study/plots", other=before)
    lines = [
        item for item in found["drawing"]["items"] if item.get("ref") == "measure:caster" and item["kind"] == "line"
    ]
    faint = [line["x1"] for line in lines if line["tone"] == "muted"]
    own = [line["x1"] for line in lines if line["tone"] == "ink"]
    assert len(faint) == len(own) > 10
    assert max(faint) < min(own)  # 12 mm back at the top is more caster: further right


@pytest.mark.parametrize("paper", ["A4", "Letter"])
def test_the_measuring_sheet_has_a_place_for_every_point_and_length_of_both_sides(
    client: FlaskClient, job: dict[str, Any], paper: str
) -> None:
    job["design"]["settings"]["paper"] = paper
    end = job["design"]["ends"][0]
    answer = client.post("/api/ends/measuring-sheet.pdf", json={"design": job["design"], "end_id": end["id"]})
    assert answer.mimetype == "application/pdf"
    with pdfplumber.open(io.BytesIO(answer.data)) as pdf:
        assert {(round(page.width / 72 * 25.4), round(page.height / 72 * 25.4)) for page in pdf.pages} == {
            {"A4": (210, 297), "Letter": (216, 279)}[paper]
        }
        text = "\n".join(page.extract_text() for page in pdf.pages)
    for words in (
        "upper outer joint",
        "tie rod",
        "372.2",
        "angle opposite",
        "lower arm",
        "DRAFT",
        "upper eye of the damper",
        "middle of the bump stop",
    ):
        assert words in text, words
    points = end["end"]["points"]
    template = client.post("/api/ends/kind", json={"design": job["design"], "end_id": end["id"]}).json["template"]
    single = [point["name"] for point in template["points"] if not point["pair"]]
    # three readings a side of every point, numbered in their order
    assert text.count("L ____") == text.count("R ____") == 3 * (len(points) - len(single))
    assert [int(n) for n in re.findall(r"^(\d+) ", text, re.M)][: len(points)] == list(
        range(1, len(points) + 1)
    ) or all(re.search(rf"\b{n}\b", text) for n in range(1, len(points) + 1))


def test_the_measuring_sheet_says_what_is_measured_from_and_leaves_room_for_what_is_not_said(
    client: FlaskClient, job: dict[str, Any]
) -> None:
    body = {"design": job["design"], "end_id": job["design"]["ends"][0]["id"]}

    def text(**more: Any) -> str:
        answer = client.post("/api/ends/measuring-sheet.pdf", json={**body, **more})
        assert answer.status_code == 200
        with pdfplumber.open(io.BytesIO(answer.data)) as pdf:
            return pdf.pages[0].extract_text()

    said = text(datum={"floor": "slab under the lift", "stands": "on its wheels"})
    assert "Floor: slab under the lift" in said
    assert "Car stands: on its wheels" in said
    assert "Middle: ________" in said
    assert "rear left ________ right ________" in said
    assert "Floor: ________" in text()
    assert client.post("/api/ends/measuring-sheet.pdf", json={**body, "datum": {"flour": "x"}}).status_code == 422


def test_the_measuring_sheet_has_room_for_the_angles_that_its_end_has(client: FlaskClient, job: dict[str, Any]) -> None:
    def text(end: dict[str, Any]) -> str:
        answer = client.post("/api/ends/measuring-sheet.pdf", json={"design": job["design"], "end_id": end["id"]})
        with pdfplumber.open(io.BytesIO(answer.data)) as pdf:
            return "\n".join(page.extract_text() for page in pdf.pages).partition("Angles at ride height")[2]

    front, rear = job["design"]["ends"]
    steered, axle = text(front), text(rear)
    assert steered.count("behind ________") == axle.count("behind ________") == 2  # a toe bar, left and right
    assert steered.count("turned in ________°") == 2
    assert "Caster gauge" not in axle  # it does not steer
    assert "Axle’s tube" not in steered
    assert "Axle’s tube" in axle
    for degrees in (None, 3.0):
        rear["end"]["pinion_deg"] = degrees
        assert ("Pinion’s flange" in text(rear)) is (degrees is not None)


def test_links_made_from_an_end_follow_it_and_are_loose_when_it_goes(client: FlaskClient, job: dict[str, Any]) -> None:
    end_id = job["design"]["ends"][1]["id"]
    job["design"]["parts"], job["design"]["joints"] = [], []
    body = {"design": job["design"], "end_id": end_id, "ids": [str(uuid.uuid4()) for _ in range(9)], "kinds": ["link"]}
    made = put(job["design"], client.post("/api/parts/of-end", json=body).json)
    assert [link["name"] for link in made["parts"]] == ["Rear lower link", "Rear upper link", "Rear Panhard rod"]
    assert [link["side"] for link in made["parts"]] == ["pair", "centre", "centre"]
    again = client.post("/api/parts/of-end", json={**body, "design": made}).json
    assert again["parts"] == []
    x, y, z = made["ends"][1]["end"]["points"]["lower_axle"]
    made["ends"][1]["end"]["points"]["lower_axle"] = [x, y, z + 100]
    evaluated = client.post("/api/evaluate", json={"design": made}).json["parts"]
    a = made["ends"][1]["end"]["points"]["lower_chassis"]
    assert evaluated[0]["own"]["length_mm"] == pytest.approx(
        sum((p - q) ** 2 for p, q in zip(a, (x, y, z + 100), strict=True)) ** 0.5
    )
    made["ends"] = made["ends"][:1]
    loose = client.post("/api/evaluate", json={"design": made}).json["parts"][0]
    assert [fault["field"] for fault in loose["faults"]] == ["between"]


def test_an_addition_is_put_on_and_taken_off_without_a_trace(client: FlaskClient, job: dict[str, Any]) -> None:
    rear = {"design": job["design"], "end_id": job["design"]["ends"][1]["id"], "addition": "steered-axle"}

    def with_end(answer: Any) -> dict[str, Any]:
        end = answer.json["end"]
        return {**job["design"], "ends": [end if one["id"] == end["id"] else one for one in job["design"]["ends"]]}

    added = with_end(client.post("/api/ends/add", json={**rear, "present": True}))
    found = client.post("/api/study", json={"design": added, "end_id": rear["end_id"]}).json
    assert found["faults"] == []
    assert "toe_deg" in found["columns"]
    kind = client.post("/api/ends/kind", json={"design": added, "end_id": rear["end_id"]}).json["template"]
    assert {"track rod", "drag link"} <= set(kind["links"])
    off = with_end(client.post("/api/ends/add", json={**rear, "design": added, "present": False}))
    assert off["ends"][1] == job["design"]["ends"][1]
    refused = client.post("/api/ends/add", json={**rear, "end_id": job["design"]["ends"][0]["id"], "present": True})
    assert refused.status_code == 422


def test_a_vehicle_of_its_own_is_refused_for_an_end_of_a_job(client: FlaskClient, job: dict[str, Any]) -> None:
    job["design"]["ends"][0]["end"]["vehicle"] = {"wheelbase_mm": 2000.0, "cg_height_mm": 500.0}
    answer = client.post("/api/study", json={"design": job["design"], "end_id": job["design"]["ends"][0]["id"]})
    assert answer.status_code == 422
    assert "car" in answer.json["issues"][0]["message"]


def test_points_come_as_json_too_and_every_fault_is_named(client: FlaskClient) -> None:
    text = json.dumps({"unit": "in", "points": {"a": [1, 2.5, -3], "b": [0, 0, 0]}})
    read = client.post("/api/points/read", json={"text": text}).json["points"]
    assert read["a"] == [25.4, 63.5, pytest.approx(-76.2)]
    bad = json.dumps({"a": [1, 2], "b": [0, "x", 1e9], "c": [1, 2, 3]})
    answer = client.post("/api/points/read", json={"text": bad})
    assert [issue["path"] for issue in answer.json["issues"]] == ["a", "b, y", "b, z"]
    assert client.post("/api/points/read", json={"text": "{ no"}).status_code == 422


def test_an_unsteered_five_link_rear_is_not_told_that_its_kingpin_is_wrong(client: FlaskClient) -> None:
    found = client.get("/api/jobs").json["jobs"]
    tern = next(job for job in found if job["demo"] and job["name"] == "Tern")
    design = client.get(f"/api/jobs/{tern['id']}").json["design"]
    study = client.post("/api/study", json={"design": design, "end_id": design["ends"][0]["id"]}).json
    rows = {row["key"]: row for row in study["ride"]}
    for key in ("caster_deg", "kingpin_inclination_deg", "scrub_radius_mm"):
        assert rows[key]["low"] is None
        assert "not steered" in rows[key]["why"]
    assert rows["camber_deg"]["low"] is not None
    marram = next(job for job in found if job["demo"] and job["name"] == "Marram")
    design = client.get(f"/api/jobs/{marram['id']}").json["design"]
    study = client.post("/api/study", json={"design": design, "end_id": design["ends"][0]["id"]}).json
    assert next(row for row in study["ride"] if row["key"] == "kingpin_inclination_deg")["low"] is not None
