"""One end of a car as a user describes it: template, points, wheel, damper, vehicle. Degrees and mm, as in every file."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from tirante.core.document.fields import (
    Angle,
    Direction,
    Document,
    Key,
    Name,
    NotNegative,
    Point,
    PointName,
    Positive,
    Signed,
)
from tirante.core.document.template import Template

DAMPER, SPRING = "damper", "spring"  # the first damper, and what carries on it
# of a further damper or spring; a comma parts a name from its side
UnitName = Annotated[Name, Field(pattern=r"^[^,./]+$")]
TAKEN = (DAMPER, SPRING, "strap", "bump stop", "wheel")  # names that an end gives by itself


Share = Annotated[float, Field(ge=0, le=1)]


class Rim(Document):
    """The rim as a hollow thing that joints live in; offsets from the wheel's middle plane, outboard positive."""

    barrel_radius_mm: Positive  # inside
    spokes_mm: Signed = 30.0  # inboard face of the spokes: the offset of the wheel that the points were taken with
    offset_mm: Signed | None = Field(
        default=None,
        description="offset of the wheel that is fitted now, mounting face outboard positive; null: the same",
    )
    inboard_edge_mm: Signed = -90.0
    joint_radius_mm: Positive = 22.0  # of the joints inside it
    wanted_mm: NotNegative = 5.0


class Wheel(Document):
    """The wheel as it stands at ride height."""

    loaded_radius_mm: Positive
    width_mm: Annotated[float, Field(gt=0, le=600)] = 195.0
    camber_deg: Annotated[float, Field(ge=-30, le=30)] = 0.0
    toe_deg: Annotated[float, Field(ge=-30, le=30)] = 0.0
    rim: Rim | None = None
    spacer_mm: NotNegative = Field(default=0.0, description="hub spacer put on since the points were taken")

    @property
    def moved_out_mm(self) -> float:
        """How far spacer and offset put the wheel's middle plane outboard of where the points have it."""
        rim = self.rim
        return self.spacer_mm + (rim.spokes_mm - rim.offset_mm if rim and rim.offset_mm is not None else 0.0)


class SurveyedPoint(Document):
    """A point as a survey gave it to the layout: where, how surely, from which side of the car, by how many readings, and when."""

    at: Point
    sd: tuple[NotNegative, NotNegative, NotNegative] = Field(
        strict=False, description="standard deviations along x, y, z [mm]"
    )
    side: Literal["own", "mirror"] = Field(
        default="own", description="mirror: its twin was measured, and it is that one’s mirror image"
    )
    readings: Annotated[int, Field(ge=0, le=100_000)] = Field(description="of that point, that counted")
    on: Annotated[str, Field(pattern=r"^\d{4}-\d{2}-\d{2}$")] = Field(description="day of the latest of them")


class PlaceIn(Document):
    """A point and the body it belongs to."""

    body: PointName
    point: PointName


class DamperEye(Document):
    """What a damper or a strap has at one of its ends, to be held on a bolt: a ball, a bush with its sleeve, a stitched eye."""

    bore_mm: Positive
    ball_width_mm: Positive  # over the ball or sleeve, between the plates
    head_diameter_mm: Positive  # of the eye, outside
    housing_width_mm: Positive  # of the eye, along the bolt
    tilt_limit_deg: Annotated[float, Field(gt=0, le=90)] | None = None  # null: not known

    @model_validator(mode="after")
    def _nested(self) -> DamperEye:
        if self.bore_mm >= self.head_diameter_mm:
            raise ValueError("bore_mm must be less than head_diameter_mm")
        return self

    @property
    def hash(self) -> str:
        """All that it is."""
        return self.model_dump_json()


