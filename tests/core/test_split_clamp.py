"""Split clamps: the method against statics, a shell's own integrals and the halves as they are cut; the part on a tube of the car."""

from __future__ import annotations

from dataclasses import replace
from math import atan, ceil, cos, exp, pi, radians, sin, sqrt
from typing import Any

import numpy as np
import pytest
from scipy.integrate import quad
from shapely.geometry import LineString, Point

from tests.core.test_mounts import IDS, SHOP
from tests.jobs import bare, draw, part_of, with_part, work
from tirante.calc import calculate
from tirante.core.brackets import split_clamp as method
from tirante.core.brackets.bolt import PinStack, bolt_class, pin_bending_moment
from tirante.core.brackets.mount_wall import Wall
from tirante.core.brackets.split_clamp import OnClamp
from tirante.core.brackets.tools import flats_of, socket, spanner
from tirante.core.document.design import Design
from tirante.core.document.fields import Length
from tirante.core.document.joints import HeldJoint
from tirante.core.document.mounts import BoxMember, Mount, RoundMember
from tirante.core.document.parts.split_clamp import SplitClamp
from tirante.core.drawing.sheet import Numbers
from tirante.core.errors import InputError
from tirante.core.flat.contour import polygon
from tirante.core.job.places import places_of
from tirante.core.job.room.look import look_round
from tirante.core.job.room.reach import EASE
from tirante.core.loads.case_seen import CaseSeen
from tirante.core.parts.bracket.families.held import joint_made
from tirante.core.parts.bracket.families.split_clamp import (
    SPLIT_CLAMP,
    ClampMade,
    clamp_for,
    eared_as_cut,
    other_as_cut,
    sizes_for,
)
from tirante.core.parts.bracket.families.split_clamp_checks import clamp_checks, clamp_of
from tirante.core.parts.bracket.families.split_clamp_view import (
    FILLET,
    ear_alone,
    eared_half,
    half_wide,
    other_half,
    under_ear,
)
from tirante.core.parts.bracket.families.tab_pair import proposed
from tirante.core.parts.part import BoughtPiece, Part, PlatePiece
from tirante.documents.cutting_table import drive
from tirante.documents.dxf import to_dxf

OD, WALL, OFF = 70.0, 6.0, 80.0  # mm: of the tube; of the joint from its middle
ONE = method.SplitClamp(tube_od=76.0, thickness=20.0, bolt=10.0, apart=47.0, cap=62.0, shoulder=44.0, ear=36.0, height=95.0, hole=12.4)  # fmt: skip


def clamped(
    mounted: Design, *, way: tuple[float, float, float] = (1.0, 0.0, 0.0), shape: Any = None, **more: Any
) -> tuple[Design, SplitClamp]:
    """Marram's Panhard rod at the body, over a tube that runs along the car as its bolt does; nothing else is entered."""
    design = bare(mounted)
    link = next(part for part in design.parts if part.name == "Panhard rod")
    found = next(one for one in places_of(work(design)) if one.id == link.id and one.name == "end A")
    assert found.at is not None
    x, y, z = found.at
    tube = RoundMember(a=(x - 150.0, y, z - OFF), b=(x + 200.0, y, z - OFF), od_mm=OD, wall_mm=WALL)
    mount = Mount(id=IDS[160], name="Long tube", shape=shape or tube, yield_mpa=355.0, uts_mpa=470.0)
    plain = HeldJoint(id=IDS[162], held=found.held, bolt_axis=way, mount=mount.id)
    held = work(design).held_end(plain)
    assert held
    pair, joint = proposed(IDS[161], "Panhard rod, end A, tabs", found.side, held, plain, SHOP)
    bolt = next(one for one in SHOP.bolts if one.key == joint.bolt)
    rows = design.catalogue.model_copy(
        update={"bolts": (*(b for b in design.catalogue.bolts if b.key != bolt.key), bolt)}
    )
    saved = clamp_for(pair)
    joints = (*(one for one in design.joints if one.held != found.held), joint)
    design = design.model_copy(
        update={"mounts": (mount,), "joints": joints, "catalogue": rows, "parts": (*design.parts, saved)}
    )
    stand = work(design).stand_of(joint)
    fitted = SPLIT_CLAMP.fitted(saved, stand, None) if hasattr(stand, "standing") else saved
    fitted = fitted.model_copy(update=more)
    return with_part(design, fitted), fitted


def sized(mounted: Design) -> tuple[Design, SplitClamp]:
    design, saved = clamped(mounted)
    found = SPLIT_CLAMP.size(saved, work(design), SHOP, "mass").winner
    assert found
    one = found.parts[0]
    assert isinstance(one, SplitClamp)
    joints = tuple(found.joints[0] if joint.by == saved.id else joint for joint in design.joints)
    return with_part(design.model_copy(update={"joints": joints}), one), one


