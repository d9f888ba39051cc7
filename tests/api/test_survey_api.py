"""A survey through the API: readings of a real end adjusted, a slip named with the hand's mistake, nothing ever changed or lost."""

from __future__ import annotations

import uuid
from itertools import combinations
from typing import Any

import numpy as np
import pytest
from flask.testing import FlaskClient

Entry = dict[str, Any]


def new_id() -> str:
    return str(uuid.uuid4())


def post(client: FlaskClient, job: Entry, *entries: Entry, made_at: str = "2026-03-04T10:00:00Z") -> Any:
    return client.post(
        f"/api/jobs/{job['job_id']}/survey", json={"entries": [{"entry": one, "made_at": made_at} for one in entries]}
    )


def reading(kind: str, of: list[str], mm: float, typed: str | None = None, **more: Any) -> Entry:
    return {"sort": "reading", "id": new_id(), "kind": kind, "of": of, "read": {"mm": mm, "typed": typed}, **more}


def key(job: Entry, point: str, side: str = "own", end: int = 0) -> str:
    return f"end:{job['design']['ends'][end]['id']}:{point}:{side}"


TRUE_OFF = np.array([3.0, -2.0, 4.0])  # the car's points stand this much off the layout
POINTS = ("upper_front", "upper_rear", "lower_front", "lower_rear")


def true_places(job: Entry) -> dict[str, np.ndarray]:
    points = job["design"]["ends"][0]["end"]["points"]
    return {key(job, name): np.array(points[name]) + TRUE_OFF for name in POINTS}


def whole_survey(job: Entry) -> list[Entry]:
    """Heights and offsets of four pivots, and all six distances between them, without an error."""
    true = true_places(job)
    entries = [
        reading(kind, [name], float(at[axis]), instrument="square")
        for name, at in true.items()
        for kind, axis in (("height", 2), ("left", 1), ("ahead", 0))
    ]
    return entries + [
        reading("distance", [a, b], float(np.linalg.norm(true[a] - true[b]))) for a, b in combinations(true, 2)
    ]


def test_readings_become_points_beside_the_layout_s(client: FlaskClient, job: Entry) -> None:
    empty = client.get(f"/api/jobs/{job['job_id']}/survey").json
    assert empty["points"] == []
    assert {one["key"] for one in empty["places"]} >= {key(job, "upper_front"), key(job, "upper_front", "mirror")}
    answer = post(client, job, *whole_survey(job)).json
    found = {one["key"]: one for one in answer["points"]}
    assert set(found) == set(true_places(job))
    for name, at in true_places(job).items():
        assert found[name]["at"] == pytest.approx(at, abs=1e-5)
        assert found[name]["off"] == pytest.approx(TRUE_OFF, abs=1e-5)
        assert 0.3 < max(found[name]["sd"]) < 1.5
    assert answer["fits"] is True
    assert answer["dof"] == 18 - 12
    assert not [one for one in answer["readings"] if one["expected"] is not None]
    assert {one["redundancy"] is not None for one in answer["readings"]} == {True}
    assert (
        sum(item.get("ref") == f"point:{key(job, 'upper_front')}" for item in answer["drawing"]["items"]) >= 6
    )  # a point and an ellipse in three views, named
    assert answer["next"] == []  # all that a tape and a square can take of four points was taken
    # the mirror image of a point of a pair is another place, named by its side
    names = {one["key"]: one["name"] for one in answer["places"]}
    assert (names[key(job, "upper_front")], names[key(job, "upper_front", "mirror")]) == (
        "Front, upper front, left",
        "Front, upper front, right",
    )


