"""A leaf's seat on its axle: what comes on it by the leaf's other end, its clamp by pressures added up, its legs by four springs, its plates and list."""

from __future__ import annotations

import json
from dataclasses import replace
from typing import Any

import numpy as np
import pytest

from tests.core.end_jobs import stood
from tests.core.test_unmade import EYE, RAIL, car_with, ids, unmade
from tests.jobs import draw, faults, part_of, with_part, work
from tirante.calc import calculate
from tirante.core.brackets.bolt import bolt_class
from tirante.core.brackets.leaf_perch import (
    FRICTION,
    OnSeat,
    Perch,
    clamp_needed,
    clamp_of,
    leg_pull,
    tie_use,
    top_stress,
)
from tirante.core.brackets.strike_pad import Blow, PadOnWebs, web_push, web_stress
from tirante.core.brackets.weld_group import weld_group
from tirante.core.document.design import Design
from tirante.core.document.end import End
from tirante.core.document.mounts import Mount
from tirante.core.document.parts.leaf_perch import LeafPerch
from tirante.core.drawing.sheet import Numbers
from tirante.core.errors import InputError
from tirante.core.flat.contour import Hole
from tirante.core.job.places import places_of
from tirante.core.job.propose import propose
from tirante.core.job.room.look import look_round
from tirante.core.job.room.room import Line
from tirante.core.parts.body import body_places, seen_of
from tirante.core.parts.bracket.families.leaf_perch import PerchMade, Seated
from tirante.core.parts.bracket.families.pad import times
from tirante.core.parts.part import BoughtPiece, PlatePiece
from tirante.core.parts.steps import bolts_of

PERCH = Perch(od=76.0, leaf=60.0, long=50.0, wide=110.0, plate=8.0, bolt=12.0, tie=10.0, head=17.0, top=12.0)
# a leaf that runs under its axle
POINTS = {**stood("leaves-top-link").points, "leaf_eye": (660.0, 500.0, 280.0), "leaf_bend": (165.0, 500.0, 250.0)}


def axle(end_id: str, **shape: Any) -> Mount:
    tube = {"kind": "round", "a": [0.0, -650.0, 350.0], "b": [0.0, 650.0, 350.0], "wall_mm": 6.0} | (
        shape or {"od_mm": 76.0}
    )
    return Mount.model_validate_json(json.dumps({**RAIL, "id": ids(71)[-1], "name": "Axle tube", "body": "axle", "end_id": end_id, "both_sides": False, "shape": tube}))  # fmt: skip


def leafy(**shape: Any) -> Design:
    design = car_with("leaves-top-link", eyes={"leaf_eye": EYE}, points=POINTS)
    return design.model_copy(update={"mounts": (axle(design.ends[0].id, **shape),)})


def with_perch(design: Design | None = None) -> tuple[Design, LeafPerch]:
    """Its perch as it is proposed."""
    design = design or leafy()
    patch = propose(work(design), design.catalogue, ids(60), [design.ends[0].id]).patch
    whole = design.model_copy(update={"parts": (*design.parts, *patch.parts), "joints": patch.joints})
    return whole, next(part for part in whole.parts if isinstance(part, LeafPerch))


@pytest.fixture(scope="module")
def seated() -> tuple[Design, LeafPerch]:
    return with_perch()


def made(design: Design, saved: LeafPerch) -> PerchMade:
    part = part_of(saved, design)
    assert part.complete, part.faults
    assert isinstance(part.own, PerchMade)
    return part.own


def test_the_pull_of_a_leg_is_that_of_four_springs_under_a_stiff_plate() -> None:
    on = OnSeat(off=5000.0, about_axle=700e3, about_leaf=-300e3)
    x, y = PERCH.legs
    assert (x, y) == (60 / 2 + 1 + 6, (76 + 12) / 2)
    at = np.array([(1.0, a * x, b * y) for a in (-1, 1) for b in (-1, 1)])
    # pulls T = c·(1, x, y): together they are F, and about both axes the moments
    held = at.T @ at
    pulls = at @ np.linalg.solve(held, [on.off, on.about_leaf, on.about_axle])
    assert leg_pull(PERCH, on) == pytest.approx(pulls.max())
    assert leg_pull(PERCH, OnSeat(off=-9000.0)) == 0.0  # it presses


