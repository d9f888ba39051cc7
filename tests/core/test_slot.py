"""Slots: their edges against a library that swells a line, the metal round them, what friction holds along them and the strip beside them."""

from __future__ import annotations

from dataclasses import replace
from math import cos, pi, radians, sin
from typing import Any

import numpy as np
import pytest
from shapely.geometry import LineString, Polygon

from tests.jobs import part_of, with_part, work
from tirante.calc import calculate
from tirante.core.brackets.slot import beside_stress
from tirante.core.document.design import Design
from tirante.core.document.fields import Length
from tirante.core.document.parts.bracket import ArcOfHoles, RowOfHoles, TabPair
from tirante.core.errors import InputError
from tirante.core.flat.contour import Curve, Straight, points_along, polygon, require_closed, slot
from tirante.core.job.hole_table import hole_table, put_in_hole
from tirante.core.parts.bracket.families.hole_pattern import holes_of, slot_line, slot_run
from tirante.core.parts.bracket.families.slot_checks import shares
from tirante.core.parts.bracket.families.tab_outline import tab_outline
from tirante.core.parts.kind import ViewAsked
from tirante.core.parts.numbers import numbers_of
from tirante.core.parts.registry import kind_of
from tirante.documents.cutting_table import Refused, drive
from tirante.documents.dxf import to_dxf

TAB = {"head_radius": 22.0, "edge": 22.0, "base_width": 110.0, "height": 55.0, "hole": 13.0, "thickness": 6.0}
LINES = [
    Straight(0.0, 0.0, 24.0, 0.0), Straight(3.0, 1.0, -11.0, 19.0), Curve(30.0, 0.0, 30.0, 150.0, 215.0), Curve(0.0, -70.0, 70.0, 75.0, 105.0, back=True),
]  # fmt: skip


@pytest.mark.parametrize("line", LINES)
def test_a_slot_is_its_middle_line_swollen(line: Any) -> None:
    """By another library's buffer of that line, and its area by Pappus: the run times the width, and a round of the width."""
    edges = slot(line, 13.0)
    for one, two in zip(edges, (*edges[1:], edges[0]), strict=True):
        assert np.hypot(one.end[0] - two.start[0], one.end[1] - two.start[1]) < 1e-9
    middle = [*points_along([line], 1e-5), line.end]
    other = LineString(middle).buffer(6.5, quad_segs=256)
    mine = Polygon(points_along(edges, 1e-5))
    assert mine.exterior.is_ccw
    assert mine.symmetric_difference(other).area < 0.02
    assert mine.area == pytest.approx(slot_run(line) * 13.0 + pi * 13.0**2 / 4, rel=2e-5)


@pytest.mark.parametrize(
    "line", [Straight(0.0, 0.0, 22.0, 12.0), Curve(60.0, 0.0, 60.0, 165.0, 195.0), Curve(0.0, 45.0, 45.0, 245.0, 300.0)]
)
def test_a_slot_has_as_much_metal_round_it_as_a_hole_has(line: Any) -> None:
    outline = tab_outline(**TAB, more=[line.start, line.end], through=line)
    require_closed(outline.contour, "tab")
    whole = polygon(replace(outline.contour, openings=()), 1e-4)
    (opening,) = outline.contour.openings
    ring = Polygon(points_along(opening, 1e-4))
    assert ring.exterior.distance(whole.exterior) == pytest.approx(22.0 - 6.5, abs=0.03)
    assert not outline.contour.holes
    assert polygon(outline.contour, 1e-4).area == pytest.approx(outline.contour.area, rel=1e-5)
    assert outline.contour.area == pytest.approx(whole.area - ring.area, rel=1e-5)


def test_a_slot_that_its_arc_has_no_room_for_is_refused() -> None:
    with pytest.raises(InputError, match="does not go round"):
        slot(Curve(0.0, 0.0, 6.0, 0.0, 90.0), 13.0)


