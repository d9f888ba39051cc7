"""Bad input anywhere: a clear error by its field, never a 5xx, nothing lost."""

import copy
import json
import random
import uuid
from typing import Any

import pytest
from flask.testing import FlaskClient

from tests.api.asked import of_kind, where
from tirante.api.routing import OPERATIONS

LINK = "/api/evaluate"


def _paths(value: Any, path: tuple[Any, ...] = ()) -> list[tuple[Any, ...]]:
    found = [path] if path else []
    if isinstance(value, dict):
        for key, child in value.items():
            found += _paths(child, (*path, key))
    elif isinstance(value, list):
        for i, child in enumerate(value):
            found += _paths(child, (*path, i))
    return found


def _with(value: Any, path: tuple[Any, ...], new: Any) -> Any:
    changed = copy.deepcopy(value)
    place = changed
    for step in path[:-1]:
        place = place[step]
    place[path[-1]] = new
    return changed


BAD: list[Any] = [
    None, True, -1, 0, 1e30, -1e30, "21 1/", "", [], {}, [[]], "x" * 10_000, "'; DROP TABLE draft; --", "<script>alert(1)</script>",
    {"mm": -5, "typed": None}, {"mm": "12"}, 10**400, "\u0000", {"kind": "nonsense"},
]  # fmt: skip


def _at(value: Any, path: tuple[Any, ...]) -> Any:
    for step in path:
        value = value[step]
    return value


def test_any_field_of_a_design_may_be_anything(client: FlaskClient, job: dict[str, Any]) -> None:
    design = job["design"]
    rng = random.Random(4)
    places = _paths(design)
    tried = refused = 0
    for path in rng.sample(places, 130):
        for bad in rng.sample(BAD, 4):
            body = {"design": _with(design, path, bad)}
            answer = client.post(LINK, data=json.dumps(body), content_type="application/json")
            tried += 1
            assert answer.status_code in (200, 422), (path, bad, answer.status_code)
            if answer.status_code == 422:
                refused += 1
                assert answer.json["issues"], (path, bad)
                assert all(i["message"] and "Traceback" not in i["message"] for i in answer.json["issues"])
                # some issue stands at the field, or at the object around it
                names = [i["path"] for i in answer.json["issues"]]
                assert any(n.startswith("design") or n == "" for n in names), names
    assert refused > tried / 2
    assert client.get(f"/api/jobs/{job['job_id']}").json["design"] == design


def test_any_field_of_a_suspension_end_may_be_anything(client: FlaskClient, job: dict[str, Any]) -> None:
    # the front one has a damper and joints with limits, the rear one is a beam
    rng = random.Random(11)
    plausible = ["ground", "rack", "lower_arm", "wheel_centre", "strut", 1e-12, 0.0, 99_999.0, [0.0, 0.0, 0.0]]
    refused = told = 0
    for end in job["design"]["ends"]:
        places = [p for p in _paths(end["end"]) if p[0] != "note"]
        for path in rng.sample(places, min(42, len(places))):
            for bad in (*rng.sample(BAD, 2), *rng.sample(plausible, 3)):
                body = {"design": {**job["design"], "ends": [{**end, "end": _with(end["end"], path, bad)}]}}
                for route in ("/api/study", "/api/study/drawing"):
                    text = json.dumps({**body, "end_id": end["id"]})
                    answer = client.post(route, data=text, content_type="application/json")
                    assert answer.status_code in (200, 422), (path, bad, answer.json)
                    if answer.status_code == 422:
                        refused += 1
                        assert any(i["path"].startswith("design.ends.0") for i in answer.json["issues"]), (path, bad)
                    elif answer.json["faults"]:
                        told += 1
                        assert all(f["field"] and f["message"] for f in answer.json["faults"]), (path, bad)
    assert refused > 100
    assert told > 10


@pytest.mark.parametrize(
    ("text", "status"),
    [
        (b"", 422), (b"{", 422), (b"[]", 422), (b'"x"', 422), (b"nan", 422), (b'{"design": NaN}', 422), (b"\xff\xfe", 422),
        (b'{"design": {"name": "\\ud800"}}', 422), (b'{"design": {"name": "a", "extra": 1}}', 422), (b"[" * 20_000, 422),
        (b'{"design": {"name": "' + b"x" * 10_000 + b'"}}', 422), (b" " * 1_100_000, 413), (b"{}" * 700_000, 413),
    ],
)  # fmt: skip
def test_a_body_that_is_no_design_is_refused(text: bytes, status: int, client: FlaskClient) -> None:
    answer = client.post(LINK, data=text, content_type="application/json")
    assert answer.status_code == status
    assert answer.json["message"]


