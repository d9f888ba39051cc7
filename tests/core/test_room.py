"""The room round brackets: followed from the solved end, by what an obstacle does when it is moved past the figure given, and by taking the advice."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np
import pytest

from tests.core.test_mounts import IDS, SHOP
from tests.documents.test_on_table import demo
from tests.jobs import bare, with_part, work
from tirante.core.document.adopt import patched
from tirante.core.document.design import Design
from tirante.core.document.end import Block, Obstacle
from tirante.core.document.joints import EndOfLink, HeldJoint, PivotOfArm
from tirante.core.document.mounts import FlatMember, Mount, RoundMember
from tirante.core.document.parts.arm import Arm
from tirante.core.document.parts.bracket import TabPair
from tirante.core.document.parts.link import Link
from tirante.core.errors import InputError
from tirante.core.geometry.convex import Prism
from tirante.core.job.bracket_map import as_tabs
from tirante.core.job.propose import propose
from tirante.core.job.room.around import mount_solid, moving_things, standing_things
from tirante.core.job.room.axes import Seen
from tirante.core.job.room.near import clears, least
from tirante.core.job.room.own import own_of, runs_of, swinging
from tirante.core.job.room.room import Line, Room, room_of
from tirante.core.job.room.shims import ROUGH, half_gap, necks_at
from tirante.core.job.studies import box_moved
from tirante.core.job.worked import Worked
from tirante.core.parts.bracket.families.place_view import plates_in_space
from tirante.core.parts.bracket.families.tab_pair import fitted_to
from tirante.core.parts.stands import MIRROR, At, plate_names, runs_through, stand_on
from tirante.core.suspension.cycle import solved_cycle


def bracket(design: Design, name: str) -> TabPair:
    return next(one for one in design.of_kind(TabPair) if one.name == name)


def lines(room: Room) -> list[Line]:
    return [line for joint in room.joints for line in joint.lines]


def line(room: Room, sort: str, to: str) -> Line:
    return next(one for one in lines(room) if one.sort == sort and one.to == to)


def with_block(
    design: Design, end: str, low: tuple[float, ...], high: tuple[float, ...], *, both: bool = False
) -> Design:
    """The job with one more thing to clear at an end."""
    block = Obstacle(name="test block", shape=Block(low=low, high=high), both_sides=both, wanted_mm=3.0)  # type: ignore[arg-type]
    ends = tuple(
        one.model_copy(update={"end": one.end.model_copy(update={"obstacles": (*one.end.obstacles, block)})}) if one.name == end else one
        for one in design.ends
    )  # fmt: skip
    return design.model_copy(update={"ends": ends})


def unshimmed(design: Design, name: str) -> Design:
    part = bracket(design, name)
    joints = tuple(one.model_copy(update={"shim_mm": 0.0}) if one.by == part.id else one for one in design.joints)
    return design.model_copy(update={"joints": joints})


def own_at(job: Worked, part_id: str) -> tuple[Any, Seen, HeldJoint]:
    part = job.part(part_id)
    assert part
    shape = as_tabs(part)
    assert shape
    joint = job.held_by(part_id)[0]
    at, stand = job.at_of(joint), part.own.stands[0]
    assert at
    assert stand
    own = own_of(shape[0], shape[1], part.own.joints[0], stand, at.at, footing=shape[2], names=plate_names(stand))
    return own, Seen(job, at), joint


@pytest.mark.parametrize(
    "name", ["Rear upper link, end A, tabs", "Rear upper link, end B, tabs", "Front damper, upper eye, tabs"]
)
def test_what_a_bracket_holds_stays_at_its_joint_however_the_end_moves(mounted: Design, name: str) -> None:
    """On the chassis and on the axle: seen from the body that the bracket is on its joint does not move, the other end does."""
    job = work(mounted)
    own, seen, _ = own_at(job, bracket(mounted, name).id)
    (held,) = moving_things(job, seen, own.at)
    assert held.ends
    off = [np.linalg.norm(end - own.at[:, None], axis=0) for end in held.ends]
    near, far = sorted(off, key=lambda one: float(one.max()))
    # at the edges of the travel places are taken straight between two positions: some hundredths
    assert float(near.max()) < 0.01
    assert float(np.ptp(far)) < 0.1 or "damper" in name
    run = held.ends[1] - held.ends[0]
    assert float(np.ptp(run, axis=1).max()) > 20.0


def test_a_tilted_head_comes_as_near_to_its_plate_as_half_its_width_and_its_radius_reach(mounted: Design) -> None:
    """By hand, from the box as it was solved: the head's corner stands W/2 cos τ + R sin τ off the middle of the gap."""
    design = unshimmed(mounted, "Panhard rod, end B, tabs")
    job = work(design)
    own, _, _ = own_at(job, bracket(design, "Panhard rod, end B, tabs").id)
    end = next(one for one in design.ends if one.name == "Rear")
    box = box_moved(job, end.id)
    side = box.done.left
    marks = next(one for one in side.assembled.links if one.template_name == "Panhard rod")
    where, axle = side.solved.system.where, side.assembled.axle_body
    run = where(side.solved.poses, marks.a, side.solved.drives) - where(side.solved.poses, marks.b, side.solved.drives)
    bolt = side.solved.system.direction(side.solved.poses, axle, (1.0, 0.0, 0.0))
    sine = np.abs((run * bolt).sum(axis=0)) / np.linalg.norm(run, axis=0)
    tilt = np.arcsin(sine.reshape(box.shape)[box.reach.reached].max())
    row = own.made.held.row
    gap = own.made.gap / 2 - row.housing_width_mm / 2 * np.cos(tilt) - row.head_diameter_mm / 2 * np.sin(tilt)
    seen = Seen(job, own.stand.at)
    head = swinging(own, runs_of(seen, own, moving_things(job, seen, own.at), ()), seen.lanes, hinge=False)[0]
    found = min(one.gap for plate in own.plates() if (one := least(head.solid, plate.solid, seen.lanes)))
    # the edge of the travel lies a little past the last position that was solved
    assert found == pytest.approx(gap, abs=0.05)
    assert 0.5 < found < 2.5


