"""One plate between the ears of a clevis: what it bears alone, how it lets the clevis turn, and that its advice comes true."""

from __future__ import annotations

from math import pi, radians, sin, sqrt

import numpy as np
import pytest
from shapely import affinity
from shapely.geometry import Polygon, box

from tests.core.test_loads import demo
from tests.core.test_mounts import IDS, SHOP
from tests.core.test_room import own_at
from tests.jobs import bare, draw, links, part_of, with_part, work
from tirante.calc import calculate
from tirante.core.brackets.mount_wall import Wall, feet_of_pair, line_force, wall_strength
from tirante.core.document.adopt import patched
from tirante.core.document.design import Design
from tirante.core.document.end import DamperEye
from tirante.core.document.fields import Length
from tirante.core.document.joints import EndOfLink
from tirante.core.document.mounts import BoxMember
from tirante.core.document.parts.bracket import FlatBase, SaddleBase
from tirante.core.document.parts.link import FixedEnd, FlatEnd, Link, Machined
from tirante.core.document.parts.single_tab import SingleTab
from tirante.core.document.settings import Settings
from tirante.core.drawing.sheet import Numbers
from tirante.core.errors import InputError
from tirante.core.geometry.convex import gap
from tirante.core.job.places import places_of
from tirante.core.job.propose import propose
from tirante.core.job.room.around import moving_things
from tirante.core.job.room.look import look_round
from tirante.core.job.room.own import swinging
from tirante.core.job.room.room import runs_told
from tirante.core.loads.case_seen import CaseSeen
from tirante.core.parts.bracket.families.place_view import contour_points, plates_in_space
from tirante.core.parts.bracket.families.single_tab import (
    SINGLE_TAB,
    SingleMade,
    as_pair,
    asks_depth,
    beside_it,
    goes_between,
    outline_of,
)
from tirante.core.parts.joint import Fork, ForkMade, HeldEnd
from tirante.core.parts.link.fixed_eye import fork_at
from tirante.core.parts.link.kind import LINK

SINGLE = {"plate_mm": 12, "hole_mm": 16.3, "head_radius_mm": 22, "edge_mm": 24, "base_width_mm": 50, "height_mm": 45, "load_angle_deg": 0}  # fmt: skip
CLEVIS = {"bore_mm": 16, "gap_mm": 13, "ear_mm": 8, "width_mm": 44, "edge_mm": 24, "floor_mm": 30}


def judged(pull: float, side: float, swing: float = 0.0, **single: object) -> dict[str, dict[str, float]]:
    """By the command line, each check with its factor in."""
    out = calculate("bracket", {
        "family": "single_tab", "parameters": SINGLE | single, "clevis": CLEVIS, "bolt": {"designation": "M16x1.5", "diameter_mm": 16, "strength_class": "10.9"},
        "swing_deg": swing, "cases": [{"name": "one", "axial_n": pull, "side_n": side}],
    })  # fmt: skip
    return {one["key"]: one for one in out["checks"]}


def test_one_plate_bears_all_of_it_and_its_bolt_lies_in_the_clevis() -> None:
    """Statics: the whole pull on one plate, its foot and both its fillets; the bolt from ear to ear, by hand."""
    pull, side, t, wide, high, d = 9000.0, 400.0, 12.0, 50.0, 45.0, 16.0
    got = judged(pull, side)
    whole = sqrt(pull**2 + side**2)
    # AISC 360 J7, 1.8 Fy d t of one plate; D5, shear of 2 t (a + d/2)
    assert got["tab_bearing"]["capacity"] == pytest.approx(1.8 * 355.0 * d * t)
    assert got["tab_tearout"]["capacity"] == pytest.approx(0.6 * 470.0 * 2 * t * (24.0 - 16.3 / 2 + d / 2))
    assert got["tab_bearing"]["demand"] == pytest.approx(2.0 * whole)
    foot = pull / (t * wide) + 6 * side * high / (wide * t**2)
    assert got["tab_foot"]["demand"] == pytest.approx(1.67 * foot)
    # two lines of 50 mm, 12 mm apart: pulled alike, one more by what the side force tips
    line = sqrt((pull / (2 * wide) + side * high / (wide * t)) ** 2 + (side / (2 * wide)) ** 2)
    assert got["tab_weld"]["demand"] == pytest.approx(2.0 * line / (5.0 / sqrt(2.0)), rel=2e-4)
    # bolt: ears of 8 mm, half a millimetre free, a plate of 12: F/2 (8/2 + 0.5 + 12/4)
    moment = whole / 2 * (8.0 / 2 + 0.5 + t / 4)
    assert got["pin_bending"]["demand"] == pytest.approx(2.0 * 32 * moment / (pi * d**3))
    assert got["pin_shear"]["capacity"] == pytest.approx(2 * 0.6 * 1000.0 * pi * d**2 / 4)


