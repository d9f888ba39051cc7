"""Suspension ends: measures against finite differences and geometry, invariants, and an independent solver."""

import json
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from pydantic import ValidationError
from scipy.optimize import least_squares
from scipy.spatial.transform import Rotation

from tests.conftest import ROOT
from tests.jobs import template_of
from tirante.core.document.end import End, Vehicle
from tirante.core.document.template import Template
from tirante.core.errors import InputError
from tirante.core.mechanism.model import GROUND, Coincident, Coordinate, Distance, Mark, OnLine, Parallel, Turned
from tirante.core.mechanism.solve import CONVERGED, solve
from tirante.core.suspension.assemble import assemble_end
from tirante.core.suspension.cycle import Cycle, cycle, positions
from tirante.core.suspension.joints import misalignment, tilt
from tirante.shipped import the_shelf
from tirante.shipped.templates import read_templates

NAMES = sorted(path.stem for path in (ROOT / "data/ends").glob("*.json"))


def example(name: str, **more: Any) -> End:
    return End.model_validate_json(json.dumps({**json.loads((ROOT / f"data/ends/{name}.json").read_text()), **more}))


def kind(name: str) -> Template:
    return template_of(example(name))


BEAMS = [n for n in NAMES if kind(n).axle == "beam"]
CORNERS = [n for n in NAMES if n not in BEAMS]
RISING = [n for n in NAMES if kind(n).rises]


def run(name_or_end: str | End, travel: Any, roll: Any = (0.0,), steer: Any = (0.0,)) -> Cycle:
    end = example(name_or_end) if isinstance(name_or_end, str) else name_or_end
    return cycle(template_of(end), end, positions(travel, roll, steer))


def test_every_template_has_an_example_that_runs_through_its_travel() -> None:
    assert {example(n).template for n in NAMES} == set(the_shelf().templates)
    for name in NAMES:
        found = run(name, np.linspace(-60, 60, 13) if name in RISING else [0.0], (-2, 0, 2))
        assert set(found.status) == {"converged"}, name
        assert found.residual_mm.max() < 1e-9, name


@pytest.mark.parametrize("name", NAMES)
def test_at_ride_height_nothing_has_moved(name: str) -> None:
    found, wheel = run(name, [0.0]), example(name).wheel
    assert found.columns["camber_deg"][0] == pytest.approx(wheel.camber_deg, abs=1e-9)
    assert found.columns["toe_deg"][0] == pytest.approx(wheel.toe_deg, abs=1e-9)
    assert found.columns["half_track_change_mm"][0] == pytest.approx(0.0, abs=1e-9)
    assembled = assemble_end(kind(name), example(name))
    for link in assembled.links:
        assert found.links[link.name]["length_mm"][0] == pytest.approx(link.length, abs=1e-9)


@pytest.mark.parametrize("name", CORNERS)
def test_rates_are_the_slopes_of_what_they_are_rates_of(name: str) -> None:
    h = 0.01
    steps = np.array([-40 - h, -40, -40 + h, 25 - h, 25, 25 + h])
    found = run(name, steps)
    c = found.columns
    for i in (1, 4):
        dz = (c["contact_z_mm"][i + 1] - c["contact_z_mm"][i - 1]) / (2 * h)
        dy = (c["contact_y_mm"][i + 1] - c["contact_y_mm"][i - 1]) / (2 * h)
        assert c["roll_centre_path_mm"][i] == pytest.approx(c["contact_y_mm"][i] * dy / dz, rel=1e-5, abs=1e-3)
        toe = (c["toe_deg"][i + 1] - c["toe_deg"][i - 1]) / (2 * h)
        assert c["bump_steer_deg_per_mm"][i] == pytest.approx(toe, rel=1e-4, abs=1e-7)
        if "damper_length_mm" in c:  # of the damper, and of a spring that stands by itself
            rate = -(c["damper_length_mm"][i + 1] - c["damper_length_mm"][i - 1]) / (2 * h)
            assert c["damper_ratio" if "damper_ratio" in c else "motion_ratio"][i] == pytest.approx(rate, rel=1e-5)
        for unit in set(example(name).springs) & set(example(name).other_dampers):
            length = found.limits[unit]["length_mm"]
            assert c["motion_ratio"][i] == pytest.approx(-(length[i + 1] - length[i - 1]) / (2 * h), rel=1e-5)