def test_an_obstacle_moved_past_the_figure_given_turns_what_stands_and_what_swings(mounted: Design) -> None:
    part = bracket(mounted, "Rear upper link, end A, tabs")
    ahead = (-1376.0, -20.0, 550.0), (-1340.0, 20.0, 570.0)  # before the plates, on the chassis as they are
    over = (-1600.0, -20.0, 596.0), (-1560.0, 20.0, 604.0)  # over the link, where it rises in bump
    for sort, block, way in (("stands", ahead, (-1.0, 0.0, 0.0)), ("swing", over, (0.0, 0.0, -1.0))):

        def moved(
            by: float, block: tuple[tuple[float, ...], ...] = block, way: tuple[float, ...] = way, sort: str = sort
        ) -> Line:
            low, high = (tuple(v + by * w for v, w in zip(corner, way, strict=True)) for corner in block)
            return line(room_of(work(with_block(mounted, "Rear", low, high)), part.id), sort, "test block")

        first = moved(0.0)
        assert first.gap_mm is not None
        assert first.gap_mm > 3.0
        assert first.state == "good"
        turn = first.gap_mm if sort == "stands" else None
        if turn is None:  # it rises: followed down until it meets
            clear, turn = 0.0, 60.0
            while turn - clear > 0.5:
                middle = (clear + turn) / 2
                clear, turn = (clear, middle) if moved(middle).state == "stop" else (middle, turn)
            assert 0.0 < clear < 55.0
            assert moved(turn - 0.6).state == "attention"
            continue
        assert moved(turn - 3.5).state == "good"
        assert moved(turn - 1.0).state == "attention"
        assert moved(turn - 1.0).gap_mm == pytest.approx(1.0, abs=0.05)  # the side of the plate leans a little
        assert moved(turn + 1.0).state == "stop"


