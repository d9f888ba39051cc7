"""Layouts of sticks kept, confirmed and taken back: nothing is lost and nothing doubled."""

from __future__ import annotations

from collections import Counter
from dataclasses import replace
from uuid import UUID

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tirante.core.cutting.cut_list import SawPiece
from tirante.core.cutting.from_rack import from_rack
from tirante.core.cutting.kept import RackChange, confirmed, heats_of, keep, taken_back
from tirante.core.cutting.sticks import Saw
from tirante.core.document.cutting import KeptCutting
from tirante.core.document.rack import RackRow
from tirante.core.errors import InputError

SAW = Saw(kerf=2.0, trim_start=5.0, trim_end=0.0)


def own(i: int) -> str:
    return str(UUID(int=(4 << 76) | (2 << 62) | i))


def row(i: int, length: float, count: int = 1, **more: object) -> RackRow:
    return RackRow.model_validate(
        {"id": own(i), "sort": "tube", "stock": "32 × 2", "material": "steel", "length_mm": length, "count": count}
        | more
    )


def laid(pieces: list[tuple[float, int]], rack: list[RackRow], stock: float = 3000.0) -> KeptCutting:
    listed = [
        SawPiece(key=str(i), part_id=own(900 + i), part=f"link {i}", side="pair", tube="32 × 2", grade="steel", length_mm=mm, count=count, before_notching=False, ends=("square", "square"))
        for i, (mm, count) in enumerate(pieces)
    ]  # fmt: skip
    (one,) = from_rack(listed, rack, stock, SAW)
    return keep(one, "Marram", "draft 3")


def after(rack: list[RackRow], change: RackChange) -> list[RackRow]:
    """The rack as it then is."""
    rows = {one.id: one for one in rack} | {one.id: one for one in change.rows}
    return [one for one in rows.values() if one.count]


def metal(rack: list[RackRow]) -> float:
    return sum(one.length_mm * one.count for one in rack)


def test_an_offcut_is_taken_and_what_is_left_of_every_stick_is_put_there() -> None:
    """By hand: of the 1000 offcut 5 trim + 600 + 2 kerf leave 393; of a new 3000 three 900s with two kerfs, trim and the parting kerf leave 289."""
    rack = [row(1, 1000.0, place="bay 2")]
    cutting = laid([(600.0, 1), (900.0, 3)], rack)
    assert [(one.row_id, one.length_mm, [p.length_mm for p in one.pieces], one.left_mm) for one in cutting.sticks] in (
        [(own(1), 1000.0, [600.0], 393.0), (None, 3000.0, [900.0] * 3, 289.0)],
        [(own(1), 1000.0, [900.0], 93.0), (None, 3000.0, [900.0, 900.0, 600.0], 589.0)],
    )
    change = confirmed(cutting, rack, [own(50), own(51)], least=150.0, place="bay 9")
    now = after(rack, change)
    assert own(1) not in {one.id for one in now}
    lefts = sorted(one.left_mm for one in cutting.sticks if one.left_mm >= 150.0)
    assert sorted(one.length_mm for one in now) == lefts
    assert all((one.offcut, one.place, one.stock, one.material) == (True, "bay 9", "32 × 2", "steel") for one in now)


@settings(max_examples=60, deadline=None)
@given(
    pieces=st.lists(st.tuples(st.sampled_from([310.0, 455.5, 620.0, 884.2]), st.integers(1, 4)), min_size=1, max_size=4),
    lengths=st.lists(st.tuples(st.sampled_from([700.0, 960.0, 1500.0]), st.integers(1, 3)), max_size=3),
    least=st.sampled_from([0.0, 150.0, 900.0]),
)  # fmt: skip
def test_no_metal_is_lost_or_doubled_and_taking_it_back_leaves_the_rack_as_it_was(
    pieces: list[tuple[float, int]], lengths: list[tuple[float, int]], least: float
) -> None:
    rack = [row(i, mm, count) for i, (mm, count) in enumerate(lengths)]
    cutting = laid(pieces, rack)
    assert Counter(p.length_mm for one in cutting.sticks for p in one.pieces) == Counter(
        mm for mm, count in pieces for _ in range(count)
    )
    taken = Counter(one.row_id for one in cutting.sticks if one.row_id)
    assert all(taken[one.id] <= one.count for one in rack)
    change = confirmed(cutting, rack, [own(500 + i) for i in range(60)], least=least, place="")
    now = after(rack, change)
    bought = cutting.stock_mm * sum(one.row_id is None for one in cutting.sticks)
    used = sum(p.length_mm for one in cutting.sticks for p in one.pieces)
    scrap = sum(one.left_mm for one in cutting.sticks if one.left_mm < least)
    lost = metal(rack) + bought - metal(now) - used - scrap
    cuts = sum(len(one.pieces) for one in cutting.sticks)
    assert (
        -0.2 * cuts <= lost <= 2.0 * cuts + 5.0 * len(cutting.sticks) + 0.2 * cuts
    )  # kerfs and trims, and nothing else
    kept = cutting.model_copy(update={"remnants": change.remnants})
    back = after(now, taken_back(kept, now))
    assert {one.id: one for one in back} == {one.id: one for one in rack if one.count}


