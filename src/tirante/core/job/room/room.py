"""The room round a bracket over the whole box of its end, and what gives more of it where there is too little.

Everything is looked at as it is made: plates as they are cut, the link with its nut and tube, the end at every position that is reached
before something ends its travel. What gives more room is tried by the same distances before it is said.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from tirante.core.brackets.tools import RING_TURN, TORCH_LENGTH, Fillet
from tirante.core.document.joints import HeldJoint
from tirante.core.document.parts.bracket import TabPair
from tirante.core.errors import InputError
from tirante.core.geometry.convex import Cylinder, Prism, Solid, Wall
from tirante.core.job.bracket_map import FLAT, as_tabs
from tirante.core.job.room.around import WANTED, Thing, moving_things, of_its_arm, standing_things, tyre_things
from tirante.core.job.room.axes import Seen, seen_of
from tirante.core.job.room.near import TOLD, Least, clears, comes_within, least
from tirante.core.job.room.own import NEAR_JOINT, Own, OwnSingle, Piece, holds, own_mount, own_of, runs_of, swinging
from tirante.core.job.room.reach import (
    EASE,
    Fixed,
    Path,
    Turn,
    Weld,
    bolt_path,
    held_still,
    torch_along,
    torch_on,
    turn_on,
)
from tirante.core.job.room.shims import furthest_tilt, necks_at
from tirante.core.job.room.spanners import Bolts, Hexagons, drawn, hardest
from tirante.core.job.worked import Worked
from tirante.core.parts.bracket.families.base_slot import WITHIN, longest, widest
from tirante.core.parts.bracket.families.footing import Footing
from tirante.core.parts.bracket.families.hole_pattern import slotted
from tirante.core.parts.bracket.families.searched import SearchedBracket
from tirante.core.parts.link.neck import Neck
from tirante.core.parts.part import Part
from tirante.core.parts.registry import kind_of
from tirante.core.parts.stands import At, Stand, facing, plate_names
from tirante.core.quantities import or_less, or_more

Array = NDArray[np.float64]
State = Literal["good", "attention", "stop"]
MOST_GAP, MOST_HEIGHT = 60.0, 150.0  # mm that are tried for more room
FINE = 0.05  # mm, to which what clears is found


@dataclass(frozen=True, slots=True, kw_only=True)
class Line:
    """One thing that was looked at."""

    sort: Literal["swing", "stands", "bolt", "spanner", "torch"]
    what: str
    to: str
    gap_mm: float | None  # None: not a distance
    wanted_mm: float
    where: str  # in the box; empty: at all times
    state: State
    told: str  # what it comes to
    cure: str = ""  # tried, or what is to be changed where nothing was tried


@dataclass(frozen=True, slots=True, kw_only=True)
class JointRoom:
    """The room at one joint of a bracket."""

    joint: str
    lines: tuple[Line, ...]  # the worst first


@dataclass(frozen=True, slots=True, kw_only=True)
class Room:
    """The room round a bracket."""

    joints: tuple[JointRoom, ...]
    not_looked_at: tuple[str, ...]

    @property
    def state(self) -> State:
        """The worst of all."""
        every = {line.state for one in self.joints for line in one.lines}
        return "stop" if "stop" in every else "attention" if "attention" in every else "good"


NOT_LOOKED_AT = (
    "what moves at the other ends, and what is to be cleared there",
    "pads, gussets, and brackets that stand on no mount and on no tube of an arm",
    "hoses, cables and all that is not entered",
    "parts that give under load: everything is stiff here",
    "the fillets’ own thickness",
    "a handle that is cranked, a torch with a bent neck",
)


def room_of(job: Worked, part_id: str) -> Room:
    """Look round a bracket.

    Args:
        job: worked out.
        part_id: of a tab pair or folded bracket.

    Raises:
        InputError: it cannot be looked at, with the reason.
    """
    part = job.part(part_id)
    shape = as_tabs(part) if part is not None else None
    if part is None or shape is None:
        lacks = f": {part.faults[0].message}" if part is not None and part.faults else "."
        raise InputError(
            f"The room round it is looked at once it is worked out{lacks}", code="missing", fields=("part_id",)
        )
    tab, outlines, footing = shape
    found, missing = [], []
    for made, stand, joint in zip(part.own.joints, part.own.stands, job.held_by(part_id), strict=True):
        lacking = _lacking(job, stand, joint)
        if lacking:
            missing.append(f"{made.held.name}: {lacking}")
            continue
        assert stand is not None
        at = job.at_of(joint)
        assert at is not None
        own = own_of(tab, outlines, made, stand, at.at, footing=footing, names=plate_names(stand))
        seen = seen_at(job, at, made.held.name, missing)
        if seen is None:
            continue
        moving = moving_things(job, seen)
        runs = runs_told(job, own, (joint, made.held.name), (seen, moving), missing)
        found.append(JointRoom(joint=made.held.name, lines=tuple(_at_joint(job, part, own, seen, (moving, runs)))))
    if not found:
        raise InputError(
            f"The room round it cannot be looked at yet. {'. '.join(missing)}.", code="missing", fields=("part_id",)
        )
    return Room(joints=tuple(found), not_looked_at=(*missing, *_also(job, part), *NOT_LOOKED_AT))


def seen_at(job: Worked, at: At, name: str, missing: list[str]) -> Seen | None:
    """The positions of a joint's end, what of them is not looked at told; None where there are none.

    Args:
        job: worked out.
        at: the joint, tied to an end.
        name: of it, in words.
        missing: where it is told.
    """
    seen = seen_of(job, at)
    if seen.corners_differ:
        missing.append(f"{name}: the right corner, which differs from the left one")
    if not seen.reached:
        missing.append(f"{name}: its end gets nowhere from ride height, see Cycle")
        return None
    return seen


def runs_told(
    job: Worked, own: Own, of: tuple[HeldJoint, str], among: tuple[Seen, Sequence[Thing]], missing: list[str]
) -> list[tuple[Array, list[Neck]]]:
    """What is held at a joint, run by run; told where none is found, as of a strap, or of the right side's own corner.

    Args:
        job: worked out.
        own: the bracket.
        of: the joint, and its name in words.
        among: its positions, and all that moves.
        missing: where it is told.
    """
    runs = runs_of(among[0], own, among[1], necks_at(job, of[0]))
    if not runs:
        missing.append(f"{of[1]}: what it holds is not found at its joint, so how that swings is not looked at")
    return runs


def _lacking(job: Worked, stand: Stand | None, joint: HeldJoint) -> str:
    """Why a joint cannot be looked at; empty where it can."""
    if stand is None:
        return "it stands on no mount and on no tube of an arm, so where it is in the car is not known"
    at = job.at_of(joint)
    if at is None or at.end_id is None:
        return "its part is tied to no suspension end, so how it moves is not known"
    return ""


def _also(job: Worked, part: Part) -> list[str]:
    """What else is taken as it is not."""
    told = []
    if any(stand is not None and stand.mount.shape.kind == "flat" for stand in part.own.stands):
        told.append(f"the edges of a flat: {FLAT:g} mm of it to either side of the foot are looked at")
    if isinstance(part.saved, TabPair) and part.saved.holes is not None:
        rest, here = ("the rest of its slot", "at place") if slotted(part.saved) else ("its other holes", "in hole")
        told.append(f"{rest}: the joint is looked at where it is, {here} {part.saved.in_hole}")
    shape = as_tabs(part)
    if shape is not None and shape[2] is not None and shape[2].taken:
        told.append(shape[2].taken)
    if isinstance(part.saved, TabPair) and part.saved.spread is not None:
        told.append("where the spread plate ends: its mount is taken as stout as with it all along")
    if any(not necks_at(job, joint) for joint in job.held_by(part.saved.id)):
        told.append(
            "shank, nut and neck as they are made, of what is no link with rod ends: their usual sizes are looked at"
        )
    return told


def _at_joint(
    job: Worked, part: Part, own: Own, seen: Seen, of: tuple[Sequence[Thing], Sequence[tuple[Array, list[Neck]]]]
) -> list[Line]:
    moving, runs = of
    swung = swinging(own, runs, seen.lanes, hinge=own.stand.at.hinged)
    others = [one for one in moving if not holds(seen, own, one) and one.body != seen.body]
    held = {one.body for one in moving if holds(seen, own, one)}
    standing = standing_things(
        job, seen, part.saved.id, (own.stand.mount.id, own.stand.mirrored), pair=part.saved.side == "pair"
    )
    if job.design.mount(own.stand.mount.id) is None:  # on a tube of an arm: the arm's others stand round it
        standing += of_its_arm(job.design, own.stand.mount, moving, seen)
    mount = own_mount(seen, own)

    def near(things: Sequence[Thing], reach: float) -> list[Thing]:
        return [one for one in things if comes_within(one.solid, own.at, reach + TOLD)]

    beside = near(standing, own.reach)
    lines = [
        *tilted(own, seen, runs),
        *swings(
            own, seen, swung, mount, near([one for one in standing if one.body not in held], NEAR_JOINT)
        ),  # what stands on it goes with it
        *stands(own, seen, mount, beside, near([*others, *tyre_things(seen)], own.reach)),
        *tools(own, seen, swung, mount, near([*standing, *others], own.tools_reach)),
        *_more_spanners(part, own, seen, (mount, near([*standing, *others], own.reach + SPANNER))),
        *_torch(
            part,
            own,
            mount,
            [one for one in near(standing, own.reach + TORCH_LENGTH) if one.body == seen.body],
            job.settings.inside_fillet_gap_mm,
        ),
    ]
    return in_order(lines)


def in_order(lines: Sequence[Line]) -> list[Line]:
    """The worst first.

    Args:
        lines: of a joint.
    """
    order = {"stop": 0, "attention": 1, "good": 2}
    return sorted(lines, key=lambda line: (order[line.state], (line.gap_mm or 0.0) - line.wanted_mm))


def tilted(own: Own, seen: Seen, runs: Sequence[tuple[Array, list[Neck]]]) -> list[Line]:
    """How far the joint tilts of what it may; nothing where that is not known.

    Args:
        own: the bracket.
        seen: its axes.
        runs: what is held, run by run.
    """
    limit, found = own.made.tilt_limit_deg, furthest_tilt(own, runs)
    if limit is None or found is None:
        return []
    tilt, lane = found
    state: State = "stop" if tilt > limit else "attention" if tilt > NEAR_LIMIT * limit else "good"
    cure = "Turn the bolt nearer to square to how it swings, or take a joint or spacers that tilt further." if state == "stop" else ""  # fmt: skip
    return [
        Line(sort="swing", what="the joint", to="", gap_mm=None, wanted_mm=0.0, where=seen.told(lane), state=state, told=f"the joint tilts {tilt:.1f}° of the {limit:g}° that it may", cure=cure)
    ]  # fmt: skip


NEAR_LIMIT = 0.9  # of what a joint may tilt, from which it is told; common practice, no source


def _state(gap: float, wanted: float) -> State:
    return "stop" if gap <= 0 else "attention" if gap < wanted else "good"


def near_line(
    what: str, to: str, found: Least, wanted: float, seen: Seen | None, sort: Literal["swing", "stands"]
) -> Line:
    """A distance as it is told.

    Args:
        what: of the bracket, in words.
        to: what it is near, in words.
        found: how near.
        wanted: [mm]
        seen: where positions are told; None: at all times.
        sort: of the line.
    """
    touches = found.gap <= 0
    told = f"{what} {'runs into' if sort == 'swing' else 'meets'} {to}" if touches else f"{what} to {to}"
    return Line(
        sort=sort, what=what, to=to, gap_mm=max(0.0, found.gap), wanted_mm=wanted, where=seen.told(found.lane) if seen else "",
        state=_state(found.gap, wanted), told=told,
    )  # fmt: skip


def worst_of_several(pairs: Sequence[tuple[str, Solid]], two: Solid | Wall, lanes: int) -> tuple[str, Least] | None:
    """The nearest of several to one thing; None where all are far.

    Args:
        pairs: the several, by name.
        two: the one thing.
        lanes: how many positions.
    """
    best: tuple[str, Least] | None = None
    for name, solid in pairs:
        found = least(solid, two, lanes, enough=min(TOLD, best[1].gap if best else np.inf))
        if found is not None and (best is None or found.gap < best[1].gap):
            best = name, found
    return best


def swings(own: Own, seen: Seen, swung: Sequence[Piece], mount: Thing, standing: Sequence[Thing]) -> list[Line]:
    """What is held, against its own plates and mount, and all that stands near.

    Args:
        own: the bracket.
        seen: its axes.
        swung: what is held, piece by piece.
        mount: what it stands on.
        standing: all that stands near.
    """
    pairs = [(one.name, one.solid) for one in swung]
    # a clevis's ears lie beside their plate at all times
    between = [(one.name, one.solid) for one in swung if not (one.joint and isinstance(own, OwnSingle))]
    lines = []
    for plate in own.plates():
        found = worst_of_several(between, plate.solid, seen.lanes)
        if found:
            lines.append(near_line(found[0], plate.name, found[1], WANTED, seen, "swing"))
    if any(line.state != "good" and own.is_plate(line.to) for line in lines):
        cure = _deeper(own, between, seen) if isinstance(own, OwnSingle) else _more_gap(own, pairs, seen)
        lines = [
            line if line.state == "good" or not own.is_plate(line.to) else replace(line, cure=cure) for line in lines
        ]
    feet = [plate.solid for plate in own.plates() if not own.is_plate(plate.name)]
    lines = [_or_a_slot(_with_more_height(line, own, pairs, feet, seen), own, pairs, seen) if line.state != "good" and not own.is_plate(line.to) else line for line in lines]  # fmt: skip
    found = worst_of_several(pairs, mount.solid, seen.lanes)
    if found:
        line = near_line(found[0], mount.name, found[1], WANTED, seen, "swing")
        lines.append(_with_more_height(line, own, pairs, [mount.solid], seen) if line.state != "good" else line)
    for thing in standing:
        found = worst_of_several(pairs, thing.solid, seen.lanes)
        if found:
            lines.append(near_line(found[0], thing.name, found[1], thing.wanted, seen, "swing"))
    return each_once(lines)


def stands(own: Own, seen: Seen, mount: Thing, standing: Sequence[Thing], moving: Sequence[Thing]) -> list[Line]:
    """Plates, nut and head against all that is near them.

    Args:
        own: the bracket.
        seen: its axes.
        mount: what it stands on.
        standing: all that stands near.
        moving: all that moves near.
    """
    ends = [(nut.name, nut.solid) for nut in (own.nut(side) for side in (1.0, -1.0))]
    pieces = [(own.what, plate.solid) for plate in own.plates()] + ends
    lines = []
    for thing in (*standing, *moving):
        still = thing.body == seen.body
        found = worst_of_several(pieces, thing.solid, 1 if still else seen.lanes)
        if found:
            lines.append(near_line(found[0], thing.name, found[1], EASE if still and thing.sort != "obstacle" else thing.wanted, None if still else seen, "stands"))  # fmt: skip
    found = worst_of_several(ends, mount.solid, 1)
    if found:
        lines.append(near_line(found[0], mount.name, found[1], EASE, None, "stands"))
    return each_once(lines)


def each_once(lines: Sequence[Line]) -> list[Line]:
    """Of the same two the nearest.

    Args:
        lines: of a joint.
    """
    best: dict[str, Line] = {}
    for line in lines:
        other = best.get(line.to)
        if other is None or (line.gap_mm or 0.0) - line.wanted_mm < (other.gap_mm or 0.0) - other.wanted_mm:
            best[line.to] = line
    return list(best.values())


# --- what gives more room ----------------------------------------------------------------------------------------------------


def _more_gap(own: Own, pairs: Sequence[tuple[str, Solid]], seen: Seen) -> str:
    """The least gap between the plates that clears, all else as it is."""

    def enough(wider: float) -> bool:
        plates = [plate.solid for plate in own.plates(wider) if own.is_plate(plate.name)]
        return all(clears(one, plate, seen.lanes, WANTED) for _, one in pairs for plate in plates)

    wider = _least_that(enough, MOST_GAP / 2)
    if wider is None:
        return f"No gap up to {MOST_GAP:g} mm more clears it: turn the bolt, or give it another mount."
    return f"Clear by {WANTED:g} mm with {own.more_told(wider)}."


def _deeper(own: OwnSingle, pairs: Sequence[tuple[str, Solid]], seen: Seen) -> str:
    """The least that a clevis's fork must be deeper, all else as it is."""

    def enough(further: float) -> bool:
        for _, one in pairs:
            assert isinstance(one, Cylinder)
            way = further * (one.b - one.a) / np.linalg.norm(one.b - one.a, axis=0)
            moved = replace(one, a=one.a + way, b=one.b + way)
            if not all(clears(moved, plate.solid, seen.lanes, WANTED) for plate in own.plates()):
                return False
        return True

    further = _least_that(enough, MOST_GAP)
    if further is None:
        return f"No fork up to {MOST_GAP:g} mm deeper clears it: turn the bolt, or give it another mount."
    return f"Clear by {WANTED:g} mm with the clevis’s fork {or_more(further)} mm deeper."