def test_a_slip_is_named_and_what_the_hand_did_is_told(client: FlaskClient, job: Entry) -> None:
    entries = whole_survey(job)
    right = entries[-1]["read"]["mm"]
    shown = f"{round(right)}"
    wrong = f"{shown[0]}{shown[2]}{shown[1]}"
    assert wrong != shown
    entries[-1]["read"] = {"mm": float(wrong), "typed": wrong}
    answer = post(client, job, *entries).json
    suspects = [one for one in answer["readings"] if one["expected"] is not None]
    assert [one["taken"]["id"] for one in suspects] == [entries[-1]["id"]]
    assert suspects[0]["expected"] == pytest.approx(right, abs=0.01)
    assert "two digits changed over" in [one["what"] for one in suspects[0]["slips"]]
    assert [one["would_be"] for one in suspects[0]["slips"] if one["what"] == "two digits changed over"] == [
        float(shown)
    ]
    assert answer["fits"] is True  # the others do
    # taken back it does not count, and is kept with the reason
    answer = post(
        client, job, {"sort": "back", "id": new_id(), "entry": entries[-1]["id"], "why": "figures changed over"}
    ).json
    gone = next(one for one in answer["readings"] if one["taken"]["id"] == entries[-1]["id"])
    assert answer["dof"] == 18 - 12 - 1
    assert (gone["back"], gone["residual"], gone["taken"]["read"]["typed"]) == ("figures changed over", None, wrong)
    assert not [one for one in answer["readings"] if one["expected"] is not None]
    # one that fits and is taken back leaves the net one reading poorer
    assert (
        post(client, job, {"sort": "back", "id": new_id(), "entry": entries[-2]["id"]}).json["dof"] == answer["dof"] - 1
    )
    # taken again it stands beside the first
    assert len(post(client, job, reading("distance", entries[-1]["of"], right)).json["readings"]) == len(entries) + 1


def test_what_is_added_to_a_figure_counts_and_one_that_was_forgotten_is_found(client: FlaskClient, job: Entry) -> None:
    entries = whole_survey(job)
    right = entries[-1]["read"]["mm"]
    holes = {"what": "half of both holes", "mm": 12.0}
    entries[-1] |= {"read": {"mm": right - 12.0, "typed": None}, "added": [holes]}
    answer = post(client, job, *entries).json
    last = next(one for one in answer["readings"] if one["taken"]["id"] == entries[-1]["id"])
    assert last["counts"] == pytest.approx(right)
    assert last["residual"] == pytest.approx(0, abs=1e-5)
    # the same taken off that should be added is 24 mm out, and told
    again = post(client, job, {"sort": "back", "id": new_id(), "entry": entries[-1]["id"]}, reading("distance", entries[-1]["of"], right - 12.0, added=[{**holes, "mm": -12.0}])).json  # fmt: skip
    (one,) = [one for one in again["readings"] if one["expected"] is not None]
    assert "half of both holes was taken into account the wrong way" in [slip["what"] for slip in one["slips"]]


def test_marks_are_the_datum_and_a_later_entry_of_one_stands_for_it(client: FlaskClient, job: Entry) -> None:
    marks = [new_id() for _ in range(4)]
    places = [(0, 0, 0), (900, 0, 0), (0, 700, 0), (0, 0, 600)]

    def mark(n: int, fixed: bool, near: tuple[float, ...]) -> Entry:
        return {
            "sort": "mark",
            "id": new_id(),
            "mark": marks[n],
            "name": f"nail {n}",
            "near": list(near),
            "fixed": fixed,
        }

    point = key(job, "lower_front")
    at = np.array(job["design"]["ends"][0]["end"]["points"]["lower_front"]) + TRUE_OFF
    answer = post(client, job, *(mark(n, True, place) for n, place in enumerate(places)), *(reading("distance", [f"mark:{own}", point], float(np.linalg.norm(at - place))) for own, place in zip(marks, places, strict=True))).json  # fmt: skip
    found = {one["key"]: one for one in answer["points"]}
    assert found[point]["at"] == pytest.approx(at, abs=1e-5)
    assert found[f"mark:{marks[0]}"]["fixed"]
    assert found[f"mark:{marks[0]}"]["sd"] == [0, 0, 0]
    # a mark that is no datum after all is looked for: three distances are left for two points
    answer = post(client, job, mark(3, False, places[3])).json
    free = next(one for one in answer["points"] if one["key"] == f"mark:{marks[3]}")
    assert not free["fixed"]
    assert None in free["sd"]
    assert answer["next"][0]["sd_before"] is None
    # three distances from one plane: the point may stand on its other side, and that is said
    assert [one["points"] for one in answer["mirrored"] if point in one["points"]]
    # words of the datum, the latest
    for words in ("slab", "slab, shimmed"):
        answer = post(client, job, {"sort": "datum", "id": new_id(), "floor": words}).json
    assert answer["datum"]["floor"] == "slab, shimmed"


