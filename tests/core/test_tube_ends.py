"""The tubes of welded arms as they are cut: printed wraps put back round their tubes in the car, and what is sawn, by another way."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from math import ceil, cos, hypot, pi, sin

import numpy as np
import pytest
from numpy.typing import NDArray

from tests.core.test_arm import SHELF
from tests.core.test_loads import demo
from tests.jobs import arms, part_of, with_part, work
from tirante.core.document.adopt import adopted, patched
from tirante.core.document.catalogue import Tube
from tirante.core.document.design import Design
from tirante.core.document.parts.arm import Arm
from tirante.core.document.parts.frame_arm import BoxOf, Flange, FrameArm, FrameJoint, FrameNode, FrameTube
from tirante.core.drawing.model import Line, Text
from tirante.core.drawing.sheet import Numbers
from tirante.core.notch.meeting import Block, Fitted, Surface
from tirante.core.parts.frame_arm.cut import cut_of as frame_cut_of
from tirante.core.parts.frame_arm.layout import Layout, laid_out
from tirante.core.parts.frame_arm.pieces import caps_of
from tirante.core.parts.kind import ViewAsked
from tirante.core.parts.part import Part, TubePiece
from tirante.core.parts.registry import kind_of
from tirante.core.parts.welded.tube_ends import Cut, Meets, Run, cut_to_each_other, wrap_places, wrapped
from tirante.core.parts.welded.wrap import FINE, wrap_name, wrap_sheet
from tirante.core.suspension.on_body import OnBody

Array = NDArray[np.float64]


def braced(design: Design) -> Arm:
    return next(arm for arm in arms(design) if arm.brace_at)


def off(place: Array, one: Surface) -> float:
    """How far a place stands off a round surface, or off the nearest face of a box."""
    m = np.array(one.along) / np.linalg.norm(one.along)
    if isinstance(one, Block):
        top = np.array(one.up) - (np.array(one.up) @ m) * m
        top /= np.linalg.norm(top)
        gap = place - np.array(one.at)
        return max(abs(float(gap @ top)) - one.height / 2, abs(float(gap @ np.cross(m, top))) - one.width / 2)
    side = float(np.linalg.norm(np.cross(place - np.array(one.at), m))) - one.radius
    return max(side, -float((place - np.array(one.at)) @ m)) if one.begins else side


def put_back(cut: Cut, inside: bool = False, printed: Cut | None = None) -> Iterator[tuple[int, Array]]:
    """Every point of a printed wrap's curves, wrapped round its tube where the tube stands in the car: end, place.

    Print outside (or inside), the foot of the sheet at the tube's first end, the middle line on the tube's top line, the end line on the
    sawn end. All by what the sheet alone says, its paper, and the length that is sawn. `printed`: the sheet of another tube.
    """
    sheet = wrap_sheet(printed or cut, Numbers(), "")
    run = cut.run
    way = (run.b - run.a) / np.linalg.norm(run.b - run.a)
    beside = np.cross(way, cut.up)
    middle = sheet.width / 2
    radius = (run.od + cut.paper) / 2
    marks = [
        i
        for i in sheet.items
        if isinstance(i, Line) and i.style == "mark" and abs(i.y1 - i.y2) < 1e-9 and i.x2 - i.x1 > 10
    ]
    ends = [which for which in (0, 1) if isinstance(cut.ends[which], Fitted)]
    curves = [i for i in sheet.items if isinstance(i, Line) and i.style == "cut"]
    loops: list[list[Line]] = []
    for line in curves:  # closed, one for each end
        if loops and hypot(loops[-1][-1].x2 - line.x1, loops[-1][-1].y2 - line.y1) < 1e-9:
            loops[-1].append(line)
        else:
            loops.append([line])
    assert len(loops) == len(ends)
    assert all(hypot(loop[-1].x2 - loop[0].x1, loop[-1].y2 - loop[0].y1) < 1e-9 for loop in loops)
    for n, which in enumerate(ends):
        every = loops[n]
        own = every[:-3]  # the other three are its straight edges
        assert max(abs(line.x1 - line.x2) for line in own) < 2.0
        end_line = marks[n].y1
        # the first end is drawn at the foot and its notch upward, the second at the top and downward
        assert (
            min(line.y1 for line in own) > end_line - 1e-6
            if which == 0
            else max(line.y1 for line in own) < end_line + 1e-6
        )
        assert n == 0 or min(line.y1 for line in own) > max(line.y1 for line in loops[0])
        for line in own:
            turn = (line.x1 - middle) / radius * (-1 if inside else 1)
            deep = abs(line.y1 - end_line)
            sawn = cut.off(0) if which == 0 else float(np.linalg.norm(run.b - run.a)) - cut.off(1)
            along = sawn + (deep if which == 0 else -deep)
            yield which, run.a + along * way + run.od / 2 * (cos(turn) * cut.up + sin(turn) * beside)


@pytest.mark.parametrize("name", ["marram", "dunlin", "plover"])
def test_a_printed_wrap_put_back_round_its_tube_lies_on_what_the_tube_stands_on(name: str) -> None:
    looked = 0
    design = demo(name)
    for arm in (*design.of_kind(Arm), *design.of_kind(FrameArm)):
        for cut in part_of(arm, design).own.cuts:
            for which, place in put_back(cut):
                away = [off(place, one) for one in cut.run.ends[which].rounds]
                assert min(away) == pytest.approx(0.0, abs=1e-6)  # on one of them, in none
                looked += 1
    assert looked > 1000


def test_joints_of_any_arm_are_made_as_wide_as_the_tubes_that_stand_on_them_and_the_advice_says_so() -> None:
    design = demo("plover")
    arm = design.of_kind(FrameArm)[0]
    narrow = arm.model_copy(update={"joints": tuple(j.model_copy(update={"face_mm": 12.0}) for j in arm.joints)})
    job = with_part(design, narrow)
    part = part_of(narrow, job)
    assert all("wider than" in one for cut in part.own.cuts for one in cut.lacking)
    around = work(job)
    sized = kind_of(narrow).size(narrow, around, around.design.catalogue, "mass")
    assert sized.winner
    (made,) = sized.winner.parts
    assert isinstance(made, FrameArm)
    od = part_of(made, with_part(design, made)).own.tube.od_mm
    assert all(2 * joint.face_mm >= od for joint in made.joints if "sleeve" in joint.made)
    assert "stand on them" in sized.advice
    assert not [one for cut in part_of(made, with_part(design, made)).own.cuts for one in cut.lacking]


def test_a_tube_that_comes_to_boxes_of_plate_is_notched_to_their_faces_and_that_they_run_on_is_told() -> None:
    design = demo("plover")
    arm = next(one for one in design.of_kind(FrameArm) if any(tube.box for tube in one.tubes))
    part = part_of(arm, design)
    tubes = [piece for piece in part.pieces if isinstance(piece, TubePiece)]
    assert tubes
    for piece in tubes:
        assert not piece.before_notching
        notch = piece.notches[1]
        assert notch
        assert notch.to_face
        assert all("110 × 60 mm" in one for one in notch.onto[:2])
    assert part.card
    lines = [line.text for line in part.card.lines]
    assert sum("as they run on past it" in line for line in lines) == 2
    assert not [line for line in lines if "NOT NOTCHED" in line]


@pytest.mark.parametrize("name", ["marram", "dunlin", "plover"])
def test_a_wrap_s_chords_keep_to_its_curve_at_corners_too(name: str) -> None:
    """Between its places the printed edge is a line: nowhere more than a hundredth of a millimetre off."""
    design = demo(name)
    corners = 0
    for arm in (*design.of_kind(Arm), *design.of_kind(FrameArm)):
        for cut in part_of(arm, design).own.cuts:
            for which in (0, 1):
                end = cut.ends[which]
                if not isinstance(end, Fitted):
                    continue
                # two round surfaces meet along two lines of the wall; two boxes may, with their own edges, along more
                found, least = len(end.corners()), 2 * (len(end.rounds) - 1)
                boxes = any(isinstance(one, Block) for one in end.rounds)
                assert found == least or (boxes and found > least and found % 2 == 0)
                corners += len(end.corners())
                x = wrap_places(cut, which, FINE)
                assert np.diff(x).min() > 0.01  # no line that a cutter cannot follow
                y = wrapped(cut, which, x)
                for share in (0.25, 0.5, 0.75):
                    between = x[:-1] + share * np.diff(x)
                    assert np.abs(wrapped(cut, which, between) - (y[:-1] + share * np.diff(y))).max() < 0.01, (
                        cut.run.name
                    )
    assert corners >= 2


def test_a_wrap_read_the_wrong_way_round_does_not_lie_there() -> None:
    """What tells the hand: with the print inside, the cut that is also taken off by its neighbour misses both."""
    cut = next(one for one in part_of(braced(demo("marram")), demo("marram")).own.cuts if one.run.name == "rear tube")
    way = (cut.run.b - cut.run.a) / np.linalg.norm(cut.run.b - cut.run.a)
    leaned = cut.up + 0.8 * np.cross(way, cut.up)  # the marked line off the arm's top, so that its two sides differ
    tilted = Cut(cut.run, leaned / np.linalg.norm(leaned), cut.paper)
    right = [min(abs(off(p, one)) for one in tilted.run.ends[w].rounds) for w, p in put_back(tilted)]
    wrong = [min(abs(off(p, one)) for one in tilted.run.ends[w].rounds) for w, p in put_back(tilted, inside=True)]
    assert max(right) < 1e-6
    assert max(wrong) > 3.0


def test_the_right_one_s_wrap_is_the_left_one_s_with_the_print_inside(marram: Design) -> None:
    left = braced(marram).model_copy(update={"side": "left"})
    right = left.model_copy(update={"side": "right"})
    mirror = np.array([1.0, -1.0, 1.0])
    one, other = (part_of(arm, with_part(marram, arm)).own.cuts for arm in (left, right))
    for a, b in zip(one, other, strict=True):
        assert b.run.a == pytest.approx(a.run.a * mirror)
        assert b.length == pytest.approx(a.length)
        for (_, p), (_, q) in zip(put_back(a), put_back(b, inside=True, printed=a), strict=True):
            assert min(abs(off(q, r)) for e in b.run.ends for r in e.rounds) < 1e-6
            assert q == pytest.approx(p * mirror, abs=1e-6)


def test_what_is_sawn_reaches_from_longest_point_to_longest_point(marram: Design) -> None:
    """Marched: each line of the outside from the middle of the tube to either end, until it is at what stands there."""
    for cut in part_of(braced(marram), marram).own.cuts:
        run = cut.run
        length = float(np.linalg.norm(run.b - run.a))
        way = (run.b - run.a) / length
        beside = np.cross(way, cut.up)
        reach = [0.0, 0.0]
        bottom = [length, length]
        for i in range(720):
            turn = 2 * pi * i / 720
            line = run.a + run.od / 2 * (cos(turn) * cut.up + sin(turn) * beside)
            for which, sign in ((0, -1.0), (1, 1.0)):
                low, high = 0.0, length / 2
                for _ in range(28):  # to a millionth; clear of all at the middle of the tube, inside something beyond
                    at = (low + high) / 2
                    place = line + (length / 2 + sign * at) * way
                    low, high = (at, high) if min(off(place, one) for one in run.ends[which].rounds) > 0 else (low, at)
                reach[which] = max(reach[which], low)
                bottom[which] = min(bottom[which], low)
        assert cut.length == pytest.approx(sum(reach), abs=0.05)  # between two lines, half a degree apart

        assert cut.gauge == pytest.approx(sum(bottom), abs=0.05)


def test_the_piece_the_card_and_the_list_say_one_length_and_where_it_goes_to(marram: Design) -> None:
    arm = braced(marram)
    part = part_of(arm, marram)
    cut = part.own.cuts[0]
    piece = next(one for one in part.pieces if isinstance(one, TubePiece) and one.name == cut.run.name)
    assert part.card
    figure = next(one for one in part.card.figures if one.label == f"Saw {cut.run.name}")
    assert piece.length == figure.mm == cut.length
    assert "to its longest points" in figure.note
    first, second = piece.notches
    assert first
    assert second
    assert first.off + second.off + piece.length == pytest.approx(np.linalg.norm(cut.run.b - cut.run.a))
    for one in (first, second):
        deep = [outside for _, outside, _ in one.profile]
        assert min(deep) == pytest.approx(0.0, abs=0.05)
        assert max(deep) == pytest.approx(one.depth, abs=0.05)
        assert one.profile[0][1:] == pytest.approx(one.profile[-1][1:])  # all round
    assert "ball joint’s socket" in second.onto[0]
    rear = part.own.cuts[1].notched(1)
    assert rear
    assert any("vent" in note and "front tube, rear tube, brace" in note for note in part.welding)
    assert "front tube" in rear.onto[1]  # the second to be fitted gives way
    assert rear.by_saw == ""
    assert any("rear tube, lower outer: to its wrap template" in line.text for line in part.card.lines)
    assert rear.depth > second.depth + 5


def test_a_piece_keeps_of_either_end_what_its_wrap_shows(marram: Design) -> None:
    """Round it is counted the same way at both ends: with the marked line off the arm's top, the two sides differ."""
    cut = part_of(braced(marram), marram).own.cuts[1]
    way = (cut.run.b - cut.run.a) / np.linalg.norm(cut.run.b - cut.run.a)
    leaned = cut.up + 0.8 * np.cross(way, cut.up)
    tilted = Cut(cut.run, leaned / np.linalg.norm(leaned), cut.paper)
    for which in (0, 1):
        kept = tilted.notched(which)
        assert kept
        degrees_, outside, _ = np.array(kept.profile).T
        x = np.where(degrees_ > 180, degrees_ - 360, degrees_) * pi / 180 * (cut.run.od + cut.paper) / 2
        assert outside == pytest.approx(wrapped(tilted, which, x), abs=1e-9)
        assert np.abs(outside - outside[::-1]).max() > 2.0
        assert np.interp(kept.long_deg, degrees_, outside) == pytest.approx(0.0, abs=0.3)


