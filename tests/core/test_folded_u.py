"""The folded U: its flat folded back in space, what its bends ask, how it is welded and judged, and the file that is cut from."""

from __future__ import annotations

import io
from math import asin, cos, hypot, pi, radians, sin, sqrt, tan

import ezdxf
import numpy as np
import pytest
from ezdxf import recover
from shapely.geometry import LineString, Polygon

from tests.jobs import draw, part_of, with_part, work
from tirante.calc import calculate
from tirante.core.document.design import Design
from tirante.core.document.fields import Length
from tirante.core.document.parts.bracket import TabPair
from tirante.core.document.parts.folded_u import FoldedU
from tirante.core.drawing.sheet import Numbers
from tirante.core.errors import InputError, NotApplicable
from tirante.core.flat.contour import Curve, Straight, polygon, require_closed
from tirante.core.parts.bracket.families.eared import set_angle
from tirante.core.parts.bracket.families.folded_u import FOLDED_U, as_pair, counted_leg, welds
from tirante.core.parts.bracket.families.searched import ears_become
from tirante.core.parts.stands import Stand, fitted_on
from tirante.core.sheet.folded_u import folded_u
from tirante.core.sheet.second_bend import second_bend, second_bend_told
from tirante.documents.dxf import to_dxf

GOOD = {
    "gap": 24.0,
    "thickness": 4.0,
    "radius": 5.0,
    "width": 56.0,
    "height": 60.0,
    "head": 22.0,
    "edge": 26.0,
    "hole": 13.0,
}


def the_u(design: Design) -> FoldedU:
    return next(part for part in design.of_kind(FoldedU))


def test_the_flat_folded_back_has_its_holes_in_line_its_ears_square_and_its_lengths_kept() -> None:
    """Folded by rolling the neutral fibre step by step over its own radius, not by the formula of the flat."""
    one = folded_u(**GOOD)
    require_closed(one.contour, "u")
    t, r = GOOD["thickness"], GOOD["radius"]
    k = 0.325 + 0.25 * np.log10(r / t)  # DIN 6935, from memory
    assert one.bend.k == pytest.approx(k)
    # walk along the neutral fibre: as long folded as flat
    x, walked = 0.0, 0.0
    fibre = k * t  # from the inside face
    before = one.folded(0.0, 0.0, fibre)
    while x < one.hole_at - 1e-9:
        step = min(0.01, one.hole_at - x)
        x += step
        now = one.folded(x, 0.0, fibre)
        walked += hypot(now[0] - before[0], now[2] - before[2])
        before = now
    assert walked == pytest.approx(one.hole_at, abs=2e-4)
    for side in (1.0, -1.0):
        inner, outer = (one.folded(side * one.hole_at, 0.0, depth) for depth in (0.0, t))
        assert inner == pytest.approx((side * GOOD["gap"] / 2, 0.0, GOOD["height"]), abs=1e-9)
        assert outer == pytest.approx((side * (GOOD["gap"] / 2 + t), 0.0, GOOD["height"]), abs=1e-9)
    # its outer face lies on what it stands on, and every bend is an arc of the inside radius
    assert one.folded(3.0, 7.0, t)[2] == 0.0
    for turn in np.linspace(0.1, pi / 2 - 0.1, 7):
        at = one.folded(one.base / 2 + turn / (pi / 2) * one.bend.allowance, 0.0, 0.0)
        assert hypot(at[0] - one.base / 2, at[2] - t - r) == pytest.approx(r)
    # straight over its bends, which stand in the middle of what they take
    for bend, way in zip(one.contour.bends, (1.0, -1.0), strict=True):
        assert bend.line.x1 == bend.line.x2 == pytest.approx(way * (one.base / 2 + one.bend.allowance / 2))
        assert abs(bend.line.y2 - bend.line.y1) == GOOD["width"]
    flat = polygon(one.contour)
    assert flat.is_valid
    assert flat.area == pytest.approx(one.contour.area, rel=1e-4)
    # one half is the other turned half round
    assert {(h.x, h.y) for h in one.contour.holes} == {(one.hole_at, 0.0), (-one.hole_at, -0.0)}


