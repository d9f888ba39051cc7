"""Load cases: the whole car in equilibrium, the bump stop by the equation of motion, and every case on the demo jobs."""

from __future__ import annotations

import csv
import io
from math import sqrt

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from pydantic import ValidationError
from scipy.integrate import solve_ivp

from tests.conftest import ROOT
from tests.jobs import built, links, shown, work
from tirante.calc.registry import calculate
from tirante.core.document.car import Car, CornerMasses
from tirante.core.document.design import Design
from tirante.core.document.load_cases import CarCase, LoadSet
from tirante.core.document.upgrades import dump_design, load_design
from tirante.core.errors import InputError
from tirante.core.loads.bump_stop import caught, linear_force, polynomial, tabulated
from tirante.core.loads.shown import pickups_csv
from tirante.core.loads.wheel_loads import hit, standing_loads
from tirante.core.units import STANDARD_GRAVITY as GRAVITY
from tirante.shipped import the_shelf

CAR = Car(wheelbase_mm=2500.0, cg_height_mm=550.0, brake_front_share=0.6,
          corners=CornerMasses(front_left_kg=260, front_right_kg=240, rear_left_kg=310, rear_right_kg=290))  # fmt: skip


def demo(name: str) -> Design:
    return load_design((ROOT / f"data/demo/{name}.json").read_bytes())


# --- the bump stop ------------------------------------------------------------------------------------------------------


@settings(max_examples=40, deadline=None)
@given(st.floats(20, 2000), st.floats(0, 8), st.floats(5, 2000))
def test_a_linear_stop_alone_is_the_closed_form(mass: float, speed: float, k: float) -> None:
    found = caught(mass, speed, polynomial(k, 0.0))
    assert found.stop_force == pytest.approx(linear_force(mass, speed, k), rel=1e-9)
    assert found.wheel_force == pytest.approx(found.stop_force)


@pytest.mark.parametrize(("k1", "k3", "rate", "preload", "ratio"), [(90.0, 0.05, 0.0, 0.0, 1.0), (60.0, 0.3, 25.0, 2500.0, 0.7),
                                                                   (200.0, 0.0, 18.0, 900.0, 1.3)])  # fmt: skip
def test_it_stands_still_where_the_equation_of_motion_does(
    k1: float, k3: float, rate: float, preload: float, ratio: float
) -> None:
    """m x'' = m g − F(x), from the speed of touching until it stands."""
    mass, speed = 250.0, 2.2

    def push(x: float) -> float:  # mm → N at the wheel
        return ratio * (k1 * ratio * x + k3 * (ratio * x) ** 3) + preload + rate * x

    def motion(_: float, y: np.ndarray) -> list[float]:  # type: ignore[type-arg]
        return [y[1], (mass * GRAVITY - push(y[0])) / mass * 1000]

    def stands(_: float, y: np.ndarray) -> float:  # type: ignore[type-arg]
        return float(y[1])

    stands.terminal = True  # type: ignore[attr-defined]
    stands.direction = -1  # type: ignore[attr-defined]
    run = solve_ivp(motion, (0, 2), [0.0, speed * 1000], events=stands, rtol=1e-11, atol=1e-9)
    deepest = float(run.y_events[0][0][0])
    found = calculate("bump-stop", {"mass_kg": mass, "speed_m_s": speed, "k1_n_mm": k1, "k3_n_mm3": k3, "wheel_rate_n_mm": rate,
                                    "wheel_preload_n": preload, "motion_ratio": ratio})  # fmt: skip
    assert found["stop_compression_mm"] == pytest.approx(ratio * deepest, rel=1e-7)
    assert found["wheel_force_n"] == pytest.approx(push(deepest), rel=1e-7)


def test_a_table_of_a_straight_line_is_the_linear_stop_and_what_falls_is_refused() -> None:
    table = [(10.0, 900.0), (0.0, 0.0), (30.0, 2700.0)]
    assert caught(200, 1.5, tabulated(table)).stop_force == pytest.approx(linear_force(200, 1.5, 90.0), rel=1e-9)
    progressive = tabulated([(0.0, 0.0), (20.0, 1000.0), (40.0, 6000.0)])
    steps = np.linspace(0, 55, 20001)
    by_hand = np.trapezoid([progressive[0](x) for x in steps], steps)
    assert progressive[1](55.0) == pytest.approx(by_hand, rel=1e-6)
    with pytest.raises(InputError, match="must rise"):
        tabulated([(0.0, 0.0), (20.0, 1000.0), (40.0, 500.0)])
    with pytest.raises(InputError, match="Nothing stops it"):
        caught(200, 1.5, polynomial(0.0, 0.0))


# --- the car as a whole ---------------------------------------------------------------------------------------------------


def test_a_hit_wheel_is_pushed_to_the_middle_of_the_car() -> None:
    case = CarCase(name="kerb", vertical=2.0, longitudinal=-1.0, lateral=1.5)
    assert hit(1000.0, case, "left").force == (-1000.0, -1500.0, 2000.0)
    assert hit(1000.0, case, "right").force == (-1000.0, 1500.0, 2000.0)


