"""A rocker of plates as it is saved: a boss that turns, eyes that are pulled at."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated, Literal

from pydantic import Field, model_validator

from tirante.core.document.end import DamperEye, End
from tirante.core.document.fields import Document, Id, Name, NotNegative, PointName, Positive, Strength
from tirante.core.document.parts.saved import SavedPart


class RockerEye(Document):
    """A hole that a link's or damper's bolt goes through."""

    point: PointName  # of the end
    pin_mm: Positive = 12.0
    head_mm: Positive = 18.0  # radius of the plate round it
    between_mm: Positive = 16.0  # width of the ball or bush in it
    pin_class: Literal["8.8", "10.9", "12.9"] = "8.8"


class Rocker(SavedPart):
    """A rocker or bell crank of one or two plates, with a boss welded in and bearings in the boss."""

    kind: Literal["rocker"] = "rocker"
    end_id: Id
    body: PointName  # of the end's template
    plates: Annotated[int, Field(ge=1, le=2)] = 2
    plate_mm: Positive = 6.0
    inside_mm: NotNegative = 24.0  # between two plates
    boss_mm: Positive = 40.0  # outside
    bore_mm: Positive = 30.0  # of the boss, for its bearings
    hub_mm: Positive = 34.0  # radius of the plate round the boss
    boss_length_mm: Positive = 50.0
    leg_mm: Annotated[float, Field(gt=0, le=50)] = 4.0
    eyes: Annotated[tuple[RockerEye, ...], Field(max_length=8, strict=False)] = ()
    pivot_eye: DamperEye | None = Field(
        default=None,
        description="what is clamped where it turns: its bearings and what stands between them; null: not known",
    )
    bearing_rating_n: Annotated[float, Field(gt=0, le=1e7)] | None = None  # the maker's, of both bearings together
    plate_name: Name = "S355 plate"
    yield_mpa: Strength = 355.0
    uts_mpa: Strength = 470.0

    @property
    def of_end(self) -> str | None:
        """The end that it turns in."""
        return self.end_id

    @property
    def stands_for(self) -> str | None:
        """The body of its end's template that it is."""
        return self.body

    def lost(self, ends: Mapping[str, End]) -> str | None:
        """Whether its end is gone."""
        if self.end_id in ends:
            return None
        return "The suspension end that it was a rocker of is not there any more. Take it out, or undo."

    @model_validator(mode="after")
    def _goes_together(self) -> Rocker:
        if self.bore_mm >= self.boss_mm:
            raise ValueError("bore_mm: the bearing is as large as the boss; give the boss a wall")
        if self.boss_mm >= 2 * self.hub_mm:
            raise ValueError("hub_mm: the boss is as wide as the plate round it; give the plate more")
        if self.plates == 2 and self.inside_mm <= 0:
            raise ValueError("inside_mm: two plates stand apart by something; give it")
        names = [eye.point for eye in self.eyes]
        for i, eye in enumerate(self.eyes):
            if eye.point in names[:i]:
                raise ValueError(f"eyes.{i}: {eye.point} stands there twice; take one of them out")
            if eye.pin_mm >= 2 * eye.head_mm:
                raise ValueError(f"eyes.{i}.head_mm: the hole is as wide as the plate round it; give the plate more")
        return self
