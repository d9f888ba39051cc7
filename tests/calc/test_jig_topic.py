"""`calc jig`: a part's joints and tubes on a plate, against the plane geometry of an equilateral arm by hand."""

from __future__ import annotations

from math import sqrt
from typing import Any

import numpy as np
import pytest

from tirante.calc.jig_topics import JigInput, run_jig
from tirante.core.errors import InputError

SIDE = 300.0


def arm(**more: Any) -> dict[str, Any]:
    """Three upright bores on the corners of an equilateral triangle, 50 mm up, tubes along two sides; a stud in the last."""
    corners = {"a": (0.0, 0.0, 50.0), "b": (SIDE, 0.0, 50.0), "c": (SIDE / 2, SIDE * sqrt(3) / 2, 50.0)}
    joints = [
        {
            "name": name,
            "at_mm": at,
            "axis": (0.0, 0.0, 2.0),
            "directed": name == "c",
            "bore_mm": 12.0,
            "wide_mm": 40.0,
            "outside_mm": 30.0,
        }
        for name, at in corners.items()
    ]
    tubes = [
        {"name": f"{end} to c", "a": end, "b": "c", "od_mm": 25.0, "a_seam_mm": 15.0, "b_seam_mm": 15.0} for end in "ab"
    ]
    return {"joints": joints, "tubes": tubes} | more


def run(**more: Any) -> dict[str, Any]:
    return run_jig(JigInput.model_validate(arm(**more), strict=False))[0]


def test_upright_bores_stand_on_pins_at_the_corners_of_the_triangle() -> None:
    found = run()
    assert found["n"] == pytest.approx((0.0, 0.0, 1.0))
    at = {one["name"]: one["at_mm"] for one in found["joints"]}
    assert at["a"][:2] == pytest.approx((0.0, 0.0))
    assert at["b"][:2] == pytest.approx((SIDE, 0.0))
    assert at["c"][:2] == pytest.approx((SIDE / 2, SIDE * sqrt(3) / 2))
    assert [one["sort"] for one in found["posts"]] == ["pin"] * 3 + ["rest"] * 2
    # under a joint 40 long with a 25 tube on its middle a spacer of 12.5 + 15 − 20 → 8 mm; a pin’s post is 25 long at least
    assert {one["spacer_mm"] for one in found["joints"]} == {8.0}
    assert min(one["long_mm"] for one in found["posts"] if one["sort"] == "pin") == pytest.approx(25.0)
    assert [z for _, _, z in at.values()] == pytest.approx([25.0 + 8.0 + 20.0] * 3)
    rest = next(one for one in found["posts"] if one["sort"] == "rest")
    assert rest["work_mm"] == pytest.approx(53.0 - 12.5 * sqrt(2))
    assert [mm for *_, mm in found["check_mm"]] == pytest.approx([SIDE] * 3)


def test_a_stud_square_to_a_flat_arm_lies_for_either_hand_and_its_figure_is_the_bar_s_length() -> None:
    found = run()
    assert found["both_hands"]
    # equal sides: the front pivot may change over with the rear one, so that left and right are one part
    assert found["own_mirror"]
    arm_ = arm()
    arm_["joints"][1]["wide_mm"] = 50.0
    found = run_jig(JigInput.model_validate(arm_, strict=False))[0]
    assert not found["own_mirror"]
    assert found["signed"]["height_mm"] == pytest.approx(100.0)
    assert found["signed"]["tolerance_mm"] == pytest.approx(1.0)  # its own and that of the corner it stands on


def test_shrink_opens_the_two_tubes_and_the_checks_stay_cold() -> None:
    found = run(shrink_mm=0.5)
    at = {one["name"]: np.array(one["at_mm"]) for one in found["joints"]}
    assert float(np.linalg.norm(at["a"] - at["c"])) == pytest.approx(SIDE + 1.0, abs=2e-3)
    assert float(np.linalg.norm(at["b"] - at["c"])) == pytest.approx(SIDE + 1.0, abs=2e-3)
    assert [mm for *_, mm in found["check_mm"]] == pytest.approx([SIDE] * 3)
    assert all(one["set_off_mm"] > 0 for one in found["joints"])


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"tubes": [{"name": "x", "a": "a", "b": "z", "od_mm": 20.0}]}, "tubes.0.b"),
        ({"tubes": [{"name": "x", "a": "a", "b": "a", "od_mm": 20.0}]}, "tubes.0.b"),
        ({"datum": "z"}, "datum"),
        ({"through": ["a", "b"]}, "through"),
    ],
)
def test_bad_input_names_its_field(change: dict[str, Any], field: str) -> None:
    with pytest.raises(InputError) as found:
        run(**change)
    assert found.value.fields == (field,)


def test_two_joints_of_one_name_and_a_bore_without_a_way_are_refused() -> None:
    twice = arm()
    twice["joints"][1]["name"] = "a"
    with pytest.raises(InputError, match="Two joints are called"):
        run_jig(JigInput.model_validate(twice, strict=False))
    blind = arm()
    blind["joints"][2]["axis"] = (0.0, 0.0, 0.0)
    with pytest.raises(InputError) as found:
        run_jig(JigInput.model_validate(blind, strict=False))
    assert found.value.fields == ("joints.2.axis",)
