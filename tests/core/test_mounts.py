"""Mounts and what is proposed on them: followed from the joint to plates that lie on their member in the car, and refused where they cannot."""

from __future__ import annotations

import itertools
import re
from typing import Any

import numpy as np
import pytest
from shapely.geometry import MultiPoint, Point

from tests.conftest import ROOT
from tests.jobs import bare, part_of, with_part, work
from tirante.calc import calculate
from tirante.core.document.adopt import patched
from tirante.core.document.catalogue import KINDS, Catalogue, read_csv
from tirante.core.document.design import Design, tied
from tirante.core.document.fields import Coordinate, Length
from tirante.core.document.joints import EndOfLink, HeldJoint, PivotOfArm, PointOfBody
from tirante.core.document.mounts import BoxMember, FlatMember, Mount, RoundMember
from tirante.core.document.parts.arm import Arm
from tirante.core.document.parts.bracket import (
    ArcOfHoles,
    CornerBase,
    FlatBase,
    GridOfHoles,
    RowOfHoles,
    SaddleBase,
    TabPair,
)
from tirante.core.document.parts.common import Pivots
from tirante.core.document.parts.link import Link
from tirante.core.document.upgrades import load_design
from tirante.core.errors import InputError
from tirante.core.flat.contour import require_closed
from tirante.core.flat.hull import around, edges_between
from tirante.core.job.at_joints import _seen_from
from tirante.core.job.evaluate import part_out
from tirante.core.job.hole_table import hole_table, nearest, put_in_hole
from tirante.core.job.mounts_csv import mounts_of_obstacles, read_mounts, write_mounts
from tirante.core.job.places import places_of
from tirante.core.job.propose import propose
from tirante.core.parts.bracket.families.hole_pattern import places
from tirante.core.parts.bracket.families.place_view import plates_in_space
from tirante.core.parts.bracket.families.tab_outline import tab_outline
from tirante.core.parts.bracket.families.tab_pair import TAB_PAIR, TabMade, fitted_to
from tirante.core.parts.bracket.families.tab_sizing import outlines_of
from tirante.core.parts.stands import At, Stand, fitted_on, stand_on, swing_axis
from tirante.core.suspension.cycle import measured, solved_cycle
from tirante.documents.on_table import on_table

SHOP = Catalogue(**{k: tuple(read_csv(k, (ROOT / f"data/catalogue/{k}.csv").read_text())) for k in KINDS})  # type: ignore[arg-type]
IDS = [f"00000000-0000-4000-8000-{n:012d}" for n in range(1, 200)]


def off_axis(place: np.ndarray, shape: RoundMember, mirrored: bool) -> float:
    way = np.array([1.0, -1.0 if mirrored else 1.0, 1.0])
    a, b = way * np.array(shape.a), way * np.array(shape.b)
    u = (b - a) / np.linalg.norm(b - a)
    rel = place - a
    return float(np.linalg.norm(rel - (rel @ u) * u))


def test_every_plate_that_ships_lies_on_its_member_with_its_hole_at_the_joint(mounted: Design) -> None:
    """From the cut contour alone: put where the card says, its foot lies on the member's skin and its hole at the end's own point."""
    job, looked = work(mounted), {"round": 0, "box": 0}
    for part in job.parts:
        if not isinstance(part.own, TabMade):
            continue
        for made, stand in zip(part.own.joints, part.own.stands, strict=True):
            if stand is None:
                continue
            tab, one, shape = part.saved, stand.standing, stand.mount.shape
            assert isinstance(tab, TabPair)
            end = mounted.ends[[e.id for e in mounted.ends].index(stand.at.end_id)].end
            assert any(np.allclose(stand.at.at, point) for point in end.points.values())
            for (corners, half), side in zip(
                plates_in_space(tab, part.own.outlines, made.gap, stand), (1.0, -1.0), strict=True
            ):
                # square to the bolt, on either side of what it holds
                assert (
                    abs(
                        float((corners - corners[0]) @ one.bolt).max()
                        if corners.ndim == 1
                        else np.abs((corners - corners[0]) @ one.bolt).max()
                    )
                    < 1e-9
                )
                assert float((corners[0] - stand.at.at) @ one.bolt) == pytest.approx(
                    side * (made.gap + tab.plate.mm) / 2
                )
                assert np.linalg.norm(half) == pytest.approx(tab.plate.mm / 2)
                hole = stand.at.at + side * (made.gap + tab.plate.mm) / 2 * one.bolt
                assert (
                    np.linalg.norm(
                        hole - (one.foot + tab.height.mm * one.y + side * (made.gap + tab.plate.mm) / 2 * one.bolt)
                    )
                    < 0.02
                )
                outline = part.own.outlines[0 if side > 0 or len(part.own.outlines) == 1 else 1]
                feet = [
                    e
                    for e in outline.contour.edges
                    if min(e.start[1], e.end[1]) < 0.4 * tab.height.mm
                    and abs(e.start[0] - e.end[0]) > tab.base_width.mm * 0.02
                ][-8:]
                assert feet
                # corners of the foot, on the skin: rounded sizes are within two hundredths
                low = corners[np.argsort((corners - one.foot) @ one.y)[:2]]
                for corner in low:
                    if isinstance(shape, RoundMember):
                        assert off_axis(corner, shape, stand.mirrored) == pytest.approx(shape.od_mm / 2, abs=0.05)
                        looked["round"] += 1
                    elif isinstance(shape, BoxMember):
                        assert float((corner - one.foot) @ one.y) == pytest.approx(0.0, abs=0.02)
                        looked["box"] += 1
    assert looked["round"] >= 16
    assert looked["box"] >= 8


