"""What is kept of a car as it is built: what was read of it, and what was taken back. Entries are only added, never changed."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from tirante.core.document.fields import Coordinate, Document, Id, Note, PointName, Said
from tirante.core.document.survey import SdOf, TakenBack

AngleMeasure = Literal[
    "camber_deg",
    "toe_deg",
    "caster_deg",
    "kingpin_inclination_deg",
    "pinion_deg",
    "pinion_change_deg",
    "axle_steer_deg",
]
OF_AXLE: tuple[AngleMeasure, ...] = ("pinion_deg", "pinion_change_deg", "axle_steer_deg")  # of a beam as a whole
Angle = Annotated[float, Field(ge=-90, le=90)]
USUAL_SD = 0.1  # deg of an inclinometer or a toe bar with a careful hand; common practice, no source


class AngleTaken(Document):
    """An angle read on the car, with where the wheel then stood."""

    sort: Literal["angle"] = "angle"
    id: Id
    end: Id
    wheel: Literal["left", "right"] = "left"
    measure: AngleMeasure
    deg: Angle
    risen: Coordinate = Field(
        default=Coordinate(mm=0.0),
        description="mm that the wheel (of an axle its middle) stood higher than at ride height",
    )
    roll_deg: Angle = Field(default=0.0, description="of a beam, against the body; leaning right positive")
    steer: Annotated[float, Field(ge=-200, le=200)] = Field(
        default=0.0, description="mm of rack or deg of a steering arm, left positive"
    )
    sd: SdOf | None = Field(default=None, description="standard deviation, deg; null: usual")
    on_floor: bool = Field(
        default=False, description="it stood on the floor whose heights the survey has; false: level, as on stands"
    )
    instrument: Literal["inclinometer", "toe bar", "caster gauge", "other"] = "inclinometer"
    who: Said = ""
    note: Note = ""

    @property
    def deviation(self) -> float:
        """Of the reading [deg]."""
        return self.sd if self.sd is not None else USUAL_SD


class HeightTaken(Document):
    """How high a place of the chassis stands over the floor, the car on its wheels at ride height."""

    sort: Literal["height"] = "height"
    id: Id
    end: Id
    side: Literal["left", "right"] = "left"
    place: PointName
    read: Coordinate
    tolerance_mm: Annotated[float, Field(ge=0.1, le=100)] = 3.0  # common practice, no source
    instrument: Said = ""
    who: Said = ""
    note: Note = ""


BuiltEntry = Annotated[AngleTaken | HeightTaken | TakenBack, Field(discriminator="sort")]
