"""A whole bracket from the command line, against figures worked by hand from the sources named."""

import copy
from math import asin, hypot, pi, sqrt

import pytest

from tirante.calc import TOPICS, calculate
from tirante.core.errors import InputError

PAIR = {
    "parameters": {
        "plate_mm": 5, "hole_mm": 12.2, "head_radius_mm": 20, "edge_mm": 22, "base_width_mm": 40, "height_mm": 45,
        "yield_mpa": 260, "uts_mpa": 400, "load_angle_deg": 0,
    },
    "holds": {"bore_mm": 12, "ball_width_mm": 16, "housing_width_mm": 12, "head_diameter_mm": 30},
    "bolt": {"designation": "M12x1.75", "diameter_mm": 12, "strength_class": "8.8"},
    "swing_deg": 0,
    "cases": [{"name": "pull", "axial_n": 8000}, {"name": "least", "axial_n": -2000}],
}  # fmt: skip
FOLDED = {
    **PAIR, "family": "folded_u",
    "parameters": {
        "plate_mm": 4, "hole_mm": 12.2, "head_radius_mm": 20, "edge_mm": 22, "base_width_mm": 50, "height_mm": 45, "radius_mm": 6, "k_factor": 0.4,
    },
    "holds": {"bore_mm": 12, "ball_width_mm": 40, "housing_width_mm": 36, "head_diameter_mm": 30},
}  # fmt: skip


BOLTED = {
    **PAIR, "family": "angle_bracket",
    "parameters": {
        "plate_mm": 8, "radius_mm": 8, "hole_mm": 12.2, "head_radius_mm": 20, "edge_mm": 22, "base_width_mm": 90, "height_mm": 62, "load_angle_deg": 30,
        "bolt_mm": 10, "bolt_class": "10.9", "gauge_mm": 38, "toe_mm": 22, "apart_mm": 62, "shim_mm": 2, "through_mm": 50,
    },
    "cases": [{"name": "pull", "axial_n": 3000, "side_n": 200}, {"name": "least", "axial_n": -800}],
}  # fmt: skip


def test_a_bolted_bracket_from_the_command_line_is_what_its_figures_make_by_hand() -> None:
    """Bolts and foot by statics, from the parameters alone; the flats of an angle and of its shim."""
    found = calculate("bracket", BOLTED)
    checks = {one["key"]: one for one in found["checks"]}
    f = checks["foot_bent"]["factor"]
    off, over, side = 3000 * f * sqrt(3) / 2, 3000 * f / 2, 200 * f
    lever, between = 38 + 4, (found["gap_mm"] + 8) / 2
    pull = off / 4 + over * 62 / (2 * 62) + side * 62 / (4 * (between + lever))
    assert checks["foot_bent"]["demand"] == pytest.approx(4 * 2 * pull * lever / ((90 - 22) * 64))
    f2 = checks["foot_bolts"]["factor"] / f
    area = pi * 100 / 4
    tension = f2 * pull * (lever + 22) / 22 / (0.9 * 1000 * 0.78 * area)
    shear = f2 * hypot(over, side) / 4 / (0.6 * 1000 * area)
    assert checks["foot_bolts"]["demand"] == pytest.approx(max(tension, shear + tension / 1.4))
    angle, shim = found["flats"]
    assert (angle["count"], shim["count"], len(angle["holes"]), len(shim["holes"])) == (2, 2, 3, 2)
    assert len(angle["bends"]) == 1
    assert shim["area_mm2"] == pytest.approx((38 + 22) * 90 - 2 * pi * 11**2 / 4)
    # foot, a quarter turn of the neutral fibre at DIN 6935's 0.325, ear
    xs = [edge[x] for edge in angle["edges"] for x in ("x1", "x2")]
    assert max(xs) - min(xs) < (38 + 22 - 8) + pi / 2 * (8 + 0.325 * 8) + (62 - 2 - 16) + 22 + 1e-6
    with pytest.raises(InputError, match=r"stand 2\.4 holes apart"):
        calculate("bracket", {**BOLTED, "parameters": {**BOLTED["parameters"], "apart_mm": 20}})  # type: ignore[dict-item]


