"""Pads that stops strike, and brackets of straps: by hand, in the plane of the stop's face, on the tube of an arm, under the stop's own force."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest
from scipy.integrate import quad

from tests.core.test_life import SHELF
from tests.core.test_loads import demo
from tests.core.test_moving_members import again
from tests.jobs import draw, work
from tirante.core.brackets.strike_pad import Blow, PadOnWebs, plate_bending, web_push, web_stress
from tirante.core.document.design import Design
from tirante.core.document.end import DamperEye
from tirante.core.document.joints import HeldJoint, PointOfBody
from tirante.core.document.load_cases import CarCase
from tirante.core.document.mounts import BoxMember, FlatMember, Mount, RoundMember
from tirante.core.document.parts.frame_arm import FrameArm
from tirante.core.document.parts.strike_pad import StrikePad
from tirante.core.drawing.sheet import Numbers
from tirante.core.job.places import places_of
from tirante.core.loads.on_body import AtPlace, BodyCase
from tirante.core.parts.bracket.families.strike_pad import STRIKE_PAD, struck, struck_checks
from tirante.core.parts.part import Part, PlatePiece
from tirante.core.parts.registry import kind_of

ID = "0b0e5f5e-6ab5-4d0e-8a52-3b5a3f2d9c11"


def unpadded(name: str) -> Design:
    """A demo job without the pads that it has."""
    design = demo(name)
    gone = {part.id for part in design.parts if isinstance(part, StrikePad)}
    parts = tuple(part for part in design.parts if part.id not in gone)
    return design.model_copy(update={"parts": parts, "joints": tuple(j for j in design.joints if j.by not in gone)})


def padded(name: str, end: int, **more: Any) -> tuple[Design, StrikePad]:
    """A demo job with a pad where its stop strikes."""
    design = unpadded(name)
    one = design.ends[end]
    assert one.end.bump_stop
    place = one.end.bump_stop.pad
    pad = StrikePad(id=ID, name="pad", end_id=one.id, **more)
    joint = HeldJoint(id=ID, held=PointOfBody(end_id=one.id, body=place.body, point=place.point), by=ID)
    return design.model_copy(update={"parts": (*design.parts, pad), "joints": (*design.joints, joint)}), pad


def worked(design: Design) -> Part:
    part = work(design).part(ID)
    assert part
    return part


def test_a_pad_between_its_webs_is_a_beam_summed() -> None:
    """The footprint's line load on two supports, its moment by integration, at the middle and over a web (Roark, from memory)."""
    for r in (10.0, 18.0, 30.0):
        pad = PadOnWebs(plate=8.0, length=90.0, web=6.0, apart=40.0, height=50.0, footprint=r)
        line = 12_000 / (2 * r)
        middle = 6000 * 20 - line * quad(lambda x: x, 0, r)[0]  # half the load at its web, less what lies between
        over = line * quad(lambda x: x - 20.0, 20.0, r)[0] if r > 20 else 0.0
        width = min(90.0, 2 * r + 40.0)
        assert plate_bending(pad, Blow(push=12_000)) == pytest.approx(6 * max(abs(middle), over) / (width * 64))
    # beside the middle: the webs take by the lever, the plate half of the blow's moment about the middle more
    pad = PadOnWebs(plate=8.0, length=90.0, web=6.0, apart=40.0, height=50.0, footprint=18.0)
    off = Blow(push=12_000, off_across=-7.0)
    assert web_push(pad, off) == pytest.approx(12_000 * (20 + 7) / 40)
    assert plate_bending(pad, off) - plate_bending(pad, Blow(push=12_000)) == pytest.approx(6 * 12_000 * 3.5 / (76 * 64))  # fmt: skip
    # pushed across at its face: a couple over the webs, and each web a leg of a portal with its turning point half way up
    swayed = Blow(push=0.0, across=2000.0)
    assert web_push(pad, swayed) == pytest.approx(2000 * 50 / 40)
    assert web_stress(pad, swayed) == pytest.approx(2500 / (90 * 6) + 6 * (1000 * 25) / (90 * 36))
    # along: both webs as walls
    along = Blow(push=1000.0, along=-3000.0, off_along=5.0)
    assert web_stress(pad, along) == pytest.approx(500 / 540 + 6 * (3000 * 50 + 5000) / 2 / (6 * 90**2))


