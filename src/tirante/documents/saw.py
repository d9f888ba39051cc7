"""A simulated saw with a length stop: it takes a cut order, refuses what a real one could not do, and reports every cut that it makes.

A cut order is CSV, a row a piece in the order of cutting: `stick` (its number), `stock_mm` (its length), `trim_mm` (off its first end), `length_mm` (of
the piece), `for` (what it is for). Commas, semicolons or tabs between the fields; a decimal comma where fields are not parted by commas. It stands in for
a machine: its stop, vice and times are invented and say so; lengths, what is left and what is refused are worked out.
"""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Sequence
from dataclasses import dataclass

from tirante.core.cells import safe_cell
from tirante.core.document.cutting import KeptCutting
from tirante.core.errors import InputError
from tirante.core.table import NoTable, read_table

FIELDS = ("stick", "stock_mm", "trim_mm", "length_mm", "for")
STEP = 0.1  # [mm] that the stop is set to; invented
REACH = 3000.0  # [mm] that the stop reaches; invented
VICE = 60.0  # [mm] that the vice must hold at least; invented
CUT_S, SET_S, STICK_S = 18.0, 12.0, 40.0  # [s] a cut, a setting of the stop, a stick put in; invented
LONGEST = 100_000.0  # [mm]
MOST_ROWS = 5_000
FINE = 1e-6


@dataclass(frozen=True, slots=True, kw_only=True)
class Ordered:
    """A row of a cut order [mm]."""

    line: int
    stick: int
    stock: float
    trim: float
    length: float
    what: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Cut:
    """A cut that was made [mm]."""

    stick: int
    stop: float  # as it stood: to a tenth
    what: str
    left: float  # of the stick, in the vice
    turned: bool  # whether the piece itself had to be held, what is left being shorter than the vice holds
    set: bool  # whether the stop was set for it


@dataclass(frozen=True, slots=True, kw_only=True)
class Sawn:
    """What the saw did."""

    cuts: tuple[Cut, ...]
    trims: int
    set_ups: int
    seconds: float  # of an invented saw


class Refused(InputError):  # noqa: N818 - as the errors of the core are named
    """An order that the saw does not take, with all that is wrong in it."""

    def __init__(self, faults: Sequence[str]) -> None:
        self.faults = tuple(faults)
        more = f" And {len(faults) - 1} more." if len(faults) > 1 else ""
        super().__init__(f"The saw refuses it: {faults[0]}{more}", code="saw_refuses", fields=("file",))


def cut_order(kept: KeptCutting) -> str:
    """The cut order of a layout, stick by stick.

    Args:
        kept: the layout.
    """
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(FIELDS)
    for n, stick in enumerate(kept.sticks, 1):
        for piece in stick.pieces:
            writer.writerow([n, f"{stick.length_mm:g}", f"{kept.trim_start_mm:g}", f"{piece.length_mm:.1f}", safe_cell(piece.what)])  # fmt: skip
    return out.getvalue()


