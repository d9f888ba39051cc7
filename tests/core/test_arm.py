"""Arms of a job under load: plane statics written out, balance about the hinge, and the search against all tubes."""

from __future__ import annotations

from math import pi
from typing import Any

import numpy as np
import pytest

from tests.conftest import ROOT
from tests.core.test_suspension import example
from tests.jobs import arms, part_of, template_of, with_part, work
from tirante.calc import calculate
from tirante.core.document.adopt import adopted, patched
from tirante.core.document.car import Car
from tirante.core.document.catalogue import KINDS, Catalogue, Tube, grade_comes_as, read_csv
from tirante.core.document.design import Design
from tirante.core.document.load_cases import CarCase, LoadSet
from tirante.core.document.parts.arm import Arm, Gusset, Stud
from tirante.core.document.settings import DesignFactors
from tirante.core.document.upgrades import dump_design, load_design
from tirante.core.drawing.model import Area
from tirante.core.drawing.sheet import Numbers
from tirante.core.errors import InputError
from tirante.core.job.overview import overview_sheet
from tirante.core.loads.end_loads import EndLoads, end_loads
from tirante.core.loads.travel import Swept
from tirante.core.members.column import column_strength
from tirante.core.members.frame import Bar, frame
from tirante.core.members.tube import Section
from tirante.core.parts.arm.ends import arm_sides_of
from tirante.core.parts.arm.frame import places_of
from tirante.core.parts.arm.judged import ArmResult, ArmSetting, arm_result, judged, size_arm
from tirante.core.parts.arm.kind import ARM, ArmMade
from tirante.core.parts.part import Misfit, Part
from tirante.core.parts.registry import kind_of
from tirante.core.suspension.changed import lengthened, shifted
from tirante.core.suspension.cycle import wheel_columns

SHELF = Catalogue(**{kind: tuple(read_csv(kind, (ROOT / f"data/catalogue/{kind}.csv").read_text())) for kind in KINDS})  # type: ignore[arg-type]
TUBE = next(row for row in SHELF.tubes if row.key == "tube-1.25x0.120")
GRADE = next(row for row in SHELF.grades if row.key == "4130n-thin")


def job(*cases: CarCase) -> tuple[Design, EndLoads]:
    design = load_design((ROOT / "tests/marram-on-flats.json").read_bytes())
    if cases:
        design = design.model_copy(update={"loads": LoadSet(cases=cases)})
    return design, work(design).carried(design.ends[0].id)


def worked(body: str, *cases: CarCase, **more: Any) -> ArmResult:
    design, found = job(*cases)
    return arm_result(an_arm(design, body, **more), TUBE, GRADE, setting(design, found))


def an_arm(design: Design, body: str, **more: Any) -> Arm:
    return Arm(id="00000000-0000-4000-8000-000000000001", name="arm", end_id=design.ends[0].id, body=body, **more)


def stands_in(design: Design) -> ArmSetting:
    """As the job sets its front arms."""
    return ARM.setting(an_arm(design, "upper_arm"), work(design))


def sized_arm(arm: Arm, design: Design) -> Arm:
    found = ARM.size(arm, work(with_part(design, arm)), SHELF, "mass")
    assert found.winner, found.advice
    (sized,) = found.winner.parts
    assert isinstance(sized, Arm)
    return sized


def worked_arm(arm: Arm, design: Design) -> Part:
    """The arm in its job, with its rows taken up."""
    patch = adopted(design, [arm], SHELF)
    return part_of(arm, patched(design, patch))


def made(part: Part) -> ArmMade:
    assert isinstance(part.own, ArmMade)
    return part.own


def setting(design: Design, found: EndLoads) -> ArmSetting:
    studs = {name: ball.stud_axis for name, ball in design.ends[0].end.balls.items()}
    return ArmSetting(template=template_of(design.ends[0].end), loads=found, factors=DesignFactors(), studs=studs)


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
    turn = 0.15 * float(np.linalg.norm(force)) * 16.0  # the ball's friction, its radius taken as the stud's diameter
    stress = 2.0 * (32 * (across * 20 + turn) / (pi * 16**3) + 4 * abs(along) / (pi * 16**2))
    assert result.outer.stud_use == pytest.approx(stress / 700.0)
    # the stud stands on the upright above and draws the arm up after it: the ball is pulled out of the arm's socket
    assert (result.outer.out, result.outer.into) == pytest.approx((along, 0.0))
    assert axis[2] > 0
    assert along > 0


