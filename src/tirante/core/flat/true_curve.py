"""A true curve as arcs, for cutters that know lines and arcs only: never further from it than is said, ends met exactly."""

from __future__ import annotations

from collections.abc import Callable
from math import atan2, degrees, hypot

from tirante.core.flat.contour import Curve, Edge, FlatPoint, Straight

WITHIN = 0.005  # [mm] that an arc may stand off its curve: half of what is asked of a pattern
DEEPEST = 12  # halvings; by then a piece is a four-thousandth of the curve
LOOKS = 16  # places between the ends of a piece at which it is looked at


def arcs_of(curve: Callable[[float], FlatPoint], start: float, end: float, within: float = WITHIN) -> list[Edge]:
    """Arcs (and lines, where it is straight) along a curve, in the order it is walked.

    Args:
        curve: a point of it by its parameter.
        start: the parameter where it begins.
        end: where it ends.
        within: how far an arc may stand off it [mm].
    """
    return _piece(curve, start, end, within, 0)


def _piece(curve: Callable[[float], FlatPoint], start: float, end: float, within: float, depth: int) -> list[Edge]:
    middle = (start + end) / 2
    edge = _through(curve(start), curve(middle), curve(end))
    if depth >= DEEPEST or _off(edge, curve, start, end) <= within:
        return [edge]
    return [*_piece(curve, start, middle, within, depth + 1), *_piece(curve, middle, end, within, depth + 1)]


def _through(a: FlatPoint, b: FlatPoint, c: FlatPoint) -> Edge:
    """The arc from a by b to c; the line, where they lie in one."""
    bx, by, cx, cy = b[0] - a[0], b[1] - a[1], c[0] - a[0], c[1] - a[1]
    turn = bx * cy - by * cx
    if abs(turn) < 1e-9 * max(hypot(cx, cy), 1e-9) ** 2:
        return Straight(*a, *c)
    size_b, size_c = bx * bx + by * by, cx * cx + cy * cy
    ux, uy = (cy * size_b - by * size_c) / (2 * turn), (bx * size_c - cx * size_b) / (2 * turn)
    centre = a[0] + ux, a[1] + uy
    first, last = (degrees(atan2(p[1] - centre[1], p[0] - centre[0])) for p in (a, c))
    if turn > 0:  # counter-clockwise
        return Curve(*centre, hypot(ux, uy), first, last if last > first else last + 360.0)
    return Curve(*centre, hypot(ux, uy), last, first if first > last else first + 360.0, back=True)


def _off(edge: Edge, curve: Callable[[float], FlatPoint], start: float, end: float) -> float:
    places = [curve(start + (end - start) * i / LOOKS) for i in range(1, LOOKS)]
    if isinstance(edge, Straight):
        size = max(hypot(edge.x2 - edge.x1, edge.y2 - edge.y1), 1e-12)
        return max(
            abs((x - edge.x1) * (edge.y2 - edge.y1) - (y - edge.y1) * (edge.x2 - edge.x1)) / size for x, y in places
        )
    return max(abs(hypot(x - edge.cx, y - edge.cy) - edge.r) for x, y in places)
