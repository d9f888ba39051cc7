"""Rockers: their plate's outline against a general geometry library, their arms by hand, their pivots in balance, sized in their jobs."""

from __future__ import annotations

from math import hypot, pi, sqrt
from typing import Any

import numpy as np
import pytest
from numpy.random import default_rng
from scipy.optimize import brentq
from scipy.spatial.transform import Rotation
from shapely.geometry import Point
from shapely.ops import unary_union

from tests.core.end_jobs import all_parts, job_of
from tests.core.test_moving_members import again, sized
from tests.core.test_suspension import example
from tests.jobs import draw, part_of, template_of, with_part, work
from tirante.core.brackets.plate_arm import EyeForce, PlateArm, plate_stress, ring_stress
from tirante.core.document.design import Design
from tirante.core.document.parts.rocker import Rocker
from tirante.core.document.template import SpinJoint, TemplatePoint
from tirante.core.drawing.model import Arc
from tirante.core.drawing.sheet import Numbers
from tirante.core.errors import InputError
from tirante.core.flat.contour import Contour, Curve, Straight
from tirante.core.members.fatigue import endurance
from tirante.core.parts.part import PlatePiece
from tirante.core.parts.rocker.judged import in_its_plane, plate_arm, rocker_life
from tirante.core.parts.rocker.kind import ROCKER
from tirante.core.parts.rocker.shape import plate_outline
from tirante.core.suspension.cycle import cycle, positions, solved_cycle

ROCKERS = ["four-links-watts-axle", "four-links-watts-chassis", "double-wishbone-pushrod", "double-wishbone-rod-upper"]


def the_rocker(name: str, **more: Any) -> tuple[Design, Rocker]:
    design = job_of(name)
    found = next(part for part in all_parts(design) if isinstance(part, Rocker))
    return design, found.model_copy(update=more)


def stout(rocker: Rocker, pin: float = 24.0) -> Rocker:
    """With bolts and heads that hold anything here."""
    eyes = tuple(
        eye.model_copy(update={"pin_mm": pin, "head_mm": 1.6 * pin, "pin_class": "12.9"}) for eye in rocker.eyes
    )
    return rocker.model_copy(update={"eyes": eyes, "hub_mm": 42.0, "boss_mm": 50.0, "leg_mm": 6.0})


def test_the_outline_of_a_plate_is_the_band_drawn_tight_round_its_circles() -> None:
    """Against shapely's convex hull: two to five circles by chance, some inside the band, and three of one size in a line."""
    chance = default_rng(4)
    shapes = [
        [(0.0, 0.0, 20.0), (100.0, 0.0, 20.0), (-80.0, 0.0, 20.0)],
        [(0.0, 0.0, 15.0), (0.0, 90.0, 15.0), (0.0, -70.0, 15.0)],
    ]
    while len(shapes) < 120:
        circles = [(0.0, 0.0, float(chance.uniform(20, 40)))]
        for _ in range(int(chance.integers(1, 5))):
            x, y, r = (float(v) for v in chance.uniform((-150, -150, 10), (150, 150, 40)))
            if all(hypot(x - a, y - b) > abs(r - q) + 1 for a, b, q in circles):
                circles.append((x, y, r))
        if len(circles) > 1:
            shapes.append(circles)
    for circles in shapes:
        found = Contour(edges=plate_outline(circles))
        hull = unary_union([Point(x, y).buffer(r, quad_segs=512) for x, y, r in circles]).convex_hull
        assert found.gap < 1e-9
        assert found.area == pytest.approx(hull.area, rel=1e-4)
        assert found.bounds == pytest.approx(hull.bounds, abs=1e-3)
        # lines and arcs by turns, each line touching both its arcs
        assert {type(edge) for edge in found.edges} == {Straight, Curve}
        for edge in found.edges:
            if isinstance(edge, Curve):
                assert 0 <= edge.end_deg - edge.start_deg <= 360


