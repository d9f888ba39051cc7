"""DXF, SVG and PDF read back with other libraries and compared with the drawing model."""

import csv
import io
import json
import re
import xml.etree.ElementTree as ET
import zipfile
from collections.abc import Iterator
from contextlib import contextmanager
from itertools import pairwise
from math import hypot
from typing import Any

import ezdxf
import pdfplumber
import pytest
from ezdxf import recover

from tests.conftest import ROOT
from tests.core.test_leaf_perch import with_perch
from tests.jobs import built, draw, links, with_links, with_part, work
from tirante.core.document.design import Design
from tirante.core.document.fields import Length
from tirante.core.document.parts.arm import Arm
from tirante.core.document.parts.bracket import TabPair
from tirante.core.document.upgrades import load_design
from tirante.core.drawing.model import Arc, Drawing, Line, Text
from tirante.core.drawing.sheet import Numbers
from tirante.core.job.memory import Memory
from tirante.core.job.worked import Worked
from tirante.core.loads import end_loads
from tirante.core.loads.end_loads import EndLoads
from tirante.core.parts.part import PlatePiece
from tirante.documents.dxf import to_dxf
from tirante.documents.pack import cut_list_csv, make_pack
from tirante.documents.pdf import Stamp
from tirante.documents.sheets import pack_pdf
from tirante.documents.svg import to_svg
from tirante.shipped import the_shelf

POINT = 25.4 / 72  # mm


def stamp(**more: object) -> Stamp:
    fields = {
        "job": "Marram",
        "revision": "rev 3",
        "date": "2026-01-02",
        "units": "mm",
        "reviewer": None,
        "issued": True,
        **more,
    }
    return Stamp(**fields)  # type: ignore[arg-type]


OPENED: dict[str, pdfplumber.PDF] = {}


@contextmanager
def sheets_of(design: Design) -> Iterator[pdfplumber.PDF]:
    """A job's sheets, issued and not reviewed; read once for all that look at them."""
    if design.name not in OPENED:
        OPENED[design.name] = pdfplumber.open(io.BytesIO(pack_pdf(work(design), stamp())))
    yield OPENED[design.name]


@pytest.fixture(scope="module", autouse=True)
def _closed() -> Iterator[None]:
    yield
    for document in OPENED.values():
        document.close()
    OPENED.clear()


def flats(design: Design) -> Iterator[tuple[TabPair, Drawing]]:
    for tab in design.of_kind(TabPair):
        yield tab, draw(tab, design, "tab-flat", Numbers())


def test_the_dxf_passes_audit_and_holds_the_model_exactly(marram: Design) -> None:
    seen = 0
    for tab, flat in flats(marram):
        document, auditor = recover.read(io.BytesIO(to_dxf(flat).encode()))
        assert not auditor.errors
        assert not auditor.fixes
        assert document.units == ezdxf.units.MM
        space = document.modelspace()
        lines = {
            tuple(round(v, 9) for v in (*e.dxf.start.vec2, *e.dxf.end.vec2)) for e in space.query("LINE[layer=='CUT']")
        }
        arcs = {
            tuple(round(v, 9) for v in (*e.dxf.center.vec2, e.dxf.radius, e.dxf.start_angle, e.dxf.end_angle))
            for e in space.query("ARC")
        }
        circles = {tuple(round(v, 9) for v in (*e.dxf.center.vec2, e.dxf.radius)) for e in space.query("CIRCLE")}
        cut = [item for item in flat.items if getattr(item, "style", None) == "cut"]
        assert lines == {tuple(round(v, 9) for v in (i.x1, i.y1, i.x2, i.y2)) for i in cut if isinstance(i, Line)}
        assert arcs == {
            tuple(round(v, 9) for v in (i.cx, i.cy, i.r, i.start_deg, i.end_deg))
            for i in cut
            if isinstance(i, Arc) and not i.full
        }
        assert circles == {tuple(round(v, 9) for v in (i.cx, i.cy, i.r)) for i in cut if isinstance(i, Arc) and i.full}
        assert {e.dxf.layer for e in space} <= {"CUT", "MARK", "TEXT"}
        # no polyline stands for an arc, and the contour of the cut closes
        assert not space.query("LWPOLYLINE[layer=='CUT']")
        ends = [p for e in space.query("LINE ARC[layer=='CUT']") for p in _ends(e)]
        for x, y in ends:
            assert sum(hypot(x - a, y - b) < 1e-6 for a, b in ends) == 2
        hole = tab.hole.mm
        assert [c[2] * 2 for c in circles] == [pytest.approx(hole)]
        seen += 1
    assert seen >= 3


