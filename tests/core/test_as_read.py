"""What was read of Marram's front and rear: by end and wheel, beside the model; what to turn; how it is drawn."""

from __future__ import annotations

import re
import uuid
from collections.abc import Mapping, Sequence
from functools import cache
from math import atan, degrees

import numpy as np
import pytest

from tests.core.test_loads import demo
from tests.jobs import work
from tirante.core.document.built import AngleTaken, BuiltEntry
from tirante.core.document.fields import Coordinate
from tirante.core.document.survey import FloorHeights, Taken, TakenBack
from tirante.core.drawing.model import Arc, Line, Text
from tirante.core.drawing.sheet import Numbers
from tirante.core.job.alignment import adjusters_of
from tirante.core.job.as_read import Group, as_read, bench_words, leaned
from tirante.core.job.surveyed import Surveyed, surveyed
from tirante.core.job.which_view import FOOT, HEAD, HEIGHT, which_view
from tirante.core.job.worked import Worked
from tirante.core.parts.adjusters import ends_at
from tirante.core.suspension.one_error import Error, can_be_read, with_errors
from tirante.core.suspension.which_error import Reconciled


@cache
def marram() -> Worked:
    return work(demo("marram"))


def unsurveyed(entries: Sequence[Taken] = ()) -> Surveyed:
    job = marram()
    return surveyed({one.id: (one.name, job.ends[one.id]) for one in job.design.ends}, entries)


def front() -> str:
    return marram().design.ends[0].id


def rear() -> str:
    return marram().design.ends[1].id


def shown(
    end: str, rows: Sequence[tuple[float, float, float]], by: Mapping[str, float] = {}, *, right: bool = False
) -> dict[str, np.ndarray]:
    """What the car shows with errors in it."""
    model = Reconciled(marram().template(end), marram().ends[end], np.array(rows).T, np.zeros((3, 0)), right=right)
    errors = {next(e for e in model.sought.errors if e.key == key): mm for key, mm in by.items()}
    side = with_errors(model.side, errors)
    assert side is not None
    return {name: np.array(value) for name, value in can_be_read(side).items()}


def taken(
    end: str,
    measure: str,
    deg: float,
    *,
    risen: float = 0.0,
    roll: float = 0.0,
    wheel: str = "left",
    steer: float = 0.0,
) -> AngleTaken:
    return AngleTaken(
        id=str(uuid.uuid4()), end=end, measure=measure, deg=float(deg), risen=Coordinate(mm=risen), roll_deg=roll, wheel=wheel, steer=steer,  # type: ignore[arg-type]
    )  # fmt: skip


HEIGHTS_READ = (-50.0, 0.0, 50.0)


def of_front(by: Mapping[str, float], *, wheel: str = "left") -> list[AngleTaken]:
    car = shown(front(), [(h, 0.0, 0.0) for h in HEIGHTS_READ], by, right=wheel == "right")
    return [
        taken(front(), m, car[m][i], risen=h, wheel=wheel)
        for i, h in enumerate(HEIGHTS_READ) for m in ("camber_deg", "toe_deg", "caster_deg")
    ]  # fmt: skip


def only(entries: Sequence[BuiltEntry], survey: Surveyed | None = None) -> Group:
    (group,) = as_read(marram(), entries, survey or unsurveyed())
    return group


