"""What a job asks to be bought: tube by the metre and the kilogram, plate by the square metre, bolts by length, nuts, joints; what of it the shop has, and what it costs.

Prices are the catalogue's own, or of lists that suppliers sent; where none is known, that is said, and no sum passes over it.
"""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from tirante.core.cells import plain_cell
from tirante.core.cutting.consumables import SEALS, consumables, plate_mass
from tirante.core.document.catalogue import Catalogue
from tirante.core.document.rack import RackRow, is_sheet, is_tube, plain, plate_metal
from tirante.core.document.settings import Settings
from tirante.core.errors import InputError
from tirante.core.parts.part import BoughtPiece, Part, PlatePiece, ShortenPiece, ToolPiece, TubePiece, TurnedPiece
from tirante.core.table import NoTable, read_table

PRICED = ("joints", "inserts", "nuts", "spacers", "bolts")  # kinds of the catalogue that are bought one by one


@dataclass(frozen=True, slots=True, kw_only=True)
class OrderLine:
    """Something to be bought."""

    sort: str
    what: str
    hand: str
    count: float  # pieces; metres of tube; square metres of plate; 0: as much as is needed
    unit: str  # "", "m" or "m²"
    told: str  # what more is to be said: mass, pieces
    there: str  # what the shop has of it; empty: nothing, or it is not kept on the rack
    each: float | None  # the catalogue's price for one or for a unit; None: not known

    @property
    def cost(self) -> float | None:
        """Of all of it."""
        return None if self.each is None else self.each * self.count


def order_of(
    parts: Sequence[Part],
    catalogue: Catalogue,
    rack: Sequence[RackRow],
    spares: int = 0,
    settings: Settings | None = None,
) -> tuple[OrderLine, ...]:
    """What complete parts ask for, tubes first.

    Args:
        parts: of the job, an end or as chosen.
        catalogue: rows that the job uses, for prices and densities.
        rack: rows of the shop's rack.
        spares: of every bought piece, so many more.
        settings: of the job, for filler and seals; None: those are left out.
    """
    tubes: dict[tuple[str, str], list[tuple[TubePiece, int]]] = {}
    plates: dict[tuple[str, float], list[tuple[PlatePiece, int]]] = {}
    bought: dict[tuple[str, str, str], list[tuple[BoughtPiece, int]]] = {}
    nuts: dict[str, int] = {}
    for part in parts:
        if not part.complete:
            continue
        for piece in (*part.pieces, *part.beside):
            count = piece.count * part.saved.count
            if isinstance(piece, TubePiece):
                tubes.setdefault((piece.tube, piece.grade), []).append((piece, count))
            elif isinstance(piece, PlatePiece):
                plates.setdefault((piece.material, piece.thickness), []).append((piece, count))
            elif isinstance(piece, BoughtPiece):
                bought.setdefault((piece.sort, piece.ordered, piece.hand), []).append((piece, count))
                if piece.nut:
                    nuts[piece.nut] = nuts.get(piece.nut, 0) + count
    prices = {row.key: row.price for kind in PRICED for row in getattr(catalogue, kind)}
    found = [_tube_line(tube, grade, of, catalogue, rack) for (tube, grade), of in tubes.items()]
    found += [_plate_line(material, thick, of, catalogue, rack) for (material, thick), of in plates.items()]
    for (sort, what, hand), of in sorted(bought.items()):
        count = sum(n for _, n in of) + spares
        each = prices.get(of[0][0].key or "")
        found.append(
            OrderLine(sort=sort, what=what, hand=hand, count=count, unit="", told=_spared(spares), there="", each=each)
        )
    found += [
        OrderLine(sort="nut", what=what, hand="", count=count + spares, unit="", told=_spared(spares), there="", each=None)
        for what, count in sorted(nuts.items())
    ]  # fmt: skip
    for one in consumables(parts, settings, catalogue) if settings is not None else ():
        more = spares if one.count else 0
        found.append(
            OrderLine(
                sort=one.sort,
                what=one.what,
                hand="",
                count=one.count + more,
                unit="",
                told="; ".join(told for told in (_spared(more), SEALS if one.sort == "seal" else "") if told),
                there="",
                each=None,
            )
        )
    return tuple(found)


ALWAYS = "gas, paint and how much filler is used are not counted"


def not_ordered(parts: Sequence[Part]) -> tuple[str, ...]:
    """What complete parts need that no line of the order is for: stock of turned pieces, links that are shortened as they come, tools.

    Args:
        parts: that are ordered for.
    """
    found: dict[str, None] = {}
    for part in parts:
        for piece in (*part.pieces, *part.beside) if part.complete else ():
            if isinstance(piece, TurnedPiece):
                found[f"stock for {part.name}: {piece.what}"] = None
            elif isinstance(piece, ShortenPiece):
                found[f"{part.name} itself, which is bought and shortened"] = None
            elif isinstance(piece, ToolPiece):
                found[f"{piece.sort} {piece.what}{f', {piece.hand}' if piece.hand else ''}"] = None
    return (*found, ALWAYS)