# --- the method ----------------------------------------------------------------------------------------------------------------


def test_what_slips_is_what_friction_holds_on_a_line_of_each_half() -> None:
    """Each half by itself: what draws it to the tube is its contact's part that way, friction and all, and nothing is left over across it."""
    r, drawn = ONE.tube_od / 2, 12_000.0
    for off in (0.0, 3000.0, -2500.0):
        held = 0.0
        for toward in (2 * drawn - max(0.0, off), 2 * drawn):
            turned = atan(method.SLIP)  # where the line stands round the tube, so that nothing pushes the half aside
            push = toward / (cos(turned) + method.SLIP * sin(turned))
            assert push * sin(turned) - method.SLIP * push * cos(turned) == pytest.approx(0.0, abs=1e-9)
            held += method.SLIP * push * r
        on = OnClamp(off=off, turns=held / method.SLIP_FACTOR, along=0.0)
        assert method.clamp_needed(ONE, on) == pytest.approx(drawn)
        # sliding along the tube asks for no less than turning on it, and both at once for their resultant
        slid = OnClamp(off=off, turns=on.turns * 0.6, along=on.turns * 0.8 / r)
        assert method.clamp_needed(ONE, slid) == pytest.approx(drawn)
    assert method.clamp_needed(ONE, OnClamp(off=5000.0, turns=0.0, along=0.0)) == 2500.0  # or it leaves the tube


def test_a_pair_shares_its_joint_s_forces_in_balance() -> None:
    spacing, pull, side, angle = 45.0, 9000.0, 1200.0, radians(35.0)
    worse = method.shared(ONE, spacing, pull, side, angle)
    other = pull * cos(angle) - worse.off  # what is left for the other
    assert (worse.off - other) * spacing / 2 == pytest.approx(side * ONE.height)  # about the way across the tube
    assert 2 * worse.turns == pytest.approx(pull * sin(angle) * ONE.height)  # about the tube
    assert 2 * worse.along == side
    # a bolt's two pulls hold what pulls the halves apart, and their difference what turns the other half
    most = method.bolt_pull(ONE, worse)
    least = worse.off - most
    assert (most - least) * ONE.apart == pytest.approx(worse.turns)
    assert method.bolt_pull(ONE, replace(worse, off=-1e5)) == pytest.approx(worse.turns / (2 * ONE.apart))
    use = method.bolt_use(ONE, bolt_class("8.8", 10.0), worse)
    assert use == pytest.approx(most / (0.9 * 800 * 0.78 * pi * 25))
    # of all ways that the pull may point, either way along its line, the worst is taken
    low, high = radians(-20.0), radians(50.0)
    grips, pulls = method.worst_share(ONE, spacing, pull, side, (low, high))
    every = [method.shared(ONE, spacing, pull, side, way + turn) for way in np.linspace(low, high, 71) for turn in (0.0, pi)]  # fmt: skip
    assert method.clamp_needed(ONE, grips) == pytest.approx(max(method.clamp_needed(ONE, on) for on in every))
    assert method.bolt_pull(ONE, pulls) == pytest.approx(max(method.bolt_pull(ONE, on) for on in every))
    pushed = method.worst_share(ONE, spacing, pull, 0.0, (radians(170.0), radians(180.0)))[1]
    assert pushed.off == pytest.approx(pull / 2, rel=0.02)  # the same line pulled the other way


def test_a_half_counts_no_metal_that_is_not_there(mounted: Design) -> None:
    """As deep as counted at every place from crown to split, within the half as it is cut: bore, hole, ear and shoulders."""
    _, saved = sized(mounted)
    clamp = clamp_of(saved)
    metal = {True: polygon(eared_half(saved)), False: polygon(other_half(saved))}
    for eared, way in ((True, 1.0), (False, -1.0)):
        x, deep = method.depths(clamp, eared=eared)
        for at, counted in list(zip(x, deep, strict=True))[1:-1]:
            skin = way * sqrt((OD / 2) ** 2 - at**2)
            line = LineString([(at, skin + way * 1e-3), (at, skin + way * (counted - 2e-3))])
            assert metal[eared].covers(line), (eared, at)
            if not eared or at > clamp.ear + 5.0:  # past the round at the ear’s foot there is no more
                assert not metal[eared].covers(LineString([(at, skin + way * 1e-3), (at, skin + way * (counted + 0.1))]))  # fmt: skip
        # bent between its bolts over the crown: a beam on two supports under twice a bolt's tension
        tension = 8000.0
        worst = max(6 * tension * (clamp.apart - a) / (clamp.thickness * d**2) for a, d in zip(x, deep, strict=True))
        assert method.half_stress(clamp, tension, eared=eared) == pytest.approx(worst)
        assert worst >= 2 * tension * 2 * clamp.apart / 4 * 6 / (clamp.thickness * deep[0] ** 2) - 1e-9
    with pytest.raises(InputError, match="no metal"):
        method.half_stress(replace(clamp, shoulder=1.0, ear=4.0), 1.0, eared=True)


