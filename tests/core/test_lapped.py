"""Plates lapped on a face, straight, joggled or hooked over an edge, holding a joint in single shear."""

from __future__ import annotations

from dataclasses import replace
from itertools import pairwise
from math import cos, hypot, pi, radians, sin, sqrt

import numpy as np
import pytest
from shapely.geometry import Point, Polygon

from tests.core.test_mounts import IDS, SHOP
from tests.jobs import bare, draw, part_of, with_part, work
from tirante.calc import calculate
from tirante.core.brackets.lapped import LappedRoot, root_stress
from tirante.core.document.adopt import patched
from tirante.core.document.design import Design
from tirante.core.document.end import DamperEye
from tirante.core.document.fields import Length
from tirante.core.document.joints import HeldJoint
from tirante.core.document.mounts import BoxMember, FlatMember, Mount, RoundMember
from tirante.core.document.parts.lapped_plate import LappedPlate
from tirante.core.document.parts.link import FixedEnd, Link
from tirante.core.drawing.sheet import Numbers
from tirante.core.errors import InputError, NotApplicable
from tirante.core.flat.contour import require_closed
from tirante.core.job.places import places_of
from tirante.core.job.propose import propose
from tirante.core.loads.case_seen import CaseSeen
from tirante.core.parts.bracket.families.lapped import (
    LAPPED_PLATE,
    LappedMade,
    fitted_lapped,
    lapped_checks,
    lapped_flats,
)
from tirante.core.parts.bracket.families.place_view import contour_points
from tirante.core.parts.stands import At, Stand, lie_on
from tirante.core.sheet.lapped import Lapped, lapped

HEAD = (18.0, 22.0, 12.5)  # radius, hole to the free end, hole


def flat(off: float = 0.0, angle: float = 45.0, flange: float = 0.0, **more: float) -> Lapped:
    sizes = {"thickness": 6.0, "width": 50.0, "foot": 60.0, "reach": 90.0, "radius": 6.0} | more
    return lapped(
        sizes["thickness"],
        sizes["width"],
        sizes["foot"],
        sizes["reach"],
        HEAD,
        (off, radians(angle)),
        flange,
        sizes["radius"],
        die=40.0,
    )


@pytest.mark.parametrize(
    ("off", "angle", "flange"),
    [(0.0, 45.0, 0.0), (20.0, 45.0, 0.0), (35.0, 60.0, 40.0), (12.0, 30.0, 0.0), (0.0, 45.0, 45.0), (40.0, 90.0, 0.0)],
)
def test_it_folds_back_to_where_it_was_to_be_and_its_middle_is_as_long_as_the_flat(
    off: float, angle: float, flange: float
) -> None:
    """Walked along its neutral fibre in small steps: no jump, no stretch; the ends lie where the sizes say."""
    one = flat(off, angle, flange)
    require_closed(one.contour, "plate")
    shape = Polygon(contour_points(one.contour, 1.0))
    assert shape.is_valid
    low = one.contour.bounds[1]
    # every depth is one smooth line, square to the sheet's thickness
    ys = np.linspace(low, one.contour.bounds[3], 4000)
    for depth in (0.0, 3.0, 6.0):
        line = np.array([one.folded(float(y), depth) for y in ys])
        steps = np.hypot(*np.diff(line, axis=0).T)
        assert steps.max() < 3.0 * (ys[1] - ys[0])
    top, under = (np.array([one.folded(float(y), depth) for y in ys]) for depth in (0.0, 6.0))
    assert np.hypot(*(top - under).T) == pytest.approx(6.0)
    # the neutral fibre, K from the inside of each bend, keeps its length; where bends turn either way it changes side
    k = (one.joggle.bend.k if one.joggle else one.hook.k if one.hook else 0.5) * 6.0
    length = 0.0
    for a, b in pairwise(ys):
        mid = (a + b) / 2
        first = one.joggle is not None and 0 < mid <= one.joggle.bend.allowance
        depth = k if first else 6.0 - k  # up first: the inside is the upper face
        p, q = one.folded(float(a), depth), one.folded(float(b), depth)
        length += hypot(q[0] - p[0], q[1] - p[1])
    assert length == pytest.approx(ys[-1] - ys[0], rel=1e-3)
    (hole,) = one.contour.holes
    along, high = one.folded(hole.y, 6.0)
    assert (along, high) == pytest.approx((90.0, off))
    assert one.folded(hole.y, 0.0)[1] == pytest.approx(off + 6.0)
    if not flange:
        assert low == pytest.approx(-60.0)
        return
    # hooked: its inside faces meet on the member's edge, its end hangs as far as it was given, outside
    end = one.folded(low, 0.0)
    assert end == pytest.approx((-60.0 - 6.0, 6.0 - flange))
    assert one.folded(low, 6.0)[0] == pytest.approx(-60.0)


