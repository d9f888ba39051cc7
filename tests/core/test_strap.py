"""A strap over a tube: bent half round it, welded along both its edges, its ears holding a joint whose bolt is square to the tube."""

from __future__ import annotations

from dataclasses import replace
from math import hypot, pi, radians
from typing import Any

import numpy as np
import pytest
from shapely.geometry import Polygon

from tests.core.test_mounts import IDS, SHOP
from tests.jobs import draw, part_of, with_part, work
from tirante.calc import calculate
from tirante.core.brackets.strap import StrapWelds, line_forces, worst_pull
from tirante.core.document.adopt import patched
from tirante.core.document.design import Design
from tirante.core.document.fields import Length
from tirante.core.document.joints import HeldJoint
from tirante.core.document.mounts import BoxMember, Mount, RoundMember
from tirante.core.document.parts.strap_tab import StrapTab
from tirante.core.drawing.sheet import Numbers
from tirante.core.errors import InputError
from tirante.core.flat.contour import require_closed
from tirante.core.geometry.convex import Prism
from tirante.core.job.bracket_map import as_tabs
from tirante.core.job.propose import propose
from tirante.core.job.room.around import standing_things
from tirante.core.job.room.axes import Seen
from tirante.core.job.room.look import look_round
from tirante.core.job.room.own import own_of
from tirante.core.parts.bracket.families.eared import thinner_leg
from tirante.core.parts.bracket.families.place_view import contour_points, plates_in_space
from tirante.core.parts.bracket.families.strap import (
    STRAP_TAB,
    StrapMade,
    fitted_strap,
    opens,
    packed_out,
    strap_checks,
)
from tirante.core.parts.bracket.families.tab_checks import slants
from tirante.core.parts.part import PlatePiece
from tirante.core.parts.stands import Stand
from tirante.core.sheet.strap import Strap, springs_open, strap
from tirante.documents.cutting_table import drive
from tirante.documents.dxf import to_dxf

MOUNT = "0196f3a0-0000-7000-8000-00000000d001"


# --- the flat ----------------------------------------------------------------------------------------------------------------


def flat(**more: float) -> Strap:
    sizes = {
        "tube_od": 60.0,
        "thickness": 5.0,
        "width": 50.0,
        "height": 62.0,
        "head": 18.0,
        "edge": 22.0,
        "hole": 12.5,
    } | more
    return strap(**sizes)


def test_it_folds_back_onto_its_tube_and_its_neutral_fibre_is_as_long_as_the_flat() -> None:
    one = flat()
    require_closed(one.contour, "plate")
    left, _, right, _ = one.contour.bounds
    xs = np.linspace(left, right, 6001)
    inner, outer, fibre = (
        np.array([one.folded(float(x), 0.0, d) for x in xs]) for d in (0.0, 5.0, one.quarter.k * 5.0)
    )
    # what is under the tube's middle lies on it; what is over stands at its sides
    below = inner[:, 2] < 0
    assert np.hypot(inner[below, 0], inner[below, 2]) == pytest.approx(30.0)
    assert np.abs(inner[~below, 0]) == pytest.approx(30.0)
    assert np.linalg.norm(outer - inner, axis=1) == pytest.approx(5.0)
    assert np.linalg.norm(np.diff(fibre, axis=0), axis=1).sum() == pytest.approx(right - left, rel=1e-6)
    for hole, side in zip(one.contour.holes, (1.0, -1.0), strict=True):
        assert one.folded(hole.x, hole.y) == pytest.approx((side * 30.0, 0.0, 62.0))
    assert one.folded(right, 0.0)[2] == pytest.approx(62.0 + 22.0)
    assert one.gap == 60.0
    # DIN 6935, K = 0.325 + 0.25 lg(R/t) = 0.325 + 0.25 lg 6 = 0.5195, at most 0.5: a quarter of the way round at the middle of the plate
    assert one.quarter.allowance == pytest.approx(pi / 2 * (30.0 + 2.5))