def test_sleeves_lie_along_their_bolts_and_the_cup_along_its_stud(marram: Design) -> None:
    arm = braced(marram)
    end = marram.ends[0].end
    front, rear = (np.array(end.points[f"lower_{which}"]) for which in ("front", "rear"))
    for cut in part_of(arm, marram).own.cuts[:2]:
        sleeve, cup = cut.run.ends[0].rounds[0], cut.run.ends[1].rounds[0]
        assert np.linalg.norm(np.cross(sleeve.along, rear - front)) == pytest.approx(0.0, abs=1e-6)
        assert np.linalg.norm(np.cross(cup.along, end.balls["lower outer joint"].stud_axis)) == pytest.approx(
            0.0, abs=1e-9
        )
        assert (sleeve.radius, cup.radius) == (arm.pivot_face_mm, arm.outer_face_mm)
    plover = demo("plover")
    radius_arm = plover.of_kind(FrameArm)[0]
    for cut in part_of(radius_arm, plover).own.cuts:
        for meets in cut.run.ends:
            # an axle's bolts and a chassis bush lie across the car
            along = np.array(meets.rounds[0].along) / np.linalg.norm(meets.rounds[0].along)
            assert abs(along[1]) > 0.9, meets.where


def test_a_tube_wider_than_its_sleeve_is_named_on_card_notes_and_list(marram: Design) -> None:
    arm = braced(marram).model_copy(update={"pivot_face_mm": 20.0})
    job = with_part(marram, arm)
    part = part_of(arm, job)
    assert part.complete
    assert part.card
    assert any(
        line.strong and "NOT NOTCHED: front tube" in line.text and "wider" in line.text for line in part.card.lines
    )
    assert any("not notched: rear tube" in note for note in part.notes)
    pieces = {one.name: one for one in part.pieces if isinstance(one, TubePiece)}
    assert pieces["front tube"].before_notching
    assert not pieces["brace"].before_notching
    assert pieces["front tube"].notches[0] is None


