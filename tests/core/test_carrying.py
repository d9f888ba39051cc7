"""What the cases of a load set put through an end: which wheel, which share, which carrier, by balances and symmetries of the whole.

No source: plain statics, written out here from the car's own masses, or a symmetry that a right answer must have.
"""

from __future__ import annotations

from math import sqrt
from typing import Any

import numpy as np
import pytest

from tests.core.test_loads import demo
from tests.jobs import work
from tirante.core.document.car import CornerMasses
from tirante.core.document.design import Design
from tirante.core.document.load_cases import CarCase, LoadSet
from tirante.core.loads.case_seen import CaseSeen
from tirante.core.loads.end_loads import Carried
from tirante.core.loads.envelope import envelope
from tirante.core.loads.seen import seen_by_link, sides_of, swings_of_link
from tirante.core.loads.shown import as_calc_input, worst_of_parts
from tirante.core.suspension.cycle import cycle, positions
from tirante.core.units import STANDARD_GRAVITY as GRAVITY

JOBS = [("marram", 0), ("marram", 1), ("quay", 0), ("tern", 0)]
CORNERS = ("front_left_kg", "front_right_kg", "rear_left_kg", "rear_right_kg")


def carried(design: Design, end: int, *cases: CarCase) -> list[Carried]:
    loaded = design.model_copy(update={"loads": LoadSet(name="t", cases=cases)})
    return list(work(loaded).carried(loaded.ends[end].id).cases)


def with_car(design: Design, **change: Any) -> Design:
    return design.model_copy(update={"car": design.car.model_copy(update=change)})


def heavier(design: Design, factor: float) -> Design:
    """By so much, whether its corners were weighed or the whole car was."""
    car = design.car
    if car.corners is None:
        assert car.mass_kg
        return with_car(design, mass_kg=car.mass_kg * factor)
    return with_car(design, corners=CornerMasses(**{name: getattr(car.corners, name) * factor for name in CORNERS}))


def weights(design: Design, end: int) -> dict[str, float]:
    """What each wheel of an end stands with [N]: from the scales, or by the lever of the whole car's mass."""
    car, where = design.car, design.ends[end].end.end
    if car.corners is not None:
        return {side: getattr(car.corners, f"{where}_{side}_kg") * GRAVITY for side in ("left", "right")}
    assert car.mass_kg
    assert car.cg_behind_front_mm is not None
    rear = car.mass_kg * car.cg_behind_front_mm / car.wheelbase_mm
    return dict.fromkeys(("left", "right"), (rear if where == "rear" else car.mass_kg - rear) * GRAVITY / 2)


def every_force(one: Carried) -> dict[str, float]:
    assert one.forces, one.fault
    joints = {f"{name} {i}": float(v) for name, joint in one.forces.joints.items() for i, v in enumerate(joint.force)}
    return one.forces.axial | one.forces.springs | one.forces.stops | joints


HIT = CarCase(name="hit", vertical=2.0, longitudinal=-0.7, lateral=0.4)
TURN = CarCase(name="turn", kind="car", lateral=0.8)
STOP = CarCase(name="brake", kind="car", longitudinal=-0.7, torque="brake")


@pytest.mark.parametrize(("name", "end"), JOBS)
def test_a_car_of_twice_the_mass_loads_everything_twice(name: str, end: int) -> None:
    # no case among these is met by a stop, whose own rate would not grow with it
    design = demo(name)
    heavy = heavier(design, 2.0)
    for one, two in zip(carried(design, end, HIT, STOP), carried(heavy, end, HIT, STOP), strict=True):
        single, double = every_force(one), every_force(two)
        assert single.keys() == double.keys()
        scale = max(map(abs, single.values()))
        for part, force in single.items():
            assert double[part] == pytest.approx(2 * force, rel=1e-9, abs=1e-7 * scale), part


@pytest.mark.parametrize(("name", "end"), JOBS)
def test_what_a_wheel_is_pushed_in_three_ways_at_once_is_the_sum_of_each(name: str, end: int) -> None:
    design = demo(name)
    up = CarCase(name="up", vertical=2.0)
    more = [
        CarCase(name=f"{axis}", vertical=2.0, **{axis: value})
        for axis, value in (("longitudinal", -0.7), ("lateral", 0.4))
    ]
    for together, alone, *each in zip(*(carried(design, end, one) for one in (HIT, up, *more)), strict=True):
        base, whole = every_force(alone), every_force(together)
        added = [every_force(one) for one in each]
        scale = max(map(abs, whole.values()))
        for part in base:
            assert whole[part] == pytest.approx(
                base[part] + sum(one[part] - base[part] for one in added), abs=1e-8 * scale
            ), part


