"""Shares, halves, counts and which case: what is done between the formulas, each figure reached by another way from the raw rows.

Where no source is named a figure is plain statics or a count, written out here without the core's formulas.
"""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from math import cos, pi, radians, sin
from types import SimpleNamespace
from typing import Any

import numpy as np
import pytest

from tests.conftest import ROOT
from tests.core.test_arm import SHELF
from tests.core.test_checks import loaded
from tests.jobs import built, links, part_of, tabs_of, with_joint, with_links, with_part, work
from tirante.calc import calculate
from tirante.core.brackets.lug import Lug, slanted
from tirante.core.checks.first_to_give import order_of
from tirante.core.checks.result import CheckResult
from tirante.core.checks.shown import check_out
from tirante.core.document.car import Car, CornerMasses
from tirante.core.document.design import Design
from tirante.core.document.fields import Length
from tirante.core.document.load_cases import CarCase, LoadSet
from tirante.core.document.parts.bracket import FlatBase, TabPair
from tirante.core.document.parts.common import CentreToCentre, LoadCase
from tirante.core.document.parts.link import FixedEnd
from tirante.core.document.settings import Settings
from tirante.core.document.upgrades import load_design
from tirante.core.geometry.distance import segment_wall
from tirante.core.job.evaluate import evaluate
from tirante.core.job.screens import corners
from tirante.core.job.worked import EVERYDAY
from tirante.core.loads.case_seen import typed
from tirante.core.loads.seen import seen_by_link
from tirante.core.loads.wheel_loads import accelerated
from tirante.core.members.fatigue import screen
from tirante.core.members.rod_end import rod_end_strength
from tirante.core.members.thread import parse_thread
from tirante.core.parts.adjusters import ends_at, job_adjuster
from tirante.core.parts.bracket.families.tab_checks import slants
from tirante.core.parts.link.checks import column_segments
from tirante.core.parts.link.jig import link_jig
from tirante.core.parts.link.sizing import size
from tirante.core.parts.part import BoughtPiece
from tirante.core.units import STANDARD_GRAVITY

PULL = LoadCase(name="pull", axial_n=8000.0)
CAR = Car(wheelbase_mm=2500.0, cg_height_mm=500.0, drive_front_share=0.25, brake_front_share=0.6,
          corners=CornerMasses(front_left_kg=250, front_right_kg=250, rear_left_kg=300, rear_right_kg=300))  # fmt: skip


def demo(name: str = "marram") -> Design:
    where = "tests/marram-on-flats.json" if name == "marram" else f"data/demo/{name}.json"
    return load_design((ROOT / where).read_bytes())


def check_of(design: Design, part: Any, key: str) -> CheckResult:
    return next(one for one in part_of(part, design).checks if one.key == key)


# --- ends of a link --------------------------------------------------------------------------------------------------


def test_the_eye_of_a_rod_end_is_what_the_bore_leaves_on_both_sides() -> None:
    found = rod_end_strength(parse_thread("1/2-20 UNF"), 30.0, 8.0, 20.0, 18.0, 100.0, 50.0)
    two_strips = 2 * (30.0 - 20.0) / 2 * 8.0
    assert found.eye == pytest.approx(100.0 * two_strips)
    assert found.race == pytest.approx(50.0 * 18.0 * 8.0)