def test_its_outline_is_a_rectangle_and_a_round_head_with_its_hole_in_metal() -> None:
    one = flat(20.0)
    shape = Polygon(contour_points(one.contour, 0.5))
    (hole,) = one.contour.holes
    assert shape.exterior.distance(Point(hole.x, hole.y)) == pytest.approx(18.2, abs=0.3)
    assert one.contour.bounds[3] == pytest.approx(hole.y + 22.0)
    assert (one.contour.bounds[0], one.contour.bounds[2]) == pytest.approx((-25.0, 25.0))
    up, down = one.contour.bends
    assert (up.angle_deg, down.angle_deg) == pytest.approx((45.0, -45.0))
    # between its bend lines the sheet is straight but for half of either bend
    a, s = one.joggle.bend.allowance, one.joggle.straight  # type: ignore[union-attr]
    assert down.line.y1 - up.line.y1 == pytest.approx(a + s)
    assert one.joggle.offset == pytest.approx(2 * 9.0 * (1 - cos(pi / 4)) + s * sin(pi / 4))  # type: ignore[union-attr]


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"off": 3.0}, "bend_deg"), ({"off": 20.0, "reach": 45.0}, "reach_mm"), ({"off": 20.0, "foot": 20.0}, "foot_mm"), ({"width": 30.0}, "base_width"),
        ({"flange": 15.0}, "flange_mm"), ({"flange": 40.0, "foot": 30.0}, "foot_mm"), ({"reach": 14.0}, "reach_mm"),
    ],
)  # fmt: skip
def test_what_cannot_be_folded_is_refused_with_the_least_that_can(change: dict[str, float], field: str) -> None:
    with pytest.raises(InputError) as found:
        flat(**change)
    assert found.value.fields == (field,)
    least = found.value.limits and found.value.limits[0]
    if least:
        name = {"reach_mm": "reach", "foot_mm": "foot", "base_width": "width", "flange_mm": "flange"}[field]
        flat(**{**change, name: least + 1e-6})


# --- on a car ----------------------------------------------------------------------------------------------------------------


def rail(**change: object) -> BoxMember:
    """A box across the car, 60 wide and 80 high, its lower face at 300."""
    return BoxMember(
        **{"a": (0, -200, 340), "b": (0, 200, 340), "up": (0, 0, 1), "width_mm": 60, "height_mm": 80, "wall_mm": 5}
        | change
    )  # type: ignore[arg-type]


def test_it_lies_on_the_face_that_its_bolt_is_square_to_and_reaches_past_the_edge() -> None:
    """A joint below a cross box, its bolt along the car: the plate lies on the front face and hangs down."""
    at = At(
        end_id=None,
        body="ground",
        at=np.array([70.0, 40.0, 250.0]),
        bolt=np.array([1.0, 0.0, 0.0]),
        bolt_told="",
        pull=None,
    )
    one = lie_on(Mount(id=IDS[0], name="cross box", shape=rail()), at).standing
    assert one.lies is not None
    assert (one.face, one.lies.past, one.lies.room) == ("front", True, 80.0)
    assert one.lies.high == pytest.approx(40.0)
    assert one.height == pytest.approx(50.0)
    assert one.foot == pytest.approx([30.0, 40.0, 300.0])
    assert one.y == pytest.approx([0.0, 0.0, -1.0])
    # before the face it lies along the box, its foot on the longer side
    over = lie_on(
        Mount(id=IDS[0], name="cross box", shape=rail()), replace(at, at=np.array([70.0, 40.0, 350.0]))
    ).standing
    assert over.lies is not None
    assert (over.lies.past, over.lies.room) == (False, 240.0)
    assert over.y == pytest.approx([0.0, 1.0, 0.0])
    for bolt, told in (([1.0, 0.2, 0.0], "11° from square"), ([0.0, 1.0, 0.0], "90° from square")):
        with pytest.raises(NotApplicable, match=told):
            lie_on(
                Mount(id=IDS[0], name="cross box", shape=rail()),
                replace(at, bolt=np.array(bolt) / np.linalg.norm(bolt)),
            )
    with pytest.raises(NotApplicable, match="is round"):
        lie_on(Mount(id=IDS[0], name="tube", shape=RoundMember(a=(0, -9, 0), b=(0, 9, 0), od_mm=50)), at)
    wall = FlatMember(through=(30.0, 0.0, 0.0), normal=(1.0, 0.0, 0.0))
    flat_ = lie_on(Mount(id=IDS[0], name="wall", shape=wall), at).standing
    assert flat_.lies is not None
    assert flat_.lies.high == pytest.approx(40.0)
    assert flat_.y == pytest.approx([0.0, 0.0, 1.0])  # its foot below the joint


