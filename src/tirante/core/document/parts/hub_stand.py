"""A hub stand as it is saved."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated, Literal

from pydantic import Field

from tirante.core.document.end import End
from tirante.core.document.fields import Id, Name, Positive
from tirante.core.document.parts.common import Side
from tirante.core.document.parts.saved import SavedPart

Lean = Annotated[float, Field(ge=-15, le=15)]


class HubStand(SavedPart):
    """A plate that stands in a wheel's place, bolted to the hub's studs."""

    kind: Literal["hub_stand"] = "hub_stand"
    side: Side = "pair"
    end_id: Id
    studs: Annotated[int, Field(ge=3, le=10)] = 5
    circle_mm: Positive = 114.3
    stud_mm: Positive = 12.0
    first_deg: Annotated[float, Field(ge=-180, le=180)] = 0.0  # from straight up
    used: Annotated[str, Field(max_length=40)] = ""  # numbers with commas between; empty: all
    recess_mm: Positive = 67.0  # of what stands out of the flange's middle
    camber_deg: Lean | None = Field(default=None, description="null: as the end has it")
    toe_deg: Lean | None = Field(default=None, description="null: as the end has it")
    height_mm: Positive | None = Field(
        default=None, description="of the wheel’s axis over the floor; null: the tyre’s loaded radius"
    )
    plate_mm: Positive = 10.0
    edge_mm: Positive = 30.0  # of plate round its holes
    foot_mm: Positive = 250.0  # long, along the car
    plate_name: Name = "S235 plate"

    @property
    def of_end(self) -> str | None:
        """The end whose wheel it stands for."""
        return self.end_id

    def lost(self, ends: Mapping[str, End]) -> str | None:
        """Whether its end is gone."""
        return (
            None
            if self.end_id in ends
            else "The suspension end that it was made for is not there any more. Take it out, or undo."
        )
