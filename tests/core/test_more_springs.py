"""A second damper a side, and a spring that stands by itself: what carries, how several share, what stops the travel.

Sources: virtual work and equal strain by hand (derived in each test); no published example is used.
"""

from __future__ import annotations

from typing import Any

import pytest
from pydantic import ValidationError

from tests.core.test_loads import demo
from tests.core.test_statics import HIT, carried, solved, sprung
from tests.jobs import template_of, work
from tirante.core.document.end import Damper, DamperEye, End, PlaceIn
from tirante.core.document.joints import PointOfBody
from tirante.core.errors import InputError
from tirante.core.loads.body_roll import end_roll
from tirante.core.loads.travel import Swept
from tirante.core.parts.eyes import held_eye, places_of_damper
from tirante.core.suspension.cycle import measured
from tirante.core.suspension.on_body import places_on
from tirante.core.suspension.statics import Case, Push, forces
from tirante.core.suspension.study import study

UP = Push(at="contact_left", force=(0.0, 0.0, 3000.0)), Push(at="contact_right", force=(0.0, 0.0, 3000.0))


def with_unit(name: str, unit: Damper, points: dict[str, tuple[float, float, float]], **damper: Any) -> End:
    """An example end with one more damper or spring, and something of its own damper changed."""
    end = sprung(name)
    assert end.damper
    return end.model_copy(
        update={
            "points": {**end.points, **points}, "other_dampers": {"air spring": unit}, "damper": end.damper.model_copy(update=damper)
        }
    )  # fmt: skip


def spring(body: str, **more: Any) -> Damper:
    return Damper(a=PlaceIn(body="ground", point="air_top"), b=PlaceIn(body=body, point="air_low"), **more)


def alone(name: str = "double-wishbone") -> End:
    """The damper without a rate, a spring on the lower arm near its outer joint."""
    points = {"air_top": (20.0, 520.0, 520.0), "air_low": (20.0, 540.0, 215.0)}
    return with_unit(name, spring("lower_arm", rate_n_per_mm=35.0), points, rate_n_per_mm=None)


def test_a_spring_by_itself_carries_and_the_damper_beside_it_nothing() -> None:
    """Virtual work: F dz = S dl, and dl/dz of the spring's own two places; the damper is not in it."""
    end = alone()
    found = carried(end, *UP)
    assert set(found.springs) == {"air spring", "air spring, right"}
    step = 1e-3
    done = solved(end, step), solved(end, -step)
    lengths = [float(measured(one).limits["air spring"]["length_mm"][0]) for one in done]
    ratio = -(lengths[0] - lengths[1]) / (2 * step)
    columns = measured(solved(end)).columns
    assert columns["motion_ratio"][0] == pytest.approx(ratio, rel=1e-5)
    assert 0 < columns["damper_ratio"][0] != pytest.approx(ratio, rel=0.05)
    # the contact's load does its work on the contact's own rise
    heights = [float(measured(one).columns["contact_z_mm"][0]) for one in done]
    rise = (heights[0] - heights[1]) / (2 * step)
    assert found.springs["air spring"] == pytest.approx(3000.0 * rise / ratio, rel=1e-5)
    acts = {act.what for act in found.on["lower_arm"]}
    assert "air spring" in acts
    assert not any(what.startswith("spring") for what in acts)
    # the place on the arm is one that the arm is loaded at
    stands = {place.point: place.what for place in places_on(template_of(end), end, "lower_arm")}
    assert stands["air_low"] == "air spring"


def test_two_springs_at_one_place_share_by_their_rates() -> None:
    """The same two places twice: what one of 60 N/mm carries, 20 and 40 carry as one to two, and nothing else changes."""
    one = sprung("double-wishbone")
    assert one.damper
    whole = carried(one, *UP)
    damper = one.damper.model_copy(update={"rate_n_per_mm": 40.0})
    two = one.model_copy(
        update={"damper": damper, "other_dampers": {"helper": damper.model_copy(update={"rate_n_per_mm": 20.0})}}
    )
    found = carried(two, *UP)
    assert found.springs["spring"] == pytest.approx(whole.springs["spring"] * 2 / 3, rel=1e-9)
    assert found.springs["helper"] == pytest.approx(whole.springs["spring"] / 3, rel=1e-9)
    for link, force in whole.axial.items():
        assert found.axial[link] == pytest.approx(force, rel=1e-9, abs=1e-6)
    assert found.residual < 1e-9


