"""A hub stand as it is saved."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from tirante.core.document.fields import Positive
from tirante.core.document.parts.hub_face import HubFace


class HubStand(HubFace):
    """A stand in a wheel's place, bolted to the hub's studs: of plate, or a plate on a post of square tube."""

    kind: Literal["hub_stand"] = "hub_stand"
    height_mm: Positive | None = Field(
        default=None,
        description="of the middle of the hub's face over the floor; null: as tyre, camber and rim have it",
    )
    base: Literal["plate", "square tube"] = "plate"
    foot_mm: Positive = 250.0  # long, along the car
    tube_mm: Positive = 50.0  # square tube, outside
    tube_wall_mm: Positive = 3.0
    lap_mm: Positive = 60.0  # of the plate on the tube