def test_all_of_a_car_is_proposed_by_one_press_each_on_what_moves_with_it_and_holds(mounted: Design) -> None:
    job = work(bare(mounted))
    found = propose(job, SHOP, IDS)
    assert [one.place for one in found.every] == places_of(job)  # no joint is passed over in silence
    assert all(one.told.startswith("held by") == one.place.settled for one in found.every)
    after = work(patched(job.design, found.patch))
    made = [one for one in found.every if one.part]
    assert len(made) >= 12
    for one in made:
        assert one.part
        part = after.part(one.part.id)
        assert part
        assert part.complete, part.faults
        # the very judgement of its own page, which says that it holds only where every case was carried
        assert one.told.endswith(part_out(part, after).headline)
        assert (" is over: " in one.told) != all(check.passed for check in part.checks)
        assert ("It holds." in one.told) <= (not part.not_carried)
        joint = next(j for j in after.design.joints if j.by == one.part.id)
        stand = after.stand_of(joint)
        if isinstance(stand, Stand):
            assert stand.mount.body == stand.at.body
    told = {f"{one.place.of}, {one.place.name}": one.told for one in found.every if not one.part}
    assert "rack" in told["Front tie rod, end A"]
    # nothing of the upright is entered, and that is said of it
    assert "no mount on the upright" in told["Front tie rod, end B"]
    with pytest.raises(InputError, match="two for each"):
        propose(job, SHOP, IDS[:3])


@pytest.mark.parametrize(
    ("job", "left"),
    [
        ("tern", {"Trailing link, end A": "no mount on the chassis", "Trailing link, end B": "no mount on the upright"}), ("plover", {}),
        ("dunlin", {}),
    ],
)  # fmt: skip
def test_other_cars_have_a_bracket_at_every_joint_by_one_press_or_the_reason(job: str, left: dict[str, str]) -> None:
    design = load_design((ROOT / f"data/demo/{job}.json").read_bytes())
    found = propose(work(bare(design)), SHOP, IDS)
    after = work(patched(bare(design), found.patch))
    told = {f"{one.place.of}, {one.place.name}": one.told for one in found.every if not one.part and not one.place.settled}  # fmt: skip
    assert told.keys() == left.keys()
    assert all(why in told[name] for name, why in left.items())
    made = [one.part.id for one in found.every if one.part]
    assert len(made) >= 3
    for part_id in made:
        part = after.part(part_id)
        assert part
        assert part.complete
        assert all(check.passed for check in part.checks), part.saved.name
    # every plate of it is one that the cutting table takes: none is thicker than its hole is wide
    tried = on_table(after, 1.2)
    assert not [(one.part, one.faults) for one in tried.plates if one.faults]
    assert not [one for one in tried.left_out if "no file" in one.why]
    # a stop's pad stands on what moves with it, at the member's own skin
    for part in (after.part(part_id) for part_id in made):
        assert part
        for joint in after.held_by(part.id):
            mount, at = after.mount_of(joint), after.at_of(joint)
            if part.saved.kind == "strike_pad" and mount and at:
                assert isinstance(mount.shape, RoundMember)
                assert part.own.shape.pad.height + part.own.shape.skin + part.own.shape.pad.plate == pytest.approx(off_axis(at.at, mount.shape, False))  # fmt: skip


def test_a_foot_is_no_wider_than_the_face_that_it_stands_on() -> None:
    """What Plover's Panhard rod hangs on made narrower: the foot follows to its edges, and where no foot is left for the head it straddles a corner of the rail beside it."""
    design = bare(load_design((ROOT / "data/demo/plover.json").read_bytes()))
    link = next(part for part in design.parts if part.name == "Front Panhard rod")
    widths = []
    for wide in (120.0, 50.0, 36.0, 20.0):
        mounts = tuple(
            m.model_copy(update={"shape": m.shape.model_copy(update={"width_mm": wide})}) if m.name == "Panhard outrigger" else m
            for m in design.mounts
        )  # fmt: skip
        job = work(design.model_copy(update={"mounts": mounts}))
        found = propose(job, SHOP, IDS, (link.id,))
        one = next(one for one in found.every if one.place.name == "end A")
        if wide == 20.0:
            assert isinstance(one.part, TabPair)
            assert isinstance(one.part.base, CornerBase)
            assert "Frame rail on its lower left corner" in one.told
            continue
        assert isinstance(one.part, TabPair), one.told
        joint = next(j for j in found.patch.joints if j.by == one.part.id)
        stand = work(patched(job.design, found.patch)).stand_of(joint)
        assert isinstance(stand, Stand)
        reach = [abs(float((stand.standing.corner(x, 0.0) - np.array([0, 420, 0]))[1])) for x in (-one.part.base_width.mm / 2, one.part.base_width.mm / 2)]  # fmt: skip
        assert max(reach) <= wide / 2 + 0.5
        widths.append((one.part.base_width.mm, 2 * one.part.head_radius.mm))
    assert widths[0][0] > widths[0][1]
    assert widths[2][0] < widths[2][1]  # it draws in


def test_a_member_that_ends_short_of_a_joint_is_told_so_and_not_of_the_other_side(mounted: Design) -> None:
    design = bare(mounted)
    short = tuple(
        m.model_copy(update={"shape": m.shape.model_copy(update={"b": (-1000.0, 402.0, 545.0)})}) if m.name == "Rear rail" else m
        for m in design.mounts
    )  # fmt: skip
    link = next(part for part in design.parts if part.name == "Rear lower link")
    found = propose(work(design.model_copy(update={"mounts": short})), SHOP, IDS, (link.id,))
    one = next(one for one in found.every if one.place.name == "end A")
    assert one.part is None
    assert "Rear rail ends 180 mm short of it" in one.told


def test_what_is_proposed_is_not_said_to_hold_where_a_case_was_not_carried(mounted: Design) -> None:
    """Without a rate nobody knows what the spring has beside its stop: the damper's eyes have not seen that case."""
    ends = list(mounted.ends)
    damper = ends[1].end.damper.model_copy(update={"rate_n_per_mm": None})  # type: ignore[union-attr]
    ends[1] = ends[1].model_copy(update={"end": ends[1].end.model_copy(update={"damper": damper})})
    found = propose(work(bare(mounted.model_copy(update={"ends": tuple(ends)}))), SHOP, IDS)
    (told,) = [one.told for one in found.every if one.place.of == "Rear damper" and one.place.name == "lower eye"]
    assert "Not judged in " in told
    assert "It holds" not in told


