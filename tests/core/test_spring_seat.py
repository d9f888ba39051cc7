"""Seats of springs that stand by themselves: what comes on both ends of one spring, what is asked of their sizes, what stands on the list."""

from __future__ import annotations

import json
from math import pi
from typing import Any

import numpy as np
import pytest

from tests.core.end_jobs import stood
from tests.core.test_leaf_perch import axle
from tests.core.test_loads import demo
from tests.core.test_unmade import EYE, RAIL, car_with, ids
from tests.jobs import draw, faults, part_of, work
from tirante.calc import calculate
from tirante.core.document.design import Design
from tirante.core.document.joints import HeldJoint, PointOfBody
from tirante.core.document.mounts import Mount
from tirante.core.document.parts.pad import PadHole
from tirante.core.document.parts.spring_seat import SpringSeat
from tirante.core.drawing.sheet import Numbers
from tirante.core.flat.contour import Hole
from tirante.core.job.places import places_of
from tirante.core.job.propose import propose
from tirante.core.job.room.look import look_round
from tirante.core.parts.bracket.families.pad_kind import PadMade
from tirante.core.parts.bracket.families.strike_pad import Struck
from tirante.core.parts.part import PlatePiece, TurnedPiece
from tirante.core.units import STEEL_DENSITY

SPRING = stood("four-links-panhard-air-springs").other_dampers["air spring"]


def sprung(**spring: Any) -> Design:
    design = car_with("four-links-panhard-air-springs", other_dampers={"air spring": {**SPRING.model_dump(), **spring}})
    rail = {**RAIL, "shape": {**RAIL["shape"], "a": [-400.0, 430.0, 720.0], "b": [500.0, 430.0, 720.0]}}  # type: ignore[dict-item]
    tube = axle(design.ends[0].id, kind="round", a=[0.0, -700.0, 330.0], b=[0.0, 700.0, 330.0], od_mm=89.0)
    return design.model_copy(update={"mounts": (Mount.model_validate_json(json.dumps(rail)), tube)})


@pytest.fixture(scope="module")
def seated() -> tuple[Design, SpringSeat, SpringSeat]:
    """Both its seats as they are proposed, upper and lower."""
    design = sprung()
    patch = propose(work(design), design.catalogue, ids(60), [design.ends[0].id]).patch
    whole = design.model_copy(update={"parts": (*design.parts, *patch.parts), "joints": patch.joints})
    upper, lower = (part for part in whole.parts if isinstance(part, SpringSeat))
    assert "upper end" in upper.name
    return whole, upper, lower


def struck(design: Design, saved: SpringSeat) -> dict[str, Struck]:
    part = part_of(saved, design)
    assert part.complete, part.faults
    assert isinstance(part.own, PadMade)
    return {one.case: one for one in part.own.cases if isinstance(one, Struck)}


def test_both_seats_of_a_spring_bear_what_it_pushes_with_along_its_own_line(seated: tuple[Design, SpringSeat, SpringSeat]) -> None:  # fmt: skip
    design, upper, lower = seated
    job, end_id = work(design), design.ends[0].id
    over, under = struck(design, upper), struck(design, lower)
    assert set(over) == set(under)
    axes = part_of(upper, design).own.shape.axes  # type: ignore[attr-defined]
    top = np.array(job.ends[end_id].points["air_top"])
    leant = 0
    for one in job.carried(end_id).cases:
        if one.forces is None or one.fault:
            continue
        for side, way in (("left", 1.0), ("right", -1.0)):
            name, push = f"{one.name}, {side}", one.forces.springs[f"air spring, {side}"]
            if push < 1.0:
                assert name not in over  # what pulls leaves its seat
                continue
            act = next(act for act in one.forces.on["axle"] if act.what == f"air spring, {side}")
            line = act.at - top * np.array([1.0, way, 1.0])  # where its lower end stands in the car now
            line = line / np.linalg.norm(line) * np.array([1.0, way, 1.0])
            blow = over[name].blow
            # the upper seat is pushed away from the lower end, the right one as the left one’s mirror image
            on = axes.T @ (blow.along, blow.across, -blow.push)
            assert on == pytest.approx(-push * line, abs=1e-6 * push)
            low = under[name].blow
            assert np.linalg.norm((low.push, low.along, low.across)) == pytest.approx(push, rel=1e-6)
            leant += abs(blow.along) > 10.0
            # the axle turns under it, so that it leans otherwise on its lower seat
            if abs(one.position[0]) > 1.0:
                assert abs(low.push - blow.push) > 1e-6 * push
    assert leant > 2


