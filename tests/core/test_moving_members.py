"""Every moving member of every shipped end as a part: made, carried as a frame of its own, judged, sized; against a general frame library."""

from __future__ import annotations

from itertools import pairwise
from typing import Any

import numpy as np
import pytest
from Pynite import FEModel3D

from tests.core.end_jobs import all_parts, job_of, members_of
from tests.core.test_life import SHELF
from tests.core.test_statics import ENDS
from tests.jobs import draw, part_of, template_of, with_part, work
from tirante.calc import calculate
from tirante.core.document.adopt import adopted, patched
from tirante.core.document.design import Design
from tirante.core.document.parts.frame_arm import FrameArm, FrameNode, FrameTube
from tirante.core.document.parts.saved import SavedPart
from tirante.core.drawing.model import Text
from tirante.core.drawing.sheet import Numbers
from tirante.core.errors import InputError
from tirante.core.job.evaluate import evaluate
from tirante.core.loads.end_loads import UNHELD
from tirante.core.parts.frame_arm.kind import FRAME_ARM, FrameMade
from tirante.core.parts.frame_arm.layout import laid_out, usual_tubes
from tirante.core.parts.part import Part, TubePiece
from tirante.core.parts.registry import kind_of
from tirante.core.suspension.on_body import OnBody, places_on

FRAMES = ["trailing-arm", "drive-shaft-link", "radius-arms", "four-links-slider"]
TUBE, GRADE = "tube-2.5x0.250", "dom-1026"


def the_arm(name: str) -> tuple[Design, FrameArm]:
    design = job_of(name)
    arm = next(part for part in all_parts(design) if isinstance(part, FrameArm))
    return design, arm


def made_of(arm: FrameArm, design: Design, tube: str = TUBE) -> tuple[Part, Design]:
    chosen = arm.model_copy(update={"tube": tube, "grade": GRADE})
    whole = patched(with_part(design, arm), adopted(design, [chosen], SHELF))
    return part_of(chosen, whole), whole


@pytest.mark.parametrize("name", ENDS)
def test_as_many_parts_are_made_as_there_are_members_that_move(name: str) -> None:
    """All that moves and is neither upright, axle nor steering arm; those are named as not made here."""
    design = job_of(name)
    every = members_of(design)
    wanted = [one.name for one in every if one.sort != "carrier"]
    parts = all_parts(design)
    assert sorted(str(part.stands_for) for part in parts) == sorted(wanted)
    assert len({part.id for part in parts}) == len(parts)
    found = evaluate(work(design.model_copy(update={"parts": tuple(parts)})))
    left = {one.name: one.why for one in found.not_made if one.end_id == design.ends[0].id}
    assert set(left) == {one.words for one in every if one.sort == "carrier"}
    assert all(why == "not made here" for why in left.values())
    carried = {"upright", "axle", "knuckle", "steering arm"}
    assert set(left) <= carried


