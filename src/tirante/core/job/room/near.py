"""How near two solids come over many positions, without looking closely where they are certainly further apart than elsewhere."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from tirante.core.geometry.convex import Bar, Cylinder, Prism, Solid, Wall, at_lanes, gap
from tirante.core.geometry.distance import point_segment, segment_block, segments

Array = NDArray[np.float64]
ROUND = 36  # positions that are looked at closely at once
AT_ONCE = 128  # the same, where all of them must be
TOLD = 25.0  # mm: what stays further away is not listed
TOUCHES = 0.005  # mm: what comes nearer than that touches; how far it is past that is not asked


@dataclass(frozen=True, slots=True, kw_only=True)
class Least:
    """The nearest that two come."""

    gap: float  # [mm]
    lane: int


def least(one: Solid, two: Solid | Wall, lanes: int, enough: float = np.inf) -> Least | None:
    """The least distance over all positions; None where it is certainly more than enough.

    Args:
        one: a solid.
        two: the other.
        lanes: how many positions.
        enough: what is not asked for [mm].
    """
    if isinstance(two, Wall):
        found = two.gap(one, lanes)
        k = int(found.argmin())
        return Least(gap=float(found[k]), lane=k) if found[k] < enough else None
    lower = np.broadcast_to(at_least(one, two), (lanes,))
    order = np.argsort(lower)
    best: Least | None = None
    for start in range(0, lanes, ROUND):
        which = order[start : start + ROUND]
        limit = min(enough, best.gap if best else np.inf)
        which = which[lower[which] < limit]
        if not which.size:
            break
        gaps = gap(at_lanes(one, which, lanes), at_lanes(two, which, lanes), which.size, enough=limit)
        k = int(gaps.argmin())
        if gaps[k] < limit:
            best = Least(gap=float(gaps[k]), lane=int(which[k]))
        if best and best.gap <= TOUCHES:
            return Least(gap=0.0, lane=best.lane)
    return best


def clears(one: Solid, two: Solid, lanes: int, wanted: float) -> bool:
    """Whether two stay this far apart at every position.

    Args:
        one: a solid.
        two: the other.
        lanes: how many positions.
        wanted: [mm]
    """
    lower = np.broadcast_to(at_least(one, two), (lanes,))
    order = np.argsort(lower)
    order = order[lower[order] < wanted]
    for start in range(0, order.size, AT_ONCE):
        which = order[start : start + AT_ONCE]
        if gap(at_lanes(one, which, lanes), at_lanes(two, which, lanes), which.size, enough=wanted).min() < wanted:
            return False
    return True


def comes_within(thing: Solid | Wall, at: Array, reach: float) -> bool:
    """Whether something may come this near to a place, at any position.

    Args:
        thing: a solid.
        at: the place (3).
        reach: [mm]
    """
    place = at[:, None]
    if isinstance(thing, Wall):
        return bool((((place - thing.through) * thing.normal).sum(axis=0) < reach).any())
    rod = _rod(thing)
    if rod:
        a, b, r = rod
        return bool((point_segment(place, a, b) - r < reach).any())
    return bool((np.linalg.norm(thing.middle - place, axis=0) - thing.reach < reach).any())


def at_least(one: Solid, two: Solid | Wall) -> Array:
    """What two are apart at least, by their bounds (lanes or 1) [mm].

    Args:
        one: a solid.
        two: the other.
    """
    if isinstance(two, Wall):
        return two.gap(one, max(one.middle.shape[1], two.normal.shape[1]))
    rod_one, rod_two = _rod(one), _rod(two)
    if rod_one and rod_two:
        p, q, r = rod_one
        a, b, s = rod_two
        lanes = max(v.shape[1] for v in (p, q, a, b))
        p, q, a, b = (np.broadcast_to(v, (3, lanes)) for v in (p, q, a, b))
        return segments(p, q, a, b) - r - s
    for rod, other in ((rod_one, two), (rod_two, one)):
        if rod:
            p, q, r = rod
            lanes = max(v.shape[1] for v in (p, q, other.middle))
            p, q, m = (np.broadcast_to(v, (3, lanes)) for v in (p, q, other.middle))
            if isinstance(other, Prism):
                return _to_block(p, q, other, lanes) - r
            return point_segment(m, p, q) - r - other.reach
    return np.asarray(np.linalg.norm(one.middle - two.middle, axis=0) - one.reach - two.reach)


def _to_block(p: Array, q: Array, prism: Prism, lanes: int) -> Array:
    """From a segment to the block round a prism (lanes)."""
    low, high = prism.outline.min(axis=0), prism.outline.max(axis=0)
    axes = np.stack([np.broadcast_to(v, (3, lanes)) for v in (prism.x, prism.y, prism.z)])
    half = np.array([*((high - low) / 2), prism.half])
    return segment_block(p, q, np.broadcast_to(prism.middle, (3, lanes)), axes, half)


def _rod(solid: Solid) -> tuple[Array, Array, float] | None:
    """A bar's ends, and how far from its middle line it is at most."""
    if isinstance(solid, Bar):
        return solid.a, solid.b, solid.rounding
    if isinstance(solid, Cylinder):
        return solid.a, solid.b, solid.radius
    return None
