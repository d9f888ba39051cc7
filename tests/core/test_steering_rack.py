"""Steering racks: what their two feet bear, by statics and by what the tie rods do to the uprights; and the pads that they are bolted to."""

from __future__ import annotations

import numpy as np
import pytest

from tests.core.test_loads import demo
from tests.core.test_mounts import IDS, SHOP
from tests.jobs import draw, part_of, with_part, work
from tirante.calc import calculate
from tirante.core.brackets.bolt import bolt_class
from tirante.core.document.adopt import patched
from tirante.core.document.design import Design
from tirante.core.document.end import SteeringArm
from tirante.core.document.mounts import BoxMember, Mount
from tirante.core.document.parts.bearing_pad import BearingPad
from tirante.core.document.parts.steering_rack import SteeringRack
from tirante.core.drawing.sheet import Numbers
from tirante.core.errors import InputError
from tirante.core.job.make_parts import parts_of_end
from tirante.core.job.places import places_of
from tirante.core.job.propose import propose
from tirante.core.members.two_feet import PushedAt, at_feet
from tirante.core.parts.bracket.families.bearing_pad import BearingMade, OnPad
from tirante.core.parts.steering_rack.kind import STEERING_RACK, RackMade


def bare_of_racks() -> Design:
    design = demo("marram")
    gone = {part.id for part in design.parts if isinstance(part, SteeringRack)}
    gone |= {part.id for part in design.parts if isinstance(part, BearingPad) and part.bar in gone}
    joints = tuple(one for one in design.joints if one.by not in gone)
    return design.model_copy(update={"parts": tuple(p for p in design.parts if p.id not in gone), "joints": joints})


def racked(**change: object) -> tuple[Design, SteeringRack]:
    design = bare_of_racks()
    rack = next(
        p for p in parts_of_end(work(design), design.ends[0].id, IDS, ("steering_rack",)) if isinstance(p, SteeringRack)
    )
    rack = SteeringRack.model_validate(
        rack.model_dump() | {"apart_mm": 260.0, "pitch_mm": 60.0, "high_mm": 24.0} | change
    )
    return with_part(design, rack), rack


def test_two_feet_balance_what_is_pushed_and_a_push_past_one_lifts_the_other() -> None:
    rng = np.random.default_rng(7)
    for _ in range(50):
        apart = float(rng.uniform(50, 600))
        pushed = [PushedAt(x=float(rng.uniform(-500, 500)), force=rng.normal(size=3) * 1000) for _ in range(3)]
        first, second = at_feet(apart, pushed)
        total = sum(one.force for one in pushed)
        assert first[1:] + second[1:] == pytest.approx(total[1:])
        assert (second - first)[1:] * apart / 2 == pytest.approx(sum(one.x * one.force for one in pushed)[1:])
        assert first[0] == second[0] == pytest.approx(total[0])  # either foot may have to take all of it
    low, high = at_feet(200.0, [PushedAt(x=300.0, force=np.array([0.0, 0.0, 1000.0]))])
    assert (low[2], high[2]) == pytest.approx((-1000.0, 2000.0))
    with pytest.raises(InputError):
        at_feet(0.0, [])


def test_a_rack_bears_what_its_tie_rods_pull_at_the_uprights_with() -> None:
    """From the balance of the uprights, not from the links' own forces."""
    design, rack = racked()
    job = work(design)
    made = part_of(rack, design).own
    assert isinstance(made, RackMade)
    carried = {(one.name, one.where): one for one in job.carried(rack.end_id).cases if one.forces and not one.fault}
    assert len(made.cases) == len(carried) >= 15
    inner = np.array(design.ends[0].end.points["tie_inner"])
    assert made.length == pytest.approx(2 * inner[1])
    for case in made.cases:
        one = carried[case.case, case.where]
        assert one.forces
        on = {
            key: next(act.force for act in one.forces.on[key] if act.what.startswith("tie rod"))
            for key in ("upright", "upright, right")
            if key in one.forces.on  # on a stand one corner alone is pushed at
        }
        pulls = {key: -np.asarray(force) for key, force in on.items()}  # on the rack
        steer = one.position[2]
        at = {"upright": inner[1] + steer, "upright, right": -inner[1] + steer}
        total = sum(pulls.values())
        left, right = case.feet[0], case.feet[1] * np.array([1.0, -1.0, 1.0])
        assert case.along == pytest.approx(total[1], abs=1e-6)
        for axis in (0, 2):
            assert left[axis] + right[axis] == pytest.approx(total[axis], abs=1e-5)
            assert (left - right)[axis] * 130.0 == pytest.approx(
                sum(at[key] * pulls[key][axis] for key in pulls), rel=1e-6, abs=1e-3
            )
        assert left[1] == right[1] == pytest.approx(total[1], abs=1e-6)