HIGH, PAST = 30.0, 70.0  # mm, of the joint over the face, and past its edge


def held_by_a_plate(mounted: Design, high: float = HIGH, past: float = PAST) -> tuple[Design, LappedPlate]:
    """Marram's Panhard rod at the body, below a box along the car that its bolt is square to; nothing else is entered."""
    design = bare(mounted)
    link = next(part for part in design.parts if part.name == "Panhard rod")
    found = next(one for one in places_of(work(design)) if one.id == link.id and one.name == "end A")
    assert found.at is not None
    x, y, z = found.at
    shape = BoxMember(
        a=(x - high - 25.0, y - 150.0, z + past + 40.0),
        b=(x - high - 25.0, y + 150.0, z + past + 40.0),
        up=(0, 0, 1),
        width_mm=50,
        height_mm=80,
        wall_mm=6,
    )
    mount = Mount(id=IDS[150], name="Cross box", shape=shape, yield_mpa=355.0, uts_mpa=470.0)
    joint = HeldJoint(id=IDS[151], held=found.held, bolt_axis=(1.0, 0.0, 0.0))
    joints = (*(one for one in design.joints if one.held != found.held), joint)
    design = design.model_copy(update={"mounts": (mount,), "joints": joints})
    made = propose(work(design), SHOP, IDS, (link.id,))
    design = patched(design, made.patch)
    plate = next(part for part in design.parts if part.kind == "lapped_plate")
    assert isinstance(plate, LappedPlate)
    return design, plate


def test_where_no_pair_of_plates_stands_one_press_lays_a_plate_that_reaches_its_joint(mounted: Design) -> None:
    design, plate = held_by_a_plate(mounted)
    part = part_of(plate, design)
    assert not part.faults
    assert isinstance(part.own, LappedMade)
    (made,), (stand,) = part.own.joints, part.own.stands
    assert stand is not None
    # plate, spacer and half of what is held, and the joggle: as far as the joint stands over the face
    assert plate.offset_mm + plate.plate.mm + made.beside + made.held.row.ball_width_mm / 2 == pytest.approx(
        HIGH, abs=0.02
    )
    assert plate.height.mm == pytest.approx(PAST, abs=0.02)
    # the flat folded back in the car: its hole is on the joint's bolt, its upper face beside the spacer
    (hole,) = part.own.flat.contour.holes
    along, up = part.own.flat.folded(hole.y, 0.0)
    at = stand.standing.foot + along * stand.standing.y + up * stand.standing.bolt
    off = stand.at.at - at
    assert off - float(off @ stand.standing.bolt) * stand.standing.bolt == pytest.approx(np.zeros(3), abs=0.02)
    assert float(off @ stand.standing.bolt) == pytest.approx(made.beside + made.held.row.ball_width_mm / 2, abs=0.03)
    # and what stands in 3D stands there too
    flats = lapped_flats(plate, part.own.flat, stand)
    tongue = flats[1]
    corners = tongue.at + tongue.outline[:, :1] * tongue.x + tongue.outline[:, 1:] * tongue.y
    assert float(((corners - at) @ stand.standing.y).max()) == pytest.approx(plate.edge.mm, abs=0.1)
    assert np.abs((corners - at) @ stand.standing.bolt + plate.plate.mm / 2).max() < 0.03
    told = [line.text for line in part.card.lines] if part.card else []
    assert any("on the front face of Cross box" in text for text in told)
    assert any("from one side" in note for note in part.notes)