def _spared(spares: int) -> str:
    return f"{spares} of them spare" if spares else ""


def _tube_line(
    tube: str, grade: str, of: Sequence[tuple[TubePiece, int]], catalogue: Catalogue, rack: Sequence[RackRow]
) -> OrderLine:
    metres = sum(piece.length * count for piece, count in of) / 1000.0
    pieces = sum(count for _, count in of)
    first = of[0][0]
    metal = next((row for row in catalogue.grades if row.key == first.grade_key), None)
    told, each = f"{pieces} pieces, without kerfs and what is left of sticks", None
    if first.kg_m is not None:
        told = f"{metres * first.kg_m:.2f} kg; {told}"
        each = None if metal is None or metal.price is None else metal.price * first.kg_m
    rows = [row for row in rack if is_tube(row, tube) and plain(row.material) == plain(grade)]
    there = f"{sum(row.length_mm * row.count for row in rows) / 1000.0:.2f} m in {sum(row.count for row in rows)}" if rows else ""  # fmt: skip
    return OrderLine(
        sort="tube", what=f"{tube}, {grade}", hand="", count=metres, unit="m", told=told, there=there, each=each
    )


def _plate_line(
    material: str, thick: float, of: Sequence[tuple[PlatePiece, int]], catalogue: Catalogue, rack: Sequence[RackRow]
) -> OrderLine:
    square = (
        sum((piece.outline.area if piece.outline else piece.length * piece.width) * count for piece, count in of) * 1e-6
    )
    rows = [row for row in rack if is_sheet(row, thick) and plate_metal(row.material) == plate_metal(material)]
    there = f"{sum(row.length_mm * (row.width_mm or 0.0) * row.count for row in rows) * 1e-6:.2f} m² in {sum(row.count for row in rows)}" if rows else ""  # fmt: skip
    masses = [plate_mass(piece, catalogue) for piece, _ in of]
    heavy = (
        ""
        if None in masses
        else f"{sum(one * count for one, (_, count) in zip(masses, of, strict=True) if one is not None):.2f} kg; "
    )
    told = f"{heavy}{sum(count for _, count in of)} plates, the metal alone: lay them out for sheets"
    return OrderLine(sort="plate", what=f"{thick:g} mm {material}", hand="", count=square, unit="m²", told=told, there=there, each=None)  # fmt: skip


MOST_ROWS = 20_000


def read_prices(text: str, field: str) -> dict[str, float]:
    """A supplier's list: CSV with the columns `what` and `price` (and `hand`, where it matters), by the names that the order has.

    Args:
        text: of the file; commas, semicolons or tabs between its fields, a decimal comma where they are not parted by commas.
        field: that it comes from, for what is refused.

    Returns:
        Prices by what `price_key` makes of a line.

    Raises:
        InputError: it is no such list, with its line.
    """
    try:
        table = read_table(text, MOST_ROWS)
    except NoTable as error:
        raise _bad(
            f"{str(error)[0].upper()}{str(error)[1:]}. The columns are called what and price; hand may stand beside them.",
            field,
        ) from None
    if not {"what", "price"} <= set(table.heads):
        raise _bad("Line 1: the columns are called what and price; hand may stand beside them.", field)
    found: dict[str, float] = {}
    for n, cells in table.rows:
        of = dict(zip(table.heads, cells, strict=False))
        price = table.number(of.get("price", ""))
        if not re.fullmatch(r"[0-9]{1,7}(\.[0-9]{1,6})?", price):
            raise _bad(f"Line {n}: price “{of.get('price', '')}” is no number, as 12.50 is.", field)
        key = price_key(plain_cell(of.get("what", "")), of.get("hand", ""))
        if key in found and found[key] != float(price):
            raise _bad(f"Line {n}: “{of.get('what', '')}” stands there twice, at two prices.", field)
        found[key] = float(price)
    return found


def _bad(message: str, field: str) -> InputError:
    return InputError(message, code="unreadable", fields=(field,))


def price_key(what: str, hand: str) -> str:
    """By what a line and a price are one: capitals, spaces and how a × is written apart.

    Args:
        what: is ordered.
        hand: of a thread.
    """
    return f"{plain(what)}|{plain(hand)}"


@dataclass(frozen=True, slots=True, kw_only=True)
class Offer:
    """What a supplier asks for an order."""

    prices: tuple[float | None, ...]  # for one or for a unit, line by line; None: not on the list
    total: float  # of the lines that are on it
    missing: int  # lines that are not


def offer_of(lines: Sequence[OrderLine], prices: Mapping[str, float]) -> Offer:
    """A supplier's list laid beside an order.

    Args:
        lines: of the order.
        prices: as read.
    """
    each = tuple(prices.get(price_key(line.what, line.hand)) for line in lines)
    return Offer(
        prices=each, total=sum(price * line.count for price, line in zip(each, lines, strict=True) if price is not None),
        missing=sum(price is None for price in each),
    )  # fmt: skip
