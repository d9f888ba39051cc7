"""Feet of plates on round tubes: put on the tube in space, both plates of a pair, and what their welds lose."""

from __future__ import annotations

from itertools import pairwise
from math import acos, cos, degrees, hypot, pi, radians, sin

import numpy as np
import pytest

from tests.jobs import part_of, with_part, work
from tirante.calc import calculate
from tirante.core.brackets.saddle import Saddle, saddle, throat_share
from tirante.core.document.design import Design
from tirante.core.document.fields import Length
from tirante.core.document.parts.bracket import SaddleBase, TabPair
from tirante.core.errors import InputError, NotApplicable
from tirante.core.flat.contour import Curve, Straight, require_closed
from tirante.core.flat.true_curve import arcs_of
from tirante.core.parts.bracket.families.tab_outline import Under, tab_outline
from tirante.core.parts.bracket.families.tab_pair import TAB_PAIR


def in_space(one: Saddle, x: float, y: float, beside: float = 0.0) -> np.ndarray:
    """A place of an upright plate: tube along the first axis, crown up the third."""
    along = np.array([cos(one.angle), sin(one.angle), 0.0])
    normal = np.array([-sin(one.angle), cos(one.angle), 0.0])
    return np.array([0.0, 0.0, one.tube_od / 2 + y]) + (x + one.shift) * along + (one.beside + beside) * normal


@pytest.mark.parametrize(("angle", "offset"), [(90.0, 0.0), (90.0, 12.0), (60.0, 0.0), (60.0, -6.0), (35.0, 3.0)])
def test_every_place_of_a_foot_lies_on_the_tube_at_either_face_too(angle: float, offset: float) -> None:
    one = saddle(80.0, angle, 18.0, 5.0, offset)
    for x in np.linspace(-18, 18, 13):
        for beside in (-2.5, 0.0, 2.5):
            place = in_space(one, float(x), one.foot(float(x), beside), beside)
            assert hypot(place[1], place[2]) == pytest.approx(40.0, abs=1e-9)


def test_the_arcs_that_are_cut_lie_on_the_tube_within_a_hundredth_and_the_outline_is_closed() -> None:
    outline = tab_outline(16.0, 20.0, 40.0, 40.0, 12.0, 5.0, Under(tube_od=70.0, angle_deg=55.0, offset=7.0))
    require_closed(outline.contour, "tab")
    one = saddle(70.0, 55.0, 20.0, 5.0, 7.0)
    foot = [edge for edge in outline.contour.edges if isinstance(edge, Curve) and edge.back]
    assert 2 <= len(foot) <= 16
    looked = 0
    for edge in foot:
        for turn in np.radians(np.linspace(edge.start_deg, edge.end_deg, 40)):
            x, y = edge.cx + edge.r * cos(turn), edge.cy + edge.r * sin(turn)
            place = in_space(one, x, y)
            assert hypot(place[1], place[2]) == pytest.approx(35.0, abs=0.006)
            looked += 1
    assert looked > 50
    assert (foot[0].start[0], foot[-1].end[0]) == pytest.approx((-20.0, 20.0))
    # the middle off the crown: one corner of the foot is lower
    assert abs(foot[0].start[1] - foot[-1].end[1]) > 3.0


def test_both_flanks_run_into_the_head_of_a_plate_whose_corners_differ() -> None:
    outline = tab_outline(16.0, 20.0, 40.0, 40.0, 12.0, 5.0, Under(tube_od=70.0, angle_deg=55.0, offset=7.0))
    right, head, left = outline.contour.edges[:3]
    assert isinstance(right, Straight)
    assert isinstance(head, Curve)
    assert isinstance(left, Straight)
    for flank, turn in ((right, head.start_deg), (left, head.end_deg)):
        way = np.array([flank.x2 - flank.x1, flank.y2 - flank.y1])
        assert way @ [cos(radians(turn)), sin(radians(turn))] == pytest.approx(0.0, abs=1e-9)


def test_a_square_foot_is_one_arc_of_the_tube_s_own_radius() -> None:
    outline = tab_outline(16.0, 20.0, 40.0, 40.0, 12.0, 5.0, Under(tube_od=70.0))
    (foot,) = [edge for edge in outline.contour.edges if isinstance(edge, Curve) and edge.back]
    assert (foot.r, foot.cx, foot.cy) == (35.0, 0.0, -35.0)
    assert saddle(70.0, 90.0, 20.0, 5.0).face_gap(20.0, 5.0) == pytest.approx(0.0, abs=1e-12)


