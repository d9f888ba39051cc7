"""Holes cut under size and reamed in line: the file has the smaller hole, the checks and the words the finished one."""

from __future__ import annotations

from io import StringIO
from typing import Any

import ezdxf
import pytest

from tests.jobs import draw, part_of, with_part, work
from tirante.core.document.design import Design
from tirante.core.document.parts.bracket import RowOfHoles, TabPair
from tirante.core.document.parts.folded_u import FoldedU
from tirante.core.drawing.sheet import Numbers
from tirante.documents.dxf import to_dxf

NUMBERS = Numbers()


def circles(drawing: Any) -> list[float]:
    """Diameters on the cutter's layer, by another reader."""
    file = to_dxf(drawing)
    read = ezdxf.read(StringIO(file if isinstance(file, str) else file.decode()))
    return sorted(round(2 * one.dxf.radius, 6) for one in read.modelspace().query("CIRCLE[layer=='CUT']"))


@pytest.mark.parametrize(("kind", "view", "count"), [(TabPair, "tab-flat", 1), (FoldedU, "folded-flat", 2)])
def test_a_reamed_hole_is_cut_smaller_and_held_to_its_size(mounted: Design, kind: Any, view: str, count: int) -> None:
    saved = next(part for part in mounted.parts if isinstance(part, kind) and getattr(part, "holes", None) is None)
    plain = part_of(saved, mounted)
    one = saved.model_copy(update={"ream_mm": 0.8})
    part = part_of(one, with_part(mounted, one))
    assert not part.faults
    size = saved.hole.mm
    assert circles(draw(one, with_part(mounted, one), view, NUMBERS)) == pytest.approx([size - 0.8] * count, abs=1e-6)
    assert circles(draw(saved, mounted, view, NUMBERS)) == pytest.approx([size] * count, abs=1e-6)
    # nothing is judged by the smaller hole: it is reamed before it is loaded
    assert [(c.key, c.utilisation) for c in part.checks] == [(c.key, c.utilisation) for c in plain.checks]
    lines = [line.text for line in part.card.lines]
    cut = next(text for text in lines if "cut under size" in text)
    assert cut.startswith(f"hole ⌀{round(size - 0.8, 2):g} mm, ")
    assert f"reamed in line through both plates after welding, to ⌀{round(size, 2):g} mm" in lines
    assert not [text for text in (line.text for line in plain.card.lines) if "ream" in text]
    assert "reamed after welding" in part.pieces[0].told
    assert part.pieces[0].outline.holes[0].diameter == pytest.approx(size - 0.8)
    # what is cut is the metal: another file, made anew
    assert part.metal != plain.metal


def test_of_several_holes_every_one_of_the_joint_s_is_reamed(mounted: Design) -> None:
    saved = next(part for part in mounted.parts if isinstance(part, TabPair) and isinstance(part.holes, RowOfHoles))
    one = saved.model_copy(update={"ream_mm": 0.5})
    found = circles(draw(one, with_part(mounted, one), "tab-flat", NUMBERS))
    assert len(found) > 1
    assert found == pytest.approx([saved.hole.mm - 0.5] * len(found))


def test_more_than_half_of_a_hole_is_not_left_to_a_reamer(mounted: Design) -> None:
    saved = next(part for part in mounted.parts if isinstance(part, TabPair))
    small = saved.model_copy(update={"ream_mm": 5.0, "hole": saved.hole.model_copy(update={"mm": 9.0})})
    faults = work(with_part(mounted, small)).part(small.id).faults  # type: ignore[union-attr]
    assert [fault.message for fault in faults if fault.field == "ream_mm" and "4.5 mm at most" in fault.message]
