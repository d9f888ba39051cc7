"""Feet that straddle a box's corner: on both walls in the car, no more counted on than they have, refused where they do not stand."""

from __future__ import annotations

from math import cos, hypot, radians, sin, sqrt

import numpy as np
import pytest
from shapely.geometry import LineString, Point, Polygon, box

from tests.core.test_mounts import IDS, SHOP
from tests.jobs import bare, part_of, work
from tirante.core.brackets.corner import CornerFoot
from tirante.core.brackets.standing import Standing, on_box
from tirante.core.brackets.weld_group import line_forces
from tirante.core.document.adopt import patched
from tirante.core.document.design import Design
from tirante.core.document.fields import Length
from tirante.core.document.joints import PivotOfArm
from tirante.core.document.mounts import BoxMember, Mount
from tirante.core.document.parts.bracket import CornerBase, FlatBase, RowOfHoles, SpreadPlate, TabPair
from tirante.core.document.parts.folded_u import FoldedU
from tirante.core.errors import InputError
from tirante.core.job.propose import propose
from tirante.core.parts.bracket.families.folded_u import fitted_folded
from tirante.core.parts.bracket.families.place_view import contour_points
from tirante.core.parts.bracket.families.tab_checks import foot_runs, tab_checks
from tirante.core.parts.bracket.families.tab_pair import TabMade
from tirante.core.parts.bracket.families.tab_sizing import outlines_of
from tirante.core.parts.stands import Stand, fitted_on

A, B, UP, ALONG = np.zeros(3), np.array([600.0, 0.0, 0.0]), np.array([0.0, 0.0, 1.0]), np.array([1.0, 0.0, 0.0])


def standing(y: float, z: float, bolt: np.ndarray = ALONG) -> Standing:
    return on_box(np.array([300.0, y, z]), bolt, A, B, UP, (80.0, 60.0))


def pair(**change: object) -> TabPair:
    sizes = {"plate": 6.0, "hole": 12.1, "head_radius": 19.0, "edge": 22.0, "base_width": 64.0, "height": 45.0}
    lengths = {name: Length(mm=float(change.pop(name, mm))) for name, mm in sizes.items()}  # type: ignore[arg-type]
    return TabPair(id=IDS[0], name="Tabs", side="centre", **lengths, **change)  # type: ignore[arg-type]


@pytest.mark.parametrize(("y", "z"), [(75.0, 65.0), (-70.0, 71.0), (66.0, -78.0), (-88.0, -62.0)])
def test_its_legs_lie_on_both_walls_of_whichever_corner_it_straddles(y: float, z: float) -> None:
    """The cut contour against the box's own section, laid over each other by another library."""
    one = standing(y, z)
    assert one.turned_deg is not None
    at = np.array([300.0, y, z])
    assert one.foot == pytest.approx([300.0, np.sign(y) * 40.0, np.sign(z) * 30.0])
    assert one.height == pytest.approx(hypot(abs(y) - 40.0, abs(z) - 30.0))
    assert one.foot + one.height * one.y == pytest.approx(at)
    plate = pair(height=one.height, base=CornerBase(turned_deg=one.turned_deg), base_width=50.0, head_radius=14.0)
    (outline,) = outlines_of(plate, 20.0)
    corners = [one.foot + px * one.x + py * one.y for px, py in contour_points(outline.contour, 0.5)]
    shape, section = Polygon([(c[1], c[2]) for c in corners]), box(-40.0, -30.0, 40.0, 30.0)
    assert shape.is_valid
    assert shape.intersection(section).area < 1e-6
    # along either wall it touches from the hole over the point to the leg's end, and nowhere else
    touching = shape.buffer(1e-6).intersection(section.exterior)
    leg = 50.0 / sqrt(2.0)
    assert touching.length == pytest.approx(2 * (leg - 5.0), abs=0.02)
    assert shape.distance(Point(one.foot[1], one.foot[2])) == pytest.approx(5.0, abs=0.01)
    reach = one.corner(25.0, 0.0), one.corner(-25.0, 0.0)
    assert all(np.linalg.norm(end - one.foot) == pytest.approx(leg) for end in reach)
    assert all(shape.exterior.distance(Point(end[1], end[2])) < 1e-6 for end in reach)


def test_a_corner_is_straddled_where_the_joint_is_past_both_walls_and_the_bolt_along_the_box() -> None:
    assert standing(75.0, 65.0).face == "upper left corner"
    assert standing(-75.0, -65.0).face == "lower right corner"
    before = standing(38.0, 65.0)  # before the upper wall
    assert (before.turned_deg, before.face) == (None, "upper")
    aslant = standing(60.0, 50.0, np.array([cos(radians(4.0)), sin(radians(4.0)), 0.0]))
    assert aslant.turned_deg is None
    # 31° round from the corner's middle line: as good as before one wall
    assert standing(40.0 + 50 * cos(radians(45.0 + 29.0)), 30.0 + 50 * sin(radians(45.0 + 29.0))).turned_deg is not None
    assert standing(40.0 + 50 * cos(radians(45.0 + 31.0)), 30.0 + 50 * sin(radians(45.0 + 31.0))).turned_deg is None