def test_springs_at_two_places_share_by_rate_and_ratio() -> None:
    """Taken up together from nothing, each has k r z: forces as k r, and Σ S r is what one of them alone would do."""
    end = alone().model_copy(update={"damper": sprung("double-wishbone").damper})
    assert end.damper
    end = end.model_copy(update={"damper": end.damper.model_copy(update={"rate_n_per_mm": 50.0})})
    found = carried(end, *UP)
    columns = measured(solved(end)).columns
    first = float(columns["motion_ratio"][0])
    second = float(measured(solved(alone())).columns["motion_ratio"][0])
    assert found.springs["air spring"] / found.springs["spring"] == pytest.approx(
        35.0 * second / (50.0 * first), rel=1e-6
    )
    only = carried(alone(), *UP).springs["air spring"] * second
    assert found.springs["spring"] * first + found.springs["air spring"] * second == pytest.approx(only, rel=1e-6)


def test_the_lean_is_held_by_every_spring() -> None:
    """Of a corner, k (dl/dφ)² adds up over the springs: with both it is what each alone comes to, together."""
    template = template_of(alone())
    own = sprung("double-wishbone").damper
    assert own
    own = own.model_copy(update={"rate_n_per_mm": 50.0})
    apart = end_roll(template, alone()).stiffness
    bare = {name: at for name, at in alone().points.items() if not name.startswith("air_")}
    first = end_roll(
        template, alone().model_copy(update={"damper": own, "other_dampers": {}, "points": bare})
    ).stiffness
    both = end_roll(template, alone().model_copy(update={"damper": own})).stiffness
    assert both == pytest.approx((apart or 0.0) + (first or 0.0), rel=1e-9)


def test_whichever_damper_closes_first_ends_the_bump_and_is_named() -> None:
    end = alone()
    at_ride = float(measured(solved(end)).limits["air spring"]["length_mm"][0])
    shorter = float(measured(solved(end, 30.0)).limits["air spring"]["length_mm"][0])
    stop = end.model_copy(
        update={"other_dampers": {"second damper": spring("lower_arm", closed_mm=shorter, open_mm=at_ride + 400)}}
    )
    assert stop.damper
    free = stop.model_copy(update={"damper": stop.damper.model_copy(update={"closed_mm": None, "open_mm": None})})
    ends = Swept(template_of(free), free, 80.0, 80.0).ends["both"]
    assert ends.bump_by == "the second damper is closed"
    assert ends.bump == pytest.approx(30.0, abs=0.05)
    assert ends.closed == pytest.approx(30.0, abs=0.05)
    events = study(template_of(free), free, 80.0, 80.0, 0.0, 0.0).events
    assert any(
        one.what == "the second damper is closed" and one.travel == pytest.approx(30.0, abs=0.1) for one in events
    )


def test_met_with_a_stop_each_spring_has_its_own_force_and_the_stop_the_rest() -> None:
    """Marram's front with a helper: at the stop each spring's force is as it stands plus k Δl, the wheel's load is carried by all."""
    design = demo("marram")
    front = next(one for one in design.ends if one.end.end == "front")
    damper = front.end.damper
    assert damper
    assert damper.rate_n_per_mm
    helper = damper.model_copy(update={"rate_n_per_mm": 12.0})
    end = front.end.model_copy(update={"other_dampers": {"helper": helper}})
    changed = design.model_copy(
        update={"ends": tuple(one.model_copy(update={"end": end}) if one is front else one for one in design.ends)}
    )
    cases = [one for one in work(changed).carried(front.id).cases if one.carrier == "stop" and one.forces]
    met = 0
    for one in cases:
        assert one.forces
        for side in ("", ", right"):
            if f"bump stop{side}" not in one.forces.stops:
                continue
            met += 1
            ratio = one.springs[f"helper{side}"] / one.springs[f"spring{side}"]
            # of like places both are shortened alike: as their rates at ride and after
            assert ratio == pytest.approx(12.0 / damper.rate_n_per_mm, rel=1e-6)
            assert one.forces.springs[f"spring{side}"] == pytest.approx(one.springs[f"spring{side}"], rel=1e-9)
    assert met > 2