def test_the_clamp_that_is_needed_leaves_no_pull_at_any_edge_and_holds_a_torque_by_friction() -> None:
    """Pressures of a stiff face by plane sections, and friction, added up over a grid: Shigley, ch. 3 and 16 (from memory)."""
    on = OnSeat(off=2000.0, about_axle=700e3, about_leaf=300e3)
    a, b = PERCH.long, PERCH.wide
    xs, ys = (np.linspace(-size / 2, size / 2, 801) for size in (a, b))
    x, y = np.meshgrid(xs, ys)
    needed = clamp_needed(PERCH, on)
    pressure = (needed - on.off) / (a * b) + 12 * on.about_axle * y / (a * b**3) + 12 * on.about_leaf * x / (b * a**3)
    assert pressure.min() == pytest.approx(0.0, abs=1e-9 * pressure.max())
    turns = clamp_needed(PERCH, OnSeat(twists=400e3))
    assert FRICTION * turns * np.hypot(x, y).mean() == pytest.approx(400e3, rel=5e-3)
    # a seat longer than its leaf is wide is no longer for it
    assert replace(PERCH, long=80.0).grips == pytest.approx(replace(PERCH, long=60.0).grips)
    # what presses the seat is not counted on
    assert clamp_needed(PERCH, replace(on, off=-50e3)) == pytest.approx(needed - on.off)


def test_what_a_leg_clamps_is_three_quarters_of_the_bolt_s_proof_load() -> None:
    """ISO 898-1, table of proof loads, coarse thread, class 8.8: M10 33 700 N, M12 48 900 N, M16 91 000 N (from memory)."""
    for d, proof in ((10.0, 33_700.0), (12.0, 48_900.0), (16.0, 91_000.0)):
        assert clamp_of(d, bolt_class("8.8", d)) == pytest.approx(0.75 * proof, rel=0.01)
    with pytest.raises(InputError, match=r"no coarse metric thread of 12\.7 mm"):
        clamp_of(12.7, bolt_class("8.8", 12.7))


def test_the_tie_bolt_takes_both_ways_and_the_plate_is_bent_by_two_nuts_beside_the_leaf() -> None:
    area = np.pi * 25.0
    assert tie_use(PERCH, bolt_class("8.8", 10.0), OnSeat(along=9000.0, across=-12000.0)) == pytest.approx(15000 / (0.6 * 800 * area))  # fmt: skip
    # two legs of 30 kN, 7 mm beside the leaf, on a section as wide as the plate is along the leaf
    wide = 2 * (44 + 1.5 * 12)
    assert top_stress(PERCH, 30e3, OnSeat()) == pytest.approx(60e3 * 7.0 / (wide * 12.0**2 / 6))
    assert top_stress(PERCH, 30e3, OnSeat(off=200e3)) == pytest.approx(100e3 * 7.0 / (wide * 12.0**2 / 6))


def test_couples_on_a_pad_do_what_forces_off_its_middle_do() -> None:
    pad = PadOnWebs(plate=8.0, length=60.0, web=8.0, apart=46.0, height=40.0, footprint=30.0)
    for push, forces, couples in (
        (5000.0, {"off_across": 12.0}, {"rocks": 60e3}), (5000.0, {"off_along": -12.0}, {"tilts": 60e3}),
        (0.0, {"along": 900.0, "over": 50.0}, {"along": 900.0, "tilts": 45e3}),
    ):  # fmt: skip
        one, two = Blow(push=push, **forces), Blow(push=push, **couples)
        assert web_stress(pad, one) == pytest.approx(web_stress(pad, two))
        assert web_push(pad, one) == pytest.approx(web_push(pad, two))
    # twisted, each web is pushed along by T/g at its top: a cantilever as tall as it stands
    assert web_stress(pad, Blow(push=0.0, twists=92e3)) == pytest.approx(6 * (92e3 / 46) * 40 / (8 * 60**2))
    assert web_stress(pad, Blow(push=0.0, clamped=10e3)) == pytest.approx(5000 / (60 * 8))
    assert web_push(pad, Blow(push=-1000.0, clamped=10e3)) == pytest.approx(4500)
    # a factor is on all that comes, and not on the clamp
    assert times(
        Blow(push=1.0, along=2.0, across=3.0, off_along=4.0, rocks=5.0, tilts=6.0, twists=7.0, clamped=8.0), 2.0
    ) == Blow(push=2.0, along=4.0, across=6.0, off_along=4.0, rocks=10.0, tilts=12.0, twists=14.0, clamped=8.0)
    # a weld under a force somewhere is one under that force at its middle with the moment that it has there
    runs = [(-30.0, 23.0, 30.0, 23.0), (-30.0, -23.0, 30.0, -23.0)]
    force, at = (900.0, -700.0, -5000.0), (4.0, 9.0, 55.0)
    moment = tuple(float(v) for v in np.cross(at, force))
    apart = weld_group(runs, force, (0.0, 0.0, 0.0), moment)  # type: ignore[arg-type]
    assert apart.max_line_force == pytest.approx(weld_group(runs, force, at).max_line_force)