def test_a_joint_that_moves_is_told_by_the_field_that_cures_it(mounted: Design) -> None:
    design, plate = held_by_a_plate(mounted)
    for change, field in (
        ({"offset_mm": plate.offset_mm + 1.0}, "offset_mm"), ({"height": Length(mm=plate.height.mm + 1.0)}, "height"), ({"foot_mm": 90.0}, "foot_mm"),
        ({"flange_mm": 60.0, "foot_mm": 70.0}, "flange_mm"), ({"flange_mm": 60.0, "foot_mm": 80.0, "radius_mm": 14.0}, "radius_mm"),
    ):  # fmt: skip
        wrong = part_of(plate.model_copy(update=change), design)
        assert field in [fault.field for fault in wrong.faults], change
    box = design.mounts[0].shape
    assert isinstance(box, BoxMember)
    moved = (
        tuple(v + (3.0 if i == 0 else 0.0) for i, v in enumerate(box.a)),
        tuple(v + (3.0 if i == 0 else 0.0) for i, v in enumerate(box.b)),
    )
    nearer = design.model_copy(update={"mounts": (design.mounts[0].model_copy(update={"shape": box.model_copy(update={"a": moved[0], "b": moved[1]})}),)})  # fmt: skip
    assert [fault.field for fault in part_of(plate, nearer).faults] == ["offset_mm"]
    stand = work(nearer).stand_of(next(one for one in nearer.joints if one.by == plate.id))
    assert isinstance(stand, Stand)
    part = part_of(plate, design)
    again = fitted_lapped(plate, stand, part.own.joints[0])  # type: ignore[union-attr]
    assert again.offset_mm == pytest.approx(plate.offset_mm - 3.0, abs=0.02)
    assert not part_of(again, nearer).faults
    turned = design.model_copy(update={"joints": tuple(one.model_copy(update={"bolt_axis": (0.0, 1.0, 0.0)}) if one.by == plate.id else one for one in design.joints)})  # fmt: skip
    assert [fault.field for fault in part_of(plate, turned).faults] == ["mount"]


def test_it_is_judged_in_single_shear_with_all_that_stands_off_it(mounted: Design) -> None:
    """Every figure from the joint's cases, by hand."""
    design, plate = held_by_a_plate(mounted)
    part = part_of(plate, design)
    made, factors = part.own.joints[0], work(design).settings.factors  # type: ignore[union-attr]
    checks = {check.key: check for check in part.checks}
    assert {
        "pin_shear",
        "pin_bending",
        "tab_bearing",
        "tab_tension",
        "tab_tearout",
        "lapped_root",
        "tab_weld",
        "mount_wall",
        "mount_shear",
    } <= set(checks)
    bolt, t = made.bolt, plate.plate.mm
    worst = max(case.resultant_n for case in made.held.cases)
    area = pi * bolt.diameter_mm**2 / 4
    shear = checks["pin_shear"]
    assert shear.demand == pytest.approx(worst * factors.bolt)
    ultimate = {"grade 8": 150 * 6.894757, "grade 5": 120 * 6.894757, "10.9": 1000.0, "8.8": 800.0}[bolt.strength_class]
    assert shear.capacity == pytest.approx(0.6 * ultimate * area, rel=1e-6)  # one plane
    bending = checks["pin_bending"]
    lever = t / 2 + made.beside + made.held.row.ball_width_mm / 2
    assert bending.demand == pytest.approx(32 * worst * factors.bolt * lever / (pi * bolt.diameter_mm**3))
    bearing = checks["tab_bearing"]
    assert bearing.capacity == pytest.approx(1.8 * plate.yield_mpa * bolt.diameter_mm * t)  # one plate bears it all
    root = checks["lapped_root"].reproduce
    assert root is not None
    assert root.input["lever_mm"] == pytest.approx(HIGH - t / 2, abs=0.02)
    assert root.input["reach_mm"] == pytest.approx(PAST, abs=0.02)
    by_name = {case.name: case for case in made.held.cases}
    seen = by_name[str(checks["lapped_root"].case)]
    assert (root.input["pull_n"], root.input["side_n"]) == pytest.approx((factors.tab_yield * abs(seen.axial_n), factors.tab_yield * abs(seen.across_n)))  # fmt: skip
    for check in part.checks:
        if check.reproduce is not None and check.reproduce.figure == "demand":
            assert calculate(check.reproduce.topic, check.reproduce.input)[check.reproduce.output] == pytest.approx(
                check.demand
            ), check.key
    weld = checks["tab_weld"].reproduce
    assert weld is not None
    assert weld.input["at_mm"] == pytest.approx([0.0, PAST, HIGH], abs=0.02)
    w, foot = plate.base_width.mm / 2, plate.foot_mm
    assert weld.input["segments"] == [[-w, -foot, -w, 0.0], [w, -foot, w, 0.0], [-w, -foot, w, -foot]]
    wall = checks["mount_wall"].reproduce
    assert wall is not None
    assert (wall.input["width_mm"], wall.input["foot_mm"], wall.input["angle_deg"]) == pytest.approx((80.0, foot, 90.0))
    assert wall.input["gap_mm"] + wall.input["plate_mm"] == pytest.approx(2 * w)
    # what pulls off the wall is the side force alone; the rest turns its foot over, both ways together as far as the joint stands off
    for key, factor in (("mount_wall", factors.tab_yield), ("mount_shear", factors.tab_rupture)):
        does, seen = checks[key].reproduce.input, by_name[str(checks[key].case)]  # type: ignore[union-attr]
        assert does["pull_n"] == pytest.approx(factor * abs(seen.across_n))
        over = hypot(does["tilt_nmm"] - does["pull_n"] * (PAST + foot / 2), does["rock_nmm"])
        assert over == pytest.approx(factor * abs(seen.axial_n) * HIGH, rel=2e-3)
    hooked = part_of(plate.model_copy(update={"flange_mm": 70.0, "foot_mm": 80.0}), design)
    assert not hooked.faults
    runs = next(check for check in hooked.checks if check.key == "tab_weld").reproduce
    assert runs is not None
    assert runs.input["segments"] == [[-w, -80.0, -w, 0.0], [w, -80.0, w, 0.0]]  # its far end is folded over