def test_an_arm_of_a_plate_by_hand() -> None:
    """Parallel sides: F 6 kN across at 100 mm, two plates of 6 × 50. Between eye and boss M/W at the boss's edge; through the pivot a hole of 30 off."""
    arm = PlateArm(length=100.0, eye_radius=25.0, hub_radius=25.0, hub_hole=30.0, thickness=6.0, plates=2, apart=26.0)
    found = plate_stress(arm, EyeForce(along=0.0, across=6000.0))
    assert found.at == pytest.approx(85.0)
    assert found.worst == pytest.approx(3000 * 85 * 6 / (6 * 50**2))
    second = 6 * (50**3 - 30**3) / 12
    assert found.net == pytest.approx(3000 * 100 * 25 / second)
    # a pull adds P/A everywhere, of the net section there
    pulled = plate_stress(arm, EyeForce(along=-12_000.0, across=6000.0))
    assert pulled.net - found.net == pytest.approx(6000 / (6 * 20))
    # 2 kN out of the plane bends each plate by itself
    out = plate_stress(arm, EyeForce(along=0.0, across=0.0, out=2000.0))
    assert out.worst == pytest.approx(6 * 1000 * 85 / (50 * 6**2))
    # 5 mm beside the middle one plate takes 6000 · (1/2 + 5/26)
    beside = plate_stress(arm, EyeForce(along=0.0, across=6000.0, off=5.0))
    assert beside.worst / found.worst == pytest.approx(1 + 2 * 5 / 26)
    # of one plate the same is twisted: 3 T/(w t²), and bent flat by what pulls along
    single = PlateArm(length=100.0, eye_radius=25.0, hub_radius=25.0, hub_hole=30.0, thickness=12.0)
    plain, off = (plate_stress(single, EyeForce(along=0.0, across=6000.0, off=e)).net for e in (0.0, 5.0))
    assert off == pytest.approx(sqrt(plain**2 + 3 * (3 * 6000 * 5 / (20 * 12**2)) ** 2))
    flat = plate_stress(single, EyeForce(along=6000.0, across=0.0, off=5.0)).net
    assert flat == pytest.approx(6000 / (20 * 12) + 6 * 6000 * 5 / (20 * 12**2))
    # tapering, it is as wide as the line that touches eye and boss leaves it
    taper = PlateArm(length=100.0, eye_radius=15.0, hub_radius=35.0, hub_hole=30.0, thickness=6.0)
    assert taper.width(50.0) == pytest.approx(50.0)
    for wrong in ({"hub_hole": 80.0}, {"length": 10.0}, {"plates": 2, "apart": 4.0}):
        with pytest.raises(InputError):
            PlateArm(
                **{"length": 100.0, "eye_radius": 15.0, "hub_radius": 35.0, "hub_hole": 30.0, "thickness": 6.0, **wrong}
            )  # type: ignore[arg-type]


def test_the_ring_of_a_boss_is_a_line_summed_round() -> None:
    """The circle as 720 pieces: shear along, and a tipping moment as a line load that goes with the height; two rings of one plate share."""
    d, leg = 40.0, 4.0
    angle = np.arange(720) * 2 * pi / 720
    piece = pi * d / 720
    moment, force, axial = 150_000.0, 9000.0, 2000.0
    height = d / 2 * np.sin(angle)
    line = moment * height / np.sum(height**2 * piece)
    worst = hypot(force / (pi * d) / 2, axial / (pi * d) / 2 + line.max() / 2)
    assert ring_stress(d, leg, 1, 0.0, force, axial, moment) == pytest.approx(worst / (0.707 * leg), rel=1e-3)
    two = ring_stress(d, leg, 2, 30.0, force, axial, moment)
    assert two == pytest.approx(
        hypot(force / (2 * pi * d), axial / (2 * pi * d) + moment / 30 / (pi * d)) / (0.707 * leg), rel=1e-3
    )