def test_a_bracket_is_as_light_as_holds_and_the_next_thinner_plate_does_not(mounted: Design) -> None:
    job = work(mounted)
    tab = next(part for part in mounted.of_kind(TabPair) if part.name == "Rear lower link, end A, tabs")
    sized = TAB_PAIR.size(tab, job, SHOP, "mass").winner
    assert sized
    best = sized.parts[0]
    assert isinstance(best, TabPair)
    whole = with_part(mounted, best)
    assert all(check.passed for check in part_of(best, whole).checks)
    thinner = [mm for mm in (3.0, 4.0, 5.0, 6.0, 8.0) if mm < best.plate.mm]
    for mm in thinner:
        less = best.model_copy(update={"plate": best.plate.model_copy(update={"mm": mm, "typed": None})})
        part = part_of(less, with_part(mounted, less))
        assert part.faults or not all(check.passed for check in part.checks), mm


def moved(design: Design, point: str, by: tuple[float, float, float]) -> Design:
    ends = []
    for one in design.ends:
        points = dict(one.end.points)
        if point in points:
            points[point] = tuple(a + b for a, b in zip(points[point], by, strict=True))
        ends.append(one.model_copy(update={"end": one.end.model_copy(update={"points": points})}))
    return tied(design.model_copy(update={"ends": tuple(ends)}))


def test_a_joint_or_a_mount_that_moves_is_told_at_the_bracket_and_fitting_it_cures_it(mounted: Design) -> None:
    tab = next(part for part in mounted.of_kind(TabPair) if part.name == "Rear lower link, end A, tabs")
    assert part_of(tab, mounted).complete
    lower = moved(mounted, "lower_chassis", (0.0, 0.0, -12.0))
    (fault,) = part_of(tab, lower).faults
    assert fault.field == "height"
    assert f"{tab.height.mm + 12:.1f} mm" in fault.message
    job = work(lower)
    again = fitted_to(tab, job.held_by(tab.id)[0], job)
    assert again.height.mm == pytest.approx(tab.height.mm + 12.0)
    assert part_of(again, with_part(lower, again)).complete
    # beside the rail's lower face there is nothing to weld to: 28 mm further out
    out = moved(mounted, "lower_chassis", (0.0, 28.0, 0.0))
    assert any("nothing to weld to" in one.message for one in part_of(tab, out).faults)
    # another tube under it
    pair = next(part for part in mounted.of_kind(TabPair) if part.name == "Rear lower link, end B, tabs")
    mounts = tuple(
        one.model_copy(update={"shape": one.shape.model_copy(update={"od_mm": 88.9})})
        if one.name == "Axle tube"
        else one
        for one in mounted.mounts
    )
    wider = mounted.model_copy(update={"mounts": mounts})
    assert {"base/tube_od", "height"} == {one.field for one in part_of(pair, wider).faults}
    # and a mount that is taken away leaves the bracket as it is, on nothing
    gone = tied(mounted.model_copy(update={"mounts": tuple(one for one in mounted.mounts if one.name != "Axle tube")}))
    assert part_of(pair, gone).complete
    assert next(j for j in gone.joints if j.by == pair.id).mount is None


def test_a_mount_of_another_body_or_side_is_not_stood_on(mounted: Design) -> None:
    job = work(mounted)
    joint = next(j for j in mounted.joints if isinstance(j.held, EndOfLink) and j.held.end == "a" and j.mount)
    axle = next(one for one in mounted.mounts if one.name == "Axle tube")
    found = job.stand_of(joint.model_copy(update={"mount": axle.id}))
    assert "does not move with the chassis" in str(found)
    # of both sides the nearer one is taken
    rail = next(one for one in mounted.mounts if one.name == "Rear rail")
    at = job.at_of(joint)
    assert at
    flipped = rail.model_copy(
        update={"shape": rail.shape.model_copy(update={"a": (-900.0, -402.0, 545.0), "b": (-2420.0, -402.0, 545.0)})}
    )
    stand = work(mounted.model_copy(update={"mounts": (flipped,)})).stand_of(
        joint.model_copy(update={"mount": flipped.id})
    )
    assert isinstance(stand, Stand)
    assert stand.mirrored
    assert stand.standing.height == pytest.approx(545.0 - 40.0 - at.at[2])


def test_how_a_bolt_points_is_what_is_said_nearest_to_the_joint(mounted: Design) -> None:
    job = work(bare(mounted))
    link = mounted.of_kind(Link)[0]
    joint = HeldJoint(id=IDS[0], held=EndOfLink(part=link.id, end="a"))
    at = job.at_of(joint)
    assert at
    assert at.bolt == pytest.approx([0.0, 1.0, 0.0])
    assert "at Layout" in at.bolt_told
    turned = job.at_of(joint.model_copy(update={"bolt_axis": (0.0, -2.0, 2.0)}))
    assert turned
    assert abs(turned.bolt @ [0.0, 1.0, -1.0]) == pytest.approx(np.sqrt(2))  # type: ignore[operator]
    arm = next(one for one in mounted.of_kind(Arm) if one.pivots == "bush sleeves")
    pivot = job.at_of(HeldJoint(id=IDS[0], held=PivotOfArm(part=arm.id, pivot="front")))
    front = mounted.ends[0].end.points
    line = np.subtract(front["lower_front"], front["lower_rear"])
    assert pivot
    assert np.cross(pivot.bolt, line / np.linalg.norm(line)) == pytest.approx([0, 0, 0], abs=1e-12)  # type: ignore[arg-type]
    damper = job.at_of(
        HeldJoint(id=IDS[0], held=PointOfBody(end_id=mounted.ends[0].id, body="ground", point="damper_top"))
    )
    assert damper
    assert "tilts least" in damper.bolt_told


