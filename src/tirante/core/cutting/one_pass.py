"""Two tubes with like notches sawn as one length: one pass of the hole saw parts them, and leaves each its notch.

A hole saw that goes through a tube leaves the same notch on either side of it. Their longest points stand apart by what the saw takes there; that is never less
than nothing, since the saw is as wide as the tube or wider, so that one pass spares a cut and a set-up, and of the metal a kerf at most. It is done only where
what is left of a stick has room for it: no stick more is asked for. Not for notches beside the middle, over two surfaces, or cut to a wrap.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace
from math import ceil

from tirante.core.cutting.cut_list import SawPiece
from tirante.core.cutting.passes import Pass
from tirante.core.cutting.sticks import REMNANT, SET_UPS, Cutting, Saw, set_ups

LIKE = 0.05  # [°] within which notches are alike
TENTH = 10
FINE = 1e-6


def shared(
    cutting: Cutting, pieces: Sequence[SawPiece], saw: Saw, name: Callable[[SawPiece], str]
) -> tuple[Cutting, dict[float, str], int]:  # fmt: skip
    """A layout with like notches beside one another sawn as one, where there is room.

    Args:
        cutting: laid out, piece by piece, to a tenth.
        pieces: that it is of.
        saw: kerf and trims.
        name: what a piece is called.

    Returns:
        The layout; what its longer pieces are, by their lengths; how many passes part two.
    """
    pool: dict[float, list[SawPiece]] = {}
    for piece in pieces:
        pool.setdefault(round(piece.length_mm * TENTH) / TENTH, []).extend([piece] * piece.count)
    names: dict[float, str] = {}
    sticks, count = [], 0
    for stick in cutting.sticks:
        laid = [(mm, pool[mm].pop(0)) for mm in stick.pieces]
        room = saw.room(stick.length) - sum(mm + saw.kerf for mm in stick.pieces)
        done: list[float] = []
        while laid:
            mm, one = laid.pop(0)
            found = next(
                ((i, by, step) for i, (_, other) in enumerate(laid) for by, step in _together(one, other) if step <= room + saw.kerf + FINE), None
            )  # fmt: skip
            if found is None:
                done.append(mm)
                continue
            i, by, step = found
            other_mm, other = laid.pop(i)
            long = round((mm + step + other_mm) * TENTH) / TENTH
            room += saw.kerf - step
            count += 1
            done.append(long)
            told = f"{name(one)} and {name(other)}{AS_ONE}one pass of the ⌀{by.saw:g} mm hole saw, {by.off_square:g}° off square, its middle {mm + step / 2:.1f} mm from the first’s other end, parts them"
            names[long] = "; ".join(dict.fromkeys((*names.get(long, told).split("; "), told)))
        sticks.append(replace(stick, pieces=tuple(done), left=saw.left(stick.length, done)))
    # what was proved of the remnant was so of pieces that are sawn one by one
    wishes = tuple(
        replace(one, value=float(set_ups(sticks))) if one.name == SET_UPS else one for one in cutting.wishes if one.name != REMNANT or not count
    )  # fmt: skip
    return replace(cutting, sticks=tuple(sticks), wishes=wishes), names, count


AS_ONE = " as one: "


def is_in(name: str, told: str) -> bool:
    """Whether a piece is one of the two that are sawn as one.

    Args:
        name: of the piece.
        told: of the length that is sawn.
    """
    return any(
        part.startswith(f"{name} and ") or f" and {name}{AS_ONE}" in part for part in told.split("; ") if AS_ONE in part
    )


def _together(one: SawPiece, other: SawPiece) -> list[tuple[Pass, float]]:
    """The passes that part two pieces, with how far they leave them apart, to a tenth upward; the nearest first."""
    if one.od_mm is None:
        return []
    found = {
        a: ceil(a.apart(one.od_mm) * TENTH - FINE) / TENTH
        for a in one.passes if a for b in other.passes if b and a.saw == b.saw and abs(a.off_square - b.off_square) <= LIKE
    }  # fmt: skip
    return sorted(found.items(), key=lambda by: by[1])