def test_a_tube_is_squeezed_as_the_integrals_of_a_ring_of_force_have_it() -> None:
    """A ring of force q: hoop q R² β/2w e^(−βs)(cos βs + sin βs), moment q/4β e^(−βs)(cos βs − sin βs); summed over the clamp's width."""
    wall, tension = 4.0, 15_000.0
    mean = (ONE.tube_od - wall) / 2
    beta = (3 * (1 - 0.09) / (mean * wall) ** 2) ** 0.25
    pressure = 2 * tension / (ONE.tube_od * ONE.thickness)
    half = ONE.thickness / 2
    hoop = 2 * quad(lambda s: pressure * (ONE.tube_od / 2) * beta / (2 * wall) * exp(-beta * s) * (cos(beta * s) + sin(beta * s)), 0, half)[0]  # fmt: skip
    bent = 6 / wall**2 * 2 * quad(lambda s: pressure / (4 * beta) * exp(-beta * s) * (cos(beta * s) - sin(beta * s)), 0, half)[0]  # fmt: skip
    skins = [(-hoop + 0.3 * way * bent, way * bent) for way in (1.0, -1.0)]
    wanted = max(sqrt(a * a - a * b + b * b) for a, b in skins)
    assert method.tube_stress(ONE, wall, tension) == pytest.approx(wanted, rel=1e-6)
    # under a long clamp it is a pipe under pressure from outside
    long = replace(ONE, thickness=2000.0)
    assert method.tube_stress(long, wall, tension) == pytest.approx(2 * tension / (76 * 2000) * 38 / wall, rel=1e-6)


# --- the part ------------------------------------------------------------------------------------------------------------------


def test_every_check_of_it_is_what_its_joint_s_cases_make(mounted: Design) -> None:
    """Recomputed from the case that is named, at the factors of the job; and repeated by the command that stands beside each."""
    design, saved = sized(mounted)
    part, job = part_of(saved, design), work(design)
    assert part.faults == ()
    made = joint_made(job.held_by(saved.id)[0], job)
    checks, f = {check.key: check for check in part.checks}, job.settings.factors
    assert all(check.passed for check in part.checks)
    assert {"clamp_grip", "clamp_bolts", "clamp_half", "clamp_tube", "tab_foot", "pin_shear", "pin_bending", "tab_bearing"} <= checks.keys()  # fmt: skip
    cases, clamp = {case.name: case for case in made.held.cases}, clamp_of(saved)  # type: ignore[union-attr]
    assert saved.load_angle_deg is not None
    swing = made.held.swing_deg  # type: ignore[union-attr]
    angles = tuple(radians(saved.load_angle_deg + way * swing) for way in (-1.0, 1.0))
    apart = made.gap + saved.plate.mm  # type: ignore[union-attr]
    case = cases[checks["clamp_grip"].case]  # type: ignore[index]
    tangents = np.linspace(*angles, 2001)
    pull, side = abs(case.axial_n) * f.joint, abs(case.across_n) * f.joint
    off = np.maximum(0, np.abs(pull * np.cos(tangents)) / 2 + side * OFF / apart)
    grips = np.hypot(np.abs(pull * np.sin(tangents)) / 2 * OFF / (OD / 2), side / 2) * 1.25 * sqrt(1 + 0.2**2) / 0.2
    assert checks["clamp_grip"].demand == pytest.approx(float(((off + grips) / 4).max()), rel=1e-3)
    _, yields = {"8.8": (800, 640), "10.9": (1000, 900)}[saved.clamp_class]
    usual = 0.75 * 0.9 * yields * {8.0: 36.6, 10.0: 58.0, 12.0: 84.3}[saved.clamp_bolt_mm]  # ISO 898-1
    tension = usual if saved.torque_nm is None else saved.torque_nm * 1000 / (0.2 * saved.clamp_bolt_mm)
    assert checks["clamp_grip"].capacity == pytest.approx(tension, rel=2e-3)
    pulled = cases[checks["clamp_bolts"].case]  # type: ignore[index]
    worst = method.worst_share(clamp, apart, abs(pulled.axial_n) * f.bolt, abs(pulled.across_n) * f.bolt, angles)[1]  # type: ignore[arg-type]  # fmt: skip
    assert checks["clamp_bolts"].demand == pytest.approx(
        method.bolt_use(clamp, bolt_class(saved.clamp_class, 10.0), worst)
    )
    assert checks["clamp_half"].demand == pytest.approx(max(method.half_stress(clamp, tension, eared=one) for one in (True, False)), rel=2e-3)  # fmt: skip
    assert checks["clamp_half"].factor == f.tab_yield
    assert checks["clamp_tube"].demand == pytest.approx(method.tube_stress(clamp, WALL, tension), rel=2e-3)
    assert checks["clamp_tube"].capacity == 355.0
    # the bolt bears no deeper in a thick plate than it is thick itself, and the ear is bent over its shoulders
    bolt = made.bolt.diameter_mm  # type: ignore[union-attr]
    assert bolt < saved.plate.mm
    sheared = cases[checks["pin_bending"].case]  # type: ignore[index]
    stack = PinStack(ball_width=made.held.row.ball_width_mm, gap=made.beside, plate=bolt, planes=2)  # type: ignore[union-attr]
    assert checks["pin_bending"].demand == pytest.approx(32 * pin_bending_moment(stack, sheared.resultant_n * f.bolt) / (pi * bolt**3))  # fmt: skip
    assert checks["tab_bearing"].reproduce.input["thickness_mm"] == bolt  # type: ignore[union-attr]
    assert checks["tab_foot"].reproduce.input["height_mm"] == pytest.approx(OFF - saved.shoulder_mm)  # type: ignore[union-attr]
    assert checks["tab_foot"].reproduce.input["thickness_mm"] == saved.plate.mm  # type: ignore[union-attr]
    for check in part.checks:
        again = check.reproduce
        if again is not None and again.figure == "demand":
            assert calculate(again.topic, again.input)[again.output] == pytest.approx(check.demand), check.key
    assert calculate("split-clamp", checks["clamp_tube"].reproduce.input)["tube_mpa"] == pytest.approx(checks["clamp_tube"].demand)  # type: ignore[union-attr]  # fmt: skip
    # drawn less, it slips; drawn so hard that its bolts pull their usual clamp past the halves, these bend
    less = saved.model_copy(update={"torque_nm": 0.9 * tension * 0.2 * saved.clamp_bolt_mm / 1000})
    assert not next(c for c in part_of(less, with_part(design, less)).checks if c.key == "clamp_grip").passed
    thin = next(c for c in clamp_checks(saved.model_copy(update={"shoulder_mm": saved.shoulder_mm - 1.5}), made, None, job.settings) if c.key == "clamp_half")  # type: ignore[arg-type]  # fmt: skip
    assert not thin.passed
    assert "with the ear" in thin.note


