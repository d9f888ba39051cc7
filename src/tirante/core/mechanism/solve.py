"""Positions of a mechanism: Newton from the reference position, all of them at once.

What cannot be reached directly, or only by a leap, is approached from the reference position in steps; what stays away is
told apart: it cannot be assembled there, or the mechanism stands in a toggle. Redundant mechanisms settle where the strain
energy of their yielding constraints (½ Σ stiffness · residual²) is least, the others met exactly; what is left in each
constraint is its bind. A position is found from the mechanism and its own drives alone: what else is asked for beside it, or
was before, plays no part.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from tirante.core.errors import InputError
from tirante.core.mechanism.linear import Plan, lapack, plan_elimination, solve_many
from tirante.core.mechanism.model import Mechanism
from tirante.core.mechanism.system import Array, Poses, System

TOLERANCE = 1e-9  # mm (and rad for directions)
MAX_ITERATIONS = 40
CHUNK = 4096
RETRY_ITERATIONS = 15  # a small step from a solved position converges in five, or not at all
SETTLING, STALLED = (
    3,
    0.5,
)  # after so many iterations of such a step one that leaves more than this of the residual goes astray
FIRST_STEP, LEAST_STEP = 1 / 4, 1 / 256  # of the way from the reference to a position that was not reached at once
TAME = 0.25  # of the step before, that a step of a redundant mechanism may have while no leap is suspected
CONVERGED, NOT_ASSEMBLED, SINGULAR, OTHER_WAY = 0, 1, 2, 3


@dataclass(slots=True)
class Positions:
    """Solved positions; `status` 0 converged, 1 cannot be assembled, 2 singular, 3 only put together another way round."""

    system: System
    drives: Array  # (drivers, lanes)
    poses: Poses
    residual: Array  # (lanes) largest of the constraints that do not yield [mm]
    status: NDArray[np.int8]
    bind: Array | None  # (equations, lanes) what is left of redundant constraints, None when there are none
    rates: dict[str, object] = field(default_factory=dict)  # kept by whoever asks for velocities

    def take(self, lanes: slice | NDArray[np.intp]) -> Positions:
        """Some of the positions."""
        return Positions(
            system=self.system, drives=self.drives[:, lanes], poses=Poses(r=self.poses.r[..., lanes], R=self.poses.R[..., lanes]),
            residual=self.residual[lanes], status=self.status[lanes], bind=None if self.bind is None else self.bind[:, lanes],
        )  # fmt: skip


def rates(solved: Positions, driver: str, *, once: bool = False) -> Array:
    """Change of every coordinate (unknowns, lanes) for a unit of a driver, the others held: J q' = −∂r/∂drive.

    Args:
        solved: the positions.
        driver: its name.
        once: of a position that is asked for this once: no order of elimination is planned for it; what is singular stands still.
    """
    system = solved.system
    jacobian = np.empty((system.mechanism.equations, system.mechanism.unknowns, solved.poses.lanes))
    system.evaluate(solved.poses, solved.drives, jacobian)
    slope = system.drive_slope(solved.poses, solved.drives, driver)
    if jacobian.shape[0] > jacobian.shape[1]:
        return _redundant_rates(solved, driver, jacobian, slope, once)
    plan = None if once else _plan(system)[0]
    return solve_many(jacobian, -slope, plan)[0] if plan else lapack(jacobian, -slope)[0]


def _redundant_rates(solved: Positions, driver: str, jacobian: Array, slope: Array, once: bool) -> Array:
    """Rates where redundant constraints share: equilibrium is kept, what binds turning with the bodies it acts on.

    d/dt (Jsᵀ K r + Jhᵀ λ) = 0 has, beside the terms of a step, those of J's own change along the motion; they are small as
    the bind is, so one correction with the change along the first answer leaves their square.
    """
    system = solved.system
    soft = system.stiffness > 0
    k = system.stiffness[soft] / system.stiffness.max(initial=1.0)
    first = _optimum(system, jacobian, slope, slope, once=once).step
    r = system.evaluate(solved.poses, solved.drives)
    size = np.abs(first).max(axis=0)
    binds = np.flatnonzero((np.abs(r).max(axis=0) >= TOLERANCE) & np.isfinite(size) & (size > 0.0))
    if len(binds) == 0:  # where nothing binds, nothing turns with the bodies
        return first
    poses, drives = solved.poses.take(binds), solved.drives[:, binds]
    jacobian, slope, r, along = jacobian[:, :, binds], slope[:, binds], r[:, binds], first[:, binds]
    carried = _optimum(system, jacobian, r, r).carried
    step = 0.05 / size[binds]  # of each position by itself
    unit = np.zeros((len(system.mechanism.drivers), len(binds)))
    unit[system.drive_index[driver]] = step
    change = np.zeros_like(jacobian)
    for sign in (1.0, -1.0):
        moved = Poses(r=poses.r.copy(), R=poses.R.copy())
        system.step(moved, sign * step * along)
        there = np.empty_like(jacobian)
        system.evaluate(moved, drives + sign * unit, there)
        change += sign * there / (2 * step)
    turning = (change[soft] * (k[:, None] * r[soft])[:, None]).sum(axis=0) + (change[~soft] * carried[:, None]).sum(
        axis=0
    )
    first[:, binds] = _optimum(system, jacobian, slope, slope, turning).step
    return first


def first_steps(systems: Sequence[System], poses: Poses, drives: Sequence[Array]) -> list[Array]:
    """Where solved positions go when their mechanism is a little otherwise: one step of Newton's for each of several.

    Args:
        systems: mechanisms of one structure and with the same origins, that differ a little from the one that was solved.
        poses: that were solved.
        drives: of each (drivers, lanes).

    Returns:
        Of each the step (unknowns, lanes). Of redundant constraints what binds is taken as not turning with the bodies.
    """
    lefts, rights = [], []
    for system, values in zip(systems, drives, strict=True):
        jacobian = np.empty((system.mechanism.equations, system.mechanism.unknowns, poses.lanes))
        r = system.evaluate(poses, values, jacobian)
        soft = system.stiffness > 0
        if jacobian.shape[0] > jacobian.shape[1]:
            matrix, weighted = _optimality(system, jacobian)
            lefts.append(matrix)
            rights.append(np.concatenate([-(weighted * r[soft][:, None]).sum(axis=0), -r[~soft]]))
        else:
            lefts.append(jacobian)
            rights.append(-r)
    left, right = np.concatenate(lefts, axis=2), np.concatenate(rights, axis=1)
    found, singular = lapack(left, right)
    found[:, singular] = np.nan
    return np.split(found[: systems[0].mechanism.unknowns], len(systems), axis=1)


@dataclass(frozen=True, slots=True, kw_only=True)
class Freedom:
    """How a mechanism is held in its reference position."""

    unknowns: int
    rank: int
    redundant: int
    free: Array  # (unknowns, free) directions that nothing holds, drivers held still

    @property
    def degrees(self) -> int:
        """Motions that nothing holds."""
        return self.unknowns - self.rank


def freedom(system: System) -> Freedom:
    """Count what the constraints hold in the reference position, by singular values.

    Rotations are scaled by 100 mm, so that a row of each kind weighs alike.
    """
    a = _reference_jacobian(system)[:, :, 0]
    scale = np.tile([1.0, 1.0, 1.0, 0.01, 0.01, 0.01], len(system.mechanism.bodies))
    a *= scale
    _, values, directions = np.linalg.svd(a)
    largest = values[0] if len(values) else 0.0
    rank = int((values > 1e-8 * max(largest, 1e-300)).sum())
    return Freedom(
        unknowns=a.shape[1], rank=rank, redundant=a.shape[0] - rank, free=(directions[rank:] * scale).T,
    )  # fmt: skip


def solve(mechanism: Mechanism | System, drives: Array, *, start: Poses | None = None) -> Positions:
    """Solve every column of `drives` (drivers, lanes).

    Args:
        mechanism: with at least as many equations as unknowns.
        drives: a value for each driver at each position [mm, rad].
        start: poses to start from, the reference position by default.

    Returns:
        Positions; those not reached hold the last state tried and say so in `status`.

    Raises:
        InputError: something of the mechanism is free to move.
    """
    system = mechanism if isinstance(mechanism, System) else System(mechanism)
    if "held" not in system.plans:
        system.plans["held"] = freedom(system)
    held: Freedom = system.plans["held"]  # type: ignore[assignment]
    if held.degrees:
        raise InputError(
            f"{held.degrees} motion{'s' if held.degrees > 1 else ''} of it nothing holds: "
            f"{', '.join(moving_bodies(system, held))} can still move. Add the part that is missing.",
            code="under_constrained",
            fields=tuple(moving_bodies(system, held)),
        )
    if held.redundant:
        _refuse_twice_held(system)
    drives = np.asarray(drives, dtype=float)
    if system.mechanism.drivers:
        drives = drives.reshape(len(system.mechanism.drivers), -1)
    lanes = drives.shape[1]
    poses = system.reference(lanes) if start is None else Poses(r=start.r.copy(), R=start.R.copy())
    status = np.full(lanes, NOT_ASSEMBLED, dtype=np.int8)
    residual = np.full(lanes, np.inf)
    bind = np.zeros((system.mechanism.equations, lanes)) if held.redundant else None
    for first in range(0, lanes, CHUNK):
        part = slice(first, min(first + CHUNK, lanes))
        _solve_chunk(system, drives[:, part], poses, part, status, residual, bind)
    _approach(system, drives, poses, status, residual, bind)
    return Positions(system=system, drives=drives, poses=poses, residual=residual, status=status, bind=bind)


def _refuse_twice_held(system: System) -> None:
    """What does not yield must not hold one motion twice: no stiffness would say who carries what.

    Raises:
        InputError: naming the constraints that do.
    """
    hard = system.stiffness == 0
    rows = _reference_jacobian(system)[hard, :, 0] * np.tile(
        [1.0, 1.0, 1.0, 0.01, 0.01, 0.01], len(system.mechanism.bodies)
    )
    directions, values, _ = np.linalg.svd(rows)
    rank = int((values > 1e-8 * max(values.max(initial=0.0), 1e-300)).sum())
    if rank == len(rows):
        return
    involved = np.zeros(len(hard))
    involved[hard] = np.abs(directions[:, rank:]).max(axis=1)
    names = tuple(name for name, first, count in system.rows if involved[first : first + count].max() > 1e-6)
    raise InputError(
        f"{', '.join(names)}: together they hold the same motion twice, and nothing among them yields. "
        "Give a bush among them its stiffness, or leave one out.",
        code="over_constrained", fields=names,
    )  # fmt: skip


def moving_bodies(system: System, held: Freedom) -> list[str]:
    """Names of the bodies that a free motion moves."""
    found = []
    for i, name in enumerate(system.mechanism.bodies):
        if np.abs(held.free[6 * i : 6 * i + 6]).max(initial=0.0) > 1e-6:
            found.append(name)
    return found


def _solve_chunk(
    system: System, drives: Array, poses: Poses, part: slice, status: NDArray[np.int8], residual: Array, bind: Array | None
) -> None:  # fmt: skip
    lanes = np.arange(part.start, part.stop)
    local = Poses(r=poses.r[..., part].copy(), R=poses.R[..., part].copy())
    state, left, over = _newton(system, drives, local)
    poses.put(lanes, local)
    status[part] = state
    residual[part] = left
    if bind is not None and over is not None:
        bind[:, part] = over


def _newton(
    system: System, drives: Array, poses: Poses, iterations: int = MAX_ITERATIONS
) -> tuple[NDArray[np.int8], Array, Array | None]:
    """Iterate in place; lanes that are done, or that cannot go on, are left out of later iterations.

    Of small steps (fewer iterations than from the reference) those that do not close in are left out early: even at a toggle an
    iteration leaves a quarter of the residual, and a half step is tried next.
    """
    if system.mechanism.equations > system.mechanism.unknowns:
        return _least_energy(system, drives, poses, iterations)
    total = poses.lanes
    status = np.full(total, NOT_ASSEMBLED, dtype=np.int8)
    left = np.full(total, np.inf)
    active = np.arange(total)
    work, values = poses, drives
    size = system.mechanism.unknowns
    plan: Plan | None = None
    planned = False
    branch, sign = 1.0, np.ones(total)
    leapt = np.zeros(total, dtype=bool)
    last = np.full(total, np.inf)
    small = iterations < MAX_ITERATIONS
    for i in range(iterations):
        jacobian = np.empty((size, size, work.lanes))
        r = system.evaluate(work, values, jacobian)
        norm = np.abs(r).max(axis=0)
        left[active] = norm
        done = norm < TOLERANCE
        status[active[done]] = CONVERGED
        # a lane whose residual has grown out of all proportion is not coming back
        lost = ~np.isfinite(norm) | ((norm > 1e5) & (norm > last))
        if small and i >= SETTLING:
            lost |= norm > STALLED * last
        keep = ~(done | lost)
        if work is not poses:
            poses.put(active, work)
        if not keep.any():
            break
        if not planned:  # what stands where it starts, as the points of an end at ride height do, needs none
            plan, branch = _plan(system)
            sign[:] = branch
            planned = True
        if not keep.all():
            chosen = np.flatnonzero(keep)
            active = active[chosen]
            work, values = work.take(chosen), values[:, chosen]
            jacobian, r, norm = jacobian[:, :, chosen], r[:, chosen], norm[chosen]
        if plan:
            delta, singular, sign[active] = solve_many(jacobian, -r, plan)
        else:
            delta, singular = lapack(jacobian, -r)
        status[active] = np.where(singular, SINGULAR, NOT_ASSEMBLED)
        leapt[active] |= _limit(delta)
        system.step(work, delta)
        last = norm
    if work is not poses:
        poses.put(active, work)
    _tell_other_way(status, leapt | (sign * branch < 0))
    return status, left, None


def _tell_other_way(status: NDArray[np.int8], gone_over: NDArray[np.bool_]) -> None:
    """What was solved by a leap, or has a determinant of the other sign, may be put together another way round, past a toggle."""
    status[(status == CONVERGED) & gone_over] = OTHER_WAY


def _reference_jacobian(system: System) -> Array:
    jacobian = np.empty((system.mechanism.equations, system.mechanism.unknowns, 1))
    system.evaluate(system.reference(1), np.zeros((len(system.mechanism.drivers), 1)), jacobian)
    return jacobian


def _plan(system: System) -> tuple[Plan | None, float]:
    """The order of elimination and the determinant's sign, from the reference position; None when that is singular."""
    if "plan" not in system.plans:
        jacobian = _reference_jacobian(system)[:, :, 0]
        try:
            if "order" not in system.plans:
                system.plans["order"] = plan_elimination(jacobian, system.pattern)
            system.plans["plan"] = (system.plans["order"], float(np.linalg.slogdet(jacobian).sign))
        except np.linalg.LinAlgError:
            system.plans["plan"] = (None, 1.0)
    return system.plans["plan"]  # type: ignore[return-value]


