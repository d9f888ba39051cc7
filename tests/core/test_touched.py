"""Where rounds were touched: what is read between edges of holes comes to their centres, however it is read."""

from __future__ import annotations

import uuid
from typing import Any

import pytest
from pydantic import ValidationError

from tests.core.test_loads import demo
from tests.jobs import work
from tirante.core.document.fields import Coordinate
from tirante.core.document.survey import Taken
from tirante.core.job.surveyed import surveyed

MARKS = (f"mark:{uuid.uuid4()}", f"mark:{uuid.uuid4()}", f"mark:{uuid.uuid4()}")


def taken(kind: str, mm: float, touched: list[tuple[str, float | None]], of: int, **more: Any) -> Taken:
    return Taken.model_validate(
        {
            "id": str(uuid.uuid4()), "kind": kind, "of": MARKS[:of], "read": {"mm": mm},
            "touched": [{"at": at, "diameter": {"mm": d} if d else None} for at, d in touched], **more,
        }
    )  # fmt: skip


# two holes of 12 and 20 mm, 300 mm apart from centre to centre: what a tape shows between their edges
@pytest.mark.parametrize(
    ("touched", "shown"),
    [
        ([], 300.0), ([("centre", None), ("centre", None)], 300.0),
        ([("near side", 12.0), ("near side", 20.0)], 300 - 6 - 10),  # inside to inside
        ([("far side", 12.0), ("far side", 20.0)], 300 + 6 + 10),  # outside to outside
        ([("far side", 12.0), ("near side", 20.0)], 300 + 6 - 10), ([("near side", 12.0), ("far side", 20.0)], 300 - 6 + 10),
        ([("far side", 12.0), ("near side", 12.0)], 300.0),  # of equal holes it is centre to centre as it stands
        ([("centre", None), ("far side", 20.0)], 310.0),
    ],
)  # fmt: skip
def test_a_distance_between_edges_comes_to_the_centres(touched: list[tuple[str, float | None]], shown: float) -> None:
    assert taken("distance", shown, touched, 2).mm == pytest.approx(300.0)


def test_heights_offsets_and_tubes_by_the_side_that_was_touched() -> None:
    assert taken("height", 100.0, [("far side", 30.0)], 1).mm == 85.0  # to the top of a bolt's head
    assert taken("left", 100.0, [("near side", 30.0)], 1).mm == 115.0
    assert taken("tube", 40.0, [("near side", 32.0)], 3).mm == 56.0
    both = taken(
        "distance", 284.0, [("near side", 12.0), ("near side", 20.0)], 2, added=[{"what": "plate", "mm": -3.0}]
    )
    assert both.mm == pytest.approx(297.0)
    assert sum(both.all_added.values()) == pytest.approx(13.0)
    # two of one name count both
    assert taken("distance", 10.0, [], 2, added=[{"what": "shim", "mm": 2.0}, {"what": "shim", "mm": 3.0}]).mm == 15.0


@pytest.mark.parametrize(
    ("kind", "of", "touched", "word"),
    [
        ("distance", 2, [("near side", None)], "diameter"), ("level", 2, [("near side", 3.0)], "touched"), ("height", 1, [("near side", 3.0)] * 2, "touched"),
        ("distance", 2, [("far side", 300.0), ("far side", 400.0)], "more than nothing"),
    ],
)  # fmt: skip
def test_what_cannot_be_is_refused_by_its_field(
    kind: str, of: int, touched: list[tuple[str, float | None]], word: str
) -> None:
    with pytest.raises(ValidationError, match=word):
        taken(kind, 300.0, touched, of, deg=1.0)


def test_a_half_that_was_forgotten_is_found() -> None:
    """A pivot read twice to its centre, and once to the far side of its 30 mm head as if that were the near one."""
    job = work(demo("marram"))
    end = job.design.ends[0]
    key = f"end:{end.id}:lower_front:own"
    z = float(job.ends[end.id].points["lower_front"][2])

    def height(mm: float, touched: list[dict[str, Any]]) -> Taken:
        return Taken.model_validate(
            {
                "id": str(uuid.uuid4()),
                "kind": "height",
                "of": (key,),
                "read": Coordinate(mm=mm),
                "touched": touched,
                "sd": 1.0,
            }
        )

    wrong = height(z + 15, [{"at": "near side", "diameter": {"mm": 30.0}}])
    found = surveyed(
        {end.id: (end.name, job.ends[end.id])}, [height(z, []), height(z + 0.5, []), height(z - 0.5, []), wrong]
    )
    suspect = next(one for one in found.readings if one.taken.id == wrong.id)
    assert suspect.suspect is not None
    assert any("near side was taken into account the wrong way" in slip.what for slip in suspect.slips)
