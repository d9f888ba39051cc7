"""Ride height as it is measured: by the solved mechanism, by hand, and judged in words."""

from __future__ import annotations

import uuid
from math import cos, radians, sin

import numpy as np
import pytest

from tirante.core.document.built import BuiltEntry, HeightTaken
from tirante.core.document.design import Design
from tirante.core.document.fields import Coordinate
from tirante.core.document.survey import TakenBack
from tirante.core.job.heights import chassis_places, height_wanted, heights_seen
from tirante.core.job.memory import Memory
from tirante.core.job.worked import Worked
from tirante.core.suspension.shelf import Shelf
from tirante.shipped import the_shelf


@pytest.fixture(scope="module")
def shelf() -> Shelf:
    return the_shelf()


def standing(marram: Design, shelf: Shelf, front: float = 0.0, rear: float = 0.0) -> Worked:
    car = marram.car.model_copy(update={"front_rise_mm": front, "rear_rise_mm": rear})
    return Worked(marram.model_copy(update={"car": car}), shelf, Memory())


def test_a_height_is_that_of_the_place_over_the_floor_under_its_wheel(marram: Design, shelf: Shelf) -> None:
    job = standing(marram, shelf)
    one = marram.ends[0]
    floor = one.end.points["wheel_centre"][2] - one.end.wheel.loaded_radius_mm
    places = chassis_places(job.template(one.id))
    assert {"upper_front", "upper_rear", "lower_front", "lower_rear"} <= set(places)
    assert not {"upper_outer", "lower_outer", "wheel_centre"} & set(places)  # those move with the wheel
    for name in places:
        assert height_wanted(job, one.id, name, "left") == pytest.approx(one.end.points[name][2] - floor)
    assert height_wanted(job, one.id, "upper_outer", "left") is None
    assert height_wanted(job, str(uuid.uuid4()), "upper_front", "left") is None


def test_raised_and_pitched_it_is_where_the_wheel_then_stands_under_it(marram: Design, shelf: Shelf) -> None:
    one, front, rear = marram.ends[0], 25.0, -15.0
    job = standing(marram, shelf, front, rear)
    pitch = radians(job.ends[one.id].ride.pitch_deg)
    assert pitch == pytest.approx(np.arctan2(front - rear, marram.car.wheelbase_mm))
    # by hand: the body turns nose up about the front wheel's centre, then rises; what lies behind that centre sinks by it
    x0, _, z0 = one.end.points["wheel_centre"]
    for name in ("upper_front", "lower_rear"):
        x, _, z = one.end.points[name]
        by_hand = z0 + (x - x0) * sin(pitch) + (z - z0) * cos(pitch) + front - (z0 - one.end.wheel.loaded_radius_mm)
        assert height_wanted(job, one.id, name, "left") == pytest.approx(by_hand, abs=1e-9)
    # raised without pitch, every place stands higher by just that
    level = standing(marram, shelf, 30.0, 30.0)
    flat = standing(marram, shelf)
    for name in ("upper_front", "lower_rear"):
        grown = height_wanted(level, one.id, name, "left") - height_wanted(flat, one.id, name, "left")  # type: ignore[operator]
        assert grown == pytest.approx(30.0, abs=1e-9)


def test_it_is_judged_in_words_and_one_taken_back_is_kept(marram: Design, shelf: Shelf) -> None:
    job, end = standing(marram, shelf), marram.ends[0].id
    wanted = height_wanted(job, end, "upper_front", "right")
    assert wanted is not None

    def read(off: float, **more: object) -> HeightTaken:
        return HeightTaken(
            id=str(uuid.uuid4()), end=end, side="right", place="upper_front", read=Coordinate(mm=wanted + off), **more
        )  # type: ignore[arg-type, operator]

    entries: list[BuiltEntry] = [read(0.0), read(2.9), read(-3.1), read(-3.1, tolerance_mm=5.0), read(0.0).model_copy(update={"place": "upper_outer"})]  # fmt: skip
    entries.append(TakenBack(id=str(uuid.uuid4()), entry=entries[2].id, why="the rule slipped"))
    seen = heights_seen(job, entries)
    assert [(one.inside, one.says) for one in seen] == [
        (True, "within: as the layout has it"), (True, "within: 2.9 mm too high"), (False, "out: 3.1 mm too low, 0.1 mm more than is let through"), (True, "within: 3.1 mm too low"),
        (False, "that place is not there any more"),
    ]  # fmt: skip
    # of one place and side the latest that was not taken back stands
    assert [one.stands for one in seen] == [False, False, False, True, True]
    assert [one.back.why if one.back else None for one in seen] == [None, None, "the rule slipped", None, None]


def test_of_a_pair_that_is_no_pair_each_side_has_its_own_height(marram: Design, shelf: Shelf) -> None:
    one = marram.ends[0]
    x, y, z = one.end.points["upper_front"]
    unpaired = one.model_copy(update={"end": one.end.model_copy(update={"right_points": {"upper_front": (x, -y, z + 7.0)}})})  # fmt: skip
    job = standing(marram.model_copy(update={"ends": (unpaired, *marram.ends[1:])}), shelf)
    left, right = (height_wanted(job, one.id, "upper_front", side) for side in ("left", "right"))
    assert left is not None
    assert right == pytest.approx(left + 7.0)