def test_what_bends_it_where_it_leaves_its_weld_is_a_cantilever_s_and_a_shaft_s() -> None:
    """A flat bar by the sections' own moduli; its twist by the series of a rectangle (Timoshenko), not by the rule of thumb."""
    root = LappedRoot(width=60.0, thickness=8.0, reach=50.0, lever=22.0)
    assert root_stress(root, 3000.0, 0.0, 0.0) == pytest.approx(3000 / 480 + 3000 * 22 / (60 * 64 / 6))
    only_side = root_stress(root, 0.0, 0.0, 400.0)
    assert only_side == pytest.approx(hypot(400 * 50 / (60 * 64 / 6), sqrt(3) * 1.5 * 400 / 480))
    across = root_stress(root, 3000.0, 90.0, 0.0)
    a, b = 60.0, 8.0
    # greatest shear of a rectangle in torsion, at the middle of its long side
    k1 = 1 - 8 / pi**2 * sum(1 / n**2 / np.cosh(n * pi * a / (2 * b)) for n in (1, 3, 5, 7))
    k = (1 - 192 / pi**5 * b / a * sum(np.tanh(n * pi * a / (2 * b)) / n**5 for n in (1, 3, 5, 7))) / 3
    twist = 3000 * 22 * k1 / (k * a * b**2)
    exact = hypot(3000 * 50 / (8 * 60**2 / 6), sqrt(3) * (twist + 1.5 * 3000 / 480))
    assert across == pytest.approx(exact, rel=0.03)
    assert root_stress(root, 3000.0, 40.0, 0.0) == pytest.approx(root_stress(root, -3000.0, -40.0, 0.0))


def test_sizing_leaves_nothing_lighter_that_holds_and_its_drawings_are_whole(mounted: Design) -> None:
    design, plate = held_by_a_plate(mounted, high=26.0, past=60.0)
    found = LAPPED_PLATE.size(plate, work(design), SHOP, "mass")
    best = found.winner or found.nearest
    assert best is not None
    (one,) = best.parts
    assert isinstance(one, LappedPlate)
    for view in part_of(one, design).views:
        assert draw(one, design, view.name, Numbers()).items
    dxf = draw(one, design, "lapped-flat", Numbers())
    assert len([item for item in dxf.items if getattr(item, "style", "") == "bend"]) == len(
        part_of(one, design).own.flat.contour.bends
    )  # type: ignore[union-attr]
    if found.winner:
        thinner = [t for t in (3.0, 4.0, 5.0, 6.0, 8.0) if t < one.plate.mm]
        for t in thinner[-1:]:
            lighter = LAPPED_PLATE.judged_with(
                one.model_copy(update={"plate": Length(mm=t)}),
                best.joints,
                [part_of(one, design).own.joints[0].held],
                work(design).settings,
                SHOP,
                [],
            )  # type: ignore[union-attr]
            assert not lighter.passed


