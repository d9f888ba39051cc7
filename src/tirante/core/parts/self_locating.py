"""Plates that locate each other: tabs along the edges of one go into notches along the edges of another, flush with its face.

Inside corners have the radius that a cutter leaves: beside each tab the edge dips, and a notch widens at its bottom, so that what comes
together there is square.
"""

from __future__ import annotations

from tirante.core.flat.contour import Contour, Curve, Edge, Straight

TAB = 20.0  # mm long, along the plate; common practice, no source
APART = 130.0  # mm from tab to tab, about; likewise
CLEAR = 0.2  # mm round a tab in its notch; likewise
RELIEF = 1.0  # mm, radius of inside corners; likewise
LEAST = 2 * TAB  # mm of a plate for each tab: a shorter one has none


def tab_places(length: float) -> list[float]:
    """Middles of the tabs from the plate's first end [mm]: two or more, one where there is no room for two, none where there is none for one.

    Args:
        length: of the plate [mm].
    """
    count = min(max(2, round(length / APART)), int(length // LEAST))
    return [length * (i + 0.5) / count for i in range(count)]


def tabbed_edge(
    edges: list[Edge], tabs: list[tuple[float, float]], run: tuple[float, float], at: float, tall: float
) -> None:
    """An edge along x with tabs on it, walked with the metal on the left.

    Args:
        edges: that it is put behind.
        tabs: the middle of each, and which way along x the edge is walked.
        run: from where to where along x [mm].
        at: its y [mm].
        tall: how far each tab stands out, its sign the way [mm].
    """
    x, r = run[0], RELIEF
    for middle, way in tabs:
        near, far = middle - way * TAB / 2, middle + way * TAB / 2
        edges.append(Straight(x, at, near - way * 2 * r, at))
        edges.append(_dip(near - way * r, at, way))
        edges += [
            Straight(near, at, near, at + tall),
            Straight(near, at + tall, far, at + tall),
            Straight(far, at + tall, far, at),
        ]
        edges.append(_dip(far + way * r, at, way))
        x = far + way * 2 * r
    edges.append(Straight(x, at, run[1], at))


def _dip(x: float, y: float, way: float) -> Curve:
    """A half round into the metal, walked the way of the edge: clockwise."""
    return Curve(x, y, RELIEF, 0.0, 180.0, back=True) if way > 0 else Curve(x, y, RELIEF, 180.0, 360.0, back=True)


def notched_plate(length: float, width: float, through: float, marks: tuple[Straight, ...] = ()) -> Contour:
    """A plate with notches along both long edges, its middle line from 0 to its length.

    Args:
        length: of it [mm].
        width: across it [mm].
        through: thickness of the plate whose tabs come in [mm].
        marks: on it.
    """
    half, depth, reach = width / 2, through + CLEAR, TAB / 2 + CLEAR
    edges: list[Edge] = []
    for way, places in ((1.0, tab_places(length)), (-1.0, list(reversed(tab_places(length))))):
        y, x = -way * half, 0.0 if way > 0 else length
        bottom = y + way * depth
        for middle in places:
            near, far = middle - way * reach, middle + way * reach
            turn = bottom - way * 2 * RELIEF
            edges += [Straight(x, y, near, y), Straight(near, y, near, turn)]
            edges.append(_corner(near, bottom - way * RELIEF, way, first=True))
            edges.append(Straight(near, bottom, far, bottom))
            edges.append(_corner(far, bottom - way * RELIEF, way, first=False))
            edges.append(Straight(far, turn, far, y))
            x = far
        end = length if way > 0 else 0.0
        edges += [Straight(x, y, end, y), Straight(end, y, end, -y)]
    return Contour(edges=tuple(edges), marks=marks)


def tabbed_plate(length: float, width: float, through: float) -> Contour:
    """A plate with tabs along both long edges, its middle line from 0 to its length.

    Args:
        length: of it [mm].
        width: across it, without its tabs [mm].
        through: thickness of the plates that they go into [mm].
    """
    half, places = width / 2, tab_places(length)
    edges: list[Edge] = []
    tabbed_edge(edges, [(x, 1.0) for x in places], (0.0, length), -half, -through)
    edges.append(Straight(length, -half, length, half))
    tabbed_edge(edges, [(x, -1.0) for x in reversed(places)], (length, 0.0), half, through)
    edges.append(Straight(0.0, half, 0.0, -half))
    return Contour(edges=tuple(edges))


def _corner(x: float, y: float, way: float, *, first: bool) -> Curve:
    """The half round beside a notch's bottom, into the metal on either side of it."""
    # walked up the notch (way > 0) it bulges back toward where the edge came from, then past the far end
    start, end = (90.0, 270.0) if first == (way > 0) else (-90.0, 90.0)
    return Curve(x, y, RELIEF, start, end, back=True)
