"""A kind of part that nobody ships, registered by one line, is on every list that a shipped one is on."""

from __future__ import annotations

import io
import zipfile
from collections.abc import Iterator

import pdfplumber
import pytest

from tests.conftest import ROOT
from tests.jobs import work
from tests.made_up_kind import ID, STOCK, DrilledBarKind, registered, with_bar
from tirante.core.document.design import Design
from tirante.core.document.upgrades import dump_design, load_design
from tirante.core.job.evaluate import evaluate, kinds_out
from tirante.core.job.memory import Memory
from tirante.documents.pack import cut_list_csv, make_pack
from tirante.documents.pdf import Stamp


@pytest.fixture(autouse=True)
def kind() -> Iterator[DrilledBarKind]:
    with registered() as found:
        yield found


@pytest.fixture
def design() -> Design:
    return with_bar(load_design((ROOT / "data/demo/tern.json").read_bytes()))


def test_it_is_saved_read_judged_listed_and_held(design: Design) -> None:
    design = load_design(dump_design(design))
    found = evaluate(work(design, Memory()))
    part = next(one for one in found.parts if one.id == ID)
    factor = design.settings.factors.joint
    assert part.checks[0].utilisation == pytest.approx(9_900.0 * factor / 20_000.0)
    assert (part.word, part.count, part.own_mirror, part.stock) == ("drilled bar", 2, False, STOCK)
    assert part.card is not None
    assert part.card.figures[0].mm == 300.0
    assert part.jig is not None
    # two bars 40 mm longer than their holes stand apart, two stop plates, six screws
    (piece,) = [one for one in found.cut_list.pieces if one.part_id == ID]
    assert (piece.length_mm, piece.count) == (340.0, 2)
    items = {one.what: one.count for one in found.cut_list.items}
    assert items["set screw M8"] == 6
    assert next(count for what, count in items.items() if "stop plate" in what) == 2
    # 9.9 kN × the factor on joints is close to or over 20 kN: it stands among what is to be settled, at its check
    hold = next(one for one in found.holds if one.id == ID)
    assert (hold.part, hold.selection, hold.station) == ("Stop bar", "check:joint", "members")


def test_it_is_in_the_pack_and_on_the_list_in_the_pack(design: Design) -> None:
    job = work(design, Memory())
    assert any(
        row.startswith("saw,") and "Stop bar" in row and "340.00" in row for row in cut_list_csv(job).splitlines()
    )
    stamp = Stamp(job="Tern", revision="rev 1", date="2026-01-02", units="mm", reviewer=None, issued=True)
    with zipfile.ZipFile(io.BytesIO(make_pack(job, stamp))) as pack:
        sheets = next(name for name in pack.namelist() if name.endswith(".pdf"))
        with pdfplumber.open(io.BytesIO(pack.read(sheets))) as document:
            text = "\n".join(page.extract_text() for page in document.pages)
    for told in (
        "Stop bar",
        "deburr both holes",
        "Nothing is welded on a drilled bar",
        "Clamp the drilled bar",
        "set screw M8",
    ):
        assert told in text, told


def test_one_that_cannot_be_made_is_left_out_by_name(design: Design) -> None:
    found = evaluate(work(with_bar(design.model_copy(update={"parts": design.parts[:-1]}), length=30.0), Memory()))
    assert "cannot be held" in next(one.headline for one in found.parts if one.id == ID) + str(
        [one.faults for one in found.parts if one.id == ID]
    )
    assert any(one.part_id == ID for one in found.cut_list.left_out)
    assert not any(one.part_id == ID for one in found.cut_list.pieces)


def test_its_form_is_told_with_the_limits_of_its_model() -> None:
    told = next(one for one in kinds_out() if one.key == "drilled_bar")
    force = next(field for group in told.fields for field in group.fields if field.path == "force_n")
    assert (force.unit, force.least, force.most) == ("N", 0.0, 1e7)
