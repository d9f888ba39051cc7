"""Spanners on hexagons that are not the joint's own: bolts of feet, of clamps, of pads."""

from __future__ import annotations

from collections.abc import Callable, Sequence

import numpy as np
from numpy.typing import NDArray

from tirante.core.brackets.tools import Hexagon, WayOut
from tirante.core.geometry.convex import Bar, Cylinder, Prism, Wall, gap
from tirante.core.job.room.near import TOUCHES
from tirante.core.job.room.reach import Fixed, Path, Turn, nearest, turn_about

Array = NDArray[np.float64]
Bolts = Sequence[tuple[str, tuple[WayOut, ...]]]  # each with what it is, and the ways that it may be drawn out
Hexagons = Sequence[tuple[str, Hexagon]]  # each with what it is, in words, of several; alike ones under one name


def _itself(thing: Fixed, at: Array) -> bool:
    """Whether something of the bracket is what a place lies in: a hexagon, as the block that it is taken as."""
    if not thing.own or isinstance(thing.solid, Wall):
        return False
    middle = at[:, None]
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
            turns = [turn_about(on, [one for one in things if not _itself(one, on.face + on.out * on.tall / 2)]) for own, on in hexagons if own == name]  # fmt: skip
            worst = min(turns, key=_ease)
            if name not in found or _ease(worst) > found[name][0]:
                found[name] = _ease(worst), worst, words
    return [(name, turn, words) for name, (_, turn, words) in found.items()]


def way_out(way: WayOut) -> Cylinder | Prism:
    """The room that a bolt takes while it is drawn out, as a solid.

    Args:
        way: it.
    """
    end = way.face + way.long * way.out
    if way.wide is None:
        return Cylinder(way.face[:, None], end[:, None], way.radius)
    a, b = way.halves
    outline, at = np.array([(-a, 0.0), (a, 0.0), (a, way.long), (-a, way.long)]), way.face
    x, y, z = (v[:, None] for v in (way.wide, way.out, np.cross(way.wide, way.out)))
    return Prism(outline, at[:, None], x, y, z, b)


def _others(things: Sequence[Fixed], name: str, way: WayOut) -> list[Fixed]:
    """All but the bolt itself, and its head or nut."""
    at = way.face + HEAD_MIDDLE * way.radius * way.out
    return [one for one in things if not (one.own and (one.name == name or _itself(one, at)))]


HEAD_MIDDLE = 0.3  # radii of a bolt's head over its washer, where all of it is head


def drawn(bolts: Bolts, things_at: Callable[[int], Sequence[Fixed]], lanes: Sequence[tuple[int, str]]) -> list[tuple[str, Path, Array, str]]:  # fmt: skip
    """Of each name the bolt that is drawn out worst, each by its easiest way, at the position at which that is best: its name, what is nearest, the way, and where.

    Args:
        bolts: all of them.
        things_at: what stands there, by position.
        lanes: positions that it may be done at, each in words.
    """
    found: dict[str, tuple[Path, Array, str]] = {}
    for lane, words in lanes:
        things = things_at(lane)
        for name in dict.fromkeys(name for name, _ in bolts):
            best = [max(((nearest(way_out(way), _others(things, name, way))[0], way.out) for way in ways), key=lambda one: one[0].gap) for own, ways in bolts if own == name]  # fmt: skip
            path, out = min(best, key=lambda one: one[0].gap)
            if name not in found or path.gap > found[name][0].gap:
                found[name] = path, out, words
    return [(name, *one) for name, one in found.items()]


def _ease(turn: Turn) -> tuple[int, float]:
    """How easily a spanner turns: whether it does, then through how much."""
    return int(turn.turns) + int(turn.holds), max(turn.arc, turn.open or 0.0)