def test_its_legs_reach_no_further_than_their_own_walls() -> None:
    one = standing(75.0, 65.0)
    # 60 mm tall and 80 wide: the shorter wall is passed first
    assert one.overhang(60.0 / sqrt(2.0) - 0.01, 16.0) < 0 < one.overhang(60.0 / sqrt(2.0) + 0.01, 16.0)
    assert sorted(one.legs) == [60.0, 80.0]
    right = one.corner(10.0, 0.0) - one.foot  # that leg's wall is the one that it runs along
    assert one.legs[1] == (80.0 if abs(right[1]) > 1.0 else 60.0)
    near_end = on_box(np.array([10.0, 75.0, 65.0]), ALONG, A, B, UP, (80.0, 60.0))
    assert near_end.overhang(20.0, 16.0) == pytest.approx(6.0)


@pytest.mark.parametrize("turned", [0.0, 12.0, -25.0])
def test_no_more_metal_is_counted_over_a_corner_than_the_plate_has(turned: float) -> None:
    tab = pair(base=CornerBase(turned_deg=turned, wall_mm=4.0), height=60.0)
    (outline,) = outlines_of(tab, 20.0)
    shape = Polygon(contour_points(outline.contour, 0.5))
    at_point = shape.intersection(LineString([(-200.0, 0.0), (200.0, 0.0)])).length
    assert 0.75 * at_point < tab.waist <= at_point + 1e-6
    assert tab.corner is not None
    assert tab.corner.open == pytest.approx(8.0)  # twice the wall


@pytest.mark.parametrize("turned", [0.0, 20.0])
def test_fillets_on_a_corner_are_counted_at_no_more_than_both_legs_hold(turned: float) -> None:
    """The chords' group against the legs themselves as a line group in the plate's plane, its moment of area integrated."""
    tab = pair(base=CornerBase(turned_deg=turned), height=60.0)
    corner = tab.corner
    assert corner is not None
    runs = foot_runs(tab, 40.0, 20.0)
    assert len(runs) == 8
    far = np.linspace(corner.open, corner.leg, 4001)
    points = np.array([corner.on_leg(way, f) for way in (-1.0, 1.0) for f in far])
    length = 2 * (corner.leg - corner.open)
    middle = points.mean(axis=0)
    polar = float(((points - middle) ** 2).sum(axis=1).mean()) * length * 4  # both faces of both plates
    found = []
    for angle in range(-90, 91, 10):
        force = 8000.0 * np.array([sin(radians(angle)), cos(radians(angle))])
        arm = np.array([0.0, 60.0]) - middle
        moment = arm[0] * force[1] - arm[1] * force[0]
        rel = points - middle
        line = force / (4 * length) + moment / polar * np.stack([-rel[:, 1], rel[:, 0]], axis=1)
        exact = float(np.hypot(*line.T).max())
        counted = max(
            float(np.linalg.norm(line_forces(runs, (way * force[0], 0.0, force[1]), (0.0, 0.0, 60.0 + corner.below)).forces, axis=-1).max())
            for way in (1.0, -1.0)
        )  # fmt: skip
        assert exact <= counted, angle
        found.append((exact, counted))
    most = [max(one) for one in zip(*found, strict=True)]
    assert most[1] < 2.0 * most[0]  # and not out of all proportion