def test_its_ears_are_tangent_to_their_heads_and_as_wide_as_the_base_at_the_bend() -> None:
    one = folded_u(**GOOD)
    heads = [edge for edge in one.contour.edges if isinstance(edge, Curve)]
    assert len(heads) == 2
    assert all(edge.r == GOOD["head"] for edge in heads)
    assert max(abs(edge.cx) for edge in heads) == pytest.approx(one.hole_at + GOOD["edge"] - GOOD["head"])
    end = one.base / 2 + one.bend.allowance
    flanks = [
        e for e in one.contour.edges if isinstance(e, Straight) and abs(e.x1 - e.x2) > 1e-6 and abs(e.y1 - e.y2) > 1e-6
    ]
    assert len(flanks) == 4
    for flank in flanks:
        corner = min((flank.start, flank.end), key=lambda p: abs(p[0]))
        touch = max((flank.start, flank.end), key=lambda p: abs(p[0]))
        assert (abs(corner[0]), abs(corner[1])) == pytest.approx((end, 28.0))
        head = min(heads, key=lambda h: abs(h.cx - touch[0]))
        out = np.array(touch) - [head.cx, head.cy]
        assert out @ (np.array(touch) - corner) == pytest.approx(0.0, abs=1e-9)


@pytest.mark.parametrize(("change", "field", "rule"), [
    ({"gap": 9.0, "die": 18.0}, "radius_mm", "both bends take"), ({"width": 40.0}, "base_width", "narrower than the head"),
    ({"edge": 20.0}, "edge", "past the head"), ({"hole": 45.0}, "hole", "breaks out"),
    ({"height": 27.0}, "height", r"2 t \+ R"), ({"die": 200.0, "gap": 140.0}, "die_mm", "too short to lie on a die"), ({"die": 60.0}, "die_mm", "narrower die"),
])  # fmt: skip
def test_a_figure_that_does_not_go_names_the_rule_and_the_least_that_does(
    change: dict[str, float], field: str, rule: str
) -> None:
    with pytest.raises(InputError, match=rule) as refused:
        folded_u(**(GOOD | change))
    assert refused.value.fields == (field,)
    low, high = refused.value.limits or (None, None)
    name = {"radius_mm": "radius", "base_width": "width", "die_mm": "die"}.get(field, field)
    if field != "hole":
        good = GOOD | change | {name: low if low is not None else high}
        folded_u(**good)  # type: ignore[arg-type]


def test_too_tight_a_bend_for_the_rule_of_the_fibre_is_refused_and_a_test_bend_cures_it() -> None:
    with pytest.raises(NotApplicable):
        folded_u(**(GOOD | {"radius": 0.001, "height": 70.0}))
    folded_u(**(GOOD | {"radius": 0.001, "height": 70.0}), k=0.4)


def test_the_demo_s_folded_bracket_stands_on_its_post_and_is_judged_as_two_ears_that_are_one_piece(
    mounted: Design,
) -> None:
    saved = the_u(mounted)
    part = part_of(saved, mounted)
    assert part.complete, part.faults
    assert all(check.passed for check in part.checks)
    keys = {check.key for check in part.checks}
    assert {"pin_shear", "pin_bending", "tab_bearing", "tab_tension", "tab_tearout", "tab_foot", "tab_weld"} <= keys
    made = part.own.joints[0]
    weld = next(check for check in part.checks if check.key == "tab_weld")
    assert weld.reproduce
    half, reach = saved.base_width.mm / 2, made.gap / 2 - saved.radius_mm
    assert sorted(map(tuple, weld.reproduce.input["segments"])) == sorted(welds(saved, made.gap))
    length = sum(hypot(x2 - x1, y2 - y1) for x1, y1, x2, y2 in welds(saved, made.gap))
    assert length == pytest.approx(4 * half + 4 * reach)
    # a flare bevel groove's throat, 5/16 of the outside radius (AISC 360 Table J2.2, from memory), is the lesser here
    throat = 5 / 16 * (saved.radius_mm + saved.plate.mm)
    assert weld.reproduce.input["leg_mm"] * 0.707 == pytest.approx(
        min(throat, 0.707 * saved.weld_leg_mm, 0.707 * min(saved.plate.mm, saved.wall_mm or 99))
    )
    assert counted_leg(saved.model_copy(update={"weld_leg_mm": 1.0})) == 1.0
    again = calculate(weld.reproduce.topic, weld.reproduce.input)["throat_stress_max_mpa"]
    assert again == pytest.approx(weld.demand)
    # its ears do not come off their base to one side: the foot is bent by the pull at its height alone
    foot = next(check for check in part.checks if check.key == "tab_foot").reproduce
    assert foot
    assert foot.input["outside_only"] is False
    assert ears_become(saved, as_pair(saved)) == saved
    mass = part.own.flat.contour.area * saved.plate.mm * 7.85e-6
    assert part.mass == pytest.approx(mass, rel=1e-3)


