"""An axle saddle: its plates cut to box and tube, and what all that stands on it does to them, worked out again by other ways.

Sources: weld groups by integrals along their lines, legs of a portal by a frame's slopes (derived); AISC 360 chapter K by `mount_wall`, from memory.
"""

from __future__ import annotations

from math import asin, cos, degrees, hypot, pi, sqrt
from typing import Any

import numpy as np
import pytest

from tests.core.test_moving_members import again
from tests.jobs import draw, part_of, with_part, work
from tirante.core.brackets.saddle_box import Pull, SaddleBox, line_force, side_stress
from tirante.core.brackets.weld_group import weld_group
from tirante.core.document.design import Design
from tirante.core.document.fields import Length
from tirante.core.document.mounts import BoxMember, Mount, RoundMember
from tirante.core.document.parts.axle_saddle import AxleSaddle
from tirante.core.document.parts.bracket import TabPair
from tirante.core.document.parts.common import LoadCase
from tirante.core.drawing.model import Arc, Area
from tirante.core.drawing.sheet import Numbers
from tirante.core.errors import InputError
from tirante.core.flat.contour import polygon, require_closed
from tirante.core.parts.axle_saddle.kind import fillet, saddle_for
from tirante.core.parts.axle_saddle.shape import SaddleShape, end_plate, saddle_shape, tube_under
from tirante.core.parts.part import Misfit, Part, PlatePiece
from tirante.core.parts.stands import Stand, fitted_on
from tirante.documents.cutting_table import drive
from tirante.documents.dxf import to_dxf

ID = "01900000-0000-7000-8000-00000000bbbb"
BOX_ID = "01900000-0000-7000-8000-00000000cccc"
TUBE = Mount(
    id="01900000-0000-7000-8000-00000000dddd",
    name="Axle",
    shape=RoundMember(a=(0, 600, 300), b=(0, -600, 300), od_mm=76.2, wall_mm=6.35),
    yield_mpa=350,
    uts_mpa=450,
)


def box(**change: Any) -> Mount:
    """A box over the tube: 40 wide, its cap 90 over the tube's middle line."""
    shape = {
        "a": (0, 200, 365),
        "b": (0, -200, 365),
        "up": (0, 0, 1),
        "width_mm": 40.0,
        "height_mm": 50.0,
        "wall_mm": 6.0,
        **change,
    }
    return Mount(id=BOX_ID, name="Truss", shape=BoxMember(**shape), yield_mpa=355, uts_mpa=470)  # type: ignore[arg-type]


def test_its_sides_come_down_to_the_tube_s_skin_and_its_end_plates_close_what_is_left() -> None:
    shape = saddle_shape(box(), TUBE)
    assert isinstance(shape, SaddleShape)
    assert shape.top == pytest.approx(90.0)
    r = 38.1
    for side in shape.sides:
        assert sorted((abs(side.inner), abs(side.outer))) == pytest.approx([14.0, 20.0])
        assert side.foot == pytest.approx(sqrt(r * r - 14.0**2))  # on the skin under its inner face, the higher one
        assert not side.hangs
        assert degrees(side.opens) == pytest.approx(90.0 + degrees(asin(17.0 / r)))  # outside, where it leans
    assert shape.box.tall == pytest.approx(90.0 - 6.0 - sqrt(r * r - 14.0**2))
    assert shape.box.apart == pytest.approx(34.0)
    assert shape.from_end == pytest.approx(400.0)
    assert fillet(AxleSaddle(id=ID, name="one", box=BOX_ID), shape) == pytest.approx(
        5.0 * cos((pi / 2 + asin(17.0 / r)) / 2)
    )
    # as wide as the tube its sides hang beside it, down to its middle, and the fillet lies under their edges
    wide = saddle_shape(box(width_mm=88.2), TUBE)
    assert isinstance(wide, SaddleShape)
    assert [(side.foot, side.hangs, side.opens) for side in wide.sides] == [
        (pytest.approx(0.0, abs=1e-6), True, pytest.approx(pi / 2))
    ] * 2
    nearly = saddle_shape(box(width_mm=80.0), TUBE)
    assert isinstance(nearly, SaddleShape)
    assert nearly.sides[0].foot == pytest.approx(sqrt(r * r - 34.0**2))
    assert nearly.sides[0].opens == pytest.approx(asin(34.0 / r))
    ends = end_plate(wide)
    require_closed(ends, "end")
    corners = {edge.start for edge in ends.edges} | {edge.end for edge in ends.edges}
    lowest = min(y for _, y in corners)
    assert lowest == pytest.approx(sqrt(r * r - 35.1**2))  # blunt where it is 3 mm between side and tube
    assert {round(abs(x), 6) for x, y in corners if y < lowest + 1e-6} == {35.1, 38.1}
    # off the tube's middle one side stands lower, and both are cut otherwise
    off = saddle_shape(box(a=(4.0, 200, 365), b=(4.0, -200, 365), width_mm=34.0), TUBE)
    assert isinstance(off, SaddleShape)
    feet = sorted(side.foot for side in off.sides)
    assert feet == pytest.approx(sorted((sqrt(r * r - 15.0**2), sqrt(r * r - 7.0**2))))
    assert off.box.tall == pytest.approx(84.0 - feet[0])
    # under the tube it looks down
    under = saddle_shape(box(a=(0, 200, 235), b=(0, -200, 235)), TUBE)
    assert isinstance(under, SaddleShape)
    assert under.axes[2] == pytest.approx([0, 0, -1])
    assert under.top == pytest.approx(90.0)