def _limit(delta: Array) -> NDArray[np.bool_]:
    """Keep a step inside what a mechanism of this size can mean: half a radian, 300 mm; True where it was more."""
    n = delta.shape[0] // 6
    shaped = delta.reshape(n, 2, 3, -1)
    move = np.abs(shaped[:, 0]).max(axis=(0, 1)) / 300.0
    turn = np.abs(shaped[:, 1]).max(axis=(0, 1)) / 0.5
    over = np.maximum(move, turn)
    delta /= np.maximum(1.0, over)
    found: NDArray[np.bool_] = over > 1.0
    return found


@dataclass(frozen=True, slots=True)
class Optimum:
    """What the optimality conditions of a redundant mechanism give."""

    step: Array  # (unknowns, lanes)
    singular: NDArray[np.bool_]  # (lanes)
    carried: Array  # (rows that do not yield, lanes) what each of them carries


def _optimality(system: System, jacobian: Array) -> tuple[Array, Array]:
    """The matrix of the optimality conditions, and the yielding rows weighted by their stiffness."""
    soft = system.stiffness > 0
    k = system.stiffness[soft] / system.stiffness.max(initial=1.0)
    js, jh = jacobian[soft], jacobian[~soft]
    n, h, lanes = jacobian.shape[1], int((~soft).sum()), jacobian.shape[2]
    matrix = np.zeros((n + h, n + h, lanes))
    weighted = js * k[:, None, None]
    for rows, live, where in _touched(system):
        block = np.zeros((len(live), len(live), lanes))
        for row in rows:  # one after the other: alike for any number of lanes
            block += weighted[row, live][:, None] * js[row, live][None]
        matrix[where] += block
    matrix[:n, n:] = np.moveaxis(jh, 0, 1)
    matrix[n:, :n] = jh
    return matrix, weighted


