"""Steered and compliant axles, anti-roll bars, shafts, ride height, unpaired points: closed forms and invariants."""

import json
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.optimize import brentq
from scipy.spatial.transform import Rotation

from tests.core.test_suspension import example, kind, parallel_arms, run
from tests.jobs import template_of
from tirante.core.document.end import End
from tirante.core.errors import InputError
from tirante.core.geometry.distance import segment_block, segments
from tirante.core.mechanism.model import GROUND, Bush, Coordinate, Distance, Mark, Mechanism, Parallel, Turned
from tirante.core.mechanism.solve import solve
from tirante.core.suspension.cycle import by_wheel, cycle, solved_cycle
from tirante.core.suspension.measures import spin_axis, wheel_at
from tirante.core.suspension.watches import watches


def changed(end: End, **more: Any) -> End:
    """The end with parts replaced; points are merged."""
    data = json.loads(end.model_dump_json())
    data["points"] |= more.pop("points", {})
    return End.model_validate_json(json.dumps(data | more))


def steered_axle(**points: Any) -> End:
    """Upright kingpins, level links along x, all steering links square: every motion in closed form."""
    return changed(
        example("three-links-panhard-steered"),
        points={
            "lower_chassis": [-800, 430, 300], "lower_axle": [0, 430, 300], "upper_chassis": [-800, 0, 450], "upper_axle": [0, 0, 450],
            "panhard_chassis": [150, -380, 400], "panhard_axle": [150, 620, 400],
            "kingpin_low": [0, 620, 250], "kingpin_high": [0, 620, 450], "track_rod": [-140, 620, 350],
            "drag_knuckle": [150, 620, 430], "drag_inner": [150, -380, 430], "pitman_pivot": [0, -380, 430], **points,
        },
        misses=[],
    )  # fmt: skip


# --- steering ----------------------------------------------------------------------------------------------------------


def test_a_parallelogram_of_drag_link_and_arms_turns_both_wheels_with_the_steering_arm() -> None:
    found = run(steered_axle(), [0.0], steer=[-25.0, 0.0, 10.0, 25.0])
    np.testing.assert_allclose(found.columns["toe_deg"], -found.steer, atol=1e-9)
    np.testing.assert_allclose(found.right["toe_deg"], found.steer, atol=1e-9)
    np.testing.assert_allclose(found.columns["ackermann_percent"][[0, 2, 3]], 0.0, atol=1e-6)
    # upright kingpins without offset along the car: nothing lifts
    np.testing.assert_allclose(found.columns["jacking_mm"], 0.0, atol=1e-9)


def test_the_steering_arm_steers_left_whichever_way_its_axis_is_given() -> None:
    one, other = (
        run(
            steered_axle().model_copy(update={"steering": steered_axle().steering.model_copy(update={"axis": axis})}),
            [0.0],
            steer=[12.0],
        )  # type: ignore[union-attr]
        for axis in ((0.0, 0.0, 1.0), (0.0, 0.0, -1.0))
    )
    assert one.columns["toe_deg"][0] == pytest.approx(-12.0, abs=1e-9)
    assert other.columns["toe_deg"][0] == pytest.approx(-12.0, abs=1e-9)


def test_a_drag_link_parallel_to_the_panhard_rod_and_as_long_does_not_steer_in_bump() -> None:
    found = run(steered_axle(), np.linspace(-80, 80, 9))
    assert np.abs(found.columns["toe_deg"]).max() < 1e-6
    assert np.abs(found.columns["lateral_shift_mm"]).max() > 3
    shorter = run(steered_axle(drag_inner=[150, 0, 430], pitman_pivot=[0, 0, 430]), [-80.0, 80.0])
    assert np.abs(shorter.columns["toe_deg"]).min() > 0.5


