"""Spanners on bolts that are not the joint's own: how they go on and turn against closed forms, and where the hexagons are that they turn on."""

from __future__ import annotations

from dataclasses import replace
from math import cos, radians, sin
from typing import Any

import numpy as np
import pytest

from tests.core.test_angle_bracket import on_rail  # noqa: F401 - a fixture
from tests.core.test_leaf_perch import with_perch
from tests.core.test_loads import demo
from tests.core.test_room_plates import named, with_block
from tests.core.test_split_clamp import OD, sized
from tests.jobs import part_of, work
from tirante.core.brackets.tools import flats_of, hexagon_on, jaw, socket, spanner
from tirante.core.document.design import Design
from tirante.core.document.fields import Length
from tirante.core.geometry.convex import Prism
from tirante.core.job.room.look import look_round
from tirante.core.job.room.reach import EASE, STEP, Fixed, turn_about
from tirante.core.job.room.spanners import hardest
from tirante.core.parts.bracket.families.angle_bracket import ANGLE_BRACKET, feet_of
from tirante.core.parts.bracket.families.split_clamp import SPLIT_CLAMP
from tirante.core.parts.registry import PADS

UP, ORIGIN = np.array([0.0, 0.0, 1.0]), np.zeros(3)
NUT = hexagon_on(ORIGIN, UP, 12.0, nut=True)
WIDE = np.array([(-500.0, -500.0), (500.0, -500.0), (500.0, 500.0), (-500.0, 500.0)])


def slab(at: tuple[float, float, float], out: tuple[float, float, float], name: str = "wall", outline: Any = WIDE) -> Fixed:  # fmt: skip
    """A slab of 10 mm whose face passes a place and looks a way."""
    z = np.array(out, float)
    x = np.cross(z, [0.3, 0.5, 0.81])
    x /= np.linalg.norm(x)
    middle = np.array(at) - 5.0 * z
    return Fixed(name=name, solid=Prism(outline, middle[:, None], x[:, None], np.cross(z, x)[:, None], z[:, None], 5.0))


def test_a_nut_stands_as_tall_as_it_is_and_its_tools_are_as_large_as_its_flats_ask() -> None:
    assert (NUT.flats, NUT.washer, NUT.tall) == pytest.approx((18.0, 2.4, 2.4 + 1.2 * 12))
    assert hexagon_on(ORIGIN, UP, 12.0, nut=False).tall == pytest.approx(2.4 + 0.65 * 12)
    assert flats_of(11.0) == 16.5  # none is made: one and a half diameters
    for way in (NUT.x, NUT.y):
        assert abs(float(way @ UP)) < 1e-12
        assert np.linalg.norm(way) == pytest.approx(1.0)


def test_under_a_ceiling_a_socket_then_a_ring_then_an_open_spanner_go_on_and_then_none() -> None:
    tool = spanner(18.0)
    over = [NUT.tall + socket(18.0)[1] + EASE, NUT.tall + tool.thick + EASE, NUT.washer + tool.thick + EASE]
    wanted = [(True, True, None), (False, True, None), (False, False, 360.0), (False, False, None)]
    for i, (by_socket, by_ring, opened) in enumerate(wanted):
        for high in {over[i] + 0.1 if i < 3 else over[2] - 0.1, over[i - 1] - 0.1 if i else over[0] + 20.0}:
            found = turn_about(NUT, [slab((0.0, 0.0, high), (0.0, 0.0, -1.0))])
            assert found.socket == by_socket, high
            assert (found.on.gap > EASE) == by_ring, high
            assert found.open == opened, high
            assert found.turns == found.holds == (i < 3), high


def test_beside_a_wall_a_handle_is_free_where_it_does_not_reach_it() -> None:
    """A wall d beside the nut: a handle L long and w wide reaches L cos θ + w/2 sin θ toward it."""
    tool, d = spanner(18.0), 60.0
    found = turn_about(NUT, [slab((d, 0.0, 50.0), (-1.0, 0.0, 0.0))])
    to_wall = np.degrees(np.arctan2(float(NUT.y[0]), float(NUT.x[0])))  # where the wall is, counted as the handle is
    reach = [max(tool.length * cos(radians(t - to_wall)) + s * tool.width / 2 * sin(radians(t - to_wall)) for s in (1, -1)) for t in np.arange(0.0, 360.0, STEP)]  # fmt: skip
    free = [max(one, tool.width / 2) < d - EASE for one in reach]
    assert found.arc == sum(free) * STEP  # one run
    assert 200 < found.arc < 330
    assert found.socket  # above it nothing is
    assert found.blocked == "wall"