def test_the_faces_meet_the_tube_at_the_angle_between_their_normals() -> None:
    one = saddle(80.0, 60.0, 20.0, 5.0, 4.0)
    normal = np.array([-sin(one.angle), cos(one.angle), 0.0])
    widest = 0.0
    for x in np.linspace(-20, 20, 401):
        place = in_space(one, float(x), one.foot(float(x)))
        out = np.array([0.0, place[1], place[2]]) / 40.0
        between = acos(abs(float(normal @ out)))  # of the planes, acute
        widest = max(widest, pi - between)
    assert one.widest_weld(20.0) == pytest.approx(widest)
    assert throat_share(radians(90)) == pytest.approx(0.7071, abs=1e-4)
    assert throat_share(radians(120)) == pytest.approx(0.5)  # EN 1993-1-8, from memory
    assert throat_share(radians(80)) == pytest.approx(0.7071, abs=1e-4)  # never more than at a right angle


def test_what_wraps_round_or_takes_no_fillet_is_refused_with_the_width_that_goes() -> None:
    with pytest.raises(InputError) as wrapped:
        saddle(60.0, 90.0, 28.0, 5.0)
    assert wrapped.value.limits
    assert wrapped.value.limits[1] == pytest.approx(54.0)
    with pytest.raises(NotApplicable) as slanted:
        saddle(60.0, 30.0, 40.0, 5.0)
    assert slanted.value.limits
    most = slanted.value.limits[1]
    assert most
    assert degrees(saddle(60.0, 30.0, most / 2, 5.0).widest_weld(most / 2)) == pytest.approx(120.0)


def test_a_true_curve_is_followed_as_closely_as_is_said_and_a_straight_one_is_a_line() -> None:
    def ellipse(t: float) -> tuple[float, float]:
        return 60 * cos(t), 25 * sin(t)

    for within in (0.05, 0.005):
        edges = arcs_of(ellipse, 0.0, 1.5 * pi, within)
        for one, two in pairwise(edges):
            assert hypot(one.end[0] - two.start[0], one.end[1] - two.start[1]) < 1e-9
        assert (edges[0].start, edges[-1].end) == (pytest.approx((60.0, 0.0)), pytest.approx((0.0, -25.0)))
        off = [
            abs((x / 60) ** 2 + (y / 25) ** 2 - 1) / (2 * hypot(x / 3600, y / 625))  # to first order, which is exact so near
            for edge in edges if isinstance(edge, Curve)
            for a in np.radians(np.linspace(edge.start_deg, edge.end_deg, 25))
            for x, y in [(edge.cx + edge.r * cos(a), edge.cy + edge.r * sin(a))]
        ]  # fmt: skip
        assert within / 20 < max(off) < 1.1 * within
    assert len(arcs_of(ellipse, 0.0, 1.5 * pi, 0.05)) < len(arcs_of(ellipse, 0.0, 1.5 * pi, 0.005))
    assert arcs_of(lambda t: (t, 2 * t), 0.0, 3.0) == [Straight(0.0, 0.0, 3.0, 6.0)]
    back = arcs_of(lambda t: ellipse(-t), 0.0, 1.0)
    assert all(isinstance(edge, Curve) and edge.back for edge in back)


def pair_on_tube(design: Design, angle: float) -> TabPair:
    tab = design.of_kind(TabPair)[0]
    base = SaddleBase(tube_od=Length(mm=114.3), angle_deg=angle, wall_mm=6.0)
    return tab.model_copy(update={"base": base, "base_width": Length(mm=62.0)})


