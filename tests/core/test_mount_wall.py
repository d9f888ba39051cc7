"""The wall under a bracket's feet: yield lines minimised by numbers, AISC's figures by hand, the wiring by every angle of the pull, spread plates tried."""

from __future__ import annotations

from math import cos, hypot, radians, sin

import numpy as np
import pytest
from scipy.optimize import minimize_scalar
from shapely import LineString, Point

from tests.core.test_mounts import IDS, SHOP
from tests.jobs import bare, draw, part_of, with_part, work
from tirante.calc import calculate
from tirante.core.brackets.mount_wall import (
    Spread,
    Wall,
    bent_through,
    feet_of_pair,
    line_force,
    patch_strength,
    sheared_through,
    spread_wall,
    wall_strength,
)
from tirante.core.checks.result import CheckResult
from tirante.core.document.adopt import patched
from tirante.core.document.design import Design
from tirante.core.document.fields import Length
from tirante.core.document.parts.bracket import SpreadPlate, TabPair
from tirante.core.drawing.model import Line
from tirante.core.drawing.sheet import Numbers
from tirante.core.job.propose import propose
from tirante.core.parts.bracket.families.spread_plate import least_spread, plug_misfit, spreads, with_spread
from tirante.core.parts.bracket.families.tab_checks import slants, tallest
from tirante.core.parts.bracket.families.wall_checks import wall_checks
from tirante.core.parts.part import PlatePiece
from tirante.core.parts.stands import stand_on

BOX = Wall(kind="box", width=80.0, thickness=4.0, yield_mpa=275.0, uts_mpa=410.0)
ROUND = Wall(kind="round", width=114.3, thickness=6.0, yield_mpa=355.0, uts_mpa=470.0)


def tab_of(design: Design, name: str) -> TabPair:
    return next(one for one in design.of_kind(TabPair) if one.name == name)


def check_of(checks: tuple[CheckResult, ...], key: str) -> CheckResult:
    return next(one for one in checks if one.key == key)


@pytest.mark.parametrize(("along", "across"), [(60.0, 8.0), (120.0, 30.0), (20.0, 50.0)])
def test_a_patch_in_a_face_bends_it_by_the_least_of_its_yield_lines(along: float, across: float) -> None:
    """Work of the mechanism: two side panels hinged along the sides, two end panels at a distance that is sought by numbers."""
    plastic = BOX.yield_mpa * BOX.thickness**2 / 4  # moment of a millimetre of yield line
    beside = (BOX.width - across) / 2

    def work_of(x: float) -> float:
        # each panel turns about its own edge; lines at both of its edges, each as long as the panel's edge
        side_panels = 2 * 2 * plastic * (along + 2 * x) / beside
        end_panels = 2 * 2 * plastic * BOX.width / x
        return side_panels + end_panels

    least = minimize_scalar(work_of, bounds=(1.0, 400.0), method="bounded").fun
    sides = 2 * BOX.yield_mpa * BOX.thickness * (5 * BOX.thickness + along)
    assert BOX.carries(along, across) == pytest.approx(min(least, sides), rel=1e-5)


def test_a_plate_along_and_one_across_a_round_tube_by_hand() -> None:
    """AISC 360 chapter K (from memory): 5.5 Fy t² (1 + 0.25 l/D) and 5.5 Fy t²/(1 − 0.81 b/D), 114.3 × 6 mm of S355."""
    assert 5.5 * 355 * 36 == 70290
    assert ROUND.carries(150.0, 0.0) == pytest.approx(70290 * 1.328084, rel=1e-5)
    assert ROUND.carries(0.0, 60.0) == pytest.approx(70290 / (1 - 0.81 * 0.524934), rel=1e-5)


