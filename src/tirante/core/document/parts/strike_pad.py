"""A pad that a bump stop strikes, as it is saved."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated, Literal

from pydantic import Field, model_validator

from tirante.core.document.end import End
from tirante.core.document.fields import Id, Name, Positive, Strength
from tirante.core.document.parts.saved import SavedPart


class StrikePad(SavedPart):
    """A flat plate on two webs, which stand along the tube or flat that the pad is on."""

    kind: Literal["strike_pad"] = "strike_pad"
    end_id: Id
    plate_mm: Positive = 6.0
    length_mm: Positive = 80.0  # of plate and webs, along what it stands on
    width_mm: Positive = 70.0
    web_mm: Positive = 6.0
    apart_mm: Positive = 36.0  # between the middles of the webs
    leg_mm: Annotated[float, Field(gt=0, le=50)] = 4.0
    height_mm: Positive = 40.0  # of the face over what it stands on, where that is no part of the job
    tube_od_mm: Positive | None = None  # of what it stands on there; null: a flat
    plate_name: Name = "S355 plate"
    yield_mpa: Strength = 355.0
    uts_mpa: Strength = 470.0

    @property
    def of_end(self) -> str | None:
        """The end whose stop strikes it."""
        return self.end_id

    def lost(self, ends: Mapping[str, End]) -> str | None:
        """Whether its end or that end's stop is gone."""
        end = ends.get(self.end_id)
        if end is not None and end.bump_stop is not None:
            return None
        return (
            "The suspension end whose bump stop strikes it, or that stop, is not there any more. Take it out, or undo."
        )

    @model_validator(mode="after")
    def _goes_together(self) -> StrikePad:
        if self.apart_mm + self.web_mm > self.width_mm:
            raise ValueError("apart_mm: the webs stand out from under the pad; set them nearer, or make it wider")
        if self.apart_mm <= self.web_mm:
            raise ValueError("apart_mm: the webs stand in one another; set them further apart")
        return self