def test_the_lightest_tube_that_holds_is_the_lightest_of_all() -> None:
    design, found = job()
    arm = an_arm(design, "lower_arm", brace_at=0.6)
    stands = setting(design, found)
    tubes = tuple(row for row in SHELF.tubes if row.series == "inch")[::5]
    grades = tuple(row for row in SHELF.grades if row.family == "steel")[:3]
    sized = size_arm(arm, tubes, grades, grade_comes_as, stands)
    pairs = [(tube, grade) for tube in tubes for grade in grades if grade_comes_as(grade, tube)]
    alone = [arm_result(arm, tube, grade, stands) for tube, grade in pairs]
    every = [
        (round(one.mass_kg / 1e-4), one.worst, tube.key, grade.key)
        for one, (tube, grade) in zip(alone, pairs, strict=True) if (one.worst or 0.0) <= 1.0
    ]  # fmt: skip
    together = judged(arm, pairs, stands)
    assert together == pytest.approx([one.worst for one in alone], rel=1e-9)
    assert sized.tube
    assert sized.grade
    assert (sized.tube.key, sized.grade.key) == min(every)[2:]


def test_every_case_of_an_arm_is_its_own_frame_wherever_it_stands_and_on_either_side() -> None:
    design, found = job()
    arm = an_arm(design, "lower_arm", brace_at=0.6)
    result = arm_result(arm, TUBE, GRADE, setting(design, found))
    assert {one.case.endswith(", right") for one in result.frames} == {False, True}
    assert (
        len({tuple(name for _, name in one.acting) for one in result.frames}) > 2
    )  # cases with a stop, a strap, the spring alone
    for one in result.frames:
        # the whole frame anew in the car's axes, its nodes as they stand in this case
        bars = [
            Bar(
                a=a,
                b=b,
                section=Section(od=TUBE.od_mm, wall=TUBE.wall_mm),
                elastic_modulus=GRADE.e_mpa,
                shear_modulus=GRADE.e_mpa / 2.6,
            )
            for a, b in one.ends
        ]
        held = np.zeros((len(one.nodes), 6), bool)
        held[:2, :3] = True
        alone = frame(one.nodes, bars, held, one.loads[:, :, None], [(2, one.line)])
        size = float(np.abs(one.loads[:, :3]).max())
        np.testing.assert_allclose(one.axial[0], alone.axial()[:, 0], atol=1e-6 * size)
        np.testing.assert_allclose(one.moment[0], alone.bending().max(axis=1)[:, 0], atol=1e-4 * size)
        np.testing.assert_allclose(one.twisted[0], alone.twisted()[:, 0], atol=1e-4 * size)
        np.testing.assert_allclose(one.shear[0], alone.shear().max(axis=1)[:, 0], atol=1e-6 * size)
        np.testing.assert_allclose(one.moved[0], alone.displacements[2, :3, 0], atol=1e-9 * size)
        for pivot in (0, 1):
            i = next(i for i, (a, _) in enumerate(one.ends) if a == pivot)
            assert one.at_pivot[0, pivot] == pytest.approx(
                [alone.axial()[i, 0], alone.shear()[i, 0, 0]], abs=1e-6 * size
            )


def test_what_is_no_arm_and_what_has_no_load_is_refused() -> None:
    design, found = job()
    assert places_of(template_of(design.ends[0].end), "upright") is None
    with pytest.raises(InputError, match="no arm"):
        arm_result(an_arm(design, "upright"), TUBE, GRADE, setting(design, found))
    empty = EndLoads(solved=None, cases=(), bump_mm=0, droop_mm=0, bump_by="", droop_by="")
    with pytest.raises(InputError, match="No case"):
        arm_result(an_arm(design, "lower_arm"), TUBE, GRADE, setting(design, empty))


@pytest.mark.parametrize(
    ("body", "own", "other"), [("upper_arm", "upper_outer", "lower_outer"), ("lower_arm", "lower_outer", "upper_outer")]
)
def test_what_an_arm_gives_tilts_the_wheel_by_the_joint_s_way_over_the_kingpin(body: str, own: str, other: str) -> None:
    design, _ = job()
    end = design.ends[0]
    result = arm_result(an_arm(design, body), TUBE, GRADE, stands_in(design))
    assert result.gives
    height = end.end.points[own][2] - end.end.points[other][2]
    # with the wheel's height held the other arm swings a little too: near the plain triangle, not on it
    assert np.radians(result.gives.camber_deg) == pytest.approx(result.gives.moved[1] / height, rel=0.15)
    # the outer wheel is pushed in at the bottom: the lower arm is pressed in, the upper pulled out; both tilt the top outward
    assert result.gives.moved[1] * height > 0
    assert 0 < result.gives.camber_deg < 1.0
    assert 0 < abs(result.gives.toe_deg) < 1.0