def test_its_outline_is_a_strip_with_two_round_heads_alike_when_it_is_turned_round() -> None:
    one = flat()
    shape = Polygon(contour_points(one.contour, 0.5))
    assert shape.is_valid
    turned = Polygon([(-x, -y) for x, y in contour_points(one.contour, 0.5)])
    assert shape.symmetric_difference(turned).area < 1.0
    begins, half = one.quarter.allowance, 25.0
    middle = shape.intersection(Polygon([(-begins, -99), (begins, -99), (begins, 99), (-begins, 99)]))
    assert middle.area == pytest.approx(2 * begins * 2 * half)
    (bend,) = one.contour.bends
    assert (bend.line.x1, bend.line.x2, bend.angle_deg, bend.radius) == (0.0, 0.0, 180.0, 30.0)


@pytest.mark.parametrize(
    ("change", "field", "limit"),
    [
        ({"width": 35.0}, "base_width", 36.0), ({"edge": 17.0}, "edge", 18.0), ({"hole": 37.0}, "hole", 36.0),
        ({"height": 36.0}, "height", 36.25), ({"height": 20.0, "tube_od": 20.0, "thickness": 8.0}, "height", 22.25),
        ({"height": 20.0, "tube_od": 20.0, "thickness": 5.0, "edge": 18.0, "hole": 6.0}, "height", None),
    ],
)  # fmt: skip
def test_a_figure_that_does_not_go_names_the_field_and_the_least_that_does(change: dict[str, float], field: str, limit: float | None) -> None:  # fmt: skip
    if limit is None:
        assert flat(**change).height == 20.0
        return
    with pytest.raises(InputError) as caught:
        flat(**change)
    assert caught.value.fields == (field,)
    assert limit in (caught.value.limits or ())
    key = {"base_width": "width"}.get(field, field)
    nudge = -0.01 if field == "hole" else 0.0
    assert flat(**{**change, key: limit + nudge}).contour.edges


def test_it_springs_open_by_the_angle_that_comes_back() -> None:
    """An ear that turns by 1° about the tube's middle goes out by the chord at its hole."""
    assert springs_open(pi, 60.0) == 0.0
    assert springs_open(pi - 2 * radians(1.0), 60.0) == pytest.approx(2 * 60.0 * np.sin(radians(1.0)))


# --- its welds ---------------------------------------------------------------------------------------------------------------


def on_springs(
    od: float, width: float, force: np.ndarray, at: float, parts: int = 20_000
) -> tuple[np.ndarray, np.ndarray]:
    """Both half circles cut into short pieces that each resist alike whichever way they are moved: six equations of balance."""
    turn = (np.arange(parts) + 0.5) * pi / parts
    places = np.concatenate([np.stack([np.full(parts, way * width / 2), od / 2 * np.cos(turn), -od / 2 * np.sin(turn)], axis=1) for way in (-1.0, 1.0)])  # fmt: skip
    long = pi * od / 2 / parts
    moves = np.zeros((len(places), 3, 6))
    moves[:, :, :3] = np.eye(3)
    for axis in range(3):
        moves[:, :, 3 + axis] = np.cross(np.eye(3)[axis], places)
    stiff = long * np.einsum("nca,ncb->ab", moves, moves)
    load = np.concatenate([force, np.cross([0.0, 0.0, at], force)])
    return places, moves @ np.linalg.solve(stiff, load)


@pytest.mark.parametrize(
    "force", [(4000.0, 0.0, 0.0), (0.0, 900.0, 0.0), (0.0, 0.0, 12000.0), (3000.0, -700.0, 9000.0)]
)
def test_its_fillets_bear_what_springs_along_them_would(force: tuple[float, float, float]) -> None:
    welds, pull = StrapWelds(tube_od=60.3, width=48.0), np.array(force)
    places, found = on_springs(60.3, 48.0, pull, 67.0)
    own = line_forces(welds, pull, 67.0)
    for where, line in zip(welds.places, own, strict=True):
        near = int(np.linalg.norm(places - where, axis=1).argmin())
        assert line == pytest.approx(found[near], abs=2e-3 * float(np.linalg.norm(pull)) / welds.length)
    assert welds.length == pytest.approx(pi * 60.3)


def test_a_pull_straight_off_the_tube_lies_evenly_on_all_of_its_fillets() -> None:
    found = line_forces(StrapWelds(tube_od=50.0, width=40.0), np.array([0.0, 0.0, 10_000.0]), 55.0)
    assert found == pytest.approx(np.tile([0.0, 0.0, 10_000.0 / (pi * 50.0)], (len(found), 1)))