def test_what_stands_on_its_sleeves_is_proposed_first_and_they_are_made_wider_only_where_none_of_that_holds(
    marram: Design,
) -> None:
    def sized(face: float) -> tuple[Arm, float, str]:
        arm = braced(marram).model_copy(update={"pivot_face_mm": face})
        job = work(with_part(marram, arm))
        found = kind_of(arm).size(arm, job, SHELF, "mass")
        assert found.winner
        (made,) = found.winner.parts
        assert isinstance(made, Arm)
        tube = SHELF.find("tubes", found.winner.stock[0])
        assert isinstance(tube, Tube)
        return made, tube.od_mm, found.advice

    roomy, od, advice = sized(29.0)
    assert od <= 58.0
    assert roomy.pivot_face_mm == 29.0
    assert "so that its tubes stand" not in advice
    assert "tubes are wider than the sleeves or the cup that they would stand on, ⌀58.0 mm, and were left out" in advice
    tight, wide, advice = sized(20.0)
    assert wide > 40.0
    assert tight.pivot_face_mm == ceil(wide / 2)
    assert tight.outer_face_mm == braced(marram).outer_face_mm  # wide enough as it is
    assert f"Made ⌀{2 * ceil(wide / 2)} mm, so that its tubes stand on it: what is at its pivots." in advice
    made = patched(with_part(marram, tight), adopted(with_part(marram, tight), (tight,), SHELF))
    assert not [one for cut in part_of(tight, made).own.cuts for one in cut.lacking]