def test_a_tube_twice_as_thick_gives_about_half_and_a_stiff_one_nothing() -> None:
    design, _ = job()
    stands = stands_in(design)
    arm = an_arm(design, "upper_arm")
    heavy = next(row for row in SHELF.tubes if row.key == "tube-1.25x0.250")
    light, more = (arm_result(arm, tube, GRADE, stands).gives for tube in (TUBE, heavy))
    assert light
    assert more
    areas = [Section(od=t.od_mm, wall=t.wall_mm).area for t in (TUBE, heavy)]
    # this arm only pulls and pushes: what it gives goes with 1/EA
    assert more.camber_deg / light.camber_deg == pytest.approx(areas[0] / areas[1], rel=0.05)


def test_a_gusset_takes_bending_off_the_outer_joint_and_is_itself_checked() -> None:
    plain = worked("lower_arm")
    held = worked("lower_arm", gusset=Gusset(reach_mm=120.0, thickness_mm=6.0))
    assert held.gusset is not None
    assert held.gusset > 0
    assert held.mass_kg > plain.mass_kg
    assert "gusset" in held.lengths
    assert held.residual < 1e-9
    # it turns what bent the two tubes where they meet into push and pull: the joint spreads no more
    spread = [max(float(abs(f.moment[0]).max()) for f in one.frames) for one in (plain, held)]
    assert spread[1] != pytest.approx(spread[0], rel=1e-6)
    tiny = worked("lower_arm", gusset=Gusset(reach_mm=1e4, thickness_mm=6.0))
    assert any("left out" in note for note in tiny.notes)


def test_every_figure_of_an_arm_comes_out_of_the_command_line() -> None:
    design, _ = job()
    arm = an_arm(
        design, "lower_arm", brace_at=0.6, gusset=Gusset(reach_mm=100.0, thickness_mm=5.0), pivots="rod ends",
        stud=Stud(diameter_mm=18.0, lever_mm=18.0, holds_in_n=60_000.0),
    )  # fmt: skip
    done = worked_arm(sized_arm(arm, design), design)
    assert done.complete
    assert {
        "stud",
        "pull_out",
        "gusset",
        "engagement",
        "shank_bending",
        "frame_weld:front tube",
        "frame_column:rear tube",
    } <= {c.key for c in done.checks}
    assert list(done.checks) == sorted(done.checks, key=lambda c: -(c.utilisation or -1.0))
    seen = 0
    for check in done.checks:
        if check.reproduce is None:
            continue
        out: Any = calculate(check.reproduce.topic, check.reproduce.input)
        for part in check.reproduce.output.split("."):
            out = out[int(part)] if part.isdigit() else out[part]
        told = {"utilisation": check.utilisation, "demand": check.demand, "capacity": check.capacity}[
            check.reproduce.figure
        ]
        assert out == pytest.approx(told, rel=1e-9), check.key
        seen += 1
    assert seen >= 8


def test_the_rod_ends_of_a_sized_arm_are_the_lightest_that_hold() -> None:
    design, _ = job()
    arm = an_arm(design, "lower_arm", pivots="rod ends", brace_at=0.6)
    sized = sized_arm(arm, design)
    done = worked_arm(sized, design)
    assert all(check.passed for check in done.checks)
    chosen = next(row for row in SHELF.joints if row.key == sized.pivot_end.joint)
    lighter = [row for row in SHELF.joints if row.mass_kg < chosen.mass_kg]
    tried = 0
    for joint in lighter:
        nut = next((n for n in SHELF.nuts if n.designation == joint.designation), None)
        for insert in (one for one in SHELF.inserts if one.designation == joint.designation and nut):
            assert nut
            end = sized.pivot_end.model_copy(update={"joint": joint.key, "insert": insert.key, "nut": nut.key})
            other = sized.model_copy(update={"pivot_end": end})
            sides = arm_sides_of(other, made(done).result.places, made(done).result.frames, SHELF, design.settings)
            fails = [one for one in sides if isinstance(one, Misfit) or not all(c.passed for c in one.checks)]
            assert fails, (joint.key, insert.key)
            tried += 1
    assert tried


