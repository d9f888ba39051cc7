"""A steering rack as it is saved: bought whole, held by two feet that stand alike either side of the middle."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated, Literal

from pydantic import Field, model_validator

from tirante.core.document.end import End
from tirante.core.document.fields import Id, Positive
from tirante.core.document.parts.anti_roll_bar import BoltClass
from tirante.core.document.parts.common import Side
from tirante.core.document.parts.saved import SavedPart
from tirante.core.document.template import RACK


class SteeringRack(SavedPart):
    """The rack that a suspension end is steered by; its line is where the tie rods' inner joints are."""

    kind: Literal["steering_rack"] = "steering_rack"
    side: Side = "centre"
    end_id: Id
    housing_mm: Positive = 40.0  # outside diameter
    apart_mm: Positive = 300.0  # between the middles of its two feet, along it
    pitch_mm: Positive | None = None  # between a foot's two bolts, across it; null: not given
    high_mm: Positive | None = None  # of its line over the feet's undersides; null: not given
    bolt_mm: Positive = 10.0
    bolt_class: BoltClass = "8.8"
    rating_n: Annotated[float, Field(gt=0, le=1e7)] | None = None  # the maker's, along it

    @property
    def of_end(self) -> str | None:
        """The end that it steers."""
        return self.end_id

    @property
    def stands_for(self) -> str | None:
        """The rack of its end."""
        return RACK

    def lost(self, ends: Mapping[str, End]) -> str | None:
        """Whether its end is gone, or steered otherwise."""
        end = ends.get(self.end_id)
        if end is None:
            return "The suspension end that it steered is not there any more. Take it out, or undo."
        return "An arm steers this end now, and no rack. Take it out, or undo." if end.steering else None

    @model_validator(mode="after")
    def _goes_together(self) -> SteeringRack:
        if self.pitch_mm is not None and self.pitch_mm <= 2 * self.bolt_mm:
            raise ValueError("pitch_mm: a foot’s bolts stand in one another; give the distance between their middles")
        return self