@pytest.mark.parametrize(("name", "end"), JOBS)
def test_the_ground_pushes_each_wheel_by_its_corner_s_weight_times_the_factor(name: str, end: int) -> None:
    design = demo(name)
    weight, found = weights(design, end), carried(design, end, HIT)
    for one in found:
        pushes = {push.at: push.force for push in one.pushes}
        hit, other = ("left", "right") if one.name.endswith("left wheel") else ("right", "left")
        inward = -1.0 if hit == "left" else 1.0
        assert pushes[f"contact_{hit}"] == pytest.approx(
            (-0.7 * weight[hit], inward * 0.4 * weight[hit], 2.0 * weight[hit])
        )
        assert pushes[f"contact_{other}"] == pytest.approx(
            (0.0, 0.0, weight[other])
        )  # it stands on the ground meanwhile
    assert [one.name for one in found] == ["hit, left wheel", "hit, right wheel"]
    (together,) = carried(design, end, HIT.model_copy(update={"wheels": "both"}))
    assert {push.at for push in together.pushes} == {"contact_left", "contact_right"}
    for push in together.pushes:
        assert push.force[2] == pytest.approx(2.0 * weight[push.at.removeprefix("contact_")])


@pytest.mark.parametrize("end", [0, 1])
@pytest.mark.parametrize(
    ("torque", "change", "held"),
    [("brake", {"brakes": "outboard"}, True), ("brake", {"brakes": "inboard"}, False), ("drive", {"drive": "upright"}, True),
     ("drive", {"drive": "inboard"}, False), ("rolling", {"brakes": "outboard", "drive": "upright"}, False)],
)  # fmt: skip
def test_a_wheel_that_is_held_where_its_body_is_turns_that_body_and_one_that_is_not_rolls(
    end: int, torque: str, change: dict[str, str], held: bool
) -> None:
    design = demo("marram")
    where = design.ends[end].end.end
    design = with_car(design, **{f"{what}_{where}": value for what, value in change.items()})
    case = CarCase(name="x", vertical=1.0, longitudinal=-0.5, torque=torque)  # type: ignore[arg-type]
    for one in carried(design, end, case):
        hit = [push for push in one.pushes if push.force[0]]
        assert hit
        assert all(push.rolling is not held for push in hit)


@pytest.mark.parametrize(("axle", "end", "held"), [("independent", 0, False), ("beam", 1, True)])
def test_where_nothing_is_said_the_axle_of_a_beam_takes_the_drive_and_the_chassis_of_the_others(
    axle: str, end: int, held: bool
) -> None:
    design = with_car(demo("marram"), drive_front=None, drive_rear=None, drive_front_share=0.5)
    assert work(design).template(design.ends[end].id).axle == axle
    (one, *_) = carried(design, end, CarCase(name="x", vertical=1.0, longitudinal=0.5, torque="drive"))
    assert [push.rolling for push in one.pushes if push.force[0] > 0] == [not held]


def test_a_turn_to_the_right_is_a_turn_to_the_left_in_the_mirror() -> None:
    design = demo("marram")
    alike = dict.fromkeys(CORNERS, 260.0)
    one, two = carried(with_car(design, corners=CornerMasses(**alike)), 0, TURN)
    assert (one.name, two.name) == ("turn, turning left", "turn, turning right")
    a, b = every_force(one), every_force(two)

    def other_side(part: str) -> str:
        name, axis = (part[:-2], part[-2:]) if part[-2:-1] == " " else (part, "")
        return (name.removesuffix(", right") if name.endswith(", right") else f"{name}, right") + axis

    for part, force in a.items():
        across = -1.0 if part.endswith(" 1") else 1.0
        assert b[other_side(part)] == pytest.approx(across * force, rel=1e-8, abs=1e-6), part
    # and the wheel outside the turn carries more
    assert a["spring, right"] > a["spring"]


LAND = CarCase(name="land", kind="landing", at="stop", drop_mm=250.0, wheels="both")


