"""Sticks of stock cut to a list: fewest new ones, proved where it can be, then most cut from offcuts, the longest single remnant, fewest set-ups.

A stick carries Σ lengths + (n − 1) kerfs on what both trims leave of it: the cut that parts off its last piece falls in what is left, or in
the end trim. The least number of new sticks is bounded from below by the linear program over all patterns of cutting, its patterns found as they are asked
for, and from above by what is packed; where both meet it is proved. What follows it is best found, with its own bound.

Source:
    Gilmore & Gomory, A linear programming approach to the cutting-stock problem, Operations Research 9 (1961) and 11 (1963), from memory;
    solved by HiGHS through scipy.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from math import ceil
from time import monotonic

import numpy as np
from numpy.typing import NDArray

from tirante.core.errors import InputError

Array = NDArray[np.float64]
FINE = 1e-6  # mm, by which a stick may seem overfull
MOST_ROUNDS = 400  # of patterns that are asked for
MOST_NODES = 200_000  # of one search for the best pattern
PROVE_S = 3.0  # s that a number of sticks may take to be proved where the bound does not meet it; each wish as long
GAP = 1e-6  # of the linear program's own arithmetic


@dataclass(frozen=True, slots=True, kw_only=True)
class Saw:
    """What a saw takes [mm]."""

    kerf: float = 3.0
    trim_start: float = 0.0
    trim_end: float = 0.0

    def room(self, stick: float) -> float:
        """What a stick has for pieces, each with a kerf behind it."""
        return stick - self.trim_start - self.trim_end + self.kerf

    def left(self, stick: float, pieces: Sequence[float]) -> float:
        """What is parted off behind the last piece: nothing where the kerf takes it [mm]."""
        rest = stick - self.trim_start - sum(pieces) - self.kerf * len(pieces)
        return rest if rest > FINE else 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Stick:
    """A stick with what is cut from it, in the order in which it is cut [mm]."""

    length: float
    new: bool
    pieces: tuple[float, ...]
    left: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Wish:
    """Of what comes after the number of sticks: what was found, and what no layout of that number betters."""

    name: str
    unit: str
    value: float
    bound: float

    @property
    def proven(self) -> bool:
        """Whether nothing better is possible."""
        return abs(self.value - self.bound) <= 1e-3


@dataclass(frozen=True, slots=True, kw_only=True)
class Cutting:
    """A list laid out."""

    sticks: tuple[Stick, ...]  # offcuts first, in the order in which they are cut
    new: int
    bound: int  # fewer new ones than this are not possible
    wishes: tuple[Wish, ...]

    @property
    def proven(self) -> bool:
        """Whether fewer new sticks are not possible."""
        return self.new == self.bound


@dataclass(frozen=True, slots=True, kw_only=True)
class _Task:
    """What is to be cut, from what: bins of offcuts first, by kind."""

    lengths: Array  # of pieces, different ones, longest first
    wanted: NDArray[np.int64]
    bins: tuple[tuple[float, int, bool], ...]  # length, how many there are at most, whether new
    saw: Saw

    def fits(self, b: int) -> NDArray[np.int64]:
        """Most of each piece that a bin takes."""
        room = self.saw.room(self.bins[b][0])
        return np.minimum(self.wanted, np.floor((room + FINE) / (self.lengths + self.saw.kerf)).astype(np.int64).clip(0))  # fmt: skip


def cut_sticks(stock: float, pieces: Sequence[tuple[float, int]], saw: Saw, offcuts: Sequence[tuple[float, int]] = (), seconds: float = PROVE_S) -> Cutting:  # fmt: skip
    """Lay a list of pieces on offcuts and as few new sticks as can be.

    Args:
        stock: length of a new stick [mm].
        pieces: length and how many of it.
        saw: kerf and trims.
        offcuts: that are there, length and how many.
        seconds: that each step may take to be proved.

    Raises:
        InputError: a piece that goes into no stick.
    """
    totals: dict[float, int] = {}
    for length, count in pieces:
        totals[float(length)] = totals.get(float(length), 0) + count
    lengths = np.array(sorted((one for one, count in totals.items() if count > 0), reverse=True))
    if not lengths.size:
        return Cutting(sticks=(), new=0, bound=0, wishes=())
    wanted = np.array([totals[float(one)] for one in lengths], dtype=np.int64)
    heads: dict[float, int] = {}
    for length, count in offcuts:
        heads[float(length)] = heads.get(float(length), 0) + count
    kinds = [(one, count, False) for one, count in sorted(heads.items()) if count > 0 and saw.room(one) >= lengths.min() + saw.kerf - FINE]  # fmt: skip
    task = _Task(lengths=lengths, wanted=wanted, bins=(*kinds, (float(stock), int(wanted.sum()), True)), saw=saw)
    longest = max([stock, *(one for one, _, _ in kinds)])
    if lengths[0] + saw.kerf > saw.room(longest) + FINE:
        most = saw.room(longest) - saw.kerf
        raise InputError(
            f"A piece of {lengths[0]:.1f} mm does not go into a stick of {longest:.1f} mm: {max(most, 0.0):.1f} mm or less, with its trims. Take longer stock.",
            code="no_solution", fields=("pieces",), value=float(lengths[0]), limits=(None, most),
        )  # fmt: skip
    packed = _best_fit(task)
    bound, columns = _relaxed(task)
    found = _from_patterns(task, columns, seconds)
    if found is not None and _new_of(task, found) < _new_of(task, packed):
        packed = found
    while _new_of(task, packed) > bound:
        fewer, impossible = _with_so_few(task, bound, seconds)
        if fewer is not None:
            packed = fewer
            break
        if not impossible:
            break
        bound += 1
    return _wishes(task, packed, bound, seconds)


Layout = list[tuple[int, NDArray[np.int64]]]  # of each stick: its bin, and how many of each piece


def _new_of(task: _Task, layout: Layout) -> int:
    return sum(task.bins[b][2] for b, _ in layout)


def _best_fit(task: _Task) -> Layout:
    """Longest piece first, each where it leaves least; offcuts before new sticks."""
    layout: Layout = []
    rooms: list[float] = []
    free = [count for _, count, _ in task.bins]
    for t, length in enumerate(task.lengths):
        need = float(length) + task.saw.kerf
        for _ in range(int(task.wanted[t])):
            open_ = [(rooms[i], i) for i in range(len(layout)) if rooms[i] >= need - FINE]
            fresh = [(task.saw.room(one), -1 - b) for b, (one, _, new) in enumerate(task.bins) if free[b] and not new and task.saw.room(one) >= need - FINE]  # fmt: skip
            every = [*open_, *fresh] or [(task.saw.room(task.bins[-1][0]), -len(task.bins))]
            room, at = min(every)
            if at < 0:
                free[-1 - at] -= 1
                layout.append((-1 - at, np.zeros(len(task.lengths), dtype=np.int64)))
                rooms.append(room)
                at = len(layout) - 1
            layout[at][1][t] += 1
            rooms[at] -= need
    return layout


def _pattern(worth: Array, need: Array, most: NDArray[np.int64], room: float) -> tuple[float, NDArray[np.int64]]:
    """The pattern worth most in a room: branch and bound, by worth over need.

    Returns:
        What no pattern is worth more than (its own worth, where the search ran to its end), and the pattern.
    """
    order = [int(i) for i in np.argsort(-worth / need) if worth[i] > 1e-12 and most[i] > 0]
    best, pattern = 0.0, np.zeros(len(worth), dtype=np.int64)
    nodes, cut_short = 0, 0.0
    stack: list[tuple[int, float, float, tuple[int, ...]]] = [(0, room, 0.0, ())]
    while stack:
        at, free, got, taken = stack.pop()
        nodes += 1
        if got > best + 1e-12:
            best = got
            pattern = np.zeros(len(worth), dtype=np.int64)
            for i, count in zip(order, taken, strict=False):
                pattern[i] = count
        if at == len(order):
            continue
        could, rest = got, free
        for i in order[at:]:
            n = min(float(most[i]), max(rest, 0.0) / need[i])
            could += n * worth[i]
            rest -= n * need[i]
            if n < most[i]:
                break
        if could <= best + 1e-10:
            continue
        if nodes > MOST_NODES:
            cut_short = max(cut_short, could)
            continue
        i = order[at]
        fit = min(int(most[i]), int((free + FINE) / need[i]))
        for n in range(fit + 1):  # the fullest is looked at first
            stack.append((at + 1, free - n * need[i], got + n * worth[i], (*taken, n)))
    return max(best, cut_short), pattern


def _relaxed(task: _Task) -> tuple[int, Layout]:
    """The least number of new sticks by the linear program over all patterns, rounded up, and the patterns that it asked for."""
    from scipy.optimize import linprog

    need = task.lengths + task.saw.kerf
    limited = [b for b, (_, _, new) in enumerate(task.bins) if not new]
    columns: Layout = [(b, counts.copy()) for b, counts in _best_fit(task)]
    for t in range(len(need)):
        for b in range(len(task.bins)):
            most = task.fits(b)
            if most[t] > 0:
                one = np.zeros(len(need), dtype=np.int64)
                one[t] = most[t]
                columns.append((b, one))
    bound = 0.0
    for _ in range(MOST_ROUNDS):
        cost = np.array([1.0 if task.bins[b][2] else 0.0 for b, _ in columns])
        cover = -np.array([counts for _, counts in columns], float).T
        heads = np.array([[1.0 if b == one else 0.0 for b, _ in columns] for one in limited]).reshape(len(limited), len(columns))  # fmt: skip
        found = linprog(
            cost, A_ub=np.vstack([cover, heads]), b_ub=np.concatenate([-task.wanted.astype(float), [task.bins[b][1] for b in limited]]),
            bounds=(0, None), method="highs",
        )  # fmt: skip
        if found.status != 0:
            break
        duals = -found.ineqlin.marginals
        worth, price = duals[: len(need)].clip(0.0), dict(zip(limited, duals[len(need) :], strict=True))
        more, reduced = [], []
        for b, (length, count, new) in enumerate(task.bins):
            at_most, one = _pattern(worth, need, task.fits(b), task.saw.room(length))
            least = (1.0 if new else 0.0) + (price.get(b, 0.0) if not new else 0.0) - at_most
            reduced.append((least, count))
            if least < -1e-9 and one.any():
                more.append((b, one))
        # Lagrange: of new sticks as many as the program itself uses, of offcuts all
        new_bound = found.fun / max(1.0, 1.0 - reduced[-1][0]) if reduced[-1][0] < 0 else found.fun
        slack = sum(min(0.0, least) * count for least, count in reduced[:-1])
        bound = max(bound, new_bound + slack)
        if not more or bound > found.fun - 1e-9:
            break
        columns += more
    return max(0, ceil(bound - GAP)), columns


def _solved(cost: Array, rows: Array, low: Array, high: Array, most: Array, seconds: float) -> tuple[Array | None, float, bool]:
    """An integer program: its best point (None: none was found), its bound, and whether it has none."""
    from scipy.optimize import Bounds, LinearConstraint, milp

    found = milp(
        cost, constraints=LinearConstraint(rows, low, high), integrality=np.ones(len(cost)), bounds=Bounds(np.zeros(len(cost)), most),
        options={"time_limit": seconds, "mip_rel_gap": 0.0},
    )  # fmt: skip
    bound = -np.inf if found.mip_dual_bound is None else float(found.mip_dual_bound)
    return (None if found.x is None else np.round(found.x)), bound, found.status == 2


def _from_patterns(task: _Task, columns: Layout, seconds: float) -> Layout | None:
    """The best that whole numbers of those patterns make; what is cut too often is taken off."""
    unique = {(b, tuple(int(n) for n in counts)): (b, counts) for b, counts in columns}
    columns = list(unique.values())
    cost = np.array([1.0 if task.bins[b][2] else 1e-4 for b, _ in columns])
    cover = np.array([counts for _, counts in columns], float).T
    heads = np.array([[1.0 if b == one else 0.0 for b, _ in columns] for one in range(len(task.bins))])
    most = np.array([float(task.bins[b][1]) for b, _ in columns])
    low = np.concatenate([task.wanted.astype(float), np.zeros(len(task.bins))])
    high = np.concatenate([np.full(len(task.wanted), np.inf), [float(count) for _, count, _ in task.bins]])
    x, _, _ = _solved(cost, np.vstack([cover, heads]), low, high, most, seconds)
    if x is None:
        return None
    layout = [(b, counts.copy()) for (b, counts), n in zip(columns, x, strict=True) for _ in range(int(n))]
    over = sum((counts for _, counts in layout), np.zeros_like(task.wanted)) - task.wanted
    for _, counts in sorted(layout, key=lambda one: task.bins[one[0]][2], reverse=True):
        for t in range(len(over)):
            less = min(int(over[t]), int(counts[t]))
            counts[t] -= less
            over[t] -= less
    return [(b, counts) for b, counts in layout if counts.any()]


def _with_so_few(task: _Task, new: int, seconds: float) -> tuple[Layout | None, bool]:
    """A layout on so many new sticks and the offcuts, and whether there is none: piece by stick."""
    heads = [b for b, (_, count, is_new) in enumerate(task.bins) for _ in range(new if is_new else min(count, int(task.wanted.sum())))]  # fmt: skip
    if not heads:
        return None, True
    m, n = len(task.lengths), len(heads)
    need = task.lengths + task.saw.kerf
    rows = np.zeros((m + n, m * n))
    for j in range(n):
        for t in range(m):
            rows[t, j * m + t] = 1.0
            rows[m + j, j * m + t] = need[t]
    rooms = np.array([task.saw.room(task.bins[b][0]) for b in heads])
    low, high = np.concatenate([task.wanted, np.zeros(n)]), np.concatenate([task.wanted, rooms + FINE])
    most = np.concatenate([task.fits(b) for b in heads]).astype(float)
    x, _, impossible = _solved(np.zeros(m * n), rows, low, high, most, seconds)
    if x is None:
        return None, impossible
    counts = x.reshape(n, m).astype(np.int64)
    return [(b, one) for b, one in zip(heads, counts, strict=True) if one.any()], False


# --- what comes after -------------------------------------------------------------------------------------------------------------


def _wishes(task: _Task, packed: Layout, bound: int, seconds: float) -> Cutting:
    """The same number of new sticks: as much as can be cut from offcuts, then one remnant as long as can be, then as few set-ups as were found."""
    new = _new_of(task, packed)
    cut = float((task.lengths * task.wanted).sum())
    wishes = []
    m, need = len(task.lengths), task.lengths + task.saw.kerf
    heads = [b for b, (_, count, is_new) in enumerate(task.bins) for _ in range(new if is_new else min(count, int(task.wanted.sum())))]  # fmt: skip
    n, is_new = len(heads), np.array([task.bins[b][2] for b in heads])
    rooms = np.array([task.saw.room(task.bins[b][0]) for b in heads])
    rows = np.zeros((m + n, m * n))
    for j in range(n):
        for t in range(m):
            rows[t, j * m + t] = 1.0
            rows[m + j, j * m + t] = need[t]
    low, high = np.concatenate([task.wanted, np.zeros(n)]), np.concatenate([task.wanted, rooms + FINE])
    most = np.concatenate([task.fits(b) for b in heads]).astype(float)
    from_offcuts = np.concatenate([np.zeros(m) if fresh else task.lengths for fresh in is_new]) if n else np.zeros(0)

    def told(layout: Layout) -> float:
        return float(sum((task.lengths * counts).sum() for b, counts in layout if not task.bins[b][2]))

    def layout_of(x: Array) -> Layout:
        return [(b, one) for b, one in zip(heads, x.reshape(n, m).astype(np.int64), strict=True) if one.any()]

    used = told(packed)
    if not is_new.all():
        top = min(cut, float(sum(task.saw.room(task.bins[b][0]) - task.saw.kerf for b in heads if not task.bins[b][2])))
        if used < top - 1e-3:
            x, dual, _ = _solved(-from_offcuts, rows, low, high, most, seconds)
            top = min(top, -dual)
            if x is not None and (tried := layout_of(x)) and told(tried) > used:
                packed, used = tried, told(tried)
        wishes.append(Wish(name="cut from offcuts", unit="mm", value=used, bound=max(top, used)))

    def remnant(layout: Layout) -> float:
        return max((task.saw.left(task.bins[b][0], _in_order(task, counts)) for b, counts in layout if task.bins[b][2]), default=0.0)  # fmt: skip

    if new:
        longest = remnant(packed)
        j = n - 1  # any one new stick: they are alike
        keep = np.vstack([rows, from_offcuts[None, :]])
        spare = float(rooms[is_new].sum() - (need * task.wanted).sum() + sum((need * counts).sum() for b, counts in packed if not task.bins[b][2]))  # fmt: skip
        top = min(spare, task.saw.room(task.bins[-1][0])) + task.saw.trim_end - task.saw.kerf
        if longest < top - 1e-3:
            load = np.zeros(m * n)
            load[j * m : (j + 1) * m] = need
            x, dual, _ = _solved(load, keep, np.concatenate([low, [used - 1e-6]]), np.concatenate([high, [np.inf]]), most, seconds)  # fmt: skip
            top = min(top, task.bins[-1][0] - task.saw.trim_start - max(dual, 0.0))
            if x is not None and (tried := layout_of(x)) and _new_of(task, tried) <= new and remnant(tried) > longest:
                packed, longest = tried, remnant(tried)
        wishes.append(Wish(name="longest remnant", unit="mm", value=longest, bound=max(top, longest)))
    packed = _fewer_set_ups(task, packed, lambda layout: (round(told(layout), 6), round(remnant(layout), 6)))
    sticks = _ordered(task, packed)
    wishes.append(Wish(name="set-ups of the stop", unit="", value=float(set_ups(sticks)), bound=float(m)))
    return Cutting(sticks=sticks, new=_new_of(task, packed), bound=min(bound, new), wishes=tuple(wishes))


def _in_order(task: _Task, counts: NDArray[np.int64]) -> tuple[float, ...]:
    return tuple(float(length) for length, count in zip(task.lengths, counts, strict=True) for _ in range(int(count)))


def _fewer_set_ups(task: _Task, layout: Layout, kept: Callable[[Layout], tuple[float, ...]]) -> Layout:
    """Pieces exchanged between two sticks, as many of one as of the other make room, while a length is cut from fewer sticks and nothing kept gets less."""
    best = [(b, counts.copy()) for b, counts in layout]
    rooms = [task.saw.room(task.bins[b][0]) for b, _ in best]
    need, holds, ends = task.lengths + task.saw.kerf, kept(layout), monotonic() + 1.0
    better = True
    while better and monotonic() < ends:
        better = False
        for i in range(len(best)):
            for j in range(len(best)):
                if i == j:
                    continue
                for t in np.flatnonzero(best[i][1]):
                    for u in (None, *np.flatnonzero(best[j][1])):
                        if u == t:
                            continue
                        tried = _exchanged(best, (i, j), (int(t), None if u is None else int(u)))
                        full = any(float((need * tried[k][1]).sum()) > rooms[k] + FINE for k in (i, j))
                        if full or _lengths_cut(tried) >= _lengths_cut(best) or any(a < b - 1e-6 for a, b in zip(kept(tried), holds, strict=True)):  # fmt: skip
                            continue
                        best, better = tried, True
    return [(b, counts) for b, counts in best if counts.any()]


def _exchanged(layout: Layout, sticks: tuple[int, int], pieces: tuple[int, int | None]) -> Layout:
    """All of one length on one stick against as many of another on a second."""
    (i, j), (t, u) = sticks, pieces
    tried = [(b, counts.copy()) for b, counts in layout]
    n = tried[i][1][t]
    tried[i][1][t] -= n
    tried[j][1][t] += n
    if u is not None:
        back = tried[j][1][u]
        tried[j][1][u] -= back
        tried[i][1][u] += back
    return tried


def _lengths_cut(layout: Layout) -> int:
    """How many lengths are set, stick by stick."""
    return sum(int((counts > 0).sum()) for _, counts in layout)


def _ordered(task: _Task, layout: Layout) -> tuple[Stick, ...]:
    """Sticks in the order in which they are cut, offcuts first, each begun with the length that the last one ended with, where it has it."""
    left = [(task.bins[b][0], task.bins[b][2], counts) for b, counts in layout]
    found: list[Stick] = []
    last: int | None = None
    for fresh in (False, True):
        rest = [one for one in left if one[1] is fresh]
        while rest:
            # of those that begin with the stop as it stands the fullest
            one = max(rest, key=lambda it: (last is not None and it[2][last] > 0, float((task.lengths * it[2]).sum())))  # noqa: B023
            at = next(i for i, it in enumerate(rest) if it is one)
            rest.pop(at)
            kinds = [int(t) for t in np.flatnonzero(one[2])]
            if last in kinds:
                kinds.remove(last)
                kinds.insert(0, last)
            # and ends with a length that another one has
            shared = next((t for t in reversed(kinds[1:]) if any(it[2][t] > 0 for it in rest)), None)
            if shared is not None:
                kinds.remove(shared)
                kinds.append(shared)
            pieces = tuple(float(task.lengths[t]) for t in kinds for _ in range(int(one[2][t])))
            last = kinds[-1]
            found.append(Stick(length=one[0], new=one[1], pieces=pieces, left=task.saw.left(one[0], pieces)))
    return tuple(found)


def set_ups(sticks: Sequence[Stick]) -> int:
    """How often the saw's stop is set: whenever the next piece has another length than the last.

    Args:
        sticks: in the order in which they are cut.
    """
    every = [piece for stick in sticks for piece in stick.pieces]
    return sum(1 for i, piece in enumerate(every) if i == 0 or abs(piece - every[i - 1]) > FINE)


def swapped(stick: Stick, pieces: tuple[float, ...], saw: Saw) -> Stick:
    """A stick with its pieces in another order.

    Args:
        stick: as it is.
        pieces: the same ones.
        saw: kerf and trims.
    """
    return replace(stick, pieces=pieces, left=saw.left(stick.length, pieces))
