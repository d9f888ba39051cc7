"""Residuals and their exact Jacobian at many positions at once.

Arrays have the position last: shape (…, lanes). A body's pose is a displacement r of its origin (the mean of its marks)
and a rotation matrix R; a step turns it by exp(θ×) from the left, so that dp = δr + δθ × (R s).
"""

from __future__ import annotations

from functools import cached_property, lru_cache
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
    Square,
    Turned,
    Vector,
    bodies_of,
    stiffnesses,
    unit,
)
from tirante.core.mechanism.stacked import Point, Stack, stacked
from tirante.core.mechanism.stacked import Poses as Poses

Array = NDArray[np.float64]


def _perpendicular(axis: Vector) -> tuple[Vector, Vector]:
    a = np.array(axis)
    seed = np.eye(3)[int(np.argmin(np.abs(a)))]
    one = np.cross(a, seed)
    one /= np.linalg.norm(one)
    two = np.cross(a, one)
    return (float(one[0]), float(one[1]), float(one[2])), (float(two[0]), float(two[1]), float(two[2]))


class System:
    """A mechanism compiled for evaluation.

    Args:
        mechanism: what is compiled.
        origins: of the bodies (bodies, 3), where poses of another mechanism are to be those of this one; by default the mean of their marks.
    """

    def __init__(self, mechanism: Mechanism, origins: Array | None = None) -> None:
        self.mechanism = mechanism
        self.index = {name: i for i, name in enumerate(mechanism.bodies)} | {GROUND: -1}
        self.drive_index = {name: i for i, name in enumerate(mechanism.drivers)}
        self.origins = self._origins() if origins is None else origins
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

    def point(self, mark: Mark) -> Point:
        """Compile a mark."""
        body = self.index[mark.body]
        origin = self.origins[body] if body >= 0 else np.zeros(3)
        lever = tuple(float(v) for v in np.array(mark.at) - origin)
        return Point(
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
        if isinstance(constraint, Square):
            one, other = (unit(axis, constraint.name) for axis in (constraint.axis_a, constraint.axis_b))
            return "parallel", self.index[constraint.body_a], one, self.index[constraint.body_b], (other,)
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

    def _at(self, poses: Poses, point: Point, drives: Array) -> tuple[Array, Array | None]:
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

    def evaluate(self, poses: Poses, drives: Array, jacobian: Array | None = None) -> Array:
        """Residuals (equations, lanes); fills `jacobian` (equations, unknowns, lanes) when given."""
        out = np.empty((self.mechanism.equations, poses.lanes))
        self._stack.evaluate(poses, drives, self.origins, out, jacobian)
        return out

    @cached_property
    def _stack(self) -> Stack:
        return stacked([(row, plan) for (_, row, _), plan in zip(self.rows, self._plan, strict=True)])

    def _vector(self, poses: Poses, body: int, vector: Vector) -> Array:
        if body < 0:
            return np.broadcast_to(np.array(vector)[:, None], (3, poses.lanes))
        return self._lever(poses, body, vector)

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
        six = delta.reshape(len(self.mechanism.bodies), 6, -1)
        poses.r += six[:, :3]
        poses.R[...] = rotate(six[:, 3:], poses.R)


@lru_cache(maxsize=64)
def system_of(mechanism: Mechanism) -> System:
    """A mechanism compiled; the same one for all who ask for it, with the orders of elimination that were found for it.

    Args:
        mechanism: alike in every point, whatever it was made of.
    """
    return System(mechanism)


def rotate(theta: Array, turn: Array) -> Array:
    """exp(θ×) times rotations by the unit quaternion of θ (exact, and exactly orthogonal to rounding).

    Args:
        theta: of every body (bodies, 3, lanes) [rad].
        turn: as they stand (bodies, 3, 3, lanes).
    """
    t = theta.swapaxes(0, 1)
    half = 0.5 * np.sqrt(t[0] ** 2 + t[1] ** 2 + t[2] ** 2)
    w = np.cos(half)
    s = 0.5 * np.sinc(half / np.pi)
    x, y, z, w = (of[:, None] for of in (t[0] * s, t[1] * s, t[2] * s, w))
    # their columns turned: v + 2 q × (q × v + w v)
    vx, vy, vz = turn[:, 0], turn[:, 1], turn[:, 2]
    cx, cy, cz = y * vz - z * vy + w * vx, z * vx - x * vz + w * vy, x * vy - y * vx + w * vz
    out = np.empty_like(turn)
    out[:, 0] = vx + 2 * (y * cz - z * cy)
    out[:, 1] = vy + 2 * (z * cx - x * cz)
    out[:, 2] = vz + 2 * (x * cy - y * cx)
    return out