def test_it_is_proportioned_so_that_its_own_clamp_just_does_not_bend_it(mounted: Design) -> None:
    _, saved = clamped(mounted)
    for plate, bolt, grade, share in ((20.0, 8.0, "8.8", 1.0), (25.0, 12.0, "10.9", 0.5), (30.0, 10.0, "8.8", 0.75)):
        one = saved.model_copy(update=sizes_for(OD, plate, bolt, grade, saved, share))
        usual = 0.75 * 0.9 * {"8.8": 640, "10.9": 900}[grade] * {8.0: 36.6, 10.0: 58.0, 12.0: 84.3}[bolt]
        tension = usual if one.torque_nm is None else one.torque_nm * 1000 / (0.2 * bolt)
        assert (one.torque_nm is None) == (share == 1.0)
        assert tension == pytest.approx(share * usual, rel=0.05)
        for eared, field in ((True, "shoulder_mm"), (False, "cap_mm")):
            fits, less = clamp_of(one), clamp_of(one.model_copy(update={field: getattr(one, field) - 1.0}))
            assert method.half_stress(replace(fits, height=1e3), tension, eared=eared) <= 355.0 * 1.002
            assert method.half_stress(replace(less, height=1e3), tension, eared=eared) > 355.0


def test_whatever_bolt_is_tried_its_nuts_stand_clear_of_the_head_that_it_asks_for(mounted: Design) -> None:
    design, saved = clamped(mounted)
    made = joint_made(work(design).held_by(saved.id)[0], work(design))
    small = saved.model_copy(update={"head_radius": Length(mm=12.0), "edge": Length(mm=12.0)})
    for bolt in (one for one in SHOP.bolts if 8.0 <= one.diameter_mm <= 20.0):
        tried = SPLIT_CLAMP.proportioned(small, replace(made, bolt=bolt), 3.0, 1.0)  # type: ignore[type-var]
        assert tried
        for one in tried:
            assert one.head_radius.mm >= 1.5 * bolt.diameter_mm
            assert (
                one.apart_mm
                >= one.head_radius.mm
                + max(socket(flats_of(one.clamp_bolt_mm))[0], spanner(flats_of(one.clamp_bolt_mm)).radius)
                + EASE
            )
        assert [one.plate.mm * half_wide(one) * (one.cap_mm + one.shoulder_mm) for one in tried] == sorted(one.plate.mm * half_wide(one) * (one.cap_mm + one.shoulder_mm) for one in tried)  # fmt: skip