def _ends(entity: object) -> list[tuple[float, float]]:
    if entity.dxftype() == "LINE":  # type: ignore[attr-defined]
        return [(p.x, p.y) for p in (entity.dxf.start, entity.dxf.end)]  # type: ignore[attr-defined]
    return [(p.x, p.y) for p in (entity.start_point, entity.end_point)]  # type: ignore[attr-defined]


def test_a_saddle_foot_is_cut_as_an_arc_of_its_tube(marram: Design) -> None:
    for tab, flat in flats(marram):
        base = tab.base
        if base.kind != "saddle":
            continue
        radii = [i.r for i in flat.items if isinstance(i, Arc) and not i.full]
        assert any(r == pytest.approx(base.tube_od.mm / 2) for r in radii)
        return
    pytest.fail("the demo has no saddle")


def test_the_svg_is_the_drawing_at_true_millimetres(marram: Design) -> None:
    for _, flat in flats(marram):
        root = ET.fromstring(to_svg(flat))
        space = "{http://www.w3.org/2000/svg}"
        assert root.get("width") == f"{flat.width:.4f}".rstrip("0").rstrip(".") + "mm"
        assert [float(n) for n in root.get("viewBox", "").split()] == pytest.approx(
            [0, 0, flat.width, flat.height], abs=1e-4
        )
        circle = root.find(f"{space}circle")
        assert circle is not None
        hole = next(i for i in flat.items if isinstance(i, Arc) and i.full)
        assert float(circle.get("cx", 0)) == pytest.approx(hole.cx, abs=1e-4)
        assert flat.height - float(circle.get("cy", 0)) == pytest.approx(hole.cy, abs=1e-4)
        assert float(circle.get("r", 0)) == pytest.approx(hole.r, abs=1e-4)


def test_check_bars_and_hole_centres_print_at_true_size(marram: Design) -> None:
    # another library measures the page: bars 100 mm and 101.6 mm, hole centre and diameter, within 0.05 mm
    expected = [flat for _, flat in flats(marram)]
    with sheets_of(marram) as document:
        templates = [page for page in document.pages if "1:1 template" in (page.extract_text() or "")]
        assert len(templates) == len(expected)
        for page, flat in zip(templates, expected, strict=True):
            bars = sorted(
                (line["x1"] - line["x0"]) * POINT
                for line in page.lines
                if abs(line["y0"] - line["y1"]) < 0.01 and line["y0"] * POINT < 30
            )
            assert any(bar == pytest.approx(100.0, abs=0.05) for bar in bars)
            assert any(bar == pytest.approx(101.6, abs=0.05) for bar in bars)
            hole = next(i for i in flat.items if isinstance(i, Arc) and i.full)
            rounds = [
                ((c["x0"] + c["x1"]) / 2 * POINT, (c["y0"] + c["y1"]) / 2 * POINT, (c["x1"] - c["x0"]) * POINT)
                for c in page.curves
            ]
            found = [(x, y) for x, y, d in rounds if d == pytest.approx(2 * hole.r, abs=0.05)]
            assert found
            # every straight cut stands from the hole's centre as on the flat
            printed = [tuple(v * POINT for v in (one["x0"], one["y0"], one["x1"], one["y1"])) for one in page.lines]
            for cut in (item for item in flat.items if isinstance(item, Line) and item.style == "cut"):
                x, y = found[0]
                xs = sorted((cut.x1 - hole.cx + x, cut.x2 - hole.cx + x))
                ys = sorted((cut.y1 - hole.cy + y, cut.y2 - hole.cy + y))
                want = (xs[0], ys[0], xs[1], ys[1])
                assert any(max(abs(a - b) for a, b in zip(want, one, strict=True)) < 0.05 for one in printed), want