def test_both_plates_carry_the_worst_case_which_is_named() -> None:
    """AISC 360-16 D5.1, D2 and J7, from memory: nominal, all plates together."""
    checks = {one["key"]: one for one in calculate("bracket", PAIR)["checks"]}
    assert {one["case"] for one in checks.values()} <= {"pull", None}
    width = min(2 * 5 + 16, 20 - 12.2 / 2)  # D5.1: effective each side
    assert checks["tab_tension"]["capacity"] == pytest.approx(2 * 2 * 5 * width * 400)
    assert checks["tab_bearing"]["capacity"] == pytest.approx(1.8 * 260 * 12 * 2 * 5)
    assert checks["tab_tearout"]["capacity"] == pytest.approx(0.6 * 400 * 2 * 2 * 5 * (22 - 12.2 / 2 + 12 / 2))
    assert checks["tab_yield"]["capacity"] == pytest.approx(2 * 5 * 40 * 260)
    for key in ("tab_tension", "tab_bearing", "tab_tearout"):
        assert checks[key]["utilisation"] == pytest.approx(checks[key]["factor"] * 8000 / checks[key]["capacity"])


def test_a_load_along_the_bolt_bends_each_plate_over_its_thin_way() -> None:
    """Shigley ch. 3, from memory, at AISC's 1.67: N/A, four times as much where the weld is outside alone; 6 V h/(w t^2)."""
    feet = []
    for side in (0, 500, -500):
        given = {**PAIR, "cases": [{"name": "pull", "axial_n": 8000, "side_n": side}]}
        feet.append(next(one["demand"] for one in calculate("bracket", given)["checks"] if one["key"] == "tab_foot"))
    assert feet[0] == pytest.approx(1.67 * 4 * 4000 / (5 * 40))
    assert feet[1] == feet[2]
    assert feet[1] - feet[0] == pytest.approx(1.67 * 6 * 250 * 45 / (40 * 5**2))


def test_a_flat_has_the_area_of_its_triangle_tangents_and_arc_less_its_hole() -> None:
    """Square foot of 40, round head of 20 at 45: two plates alike, each a rectangle with a half disc."""
    straight = copy.deepcopy(PAIR)
    straight["parameters"]["edge_mm"] = 20
    flat = calculate("bracket", straight)["flats"][0]
    assert flat["count"] == 2
    assert flat["area_mm2"] == pytest.approx(40 * 45 + pi * 20**2 / 2 - pi * 12.2**2 / 4)
    assert flat["holes"] == [{"x": pytest.approx(0), "y": pytest.approx(45), "diameter_mm": 12.2}]
    assert [edge["r"] for edge in flat["edges"] if "r" in edge]


def test_a_folded_one_is_as_long_flat_as_its_legs_less_what_two_bends_take() -> None:
    """Deduction of a right angle with k: 2 (r + t) - pi/2 (r + k t) (textbooks of sheet metal, derived)."""
    out = calculate("bracket", FOLDED)
    flat = out["flats"][0]
    assert (flat["count"], len(flat["bends"]), out["gap_mm"]) == (1, 2, pytest.approx(40))
    first, second = flat["holes"]
    apart = hypot(first["x"] - second["x"], first["y"] - second["y"])
    # outside: the base is the gap and both plates, each ear the height to its hole's centre from what it stands on
    assert apart == pytest.approx(2 * 45 + 40 + 2 * 4 - 2 * (2 * (6 + 4) - pi / 2 * (6 + 0.4 * 4)))


