"""What tools that are bolted to a hub's studs are saved with: a hub stand, a hanger."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from tirante.core.document.fields import Name, Positive, Signed
from tirante.core.document.parts.end_tool import EndTool

Lean = Annotated[float, Field(ge=-15, le=15)]


class HubFace(EndTool):
    """A plate that is bolted to a hub's studs in the wheel's place."""

    studs: Annotated[int, Field(ge=3, le=10)] = 5
    circle_mm: Positive = 114.3
    stud_mm: Positive = 12.0
    first_deg: Annotated[float, Field(ge=-180, le=180)] = 0.0  # from straight up
    used: Annotated[str, Field(max_length=40)] = ""  # numbers with commas between; empty: all
    recess_mm: Positive = 67.0  # of what stands out of the flange's middle
    face_mm: Signed | None = Field(
        default=None, description="of the hub, outboard of the wheel's middle plane; null: as the end's rim has it"
    )
    camber_deg: Lean | None = Field(default=None, description="null: as the end has it")
    toe_deg: Lean | None = Field(default=None, description="null: as the end has it")
    plate_mm: Positive = 10.0
    edge_mm: Positive = 30.0  # of plate round its holes
    plate_name: Name = "S235 plate"
