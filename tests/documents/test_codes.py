"""Codes on sheets and labels, read back by a general-purpose reader from what is printed; labels; what a pack says of itself."""

from __future__ import annotations

import csv
import hashlib
import io
import json
import zipfile
from collections.abc import Sequence
from dataclasses import replace

import numpy as np
import pdfplumber
import pytest
import zxingcpp
from numpy.typing import NDArray

from tests.core.test_loads import demo
from tests.core.test_on_sheets import laid, plate, row
from tests.documents.test_files import stamp
from tests.jobs import work
from tirante.core.cutting.cut_list import cut_list
from tirante.core.cutting.from_rack import from_rack
from tirante.core.cutting.kept import keep
from tirante.core.cutting.sticks import Saw
from tirante.core.drawing.model import Arc, Area, Text
from tirante.documents.code import code_drawing, sheet_address
from tirante.documents.cutting_table import drive
from tirante.documents.label import HIGH, WIDE, labels_of
from tirante.documents.pack import make_pack
from tirante.documents.pdf import BOLD, REGULAR, register_fonts
from tirante.documents.saw import saw
from tirante.documents.sheets import Chosen, pack_pdf

LINK = "http://127.0.0.1:8000/sheet/0190a000-0000-7000-8000-00000000aa01/4"
DOTS = 10  # a millimetre
Box = tuple[float, float, float, float]  # left, foot, right, top


def read(boxes: Sequence[Box], wide: float, high: float) -> list[str]:
    """What a reader finds on white paper with black boxes on it [mm]."""
    paper: NDArray[np.uint8] = np.full((round(high * DOTS), round(wide * DOTS)), 255, np.uint8)
    for left, foot, right, top in boxes:
        paper[round((high - top) * DOTS) : round((high - foot) * DOTS), round(left * DOTS) : round(right * DOTS)] = 0
    return [one.text for one in zxingcpp.read_barcodes(paper)]


def dark(items: Sequence[object]) -> list[Box]:
    areas = [one for one in items if isinstance(one, Area) and one.fill == "solid"]
    return [(min(x for x, _ in a.points), min(y for _, y in a.points), max(x for x, _ in a.points), max(y for _, y in a.points)) for a in areas]  # fmt: skip


@pytest.mark.parametrize(
    "text", ["x", sheet_address(LINK, "0190a000-0000-7000-8000-00000000aa02", "0123456789abcdef"), "Lösung – 40°"]
)
def test_a_code_is_read_as_it_was_written(text: str) -> None:
    drawing = code_drawing(text, 30.0)
    assert read(dark(drawing.items), 30.0, 30.0) == [text]


def test_a_code_with_a_spot_of_dirt_on_it_is_read_too() -> None:
    text = sheet_address(LINK, "0190a000-0000-7000-8000-00000000aa02", "0123456789abcdef")
    boxes = dark(code_drawing(text, 30.0).items)
    assert read([*boxes, (17.0, 12.0, 20.5, 15.5)], 30.0, 30.0) == [text]


def test_every_card_of_the_sheets_carries_its_own_part_s_code_and_none_without_an_address() -> None:
    """Read from the PDF's own black rectangles, page by page."""
    job = work(demo("tern"))
    with pdfplumber.open(io.BytesIO(pack_pdf(job, stamp(link=LINK)))) as document:
        found = []
        for page in document.pages:
            scale = 25.4 / 72
            boxes = [(one["x0"] * scale, one["y0"] * scale, one["x1"] * scale, one["y1"] * scale) for one in (*page.rects, *page.curves) if one["fill"] and one["non_stroking_color"] in ((0.12549, 0.14902, 0.168627),) and not one["stroke"]]  # fmt: skip
            if len(boxes) > 100:
                found += read(boxes, float(page.width) * scale, float(page.height) * scale)
    assert found == [sheet_address(LINK, part.id, part.metal) for part in job.parts]
    with pdfplumber.open(io.BytesIO(pack_pdf(job, stamp()))) as document:
        assert "is it still so" not in "".join(page.extract_text() for page in document.pages)


