"""Every plate of a job on the cutting table: the files of the pack, nothing passed over."""

import io
import zipfile

import pytest

from tests.core.test_loads import demo
from tests.documents.test_files import stamp
from tests.jobs import work
from tirante.core.document.design import Design
from tirante.core.document.fields import Length
from tirante.core.document.parts.bracket import TabPair
from tirante.core.parts.part import PlatePiece
from tirante.documents.cutting_table import FEED, PIERCE, RAPID, drive
from tirante.documents.on_table import on_table
from tirante.documents.pack import make_pack


@pytest.mark.parametrize("name", ["marram", "quay", "dunlin", "plover"])
def test_every_plate_of_a_job_is_tried_or_named_and_its_file_measures_what_the_list_cuts(name: str) -> None:
    job = work(demo(name))
    found = on_table(job, 1.2)
    for part in job.parts:
        plates = [piece for piece in part.pieces if isinstance(piece, PlatePiece)] if part.complete else []
        tried = [one for one in found.plates if one.part_id == part.id]
        missed = [one for one in found.left_out if one.part_id == part.id]
        assert len(tried) + len(missed) == (len(plates) if part.complete else 1)
        by_name = {piece.name: piece for piece in plates}
        for one in tried:
            piece, driven = by_name[one.piece], one.driven
            assert piece.outline is not None
            assert driven is not None
            assert driven.area_mm2 == pytest.approx(piece.outline.area, rel=2e-4)
            assert driven.pierces == 1 + len(piece.outline.holes)
            assert (one.thickness, one.count) == (piece.thickness, piece.count * part.saved.count)
            least = 60 * driven.cut_mm * piece.thickness / FEED + PIERCE * piece.thickness * driven.pierces
            assert driven.seconds == pytest.approx(least + 60 * driven.rapid_mm / RAPID)


def test_its_files_are_those_of_the_pack(mounted: Design) -> None:
    job = work(mounted)
    found = on_table(job, 1.2)
    with zipfile.ZipFile(io.BytesIO(make_pack(job, stamp()))) as pack:
        cut = {name for name in pack.namelist() if name.endswith(".dxf")}
        assert {one.file for one in found.plates} <= cut
        # what is left of the pack's files is of paper: wraps for tubes' ends
        assert all("wrap" in name for name in cut - {one.file for one in found.plates})
        one = next(one for one in found.plates if "folded" in one.file)
        assert one.driven == drive(pack.read(one.file), one.thickness, 1.2)


def test_what_the_table_refuses_is_told_of_that_plate_and_the_others_are_driven(mounted: Design) -> None:
    pair = next(part for part in mounted.parts if isinstance(part, TabPair))
    thick = pair.model_copy(update={"plate": Length(mm=pair.hole.mm + 1)})
    parts = tuple(thick if part.id == pair.id else part for part in mounted.parts)
    plates = on_table(work(mounted.model_copy(update={"parts": parts})), 1.2).plates
    (refused,) = [one for one in plates if one.faults]
    assert (refused.part_id, refused.driven) == (pair.id, None)
    assert "drill it" in refused.faults[0]
    assert len([one for one in plates if one.driven]) == len(plates) - 1 > 10