@pytest.mark.parametrize("name", CORNERS)
def test_leaning_the_other_way_swaps_the_wheels(name: str) -> None:
    steer = 8.0 if "steer_axis" in str(kind(name).roles) and kind(name).steered else 0.0
    one = cycle(kind(name), example(name), np.array([[12.0], [2.5], [steer]]))
    other = cycle(kind(name), example(name), np.array([[12.0], [-2.5], [-steer]]))
    for measure in ("camber_deg", "toe_deg", "half_track_change_mm", "camber_to_ground_deg"):
        assert one.columns[measure][0] == pytest.approx(other.right[measure][0], abs=1e-9)


def test_the_left_wheel_droops_when_the_body_leans_right() -> None:
    found = run("double-wishbone", [0.0], [3.0])
    assert found.columns["contact_z_mm"][0] < found.right["contact_z_mm"][0]
    # the drop is the half-track times tan φ, within what the contact wanders
    assert found.right["contact_z_mm"][0] - found.columns["contact_z_mm"][0] == pytest.approx(
        2 * 716.3 * np.tan(np.radians(3)), rel=0.02
    )


def test_steering_left_turns_both_wheels_left() -> None:
    found = run("double-wishbone", [0.0], steer=[0.0, 15.0])
    assert found.columns["toe_deg"][1] < found.columns["toe_deg"][0] - 3
    assert found.right["toe_deg"][1] > found.right["toe_deg"][0] + 3
    assert np.isfinite(found.columns["ackermann_percent"][1])


def parallel_arms(height: float = 150.0) -> End:
    points = {
        "upper_front": (150, 300, 300 + height), "upper_rear": (-150, 300, 300 + height), "upper_outer": (0, 650, 300 + height),
        "lower_front": (150, 300, 200), "lower_rear": (-150, 300, 200), "lower_outer": (0, 650, 200),
        "tie_inner": (100, 300, 250), "tie_outer": (100, 650, 250), "wheel_centre": (0, 700, 300),
    }  # fmt: skip
    return End.model_validate({"template": "double-wishbone", "points": points, "wheel": {"loaded_radius_mm": 300.0}})


def test_equal_parallel_arms_keep_the_wheel_upright_on_a_circle() -> None:
    found = run(parallel_arms(), np.linspace(-80, 80, 17))
    c = found.columns
    assert np.abs(c["camber_deg"]).max() < 1e-9
    assert np.abs(c["toe_deg"]).max() < 1e-9
    np.testing.assert_allclose(c["half_track_change_mm"], np.sqrt(350.0**2 - found.travel_mm**2) - 350.0, atol=1e-8)
    # level arms: the roll centre lies on the ground, by path as by the drawing
    assert c["roll_centre_path_mm"][8] == pytest.approx(0.0, abs=1e-6)


def test_roll_centre_drawn_and_by_path_agree_when_the_arms_pivot_fore_and_aft() -> None:
    # pivot lines along x, outer joints in the wheel's own plane, tie rod aimed at the instant centre: the drawing is exact
    points = dict(parallel_arms().points)
    points |= {
        "upper_front": (150, 340, 440),
        "upper_rear": (-150, 340, 440),
        "upper_outer": (0, 620, 460),
        "lower_outer": (0, 660, 190),
    }
    end = parallel_arms().model_copy(update={"points": points})
    drawn = run(end, [0.0]).columns
    y, z = drawn["ic_front_drawn_y_mm"][0], drawn["ic_front_drawn_z_mm"][0]
    ty, tz = 650.0, 255.0
    reach = 300.0 / np.hypot(ty - y, tz - z)
    points |= {"tie_outer": (80.0, ty, tz), "tie_inner": (80.0, ty + (y - ty) * reach, tz + (z - tz) * reach)}
    c = run(end.model_copy(update={"points": points}), [0.0]).columns
    assert c["ic_front_y_mm"][0] == pytest.approx(c["ic_front_drawn_y_mm"][0], rel=1e-6)
    assert c["ic_front_z_mm"][0] == pytest.approx(c["ic_front_drawn_z_mm"][0], rel=1e-6)
    assert c["roll_centre_path_mm"][0] == pytest.approx(c["roll_centre_drawn_mm"][0], rel=1e-6)


