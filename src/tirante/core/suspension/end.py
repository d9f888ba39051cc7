"""One end of a car as a user describes it: template, points, wheel, damper, vehicle. Degrees and mm, as in every file."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from tirante.core.design.fields import Angle, Document, Key, Positive, Signed

Point = Annotated[tuple[Signed, Signed, Signed], Field(strict=False, description="mm: x forward, y left, z up")]
PointName = Annotated[str, Field(pattern=r"^[a-z][a-z0-9_]{0,39}$")]
Share = Annotated[float, Field(ge=0, le=1)]


class Wheel(Document):
    """The wheel as it stands at ride height."""

    loaded_radius_mm: Positive
    width_mm: Annotated[float, Field(gt=0, le=600)] = 195.0
    camber_deg: Annotated[float, Field(ge=-30, le=30)] = 0.0
    toe_deg: Annotated[float, Field(ge=-30, le=30)] = 0.0


class PlaceIn(Document):
    """A point and the body it belongs to."""

    body: PointName
    point: PointName


class Damper(Document):
    """A damper between two places, with its lengths."""

    a: PlaceIn
    b: PlaceIn
    closed_mm: Positive | None = None
    open_mm: Positive | None = None

    @property
    def places(self) -> tuple[PlaceIn, PlaceIn]:
        """Both ends."""
        return self.a, self.b


class Vehicle(Document):
    """What the anti percentages need."""

    wheelbase_mm: Positive
    cg_height_mm: Positive
    brake_share: Share = 0.5  # of all braking at this end
    drive_share: Share = 0.0
    brakes: Literal["outboard", "inboard"] = "outboard"
    drive: Literal["upright", "inboard"] | None = Field(
        default=None, description="what reacts the drive torque; null: the axle of a beam, else inboard"
    )


class JointEnd(Document):
    """How a joint at a link's end stands: its bolt, and how far it may tilt."""

    bolt_axis: Annotated[tuple[Signed, Signed, Signed], Field(strict=False)]
    limit_deg: Annotated[float, Field(gt=0, le=90)] | None = None


class EndLink(Document):
    """What is known of a link of the template: the joints at its ends, their clocking, its stiffness."""

    a: JointEnd | None = None
    b: JointEnd | None = None
    clocking_deg: Angle = 0.0
    stiffness_n_per_mm: Annotated[float, Field(gt=0, le=1e9)] = (
        50_000.0  # a steel link with its joints; common practice
    )


class End(Document):
    """One end of a car at ride height."""

    template: Key
    end: Literal["front", "rear"] = "front"
    points: dict[PointName, Point]
    wheel: Wheel
    damper: Damper | None = None
    vehicle: Vehicle | None = None
    links: dict[str, EndLink] = Field(default={})
    note: Annotated[str, Field(max_length=2000)] = ""