def test_each_wheel_of_an_independent_end_stands_by_itself_and_a_beam_by_both() -> None:
    level = (0.0, 0.0, 0.0)
    leaned = (10.0, 2.0, 0.0)
    beam = shown(rear(), [level, leaned])
    entries = [
        *of_front({"tie rod": 8.0}), *of_front({}, wheel="right"),
        taken(rear(), "camber_deg", beam["camber_deg"][1], risen=10.0, roll=2.0), taken(rear(), "camber_deg", beam["right camber_deg"][1], risen=10.0, roll=2.0, wheel="right"),
        taken(rear(), "axle_steer_deg", beam["axle_steer_deg"][0], wheel="right"),
    ]  # fmt: skip
    steered = shown(front(), [(0.0, 0.0, 15.0)], right=True)["toe_deg"][0]
    assert abs(steered - shown(front(), [(0.0, 0.0, 15.0)])["toe_deg"][0]) > 5  # the one wheel turns in, the other out
    entries.append(taken(front(), "toe_deg", steered, wheel="right", steer=15.0))
    left, right, both = as_read(marram(), entries, unsurveyed())
    assert [(one.end_id, one.wheel) for one in (left, right, both)] == [
        (front(), "left"),
        (front(), "right"),
        (rear(), ""),
    ]
    assert left.found is not None
    assert right.found is not None
    assert both.found is not None
    assert left.found.told.verdict == "cannot_tell"
    assert {left.found.sought.errors[i].key for i in left.found.told.named} >= {"tie rod", "tie_inner on ground y"}
    assert right.found.told.verdict == both.found.told.verdict == "fits"
    # every reading beside what the model says where its wheel stood: of what has no error, itself
    for group in (right, both):
        assert [one.model for one in group.readings] == pytest.approx([one.taken.deg for one in group.readings])
        assert all(one.explained is None for one in group.readings)
    model = shown(front(), [(h, 0.0, 0.0) for h in HEIGHTS_READ])
    assert [one.model for one in left.readings] == pytest.approx([model[one.taken.measure][i // 3] for i, one in enumerate(left.readings)])  # fmt: skip
    # and what it would with the likeliest error in it: what was read
    assert [one.explained for one in left.readings] == pytest.approx([one.taken.deg for one in left.readings], abs=0.06)


def test_what_is_taken_back_does_not_count_and_is_kept() -> None:
    readings = of_front({})
    slip = taken(front(), "toe_deg", 6.0, risen=50.0)
    told = only([*readings, slip])
    assert told.found is not None
    assert told.found.told.verdict != "fits"
    after = only([*readings, slip, TakenBack(id=str(uuid.uuid4()), entry=slip.id, why="read upside down")])
    assert after.found is not None
    assert after.found.told.verdict == "fits"
    assert [one.back.why for one in after.readings if one.back] == ["read upside down"]
    assert len(after.readings) == len(readings) + 1


def test_what_cannot_be_told_is_said() -> None:
    assert "One reading" in only([taken(front(), "camber_deg", 1.0)]).lost
    assert "no pinion" in only([taken(front(), "pinion_deg", 1.0), taken(front(), "camber_deg", 1.0)]).lost
    assert (
        "position 2" in only([taken(front(), "camber_deg", 1.0), taken(front(), "camber_deg", 1.0, risen=900.0)]).lost
    )
    gone = str(uuid.uuid4())
    assert "no end of the job" in only([taken(gone, "camber_deg", 1.0)]).lost
    one = taken(front(), "camber_deg", 1.0)
    assert "taken back" in only([one, TakenBack(id=str(uuid.uuid4()), entry=one.id)]).lost


def test_the_surveys_deviations_count_on_their_own_side() -> None:
    job = marram()
    at = {name: job.ends[front()].points[name] for name in ("tie_inner", "tie_outer")}
    entries = [
        Taken(id=str(uuid.uuid4()), kind=kind, of=(f"end:{front()}:{name}:own",), read=Coordinate(mm=float(value)), sd=0.2)  # type: ignore[arg-type]
        for name, place in at.items() for kind, value in zip(("ahead", "left", "height"), place, strict=True)
    ]  # fmt: skip
    left, right = (only(of_front({"tie rod": 8.0}, wheel=wheel), unsurveyed(entries)) for wheel in ("left", "right"))
    assert dict(left.sure) == {name: pytest.approx((0.2, 0.2, 0.2)) for name in at}
    assert not right.sure
    assert left.found is not None
    assert right.found is not None
    # surer ends of the rod make its length surer
    sds = [
        next(one.sd for one in group.found.told.ranked if group.found.error(one).key == "tie rod")
        for group in (left, right)
        if group.found
    ]
    assert sds[0] < 0.95 * sds[1]


def test_a_length_that_turns_is_told_in_turns_and_one_that_has_not_the_thread_is_made_anew() -> None:
    rod = Error(kind="length", name="tie rod")
    adjuster = next(a for a in adjusters_of(marram(), front())[0] if a.adjuster.link == "tie rod")  # fmt: skip
    turn = adjuster.adjuster.mm
    assert "1.5 turns shorter" in bench_words(marram(), front(), rod, 1.5 * turn)
    assert "1 turn longer" in bench_words(marram(), front(), rod, -turn)
    assert "stays" in bench_words(marram(), front(), rod, 1.12 * turn)
    assert "quarter turn" in bench_words(marram(), front(), rod, 0.05 * turn)
    assert bench_words(marram(), front(), rod, turn, "right").startswith(
        "Turn Front tie rod on the right 1 turn shorter."
    )
    lower = next(a for a in adjusters_of(marram(), rear())[0] if a.adjuster.link == "lower link, left")
    assert f"{lower.name} on the left 1 turn shorter" in bench_words(
        marram(), rear(), Error(kind="length", name="lower link, left"), lower.adjuster.mm
    )
    # 2 turns too long: cut so, more is in once it is turned; turned so, what is drawn is. The lesser is told, whichever way it goes
    for turns in (2.0, -2.0):
        drawn, moved = (
            min(one.engagement for one in ends_at(adjuster, way, marram().settings)) for way in (0.0, -turns)
        )
        least = float(re.search(r"([\d.]+) mm or more of thread", bench_words(marram(), front(), rod, turns * turn))[1])  # type: ignore[index]
        assert least == pytest.approx(min(drawn, moved), abs=0.1)
        assert abs(drawn - moved) > 2
    beyond = bench_words(marram(), front(), rod, -(adjuster.longer + 1.0) * turn)
    assert "more than its thread allows" in beyond
    assert "longer" in beyond
    assert bench_words(marram(), front(), Error(kind="place", name="tie_inner", on="ground", axis="y"), 3.0).startswith("Move its bracket 3.0 mm to the right")  # fmt: skip


def test_readings_stand_at_their_heights_and_the_line_with_the_error_goes_through_them() -> None:
    readings = of_front({"tie rod": 8.0})
    drawing = which_view(only(readings), Numbers())
    dots = {one.ref: one for one in drawing.items if isinstance(one, Arc) and one.ref}
    assert set(dots) == {f"reading:{one.id}" for one in readings}
    top = HEIGHT - HEAD
    low, high = -50 - 15, 50 + 15
    for one in readings:
        dot = dots[f"reading:{one.id}"]
        assert dot.cy == pytest.approx(FOOT + (top - FOOT) * (one.risen.mm - low) / (high - low))
        bar = next(
            line for line in drawing.items if isinstance(line, Line) and line.ref == dot.ref and line.y1 == line.y2
        )
        panel = 2 * one.deviation / (bar.x2 - bar.x1)  # degrees to a mm of the sheet
        # the broken line passes within half a deviation of every reading, the full one of toe does not
        near = {style: min(_off(line, dot.cx, dot.cy) for line in drawing.items if isinstance(line, Line) and line.style == style and line.tone == tone and line.y1 != line.y2) for style, tone in (("hidden", "blue"), ("visible", "ink"))}  # fmt: skip
        assert near["hidden"] * panel < 0.06
        if one.measure == "toe_deg":
            assert near["visible"] * panel > 1.0
    said = [one.text for one in drawing.items if isinstance(one, Text)]
    assert {"camber", "toe", "caster", "ride", "+50.0", "−50.0"} <= set(said)
    assert any("likeliest error" in text for text in said)
    assert not any(
        "likeliest error" in one.text
        for one in which_view(only(of_front({})), Numbers()).items
        if isinstance(one, Text)
    )


def test_on_a_car_that_has_risen_the_lines_start_from_where_it_stands() -> None:
    design = demo("marram")
    assert design.car is not None
    raised = work(
        design.model_copy(update={"car": design.car.model_copy(update={"front_rise_mm": 20.0, "rear_rise_mm": 20.0})})
    )
    end = raised.design.ends[0].id
    model = Reconciled(
        raised.template(end), raised.ends[end], np.array([[0.0, 30.0], [0.0, 0.0], [0.0, 0.0]]), np.zeros((3, 0))
    )
    readings = [taken(end, "camber_deg", model.base["camber_deg"][i], risen=h) for i, h in enumerate((0.0, 30.0))]
    (group,) = as_read(raised, readings, unsurveyed())
    drawing = which_view(group, Numbers())
    for one in readings:
        dot = next(item for item in drawing.items if isinstance(item, Arc) and item.ref == f"reading:{one.id}")
        lines = [item for item in drawing.items if isinstance(item, Line) and item.tone == "ink" and item.y1 != item.y2]
        assert min(_off(line, dot.cx, dot.cy) for line in lines) < 0.05


def _off(line: Line, x: float, y: float) -> float:
    """How far beside a point a line is at its height; far off where it does not reach it."""
    low, high = sorted((line.y1, line.y2))
    if not low - 1e-9 <= y <= high + 1e-9:
        return 1e9
    return abs(line.x1 + (line.x2 - line.x1) * (y - line.y1) / (line.y2 - line.y1) - x)


def floor_heights(ahead: float, left: float) -> FloorHeights:
    """Under Marram's wheels, on a floor that rises evenly for each mm ahead and to the left."""
    job = marram()
    centres = {one.end.end: job.ends[one.id].points["wheel_centre"] for one in job.design.ends}

    def at(end: str, sign: float) -> Coordinate:
        x, y, _ = centres[end]  # type: ignore[index]
        return Coordinate(mm=ahead * x + left * sign * abs(y))

    return FloorHeights(id=str(uuid.uuid4()), front_left=at("front", 1), front_right=at("front", -1), rear_left=at("rear", 1), rear_right=at("rear", -1))  # fmt: skip


@pytest.mark.parametrize(
    ("measure", "wheel", "end", "sideways", "forwards"),
    [
        # a car on a floor that rises to the left leans right: its left wheel's top goes inboard, its right one's outboard, steering axes likewise
        ("camber_deg", "left", "front", -1, 0), ("camber_deg", "right", "front", 1, 0), ("kingpin_inclination_deg", "left", "front", 1, 0),
        ("kingpin_inclination_deg", "right", "front", -1, 0),
        # nose up, a steering axis leans back, and so does a nose that points ahead go up
        ("caster_deg", "left", "front", 0, 1), ("pinion_deg", "left", "rear", 0, 1), ("pinion_deg", "left", "front", 0, -1), ("toe_deg", "left", "front", 0, 0),
    ],
)  # fmt: skip
def test_a_floor_that_leans_is_taken_out_of_what_feels_it(measure: str, wheel: str, end: str, sideways: int, forwards: int) -> None:  # fmt: skip
    rise = 0.01
    angle = degrees(atan(rise))
    own = front() if end == "front" else rear()
    read = taken(own, measure, 0.0, wheel=wheel).model_copy(update={"on_floor": True})
    job = marram()
    across = unsurveyed([floor_heights(0.0, rise)]).floor
    along = unsurveyed([floor_heights(rise, 0.0)]).floor
    assert leaned(job, read, across) == pytest.approx(sideways * angle, abs=1e-6)
    assert leaned(job, read, along) == pytest.approx(forwards * angle, abs=1e-6)
    # level on stands, or read with what feels nothing of it
    assert leaned(job, read.model_copy(update={"on_floor": False}), across) == 0.0
    assert leaned(job, read.model_copy(update={"instrument": "other"}), across) == 0.0


def test_a_car_read_on_a_floor_that_leans_fits_once_its_lean_is_out_and_an_unknown_floor_is_told() -> None:
    rise = 0.02  # 1.15 degrees
    angle = degrees(atan(rise))
    on = [
        one.model_copy(update={"on_floor": True, "deg": one.deg - (angle if one.measure == "camber_deg" else 0.0)})
        for one in of_front({})
    ]  # fmt: skip
    survey = unsurveyed([floor_heights(0.0, rise)])
    found = only(on, survey)
    assert found.found
    assert found.found.told.verdict == "fits"
    assert {round(one.leaned or 0.0, 3) for one in found.readings if one.taken.measure == "camber_deg"} == {round(-angle, 3)}  # fmt: skip
    without = only([one.model_copy(update={"on_floor": False}) for one in on], survey)
    assert without.found
    assert without.found.told.verdict != "fits"
    unknown = only(on)
    assert all(one.leaned is None for one in unknown.readings if one.taken.measure == "camber_deg")