class Damper(Document):
    """A damper, a spring on it, or a spring by itself between two places, with its lengths, and its eyes where they are known."""

    a: PlaceIn
    b: PlaceIn
    eye_a: DamperEye | None = None
    eye_b: DamperEye | None = None
    closed_mm: Positive | None = None
    open_mm: Positive | None = None
    od_mm: Positive | None = None  # of the spring round it
    rate_n_per_mm: Annotated[float, Field(gt=0, le=1e6)] | None = None  # of the spring on it; null: none, or not known
    stands: Literal["eyes", "seats"] | None = Field(
        default=None,
        description="whether it is held on bolts, or stands on flat seats as an air spring or a coil does; null: a spring that stands by itself and has no eyes on seats, all else on bolts",
    )

    @property
    def places(self) -> tuple[PlaceIn, PlaceIn]:
        """Both ends."""
        return self.a, self.b

    @property
    def eyes(self) -> tuple[DamperEye | None, DamperEye | None]:
        """At both ends, as far as they are known."""
        return self.eye_a, self.eye_b


class BumpStop(Document):
    """A stop that strikes a pad: its tip and the way it points, and the pad's middle, face and footprint."""

    tip: PlaceIn
    axis: Direction
    pad: PlaceIn
    pad_link: Annotated[str, Field(max_length=80)] | None = Field(
        default=None, description="the link that carries the pad, instead of its body"
    )
    face: Direction = (0.0, 0.0, 1.0)  # square to the pad
    pad_radius_mm: Positive = 25.0
    crush_mm: NotNegative = 20.0  # from touching to solid
    rate_n_per_mm: Annotated[float, Field(gt=0, le=1e6)] | None = None
    rate3_n_per_mm3: Annotated[float, Field(ge=0, le=1e6)] = 0.0  # it grows harder: F = k x + k3 x³
    table: Annotated[tuple[tuple[NotNegative, NotNegative], ...], Field(strict=False, max_length=60)] = Field(
        default=(), description="compression mm and force N, instead of rates"
    )


class Strap(Document):
    """A droop strap between two places; taut it stops the travel."""

    a: PlaceIn
    b: PlaceIn
    length_mm: Positive
    eye_a: DamperEye | None = None
    eye_b: DamperEye | None = None

    @property
    def places(self) -> tuple[PlaceIn, PlaceIn]:
        """Both ends."""
        return self.a, self.b

    @property
    def eyes(self) -> tuple[DamperEye | None, DamperEye | None]:
        """What it is held by at both ends, as far as that is known."""
        return self.eye_a, self.eye_b


class SliderEnds(Document):
    """How far a slider may run from its place at ride height, along its line and back."""

    along_mm: NotNegative
    back_mm: NotNegative


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

    bolt_axis: Direction
    limit_deg: Annotated[float, Field(gt=0, le=90)] | None = None
    limit_with_spacers_deg: Annotated[float, Field(gt=0, le=90)] | None = None
    kind: Literal["spherical", "hinged"] = Field(
        default="spherical",
        description="hinged: a clevis or bush, free about its bolt alone; the limit is what it gives",
    )


class BallEnd(Document):
    """A ball joint or bush: its stud's or pin's axis at ride height, and its housing's where that stands elsewhere."""

    stud_axis: Direction
    housing_axis: Direction | None = None
    limit_deg: Annotated[float, Field(gt=0, le=90)] | None = None


class LinkBend(Document):
    """How a link is bent: off the line between its joints, where, and which way."""

    offset_mm: Positive
    from_ends_mm: Positive | None = Field(
        default=None, description="of either bend from its joint; null: one, at mid-span"
    )
    plane_deg: Angle = Field(default=0.0, description="from square to end A's bolt, on the upper side, about the link")


class EndLink(Document):
    """What is known of a link of the template: the joints at its ends, their clocking, its stiffness and size."""

    a: JointEnd | None = None
    b: JointEnd | None = None
    clocking_deg: Angle = 0.0
    stiffness_n_per_mm: Annotated[float, Field(gt=0, le=1e9)] = (
        50_000.0  # a steel link with its joints; common practice
    )
    od_mm: Positive | None = None
    bend: LinkBend | None = Field(
        default=None, description="of the part that stands for it, where there is one: its own counts then"
    )