def made(design: Design, saved: AxleSaddle) -> Part:
    return part_of(saved, design)


def job(mounted: Design, **change: Any) -> tuple[Design, AxleSaddle]:
    design = mounted.model_copy(update={"mounts": (*mounted.mounts, TUBE, box(**change))})
    saved = saddle_for(ID, box(**change), design.mounts)
    return with_part(design, saved), saved


def test_its_plates_are_cut_as_they_stand(mounted: Design) -> None:
    design, saved = job(mounted)
    part = made(design, saved)
    assert part.complete, part.faults
    plates = {piece.name: piece for piece in part.pieces if isinstance(piece, PlatePiece)}
    r = 38.1
    tall = 84.0 - sqrt(r * r - 14.0**2)
    assert {name: (one.count, one.length, one.width) for name, one in plates.items() if name != "end"} == {
        "cap": (1, pytest.approx(400.0), pytest.approx(40.0)), "side": (2, pytest.approx(400.0), pytest.approx(tall)),
    }  # fmt: skip
    end = plates["end"].outline
    assert end
    require_closed(end, "end")
    # area between the tube and the cap's underside, inside both sides: by the integral of the circle
    wide = 14.0
    segment = wide * sqrt(r * r - wide**2) + r * r * asin(wide / r)
    assert end.area == pytest.approx(2 * wide * 84.0 - segment, rel=1e-6)
    assert polygon(end).area == pytest.approx(end.area, rel=1e-3)
    areas = 400 * 40 + 2 * 400 * tall + 2 * end.area
    assert part.mass == pytest.approx(areas * 6.0 * 7.85e-6, rel=1e-3)
    for name in plates:
        assert drive(to_dxf(draw(saved, design, f"plate-{name}", Numbers())), thickness=6.0, kerf=0.3).pierces == 1
    assert draw(saved, design, "saddle", Numbers()).items
    lines = {line.text: line.mm for line in part.card.lines}  # type: ignore[union-attr]
    assert lines["from Axle’s first end to the saddle’s nearer end, along it"] == pytest.approx(400.0)
    assert lines["over Axle’s middle line to the cap’s outer face"] == pytest.approx(90.0)
    open_ = saved.model_copy(update={"closed": False})
    assert "end" not in {piece.name for piece in made(design, open_).pieces if isinstance(piece, PlatePiece)}
    assert any("nothing stands on it yet" in note for note in part.notes)


def test_fillets_take_every_pull_the_worst_way_it_may_point() -> None:
    one = SaddleBox(length=300.0, apart=34.0, tall=48.0, plate=6.0)
    runs = [(-150.0, way * 17.0, 150.0, way * 17.0) for way in (-1.0, 1.0)]
    at = (60.0, 4.0, 95.0)
    rng = np.random.default_rng(5)
    ways = rng.normal(size=(20_000, 3))
    ways /= np.linalg.norm(ways, axis=1)[:, None]
    tried = max(weld_group(runs, tuple(8000.0 * way), at).max_line_force for way in ways[:4000])  # type: ignore[arg-type]
    found = line_force(one, [Pull(at=at, force=8000.0)])
    assert tried <= found * (1 + 1e-9)
    assert tried == pytest.approx(found, rel=0.01)
    both = line_force(one, [Pull(at=at, force=8000.0), Pull(at=at, force=2000.0)])
    assert both == pytest.approx(1.25 * found)
    mirrored = line_force(one, [Pull(at=(-60.0, 4.0, 95.0), force=8000.0)])
    assert mirrored == pytest.approx(found)
    assert line_force(one, [Pull(at=at, force=8000.0), Pull(at=(-60.0, 4.0, 95.0), force=8000.0)]) < 2 * found


