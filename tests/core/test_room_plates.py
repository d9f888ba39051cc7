"""The room round pads and plates that lie on a face: distances by boxes and by hand, each verdict turned by a millimetre."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from tests.core.test_lapped import held_by_a_plate
from tests.core.test_loads import demo
from tests.core.test_room import own_at
from tests.jobs import part_of, with_part, work
from tirante.core.brackets.tools import spanner
from tirante.core.document.design import Design
from tirante.core.document.mounts import FlatMember, Mount, RoundMember
from tirante.core.document.parts.pad import PadPart
from tirante.core.errors import InputError
from tirante.core.job.bracket_map import plates_in_place
from tirante.core.job.room.around import moving_things, standing_things
from tirante.core.job.room.axes import Seen
from tirante.core.job.room.look import look_round
from tirante.core.job.room.own import own_mount
from tirante.core.job.room.plates import PAD, is_held, own_lapped, pieces_of
from tirante.core.job.room.reach import EASE
from tirante.core.job.room.room import Line
from tirante.core.parts.bracket.families.lapped import lapped_flats


def named(design: Design, name: str) -> PadPart:
    return next(part for part in design.parts if part.name == name)  # type: ignore[return-value]


def lines(design: Design, part_id: str) -> dict[str, Line]:
    room = look_round(work(design), part_id)
    return {line.to: line for one in room.joints for line in one.lines if line.sort in ("swing", "stands")}


def with_block(design: Design, end: str, name: str, low: list[float], high: list[float], wanted: float) -> Design:
    """A block to be cleared at an end, standing still on one side."""
    data = design.model_dump()
    for one in data["ends"]:
        if one["name"] == end:
            rest = [o for o in one["end"]["obstacles"] if o["name"] != name]
            block = {
                "name": name,
                "shape": {"kind": "block", "low": low, "high": high},
                "both_sides": False,
                "wanted_mm": wanted,
            }
            one["end"]["obstacles"] = [*rest, block]
    return Design.model_validate(data)


def corners_of(design: Design, part_id: str) -> list[np.ndarray[Any, Any]]:
    """Of every plate of a pad, all corners of both faces."""
    job = work(design)
    part = job.part(part_id)
    assert part
    found = []
    for _, flats in plates_in_place(job, part):
        for flat in flats:
            middle = flat.at + flat.outline[:, :1] * flat.x + flat.outline[:, 1:] * flat.y
            out = np.cross(flat.x, flat.y) * flat.thickness / 2
            found.append(np.concatenate([middle - out, middle + out]))
    return found


def test_a_block_beside_a_pad_is_as_far_as_it_is_and_a_millimetre_turns_each_verdict(mounted: Design) -> None:
    pad = named(mounted, "Rear bump stop, pad")
    every = corners_of(mounted, pad.id)
    behind = min(float(one[:, 0].min()) for one in every)  # the rearmost of its plates
    z = float(np.concatenate(every)[:, 2].mean())

    def at(gap: float, wanted: float = 8.0) -> Line:
        # of the axle's own body nothing is entered: a block of the chassis, looked at over the whole box, touches at ride at least
        design = with_block(
            mounted, "Rear", "box", [behind - 300.0, 470.0, z - 5.0], [behind - gap, 514.0, z + 5.0], wanted
        )
        return lines(design, pad.id)["box"]

    near = at(20.0)
    assert near.sort == "stands"
    assert near.gap_mm is not None
    more = near.gap_mm
    assert 10.0 < more < 21.0  # the axle moves to and fro as it rises: about ride it is 20
    assert at(20.0 - more - 1.0).state == "stop"
    assert at(20.0 - more + 1.0).state == "attention"
    assert at(20.0 - more + 8.5).state == "good"
    assert at(20.0 - more + 7.5).state == "attention"


def test_a_pad_of_the_chassis_stands_as_far_from_the_sump_as_the_drawing_has_it(mounted: Design) -> None:
    pad = named(mounted, "Front steering rack, bearing pad")
    every = np.concatenate(corners_of(mounted, pad.id))
    sump = [-120.0, 50.0], [-110.0, 110.0], [165.0, 320.0]
    off = [
        max(low - float(every[:, i].max()), float(every[:, i].min()) - high, 0.0) for i, (low, high) in enumerate(sump)
    ]
    found = lines(mounted, pad.id)["sump"]
    assert found.gap_mm == pytest.approx(float(np.hypot.reduce(off)), abs=0.01)
    assert (found.wanted_mm, found.state) == (15.0, "good")
    assert found.where == ""  # both stand still


def test_what_lies_in_a_pad_s_own_bearing_is_not_in_its_way_and_what_passes_it_is() -> None:
    design = demo("dunlin")
    pad = named(design, "Front anti-roll bar, bearing pad")
    job = work(design)
    joint = job.held_by(pad.id)[0]
    at = job.at_of(joint)
    assert at
    seen = Seen(job, at)
    every = moving_things(job, seen)
    held = {one.name for one in every if is_held(one, at, seen.ride)}
    assert held
    assert all("bar" in name for name in held)
    assert "tie rod" not in held
    assert held & {"bar arm"}
    assert not held & set(lines(design, pad.id))


def test_a_pad_moved_under_its_rail_is_told_where_in_the_travel_it_meets_it(mounted: Design) -> None:
    """As it was before anything looked: 22 mm further in, under the rail's edge."""
    data = mounted.model_dump()
    for one in data["ends"]:
        if one["name"] == "Rear":
            for name in ("stop_tip", "stop_pad"):
                x, _, z = one["end"]["points"][name]
                one["end"]["points"][name] = (x, 470.0, z)
    moved = Design.model_validate(data)
    pad = named(moved, "Rear bump stop, pad")
    met = lines(moved, pad.id)["Rear rail"]
    assert met.state == "stop"
    assert met.where.startswith("at +")  # in bump
    good = lines(mounted, pad.id)
    assert good["Rear rail"].state == "good"
    # what stands still beside it need only be clear of its weld, what moves by more
    assert good["Rear damper, lower eye, tabs"].wanted_mm == 0.5
    assert good["Rear rail"].wanted_mm == 2.0
    # and each plate is as thick as it is cut
    (placed,) = plates_in_place(work(mounted), part_of(pad, mounted))
    for flat, piece in zip(placed[1], pieces_of(placed[1], PAD), strict=True):
        assert piece.solid.half == flat.thickness / 2 == (pad.plate_mm if piece.name == "its plate" else pad.web_mm) / 2  # type: ignore[union-attr]