@pytest.mark.parametrize(("name", "end"), [("marram", 1), ("plover", 1), ("quay", 0)])
def test_it_is_struck_as_the_stop_strikes_on_either_side(name: str, end: int) -> None:
    """In every case the blow square to the pad's face is the stop's own force along its axis; a stop that is not met strikes nothing."""
    design, _ = padded(name, end)
    part = worked(design)
    assert part.complete, part.faults
    one = design.ends[end]
    stop = work(design).ends[one.id].bump_stop
    assert stop
    axis, face = (np.array(v) / np.linalg.norm(v) for v in (stop.axis, stop.face))
    wanted: list[tuple[str, float]] = []
    for case in work(design).carried(one.id).cases:
        if case.forces is None or case.fault:
            continue
        wanted += [(case.name, push) for push in case.forces.stops.values() if push > 1.0]
    found = [(case.case, case.blow) for case in part.own.cases]
    assert len(found) == len(wanted) > 0
    sizes = [float(np.linalg.norm([blow.along, blow.across, blow.push])) for _, blow in found]
    assert sorted(sizes) == pytest.approx(sorted(push for _, push in wanted), rel=1e-9)
    assert all(any(told.startswith(name_) for name_, _ in wanted) for told, _ in found)
    # square to the face at ride height, and not far off it where the body has turned
    most = max(part.own.cases, key=lambda case: case.blow.push)
    assert most.blow.push >= 0.9 * abs(axis @ face) * max(push for _, push in wanted)


def test_where_the_blow_s_line_meets_the_face() -> None:
    """A slanting force through a point 12 ahead, 5 across and 30 above the face: where its line meets the face, by hand."""
    design, _ = padded("marram", 1)
    made = worked(design).own
    axes = made.shape.axes
    assert axes @ axes.T == pytest.approx(np.eye(3), abs=1e-12)
    force, through = axes.T @ np.array([-400.0, 250.0, -5000.0]), axes.T @ np.array([12.0, 5.0, 30.0])
    act = AtPlace("seat", "bump stop", np.zeros(3), force, np.cross(through, force))
    (found,) = struck(made.shape, "seat", [BodyCase(case="c", where="", copy="", acting=(act,))])
    assert (found.blow.push, found.blow.along, found.blow.across) == pytest.approx((5000.0, -400.0, 250.0))
    assert (found.blow.off_along, found.blow.off_across) == pytest.approx(
        (12.0 - 30 * 400 / 5000, 5.0 + 30 * 250 / 5000)
    )


def test_its_webs_stand_on_the_tube_and_carry_the_face() -> None:
    """Both webs' corners put back into the car: their feet on the tube's skin, their tops under the pad's face, by its plane."""
    design, pad = padded("plover", 1)
    part = worked(design)
    one = work(design).ends[design.ends[1].id]
    assert one.bump_stop
    arm = next(p for p in design.parts if isinstance(p, FrameArm) and p.end_id == design.ends[1].id)
    foot = next(f for f in kind_of(arm).feet(arm, work(design)) if f.point == one.bump_stop.pad.point)
    middle, face = np.array(one.points[foot.point]), np.array(one.bump_stop.face)
    face = face / np.linalg.norm(face)
    along, away = np.array(foot.along), np.array(foot.out)
    up = away - along * (away @ along)
    up /= np.linalg.norm(up)
    if face @ up < 0:
        face = -face
    across = np.cross(up, along)
    centre = middle - up * foot.off
    assert foot.od
    for side, web in zip((1.0, -1.0), part.own.shape.heights, strict=True):
        for end, high in zip((-1.0, 1.0), web, strict=True):
            x, y = end * pad.length_mm / 2, side * pad.apart_mm / 2
            low = centre + along * x + across * y + up * ((foot.od / 2) ** 2 - y * y) ** 0.5
            skin = np.linalg.norm(np.cross(low - centre, along))
            assert skin == pytest.approx(foot.od / 2, abs=1e-9)
            top = low + up * high
            assert (middle - top) @ face == pytest.approx(pad.plate_mm, abs=1e-9)
    # the arm says that its pad is held by it, and says so no more without it
    told = work(design).part(arm.id)
    assert told
    assert not any("bump stop" in line for line in told.not_checked)
    bare = work(unpadded("plover")).part(arm.id)
    assert bare
    assert any("bump stop" in line for line in bare.not_checked)


