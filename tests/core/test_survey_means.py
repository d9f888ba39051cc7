"""What a survey's uncertainty means for the car: against points shaken by it and solved one car at a time, and lengths by hand."""

from __future__ import annotations

import uuid
from collections.abc import Sequence
from dataclasses import replace
from functools import cache
from math import hypot, sqrt

import numpy as np
import pytest

from tests.core.test_loads import demo
from tests.jobs import work
from tirante.core.document.fields import Coordinate
from tirante.core.document.survey import Taken
from tirante.core.job.alignment import adjusters_of
from tirante.core.job.survey_means import EndKnown, LengthKnown, survey_means
from tirante.core.job.surveyed import Surveyed, place_key, surveyed
from tirante.core.job.worked import Worked
from tirante.core.suspension.cycle import roll_centre, solved_cycle
from tirante.core.suspension.one_error import AXES, can_be_read, errors_of, with_errors

WAYS = ("ahead", "left", "height")


@cache
def marram() -> Worked:
    return work(demo("marram"))


def of(end: int) -> str:
    return marram().design.ends[end].id


def read(entries: Sequence[Taken]) -> Surveyed:
    job = marram()
    return surveyed({one.id: (one.name, job.ends[one.id]) for one in job.design.ends}, entries)


def point(end: int, name: str, sd: tuple[float, float, float], side: str = "left") -> list[Taken]:
    """A point read where the layout has it, along each axis by itself."""
    job = marram()
    x, y, z = job.ends[of(end)].points[name]
    key = place_key(of(end), job.ends[of(end)], name, side)
    at = (x, y if key.endswith("own") else -y, z)
    return [
        Taken(id=str(uuid.uuid4()), kind=kind, of=(key,), read=Coordinate(mm=float(value)), sd=one)  # type: ignore[arg-type]
        for kind, value, one in zip(WAYS, at, sd, strict=True)
    ]


FRONT = (
    "upper_front",
    "upper_rear",
    "lower_front",
    "lower_rear",
    "tie_inner",
    "upper_outer",
    "lower_outer",
    "tie_outer",
)


def front(side: str, survey: Surveyed) -> EndKnown:
    return next(one for one in survey_means(marram(), survey)[0] if one.end_id == of(0) and one.side == side)


def length(survey: Surveyed, a: str, b: str, side: str = "left", end: int = 0) -> LengthKnown:
    return next(
        one
        for one in survey_means(marram(), survey)[1]
        if (one.end_id, one.a, one.b, one.side) == (of(end), a, b, side)
    )


def test_measures_are_as_uncertain_as_cars_whose_points_are_shaken_by_the_survey() -> None:
    """A hundred cars with every surveyed place off by chance, solved each by itself, no slope in it."""
    rng = np.random.default_rng(8)
    sds = {name: tuple(rng.uniform(0.2, 1.2, 3)) for name in FRONT}
    told = front("left", read([one for name, sd in sds.items() for one in point(0, name, sd)]))
    assert told.counted == len(FRONT)
    assert not {"upper_front", "tie_outer"} & set(told.taken_as_true)
    assert "bar_inner" in told.taken_as_true
    job = marram()
    done = solved_cycle(job.template(of(0)), job.ends[of(0)], np.zeros((3, 1)))
    places = [e for e in errors_of(done.left.assembled).errors if e.kind == "place" and e.name in FRONT]
    shaken: dict[str, list[float]] = {}
    for _ in range(100):
        off = {(name, axis): rng.normal() * sds[name][k] for name in FRONT for k, axis in enumerate(AXES)}
        side = with_errors(done.left, {e: float(off[e.name, e.axis]) for e in places if e.axis})
        assert side is not None
        there = {name: float(value[0]) for name, value in can_be_read(side).items()}
        there["roll_centre_mm"] = float(roll_centre(replace(done, left=side, right=None))[0][0])
        for one in told.measures:
            shaken.setdefault(one.name, []).append(there[one.name])
    assert set(shaken) >= {"camber_deg", "toe_deg", "caster_deg", "kingpin_inclination_deg", "roll_centre_mm"}
    for one in told.measures:
        assert one.sd == pytest.approx(float(np.std(shaken[one.name])), rel=0.2), (
            one.name
        )  # 7 % is one deviation of a hundred
        assert one.value == pytest.approx(float(np.mean(shaken[one.name])), abs=4 * one.sd / 10)


def test_each_wheel_is_known_by_its_own_side() -> None:
    survey = read([*point(0, "lower_outer", (0.3, 0.3, 0.3)), *point(0, "lower_outer", (0.6, 0.6, 0.6), "right")])
    left, right = (front(side, survey) for side in ("left", "right"))
    for one, other in zip(left.measures, right.measures, strict=True):
        assert other.sd == pytest.approx(2 * one.sd, rel=1e-6), one.name
    alone = survey_means(marram(), read(point(0, "lower_outer", (0.3, 0.3, 0.3), "right")))[0]
    assert [one.side for one in alone] == ["right"]