def test_an_arm_on_rod_ends_is_square_at_its_pivots_where_its_stack_has_it(marram: Design) -> None:
    arm = next(one for one in arms(marram) if one.pivots == "rod ends")
    part = part_of(arm, marram)
    for cut, side in zip(part.own.cuts, part.own.sides, strict=True):
        assert cut.ends[0] == "square"
        second = cut.ends[1]
        assert isinstance(second, Fitted)
        # the stack takes the tube to the cup's face; it reaches further by what the notch leaves standing
        assert cut.length == pytest.approx(side.stack.tube_cut + arm.outer_face_mm - second.long)
        assert cut.gauge is None


def test_a_moved_joint_is_other_metal_by_its_notch_where_no_length_differs(marram: Design) -> None:
    """The cup's stud leaned: the tubes stand on it at another angle."""
    arm = braced(marram)
    end = marram.ends[0]
    leaned = end.end.model_copy(
        update={
            "balls": {
                name: ball.model_copy(update={"stud_axis": (0.0, 0.35, 0.94)}) for name, ball in end.end.balls.items()
            }
        }
    )
    assert leaned.balls
    other = marram.model_copy(update={"ends": (end.model_copy(update={"end": leaned}), *marram.ends[1:])})
    assert part_of(arm, marram).metal != part_of(arm, other).metal


