"""A hanger as it is saved."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from tirante.core.document.fields import NotNegative, Positive, Signed
from tirante.core.document.parts.hub_face import HubFace


class Hanger(HubFace):
    """A beam across the car's rails from which both hubs hang, each bolted by its studs to a plate."""

    kind: Literal["hanger"] = "hanger"
    rail_top_mm: Signed | None = Field(
        default=None, description="height of the rails' tops; null: of the car's own rails"
    )
    rail_out_mm: Positive | None = Field(
        default=None, description="from one rail's outer side to the other's; null: of the car's own rails"
    )
    blocks_mm: NotNegative = 0.0  # between rails and beam
    beam_mm: Positive = 60.0  # square tube, outside
    beam_wall_mm: Positive = 3.0
    tube_mm: Positive = 50.0  # square tube that hangs from it
    tube_wall_mm: Positive = 3.0
    lap_mm: Positive = 60.0  # of a plate on its tube
    past_mm: Positive = 30.0  # of the beam past what hangs from it
