"""Designs of every version open as today's: what was said stays said, once, under its new name, and again the same when it is opened again."""

from __future__ import annotations

import json
from typing import Any

import pytest

from tests.conftest import ROOT
from tests.jobs import work
from tirante.core.document.parts.arm import Arm
from tirante.core.document.parts.boxed_link import BoxedLink
from tirante.core.document.parts.bracket import TabPair
from tirante.core.document.upgrades import dump_design, load_design, open_design
from tirante.core.job.evaluate import evaluate


def stored(version: int) -> dict[str, Any]:
    found: dict[str, Any] = json.loads((ROOT / f"tests/storage/design-version-{version}.json").read_text())
    return found


def test_a_stored_example_of_every_version_still_opens() -> None:
    old = (ROOT / "tests/storage/design-version-1.json").read_text()
    raw = json.loads(old)
    opened = json.loads(dump_design(load_design(old)))
    # version 2 adds the ends, version 3 the car and its loads, version 4 makes links and tabs parts and joins them at joints
    assert opened.pop("car")["wheelbase_mm"] > 0
    assert opened.pop("loads") == {"name": "none", "cases": []}
    assert (opened["schema_version"], opened["ends"]) == (5, [])
    for rows in opened["catalogue"].values():
        assert all(row.pop("price") is None for row in rows)
        assert all(
            row.pop("open_back", "closed") == "closed"
            and row.pop("welded_uts_mpa", None) is None
            and row.pop("basic_mm", None) is None
            and row.pop("od_to_mm", None) is None
            for row in rows
        )
    assert opened["catalogue"] == raw["catalogue"]
    assert [part["name"] for part in opened["parts"] if part["kind"] == "link"] == [
        link["name"] for link in raw["links"]
    ]
    parts = {part["id"]: part for part in opened["parts"]}
    for link in raw["links"]:
        now = parts[link["id"]]
        for key in ("side", "between", "tube", "grade", "note"):
            assert now[key] == link[key]
        for end, was in ((now["end_a"], link["end_a"]), (now["end_b"], link["end_b"])):
            assert {key: end[key] for key in was} == was
        for case, was in zip(now["cases"], link["cases"], strict=True):
            assert {key: case[key] for key in was} == was
        held = [joint for joint in opened["joints"] if joint["held"].get("part") == link["id"] and joint["by"]]
        assert len(held) == (len(link["tab"]["ends"].replace("both", "ab")) if link["tab"] else 0)
        for joint in held:
            tab = parts[joint["by"]]
            assert tab["kind"] == "tab_pair"
            assert {key: tab[key] for key in ("hole", "height")} == {
                key: link["tab"][key] for key in ("hole", "height")
            }
            assert {key: tab["base"][key] for key in link["tab"]["base"]} == link["tab"]["base"]
            assert joint["bolt"] == link["tab"]["bolt"]
    second = json.loads((ROOT / "tests/storage/design-version-2.json").read_text())
    opened = load_design(json.dumps(second))
    vehicle = second["ends"][0]["end"]["vehicle"]
    assert opened.car.wheelbase_mm == vehicle["wheelbase_mm"]
    # what each end said of braking and driving is what it is given in the car
    for one, was in zip(opened.ends, second["ends"], strict=True):
        given = opened.standing(one).vehicle
        assert given is not None
        assert given.brake_share == pytest.approx(was["end"]["vehicle"]["brake_share"], abs=0.01)
        assert {n: list(p) for n, p in one.end.points.items()} == was["end"]["points"]
    third = json.loads((ROOT / "tests/storage/design-version-3.json").read_text())
    opened = load_design(json.dumps(third))
    assert {arm.id for arm in opened.of_kind(Arm)} == {arm["id"] for arm in third["arms"]}
    # opened twice it is the same, to the last id
    assert dump_design(load_design(json.dumps(third))) == dump_design(opened)
    fourth, told = open_design(json.dumps(stored(4)))
    assert keeps(json.loads(dump_design(fourth)), stored(4) | {"schema_version": 5})
    # a tab's pull straight off its foot stood there by itself: it is not known now, and looked at every way
    assert [tab.load_angle_deg for tab in fourth.of_kind(TabPair)] == [None] * 3
    # what loads say otherwise since is told, by the kinds of case that there are; and once it is saved anew, no more
    assert [word for word in ("body leans", "own height", "both wheels of its end", "as they were taken") if any(word in one for one in told)] == [
        "body leans", "own height", "both wheels of its end", "as they were taken"
    ]  # fmt: skip
    assert open_design(dump_design(fourth))[1] == ()
    bare = stored(4) | {"loads": {"name": "none", "cases": []}}
    assert [one.split()[0] for one in open_design(json.dumps(bare))[1]] == ["Fillets", "Parts"]
    assert open_design(json.dumps(bare | {"parts": [], "joints": []}))[1] == ()
    assert {case.name: case.wheels for case in fourth.loads.cases if case.kind in ("landing", "snatch")} == {
        "landing from 300 mm": "both", "droop snatch": "both"
    }  # fmt: skip
    assert all(case.roll_deg is None for case in fourth.loads.cases)
    text = (ROOT / "tests/storage/design-version-5.json").read_text()
    assert dump_design(load_design(text)) == text