def test_parallel_arms_have_their_drawn_roll_centre_on_the_line_through_the_contact() -> None:
    """Equal parallel arms that slope: the textbook's line through the contact patch, parallel to them (from memory)."""
    points = dict(parallel_arms().points)
    for name in ("upper_outer", "lower_outer", "tie_outer"):
        x, y, z = points[name]
        points[name] = (x, y, z - 40.0)  # 350 out, 40 down
    end = parallel_arms().model_copy(update={"points": points})
    c = run(end, [0.0]).columns
    contact = 700.0
    assert c["roll_centre_drawn_mm"][0] == pytest.approx(contact * 40.0 / 350.0, rel=1e-9)
    assert c["roll_centre_drawn_mm"][0] == pytest.approx(c["roll_centre_path_mm"][0], rel=1e-6)
    # leaning, both sides' lines meet where the true paths say too, since parallel arms' drawing is exact
    leaning = run(end, [0.0], roll=[2.0]).columns
    assert leaning["roll_centre_drawn_mm"][0] == pytest.approx(leaning["roll_centre_path_mm"][0], rel=1e-6)
    assert abs(leaning["roll_centre_drawn_mm"][0] - c["roll_centre_drawn_mm"][0]) > 0.5


def test_leaning_on_lines_that_run_parallel_there_is_no_roll_centre_rather_than_a_leap() -> None:
    # flat equal arms: at ride height both sides' lines slope alike in roll, above it they meet on one side, below on the other
    c = run(parallel_arms(), [-60.0, 0.0, 60.0], roll=[2.0]).columns
    for key in ("roll_centre_path_mm", "roll_centre_drawn_mm"):
        assert np.isnan(c[key]).tolist() == [False, True, False]
    assert c["roll_centre_y_mm"][0] * c["roll_centre_y_mm"][2] < 0
    track = 2 * 700.0
    far = np.abs(run(parallel_arms(), np.linspace(-60, 60, 121).tolist(), roll=[2.0]).columns["roll_centre_y_mm"])
    assert np.nanmax(far) < 10.05 * track
    assert np.nanmax(far) > 5 * track  # and no more is left out than that
    level = run(parallel_arms(), [0.0]).columns
    assert level["roll_centre_path_mm"][0] == pytest.approx(0.0, abs=1e-6)


def test_parallel_lines_from_the_side_give_the_anti_percentage_of_their_slope() -> None:
    """Both arms' pivot lines sloped alike: braking outboard, the line through the contact parallel to them."""
    points = dict(parallel_arms().points)
    for name, by in (("front", 15.0), ("rear", -15.0)):
        for arm in ("upper", "lower"):
            x, y, z = points[f"{arm}_{name}"]
            points[f"{arm}_{name}"] = (x, y, z + by)  # 300 along, 30 up to the front
    vehicle = {"wheelbase_mm": 2500.0, "cg_height_mm": 500.0, "brake_share": 0.6, "brakes": "outboard"}
    raw = {**parallel_arms().model_dump(mode="json"), "points": points, "vehicle": vehicle}
    c = run(End.model_validate(raw), [0.0]).columns
    # a contact that is pushed back by the brake rises along the line: up to the front is pro-dive
    assert c["anti_dive_drawn_percent"][0] == pytest.approx(-100 * 2500 / 500 * 0.6 * 30 / 300, rel=1e-9)
    assert c["anti_dive_drawn_percent"][0] == pytest.approx(c["anti_dive_percent"][0], rel=1e-6)


def test_anti_squat_of_a_trailing_arm_is_its_side_view_line() -> None:
    # brakes outboard: contact to the side-view instant centre; drive inboard: wheel centre to it
    found, end = run("trailing-arm", [0.0]).columns, example("trailing-arm")
    vehicle = end.vehicle
    assert vehicle is not None
    x, z = found["ic_side_x_mm"][0], found["ic_side_z_mm"][0]
    scale = 100 * vehicle.wheelbase_mm / vehicle.cg_height_mm
    cz = found["contact_z_mm"][0]
    assert found["anti_lift_percent"][0] == pytest.approx(scale * vehicle.brake_share * (z - cz) / x, rel=1e-3)
    assert found["anti_squat_percent"][0] == pytest.approx(scale * vehicle.drive_share * (z - 320.0) / x, rel=1e-3)


