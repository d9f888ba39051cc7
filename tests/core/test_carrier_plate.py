"""Plates on what carries a wheel: their bolts as a group, their weld as two lines, what pulls at them out of the mechanism's own forces."""

from __future__ import annotations

from math import hypot, pi
from typing import Any

import numpy as np
import pytest
from shapely.geometry import Point
from shapely.ops import unary_union

from tests.core.end_jobs import job_of, members_of
from tests.core.test_moving_members import again, sized
from tests.jobs import draw, part_of, with_part, work
from tirante.core.brackets.bolt import bolt_class
from tirante.core.brackets.plate_arm import EyeForce
from tirante.core.brackets.root_bolts import RootBolts, root_bolt_forces, root_bolt_use
from tirante.core.document.design import Design
from tirante.core.document.parts.carrier_plate import CarrierPlate
from tirante.core.drawing.sheet import Numbers
from tirante.core.errors import InputError
from tirante.core.job.evaluate import not_made_out
from tirante.core.job.make_parts import plate_on_carrier
from tirante.core.parts.carrier_plate.judged import in_its_plane, passes_a_moment, plate_checks, plate_life
from tirante.core.parts.part import Part, PlatePiece

ID = "0b0e5f5e-6ab5-4d0e-8a52-3b5a3f2d9c01"
MIRROR = np.array([1.0, -1.0, 1.0])
OTHER = "0b0e5f5e-6ab5-4d0e-8a52-3b5a3f2d9c02"


def steering_arm(**more: Any) -> tuple[Design, CarrierPlate]:
    """On the upright of a double wishbone, its root 110 mm behind the joint, 10 mm inboard and 22 mm below it."""
    design = job_of("double-wishbone")
    found = plate_on_carrier(work(design), design.ends[0].id, "upright", "tie_outer", ID)
    return design, found.model_copy(update={"root": (-110.0, -10.0, -22.0), "pin_mm": 24.0, "head_mm": 38.0, "root_width_mm": 80.0, **more})  # fmt: skip


def judged(design: Design, plate: CarrierPlate) -> Part:
    part = part_of(plate, with_part(design, plate))
    assert part.complete, part.faults
    return part


def test_two_bolts_are_an_elastic_group_and_a_beam_on_two_supports() -> None:
    """In the plane: V/2 and M r/Σr² of each bolt (Shigley 8-12, from memory). Out of it: moments about the further bolt."""
    pair = RootBolts(diameter=12.0, apart=50.0, reach=140.0, width=70.0)
    at = np.array([[115.0, 0.0], [165.0, 0.0]])
    middle = at.mean(axis=0)
    force = np.array([3000.0, -7000.0])
    moment = -140.0 * -7000.0  # of the eye's force about their middle, 140 mm behind it
    arms = at - middle
    each = force / 2 + moment * np.stack([-arms[:, 1], arms[:, 0]], axis=1) / (arms**2).sum()
    found = root_bolt_forces(pair, EyeForce(along=3000.0, across=-7000.0))
    assert found.shear == pytest.approx(np.linalg.norm(each, axis=1).max())
    assert found.tension == 0
    # 4 kN out of the plane at the eye: about the bolt at 165 the one at 115 holds 4 · 165/50
    assert root_bolt_forces(pair, EyeForce(along=0.0, across=0.0, out=4000.0)).tension == pytest.approx(4000 * 165 / 50)
    # 15 mm off the plate: a pull along is a couple over the bolts; one across twists, both bolts against the edge's triangle at w/3
    assert root_bolt_forces(pair, EyeForce(along=-5000.0, across=0.0, off=15.0)).tension == pytest.approx(5000 * 15 / 50)  # fmt: skip
    twisted = root_bolt_forces(pair, EyeForce(along=0.0, across=6000.0, off=15.0)).tension
    assert 2 * twisted * 70 / 3 == pytest.approx(6000 * 15)
    # EN 1993-1-8 Table 3.4 by hand, class 10.9: 0.6 · 1000 · A and 0.9 · 1000 · 0.78 A
    steel, both = bolt_class("10.9", 12.0), EyeForce(along=0.0, across=6000.0, off=15.0)
    area = pi * 36
    sheared = 6000 * (0.5 + 140 / 50) / (600 * area)
    assert root_bolt_use(pair, steel, both) == pytest.approx(sheared + twisted / (1.4 * 900 * 0.78 * area))
    only = EyeForce(along=0.0, across=0.0, out=4000.0)
    assert root_bolt_use(pair, steel, only) == pytest.approx(13_200 / (900 * 0.78 * area))
    for wrong in ({"apart": 20.0}, {"reach": 25.0}):
        with pytest.raises(InputError):
            RootBolts(**{"diameter": 12.0, "apart": 50.0, "reach": 140.0, "width": 70.0, **wrong})


