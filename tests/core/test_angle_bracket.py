"""Brackets of two angles, bolted on: folded back from the flat, their bolts and feet by plain statics, sleeves, shims behind them as degrees."""

from __future__ import annotations

import re
from math import cos, hypot, pi, sin
from typing import Any

import numpy as np
import pytest
from pydantic import ValidationError
from shapely.geometry import Polygon

from tests.core.test_mounts import SHOP
from tests.jobs import part_of, with_part, work
from tirante.calc import calculate
from tirante.core.brackets.bolt import bolt_class
from tirante.core.brackets.bolted_foot import BoltedFeet, OnFeet, bearing_use, bolt_use, foot_stress, pulled
from tirante.core.document.adopt import adopted, patched
from tirante.core.document.design import Design
from tirante.core.document.fields import Length
from tirante.core.document.parts.angle_bracket import AngleBracket
from tirante.core.document.parts.bracket import TabPair
from tirante.core.errors import InputError
from tirante.core.flat.contour import polygon, require_closed
from tirante.core.job.bracket_map import as_tabs
from tirante.core.job.hole_table import SHIMS, shim_table
from tirante.core.job.room.room import room_of
from tirante.core.parts.bracket.families.angle_bracket import (
    ANGLE_BRACKET,
    angle_for,
    feet_of,
    fitted_angle,
    shim_outline,
)
from tirante.core.parts.kind import ViewAsked
from tirante.core.parts.numbers import numbers_of
from tirante.core.parts.part import BoughtPiece, Part, PlatePiece, TurnedPiece
from tirante.core.parts.stands import Stand
from tirante.core.sheet.angle import FoldedAngle, folded_angle
from tirante.documents.cutting_table import drive
from tirante.documents.dxf import to_dxf

GIVEN = {"thickness": 6.0, "radius": 6.0, "width": 70.0, "height": 62.0, "head": 24.0, "edge": 28.0, "hole": 16.3, "bolts": (11.0, 31.0, 16.0, 40.0)}  # fmt: skip


def test_the_flat_folded_back_is_the_angle() -> None:
    """By arc length along the neutral fibre, place by place; its holes where the card says."""
    one: FoldedAngle = folded_angle(**GIVEN)  # type: ignore[arg-type]
    require_closed(one.contour, "angle")
    t, r, k = 6.0, 6.0, one.bend.k
    # foot flat, a quarter of a turn of the neutral fibre, ear: from toe to top
    assert one.contour.bounds[2] - one.contour.bounds[0] == pytest.approx(
        (31 + 16 - r) + pi / 2 * (r + k * t) + (62 - t - r) + 28
    )
    (bore, *feet) = one.contour.holes
    assert one.folded(bore.x, bore.y, t) == pytest.approx((0.0, 0.0, 62.0))
    assert one.folded(bore.x, bore.y, 0.0) == pytest.approx((t, 0.0, 62.0))
    for hole, way in zip(feet, (-1.0, 1.0), strict=True):
        assert one.folded(hole.x, hole.y, t) == pytest.approx((t + 31.0, way * 20.0, 0.0))
    toe = one.folded(-one.foot, 0.0, t)
    assert toe == pytest.approx((t + 31 + 16, 0.0, 0.0))
    # along the neutral fibre nothing stretches
    xs = np.linspace(-one.foot, one.hole_at, 40001)
    fibre = np.array([one.folded(float(x), 0.0, k * t) for x in xs])
    assert np.linalg.norm(np.diff(fibre, axis=0), axis=1) == pytest.approx(np.diff(xs), rel=1e-4)
    # and the thickness stays the thickness
    assert np.linalg.norm(fibre - np.array([one.folded(float(x), 0.0, 0.0) for x in xs]), axis=1) == pytest.approx(
        np.full(len(xs), k * t), rel=1e-9
    )


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"width": 47.0}, "base_width"), ({"edge": 20.0}, "edge"), ({"height": 30.0}, "height"), ({"bolts": (11.0, 24.0, 16.0, 40.0)}, "gauge_mm"),
        ({"bolts": (11.0, 31.0, 10.0, 40.0)}, "toe_mm"), ({"bolts": (11.0, 31.0, 16.0, 20.0)}, "apart_mm"), ({"bolts": (11.0, 31.0, 16.0, 60.0)}, "base_width"),
        ({"die": 90.0}, "toe_mm"), ({"hole": 50.0}, "head_radius"),
    ],
)  # fmt: skip
def test_a_figure_that_contradicts_another_names_its_field_and_the_least_that_works(
    change: dict[str, Any], field: str
) -> None:
    with pytest.raises(InputError) as caught:
        folded_angle(**(GIVEN | change))  # type: ignore[arg-type]
    assert caught.value.fields == (field,)
    assert caught.value.limits
    least = caught.value.limits[0]
    assert least is not None
    (said,) = re.findall(r"([\d.]+) mm or more", caught.value.message)
    assert 0.0 <= float(said) - least < 0.1  # who types what is said does not fall short