def test_caster_and_kingpin_are_those_of_the_outer_joints() -> None:
    end = example("double-wishbone")
    low, high = (np.array(end.points[n]) for n in ("lower_outer", "upper_outer"))
    k = high - low
    c = run(end, [0.0]).columns
    assert c["caster_deg"][0] == pytest.approx(np.degrees(np.arctan2(-k[0], k[2])))
    assert c["kingpin_inclination_deg"][0] == pytest.approx(np.degrees(np.arctan2(-k[1], k[2])))
    g = low + k * (c["contact_z_mm"][0] - low[2]) / k[2]
    assert c["scrub_radius_mm"][0] == pytest.approx(c["contact_y_mm"][0] - g[1], abs=0.2)
    assert c["mechanical_trail_mm"][0] == pytest.approx(g[0], abs=0.2)


def test_ackermann_of_a_position_is_its_own_whatever_stands_beside_it() -> None:
    alone = run("double-wishbone", [0.0], steer=[10.0]).columns["ackermann_percent"][0]
    template, end = the_shelf().templates["double-wishbone"], example("double-wishbone")
    rows = np.array([[-60.0, 0.0], [0.0, 0.0], [0.0, 10.0]])
    assert cycle(template, end, rows).columns["ackermann_percent"][1] == pytest.approx(alone, abs=1e-9)


def test_wheels_that_steer_alike_have_no_ackermann_and_the_spacing_is_the_kingpins() -> None:
    # tie rods square to arms that point straight back turn both wheels alike; kingpins upright 650 mm from the middle
    end = parallel_arms().model_copy(update={"vehicle": Vehicle(wheelbase_mm=2500.0, cg_height_mm=500.0)})
    points = dict(end.points) | {"tie_inner": (-100, 300, 250), "tie_outer": (-100, 650, 250)}
    found = run(end.model_copy(update={"points": points}), [0.0], steer=[0.001])
    assert found.columns["ackermann_percent"][0] == pytest.approx(0.0, abs=0.01)
    toed = {
        "tie_inner": (-100, 300, 250),
        "tie_outer": (-100, 630, 250),
    }  # arms that point inward: the inner turns more
    c = run(end.model_copy(update={"points": points | toed}), [0.0], steer=[12.0])
    inner, outer = -c.columns["toe_deg"][0], c.right["toe_deg"][0]
    have = 1 / np.tan(np.radians(outer)) - 1 / np.tan(np.radians(inner))
    assert c.columns["ackermann_percent"][0] == pytest.approx(100 * have / (1300 / 2500), rel=1e-9)
    assert c.columns["ackermann_percent"][0] > 5


# --- beams -------------------------------------------------------------------------------------------------------------


def level_panhard(**points: Any) -> End:
    three = json.loads((ROOT / "data/ends/three-links-panhard.json").read_text())
    three["points"] |= {"panhard_chassis": [0, 400, 350], "panhard_axle": [0, -400, 350], **points}
    return End.model_validate_json(json.dumps(three))


def test_a_level_panhard_rod_swings_the_axle_on_its_arc() -> None:
    # links level and along x leave the sideways motion to the rod alone
    level = {
        "lower_chassis": [800, 430, 300],
        "lower_axle": [0, 430, 300],
        "upper_chassis": [800, 0, 450],
        "upper_axle": [0, 0, 450],
    }
    found = run(level_panhard(**level), np.linspace(-90, 90, 19))
    # the links' own arc moves the axle fore and aft by the same arc, and the rod with it
    along = 800.0 - np.sqrt(800.0**2 - found.travel_mm**2)
    drop = 800.0 - np.sqrt(800.0**2 - found.travel_mm**2 - along**2)
    np.testing.assert_allclose(found.columns["lateral_shift_mm"], drop, atol=1e-3)
    assert np.abs(found.columns["axle_steer_deg"]).max() < 0.2


@pytest.mark.parametrize("name", BEAMS)
def test_a_mirrored_design_shifts_and_steers_the_other_way(name: str) -> None:
    end = example(name)
    paired = {p.name for p in kind(name).points if p.pair}
    mirror = {n: (p if n in paired else (p[0], -p[1], p[2])) for n, p in end.points.items()}
    other_kind = kind(name)
    if not end.additions:  # what the kind has on one side of the axle stands on the other
        sides = other_kind.model_dump_json().replace('"left"', '"x"').replace('"right"', '"left"')
        other_kind = Template.model_validate_json(sides.replace('"x"', '"right"'))
    rows = positions([-40, 0, 35], [0.0], [0.0])
    one = cycle(kind(name), end, rows)
    other = cycle(other_kind, end.model_copy(update={"points": mirror}), rows)
    for measure, sign in (
        ("lateral_shift_mm", -1),
        ("axle_steer_deg", -1),
        ("pinion_change_deg", 1),
        ("roll_centre_mm", 1),
    ):
        np.testing.assert_allclose(one.columns[measure], sign * other.columns[measure], atol=1e-6)


