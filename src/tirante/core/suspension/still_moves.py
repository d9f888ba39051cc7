"""What still moves while a suspension is being put together: the freedom that the parts in place leave.

Only what is in place holds: links, hinges, joints, the steering held still, a damper or a dummy of its length, a stand
under a wheel. The freedom is the null space of their Jacobian; a motion is followed along it with every joint held
exactly (minimum-norm Newton), not as the straight line of its velocity.
"""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np
from numpy.typing import NDArray
from scipy.linalg import qr

from tirante.core.document.end import End
from tirante.core.document.template import Template
from tirante.core.errors import InputError
from tirante.core.mechanism.model import (
    GROUND,
    Bush,
    Constraint,
    Coordinate,
    Distance,
    Mark,
    Mechanism,
    OnLine,
    Parallel,
    Turned,
    bodies_of,
)
from tirante.core.mechanism.solve import Freedom, Positions, freedom
from tirante.core.mechanism.system import Poses, System
from tirante.core.suspension.assemble import SIDES, STEER, Assembled, assemble_end
from tirante.core.suspension.ride import as_it_stands

Array = NDArray[np.float64]
RACK = "rack"
STEERING = "steering held"
DUMMY = "dummy "  # of a damper's length
FRAMES = 10  # each way from ride height
REACH_MM = 40.0  # how far a motion is followed, by the point that moves most
TURN_LEVER = 300.0  # mm, weighs a turn against a way when a motion is named
ITERATIONS = 12