POSTS = sorted({entry.path.replace("<kind>", "tubes") for entry in OPERATIONS if entry.method == "post"})


@pytest.mark.parametrize("path", [path for path in POSTS if "<" not in path])
def test_every_route_refuses_what_is_not_its_shape(path: str, client: FlaskClient) -> None:
    for body in ({}, {"design": 5}, {"design": {"name": ""}}, {"unknown": 1}, [1]):
        if not body and path == "/api/sign-out":
            continue  # who goes has nothing to say
        answer = client.post(path, json=body)
        assert answer.status_code == 422, (body, answer.json)
        assert answer.json["issues"]
    assert client.post(path, data="x=1").status_code == 415
    assert client.get("/api/nothing").status_code == 404
    assert client.delete("/api/jobs").status_code == 405


def test_a_save_that_is_refused_keeps_what_was_saved(client: FlaskClient, job: dict[str, Any]) -> None:
    at = where(job["design"], of_kind(job["design"], "link")[0]["id"])
    bad = _with(job["design"], ("parts", at, "side"), "upward")
    answer = client.put(
        f"/api/jobs/{job['job_id']}/draft",
        json={"save_id": str(uuid.uuid4()), "design": bad},
        headers={"If-Match": "1"},
    )
    assert answer.status_code == 422
    assert answer.json["issues"][0]["path"] == f"design.parts.{at}.side"
    assert client.get(f"/api/jobs/{job['job_id']}").json["design"] == job["design"]


def test_a_wall_over_its_radius_names_the_row(client: FlaskClient, job: dict[str, Any]) -> None:
    bad = _with(job["design"], ("catalogue", "tubes", 0, "wall_mm"), 400.0)
    answer = client.post(LINK, json={"design": bad})
    assert answer.status_code == 422
    assert answer.json["issues"][0]["path"].startswith("design.catalogue.tubes.0")


def test_pivots_that_coincide_are_named(client: FlaskClient, job: dict[str, Any]) -> None:
    point = [{"mm": v, "typed": None} for v in (10.0, 20.0, 30.0)]
    at = where(job["design"], of_kind(job["design"], "link")[0]["id"])
    bad = _with(job["design"], ("parts", at, "between"), {"kind": "pivots", "a": point, "b": point})
    answer = client.post(LINK, json={"design": bad})
    assert answer.json["issues"][0]["path"].startswith(f"design.parts.{at}.between")
    assert "coincide" in answer.json["issues"][0]["message"]


def test_a_part_that_is_not_in_the_design(client: FlaskClient, job: dict[str, Any]) -> None:
    for path in ("/api/draw", "/api/size", "/api/change", "/api/offers"):
        assert client.post(path, json={"design": job["design"], "part_id": str(uuid.uuid4())}).status_code == 404


def test_a_bad_catalogue_file_loads_nothing_and_names_each_line(client: FlaskClient) -> None:
    before = client.get("/api/catalogue").json["tubes"]
    text = "key,label,od_mm,wall_mm,series,source\nnew-1,ok,30,2,metric,the rack\nnew-2,bad,30,20,metric,the rack\nnew-3,bad,x,2,metric,the rack\n"
    answer = client.post("/api/catalogue/tubes", json={"text": text})
    assert answer.status_code == 422
    assert [i["path"].split(",")[0] for i in answer.json["issues"]] == ["line 3", "line 4"]
    assert client.get("/api/catalogue").json["tubes"] == before
    good = client.post("/api/catalogue/tubes", json={"text": text.splitlines()[0] + "\n" + text.splitlines()[1]})
    assert good.json == {"added": 1, "replaced": 0}
    assert client.get("/api/catalogue").json["tubes"][-1]["key"] == "new-1"
    csv = client.get("/api/catalogue/tubes.csv").data.decode()
    assert client.post("/api/catalogue/tubes", json={"text": csv}).json["added"] == 0
    assert client.post("/api/catalogue/wheels", json={"text": csv}).status_code == 404


def test_an_error_of_our_own_is_a_fixed_sentence_with_its_request(
    client: FlaskClient, monkeypatch: pytest.MonkeyPatch
) -> None:
    def broken(_job: object) -> None:
        raise RuntimeError("secret detail")

    monkeypatch.setattr("tirante.api.designs.evaluate", broken)
    answer = client.post(LINK, json={"design": {"name": "x"}})
    assert answer.status_code == 500
    assert "secret" not in answer.text
    assert answer.json["request_id"] == answer.headers["X-Request-Id"]