SPINE = np.array([0.08, 0.99, 0.05]) / np.linalg.norm([0.08, 0.99, 0.05])


@pytest.mark.parametrize("sort", ["round", "box", "flat"])
def test_on_a_member_of_the_car_its_webs_stand_on_its_skin(sort: str) -> None:
    """Put back into the car: every web's feet on the member's own surface, its tops under the face; by the member's own equation."""
    design, pad = padded("plover", 0)
    own = work(design).ends[design.ends[0].id]
    assert own.bump_stop
    middle = np.array(own.points[own.bump_stop.pad.point])
    low = middle - [2.0, 0.0, 66.0]
    a, b = (tuple(float(v) for v in low + s * SPINE) for s in (-150.0, 140.0))
    shape: RoundMember | BoxMember | FlatMember
    if sort == "round":
        shape = RoundMember(a=a, b=b, od_mm=70.0)
    elif sort == "box":
        shape = BoxMember(a=a, b=b, width_mm=70.0, height_mm=60.0)
    else:
        shape = FlatMember(through=(300.0, -50.0, float(middle[2]) - 31.0), normal=(0.02, 0.03, 1.0))
    mount = Mount(
        id=design.ends[0].id, name="axle", shape=shape, end_id=design.ends[0].id, body="axle", both_sides=False
    )
    (joint,) = [j for j in design.joints if j.by == ID]
    joints = tuple(j.model_copy(update={"mount": mount.id}) if j is joint else j for j in design.joints)
    design = design.model_copy(update={"mounts": (mount,), "joints": joints})
    part = worked(design)
    assert not part.faults, part.faults
    made = part.own.shape
    face = made.axes[2]
    if sort == "flat":
        n = np.array([0.02, 0.03, 1.0]) / np.linalg.norm([0.02, 0.03, 1.0])
        along = np.array([1.0, 0.0, 0.0]) - n * n[0]
        along, up, base = along / np.linalg.norm(along), n, float((middle - [300.0, -50.0, middle[2] - 31.0]) @ n)
    else:
        along = SPINE
        away = middle - low - along * float((middle - low) @ along)
        top = np.array([0.0, 0.0, 1.0]) - along * along[2]
        up = away / np.linalg.norm(away) if sort == "round" else top / np.linalg.norm(top)
        base = float(away @ up) - (0.0 if sort == "round" else 30.0)
    across = np.cross(up, along)
    for side, web in zip((1.0, -1.0), made.heights, strict=True):
        for end, high in zip((-1.0, 1.0), web, strict=True):
            x, y = end * pad.length_mm / 2, side * pad.apart_mm / 2
            skin = (35.0**2 - y * y) ** 0.5 if sort == "round" else 0.0
            foot = middle - up * (base - skin) + along * x + across * y
            if sort == "round":
                assert np.linalg.norm(np.cross(foot - low, SPINE)) == pytest.approx(35.0)
            elif sort == "box":
                assert float((foot - low) @ up) == pytest.approx(30.0)
            else:
                assert float((foot - [300.0, -50.0, middle[2] - 31.0]) @ up) == pytest.approx(0.0, abs=1e-9)
            assert (middle - foot - up * high) @ face == pytest.approx(pad.plate_mm, abs=1e-9)
    # what nothing else says of a flat: which way its webs run
    assert made.on == {"round": "axle, ⌀70 mm", "box": "axle, a flat face, the webs across the car", "flat": "axle, a flat face, the webs along the car"}[sort]  # fmt: skip
    # of another body, or too near its end, it is refused; what is proposed is made short enough
    other = design.model_copy(update={"mounts": (mount.model_copy(update={"body": "ground", "end_id": None}),)})
    assert worked(other).faults[0].field == "mount"
    if sort != "flat":
        short = mount.model_copy(update={"shape": shape.model_copy(update={"b": tuple(float(v) for v in low + 36.0 * SPINE)})})  # fmt: skip
        cut = design.model_copy(update={"mounts": (short,)})
        fault = worked(cut).faults[0]
        assert fault.field == "mount"
        assert "half the pad is 40 mm" in fault.message
        fitted = STRIKE_PAD.fitted(pad, work(cut))
        assert fitted.length_mm == 60.0  # in steps of 10 mm
    if sort == "round":
        thin = mount.model_copy(update={"shape": shape.model_copy(update={"od_mm": 40.0})})
        on = work(design.model_copy(update={"mounts": (thin,)}))
        fitted = STRIKE_PAD.fitted(pad, on)
        assert fitted.apart_mm == 40 - 6 - 4  # a web, and room for both fillets