def test_left_against_right_tells_a_bent_car_from_readings_that_are_only_unsure(
    client: FlaskClient, job: Entry
) -> None:
    points = job["design"]["ends"][0]["end"]["points"]

    def both(bent: float) -> list[Entry]:
        found = []
        for name in ("upper_front", "lower_front"):
            for side, sign in (("own", 1), ("mirror", -1)):
                x, y, z = points[name]
                z += bent if (name, side) == ("lower_front", "mirror") else 0.0
                for kind, value in (("height", z), ("left", sign * y), ("ahead", x)):
                    found.append(reading(kind, [key(job, name, side)], value, sd=2.0))
        return found

    answer = post(client, job, *both(16.0)).json
    found = {one["own"]: one for one in answer["pairs"]}
    assert found[key(job, "upper_front")]["off"] == pytest.approx([0, 0, 0], abs=1e-6)
    assert found[key(job, "lower_front")]["off"] == pytest.approx([0, 0, 16], abs=1e-6)
    assert found[key(job, "lower_front")]["sd"] == pytest.approx([8**0.5] * 3)  # two readings of 2 mm
    assert [found[key(job, name)]["beyond"] for name in ("upper_front", "lower_front")] == [False, True]
    # of two pairs each is held to 97.47 % of χ² with three degrees, 9.26: 8.6 mm of ±2.83 is just inside, 8.7 is not
    from scipy.stats import chi2

    edge = (8 * chi2.ppf(0.95**0.5, 3)) ** 0.5
    for off, beyond in ((edge - 0.05, False), (edge + 0.05, True)):
        fresh = client.post("/api/import", json={"id": new_id(), "design": job["design"]}).json
        shifted = both(off)
        pairs = post(client, fresh, *[{**one, "of": [name.replace(job["design"]["ends"][0]["id"], fresh["design"]["ends"][0]["id"]) for name in one["of"]]} for one in shifted]).json["pairs"]  # fmt: skip
        assert [one["beyond"] for one in pairs] == [False, beyond]


def test_into_the_layout_goes_the_left_one_the_right_one_alone_mirrored_and_an_unpaired_one_on_its_side(
    client: FlaskClient, job: Entry
) -> None:
    end = job["design"]["ends"][0]
    x, y, z = end["end"]["points"]["upper_rear"]
    end["end"]["right_points"] = {"upper_rear": [x, -y - 6.0, z]}
    job = client.post("/api/import", json={"id": new_id(), "design": job["design"]}).json

    def three(name: str, side: str, at: tuple[float, float, float]) -> list[Entry]:
        return [
            reading(kind, [key(job, name, side)], value)
            for kind, value in zip(("ahead", "left", "height"), at, strict=True)
        ]

    readings = [
        *three("upper_front", "own", (96.0, 319.0, 481.0)), *three("upper_front", "mirror", (96.0, -325.0, 481.0)),
        *three("lower_front", "mirror", (186.0, -263.0, 209.0)), *three("upper_rear", "mirror", (-166.0, -330.0, 471.0)),
        reading("height", [key(job, "lower_rear")], 190.0),
    ]  # fmt: skip
    layout = post(client, job, *readings).json["layout"]
    assert list(layout) == [job["design"]["ends"][0]["id"]]
    (into,) = layout.values()
    # upper front: both sides are known, the left one goes; lower front: the right one alone; lower rear: its height alone holds no point
    assert into["points"] == {"upper_front": [96.0, 319.0, 481.0], "lower_front": [186.0, 263.0, 209.0]}
    assert into["right_points"] == {"upper_rear": [-166.0, -330.0, 471.0]}


def test_an_angle_is_read_in_degrees_and_is_as_sure_as_its_instrument(client: FlaskClient, job: Entry) -> None:
    entries = whole_survey(job)
    a, b = (key(job, name) for name in ("lower_rear", "upper_rear"))
    run = true_places(job)[b] - true_places(job)[a]
    level = float(np.degrees(np.arctan2(run[2], np.hypot(run[0], run[1]))))
    angle = {
        "sort": "reading",
        "id": new_id(),
        "kind": "level",
        "of": [a, b],
        "deg": level + 5.0,
        "instrument": "inclinometer",
    }
    answer = post(client, job, *entries, angle).json
    told = next(one for one in answer["readings"] if one["taken"]["id"] == angle["id"])
    assert (told["sd"], told["counts"]) == (0.2, level + 5.0)  # a careful hand's inclinometer, common practice
    assert told["expected"] == pytest.approx(level, abs=1e-6)
    assert 0.2 < told["expected_sd"] < 0.5  # what the places of two points, 1 mm each, are over 270 mm
    tape = next(one for one in answer["readings"] if one["taken"]["kind"] == "distance")
    square = next(one for one in answer["readings"] if one["taken"]["kind"] == "height")
    assert (tape["sd"], square["sd"]) == (1.0, 1.5)