def test_what_swings_in_a_plane_has_its_bolt_square_to_it_or_nearly_so_along_the_car() -> None:
    turns = np.radians(np.linspace(-20, 20, 9))
    normal = np.array([0.3, 0.5, 0.81])
    normal = normal / np.linalg.norm(normal)
    one = np.cross(normal, [0.0, 0.0, 1.0])
    one = one / np.linalg.norm(one)
    two = np.cross(normal, one)
    bolt, told = swing_axis(np.outer(one, np.cos(turns)) + np.outer(two, np.sin(turns)))
    assert abs(bolt @ normal) == pytest.approx(1.0)
    assert "0° at most" in told
    # a link across the car that rises and falls: along the car
    bolt, _ = swing_axis(np.stack([0 * turns + 0.01, np.cos(turns), np.sin(turns)]))
    assert bolt == pytest.approx([1.0, 0.0, 0.0])


def test_bushes_of_an_arm_put_what_the_hinge_does_into_what_holds_them(mounted: Design) -> None:
    """Both pivots' forces together with the outer joint's and the damper's leave nothing over: by the end's own statics."""
    arm = next(a for a in mounted.of_kind(Arm) if a.name == "Front lower arm")
    job = work(mounted)
    held = [
        job.held_end(HeldJoint(id=IDS[0], held=PivotOfArm(part=arm.id, pivot=pivot))) for pivot in ("front", "rear")
    ]
    assert all(held)
    carried = job.carried(arm.end_id).cases
    one = next(c for c in carried if c.forces)
    forces = one.forces
    assert forces
    front, rear = forces.pivots["lower_front"], forces.pivots["lower_rear"]
    line = (rear.at - front.at) / np.linalg.norm(rear.at - front.at)
    radial = front.force - (front.force @ line) * line
    worst = max(case.axial_n for case in held[0].cases)  # type: ignore[union-attr]
    assert worst >= np.linalg.norm(radial) - 1e-6
    total = sum((a.force for a in forces.on["lower_arm"]), np.zeros(3))
    assert np.linalg.norm(total) < 1e-6 * max(np.linalg.norm(a.force) for a in forces.on["lower_arm"])
    hinge = [a for a in forces.on["lower_arm"] if "inner" in a.what or "pivot" in a.what]
    assert np.linalg.norm(sum((a.force for a in hinge), np.zeros(3))) == pytest.approx(
        np.linalg.norm(front.force + rear.force), rel=1e-9
    )


def test_mounts_go_out_as_csv_and_come_back_to_the_last_digit_in_inches_too(mounted: Design) -> None:
    text = write_mounts(mounted)
    back = read_mounts(text, mounted.ends, IDS)
    assert [one.shape for one in back] == [one.shape for one in mounted.mounts]
    assert [(one.name, one.body, one.end_id, one.both_sides) for one in back] == [
        (one.name, one.body, one.end_id, one.both_sides) for one in mounted.mounts
    ]
    inches = "name,kind,ax_in,ay_in,az_in,bx_in,by_in,bz_in,od_in,wall_mm\nrail,round,0,10,12,-40,10,12,1.75,2.4\n"
    (rail,) = read_mounts(inches, (), IDS)
    assert isinstance(rail.shape, RoundMember)
    assert (rail.shape.b[0], rail.shape.od_mm, rail.shape.wall_mm) == pytest.approx((-1016.0, 44.45, 2.4))


@pytest.mark.parametrize(("text", "told"), [
    ("", "nothing stands in it"),
    ("name,kind,colour\n", "no such column"),
    ("name,kind,od_mm\na,round,40\n", "ax, ay, az is missing"),
    ("name,kind,ax_mm,ay_mm,az_mm,bx_mm,by_mm,bz_mm,od_mm\na,round,0,0,0,0,0,2,40\n", "10 mm or more"),
    ("name,kind,ax_mm,ay_mm,az_mm,bx_mm,by_mm,bz_mm,od_mm\na,round,0,0,x,0,0,200,40\n", "line 2, az"),
    ("name,kind,ax_mm,ay_mm,az_mm,ux,uy,uz\na,flat,0,0,0,0,0,0\n", "point somewhere"),
    ("name,kind,end,body\na,round,Rear,\n", "go together"),
    ("name,kind,kind\n", "twice"),
])  # fmt: skip
def test_a_list_of_mounts_that_is_wrong_is_refused_by_line_and_nothing_is_taken(text: str, told: str) -> None:
    with pytest.raises(InputError) as refused:
        read_mounts(text, (), IDS)
    assert refused.value.code == "bad_rows"
    assert told in f"{refused.value.fields} {refused.value.value}"


def test_things_to_clear_are_taken_over_once_and_a_block_as_the_box_that_it_is(mounted: Design) -> None:
    found = mounts_of_obstacles(mounted, IDS)
    assert {one.name for one in found} == {"frame rail", "sump", "exhaust"}
    sump = next(one for one in found if one.name == "sump").shape
    assert isinstance(sump, BoxMember)
    # low (-120, -110, 165), high (240, 110, 320): longest along the car
    assert (sump.a, sump.b) == ((-35.0, 110.0, 242.5), (-35.0, -110.0, 242.5))
    assert (sump.width_mm, sump.height_mm) == (170.0, 155.0)
    again = mounted.model_copy(update={"mounts": (*mounted.mounts, *found)})
    assert mounts_of_obstacles(again, IDS) == ()


