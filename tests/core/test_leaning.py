"""How the body leans, what is met where, and what goes into steering and propeller shaft: against plain statics written out here.

Milliken and Milliken (ch. 18) and Gillespie (ch. 6), from memory, for lean and transfer; the rest is virtual work by small
movements of the mechanism, and balances of the whole car.
"""

from __future__ import annotations

import csv
import io
from dataclasses import replace
from math import cos, degrees, pi, radians, sin
from typing import Any

import numpy as np
import pytest

from tests.core.test_carrying import carried, weights, with_car, with_end
from tests.core.test_loads import demo
from tests.jobs import links, part_of, work
from tirante.core.document.car import Car, CornerMasses
from tirante.core.document.load_cases import CarCase, LoadSet
from tirante.core.errors import InputError
from tirante.core.loads.acting import parking_moment
from tirante.core.loads.body_roll import EndRoll, lean, to_body
from tirante.core.loads.bump_stop import compressed, polynomial
from tirante.core.loads.end_loads import Carried
from tirante.core.loads.shown import pickups_csv
from tirante.core.loads.wheel_loads import WHEELS, accelerated, standing_loads
from tirante.core.suspension.cycle import cycle, positions
from tirante.core.units import STANDARD_GRAVITY as GRAVITY
from tirante.shipped import the_shelf
from tirante.shipped.templates import example_ends

CAR = Car(wheelbase_mm=2500.0, cg_height_mm=550.0, brake_front_share=0.6, unsprung_front_kg=80.0, unsprung_rear_kg=110.0,
          corners=CornerMasses(front_left_kg=260, front_right_kg=240, rear_left_kg=310, rear_right_kg=290))  # fmt: skip
PER_DEGREE = 180 / pi * 1000.0  # N·m/° in N·mm/rad
ENDS = {
    "front": EndRoll(stiffness=420.0 * PER_DEGREE, centre=60.0, track=1400.0, wheel_height=300.0),
    "rear": EndRoll(stiffness=260.0 * PER_DEGREE, centre=210.0, track=1500.0, wheel_height=310.0),
}


def loads(car: Car, ends: dict[str, EndRoll], across: float, ahead: float = 0.0) -> tuple[dict[Any, Any], Any]:
    case = CarCase(name="x", kind="car", longitudinal=ahead, lateral=across, torque="brake")
    return accelerated(car, case, ahead, across, ends)


# --- the car as a whole -----------------------------------------------------------------------------------------------


@pytest.mark.parametrize(("ahead", "across"), [(-0.7, 0.0), (0.5, 0.0), (0.0, 0.7), (0.0, -0.4), (-0.4, 0.5)])
def test_the_ground_carries_the_accelerated_car(ahead: float, across: float) -> None:
    """Forces are m a; moments about the mass's own place nought, the sprung weight moved out by the lean counted."""
    found, leaning = loads(CAR, ENDS, across, ahead)
    rest = standing_loads(CAR)
    weight = sum(rest.values())
    force = np.sum([found[w].force for w in WHEELS], axis=0)
    assert force == pytest.approx([weight * ahead, weight * across, weight], rel=1e-12)
    x = {"front": 0.0, "rear": -CAR.wheelbase_mm}
    pitch = sum((found[w].force[2] - rest[w]) * x[w[0]] for w in WHEELS)
    assert pitch == pytest.approx(-weight * ahead * CAR.cg_height_mm, abs=1e-6)
    side = {"left": 1.0, "right": -1.0}
    roll = sum((found[w].force[2] - rest[w]) * side[w[1]] * (ENDS[w[0]].track or 0) / 2 for w in WHEELS)
    over = leaning.overturning if leaning else 0.0
    assert -roll == pytest.approx(weight * across * CAR.cg_height_mm + np.sign(across) * over, rel=1e-9, abs=1e-6)