def test_every_page_carries_job_revision_date_page_and_review(marram: Design) -> None:
    with sheets_of(marram) as document:
        total = len(document.pages)
        for number, page in enumerate(document.pages, 1):
            text = page.extract_text()
            for mark in ("Marram", "rev 3", "2026-01-02", f"page {number} of {total}", "NOT REVIEWED"):
                assert mark in text, (number, mark)
            assert "DRAFT" not in text
    told = {
        "reviewer": "A. Reviewer",
        "reviewed_on": "2026-01-05",
        "limits": "the links; no bracket",
        "log": f"41 {'0123456789abcdef' * 4}",
    }
    with pdfplumber.open(io.BytesIO(pack_pdf(work(marram), stamp(**told)))) as document:
        pages = [page.extract_text() for page in document.pages]
    for page in pages:
        assert "reviewed by A. Reviewer, 2026-01-05; its limits are on the cover" in page
        assert "NOT REVIEWED" not in page
        assert "log 41 0123456789abcdef · rev 3" in page
    assert "Limits of the review: the links; no bracket" in pages[0]
    assert "0123456789abcdef" * 4 in pages[0].replace("\n", "")
    # of a draft nobody's review counts, nor does a name that nobody signed
    for otherwise in ({**told, "issued": False}, {**told, "reviewed_on": ""}):
        with pdfplumber.open(io.BytesIO(pack_pdf(work(marram), stamp(**otherwise)))) as document:
            first = document.pages[0]
            red = [c for c in first.chars if c["non_stroking_color"] not in ((0,), (0, 0, 0)) and c["size"] > 3.5]
            assert "A.Reviewer" in "".join(c["text"] for c in red).replace(" ", "")
            assert "Limits of the review" not in first.extract_text()


def test_what_is_not_issued_is_marked_draft_on_every_page(marram: Design) -> None:
    with pdfplumber.open(io.BytesIO(pack_pdf(work(marram), stamp(issued=False)))) as document:
        assert all("DRAFT" in page.extract_text() for page in document.pages)


def test_nothing_on_a_page_runs_off_it_or_over_the_foot(marram: Design, quay: Design) -> None:
    for design in (marram, quay):
        with sheets_of(design) as document:
            for page in document.pages:
                assert all(
                    w["x0"] * POINT > 11.9 and w["x1"] * POINT < 198.6 and w["top"] > 0 and w["bottom"] < page.height
                    for w in page.extract_words()
                )
                lines = page.extract_text_lines()
                overlapping = [
                    (a["text"], b["text"])
                    for a, b in pairwise(lines)
                    if b["top"] < a["bottom"] - 4
                    and b["x0"] < a["x1"]
                    and a["x0"] < b["x1"]
                    and a["bottom"] > page.height - 60
                ]
                assert not overlapping


@pytest.mark.parametrize("name", ["marram", "quay"])
def test_every_sheet_reads_at_arm_s_length(name: str, request: pytest.FixtureRequest) -> None:
    """Sentences in letters of 3.5 mm, what a shrunk drawing tells beside its figures 2.5; ISO 3098-1 begins its lettering there, from memory."""
    with sheets_of(request.getfixturevalue(name)) as document:
        for page in document.pages:
            for char in page.chars:
                assert char["size"] * POINT > 2.49, (page.page_number, char["text"])
            for line in page.extract_text_lines():
                if line["text"].endswith("."):  # a sentence
                    assert min(char["size"] for char in line["chars"]) * POINT > 3.49, line["text"]


def test_no_heading_stands_alone_at_a_page_s_foot_and_pages_are_filled(marram: Design, quay: Design) -> None:
    continued = 0
    for design in (marram, quay):
        with sheets_of(design) as document:
            ends = []
            for page in document.pages:
                own = [char for char in page.chars if 24 < char["top"] * POINT < page.height * POINT - 12]
                last = max(own, key=lambda char: char["bottom"])
                bold = "Bold" in last["fontname"] or "bold" in last["fontname"]
                assert not (bold and abs(last["size"] * POINT - 3.9) < 0.05), page.page_number
                ends.append(last["bottom"] / page.height)
                if ", continued" in page.extract_text():
                    continued += 1
                    assert ends[-2] > 0.75, page.page_number
    assert continued