@pytest.mark.parametrize("change", [
    {"shape": {"kind": "round", "a": (0.0, 0.0, 0.0), "b": (0.0, 0.0, 100.0), "od_mm": 20.0, "wall_mm": 12.0}},
    {"shape": {"kind": "box", "a": (0.0, 0.0, 0.0), "b": (0.0, 0.0, 100.0), "width_mm": 20.0, "height_mm": 20.0}},
    {"body": "axle"},
])  # fmt: skip
def test_a_mount_that_contradicts_itself_is_refused(change: dict[str, Any]) -> None:
    good: dict[str, Any] = {
        "id": IDS[0],
        "name": "rail",
        "shape": {"kind": "flat", "through": (0.0, 0.0, 0.0), "normal": (0.0, 0.0, 1.0)},
    }
    assert isinstance(Mount.model_validate(good).shape, FlatMember)
    with pytest.raises(ValueError, match=r"must|go together"):
        Mount.model_validate(good | change)


def test_a_leaning_pair_has_two_plates_that_differ_and_each_its_own_template(mounted: Design) -> None:
    tab = next(part for part in mounted.of_kind(TabPair) if part.name == "Panhard rod, end B, tabs")
    joints = tuple(
        one.model_copy(update={"bolt_axis": (0.98, 0.0, 0.199)}) if one.by == tab.id else one for one in mounted.joints
    )
    leaning = mounted.model_copy(update={"joints": joints})
    job = work(leaning)
    again = fitted_to(tab, job.held_by(tab.id)[0], job)
    assert isinstance(again.base, FlatBase)
    assert abs(again.base.lean_deg) == pytest.approx(11.48, abs=0.02)
    part = part_of(again, with_part(leaning, again))
    assert part.complete, part.faults
    assert [one.name for one in part.pieces] == ["front plate", "rear plate"]  # type: ignore[union-attr]
    assert [one.count for one in part.pieces] == [1, 1]
    low = [one.outline.bounds[1] for one in part.pieces]  # type: ignore[union-attr]
    gap, t = part.own.joints[0].gap, again.plate.mm
    assert low[1] - low[0] == pytest.approx((gap + t) * np.tan(np.radians(11.48)), abs=0.05) or low[0] - low[
        1
    ] == pytest.approx((gap + t) * np.tan(np.radians(11.48)), abs=0.05)
    assert {view.name for view in part.views if view.cut} == {"tab-flat", "tab-flat-2"}
    assert part.card
    assert any("one of each" in line.text and line.strong for line in part.card.lines)
    square = part_of(tab, mounted)
    weld = {c.key: c for c in part.checks}["tab_weld"], {c.key: c for c in square.checks}["tab_weld"]
    assert weld[0].reproduce
    assert weld[1].reproduce
    # the fillet's throat is less where the faces meet at 101°
    share = weld[0].reproduce.input["leg_mm"] / weld[1].reproduce.input["leg_mm"]
    assert share == pytest.approx(np.cos(np.radians(101.48 / 2)) / 0.707, rel=2e-3)


def test_a_saddle_base_is_what_a_round_mount_asks_and_a_flat_one_a_box(mounted: Design) -> None:
    by = {part.name: part.base for part in mounted.of_kind(TabPair)}
    assert isinstance(by["Rear lower link, end B, tabs"], SaddleBase)
    assert isinstance(by["Rear lower link, end A, tabs"], FlatBase)


# --- several holes -----------------------------------------------------------------------------------------------------------


def with_holes(
    design: Design, holes: Any, name: str = "Rear lower link, end A, tabs", **more: Any
) -> tuple[Design, TabPair]:
    tab = next(part for part in design.of_kind(TabPair) if part.name == name)
    made = tab.model_copy(update={"holes": holes, **more})
    return with_part(design, made), made


def test_a_pattern_s_holes_stand_where_it_says() -> None:
    assert places(RowOfHoles(count=3, pitch_mm=40.0, angle_deg=90.0)) == [
        pytest.approx(p, abs=1e-9) for p in ((0, 0), (0, 40), (0, 80))
    ]
    assert places(GridOfHoles(columns=2, rows=2, across_mm=30.0, up_mm=50.0)) == [
        (0.0, 0.0),
        (30.0, 0.0),
        (0.0, 50.0),
        (30.0, 50.0),
    ]
    arc = places(ArcOfHoles(count=4, radius_mm=100.0, toward_deg=30.0, step_deg=25.0))
    pivot = 100.0 * np.array([np.cos(np.radians(30)), np.sin(np.radians(30))])
    assert arc[0] == (0.0, 0.0)
    for one, two in itertools.pairwise(arc):
        assert np.linalg.norm(np.array(one) - pivot) == pytest.approx(100.0)
        assert np.linalg.norm(np.subtract(one, two)) == pytest.approx(2 * 100 * np.sin(np.radians(12.5)))


def test_the_plate_round_several_holes_is_the_shortest_line_about_their_heads_and_the_foot() -> None:
    """Against the convex hull of finely drawn circles by another library."""
    holes = [(0.0, 0.0), (34.0, 22.0), (-20.0, 45.0)]
    outline = tab_outline(18.0, 22.0, 90.0, 45.0, 13.0, 6.0, more=holes)
    require_closed(outline.contour, "plate")
    heads = [Point(x, 45.0 + y + 4.0).buffer(18.0, 720) for x, y in holes]
    hull = MultiPoint([(-45.0, 0.0), (45.0, 0.0), *(p for head in heads for p in head.exterior.coords)]).convex_hull
    assert outline.contour.area + sum(np.pi * h.diameter**2 / 4 for h in outline.contour.holes) == pytest.approx(
        hull.area, rel=2e-6
    ) or outline.contour.area == pytest.approx(hull.area, rel=2e-6)
    assert outline.contour.bounds == pytest.approx(hull.bounds, abs=1e-3)
    assert {(h.x, h.y) for h in outline.contour.holes} == {(x, 45.0 + y) for x, y in holes}
    # one hole by the same way is the plain tab
    plain = tab_outline(18.0, 22.0, 60.0, 45.0, 13.0, 6.0)
    circles = [(30.0, 0.0, 0.0), (-30.0, 0.0, 0.0), (0.0, 49.0, 18.0)]
    again = edges_between(circles, around(circles, 0))
    for one, two in zip(plain.contour.edges, again, strict=False):
        assert (*one.start, *one.end) == pytest.approx((*two.start, *two.end), abs=1e-9)


