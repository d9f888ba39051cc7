"""All constraints of one kind evaluated at once, at many positions: what a small mechanism costs is calls, not arithmetic.

Arrays have the position last. Marks and directions that several constraints share are placed once.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from tirante.core.mechanism.model import Vector

Array = NDArray[np.float64]
Index = NDArray[np.intp]


@dataclass(slots=True)
class Poses:
    """Where every moving body is: r (bodies, 3, lanes) [mm], R (bodies, 3, 3, lanes)."""

    r: Array
    R: Array

    @property
    def lanes(self) -> int:
        """How many positions."""
        return int(self.r.shape[-1])

    def take(self, lanes: NDArray[np.intp] | NDArray[np.bool_]) -> Poses:
        """Some of the positions."""
        return Poses(r=self.r[..., lanes], R=self.R[..., lanes])

    def put(self, lanes: NDArray[np.intp] | NDArray[np.bool_], other: Poses) -> None:
        """Write some of the positions."""
        self.r[..., lanes] = other.r
        self.R[..., lanes] = other.R


@dataclass(frozen=True, slots=True)
class Point:
    """A mark, compiled: body index (−1 ground), lever from the body's origin, driver index and direction."""

    body: int
    lever: Vector
    at: Vector
    drive: int
    along: Vector


class Stack:
    """What a mechanism is tied by, kind by kind."""

    def __init__(self) -> None:
        self._points: dict[Point, int] = {}
        self._ways: dict[tuple[int, Vector], int] = {}
        self._rows: list[Index] = []
        self._columns: list[Index] = []
        self.entries = 0
        self.kinds: list[Kind] = []

    def point(self, point: Point) -> int:
        """The number of a mark."""
        return self._points.setdefault(point, len(self._points))

    def way(self, body: int, vector: Vector) -> int:
        """The number of a direction that stands on a body."""
        return self._ways.setdefault((body, vector), len(self._ways))

    def entry(self, rows: Index, columns: Index) -> slice:
        """Room for entries of the Jacobian, by row and column (constraints, entries of each)."""
        first = self.entries
        self._rows.append(rows.reshape(-1))
        self._columns.append(columns.reshape(-1))
        self.entries += rows.size
        return slice(first, self.entries)

    def close(self) -> None:
        """All marks and directions are known."""
        self._where = np.concatenate(self._rows), np.concatenate(self._columns)
        self._once = len(set(zip(*(of.tolist() for of in self._where), strict=True))) == self.entries
        points, ways = list(self._points), list(self._ways)
        self._moving, self._levers = _moving([(p.body, p.lever) for p in points])
        self._of_point = np.array([points[i].body for i in self._moving], dtype=np.intp)
        self._at = np.array([p.at for p in points]).reshape(-1, 3)
        self._driven = [(i, p.drive, np.array(p.along)) for i, p in enumerate(points) if p.body < 0 and p.drive >= 0]
        self._turning, self._vectors = _moving(ways)
        self._of_way = np.array([ways[i][0] for i in self._turning], dtype=np.intp)
        self._still = np.array([vector for _, vector in ways]).reshape(-1, 3)

    def places(self, poses: Poses, drives: Array, origins: Array) -> tuple[Array, Array]:
        """Where every mark is, and its lever from its body's origin (marks, 3, lanes); of the ground's no lever.

        Args:
            poses: of the bodies.
            drives: values of the drivers.
            origins: of the bodies, in the reference position (bodies, 3) [mm].
        """
        place = np.empty((len(self._at), 3, poses.lanes))
        place[:] = self._at[:, :, None]
        lever = np.zeros_like(place)
        for i, drive, along in self._driven:
            place[i] += along[:, None] * drives[drive]
        own = _turned(poses, self._of_point, self._levers)
        lever[self._moving] = own
        place[self._moving] = origins[self._of_point][:, :, None] + poses.r[self._of_point] + own
        return place, lever

    def evaluate(self, poses: Poses, drives: Array, origins: Array, out: Array, jacobian: Array | None) -> None:
        """Write all residuals, and the Jacobian where it is wanted.

        Args:
            poses: of the bodies.
            drives: values of the drivers.
            origins: of the bodies, in the reference position (bodies, 3) [mm].
            out: residuals (equations, lanes).
            jacobian: (equations, unknowns, lanes).
        """
        places, levers = self.places(poses, drives, origins)
        ways = self.ways(poses)
        entries = None if jacobian is None else np.empty((self.entries, poses.lanes))
        for kind in self.kinds:
            kind.evaluate(places, levers, ways, drives, out, entries)
        if jacobian is None or entries is None:
            return
        jacobian.fill(0.0)
        if self._once:
            jacobian[self._where] = entries
        else:  # a constraint between two marks of one body
            np.add.at(jacobian, self._where, entries)

    def ways(self, poses: Poses) -> Array:
        """Where every direction points (directions, 3, lanes)."""
        found = np.empty((len(self._still), 3, poses.lanes))
        found[:] = self._still[:, :, None]
        found[self._turning] = _turned(poses, self._of_way, self._vectors)
        return found


