"""The plates of a job on sheets: which rows of the rack are a plate's, what is kept, what confirming and taking back do, how the table cuts it."""

from __future__ import annotations

from collections import Counter
from dataclasses import replace
from math import atan2, hypot
from time import monotonic
from uuid import UUID

import pytest

from tests.core.test_loads import demo
from tests.jobs import work
from tirante.core.cutting.kept import confirmed, taken_back
from tirante.core.cutting.on_sheets import Asked, Plate, keep_nest, on_sheets, plates_of, told
from tirante.core.cutting.sheets import Sheet
from tirante.core.cutting.sheets_view import sheet_cut, sheet_drawing
from tirante.core.document.cutting import KEPT, KeptNest
from tirante.core.document.rack import RackRow
from tirante.core.drawing.model import Arc, Text
from tirante.core.drawing.sheet import Numbers
from tirante.core.errors import InputError
from tirante.core.flat.contour import Bend, Contour, Curve, Hole, Straight, polygon, slot, straight_sides
from tirante.core.parts.part import PlatePiece
from tirante.documents.cutting_table import drive
from tirante.documents.dxf import to_dxf

ASKED = Asked(new=Sheet(length=600.0, width=400.0, count=None), spacing=4.0, edge=8.0, turns="quarter", across=True, seconds=0.0)  # fmt: skip


def own(i: int) -> str:
    return str(UUID(int=(4 << 76) | (2 << 62) | i))


def row(i: int, **more: object) -> RackRow:
    return RackRow.model_validate({
        "id": own(i), "sort": "sheet", "stock": "plate 5 mm", "material": "S355", "length_mm": 300.0, "width_mm": 200.0, "count": 1, "place": f"bay {i}", "offcut": True, **more,
    })  # fmt: skip


def plate(count: int, long: float = 80.0, wide: float = 60.0, **more: object) -> Plate:
    outline = Contour(edges=straight_sides([(0.0, 0.0), (long, 0.0), (long, wide), (0.0, wide)]), holes=(Hole(20.0, 20.0, 10.0),))  # fmt: skip
    one = Plate(
        part_id=own(900),
        what="Bracket, tab",
        material="S355 plate",
        thickness=5.0,
        count=count,
        outline=outline,
        blank=False,
    )
    return replace(one, **more)  # type: ignore[arg-type]


def laid(plates: list[Plate], rack: list[RackRow]) -> KeptNest:
    (one,) = on_sheets(plates, rack, ASKED, monotonic)
    return keep_nest(one, ASKED, "Marram", "draft 3", ())


@pytest.mark.parametrize(
    ("stock", "thick", "wanted"),
    [("plate 5 mm", None, 5.0), ("5mm S355", None, 5.0), ("4,5 mm", None, 4.5), ("plate 1/4", None, None), ("5 mm of a 10 mm pair", None, None), ("plate 5 mm", 6.0, 6.0)],
)  # fmt: skip
def test_a_sheet_is_as_thick_as_it_is_entered_or_as_its_stock_says_in_millimetres(stock: str, thick: float | None, wanted: float | None) -> None:  # fmt: skip
    assert row(1, stock=stock, thick_mm=thick).thickness == wanted
    assert RackRow.model_validate({"id": own(1), "stock": "32 × 2 mm", "material": "x", "length_mm": 1.0}).thickness is None  # fmt: skip


def test_rows_of_its_thickness_and_metal_are_cut_and_others_are_named() -> None:
    rack = [row(1), row(2, material="S275"), row(3, stock="plate 4 mm"), row(4, stock="plate"), row(5, count=0), row(6, sort="tube", width_mm=None)]  # fmt: skip
    (one,) = on_sheets([plate(4)], rack, ASKED, monotonic)
    assert [r.id for r in one.rows] == [own(1)]
    assert one.left_out == (
        "1 × 300 × 200 mm bay 2: S275, not S355 plate",
        "1 × 300 × 200 mm bay 4: how thick it is, is not entered",
    )
    assert told(one, ASKED).startswith("nothing to buy, 1 from the rack; ")
    (bought,) = on_sheets([plate(4)], [], ASKED, monotonic)
    assert told(bought, ASKED).startswith("buy 1 of 600 × 400 mm, fewer are not possible; ")