def test_a_seat_sees_what_its_leaf_is_held_with_at_its_eye(seated: tuple[Design, LeafPerch]) -> None:
    """The leaf is held at its eye and on its seat alone: what the one puts on it comes out at the other."""
    design, saved = seated
    job, own = work(design), made(design, saved)
    leaf = next(one for one in unmade(job) if one.point == "leaf_eye")
    eye = np.array(next(place.at for place in body_places(leaf, "leaf", job) if place.point == "leaf_eye"))
    at_eye = {case.case: next(act for act in case.acting if act.place == "leaf_eye") for case in seen_of(leaf, "leaf", job, either_side=True).cases}  # fmt: skip
    cases = {one.case: one for one in own.cases if isinstance(one, Seated)}
    # at ride height leaf and axle stand as they were measured
    still = [name for name, one in cases.items() if (name in at_eye and "at 0.0" in one.where) or "ride" in one.where]
    assert len(still) > 4
    line = (eye - np.array(POINTS["leaf_bend"])) / np.linalg.norm(eye - np.array(POINTS["leaf_bend"]))
    along, across, off = own.shape.axes
    assert abs(along[1]) == pytest.approx(1.0)
    assert abs(float(across @ line)) == pytest.approx(1.0)
    assert off[2] < 0  # toward the leaf, which runs under its axle
    for name in still:
        act, found = at_eye[name], cases[name].acting
        size = float(np.linalg.norm(act.force))
        force = along * found.along + across * found.across + off * found.off
        assert force == pytest.approx(act.force, abs=1e-6 * size)
        moment = along * found.about_axle + across * found.about_leaf + off * found.twists
        assert moment == pytest.approx(act.moment + np.cross(eye - own.shape.middle, act.force), abs=1e-3 * size)
    for name, one in cases.items():
        acting, blow = one.acting, one.blow
        if "on a stand" not in name:  # which lifts the leaf itself
            assert np.linalg.norm((acting.off, acting.along, acting.across)) == pytest.approx(np.linalg.norm(at_eye[name].force), rel=1e-6)  # fmt: skip
        assert (-blow.push, blow.along, blow.across) == (acting.off, acting.along, acting.across)
        assert (blow.rocks, blow.tilts, blow.twists) == (acting.about_axle, acting.about_leaf, acting.twists)


def test_every_figure_of_its_checks_comes_of_the_line_that_repeats_it(seated: tuple[Design, LeafPerch]) -> None:
    design, saved = seated
    checks = {check.key: check for check in part_of(saved, design).checks}
    assert {"perch_legs", "perch_clamp", "perch_tie", "perch_head", "perch_top", "pad_web", "pad_column", "pad_weld", "mount_wall", "mount_shear"} <= set(checks)  # fmt: skip
    for check in checks.values():
        assert check.reproduce, check.key
        again: Any = calculate(check.reproduce.topic, check.reproduce.input)
        assert again[check.reproduce.output] == pytest.approx(check.demand, rel=1e-9), check.key
    own = made(design, saved)
    by_name = {one.case: one for one in own.cases if isinstance(one, Seated)}
    clamp, weld = checks["perch_clamp"], checks["pad_weld"]
    assert clamp.capacity == 4 * own.clamp
    on = by_name[clamp.case or ""].acting
    opens = 6 * abs(on.about_axle) / saved.width_mm + 6 * abs(on.about_leaf) / saved.length_mm
    assert clamp.demand == pytest.approx(clamp.factor * (max(0.0, on.off) + opens + abs(on.twists) / (0.2 * own.perch.grips)))  # fmt: skip
    x, y = saved.length_mm / 2, saved.apart_mm / 2
    on = by_name[weld.case or ""].acting
    at_feet = weld_group(
        [(-x, way * y, x, way * y) for way in (1.0, -1.0)], (on.along, on.across, on.off), (0.0, 0.0, own.shape.pad.height), (on.about_axle, on.about_leaf, on.twists)
    )  # fmt: skip
    assert weld.demand == pytest.approx(weld.factor * at_feet.max_line_force / (saved.leg_mm / np.sqrt(2)), rel=1e-3)
    stronger = {check.key: check for check in part_of(saved.model_copy(update={"tie_class": "10.9"}), design).checks}
    assert stronger["perch_tie"].demand == pytest.approx(0.8 * checks["perch_tie"].demand)
    assert stronger["perch_legs"].demand == checks["perch_legs"].demand
    # the clamp presses the webs as it is, whatever the factor on what comes beside
    column = checks["pad_column"]
    one = next(one for one in own.cases if one.case == column.case)
    tips = abs(one.blow.across) * own.shape.pad.height + abs(one.blow.rocks)
    assert column.demand == pytest.approx(2 * own.clamp + column.factor * (one.blow.push / 2 + tips / saved.apart_mm))