def test_sides_are_a_portal_s_legs() -> None:
    one = SaddleBox(length=300.0, apart=34.0, tall=48.0, plate=6.0)
    at, force = (0.0, 3.0, 80.0), 5000.0
    wide = 96.0  # 45° either way from cap to foot
    # legs fixed at both ends bent in an S: half of the push each, its moment half of push times height
    moment = force / 2 * 48.0 / 2
    across = moment / (wide * 6.0**2 / 6)
    pushed = (force / 2 + force * (80.0 - 24.0 + 3.0) / 34.0) / (wide * 6.0)
    assert side_stress(one, [Pull(at=at, force=force)]) == pytest.approx(across + pushed)
    near, far = Pull(at=(95.0, 3.0, 80.0), force=force), Pull(at=(97.0, 3.0, 80.0), force=force)
    alone = side_stress(one, [Pull(at=at, force=force)])
    assert side_stress(one, [Pull(at=at, force=force), near]) == pytest.approx(2 * alone)
    assert side_stress(one, [Pull(at=at, force=force), far]) == pytest.approx(alone)
    long_foot = Pull(at=at, force=force, foot=54.0)  # spreads from both its ends: 150
    assert side_stress(one, [long_foot]) == pytest.approx(alone * 96.0 / 150.0)
    beside = Pull(at=(124.0, 3.0, 80.0), force=force)  # half of 150 and half of 96 away: no longer on the same stretch
    assert side_stress(one, [long_foot, beside]) == pytest.approx(alone)
    short = SaddleBox(length=60.0, apart=34.0, tall=48.0, plate=6.0)
    assert side_stress(short, [Pull(at=at, force=force)]) == pytest.approx(alone * 96.0 / 60.0)
    for bad, field in (({"apart": 5.0}, "apart_mm"), ({"tall": 0.0}, "tall_mm")):
        with pytest.raises(InputError) as caught:
            SaddleBox(**{"length": 300.0, "apart": 34.0, "tall": 48.0, "plate": 6.0, **bad})
        assert caught.value.fields == (field,)


def on_the_cap(
    mounted: Design, name: str = "Rear upper link, end B, tabs", half: float = 90.0, wide: float = 87.0
) -> tuple[Design, AxleSaddle, TabPair]:
    """A bracket of Marram's rear axle, on a truss over its tube."""
    tabs = next(part for part in mounted.parts if part.name == name)
    assert isinstance(tabs, TabPair)
    (joint,) = [one for one in mounted.joints if one.by == tabs.id]
    at = work(mounted).at_of(joint)
    assert at
    tube = next(m for m in mounted.mounts if m.name == "Axle tube")
    assert isinstance(tube.shape, RoundMember)
    x, z = tube.shape.a[0], tube.shape.a[2]
    cap = z + 38.1 + 26.0
    shape = BoxMember(
        a=(x, half, cap - 25.0), b=(x, -half, cap - 25.0), up=(0, 0, 1), width_mm=wide, height_mm=50.0, wall_mm=6.0
    )
    mount = Mount(
        id=BOX_ID,
        name="Truss",
        shape=shape,
        end_id=tube.end_id,
        body=tube.body,
        both_sides=False,
        yield_mpa=355,
        uts_mpa=470,
    )
    moved = joint.model_copy(update={"mount": BOX_ID})
    design = mounted.model_copy(
        update={
            "mounts": (*mounted.mounts, mount),
            "joints": tuple(moved if j.id == joint.id else j for j in mounted.joints),
        }
    )
    stand = work(design).stand_of(moved)
    tabs = fitted_on(tabs, stand)  # type: ignore[arg-type]
    saved = saddle_for(ID, mount, design.mounts)
    return with_part(design, tabs, saved), saved, tabs


