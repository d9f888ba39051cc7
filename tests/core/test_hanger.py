"""Hangers: the hub found again in the car from their printed figures alone, rails by lines along their own surfaces, advice followed."""

from __future__ import annotations

from math import cos, hypot, pi, radians, sin

import numpy as np
import pytest
from numpy.typing import NDArray

from tests.conftest import ROOT
from tests.jobs import work
from tirante.core.document.design import Design
from tirante.core.document.mounts import BoxMember, Mount, RoundMember
from tirante.core.document.parts.hanger import Hanger
from tirante.core.document.upgrades import load_design
from tirante.core.drawing.model import Text
from tirante.core.errors import InputError
from tirante.core.job.lay_jigs import hanger_for
from tirante.core.job.memory import Memory
from tirante.core.job.worked import Worked
from tirante.core.parts.hanger.rails import Rails, rails_of
from tirante.core.parts.kind import ViewAsked
from tirante.core.parts.numbers import numbers_of
from tirante.core.parts.part import BoughtPiece, Part, PlatePiece, TubePiece, TurnedPiece
from tirante.core.parts.registry import kind_of
from tirante.core.suspension.measures import spin_axis

Array = NDArray[np.float64]
ID = "0190a000-0000-7000-8000-00000000cc{:02d}"
MEMORY = Memory()


def demo(name: str) -> Design:
    return load_design((ROOT / f"data/demo/{name}.json").read_bytes())


def hung(name: str, end: int = 0, **more: object) -> tuple[Worked, Part]:
    design = demo(name)
    one = Hanger(id=ID.format(1), name="hub hanger", end_id=design.ends[end].id, **more)  # type: ignore[arg-type]
    job = work(design.model_copy(update={"parts": (*design.parts, one)}), MEMORY)
    part = job.part(one.id)
    assert part is not None
    return job, part


def shown(job: Worked, part: Part) -> list[str]:
    drawing = kind_of(part.saved).draw(part, ViewAsked(name="drawing"), numbers_of(job.settings, "mm"))
    return [one.text for one in drawing.items if isinstance(one, Text)]


@pytest.mark.parametrize(
    ("name", "end", "face", "more"),
    [
        ("tern", 0, 30.0, {}), ("dunlin", 0, 30.0, {"camber_deg": -4.0, "toe_deg": 1.5}), ("marram", 0, 42.0, {"face_mm": 42.0, "studs": 4, "first_deg": 20.0}),
        ("marram", 1, -15.0, {"face_mm": -15.0}),
    ],
)  # fmt: skip
def test_the_hub_that_hangs_by_the_printed_figures_stands_where_the_end_has_it(
    name: str, end: int, face: float, more: dict[str, object]
) -> None:
    job, part = hung(name, end, **more)
    assert part.complete, part.faults
    assert part.card is not None
    figures = {one.label: one for one in part.card.figures}
    half = round(figures["Plates apart, inside"].mm, 2) / 2
    drop = round(figures["Beam’s lower side to the hub’s middle"].mm, 2)
    assert figures["Diagonal, either way"].mm == pytest.approx(hypot(2 * half, drop), abs=0.02)
    made = part.own
    under = made.rails.top + part.saved.blocks_mm  # type: ignore[attr-defined]
    rows = shown(job, part)
    assert "on the right, studs count the other way round" in rows
    studs = []
    for one in made.face.holes:
        at = rows.index(str(one.number), rows.index("washers"))
        ahead, height, washers = (
            0.0 if text == "none" else float(text.replace("−", "-")) for text in rows[at + 1 : at + 4]
        )
        assert under - figures[f"Stud {one.number}, under the beam"].mm == pytest.approx(height, abs=0.02)
        studs.append((made.x + ahead, half - washers, height))
    at = np.array(studs)
    middle = at.mean(axis=0)
    _, _, ways = np.linalg.svd(at - middle)
    normal = ways[2] if ways[2][1] > 0 else -ways[2]
    wheel = job.ends[part.saved.of_end or ""].wheel
    camber, toe = (more.get("camber_deg", wheel.camber_deg), more.get("toe_deg", wheel.toe_deg))
    assert np.degrees(np.arctan2(-normal[2], normal[1])) == pytest.approx(camber, abs=0.05)
    assert np.degrees(np.arctan2(normal[0], normal[1])) == pytest.approx(toe, abs=0.05)
    assert middle[2] == pytest.approx(under - drop, abs=0.02)
    wanted = np.array(job.ends[part.saved.of_end or ""].points["wheel_centre"])
    assert middle - face * np.array(spin_axis(float(camber), float(toe), 1.0)) == pytest.approx(wanted, abs=0.03)  # type: ignore[arg-type]


