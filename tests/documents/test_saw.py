"""The simulated saw: what it does with a right order, by hand, and what it says of orders that other programs wrote."""

from __future__ import annotations

import json
import subprocess
import sys
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tirante.core.cutting.cut_list import SawPiece
from tirante.core.cutting.from_rack import from_rack
from tirante.core.cutting.kept import keep
from tirante.core.cutting.sticks import Saw
from tirante.documents.saw import Refused, cut_order, saw

ORDER = """stick,stock_mm,trim_mm,length_mm,for
1,3000,10,400.0,Lower link (pair)
1,3000,10,400.0,Lower link (pair)
1,3000,10,812.5,"Panhard rod, tube"
2,1000,10,940.0,Upper link
"""


def test_every_cut_is_made_in_its_order_and_what_is_left_is_told() -> None:
    """By hand: 3000 − 10 − (400 + 2) − (400 + 2) − (812.5 + 2) = 1371.5; 1000 − 10 − (940 + 2) = 48, less than the vice holds."""
    found = saw(ORDER, 2.0)
    assert [(one.stick, one.stop, one.left, one.set, one.turned) for one in found.cuts] == [
        (1, 400.0, pytest.approx(2588.0), True, False), (1, 400.0, pytest.approx(2186.0), False, False),
        (1, 812.5, pytest.approx(1371.5), True, False), (2, 940.0, pytest.approx(48.0), True, True),
    ]  # fmt: skip
    assert found.cuts[2].what == "Panhard rod, tube"
    assert (found.trims, found.set_ups) == (2, 3)
    assert found.seconds == 4 * 18.0 + 2 * 18.0 + 3 * 12.0 + 2 * 40.0


BAD = {
    "a spreadsheet in another tongue, its lengths in inches": (
        b"stick;stock_mm;trim_mm;length_mm;for\n1;3000,0;10;15 3/4\";link\n1;3000,0;10;23,5in;link\n",
        ["line 2: length_mm “15 3/4\"” is no bare number", "line 3: length_mm “23,5in” is no bare number"],
    ),
    "a list of another program, without the stick's length": (
        b"Part;Qty;Length\nlink;2;400\n",
        ["there is no column stick and no column stock_mm and no column trim_mm and no column length_mm"],
    ),
    "a binary file by another name": (b"PK\x03\x04\x14\x00\x06\x00\x08\x00\x00\x00!\x00\xff\xfe", ["it is no text in UTF-8: byte 14"]),
    "thousands parted, fields missing, nonsense": (
        b"stick,stock_mm,trim_mm,length_mm,for\n1,3,000,10,400,link\n1,3000,10,nan,link\n0,3000,10,-5,link\n1,3000\n1,3000,10,1e3,link\n",
        ["line 2: 6 fields under 5 headings", "line 3: length_mm “nan” is no", "line 4: stick “0” is no number", "line 4: length_mm “-5” is no length", "line 5: 2 fields under 5", "line 6: length_mm “1e3”"],
    ),
    "text of an old Windows": ("stick,stock_mm,trim_mm,length_mm,for\n1,3000,10,400,Lösung\n".encode("latin-1"), ["it is no text in UTF-8: byte"]),
    "nothing": (b"", ["it has no line of headings"]),
    "headings alone": (b"stick,stock_mm,trim_mm,length_mm\n\n", ["it has headings and no piece"]),
    "zeros for text": (b"stick,stock_mm,trim_mm,length_mm\n1,3000,10,4\x0000\n", ["bytes that are no text"]),
    "more than its stick has": (
        b"stick,stock_mm,trim_mm,length_mm\n1,1000,10,600\n1,1000,10,389\n",
        ["line 3: 389 mm is more than the 388.0 mm that stick 1 has left"],
    ),
    "a stick taken up again": (
        b"stick,stock_mm,trim_mm,length_mm\n1,2000,10,600\n2,1000,10,600\n1,2000,10,600\n",
        ["line 4: stick 1 was put away already"],
    ),
    "one stick of two lengths": (
        b"stick,stock_mm,trim_mm,length_mm\n1,2000,10,600\n1,2100,10,600\n",
        ["line 3: stick 1 is 2000 mm with a trim of 10 mm above and 2100"],
    ),
    "past the stop": (b"stick,stock_mm,trim_mm,length_mm\n1,6000,10,3001\n", ["past the stop’s reach of 3000 mm"]),
    "too short to hold": (
        b"stick,stock_mm,trim_mm,length_mm\n1,100,0,50\n",
        ["neither the piece, 50 mm, nor what is left, 48.0 mm, is as long as the 60 mm"],
    ),
}  # fmt: skip


@pytest.mark.parametrize("name", BAD)
def test_a_bad_order_is_refused_with_every_fault_and_its_line(name: str) -> None:
    file, says = BAD[name]
    with pytest.raises(Refused) as caught:
        saw(file, 2.0)
    assert len(caught.value.faults) == len(says), caught.value.faults
    for fault, words in zip(caught.value.faults, says, strict=True):
        assert words in fault