def test_any_field_of_loads_car_and_arms_may_be_anything(client: FlaskClient, job: dict[str, Any]) -> None:
    """Loads, turn sheet, what gives first and arms answer or refuse by field, whatever an end, the car or a case says."""
    rng = random.Random(5)
    plausible = ["ground", "lower_arm", "nowhere", 1e-9, 0.0, -3.0, 99_999.0, [0.0, 0.0, 0.0], {}]
    design = job["design"]
    places = [("loads", *p) for p in _paths(design["loads"])] + [("car", *p) for p in _paths(design["car"])]
    at = {part["id"]: where(design, part["id"]) for part in of_kind(design, "arm")}
    places += [("parts", at[arm["id"]], *p) for arm in of_kind(design, "arm") for p in _paths(arm)]
    places += [
        ("ends", 0, "end", *p)
        for p in _paths(design["ends"][0]["end"])
        if p[0] in ("points", "damper", "bump_stop", "wheel", "balls")
    ]
    told = refused = 0
    for path in rng.sample(places, 42):
        for bad in (*rng.sample(BAD, 1), *rng.sample(plausible, 2)):
            changed = _with(design, path, bad)
            end = design["ends"][0]["id"]
            for route, body in (
                ("/api/loads", {"end_id": end}),
                ("/api/evaluate", {}),
                ("/api/turn-sheet", {"end_id": end}),
            ):
                text = json.dumps({"design": changed, **body})
                answer = client.post(route, data=text, content_type="application/json")
                assert answer.status_code in (200, 422), (path, bad, route, answer.status_code)
                if answer.status_code == 422:
                    refused += 1
                    assert answer.json["issues"], (path, bad)
                else:
                    told += 1
    assert refused > 30
    assert told > 30


def test_any_field_of_a_made_link_or_arm_may_be_anything(client: FlaskClient, job: dict[str, Any]) -> None:
    """Spliced, bent, machined, tapped and boxed links, arms on rod ends with gusset and stud: answered or refused by field."""
    rng = random.Random(7)
    plausible = [
        1e-9,
        1e-3,
        0.0,
        -3.0,
        7.5,
        400.0,
        99_999.0,
        {"mm": 1e-3, "typed": None},
        {"mm": 90_000.0, "typed": None},
        "outside",
        {},
    ]
    design = json.loads(json.dumps(job["design"]))
    bent, plain = of_kind(design, "link")[:2]
    bent |= {
        "bent": {"offset": {"mm": 15.0}, "from_ends": {"mm": 200.0}},
        "splice": {"at": {"mm": 250.0}, "length": {"mm": 120.0}, "wall_mm": 3.0},
        "end_a": {"kind": "fixed", "what": "clevis", "centre_to_face": {"mm": 40.0},
                  "machined": {"form": "clevis", "thickness_mm": 8.0, "width_mm": 32.0, "hole_mm": 12.2, "pin_mm": 12.0, "edge_mm": 24.0, "gap_mm": 16.0}},
    }  # fmt: skip
    bent["end_b"]["tapped_mm"] = 40.0
    boxed = {
        **{key: plain[key] for key in ("side", "between", "cases", "note")}, "kind": "boxed_link", "id": str(uuid.uuid4()), "name": "boxed",
        "height": {"mm": 70.0}, "width": {"mm": 60.0}, "side_mm": 5.0, "top_mm": 6.0, "bottom_mm": 5.0, "pad_at": {"mm": 200.0}, "pad_offset_mm": 0.0,
    }  # fmt: skip
    design["parts"].append(boxed)
    assert client.post("/api/evaluate", json={"design": design}).status_code == 200
    arms = of_kind(design, "arm")
    tab = of_kind(design, "tab_pair")[0]
    kept = ("bent", "splice", "end_a", "end_b", "welding")
    places = [("parts", where(design, bent["id"]), *p) for p in _paths(bent) if p[0] in kept]
    places += [("parts", where(design, part["id"]), *p) for part in (boxed, tab, *arms) for p in _paths(part)]
    places += [("joints", 0, *p) for p in _paths(design["joints"][0])]
    told = refused = 0
    for path in rng.sample(places, min(48, len(places))):
        for bad in (*rng.sample(BAD, 1), *rng.sample(plausible, 3)):
            changed = _with(design, path, bad)
            for route, more in (
                ("/api/evaluate", {}),
                ("/api/draw", {"part_id": bent["id"], "view": "drawing"}),
                ("/api/draw", {"part_id": boxed["id"], "view": "drawing"}),
                ("/api/draw", {"part_id": tab["id"], "view": "tab"}),
                ("/api/draw", {"part_id": arms[1]["id"], "view": "drawing"}),
                ("/api/first-to-give", {}),
            ):
                text = json.dumps({"design": changed, **more})
                answer = client.post(route, data=text, content_type="application/json")
                assert answer.status_code in (200, 404, 422), (path, bad, route, answer.json)
                if answer.status_code == 422:
                    refused += 1
                    assert answer.json["issues"], (path, bad)
                else:
                    told += 1
    assert refused > 100
    assert told > 100