def saw(file: str | bytes, kerf: float, *, vice: float = VICE, reach: float = REACH) -> Sawn:
    """Take an order and saw it.

    Args:
        file: the order.
        kerf: width of the cut [mm].
        vice: that the vice must hold at least [mm].
        reach: of the length stop [mm].

    Raises:
        Refused: what a real saw could not do, each fault with its line.
    """
    rows = _read(file)
    faults: list[str] = []
    cuts: list[Cut] = []
    trims, stop, left, at = 0, -1.0, 0.0, None
    begun: set[int] = set()
    for row in rows:
        if row.stick != at:
            if row.stick in begun:
                faults.append(f"line {row.line}: stick {row.stick} was put away already. Keep the pieces of a stick together.")  # fmt: skip
            begun.add(row.stick)
            at, first = row.stick, row
            left = row.stock - row.trim
            trims += row.trim > 0
        elif (row.stock, row.trim) != (first.stock, first.trim):
            faults.append(f"line {row.line}: stick {row.stick} is {first.stock:g} mm with a trim of {first.trim:g} mm above and {row.stock:g} with {row.trim:g} mm here.")  # fmt: skip
        if row.length > left + FINE:
            faults.append(f"line {row.line}: {row.length:g} mm is more than the {max(0.0, left):.1f} mm that stick {row.stick} has left.")  # fmt: skip
        if row.length > reach:
            faults.append(f"line {row.line}: {row.length:g} mm is past the stop’s reach of {reach:g} mm.")
        left -= row.length + kerf
        rest = max(0.0, left)
        if max(rest, row.length) < vice and rest + row.length > 0:
            faults.append(f"line {row.line}: neither the piece, {row.length:g} mm, nor what is left, {rest:.1f} mm, is as long as the {vice:g} mm that the vice holds. Saw it earlier from the stick.")  # fmt: skip
        new = round(row.length / STEP) * STEP
        cuts.append(Cut(stick=row.stick, stop=new, what=row.what, left=rest, turned=0 < rest < vice, set=abs(new - stop) > STEP / 2))  # fmt: skip
        stop = new
    if faults:
        raise Refused(faults)
    set_ups = sum(one.set for one in cuts)
    seconds = len(cuts) * CUT_S + trims * CUT_S + set_ups * SET_S + len(begun) * STICK_S
    return Sawn(cuts=tuple(cuts), trims=trims, set_ups=set_ups, seconds=seconds)


def _read(file: str | bytes) -> list[Ordered]:
    if isinstance(file, bytes):
        try:
            file = file.decode("utf-8-sig")
        except UnicodeDecodeError as error:
            raise Refused([f"it is no text in UTF-8: byte {error.start} is none. Save it as UTF-8."]) from None
    if "\0" in file:
        raise Refused(["it holds bytes that are no text."])
    try:
        table = read_table(file, MOST_ROWS)
    except NoTable as error:
        raise Refused([f"{error}. The headings are {', '.join(FIELDS)}."]) from None
    missing = [name for name in FIELDS[:-1] if name not in table.heads]
    if missing:
        raise Refused([f"line 1: there is no column {' and no column '.join(missing)}. The headings are {', '.join(FIELDS)}."])  # fmt: skip
    faults: list[str] = []
    rows: list[Ordered] = []
    for line, cells in table.rows:
        if len(cells) != len(table.heads):
            faults.append(f"line {line}: {len(cells)} fields under {len(table.heads)} headings.")
            continue
        of = dict(zip(table.heads, cells, strict=True))
        stick, more = _whole(of["stick"])
        figures = {name: _mm(table.number(of[name]), zero=name == "trim_mm") for name in ("stock_mm", "trim_mm", "length_mm")}  # fmt: skip
        wrong = [f"line {line}: {name} “{of[name]}” {why}" for name, (_, why) in figures.items() if why]
        if more:
            wrong.insert(0, f"line {line}: stick “{of['stick']}” {more}")
        if wrong:
            faults += wrong
            continue
        rows.append(Ordered(line=line, stick=stick, stock=figures["stock_mm"][0], trim=figures["trim_mm"][0], length=figures["length_mm"][0], what=of.get("for", "")))  # fmt: skip
    if faults:
        raise Refused(faults)
    if not rows:
        raise Refused(["it has headings and no piece."])
    return rows


def _whole(text: str) -> tuple[int, str]:
    if not re.fullmatch(r"[0-9]{1,6}", text) or int(text) == 0:
        return 0, "is no number of a stick: 1, 2, 3."
    return int(text), ""


def _mm(text: str, *, zero: bool) -> tuple[float, str]:
    if re.search(r"[\"″'a-zA-Z/]", text):
        return 0.0, "is no bare number: millimetres are written without a unit, inches are not taken."
    if not re.fullmatch(r"[0-9]+(\.[0-9]+)?", text):
        return 0.0, "is no length in millimetres, as 412.5 is."
    found = float(text)
    if found > LONGEST or (found == 0 and not zero):
        return 0.0, f"is no length: more than 0 and up to {LONGEST:g} mm."
    return found, ""