def test_a_stick_that_somebody_cut_meanwhile_is_named_and_nothing_changes() -> None:
    rack = [row(1, 1000.0, 2, place="bay 2")]
    cutting = laid([(900.0, 2)], rack)
    for gone in ([], [row(1, 1000.0, 1)], [row(1, 800.0, 2)], [row(1, 1000.0, 2, material="aluminium")]):
        with pytest.raises(
            InputError, match="2 × 1000 mm of 32 × 2, steel from bay 2 are not on the rack any more"
        ) as found:
            confirmed(cutting, gone, [own(50)], least=150.0, place="")
        assert found.value.code == "changed"
    # a new name of its place, or more of it, is no reason
    confirmed(cutting, [row(1, 1000.0, 3, place="bay 4")], [own(50)], least=150.0, place="")


def test_a_remnant_that_was_cut_from_cannot_be_taken_back() -> None:
    cutting = laid([(900.0, 1)], [])
    change = confirmed(cutting, [], [own(50)], least=150.0, place="")
    kept = cutting.model_copy(update={"remnants": change.remnants})
    with pytest.raises(InputError, match="somebody cut from it"):
        taken_back(kept, [])
    with pytest.raises(InputError, match="ids"):
        confirmed(cutting, [], [], least=150.0, place="")


def test_what_is_left_keeps_the_heat_of_its_stick_and_a_piece_tells_the_heats_that_it_is_cut_from() -> None:
    """Two offcuts of one length from two melts, and a new stick whose number is typed when it is cut."""
    rack = [row(1, 1000.0, heat="H-1"), row(2, 1000.0, heat="H-2"), row(3, 999.0, 1)]
    cutting = laid([(600.0, 4)], rack, stock=1300.0)
    by = {one.row_id: one for one in cutting.sticks}
    assert set(by) == {own(1), own(2), own(3), None}
    piece = SawPiece(key="0", part_id=own(900), part="link 0", side="pair", tube="32 × 2", grade="steel", length_mm=600.04, count=4, before_notching=False, ends=("square", "square"))  # fmt: skip
    assert set(heats_of([cutting], piece).split(", ")) == {"H-1", "H-2", "one not kept"}
    # the third's number was found on its certificate after it was laid out
    found = [*rack[:2], rack[2].model_copy(update={"heat": "H-3"})]
    change = confirmed(cutting, found, [own(50 + i) for i in range(5)], least=0.0, place="bay 9", heat="H-9")
    lefts = {(one.length_mm, one.heat) for one in change.remnants}
    assert lefts == {
        (by[i].left_mm, heat) for i, heat in ((own(1), "H-1"), (own(2), "H-2"), (own(3), "H-3"), (None, "H-9"))
    }
    assert {(one.length_mm, one.heat) for one in change.rows if one.offcut} == lefts
    kept = cutting.model_copy(update={"remnants": change.remnants, "rows": change.taken, "new_heat": change.heat})
    assert set(heats_of([kept], piece).split(", ")) == {"H-1", "H-2", "H-3", "H-9"}
    for other in ({"part": "link 1"}, {"side": "left"}, {"tube": "32 × 3"}, {"grade": "other"}, {"length_mm": 601.0}):
        assert heats_of([kept], replace(piece, **other)) == ""  # type: ignore[arg-type]
    assert heats_of([laid([(600.0, 1)], [])], piece) == ""
    now = after(found, change)
    back = after(now, taken_back(kept, now))
    assert {one.id: one.heat for one in back} == {own(1): "H-1", own(2): "H-2", own(3): "H-3"}