def test_a_view_of_each_notched_tube_is_drawn_at_true_size(marram: Design) -> None:
    arm = braced(marram)
    part: Part = part_of(arm, marram)
    for cut in part.own.cuts:
        drawing = kind_of(arm).draw(part, ViewAsked(name=wrap_name(cut)), Numbers())
        assert drawing.scale == 1.0
        assert drawing.width == pytest.approx(pi * (cut.run.od + 0.1))
        view = part.view(wrap_name(cut))
        assert view
        assert view.cut
        assert f"{cut.length:.1f}" in view.told


def test_two_tubes_crossing_a_third_are_cut_in_the_order_of_fitting() -> None:
    main = Run(
        name="main",
        a=np.array([-200.0, 0, 0]),
        b=np.array([200.0, 0, 0]),
        od=40.0,
        wall=3.0,
        ends=(Meets(where="end", square=0.0),) * 2,
    )
    first = Run(
        name="first", a=np.zeros(3), b=np.array([0, 0, 300.0]), od=30.0, wall=2.0, ends=(Meets(where="foot", rounds=(main.round(),)), Meets(where="end", square=0.0))
    )  # fmt: skip
    second = Run(
        name="second", a=np.zeros(3), b=np.array([150.0, 0, 260.0]), od=30.0, wall=2.0,
        ends=(Meets(where="foot", rounds=(main.round(), first.round())), Meets(where="end", square=0.0)),
    )  # fmt: skip
    cuts = cut_to_each_other([main, first, second], np.array([0.0, 1.0, 0.0]), 0.1)
    assert cuts[0].length == pytest.approx(400.0)
    assert cuts[1].length == pytest.approx(300.0 - np.sqrt(20**2 - 15**2))
    for cut in cuts[1:]:
        for _, place in put_back(cut):
            assert min(off(place, one) for one in cut.run.ends[0].rounds) == pytest.approx(0.0, abs=1e-6)
    alone = Run(
        name="alone",
        a=second.a,
        b=second.b,
        od=30.0,
        wall=2.0,
        ends=(Meets(where="foot", rounds=(main.round(),)), second.ends[1]),
    )
    (free,) = cut_to_each_other([alone], np.array([0.0, 1.0, 0.0]), 0.1)
    fitted, by_itself = cuts[2].notched(0), free.notched(0)
    assert fitted
    assert by_itself
    assert fitted.depth > by_itself.depth