def test_walls_bear_with_their_thickness_squared_and_never_less_for_a_larger_foot() -> None:
    rng = np.random.default_rng(7)
    for _ in range(60):
        kind = "box" if rng.random() < 0.5 else "round"
        width, thick = float(rng.uniform(40, 120)), float(rng.uniform(2, 6))
        wall = Wall(kind=kind, width=width, thickness=thick, yield_mpa=300.0, uts_mpa=450.0)  # type: ignore[arg-type]
        feet = feet_of_pair(float(rng.uniform(20, width * 0.6)), float(rng.uniform(10, 40)), float(rng.uniform(3, 10)), float(rng.uniform(0, 90)))  # fmt: skip
        one, larger = wall_strength(wall, feet), patch_strength(wall, feet, 15.0)
        assert larger.pull >= one.pull
        assert larger.tilt >= one.tilt
        assert one.use(2e3, 3e4, 4e4) == pytest.approx(2e3 / one.pull + 3e4 / one.tilt + 4e4 / one.rock)
        # both feet at once never more than twice one of them, and no more than as one patch
        assert one.pull <= 2 * one.rock / feet.apart + 1e-6
    thin, thick_ = (Wall(kind="round", width=60.0, thickness=t, yield_mpa=300.0, uts_mpa=450.0) for t in (2.0, 4.0))
    assert thick_.carries(50.0, 10.0) == pytest.approx(4 * thin.carries(50.0, 10.0))


def test_moments_are_carried_by_halves_of_the_feet_at_their_levers() -> None:
    """Along a box: one plate of 60 × 6 mm at 30 mm from the other; a patch with 10 mm beyond all round, 80 by 56."""
    feet = feet_of_pair(60.0, 24.0, 6.0, 0.0)
    own, patch = wall_strength(BOX, feet), patch_strength(BOX, feet, 10.0)
    assert own.rock == pytest.approx(BOX.carries(60.0, 6.0) * 30.0)
    assert own.tilt == pytest.approx(min(2 * BOX.carries(30.0, 6.0), BOX.carries(30.0, 36.0)) * 30.0)
    assert patch.pull == pytest.approx(BOX.carries(80.0, 56.0))
    assert patch.tilt == pytest.approx(BOX.carries(40.0, 56.0) * 40.0)
    assert patch.rock == pytest.approx(BOX.carries(80.0, 28.0) * 28.0)
    # across it, along and across change places
    across = wall_strength(BOX, feet_of_pair(60.0, 24.0, 6.0, 90.0))
    assert across.rock == pytest.approx(BOX.carries(6.0, 60.0) * 30.0)


def test_a_spread_plate_is_as_wide_a_wall_as_it_is_held_and_no_wider_than_its_face() -> None:
    feet = feet_of_pair(60.0, 24.0, 6.0, 0.0)
    assert spread_wall(BOX, feet, 10.0, 5.0, 355.0, 470.0).width == pytest.approx(56.0)
    assert spread_wall(BOX, feet, 40.0, 5.0, 355.0, 470.0).width == pytest.approx(80.0)
    rolled = spread_wall(ROUND, feet, 10.0, 5.0, 355.0, 470.0)
    assert (rolled.width, rolled.thickness, rolled.yield_mpa) == pytest.approx((124.3, 5.0, 355.0))


@pytest.mark.parametrize(
    ("name", "bare_width"), [("Rear upper link, end A, tabs", 76.2), ("Rear lower link, end A, tabs", 80.0)]
)
def test_under_a_spread_plate_the_wall_is_the_members_own(mounted: Design, name: str, bare_width: float) -> None:
    from tirante.core.parts.bracket.families.tab_pair import fitted_to

    tab = tab_of(mounted, name).model_copy(update={"spread": SpreadPlate(thickness=Length(mm=4.0), beyond_mm=5.0)})
    design = with_part(mounted, tab)
    tab = fitted_to(tab, work(design).held_by(tab.id)[0], work(design))
    check = check_of(part_of(tab, with_part(design, tab)).checks, "mount_wall")
    assert check.reproduce is not None
    assert check.reproduce.input["width_mm"] == pytest.approx(bare_width)
    assert check.reproduce.input["spread_mm"] == 4.0


def test_a_foot_pulls_along_its_length_as_a_line_under_pull_and_moments() -> None:
    feet = feet_of_pair(60.0, 24.0, 6.0, 90.0)
    ends = np.array([-30.0, 30.0])
    # 12 kN, 90 N·m in the plates' plane, 60 N·m along the bolt: by N/A + M/Z of two lines of 60 mm, 30 mm apart
    each = 12e3 / 120 + 90e3 * np.abs(ends) / (2 * 60**3 / 12) + 60e3 / 30 / 60
    assert line_force(feet, 12e3, 90e3, 60e3) == pytest.approx(each.max())