def surface_at(mount: Mount, x: float) -> Array:
    """Where a member's own surface crosses an upright plane across the car: by lines along it."""
    shape = mount.shape
    assert not hasattr(shape, "normal")
    a, b = np.array(shape.a), np.array(shape.b)
    way = (b - a) / np.linalg.norm(b - a)
    if isinstance(shape, RoundMember):
        one = np.cross(way, [0.0, 0.0, 1.0])
        one /= np.linalg.norm(one)
        angles = np.linspace(0, 2 * pi, 7201)
        off = shape.od_mm / 2 * (np.cos(angles)[:, None] * one + np.sin(angles)[:, None] * np.cross(one, way))
    else:
        assert isinstance(shape, BoxMember)
        up = np.array(shape.up) - (np.array(shape.up) @ way) * way
        up /= np.linalg.norm(up)
        side = np.cross(up, way)
        off = np.array([i * shape.height_mm / 2 * up + j * shape.width_mm / 2 * side for i in (1, -1) for j in (1, -1)])
    on = a + off
    found: Array = on + ((x - on[:, 0]) / way[0])[:, None] * way
    return found


@pytest.mark.parametrize(
    "shape",
    [
        RoundMember(a=(330.0, 258.0, 482.0), b=(-420.0, 300.0, 400.0), od_mm=50.8),
        BoxMember(a=(300.0, 330.0, 520.0), b=(-700.0, 400.0, 470.0), width_mm=76.0, height_mm=100.0),
        BoxMember(
            a=(-700.0, 400.0, 470.0), b=(300.0, 330.0, 520.0), up=(0.1, 0.05, 1.0), width_mm=40.0, height_mm=60.0
        ),
    ],
)
def test_a_rail_s_top_and_outer_side_are_where_its_own_surface_crosses_the_beam(
    shape: RoundMember | BoxMember,
) -> None:
    mount = Mount(id=ID.format(7), name="rail", shape=shape)
    found = rails_of(Hanger(id=ID.format(1), name="h", end_id=ID.format(2)), [mount], -20.0)
    assert isinstance(found, Rails)
    on = np.vstack([surface_at(mount, x) for x in (-20.0 - 30.0, -20.0 + 30.0)])  # under both edges of a beam of 60 mm
    assert found.top == pytest.approx(float(np.max(on[:, 2])), abs=1e-3)
    assert found.apart == pytest.approx(2 * float(np.max(on[:, 1])), abs=1e-3)


def test_of_several_rails_the_highest_is_taken_and_typed_ones_go_before() -> None:
    low, high = (
        Mount(id=ID.format(i), name=name, shape=RoundMember(a=(300.0, y, z), b=(-300.0, y, z), od_mm=40.0))
        for i, name, y, z in ((7, "low", 300.0, 200.0), (8, "high", 250.0, 480.0))
    )
    past = Mount(
        id=ID.format(9), name="past", shape=RoundMember(a=(300.0, 200.0, 900.0), b=(100.0, 200.0, 900.0), od_mm=40.0)
    )
    one_side = high.model_copy(update={"name": "one side", "both_sides": False, "shape": high.shape.model_copy(update={"a": (300.0, 250.0, 700.0), "b": (-300.0, 250.0, 700.0)})})  # fmt: skip
    steep = past.model_copy(update={"shape": RoundMember(a=(0.0, 200.0, 100.0), b=(1.0, 200.0, 900.0), od_mm=40.0)})
    tool = Hanger(id=ID.format(1), name="h", end_id=ID.format(2))
    found = rails_of(tool, [low, past, high, one_side, steep], 0.5)
    assert found == Rails(top=500.0, apart=540.0, name="high")
    typed = rails_of(tool.model_copy(update={"rail_top_mm": 610.0}), [low, high], 0.0)
    assert isinstance(typed, Rails)
    assert (typed.top, typed.apart) == (610.0, 540.0)
    none = rails_of(tool, [past, one_side], 0.0)
    assert not isinstance(none, Rails)
    assert (none.field, "Give the rails’ tops" in none.message) == ("rail_top_mm", True)
    half = rails_of(tool.model_copy(update={"rail_top_mm": 610.0}), [past], 0.0)
    assert not isinstance(half, Rails)
    assert half.field == "rail_out_mm"


def test_pieces_reach_from_the_beam_to_the_plate_and_past_it_and_washers_are_for_both_hubs() -> None:
    _, part = hung("tern", past_mm=25.0, plate_mm=8.0, tube_mm=40.0, beam_mm=70.0, lap_mm=55.0)
    made, saved = part.own, part.saved
    assert isinstance(saved, Hanger)
    tubes = {one.name: one for one in part.pieces if isinstance(one, TubePiece)}
    half = (114.3 / 2) + 30.0
    assert tubes["beam, marked FRONT"].length == pytest.approx(2 * (made.half + 8.0 + 40.0 + 25.0))
    assert (tubes["hanging tube"].length, tubes["hanging tube"].count) == (pytest.approx(made.drop - half), 2)
    plate = next(one for one in part.pieces if isinstance(one, PlatePiece))
    assert plate.count == 2
    assert plate.outline is not None
    low, top = plate.outline.bounds[1], plate.outline.bounds[3]
    assert (made.face.height - low, top - made.face.height) == (pytest.approx(half), pytest.approx(half + 55.0))
    lug = next(one for one in part.pieces if isinstance(one, TurnedPiece))
    assert (lug.count, f"its face {made.rails.apart / 2:.1f} mm from the beam’s middle" in lug.what) == (2, True)
    washers = [one for one in part.pieces if isinstance(one, BoughtPiece)]
    assert washers
    assert {one.count for one in washers} == {2}


