"""Brackets on members of the car: feet put on tubes, boxes and flats in space, and what is asked of them by the joint alone."""

from __future__ import annotations

from math import asin, cos, degrees, hypot, radians, sin, tan

import numpy as np
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from numpy.typing import NDArray

from tirante.core.brackets.saddle import Saddle, saddle
from tirante.core.brackets.standing import on_box, on_flat, on_round
from tirante.core.errors import InputError, NotApplicable

Array = NDArray[np.float64]
number = st.floats(-1.0, 1.0)
way = st.tuples(number, number, number).map(np.array).filter(lambda v: np.linalg.norm(v) > 0.2)


def off(place: Array, a: Array, u: Array) -> float:
    rel = place - a
    return float(np.linalg.norm(rel - (rel @ u) * u))


@given(way, way, way, st.floats(30, 120), st.floats(0.3, 3.0))
@settings(max_examples=300, deadline=None)
def test_a_foot_meets_its_tube_wherever_the_joint_and_its_bolt_are(
    run: Array, bolt: Array, side: Array, od: float, far: float
) -> None:
    a, u = np.array([100.0, -40.0, 300.0]), run / np.linalg.norm(run)
    out = side - (side @ u) * u
    assume(np.linalg.norm(out) > 0.1)
    place = a + 200.0 * u + out / np.linalg.norm(out) * (od / 2) * (1 + far)
    try:
        one = on_round(place, bolt, a, a + 500.0 * u, od)
    except NotApplicable:
        return
    axes = np.stack([one.x, one.y, one.bolt])
    square = one.angle_deg == 90.0  # taken so from half a degree off
    assert axes @ axes.T == pytest.approx(np.eye(3), abs=1e-9)
    assert one.foot + one.height * one.y == pytest.approx(place, abs=0.05 if square else 1e-6)
    assert off(one.foot, a, u) == pytest.approx(od / 2, abs=1e-6)
    # the foot of either plate, at every place that reaches the tube, lies on it: by the sizes that the plate is cut from alone
    for x in (-0.2 * od, 0.0, 0.15 * od):
        for beside in (-0.15 * od, 0.0, 0.2 * od):
            corner = one.corner(x, beside)
            if not np.isnan(corner).any():
                assert off(corner, a, u) == pytest.approx(od / 2, abs=0.3 if square else 5e-6)
    assert one.angle_deg == pytest.approx(degrees(asin(min(1.0, abs(one.bolt @ u)))), abs=0.51 if square else 1e-6)


def test_square_across_along_and_slanting_as_a_fabricator_would_name_them() -> None:
    a, b = np.array([0.0, 0.0, 0.0]), np.array([0.0, 400.0, 0.0])  # a tube across the car
    above = np.array([0.0, 150.0, 70.0])
    square = on_round(above, np.array([0.0, 1.0, 0.0]), a, b, 60.0)
    assert (square.angle_deg, square.height, square.along, square.lean_deg) == pytest.approx((90.0, 40.0, 150.0, 0.0))
    along = on_round(above, np.array([1.0, 0.0, 0.0]), a, b, 60.0)
    assert (along.angle_deg, along.height, along.lean_deg) == pytest.approx((0.0, 40.0, 0.0))
    # beside the crown: the plates stand along the tube and 10 mm off, so that they start lower and lean to its skin
    beside = on_round(above + np.array([10.0, 0.0, 0.0]), np.array([1.0, 0.0, 0.0]), a, b, 60.0)
    assert abs(beside.lean_deg) == pytest.approx(degrees(asin(10 / 30)))
    assert beside.height == pytest.approx(70.0 - np.sqrt(900.0 - 100.0))
    slanting = on_round(above, np.array([sin(radians(30)), cos(radians(30)), 0.0]), a, b, 60.0)
    assert slanting.angle_deg == pytest.approx(60.0)
    # where it is set out: a quarter round from the top, toward the front
    ahead = on_round(np.array([70.0, 150.0, 0.0]), np.array([0.0, 1.0, 0.0]), a, b, 60.0)
    assert abs(ahead.round_deg or 0) == pytest.approx(90.0)
    assert square.round_deg == pytest.approx(0.0)


