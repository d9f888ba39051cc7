"""A floor that leans: tilt is taken out of what inclinometers read, warp is told, heights over the floor are as they are."""

from __future__ import annotations

import uuid
from math import atan2, cos, degrees, radians, sin, sqrt
from typing import Any

import numpy as np
import pytest

from tests.core.test_loads import demo
from tests.jobs import work
from tirante.core.document.fields import Coordinate
from tirante.core.document.survey import Entry, FloorHeights, Taken
from tirante.core.errors import InputError
from tirante.core.job.surveyed import Surveyed, surveyed
from tirante.core.survey.floor import floor_of, lean

WHEELS = [(0.0, 700.0), (0.0, -700.0), (-2000.0, 750.0), (-2000.0, -750.0)]


def test_a_plane_is_found_as_it_is_and_a_twist_is_warp_alone() -> None:
    flat = floor_of(WHEELS, [5 + 0.002 * x - 0.004 * y for x, y in WHEELS])
    assert (flat.ahead, flat.left, flat.warp) == pytest.approx((0.002, -0.004, 0.0), abs=1e-12)
    assert lean(flat.left) == pytest.approx(degrees(atan2(-0.004, 1)))
    # of a rectangle one corner 8 mm up is a quarter of that off the plane at each corner: by hand
    square = floor_of([(1000, 700), (1000, -700), (-1000, 700), (-1000, -700)], [8, 0, 0, 0])
    assert (square.ahead, square.left, square.warp) == pytest.approx((4 / 2000, 4 / 1400, 2.0))
    with pytest.raises(InputError, match="not in a line"):
        floor_of([(0, 0), (1, 1), (2, 2)], [0, 0, 1])


def told(entries: list[Entry]) -> Surveyed:
    job = work(demo("marram"))
    return surveyed({one.id: (one.name, job.ends[one.id]) for one in job.design.ends}, entries)


def floor(ahead: float, left: float) -> FloorHeights:
    """Under Marram's wheels, from the level under the middle of its front axle."""
    heights = {
        "front_left": left * 712,
        "front_right": -left * 712,
        "rear_left": -ahead * 2010 + left * 760,
        "rear_right": -ahead * 2010 - left * 760,
    }
    return FloorHeights(id=str(uuid.uuid4()), **{name: Coordinate(mm=mm) for name, mm in heights.items()})


def angle(kind: str, deg: float, of: tuple[str, str], **more: Any) -> Taken:
    return Taken.model_validate(
        {"id": str(uuid.uuid4()), "kind": kind, "of": of, "deg": deg, "instrument": "inclinometer", "sd": 0.05, **more}
    )


def test_what_an_inclinometer_reads_on_a_leaning_floor_is_what_it_would_on_a_level_one() -> None:
    """The car turned with its floor in space, its lines measured against gravity: the answer in the floor's axes does not change."""
    job = work(demo("marram"))
    end = job.design.ends[0]
    a, b = (f"end:{end.id}:{name}:own" for name in ("lower_front", "lower_outer"))
    ahead, left = 0.03, -0.02
    # the axes of the floor as they stand to gravity: e3 square to the plane, e1 ahead
    e3 = np.array([-ahead, -left, 1.0]) / sqrt(1 + ahead**2 + left**2)
    e1 = np.array([1.0, 0.0, ahead])
    e1 = (e1 - e3 * (e1 @ e3)) / np.linalg.norm(e1 - e3 * (e1 @ e3))
    turn = np.column_stack([e1, np.cross(e3, e1), e3])
    line = np.subtract(job.ends[end.id].points["lower_outer"], job.ends[end.id].points["lower_front"])
    stands = turn @ line
    read = {
        "level": degrees(atan2(stands[2], float(np.hypot(stands[0], stands[1])))), "side": degrees(atan2(stands[2], stands[0])), "front": degrees(atan2(stands[2], stands[1])),
    }  # fmt: skip
    true = {
        "level": degrees(atan2(line[2], float(np.hypot(line[0], line[1])))),
        "side": degrees(atan2(line[2], line[0])),
        "front": degrees(atan2(line[2], line[1])),
    }
    entries = [angle(kind, value, (a, b)) for kind, value in read.items()]
    leaning = told([floor(ahead, left), *entries])
    assert leaning.floor is not None
    assert (leaning.floor.ahead, leaning.floor.left, leaning.floor.warp) == pytest.approx((ahead, left, 0.0), abs=1e-9)
    assert leaning.levelled == 3
    for one in leaning.readings:
        counts = (one.taken.deg or 0.0) - one.leaned
        assert abs(one.leaned) > 0.5
        assert counts == pytest.approx(true[one.taken.kind], abs=1e-6), one.taken.kind
    assert all(one.leaned == 0.0 for one in told(entries).readings)


def test_only_what_is_read_to_the_level_is_corrected_and_the_latest_heights_stand() -> None:
    job = work(demo("marram"))
    end = job.design.ends[0]
    a, b = (f"end:{end.id}:{name}:own" for name in ("lower_front", "upper_front"))
    entries: list[Entry] = [
        floor(0.2, 0.2), floor(0.01, 0.0), angle("side", 90.0, (a, b)), angle("front", 90.0, (a, b)), angle("top", 10.0, (a, b)), angle("side", 90.0, (a, b), instrument="other"),
        Taken.model_validate({"id": str(uuid.uuid4()), "kind": "height", "of": (a,), "read": Coordinate(mm=200.0)}),
    ]  # fmt: skip
    found = told(entries)
    assert found.levelled == 2
    tilt = degrees(atan2(0.01, 1.0))
    side, front, *others = (one.leaned for one in found.readings)
    assert side == pytest.approx(tilt, abs=0.001)
    assert 0 < abs(front) < 0.05  # seen from ahead a line that is nose up is a little shorter
    assert others == [0.0, 0.0, 0.0]


def test_the_lean_goes_into_the_points() -> None:
    """A point known by a height, an offset and the lean of a line to it: on a floor that leans it is found where it is."""
    job = work(demo("marram"))
    end = job.design.ends[0]
    a, b = (f"end:{end.id}:{name}:own" for name in ("lower_front", "upper_front"))
    one, other = (np.array(job.ends[end.id].points[name]) for name in ("lower_front", "upper_front"))

    def offset(kind: str, of: str, mm: float) -> Taken:
        return Taken.model_validate(
            {"id": str(uuid.uuid4()), "kind": kind, "of": (of,), "read": Coordinate(mm=mm), "sd": 0.2}
        )

    side = degrees(atan2(other[2] - one[2], other[0] - one[0]))
    held: list[Entry] = [offset(kind, a, float(v)) for kind, v in zip(("ahead", "left", "height"), one, strict=True)]
    held += [offset("left", b, float(other[1])), offset("height", b, float(other[2]))]
    ahead = 0.02
    leaning = angle("side", side + degrees(atan2(ahead, 1)), (a, b))
    right = told([floor(ahead, 0.0), *held, leaning])
    assert right.found is not None
    assert right.found.points[b] == pytest.approx(other, abs=1e-3)
    wrong = told([*held, leaning])
    assert wrong.found is not None
    off = float(np.linalg.norm(other[[0, 2]] - one[[0, 2]])) * radians(lean(ahead))
    assert abs(wrong.found.points[b][0] - other[0]) == pytest.approx(off / abs(sin(radians(side))), rel=0.05)
    assert cos(radians(side)) < 0.5