def test_a_foot_across_a_round_tube_is_cut_to_the_tube() -> None:
    """Below the tube's crown a plate of width w has the area between the crown's tangent and the circle, by integration."""
    tube = copy.deepcopy(PAIR)
    tube["parameters"] |= {"edge_mm": 20, "base": {"kind": "saddle", "tube_od_mm": 60, "angle_deg": 90}}
    flat = calculate("bracket", tube)["flats"][0]
    under = 2 * (20 * 30 - (20 * sqrt(30**2 - 20**2) + 30**2 * asin(20 / 30)) / 2)
    assert flat["area_mm2"] == pytest.approx(40 * 45 + pi * 20**2 / 2 - pi * 12.2**2 / 4 + under, rel=1e-4)


@pytest.mark.parametrize(
    ("change", "field", "says"),
    [
        ({"parameters": {**PAIR["parameters"], "hoel_mm": 3}}, "parameters.hoel_mm", "hole_mm"),
        ({"parameters": {**PAIR["parameters"], "plate_mm": -5}}, "parameters.plate_mm", "above 0"),
        ({"parameters": {**PAIR["parameters"], "plate_mm": "3"}}, "parameters.plate_mm", "a number"),
        ({"parameters": {**PAIR["parameters"], "name": "x"}}, "parameters.name", "not a size"),
        ({"parameters": {**PAIR["parameters"], "hole_mm": 11}}, "hole", "12"),
        ({"bolt": {**PAIR["bolt"], "designation": "M12x9"}}, "bolt", "M12x9"),
    ],
)
def test_what_is_wrong_is_named_with_its_cure(change: dict[str, object], field: str, says: str) -> None:
    with pytest.raises(InputError) as caught:
        calculate("bracket", {**PAIR, **change})
    assert field in caught.value.fields[0]
    assert says in str(caught.value)


STRAP = {
    **PAIR, "family": "strap_tab",
    "parameters": {"plate_mm": 5, "hole_mm": 12.2, "head_radius_mm": 20, "edge_mm": 22, "base_width_mm": 50, "tube_od_mm": 38, "height_mm": 55, "k_factor": 0.4},
    "shim_mm": 11, "cases": [{"name": "pull", "axial_n": 6000, "side_n": 500}],
}  # fmt: skip
LAPPED = {
    **PAIR, "family": "lapped_plate", "swing_deg": 0, "cases": [{"name": "pull", "axial_n": 3000, "side_n": 400}],
    "parameters": {"plate_mm": 8, "hole_mm": 12.2, "head_radius_mm": 20, "edge_mm": 22, "base_width_mm": 60, "height_mm": 50, "foot_mm": 70, "load_angle_deg": 0, "yield_mpa": 355},
}  # fmt: skip


def test_a_strap_over_a_tube_is_what_its_figures_make_by_hand() -> None:
    out = calculate("bracket", STRAP)
    (flat,) = out["flats"]
    assert flat["count"] == 1
    # half round along its fibre, two straight legs from the tube’s middle to the hole, each hole at its own end
    along = pi * (19 + 0.4 * 5) + 2 * 55
    xs = sorted(hole["x"] for hole in flat["holes"]) if len({h["y"] for h in flat["holes"]}) == 1 else sorted(hole["y"] for hole in flat["holes"])  # fmt: skip
    assert xs[1] - xs[0] == pytest.approx(along)
    checks = {one["key"]: one for one in out["checks"]}
    # each ear is pulled by half, on 16 + 11 + 11 mm between them
    assert out["gap_mm"] == pytest.approx(38)
    net = checks["tab_tension"]
    assert net["demand"] == pytest.approx(net["factor"] * hypot(6000, 500))
    assert "the wall of the tube that it goes over is not judged" in out["notes"]
    # not packed out it does not go together, and what is told does
    with pytest.raises(InputError, match=r"Put a shim of 11\.00 mm on each side"):
        calculate("bracket", {**STRAP, "shim_mm": 4})


