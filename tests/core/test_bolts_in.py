"""Whether the bolts that hold a bracket go in; metal in its bends; U-bolts: against closed forms, and places of the folded metal itself."""

from __future__ import annotations

from dataclasses import replace
from math import cos, hypot, pi, sin
from typing import Any

import numpy as np
import pytest

from tests.core.test_angle_bracket import on_rail  # noqa: F401 - a fixture
from tests.core.test_lapped import held_by_a_plate
from tests.core.test_leaf_perch import with_perch
from tests.core.test_loads import demo
from tests.core.test_room import own_at
from tests.core.test_room_plates import named, with_block
from tests.core.test_spanners import slab
from tests.core.test_split_clamp import OD, sized
from tests.jobs import part_of, with_part, work
from tirante.core.brackets.bolt import order_length
from tirante.core.brackets.tools import drawn_out, flats_of
from tirante.core.document.design import Design
from tirante.core.document.parts.folded_u import FoldedU
from tirante.core.geometry.convex import Bar, gap
from tirante.core.job.bracket_map import as_tabs
from tirante.core.job.room.around import moving_things
from tirante.core.job.room.look import look_round
from tirante.core.job.room.own import own_mount, swinging
from tirante.core.job.room.plates import PAD, own_lapped, pieces_of
from tirante.core.job.room.reach import Fixed
from tirante.core.job.room.room import WANTED, runs_told, swings
from tirante.core.job.room.spanners import drawn
from tirante.core.members.thread import COARSE
from tirante.core.parts.bracket.families.angle_bracket import ANGLE_BRACKET
from tirante.core.parts.bracket.families.leaf_perch import PerchMade
from tirante.core.parts.bracket.families.split_clamp import SPLIT_CLAMP
from tirante.core.parts.part import Part

UP, ORIGIN = np.array([0.0, 0.0, 1.0]), np.zeros(3)
HERE = [(0, "here")]


def told(bolts: Any, *things: Fixed) -> list[tuple[str, float, str]]:
    return [(name, path.gap, path.to) for name, path, _, _ in drawn(bolts, lambda _: list(things), HERE)]


def test_a_bolt_is_drawn_out_as_far_as_it_is_long_its_head_with_it() -> None:
    """Under a ceiling, and past a wall beside it: washer, length and head; half the width over its corners."""
    way = drawn_out(ORIGIN, UP, 12.0, 60.0)
    takes = 2.4 + 60.0 + 0.65 * 12
    for high in (takes + 3.0, takes - 1.0):
        ((_, room, to),) = told([("bolt", (way,))], slab((0.0, 0.0, high), (0.0, 0.0, -1.0), "ceiling"))
        assert (max(room, 0.0), to) == (pytest.approx(max(high - takes, 0.0), abs=1e-6), "ceiling")
    corner = flats_of(12.0) / 3**0.5
    ((_, beside, _),) = told([("bolt", (way,))], slab((corner + 2.0, 0.0, 0.0), (-1.0, 0.0, 0.0)))
    assert beside == pytest.approx(2.0, abs=1e-3)


def test_the_easiest_way_of_the_bolt_that_is_worst_is_told() -> None:
    down = drawn_out(np.array([0.0, 0.0, -40.0]), -UP, 12.0, 60.0)
    up, aside = drawn_out(ORIGIN, UP, 12.0, 60.0), drawn_out(np.array([100.0, 0.0, 0.0]), UP, 12.0, 60.0)
    ceiling = slab((0.0, 0.0, 30.0), (0.0, 0.0, -1.0), "ceiling", outline=np.array([(-40.0, -40.0), (40.0, -40.0), (40.0, 40.0), (-40.0, 40.0)]))  # fmt: skip
    ((_, stuck, to),) = told([("bolts", (up,)), ("bolts", (aside,))], ceiling)
    assert (max(stuck, 0.0), to) == (0.0, "ceiling")
    ((_, free, _),) = told([("bolts", (up, down)), ("bolts", (aside,))], ceiling)
    assert free > 10.0
    # a bolt is not in its own way, nor is the block that its head is taken as
    own = replace(slab((0.0, 0.0, 12.0), (0.0, 0.0, -1.0), "bolts"), own=True)
    assert told([("bolts", (up,))], own)[0][1] == np.inf
    head = replace(slab((0.0, 0.0, 9.0), (0.0, 0.0, 1.0), "its halves"), own=True)  # from −1 to 9
    assert told([("bolts", (up,))], head)[0][1] == np.inf