def test_the_stepped_column_is_as_long_as_the_link_and_each_shank_as_its_joint_s_row_says(marram: Design) -> None:
    link = loaded(marram, PULL)
    made = built(link, marram)
    assert link.end_a.kind == "rod_end"
    row = next(one for one in marram.catalogue.joints if one.key == link.end_a.joint)
    nut = next(one for one in marram.catalogue.nuts if one.key == link.end_a.nut)
    insert = next(one for one in marram.catalogue.inserts if one.key == link.end_a.insert)
    plain, bare, tube, bare_b, plain_b = column_segments(made.assembly, made.stack)
    assert plain.length == plain_b.length == pytest.approx(row.eye_to_shank_end_mm - row.thread_length_mm)
    state = made.stack.ends[0]
    # thread showing, under the nut, and through the insert's shoulder: what stands between the plain shank and the tube
    assert state.face_from_centre == pytest.approx(
        row.eye_to_shank_end_mm - (state.engagement or 0) + insert.shoulder_mm
    )
    # turned out to where the card says never more than: thread, nut and shoulder are bare then, and the link is longer
    more = (state.max_showing or 0.0) - (state.showing or 0.0)
    assert more > 3.0
    assert plain.length + bare.length == pytest.approx(state.face_from_centre + more)
    assert bare.length == pytest.approx((state.max_showing or 0.0) + nut.height_mm + insert.shoulder_mm, abs=1.0)
    assert plain.od > bare.od  # the shank's own diameter, then the root of its thread
    assert sum(one.length for one in (plain, bare, tube, bare_b, plain_b)) == pytest.approx(link.between.mm + 2 * more)


def test_half_of_a_strike_at_mid_span_stands_at_either_joint(marram: Design) -> None:
    """A beam on two supports: half of the force at each (statics)."""
    struck = loaded(marram, LoadCase(name="strike", strike_n=3000.0))
    pushed = loaded(marram, LoadCase(name="side", side_n=1500.0))
    for key in ("shank_bending", "joint_side"):
        assert check_of(marram, struck, key).demand == pytest.approx(check_of(marram, pushed, key).demand)
    made = built(struck, marram)
    end, state = made.assembly.threaded[0], made.stack.ends[0]
    # at the most thread that may show: the least engagement, one diameter here
    assert (state.engagement or 0.0) > end.thread.major
    lever = end.joint.eye_to_shank_end_mm - end.thread.major - end.nut.height_mm
    root = end.thread.root_external
    # the side force on its lever, and the ball's friction: μ F r
    moment = 1500.0 * (lever + 0.15 * end.joint.ball_diameter_mm / 2)
    stress = moment * marram.settings.factors.yielding * 32 / (pi * root**3)
    assert check_of(marram, struck, "shank_bending").demand == pytest.approx(stress)
    assert check_of(marram, struck, "joint_side").demand == pytest.approx(1500.0 * marram.settings.factors.joint)


def test_the_stops_of_a_jig_are_as_far_apart_as_the_tube_is_long_and_the_shrink() -> None:
    design = demo()
    link = loaded(design, PULL, end_b=FixedEnd(what="bush", centre_to_face=Length(mm=47.0)))
    made = built(link, design)
    settings = design.settings.model_copy(update={"weld_shrink_mm": 0.5})
    jig = link_jig(made.assembly, made.stack, settings)
    at = {one.name: one.ordinate for one in jig.stations}
    shrink = 2 * 0.5  # one weld at either end
    assert at["B"] == pytest.approx(link.between.mm + shrink)
    assert at["B"] - at["4"] == pytest.approx(47.0)
    assert at["1"] == pytest.approx(made.stack.ends[0].face_from_centre)
    # the tube that lies between the stops is sawn longer by as much
    sawn = built(link, design.model_copy(update={"settings": settings})).stack
    assert at["4"] - at["1"] == pytest.approx(made.stack.tube_cut + shrink) == pytest.approx(sawn.tube_cut)
    assert sawn.centre_to_centre == made.stack.centre_to_centre
    assert at["1"] < at["2"] < at["3"] < at["4"]