def test_what_stands_on_it_is_what_pulls_at_it(mounted: Design) -> None:
    design, saved, tabs = on_the_cap(mounted)
    part = made(design, saved)
    assert part.complete, part.faults
    whole = work(design)
    (joint,) = [one for one in design.joints if one.by == tabs.id]
    held, at = whole.held_end(joint), whole.at_of(joint)
    assert held
    assert at
    (stands,) = part.own.stands
    worst = max(held.cases, key=lambda case: hypot(case.axial_n, case.across_n))
    assert stands.pull.force == pytest.approx(worst.resultant_n)
    assert stands.name == tabs.name
    tube = tube_under(next(m for m in design.mounts if m.id == BOX_ID), design.mounts)
    assert tube
    assert tube.name == "Axle tube"
    assert isinstance(tube.shape, RoundMember)
    shape, r = part.own.shape, tube.shape.od_mm / 2
    foot = sqrt(r * r - 37.5**2)  # beside the tube, down to where its inner face meets it
    middle = np.array([tube.shape.a[0], 0.0, tube.shape.a[2] + foot])
    off = at.at - middle
    assert stands.pull.at[1:] == pytest.approx((abs(off[0]) * np.sign(stands.pull.at[1]), off[2]), abs=1e-6)
    assert abs(stands.pull.at[0]) == pytest.approx(abs(off[1]), abs=1e-6)
    found = {check.key: check for check in part.checks}
    factors = whole.settings.factors
    stood = whole.stand_of(joint)
    assert isinstance(stood, Stand)
    along, gap = np.array([0.0, 1.0, 0.0]), part_of(tabs, design).own.joints[0].gap
    foot_long = abs(stood.standing.x @ along) * tabs.base_width.mm + abs(stood.standing.bolt @ along) * (
        gap + 2 * tabs.plate.mm
    )
    assert foot_long > 20.0
    pull = [Pull(at=stands.pull.at, force=stands.pull.force, foot=foot_long)]
    throat = 5.0 * cos(pi / 4)  # under the edge the faces open by less than a right angle: no more is counted
    assert fillet(saved, shape) == pytest.approx(throat)
    assert found["saddle_weld"].demand == pytest.approx(factors.weld * line_force(shape.box, pull) / throat)
    assert found["saddle_weld"].capacity == pytest.approx(0.6 * whole.settings.electrode_uts_mpa)
    assert found["saddle_side"].demand == pytest.approx(factors.tab_yield * side_stress(shape.box, pull))
    assert found["saddle_side"].capacity == 355.0
    wall = found["mount_wall"].reproduce
    assert wall
    assert wall.input["pull_n"] == pytest.approx(factors.tab_yield * stands.pull.force)
    assert wall.input["tilt_nmm"] == pytest.approx(
        factors.tab_yield * stands.pull.force * (abs(stands.pull.at[0]) + stands.pull.at[2])
    )
    assert wall.input["rock_nmm"] == pytest.approx(
        factors.tab_yield * stands.pull.force * (abs(stands.pull.at[1]) + stands.pull.at[2])
    )
    assert (wall.input["foot_mm"], wall.input["gap_mm"], wall.input["plate_mm"]) == pytest.approx(
        (180.0, 87.0 - 12.0, 6.0)
    )
    assert found["mount_shear"].reproduce
    assert found["mount_shear"].reproduce.input["pull_n"] == pytest.approx(factors.tab_rupture * stands.pull.force)
    assert found["saddle_weld"].case == worst.name
    for check in part.checks:
        again(check)
    # where it pulls is drawn to scale over the cap
    sheet = draw(saved, design, "saddle", Numbers())
    (mark,) = [item for item in sheet.items if isinstance(item, Arc) and item.ref == "stands:0"]
    caps = [item.points for item in sheet.items if isinstance(item, Area) and item.ref == "plate:cap"]
    below = min(caps, key=lambda points: max(y for _, y in points))
    scale = (max(x for x, _ in below) - min(x for x, _ in below)) / 180.0
    over = stands.pull.at[2] - (shape.top - shape.foot)
    assert over > 50.0
    assert mark.cy - max(y for _, y in below) == pytest.approx(scale * over, abs=0.01)
    assert mark.cy < sheet.height / 2
    # what is held pulling harder changes what it is judged by
    link = next(part for part in design.parts if part.name == "Rear upper link")
    harder = with_part(design, link.model_copy(update={"cases": (LoadCase(name="tow", axial_n=60_000.0),)}))
    towed = made(harder, saved)
    assert towed.judged != part.judged
    assert towed.own.stands[0].pull.force == pytest.approx(60_000.0)
    assert next(check for check in towed.checks if check.key == "saddle_weld").case == "tow"
    # and so does how long its foot stands there
    wider = with_part(
        design, tabs.model_copy(update={"weld_leg_mm": tabs.weld_leg_mm + 0.5, "plate": Length(mm=tabs.plate.mm + 1.0)})
    )
    assert made(wider, saved).judged != part.judged
    lighter = design.model_copy(
        update={"joints": tuple(j.model_copy(update={"mount": None}) if j.by == tabs.id else j for j in design.joints)}
    )
    assert made(lighter, saved).own.stands == ()
    assert made(lighter, saved).judged != part.judged


