"""What the readings would let stand the other way round: a point that is known by distances from three others alone may lie on either side of their plane.

Tried, not guessed: points are put on the other side of the plane of those that they are measured from and the net is
adjusted from there; where the readings fit as well, both places are told.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from tirante.core.errors import NotConverged
from tirante.core.survey.net import Adjusted, Net, adjust
from tirante.core.survey.readings import Array, Distance, ToLine

APART = 5.0  # [mm] between two places that are not one
AS_WELL = 9.0  # by how much the weighted sum of squares may be greater and still be taken to fit as well


@dataclass(frozen=True, slots=True, kw_only=True)
class Mirrored:
    """Points that may also stand elsewhere, and where."""

    names: tuple[str, ...]
    elsewhere: dict[str, Array]


def mirrored(net: Net, found: Adjusted) -> tuple[Mirrored, ...]:
    """What could be the other way round, by points.

    Args:
        net: as it was adjusted.
        found: what came of it.
    """
    told: list[Mirrored] = []
    by_distance = {name: _measured_from(net, name) for name in net.approximate}
    blind = {name: from_ for name, from_ in by_distance.items() if from_ is not None}
    groups: list[tuple[str, ...]] = [(name,) for name in blind]
    if len(blind) > 1:
        groups.append(tuple(blind))
    for group in groups:
        if any(set(group) <= set(one.names) for one in told):
            continue
        others = sorted({name for one in group for name in blind[one]} - set(group))
        others = [
            name for name in others if not found.moves(name).any()
        ]  # what is free itself holds nothing on its side
        plane = _plane([found.points[name] for name in others])
        if plane is None:
            continue
        point, normal = plane
        moved = {name: found.points[name] - 2 * float((found.points[name] - point) @ normal) * normal for name in group}
        if all(float(np.linalg.norm(moved[name] - found.points[name])) < APART for name in group):
            continue
        start = {name: moved.get(name, found.points[name]) for name in net.approximate}
        try:
            there = adjust(replace(net, approximate=start))
        except NotConverged:
            continue
        away = [
            name for name in net.approximate if float(np.linalg.norm(there.points[name] - found.points[name])) > APART
        ]
        if away and there.s0**2 * max(there.dof, 0) <= found.s0**2 * max(found.dof, 0) + AS_WELL:
            told.append(Mirrored(names=tuple(away), elsewhere={name: there.points[name] for name in away}))
    return tuple(told)


def _measured_from(net: Net, name: str) -> frozenset[str] | None:
    """The points that a point is measured from, where it is by distances alone; None where something tells its side."""
    others: set[str] = set()
    for one in net.readings:
        if name not in one.of.points():
            continue
        if not isinstance(one.of, Distance | ToLine):
            return None
        others |= set(one.of.points()) - {name}
    return frozenset(others) if others else None


def _plane(places: Sequence[Array]) -> tuple[Array, Array] | None:
    """The plane that fits points best; None of fewer than two."""
    if len(places) < 2:
        return None
    middle = np.mean(places, axis=0)
    ways = np.linalg.svd(np.array(places) - middle)[2]
    return middle, ways[2] if len(places) > 2 else ways[-1]