def test_what_a_turn_to_the_left_does_to_the_left_foot_one_to_the_right_does_to_the_right() -> None:
    design, rack = racked()
    made = part_of(rack, design).own
    assert isinstance(made, RackMade)
    pairs = {}
    for case in made.cases:
        pairs.setdefault(case.case.rpartition(",")[0], []).append(case)
    both = [pair for name, pair in pairs.items() if len(pair) == 2 and "turning" in pair[0].case]
    assert both
    for one, two in both:
        # the rear's Panhard rod leans the car a trifle otherwise to the right
        assert one.feet[0] == pytest.approx(two.feet[1], abs=0.02 * np.linalg.norm(one.feet[0]))
        assert one.along == pytest.approx(-two.along, rel=0.02)
        assert np.linalg.norm(one.feet[0] - two.feet[0]) > 0.5 * np.linalg.norm(one.feet[0])


def test_its_feet_are_judged_by_their_bolts_and_the_rack_by_its_maker_s_rating() -> None:
    design, rack = racked(rating_n=30_000.0)
    part = part_of(rack, design)
    checks = {check.name: check for check in part.checks}
    assert set(checks) == {"Feet of the rack, their bolts", "Along the rack, its rating"}
    made = part.own
    assert isinstance(made, RackMade)
    factors = work(design).settings.factors
    assert checks["Along the rack, its rating"].demand == pytest.approx(
        factors.joint * max(abs(one.along) for one in made.cases)
    )
    feet = checks["Feet of the rack, their bolts"]
    assert feet.demand == pytest.approx(
        factors.bolt * max(np.linalg.norm(foot) for one in made.cases for foot in one.feet)
    )
    assert feet.reproduce is not None
    assert calculate(feet.reproduce.topic, feet.reproduce.input)["most_n"] == pytest.approx(feet.demand)
    unrated = part_of(rack.model_copy(update={"rating_n": None}), design)
    assert len(unrated.checks) == 1
    assert any("rating" in note for note in unrated.notes)
    told = STEERING_RACK.told(part)
    assert told is not None
    assert told.along_n == pytest.approx(max(abs(one.along) for one in made.cases))
    drawing = draw(rack, design, "drawing", Numbers())
    assert any("foot to foot" in str(item) for item in drawing.items)


def test_a_rack_is_made_from_its_end_and_says_what_it_lacks() -> None:
    design = bare_of_racks()
    assert [one.words for _, one in work(design).not_made() if one.sort == "rack"] == ["rack"]
    every = parts_of_end(work(design), design.ends[0].id, IDS)
    rack = next(part for part in every if isinstance(part, SteeringRack))
    assert rack.apart_mm == pytest.approx(round(design.ends[0].end.points["tie_inner"][1]))
    design = with_part(design, rack)
    assert not [one for _, one in work(design).not_made() if one.sort == "rack"]
    place = next(one for one in places_of(work(design)) if one.of == rack.name)
    assert place.family == "bearing_pad"
    assert place.missing is not None
    assert "bolts of the feet" in place.missing
    wide = part_of(rack.model_copy(update={"apart_mm": 600.0}), design)
    assert [fault.field for fault in wide.faults] == ["apart_mm"]
    arm = SteeringArm.model_construct()
    end = design.ends[0]
    armed = {end.id: end.end.model_copy(update={"steering": arm})}
    assert rack.lost(armed) == "An arm steers this end now, and no rack. Take it out, or undo."
    assert rack.lost({}) is not None
    with pytest.raises(ValueError, match="pitch_mm"):
        SteeringRack.model_validate(rack.model_dump() | {"pitch_mm": 20.0, "bolt_mm": 10.0})


