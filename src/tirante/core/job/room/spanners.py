"""Spanners on hexagons that are not the joint's own: bolts of feet, of clamps, of pads."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from tirante.core.brackets.tools import Hexagon
from tirante.core.geometry.convex import Bar, Wall, gap
from tirante.core.job.room.near import TOUCHES
from tirante.core.job.room.reach import Fixed, Turn, turn_about

Hexagons = Sequence[tuple[str, Hexagon]]  # each with what it is, in words, of several; alike ones under one name


def _itself(thing: Fixed, on: Hexagon) -> bool:
    """Whether something of the bracket is the hexagon, as the block that it is taken as."""
    if not thing.own or isinstance(thing.solid, Wall):
        return False
    middle = (on.face + on.out * on.tall / 2)[:, None]
    return bool(gap(Bar(middle, middle, 0.0), thing.solid, 1)[0] <= TOUCHES)


def hardest(hexagons: Hexagons, things_at: Callable[[int], Sequence[Fixed]], lanes: Sequence[tuple[int, str]]) -> list[tuple[str, Turn, str]]:  # fmt: skip
    """Of each name the hexagon that is reached worst, at the position at which that is best: its name, how a spanner turns, and where.

    Args:
        hexagons: all of them.
        things_at: what stands there, by position.
        lanes: positions that it may be done at, each in words.
    """
    found: dict[str, tuple[tuple[int, float], Turn, str]] = {}
    for lane, words in lanes:
        things = things_at(lane)
        for name in dict.fromkeys(name for name, _ in hexagons):
            turns = [turn_about(on, [one for one in things if not _itself(one, on)]) for own, on in hexagons if own == name]  # fmt: skip
            worst = min(turns, key=_ease)
            if name not in found or _ease(worst) > found[name][0]:
                found[name] = _ease(worst), worst, words
    return [(name, turn, words) for name, (_, turn, words) in found.items()]


def _ease(turn: Turn) -> tuple[int, float]:
    """How easily a spanner turns: whether it does, then through how much."""
    return int(turn.turns) + int(turn.holds), max(turn.arc, turn.open or 0.0)