def test_a_beam_on_a_centre_pivot_only_leans() -> None:
    found = run("centre-pivot-beam", [0.0, 10.0], [-6.0, 6.0])
    assert [s == "converged" for s in found.status] == [True, True, False, False]
    # each kingpin stays on its circle about the pivot's line; the body leans right, so the left wheel droops
    end = example("centre-pivot-beam")
    side = solved_cycle(kind("centre-pivot-beam"), end, np.array([[0.0], [6.0], [0.0]])).left
    start, stop = (np.array(end.points[n]) for n in ("pivot_rear", "pivot_front"))
    axis = (stop - start) / np.linalg.norm(stop - start)
    heights = []
    for sign in (1.0, -1.0):
        mark = side.assembled.role("kingpin_low", "left" if sign > 0 else "right")
        centre = side.solved.system.where(side.solved.poses, mark, side.solved.drives)[:, 0]
        heights.append(centre[2])
        before, after = (np.linalg.norm(np.cross(p - start, axis)) for p in (np.array(mark.at), centre))
        assert after == pytest.approx(before, abs=1e-8)
    assert heights[1] - heights[0] == pytest.approx(2 * 480 * np.sin(np.radians(6.0)), rel=1e-3)


def test_jacking_is_the_turn_about_the_kingpin_with_the_spring_held() -> None:
    # the damper on the lower arm holds it, so both outer joints stay: the wheel only turns about the line through them
    end = example("double-wishbone")
    found = run(end, [25.0], steer=[14.0])
    straight = solved_cycle(kind("double-wishbone"), end, np.array([[25.0], [0.0], [0.0]])).left
    low, high, tie, centre = (
        straight.solved.system.where(straight.solved.poses, mark, straight.solved.drives)[:, 0]
        for mark in (*(straight.assembled.marks[n] for n in ("lower_outer", "upper_outer", "tie_outer")), straight.assembled.wheel_centre)
    )  # fmt: skip
    spin = straight.solved.system.direction(straight.solved.poses, "upright", spin_axis(-0.8, 0.1, 1.0))[:, 0]
    axis = (high - low) / np.linalg.norm(high - low)
    inner = np.add(end.points["tie_inner"], (0.0, 14.0, 0.0))
    length = np.linalg.norm(np.subtract(end.points["tie_inner"], end.points["tie_outer"]))

    def gap(angle: float) -> float:
        return float(np.linalg.norm(Rotation.from_rotvec(axis * angle).apply(tie - low) + low - inner) - length)

    angle = brentq(gap, -0.05, 0.4, xtol=1e-14)

    def lowest(turn: Rotation) -> float:
        s = turn.apply(spin)
        down = np.array([0, 0, 1]) - s[2] * s
        return float((turn.apply(centre - low) + low)[2] - 310.0 * np.linalg.norm(down))

    rise = lowest(Rotation.from_rotvec(axis * angle)) - lowest(Rotation.identity())
    assert found.columns["jacking_mm"][0] == pytest.approx(rise, abs=1e-7)


# --- bushes ------------------------------------------------------------------------------------------------------------


def test_a_bush_and_a_link_share_a_misfit_by_their_stiffness() -> None:
    # a block free along x alone; its link is 1 mm too short: x = k_link / (k_link + k_bush)
    block = Mark("block", (0.0, 0.0, 0.0))
    held = (
        Coordinate(name="y", mark=block, along=(0, 1, 0)), Coordinate(name="z", mark=block, along=(0, 0, 1)),
        Parallel(name="level", body_a="block", body_b=GROUND, axis=(0, 0, 1)),
        Turned(name="straight", body="block", direction=(1.0, 0.0, 0.0), about=(0.0, 0.0, 1.0)),
    )  # fmt: skip
    link = Distance(name="link", a=block, b=Mark(GROUND, (100.0, 0.0, 0.0)), length=99.0, stiffness=300.0)
    for axis, gives in (((1, 0, 0), 200.0), ((0, 1, 0), 700.0)):  # along the bush, and across it
        bush = Bush(name="bush", a=block, b=Mark(GROUND, (0, 0, 0)), axis=axis, radial=700.0, axial=200.0)
        mechanism = Mechanism(bodies=("block",), constraints=(*held, bush, link))
        found = solve(mechanism, np.zeros((0, 1)))  # no drivers, one position
        x = found.system.where(found.poses, block, found.drives)[0, 0]
        assert x == pytest.approx(300.0 / (300.0 + gives), abs=1e-8)


