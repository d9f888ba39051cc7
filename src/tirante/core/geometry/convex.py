"""The least distance between two convex solids, at many positions at once; vectors are (3, lanes), lengths in mm.

A solid is known by its support: of a direction, the place of it that lies furthest that way. Round edges are taken off first and
their radius from the distance after, so that of two rounded solids the overlap is known too, down to where their cores meet.

Source:
    Gilbert, Johnson & Keerthi, A fast procedure for computing the distance between complex objects in three-dimensional space,
    IEEE J. Robotics and Automation 4 (1988), from memory; the nearest of a simplex by its faces (derived).
"""

from __future__ import annotations

from dataclasses import dataclass
from itertools import combinations
from typing import Protocol

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]
STEPS = 60
NEAR = 1e-5  # of a distance: it is not found closer than that
TOUCHING = 1e-6  # mm², of cores: what comes nearer touches
FAR = 1e9  # mm: everything is nearer


class Solid(Protocol):
    """A convex solid at every position."""

    @property
    def rounding(self) -> float:
        """By how much its core is grown all round [mm]."""

    def support(self, way: Array) -> Array:
        """The place of its core that lies furthest that way (3, lanes), of `way` of any length."""

    @property
    def middle(self) -> Array:
        """A place inside (3, lanes or 1)."""

    @property
    def reach(self) -> float:
        """From its middle no place of it is further [mm]."""


@dataclass(frozen=True, slots=True)
class Bar:
    """A round bar with round ends; a ball where both are one place. Ends are (3, lanes or 1)."""

    a: Array
    b: Array
    rounding: float

    def support(self, way: Array) -> Array:
        """Its end that lies further that way."""
        return np.where(((self.b - self.a) * way).sum(axis=0) > 0, self.b, self.a)

    @property
    def middle(self) -> Array:
        """Half way between its ends."""
        return (self.a + self.b) / 2

    @property
    def reach(self) -> float:
        """To the furthest of it."""
        return float(np.linalg.norm(self.b - self.a, axis=0).max()) / 2 + self.rounding


@dataclass(frozen=True, slots=True)
class Cylinder:
    """A round bar cut square at both ends (3, lanes or 1)."""

    a: Array
    b: Array
    radius: float
    rounding: float = 0.0

    def support(self, way: Array) -> Array:
        """On the rim of the end that lies further that way."""
        along = self.b - self.a
        along = along / np.linalg.norm(along, axis=0)
        step = (along * way).sum(axis=0)
        out = way - step * along
        size = np.linalg.norm(out, axis=0)
        out = out * (self.radius / np.maximum(size, 1e-300))
        return np.where(step > 0, self.b, self.a) + np.where(size > 1e-12 * np.abs(step), out, 0.0)

    @property
    def middle(self) -> Array:
        """Half way between its ends."""
        return (self.a + self.b) / 2

    @property
    def reach(self) -> float:
        """To its rims."""
        return float(np.hypot(np.linalg.norm(self.b - self.a, axis=0).max() / 2, self.radius))


@dataclass(frozen=True, slots=True)
class Prism:
    """What is cut from a plate: the hull of an outline, half its thickness to either side. Place and axes are (3, lanes or 1)."""

    outline: Array  # (corners, 2)
    at: Array
    x: Array
    y: Array
    z: Array
    half: float
    rounding: float = 0.0

    def support(self, way: Array) -> Array:
        """Its corner that lies furthest that way."""
        along = np.stack([(self.x * way).sum(axis=0), (self.y * way).sum(axis=0)])
        best = self.outline[np.argmax(self.outline @ along, axis=0)].T
        side = np.where((self.z * way).sum(axis=0) > 0, self.half, -self.half)
        return np.asarray(self.at + best[0] * self.x + best[1] * self.y + side * self.z)

    @property
    def middle(self) -> Array:
        """Over the middle of its outline's bounds."""
        low, high = self.outline.min(axis=0), self.outline.max(axis=0)
        x, y = (low + high) / 2
        return np.asarray(self.at + x * self.x + y * self.y)

    @property
    def reach(self) -> float:
        """To its furthest corner."""
        low, high = self.outline.min(axis=0), self.outline.max(axis=0)
        far = float(np.linalg.norm(self.outline - (low + high) / 2, axis=1).max())
        return float(np.hypot(far, self.half))


@dataclass(frozen=True, slots=True)
class Wall:
    """All that lies behind a face without end; place and the way that it looks, of length 1, are (3, lanes or 1)."""

    through: Array
    normal: Array

    def gap(self, other: Solid, lanes: int) -> Array:
        """How far a solid stays before it (lanes); less than nothing where it reaches behind it.

        Args:
            other: the solid.
            lanes: how many positions.
        """
        normal = np.broadcast_to(self.normal, (3, lanes))
        nearest = other.support(-normal)
        return np.asarray(((nearest - self.through) * normal).sum(axis=0) - other.rounding)


def gap(one: Solid, two: Solid | Wall, lanes: int, enough: float | Array = np.inf) -> Array:
    """Least distance between two solids (lanes) [mm]; less than nothing where roundings overlap, 0 at least where square edges do.

    Args:
        one: a solid.
        two: the other.
        lanes: how many positions.
        enough: how much further apart than this two are is not asked, of all or of each (lanes): there anything that is more is given.
    """
    if isinstance(two, Wall):
        return two.gap(one, lanes)
    grown = one.rounding + two.rounding
    apart = np.broadcast_to(one.middle - two.middle, (3, lanes))
    found: Array = np.linalg.norm(apart, axis=0) - one.reach - two.reach
    near = np.flatnonzero(found < enough)
    if near.size:
        most = np.minimum(np.broadcast_to(enough, lanes)[near], FAR) + grown
        cores = _apart(at_lanes(one, near, lanes), at_lanes(two, near, lanes), apart[:, near], most)
        found[near] = cores - grown
    return found


