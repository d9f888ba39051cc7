"""Sleeves through a box, welded to both walls, holding a joint before one of them in single shear."""

from __future__ import annotations

from dataclasses import replace
from math import cos, hypot, pi, radians, sin, sqrt
from typing import Any

import numpy as np
import pytest

from tests.core.test_mounts import IDS, SHOP
from tests.jobs import bare, draw, part_of, with_part, work
from tirante.calc import calculate
from tirante.core.brackets import rail_sleeve as method
from tirante.core.brackets.bolt import bolt_class
from tirante.core.brackets.mount_wall import Wall
from tirante.core.brackets.rail_sleeve import ThroughBox
from tirante.core.document.adopt import Patch, patched
from tirante.core.document.design import Design
from tirante.core.document.joints import HeldJoint
from tirante.core.document.mounts import BoxMember, FlatMember, Mount, RoundMember
from tirante.core.document.parts.rail_sleeve import RailSleeve
from tirante.core.drawing.sheet import Numbers
from tirante.core.errors import InputError
from tirante.core.job.bracket_map import plates_in_place
from tirante.core.job.places import places_of
from tirante.core.job.propose import propose
from tirante.core.job.room.look import look_round
from tirante.core.job.room.plates import own_sleeve
from tirante.core.job.room.room import Line
from tirante.core.loads.case_seen import CaseSeen
from tirante.core.members.thread import parse_thread
from tirante.core.parts.bracket.families.held import joint_made
from tirante.core.parts.bracket.families.rail_sleeve import RAIL_SLEEVE, SleeveMade, fitted_sleeve, sleeve_checks
from tirante.core.parts.part import BoughtPiece, Part, TurnedPiece

HIGH, DEEP, TALL, WALL = (
    34.0,
    50.0,
    80.0,
    4.0,
)  # mm: of the joint before the face; the box along the bolt, across it, its wall
ONE = ThroughBox(outside=28.0, bore=16.5, through=80.0, wall=4.0, proud=6.0)


def sleeved(mounted: Design, *, up: tuple[float, float, float] = (0, 0, 1), **more: Any) -> tuple[Design, RailSleeve]:
    """Marram's Panhard rod at the body, before the middle of a box across the car, its bolt square to that; nothing else is entered."""
    design = bare(mounted)
    link = next(part for part in design.parts if part.name == "Panhard rod")
    found = next(one for one in places_of(work(design)) if one.id == link.id and one.name == "end A")
    assert found.at is not None
    x, y, z = found.at
    turned = up != (0, 0, 1)
    shape = BoxMember(
        a=(x - HIGH - DEEP / 2, y - 150.0, z + 4.0), b=(x - HIGH - DEEP / 2, y + 250.0, z + 4.0), up=up, width_mm=TALL if turned else DEEP,
        height_mm=DEEP if turned else TALL, wall_mm=WALL,
    )  # fmt: skip
    mount = Mount(id=IDS[160], name="Cross box", shape=shape, yield_mpa=355.0, uts_mpa=470.0)
    saved = RailSleeve(id=IDS[161], name="sleeve", sleeve_od_mm=30.0, bore_mm=19.55, **more)
    bolt = next(one for one in SHOP.bolts if abs(one.diameter_mm - 19.05) < 0.01)
    joint = HeldJoint(
        id=IDS[162],
        held=found.held,
        by=saved.id,
        bolt=bolt.key,
        bolt_axis=(1.0, 0.0, 0.0),
        mount=mount.id,
        shim_mm=1.5,
    )
    joints = (*(one for one in design.joints if one.held != found.held), joint)
    rows = design.catalogue.model_copy(
        update={"bolts": (*(b for b in design.catalogue.bolts if b.key != bolt.key), bolt)}
    )
    design = design.model_copy(
        update={"mounts": (mount,), "joints": joints, "catalogue": rows, "parts": (*design.parts, saved)}
    )
    job = work(design)
    stand, held = job.stand_of(joint), job.held_end(joint)
    assert held
    made = joint_made(joint, job)
    fitted = fitted_sleeve(saved, stand, made)  # type: ignore[arg-type]
    fitted = fitted.model_copy(update=more)
    return with_part(design, fitted), fitted


def of(design: Design, saved: RailSleeve) -> Part:
    return part_of(saved, design)


