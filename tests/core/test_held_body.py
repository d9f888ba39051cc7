"""Where welded arms and rockers are held: the force in the joint by the balance of all else that acts, the bolt by the end's own points."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from tests.core.test_loads import demo
from tests.core.test_mounts import IDS, SHOP
from tests.jobs import bare, with_part, work
from tirante.core.document.adopt import patched
from tirante.core.document.design import Design
from tirante.core.document.end import DamperEye
from tirante.core.document.joints import HeldJoint
from tirante.core.document.mounts import BoxMember, Mount
from tirante.core.document.parts.frame_arm import FrameArm
from tirante.core.document.parts.rocker import Rocker
from tirante.core.job.evaluate import evaluate
from tirante.core.job.places import places_of
from tirante.core.job.propose import propose
from tirante.core.job.room.room import room_of
from tirante.core.parts.body import seen_of
from tirante.core.parts.held_body import BodyKind
from tirante.core.parts.registry import kind_of

CLAMPED = DamperEye(bore_mm=16.0, ball_width_mm=54.0, housing_width_mm=50.0, head_diameter_mm=40.0)
ID = "00000000-0000-4000-8000-0000000000aa"


def of_kind(design: Design, kind: type, name: str = "") -> Any:
    return next(part for part in design.parts if isinstance(part, kind) and name in part.name)


def pivoted(design: Design) -> Design:
    return with_part(design, of_kind(design, Rocker).model_copy(update={"pivot_eye": CLAMPED}))


@pytest.mark.parametrize(
    ("job", "kind", "name", "at", "line"),
    [
        ("dunlin", Rocker, "", "turns", (1.0, 0.0, 0.0)),
        ("plover", FrameArm, "Front radius", "arm_chassis", (0.0, 1.0, 0.0)),
        ("plover", FrameArm, "Front radius", "arm_rear_bolt", (0.0, 1.0, 0.0)),
        ("plover", FrameArm, "Rear", "arm_front", None),
    ],
)
def test_a_held_joint_sees_what_balances_all_else_on_its_body(
    job: str, kind: type, name: str, at: str, line: Any
) -> None:
    """Never from the joint's own figures: its force and moment are what all the others leave, brought to its place."""
    design = demo(job)
    design = pivoted(design) if kind is Rocker else design
    saved, worked = of_kind(design, kind, name), work(design)
    own = kind_of(saved)
    assert isinstance(own, BodyKind)
    held = own.held_end(saved, at, worked)
    where = worked.at_of(HeldJoint(id=ID, held=own.held_at(saved, at)))
    assert held
    assert where is not None
    assert where.bolt is not None
    if isinstance(saved, FrameArm):
        made = next(one for one in saved.joints if one.point == at)
        pin = made.pin
        assert pin
        assert (held.row.bore_mm, held.row.ball_width_mm, held.row.head_diameter_mm, held.row.housing_width_mm) == (
            pin.bolt_mm, pin.between_mm, 2 * made.face_mm, pin.between_mm - pin.shorter_mm,
        )  # fmt: skip
    assert where.hinged == (kind is Rocker)  # a bush and a ball let it tilt
    if line:
        assert where.bolt == pytest.approx(line)
    point = own.point_of(saved, at, worked)
    place = np.array(worked.ends[saved.end_id].points[point])
    assert where.at == pytest.approx(place)
    expected = []
    for case in seen_of(saved, saved.body, worked).cases:
        others = [act for act in case.acting if act.place != point]
        force = -sum((act.force for act in others), np.zeros(3))
        moment = -sum((act.moment + np.cross(act.at - place, act.force) for act in others), np.zeros(3))
        side = abs(float(force @ where.bolt))
        over = float(np.linalg.norm(np.cross(moment, where.bolt)))  # what turns it over, square to the bolt
        pull = float(np.sqrt(force @ force - side**2)) + 2 * over / held.row.ball_width_mm
        expected.append((pull, side))
    assert held.cases
    most = max(expected)
    assert max(one.axial_n for one in held.cases) == pytest.approx(most[0], rel=1e-6)
    assert max(one.side_n for one in held.cases) == pytest.approx(max(side for _, side in expected), rel=1e-6)
    assert most[0] > 1000.0  # and it is no trifle