class Bushing(Document):
    """What a bush gives by; null does not yield."""

    radial_n_per_mm: Annotated[float, Field(gt=0, le=1e9)] | None = None
    axial_n_per_mm: Annotated[float, Field(gt=0, le=1e9)] | None = None
    conical_nmm_per_deg: Annotated[float, Field(gt=0, le=1e12)] | None = None


class SteeringArm(Document):
    """A centre arm or pitman arm in place of a rack: it turns about a line, and the steer driver is its angle."""

    pivot: PointName
    axis: Direction = (0.0, 0.0, 1.0)


class AdditionIn(Document):
    """Something put on the template: on which body, carried by which, on which side."""

    on: PointName | None = None
    carrier: PointName = "ground"
    side: Literal["left", "right"] = "left"
    rate_nm_per_deg: Annotated[float, Field(gt=0, le=1e6)] | None = Field(
        default=None, description="of an anti-roll bar: torque for each degree that its two ends are twisted"
    )


class Shaft(Document):
    """A shaft between two joints that may plunge; its flanges' axes where they stand at ride height."""

    inner: PlaceIn
    outer: PlaceIn
    inner_axis: Direction = (0.0, 1.0, 0.0)
    outer_axis: Direction | None = None  # null: the wheel's spin axis
    od_mm: Positive | None = None
    plunge_in_mm: NotNegative | None = None  # room from ride height, inward …
    plunge_out_mm: NotNegative | None = None  # … and outward
    angle_limit_deg: Annotated[float, Field(gt=0, le=90)] | None = None
    pair: bool = False  # of a beam: one on either side


class Round(Document):
    """A tube, pipe or post: the solid within a radius of a line."""

    kind: Literal["round"] = "round"
    a: Point
    b: Point
    radius_mm: NotNegative


class Block(Document):
    """A box square to the car's axes at ride height, between two opposite corners."""

    kind: Literal["block"] = "block"
    low: Point
    high: Point

    @model_validator(mode="after")
    def _in_order(self) -> Block:
        if any(a >= b for a, b in zip(self.low, self.high, strict=True)):
            raise ValueError("low must be less than high in x, y and z")
        return self


class Wall(Document):
    """A flat face: everything behind it is solid."""

    kind: Literal["wall"] = "wall"
    through: Point
    normal: Direction


class Obstacle(Document):
    """A thing to clear: its shape at ride height, the body it moves with, and the clearance wanted."""

    name: Name
    shape: Annotated[Round | Block | Wall, Field(discriminator="kind")]
    body: PointName = "ground"
    both_sides: bool = True  # stands on the right too
    wanted_mm: NotNegative = 10.0


class Pair(Document):
    """Two parts of the end that must miss each other."""

    a: Name
    b: Name
    wanted_mm: NotNegative = 10.0


MOST_PITCH_DEG = 15.0


class Ride(Document):
    """How the body stands against how the points were taken: its rise at this axle, and its pitch, nose up."""

    rise_mm: Annotated[float, Field(ge=-500, le=500)] = 0.0
    pitch_deg: Annotated[float, Field(ge=-MOST_PITCH_DEG, le=MOST_PITCH_DEG)] = 0.0