def test_an_open_spanner_is_slid_on_where_there_is_way_enough_for_its_jaws() -> None:
    """Under a ceiling between two walls: from their open ends, as long as they stand further apart than its jaws are wide."""
    radius, _ = jaw(18.0)
    low = NUT.washer + spanner(18.0).thick + EASE + 1.0

    def between(apart: float) -> Any:
        walls = [slab((way * apart / 2, 0.0, 0.0), (-way, 0.0, 0.0), f"web {way:g}") for way in (1.0, -1.0)]
        return turn_about(NUT, [slab((0.0, 0.0, low), (0.0, 0.0, -1.0), "plate"), *walls])

    wide, tight = between(2 * (radius + EASE) + 0.2), between(2 * (radius + EASE) - 0.2)
    assert wide.open is not None
    assert wide.holds
    assert tight.open is None
    assert not tight.holds
    # two runs of the handle, one to either open end: it turns in one of them, as far as that goes
    tool, half = spanner(18.0), radius + EASE + 0.1
    swing = [t for t in np.arange(-90.0, 90.0, STEP) if tool.length * abs(sin(radians(t))) + tool.width / 2 * cos(radians(t)) < half - EASE]  # fmt: skip
    assert wide.open == pytest.approx(len(swing) * STEP, abs=2 * STEP)
    assert not wide.turns  # so little that it takes no next bite
    assert between(260.0).turns


def test_an_open_spanner_s_jaws_go_through_a_gate_and_it_turns_where_it_turns_furthest() -> None:
    radius, _ = jaw(18.0)
    low = slab((0.0, 0.0, NUT.washer + spanner(18.0).thick + EASE + 1.0), (0.0, 0.0, -1.0), "plate")

    def block(x: tuple[float, float], y: tuple[float, float], name: str) -> Fixed:
        outline = np.array([(x[0], y[0]), (x[1], y[0]), (x[1], y[1]), (x[0], y[1])])
        one, two, three = (axis[:, None] for axis in np.eye(3))
        return Fixed(name=name, solid=Prism(outline, np.zeros((3, 1)), one, two, three, 40.0))

    def gate(apart: float) -> Any:
        pocket = [block((-70.0, 400.0), (60.0, 80.0), "left"), block((-70.0, 400.0), (-80.0, -60.0), "right"), block((-90.0, -70.0), (-80.0, 80.0), "back")]  # fmt: skip
        posts = [block((90.0, 100.0), tuple(sorted((way * apart / 2, way * 60.0))), "gate") for way in (1.0, -1.0)]  # type: ignore[arg-type]  # fmt: skip
        return turn_about(NUT, [low, *pocket, *posts])

    assert gate(2 * (radius + EASE) + 0.2).open is not None
    assert gate(2 * (radius + EASE) - 0.2).open is None  # its handle would go through, its jaws do not
    # tight on one side and open on the other, it is turned on the open one
    near = radius + EASE + 0.3
    tight = [block((10.0, 400.0), (near, near + 300.0), "one"), block((10.0, 400.0), (-near - 300.0, -near), "two")]
    both = turn_about(NUT, [low, *tight])
    assert both.open is not None
    assert both.open > 120
    assert both.turns


def test_of_several_the_one_that_is_reached_worst_is_told_and_none_stands_in_its_own_way() -> None:
    other = hexagon_on(np.array([200.0, 0.0, 0.0]), UP, 12.0, nut=True)
    itself = slab((0.0, 0.0, NUT.tall), (0.0, 0.0, 1.0), "its own block", np.array([(-12.0, -12.0), (12.0, -12.0), (12.0, 12.0), (-12.0, 12.0)]))  # fmt: skip
    over = slab((200.0, 0.0, 10.0), (0.0, 0.0, -1.0), "beam", np.array([(-30.0, -30.0), (30.0, -30.0), (30.0, 30.0), (-30.0, 30.0)]))  # fmt: skip
    itself = replace(itself, own=True)
    ((name, turn, where),) = hardest([("nuts", NUT), ("nuts", other)], lambda lane: [itself, over] if lane else [itself], ((1, "here"),))  # fmt: skip
    assert (name, where) == ("nuts", "here")
    assert turn.on.to == "beam"
    assert not turn.turns
    ((_, easier, there),) = hardest([("nuts", NUT), ("nuts", other)], lambda lane: [itself, over] if lane else [itself], ((1, "here"), (0, "there")))  # fmt: skip
    assert there == "there"
    assert easier.turns


# --- where they are ------------------------------------------------------------------------------------------------------------


def test_the_hexagons_of_a_clamp_lie_on_its_shoulders_and_behind_its_other_halves(mounted: Design) -> None:
    design, saved = sized(mounted)
    part = part_of(saved, design)
    made, stand = part.own.joints[0], part.own.stands[0]
    middle = np.array([*stand.standing.foot[:2], stand.standing.foot[2] - OD / 2])
    found = SPLIT_CLAMP.hexagons(saved, made, stand)
    places = {(name, *np.round(one.face - middle, 6), round(float(one.out[2]))) for name, one in found}
    along, across = (made.gap + saved.plate.mm) / 2, saved.apart_mm
    assert places == {
        (name, round(a * along, 6), b * across, level, way)
        for a in (1.0, -1.0) for b in (1.0, -1.0)
        for name, level, way in (("nuts of the clamp’s bolts", saved.shoulder_mm, 1), ("heads of the clamp’s bolts", -saved.cap_mm, -1))
    }  # fmt: skip
    room = look_round(work(design), saved.id).joints[0]
    spans = {line.what: line for line in room.lines if line.sort == "spanner"}
    assert spans["spanner on the nuts of the clamp’s bolts"].state == "good"
    assert spans["spanner on the heads of the clamp’s bolts"].state == "good"
    assert "what it holds taken out" in spans["spanner on the heads of the clamp’s bolts"].where
    # an ear that is wider than its proportions leaves no way on, though its nuts lie beside it
    fat = saved.model_copy(
        update={"head_radius": Length(mm=36.0), "edge": Length(mm=36.0), "base_width": Length(mm=40.0)}
    )
    told = look_round(work(design.model_copy(update={"parts": tuple(fat if p.id == saved.id else p for p in design.parts)})), saved.id)  # fmt: skip
    assert next(line for line in told.joints[0].lines if line.what == "spanner on the nuts of the clamp’s bolts").state == "stop"  # fmt: skip


