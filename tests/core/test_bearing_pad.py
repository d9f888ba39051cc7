"""Pads that a bar's bearings are bolted to: by statics of the whole half bar, by beams solved by numbers, and where their holes lie in the car."""

from __future__ import annotations

import re
from math import hypot, pi
from typing import Any

import numpy as np
import pytest

from tests.core.test_loads import demo
from tests.core.test_mounts import IDS, SHOP
from tests.core.test_moving_members import again
from tests.jobs import draw, work
from tirante.core.brackets.bearing_pad import OnBearing, PadBolts, bolt_pulls, bolt_use, hole_use, plate_stress
from tirante.core.brackets.bolt import bolt_class
from tirante.core.brackets.strike_pad import Blow, PadOnWebs, web_push, web_stress
from tirante.core.document.design import Design
from tirante.core.document.joints import HeldJoint, PointOfBody
from tirante.core.document.mounts import BoxMember, FlatMember, Mount, RoundMember
from tirante.core.document.parts.anti_roll_bar import AntiRollBar, BarBearing
from tirante.core.document.parts.bearing_pad import BearingPad
from tirante.core.document.parts.steering_rack import SteeringRack
from tirante.core.drawing.sheet import Numbers
from tirante.core.errors import InputError
from tirante.core.geometry.convex import Prism
from tirante.core.job.bracket_map import scene_in_place
from tirante.core.job.places import places_of
from tirante.core.job.propose import propose
from tirante.core.job.room.around import standing_things
from tirante.core.job.room.axes import Seen
from tirante.core.job.room.room import room_of
from tirante.core.parts.body import seen_of
from tirante.core.parts.bracket.families.bearing_pad import BEARING_PAD
from tirante.core.parts.part import Part

ID, UNDER = "0b0e5f5e-6ab5-4d0e-8a52-3b5a3f2d9c11", "0b0e5f5e-6ab5-4d0e-8a52-3b5a3f2d9c12"
ACROSS = RoundMember(a=(-305, 440, 250), b=(-305, 320, 250), od_mm=44.5, wall_mm=3.2)  # as the bar runs
AHEAD = RoundMember(a=(-390, 386, 250), b=(-220, 386, 246), od_mm=44.5, wall_mm=3.2)
BOX = BoxMember(a=(-380, 380, 258), b=(-220, 380, 258), up=(0, 0, 1), width_mm=40, height_mm=40, wall_mm=3)
FLAT = FlatMember(through=(-300, 380, 270), normal=(0, 0.1, 1), wall_mm=6)


def padded(shape: Any, **more: Any) -> Design:
    """Dunlin with a pad under its bar's bearing, on a member of one shape."""
    design = demo("dunlin")
    gone = {part.id for part in design.parts if isinstance(part, BearingPad | SteeringRack)}
    bar = next(part for part in design.parts if isinstance(part, AntiRollBar))
    held = bar.model_copy(update={"bearings": BarBearing(bolt_mm=8.0, bolt_class="8.8", pitch_mm=52.0, high_mm=24.0)})
    pad = BearingPad(id=ID, name="pad", end_id=bar.end_id, bar=bar.id, **more)
    mount = Mount(id=UNDER, name="under it", shape=shape, both_sides=True)
    joint = HeldJoint(id=ID, held=PointOfBody(end_id=bar.end_id, body="ground", point="bar_outer"), by=ID, mount=UNDER)
    parts = tuple(held if part.id == bar.id else part for part in design.parts if part.id not in gone)
    joints = tuple(one for one in design.joints if one.held != joint.held and one.by not in gone)
    return design.model_copy(
        update={"parts": (*parts, pad), "joints": (*joints, joint), "mounts": (*design.mounts, mount)}
    )


def fitted(shape: Any, **more: Any) -> Design:
    """The same, the pad proportioned to its bearing."""
    design = padded(shape, **more)
    saved = next(part for part in design.parts if isinstance(part, BearingPad))
    made = BEARING_PAD.fitted(saved, work(design))
    return design.model_copy(update={"parts": tuple(made if part.id == ID else part for part in design.parts)})


def with_pad(design: Design, **update: Any) -> Part:
    """The pad of a job, changed."""
    parts = tuple(part.model_copy(update=update) if part.id == ID else part for part in design.parts)
    found = work(design.model_copy(update={"parts": parts})).part(ID)
    assert found
    return found