def test_what_a_turn_takes_off_the_threads_is_what_it_adds_to_the_length() -> None:
    design = demo()
    link = loaded(design, PULL)
    made = built(link, design)
    both = job_adjuster("id", "link", made.assembly, made.stack, "link")
    assert both
    pitch = made.assembly.threaded[0].thread.pitch
    assert both.adjuster.mm == pytest.approx(2 * pitch)
    before, after = ends_at(both, 0.0, design.settings), ends_at(both, 1.5, design.settings)
    gone = [b.engagement - a.engagement for b, a in zip(before, after, strict=True)]
    assert gone == pytest.approx([1.5 * pitch] * 2)
    assert sum(gone) == pytest.approx(1.5 * both.adjuster.mm)
    assert [a.showing - b.showing for b, a in zip(before, after, strict=True)] == pytest.approx(gone)
    # one end on a rod end: half a turn, with the bolt out, moves it by half a pitch
    single = loaded(design, PULL, end_b=FixedEnd(what="bush", centre_to_face=Length(mm=47.0)))
    one_made = built(single, design)
    one = job_adjuster("id", "link", one_made.assembly, one_made.stack, "link")
    assert one
    assert one.adjuster.mm == pytest.approx(pitch / 2)
    a, b = ends_at(one, 0.0, design.settings), ends_at(one, 3.0, design.settings)
    assert len(a) == 1
    assert a[0].engagement - b[0].engagement == pytest.approx(3 * pitch / 2)
    assert one.longer == pytest.approx(2 * one_made.stack.turns_out)


# --- tabs ------------------------------------------------------------------------------------------------------------


NOWHERE = 200.0  # mm, of a gap that no torch of this shop goes into


def tab_of(
    design: Design, case: LoadCase, *, torch: float, **more: object
) -> tuple[TabPair, dict[str, CheckResult], float]:
    """The demo's tabs under one case, with their checks and the gap between them."""
    design = design.model_copy(update={"settings": design.settings.model_copy(update={"inside_fillet_gap_mm": torch})})
    link = loaded(design, case)
    tab = tabs_of(links(design)[0], design)
    assert tab
    tab = tab.model_copy(update=more)
    part = part_of(tab, with_part(with_links(design, link), tab))
    return tab, {one.key: one for one in part.checks}, part.own.joints[0].gap


@pytest.mark.parametrize("angle", [0.0, 35.0, 90.0])
def test_a_pair_of_plates_shares_the_pull_and_each_is_welded_on_both_faces(angle: float) -> None:
    """Pull along the plates alone: shared by four runs, over their throats; across, the moment about the foot as well (statics)."""
    design = demo()
    tab, found, _ = tab_of(design, PULL, torch=0.0, load_angle_deg=angle)
    factors, leg, width = design.settings.factors, tab.weld_leg_mm, tab.base_width.mm
    plate = PULL.axial_n * factors.weld / 2
    run = 2 * width  # of one plate
    along, across = plate * cos(radians(angle)) / run, plate * sin(radians(angle)) / run
    # bent about the line along the bolt: two lines of the width, c = width/2, I = 2 width³/12 a throat
    bent = plate * sin(radians(angle)) * tab.height.mm * (width / 2) / (2 * width**3 / 12)
    line = float(np.hypot(along + bent, across))
    assert found["tab_weld"].demand == pytest.approx(line / (0.707 * leg), rel=2e-3)
    half = PULL.axial_n * factors.tab_yield / 2
    foot = half * cos(radians(angle)) / (width * tab.plate.mm)
    foot += 6 * half * sin(radians(angle)) * tab.height.mm / (tab.plate.mm * width**2)
    assert found["tab_foot"].demand == pytest.approx(foot, rel=1e-9)


def test_half_of_a_strike_racks_a_pair_of_plates_that_its_bolt_ties() -> None:
    """Half the strike along the bolt at the hole: shear on four runs, and their moment as a pull and a push of the two plates (statics)."""
    design = demo()
    strike = LoadCase(name="strike", strike_n=2000.0)
    tab, found, gap = tab_of(design, strike, torch=0.0)
    force = 2000.0 / 2 * design.settings.factors.weld
    width, inner, outer = tab.base_width.mm, gap / 2, gap / 2 + tab.plate.mm
    second = 2 * width * (inner**2 + outer**2)
    line = np.hypot(force / (4 * width), force * tab.height.mm * outer / second)
    assert found["tab_weld"].demand == pytest.approx(line / (0.707 * tab.weld_leg_mm), rel=2e-3)
    # the plates themselves are bent as if nothing tied them: each a cantilever under a quarter of the strike
    foot = 6 * 2000.0 / 4 * design.settings.factors.tab_yield * tab.height.mm / (width * tab.plate.mm**2)
    assert found["tab_foot"].demand == pytest.approx(foot, rel=1e-9)


