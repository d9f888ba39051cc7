"""What one turn of each adjuster does to the alignment, and the shortest set of turns to wanted values.

The wheel's height against the body is held, as on levelled stands with the springs out or dummies in.

Source:
    The mechanism solved anew with the link longer (derived); the set of turns as a mixed-integer linear programme,
    proved by solving the mechanism with all of them.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from math import floor, isfinite
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from tirante.core.errors import InputError
from tirante.core.suspension.changed import lengthened
from tirante.core.suspension.cycle import Solved, wheel_columns

Array = NDArray[np.float64]
MEASURES = (
    "camber_deg", "toe_deg", "caster_deg", "kingpin_inclination_deg", "pinion_change_deg", "half_track_change_mm",
    "wheelbase_change_mm", "lateral_shift_mm", "axle_steer_deg", "total_toe_deg", "straight_ahead_deg",
)  # fmt: skip
STEP = 0.25  # mm: of the slope of a measure by a length, by central differences to the fourth order
PAIR_STEPS = 4  # a right/left pair is set to the quarter turn …
FINE_STEPS = 12  # … and to half a flat of its hexagon where a quarter is too coarse
MOST_TURNS = 40.0
NO_END = "not_assembled"  # code of an error: the end cannot be put together so


@dataclass(frozen=True, slots=True, kw_only=True)
class Adjuster:
    """How a link's length is changed."""

    link: str  # as the mechanism names it
    kind: Literal["pair", "one_end"]
    mm: float  # a turn of a pair, a half turn of one end

    @property
    def unit(self) -> str:
        """What is counted."""
        return "turn" if self.kind == "pair" else "half turn"


@dataclass(frozen=True, slots=True, kw_only=True)
class Turned:
    """What one turn (pair) or half turn (one end) longer does, and the slope for each mm."""

    adjuster: Adjuster
    change: dict[str, float]  # of the left wheel or the axle
    right: dict[str, float]  # of the right wheel
    per_mm: dict[str, float]


def turn_sheet(done: Solved, adjusters: Sequence[Adjuster]) -> list[Turned]:
    """Lengthen each adjuster by one turn, or half turn, at a single solved position.

    Args:
        done: the position.
        adjusters: that may be turned.

    Raises:
        InputError: there is no such link; the end cannot be put together with one that much longer.
    """
    before = _measured(done)
    out = []
    for adjuster in adjusters:
        after = _assembled(done, {adjuster.link: adjuster.mm})
        near = [_assembled(done, {adjuster.link: d * STEP})[0] for d in (-2, -1, 1, 2)]
        slope = {
            name: (near[0][name] - 8 * near[1][name] + 8 * near[2][name] - near[3][name]) / (12 * STEP)
            for name in before[0] if all(name in one for one in near)
        }  # fmt: skip
        out.append(
            Turned(
                adjuster=adjuster, change=_less(after[0], before[0]), right=_less(after[1], before[1]),
                per_mm={name: value for name, value in slope.items() if isfinite(value)},
            )
        )  # fmt: skip
    return out


def _assembled(done: Solved, by: dict[str, float]) -> tuple[dict[str, float], dict[str, float]]:
    """What is measured with links so much longer.

    Raises:
        InputError: the end cannot be put together so; what a solver leaves then is no position of it.
    """
    found = lengthened(done, by)
    if any((side.solved.status != 0).any() for side in found.sides):
        told = ", ".join(f"{link} {mm:+.1f} mm" for link, mm in by.items() if mm)
        raise InputError(
            f"The end cannot be put together with {told}. Ask for less at once, or look at the link’s length and points.",
            code=NO_END, fields=("adjusters",), value=told,
        )  # fmt: skip
    return _measured(found)


def _measured(done: Solved) -> tuple[dict[str, float], dict[str, float]]:
    """Of the left wheel (or the axle) and of the right; of a beam, whose wheels one adjuster moves both, total toe and where both point too."""
    left, right = ({name: float(column[0]) for name, column in columns.items()} for columns in wheel_columns(done))
    if done.left.assembled.beam and "toe_deg" in left and "toe_deg" in right:
        # toe-in of the left wheel points it to the right: both point to the left by half of what the right has more
        both = {
            "total_toe_deg": left["toe_deg"] + right["toe_deg"], "straight_ahead_deg": (right["toe_deg"] - left["toe_deg"]) / 2,
        }  # fmt: skip
        return left | both, right | both
    return left, right


def _less(after: Mapping[str, float], before: Mapping[str, float]) -> dict[str, float]:
    found = {name: after[name] - before[name] for name in before if name in after}
    return {name: value for name, value in found.items() if isfinite(value)}


@dataclass(frozen=True, slots=True, kw_only=True)
class Wanted:
    """A measure to be changed by so much, to within so much; of the right wheel, or of the left one or the axle."""

    measure: str
    change: float
    within: float
    right: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class TurnSet:
    """Turns (or half turns) of each adjuster, longer positive, and what they come to."""

    turns: dict[str, float]
    reached: bool  # every wanted change within its tolerance, by the mechanism solved with these turns
    comes_to: dict[str, float]  # change of each wanted measure; those of the right wheel as "right measure"
    misses_by: dict[str, float]
    also: dict[str, float]  # what else these turns change, of the left wheel or the axle


