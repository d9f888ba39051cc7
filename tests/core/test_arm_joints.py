"""What is made at a welded arm's joints: its bolt, its sleeve or tabs, by hand; what stands in a rocker's eye goes through it.

Sources: EN 1993-1-8 Table 3.4 (0.6 of the ultimate in shear, from memory), AISC 360 D5 and J7 (from memory), a pin as a beam by hand.
"""

from __future__ import annotations

from math import pi
from typing import Any

import numpy as np
import pytest

from tests.conftest import ROOT
from tests.core.end_jobs import all_parts, job_of
from tests.core.test_feet import armed, with_eyes
from tests.core.test_life import SHELF
from tests.core.test_moving_members import again
from tests.jobs import draw, part_of, with_part, work
from tirante.core.brackets import lug
from tirante.core.document.adopt import adopted, patched
from tirante.core.document.catalogue import Grade
from tirante.core.document.design import Design
from tirante.core.document.parts.arm import Arm, Housing
from tirante.core.document.parts.common import OfEnd
from tirante.core.document.parts.frame_arm import FrameArm, FrameJoint, JointPin
from tirante.core.document.parts.link import Link
from tirante.core.document.parts.rocker import Rocker
from tirante.core.document.settings import DesignFactors
from tirante.core.document.upgrades import load_design
from tirante.core.drawing.sheet import Numbers
from tirante.core.loads.on_body import AtPlace, BodyCase
from tirante.core.parts.arm.frame import places_of
from tirante.core.parts.body import seen_of
from tirante.core.parts.feet import Spot
from tirante.core.parts.frame_arm.at_joints import at_joints, eye_of, joint_checks, joint_faults
from tirante.core.parts.part import TurnedPiece
from tirante.core.parts.registry import kind_of
from tirante.core.parts.welded.housing import Metal

METAL = Metal(yield_mpa=240.0, uts_mpa=400.0)
NONE = DesignFactors()


def loaded(**forces: tuple[float, float, float]) -> list[Any]:
    acting = tuple(AtPlace(name, "case", np.zeros(3), np.array(force), np.zeros(3)) for name, force in forces.items())
    return at_joints([BodyCase(case="hit", where="at ride height", copy="", acting=acting)])


def by_key(joint: FrameJoint, cases: list[Any]) -> dict[str, Any]:
    return {one.key.split(":")[0]: one for one in joint_checks(joint, cases, METAL, NONE)}


def test_a_sleeve_and_its_bolt_by_hand() -> None:
    pin = JointPin(bolt_mm=14.0, bolt_class="10.9", between_mm=50.0, plate_mm=6.0, wall_mm=5.0)
    joint = FrameJoint(point="front", made="bush sleeve", face_mm=22.0, pin=pin)
    force = (3000.0**2 + 4000.0**2 + 12000.0**2) ** 0.5  # 13 kN
    found = by_key(joint, loaded(front=(3000.0, 4000.0, 12000.0), rear=(90e3, 0.0, 0.0)))
    factor = NONE.bolt
    assert found["eye_pin"].demand == pytest.approx(force * factor)
    assert found["eye_pin"].capacity == pytest.approx(2 * 0.6 * 1000.0 * pi * 14.0**2 / 4)
    # a beam from plate's middle to plate's middle, the sleeve's push spread over its width: M = F/2 (t/2 + w/4)
    moment = force * factor / 2 * (6.0 / 2 + 50.0 / 4)
    assert found["eye_pin_bent"].demand == pytest.approx(32 * moment / (pi * 14.0**3), rel=1e-9)
    assert found["eye_pin_bent"].capacity == 900.0
    # the sleeve as an eye: 44 outside, 34 through, 2 shorter than the 50 that go in; bearing 1.8 Fy d t
    assert found["eye_bearing"].capacity == pytest.approx(1.8 * 240.0 * 34.0 * 48.0)
    eye = eye_of(joint)
    assert eye
    assert (eye.thickness, eye.width, eye.hole, eye.edge, eye.plates) == (48.0, 44.0, 34.0, 22.0, 1)
    # straight off: what is left beside the hole, both sides, at the ultimate, is the most that D5 lets it have
    assert found["eye_torn"].capacity <= 2 * 5.0 * 48.0 * 400.0 + 1e-6
    assert found["eye_torn"].demand == pytest.approx(force * NONE.tab_rupture)