def test_an_entry_sent_twice_counts_once_and_none_is_ever_changed(client: FlaskClient, job: Entry) -> None:
    one = reading("height", [key(job, "upper_front")], 486.0, who="bench")
    first = post(client, job, one)
    assert post(client, job, one).json["readings"] == first.json["readings"]
    other = post(client, job, {**one, "read": {"mm": 999.0, "typed": None}})
    assert (other.status_code, other.json["code"]) == (409, "id_taken")
    stands = client.get(f"/api/jobs/{job['job_id']}/survey").json["readings"]
    assert [(each["taken"]["read"]["mm"], each["taken"]["who"], each["made_at"]) for each in stands] == [
        (486.0, "bench", "2026-03-04T10:00:00Z")
    ]
    # of several entries sent together none is kept where one cannot be
    answer = post(
        client, job, reading("height", [key(job, "upper_rear")], 470.0), {**one, "read": {"mm": 1.0, "typed": None}}
    )
    assert answer.status_code == 409
    assert len(client.get(f"/api/jobs/{job['job_id']}/survey").json["readings"]) == 1


def test_a_point_that_the_layout_has_no_more_is_told_and_its_readings_are_kept(client: FlaskClient, job: Entry) -> None:
    gone = f"end:{new_id()}:upper_front:own"
    answer = post(
        client, job, reading("height", [gone], 486.0), reading("height", [key(job, "upper_front")], 486.0)
    ).json
    lost = next(one for one in answer["readings"] if one["taken"]["of"] == [gone])
    assert "is no point of the job any more" in lost["lost"]
    assert [one["key"] for one in answer["points"]] == [key(job, "upper_front")]


@pytest.mark.parametrize(
    ("change", "told"),
    [
        ({"of": []}, "of"),
        ({"kind": "distance"}, "2 features"),
        ({"kind": "level", "of": 2}, "give the angle"),
        ({"read": None}, "give the length"),
        ({"sd": 0}, "sd"),
        ({"instrument": "eye"}, "instrument"),
        ({"of": ["upper_front"]}, "of"),
        ({"colour": "red"}, "colour"),
    ],
)
def test_a_reading_that_is_none_is_refused_by_its_field(
    client: FlaskClient, job: Entry, change: Entry, told: str
) -> None:
    if change.get("of") == 2:
        change = {**change, "of": [key(job, "upper_front"), key(job, "upper_rear")]}
    answer = post(client, job, {**reading("height", [key(job, "upper_front")], 486.0), **change})
    assert answer.status_code in (400, 422)
    assert told in str(answer.json), answer.json
    assert client.get(f"/api/jobs/{job['job_id']}/survey").json["readings"] == []


def test_what_is_not_there_is_not_found(client: FlaskClient, job: Entry) -> None:
    nobody = {"job_id": new_id(), "design": job["design"]}
    assert post(client, nobody, reading("height", [key(job, "upper_front")], 1.0)).status_code == 404
    assert client.get(f"/api/jobs/{nobody['job_id']}/survey").status_code == 404
    assert client.get(f"/api/jobs/{job['job_id']}/survey?unit=furlong").status_code == 422


