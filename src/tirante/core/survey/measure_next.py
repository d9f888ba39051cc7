"""What to measure next: of the readings that can be taken, the one that makes the worst point surest.

One more reading changes the covariance by a known amount (the update of an inverse by one row: Sherman and Morrison, 1950,
from memory), so that all of them are tried without taking one. What the readings so far leave free counts as unknown by a
metre, so that what holds it fast comes first.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from itertools import combinations
from math import inf, sqrt

import numpy as np

from tirante.core.survey.net import Adjusted
from tirante.core.survey.readings import Array, Distance, Kind, Offset

UNKNOWN = 1000.0  # [mm] that something left free may be off by
FAR = 5000.0  # [mm] that a tape is not held over in a garage; common practice, no source
NEAR = 30.0  # [mm] under which nobody holds a tape


@dataclass(frozen=True, slots=True, kw_only=True)
class Possible:
    """A reading that could be taken, and how surely."""

    of: Kind
    sd: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Advice:
    """A reading to take, and what the worst point then is known to."""

    of: Kind
    point: str  # the worst one
    sd_before: float  # of its place, the root of the sum of its three variances [mm]; infinite where it is free
    sd_after: float  # infinite where it still is


def worst_point(found: Adjusted, among: Sequence[str] | None = None) -> str | None:
    """The point that is known least, by the root of the sum of its three variances.

    Args:
        found: a net adjusted.
        among: only these.
    """
    names = [name for name in found.names if among is None or name in among]
    whole = _whole(found)
    return max(names, key=lambda name: _spread(_block(whole, found, name)), default=None)


def measure_next(
    found: Adjusted, possible: Sequence[Possible], point: str | None = None, most: int = 3
) -> tuple[Advice, ...]:
    """The readings that help a point most, the best first.

    Args:
        found: a net adjusted.
        possible: what can be taken.
        point: that is to be known better; None: the worst.
        most: how many are told.

    Source:
        Update of the covariance by one observation (Sherman and Morrison, from memory).
    """
    point = point or worst_point(found)
    if point is None or not possible:
        return ()
    whole = _whole(found)
    before = _spread(_block(whole, found, point))
    i = 3 * found.names.index(point)
    ways = np.array([_way(one.of, found) for one in possible])  # a row a reading
    carried = ways @ whole  # (readings, 3 points)
    spread = np.einsum("ij,ij->i", carried, ways) + np.array([one.sd**2 for one in possible])
    own = carried[:, i : i + 3]
    after = whole[i : i + 3, i : i + 3] - own[:, :, None] * own[:, None, :] / spread[:, None, None]
    left = np.sqrt(np.maximum(np.trace(after, axis1=1, axis2=2), 0.0))
    return tuple(
        Advice(of=possible[j].of, point=point, sd_before=_told(before), sd_after=_told(float(left[j])))
        for j in np.argsort(left, kind="stable")[:most]
        if left[j] < before * (1 - 1e-3)
    )


def can_be_taken(
    places: Mapping[str, Array], taken: Sequence[Kind], tape: float, square: float, floor: bool = True
) -> Iterator[Possible]:
    """What a tape and a square can take of points: every distance, every height and offset, but what was taken already.

    Args:
        places: of all points [mm].
        taken: already.
        tape: standard deviation of a distance [mm].
        square: of a height over the floor, or an offset from a string [mm].
        floor: whether there is a datum to measure from.
    """
    known = {_unordered(one) for one in taken}
    for one, other in combinations(sorted(places), 2):
        far = float(np.linalg.norm(places[one] - places[other]))
        kind = Distance(one=one, other=other)
        if NEAR < far < FAR and _unordered(kind) not in known:
            yield Possible(of=kind, sd=tape)
    if not floor:
        return
    for name in sorted(places):
        for axis in ("x", "y", "z"):
            offset = Offset(point=name, axis=axis)
            if _unordered(offset) not in known:
                yield Possible(of=offset, sd=square)


def _unordered(kind: Kind) -> object:
    return ("distance", frozenset(kind.points())) if isinstance(kind, Distance) else kind


def _whole(found: Adjusted) -> Array:
    free = sum((np.outer(one.ravel(), one.ravel()) for one in found.free), np.zeros_like(found.covariance))
    return np.asarray(found.covariance + UNKNOWN**2 * free)


def _block(whole: Array, found: Adjusted, name: str) -> Array:
    i = 3 * found.names.index(name)
    return np.asarray(whole[i : i + 3, i : i + 3])


def _spread(block: Array) -> float:
    return sqrt(max(float(np.trace(block)), 0.0))


def _told(spread: float) -> float:
    return spread if spread < UNKNOWN / 4 else inf


def _way(kind: Kind, found: Adjusted) -> Array:
    """A reading's slopes over all coordinates."""
    way = np.zeros(3 * len(found.names))
    for name, slope in kind.at(found.points)[1].items():
        if name in found.names:
            i = 3 * found.names.index(name)
            way[i : i + 3] += slope
    return way