@pytest.mark.parametrize("wide", [30.0, 36.0, 42.0, 48.0])
@pytest.mark.parametrize("head", [16.0, 20.0, 29.0])
def test_its_outline_is_closed_and_smooth_at_the_ear_whichever_way_its_flanks_lean(mounted: Design, wide: float, head: float) -> None:  # fmt: skip
    _, saved = clamped(mounted)
    one = saved.model_copy(update={"base_width": Length(mm=wide), "head_radius": Length(mm=head), "edge": Length(mm=head), "hole": Length(mm=12.4)})  # fmt: skip
    for contour in (eared_half(one), ear_alone(one), under_ear(one), other_half(one)):
        assert contour.gap < 1e-9
        assert polygon(contour).is_valid
    whole, rounded = polygon(eared_half(one)), [edge for edge in eared_half(one).edges if getattr(edge, "r", 0.0) == FILLET]  # fmt: skip
    assert len(rounded) == 2
    # each round stands free of the metal, and touches it along its own arc
    for edge in rounded:
        assert not whole.contains(Point(edge.cx, edge.cy))  # type: ignore[union-attr]
        assert whole.distance(Point(edge.cx, edge.cy)) == pytest.approx(FILLET, abs=0.02)  # type: ignore[union-attr]


def test_its_halves_are_cut_drilled_and_bored_as_they_are_listed(mounted: Design) -> None:
    design, saved = sized(mounted)
    part = part_of(saved, design)
    assert isinstance(part.own, ClampMade)
    plates = {piece.name: piece for piece in part.pieces if isinstance(piece, PlatePiece)}
    assert {name: plate.count for name, plate in plates.items()} == {"half with the ear": 2, "other half": 2}
    assert part.mass == pytest.approx(2 * saved.plate.mm * (polygon(eared_half(saved)).area + polygon(other_half(saved)).area) * 7.85e-6, rel=2e-3)  # fmt: skip
    bought = {piece.sort: piece for piece in part.beside if isinstance(piece, BoughtPiece) and "clamp" in piece.what and "ball" not in piece.what}  # fmt: skip
    assert {sort: one.count for sort, one in bought.items()} == {"bolt": 4, "nut": 4, "washer": 8}
    long = float(bought["bolt"].what.split(" × ")[1].split(",")[0])
    grip = saved.cap_mm + saved.shoulder_mm
    pitch = {8.0: 1.25, 10.0: 1.5, 12.0: 1.75}[saved.clamp_bolt_mm]
    asks = (
        grip + 2 * max(1.6, 0.15 * saved.clamp_bolt_mm) + saved.clamp_bolt_mm + 2 * pitch
    )  # washers, a locking nut, two threads
    assert long == 5 * ceil(asks / 5)
    assert saved.hole.mm < saved.plate.mm  # so it is drilled, and no cutter is asked for it
    for view, contour, flat in (("clamp-eared", eared_as_cut(saved), eared_half(saved)), ("clamp-other", other_as_cut(saved), other_half(saved))):  # fmt: skip
        assert contour.gap < 1e-9
        assert polygon(contour).is_valid
        assert contour.holes == ()
        (bore,) = (edge for edge in contour.edges if hasattr(edge, "r") and (edge.cx, edge.cy) == (0.0, 0.0))
        assert bore.r == OD / 2 - saved.bore_mm
        assert polygon(flat).area < polygon(contour).area
        drawing = draw(saved, design, view, Numbers())
        cut = drive(to_dxf(drawing), thickness=saved.plate.mm)
        assert cut.pierces == 1
        left, low, right, high = contour.bounds
        assert right - left == pytest.approx(2 * half_wide(saved))
        marks = sorted({round(one.x1 + left, 6) for one in drawing.items if one.kind == "line" and one.style == "mark" and one.x1 == one.x2 and abs(one.x1 + left) > 1})  # fmt: skip
        assert marks == [-saved.apart_mm, saved.apart_mm]
    # both halves leave the gap between them round one bore
    _, low, _, _ = eared_half(saved).bounds
    _, _, _, high = other_half(saved).bounds
    assert low - high == pytest.approx(saved.gap_mm)
    both = polygon(eared_half(saved)).union(polygon(other_half(saved)))
    assert not both.intersects(LineString([(0.0, -OD / 2 + 0.05), (0.0, OD / 2 - 0.05)]))
    # a hole that a cutter makes is cut
    wide = saved.model_copy(update={"hole": Length(mm=saved.plate.mm)})
    assert [hole.diameter for hole in eared_as_cut(wide).holes] == [saved.plate.mm]


def lacks(mounted: Design, **more: Any) -> list[tuple[str, str]]:
    design, saved = clamped(mounted, **more)
    part: Part = part_of(saved, design)
    return [(fault.field, fault.message) for fault in part.faults]