def test_a_bolt_is_drawn_out_and_a_spanner_goes_on_until_something_stands_in_the_way_on_both_sides(
    mounted: Design,
) -> None:
    """A block beyond each end of the bolt comes down toward it: the ring first, then the way of the bolt's head, each by the figure given."""
    part = bracket(mounted, "Rear upper link, end A, tabs")
    job = work(mounted)
    own, _, _ = own_at(job, part.id)
    start = own.outer + 4.0

    def at(height: float) -> Room:
        # over the bolt at z 560, just outside the plates and on both sides
        low, high = (-1450.0, start, 560.0 + height), (-1390.0, start + 40.0, 590.0 + height)
        return room_of(work(with_block(mounted, "Rear", low, high, both=True)), part.id)

    def of(room: Room, what: str) -> Line:
        return next(one for one in lines(room) if one.what == what)

    ring = 0.75 * own.hardware.flats + 0.5
    corner = own.hardware.flats / np.sqrt(3)
    high = at(ring + 1.0)
    assert of(high, "the bolt").gap_mm == pytest.approx(ring + 1.0 - corner, abs=0.01)
    assert of(high, "spanner on the nut").state == "good"
    assert "is free all round" not in of(high, "spanner on the nut").told  # its handle never points at the block
    free = int(of(high, "spanner on the nut").told.split("through ")[1].split("°")[0])
    assert 35 <= free <= 180
    between = at((ring + corner) / 2)  # the bolt passes, ring and socket do not
    assert of(between, "the bolt").state == "good"
    assert of(between, "spanner on the nut").state == "stop"
    assert "neither spanner nor socket" in of(between, "spanner on the nut").told
    low = at(corner - 1.0)
    assert of(low, "the bolt").state == "stop"
    assert of(at(corner + 1.0), "the bolt").state == "good"
    # on one side alone it goes in from the other
    low_high = (-1450.0, start, 560.0), (-1390.0, start + 40.0, 590.0)
    one_side = room_of(work(with_block(mounted, "Rear", *low_high)), part.id)
    assert of(one_side, "the bolt").state == "good"
    assert "the right" in of(one_side, "the bolt").told


def test_a_torch_reaches_until_something_stands_along_the_foot(mounted: Design) -> None:
    part = bracket(mounted, "Rear upper link, end A, tabs")
    own, _, _ = own_at(work(mounted), part.id)
    x, _, z = own.stand.standing.foot

    def outside(off: float) -> list[Line]:
        low, high = (x - 60.0, own.outer + off, z - 60.0), (x + 60.0, own.outer + off + 10.0, z + 10.0)
        found = room_of(work(with_block(mounted, "Rear", low, high, both=True)), part.id)
        return [one for one in lines(found) if one.sort == "torch" and "outside" in one.what]

    assert all(one.state == "good" for one in outside(150.0))
    near = outside(8.0)
    assert any(one.state == "stop" and "test block" in one.told for one in near)


def test_the_gap_that_is_advised_clears_and_half_a_millimetre_less_does_not(mounted: Design) -> None:
    name = "Rear lower link, end B, tabs"
    design = unshimmed(mounted, name)
    part = bracket(design, name)
    bad = [one for one in lines(room_of(work(design), part.id)) if one.sort == "swing" and one.cure]
    assert bad
    assert bad[0].state == "stop"
    more = float(bad[0].cure.split("plates: ")[1].split(" mm more")[0])
    assert more > 2.0

    def with_shim(shim: float) -> list[Line]:
        joints = tuple(one.model_copy(update={"shim_mm": shim}) if one.by == part.id else one for one in design.joints)
        found = lines(room_of(work(design.model_copy(update={"joints": joints})), part.id))
        return [one for one in found if one.sort == "swing" and "plate" in one.to]

    assert all(one.state == "good" for one in with_shim(more))
    assert any(one.state == "attention" for one in with_shim(more - 0.5))