def test_holes_too_near_to_each_other_or_to_the_foot_are_refused_by_the_rule_and_the_least_that_works(
    mounted: Design,
) -> None:
    near, tab = with_holes(mounted, RowOfHoles(count=2, pitch_mm=24.0, angle_deg=-90.0))
    (fault,) = part_of(tab, near).faults
    assert fault.field == "holes"
    least = float(re.search(r"Set them ([\d.]+) mm", fault.message)[1])  # type: ignore[index]
    assert least == pytest.approx(tab.hole.mm * 1.5, abs=0.1)
    good, tab = with_holes(mounted, RowOfHoles(count=2, pitch_mm=least + 0.1, angle_deg=-90.0))
    assert part_of(tab, good).complete
    low, tab = with_holes(mounted, RowOfHoles(count=3, pitch_mm=46.0, angle_deg=-90.0))
    assert any("reaches" in one.message for one in part_of(tab, low).faults)


def test_a_plate_with_several_holes_is_judged_with_its_joint_in_the_worst_of_them(mounted: Design) -> None:
    one = next(part for part in mounted.of_kind(TabPair) if part.name == "Rear lower link, end A, tabs")
    single = {check.key: check for check in part_of(one, mounted).checks}
    down, tab = with_holes(mounted, RowOfHoles(count=2, pitch_mm=40.0, angle_deg=-90.0))
    lower = {check.key: check for check in part_of(tab, down).checks}
    assert lower["tab_foot"].demand == pytest.approx(single["tab_foot"].demand)  # the first hole is the highest
    # toward the next hole there is less metal than to the free end: tear-out on 2 t (a + d/2), a from hole to hole
    bolt = part_of(tab, down).own.joints[0].bolt.diameter_mm
    assert lower["tab_tearout"].capacity == pytest.approx(
        0.6 * tab.uts_mpa * 2 * 2 * tab.plate.mm * (40.0 - tab.hole.mm + bolt / 2), rel=1e-9
    )
    up, tab = with_holes(mounted, RowOfHoles(count=2, pitch_mm=46.0, angle_deg=90.0))
    upper = {check.key: check for check in part_of(tab, up).checks}
    assert upper["tab_foot"].demand > single["tab_foot"].demand
    grown = upper["tab_foot"].reproduce.input["height_mm"] - single["tab_foot"].reproduce.input["height_mm"]  # type: ignore[union-attr]
    assert grown == pytest.approx(46.0)
    aside, tab = with_holes(mounted, RowOfHoles(count=2, pitch_mm=46.0, angle_deg=0.0), base_width=Length(mm=170.0))
    bent = {check.key: check for check in part_of(tab, aside).checks}["tab_foot"].reproduce
    assert bent
    assert bent.input["aside_mm"] == pytest.approx(46.0)
    # N/A + 6 N e / (t w²) of a straight pull, by hand
    straight = calculate("tab-bending", bent.input | {"load_angle_deg": 0.0, "side_n": 0.0, "outside_only": False})[
        "stress_mpa"
    ]
    n, t, w = bent.input["force_n"] / 2, tab.plate.mm, 170.0
    assert straight == pytest.approx(n / (t * w) + 6 * n * 46.0 / (t * w * w))


def test_from_hole_to_hole_and_back_the_car_is_as_it_was_and_the_plate_is_the_same(
    mounted: Design,
) -> None:
    design, tab = with_holes(mounted, RowOfHoles(count=2, pitch_mm=46.0, angle_deg=-90.0), base_width=Length(mm=150.0))
    job = work(design)
    was = part_of(tab, design)
    assert was.complete, was.faults
    found = put_in_hole(job, tab.id, 2)
    ends = tuple(found.end if one.id == found.end.id else one for one in design.ends)
    other = with_part(design.model_copy(update={"ends": ends}), found.part)
    part = part_of(found.part, other)
    assert part.complete, part.faults
    assert part.metal == was.metal
    points, before = found.end.end.points, design.ends[1].end.points
    # every length is kept, and the pick-up stands where the plate has its second hole
    for a, b in (("lower_chassis", "lower_axle"), ("upper_chassis", "upper_axle")):
        assert np.linalg.norm(np.subtract(points[a], points[b])) == pytest.approx(
            np.linalg.norm(np.subtract(before[a], before[b])), abs=1e-6
        )
    assert np.linalg.norm(np.subtract(points["lower_chassis"], before["lower_chassis"])) == pytest.approx(46.0)
    # the axle turns, and its pinion with it: by the line between two of its own points, seen from the side
    turned = [
        np.degrees(np.arctan2(p["upper_axle"][2] - p["lower_axle"][2], p["upper_axle"][0] - p["lower_axle"][0]))
        for p in (before, points)
    ]
    change = found.end.end.pinion_deg - design.ends[1].end.pinion_deg  # type: ignore[operator]
    assert abs(change) > 0.5
    assert abs(change) == pytest.approx(abs(turned[1] - turned[0]), abs=0.02)
    back = put_in_hole(work(other), tab.id, 1)
    for name, at in back.end.end.points.items():
        assert at == pytest.approx(before[name], abs=1e-3), name
    one, two = hole_table(job, tab.id), hole_table(work(other), tab.id)
    for a, b in zip(one.rows, two.rows, strict=True):
        assert [f.value for f in a.figures] == pytest.approx([f.value for f in b.figures], abs=3e-3)
    assert [row.here for row in one.rows] == [True, False]
    assert [row.here for row in two.rows] == [False, True]
    squat = [f.value for row in one.rows for f in row.figures if f.key == "anti_squat_percent"]
    assert nearest(one, "anti_squat_percent", squat[1] + 1) == 2  # type: ignore[operator]
    assert nearest(one, "anti_squat_percent", squat[0] - 1) == 1  # type: ignore[operator]


