"""A hub flange: its bolts as a group at any angle, its ring summed round, its plate by a yield line, in the job under the wheel's own load."""

from __future__ import annotations

from math import hypot, pi
from typing import Any

import numpy as np
import pytest
from shapely.geometry import Point

from tests.core.end_jobs import all_parts, job_of
from tests.core.test_life import SHELF
from tests.core.test_moving_members import again, sized
from tests.jobs import part_of, with_part, work
from tirante.core.brackets.bolt import bolt_class
from tirante.core.brackets.hub_flange import HubFlange, OnFlange, bolt_forces, bolt_use, ring_throat
from tirante.core.document.adopt import adopted, patched
from tirante.core.document.design import Design
from tirante.core.document.parts.frame_arm import Flange, FrameArm, FrameJoint
from tirante.core.errors import InputError
from tirante.core.loads.on_body import AtPlace, BodyCase
from tirante.core.members.fatigue import STEEL, life
from tirante.core.parts.body import seen_of
from tirante.core.parts.frame_arm.flange import look_at_flange, on_flange, sized_flange
from tirante.core.parts.part import BoughtPiece, PlatePiece
from tirante.core.parts.welded.life import Weakest

SIZES: dict[str, Any] = {"bolts": 5, "circle": 112.0, "bolt": 14.0, "outside": 150.0, "thickness": 14.0, "ring": 70.0, "leg": 6.0}  # fmt: skip
ACTING = OnFlange(across=9000.0, axial=-4000.0, spin=500_000.0, tip=1_200_000.0)


def test_the_worst_bolt_of_an_elastic_group_wherever_it_stands() -> None:
    """Every bolt by V/n + T × r/Σr² and N/n + M y/Σy² (Shigley 8-12, from memory), the circle turned through a whole pitch."""
    flange = HubFlange(**SIZES)
    shears, pulls = [], []
    for turn in np.linspace(0, 2 * pi / 5, 721):
        angle = turn + 2 * pi * np.arange(5) / 5
        at = 56.0 * np.stack([np.cos(angle), np.sin(angle)], axis=1)
        turned = 500_000 * np.stack([-at[:, 1], at[:, 0]], axis=1) / (at**2).sum()
        shears.append(np.linalg.norm(turned + np.array([9000 / 5, 0.0]), axis=1).max())
        pulls.append((4000 / 5 + 1_200_000 * at[:, 1] / (at[:, 1] ** 2).sum()).max())
    shear, pull = bolt_forces(flange, ACTING)
    assert shear == pytest.approx(max(shears), rel=1e-4)
    assert pull == pytest.approx(max(pulls), rel=1e-4)
    area = pi * 49
    use = shear / (0.6 * 1000 * area) + pull / (1.4 * 0.9 * 1000 * 0.78 * area)
    assert bolt_use(flange, bolt_class("10.9", 14.0), ACTING) == pytest.approx(use)
    only = OnFlange(across=0.0, axial=0.0, spin=0.0, tip=2e6)
    assert bolt_use(flange, bolt_class("8.8", 14.0), only) == pytest.approx(2 * 2e6 / (5 * 56) / (0.9 * 800 * 0.78 * area))  # fmt: skip


def test_its_ring_is_summed_round_and_its_plate_bends_on_a_yield_line() -> None:
    flange = HubFlange(**SIZES)
    angle = np.arange(7200) * 2 * pi / 7200
    piece, height = pi * 70.0 / 7200, 35.0 * np.sin(angle)
    square = 4000 / (pi * 70) + 1_200_000 * height / np.sum(height**2 * piece)
    along = 9000 / (pi * 70) + 500_000 * 35.0 / np.sum(35.0**2 * np.full(7200, piece))
    assert ring_throat(flange, ACTING) == pytest.approx(hypot(square.max(), along) / (6.0 / 2**0.5), rel=1e-3)
    # EN 1993-1-8 Table 6.4: m from bolt to weld less 0.8 a √2 of a leg's throat (0.8 leg), e to the edge; each of the three widths in turn
    m, e = 21.0 - 4.8, 19.0
    assert flange.lever == pytest.approx(m)
    assert flange.bent_width == pytest.approx(min(2 * pi * m, 4 * m + 1.25 * e, pi * 112 / 5)) == pytest.approx(pi * 112 / 5)  # fmt: skip
    wide = HubFlange(**{**SIZES, "bolts": 3, "circle": 160.0, "ring": 130.0, "outside": 260.0})
    assert wide.bent_width == pytest.approx(2 * pi * (15 - 4.8))
    assert wide.one_bolt_bends(355.0) == pytest.approx(2 * pi * 14.0**2 / 4 * 355)
    edged = HubFlange(**{**SIZES, "bolts": 3, "circle": 112.0, "outside": 130.0})
    assert edged.bent_width == pytest.approx(4 * m + 1.25 * 9.0)
    for wrong in ({"bolts": 2}, {"circle": 80.0}, {"outside": 120.0}):
        with pytest.raises(InputError):
            HubFlange(**{**SIZES, **wrong})


