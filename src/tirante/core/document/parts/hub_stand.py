"""A hub stand as it is saved."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from tirante.core.document.fields import Name, Positive
from tirante.core.document.parts.end_tool import EndTool

Lean = Annotated[float, Field(ge=-15, le=15)]


class HubStand(EndTool):
    """A plate that stands in a wheel's place, bolted to the hub's studs."""

    kind: Literal["hub_stand"] = "hub_stand"
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