FEET = BoltedFeet(
    bolt=10.0, hole=11.0, apart=42.0, lever=30.0, toe=15.0, between=14.0, width=72.0, thickness=6.0, height=58.0
)
M8 = bolt_class("8.8", 10.0)
PITCH = {8.0: 1.25, 10.0: 1.5, 12.0: 1.75, 16.0: 2.0}  # coarse, ISO 261, from memory


def test_a_foot_s_bolts_are_an_elastic_group_and_its_toe_pries() -> None:
    """Four bolts with equal stiffness under a force at the joint, solved for; then one foot as a beam on bolt line and toe, its ear a hinge."""
    on = OnFeet(off=3000.0, over=900.0, side=400.0)
    places = np.array([(way * (14.0 + 30.0), y) for way in (1, -1) for y in (21.0, -21.0)])
    # plane z = a + b x + c y of their stretches: force, and moments of what acts at the joint's height
    lhs = np.array([[4.0, 0.0, 0.0], [0.0, (places[:, 0] ** 2).sum(), 0.0], [0.0, 0.0, (places[:, 1] ** 2).sum()]])
    a, b, c = np.linalg.solve(lhs, [3000.0, 400.0 * 58.0, 900.0 * 58.0])
    most = float(a + abs(b) * 44.0 + abs(c) * 21.0)
    assert pulled(FEET, on) == pytest.approx(most)
    # the foot: ear pull P at 0, bolts T at 30, toe Q at 45 pressing: P + Q = T, moments about the ear T 30 = Q 45
    solved = np.linalg.solve(np.array([[1.0, -1.0], [30.0, -45.0]]), [most, 0.0])
    pull, toe = float(solved[0]), float(solved[1])
    assert toe > 0
    area = pi * 25.0
    tension, shear = pull / (0.9 * 800 * 0.78 * area), hypot(900, 400) / 4 / (0.6 * 800 * area)
    assert bolt_use(FEET, M8, on) == pytest.approx(max(tension, shear + tension / 1.4))
    # bent most at the bolts, where the toe's lever is; both bolts of a foot
    assert foot_stress(FEET, on) == pytest.approx(4 * (2 * toe * 15.0) / ((72 - 22) * 36.0))
    assert bearing_use(FEET, 275.0, on) == pytest.approx(hypot(900, 400) / 4 / (1.8 * 275 * 10 * 6))
    found = calculate("bolted-foot", {"bolt_mm": 10, "class": "8.8", "hole_mm": 11, "apart_mm": 42, "lever_mm": 30, "toe_mm": 15, "between_mm": 14, "width_mm": 72,
                                      "thickness_mm": 6, "height_mm": 58, "yield_mpa": 275, "off_n": 3000, "over_n": 900, "side_n": 400})  # fmt: skip
    assert found["pull_n"] == pytest.approx(most)


def bolted(design: Design, name: str) -> tuple[Design, AngleBracket]:
    """What holds a joint bolted on instead, made to what it stands on and sized."""
    pair = next(part for part in design.of_kind(TabPair) if part.name == name)
    job = work(design)
    stand = job.stand_of(job.held_by(pair.id)[0])
    assert isinstance(stand, Stand)
    one = angle_for(pair, stand)
    design = with_part(design, one)
    found = ANGLE_BRACKET.size(one, work(design), SHOP, "mass")
    assert found.winner, found.advice
    return patched(design, adopted(design, found.winner.parts, SHOP, found.winner.joints)), one