def test_its_holes_are_judged_with_all_of_the_pull_on_one_plate() -> None:
    pair = {"what": "", "below_mm": 45.0, "beside_mm": 0.0, "diameter_mm": 8.0}
    got = judged(9000.0, 0.0, extra=[pair], height_mm=75)
    left = Polygon(contour_points(outline_of(sized(height=Length(mm=75.0))).contour, 0.5)).intersection(box(-99, 29.99, 99, 30.01)).area / 0.02  # fmt: skip
    assert got["tab_holed"]["demand"] == pytest.approx(1.67 * 9000.0 / (12.0 * (left - 8.0)), rel=1e-3)


def test_the_wall_under_one_foot() -> None:
    """A single plate pulls as one patch; what rocks it is a pull on one half of its thickness and a push on the other. By hand of the yield lines of AISC chapter K."""
    wall, feet = Wall(kind="box", width=80.0, thickness=4.0, yield_mpa=300.0, uts_mpa=400.0), feet_of_pair(50.0, -12.0, 12.0, 0.0)  # fmt: skip

    def patch(along: float, across: float) -> float:
        share = across / 80.0
        return 300.0 * 16.0 / (1.0 - share) * (2 * along / 80.0 + 4 * sqrt(1.0 - share))

    own = wall_strength(wall, feet)
    assert own.pull == pytest.approx(patch(50.0, 12.0))
    assert own.tilt == pytest.approx(patch(25.0, 12.0) * 25.0)
    assert own.rock == pytest.approx(patch(50.0, 6.0) * 6.0)
    # along both faces: pull and tilt as of one beam, rock as a couple of lines 12 mm apart, told for both faces at once
    assert line_force(feet, 5000.0, 0.0, 0.0) == pytest.approx(100.0)
    assert line_force(feet, 0.0, 30_000.0, 0.0) == pytest.approx(30_000.0 / (50.0**2 / 6))
    assert line_force(feet, 0.0, 0.0, 6000.0) == pytest.approx(2 * 6000.0 / 12.0 / 50.0)
    given = {"kind": "box", "width_mm": 80, "wall_mm": 4, "yield_mpa": 300, "uts_mpa": 400, "foot_mm": 50, "gap_mm": 0, "plate_mm": 12, "angle_deg": 0, "plates": 1}  # fmt: skip
    assert calculate("mount-wall", {**given, "pull_n": 5000})["capacity_n"] == pytest.approx(own.pull)


def sized(**change: object) -> SingleTab:
    return SingleTab(
        id="01900000-0000-7000-8000-00000000f001", name="tab", side="centre", plate=Length(mm=12.0), hole=Length(mm=16.3), head_radius=Length(mm=22.0),
        edge=Length(mm=24.0), base_width=Length(mm=50.0), height=Length(mm=45.0),
    ).model_copy(update=change)  # fmt: skip


def between(saved: SingleTab, swing: float = 6.0, **fork: float) -> ForkMade:
    one = Fork(**({"gap": 13.0, "ear": 8.0, "width": 44.0, "edge": 24.0, "floor": 30.0} | fork))
    row = DamperEye(bore_mm=16.0, ball_width_mm=one.outer, housing_width_mm=one.outer, head_diameter_mm=48.0)
    held = HeldEnd(name="end", of_end=None, row=row, fork=one, cases=(CaseSeen(name="a", axial_n=5000.0),), swing_deg=swing)  # fmt: skip
    design = demo("marram")
    return ForkMade(joint=design.joints[0], held=held, bolt=None, spacer=None, plate=saved.plate.mm)