def test_the_worst_way_that_it_is_pulled_is_the_worst_of_all_between() -> None:
    welds = StrapWelds(tube_od=50.0, width=60.0)
    line, force = worst_pull(welds, 58.0, 9000.0, 600.0, (-10.0, 35.0))
    every = [
        float(np.linalg.norm(line_forces(welds, np.array([9000.0 * np.sin(a), 600.0, 9000.0 * np.cos(a)]), 58.0), axis=1).max())
        for a in np.radians(np.linspace(-10.0, 35.0, 46))
    ]  # fmt: skip
    assert line == pytest.approx(max(every))
    assert float(np.linalg.norm(line_forces(welds, force, 58.0), axis=1).max()) == pytest.approx(line)
    # the side force the other way does as much
    mirrored = line_forces(welds, force * np.array([1.0, -1.0, 1.0]), 58.0)
    assert float(np.linalg.norm(mirrored, axis=1).max()) == pytest.approx(line)


# --- in a job ----------------------------------------------------------------------------------------------------------------


def strapped(design: Design, od: float = 38.1, *, aside: float = 0.0, deep: float = 55.0, turn: tuple[float, float, float] = (1.0, 0.0, 0.0)) -> tuple[Design, StrapTab]:  # fmt: skip
    """Marram with its rear damper's upper eye under a cross tube, 55 mm from its middle, the eye's bolt along the car."""
    held = next(
        one
        for one in design.joints
        if one.held.kind == "point" and one.held.point == "damper_top" and one.held.end_id == design.ends[1].id
    )
    job = work(design)
    at = job.at_of(held)
    assert at is not None
    x, y, z = (float(v) for v in at.at)
    tube = Mount(
        id=MOUNT, name="Cross tube", yield_mpa=355.0, uts_mpa=470.0,
        shape=RoundMember(a=(x + aside, y - 200.0, z + deep), b=(x + aside, y + 200.0, z + deep), od_mm=od, wall_mm=3.0),
    )  # fmt: skip
    old = design.part(held.by or "")
    assert old is not None
    saved = StrapTab(
        id=old.id, name="Damper strap", side=old.side, plate=Length(mm=5.0), hole=Length(mm=13.2), head_radius=Length(mm=20.0), edge=Length(mm=24.0),
        base_width=Length(mm=50.0), tube_od=Length(mm=40.0), height=Length(mm=50.0),
    )  # fmt: skip
    joint = held.model_copy(update={"mount": MOUNT, "bolt_axis": turn, "shim_mm": 0.0, "spacer": None})
    design = design.model_copy(update={
        "mounts": (*design.mounts, tube), "joints": tuple(joint if one.id == held.id else one for one in design.joints),
    })  # fmt: skip
    return with_part(design, saved), saved


def joint_of(design: Design, saved: StrapTab) -> HeldJoint:
    (joint,) = work(design).held_by(saved.id)
    return joint


def faults_of(design: Design, saved: StrapTab) -> dict[str, str]:
    return {one.field: one.message for one in part_of(saved, design).faults}


def whole(design: Design, **more: Any) -> tuple[Design, StrapTab]:
    """Fitted and packed out as it says."""
    design, saved = strapped(design, **more)
    stand = work(design).stand_of(joint_of(design, saved))
    assert isinstance(stand, Stand)
    fitted = fitted_strap(saved, stand)
    design = with_part(design, fitted)
    shim = float(faults_of(design, fitted)["shim_mm"].split("shim of ")[1].split(" mm")[0])
    joint = joint_of(design, fitted).model_copy(update={"shim_mm": shim})
    return design.model_copy(update={"joints": tuple(joint if one.id == joint.id else one for one in design.joints)}), fitted  # fmt: skip