def test_the_lean_is_the_textbook_s() -> None:
    """φ = m_s a h₁ / (Kφ − m_s g h₁), h₁ over the roll axis under the sprung mass; transfer by spring, link and wheel, each written out."""
    a = 0.8
    rest = standing_loads(CAR)
    found = lean(CAR, rest, dict.fromkeys(("front", "rear"), 1e9), ENDS, a)
    g, m = GRAVITY, 1100.0
    sprung = {"front": 500.0 - 80.0, "rear": 600.0 - 110.0}
    height = (m * 550.0 - 80.0 * 300.0 - 110.0 * 310.0) / (m - 190.0)
    above = height - (sprung["front"] * 60.0 + sprung["rear"] * 210.0) / 910.0
    turn = 910.0 * a * g * above / ((420.0 + 260.0) * PER_DEGREE - 910.0 * g * above)
    for end, unsprung in (("front", 80.0), ("rear", 110.0)):
        one = ENDS[end]
        assert found.roll[end] == pytest.approx(turn, rel=1e-12)
        moment = (
            (one.stiffness or 0) * turn
            + sprung[end] * a * g * (one.centre or 0)
            + unsprung * a * g * (one.wheel_height or 0)
        )
        assert found.transfer[end] == pytest.approx(moment / (one.track or 1), rel=1e-12)
    assert 1.0 < degrees(turn) < 6.0


def test_a_roll_axis_through_the_mass_leaves_the_body_upright_and_a_stiffer_end_takes_more() -> None:
    rest, free = standing_loads(CAR), dict.fromkeys(("front", "rear"), 1e9)
    high = (1100.0 * 550.0 - 80.0 * 300.0 - 110.0 * 310.0) / 910.0
    level = {end: replace(one, centre=high) for end, one in ENDS.items()}
    assert lean(CAR, rest, free, level, 0.9).roll["front"] == pytest.approx(0.0, abs=1e-12)
    stiff = ENDS | {"front": replace(ENDS["front"], stiffness=(ENDS["front"].stiffness or 0) * 2)}
    one, two = lean(CAR, rest, free, ENDS, 0.5), lean(CAR, rest, free, stiff, 0.5)
    assert two.transfer["front"] > one.transfer["front"]
    assert two.transfer["rear"] < one.transfer["rear"]
    assert two.roll["front"] < one.roll["front"]


def test_tyres_that_yield_lean_with_the_springs_one_after_the_other() -> None:
    rest, free = standing_loads(CAR), dict.fromkeys(("front", "rear"), 1e9)
    soft = CAR.model_copy(update={"tyre_rate_front_n_per_mm": 200.0, "tyre_rate_rear_n_per_mm": 200.0})
    series = {
        end: replace(one, stiffness=1 / (1 / (one.stiffness or 1) + 1 / (200.0 * (one.track or 1) ** 2 / 2)))
        for end, one in ENDS.items()
    }
    one, two = lean(soft, rest, free, ENDS, 0.6), lean(CAR, rest, free, series, 0.6)
    assert one.transfer == pytest.approx(two.transfer)
    # against its wheels the body leans by the springs' part of it
    for end in ("front", "rear"):
        share = (series[end].stiffness or 0) / (ENDS[end].stiffness or 1)
        assert one.roll[end] == pytest.approx(two.roll[end] * share)


@pytest.mark.parametrize("across", [0.9, -0.9])
def test_an_end_that_has_lifted_its_inner_wheel_takes_no_more_and_the_other_takes_the_rest(across: float) -> None:
    stiff = ENDS | {"front": replace(ENDS["front"], stiffness=3000.0 * PER_DEGREE)}
    high = CAR.model_copy(update={"cg_height_mm": 650.0})
    found, leaning = loads(high, stiff, across)
    inner, outer = ("left", "right") if across > 0 else ("right", "left")
    assert leaning.lifted == {"front"}
    assert found["front", inner].lifted
    assert found["front", inner].force == (0.0, 0.0, 0.0)
    rest = standing_loads(high)
    assert found["front", outer].force[2] == pytest.approx(rest["front", "left"] + rest["front", "right"])
    total = sum(leaning.transfer[end] * (stiff[end].track or 0) for end in ("front", "rear"))
    assert total == pytest.approx(sum(rest.values()) * 0.9 * 650.0 + leaning.overturning, rel=1e-9)
    with pytest.raises(InputError, match="tips over"):
        loads(CAR.model_copy(update={"cg_height_mm": 1900.0}), ENDS, 1.0)