@pytest.mark.parametrize(
    ("change", "path"),
    [({"id": "x"}, "id"), ({"id": None}, "id"), ({"job_id": "x"}, "job_id"), ({"job_id": 3}, "job_id"), ({"what": "pack.exe"}, "what"),
     ({"what": None}, "what"), ({"revision": -1}, "revision"), ({"revision": 10**12}, "revision"),
     ({"revision": 1.5}, "revision"), ({"more": 1}, "more")],
)  # fmt: skip
def test_a_pack_is_asked_for_field_by_field(
    change: dict[str, Any], path: str, client: FlaskClient, job: dict[str, Any]
) -> None:
    body = {"id": str(uuid.uuid4()), "job_id": job["job_id"], "what": "pack.zip", "revision": None}
    answer = client.post("/api/tasks/pack", json=body | change)
    assert answer.status_code == 422
    assert answer.json["issues"][0]["path"].split(".")[0] == path
    # and nothing was queued for it
    assert client.get(f"/api/tasks/{body['id']}").status_code == 404


@pytest.mark.parametrize("task", [str(uuid.UUID(int=9)), "x", "'; DROP TABLE task; --", "%00"])
@pytest.mark.parametrize("what", ["", "/file"])
def test_a_task_that_is_not_there(task: str, what: str, client: FlaskClient) -> None:
    assert client.get(f"/api/tasks/{task}{what}").status_code == 404
    if not what:
        assert client.post(f"/api/tasks/{task}/stop", json={}).status_code == 404


def test_a_search_has_no_file_and_a_pack_no_sizes(client: FlaskClient, job: dict[str, Any]) -> None:
    search, pack = str(uuid.uuid4()), str(uuid.uuid4())
    client.post("/api/tasks/size-all", json={"id": search, "design": job["design"], "job_id": job["job_id"]})
    client.post("/api/tasks/pack", json={"id": pack, "job_id": job["job_id"], "what": "pack.pdf"})
    for task in (search, pack):
        found = client.get(f"/api/tasks/{task}").json
        assert (found["sized"], found["file"], found["revision"]) == (None, None, None)
        assert client.get(f"/api/tasks/{task}/file").status_code == 404
        assert client.post(f"/api/tasks/{task}/stop", json={}).json["state"] == "cancelled"
    # asked for again with its id it is the same task, whatever is said the second time
    again = client.post("/api/tasks/pack", json={"id": pack, "job_id": job["job_id"], "what": "pack.zip"}).json
    assert (again["id"], again["state"]) == (pack, "cancelled")


def test_ride_heights_wheelbase_and_figures_that_are_allowed_one_by_one_never_fail_together(
    client: FlaskClient, job: dict[str, Any]
) -> None:
    rng = random.Random(7)
    answered = []
    for _ in range(10):
        design = copy.deepcopy(job["design"])
        car = design["car"]
        car["front_rise_mm"], car["rear_rise_mm"] = rng.uniform(-80, 60), rng.uniform(-80, 60)
        figures = [
            path
            for path in _paths(design)
            if isinstance(_at(design, path), float) and path[0] in ("car", "ends", "loads", "parts")
        ]
        for path in rng.sample(figures, rng.choice((0, 1, 3))):
            design = _with(design, path, _at(design, path) * rng.uniform(0.6, 1.5))
        answered.append(client.post(LINK, json={"design": design}).status_code)
    assert set(answered) <= {200, 422}
    assert answered.count(200) > 5


def test_a_body_that_would_stand_on_its_nose_is_refused_at_its_height(client: FlaskClient, job: dict[str, Any]) -> None:
    design = copy.deepcopy(job["design"])
    design["car"] |= {"front_rise_mm": -200.0, "rear_rise_mm": 100.0, "wheelbase_mm": 900.0}
    answer = client.post(LINK, json={"design": design})
    assert answer.status_code == 422
    # atan(300 / 900)
    assert any(
        issue["path"] == "design.car.front_rise_mm" and "18.4°" in issue["message"] for issue in answer.json["issues"]
    ), answer.json