def test_both_eyes_of_every_damper_may_be_held_and_see_their_own_spring() -> None:
    design = demo("marram")
    front = next(one for one in design.ends if one.end.end == "front")
    assert front.end.damper
    eye = DamperEye(bore_mm=12.0, ball_width_mm=20.0, housing_width_mm=16.0, head_diameter_mm=32.0)
    points = {"air_top": (20.0, 520.0, 520.0), "air_low": (20.0, 540.0, 215.0)}
    more = {
        "air spring": spring("lower_arm", rate_n_per_mm=35.0, eye_a=eye),
        "second damper": spring("lower_arm", eye_a=eye),
    }
    points |= {"second_top": (60.0, 520.0, 520.0)}
    more["second damper"] = more["second damper"].model_copy(update={"a": PlaceIn(body="ground", point="second_top")})
    end = front.end.model_copy(
        update={"other_dampers": more, "points": {**front.end.points, **points}, "damper": front.end.damper.model_copy(update={"rate_n_per_mm": None})}
    )  # fmt: skip
    job = work(
        design.model_copy(
            update={"ends": tuple(one.model_copy(update={"end": end}) if one is front else one for one in design.ends)}
        )
    )
    held = dict(places_of_damper(front.id, end))
    assert list(held)[2:4] == ["upper eye of the air spring", "lower eye of the air spring"]
    seen = held_eye(held["upper eye of the air spring"], "pair", job)
    assert seen
    worst = max(abs(case.axial_n) for case in seen.cases)
    springs = [
        abs(f)
        for one in job.carried(front.id).cases
        if one.forces and not one.fault
        for f in one.forces.springs.values()
    ]
    assert worst == pytest.approx(max(springs), rel=1e-9)
    assert worst > 1000.0
    beside = held_eye(held["upper eye of the second damper"], "pair", job)
    assert beside
    assert beside.cases == ()
    assert held_eye(PointOfBody(end_id=front.id, body="ground", point="stop_tip"), "pair", job) is None


def test_a_beam_on_air_springs_beside_its_dampers_stands_in_balance() -> None:
    end = sprung("four-links-watts-axle")
    points = {"air_top": (40.0, 430.0, 620.0), "air_low": (40.0, 430.0, 380.0)}
    air = end.model_copy(
        update={
            "points": {**end.points, **points}, "other_dampers": {"air spring": spring("axle", rate_n_per_mm=30.0)},
            "damper": end.damper.model_copy(update={"rate_n_per_mm": None}) if end.damper else None,
        }
    )  # fmt: skip
    found = carried(air, HIT)
    assert found.residual < 1e-9
    assert set(found.springs) == {"air spring, left", "air spring, right"}
    up = carried(air, *UP)
    # upright and under the wheels' middle: they carry the axle's two loads alike
    assert up.springs["air spring, left"] == pytest.approx(up.springs["air spring, right"], rel=1e-9)


@pytest.mark.parametrize(
    ("name", "error", "told"),
    [
        ("damper", ValidationError, "something else of this end"),
        ("lower arm", InputError, "has something called lower arm already"),
    ],
)
def test_a_name_that_is_taken_is_refused(name: str, error: type[Exception], told: str) -> None:
    end = alone()
    data = {**end.model_dump(), "other_dampers": {name: end.other_dampers["air spring"].model_dump()}}
    with pytest.raises(error, match=told):
        solved(End.model_validate(data))


@pytest.mark.parametrize("where", ["front", "rear"])
def test_a_spring_split_in_two_is_the_spring_that_it_was_in_every_case(where: str) -> None:
    """Two thirds and one third of the rate at the same places: every case stands where it stood and every link carries what it did."""
    design = demo("marram")
    front = next(one for one in design.ends if one.end.end == where)
    damper = front.end.damper
    assert damper
    assert damper.rate_n_per_mm
    parts = [damper.model_copy(update={"rate_n_per_mm": damper.rate_n_per_mm * share}) for share in (2 / 3, 1 / 3)]
    end = front.end.model_copy(update={"damper": parts[0], "other_dampers": {"helper": parts[1]}})
    ends = tuple(one.model_copy(update={"end": end}) if one is front else one for one in design.ends)
    was, now = (work(one).carried(front.id).cases for one in (design, design.model_copy(update={"ends": ends})))
    assert len(was) == len(now)
    moved = 0
    for one, two in zip(was, now, strict=True):
        assert two.position == pytest.approx(one.position, abs=1e-6)
        assert (one.forces is None) == (two.forces is None)
        if one.forces is None or two.forces is None:
            continue
        moved += one.position[0] > 40.0
        for link, force in one.forces.axial.items():
            assert two.forces.axial[link] == pytest.approx(force, rel=1e-6, abs=1e-2), (one.name, link)
    assert moved >= 3


