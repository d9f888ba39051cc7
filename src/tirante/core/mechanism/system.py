"""Residuals and their exact Jacobian at many positions at once.

Arrays have the position last: shape (…, lanes). A body's pose is a displacement r of its origin (the mean of its marks)
and a rotation matrix R; a step turns it by exp(θ×) from the left, so that dp = δr + δθ × (R s).
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np
from numpy.typing import NDArray

from tirante.core.mechanism.model import (
    GROUND,
    Bush,
    Coincident,
    Coordinate,
    Distance,
    Mark,
    Mechanism,
    OnLine,
    Parallel,
    Turned,
    Vector,
    bodies_of,
    stiffnesses,
    unit,
)

Array = NDArray[np.float64]


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
class _Point:
    """A mark, compiled: body index (−1 ground), lever from the body's origin, driver index and direction."""

    body: int
    lever: Vector
    at: Vector
    drive: int
    along: Vector


def _perpendicular(axis: Vector) -> tuple[Vector, Vector]:
    a = np.array(axis)
    seed = np.eye(3)[int(np.argmin(np.abs(a)))]
    one = np.cross(a, seed)
    one /= np.linalg.norm(one)
    two = np.cross(a, one)
    return (float(one[0]), float(one[1]), float(one[2])), (float(two[0]), float(two[1]), float(two[2]))