def test_a_leaning_plate_s_foot_is_where_a_ray_in_the_plate_meets_the_tube() -> None:
    """By marching along the plate instead of the quadratic, and by the nearest place of many instead of the bisection."""
    r, psi = 35.0, radians(50)
    bolt = np.array([sin(psi), cos(psi) * cos(radians(30)), cos(psi) * sin(radians(30))])
    place = np.array([20.0, -6.0, 66.0])
    one = on_round(place, bolt, np.zeros(3), np.array([400.0, 0.0, 0.0]), 2 * r)
    assert abs(one.lean_deg) > 5.0
    cut = Saddle(tube_od=2 * r, angle=radians(one.angle_deg), lean=radians(one.lean_deg))
    for x, beside in ((-15.0, 0.0), (0.0, 9.0), (11.0, -9.0)):
        start, low, high = one.foot + x * one.x + beside * one.bolt, -30.0, 60.0  # outside at the far end
        low = cut.foot(x, beside) - 5.0
        for _ in range(80):
            middle = (low + high) / 2
            at = start + middle * one.y
            if hypot(at[1], at[2]) < r:
                low = middle
            else:
                high = middle
        assert cut.foot(x, beside) == pytest.approx(low, abs=1e-6)
    # of all places of the tube in the middle plane none is nearer to the joint
    turns = np.linspace(0, 2 * np.pi, 200_001)
    skin = np.stack([r * np.cos(turns), r * np.sin(turns)])
    ahead = (place @ bolt - skin[0] * bolt[1] - skin[1] * bolt[2]) / bolt[0]
    far = np.sqrt((ahead - place[0]) ** 2 + (skin[0] - place[1]) ** 2 + (skin[1] - place[2]) ** 2)
    assert one.height == pytest.approx(far.min(), abs=1e-6)
    assert cut.foot(0.0) == pytest.approx(0.0, abs=1e-9)


def test_the_faces_of_a_leaning_plate_meet_the_tube_at_the_angle_between_their_normals() -> None:
    r = 40.0
    bolt = np.array([sin(radians(35)), cos(radians(35)) * cos(radians(20)), cos(radians(35)) * sin(radians(20))])
    one = on_round(np.array([5.0, 4.0, 75.0]), bolt, np.zeros(3), np.array([300.0, 0.0, 0.0]), 2 * r)
    cut = Saddle(tube_od=2 * r, angle=radians(one.angle_deg), lean=radians(one.lean_deg))
    widest = 0.0
    for x in np.linspace(-14, 14, 301):
        at = one.corner(float(x), 0.0)
        widest = max(widest, degrees(asin(abs(one.bolt @ np.array([0.0, at[1], at[2]]) / r))))
    assert degrees(cut.widest_weld(14.0)) == pytest.approx(90.0 + widest, abs=0.01)


def test_a_plate_along_its_tube_is_refused_where_its_side_is_too_steep_for_a_fillet_and_not_for_its_width() -> None:
    assert saddle(80.0, 0.0, 200.0, 5.0, 0.0, 15.0).foot(-200.0) == saddle(80.0, 0.0, 5.0, 5.0, 0.0, 15.0).foot(0.0)
    with pytest.raises(NotApplicable) as steep:
        saddle(50.0, 0.0, 20.0, 5.0, 0.0, 14.0)  # 12.5 is half the radius: 120° there
    assert "closer together" in steep.value.message
    saddle(50.0, 0.0, 20.0, 5.0, 0.0, 12.49)
    with pytest.raises(InputError, match="none does"):
        saddle(50.0, 0.0, 20.0, 5.0, 0.0, 24.0)