@pytest.mark.parametrize(("angle", "wide"), [(0.0, 50.0), (40.0, 70.0), (85.0, 80.0), (60.0, 44.0)])
def test_how_deep_a_fork_it_asks(angle: float, wide: float) -> None:
    """Against the body behind the fork turned about the pin in small steps, by polygons: at the depth told it clears by 2 mm, at a tenth less somewhere not."""
    saved = sized(load_angle_deg=angle, base_width=Length(mm=wide))
    plate = Polygon(contour_points(outline_of(saved).contour, 0.25))

    def touches(depth: float) -> bool:
        body = affinity.translate(box(-22.0, depth, 22.0, depth + 300.0), 0.0, 45.0)
        turns = np.arange(angle - 6.0, angle + 6.01, 0.25)
        return any(plate.intersects(affinity.rotate(body, way * turn, origin=(0.0, 45.0))) for turn in turns for way in (1.0, -1.0))  # fmt: skip

    low, high = 0.0, 200.0
    while high - low > 0.01:
        middle = (low + high) / 2
        low, high = (middle, high) if touches(middle) else (low, middle)
    asks = asks_depth(saved, between(saved))  # its end past the hole asks for as much whichever way it is pulled
    assert asks == pytest.approx(max(high, 24.0) + 2.0, abs=0.15)
    if angle == 0.0:  # straight off its end: the round head is nearest on the axis
        assert asks == pytest.approx(24.0 + 2.0, abs=0.01)


def test_what_does_not_go_between_the_ears_is_told_with_the_least_that_does() -> None:
    saved = sized()
    assert goes_between(saved, between(saved)) == []
    (thick,) = goes_between(saved, between(saved, gap=11.96))
    assert thick.field == "plate"
    assert "11.9 mm or less" in thick.message
    (long,) = goes_between(saved, between(saved, floor=25.99))
    assert long.field == "edge"
    assert "23.9 mm or less" in long.message
    (low,) = goes_between(saved, between(saved, edge=38.05))
    assert low.field == "height"
    assert "45.1 mm or more" in low.message  # 38.05 past the pin, a fillet of 5, 2 to turn


def test_its_fillets_have_face_to_lie_on() -> None:
    """A plate of 12 mm, its middle 10.9 mm from the face’s edge, has 4.9 mm beside it."""
    near = sized(base=FlatBase(edge_mm=10.9))
    (told,) = beside_it(near)
    assert told.field == "weld_leg_mm"
    assert "4.9 mm beside the plate" in told.message
    assert beside_it(near.model_copy(update={"weld_leg_mm": 4.9})) == []
    with pytest.raises(InputError, match="9 mm beside the plate"):
        SINGLE_TAB.judged(near, (between(near),), Settings(), ())


def test_a_search_leaves_out_what_reaches_past_its_member() -> None:
    """On a stub that ends 20 mm past the joint no foot may be wider than 40 mm; the search says so or makes it narrower."""
    design, link = forked(depth=60.0)
    stub = next(one for one in design.mounts if one.name == "Panhard stub on the axle")
    shape = stub.shape
    assert isinstance(shape, BoxMember)
    _, after, tab = proposed(design, link)
    assert tab is not None
    assert tab.base_width.mm > 50.0
    narrow = shape.model_copy(update={"width_mm": 44.0})
    design = design.model_copy(update={"mounts": tuple(one.model_copy(update={"shape": narrow}) if one.id == stub.id else one for one in design.mounts)})  # fmt: skip
    told, after, tab = proposed(design, link)
    assert tab is not None, told
    assert tab.base_width.mm <= 44.0 + 0.1  # across the box its foot is as wide as the face at most
    made = part_of(tab, after)
    assert not made.faults
    stand, wide = made.own.stands[0], tab.model_copy(update={"base_width": Length(mm=60.0)})
    assert SINGLE_TAB.past(tab, (stand,), between(tab)) == ""
    assert "8.0 mm past" in SINGLE_TAB.past(wide, (stand,), between(wide))


def test_a_fork_that_strikes_its_side_is_a_fault_of_the_tab() -> None:
    design, link = forked(depth=60.0)
    _, after, tab = proposed(design, link)
    assert tab is not None
    # as wide a foot, its end no longer past the hole than it must be
    wide = tab.model_copy(update={"edge": tab.head_radius, "base_width": Length(mm=78.0)})
    assert not part_of(wide, after).faults
    _, link = forked(depth=tab.head_radius.mm + 2.0)
    (fault,) = part_of(wide, with_part(after, link)).faults
    assert fault.field == "base_width"
    assert "mm deep or more" in fault.message