@pytest.mark.parametrize(
    ("change", "field", "says"),
    [
        ({"plate": Length(mm=19.0)}, "plate", "20 mm thick or more"),
        ({"apart_mm": 43.0}, "apart_mm", "2.5 mm of metal are left. Set the bolts 43.5 mm or more"),
        ({"base_width": Length(mm=76.0)}, "base_width", "73 mm wide or less"),
        ({"tube_od": Length(mm=57.0)}, "tube_od", "bored for 57.0 mm"),
        ({"height": Length(mm=90.0)}, "height", "90.0 mm from the middle"),
        ({"shoulder_mm": 75.0}, "shoulder_mm", "reaches down to the shoulders"),
        ({"torque_nm": 60.0}, "torque_nm", "50.1 N·m at most"),
        ({"clamp_bolt_mm": 9.0}, "clamp_bolt_mm", "no coarse metric thread"),
        ({"bore_mm": 18.0}, "bore_mm", "Leave less"),
    ],
)
def test_what_does_not_go_together_is_named_with_what_does(mounted: Design, change: dict[str, Any], field: str, says: str) -> None:  # fmt: skip
    """And what the sentence gives, taken literally, goes."""
    found = lacks(mounted, **change)
    assert any(field == one and says in told for one, told in found), found
    cures = {
        "plate": {"plate": Length(mm=20.0)}, "apart_mm": {"apart_mm": 43.5, "base_width": Length(mm=50.0)}, "base_width": {"base_width": Length(mm=73.0)},
        "torque_nm": {"torque_nm": 50.1},
    }  # fmt: skip
    if field in cures:
        assert lacks(mounted, **cures[field]) == []


def test_what_no_clamp_goes_round_is_said(mounted: Design) -> None:
    design, _ = clamped(mounted)
    (mount,) = design.mounts
    a, b = np.array(mount.shape.a), np.array(mount.shape.b)  # type: ignore[union-attr]
    turned = lacks(mounted, way=(cos(radians(2.0)), sin(radians(2.0)), 0.0))
    assert any(field == "bolt_axis" and "2.0° off" in told for field, told in turned), turned
    box = BoxMember(a=tuple(a), b=tuple(b), up=(0, 0, 1), width_mm=60.0, height_mm=60.0, wall_mm=4.0)
    assert any("goes round a round tube, and Long tube is none" in told for _, told in lacks(mounted, shape=box))
    # the joint's middle 26 mm from the end of the tube, the outer face of a clamp 31.1 mm from it
    short = RoundMember(a=tuple(a + np.array([124.0, 0, 0])), b=tuple(b), od_mm=OD, wall_mm=WALL)
    (past,) = [told for field, told in lacks(mounted, shape=short) if field == "mount"]
    made = part_of(*reversed(clamped(mounted))).own.joints[0]
    assert f"reaches {made.gap / 2 + 20.0 - 26.0:.1f} mm past the end" in past
    # of another tube its bolts and its backs stand as far off the skin as before
    wide = RoundMember(a=tuple(a), b=tuple(b), od_mm=OD + 10.0, wall_mm=WALL)
    _, before = clamped(mounted)
    _, after = clamped(mounted, shape=wide)
    for name in ("apart_mm", "cap_mm", "shoulder_mm"):
        assert getattr(after, name) - getattr(before, name) == pytest.approx(5.0)
    assert after.tube_od.mm == OD + 10.0
    assert after.height.mm == pytest.approx(OFF)


def test_a_tube_that_ends_beside_it_is_told_as_far_as_its_squeezing_reaches(mounted: Design) -> None:
    """What a ring of force does to a long tube is e^(−βs)(cos βs + sin βs) of its most: under a twentieth from 3/β on."""
    beta = (3 * 0.91) ** 0.25 / sqrt((OD - WALL) / 2 * WALL)
    far = 3.0 / beta
    assert all(abs(exp(-beta * s) * (cos(beta * s) + sin(beta * s))) < 0.06 for s in np.linspace(far, 4 * far, 50))
    design, saved = clamped(mounted)
    made = part_of(saved, design).own.joints[0]
    outer = made.gap / 2 + saved.plate.mm
    (mount,) = design.mounts
    _, b = np.array(mount.shape.a), np.array(mount.shape.b)  # type: ignore[union-attr]
    x = b[0] - 200.0  # the joint's
    for off, told in ((far + 0.5, False), (far - 0.5, True)):
        tube = RoundMember(a=(x - outer - off, b[1], b[2]), b=tuple(b), od_mm=OD, wall_mm=WALL)
        part = part_of(*reversed(clamped(mounted, shape=tube)))
        assert part.faults == ()
        assert any("the end of Long tube" in one for one in part.not_checked) == told, off