def test_those_of_feet_come_from_over_the_feet_or_from_behind_the_box(on_rail: Any) -> None:  # noqa: F811
    design, saved, part = on_rail
    (made,), (stand,) = part.own.joints, part.own.stands
    one = stand.standing
    through = saved.model_copy(update={"through_mm": 80.0})
    for bracket, many in ((saved.model_copy(update={"through_mm": 0.0}), 1), (through, 2)):
        bolts = ANGLE_BRACKET.bolts(bracket, made, stand)
        assert [len(ways) for _, ways in bolts] == [many] * 4
        for _, ways in bolts:
            x, y, z = (float((ways[0].face - one.foot) @ way) for way in (one.x, one.y, one.bolt))
            assert (abs(x), abs(z)) == pytest.approx(
                (saved.apart_mm / 2, made.gap / 2 + saved.plate.mm + saved.gauge_mm)
            )
            assert y == pytest.approx(saved.plate.mm + saved.shim_mm + max(1.6, 0.2 * saved.bolt_mm))
            assert ways[0].out == pytest.approx(one.y)
            if many == 2:
                assert ways[1].out == pytest.approx(-one.y)
                assert float((ways[1].face - one.foot) @ one.y) == pytest.approx(-80.0 - max(1.6, 0.2 * saved.bolt_mm))
                assert ways[1].long == pytest.approx(saved.plate.mm + saved.shim_mm + 80 + 2.65 * saved.bolt_mm)
    room = look_round(work(design), saved.id)
    (line,) = [line for joint in room.joints for line in joint.lines if line.what == "its feet’s bolts"]
    assert (line.sort, line.state) == ("bolt", "good")
    assert "what it holds taken out" in line.where


def test_those_of_a_clamp_come_from_behind_its_halves_or_from_the_shoulders(mounted: Design) -> None:
    design, saved = sized(mounted)
    (made,), (stand,) = part_of(saved, design).own.joints, part_of(saved, design).own.stands
    bolts, one, d = SPLIT_CLAMP.bolts(saved, made, stand), stand.standing, saved.clamp_bolt_mm
    long = order_length(saved.cap_mm + saved.shoulder_mm, d, COARSE[round(d)], metric=True)
    assert len(bolts) == 4
    for _, (behind, before) in bolts:
        for way, level, sense in ((behind, -saved.cap_mm, -1.0), (before, saved.shoulder_mm, 1.0)):
            high = float((way.face - one.foot) @ one.y) + OD / 2
            assert high == pytest.approx(level + sense * max(1.6, 0.2 * d))
            assert way.out == pytest.approx(sense * one.y)
            assert way.long == pytest.approx(long + 0.65 * d)
    assert {round(abs(float((behind.face - one.foot) @ one.x)), 6) for _, (behind, _) in bolts} == {saved.apart_mm}
    room = look_round(work(design), saved.id)
    assert [line.state for joint in room.joints for line in joint.lines if line.what == "the clamp’s bolts"] == ["good"]


def test_a_ceiling_over_a_bearing_s_pad_keeps_its_bolts_out_where_they_cannot_come_from_below() -> None:
    design = demo("marram")
    pad = named(design, "Front steering rack, bearing pad")
    made = part_of(pad, design).own
    face, d = made.shape.axes[2], made.bolts.bolt
    assert face[2] > 0.9
    takes = made.shape.pad.plate + (2.2 + 1.0) * d + 0.65 * d + max(1.6, 0.2 * d)
    x, y, z = (float(v) for v in made.shape.middle)

    def line(high: float) -> Any:
        room = look_round(work(with_block(design, "Front", "ceiling", [x - 200, y - 200, z + high], [x + 200, y + 200, z + high + 20], 2.0)), pad.id)  # fmt: skip
        (found,) = [one for joint in room.joints for one in joint.lines if one.what == "the bearing’s bolts"]
        return found

    assert line(400.0).state == "good"
    stuck = line(15.0)
    assert stuck.state == "stop"
    assert "do not come out" in stuck.told
    assert takes > 15.0


# --- the metal in bends ----------------------------------------------------------------------------------------------------------


def missed(places: Any, solids: Any) -> float:
    """How far the furthest of some places lies outside all of some solids."""
    worst = 0.0
    for at in places:
        point = Bar(np.array(at)[:, None], np.array(at)[:, None], 0.0)
        worst = max(worst, min(float(gap(point, solid, 1)[0]) for solid in solids))
    return worst


