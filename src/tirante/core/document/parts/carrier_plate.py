"""A plate on what carries a wheel, as it is saved: a steering arm, or one of the two plates that hold a kingpin."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated, Literal

from pydantic import Field, model_validator

from tirante.core.document.end import End
from tirante.core.document.fields import Direction, Id, Name, Point, PointName, Positive, Strength
from tirante.core.document.parts.saved import SavedPart

Fastened = Literal["two bolts", "weld"]


class CarrierPlate(SavedPart):
    """One plate with an eye at a joint of an upright, knuckle or axle, which is not made here, fastened to that at its root."""

    kind: Literal["carrier_plate"] = "carrier_plate"
    end_id: Id
    body: PointName  # of the end's template, which it is a plate of
    point: PointName  # whose joint it holds
    root: Point = (
        0.0,
        0.0,
        0.0,
    )  # middle of its bolts or of its weld, from its eye, on the left; nothing: not said yet
    normal: Direction = (0.0, 0.0, 1.0)  # square to the plate
    plate_mm: Positive = 12.0
    head_mm: Positive = 20.0  # radius of the plate round its eye
    root_width_mm: Positive = 60.0
    pin_mm: Positive = 12.0
    pin_class: Literal["8.8", "10.9", "12.9"] = "10.9"
    fastened: Fastened = "two bolts"
    bolt_mm: Positive = 12.0
    bolt_class: Literal["8.8", "10.9", "12.9"] = "10.9"
    apart_mm: Positive = 40.0  # of the two bolts, along the plate
    leg_mm: Annotated[float, Field(gt=0, le=50)] = 6.0
    plate_name: Name = "S355 plate"
    yield_mpa: Strength = 355.0
    uts_mpa: Strength = 470.0

    @property
    def of_end(self) -> str | None:
        """The end whose joint it holds."""
        return self.end_id

    @property
    def plate_of(self) -> tuple[str, str] | None:
        """The body that it is a plate of, and the joint's point."""
        return self.body, self.point

    def lost(self, ends: Mapping[str, End]) -> str | None:
        """Whether its end is gone."""
        if self.end_id in ends:
            return None
        return "The suspension end that it was a plate of is not there any more. Take it out, or undo."

    @model_validator(mode="after")
    def _goes_together(self) -> CarrierPlate:
        if max(abs(v) for v in self.normal) < 1e-9:
            raise ValueError("normal: this direction has no length; say what is square to the plate")
        if self.pin_mm + 1.0 >= 2 * self.head_mm:
            raise ValueError("head_mm: the hole is as wide as the plate round it; give the plate more")
        if self.fastened == "two bolts":
            if self.bolt_mm + 1.0 >= self.root_width_mm:
                raise ValueError("root_width_mm: a bolt's hole is as wide as the root; give the plate more width there")
            if self.apart_mm < 2 * self.bolt_mm:
                raise ValueError("apart_mm: the bolts stand nearer than two of their diameters; set them further apart")
        return self
