"""An opening in the base of a folded bracket, for what swings between its ears: its outline, and where it may be."""

from __future__ import annotations

from math import sqrt

from tirante.core.document.parts.folded_u import BaseSlot
from tirante.core.errors import InputError
from tirante.core.flat.contour import Curve, Edge, Straight
from tirante.core.quantities import or_less

ROUND = 4.0  # mm, of its corners: none that a cutter cannot turn; common practice, no source
WITHIN = ROUND * (1.0 - 1.0 / sqrt(2.0))  # from each of its sides to the largest square-cornered opening in it [mm]
EDGE = 2.0  # plate's thicknesses between it and the base's free edges; common practice, no source


def opening_of(slot: BaseSlot) -> tuple[Edge, ...]:
    """Its outline in the flat, counter-clockwise: x along the bolt, y along the bends.

    Args:
        slot: as it is saved.
    """
    x, y, r = slot.wide_mm / 2, slot.long_mm / 2, min(ROUND, slot.wide_mm / 2, slot.long_mm / 2)
    low, high = slot.at_mm - y, slot.at_mm + y
    edges: list[Edge] = []
    for start, end, centre, turn in (
        ((x, low + r), (x, high - r), (x - r, high - r), 0.0), ((x - r, high), (r - x, high), (r - x, high - r), 90.0),
        ((-x, high - r), (-x, low + r), (r - x, low + r), 180.0), ((r - x, low), (x - r, low), (x - r, low + r), 270.0),
    ):  # fmt: skip
        if abs(start[0] - end[0]) + abs(start[1] - end[1]) > 1e-9:
            edges.append(Straight(*start, *end))
        edges.append(Curve(*centre, r, turn, turn + 90.0))
    return tuple(edges)


def widest(gap: float, thickness: float, radius: float) -> float:
    """How wide it may be: from the bends' beginnings 2 t + R is left, as of holes [mm].

    Args:
        gap: between the ears [mm].
        thickness: of the plate [mm].
        radius: of the bends, inside [mm].

    Source:
        Common practice, no source.
    """
    return 2 * (gap / 2 - radius - 2 * thickness - radius)


def longest(width: float, thickness: float, at: float = 0.0) -> float:
    """How long it may be [mm].

    Args:
        width: of the base along the bends [mm].
        thickness: of the plate [mm].
        at: of its middle from the base's [mm].
    """
    return 2 * (width / 2 - EDGE * thickness - abs(at))


def require_slot(slot: BaseSlot, gap: float, sizes: tuple[float, float, float]) -> None:
    """Whether the base leaves room for it.

    Args:
        slot: as it is saved.
        gap: between the ears [mm].
        sizes: the base's width along the bends, its thickness, its bends' inside radius [mm].

    Raises:
        InputError: too little metal would be left, with the most that may be cut.
    """
    width, thickness, radius = sizes
    most = widest(gap, thickness, radius)
    if slot.wide_mm > most + 1e-9:
        cure = f"{or_less(most)} mm or less" if most >= 8.0 else "there is no room for one"
        raise InputError(f"Its slot is {slot.wide_mm:g} mm wide; from the bends’ beginnings 2 t + R is left free (common practice): {cure}. Set the ears further apart, or leave it out.", code="out_of_range", fields=("slot.wide_mm",), value=slot.wide_mm, limits=(8.0, most))  # fmt: skip
    most = longest(width, thickness, slot.at_mm)
    if slot.long_mm > most + 1e-9:
        cure = f"{or_less(most)} mm or less there" if most >= 8.0 else "there is no room for one there"
        raise InputError(f"Its slot is {slot.long_mm:g} mm long, and {EDGE * thickness:g} mm are left to the base’s edges: {cure}. Widen the base, or leave it out.", code="out_of_range", fields=("slot.long_mm",), value=slot.long_mm, limits=(8.0, most))  # fmt: skip