def _touched(system: System) -> list[tuple[list[int], NDArray[np.intp], tuple[NDArray[np.intp], ...]]]:
    """Yielding rows that touch the same unknowns, those unknowns, and their block: a row touches two bodies at most."""
    if "touched" not in system.plans:
        groups: dict[tuple[int, ...], list[int]] = {}
        for row, touched in enumerate(system.pattern[system.stiffness > 0]):
            groups.setdefault(tuple(np.flatnonzero(touched).tolist()), []).append(row)
        system.plans["touched"] = [
            (rows, np.array(live, np.intp), np.ix_(np.array(live, np.intp), np.array(live, np.intp)))
            for live, rows in groups.items()
        ]
    return system.plans["touched"]  # type: ignore[return-value]


def _optimum(
    system: System, jacobian: Array, force: Array, gap: Array, more: Array | float = 0.0, *, once: bool = False
) -> Optimum:
    """The step that meets what does not yield exactly and takes the least energy in what does.

    minimise ½ Σ k (J δ + r)² over the yielding rows (r: `force`), subject to J δ + r = 0 on the others (r: `gap`) [mm]: its
    optimality conditions, stiffness scaled to 1, solved as one system; `more` is taken off the balance. `once`: without a plan.
    """
    soft, n = system.stiffness > 0, jacobian.shape[1]
    matrix, weighted = _optimality(system, jacobian)
    rhs = np.concatenate([-(weighted * force[soft][:, None]).sum(axis=0) - more, -gap[~soft]])
    plan = None if once else _optimality_plan(system)
    found, singular = solve_many(matrix, rhs, plan)[:2] if plan else lapack(matrix, rhs)
    return Optimum(step=found[:n], singular=singular, carried=found[n:])