def test_what_the_lean_asks_for_is_named_where_it_is_missing_and_may_be_typed() -> None:
    only = {"rear": ENDS["rear"]}
    with pytest.raises(
        InputError, match="the front has no roll stiffness and roll centre and track and height"
    ) as told:
        loads(CAR, only, 0.5)
    assert told.value.fields[0] == "car.roll_stiffness_front_nm_per_deg"
    typed = CAR.model_copy(update={"roll_stiffness_front_nm_per_deg": 420.0, "roll_centre_front_mm": 60.0, "track_front_mm": 1400.0, "wheel_height_mm": 300.0})  # fmt: skip
    assert loads(typed, only, 0.5)[1].transfer == pytest.approx(loads(CAR, ENDS, 0.5)[1].transfer)
    bare = {"rear": ENDS["rear"], "front": replace(ENDS["front"], stiffness=None)}
    with pytest.raises(InputError, match="its springs’ rate there"):
        loads(CAR, bare, 0.5)


def test_a_force_told_to_a_body_that_leans_is_the_same_force() -> None:
    phi = radians(4.0)
    # the body's own axes, seen from the ground: it leans to the right, its left side rises
    y, z = np.array([0.0, cos(phi), sin(phi)]), np.array([0.0, -sin(phi), cos(phi)])
    x, across, up = to_body((100.0, -700.0, 3000.0), phi)
    assert x * np.array([1.0, 0, 0]) + across * y + up * z == pytest.approx([100.0, -700.0, 3000.0])


# --- an end's own stiffness and what it carries -------------------------------------------------------------------------


@pytest.mark.parametrize(("name", "end"), [("marram", 0), ("marram", 1), ("quay", 0), ("tern", 0)])
def test_roll_stiffness_is_the_curvature_of_what_springs_and_bars_take_up(name: str, end: int) -> None:
    design = demo(name)
    one, job = design.ends[end], work(design)
    assert one.end.damper
    rate = one.end.damper.rate_n_per_mm or 0.0
    step = 0.6
    found = cycle(job.template(one.id), job.ends[one.id], positions([0.0], [-step, 0.0, step], [0.0]))
    taken = np.zeros(3)
    for columns in (found.columns, found.right):
        length = columns["damper_length_mm"]
        taken += rate / 2 * (length - length[1]) ** 2
    for addition in one.end.additions.values():
        turns = [bar["arb_arm_turn_deg"] for bar in found.bars.values()]
        twist = turns[0] - turns[1]  # of an independent end, mirrored corners turn alike in heave
        taken += (addition.rate_nm_per_deg or 0.0) * PER_DEGREE / 2 * np.radians(twist) ** 2
    curved = (taken[0] - 2 * taken[1] + taken[2]) / radians(step) ** 2
    assert job.rolls[one.end.end].stiffness == pytest.approx(curved, rel=2e-3)


def test_a_beam_leans_on_its_spring_base_and_a_corner_on_its_track() -> None:
    """½ t² k of upright springs: a beam's by its spring base (Quay's stand upright), a corner's by track and motion ratio."""
    quay = demo("quay")
    damper = quay.ends[0].end.damper
    assert damper
    base = 2 * quay.ends[0].end.points[damper.b.point][1]
    assert work(quay).rolls["rear"].stiffness == pytest.approx((damper.rate_n_per_mm or 0) * base**2 / 2, rel=5e-3)
    tern = demo("tern")
    job, one = work(tern), tern.ends[0]
    ratio = cycle(job.template(one.id), job.ends[one.id], positions([0.0], [0.0], [0.0])).columns["motion_ratio"][0]
    track = job.rolls["rear"].track
    assert one.end.damper
    assert track
    assert job.rolls["rear"].stiffness == pytest.approx(
        (one.end.damper.rate_n_per_mm or 0) * ratio**2 * track**2 / 2, rel=5e-3
    )