# --- the method ----------------------------------------------------------------------------------------------------------------


def test_the_walls_are_the_supports_of_a_beam_that_runs_past_one_of_them() -> None:
    """Forces and moments about any place balance; the moment at the near wall is what the far one holds."""
    for lever, force in ((12.0, 5000.0), (40.0, 9000.0)):
        walls = method.on_walls(ONE, lever, force)
        far, near, load = -(ONE.through - ONE.wall / 2), -ONE.wall / 2, lever  # along the bolt from the near face
        assert walls.near - walls.far - force == pytest.approx(0.0, abs=1e-9)
        for about in (0.0, -31.0, 77.0):
            assert -walls.far * (far - about) + walls.near * (near - about) - force * (load - about) == pytest.approx(0.0, abs=1e-6)  # fmt: skip
        # the ring's stress summed over its area bends as hard as that
        steps = np.linspace(ONE.bore / 2, ONE.outside / 2, 4001)
        r, d = (steps[1:] + steps[:-1]) / 2, np.diff(steps)
        second = float((pi * r**3 * d).sum())
        assert method.bent(ONE, lever, force) == pytest.approx(walls.far * (near - far) * ONE.outside / 2 / second, rel=1e-5)  # fmt: skip
    with pytest.raises(InputError, match="bore_mm"):
        method.bent(replace(ONE, bore=28.0), 20.0, 1.0)
    with pytest.raises(InputError, match="wall_mm"):
        method.on_walls(replace(ONE, wall=41.0), 20.0, 1.0)


def test_the_pressure_in_the_bore_is_linear_and_balances_the_joint() -> None:
    """p(s) from the mouth inward, highest there: its sum is the pull, its moment about the mouth the pull's."""
    bolt, lever, force = 16.0, 25.0, 8000.0
    mouth = method.pressed(ONE, bolt, lever, force)
    deep = 2 * bolt
    # linear from the mouth's value, its slope from the balance of forces
    end = 2 * force / (bolt * deep) - mouth
    s = np.linspace(0.0, deep, 20001)
    p = mouth + (end - mouth) * s / deep
    assert np.trapezoid(p, s) * bolt == pytest.approx(force, rel=1e-9)
    assert np.trapezoid(p * s, s) * bolt == pytest.approx(-force * (lever - ONE.proud), rel=1e-6)
    shallow = replace(ONE, through=20.0)  # no deeper than it is long
    assert method.pressed(shallow, bolt, lever, force) == pytest.approx(force * (6 * 19 + 4 * 26) / (bolt * 26**2))


def test_a_push_is_halved_between_two_walls_by_the_rule_of_a_round_branch_on_a_box() -> None:
    """EN 1993-1-8 Table 7.11, a branch square to a chord's face, η = β, times π/4 of a round one (from memory)."""
    wall = Wall(kind="box", width=80.0, thickness=4.0, yield_mpa=275.0)
    beta = 28.0 / 80.0
    one = pi / 4 * 275 * 16 / (1 - beta) * (2 * beta + 4 * sqrt(1 - beta))
    assert method.walls_pushed(ONE, wall) == pytest.approx(2 * one)
    assert method.ring_line(ONE, 6000.0, 800.0) * pi * 28.0 == pytest.approx(hypot(6000, 400))
    assert method.wall_pressed(ONE, 275.0) == pytest.approx(1.8 * 275 * 28 * 4)


# --- in a job ------------------------------------------------------------------------------------------------------------------