def test_coordinates_pasted_or_from_a_file_are_read_by_name_and_become_readings(client: FlaskClient, job: Entry) -> None:  # fmt: skip
    mark = {"sort": "mark", "id": new_id(), "mark": new_id(), "name": "Nail in the floor", "near": [10, 20, 0]}
    post(client, job, mark)
    path = f"/api/jobs/{job['job_id']}/survey/coordinates"
    names = {one["key"]: one["name"] for one in client.get(f"/api/jobs/{job['job_id']}/survey").json["places"]}
    pivot = key(job, "upper_front")
    text = f"name;z (in);x (mm);y (mm)\n{names[pivot]};10 1/2;100.25;-3,5\nnail in the floor;0;1;2\n"
    rows = client.post(path, json={"text": text, "unit": "mm"}).json["rows"]
    assert [(one["line"], one["key"]) for one in rows] == [(2, pivot), (3, f"mark:{mark['mark']}")]
    assert rows[0]["at"] == pytest.approx([100.25, -3.5, 266.7])
    short = client.post(path, json={"text": "upper front left\t1\t2\t3", "unit": "mm"}).json["rows"]
    assert [one["key"] for one in short] == [pivot]  # also of the front end are upper rear and upper outer, left
    for wrong, why in (("nobody;1;2;3", "is no point of this survey; one that is no pick-up is added as a mark first"), ("", "nothing was pasted"), (f"{names[pivot]};1;2", "2 coordinates, and three are needed")):  # fmt: skip
        refused = client.post(path, json={"text": wrong, "unit": "mm"})
        assert refused.status_code == 422
        assert why in str(refused.json["issues"])
    # put down, they stand where the table has them; what somebody says of their own hand counts
    taken = [reading(kind, [pivot], at, instrument="other", who="Ana") for kind, at in zip(("ahead", "left", "height"), rows[0]["at"], strict=True)]  # fmt: skip
    answer = post(client, job, *taken, {"sort": "own", "id": new_id(), "who": "Ana", "instrument": "other", "mm": 0.3, "deg": 0.1}).json  # fmt: skip
    point = next(one for one in answer["points"] if one["key"] == pivot)
    assert point["at"] == pytest.approx([100.25, -3.5, 266.7])
    assert point["sd"] == pytest.approx([0.3, 0.3, 0.3])
    assert [one["sd"] for one in answer["readings"]] == [0.3, 0.3, 0.3]
    assert [(one["who"], one["instrument"], one["mm"]) for one in answer["own"]] == [("Ana", "other", 0.3)]
    assert answer["usual"]["tape"] == [1.0, 0.5]
    # in another job it is offered, the latest of it, and counts there only once it is said there
    post(client, job, {"sort": "own", "id": new_id(), "who": "Ana", "instrument": "other", "mm": 0.4, "deg": 0.1})
    assert answer["elsewhere"] == []
    other = client.post("/api/import", json={"id": new_id(), "design": job["design"]}).json
    theirs = [{**one, "id": new_id(), "of": [key(other, "upper_front")]} for one in taken]
    said = post(client, other, *theirs).json
    (found,) = (one for one in said["elsewhere"] if one["who"] == "Ana")
    assert (found["instrument"], found["mm"], said["own"]) == ("other", 0.4, [])
    assert [one["sd"] for one in said["readings"]] != [0.4] * 3
    over = post(client, other, {**found, "id": new_id()}).json
    assert [one["mm"] for one in over["own"]] == [0.4]
    assert not any(one["who"] == "Ana" for one in over["elsewhere"])
    assert [one["sd"] for one in over["readings"]] == [0.4] * 3


def test_as_many_coordinates_as_a_table_may_have_are_put_down_at_once(client: FlaskClient, job: Entry) -> None:
    marks = [{"sort": "mark", "id": new_id(), "mark": new_id(), "name": f"Nail {i}", "near": [i, 2 * i, 0]} for i in range(200)]  # fmt: skip
    assert post(client, job, *marks).status_code == 200
    text = "\n".join(f"Nail {i};{i};{2 * i};0" for i in range(200))
    rows = client.post(f"/api/jobs/{job['job_id']}/survey/coordinates", json={"text": text, "unit": "mm"}).json["rows"]
    taken = [reading(kind, [row["key"]], at) for row in rows for kind, at in zip(("ahead", "left", "height"), row["at"], strict=True)]  # fmt: skip
    assert len(post(client, job, *taken).json["points"]) == 200
    assert post(client, job, *[reading("height", [rows[0]["key"]], 0.0) for _ in range(601)]).status_code == 422


def test_a_toe_bar_and_a_swing_are_told_as_angles(client: FlaskClient, job: Entry) -> None:
    face, out = key(job, "wheel_centre"), key(job, "upper_front")
    bar = {"ahead": {"mm": 700.0, "typed": None}, "behind": {"mm": 703.0, "typed": None}, "apart": {"mm": 300.0, "typed": "300"}}  # fmt: skip
    entries: list[Entry] = [
        {"sort": "reading", "id": new_id(), "kind": "bar", "of": [face, out], "bar": bar, "instrument": "rule"},
        {"sort": "reading", "id": new_id(), "kind": "swing", "of": [key(job, "lower_front"), out], "swing": {"turned_out": 2.5, "turned_in": -1.5}, "instrument": "inclinometer"},
    ]  # fmt: skip
    told = post(client, job, *entries).json["readings"]
    assert [one["counts"] for one in told] == pytest.approx([-np.degrees(np.arctan(0.01)), 4.0])
    assert [one["sd"] for one in told] == pytest.approx([np.degrees(np.sqrt(2) * 0.5 / 300), np.sqrt(2) * 0.2])