@pytest.mark.parametrize(("name", "end"), [("marram", 0), ("quay", 0), ("tern", 0)])
def test_in_a_corner_the_springs_carry_what_their_rate_and_the_lean_make_of_them(name: str, end: int) -> None:
    """Two roads to one figure: the balance of the mechanism under the transferred loads, and the springs' lengths where it leans.

    The textbook's roll centre stands for both wheels alike; the mechanism has the outer one take more of the side force, so that they differ
    by a tenth where a corner's links slope.
    """
    design = demo(name)
    assert design.ends[end].end.damper
    rate = design.ends[end].end.damper.rate_n_per_mm  # type: ignore[union-attr]
    left, right = carried(design, end, CarCase(name="c", kind="car", lateral=0.5))
    assert left.position[1] == pytest.approx(-right.position[1], rel=0.05)
    assert left.position[1] > 0.3  # turning left it leans to the right
    job = work(design)
    at = cycle(
        job.template(design.ends[end].id), job.ends[design.ends[end].id], positions([0.0], [left.position[1]], [0.0])
    )
    shorter = at.columns["damper_length_mm"][0] - at.right["damper_length_mm"][0]
    assert left.forces
    springs = list(left.forces.springs.items())
    outer = next(force for label, force in springs if label.endswith("right"))
    inner = next(force for label, force in springs if not label.endswith("right"))
    still = carried(design, end, CarCase(name="s", kind="car", vertical=1.0))[0]
    assert still.forces
    unlike = next(f for n, f in still.forces.springs.items() if n.endswith("right")) - next(f for n, f in still.forces.springs.items() if not n.endswith("right"))  # fmt: skip
    assert outer - inner - unlike == pytest.approx((rate or 0.0) * shorter, rel=0.14)


def test_a_bar_twists_in_a_corner_and_over_one_wheel_by_its_rate_and_its_ends_part_the_load() -> None:
    design = demo("marram")
    corner = carried(design, 0, CarCase(name="c", kind="car", lateral=0.6))
    bump = carried(design, 0, CarCase(name="b", vertical=2.0, travel_mm=40.0))
    job, one = work(design), design.ends[0]
    rate = one.end.additions["anti-roll-bar"].rate_nm_per_deg or 0.0
    for case in (*corner, *bump):
        assert case.forces
        rows = np.array(case.position).reshape(3, 1)
        turns = [
            bar["arb_arm_turn_deg"][0] for bar in cycle(job.template(one.id), job.ends[one.id], rows).bars.values()
        ]
        twist = turns[0] - turns[1]
        assert abs(twist) > 1.0
        for torque in case.forces.bars.values():
            assert abs(torque) == pytest.approx(rate * 1000 * abs(twist), rel=1e-6)
        assert abs(case.forces.axial["drop link"]) > 200.0
    # without its bar the end leans more, and the other end takes more of the transfer
    bare = with_end(
        design,
        0,
        additions={"anti-roll-bar": one.end.additions["anti-roll-bar"].model_copy(update={"rate_nm_per_deg": None})},
    )
    without = carried(bare, 0, CarCase(name="c", kind="car", lateral=0.6))
    assert without[0].position[1] > corner[0].position[1]
    assert any("has no rate" in note for note in without[0].notes)


def test_roll_typed_in_a_case_turns_round_with_it_and_so_does_steer() -> None:
    left, right = carried(demo("marram"), 0, CarCase(name="c", kind="car", lateral=0.6, roll_deg=1.5, steer=8.0))
    assert left.position == (0.0, 1.5, 8.0)
    assert right.position == (0.0, -1.5, -8.0)


def test_a_corner_that_nothing_tells_the_lean_of_is_not_carried() -> None:
    quay = with_car(demo("quay"), roll_stiffness_front_nm_per_deg=None)
    (one,) = carried(quay, 0, CarCase(name="c", kind="car", lateral=0.5))
    assert one.forces is None
    assert "the front has no roll stiffness" in (one.fault or "")
    (stop,) = carried(quay, 0, CarCase(name="c", kind="car", longitudinal=-0.5, torque="brake"))
    assert stop.fault is None


