"""The four plates of a boxed link as a set that locates itself: the sides stand up between top and bottom with tabs on their edges, which go
into notches in the edges of those, flush with their faces; the bosses go through the sides.
"""

from __future__ import annotations

from tirante.core.document.parts.boxed_link import BoxedLink
from tirante.core.flat.contour import Contour, Curve, Edge, Hole, Straight
from tirante.core.members.boxed_link import Box
from tirante.core.parts.part import PlatePiece
from tirante.core.parts.self_locating import notched_plate, tab_places, tabbed_edge


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
    tabbed_edge(edges, [(x, 1.0) for x in tab_places(length)], (0.0, length), low, -box.bottom)
    edges.append(Curve(length, middle, radius, -90.0, 90.0))
    tabbed_edge(edges, [(x, -1.0) for x in reversed(tab_places(length))], (length, 0.0), top, box.top)
    edges.append(Curve(0.0, middle, radius, 90.0, 270.0))
    holes = () if boss is None else (Hole(0.0, 0.0, boss), Hole(length, 0.0, boss))
    return Contour(edges=tuple(edges), holes=holes)


def cover_plate(box: Box, length: float, pad: tuple[float, float] | None) -> Contour:
    """Top or bottom: from pivot to pivot, as wide as the box, notched at both long edges where the sides' tabs come.

    Args:
        box: its sizes.
        length: pivot to pivot [mm].
        pad: where a stop lands on it, from pivot A and off the middle [mm]; None: on this plate none does.
    """
    marks: tuple[Straight, ...] = ()
    if pad is not None:
        (x, off), half = pad, box.width / 2
        marks = (Straight(x, off - half / 3, x, off + half / 3), Straight(x - half / 3, off, x + half / 3, off))
    return notched_plate(length, box.width, box.side, marks)


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