def bending(length: float, loads: list[tuple[float, float]]) -> float:
    """Largest moment under a load of a beam on two supports, by numbers: its equilibrium solved, the moment summed from the left."""
    matrix = np.array([[1.0, 1.0], [0.0, length]])
    left, right = np.linalg.solve(matrix, [sum(f for _, f in loads), sum(f * x for x, f in loads)])

    def at(x: float) -> float:
        return left * x + right * max(0.0, x - length) - sum(f * (x - p) for p, f in loads if p < x)

    return max(abs(at(x)) for x in (*(p for p, _ in loads), 0.0, length))


@pytest.mark.parametrize(("off", "over"), [(2000.0, 0.0), (0.0, 1500.0), (-1800.0, 900.0), (700.0, -1100.0)])
def test_plate_and_bolts_are_those_of_statics(off: float, over: float) -> None:
    acting = OnBearing(off=off, over=over)
    material = bolt_class("8.8", 8.0)
    for turned, pitch, apart in ((0.0, 52.0, 30.0), (0.0, 40.0, 30.0), (90.0, 52.0, 30.0), (90.0, 30.0, 60.0)):
        bolts = PadBolts(bolt=8.0, hole=8.5, pitch=pitch, turned_deg=turned, high=24.0)
        pad = PadOnWebs(plate=5.0, length=90.0, web=5.0, apart=apart, height=20.0, footprint=8.0)
        one, two = bolt_pulls(bolts, acting)
        # in balance with what acts at the bar's line, about the middle of the foot
        assert one + two == pytest.approx(off)
        assert (two - one) * pitch / 2 == pytest.approx(over * 24.0)
        worst = max(one, two, 0.0)
        area = pi * 64 / 4
        alone, both = (
            worst / (0.9 * 800 * 0.78 * area),
            abs(over) / 2 / (0.6 * 800 * area) + worst / (1.4 * 0.9 * 800 * 0.78 * area),
        )  # EN 1993-1-8, from memory
        assert bolt_use(bolts, material, acting) == pytest.approx(max(alone, both))
        assert hole_use(pad, bolts, 355.0, acting) == pytest.approx(abs(over) / 2 / (1.8 * 355 * 8 * 5))
        stress = plate_stress(pad, bolts, acting)
        if turned == 0.0:  # each its own strip: half way to the other bolt, and to the end
            wide = min(8 + 15, pitch / 2) + min(8 + 15, 45 - pitch / 2)
            moment = max(bending(apart, [(apart / 2, force)]) for force in (one, two))
            assert stress == pytest.approx(6 * moment / ((wide - 8.5) * 25))
        elif pitch > apart:  # past the webs: they stand out as far as the bolt does
            wide = min(2 * (8 + 11), 90)
            assert stress == pytest.approx(6 * max(abs(one), abs(two)) * 11 / (wide * 25))
        else:  # both between the webs
            moment = bending(apart, [(apart / 2 - 15, one), (apart / 2 + 15, two)])
            assert stress == pytest.approx(6 * moment / ((2 * (8 + 15) - 8.5) * 25))


def test_a_strip_that_is_no_wider_than_its_hole_is_refused() -> None:
    pad = PadOnWebs(plate=5.0, length=90.0, web=5.0, apart=30.0, height=20.0, footprint=8.0)
    for turned in (0.0, 90.0):
        bolts = PadBolts(bolt=8.0, hole=47.0, pitch=5.0, turned_deg=turned, high=24.0)
        with pytest.raises(InputError, match="no wider than its hole"):
            plate_stress(pad, bolts, OnBearing(off=100.0, over=0.0))


def test_what_acts_over_the_face_turns_the_webs_as_far_as_it_is() -> None:
    """A force at the bar's line does to the feet what it does at a pad as much taller; a pull is a push's mirror image but for the strut."""
    pad = PadOnWebs(plate=5.0, length=90.0, web=5.0, apart=40.0, height=20.0, footprint=8.0)
    for blow in (Blow(push=500.0, across=800.0, over=24.0), Blow(push=500.0, along=-800.0, over=24.0)):
        tips = abs(blow.across) * (20 + 24) / 40
        assert web_push(pad, blow) == pytest.approx(250 + tips)
        pulled = Blow(push=-blow.push, along=blow.along, across=blow.across, over=blow.over)
        assert web_push(pad, pulled) == pytest.approx(tips - 250)
        assert web_stress(pad, pulled) == pytest.approx(web_stress(pad, blow))
        wall = (
            (250 + tips) / 450 + 6 * abs(blow.along) * 44 / 2 / (5 * 90**2) + 6 * abs(blow.across) * 20 / 4 / (90 * 25)
        )
        assert web_stress(pad, blow) == pytest.approx(wall)