# --- one wheel, and what is met ---------------------------------------------------------------------------------------------


@pytest.mark.parametrize(("name", "end"), [("marram", 0), ("marram", 1), ("quay", 0)])
@pytest.mark.parametrize("rise", [35.0, -30.0])
def test_one_wheel_rises_and_the_other_stands_where_it_stood(name: str, end: int, rise: float) -> None:
    design = demo(name)
    job, one = work(design), design.ends[end]
    for way, case in zip(
        ("left", "right"), carried(design, end, CarCase(name="b", vertical=1.5, travel_mm=rise)), strict=True
    ):
        at = cycle(job.template(one.id), job.ends[one.id], np.array(case.position).reshape(3, 1))
        ride = cycle(job.template(one.id), job.ends[one.id], np.zeros((3, 1)))
        if "wheel_centre" in one.end.points and job.template(one.id).axle == "beam":
            z = {
                "left": at.columns["contact_z_mm"][0] - ride.columns["contact_z_mm"][0],
                "right": at.right["contact_z_mm"][0] - ride.right["contact_z_mm"][0],
            }
        else:
            z = {
                "left": at.columns["contact_z_mm"][0] - ride.columns["contact_z_mm"][0],
                "right": at.right["contact_z_mm"][0] - ride.right["contact_z_mm"][0],
            }
        assert z[way] == pytest.approx(rise, abs=0.9)
        assert z["right" if way == "left" else "left"] == pytest.approx(0.0, abs=0.9)


def pressed(one: Carried) -> None:
    """Of what is met: stops only push, straps only pull, and what lets go had nothing to hold."""
    assert one.forces
    for force in (*one.forces.stops.values(), *one.forces.straps.values()):
        assert force >= -1e-3
    for side, carrier in one.met.items():
        label = next((n for n in one.springs if (n.endswith("right")) == (side == "right")), None)
        holds = any(
            (name.endswith("right")) == (side == "right")
            for name in (one.forces.stops if carrier == "stop" else one.forces.straps)
        )
        if label and not holds:  # the spring alone: asked for no more than it has itself (a strap: no less)
            beyond = one.forces.springs[label] - one.springs[label]
            assert beyond <= 1e-3 if carrier == "stop" else beyond >= -1e-3
        if label and holds:
            assert one.forces.springs[label] == pytest.approx(one.springs[label])


@pytest.mark.parametrize("name", ["marram", "tern", "quay"])
@pytest.mark.parametrize("use", sorted(the_shelf().load_sets))
def test_in_every_shipped_case_stops_push_and_straps_pull(name: str, use: str) -> None:
    design = demo(name)
    met = 0
    for end in range(len(design.ends)):
        for one in carried(design, end, *the_shelf().load_sets[use].cases):
            if one.fault is None:
                pressed(one)
                met += bool(one.met)
    assert met or name == "tern"


def test_the_stop_of_the_wheel_that_stays_down_is_let_be() -> None:
    """On a beam one stop alone is met over a one-wheel bump; it and the spring beside it hold the wheel, moments about the other spring."""
    design = demo("quay")
    for way, one in zip(("left", "right"), carried(design, 0, CarCase(name="b", vertical=3.0, at="stop")), strict=True):
        assert list(one.met) == [way]
        assert one.forces
        assert [name.endswith(way) for name in one.forces.stops] == [True]
        assert min(one.forces.stops.values()) > 3000.0
        # a heave that meets both, with one wheel loaded: one stop lets go
    both = carried(design, 0, CarCase(name="b", vertical=2.6, travel_mm=60.0, wheels="both"))[0]
    assert set(both.met) == {"left", "right"}
    pressed(both)