@pytest.mark.parametrize(
    "name", ["four-links-panhard", "three-links-panhard", "radius-arms", "double-wishbone", "leaves-top-link"]
)
def test_a_spring_split_in_two_leaves_every_link_what_it_carried_where_the_layout_binds_too(name: str) -> None:
    """Springs are locked where the end stands: links that would hold its lean by their own stiffness take none of it from them."""
    end = sprung(name)
    assert end.damper
    one = end.model_copy(update={"damper": end.damper.model_copy(update={"rate_n_per_mm": 60.0}), "other_dampers": {}})
    one = one.model_copy(
        update={"points": {name: at for name, at in one.points.items() if not name.startswith("air_")}}
    )
    parts = [end.damper.model_copy(update={"rate_n_per_mm": rate}) for rate in (40.0, 20.0)]
    two = one.model_copy(update={"damper": parts[0], "other_dampers": {"helper": parts[1]}})
    was, now = carried(one, HIT), carried(two, HIT)
    for link, force in was.axial.items():
        assert now.axial[link] == pytest.approx(force, rel=1e-4, abs=0.5), link
    for label, force in was.springs.items():
        assert now.springs[label] == pytest.approx(force * 2 / 3, rel=1e-4, abs=0.5)
        assert now.springs[label.replace("spring", "helper")] == pytest.approx(force / 3, rel=1e-4, abs=0.5)


@pytest.mark.parametrize("share", [0.2, 0.8])
def test_springs_at_two_places_hold_the_ways_of_the_end_and_not_what_soft_bushes_hold(share: float) -> None:
    """A beam that 400 N/mm a side holds across, on two springs a side that lean: each wheel's way by virtual work, Σ S dl = F dz, and S as
    k dl; what acts across goes into the bushes, whatever the springs' share."""
    end = sprung("leaves-top-link")
    assert end.damper
    rates = {"spring": 92.0 * share, "air spring": 92.0 * (1 - share)}
    end = end.model_copy(
        update={
            "damper": end.damper.model_copy(update={"rate_n_per_mm": rates["spring"]}),
            "other_dampers": {"air spring": end.other_dampers["air spring"].model_copy(update={"rate_n_per_mm": rates["air spring"]})},
        }
    )  # fmt: skip
    across = Push(at="contact_left", force=(0.0, 4000.0, 3000.0)), Push(at="contact_right", force=(0.0, 2000.0, 5000.0))
    found = carried(end, *across)
    assert found.residual < 1e-9
    step = 0.05
    up, down = measured(solved(end, step)), measured(solved(end, -step))
    longer = {
        "spring": float(up.columns["damper_length_mm"][0] - down.columns["damper_length_mm"][0]),
        "air spring": float(up.limits["air spring, left"]["length_mm"][0] - down.limits["air spring, left"]["length_mm"][0]),
    }  # fmt: skip
    work_done = -sum(found.springs[f"{name}, {side}"] * longer[name] for name in longer for side in ("left", "right"))
    assert work_done == pytest.approx(
        8000.0 * 2 * step, rel=2e-3
    )  # heave alone: both wheels rise alike, nothing moves across
    assert max(abs(force) for force in found.springs.values()) < 8000.0
    held = sum(float(found.joints[f"leaf at its clamp, {side}"].force[1]) for side in ("left", "right"))
    leaned = sum(float(act.force[1]) for act in found.on["axle"] if "spring" in act.what) + sum(
        float(act.force[1]) for act in found.on["axle"] if act.what == "top link"
    )
    assert abs(abs(held) - abs(6000.0 + leaned)) < 1e-6


def test_beside_a_stop_on_the_other_side_springs_share_as_they_lengthen_about_it() -> None:
    """Quay's axle standing on its left stop: upright springs right of it at 430 and 250 mm lengthen as their distance from the stop (levers by
    hand), so that they carry as rate times lever."""
    design = demo("quay")
    end = design.ends[0].end
    stop = end.bump_stop
    assert stop
    x, y, z = end.points[stop.pad.point]
    points = {
        "high_one": (x, 430.0, z + 300),
        "low_one": (x, 430.0, z - 60),
        "high_two": (x, 250.0, z + 300),
        "low_two": (x, 250.0, z - 60),
    }
    units = [
        Damper(a=PlaceIn(body="ground", point=f"high_{n}"), b=PlaceIn(body="axle", point=f"low_{n}"), rate_n_per_mm=rate)
        for n, rate in (("one", 40.0), ("two", 70.0))
    ]  # fmt: skip
    bare = {name: at for name, at in end.points.items() if not name.startswith(("spring_", "damper_"))}
    end = end.model_copy(
        update={"points": {**bare, **points}, "damper": units[0], "other_dampers": {"helper": units[1]}}
    )
    found = forces(
        solved(end),
        0,
        [Case(name="c", pushes=UP)],
        met={"left": "stop"},
        spring_n={"spring, left": 500.0, "helper, left": 500.0},
    )[0]
    assert found.fault is None
    assert found.residual < 1e-9
    assert found.stops
    ratio = found.springs["spring, right"] / found.springs["helper, right"]
    assert ratio == pytest.approx(40.0 * (y + 430.0) / (70.0 * (y + 250.0)), rel=2e-2)
