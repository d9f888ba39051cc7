"""A layout of one tube on sticks as it is kept: which rows of the rack it takes, what is cut from each, what is left."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from tirante.core.document.fields import Document, Id, Name, NotNegative, Positive
from tirante.core.document.rack import RackRow


class KeptPiece(Document):
    """A piece in its place."""

    length_mm: Positive
    what: Annotated[str, Field(max_length=600)]  # what it is for


class KeptStick(Document):
    """A stick, in the order of cutting."""

    row_id: Id | None  # of the rack; null: a new one
    length_mm: Positive
    pieces: Annotated[tuple[KeptPiece, ...], Field(min_length=1, max_length=2000, strict=False)]
    left_mm: NotNegative  # behind the last cut


class Remnant(Document):
    """What a confirmed layout put on the rack."""

    row_id: Id
    length_mm: Positive
    count: Annotated[int, Field(ge=1, le=2000)]


class KeptCutting(Document):
    """One tube of a job laid out."""

    tube: Name
    grade: Name
    job: Name  # as it was called
    revision: Annotated[str, Field(max_length=80)] = ""
    stock_mm: Positive
    kerf_mm: NotNegative
    trim_start_mm: NotNegative
    trim_end_mm: NotNegative
    sticks: Annotated[tuple[KeptStick, ...], Field(min_length=1, max_length=2000, strict=False)]
    rows: Annotated[tuple[RackRow, ...], Field(max_length=400, strict=False)] = ()  # of the rack, as they were
    told: Annotated[str, Field(max_length=600)] = ""
    remnants: Annotated[tuple[Remnant, ...], Field(max_length=400, strict=False)] = ()  # once it is cut