def test_a_strap_ends_the_droop_and_the_snatch_goes_through_it() -> None:
    design = demo("quay")
    assert design.ends[0].end.strap
    points = design.ends[0].end.points
    now = float(np.linalg.norm(np.subtract(points["strap_high"], points["strap_low"])))
    short = with_end(design, 0, strap=design.ends[0].end.strap.model_copy(update={"length_mm": now + 40.0}))
    snatch = CarCase(name="s", kind="snatch", at="droop", speed_m_s=1.0, stiffness_n_per_mm=1000.0, wheels="both")
    (one,) = carried(short, 0, snatch)
    assert one.notes[0] == "the strap is taut"
    assert one.carrier == "strap"
    assert one.forces
    # upright straps and springs: what they hold is the wheels' jerk and the springs' own push down
    assert sum(one.forces.straps.values()) == pytest.approx(
        -sum(push.force[2] for push in one.pushes) + sum(one.forces.springs.values()), rel=2e-2
    )
    pressed(one)
    long = with_end(design, 0, strap=design.ends[0].end.strap.model_copy(update={"length_mm": now + 90.0}))
    (open_,) = carried(long, 0, snatch)
    assert open_.notes[0] == "the damper is open"
    assert open_.forces
    assert not open_.forces.straps


@pytest.mark.parametrize("load", [4000.0, 9000.0])
def test_a_wheel_s_load_crushes_its_stop_until_stop_and_spring_hold_it(load: float) -> None:
    force, _ = polynomial(120.0, 0.06)
    x = compressed(load, force, wheel_rate=20.0, wheel_preload=2500.0, motion_ratio=0.7)
    assert 0.7 * (120.0 * 0.7 * x + 0.06 * (0.7 * x) ** 3) + 2500.0 + 20.0 * x == pytest.approx(load)
    assert compressed(2400.0, force, wheel_rate=20.0, wheel_preload=2500.0) == 0.0


@pytest.mark.parametrize("end", [0, 1])
def test_what_the_frame_feels_is_the_ground_s_push_stops_and_straps_among_it(end: int) -> None:
    design = demo("marram")
    design = design.model_copy(update={"loads": LoadSet(name="t", cases=(
        CarCase(name="bump", vertical=4.0, at="stop"), CarCase(name="corner", kind="car", lateral=0.6),
        CarCase(name="drive", kind="car", longitudinal=0.4, torque="drive"),
    ))})  # fmt: skip
    found = work(design).carried(design.ends[end].id)
    rows = list(csv.DictReader(io.StringIO(pickups_csv({"x": found}))))
    for one in found.cases:
        own = [row for row in rows if row["case"] == one.name]
        total = np.array([sum(float(row[axis]) for row in own) for axis in ("fx_n", "fy_n", "fz_n")])
        pushed = np.sum([push.force for push in one.pushes], axis=0)
        assert total == pytest.approx(pushed, abs=0.1)
        # moments about the origin too, but for what turns with the wheel and the propeller shaft's own couple
        if one.case.name == "bump":
            moment = sum(
                np.cross([float(row[f"{a}_mm"]) for a in "xyz"], [float(row[f"f{a}_n"]) for a in "xyz"]) for row in own
            )
            assert one.forces
            wanted = sum(np.cross(at, force) for _, at, force in one.forces.applied)
            assert moment == pytest.approx(wanted, abs=2e-4 * float(np.abs(wanted).max()))


# --- steering, propeller shaft, tilt -------------------------------------------------------------------------------------


def test_the_moment_that_turns_a_tyre_on_the_spot() -> None:
    """Gough, from memory: μ W^1.5 / (3 √p); 3000 N on 200 kPa at 0.9 are 110 N·m."""
    assert parking_moment(3000.0, 0.9, 200.0) == pytest.approx(110_227.0, rel=1e-4)
    assert parking_moment(6000.0, 0.9, 200.0) == pytest.approx(110_227.0 * 2**1.5, rel=1e-4)