def test_tabs_are_two_plates() -> None:
    pin = JointPin(bolt_mm=12.0, between_mm=16.0, plate_mm=5.0, head_mm=20.0)
    one = by_key(FrameJoint(point="p", made="pair of tabs", pin=pin), loaded(p=(0.0, 0.0, 8000.0)))
    assert one["eye_bearing"].capacity == pytest.approx(2 * 1.8 * 240.0 * 12.0 * 5.0)
    thick = pin.model_copy(update={"plate_mm": 10.0})
    two = by_key(FrameJoint(point="p", made="pair of tabs", pin=thick), loaded(p=(0.0, 0.0, 8000.0)))
    assert two["eye_bearing"].capacity == pytest.approx(2 * one["eye_bearing"].capacity)
    assert two["eye_torn"].capacity > 1.5 * one["eye_torn"].capacity


def test_what_is_not_given_is_named_and_judged_by_nothing() -> None:
    design, arm = armed(job_of("trailing-arm"), FrameArm, "arm")
    bare = arm.model_copy(update={"joints": tuple(j.model_copy(update={"pin": None}) for j in arm.joints)})
    told = part_of(bare, with_part(design, bare)).not_checked
    for joint in bare.joints:
        words = joint.point.replace("_", " ")
        assert any(words in one for one in told), (joint, told)
    assert any("hub flange at wheel centre" in one for one in told)
    judged = part_of(arm, design)
    sleeves = [j.point for j in arm.joints if j.pin is not None]
    assert len(sleeves) >= 3
    for point in sleeves:
        assert {f"eye_pin:{point}", f"eye_torn:{point}"} <= {check.key for check in judged.checks}
        assert not any("sizes are not given" in one and point.replace("_", " ") in one for one in judged.not_checked)


def test_sizing_an_arm_sizes_its_bolts_so_that_they_hold() -> None:
    design = job_of("radius-arms")
    arm = next(p for p in all_parts(design) if isinstance(p, FrameArm))
    weak = tuple(j.model_copy(update={"pin": j.pin and j.pin.model_copy(update={"bolt_mm": 6.0})}) for j in arm.joints)
    arm = arm.model_copy(update={"joints": weak})
    design = with_part(design, arm)
    found = kind_of(arm).size(arm, work(design), SHELF, "mass")
    assert found.winner
    (sized,) = found.winner.parts
    whole = patched(design, adopted(design, [sized], SHELF))
    part = part_of(sized, whole)
    at = [check for check in part.checks if check.key.startswith("eye_")]
    assert at
    assert all(check.passed for check in at)
    # the least: one size of bolt down, of the same class and wall, does not hold somewhere
    assert isinstance(sized, FrameArm)
    cases = at_joints(seen_of(sized, sized.body, work(whole)).cases)
    for joint in sized.joints:
        if joint.pin and joint.pin.bolt_class == "8.8" and joint.pin.bolt_mm > 10.0:
            thinner = joint.pin.model_copy(update={"bolt_mm": joint.pin.bolt_mm - 2.0, "bolt_class": "12.9"})
            less = joint.model_copy(update={"pin": thinner})
            bolts = [c for c in joint_checks(less, cases, METAL, NONE) if c.key.startswith("eye_pin")]
            assert not all(check.passed for check in bolts), joint


def rocker_job() -> tuple[Design, Rocker, Link]:
    """A rocker and the rod that pulls at it, with rod ends of half an inch."""
    design = job_of("double-wishbone-pushrod")
    parts = all_parts(design)
    rocker = next(p for p in parts if isinstance(p, Rocker))
    rod = next(p for p in parts if isinstance(p, Link) and p.name.endswith("push rod"))
    row = next(one for one in SHELF.joints if abs(one.bore_mm - 12.7) < 0.01)
    ends = {name: getattr(rod, name).model_copy(update={"joint": row.key}) for name in ("end_a", "end_b")}
    rod = rod.model_copy(update=ends)
    return patched(with_part(design, rocker, rod), adopted(design, [rod, rocker], SHELF)), rocker, rod


