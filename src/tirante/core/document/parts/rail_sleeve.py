"""A sleeve through a box that a joint is bolted to, as it is saved."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from tirante.core.document.fields import Name, NotNegative, Positive, Strength
from tirante.core.document.parts.saved import SavedPart


class RailSleeve(SavedPart):
    """A turned sleeve through both walls of a box, welded to them; one for each joint that it holds, the joint's bolt right through it."""

    kind: Literal["rail_sleeve"] = "rail_sleeve"
    sleeve_od_mm: Positive
    bore_mm: Positive
    through_mm: Positive = Field(default=60.0, description="mm; of the box, from the face before the joint to the one behind")  # fmt: skip
    proud_mm: NotNegative = Field(default=6.0, description="mm; that it stands out before the near face")
    far_mm: NotNegative = Field(default=6.0, description="mm; that it stands out behind the far face")
    wall_mm: NotNegative | None = None  # of the box
    weld_leg_mm: Annotated[float, Field(gt=0, le=50)] = 4.0
    steel_name: Name = "S355 bar"
    yield_mpa: Strength = 355.0
    uts_mpa: Strength = 470.0

    @property
    def length_mm(self) -> float:
        """Face to face."""
        return self.proud_mm + self.through_mm + self.far_mm

    @model_validator(mode="after")
    def _has_a_wall(self) -> RailSleeve:
        if self.bore_mm >= self.sleeve_od_mm:
            raise ValueError("bore_mm: the sleeve has no wall left; make it larger outside, or its bore smaller")
        return self