def test_where_no_torch_goes_the_outer_faces_and_the_ends_are_counted() -> None:
    """The same strike on two runs and four short ones; the pull comes off its weld half a plate aside, which bends the foot (statics)."""
    design = demo()
    strike = LoadCase(name="strike", strike_n=2000.0)
    tab, found, gap = tab_of(design, strike, torch=NOWHERE)
    width, t = tab.base_width.mm, tab.plate.mm
    outer, middle = gap / 2 + t, gap / 2 + t / 2
    second = 2 * width * outer**2 + 4 * (t**3 / 12 + t * middle**2)
    force = 1000.0 * design.settings.factors.weld
    line = np.hypot(force / (2 * width + 4 * t), force * tab.height.mm * outer / second)
    assert found["tab_weld"].demand == pytest.approx(line / (0.707 * tab.weld_leg_mm), rel=2e-3)
    assert "no torch" in found["tab_weld"].note
    tab, found, gap = tab_of(design, PULL, torch=NOWHERE, load_angle_deg=0.0)
    share = PULL.axial_n * design.settings.factors.tab_yield / 2
    assert found["tab_foot"].demand == pytest.approx(share / (width * t) + share * t / 2 * 6 / (width * t**2), rel=1e-9)


def test_a_fillet_is_counted_no_thicker_than_what_it_joins() -> None:
    design = demo()
    for more, leg in (
        ({"weld_leg_mm": 4.0}, 4.0), ({"weld_leg_mm": 9.0, "plate": Length(mm=6.0)}, 6.0),
        ({"weld_leg_mm": 5.0, "base": FlatBase(wall_mm=2.0)}, 2.0),
    ):  # fmt: skip
        tab, found, _ = tab_of(design, PULL, torch=0.0, load_angle_deg=0.0, **more)
        line = PULL.axial_n * design.settings.factors.weld / (4 * tab.base_width.mm)
        assert found["tab_weld"].demand == pytest.approx(line / (0.707 * leg), rel=1e-6)
        assert ("burns through" in found["tab_weld"].note) == (leg < tab.weld_leg_mm)


def test_a_pull_that_may_come_any_way_is_looked_at_every_way() -> None:
    """Foot and weld against a look at every tenth of a degree by plain sums; a given angle with its swing lies between."""
    design = demo()
    case = LoadCase(name="both", axial_n=9000.0, strike_n=600.0)
    tab, found, gap = tab_of(design, case, torch=0.0, load_angle_deg=None)
    factors, height = design.settings.factors, tab.height.mm
    pull, side = 9000.0 * factors.weld, 300.0 * factors.weld
    width, t = tab.base_width.mm, tab.plate.mm
    rows = [gap / 2, gap / 2 + t]
    across_second, along_second = 2 * width * sum(y * y for y in rows), 4 * width**3 / 12
    worst = foot = 0.0
    for tenth in range(901):
        c, s = cos(radians(tenth / 10)), sin(radians(tenth / 10))
        up = (
            pull * c / (4 * width)
            + pull * s * height * (width / 2) / along_second
            + side * height * rows[1] / across_second
        )
        worst = max(worst, float(np.hypot(np.hypot(up, pull * s / (4 * width)), side / (4 * width))))
        share = 9000.0 * factors.tab_yield / 2
        foot = max(foot, share * c / (width * t) + 6 * share * s * height / (t * width**2))
    foot += 6 * 300.0 * factors.tab_yield / 2 * height / (width * t**2)
    assert found["tab_weld"].demand == pytest.approx(worst / (0.707 * tab.weld_leg_mm), rel=1e-4)
    assert found["tab_foot"].demand == pytest.approx(foot, rel=1e-5)
    straight = tab_of(design, case, torch=0.0, load_angle_deg=0.0)[1]
    assert straight["tab_foot"].demand < 0.9 * foot


