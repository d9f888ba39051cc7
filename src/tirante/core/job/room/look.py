"""The room round any bracket that has some: a pair of plates or ears, a pad, or a plate that lies on its face."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from tirante.core.brackets.tools import TORCH_LENGTH
from tirante.core.document.joints import HeldJoint
from tirante.core.document.parts.lapped_plate import LappedPlate
from tirante.core.document.parts.rail_sleeve import RailSleeve
from tirante.core.errors import InputError
from tirante.core.geometry.convex import Cylinder
from tirante.core.job.bracket_map import as_tabs, plates_in_place
from tirante.core.job.room.around import OTHER_SIDE, Thing, moving_things, of_its_arm, standing_things, tyre_things
from tirante.core.job.room.axes import Seen
from tirante.core.job.room.near import TOLD, comes_within
from tirante.core.job.room.own import NEAR_JOINT, Piece, holds, own_mount, swinging
from tirante.core.job.room.plates import (
    HELD,
    PAD,
    WEB,
    OwnLapped,
    is_held,
    member_under,
    own_lapped,
    own_sleeve,
    pieces_of,
)
from tirante.core.job.room.reach import EASE, Fixed, held_still
from tirante.core.job.room.room import (
    NOT_LOOKED_AT,
    SPANNER,
    JointRoom,
    Line,
    Room,
    bolt_lines,
    each_once,
    fillet_lines,
    in_order,
    near_line,
    room_of,
    runs_told,
    seen_at,
    spanner_lines,
    stands,
    swings,
    tilted,
    tools,
    worst_of_several,
)
from tirante.core.job.worked import Worked
from tirante.core.mechanism.model import GROUND
from tirante.core.parts.bracket.families.lapped import LappedMade
from tirante.core.parts.bracket.families.pad import Flat
from tirante.core.parts.bracket.families.pad_kind import PadMade
from tirante.core.parts.bracket.families.rail_sleeve import SleeveMade
from tirante.core.parts.part import Part
from tirante.core.parts.registry import HOLDERS, kind_of
from tirante.core.parts.stands import At, Stand

Array = NDArray[np.float64]
OF_PADS = "bolts of what lies on it, above the pad, and what it strikes or is struck by"


def look_round(job: Worked, part_id: str) -> Room:
    """Look round a bracket of any kind.

    Args:
        job: worked out.
        part_id: of it.

    Raises:
        InputError: it cannot be looked at, with the reason.
    """
    part = job.part(part_id)
    if part is not None and (housings := kind_of(part.saved).housings(part.saved, job)):
        return _round_a_housing(job, part, housings)
    if part is None or as_tabs(part) is not None or not isinstance(part.own, LappedMade | SleeveMade | PadMade):
        return room_of(job, part_id)
    found: list[JointRoom] = []
    missing: list[str] = []
    placed = plates_in_place(job, part)
    joints = [joint for joint in job.held_by(part_id) if job.at_of(joint) is not None]
    if isinstance(part.own, LappedMade | SleeveMade):
        of: Sequence[tuple[HeldJoint, str, Stand | None]] = [
            (joint, made.held.name, stand) for joint, made, stand in zip(job.held_by(part_id), part.own.joints, part.own.stands, strict=True)
        ]  # fmt: skip
        missing += [f"{name}: it is on no mount, so where it is in the car is not known" for _, name, stand in of if stand is None]  # fmt: skip
        joints = [joint for joint, _, stand in of if stand is not None]
    names = _names(part, len(placed))
    for which, (at, flats) in enumerate(placed):
        if at.end_id is None:
            missing.append(f"{names[which]}: its part is tied to no suspension end, so how it moves is not known")
            continue
        seen = seen_at(job, at, names[which], missing)
        if seen is None:
            continue
        lines = _lapped_lines(job, part, seen, which, joints[which], missing) if isinstance(part.own, LappedMade | SleeveMade) else _pad_lines(job, part, seen, at, flats, joints[which])  # fmt: skip
        found.append(JointRoom(joint=names[which], lines=tuple(in_order(lines))))
    if not found:
        lacks = ". ".join(missing) or "Where it stands in the car is not known"
        raise InputError(f"The room round it cannot be looked at yet. {lacks}.", code="missing", fields=("part_id",))
    also = NOT_LOOKED_AT if isinstance(part.own, LappedMade | SleeveMade) else (OF_PADS, *NOT_LOOKED_AT[:-1])
    return Room(joints=tuple(found), not_looked_at=(*missing, *also))


IN_HOUSING = "its housing"
OF_HOUSINGS = ("bolts of its feet, and spanners on them: at its pads", "what turns its pinion: shaft and joints", "its bellows as wider than its housing")  # fmt: skip


def _round_a_housing(job: Worked, part: Part, housings: Sequence[tuple[Array, Array, float]]) -> Room:
    """What stands still on the chassis as round bars, a rack's housing: against all that stands or moves near it, but what it moves itself and the pads that carry it."""
    saved = part.saved
    bearing = kind_of(saved).bearings(saved, job)[0]
    missing: list[str] = []
    at = job.at_of(HeldJoint(id=saved.id, held=bearing.held))
    seen = seen_at(job, at, part.name, missing) if at is not None and at.end_id is not None else None
    if seen is None:
        raise InputError(f"The room round it cannot be looked at yet. {'. '.join(missing) or 'Where it is in the car is not known'}.", code="missing", fields=("part_id",))  # fmt: skip
    ends = [np.asarray(seen.carried(GROUND, end)) for one in housings for end in one[:2]]
    pieces = [Piece(name=IN_HOUSING, solid=Cylinder(a, b, radius)) for a, b, radius in ((ends[2 * i], ends[2 * i + 1], one[2]) for i, one in enumerate(housings))]  # fmt: skip
    carried_by = {other.saved.name for other in job.parts if getattr(other.saved, "bar", "") == saved.id}

    def is_moved_by_it(thing: Thing) -> bool:
        return thing.ends is not None and any(
            float(np.linalg.norm(end[:, min(seen.ride, end.shape[1] - 1)] - here[:, min(seen.ride, here.shape[1] - 1)])) < HELD
            for end in thing.ends for here in ends
        )  # fmt: skip

    standing = standing_things(job, seen, saved.id, ("", False), pair=False)
    things = [
        *(thing for thing in standing if thing.name.removesuffix(OTHER_SIDE) not in carried_by),
        *(thing for thing in (*moving_things(job, seen), *tyre_things(seen)) if not is_moved_by_it(thing)),
    ]  # fmt: skip
    pairs = [(piece.name, piece.solid) for piece in pieces]
    lines = []
    for thing in things:
        still = thing.body == seen.body
        worst = worst_of_several(pairs, thing.solid, 1 if still else seen.lanes)
        if worst:
            wanted = EASE if still and thing.sort != "obstacle" else thing.wanted
            lines.append(near_line(worst[0], thing.name, worst[1], wanted, None if still else seen, "stands"))
    room = JointRoom(joint=part.name, lines=tuple(in_order(each_once(lines))))
    return Room(joints=(room,), not_looked_at=(*missing, *OF_HOUSINGS, *NOT_LOOKED_AT[2:-1]))


