"""A jig as it is saved: what it holds, how it lies, and what the shop builds it of."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from tirante.core.document.fields import Document, Id, Name, NotNegative, PointName, Positive
from tirante.core.document.parts.common import Side
from tirante.core.document.parts.saved import SavedPart

Size = Annotated[float, Field(gt=0, le=500)]


class UprightOf(Document):
    """The upright, knuckle or spindle of an end, which is no part of a job, and the sizes of what is bored in it."""

    end_id: Id
    body: PointName  # of the end's template
    bore_mm: Positive = 12.0  # of the dummies in its joints
    wide_mm: Positive = 30.0  # of its bosses, from face to face
    outside_mm: Positive = 40.0
    wheel_bore_mm: Positive = 30.0  # of the bar along the wheel's axis
    wheel_wide_mm: Positive = 60.0  # of what it goes through
    wheel_outside_mm: Positive = 70.0


class PlateJig(SavedPart):
    """A plate, or a rail of box tube, with posts and dummy bolts that hold a part of the job, or an upright, while it is welded."""

    kind: Literal["plate_jig"] = "plate_jig"
    side: Side = "centre"
    what: Literal["a part", "an upright"] = "a part"
    holds: Id | None = None  # the part; null: an upright
    upright: UprightOf | None = None
    lies: Literal["least posts", "level", "through three joints"] = "least posts"
    through: Annotated[str, Field(max_length=240)] = ""  # names of three joints, with commas between
    over: bool = False  # turned over
    datum: Annotated[str, Field(max_length=80)] = ""  # the joint that ordinates begin at; empty: the first
    base: Literal["plate and posts", "box tube and angle iron"] = "plate and posts"
    clearance_mm: Size = 30.0
    post_thick_mm: Size = 10.0
    post_wide_mm: Size = 50.0
    room_mm: NotNegative = 15.0  # for a torch, from a bead to a post
    margin_mm: Size = 40.0
    plate_mm: Positive = 12.0
    plate_name: Name = "S235 plate"
    rail_mm: Size = 60.0  # box tube, outside
    rail_wall_mm: Positive = 3.0
    pilot_mm: Size = 5.0
    datum_hole_mm: Size = 8.0

    @property
    def made_for(self) -> str | None:
        """The part that it holds."""
        return self.holds

    @property
    def of_end(self) -> str | None:
        """The end whose upright it holds."""
        return self.upright.end_id if self.upright else None

    @model_validator(mode="after")
    def _holds_one(self) -> PlateJig:
        if (self.holds is None, self.upright is not None) != ((self.what == "an upright"),) * 2:
            raise ValueError(f"holds: a jig of {self.what} holds that alone; give it, and not the other")
        return self