@pytest.fixture(scope="module")
def jobbed(mounted: Design) -> tuple[Design, AngleBracket, Part]:
    """What holds the Panhard rod on the axle, bolted to a stub of 200 × 40 that stands 20 mm lower than its own."""
    lower = {"a": (-2044.0, -485.0, 292.0), "b": (-2340.0, -485.0, 292.0), "width_mm": 200.0}
    mounts = tuple(m.model_copy(update={"shape": m.shape.model_copy(update=lower)}) if m.name.startswith("Panhard stub") else m for m in mounted.mounts)  # fmt: skip
    design, one = bolted(mounted.model_copy(update={"mounts": mounts}), "Panhard rod, end B, tabs")
    saved = next(part for part in design.of_kind(AngleBracket))
    part = work(design).part(one.id)
    assert part
    assert part.complete, part.faults
    return design, saved, part


@pytest.fixture(scope="module")
def on_rail(mounted: Design) -> tuple[Design, AngleBracket, Part]:
    """What holds the rear lower link on the body, bolted to a rail that is wide enough for it."""
    low = next(part for part in mounted.of_kind(TabPair) if part.name == "Rear lower link, end A, tabs")
    mounts = tuple(m.model_copy(update={"shape": m.shape.model_copy(update={"width_mm": 220.0})}) if m.name == "Rear rail" else m for m in mounted.mounts)  # fmt: skip
    design = with_part(mounted.model_copy(update={"mounts": mounts}), low.model_copy(update={"holes": None}))
    job = work(design)
    stand = job.stand_of(job.held_by(low.id)[0])
    assert isinstance(stand, Stand)
    one = angle_for(low, stand)
    design = with_part(design, one)
    part = work(design).part(one.id)
    assert part
    assert part.complete, part.faults
    return design, one, part


def test_it_is_sized_for_what_the_car_puts_into_it_and_every_check_is_made(jobbed: Any) -> None:
    design, saved, part = jobbed
    found = {check.key: check for check in part.checks}
    assert found.keys() >= {
        "pin_shear",
        "tab_bearing",
        "tab_foot",
        "foot_bolts",
        "foot_bent",
        "foot_bearing",
        "sleeve_crushed",
    }
    assert not found.keys() & {"tab_weld", "mount_wall"}  # nothing of it is welded
    assert all(check.passed for check in part.checks)
    (made,) = part.own.joints
    feet = feet_of(saved, made.gap)
    assert feet.between + feet.lever == pytest.approx(made.gap / 2 + saved.plate.mm + saved.gauge_mm)
    # the ears are bent where they leave the feet
    assert found["tab_foot"].reproduce.input["height_mm"] == pytest.approx(
        saved.height.mm - saved.shim_mm - saved.plate.mm
    )
    thinner = saved.model_copy(update={"plate": Length(mm=saved.plate.mm - 2.0)})
    assert any(not check.passed for check in part_of(thinner, with_part(design, thinner)).checks)


def test_its_feet_are_judged_at_the_hardest_case_and_angle(on_rail: Any) -> None:
    """By brute force over every case and angle of the pull, what pushes along the joint's bolt with it."""
    _, saved, part = on_rail
    found = {check.key: check for check in part.checks}
    (made,) = part.own.joints
    feet, held = feet_of(saved, made.gap), made.held
    assert any(case.across_n for case in held.cases)
    low, high = saved.load_angle_deg - held.swing_deg, saved.load_angle_deg + held.swing_deg
    uses: dict[str, Any] = {
        "foot_bent": lambda on: foot_stress(feet, on), "foot_bolts": lambda on: bolt_use(feet, bolt_class("8.8", 10.0), on),
        "foot_bearing": lambda on: bearing_use(feet, 275.0, on),
    }  # fmt: skip
    for key, use in uses.items():
        f = found[key].factor
        worst = max(
            use(OnFeet(off=abs(case.axial_n * f * cos(angle)), over=abs(case.axial_n * f * sin(angle)), side=abs(case.across_n) * f))
            for case in held.cases for angle in np.radians(np.linspace(low, high, 721))
        )  # fmt: skip
        assert found[key].demand == pytest.approx(worst, rel=1e-3)
        if key != "foot_bent":
            assert found[key].capacity == 1.0


