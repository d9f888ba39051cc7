"""What stands on an arm: on which tube and where, its bracket a part that is cut for that tube and reaches to its bolt.

Sources: distances of a point and a line by hand (analytic geometry); nothing of them is used from the code that is tested.
"""

from __future__ import annotations

import uuid
from math import acos, degrees
from typing import Any

import numpy as np
import pytest

from tests.core.end_jobs import SPACE, all_parts, job_of
from tests.core.test_life import SHELF
from tests.jobs import part_of, with_part, work
from tirante.core.document.adopt import adopted, patched
from tirante.core.document.design import Design
from tirante.core.document.end import DamperEye
from tirante.core.document.fields import Length
from tirante.core.document.joints import EndOfLink, HeldJoint, PointOfBody
from tirante.core.document.mounts import BoxMember
from tirante.core.document.parts.arm import Arm
from tirante.core.document.parts.bracket import FlatBase, SaddleBase, TabPair
from tirante.core.document.parts.common import OfEnd
from tirante.core.document.parts.frame_arm import BoxOf, FrameArm, StandsOn
from tirante.core.document.parts.link import Link
from tirante.core.job.places import places_of
from tirante.core.job.propose import propose
from tirante.core.parts.bracket.families.tab_pair import fitted_to, proposed
from tirante.core.parts.bracket.families.tab_sizing import proportioned
from tirante.core.parts.feet import Foot, Spot
from tirante.core.parts.registry import kind_of
from tirante.core.parts.stands import Stand

EYE = DamperEye(bore_mm=12.0, ball_width_mm=20.0, housing_width_mm=16.0, head_diameter_mm=32.0)
TUBE, GRADE = "tube-1.75x0.120", "dom-1026"


def with_eyes(name: str, low: tuple[float, float, float] | None = None) -> Design:
    """A job of an example end whose damper's eyes are known; its lower one moved."""
    design = job_of(name)
    first = design.ends[0]
    damper = first.end.damper
    assert damper
    points = first.end.points | ({damper.b.point: low} if low else {})
    end = first.end.model_copy(
        update={"damper": damper.model_copy(update={"eye_a": EYE, "eye_b": EYE}), "points": points}
    )
    return design.model_copy(update={"ends": (first.model_copy(update={"end": end}), *design.ends[1:])})


def armed(design: Design, kind: type[Any], body: str) -> tuple[Design, Any]:
    """The job with the arm of a body of tube."""
    arm = next(p for p in all_parts(design) if isinstance(p, kind) and p.body == body)
    chosen = arm.model_copy(update={"tube": TUBE, "grade": GRADE})
    return patched(with_part(design, arm), adopted(design, [chosen], SHELF)), chosen


def off_line(p: Any, a: Any, b: Any) -> tuple[float, float]:
    """Along from a, and off the line through a and b."""
    p, a, b = (np.array(one, float) for one in (p, a, b))
    u = (b - a) / np.linalg.norm(b - a)
    along = float((p - a) @ u)
    return along, float(np.linalg.norm(p - a - along * u))


def foot_of(design: Design, arm: Any, point: str) -> Foot:
    return next(one for one in kind_of(arm).feet(arm, work(design)) if one.point == point)


def bracketed(design: Design, held: Any) -> tuple[Design, TabPair]:
    """The job with a pair of tabs proposed for a place, as the page asks for it."""
    job = work(design)
    joint = HeldJoint(id=str(uuid.uuid5(SPACE, "joint")), held=held)
    end = job.held_end(joint)
    assert end
    pair, first = proposed(str(uuid.uuid5(SPACE, "tabs")), "Tabs", "pair", end, joint, SHELF)
    pair = fitted_to(pair, first, job)
    return patched(design, adopted(design, (pair,), SHELF, (first,))), pair


def the_eye(design: Design) -> PointOfBody:
    end = design.ends[0]
    assert end.end.damper
    return PointOfBody(end_id=end.id, body=end.end.damper.b.body, point=end.end.damper.b.point)


LOW = (20.0, 560.0, 262.0)  # over the front tube of the lower arm


def test_where_a_damper_stands_on_an_arm_is_the_nearest_tube_by_hand() -> None:
    design, arm = armed(with_eyes("double-wishbone", LOW), Arm, "lower_arm")
    points = design.ends[0].end.points
    foot = foot_of(design, arm, "damper_low")
    lines = {
        name: off_line(LOW, points[f"lower_{at}"], points["lower_outer"])
        for name, at in (("front tube", "front"), ("rear tube", "rear"))
    }
    near = min(lines, key=lambda name: lines[name][1])
    assert foot.tube == near
    assert (foot.from_end, foot.off) == pytest.approx(lines[near], abs=1e-9)
    od = 44.45
    assert foot.od == pytest.approx(od)
    assert foot.reach == pytest.approx(lines[near][1] - od / 2, abs=1e-9)