def test_each_thickness_and_metal_stands_by_itself_and_what_goes_on_no_sheet_is_told() -> None:
    groups = on_sheets([plate(1), plate(1, thickness=3.0), plate(2, material="4130"), plate(1, long=700.0, thickness=8.0)], [], ASKED, monotonic)  # fmt: skip
    assert [(one.thickness, one.material) for one in groups] == [(8.0, "S355 plate"), (5.0, "4130"), (5.0, "S355 plate"), (3.0, "S355 plate")]  # fmt: skip
    assert groups[0].nest is None
    assert "goes on no sheet" in groups[0].fault
    assert [sum(len(s.placed) for s in one.nest.sheets) for one in groups[1:] if one.nest] == [2, 1, 1]
    with pytest.raises(InputError, match="goes on no sheet"):
        keep_nest(groups[0], ASKED, "x", "y", ())


def test_stopped_in_the_middle_what_is_laid_out_stands_and_the_rest_says_that_it_was_stopped() -> None:
    asked: list[tuple[int, int]] = []

    def step(done: int, of: int) -> bool:
        asked.append((done, of))
        return done < 1

    first, second = on_sheets([plate(1), plate(1, thickness=3.0)], [], ASKED, monotonic, step)
    assert first.nest is not None
    assert second.nest is None
    assert "stopped" in second.fault
    assert asked[-1] == (1, 2)


def test_the_plates_of_a_job_are_those_of_its_cut_list_pairs_twice() -> None:
    job = work(demo("marram"))
    plates, left_out = plates_of(job.parts)
    wanted: Counter[tuple[str, float]] = Counter()
    for part in job.parts:
        if part.complete:
            for piece in (*part.pieces, *part.beside):
                if isinstance(piece, PlatePiece):
                    wanted[part.id, piece.thickness] += piece.count * (2 if part.side == "pair" else 1)
    found: Counter[tuple[str, float]] = Counter()
    for one in plates:
        found[one.part_id, one.thickness] += one.count
    assert found == wanted
    assert {one.part_id for one in left_out} == {part.id for part in job.parts if not part.complete}
    gone = demo("marram")
    gone = gone.model_copy(update={"parts": tuple(p.model_copy(update={"hole": p.hole.model_copy(update={"mm": 90.0})}) if p.kind == "tab_pair" else p for p in gone.parts)})  # type: ignore[attr-defined]  # fmt: skip
    assert plates_of(work(gone).parts)[1]


def test_what_is_kept_cuts_the_offcut_first_and_leaves_what_the_table_does_not_touch() -> None:
    """An offcut of 300 × 200 takes six of 80 × 60; what is behind them is one whole rectangle, as wide as the sheet."""
    rack = [row(1, count=2)]
    cutting = laid([plate(20)], rack)
    assert [one.row_id for one in cutting.sheets if one.row_id] == [own(1)] * 2
    assert sum(len(one.placed) for one in cutting.sheets) == 20
    two = laid([plate(9)], [row(1), row(2)])
    assert {one.row_id for one in two.sheets} == {own(1), own(2)}  # of one size, and each there once
    again = KEPT.validate_json(cutting.model_dump_json())
    assert again == cutting
    change = confirmed(cutting, rack, [own(50 + i) for i in range(9)], least=10.0, place="bay 9")
    rows = {one.id: one for one in change.rows}
    assert rows[own(1)].count == 0
    put = [one for one in change.rows if one.id != own(1)]
    wanted = Counter((one.left_mm, one.width_mm) for one in cutting.sheets if one.left_mm >= 10.0)
    assert wanted
    assert Counter({(one.length_mm, one.width_mm): one.count for one in put}) == wanted
    assert all((one.sort, one.thick_mm, one.material, one.offcut, one.place) == ("sheet", 5.0, "S355 plate", True, "bay 9") for one in put)  # fmt: skip
    cut = cutting.model_copy(update={"remnants": change.remnants})
    back = taken_back(cut, put)
    assert {one.id: one.count for one in back.rows} == {one.id: 0 for one in put} | {own(1): 2}
    with pytest.raises(InputError, match="not on the rack any more"):
        taken_back(cut, [put[0].model_copy(update={"width_mm": put[0].width_mm - 1.0}), *put[1:]])  # type: ignore[operator]
    with pytest.raises(InputError, match="not on the rack any more"):
        confirmed(cutting, [rack[0].model_copy(update={"width_mm": 199.0})], [own(50)], least=10.0, place="")
    with pytest.raises(InputError, match=r"2 × 300 × 200 mm of 5 mm S355 plate from bay 1 are not"):
        confirmed(cutting, [rack[0].model_copy(update={"count": 1})], [own(50)], least=10.0, place="")


