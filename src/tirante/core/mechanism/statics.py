"""Forces in a mechanism that stands still, from its own Jacobian.

With residuals as true lengths the multipliers are newtons, tension positive: Jᵀ f = w, w the wrenches on the bodies.
Where more holds than is needed, what yields shares by its stiffness: f = K J δ with the rigid rows met exactly.

Source:
    Virtual work (derived; docs/methods.md, Forces in the mechanism).
"""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np
from numpy.typing import ArrayLike

from tirante.core.errors import InputError
from tirante.core.geometry.vectors import cross
from tirante.core.mechanism.model import GROUND, Mark, Vector
from tirante.core.mechanism.solve import Positions
from tirante.core.mechanism.system import Array, System

ROTATION = 100.0  # mm: rows of length and of angle weigh alike in what counts as free
FREE = 1e-9  # of the largest singular value
WORK = 1e-7  # of the load: a load that does less work on a free motion is carried


class Standing:
    """A mechanism as it stands at many positions: where its marks are and what its constraints feel, worked out for all of them at
    once when it is first asked for."""

    def __init__(self, solved: Positions, free: Collection[str]) -> None:
        """
        Args:
            solved: its positions.
            free: drivers that may be taken off; what they drive holds nothing then.
        """
        self.solved, self.system = solved, solved.system
        self._marks: dict[Mark, Array] = {}
        self._ways: dict[tuple[str, Vector], Array] = {}
        self.kept: dict[object, Any] = {}  # by whoever asks again for what is alike for all positions
        constraints = {c.name: c for c in self.system.mechanism.constraints}
        self.driven = tuple(name for name, c in constraints.items() if getattr(c, "drive", None) in free)
        self._rows: dict[bool, tuple[list[int], dict[str, slice]]] = {}

    def at(self, mark: Mark, lane: int) -> Array:
        """Where a mark is (3) [mm]."""
        found = self._marks.get(mark)
        if found is None:
            found = self._marks[mark] = self.system.where(self.solved.poses, mark, self.solved.drives)
        return found[:, lane]

    def way(self, body: str, vector: Vector, lane: int) -> Array:
        """Where a direction of a body points (3)."""
        key = body, vector
        if key not in self._ways:
            self._ways[key] = self.system.direction(self.solved.poses, body, vector)
        return self._ways[key][:, lane]

    def origin(self, body: str, lane: int) -> Array:
        """Where a body's own origin is (3) [mm]."""
        i = self.system.index[body]
        found: Array = self.system.origins[i] + self.solved.poses.r[i, :, lane]
        return found

    @cached_property
    def jacobian(self) -> Array:
        """Of all constraints (equations, unknowns, lanes)."""
        mechanism = self.system.mechanism
        found = np.empty((mechanism.equations, mechanism.unknowns, self.solved.poses.lanes))
        self.system.evaluate(self.solved.poses, self.solved.drives, found)
        return found

    def rows(self, held: bool) -> tuple[list[int], dict[str, slice]]:
        """Which equations hold, and where each constraint's stand among them.

        Args:
            held: whether the drivers stay on.
        """
        if held not in self._rows:
            kept: list[int] = []
            where: dict[str, slice] = {}
            for name, row, count in self.system.rows:
                if held or name not in self.driven:
                    where[name] = slice(len(kept), len(kept) + count)
                    kept += range(row, row + count)
            self._rows[held] = kept, where
        return self._rows[held]

    def wrench(
        self, lane: int, body: str, at: ArrayLike, force: ArrayLike, moment: ArrayLike = (0.0, 0.0, 0.0)
    ) -> Array:
        """Coordinates of a force at a point, and of a moment, on a body (unknowns); nothing on the ground.

        Args:
            lane: the position.
            body: name of the body.
            at: where the force acts (3) [mm].
            force: (3) [N].
            moment: (3) [N·mm].
        """
        out = np.zeros(self.system.mechanism.unknowns)
        if body != GROUND:
            i = 6 * self.system.index[body]
            force = np.asarray(force, float)
            out[i : i + 3] = force
            out[i + 3 : i + 6] = cross(np.asarray(at, float) - self.origin(body, lane), force) + np.asarray(
                moment, float
            )
        return out


@dataclass(frozen=True, slots=True)
class Strut:
    """What stands between two places where the drivers were: a spring, stop or strap, or a push along a line."""

    name: str
    bodies: tuple[str, str]
    ends: tuple[Array, Array]  # now [mm]
    stiffness: float = 0.0  # [N/mm]; 0: it does not yield
    onto: tuple[
        tuple[str, Array, Array], ...
    ] = ()  # instead of its second body: body, place, share of its force there (3)

    @property
    def along(self) -> Array:
        """From its second end to its first (3): the way in which it grows."""
        d = self.ends[0] - self.ends[1]
        found: Array = d / np.linalg.norm(d)
        return found

    @property
    def pulls(self) -> tuple[tuple[str, Array, Array], ...]:
        """What a tension of one puts on the bodies: body, place, force (3)."""
        (one, two), (pa, pb), n = self.bodies, self.ends, self.along
        return ((one, pa, -n), *(self.onto or ((two, pb, n),)))


@dataclass(frozen=True, slots=True)
class Shared:
    """Several struts that carry together, each its own share of one tension, because all lengthen together."""

    name: str
    parts: tuple[tuple[float, Strut], ...]  # share, strut

    @property
    def stiffness(self) -> float:
        """Together they do not yield."""
        return 0.0

    @property
    def pulls(self) -> tuple[tuple[str, Array, Array], ...]:
        """What a tension of one puts on the bodies: body, place, force (3)."""
        return tuple((body, at, share * force) for share, strut in self.parts for body, at, force in strut.pulls)