def test_a_corner_in_a_car_by_one_press_and_what_it_says_when_the_joint_moves(mounted: Design) -> None:
    """An arm's pivot past the corner of a box that runs along its hinge."""
    job = work(bare(mounted))
    arm = next(part for part in mounted.parts if part.kind == "arm" and "lower" in part.name.lower())
    held = PivotOfArm(kind="arm_pivot", part=arm.id, pivot="front")
    one = next(p for p in job.design.joints if p.held == held)
    at = job.at_of(one)
    assert at is not None
    bolt, place = at.bolt, at.at
    assert bolt is not None
    up = np.array([0.0, 0.0, 1.0]) - bolt[2] * bolt
    side = np.cross(bolt, up / np.linalg.norm(up))
    side = side if side[1] < 0 else -side  # toward the middle of the car
    middle = place + side * (30.0 + 28.0) - up / np.linalg.norm(up) * (25.0 + 36.0)
    shape = BoxMember(a=tuple(middle - 150.0 * bolt), b=tuple(middle + 150.0 * bolt), up=tuple(up), width_mm=60.0, height_mm=50.0, wall_mm=4.0)  # fmt: skip
    rail = Mount(id=IDS[1], name="Sill", shape=shape, yield_mpa=355.0, uts_mpa=470.0)
    design = bare(mounted).model_copy(update={"mounts": (rail,)})
    found = propose(work(design), SHOP, IDS[2:])
    design = patched(design, found.patch)
    pivot = next(joint for joint in design.joints if joint.held == held)
    tab = next(part for part in design.parts if part.id == pivot.by)
    assert isinstance(tab, TabPair)
    assert isinstance(tab.base, CornerBase)
    assert tab.height.mm == pytest.approx(hypot(28.0, 36.0), abs=0.02)
    made = part_of(tab, design)
    assert not made.faults
    assert made.checks
    assert all(check.passed for check in made.checks)
    assert any("beside the corner that it straddles" in told for told in made.not_checked)
    assert isinstance(made.own, TabMade)
    stand = made.own.stands[0]
    assert isinstance(stand, Stand)
    told = [line.text for line in made.card.lines] if made.card else []
    assert any("corner of Sill" in text for text in told)
    # what cannot stand there says so by the field that cures it
    for change, field in (
        ({"spread": SpreadPlate(thickness=Length(mm=5.0))}, "spread"),
        ({"holes": RowOfHoles()}, "holes"),
        ({"base": FlatBase()}, "base/kind"),
        ({"base": CornerBase(turned_deg=tab.base.turned_deg + 1.0)}, "base/turned_deg"),
    ):
        wrong = part_of(tab.model_copy(update=change), design)
        assert [fault.field for fault in wrong.faults][:1] == [field], change
    assert fitted_on(tab.model_copy(update={"base": FlatBase()}), stand).base == tab.base
    u = FoldedU(id=IDS[150], name="U", side="pair", plate=tab.plate, hole=tab.hole, head_radius=tab.head_radius, edge=tab.edge, base_width=tab.base_width, height=tab.height)  # fmt: skip
    ears = fitted_folded(u, stand)
    assert ears.height.mm == pytest.approx(tab.height.mm)
    moved = design.model_copy(update={"mounts": (rail.model_copy(update={"shape": shape.model_copy(update={"width_mm": 130.0})}),)})  # fmt: skip
    wider = part_of(tab, moved)
    assert wider.faults
    assert wider.faults[0].field == "base/kind"


def test_a_foot_too_narrow_for_a_corner_or_a_head_in_its_wall_is_refused_by_what_works() -> None:
    with pytest.raises(InputError) as narrow:
        outlines_of(pair(base=CornerBase(wall_mm=12.0), base_width=60.0), 20.0)
    least = narrow.value.limits[0]
    assert least == pytest.approx(2 * 24.0 * sqrt(2.0))
    outlines_of(pair(base=CornerBase(wall_mm=12.0), base_width=least), 20.0)
    # 19 mm of head: its middle is cos 75° of its height off the nearer wall
    with pytest.raises(InputError) as low:
        outlines_of(pair(base=CornerBase(turned_deg=30.0), height=19.0 / cos(radians(75.0)) - 3.0 - 0.1), 20.0)
    assert low.value.fields == ("height",)
    outlines_of(pair(base=CornerBase(turned_deg=30.0), height=19.0 / cos(radians(75.0)) - 3.0 + 0.1), 20.0)
    assert CornerFoot(width=60.0).open == 5.0


def test_a_turned_corner_s_checks_are_of_its_own_sizes_and_the_same_in_a_mirror(mounted: Design) -> None:
    """What it hands to the methods: the pull beside the middle of what is left over the point, the fillets below it."""
    job = work(mounted)
    one = next(made for part in job.parts if isinstance(part.own, TabMade) for made in part.own.joints if made.bolt)
    found = {}
    for turned in (0.0, 20.0, -20.0):
        tab = pair(base=CornerBase(turned_deg=turned), height=60.0, load_angle_deg=0.0, hole=one.bolt.diameter_mm + 0.5 if one.bolt else 12.0)  # fmt: skip
        assert tab.corner is not None
        checks = {check.key: check for check in tab_checks(tab, one, job.settings)}
        foot, weld = (checks[key].reproduce for key in ("tab_foot", "tab_weld"))
        left, right = tab.corner.waist(60.0 + 22.0 - 19.0, 19.0)
        assert foot.input.get("aside_mm", 0.0) == pytest.approx(abs(left + right) / 2)
        assert foot.input["width_mm"] == pytest.approx(right - left - 10.0)
        assert weld.input["at_mm"][2] == pytest.approx(60.0 + tab.corner.below)
        found[turned] = (checks["tab_foot"].utilisation, checks["tab_weld"].utilisation)
    assert found[20.0] == pytest.approx(found[-20.0])
    assert found[20.0][0] > found[0.0][0]