ADDED = {
    "ream_mm": 0.0, "corner_mm": 0.0, "rod_end_seals": False,
    "strip": False, "skew_deg": 0.0, "follows": False, "rings": False, "bevel_mm": 0.0, "round_mm": 0.0, "in_hole": 1, "lean_deg": 0.0, "offset_mm": 0.0, "wrap_paper_mm": 0.1, "height_fixed": False, "paper": "A4",
    "joint_friction": 0.15, "everyday": [[1.0, 1.0]], "friction": 0.9, "inside_fillet_gap_mm": 25.0, "two_thirds_rule": False, "made": False, "plane_deg": 0.0, "rupture": 2.0, "thread_fit": "class", "aluminium_filler": "4043", "open_back": "closed", "family": "steel",
    "search": {"slenderness": 200.0, "locating_thread_mm": 12.0, "wall_mm": None, "struck_wall_mm": 3.0, "only_tubes": []},
}  # fmt: skip
#  # what a new field says where nothing was said
CHANGED = {
    "load_angle_deg": (0.0, None),
    "roll_deg": (0.0, None),
    "wheels": ("each", "both"),
    "leg_mm": (4.0, None),
}  # what could not be said before


def keeps(now: Any, was: Any) -> bool:
    """Whether all that was said is said still; what is new beside it is nothing yet, or what is taken where nothing is said."""
    if isinstance(was, dict):
        new = {key: now[key] for key in now.keys() - was.keys()}
        said = all(one in (None, "", [], {}) or ADDED.get(key) == one for key, one in new.items())
        return said and all(CHANGED.get(key) == (one, now[key]) or keeps(now[key], one) for key, one in was.items())
    if isinstance(was, list):
        return len(now) == len(was) and all(map(keeps, now, was))
    return bool(now == was)


def second(**vehicles: dict[str, Any] | None) -> Any:
    """Version 2, with what its two ends say of the vehicle."""
    raw = stored(2)
    for one in raw["ends"]:
        where = one["end"]["end"]
        if where in vehicles:
            change = vehicles[where]
            one["end"]["vehicle"] = None if change is None else one["end"]["vehicle"] | change
    return load_design(json.dumps(raw)).car


def test_the_car_of_two_ends_is_what_the_first_of_them_said_and_the_other_s_share_is_the_rest() -> None:
    car = second(front={"brake_share": 0.7, "drive_share": 0.25, "brakes": "inboard", "wheelbase_mm": 2411.0})
    assert (car.brake_front_share, car.drive_front_share, car.wheelbase_mm) == (0.7, 0.25, 2411.0)
    assert (car.brakes_front, car.brakes_rear) == ("inboard", "outboard")
    assert (car.drive_front, car.drive_rear) == ("inboard", "upright")
    # the first end is the only one that said something: the front's share, or what the rear leaves of it
    rear = second(front=None, rear={"brake_share": 0.45, "drive_share": 0.9, "drive": "inboard", "brakes": "inboard"})
    assert (rear.brake_front_share, rear.drive_front_share) == (0.55, pytest.approx(0.1))
    assert (rear.brakes_rear, rear.drive_rear, rear.brakes_front) == ("inboard", "inboard", "outboard")
    nobody = second(front=None, rear=None)
    assert nobody.wheelbase_mm > 0