def test_a_pair_that_differs_has_a_label_for_each_hand_by_word_place_and_outline() -> None:
    job = work(demo("marram"))
    arm = next(part for part in job.parts if part.name == "Front lower arm")
    left, right = labels_of(arm, stamp(link=LINK))
    assert (left.hand, right.hand) == ("LEFT", "RIGHT")
    for label in (left, right):
        texts = {one.text: one for one in label.drawing.items if isinstance(one, Text)}
        assert {"Front lower arm", "Marram", "rev 3", label.hand} <= set(texts)
        assert (texts[label.hand].x < WIDE / 2) is (label.hand == "LEFT")
        assert any(isinstance(one, Arc) for one in label.drawing.items) is (label.hand == "RIGHT")
        assert read(dark(label.drawing.items), WIDE, HIGH) == [sheet_address(LINK, arm.id, arm.metal)]
        assert all(0 <= x <= WIDE and 0 <= y <= HIGH for item in label.drawing.items if isinstance(item, Area) for x, y in item.points)  # fmt: skip
    alike = next(part for part in job.parts if part.side == "pair" and part.own_mirror)
    assert [one.hand for one in labels_of(alike, stamp())] == ["", ""]
    centre = next(part for part in job.parts if part.side == "centre")
    assert len(labels_of(centre, stamp())) == 1
    (draft, *_) = labels_of(arm, stamp(issued=False))
    assert any(
        isinstance(one, Text) and one.text == "DRAFT, rev 3" and one.tone == "red" for one in draft.drawing.items
    )
    assert not dark(draft.drawing.items)  # no address, no code


@pytest.mark.parametrize("name", ["Front lower arm, reinforced, second series", "Querlenkerhalterungsverstaerkung", "x", "Front upper arm, rear pivot, tabs, front plate"])  # fmt: skip
def test_words_of_a_label_stand_clear_of_its_code_however_long(name: str) -> None:
    """By the breadths of the shipped letters themselves."""
    from reportlab.pdfbase.pdfmetrics import stringWidth

    register_fonts()
    job = work(demo("marram"))
    arm = next(part for part in job.parts if part.name == "Front lower arm")
    arm = replace(arm, saved=arm.saved.model_copy(update={"name": name}))
    for label in labels_of(arm, stamp(link=LINK, job="The long job of the harbour’s second flatbed", issued=False)):
        (left, _, right, _), *_ = [
            (min(x for x, _ in item.points), 0, max(x for x, _ in item.points), 0) for item in label.drawing.items if isinstance(item, Area) and item.fill == "sheet"
        ]  # fmt: skip
        for item in label.drawing.items:
            if isinstance(item, Text):
                breadth = stringWidth(item.text, BOLD if item.bold else REGULAR, item.size)
                begin = item.x - (breadth / 2 if item.anchor == "middle" else 0.0)
                assert begin + breadth <= left or begin >= right, item.text
                assert begin + breadth <= WIDE - 0.4


def test_a_pack_tells_what_it_is_of_and_the_sum_of_every_file_and_the_same_gives_the_same_bytes() -> None:
    job = work(demo("tern"))
    pack = make_pack(job, stamp(link=LINK))
    assert make_pack(job, stamp(link=LINK)) == pack
    with zipfile.ZipFile(io.BytesIO(pack)) as archive:
        told = json.loads(archive.read("manifest.json"))
        names = set(archive.namelist()) - {"manifest.json"}
        assert {one["name"] for one in told["files"]} == names
        for one in told["files"]:
            body = archive.read(one["name"])
            assert (hashlib.sha256(body).hexdigest(), len(body)) == (one["sha256"], one["bytes"])
    assert (told["job"], told["revision"], told["issued"], told["reviewer"], told["whole"]) == ("Marram", "rev 3", True, None, True)  # fmt: skip
    assert [(one["id"], one["metal"]) for one in told["parts"]] == [(part.id, part.metal) for part in job.parts]


def test_a_pack_of_chosen_parts_has_those_alone_and_says_so() -> None:
    job = work(demo("tern"))
    complete = [part for part in job.parts if part.complete]
    some = [complete[0], complete[-1]]
    chosen = Chosen(parts=frozenset(part.id for part in some))
    with zipfile.ZipFile(io.BytesIO(make_pack(job, stamp(), chosen=chosen))) as archive:
        told = json.loads(archive.read("manifest.json"))
        assert [one["id"] for one in told["parts"]] == [part.id for part in some]
        assert told["whole"] is False
        listed = archive.read("cut-list.csv").decode()
        pdf = archive.read(next(name for name in archive.namelist() if name.endswith(".pdf")))
        drawn = {name.split("-")[0] for name in archive.namelist() if name[:2].isdigit()}
    assert drawn == {f"{job.parts.index(part) + 1:02d}" for part in some}
    with pdfplumber.open(io.BytesIO(pdf)) as document:
        text = "\n".join(page.extract_text() for page in document.pages)
    assert f"2 of {len(job.parts)} parts" in text
    assert "Of this job only" in text
    wanted = {piece.part for piece in cut_list(some).pieces}
    for part in job.parts:
        if part not in some:
            assert f"{part.name} ·" not in text
    assert wanted
    assert all(name in listed for name in wanted)
    others = {piece.part for piece in cut_list([part for part in job.parts if part not in some]).pieces}
    assert others
    assert not any(f",{name}," in listed for name in others)