def at_lanes(solid: Solid, which: NDArray[np.intp], of: int) -> Solid:
    """A solid at some of its positions.

    Args:
        solid: at all of them.
        which: of them.
        of: how many there are.
    """
    names = solid.__dataclass_fields__  # type: ignore[attr-defined]
    moving = [name for name in names if name != "outline"]
    values = {name: getattr(solid, name) for name in names}
    some = {name: value[:, which] if name in moving and isinstance(value, np.ndarray) and value.shape == (3, of) and of > 1 else value for name, value in values.items()}  # fmt: skip
    made: Solid = type(solid)(**some)
    return made


def _apart(one: Solid, two: Solid, apart: Array, enough: Array) -> Array:
    """Distance of two cores (lanes); where it is more than enough, something that is no less."""
    lanes = apart.shape[1]
    way = np.where(np.abs(apart).sum(axis=0) > 0, apart, np.array([[1.0], [0.0], [0.0]]))
    v = np.broadcast_to(one.support(-way) - two.support(way), (3, lanes)).copy()
    corners = np.zeros((4, 3, lanes))
    used = np.zeros((4, lanes), bool)
    corners[0], used[0] = v, True
    here, going = np.arange(lanes), np.ones(lanes, bool)
    # few lanes at a time: to leave out those that are found takes longer than to look at them again
    for _ in range(STEPS):
        size = (v * v).sum(axis=0)
        w = one.support(-v) - two.support(v)
        along = (v * w).sum(axis=0)  # over |v|: a plane between them that far apart
        going &= (size - along > NEAR * size) & (size > TOUCHING)
        going &= (along <= 0) | (along * along <= enough * enough * size)
        if not going.any():
            break
        free = used.argmin(axis=0)
        corners[free, :, here] = np.where(going, w, corners[free, :, here].T).T
        nearest, kept = _nearest(corners, used, free)
        # as rounding lets it come no nearer, it stays where it is
        going &= (nearest * nearest).sum(axis=0) < size
        used = np.where(going, kept, used)
        v = np.where(going, nearest, v)
    return np.asarray(np.sqrt((v * v).sum(axis=0)))


def _nearest(simplex: Array, filled: NDArray[np.bool_], new: NDArray[np.intp]) -> tuple[Array, NDArray[np.bool_]]:
    """The place of each simplex's faces about its newest corner that is nearest to the origin, and the corners of that face."""
    lanes = simplex.shape[2]
    here = np.arange(lanes)
    old = (new + np.array([[1], [2], [3]])) % 4  # the other corners of each
    first = simplex[new, :, here]
    edges = simplex[old, :, here] - first  # (3, lanes, 3)
    there = filled[old, here]
    gram = np.einsum("ilk,jlk->ijl", edges, edges)
    right = -np.einsum("ilk,lk->il", edges, first)
    best = (first * first).sum(axis=1)
    with np.errstate(divide="ignore", invalid="ignore", over="ignore"):
        shares = _shares(gram, right)
        # what is not a number is no share
        ok = (shares >= -1e-12).all(axis=1) & (shares.sum(axis=1) <= 1.0 + 1e-12) & (there | ~NEEDED).all(axis=1)
        # squared, of the nearest place of each face's plane
        sizes = np.where(ok, best - (shares * right).sum(axis=1), np.inf)
    face = sizes.argmin(axis=0)
    own = shares[face, :, here].T
    own[:, ~(sizes[face, here] < best)] = 0.0
    kept = np.zeros((4, lanes), bool)
    kept[new, here] = True
    kept[old, here] = own > 0
    return (first + np.einsum("il,ilk->lk", own, edges)).T, kept


# corners beside the newest one that a face has: edges from it, then triangles, then all of the other side
FACES = tuple(which for count in (1, 2, 3) for which in combinations(range(3), count))
NEEDED = np.array([[k in which for k in range(3)] for which in FACES])[:, :, None]
PAIRS = [[i for i, _ in combinations(range(3), 2)], [j for _, j in combinations(range(3), 2)]]


def _shares(gram: Array, right: Array) -> Array:
    """How much of each other corner the nearest place of each face's plane has (faces, corners, lanes)."""
    found = np.zeros((len(FACES), 3, right.shape[1]))
    size = gram[range(3), range(3)]
    found[range(3), range(3)] = right / size
    i, j = PAIRS
    a, b, c, one, two = size[i], gram[i, j], size[j], right[i], right[j]
    area = a * c - b * b
    found[range(3, 6), i] = (c * one - b * two) / area
    found[range(3, 6), j] = (a * two - b * one) / area
    (a, b, c), (_, d, e), (_, _, f) = gram
    p, q, r = d * f - e * e, c * e - b * f, b * e - c * d
    s, t, u = a * f - c * c, b * c - a * e, a * d - b * b
    x, y, z = right
    found[6] = np.stack([p * x + q * y + r * z, q * x + s * y + t * z, r * x + t * y + u * z]) / (a * p + b * q + c * r)
    return found