def test_a_joint_moved_on_its_arm_is_an_arm_whose_sides_have_grown() -> None:
    design, _ = job()
    ride = stands_in(design).ride
    assert ride
    points = design.ends[0].end.points
    one, two, outer = (np.array(points[name]) for name in ("lower_front", "lower_rear", "lower_outer"))
    by = 1.5 * ((outer - one) / np.linalg.norm(outer - one) + (outer - two) / np.linalg.norm(outer - two))
    grown = [float(np.linalg.norm(outer + by - p) - np.linalg.norm(outer - p)) for p in (one, two)]
    longer = lengthened(
        ride, {"lower_front – lower_outer": grown[0], "lower_rear – lower_outer": grown[1]}
    )  # fmt: skip
    moved = shifted(ride, "lower_arm", "lower outer joint", by)
    for key in ("camber_deg", "toe_deg", "caster_deg", "half_track_change_mm"):
        a, b = wheel_columns(longer)[0][key][0], wheel_columns(moved)[0][key][0]
        assert a == pytest.approx(b, abs=1e-8)
        assert abs(a - wheel_columns(ride)[0][key][0]) > 1e-4
    with pytest.raises(InputError, match="no joint"):
        shifted(ride, "upper_arm", "lower outer joint", by)


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
    standing = car.standing(end)
    found = end_loads(Swept(template_of(end), standing, 40.0, 40.0), standing, car, cases, rolls={})
    assert all(one.fault is None for one in found.cases), [one.fault for one in found.cases]
    arm = Arm(
        id="00000000-0000-4000-8000-000000000001",
        name="arm",
        end_id="00000000-0000-4000-8000-000000000002",
        body=body,
        brace_at=0.5,
    )
    stands = ArmSetting(template=template_of(end), loads=found, factors=DesignFactors(), studs={})
    result = arm_result(arm, TUBE, GRADE, stands)
    assert result.residual < 1e-9
    assert {"front tube", "rear tube"} <= {tube.name.split(",")[0] for tube in result.tubes}
    assert result.outer.force > 100.0


def test_ratings_of_its_joints_are_held_against_the_whole_force_on_them() -> None:
    design, _ = job()
    arm = an_arm(
        design, "upper_arm", tube="tube-1.25x0.120", grade="4130n-thin", pivots="spherical bearings",
        outer="spherical bearing in a cup", outer_rating_n=40_000.0, pivot_rating_n=30_000.0,
    )  # fmt: skip
    rated = worked_arm(arm, design)
    checks = {check.key: check for check in rated.checks}
    factor = design.settings.factors.joint
    assert checks["outer_joint"].demand == pytest.approx(made(rated).result.outer.force * factor)
    assert checks["outer_joint"].utilisation == pytest.approx(made(rated).result.outer.force * factor / 40_000)
    # nothing acts on this arm but at its three joints: two pivots hold what the outer one brings
    worst = max(float(np.linalg.norm(one.outer_force)) for one in made(rated).result.frames)
    assert checks["pivot_joint"].demand > 0.5 * worst * factor
    assert checks["pivot_joint"].demand < 3 * worst * factor
    assert not any("rating" in note for note in made(rated).result.notes)
    bare = an_arm(design, "upper_arm", **{k: getattr(arm, k) for k in ("tube", "grade", "pivots", "outer")})
    without = worked_arm(bare, design)
    assert sum("rating" in note for note in made(without).result.notes) == 2


def test_an_arm_is_worked_out_again_only_when_what_it_depends_on_changes() -> None:
    design, _ = job()
    arm = arms(design)[1]
    first = part_of(arm, design)
    # the same by what it says, not by which copy it is; another name of the job changes nothing
    assert part_of(arm, load_design(dump_design(design))).judged == first.judged
    assert part_of(arm, design.model_copy(update={"name": "other"})) is first
    # a factor, a case, a point or the tube does
    stricter = design.settings.model_copy(update={"factors": DesignFactors(yielding=1.8)})
    firmer = part_of(arm, design.model_copy(update={"settings": stricter}))
    assert firmer.checks[0].utilisation == pytest.approx((first.checks[0].utilisation or 0) * 1.8 / 1.5)
    fewer = design.loads.model_copy(update={"cases": design.loads.cases[:1]})
    assert part_of(arm, design.model_copy(update={"loads": fewer})) is not first
    with_other = design.model_copy(
        update={"loads": design.loads.model_copy(update={"cases": design.loads.cases[::-1]})}
    )
    assert part_of(arm, with_other).judged != first.judged


def test_an_arm_in_the_row_of_members_is_as_long_as_its_outer_joint_is_from_its_pivots(marram: Design) -> None:
    job = work(marram)
    arms = [part for part in job.parts if isinstance(part.saved, Arm)]
    assert len(arms) == 2
    for part in arms:
        # from the end's own points: the distance of a point from a line
        end, template = job.ends[part.saved.end_id], job.template(part.saved.end_id)
        places = places_of(template, part.saved.body)
        assert places
        one, two, outer = (np.array(end.points[name]) for name in (*places.pivots, places.outer_point))
        reach = float(np.linalg.norm(np.cross(two - one, outer - one)) / np.linalg.norm(two - one))
        assert kind_of(part.saved).span(part) == pytest.approx(reach, rel=1e-9)
        sheet = overview_sheet([part], Numbers())
        box = next(item for item in sheet.items if isinstance(item, Area) and item.fill == "steel")
        xs, ys = zip(*box.points, strict=True)
        tube = job.catalogue.find("tubes", part.saved.tube or "")
        assert isinstance(tube, Tube)
        assert (max(xs) - min(xs)) / (max(ys) - min(ys)) == pytest.approx(reach / tube.od_mm, rel=1e-6)