def reach_of(pieces: Sequence[Piece], at: Array) -> float:
    """From a place to the furthest of some pieces, about [mm].

    Args:
        pieces: as solids.
        at: the place (3).
    """
    return max(float(np.linalg.norm(piece.solid.middle[:, 0] - at)) + piece.solid.reach for piece in pieces)


def _names(part: Part, count: int) -> list[str]:
    if isinstance(part.own, LappedMade | SleeveMade):
        return [
            made.held.name for made, stand in zip(part.own.joints, part.own.stands, strict=True) if stand is not None
        ]
    return [part.name] if count == 1 else [f"{part.name}, place {i + 1}" for i in range(count)]


def _lapped_lines(job: Worked, part: Part, seen: Seen, which: int, joint: HeldJoint, missing: list[str]) -> list[Line]:
    saved, made = part.saved, part.own
    assert isinstance(made, LappedMade | SleeveMade)
    one, stand = [(j, s) for j, s in zip(made.joints, made.stands, strict=True) if s is not None][which]
    if isinstance(saved, RailSleeve):
        own: OwnLapped = own_sleeve(saved, one, stand)
    else:
        assert isinstance(saved, LappedPlate)
        assert isinstance(made, LappedMade)
        own = own_lapped(saved, made, one, stand)
    moving = moving_things(job, seen)
    runs = runs_told(job, own, (joint, one.held.name), (seen, moving), missing)
    swung = swinging(own, runs, seen.lanes, hinge=stand.at.hinged)
    others = [thing for thing in moving if not holds(seen, own, thing) and thing.body != seen.body]
    held = {thing.body for thing in moving if holds(seen, own, thing)}
    standing = standing_things(job, seen, saved.id, (stand.mount.id, stand.mirrored), pair=saved.side == "pair")
    mount = own_mount(seen, own)
    near = [
        thing for thing in standing if thing.body not in held and comes_within(thing.solid, own.at, NEAR_JOINT + TOLD)
    ]
    beside = [thing for thing in standing if comes_within(thing.solid, own.at, own.reach + TOLD)]
    moved = [thing for thing in (*others, *tyre_things(seen)) if comes_within(thing.solid, own.at, own.reach + TOLD)]
    reached = [thing for thing in (*standing, *others) if comes_within(thing.solid, own.at, own.tools_reach + TOLD)]
    bench = [thing for thing in standing if thing.body == seen.body and comes_within(thing.solid, own.at, own.reach + TORCH_LENGTH + TOLD)]  # fmt: skip
    kind = HOLDERS[saved.kind]
    torch = fillet_lines(kind.fillets(saved, one, stand), _welded_by(own.plates(), [*bench, mount]), {thing.name for thing in bench if thing.sort == "bracket"})  # fmt: skip
    return [
        *tilted(own, seen, runs), *swings(own, seen, swung, mount, near), *stands(own, seen, mount, beside, moved), *tools(own, seen, swung, mount, reached), *torch,
    ]  # fmt: skip