def _with_more_height(line: Line, own: Own, pairs: Sequence[tuple[str, Solid]], under: Sequence[Solid | Wall], seen: Seen) -> Line:  # fmt: skip
    """The least that the joint must stand further from its mount, or from what its ears stand on."""
    way = own.stand.standing.y[:, None]

    def enough(further: float) -> bool:
        for solid in under:
            if isinstance(solid, Cylinder):
                moved: Solid = replace(solid, a=solid.a - further * way, b=solid.b - further * way)
            elif isinstance(solid, Prism):
                moved = replace(solid, at=solid.at - further * way)
            else:
                return False
            if not all(clears(one, moved, seen.lanes, WANTED) for _, one in pairs):
                return False
        return True

    further = _least_that(enough, MOST_HEIGHT)
    if further is None:
        return replace(
            line, cure="No height up to 150 mm more clears it: give the bracket another mount, or turn the bolt."
        )
    height = float(own.place[1])
    return replace(line, cure=f"Clear by {WANTED:g} mm with the joint {height + further:.1f} mm from its foot, {further:.1f} mm more: move the mount away from it, or the pick-up.")  # fmt: skip


def _or_a_slot(line: Line, own: Own, pairs: Sequence[tuple[str, Solid]], seen: Seen) -> Line:
    """With the least slot in a folded bracket's base that clears what swings over it; as it is where there is no such base, it is skewed, or has one."""
    footing = own.footing
    if type(footing) is not Footing or footing.reach or footing.skew or footing.slot or not footing.radius:
        return line
    w, b = footing.width / 2, own.made.gap / 2
    sides: list[float] = []
    # of each of its four sides the least that leaves nothing beyond it that is struck: all four together are the base less the slot
    for most, beyond in (
        (w, lambda at: (at, w, -b, b)), (w, lambda at: (-w, -at, -b, b)), (b, lambda at: (-w, w, at, b)), (b, lambda at: (-w, w, -b, -at)),
    ):  # fmt: skip

        def enough(inward: float, most: float = most, beyond: Callable[[float], tuple[float, float, float, float]] = beyond) -> bool:  # fmt: skip
            flat = footing.strip(own.stand, *beyond(most - inward))
            x, y, z = (v[:, None] for v in (flat.x, flat.y, np.cross(flat.x, flat.y)))
            solid = Prism(flat.outline, flat.at[:, None], x, y, z, flat.thick / 2)
            return all(clears(one, solid, seen.lanes, WANTED) for _, one in pairs)

        # as much of the base as may be left there, from its edge inward
        if not enough(FINE):
            return replace(line, cure=f"{line.cure} No slot in its base clears it: what swings there reaches past it.")
        low, high = FINE, 2 * most
        while high - low > FINE:
            middle = (low + high) / 2
            low, high = (middle, high) if enough(middle) else (low, middle)
        sides.append(most - low)
    last, first, up, down = sides[0], -sides[1], sides[2], sides[3]
    at = round(first + last) / 2
    wide = _up(2 * (max(up, down) + WITHIN))
    long = _up(2 * (max(last - at, at - first) + WITHIN))
    size = f"{wide:g} mm along the bolt and {long:g} mm along the bends{f', its middle {abs(at):g} mm {_beside(own, at)}' if at else ''}"  # fmt: skip
    most_wide, most_long = widest(own.made.gap, footing.thick, footing.radius), longest(footing.width, footing.thick, at)  # fmt: skip
    if wide > most_wide or long > most_long:
        room = f"{or_less(max(most_wide, 0.0))} by {or_less(max(most_long, 0.0))} mm"
        return replace(line, cure=f"{line.cure} A slot in its base would have to be {size}: more than bends and edges leave ({room}).")  # fmt: skip
    return replace(line, cure=f"{line.cure} Or clear by {WANTED:g} mm with a slot in its base, {size}.")