def test_the_wheel_s_force_is_brought_to_the_flange_s_back() -> None:
    """10 kN up at the wheel's centre tips a flange 45 mm inboard of it by 450 N·m; a side force at the ground by its own lever."""
    joint = FrameJoint(point="wheel_centre", made="hub flange", face_mm=45.0, flange=Flange())

    def case(force: Any, moment: Any) -> BodyCase:
        act = AtPlace("wheel_centre", "contact", np.zeros(3), np.array(force, float), np.array(moment, float))
        other = AtPlace("arm_inner", "bush", np.zeros(3), np.array([7e5, 7e5, 7e5]), np.zeros(3))
        return BodyCase(case="c", where="", copy="", acting=(act, other))

    up, side = on_flange(joint, [case([0, 0, 1e4], [0, 0, 0]), case([0, -6000, 0], [-6000 * 300, 0, 0])])
    assert up.times(2.0) == OnFlange(across=pytest.approx(2e4), axial=0.0, spin=pytest.approx(0.0), tip=pytest.approx(2 * 4.5e5))  # type: ignore[arg-type] # fmt: skip
    assert side.times(1.0) == OnFlange(across=pytest.approx(0.0), axial=pytest.approx(-6000.0), spin=0.0, tip=pytest.approx(1.8e6))  # type: ignore[arg-type] # fmt: skip
    (braked,) = on_flange(joint, [case([-5000, 0, 0], [0, 1.5e6, 0])])
    assert braked.times(1.0).spin == pytest.approx(1.5e6)
    # the plate lasts by the range, no sum: pull 2 M/(n r) each way
    weakest = Weakest(STEEL, demo_settings(), 1e5)
    look_at_flange(joint, [case([0, 0, 1e4], [0, 0, 0]), case([0, 0, 4e3], [0, 0, 0])], weakest)
    (found,) = weakest.results()
    pull = 2 * 6000 * 45 / (4 * 55)
    flange = HubFlange(bolts=4, circle=110, bolt=12, outside=150, thickness=12, ring=70, leg=6)
    # a fillet as stout as the plate outlasts it: the plate's toe is told
    stout = joint.model_copy(update={"flange": Flange(plate_mm=6.0, leg_mm=6.0)})
    thin = HubFlange(bolts=4, circle=110, bolt=12, outside=150, thickness=6, ring=70, leg=6)
    toe = Weakest(STEEL, demo_settings(), 1e5)
    look_at_flange(stout, [case([0, 0, 1e4], [0, 0, 0]), case([0, 0, 4e3], [0, 0, 0])], toe)
    (told,) = toe.results()
    assert told.reproduce is not None
    assert told.reproduce.input["stress_range_mpa"] == pytest.approx(6 * pull * thin.lever / (thin.bent_width * 36))
    # Size it takes a plate that lasts, where nothing else asks for it
    pair = [case([0, 0, 9e4], [0, 0, 0]), case([0, 0, -9e4], [0, 0, 0])]
    assert sized_flange(joint, [], (), 355.0, demo_settings(), 1e7).flange.plate_mm == 8.0  # type: ignore[union-attr]
    assert sized_flange(joint, [], pair, 355.0, demo_settings(), 1e5).flange.plate_mm > 10.0  # type: ignore[union-attr]
    plate = life(6 * pull * flange.lever / (flange.bent_width * 144), 71.0, demo_settings().everyday)
    root = life(hypot(6000 * 45 * 4 / (pi * 4900), 6000 / (pi * 70)) / (6 / 2**0.5), 36.0, demo_settings().everyday)
    assert found.capacity == pytest.approx(min(plate, root), rel=1e-2)


