"""A link cut from plate as it is saved."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated, Literal

from pydantic import Field, model_validator

from tirante.core.document.end import End
from tirante.core.document.fields import Name, Positive, Strength
from tirante.core.document.parts.common import Between, LoadCase, OfEnd, followed, gone
from tirante.core.document.parts.saved import SavedPart


class PlateLink(SavedPart):
    """A link cut from one plate, or two side by side, with an eye at either end; as wide as the plate round its eyes."""

    kind: Literal["plate_link"] = "plate_link"
    between: Between
    cases: Annotated[tuple[LoadCase, ...], Field(max_length=40, strict=False)] = ()
    everyday_n: Annotated[float, Field(gt=0, le=1e7)] | None = None  # range of its everyday force, where no end says it
    plates: Annotated[int, Field(ge=1, le=2)] = 1
    plate_mm: Positive = 10.0
    width_mm: Positive = 40.0
    pin_a_mm: Positive = 12.0
    pin_b_mm: Positive = 12.0
    plate_name: Name = "S355 plate"
    yield_mpa: Strength = 355.0
    uts_mpa: Strength = 470.0

    @property
    def of_end(self) -> str | None:
        """The end whose points its length follows."""
        return self.between.end_id if isinstance(self.between, OfEnd) else None

    @property
    def stands_for(self) -> str | None:
        """The link of its end's template that it is."""
        return self.between.link if isinstance(self.between, OfEnd) else None

    def tied(self, ends: Mapping[str, End]) -> PlateLink:
        """As long as the end's points now make it."""
        between = followed(self.between, ends)
        return self if between is self.between else self.model_copy(update={"between": between})

    def lost(self, ends: Mapping[str, End]) -> str | None:
        """Whether the end or points that it was tied to are gone."""
        return gone(self.between, ends)

    @model_validator(mode="after")
    def _goes_together(self) -> PlateLink:
        for name in ("pin_a_mm", "pin_b_mm"):
            if getattr(self, name) + 1.0 >= self.width_mm:
                raise ValueError(f"{name}: the hole is as wide as the plate; give the plate more width")
        if self.between.mm <= self.width_mm:
            raise ValueError("width_mm: the link is wider than it is long; give it less")
        return self