def test_radius_arms_without_give_in_their_bushes_are_refused_by_name() -> None:
    with pytest.raises(InputError) as caught:
        run(changed(example("radius-arms"), bushes={}), [0.0], [2.0])
    assert caught.value.code == "over_constrained"
    assert {"rear axle bush, left", "front axle bush, right"} <= set(caught.value.fields)


def test_softer_bushes_lean_with_less_force() -> None:
    end = example("radius-arms")
    half = {
        name: {key: value / 2 for key, value in json.loads(bush.model_dump_json()).items()}
        for name, bush in end.bushes.items()
    }
    stiff, soft = run(end, [0.0], [3.0]), run(changed(end, bushes=half), [0.0], [3.0])
    assert set(stiff.status) == set(soft.status) == {"converged"}
    rod = "Panhard rod"
    assert abs(soft.links[rod]["bind_n"][0]) < abs(stiff.links[rod]["bind_n"][0])


# --- anti-roll bar and shafts ------------------------------------------------------------------------------------------


def test_a_drop_link_keeps_its_length_and_the_arms_turn_apart_in_roll() -> None:
    end = example("double-wishbone-anti-roll-bar")
    found = run(end, [-50.0, 0.0, 50.0], [0.0, 2.5])
    bar, drop = (np.array(end.points[n]) for n in ("bar_arm", "bar_drop"))
    np.testing.assert_allclose(found.links["drop link"]["length_mm"], np.linalg.norm(bar - drop), atol=1e-9)
    lever = bar - np.array(end.points["bar_outer"])
    lever[1] = 0  # the bar lies across the car
    cosine = -(drop - bar) @ lever / np.linalg.norm(drop - bar) / np.linalg.norm(lever)
    at_ride = found.bars["anti-roll bar"]["arb_link_angle_deg"][2]
    assert at_ride == pytest.approx(np.degrees(np.arccos(cosine)), abs=1e-9)
    left, right = (found.bars[n]["arb_arm_turn_deg"] for n in ("anti-roll bar", "anti-roll bar, right"))
    np.testing.assert_allclose(left[[0, 2, 4]], right[[0, 2, 4]], atol=1e-9)  # level: nothing twists it
    assert (left[3] - right[3]) * (left[4] - left[0]) < 0  # leaning right, the left wheel droops


def test_an_anti_roll_bar_changes_nothing_of_how_the_wheel_moves() -> None:
    with_bar, without = run("double-wishbone-anti-roll-bar", [-60.0, 40.0]), run("double-wishbone", [-60.0, 40.0])
    for key in ("camber_deg", "toe_deg", "roll_centre_path_mm"):
        np.testing.assert_allclose(with_bar.columns[key], without.columns[key], atol=1e-9)


def test_a_bar_on_the_axle_turns_as_one_on_the_chassis_does() -> None:
    # in pure travel of a beam the two differ only by which end of the drop link moves
    beam = changed(
        example("three-links-panhard"), additions={"anti-roll-bar": {"on": "axle", "carrier": "ground"}},
        points={"bar_inner": [200, 0, 300], "bar_outer": [200, 400, 300], "bar_arm": [40, 420, 300], "bar_drop": [40, 420, 200]},
    )  # fmt: skip
    on_axle = changed(beam, additions={"anti-roll-bar": {"on": "ground", "carrier": "axle"}})
    one, other = (run(end, [30.0]).bars["anti-roll bar, left"]["arb_arm_turn_deg"][0] for end in (beam, on_axle))
    assert one == pytest.approx(-other, abs=1.5)
    assert abs(one) == pytest.approx(np.degrees(30 / 160), rel=0.1)


