"""Points pasted from a spreadsheet: names and three coordinates a row, in either unit, with fractions; or the coordinates alone, in the end's order.

Cells are parted by tabs, by semicolons, or by commas with a space or no decimal comma about them. A heading may name the columns and
their unit ("X (mm)", "y in"); without one the order is x, y, z in the page's unit. A cell may carry a unit of its own.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass

from tirante.core.document.fields import Point
from tirante.core.errors import InputError
from tirante.core.quantities import Unit, parse_length

AXES = ("x", "y", "z")
MAX_ROWS = 200
MOST_TOLD = 40  # names in one fault
_HEADING = re.compile(r"^\W*([xyz])\b[^a-z]*(mm|in|inch|inches|\")?\W*$", re.IGNORECASE)
_DECIMAL_COMMA = re.compile(r"(?<=\d),(?=\d)")


@dataclass(frozen=True, slots=True, kw_only=True)
class PastedRow:
    """A row as it was read: which point it is taken for."""

    line: int
    called: str  # as it stood there; empty where rows have no names
    point: str
    at: Point


def pasted_points(text: str, points: Sequence[tuple[str, str]], unit: Unit, of: str = "of this end") -> list[PastedRow]:
    """Read a pasted table.

    Args:
        text: as it was pasted.
        points: of the end in its order, each by its name and by what it is in words.
        unit: that a bare number is taken in.
        of: what the points are of, for what is told.

    Raises:
        InputError: code `bad_rows`, with `fields` naming every bad row by line and the messages in `value`.
    """
    rows = [(n, _cells(line)) for n, line in enumerate(text.splitlines(), 1) if line.strip()]
    if not rows:
        raise _refused([("line 1", "nothing was pasted; a point a row is needed")])
    if len(rows) > MAX_ROWS:
        raise _refused([("line 1", f"at most {MAX_ROWS} points, each on a line of its own")])
    order, units = list(AXES), [unit] * 3
    heading = _heading(rows[0][1])
    if heading is not None:
        order, units = heading[0], [own or unit for own in heading[1]]
        rows = rows[1:]
    found: list[PastedRow] = []
    faults: list[tuple[str, str]] = []
    named = any(_name_of(cells) for _, cells in rows)
    taken: dict[str, int] = {}
    if not named and len(rows) != len(points):
        faults.append(
            ("the table", f"{len(rows)} rows without names, and there are {len(points)} points: put each point’s name before its row")
        )  # fmt: skip
    for i, (line, cells) in enumerate(rows if not faults else []):
        called = _name_of(cells)
        try:
            name = _point_of(called, points, of) if named else points[i][0]
            at = _at(cells, order, units)
        except InputError as error:
            faults.append((f"line {line}", error.message))
            continue
        if name in taken:
            faults.append((f"line {line}", f"{name.replace('_', ' ')} stands twice, first on line {taken[name]}"))
        taken.setdefault(name, line)
        found.append(PastedRow(line=line, called=called, point=name, at=at))
    if faults or not found:
        raise _refused(faults or [("line 1", "no points under the heading")])
    return found


def _cells(line: str) -> list[str]:
    """A row's cells: by tab, by semicolon, else by commas; the words of a name before the first tab stay together."""
    for mark in ("\t", ";"):
        if mark in line:
            return [_DECIMAL_COMMA.sub(".", cell.strip()) for cell in line.split(mark)]
    return [cell.strip() for cell in line.split(",")]


def _heading(cells: list[str]) -> tuple[list[str], list[Unit | None]] | None:
    """Which axis stands in which column, and its unit; None where the row is no heading."""
    axes = [(match[1].lower(), match[2]) for cell in cells if (match := _HEADING.match(cell))]
    if sorted(axis for axis, _ in axes) != list(AXES):
        return None
    units: list[Unit | None] = [None if own is None else "mm" if own.lower() == "mm" else "in" for _, own in axes]
    return [axis for axis, _ in axes], units


def _is_length(cell: str) -> bool:
    return bool(re.match(r"^[+−-]?[\s\d.½¼¾⅛⅜⅝⅞]", cell)) and any(c.isdigit() or c in "½¼¾⅛⅜⅝⅞" for c in cell)


def _name_of(cells: list[str]) -> str:
    """What stands before the coordinates."""
    words = []
    for cell in cells:
        if _is_length(cell):
            break
        words.append(cell)
    return " ".join(word for word in words if word)


def _at(cells: list[str], order: list[str], units: list[Unit]) -> Point:
    given = [
        cell for cell in cells[next((i for i, cell in enumerate(cells) if _is_length(cell)), len(cells)) :] if cell
    ]
    if len(given) != 3:
        raise InputError(f"{len(given)} coordinates, and three are needed", fields=("at",))
    place = {
        axis: parse_length(cell, unit, signed=True).mm for axis, unit, cell in zip(order, units, given, strict=True)
    }
    return place["x"], place["y"], place["z"]


def _plain(words: str) -> list[str]:
    return re.findall(r"[a-z0-9]+", words.lower().replace("_", " "))


def _point_of(called: str, points: Sequence[tuple[str, str]], of: str) -> str:
    """The point that a row's name means: its own, what it is in words, or the one that has all of the words."""
    wanted = _plain(called)
    if not wanted:
        raise InputError("the row has no name", fields=("point",))
    for name, what in points:
        if wanted in (_plain(name), _plain(what)):
            return name
    near = [name for name, what in points if set(wanted) <= {*_plain(name), *_plain(what)}]
    ending = [name for name in near if _plain(name)[-len(wanted) :] == wanted]  # “upper front left”, of the front end
    if len(near) == 1 or len(ending) == 1:
        return near[0] if len(near) == 1 else ending[0]
    known = (
        ", ".join(
            [name.replace("_", " ") for name, _ in points[:MOST_TOLD]] + (["…"] if len(points) > MOST_TOLD else [])
        )
        if not near
        else " or ".join(n.replace("_", " ") for n in near)
    )
    which = "may be" if near else f"is no point {of}. They are"
    raise InputError(f"“{called[:40]}” {which} {known}", fields=("point",))


def _refused(faults: list[tuple[str, str]]) -> InputError:
    return InputError(
        f"Nothing was taken: {len(faults)} fault{'s' if len(faults) > 1 else ''} in what was pasted.",
        code="bad_rows", fields=tuple(where for where, _ in faults), value=[message for _, message in faults],
    )  # fmt: skip