def test_it_is_sized_weighed_cut_and_what_does_not_fit_is_said() -> None:
    design, pad = padded("plover", 1)
    job = work(design)
    found = STRIKE_PAD.size(pad, job, SHELF, "mass")
    assert found.winner
    sized = found.winner.parts[0]
    assert isinstance(sized, StrikePad)
    whole = design.model_copy(update={"parts": (*design.parts[:-1], sized)})
    part = worked(whole)
    assert all(check.passed for check in part.checks)
    assert sized.plate_mm == sized.web_mm
    assert {check.key for check in part.checks} == {
        "pad_plate",
        "pad_web",
        "pad_column",
        "pad_weld",
        "mount_wall",
        "mount_shear",
    }
    for check in part.checks:
        again(check)
    thinner = sized.model_copy(update={"plate_mm": sized.plate_mm - 2.0, "web_mm": sized.web_mm - 2.0})
    weak = worked(design.model_copy(update={"parts": (*design.parts[:-1], thinner)}))
    assert not all(check.passed for check in weak.checks)
    plates = [piece for piece in part.pieces if isinstance(piece, PlatePiece)]
    spread = next(piece for piece in plates if piece.name == "spread plate")
    assert sum(piece.count for piece in plates) == 4
    volume = spread.outline.area * spread.thickness  # type: ignore[union-attr]
    volume += sized.length_mm * sized.width_mm * sized.plate_mm
    volume += sum(sized.length_mm * sum(web) / 2 * sized.web_mm for web in part.own.shape.heights)
    assert part.mass == pytest.approx(volume * 7.85e-6, rel=1e-3)
    assert not part.own_mirror  # its webs differ
    for view in part.views:
        assert draw(sized, whole, view.name, Numbers()).items
    # the weld: two lines, pressed and turned about their middle
    checks = {check.key: check for check in struck_checks(sized, part.own.shape, part.own.cases, whole.settings)}
    weld = checks["pad_weld"]
    assert weld.reproduce
    lines = weld.reproduce.input
    assert lines["segments"] == [[-40.0, 18.0, 40.0, 18.0], [-40.0, -18.0, 40.0, -18.0]]
    assert lines["at_mm"][2] == pytest.approx(max(max(web) for web in part.own.shape.heights))
    worst = max(part.own.cases, key=lambda one: one.blow.push)
    assert lines["at_mm"][:2] == pytest.approx([worst.blow.off_along, worst.blow.off_across])
    assert max(map(abs, lines["at_mm"][:2])) > 1e-3
    assert -lines["force_n"][2] == pytest.approx(worst.blow.push * weld.factor)
    cases: list[tuple[dict[str, Any], str]] = [({"apart_mm": 54.0, "width_mm": 90.0}, "apart_mm"), ({"length_mm": 700.0}, "length_mm")]  # fmt: skip
    for change, field in cases:
        wrong = sized.model_copy(update={**change, "spread_mm": None})
        faults = worked(design.model_copy(update={"parts": (*design.parts[:-1], wrong)})).faults
        assert [fault.field for fault in faults] == [field]
    for change in ({"apart_mm": 90.0}, {"apart_mm": 5.0}):
        with pytest.raises(ValueError, match="apart_mm"):
            StrikePad.model_validate({**sized.model_dump(), **change})
    # moved to another place at Layout, or the stop taken out: said
    end = design.ends[1]
    stop = end.end.bump_stop
    assert stop
    for other in (None, stop.model_copy(update={"pad": stop.pad.model_copy(update={"point": "damper_low"})})):
        moved = end.model_copy(update={"end": end.end.model_copy(update={"bump_stop": other})})
        gone = whole.model_copy(update={"ends": (design.ends[0], moved)})
        assert [fault.field for fault in worked(gone).faults] == ["end_id"]