def test_a_rockers_bolt_goes_through_the_rod_end_that_stands_there_or_it_is_said() -> None:
    design, rocker, rod = rocker_job()
    eye = work(design).eye_at(Spot(design.ends[0].id, "rocker", "push_high"))
    assert eye
    assert eye.bore_mm == pytest.approx(12.7)
    i = next(i for i, one in enumerate(rocker.eyes) if one.point == "push_high")
    faults = {one.field: one.message for one in part_of(rocker, design).faults}
    assert "is 12 mm, and what stands there has a bore of 12.7 mm" in faults[f"eyes.{i}.pin_mm"]
    wide = rocker.model_copy(update={"eyes": tuple(one.model_copy(update={"between_mm": 30.0}) for one in rocker.eyes)})
    told = {one.field: one.message for one in part_of(wide, with_part(design, wide)).faults}
    assert f"it is {eye.ball_width_mm:g} mm wide" in told[f"eyes.{i}.between_mm"]
    found = kind_of(rocker).size(rocker, work(design), SHELF, "mass")
    best = found.winner or found.nearest
    assert best
    (sized,) = best.parts
    assert isinstance(sized, Rocker)
    assert sized.eyes[i].pin_mm == pytest.approx(12.7)
    assert sized.eyes[i].between_mm == pytest.approx(eye.ball_width_mm)
    assert part_of(sized, with_part(design, sized)).faults == ()
    # another rod end in the rod: the rocker is judged anew
    other = next(one for one in SHELF.joints if one.bore_mm > 15.0)
    changed = rod.model_copy(
        update={
            "end_a": rod.end_a.model_copy(update={"joint": other.key}),
            "end_b": rod.end_b.model_copy(update={"joint": other.key}),
        }
    )
    again = patched(with_part(design, sized, changed), adopted(design, [changed, sized], SHELF))
    assert part_of(sized, again).faults


def test_the_eye_of_a_damper_is_found_where_it_stands() -> None:
    design = with_eyes("double-wishbone-pushrod")
    damper = design.ends[0].end.damper
    assert damper
    eye = work(design).eye_at(Spot(design.ends[0].id, damper.b.body, damper.b.point))
    assert eye == damper.eye_b
    assert work(design).eye_at(Spot(design.ends[0].id, "lower_arm", "nowhere")) is None


def test_forces_at_one_place_are_summed_and_the_weakest_way_counts() -> None:
    acting = tuple(
        AtPlace("p", what, np.zeros(3), np.array(f), np.zeros(3))
        for what, f in (("a", (5e3, 0.0, 0.0)), ("b", (0.0, 0.0, 12e3)))
    )
    (case,) = at_joints([BodyCase(case="hit", where="", copy="", acting=acting)])
    assert case.forces["p"] == pytest.approx(13e3)
    pin = JointPin(bolt_mm=12.0, between_mm=16.0, plate_mm=5.0, head_mm=20.0)
    joint = FrameJoint(point="p", made="pair of tabs", pin=pin)
    torn = by_key(joint, [case])["eye_torn"].capacity
    eye = eye_of(joint)
    assert eye
    ways = [lug.slanted(eye, METAL.yield_mpa, METAL.uts_mpa).at(angle) for angle in (0.0, 45.0, 90.0)]
    assert torn == pytest.approx(min(ways))
    assert torn < ways[0]


def test_each_end_of_a_rod_is_found_at_its_own_place() -> None:
    design, _, rod = rocker_job()
    other = next(one for one in SHELF.joints if one.bore_mm > 15.0)
    between = rod.between
    assert isinstance(between, OfEnd)
    changed = rod.model_copy(update={"end_b": rod.end_b.model_copy(update={"joint": other.key})})
    job = work(patched(with_part(design, changed), adopted(design, [changed], SHELF)))
    bodies = {"push_low": "lower_arm", "push_high": "rocker"}
    found = {point: job.eye_at(Spot(design.ends[0].id, bodies[point], point)) for point in (between.a, between.b)}
    assert found[between.a].bore_mm == pytest.approx(12.7)  # type: ignore[union-attr]
    assert found[between.b].bore_mm == other.bore_mm  # type: ignore[union-attr]


def test_tabs_that_do_not_fit_what_they_hold_say_so_at_their_fields() -> None:
    eye = with_eyes("double-wishbone").ends[0].end.damper
    assert eye
    held = eye.eye_a  # a bore of 12 in a sleeve 20 wide
    assert held
    good = JointPin(bolt_mm=12.0, between_mm=20.0, plate_mm=5.0, head_mm=20.0)

    def fields(**change: float) -> list[str]:
        joint = FrameJoint(point="p", made="pair of tabs", pin=good.model_copy(update=change))
        return [fault.field for fault in joint_faults(joint, 3, held)]

    assert fields() == []
    assert fields(bolt_mm=14.0) == ["joints.3.pin.bolt_mm"]
    assert fields(between_mm=24.0) == ["joints.3.pin.between_mm"]
    assert fields(head_mm=6.0) == ["joints.3.pin.head_mm"]
    sleeve = FrameJoint(point="p", made="bush sleeve", face_mm=22.0, pin=good.model_copy(update={"wall_mm": 22.0}))
    assert [fault.field for fault in joint_faults(sleeve, 0, None)] == ["joints.0.pin.wall_mm"]