def test_layouts_go_with_the_pack_as_files_for_the_machines_and_as_pages_and_what_changed_since_is_said() -> None:
    job = work(demo("tern"))
    nest = laid([plate(20)], [row(1)])
    pieces = cut_list(job.parts).pieces
    (tube, *_) = from_rack(pieces, [], 6000.0, Saw(kerf=2.0))
    sticks = keep(tube, "Tern", "draft 3", job.parts)
    stale = replace_metal(sticks).model_copy(update={"new_heat": "H-5521"})  # type: ignore[attr-defined]
    with zipfile.ZipFile(io.BytesIO(make_pack(job, stamp(), chosen=Chosen(layouts=(nest, sticks, stale))))) as archive:
        files = {name: archive.read(name) for name in archive.namelist() if name.startswith("layout-")}
        pdf = archive.read(next(name for name in archive.namelist() if name.endswith(".pdf")))
        listed = list(csv.DictReader(io.StringIO(archive.read("cut-list.csv").decode())))
    # of the tube that was laid out the list has the heat, of the others none
    heats = {(row["what"], row["heat"]) for row in listed if row["kind"] == "saw"}
    assert {heat for what, heat in heats if what.lstrip("'") == f"{tube.tube}, {tube.grade}"} == {
        "one not kept, H-5521"
    }
    assert {heat for what, heat in heats if what.lstrip("'") != f"{tube.tube}, {tube.grade}"} == {""}
    sheets = [drive(body, 5.0).parts for name, body in sorted(files.items()) if name.endswith(".dxf")]
    assert sheets == [len(one.placed) for one in nest.sheets]
    orders = [saw(body, 2.0) for name, body in files.items() if name.endswith("cut-order.csv")]
    assert [len(one.cuts) for one in orders] == [sum(len(stick.pieces) for stick in sticks.sticks)] * 2
    with pdfplumber.open(io.BytesIO(pdf)) as document:
        pages = [page.extract_text() for page in document.pages]
    assert any("Layout 1: 5 mm S355 plate" in page and "offcut, bay 1" in page for page in pages)
    assert any("Cut list" in page and "H-5521" in page for page in pages[:3])
    second = next(page for page in pages if page.split("\n")[1].startswith("Layout 2"))
    assert "heat" not in second
    third = next(page for page in pages if page.split("\n")[1].startswith("Layout 3"))
    assert "Do not cut by this sheet" not in second
    assert "Do not cut by this sheet" in third
    assert "new, heat H-5521" in third
    assert sticks.parts[0].name in third


def replace_metal(sticks: object) -> object:
    parts = sticks.parts  # type: ignore[attr-defined]
    return sticks.model_copy(update={"parts": (parts[0].model_copy(update={"metal": "other"}), *parts[1:])})  # type: ignore[attr-defined]


def test_the_load_summary_has_every_link_of_every_end_with_its_hardest_case() -> None:
    job = work(demo("tern"))
    with pdfplumber.open(io.BytesIO(pack_pdf(job, stamp()))) as document:
        text = "\n".join(
            page.extract_text() for page in document.pages if "Load summary" in (page.extract_text() or "")
        )
    for end in job.design.ends:
        carried = job.carried(end.id)
        assert job.end_name(end.id) in text
        one = max((c for c in carried.cases if c.forces), key=lambda c: max(c.forces.axial.values()))  # type: ignore[union-attr]
        name, force = max(one.forces.axial.items(), key=lambda pair: pair[1])  # type: ignore[union-attr]
        rows = text.split("\n")
        at = next(i for i, row in enumerate(rows) if row.startswith(name.replace("_", " ")))
        line = " ".join(rows[at - 1 : at + 2])  # a long case runs over two lines
        assert f" {force + one.forces.bind.get(name, 0.0):.0f} " in line  # type: ignore[union-attr]
        assert one.name.split()[0] in line
    bare = job.design.model_copy(update={"loads": job.design.loads.model_copy(update={"cases": ()})})  # fmt: skip
    with pdfplumber.open(io.BytesIO(pack_pdf(work(bare), stamp()))) as document:
        assert "no load cases: nothing is carried here" in "\n".join(page.extract_text() for page in document.pages[:6])
