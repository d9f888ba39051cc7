"""How long a link lasts: the lines of EN 1993-1-9 (from memory), Miner's sum, and where the range and the details come from."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from math import pi, sqrt

import numpy as np
import pytest

from tests.conftest import ROOT
from tests.core.test_loads import demo
from tests.core.test_wiring import loaded
from tests.jobs import arms, built, links, part_of, shown, work
from tirante.calc import calculate
from tirante.core.checks.result import CheckResult
from tirante.core.document.adopt import adopted, patched
from tirante.core.document.catalogue import KINDS, Catalogue, Grade, Tube, read_csv
from tirante.core.document.design import Design
from tirante.core.document.fields import Length
from tirante.core.document.parts.arm import Arm
from tirante.core.document.parts.common import CentreToCentre, LoadCase
from tirante.core.document.parts.link import Bent, Link
from tirante.core.job.evaluate import evaluate
from tirante.core.job.unsettled import unsettled
from tirante.core.job.worked import EVERYDAY
from tirante.core.loads.case_seen import NotCarried
from tirante.core.members.fatigue import ALUMINIUM, FOR_EVER, STEEL, Round, endurance, life, straight_line, swings
from tirante.core.members.insert_weld import legs_for
from tirante.core.members.link_stack import AdjustableEnd
from tirante.core.members.tube import Section
from tirante.core.parts.arm.checks import frame_input
from tirante.core.parts.arm.ends import ArmSide
from tirante.core.parts.arm.frame import ArmFrame
from tirante.core.parts.arm.kind import ARM
from tirante.core.parts.arm.life import arm_life, everyday_frames
from tirante.core.parts.link.assembly import stack_end
from tirante.core.parts.link.kind import LINK
from tirante.core.parts.link.life import _details as life_details
from tirante.core.parts.link.life import everyday_of
from tirante.core.parts.welded.life import details

SHELF = Catalogue(**{kind: tuple(read_csv(kind, (ROOT / f"data/catalogue/{kind}.csv").read_text())) for kind in KINDS})  # type: ignore[arg-type]


def of(link: Link, design: Design) -> CheckResult:
    found = part_of(link, design)
    assert found.complete, found.faults
    return next(check for check in found.checks if check.key.split(":")[0] == "life")


def test_the_lines_of_a_class_are_the_standard_s() -> None:
    """Class 71: 2e6 at 71 MPa, 5e6 at 52.3 (the constant-amplitude limit), 1e8 at 28.7 (the cut-off); shear 80: 1e8 at 36.6 MPa."""
    assert endurance(71.0, 71.0, partial=1.0) == pytest.approx(2e6)
    assert endurance(142.0, 71.0, partial=1.0) == pytest.approx(2e6 / 8)
    assert endurance(52.32, 71.0, partial=1.0) == pytest.approx(5e6, rel=1e-3)
    assert endurance(52.2, 71.0, partial=1.0) == FOR_EVER  # by itself, under its limit
    assert endurance(28.8, 71.0, partial=1.0, spectrum=True) == pytest.approx(1e8, rel=0.02)
    assert endurance(28.6, 71.0, partial=1.0, spectrum=True) == FOR_EVER
    assert endurance(80.0, 80.0, shear=True, partial=1.0) == pytest.approx(2e6)
    assert endurance(160.0, 80.0, shear=True, partial=1.0) == pytest.approx(2e6 / 32)
    assert endurance(36.7, 80.0, shear=True, partial=1.0) == pytest.approx(1e8, rel=0.02)
    assert endurance(36.4, 80.0, shear=True, partial=1.0) == FOR_EVER
    # the partial factor is on the range
    assert endurance(50.0, 71.0, partial=1.35) == pytest.approx(endurance(67.5, 71.0, partial=1.0))


def test_a_spectrum_is_summed_by_its_shares() -> None:
    """Written out: 20 % at 120 MPa on slope 3, 80 % at 48 MPa on slope 5, class 71."""
    limit = 71.0 * 0.4 ** (1 / 3)
    n1, n2 = 2e6 * (71 / 120) ** 3, 5e6 * (limit / 48) ** 5
    spectrum = ((0.2, 1.0), (0.8, 0.4))
    assert life(120.0, 71.0, spectrum, partial=1.0) == pytest.approx(1 / (0.2 / n1 + 0.8 / n2))
    assert life(40.0, 71.0, spectrum, partial=1.0) == FOR_EVER  # none over the limit: none does harm
    found = calculate(
        "life", {"stress_range_mpa": 120, "class_mpa": 71, "spectrum": [[0.2, 1], [0.8, 0.4]], "partial_factor": 1}
    )
    assert found["cycles"] == pytest.approx(1 / (0.2 / n1 + 0.8 / n2))
    assert found["full_range_cycles"] == pytest.approx(n1)


def test_a_link_s_life_is_that_of_its_worst_detail_under_its_everyday_range() -> None:
    design = demo("marram")
    link = next(one for one in links(design) if one.name == "Panhard rod")
    everyday = work(design.model_copy(update={"loads": EVERYDAY})).carried(design.ends[1].id).cases
    forces = [one.forces.axial["Panhard rod"] for one in everyday if one.forces]
    made = built(link, design).assembly
    # from any case to any other and back: between them the force changes, and each ball's friction turns over, as much as either force is
    pairs = [(abs(a - b), 0.15 * (abs(a) + abs(b))) for a in forces for b in forces]
    lives = {}
    for end in made.threaded:
        around = min(made.tube.od_mm, end.insert.shoulder_diameter_mm)
        throat = 0.707 * made.leg
        size = sqrt(4 * end.thread.stress_area / pi)
        details = {
            "thread root": (end.thread.stress_area, pi * size**3 / 32, 50.0),
            "tube at its weld": (made.section.area, made.section.second_moment / (made.tube.od_mm / 2), 40.0),
            "root of the ring weld": (pi * around * throat, pi * around**2 / 4 * throat, 36.0),
        }  # fmt: skip
        for name, (area, modulus, grade) in details.items():
            stress = max(far / area + both * end.joint.ball_diameter_mm / 2 / modulus for far, both in pairs)
            lives[name] = min(lives.get(name, FOR_EVER), endurance(stress, grade))
    found = of(link, design)
    assert found.capacity == pytest.approx(min(lives.values()))
    assert min(lives, key=lambda name: lives[name]) in found.note
    assert found.demand == 1e5  # off-road
    road = design.model_copy(update={"car": design.car.model_copy(update={"use": "road"})})
    assert of(link, road).demand == 1e6
    typed = design.model_copy(update={"settings": design.settings.model_copy(update={"life_cycles": 4e4})})
    assert of(link, typed).demand == 4e4


def test_a_link_of_no_end_lasts_by_the_range_that_is_typed_and_says_where_none_is() -> None:
    quay = demo("quay")
    link = links(quay)[0].model_copy(update={"between": CentreToCentre(length=Length(mm=685.8))})
    all_full = quay.model_copy(update={"settings": quay.settings.model_copy(update={"full_one_in": 1.0})})
    one, two = (of(link.model_copy(update={"everyday_n": force}), all_full) for force in (12_000.0, 24_000.0))
    assert one.capacity == pytest.approx(8 * two.capacity)  # slope 3 and no smaller cycles
    silent = link.model_copy(update={"everyday_n": None})
    told = shown(silent, quay)
    assert "Not judged in “everyday cycles”" in told.headline
    assert "It holds" not in told.headline
    assert any("type the range of its everyday force" in one for one in told.not_carried)


def test_a_metal_without_a_class_is_not_judged_and_says_so() -> None:
    design = demo("quay")
    link = links(design)[1]
    grade = next(row for row in design.catalogue.grades if row.key == link.grade)
    rows = tuple(
        row.model_copy(update={"family": "titanium"}) if row == grade else row for row in design.catalogue.grades
    )
    inserts = tuple(row.model_copy(update={"family": "titanium"}) for row in design.catalogue.inserts)
    other = design.model_copy(
        update={"catalogue": design.catalogue.model_copy(update={"grades": rows, "inserts": inserts})}
    )
    part = part_of(link, other)
    assert part.complete, part.faults
    assert not [check for check in part.checks if check.key.split(":")[0] == "life"]
    assert [one.why for one in part.not_carried] == ["no class for titanium is in here: its life is not judged"]


def test_the_lines_of_aluminium_are_iiw_s() -> None:
    """IIW-1823, from memory: slope 3 to 1e7 at 58.5 % of the class, slope 5 from there to 1e9 at 23.3 %; toe 22, root 12, shear 28."""
    assert (ALUMINIUM.toe, ALUMINIUM.throat, ALUMINIUM.shear) == (22.0, 12.0, 28.0)
    assert endurance(44.0, 22.0, partial=1.0, metal=ALUMINIUM) == pytest.approx(2e6 / 8)
    assert endurance(0.5849 * 22.0, 22.0, partial=1.0, metal=ALUMINIUM) == pytest.approx(1e7, rel=1e-3)
    assert endurance(0.584 * 22.0, 22.0, partial=1.0, metal=ALUMINIUM) == FOR_EVER  # by itself
    assert endurance(0.584 * 22.0, 22.0, partial=1.0, metal=ALUMINIUM, spectrum=True) == pytest.approx(1e7, rel=0.01)
    assert endurance(0.2335 * 22.0, 22.0, partial=1.0, metal=ALUMINIUM, spectrum=True) == pytest.approx(1e9, rel=0.02)
    # what steel bears without end under a spectrum does harm here still
    spectrum = ((0.01, 1.0), (0.99, 0.3))
    assert life(60.0, 40.0, spectrum, partial=1.0, metal=ALUMINIUM) < life(60.0, 40.0, spectrum, partial=1.0)
    found = calculate(
        "life",
        {
            "stress_range_mpa": 60,
            "class_mpa": 40,
            "metal": "aluminium",
            "spectrum": [list(s) for s in spectrum],
            "partial_factor": 1,
        },
    )
    assert found["cycles"] == pytest.approx(life(60.0, 40.0, spectrum, partial=1.0, metal=ALUMINIUM))


def test_a_link_of_aluminium_lasts_by_its_own_classes_and_its_rod_end_by_steel_s() -> None:
    design = demo("quay")
    link = links(design)[1]
    light = tuple(
        row.model_copy(update={"family": "aluminium"}) if row.key == link.grade else row
        for row in design.catalogue.grades
    )
    inserts = tuple(row.model_copy(update={"family": "aluminium"}) for row in design.catalogue.inserts)
    other = design.model_copy(
        update={"catalogue": design.catalogue.model_copy(update={"grades": light, "inserts": inserts})}
    )
    steel, aluminium = (built(link, job).assembly for job in (design, other))
    was = {one.what: one for one in life_details(steel, 0.15)}
    now = {one.what: one for one in life_details(aluminium, 0.15)}
    assert was.keys() == now.keys()
    for what, one in now.items():
        assert (one.round, one.friction) == (was[what].round, was[what].friction)
        if what.startswith("thread root"):
            assert one.grade == was[what].grade == 50.0
        else:
            assert {40.0: 22.0, 36.0: 12.0, 80.0: 28.0}[was[what].grade] == one.grade
    check = next(one for one in part_of(link, other).checks if one.key.split(":")[0] == "life")
    force = everyday_of(link, work(other))
    assert not isinstance(force, NotCarried)
    each = {
        what: life(
            max(one.round.stress(far, one.friction * under) for far, under in force.swings), one.grade, straight_line(1000.0),  # a road car
            shear="plug" in what, metal=STEEL if "thread" in what else ALUMINIUM,
        )
        for what, one in now.items()
    }  # fmt: skip
    assert check.capacity == pytest.approx(min(each.values()))
    if not check.note.startswith("thread root"):
        assert "IIW" in check.note
    for worse, why in (({"bent": Bent(offset=Length(mm=40.0))}, "a bend in aluminium"),):
        told = [one.why for one in part_of(link.model_copy(update=worse), other).not_carried]
        assert any(why in one for one in told)


def test_an_arm_of_aluminium_lasts_less_than_its_steel_twin_and_says_by_whom() -> None:
    design, arm, tube, grade, frames = an_arm()
    light = grade.model_copy(update={"family": "aluminium"})
    both = [arm_life(arm, tube, one, frames, (), design.settings, 1e5) for one in (grade, light)]
    for one, two in zip(*both, strict=True):
        assert two.capacity < one.capacity
        assert "IIW" in two.note
        assert "IIW" not in one.note
    section, leg = (
        Section(od=tube.od_mm, wall=tube.wall_mm),
        legs_for(tube.wall_mm).usual if arm.pivots != "rod ends" or arm.welding.leg_mm is None else arm.welding.leg_mm,
    )
    for check in both[1]:
        least = min(
            life(float(stress), mpa, design.settings.everyday, shear=shear, metal=ALUMINIUM)
            for own in frames for part, (_, stress, mpa, shear) in details(section, leg, ALUMINIUM, own) if part == check.part
        )  # fmt: skip
        assert check.capacity == pytest.approx(least)


def test_a_bend_and_what_is_welded_on_cost_life() -> None:
    design = demo("marram")
    plain = loaded(design, LoadCase(name="x", axial_n=8000.0), everyday_n=20_000.0)
    from tests.core.test_joined import mm

    bent = plain.model_copy(update={"bent": Bent(offset=mm(60.0))})
    a, b = of(plain, design), of(bent, design)
    assert b.capacity < a.capacity
    assert "bend" in b.note
    made = built(plain, design).assembly
    section, ball = made.section, max(end.joint.ball_diameter_mm for end in made.threaded)
    lever = 60.0 + 0.15 * ball / 2  # of a range that is typed: no less than the two forces together
    stress = 20_000.0 * (1 / section.area + lever * section.od / 2 / section.second_moment)
    assert b.capacity == pytest.approx(endurance(stress, 100.0))


@pytest.mark.parametrize(
    "forces", [(9000.0, -1000.0, 4000.0), (12_000.0, 11_000.0), (-3000.0, 0.0), (0.0, -4000.0, 8000.0)]
)
def test_a_ball_s_friction_turns_over_between_two_forces_and_counts_with_both(forces: tuple[float, ...]) -> None:
    """A shank followed through every way from one force to another and back, its ball turning one way and then the other."""
    pull, bend, arm = 1 / 240.0, 1 / 520.0, 0.15 * 33.0 / 2
    worst = 0.0
    for there in forces:
        for back in forces:
            fibre = [force * pull + way * arm * abs(force) * bend for force in (there, back) for way in (1, -1)]
            worst = max(worst, max(fibre) - min(fibre))
    where = Round(pull=pull, bend=bend)
    assert max(where.stress(far, arm * both) for far, both in swings(forces)) == pytest.approx(worst)
    # a lined ball that turns twice as easily bends it half as much
    half = max(where.stress(far, arm / 2 * both) for far, both in swings(forces))
    assert half == pytest.approx(max(far * pull + arm / 2 * both * bend for far, both in swings(forces)))


def test_less_friction_is_more_life_and_none_is_the_pull_alone() -> None:
    design = demo("marram")
    link = next(one for one in links(design) if one.name == "Panhard rod")

    def with_friction(value: float) -> CheckResult:
        return of(
            link, design.model_copy(update={"settings": design.settings.model_copy(update={"joint_friction": value})})
        )

    usual, lined, none = (with_friction(value) for value in (0.15, 0.05, 0.0))
    assert usual.capacity < lined.capacity < none.capacity
    assert "of the ball’s friction" in usual.note
    assert "friction" not in none.note
    made = built(link, design).assembly
    span = everyday_of(link, work(design))
    assert not isinstance(span, NotCarried)
    areas = [(end.thread.stress_area, 50.0) for end in made.threaded] + [(made.section.area, 40.0)]
    areas += [
        (pi * min(made.tube.od_mm, end.insert.shoulder_diameter_mm) * 0.707 * made.leg, 36.0) for end in made.threaded
    ]
    assert none.capacity == pytest.approx(min(endurance(span.range / area, grade) for area, grade in areas))
    # the screen of the same range, its moment in it
    found = calculate(
        "fatigue",
        {"range_n": 6000, "moment_range_nmm": 20_000, "designation": "3/4-16 UNF", "od_mm": 31.75, "wall_mm": 3.05},
    )
    plain = calculate("fatigue", {"range_n": 6000, "designation": "3/4-16 UNF", "od_mm": 31.75, "wall_mm": 3.05})
    second = pi / 64 * (31.75**4 - (31.75 - 6.1) ** 4)
    assert found["toe_range_mpa"] - plain["toe_range_mpa"] == pytest.approx(20_000 * 31.75 / 2 / second)
    ring = pi * 31.75**2 / 4 * 0.707 * 4.0
    assert found["throat_range_mpa"] - plain["throat_range_mpa"] == pytest.approx(20_000 / ring)


@pytest.mark.parametrize("force", [6000.0, 12_000.0])
def test_a_search_returns_what_lasts(force: float) -> None:
    design = demo("quay")
    link = links(design)[0].model_copy(update={"everyday_n": force})
    found = LINK.size(link, work(design), SHELF, "mass")
    assert found.winner
    (sized,) = [part for part in found.winner.parts if isinstance(part, Link)]
    rows = design.model_copy(update={"catalogue": SHELF})
    check = of(sized, rows)
    assert check.passed
    assert check.capacity >= 1e6
    # and what did not last was passed over: the lightest for a tenth of it does not
    small = LINK.size(link.model_copy(update={"everyday_n": force / 10}), work(design), SHELF, "mass")
    assert small.winner
    assert small.winner.mass < found.winner.mass + 1e-9


def test_the_demo_jobs_last_and_a_job_that_does_not_is_listed() -> None:
    for name in ("marram", "tern", "quay", "plover", "dunlin"):
        found = evaluate(work(demo(name)))
        lives = [check for part in found.parts for check in part.checks if check.key.split(":")[0] == "life"]
        assert lives
        assert all(check.state == "ok" for check in lives)
        assert unsettled(found) == []
    design = demo("marram")
    design = design.model_copy(update={"settings": design.settings.model_copy(update={"life_cycles": 1e8})})
    lines = unsettled(evaluate(work(design)))
    assert any("Everyday life is over" in line for line in lines)


# --- arms -----------------------------------------------------------------------------------------------------------------


def an_arm(name: str = "lower arm") -> tuple[Design, Arm, Tube, Grade, list[list[ArmFrame]]]:
    design = demo("marram")
    arm = next(one for one in arms(design) if name in one.name)
    tube, grade = (design.catalogue.find(table, key) for table, key in (("tubes", arm.tube), ("grades", arm.grade)))
    assert isinstance(tube, Tube)
    assert isinstance(grade, Grade)
    frames = everyday_frames(arm, tube, grade, ARM.setting(arm, work(design)))
    assert not isinstance(frames, NotCarried)
    return design, arm, tube, grade, frames


def test_what_an_arm_goes_through_between_two_cases_is_the_frame_under_their_difference() -> None:
    """The frame is linear: of two cases at one position the range is what it has under the one's loads less the other's."""
    design, arm, tube, grade, frames = an_arm()
    brake, drive = (next(one for one in frames[0] if one.case.startswith(name)) for name in ("brake", "stand"))
    assert np.allclose(brake.nodes, drive.nodes)
    data = frame_input(replace(brake, loads=brake.loads - drive.loads), arm, tube, grade, design.settings.factors)
    found = calculate("arm", data)["tubes"]
    section, leg = Section(od=tube.od_mm, wall=tube.wall_mm), legs_for(tube.wall_mm).usual
    toe: dict[str, float] = {}
    root: dict[str, float] = {}
    twist: dict[str, float] = {}
    for name, one in zip(brake.names, found, strict=False):
        stem, moment = name.split(",")[0], max(one["moment_nmm"])
        pulled = abs(one["axial_n"])
        toe[stem] = max(toe.get(stem, 0.0), pulled / section.area + moment * tube.od_mm / 2 / section.second_moment)
        a = pi * tube.od_mm * 0.707 * leg
        root[stem] = max(root.get(stem, 0.0), pulled / a + moment * 4 / (a * tube.od_mm))
        twist[stem] = max(twist.get(stem, 0.0), abs(one["torsion_nmm"]) * 2 / (a * tube.od_mm))
    ranges: dict[str, dict[str, float]] = {}
    for stem, (what, stress, _, _) in details(section, leg, STEEL, [brake, drive]):
        ranges.setdefault(what, {})[stem] = max(ranges.get(what, {}).get(stem, 0.0), float(stress))
    assert ranges["weld’s toe"] == pytest.approx(toe, rel=1e-6)
    assert ranges["weld’s root"] == pytest.approx(root, rel=1e-6)
    assert ranges["weld, twisted"] == pytest.approx(twist, rel=1e-6)
    # what pushes and then pulls as much counts twice what only pushes does
    once, twice = (
        [float(stress) for _, (_, stress, _, _) in details(section, leg, STEEL, [brake, times(brake, way)])]
        for way in (0.0, -1.0)
    )
    assert twice == pytest.approx([2 * stress for stress in once])


def times(one: ArmFrame, share: float) -> ArmFrame:
    """The same arm under a share of it."""
    return replace(one, axial=share * one.axial, bent=share * one.bent, twisted=share * one.twisted)


def split(one: ArmFrame, i: int, share: float) -> ArmFrame:
    """The same arm with a place marked on one of its stretches at which nothing acts."""
    a, b = one.ends[i]
    nodes = np.vstack([one.nodes, one.nodes[a] + share * (one.nodes[b] - one.nodes[a])])
    near, far = one.bent[:, i, 0], one.bent[:, i, 1]
    there = near + share * (-far - near)  # straight between what the two ends are given
    cut = [*range(i + 1), *range(i, len(one.names))]
    bent = one.bent[:, cut].copy()
    bent[:, i, 1], bent[:, i + 1, 0] = -there, there
    stem = one.names[i].split(",")[0]
    names = tuple(f"{stem}, {k}" if one.names[j].startswith(stem) else one.names[j] for k, j in enumerate(cut))
    ends = (*one.ends[:i], (a, len(nodes) - 1), (len(nodes) - 1, b), *one.ends[i + 1 :])
    return replace(
        one, nodes=nodes, names=names, ends=ends, bent=bent, axial=one.axial[:, cut], twisted=one.twisted[:, cut]
    )


@pytest.mark.parametrize("share", [0.3, 0.8])
def test_where_something_acts_in_one_case_alone_does_not_matter_to_the_range(share: float) -> None:
    _, _, tube, _, frames = an_arm()
    section, leg = Section(od=tube.od_mm, wall=tube.wall_mm), legs_for(tube.wall_mm).usual

    def worst(*pair: ArmFrame) -> dict[tuple[str, str], float]:
        found: dict[tuple[str, str], float] = {}
        for stem, (what, stress, _, _) in details(section, leg, STEEL, pair):
            found[stem, what] = max(found.get((stem, what), 0.0), float(stress))
        return found

    one, two = frames[0][0], frames[0][1]
    for i in range(len(one.names)):
        assert worst(split(one, i, share), two) == pytest.approx(worst(one, two))
        assert worst(one, split(two, i, share)) == pytest.approx(worst(one, two))


@pytest.mark.parametrize("rise", [-60.0, -40.0, -20.0, 20.0])
def test_an_arm_whose_stop_is_met_in_some_everyday_cases_alone_is_judged(rise: float) -> None:
    # a stop, a spring or a bar that acts in one case and not in the next divides its tubes otherwise
    design, arm, *_ = an_arm()
    lower = design.model_copy(update={"car": design.car.model_copy(update={"front_rise_mm": rise})})
    part = part_of(arm, lower)
    assert [check for check in part.checks if check.key.split(":")[0] == "life"] or any(
        "everyday" in one.case for one in part.not_carried
    )
    whole = evaluate(work(lower))
    assert len(whole.parts) == len(design.parts)


def test_an_arm_lasts_as_its_weakest_detail_on_either_side_of_the_car() -> None:
    design, arm, tube, _, frames = an_arm("upper arm")
    part = part_of(arm, design)
    found = {check.part: check for check in part.checks if check.key.split(":")[0] == "life"}
    assert len(frames) == 2  # both sides of the car go through it
    section, leg = Section(od=tube.od_mm, wall=tube.wall_mm), arm.welding.leg_mm or legs_for(tube.wall_mm).usual
    spectrum, plain = design.settings.everyday, section.od / 2 / section.second_moment
    for which, (stem, side) in enumerate(zip(("front tube", "rear tube"), part.own.sides, strict=True)):
        end, engaged = side.assembly.threaded[0], side.stack.ends[0].engagement
        arm_mm = 0.15 * end.joint.ball_diameter_mm / 2
        # the friction of the ball at its pivot bends a side out of its plane: as much more as both forces on it make
        least = min(
            life(float(stress), grade, spectrum, shear=shear)
            for own in frames for part_, (_, stress, grade, shear) in details(section, leg, STEEL, own, friction_of(arm_mm)) if part_ == stem
        )  # fmt: skip
        assert found[stem].capacity == pytest.approx(least)
        one, two = frames[0][:2]
        with_it, without = ([s for p, (w, s, _, _) in details(section, leg, STEEL, [one, two], of) if (p, w) == (stem, "weld’s toe")]
                            for of in (friction_of(arm_mm), None))  # fmt: skip
        added = arm_mm * sum(float(np.hypot(*each.at_pivot[0, which])) for each in (one, two))
        assert max(with_it) - max(without) == pytest.approx(added * plain, rel=1e-6)
        # the thread at its pivot: pulled along the side, bent by what is square to it at the eye, and by its ball
        size = sqrt(4 * end.thread.stress_area / pi)
        i = one.names.index(stem)
        most = 0.0
        for own in frames:
            square = [(each.bent[0, i, 0] + each.bent[0, i, 1]) / each.lengths[stem] for each in own]
            pulls = [each.at_pivot[0, which] for each in own]
            assert [np.linalg.norm(s) for s in square] == pytest.approx([pull[1] for pull in pulls], abs=1e-6)
            lever = end.joint.eye_to_shank_end_mm - min(engaged, engaged_least(side, design)) - end.nut.height_mm
            for a in range(len(own)):
                for b in range(len(own)):
                    bending = np.linalg.norm(square[a] - square[b]) * lever
                    bending += arm_mm * (np.hypot(*pulls[a]) + np.hypot(*pulls[b]))
                    stress = abs(pulls[a][0] - pulls[b][0]) / end.thread.stress_area + 32 * bending / (pi * size**3)
                    most = max(most, float(stress))
        assert found[side.pivot.replace("_", " ")].capacity == pytest.approx(life(most, 50.0, spectrum))
    assert all(check.demand == 1e5 for check in found.values())
    assert "everyday cycles" in part_headline(design, arm)


def friction_of(arm_mm: float) -> Callable[[ArmFrame, ArmFrame], dict[str, float]]:
    """What the balls at both pivots put into the sides between two cases [N·mm]."""

    def turned(one: ArmFrame, two: ArmFrame) -> dict[str, float]:
        return {
            stem: arm_mm * sum(float(np.hypot(*each.at_pivot[0, i])) for each in (one, two))
            for i, stem in enumerate(("front tube", "rear tube"))
        }

    return turned


def engaged_least(side: ArmSide, design: Design) -> float:
    """The thread that the card asks for at least [mm]."""
    end = stack_end(side.assembly.threaded[0], max(abs(case.axial_n) for case in side.assembly.cases), design.settings)
    assert isinstance(end, AdjustableEnd)
    return end.min_engagement


def part_headline(design: Design, arm: Arm) -> str:
    return next(one.headline for one in evaluate(work(design)).parts if one.id == arm.id)


def test_a_search_for_an_arm_returns_none_that_lasts_too_short_and_names_what_is_not_judged() -> None:
    design, arm, tube, grade, _ = an_arm()
    usual = ARM.size(arm, work(design), SHELF, "mass").winner
    assert usual
    long = design.model_copy(update={"settings": design.settings.model_copy(update={"life_cycles": 4e5})})
    found = ARM.size(arm, work(long), SHELF, "mass")
    assert found.winner
    assert found.winner.mass > usual.mass
    assert "do not last" in found.advice
    made = found.winner.parts[0]
    whole = patched(long, adopted(long, found.winner.parts, SHELF))
    lasts = [check for check in part_of(made, whole).checks if check.key.split(":")[0] == "life"]
    assert lasts
    assert all(check.passed for check in lasts)
    light = everyday_frames(arm, tube, grade.model_copy(update={"family": "titanium"}), ARM.setting(arm, work(design)))
    assert isinstance(light, NotCarried)
    assert "not judged" in light.why


def test_a_search_for_an_arm_on_rod_ends_returns_ends_that_last() -> None:
    """Upper arm of Marram: with ten times the cycles wanted, a thread that carries every case is passed over for one that lasts."""
    design, arm, *_ = an_arm("upper arm")

    def sized(cycles: float) -> tuple[Arm, list[CheckResult]]:
        job = design.model_copy(update={"settings": design.settings.model_copy(update={"life_cycles": cycles})})
        found = ARM.size(arm, work(job), SHELF, "mass")
        assert found.winner
        made = found.winner.parts[0]
        assert isinstance(made, Arm)
        return made, [
            check
            for check in part_of(made, patched(job, adopted(job, found.winner.parts, SHELF))).checks
            if check.key.split(":")[0] == "life"
        ]

    (few, _), (many, lasts) = sized(1e5), sized(2e6)
    assert lasts
    assert all(check.passed for check in lasts)
    assert few.pivot_end.joint != many.pivot_end.joint


def test_a_tube_feels_the_friction_of_the_larger_of_its_two_balls() -> None:
    design = demo("marram")
    made = built(next(one for one in links(design) if one.name == "Panhard rod"), design).assembly
    small = replace(
        made.ends[1],
        joint=made.threaded[1].joint.model_copy(
            update={"ball_diameter_mm": made.threaded[0].joint.ball_diameter_mm / 2}
        ),
    )
    found = {one.what: one.friction for one in life_details(replace(made, ends=(made.ends[0], small)), 0.2)}
    ball = made.threaded[0].joint.ball_diameter_mm
    assert found["thread root, end A"] == found["tube at its weld, end B"] == pytest.approx(0.1 * ball)
    assert found["thread root, end B"] == pytest.approx(0.05 * ball)