def test_the_height_that_is_advised_clears(mounted: Design) -> None:
    """The cross tube made so stout that the link's head nearly meets it; moved away by what is said, it is clear."""
    part = bracket(mounted, "Rear upper link, end A, tabs")
    tube = next(one for one in mounted.mounts if one.name == "Rear cross tube")

    def with_tube(z: float) -> tuple[Room, float]:
        shape = RoundMember(a=(-1420.0, 362.0, z), b=(-1420.0, -362.0, z), od_mm=112.0, wall_mm=3.2)
        mounts = tuple(one.model_copy(update={"shape": shape}) if one.id == tube.id else one for one in mounted.mounts)
        design = mounted.model_copy(update={"mounts": mounts})
        job = work(design)
        fitted = fitted_to(part, job.held_by(part.id)[0], job)
        job = work(with_part(design, fitted))
        return room_of(job, part.id), fitted.height.mm

    room, height = with_tube(640.0)
    short = next(one for one in lines(room) if one.sort == "swing" and one.to == "Rear cross tube")
    assert short.state != "good"
    wanted = float(short.cure.split("the joint ")[1].split(" mm")[0])
    assert wanted > height
    clear, now = with_tube(640.0 + wanted - height)
    assert now == pytest.approx(wanted, abs=0.02)
    after = [one for one in lines(clear) if one.sort == "swing" and one.to == "Rear cross tube"]
    assert all(one.state == "good" for one in after)
    assert after[0].gap_mm == pytest.approx(2.0, abs=0.11)


def test_what_is_proposed_leaves_room_for_what_it_holds_to_tilt(mounted: Design) -> None:
    design = bare(mounted)
    found = propose(work(design), SHOP, IDS)
    job = work(patched(design, found.patch))
    looked = 0
    for part in found.patch.parts:
        if not isinstance(part, TabPair):
            continue
        try:
            room = room_of(job, part.id)
        except InputError:  # on an arm, or on nothing that is entered
            continue
        looked += 1
        assert not [one for one in lines(room) if one.sort == "swing" and "plate" in one.to and one.state != "good"], part.name  # fmt: skip
    assert looked >= 10
    assert any(joint.shim_mm > 0 for joint in found.patch.joints)


@pytest.mark.parametrize(
    "name", ["Front lower arm, front pivot, tabs", "Rear lower link, end B, tabs", "Front upper arm, rear pivot, tabs"]
)
def test_the_gap_that_a_proposal_goes_by_is_the_least_that_clears(mounted: Design, name: str) -> None:
    """The sum over round pieces against the distances of the solids themselves, the plates moved apart until they clear."""
    design = unshimmed(mounted, name)
    job = work(design)
    own, seen, joint = own_at(job, bracket(design, name).id)
    runs = runs_of(seen, own, moving_things(job, seen, own.at), necks_at(job, joint))
    hinge = own.stand.at.hinged
    pieces = swinging(own, runs, seen.lanes, hinge=hinge)

    def enough(half: float) -> bool:
        plates = own.plates(half - own.made.gap / 2)
        return all(clears(one.solid, plate.solid, seen.lanes, 2.0) for one in pieces for plate in plates)

    low, high = own.made.gap / 2, 60.0
    assert not enough(low)
    while high - low > 0.02:
        middle = (low + high) / 2
        low, high = (low, middle) if enough(middle) else (middle, high)
    found = half_gap(own, runs, hinge=hinge)
    # never less by more than what is added for outlines in steps; more where a piece passes beside the plates' furthest corner
    assert -ROUGH < found - high < 2.5


def test_no_bracket_is_proposed_on_what_its_link_would_run_through(mounted: Design) -> None:
    """The post that the Panhard rod's bracket stands on put to the joint's other side: the rod would go through it."""
    design = bare(mounted)
    post = next(one for one in design.mounts if one.name == "Panhard post")
    moved = post.shape.model_copy(update={"a": (-2190.0, 388.0, 585.0), "b": (-2190.0, 388.0, 340.0)})
    mounts = tuple(one.model_copy(update={"shape": moved}) if one.id == post.id else one for one in design.mounts)
    found = propose(work(design.model_copy(update={"mounts": mounts})), SHOP, IDS)
    told = next(one for one in found.every if (one.place.of, one.place.name) == ("Panhard rod", "end A"))
    assert told.part is None
    assert "straight through Panhard post" in told.told


