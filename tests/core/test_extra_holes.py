"""Holes in a bracket for something else: where they may be, the metal across their level by another way, cut as they are judged."""

from __future__ import annotations

from dataclasses import replace
from math import pi, radians
from typing import Any

import numpy as np
import pytest
from scipy.integrate import quad
from shapely.geometry import LineString, Point

from tests.core.test_corner import pair
from tests.core.test_strap import whole
from tests.jobs import draw, part_of, with_part, work
from tirante.calc import calculate
from tirante.core.brackets.tab_bending import Legs, lightened_stress, section_stress
from tirante.core.document.design import Design
from tirante.core.document.fields import Length
from tirante.core.document.parts.bracket import ExtraHole, Lighten, RowOfHoles, SaddleBase, TabPair
from tirante.core.document.parts.folded_u import FoldedU
from tirante.core.document.parts.strap_tab import StrapTab
from tirante.core.drawing.sheet import Numbers
from tirante.core.errors import InputError
from tirante.core.flat.contour import polygon
from tirante.core.loads.case_seen import CaseSeen
from tirante.core.parts.bracket.families.extra import extra_checks, legs_at
from tirante.core.parts.bracket.families.folded_u import FoldedMade
from tirante.core.parts.bracket.families.strap import StrapMade
from tirante.core.parts.bracket.families.tab_checks import lug_of
from tirante.core.parts.bracket.families.tab_pair import TabMade
from tirante.core.parts.bracket.families.tab_sizing import outlines_of, pair_checks
from tirante.documents.cutting_table import drive
from tirante.documents.dxf import to_dxf

TALL = {"height": 110.0, "base_width": 100.0, "head_radius": 20.0}
CLIP = ExtraHole(what="brake line clip", below_mm=70.0, beside_mm=18.0, diameter_mm=9.0)


# --- the metal at its level --------------------------------------------------------------------------------------------------


def test_stress_across_a_level_is_a_beam_s_of_what_is_left_of_it() -> None:
    """N/A and M c/I by integrals over the legs, for legs that nothing makes alike."""
    legs, t = ((-31.0, 4.0), (13.0, 29.0), (35.0, 44.0)), 5.0
    at = Legs(thickness=t, legs=legs, opening=9.0)

    def over_legs(of: Any) -> float:
        return t * sum(quad(of, a, b)[0] for a, b in legs)

    area = over_legs(lambda x: 1.0)
    middle = over_legs(lambda x: x) / area
    inertia = over_legs(lambda x: (x - middle) ** 2)
    assert (at.middle, at.inertia) == pytest.approx((middle, inertia))
    furthest = max(abs(edge - middle) for leg in legs for edge in leg)
    assert section_stress(at, 40.0, 5000.0, 0.0, 0.0) == pytest.approx(5000 / area + 5000 * abs(middle) * furthest / inertia)  # fmt: skip
    # what shears across is shared as by cantilevers of one length, and bends the stiffest leg over the opening's 0.45 diameters
    share = 35.0**3 / (35.0**3 + 16.0**3 + 9.0**3)
    local = 2000 * share * (0.45 * 9.0 / 2) / (t * 35.0**2 / 6)
    assert section_stress(at, 40.0, 0.0, 2000.0, 0.0) == pytest.approx(2000 * 40 * furthest / inertia + local)
    assert section_stress(at, 40.0, 0.0, 0.0, 300.0) == pytest.approx(300 * 40 / (60.0 * t**2 / 6))


def test_a_hole_in_the_middle_is_judged_as_a_lightening_hole_is() -> None:
    at = Legs(thickness=6.0, legs=((-30.0, -13.0), (13.0, 30.0)), opening=26.0)
    for force in ((4000.0, 0.0, 0.0), (0.0, 2500.0, 0.0), (0.0, 0.0, 400.0), (4000.0, 2500.0, 400.0)):
        assert section_stress(at, 35.0, *force) == pytest.approx(lightened_stress(6.0, 60.0, 26.0, 35.0, *force))