def test_what_was_measured_alike_on_both_sides_is_known_alike_and_an_unpaired_point_is_its_own() -> None:
    """Of either wheel, tied together askew: what goes with what is mirrored too."""
    entries: list[Taken] = []
    for side in ("left", "right"):
        near, far = (place_key(of(0), marram().ends[of(0)], name, side) for name in ("lower_outer", "tie_outer"))
        entries += [*point(0, "lower_outer", (0.2, 0.2, 0.2), side), *point(0, "tie_outer", (3.0, 3.0, 0.2), side)]
        a, b = (np.array(marram().ends[of(0)].points[name]) for name in ("lower_outer", "tie_outer"))
        entries.append(
            Taken(
                id=str(uuid.uuid4()),
                kind="distance",
                of=(near, far),
                read=Coordinate(mm=float(np.linalg.norm(b - a))),
                sd=0.05,
            )
        )
    survey = read(entries)
    left, right = (front(side, survey) for side in ("left", "right"))
    for one, other in zip(left.measures, right.measures, strict=True):
        assert other.sd == pytest.approx(one.sd, rel=1e-3), one.name
    end = marram().design.ends[0]
    x, y, z = end.end.points["upper_outer"]
    apart = end.model_copy(
        update={"end": end.end.model_copy(update={"right_points": {"upper_outer": (x, -y + 9.0, z)}})}
    )
    job = work(marram().design.model_copy(update={"ends": (apart, *marram().design.ends[1:])}))
    kingpin = [
        next(m.value for m in one.measures if m.name == "kingpin_inclination_deg")
        for one in survey_means(job, survey)[0]
        if one.end_id == of(0)
    ]
    assert kingpin[0] == pytest.approx(next(m.value for m in left.measures if m.name == "kingpin_inclination_deg"))
    assert abs(kingpin[1] - kingpin[0]) > 1.0


def test_what_several_places_share_counts_once() -> None:
    """All of a side read from one point that is itself unsure sideways: the whole side is shifted alike, and camber does not feel it."""
    names = [name for name in FRONT if name != "lower_outer"]
    job = marram()
    end = job.ends[of(0)]
    base = place_key(of(0), end, "lower_outer", "left")
    entries = point(0, "lower_outer", (0.1, 5.0, 0.1))
    for name in names:
        key = place_key(of(0), end, name, "left")
        for axis, kind in enumerate(WAYS):
            value = end.points[name][axis] - end.points["lower_outer"][axis]
            entries.append(
                Taken(id=str(uuid.uuid4()), kind=kind, of=(key, base), read=Coordinate(mm=float(value)), sd=0.1)
            )  # type: ignore[arg-type]
    told = front("left", read(entries))
    camber = next(one for one in told.measures if one.name == "camber_deg")
    apart = front("left", read([one for name in FRONT for one in point(0, name, (0.1, 5.0, 0.1))]))
    assert camber.sd < 0.1
    assert next(one.sd for one in apart.measures if one.name == "camber_deg") > 1.0


def test_a_length_is_as_sure_as_its_two_points_along_it() -> None:
    job = marram()
    survey = read([*point(0, "tie_inner", (1.0, 2.0, 3.0)), *point(0, "tie_outer", (0.5, 0.5, 0.5))])
    found = length(survey, "tie_inner", "tie_outer")
    a, b = (np.array(job.ends[of(0)].points[name]) for name in ("tie_inner", "tie_outer"))
    x, y, z = (b - a) / np.linalg.norm(b - a)
    assert found.sd == pytest.approx(hypot(x, 2 * y, 3 * z, 0.5), rel=1e-6)
    assert found.mm == pytest.approx(float(np.linalg.norm(b - a)))
    assert not found.lacking
    assert length(survey, "tie_inner", "tie_outer", "right").lacking == ("tie_inner", "tie_outer")
    half = length(read(point(0, "tie_inner", (1.0, 1.0, 1.0))), "tie_inner", "tie_outer")
    assert (half.sd, half.lacking, half.beyond) == (None, ("tie_outer",), False)
    # nothing but a height: it may stand anywhere along the floor
    flat = length(
        read([*point(0, "tie_inner", (1.0, 1.0, 1.0))[2:], *point(0, "tie_outer", (1.0, 1.0, 1.0))]),
        "tie_inner",
        "tie_outer",
    )
    assert (flat.sd, flat.lacking) == (None, ("tie_inner",))
    # the one read from the other: what both share is no part of the length
    base = place_key(of(0), job.ends[of(0)], "tie_inner", "left")
    key = place_key(of(0), job.ends[of(0)], "tie_outer", "left")
    shared = [
        Taken(id=str(uuid.uuid4()), kind=kind, of=(key, base), read=Coordinate(mm=float(v)), sd=0.1)  # type: ignore[arg-type]
        for kind, v in zip(WAYS, b - a, strict=True)
    ]
    assert length(
        read([*point(0, "tie_inner", (4.0, 5.0, 6.0)), *shared]), "tie_inner", "tie_outer"
    ).sd == pytest.approx(0.1, rel=1e-3)
    # a beam: a link of a pair by its own side, one that stands single by itself wherever it stands
    names = {"panhard_chassis": 0.3, "panhard_axle": 0.4, "lower_chassis": 0.6, "lower_axle": 0.8}
    own = {name: "left" if job.ends[of(1)].points[name][1] > 0 else "right" for name in names}
    beam = read([one for name, sd in names.items() for one in point(1, name, (sd, sd, sd), own[name])])
    assert length(beam, "panhard_chassis", "panhard_axle", "", 1).sd == pytest.approx(0.5)
    assert length(beam, "lower_chassis", "lower_axle", "left", 1).sd == pytest.approx(1.0)
    assert length(beam, "lower_chassis", "lower_axle", "right", 1).sd is None