def test_what_the_bearing_gives_holds_the_half_bar_up() -> None:
    """Moments about the bar's middle: drop link and bearing together turn the half only about its own line, which the other half takes."""
    job = work(fitted(BOX))
    bar = next(part for part in job.design.parts if isinstance(part, AntiRollBar))
    end = job.ends[bar.end_id]
    inner, outer, joint = (np.array(end.points[point]) for point in (bar.inner, bar.outer, bar.joint))
    along = (outer - inner) / np.linalg.norm(outer - inner)
    bearing = outer - along * bar.bearing_mm
    (found,) = [one for one in places_of(job) if one.family == "bearing_pad"]
    assert found.at == pytest.approx(tuple(bearing))
    part = job.part(ID)
    assert part
    at = job.bearing_at(found.held)
    assert at
    seen = {(one.case, one.where): one.force for one in job.at_bearing(at).cases}
    cases = seen_of(bar, bar.body, job).cases
    assert len(cases) == len(seen) >= 6
    sizes = []
    for one in cases:
        link = sum((act.force for act in one.acting if act.place == bar.joint), np.zeros(3))
        bears = -seen[one.case, one.where]  # what the pad gives the bar
        turns = np.cross(joint - inner, link) + np.cross(bearing - inner, bears)
        assert np.linalg.norm(turns - along * float(turns @ along)) == pytest.approx(
            0.0, abs=1e-6 * (1 + np.linalg.norm(turns))
        )
        assert float(bears @ along) == pytest.approx(0.0, abs=1e-6)
        sizes.append(float(np.linalg.norm(bears)))
    assert max(sizes) == pytest.approx(max(one.carried.on_bearing for one in job.part(bar.id).own.cases))  # type: ignore[union-attr]
    # and it is that which comes on the pad, out of its face and along its bolts' line
    for case in part.own.cases:
        force = seen[case.case, case.where]
        assert (case.acting.off, abs(case.acting.over)) == pytest.approx(
            (float(force[2]), abs(float(force[0]))), abs=1e-6
        )
        assert (-case.blow.push, hypot(case.blow.along, case.blow.across), case.blow.over) == pytest.approx(
            (float(force[2]), abs(float(force[0])), 24.0), abs=1e-6
        )