# --- where it may be ---------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("base", [None, SaddleBase(tube_od=Length(mm=120.0)), SaddleBase(tube_od=Length(mm=120.0), angle_deg=60.0, lean_deg=8.0)])  # fmt: skip
def test_it_is_cut_where_it_was_said_and_its_legs_are_what_a_line_meets(base: object) -> None:
    tab = pair(**TALL, extra=(CLIP,), **({} if base is None else {"base": base}))
    plain = outlines_of(tab.model_copy(update={"extra": ()}), 20.0)
    for outline, whole_one in zip(outlines_of(tab, 20.0), plain, strict=True):
        joint, hole = outline.contour.holes[0], outline.contour.holes[-1]
        assert (hole.x - joint.x, joint.y - hole.y, hole.diameter) == pytest.approx((18.0, 70.0, 9.0))
        shape = polygon(whole_one.contour)
        line = shape.intersection(LineString([(-200, hole.y), (200, hole.y)])).bounds
        assert legs_at(outline, hole.y) == (pytest.approx((line[0], 13.5), abs=1e-2), pytest.approx((22.5, line[2]), abs=1e-2))  # fmt: skip
        assert shape.area - polygon(outline.contour).area == pytest.approx(pi * 81 / 4, rel=2e-3)


@pytest.mark.parametrize(
    ("hole", "field", "told"),
    [
        ({"below_mm": 20.0, "beside_mm": 0.0}, "extra.0.below_mm", "22.6 mm or more"),
        ({"beside_mm": 40.0}, "extra.0.diameter_mm", "Round hole 1"),
        ({"beside_mm": 90.0}, "extra.0.diameter_mm", "not there"),
        ({"below_mm": 105.0}, "extra.0.diameter_mm", "Round hole 1"),
    ],
)
def test_where_too_little_metal_is_left_it_says_how_much_and_what_goes(hole: dict[str, float], field: str, told: str) -> None:  # fmt: skip
    tab = pair(**TALL, extra=(CLIP.model_copy(update=hole),))
    with pytest.raises(InputError) as caught:
        outlines_of(tab)
    assert caught.value.fields == (field,)
    assert told in caught.value.message
    low, high = caught.value.limits or (None, None)
    given = float(told.removesuffix(" mm or more")) if told.endswith("or more") else None
    if given is not None:  # as it stands in the sentence it goes too
        assert outlines_of(tab.model_copy(update={"extra": (CLIP.model_copy(update={**hole, "below_mm": given}),)}))
    # the figure that it gives goes, and the rim is then as the rule has it, by another library
    cured = {"below_mm": low} if low is not None else {"diameter_mm": high}
    if next(iter(cured.values())) is None or next(iter(cured.values())) < 3.0:  # type: ignore[operator]
        return
    one = CLIP.model_copy(update={**hole, **cured})
    (outline,) = outlines_of(tab.model_copy(update={"extra": (one,)}))
    cut = outline.contour.holes[-1]
    shape = polygon(outlines_of(tab.model_copy(update={"extra": ()}))[0].contour)
    rim = float(shape.boundary.distance(Point(cut.x, cut.y))) - cut.diameter / 2
    assert rim == pytest.approx(12.0, abs=0.05)  # two plates of 6 mm


def test_two_stand_as_far_apart_as_the_rule_asks_and_beside_what_has_holes_of_its_own_there_are_none(mounted: Design) -> None:  # fmt: skip
    near = (CLIP.model_copy(update={"beside_mm": -9.0}), CLIP.model_copy(update={"beside_mm": 9.0}))
    with pytest.raises(InputError, match=r"Between holes 1 and 2 9\.0 mm"):
        outlines_of(pair(**TALL, extra=near))
    assert outlines_of(pair(**TALL, extra=(near[0], CLIP.model_copy(update={"beside_mm": 12.5}))))
    tab = next(one for one in mounted.of_kind(TabPair) if one.holes is None and isinstance(one.base, SaddleBase))
    small = ExtraHole(below_mm=30.0, diameter_mm=3.0)
    for change in ({"holes": RowOfHoles(count=2, pitch_mm=50.0)}, {"strip": True}):
        wrong = tab.model_copy(update={"extra": (small,), **change})
        assert "extra" in [fault.field for fault in part_of(wrong, with_part(mounted, wrong)).faults]
    aslant = tab.model_copy(update={"base": SaddleBase(tube_od=Length(mm=76.2), angle_deg=70.0), "extra": (small.model_copy(update={"beside_mm": 5.0}),)})  # fmt: skip
    told = {fault.field: fault.message for fault in part_of(aslant, with_part(mounted, aslant)).faults}
    assert "turned over" in told["extra"]


