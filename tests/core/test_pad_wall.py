"""The wall under a pad's webs: by the formulas of AISC 360 chapter K written out again, on what it stands on, and the spread plate that saves it."""

from __future__ import annotations

from math import asin, pi, sqrt

import numpy as np
import pytest

from tests.core.test_bearing_pad import BOX, FLAT, ID, UNDER, fitted, with_pad
from tests.core.test_loads import demo
from tests.core.test_mounts import SHOP
from tests.jobs import draw, part_of, with_part, work
from tirante.calc import calculate
from tirante.core.document.design import Design
from tirante.core.document.mounts import RoundMember
from tirante.core.document.parts.strike_pad import StrikePad
from tirante.core.drawing.sheet import Numbers
from tirante.core.parts.bracket.families.bearing_pad import BearingMade
from tirante.core.parts.bracket.families.pad_kind import PadMade
from tirante.core.parts.bracket.families.pad_spread import pad_spreads
from tirante.core.parts.bracket.families.strike_pad import STRIKE_PAD
from tirante.core.parts.part import Part

ROUND = RoundMember(a=(-390, 386, 250), b=(-220, 386, 250), od_mm=44.5, wall_mm=3.2)


def entered(design: Design, **metal: float | None) -> Design:
    """The member under the pad with its metal."""
    mounts = tuple(one.model_copy(update=metal) if one.id == UNDER else one for one in design.mounts)
    return design.model_copy(update={"mounts": mounts})


def wall_check(part: Part, key: str = "mount_wall"):  # type: ignore[no-untyped-def]
    return next(check for check in part.checks if check.key == key)


def test_a_box_s_wall_bears_a_pad_as_the_specification_s_formula_says() -> None:
    """Two plates along a face of 40 mm, 3 mm thick: R = Fy t²/(1 − β) (2 l/B + 4 √(1 − β)), its sides 2 Fy t (5 t + l)."""
    design = entered(fitted(BOX), yield_mpa=275.0, uts_mpa=410.0)
    part = with_pad(design)
    made = part.own
    assert isinstance(made, BearingMade)
    pad, fy, t, b = made.shape.pad, 275.0, 3.0, 40.0

    def bears(long: float, wide: float) -> float:
        beta = min(wide / b, 0.85)
        return min(fy * t**2 / (1 - beta) * (2 * long / b + 4 * sqrt(1 - beta)), 2 * fy * t * (5 * t + long))

    one, both = bears(pad.length, pad.web), bears(pad.length, pad.apart + pad.web)
    half = min(2 * bears(pad.length / 2, pad.web), bears(pad.length / 2, pad.apart + pad.web))
    factor, sheared = work(design).settings.factors.tab_yield, work(design).settings.factors.tab_rupture
    worst, line = 0.0, 0.0
    for case in made.cases:
        blow = case.blow
        high = pad.height + blow.over
        over = abs(blow.across) * high + abs(blow.push * blow.off_across)
        along = abs(blow.along) * high + abs(blow.push * blow.off_along)
        pull = min(2 * one, both)
        worst = max(
            worst, factor * (abs(blow.push) / pull + along / (half * pad.length / 2) + over / (one * pad.apart))
        )
        line = max(
            line,
            sheared * (abs(blow.push) / (2 * pad.length) + 3 * along / pad.length**2 + over / (pad.apart * pad.length)),
        )
    check = wall_check(part)
    assert worst > 0.01
    assert check.utilisation == pytest.approx(worst)
    assert check.reproduce is not None
    assert calculate(check.reproduce.topic, check.reproduce.input)[check.reproduce.output] == pytest.approx(
        check.demand
    )
    through = wall_check(part, "mount_shear")
    assert through.demand == pytest.approx(line)
    assert through.capacity == pytest.approx(2 * 0.6 * 410.0 * t)


def test_a_face_is_as_wide_as_the_side_of_the_box_that_the_pad_is_on() -> None:
    wide = BOX.model_copy(update={"width_mm": 60})
    part = with_pad(entered(fitted(wide), yield_mpa=275.0, uts_mpa=410.0))
    assert wall_check(part).reproduce.input["width_mm"] == 60.0
    lying = BOX.model_copy(update={"width_mm": 60, "up": (0, 1, 0)})  # its height lies across the car
    part = with_pad(entered(fitted(lying), yield_mpa=275.0, uts_mpa=410.0))
    assert wall_check(part).reproduce.input["width_mm"] == 40.0


def test_a_wall_that_is_not_known_is_named_with_what_is_missing() -> None:
    for shape, metal, told in (
        (BOX, {}, "the wall of under it: its yield strength and ultimate strength are not entered"),
        (BOX.model_copy(update={"wall_mm": None}), {"yield_mpa": 275.0, "uts_mpa": 410.0}, "the wall of under it: its wall thickness is not entered"),
        (FLAT, {"yield_mpa": 275.0, "uts_mpa": 410.0}, "the wall of under it: how far from the feet its plate is held is not entered"),
    ):  # fmt: skip
        part = with_pad(entered(fitted(shape), **metal))
        assert part.checks, part.faults
        assert told in part.not_checked
        assert not any(check.key == "mount_wall" for check in part.checks)
    design = fitted(BOX)
    typed = design.model_copy(update={"joints": tuple(one.model_copy(update={"mount": None}) if one.id == ID else one for one in design.joints)})  # fmt: skip
    assert "the wall of what it stands on" in with_pad(typed).not_checked


