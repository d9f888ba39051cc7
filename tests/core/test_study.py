"""Studies, postures and the end's drawing; invariances of the measures."""

from typing import Any

import numpy as np
import pytest

from tests.core.test_statics import IN_BUSHES
from tests.core.test_suspension import BEAMS, CORNERS, NAMES, RISING, example, kind, parallel_arms, run
from tests.jobs import template_of
from tirante.core.drawing.model import Area, Drawing, Line, Text
from tirante.core.drawing.sheet import Numbers
from tirante.core.quantities import format_length
from tirante.core.suspension.cycle import measured, positions, resolved, roll_centre, solved_cycle
from tirante.core.suspension.shown.drawn import Plotted, _swept, draw_plots, draw_views
from tirante.core.suspension.shown.end_view import Axis, Plot, WheelShape, _hull, _rims, plots_sheet, views_sheet
from tirante.core.suspension.shown.measures_shown import BY_KEY, MEASURES, PLOTTED, ROLL_CENTRE, at_ride
from tirante.core.suspension.shown.posture import postures
from tirante.core.suspension.study import _passes, study
from tirante.shipped import the_shelf

SAME = (
    "camber_deg",
    "toe_deg",
    "half_track_change_mm",
    "bump_steer_deg_per_mm",
    "roll_centre_path_mm",
    "lateral_shift_mm",
    "axle_steer_deg",
    "pinion_change_deg",
    "roll_centre_mm",
    "motion_ratio",
    "caster_deg",
    "scrub_radius_mm",
)


@pytest.mark.parametrize("name", NAMES)
def test_moving_the_whole_car_forward_changes_nothing(name: str) -> None:
    end = example(name)
    moved = end.model_copy(update={"points": {n: (p[0] - 2500.0, p[1], p[2]) for n, p in end.points.items()}})
    one, other = (run(e, [-40, 0, 40], [0.0, 2.0]) for e in (end, moved))
    for measure in SAME:
        if measure in one.columns:
            np.testing.assert_allclose(one.columns[measure], other.columns[measure], atol=1e-5, err_msg=measure)


@pytest.mark.parametrize("name", NAMES)
def test_a_car_of_twice_the_size_has_the_same_angles(name: str) -> None:
    end = example(name)
    wheel = end.wheel.model_copy(update={"loaded_radius_mm": 2 * end.wheel.loaded_radius_mm})
    # a bush's stiffness against leaning has a length squared in it
    bushes = {
        n: b.model_copy(update={"conical_nmm_per_deg": b.conical_nmm_per_deg and 4 * b.conical_nmm_per_deg})
        for n, b in end.bushes.items()
    }
    points = {n: tuple(2 * v for v in p) for n, p in end.points.items()}
    double = end.model_copy(update={"points": points, "wheel": wheel, "bushes": bushes})
    one, other = run(end, [-30, 0, 30]), run(double, [-60, 0, 60])
    for measure in SAME:
        if measure not in one.columns:
            continue
        factor = (
            2.0
            if measure.endswith("_mm") and not measure.endswith("per_mm")
            else 0.5
            if measure.endswith("per_mm")
            else 1.0
        )
        np.testing.assert_allclose(other.columns[measure], factor * one.columns[measure], atol=1e-5, err_msg=measure)


@pytest.mark.parametrize("name", RISING)
def test_halving_the_height_of_the_mass_doubles_the_anti_percentages(name: str) -> None:
    end = example(name)
    assert end.vehicle is not None
    low = end.model_copy(
        update={"vehicle": end.vehicle.model_copy(update={"cg_height_mm": end.vehicle.cg_height_mm / 2})}
    )
    one, other = run(end, [0.0]).columns, run(low, [0.0]).columns
    found = [k for k in one if k.startswith("anti_")]
    assert found
    for key in found:
        assert other[key][0] == pytest.approx(2 * one[key][0])