def test_a_photograph_is_measured_and_says_what_its_deviations_leave_out(client: FlaskClient) -> None:
    # square over a rectangle of 300 × 200: 4 px to the mm
    marks = [[100, 100], [1300, 100], [1300, 900], [100, 900]]
    body = {"size_px": [1600, 1200], "marks_px": marks, "sides_mm": [300, 200], "places_px": {"hole": [500, 300], "edge": [900, 600]}}  # fmt: skip
    found = client.post("/api/survey/photograph", json=body).json
    assert found["perspective"] is True
    assert {one["key"]: one["at"] for one in found["places"]} == {
        "hole": pytest.approx([100, 50]),
        "edge": pytest.approx([200, 125]),
    }
    assert set(found["distances"][0]["of"]) == {"hole", "edge"}
    assert found["distances"][0]["mm"] == pytest.approx(125)
    assert 0.3 < found["distances"][0]["sd"] < 1.5
    assert not any("ruler" in one for one in found["said"])
    ruler = client.post("/api/survey/photograph", json=body | {"marks_px": marks[:2], "sides_mm": [300, 300]}).json
    assert ruler["perspective"] is False
    assert ruler["distances"][0]["mm"] == pytest.approx(125)
    assert "what perspective adds is not taken out" in ruler["said"][0]
    for wrong, why in (({"marks_px": marks[:3]}, "click two or four"), ({"marks_px": [marks[0], marks[2], marks[1], marks[3]]}, "in the order round it"), ({"sides_mm": [300, 0]}, "sides_mm")):  # fmt: skip
        refused = client.post("/api/survey/photograph", json=body | wrong)
        assert refused.status_code == 422
        assert why in str(refused.json)


def test_points_go_into_the_layout_with_where_they_came_from_and_the_file_carries_it(client: FlaskClient, job: Entry) -> None:  # fmt: skip
    entries = whole_survey(job)
    post(client, job, *entries[:-1])
    wrong = dict(entries[-1]) | {"read": {"mm": entries[-1]["read"]["mm"] + 60, "typed": None}}
    told = post(client, job, wrong, made_at="2026-03-09T10:00:00Z").json
    end = job["design"]["ends"][0]
    into = told["layout"][end["id"]]
    last = wrong["of"][0].split(":")[2]
    came = into["surveyed"]["upper_front"]
    found = next(one for one in told["points"] if one["key"] == key(job, "upper_front"))
    # three offsets and three tapes of each point; the slip counts for none of them, and is not the latest day
    assert (came["readings"], came["on"], came["side"]) == (6, "2026-03-04", "own")
    assert into["surveyed"][last]["readings"] == 5
    assert came["at"] == into["points"]["upper_front"]
    assert came["sd"] == pytest.approx(found["sd"], abs=1e-3)
    # of a point whose twin alone was measured it says so
    twin = [reading(kind, [key(job, "lower_outer", "mirror")], mm, instrument="square") for kind, mm in (("height", 250.0), ("left", -700.0), ("ahead", 0.0))]  # fmt: skip
    mirrored = post(client, job, *twin).json["layout"][end["id"]]
    assert mirrored["points"]["lower_outer"] == [0.0, 700.0, 250.0]
    assert mirrored["surveyed"]["lower_outer"]["side"] == "mirror"
    # kept with the design: over a save, and in the file that goes elsewhere
    design = job["design"]
    design["ends"][0]["end"]["points"] |= into["points"]
    design["ends"][0]["end"]["surveyed"] = into["surveyed"]
    version = client.get(f"/api/jobs/{job['job_id']}").json["version"]
    saved = client.put(f"/api/jobs/{job['job_id']}/draft", json={"save_id": new_id(), "design": design}, headers={"If-Match": str(version)})  # fmt: skip
    assert saved.status_code == 200, saved.json
    kept = client.get(f"/api/jobs/{job['job_id']}").json["design"]
    copy = client.post("/api/import", json={"id": new_id(), "design": kept}).json
    assert copy["design"]["ends"][0]["end"]["surveyed"] == into["surveyed"]
    # unpaired on purpose, its right one keeps where it came from itself, and the left one is not taken from it
    design["ends"][0]["end"]["right_points"] = {"lower_outer": [5.0, -705.0, 251.0]}
    version = client.get(f"/api/jobs/{job['job_id']}").json["version"]
    saved = client.put(f"/api/jobs/{job['job_id']}/draft", json={"save_id": new_id(), "design": design}, headers={"If-Match": str(version)})  # fmt: skip
    assert saved.status_code == 200, saved.json
    alone = client.get(f"/api/jobs/{job['job_id']}/survey").json["layout"][end["id"]]
    assert alone["right_points"] == {"lower_outer": [0.0, -700.0, 250.0]}
    right = alone["right_surveyed"]["lower_outer"]
    assert (right["at"], right["side"], right["readings"], right["on"]) == (
        [0.0, -700.0, 250.0],
        "own",
        3,
        "2026-03-04",
    )
    assert set(alone["right_surveyed"]) == {"lower_outer"}
    assert "lower_outer" not in alone["surveyed"]


