"""What a part may not be, whatever its figures: fillets that burn through, metals that do not weld, sizes that a prudent shop does not build."""

from __future__ import annotations

from math import pi, sqrt

import numpy as np
import pytest
from scipy.integrate import solve_bvp

from tests.core.test_joined import a_link, job, mm
from tests.core.test_loads import demo
from tests.core.test_wiring import loaded
from tests.jobs import built, links, part_of, shown, with_part, work
from tirante.calc import calculate
from tirante.core.brackets.bolt import bolt_class, order_length, pin_shear, plain_pin_shear, tightening, tightening_told
from tirante.core.checks.result import CheckResult
from tirante.core.document.catalogue import Grade, Tube
from tirante.core.document.design import Design
from tirante.core.document.parts.common import LoadCase, Welding
from tirante.core.document.parts.link import FixedEnd, Link, Machined
from tirante.core.document.settings import SearchLimits, Settings
from tirante.core.loads.case_seen import CaseSeen
from tirante.core.members.insert_weld import ALUMINIUM_SHEAR, SHEAR_OF_ELECTRODE, filler_ultimate, insert_weld, legs_for
from tirante.core.members.thread import parse_thread
from tirante.core.parts.link.kind import duty
from tirante.core.parts.link.prudent import Prudent, prudent_for
from tirante.core.suspension.duty import duty_of


def check(link: Link, key: str, design: Design | None = None) -> CheckResult:
    found = part_of(link, design or job(link))
    assert found.complete, found.faults
    return next(one for one in found.checks if one.key == key)


# --- pull and strike together ---------------------------------------------------------------------------------------------


@pytest.mark.parametrize(("pull", "strike", "length"), [(60_000.0, 3000.0, 600.0), (20_000.0, 5000.0, 900.0)])
def test_a_tube_that_is_pulled_and_struck_bears_both(pull: float, strike: float, length: float) -> None:
    """EI y'' = P y − F x/2 solved as a boundary-value problem: the stress of the worst fibre is P/A + M c/I."""
    od, wall, e = 38.1, 3.048, 205_000.0
    inertia, area = pi / 64 * (od**4 - (od - 2 * wall) ** 4), pi / 4 * (od**2 - (od - 2 * wall) ** 2)
    half = length / 2
    solved = solve_bvp(
        lambda x, y: np.vstack([y[1], (pull * y[0] - strike * x / 2) / (e * inertia)]), lambda a, b: np.array([a[0], b[1]]),
        np.linspace(0, half, 41), np.zeros((2, 41)), tol=1e-8,
    )  # fmt: skip
    moment = strike * half / 2 - pull * solved.sol(half)[0]
    data = {"od_mm": od, "wall_mm": wall, "length_mm": length, "axial_tension_n": pull, "mid_lateral_n": strike}
    found = calculate("beam-column", data)
    assert found["max_stress_mpa"] == pytest.approx(pull / area + moment * od / 2 / inertia, rel=1e-6)
    assert found["mid_deflection_mm"] == pytest.approx(solved.sol(half)[0], rel=1e-6)
    # a bow adds what the pull has not drawn out of it
    bowed = calculate("beam-column", {**data, "mid_lateral_n": 0.0, "bow_mm": 2.0})
    euler = pi**2 * e * inertia / length**2
    assert bowed["max_moment_nmm"] == pytest.approx(pull * 2.0 / (1 + pull / euler), rel=1e-9)


def test_a_link_that_is_pulled_and_struck_is_judged_for_both() -> None:
    struck, both = (a_link(cases=(LoadCase(name="x", axial_n=axial, strike_n=3000.0),)) for axial in (0.0, 40_000.0))
    section = built(both, job(both)).assembly.section
    alone, together = check(struck, "bowed").demand, check(both, "bowed").demand
    factor = Settings().factors.yielding
    assert alone < together < alone + 40_000.0 * factor / section.area + 10.0
    assert together > 0.75 * (alone + 40_000.0 * factor / section.area)


# --- welds and metals ---------------------------------------------------------------------------------------------------------