def test_a_limit_is_passed_between_its_neighbours_or_at_ride_height_already() -> None:
    travel, value = np.array([-10.0, 0.0, 10.0, 20.0]), np.array([4.0, 2.0, -2.0, np.nan])
    assert _passes(travel, value - 3.0) == [(-5.0, False)]
    assert _passes(travel, value - 9.0) == []
    assert _passes(travel, value) == [(0.0, True), (5.0, False)]


@pytest.mark.parametrize(("limit", "word"), [({"closed_mm": 999.0}, "closed"), ({"open_mm": 10.0}, "open")])
def test_a_damper_that_is_too_long_or_too_short_at_ride_height_stops_it_there(
    limit: dict[str, float], word: str
) -> None:
    end = example("double-wishbone")
    assert end.damper is not None
    wrong = end.damper.model_copy(update={"closed_mm": None, "open_mm": None, **limit})
    found = study(the_shelf().templates["double-wishbone"], end.model_copy(update={"damper": wrong}), 80, 80, 0.0, 0.0)
    assert (found.lowest, found.highest) == (0.0, 0.0)
    assert found.bump == found.droop == f"the damper is past {word} at ride height"


def test_a_joint_past_its_limit_at_ride_height_is_a_stop_and_one_near_it_a_warning() -> None:
    end = example("double-wishbone")
    joint = {"bolt_axis": (0.0, 1.0, 1.0), "limit_deg": None}
    tilt = run(example("double-wishbone", links={"tie rod": {"a": joint}}), [0.0]).links["tie rod"]["tilt_a_deg"][0]
    assert tilt > 1
    for limit, kinds in ((tilt * 0.9, {"stop"}), (tilt * 1.1, {"attention"})):
        links = {"tie rod": {"a": {**joint, "limit_deg": float(limit)}}}
        tight = example("double-wishbone", links=links, damper=None, points=dict(_without_damper(end)))
        found = study(the_shelf().templates["double-wishbone"], tight, 5, 5, 0.0, 0.0)
        assert {e.kind for e in found.events if e.at_ride} == kinds
        assert (found.highest == 0.0) is ("stop" in kinds)


def _without_damper(end: Any) -> dict[str, Any]:
    return {name: place for name, place in end.points.items() if not name.startswith("damper")}


def test_a_damper_s_ends_are_where_its_length_is() -> None:
    end = example("double-wishbone")
    assert end.damper is not None
    found = study(the_shelf().templates["double-wishbone"], end, 80, 80, 0.0, 0.0)
    for event in found.events:
        length = run(end, [event.travel]).columns["damper_length_mm"][0]
        wanted = end.damper.closed_mm if "closed" in event.what else end.damper.open_mm
        # straight between positions 4 mm apart: a few hundredths of a millimetre
        assert length == pytest.approx(wanted, abs=0.05)
    assert (found.lowest, found.highest) == tuple(sorted(e.travel for e in found.events))


def test_without_a_damper_nothing_is_said_to_stop_it() -> None:
    end = example("five-link")
    found = study(the_shelf().templates["five-link"], end, 50, 60, 0.0, 0.0)
    assert found.events == ()
    assert (found.lowest, found.highest) == (-60, 50)
    assert "nothing stops it" in found.bump


def test_every_measure_shown_is_one_that_some_end_has_with_its_unit() -> None:
    seen = {key for name in NAMES for key in run(name, [0.0]).columns}
    for measure in MEASURES:
        assert measure.key in seen, measure.key
        ranges = [measure.usual(use) for use in ("road", "circuit", "off-road")]  # type: ignore[arg-type]
        assert all((one is None) == (measure.why == "") for one in ranges)
        assert all(one is None or one[0] < one[1] for one in ranges)
        assert measure.unit in {"°", "mm", "%"} or measure.key.startswith(
            ("motion_ratio", "damper_ratio", "bump_steer")
        )
    for axle, keys in PLOTTED.items():
        assert all(BY_KEY[key].short for key in keys)
        assert ROLL_CENTRE[axle] in keys


