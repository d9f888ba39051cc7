"""What was read of a car through the API: kept, told beside the model, never changed or lost."""

from __future__ import annotations

import uuid
from typing import Any

import pytest
from flask.testing import FlaskClient

Entry = dict[str, Any]


def angle(job: Entry, measure: str, deg: float, risen: float = 0.0, end: int = 0, **more: Any) -> Entry:
    return {
        "sort": "angle", "id": str(uuid.uuid4()), "end": job["design"]["ends"][end]["id"], "measure": measure, "deg": deg, "risen": {"mm": risen, "typed": None}, **more,
    }  # fmt: skip


def post(client: FlaskClient, job: Entry, *entries: Entry) -> Any:
    made = [{"entry": one, "made_at": "2026-05-21T10:00:00Z"} for one in entries]
    return client.post(f"/api/jobs/{job['job_id']}/built", json={"entries": made})


def test_readings_are_told_beside_the_model_and_name_what_explains_them(client: FlaskClient, job: Entry) -> None:
    empty = client.get(f"/api/jobs/{job['job_id']}/built").json
    assert empty["read"] == []
    assert [(one["name"], one["beam"], one["steered"]) for one in empty["ends"]] == [
        ("Front", False, "mm"),
        ("Rear", True, ""),
    ]
    assert "caster_deg" in empty["ends"][0]["measures"]
    assert "caster_deg" not in empty["ends"][1]["measures"]
    places = [(m, h) for h in (-50.0, 0.0, 50.0) for m in ("camber_deg", "toe_deg")]
    first = [angle(job, m, 0.0, h) for m, h in places]
    told = post(client, job, *first).json["read"][0]
    model = [one["model"] for one in told["readings"]]
    right = [{**angle(job, m, value, h), "wheel": "right"} for (m, h), value in zip(places, model, strict=True)]
    sound = post(client, job, *right).json["read"][1]
    assert (sound["wheel"], sound["verdict"], sound["errors"]) == ("right", "fits", [])
    back = [{"sort": "back", "id": str(uuid.uuid4()), "entry": one["id"], "why": "to try"} for one in first]
    # 8 mm in the tie rod turn this wheel by some 4°, wherever it stands, and nothing else
    real = [
        angle(job, m, value + (-4.2 if m == "toe_deg" else 0.35), h)
        for (m, h), value in zip(places, model, strict=True)
    ]
    found = post(client, job, *back, *real).json["read"][0]
    assert (found["name"], found["wheel"], found["verdict"]) == ("Front", "left", "cannot_tell")
    named = [one for one in found["errors"] if one["named"]]
    assert "tie rod" in [one["key"] for one in named]
    assert named[0]["says"][0].isupper()
    assert next(one for one in named if one["key"] == "tie rod")["bench"].startswith("Turn Front tie rod")
    assert [one["chi2"] for one in named] == sorted(one["chi2"] for one in named)
    assert "length of tie rod" in found["tape"]
    assert found["unseen"]
    assert len(found["errors"]) == len(named) + 5
    assert [one["back"] for one in found["readings"]] == ["to try"] * 6 + [None] * 6
    assert found["readings"][7]["explained"] == pytest.approx(found["readings"][7]["taken"]["deg"], abs=0.2)
    assert found["drawing"]["items"]
    inches = client.get(f"/api/jobs/{job['job_id']}/built?unit=in").json["read"][0]
    assert all("″ (" in one["says"] for one in inches["errors"])
    # a second time the same does no harm; another figure under its id is refused, and what was kept stays
    assert post(client, job, real[0]).status_code == 200
    assert post(client, job, {**real[0], "deg": 9.0}).status_code == 409
    again = client.get(f"/api/jobs/{job['job_id']}/built").json["read"][0]["readings"]
    assert [one["taken"]["deg"] for one in again] == [one["taken"]["deg"] for one in found["readings"]]


@pytest.mark.parametrize(
    ("change", "field"),
    [({"deg": 91}, "deg"), ({"measure": "cambre_deg"}, "measure"), ({"deg": "1"}, "deg"), ({"hight": 1}, "hight"), ({"sd": 0}, "sd"), ({"end": "front"}, "end")],
)  # fmt: skip
def test_bad_input_names_the_field_and_nothing_is_kept(
    client: FlaskClient, job: Entry, change: Entry, field: str
) -> None:
    answer = post(client, job, angle(job, "camber_deg", 1.0), {**angle(job, "camber_deg", 1.0), **change})
    assert answer.status_code == 422
    assert any(field in one["path"] for one in answer.json["issues"])
    assert client.get(f"/api/jobs/{job['job_id']}/built").json["read"] == []