def demo_settings() -> Any:
    return job_of("trailing-arm").settings


def hubbed(**more: Any) -> tuple[Design, FrameArm]:
    design = job_of("trailing-arm")
    # the heavy demo car on a bare arm of three tubes: none lasts what its own use wants
    design = design.model_copy(update={"settings": design.settings.model_copy(update={"life_cycles": 1000.0})})
    arm = next(part for part in all_parts(design) if isinstance(part, FrameArm))
    joints = tuple(one.model_copy(update={"flange": Flange(**more)}) if one.made == "hub flange" else one for one in arm.joints)  # fmt: skip
    assert joints != arm.joints
    return design, arm.model_copy(update={"joints": joints})


def test_a_hub_flange_is_judged_sized_cut_and_told() -> None:
    design, arm = hubbed()
    without = arm.model_copy(update={"joints": tuple(one.model_copy(update={"flange": None}) for one in arm.joints)})
    change = {"tube": "tube-2.5x0.250", "grade": "dom-1026"}
    bare = without.model_copy(update=change)
    told = part_of(bare, patched(with_part(design, bare), adopted(design, [bare], SHELF))).not_checked
    assert any("hub flange" in one and "not given" in one for one in told)
    part, whole = sized(arm, design)
    checks = {check.key.split(":")[0]: check for check in part.checks}
    for key in ("flange_bolts", "flange_plate", "flange_weld"):
        assert checks[key].passed
        again(checks[key])
    assert not any("not given" in one and "hub flange" in one for one in part.not_checked)
    saved = part.saved
    assert isinstance(saved, FrameArm)
    joint = next(one for one in saved.joints if one.flange)
    flange = joint.flange
    assert flange is not None
    # the heaviest case by hand: the wheel's force on this arm, at its centre, brought to the flange
    seen = seen_of(saved, saved.body, work(whole))
    tips = []
    for case in seen.cases:
        own = [act for act in case.acting if act.place == joint.point]
        force = sum((act.force for act in own), np.zeros(3))
        moment = sum((act.moment for act in own), np.zeros(3))
        tips.append((hypot(moment[0] + joint.face_mm * force[2], moment[2] - joint.face_mm * force[0]), abs(force[1])))
    factor = checks["flange_plate"].factor
    pulls = [factor * (axial / flange.bolts + 4 * tip / (flange.bolts * flange.circle_mm)) for tip, axial in tips]
    assert checks["flange_plate"].demand == pytest.approx(max(pulls), rel=1e-9)
    plate = next(one for one in part.pieces if isinstance(one, PlatePiece) and "hub flange" in one.name)
    disc = Point(0, 0).buffer(flange.outside_mm / 2, quad_segs=512).area - flange.bolts * pi / 4 * (flange.bolt_mm + 0.2) ** 2  # fmt: skip
    assert plate.outline is not None
    assert plate.outline.area == pytest.approx(disc, rel=1e-4)
    assert any(isinstance(one, BoughtPiece) and one.count == flange.bolts and "hub" in one.what for one in part.pieces)
    assert any(check.part.startswith("flange at") and check.key.split(":")[0] == "life" for check in part.checks)
    # one thinner breaks something, unless it is the thinnest there is
    thinner = joint.model_copy(update={"flange": flange.model_copy(update={"plate_mm": flange.plate_mm / 2})})
    weak = saved.model_copy(update={"joints": tuple(thinner if one is joint else one for one in saved.joints)})
    assert not all(check.passed for check in part_of(weak, with_part(whole, weak)).checks)


def test_a_flange_that_does_not_go_together_is_refused_by_its_field() -> None:
    design, arm = hubbed(circle_mm=75.0)
    arm = arm.model_copy(update={"tube": "tube-2.5x0.250", "grade": "dom-1026"})
    part = part_of(arm, patched(with_part(design, arm), adopted(design, [arm], SHELF)))
    assert [fault.field for fault in part.faults] == [
        f"joints.{next(i for i, one in enumerate(arm.joints) if one.flange)}.flange.circle_mm"
    ]
