"""Forces in a mechanism that stands still, from its own Jacobian.

With residuals as true lengths the multipliers are newtons, tension positive: Jᵀ f = w, w the wrenches on the bodies.
Where more holds than is needed, what yields shares by its stiffness: f = K J δ with the rigid rows met exactly.

Source:
    Virtual work (derived; docs/methods.md, Forces in the mechanism).
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike

from tirante.core.errors import InputError
from tirante.core.geometry.vectors import cross
from tirante.core.mechanism.model import GROUND, Mark
from tirante.core.mechanism.system import Array, Poses, System

ROTATION = 100.0  # mm: rows of length and of angle weigh alike in what counts as free
FREE = 1e-9  # of the largest singular value
WORK = 1e-7  # of the load: a load that does less work on a free motion is carried


@dataclass(frozen=True, slots=True)
class Balance:
    """Forces of one position under several loads."""

    system: System
    poses: Poses  # one position
    jacobian: Array  # (equations, unknowns)
    forces: Array  # (equations, loads): multipliers, N or N·mm
    residual: Array  # (loads) of equilibrium, relative to the load
    carried: list[InputError | None]  # by load: why it cannot be carried

    def of(self, constraint: str) -> Array:
        """A constraint's multipliers (rows, loads); of a link its tension."""
        row, count = next((row, count) for name, row, count in self.system.rows if name == constraint)
        return self.forces[row : row + count]

    def on_body(self, constraint: str, body: str, at: Array) -> tuple[Array, Array]:
        """Force and moment about a point that a constraint puts on a moving body, each (3, loads) [N, N·mm]."""
        row, count = next((row, count) for name, row, count in self.system.rows if name == constraint)
        i = self.system.index[body]
        wrench = -self.jacobian[row : row + count, 6 * i : 6 * i + 6].T @ self.forces[row : row + count]
        force, moment = wrench[:3], wrench[3:]
        arm = at - self.origin(body)
        return force, moment - cross(arm, force)

    def origin(self, body: str) -> Array:
        """Where a body's own origin is now [mm]."""
        i = self.system.index[body]
        found: Array = self.system.origins[i] + self.poses.r[i, :, 0]
        return found


def where(system: System, poses: Poses, drives: Array, mark: Mark) -> Array:
    """Where a mark is in a single position (3) [mm].

    Args:
        system: the mechanism.
        poses: of its bodies.
        drives: values of the drivers (drivers, 1) [mm, rad].
        mark: the point.
    """
    return system.where(poses, mark, drives)[:, 0]


def reference_of(system: System, poses: Poses, body: str, at: Array) -> tuple[float, float, float]:
    """Where a point of a body that is at `at` now stood in the reference position [mm].

    Args:
        system: the mechanism.
        poses: of its bodies.
        body: name of the body.
        at: the point now (3) [mm].
    """
    if body == GROUND:
        x, y, z = at
        return float(x), float(y), float(z)
    i = system.index[body]
    x, y, z = system.origins[i] + poses.R[i, :, :, 0].T @ (at - system.origins[i] - poses.r[i, :, 0])
    return float(x), float(y), float(z)


def wrench_of(
    system: System, poses: Poses, body: str, at: ArrayLike, force: ArrayLike, moment: ArrayLike = (0.0, 0.0, 0.0)
) -> Array:
    """Coordinates of a force at a point, and of a moment, on a body (unknowns); nothing on the ground.

    Args:
        system: the mechanism.
        poses: of its bodies.
        body: name of the body.
        at: where the force acts (3) [mm].
        force: (3) [N].
        moment: (3) [N·mm].
    """
    out = np.zeros(system.mechanism.unknowns)
    if body == GROUND:
        return out
    i = system.index[body]
    arm = np.asarray(at, float) - (system.origins[i] + poses.r[i, :, 0])
    out[6 * i : 6 * i + 3] = force
    out[6 * i + 3 : 6 * i + 6] = cross(arm, np.asarray(force, float)) + np.asarray(moment, float)
    return out


def balance(system: System, poses: Poses, drives: Array, loads: Array) -> Balance:
    """Equilibrium of a position under loads (unknowns, loads).

    A load that nothing carries has its reason in `carried` and NaN forces; the others stand.

    Args:
        system: the mechanism.
        poses: of its bodies.
        drives: values of its drivers (drivers, lanes) [mm, rad].
        loads: one a column (unknowns, loads) [N, N·mm].
    """
    jacobian = np.empty((system.mechanism.equations, system.mechanism.unknowns, 1))
    system.evaluate(poses, drives, jacobian)
    j = jacobian[:, :, 0]
    count = loads.shape[1]
    carried: list[InputError | None] = [None] * count
    scale = np.tile([1.0, 1.0, 1.0, 1 / ROTATION, 1 / ROTATION, 1 / ROTATION], len(system.mechanism.bodies))
    _, values, directions = np.linalg.svd(j * scale)
    rank = int((values > FREE * values.max(initial=0.0)).sum())
    size = np.abs(loads * scale[:, None]).max(axis=0, initial=0.0)
    for lane, refused in enumerate(_unheld(system, directions[rank:], scale, loads, size)):
        carried[lane] = refused
    forces = np.empty((j.shape[0], count))
    forces[:] = _redundant(system, j, loads) if j.shape[0] > rank else np.linalg.solve(j.T, loads)
    left = (j.T @ forces - loads) * scale[:, None]
    residual = np.abs(left).max(axis=0, initial=0.0) / np.maximum(size, 1e-12)
    for lane, error in enumerate(carried):
        if error:
            forces[:, lane], residual[lane] = np.nan, np.nan
    return Balance(system=system, poses=poses, jacobian=j, forces=forces, residual=residual, carried=carried)


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


def _redundant(system: System, j: Array, loads: Array) -> Array:
    """f = K J δ on what yields, multipliers on what does not: one symmetric system, refined once.

    Rows of angle and of length are brought to like size first; a motion that nothing holds and no load drives stays at rest.
    """
    soft = system.stiffness > 0
    n, h = j.shape[1], int((~soft).sum())
    scale = np.tile([1.0, 1.0, 1.0, 1 / ROTATION, 1 / ROTATION, 1 / ROTATION], n // 6)
    js, jh = j[soft] * scale, j[~soft] * scale
    k = system.stiffness[soft]
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