def test_the_bolt_of_a_rod_end_in_an_arm_stands_square_to_the_arms_side(mounted: Design) -> None:
    """Along the hinge its ball would lie tilted by as much as the side leans to it, always."""
    arm = next(one for one in mounted.of_kind(Arm) if one.pivots == "rod ends")
    job = work(mounted)
    points = {name: np.array(at) for name, at in job.ends[arm.end_id].points.items()}
    hinge = points["upper_front"] - points["upper_rear"]
    for which in ("front", "rear"):
        at = job.at_of(HeldJoint(id=IDS[0], held=PivotOfArm(part=arm.id, pivot=which)))  # type: ignore[arg-type]
        assert at
        assert at.bolt is not None
        side = points["upper_outer"] - points[f"upper_{which}"]
        assert float(at.bolt @ side) == pytest.approx(0.0, abs=1e-9)
        assert float(np.cross(hinge, side) @ at.bolt) == pytest.approx(0.0, abs=1e-6)  # in the arm's plane
        assert 10.0 < np.degrees(np.arccos(abs(at.bolt @ hinge) / np.linalg.norm(hinge))) < 30.0


def test_a_link_leaves_its_joint_by_shank_nut_and_tube_as_it_is_made(mounted: Design) -> None:
    """Their lengths against the link's own stack: they follow each other without a gap, to the tube's face."""
    job = work(mounted)
    own, _, joint = own_at(job, bracket(mounted, "Rear lower link, end A, tabs").id)
    steps = necks_at(job, joint)
    link = job.part(joint.held.part)  # type: ignore[union-attr]
    assert link
    state, parts = link.own[0].stack.ends[0], link.own[0].assembly.ends[0]
    assert [round(one.start, 6) for one in steps[1:]] == [round(one.stop, 6) for one in steps[:-1]]
    assert steps[0].start == own.made.held.row.head_diameter_mm / 2
    assert steps[-1].stop == pytest.approx(state.face_from_centre)
    nut = next(one for one in steps if "nut" in one.what)
    assert nut.stop - nut.start == pytest.approx(parts.nut.height_mm)
    assert nut.start == pytest.approx(parts.joint.eye_to_shank_end_mm - state.engagement - parts.nut.height_mm)
    assert nut.radius == pytest.approx(1.5 * parts.thread.major / np.sqrt(3), rel=1e-3)  # hexagon of 1 1/2 D


def test_what_stands_on_the_right_alone_meets_the_right_one_of_a_pair(mounted: Design) -> None:
    part = bracket(mounted, "Rear lower link, end A, tabs")
    own, _, _ = own_at(work(mounted), part.id)
    x, y, z = own.at
    low, high = np.array([x + 60.0, y - 20.0, z - 10.0]), np.array([x + 80.0, y + 20.0, z + 10.0])
    ways = {}
    for side, flip in (("left", np.ones(3)), ("right", MIRROR)):
        a, b = sorted((low * flip, high * flip), key=lambda one: float(one[1]))
        corners = tuple(np.minimum(a, b)), tuple(np.maximum(a, b))
        ways[side] = line(room_of(work(with_block(mounted, "Rear", *corners)), part.id), "stands", "test block").gap_mm
    assert ways["left"] == pytest.approx(ways["right"], abs=1e-3)


@pytest.mark.parametrize(
    ("aim", "through"),
    [
        ((-600.0, 0.0, 0.0), True),
        ((600.0, 0.0, 0.0), False),
        ((-40.0, 0.0, -300.0), False),
        ((-300.0, 0.0, -40.0), True),
    ],
)
def test_what_a_flat_holds_goes_through_it_where_it_crosses_it_near_the_foot(
    aim: tuple[float, float, float], through: bool
) -> None:
    """A face that looks ahead, 50 mm behind the joint: what leaves the joint rearward crosses it, what leaves it steeply downward only far below."""
    shape = FlatMember(through=(0.0, 0.0, 0.0), normal=(1.0, 0.0, 0.0), wall_mm=5.0)
    mount = Mount(id=IDS[0], name="web", shape=shape, both_sides=False)
    bolt, pull = np.array([0.0, 1.0, 0.0]), np.array(aim)
    at = At(end_id=None, body="ground", at=np.array([50.0, 10.0, 20.0]), bolt=bolt, bolt_told="", pull=pull)
    assert bool(runs_through(stand_on(mount, at))) is through