def test_a_torque_that_is_too_little_is_told(mounted: Design) -> None:
    design, saved = clamped(mounted)
    for torque, told in ((None, False), (25.0, False), (23.0, True)):
        part = part_of(saved.model_copy(update={"torque_nm": torque}), design)
        assert any("a bolt works loose" in one for one in part.notes) == told, torque
        (bolt,) = (
            one
            for one in (*part.pieces, *part.beside)
            if getattr(one, "sort", "") == "bolt" and "for the clamp" in one.what
        )
        assert bolt.torque_nm == pytest.approx(torque or 50.1, abs=0.1)  # what it is read against as it is fitted
    with pytest.raises(InputError) as found:
        calculate("split-clamp", {"tube_od_mm": 76, "thickness_mm": 20, "bolt_mm": 9, "class": "8.8", "apart_mm": 47, "cap_mm": 62, "shoulder_mm": 40, "ear_mm": 60, "height_mm": 95, "hole_mm": 12.4})  # fmt: skip
    assert found.value.fields == ("bolt_mm",)


def test_a_tube_that_is_not_known_is_named_as_not_judged(mounted: Design) -> None:
    design, saved = clamped(mounted)
    (mount,) = design.mounts
    bald = design.model_copy(update={"mounts": (mount.model_copy(update={"yield_mpa": None}),)})
    part = part_of(saved, bald)
    assert all(check.key != "clamp_tube" for check in part.checks)
    assert any("yield strength is not entered" in told for told in part.not_checked)
    assert all("weld quality" not in told for told in part.not_checked)
    free = with_part(design.model_copy(update={"joints": tuple(j.model_copy(update={"mount": None}) if j.by == saved.id else j for j in design.joints)}), saved)  # fmt: skip
    told = part_of(saved, free)
    assert told.faults == ()
    assert any("squeezed by the clamp: none is entered" in one for one in told.not_checked)


def test_what_stands_by_its_halves_and_bolts_is_looked_at_and_a_millimetre_turns_it(mounted: Design) -> None:
    """A plate of the chassis under the heads of its bolts: as far as it is; half a millimetre is wanted of what stands still."""
    design, saved = sized(mounted)
    (mount,) = design.mounts
    x, y, z = mount.shape.a  # type: ignore[union-attr]
    lowest = z - saved.cap_mm - 0.9 * saved.clamp_bolt_mm  # the heads' undersides

    def line(below: float) -> Any:
        beam = BoxMember(a=(x - 100.0, y, lowest - below - 10.0), b=(x + 400.0, y, lowest - below - 10.0), up=(0, 0, 1), width_mm=200.0, height_mm=20.0, wall_mm=3.0)  # fmt: skip
        other = Mount(id=IDS[170], name="Floor beam", shape=beam, both_sides=False)
        room = look_round(work(design.model_copy(update={"mounts": (mount, other)})), saved.id)
        assert any("heads and nuts are taken as blocks" in told for told in room.not_looked_at)
        assert not any("bends" in told for told in room.not_looked_at)
        assert not any(one.sort == "torch" for joint in room.joints for one in joint.lines)
        return next(one for joint in room.joints for one in joint.lines if one.to == "Floor beam" and one.sort == "stands")  # fmt: skip

    clear = line(6.0)
    assert clear.gap_mm == pytest.approx(6.0, abs=0.01)
    assert clear.state == "good"
    assert line(-1.0).state == "stop"
    near = line(0.4)
    assert near.gap_mm == pytest.approx(0.4, abs=0.01)
    assert near.state == "attention"


def test_the_command_judges_a_whole_clamp_and_draws_it_as_it_is_cut(mounted: Design) -> None:
    design, saved = sized(mounted)
    job = work(design)
    made = part_of(saved, design).own.joints[0]
    row, bolt = made.held.row, made.bolt
    skip = {"id", "name", "side", "note", "kind", "count"}
    sizes = {(f"{name}_mm" if isinstance(value, dict) else name): (value["mm"] if isinstance(value, dict) else value) for name, value in saved.model_dump(exclude=skip).items() if value is not None}  # fmt: skip
    asked = {
        "family": "split_clamp", "parameters": sizes,
        "holds": {"bore_mm": row.bore_mm, "ball_width_mm": row.ball_width_mm, "housing_width_mm": row.housing_width_mm, "head_diameter_mm": row.head_diameter_mm},
        "bolt": {"designation": bolt.designation, "diameter_mm": bolt.diameter_mm, "strength_class": bolt.strength_class},
        "swing_deg": made.held.swing_deg, "shim_mm": made.joint.shim_mm,
        "cases": [{"name": case.name, "axial_n": case.axial_n, "side_n": case.across_n} for case in made.held.cases if case.axial_n or case.across_n],
    }  # fmt: skip
    out = calculate("bracket", asked)
    own = {check.key: check.demand for check in part_of(saved, design).checks if check.key != "clamp_tube"}
    assert {one["key"]: one["demand"] for one in out["checks"]} == pytest.approx(own, rel=1e-6)
    assert [flat["count"] for flat in out["flats"]] == [2, 2]
    assert out["flats"][0]["area_mm2"] == pytest.approx(eared_as_cut(saved).area)
    assert any("split-clamp does" in note for note in out["notes"])
    wall = Wall(kind="round", width=OD, thickness=WALL, yield_mpa=355.0, uts_mpa=470.0)
    assert any(check.key == "clamp_tube" for check in clamp_checks(saved, made, wall, job.settings))