def test_what_falls_in_a_landing_does_not_depend_on_how_heavy_the_wheel_is() -> None:
    # as much more on the scales as the wheels with what goes up and down with them weigh more: the sprung mass is the same
    design = demo("marram")
    assert design.car.corners
    assert design.car.unsprung_front_kg
    heavier = with_car(
        design, unsprung_front_kg=design.car.unsprung_front_kg + 24.0,
        corners=design.car.corners.model_copy(update={f"front_{side}_kg": getattr(design.car.corners, f"front_{side}_kg") + 12.0 for side in ("left", "right")}),
    )  # fmt: skip
    (one,), (two,) = carried(design, 0, LAND), carried(heavier, 0, LAND)
    assert two.pushes[0].force[2] == pytest.approx(one.pushes[0].force[2], rel=1e-9)
    # by its speed as by its height
    by_speed = LAND.model_copy(update={"drop_mm": None, "speed_m_s": sqrt(2 * GRAVITY * 0.25)})
    assert carried(design, 0, by_speed)[0].pushes[0].force[2] == pytest.approx(one.pushes[0].force[2], rel=1e-9)


@pytest.mark.parametrize("end", [0, 1])
def test_a_landing_of_one_wheel_lets_the_other_stand_and_of_both_loads_both(end: int) -> None:
    design = demo("marram")
    weight = weights(design, end)
    (both,) = carried(design, end, LAND)
    for way, one in zip(
        ("left", "right"), carried(design, end, LAND.model_copy(update={"wheels": "each"})), strict=True
    ):
        assert one.name == f"land, {way} wheel"
        pushes = {push.at: push for push in one.pushes}
        other = "right" if way == "left" else "left"
        assert pushes[f"contact_{other}"].force == (0.0, 0.0, pytest.approx(weight[other]))
        assert pushes[f"contact_{way}"].force[2] > 3 * weight[way]
        assert one.forces
        assert len(one.forces.stops) == 1
        assert one.position[1] * (1 if way == "right" else -1) > 2.0  # the axle (or the pair of wheels) leans
    assert [
        push.rolling and push.force[2] > 3 * weight[side] for push, side in zip(both.pushes, weight, strict=True)
    ] == [True, True]


def test_a_landing_s_stop_is_pushed_as_its_own_curve_says_at_the_crush_it_is_told_to_have() -> None:
    design = demo("marram")
    for end in (0, 1):
        (one,) = carried(design, end, LAND)
        stop = design.ends[end].end.bump_stop
        assert stop
        assert stop.rate_n_per_mm
        assert one.forces
        crush, force = float(one.notes[0].split()[3]), float(one.notes[0].split()[6])
        assert force == pytest.approx(stop.rate_n_per_mm * crush + stop.rate3_n_per_mm3 * crush**3, rel=5e-3)
        # the mechanism, standing where the stop is crushed so far, puts as much through it (the energy takes one ratio throughout)
        most = max(one.forces.stops.values())
        assert most == pytest.approx(force, rel=0.05)


def with_end(design: Design, end: int, **change: Any) -> Design:
    ends = [*design.ends]
    ends[end] = ends[end].model_copy(update={"end": ends[end].end.model_copy(update=change)})
    return design.model_copy(update={"ends": tuple(ends)})


@pytest.mark.parametrize("crush", [45.0, 1.0])
@pytest.mark.parametrize("kind", ["landing", "wheel"])
def test_what_goes_past_solid_is_refused_in_words_and_joules(crush: float, kind: str) -> None:
    """The joules by summing the curves in small steps, from the touching of the stop."""
    design = demo("marram")
    stop = design.ends[0].end.bump_stop
    assert stop
    assert stop.rate_n_per_mm
    design = with_end(design, 0, bump_stop=stop.model_copy(update={"crush_mm": crush}))
    case = (
        LAND.model_copy(update={"drop_mm": 400.0}) if kind == "landing" else CarCase(name="b", vertical=12.0, at="stop")
    )
    one = carried(design, 0, case)[0]
    assert one.refused
    assert one.fault
    assert f"solid after {crush:g} mm" in one.fault
    taken, whole = (
        int(word) for word in (one.fault.split(" J ")[0].split()[-1], one.fault.split(" J of ")[1].split()[0])
    )
    assert taken < whole
    steps = np.linspace(0.0, crush, 4001)
    own = float(np.trapezoid(stop.rate_n_per_mm * steps + stop.rate3_n_per_mm3 * steps**3, steps)) / 1000
    found = work(design).carried(design.ends[0].id)
    assert found.bump_by == "the bump stop touches"
    # and the spring beside it: it holds the corner's weight and more by then, over the wheel's travel to solid
    assert own < taken < own + crush / 0.5 * 6.0
    if crush == 1.0:
        assert own == pytest.approx(0.0, abs=0.1)


