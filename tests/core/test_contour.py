"""The one contour: area and extremes of lines and arcs by closed forms, against a general geometry library, and in any place and turn.

Closed forms are elementary geometry; the library is shapely, with arcs broken into short chords.
"""

from __future__ import annotations

from math import cos, hypot, pi, radians, sin

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely.geometry import Point as Dot

from tirante.core.flat.contour import Contour, Curve, Edge, Hole, Straight, grown, polygon, require_closed

SIZES = st.floats(5.0, 300.0)
PLACES = st.floats(-500.0, 500.0)


def circle(x: float, y: float, r: float, first: float = 0.0) -> Contour:
    return Contour(edges=(Curve(x, y, r, first, first + 180.0), Curve(x, y, r, first + 180.0, first + 360.0)))


def slot(x: float, y: float, length: float, r: float, turn: float) -> Contour:
    """Two half circles and the straights between them, at a turn [deg]."""
    along, across = (cos(radians(turn)), sin(radians(turn))), (-sin(radians(turn)), cos(radians(turn)))

    def at(u: float, v: float) -> tuple[float, float]:
        return x + u * along[0] + v * across[0], y + u * along[1] + v * across[1]

    far, near = at(length, 0.0), at(0.0, 0.0)
    edges: tuple[Edge, ...] = (
        Straight(*at(0.0, -r), *at(length, -r)), Curve(*far, r, turn - 90.0, turn + 90.0),
        Straight(*at(length, r), *at(0.0, r)), Curve(*near, r, turn + 90.0, turn + 270.0),
    )  # fmt: skip
    return Contour(edges=edges)


def box(x: float, y: float, w: float, h: float, notch: float = 0.0) -> Contour:
    """A rectangle, with a half circle of a radius bitten out of its top."""
    if not notch:
        corners = [(x, y), (x + w, y), (x + w, y + h), (x, y + h)]
        return Contour(edges=tuple(Straight(*a, *b) for a, b in zip(corners, corners[1:] + corners[:1], strict=True)))
    middle, top = x + w / 2, y + h
    edges: tuple[Edge, ...] = (
        Straight(x, y, x + w, y), Straight(x + w, y, x + w, top), Straight(x + w, top, middle + notch, top),
        Curve(middle, top, notch, 180.0, 360.0, back=True), Straight(middle - notch, top, x, top), Straight(x, top, x, y),
    )  # fmt: skip
    return Contour(edges=edges)


@settings(max_examples=60, deadline=None)
@given(PLACES, PLACES, SIZES, st.floats(-180.0, 180.0))
def test_a_circle_is_a_circle_wherever_its_arcs_begin(x: float, y: float, r: float, first: float) -> None:
    found = circle(x, y, r, first)
    assert found.gap < 1e-6
    assert found.area == pytest.approx(pi * r * r, rel=1e-9)
    assert found.bounds == pytest.approx((x - r, y - r, x + r, y + r), abs=1e-6)


@settings(max_examples=60, deadline=None)
@given(PLACES, PLACES, SIZES, SIZES, st.floats(-180.0, 180.0))
def test_a_slot_has_the_area_of_its_rectangle_and_its_circle_at_any_turn(
    x: float, y: float, length: float, r: float, turn: float
) -> None:
    found = slot(x, y, length, r, turn)
    require_closed(found, "slot")
    assert found.area == pytest.approx(2 * r * length + pi * r * r, rel=1e-9)
    # an arc reaches past its ends where it crosses the axes
    far = (x + length * cos(radians(turn)), y + length * sin(radians(turn)))
    low, high = min(y, far[1]) - r, max(y, far[1]) + r
    assert found.bounds == pytest.approx((min(x, far[0]) - r, low, max(x, far[0]) + r, high), abs=1e-6)


@settings(max_examples=40, deadline=None)
@given(PLACES, PLACES, st.floats(40.0, 300.0), st.floats(40.0, 300.0), st.floats(2.0, 15.0))
def test_a_bite_is_taken_off_and_holes_too(x: float, y: float, w: float, h: float, notch: float) -> None:
    whole, bitten = box(x, y, w, h), box(x, y, w, h, notch)
    assert whole.area == pytest.approx(w * h, rel=1e-9)
    assert bitten.area == pytest.approx(w * h - pi * notch**2 / 2, rel=1e-9)
    assert bitten.gap < 1e-6
    drilled = Contour(edges=bitten.edges, holes=(Hole(x + 5.0, y + 5.0, 6.0), Hole(x + 20.0, y + 8.0, 4.0)))
    assert bitten.area - drilled.area == pytest.approx(pi * (9.0 + 4.0), rel=1e-6)
    assert bitten.bounds == pytest.approx((x, y, x + w, y + h), abs=1e-6)


@pytest.mark.parametrize(
    "contour", [circle(3.0, -4.0, 25.0, 17.0), slot(0.0, 5.0, 80.0, 12.0, 33.0), box(-5.0, 2.0, 60.0, 45.0, 11.0)]
)
def test_the_polygon_of_a_contour_is_as_near_to_it_as_was_asked(contour: Contour) -> None:
    for within in (0.5, 0.05, 0.005):
        found = polygon(contour, within)
        assert found.is_valid
        around = found.length
        assert abs(found.area - contour.area) <= within * around
        assert found.bounds == pytest.approx(contour.bounds, abs=within + 1e-9)
    with_hole = Contour(edges=contour.edges, holes=(Hole(*polygon(contour).centroid.coords[0], 4.0),))
    assert polygon(contour).area - polygon(with_hole).area == pytest.approx(pi * 4.0, abs=0.1)


@pytest.mark.parametrize("by", [0.5, 3.0, 8.0])
def test_a_contour_that_is_grown_goes_round_every_place_that_is_so_near(by: float) -> None:
    contour = box(0.0, 0.0, 60.0, 45.0)
    found = grown(contour, by)
    assert found.area == pytest.approx(60.0 * 45.0 + 2 * (60.0 + 45.0) * by + pi * by * by, rel=2e-3)
    for angle in range(0, 360, 15):
        x, y = 60.0 + (by - 0.05) * cos(radians(angle)), 45.0 + (by - 0.05) * sin(radians(angle))
        assert found.contains(Dot(x, y))
    assert grown(circle(0.0, 0.0, 20.0), by).area == pytest.approx(pi * (20.0 + by) ** 2, rel=2e-3)
    assert grown(circle(0.0, 0.0, 20.0), -by).area == pytest.approx(pi * (20.0 - by) ** 2, rel=2e-3)


def test_an_edge_that_is_walked_back_begins_where_it_ended() -> None:
    there, back = Curve(0.0, 0.0, 10.0, 0.0, 90.0), Curve(0.0, 0.0, 10.0, 0.0, 90.0, back=True)
    assert (there.start, there.end) == (back.end, back.start)
    assert there.start == pytest.approx((10.0, 0.0))
    assert there.end == pytest.approx((0.0, 10.0), abs=1e-12)
    open_one = Contour(edges=(Straight(0.0, 0.0, 10.0, 0.0), Straight(10.0, 0.5, 0.0, 0.0)))
    assert open_one.gap == pytest.approx(0.5)
    assert hypot(*open_one.edges[0].end) == 10.0