@dataclass(frozen=True, slots=True)
class Balance:
    """Forces of one position under several loads."""

    standing: Standing
    lane: int
    rows: Mapping[str, slice]
    jacobian: Array  # (equations, unknowns)
    forces: Array  # (equations, loads): multipliers, N or N·mm
    residual: Array  # (loads) of equilibrium, relative to the load
    carried: list[InputError | None]  # by load: why it cannot be carried

    def of(self, constraint: str) -> Array:
        """A constraint's multipliers (rows, loads); of a link its tension."""
        return self.forces[self.rows[constraint]]


def balance(standing: Standing, lane: int, struts: Sequence[Strut | Shared], loads: Array) -> Balance:
    """Equilibrium of a position under loads.

    A load that nothing carries has its reason in `carried` and NaN forces; the others stand.

    Args:
        standing: the mechanism at its positions.
        lane: which of them.
        struts: in the place of the drivers; none: these stay on.
        loads: one a column (unknowns, loads) [N, N·mm].
    """
    system = standing.system
    kept, rows = standing.rows(not struts)
    rows = rows | {strut.name: slice(len(kept) + i, len(kept) + i + 1) for i, strut in enumerate(struts)}
    more = [strut_row(standing, lane, strut) for strut in struts]
    j = np.concatenate([standing.jacobian[kept, :, lane], *more])
    stiffness = np.array([*system.stiffness[kept], *(strut.stiffness for strut in struts)])
    count = loads.shape[1]
    carried: list[InputError | None] = [None] * count
    scale = np.tile([1.0, 1.0, 1.0, 1 / ROTATION, 1 / ROTATION, 1 / ROTATION], len(system.mechanism.bodies))
    values = np.linalg.svd(j * scale, compute_uv=False)
    rank = int((values > FREE * values.max(initial=0.0)).sum())
    size = np.abs(loads * scale[:, None]).max(axis=0, initial=0.0)
    if rank < j.shape[1]:
        free = np.linalg.svd(j * scale)[2][rank:]
        carried = _unheld(system, free, scale, loads, size)
    forces = np.empty((j.shape[0], count))
    forces[:] = _redundant(stiffness, j, loads) if j.shape[0] > rank else _solved(j, loads)
    left = (j.T @ forces - loads) * scale[:, None]
    residual = np.abs(left).max(axis=0, initial=0.0) / np.maximum(size, 1e-12)
    for column, error in enumerate(carried):
        if error:
            forces[:, column], residual[column] = np.nan, np.nan
    return Balance(
        standing=standing, lane=lane, rows=rows, jacobian=j, forces=forces, residual=residual, carried=carried
    )


def _solved(j: Array, loads: Array) -> Array:
    """As many equations as unknowns; fewer where something is free to move, which no load may drive."""
    square = j.shape[0] == j.shape[1]
    return np.asarray(np.linalg.solve(j.T, loads) if square else np.linalg.pinv(j.T) @ loads, dtype=np.float64)


def strut_row(standing: Standing, lane: int, strut: Strut | Shared) -> Array:
    """Its row of the Jacobian (1, unknowns): by how much its length changes with every coordinate.

    Args:
        standing: the mechanism at its positions.
        lane: which of them.
        strut: that stands in it.
    """
    return -sum(standing.wrench(lane, body, at, force) for body, at, force in strut.pulls)[None]  # type: ignore[index]


def _unheld(system: System, free: Array, scale: Array, loads: Array, size: Array) -> list[InputError | None]:
    """Of every load: the free motion that it drives, named by the bodies that it moves."""
    out: list[InputError | None] = []
    for lane in range(loads.shape[1]):
        work = free @ (loads[:, lane] * scale) if len(free) else np.zeros(0)
        driven = np.abs(work) > WORK * max(size[lane], 1e-12)
        if not driven.any():
            out.append(None)
            continue
        motion = np.abs(work[driven] @ free[driven]).reshape(-1, 6).max(axis=1)
        names = [
            name for name, moved in zip(system.mechanism.bodies, motion, strict=True) if moved > 1e-3 * motion.max()
        ]
        out.append(
            InputError(
                f"Nothing holds {', '.join(names)} against this load: it moves freely here. Add what holds it, or leave the load out.",
                code="not_carried", fields=tuple(names),
            )
        )  # fmt: skip
    return out


def _redundant(stiffness: Array, j: Array, loads: Array) -> Array:
    """f = K J δ on what yields, multipliers on what does not: one symmetric system, refined once.

    Rows of angle and of length are brought to like size first; a motion that nothing holds and no load drives stays at rest.
    """
    soft = stiffness > 0
    n, h = j.shape[1], int((~soft).sum())
    scale = np.tile([1.0, 1.0, 1.0, 1 / ROTATION, 1 / ROTATION, 1 / ROTATION], n // 6)
    js, jh = j[soft] * scale, j[~soft] * scale
    k = stiffness[soft]
    top = k.max(initial=1.0)
    matrix = np.zeros((n + h, n + h))
    matrix[:n, :n] = js.T @ ((k / top)[:, None] * js)
    matrix[:n, n:], matrix[n:, :n] = jh.T, jh
    rhs = np.concatenate([loads * scale[:, None], np.zeros((h, loads.shape[1]))])
    inverse = np.linalg.pinv(matrix, rcond=1e-13, hermitian=True)
    found = inverse @ rhs
    for _ in range(2):
        found += inverse @ (rhs - matrix @ found)
    out = np.empty((j.shape[0], loads.shape[1]))
    out[soft] = (k / top)[:, None] * (js @ found[:n])
    out[~soft] = found[n:]
    return out
