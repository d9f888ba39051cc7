"""Arms of a job under load: plane statics written out, balance about the hinge, and the search against all tubes."""

from __future__ import annotations

from math import pi
from typing import Any

import numpy as np
import pytest

from tests.conftest import ROOT
from tests.core.test_suspension import example
from tirante.calc.loaded import EVERYDAY, loads_of
from tirante.calc.templates import template_of
from tirante.core.design.arm import ArmResult, arm_result, places_of, size_arm
from tirante.core.design.car import Car
from tirante.core.design.catalogue import KINDS, Catalogue, grade_comes_as, read_csv
from tirante.core.design.model import Arm, Design, DesignFactors, Stud, load_design
from tirante.core.errors import InputError
from tirante.core.loads.cases import CarCase, LoadSet
from tirante.core.loads.end_loads import EndLoads, end_loads
from tirante.core.members.column import column_strength
from tirante.core.members.tube import Section

SHELF = Catalogue(**{kind: tuple(read_csv(kind, (ROOT / f"data/catalogue/{kind}.csv").read_text())) for kind in KINDS})  # type: ignore[arg-type]
TUBE = next(row for row in SHELF.tubes if row.key == "tube-1.25x0.120")
GRADE = next(row for row in SHELF.grades if row.key == "4130n-thin")


def job(*cases: CarCase) -> tuple[Design, EndLoads]:
    design = load_design((ROOT / "data/demo/marram.json").read_bytes())
    if cases:
        design = design.model_copy(update={"loads": LoadSet(cases=cases)})
    found = loads_of(design, design.ends[0])
    assert not isinstance(found, InputError)
    return design, found


def worked(body: str, *cases: CarCase, **more: Any) -> ArmResult:
    design, found = job(*cases)
    arm = Arm(id="00000000-0000-4000-8000-000000000001", name="arm", end_id=design.ends[0].id, body=body, **more)
    studs = {name: ball.stud_axis for name, ball in design.ends[0].end.balls.items()}
    return arm_result(arm, TUBE, GRADE, template_of(design.ends[0].end), found, None, DesignFactors(), studs)


def test_an_arm_that_only_its_outer_joint_loads_carries_it_along_two_tubes() -> None:
    """Upper arm, no spring on it: the force in its plane, split along the two tubes; bending is what its own weight of rigidity adds."""
    case = CarCase(name="hit", vertical=1.0, lateral=1.0, longitudinal=-0.5)
    design, found = job(case)
    result = worked("upper_arm", case)
    forces = found.cases[0].forces
    assert forces
    outer = forces.joints["upper outer joint"]
    ends = [forces.pivots[p].at for p in ("upper_front", "upper_rear")]
    units = np.array([(e - outer.at) / np.linalg.norm(e - outer.at) for e in ends])
    # outer.force acts on the arm: along the tubes it is pulled by −N each
    split = np.linalg.lstsq(-units.T, outer.force, rcond=None)[0]
    assert np.linalg.norm(-units.T @ split - outer.force) < 0.02 * np.linalg.norm(
        outer.force
    )  # it lies in the arm's plane
    by_name = {tube.name: tube for tube in result.tubes}
    assert by_name["front tube"].axial == pytest.approx(split[0], abs=0.02 * abs(split).max())
    assert by_name["rear tube"].axial == pytest.approx(split[1], abs=0.02 * abs(split).max())
    assert result.residual < 1e-9
    assert design.ends[0].end.template == "double-wishbone"


@pytest.mark.parametrize("brace", [None, 0.6])
def test_what_acts_on_a_loaded_arm_comes_to_nothing_about_its_hinge(brace: float | None) -> None:
    result = worked("lower_arm", brace_at=brace)
    assert result.residual < 1e-9
    assert {"brace"} <= {t.name for t in result.tubes} if brace else all(t.name != "brace" for t in result.tubes)
    # the spring stands along a tube: it bends; the governing weld is where it is welded on
    assert max(t.moment for t in result.tubes) > 50_000


def test_utilisations_are_stress_over_welded_yield_and_column_with_bending() -> None:
    factors = DesignFactors()
    result = worked("lower_arm")
    section = Section(od=TUBE.od_mm, wall=TUBE.wall_mm)
    for tube in result.tubes:
        assert tube.weld_use == pytest.approx(tube.stress * factors.yielding / GRADE.welded_yield_mpa)
        fibre = abs(tube.axial) / section.area + tube.moment * section.od / 2 / section.second_moment
        assert tube.stress >= fibre - 1e-6
        if tube.axial >= 0:
            assert tube.column_use == 0.0
    design, found = job()
    pushed = [t for t in result.tubes if t.axial < 0]
    assert pushed
    front = found.cases[0].forces
    assert front
    for tube in pushed:
        place = "lower_front" if tube.name.startswith("front") else "lower_rear"
        length = float(np.linalg.norm(front.pivots[place].at - front.joints["lower outer joint"].at))
        strong = column_strength(section, length, GRADE.yield_mpa, GRADE.e_mpa)
        bent = tube.moment * factors.yielding * section.od / 2 / section.second_moment / GRADE.yield_mpa
        use = -tube.axial * factors.column / min(strong.critical, strong.aisc_e3) + bent
        assert tube.column_use == pytest.approx(use, rel=2e-3)
    assert design.ends


