"""The vehicle of a job: what its ends share, and how it stands against how its points were taken."""

from __future__ import annotations

from math import atan2, degrees
from typing import Annotated, Literal

from pydantic import Field, model_validator

from tirante.core.document.end import MOST_PITCH_DEG, End, Ride, Share, Vehicle
from tirante.core.document.fields import Document, Positive

Height = Annotated[float, Field(ge=-2000, le=2000)]
Rise = Annotated[float, Field(ge=-300, le=300)]


class CornerMasses(Document):
    """What each wheel stands on the scales [kg]."""

    front_left_kg: Positive
    front_right_kg: Positive
    rear_left_kg: Positive
    rear_right_kg: Positive

    @property
    def all_kg(self) -> float:
        """The car's mass."""
        return self.front_left_kg + self.front_right_kg + self.rear_left_kg + self.rear_right_kg


class Car(Document):
    """Lengths, masses and shares of the whole car; ride heights against how the points were taken."""

    use: Literal["road", "circuit", "off-road"] = Field(default="road", description="whose usual ranges stand beside")
    wheelbase_mm: Positive = 2500.0
    cg_height_mm: Positive = 550.0
    cg_is_a_guess: bool = True
    corners: CornerMasses | None = None
    mass_kg: Positive | None = None  # where no corner weights are known: the whole car …
    cg_behind_front_mm: Annotated[float, Field(ge=-20_000, le=20_000)] | None = None  # … and where its mass stands
    unsprung_front_kg: Positive | None = None  # both wheels with what goes up and down with them
    unsprung_rear_kg: Positive | None = None
    brake_front_share: Share = 0.65
    drive_front_share: Share = 0.0
    brakes_front: Literal["outboard", "inboard"] = "outboard"
    brakes_rear: Literal["outboard", "inboard"] = "outboard"
    drive_front: Literal["upright", "inboard"] | None = None
    drive_rear: Literal["upright", "inboard"] | None = None
    roll_stiffness_front_nm_per_deg: Positive | None = Field(
        default=None, description="typed, in place of what springs and bars come to"
    )
    roll_stiffness_rear_nm_per_deg: Positive | None = None
    roll_centre_front_mm: Height | None = Field(default=None, description="typed, in place of the mechanism’s own")
    roll_centre_rear_mm: Height | None = None
    track_front_mm: Positive | None = Field(default=None, description="of an end that the job does not have")
    track_rear_mm: Positive | None = None
    wheel_height_mm: Positive | None = Field(
        default=None, description="of the wheel centres of an end that the job does not have"
    )
    tyre_rate_front_n_per_mm: Positive | None = None  # of one, up and down; null: it does not yield
    tyre_rate_rear_n_per_mm: Positive | None = None
    tyre_pressure_front_kpa: Positive | None = None
    tyre_pressure_rear_kpa: Positive | None = None
    final_drive_ratio: Positive | None = None  # turns of the propeller shaft for one of the wheels
    front_rise_mm: Rise = 0.0  # of the body over the front axle, against how the points were taken
    rear_rise_mm: Rise = 0.0

    @property
    def pitch_deg(self) -> float:
        """Nose up, against how the points were taken."""
        return degrees(atan2(self.front_rise_mm - self.rear_rise_mm, self.wheelbase_mm))

    @model_validator(mode="after")
    def _stands_level_enough(self) -> Car:
        if abs(self.pitch_deg) > MOST_PITCH_DEG:
            raise ValueError(
                f"front_rise_mm: the body would be pitched {abs(self.pitch_deg):.1f}°, and {MOST_PITCH_DEG:g}° is the most; "
                "bring the two ends' heights closer, or look at the wheelbase"
            )
        return self

    def standing(self, end: End) -> End:
        """An end in this car: with its vehicle, and at its ride height."""
        front = end.end == "front"
        brake, drive = self.brake_front_share, self.drive_front_share
        vehicle = Vehicle(
            wheelbase_mm=self.wheelbase_mm, cg_height_mm=self.cg_height_mm,
            brake_share=brake if front else round(1 - brake, 12), drive_share=drive if front else round(1 - drive, 12),
            brakes=self.brakes_front if front else self.brakes_rear, drive=self.drive_front if front else self.drive_rear,
        )  # fmt: skip
        ride = Ride(rise_mm=self.front_rise_mm if front else self.rear_rise_mm, pitch_deg=self.pitch_deg)
        return end.model_copy(update={"vehicle": vehicle, "ride": ride})
