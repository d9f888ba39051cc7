"""What a moving body sees in a case, in its own axes, each force at the place of the body that takes it."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from tirante.core.geometry.vectors import cross
from tirante.core.loads.end_loads import Carried
from tirante.core.suspension.on_body import OnBody
from tirante.core.suspension.reading import at_two_pivots
from tirante.core.suspension.statics import Forces

Array = NDArray[np.float64]
SAME = 1e-3  # mm: what acts so near to a place acts at it
COPIES = {"": "", ", right": ", right", "_left": ", left", "_right": ", right"}  # of a body's name: of the case's


@dataclass(frozen=True, slots=True)
class AtPlace:
    """A force [N] and a moment [N·mm] about a place of a body, in the body's own axes; `place` None: it stands at none of its places."""

    place: str | None
    what: str
    at: Array
    force: Array
    moment: Array


@dataclass(frozen=True, slots=True, kw_only=True)
class BodyCase:
    """A body in one case, on one side of the car."""

    case: str
    where: str  # the position of the case, in words
    copy: str  # "", ", left" or ", right"
    acting: tuple[AtPlace, ...]

    @property
    def unbalanced(self) -> float:
        """What acts, all together, over the largest that does: more than a trifle where something that holds the body is not known."""
        if not self.acting:
            return 0.0
        force = sum((act.force for act in self.acting), np.zeros(3))
        turn = sum((act.moment + cross(act.at, act.force) for act in self.acting), np.zeros(3))
        sizes = [float(np.linalg.norm(act.force)) for act in self.acting]
        turns = [float(np.linalg.norm(act.moment + cross(act.at, act.force))) for act in self.acting]
        return max(float(np.linalg.norm(force)) / max(*sizes, 1.0), float(np.linalg.norm(turn)) / max(*turns, 1.0))


def copies_of(forces: Forces, body: str) -> list[tuple[str, str]]:
    """The copies of a body that a case loads: as the forces name it, and what a case's name ends in."""
    return [(f"{body}{of}", told) for of, told in COPIES.items() if f"{body}{of}" in forces.on]


def seen_by_body(carried: Sequence[Carried], body: str, places: Sequence[OnBody], other: str = "") -> list[BodyCase]:
    """Every case that was carried, on every copy of the body.

    Args:
        carried: of the end; what could not be carried is left out.
        body: of the template.
        places: of the body.
        other: what is told of the other side ends in, of a body in the middle that is seen at its places on one side: it acts at none of them.
    """
    found = []
    for one in carried:
        if one.forces is None or one.fault:
            continue
        for key, told in copies_of(one.forces, body):
            acting = tuple(_acting(one.forces, key, places, "" if told else other))
            found.append(BodyCase(case=f"{one.name}{told}", where=one.where, copy=told, acting=acting))
    return found


def in_car(carried: Sequence[Carried], body: str, what: str) -> Iterator[tuple[str, str, Array]]:
    """What one thing puts on a body in every case that was carried, in the car's axes, on the left or brought over to it: the case, its position, the force (3) [N].

    Args:
        carried: of the end.
        body: of the template.
        what: puts it there, by its name.
    """
    for one in carried:
        if one.forces is None or one.fault:
            continue
        for key, told in copies_of(one.forces, body):
            pose = replace(one.forces.poses[key], turn=np.eye(3), origin=np.zeros(3))
            for act in one.forces.on[key]:
                stem, _, side = act.what.partition(", ")
                if stem != what:
                    continue
                force = pose.own(act).force
                # of a beam the one on the right is on the same body, as it stands in the car
                over = np.array([1.0, -1.0, 1.0]) if not told and side == "right" else np.ones(3)
                yield f"{one.name}{told or (f', {side}' if side else '')}", one.where, force * over


def _acting(forces: Forces, key: str, places: Sequence[OnBody], other: str) -> Iterator[AtPlace]:
    pose = forces.poses[key]
    at = {place.point: np.array(place.at) for place in places}
    hinges: dict[str, list[str]] = {}
    for place in places:
        if place.sort == "hinge":
            hinges.setdefault(place.what, []).append(place.point)
    wheel = next((place.point for place in places if place.sort == "wheel"), None)
    brought = {place.what: place.point for place in places if place.sort in ("stop", "slider")}
    for act in forces.on[key]:
        own, stem = pose.own(act), act.what.partition(", ")[0]
        if other and act.what.replace("_", ", ").endswith(other):
            yield AtPlace(None, stem, own.at, own.force, own.moment)
            continue
        points = hinges.get(stem, [])
        # the joint's force is told at its first point; of a body in the middle the other side's joint is not at these
        if len(points) == 2 and np.abs(at[points[0]] - own.at).max() < SAME:
            one, two = (at[point] for point in points)
            moment = own.moment + cross(own.at - one, own.force)
            shares = at_two_pivots([one, two], own.force[:, None], moment[:, None])
            for point, share in zip(points, shares, strict=True):
                yield AtPlace(point, stem, at[point], share[:, 0], np.zeros(3))
            continue
        near = next((point for point, where in at.items() if np.abs(where - own.at).max() < SAME), None)
        if near is None and stem.startswith(("contact", "wheel_centre", "moment")):
            near = wheel
        near = near or brought.get(stem)
        if near is None:
            yield AtPlace(None, stem, own.at, own.force, own.moment)
            continue
        yield AtPlace(near, stem, at[near], own.force, own.moment + cross(own.at - at[near], own.force))