@pytest.mark.parametrize("shape", [ACROSS, AHEAD, BOX, FLAT])
def test_its_face_lies_under_the_bearing_and_its_webs_on_what_is_there(shape: Any) -> None:
    design = fitted(shape)
    job, saved = work(design), next(part for part in design.parts if part.id == ID)
    assert isinstance(saved, BearingPad)
    part = job.part(ID)
    assert part
    assert part.complete, part.faults
    made = part.own
    bar = next(one for one in design.parts if isinstance(one, AntiRollBar))
    at = np.array(job.ends[bar.end_id].points["bar_outer"]) - np.array([0, bar.bearing_mm, 0])
    axes, along = made.shape.axes, np.array([0.0, 1.0, 0.0])
    assert axes @ axes.T == pytest.approx(np.eye(3), abs=1e-12)
    middle = at - axes[2] * 24.0
    # both holes lie in the face, square to the bar, as far apart as the bearing's bolts
    plate = next(piece for piece in part.pieces if piece.name == "pad")
    one, two = (middle + axes[0] * hole.x + axes[1] * hole.y for hole in plate.outline.holes)  # type: ignore[union-attr]
    assert np.linalg.norm(one - two) == pytest.approx(52.0)
    assert float((one - two) @ along) == pytest.approx(0.0, abs=1e-9)
    assert (one + two) / 2 == pytest.approx(middle)
    for hole in (one, two):
        off = hole - at
        assert np.linalg.norm(off - along * float(off @ along)) == pytest.approx(hypot(24.0, 26.0))
    # webs: feet on the skin, tops under the plate
    start = np.array(shape.through if isinstance(shape, FlatMember) else shape.a, float)
    if isinstance(shape, FlatMember):
        up = np.array(shape.normal) / np.linalg.norm(shape.normal)
        run = np.array([1.0, 0.0, 0.0])
    else:
        run = (np.array(shape.b, float) - start) / np.linalg.norm(np.array(shape.b, float) - start)
        away = middle - start - run * float((middle - start) @ run)
        up = np.array([0.0, 0.0, 1.0]) if isinstance(shape, BoxMember) else away / np.linalg.norm(away)
    across = np.cross(up, run)
    for side, web in zip((1.0, -1.0), made.shape.heights, strict=True):
        for end, high in zip((-1.0, 1.0), web, strict=True):
            x, y = end * saved.length_mm / 2, side * saved.apart_mm / 2
            foot = middle + run * x + across * y
            if isinstance(shape, RoundMember):
                foot = foot - up * float((foot - start) @ up) + up * ((shape.od_mm / 2) ** 2 - y * y) ** 0.5
            else:
                high_over = 20.0 if isinstance(shape, BoxMember) else 0.0
                foot = foot - up * (float((foot - start) @ up) - high_over)
            top = foot + up * high
            assert float((middle - top) @ axes[2]) == pytest.approx(saved.plate_mm, abs=1e-9)
    assert all(check.passed for check in part.checks)
    drawn = draw(saved, design, "drawing", Numbers())
    assert any("52" in getattr(item, "text", "") for item in drawn.items)
    assert any(getattr(item, "style", "") == "cut" for item in draw(saved, design, "pad", Numbers()).items)


def test_every_check_is_that_of_its_worst_case_and_comes_again() -> None:
    """Each recomputed from the cases by the formulas of `core.brackets`, factor by factor; and by the command line that it names."""
    design = fitted(BOX)
    job = work(design)
    part = job.part(ID)
    assert part
    made, factors = part.own, job.settings.factors
    checks = {check.key: check for check in part.checks}
    assert checks.keys() == {"pad_bolted", "pad_bolts", "pad_hole", "pad_web", "pad_column", "pad_weld"}
    pad, bolts = made.shape.pad, made.bolts
    tab, bolt, column, weld = factors.tab_yield, factors.bolt, factors.column, factors.weld
    worst = dict.fromkeys(checks, 0.0)
    for case in made.cases:
        off, over, blow = case.acting.off, case.acting.over, case.blow

        def times(f: float, blow: Blow = blow) -> Blow:
            return Blow(push=blow.push * f, along=blow.along * f, across=blow.across * f, over=24.0)

        tried = {
            "pad_bolted": plate_stress(pad, bolts, OnBearing(off=off * tab, over=over * tab)),
            "pad_bolts": bolt_use(bolts, bolt_class("8.8", 8.0), OnBearing(off=off * bolt, over=over * bolt)),
            "pad_hole": hole_use(pad, bolts, 355.0, OnBearing(off=off * tab, over=over * tab)),
            "pad_web": web_stress(pad, times(tab)), "pad_column": max(0.0, web_push(pad, times(column))),
        }  # fmt: skip
        # two fillets as long as the webs, what acts at the bar's line over their feet: the worst end of either (statics)
        half, arm = pad.length / 2, pad.apart / 2
        up, high = blow.push, pad.height + 24.0
        force = max(
            hypot(up / (4 * half) + abs(blow.along) * high * half / (4 * half**3 / 3) + abs(blow.across) * high * arm / (4 * half * arm**2), hypot(blow.along, blow.across) / (4 * half))
            for up in (up, -up)
        )  # fmt: skip
        tried["pad_weld"] = weld * force / (0.707 * min(4.0, pad.web))
        worst = {key: max(worst[key], tried[key]) for key in worst}
    for key, demand in worst.items():
        assert checks[key].demand == pytest.approx(demand, rel=2e-3 if key == "pad_weld" else 1e-9), key
        assert checks[key].case
        again(checks[key])