def test_fitted_and_packed_out_as_it_asks_it_has_no_fault_and_every_check(mounted: Design) -> None:
    design, saved = strapped(mounted)
    asked = faults_of(design, saved)
    assert "bent round 40.0 mm, and Cross tube is 38.1 mm" in asked["tube_od"]
    assert "50.0 mm over the middle of Cross tube, and the joint 55.0 mm" in asked["height"]
    design, saved = whole(mounted)
    assert (saved.tube_od.mm, saved.height.mm, saved.wall_mm) == (38.1, pytest.approx(55.0), 3.0)
    part = part_of(saved, design)
    assert part.faults == ()
    made = part.own
    assert isinstance(made, StrapMade)
    assert made.joints[0].gap == pytest.approx(38.1, abs=0.02)
    assert {one.key for one in part.checks} == {"pin_shear", "pin_bending", "tab_bearing", "tab_tension", "tab_tearout", "tab_slanted", "tab_yield", "tab_detailing", "tab_foot", "tab_weld"}  # fmt: skip
    assert any("wall of the tube that it goes over" in one for one in part.not_checked)
    assert [(piece.count, piece.thickness) for piece in part.pieces if isinstance(piece, PlatePiece)] == [(1, 5.0)]
    assert f"grip of {38.1 + 2 * 5.0:g} mm" in " ".join(str(piece) for piece in part.beside)
    # of a test bend that keeps 0.95 of its angle either ear comes back by half of what is lost
    tested = saved.model_copy(update={"ratio": 0.95})
    assert opens(tested) == pytest.approx(2 * 55.0 * np.sin(0.05 * pi / 2))
    for ratio, told in ((0.95, "springs open by about 8.6"), (1.0, "springs open by about 0.0")):
        sheet = draw(saved.model_copy(update={"ratio": ratio}), design, "strap", Numbers())
        assert any(told in getattr(item, "text", "") for item in sheet.items)
    for check in part.checks:
        if check.reproduce is not None and check.reproduce.figure:
            again: Any = calculate(check.reproduce.topic, check.reproduce.input)
            for step in check.reproduce.output.split("."):
                again = again[step]
            assert again == pytest.approx(getattr(check, check.reproduce.figure), rel=1e-6)  # fmt: skip


def test_its_welds_and_feet_are_judged_by_the_force_its_joint_sees(mounted: Design) -> None:
    """Recomputed with the springs along the fillets, each case by itself; the ears as cantilevers from the tube's middle."""
    design, saved = whole(mounted)
    part, settings = part_of(saved, design), design.settings
    (made,) = part.own.joints  # type: ignore[union-attr]
    found = {one.key: one for one in strap_checks(saved, made, settings)}
    leg, factor = 3.0, settings.factors.weld  # the tube's wall: 5 mm burn through
    assert thinner_leg(saved) == leg
    low, high = slants(STRAP_TAB.as_pair(saved), made.held)
    stress = 0.0
    for case in made.held.cases:
        for turn in np.radians(np.arange(low, high + 0.01, 1.0)):
            pull, side = abs(case.axial_n) * factor, abs(case.across_n) * factor
            _, lines = on_springs(38.1, 50.0, np.array([pull * np.sin(turn), side, pull * np.cos(turn)]), saved.height.mm, 400)  # fmt: skip
            stress = max(stress, float(np.linalg.norm(lines, axis=1).max()) / (0.7071 * leg))
    assert found["tab_weld"].demand == pytest.approx(stress, rel=5e-3)
    assert found["tab_weld"].capacity == pytest.approx(0.6 * settings.electrode_uts_mpa)
    again = found["tab_foot"].reproduce
    assert again is not None
    assert (again.input["height_mm"], again.input["width_mm"], again.input["plates"], again.input["outside_only"]) == (saved.height.mm, 50.0, 2, False)  # fmt: skip
    higher = {
        one.key: one for one in strap_checks(saved.model_copy(update={"height": Length(mm=75.0)}), made, settings)
    }
    assert higher["tab_foot"].utilisation > found["tab_foot"].utilisation
    assert higher["tab_weld"].demand > found["tab_weld"].demand
    # what pushes along the bolt is in it too: one case by hand
    case = replace(made.held.cases[0], axial_n=0.0, side_n=1500.0, strike_n=0.0)
    pushed = replace(made, held=replace(made.held, cases=(case,)))
    _, lines = on_springs(38.1, 50.0, np.array([0.0, 1500.0 * factor, 0.0]), saved.height.mm, 400)
    alone = {one.key: one for one in strap_checks(saved, pushed, settings)}["tab_weld"].demand
    assert alone == pytest.approx(float(np.linalg.norm(lines, axis=1).max()) / (0.7071 * leg), rel=5e-3)