def test_a_bracket_of_what_stands_on_an_arm_is_cut_for_its_tube_and_reaches_to_the_bolt() -> None:
    design, arm = armed(with_eyes("double-wishbone", LOW), Arm, "lower_arm")
    bare = part_of(arm, design)
    told = "the bracket of damper low (damper): nothing here yet holds it"
    assert told in bare.not_checked
    assert [piece.name for piece in bare.pieces if piece.name.startswith("bracket")] == ["bracket damper low"]
    whole, pair = bracketed(design, the_eye(design))
    base = pair.base
    assert isinstance(base, SaddleBase)
    foot = foot_of(whole, arm, "damper_low")
    assert base.tube_od.mm == pytest.approx(44.45)
    assert base.wall_mm == pytest.approx(3.048)
    # hole over the tube's crest, and the crest half a diameter over its middle
    assert pair.height.mm + base.tube_od.mm / 2 == pytest.approx(foot.off, abs=0.01)
    # the pull's angle: of the damper, seen along the tube, to the line from the tube to the bolt
    points = whole.ends[0].end.points
    a = np.array(points[f"lower_{'front' if foot.tube == 'front tube' else 'rear'}"], float)
    u = (np.array(points["lower_outer"]) - a) / np.linalg.norm(np.array(points["lower_outer"]) - a)
    low = np.array(LOW)
    out = low - a - ((low - a) @ u) * u
    pull = np.array(points["damper_top"]) - low
    flat = pull - (pull @ u) * u
    angle = degrees(acos(abs(float(flat @ out)) / np.linalg.norm(flat) / np.linalg.norm(out)))
    assert pair.load_angle_deg == pytest.approx(angle, abs=0.06)
    made = part_of(pair, whole)
    assert made.faults == ()
    assert made.checks
    # what leans along the tube is told, and by how much
    lean = 90 - degrees(acos(abs(float(pull @ u)) / np.linalg.norm(pull)))
    assert any(f"leans {lean:.0f}° out of the plates’ plane" in one for one in made.not_checked)
    after = part_of(arm, whole)
    assert told not in after.not_checked
    assert not [piece for piece in after.pieces if piece.name.startswith("bracket")]
    assert work(whole).bracket_at(Spot(whole.ends[0].id, "lower_arm", "damper_low")) is not None


def test_a_bracket_that_no_longer_fits_its_tube_or_its_place_says_so_and_is_fitted() -> None:
    design, arm = armed(with_eyes("double-wishbone", LOW), Arm, "lower_arm")
    whole, pair = bracketed(design, the_eye(design))
    larger = arm.model_copy(update={"tube": "tube-2x0.120"})
    thick = patched(whole, adopted(whole, [larger], SHELF))
    faults = {one.field: one.message for one in part_of(pair, thick).faults}
    assert "cut for 44.5 mm" in faults["base/tube_od"] or "cut for 44.4 mm" in faults["base/tube_od"]
    assert "height" in faults
    joint = thick.held_by(pair.id)[0]
    again = fitted_to(pair, joint, work(thick))
    assert part_of(again, with_part(thick, again)).faults == ()
    # moved away: its reach is another
    first = whole.ends[0]
    moved = first.end.model_copy(update={"points": first.end.points | {"damper_low": (20.0, 560.0, 270.0)}})
    off = whole.model_copy(update={"ends": (first.model_copy(update={"end": moved}), *whole.ends[1:])})
    assert [one.field for one in part_of(pair, off).faults] == ["height"]
    # into the tube: no tab goes round a bolt there
    inside = first.end.model_copy(update={"points": first.end.points | {"damper_low": (58.0, 560.0, 215.0)}})
    sunk = whole.model_copy(update={"ends": (first.model_copy(update={"end": inside}), *whole.ends[1:])})
    assert any("no tab goes round its bolt" in one.message for one in part_of(pair, sunk).faults)


def test_sizing_a_bracket_whose_height_is_given_keeps_it() -> None:
    design, _ = armed(with_eyes("double-wishbone", LOW), Arm, "lower_arm")
    whole, pair = bracketed(design, the_eye(design))
    held = work(whole).held_end(whole.held_by(pair.id)[0])
    assert held
    low = pair.model_copy(update={"height": pair.plate})  # lower than any bolt would have it
    assert proportioned(held.row, SHELF.bolts[0], 12.0, low)["height"] == pair.plate
    free = proportioned(held.row, SHELF.bolts[0], 12.0, low.model_copy(update={"height_fixed": False}))
    assert free["height"].mm > pair.plate.mm