def test_a_layout_that_was_kept_before_sheets_were_is_still_read() -> None:
    old = '{"tube":"32 × 2","grade":"steel","job":"Marram","stock_mm":3000.0,"kerf_mm":2.0,"trim_start_mm":5.0,"trim_end_mm":0.0,"sticks":[{"row_id":null,"length_mm":3000.0,"pieces":[{"length_mm":900.0,"what":"link"}],"left_mm":2093.0}]}'  # fmt: skip
    assert KEPT.validate_json(old).sort == "sticks"


TRICKY = Contour(
    edges=(Straight(0.0, 0.0, 90.0, 0.0), Curve(90.0, 25.0, 25.0, -90.0, 90.0), Straight(90.0, 50.0, 40.0, 50.0), Curve(30.0, 50.0, 10.0, 180.0, 360.0, back=True), Straight(20.0, 50.0, 0.0, 50.0),
        Straight(0.0, 50.0, 0.0, 0.0)),
    holes=(Hole(20.0, 15.0, 12.0),), openings=(slot(Straight(60.0, 25.0, 85.0, 25.0), 10.0),), bends=(Bend(Straight(50.0, 0.0, 50.0, 50.0), 90.0, 3.0),), marks=(Straight(5.0, 5.0, 9.0, 9.0),),
)  # fmt: skip


@pytest.mark.parametrize("angle", [0.0, 30.0, 90.0, 213.7])
def test_a_contour_that_is_turned_and_moved_is_the_same_metal_elsewhere(angle: float) -> None:
    """Its exact arcs against its polygon turned by a general library: outline, arc walked back, hole, slot."""
    from shapely.affinity import rotate, translate

    there = TRICKY.placed(130.0, -40.0, angle)
    assert there.gap < 1e-9
    assert there.area == pytest.approx(TRICKY.area, rel=1e-12)
    wanted = translate(rotate(polygon(TRICKY), angle, origin=(0.0, 0.0)), 130.0, -40.0)
    assert polygon(there).symmetric_difference(wanted).area < 0.02 * wanted.length
    (bend,), (mark,) = there.bends, there.marks
    assert hypot(bend.line.x2 - bend.line.x1, bend.line.y2 - bend.line.y1) == pytest.approx(50.0)
    turned = atan2(mark.y2 - mark.y1, mark.x2 - mark.x1) - atan2(4.0, 4.0)
    assert (turned * 57.29577951308232 - angle + 180.0) % 360.0 - 180.0 == pytest.approx(0.0, abs=1e-6)


def test_the_table_cuts_every_plate_of_a_sheet_with_all_its_holes_and_no_edge_of_the_sheet() -> None:
    cutting = laid([plate(5, outline=TRICKY), plate(3)], [])
    for n, sheet in enumerate(cutting.sheets):
        found = drive(to_dxf(sheet_cut(cutting, n)), 3.0)
        shapes = [cutting.shapes[one.shape].outline for one in sheet.placed]
        assert found.parts == len(shapes)
        assert found.pierces == sum(1 + len(one.holes) + len(one.openings) for one in shapes)
        assert found.area_mm2 == pytest.approx(sum(one.area for one in shapes), rel=2e-4)


def test_a_sheet_is_drawn_with_every_plate_whole_whichever_way_it_lies_on_the_page() -> None:
    """Holes keep their distance from one another, to scale: the page turns a sheet, it does not mirror it."""
    for count in (2, 40):  # a narrow strip, drawn along the page, and a full sheet
        cutting = laid([plate(count)], [])
        drawing = sheet_drawing(cutting, 0, Numbers(unit="mm"))
        rounds = [one for one in drawing.items if isinstance(one, Arc) and one.full]
        assert len(rounds) == len(cutting.sheets[0].placed)
        assert all(one.cx - one.r >= 0 and one.cx + one.r <= drawing.width and one.cy - one.r >= 0 and one.cy + one.r <= drawing.height for one in rounds)  # fmt: skip
        scale = rounds[0].r / 5.0
        a, b = ((polygon(cutting.shapes[p.shape].outline.placed(p.x_mm, p.y_mm, p.angle_deg)).interiors[0].centroid) for p in cutting.sheets[0].placed[:2])  # fmt: skip
        assert hypot(rounds[0].cx - rounds[1].cx, rounds[0].cy - rounds[1].cy) == pytest.approx(scale * a.distance(b), rel=1e-3)  # fmt: skip
        assert any("left" in one.text for one in drawing.items if isinstance(one, Text)) is (cutting.sheets[0].left_mm > 0)  # fmt: skip