@pytest.mark.parametrize("name", [n for n in BEAMS if n in RISING])
def test_anti_percentages_of_a_beam_are_the_slope_of_its_own_path_under_the_wheels(name: str) -> None:
    end = example(name)
    vehicle = end.vehicle
    assert vehicle is not None
    assembled = assemble_end(kind(name), end)
    h = 0.01
    solved = solve(assembled.mechanism, np.array([[-h, h], [0.0, 0.0], [0.0, 0.0]]))
    x, _, z = assembled.wheel_centre.at
    under = Mark(assembled.axle_body, (x, 0.0, z - end.wheel.loaded_radius_mm))
    low, high = solved.system.where(solved.poses, under, solved.drives).T
    front = end.end == "front"
    slope = (high[0] - low[0]) / (high[2] - low[2]) * (1 if front else -1)  # of a rear axle: rearward as it rises
    brake, drive = ("anti_dive_percent", "anti_lift_percent") if front else ("anti_lift_percent", "anti_squat_percent")
    scale = 100 * vehicle.wheelbase_mm / vehicle.cg_height_mm
    c = run(end, [0.0]).columns
    assert c[brake][0] == pytest.approx(scale * vehicle.brake_share * slope, rel=1e-5, abs=1e-5)
    assert c[drive][0] == pytest.approx(scale * vehicle.drive_share * slope, rel=1e-5, abs=1e-5)
    # where nothing is said, a driven beam reacts its own torque
    unsaid = end.model_copy(update={"vehicle": vehicle.model_copy(update={"drive": None})})
    assert run(unsaid, [0.0]).columns[drive][0] == c[drive][0]


def test_the_roll_centre_of_a_panhard_axle_lies_on_the_rod() -> None:
    # in the rod's own transverse plane, at the height where the rod crosses the centre plane
    end = example("three-links-panhard")
    c = run(end, [0.0]).columns
    a, b = (np.array(end.points[n]) for n in ("panhard_chassis", "panhard_axle"))
    height = a[2] + (b[2] - a[2]) * a[1] / (a[1] - b[1])
    at_axle = height - np.tan(np.radians(c["roll_axis_deg"][0])) * a[0]
    assert c["roll_centre_mm"][0] == pytest.approx(at_axle, abs=1.0)


def test_parallel_links_bind_in_roll_and_not_in_travel() -> None:
    found = run("four-links-panhard", [-40, 0, 40], [0.0, 3.0])
    level, leaning = found.roll_deg == 0, found.roll_deg != 0
    forces = np.array([columns["bind_n"] for columns in found.links.values()])
    assert np.abs(forces[:, leaning]).max() > 100 * max(1e-3, np.abs(forces[:, level & (found.travel_mm == 0)]).max())
    # what binds is in equilibrium with itself: pushing links on one side are pulled on the other
    left = found.links["lower link, left"]["bind_n"][leaning]
    right = found.links["lower link, right"]["bind_n"][leaning]
    assert (left * right < 0).all()


def test_a_stiffer_link_binds_harder() -> None:
    soft = run(example("four-links-panhard"), [0.0], [3.0])
    links = {"lower link": {"stiffness_n_per_mm": 500_000.0}, "upper link": {"stiffness_n_per_mm": 500_000.0}}
    hard = run(example("four-links-panhard", links=links), [0.0], [3.0])
    name = "lower link, left"
    assert abs(hard.links[name]["bind_n"][0]) > 3 * abs(soft.links[name]["bind_n"][0])


# --- independent solution ----------------------------------------------------------------------------------------------