def test_it_goes_through_its_box_and_stands_out_to_its_joint(mounted: Design) -> None:
    design, saved = sleeved(mounted)
    part = of(design, saved)
    assert not part.faults
    assert isinstance(part.own, SleeveMade)
    (made,), (stand,) = part.own.joints, part.own.stands
    assert stand is not None
    assert (saved.through_mm, saved.wall_mm) == (DEEP, WALL)
    assert saved.proud_mm + made.beside + made.held.row.ball_width_mm / 2 == pytest.approx(HIGH, abs=0.01)
    (sleeve,) = part.pieces
    assert isinstance(sleeve, TurnedPiece)
    assert sleeve.turned is not None
    assert (sleeve.turned.length, sleeve.turned.outside, sleeve.turned.bore) == (pytest.approx(saved.proud_mm + DEEP + saved.far_mm), 30.0, 19.55)  # fmt: skip
    assert part.mass == pytest.approx(pi / 4 * (30**2 - 19.55**2) * saved.length_mm * 7.85e-6)
    # its solid in the car: from behind the far face to where the ball's spacer lies
    ((at, (flat,)),) = plates_in_place(work(design), part)
    reach = [float((flat.at + way * flat.thickness / 2 * stand.standing.bolt - stand.standing.foot) @ stand.standing.bolt) for way in (-1, 1)]  # fmt: skip
    assert reach == pytest.approx([-DEEP - saved.far_mm, saved.proud_mm])
    assert np.cross(flat.x, flat.y) == pytest.approx(stand.standing.bolt)
    off = flat.at - at.at
    assert off - float(off @ stand.standing.bolt) * stand.standing.bolt == pytest.approx(np.zeros(3), abs=1e-9)
    # its bolt goes through all of it
    bolt = next(one for one in part.beside if isinstance(one, BoughtPiece) and one.sort == "bolt")
    assert f"grip of {made.gap + saved.length_mm:.1f} mm" in bolt.what
    assert any("flanges without approval" in note for note in part.notes)
    assert any("bored through both" in one for one in part.not_checked)
    for view in part.views:
        assert draw(saved, design, view.name, Numbers()).items
    # a box on its side is as wide along the bolt as its height says
    aside, other = sleeved(mounted, up=(1.0, 0.0, 0.0))
    assert other.through_mm == DEEP
    assert not of(aside, other).faults


def test_of_two_joints_there_are_two_sleeves_and_twice_the_metal(mounted: Design) -> None:
    design, saved = sleeved(mounted)
    one = of(design, saved)
    own = next(joint for joint in design.joints if joint.by == saved.id)
    second = own.model_copy(update={"id": IDS[163], "held": own.held.model_copy(update={"end": "b"}), "mount": None})
    joints = (*(joint for joint in design.joints if joint.held != second.held), second)
    two = of(design.model_copy(update={"joints": joints}), saved)
    assert not two.faults
    assert [piece.count for piece in (*one.pieces, *two.pieces) if isinstance(piece, TurnedPiece)] == [1, 2]
    assert two.mass == pytest.approx(2 * (one.mass or 0.0))
    assert two.card is not None
    assert two.card.figures[0].label == f"Turn {2 * saved.count}, long"


def test_what_does_not_go_through_or_reach_is_told_by_the_field_that_cures_it(mounted: Design) -> None:
    design, saved = sleeved(mounted)

    def faults(**change: Any) -> list[tuple[str, str]]:
        one = saved.model_copy(update=change)
        return [(fault.field, fault.message) for fault in part_of(one, with_part(design, one)).faults]

    assert faults() == []
    assert [field for field, _ in faults(through_mm=DEEP + 1.0)] == ["through_mm"]
    assert [field for field, _ in faults(proud_mm=saved.proud_mm + 1.0)] == ["proud_mm"]
    assert [field for field, _ in faults(far_mm=2.0)] == ["far_mm"]
    # the joint is 4 mm below the face's middle, and 8 mm of wall are round beside its edge
    widest = 2 * (TALL / 2 - 4.0 - 2 * WALL)
    assert faults(sleeve_od_mm=widest) == []
    ((field, message),) = faults(sleeve_od_mm=widest + 3.0)
    assert (field, "1.5 mm into the corner" in message) == ("sleeve_od_mm", True)

    def on(shape: Any) -> list[tuple[str, str]]:
        mount = design.mounts[0].model_copy(update={"shape": shape})
        other = design.model_copy(update={"mounts": (mount,)})
        return [(fault.field, fault.message) for fault in part_of(saved, other).faults]

    box = design.mounts[0].shape
    assert isinstance(box, BoxMember)
    low = box.model_copy(update={"a": (*box.a[:2], box.a[2] + 60.0), "b": (*box.b[:2], box.b[2] + 60.0)})
    assert "past the edge of Cross box" in on(low)[0][1]
    short = box.model_copy(update={"a": (box.a[0], box.b[1] - 270.0, box.a[2])})
    assert "20.0 mm from the end" in on(short)[0][1]
    through = (box.a[0] + DEEP / 2, box.a[1], box.a[2])
    assert "a box" in on(FlatMember(through=through, normal=(1.0, 0.0, 0.0), wall_mm=4.0))[0][1]
    assert "no sleeve" in on(RoundMember(a=box.a, b=box.b, od_mm=50.0, wall_mm=4.0))[0][1]
    with pytest.raises(ValueError, match="no wall left"):
        RailSleeve(id=IDS[0], name="s", sleeve_od_mm=20.0, bore_mm=20.0)