def test_semicolons_and_decimal_commas_a_mark_of_the_byte_order_and_further_columns_are_read() -> None:
    text = "\ufeffStick;Stock_mm;Trim_mm;Length_mm;For;Colour\r\n1;3000;10;400,5;link;red\r\n"
    (cut,) = saw(text.encode(), 2.0).cuts
    assert (cut.stop, cut.what) == (400.5, "link")
    assert saw("stick\tstock_mm\ttrim_mm\tlength_mm\n1\t3000\t0\t400.04\n", 2.0).cuts[0].stop == pytest.approx(400.0)


@given(
    pieces=st.lists(st.tuples(st.sampled_from([70.0, 310.0, 455.5, 884.2]), st.integers(1, 5)), min_size=1, max_size=4),
    kerf=st.sampled_from([0.0, 1.5, 3.0]),
)  # fmt: skip
def test_the_order_of_any_layout_is_sawn_whole(pieces: list[tuple[float, int]], kerf: float) -> None:
    listed = [
        SawPiece(key=str(i), part_id="p", part=f"=link {i}", side="pair", tube="32 × 2", grade="steel", length_mm=mm, count=count, before_notching=False, ends=("square", "square"))
        for i, (mm, count) in enumerate(pieces)
    ]  # fmt: skip
    (one,) = from_rack(listed, [], 3000.0, Saw(kerf=kerf, trim_start=5.0))
    kept = keep(one, "Marram", "draft 3")
    found = saw(cut_order(kept), kerf)
    assert sorted(cut.stop for cut in found.cuts) == pytest.approx(sorted(mm for mm, count in pieces for _ in range(count)))  # fmt: skip
    for n, stick in enumerate(kept.sticks, 1):
        assert [cut for cut in found.cuts if cut.stick == n][-1].left == pytest.approx(stick.left_mm, abs=0.05)


def test_short_pieces_are_sawn_while_there_is_a_stick_to_hold_and_are_told() -> None:
    """50 mm in a vice that holds 60: first off its stick, and how often the stop is set is counted as it is then sawn."""
    listed = [
        SawPiece(key=str(mm), part_id="p", part="x", side="pair", tube="t", grade="g", length_mm=mm, count=count, before_notching=False, ends=("square", "square"))
        for mm, count in ((700.0, 1), (50.0, 3))
    ]  # fmt: skip
    (plain,), (held,) = (from_rack(listed, [], 866.0, Saw(kerf=2.0), hold=hold) for hold in (0.0, 60.0))
    assert plain.short == 0
    assert held.short == 3
    assert held.cutting is not None
    assert [stick.pieces for stick in held.cutting.sticks] == [(50.0, 50.0, 50.0, 700.0)]
    ups = next(wish.value for wish in held.cutting.wishes if wish.name.startswith("set-ups"))
    assert ups == 2
    from tirante.core.cutting.from_rack import told

    assert told(held).endswith("3 pieces are shorter than the vice holds: sawn first from their stick")
    assert "shorter" not in told(plain)
    saw(cut_order(keep(held, "Marram", "draft")), 2.0)


def test_how_often_the_stop_is_set_is_counted_as_it_is_sawn() -> None:
    """Two sticks of one short and one long piece each: long, short and short, long sets it three times; short first, four times."""
    listed = [
        SawPiece(key=str(mm), part_id="p", part="x", side="pair", tube="t", grade="g", length_mm=mm, count=2, before_notching=False, ends=("square", "square"))
        for mm in (700.0, 50.0)
    ]  # fmt: skip
    for hold, wanted in ((0.0, 3), (60.0, 4)):
        (one,) = from_rack(listed, [], 760.0, Saw(kerf=2.0), hold=hold)
        assert one.cutting is not None
        assert next(wish.value for wish in one.cutting.wishes if wish.name.startswith("set-ups")) == wanted
        assert saw(cut_order(keep(one, "Marram", "draft")), 2.0, vice=0.0).set_ups == wanted


def test_the_command_reports_cuts_and_refuses_with_code_2(tmp_path: Path) -> None:
    good, bad = tmp_path / "good.csv", tmp_path / "bad.csv"
    good.write_text(ORDER)
    bad.write_text("stick,stock_mm\n")
    done = subprocess.run(
        [sys.executable, "-m", "tirante.cli", "saw", str(good)], capture_output=True, text=True, check=False
    )
    assert done.returncode == 0
    assert len(json.loads(done.stdout)["cuts"]) == 4
    refused = subprocess.run(
        [sys.executable, "-m", "tirante.cli", "saw", str(bad)], capture_output=True, text=True, check=False
    )
    assert refused.returncode == 2
    assert json.loads(refused.stdout)["issues"][0]["path"] == "file"
    missing = subprocess.run(
        [sys.executable, "-m", "tirante.cli", "saw", str(tmp_path / "none.csv")],
        capture_output=True,
        text=True,
        check=False,
    )
    assert (missing.returncode, json.loads(missing.stdout)["code"]) == (2, "unreadable")