def test_each_joint_s_sleeve_lies_along_its_own_bolt_and_tubes_that_meet_at_no_joint_stand_on_the_first() -> None:
    def place(point: str, at: tuple[float, float, float], bolt: tuple[float, float, float] | None = None) -> OnBody:
        return OnBody(point=point, at=at, sort="hinge", what="hinge", bolt=bolt)

    places = [
        place("front", (200.0, 300.0, 0.0), (1.0, 0.0, 0.0)),
        place("rear", (-200.0, 300.0, 0.0), (0.0, 0.3, 1.0)),
        place("out", (0.0, 700.0, 0.0)),
    ]
    arm = FrameArm(
        id="019a0000-0000-7000-8000-000000000001", name="arm", side="pair", end_id="019a0000-0000-7000-8000-000000000002", body="arm",
        tubes=(FrameTube(a="front", b="mid"), FrameTube(a="rear", b="mid"), FrameTube(a="mid", b="out")), nodes=(FrameNode(name="mid", at=(0.0, 500.0, 0.0)),),
        joints=(FrameJoint(point="front", face_mm=25.0), FrameJoint(point="rear", face_mm=25.0), FrameJoint(point="out", made="pair of tabs", face_mm=30.0)),
    )  # fmt: skip
    layout = laid_out(arm, places)
    assert isinstance(layout, Layout)
    tube = Tube(key="t", label="t", od_mm=30.0, wall_mm=3.0, series="metric", source="trade")
    first, second, third = frame_cut_of(arm, tube, layout, places, {}, 0.1)
    assert first.run.ends[0].rounds[0].along == (1.0, 0.0, 0.0)
    assert second.run.ends[0].rounds[0].along == (0.0, 0.3, 1.0)
    # the first runs on past the place, as far as the others' feet reach along it and a fillet, and a cap shuts it
    assert first.lacking == ()
    assert first.notched(1) is None
    assert first.closed
    assert first.length == pytest.approx(float(np.linalg.norm(first.run.b - first.run.a)) - first.off(0) - first.off(1))
    way = first.run.b - first.run.a
    way /= np.linalg.norm(way)
    feet = [float((place - first.run.b) @ way) for cut, end in ((second, 1), (third, 0)) for which, place in put_back(replace(cut, paper=0.0)) if which == end]  # fmt: skip
    assert -first.off(1) == pytest.approx(max(feet) + 5.0, abs=0.05)
    (cap,) = caps_of(first, "plate")
    assert (cap.length, cap.thickness) == (27.0, 3.0)
    assert caps_of(second, "plate") == []
    assert any("closed with a cap" in line.text and line.mm == pytest.approx(-first.off(1)) for line in first.lines())
    assert [one.name for one in second.run.ends[1].rounds] == [first.run.name]
    assert {one.name for one in third.run.ends[0].rounds} == {first.run.name, second.run.name}
    assert third.ends[1] == "square"
    assert third.off(1) == 30.0
    assert [cut.closed for cut in (first, second, third)] == [True, True, False]  # a pair of tabs leaves its end open
    boxed = arm.model_copy(
        update={"tubes": (*arm.tubes[:2], FrameTube(a="mid", b="out", box=BoxOf(height_mm=40, width_mm=40, wall_mm=3)))}
    )
    told = laid_out(boxed, places)
    assert isinstance(told, Layout)
    stand = frame_cut_of(boxed, tube, told, places, {}, 0.1)
    assert [cut.run.ends[1].rounds[0].name for cut in stand] == ["box mid to out"] * 2
    assert not any(cut.lacking for cut in stand)
    # both come at 45° to its faces; the second is fitted to the first too
    assert [cut.notched(1).angle_deg for cut in stand] == pytest.approx([45.0, 45.0])  # type: ignore[union-attr]
    assert stand[1].run.ends[1].rounds[-1].name == stand[0].run.name