@dataclass(frozen=True, slots=True, kw_only=True)
class AssemblyPart:
    """Something that can be put in place, with what it holds."""

    name: str
    kind: Literal["part", "stop"]  # of the car, or put there for the while
    constraints: tuple[Constraint, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class FreeMotion:
    """A way to move that nothing holds."""

    what: str
    frames: Positions  # from one end to the other
    ride: int  # which of them is ride height

    @classmethod
    def at_rest(cls, system: System) -> FreeMotion:
        """No motion: as it stands.

        Args:
            system: of what is in place.
        """
        return cls(what="", frames=_stacked(system, [system.reference(1)]), ride=0)


@dataclass(frozen=True, slots=True, kw_only=True)
class Taker:
    """A part or stop that takes some of the freedom away."""

    name: str
    leaves: int  # ways to move that are left with it
    along: tuple[str, ...]  # what has to be put in place with it, where it hangs on something that is not there yet


@dataclass(frozen=True, slots=True, kw_only=True)
class StillMoves:
    """What the parts in place leave free, and what would take it away."""

    assembled: Assembled
    parts: tuple[AssemblyPart, ...]
    in_place: tuple[str, ...]
    degrees: int
    motions: tuple[FreeMotion, ...]
    takes_away: tuple[Taker, ...]  # parts and stops not in place that leave less
    frames: Positions | None  # as it stands; None with nothing in place
    as_bushes_give: tuple[str, ...] = ()  # ways that end where they begin: the joints allow none of it, bushes a little

    def middle(self, frames: Positions) -> int:
        """Which of a motion's frames is ride height."""
        for motion in self.motions:
            if motion.frames is frames:
                return motion.ride
        return 0

    @property
    def says(self) -> str:
        """What is left free, and the next part or stop that takes some of it away, in a sentence."""
        if self.frames is None:
            return "Nothing is in place yet. Tick what is on the car."
        if not self.degrees:
            return f"Nothing moves: all of it is held.{self._given}"
        ways = "one way" if self.degrees == 1 else f"{self.degrees} ways"
        kinds = {part.name: part.kind for part in self.parts}
        part = next((one for one in self.takes_away if kinds[one.name] == "part"), None)
        stop = next((one.name for one in self.takes_away if kinds[one.name] == "stop"), None)
        beside = f" (with {' and '.join(part.along)})" if part and part.along else ""
        after = f" The next part that takes some of it away: {part.name}{beside}." if part else ""
        until = (
            f" Until then, this would hold it: {stop}."
            if stop and part
            else f" This would hold it: {stop}."
            if stop
            else ""
        )
        return f"It still moves in {ways}.{self._given}{after}{until}"

    @property
    def _given(self) -> str:
        """What moves only as its bushes give, in a sentence."""
        return f" Only as its bushes give: {'; '.join(self.as_bushes_give)}." if self.as_bushes_give else ""


def parts_of(assembled: Assembled) -> tuple[AssemblyPart, ...]:
    """All that can be ticked, in the order of the template, stops after the parts."""
    rack = any(mark.drive == STEER for link in assembled.links for mark in (link.a, link.b))
    found: dict[str, list[Constraint]] = {}
    for c in assembled.mechanism.constraints:
        if isinstance(c, Coordinate) or (isinstance(c, Turned) and c.drive != STEER):
            continue  # what moves it, not what it is made of
        name = c.name.removesuffix(", axis")
        if isinstance(c, Turned):
            name = STEERING
        found.setdefault(name, []).append(_on_rack(c) if rack else c)
    stops: list[AssemblyPart] = []
    if rack:
        found["rack guide"] = _rack_guide(assembled)
        found[STEERING] = [Coordinate(name=STEERING, mark=_rack_mark(assembled), along=(0.0, 1.0, 0.0))]
    if STEERING in found:
        stops.append(AssemblyPart(name=STEERING, kind="stop", constraints=tuple(found.pop(STEERING))))
    for side in SIDES if assembled.beam else ("left",):
        suffix = f", {side}" if assembled.beam else ""
        for unit, damper in assembled.end.dampers.items():
            a, b = (assembled.place(place, side) for place in damper.places)
            dummy = Distance(name=f"{DUMMY}{unit}{suffix}", a=a, b=b)
            stops.append(AssemblyPart(name=dummy.name, kind="stop", constraints=(dummy,)))
        wheel = assembled.wheel(1.0 if side == "left" else -1.0)
        stand = Coordinate(name=f"stand under the wheel{suffix}", mark=wheel, along=(0.0, 0.0, 1.0))
        stops.append(AssemblyPart(name=stand.name, kind="stop", constraints=(stand,)))
    parts = [AssemblyPart(name=name, kind="part", constraints=tuple(held)) for name, held in found.items()]
    return (*parts, *stops)


def _on_rack(c: Constraint) -> Constraint:
    """A link on the rack, with the rack as a body of its own."""
    if not isinstance(c, Distance) or STEER not in (c.a.drive, c.b.drive):
        return c
    a, b = (Mark(RACK, mark.at) if mark.drive == STEER else mark for mark in (c.a, c.b))
    return replace(c, a=a, b=b)


def _rack_mark(assembled: Assembled) -> Mark:
    at = next(mark.at for link in assembled.links for mark in (link.a, link.b) if mark.drive == STEER)
    return Mark(RACK, at)


def _rack_guide(assembled: Assembled) -> list[Constraint]:
    mark = _rack_mark(assembled)
    return [
        OnLine(name="rack guide", mark=mark, through=Mark(GROUND, mark.at), along=(0.0, 1.0, 0.0)),
        Parallel(name="rack guide, axis", body_a=RACK, body_b=GROUND, axis=(0.0, 1.0, 0.0)),
        Turned(name="rack guide, roll", body=RACK, direction=(1.0, 0.0, 0.0), about=(0.0, 1.0, 0.0)),
    ]


def still_moves(template: Template, end: End, in_place: Collection[str]) -> StillMoves:
    """The freedom that is left with these parts in place.

    Args:
        template: with its additions.
        end: its design.
        in_place: names of parts and stops, of those that `parts_of` gives.

    Raises:
        InputError: there is no such part, or the end itself is impossible.
    """
    template, end = as_it_stands(template, end)
    assembled = assemble_end(template, end)
    parts = parts_of(assembled)
    names = [part.name for part in parts]
    unknown = sorted(set(in_place) - set(names))
    if unknown:
        raise InputError(
            f"There is no part {', '.join(unknown)}. Parts: {', '.join(names)}.",
            code="unknown_part",
            fields=("in_place",),
        )
    held = [part for part in parts if part.name in in_place]
    if not held:
        return StillMoves(
            assembled=assembled, parts=parts, in_place=(), degrees=0, motions=(), takes_away=(), frames=None
        )
    system = System(_mechanism(held))
    left = freedom(system)
    takes = _takers(parts, held, set(system.mechanism.bodies), left.degrees) if left.degrees else []
    every = motions_of(assembled, system, left)
    soft = any(isinstance(c, Bush) for part in held for c in part.constraints)
    given = tuple(one for one in every if soft and one.frames.poses.lanes == 1)
    motions = tuple(one for one in every if all(one is not other for other in given))
    return StillMoves(
        assembled=assembled, parts=parts, in_place=tuple(part.name for part in held), degrees=len(motions), motions=motions,
        takes_away=tuple(takes), frames=_stacked(system, [system.reference(1)]), as_bushes_give=tuple(one.what for one in given),
    )  # fmt: skip


def motions_of(assembled: Assembled, system: System, left: Freedom) -> tuple[FreeMotion, ...]:
    """Every way to move that is left, followed and named, those that move a wheel most first.

    Args:
        assembled: the end, with its named marks.
        system: what is in place of it.
        left: its freedom.
    """
    return tuple(_motion(assembled, system, direction) for direction in _directions(assembled, system, left))


def _takers(parts: tuple[AssemblyPart, ...], held: list[AssemblyPart], bodies: set[str], degrees: int) -> list[Taker]:
    """Every part or stop not in place that leaves less, with what it needs beside it to do so."""
    takes = []
    there = bodies | {GROUND}
    for part in parts:
        if part in held:
            continue
        new = _bodies(part) - there
        along = [
            other for other in parts
            if new and other is not part and other not in held and _bodies(other) & new and _bodies(other) <= there | new
        ]  # fmt: skip
        if new and part.kind == "stop":
            continue  # it would hold what is not there
        after = freedom(System(_mechanism([*held, part, *along]))).degrees
        if after < degrees:
            takes.append(Taker(name=part.name, leaves=after, along=tuple(one.name for one in along)))
    return takes


def _bodies(part: AssemblyPart) -> set[str]:
    return {body for c in part.constraints for body in bodies_of(c)}


def _mechanism(held: list[AssemblyPart]) -> Mechanism:
    constraints = [still(c) for part in held for c in part.constraints]
    bodies = sorted({body for part in held for body in _bodies(part)} - {GROUND})
    return Mechanism(bodies=tuple(bodies), constraints=tuple(constraints))


def still(c: Constraint) -> Constraint:
    """A constraint without its driver, and a bush as the joint that it is."""
    if isinstance(c, Turned | Coordinate):
        return replace(c, drive=None)
    return replace(c, conical=None) if isinstance(c, Bush) else c


def _directions(assembled: Assembled, system: System, left: Freedom) -> list[Array]:
    """An orthogonal basis of the freedom, those that move a wheel most first."""
    if not left.degrees:
        return []
    basis, _ = np.linalg.qr(left.free)
    watched = [_twist(system, assembled.wheel(side)) for side in ((1.0, -1.0) if assembled.beam else (1.0,))]
    rows = [row for row in watched if row is not None]
    if not rows:
        return list(basis.T)
    if len(rows) == 2:  # of an axle: together, and against each other
        rows = [rows[0] + rows[1], rows[0] - rows[1]]
    # each along the way that a wheel moves most, so that its name says what it does: ways that move it alike are told apart
    turned, _, _ = qr((np.vstack(rows) @ basis).T, pivoting=True)
    return list((basis @ turned).T)


def _twist(system: System, mark: Mark) -> Array | None:
    """How a body moves at a mark for each coordinate: three ways, three turns weighed by a lever (6, unknowns)."""
    i = system.index.get(mark.body, -1)
    if i < 0:
        return None
    rows = np.zeros((6, system.mechanism.unknowns))
    lever = np.array(mark.at) - system.origins[i]
    rows[:3, 6 * i : 6 * i + 3] = np.eye(3)
    rows[:3, 6 * i + 3 : 6 * i + 6] = np.cross(np.eye(3), lever).T
    rows[3:, 6 * i + 3 : 6 * i + 6] = TURN_LEVER * np.eye(3)
    return rows


def _motion(assembled: Assembled, system: System, direction: Array) -> FreeMotion:
    poses, size = system.reference(1), _size(system, direction)
    middle = [Poses(r=poses.r.copy(), R=poses.R.copy())]
    ways: dict[int, list[Poses]] = {1: [], -1: []}
    for sign, found in ways.items():
        at, along = Poses(r=poses.r.copy(), R=poses.R.copy()), sign * direction * (REACH_MM / FRAMES / size)
        for _ in range(FRAMES):
            step = _follow(system, at, along)
            if step is None:
                break
            at, along = step
            found.append(Poses(r=at.r.copy(), R=at.R.copy()))
    frames = _stacked(system, [*reversed(ways[-1]), *middle, *ways[1]])
    return FreeMotion(what=_named(assembled, system, direction), frames=frames, ride=len(ways[-1]))


def _stacked(system: System, frames: list[Poses]) -> Positions:
    """Poses one after another as solved positions."""
    lanes = len(frames)
    whole = Poses(r=np.concatenate([f.r for f in frames], axis=-1), R=np.concatenate([f.R for f in frames], axis=-1))
    return Positions(
        system=system, drives=np.zeros((0, lanes)), poses=whole, residual=np.zeros(lanes), status=np.zeros(lanes, dtype=np.int8), bind=None,
    )  # fmt: skip


def _size(system: System, direction: Array) -> float:
    """How far the mark that moves most goes for a unit of a direction [mm]."""
    most = 0.0
    for c in system.mechanism.constraints:
        for name in ("a", "b", "mark", "through"):
            mark = getattr(c, name, None)
            rows = _twist(system, mark) if isinstance(mark, Mark) else None
            if rows is not None:
                most = max(most, float(np.linalg.norm(rows[:3] @ direction)))
    turns = (
        np.abs(direction.reshape(-1, 6)[:, 3:]).max(initial=0.0) * TURN_LEVER / 4
    )  # a body that turns about its own joint
    return max(most, float(turns), 1e-12)


def _follow(system: System, at: Poses, step: Array) -> tuple[Poses, Array] | None:
    """One step along a freedom and back onto the joints; None where it does not come back (the motion ends there)."""
    moved = Poses(r=at.r.copy(), R=at.R.copy())
    system.step(moved, step[:, None])
    drives = np.zeros((0, 1))
    jacobian = np.empty((system.mechanism.equations, system.mechanism.unknowns, 1))
    for _ in range(ITERATIONS):
        r = system.evaluate(moved, drives, jacobian)[:, 0]
        if np.abs(r).max(initial=0.0) < 1e-9:
            # the freedom here that points the way the motion came
            _, values, directions = np.linalg.svd(jacobian[:, :, 0])
            rank = int((values > 1e-9 * max(values.max(initial=0.0), 1e-300)).sum())
            free = directions[rank:]
            onward = free.T @ (free @ step)
            size = _size(system, onward)
            return (moved, onward * _size(system, step) / size) if size > 1e-9 else None
        delta, *_ = np.linalg.lstsq(jacobian[:, :, 0], -r, rcond=1e-12)
        system.step(moved, np.asarray(delta, dtype=float)[:, None])
    return None


_WORDS = (
    ("moves fore and aft", "move fore and aft", "one forward as the other goes back"),
    ("moves sideways", "move sideways", "apart and together"),
    ("rises and falls", "rise and fall", "one up as the other goes down"),
    ("leans", "lean", "against each other"),
    ("winds up about the axle", "wind up about the axle", "against each other"),
    ("steers", "steer", "against each other"),
)  # fmt: skip


def _named(assembled: Assembled, system: System, direction: Array) -> str:
    """What moves and how, in words: the wheels where they move, else the body that moves most."""
    seen: list[tuple[str, int, float]] = []
    for side, name in ((1.0, "left wheel"), (-1.0, "right wheel")) if assembled.beam else ((1.0, "wheel"),):
        rows = _twist(system, assembled.wheel(side))
        twist = np.zeros(6) if rows is None else rows @ direction
        if np.abs(twist).max() > 1e-3 * np.abs(direction).max():
            way = int(np.argmax(np.abs(twist)))
            seen.append((name, way, float(twist[way])))
    if len(seen) == 2 and seen[0][1] == seen[1][1]:
        words = _WORDS[seen[0][1]]
        return f"both wheels {words[1]}" + (f", {words[2]}" if seen[0][2] * seen[1][2] < 0 else "")
    if seen:
        return ", ".join(f"the {name} {_WORDS[way][0]}" for name, way, _ in seen)
    sizes = np.abs(direction.reshape(-1, 6)) @ np.array([1.0, 1.0, 1.0, TURN_LEVER, TURN_LEVER, TURN_LEVER])
    most = system.mechanism.bodies[int(np.argmax(sizes))]
    places = [rows for at in assembled.joined(most) if (rows := _twist(system, Mark(most, at.at))) is not None]
    still_there = all(np.linalg.norm(rows[:3] @ direction) < 1e-6 * np.abs(direction).max() for rows in places)
    does = "turns about the line through its joints" if places and still_there else "moves"
    return f"the {most.replace('_', ' ')} {does}"