class System:
    """A mechanism compiled for evaluation."""

    def __init__(self, mechanism: Mechanism) -> None:
        self.mechanism = mechanism
        self.others: dict[str, System] = {}  # made of the same bodies, held otherwise, by whoever asked for them
        self.index = {name: i for i, name in enumerate(mechanism.bodies)} | {GROUND: -1}
        self.drive_index = {name: i for i, name in enumerate(mechanism.drivers)}
        self.origins = self._origins()
        # [N/mm, of leaning N·mm/rad] of each equation, 0 where it does not yield
        self.stiffness = np.array([k for c in mechanism.constraints for k in stiffnesses(c)])
        self.plans: dict[str, object] = {}  # orders of elimination, found once, kept by the solver
        self.rows: list[tuple[str, int, int]] = []  # (constraint, first row, rows)
        row = 0
        for constraint in mechanism.constraints:
            count = len(stiffnesses(constraint))
            self.rows.append((constraint.name, row, count))
            row += count
        self._plan = [self._compile(constraint) for constraint in mechanism.constraints]

    def _origins(self) -> Array:
        found: dict[int, list[Vector]] = {i: [] for i in range(len(self.mechanism.bodies))}
        for constraint in self.mechanism.constraints:
            for name in ("a", "b", "mark", "through"):
                mark = getattr(constraint, name, None)
                if isinstance(mark, Mark) and self.index[mark.body] >= 0:
                    found[self.index[mark.body]].append(mark.at)
        return np.array([np.mean(points, axis=0) if points else np.zeros(3) for points in found.values()]).reshape(
            -1, 3
        )

    def point(self, mark: Mark) -> _Point:
        """Compile a mark."""
        body = self.index[mark.body]
        origin = self.origins[body] if body >= 0 else np.zeros(3)
        lever = tuple(float(v) for v in np.array(mark.at) - origin)
        return _Point(
            body=body, lever=lever, at=mark.at, drive=self.drive_index[mark.drive] if mark.drive else -1, along=mark.along,  # type: ignore[arg-type]
        )  # fmt: skip

    def _compile(self, constraint: object) -> tuple[object, ...]:
        if isinstance(constraint, Distance):
            a, b = self.point(constraint.a), self.point(constraint.b)
            length = constraint.length
            if length is None:
                length = float(np.linalg.norm(np.subtract(constraint.a.at, constraint.b.at)))
            drive = self.drive_index[constraint.drive] if constraint.drive else -1
            return "distance", a, b, length, drive
        if isinstance(constraint, Coincident):
            offset = np.zeros(3) if constraint.meet else np.subtract(constraint.a.at, constraint.b.at)
            return "coincident", self.point(constraint.a), self.point(constraint.b), offset
        if isinstance(constraint, Bush):
            axis = unit(constraint.axis, constraint.name)
            square = _perpendicular(axis)
            held = "line", self.point(constraint.a), self.point(constraint.b), (axis, *square), (0.0, 0.0, 0.0)
            leans = "parallel", self.index[constraint.a.body], axis, self.index[constraint.b.body], square
            return "bush", held, leans if constraint.conical else None
        if isinstance(constraint, Parallel):
            axis = unit(constraint.axis, constraint.name)
            other = unit(constraint.axis_b, constraint.name) if constraint.axis_b else axis
            return "parallel", self.index[constraint.body_a], axis, self.index[constraint.body_b], _perpendicular(other)
        if isinstance(constraint, OnLine):
            normals = _perpendicular(unit(constraint.along, constraint.name))
            through = self.point(constraint.through)
            start = np.zeros(3) if constraint.meet else np.subtract(constraint.mark.at, constraint.through.at)
            return (
                "line",
                self.point(constraint.mark),
                through,
                normals,
                tuple(float(start @ n) for n in np.array(normals)),
            )
        if isinstance(constraint, Coordinate):
            along = unit(constraint.along, constraint.name)
            drive = self.drive_index[constraint.drive] if constraint.drive else -1
            return "coordinate", self.point(constraint.mark), along, float(np.dot(constraint.mark.at, along)), drive
        assert isinstance(constraint, Turned)
        direction, about = (
            np.array(unit(constraint.direction, constraint.name)),
            np.array(unit(constraint.about, constraint.name)),
        )
        across = np.cross(about, direction)
        drive = self.drive_index[constraint.drive] if constraint.drive else -1
        return "turned", self.index[constraint.body], tuple(direction), tuple(across), drive

    @cached_property
    def structure(self) -> tuple[object, ...]:
        """What is tied to what by which constraint: alike for mechanisms that differ in their points alone."""
        kinds = tuple(
            (type(c).__name__, tuple(self.index[b] for b in bodies_of(c))) for c in self.mechanism.constraints
        )
        return (*kinds, tuple(self.stiffness > 0))

    def like(self, other: System) -> None:
        """Take over the orders of elimination of a mechanism of the same structure; they are guarded where they are used."""
        if self.structure == other.structure:
            self.__dict__["pattern"] = other.pattern
            self.plans |= {name: other.plans[name] for name in ("order", "optimality") if name in other.plans}

    @cached_property
    def pattern(self) -> NDArray[np.bool_]:
        """Which entries of the Jacobian can differ from zero, from a position with no symmetry left in it."""
        rng = np.random.default_rng(1)
        poses = self.reference(4)
        self.step(poses, rng.normal(size=(self.mechanism.unknowns, 4)) * 0.3)
        jacobian = np.empty((self.mechanism.equations, self.mechanism.unknowns, 4))
        self.evaluate(poses, rng.normal(size=(len(self.mechanism.drivers), 4)), jacobian)
        found: NDArray[np.bool_] = (jacobian != 0).any(axis=2)
        return found

    def reference(self, lanes: int) -> Poses:
        """The reference position, repeated."""
        n = len(self.mechanism.bodies)
        rotation = np.zeros((n, 3, 3, lanes))
        rotation[:, (0, 1, 2), (0, 1, 2)] = 1.0
        return Poses(r=np.zeros((n, 3, lanes)), R=rotation)

    # --- evaluation -----------------------------------------------------------------------------------------------------

    def _lever(self, poses: Poses, body: int, s: Vector) -> Array:
        turn = poses.R[body]
        found: Array = turn[:, 0] * s[0] + turn[:, 1] * s[1] + turn[:, 2] * s[2]
        return found

    def _at(self, poses: Poses, point: _Point, drives: Array) -> tuple[Array, Array | None]:
        """Where a point is (3, lanes), and its lever from the body's origin."""
        if point.body < 0:
            place = np.broadcast_to(np.array(point.at)[:, None], (3, poses.lanes))
            if point.drive >= 0:
                place = place + np.array(point.along)[:, None] * drives[point.drive]
            return place, None
        w = self._lever(poses, point.body, point.lever)
        return self.origins[point.body][:, None] + poses.r[point.body] + w, w

    def where(self, poses: Poses, mark: Mark, drives: Array) -> Array:
        """Where a mark is at every position (3, lanes) [mm]."""
        return self._at(poses, self.point(mark), drives)[0]

    def direction(self, poses: Poses, body: str, vector: Vector) -> Array:
        """Where a direction of a body points (3, lanes)."""
        return self._vector(poses, self.index[body], vector)

    @staticmethod
    def _push(jacobian: Array, row: int, body: int, n: Array, w: Array, sign: float) -> None:
        """n · dp of a point with lever w: displacement n, rotation w × n."""
        column = 6 * body
        jacobian[row, column : column + 3] += sign * n
        jacobian[row, column + 3] += sign * (w[1] * n[2] - w[2] * n[1])
        jacobian[row, column + 4] += sign * (w[2] * n[0] - w[0] * n[2])
        jacobian[row, column + 5] += sign * (w[0] * n[1] - w[1] * n[0])

    def evaluate(self, poses: Poses, drives: Array, jacobian: Array | None = None) -> Array:
        """Residuals (equations, lanes); fills `jacobian` (equations, unknowns, lanes) when given."""
        lanes = poses.lanes
        out = np.empty((self.mechanism.equations, lanes))
        if jacobian is not None:
            jacobian.fill(0.0)
        for (_, row, _), plan in zip(self.rows, self._plan, strict=True):
            getattr(self, f"_{plan[0]}")(plan, row, poses, drives, out, jacobian)
        return out

    def _distance(self, plan, row, poses, drives, out, jacobian) -> None:  # type: ignore[no-untyped-def]
        _, a, b, length, drive = plan
        pa, wa = self._at(poses, a, drives)
        pb, wb = self._at(poses, b, drives)
        d = pa - pb
        size = np.sqrt(d[0] * d[0] + d[1] * d[1] + d[2] * d[2])
        out[row] = size - length
        if drive >= 0:
            out[row] -= drives[drive]
        if jacobian is not None:
            n = d / np.maximum(size, 1e-12)
            if wa is not None:
                self._push(jacobian, row, a.body, n, wa, 1.0)
            if wb is not None:
                self._push(jacobian, row, b.body, n, wb, -1.0)

    def _coincident(self, plan, row, poses, drives, out, jacobian) -> None:  # type: ignore[no-untyped-def]
        _, a, b, offset = plan
        pa, wa = self._at(poses, a, drives)
        pb, wb = self._at(poses, b, drives)
        out[row : row + 3] = pa - pb - offset[:, None]
        if jacobian is None:
            return
        for body, w, sign in ((a.body, wa, 1.0), (b.body, wb, -1.0)):
            if w is None:
                continue
            column = 6 * body
            for i in range(3):
                jacobian[row + i, column + i] += sign
            # δθ × w
            jacobian[row, column + 4] += sign * w[2]
            jacobian[row, column + 5] -= sign * w[1]
            jacobian[row + 1, column + 3] -= sign * w[2]
            jacobian[row + 1, column + 5] += sign * w[0]
            jacobian[row + 2, column + 3] += sign * w[1]
            jacobian[row + 2, column + 4] -= sign * w[0]

    def _turn(self, jacobian: Array, row: int, body: int, moving: Array, n: Array) -> None:
        """n · δ(R v) = δθ · (moving × n)."""
        column = 6 * body + 3
        jacobian[row, column] += moving[1] * n[2] - moving[2] * n[1]
        jacobian[row, column + 1] += moving[2] * n[0] - moving[0] * n[2]
        jacobian[row, column + 2] += moving[0] * n[1] - moving[1] * n[0]

    def _parallel(self, plan, row, poses, drives, out, jacobian) -> None:  # type: ignore[no-untyped-def]
        _, a, axis, b, across = plan
        one = self._vector(poses, a, axis)
        for i, normal in enumerate(across):
            n = self._vector(poses, b, normal)
            out[row + i] = one[0] * n[0] + one[1] * n[1] + one[2] * n[2]
            if jacobian is not None:
                if a >= 0:
                    self._turn(jacobian, row + i, a, one, n)
                if b >= 0:
                    self._turn(jacobian, row + i, b, n, one)

    def _vector(self, poses: Poses, body: int, vector: Vector) -> Array:
        if body < 0:
            return np.broadcast_to(np.array(vector)[:, None], (3, poses.lanes))
        return self._lever(poses, body, vector)

    def _line(self, plan, row, poses, drives, out, jacobian) -> None:  # type: ignore[no-untyped-def]
        _, mark, through, across, start = plan
        pm, wm = self._at(poses, mark, drives)
        pt, wt = self._at(poses, through, drives)
        d = pm - pt
        for i, normal in enumerate(across):
            n = self._vector(poses, through.body, normal)
            out[row + i] = d[0] * n[0] + d[1] * n[1] + d[2] * n[2] - start[i]
            if jacobian is not None:
                if wm is not None:
                    self._push(jacobian, row + i, mark.body, n, wm, 1.0)
                if wt is not None:
                    self._push(jacobian, row + i, through.body, n, wt, -1.0)
                    self._turn(jacobian, row + i, through.body, n, d)

    def _bush(self, plan, row, poses, drives, out, jacobian) -> None:  # type: ignore[no-untyped-def]
        _, held, leans = plan
        self._line(held, row, poses, drives, out, jacobian)
        if leans:
            self._parallel(leans, row + 3, poses, drives, out, jacobian)

    def _coordinate(self, plan, row, poses, drives, out, jacobian) -> None:  # type: ignore[no-untyped-def]
        _, mark, along, start, drive = plan
        p, w = self._at(poses, mark, drives)
        out[row] = along[0] * p[0] + along[1] * p[1] + along[2] * p[2] - start
        if drive >= 0:
            out[row] -= drives[drive]
        if jacobian is not None and w is not None:
            n = np.broadcast_to(np.array(along)[:, None], p.shape)
            self._push(jacobian, row, mark.body, n, w, 1.0)

    def _turned(self, plan, row, poses, drives, out, jacobian) -> None:  # type: ignore[no-untyped-def]
        _, body, direction, across, drive = plan
        v = self._vector(poses, body, direction)
        angle = drives[drive] if drive >= 0 else np.zeros(poses.lanes)
        # the normal of where it should point, in the plane it turns in
        n = np.array(across)[:, None] * np.cos(angle) - np.array(direction)[:, None] * np.sin(angle)
        out[row] = v[0] * n[0] + v[1] * n[1] + v[2] * n[2]
        if jacobian is not None and body >= 0:
            self._turn(jacobian, row, body, v, n)

    def drive_slope(self, poses: Poses, drives: Array, driver: str) -> Array:
        """Derivative of the residuals by a driver (equations, lanes), exact."""
        k = self.drive_index[driver]
        out = np.zeros((self.mechanism.equations, poses.lanes))
        for (_, row, _), compiled in zip(self.rows, self._plan, strict=True):
            plan: Any = compiled
            kind = plan[0]
            if kind == "distance":
                _, a, b, _, own = plan
                if a.drive == k or b.drive == k:
                    d = self._at(poses, a, drives)[0] - self._at(poses, b, drives)[0]
                    n = d / np.maximum(np.sqrt((d * d).sum(axis=0)), 1e-12)
                    for point, sign in ((a, 1.0), (b, -1.0)):
                        if point.drive == k:
                            out[row] += sign * (n * np.array(point.along)[:, None]).sum(axis=0)
                if own == k:
                    out[row] -= 1.0
            elif kind == "coordinate" and plan[4] == k:
                out[row] -= 1.0
            elif kind == "turned" and plan[4] == k:
                v = self._vector(poses, plan[1], plan[2])
                angle = drives[k]
                n = -np.array(plan[3])[:, None] * np.sin(angle) - np.array(plan[2])[:, None] * np.cos(angle)
                out[row] = (v * n).sum(axis=0)
            elif kind == "coincident" and any(p.drive == k for p in plan[1:3]):
                for point, sign in ((plan[1], 1.0), (plan[2], -1.0)):
                    if point.drive == k:
                        out[row : row + 3] += sign * np.array(point.along)[:, None]
        return out

    def step(self, poses: Poses, delta: Array) -> None:
        """Move by a Newton step (unknowns, lanes), in place; rotations stay rotations."""
        for body in range(len(self.mechanism.bodies)):
            at = 6 * body
            poses.r[body] += delta[at : at + 3]
            poses.R[body] = rotate(delta[at + 3 : at + 6], poses.R[body])


def rotate(theta: Array, turn: Array) -> Array:
    """exp(θ×) times a rotation by the unit quaternion of θ (exact, and exactly orthogonal to rounding)."""
    half = 0.5 * np.sqrt(theta[0] ** 2 + theta[1] ** 2 + theta[2] ** 2)
    w = np.cos(half)
    s = 0.5 * np.sinc(half / np.pi)
    x, y, z = theta[0] * s, theta[1] * s, theta[2] * s
    out = np.empty_like(turn)
    # its columns turned one by one: v + 2 q × (q × v + w v)
    for j in range(3):
        vx, vy, vz = turn[0, j], turn[1, j], turn[2, j]
        cx, cy, cz = y * vz - z * vy + w * vx, z * vx - x * vz + w * vy, x * vy - y * vx + w * vz
        out[0, j] = vx + 2 * (y * cz - z * cy)
        out[1, j] = vy + 2 * (z * cx - x * cz)
        out[2, j] = vz + 2 * (x * cy - y * cx)
    return out