def test_a_tube_that_comes_to_a_hub_flange_stands_on_its_back_and_ring_or_is_told_what_cures_it() -> None:
    """The flange as a plane square to the wheel's axis, its ring as a round that begins there: by the wrap put back."""

    def arm_of(far: tuple[float, float, float], flange: Flange | None) -> tuple[Cut, ...]:
        places = [OnBody(point="inner", at=far, sort="hinge", what="hinge", bolt=(0.0, 0.0, 1.0)), OnBody(point="wheel", at=(0.0, 700.0, 300.0), sort="wheel", what="wheel")]  # fmt: skip
        arm = FrameArm(
            id="019a0000-0000-7000-8000-000000000001", name="arm", side="pair", end_id="019a0000-0000-7000-8000-000000000002", body="arm",
            tubes=(FrameTube(a="inner", b="wheel"),), joints=(FrameJoint(point="inner", face_mm=25.0), FrameJoint(point="wheel", made="hub flange", face_mm=40.0, flange=flange)),
        )  # fmt: skip
        layout = laid_out(arm, places)
        assert isinstance(layout, Layout)
        tube = Tube(key="t", label="t", od_mm=30.0, wall_mm=3.0, series="metric", source="trade")
        return frame_cut_of(arm, tube, layout, places, {}, 0.1)

    flange = Flange(outside_mm=150.0, ring_mm=60.0)
    (leaning,) = arm_of((180.0, 400.0, 380.0), flange)  # 33.3° off the wheel’s axis
    assert leaning.lacking == ()
    places = [place for which, place in put_back(leaning) if which == 1]
    on_back = [abs(660.0 - place[1]) < 0.02 for place in places]
    on_ring = [abs(hypot(place[0], place[2] - 300.0) - 30.0) < 0.05 and place[1] < 660.02 for place in places]
    assert all(a or b for a, b in zip(on_back, on_ring, strict=True))
    assert any(on_back)
    assert any(on_ring)
    assert max(hypot(place[0], place[2] - 300.0) for place in places) < 75.0
    # along the wheel's axis it is a plain cut on the flange's back
    (straight,) = arm_of((0.0, 400.0, 300.0), flange)
    one = straight.notched(1)
    assert one
    assert (one.depth, one.off, one.angle_deg) == pytest.approx((0.0, 40.0, 90.0), abs=1e-6)
    assert not any("trim their ends" in line.text for line in straight.lines())
    # past the flange's edge: as far as is told, and a larger flange takes it
    (past,) = arm_of((300.0, 500.0, 300.0), flange)
    (told,) = past.lacking
    far = 40 * 1.5 + 15 / cos(np.arctan(1.5))
    assert f"as far as {far:.0f} mm from the wheel’s axis, and that ends at 75 mm" in told
    for outside, lacks in ((2 * far - 0.1, 1), (2 * far + 0.1, 0)):
        (again,) = arm_of((300.0, 500.0, 300.0), Flange(outside_mm=outside, circle_mm=110.0, ring_mm=60.0))
        assert len(again.lacking) == lacks
    assert "runs along the back" in arm_of((500.0, 690.0, 300.0), flange)[0].lacking[0]
    assert "sizes of its hub flange are not given" in arm_of((60.0, 400.0, 380.0), None)[0].lacking[0]


def test_an_arm_whose_rod_ends_are_not_chosen_is_drawn_without_lengths_to_saw(marram: Design) -> None:
    arm = next(one for one in arms(marram) if one.pivots == "rod ends")
    bare = arm.model_copy(
        update={"pivot_end": arm.pivot_end.model_copy(update={"joint": None, "insert": None, "nut": None})}
    )
    part = part_of(bare, with_part(marram, bare))
    assert not part.complete
    told = [
        item.text
        for item in kind_of(bare).draw(part, ViewAsked(name="drawing"), Numbers()).items
        if isinstance(item, Text)
    ]
    assert told
    assert not any("saw" in text for text in told)
