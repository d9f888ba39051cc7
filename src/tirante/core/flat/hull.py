"""The outline round several circles: the shortest closed line about them, as exact arcs and lines.

Source:
    Convex hull of circles by their support function: from a circle i in the direction θ the line goes over to the circle j that is met first,
    where cos(θ − φ) = (r_i − r_j) / d, φ and d the way and distance from i to j (derived).
"""

from __future__ import annotations

from collections.abc import Sequence
from math import acos, atan2, cos, degrees, hypot, pi, sin

from tirante.core.errors import InputError
from tirante.core.flat.contour import Curve, Edge, Straight

Circle = tuple[float, float, float]  # middle and radius; a radius of nothing is a corner
_TINY = 1e-9


def around(circles: Sequence[Circle], first: int, start: float = -pi / 2) -> list[tuple[int, float, float]]:
    """The circles that the line touches, counter-clockwise from one that it surely does, each with the directions of its arc [rad].

    Args:
        circles: all of them.
        first: one that stands furthest in the direction of `start`.
        start: direction [rad].

    Raises:
        InputError: the line does not close, which no set of circles does.
    """
    found: list[tuple[int, float, float]] = []
    i, turn = first, start
    for _ in range(4 * len(circles) + 4):
        x, y, r = circles[i]
        best: tuple[float, float, int] | None = None
        for j, (xj, yj, rj) in enumerate(circles):
            d = hypot(xj - x, yj - y)
            if j == i or d < _TINY or abs(r - rj) > d:  # the same, or one within the other
                continue
            over = atan2(yj - y, xj - x) - acos((r - rj) / d)
            ahead = (over - turn) % (2 * pi)
            if ahead > 2 * pi - 1e-9:
                ahead = 0.0
            # of those met at once the furthest: the line runs on over the others
            if best is None or ahead < best[0] - 1e-9 or (ahead < best[0] + 1e-9 and -d < best[1]):
                best = ahead, -d, j
        if best is None:
            return [(i, turn, turn + 2 * pi)]
        end = turn + best[0]
        if end >= start + 2 * pi - 1e-9:
            found.append((i, turn, start + 2 * pi))
            return found
        found.append((i, turn, end))
        i, turn = best[2], end
    raise InputError("The outline round these holes does not close.", code="contradictory")


def edges_between(circles: Sequence[Circle], passed: Sequence[tuple[int, float, float]]) -> list[Edge]:
    """Arcs and tangents along circles that are passed in turn.

    Args:
        circles: all of them.
        passed: as `around` gives them.
    """
    edges: list[Edge] = []
    for k, (i, turn, end) in enumerate(passed):
        x, y, r = circles[i]
        if r > _TINY and end - turn > 1e-9:
            edges.append(Curve(x, y, r, degrees(turn), degrees(end)))
        if k + 1 < len(passed):
            xj, yj, rj = circles[passed[k + 1][0]]
            a = (x + r * cos(end), y + r * sin(end))
            b = (xj + rj * cos(end), yj + rj * sin(end))
            if hypot(b[0] - a[0], b[1] - a[1]) > _TINY:
                edges.append(Straight(*a, *b))
    return edges