def by_least_squares(name: str, drives: dict[str, float]) -> dict[str, np.ndarray]:
    """Points of the wheel's body by a general optimiser on rotation vectors: no code shared with the solver."""
    assembled = assemble_end(kind(name), example(name))
    bodies = assembled.mechanism.bodies

    def place(x: np.ndarray, mark: Mark) -> np.ndarray:
        at = np.array(mark.at)
        if mark.body == GROUND:
            return at + np.array(mark.along) * (drives[mark.drive] if mark.drive else 0.0)
        i = 6 * bodies.index(mark.body)
        return 1000 * x[i : i + 3] + Rotation.from_rotvec(x[i + 3 : i + 6]).apply(at)

    def turn(x: np.ndarray, body: str, v: Any) -> np.ndarray:
        if body == GROUND:
            return np.array(v)
        i = 6 * bodies.index(body)
        return Rotation.from_rotvec(x[i + 3 : i + 6]).apply(np.array(v))

    def residuals(x: np.ndarray) -> np.ndarray:
        out: list[float] = []
        for c in assembled.mechanism.constraints:
            if isinstance(c, Distance):
                out.append(
                    float(np.linalg.norm(place(x, c.a) - place(x, c.b)) - np.linalg.norm(np.subtract(c.a.at, c.b.at)))
                )
            elif isinstance(c, Coincident):
                out += list(place(x, c.a) - place(x, c.b))
            elif isinstance(c, Parallel):
                axis = np.array(c.axis) / np.linalg.norm(c.axis)
                out += list(100 * np.cross(turn(x, c.body_a, axis), turn(x, c.body_b, axis)))
            elif isinstance(c, OnLine):
                along = turn(x, c.through.body, np.array(c.along) / np.linalg.norm(c.along))
                out += list(np.cross(place(x, c.mark) - place(x, c.through), along))
            elif isinstance(c, Coordinate):
                out.append(
                    float(np.dot(place(x, c.mark) - np.array(c.mark.at), c.along) - (drives[c.drive] if c.drive else 0))
                )
            elif isinstance(c, Turned):
                angle = drives[c.drive] if c.drive else 0.0
                e = turn(x, c.body, c.direction)
                # seen along `about`, the direction stands at that angle: square to where it would be a quarter turn on
                onward = Rotation.from_rotvec(np.array(c.about) * (angle + np.pi / 2)).apply(np.array(c.direction))
                out.append(100 * float(e @ onward))
        return np.array(out)

    start = np.full(6 * len(bodies), 1e-3)
    found = least_squares(residuals, start, xtol=1e-15, ftol=1e-15, gtol=1e-15, method="lm", max_nfev=20_000)
    assert np.abs(found.fun).max() < 1e-6
    return {
        "centre": place(found.x, assembled.wheel_centre),
        "spin": turn(found.x, assembled.wheel_centre.body, (0.0, 1.0, 0.0)),
    }


@pytest.mark.parametrize(
    "name", ["double-wishbone", "five-link", "strut", "three-links-panhard", "link-on-arm", "triangulated-four-links",
             "three-links-panhard-steered", "double-wishbone-anti-roll-bar", "double-wishbone-centre-steer"]
)  # fmt: skip
def test_positions_are_those_of_a_general_optimiser(name: str) -> None:
    assembled = assemble_end(kind(name), example(name))
    drivers = assembled.mechanism.drivers
    unit = np.radians(1.0) if assembled.turns else 1.0
    cases = [
        {"travel": 55.0, "steer": 12.0 * unit, "roll": 0.0},
        {"travel": -60.0, "steer": -8.0 * unit, "roll": 0.04},
        {"travel": 20.0, "steer": 0.0, "roll": -0.03},
    ]
    solved = solve(assembled.mechanism, np.array([[case[d] for case in cases] for d in drivers]))
    assert (solved.status == CONVERGED).all()
    for i, case in enumerate(cases):
        expected = by_least_squares(name, case)
        centre = solved.system.where(solved.poses, assembled.wheel_centre, solved.drives)[:, i]
        spin = solved.system.direction(solved.poses, assembled.wheel_centre.body, (0.0, 1.0, 0.0))[:, i]
        np.testing.assert_allclose(centre, expected["centre"], atol=1e-5)
        np.testing.assert_allclose(spin, expected["spin"], atol=1e-7)


@settings(max_examples=25, deadline=None)
@given(
    shift=st.lists(st.floats(-12, 12), min_size=27, max_size=27), travel=st.floats(-70, 70), steer=st.floats(-15, 15)
)
def test_any_sound_double_wishbone_holds_its_links_everywhere(shift: list[float], travel: float, steer: float) -> None:
    end = example("double-wishbone")
    names = [n for n in end.points if not n.startswith("damper")]
    points = {n: tuple(v + shift[3 * i + j] for j, v in enumerate(end.points[n])) for i, n in enumerate(names)}
    moved = end.model_copy(update={"points": points, "damper": None})
    found = run(moved, [travel], [0.0], [steer])
    assume(found.status[0] == "converged")
    assert found.residual_mm[0] < 1e-9
    length = np.linalg.norm(np.subtract(points["tie_inner"], points["tie_outer"]))
    assert found.links["tie rod"]["length_mm"][0] == pytest.approx(length, abs=1e-8)


