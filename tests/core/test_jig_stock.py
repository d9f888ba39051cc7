"""Jigs of what stands on the rack: the plate that carries them, the tube that their rails are cut from, and none of it given twice."""

from __future__ import annotations

from typing import Any

import pytest

from tests.core.test_on_sheets import own
from tests.core.test_plate_jig import MEMORY, demo
from tests.jobs import work
from tirante.core.document.parts.plate_jig import PlateJig
from tirante.core.document.rack import RackRow
from tirante.core.job.jig_stock import CUT, of_rack
from tirante.core.job.lay_jigs import lay_out
from tirante.core.job.worked import Worked
from tirante.core.parts.part import PlatePiece, TubePiece
from tirante.core.parts.registry import kind_of

JOB = work(demo("dunlin"), MEMORY)
JIGS, _ = lay_out(JOB, [own(700 + i) for i in range(9)])
ROCKER = JIGS[2]  # one plate, for both hands


def sheet(i: int, long: float, wide: float, thick: float, count: int = 1, **more: Any) -> RackRow:
    return RackRow.model_validate({"id": own(i), "sort": "sheet", "stock": f"plate {thick:g} mm", "material": "S235", "length_mm": long, "width_mm": wide, "count": count, **more})  # fmt: skip


def tube(i: int, stock: str, long: float, count: int = 1) -> RackRow:
    return RackRow.model_validate({"id": own(i), "stock": stock, "material": "mild steel", "length_mm": long, "count": count})  # fmt: skip


def plates(job: Worked, jig: PlateJig) -> list[tuple[float, float]]:
    return [(max(one.length, one.width), min(one.length, one.width)) for one in kind_of(jig).work_out(jig, job).pieces if isinstance(one, PlatePiece)]  # fmt: skip


def test_a_plate_that_carries_it_is_taken_nearest_to_the_usual_thickness_and_a_millimetre_less_is_not() -> None:
    ((long, wide),) = plates(JOB, ROCKER)
    for row in (
        sheet(1, long, wide, 10.0, place="bay 4"),
        sheet(1, wide, long, 10.0, place="bay 4"),
    ):  # either way round
        (found,) = of_rack(JOB, [ROCKER], [row])
        assert (found.base, found.plate_mm, found.plate_name) == ("plate and posts", 10.0, "S235 plate")
        assert found.note == f"Of the rack: plate 10 mm S235, {row.length_mm:g} × {row.width_mm:g} mm, bay 4."
    for row in (sheet(1, long - 1.0, wide, 10.0), sheet(1, long, wide - 1.0, 10.0), sheet(1, long, wide, 6.0), sheet(1, long, wide, 30.0), sheet(1, long, wide, 10.0, count=0)):  # fmt: skip
        (none,) = of_rack(JOB, [ROCKER], [row])
        assert (none.plate_mm, none.base) == (ROCKER.plate_mm, ROCKER.base)
        assert none.note.startswith(f"Nothing on the rack carries it: {long:.0f} × {wide:.0f} mm of 12 mm S235 plate")
    (nearest,) = of_rack(JOB, [ROCKER], [sheet(1, 900, 900, 20.0), sheet(2, 900, 900, 14.0), sheet(3, 900, 900, 9.0)])
    assert nearest.plate_mm == 14.0
    assert of_rack(JOB, [ROCKER], []) == [ROCKER]


def test_no_sheet_is_given_twice() -> None:
    twins = [ROCKER, ROCKER.model_copy(update={"id": own(800)})]
    one, two = of_rack(JOB, twins, [sheet(1, 900, 900, 12.0)])
    assert one.note.startswith("Of the rack")
    assert two.note.startswith("Nothing on the rack")
    assert all(jig.note.startswith("Of the rack") for jig in of_rack(JOB, twins, [sheet(1, 900, 900, 12.0, count=2)]))


def test_both_hands_lie_on_one_sheet_where_they_go_beside_one_another_else_on_one_each() -> None:
    arm = JIGS[1]
    both = plates(JOB, arm)
    assert len(both) == 2
    (long, wide), _ = both
    beside = sheet(1, long, 2 * wide + CUT, 12.0)
    for row, fits in ((beside, True), (sheet(1, long, 2 * wide + CUT - 1.0, 12.0), False), (sheet(1, 2 * long + CUT, wide, 12.0), True), (sheet(1, long, wide, 12.0, count=2), True)):  # fmt: skip
        (found,) = of_rack(JOB, [arm], [row])
        assert found.note.startswith("Of the rack") is fits, row


@pytest.mark.parametrize("name", ["box 50 × 50 × 3", "50x50x3", "SHS 50 x 50 x 3"])
def test_without_plate_its_rails_are_cut_from_square_tube_that_is_long_enough_for_all_of_them(name: str) -> None:
    made = ROCKER.model_copy(update={"base": "box tube and angle iron", "rail_mm": 50.0, "rail_wall_mm": 3.0})
    rails = [one.length for one in kind_of(made).work_out(made, JOB).pieces if isinstance(one, TubePiece)]
    enough = sum(rails) + CUT * (len(rails) - 1)
    (found,) = of_rack(JOB, [ROCKER], [tube(1, name, enough)])
    assert (found.base, found.rail_mm, found.rail_wall_mm) == ("box tube and angle iron", 50.0, 3.0)
    assert found.note == f"Of the rack: {name} mild steel, {enough:g} mm."
    (none,) = of_rack(JOB, [ROCKER], [tube(1, name, enough - 1.0)])
    assert none.base == ROCKER.base
    one, two = of_rack(JOB, [ROCKER, ROCKER.model_copy(update={"id": own(801)})], [tube(1, name, enough + CUT + rails[0] - 1.0)])  # fmt: skip
    assert (one.base, two.base) == ("box tube and angle iron", ROCKER.base)
    (inch,) = of_rack(JOB, [ROCKER], [tube(1, "2 × 2 × 0.120 in", 6000.0)])
    assert (inch.rail_mm, inch.rail_wall_mm) == (pytest.approx(50.8), pytest.approx(3.048))
    (odd,) = of_rack(
        JOB, [ROCKER], [tube(1, "5.0.5x5.0.5x3", 6000.0), tube(2, "..x..x.", 6000.0), tube(3, "50x50x3 kg", 6000.0)]
    )
    assert odd.base == ROCKER.base
    (flat,) = of_rack(JOB, [ROCKER], [tube(1, "box 50 × 30 × 3", 6000.0), tube(2, "50 × 3", 6000.0), tube(3, "box 50 × 50 × 1", 6000.0)])  # fmt: skip
    assert flat.base == ROCKER.base