@pytest.mark.parametrize("name", ROCKERS)
def test_a_rocker_turns_in_balance_about_its_pivot(name: str) -> None:
    """What pulls across its arms, times their reach, comes to nothing in every case; the bearings take the sum of all that pulls."""
    design, rocker = the_rocker(name)
    part = part_of(rocker, design)
    assert part.complete, part.faults
    made = part.own
    cases = in_its_plane(made.shape, made.seen.cases)
    assert len(cases) > 20
    for one in cases:
        size = max(force.size for force in one.eyes.values())
        turn = sum(one.eyes[eye.eye.point].across * eye.reach for eye in made.shape.eyes)
        assert abs(turn) < 1e-6 * max(size, 1.0) * 100
        pull = np.zeros(3)
        for eye in made.shape.eyes:
            force, c, s = one.eyes[eye.eye.point], eye.x / eye.reach, eye.y / eye.reach
            pull += np.array([force.along * c - force.across * s, force.along * s + force.across * c, force.out])
        assert np.array(one.pivot) == pytest.approx(-pull, abs=1e-6 * max(size, 1.0))
    # the links of the end pull at its eyes as they do in the loads
    carried = [c for c in work(with_part(design, rocker)).carried(design.ends[0].id).cases if c.forces and not c.fault]
    link, eye = {"double-wishbone-pushrod": ("push rod", "push_high"), "double-wishbone-rod-upper": ("rod to the rocker", "rod_rocker")}.get(
        name, ("left Watts link", "watts_high")
    )  # fmt: skip
    first = next(one for one in cases if one.case == carried[0].name)
    assert first.eyes[eye].size == pytest.approx(abs(carried[0].forces.axial[link]))  # type: ignore[union-attr]


@pytest.mark.parametrize("name", ROCKERS)
def test_a_rocker_is_sized_by_its_plate_and_every_figure_is_repeated(name: str) -> None:
    design, rocker = the_rocker(name)
    part, _ = sized(stout(rocker, 24.0 if "pushrod" in name else 16.0), design)
    assert all(check.passed for check in part.checks)
    assert {check.key.split(":")[0] for check in part.checks} >= {
        "plate_bent", "plate_net", "eye_bearing", "eye_torn", "eye_pin", "eye_pin_bent", "boss_weld", "life",
    }  # fmt: skip
    for check in part.checks:
        if check.reproduce and check.utilisation is not None:
            again(check)
    saved = part.saved
    assert isinstance(saved, Rocker)
    thinner = [mm for mm in (3.0, 4.0, 5.0, 6.0, 8.0, 10.0, 12.0) if mm < saved.plate_mm]
    if thinner:
        other = part_of(saved.model_copy(update={"plate_mm": thinner[-1]}), design)
        assert not all(check.passed for check in other.checks)
    (plate,) = [piece for piece in part.pieces if isinstance(piece, PlatePiece)]
    assert plate.count == 2
    assert plate.outline
    assert [hole.diameter for hole in plate.outline.holes] == pytest.approx(
        [saved.boss_mm, *(eye.pin_mm + 0.2 for eye in saved.eyes)]
    )
    flat = draw(saved, design, "flat", Numbers())
    assert (flat.width, flat.height) == pytest.approx((plate.length, plate.width))
    assert (
        sum(
            (isinstance(item, Arc) and item.end_deg is None) or (isinstance(item, Arc) and item.r * 2 == saved.boss_mm)
            for item in flat.items
        )
        >= 1
    )
    drawing = draw(saved, design, "drawing", Numbers())
    assert drawing.items