def test_what_is_held_and_is_nowhere_in_the_mechanism_has_its_swing_named_as_not_looked_at(
    mounted: Design, monkeypatch: pytest.MonkeyPatch
) -> None:
    part = bracket(mounted, "Front upper arm, front pivot, tabs")
    job = work(mounted)
    assert not any("how that swings" in one for one in room_of(job, part.id).not_looked_at)
    # seen from the mirrored place, as a right corner's own joint is, nothing of the left corner ends there
    own, seen, _ = own_at(job, part.id)
    assert not runs_of(seen, replace(own, at=own.at * MIRROR), moving_things(job, seen), ())
    monkeypatch.setattr("tirante.core.job.room.room.moving_things", lambda *_: [])
    told = room_of(job, part.id).not_looked_at
    assert any("front pivot: what it holds is not found at its joint" in one for one in told)


def test_what_turns_fast_stays_at_its_joint_where_the_travel_ends(mounted: Design) -> None:
    """Seen from a rocker, whose push rod goes round by degrees from one position to the next: put together there, not taken straight."""
    job = work(demo("dunlin"))
    rod = next(one for one in job.design.of_kind(Link) if one.name == "Front push rod")
    at = job.at_of(HeldJoint(id=IDS[0], held=EndOfLink(part=rod.id, end="b")))
    assert at
    assert at.body == "rocker"
    seen = Seen(job, at)
    held = next(one for one in moving_things(job, seen, at.at) if one.name == "push rod")
    assert held.ends
    near, far = sorted(
        (np.linalg.norm(end - at.at[:, None], axis=0) for end in held.ends), key=lambda off: float(off.max())
    )
    assert float(near.max()) < 1e-6
    assert float(np.ptp(far)) < 1e-6
    assert seen.lanes > int(seen.box.reach.reached.sum())  # the ends of the travel are among them


@pytest.mark.parametrize("side", [1.0, -1.0])
def test_a_bracket_of_the_right_of_a_beam_stands_on_the_right_body(side: float) -> None:
    """The track rod's end on either knuckle of a beam, a tube beside it that moves with the knuckle: seen from there the tube stays where it is."""
    job = work(demo("plover"))
    rod = next(one for one in job.design.of_kind(Link) if one.name == "Front track rod")
    at = job.at_of(HeldJoint(id=IDS[0], held=EndOfLink(part=rod.id, end="a" if side > 0 else "b")))
    assert at
    assert np.sign(at.at[1]) == side
    seen = Seen(job, at)
    left, right = (seen.assembled.body_on(at.body, one) for one in ("left", "right"))
    assert left != right
    assert seen.body == (left if side > 0 else right)
    (held,) = moving_things(job, seen, at.at)
    assert held.ends
    assert min(float(np.abs(end - at.at[:, None]).max()) for end in held.ends) < 1e-6
    x, y, z = (float(v) for v in at.at * np.array([1.0, side, 1.0]))
    shape = RoundMember(a=(x + 70.0, y, z - 100.0), b=(x + 70.0, y, z + 100.0), od_mm=40.0)
    mount = Mount(id=IDS[1], name="arm", shape=shape, end_id=at.end_id, body=at.body)
    for mirrored, still in ((side < 0, True), (side > 0, False)):
        thing = mount_solid(seen, mount, mirrored=mirrored)
        assert thing
        spread = float(np.ptp(np.broadcast_to(thing.solid.middle, (3, seen.lanes)), axis=1).max())  # type: ignore[union-attr]
        assert (spread < 1e-9) is still


