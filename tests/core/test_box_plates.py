"""A boxed link's plates put together: every tab goes into its notch with the clearance that is meant, in every corner, by another library."""

from __future__ import annotations

import pytest
from shapely.geometry import MultiPolygon
from shapely.geometry import box as rectangle

from tests.core.test_loads import demo
from tests.jobs import draw, part_of, with_part, work
from tirante.core.document.design import Design
from tirante.core.document.fields import Length
from tirante.core.document.parts.boxed_link import BoxedLink
from tirante.core.document.parts.common import CentreToCentre
from tirante.core.drawing.model import Line
from tirante.core.drawing.sheet import Numbers
from tirante.core.flat.contour import polygon, require_closed
from tirante.core.members.boxed_link import Box
from tirante.core.parts.boxed_link.plates import cover_plate, side_plate
from tirante.core.parts.part import PlatePiece
from tirante.core.parts.self_locating import APART, CLEAR, TAB, notched_plate, tab_places, tabbed_plate
from tirante.core.units import STEEL_DENSITY
from tirante.documents.cutting_table import drive
from tirante.documents.dxf import to_dxf
from tirante.documents.on_table import on_table


def mm(value: float) -> Length:
    return Length(mm=value)


def link(boss: float | None = 38.0, length: float = 640.0) -> BoxedLink:
    return BoxedLink(
        id="00000000-0000-4000-8000-0000000000bb", name="Box", between=CentreToCentre(length=mm(length)), height=mm(80.0), width=mm(62.0), side_mm=5.0,
        top_mm=6.0, bottom_mm=4.0, pad_at=mm(300.0), pad_offset_mm=4.0, boss_mm=boss,
    )  # fmt: skip


@pytest.mark.parametrize(("height", "width", "side", "top", "bottom", "length"), [(80.0, 62.0, 5.0, 6.0, 4.0, 640.0), (60.0, 50.0, 3.0, 3.0, 3.0, 210.0), (110.0, 80.0, 8.0, 8.0, 6.0, 1000.0)])  # fmt: skip
def test_the_sides_tabs_go_into_the_notches_of_top_and_bottom(
    height: float, width: float, side: float, top: float, bottom: float, length: float
) -> None:
    one = Box(height=height, width=width, side=side, top=top, bottom=bottom)
    web, cover = side_plate(one, length, 30.0), cover_plate(one, length, None)
    require_closed(web, "side")
    require_closed(cover, "cover")
    flat, plate = polygon(web, 0.001), polygon(cover, 0.001)
    assert flat.is_valid
    assert plate.is_valid
    places = tab_places(length)
    assert len(places) == max(2, round(length / APART))
    # what of the side stands above the underside of the top plate, and under the bottom plate's upper face
    above = flat.intersection(rectangle(-1e3, height / 2 - top + 1e-6, 2e3, 1e3))
    below = flat.intersection(rectangle(-1e3, -1e3, 2e3, -height / 2 + bottom - 1e-6))
    for stands, thick in ((above, top), (below, bottom)):
        assert isinstance(stands, MultiPolygon)
        assert sorted(tab.centroid.x for tab in stands.geoms) == pytest.approx(places, abs=1e-6)
        for tab in stands.geoms:
            left, low, right, high = tab.bounds
            assert right - left == pytest.approx(TAB, abs=1e-6)
            assert high - low == pytest.approx(thick, abs=1e-3)  # flush with the plate's outer face
            for y in (width / 2 - side, -width / 2):  # both sides, their outer faces flush with the plate's edges
                through = rectangle(left, y, right, y + side)
                assert plate.intersection(through).area == pytest.approx(0.0, abs=1e-6)
                assert plate.distance(through) == pytest.approx(CLEAR, abs=1e-6)  # and no looser
    # beside its tabs the side seats on the plate's inner face: nothing stands proud in a corner
    seat = flat.intersection(rectangle(-1e3, -height / 2 + bottom, 2e3, height / 2 - top))
    assert seat.bounds[3] == pytest.approx(height / 2 - top, abs=1e-6)
    assert seat.bounds[1] == pytest.approx(-height / 2 + bottom, abs=1e-6)
    # round about the pivots, and the bosses' holes at them
    assert (flat.bounds[0], flat.bounds[2]) == pytest.approx((-one.web / 2, length + one.web / 2), abs=2e-3)
    assert [(h.x, h.y) for h in web.holes] == [(0.0, 0.0), (length, 0.0)]