def test_a_steering_arm_is_pulled_by_its_tie_rod_and_by_nothing_else() -> None:
    """In every case the force at its eye is the tie rod's own, along the rod; its parts in the plate keep its size."""
    design, plate = steering_arm()
    part = judged(design, plate)
    carried = work(design).carried(plate.end_id).cases
    rods = {}
    for one in carried:
        if one.forces is None or one.fault:
            continue
        for name, pull in one.forces.axial.items():
            if name.startswith("tie rod"):
                rods[(one.name + (", right" if name.endswith(", right") else ""), one.where)] = pull
    assert len(rods) > 10
    seen = {(one.case, one.where): one.eyes[plate.point] for one in part.own.cases}
    assert set(seen) == set(rods)
    for key, pull in rods.items():
        assert seen[key].size == pytest.approx(abs(pull), rel=1e-6, abs=1e-6)
    # the plate's net section stands at the bolt nearer to the eye, 20 mm short of their middle
    arm = part.own.shape.arm(plate)
    assert (arm.length, arm.hub_hole) == pytest.approx((part.own.shape.reach - 20.0, 12.2))
    # at rest the rod's way is known: its parts along and across the plate, turned over by hand
    assert part.own.shape.off == pytest.approx(22.0)
    assert part.own.shape.reach == pytest.approx(hypot(110.0, 10.0))
    assert part.own.shape.axes[0] == pytest.approx(np.array([110.0, 10.0, 0.0]) / hypot(110.0, 10.0))
    # and the worst of the bolts is the largest force with the lever of the joint above the plate
    bent = next(check for check in part.checks if check.key == "eye_pin_bent:tie_outer")
    worst = max(abs(pull) for pull in rods.values())
    assert bent.demand == pytest.approx(32 * worst * bent.factor * 22.0 / (pi * 24**3), rel=1e-6)


