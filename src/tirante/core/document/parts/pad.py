"""Pads on two webs as they are saved: what is struck, and what a bearing is bolted to."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field, model_validator

from tirante.core.document.fields import Document, Id, Name, NotNegative, Positive, Signed, Strength
from tirante.core.document.parts.bracket import Lighten
from tirante.core.document.parts.saved import SavedPart


class PadHole(Document):
    """A further round hole in a pad's plate, from its middle."""

    what: Annotated[str, Field(max_length=60)] = ""  # that it is for
    along_mm: Signed = 30.0  # the webs
    across_mm: Signed = 0.0
    diameter_mm: Annotated[float, Field(ge=3, le=200)] = 6.5


class PadPart(SavedPart):
    """A flat plate on two webs, which stand along the tube or flat that the pad is on."""

    end_id: Id
    plate_mm: Positive = 6.0
    length_mm: Positive = 80.0  # of plate and webs, along what it stands on
    width_mm: Positive = 70.0
    web_mm: Positive = 6.0
    apart_mm: Positive = 36.0  # between the middles of the webs
    leg_mm: Annotated[float, Field(gt=0, le=50)] = 4.0
    height_mm: Positive = 40.0  # of the face over what it stands on, where that is no part of the job
    tube_od_mm: Positive | None = None  # of what it stands on there; null: a flat
    spread_mm: Positive | None = None  # plate between webs and wall, welded all round; null: none
    beyond_mm: Annotated[float, Field(ge=3, le=100)] = 20.0  # that it reaches past the webs, all round
    plate_name: Name = "S355 plate"
    yield_mpa: Strength = 355.0
    uts_mpa: Strength = 470.0
    corner_mm: NotNegative = 0.0  # radius of the plate's corners; 0: sharp
    lighten: Lighten | None = None  # of either web; null: none
    extra: Annotated[tuple[PadHole, ...], Field(strict=False, max_length=8)] = ()  # in the plate, for something else

    @property
    def of_end(self) -> str | None:
        """The end that it is at."""
        return self.end_id

    @model_validator(mode="after")
    def _goes_together(self) -> PadPart:
        if self.apart_mm + self.web_mm > self.width_mm:
            raise ValueError("apart_mm: the webs stand out from under the pad; set them nearer, or make it wider")
        if self.apart_mm <= self.web_mm:
            raise ValueError("apart_mm: the webs stand in one another; set them further apart")
        most = min(self.width_mm - self.apart_mm - self.web_mm, self.length_mm) / 2
        if self.corner_mm > most:
            raise ValueError(f"corner_mm: the webs’ ends stand out from under so round a plate; make it {most:g} mm or less, or the plate wider")  # fmt: skip
        return self
