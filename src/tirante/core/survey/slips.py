"""The slip that would explain a reading that does not fit: what a hand does wrong with a tape, tried one after the other.

A slip explains a reading where what it would then have been lies within what the other readings say of it. The list is
common practice, no source. Several may explain one reading: all are told, the nearest first.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from fractions import Fraction
from itertools import pairwise
from math import floor

from tirante.core.units import INCH

NEAR = 3.0  # deviations from what is expected
MARKS_MM = (10.0, 50.0, 100.0, 1000.0)
MARKS_IN = (1 / 16, 1 / 8, 1 / 4, 1 / 2, 1.0, 12.0)


@dataclass(frozen=True, slots=True, kw_only=True)
class Slip:
    """What may have been done, and what the reading then is."""

    what: str
    would_be: float  # [mm] or [rad]
    off: float  # deviations from what is expected


def slips(
    read: float, expected: float, sd: float, typed: str = "", unit: str = "mm", taken: Mapping[str, float] | None = None
) -> tuple[Slip, ...]:
    """What would explain a reading, the nearest first.

    Args:
        read: what was read, after what is taken off it [mm].
        expected: by all other readings [mm].
        sd: of their difference [mm].
        typed: the figure as it was typed, in its unit.
        unit: of it: mm or in.
        taken: what was added to the figure, or may have to be, in words, with its size [mm]: a radius, a shim, the pitch of a row of holes.
    """
    found: dict[str, Slip] = {}
    for what, would_be in _ways(read, typed, unit, taken or {}):
        off = abs(would_be - expected) / sd
        if off <= NEAR and (what not in found or off < found[what].off):
            found[what] = Slip(what=what, would_be=would_be, off=off)
    return tuple(sorted(found.values(), key=lambda one: one.off))


def _ways(read: float, typed: str, unit: str, taken: Mapping[str, float]) -> Iterator[tuple[str, float]]:
    one = INCH if unit == "in" else 1.0
    figure = _figure(typed)
    rest = 0.0 if figure is None else read - figure * one  # what was taken off or added
    if figure is not None:
        yield ("inches were read and millimetres typed", figure * INCH + rest) if unit == "mm" else (
            "millimetres were read and inches typed", figure + rest
        )  # fmt: skip
        for swapped in _swapped(typed):
            yield "two digits changed over", swapped * one + rest
        if unit == "in":
            yield from _sixteenths(figure, typed, rest)
        yield "the sign is the other one", -figure * one + rest
    for what, size in taken.items():
        if size:
            yield f"{what} was not taken into account", read + size
            yield f"{what} was taken into account the wrong way", read - 2 * size
            yield f"{what} was taken into account and should not be", read - size
    for mark in MARKS_IN if unit == "in" else MARKS_MM:
        told = (
            f"{mark:g} in" if unit == "in" and mark >= 1 else f"1/{1 / mark:.0f} in" if unit == "in" else f"{mark:g} mm"
        )
        yield f"the tape was read one mark off, {told}", read + mark * one
        yield f"the tape was read one mark off, {told}", read - mark * one


def _figure(typed: str) -> float | None:
    """A decimal or a fraction as it was typed: 12.5, 12 5/16."""
    text = typed.replace("−", "-").replace(",", ".").strip()
    try:
        parts = [Fraction(part) for part in text.lstrip("-").split()]
    except (ValueError, ZeroDivisionError):
        return None
    return (-1.0 if text.startswith("-") else 1.0) * float(sum(parts)) if parts else None


def _swapped(typed: str) -> Iterator[float]:
    """The figure with two digits that stand side by side, or either side of its point, changed over."""
    places = [i for i, sign in enumerate(typed) if sign.isdigit()]
    for i, j in pairwise(places):
        if typed[i] != typed[j]:
            signs = list(typed)
            signs[i], signs[j] = signs[j], signs[i]
            found = _figure("".join(signs))
            if found is not None:
                yield found


def _sixteenths(figure: float, typed: str, rest: float) -> Iterator[tuple[str, float]]:
    """“12.5” for 12 5/16: sixteenths written behind a point; and the other way about."""
    whole, _, parts = typed.partition(".")
    if parts.isdigit() and 0 < int(parts) < 16 and whole.lstrip("−-").isdigit():
        sign = -1.0 if figure < 0 else 1.0
        yield (
            "sixteenths were typed behind a point",
            sign * (abs(float(_figure(whole) or 0.0)) + int(parts) / 16) * INCH + rest,
        )
    over = abs(figure) - floor(abs(figure))
    count = round(over * 16)
    if 0 < count < 10 and abs(over * 16 - count) < 1e-6:
        sign = -1.0 if figure < 0 else 1.0
        yield "tenths were typed as sixteenths", sign * (floor(abs(figure)) + count / 10) * INCH + rest