@pytest.mark.parametrize("name", ["centre-pivot-beam", "three-links-panhard-steered"])
def test_the_two_plates_of_a_kingpin_share_what_the_knuckle_puts_on_the_axle(name: str) -> None:
    """On either side of the car: across the pin their forces' sum is the hinge's and its moment is theirs over the pin's length, along it
    each has the whole; the knuckle's own plates see the opposite."""
    design = job_of(name)
    end, job = design.ends[0], work(design)
    plates = {}
    for body in ("axle", "knuckle"):
        for point in ("kingpin_low", "kingpin_high"):
            one = plate_on_carrier(job, end.id, body, point, ID)
            assert abs(one.normal[2]) > abs(one.normal[0])  # square to the pin
            one = one.model_copy(update={"root": (0.0, -130.0 if body == "axle" else 130.0, 0.0), "pin_mm": 30.0, "head_mm": 60.0, "root_width_mm": 120.0, "plate_mm": 25.0})  # fmt: skip
            plates[body, point] = judged(design, one)
    forces = [one.forces for one in job.carried(end.id).cases if one.forces is not None and not one.fault]
    names = {one.copy for one in plates["axle", "kingpin_low"].own.cases}
    assert names == {", left", ", right"}
    for k, case in enumerate(plates["axle", "kingpin_low"].own.cases):
        carried = next(one for one in job.carried(end.id).cases if f"{one.name}{case.copy}" == case.case and one.where == case.where)  # fmt: skip
        assert carried.forces is not None
        hinge = next(act for act in carried.forces.on["axle"] if act.what == f"kingpin{case.copy}")
        own = carried.forces.poses["axle"].own(hinge)
        wanted, about, at = own.force, own.moment, own.at
        if case.copy == ", right":
            wanted, about, at = wanted * MIRROR, about * -MIRROR, at * MIRROR
        if case.case.startswith("on a stand, under the kingpin"):
            continue  # the stand's own push comes to it
        pin = np.subtract(end.end.points["kingpin_high"], end.end.points["kingpin_low"])
        pin = pin / np.linalg.norm(pin)
        force, moment = np.zeros(3), np.zeros(3)
        for point in ("kingpin_low", "kingpin_high"):
            made = plates["axle", point].own
            eye = made.cases[k].eyes[point]
            pull = made.shape.axes.T @ np.array([eye.along, eye.across, eye.out])
            assert pull @ pin == pytest.approx(wanted @ pin, abs=1e-6)  # the thrust along the pin, whole on either
            force += pull
            moment += np.cross(made.shape.eye - at, pull)
        across = np.eye(3) - np.outer(pin, pin)
        assert across @ force == pytest.approx(across @ wanted, abs=1e-6)
        assert across @ moment == pytest.approx(across @ about, rel=1e-6, abs=1.0)
    assert len(plates["axle", "kingpin_low"].own.cases) == 2 * len(forces)
    if name == "three-links-panhard-steered":  # held every way: in balance as its mirror image too
        assert max(one.unbalanced for one in plates["axle", "kingpin_low"].own.seen.cases) < 1e-6
    for point in ("kingpin_low", "kingpin_high"):
        sizes = [max(one.eyes[point].size for one in plates[body, point].own.cases) for body in ("axle", "knuckle")]
        assert sizes[0] == pytest.approx(sizes[1], rel=1e-6)


def test_a_welded_root_is_two_lines() -> None:
    """Out of the plane M/(w t) on each line; in it M w/2 over the lines' polar second moment; against 0.707 of the leg."""
    design, plate = steering_arm(fastened="weld", plate_mm=16.0, leg_mm=5.0)
    part = judged(design, plate)
    made, settings = part.own, work(design).settings
    case = made.cases[0]
    w, t = plate.root_width_mm, plate.plate_mm

    def stress(force: EyeForce) -> float:
        checks = plate_checks(plate, made.shape, [type(case)(case="", where="", copy="", eyes={plate.point: force}, moment=0.0)], settings)  # fmt: skip
        found = next(check for check in checks if check.key == "root_weld")
        return found.demand / found.factor

    off, long = made.shape.off, made.shape.reach
    throat = 5.0 / 2**0.5
    out = stress(EyeForce(along=0.0, across=0.0, out=2000.0, off=off))
    assert out == pytest.approx(hypot(2000 / (2 * w), 2000 * long / (w * t)) / throat, rel=1e-3)
    across = stress(EyeForce(along=0.0, across=3000.0, off=off))
    polar = 2 * (w**3 / 12 + w * (t / 2) ** 2)
    bent = 3000 * long * (w / 2) / (2 * w**3 / 12)
    twist = 3000 * off
    assert across == pytest.approx(hypot(3000 / (2 * w) + twist * t / 2 / polar, twist * w / 2 / polar, bent) / throat, rel=1e-3)  # fmt: skip
    # and lasts by the worst range of any two everyday cases of one side
    days = [case, type(case)(case="b", where="", copy=case.copy, eyes={plate.point: EyeForce(along=0.0, across=3000.0, off=off)}, moment=0.0)]  # fmt: skip
    lives = plate_life(plate, made.shape, days, settings, 1e5)
    assert {check.part for check in lives} == {"plate", "eye", "weld"}
    assert plate_life(plate, made.shape, [days[1]], settings, 1e5) == []