def test_a_lug_at_a_slant_by_the_interaction_of_both_ways() -> None:
    """R_a^1.6 + R_t^1.6 = 1 (Melcon and Hoblit, from memory), along and across each by AISC D5.1 with hole's side and end exchanged."""
    plate = Lug(thickness=6.0, width=60.0, hole=20.5, pin=20.0, edge=36.0)
    both = slanted(plate, 275.0, 410.0)
    t = 12.0
    along = min(410 * 2 * t * min(28, 19.75), 0.6 * 410 * 2 * t * (36 - 10.25 + 10))
    across = min(410 * 2 * t * min(28, 36 - 10.25), 0.6 * 410 * 2 * t * (30 - 10.25 + 10))
    assert (both.along, both.across) == pytest.approx((along, across))
    for angle in (20.0, 50.0, 80.0):
        force = both.at(angle)
        a, b = force * cos(radians(angle)) / along, force * sin(radians(angle)) / across
        assert a**1.6 + b**1.6 == pytest.approx(1.0)
    low = min(both.at(one / 100) for one in range(9001))
    angle, least = both.weakest_between(0.0, 90.0)
    assert least == pytest.approx(low, rel=1e-6)
    assert both.at(angle) == pytest.approx(least)
    assert both.weakest_between(-5.0, 5.0)[1] == pytest.approx(both.at(5.0))
    found = calculate("lug", {"thickness_mm": 6, "plates": 2, "width_mm": 60, "hole_mm": 20.5, "pin_mm": 20, "edge_mm": 36, "yield_mpa": 275,
                              "uts_mpa": 410, "force_n": 90_000.0, "angle_deg": 50.0})  # fmt: skip
    assert found["slanted_n"] == pytest.approx(both.at(50.0))
    assert found["slanted_utilisation"] == pytest.approx(90_000 / min(both.at(50.0), 1.8 * 275 * 20 * 12))


def test_a_tab_looks_as_far_to_either_side_as_its_link_turns() -> None:
    """The link of a job's end turns by what its own ends do between ride height and the cases' positions (plain geometry)."""
    design = demo()
    link = next(one for one in links(design) if one.between.kind == "end" and tabs_of(one, design))
    job = work(design)
    assert link.between.kind == "end"
    most = 0.0
    for one in job.carried(link.between.end_id).cases:
        if one.forces:
            most = max(most, *(angle for name, angle in one.turned.items() if name.split(",")[0] == link.between.link))
    tab = tabs_of(link, design)
    assert tab
    held = part_of(tab, design).own.joints[0].held
    assert held.swing_deg == pytest.approx(most)
    assert most > 1.0
    given = tab.model_copy(update={"load_angle_deg": 30.0})
    assert slants(given, held) == pytest.approx((30.0 - most, 30.0 + most))
    assert slants(tab.model_copy(update={"load_angle_deg": None}), held) == (0.0, 90.0)
    assert slants(given, replace(held, swing_deg=None)) == pytest.approx((10.0, 50.0))


def test_every_end_says_what_holds_it_or_that_nothing_does() -> None:
    design = demo()
    link = links(design)[0]
    tab = tabs_of(link, design)
    assert tab
    told = part_of(link, design)
    assert told.card
    assert any(tab.name in line.text for line in told.card.lines)
    free = design.model_copy(update={"joints": tuple(one.model_copy(update={"by": None}) for one in design.joints)})
    alone = part_of(link, free)
    assert sum("nothing here yet holds this end" in one for one in alone.not_checked) == 2
    assert alone.card
    assert any("nothing here yet holds it" in line.text for line in alone.card.lines)


def test_two_joints_of_one_bracket_bring_each_its_own_bolt() -> None:
    """Two bolts of one diameter and two grades: both fit the plates' hole, and each stands on the list for itself."""
    design = demo()
    held = {joint.by: joint for joint in design.joints if joint.by}
    one, two = next((a, b) for a in design.joints for b in [held.get(a.by)] if b and b.id != a.id and a.bolt == b.bolt)
    assert one.by == two.by
    bracket = design.part(one.by or "")
    assert bracket
    row = next(row for row in design.catalogue.bolts if row.key == one.bolt)
    other = f"{row.key}-again"
    rows = (*design.catalogue.bolts, row.model_copy(update={"key": other}))
    design = design.model_copy(update={"catalogue": design.catalogue.model_copy(update={"bolts": rows})})
    part = part_of(bracket, with_joint(design, two, bolt=other))
    assert part.complete, part.faults
    bolts = [piece.key for piece in part.beside if isinstance(piece, BoughtPiece) and piece.sort == "bolt"]
    assert bolts == [one.bolt, other]