def test_it_is_told_when_its_mount_is_round_or_its_bolt_would_have_its_ears_lean(mounted: Design) -> None:
    saved = the_u(mounted)
    axle = next(one for one in mounted.mounts if one.name == "Rear cross tube")
    on_tube = tuple(one.model_copy(update={"mount": axle.id}) if one.by == saved.id else one for one in mounted.joints)
    faults = part_of(saved, mounted.model_copy(update={"joints": on_tube})).faults
    assert faults
    leaning = tuple(
        one.model_copy(update={"bolt_axis": (0.97, 0.24, 0.0)}) if one.by == saved.id else one for one in mounted.joints
    )
    faults = part_of(saved, mounted.model_copy(update={"joints": leaning})).faults
    assert any(one.field == "mount" and "square to its base" in one.message for one in faults)


def test_size_it_finds_the_lightest_that_holds(mounted: Design) -> None:
    saved = the_u(mounted)
    found = FOLDED_U.size(saved, work(mounted), _shop(), "mass").winner
    assert found
    assert isinstance(found.parts[0], FoldedU)
    assert found.parts[0].plate.mm <= saved.plate.mm + 1e-9
    joints = tuple(next((j for j in found.joints if j.id == k.id), k) for k in mounted.joints)
    part = part_of(
        found.parts[0], with_part(mounted.model_copy(update={"joints": joints, "catalogue": _shop()}), found.parts[0])
    )
    assert part.complete, part.faults
    assert all(check.passed for check in part.checks)
    heavy = saved.model_copy(update={"yield_mpa": 60.0, "uts_mpa": 90.0})
    none = FOLDED_U.size(heavy, work(with_part(mounted, heavy)), _shop(), "mass")
    assert none.winner is None or none.winner.parts[0].plate.mm > saved.plate.mm  # type: ignore[union-attr]


def _shop():  # type: ignore[no-untyped-def]
    from tests.core.test_mounts import SHOP

    return SHOP


def test_what_is_set_on_the_brake_is_by_the_shop_s_test_bend_where_it_has_one(mounted: Design) -> None:
    saved = the_u(mounted)
    by_test = saved.model_copy(update={"ratio": 0.975})
    assert set_angle(by_test) == pytest.approx(90 / 0.975)
    elastic = calculate(
        "springback",
        {
            "thickness_mm": saved.plate.mm,
            "radius_mm": saved.radius_mm,
            "angle_deg": 90,
            "yield_mpa": saved.yield_mpa,
            "e_mpa": 205000,
        },
    )
    assert set_angle(saved) == pytest.approx(elastic["set_deg"])
    card = part_of(by_test, with_part(mounted, by_test)).card
    assert card
    assert any("92.3°" in line.text and "test bend" in line.text for line in card.lines)


def test_the_file_that_is_cut_from_has_its_bends_on_their_own_layer_and_nothing_but_cuts_on_cut(
    mounted: Design,
) -> None:
    saved = the_u(mounted)
    drawing = draw(saved, mounted, "folded-flat", Numbers())
    document, auditor = recover.read(io.BytesIO(to_dxf(drawing).encode()))
    assert not auditor.errors
    assert document.units == ezdxf.units.MM
    space = document.modelspace()
    bends = [e for e in space if e.dxf.layer == "BEND"]
    assert len(bends) == 2
    part = part_of(saved, mounted)
    flat = part.own.flat
    apart = abs(bends[0].dxf.start.x - bends[1].dxf.start.x)
    t, r = saved.plate.mm, saved.radius_mm
    allowance = pi / 2 * (r + (0.325 + 0.25 * np.log10(r / t)) * t)
    assert apart == pytest.approx(part.own.joints[0].gap - 2 * r + allowance)
    circles = sorted((e.dxf.center.x, e.dxf.radius) for e in space if e.dxftype() == "CIRCLE")
    assert [r for _, r in circles] == pytest.approx([saved.hole.mm / 2] * 2)
    assert circles[1][0] - circles[0][0] == pytest.approx(2 * flat.hole_at)
    # folded back from the file alone: hole to bend line, less half of the allowance and the radius, is the straight of an ear
    straight = circles[1][0] - max(b.dxf.start.x for b in bends) - allowance / 2
    assert straight + r + t == pytest.approx(saved.height.mm)
    cuts = [e for e in space if e.dxf.layer == "CUT"]
    assert {e.dxftype() for e in cuts} <= {"LINE", "ARC", "CIRCLE"}
    assert any("90" in e.dxf.text for e in space if e.dxftype() == "TEXT" and e.dxf.layer == "TEXT")