def test_a_bracket_of_the_right_is_the_left_one_in_a_mirror_and_its_holes_make_the_same_of_the_car(
    mounted: Design,
) -> None:
    design, tab = with_holes(mounted, RowOfHoles(count=2, pitch_mm=46.0, angle_deg=-90.0))
    link = next(part for part in design.of_kind(Link) if part.name == "Rear lower link")
    between = link.between.model_copy(update={"a_side": "right", "b_side": "right"})
    other = with_part(design, link.model_copy(update={"side": "right", "between": between}))
    other = with_part(other, tab.model_copy(update={"side": "right"}))
    left, right = hole_table(work(design), tab.id), hole_table(work(other), tab.id)
    for one, two in zip(left.rows, right.rows, strict=True):
        assert two.at == pytest.approx((one.at[0], -one.at[1], one.at[2]))
        assert two.fault == one.fault == ""
        assert [f.value for f in two.figures] == pytest.approx([f.value for f in one.figures], abs=1e-6)
    a, b = (put_in_hole(work(one), tab.id, 2).end.end for one in (design, other))
    assert a.points["lower_chassis"] == pytest.approx(b.points["lower_chassis"])
    assert b.points["lower_chassis"][1] > 0
    # where the right has a place of its own, that one alone is moved, which a beam's two wheels do not allow
    (x, y, z), ends = design.ends[1].end.points["lower_chassis"], list(other.ends)
    own = {**design.ends[1].end.right_points, "lower_chassis": (x, -y, z)}
    ends[1] = ends[1].model_copy(update={"end": ends[1].end.model_copy(update={"right_points": own})})
    rows = hole_table(work(other.model_copy(update={"ends": tuple(ends)})), tab.id).rows
    assert [row.fault[:50] for row in rows] == ["", "With these lengths kept each wheel would stand at "]


def test_what_has_no_hole_table_says_why(mounted: Design) -> None:
    tab = next(part for part in mounted.of_kind(TabPair) if part.name == "Front upper arm, front pivot, tabs")
    with pytest.raises(InputError, match="one hole"):
        hole_table(work(mounted), tab.id)
    axle, tab = with_holes(mounted, RowOfHoles(count=2, pitch_mm=46.0), "Rear lower link, end B, tabs")
    with pytest.raises(InputError, match="on what moves"):
        hole_table(work(axle), tab.id)
    design, tab = with_holes(mounted, RowOfHoles(count=2, pitch_mm=46.0, angle_deg=-90.0))
    with pytest.raises(InputError, match="1 to 2"):
        put_in_hole(work(design), tab.id, 3)
    wrong, tab = with_holes(mounted, RowOfHoles(count=2, pitch_mm=46.0, angle_deg=-90.0), in_hole=5)
    assert any("hole 5" in one.message for one in part_of(tab, wrong).faults)


def test_a_pair_on_a_mount_that_stands_on_one_side_alone_is_told_of_the_other(mounted: Design) -> None:
    tab = next(part for part in mounted.of_kind(TabPair) if part.name == "Rear lower link, end A, tabs")
    assert tab.side == "pair"
    alone = tuple(
        one.model_copy(update={"both_sides": False}) if one.name == "Rear rail" else one for one in mounted.mounts
    )
    (fault,) = part_of(tab, mounted.model_copy(update={"mounts": alone})).faults
    assert fault.field == "mount"
    assert "On the right Rear rail" in fault.message
    # one tube that goes through from side to side holds both, and one of the left alone asks for no right
    through = next(part for part in mounted.of_kind(TabPair) if part.name == "Rear lower link, end B, tabs")
    assert part_of(through, mounted).complete
    left = tab.model_copy(update={"side": "left"})
    assert part_of(left, with_part(mounted.model_copy(update={"mounts": alone}), left)).complete
    axle = next(one for one in mounted.mounts if one.name == "Axle tube")
    # it must reach under the outer plate of the right one, whole
    shim = next(one.shim_mm for one in mounted.joints if one.by == through.id)
    outer = 470.0 + 22.225 / 2 + shim + through.plate.mm
    for short, lacks in ((1.0, True), (-0.5, False)):
        shape = axle.shape.model_copy(update={"b": (-2010.0, -(outer - short), 350.0)})
        cut = axle.model_copy(update={"shape": shape})
        sawn = mounted.model_copy(update={"mounts": tuple(cut if one.id == axle.id else one for one in mounted.mounts)})
        assert any("does not reach it" in one.message for one in part_of(through, sawn).faults) is lacks
    # a tube that leans across the car stands otherwise on the right
    leant = axle.model_copy(
        update={"shape": axle.shape.model_copy(update={"a": (-2010.0, 660.0, 350.0), "b": (-2010.0, -660.0, 380.0)})}
    )
    tilted = mounted.model_copy(update={"mounts": tuple(leant if one.id == axle.id else one for one in mounted.mounts)})
    assert any("stands otherwise" in one.message for one in part_of(through, tilted).faults)


def test_feet_are_measured_to_the_outer_faces_of_both_plates(mounted: Design) -> None:
    tab = next(part for part in mounted.of_kind(TabPair) if part.name == "Rear lower link, end A, tabs")
    rail = next(one for one in mounted.mounts if one.name == "Rear rail")
    shim = next(one.shim_mm for one in mounted.joints if one.by == tab.id)
    gap, at = 22.225 + 2 * shim, 412.0  # its ball with what is beside it, and the joint from the centre line
    outer = at + gap / 2 + tab.plate.mm
    assert isinstance(rail.shape, BoxMember)

    def faults(half: float) -> list[str]:
        narrow = rail.model_copy(update={"shape": rail.shape.model_copy(update={"width_mm": 2 * half})})
        other = mounted.model_copy(
            update={"mounts": tuple(narrow if one.id == rail.id else one for one in mounted.mounts)}
        )
        return [one.message for one in part_of(tab, other).faults]

    assert faults(outer - rail.shape.a[1] + 0.5) == []
    # a fifth of a plate hangs over, and a plate that hangs over whole
    for past in (1.6, 8.0):
        told = faults(outer - rail.shape.a[1] - past)
        assert any(f"reach {past:.1f} mm past Rear rail" in one for one in told), told