def _welded_by(pieces: Sequence[Piece], things: Sequence[Thing]) -> list[Fixed]:
    """What stands round fillets while they are laid; what they are laid on last, so that what else is in the way is named."""
    return [*(Fixed(name=one.name, solid=one.solid) for one in pieces), *(Fixed(name=one.name, solid=one.solid) for one in things)]  # fmt: skip


def _pad_lines(job: Worked, part: Part, seen: Seen, at: At, flats: Sequence[Flat], joint: HeldJoint) -> list[Line]:
    """A pad's plates against all that is near; what stands still on the same body, but what it stands on."""
    pieces = pieces_of(flats, PAD)
    on, mirrored, under = member_under(job, seen, at, joint.mount)
    moving = moving_things(job, seen)
    standing = standing_things(job, seen, part.saved.id, (on, mirrored), pair=part.saved.side == "pair")
    its_arm: list[Thing] = []
    found = job.foot_of(joint)
    if found is not None and job.mount_of(joint) is None:
        mount = job.member_at(joint)
        if mount is not None:
            its_arm = of_its_arm(job.design, mount, moving, seen)
            standing += its_arm
    others = [thing for thing in (*moving, *tyre_things(seen)) if thing.body != seen.body and not is_held(thing, at, seen.ride)]  # fmt: skip
    pairs = [(piece.name, piece.solid) for piece in pieces]
    lines = []
    for thing in (*standing, *others):
        still = thing.body == seen.body
        worst = worst_of_several(pairs, thing.solid, 1 if still else seen.lanes)
        if worst:
            wanted = EASE if still and thing.sort != "obstacle" else thing.wanted
            lines.append(near_line(worst[0], thing.name, worst[1], wanted, None if still else seen, "stands"))
    made = part.own
    assert isinstance(made, PadMade)
    bench = [thing for thing in standing if thing.body == seen.body and comes_within(thing.solid, at.at, reach_of(pieces, at.at) + TORCH_LENGTH)]  # fmt: skip
    lines = each_once(lines)
    webs = [piece for piece in pieces if piece.name == WEB]
    # other brackets, and other tubes of the arm that it is on, may be put there after it
    after = {thing.name for thing in (*its_arm, *(thing for thing in bench if thing.sort == "bracket"))}
    welds = fillet_lines(made.fillets, _welded_by(webs, [*bench, *([under] if under else [])]), after)
    lines += [replace(line, where="before its plate is laid on them") for line in welds]
    if made.hexagons or made.ways:
        near = [thing for thing in (*standing, *others, *([under] if under else [])) if comes_within(thing.solid, at.at, reach_of(pieces, at.at) + SPANNER)]  # fmt: skip
        own = [Fixed(name=piece.name, solid=piece.solid, own=True) for piece in pieces]

        def things_at(lane: int) -> list[Fixed]:
            return [*own, *(held_still(thing.name, thing.solid, lane, seen.lanes) for thing in near)]

        lines += bolt_lines(made.ways, things_at, seen)
        lines += spanner_lines(made.hexagons, things_at, seen)
    return lines