def test_a_fillet_is_no_more_than_the_wall_and_no_less_than_the_standard_asks() -> None:
    """AISC 360 Table J2.4, from memory: to 6 mm 3, to 13 mm 5, to 19 mm 6, over that 8; a thinner wall than 3 mm takes its own."""
    for wall, least, most in (
        (1.65, 0.0, 1.65),
        (3.05, 3.0, 3.05),
        (6.0, 3.0, 6.0),
        (6.35, 5.0, 6.35),
        (13.5, 6.0, 13.5),
        (20.0, 8.0, 20.0),
    ):
        legs = legs_for(wall)
        assert (legs.least, legs.most) == (least, most)
        assert legs.least <= legs.usual <= legs.most
    assert legs_for(1.65).usual == 1.65
    assert legs_for(5.0).usual == 4.0


@pytest.mark.parametrize(
    ("tube", "leg", "told"),
    [("tube-0.75x0.065", 4.0, "burns through a 1.65 mm wall"), ("tube-1.5x0.120", 2.0, "at least 3 mm")],
)
def test_a_leg_that_a_wall_does_not_take_is_refused_by_its_field(tube: str, leg: float, told: str) -> None:
    link = a_link(tube=tube, welding=Welding(leg_mm=leg))
    faults = [fault for fault in part_of(link, job(link)).faults if fault.field == "welding.leg_mm"]
    assert [told in fault.message for fault in faults] == [True]


def test_the_ring_is_at_the_diameter_that_is_welded_with_the_leg_that_the_wall_asks() -> None:
    design = demo("marram")
    link = next(one for one in links(design) if one.name == "Rear upper link")
    made = built(link, design).assembly
    end = made.threaded[0]
    around = min(made.tube.od_mm, end.insert.shoulder_diameter_mm)
    assert made.leg == legs_for(made.tube.wall_mm).usual <= made.tube.wall_mm
    base = min(made.grade.uts_at_weld, end.insert.uts_mpa)
    wanted = insert_weld(
        around, made.leg, link.welding.plug_mm, link.welding.plugs, design.settings.electrode_uts_mpa, base
    )
    assert check(link, "insert_weld", design).capacity == pytest.approx(wanted.capacity)


def test_each_metal_has_a_filler_of_its_own() -> None:
    """Aluminum Design Manual: 4043 shears at 79 MPa, 5356 at 117 (11.5 and 17 ksi), from memory."""
    assert filler_ultimate("steel", 552.0, 600.0, "4043") == 552.0
    assert filler_ultimate("titanium", 552.0, 600.0, "4043") == 600.0
    assert filler_ultimate("aluminium", 552.0, 600.0, "5356") * SHEAR_OF_ELECTRODE == pytest.approx(117.0)
    assert ALUMINIUM_SHEAR["4043"] == 79.0
    assert filler_ultimate("stainless", 483.0, 600.0, "4043") == 517.0


def test_steel_ends_on_an_aluminium_tube_are_refused_by_name() -> None:
    eye = Machined(thickness_mm=12, width_mm=40, hole_mm=12.2, pin_mm=12, edge_mm=26)
    ends = {
        "end_a": FixedEnd(what="eye", centre_to_face=mm(30), machined=eye),
        "end_b": FixedEnd(what="bush sleeve", centre_to_face=mm(30)),
    }
    link = a_link(grade="6061-t6", tube="tube-1.5x0.120", **ends)
    told = {fault.field: fault.message for fault in part_of(link, job(link)).faults}
    assert "The eye is steel, the tube aluminium: they do not weld together" in told["end_a.family"]
    assert "The bush sleeve is steel" in told["end_b.family"]
    fitting = {name: end.model_copy(update={"family": "aluminium"}) for name, end in ends.items()}
    good = link.model_copy(update=fitting)
    assert not [fault for fault in part_of(good, job(good)).faults if fault.field.endswith("family")]