def test_plates_to_either_side_hold_no_clevis_and_a_single_tab_no_eye() -> None:
    for given, family, field in (({"clevis": CLEVIS}, "tab_pair", "holds"), ({"holds": {"bore_mm": 16, "ball_width_mm": 20, "housing_width_mm": 15, "head_diameter_mm": 40}}, "single_tab", "clevis")):  # fmt: skip
        with pytest.raises(InputError) as error:
            calculate("bracket", {
                "family": family, "parameters": SINGLE, **given,
                "bolt": {"designation": "M16x1.5", "diameter_mm": 16, "strength_class": "10.9"}, "cases": [{"name": "one", "axial_n": 1.0}],
            })  # fmt: skip
        assert error.value.fields == (field,)


# --- in a job -----------------------------------------------------------------------------------------------------------------


def forked(depth: float | None = None, flat: bool = False) -> tuple[Design, Link]:
    """Marram with its Panhard rod's end B a clevis that nothing holds."""
    design = demo("marram")
    link = next(one for one in links(design) if one.name == "Panhard rod")
    if flat:
        end = FixedEnd(what="clevis", centre_to_face=Length(mm=70.0), flat=FlatEnd(form="clevis let in", thickness_mm=8.0, width_mm=46.0, hole_mm=19.3, pin_mm=19.05, edge_mm=24.0, gap_mm=16.0))  # fmt: skip
    else:
        end = FixedEnd(what="clevis", centre_to_face=Length(mm=70.0), machined=Machined(form="clevis", thickness_mm=12.0, width_mm=50.0, hole_mm=19.25, pin_mm=19.05, edge_mm=27.0, gap_mm=20.0, fork_mm=depth))  # fmt: skip
    link = link.model_copy(update={"end_b": end})
    joints, gone = [], set()
    for joint in design.joints:
        if isinstance(joint.held, EndOfLink) and joint.held.part == link.id and joint.held.end == "b":
            gone.add(joint.by)
            joint = joint.model_copy(update={"by": None, "bolt": None, "mount": None, "shim_mm": 0.0, "spacer": None})
        joints.append(joint)
    gone -= {joint.by for joint in joints}
    design = with_part(design, link)
    parts = tuple(part for part in design.parts if part.id not in gone)
    return design.model_copy(update={"parts": parts, "joints": tuple(joints)}), link


def proposed(design: Design, link: Link) -> tuple[str, Design, SingleTab | None]:
    found = propose(work(design), SHOP, IDS, [link.id])
    (told,) = [one.told for one in found.every if one.part is None or one.part.kind == "single_tab"]
    tab = next((one for one in found.patch.parts if isinstance(one, SingleTab)), None)
    return told, patched(design, found.patch), tab


def test_asked_for_a_clevis_the_job_proposes_a_single_tab_and_what_it_advises_comes_true() -> None:
    design, link = forked()
    place = next(one for one in places_of(work(design)) if one.id == link.id and one.by is None)
    assert (place.makes, place.forked, place.missing) == ("single tab", True, None)
    told, _, tab = proposed(design, link)
    assert tab is not None
    asks = float(told.split("with its fork ")[1].split(" mm")[0])
    assert "(tried)" in told
    assert "is over" in told  # as shallow as its width asks, its foot is too short
    deeper, link = forked(depth=asks)
    told, after, tab = proposed(deeper, link)
    assert "is over" not in told
    assert tab is not None
    part = part_of(tab, after)
    assert part is not None
    assert not part.faults
    assert all(check.passed for check in part.checks)
    assert {"mount_wall", "mount_shear"} <= {check.key for check in part.checks}
    for check in part.checks:  # the command beside each says what the part does
        assert check.reproduce is not None
        found = calculate(check.reproduce.topic, check.reproduce.input)
        for name in check.reproduce.output.split("."):
            found = found[name]
        if check.reproduce.figure:
            assert found == pytest.approx(getattr(check, check.reproduce.figure)), check.key
    assert fork_at(link.end_b).floor == asks  # type: ignore[arg-type,union-attr]
    # one plate is cut, one bolt bought, as long as both ears and nut ask
    (plate,) = part.pieces
    assert plate.count == 1  # type: ignore[union-attr]
    (bolt,) = part.beside
    assert "grip of 44.0 mm" in bolt.what  # type: ignore[union-attr]
    assert part.mass == pytest.approx(outline_of(tab).contour.area * tab.plate.mm * 7.85e-6)
    shallow, link = forked(depth=asks - 0.6)
    assert "with its fork" in proposed(shallow, link)[0]  # none holds: it is the least, to half a millimetre


