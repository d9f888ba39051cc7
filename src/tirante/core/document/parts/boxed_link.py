"""A link of four plates as it is saved."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from tirante.core.document.fields import (
    Document,
    Length,
    Name,
    Positive,
    Strength,
)


class Boxed(Document):
    """A link of four plates that takes a bump stop or a strike on a pad along its top; it has no tube."""

    height: Length  # outside
    width: Length
    side_mm: Positive
    top_mm: Positive
    bottom_mm: Positive
    pad_at: Length  # from pivot A
    pad_offset_mm: Annotated[float, Field(ge=-200, le=200)] = 0.0  # of the stop's line from the middle
    leg_mm: Annotated[float, Field(gt=0, le=50)] = 4.0  # of the four seams
    plate_name: Name = "S355 plate"
    yield_mpa: Strength = 355.0
    uts_mpa: Strength = 470.0