def test_the_cutting_table_takes_every_plate_and_the_list_has_them_all(marram: Design) -> None:
    saved = link()
    design = with_part(marram, saved)
    part = part_of(saved, design)
    plates = [piece for piece in part.pieces if isinstance(piece, PlatePiece)]
    assert [(p.name, p.count, p.thickness) for p in plates] == [("side plate", 2, 5.0), ("top plate", 1, 6.0), ("bottom plate", 1, 4.0)]  # fmt: skip
    assert all(p.outline is not None for p in plates)
    cut = [view for view in part.views if view.cut]
    assert [view.plate for view in cut] == [p.name for p in plates]
    for view, plate in zip(cut, plates, strict=True):
        driven = drive(to_dxf(draw(saved, design, view.name, Numbers())), plate.thickness)
        marks = [
            item for item in draw(saved, design, view.name, Numbers()).items if getattr(item, "style", "") == "mark"
        ]
        middles = {(round((m.x1 + m.x2) / 2, 3), round((m.y1 + m.y2) / 2, 3)) for m in marks if isinstance(m, Line)}
        assert ((300.0, 62.0 / 2 + 4.0) in middles) == (
            plate.name == "top plate"
        )  # as told: on the file, where a stop lands
        assert driven.pierces == 1 + len(plate.outline.holes if plate.outline else ())
    # told pin to pin; what is cut weighs nearly that: rounds and tabs against holes and notches
    assert part.mass == pytest.approx(640.0 * (2 * 5.0 * 70.0 + 62.0 * 10.0) * STEEL_DENSITY)
    metal = sum(polygon(p.outline, 0.001).area * p.thickness * p.count for p in plates if p.outline) * STEEL_DENSITY
    assert metal == pytest.approx(part.mass, rel=0.1)
    # the stop's place is marked on the top plate alone
    top, bottom = (next(p.outline for p in plates if p.name == name) for name in ("top plate", "bottom plate"))
    assert top
    assert bottom
    assert {(round(m.x1, 6) + round(m.x2, 6)) / 2 for m in top.marks} == {300.0}
    assert {(round(m.y1, 6) + round(m.y2, 6)) / 2 for m in top.marks} == {4.0}
    assert bottom.marks == ()


def test_without_the_bosses_the_sides_have_no_file_and_that_is_told(marram: Design) -> None:
    saved = link(boss=None)
    part = part_of(saved, with_part(marram, saved))
    side = next(p for p in part.pieces if isinstance(p, PlatePiece) and p.name == "side plate")
    assert side.outline is None
    assert "give the bosses’ outside" in side.told
    assert [view.plate for view in part.views if view.cut] == ["top plate", "bottom plate"]
    with pytest.raises(ValueError, match="less than 3 mm of side"):
        link(boss=66.0).model_validate(link(boss=38.0).model_dump() | {"boss_mm": 66.0})


@pytest.mark.parametrize(("length", "count"), [(30.0, 0), (79.2, 1), (85.0, 2), (181.7, 2), (900.0, 7)])
def test_plates_of_an_arm_s_boxes_locate_each_other_and_a_short_one_is_plain(length: float, count: int) -> None:
    """Top and bottom laid between the sides: every tab in its notch with the clearance all round, flush with the side's outer face."""
    height, width, wall = 110.0, 60.0, 4.0
    side, cover = notched_plate(length, height, wall), tabbed_plate(length, width - 2 * wall, wall)
    require_closed(side, "side")
    require_closed(cover, "cover")
    web, lid = polygon(side, 0.001), polygon(cover, 0.001)
    assert web.is_valid
    assert lid.is_valid
    tabs = lid.difference(rectangle(-1e3, -(width / 2 - wall), 2e3, width / 2 - wall))
    found = [] if tabs.is_empty else list(tabs.geoms)
    assert len(found) == 2 * count
    for tab in found:
        left, low, right, high = tab.bounds
        assert (right - left, max(abs(low), abs(high))) == pytest.approx((TAB, width / 2), abs=1e-3)
        for y in (
            height / 2 - wall,
            -height / 2,
        ):  # the top plate lies flush with the sides' edges, the bottom plate too
            through = rectangle(left, y, right, y + wall)
            assert web.intersection(through).area == pytest.approx(0.0, abs=1e-6)
            assert web.distance(through) == pytest.approx(CLEAR, abs=1e-6)
    assert lid.bounds[2] - lid.bounds[0] == pytest.approx(length)
    assert web.bounds == pytest.approx((0.0, -height / 2, length, height / 2))


def test_every_plate_of_a_box_arm_has_a_file_that_the_table_takes() -> None:
    job = work(demo("plover"))
    tried = on_table(job, 1.2)
    arm = next(part for part in job.parts if part.saved.name == "Rear arm")
    boxes = [piece for piece in arm.pieces if isinstance(piece, PlatePiece) and "of a box" in piece.told]
    assert len(boxes) == 6
    driven = {one.piece: one for one in tried.plates if one.part == "Rear arm"}
    for piece in boxes:
        assert piece.count == 2
        assert "to be fitted to what they meet" in piece.told
        one = driven[piece.name]
        assert one.driven, one.faults
        assert piece.outline
        assert one.driven.area_mm2 == pytest.approx(piece.outline.area, rel=1e-3)
    assert not [one for one in tried.left_out if "Rear arm" in one.name]