def test_its_room_is_that_of_the_clevis_and_of_one_plate() -> None:
    """The body behind the fork against the plate as it stands, at every place of the box, by polygons in the plate's own plane: the link hardly leaves it."""
    design, link = forked(depth=45.0)
    _, after, tab = proposed(design, link)
    assert tab is not None
    job = work(after)
    (room,) = look_round(job, tab.id).joints
    assert not [line.told for line in room.lines if line.state == "stop"]
    assert "the clevis’s ears" not in " ".join(
        line.told for line in room.lines if line.to == "its plate"
    )  # they lie beside it
    made = part_of(tab, after).own  # type: ignore[union-attr]
    assert isinstance(made, SingleMade)
    stand = made.stands[0]
    assert stand is not None
    (corners, half) = plates_in_space(as_pair(tab), (made.outline,), -tab.plate.mm, stand)[0]
    assert len(plates_in_space(as_pair(tab), (made.outline,), -tab.plate.mm, stand)) == 1
    assert np.allclose(np.abs(half), np.abs(tab.plate.mm / 2 * stand.standing.bolt))
    # its middle plane holds the joint
    assert float(abs((corners - stand.at.at) @ stand.standing.bolt).max()) < 1e-6
    nearest = next(line for line in room.lines if line.to == "its plate")
    assert nearest.what == "the clevis’s own body"
    _, link = forked(depth=46.0)
    joints = {line.what + line.to: line for line in look_round(work(with_part(after, link)), tab.id).joints[0].lines}
    # a millimetre deeper is a millimetre clearer, along the link
    assert joints[nearest.what + nearest.to].gap_mm - nearest.gap_mm == pytest.approx(1.0, abs=0.05)  # type: ignore[operator]


def test_ears_stand_beside_the_plate_and_head_and_nut_on_them() -> None:
    """The ears as far from the plate as half of what is free, at every place; the nut from the ear's outer face on; the bolt by a grip over both ears."""
    design, link = forked(depth=45.0)
    _, after, tab = proposed(design, link)
    assert tab is not None
    own, seen, joint = own_at(work(after), tab.id)
    runs = runs_told(work(after), own, (joint, "it"), (seen, moving_things(work(after), seen)), [])
    ears = [one.solid for one in swinging(own, runs, seen.lanes, hinge=False) if one.joint]
    (plate,) = own.plates()
    assert len(ears) == 2 * len(runs) == 2
    for ear in ears:
        apart = gap(ear, plate.solid, seen.lanes)
        assert np.allclose(apart, (20.0 - tab.plate.mm) / 2, atol=1e-6)
        # as thick as it is, its outer face 22 mm from the joint's middle
        out = np.sign(float((ear.middle[:, 0] - own.at) @ own.stand.standing.bolt))
        far = ear.support(out * own.stand.standing.bolt[:, None])[:, 0]
        assert float(out * (far - own.at) @ own.stand.standing.bolt) == pytest.approx(22.0)
    for side in (1.0, -1.0):
        nut = own.nut(side).solid
        assert float(side * (nut.a[:, 0] - own.at) @ own.stand.standing.bolt) == pytest.approx(22.0)
    assert own.bolt_length >= 44.0 + own.hardware.nut


def test_a_link_is_searched_for_with_the_tab_in_its_clevis() -> None:
    design, link = forked(depth=45.0)
    _, after, tab = proposed(design, link)
    assert tab is not None
    job = work(after)
    refit = LINK._refitter(link, job, SHOP)
    assert refit is not None
    part = job.part(link.id)
    assert part is not None
    found = refit(part.own[0].assembly)
    assert [one.fault for one in found if one.parts and one.parts[0].id == tab.id] == [None]
    eye = next(one for one in after.joints if isinstance(one.held, EndOfLink) and one.held.part == link.id and one.held.end == "a")  # fmt: skip
    held = after.model_copy(update={"joints": tuple(one.model_copy(update={"by": tab.id if one.id == eye.id else None if one.by == tab.id else one.by}) for one in after.joints)})  # fmt: skip
    with pytest.raises(InputError, match="goes between the ears of a clevis"):
        SINGLE_TAB.size(tab, work(held), SHOP, "mass")