def test_a_strap_s_eyes_are_held_with_what_the_strap_pulls() -> None:
    """Every end of the strap is a place for a bracket once its eye is given, and sees the strap's own pull."""
    design = demo("quay")
    end = design.ends[0]
    assert end.end.strap
    points = end.end.points
    now = float(np.linalg.norm(np.subtract(points["strap_high"], points["strap_low"])))
    eye = DamperEye(bore_mm=12.0, ball_width_mm=30.0, head_diameter_mm=32.0, housing_width_mm=30.0)
    strap = end.end.strap.model_copy(update={"eye_a": eye, "eye_b": None, "length_mm": now + 40.0})
    changed = end.model_copy(update={"end": end.end.model_copy(update={"strap": strap})})
    snatch = CarCase(name="s", kind="snatch", at="droop", speed_m_s=1.0, stiffness_n_per_mm=1000.0, wheels="both")
    loads = design.loads.model_copy(update={"cases": (*design.loads.cases, snatch)})
    whole = design.model_copy(update={"ends": (changed,), "loads": loads, "joints": ()})
    job = work(whole)
    places = {place.name: place for place in places_of(job) if "strap" in place.name}
    assert places["upper end of the strap"].missing is None
    assert "Layout, under Stops" in (places["lower end of the strap"].missing or "")
    held = job.held_end(HeldJoint(id=ID, held=places["upper end of the strap"].held))
    assert held
    pulls = [
        pull
        for case in job.carried(end.id).cases if case.forces is not None and not case.fault for pull in case.forces.straps.values()
    ]  # fmt: skip
    assert max(pulls) > 100.0
    assert max(case.axial_n for case in held.cases) == pytest.approx(max(pulls))
    assert all(case.axial_n >= 0 for case in held.cases)


def test_a_stop_that_stands_elsewhere_on_the_right_is_refused() -> None:
    design, _ = padded("plover", 1)
    end = design.ends[1]
    assert end.end.bump_stop
    point = end.end.bump_stop.pad.point
    x, y, z = end.end.points[point]
    for right, told in (((x, -y, z), []), ((x, -y - 4.0, z), ["side"])):
        own = end.model_copy(update={"end": end.end.model_copy(update={"right_points": {point: right}})})
        assert [
            fault.field for fault in worked(design.model_copy(update={"ends": (design.ends[0], own)})).faults
        ] == told
