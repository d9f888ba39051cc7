"""Sections, walls, holes, joints, welds and tab feet by integration and by what must follow from them."""

from math import cos, pi, radians, sin

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tirante.core.brackets.bolt import PinStack, pin_bending_moment, pin_bending_stress
from tirante.core.brackets.lug import Lug, lug_strength
from tirante.core.brackets.tab_bending import tab_foot_stress
from tirante.core.errors import InputError
from tirante.core.members.insert_weld import insert_weld
from tirante.core.members.rod_end import rod_end_strength
from tirante.core.members.thread import parse_thread
from tirante.core.members.tube import Holes, Section, net_section, wall_slenderness

outside = st.floats(10, 80)
share = st.floats(0.03, 0.49)


@given(outside, share)
def test_area_and_second_moment_are_the_integrals_over_the_ring(od: float, part: float) -> None:
    section = Section(od=od, wall=od * part)
    r, w = np.polynomial.legendre.leggauss(40)
    inner = od / 2 - od * part
    radius = inner + (od / 2 - inner) * (r + 1) / 2
    weight = w * (od / 2 - inner) / 2
    assert section.area == pytest.approx(float((weight * 2 * pi * radius).sum()), rel=1e-9)
    assert section.second_moment == pytest.approx(float((weight * pi * radius**3).sum()), rel=1e-9)
    assert section.radius_of_gyration == pytest.approx((section.second_moment / section.area) ** 0.5)


def test_a_bar_is_a_tube_whose_wall_is_its_radius() -> None:
    bar, tube = Section(od=30.0, wall=None), Section(od=30.0, wall=15.0 - 1e-9)
    assert bar.area == pytest.approx(tube.area)
    assert bar.second_moment == pytest.approx(tube.second_moment)


@pytest.mark.parametrize(("od", "wall"), [(30.0, 15.1), (30.0, 0.0), (30.0, -2.0), (0.0, 1.0)])
def test_a_section_that_cannot_be_names_its_field(od: float, wall: float) -> None:
    with pytest.raises(InputError) as caught:
        Section(od=od, wall=wall)
    assert caught.value.fields


@given(outside, share, st.integers(0, 2), st.floats(2, 9))
def test_holes_take_their_width_times_the_wall(od: float, part: float, count: int, hole: float) -> None:
    section = Section(od=od, wall=od * part)
    taken = count * hole * od * part
    if hole >= od or taken >= section.area:
        return
    found = net_section(section, [Holes(diameter=hole, count=count)], 400.0, 500.0, 300.0)
    assert found.net_area == pytest.approx(section.area - taken)
    assert found.yield_force == pytest.approx(300.0 * section.area)
    assert found.capacity == min(found.yield_force, found.rupture_force)


def test_a_welded_yield_above_the_delivered_one_gives_nothing() -> None:
    section = Section(od=40.0, wall=3.0)
    assert net_section(section, [], 300.0, 500.0, 350.0).yield_force == pytest.approx(300.0 * section.area)


def test_holes_that_leave_nothing_are_refused() -> None:
    with pytest.raises(InputError) as caught:
        net_section(Section(od=20.0, wall=3.0), [Holes(diameter=18.0, count=4)], 300, 400)
    assert caught.value.fields == ("holes",)


def test_a_stronger_steel_needs_a_thicker_wall() -> None:
    section = Section(od=60.0, wall=1.0)
    mild, strong = wall_slenderness(section, 235.0, 210_000.0), wall_slenderness(section, 700.0, 210_000.0)
    assert mild.compression_limit > strong.compression_limit
    assert mild.d_over_t == strong.d_over_t == pytest.approx(60.0)


# --- joints and welds --------------------------------------------------------------------------------------------------


def rod_end(**more: float) -> object:
    fields = {
        "head_diameter": 44.0,
        "housing_width": 17.0,
        "housing_bore": 36.0,
        "ball_diameter": 33.0,
        "body_ultimate": 860.0,
        "race_pressure": 240.0,
        **more,
    }
    return rod_end_strength(parse_thread("3/4-16 UNF"), **fields)  # type: ignore[arg-type]


def test_a_joint_is_as_strong_as_its_weakest_part_unless_its_maker_says() -> None:
    found = rod_end()
    assert found.rating == min(found.shank, found.eye, found.race)  # type: ignore[attr-defined]
    assert "governs" in found.source  # type: ignore[attr-defined]
    said = rod_end(maker_static=50_000.0)
    assert said.rating == 50_000.0  # type: ignore[attr-defined]
    assert said.source == "maker"  # type: ignore[attr-defined]


