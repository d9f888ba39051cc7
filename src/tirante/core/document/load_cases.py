"""Load cases of a car, as a user keeps them; each factor common practice unless its source is named."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from tirante.core.document.fields import Document, Name, Positive, Signed

Factor = Annotated[float, Field(ge=-20, le=20)]


PRACTICE = "common practice, no source"


class CarCase(Document):
    """Something that happens to the car.

    wheel: one wheel is hit (or both): factors × its own standing load. car: the whole car is accelerated: g, with load
    transfer from its height of mass and the lean of its body. landing: a wheel (or both) falls onto its bump stop. strike:
    the car comes down on a link's middle. jack: an end is lifted at a point. snatch: the wheel drops and what ends the droop
    stops it. park: the steering is turned at a standstill. jam: a wheel at full lock meets a kerb with its rim.
    """

    name: Name
    kind: Literal["wheel", "car", "landing", "strike", "jack", "snatch", "park", "jam"] = "wheel"
    end: Literal["front", "rear", "both"] = "both"
    at: Literal["ride", "stop", "droop"] = "ride"
    travel_mm: Annotated[float, Field(ge=-600, le=600)] | None = Field(default=None, description="instead of `at`")
    roll_deg: Annotated[float, Field(ge=-15, le=15)] | None = Field(
        default=None,
        description="of the body, in a turn to the left; null: worked out of a car case, else what the wheels’ heights make it",
    )
    steer: Signed = 0.0  # mm of the rack, deg of the arm; of a car case in a turn to the left
    wheels: Literal["each", "both"] = "each"
    vertical: Annotated[float, Field(ge=0, le=20)] = 1.0
    longitudinal: Factor = 0.0  # forward positive
    lateral: Factor = 0.0  # of a wheel: to the middle of the car; of a car: the turn, each way; of a jam: at the rim
    friction: Annotated[float, Field(gt=0, le=2)] = Field(
        default=0.9, description="of a tyre that is turned on the spot"
    )
    torque: Literal["rolling", "brake", "drive"] = "rolling"
    link: Annotated[str, Field(max_length=80)] | None = None  # struck
    body: Annotated[str, Field(max_length=40)] | None = None  # lifted at
    point: Annotated[str, Field(max_length=40)] | None = None  # null: the lowest joint of what carries the wheel
    drop_mm: Annotated[float, Field(gt=0, le=20_000)] | None = None
    speed_m_s: Annotated[float, Field(gt=0, le=50)] | None = None
    stiffness_n_per_mm: Positive | None = None  # of what stops the wheel, at the wheel
    source: Annotated[str, Field(min_length=1, max_length=200)] = PRACTICE
    reason: Annotated[str, Field(max_length=200)] = Field(default="", description="why it is among the cases")

    @model_validator(mode="after")
    def _whole(self) -> CarCase:
        if self.kind == "landing" and (self.drop_mm is None) == (self.speed_m_s is None):
            raise ValueError("a landing needs drop_mm or speed_m_s, one of them")
        if self.kind == "snatch" and (self.speed_m_s is None or self.stiffness_n_per_mm is None):
            raise ValueError("a snatch needs speed_m_s and stiffness_n_per_mm")
        if self.kind == "jam" and not self.lateral:
            raise ValueError("a jam needs a lateral factor")
        if self.kind in ("wheel", "car") and not (self.vertical or self.longitudinal or self.lateral):
            raise ValueError("the case has no contact force: give it a vertical, longitudinal or lateral factor")
        return self


class LoadSet(Document):
    """The cases of a car."""

    name: Annotated[str, Field(min_length=1, max_length=60)] = "none"
    cases: Annotated[tuple[CarCase, ...], Field(max_length=40, strict=False)] = ()

    @model_validator(mode="after")
    def _named(self) -> LoadSet:
        names = [case.name for case in self.cases]
        for i, name in enumerate(names):
            if name in names[:i]:
                raise ValueError(f"cases.{i}.name: two cases are called “{name}”; give one another name")
        return self