def shortest_turns(
    done: Solved, sheet: Sequence[Turned], wanted: Sequence[Wanted], room: Mapping[str, tuple[float, float]] | None = None,
    *, pair_steps: int = PAIR_STEPS,
) -> TurnSet:  # fmt: skip
    """The least turning that brings every wanted measure within its tolerance, in whole steps.

    Args:
        done: the position that was measured.
        sheet: of the adjusters that may be turned.
        wanted: changes of measures.
        room: of adjusters, how many turns shorter (negative) and longer they may go.
        pair_steps: to what part of a turn a right/left pair is set.

    Raises:
        InputError: nothing is wanted; no adjuster changes a wanted measure; what is wanted asks for turns with which the end cannot be
            put together.
    """
    if not wanted:
        raise InputError(
            "Nothing is to be changed. Give a wanted value that differs from the measured one.", fields=("wanted",)
        )
    for want in wanted:
        if all(abs(_effect(one, want)) < 1e-9 for one in sheet):
            raise InputError(
                f"No adjuster here changes {want.measure}. Choose another measure, or make a link adjustable.",
                code="no_effect", fields=("wanted",), value=want.measure,
            )  # fmt: skip
    steps = np.array([1 / pair_steps if one.adjuster.kind == "pair" else 1.0 for one in sheet])
    effect = np.array([[_effect(one, want) for one in sheet] for want in wanted]) * steps
    low = np.array([(room or {}).get(one.adjuster.link, (-MOST_TURNS, MOST_TURNS))[0] for one in sheet]) / steps
    high = np.array([(room or {}).get(one.adjuster.link, (-MOST_TURNS, MOST_TURNS))[1] for one in sheet]) / steps
    target = np.array([want.change for want in wanted])
    within = np.array([want.within for want in wanted])
    turns = np.zeros(len(sheet))
    aim = target.copy()
    best: TurnSet | None = None
    refused: InputError | None = None
    for _ in range(4):  # the turns are found on slopes; what curves is put right by aiming again
        turns = _least(effect, aim, within, low, high, steps) * steps
        try:
            found = _proved(done, sheet, wanted, turns)
        except InputError as error:
            if error.code != NO_END:
                raise
            # what slopes promise beyond the mechanism's reach is no answer: look again within half of it
            reach = np.maximum(np.abs(turns / steps) / 2, 1.0)
            low, high, refused = np.maximum(low, -reach), np.minimum(high, reach), error
            continue
        if best is None or _badness(found, wanted) < _badness(best, wanted):
            best = found
        if found.reached:
            return found
        aim = aim + np.array([found.misses_by[_named(want)] for want in wanted])
    if best is None:
        assert refused
        raise refused
    return best


def _named(want: Wanted) -> str:
    return f"right {want.measure}" if want.right else want.measure


def _effect(one: Turned, want: Wanted) -> float:
    return (one.right if want.right else one.change).get(want.measure, 0.0)


def _badness(found: TurnSet, wanted: Sequence[Wanted]) -> float:
    return max(abs(found.misses_by[_named(want)]) / want.within for want in wanted)


def _proved(done: Solved, sheet: Sequence[Turned], wanted: Sequence[Wanted], turns: Array) -> TurnSet:
    by: dict[str, float] = {}
    for one, count in zip(sheet, turns, strict=True):
        by[one.adjuster.link] = by.get(one.adjuster.link, 0.0) + float(count) * one.adjuster.mm
    before, after = _measured(done), _assembled(done, by)
    comes = {_named(w): after[int(w.right)][w.measure] - before[int(w.right)][w.measure] for w in wanted}
    misses = {_named(w): w.change - comes[_named(w)] for w in wanted}
    reached = all(isfinite(m) and abs(m) <= w.within + 1e-9 for w, m in zip(wanted, misses.values(), strict=True))
    return TurnSet(
        turns={one.adjuster.link: float(count) for one, count in zip(sheet, turns, strict=True)}, reached=reached, comes_to=comes,
        misses_by=misses,
        also={name: value for name, value in _less(after[0], before[0]).items() if name in MEASURES and name not in comes},
    )  # fmt: skip


def _least(effect: Array, target: Array, within: Array, low: Array, high: Array, steps: Array) -> Array:
    """Whole steps n with least Σ |n| step, |effect n − target| within tolerance; where none do, the least excess first."""
    from scipy.optimize import Bounds, LinearConstraint, milp

    count, rows = effect.shape[1], len(target)
    # variables: n (free, whole), |n| (count), excess (one)
    cost = np.concatenate([np.zeros(count), steps, [1e6]])
    scaled = effect / within[:, None]
    aim = target / within
    constraints = [
        LinearConstraint(np.hstack([scaled, np.zeros((rows, count)), -np.ones((rows, 1))]), ub=aim + 1.0),
        LinearConstraint(np.hstack([scaled, np.zeros((rows, count)), np.ones((rows, 1))]), lb=aim - 1.0),
        LinearConstraint(np.hstack([np.eye(count), -np.eye(count), np.zeros((count, 1))]), ub=0.0),
        LinearConstraint(np.hstack([np.eye(count), np.eye(count), np.zeros((count, 1))]), lb=0.0),
    ]
    most = np.maximum(np.abs(low), np.abs(high))
    bounds = Bounds(
        np.concatenate([np.ceil(low - 1e-9), np.zeros(count + 1)]),
        np.concatenate([[floor(h + 1e-9) for h in high], most, [np.inf]]),
    )
    kinds = np.concatenate([np.ones(count), np.zeros(count + 1)])
    found = milp(cost, constraints=constraints, bounds=bounds, integrality=kinds, options={"time_limit": 5.0})
    if found.x is None:
        return np.zeros(count)
    out: Array = np.round(found.x[:count])
    return out
