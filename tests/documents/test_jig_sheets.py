"""Jigs in a pack: each hand's sheets as text, the plate's DXF hole for hole, nothing at 1:1 on paper and said so."""

from __future__ import annotations

import io
import zipfile

import ezdxf
import pdfplumber
import pytest

from tests.core.test_plate_jig import with_jig
from tirante.core.parts.part import PlatePiece
from tirante.documents.pack import make_pack
from tirante.documents.pdf import Stamp


@pytest.fixture(scope="module")
def packed() -> tuple[zipfile.ZipFile, object]:
    job, part, _ = with_jig("marram", "Front lower arm")
    job = type(job)(job.design.model_copy(update={"parts": tuple(p for p in job.design.parts if p.name.startswith("Front lower arm") and p.kind in ("arm", "plate_jig")), "joints": ()}), job.shelf, job.memory)  # fmt: skip
    stamp = Stamp(job="Marram", revision="rev 1", date="2026-01-02", units="mm", reviewer=None, issued=True)
    return zipfile.ZipFile(io.BytesIO(make_pack(job, stamp))), job.part(part.id)


def test_either_hand_has_its_sheets_and_says_where_its_plate_is(packed: tuple[zipfile.ZipFile, object]) -> None:
    pack, _ = packed
    sheets = next(name for name in pack.namelist() if name.endswith(".pdf"))
    with pdfplumber.open(io.BytesIO(pack.read(sheets))) as document:
        pages = [page.extract_text() or "" for page in document.pages]
    own = [page for page in pages if "Front lower arm, jig" in page]
    assert any("LEFT" in page and "Seen from above" in page for page in own)
    assert any("RIGHT" in page and "Seen from above" in page for page in own)
    assert sum("Check list" in page for page in own) >= 2
    text = "\n".join(own)
    assert "plate-left, plate-right" in text
    assert "welder: ____" in text
    assert "Will it hold?" not in "\n".join(page for page in own if "What it is" in page)
    assert not any("glue" in page for page in own)  # a plate of 600 mm is no template of a dozen sheets
    for figure in ("390.23", "463.38", "98.86"):
        assert figure in text, figure


def test_the_plate_s_dxf_has_every_hole_and_the_names_etched(packed: tuple[zipfile.ZipFile, object]) -> None:
    pack, part = packed
    names = [name for name in pack.namelist() if name.endswith(".dxf") and "jig" in name and "plate" in name]
    assert len(names) == 2
    plates = [one for one in part.pieces if isinstance(one, PlatePiece)]  # type: ignore[attr-defined]
    for name, plate in zip(sorted(names), plates, strict=True):
        document = ezdxf.read(io.StringIO(pack.read(name).decode()))
        space = document.modelspace()
        assert plate.outline is not None
        left, low, _, _ = plate.outline.bounds
        holes = {
            (round(c.dxf.center.x, 3), round(c.dxf.center.y, 3), round(2 * c.dxf.radius, 3))
            for c in space.query("CIRCLE")
            if c.dxf.layer == "CUT"
        }
        assert holes == {(round(h.x - left, 3), round(h.y - low, 3), round(h.diameter, 3)) for h in plate.outline.holes}
        texts = {one.dxf.text for one in space.query("TEXT")}
        assert {"A lower front", "B lower rear", "C lower outer"} <= texts
        assert any(("LEFT" if "left" in name else "RIGHT") in one for one in texts)
        assert all(one.dxf.layer == "TEXT" for one in space.query("TEXT"))