def test_a_stud_bends_as_a_cantilever_under_what_is_square_to_it() -> None:
    case = CarCase(name="kerb", vertical=1.0, lateral=1.5)
    design, found = job(case)
    result = worked("lower_arm", case, stud=Stud(diameter_mm=16.0, lever_mm=20.0, yield_mpa=700.0))
    forces = found.cases[0].forces
    assert forces
    force = forces.joints["lower outer joint"].force
    axis = np.array(design.ends[0].end.balls["lower outer joint"].stud_axis)
    axis /= np.linalg.norm(axis)
    along = float(force @ axis)
    across = float(np.linalg.norm(force - along * axis))
    stress = 2.0 * (32 * across * 20 / (pi * 16**3) + 4 * abs(along) / (pi * 16**2))
    assert result.stud_use == pytest.approx(stress / 700.0)
    assert result.outer_pull == pytest.approx(abs(along))


def test_the_lightest_tube_that_holds_is_the_lightest_of_all() -> None:
    design, found = job()
    arm = Arm(
        id="00000000-0000-4000-8000-000000000001", name="arm", end_id=design.ends[0].id, body="lower_arm", brace_at=0.6
    )
    template, studs = template_of(design.ends[0].end), {}  # type: ignore[var-annotated]
    tubes = tuple(row for row in SHELF.tubes if row.series == "inch")[::5]
    grades = tuple(row for row in SHELF.grades if row.family == "steel")[:3]
    sized = size_arm(arm, tubes, grades, grade_comes_as, template, found, DesignFactors(), studs)
    every = [
        (result.mass_kg, tube.key, grade.key)
        for tube in tubes for grade in grades if grade_comes_as(grade, tube)
        if ((result := arm_result(arm, tube, grade, template, found, None, DesignFactors(), studs)).worst or 0.0) <= 1.0
    ]  # fmt: skip
    assert sized.tube
    assert sized.grade
    assert (sized.tube.key, sized.grade.key) == min(every)[1:]


def test_what_is_no_arm_and_what_has_no_load_is_refused() -> None:
    design, found = job()
    template = template_of(design.ends[0].end)
    assert places_of(template, "upright") is None
    arm = Arm(id="00000000-0000-4000-8000-000000000001", name="arm", end_id=design.ends[0].id, body="upright")
    with pytest.raises(InputError, match="no arm"):
        arm_result(arm, TUBE, GRADE, template, found, None, DesignFactors(), {})
    empty = EndLoads(solved=None, cases=(), bump_mm=0, droop_mm=0, bump_by="", droop_by="")
    with pytest.raises(InputError, match="No case"):
        arm_result(
            arm.model_copy(update={"body": "lower_arm"}), TUBE, GRADE, template, empty, None, DesignFactors(), {}
        )


@pytest.mark.parametrize(
    ("body", "own", "other"), [("upper_arm", "upper_outer", "lower_outer"), ("lower_arm", "lower_outer", "upper_outer")]
)
def test_camber_per_g_is_the_joint_s_way_over_the_height_of_the_kingpin(body: str, own: str, other: str) -> None:
    design, found = job()
    end = design.ends[0]
    everyday = loads_of(design.model_copy(update={"loads": EVERYDAY}), end)
    assert not isinstance(everyday, InputError)
    arm = Arm(id="00000000-0000-4000-8000-000000000001", name="arm", end_id=end.id, body=body)
    result = arm_result(arm, TUBE, GRADE, template_of(end.end), found, everyday, DesignFactors(), {})
    height = end.end.points[own][2] - end.end.points[other][2]
    assert result.camber_deg_per_g is not None
    assert np.radians(result.camber_deg_per_g) == pytest.approx(result.deflection_mm[1] / height, rel=1e-6)
    # the outer wheel is pushed in at the bottom: the lower arm is pressed in, the upper pulled out; both tilt the top outward
    assert result.deflection_mm[1] * height > 0
    assert 0 < result.camber_deg_per_g < 1.0


@pytest.mark.parametrize(("name", "body"), [("strut", "lower_arm"), ("link-on-arm", "lower_arm"), ("double-wishbone-pushrod", "lower_arm"),
                                            ("double-wishbone-pushrod", "upper_arm")])  # fmt: skip
def test_arms_of_other_layouts_balance_too(name: str, body: str) -> None:
    """A strut's arm, one that a toe link ends on, one with a push rod: no demo job has them."""
    end = example(name)
    car = Car(mass_kg=900.0, cg_behind_front_mm=1200.0, unsprung_front_kg=60.0, unsprung_rear_kg=60.0)
    cases = (
        CarCase(name="kerb", vertical=2.0, lateral=1.0),
        CarCase(name="brake", kind="car", longitudinal=-1.0, torque="brake"),
    )
    found = end_loads(template_of(end), car.standing(end), car, cases, bump=40.0, droop=40.0, tracks={end.end: 1400.0})
    assert all(one.fault is None for one in found.cases), [one.fault for one in found.cases]
    arm = Arm(
        id="00000000-0000-4000-8000-000000000001",
        name="arm",
        end_id="00000000-0000-4000-8000-000000000002",
        body=body,
        brace_at=0.5,
    )
    result = arm_result(arm, TUBE, GRADE, template_of(end), found, None, DesignFactors(), {})
    assert result.residual < 1e-9
    assert {"front tube", "rear tube"} <= {tube.name.split(",")[0] for tube in result.tubes}
    assert result.outer_force > 100.0
