"""Sticks of stock cut to a list: fewest new ones, proved where it can be, then most cut from offcuts, the longest single remnant, fewest set-ups.

A stick carries Σ lengths + (n − 1) kerfs on what both trims leave of it: the cut that parts off its last piece falls in what is left, or in
the end trim. The least number of new sticks is bounded from below by the linear program over all patterns of cutting, its patterns found
as they are asked for, and from above by what is packed; where the two do not meet, every pattern that a better layout could have (its
reduced cost is no more than lies between them) is put to an integer program. What follows the number is best found, with its own bound.
Lengths are laid out in whole steps of what all of them are multiples of; where that is too fine, upward to a hundredth of a millimetre or more, and then
only the metal bounds the number.

Source:
    Gilmore & Gomory, A linear programming approach to the cutting-stock problem, Operations Research 9 (1961) and 11 (1963), from memory;
    solved by HiGHS through scipy.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from math import ceil, gcd

import numpy as np
from numpy.typing import NDArray

from tirante.core.errors import InputError

Array = NDArray[np.float64]
Counts = NDArray[np.int64]
Layout = list[tuple[int, Counts]]  # of each stick: its bin, and how many of each piece
FINE = 1e-6  # mm, by which a stick may seem overfull
MOST_PATTERNS = 20_000  # of all bins, that are put to the integer program
FIRST_PATTERNS = 2_500  # of all, the cheapest, that are tried before all are
MOST_ROUNDS = 300  # of patterns that are asked for
MOST_PASSES = 30  # over all pairs of sticks
PROVE_S, WISH_S = 4.0, 1.0  # s that an integer program of the proof may take, and one of a wish
SET_UPS = "set-ups of the stop"
REMNANT = "longest remnant"
UNIT = 1e-6  # mm, that lengths are told apart by
MOST_CELLS = 20_000_000  # of a table of what is worth most
MOST_UNKNOWNS = 5_000  # of the integer program of a wish
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
    """What is to be cut, from what: bins of offcuts first, by kind, the new sticks last."""

    lengths: Array  # of pieces, different ones, longest first
    wanted: Counts
    bins: tuple[tuple[float, int, bool], ...]  # length, how many there are at most, whether new
    saw: Saw
    step: float  # that lengths are laid out to [mm]
    exact: bool  # whether they all are whole steps

    @property
    def steps(self) -> Counts:
        """Of each piece with its kerf, upward."""
        return np.asarray(np.ceil((self.lengths + self.saw.kerf) / self.step - FINE).astype(np.int64))

    def room(self, b: int) -> int:
        """Of a bin, in steps, downward."""
        return int((self.saw.room(self.bins[b][0]) + FINE) / self.step)

    def fits(self, b: int) -> Counts:
        """Most of each piece that a bin takes."""
        return np.asarray(np.minimum(self.wanted, max(0, self.room(b)) // self.steps))

    def new_of(self, layout: Layout) -> int:
        """New sticks of a layout."""
        return sum(self.bins[b][2] for b, _ in layout)


def _grid(figures: Sequence[float], longest: float, kinds: int) -> tuple[float, bool]:
    """What all lengths are whole multiples of, and whether they are: sixty-fourths of an inch, tenths of a millimetre; else a hundredth, upward, and coarser where
    that is too fine to be worked with [mm]."""
    whole = [round(one / UNIT) for one in figures]
    exact = all(abs(one - n * UNIT) < UNIT / 100 for one, n in zip(figures, whole, strict=True))
    step = gcd(*whole) * UNIT if exact else 0.01
    least = longest * kinds / MOST_CELLS
    if exact and step >= least:
        return step, True
    return max(0.01, ceil(least * 100) / 100), False


def cut_sticks(stock: float, pieces: Sequence[tuple[float, int]], saw: Saw, offcuts: Sequence[tuple[float, int]] = (), seconds: float = PROVE_S) -> Cutting:  # fmt: skip
    """Lay a list of pieces on offcuts and as few new sticks as can be.

    Args:
        stock: length of a new stick [mm].
        pieces: length and how many of it.
        saw: kerf and trims.
        offcuts: that are there, length and how many.
        seconds: that an integer program of the proof may take.

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
    figures = [*lengths, stock, saw.kerf, saw.trim_start, saw.trim_end, *(one for one, _, _ in kinds)]
    step, exact = _grid(figures, max([stock, *(one for one, _, _ in kinds)]), len(lengths) + 1)
    task = _Task(
        lengths=lengths,
        wanted=wanted,
        bins=(*kinds, (float(stock), int(wanted.sum()), True)),
        saw=saw,
        step=step,
        exact=exact,
    )
    longest = max([stock, *(one for one, _, _ in kinds)])
    if lengths[0] + saw.kerf > saw.room(longest) + FINE:
        most = saw.room(longest) - saw.kerf
        raise InputError(
            f"A piece of {lengths[0]:.1f} mm does not go into a stick of {longest:.1f} mm: {max(most, 0.0):.1f} mm or less, with its trims. Take longer stock.",
            code="no_solution", fields=("pieces",), value=float(lengths[0]), limits=(None, most),
        )  # fmt: skip
    packed, bound = _best_fit(task), _by_metal(task)
    if task.new_of(packed) > bound:
        packed, bound = _proved(task, packed, bound, seconds)
    return _wishes(task, packed, bound, min(seconds, WISH_S))