def test_what_pulls_at_a_seat_bends_it_beside_its_studs_or_leaves_it(seated: tuple[Design, SpringSeat, SpringSeat]) -> None:  # fmt: skip
    """Two studs one behind the other, each on a strip as wide as 45° from its washer to the webs, less its hole, a beam across them."""
    design, upper, _ = seated
    loose = part_of(upper, design)
    (note,) = [one for one in loose.notes if "leaves it there" in one]
    assert note.startswith("in “bump 4 g at the stop, left wheel, right”")
    assert "bump 4 g at the stop, left wheel, right" not in struck(design, upper)
    assert "pad_bolted" not in {check.key for check in loose.checks}
    bolted = upper.model_copy(update={"stud_mm": 10.0, "pitch_mm": 70.0})
    part = part_of(bolted, design)
    assert not [one for one in part.notes if "leaves it there" in one]
    check = next(check for check in part.checks if check.key == "pad_bolted")
    blow = struck(design, bolted)[check.case or ""].blow
    assert check.case == "bump 4 g at the stop, left wheel, right"
    assert blow.push < 0
    reach, g, t = 10.0 + bolted.apart_mm / 2, bolted.apart_mm, bolted.plate_mm
    wide = min(reach, 80.0 - 35.0) + min(reach, 35.0) - 10.5
    pull = -blow.push * check.factor / 2
    assert check.demand == pytest.approx(6 * pull * (g / 2) * (g / 2) / g / (wide * t**2))
    assert check.reproduce
    again: Any = calculate(check.reproduce.topic, check.reproduce.input)
    assert again[check.reproduce.output] == pytest.approx(check.demand, rel=1e-9)
    # further holes are taken off that strip
    lost = PadHole(along_mm=66.0, across_mm=60.0, diameter_mm=6.0)
    large = bolted.model_copy(update={"length_mm": 220.0, "width_mm": 220.0, "extra": (lost,)})
    holed = next(c for c in part_of(large, design).checks if c.key == "pad_bolted")
    wide = min(reach, 110.0 - 35.0) + min(reach, 35.0) - 10.5
    assert holed.demand == pytest.approx(check.demand * (min(reach, 45.0) + min(reach, 35.0) - 10.5) / (wide - 6.0), rel=1e-3)  # fmt: skip
    assert holed.reproduce
    assert calculate(holed.reproduce.topic, holed.reproduce.input)["plate_mpa"] == pytest.approx(holed.demand)
    # one stud in the middle bears all of it on one strip
    single = next(c for c in part_of(upper.model_copy(update={"stud_mm": 10.0}), design).checks if c.key == "pad_bolted")  # fmt: skip
    assert single.demand == pytest.approx(6 * 2 * pull * g / 4 / ((2 * min(reach, 80.0) - 10.5) * t**2), rel=0.25)
    assert single.demand >= 6 * 2 * pull * g / 4 / ((2 * min(reach, 80.0) - 10.5) * t**2)