def test_the_card_says_the_saw_length_of_the_screen(marram: Design) -> None:
    made = built(links(marram)[0], marram)
    with sheets_of(marram) as document:
        (text,) = [
            page.extract_text()
            for page in document.pages
            if f"SAW {made.stack.tube_cut:.1f}" in (page.extract_text() or "")
        ]
    assert "Rear lower link" in text
    assert f"SAW {made.stack.tube_cut:.1f}" in text
    assert f"{made.stack.ends[0].max_showing:.1f}" in text
    assert "LH" in text


def test_a_pack_is_the_same_bytes_each_time_and_its_design_reads_back(marram: Design) -> None:
    one, two = make_pack(work(marram), stamp()), make_pack(work(marram), stamp())
    assert one == two
    with zipfile.ZipFile(io.BytesIO(one)) as pack:
        names = pack.namelist()
        assert {name.rsplit(".", 1)[1] for name in names} == {"pdf", "dxf", "svg", "csv", "json"}
        assert load_design(pack.read("design.json")).parts == marram.parts


def test_a_pair_is_counted_twice_in_the_cut_list(marram: Design) -> None:
    found = list(csv.DictReader(io.StringIO(cut_list_csv(work(marram)))))
    saw = {row["part"]: int(row["count"]) for row in found if row["kind"] == "saw"}
    assert saw["Rear lower link"] == 2
    assert saw["Panhard rod"] == 1
    assert {row["part"]: row["remark"] for row in found if "arm, front tube" in row["part"]} == {
        "Front lower arm, front tube": "to its longest points", "Front upper arm, front tube": "to its longest points"
    }  # fmt: skip
    ends = 2 * sum(2 if link.side == "pair" else 1 for link in links(marram))
    arms = 2 * 2 * sum(arm.pivots == "rod ends" for arm in marram.of_kind(Arm))
    assert sum(int(row["count"]) for row in found if row["what"].startswith("rod end ")) == ends + arms
    # what moves and is made nowhere stands on the list by name
    assert {"upright", "axle"} <= {row["what"] for row in found if row["kind"] == "not made"}


def test_a_name_cannot_become_a_formula_or_markup(marram: Design) -> None:
    evil = links(marram)[0].model_copy(update={"name": '=1+1<script>"&'})
    design = with_links(marram, evil)
    assert "'=1+1" in cut_list_csv(work(design))
    drawing = draw(evil, design, "drawing", Numbers())
    assert ET.fromstring(to_svg(drawing)).find("{http://www.w3.org/2000/svg}title").text == evil.name  # type: ignore[union-attr]
    assert pack_pdf(work(design), stamp())


def test_a_plate_larger_than_the_page_goes_over_sheets_that_are_laid_on_each_other(marram: Design) -> None:
    """Every cross stands on two sheets; laid cross on cross, the hole is where the drawing has it, at true size."""
    tab = marram.of_kind(TabPair)[0]
    huge = tab.model_copy(update={"height": Length(mm=260.0), "base_width": Length(mm=290.0)})
    design = with_part(marram, huge)
    drawing = draw(huge, design, "tab-flat", Numbers())
    with pdfplumber.open(io.BytesIO(pack_pdf(work(design), stamp()))) as document:
        sheets = [page for page in document.pages if "lay the crosses" in page.extract_text()]
        assert len(sheets) == 4
        found: dict[str, list[tuple[int, float, float]]] = {}
        for n, page in enumerate(sheets):
            for word in page.extract_words(keep_blank_chars=False):
                if re.fullmatch(r"\d[-|]\d\.\d[ab]", word["text"]):
                    found.setdefault(word["text"], []).append((n, word["x0"] * POINT, word["bottom"] * POINT))
        assert found
        shifts: dict[tuple[int, int], list[tuple[float, float]]] = {}
        for places in found.values():
            for k, (n, x, y) in enumerate(places):
                for m, u, v in places[k + 1 :]:
                    shifts.setdefault((n, m), []).append((u - x, v - y))
        assert {(0, 1), (0, 2), (1, 3), (2, 3)} <= shifts.keys()
        for several in shifts.values():  # one way to lay them, whichever cross is taken
            for dx, dy in several:
                assert (dx, dy) == pytest.approx(several[0], abs=0.02)
        holes = [
            next(
                (c["x0"] * POINT, c["top"] * POINT)
                for c in page.curves
                if abs((c["x1"] - c["x0"]) * POINT - huge.hole.mm) < 0.05
            )
            for page in sheets
        ]
        for (n, m), several in shifts.items():
            assert (holes[m][0] - holes[n][0], holes[m][1] - holes[n][1]) == pytest.approx(several[0], abs=0.05)
        # laid together they reach as far as the plate does
        across = -shifts[0, 1][0][0]
        up = shifts[0, 2][0][1]
        assert 0 < across < 186
        assert 0 < up < 250
    wide = max(max(i.x1, i.x2) for i in drawing.items if isinstance(i, Line) and i.style == "cut") - min(
        min(i.x1, i.x2) for i in drawing.items if isinstance(i, Line) and i.style == "cut"
    )
    assert wide == pytest.approx(290.0)
    assert across + 186 == pytest.approx(wide, abs=0.01)  # and no further