def test_every_check_sees_its_own_force_factor_and_metal(mounted: Design) -> None:
    design, saved = sleeved(mounted)
    part = of(design, saved)
    (made,) = part.own.joints  # type: ignore[union-attr]
    settings = work(design).settings
    f, bolt = settings.factors, made.bolt
    one = CaseSeen(name="pushed along", axial_n=5000.0, side_n=900.0)
    seen = replace(made, held=replace(made.held, cases=(one,)))
    wall = Wall(kind="box", width=TALL, thickness=WALL, yield_mpa=355.0, uts_mpa=470.0)
    checks = {check.key: check for check in sleeve_checks(saved, seen, wall, settings)}
    ball = made.held.row.ball_width_mm
    lever = saved.proud_mm + made.beside + ball / 2
    both = hypot(5000, 900)  # the side force may point square to the bolt as well
    far = (lever + WALL / 2) / (DEEP - WALL)
    d, bore, outside = bolt.diameter_mm, 19.55, 30.0
    leg = min(saved.weld_leg_mm, WALL)
    material = bolt_class(bolt.strength_class, d)
    deep = 2 * d
    wanted = {
        "pin_shear": (both * f.bolt, None),
        # held a radius inside its bore
        "pin_bending": (32 * both * f.bolt * (d / 2 + made.beside + ball / 2) / (pi * d**3), material.yield_strength),
        "sleeve_bent": (32 * both * f.tab_yield * (lever + WALL / 2) * outside / (pi * (outside**4 - bore**4)), 355.0),
        "sleeve_mouth": (both * f.tab_rupture * (6 * (lever - saved.proud_mm) + 4 * deep) / (d * deep**2), 1.8 * 355.0),
        "sleeve_ring": (both * f.weld * (1 + far) / (pi * outside * 0.7071 * leg), 0.6 * settings.electrode_uts_mpa),
        "sleeve_wall": (both * f.tab_rupture * (1 + far), 1.8 * 355 * outside * WALL),
        "sleeve_pushed": (900 * f.tab_yield, method.walls_pushed(ThroughBox(outside=outside, bore=bore, through=DEEP, wall=WALL, proud=0.0), wall)),
    }  # fmt: skip
    assert set(checks) == {*wanted, "sleeve_crushed"}
    for key, (demand, capacity) in wanted.items():
        assert checks[key].demand == pytest.approx(demand, rel=2e-4), key
        assert capacity is None or checks[key].capacity == pytest.approx(capacity, rel=1e-6), key
    # 0.75 of the proof load, 0.9 of yield on the stress area here, on the ring between bore and outside
    clamp = checks["sleeve_crushed"].reproduce.input["clamp_n"]  # type: ignore[union-attr]
    assert 0.5 < clamp / (material.yield_strength * parse_thread(bolt.designation).stress_area) < 0.8
    assert checks["sleeve_crushed"].demand == pytest.approx(clamp / (pi / 4 * (outside**2 - bore**2)))
    assert checks["sleeve_crushed"].capacity == 355.0
    for check in (*checks.values(), *part.checks):
        again = check.reproduce
        if again is not None and again.figure == "demand":
            assert calculate(again.topic, again.input)[again.output] == pytest.approx(check.demand), check.key
    out = calculate("rail-sleeve", checks["sleeve_wall"].reproduce.input)  # type: ignore[union-attr]
    assert out["wall_carries_n"] == pytest.approx(checks["sleeve_wall"].capacity)
    assert out["far_n"] == pytest.approx(both * f.tab_rupture * far)
    assert calculate("rail-sleeve", checks["sleeve_pushed"].reproduce.input)["walls_carry_push_n"] == pytest.approx(checks["sleeve_pushed"].capacity)  # type: ignore[union-attr]  # fmt: skip
    assert checks["sleeve_pushed"].note == ""
    thinner = {c.key: c.note for c in sleeve_checks(saved, seen, replace(wall, thickness=1.5), settings)}
    assert "53 times as wide as thick" in thinner["sleeve_pushed"]
    # and the job's own worst case is the one that is asked
    worst = max(case.resultant_n for case in made.held.cases)
    assert next(c for c in part.checks if c.key == "sleeve_wall").demand == pytest.approx(worst * f.tab_rupture * (1 + far), rel=1e-6)  # fmt: skip