def test_a_pad_is_not_in_the_way_of_what_it_stands_on_and_says_what_is_not_looked_at(mounted: Design) -> None:
    for name, under in (
        ("Front bump stop, pad", "Front lower arm"),
        ("Rear bump stop, pad", "Axle tube"),
        ("Front steering rack, bearing pad", "Rack cross box"),
    ):
        pad = named(mounted, name)
        assert under not in lines(mounted, pad.id), name
        room = look_round(work(mounted), pad.id)
        assert any("above the pad" in one for one in room.not_looked_at)
        drawn = [line.what for joint in room.joints for line in joint.lines if line.sort == "bolt"]
        assert drawn == (["the bearing’s bolts"] if "bearing" in name else [])
    # nor is its twin's: the tube's mirror image is looked at, where it is another
    loose = named(mounted, "Rear bump stop, pad").model_copy(update={"end_id": None})
    with pytest.raises(InputError):
        look_round(work(with_part(mounted.model_copy(update={"joints": ()}), loose)), loose.id)


def test_a_lapped_plate_s_nut_stands_beyond_what_it_holds_and_its_head_behind_it(mounted: Design) -> None:
    design, plate = held_by_a_plate(mounted)
    part = part_of(plate, design)
    (made,), (stand,) = part.own.joints, part.own.stands
    own = own_lapped(plate, part.own, made, stand)
    bolt, half = stand.standing.bolt, made.held.row.ball_width_mm / 2 + made.beside

    def along(place: Any) -> float:
        return float((np.asarray(place)[:, 0] - stand.at.at) @ bolt)

    nut, head = own.nut(1.0).solid, own.nut(-1.0).solid
    assert sorted((along(nut.a), along(nut.b))) == pytest.approx([half, half + own.tail])  # type: ignore[union-attr]
    behind = half + plate.plate.mm
    assert sorted((along(head.a), along(head.b))) == pytest.approx(
        [-behind - own.hardware.head - own.hardware.washer, -behind]
    )  # type: ignore[union-attr]
    assert own.tail >= own.hardware.washer + own.hardware.nut
    # its tongue's face is beside the ball, and a spacer sets it off by as much
    tongue = own.plates()[1].solid
    assert along(tongue.at) == pytest.approx(-half - plate.plate.mm / 2, abs=0.03)  # type: ignore[union-attr]
    assert along(own.plates(4.0)[1].solid.at) == pytest.approx(-half - plate.plate.mm / 2 - 4.0, abs=0.03)  # type: ignore[union-attr]
    furthest = max(
        float(np.linalg.norm(flat.at + x * flat.x + y * flat.y - stand.at.at))
        for flat in lapped_flats(plate, part.own.flat, stand) for x, y in flat.outline
    )  # fmt: skip
    assert own.reach >= furthest