def test_the_strip_beside_a_slot_bends_as_a_beam_fixed_at_both_ends() -> None:
    """Two elements of a beam by the stiffness method: moments at the ends and under the force."""
    length, width, t, h, force = 30.0, 12.5, 6.0, 14.0, 9000.0
    span, e = length + width, 1.0
    half = span / 2
    k = e * np.array([[12, 6 * half, -12, 6 * half], [6 * half, 4 * half**2, -6 * half, 2 * half**2],
                      [-12, -6 * half, 12, -6 * half], [6 * half, 2 * half**2, -6 * half, 4 * half**2]]) / half**3  # fmt: skip
    whole = np.zeros((6, 6))
    whole[:4, :4] += k
    whole[2:, 2:] += k
    moved = np.zeros(6)
    moved[2:4] = np.linalg.solve(whole[2:4, 2:4], [-force / 2, 0.0])
    moment = abs((whole @ moved)[1])
    assert beside_stress(force, length, width, t, h) == pytest.approx(6 * moment / (t * h**2))
    found = calculate(
        "slot",
        {"length_mm": 30, "width_mm": 12.5, "thickness_mm": 6, "beside_mm": 14, "force_n": 9000, "clamp_n": 40000},
    )
    assert found["stress_mpa"] == pytest.approx(6 * moment / (t * h**2))
    assert found["slip_n"] == pytest.approx(0.63 * 2 * 0.2 * 40000 / 1.25)


def held(design: Design) -> TabPair:
    return next(part for part in design.of_kind(TabPair) if part.name == "Rear lower link, end A, tabs")


def slotted(tab: TabPair, **more: Any) -> TabPair:
    holes = RowOfHoles(count=4, pitch_mm=8.0, slotted=True, **{"angle_deg": 0.0, **more})
    return tab.model_copy(update={"holes": holes, "in_hole": 1, "base_width": Length(mm=120.0)})


@pytest.mark.parametrize(
    ("way", "pull", "swing"),
    [
        (0.0, 0.0, 0.0),
        (90.0, 0.0, 0.0),
        (30.0, 20.0, 0.0),
        (0.0, 10.0, 25.0),
        (70.0, 0.0, 35.0),
        (120.0, 80.0, 5.0),
        (60.0, 75.0, 15.0),
        (120.0, 30.0, 5.0),
        (20.0, 40.0, 10.0),
    ],
)
def test_how_much_of_a_pull_goes_along_a_slot_is_the_most_of_all_ways_that_it_may_point(
    way: float, pull: float, swing: float, mounted: Design
) -> None:
    tab = slotted(held(mounted), angle_deg=way)
    direction = np.array([cos(radians(way)), sin(radians(way))])
    pulls = [
        np.array([s * sin(radians(a)), cos(radians(a))])
        for a in np.linspace(pull - swing, pull + swing, 2001)
        for s in (1, -1)
    ]
    along = max(abs(float(p @ direction)) for p in pulls)
    across = max(abs(float(p[0] * direction[1] - p[1] * direction[0])) for p in pulls)
    assert shares(tab, (pull - swing, pull + swing)) == pytest.approx((along, across), abs=1e-6)


def test_along_an_arc_slot_the_pull_meets_every_direction_of_it(mounted: Design) -> None:
    tab = held(mounted).model_copy(
        update={"holes": ArcOfHoles(count=5, radius_mm=60.0, toward_deg=0.0, step_deg=10.0, slotted=True)}
    )
    line = slot_line(tab)
    assert isinstance(line, Curve)
    places = np.array(holes_of(tab))
    assert np.hypot(*(places - [60.0, 0.0]).T) == pytest.approx(np.full(5, 60.0))
    assert {tuple(np.round(p, 6)) for p in (line.start, line.end)} == {tuple(np.round(places[i], 6)) for i in (0, -1)}
    tangents = np.gradient(
        np.array([[60 - 60 * cos(t), -60 * sin(t)] for t in np.radians(np.linspace(0, 40, 4001))]), axis=0
    )
    tangents /= np.linalg.norm(tangents, axis=1)[:, None]
    pulls = [np.array([s * sin(radians(a)), cos(radians(a))]) for a in np.linspace(15.0, 25.0, 101) for s in (1, -1)]
    along = max(np.abs(tangents @ p).max() for p in pulls)
    assert shares(tab, (15.0, 25.0))[0] == pytest.approx(along, abs=2e-4)