# --- judged ------------------------------------------------------------------------------------------------------------------


def test_it_is_judged_with_a_plate_s_own_share_at_the_worst_angle_and_the_worst_of_its_holes(mounted: Design) -> None:
    job = work(mounted)
    one = next(made for part in job.parts if isinstance(part.own, TabMade) for made in part.own.joints if made.bolt)
    lower = CLIP.model_copy(update={"below_mm": 80.0, "beside_mm": -20.0, "diameter_mm": 14.0})
    tab = pair(**TALL, extra=(CLIP, lower), load_angle_deg=30.0, hole=one.bolt.diameter_mm + 0.4 if one.bolt else 12.0)
    case = CaseSeen(name="pulled", axial_n=6000.0, side_n=500.0)
    seen = replace(one, held=replace(one.held, cases=(case,), swing_deg=5.0))
    (check,) = [check for check in pair_checks(tab, seen, job.settings) if check.key == "tab_holed"]
    factor = job.settings.factors.tab_yield
    (outline,) = outlines_of(tab)
    found = []
    for hole in outline.contour.holes[1:]:
        legs = Legs(thickness=6.0, legs=legs_at(outline, hole.y), opening=hole.diameter)
        for angle in np.radians(np.linspace(25.0, 35.0, 11)):
            found.append(section_stress(legs, 110.0 - hole.y, 3000 * factor * np.cos(angle), 3000 * factor * np.sin(angle), 250 * factor))  # fmt: skip
    assert check.demand == pytest.approx(max(found))
    assert check.capacity == tab.yield_mpa
    assert check.reproduce is not None
    assert calculate(check.reproduce.topic, check.reproduce.input)["stress_mpa"] == pytest.approx(check.demand)
    assert check.reproduce.input["over_mm"] == pytest.approx(80.0)
    assert check.reproduce.input["across_n"] == pytest.approx(3000 * factor * np.sin(radians(35.0)))
    # pushed toward its foot the joint's hole has no more before it than the rule leaves
    assert lug_of(tab, 12.0).edge == pytest.approx(min(tab.edge.mm, tab.hole.mm / 2 + 12.0))
    # beside a lightening hole both levels are looked at, and that one leaves its rim round this one
    both = tab.model_copy(update={"extra": (lower.model_copy(update={"diameter_mm": 3.0}),), "lighten": Lighten()})
    (light,) = outlines_of(both)
    (told,) = extra_checks(both, seen, (light,), job.settings)
    levels = {}
    for hole in light.contour.holes[1:]:
        legs = Legs(thickness=6.0, legs=legs_at(light, hole.y), opening=hole.diameter)
        levels[hole.diameter] = max(section_stress(legs, 110.0 - hole.y, 3000 * factor * np.cos(a), 3000 * factor * np.sin(a), 250 * factor) for a in np.radians(np.linspace(25.0, 35.0, 11)))  # fmt: skip
    assert len(levels) == 2
    assert told.demand == pytest.approx(max(levels.values()))
    low = both.model_copy(update={"extra": (CLIP.model_copy(update={"below_mm": 80.0, "beside_mm": 0.0, "diameter_mm": 34.0}),), "lighten": Lighten(diameter_mm=10.0)})  # fmt: skip
    (under,) = extra_checks(low, seen, outlines_of(low), job.settings)
    assert under.reproduce is not None
    assert under.reproduce.input["over_mm"] == pytest.approx(80.0)
    lighter = next(check for check in pair_checks(both, seen, job.settings) if check.key == "tab_lightened")
    assert lighter.reproduce is not None
    assert lighter.reproduce.input["hole_mm"] == light.contour.holes[-1].diameter
    alone = outlines_of(both.model_copy(update={"extra": ()}))[0].contour.holes[-1].diameter
    assert light.contour.holes[-1].diameter < alone