def test_it_stands_as_far_off_as_its_leaf_runs_and_its_u_bolts_reach_round_all_of_it(seated: tuple[Design, LeafPerch]) -> None:  # fmt: skip
    design, saved = seated
    own = made(design, saved)
    eye, bend = (np.array(POINTS[name]) for name in ("leaf_eye", "leaf_bend"))
    line = (eye - bend) / np.linalg.norm(eye - bend)
    # its face lies `line_mm` over the leaf’s line, square to it, above it as the axle is
    away = own.shape.middle - bend
    away = away - line * float(away @ line)
    assert np.linalg.norm(away) == pytest.approx(saved.line_mm)
    assert away[2] > 0
    assert abs(float(own.shape.axes[2] @ line)) < 1e-12
    # from the axle’s far side to the face, then leaves, plate, washer, nut and two threads, to the next 5 mm
    centre = np.array([0.0, 500.0, 350.0])
    face = abs(float((own.shape.middle - centre) @ own.shape.stands[2]))
    least = 38 + face + saved.stack_mm + saved.top_mm + 2 * saved.u_bolt_mm
    assert 0 <= own.reaches - least < 5
    part = part_of(saved, design)
    told = {piece.what for piece in part.beside if isinstance(piece, BoughtPiece)}
    assert f"U-bolt M12, class 8.8, round a tube of 76 mm, {own.reaches:g} mm from inside the bend to its ends" in told
    assert {(piece.sort, piece.count) for piece in part.beside if isinstance(piece, BoughtPiece)} == {("U-bolt", 2), ("nut", 4), ("washer", 4)}  # fmt: skip
    # the plate over the leaf has a hole where each leg stands, and the seat one for the tie bolt’s head
    plates = {piece.name: piece.outline for piece in part.pieces if isinstance(piece, PlatePiece) and piece.outline}
    holes = sorted((hole.x, hole.y, hole.diameter) for hole in plates["plate over the leaf"].holes if isinstance(hole, Hole))  # fmt: skip
    x, y = own.perch.legs
    assert holes == sorted([(a * x, b * y, 13.0) for a in (-1, 1) for b in (-1, 1)] + [(0.0, 0.0, 20.0)])
    low_x, low_y, high_x, high_y = plates["plate over the leaf"].bounds
    assert (high_x - low_x, high_y - low_y) == pytest.approx((2 * x + 36, 2 * y + 36))
    assert [(hole.x, hole.y, hole.diameter) for hole in plates["pad"].holes if isinstance(hole, Hole)] == [(0, 0, 17.0)]
    numbers = Numbers(decimals=1)
    for view in part.views:
        assert draw(saved, design, view.name, numbers).items
    assert any("87 N·m clamps with 36 kN" in line.text for line in (part.card.lines if part.card else ()))
    assert [round(one.torque_nm or 0.0) for one in bolts_of(part) if one.sort == "U-bolt"] == [87]