def test_plunge_and_angles_of_a_level_shaft_in_closed_form() -> None:
    end = changed(
        parallel_arms(), points={"in": [0, 250, 300], "out": [0, 600, 300]},
        shafts={"shaft": {"inner": {"body": "ground", "point": "in"}, "outer": {"body": "upright", "point": "out"}}},
    )  # fmt: skip
    found = run(end, [-70.0, 0.0, 70.0])
    # parallel arms: the upright goes straight up and inward on the arms' circle
    inward = np.sqrt(350.0**2 - found.travel_mm**2) - 350.0
    length = np.hypot(350.0 + inward, found.travel_mm)
    np.testing.assert_allclose(found.columns["shaft_plunge_mm"], length - 350.0, atol=1e-9)
    angle = np.degrees(np.arctan2(np.abs(found.travel_mm), 350.0 + inward))
    np.testing.assert_allclose(found.shafts["shaft"]["shaft_angle_inner_deg"], angle, atol=1e-7)
    np.testing.assert_allclose(found.shafts["shaft"]["shaft_angle_outer_deg"], angle, atol=1e-7)


def test_both_joints_angles_of_a_shaft_and_how_far_they_differ() -> None:
    # the inner flange leans 4° up outward: in bump that is taken off its angle, and not off the outer one's
    lean = np.radians(4.0)
    end = changed(
        parallel_arms(), points={"in": [0, 250, 300], "out": [0, 600, 300]},
        shafts={"shaft": {"inner": {"body": "ground", "point": "in"}, "outer": {"body": "upright", "point": "out"},
                          "inner_axis": [0, float(np.cos(lean)), float(np.sin(lean))]}},
    )  # fmt: skip
    found = run(end, [70.0])
    angle = np.degrees(np.arcsin(70.0 / found.shafts["shaft"]["length_mm"][0]))
    columns = found.columns
    assert columns["shaft_angle_inner_deg"][0] == pytest.approx(angle - 4.0, abs=1e-6)
    assert columns["shaft_angle_outer_deg"][0] == pytest.approx(angle, abs=1e-6)
    assert columns["shaft_angle_difference_deg"][0] == pytest.approx(-4.0, abs=1e-6)
    assert columns["shaft_angle_deg"][0] == columns["shaft_angle_outer_deg"][0]


@pytest.mark.parametrize(("where", "sign"), [("rear", 1.0), ("front", -1.0)])
def test_a_pinion_points_away_from_its_own_end(where: str, sign: float) -> None:
    end = example("three-links-panhard", pinion_deg=3.0, end=where)
    found = run(end, [-60.0, 0.0, 60.0]).columns
    assert np.abs(found["pinion_change_deg"][[0, 2]]).min() > 0.1
    np.testing.assert_allclose(found["pinion_deg"], 3.0 + sign * found["pinion_change_deg"], atol=1e-12)
    assert "pinion_deg" not in run(example("three-links-panhard", pinion_deg=None), [0.0]).columns


@pytest.mark.parametrize(("off_line", "near"), [(25.0, True), (35.0, False), (155.0, True), (145.0, False)])
def test_a_drop_link_nearly_in_line_with_its_arm_is_told(off_line: float, near: bool) -> None:
    # arm from the bar's line ahead to its tip; the link from the tip, so many degrees off the arm's line folded back
    angle = np.radians(off_line)
    end = changed(
        example("double-wishbone-anti-roll-bar"),
        points={"bar_inner": [-300, 0, 330], "bar_outer": [-300, 440, 330], "bar_arm": [-90, 470, 330],
                "bar_drop": [-90 - 115 * float(np.cos(angle)), 470, 330 - 115 * float(np.sin(angle))]},
    )  # fmt: skip
    found = run(end, [0.0])
    assert found.bars["anti-roll bar"]["arb_link_angle_deg"][0] == pytest.approx(off_line, abs=1e-6)
    told = [watch for watch in watches(found, end) if "over-centre" in watch.what]
    assert [watch.kind for watch in told] == ["attention"]
    assert bool(told[0].excess[0] > 0) is near


# --- ride height, wheels alone, unpaired points ------------------------------------------------------------------------


@pytest.mark.parametrize("name", ["double-wishbone", "strut", "three-links-panhard", "five-link"])
def test_a_body_that_stands_higher_is_a_suspension_that_hangs_lower(name: str) -> None:
    end = example(name)
    raised = changed(end, ride={"rise_mm": 25.0})
    one, other = run(raised, [-20.0, 0.0, 30.0]), run(end, [-45.0, -25.0, 5.0])
    for key in ("camber_deg", "toe_deg", "roll_centre_path_mm", "roll_centre_mm", "pinion_change_deg", "motion_ratio"):
        if key in one.columns:
            np.testing.assert_allclose(one.columns[key], other.columns[key], atol=1e-8, err_msg=key)
    assert one.columns["half_track_change_mm"][1] == pytest.approx(0.0, abs=1e-9)


