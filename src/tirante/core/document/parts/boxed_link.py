"""A link of four plates as it is saved."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated, Literal

from pydantic import Field, model_validator

from tirante.core.document.end import End
from tirante.core.document.fields import Length, Name, Positive, Strength
from tirante.core.document.parts.common import Between, LoadCase, OfEnd, followed, gone
from tirante.core.document.parts.saved import SavedPart


class BoxedLink(SavedPart):
    """A link of four plates that takes a bump stop or a strike on a pad along its top; it has no tube."""

    kind: Literal["boxed_link"] = "boxed_link"
    between: Between
    cases: Annotated[tuple[LoadCase, ...], Field(max_length=40, strict=False)] = ()
    height: Length  # outside
    width: Length
    side_mm: Positive
    top_mm: Positive
    bottom_mm: Positive
    pad_at: Length  # from pivot A
    pad_offset_mm: Annotated[float, Field(ge=-200, le=200)] = 0.0  # of the stop's line from the middle
    boss_mm: Positive | None = None  # outside, of the bosses at both pivots, through the sides; null: not known
    leg_mm: Annotated[float, Field(gt=0, le=50)] = 4.0  # of the four seams
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

    def tied(self, ends: Mapping[str, End]) -> BoxedLink:
        """As long as the end's points now make it."""
        between = followed(self.between, ends)
        return self if between is self.between else self.model_copy(update={"between": between})

    def lost(self, ends: Mapping[str, End]) -> str | None:
        """Whether the end or points that it was tied to are gone."""
        return gone(self.between, ends)

    @model_validator(mode="after")
    def _goes_together(self) -> BoxedLink:
        if not self.pad_at.mm < self.between.mm:
            raise ValueError(f"pad_at: the pad stands past pivot B; give less than {self.between.mm:.1f} mm")
        if self.top_mm + self.bottom_mm >= self.height.mm or 2 * self.side_mm >= self.width.mm:
            raise ValueError("height: the plates together are as thick as the box; give it more height and width")
        if self.boss_mm is not None and self.boss_mm + 6.0 > self.height.mm - self.top_mm - self.bottom_mm:
            raise ValueError(
                "boss_mm: less than 3 mm of side is left round the boss; make it smaller, or the box higher"
            )
        return self