def test_a_spread_plate_gives_by_itself_or_the_wall_under_it_does() -> None:
    feet = feet_of_pair(60.0, 24.0, 6.0, 0.0)
    acting = 9e3, 2e5, 0.0
    bare_ = bent_through(BOX, feet, None, *acting)
    thin = bent_through(BOX, feet, Spread(thickness=2.0, beyond=10.0, yield_mpa=275.0, uts_mpa=410.0), *acting)
    stout = bent_through(BOX, feet, Spread(thickness=8.0, beyond=10.0, yield_mpa=275.0, uts_mpa=410.0), *acting)
    assert bare_.of == "its wall"
    assert thin.of == "the spread plate"
    assert thin.use > bare_.use
    assert stout.of == "the wall under the spread plate"
    assert stout.use < bare_.use
    line, least, of = sheared_through(BOX, feet, Spread(thickness=8.0, beyond=10.0, yield_mpa=275.0, uts_mpa=410.0), *acting)  # fmt: skip
    assert of == "the wall along the spread plate’s edge"
    assert least == pytest.approx(0.6 * 410 * 4.0)
    a, b = 80.0, 24.0 + 12.0 + 20.0
    # a rectangle of lines bent about its short middle: its two long sides b·a²/… by hand, I/(a/2)
    inertia = 2 * a**3 / 12 + 2 * b * (a / 2) ** 2
    assert line == pytest.approx(9e3 / (2 * (a + b)) + 2e5 * (a / 2) / inertia)


@pytest.mark.parametrize(
    "name", ["Rear lower link, end A, tabs", "Panhard rod, end B, tabs", "Front lower arm, front pivot, tabs"]
)
def test_a_brackets_wall_is_judged_at_the_worst_angle_of_every_case(mounted: Design, name: str) -> None:
    """Every case, every tenth of a degree that its pull may have: no angle asks more than the check says, and one asks as much."""
    tab, job = tab_of(mounted, name), work(mounted)
    part = part_of(tab, mounted)
    made, stand = part.own.joints[0], part.own.stands[0]
    shape, mount = stand.mount.shape, stand.mount
    face = {
        "round": getattr(shape, "od_mm", 0.0),
        "box": 2 * stand.standing.across[2] if stand.standing.across else 0.0,
    }
    wall = Wall(
        kind=shape.kind,
        width=face[shape.kind],
        thickness=shape.wall_mm,
        yield_mpa=mount.yield_mpa,
        uts_mpa=mount.uts_mpa,
    )
    angle = (
        tab.base.angle_deg
        if shape.kind == "round"
        else np.degrees(np.arcsin(abs(stand.standing.bolt @ stand.standing.run)))
    )  # type: ignore[union-attr]
    feet = feet_of_pair(tab.base_width.mm, made.gap, tab.plate.mm, float(angle))
    assert tab.spread is None
    own, height = wall_strength(wall, feet), tallest(tab, made.gap)
    aside = 0.0
    factor = job.settings.factors.tab_yield
    worst = 0.0
    for case in made.held.cases:
        for turn in np.arange(*slants(tab, made.held), 0.1):
            pull = abs(case.axial_n) * factor
            used = own.use(pull * cos(radians(turn)), pull * (abs(sin(radians(turn))) * height + abs(cos(radians(turn))) * aside), abs(case.across_n) * factor * height)  # fmt: skip
            worst = max(worst, used)
    found = check_of(part.checks, "mount_wall")
    assert found.utilisation == pytest.approx(worst, rel=2e-3)
    assert found.utilisation >= worst - 1e-9
    reproduced = calculate(found.reproduce.topic, found.reproduce.input)  # type: ignore[union-attr]
    assert reproduced["equivalent_n"] == pytest.approx(found.demand)
    assert reproduced["capacity_n"] == pytest.approx(found.capacity)
    shear = check_of(part.checks, "mount_shear")
    line = calculate(shear.reproduce.topic, shear.reproduce.input)  # type: ignore[union-attr]
    assert line["line_utilisation"] == pytest.approx(shear.utilisation)