@pytest.mark.parametrize("name", ["four-links-watts-axle", "double-wishbone-pushrod"])
def test_a_rocker_lasts_by_its_weakest_detail_written_out(name: str) -> None:
    """Between any two everyday cases of one side of the car; what the other side goes through is its own rocker's."""
    design, rocker = the_rocker(name)
    part = part_of(stout(rocker, 16.0), design)
    made, saved = part.own, part.saved
    assert isinstance(saved, Rocker)
    from tirante.core.parts.body import seen_of

    days = in_its_plane(made.shape, seen_of(saved, saved.body, work(with_part(design, saved)), everyday=True).cases)
    found = rocker_life(saved, made.shape, days, design.settings, 1e5)
    by_part = {check.part: check.capacity for check in found}
    eye = made.shape.eyes[0]
    arm = plate_arm(saved, eye)
    least = 1e9
    for one in days:
        for two in days:
            if one.copy != two.copy:
                continue
            a, b = (case.eyes[eye.eye.point] for case in (one, two))
            stress = plate_stress(
                arm, EyeForce(along=a.along - b.along, across=a.across - b.across, out=a.out - b.out, off=a.off)
            )
            pull = hypot(a.along - b.along, a.across - b.across) / (
                2 * saved.plate_mm * (2 * eye.eye.head_mm - eye.eye.pin_mm - 0.2)
            )
            least = min(least, endurance(max(stress.worst, stress.net), 71.0), endurance(pull, 90.0))
    assert by_part[eye.words] == pytest.approx(least)
    root = 1e9
    for one in days:
        for two in days:
            if one is not two and one.copy == two.copy:
                change = np.array(one.pivot) - np.array(two.pivot)
                stress_mpa = ring_stress(
                    saved.boss_mm,
                    min(saved.leg_mm, saved.plate_mm),
                    2,
                    arm.apart,
                    hypot(*change[:2]),
                    change[2],
                    one.tip + two.tip,
                )
                root = min(root, endurance(stress_mpa, 36.0))
    assert by_part["boss"] == pytest.approx(root)


def test_what_is_missing_of_a_rocker_is_said() -> None:
    design, rocker = the_rocker("four-links-watts-axle")
    lacking = part_of(rocker.model_copy(update={"eyes": rocker.eyes[:1]}), design)
    assert any("no eye at watts low" in one.message for one in lacking.faults)
    big = part_of(rocker.model_copy(update={"boss_mm": 130.0, "bore_mm": 100.0, "hub_mm": 80.0}), design)
    assert any("in the boss" in one.message for one in big.faults)
    rated = part_of(rocker.model_copy(update={"bearing_rating_n": 9000.0}), design)
    check = next(one for one in rated.checks if one.key == "pivot_joint")
    worst = max(sum(v * v for v in one.pivot) ** 0.5 for one in in_its_plane(rated.own.shape, rated.own.seen.cases))
    assert check.demand == pytest.approx(worst * design.settings.factors.joint)
    assert not any("bearings are not checked" in note for note in rated.notes)
    thin = rocker.model_copy(update={"eyes": tuple(eye.model_copy(update={"pin_mm": 4.0}) for eye in rocker.eyes)})
    none = ROCKER.size(thin, work(with_part(design, thin)), None, "mass")  # type: ignore[arg-type]
    assert none.winner is None
    assert "larger or stronger bolt" in none.advice


@pytest.mark.parametrize("name", ["double-wishbone-rod-upper", "double-wishbone-rod-lower"])
def test_a_rocker_turns_about_the_line_through_its_two_points(name: str) -> None:
    """Rodrigues' rotation about that line, turned until the rod is as long as it was, gives the damper's length."""
    end = example(name)
    asked = positions(np.linspace(-60, 60, 9), [0.0], [0.0])
    found = cycle(template_of(end), end, asked)
    side = solved_cycle(template_of(end), end, asked).left
    rod = side.solved.system.where(side.solved.poses, side.assembled.marks["rod_arm"], side.solved.drives)
    at = {point: np.array(end.points[point], float) for point in end.points}
    pivot = at["rocker_pivot"]
    turns = (at["rocker_axis"] - pivot) / np.linalg.norm(at["rocker_axis"] - pivot)
    long = float(np.linalg.norm(at["rod_rocker"] - at["rod_arm"]))

    def turned(point: str, angle: float) -> Any:
        return pivot + Rotation.from_rotvec(turns * angle).apply(at[point] - pivot)

    for i in range(9):
        angle = brentq(
            lambda t, i=i: float(np.linalg.norm(turned("rod_rocker", t) - rod[:, i])) - long, -0.9, 0.9, xtol=1e-14
        )
        length = float(np.linalg.norm(turned("damper_rocker", angle) - at["damper_ground"]))
        assert found.columns["damper_length_mm"][i] == pytest.approx(length, abs=1e-7)
    assert np.ptp(found.columns["damper_length_mm"]) > 40