@pytest.mark.parametrize("name", FRAMES)
def test_a_frame_carries_what_a_general_library_says(name: str) -> None:
    """The same nodes, tubes and loads in PyNite, clamped at another node: what acts is in balance, so it does not matter where."""
    design, arm = the_arm(name)
    part, _ = made_of(arm, design)
    made = part.own
    assert isinstance(made, FrameMade)
    assert made.layout
    assert made.result
    assert made.tube
    layout = made.layout
    grade = next(row for row in SHELF.grades if row.key == GRADE)
    for case in (made.result.frames[0], made.result.frames[-1], made.result.frames[len(made.result.frames) // 2]):
        model = FEModel3D()
        e, g = grade.e_mpa, grade.e_mpa / 2.6
        model.add_material("steel", e, g, 0.3, 7.85e-9)
        area = np.pi / 4 * (made.tube.od_mm**2 - (made.tube.od_mm - 2 * made.tube.wall_mm) ** 2)
        second = np.pi / 64 * (made.tube.od_mm**4 - (made.tube.od_mm - 2 * made.tube.wall_mm) ** 4)
        model.add_section("tube", area, second, second, 2 * second)
        for i, at in enumerate(layout.nodes):
            model.add_node(f"n{i}", *at)
        for k, (a, b) in enumerate(layout.ends):
            model.add_member(f"m{k}", f"n{a}", f"n{b}", "steel", "tube")
        model.def_support(f"n{len(layout.nodes) - 1}", *[True] * 6)
        for i, load in enumerate(case.loads):
            for way, value in zip(("FX", "FY", "FZ", "MX", "MY", "MZ"), load, strict=True):
                if value:
                    model.add_node_load(f"n{i}", way, float(value))
        model.analyze_linear()
        size = np.abs(case.loads[:, :3]).max()
        long = max(layout.lengths.values())
        for k, stretch in enumerate(layout.stretches):
            f = model.members[f"m{k}"].f("Combo 1").flatten()
            assert -f[0] == pytest.approx(case.axial[0, k], abs=1e-5 * size), stretch
            bending = max(np.hypot(f[4], f[5]), np.hypot(f[10], f[11]))
            assert bending == pytest.approx(case.moment[0, k], abs=1e-5 * size * long), stretch
            assert abs(f[3]) == pytest.approx(case.torsion[0, k], abs=1e-5 * size * long), stretch
        assert case.residual < 1e-9


@pytest.mark.parametrize("name", FRAMES)
def test_every_case_and_both_copies_are_carried_in_balance(name: str) -> None:
    """What joints, springs and the road put on the arm, brought to its nodes: no force, no moment is left (1e-9 of the largest)."""
    design, arm = the_arm(name)
    part, whole = made_of(arm, design)
    frames = part.own.result.frames
    loads = work(whole).carried(design.ends[0].id).cases
    good = [one for one in loads if one.forces and not one.fault]
    keys = [
        key
        for one in good
        for key in one.forces.on
        if key.removesuffix(", right").removesuffix("_left").removesuffix("_right") == arm.body
    ]  # type: ignore[union-attr]
    assert len(frames) == len(keys) > 20
    for frame in frames:
        force = frame.loads[:, :3].sum(axis=0)
        turn = (np.cross(frame.nodes, frame.loads[:, :3]) + frame.loads[:, 3:]).sum(axis=0)
        size = np.abs(frame.loads[:, :3]).max()
        assert np.abs(force).max() < 1e-9 * size
        assert np.abs(turn).max() < 1e-9 * size * 1000
    if template_of(design.ends[0].end).axle != "beam" or name == "radius-arms":
        assert {frame.case.rpartition(", ")[2] for frame in frames} >= {"right"}


def again(check: Any) -> None:
    """The line beside a figure gives that figure."""
    found: Any = calculate(check.reproduce.topic, check.reproduce.input)
    for step in check.reproduce.output.split("."):
        found = found[int(step)] if isinstance(found, list) else found[step]
    figure = {"demand": check.demand, "capacity": check.capacity, "utilisation": check.utilisation}[
        check.reproduce.figure
    ]
    assert found == pytest.approx(figure, rel=1e-6), check.name


def sized(part: SavedPart, design: Design) -> tuple[Part, Design]:
    whole = with_part(design, part)
    found = kind_of(part).size(part, work(whole), SHELF, "mass")
    assert found.winner, found.advice
    made = patched(whole, adopted(whole, found.winner.parts, SHELF))
    return part_of(found.winner.parts[0], made), made


@pytest.mark.parametrize("name", ["drive-shaft-link", "radius-arms", "four-links-slider"])
def test_what_is_sized_holds_lasts_and_every_figure_comes_out_of_the_command_line(name: str) -> None:
    design, arm = the_arm(name)
    part, whole = sized(arm, design)
    assert part.complete, part.faults
    assert all(check.passed for check in part.checks)
    assert {check.key.split(":")[0] for check in part.checks} >= {"frame_weld", "life"}
    for check in part.checks:
        again(check)
    made = part.own
    # the next smaller tube of the same wall does not hold, or does not last
    tubes = [t for t in SHELF.tubes if t.wall_mm == made.tube.wall_mm and t.od_mm < made.tube.od_mm]
    if tubes:
        smaller = max(tubes, key=lambda t: t.od_mm)
        other, _ = made_of(arm, design, smaller.key)
        assert not all(check.passed for check in other.checks)
    # what is sawn: between centres less what is made at either end
    faces = {joint.point: joint.face_mm for joint in arm.joints}
    pieces = {piece.name: piece for piece in part.pieces if isinstance(piece, TubePiece)}
    assert len(pieces) == len(arm.tubes)
    points = whole.ends[0].end.points
    for tube in arm.tubes:
        long = float(np.linalg.norm(np.subtract(points[tube.a], points[tube.b])))
        piece = pieces[f"{tube.a} to {tube.b}".replace("_", " ")]
        assert piece.length == pytest.approx(long - faces[tube.a] - faces[tube.b])
    drawing = draw(part.saved, whole, "drawing", Numbers())
    told = [item.text for item in drawing.items if isinstance(item, Text)]
    assert all(any(Numbers().main(piece.length) in text for text in told) for piece in pieces.values())


def placed(**at: tuple[float, float, float]) -> list[OnBody]:
    return [OnBody(point=name, at=where, sort="link", what=name) for name, where in at.items()]


def test_usual_tubes_neither_cross_nor_pass_through_a_joint() -> None:
    """Four corners of a square: its sides and one diagonal. Three in a line: one after the other. A tetrahedron: all six edges."""
    square = placed(a=(0, 0, 0), b=(400, 0, 0), c=(400, 300, 0), d=(0, 300, 0))
    found = {frozenset((t.a, t.b)) for t in usual_tubes(square)}
    assert len(found) == 5
    assert {frozenset("ab"), frozenset("bc"), frozenset("cd"), frozenset("da")} < found
    line = placed(a=(0, 0, 0), b=(500, 4, 0), c=(200, 0, 0))
    assert {frozenset((t.a, t.b)) for t in usual_tubes(line)} == {frozenset("ac"), frozenset("cb")}
    assert len(usual_tubes(placed(a=(0, 0, 0), b=(300, 0, 0), c=(0, 300, 0), d=(0, 0, 300)))) == 6


def test_what_stands_off_a_tube_is_brought_to_it_with_its_moment() -> None:
    """A damper's eye 60 mm beside the middle of a tube: its force stands on the tube's line with force × reach; on a tube of its own, without."""
    places = [
        *placed(a=(0, 0, 0), b=(400, 0, 0), c=(0, 300, 0)),
        OnBody(point="eye", at=(200, -60, 0), sort="damper", what="damper"),
    ]
    arm = FrameArm(
        id="00000000-0000-4000-8000-000000000002", name="arm", end_id="00000000-0000-4000-8000-000000000003", body="arm",
        tubes=(FrameTube(a="a", b="b"), FrameTube(a="b", b="c"), FrameTube(a="c", b="a")),
    )  # fmt: skip
    layout = laid_out(arm, places)
    assert not isinstance(layout, list)
    (eye,) = layout.stands
    assert (eye.tube, eye.share, eye.off) == ("a to b", 0.5, 60.0)
    assert layout.nodes[layout.takes["eye"]] == pytest.approx((200, 0, 0))
    assert [name for name in layout.stretches if name.startswith("a to b")] == [
        "a to b, stretch 1",
        "a to b, stretch 2",
    ]
    own = arm.model_copy(update={"tubes": (*arm.tubes, FrameTube(a="eye", b="a"), FrameTube(a="eye", b="b"))})
    other = laid_out(own, places)
    assert not isinstance(other, list)
    assert other.stands == ()
    assert other.nodes[other.takes["eye"]] == pytest.approx((200, -60, 0))
    assert sum(other.lengths.values()) == pytest.approx(400 + 500 + 300 + 2 * np.hypot(200, 60))


def test_a_bracket_s_reach_bends_its_tube_in_the_job() -> None:
    """The trailing arm's damper stands beside its tubes: moved onto the tube's line (by a node there) the tube is bent less."""
    design, arm = the_arm("trailing-arm")
    part, _ = made_of(arm, design)
    stands = [one for one in part.own.layout.stands if one.place == "damper_low"]
    assert stands[0].off > 10
    assert any("on brackets" in note for note in part.notes)
    assert any("bracket of damper low" in str(getattr(piece, "what", "")) for piece in part.pieces)
    end = design.ends[0].end
    a, b = (np.array(end.points[name]) for name in part.own.layout.tubes[stands[0].tube])
    foot = a + stands[0].share * (b - a)
    moved = end.model_copy(update={"points": {**end.points, "damper_low": tuple(float(v) for v in foot)}})
    other, _ = made_of(
        arm, design.model_copy(update={"ends": (design.ends[0].model_copy(update={"end": moved}), *design.ends[1:])})
    )
    assert not [one for one in other.own.layout.stands if one.off > 1.0]
    assert not any("on brackets" in note for note in other.notes)


@pytest.mark.parametrize(
    ("change", "field", "says"),
    [
        ({"tubes": ()}, "tubes", "no tubes yet"),
        ({"tubes": (FrameTube(a="arm_front", b="nowhere"),)}, "tubes.0.b", "no place “nowhere”"),
        ({"tubes": (FrameTube(a="arm_front", b="lower_outer"),)}, "tubes", "No tube goes to upper outer"),
        ({"tubes": (FrameTube(a="arm_front", b="lower_outer"), FrameTube(a="upper_outer", b="wheel_centre"))}, "tubes", "not joined"),
    ],
)  # fmt: skip
def test_what_stands_in_the_way_is_said_at_its_field(change: dict[str, Any], field: str, says: str) -> None:
    design, arm = the_arm("trailing-arm")
    part = part_of(arm.model_copy(update=change), design)
    assert [one for one in part.faults if one.field == field and says in one.message], part.faults
    with pytest.raises(InputError):
        FRAME_ARM.size(arm.model_copy(update=change), work(with_part(design, arm)), SHELF, "mass")


def test_a_node_may_join_tubes_and_left_and_right_that_differ_are_two_parts() -> None:
    design, arm = the_arm("trailing-arm")
    at = (320.0, 600.0, 300.0)
    ends = ("arm_front", "lower_outer", "upper_outer")
    star = arm.model_copy(update={
        "nodes": (FrameNode(name="middle", at=at),),
        "tubes": (*(FrameTube(a="middle", b=end) for end in ends), FrameTube(a="lower_outer", b="wheel_centre"), FrameTube(a="upper_outer", b="wheel_centre")),
    })  # fmt: skip
    part, _ = made_of(star, design)
    assert part.complete, part.faults
    saw = {piece.name: piece.length for piece in part.pieces if isinstance(piece, TubePiece)}
    points = design.ends[0].end.points
    face = next(joint.face_mm for joint in arm.joints if joint.point == "arm_front")
    assert saw["middle to arm front"] == pytest.approx(
        float(np.linalg.norm(np.subtract(points["arm_front"], at))) - face
    )
    end = design.ends[0].end.model_copy(update={"right_points": {"lower_outer": (10.0, -660.0, 200.0)}})
    uneven = design.model_copy(update={"ends": (design.ends[0].model_copy(update={"end": end}), *design.ends[1:])})
    refused, _ = made_of(arm, uneven)
    assert any("Left and right differ at lower outer" in one.message for one in refused.faults)
    for side in ("left", "right"):
        alone, _ = made_of(arm.model_copy(update={"side": side}), uneven)
        assert alone.complete, alone.faults
        frames = alone.own.result.frames
        assert frames
        assert all(frame.case.endswith(", right") == (side == "right") for frame in frames)
        assert all(frame.residual < 1e-9 for frame in frames)


def test_an_arm_of_an_end_on_no_spring_says_what_is_missing_and_does_not_hold() -> None:
    design, arm = the_arm("trailing-arm")
    bare = design.ends[0].end.model_copy(update={"damper": None})
    loose = design.model_copy(update={"ends": (design.ends[0].model_copy(update={"end": bare}), *design.ends[1:])})
    part, whole = made_of(arm, loose)
    assert part.faults or any(one.why == UNHELD for one in part.not_carried)
    told = next(one for one in evaluate(work(whole)).parts if one.id == arm.id)
    assert "It holds" not in told.headline


def test_a_trailing_arm_carries_its_wheel_and_a_radius_arm_the_axle_s_twist() -> None:
    """Braked, the contact patch pulls a trailing arm's wheel node by its lever; the axle's twist comes into a radius arm as two pulls apart."""
    design, arm = the_arm("trailing-arm")
    part, whole = made_of(arm, design)
    node = part.own.layout.takes["wheel_centre"]
    carried = {one.name: one for one in work(whole).carried(design.ends[0].id).cases}
    frame = next(
        frame for frame in part.own.result.frames if frame.case.startswith("brake") and not frame.case.endswith("right")
    )
    push = next(p for p in carried[frame.case].pushes if p.at == "contact_left")
    assert np.linalg.norm(frame.loads[node, :3]) == pytest.approx(np.linalg.norm(push.force), rel=1e-6)
    radius = design.ends[0].end.wheel.loaded_radius_mm
    assert abs(frame.loads[node, 4]) == pytest.approx(abs(push.force[0]) * radius, rel=0.02)
    design, arm = the_arm("radius-arms")
    part, _ = made_of(arm, design)
    brake = next(frame for frame in part.own.result.frames if frame.case.startswith("brake"))
    front, rear = (part.own.layout.takes[name] for name in ("arm_front_bolt", "arm_rear_bolt"))
    pulls = brake.loads[front, 2], brake.loads[rear, 2]
    assert pulls[0] * pulls[1] < 0  # a couple
    assert min(abs(pull) for pull in pulls) > 500


def test_places_on_a_body_are_joints_first_each_point_once() -> None:
    design, _ = the_arm("trailing-arm")
    end = design.ends[0].end
    found = places_on(template_of(end), end, "arm")
    assert [place.point for place in found] == ["arm_front", "lower_outer", "upper_outer", "wheel_centre", "damper_low"]
    assert [place.jointed for place in found] == [True] * 4 + [False]
    for one, two in pairwise(found):
        assert one.point != two.point