def test_what_is_to_be_cut_bought_and_turned_for_it(jobbed: Any) -> None:
    design, saved, part = jobbed
    plate, sleeve = (next(p for p in part.pieces if isinstance(p, kind)) for kind in (PlatePiece, TurnedPiece))
    assert (plate.count, sleeve.count) == (2, 4)
    assert sleeve.turned
    assert (sleeve.turned.length, sleeve.turned.bore, sleeve.turned.outside) == (
        40.0,
        saved.bolt_mm + 0.5,
        saved.bolt_mm + 8.0,
    )
    crushed = next(c for c in part.checks if c.key == "sleeve_crushed")
    clamp = 0.75 * 0.9 * 640 * pi / 4 * (saved.bolt_mm - 0.9382 * PITCH[saved.bolt_mm]) ** 2
    assert crushed.demand == pytest.approx(
        clamp / (pi / 4 * ((saved.bolt_mm + 8) ** 2 - (saved.bolt_mm + 0.5) ** 2)), rel=0.01
    )
    bolts = next(p for p in part.beside if isinstance(p, BoughtPiece) and "of a foot" in p.what)
    assert bolts.count == 4
    grip = saved.plate.mm + saved.shim_mm + 40.0
    assert f"a grip of {grip:.1f} mm" in bolts.what
    shimmed = saved.model_copy(update={"shim_mm": 3.0, "height": saved.height})
    more = part_of(shimmed, with_part(design, shimmed))
    shim = next(p for p in more.pieces if isinstance(p, PlatePiece) and p.name == "shim")
    assert (shim.thickness, shim.count) == (3.0, 2)
    assert next(c for c in more.checks if c.key == "tab_foot").reproduce.input["height_mm"] == pytest.approx(
        saved.height.mm - 3.0 - saved.plate.mm
    )  # type: ignore[union-attr]
    assert any(f"a grip of {saved.plate.mm + 43.0:.1f} mm" in p.what for p in more.beside if isinstance(p, BoughtPiece))
    # as tall as before over what it stands on: the ears are 3 mm shorter
    assert part.own.flat.hole_at - more.own.flat.hole_at == pytest.approx(3.0)
    # a shim covers the foot, its holes over the foot's
    foot = {(round(saved.toe_mm, 6), round(h.y, 6)) for h in more.own.flat.contour.holes[1:]}
    assert {(round(h.x, 6), round(h.y, 6)) for h in shim_outline(shimmed).holes} == foot
    numbers = numbers_of(work(design).settings)
    for view, thick, holes in (("angle-flat", saved.plate.mm, 3), ("angle-shim", 3.0, 2)):
        driven = drive(to_dxf(ANGLE_BRACKET.draw(more, ViewAsked(name=view), numbers)), thick)
        assert (driven.parts, driven.pierces) == (1, holes + 1)
    assert polygon(more.own.flat.contour, 1e-4).area == pytest.approx(more.own.flat.contour.area, rel=1e-4)
    for view in more.views:
        assert ANGLE_BRACKET.draw(more, ViewAsked(name=view.name), numbers).items


def test_feet_that_hang_over_what_they_are_bolted_to_are_told(on_rail: Any, mounted: Design) -> None:
    design, saved, part = on_rail
    assert part.own.stands[0].standing.across[2] == 110.0
    narrow = design.model_copy(update={"mounts": mounted.mounts})
    fault = part_of(saved, narrow).faults[0]
    assert fault.field == "toe_mm"
    (made,) = part.own.joints
    over = (
        made.gap / 2
        + saved.plate.mm
        + saved.gauge_mm
        + saved.toe_mm
        - 40.0
        + abs(float((part.own.stands[0].at.at - [0.0, 402.0, 0.0])[1]))
    )
    assert f"reach {over:.1f} mm past Rear rail" in fault.message
    pair = next(part for part in mounted.of_kind(TabPair) if part.name == "Rear lower link, end B, tabs")
    on_tube = angle_for(pair, None).model_copy(update={"id": pair.id})
    told = part_of(on_tube, with_part(mounted, on_tube)).faults[0]
    assert told.field == "mount"
    assert "bolted bracket stands on a flat" in told.message