@pytest.mark.parametrize(
    ("more", "field"),
    [({"corners": None}, "car.corners"), ({"corners": None, "mass_kg": 900.0}, "car.cg_behind_front_mm"),
     ({"corners": None, "mass_kg": 900.0, "cg_behind_front_mm": 2600.0}, "car.cg_behind_front_mm"),
     ({"corners": None, "mass_kg": 900.0, "cg_behind_front_mm": -10.0}, "car.cg_behind_front_mm")],
)  # fmt: skip
def test_masses_that_are_missing_or_cannot_be_are_named(more: dict[str, float], field: str) -> None:
    with pytest.raises(InputError) as caught_error:
        standing_loads(CAR.model_copy(update=more))
    assert field in caught_error.value.fields


def test_mass_and_place_stand_as_the_scales_would_read() -> None:
    car = CAR.model_copy(update={"corners": None, "mass_kg": 1100.0, "cg_behind_front_mm": 1000.0})
    rest = standing_loads(car)
    assert sum(rest.values()) == pytest.approx(1100 * GRAVITY)
    assert (rest["rear", "left"] + rest["rear", "right"]) * car.wheelbase_mm == pytest.approx(1100 * GRAVITY * 1000.0)


@pytest.mark.parametrize(
    "bad",
    [{"kind": "landing"}, {"kind": "landing", "drop_mm": 100, "speed_m_s": 1}, {"kind": "snatch"}, {"kind": "jam"},
     {"vertical": 0.0}, {"vertical": float("nan")}],
)  # fmt: skip
def test_a_case_that_says_nothing_is_refused(bad: dict[str, float]) -> None:
    with pytest.raises(ValidationError):
        CarCase.model_validate({"name": "x", **bad})
    twice = {"cases": [{"name": "a"}, {"name": "a"}]}
    with pytest.raises(ValidationError, match="two cases"):
        LoadSet.model_validate(twice)


# --- on the demo jobs -------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("name", ["marram", "tern", "quay"])
@pytest.mark.parametrize("use", sorted(the_shelf().load_sets))
def test_every_shipped_case_balances_on_every_demo_end(name: str, use: str) -> None:
    design = demo(name).model_copy(update={"loads": the_shelf().load_sets[use]})
    for end in design.ends:
        found = work(design).carried(end.id)
        for one in found.cases:
            if one.fault:  # a stop that is not there or goes solid, a car that tips over, under what another use asks
                asked = (
                    one.refused
                    or "tips over" in one.fault
                    or (one.case.kind == "landing" and end.end.bump_stop is None)
                )
                assert asked, one.fault
                assert use != {"marram": "off-road", "tern": "circuit", "quay": "road"}[name]
                continue
            assert one.forces
            assert one.forces.residual < 1e-9
            # springs, stops and links are those that the end has
            assert one.forces.springs or one.forces.stops
        names = [one.name for one in found.cases]
        assert len(set(names)) == len(names)


def test_links_of_the_job_see_the_envelope_and_it_is_never_kept() -> None:
    design = demo("marram")
    panhard = next(link for link in links(design) if link.name == "Panhard rod")
    worked = [case for case in built(panhard, design).assembly.cases if case.worked]
    found = work(design).carried(design.ends[1].id)
    every = [c.forces.axial["Panhard rod"] for c in found.cases if c.forces and not c.fault]
    assert max(case.axial_n for case in worked) == pytest.approx(max(every))
    assert min(case.axial_n for case in worked) == pytest.approx(min(every))
    # it is in no document: what is saved has only what was typed
    assert all(case.name not in dump_design(design) for case in worked)
    lower = next(link for link in links(design) if link.name == "Rear lower link")
    assert any(case.worked and case.strike_n > 0 for case in built(lower, design).assembly.cases)
    assert {case.name for case in shown(panhard, design).own.cases if case.worked} == {case.name for case in worked}


def test_pick_up_loads_hold_the_suspension_against_the_wheel() -> None:
    """What the frame feels, all points together, is the ground's push."""
    design = demo("tern").model_copy(update={"loads": LoadSet(cases=(CarCase(name="hit", vertical=2.0, lateral=1.0, longitudinal=-0.5, torque="brake"),))})  # fmt: skip
    found = work(design).carried(design.ends[0].id)
    rows = list(csv.DictReader(io.StringIO(pickups_csv({"Rear": found}))))
    rest = standing_loads(design.car)["rear", "left"]  # both wheels alike; the other stands with its own
    assert design.car.corners is None
    for way, inward in (("hit, left wheel", -1.0), ("hit, right wheel", 1.0)):
        own = [row for row in rows if row["case"] == way]
        total = [sum(float(row[axis]) for row in own) for axis in ("fx_n", "fy_n", "fz_n")]
        assert total == pytest.approx([-0.5 * rest, inward * rest, 3 * rest], abs=0.05)


def test_a_snatch_is_the_wheel_s_momentum_on_a_spring() -> None:
    design = demo("tern").model_copy(update={"loads": LoadSet(cases=(CarCase(name="s", kind="snatch", at="droop", speed_m_s=1.2, stiffness_n_per_mm=900.0, wheels="both"),))})  # fmt: skip
    found = work(design).carried(design.ends[0].id)
    one = found.cases[0]
    assert one.forces
    assert [push.force[2] for push in one.pushes] == [pytest.approx(-1.2 * sqrt(900e3 * 29.0))] * 2
    assert one.forces.springs["spring"] < 0  # the damper's end holds it up
    assert one.position[0] == pytest.approx(found.droop_mm)
