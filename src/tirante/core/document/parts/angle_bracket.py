"""A bracket of two angles as it is saved: each folded from one plate, its foot bolted to a flat, their ears holding a joint in double shear."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from tirante.core.document.fields import Angle, Length, Name, NotNegative, Positive, Strength
from tirante.core.document.parts.bracket import Extra, Lighten
from tirante.core.document.parts.saved import SavedPart

LEAST_OVER = 2.5  # mm that a crush sleeve is larger outside than its bolt: 1 mm of wall round its bore; common practice, no source


class AngleBracket(SavedPart):
    """Two angles that are bolted on, one to either side of what they hold; two for each joint."""

    kind: Literal["angle_bracket"] = "angle_bracket"
    plate: Length
    radius_mm: Positive = 5.0  # of the bend, inside
    k_factor: Annotated[float, Field(ge=0, le=0.5)] | None = None  # from the shop's own test bend; null: DIN 6935
    ratio: Annotated[float, Field(gt=0.5, le=1)] | None = None  # of the angle left to the angle set, from that test
    die_mm: Positive | None = None  # width of the die's opening; null: eight times the plate
    grade_name: Name = "S275 plate"
    yield_mpa: Strength = 275.0
    uts_mpa: Strength = 410.0
    hole: Length
    head_radius: Length
    edge: Length  # hole centre to the free end
    base_width: Length  # of foot and ear, along the bend
    height: Length  # what it stands on, to the hole's centre, shims and all
    height_fixed: bool = False
    load_angle_deg: Angle | None = None
    bolt_mm: Annotated[float, Field(ge=4, le=30)] = 10.0  # of the feet
    bolt_class: Literal["8.8", "10.9", "12.9"] = "8.8"
    gauge_mm: Positive = 26.0  # the ear's outer face to the foot's bolts
    toe_mm: Positive = 16.0  # from these to the foot's end
    corner_mm: NotNegative = 0.0  # radius of a foot's corners; 0: sharp
    apart_mm: Positive = 40.0  # a foot's two bolts, along the bend
    shim_mm: NotNegative = 0.0  # behind each foot
    through_mm: NotNegative = (
        0.0  # of a box that the bolts go right through, a crush sleeve round each; 0: a wall or a flat
    )
    sleeve_od_mm: Positive | None = None  # null: the bolt's diameter and 8 mm
    wall_mm: NotNegative | None = None  # of the wall or flat that it is bolted to
    lighten: Lighten | None = None  # of either ear; null: none
    extra: Extra = ()  # in both ears, for something else

    @model_validator(mode="after")
    def _goes_together(self) -> AngleBracket:
        if self.sleeve_od_mm is not None and self.sleeve_od_mm < self.bolt_mm + LEAST_OVER:
            raise ValueError(f"sleeve_od_mm: a crush sleeve round a bolt of {self.bolt_mm:g} mm has a wall; give {self.bolt_mm + LEAST_OVER:g} mm or more")  # fmt: skip
        return self
