"""A solved end with one thing otherwise than its model has it: a length that was made, or a place where something stands.

Each is put into the mechanism itself and solved anew, all else kept as it was made: a pick-up that stands elsewhere leaves the links as
long as they are, so that the wheel goes where they take it.

Source:
    The mechanism solved (derived).
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from math import dist
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from tirante.core.errors import InputError
from tirante.core.mechanism.model import GROUND, Bush, Coincident, Constraint, Distance, Mark, OnLine, separation
from tirante.core.mechanism.solve import CONVERGED, first_steps, solve
from tirante.core.mechanism.system import Poses, System
from tirante.core.suspension import axle, measures
from tirante.core.suspension.assemble import Assembled
from tirante.core.suspension.changed import arm_sides, lengthened_in
from tirante.core.suspension.cycle import SolvedSide
from tirante.core.suspension.moved_pickup import Moves, carried_on

Array = NDArray[np.float64]
Axis = Literal["x", "y", "z"]
AXES: tuple[Axis, ...] = ("x", "y", "z")
HEIGHTS = "zero of the heights"
ONE_PLACE = 1e-6  # mm: marks no farther apart are one place


@dataclass(frozen=True, slots=True, kw_only=True)
class Error:
    """What may be otherwise: a length, longer; a place, farther along an axis of the car; the heights, read too large [mm]."""

    kind: Literal["length", "place", "heights"]
    name: str  # link, or side of an arm; point, on a beam with its side
    on: str = ""  # of a place: the body that it is a place of
    axis: Axis | None = None

    @property
    def key(self) -> str:
        """A name that no other has."""
        return " ".join(part for part in (self.name, self.on and f"on {self.on}", self.axis or "") if part)


@dataclass(frozen=True, slots=True, kw_only=True)
class Sought:
    """All that may be otherwise, and what is not looked for, each with the reason."""

    errors: tuple[Error, ...]
    left_out: dict[str, str]


def errors_of(assembled: Assembled) -> Sought:
    """Every made length, every place that the wheel's position hangs on, and the zero that heights are read from.

    A hinged arm stands by the lengths of its sides. Where a part meets the car's body the place is the body's: on the part it
    is a length. Of an independent end one side is looked at, of a beam both.
    """
    found = [Error(kind="length", name=link.name) for link in assembled.links]
    found += [Error(kind="length", name=name) for name in arm_sides(assembled)]
    found += [Error(kind="place", name=name, on=GROUND, axis=axis) for name in _on_car(assembled) for axis in AXES]
    left_out: dict[str, str] = {}
    by_sides = _apexes(assembled)
    for name, mark in _on_bodies(assembled):
        if any(mark.body == body and dist(mark.at, at) < ONE_PLACE for body, at in by_sides):
            continue
        if any(isinstance(c, OnLine) and mark in (c.mark, c.through) for c in assembled.mechanism.constraints):
            left_out[f"{name} on {mark.body}"] = "what slides there has no place on its body alone"
            continue
        found += [Error(kind="place", name=name, on=mark.body, axis=axis) for axis in AXES]
    found.append(Error(kind="heights", name=HEIGHTS))
    return Sought(errors=tuple(found), left_out=left_out)


def _apexes(assembled: Assembled) -> set[tuple[str, tuple[float, float, float]]]:
    """Outer joints of hinged arms, each on its arm: told by the lengths of the arm's sides."""
    found = set()
    for outer, points, _ in arm_sides(assembled).values():
        joint = next(j for j in assembled.template.joints if j.kind == "hinge" and j.points == points)
        ball = next(c for c in assembled.mechanism.constraints if isinstance(c, Coincident) and c.name == outer)
        body = assembled.body_on(joint.body, "left")
        found |= {(mark.body, mark.at) for mark in (ball.a, ball.b) if mark.body == body}
    return found


def _on_car(assembled: Assembled) -> dict[str, tuple[float, float, float]]:
    """Places on the car's body, whichever of its two bodies a joint's point is followed on."""
    found = {name: mark.at for name, mark in assembled.marks.items() if mark.body == GROUND}
    for c in assembled.mechanism.constraints:
        if isinstance(c, Coincident | Bush) and GROUND in (c.a.body, c.b.body):
            at = c.a.at if c.a.body == GROUND else c.b.at
            names = [name for name, known in assembled.marks.items() if dist(known.at, at) < ONE_PLACE]
            if at not in found.values() and names:
                found[names[0]] = at
    return found


def _on_bodies(assembled: Assembled) -> list[tuple[str, Mark]]:
    """Places on bodies that move, each once by body, with the name of its point."""
    found: list[tuple[str, Mark]] = []
    for c in assembled.mechanism.constraints:
        marks = [mark for of in ("a", "b", "mark", "through") if isinstance(mark := getattr(c, of, None), Mark)]
        together = isinstance(c, Coincident | Bush)  # bolted to the car: its place is the car's
        if together and any(mark.body == GROUND for mark in marks):
            continue
        for mark in marks:
            names = [name for name, known in assembled.marks.items() if dist(known.at, mark.at) < ONE_PLACE]
            if mark.body == GROUND or not names:
                continue
            if all(mark.body != known.body or dist(known.at, mark.at) > ONE_PLACE for _, known in found):
                found.append((names[0], mark))
    return found


def with_errors(side: SolvedSide, by: Mapping[Error, float]) -> SolvedSide | None:
    """The same positions of a side with errors in it [mm]; None where it cannot be put together so at one of them.

    Args:
        side: solved.
        by: size of each error.
    """
    made = _made(side, by)
    if made is None:
        return None
    assembled, system, drives = made
    solved = solve(system, drives, start=side.solved.poses)
    return replace(side, assembled=assembled, solved=solved) if (solved.status == CONVERGED).all() else None