def test_what_swings_at_a_lapped_plate_and_what_stands_by_its_nut_are_looked_at(mounted: Design) -> None:
    design, plate = held_by_a_plate(mounted)
    room = look_round(work(design), plate.id)
    found = [line for one in room.joints for line in one.lines]
    assert any(line.sort == "swing" and line.to == "its tongue" for line in found)
    assert {line.what for line in found if line.sort == "torch"} >= {"a torch along the sides of its foot"}
    part = part_of(plate, design)
    (made,), (stand,) = part.own.joints, part.own.stands
    bolt = stand.standing.bolt
    own = own_lapped(plate, part.own, made, stand)
    end = made.held.row.ball_width_mm / 2 + made.beside + own.tail

    def wall_at(gap: float) -> Line:
        face = stand.at.at + (end + gap) * bolt
        wall = Mount(id="01900000-0000-7000-8000-00000000aaaa", name="Wall", shape=FlatMember(through=tuple(face), normal=tuple(-bolt), wall_mm=2.0), both_sides=False)  # fmt: skip
        more = design.model_copy(update={"mounts": (*design.mounts, wall)})
        every = [line for one in look_round(work(more), plate.id).joints for line in one.lines if line.to == "Wall"]
        return next(line for line in every if line.sort == "stands")

    assert wall_at(9.0).gap_mm == pytest.approx(9.0, abs=0.01)
    assert wall_at(9.0).state == "good"
    assert wall_at(0.3).state == "attention"
    assert wall_at(-1.0).state == "stop"


def test_the_bolt_of_a_lapped_plate_comes_out_behind_it_and_a_spanner_turns_beyond_what_it_holds(
    mounted: Design,
) -> None:
    """A wall across the bolt's line, moved by a millimetre past where the bolt's own head or a spanner ends: heads and lengths from the bolt's sizes."""
    design, plate = held_by_a_plate(mounted)
    part = part_of(plate, design)
    (made,), (stand,) = part.own.joints, part.own.stands
    own, bolt = own_lapped(plate, part.own, made, stand), stand.standing.bolt
    hex_, ring = own.hardware, spanner(own.hardware.flats)

    def tools_with(side: float, off: float) -> dict[str, Line]:
        face = stand.at.at + side * off * bolt
        wall = Mount(id="01900000-0000-7000-8000-00000000aaab", name="Wall", shape=FlatMember(through=tuple(face), normal=tuple(-side * bolt), wall_mm=2.0), both_sides=False)  # fmt: skip
        more = design.model_copy(update={"mounts": (*design.mounts, wall)})
        every = [line for one in look_round(work(more), plate.id).joints for line in one.lines]
        return {line.what: line for line in every if line.sort in ("bolt", "spanner")}

    half = made.held.row.ball_width_mm / 2 + made.beside
    # drawn out behind the plate until its end has left what is held: its whole length and its head
    out = half + plate.plate.mm + own.bolt_length + hex_.head
    assert tools_with(-1.0, out + 1.0)["the bolt"].state == "good"
    assert tools_with(-1.0, out - 1.0)["the bolt"].state == "stop"
    assert set(tools_with(-1.0, out + 1.0)) == {"the bolt", "spanner on the nut", "spanner on the head"}
    # a ring goes over the nut from its end, on the other side
    over = half + own.tail + ring.thick
    assert tools_with(1.0, over + 1.0)["spanner on the nut"].state == "good"
    # nearer an open one is slid on from the side, as long as its handle goes between
    beside = tools_with(1.0, over - 1.0)
    assert beside["spanner on the nut"].state == beside["spanner on the head"].state == "good"
    assert "an open spanner alone goes on the nut" in beside["spanner on the nut"].told
    between = half + hex_.washer + ring.thick + EASE
    assert tools_with(1.0, between + 0.5)["spanner on the nut"].state == "good"
    assert tools_with(1.0, between - 0.5)["spanner on the nut"].state == "stop"
    # and over the head behind the plate
    head = half + plate.plate.mm + hex_.washer + hex_.head + ring.thick
    assert tools_with(-1.0, head + 1.0)["spanner on the head"].state == "good"
    assert "an open spanner alone" in tools_with(-1.0, head - 1.0)["spanner on the head"].told
    behind = half + plate.plate.mm + hex_.washer + ring.thick + EASE
    assert tools_with(-1.0, behind - 0.5)["spanner on the head"].state == "stop"
    assert tools_with(-1.0, behind + 0.5)["spanner on the head"].state == "good"