def test_every_joint_that_is_held_has_its_own_bolt_on_the_list() -> None:
    design = demo()
    bolts = sum(one.count for one in evaluate(work(design)).cut_list.items if one.kind == "bolt")
    held = [design.part(one.held.part) for one in design.joints if one.by and "part" in type(one.held).model_fields]
    assert bolts == sum(2 if part and part.side == "pair" else 1 for part in held) == 9
    plates = sum(one.count for one in evaluate(work(design)).cut_list.items if one.kind == "tab")
    assert plates == 2 * bolts
    # let one end go: a bolt, its washer and two plates of either side go with it
    joint = next(one for one in design.joints if one.by and design.part(one.held.part).side == "pair")  # type: ignore[union-attr]
    fewer = evaluate(work(with_joint(design, joint, by=None))).cut_list.items
    assert sum(one.count for one in fewer if one.kind == "bolt") == bolts - 2
    assert sum(one.count for one in fewer if one.kind == "tab") == plates - 4


# --- the car's loads -----------------------------------------------------------------------------------------------------


def test_driving_pushes_the_driven_wheels_by_their_share_and_braking_by_its_own() -> None:
    weight = 1100 * STANDARD_GRAVITY
    for torque, ahead, front in (("drive", 0.4, 0.25), ("brake", -0.8, 0.6)):
        case = CarCase(name="x", kind="car", longitudinal=ahead, torque=torque)  # type: ignore[arg-type]
        found, _ = accelerated(CAR, case, ahead, 0.0, {})
        pushed = {end: sum(found[end, side].force[0] for side in ("left", "right")) for end in ("front", "rear")}
        assert pushed["front"] == pytest.approx(weight * ahead * front)
        assert pushed["rear"] == pytest.approx(weight * ahead * (1 - front))


def test_a_wheel_that_stands_further_out_makes_the_track_wider_on_both_sides() -> None:
    design = demo()
    end = design.ends[0]
    wheel = end.end.wheel.model_copy(update={"spacer_mm": end.end.wheel.spacer_mm + 12.0})
    wider = design.model_copy(
        update={"ends": (end.model_copy(update={"end": end.end.model_copy(update={"wheel": wheel})}), *design.ends[1:])}
    )
    where = end.end.end
    before, after = work(design).rolls[where].track, work(wider).rolls[where].track
    assert before
    assert after
    assert after - before == pytest.approx(2 * 12.0, abs=0.01)  # along a spindle that camber tilts
    # at the ground the wheels stand further out than their centres by what camber makes of the radius
    lean = end.end.wheel.loaded_radius_mm * np.sin(np.radians(-end.end.wheel.camber_deg))
    assert before == pytest.approx(2 * (end.end.points["wheel_centre"][1] + lean + end.end.wheel.moved_out_mm), abs=0.2)


def test_a_spring_is_pressed_by_the_car_s_weight_and_pushes_the_wheel_down() -> None:
    """Virtual work: what the wheel is pushed up by is the spring's force times how fast it closes."""
    design = demo()
    still = CarCase(name="stand", kind="wheel", vertical=1.0)
    design = design.model_copy(update={"loads": LoadSet(cases=(still,))})
    end = design.ends[0]
    one, _ = work(design).carried(end.id).cases  # the heavier wheel is the left one
    assert one.forces
    spring = one.forces.springs["spring"]
    assert spring > 0  # compression positive
    from tirante.core.suspension.axle import damper_measures
    from tirante.core.suspension.cycle import solved_cycle

    rows = np.array([[-0.05, 0.05], [0.0, 0.0], [0.0, 0.0]])
    swept = solved_cycle(work(design).template(end.id), design.standing(end), rows)
    length = damper_measures(swept.left.assembled, swept.left.solved)["damper_length_mm"]
    closing = -(length[1] - length[0]) / 0.1
    assert closing > 0
    rest = max(CornersOf(design).front) * STANDARD_GRAVITY
    assert spring * closing == pytest.approx(rest, rel=0.02)  # the contact patch does not rise quite as the wheel