@pytest.mark.parametrize(
    ("more", "field", "told"),
    [
        ({"aside": 3.0}, "mount", "3.0 mm beside the tube’s middle"),
        ({"aside": 0.7}, "mount", "0.7 mm beside the tube’s middle"),
        ({"turn": (0.9, 0.2, 0.0)}, "bolt_axis", "12.5° off that"),
        ({"od": 18.0}, "shim_mm", "they do not go in"),
    ],
)
def test_what_no_strap_goes_over_is_told_with_the_cure(mounted: Design, more: dict[str, Any], field: str, told: str) -> None:  # fmt: skip
    design, saved = strapped(mounted, **more)
    stand = work(design).stand_of(joint_of(design, saved))
    assert isinstance(stand, Stand)
    fitted = fitted_strap(saved, stand)
    assert told in faults_of(with_part(design, fitted), fitted)[field]


def test_on_a_box_and_past_the_end_of_its_tube_it_is_refused(mounted: Design) -> None:
    design, saved = whole(mounted)
    (tube,) = (one for one in design.mounts if one.id == MOUNT)
    assert isinstance(tube.shape, RoundMember)
    box = tube.model_copy(update={"shape": BoxMember(a=tube.shape.a, b=tube.shape.b, up=(0.0, 0.0, 1.0), width_mm=50.0, height_mm=50.0, wall_mm=3.0)})  # fmt: skip
    others = tuple(one for one in design.mounts if one.id != MOUNT)
    assert "goes over a round tube" in faults_of(design.model_copy(update={"mounts": (*others, box)}), saved)["mount"]
    x, y, z = tube.shape.a
    short = tube.model_copy(update={"shape": tube.shape.model_copy(update={"a": (x, y + 200.0 - 20.0, z)})})
    told = faults_of(design.model_copy(update={"mounts": (*others, short)}), saved)
    assert "5.0 mm past the end" in told["base_width"]


def test_what_lies_round_the_tube_and_its_ears_stand_in_the_car_where_it_is_bent(mounted: Design) -> None:
    design, saved = whole(mounted)
    part = part_of(saved, design)
    (stand,), (made,) = part.own.stands, part.own.joints  # type: ignore[union-attr]
    one = stand.standing
    found = as_tabs(part)
    assert found
    tab, outlines, footing = found
    assert footing
    (tube,) = (m for m in design.mounts if m.id == MOUNT)
    axis = np.array(tube.shape.a)  # type: ignore[union-attr]
    laid = footing.laid(made.gap, stand)
    for piece in laid:
        off = piece.at - axis
        off = off - float(off @ one.x) * one.x
        assert float(np.linalg.norm(off)) == pytest.approx(38.1 / 2 + 2.5)
        assert float(off @ one.y) < 0  # on the side away from the joint
        assert abs(float(off @ piece.y)) < 1e-9
        assert Polygon(piece.outline).bounds[2] == 25.0
    # each ends where the next begins, at the outer face
    ends = [piece.at + np.cross(piece.x, piece.y) * s * 2.5 + way * piece.outline[2][1] * piece.y for piece in laid for s in (1, -1) for way in (1, -1)]  # fmt: skip
    outer = [p for p in ends if hypot(*((p - axis) @ np.stack([one.bolt, one.y]).T)) > 38.1 / 2 + 5.0 - 1e-9]
    assert len(outer) == 2 * len(laid)
    for (corners, half), way in zip(plates_in_space(tab, outlines, made.gap, stand), (1.0, -1.0), strict=True):
        away = (corners - axis) @ one.y
        assert away.min() == pytest.approx(0.0, abs=1e-6)  # its ears leave the tube at its sides
        assert away.max() == pytest.approx(55.0 + 24.0)
        assert (corners - axis) @ one.bolt == pytest.approx(way * (38.1 / 2 + 2.5), abs=0.02)
        assert float(np.linalg.norm(half)) == 2.5
    # as solids each flat is a plate across its own thickness, for its own room and for that of what stands beside it
    job = work(design)
    own = own_of(tab, outlines, made, stand, stand.at.at, footing=footing, names=("front plate", "rear plate"))
    solids = [piece.solid for piece in own.plates() if piece.name == "its strap"]
    beside = next(one for one in design.joints if one.held.kind == "point" and one.held.point == "damper_low" and one.held.end_id == design.ends[1].id)  # fmt: skip
    at = job.at_of(joint_of(design, saved))
    assert at is not None
    seen = Seen(job, at)
    found_by = [thing.solid for thing in standing_things(job, seen, beside.by or "", ("", False), pair=False) if thing.name == saved.name]  # fmt: skip
    assert len(solids) == len(laid)
    assert len(found_by) == len(laid) + 2
    for solid in (*solids, *found_by[2:]):
        assert isinstance(solid, Prism)
        x, y, z = (np.asarray(v)[:, 0] for v in (solid.x, solid.y, solid.z))
        assert np.stack([x, y, z]) @ np.stack([x, y, z]).T == pytest.approx(np.eye(3), abs=1e-9)
        assert solid.half == 2.5
    assert {line.sort for joint in look_round(work(design), saved.id).joints for line in joint.lines}