def test_on_a_flat_both_feet_lie_in_it_and_the_plates_lean_as_the_bolt_does() -> None:
    n = np.array([0.0, 0.0, 1.0])
    bolt = np.array([cos(radians(20)), 0.0, sin(radians(20))])
    one = on_flat(np.array([5.0, 7.0, 60.0]), bolt, np.zeros(3), n)
    assert one.lean_deg == pytest.approx(20.0)
    assert one.height == pytest.approx(60.0 / cos(radians(20)))
    for x in (-20.0, 20.0):
        for beside in (-14.0, 14.0):
            assert one.corner(x, beside)[2] == pytest.approx(0.0, abs=1e-9)
    # the foot of the plate that the bolt rises toward lies lower in its plate by what it leans
    assert (one.corner(0.0, 14.0) - one.foot) @ one.y == pytest.approx(-14.0 * tan(radians(20)))
    with pytest.raises(NotApplicable, match="behind"):
        on_flat(np.array([0.0, 0.0, -3.0]), bolt, np.zeros(3), n)
    with pytest.raises(NotApplicable, match="points at"):
        on_flat(np.array([0.0, 0.0, 30.0]), n, np.zeros(3), n)


def test_of_a_box_the_face_before_the_joint_is_taken_and_what_reaches_past_it_is_counted() -> None:
    a, b, up = np.array([0.0, 0.0, 0.0]), np.array([-600.0, 0.0, 0.0]), np.array([0.0, 0.0, 1.0])
    low = on_box(np.array([-200.0, 10.0, -90.0]), np.array([0.0, 1.0, 0.0]), a, b, up, (60.0, 80.0))
    assert (low.face, low.height, low.along) == ("lower", pytest.approx(50.0), pytest.approx(200.0))
    # 10 mm off the middle of a face 60 wide; the plates' outer faces stand 18 mm off the joint's middle
    assert low.overhang(20.0, 18.0) == pytest.approx(10.0 + 18.0 - 30.0)
    assert low.overhang(20.0, 21.0) == pytest.approx(1.0)
    # near its end the foot reaches past it
    end = on_box(np.array([-10.0, 0.0, -90.0]), np.array([0.0, 1.0, 0.0]), a, b, up, (60.0, 80.0))
    assert end.overhang(15.0, 18.0) == pytest.approx(5.0)
    side = on_box(np.array([-200.0, 75.0, 5.0]), np.array([1.0, 0.0, 0.0]), a, b, up, (60.0, 80.0))
    assert (side.face, side.height) == ("left", pytest.approx(45.0))
    # the box's own height may lean: its faces go with it
    leant = np.array([0.0, sin(radians(10)), cos(radians(10))])
    turned = on_box(np.array([-200.0, 0.0, -90.0]), np.array([1.0, 0.0, 0.0]), a, b, leant, (60.0, 80.0))
    assert turned.height == pytest.approx(90.0 * cos(radians(10)) - 40.0)
    with pytest.raises(NotApplicable, match="inside"):
        on_box(np.array([-200.0, 3.0, 4.0]), np.array([0.0, 1.0, 0.0]), a, b, up, (60.0, 80.0))


def test_a_bolt_that_points_at_its_tube_or_plates_that_pass_it_are_refused() -> None:
    a, b = np.zeros(3), np.array([0.0, 400.0, 0.0])
    with pytest.raises(NotApplicable, match="points at"):
        on_round(np.array([80.0, 100.0, 0.0]), np.array([1.0, 0.0, 0.0]), a, b, 60.0)
    with pytest.raises(NotApplicable, match="beside it"):
        on_round(np.array([32.0, 100.0, 50.0]), np.array([1.0, 0.0, 0.0]), a, b, 60.0)
    with pytest.raises(NotApplicable, match="inside it"):
        on_round(np.array([10.0, 100.0, 10.0]), np.array([0.0, 1.0, 0.0]), a, b, 60.0)