def test_a_thin_wall_is_told_and_the_spread_plate_that_is_advised_holds_and_a_lighter_one_does_not(
    mounted: Design,
) -> None:
    name = "Rear upper link, end A, tabs"
    tab = tab_of(mounted, name)
    assert tab.spread is not None  # as it ships
    job = work(mounted)
    own = job.held_by(tab.id)[0]
    plain = tab.model_copy(update={"spread": None})
    design = with_part(mounted, plain)
    from tirante.core.parts.bracket.families.tab_pair import fitted_to

    plain = fitted_to(plain, own, work(design))
    part = part_of(plain, with_part(design, plain))
    assert check_of(part.checks, "mount_wall").utilisation > 1.0  # type: ignore[operator]
    advice = next(note for note in part.notes if "spread plate of" in note)
    made, stand = part.own.joints[0], part.own.stands[0]
    found = least_spread(plain, made, stand, job.settings)
    assert found is not None
    assert f"{found.thickness.mm:g} mm, {found.beyond_mm:g} mm beyond" in advice
    taken, on = with_spread(plain, stand, found)  # type: ignore[misc]
    # the foot stands on it: lower by its thickness, and on a tube so much stouter
    assert taken.height.mm == pytest.approx(plain.height.mm - found.thickness.mm, abs=0.011)
    assert taken.base.tube_od.mm == pytest.approx(plain.base.tube_od.mm + 2 * found.thickness.mm)  # type: ignore[union-attr]
    after = part_of(taken, with_part(design, taken))
    assert not after.faults
    assert check_of(after.checks, "mount_wall").passed
    assert check_of(after.checks, "mount_shear").passed
    lighter = [one for one in spreads(plain, made) if one == found or spreads(plain, made).index(one) < spreads(plain, made).index(found)][:-1]  # fmt: skip
    for one in lighter[-4:]:
        tried = with_spread(plain, stand, one)
        assert tried is None or not all(check.passed for check in wall_checks(tried[0], made, tried[1], job.settings))
    piece = next(p for p in after.pieces if isinstance(p, PlatePiece) and p.name == "spread plate")
    assert piece.thickness == found.thickness.mm
    assert piece.count == 1
    corner = (4 - np.pi) * 10.0**2
    assert piece.outline.area == pytest.approx(piece.length * piece.width - corner, rel=1e-9)  # type: ignore[union-attr]
    # along the tube: both feet and what is between them (its plates stand across), and the same beyond all round
    assert piece.length == pytest.approx(made.gap + 2 * plain.plate.mm + 2 * found.beyond_mm)
    del on


def test_a_spread_plate_wider_than_its_face_is_refused_by_name(mounted: Design) -> None:
    tab = tab_of(mounted, "Panhard rod, end B, tabs")
    wide = tab.model_copy(update={"spread": SpreadPlate(thickness=Length(mm=4.0), beyond_mm=40.0)})
    design = with_part(mounted, wide)
    from tirante.core.parts.bracket.families.tab_pair import fitted_to

    wide = fitted_to(wide, work(design).held_by(tab.id)[0], work(design))
    faults = part_of(wide, with_part(design, wide)).faults
    assert [one.field for one in faults] == ["spread"]
    assert "Make it reach less far" in faults[0].message


@pytest.mark.parametrize(("lacks", "told"), [({"yield_mpa": None}, "its yield strength is not entered"), ({"yield_mpa": None, "uts_mpa": None}, "its yield strength and ultimate strength are not entered")])  # fmt: skip
def test_a_wall_that_is_not_known_is_named_and_not_judged(mounted: Design, lacks: dict[str, None], told: str) -> None:
    tab = tab_of(mounted, "Panhard rod, end B, tabs")
    mounts = tuple(
        one.model_copy(update=lacks) if one.name == "Panhard stub on the axle" else one for one in mounted.mounts
    )
    part = part_of(tab, mounted.model_copy(update={"mounts": mounts}))
    assert not [one for one in part.checks if one.key.startswith("mount_")]
    assert any(told in one for one in part.not_checked)
    known = part_of(tab, mounted)
    assert any("what else Panhard stub on the axle carries" in one for one in known.not_checked)