@pytest.mark.parametrize("name", NAMES)
def test_values_at_ride_height_are_those_of_the_cycle(name: str) -> None:
    end = example(name)
    found = study(template_of(end), end, 30, 30, 2.0, 4.0)
    ride = run(end, [0.0]).columns
    shown = {measure.key: value for measure, value in at_ride(found)}
    assert shown
    for key, value in shown.items():
        assert value == pytest.approx(ride[key][0], abs=1e-9)  # however it leans along its travel


def test_a_length_over_a_plot_is_written_as_the_sheet_writes_lengths() -> None:
    template, end = the_shelf().templates["double-wishbone"], example("double-wishbone")
    found = study(template, end, 30, 30, 0.0, 0.0)
    height = {m.key: v for m, v in at_ride(found)}["roll_centre_path_mm"]
    for numbers, words in (
        (Numbers(), f"{height:.1f}"),
        (Numbers(unit="in"), format_length(height, "in", inch_denominator=32) + "″"),
    ):
        drawing = draw_plots("F", template, found, numbers, 0.0, 0.0, 0.0)
        assert words in {i.text for i in drawing.items if isinstance(i, Text) and i.ref == "measure:roll centre"}


def test_out_of_reach_nothing_is_drawn() -> None:
    rows = np.array([[400.0, 0.0], [0.0, 0.0], [0.0, 0.0]])
    assert draw_views("F", solved_cycle(kind("strut"), example("strut"), rows), Numbers()) is None


@pytest.mark.parametrize("along", ["roll", "steer"])
def test_plots_along_roll_or_steer_are_the_cycle_s_own_values(along: str) -> None:
    template, end = kind("double-wishbone"), example("double-wishbone")
    found = study(template, end, 30, 30, 1.0, 0.0)
    at, columns = _swept(found, Plotted(along=along, reach=2.5), 12.0, 1.0, 4.0)  # type: ignore[arg-type]
    rows = (12.0, at[3], 4.0) if along == "roll" else (12.0, 1.0, at[3])
    here = run(end, *([v] for v in rows))
    for key in ("camber_deg", "toe_deg"):
        assert columns[key][3] == pytest.approx(here.columns[key][0], abs=1e-9)
    drawing = draw_plots("F", template, found, Numbers(), 12.0, 1.0, 4.0, found, Plotted(along=along, reach=5.0))  # type: ignore[arg-type]
    lines = [i for i in drawing.items if isinstance(i, Line) and i.ref == "measure:camber"]
    assert len([i for i in lines if i.tone == "muted"]) == len(
        [i for i in lines if i.tone == "ink"]
    )  # another revision: the same


# --- what is drawn -----------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("name", NAMES)
def test_links_are_drawn_at_their_length_at_every_position(name: str) -> None:
    template, end = kind(name), example(name)
    rows = np.array([[0.0, 45.0, -45.0], [0.0, 2.0, -2.0], [0.0, 0.0, 0.0]])
    rows[0] *= name in RISING
    at_ride, *others = postures(template, end, rows)
    assert at_ride is not None
    for other in others:
        assert other is not None
        assert len(other.sticks) == len(at_ride.sticks)
        for a, b in zip(at_ride.sticks, other.sticks, strict=True):
            if a.ref.startswith("member:"):
                continue  # dampers and shafts change their length
            then, now = (np.linalg.norm(np.subtract(s.a, s.b)) for s in (a, b))
            # redundant links give a little in roll; what is drawn of a body is rigid
            assert now == pytest.approx(then, abs=0.5 if a.thick and name in (*BEAMS, *IN_BUSHES) else 1e-6)