def test_a_fillet_counts_no_more_than_the_thinner_wall(mounted: Design) -> None:
    design, saved = sleeved(mounted, weld_leg_mm=6.0)
    ring = next(c for c in of(design, saved).checks if c.key == "sleeve_ring").reproduce
    assert ring is not None
    assert ring.input["leg_mm"] == WALL
    thin = saved.model_copy(update={"sleeve_od_mm": 25.55})
    ring = next(c for c in part_of(thin, with_part(design, thin)).checks if c.key == "sleeve_ring").reproduce
    assert ring is not None
    assert ring.input["leg_mm"] == pytest.approx(3.0)


def test_where_no_box_is_entered_its_walls_are_said_to_be_unjudged(mounted: Design) -> None:
    design, saved = sleeved(mounted)
    free = design.model_copy(update={"joints": tuple(j.model_copy(update={"mount": None}) for j in design.joints)})
    part = of(free, saved)
    assert not {"sleeve_wall", "sleeve_pushed"} & {check.key for check in part.checks}
    assert any("walls of the box" in one for one in part.not_checked)
    # a wall that is not known is taken thick: its middle is further from the joint
    lost = saved.model_copy(update={"wall_mm": None})
    part = part_of(lost, with_part(free, lost))
    near = next(c for c in part.checks if c.key == "sleeve_ring").reproduce
    assert near is not None
    assert near.input["wall_mm"] == 6.0
    assert any("taken as 6 mm" in one for one in part.not_checked)
    unknown = design.model_copy(update={"mounts": (design.mounts[0].model_copy(update={"yield_mpa": None}),)})
    part = of(unknown, saved)
    assert not {"sleeve_wall", "sleeve_pushed"} & {check.key for check in part.checks}
    assert any("yield strength" in one for one in part.not_checked)


def test_the_smallest_that_holds_is_found_and_fits_its_box(mounted: Design) -> None:
    design, saved = sleeved(mounted)
    found = RAIL_SLEEVE.size(saved, work(design), SHOP, "mass")
    best = found.winner or found.nearest
    assert best is not None
    (one,) = best.parts
    assert isinstance(one, RailSleeve)
    whole = patched(design, Patch(parts=best.parts, joints=best.joints))
    whole = whole.model_copy(update={"catalogue": SHOP})
    part = part_of(one, whole)
    assert not part.faults
    assert best.mass == pytest.approx(part.mass)
    assert best.stock[0] == f"⌀{one.sleeve_od_mm:g} bar"
    assert found.winner is not None
    assert all(check.passed for check in part.checks)
    assert "sleeves, fillets and bolts were tried" in found.advice
    held = [part.own.joints[0].held]  # type: ignore[union-attr]
    stand = part.own.stands[0]  # type: ignore[union-attr]
    for less in ({"sleeve_od_mm": one.sleeve_od_mm - 2.0}, {"weld_leg_mm": one.weld_leg_mm - 1.0}):
        smaller = RAIL_SLEEVE.judged_with(one.model_copy(update=less), best.joints, held, work(design).settings, SHOP, [stand])  # fmt: skip
        assert smaller.utilisation > max(check.utilisation for check in part.checks) - 1e-9
    # another bolt asks for another bore, and keeps a wall round it
    other = next(
        bolt.key for bolt in SHOP.bolts
        if bolt.key in RAIL_SLEEVE.offers(one, work(whole), SHOP)["bolt"] and bolt.key != best.joints[0].bolt
    )  # fmt: skip
    changed = RAIL_SLEEVE.choose(one, "bolt", other, work(whole), SHOP)
    (after,) = changed.parts
    assert isinstance(after, RailSleeve)
    assert after.sleeve_od_mm - after.bore_mm >= 8.0 - 1e-9