def test_what_is_proposed_on_a_thin_wall_stands_on_a_spread_plate_and_holds(mounted: Design) -> None:
    design = bare(mounted)
    found = propose(work(design), SHOP, IDS)
    job = work(patched(design, found.patch))
    spread = [part for part in found.patch.parts if isinstance(part, TabPair) and part.spread is not None]
    assert spread
    for part in spread:
        made = job.part(part.id)
        assert made
        assert not made.faults
        assert check_of(made.checks, "mount_wall").passed


@pytest.mark.parametrize(
    "name", ["Rear lower link, end A, tabs", "Rear upper link, end A, tabs", "Front lower arm, front pivot, tabs"]
)
def test_plug_welds_are_clear_of_feet_edges_and_each_other(mounted: Design, name: str) -> None:
    """Every hole against the feet as the drawing marks them, the plate's edges and the others; the rules of AISC 360 J2.3b (from memory) by hand."""
    tab = tab_of(mounted, name)
    spread = SpreadPlate(thickness=Length(mm=4.0), beyond_mm=5.0 if "lower link" in name else 15.0, plug_mm=12.0)
    (joint,) = work(mounted).held_by(tab.id)
    stand = stand_on(mounted.mount(joint.mount), work(mounted).at_of(joint))  # type: ignore[arg-type]
    one, _ = with_spread(tab, stand, spread)  # type: ignore[misc]
    job = work(with_part(mounted, one))
    part = job.part(one.id)
    assert part
    assert part.complete, part.faults
    piece = next(p for p in part.pieces if isinstance(p, PlatePiece) and p.name == "spread plate")
    assert piece.outline
    holes = piece.outline.holes
    assert len(holes) >= 2
    assert f"{len(holes)} holes ⌀12 mm for plug welds" in piece.told
    left, low, right, high = piece.outline.bounds
    marks = [
        (item.x1 + left, item.y1 + low, item.x2 + left, item.y2 + low)
        for item in draw(one, job.design, "spread-flat", Numbers()).items
        if getattr(item, "style", "") == "mark" and isinstance(item, Line)
    ]
    crosses = [m for m in marks if any(hypot((m[0] + m[2]) / 2 - h.x, (m[1] + m[3]) / 2 - h.y) < 1e-6 for h in holes)]
    assert len(crosses) == 2 * len(holes)  # each one's middle is marked
    feet = [m for m in marks if m not in crosses]
    assert feet
    for hole in holes:
        assert min(hole.x - left, right - hole.x, hole.y - low, high - hole.y) >= 1.25 * 12.0 - 1e-9
        near = min(LineString([m[:2], m[2:]]).distance(Point(hole.x, hole.y)) for m in feet)
        assert near >= 6.0 + tab.plate.mm + 2.0 - 1e-6
        assert all(hypot(hole.x - other.x, hole.y - other.y) >= 4 * 12.0 - 1e-9 for other in holes if other is not hole)
    for d, word in ((11.0, "12 mm or more"), (15.5, "15 mm wide at most")):
        (fault,) = part_of(
            one.model_copy(update={"spread": spread.model_copy(update={"plug_mm": d})}), job.design
        ).faults
        assert fault.field == "spread.plug_mm"
        assert word in fault.message
    assert part_of(one.model_copy(update={"spread": spread.model_copy(update={"plug_mm": 15.0})}), job.design).complete
    made = part.own.joints[0]
    for d, good in ((22.4, True), (22.6, False)):  # of a plate of 10 it is 2.25 times as much, not 3 mm over the least
        thick = spread.model_copy(update={"thickness": Length(mm=10.0), "plug_mm": d})
        assert ("at most" in plug_misfit(one.model_copy(update={"spread": thick}), made, stand)) is not good


def test_where_no_plug_weld_is_clear_of_the_feet_that_is_told(mounted: Design) -> None:
    tab = tab_of(mounted, "Front damper, upper eye, tabs")
    (joint,) = work(mounted).held_by(tab.id)
    stand = stand_on(mounted.mount(joint.mount), work(mounted).at_of(joint))  # type: ignore[arg-type]
    one, _ = with_spread(tab, stand, SpreadPlate(thickness=Length(mm=4.0), beyond_mm=10.0, plug_mm=12.0))  # type: ignore[misc]
    (fault,) = part_of(one, mounted).faults
    assert fault.field == "spread.plug_mm"
    assert "clear of feet and edges" in fault.message