def test_a_pad_on_an_arm_presses_its_tube_as_weak_as_beside_a_weld_and_is_sized_with_a_spread_plate() -> None:
    """Marram's front stop comes down on the lower arm; without a spread plate its tube gives."""
    design = demo("marram")
    saved = next(part for part in design.parts if isinstance(part, StrikePad) and part.name.startswith("Front"))
    assert saved.spread_mm is not None
    without = part_of(saved.model_copy(update={"spread_mm": None}), design)
    check = wall_check(without)
    assert not check.passed
    arm = next(part for part in design.parts if part.kind == "arm" and "lower" in part.name)
    grade = work(design).catalogue.find("grades", arm.grade)  # type: ignore[attr-defined]
    assert check.reproduce.input["yield_mpa"] == grade.welded_yield_mpa  # type: ignore[union-attr]
    tube = work(design).catalogue.find("tubes", arm.tube)  # type: ignore[attr-defined]
    assert (check.reproduce.input["width_mm"], check.reproduce.input["wall_mm"]) == (tube.od_mm, tube.wall_mm)  # type: ignore[union-attr]
    found = STRIKE_PAD.size(saved.model_copy(update={"spread_mm": None}), work(design), SHOP, "mass")
    assert found.winner is not None
    (winner,) = found.winner.parts
    assert isinstance(winner, StrikePad)
    assert winner.spread_mm is not None
    # nothing lighter of what was tried holds with its plates
    tried = pad_spreads(winner.model_copy(update={"spread_mm": None}))
    best = next(
        i for i, one in enumerate(tried) if (one.spread_mm, one.beyond_mm) == (winner.spread_mm, winner.beyond_mm)
    )
    for lighter in tried[:best]:
        other = part_of(lighter, design)
        assert other.faults or not all(one.passed for one in other.checks)
    held = part_of(winner, design)
    assert all(one.passed for one in held.checks)


def test_webs_are_cut_for_the_spread_plate_that_they_stand_on_and_it_is_cut_flat_for_its_tube() -> None:
    broad = BOX.model_copy(update={"width_mm": 60})
    for shape in (broad, ROUND):
        design = entered(fitted(shape), yield_mpa=275.0, uts_mpa=410.0)
        plain, on = with_pad(design), with_pad(design, spread_mm=4.0, beyond_mm=5.0)
        assert isinstance(plain.own, PadMade)
        assert isinstance(on.own, PadMade), on.faults
        pad = next(part for part in design.parts if part.id == ID)
        half = pad.apart_mm / 2  # type: ignore[attr-defined]
        skins = [sqrt((od / 2) ** 2 - half**2) for od in (44.5, 52.5)] if shape is ROUND else [0.0, 4.0]
        assert np.subtract(plain.own.shape.heights, on.own.shape.heights) == pytest.approx(
            np.full((2, 2), skins[1] - skins[0])
        )
        piece = next(one for one in on.pieces if one.name == "spread plate")
        own = pad.apart_mm + pad.web_mm  # type: ignore[attr-defined]
        across = own if shape is broad else 48.5 * asin(own / 52.5)
        assert (piece.length, piece.width) == pytest.approx((pad.length_mm + 10.0, across + 10.0))  # type: ignore[attr-defined,union-attr]
        assert piece.outline.area == pytest.approx(piece.length * piece.width - (4 - pi) * 100.0)  # type: ignore[union-attr]
        assert on.mass - plain.mass != 0  # type: ignore[operator]
        assert any("spread plate" in line.text for line in on.card.lines)  # type: ignore[union-attr]
        assert "spread plate to what it lies on first" in on.welding[0]
        drawing = draw(
            pad.model_copy(update={"spread_mm": 4.0, "beyond_mm": 5.0}), with_part(design), "spread-flat", Numbers()
        )
        marks = [item for item in drawing.items if getattr(item, "style", "") == "mark"]
        assert len(marks) == 4
        ys = sorted(item.y1 - drawing.height / 2 for item in marks)
        outer = own / 2 if shape is broad else 24.25 * asin(own / 52.5)
        assert ys[-1] == pytest.approx(outer)
        assert wall_check(on).utilisation < wall_check(plain).utilisation
    design = entered(fitted(BOX), yield_mpa=275.0, uts_mpa=410.0)
    wide = with_pad(design, spread_mm=4.0, beyond_mm=20.0)
    assert [fault.field for fault in wide.faults] == ["beyond_mm"]
    round_ = entered(fitted(ROUND), yield_mpa=275.0, uts_mpa=410.0)
    assert [fault.field for fault in with_pad(round_, spread_mm=4.0, beyond_mm=30.0).faults] == ["beyond_mm"]


def test_its_sheet_draws_the_tube_as_it_is_and_the_spread_plate_on_it() -> None:
    design = entered(fitted(ROUND), yield_mpa=275.0, uts_mpa=410.0)
    pad = next(part for part in design.parts if part.id == ID)
    for thick in (None, 4.0):
        sheet = draw(pad.model_copy(update={"spread_mm": thick, "beyond_mm": 5.0}), design, "drawing", Numbers())
        tube = [item.r / sheet.scale for item in sheet.items if item.kind == "arc" and item.ref is None]
        assert tube == pytest.approx([44.5 / 2])
        arcs = [item.r / sheet.scale for item in sheet.items if item.ref == "field:spread_mm" and item.kind == "arc"]
        assert arcs == ([] if thick is None else pytest.approx([44.5 / 2 + 4.0]))