def _moving(of: Sequence[tuple[int, Vector]]) -> tuple[Index, Array]:
    """Which of some vectors stand on a moving body, and those (3, vectors, 1, 1)."""
    which = [i for i, (body, _) in enumerate(of) if body >= 0]
    return np.array(which, dtype=np.intp), np.array([of[i][1] for i in which]).reshape(-1, 3).T[:, :, None, None]


def _turned(poses: Poses, bodies: Index, vectors: Array) -> Array:
    found: Array = sum(poses.R[bodies, :, k] * vectors[k] for k in range(3))
    return found


class Kind:
    """Constraints of one kind, their equations together."""

    def evaluate(
        self, places: Array, levers: Array, ways: Array, drives: Array, out: Array, entries: Array | None
    ) -> None:
        """Write their residuals, and their entries of the Jacobian where it is wanted.

        Args:
            places: of the marks.
            levers: of the marks.
            ways: of the directions.
            drives: values of the drivers.
            out: residuals (equations, lanes).
            entries: of the Jacobian (entries, lanes).
        """
        raise NotImplementedError


class _Side:
    """The entries of the bodies that move, of one end of every constraint."""

    def __init__(self, stack: Stack, rows: Sequence[int], bodies: Sequence[int], first: int, count: int) -> None:
        which = [i for i, body in enumerate(bodies) if body >= 0]
        self.which = slice(None) if len(which) == len(bodies) else _numbers(which)
        own, at = _numbers(rows[i] for i in which), _numbers(6 * bodies[i] for i in which)
        columns = at[:, None] + np.arange(first, first + count)
        self.room = stack.entry(np.broadcast_to(own[:, None], columns.shape), columns)
        self.shape = len(which), count

    def room_in(self, entries: Array) -> Array:
        """Their entries (constraints, entries of each, lanes)."""
        return entries[self.room].reshape(*self.shape, entries.shape[1])


class _Pushed(_Side):
    """n · dp of points with levers w: displacement n, rotation w × n."""

    def __init__(self, stack: Stack, rows: Sequence[int], bodies: Sequence[int]) -> None:
        super().__init__(stack, rows, bodies, 0, 6)

    def write(self, entries: Array, n: Array, w: Array, more: Array | None = None) -> None:
        """
        Args:
            entries: of the Jacobian.
            n: the direction of each constraint.
            w: the levers.
            more: a turn besides.
        """
        if self.shape[0]:
            room, n, w = self.room_in(entries), n[self.which], w[self.which]
            room[:, :3] = n
            _cross(w, n, room[:, 3:])
            if more is not None:
                room[:, 3:] += more[self.which]


class _Turned(_Side):
    """n · δ(R v) = δθ · (moving × n)."""

    def __init__(self, stack: Stack, rows: Sequence[int], bodies: Sequence[int]) -> None:
        super().__init__(stack, rows, bodies, 3, 3)

    def write(self, entries: Array, moving: Array, n: Array) -> None:
        """
        Args:
            entries: of the Jacobian.
            moving: the direction that turns, of each constraint.
            n: the other.
        """
        if self.shape[0]:
            _cross(moving[self.which], n[self.which], self.room_in(entries))


def _cross(a: Array, b: Array, out: Array) -> None:
    a1, a2, a3 = a[:, 0], a[:, 1], a[:, 2]
    b1, b2, b3 = b[:, 0], b[:, 1], b[:, 2]
    out[:, 0] = a2 * b3 - a3 * b2
    out[:, 1] = a3 * b1 - a1 * b3
    out[:, 2] = a1 * b2 - a2 * b1