def test_the_mark_of_a_survey_follows_every_entry_and_every_end(client: FlaskClient, job: Entry) -> None:
    def mark() -> str:
        found: str = client.get(f"/api/jobs/{job['job_id']}/survey/mark").json["mark"]
        return found

    assert mark() == "untouched"
    right = whole_survey(job)
    post(client, job, *right[:-1])
    assert (
        mark() == "in hand"
    )  # all four lie nearly in a line with their distances: nothing checks how far left they are
    post(client, job, *({**one, "id": new_id(), "instrument": "string"} for one in right if one["kind"] == "left"))
    assert mark() == "good"
    slip = dict(right[-1]) | {"read": {"mm": right[-1]["read"]["mm"] + 60, "typed": None}}
    post(client, job, slip)
    assert mark() == "attention"
    post(
        client,
        job,
        {"sort": "back", "id": new_id(), "entry": slip["id"], "why": "a slip"},
        right[-1] | {"id": new_id()},
    )
    assert mark() == "good"
    # a place that goes with its end is read of nothing any more
    design = job["design"]
    design["ends"] = design["ends"][1:]
    version = client.get(f"/api/jobs/{job['job_id']}").json["version"]
    saved = client.put(f"/api/jobs/{job['job_id']}/draft", json={"save_id": new_id(), "design": design}, headers={"If-Match": str(version)})  # fmt: skip
    assert saved.status_code == 200, saved.json
    assert mark() == "attention"
    assert client.get("/api/jobs/none/survey/mark").status_code == 404


def test_a_survey_goes_into_a_copy_of_the_job_by_a_file(client: FlaskClient, job: Entry) -> None:
    entries = whole_survey(job)
    mark = {"sort": "mark", "id": new_id(), "mark": new_id(), "name": "Nail", "near": [10, 20, 0]}
    slip = reading("distance", [key(job, "upper_front"), f"mark:{mark['mark']}"], 1234.0)
    first = post(client, job, mark, *entries, slip, {"sort": "back", "id": new_id(), "entry": slip["id"], "why": "slip"}).json  # fmt: skip
    saved = client.get(f"/api/jobs/{job['job_id']}/survey/file")
    assert saved.headers["Content-Disposition"].endswith('-survey.json"')
    file = saved.json
    copy = client.post("/api/import", json={"id": new_id(), "design": job["design"]}).json
    path = f"/api/jobs/{copy['job_id']}/survey/file"
    second = client.post(path, json=file).json
    assert [one["at"] for one in second["points"]] == pytest.approx(np.array([one["at"] for one in first["points"]]))
    for one in ("counts", "sd", "residual", "back", "made_at"):
        assert [r[one] for r in second["readings"]] == [r[one] for r in first["readings"]], one
    assert {one["taken"]["note"] for one in second["readings"]} == {"(read in from a file)"}
    assert not {one["taken"]["id"] for one in first["readings"]} & {one["taken"]["id"] for one in second["readings"]}
    again = client.post(path, json=file)
    assert (again.status_code, again.json["code"]) == (409, "has_survey")
    third = client.post("/api/import", json={"id": new_id(), "design": job["design"]}).json
    path = f"/api/jobs/{third['job_id']}/survey/file"
    part = file | {"entries": [one for one in file["entries"] if one["entry"]["id"] != slip["id"]]}
    assert "taken back in it that is not in it" in client.post(path, json=part).json["message"]
    assert client.post(path, json=file | {"format": "another 9"}).status_code == 422
    assert client.get(f"/api/jobs/{third['job_id']}/survey").json["readings"] == []