def test_what_a_vehicle_of_version_2_left_out_is_what_was_taken_for_it_then() -> None:
    raw = stored(2)
    for one in raw["ends"]:
        kept = one["end"]["vehicle"]
        one["end"]["vehicle"] = {name: kept[name] for name in ("wheelbase_mm", "cg_height_mm")}
    car = load_design(json.dumps(raw)).car
    assert (car.brake_front_share, car.drive_front_share) == (0.5, 0.0)
    assert (car.brakes_front, car.brakes_rear, car.drive_front, car.drive_rear) == ("outboard", "outboard", None, None)
    assert car.cg_height_mm == raw["ends"][0]["end"]["vehicle"]["cg_height_mm"]


@pytest.mark.parametrize(("ends", "joints"), [("both", {"a", "b"}), ("a", {"a"}), ("b", {"b"})])
def test_a_tab_of_version_3_holds_the_ends_that_it_said_with_its_own_bolt(ends: str, joints: set[str]) -> None:
    raw = stored(3)
    link = raw["links"][0]
    link["tab"] |= {"ends": ends, "shim_mm": 1.5, "thread_in_plane": True, "weld_leg_mm": 7.0}
    design = load_design(json.dumps(raw))
    held = [joint for joint in design.joints_of(link["id"]) if joint.by]
    assert {joint.held.end for joint in held} == joints  # type: ignore[union-attr]
    for joint in held:
        assert (joint.bolt, joint.spacer, joint.shim_mm, joint.thread_in_plane) == (
            link["tab"]["bolt"],
            None,
            1.5,
            True,
        )
        tab = design.part(joint.by or "")
        assert tab
        assert tab.name.startswith(link["name"])
        assert tab.model_dump()["weld_leg_mm"] == 7.0
    # of its own end alone where it said one: as many plates as before
    assert evaluate(work(design)).parts


def test_a_boxed_link_of_version_3_keeps_its_name_its_cases_and_its_plates() -> None:
    raw = stored(3)
    link = raw["links"][1]
    link["boxed"] = {
        "height": {"mm": 70.0}, "width": {"mm": 60.0}, "side_mm": 5.0, "top_mm": 6.0, "bottom_mm": 5.0, "pad_at": {"mm": 200.0}, "leg_mm": 4.5,
    }  # fmt: skip
    link["cases"] = [
        {"name": "typed", "axial_n": -4000.0, "strike_n": 9000.0},
        {"name": "was worked out", "axial_n": 1.0, "strike_n": 0.0, "worked": True},
    ]
    design = load_design(json.dumps(raw))
    boxed = design.part(link["id"])
    assert isinstance(boxed, BoxedLink)
    assert (boxed.name, boxed.side, boxed.leg_mm, boxed.height.mm) == (link["name"], link["side"], 4.5, 70.0)
    # what the car brings is worked out again and never kept
    assert [(case.name, case.axial_n, case.strike_n) for case in boxed.cases] == [("typed", -4000.0, 9000.0)]


@pytest.mark.parametrize("version", [1, 2, 3])
def test_what_is_broken_in_an_old_file_is_named_and_nothing_is_dropped(version: int) -> None:
    raw = stored(version)
    for place in ("links", "ends"):
        if raw.get(place):
            spoilt = json.loads(json.dumps(raw))
            spoilt[place][0] = "not an object"
            with pytest.raises(ValueError, match=r"parts|ends|links"):
                load_design(json.dumps(spoilt))
    with pytest.raises(ValueError, match="schema_version"):
        load_design(json.dumps(raw | {"schema_version": 99}))
