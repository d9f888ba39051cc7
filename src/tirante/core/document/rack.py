"""What stands on the shop's rack: lengths of tube and bar, sheets, offcuts, and where."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from tirante.core.document.fields import Document, Id, Name, Note, Positive

Place = Annotated[str, Field(max_length=80)]


class RackRow(Document):
    """Pieces of one stock and size that lie in one place."""

    id: Id
    sort: Literal["tube", "bar", "sheet"] = "tube"
    stock: Name  # what it is, as the catalogue or the label says it
    material: Name
    length_mm: Positive
    width_mm: Positive | None = None  # of a sheet
    count: Annotated[int, Field(ge=0, le=100_000)] = 1
    offcut: bool = False
    place: Place = ""
    note: Note = ""

    @model_validator(mode="after")
    def _sheets_have_a_width(self) -> RackRow:
        if self.sort == "sheet" and self.width_mm is None:
            raise ValueError("width_mm: a sheet has a width too; give it")
        return self