def test_a_stop_takes_over_only_where_it_is_met_and_where_it_is_pressed() -> None:
    design = demo("marram")
    bump = CarCase(name="bump", vertical=4.0, at="stop")
    met, _ = carried(design, 0, bump)
    assert (met.carrier, met.notes) == ("stop", ())
    # a damper that is closed before, as long as it is 40 mm up: the stop is never met
    end, job = design.ends[0], work(design)
    assert end.end.damper
    up = cycle(job.template(end.id), job.ends[end.id], positions([40.0], [0.0], [0.0]))
    closed_mm = float(up.columns["damper_length_mm"][0])
    closed = with_end(design, 0, damper=end.end.damper.model_copy(update={"closed_mm": closed_mm}))
    before, _ = carried(closed, 0, bump)
    found = work(closed).carried(end.id)
    assert found.bump_by == "the damper is closed"
    assert found.bump_mm == pytest.approx(40.0, abs=0.2)
    assert before.carrier == "spring"
    assert "before the bump stop touches" in before.notes[0]
    # one that closes while the stop is being crushed takes the rest, metal on metal
    later = with_end(design, 0, damper=end.end.damper.model_copy(update={"closed_mm": closed_mm - 8.0}))
    blocked, _ = carried(later, 0, bump)
    assert blocked.refused
    assert "The damper closes at" in (blocked.fault or "")
    # with no rate of the spring the stop carries it all, and it is said
    alone, _ = carried(with_end(design, 0, damper=end.end.damper.model_copy(update={"rate_n_per_mm": None})), 0, bump)
    assert alone.carrier == "stop"
    assert "no spring rate is known" in alone.notes[-1]
    assert met.forces
    assert alone.forces
    assert max(alone.forces.stops.values()) > max(met.forces.stops.values())
    # a push that the spring alone holds lets go of the stop
    light, _ = carried(design, 0, CarCase(name="light", vertical=0.3, at="stop"))
    assert light.carrier == "spring"
    assert "the springs carry it without what is met" in light.notes


def test_a_strike_stands_half_on_either_body_and_whole_on_the_link() -> None:
    """No less than what stands on both wheels of that end (common practice, no source)."""
    design = demo("marram")
    heavy = sum(weights(design, 1).values())
    found = carried(design, 1, CarCase(name="rock", kind="strike", vertical=1.5))
    assert [list(one.strikes.items()) for one in found] == [
        [("lower link, left", pytest.approx(1.5 * heavy))],
        [("lower link, right", pytest.approx(1.5 * heavy))],
    ]
    for one in found:  # its other end is on the chassis, which takes the other half
        assert [push.force for push in one.pushes] == [(0.0, 0.0, pytest.approx(0.75 * heavy))]
        assert one.pushes[0].on == "axle"
    (named,) = carried(design, 1, CarCase(name="rock", kind="strike", vertical=1.0, link="upper link"))
    assert list(named.strikes) == ["upper link"]
    assert carried(design, 0, CarCase(name="rock", kind="strike", vertical=1.0)) == []  # nothing hangs low in front
    (unknown,) = carried(design, 0, CarCase(name="rock", kind="strike", vertical=1.0, link="no such"))
    assert unknown.fault
    assert "no link “no such”" in unknown.fault
    # of independent corners each side's link is struck
    tern = demo("tern")
    both = carried(tern, 0, CarCase(name="rock", kind="strike", vertical=1.0, link="lower rear link"))
    assert [list(one.strikes) for one in both] == [["lower rear link"], ["lower rear link, right"]]
    a, b = both
    assert a.forces
    assert b.forces
    for link, force in a.forces.axial.items():
        assert b.forces.axial[f"{link}, right"] == pytest.approx(force, rel=1e-9, abs=1e-9)


def test_a_jack_lifts_a_corner_s_half_or_a_whole_beam() -> None:
    design = demo("marram")
    front, rear = (sum(weights(design, end).values()) for end in (0, 1))
    for end, lifted in ((0, 1.2 * front / 2), (1, 1.2 * rear)):
        (one,) = carried(
            design, end, CarCase(name="jack", kind="jack", vertical=1.2, point="wheel_centre_left", at="droop")
        )
        assert [push.force for push in one.pushes] == [(0.0, 0.0, pytest.approx(lifted))]
        assert one.position[0] < -50
    # with no point named: the lowest joint of what carries the wheel that does not steer, on either side
    for end, under in ((0, "lower_outer"), (1, "lower_axle")):
        left, right = carried(design, end, CarCase(name="stand", kind="jack"))
        assert [left.pushes[0].at, right.pushes[0].at] == [f"{under}_left", f"{under}_right"]
        assert left.fault is right.fault is None


# --- what a link sees of it ----------------------------------------------------------------------------------------------