def _by_metal(task: _Task) -> int:
    """As many new sticks as all pieces with their kerfs fill, offcuts full."""
    rooms = sum(task.saw.room(length) * count for length, count, new in task.bins if not new)
    rest = float(((task.lengths + task.saw.kerf) * task.wanted).sum()) - rooms
    return max(0, ceil(rest / max(FINE, task.saw.room(task.bins[-1][0])) - GAP))


def _best_fit(task: _Task) -> Layout:
    """Longest piece first, each where it leaves least; offcuts before new sticks."""
    layout: Layout = []
    rooms: list[int] = []
    free = [count for _, count, _ in task.bins]
    last = len(task.bins) - 1
    for t, need in enumerate(task.steps):
        for _ in range(int(task.wanted[t])):
            every = [(rooms[i], i) for i in range(len(layout)) if rooms[i] >= need]
            every += [(task.room(b), -1 - b) for b in range(last) if free[b] and task.room(b) >= need]
            if (
                not every
                and need > task.room(last)
                and task.lengths[t] + task.saw.kerf > task.saw.room(task.bins[last][0]) + FINE
            ):
                raise InputError(
                    f"A piece of {task.lengths[t]:.1f} mm goes into no new stick of {task.bins[last][0]:.1f} mm, and no offcut was found for it. Take longer stock.",
                    code="no_solution", fields=("pieces",), value=float(task.lengths[t]), limits=(None, task.saw.room(task.bins[last][0]) - task.saw.kerf),
                )  # fmt: skip
            room, at = min(every or [(task.room(last), -1 - last)])
            if at < 0:
                free[-1 - at] -= 1
                layout.append((-1 - at, np.zeros(len(task.lengths), dtype=np.int64)))
                rooms.append(room)
                at = len(layout) - 1
            layout[at][1][t] += 1
            rooms[at] -= int(need)
    return layout


def _worth_most(task: _Task, b: int, worth: Array) -> list[Array]:
    """For every room up to a bin's, what is worth most of the pieces from each on, in whole steps: an array a piece, and an empty one behind the last."""
    room, steps, most = task.room(b), task.steps, task.fits(b)
    found = [np.zeros(room + 1)]
    for t in range(len(steps) - 1, -1, -1):
        after, now = found[-1], found[-1].copy()
        if worth[t] > 0:
            for n in range(1, int(most[t]) + 1):
                taken = n * int(steps[t])
                np.maximum(now[taken:], after[: room + 1 - taken] + n * worth[t], out=now[taken:])
        found.append(now)
    return found[::-1]