def test_links_in_any_order_give_the_same() -> None:
    template = the_shelf().templates["five-link"]
    backwards = template.model_copy(update={"joints": template.joints[::-1]})
    rows = positions([-50, 0, 50], [0.0], [0.0])
    one, other = (cycle(t, example("five-link"), rows).columns for t in (template, backwards))
    for measure in ("camber_deg", "toe_deg", "roll_centre_path_mm"):
        np.testing.assert_allclose(one[measure], other[measure], atol=1e-8)


def test_a_new_template_is_a_data_file(tmp_path: Path) -> None:
    data = json.loads((ROOT / "data/templates/trailing-arm.json").read_text())
    data["name"] = "semi-trailing-arm"
    data["joints"] = [
        {
            "kind": "hinge",
            "name": "arm pivots",
            "body": "arm",
            "on": "ground",
            "points": ["pivot_in", "pivot_out"],
            "pair": True,
        }
    ]
    data["points"] = [
        {"name": n, "what": n, "measure": "", "pair": True} for n in ("pivot_in", "pivot_out", "wheel_centre")
    ]
    (tmp_path / "semi.json").write_text(json.dumps(data))
    template = read_templates(tmp_path)["semi-trailing-arm"]
    points = {"pivot_in": (300, 150, 250), "pivot_out": (420, 560, 250), "wheel_centre": (0, 700, 300)}
    end = End.model_validate({"template": template.name, "points": points, "wheel": {"loaded_radius_mm": 300.0}})
    found = cycle(template, end, positions([-50, 0, 50], [0.0], [0.0]))
    assert set(found.status) == {"converged"}
    camber = found.columns["camber_deg"]
    assert camber[2] < camber[1] < camber[0]
    # a swing about one line: the wheel's centre keeps its distance from it
    assembled = assemble_end(template, end)
    solved = solve(assembled.mechanism, np.array([[-50.0, 0.0, 50.0], [0.0, 0.0, 0.0]]))
    centre = solved.system.where(solved.poses, assembled.wheel_centre, solved.drives).T
    axis = np.array((120.0, 410.0, 0.0)) / np.hypot(120, 410)
    away = np.linalg.norm(np.cross(centre - np.array(points["pivot_in"]), axis), axis=1)
    np.testing.assert_allclose(away, away[1], atol=1e-8)


@pytest.mark.parametrize(
    ("role", "value"), [("wheel_centre", "hub"), ("wheel_body", "knuckle"), ("steer_axis", ["pivot_in", "hub"])]
)
def test_a_template_whose_roles_are_nowhere_is_refused(role: str, value: Any) -> None:
    data = json.loads((ROOT / "data/templates/trailing-arm.json").read_text())
    data["roles"][role] = value
    with pytest.raises(ValidationError) as caught:
        Template.model_validate_json(json.dumps(data))
    assert f"roles.{role}" in str(caught.value)


# --- joints ------------------------------------------------------------------------------------------------------------


@settings(max_examples=60, deadline=None)
@given(st.lists(st.floats(-1, 1), min_size=9, max_size=9), st.floats(-3, 3))
def test_misalignment_is_the_best_that_any_roll_of_the_link_gives(numbers: list[float], clocking: float) -> None:
    vectors = np.array(numbers).reshape(3, 3)
    if (np.linalg.norm(vectors, axis=1) < 0.2).any():
        return
    link, a, b = (v / np.linalg.norm(v) for v in vectors)
    if min(np.linalg.norm(np.cross(link, a)), np.linalg.norm(np.cross(link, b))) < 0.05:
        return
    found = misalignment(link[:, None], a[:, None], b[:, None], clocking)
    u = np.cross(link, np.eye(3)[np.argmin(np.abs(link))])
    u /= np.linalg.norm(u)
    v = np.cross(link, u)
    best = np.inf
    for roll in np.linspace(0, np.pi, 7201):
        bore_a = np.cos(roll) * u + np.sin(roll) * v
        bore_b = np.cos(roll + clocking) * u + np.sin(roll + clocking) * v
        worst = max(np.arccos(min(1, abs(bore_a @ a))), np.arccos(min(1, abs(bore_b @ b))))
        best = min(best, worst)
    assert max(found[0][0], found[1][0]) == pytest.approx(best, abs=1e-3)
    # no end can be better than its tilt
    assert found[0][0] >= tilt(link[:, None], a[:, None])[0] - 1e-9