def _dot(a: Array, b: Array) -> Array:
    found: Array = a[:, 0] * b[:, 0] + a[:, 1] * b[:, 1] + a[:, 2] * b[:, 2]
    return found


def _numbers(of: Iterable[Any]) -> Index:
    return np.array(list(of), dtype=np.intp)


class _Distances(Kind):
    def __init__(self, stack: Stack, plans: Sequence[tuple[int, Any]]) -> None:
        rows = [row for row, _ in plans]
        self.rows = _numbers(rows)
        self.a, self.b = (_numbers(stack.point(plan[k]) for _, plan in plans) for k in (1, 2))
        self.lengths = np.array([[plan[3]] for _, plan in plans])
        self.driven = [(row, plan[4]) for row, plan in plans if plan[4] >= 0]
        self.sides = [_Pushed(stack, rows, [plan[k].body for _, plan in plans]) for k in (1, 2)]

    def evaluate(
        self, places: Array, levers: Array, ways: Array, drives: Array, out: Array, entries: Array | None
    ) -> None:
        d = places[self.a] - places[self.b]
        size = np.sqrt(_dot(d, d))
        out[self.rows] = size - self.lengths
        for row, drive in self.driven:
            out[row] -= drives[drive]
        if entries is not None:
            n = d / np.maximum(size, 1e-12)[:, None]
            self.sides[0].write(entries, n, levers[self.a])
            self.sides[1].write(entries, -n, levers[self.b])


class _Coincidents(Kind):
    def __init__(self, stack: Stack, plans: Sequence[tuple[int, Any]]) -> None:
        rows = [row for row, _ in plans]
        self.rows = _numbers(rows)[:, None] + np.arange(3)
        self.a, self.b = (_numbers(stack.point(plan[k]) for _, plan in plans) for k in (1, 2))
        self.offsets = np.array([plan[3] for _, plan in plans])[:, :, None]
        self.sides = [
            (self._room(stack, plans, k), sign, points[[i for i, (_, plan) in enumerate(plans) if plan[k].body >= 0]])
            for k, sign, points in ((1, 1.0, self.a), (2, -1.0, self.b))
        ]

    @staticmethod
    def _room(stack: Stack, plans: Sequence[tuple[int, Any]], k: int) -> slice:
        """Of every constraint whose mark moves: three ones, then δθ × w by its six terms."""
        moving = [(row, 6 * plan[k].body) for row, plan in plans if plan[k].body >= 0]
        own, at = (np.array(moving, dtype=np.intp).reshape(-1, 2)[:, column] for column in (0, 1))
        i, j, m = np.array([0, 1, 2]), np.array([1, 2, 0]), np.array([2, 0, 1])
        return stack.entry(
            own[:, None] + np.concatenate([i, i, i]), at[:, None] + np.concatenate([i, 3 + j, 3 + m])
        )  # fmt: skip

    def evaluate(
        self, places: Array, levers: Array, ways: Array, drives: Array, out: Array, entries: Array | None
    ) -> None:
        out[self.rows] = places[self.a] - places[self.b] - self.offsets
        if entries is None:
            return
        for room, sign, points in self.sides:
            w = levers[points]
            own = entries[room].reshape(len(points), 9, entries.shape[1])
            own[:, :3] = sign
            own[:, 3:6] = sign * w[:, (2, 0, 1)]
            own[:, 6:] = -sign * w[:, (1, 2, 0)]


class _Parallels(Kind):
    def __init__(self, stack: Stack, plans: Sequence[tuple[int, Any]]) -> None:
        each = [(row + i, plan, normal) for row, plan in plans for i, normal in enumerate(plan[4])]
        rows = [row for row, _, _ in each]
        self.rows = _numbers(rows)
        self.a = _numbers(stack.way(plan[1], plan[2]) for _, plan, _ in each)
        self.b = _numbers(stack.way(plan[3], normal) for _, plan, normal in each)
        self.sides = [_Turned(stack, rows, [plan[k] for _, plan, _ in each]) for k in (1, 3)]

    def evaluate(
        self, places: Array, levers: Array, ways: Array, drives: Array, out: Array, entries: Array | None
    ) -> None:
        one, n = ways[self.a], ways[self.b]
        out[self.rows] = _dot(one, n)
        if entries is not None:
            self.sides[0].write(entries, one, n)
            self.sides[1].write(entries, n, one)