def test_a_length_less_certain_than_its_adjuster_takes_up_is_told() -> None:
    def rod(sd: float) -> LengthKnown:
        each = sd / sqrt(2)
        return length(
            read([one for name in ("tie_inner", "tie_outer") for one in point(0, name, (each, each, each))]),
            "tie_inner",
            "tie_outer",
        )

    room = rod(1.0)
    assert room.shorter is not None
    assert room.longer is not None
    takes_up = min(room.shorter, room.longer)
    assert 5 < takes_up < 40
    turned = next(one for one in adjusters_of(marram(), of(0))[0] if one.adjuster.link == "tie rod")
    assert (room.shorter, room.longer) == pytest.approx(
        (turned.shorter * turned.adjuster.mm, turned.longer * turned.adjuster.mm)
    )
    # what it takes up either way counts: here 2 mm shorter
    assert replace(room, sd=2.0, shorter=2.0, longer=10.0).beyond
    assert not replace(room, sd=1.0, shorter=2.0, longer=10.0).beyond
    assert not rod(0.95 * takes_up / 1.96).beyond
    assert rod(1.05 * takes_up / 1.96).beyond
    part = marram().saved(room.part_id or "")
    assert part is not None
    assert part.name == "Front tie rod"
    # the lower arm is welded: nothing takes anything up
    lower = length(
        read([one for name in ("lower_front", "lower_outer") for one in point(0, name, (0.3, 0.3, 0.3))]),
        "lower_front",
        "lower_outer",
    )
    assert (lower.shorter, lower.beyond) == (None, True)
    arm = marram().saved(lower.part_id or "")
    assert arm is not None
    assert arm.name == "Front lower arm"
    fine = length(
        read([one for name in ("lower_front", "lower_outer") for one in point(0, name, (0.15, 0.15, 0.15))]),
        "lower_front",
        "lower_outer",
    )
    assert not fine.beyond


def test_a_beam_is_known_as_a_whole_and_by_both_its_sides() -> None:
    both = read([*point(1, "lower_axle", (0.3, 0.3, 0.3)), *point(1, "lower_axle", (0.3, 0.3, 0.3), "right")])
    one = read(point(1, "lower_axle", (0.3, 0.3, 0.3)))
    (whole,), (half,) = (survey_means(marram(), survey)[0] for survey in (both, one))
    assert (whole.side, whole.counted, half.counted) == ("", 2, 1)
    steer = [next(m.sd for m in end.measures if m.name == "axle_steer_deg") for end in (whole, half)]
    assert steer[0] == pytest.approx(sqrt(2) * steer[1], rel=0.01)  # the Panhard rod makes the sides a little unlike
    assert "lower_axle_right" in half.taken_as_true
    assert survey_means(marram(), read([])) == ((), (), ())


def test_an_end_that_cannot_be_put_together_is_named_with_the_reason() -> None:
    design = marram().design
    own = design.ends[0]
    flat = {name: own.end.points["lower_front"] if name == "lower_rear" else at for name, at in own.end.points.items()}
    broken = own.model_copy(update={"end": own.end.model_copy(update={"points": flat})})
    job = work(design.model_copy(update={"ends": (broken, *design.ends[1:])}))
    ends, _, lost = survey_means(job, read([*point(0, "upper_front", (0.3, 0.3, 0.3)), *point(1, "lower_axle", (0.3, 0.3, 0.3))]))  # fmt: skip
    assert {one.end_id for one in ends} == {of(1)}
    ((name, why),) = lost
    assert name == of(0)
    assert why