def test_what_no_shim_clears_is_told_with_the_proposal(mounted: Design, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("tirante.core.job.propose.MOST_SHIM", 2.0)
    found = propose(work(bare(mounted)), SHOP, IDS)
    told = {(one.place.of, one.place.name): one.told for one in found.every}
    assert "strikes its plates as it tilts: " in told["Rear lower link", "end B"]
    assert "strikes" not in told["Panhard rod", "end B"]


def test_what_is_left_out_of_the_room_stands_there_by_name(mounted: Design) -> None:
    job = work(mounted)
    low = bracket(mounted, "Rear lower link, end A, tabs")
    assert low.holes is not None
    assert "its other holes: the joint is looked at where it is, in hole 1" in room_of(job, low.id).not_looked_at
    folded = next(one for one in mounted.parts if one.kind == "folded_u")
    room = room_of(job, folded.id)
    assert not any("bends" in one for one in room.not_looked_at)
    assert {one.what for one in lines(room) if one.sort == "torch"} == {"a torch along the edges of its base", "a torch along the grooves under its bends"}  # fmt: skip
    on_spread = bracket(mounted, "Rear upper link, end A, tabs")
    assert any("where the spread plate ends" in one for one in room_of(job, on_spread.id).not_looked_at)


def test_on_an_arm_its_other_tubes_stand_round_a_bracket(mounted: Design) -> None:
    """The damper's lower bracket on the lower arm: its plates to the arm's other tubes, sampled point by point at ride height."""
    job, tab = work(mounted), bracket(mounted, "Front damper, lower eye, tabs")
    part = job.part(tab.id)
    assert part is not None
    (stand,), (made,) = part.own.stands, part.own.joints
    room = room_of(job, tab.id)
    (joint,) = room.joints
    line = next(one for one in joint.lines if one.what == "one of its plates" and one.to.endswith("another tube"))
    points = mounted.ends[0].end.points
    arm = next(p for p in mounted.parts if isinstance(p, Arm) and p.body == "lower_arm")
    front, rear, outer = (np.array(points[f"lower_{at}"]) for at in ("front", "rear", "outer"))
    assert arm.brace_at is not None
    across = tuple(pivot + arm.brace_at * (outer - pivot) for pivot in (front, rear))
    od = next(p for p in job.parts if p.saved.id == arm.id).own.tube.od_mm
    sampled = []
    for corners, half in plates_in_space(tab, part.own.outlines, made.gap, stand):
        rims = np.concatenate([corners[:, None] + s * (np.roll(corners, -1, axis=0) - corners)[:, None] for s in np.linspace(0, 1, 40)], axis=1).reshape(-1, 3)  # fmt: skip
        faces = np.concatenate([rims + half, rims - half])
        for a, b in ((front, outer), across):
            share = np.clip((faces - a) @ (b - a) / ((b - a) @ (b - a)), 0.0, 1.0)
            sampled.append(float(np.linalg.norm(faces - a - share[:, None] * (b - a), axis=1).min()) - od / 2)
    assert line.gap_mm == pytest.approx(min(sampled), abs=0.1)
    assert min(sampled) > 0
    # its own tube is what it stands on, and no other
    assert stand.mount.name == f"{arm.name}, rear tube"
    assert not [one for one in joint.lines if one.state == "stop"]
    # the arm is worked out with another brace, further out: now its plates stand in it
    nearer = arm.model_copy(update={"brace_at": 0.72})
    again = room_of(work(with_part(mounted, nearer)), tab.id)
    assert any(one.state == "stop" and one.to.endswith("another tube") for found in again.joints for one in found.lines)


def test_what_cannot_be_looked_at_says_why(mounted: Design) -> None:
    job = work(mounted)
    with pytest.raises(InputError, match="stands on no mount"):
        room_of(job, bracket(mounted, "Front tie rod, tabs").id)


def test_a_joint_that_tilts_further_than_it_may_is_told_in_room_headline_and_proposal(mounted: Design) -> None:
    """The rear damper's upper eye: how far its line leaves the plates' plane, from the mechanism solved at every corner of the box."""
    job, tab = work(mounted), bracket(mounted, "Rear damper, upper eye, tabs")
    part = job.part(tab.id)
    assert part is not None
    (stand,), (joint,) = part.own.stands, job.held_by(tab.id)
    room = room_of(job, tab.id)
    line = next(one for found in room.joints for one in found.lines if one.told.startswith("the joint tilts"))
    told = float(line.told.split()[3].rstrip("°"))
    end, ends = mounted.ends[1], job.ends[mounted.ends[1].id]
    damper = ends.damper
    assert damper is not None
    assert line.state == "good"
    assert f"of the {damper.eyes[0].tilt_limit_deg:g}°" in line.told  # type: ignore[union-attr]
    rows = np.array([(t, r, 0.0) for t in np.linspace(-60.0, 60.0, 13) for r in (-3.0, 0.0, 3.0)]).T
    solved = solved_cycle(job.template(end.id), ends, rows)
    side = solved.left
    good = side.solved.status == 0
    a, b = (side.solved.system.where(side.solved.poses, side.assembled.place(p, "left"), side.solved.drives) for p in damper.places)  # fmt: skip
    run = np.broadcast_to(b - a, (3, rows.shape[1]))[:, good]
    angles = np.degrees(np.arcsin(np.abs(stand.standing.bolt @ run) / np.linalg.norm(run, axis=0)))
    assert 0.8 * told < angles.max() < told + 3.0  # those corners are not all of the box, and some lie past its stops
    assert told > angles[np.argmin(np.abs(rows[:, good]).sum(axis=0))]  # and further than at ride height

    def limited(deg: float) -> Design:
        eye = damper.eyes[0].model_copy(update={"tilt_limit_deg": deg})  # type: ignore[union-attr]
        changed = end.end.model_copy(update={"damper": end.end.damper.model_copy(update={"eye_a": eye})})  # type: ignore[union-attr]
        return mounted.model_copy(update={"ends": (mounted.ends[0], end.model_copy(update={"end": changed}))})

    # between what it leans at rest and what it comes to: Room stops it; under what it leans at rest, the bracket itself does
    past = room_of(work(limited(told - 1.0)), tab.id)
    stopped = next(one for found in past.joints for one in found.lines if one.told.startswith("the joint tilts"))
    assert (stopped.state, bool(stopped.cure)) == ("stop", True)
    assert room_of(work(limited(told + 0.1)), tab.id).state != "good"  # nearly there is told too
    at_rest = work(limited(5.0)).part(tab.id)
    assert at_rest is not None
    assert [fault.field for fault in at_rest.faults] == ["bolt_axis"]
    # and what is proposed says it
    free = limited(told - 1.0)
    free = free.model_copy(update={"parts": tuple(p for p in free.parts if p.id != tab.id), "joints": tuple(j.model_copy(update={"by": None, "mount": None}) if j.id == joint.id else j for j in free.joints)})  # fmt: skip
    found = propose(work(free), SHOP, IDS, (end.id,))
    told_of = next(one.told for one in found.every if one.place.held == joint.held)
    assert "further than it may" in told_of


def test_what_a_folded_bracket_lies_on_its_mount_with_stands_in_the_room_of_others(mounted: Design) -> None:
    """Its base as another bracket sees it: between its ears, from the mount's face up by the plate's thickness."""
    job = work(mounted)
    own, seen, _ = own_at(job, bracket(mounted, "Panhard rod, end B, tabs").id)
    folded = next(one for one in mounted.parts if one.kind == "folded_u")
    part = job.part(folded.id)
    assert part
    (stand,), (made,) = part.own.stands, part.own.joints
    body = seen.body_at(stand.at.body, stand.at.at)
    assert body is not None
    found = [
        one.solid
        for one in standing_things(job, seen, own.tab.id, (own.stand.mount.id, own.stand.mirrored), pair=False)
        if one.name == folded.name
    ]
    assert len(found) == 5  # two ears, the base, and what is in either bend
    base = found[2]
    assert isinstance(base, Prism)
    up = seen.turned(body, stand.standing.y)
    low, high = (
        seen.carried(body, stand.standing.foot + z * stand.standing.y) for z in (0.0, part.own.flat.bend.thickness)
    )
    assert ((low - base.at) * up).sum(axis=0) == pytest.approx(-base.half)
    assert ((high - base.at) * up).sum(axis=0) == pytest.approx(base.half)
    assert np.ptp(base.outline[:, 1]) == pytest.approx(made.gap)