def footed(part: Part) -> Any:
    tab, outlines, footing = as_tabs(part)  # type: ignore[misc]
    return tab, outlines, footing


def test_all_of_a_folded_bracket_s_metal_is_looked_at_its_bends_with_it(mounted: Design) -> None:
    """Every place of the flat, folded, lies in what the room has of it; and no more than the corners' chords and squares is added."""
    folded = next(part for part in mounted.parts if isinstance(part, FoldedU))
    job = work(mounted)
    part = job.part(folded.id)
    assert part
    own, _, _ = own_at(job, folded.id)
    (made,), flat, one = part.own.joints, part.own.flat, part.own.stands[0].standing
    left, _, right, _ = flat.contour.bounds
    places = []
    for x in np.linspace(left + 1, right - 1, 41):
        for depth in (0.01, flat.bend.thickness / 2, flat.bend.thickness - 0.01):
            u, v, w = flat.folded(float(x), 0.0, depth)
            places.append(one.foot + u * one.bolt + v * one.x + w * one.y)
    solids = [piece.solid for piece in own.plates()]
    assert missed(places, solids) < 0.02
    # without what is in the bends some of it is missed
    bare = [piece.solid for piece in replace(own, footing=replace(own.footing, radius=0.0)).plates()]  # type: ignore[type-var]
    assert missed(places, bare) > 0.2
    # a radius off both faces it is free
    r, t = folded.radius_mm, folded.plate.mm
    for way in (1.0, -1.0):
        free = one.foot + way * (made.gap / 2 - r) * one.bolt + (t + r) * one.y
        assert missed([free], solids) == pytest.approx(r / 2**0.5, abs=0.01)


def test_all_of_an_angle_s_metal_is_looked_at(on_rail: Any) -> None:  # noqa: F811
    design, saved, part = on_rail
    own, _, _ = own_at(work(design), saved.id)
    (made,), flat, one = part.own.joints, part.own.flat, part.own.stands[0].standing
    left, _, right, _ = flat.contour.bounds
    places = []
    for x in np.linspace(left + 1, right - 1, 41):
        for depth in (0.01, saved.plate.mm - 0.01):
            u, v, w = flat.folded(float(x), 0.0, depth)
            for way in (1.0, -1.0):
                places.append(one.foot + way * (made.gap / 2 + u) * one.bolt + v * one.x + (w + saved.shim_mm) * one.y)
    assert missed(places, [piece.solid for piece in own.plates()]) < 0.02
    bare = replace(own, footing=replace(own.footing, radius=0.0))  # type: ignore[type-var]
    assert missed(places, [piece.solid for piece in bare.plates()]) > 0.2


@pytest.mark.parametrize("hooked", [False, True])
def test_all_of_a_joggled_and_hooked_plate_s_metal_is_looked_at_and_hardly_more(hooked: bool, mounted: Design) -> None:
    design, plate = held_by_a_plate(mounted)
    if hooked:
        plate = plate.model_copy(update={"flange_mm": 70.0, "foot_mm": 80.0})
        design = with_part(design, plate)
    part = part_of(plate, design)
    assert part.faults == (), part.faults
    (made,), (stand,), flat, one = part.own.joints, part.own.stands, part.own.flat, part.own.stands[0].standing
    assert flat.joggle is not None
    own = own_lapped(plate, part.own, made, stand)
    _, low, _, high = flat.contour.bounds
    solids, t = [piece.solid for piece in own.plates()], plate.plate.mm
    inside, off = [], []
    for y in np.linspace(low + 0.5, high - 0.5, 121):
        for depth in (0.01, t / 2, t - 0.01):
            along, up = flat.folded(float(y), depth)
            inside.append(one.foot + along * one.y + up * one.bolt)
        for depth in (-0.5, t + 0.5):  # half a millimetre off either face, where no other part of it is
            along, up = flat.folded(float(y), depth)
            off.append(one.foot + along * one.y + up * one.bolt)
    assert missed(inside, solids) < 0.02
    names = {piece.name for piece in own.plates()}
    assert names == {"its foot", "its tongue", "its joggle", *(["its hook"] if hooked else [])}
    free = [min(float(gap(Bar(at[:, None], at[:, None], 0.0), solid, 1)[0]) for solid in solids) for at in off]
    assert np.mean(np.array(free) > 0.2) > 0.9