def _up(mm: float) -> float:
    """To the next half millimetre, and no less than a slot may be."""
    return max(8.0, float(np.ceil(2 * mm - 1e-9) / 2))


def _beside(own: Own, at: float) -> str:
    """To which side a place along the foot lies off its middle."""
    return f"toward {facing(np.sign(at) * own.stand.standing.x)}"


def _least_that(enough: Callable[[float], bool], most: float) -> float | None:
    """The least of a length that is enough; None where the most is not."""
    if not enough(most):
        return None
    low, high = 0.0, most
    while high - low > FINE:
        middle = (low + high) / 2
        low, high = (low, middle) if enough(middle) else (middle, high)
    return float(np.ceil(high * 10) / 10)


# --- bolt, spanner, torch ----------------------------------------------------------------------------------------------------


def reached_at(seen: Seen) -> tuple[tuple[int, str], tuple[int, str]]:
    """Positions that tools are tried at, each in words: at ride height, and hanging.

    Args:
        seen: the bracket's axes.
    """
    droop = int(np.argmin(seen.rows[0] + np.abs(seen.rows[1]) * 1000 + np.abs(seen.rows[2]) * 1000))
    return (seen.ride, "at ride height"), (droop, "hanging in full droop")


def tools(own: Own, seen: Seen, swung: Sequence[Piece], mount: Thing, near: Sequence[Thing]) -> list[Line]:
    """Bolt and spanners at ride height, or hanging in full droop, whichever is easier.

    Args:
        own: the bracket.
        seen: its axes.
        swung: what is held, its joint first.
        mount: that it stands on.
        near: what else stands or moves there.
    """
    best: tuple[int, list[Line]] | None = None
    for lane, words in reached_at(seen):
        things = [held_still(one.name, one.solid, lane, seen.lanes) for one in (mount, *near)]
        # what is between the plates is in no tool's way
        things += [held_still(one.name, one.solid, lane, seen.lanes) for one in swung if not one.joint]
        for head in own.heads:
            lines = _with_head(own, head, things, words)
            worse = sum({"stop": 100, "attention": 1, "good": 0}[line.state] for line in lines)
            if best is None or worse < best[0]:
                best = worse, lines
    assert best
    return best[1]