def nudged(side: SolvedSide, errors: Sequence[Error], mm: float) -> list[SolvedSide | None]:
    """A side with each of many errors by itself, so small that one step of Newton's from where it stands is enough.

    Args:
        side: solved.
        errors: each by itself.
        mm: size of each.
    """
    made = [_made(side, {error: mm}) for error in errors]
    there = [one for one in made if one is not None]
    if not there:
        return [None] * len(errors)
    steps = iter(first_steps([system for _, system, _ in there], side.solved.poses, [drives for *_, drives in there]))
    found: list[SolvedSide | None] = []
    for one in made:
        if one is None:
            found.append(None)
            continue
        assembled, system, drives = one
        poses = Poses(r=side.solved.poses.r.copy(), R=side.solved.poses.R.copy())
        system.step(poses, next(steps))
        solved = replace(side.solved, system=system, drives=drives, poses=poses, rates={})
        found.append(replace(side, assembled=assembled, solved=solved))
    return found


def _made(side: SolvedSide, by: Mapping[Error, float]) -> tuple[Assembled, System, Array] | None:
    """A side's mechanism with errors in it, its bodies' origins where they were, and its drivers; None where parts do not reach."""
    assembled, drives = side.assembled, side.solved.drives.copy()
    try:
        assembled = _moved(
            assembled, {error: mm for error, mm in by.items() if error.kind == "place" and error.on != GROUND}
        )
        if lengths := {error.name: mm for error, mm in by.items() if error.kind == "length"}:
            assembled = lengthened_in(assembled, lengths)
        was = _on_car(assembled)
        now = dict(was)
        for error, mm in by.items():
            if error.kind == "heights":
                drives[0] -= mm
            elif error.on == GROUND:
                now[error.name] = _along(now[error.name], error.axis, mm)
        if now != was:
            assembled = carried_on(assembled, Moves(was, now))
    except InputError as refused:
        if refused.code in ("no_triangle", "not_kept"):
            return None
        raise
    system = side.solved.system
    if assembled is not side.assembled:
        system = System(assembled.mechanism, side.solved.system.origins)
        system.like(side.solved.system)
        system.plans["held"] = side.solved.system.plans["held"]  # a few mm leave it held as it was
    return assembled, system, drives


def _along(at: tuple[float, float, float], axis: Axis | None, mm: float) -> tuple[float, float, float]:
    x, y, z = (v + mm * (name == axis) for v, name in zip(at, AXES, strict=True))
    return x, y, z


def _moved(assembled: Assembled, by: Mapping[Error, float]) -> Assembled:
    """Places moved on their bodies, in the axes of the car as the points were taken."""
    if not by:
        return assembled
    known = {(name, mark.body): mark for name, mark in _on_bodies(assembled)}
    moved: list[tuple[Mark, Mark]] = []
    for name, on in dict.fromkeys((error.name, error.on) for error in by):
        old = known[name, on]
        at = old.at
        for error, mm in by.items():
            at = _along(at, error.axis, mm) if (error.name, error.on) == (name, on) else at
        moved.append((old, replace(old, at=at)))

    def other(mark: Mark) -> Mark:
        return next((new for old, new in moved if mark.body == old.body and dist(mark.at, old.at) < ONE_PLACE), mark)

    def one(c: Constraint) -> Constraint:
        if isinstance(c, Distance):
            length = separation(c.a, c.b) if c.length is None else c.length
            return replace(c, a=other(c.a), b=other(c.b), length=length)
        if isinstance(c, Coincident) and (other(c.a), other(c.b)) != (c.a, c.b):
            return replace(c, a=other(c.a), b=other(c.b), meet=True)
        if isinstance(c, Bush):
            return replace(c, a=other(c.a), b=other(c.b))
        return c

    marks = {name: other(mark) for name, mark in assembled.marks.items()}
    mechanism = replace(assembled.mechanism, constraints=tuple(one(c) for c in assembled.mechanism.constraints))
    return replace(assembled, marks=marks, mechanism=mechanism)


def can_be_read(side: SolvedSide) -> dict[str, Array]:
    """What an inclinometer, a toe bar or a tape reads of a solved side, by name; of a beam's right wheel as “right …”.

    Angles [deg] and places [mm] as `cycle` has them.
    """
    assembled, solved = side.assembled, side.solved
    found: dict[str, Array] = {}
    for sign, prefix in ((1.0, ""), (-1.0, "right ")) if assembled.beam else ((1.0, ""),):
        state = measures.wheel_at(assembled, solved, sign)
        found |= {f"{prefix}camber_deg": state.camber, f"{prefix}toe_deg": state.toe}
        axis = measures.steering_axis(assembled, solved, sign)
        if axis is not None:
            told = measures.steer_measures(state, axis)
            found |= {f"{prefix}{name}": told[name] for name in ("caster_deg", "kingpin_inclination_deg")}
        rest = measures.wheel_at(assembled, side.rest, sign)
        found[f"{prefix}half_track_change_mm"] = sign * (state.contact[1] - rest.contact[1])
        if not assembled.beam:
            found["wheelbase_change_mm"] = state.centre[0] - rest.centre[0]
    if assembled.beam:
        found |= axle.axle_stands(assembled, solved)
        end = assembled.end
        if end.pinion_deg is not None:  # it points away from its own end of the car
            found["pinion_deg"] = end.pinion_deg + found["pinion_change_deg"] * (1.0 if end.end == "rear" else -1.0)
    return found