def test_what_pushes_along_its_bolt_bends_it_and_pulls_at_its_wall(mounted: Design) -> None:
    design, plate = held_by_a_plate(mounted)
    part = part_of(plate, design)
    (made,), (stand,) = part.own.joints, part.own.stands  # type: ignore[union-attr]
    one = CaseSeen(name="pushed along", axial_n=4000.0, side_n=900.0)
    seen = replace(made, held=replace(made.held, cases=(one,)))
    settings = work(design).settings
    checks = {check.key: check.reproduce for check in lapped_checks(plate, seen, stand, settings)}
    f = settings.factors
    root, weld, wall = (checks[key].input for key in ("lapped_root", "tab_weld", "mount_wall"))  # type: ignore[union-attr]
    assert (root["pull_n"], root["side_n"]) == pytest.approx((4000 * f.tab_yield, 900 * f.tab_yield))
    assert np.abs(weld["force_n"][2]) == pytest.approx(900 * f.tab_rupture)
    assert hypot(*weld["force_n"][:2]) == pytest.approx(4000 * f.tab_rupture)
    assert wall["pull_n"] == pytest.approx(900 * f.tab_yield)
    bent = wall["tilt_nmm"] - wall["pull_n"] * (PAST + plate.foot_mm / 2)
    assert hypot(bent, wall["rock_nmm"]) == pytest.approx(4000 * f.tab_yield * HIGH, rel=2e-3)


def test_a_pair_of_them_is_told_of_the_side_where_its_mount_is_not(mounted: Design) -> None:
    design, plate = held_by_a_plate(mounted)
    pair = plate.model_copy(update={"side": "pair"})
    assert not part_of(pair, design).faults
    left = design.model_copy(
        update={"mounts": tuple(one.model_copy(update={"both_sides": False}) for one in design.mounts)}
    )
    told = part_of(pair, left).faults
    assert [fault.field for fault in told] == ["mount"]
    assert "does not reach it. Say that the mount stands on both sides" in told[0].message
    assert not part_of(plate, left).faults


def test_what_leans_out_of_its_plane_further_than_its_joint_may_tilt_is_refused_and_less_is_told(
    mounted: Design,
) -> None:
    design, plate = held_by_a_plate(mounted)
    link = next(part for part in design.of_kind(Link) if part.name == "Panhard rod")
    row = part_of(plate, design).own.joints[0].held.row  # type: ignore[union-attr]

    def with_bush(limit: float) -> Design:
        eye = DamperEye(
            bore_mm=row.bore_mm,
            ball_width_mm=row.ball_width_mm,
            head_diameter_mm=row.head_diameter_mm,
            housing_width_mm=row.housing_width_mm,
            tilt_limit_deg=limit,
        )
        bushed = link.model_copy(update={"end_a": FixedEnd(centre_to_face=Length(mm=30.0), eye=eye)})
        # the face stands 3.4° round, and the bolt with it: the rod runs across the car
        box = design.mounts[0].shape
        assert isinstance(box, BoxMember)
        round_ = box.model_copy(update={"a": (box.a[0] + 9.0, *box.a[1:]), "b": (box.b[0] - 9.0, *box.b[1:])})
        return with_part(design, bushed).model_copy(
            update={"mounts": (design.mounts[0].model_copy(update={"shape": round_}),)}
        )

    tight, loose = part_of(plate, with_bush(1.5)), part_of(plate, with_bush(9.0))
    assert "bolt_axis" in [fault.field for fault in tight.faults]
    assert "bolt_axis" not in [fault.field for fault in loose.faults]
    assert any("leans 3° out of the plates’ plane" in told for told in loose.not_checked)


def test_a_thin_wall_is_told_where_nothing_judges_it_and_not_where_its_checks_do(mounted: Design) -> None:
    design, plate = held_by_a_plate(mounted)
    thin = "thinner than the plate"
    assert plate.wall_mm is not None
    assert plate.wall_mm < plate.plate.mm
    assert not any(thin in note for note in part_of(plate, design).notes)
    unknown = tuple(one.model_copy(update={"yield_mpa": None}) for one in design.mounts)
    assert any(thin in note for note in part_of(plate, design.model_copy(update={"mounts": unknown})).notes)