def test_beside_a_weld_the_welded_ultimate_counts_and_the_net_section_takes_its_own_factor() -> None:
    """AISC D2: rupture at 2.0, yield at 1.5 here."""
    design = demo("marram")
    link = loaded(design, LoadCase(name="pull", axial_n=10_000.0))
    grade = design.catalogue.find("grades", link.grade or "")
    tube = design.catalogue.find("tubes", link.tube or "")
    assert isinstance(grade, Grade)
    assert isinstance(tube, Tube)
    torn = check(link, "net_rupture", design)
    area = (
        pi / 4 * (tube.od_mm**2 - tube.bore_mm**2) - link.welding.plug_mm * link.welding.plugs_in_section * tube.wall_mm
    )
    assert torn.capacity == pytest.approx(area * grade.uts_at_weld)
    assert torn.demand == pytest.approx(2.0 * 10_000.0)
    held = check(link, "net", design)
    assert held.demand == pytest.approx(1.5 * 10_000.0)
    assert held.capacity == pytest.approx(pi / 4 * (tube.od_mm**2 - tube.bore_mm**2) * grade.welded_yield_mpa)


# --- bolts and pins -----------------------------------------------------------------------------------------------------------


def test_grade_8_shears_as_10_9_does_with_its_thread_in_the_plane() -> None:
    t = parse_thread("1/2-20 UNF")
    hard = bolt_class("grade 8", 12.7)
    assert pin_shear(12.7, hard, 2, t, True) == pytest.approx(2 * 0.5 * hard.ultimate * t.stress_area)
    soft = bolt_class("grade 5", 12.7)
    assert pin_shear(12.7, soft, 2, t, True) == pytest.approx(2 * 0.6 * soft.ultimate * t.stress_area)


def test_a_bolt_s_length_to_order_reaches_through_nut_and_washers_and_its_torque_is_three_quarters_of_proof() -> None:
    assert order_length(40.0, 12.0, 1.75, True) == 60.0  # 40 + 3.6 + 12 + 3.5 = 59.1
    assert order_length(40.0, 12.7, 1.27, False) == pytest.approx(6.35 * 10)
    t = parse_thread("M12x1.75")
    clamp, torque = tightening(12.0, bolt_class("8.8", 12.0), t)
    assert clamp == pytest.approx(0.75 * 0.9 * 640 * t.stress_area)
    assert torque == pytest.approx(0.2 * 0.012 * clamp)
    assert torque == pytest.approx(87.0, abs=8.0)  # what torque tables give an M12 8.8


def test_a_bolt_known_by_its_diameter_alone_is_told_its_torque() -> None:
    """Shigley's preload of a fastener that comes apart again: 0.75 A_t S_p, T = 0.2 F d (from memory); A_t of M10 58.0 mm² (ISO 898-1)."""
    clamp = 0.75 * 0.9 * 640.0 * 58.0  # proof load about 0.9 of yield
    told = tightening_told(10.0, "8.8")
    assert f"{clamp / 1000:.0f} kN" in told
    assert f"{0.2 * 10.0 * clamp / 1000:.0f} N·m" in told
    assert "M10×1.5" in told
    assert tightening_told(9.525, "8.8") == "no torque told: its thread is not known"


def test_pins_and_lugs_bear_a_pull_and_half_a_strike_at_once() -> None:
    eye = Machined(thickness_mm=12, width_mm=40, hole_mm=12.2, pin_mm=12, edge_mm=26, form="clevis", gap_mm=20)
    ends = {"end_a": FixedEnd(what="clevis", centre_to_face=mm(30), machined=eye)}
    link = a_link(cases=(LoadCase(name="x", axial_n=3000.0, strike_n=8000.0),), **ends)
    whole = sqrt(3000.0**2 + 4000.0**2)
    for key, factor in (("machined_bearing", 2.0), ("machined_pin_shear", 2.0)):
        assert check(link, key).demand == pytest.approx(whole * factor)
    assert check(link, "machined_pin_shear").capacity == pytest.approx(plain_pin_shear(12.0, 640.0))
    assert plain_pin_shear(12.0, 640.0) == pytest.approx(2 * 640 / sqrt(3) * pi * 36, rel=1e-3)
    assert CaseSeen(name="x", axial_n=3000.0, strike_n=6000.0, side_n=1000.0).resultant_n == pytest.approx(5000.0)