class _Lines(Kind):
    def __init__(self, stack: Stack, plans: Sequence[tuple[int, Any]]) -> None:
        each = [(row + i, plan, normal, plan[4][i]) for row, plan in plans for i, normal in enumerate(plan[3])]
        rows = [row for row, _, _, _ in each]
        self.rows = _numbers(rows)
        self.marks, self.through = (_numbers(stack.point(plan[k]) for _, plan, _, _ in each) for k in (1, 2))
        self.normals = _numbers(stack.way(plan[2].body, normal) for _, plan, normal, _ in each)
        self.starts = np.array([[start] for _, _, _, start in each])
        self.sides = [_Pushed(stack, rows, [plan[k].body for _, plan, _, _ in each]) for k in (1, 2)]

    def evaluate(
        self, places: Array, levers: Array, ways: Array, drives: Array, out: Array, entries: Array | None
    ) -> None:
        d, n = places[self.marks] - places[self.through], ways[self.normals]
        out[self.rows] = _dot(d, n) - self.starts
        if entries is not None:
            turned = np.empty_like(d)
            _cross(n, d, turned)  # the normal turns with the body that the line stands on
            self.sides[0].write(entries, n, levers[self.marks])
            self.sides[1].write(entries, -n, levers[self.through], turned)


class _Coordinates(Kind):
    def __init__(self, stack: Stack, plans: Sequence[tuple[int, Any]]) -> None:
        rows = [row for row, _ in plans]
        self.rows = _numbers(rows)
        self.marks = _numbers(stack.point(plan[1]) for _, plan in plans)
        self.along = np.array([plan[2] for _, plan in plans])[:, :, None]
        self.starts = np.array([[plan[3]] for _, plan in plans])
        self.driven = [(row, plan[4]) for row, plan in plans if plan[4] >= 0]
        self.side = _Pushed(stack, rows, [plan[1].body for _, plan in plans])

    def evaluate(
        self, places: Array, levers: Array, ways: Array, drives: Array, out: Array, entries: Array | None
    ) -> None:
        out[self.rows] = _dot(self.along, places[self.marks]) - self.starts
        for row, drive in self.driven:
            out[row] -= drives[drive]
        if entries is not None:
            self.side.write(entries, self.along, levers[self.marks])


class _Turns(Kind):
    def __init__(self, stack: Stack, plans: Sequence[tuple[int, Any]]) -> None:
        rows = [row for row, _ in plans]
        self.rows = _numbers(rows)
        self.turned = _numbers(stack.way(plan[1], plan[2]) for _, plan in plans)
        self.along, self.across = (np.array([plan[k] for _, plan in plans])[:, :, None] for k in (2, 3))
        self.driven = [(i, plan[4]) for i, (_, plan) in enumerate(plans) if plan[4] >= 0]
        self.side = _Turned(stack, rows, [plan[1] for _, plan in plans])

    def evaluate(
        self, places: Array, levers: Array, ways: Array, drives: Array, out: Array, entries: Array | None
    ) -> None:
        angle = np.zeros((len(self.rows), 1, places.shape[2]))
        for i, drive in self.driven:
            angle[i] = drives[drive]
        # the normal of where it should point, in the plane it turns in
        n, v = self.across * np.cos(angle) - self.along * np.sin(angle), ways[self.turned]
        out[self.rows] = _dot(v, n)
        if entries is not None:
            self.side.write(entries, v, n)


def stacked(plans: Sequence[tuple[int, Any]]) -> Stack:
    """Constraints as `System` compiles them, kind by kind.

    Args:
        plans: first row and compiled constraint.
    """
    of: dict[str, list[tuple[int, Any]]] = {}
    for row, plan in plans:
        if plan[0] == "bush":
            of.setdefault("line", []).append((row, plan[1]))
            if plan[2]:
                of.setdefault("parallel", []).append((row + 3, plan[2]))
        else:
            of.setdefault(plan[0], []).append((row, plan))
    made = {
        "distance": _Distances, "coincident": _Coincidents, "parallel": _Parallels, "line": _Lines, "coordinate": _Coordinates,
        "turned": _Turns,
    }  # fmt: skip
    stack = Stack()
    stack.kinds = [made[name](stack, own) for name, own in of.items()]
    stack.close()
    return stack