def test_a_joint_in_a_slot_is_judged_by_its_clamp_along_it_and_its_strip_across_it(mounted: Design) -> None:
    """By hand from the case's own pull: 0.63 · 2 · 0.2 · F_p/1.25, F_p 0.75 · 0.9 of the yield on the stress area."""
    for way in (0.0, 90.0):
        tab = slotted(held(mounted), angle_deg=way).model_copy(update={"load_angle_deg": 0.0})
        job = work(with_part(mounted, tab))
        part = part_of(tab, job.design)
        made = part.own.joints[0]
        found = {check.key: check for check in part.checks}
        slip, strip = found["slot_slip"], found["slot_beside"]
        along, across = shares(tab, (-made.held.swing_deg, made.held.swing_deg))
        most = max(abs(case.axial_n) for case in made.held.cases)
        bolt = made.bolt
        assert bolt.strength_class == "grade 5"
        yield_, pitch = (
            92 * 6.894757,
            25.4 / int(bolt.designation.split("-")[-1].split()[0]),
        )  # SAE J429, from memory: 92 ksi
        area = pi / 4 * (bolt.diameter_mm - 0.9382 * pitch) ** 2
        assert min(along, across) > 0.05  # it swings, so that each has some of it
        assert slip.demand == pytest.approx(most * along * slip.factor)
        assert slip.capacity == pytest.approx(0.63 * 2 * 0.2 * 0.75 * 0.9 * yield_ * area / 1.25, rel=0.01)
        h = tab.head_radius.mm - tab.hole.mm / 2
        stress = most * across * strip.factor / 2 * (24.0 + tab.hole.mm) / 8 * 6 / (tab.plate.mm * h**2)
        assert strip.demand == pytest.approx(stress)
        assert strip.capacity == tab.yield_mpa
        # where the joint stands in it is nothing to the metal beyond its ends
        assert found["tab_tearout"].capacity == {c.key: c for c in part_of(tab.model_copy(update={"holes": None}), job.design).checks}["tab_tearout"].capacity  # fmt: skip


def test_a_slot_is_cut_by_one_pierce_and_its_places_are_moved_along_as_from_hole_to_hole(mounted: Design) -> None:
    tab = slotted(held(mounted), angle_deg=-90.0).model_copy(update={"height_fixed": True})
    job = work(with_part(mounted, tab))
    part = job.part(tab.id)
    assert part
    assert part.complete, part.faults
    file = to_dxf(kind_of(tab).draw(part, ViewAsked(name="tab-flat"), numbers_of(job.settings)))
    driven = drive(file, tab.plate.mm)
    assert (driven.parts, driven.pierces) == (1, 2)
    assert driven.area_mm2 == pytest.approx(part.own.outline.contour.area, rel=1e-3)
    with pytest.raises(Refused, match="less than the sheet"):
        drive(file, 1.2 * tab.hole.mm)
    table = hole_table(job, tab.id)
    assert [row.here for row in table.rows] == [True, False, False, False]
    places = np.array([row.at for row in table.rows])
    assert np.linalg.norm(np.diff(places, axis=0), axis=1) == pytest.approx(np.full(3, 8.0))
    put = put_in_hole(job, tab.id, 3)
    point = np.array(next(p for name, p in put.end.end.points.items() if p != mounted.ends[1].end.points[name]))
    assert point == pytest.approx(places[2], abs=1e-6)
    assert put.part.in_hole == 3
    faults = part_of(tab.model_copy(update={"ream_mm": 0.5}), job.design).faults
    assert faults[0].field == "ream_mm"