@pytest.mark.parametrize("name", ["double-wishbone", "double-wishbone-pushrod", "double-wishbone-rod-upper"])
def test_a_pitched_body_leans_its_steering_axis_by_the_pitch(name: str) -> None:
    end = example(name)
    level, nose_up = run(end, [0.0]).columns, run(changed(end, ride={"pitch_deg": 1.5}), [0.0]).columns
    assert nose_up["caster_deg"][0] - level["caster_deg"][0] == pytest.approx(1.5, abs=1e-9)
    assert nose_up["damper_length_mm"][0] == pytest.approx(level["damper_length_mm"][0], abs=1e-9)
    # of the wheel's lean the pitch makes a little toe, and back: the spin axis turned about y
    s = np.array((np.sin(np.radians(0.1)) * np.cos(np.radians(0.8)), 0.0, np.sin(np.radians(0.8))))
    turned = s[2] * np.cos(np.radians(1.5)) + s[0] * np.sin(np.radians(1.5))
    assert nose_up["camber_deg"][0] == pytest.approx(-np.degrees(np.arcsin(turned)), abs=1e-9)


@pytest.mark.parametrize("name", ["three-links-panhard", "triangulated-four-links", "three-links-panhard-steered"])
def test_one_wheel_of_a_beam_rises_alone(name: str) -> None:
    end = example(name)
    travel, roll = by_wheel(kind(name), end, np.array([[60.0, 0.0], [0.0, -35.0], [0.0, 0.0]]))
    side = solved_cycle(kind(name), end, np.vstack([travel, roll, np.zeros(2)])).left
    for sign, wanted in ((1.0, (60.0, 0.0)), (-1.0, (0.0, -35.0))):
        mark = side.assembled.wheel(sign)
        centre = side.solved.system.where(side.solved.poses, mark, side.solved.drives)
        np.testing.assert_allclose(centre[2] - mark.at[2], wanted, atol=1e-8)


def test_unpaired_points_that_are_the_mirror_image_change_nothing() -> None:
    end = example("double-wishbone")
    same = changed(end, right_points={n: [p[0], -p[1], p[2]] for n, p in end.points.items()})
    one, other = (run(e, [20.0], [1.5], [6.0]) for e in (end, same))
    for columns, others in ((one.columns, other.columns), (one.right, other.right)):
        for key, column in columns.items():
            np.testing.assert_allclose(column, others[key], atol=1e-8, err_msg=key)
    beam = example("four-links-panhard")
    p = beam.points["lower_axle"]
    alike = changed(beam, right_points={"lower_axle": [p[0], -p[1], p[2]]})
    np.testing.assert_allclose(
        run(beam, [20.0]).columns["axle_steer_deg"], run(alike, [20.0]).columns["axle_steer_deg"], atol=1e-9
    )


def test_an_unpaired_point_moves_its_own_side_alone() -> None:
    end = example("double-wishbone")
    x, y, z = end.points["tie_outer"]
    odd = changed(end, right_points={"tie_outer": [x, -y, z + 15]})
    one, other = run(end, [40.0]), run(odd, [40.0])
    assert other.columns["toe_deg"][0] == pytest.approx(one.columns["toe_deg"][0], abs=1e-9)
    assert abs(other.right["toe_deg"][0] - one.right["toe_deg"][0]) > 0.1


# --- drawn constructions -----------------------------------------------------------------------------------------------


def test_side_view_lines_of_straight_links_agree_with_the_path() -> None:
    # links that run fore and aft in their own planes and a rod that moves straight at ride height: the drawing is exact
    points = {n: (p if n == "wheel_centre" else [p[0], 400.0, p[2]]) for n, p in example("four-links-watts-axle").points.items()
              if not n.startswith("watts")}  # fmt: skip
    end = changed(example("four-links-watts-axle"), points=points)
    c = run(end, [0.0]).columns
    for key in ("anti_lift_percent", "anti_squat_percent"):
        assert c[key.replace("_percent", "_drawn_percent")][0] == pytest.approx(c[key][0], rel=1e-6)