SPANNER = 300.0  # mm past a bracket, that a handle reaches


def _more_spanners(part: Part, own: Own, seen: Seen, around: tuple[Thing, Sequence[Thing]]) -> list[Line]:
    """On the hexagons of what holds the bracket itself, of its feet, of its clamps: done up before what it holds is put in."""
    kind = kind_of(part.saved)
    hexagons, bolts = (
        (kind.hexagons(part.saved, own.made, own.stand), kind.bolts(part.saved, own.made, own.stand)) if isinstance(kind, SearchedBracket) else ((), ())
    )  # fmt: skip
    if not hexagons and not bolts:
        return []
    mount, near = around
    pieces = [Fixed(name=one.name, solid=one.solid, own=True) for one in own.plates()]

    def things_at(lane: int) -> list[Fixed]:
        return [*pieces, *(held_still(one.name, one.solid, lane, seen.lanes) for one in (mount, *near))]

    lines = [*bolt_lines(bolts, things_at, seen), *spanner_lines(hexagons, things_at, seen)]
    return [replace(line, where=f"{line.where}, what it holds taken out") for line in lines]


def spanner_lines(hexagons: Hexagons, things_at: Callable[[int], Sequence[Fixed]], seen: Seen) -> list[Line]:
    """How spanners turn on them at ride height, or hanging in full droop, whichever is easier.

    Args:
        hexagons: each with what it is.
        things_at: what stands there, by position.
        seen: the bracket's axes.
    """
    held = {name: on.held for name, on in hexagons}
    return [
        _spanner_line(turn, name, not held[name], words)
        for name, turn, words in hardest(hexagons, things_at, reached_at(seen))
    ]


