"""Many small sparse linear systems of one pattern at once, position last: elimination in one planned order, with a guard.

The order of pivots is found once on a typical system, small fill first among entries that are large enough (Markowitz
with a threshold), and the elimination is written out as operations on whole rows of positions; what is zero in every
system is never touched. A system whose pivots then come out small is solved again by LAPACK with its own pivoting.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]
Index = NDArray[np.intp]
LARGE_ENOUGH = 0.05  # a pivot's least share of the largest entry of its row, when the order is found
NONE = np.iinfo(np.intp).max  # more than any fill
SMALL_PIVOT = 1e-6  # of its row's largest entry, at work: below it the system is solved again


@dataclass(frozen=True)
class Plan:
    """How systems of one pattern are eliminated: entries stand in slots, the right side's behind all others, by row."""

    size: int
    stored: int  # entries of the matrix, fill included
    taken: tuple[Index, Index, Index]  # slots, rows and columns of what the matrix itself has
    stages: list[tuple[int, Index, Index, Index]]
    # of each pivot: its slot, slots of the rest of its row and of its right side, slots below it, where what is taken off goes (rows below, rest)
    order: list[
        tuple[int, int, Index, Index]
    ]  # of each pivot: row, column, columns of the rest of its row and their slots
    sign: float  # of the order's permutation, so that the pivots' signs give the determinant's

    @cached_property
    def pivots(self) -> tuple[Index, Index, Index]:
        """Slots of the pivots; of those with a rest of their row which they are; and slots of that rest, padded with its first."""
        slots = _index([slot for slot, _, _, _ in self.stages])
        rests = [(i, rest.tolist()) for i, (_, _, _, rest) in enumerate(self.order) if len(rest)]
        most = max((len(rest) for _, rest in rests), default=1)
        padded = [[*rest, *[rest[0]] * (most - len(rest))] for _, rest in rests]
        return slots, _index([i for i, _ in rests]), _index(padded).reshape(len(rests), most)

    @cached_property
    def returns(self) -> list[tuple[int, int, int, Index, Index]]:
        """The way back: which pivot, slot of its row's right side, its column, slots of the rest of its row and the unknowns that they
        stand for."""
        return [
            (i, self.stored + row, column, slots, rest)
            for i, (row, column, rest, slots) in reversed(list(enumerate(self.order)))
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
    given_rows, given_columns = np.nonzero(pattern)
    slots = np.full((n, n), -1, dtype=np.intp)
    slots[given_rows, given_columns] = np.arange(len(given_rows))
    stored = len(given_rows)
    left = _Left(scaled, pattern)
    found, order = [], []
    for _ in range(n):
        row, column = left.choose()
        rest, rows = left.eliminate(row, column)
        block = slots[rows[:, None], rest]
        fill = block < 0
        more = int(fill.sum())
        if more:
            block[fill] = stored + np.arange(more)
            slots[rows[:, None], rest] = block
            stored += more
        found.append((int(slots[row, column]), slots[row, rest], slots[rows, column], rows, block))
        order.append((row, column, rest, slots[row, rest]))
    stages = [
        (slot, np.append(of_row, stored + row), below, np.column_stack([block, stored + rows]))
        for (slot, of_row, below, rows, block), (row, _, _, _) in zip(found, order, strict=True)
    ]
    to = np.zeros((n, n))
    to[[row for row, _, _, _ in order], [column for _, column, _, _ in order]] = 1.0
    return Plan(
        size=n, stored=stored, taken=(np.arange(len(given_rows)), given_rows, given_columns), stages=stages, order=order,
        sign=float(np.linalg.det(to)),
    )  # fmt: skip


class _Left:
    """What is left of a system while its order is looked for: values, and where an entry may be."""

    def __init__(self, values: Array, pattern: NDArray[np.bool_]) -> None:
        self.values = np.where(pattern, values, 0.0)
        self.there = pattern.copy()

    def choose(self) -> tuple[int, int]:
        """Of the entries that are large enough the one that fills least, of those the largest, of those the first.

        Raises:
            numpy.linalg.LinAlgError: none is left.
        """
        size = np.abs(self.values)
        enough = np.maximum(LARGE_ENOUGH * size.max(axis=1), 1e-10)
        across, down = self.there.sum(axis=1) - 1, self.there.sum(axis=0) - 1
        fills = np.where(self.there & (size >= enough[:, None]), across[:, None] * down, NONE)
        least = fills.min()
        if least == NONE:
            raise np.linalg.LinAlgError("no pivot left")
        return divmod(int(np.argmax(np.where(fills == least, size, -1.0))), len(size))

    def eliminate(self, row: int, column: int) -> tuple[Index, Index]:
        """Take a pivot's row and column out: columns of the rest of its row, and the rows that it was taken off."""
        self.there[row, column] = False
        rest, rows = np.flatnonzero(self.there[row]), np.flatnonzero(self.there[:, column])
        block = rows[:, None], rest
        self.values[block] -= (self.values[rows, column] / self.values[row, column])[:, None] * self.values[row, rest]
        self.there[block] = True
        self.there[row] = self.there[:, column] = False
        self.values[row] = self.values[:, column] = 0.0
        return rest, rows


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
    store = np.zeros((plan.stored + plan.size, lanes))
    slots, rows, columns = plan.taken
    store[slots] = matrix[rows, columns]
    store[plan.stored :] = rhs
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