def test_inch_sheets_show_both_systems(quay: Design) -> None:
    drawing = draw(links(quay)[0], quay, "drawing", Numbers(unit="in"))
    assert isinstance(drawing, Drawing)
    texts = [item.text for item in drawing.items if isinstance(item, Text)]
    assert "27″" in texts
    assert any(text.startswith("685.8 mm") for text in texts)


def test_a_left_hand_end_is_ringed_and_lettered_in_the_drawing(marram: Design) -> None:
    from tirante.core.drawing.model import Area

    drawing = draw(links(marram)[0], marram, "drawing", Numbers())
    assert isinstance(drawing, Drawing)
    assert any(isinstance(i, Text) and i.text == "LH" and i.bold for i in drawing.items)
    assert any(isinstance(i, Area) and i.fill == "solid" and i.ref == "end:b" for i in drawing.items)
    json.loads(drawing.model_dump_json())


@pytest.mark.parametrize("name", ["marram", "quay", "tern"])
def test_a_pack_carries_each_load_set_of_each_end_once(name: str, monkeypatch: pytest.MonkeyPatch) -> None:
    # whatever of it asks: checks, tabs, cards, sheets, lists
    asked: list[tuple[str, str]] = []
    carry = end_loads.end_loads

    def counted(*given: Any, **more: Any) -> EndLoads:
        asked.append((given[1].end, ",".join(case.name for case in given[3])))
        return carry(*given, **more)

    monkeypatch.setattr(end_loads, "end_loads", counted)
    design = load_design((ROOT / f"data/demo/{name}.json").read_bytes())
    make_pack(Worked(design, the_shelf(), Memory()), stamp())
    assert len(asked) == len(set(asked))
    assert {end for end, _ in asked} == {one.end.end for one in design.ends}


def test_each_template_says_the_metal_and_the_number_of_its_own_plate() -> None:
    design, perch = with_perch()
    design = with_part(design, perch.model_copy(update={"web_mm": 8.0}))
    found = {}
    with pdfplumber.open(io.BytesIO(pack_pdf(work(design), stamp()))) as pdf:
        for page in pdf.pages:
            text = page.extract_text() or ""
            title = re.search(r"perch: (.+?), 1:1", text)
            if title:
                found[title[1]] = (re.search(r"([\d.]+ S355 plate, cut \d+)\.", text) or [""])[0]
    assert found == {
        "pad": "10.0 S355 plate, cut 2.", "web": "8.0 S355 plate, cut 4.", "plate over the leaf": "12.0 S355 plate, cut 2.",
    }  # fmt: skip


@pytest.mark.parametrize("name", ["marram", "quay", "tern", "dunlin", "plover"])
def test_every_view_of_a_plate_is_of_a_plate_that_there_is(name: str) -> None:
    design = load_design((ROOT / f"data/demo/{name}.json").read_bytes())
    for part in work(design).parts:
        plates = {piece.name for piece in part.pieces if isinstance(piece, PlatePiece)}
        for view in part.views:
            assert view.plate is None or view.plate in plates, (part.name, view.name)