def test_a_plate_that_lies_on_a_face_is_judged_in_single_shear() -> None:
    out = calculate("bracket", LAPPED)
    checks = {one["key"]: one for one in out["checks"]}
    single, double = (next(one for one in calculate("bracket", {**data, "cases": LAPPED["cases"]})["checks"] if one["key"] == "pin_shear") for data in (LAPPED, PAIR))  # fmt: skip
    assert single["demand"] == double["demand"]
    assert single["capacity"] == pytest.approx(double["capacity"] / 2)
    # where it leaves its foot: pulled, and bent out of its plane by half a plate, half a ball, and the side force over its height
    root = checks["lapped_root"]
    pull, side = 3000 * root["factor"], 400 * root["factor"]
    off = 8 / 2 + 16 / 2
    bent, sheared = pull / (60 * 8) + 6 * (pull * off + side * 50) / (60 * 8**2), 1.5 * side / (60 * 8)
    assert root["demand"] == pytest.approx(sqrt(bent**2 + 3 * sheared**2))
    (flat,) = out["flats"]
    assert (flat["bends"], flat["count"]) == ([], 1)
    assert flat["holes"][0]["diameter_mm"] == 12.2
    assert any("mount-wall" in note for note in out["notes"])


SLEEVE = {
    **PAIR, "family": "rail_sleeve", "swing_deg": 0, "cases": [{"name": "pull", "axial_n": 4000, "side_n": 300}],
    "parameters": {"sleeve_od_mm": 26, "bore_mm": 12.5, "through_mm": 60, "wall_mm": 4, "proud_mm": 5, "far_mm": 5, "weld_leg_mm": 4, "yield_mpa": 355},
}  # fmt: skip


def test_a_sleeve_through_a_box_is_a_beam_on_its_two_walls() -> None:
    out = calculate("bracket", SLEEVE)
    checks = {one["key"]: one for one in out["checks"]}
    assert set(checks) == {"pin_shear", "pin_bending", "sleeve_bent", "sleeve_mouth", "sleeve_ring", "sleeve_crushed"}
    lever, pull = 5 + 16 / 2, hypot(4000, 300)
    assert checks["sleeve_bent"]["demand"] == pytest.approx(checks["sleeve_bent"]["factor"] * 32 * pull * (lever + 2) * 26 / (pi * (26**4 - 12.5**4)))  # fmt: skip
    near = pull * (1 + (lever + 2) / 56)
    assert checks["sleeve_ring"]["demand"] == pytest.approx(checks["sleeve_ring"]["factor"] * near / (pi * 26 * 0.707 * 4))  # fmt: skip
    assert out["flats"] == []
    assert any("walls of the box are not judged" in note for note in out["notes"])
    with pytest.raises(InputError, match="too little for a fillet"):
        calculate("bracket", {**SLEEVE, "parameters": {**SLEEVE["parameters"], "proud_mm": 3}})  # type: ignore[dict-item]


def test_holes_in_a_folded_bracket_s_ears_are_judged_here_too() -> None:
    sizes = {
        "plate_mm": 5, "hole_mm": 12.2, "head_radius_mm": 20, "edge_mm": 22, "base_width_mm": 80, "height_mm": 110, "radius_mm": 5, "die_mm": 24,
    }  # fmt: skip
    plain = {**PAIR, "family": "folded_u", "parameters": sizes}
    keys = [
        {one["key"] for one in calculate("bracket", {**plain, "parameters": {**sizes, **more}})["checks"]}
        for more in ({}, {"lighten": {}}, {"extra": [{"below_mm": 40, "diameter_mm": 6}]})
    ]
    assert (keys[1] - keys[0], keys[2] - keys[0]) == ({"tab_lightened"}, {"tab_holed"})


def test_its_example_is_the_pair_the_page_would_check() -> None:
    out = calculate("bracket", TOPICS["bracket"].example)
    assert out["checks"][0]["utilisation"] == max(
        one["utilisation"] for one in out["checks"] if one["utilisation"] is not None
    )
    assert out["passed"] is all(one["passed"] for one in out["checks"])