def test_what_keeps_a_bolt_out_is_told_with_what_lets_it_in() -> None:
    design = fitted(BOX)
    saved = next(part for part in design.parts if part.id == ID)
    assert isinstance(saved, BearingPad)

    def cured(part: Part, field: str) -> None:
        (fault,) = part.faults
        assert fault.field == field
        least = float(re.findall(r"(\d+) mm (?:apart or more|long|wide)", fault.message)[-1])
        for value, good in ((least, True), (least - 1.5, False)):
            assert with_pad(design, **{field: value}).complete is good

    cured(with_pad(design, apart_mm=17.0), "apart_mm")
    cured(with_pad(design, length_mm=60.0), "length_mm")
    # side by side: a web where a nut goes, either way out
    along = fitted(ACROSS)
    (fault,) = with_pad(along, apart_mm=44.0, width_mm=120.0).faults
    assert fault.field == "apart_mm"
    # too low for its nuts, a bar that crosses at a slant or runs straight at it, sizes that are not given
    low = with_pad(fitted(BOX.model_copy(update={"a": (-380.0, 380.0, 274.0), "b": (-220.0, 380.0, 274.0)})))
    assert "left below the pad for the nuts" in low.faults[0].message
    # over a tube it is the tube's top that they come down on
    level = AHEAD.model_copy(update={"a": (-390.0, 380.0, 272.0), "b": (-220.0, 380.0, 272.0)})
    (fault,) = with_pad(fitted(level), plate_mm=5.0).faults
    assert f"Only {330 - 24 - 5 - 272 - 22.25:.1f} mm" in fault.message
    aslant = with_pad(fitted(AHEAD.model_copy(update={"a": (-370.0, 320.0, 250.0), "b": (-230.0, 440.0, 250.0)})))
    assert "crosses" in aslant.faults[0].message
    at_it = with_pad(fitted(FlatMember(through=(-300, 370, 300), normal=(0, 1, 0), wall_mm=6)))
    assert "straight at" in at_it.faults[0].message
    none = design.model_copy(
        update={
            "parts": tuple(
                part.model_copy(update={"bearings": BarBearing()}) if isinstance(part, AntiRollBar) else part
                for part in design.parts
            )
        }
    )
    assert "how far apart they are" in with_pad(none).faults[0].message
    (place,) = [one for one in places_of(work(none)) if one.family == "bearing_pad"]
    assert place.missing
    gone = design.model_copy(
        update={"parts": tuple(part for part in design.parts if not isinstance(part, AntiRollBar))}
    )
    assert "not at this place any more" in with_pad(gone).faults[0].message


def test_a_bar_that_the_axle_carries_is_borne_there() -> None:
    design = fitted(BOX)
    (end,) = design.ends
    one = end.end.model_copy(
        update={
            "additions": {
                name: add.model_copy(update={"carrier": "upright"}) for name, add in end.end.additions.items()
            }
        }
    )
    moved = design.model_copy(update={"ends": (end.model_copy(update={"end": one}),)})
    (place,) = [one for one in places_of(work(moved)) if one.family == "bearing_pad"]
    assert place.held.body == "upright"  # type: ignore[union-attr]
    assert place.by is None
    assert "not at this place any more" in with_pad(moved).faults[0].message


@pytest.mark.parametrize("shape", [ACROSS, AHEAD, BOX])
def test_plate_and_webs_stand_in_the_car_as_they_are_cut(shape: Any) -> None:
    """Corners of every flat put back into the car: webs' feet on the skin, their tops on the plate's underside, the bearing's foot on its face."""
    design = fitted(shape)
    part = work(design).part(ID)
    assert part
    plate, *webs = part.own.shape.flats
    up = np.cross(plate.x, plate.y)
    bearing = part.own.bearing
    assert float((bearing.at - plate.at) @ up) == pytest.approx(24.0 + plate.thickness / 2)
    start, end = np.array(shape.a, float), np.array(shape.b, float)
    run = (end - start) / np.linalg.norm(end - start)
    for web in webs:
        corners = [web.at + web.x * x + web.y * y for x, y in web.outline]
        for foot in corners[:2]:
            off = foot - start - run * float((foot - start) @ run)
            if isinstance(shape, RoundMember):
                assert np.linalg.norm(off) == pytest.approx(shape.od_mm / 2)
            else:
                assert off[2] == pytest.approx(20.0)
        for top in corners[2:]:
            assert float((top - plate.at) @ up) == pytest.approx(-plate.thickness / 2)
    # one web to either side of the plate's middle, as far from it
    sides = [float((web.at - plate.at) @ np.cross(run, up)) for web in webs]
    assert sides[0] * sides[1] < 0


