"""Many small sparse linear systems of one pattern at once, position last: elimination in one planned order, with a guard.

The order of pivots is found once on a typical system, small fill first among entries that are large enough (Markowitz
with a threshold), and the elimination is written out as operations on whole rows of positions; what is zero in every
system is never touched. A system whose pivots then come out small is solved again by LAPACK with its own pivoting.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from math import inf
from typing import Any

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]
Index = NDArray[np.intp]
LARGE_ENOUGH = 0.05  # a pivot's least share of the largest entry of its row, when the order is found
SMALL_PIVOT = 1e-6  # of its row's largest entry, at work: below it the system is solved again


@dataclass(frozen=True)
class Plan:
    """How systems of one pattern are eliminated."""

    size: int
    entries: tuple[tuple[int, int], ...]  # (row, column) stored, fill included
    given: tuple[tuple[int, int, int], ...]  # (slot, row, column) that the matrix itself has
    steps: tuple[tuple[int, int, int, tuple[int, ...], tuple[tuple[int, int, tuple[tuple[int, int], ...]], ...]], ...]
    # of each pivot: its slot, row, column, slots of the rest of its row, and per row below: (slot, row, ((target, source) …))
    back: tuple[tuple[int, int, int, tuple[tuple[int, int], ...]], ...]  # pivot slot, row, column, ((slot, column) …)
    sign: float  # of the order's permutation, so that the pivots' signs give the determinant's

    @cached_property
    def taken(self) -> tuple[Index, Index, Index]:
        """Slots, rows and columns of what the matrix itself has."""
        slots, rows, columns = np.array(self.given, dtype=np.intp).reshape(-1, 3).T
        return slots, rows, columns

    @cached_property
    def stages(self) -> list[tuple[int, Index, Index, Index]]:
        """The steps, each at once: slot of the pivot, slots of the rest of its row, slots below it, and where what is taken off goes
        (rows below, rest). The right side is one column more, its slots behind all others, by row."""
        found, right = [], len(self.entries)
        for slot, row, _, rest, below in self.steps:
            into = [[*(target for target, _ in updates), right + i] for _, i, updates in below]
            found.append(
                (
                    slot,
                    _index([*rest, right + row]),
                    _index([t for t, _, _ in below]),
                    _index(into).reshape(len(below), len(rest) + 1),
                )
            )
        return found

    @cached_property
    def pivots(self) -> tuple[Index, Index, Index]:
        """Slots of the pivots; of those with a rest of their row which they are; and slots of that rest, padded with its first."""
        slots = _index([slot for slot, _, _, _, _ in self.steps])
        rests = [(i, rest) for i, (_, _, _, rest, _) in enumerate(self.steps) if rest]
        most = max((len(rest) for _, rest in rests), default=1)
        padded = [[*rest, *[rest[0]] * (most - len(rest))] for _, rest in rests]
        return slots, _index([i for i, _ in rests]), _index(padded).reshape(len(rests), most)

    @cached_property
    def returns(self) -> list[tuple[int, int, int, Index, Index]]:
        """The way back: which pivot, slot of its row's right side, its column, slots of the rest of its row and the unknowns that they
        stand for."""
        order, right = {step[0]: i for i, step in enumerate(self.steps)}, len(self.entries)
        return [
            (order[slot], right + row, column, _index([source for source, _ in others]), _index([j for _, j in others]))
            for slot, row, column, others in self.back
        ]


def _index(of: Sequence[Any]) -> Index:
    return np.array(of, dtype=np.intp)


def plan_elimination(matrix: Array, pattern: NDArray[np.bool_]) -> Plan:
    """Plan for systems of a pattern, from a typical one.

    Raises:
        numpy.linalg.LinAlgError: the typical system has no pivot left.
    """
    n = matrix.shape[0]
    scaled = matrix / np.maximum(np.abs(matrix).max(axis=1, keepdims=True), 1e-300)
    slots: dict[tuple[int, int], int] = {}
    given = []
    live: dict[int, dict[int, float]] = {
        i: {} for i in range(n)
    }  # by row left: column left and value, 0 where it may be another
    counts = dict.fromkeys(range(n), 0)  # by column left: in how many rows left it stands
    for i, j in np.argwhere(pattern).tolist():
        given.append((len(slots), i, j))
        slots[i, j] = len(slots)
        live[i][j] = float(scaled[i, j])
        counts[j] += 1
    steps, order = [], []
    for _ in range(n):
        pivot_row, pivot_column = _choose(live, counts)
        pivots = live.pop(pivot_row)
        pivot = pivots.pop(pivot_column)
        rest = sorted(pivots)
        del counts[pivot_column]
        for j in rest:
            counts[j] -= 1
        below = []
        for i, row in live.items():
            if pivot_column not in row:
                continue
            factor = row.pop(pivot_column) / pivot
            updates = []
            for j in rest:
                if (i, j) not in slots:
                    slots[i, j] = len(slots)
                if j not in row:
                    row[j] = 0.0
                    counts[j] += 1
                row[j] -= factor * pivots[j]
                updates.append((slots[i, j], slots[pivot_row, j]))
            below.append((slots[i, pivot_column], i, tuple(updates)))
        steps.append(
            (
                slots[pivot_row, pivot_column],
                pivot_row,
                pivot_column,
                tuple(slots[pivot_row, j] for j in rest),
                tuple(below),
            )
        )
        order.append((pivot_row, pivot_column, rest))
    back = tuple(
        (slots[row, column], row, column, tuple((slots[row, j], j) for j in rest))
        for row, column, rest in reversed(order)
    )
    to = np.zeros((n, n))
    to[[row for row, _, _ in order], [column for _, column, _ in order]] = 1.0
    return Plan(
        size=n, entries=tuple(slots), given=tuple(given), steps=tuple(steps), back=back, sign=float(np.linalg.det(to)),
    )  # fmt: skip


def _choose(live: dict[int, dict[int, float]], counts: dict[int, int]) -> tuple[int, int]:
    """Of the entries that are large enough the one that fills least, of those the largest, of those the first."""
    best: tuple[int, int] | None = None
    least, largest = inf, 0.0
    for i, row in live.items():
        others = len(row) - 1
        enough: float | None = None  # looked for only where the row has an entry that may be the best
        for j, value in row.items():
            fills = others * (counts[j] - 1)
            if fills > least:
                continue
            if enough is None:
                enough = max(LARGE_ENOUGH * max(map(abs, row.values())), 1e-10)
            size = abs(value)
            if size < enough:
                continue
            if fills < least or size > largest or (size == largest and best is not None and (i, j) < best):
                best, least, largest = (i, j), fills, size
    if best is None:
        raise np.linalg.LinAlgError("no pivot left")
    return best


def solve_many(matrix: Array, rhs: Array, plan: Plan) -> tuple[Array, NDArray[np.bool_], Array]:
    """Solve matrix (n, n, lanes) · x = rhs (n, lanes).

    Args:
        matrix: (n, n, lanes).
        rhs: (n, lanes).
        plan: of the elimination, made for its pattern.

    Returns:
        x; which lanes are singular (their x is 0); the sign of each determinant (0 when singular).
    """
    lanes = rhs.shape[1]
    store = np.zeros((len(plan.entries) + plan.size, lanes))
    slots, rows, columns = plan.taken
    store[slots] = matrix[rows, columns]
    store[len(plan.entries) :] = rhs
    with np.errstate(divide="ignore", invalid="ignore", over="ignore"):
        for slot, rest, below, into in plan.stages:
            if len(below):
                factor = store[below] * (1.0 / store[slot])
                store[into] -= factor[:, None] * store[rest]
        # a pivot's row is left as it stood: all of them are looked at together
        slots, which, rests = plan.pivots
        pivots = store[slots]
        inverses = 1.0 / pivots
        sign = plan.sign * np.copysign(1.0, pivots).prod(axis=0)
        bad = (np.abs(pivots[which]) < SMALL_PIVOT * np.abs(store[rests]).max(axis=1)).any(axis=0)
        x = np.empty((plan.size, lanes))
        for pivot, right, column, sources, known in plan.returns:
            value = store[right]
            if len(known):
                for part in store[sources] * x[known]:  # one after the other: alike for any number of lanes
                    value -= part
            np.multiply(value, inverses[pivot], out=x[column])
    bad |= ~np.isfinite(x).all(axis=0)
    singular = np.zeros(lanes, dtype=bool)
    if bad.any():
        again = np.flatnonzero(bad)
        x[:, again], singular[again] = lapack(matrix[:, :, again], rhs[:, again])
        usable = again[~singular[again]]
        sign[again] = 0.0
        sign[usable] = np.linalg.slogdet(np.moveaxis(matrix[:, :, usable], 2, 0)).sign
    return x, singular, sign


def lapack(matrix: Array, rhs: Array) -> tuple[Array, NDArray[np.bool_]]:
    """The same, each system with its own pivoting."""
    a, b = np.ascontiguousarray(np.moveaxis(matrix, 2, 0)), rhs.T[:, :, None]
    singular = np.logical_not(np.isfinite(a).all(axis=(1, 2)) & np.isfinite(b).all(axis=(1, 2)))
    x = np.zeros((len(a), a.shape[1]))
    good = np.flatnonzero(~singular)
    try:
        x[good] = np.linalg.solve(a[good], b[good])[:, :, 0]
    except np.linalg.LinAlgError:  # one of them is singular, and numpy does not say which
        for i in good:
            try:
                x[i] = np.linalg.solve(a[i], b[i])[:, 0]
            except np.linalg.LinAlgError:
                singular[i] = True
    singular |= ~np.isfinite(x).all(axis=1)
    x[singular] = 0.0
    return x.T, singular