def test_its_plate_is_bent_by_what_stands_out_past_the_webs(seated: tuple[Design, SpringSeat, SpringSeat]) -> None:
    """Beams by their loads added up: Shigley, ch. 3 (from memory)."""
    design, upper, _ = seated
    checks = {check.key: check for check in part_of(upper, design).checks}
    assert {"pad_plate", "pad_web", "pad_column", "pad_weld", "mount_wall", "mount_shear"} <= set(checks)
    bent = checks["pad_plate"]
    blow = struck(design, upper)[bent.case or ""].blow
    r, g, t = upper.seat_mm / 2, upper.apart_mm, upper.plate_mm
    # a coil’s last turn, its line cut into many: what stands out past a web, and what bends it at its middle
    y = r * np.cos(np.linspace(0.0, 2 * pi, 200_001)[:-1])
    past = np.maximum(y - g / 2, 0.0).mean()
    middle = g / 4 - np.maximum(y, 0.0).mean()
    moment = blow.push * max(past, abs(middle))
    assert bent.demand == pytest.approx(bent.factor * 6 * moment / (min(upper.length_mm, 2 * r + g) * t**2))
    for check in checks.values():
        assert check.reproduce
        again: Any = calculate(check.reproduce.topic, check.reproduce.input)
        assert again[check.reproduce.output] == pytest.approx(check.demand, rel=1e-9)
    # what is bolted on stands on a plate of its own: a line of F/2r over the footprint, cantilevered past a web
    bolted = upper.model_copy(update={"stud_mm": 10.0, "pitch_mm": 70.0})
    part = part_of(bolted, design)
    (plain,) = [check for check in part.checks if check.key == "pad_plate"]
    over = max(blow.push / (2 * r) * (r - g / 2) ** 2 / 2, abs(blow.push * (g - r) / 4))
    assert plain.demand == pytest.approx(plain.factor * 6 * over / (min(upper.length_mm, 2 * r + g) * t**2))
    assert plain.demand < bent.demand
    assert any("as wide as the spring is" in note for note in part.notes)
    piston = part_of(bolted.model_copy(update={"seat_mm": 100.0}), design)
    assert not any("as wide as the spring is" in note for note in piston.notes)


def test_it_is_as_large_as_its_spring_and_drilled_for_it(seated: tuple[Design, SpringSeat, SpringSeat]) -> None:
    design, upper, lower = seated
    assert (upper.seat_mm, upper.length_mm, upper.width_mm) == (160.0, 160.0, 160.0)
    air = upper.model_copy(update={"stud_mm": 10.0, "pitch_mm": 70.0, "port_mm": 20.0})
    part = part_of(air, design)
    plates = {piece.name: piece.outline for piece in part.pieces if isinstance(piece, PlatePiece) and piece.outline}
    holes = [(hole.x, hole.y, hole.diameter) for hole in plates["pad"].holes if isinstance(hole, Hole)]
    assert holes == [(-35.0, 0.0, 10.5), (35.0, 0.0, 10.5), (0.0, 0.0, 20.0)]
    # a ring that a coil stands round is turned, drawn and weighed
    coil = lower.model_copy(update={"ring_mm": 100.0})
    ringed = part_of(coil, design)
    (ring,) = [piece for piece in ringed.pieces if isinstance(piece, TurnedPiece)]
    assert ring.turned
    assert (ring.turned.outside, ring.turned.bore, ring.turned.length) == (100.0, 92.0, 12.0)
    more = pi / 4 * (100.0**2 - 92.0**2) * 12.0 * STEEL_DENSITY
    assert (ringed.mass or 0) - (part_of(lower, design).mass or 0) == pytest.approx(more)
    numbers = Numbers(decimals=1)
    for saved, made in ((air, part), (coil, ringed)):
        for view in made.views:
            assert draw(saved, design, view.name, numbers).items
    assert any("turned" in view.title for view in ringed.views)


def test_what_is_too_small_for_it_is_said_and_the_cure_holds(seated: tuple[Design, SpringSeat, SpringSeat]) -> None:
    design, upper, _ = seated
    drilled = {"stud_mm": 10.0, "pitch_mm": 70.0, "port_mm": 20.0}
    for change, cure, says in (
        ({"length_mm": 150.0}, {"length_mm": 160.0}, "make it 160 mm or more"),
        ({"width_mm": 150.0}, {"width_mm": 160.0}, "make it 160 mm or more"),
        ({**drilled, "port_mm": None, "apart_mm": 22.0}, {**drilled, "port_mm": None, "apart_mm": 23.0}, "Set these 23 mm apart or more"),
        ({**drilled, "pitch_mm": 136.0}, {**drilled, "pitch_mm": 136.0, "length_mm": 161.0}, "Make it 161 mm long or more"),
        ({**drilled, "port_mm": 56.0}, {**drilled, "port_mm": 53.0}, "Between the hole for air and a stud’s 1.8 mm of metal are left"),
        ({"port_mm": 78.0}, {"port_mm": 77.0}, "77 mm between them"),
    ):  # fmt: skip
        wrong = SpringSeat.model_validate({**upper.model_dump(), **change})
        (one,) = faults(wrong, design)
        assert says in one.message, one.message
        assert faults(SpringSeat.model_validate({**upper.model_dump(), **cure}), design) == []
    for nonsense, says in (
        ({"pitch_mm": 60.0}, "say which thread"), ({"stud_mm": 10.0, "port_mm": 12.0}, "a single stud stands in the middle"),
        ({"ring_mm": 8.0}, "no wider than its two walls"), ({"ring_mm": 160.0}, "make it less than what the spring presses on"),
    ):  # fmt: skip
        with pytest.raises(ValueError, match=says):
            SpringSeat.model_validate({**upper.model_dump(), **nonsense})