def test_readings_of_an_end_that_is_taken_away_are_kept_and_said(client: FlaskClient, job: Entry) -> None:
    gone = {**angle(job, "camber_deg", 1.0), "end": str(uuid.uuid4())}
    (found,) = post(client, job, gone).json["read"]
    assert found["name"] == "an end that is gone"
    assert "no end of the job" in found["lost"]
    assert found["readings"][0]["taken"]["deg"] == 1.0
    assert client.get("/api/jobs/none/built").status_code == 404
    assert client.get(f"/api/jobs/{job['job_id']}/built?unit=cm").status_code == 422


def test_what_a_survey_makes_of_measures_and_lengths_is_told(client: FlaskClient, job: Entry) -> None:
    means = f"/api/jobs/{job['job_id']}/survey/means"
    assert client.get(means).json == {"ends": [], "lengths": [], "lost": []}
    end = job["design"]["ends"][0]
    entries = [
        {"sort": "reading", "id": str(uuid.uuid4()), "kind": kind, "of": [f"end:{end['id']}:{name}:own"], "read": {"mm": end["end"]["points"][name][axis], "typed": None}, "sd": 9.0}
        for name in ("tie_inner", "tie_outer") for axis, kind in enumerate(("ahead", "left", "height"))
    ]  # fmt: skip
    made = [{"entry": one, "made_at": "2026-05-04T10:00:00Z"} for one in entries]
    assert client.post(f"/api/jobs/{job['job_id']}/survey", json={"entries": made}).status_code == 200
    found = client.get(means).json
    (left,) = found["ends"]
    assert (left["name"], left["side"], left["counted"]) == ("Front", "left", 2)
    assert "upper front" in left["taken_as_true"]
    toe = next(one for one in left["measures"] if one["name"] == "toe")
    assert toe["unit"] == "deg"
    # some 13 mm in a rod's length, on an arm of some 120 mm
    assert 3 < toe["sd"] < 10
    rod = next(one for one in found["lengths"] if one["of"] == ["tie inner", "tie outer"] and one["side"] == "left")
    assert rod["sd"] == pytest.approx(9 * 2**0.5, rel=1e-6)
    assert rod["beyond"]
    assert next(one for one in job["design"]["parts"] if one["id"] == rod["part_id"])["name"] == "Front tie rod"
    right = next(one for one in found["lengths"] if one["of"] == rod["of"] and one["side"] == "right")
    assert right["sd"] is None
    assert right["lacking"] == ["tie inner", "tie outer"]
    assert client.get("/api/jobs/none/survey/means").status_code == 404


def test_a_ride_height_is_kept_and_judged_beside_what_the_layout_has(client: FlaskClient, job: Entry) -> None:
    end = job["design"]["ends"][0]
    where = next(one for one in client.get(f"/api/jobs/{job['job_id']}/built").json["ends"] if one["end"] == end["id"])
    assert where["heights"]["upper_front"] == "upper front"
    floor = end["end"]["points"]["wheel_centre"][2] - end["end"]["wheel"]["loaded_radius_mm"]
    wanted = end["end"]["points"]["upper_front"][2] - floor
    entry = {"sort": "height", "id": str(uuid.uuid4()), "end": end["id"], "side": "left", "place": "upper_front", "read": {"mm": wanted + 5, "typed": None}, "instrument": "rule"}  # fmt: skip
    told = post(client, job, entry).json
    assert (told["read"], told["heights"][0]["inside"]) == ([], False)
    assert told["heights"][0]["says"] == "out: 5.0 mm too high, 2.0 mm more than is let through"
    assert told["heights"][0]["wanted"] == pytest.approx(wanted)
    inches = client.get(f"/api/jobs/{job['job_id']}/built?unit=in").json["heights"][0]
    assert inches["says"].startswith("out: 0.197″ (5.0 mm) too high")
    back = {"sort": "back", "id": str(uuid.uuid4()), "entry": entry["id"], "why": "the wrong hole"}
    assert post(client, job, back).json["heights"][0]["back"] == "the wrong hole"
