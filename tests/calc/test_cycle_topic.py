"""`calc cycle`: lists or rows, every measure by its name, faults by their fields."""

import json
from typing import Any

import pytest
from pydantic import ValidationError

from tests.conftest import ROOT
from tirante.calc import calculate
from tirante.core.errors import InputError
from tirante.core.problems import problem

CORNER = [
    "camber_deg",
    "toe_deg",
    "caster_deg",
    "kingpin_inclination_deg",
    "scrub_radius_mm",
    "mechanical_trail_mm",
    "half_track_change_mm",
    "wheelbase_change_mm",
    "ic_front_y_mm",
    "ic_front_z_mm",
    "ic_side_x_mm",
    "ic_side_z_mm",
    "roll_centre_drawn_mm",
    "roll_centre_path_mm",
    "anti_dive_percent",
    "damper_length_mm",
    "motion_ratio",
]
BEAM = [
    "lateral_shift_mm",
    "axle_steer_deg",
    "pinion_change_deg",
    "roll_centre_mm",
    "roll_axis_deg",
    "anti_lift_percent",
    "anti_squat_percent",
]


def end(name: str, **more: Any) -> dict[str, Any]:
    return {**json.loads((ROOT / f"data/ends/{name}.json").read_text()), **more}


def test_every_measure_stands_under_its_name() -> None:
    corner = calculate("cycle", end("double-wishbone", travel_mm=[0]))["positions"][0]
    assert set(CORNER) <= set(corner)
    assert set(CORNER) <= set(corner["right"])
    beam = calculate("cycle", end("three-links-panhard", travel_mm=[0]))["positions"][0]
    assert set(BEAM) <= set(beam)
    assert {"length_mm"} <= set(beam["links"]["Panhard rod"])


def test_lists_are_every_combination_and_rows_are_taken_as_they_come() -> None:
    lists = calculate("cycle", end("strut", travel_mm=[-20, 20], roll_deg=[0, 1], steer_mm=[0, 5]))["positions"]
    assert [(p["travel_mm"], p["roll_deg"], p["steer_mm"]) for p in lists] == [
        (t, r, s) for t in (-20, 20) for r in (0, 1) for s in (0, 5)
    ]
    rows = [[p["travel_mm"], p["roll_deg"], p["steer_mm"]] for p in lists]
    again = calculate("cycle", end("strut", rows=rows[::-1]))["positions"][::-1]
    for one, other in zip(lists, again, strict=True):
        assert one["camber_deg"] == pytest.approx(other["camber_deg"], abs=1e-9)


@pytest.mark.parametrize(
    "more",
    [
        {},
        {"travel_mm": [0], "rows": [[0, 0, 0]]},
        {"travel_mm": []},
        {"travel_mm": ["0"]},
        {"travel_mm": [0], "roll_deg": [float("nan")]},
    ],
)
def test_positions_come_one_way_and_whole(more: dict[str, Any]) -> None:
    with pytest.raises(ValidationError) as caught:
        calculate("cycle", json.dumps(end("strut", **more)))
    assert problem(caught.value)["issues"]


def test_an_unknown_template_and_a_missing_point_are_named() -> None:
    with pytest.raises(InputError) as caught:
        calculate("cycle", end("strut", template="swing-axle", travel_mm=[0]))
    assert caught.value.fields == ("template",)
    broken = end("strut", travel_mm=[0])
    del broken["points"]["strut_top"]
    with pytest.raises(InputError) as caught:
        calculate("cycle", broken)
    assert caught.value.fields == ("points.strut_top",)


def test_what_is_not_reached_is_null_and_says_why() -> None:
    found = calculate("cycle", end("strut", travel_mm=[0, 900]))["positions"]
    assert found[0]["status"] == "converged"
    assert found[1]["status"] != "converged"
    assert found[1]["camber_deg"] is None
    json.dumps(found, allow_nan=False)


def test_tilt_and_misalignment_are_given_for_joints_that_are_described() -> None:
    found = calculate("cycle", end("double-wishbone", travel_mm=[-60, 0, 60]))["positions"]
    tie = [p["links"]["tie rod"] for p in found]
    assert {"tilt_a_deg", "tilt_b_deg", "misalignment_a_deg", "misalignment_b_deg"} <= set(tie[0])
    for one in tie:
        assert one["misalignment_a_deg"] >= one["tilt_a_deg"] - 1e-9
        assert one["misalignment_b_deg"] >= one["tilt_b_deg"] - 1e-9
    # a rack-mounted joint with an upright bolt tilts as the rod rises and falls
    assert tie[0]["tilt_a_deg"] != pytest.approx(tie[2]["tilt_a_deg"], abs=0.5)


def test_redundant_links_show_their_bind_and_others_do_not() -> None:
    leaning = calculate("cycle", end("four-links-panhard", travel_mm=[0], roll_deg=[3]))["positions"][0]["links"]
    assert abs(leaning["lower link, left"]["bind_n"]) > 1
    free = calculate("cycle", end("three-links-panhard", travel_mm=[0], roll_deg=[3]))["positions"][0]["links"]
    assert "bind_n" not in free["Panhard rod"]