def test_a_joint_bears_less_along_its_bolt_and_both_count_at_once() -> None:
    design = demo("marram")
    plain, together = (
        check(loaded(design, case), "joint", design)
        for case in (LoadCase(name="x", axial_n=9000.0), LoadCase(name="x", axial_n=9000.0, side_n=800.0))
    )
    assert plain.demand == pytest.approx(9000.0 * 2.0)
    end = built(loaded(design, LoadCase(name="x", axial_n=9000.0)), design).assembly.threaded[0].joint
    across = 0.2 * end.race_pressure_mpa * end.ball_diameter_mm * end.housing_width_mm
    assert together.demand == pytest.approx(2.0 * (9000.0 + 800.0 * plain.capacity / across))
    assert plain.name == "Joint, its estimated rating"


# --- what a search may return ------------------------------------------------------------------------------------------------


def test_limits_say_what_they_rule_out_and_why() -> None:
    tube = Tube(key="t", label="t", source="none", od_mm=20.0, wall_mm=1.5, series="metric")
    thick = tube.model_copy(update={"wall_mm": 3.0, "key": "u"})
    rules = prudent_for(Settings(), "road", (), "steers")
    assert not rules.takes(tube, 300.0, "M12x1.75")
    assert not rules.takes(thick, 300.0, "M10x1.5")
    assert rules.takes(thick, 300.0, "M12x1.75")
    assert rules.takes(thick, 300.0, "1/2-20 UNF")
    assert not rules.takes(thick, 1500.0, "M12x1.75")  # r 6.1 mm
    assert rules.told() == (
        "Left out by the shop’s limits: 1 with a wall under 2 mm (common practice, no source); 1 with a thread under 12 mm (it steers: nothing else "
        "holds the wheel when it goes); 1 with a slenderness over 200 (AISC 360 E2, a user note)."
    )
    assert prudent_for(Settings(), "circuit", (), "").takes(tube, 300.0, "M8x1.25")
    struck = prudent_for(Settings(), "circuit", (CaseSeen(name="x", strike_n=1.0),), "")
    assert not struck.takes(tube.model_copy(update={"wall_mm": 2.9}), 300.0, None)
    own = prudent_for(Settings(search=SearchLimits(only_tubes=("u",))), "road", (), "")
    assert own.takes(thick, 300.0, None)
    assert not own.takes(thick.model_copy(update={"key": "v"}), 300.0, None)
    assert Prudent().takes(tube, 9000.0, "M5x0.8")


@pytest.mark.parametrize(
    ("name", "end", "link", "found"),
    [("marram", 0, "tie rod", "steers"), ("marram", 0, "drop link", ""), ("marram", 1, "Panhard rod", "locates"), ("quay", 0, "upper link", ""),
     ("tern", 0, "lower rear link", "locates"), ("marram", 1, "no such", "")],
)  # fmt: skip
def test_a_link_that_steers_or_alone_locates_is_known(name: str, end: int, link: str, found: str) -> None:
    design = demo(name)
    assert duty_of(work(design).at_ride(design.ends[end].id), link) == found


@pytest.mark.parametrize("name", ["marram", "tern", "quay"])
def test_every_part_of_the_demo_keeps_the_shop_s_limits_and_says_what_it_is_for(name: str) -> None:
    design = demo(name)
    job_ = work(design)
    for link in links(design):
        made = built(link, design).assembly
        cases = built(link, design).assembly.cases
        rules = prudent_for(design.settings, design.car.use, cases, duty(link, job_))
        thread = made.threaded[0].joint.designation if made.threaded else None
        assert rules.takes(made.tube, link.between.mm, thread), rules.told()
        is_for = duty(link, job_)
        assert bool(is_for) == any("Crack-test" in note for note in shown(link, design).notes)
    assert with_part(design).parts == design.parts