def test_a_plate_is_sized_cut_and_told() -> None:
    design, plate = steering_arm()
    part, whole = sized(plate, design)
    assert all(check.passed for check in part.checks)
    assert {check.key.split(":")[0] for check in part.checks} >= {"plate_bent", "plate_net", "eye_pin", "root_bolts", "life"}  # fmt: skip
    for check in part.checks:
        again(check)
    # one thinner does not hold, or nothing thinner is tried
    saved = part.saved
    assert isinstance(saved, CarrierPlate)
    thinner = judged(design, saved.model_copy(update={"plate_mm": saved.plate_mm - 2.0}))
    assert not all(check.passed for check in thinner.checks)
    piece = next(one for one in part.pieces if isinstance(one, PlatePiece))
    reach, half = part.own.shape.reach, saved.root_width_mm / 2
    circles = [(0.0, saved.head_mm), (reach - saved.apart_mm / 2, half), (reach + saved.apart_mm / 2, half)]
    hull = unary_union([Point(x, 0.0).buffer(r, quad_segs=512) for x, r in circles]).convex_hull
    holes = pi / 4 * ((saved.pin_mm + 0.2) ** 2 + 2 * (saved.bolt_mm + 0.2) ** 2)
    assert piece.outline is not None
    assert piece.outline.area == pytest.approx(hull.area - holes, rel=1e-4)
    assert part.mass == pytest.approx(piece.outline.area * piece.thickness * 7.85e-6, rel=1e-3)
    assert [draw(saved, whole, view, Numbers()).items for view in ("drawing", "flat")]
    # the upright stays on every list as not made here, with its plate by name
    told = next(one for one in not_made_out(work(whole)) if one.body == "upright")
    assert told.why == f"not made here, but for what is entered of it: {saved.name}"
    assert not told.plates_at
    assert not told.can
    before = next(one for one in not_made_out(work(design)) if one.body == "upright")
    assert [at.point for at in before.plates_at] == ["tie_outer"]
    assert {one.name for one in members_of(design)} >= {"upright"}  # no moving member more or less for it


def test_what_does_not_go_together_is_said() -> None:
    design, plate = steering_arm()
    job = work(with_part(design, plate))
    for body, point in (("upright", "lower_outer"), ("lower_arm", "lower_outer"), ("upright", "tie_outer")):
        with pytest.raises(InputError):
            plate_on_carrier(job, plate.end_id, body, point, OTHER)
    cases: list[tuple[dict[str, Any], str]] = [
        ({"root": (0.0, 0.0, 0.0)}, "root"), ({"root": (-20.0, 0.0, 0.0)}, "root"), ({"point": "nowhere"}, "point"),
    ]  # fmt: skip
    for change, field in cases:
        one = plate.model_copy(update=change)
        assert [fault.field for fault in part_of(one, with_part(design, one)).faults] == [field]
    whole = plate.model_dump()
    wrong: list[tuple[dict[str, Any], str]] = [
        ({"normal": (0, 0, 0)}, "normal"), ({"pin_mm": 80.0}, "head_mm"), ({"bolt_mm": 90.0}, "root_width_mm"), ({"apart_mm": 20.0}, "apart_mm"),
    ]  # fmt: skip
    for change, field in wrong:
        with pytest.raises(ValueError, match=field):
            CarrierPlate.model_validate({**whole, **change})
    # a joint that holds against turning needs two points, one a plate
    made = judged(design, plate).own
    acting = made.seen.cases[0].acting
    turned = [act if act.place != plate.point else type(act)(act.place, act.what, act.at, act.force, np.array([1e5, 0, 0])) for act in acting]  # fmt: skip
    case = type(made.seen.cases[0])(case="c", where="", copy="", acting=tuple(turned))
    assert passes_a_moment(plate, made.shape, in_its_plane(plate, made.shape, [case])) == "c"
    assert passes_a_moment(plate, made.shape, made.cases) is None
