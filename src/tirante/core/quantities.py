"""Lengths as people type and read them: millimetres, decimal inches, fractions, feet and inches.

Public: `parse_length`, `format_length`, `format_inch_fraction`, `ParsedLength`.
A number is kept as an exact fraction until it is turned into millimetres once.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from decimal import ROUND_HALF_UP, Decimal
from fractions import Fraction
from math import ceil, floor, isfinite
from typing import Literal

from tirante.core.errors import InputError
from tirante.core.units import FOOT_EXACT, INCH_EXACT

Unit = Literal["mm", "in"]

MINUS = "−"
_NUMBER = r"\d+(?:[.]\d*)?|[.]\d+"
_MIXED = re.compile(rf"^(?P<whole>{_NUMBER})?(?:(?:\s+|(?<=\d)-|^)(?P<num>\d+)\s*/\s*(?P<den>\d+))?$")
_VULGAR = {"½": "1/2", "¼": "1/4", "¾": "3/4", "⅛": "1/8", "⅜": "3/8", "⅝": "5/8", "⅞": "7/8"}
_UNITS: dict[str, Fraction] = {
    "mm": Fraction(1),
    "cm": Fraction(10),
    "m": Fraction(1000),
    "in": INCH_EXACT,
    "inch": INCH_EXACT,
    "inches": INCH_EXACT,
    '"': INCH_EXACT,
    "ft": FOOT_EXACT,
    "'": FOOT_EXACT,
}
MAX_LENGTH = Fraction(1_000_000)  # mm; a kilometre is no suspension part


@dataclass(frozen=True, slots=True, kw_only=True)
class ParsedLength:
    """A length as typed and as understood."""

    typed: str
    exact: Fraction  # mm
    unit: Unit  # the system it was typed in
    fraction: bool  # typed with a fraction bar

    @property
    def mm(self) -> float:
        """The length, rounded once to a float [mm]."""
        return float(self.exact)


def _bad(typed: str, why: str, code: str = "not_a_length") -> InputError:
    return InputError(f"{why} Write for example 546.1, 21 1/2 in, 14.5in or 2' 3 1/4\".", code=code, value=typed)


def _number(text: str, typed: str) -> tuple[Fraction, bool]:
    match = _MIXED.match(text.strip())
    if not match or not (match["whole"] or match["num"]):
        raise _bad(typed, f"“{typed}” is not a complete length.")
    whole = Fraction(match["whole"].rstrip(".")) if match["whole"] else Fraction(0)
    if not match["num"]:
        return whole, False
    if match["whole"] and whole.denominator != 1:
        raise _bad(typed, f"“{typed}” mixes a decimal with a fraction.")
    if int(match["den"]) == 0:
        raise _bad(typed, f"“{typed}” divides by zero.")
    return whole + Fraction(int(match["num"]), int(match["den"])), True


def parse_length(text: str, page_unit: Unit, *, signed: bool = False) -> ParsedLength:
    """Read a length as a person types it.

    Args:
        text: What was typed, such as "21 1/2", "546.1", "14.5 in", "2' 3 1/4\"".
            Two readings of one length may stand together, joined by "=" ("110 mm = 4.33 in").
        page_unit: The unit a bare number is taken in.
        signed: Whether a leading minus is allowed (coordinates).

    Returns:
        The length with what was typed.

    Raises:
        InputError: `not_a_length`, `ambiguous_unit` (a fraction without a unit while the page is in mm: it is asked
            about, never guessed), `readings_disagree`, `out_of_range`.
    """
    typed = text[:80]
    if len(text) > 80:
        raise _bad(typed, "That is too long for a length.")
    if "=" in text:
        return _two_readings(text, page_unit, signed)
    body = text.strip().lower().replace(MINUS, "-").replace("″", '"').replace("′", "'").replace("''", '"')
    for glyph, plain in _VULGAR.items():
        body = body.replace(glyph, " " + plain)
    body = " ".join(body.split())
    if re.search(r"\d,\d", body):
        raise _bad(typed, f"“{typed}” has a comma. Use a point for decimals and no mark for thousands.")
    negative = body.startswith("-")
    body = body[1:].strip() if body[:1] in ("+", "-") else body
    if negative and not signed:
        raise InputError(
            "A length cannot be negative. Remove the minus.", code="out_of_range", value=typed, limits=(0, None)
        )
    if strange := next((run for run in re.findall("[a-z]+", body) if run not in _UNITS), None):
        raise _bad(typed, f"“{typed}” is not a complete length: “{strange}” is no unit of length.")
    total, unit, fraction, seen = Fraction(0), None, False, 0
    for part in re.finditer(r"""([^a-z"']+)(mm|cm|m|inches|inch|in|ft|"|')?\s*""", body):
        number, has_bar = _number(part[1], typed)
        scale = _UNITS.get(part[2] or "")
        if seen and (scale not in (INCH_EXACT, None) or unit != FOOT_EXACT):
            raise _bad(typed, f"“{typed}” has two lengths in it.")
        if seen == 0 and scale is None:
            if has_bar and page_unit == "mm":
                raise InputError(
                    f"“{typed}” is a fraction and the page is in millimetres. Say which: “{typed} in” or “{typed} mm”.",
                    code="ambiguous_unit",
                    value=typed,
                )
            scale = INCH_EXACT if page_unit == "in" else Fraction(1)
        if scale is None:  # "2' 3": inches are what follows feet
            scale = INCH_EXACT
        total, unit, fraction, seen = total + number * scale, scale, fraction or has_bar, seen + 1
    consumed = "".join(m[0] for m in re.finditer(r"""([^a-z"']+)(mm|cm|m|inches|inch|in|ft|"|')?\s*""", body))
    if not seen or consumed != body:
        raise _bad(typed, f"“{typed}” is not a complete length." if typed.strip() else "A length is missing.")
    if total > MAX_LENGTH:
        raise InputError(
            "That is longer than a kilometre.", code="out_of_range", value=typed, limits=(0, float(MAX_LENGTH))
        )
    system: Unit = "in" if unit in (INCH_EXACT, FOOT_EXACT) else "mm"
    return ParsedLength(typed=text.strip(), exact=-total if negative else total, unit=system, fraction=fraction)


def _two_readings(text: str, page_unit: Unit, signed: bool) -> ParsedLength:
    first, _, second = text.partition("=")
    one = parse_length(first, page_unit, signed=signed)
    other = parse_length(second, page_unit, signed=signed)
    # a tape is read to half a millimetre or 1/32 in at best; more than 1 mm apart is a slip of one of them
    if abs(one.exact - other.exact) > 1:
        raise InputError(
            f"The two readings disagree: {first.strip()} is {one.mm:.2f} mm and {second.strip()} is {other.mm:.2f} mm, "
            f"{abs(one.mm - other.mm):.2f} mm apart. Measure again and keep the right one.",
            code="readings_disagree",
            value=text,
        )
    return ParsedLength(typed=text.strip(), exact=one.exact, unit=one.unit, fraction=one.fraction)


def format_inch_fraction(mm: float, denominator: int = 32) -> str:
    """The length to the nearest 1/denominator inch, reduced, such as 21 1/2 (no unit mark)."""
    units = round(abs(mm) / float(INCH_EXACT) * denominator)
    whole, rest = divmod(units, denominator)
    sign = MINUS if mm < 0 and units else ""
    if not rest:
        return f"{sign}{whole}"
    part = Fraction(rest, denominator)
    return (
        f"{sign}{whole} {part.numerator}/{part.denominator}" if whole else f"{sign}{part.numerator}/{part.denominator}"
    )


def rounded(value: float, decimals: int) -> str:
    """A figure with so many decimals, its half away from zero as it is read: 819.15 is 819.2 and 1022.35 is 1022.4, whatever their last bits are.

    What lies within a millionth of a millionth of a metre of a half is one: sums of lengths end so.

    Args:
        value: the figure.
        decimals: that are kept.
    """
    step = Decimal(1).scaleb(-decimals)
    return (
        str(Decimal(repr(round(float(value), 9))).quantize(step, rounding=ROUND_HALF_UP))
        if isfinite(value)
        else str(value)
    )


def or_more(mm: float) -> str:
    """A least length for a sentence, to a tenth and never under it: who types what is written must not fall short.

    Args:
        mm: that it must have at least [mm].
    """
    return f"{ceil(mm * 10 - 1e-6) / 10:.1f}"


def or_less(mm: float) -> str:
    """A greatest length for a sentence, to a tenth and never over it.

    Args:
        mm: that it may have at most [mm].
    """
    return f"{floor(mm * 10 + 1e-6) / 10:.1f}"


def format_length(mm: float, unit: Unit, *, decimals: int = 1, inch_denominator: int | None = None) -> str:
    """The length as shown: decimals in mm, a fraction in inches (or three decimals when no denominator is set).

    Args:
        mm: the length [mm].
        unit: that it is shown in.
        decimals: of millimetres.
        inch_denominator: of the finest fraction; None: decimals.
    """
    if unit == "mm":
        value = rounded(abs(mm), decimals)
    elif inch_denominator:
        return format_inch_fraction(mm, inch_denominator)
    else:
        value = f"{abs(mm) / float(INCH_EXACT):.3f}"
    return (MINUS if mm < 0 and float(value) else "") + value