def test_two_points_along_the_car_say_what_a_direction_along_the_car_says() -> None:
    end = example("double-wishbone-pushrod")
    template = template_of(end)
    way = TemplatePoint(name="rocker_axis", what="a second place on its line")
    x, y, z = end.points["rocker_pivot"]
    both = template.model_copy(
        update={
            "points": (*template.points, way),
            "joints": tuple(
                j.model_copy(update={"direction": None, "toward": "rocker_axis"}) if isinstance(j, SpinJoint) else j for j in template.joints
            ),
        }
    )  # fmt: skip
    asked = positions([-40.0, 35.0], [0.0, 2.0], [0.0])
    one = cycle(template, end, asked)
    two = cycle(both, end.model_copy(update={"points": {**end.points, "rocker_axis": (x - 37.0, y, z)}}), asked)
    for column, values in one.columns.items():
        assert two.columns[column] == pytest.approx(values, abs=1e-9, nan_ok=True), column
    with pytest.raises(InputError, match="rocker_pivot and rocker_axis are one point"):
        cycle(both, end.model_copy(update={"points": {**end.points, "rocker_axis": (x, y, z)}}), asked)
    spin = next(j for j in template.joints if isinstance(j, SpinJoint))
    for wrong in ({"toward": "rocker_axis"}, {"direction": None}):
        with pytest.raises(ValueError, match="one of the two"):
            SpinJoint.model_validate({**spin.model_dump(), **wrong})


def test_eyes_stand_off_the_plates_by_what_they_lie_along_the_rockers_own_line() -> None:
    """Of the shipped rocker its rod's eye is moved 9 mm along the line it turns about; the plates stand in the middle."""
    design, rocker = the_rocker("double-wishbone-rod-upper")
    end = design.ends[0].end
    at = {point: np.array(end.points[point], float) for point in end.points}
    turns = (at["rocker_axis"] - at["rocker_pivot"]) / np.linalg.norm(at["rocker_axis"] - at["rocker_pivot"])
    moved = tuple(float(v) for v in at["rod_rocker"] + 9.0 * turns)
    own = design.ends[0].model_copy(
        update={"end": end.model_copy(update={"points": {**end.points, "rod_rocker": moved}})}
    )
    design = design.model_copy(update={"ends": (own, *design.ends[1:])})
    made = part_of(rocker, design).own
    off = {eye.eye.point: eye.off for eye in made.shape.eyes}
    along = {p: float((np.array(own.end.points[p]) - at["rocker_pivot"]) @ turns) for p in off}
    assert off["rod_rocker"] - off["damper_rocker"] == pytest.approx(
        along["rod_rocker"] - along["damper_rocker"], abs=1e-9
    )
    assert max(off.values()) == pytest.approx(-min(off.values()))
    for eye in made.shape.eyes:
        rel = np.array(own.end.points[eye.eye.point]) - at["rocker_pivot"]
        assert eye.reach == pytest.approx(float(np.linalg.norm(np.cross(rel, turns))), abs=1e-9)


def test_a_right_rocker_that_turns_about_another_line_is_another_part() -> None:
    """Its eyes and its pivot stand alike; the line alone runs otherwise."""
    design, rocker = the_rocker("double-wishbone-rod-upper")
    own = design.ends[0]
    x, y, z = own.end.points["rocker_axis"]
    for at, told in (((x, -y, z), False), ((x, -y, z + 12.0), True)):
        end = own.end.model_copy(update={"right_points": {"rocker_axis": at}})
        part = part_of(
            rocker, design.model_copy(update={"ends": (own.model_copy(update={"end": end}), *design.ends[1:])})
        )
        assert any("Left and right differ at" in fault.message for fault in part.faults) == told
