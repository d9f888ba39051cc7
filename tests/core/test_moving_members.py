"""Every moving member of every shipped end as a part: made, carried as a frame of its own, judged, sized; against a general frame library."""

from __future__ import annotations

from itertools import combinations, pairwise
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
from tirante.core.document.parts.frame_arm import BoxOf, FrameArm, FrameNode, FrameTube
from tirante.core.document.parts.saved import SavedPart
from tirante.core.drawing.model import Text
from tirante.core.drawing.sheet import Numbers
from tirante.core.errors import InputError
from tirante.core.job.evaluate import evaluate
from tirante.core.loads.end_loads import UNHELD
from tirante.core.members.boxed_link import Box
from tirante.core.members.fatigue import endurance
from tirante.core.members.frame import BoxSection
from tirante.core.members.insert_weld import legs_for
from tirante.core.parts.body import seen_of
from tirante.core.parts.frame_arm.judged import carried
from tirante.core.parts.frame_arm.kind import FRAME_ARM, FrameMade
from tirante.core.parts.frame_arm.layout import laid_out, usual_tubes
from tirante.core.parts.part import Part, PlatePiece, TubePiece
from tirante.core.parts.plates import PLATES_MM
from tirante.core.parts.registry import kind_of
from tirante.core.parts.welded.cases import in_order
from tirante.core.parts.welded.judged import material_of
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
    wanted = [one.name for one in every if one.sort not in ("carrier", "bought")]
    parts = all_parts(design)
    assert sorted(str(part.stands_for) for part in parts) == sorted(wanted)
    assert len({part.id for part in parts}) == len(parts)
    found = evaluate(work(design.model_copy(update={"parts": tuple(parts)})))
    left = {one.name: one.why for one in found.not_made if one.end_id == design.ends[0].id}
    assert set(left) == {one.words for one in every if one.sort in ("carrier", "bought")}
    bought = {one.words for one in every if one.sort == "bought"}
    assert {name for name, why in left.items() if why == "not made here"} == set(left) - bought
    assert all(left[name].startswith("bought whole: not made and not judged here") for name in bought)
    carried = {"upright", "axle", "knuckle", "steering arm", "leaf"}
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
    # what is sawn: between centres less what is made at either end, from longest point to longest point where it is notched
    assert isinstance(part.saved, FrameArm)
    faces = {joint.point: joint.face_mm for joint in part.saved.joints}
    pieces = {piece.name: piece for piece in part.pieces if isinstance(piece, TubePiece)}
    assert len(pieces) == len(arm.tubes)
    points = whole.ends[0].end.points
    for tube in arm.tubes:
        long = float(np.linalg.norm(np.subtract(points[tube.a], points[tube.b])))
        piece = pieces[f"{tube.a} to {tube.b}".replace("_", " ")]
        offs = [
            end.off if end else faces.get(name, 0.0) for end, name in zip(piece.notches, (tube.a, tube.b), strict=True)
        ]
        assert piece.length == pytest.approx(long - sum(offs))
        for end, name in zip(piece.notches, (tube.a, tube.b), strict=True):
            assert end is None or -1e-6 <= end.off < faces.get(
                name, made.tube.od_mm
            )  # a notch reaches past the face, not past the middle
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
    (piece,) = [one for one in part.pieces if isinstance(one, TubePiece) and one.name == "middle to arm front"]
    off = piece.notches[1].off if piece.notches[1] else face
    assert saw["middle to arm front"] == pytest.approx(
        float(np.linalg.norm(np.subtract(points["arm_front"], at))) - off
    )
    # those that meet in the middle lie along one another: none stands on another, and that is said of each with what cures it
    assert piece.before_notching
    assert sum("lie so nearly along one another" in note for note in part.notes) == 3
    # squarer to one another, the first runs on past the place, and the cap on it is cut and weighed
    square = star.model_copy(update={"nodes": (FrameNode(name="middle", at=(0.0, 560.0, 300.0)),)})
    capped, _ = made_of(square, design)
    (cap,) = [one for one in capped.pieces if isinstance(one, PlatePiece) and one.name.startswith("cap on")]
    assert cap.name == "cap on middle to arm front, middle"
    assert not any("lie so nearly along one another" in note for note in capped.notes)
    od, wall = capped.own.tube.od_mm, capped.own.tube.wall_mm
    assert (cap.length, cap.thickness, cap.material) == (od - wall, np.ceil(2 * wall) / 2, star.plate_name)
    assert (capped.mass or 0) - capped.own.result.mass_kg == pytest.approx(np.pi / 4 * cap.length**2 * cap.thickness * 7.85e-6)  # fmt: skip
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