def test_a_clevis_of_plates_let_in_goes_as_deep_as_the_tube_s_end() -> None:
    design, link = forked(flat=True)
    told, after, tab = proposed(design, link)
    assert tab is not None, told
    made = part_of(tab, after).own  # type: ignore[union-attr]
    assert isinstance(made, SingleMade)
    assert made.joints[0].fork == Fork(gap=16.0, ear=8.0, width=46.0, edge=24.0, floor=70.0)


def test_the_bracket_says_what_it_cannot_hold() -> None:
    design, link = forked()
    other = next(one for one in design.parts if one.kind == "tab_pair")
    joint = next(one for one in design.joints if isinstance(one.held, EndOfLink) and one.held.part == link.id and one.held.end == "b")  # fmt: skip
    held = design.model_copy(update={"joints": tuple(one.model_copy(update={"by": other.id}) if one.id == joint.id else one for one in design.joints)})  # fmt: skip
    assert "a single tab goes between its ears" in part_of(other, held).faults[0].message  # type: ignore[union-attr]
    tab = sized()
    eye = next(one for one in design.joints if isinstance(one.held, EndOfLink) and one.held.part == link.id and one.held.end == "a")  # fmt: skip
    held = with_part(design, tab).model_copy(update={"joints": tuple(one.model_copy(update={"by": tab.id}) if one.id == eye.id else one for one in design.joints)})  # fmt: skip
    assert "goes between the ears of a clevis" in part_of(tab, held).faults[0].message  # type: ignore[union-attr]


def test_its_sheet_draws_one_plate_in_its_clevis() -> None:
    design, link = forked(depth=45.0)
    _, after, tab = proposed(design, link)
    assert tab is not None
    texts = [item.text for item in draw(tab, after, "tab", Numbers(unit="mm")).items if item.kind == "text"]  # type: ignore[union-attr]
    assert "The plate" in texts
    assert any("cut 1" in text for text in texts)
    flat = draw(tab, after, "tab-flat", Numbers(unit="mm"))
    assert flat.width == pytest.approx(2 * max(tab.base_width.mm / 2, tab.head_radius.mm), abs=1e-6)


def test_on_a_tube_at_an_angle_its_foot_is_the_middle_of_a_pair_s() -> None:
    """The saddle of a plate whose middle plane goes through the tube's axis: y = √(R² − (x sin θ)²) − R at x along the foot."""
    base = SaddleBase(tube_od=Length(mm=80.0), angle_deg=60.0)
    saved = sized(base=base)
    outline = outline_of(saved).contour
    points = np.array(contour_points(outline, 0.2))
    foot = points[(points[:, 1] < 0.5) & (np.abs(points[:, 0]) < 24.0)]
    expected = np.sqrt(40.0**2 - (foot[:, 0] * sin(radians(60.0))) ** 2) - 40.0
    assert len(foot) > 3
    assert np.allclose(foot[:, 1], expected, atol=0.02)


@pytest.mark.parametrize("name", ["marram", "quay", "tern", "dunlin", "plover"])
def test_every_joint_of_every_demo_is_held(name: str) -> None:
    """By a bracket of the job that is complete, or by what is said to hold it."""
    job = work(demo(name))
    for place in places_of(job):
        part = job.part(place.by) if place.by else None
        assert place.elsewhere or (part is not None and part.complete), (name, place.of, place.name)


def test_where_no_plates_stand_on_an_arm_s_tube_a_plate_across_its_tubes_is_taken() -> None:
    """Dunlin's push rod: its bolt is aslant to the tube under it; on the plate that is entered there it stands, and without that it is told why not."""
    design = bare(demo("dunlin"))
    rod = next(one for one in links(design) if one.name == "Front push rod")

    def told(design: Design) -> str:
        found = propose(work(design), SHOP, IDS, [rod.id])
        return next(one.told for one in found.every if one.place.name == "end A")

    assert told(design).startswith("on Push rod plate")
    without = design.model_copy(update={"mounts": tuple(one for one in design.mounts if one.name != "Push rod plate")})
    assert told(without).startswith("on Front lower arm: ")