def test_a_pair_of_tabs_and_a_folded_bracket_on_one_joint_have_one_gap_and_the_same_pin(mounted: Design) -> None:
    saved = the_u(mounted)
    (joint,) = [one for one in mounted.joints if one.by == saved.id]
    stand = work(mounted).stand_of(joint)
    assert isinstance(stand, Stand)
    pair = fitted_on(as_pair(saved), stand)  # its outer fillets by where its post ends
    assert isinstance(pair, TabPair)
    one, two = part_of(saved, mounted), part_of(pair, with_part(mounted, pair))
    same = {check.key: check.demand for check in one.checks if check.key.startswith("pin")}
    assert same == {check.key: check.demand for check in two.checks if check.key.startswith("pin")}
    assert sum(piece.count for piece in one.pieces) == 1  # one plate, and two of a pair of tabs
    assert sum(piece.count for piece in two.pieces) == 2
    wide = saved.model_copy(update={"base_width": Length(mm=saved.base_width.mm + 30.0)})
    assert part_of(wide, with_part(mounted, wide)).checks[0].utilisation <= one.checks[0].utilisation  # type: ignore[operator]


def test_geometry_of_the_head_is_what_a_compass_and_ruler_give() -> None:
    """A tangent from the base's corner to the head: by the right triangle of corner, centre and touch."""
    one = folded_u(**GOOD)
    end = one.base / 2 + one.bend.allowance
    centre = one.hole_at + GOOD["edge"] - GOOD["head"]
    dx, dy = centre - end, 28.0
    long = sqrt(dx * dx + dy * dy - GOOD["head"] ** 2)
    head = next(e for e in one.contour.edges if isinstance(e, Curve) and e.cx > 0)
    lean = asin(GOOD["head"] / hypot(dx, dy))
    way = np.arctan2(dy, dx) + lean  # from the lower corner, turned out round the head
    touch = (end + long * cos(way - 2 * lean), -28.0 + long * sin(way - 2 * lean))
    starts = [head.start, head.end]
    assert min(hypot(p[0] - touch[0], p[1] - touch[1]) for p in starts) < 1e-9


@pytest.mark.parametrize(
    ("gap", "ear", "punch"),
    [(60.0, 30.0, 20.0), (60.0, 52.0, 20.0), (45.0, 31.5, 18.0), (24.0, 70.0, 20.0), (30.0, 8.0, 26.0)],
)
def test_the_first_ear_passes_the_punch_as_the_second_is_bent(gap: float, ear: float, punch: float) -> None:
    """The sheet's own polygon lifted step by step on both sides of a punch drawn as a polygon; the least distance is at the end."""
    top = 400.0
    slope = tan(radians(43.0))
    body = Polygon(
        [(0, 0), (punch / 2, punch / 2 / slope), (punch / 2, top), (-punch / 2, top), (-punch / 2, punch / 2 / slope)]
    )
    found = second_bend(gap, ear, 91.0, punch)
    least = []
    for turn in np.radians(np.linspace(1.0, 91.0, 91) / 2):
        u, n = np.array([cos(turn), sin(turn)]), np.array([-sin(turn), cos(turn)])
        first = LineString([gap * u, gap * u + ear * n])
        least.append(float(min(x for x, _ in first.coords)))
        at_end = first
    assert min(least) == least[-1] == pytest.approx(found.aside)
    assert max(y for _, y in at_end.coords) == pytest.approx(found.above)
    assert body.intersects(at_end) == (found.clear < 0)
    # by as much as is told: a punch that much thinner just clears
    if found.clear < 0 < found.aside:
        assert second_bend(gap, ear, 91.0, 2 * found.aside - 0.01).clear > 0
    told = second_bend_told(found, gap, punch)
    assert bool(told) == (found.clear < 0)
    if found.aside <= 0:
        assert f"back {-found.aside:.0f} mm" in told


def test_what_the_second_bend_asks_is_told_with_the_bracket(mounted: Design) -> None:
    saved = the_u(mounted).model_copy(update={"ratio": 0.9})  # bent to 100° for 90°
    part = part_of(saved, with_part(mounted, saved))
    # by its tip as the flat folds, over the base's inner face, at the angle that the bend is set to, past springback
    flat, tip = part.own.flat, part.own.flat.contour.bounds[2]
    ear = flat.folded(tip, 0.0, 0.0)[2] - saved.plate.mm
    assert part.own.set_deg == pytest.approx(100.0)
    told = second_bend_told(second_bend(flat.gap, ear, part.own.set_deg, 20.0), flat.gap, 20.0)
    assert "goose-necked" in told  # its ears are taller than they stand apart
    assert told in part.notes
    assert any("goose-necked" in line.text for line in part.card.lines)  # type: ignore[union-attr]
    with pytest.raises(InputError, match="narrower die") as caught:
        folded_u(**(GOOD | {"die": 42.0, "height": 90.0}))
    assert caught.value.limits
    assert caught.value.limits[1] == pytest.approx((GOOD["gap"] + GOOD["thickness"]) / 0.7)
    folded_u(**(GOOD | {"die": 39.9, "height": 90.0}))