def test_a_box_s_section_is_the_rectangle_less_its_hollow_and_its_stress_the_corner_s() -> None:
    """By hand, and against the boxed link's own section of four plates alike."""
    box, plates = (
        BoxSection(height=100.0, width=60.0, wall=4.0),
        Box(height=100.0, width=60.0, side=4.0, top=4.0, bottom=4.0),
    )
    assert box.area == pytest.approx(plates.area)
    assert box.upright == pytest.approx((60 * 100**3 - 52 * 92**3) / 12)
    assert box.sideways == pytest.approx((100 * 60**3 - 92 * 52**3) / 12)
    # Bredt: 4 A² t / perimeter of the middle line
    assert box.torsion == pytest.approx(4 * (96 * 56) ** 2 * 4 / (2 * (96 + 56)))
    assert box.radius_of_gyration == pytest.approx((box.sideways / box.area) ** 0.5)
    assert box.slenderness == pytest.approx(92 / 4)
    n, up, side, twist = 12_000.0, 1.5e6, 0.4e6, 0.6e6
    fibre = n / box.area + up * 50 / box.upright + side * 30 / box.sideways
    shear = twist / (2 * 96 * 56 * 4)
    zero = np.zeros(1)
    found = box.stress(*(np.array([v]) for v in (n, up, side, twist)), zero)
    assert float(found[0]) == pytest.approx((fibre**2 + 3 * shear**2) ** 0.5)
    assert float(box.stress(zero, zero, zero, zero, np.array([9000.0]))[0]) == pytest.approx(
        3**0.5 * 1.5 * 9000 / (2 * 4 * 60)
    )
    with pytest.raises(InputError):
        BoxSection(height=100.0, width=6.0, wall=4.0)


def boxed(arm: FrameArm, height: float = 110.0, wall: float = 4.0) -> FrameArm:
    """The three members round the wheel of boxes."""
    near = {"wheel_centre", "lower_outer", "upper_outer"}
    box = BoxOf(height_mm=height, width_mm=60.0, wall_mm=wall)
    tubes = tuple(
        t.model_copy(update={"box": box}) if {t.a, t.b} <= near else t
        for t in arm.tubes
        if {t.a, t.b} != {"arm_front", "wheel_centre"}
    )
    return arm.model_copy(update={"tubes": tubes})


def test_boxes_among_tubes_stand_on_edge_as_a_general_library_has_them() -> None:
    """The trailing arm with boxes round its wheel: PyNite with Iy ≠ Iz, each member turned so that its height stands up (forward, of a post)."""
    design, arm = the_arm("trailing-arm")
    part, _ = made_of(boxed(arm), design)
    made, grade = part.own, next(row for row in SHELF.grades if row.key == GRADE)
    layout = made.layout
    assert len(layout.boxes) == 3
    box = next(iter(layout.boxes.values()))
    case = next(frame for frame in made.result.frames if frame.case.startswith("corner"))
    model = FEModel3D()
    model.add_material("steel", grade.e_mpa, grade.e_mpa / 2.6, 0.3, 7.85e-9)
    model.add_material("plate", 205_000.0, 205_000.0 / 2.6, 0.3, 7.85e-9)
    od, wall = made.tube.od_mm, made.tube.wall_mm
    second = np.pi / 64 * (od**4 - (od - 2 * wall) ** 4)
    model.add_section("tube", np.pi / 4 * (od**2 - (od - 2 * wall) ** 2), second, second, 2 * second)
    model.add_section("box", box.area, box.upright, box.sideways, box.torsion)
    for i, at in enumerate(layout.nodes):
        model.add_node(f"n{i}", *at)
    for k, ((a, b), name, up) in enumerate(zip(layout.ends, layout.stretches, layout.ups, strict=True)):
        is_box = name.split(",")[0] in layout.boxes
        run = (layout.nodes[b] - layout.nodes[a]) / np.linalg.norm(layout.nodes[b] - layout.nodes[a])
        model.add_member(f"m{k}", f"n{a}", f"n{b}", "plate" if is_box else "steel", "box" if is_box else "tube")
        # its own third axis along the height: turned until a unit load along it bends it up
        member = model.members[f"m{k}"]
        best = max(np.arange(0, 180, 0.05), key=lambda angle: turned_up(member, angle, up, run)) if is_box else 0.0
        member.rotation = best
    model.def_support("n0", *[True] * 6)
    for i, load in enumerate(case.loads):
        for way, value in zip(("FX", "FY", "FZ", "MX", "MY", "MZ"), load, strict=True):
            if value:
                model.add_node_load(f"n{i}", way, float(value))
    model.analyze_linear()
    size = np.abs(case.loads[:, :3]).max()
    for k, stretch in enumerate(layout.stretches):
        f = model.members[f"m{k}"].f("Combo 1").flatten()
        assert -f[0] == pytest.approx(case.axial[0, k], abs=2e-3 * size), stretch
        bending = max(np.hypot(f[4], f[5]), np.hypot(f[10], f[11]))
        assert bending == pytest.approx(case.moment[0, k], rel=5e-3, abs=50.0 * 20), stretch
    for check in part.checks:
        if check.reproduce:
            again(check)