def bolt_lines(bolts: Bolts, things_at: Callable[[int], Sequence[Fixed]], seen: Seen) -> list[Line]:
    """Whether they go in and come out, at ride height, or hanging in full droop, whichever is easier.

    Args:
        bolts: each with what it is, and the ways that it may be drawn out.
        things_at: what stands there, by position.
        seen: the bracket's axes.
    """
    lines = []
    for name, path, out, words in drawn(bolts, things_at, reached_at(seen)):
        near, toward = path.gap < TOLD, facing(out)
        good = path.gap > 0
        lines.append(Line(
            sort="bolt", what=name, to=path.to if near else "", gap_mm=max(0.0, path.gap) if near else None, wanted_mm=EASE, where=words, state=_state(path.gap, EASE),
            told=f"{name} go in from {toward} and come out there" if good else f"{name} do not come out, to {toward}: {path.to} is in the way",
            cure="" if good else "Fit them before what is in the way, or give the bracket another mount.",
        ))  # fmt: skip
    return lines


def _with_head(own: Own, head: float, things: Sequence[Fixed], words: str) -> list[Line]:
    toward = facing(head * own.stand.standing.bolt)
    path = bolt_path(own, head, things)
    near = path.gap < TOLD
    lines = [
        Line(
            sort="bolt", what="the bolt", to=path.to if near else "", gap_mm=max(0.0, path.gap) if near else None, wanted_mm=EASE, where=words, state=_state(path.gap, EASE),
            told=f"the bolt goes in from {toward} and comes out there" if path.gap > 0 else f"the bolt does not come out, to {toward}: {path.to} is in its way",
            cure="" if path.gap > 0 else "Fit it before what is in its way, turn the bolt, or give the bracket another mount.",
        )
    ]  # fmt: skip
    for side, what, tall, asks in ((-head, "nut", own.tail, "turns"), (head, "head", own.hardware.washer + own.hardware.head, "holds")):  # fmt: skip
        lines.append(_spanner_line(turn_on(own, side, tall, things), what, asks == "turns", words))
    return lines