def test_the_hexagons_of_feet_lie_on_their_bolts(on_rail: Any) -> None:  # noqa: F811
    _, saved, part = on_rail
    made, stand = part.own.joints[0], part.own.stands[0]
    one, feet = stand.standing, feet_of(saved, made.gap)
    for through in (0.0, saved.through_mm or 60.0):
        bolted = saved.model_copy(update={"through_mm": through})
        found = ANGLE_BRACKET.hexagons(bolted, made, stand)
        assert len(found) == (8 if through else 4)
        for name, hexagon in found:
            off = hexagon.face - one.foot
            # as the bolts' own check has them: beside the middle of either ear by their lever
            assert abs(float(off @ one.bolt)) == pytest.approx(feet.between + feet.lever)
            assert abs(float(off @ one.x)) == pytest.approx(feet.apart / 2)
            head = name == "heads of its feet’s bolts"
            assert float(off @ one.y) == pytest.approx(saved.plate.mm + saved.shim_mm if head else -through)
            assert float(hexagon.out @ one.y) == pytest.approx(1.0 if head else -1.0)
            assert hexagon.held != head


def pads() -> list[tuple[Design, str, str]]:
    marram, quay = demo("marram"), demo("quay")
    leafy, perch = with_perch()
    return [
        (marram, next(p.id for p in marram.parts if p.kind == "bearing_pad"), "nuts under the pad"),  # type: ignore[attr-defined]
        (quay, next(p.id for p in quay.parts if p.kind == "spring_seat" and p.stud_mm), "nuts of its studs"),  # type: ignore[attr-defined]
        (leafy, perch.id, "nuts of its U-bolts"),
    ]  # fmt: skip


@pytest.mark.parametrize("which", [0, 1, 2])
def test_the_hexagons_of_pads_lie_over_the_holes_that_are_drilled(which: int) -> None:
    design, part_id, name = pads()[which]
    part = work(design).part(part_id)
    assert part
    made, saved = part.own, part.saved
    along, across, face = made.shape.axes
    if which == 2:
        outline = next(piece.outline for piece in part.pieces if piece.name == "plate over the leaf")
        level, wide = made.stack + made.perch.top, made.perch.bolt
    else:
        outline = PADS[saved.kind].outline(saved, made)
        level, wide = -saved.plate_mm, made.bolts.bolt if which == 0 else saved.stud_mm
    holes = {(round(h.x, 3), round(h.y, 3)) for h in outline.holes if 0 < h.diameter - wide < 1.6}
    found = set()
    for own, one in made.hexagons:
        assert own == name
        off = one.face - made.shape.middle
        assert float(off @ face) == pytest.approx(level)
        assert float(one.out @ face) == pytest.approx(1.0 if which == 2 else -1.0)
        assert one.flats == flats_of(wide)
        assert one.held == (which == 0)  # of a bearing's bolts the heads are turned; a stud and a U-bolt have none
        found.add((round(float(off @ along), 3) + 0.0, round(float(off @ across), 3) + 0.0))
    assert found == {(x + 0.0, y + 0.0) for x, y in holes}
    assert len(found) == (4 if which == 2 else len(made.hexagons))
    room = look_round(work(design), part_id)
    assert any(line.what == f"spanner on the {name}" and line.state == "good" for one in room.joints for line in one.lines)  # fmt: skip


def test_a_block_before_the_nuts_of_a_rack_s_pad_keeps_a_spanner_off() -> None:
    """Filled up between webs and rail from both open ends no spanner is slid in; a way as wide as its jaws lets it."""
    marram = demo("marram")
    pad = named(marram, "Front steering rack, bearing pad")
    made = work(marram).part(pad.id).own  # type: ignore[union-attr]
    faces = np.array([one.face for _, one in made.hexagons])
    low, high = faces.min(axis=0) - 400.0, faces.max(axis=0) + 400.0
    low[2], high[2] = faces[:, 2].min() - 60.0, faces[:, 2].max()

    def told(design: Design) -> Any:
        every = [line for one in look_round(work(design), pad.id).joints for line in one.lines]
        return next(line for line in every if line.what == "spanner on the nuts under the pad")

    assert told(marram).state == "good"
    stuffed = with_block(marram, marram.ends[0].name, "foam", [float(v) for v in low], [float(v) for v in high], 0.0)
    assert told(stuffed).state == "stop"
    assert "foam" in told(stuffed).told