def turned_up(member: Any, angle: float, up: Any, run: Any) -> float:
    """How much of a member's third axis is upward when it is turned."""
    member.rotation = angle
    third = member.T()[:3, :3][2]
    square = up - run * float(up @ run)
    return abs(float(third @ square))


def test_boxes_are_sized_by_their_plate_lie_on_the_list_as_plates_and_last_by_their_own_classes() -> None:
    design, arm = the_arm("trailing-arm")
    part, whole = sized(boxed(arm), design)
    assert all(check.passed for check in part.checks), [(c.name, c.utilisation) for c in part.checks if not c.passed]
    saved, made = part.saved, part.own
    assert isinstance(saved, FrameArm)
    walls = {tube.box.wall_mm for tube in saved.tubes if tube.box}
    assert len(walls) == 1
    plates = [piece for piece in part.pieces if isinstance(piece, PlatePiece)]
    assert sum(plate.count for plate in plates) == 3 * 4
    wall = walls.pop()
    name = "lower outer to upper outer"
    sides = next(plate for plate in plates if plate.name == f"{name}, sides")
    tops = next(plate for plate in plates if plate.name == f"{name}, top and bottom")
    assert (sides.width, tops.width, sides.thickness) == (110.0, 60.0, wall)  # its tabs reach the sides' outer faces
    assert sides.length == pytest.approx(made.saw[name])
    # the next thinner plate does not do
    thinner = [mm for mm in PLATES_MM if 3.0 <= mm < wall] or [mm for mm in PLATES_MM if mm < wall]
    other, _ = made_of(boxed(arm, wall=thinner[-1]), design, made.tube.key)
    assert not all(check.passed for check in other.checks)
    # its life, written out: the everyday cases' ranges at the toe 36 and on the throat as a line round the box 36
    frames = in_order(
        [
            carried(
                made.layout,
                seen_of(saved, saved.body, work(whole), everyday=True).cases,
                [material_of(made.tube, next(r for r in whole.catalogue.grades if r.key == saved.grade))],
            )
        ]
    )
    copies = [c.copy for c in seen_of(saved, saved.body, work(whole), everyday=True).cases]
    box, least = made.layout.boxes[name], 1e9
    rows = [k for k, stretch in enumerate(made.layout.stretches) if stretch.split(",")[0] == name]
    for (i, one), (j, two) in combinations(enumerate(frames), 2):
        if copies[i] != copies[j]:
            continue
        for k in rows:
            pull = abs(one.axial[0, k] - two.axial[0, k])
            for end in (0, 1):
                up, side = np.abs(one.bent[0, k, end] - two.bent[0, k, end])
                toe = pull / box.area + up * 55 / box.upright + side * 30 / box.sideways
                line = pull / (2 * 170) + up / (60 * 110 + 110**2 / 3) + side / (60 * 110 + 60**2 / 3)
                leg = min(wall, legs_for(made.tube.wall_mm).usual)
                least = min(least, endurance(toe, 36.0), endurance(line / (0.707 * leg), 36.0))
            twist = abs(one.twisted[0, k] - two.twisted[0, k])
            least = min(least, endurance(twist / (2 * 110 * 60) / (0.707 * leg), 80.0, shear=True))
    check = next(c for c in part.checks if c.key.split(":")[0] == "life" and c.part == name)
    assert check.capacity == pytest.approx(least, rel=1e-6)


@pytest.mark.parametrize("name", ["double-wishbone-centre-steer", "three-links-panhard-steered"])
def test_a_steering_arm_that_its_box_holds_is_no_end_without_a_spring(name: str) -> None:
    design = job_of(name)
    found = work(design).carried(design.ends[0].id).cases
    turned = [
        one
        for one in found
        if one.forces and any(n.startswith("steering arm") and abs(f) > 1 for n, f in one.forces.holds.items())
    ]
    assert turned
    assert not any(one.unheld for one in turned if one.met or one.forces.springs)  # type: ignore[union-attr]