class End(Document):
    """One end of a car at ride height."""

    template: Key
    kind: Template | None = Field(
        default=None,
        description="of an end of a kind of its own: what it is made of; null: the shipped kind of that name",
    )
    end: Literal["front", "rear"] = "front"
    points: dict[PointName, Point]
    wheel: Wheel
    right_points: dict[PointName, Point] = Field(
        default={}, description="of points unpaired on purpose: where they stand on the right (y negative)"
    )
    damper: Damper | None = None
    vehicle: Vehicle | None = None
    links: dict[str, EndLink] = Field(default={})
    note: Annotated[str, Field(max_length=2000)] = ""
    additions: dict[Key, AdditionIn] = Field(default={})
    steering: SteeringArm | None = None  # null: a rack
    bushes: dict[str, Bushing] = Field(default={})
    balls: dict[str, BallEnd] = Field(default={}, description="by ball joint or bush of the template")
    eyes: dict[PointName, DamperEye] = Field(
        default={},
        max_length=40,
        description="by point: what a bracket clamps at a joint of what no part is made for, as a leaf’s eye",
    )
    shafts: dict[Name, Shaft] = Field(default={})
    pinion_deg: Annotated[float, Field(gt=-90, lt=90)] | None = Field(
        default=None, description="of a live axle: its pinion above level at ride height, as the points were taken"
    )
    bump_stop: BumpStop | None = None
    other_dampers: dict[UnitName, Damper] = Field(
        default={},
        max_length=6,
        description="further dampers, and springs that stand by themselves, by name, on either side",
    )
    strap: Strap | None = None
    sliders: dict[str, SliderEnds] = Field(default={})
    member_od_mm: dict[PointName, Positive] = Field(default={}, description="of the tubes of a body (an arm, an axle)")
    obstacles: Annotated[tuple[Obstacle, ...], Field(max_length=60, strict=False)] = ()
    misses: Annotated[tuple[Pair, ...], Field(max_length=60, strict=False)] = ()
    ride: Ride = Ride()
    surveyed: dict[PointName, SurveyedPoint] = Field(
        default={},
        max_length=200,
        description="points that came from a survey, with where they stood then: one that stands elsewhere now is known by it no more",
    )
    right_surveyed: dict[PointName, SurveyedPoint] = Field(
        default={}, max_length=200, description="the same of points of the right-hand side that are no mirror image"
    )
    meant: dict[PointName, Point] = Field(
        default={},
        max_length=120,
        description="points that stand far off and are meant so, where they stood when that was said",
    )

    def alike(self, point: str) -> bool:
        """Whether a point of the right-hand side is the mirror image of the left one.

        Args:
            point: of the end.
        """
        x, y, z = self.points[point]
        own = self.right_points.get(point)
        return own is None or max(abs(a - b) for a, b in zip(own, (x, -y, z), strict=True)) < 1e-6

    @property
    def dampers(self) -> dict[str, Damper]:
        """All its dampers and springs by themselves, by name."""
        return {**({DAMPER: self.damper} if self.damper else {}), **self.other_dampers}

    @property
    def seated(self) -> dict[str, Damper]:
        """Of these, what stands on flat seats."""
        return {
            name: one for name, one in self.dampers.items()
            if one.stands == "seats" or (one.stands is None and name != DAMPER and one.rate_n_per_mm is not None and not any(one.eyes))
        }  # fmt: skip

    @property
    def springs(self) -> dict[str, Damper]:
        """What carries the car, by name: all that has a rate. Where nothing has one, the damper is taken to hold a spring of a rate not known."""
        every = self.dampers
        rated = {name: one for name, one in every.items() if one.rate_n_per_mm is not None}
        found = rated or dict(list(every.items())[:1])
        return {SPRING if name == DAMPER else name: one for name, one in found.items()}

    @property
    def rated(self) -> bool:
        """Whether the rate of what carries the car is known."""
        return bool(self.dampers) and all(one.rate_n_per_mm is not None for one in self.springs.values())

    @model_validator(mode="after")
    def _of_its_kind(self) -> End:
        if self.kind is not None and self.kind.name != self.template:
            raise ValueError(
                f"kind.name: the end says “{self.template}”, and the kind that it brings is called “{self.kind.name}”; give both one name"
            )
        taken = next((name for name in self.other_dampers if name in (*TAKEN, *self.shafts)), None)
        if taken is not None:
            raise ValueError(f"other_dampers: “{taken}” is something else of this end; give this one another name")
        return self