def test_one_press_bolts_it_to_pads_that_bear_what_pushes_it_along_too() -> None:
    design, rack = racked()
    inner = design.ends[0].end.points["tie_inner"]
    shape = BoxMember(
        a=(inner[0] - 200, 130.0, inner[2] - 24 - 40 - 25),
        b=(inner[0] + 200, 130.0, inner[2] - 24 - 40 - 25),
        up=(0, 0, 1),
        width_mm=60,
        height_mm=50,
        wall_mm=4,
    )
    rail = Mount(id=IDS[190], name="Rack rail", shape=shape, both_sides=True, yield_mpa=355.0, uts_mpa=470.0)
    found = propose(work(design.model_copy(update={"mounts": (rail,)})), SHOP, IDS[10:], (rack.id,))
    design = patched(design.model_copy(update={"mounts": (rail,)}), found.patch)
    pad = next(part for part in design.parts if isinstance(part, BearingPad) and part.bar == rack.id)
    part = part_of(pad, design)
    assert not part.faults
    made = part.own
    assert isinstance(made, BearingMade)
    assert made.shape.middle == pytest.approx([inner[0], 130.0, inner[2] - 24.0])
    own = part_of(rack, design).own
    assert isinstance(own, RackMade)
    cases = {one.case: one for one in made.cases if isinstance(one, OnPad)}
    assert len(cases) == 2 * len(own.cases)
    for one in own.cases:
        for foot, told in zip(one.feet, (", left foot", ", right foot"), strict=True):
            acting = cases[one.case + told].acting
            assert abs(acting.along) == pytest.approx(abs(one.along), abs=1e-6)
            assert abs(acting.over) == pytest.approx(abs(foot[0]), abs=1e-6)
            assert acting.off == pytest.approx(foot[2], abs=1e-6)
    bolts = next(check for check in part.checks if check.key == "pad_bolts")
    assert bolts.reproduce is not None
    data = bolts.reproduce.input
    assert abs(data["along_n"]) > 1000.0
    # both bolts share what pushes it along: sheared by that alone
    alone = calculate("bearing-pad", {**data, "off_n": 0.0, "over_n": 0.0})["bolt_use"]
    area = np.pi * rack.bolt_mm**2 / 4
    assert alone == pytest.approx(abs(data["along_n"]) / 2 / (0.6 * bolt_class("8.8", 10.0).ultimate * area))
    assert "what the steering column puts on the rack" in part.not_checked
    assert not any("collars" in told for told in part.not_checked)
    assert any("rack’s line" in line.text for line in part.card.lines)  # type: ignore[union-attr]
    factor = work(design).settings.factors.bolt
    assert abs(data["along_n"]) == pytest.approx(factor * abs(cases[str(bolts.case)].acting.along))
    hole = calculate("bearing-pad", {**data, "off_n": 0.0, "over_n": 0.0})["hole_use"]
    assert hole == pytest.approx(abs(data["along_n"]) / 2 / (1.8 * pad.yield_mpa * rack.bolt_mm * pad.plate_mm))


def test_an_end_whose_steering_does_not_move_has_no_rack_and_its_toe_link_a_bracket() -> None:
    design = demo("tern")
    job = work(design)
    assert not [one for _, one in job.not_made() if one.sort == "rack"]
    place = next(one for one in places_of(job) if one.of == "Toe link" and one.name == "end A")
    assert (place.elsewhere, place.by is not None) == ("", True)
    (end,) = design.ends
    steered = end.model_copy(update={"box": end.box.model_copy(update={"steer_mm": 30.0})})
    moved = work(design.model_copy(update={"ends": (steered,), "parts": tuple(p for p in design.parts if p.kind == "link"), "joints": ()}))  # fmt: skip
    assert [one.words for _, one in moved.not_made() if one.sort == "rack"] == ["rack"]
    assert next(one for one in places_of(moved) if one.of == "Toe link" and one.name == "end A").elsewhere.startswith("the rack")  # fmt: skip


def test_cases_that_nothing_of_the_end_carries_are_left_out_by_name() -> None:
    design, rack = racked()
    front, *rest = design.ends
    gone = {"damper": None, "bump_stop": None, "strap": None}
    points = {name: at for name, at in front.end.points.items() if not name.startswith(("stop_", "damper_"))}
    bare = front.model_copy(update={"end": front.end.model_copy(update={**gone, "points": points})})
    without = design.model_copy(update={"ends": (bare, *rest)})
    part = part_of(rack, without)
    unheld = {one.name for one in work(without).carried(rack.end_id).cases if one.unheld}
    assert unheld
    told = {one.case for one in part.not_carried}  # of the case, not again of each wheel
    assert all(any(name.startswith(one) for one in told) for name in unheld)
    made = part.own
    assert not isinstance(made, RackMade) or not {one.case for one in made.cases} & unheld


def test_a_rack_that_stands_otherwise_on_the_right_is_refused() -> None:
    design, rack = racked()
    front, *rest = design.ends
    x, y, z = front.end.points["tie_inner"]
    uneven = front.model_copy(
        update={"end": front.end.model_copy(update={"right_points": {"tie_inner": (x, -y + 20.0, z)}})}
    )
    part = part_of(rack, design.model_copy(update={"ends": (uneven, *rest)}))
    assert [fault.field for fault in part.faults] == ["end_id"]
    assert "mirror image" in part.faults[0].message