def test_what_it_cannot_stand_on_or_hold_is_said_with_the_cure(seated: tuple[Design, LeafPerch]) -> None:
    design, saved = seated

    def fault(change: dict[str, Any]) -> tuple[str, str]:
        (one,) = faults(saved.model_copy(update=change), design)
        return one.field, one.message

    # no seat inside the axle
    eye, bend = (np.array(POINTS[name]) for name in ("leaf_eye", "leaf_bend"))
    off = float(
        np.linalg.norm(np.cross(np.array([0.0, 500.0, 350.0]) - bend, (eye - bend) / np.linalg.norm(eye - bend)))
    )
    field, message = fault({"line_mm": 80.0})
    assert (field, f"passes {off:.0f} mm from the middle of Axle tube" in message) == ("line_mm", True)
    nearest = off - 38.0
    assert fault({"line_mm": nearest + 0.01})[0] == "line_mm"
    assert fault({"line_mm": nearest - 0.01})[0] != "line_mm"  # the webs have no room there, which is another matter
    assert fault({"width_mm": 31.0, "apart_mm": 20.0})[1].endswith("Make it 32 mm wide or more.")
    assert part_of(saved.model_copy(update={"width_mm": 32.0, "apart_mm": 24.0, "web_mm": 6.0}), design).complete
    assert "Set these 27 mm apart or more" in fault({"apart_mm": 26.0})[1]
    assert part_of(saved.model_copy(update={"apart_mm": 27.0}), design).complete
    # a spread plate may reach round the tube until it is as wide as that: asin(38/43) − asin(56/86) on a radius of 40.5
    assert fault({"spread_mm": 5.0, "beyond_mm": 15.3})[0] == "spread_mm"
    spread = part_of(saved.model_copy(update={"spread_mm": 5.0, "beyond_mm": 15.1}), design)
    assert spread.complete, spread.faults
    assert spread.own.perch.od == 76.0  # type: ignore[attr-defined]
    assert spread.own.reaches == made(design, saved).reaches  # type: ignore[attr-defined]
    box = axle(design.ends[0].id, kind="box", width_mm=80.0, height_mm=80.0, up=[0.0, 0.0, 1.0])
    whole = design.model_copy(update={"mounts": (box,)})
    assert "U-bolts go round a round axle tube" in faults(saved, whole)[0].message
    with pytest.raises(ValueError, match="no longer than the leaf is wide"):
        LeafPerch.model_validate({**saved.model_dump(), "length_mm": saved.leaf_mm + 1})


def test_what_looks_round_it_and_what_it_does_not_look_at_are_said(seated: tuple[Design, LeafPerch]) -> None:
    design, saved = seated
    told = " ".join(part_of(saved, design).not_checked)
    for named in ("its other half behind the axle", "squeezed between seat and U-bolts", "round the bends of its U-bolts"):  # fmt: skip
        assert named in told, named
    (room,) = look_round(work(design), saved.id).joints
    assert room.lines
    # what clamps the leaf stands beyond it in the room of what passes there
    own = made(design, saved)
    _, _, _, top, one, two, *bars = own.flats
    assert {bar.name for bar in bars} == {"its U-bolts"}
    face = own.shape.axes[2]
    assert float((top.at - own.shape.middle) @ face) == pytest.approx(saved.stack_mm + saved.top_mm / 2)
    ends = [float((nuts.at - own.shape.middle) @ face) + nuts.thickness / 2 for nuts in (one, two)]
    assert ends == pytest.approx([saved.stack_mm + saved.top_mm + 2 * saved.u_bolt_mm] * 2)
    assert np.linalg.norm(one.at - two.at) == pytest.approx(2 * own.perch.legs[1])
    x, y, z = (float(v) for v in own.shape.middle + face * (saved.stack_mm + saved.top_mm + 2 * saved.u_bolt_mm + 20.0))

    def pan(up: float) -> Line:
        block = {"kind": "block", "low": [x - 80, y - 60, z - 60 + up], "high": [x + 80, y + 60, z + up]}
        raw = design.ends[0].end.model_dump() | {"obstacles": [{"name": "pan", "shape": block, "body": "axle", "wanted_mm": 2.0}]}  # fmt: skip
        own_end = design.ends[0].model_copy(update={"end": End.model_validate(raw)})
        near = design.model_copy(update={"ends": (own_end, *design.ends[1:])})
        (seen,) = look_round(work(near), saved.id).joints
        return next(line for line in seen.lines if "pan" in line.told and line.sort == "stands")

    first = pan(0.0)
    assert first.what == "its nuts"
    assert first.gap_mm
    assert [pan(first.gap_mm + by).state for by in (-3.0, -1.0, 1.0)] == ["good", "attention", "stop"]
    # with nothing on its seat nothing is judged, and that is said
    bare = design.model_copy(update={"loads": design.loads.model_copy(update={"cases": ()})})
    part = part_of(saved, bare)
    assert part.checks == ()
    assert any("no case puts anything on this seat" in note for note in part.notes)


def test_a_leaf_that_runs_over_its_axle_is_seated_over_it() -> None:
    high = {**POINTS, "leaf_eye": (660.0, 500.0, 430.0), "leaf_bend": (165.0, 500.0, 445.0)}
    design = car_with("leaves-top-link", points=high)
    whole, saved = with_perch(design.model_copy(update={"mounts": (axle(design.ends[0].id),)}))
    assert made(whole, saved).shape.axes[2][2] > 0.99
    assert made(whole, saved).shape.middle[2] < 450 - saved.line_mm + 1
    place = next(one for one in places_of(work(with_part(whole, saved))) if one.family == "leaf_perch")
    assert (place.by, place.makes) == (saved.id, "leaf perch")