def test_a_pair_pulls_at_a_truss_from_both_sides_where_that_reaches_them(mounted: Design) -> None:
    name = "Rear strap, lower end of the strap, tabs"
    design, saved, tabs = on_the_cap(mounted, name, 600.0, 42.0)
    part = made(design, saved)
    assert part.complete, part.faults
    one, two = part.own.stands
    assert (one.name, two.name) == (tabs.name, f"{tabs.name}, right")
    assert one.pull.at[0] == pytest.approx(-two.pull.at[0])
    assert abs(one.pull.at[0]) > 100.0
    assert one.pull.at[1:] == pytest.approx(two.pull.at[1:])
    short, own, _ = on_the_cap(mounted, name, 90.0, 42.0)
    assert [stands.name for stands in made(short, own).own.stands] == [tabs.name]


@pytest.mark.parametrize(("change", "field", "word"), [
    ({"width_mm": 60.0}, "box", "No plain fillet"), ({"wall_mm": None}, "box", "not entered"), ({"a": (0, 700, 365), "b": (0, 300, 365)}, "box", "100.0 mm past the end"),
    ({"a": (0, 200, 325), "b": (0, -200, 325), "height_mm": 30.0}, "box", "raise the box"), ({"a": (0, 200, 365), "b": (40, -200, 365)}, "tube", "does not run along"),
])  # fmt: skip
def test_what_does_not_go_names_the_mount_that_cures_it(change: dict[str, Any], field: str, word: str) -> None:
    found = saddle_shape(box(**change), TUBE)
    assert isinstance(found, Misfit)
    assert found.field == field
    assert word in found.message
    if "width_mm" in change:
        low, high = (float(one) for one in found.message.split(", or ")[1].split(" mm")[0].split(" to "))
        for wide, fits in ((low + 0.05, True), (low - 0.1, False), (high - 0.05, True), (high + 0.1, False)):
            assert isinstance(saddle_shape(box(width_mm=wide), TUBE), SaddleShape) is fits, wide
        widest = float(found.message.split("Make it ")[1].split(" mm")[0])
        assert isinstance(saddle_shape(box(width_mm=widest - 0.05), TUBE), SaddleShape)
        assert isinstance(saddle_shape(box(width_mm=widest + 0.1), TUBE), Misfit)


def test_a_box_without_a_tube_makes_no_plates_and_a_lost_one_says_so(mounted: Design) -> None:
    far = box(a=(0, 200, 400), b=(0, -200, 400))  # 100 over the tube, and 50 high: nothing of it reaches down there
    assert tube_under(far, (TUBE,)) is None
    for mounts in ((box(),), (far, TUBE)):
        with pytest.raises(InputError, match="enter the tube"):
            saddle_for(ID, mounts[0], mounts)
    design, saved = job(mounted)
    gone = design.model_copy(update={"mounts": tuple(m for m in design.mounts if m.id != BOX_ID)})
    assert [fault.field for fault in made(gone, saved).faults] == ["box"]
    bare = design.model_copy(update={"mounts": tuple(m for m in design.mounts if m.id != TUBE.id)})
    assert [fault.field for fault in made(bare, saved).faults] == ["tube"]
    hot = saved.model_copy(update={"leg_mm": 7.0})
    assert [fault.field for fault in made(design, hot).faults] == ["leg_mm"]


def test_a_bracket_on_its_underside_is_told(mounted: Design) -> None:
    design, saved, tabs = on_the_cap(mounted)
    turned = []
    for mount in design.mounts:
        if mount.id == BOX_ID:
            assert isinstance(mount.shape, BoxMember)
            high = next(m for m in design.mounts if m.name == "Axle tube").shape.a[2]  # type: ignore[union-attr]
            over = high - 39.0  # under the tube its cap looks down, and the joint is above
            shape = mount.shape.model_copy(
                update={"a": (mount.shape.a[0], 90.0, over), "b": (mount.shape.b[0], -90.0, over)}
            )
            mount = mount.model_copy(update={"shape": shape})
        turned.append(mount)
    faults = made(design.model_copy(update={"mounts": tuple(turned)}), saved).faults
    assert any("underside" in fault.message and tabs.name in fault.message for fault in faults), faults