def test_what_strikes_the_base_of_a_folded_bracket_is_told_how_much_taller_clears_it(mounted: Design) -> None:
    """A thicker base under the same joint: as much thinner as it says, it clears."""
    folded = next(part for part in mounted.parts if isinstance(part, FoldedU))
    job = work(mounted)
    own, seen, joint = own_at(job, folded.id)
    runs = runs_told(job, own, (joint, "it"), (seen, moving_things(job, seen)), [])
    swung, mount = swinging(own, runs, seen.lanes, hinge=own.stand.at.hinged), own_mount(seen, own)
    assert own.footing
    for thick in np.arange(10.0, 60.0, 5.0):
        thicker = replace(own, footing=replace(own.footing, thick=float(thick), radius=0.0))
        (line,) = [one for one in swings(thicker, seen, swung, mount, []) if one.to == "its base"] or [None]
        if line is not None and line.state != "good":
            break
    assert line is not None
    assert "mm more: move the mount away" in line.cure
    more = float(line.cure.split(" mm more")[0].split()[-1])
    for by, good in ((more + 0.05, True), (more - 0.3, False)):
        thinner = replace(own, footing=replace(own.footing, thick=float(thick) - by, radius=0.0))
        (then,) = [one for one in swings(thinner, seen, swung, mount, []) if one.to == "its base"] or [None]
        assert (then is None or (then.gap_mm or 0.0) >= WANTED) is good


# --- U-bolts ---------------------------------------------------------------------------------------------------------------------


def test_u_bolts_lie_round_the_axle_and_come_off_it_from_its_other_side() -> None:
    """Every place of a round bar bent half round the axle and running up to the nuts lies in what the room has; a bar that is in its way keeps it on."""
    design, saved = with_perch()
    seats = {part.id for part in design.parts if part.kind == "spring_seat"}
    design = design.model_copy(update={"parts": tuple(p for p in design.parts if p.id not in seats), "joints": tuple(j for j in design.joints if j.by not in seats)})  # fmt: skip
    part = part_of(saved, design)
    made = part.own
    assert isinstance(made, PerchMade)
    along, aside, out = made.shape.stands
    axle = made.shape.foot - made.shape.skin * out
    (x, y), d = made.perch.legs, made.perch.bolt
    assert y == pytest.approx((made.perch.od + d) / 2)
    solids = [piece.solid for piece in pieces_of(made.flats, PAD) if piece.name == "its U-bolts"]
    places = []
    for side in (1.0, -1.0):
        for turn in np.linspace(pi, 2 * pi, 25):
            for off in (0.0, 0.49 * d, -0.49 * d):
                places.append(axle + side * x * along + (y + off) * (cos(turn) * aside + sin(turn) * out))
        for high in np.linspace(0.0, 0.9 * float((made.shape.middle - axle) @ out), 5):
            places += [axle + side * x * along + way * y * aside + high * out for way in (1.0, -1.0)]
    assert missed(places, solids) < 0.01
    # nothing of them is inside the axle, or further off than they are thick
    for radius in (made.perch.od / 2 - 1.0, made.perch.od / 2 + d + 1.0):
        ring = [axle + x * along + radius * (cos(turn) * aside + sin(turn) * out) for turn in np.radians(range(190, 351, 10))]  # fmt: skip
        assert all(min(float(gap(Bar(at[:, None], at[:, None], 0.0), solid, 1)[0]) for solid in solids) > 0.0 for at in ring)  # fmt: skip
    (ways,) = {name for name, _ in made.ways}
    assert ways == "its U-bolts"
    for _, (way,) in made.ways:
        assert way.out == pytest.approx(-out)
        assert way.halves == (pytest.approx(y + d / 2), d / 2)
        assert way.long == pytest.approx(d + made.reaches, abs=0.6)
        assert hypot(*(float((way.face - axle) @ v) for v in (aside,))) < 1e-9
    far = made.perch.od / 2 + d + made.reaches
    # a slab square to the way, so far past all of them as is told; and what stands there of the car is found by the room
    for over in (5.0, 0.7):
        ((name, room, to),) = told(made.ways, slab(tuple(axle - (far + over) * out), tuple(out), "ceiling"))  # type: ignore[arg-type]
        assert (name, to) == ("its U-bolts", "ceiling")
        assert room == pytest.approx(over, abs=1e-6)
    (line,) = [one for joint in look_round(work(design), saved.id).joints for one in joint.lines if one.what == "its U-bolts" and one.sort == "bolt"]  # fmt: skip
    assert (line.state, line.to) == ("stop", "air spring, left")  # which hangs there