def test_each_check_takes_its_own_factor_side_force_and_torque(mounted: Design) -> None:
    """One case with a side force, all factors apart, a torque of its own: recomputed in full."""
    design, saved = sized(mounted)
    job = work(design)
    made = part_of(saved, design).own.joints[0]
    case = CaseSeen(name="one", axial_n=5200.0, side_n=900.0)
    factors = job.settings.factors.model_copy(update={"joint": 1.3, "bolt": 1.7, "tab_yield": 2.3})
    settings = job.settings.model_copy(update={"factors": factors})
    one = saved.model_copy(update={"torque_nm": 40.0, "load_angle_deg": 0.0})
    seen = replace(made, held=replace(made.held, cases=(case,), swing_deg=0.0))
    found = {check.key: check for check in clamp_checks(one, seen, None, settings)}
    apart, clamp = made.gap + saved.plate.mm, clamp_of(one)

    def on(factor: float) -> tuple[float, float]:
        side = abs(case.across_n) * factor
        return case.axial_n * factor / 2 + side * OFF / apart, side / 2

    off, along = on(1.3)
    assert along > 0
    assert found["clamp_grip"].demand == pytest.approx(max(off / 2, (off + along * 1.25 * sqrt(1.04) / 0.2) / 4))
    assert found["clamp_grip"].capacity == pytest.approx(40_000 / (0.2 * saved.clamp_bolt_mm))
    off, _ = on(1.7)
    area = pi * saved.clamp_bolt_mm**2 / 4
    strength = {"8.8": 800, "10.9": 1000}[saved.clamp_class]
    assert found["clamp_bolts"].demand == pytest.approx(off / 2 / (0.9 * strength * 0.78 * area))
    off, _ = on(2.3)
    most = max(40_000 / (0.2 * saved.clamp_bolt_mm), off / 2)
    assert found["clamp_half"].demand == pytest.approx(max(method.half_stress(clamp, most, eared=way) for way in (True, False)))  # fmt: skip
    for check in found.values():
        again = check.reproduce
        if again is not None and again.figure == "demand":
            assert calculate(again.topic, again.input)[again.output] == pytest.approx(check.demand), check.key


def test_what_stands_round_the_tube_is_where_it_is_bolted_together(mounted: Design) -> None:
    """Both halves and the heads and nuts of all four bolts, as blocks: how far along the bolt, over and under the tube, and to either side."""
    design, saved = sized(mounted)
    part = part_of(saved, design)
    made, stand = part.own.joints[0], part.own.stands[0]
    one, footing = stand.standing, SPLIT_CLAMP.footing(saved)
    middle = np.array([one.foot[0], one.foot[1], one.foot[2] - OD / 2])
    laid = footing.laid(made.gap, stand)
    assert len(laid) == 2 * (2 + 4)
    corners = np.array([flat.at + x * flat.x + y * flat.y - middle + way * footing.thick / 2 * np.cross(flat.x, flat.y)
                        for flat in laid for x, y in flat.outline for way in (1.0, -1.0)])  # fmt: skip
    d = saved.clamp_bolt_mm
    assert np.abs(corners[:, 0]).max() == pytest.approx(made.gap / 2 + saved.plate.mm)  # along the tube
    assert np.abs(corners[:, 0]).min() == pytest.approx(made.gap / 2)
    assert np.abs(corners[:, 1]).max() == pytest.approx(half_wide(saved))
    assert corners[:, 2].max() == pytest.approx(saved.shoulder_mm + 1.6 * d)
    assert corners[:, 2].min() == pytest.approx(-saved.cap_mm - 0.9 * d)
    heads = [flat for flat in laid if len(flat.outline) == 4]
    across = sorted({round(abs(float(flat.outline[:, 0].mean())), 6) for flat in heads})
    assert across == [saved.apart_mm]
    # the ear begins where its shoulders end, and reaches to its head
    (ear,) = SPLIT_CLAMP.ears(saved, made.gap)
    _, low, _, high = ear.contour.bounds
    assert low == pytest.approx(saved.shoulder_mm - OD / 2)
    assert high == pytest.approx(OFF + saved.edge.mm - OD / 2)
    assert polygon(ear.contour).area + polygon(under_ear(saved)).area == pytest.approx(polygon(eared_half(saved)).area, rel=1e-4)  # fmt: skip