def test_a_wider_eye_carries_more_and_its_shank_does_not() -> None:
    narrow, wide = rod_end(housing_width=12.0), rod_end(housing_width=24.0)
    assert wide.eye == pytest.approx(2 * narrow.eye)  # type: ignore[attr-defined]
    assert wide.shank == narrow.shank  # type: ignore[attr-defined]


@pytest.mark.parametrize(
    ("change", "field"), [({"housing_bore": 45.0}, "housing_bore_mm"), ({"ball_diameter": 37.0}, "ball_diameter_mm")]
)
def test_a_ball_that_does_not_go_in_is_named(change: dict[str, float], field: str) -> None:
    with pytest.raises(InputError) as caught:
        rod_end(**change)
    assert caught.value.fields == (field,)


def test_the_weaker_of_electrode_and_base_holds_the_insert() -> None:
    strong = insert_weld(40.0, 4.0, 10.0, 2, 483.0, 600.0)
    weak_base = insert_weld(40.0, 4.0, 10.0, 2, 483.0, 200.0)
    assert strong.ring == pytest.approx(0.6 * 483 * 0.707 * 4 * pi * 40)
    assert weak_base.ring == pytest.approx(0.6 * 200 * 4 * pi * 40)
    assert weak_base.plugs == pytest.approx(2 * 25 * pi * 0.6 * 200)
    assert insert_weld(40.0, 4.0, 10.0, 0, 483.0, 600.0).capacity == strong.ring


# --- pins, lugs, feet --------------------------------------------------------------------------------------------------


@given(st.floats(10, 40), st.floats(0, 15), st.floats(3, 15))
def test_the_pin_s_moment_is_that_of_its_spread_loads(ball: float, gap: float, plate: float) -> None:
    # half the pin: plate reaction spread over the plate, half the ball's load spread over half the ball, moment at the middle
    force = 10_000.0
    x = np.linspace(0, ball / 2 + gap + plate, 20_001)
    load = np.where(x < ball / 2, force / ball, 0.0)
    load = np.where(x > ball / 2 + gap, -force / 2 / plate, load)
    numeric = -np.trapezoid(load * x, x)
    found = pin_bending_moment(PinStack(ball_width=ball, gap=gap, plate=plate, planes=2), force)
    assert found == pytest.approx(numeric, rel=2e-3)


def test_bending_stress_falls_with_the_cube_of_the_pin() -> None:
    assert pin_bending_stress(10.0, 1e5) == pytest.approx(8 * pin_bending_stress(20.0, 1e5))


def test_more_metal_beyond_the_hole_helps_tear_out_only() -> None:
    base = {"thickness": 6.0, "width": 60.0, "hole": 16.4, "pin": 16.0}
    near, far = (lug_strength(Lug(**base, edge=edge), 275.0, 410.0) for edge in (30.0, 45.0))
    assert far.shear_rupture > near.shear_rupture
    assert far.bearing == near.bearing
    assert far.tension_rupture == near.tension_rupture


@pytest.mark.parametrize(
    ("change", "field"),
    [({"hole": 15.0}, "pin_mm"), ({"edge": 8.0}, "edge_mm"), ({"width": 16.0}, "hole_mm")],
)
def test_a_lug_that_cannot_be_names_its_field(change: dict[str, float], field: str) -> None:
    with pytest.raises(InputError) as caught:
        Lug(**{"thickness": 6.0, "width": 60.0, "hole": 16.4, "pin": 16.0, "edge": 35.0, **change})
    assert field in caught.value.fields


@given(st.floats(-180, 180), st.floats(0, 20_000), st.floats(0, 2000))
def test_the_foot_s_stress_is_the_worst_corner_of_a_rectangle(angle: float, force: float, side: float) -> None:
    t, w, h = 6.0, 70.0, 45.0
    share_of = force / 2
    n, v, lateral = share_of * cos(radians(angle)), share_of * sin(radians(angle)), side / 2
    corners = [
        abs(n / (t * w) + sx * v * h * (w / 2) / (t * w**3 / 12) + sy * lateral * h * (t / 2) / (w * t**3 / 12))
        for sx in (-1, 1) for sy in (-1, 1)
    ]  # fmt: skip
    assert tab_foot_stress(t, w, h, 2, force, angle, side) == pytest.approx(max(corners), rel=1e-9, abs=1e-9)
