"""Lightening holes of tabs: as large as the rule lets them be and no larger, the metal beside them by another way, cut as they are judged."""

from __future__ import annotations

from dataclasses import replace
from math import pi
from typing import Any

import numpy as np
import pytest
from scipy.integrate import quad
from shapely.geometry import LineString, Point

from tests.core.test_corner import pair
from tests.core.test_loads import demo
from tests.core.test_strap import whole as strapped
from tests.jobs import draw, part_of, with_part, work
from tirante.calc import calculate
from tirante.core.brackets.tab_bending import lightened_stress
from tirante.core.document.design import Design
from tirante.core.document.fields import Length
from tirante.core.document.parts.bracket import CornerBase, Lighten, RowOfHoles, SaddleBase, TabPair
from tirante.core.document.parts.folded_u import FoldedU
from tirante.core.document.parts.strap_tab import StrapTab
from tirante.core.drawing.sheet import Numbers
from tirante.core.errors import InputError
from tirante.core.flat.contour import polygon
from tirante.core.loads.case_seen import CaseSeen
from tirante.core.parts.bracket.families.folded_u import FoldedMade
from tirante.core.parts.bracket.families.lightened import lightening
from tirante.core.parts.bracket.families.strap import StrapMade
from tirante.core.parts.bracket.families.tab_checks import lug_of
from tirante.core.parts.bracket.families.tab_pair import TabMade
from tirante.core.parts.bracket.families.tab_sizing import outlines_of, pair_checks
from tirante.documents.cutting_table import drive
from tirante.documents.dxf import to_dxf

TALL = {"height": 90.0, "base_width": 70.0, "head_radius": 20.0}


@pytest.mark.parametrize("base", [None, SaddleBase(tube_od=Length(mm=101.6)), SaddleBase(tube_od=Length(mm=101.6), angle_deg=60.0, lean_deg=8.0), CornerBase(turned_deg=12.0)])  # fmt: skip
def test_it_is_the_largest_circle_that_leaves_its_rim(base: object) -> None:
    """Every circle on the axis tried by brute force against the outline, by another library."""
    more = {} if base is None else {"base": base}
    plain = pair(**TALL, **more)
    found = [polygon(one.contour) for one in outlines_of(plain, 20.0)]
    rim = 12.0  # two plates of 6 mm
    best = 0.0
    for up in np.arange(5.0, 90.0, 0.25):
        at = Point(0.0, up)
        if not all(shape.contains(at) for shape in found):
            continue
        lines = [shape.intersection(LineString([(-200, up), (200, up)])).bounds for shape in found]
        wide = min(line[2] for line in lines) - max(line[0] for line in lines)
        best = max(best, min(min(shape.boundary.distance(at) for shape in found) - rim, wide / 4))
    one = lightening(plain.model_copy(update={"lighten": Lighten()}), outlines_of(plain, 20.0))
    assert one is not None
    assert one.diameter == pytest.approx(np.floor(4 * best) / 2, abs=0.51)
    cut = outlines_of(plain.model_copy(update={"lighten": Lighten()}), 20.0)
    for outline, whole in zip(cut, found, strict=True):
        hole = outline.contour.holes[-1]
        assert (hole.x, hole.y, hole.diameter) == (0.0, one.up, one.diameter)
        assert whole.boundary.distance(Point(0.0, hole.y)) - hole.diameter / 2 >= rim - 0.05
        assert whole.area - polygon(outline.contour).area == pytest.approx(pi * hole.diameter**2 / 4, rel=1e-3)


def test_one_that_is_too_large_or_has_no_room_is_refused_with_what_goes() -> None:
    tall = pair(**TALL)
    most = lightening(tall.model_copy(update={"lighten": Lighten()}), outlines_of(tall))
    assert most is not None
    with pytest.raises(InputError) as found:
        outlines_of(tall.model_copy(update={"lighten": Lighten(diameter_mm=most.diameter + 0.5)}))
    assert found.value.limits == (10.0, most.diameter)
    outlines_of(tall.model_copy(update={"lighten": Lighten(diameter_mm=most.diameter)}))
    with pytest.raises(InputError, match="no room"):
        outlines_of(pair(height=34.0, lighten=Lighten()))