def test_a_beam_that_lies_too_low_says_on_which_blocks_it_goes_and_on_those_it_does() -> None:
    _, low = hung("dunlin", rail_top_mm=400.0, rail_out_mm=520.0)
    assert [one.field for one in low.faults] == ["blocks_mm"]
    told = float(low.faults[0].message.split("blocks ")[1].split(" mm")[0])
    _, good = hung("dunlin", rail_top_mm=400.0, rail_out_mm=520.0, blocks_mm=told)
    assert good.complete, good.faults
    _, still = hung("dunlin", rail_top_mm=400.0, rail_out_mm=520.0, blocks_mm=told - 0.2)
    assert [one.field for one in still.faults] == ["blocks_mm"]
    # from blocks that are there already the advice is the whole height
    _, some = hung("dunlin", rail_top_mm=400.0, rail_out_mm=520.0, blocks_mm=told / 2)
    assert float(some.faults[0].message.split("blocks ")[1].split(" mm")[0]) == told
    _, wide = hung("dunlin", rail_out_mm=1600.0)
    assert [one.field for one in wide.faults] == ["rail_out_mm"]


def test_what_of_the_frame_goes_through_the_beam_is_named_and_rails_under_it_are_not() -> None:
    design = demo("dunlin")
    _, shut = hung("dunlin")
    assert shut.own.in_the_way == ("Damper cross box",)  # 40 mm high about 500, and the rails are no higher than that
    _, clear = hung("dunlin", blocks_mm=30.0)
    assert not clear.lacks
    top = clear.own.under
    tube = Mount(
        id=ID.format(7),
        name="strut brace",
        both_sides=False,
        shape=RoundMember(a=(0.0, 300.0, top + 20.0), b=(0.0, -300.0, top + 20.0), od_mm=40.0),
    )
    one = Hanger(id=ID.format(1), name="h", end_id=design.ends[0].id)

    def with_(mount: Mount, **more: object) -> Part:
        found = work(
            design.model_copy(update={"parts": (one.model_copy(update=more),), "mounts": (*design.mounts, mount)}),
            MEMORY,
        ).part(one.id)
        assert found is not None
        return found

    assert with_(tube, blocks_mm=30.0).own.in_the_way == ("strut brace",)
    assert any("strut brace goes through" in note for note in with_(tube, blocks_mm=30.0).notes)
    far = tube.model_copy(
        update={"shape": RoundMember(a=(60.0, 300.0, top + 20.0), b=(60.0, -300.0, top + 20.0), od_mm=40.0)}
    )
    assert not with_(far, blocks_mm=30.0).lacks  # 60 − 30 of the beam is more than its radius
    # a box that stands on edge reaches into it with its edge alone, however far its middle is
    edge = BoxMember(a=(0.0, 300.0, top - 45.0), b=(0.0, -300.0, top - 45.0), width_mm=20.0, height_mm=100.0)
    assert with_(tube.model_copy(update={"shape": edge}), blocks_mm=30.0).lacks
    low = edge.model_copy(update={"a": (0.0, 300.0, top - 50.0), "b": (0.0, -300.0, top - 50.0)})
    assert not with_(tube.model_copy(update={"shape": low}), blocks_mm=30.0).lacks  # it only touches
    assert not with_(tube, blocks_mm=30.0 + 41.0).lacks  # its top is 40 over where the beam lay


def test_an_end_has_one_hanger_and_one_of_an_end_that_is_gone_says_so() -> None:
    design = demo("tern")
    job = work(design, MEMORY)
    made = hanger_for(job, design.ends[0].id, ID.format(1))
    with pytest.raises(InputError, match="has a hanger already"):
        hanger_for(
            work(design.model_copy(update={"parts": (*design.parts, made)}), MEMORY), design.ends[0].id, ID.format(2)
        )
    with pytest.raises(InputError, match="not there any more"):
        hanger_for(job, ID.format(55), ID.format(2))


def test_without_a_rim_the_face_is_taken_in_the_wheel_s_middle_and_that_is_said() -> None:
    _, part = hung("marram")
    assert any("is not known and taken as nothing" in note for note in part.notes)
    _, given = hung("marram", face_mm=0.0)
    assert not any("taken as nothing" in note for note in given.notes)
    _, out = hung("marram", face_mm=40.0)
    wheel = demo("marram").ends[0].end.wheel
    c, t = radians(wheel.camber_deg), radians(wheel.toe_deg)
    assert out.own.half - given.own.half == pytest.approx(40.0 * cos(c) * cos(t))
    assert given.own.drop - out.own.drop == pytest.approx(-40.0 * sin(c))