@pytest.mark.parametrize("name", ["double-wishbone-pushrod", "double-wishbone-rod-upper"])
def test_a_rocker_is_drawn_to_its_dampers_eye_and_to_both_its_joints(name: str) -> None:
    posture = postures(kind(name), example(name), np.array([[30.0], [0.0], [0.0]]))[0]
    assert posture is not None
    damper, other = (stick for stick in posture.sticks if stick.ref.startswith("member:damper"))
    assert damper.b[1] * other.b[1] < 0  # one a side
    rocker = [
        (stick.a, stick.b) for stick in posture.sticks if stick.ref == "body:rocker" and stick.a[1] * damper.b[1] > 0
    ]
    corners = {point for line in rocker for point in line}
    assert len(rocker) == 3
    assert len(corners) == 3
    assert damper.b in corners


@pytest.mark.parametrize("name", CORNERS)
def test_level_and_straight_the_right_side_is_the_left_one_s_image(name: str) -> None:
    posture = postures(kind(name), example(name), np.array([[20.0], [0.0], [0.0]]))[0]
    assert posture is not None
    half = len(posture.sticks) // 2
    for left, right in zip(posture.sticks[:half], posture.sticks[half:], strict=True):
        np.testing.assert_allclose(np.array(left.a) * (1, -1, 1), right.a, atol=1e-8)
    one, other = posture.wheels
    np.testing.assert_allclose(np.array(one.contact) * (1, -1, 1), other.contact, atol=1e-8)


def test_what_is_drawn_of_a_leaning_car_is_what_was_measured() -> None:
    # a wheel that stands with camber touches the ground beside its centre: both must take the same place for the lean
    end = example("double-wishbone")
    end = end.model_copy(update={"wheel": end.wheel.model_copy(update={"camber_deg": -8.0})})
    measured = run(end, [10.0], [3.0], [5.0])
    drawn = postures(the_shelf().templates["double-wishbone"], end, np.array([[10.0], [3.0], [5.0]]))[0]
    assert drawn is not None
    for wheel, columns in zip(drawn.wheels, (measured.columns, measured.right), strict=True):
        assert abs(wheel.contact[1]) == pytest.approx(columns["contact_y_mm"][0], abs=1e-8)
        assert wheel.contact[2] == pytest.approx(columns["contact_z_mm"][0], abs=1e-8)


def test_where_the_lines_run_parallel_the_plot_has_a_gap_with_a_word() -> None:
    end, template = parallel_arms(), the_shelf().templates["double-wishbone"]
    found = study(template, end, 60.0, 60.0, 2.0, 0.0)
    leaning = draw_plots("t", template, found, Numbers(unit="mm"), 60.0, 2.0, 0.0)
    words = [item.text for item in leaning.items if isinstance(item, Text)]
    assert words.count("lines parallel") == 1
    level = draw_plots("t", template, study(template, end, 60.0, 60.0, 0.0, 0.0), Numbers(unit="mm"), 60.0, 0.0, 0.0)
    assert "lines parallel" not in [item.text for item in level.items if isinstance(item, Text)]
    (at_ride, _) = draw_views(
        "t", resolved(found.done, np.array([[0.0, 0.0], [2.0, 0.0], [0.0, 0.0]])), Numbers(unit="mm")
    ) or (None, ())
    assert at_ride is not None
    assert any("run parallel" in item.text for item in at_ride.items if isinstance(item, Text))


def test_a_position_out_of_reach_has_no_posture() -> None:
    found = postures(
        the_shelf().templates["double-wishbone"],
        example("double-wishbone"),
        np.array([[0.0, 400.0], [0.0, 0.0], [0.0, 0.0]]),
    )
    assert found[0] is not None
    assert found[1] is None