class CornersOf:
    def __init__(self, design: Design) -> None:
        corners_ = design.car.corners
        assert corners_
        self.front = (corners_.front_left_kg, corners_.front_right_kg)


def test_what_binds_is_added_to_what_the_case_brings() -> None:
    forces = SimpleNamespace(axial={"link, left": 500.0, "link, right": -200.0}, bind={"link, left": 70.0}, across={})
    one = SimpleNamespace(name="case", fault=None, forces=forces, strikes={"link, right": 40.0}, where="at ride height",
                          sines={"link, left": (0.1, 0.2), "link, right": (float("nan"), 0.5)})  # fmt: skip
    left, right = seen_by_link("pair", "link", [one])  # type: ignore[list-item]
    assert (left.axial_n, left.strike_n) == (570.0, 0.0)
    assert (left.bolt_a_n, left.bolt_b_n) == pytest.approx((57.0, 114.0))
    assert (right.axial_n, right.strike_n, right.bolt_a_n, right.bolt_b_n) == (-200.0, 40.0, 0.0, 100.0)
    alone = seen_by_link("left", "link", [one])  # type: ignore[list-item]
    assert [case.axial_n for case in alone] == [570.0]


def test_the_everyday_range_is_most_less_least_of_the_everyday_cases() -> None:
    design = demo()
    job = work(design)
    screens = {one.name: one for corner in corners(job) for one in corner.fatigue}
    everyday = job.design.model_copy(update={"loads": EVERYDAY})
    rear = work(everyday).carried(design.ends[1].id)
    values = [one.forces.axial["Panhard rod"] for one in rear.cases if one.forces]
    # each way round the corner, braking, driving with the propeller shaft either way round, standing
    assert len(values) == 6
    assert screens["Panhard rod"].range == pytest.approx(max(values) - min(values))


def test_the_limit_of_a_detail_is_divided_by_the_partial_factor() -> None:
    """EN 1993-1-9: Δσ_D = 0.737 Δσ_C (7.1(2)); γ_Mf = 1.35 of table 3.1, safe life, high consequence (from memory)."""
    found = screen(30.0, 50.0)
    assert found.limit == pytest.approx(0.737 * 50.0 / 1.35, rel=1e-3)
    assert found.utilisation == pytest.approx(30.0 / 27.3, rel=1e-3)
    assert screen(27.0, 50.0).cycles == np.inf
    # on the line of slope 3 through the class at 2 million
    assert screen(50.0 / 1.35, 50.0).cycles == pytest.approx(2e6)


# --- what is told of it --------------------------------------------------------------------------------------------------


def result(
    utilisation: float | None, *, key: str = "net", part: str = "tube", factor: float = 1.0, case: str | None = "c"
) -> CheckResult:
    return CheckResult(
        key=key, name=key, part=part, demand=1.0, capacity=1.0, unit="N", utilisation=utilisation,
        passed=utilisation is None or utilisation <= 1.0, case=case, factor=factor, factor_name="x", formula="", source="aisc-d2", reproduce=None,
    )  # fmt: skip


@pytest.mark.parametrize(
    ("use", "state"), [(0.8499, "ok"), (0.85, "attention"), (1.0, "attention"), (1.0001, "stop"), (None, "not asked")]
)
def test_a_check_is_pointed_out_from_0_85_and_stops_past_1(use: float | None, state: str) -> None:
    assert check_out(result(use)).state == state


@dataclass
class Made:
    id: str
    name: str
    checks: list[CheckResult] = field(default_factory=list)