def test_it_is_sized_and_its_sheets_are_drawn_and_cut(mounted: Design) -> None:
    design, saved = whole(mounted)
    sized = STRAP_TAB.size(saved, work(design), SHOP, "mass")
    assert sized.winner is not None
    lightest = sized.winner.parts[0]
    assert isinstance(lightest, StrapTab)
    made = with_part(design, lightest)
    made = made.model_copy(update={"joints": tuple(next((j for j in sized.winner.joints if j.id == one.id), one) for one in made.joints)})  # fmt: skip
    part = part_of(lightest, made)
    assert part.faults == ()
    assert all(check.passed for check in part.checks)
    assert lightest.height.mm == saved.height.mm
    for name in ("strap", "place"):
        assert draw(lightest, made, name, Numbers()).items
    cut = drive(to_dxf(draw(lightest, made, "strap-flat", Numbers())), thickness=lightest.plate.mm, kerf=0.3)
    assert cut.pierces == 3
    assert part.mass == pytest.approx(STRAP_TAB.area(lightest, 0.0) * lightest.plate.mm * 7.85e-6, rel=1e-3)
    assert packed_out(38.1, part.own.joints[0]) == pytest.approx(part.own.joints[0].joint.shim_mm, abs=0.02)  # type: ignore[union-attr]


def test_where_no_pair_of_plates_holds_it_is_proposed_packed_out_and_holds_as_it_is_told(
    mounted: Design, monkeypatch: pytest.MonkeyPatch
) -> None:
    design, saved = strapped(mounted)
    joint = joint_of(design, saved)
    (tube,) = (one for one in design.mounts if one.id == MOUNT)
    free = joint.model_copy(update={"by": None, "mount": None})
    design = design.model_copy(update={
        "parts": tuple(one for one in design.parts if one.id != saved.id), "mounts": (tube,),
        "joints": tuple(free if one.id == joint.id else one for one in design.joints),
    })  # fmt: skip
    found = propose(work(design), SHOP, IDS, (design.ends[1].id,))
    (one,) = (each for each in found.every if isinstance(each.part, StrapTab))
    assert "packed out beside the ball by 9.05 mm on each side" in one.told  # (38.1 − 20) / 2
    assert "It holds" in one.told
    part = part_of(one.part, patched(design, found.patch))
    assert part.faults == ()
    assert part.checks
    assert all(check.passed for check in part.checks)
    # a tube that asks for more than is put beside a ball gets none
    wide = tube.model_copy(update={"shape": tube.shape.model_copy(update={"od_mm": 20.0 + 2 * 20.5})})
    again = propose(work(design.model_copy(update={"mounts": (wide,)})), SHOP, IDS, (design.ends[1].id,))
    assert not any(isinstance(each.part, StrapTab) for each in again.every)
    with monkeypatch.context() as tilts:  # nor what would strike its ears, which nothing sets further apart
        tilts.setattr("tirante.core.job.propose.shim_that_clears", lambda _job, joint, _own: joint.shim_mm + 0.1)
        struck = propose(work(design), SHOP, IDS, (design.ends[1].id,))
        assert not any(isinstance(each.part, StrapTab) for each in struck.every)
    monkeypatch.setattr("tirante.core.job.propose.MOST_SHIM", 9.0)
    less = propose(work(design), SHOP, IDS, (design.ends[1].id,))
    assert not any(isinstance(each.part, StrapTab) for each in less.every)
