"""The saw's list on what the rack holds: which rows are a tube's, what is left to buy, and how it is drawn."""

from __future__ import annotations

from dataclasses import replace

import pytest

from tests.core.test_loads import demo
from tests.jobs import work
from tirante.core.cutting.cut_list import SawPiece, cut_list
from tirante.core.cutting.from_rack import from_rack, told
from tirante.core.cutting.sticks import Saw
from tirante.core.cutting.sticks_view import sticks_sheet
from tirante.core.document.rack import RackRow
from tirante.core.drawing.sheet import Numbers

SAW = Saw(kerf=2.0, trim_start=10.0, trim_end=10.0)
TUBE, GRADE = "1 1/4 × 0.095 in", "4130 normalised"


def piece(length: float, count: int = 1, tube: str = TUBE, off: float | None = None) -> SawPiece:
    return SawPiece(key=f"{length}", part_id="p", part=f"link {length:g}", side="pair", tube=tube, grade=GRADE, length_mm=length, count=count, before_notching=False, ends=("square", "square"), off_mm=off)  # fmt: skip


def row(length: float, count: int = 1, **more: object) -> RackRow:
    return RackRow.model_validate({"id": f"00000000-0000-4000-8000-{int(length):012d}", "stock": "1 1/4 x 0.095 IN", "material": GRADE, "length_mm": length, "count": count, "offcut": True, "place": "bay 3", **more})  # fmt: skip


def test_offcuts_of_the_same_tube_and_metal_are_cut_first_and_others_are_named() -> None:
    rack = [row(1500.0), row(2400.0, material="S355"), row(900.0, stock="1 1/2 x 0.120 in"), row(3000.0, count=0), row(2000.0, sort="sheet", width_mm=1000.0)]  # fmt: skip
    (one,) = from_rack([piece(700.0, 2), piece(5000.0)], rack, 6000.0, SAW)
    assert one.cutting is not None
    assert [(stick.length, stick.new, stick.pieces) for stick in one.cutting.sticks] == [(1500.0, False, (700.0, 700.0)), (6000.0, True, (5000.0,))]  # fmt: skip
    assert one.left_out == ("1 × 2400 mm bay 3: S355, not 4130 normalised",)
    assert told(one) == "buy 1 of 6000 mm, 1 from the rack; fewer are not possible"
    assert one.names == {700.0: "link 700 (pair)", 5000.0: "link 5000 (pair)"}


def test_the_same_length_of_two_parts_is_cut_for_both() -> None:
    first, second = piece(700.0, 2), replace(piece(700.0), part="arm", key="other")
    (one,) = from_rack([first, second], [], 6000.0, SAW)
    assert one.cutting is not None
    assert one.cutting.sticks[0].pieces == (700.0,) * 3
    assert one.names == {700.0: "link 700 (pair); arm (pair)"}


def test_what_the_rack_holds_all_of_buys_nothing() -> None:
    (one,) = from_rack([piece(700.0, 2)], [row(1500.0)], 6000.0, SAW)
    assert told(one) == "nothing to buy, 1 from the rack"


def test_a_bought_link_is_cut_from_no_stick_and_each_tube_stands_by_itself() -> None:
    found = from_rack([piece(700.0), piece(300.0, off=20.0), piece(400.0, tube="2 in")], [], 6000.0, SAW)
    assert [(one.tube, one.cutting.sticks[0].pieces if one.cutting else ()) for one in found] == [(TUBE, (700.0,)), ("2 in", (400.0,))]  # fmt: skip


def test_a_piece_that_no_stick_carries_is_told_and_the_others_are_laid_out() -> None:
    long, other = from_rack([piece(5990.0), piece(400.0, tube="2 in")], [], 6000.0, SAW)
    assert long.cutting is None
    assert "5980.0 mm or less" in told(long)
    assert other.cutting is not None
    assert sticks_sheet(long, Numbers()) is None


def test_bars_are_to_scale_with_the_kerf_between_them() -> None:
    """Places of the boxes on the sheet against the walk along the stick."""
    (one,) = from_rack([piece(2000.0), piece(1500.0, 2), piece(40.0)], [], 6000.0, SAW)
    sheet = sticks_sheet(one, Numbers())
    assert sheet is not None
    assert one.cutting is not None
    boxes = [item for item in sheet.items if item.kind == "area" and (item.ref or "").startswith("piece:")]
    (bar,) = [item for item in sheet.items if item.kind == "area" and not item.ref]
    left, right = (f(x for x, _ in bar.points) for f in (min, max))
    scale = (right - left) / 6000.0
    at = 10.0
    for box, length in zip(boxes, one.cutting.sticks[0].pieces, strict=True):
        low, high = (f(x for x, _ in box.points) for f in (min, max))
        assert low == pytest.approx(left + scale * at)
        assert high - low == pytest.approx(scale * length)
        at += length + 2.0
    texts = [item.text for item in sheet.items if item.kind == "text"]
    assert f"{6000.0 - at:.1f} left" in texts
    assert "40.0" not in texts  # too narrow for its length: it has its number, and the list says what it is


@pytest.mark.parametrize("name", ["marram", "quay", "tern", "dunlin", "plover"])
def test_every_demo_s_list_is_laid_out_and_proved(name: str) -> None:
    pieces = cut_list(work(demo(name)).parts).pieces
    found = from_rack(pieces, [], 6000.0, SAW)
    assert all(one.cutting is not None and one.cutting.proven for one in found)
    cut = sum(len(stick.pieces) for one in found if one.cutting for stick in one.cutting.sticks)
    assert cut == sum(piece.count for piece in pieces if piece.off_mm is None)
