"""A dummy damper: flat bar with a hole at one eye and one at the other for bump, ride and droop, to hold a wheel where it is wanted while brackets are tacked."""

from __future__ import annotations

import itertools
from collections.abc import Mapping
from dataclasses import dataclass

from tirante.core.flat.contour import Contour, Curve, Hole, Straight

LEAST_BETWEEN = 2.0  # diameters from hole to hole of one bar; common practice, no source


@dataclass(frozen=True, slots=True, kw_only=True)
class Strip:
    """One bar: its holes by what they hold, from its first [mm]."""

    holes: Mapping[str, float]
    contour: Contour


def strips(lengths: Mapping[str, float], *, first: float, second: float, width: float) -> tuple[Strip, ...]:
    """Bars for the lengths wanted: all in one where its holes stand far enough apart, else one for each.

    Args:
        lengths: eye to eye, by what they hold [mm].
        first: hole at the upper eye [mm].
        second: holes at the other.
        width: of the bar [mm].
    """
    every = sorted(lengths.values())
    apart = all(b - a >= LEAST_BETWEEN * second for a, b in itertools.pairwise(every))
    groups = [dict(lengths)] if apart else [{name: mm} for name, mm in lengths.items()]
    return tuple(Strip(holes=group, contour=_bar(sorted(group.values()), first, second, width)) for group in groups)


def _bar(at: list[float], first: float, second: float, width: float) -> Contour:
    """Round ends about its outermost holes."""
    r, long = width / 2, at[-1]
    edges = (
        Straight(0.0, -r, long, -r), Curve(long, 0.0, r, -90.0, 90.0), Straight(long, r, 0.0, r), Curve(0.0, 0.0, r, 90.0, 270.0),
    )  # fmt: skip
    return Contour(edges=edges, holes=(Hole(0.0, 0.0, first), *(Hole(x, 0.0, second) for x in at)))