def test_a_drop_link_on_an_arm_stands_there_as_its_end() -> None:
    """The lower end of a push rod on a lower arm: its place is that of the template's joint, whatever end of the link it is."""
    design, arm = armed(job_of("double-wishbone-pushrod"), Arm, "lower_arm")
    links = [p for p in all_parts(design) if isinstance(p, Link) and p.name.endswith("push rod")]
    design = with_part(design, *links)
    job = work(design)
    spots = {
        end: job.spot_of(HeldJoint(id=str(uuid.uuid4()), held=EndOfLink(part=links[0].id, end=end)))
        for end in ("a", "b")
    }  # type: ignore[arg-type]
    bodies = {spot.body for spot in spots.values() if spot}
    assert bodies == {"lower_arm", "rocker"}
    between = links[0].between
    assert isinstance(between, OfEnd)
    assert {spot.body: spot.point for spot in spots.values() if spot} == {
        "lower_arm": "push_low",
        "rocker": "push_high",
    }
    assert {end: spot.point for end, spot in spots.items() if spot} == {"a": between.a, "b": between.b}
    foot = foot_of(design, arm, "push_low")
    places = [place for place in places_of(job) if place.on == arm.id]
    assert [(place.of, place.together) for place in places] == [(links[0].name, False)]
    assert f"{foot.from_end:.1f} mm from its first end" in places[0].where


def test_on_a_welded_arm_the_tube_that_takes_it_and_on_a_box_a_flat() -> None:
    design, arm = armed(with_eyes("trailing-arm-three-links"), FrameArm, "arm")
    foot = foot_of(design, arm, "damper_low")
    points = design.ends[0].end.points
    ends = next((tube.a, tube.b) for tube in arm.tubes if f"{tube.a} to {tube.b}".replace("_", " ") == foot.tube)
    along, off = off_line(points["damper_low"], points[ends[0]], points[ends[1]])
    assert (foot.from_end, foot.off) == pytest.approx((along, off), abs=1e-6)
    tubes = tuple(
        tube.model_copy(update={"box": BoxOf(height_mm=80.0, width_mm=50.0, wall_mm=4.0)}) if (tube.a, tube.b) == ends else tube for tube in arm.tubes
    )  # fmt: skip
    boxed = with_part(design, arm.model_copy(update={"tubes": tubes}))
    whole, pair = bracketed(boxed, the_eye(boxed))
    assert isinstance(pair.base, FlatBase)
    assert pair.base.wall_mm == 4.0
    # the box as it was entered: 80 up in the car, 50 across; its foot on a face, in its axes
    stand = work(whole).stand_of(whole.held_by(pair.id)[0])
    assert isinstance(stand, Stand)
    shape = stand.mount.shape
    assert isinstance(shape, BoxMember)
    run = np.array(shape.b) - np.array(shape.a)
    run /= np.linalg.norm(run)
    up = np.array(shape.up) - (np.array(shape.up) @ run) * run
    up /= np.linalg.norm(up)
    off = stand.standing.foot - np.array(shape.a)
    over, beside = abs(float(off @ up)), abs(float(off @ np.cross(up, run)))
    assert over == pytest.approx(40.0, abs=1e-6) or beside == pytest.approx(25.0, abs=1e-6)
    assert over <= 40.0 + 1e-6
    assert beside <= 25.0 + 1e-6
    saddled = pair.model_copy(update={"base": SaddleBase(tube_od=pair.plate)})
    assert any(one.field == "base/kind" for one in part_of(saddled, with_part(whole, saddled)).faults)


def test_the_tube_that_is_chosen_takes_it_and_what_is_not_there_is_told() -> None:
    """The damper of a three-link trailing arm, taken by the tube that is not the nearest: its foot is on that, and its load too."""
    design, arm = armed(with_eyes("trailing-arm-three-links"), FrameArm, "arm")
    near = foot_of(design, arm, "damper_low")
    other = next(t for t in arm.tubes if f"{t.a} to {t.b}".replace("_", " ") != near.tube)
    chosen = arm.model_copy(update={"stands": (StandsOn(point="damper_low", a=other.b, b=other.a),)})
    far = foot_of(design, chosen, "damper_low")
    points = design.ends[0].end.points
    a, b = (np.array(points[name], float) for name in (other.a, other.b))
    share = min(1.0, max(0.0, float((np.array(points["damper_low"]) - a) @ (b - a) / ((b - a) @ (b - a)))))
    by_hand = float(np.linalg.norm(np.array(points["damper_low"]) - a - share * (b - a)))
    assert far.tube == f"{other.a} to {other.b}".replace("_", " ")
    assert far.off == pytest.approx(by_hand, rel=0.02)
    assert far.off > near.off
    one, two = (part_of(it, with_part(design, it)) for it in (arm, chosen))
    assert {c.key: c.utilisation for c in one.checks} != {c.key: c.utilisation for c in two.checks}
    gone = arm.model_copy(update={"stands": (StandsOn(point="damper_low", a="wheel_centre", b="nowhere"),)})
    assert "stands.0" in {fault.field for fault in part_of(gone, with_part(design, gone)).faults}


