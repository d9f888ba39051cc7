"""What stands on the shop's rack: lengths of tube and bar, sheets, offcuts, and where."""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Annotated, Literal

from pydantic import Field, model_validator

from tirante.core.document.catalogue import Tube
from tirante.core.document.fields import Document, Id, Name, Note, Positive

Place = Annotated[str, Field(max_length=80)]
Heat = Annotated[str, Field(max_length=40)]  # of the melt, or of its certificate
Sort = Literal["tube", "bar", "sheet"]
_THICK = re.compile(r"(\d+(?:[.,]\d+)?)\s*mm")


class RackRow(Document):
    """Pieces of one stock and size that lie in one place."""

    id: Id
    sort: Sort = "tube"
    stock: Name  # what it is, as the catalogue or the label says it
    material: Name
    length_mm: Positive
    width_mm: Positive | None = None  # of a sheet
    thick_mm: Positive | None = None  # of a sheet; none: as its stock says
    count: Annotated[int, Field(ge=0, le=100_000)] = 1
    offcut: bool = False
    place: Place = ""
    heat: Heat = ""
    note: Note = ""

    @property
    def thickness(self) -> float | None:
        """Of a sheet [mm]: as it was entered, or as its stock says it in millimetres ("plate 5 mm"); None where neither does."""
        if self.thick_mm is not None or self.sort != "sheet":
            return self.thick_mm
        said = _THICK.findall(self.stock)
        return float(said[0].replace(",", ".")) if len(said) == 1 else None

    @model_validator(mode="after")
    def _sheets_have_a_width(self) -> RackRow:
        if self.sort == "sheet" and self.width_mm is None:
            raise ValueError("width_mm: a sheet has a width too; give it")
        return self


@dataclass(frozen=True, slots=True)
class OnRack:
    """Tubes of the catalogue that stand on the rack, and what stands there by a name that no tube has."""

    tubes: tuple[str, ...]  # keys
    unknown: tuple[str, ...]


def tubes_on(rows: Iterable[RackRow], tubes: Sequence[Tube]) -> OnRack:
    """Which tubes of the catalogue there are lengths of on the rack.

    A row is a tube's by its label or key as the row names it, capitals and spaces apart. Rows of none, bars and sheets are passed over.
    """
    known = {plain(name): tube.key for tube in tubes for name in (tube.label, tube.key)}
    there: dict[str, None] = {}
    unknown: dict[str, None] = {}
    for row in rows:
        if row.sort == "tube" and row.count:
            key = known.get(plain(row.stock))
            if key:
                there[key] = None
            else:
                unknown[row.stock] = None
    return OnRack(tuple(there), tuple(unknown))


def plain(name: str) -> str:
    """A name of stock as names are compared: capitals, spaces and how a × is written apart.

    Args:
        name: of the label.
    """
    return "".join(name.casefold().replace("×", "x").split())


SAME_THICK = 0.05  # [mm] within which thicknesses are one


def is_tube(row: RackRow, tube: str) -> bool:
    """Whether a row is a length of a tube, of whatever metal; a bar that is called so is one too.

    Args:
        row: of the rack.
        tube: its label.
    """
    return row.sort != "sheet" and row.count > 0 and plain(row.stock) == plain(tube)


def is_sheet(row: RackRow, thick: float) -> bool:
    """Whether a row is plate of a thickness, of whatever metal.

    Args:
        row: of the rack.
        thick: [mm]
    """
    return row.sort == "sheet" and row.count > 0 and row.thickness is not None and abs(row.thickness - thick) <= SAME_THICK  # fmt: skip


def plate_metal(name: str) -> str:
    """A plate's material as it is compared: as stock, and with "plate" said or not.

    Args:
        name: of it.
    """
    return plain(name).removesuffix("plate")