def _spanner_line(found: Turn, what: str, tightens: bool, words: str) -> Line:
    good = found.turns if tightens else found.holds
    if found.on.gap > EASE and found.arc > 0:
        free = "all round" if found.arc >= 360 else f"through {found.arc:.0f}°"
        told = f"a spanner on the {what} is free {free}" + (f", {found.blocked} beside it" if found.blocked else "")
        if tightens and found.arc < RING_TURN + 5:
            told += f": a ring of twelve points asks {RING_TURN:.0f}°" + ("; a socket goes on" if found.socket else "")
    elif found.socket:
        told = f"no spanner goes on the {what}, a socket does"
    elif found.open is not None:
        told = f"an open spanner alone goes on the {what}, slid on from the side, and turns through {found.open:.0f}°"
        if tightens and not good:
            told += f": it asks {RING_TURN:.0f}° with its turning over, {found.blocked} is in the way"
    else:
        told = f"neither spanner nor socket goes on the {what}: {found.on.to if found.on.gap <= EASE else found.blocked} is in the way"
    near = found.on.gap < TOLD
    return Line(
        sort="spanner", what=f"spanner on the {what}", to=(found.on.to if near else "") or found.blocked, gap_mm=max(0.0, found.on.gap) if near else None, wanted_mm=EASE,
        where=words, state="good" if good else "stop", told=told,
        cure="" if good else "Tighten it before what is in the way is fitted, turn the bolt, or give the bracket another mount.",
    )  # fmt: skip