def test_what_gives_first_is_the_least_multiple_of_the_unfactored_load() -> None:
    one = Made(
        "1",
        "one",
        [
            result(0.5, factor=2.0),
            result(0.4, factor=1.0, key="column"),
            result(0.9, factor=9.0, key="wall", part="wall"),
        ],
    )
    other = Made(
        "2",
        "other",
        [result(0.5, factor=1.5, key="joint", part="end A"), result(0.99, case=None, part="end B", key="joint")],
    )
    found = order_of([one, other])
    # 2/0.5 = 4 and 1/0.4 = 2.5 of one tube: the less; the wall's slenderness is no way of giving; what no case asks for stands out
    assert [(g.of, g.part, round(g.times, 6)) for g in found.gives] == [("one", "tube", 2.5), ("other", "end A", 3.0)]
    assert not found.brittle_first
    strong = replace(one.checks[1], utilisation=0.2)
    assert order_of([Made("1", "one", [strong]), other]).brittle_first


def test_a_tube_costs_by_its_kilograms_and_the_rest_by_the_piece() -> None:
    priced = {
        "grades": tuple(row.model_copy(update={"price": 7.0}) for row in SHELF.grades[:1]),
        "tubes": tuple(row for row in SHELF.tubes if row.series == "inch" and 19 < row.od_mm < 30),
        "joints": tuple(row.model_copy(update={"price": 11.0}) for row in SHELF.joints),
        "inserts": tuple(row.model_copy(update={"price": 5.0}) for row in SHELF.inserts),
        "nuts": tuple(row.model_copy(update={"price": 0.5}) for row in SHELF.nuts),
    }
    design = demo()
    link = loaded(design, LoadCase(name="push", axial_n=-3000.0), between=CentreToCentre(length=Length(mm=400.0)))
    found = size(link, typed(link.cases), Settings(), SHELF.model_copy(update=priced), "cost")
    assert found.winner
    chosen = found.winner.candidate
    tube = chosen.assembly.tube
    area = pi * (tube.od_mm - tube.wall_mm) * tube.wall_mm
    from tirante.core.parts.link.assembly import stack_of

    length = stack_of(chosen.assembly, Settings()).tube_cut
    kilograms = area * length * chosen.assembly.grade.density_kg_m3 * 1e-9
    assert chosen.cost == pytest.approx(7.0 * kilograms + 2 * (11.0 + 5.0 + 0.5))


def test_a_wall_is_passed_where_it_stands_and_behind_it_is_negative() -> None:
    through, normal = np.array([[0.0], [0.0], [10.0]]), np.array([[0.0], [0.0], [1.0]])

    def before(z1: float, z2: float) -> float:
        return float(segment_wall(np.array([[0.0], [0.0], [z1]]), np.array([[5.0], [1.0], [z2]]), through, normal)[0])

    assert before(13.0, 40.0) == pytest.approx(3.0)
    assert before(40.0, 13.0) == pytest.approx(3.0)
    assert before(10.0, 12.0) == pytest.approx(0.0)
    assert before(8.0, 12.0) == pytest.approx(-2.0)


def test_a_bracket_says_what_the_link_that_it_holds_could_not_be_carried_through() -> None:
    design = demo()
    rear = design.ends[1]
    bare = rear.end.model_copy(
        update={
            "bump_stop": None,
            "points": {n: p for n, p in rear.end.points.items() if n not in ("stop_tip", "stop_pad")},
        }
    )
    design = design.model_copy(update={"ends": (design.ends[0], rear.model_copy(update={"end": bare}))})
    parts = {part.name: part for part in evaluate(work(design)).parts}
    assert parts["Rear lower link"].not_carried
    assert parts["Rear lower link, tabs"].not_carried == parts["Rear lower link"].not_carried
    assert "why is listed beside the checks" in parts["Rear lower link, tabs"].headline
    assert parts["Front tie rod"].not_carried == []
    # nor does what gives first say less
    told = {corner.name: corner.order.sentence for corner in corners(work(design))}
    assert "why is listed beside the checks" in told["Rear"]
    assert "carried" not in told["Front"]