@pytest.mark.parametrize(
    ("job", "name"), [("marram", "Front lower arm"), ("dunlin", "Front lower arm"), ("marram", "Front upper arm")]
)
def test_a_wishbone_s_sleeves_and_cup_are_turned_and_judged_under_the_whole_of_what_goes_in(
    job: str, name: str
) -> None:
    """Forces as the arm's own body has them, place by place, with no frame; net section and bearing by hand."""
    design = load_design((ROOT / f"data/demo/{job}.json").read_bytes())
    arm = next(part for part in design.parts if part.name == name)
    assert isinstance(arm, Arm)
    assert arm.outer_housing
    worked = work(design)
    part = worked.part(arm.id)
    assert part
    checks = {one.key: one for one in part.checks}
    own = places_of(worked.template(arm.end_id), arm.body)
    assert own
    seen = at_joints(seen_of(arm, arm.body, worked).cases)
    grade = worked.catalogue.find("grades", arm.grade or "")
    assert isinstance(grade, Grade)
    factor = worked.settings.factors.tab_rupture
    rings = {"outer": ((own.outer_point,), 2 * arm.outer_face_mm, arm.outer_housing.wall_mm, arm.outer_housing.long_mm)}
    if arm.pivots != "rod ends":
        assert arm.pivot_wall_mm
        assert arm.pivot_eye
        rings["pivots"] = own.pivots, 2 * arm.pivot_face_mm, arm.pivot_wall_mm, arm.pivot_eye.housing_width_mm
    turned = {one.name: one for one in part.pieces if isinstance(one, TurnedPiece) and one.turned}
    assert len(turned) == len(rings)
    for key, (points, outside, wall, long) in rings.items():
        force = max(one.forces.get(point, 0.0) for one in seen for point in points)
        bore = outside - 2 * wall
        bearing, torn = checks[f"eye_bearing:{key}"], checks[f"eye_torn:{key}"]
        # how two pivots share depends on what the arm gives between them: its frame has that, the rigid body not
        assert bearing.demand == torn.demand == pytest.approx(factor * force, rel=1e-6 if key == "outer" else 0.05)
        if key == "pivots":
            of_frame = max(float(np.hypot(*one.at_pivot[0, i])) for one in part.own.result.frames for i in (0, 1))
            assert bearing.demand == pytest.approx(factor * of_frame)
        assert bearing.capacity == pytest.approx(1.8 * grade.welded_yield_mpa * bore * long)
        assert torn.capacity <= 2 * wall * long * grade.uts_at_weld + 1e-6
        again(bearing)
        again(torn)
        piece = turned["outer" if key == "outer" else "pivot"]
        of = piece.turned
        assert of
        assert (of.outside, of.bore, of.rough, of.length, piece.count) == (outside, bore, bore - 1.0, long, len(points))
        sheet = draw(arm, design, f"turned-{piece.name}", Numbers())
        assert any(f"{long:.1f}" in getattr(item, "text", "") for item in sheet.items)
    assert not any("cup at its outer joint" in one or "sleeves at its pivots" in one for one in part.not_checked)
    bare = arm.model_copy(update={"pivot_wall_mm": None, "outer_housing": None})
    told = part_of(bare, with_part(design, bare)).not_checked
    assert any("cup at its outer joint" in one for one in told)
    assert any("sleeves at its pivots" in one for one in told) is (arm.pivots != "rod ends")
    solid = arm.model_copy(update={"outer_housing": Housing(wall_mm=30.0, long_mm=40.0)})
    (fault,) = part_of(solid, with_part(design, solid)).faults
    assert fault.field == "outer_housing.wall_mm"


def test_inserts_that_are_welded_with_no_leg_are_no_life_to_work_out() -> None:
    design = load_design((ROOT / "data/demo/marram.json").read_bytes())
    arm = next(part for part in design.parts if part.name == "Front upper arm")
    assert isinstance(arm, Arm)
    bare = arm.model_copy(update={"welding": arm.welding.model_copy(update={"leg_mm": 0.0})})
    part = part_of(bare, with_part(design, bare))
    assert any("no leg" in one.why for one in part.not_carried)
    assert not any("no leg" in one.why for one in part_of(arm, design).not_carried)