def _optimality_plan(system: System) -> Plan | None:
    """Order of elimination of the optimality conditions, from the reference position; None when they are singular there."""
    if "optimality" not in system.plans:
        matrix = _optimality(system, _reference_jacobian(system))[0][:, :, 0]
        soft = system.stiffness > 0
        blocks = system.pattern[soft].astype(int)
        upper = (blocks.T @ blocks) > 0
        hard = system.pattern[~soft]
        pattern = np.block([[upper, hard.T], [hard, np.zeros((len(hard), len(hard)), dtype=bool)]])
        try:
            system.plans["optimality"] = plan_elimination(matrix, pattern)
        except np.linalg.LinAlgError:
            system.plans["optimality"] = None
    return system.plans["optimality"]  # type: ignore[return-value]


def _least_energy(
    system: System, drives: Array, poses: Poses, iterations: int
) -> tuple[NDArray[np.int8], Array, Array | None]:
    """Redundant constraints: what does not yield is met exactly, the rest shares by stiffness."""
    total, size = poses.lanes, system.mechanism.unknowns
    status = np.full(total, NOT_ASSEMBLED, dtype=np.int8)
    left = np.full(total, np.inf)
    active = np.arange(total)
    work, values = poses.take(active), drives
    hard = system.stiffness == 0
    leapt, last = np.zeros(total, dtype=bool), np.full(total, np.inf)
    scale = np.tile([1.0, 1.0, 1.0, 100.0, 100.0, 100.0], size // 6)[:, None]
    for _ in range(iterations):
        jacobian = np.empty((system.mechanism.equations, size, work.lanes))
        r = system.evaluate(work, values, jacobian)
        found = _optimum(system, jacobian, r, r)
        delta, singular = found.step, found.singular
        status[active] = np.where(singular, SINGULAR, NOT_ASSEMBLED)
        held = np.abs(r[hard]).max(axis=0, initial=0.0)
        # Gauss–Newton ends linearly while something binds; a step of 1e-8 mm is far below what a joint feels
        reach = np.abs(delta * scale).max(axis=0)
        small = (reach < 1e-8) & (held < TOLERANCE)
        left[active] = held
        # the conditions' determinant never changes its sign; what tells a leap is a step that does not shrink as Newton's
        # do while one solution is followed (Newton and Kantorovich's contraction, [P. Deuflhard, Newton Methods for
        # Nonlinear Problems, 2011, from memory])
        leapt[active] |= _limit(delta) | ((reach > TAME * last[active]) & (reach > 1.0))
        last[active] = reach
        system.step(work, delta)
        poses.put(active, work)
        settled = small & ~singular
        status[active[settled]] = CONVERGED
        keep = np.flatnonzero(~settled & ~singular)
        if len(keep) == 0:
            break
        if len(keep) < work.lanes:
            active, work, values = active[keep], work.take(keep), values[:, keep]
    _tell_other_way(status, leapt)
    return status, left, system.evaluate(poses, drives)


def _approach(
    system: System, drives: Array, poses: Poses, status: NDArray[np.int8], residual: Array, bind: Array | None
) -> None:
    """What was not reached at once, or by a leap: followed from the reference position, in steps that shrink where it is hard.

    A position that cannot be followed to stays told as it was. Each goes its own road: no other has a part in it.
    """
    failed = np.flatnonzero(status != CONVERGED)
    work, share = system.reference(len(failed)), np.zeros(len(failed))  # of the way that is done
    step, on = np.full(len(failed), FIRST_STEP), np.arange(len(failed))
    while len(on):
        to = np.minimum(share[on] + step[on], 1.0)
        at = work.take(on)
        state, left, over = _newton(system, drives[:, failed[on]] * to, at, RETRY_ITERATIONS)
        good = state == CONVERGED
        kept, there = np.flatnonzero(good), on[good]
        work.put(there, at.take(kept))
        share[there] = to[good]
        step[on] = np.where(good, np.minimum(2 * step[on], FIRST_STEP), step[on] / 2)
        arrived = kept[to[good] == 1.0]
        lanes = failed[on[arrived]]
        status[lanes], residual[lanes] = CONVERGED, left[arrived]
        if bind is not None and over is not None:
            bind[:, lanes] = over[:, arrived]
        poses.put(lanes, at.take(arrived))
        on = on[(share[on] < 1.0) & (step[on] >= LEAST_STEP)]