def test_stress_beside_it_is_that_of_what_is_left_of_the_section() -> None:
    """Areas and moduli of the section with its slot integrated; the metal to either side as two beams built in at both ends."""
    t, w, d, over = 6.0, 70.0, 30.0, 40.0

    def metal(x: float) -> float:
        return 0.0 if abs(x) < d / 2 else t

    area = 2 * quad(metal, d / 2, w / 2)[0]
    inertia = 2 * quad(lambda x: metal(x) * x * x, d / 2, w / 2)[0]
    assert lightened_stress(t, w, d, over, 9000.0, 0.0, 0.0) == pytest.approx(9000 / area)
    assert lightened_stress(t, w, d, over, 9000.0, 0.0, 0.0, aside=2.0) == pytest.approx(
        9000 / area + 18000 * w / 2 / inertia
    )
    across = lightened_stress(t, w, d, over, 0.0, 5000.0, 0.0)
    # either half bears half the shear over 0.45 diameters: bent by V/2 · 0.45 d/2 at its ends
    each = (w - d) / 2
    assert across == pytest.approx(5000 * over * w / 2 / inertia + 2500 * 0.225 * d / (t * each**2 / 6))
    assert lightened_stress(t, w, d, over, 0.0, 0.0, 300.0) == pytest.approx(300 * over / ((w - d) * t**2 / 6))


def test_it_is_judged_with_a_plate_s_own_share_at_the_worst_angle() -> None:
    design = demo("marram")
    job = work(design)
    one = next(made for part in job.parts if isinstance(part.own, TabMade) for made in part.own.joints if made.bolt)
    tab = pair(**TALL, lighten=Lighten(), load_angle_deg=30.0, hole=one.bolt.diameter_mm + 0.4 if one.bolt else 12.0)
    seen = replace(
        one, held=replace(one.held, cases=(CaseSeen(name="pulled", axial_n=6000.0, side_n=500.0),), swing_deg=0.0)
    )
    check = next(check for check in pair_checks(tab, seen, job.settings) if check.key == "tab_lightened")
    assert check.reproduce is not None
    data, factor = check.reproduce.input, job.settings.factors.tab_yield
    hole = lightening(tab, outlines_of(tab.model_copy(update={"lighten": None})))
    assert hole is not None
    assert (data["along_n"], data["across_n"], data["side_n"]) == pytest.approx(
        (3000 * factor * np.cos(pi / 6), 3000 * factor * 0.5, 250 * factor)
    )
    assert (data["width_mm"], data["hole_mm"], data["over_mm"], data["thickness_mm"]) == (
        hole.width,
        hole.diameter,
        90.0 - hole.up,
        6.0,
    )
    assert calculate(check.reproduce.topic, check.reproduce.input)["stress_mpa"] == pytest.approx(check.demand)
    # pushed toward its foot it has no more before it than the rule leaves
    assert lug_of(tab, 12.0).edge == pytest.approx(min(tab.edge.mm, tab.hole.mm / 2 + 12.0))
    assert not [
        check
        for check in pair_checks(tab.model_copy(update={"lighten": None}), seen, job.settings)
        if check.key == "tab_lightened"
    ]


def test_a_bracket_of_a_car_says_it_on_list_and_card_and_refuses_it_beside_other_holes() -> None:
    design = demo("marram")
    tab = next(part for part in design.of_kind(TabPair) if part.name == "Rear lower link, end A, tabs").model_copy(
        update={"holes": None}
    )
    light = tab.model_copy(update={"lighten": Lighten(), "base_width": Length(mm=110.0)})
    part = part_of(light, with_part(design, light))
    assert not part.faults, part.faults
    plates = [piece for piece in part.pieces if piece.name != "spread plate"]
    assert "lightening hole" in plates[0].told  # type: ignore[union-attr]
    assert any("lightening hole" in line.text for line in part.card.lines)  # type: ignore[union-attr]
    assert any(check.key == "tab_lightened" for check in part.checks)
    for change in ({"holes": RowOfHoles(count=2, pitch_mm=50.0, angle_deg=-90.0)}, {"strip": True}):
        wrong = light.model_copy(update=change)
        assert "lighten" in [fault.field for fault in part_of(wrong, with_part(design, wrong)).faults]


def eared(kind: str, mounted: Design, **more: Any) -> tuple[Design, FoldedU | StrapTab]:
    """A folded bracket or a strap that is tall and wide enough for a lightening hole."""
    if kind == "strap_tab":
        design, saved = strapped(mounted, deep=130.0)
        return design, saved.model_copy(update={"base_width": Length(mm=90.0), **more})
    one = mounted.of_kind(FoldedU)[0]
    joints = tuple(j.model_copy(update={"mount": None}) if j.by == one.id else j for j in mounted.joints)
    tall = {"height": Length(mm=140.0), "base_width": Length(mm=110.0), "lighten": None, **more}
    return mounted.model_copy(update={"joints": joints}), one.model_copy(update=tall)