def _patterns_worth(
    task: _Task, b: int, worth: Array, least: float, tables: list[Array], limit: int
) -> tuple[list[Counts], bool]:
    """All patterns of a bin that are worth no less, and whether these are all.

    Args:
        task: what is cut.
        b: the bin.
        worth: of each piece.
        least: that a pattern must be worth.
        tables: as `_worth_most` has them.
        limit: how many are gathered.
    """
    steps, most, m = [int(n) for n in task.steps], [int(n) for n in task.fits(b)], len(task.steps)
    found: list[Counts] = []
    stack: list[tuple[int, int, float, tuple[int, ...]]] = [(0, task.room(b), 0.0, ())]
    while stack:
        t, room, got, taken = stack.pop()
        if t == m:
            found.append(np.array(taken, dtype=np.int64))
            if len(found) >= limit:
                return found, False
            continue
        for n in range(min(most[t], room // steps[t]) + 1):  # most of it is looked at first
            left, now = room - n * steps[t], got + n * float(worth[t])
            if now + tables[t + 1][left] >= least:
                stack.append((t + 1, left, now, (*taken, n)))
    return found, True


def _proved(task: _Task, packed: Layout, bound: int, seconds: float) -> tuple[Layout, int]:
    """Fewer new sticks where there are, and what no layout has fewer than."""
    value, duals, columns = _relaxed(task, packed)
    if task.exact:  # of lengths that are taken longer than they are it bounds nothing
        bound = max(bound, ceil(value - GAP))
    limit = max(500, MOST_PATTERNS // len(task.bins))
    while task.new_of(packed) > bound:
        fewer, whole, rich = task.new_of(packed) - 1, task.exact and duals is not None, []
        if duals is not None:
            # what a layout with one stick less can have: reduced costs no more than lies between that and the linear program
            worth, price = duals
            for b, (_, _, fresh) in enumerate(task.bins):
                due = 1.0 if fresh else price[b]
                least = due - max(fewer - value, 0.0) - GAP
                more, all_ = _patterns_worth(task, b, worth, least, _worth_most(task, b, worth), limit)
                rich += [(due - float(one @ worth), b, one) for one in more if one.any()]
                whole = whole and all_
        rich.sort(key=lambda one: one[0])
        cheap = [(b, one) for _, b, one in rich[:FIRST_PATTERNS]]
        found, impossible = _from_patterns(task, [*columns, *cheap], fewer, seconds)
        if found is None and len(rich) > len(cheap):
            found, impossible = _from_patterns(task, [*columns, *((b, one) for _, b, one in rich)], fewer, seconds)
        if found is None:
            return packed, task.new_of(packed) if impossible and whole else bound
        packed = found
    return packed, bound


Duals = tuple[Array, dict[int, float]]  # of each piece, and of each bin's number


def _relaxed(task: _Task, packed: Layout) -> tuple[float, Duals | None, Layout]:
    """The linear program over all patterns: what it is at least, its prices (None: it was not brought to its end), and the patterns that it asked for."""
    from scipy.optimize import linprog

    limited = [b for b, (_, _, new) in enumerate(task.bins) if not new]
    columns: Layout = [(b, counts.copy()) for b, counts in packed]
    for b in range(len(task.bins)):
        most = task.fits(b)
        columns += [(b, np.where(np.arange(len(most)) == t, most, 0)) for t in np.flatnonzero(most)]
    bound = 0.0
    for _ in range(MOST_ROUNDS):
        cost = np.array([1.0 if task.bins[b][2] else 0.0 for b, _ in columns])
        cover = -np.array([counts for _, counts in columns], float).T
        heads = np.array([[1.0 if b == one else 0.0 for b, _ in columns] for one in limited]).reshape(len(limited), len(columns))  # fmt: skip
        found = linprog(
            cost, A_ub=np.vstack([cover, heads]), b_ub=np.concatenate([-task.wanted.astype(float), [float(task.bins[b][1]) for b in limited]]),
            bounds=(0, None), method="highs",
        )  # fmt: skip
        if found.status != 0:
            break
        prices = -found.ineqlin.marginals
        worth = prices[: len(task.wanted)].clip(0.0)
        price = {b: float(max(0.0, v)) for b, v in zip(limited, prices[len(task.wanted) :], strict=True)}
        more: Layout = []
        over, slack = 1.0, 0.0
        for b, (_, count, new) in enumerate(task.bins):
            tables = _worth_most(task, b, worth)
            most_worth, due = float(tables[0][task.room(b)]), 1.0 if new else price[b]
            if most_worth > due + 1e-9:
                more += [(b, one) for one in _patterns_worth(task, b, worth, most_worth - 1e-9, tables, 4)[0]]
            if new:
                over = max(1.0, most_worth)
            else:
                slack += max(0.0, most_worth - due) * count
        # prices brought down until no pattern is worth more than it costs: a bound at every step (Farley)
        bound = max(bound, (found.fun - slack) / over)
        if not more:
            return float(found.fun), (worth, price), columns
        columns += more
    return bound, None, columns


def _solved(
    cost: Array, rows: Array, low: Array, high: Array, most: Array, seconds: float
) -> tuple[Array | None, float, bool]:
    """An integer program: its best point (None: none was found), its bound, and whether it has none."""
    from scipy.optimize import Bounds, LinearConstraint, milp

    found = milp(
        cost, constraints=LinearConstraint(rows, low, high), integrality=np.ones(len(cost)), bounds=Bounds(np.zeros(len(cost)), most),
        options={"time_limit": seconds, "mip_rel_gap": 0.0},
    )  # fmt: skip
    bound = -np.inf if found.mip_dual_bound is None else float(found.mip_dual_bound)
    return (None if found.x is None else np.round(found.x)), bound, found.status == 2


def _from_patterns(task: _Task, columns: Layout, most_new: int, seconds: float) -> tuple[Layout | None, bool]:
    """A layout of whole numbers of those patterns with no more new sticks than that, and whether there is none; what is cut too often is taken off."""
    columns = list({(b, counts.tobytes()): (b, counts) for b, counts in columns}.values())
    fresh = np.array([1.0 if task.bins[b][2] else 0.0 for b, _ in columns])
    cover = np.array([counts for _, counts in columns], float).T
    heads = np.array([[1.0 if b == one else 0.0 for b, _ in columns] for one in range(len(task.bins))])
    most = np.array([float(task.bins[b][1]) for b, _ in columns])
    low = np.concatenate([task.wanted.astype(float), np.zeros(len(task.bins)), [0.0]])
    high = np.concatenate([np.full(len(task.wanted), np.inf), [float(count) for _, count, _ in task.bins], [float(most_new)]])  # fmt: skip
    x, _, impossible = _solved(fresh, np.vstack([cover, heads, fresh[None, :]]), low, high, most, seconds)
    if x is None:
        return None, impossible
    layout = [(b, counts.copy()) for (b, counts), n in zip(columns, x, strict=True) for _ in range(int(n))]
    over = sum((counts for _, counts in layout), np.zeros_like(task.wanted)) - task.wanted
    for _, counts in sorted(layout, key=lambda one: task.bins[one[0]][2], reverse=True):
        less = np.minimum(over, counts)
        counts -= less
        over -= less
    return [(b, counts) for b, counts in layout if counts.any()], False


# --- what comes after -------------------------------------------------------------------------------------------------------------


def _wishes(task: _Task, packed: Layout, bound: int, seconds: float) -> Cutting:
    """The same number of new sticks: as much as can be cut from offcuts, then one remnant as long as can be, then as few set-ups as were found."""
    new = task.new_of(packed)
    cut = float((task.lengths * task.wanted).sum())
    wishes = []
    m, need = len(task.lengths), task.steps * task.step
    heads = [b for b, (_, count, is_new) in enumerate(task.bins) for _ in range(new if is_new else min(count, int(task.wanted.sum())))]  # fmt: skip
    n, is_new = len(heads), np.array([task.bins[b][2] for b in heads])
    rooms, small = np.array([task.room(b) * task.step for b in heads]), m * n <= MOST_UNKNOWNS
    rows = np.zeros((m + n, m * n if small else 0))
    for j in range(n if small else 0):
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
        if small and used < top - 1e-3:
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
        spare = float(rooms[is_new].sum() - (need * task.wanted).sum() + sum((need * counts).sum() for b, counts in packed if not task.bins[b][2]))  # fmt: skip
        top = min(spare, task.saw.room(task.bins[-1][0])) + task.saw.trim_end - task.saw.kerf
        if small and longest < top - 1e-3:
            keep, load = np.vstack([rows, from_offcuts[None, :]]), np.zeros(m * n)
            load[j * m : (j + 1) * m] = need
            x, dual, _ = _solved(load, keep, np.concatenate([low, [used - 1e-6]]), np.concatenate([high, [np.inf]]), most, seconds)  # fmt: skip
            top = min(top, task.bins[-1][0] - task.saw.trim_start - max(dual, 0.0))
            if x is not None and (tried := layout_of(x)) and task.new_of(tried) <= new and remnant(tried) > longest:
                packed, longest = tried, remnant(tried)
        wishes.append(Wish(name=REMNANT, unit="mm", value=longest, bound=max(top, longest)))
    packed = _fewer_set_ups(task, packed, lambda layout: (round(told(layout), 6), round(remnant(layout), 6)))
    sticks = _ordered(task, packed)
    wishes.append(Wish(name=SET_UPS, unit="", value=float(set_ups(sticks)), bound=float(m)))
    return Cutting(sticks=sticks, new=task.new_of(packed), bound=min(bound, new), wishes=tuple(wishes))


def _in_order(task: _Task, counts: NDArray[np.int64]) -> tuple[float, ...]:
    return tuple(float(length) for length, count in zip(task.lengths, counts, strict=True) for _ in range(int(count)))


def _fewer_set_ups(task: _Task, layout: Layout, kept: Callable[[Layout], tuple[float, ...]]) -> Layout:
    """Pieces exchanged between two sticks, as many of one as of the other make room, while a length is cut from fewer sticks and nothing kept gets less."""
    best = [(b, counts.copy()) for b, counts in layout]
    rooms = [task.room(b) for b, _ in best]
    need, holds = task.steps, kept(layout)
    better = True
    for _ in range(MOST_PASSES):
        if not better:
            break
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
                        full = any(int((need * tried[k][1]).sum()) > rooms[k] for k in (i, j))
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
            one = max(rest, key=lambda it: (last is not None and it[2][last] > 0, float((task.lengths * it[2]).sum())))
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