def test_the_seats_of_the_demo_s_air_springs_meet_nothing_and_hold() -> None:
    design = demo("quay")
    seats = design.of_kind(SpringSeat)
    assert len(seats) == 2
    for saved in seats:
        assert all(line.state == "good" for one in look_round(work(design), saved.id).joints for line in one.lines)
        assert all(check.passed for check in part_of(saved, design).checks)


def test_each_side_of_an_independent_end_pushes_at_its_own_seat() -> None:
    """A coil by itself on wishbones: its upper seat, on the chassis, bears what either side's coil pushes with."""
    design = car_with("double-wishbone-coil-two-dampers")
    end = design.ends[0]
    coil = end.end.seated["coil"]
    sizes = {"seat_mm": 90.0, "length_mm": 90.0, "width_mm": 90.0, "plate_mm": 8.0}
    saved = SpringSeat(id=ids(51)[-1], name="seat", end_id=end.id, **sizes)  # type: ignore[arg-type]
    held = PointOfBody(end_id=end.id, body=coil.a.body, point=coil.a.point)
    joint = HeldJoint(id=ids(52)[-1], held=held, by=saved.id)
    whole = design.model_copy(update={"parts": (*design.parts, saved), "joints": (joint,)})
    found = struck(whole, saved)
    # the left one is named without its side
    pushes = {
        f"{one.name}{name.removeprefix('coil')}": push
        for one in work(whole).carried(end.id).cases if one.forces is not None and not one.fault
        for name, push in one.forces.springs.items() if name.partition(", ")[0] == "coil"
    }  # fmt: skip
    wanted = {name: push for name, push in pushes.items() if push > 1.0}
    assert set(found) == set(wanted)
    assert {name.rpartition(", ")[2] for name in found} >= {"left wheel", "right wheel", "right"}
    for name, push in wanted.items():
        blow = found[name].blow
        assert np.linalg.norm((blow.push, blow.along, blow.across)) == pytest.approx(push, rel=1e-6)
        # it leans little from where it stands at ride height, on the right as the left one’s mirror image
        assert blow.push > 0.98 * push


def test_a_spring_that_has_eyes_is_held_on_bolts_and_one_that_moved_says_so(seated: tuple[Design, SpringSeat, SpringSeat]) -> None:  # fmt: skip
    design, upper, _ = seated
    rows = {one.held: one for one in places_of(work(design)) if one.family == "spring_seat"}
    assert {one.of for one in rows.values()} == {f"{design.ends[0].name} air spring, {which} end" for which in ("upper", "lower")}  # fmt: skip
    assert all(one.by and one.makes == "spring seat" for one in rows.values())
    for eyes in ({"eye_a": EYE}, {"eye_b": EYE}, {"stands": "eyes"}, {"rate_n_per_mm": None}):
        eyed = sprung(**eyes)
        assert not [one for one in places_of(work(eyed)) if one.family == "spring_seat"]
    # what is said goes before what is taken where nothing is said; what carries the car may be the one spring
    said = sprung(stands="seats", eye_a=EYE)
    assert len([one for one in places_of(work(said)) if one.family == "spring_seat"]) == 2
    unrated = design.model_copy(update={"ends": sprung(stands="seats", rate_n_per_mm=None).ends})
    assert "The spring’s rate is not given" in faults(upper, unrated)[0].message
    eyed = sprung(stands="eyes")
    moved = design.model_copy(update={"ends": eyed.ends})
    assert "it was taken out, stands elsewhere, or is held on bolts" in faults(upper, moved)[0].message