def test_on_an_arm_plates_stand_square_to_a_bolt_that_is_given_and_the_tube_s_wall_is_judged() -> None:
    """A bolt across the car on a tube that runs nearly so: where the plates meet it follows from the two lines, and its wall is the mount's."""
    design, arm = armed(with_eyes("double-wishbone", (-45.0, 590.0, 250.0)), Arm, "lower_arm")
    held = the_eye(design)
    points = design.ends[0].end.points
    u = np.array(points["lower_outer"]) - np.array(points["lower_rear"])
    u /= np.linalg.norm(u)
    bolt = np.array([0.3, 0.95, 0.0]) / np.hypot(0.3, 0.95)
    joint = HeldJoint(id=str(uuid.uuid5(SPACE, "joint")), held=held, bolt_axis=(float(bolt[0]), float(bolt[1]), 0.0))
    job = work(design)
    stand = job.stand_of(joint)
    assert isinstance(stand, Stand)
    assert stand.standing.bolt == pytest.approx(bolt)
    # the foot is on the tube's skin, and square to the bolt from the joint
    foot = stand.standing.foot
    off = foot - np.array(points["lower_rear"])
    assert np.linalg.norm(off - (off @ u) * u) == pytest.approx(44.45 / 2, abs=1e-6)
    assert (foot - stand.at.at) @ bolt == pytest.approx(0.0, abs=1e-9)
    assert stand.standing.angle_deg == pytest.approx(90.0 - degrees(acos(min(1.0, abs(float(u @ bolt))))), abs=2.0)
    end = job.held_end(joint)
    assert end
    pair, first = proposed(str(uuid.uuid5(SPACE, "tabs")), "Tabs", "pair", end, joint, SHELF)
    narrow = fitted_to(pair, first, job).model_copy(
        update={"base_width": Length(mm=34.0), "head_radius": Length(mm=16.0), "edge": Length(mm=18.0)}
    )
    whole = patched(design, adopted(design, (narrow,), SHELF, (first,)))
    part = part_of(narrow, whole)
    assert part.faults == ()
    keys = {check.key for check in part.checks}
    assert {"mount_wall", "mount_shear"} <= keys
    assert not any("the wall of" in one for one in part.not_checked)
    # its strength is the tube's beside a weld: a softer grade is used more
    use = {check.key: check.utilisation for check in part.checks}
    grade = next(row for row in SHELF.grades if row.key == arm.grade)
    soft = grade.model_copy(update={"welded_yield_mpa": grade.welded_yield_mpa / 2})
    rows = whole.catalogue.model_copy(
        update={"grades": tuple(soft if r.key == grade.key else r for r in whole.catalogue.grades)}
    )
    softer = part_of(part.saved, whole.model_copy(update={"catalogue": rows}))
    again = {check.key: check.utilisation for check in softer.checks}
    assert use["mount_wall"]
    assert again["mount_wall"] == pytest.approx(2 * use["mount_wall"], rel=1e-6)


def test_what_is_proposed_on_an_arm_turns_its_bolt_no_further_than_it_must() -> None:
    design, arm = armed(with_eyes("double-wishbone", (-40.0, 600.0, 250.0)), Arm, "lower_arm")
    found = propose(work(design), SHELF, [str(uuid.uuid4()) for _ in range(40)], (design.ends[0].id,))
    made = next(one for one in found.every if "lower eye" in one.place.name)
    assert made.part is not None, made.told
    (joint,) = [one for one in found.patch.joints if one.by == made.part.id]
    assert joint.bolt_axis is not None
    assert "its bolt turned" in made.told
    job = work(patched(design, found.patch))
    stand = job.stand_of(job.held_by(made.part.id)[0])
    assert isinstance(stand, Stand)
    best = work(design).at_of(HeldJoint(id=joint.id, held=joint.held))
    assert best is not None
    assert best.bolt is not None
    off = degrees(acos(abs(float(best.bolt @ stand.standing.bolt))))
    assert f"turned {off:.0f}°" in made.told
    part = job.part(made.part.id)
    assert part is not None
    assert not part.faults
    assert arm.name in stand.mount.name