def test_toe_to_the_ground_is_toe_in_the_plane_of_both_contacts() -> None:
    found = run("double-wishbone", [10.0], [3.0], [5.0])
    left, right = found.columns, found.right
    done = solved_cycle(kind("double-wishbone"), example("double-wishbone"), np.array([[10.0], [3.0], [5.0]]))
    one, two = (wheel_at(s.assembled, s.solved, 1.0) for s in done.sides)
    flip = np.array([1.0, -1.0, 1.0])
    cl, cr = one.contact[:, 0], two.contact[:, 0] * flip
    # the ground's axes: y through both contacts, x ahead, z up
    across = (cl - cr) * (0, 1, 1)
    across /= np.linalg.norm(across)
    up = np.cross((1.0, 0.0, 0.0), across)
    for columns, spin, sign in ((left, one.spin[:, 0], 1.0), (right, two.spin[:, 0] * flip, -1.0)):
        assert columns["camber_to_ground_deg"][0] == pytest.approx(-np.degrees(np.arcsin(spin @ up)), abs=1e-9)
        toe = np.degrees(np.arctan2(spin[0], sign * (spin @ across)))
        assert columns["toe_to_ground_deg"][0] == pytest.approx(toe, abs=1e-9)


# --- refusals ----------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("name", "more", "code", "field"),
    [
        ("double-wishbone", {"points": {"wheel_centre": [0, -712, 310]}}, "wrong_side", "points.wheel_centre"),
        ("double-wishbone", {"points": {"lower_outer": [4, -688, 186]}}, "wrong_side", "points.lower_outer"),
        ("double-wishbone", {"points": {"lower_outer": [185, 262, 208]}}, "collinear", "points.lower_outer"),
        ("double-wishbone", {"right_points": {"tie_outer": [112, 664, 262]}}, "wrong_side", "right_points.tie_outer"),
        ("double-wishbone", {"ride": {"rise_mm": 450.0}}, "out_of_range", "ride.rise_mm"),
        ("double-wishbone", {"additions": {"steered-axle": {}}}, "unfit", "additions.steered-axle"),
        ("double-wishbone", {"additions": {"wings": {}}}, "unknown_addition", "additions.wings"),
        ("double-wishbone", {"additions": {"anti-roll-bar": {}}}, "missing", "additions.anti-roll-bar.on"),
        ("double-wishbone", {"strap": {"a": {"body": "ground", "point": "nowhere"}, "b": {"body": "upright", "point": "tie_outer"},
                                       "length_mm": 300}}, "missing", "strap.a.point"),
        ("double-wishbone", {"bushes": {"tie rod": {}}}, "unknown_bush", "bushes.tie rod"),
        ("double-wishbone", {"obstacles": [{"name": "sump", "body": "engine", "shape": {"kind": "wall", "through": [0, 0, 0],
                                            "normal": [0, 0, 1]}}]}, "unknown_body", "obstacles.0.body"),
    ],
)  # fmt: skip
def test_what_makes_it_impossible_is_named_by_its_field(name: str, more: dict[str, Any], code: str, field: str) -> None:
    end = changed(example(name), **more)
    with pytest.raises(InputError) as caught:
        cycle(template_of(end), end, np.zeros((3, 1)))
    assert (caught.value.code, field in caught.value.fields) == (code, True)


# --- members and what they must miss -----------------------------------------------------------------------------------


@settings(max_examples=60, deadline=None)
@given(st.lists(st.floats(-100, 100), min_size=12, max_size=12))
def test_the_distance_of_two_bars_is_the_least_that_points_on_them_have(numbers: list[float]) -> None:
    p1, q1, p2, q2 = np.array(numbers).reshape(4, 3)
    found = segments(*(v[:, None] for v in (p1, q1, p2, q2)))[0]
    s = np.linspace(0, 1, 201)
    one, two = p1 + s[:, None] * (q1 - p1), p2 + s[:, None] * (q2 - p2)
    apart = np.linalg.norm(one[:, None] - two[None], axis=2)
    grain = (np.linalg.norm(q1 - p1) + np.linalg.norm(q2 - p2)) / 400
    assert apart.min() - grain - 1e-9 <= found <= apart.min() + 1e-9


