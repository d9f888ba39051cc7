"""A job of everything that is made, on paper: every drawing stands on its sheet and says what it shows; lists and files agree."""

from __future__ import annotations

import csv
import io
import json
import re
import xml.etree.ElementTree as ET
import zipfile
from typing import Any

import ezdxf
import numpy as np
import pdfplumber
import pytest
from ezdxf import recover

from tests.conftest import ROOT
from tests.documents.test_files import stamp
from tests.golden.test_pins import shop
from tests.jobs import work
from tirante.core.document.upgrades import dump_design, load_design
from tirante.core.drawing.model import Arc, Area, Drawing, Line, Text
from tirante.core.drawing.sheet import Numbers
from tirante.core.job.check_sheets import check_sheets
from tirante.core.job.evaluate import evaluate
from tirante.core.parts.kind import ViewAsked
from tirante.core.parts.registry import kind_of
from tirante.core.units import INCH
from tirante.documents.pack import Stopped, cut_list_csv, make_pack
from tirante.documents.sheets import Chosen, pack_pdf

DESIGN = shop()
JOB = work(DESIGN)
VIEWS = [(part, view) for part in JOB.parts if part.complete for view in part.views]


def drawn(part: Any, view: Any) -> Drawing:
    return kind_of(part.saved).draw(part, ViewAsked(name=view.name), Numbers())


def reach(drawing: Drawing) -> tuple[float, float, float, float]:
    """Of all lines, arcs and areas: least and most x and y."""
    xs: list[float] = []
    ys: list[float] = []
    for item in drawing.items:
        if isinstance(item, Line):
            xs += [item.x1, item.x2]
            ys += [item.y1, item.y2]
        elif isinstance(item, Arc) and abs(item.end_deg - item.start_deg) >= 360 - 1e-9:
            xs += [item.cx - item.r, item.cx + item.r]
            ys += [item.cy - item.r, item.cy + item.r]
        elif isinstance(item, Area):
            xs += [x for x, _ in item.points]
            ys += [y for _, y in item.points]
        elif isinstance(item, Text):
            xs.append(item.x)
            ys.append(item.y)
    return min(xs), max(xs), min(ys), max(ys)


@pytest.mark.parametrize(("part", "view"), VIEWS, ids=[f"{part.name}: {view.name}" for part, view in VIEWS])
def test_a_drawing_stands_on_its_sheet_and_writes_what_can_be_read(part: Any, view: Any) -> None:
    drawing = drawn(part, view)
    left, right, low, high = reach(drawing)
    assert left >= -0.5
    assert low >= -0.5
    assert right <= drawing.width + 0.5
    assert high <= drawing.height + 0.5
    texts = [item for item in drawing.items if isinstance(item, Text)]
    assert all(item.text.strip() for item in texts)
    assert all(item.size >= 2.0 for item in texts), "smaller than can be read on paper"
    assert not any(word in item.text for item in texts for word in ("nan", "None", "inf "))
    # what can be picked names what it shows, by a sort that the page knows how to follow
    refs = {item.ref for item in drawing.items if item.ref}
    sorts = {ref.split(":")[0] for ref in refs}
    assert sorts <= {"dim", "check", "field", "end", "part", "station", "length", "tube", "span", "pivot", "outer", "hole", "plate", "bend", "stop", "step",
                     "joint", "weld"}, sorts  # fmt: skip


def test_the_pack_of_everything_holds_a_sheet_of_every_part_and_files_that_other_programs_read() -> None:
    told: list[tuple[int, int]] = []
    pack = make_pack(JOB, stamp(), lambda done, of: told.append((done, of)) or True)
    assert told == [(done, len(JOB.parts) + 1) for done in range(len(JOB.parts) + 1)]
    with zipfile.ZipFile(io.BytesIO(pack)) as archive:
        names = archive.namelist()
        assert names == sorted(names)
        for name in names:
            content = archive.read(name)
            if name.endswith(".svg"):
                assert ET.fromstring(content).tag.endswith("svg")
            if name.endswith(".dxf"):
                document, auditor = recover.read(io.BytesIO(content))
                assert not auditor.errors
                assert document.units == ezdxf.units.MM
        for number, part in enumerate(JOB.parts, 1):
            own = [name for name in names if name.startswith(f"{number:02d}-")]
            views = part.views if part.complete else ()
            assert len(own) == len(views) + sum(view.cut for view in views), part.name
        design = load_design(archive.read("design.json"))
        assert [part.id for part in design.parts] == [part.id for part in DESIGN.parts]
        assert json.loads(dump_design(design))["joints"] == json.loads(dump_design(DESIGN))["joints"]
        (pdf,) = [name for name in names if name.endswith(".pdf")]
        with pdfplumber.open(io.BytesIO(archive.read(pdf))) as document:
            text = "\n".join(page.extract_text() or "" for page in document.pages)
            count = len(document.pages)
            assert f"page {count} of {count}" in text or f"{count} of {count}" in text
        for part in JOB.parts:
            assert part.name.split(",")[0] in text, part.name
    # the same again is the same file, to the byte
    assert make_pack(JOB, stamp()) == pack