@pytest.mark.parametrize("kind", ["tab_pair", "folded_u", "strap_tab"])
def test_on_a_car_it_is_on_card_and_list_judged_and_cut_in_both_plates(kind: str, mounted: Design) -> None:
    def holed(one: Any) -> Any:
        below = round((one.hole.mm + 3.0) / 2 + max(8.0, 2 * one.plate.mm) + 0.1, 1)
        beside = 0.0 if kind == "tab_pair" else 1.0
        return one.model_copy(update={"extra": (ExtraHole(what="clip", below_mm=below, beside_mm=beside, diameter_mm=3.0),)})  # fmt: skip

    if kind == "strap_tab":
        design, saved = whole(mounted, deep=110.0)
        wide = saved.model_copy(update={"base_width": Length(mm=80.0)})
    else:
        design = mounted
        every = mounted.of_kind(TabPair if kind == "tab_pair" else FoldedU)  # type: ignore[type-var]
        tall = (
            one.model_copy(update={"height": Length(mm=one.height.mm + 60.0), "base_width": Length(mm=90.0)})
            for one in every
        )
        alone = (one for one in tall if getattr(one, "holes", None) is None)
        wide = next(
            one for one in alone if {fault.field for fault in part_of(one, with_part(design, one)).faults} <= {"height"}
        )
        design = design.model_copy(update={"joints": tuple(j.model_copy(update={"mount": None}) if j.by == wide.id else j for j in design.joints)})  # fmt: skip
    made = holed(wide)
    (hole,) = made.extra
    part = part_of(made, with_part(design, made))
    assert part.faults == ()
    before = part_of(wide, with_part(design, wide))
    assert {check.key for check in part.checks} - {check.key for check in before.checks} == {"tab_holed"}
    assert any("for clip" in line.text and line.mm == hole.below_mm for line in part.card.lines)  # type: ignore[union-attr]
    names = {"tab_pair": "tab-flat", "folded_u": "folded-flat", "strap_tab": "strap-flat"}
    counts = [drive(to_dxf(draw(one, with_part(design, one), names[kind], Numbers())), thickness=1.0, kerf=0.3).pierces for one in (wide, made)]  # fmt: skip
    assert counts[1] - counts[0] == (1 if kind == "tab_pair" else 2)
    if kind == "tab_pair":
        return
    own = part.own
    assert isinstance(own, FoldedMade | StrapMade)
    for cut in own.flat.contour.holes[2:]:  # bent back, it stands as far from the joint's as it was said
        joint = own.flat.contour.holes[0 if cut.x > 0 else 1]
        here, there = own.flat.folded(cut.x, cut.y), own.flat.folded(joint.x, joint.y)
        assert (there[2] - here[2], here[1] - there[1], here[0]) == pytest.approx((hole.below_mm, 1.0, there[0]))
    # down to its bend, or to the skin of its tube, and no further
    end = wide.height.mm - 1.5 - (max(19.05, 2 * wide.plate.mm) if isinstance(wide, StrapTab) else 3 * wide.plate.mm + 2 * wide.radius_mm)  # fmt: skip
    for off, faults in ((-0.1, []), (0.1, ["extra.0.below_mm"])):
        low = made.model_copy(update={"extra": (hole.model_copy(update={"below_mm": end + off}),)})
        assert [fault.field for fault in part_of(low, with_part(design, low)).faults] == faults


@pytest.mark.parametrize("angle", [180.0, -180.0, -179.0])
def test_a_pull_back_through_the_foot_is_repeated_by_the_command_line_whichever_way_it_is_counted(angle: float, mounted: Design) -> None:  # fmt: skip
    """An angle and its swing together may pass half a turn: what is handed on stays within it, and gives the same."""
    job = work(mounted)
    one = next(made for part in job.parts if isinstance(part.own, TabMade) for made in part.own.joints if made.bolt)
    tab = pair(**TALL, load_angle_deg=angle, hole=one.bolt.diameter_mm + 0.4 if one.bolt else 12.0)
    seen = replace(one, held=replace(one.held, cases=(CaseSeen(name="pulled", axial_n=6000.0, side_n=500.0),), swing_deg=25.0))  # fmt: skip
    for check in pair_checks(tab, seen, job.settings):
        if check.reproduce is not None and check.reproduce.figure:
            found: Any = calculate(check.reproduce.topic, check.reproduce.input)
            for step in check.reproduce.output.split("."):
                found = found[step]
            assert found == pytest.approx(getattr(check, check.reproduce.figure))