def test_pads_are_in_the_3d_view_and_in_the_way_of_other_brackets() -> None:
    design = demo("dunlin")
    job = work(design)
    pads = [part for part in job.parts if part.saved.kind in ("bearing_pad", "strike_pad")]
    assert len(pads) == 3  # of the bar, the rack, and a stop
    scene = scene_in_place(job, design.ends[0].id, 0.0, 0.0)
    for pad in pads:
        solids = [one for one in scene.solids if one.ref == f"part:{pad.id}"]
        assert len(solids) == 3 * 2
        left, right = ([one.at for one in solids if (one.at[1] > 0) is way] for way in (True, False))  # type: ignore[union-attr]
        assert np.array(sorted(left)) == pytest.approx(np.array(sorted((x, -y, z) for x, y, z in right)))
    tabs = next(part for part in job.parts if part.name == "Front upper arm, rear pivot, tabs")
    stand = tabs.own.stands[0]
    seen = Seen(job, stand.at)
    found = standing_things(job, seen, tabs.id, (stand.mount.id, stand.mirrored), pair=False)
    for pad in pads:
        for name in (pad.name, f"{pad.name}, the other side"):
            own = [one for one in found if one.name == name]
            # of what hangs on an arm the other side's goes with the other arm, which is not moved here
            assert len(own) == (3 if name == pad.name or pad.saved.kind == "bearing_pad" else 0), name
    # as they stand in the car at ride height: the plate's middle, seen from the bracket and from here
    bearing = next(part for part in pads if part.name == "Front anti-roll bar, bearing pad")
    solid = next(one.solid for one in found if one.name == bearing.name)
    flat = bearing.own.shape.flats[0]
    assert isinstance(solid, Prism)
    assert solid.at[:, 0] == pytest.approx(seen.carried("ground", flat.at)[:, 0], abs=1e-6)
    assert solid.half == flat.thickness / 2


def test_a_pad_on_an_arm_goes_with_the_arm_and_is_not_in_its_own_way() -> None:
    design = demo("marram")
    pivot = next(part for part in design.parts if part.name == "Front lower arm, front pivot, tabs")
    room = room_of(work(design), pivot.id)
    assert not [one for joint in room.joints for one in joint.lines if one.sort == "swing" and "pad" in one.to]


def test_it_stands_on_the_side_that_is_there_and_on_nothing_far_away() -> None:
    """A tube across the car, entered on the left with its mirror image: both lie on one line. One that is out of reach is no mount; the reason names it."""
    design = demo("dunlin")
    bar = next(part for part in design.parts if isinstance(part, AntiRollBar))
    gone = next(part for part in design.parts if isinstance(part, BearingPad) and part.bar == bar.id)
    held = next(joint.held for joint in design.joints if joint.by == gone.id)
    bare = design.model_copy(
        update={
            "parts": tuple(p for p in design.parts if p is not gone),
            "joints": tuple(j for j in design.joints if j.by != gone.id),
        }
    )

    def proposed(*mounts: Mount) -> Any:
        job = work(bare.model_copy(update={"mounts": mounts}))
        return next(one for one in propose(job, SHOP, IDS).every if one.place.held == held)

    across = RoundMember(a=(-305, 440, 250), b=(-305, 320, 250), od_mm=44.5, wall_mm=3.2)
    for shape in (across, across.model_copy(update={"a": across.b, "b": across.a})):
        one = proposed(Mount(id=UNDER, name="bar tube", shape=shape, both_sides=True))
        assert one.part, one.told
        assert "on bar tube" in one.told
    far = Mount(
        id=UNDER,
        name="far tube",
        shape=across.model_copy(update={"a": (-700.0, 440.0, 250.0), "b": (-700.0, 320.0, 250.0)}),
        both_sides=True,
    )
    assert proposed(far).part is None
    assert "far tube, the nearest, stands 408 mm away" in proposed(far).told
    short = Mount(
        id=UNDER, name="short tube", shape=across.model_copy(update={"b": (-305.0, 420.0, 250.0)}), both_sides=True
    )
    assert "ends 40 mm short of the pad’s middle" in proposed(short).told