@pytest.mark.parametrize(("kind", "more"), [("folded_u", {}), ("folded_u", {"skew_deg": 15.0}), ("strap_tab", {})])
def test_both_ears_have_it_clear_of_their_bends_and_are_judged_beside_it(kind: str, more: dict[str, Any], mounted: Design) -> None:  # fmt: skip
    design, plain = eared(kind, mounted, **more)
    light = plain.model_copy(update={"lighten": Lighten()})
    before, part = (part_of(one, with_part(design, one)) for one in (plain, light))
    assert before.faults == part.faults == ()
    assert {check.key for check in part.checks} - {check.key for check in before.checks} == {"tab_lightened"}
    own, rim = part.own, max(8.0, 2 * light.plate.mm)
    assert isinstance(own, FoldedMade | StrapMade)
    joints, holes = own.flat.contour.holes[:2], own.flat.contour.holes[2:]
    assert len(holes) == 2
    most = holes[0].diameter
    for hole in holes:  # bent back, it stands straight below the joint's hole of its ear, over the bend or the skin
        joint = joints[0 if hole.x * joints[0].x > 0 else 1]
        here, there = own.flat.folded(hole.x, hole.y), own.flat.folded(joint.x, joint.y)
        assert (here[0], here[1]) == pytest.approx((there[0], there[1]))
        below = there[2] - here[2]
        assert below - (hole.diameter + joint.diameter) / 2 >= rim - 0.06
        low = max(light.tube_od.mm / 2, 2 * light.plate.mm) if isinstance(light, StrapTab) else 3 * light.plate.mm + 2 * light.radius_mm  # fmt: skip
        assert light.height.mm - below - hole.diameter / 2 >= low - 0.06
    # no larger one would leave its rim and half of the ear
    check = next(check for check in part.checks if check.key == "tab_lightened")
    assert check.reproduce is not None
    data = check.reproduce.input
    assert data["hole_mm"] == most
    assert data["width_mm"] >= 2 * most - 1e-6
    assert data["over_mm"] == pytest.approx(below, abs=1e-6)
    assert calculate(check.reproduce.topic, data)["stress_mpa"] == pytest.approx(check.demand)
    (made,) = own.joints
    worst = next(case for case in made.held.cases if case.name == check.case)
    assert np.hypot(data["along_n"], data["across_n"]) == pytest.approx(abs(worst.axial_n) / 2 * work(design).settings.factors.tab_yield)  # fmt: skip
    assert f"2 lightening holes {most:g} mm" in part.pieces[0].told  # type: ignore[union-attr]
    assert any(line.text == f"lightening hole ⌀{round(most, 2):g} mm" for line in part.card.lines)  # type: ignore[union-attr]
    assert any(line.mm == pytest.approx(below) for line in part.card.lines if "its middle below" in line.text)  # type: ignore[union-attr]
    assert (before.mass or 0) - (part.mass or 0) == pytest.approx(2 * pi / 4 * most**2 * light.plate.mm * 7.85e-6, rel=1e-6)  # fmt: skip
    names = {"folded_u": "folded-flat", "strap_tab": "strap-flat"}
    counts = [drive(to_dxf(draw(one, with_part(design, one), names[kind], Numbers())), thickness=1.0, kerf=0.3).pierces for one in (plain, light)]  # fmt: skip
    assert counts[1] - counts[0] == 2
    wide = light.model_copy(update={"lighten": Lighten(diameter_mm=most + 0.5)})
    assert [fault.field for fault in part_of(wide, with_part(design, wide)).faults] == ["lighten.diameter_mm"]
    # ten millimetres are its least: with nine between bend or skin and the joint's rim there is none
    for room, fields in ((9.0, ["lighten"]), (10.6, [])):
        tall = low + room + rim + light.hole.mm / 2
        short = light.model_copy(update={"height": Length(mm=tall)})
        on = design.model_copy(update={"joints": tuple(j.model_copy(update={"mount": None}) if j.by == light.id else j for j in design.joints)})  # fmt: skip
        assert [fault.field for fault in part_of(short, with_part(on, short)).faults] == fields