def test_a_member_too_far_from_a_joint_is_named_with_how_far_it_is_and_not_stood_on(mounted: Design) -> None:
    tube = next(one for one in mounted.mounts if one.name == "Rear cross tube")
    assert isinstance(tube.shape, RoundMember)
    link = next(part for part in mounted.of_kind(Link) if part.name == "Rear upper link")
    at = np.array(mounted.ends[1].end.points["upper_chassis"])

    def told(off: float) -> str:
        a, b = ((float(at[0]), y, float(at[2]) + off) for y in (tube.shape.a[1], tube.shape.b[1]))
        far = tube.model_copy(update={"shape": tube.shape.model_copy(update={"a": a, "b": b})})
        found = propose(work(bare(mounted.model_copy(update={"mounts": (far,)}))), SHOP, IDS, [link.id])
        return next(one.told for one in found.every if one.place.name == "end A")

    assert "on Rear cross tube" in told(240.0)
    assert "the nearest, stands 260 mm away" in told(260.0)


def test_a_link_between_typed_pivots_has_each_end_s_joint_at_its_own(mounted: Design) -> None:
    link = next(part for part in mounted.of_kind(Link) if part.name == "Rear upper link")
    ends = (10.0, 20.0, 30.0), (10.0, 320.0, 430.0)
    a, b = (tuple(Coordinate(mm=v) for v in at) for at in ends)
    design = with_part(mounted, link.model_copy(update={"between": Pivots(a=a, b=b)}))  # type: ignore[arg-type]
    for which, at in zip("ab", ends, strict=True):
        found = work(design).at_of(HeldJoint(id=IDS[0], held=EndOfLink(part=link.id, end=which)))  # type: ignore[arg-type]
        assert found
        assert found.at == pytest.approx(at)
        assert found.pull is not None
        assert np.linalg.norm(np.cross(found.pull, (0.0, 300.0, 400.0))) == pytest.approx(0.0)


def test_what_is_part_of_a_body_stands_still_as_that_body_sees_it(mounted: Design) -> None:
    """The line between two places of the axle, which pitches and steers in the car, is one line in the axle's own axes."""
    swept = work(mounted).swept(mounted.ends[1].id)
    assert swept
    done = swept.solved.left.solved
    marks = swept.solved.left.assembled.marks
    one, two = (done.system.where(done.poses, marks[name], done.drives) for name in ("lower_axle_left", "upper_axle"))
    run = np.asarray(two - one)
    seen = _seen_from(swept, marks["upper_axle"].body, run)
    assert seen is not None
    turned = np.degrees(np.ptp(np.arctan2(run[2], run[0])))
    assert turned > 1.0
    assert np.ptp(seen, axis=1) == pytest.approx(np.zeros(3), abs=1e-6)


def test_gains_of_a_hole_are_the_slopes_of_the_end_s_own_curves(mounted: Design) -> None:
    """Of an arm's pick-up, by the slope over another step than the table's: the curve is all but straight near ride height."""
    name = "Front upper arm, front pivot, tabs"
    design, tab = with_holes(mounted, RowOfHoles(count=2, pitch_mm=36.0, angle_deg=-90.0), name)
    job = work(design)
    here = hole_table(job, tab.id).rows[0]
    end = design.ends[0]
    rows = np.zeros((3, 5))
    rows[0] = [-20.0, -4.0, 0.0, 4.0, 20.0]
    found = measured(solved_cycle(job.template(end.id), job.watched(end.id), rows)).columns
    figures = {figure.key: figure.value for figure in here.figures}
    for key in ("camber_deg", "toe_deg"):
        slope = float(found[key][3] - found[key][1]) / 8.0
        assert figures[f"{key}_per_inch"] == pytest.approx(slope * 25.4, rel=0.02, abs=2e-3), key
        assert figures[key] == pytest.approx(float(found[key][2]))
    assert abs(figures["camber_deg_per_inch"] or 0.0) > 0.1


def test_both_plates_of_a_pair_aslant_on_a_tube_stand_on_it_one_turned_over() -> None:
    """Its bolt 30° from along the tube: both feet are alike, and the second stands on the tube only with its x the other way."""
    mount = Mount(id=IDS[0], name="tube", shape=RoundMember(a=(0.0, -200.0, 0.0), b=(0.0, 200.0, 0.0), od_mm=60.0), both_sides=False)  # fmt: skip
    bolt = np.array([0.5, np.sqrt(0.75), 0.0])
    stand = stand_on(mount, At(end_id=None, body="ground", at=np.array([0.0, 0.0, 80.0]), bolt=bolt, bolt_told="", pull=None))  # fmt: skip
    sizes = {"plate": 5.0, "hole": 12.4, "head_radius": 15.0, "edge": 18.0, "base_width": 36.0, "height": 50.0}
    tab = fitted_on(
        TabPair(id=IDS[1], name="aslant", side="left", **{k: Length(mm=v) for k, v in sizes.items()}), stand
    )  # type: ignore[arg-type]
    outlines = outlines_of(tab, 30.0)
    assert len(outlines) == 1
    for corners, _ in plates_in_space(tab, outlines, 30.0, stand):
        off = np.hypot(corners[:, 0], corners[:, 2]) - 30.0
        assert off.min() > -0.05
        assert int((np.abs(off) < 0.05).sum()) >= 5  # along its foot