def test_both_plates_of_a_slanting_pair_stand_on_their_tube_one_turned_over(marram: Design) -> None:
    pair = pair_on_tube(marram, 70.0)
    part = part_of(pair, with_part(marram, pair))
    assert part.complete, part.faults
    gap, t = part.own.joints[0].gap, pair.plate.mm
    foot = [edge for edge in part.own.outline.contour.edges if isinstance(edge, Curve) and edge.back]
    angle = radians(70.0)
    normal = np.array([-sin(angle), cos(angle), 0.0])
    along = np.array([cos(angle), sin(angle), 0.0])
    for side in (
        1.0,
        -1.0,
    ):  # the bolt's middle over the crown; the second plate is the same one with its x the other way
        for edge in foot:
            for x, y in (edge.start, edge.end):
                place = np.array([0.0, 0.0, 57.15 + y]) + side * x * along + side * (gap + t) / 2 * normal
                assert hypot(place[1], place[2]) == pytest.approx(57.15, abs=1e-6)
    assert part.card
    assert any("turned over" in line.text and line.strong for line in part.card.lines)
    beside = next(line.mm for line in part.card.lines if "beside the tube" in line.text)
    assert beside == pytest.approx((gap + t) / 2 * cos(angle))


def test_its_fillets_are_counted_by_the_throat_that_they_have_there(marram: Design) -> None:
    square, slanting = (pair_on_tube(marram, angle) for angle in (90.0, 70.0))
    found = {}
    for name, pair in (("square", square), ("slanting", slanting)):
        part = part_of(pair, with_part(marram, pair))
        check = next(one for one in part.checks if one.key == "tab_weld")
        assert check.reproduce
        found[name] = check.reproduce.input
        again = calculate(check.reproduce.topic, check.reproduce.input)["throat_stress_max_mpa"]
        assert again == pytest.approx(check.demand)
    gap = part_of(slanting, with_part(marram, slanting)).own.joints[0].gap
    across = 31.0 * sin(radians(70)) + (gap + slanting.plate.mm) / 2 * cos(radians(70))
    widest = pi / 2 + np.arcsin(cos(radians(70)) * across / 57.15)
    assert found["slanting"]["leg_mm"] / found["square"]["leg_mm"] == pytest.approx(cos(widest / 2) / 0.707, rel=1e-6)
    # the bolt stands higher over feet that lie beside the crown
    beside = (gap + slanting.plate.mm) / 2 * cos(radians(70))
    lower = 57.15 - np.sqrt(57.15**2 - beside**2)
    assert found["slanting"]["at_mm"][2] - found["square"]["at_mm"][2] == pytest.approx(lower)


def test_what_is_wrong_is_named_by_the_field_of_who_asked(marram: Design) -> None:
    with pytest.raises(InputError) as asked:
        calculate("saddle", {"tube_od_mm": 60, "width_mm": 58, "thickness_mm": 5})
    assert asked.value.fields == ("width_mm",)
    for change, field in (
        ({"base_width": Length(mm=109.0)}, "base_width"),
        ({"base": SaddleBase(tube_od=Length(mm=114.3), angle_deg=3.0, offset_mm=6.0)}, "base.offset_mm"),
    ):
        pair = pair_on_tube(marram, 90.0).model_copy(update=change)
        part = part_of(pair, with_part(marram, pair))
        assert field in [fault.field for fault in part.faults], part.faults


def test_where_no_size_stands_on_its_tube_the_search_says_so_and_not_that_no_bolt_goes(marram: Design) -> None:
    pair = pair_on_tube(marram, 90.0).model_copy(update={"base": SaddleBase(tube_od=Length(mm=20.0))})
    whole = with_part(marram, pair)
    around = work(whole)
    joints = around.held_by(pair.id)
    held = [end for joint in joints if (end := around.held_end(joint))]
    found = TAB_PAIR.refit(pair, joints, held, around.settings, whole.catalogue)
    assert "does not stand on a tube of 20 mm" in found.fault


def test_calc_saddle_gives_the_foot_of_a_pair_s_plate() -> None:
    found = calculate(
        "saddle", {"tube_od_mm": 80, "angle_deg": 60, "width_mm": 36, "thickness_mm": 5, "gap_mm": 15, "steps": 4}
    )
    assert found["offset_mm"] == pytest.approx(10 * cos(radians(60)))
    one = Saddle(tube_od=80.0, angle=radians(60), beside=10.0)
    for row in found["profile"]:
        place = in_space(one, row["x_mm"], row["foot_mm"])
        assert hypot(place[1], place[2]) == pytest.approx(40.0)
    assert found["edges"][0]["x1"] == pytest.approx(-18.0)
    assert found["edges"][-1]["x2"] == pytest.approx(18.0)
    assert found["face_gap_mm"] > 0.1