def test_steered_at_a_standstill_the_rods_hold_both_tyres_moments() -> None:
    """Virtual work of a small steer: the rods' pull along the rack is what turns both wheels against their moments."""
    design = with_car(demo("marram"), tyre_pressure_front_kpa=140.0)
    left, right = carried(design, 0, CarCase(name="p", kind="park", friction=0.8))
    assert not any("pressure" in note for note in left.notes)
    job, one = work(design), design.ends[0]
    step = 0.5
    turned = cycle(job.template(one.id), job.ends[one.id], positions([0.0], [0.0], [-step, step]))
    weight = weights(design, 0)
    for side, columns, sign in (("left", turned.columns, 1.0), ("right", turned.right, -1.0)):
        rate = radians((columns["toe_deg"][1] - columns["toe_deg"][0]) * -sign) / (
            2 * step
        )  # of the wheel to the left by rack
        moment = 0.8 * weight[side] ** 1.5 / (3 * (140e3) ** 0.5) * 1000
        name = "tie rod" if side == "left" else "tie rod, right"
        assert left.forces
        assert right.forces
        a, b = left.forces.ends[name]
        along = float(((b - a) / np.linalg.norm(b - a))[1])
        change = (right.forces.axial[name] - left.forces.axial[name]) * along / 2
        assert abs(change) == pytest.approx(abs(moment * rate), rel=0.02)
    assert carried(design, 1, CarCase(name="p", kind="park")) == []  # nothing steers behind


def test_a_kerb_at_full_lock_turns_the_wheel_against_its_rod() -> None:
    design = demo("marram")
    every = carried(design, 0, CarCase(name="j", kind="jam", lateral=1.5))
    assert len(every) == 8  # either lock, either wheel, from either side
    job, one = work(design), design.ends[0]
    lock = one.box.steer_mm
    arm = 0.65 * one.end.wheel.loaded_radius_mm
    for case in every:
        side = "left" if "left wheel" in case.name else "right"
        assert case.position[2] == (lock if "turned left" in case.name else -lock)
        steer = case.position[2]
        at = cycle(job.template(one.id), job.ends[one.id], positions([0.0], [0.0], [steer - 0.5, steer, steer + 0.5]))
        columns, sign = (at.columns, 1.0) if side == "left" else (at.right, -1.0)
        heading = radians(-sign * columns["toe_deg"][1])
        push = next(push for push in case.pushes if push.at == f"wheel_centre_{side}")
        fx, fy, _ = push.force
        inward = fy * (1 if side == "right" else -1) > 0
        assert inward == ("from outside" in case.name)
        assert abs(fy) == pytest.approx(1.5 * weights(design, 0)[side])
        # the blow is ahead of the wheel's middle: r × F about the middle
        assert push.moment[2] == pytest.approx(arm * cos(heading) * fy - arm * sin(heading) * fx)
        assert case.forces
        name = "tie rod" if side == "left" else "tie rod, right"
        still = next(c for c in every if c.position == case.position and side not in c.name.split(" wheel")[0])
        assert still.forces
        assert abs(case.forces.axial[name]) > 10 * abs(still.forces.axial[name])


def test_the_propeller_shaft_leans_a_live_axle_by_its_torque_either_way_round() -> None:
    """Quay's links hold no roll: the springs take it all, torque = push × radius / ratio."""
    design = demo("quay")
    one, two = carried(design, 0, CarCase(name="d", kind="car", longitudinal=0.4, torque="drive"))
    push = sum(p.force[0] for p in one.pushes)
    torque = push * design.ends[0].end.wheel.loaded_radius_mm / 4.1
    damper = design.ends[0].end.damper
    assert damper
    y = design.ends[0].end.points[damper.b.point][1]
    for case, sign in ((one, 1.0), (two, -1.0)):
        assert case.forces
        springs = case.forces.springs
        # turning to the right (about the car's length, forward) the axle's left side is lifted
        assert (springs["spring, left"] - springs["spring, right"]) * y == pytest.approx(sign * torque, rel=2e-3)
    unknown = carried(
        with_car(design, final_drive_ratio=None), 0, CarCase(name="d", kind="car", longitudinal=0.4, torque="drive")
    )
    assert "taken as 3.5" in unknown[0].notes[-1]
    assert (
        len(carried(demo("tern"), 0, CarCase(name="d", kind="car", longitudinal=0.4, torque="drive"))) == 1
    )  # no live axle