def test_a_tyre_s_outline_is_as_wide_and_tall_as_the_tyre() -> None:
    wheel = WheelShape(
        centre=(0.0, 700.0, 310.0), spin=(0.0, 1.0, 0.0), radius=310.0, width=195.0, contact=(0.0, 700.0, 0.0)
    )
    points = np.array(_rims(wheel))
    np.testing.assert_allclose(points.min(axis=0), (-310.0, 602.5, 0.0), atol=1.0)
    np.testing.assert_allclose(points.max(axis=0), (310.0, 797.5, 620.0), atol=1.0)
    tilted = WheelShape(centre=(0, 0, 0), spin=(0.1, 0.98, -0.17), radius=100.0, width=50.0, contact=(0, 0, 0))
    size = np.linalg.norm(tilted.spin)
    radii = np.linalg.norm(np.cross(np.array(_rims(tilted)), np.array(tilted.spin) / size), axis=1)
    np.testing.assert_allclose(radii, 100.0, rtol=2e-2)


def test_the_outline_holds_every_point_and_turns_one_way() -> None:
    rng = np.random.default_rng(2)
    points = [(float(x), float(y)) for x, y in rng.normal(size=(60, 2))]
    outline = _hull(points)
    for (x1, y1), (x2, y2) in zip(outline, [*outline[1:], outline[0]], strict=True):
        for x, y in points:
            assert (x2 - x1) * (y - y1) - (y2 - y1) * (x - x1) >= -1e-9
    assert set(outline) <= set(points)


def sheet(at: float) -> Drawing:
    template, end = the_shelf().templates["double-wishbone"], example("double-wishbone")
    now, ride = postures(template, end, np.array([[at, 0.0], [0.0, 0.0], [0.0, 0.0]]))
    travel = (-80.0, -40.0, 0.0, 40.0, 80.0)
    plot = Plot(name="camber", unit="°", values=(1.0, 0.4, 0.0, -0.6, None), now=-0.3, signed=True)
    assert now is not None
    assert ride is not None
    views = views_sheet("Front", now, ride, (0.0, 80.0), Numbers())
    plots = plots_sheet("Front", (plot,), Axis("travel", "mm", travel, at), ((-40.0, "open", "ink"),), Numbers())
    return views.model_copy(update={"items": views.items + plots.items})


def test_travel_stands_up_the_page() -> None:
    def height(at: float) -> float:
        rows = [
            i
            for i in sheet(at).items
            if isinstance(i, Line) and i.tone == "blue" and i.style == "thin" and i.y1 == i.y2
        ]
        return rows[-1].y1

    assert height(-60.0) < height(0.0) < height(60.0)
    assert height(60.0) - height(0.0) == pytest.approx(height(0.0) - height(-60.0))


def test_a_gap_in_a_measure_is_a_gap_in_its_line() -> None:
    lines = [i for i in sheet(0.0).items if isinstance(i, Line) and i.ref == "measure:camber"]
    assert len(lines) == 3  # four known values, three stretches, none to the missing one


def test_the_ghost_stays_at_ride_height_while_the_wheel_moves() -> None:
    def outlines(at: float, style: str) -> list[tuple[tuple[float, float], ...]]:
        return [i.points for i in sheet(at).items if isinstance(i, Area) and i.style == style and len(i.points) > 12]

    assert outlines(0.0, "hidden") == []  # at ride height there is nothing behind
    assert outlines(50.0, "hidden") != outlines(50.0, "visible")
    assert len(outlines(50.0, "hidden")) == len(outlines(0.0, "visible"))
    words = [i.text for i in sheet(50.0).items if isinstance(i, Text)]
    assert "+50.0" in words
    assert "ride" in words


@pytest.mark.parametrize("name", NAMES)
def test_the_roll_centre_that_is_drawn_is_the_one_that_is_measured(name: str) -> None:
    end = example(name)
    template = template_of(end)
    done = solved_cycle(template, end, positions([-20.0, 0.0, 15.0], [-1.5, 0.0, 2.0], [0.0]))
    columns = measured(done).columns
    height, y = roll_centre(done)
    assert np.allclose(height, columns[ROLL_CENTRE[template.axle]], rtol=0, atol=1e-9, equal_nan=True)
    assert np.allclose(y, columns.get("roll_centre_y_mm", 0.0 * height), rtol=0, atol=1e-9, equal_nan=True)
    assert np.isfinite(height).any()