def test_its_feet_stand_in_the_room_and_in_the_picture(jobbed: Any) -> None:
    design, saved, part = jobbed
    tab, (ear,), footing = as_tabs(part)  # type: ignore[misc]
    assert footing
    (made,), (stand,) = part.own.joints, part.own.stands
    left, right = footing.spans(made.gap)
    assert left == pytest.approx(
        (made.gap / 2 + saved.plate.mm, made.gap / 2 + saved.plate.mm + saved.gauge_mm + saved.toe_mm)
    )
    assert right == pytest.approx((-left[1], -left[0]))
    for flat in footing.laid(made.gap, stand)[:2]:
        assert Polygon(flat.outline).area == pytest.approx(saved.base_width.mm * (saved.gauge_mm + saved.toe_mm))
        assert float((flat.at - stand.standing.foot) @ stand.standing.y) == pytest.approx(
            (saved.plate.mm + saved.shim_mm) / 2
        )
    room = room_of(work(design), saved.id)
    assert any("behind the wall that its feet are bolted to" in one for one in room.not_looked_at)
    assert tab.height == saved.height
    assert ear.contour.holes[0].y == saved.height.mm


def test_shims_behind_its_feet_move_the_joint_off_its_mount_and_are_told_as_degrees(on_rail: Any) -> None:
    design, saved, part = on_rail
    job = work(design)
    table = shim_table(job, saved.id, under=True)
    assert table.amounts == tuple(one for one in SHIMS if one >= 0)  # there is none to take out
    assert "none can be taken out" in table.told
    here = np.array(part.own.stands[0].at.at)
    off = part.own.stands[0].standing.y
    for amount, row in zip(table.amounts, table.rows, strict=True):
        assert np.array(row.at) - here == pytest.approx(amount * off, abs=1e-9)
        assert row.here == (amount == 0)
    anti = [next(f.value for f in row.figures if f.key == "anti_squat_percent") for row in table.rows]
    assert abs(anti[-1] - anti[0]) > 0.5
    # as from hole to hole of a plate that has one there: solved anew from the same place
    with_some = saved.model_copy(update={"shim_mm": 3.0})
    again = shim_table(work(with_part(design, with_some)), saved.id, under=True)
    assert again.amounts == SHIMS
    assert [next(f.value for f in row.figures if f.key == "anti_squat_percent") for row in again.rows][
        2:
    ] == pytest.approx(anti, abs=1e-6)
    pivot = next(part for part in design.of_kind(TabPair) if part.name == "Front lower arm, front pivot, tabs")
    with pytest.raises(InputError, match="not bolted on"):
        shim_table(job, pivot.id, under=True)


def test_a_bolted_bracket_is_fitted_again_where_its_mount_moves(on_rail: Any) -> None:
    design, saved, _ = on_rail
    moved = design.model_copy(update={"mounts": tuple(
        m.model_copy(update={"shape": m.shape.model_copy(update={"height_mm": 90.0})}) if m.name == "Rear rail" else m for m in design.mounts
    )})  # fmt: skip
    job = work(moved)
    assert any(fault.field == "height" for fault in job.part(saved.id).faults)  # type: ignore[union-attr]
    stand = job.stand_of(job.held_by(saved.id)[0])
    assert isinstance(stand, Stand)
    again = fitted_angle(saved, stand)
    assert again.through_mm == 90.0
    assert again.height.mm == pytest.approx(saved.height.mm - 5.0)
    assert not part_of(again, with_part(moved, again)).faults


def test_a_sleeve_without_a_wall_and_a_toe_over_nothing_are_refused(on_rail: Any) -> None:
    design, saved, part = on_rail
    for od in (saved.bolt_mm, saved.bolt_mm + 0.5, saved.bolt_mm + 2.4):
        with pytest.raises(ValidationError, match="sleeve_od_mm"):
            AngleBracket.model_validate(saved.model_dump() | {"sleeve_od_mm": od})
    AngleBracket.model_validate(saved.model_dump() | {"sleeve_od_mm": saved.bolt_mm + 2.5})
    # the rail as wide as the feet reach, and a millimetre narrower
    (made,) = part.own.joints
    aside = abs(float(part.own.stands[0].at.at[1]) - 402.0)
    reach = made.gap / 2 + saved.plate.mm + saved.gauge_mm + saved.toe_mm + aside
    for less, told in ((0.0, False), (2.0, True)):
        mounts = tuple(m.model_copy(update={"shape": m.shape.model_copy(update={"width_mm": 2 * reach - less})}) if m.name == "Rear rail" else m for m in design.mounts)  # fmt: skip
        faults = part_of(saved, design.model_copy(update={"mounts": mounts})).faults
        assert any("nothing under their toes" in fault.message for fault in faults) == told