@pytest.mark.parametrize("after", [0, 1, 5])
def test_a_pack_that_is_wanted_no_more_ends_after_the_part_that_it_is_at(after: int) -> None:
    told: list[int] = []

    def step(done: int, _of: int) -> bool:
        told.append(done)
        return done < after

    with pytest.raises(Stopped):
        make_pack(JOB, stamp(), step)
    assert told == list(range(after + 1))


def test_the_csv_of_the_cut_list_is_the_list_row_by_row_in_both_units() -> None:
    rows = list(csv.DictReader(io.StringIO(cut_list_csv(JOB))))
    found = evaluate(JOB).cut_list
    saws = [row for row in rows if row["kind"] == "saw"]
    assert len(saws) == len(found.pieces)
    for row, piece in zip(saws, found.pieces, strict=True):
        assert (int(row["count"]), row["part"], row["side"]) == (piece.count, piece.part, piece.side)
        assert float(row["length_mm"]) == pytest.approx(piece.length_mm, abs=0.005)
        assert float(row["length_in"]) * INCH == pytest.approx(piece.length_mm, abs=0.0005 * INCH)
        assert row["remark"].startswith(piece.told)
        assert ("before notching" in row["remark"]) == piece.before_notching
        assert (row["ends"], row["turned"].replace("'", "")) == (piece.at_ends, piece.turned)
        assert row["kg"] == ("" if piece.mass_kg is None else f"{piece.mass_kg * piece.count:.3f}")
        assert (piece.mass_kg is None) == (piece.off_mm is not None)  # a bought link is shortened, not weighed
    items = [row for row in rows if row["count"] and row["kind"] != "saw"]
    assert [(row["kind"], row["hand"], row["count"]) for row in items] == [
        (item.kind, item.hand, str(item.count or "as needed")) for item in found.items
    ]
    assert [row["kg"] for row in items] == [
        "" if item.mass_kg is None else f"{item.mass_kg:.3f}" for item in found.items
    ]
    assert {row["kind"] for row in items if row["kg"]} == {"plate", "tab"}
    assert all(row["heat"] == "" for row in rows)
    # a pair is two of everything
    for part in JOB.parts:
        own = [piece for piece in found.pieces if piece.part_id == part.id]
        assert all(piece.count % part.saved.count == 0 for piece in own)
        if part.saved.kind == "link" and part.complete and part.saved.side == "pair":
            assert sum(piece.count for piece in own) in (0, 2, 4)


def test_every_member_has_its_check_sheet_with_the_lengths_between_its_own_points() -> None:
    sheets = {one.part_id: one for one in check_sheets(JOB, list(JOB.parts))}
    members = [
        part
        for part in JOB.parts
        if part.complete and kind_of(part.saved).station == "members" and not kind_of(part.saved).bought
    ]
    assert set(sheets) == {part.id for part in members}
    assert len(members) > 5
    for part in members:
        sheet = sheets[part.id]
        assert sheet.lengths, part.name
        assert sheet.tolerance == JOB.settings.check_tolerance_mm
        if part.saved.kind == "link" and not sheet.from_card:
            assert part.jig is None or sheet.lengths[0].mm == pytest.approx(part.jig.check_length)
    marram = work(load_design((ROOT / "data/demo/marram.json").read_bytes()))
    (arm,) = [part for part in marram.parts if part.name == "Front lower arm"]
    (sheet,) = check_sheets(marram, [arm])
    end = marram.ends[arm.saved.of_end or ""]
    for one in sheet.lengths:
        a, b = (np.array(end.points[name.replace(" ", "_")]) for name in one.what.split(" to "))
        assert one.mm == pytest.approx(float(np.linalg.norm(a - b)), abs=1e-6)
    assert len(sheet.lengths) == 3
    assert sheet.signed
    assert (sheet.hands, sheet.alike) == (("LEFT", "RIGHT"), False)
    with pdfplumber.open(io.BytesIO(pack_pdf(marram, stamp(), Chosen(parts=frozenset({arm.id}))))) as document:
        text = "\n".join(page.extract_text() for page in document.pages[-2:])
    assert "Check sheets" in text
    figure = f"{abs(sheet.signed.height):.1f} mm"
    flat = " ".join(text.split())
    assert re.search(rf"LEFT: Look [^:]*: [^.]*lies {re.escape(figure)} above their plane", flat)
    assert re.search(rf"RIGHT: Look [^:]*: [^.]*lies {re.escape(figure)} below their plane", flat)
    for one in sheet.lengths:
        assert f"{one.what} {one.mm:.1f}" in flat
