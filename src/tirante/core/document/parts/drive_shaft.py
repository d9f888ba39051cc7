"""A drive shaft as it is saved: bought whole, by its length, its tube and how far its joints turn."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated, Literal

from pydantic import Field, model_validator

from tirante.core.document.end import End
from tirante.core.document.fields import Id, Positive, Strength
from tirante.core.document.parts.saved import SavedPart


class DriveShaft(SavedPart):
    """A drive shaft of a suspension end: one that locates the wheel as a link, or one that plunges between its joints."""

    kind: Literal["drive_shaft"] = "drive_shaft"
    end_id: Id
    member: Annotated[str, Field(max_length=80)]  # the template's link or the end's shaft
    od_mm: Positive = 28.0
    wall_mm: Positive | None = None  # null: solid
    yield_mpa: Strength = 400.0
    angle_limit_deg: Annotated[float, Field(gt=0, le=90)] | None = (
        None  # of either joint, the maker's; null: the end's, or not known
    )

    @property
    def of_end(self) -> str | None:
        """The end that it drives."""
        return self.end_id

    @property
    def stands_for(self) -> str | None:
        """The link or shaft of its end that it is."""
        return self.member

    def lost(self, ends: Mapping[str, End]) -> str | None:
        """Whether its end is gone."""
        if self.end_id in ends:
            return None
        return "The suspension end that it was a drive shaft of is not there any more. Take it out, or undo."

    @model_validator(mode="after")
    def _tube(self) -> DriveShaft:
        if self.wall_mm and 2 * self.wall_mm >= self.od_mm:
            raise ValueError("wall_mm: the wall is as thick as the shaft; give less, or none for a solid one")
        return self