def test_a_link_of_one_side_sees_its_own_side_and_a_pair_sees_both() -> None:
    names = ["lower link, left", "lower link, right", "upper link", "Panhard rod"]
    assert sides_of("left", "lower link", names) == ["lower link, left"]
    assert sides_of("right", "lower link", names) == ["lower link, right"]
    assert sides_of("pair", "lower link", names) == names[:2]
    assert sides_of("centre", "upper link", names) == ["upper link"]
    assert sides_of("left", "upper link", names) == ["upper link"]
    assert sides_of("right", "upper link", names) == []
    assert sides_of("pair", "no link", names) == []


def test_the_worst_of_every_part_is_the_hardest_of_its_cases_and_names_it() -> None:
    design = demo("marram")
    for end in design.ends:
        found = work(design).carried(end.id)
        good = [one for one in found.cases if one.forces and not one.fault]
        pulls, joints = worst_of_parts(found)
        for row in pulls:
            forces: dict[str, float] = {}
            for one in good:
                assert one.forces
                own = one.forces.axial | one.forces.straps | {name: -push for name, push in (one.forces.springs | one.forces.stops).items()}  # fmt: skip
                if row.part in own:
                    forces[one.name] = own[row.part] + one.forces.bind.get(row.part, 0.0)
            assert forces, row.part
            assert row.pull == pytest.approx(max(0.0, *forces.values()), abs=1e-9), row.part
            assert row.push == pytest.approx(min(0.0, *forces.values()), abs=1e-9), row.part
            if row.pull > 0:
                assert forces[row.pull_case] == pytest.approx(row.pull)
            if row.push < 0:
                assert forces[row.push_case] == pytest.approx(row.push)
        for row in joints:
            sizes = {
                one.name: float(np.linalg.norm(one.forces.joints[row.part].force))
                for one in good
                if one.forces and row.part in one.forces.joints
            }
            assert row.pull == pytest.approx(max(sizes.values()))
            assert sizes[row.pull_case] == pytest.approx(row.pull)


def test_a_link_sees_the_hardest_pull_and_push_of_its_cases_by_their_names_and_places() -> None:
    design = demo("marram")
    found = work(design).carried(design.ends[1].id).cases
    seen = seen_by_link("pair", "lower link", found)
    every = [
        (one, side, one.forces.axial[f"lower link, {side}"])
        for one in found
        if one.forces
        for side in ("left", "right")
    ]
    assert seen[0].axial_n == pytest.approx(max(force for one, _, force in every if not one.strikes))
    assert seen[-1].strike_n > 0
    plain = [case for case in seen if not case.strike_n]
    assert min(case.axial_n for case in plain) == pytest.approx(
        min(force for one, _, force in every if not one.strikes)
    )
    for case in seen:
        one = next(one for one, side, force in every if abs(force - case.axial_n) < 1e-9)
        assert case.name.startswith(one.name[:60])
        assert case.at == one.where
        assert case.worked
    left = [one.forces.axial["lower link, left"] for one in found if one.forces and not one.fault]
    assert swings_of_link("left", "lower link", found)[0][0] == pytest.approx(max(left) - min(left))
    assert swings_of_link("left", "lower link", []) == ()


def test_of_many_cases_those_stay_that_no_other_exceeds_in_all_that_it_asks() -> None:
    rng = np.random.default_rng(4)
    cases = [CaseSeen(name=str(i), axial_n=float(a), strike_n=float(s), side_n=float(d))
             for i, (a, s, d) in enumerate(zip(rng.normal(size=60) * 1000, rng.choice([0, 100, 200], 60), rng.choice([0, 10, 20], 60), strict=True))]  # fmt: skip
    kept = envelope(cases)
    names = {case.name for case in kept}
    assert [case.axial_n for case in kept] == sorted((case.axial_n for case in kept), reverse=True)

    def beats(one: CaseSeen, other: CaseSeen) -> bool:
        same_way = one.axial_n >= other.axial_n if other.axial_n >= 0 else one.axial_n <= other.axial_n
        return same_way and one.strike_n >= other.strike_n and one.side_n >= other.side_n

    for case in cases:
        assert (case.name in names) == (not any(beats(other, case) for other in cases if other is not case))


def test_the_line_that_repeats_a_case_brings_the_same_pushes() -> None:
    design = demo("marram")
    for end in design.ends:
        for one in work(design).carried(end.id).cases:
            again = as_calc_input(work(design).ends[end.id], one)
            if one.fault:
                assert again is None
                continue
            assert again
            text = str(again)
            for push in one.pushes:
                assert f"{push.force[2]}" in text or f"{push.force[2]:.6f}" in text, (one.name, push)