def test_one_press_lets_a_sleeve_through_where_no_plate_stands_or_lies_and_holds(mounted: Design) -> None:
    """A box of thin wall: a plate welded to one face bends it through, a sleeve bears on both walls in their own planes."""
    design, saved = sleeved(mounted)
    shape = design.mounts[0].shape.model_copy(update={"wall_mm": 2.0})
    nothing = design.model_copy(update={
        "mounts": (design.mounts[0].model_copy(update={"shape": shape}),), "parts": tuple(p for p in design.parts if p.id != saved.id),
        "joints": tuple(j.model_copy(update={"by": None, "bolt": None, "mount": None, "shim_mm": 0.0}) if j.by == saved.id else j for j in design.joints),
    })  # fmt: skip
    link = next(part for part in design.parts if part.name == "Panhard rod")
    found = propose(work(nothing), SHOP, IDS, (link.id,))
    (one,) = (each for each in found.every if isinstance(each.part, RailSleeve))
    assert "a sleeve through Cross box" in one.told
    part = part_of(one.part, patched(nothing, found.patch))
    assert not part.faults
    assert {"sleeve_wall", "sleeve_pushed"} <= {check.key for check in part.checks}
    assert all(check.passed for check in part.checks)


def test_a_wall_across_its_bolt_or_nut_turns_the_verdict(mounted: Design) -> None:
    """A wall across the bolt's line, a millimetre this side and that of where the bolt's end, or the nut's, comes."""
    design, saved = sleeved(mounted)
    part = of(design, saved)
    (made,), (stand,) = part.own.joints, part.own.stands  # type: ignore[union-attr]
    own, bolt = own_sleeve(saved, made, stand), stand.standing.bolt
    face = own.nut(1.0).solid
    assert own.face(-1.0) == pytest.approx(made.gap / 2 + saved.length_mm)
    assert float(((face.a[:, 0] if hasattr(face, "a") else face.p[:, 0]) - stand.at.at) @ bolt) == pytest.approx(made.gap / 2)  # type: ignore[union-attr]  # fmt: skip

    def lines(*offs: float) -> dict[str, Line]:
        walls = [
            Mount(id=f"01900000-0000-7000-8000-00000000aa{i:02d}", name=f"Wall {i}", shape=FlatMember(through=tuple(stand.at.at + off * bolt), normal=tuple(-np.sign(off) * bolt), wall_mm=2.0), both_sides=False)
            for i, off in enumerate(offs)
        ]  # fmt: skip
        more = design.model_copy(update={"mounts": (*design.mounts, *walls)})
        every = [line for one in look_round(work(more), saved.id).joints for line in one.lines]
        return {line.what: line for line in every if line.sort == "bolt"} | {line.to: line for line in every if line.sort == "stands"}  # fmt: skip

    out = made.gap / 2 + own.bolt_length + own.hardware.head
    behind = out + saved.length_mm
    # it may go in from either side: only where both are shut it does not
    assert lines(out - 1.0)["the bolt"].state == "good"
    assert lines(-(behind - 1.0))["the bolt"].state == "good"
    assert lines(out - 1.0, -(behind - 1.0))["the bolt"].state == "stop"
    assert lines(out + 1.0, -(behind - 1.0))["the bolt"].state == "good"
    ends = made.gap / 2 + own.tail
    assert lines(ends + 9.0)["Wall 0"].gap_mm == pytest.approx(9.0, abs=0.01)
    assert lines(ends - 1.0)["Wall 0"].state == "stop"
    every = [line.what for one in look_round(work(design), saved.id).joints for line in one.lines]
    assert {"a torch along its near end", "a torch along its far end"} <= set(every)


def test_its_solid_is_no_smaller_than_it_all_round(mounted: Design) -> None:
    design, saved = sleeved(mounted)
    ((_, (flat,)),) = plates_in_place(work(design), of(design, saved))
    way = np.array([(cos(radians(a)), sin(radians(a))) for a in range(0, 360, 5)])
    assert (flat.outline @ way.T).max(axis=0).min() >= saved.sleeve_od_mm / 2 - 1e-9
    assert np.linalg.norm(flat.outline, axis=1).max() < saved.sleeve_od_mm / 2 * 1.01