def test_what_a_rocker_an_arm_or_a_bar_holds_itself_asks_for_no_bracket() -> None:
    design = bare(demo("dunlin"))
    places = {(place.of, place.name): place for place in places_of(work(design))}
    rod = places["Front push rod", "end B"]
    assert rod.settled
    assert "Front rocker" in rod.elsewhere
    assert "Front anti-roll bar" in places["Front drop link", "end A"].elsewhere
    assert "rack" in places["Front tie rod", "end A"].elsewhere
    assert not places["Front tie rod", "end B"].settled  # the upright's side is nobody's yet
    bar = places["Front anti-roll bar", "its bearings"]
    assert not bar.settled
    assert (bar.family, bar.missing) == ("bearing_pad", None)
    own = {(p.of, p.name): p for p in places_of(work(bare(demo("plover"))))}
    assert "Rear arm" in own["Rear lower lateral link", "end B"].elsewhere
    assert "steering box" in own["Front drag link", "end A"].elsewhere  # it is driven by an arm that turns, and no rack
    # taken away, what it held asks again
    without = design.model_copy(update={"parts": tuple(p for p in design.parts if not isinstance(p, Rocker))})
    again = {(place.of, place.name): place for place in places_of(work(without))}
    assert not again["Front push rod", "end B"].settled


def test_a_station_is_not_full_while_a_bush_is_held_by_nothing() -> None:
    places = places_of(work(bare(demo("plover"))))
    free = [place for place in places if not place.settled]
    assert {place.of for place in free} >= {"Front radius arm", "Rear arm"}
    assert evaluate(work(bare(demo("plover")))).marks["brackets"] != "good"


def test_a_welded_arm_s_bush_is_proposed_a_bracket_that_stands_and_has_room() -> None:
    """Plover's trailing arm on a rail across the car, ahead of its cup."""
    design = bare(demo("plover"))
    arm = of_kind(design, FrameArm, "Rear")
    sized = tuple(
        joint.model_copy(update={"pin": joint.pin.model_copy(update={"bolt_mm": 14.0})}) if joint.point == "arm_front" else joint
        for joint in arm.joints
    )  # fmt: skip
    rail = Mount(
        id=IDS[190], name="Cross member", end_id=None, body="ground", both_sides=True,
        shape=BoxMember(a=(-1880.0, 0.0, 300.0), b=(-1880.0, 800.0, 300.0), up=(0.0, 0.0, 1.0), width_mm=60.0, height_mm=80.0, wall_mm=4.0),
    )  # fmt: skip
    design = with_part(design, arm.model_copy(update={"joints": sized})).model_copy(update={"mounts": (rail,)})
    found = propose(work(design), SHOP, IDS, (arm.id,))
    made = next(one for one in found.every if one.place.name == "arm front")
    assert made.part is not None, made.told
    assert made.part.kind == "tab_pair"
    job = work(patched(design, found.patch))
    part = job.part(made.part.id)
    assert part is not None
    assert not part.faults
    (held,) = part.own.joints
    assert held.bolt.diameter_mm == pytest.approx(14.0, abs=0.2)
    assert held.gap >= 24.0
    (stand,) = part.own.stands
    assert stand.at.at == pytest.approx(design.ends[1].end.points["arm_front"])
    assert {check.case for check in part.checks if check.case}  # judged under the load cases
    lines = [line for one in room_of(job, made.part.id).joints for line in one.lines]
    swung = [line for line in lines if line.sort == "swing"]
    assert swung
    assert not [line for line in swung if line.state == "stop"], [line.told for line in swung]
