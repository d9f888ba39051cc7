"""Tables that other programs wrote: CSV with commas, semicolons or tabs, a mark of the byte order or none, decimal commas where fields are not parted by commas."""

from __future__ import annotations

import csv
from dataclasses import dataclass


class NoTable(ValueError):  # noqa: N818 - whoever reads it says what is no table of his
    """It is no such table; its text says why."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Table:
    """A table as it was read."""

    heads: tuple[str, ...]  # small letters
    rows: tuple[tuple[int, tuple[str, ...]], ...]  # each with its line, from 1; blank ones left out
    between: str  # what parts the fields

    def number(self, text: str) -> str:
        """A figure as it would stand with a decimal point.

        Args:
            text: as it stands in the table.
        """
        return text if self.between == "," else text.replace(",", ".")


def read_table(text: str, most: int) -> Table:
    """Read a table with a line of headings.

    Args:
        text: of the file.
        most: rows that it may have.

    Raises:
        NoTable: no headings, no CSV, a heading twice, too many rows.
    """
    lines = text.lstrip("\ufeff").splitlines()
    if not lines or not lines[0].strip():
        raise NoTable("it has no line of headings")
    between = next((one for one in ("\t", ";", ",") if one in lines[0]), ",")
    try:
        table = list(csv.reader(lines, delimiter=between))
    except csv.Error as error:
        raise NoTable(f"it is no CSV: {error}") from None
    heads = tuple(cell.strip().lower() for cell in table[0])
    if len(set(heads)) != len(heads):
        raise NoTable("a heading stands there twice")
    if len(table) > most + 1:
        raise NoTable(f"it has {len(table) - 1} rows; {most} are the most")
    rows = tuple((n, tuple(cell.strip() for cell in cells)) for n, cells in enumerate(table[1:], 2) if any(cell.strip() for cell in cells))  # fmt: skip
    return Table(heads=heads, rows=rows, between=between)