def fillet_lines(fillets: Sequence[Fillet], things: Sequence[Fixed], passing: set[str]) -> list[Line]:
    """A torch along fillets of what is no pair of plates, alike ones under one name.

    Args:
        fillets: where they are laid.
        things: that stand there while they are.
        passing: names of what may be fitted after them.
    """
    welds = [torch_along(one, things) for one in fillets]
    lines = []
    for name in dict.fromkeys(weld.plate for weld in welds):
        worst = min((weld for weld in welds if weld.plate == name), key=lambda weld: (weld.share, weld.worst.gap))
        lines.append(_weld_line(worst, worst.worst, f"a torch along {name}", None, passing))
    return lines


def _torch(part: Part, own: Own, mount: Thing, near: Sequence[Thing], inside_gap: float) -> list[Line]:
    """A torch on every fillet that the checks count."""
    things = [Fixed(name=one.name, solid=one.solid) for one in (mount, *near)]
    things += [Fixed(name=plate.name, solid=plate.solid) for plate in own.plates()]
    lines = []
    passing = {one.name for one in near if one.sort == "bracket"}
    kind = kind_of(part.saved)
    if isinstance(own, OwnSingle):
        worse = min(torch_on(own, things), key=lambda weld: (weld.share, weld.worst.gap))
        return [_weld_line(replace(worse, inside=False), worse.worst, "a torch along both faces of its foot", None, passing)]  # fmt: skip
    if isinstance(kind, SearchedBracket):
        return fillet_lines(kind.fillets(part.saved, own.made, own.stand), things, passing)
    welds = torch_on(own, things)
    for inside in (False, True):
        both = [weld for weld in welds if weld.inside == inside]
        if not both or (inside and own.made.gap < inside_gap):
            continue  # no check counts it
        alike = both[0].share == both[1].share
        where = "between them" if inside else "outside"
        for weld in both[:1] if alike else both:
            of = "the feet of both plates" if alike else f"the foot of {weld.plate}"
            worst = min((one.worst for one in (both if alike else [weld])), key=lambda path: path.gap)
            lines.append(_weld_line(weld, worst, f"a torch along {of}, {where}", own, passing))
    return lines


def _weld_line(weld: Weld, worst: Path, what: str, own: Own | None, passing: set[str]) -> Line:
    whole = weld.share == 1.0
    # between the plates the shop's own rule says from which gap on it is counted
    state: State = "good" if whole else "attention" if weld.inside or worst.to in passing else "stop"
    cure = ""
    if not whole and worst.to in passing:
        cure = "Weld it before the rest stands there; what no torch reaches holds nothing."
    elif not whole and weld.inside and own is not None:
        cure = f"Wider apart a torch reaches in; or have no fillet counted inside a gap of {own.made.gap:.0f} mm, at Settings."
    elif not whole:
        cure = "What no torch reaches holds nothing: turn the bolt, or give the bracket another mount."
    near = worst.gap < TOLD
    return Line(
        sort="torch", what=what, to=worst.to if near else "", gap_mm=max(0.0, worst.gap) if near else None, wanted_mm=0.0, where="", state=state,
        told=f"{what}: reached all along" if whole else f"{what}: reached along {weld.share * 100:.0f} %, {worst.to} in the way; the checks count all of it",
        cure=cure,
    )  # fmt: skip
