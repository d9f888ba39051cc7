"""The four plates of a boxed link as a set that locates itself: the sides stand up between top and bottom with tabs on their edges, which go
into notches in the edges of those, flush with their faces; the bosses go through the sides.

Inside corners have the radius that a cutter leaves: beside each tab the edge dips, and a notch widens at its bottom, so that what comes
together there is square.
"""

from __future__ import annotations

from tirante.core.document.parts.boxed_link import BoxedLink
from tirante.core.flat.contour import Contour, Curve, Edge, Hole, Straight
from tirante.core.members.boxed_link import Box
from tirante.core.parts.part import PlatePiece

TAB = 20.0  # mm long, along the link; common practice, no source
APART = 130.0  # mm from tab to tab, about; likewise
CLEAR = 0.2  # mm round a tab in its notch; likewise
RELIEF = 1.0  # mm, radius of inside corners; likewise


def tab_places(length: float) -> list[float]:
    """Middles of the tabs from pivot A [mm].

    Args:
        length: pivot to pivot [mm].
    """
    count = max(2, round(length / APART))
    return [length * (i + 0.5) / count for i in range(count)]


def side_plate(box: Box, length: float, boss: float | None) -> Contour:
    """A side: pivots at 0 and its length, y up from the pivots' line; round ends, tabs up and down, holes for the bosses.

    Args:
        box: its sizes.
        length: pivot to pivot [mm].
        boss: outside [mm]; None: not known, no holes.
    """
    top, low = box.height / 2 - box.top, -box.height / 2 + box.bottom
    middle, radius = (top + low) / 2, (top - low) / 2
    edges: list[Edge] = []
    _tabbed(edges, [(x, 1.0) for x in tab_places(length)], (0.0, length), low, -box.bottom)
    edges.append(Curve(length, middle, radius, -90.0, 90.0))
    _tabbed(edges, [(x, -1.0) for x in reversed(tab_places(length))], (length, 0.0), top, box.top)
    edges.append(Curve(0.0, middle, radius, 90.0, 270.0))
    holes = () if boss is None else (Hole(0.0, 0.0, boss), Hole(length, 0.0, boss))
    return Contour(edges=tuple(edges), holes=holes)


def _tabbed(
    edges: list[Edge], tabs: list[tuple[float, float]], run: tuple[float, float], at: float, tall: float
) -> None:
    """An edge along x with tabs on it, walked with the metal on the left; each tab stands out by `tall`, which way that is by its sign."""
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


def cover_plate(box: Box, length: float, pad: tuple[float, float] | None) -> Contour:
    """Top or bottom: from pivot to pivot, as wide as the box, notched at both long edges where the sides' tabs come.

    Args:
        box: its sizes.
        length: pivot to pivot [mm].
        pad: where a stop lands on it, from pivot A and off the middle [mm]; None: on this plate none does.
    """
    half, depth, reach = box.width / 2, box.side + CLEAR, TAB / 2 + CLEAR
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
    marks: tuple[Straight, ...] = ()
    if pad is not None:
        x, off = pad
        marks = (Straight(x, off - half / 3, x, off + half / 3), Straight(x - half / 3, off, x + half / 3, off))
    return Contour(edges=tuple(edges), marks=marks)


def _corner(x: float, y: float, way: float, *, first: bool) -> Curve:
    """The half round beside a notch's bottom, into the metal on either side of it."""
    # walked up the notch (way > 0) it bulges back toward where the edge came from, then past the far end
    start, end = (90.0, 270.0) if first == (way > 0) else (-90.0, 90.0)
    return Curve(x, y, RELIEF, start, end, back=True)


def plates_of(link: BoxedLink, box: Box) -> tuple[PlatePiece, ...]:
    """What is cut for it; the sides without an outline while the bosses' outside is not given.

    Args:
        link: as it is saved.
        box: its sizes.
    """
    length = link.between.mm
    side = side_plate(box, length, link.boss_mm)
    top, bottom = cover_plate(box, length, (link.pad_at.mm, link.pad_offset_mm)), cover_plate(box, length, None)

    def piece(
        name: str, contour: Contour, thickness: float, count: int, told: str, *, known: bool = True
    ) -> PlatePiece:
        left, low, right, high = contour.bounds
        return PlatePiece(
            name=name, material=link.plate_name, thickness=thickness, length=right - left, width=high - low, outline=contour if known else None, told=told,
            count=count,
        )  # fmt: skip

    tabs = len(tab_places(length))
    bored = (
        f"bosses’ holes ⌀{link.boss_mm:g}"
        if link.boss_mm
        else "the holes for its bosses are not known: give the bosses’ outside"
    )
    return (
        piece("side plate", side, link.side_mm, 2, f"{2 * tabs} tabs, {bored}", known=link.boss_mm is not None),
        piece("top plate", top, link.top_mm, 1, f"{2 * tabs} notches for the sides’ tabs; the stop’s place marked"),
        piece("bottom plate", bottom, link.bottom_mm, 1, f"{2 * tabs} notches for the sides’ tabs"),
    )