def test_a_flat_that_moves_with_either_corner_stands_still_under_both_their_brackets() -> None:
    """One flat entered on the left goes on to the right: it is of the knuckle on whose side it is looked round."""
    design = demo("plover")
    job = work(design)
    for name in ("Front track rod, end A, tabs", "Front track rod, end B, tabs"):
        tab = named(design, name)
        own, seen, _ = own_at(job, tab.id)
        mount = own_mount(seen, own)
        assert mount.body == seen.body
        assert float(np.ptp(np.broadcast_to(mount.solid.middle, (3, seen.lanes)), axis=1).max()) < 1e-9  # type: ignore[union-attr]
    assert look_round(job, tab.id).joints


def test_a_rack_s_housing_stands_in_the_room_of_others_and_not_of_its_own_pad(mounted: Design) -> None:
    """As far from the plates beside it as their outlines, both faces, are from a round bar across the car."""
    tab = named(mounted, "Front lower arm, front pivot, tabs")
    job = work(mounted)
    own, seen, _ = own_at(job, tab.id)
    rack = named(mounted, "Front steering rack")
    inner = job.ends[rack.end_id].points["tie_inner"]  # type: ignore[attr-defined]
    best = np.inf
    for piece in own.plates():
        prism = piece.solid
        ring = np.concatenate([np.linspace(a, b, 40) for a, b in zip(prism.outline, np.roll(prism.outline, -1, axis=0), strict=True)])  # fmt: skip
        for face in (-1.0, 1.0):
            places = prism.at[:, :1] + prism.x[:, :1] * ring[:, 0] + prism.y[:, :1] * ring[:, 1] + face * prism.half * prism.z[:, :1]  # fmt: skip
            best = min(best, float(np.hypot(places[0] - inner[0], places[2] - inner[2]).min()) - rack.housing_mm / 2)  # type: ignore[attr-defined]
    found = next(line for joint in look_round(job, tab.id).joints for line in joint.lines if line.to == rack.name and line.sort == "stands")  # fmt: skip
    assert found.gap_mm == pytest.approx(best, abs=0.02)
    pad = named(mounted, "Front steering rack, bearing pad")
    assert rack.name not in lines(mounted, pad.id)
    # of another end, or steered by an arm, it stands nowhere here
    assert [thing.name for thing in standing_things(job, seen, tab.id, ("", False), pair=False) if thing.name == rack.name] == [rack.name]  # fmt: skip
    rear = named(mounted, "Rear lower link, end A, tabs")
    _, behind, _ = own_at(job, rear.id)
    assert rack.name not in {thing.name for thing in standing_things(job, behind, rear.id, ("", False), pair=False)}


def test_the_room_round_a_rack_is_its_housing_s() -> None:
    """A rail of the frame under it, as far off as two straight lines are from one another less both radii; a millimetre past touching turns the verdict."""
    design = demo("marram")
    rack = named(design, "Front steering rack")
    rail = next(one for one in design.mounts if one.name == "Front lower rail")
    shape = rail.shape
    assert isinstance(shape, RoundMember)
    inner = work(design).ends[rack.end_id].points["tie_inner"]  # type: ignore[attr-defined]

    def off(lower: float) -> float:
        a, b = (np.array(end) - (0.0, 0.0, lower) for end in (shape.a, shape.b))
        square = np.cross(b - a, (0.0, 1.0, 0.0))
        return (
            float(abs((np.array(inner) - a) @ square) / np.linalg.norm(square)) - shape.od_mm / 2 - rack.housing_mm / 2
        )  # type: ignore[attr-defined]

    def told(lower: float) -> Line:
        moved = shape.model_copy(update={name: (p[0], p[1], p[2] - lower) for name, p in (("a", shape.a), ("b", shape.b))})  # fmt: skip
        mounts = tuple(one.model_copy(update={"shape": moved}) if one.id == rail.id else one for one in design.mounts)
        (joint,) = look_round(work(design.model_copy(update={"mounts": mounts})), rack.id).joints
        names = [line.to for line in joint.lines]
        # what it moves itself, and the pads that carry it, are no obstacle to it
        assert not [name for name in names if "tie" in name or "bearing pad" in name]
        return next(line for line in joint.lines if line.to == rail.name)

    touches = -off(0.0)  # how much lower the rail would have to lie to touch it, or higher
    for clear in (0.3, 1.0, 6.0):
        line = told(touches + clear)
        assert line.gap_mm == pytest.approx(off(touches + clear), abs=0.02)
        assert line.state == ("attention" if line.gap_mm < 0.5 else "good")
    assert told(touches - 1.0).state == "stop"