def test_bolts_square_to_a_link_and_alike_leave_nothing() -> None:
    link, bolt = np.array([[1.0], [0.0], [0.0]]), np.array([[0.0], [0.0], [1.0]])
    np.testing.assert_allclose(np.concatenate(misalignment(link, bolt, bolt, 0.0)), 0.0, atol=1e-7)
    quarter = misalignment(link, bolt, np.array([[0.0], [1.0], [0.0]]), 0.0)
    np.testing.assert_allclose(np.degrees(np.concatenate(quarter)), 45.0, atol=1e-6)
    np.testing.assert_allclose(
        np.concatenate(misalignment(link, bolt, np.array([[0.0], [1.0], [0.0]]), np.pi / 2)), 0.0, atol=1e-7
    )


# --- refusals ----------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"tie_outer": None}, "points.tie_outer"), ({"steering_box": (0, 0, 0)}, "points.steering_box"),
        ({"tie_inner": "tie_outer"}, "points.tie_inner"), ({"upper_rear": "upper_front"}, "points.upper_front"),
    ],
)  # fmt: skip
def test_an_impossible_point_is_named(change: dict[str, Any], field: str) -> None:
    end = example("double-wishbone")
    points = dict(end.points)
    for name, value in change.items():
        if value is None:
            del points[name]
        else:
            points[name] = points[value] if isinstance(value, str) else value
    with pytest.raises(InputError) as caught:
        run(end.model_copy(update={"points": points}), [0.0])
    assert field in caught.value.fields


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"damper": {"a": {"body": "nobody"}}}, "damper.a.body"),
        ({"damper": {"b": {"point": "nowhere"}}}, "damper.b.point"),
        ({"damper": {"a": {"body": "upright", "point": "damper_low"}}}, "damper.a.point"),
        ({"damper": {"closed_mm": 600.0}}, "damper.closed_mm"),
        ({"links": {"tierod": {"a": None}}}, "links.tierod"),
        ({"links": {"tie rod": {"b": {"bolt_axis": [0, 0, 0]}}}}, "links.tie rod.b.bolt_axis"),
    ],
)
def test_a_damper_or_link_that_is_nowhere_is_named(change: dict[str, Any], field: str) -> None:
    data = json.loads((ROOT / "data/ends/double-wishbone.json").read_text())
    for part, values in change.items():
        for name, value in values.items():
            old = data[part].get(name)
            data[part][name] = {**old, **value} if isinstance(old, dict) and isinstance(value, dict) else value
    with pytest.raises(InputError) as caught:
        run(End.model_validate_json(json.dumps(data)), [0.0])
    assert field in caught.value.fields


def test_a_travel_that_cannot_be_reached_leaves_the_rest_of_the_study() -> None:
    found = run("double-wishbone", [-400.0, -50.0, 0.0, 50.0, 400.0])
    assert found.status[1:4] == ("converged",) * 3
    assert found.status[0] != "converged"
    assert found.status[4] != "converged"
    assert np.isnan(found.columns["camber_deg"][[0, 4]]).all()
    assert np.isfinite(found.columns["camber_deg"][1:4]).all()


@pytest.mark.parametrize("name", NAMES)
def test_a_position_has_the_same_measures_whatever_is_asked_beside_it(name: str) -> None:
    # redundant ends too, and where other positions of the batch cannot be reached
    template, design = kind(name), example(name)
    rows = np.array([[-140.0, -35.0, 0.0, 25.0, 60.0, 400.0], [3.0, -2.0, 0.0, 1.5, 0.0, 0.0], [0.0] * 6])
    together = cycle(template, design, rows)
    for i in range(rows.shape[1]):
        alone = cycle(template, design, rows[:, i : i + 1])
        assert alone.status[0] == together.status[i]
        for key, column in alone.columns.items():
            np.testing.assert_allclose(
                column[..., 0], together.columns[key][..., i], rtol=1e-13, atol=1e-13, err_msg=key
            )