@settings(max_examples=60, deadline=None)
@given(st.lists(st.floats(-100, 100), min_size=6, max_size=6), st.floats(-3, 3))
def test_the_distance_of_a_bar_to_a_block_is_the_least_that_its_points_have(numbers: list[float], angle: float) -> None:
    p, q = np.array(numbers).reshape(2, 3)
    turn = Rotation.from_rotvec([0.3 * angle, angle, -0.2]).as_matrix()
    half, centre = np.array([30.0, 20.0, 10.0]), np.array([5.0, -3.0, 8.0])
    found = segment_block(p[:, None], q[:, None], centre[:, None], turn.T[:, :, None], half)[0]
    s = np.linspace(0, 1, 2001)
    at = (p + s[:, None] * (q - p) - centre) @ turn
    apart = np.linalg.norm(at - np.clip(at, -half, half), axis=1)
    assert apart.min() - np.linalg.norm(q - p) / 4000 - 1e-9 <= found <= apart.min() + 1e-9


@pytest.mark.parametrize("side", ["left", "right"])
def test_each_damper_of_a_beam_has_its_length_and_ratio(side: str) -> None:
    end, h = example("radius-arms"), 0.01
    found = run(end, [20 - h, 20.0, 20 + h], [1.5])
    columns = found.columns if side == "left" else found.right
    length = columns["damper_length_mm"]
    assert columns["motion_ratio"][1] == pytest.approx(-(length[2] - length[0]) / (2 * h), rel=1e-5)
    # its eyes where the axle has them
    done = solved_cycle(kind("radius-arms"), end, np.array([[20.0], [1.5], [0.0]])).left
    a, b = (
        done.solved.system.where(done.solved.poses, done.assembled.place(place, side), done.solved.drives)[:, 0]
        for place in end.damper.places  # type: ignore[union-attr]
    )
    assert length[1] == pytest.approx(np.linalg.norm(a - b), abs=1e-9)


@pytest.mark.parametrize("name", ["double-wishbone", "three-links-panhard-steered"])
def test_a_spacer_and_another_offset_put_the_wheel_out_along_its_axle(name: str) -> None:
    plain = changed(example(name), wheel={"loaded_radius_mm": 310.0, "camber_deg": -2.0, "toe_deg": 0.5,
                                          "rim": {"barrel_radius_mm": 165.0, "spokes_mm": 35.0}})  # fmt: skip
    spaced = changed(plain, wheel={**plain.wheel.model_dump(), "spacer_mm": 20.0})
    rim = {**plain.wheel.rim.model_dump(), "offset_mm": 15.0}  # type: ignore[union-attr]  # 20 mm less offset: the same place
    other = changed(plain, wheel={**plain.wheel.model_dump(), "rim": rim})
    before, after, third = (run(end, [0.0], [0.0]) for end in (plain, spaced, other))
    out = 20.0 * np.cos(np.radians(2.0))  # the contact moves square to the wheel, down its plane no further
    for found in (after, third):
        assert found.columns["contact_y_mm"][0] - before.columns["contact_y_mm"][0] == pytest.approx(
            out * np.cos(np.radians(0.5)), abs=1e-9
        )
        assert found.columns["camber_deg"][0] == pytest.approx(-2.0, abs=1e-9)
    # the steering axis meets the ground of the new contact: scrub grows by the way out, seen level, less the axis' lean
    rise = after.columns["contact_z_mm"][0] - before.columns["contact_z_mm"][0]
    lean = np.tan(np.radians(before.columns["kingpin_inclination_deg"][0]))
    grown = after.columns["scrub_radius_mm"][0] - before.columns["scrub_radius_mm"][0]
    assert grown == pytest.approx(out + rise * lean, abs=0.05)