def test_a_link_s_tilt_to_its_bolts_is_that_of_its_ends_where_the_case_applies() -> None:
    design = demo("marram")
    for end, link in ((0, "tie rod"), (1, "Panhard rod"), (1, "lower link, left")):
        known = design.ends[end].end.links[link.split(",")[0]]
        for one in carried(
            design, end, CarCase(name="c", kind="car", lateral=0.7), CarCase(name="b", vertical=2.0, travel_mm=40.0)
        ):
            assert one.forces
            a, b = one.forces.ends[link]
            axis = (b - a) / np.linalg.norm(b - a)
            bodies = one.forces.bodies[link]
            for which, joint, body in ((0, known.a, bodies[0]), (1, known.b, bodies[1])):
                if body != "ground":
                    continue  # its bolt moves with the body
                assert joint
                bolt = np.array(joint.bolt_axis) / np.linalg.norm(joint.bolt_axis)
                assert one.sines[link][which] == pytest.approx(abs(axis @ bolt), abs=1e-12)
    seen = next(part for part in work(design).parts if part.name == "Panhard rod").own[0].assembly.cases
    corner = [case for case in seen if case.worked and case.bolt_a_n > 1.0]
    assert corner
    assert all(case.at_end("a").side_n == case.side_n + case.bolt_a_n for case in corner)


# --- whatever is driven ---------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("name", sorted(example_ends()))
def test_every_shipped_case_on_every_template_is_carried_or_says_why(name: str) -> None:
    """A car of no particular kind on every example end: equilibrium to 1e-9, and no case silent."""
    end = example_ends()[name]
    car = Car(
        mass_kg=1000.0, cg_behind_front_mm=1250.0, unsprung_front_kg=70.0, unsprung_rear_kg=90.0, drive_front_share=0.4,
        roll_stiffness_front_nm_per_deg=400.0, roll_stiffness_rear_nm_per_deg=350.0, roll_centre_front_mm=60.0, roll_centre_rear_mm=90.0,
        track_front_mm=1450.0, track_rear_mm=1460.0, wheel_height_mm=300.0,
    )  # fmt: skip
    design = demo("quay")
    one = design.ends[0].model_copy(
        update={"end": end.model_copy(update={"vehicle": None, "ride": design.ends[0].end.ride})}
    )
    design = design.model_copy(update={"ends": (one,), "car": car, "parts": (), "joints": ()})
    for loadset in the_shelf().load_sets.values():
        found = work(design.model_copy(update={"loads": LoadSet(name="t", cases=loadset.cases)})).carried(one.id)
        for case in found.cases:
            if case.fault:
                assert len(case.fault) > 20
                continue
            assert case.forces
            assert case.forces.residual < 1e-9
            pressed(case)


def test_what_nothing_of_the_end_carries_is_not_said_to_be_carried() -> None:
    design = demo("marram")
    end = design.ends[0]
    gone = {"damper_low", "damper_top", "stop_pad", "stop_tip"}
    points = {name: at for name, at in end.end.points.items() if name not in gone}
    less: dict[str, Any] = {"damper": None, "bump_stop": None, "strap": None, "points": points}
    bare = end.model_copy(update={"end": end.end.model_copy(update=less)})
    other = design.model_copy(update={"ends": (bare, *design.ends[1:])})
    whole, lacking = (work(one).carried(end.id).cases for one in (design, other))
    assert not any(one.unheld for one in whole)
    brake = next(one for one in lacking if one.case.name.startswith("brake"))
    assert brake.unheld
    assert brake.forces
    # what stands for the spring takes all that stands on the wheels in a brake, less what is unsprung
    assert sum(abs(force) for force in brake.forces.holds.values()) > GRAVITY * (182 + 178 - 62)
    # a part of that end is not said to hold, a part of the other is
    link = next(part for part in links(other) if part.between.kind == "end" and part.between.end_id == end.id)
    assert any("no spring, stop or strap" in one.why for one in part_of(link, other).not_carried)
    # and what drops onto nothing is refused
    snatch = next(one for one in lacking if one.case.kind == "snatch")
    assert snatch.fault
    assert "Nothing at this end stops the droop" in snatch.fault
