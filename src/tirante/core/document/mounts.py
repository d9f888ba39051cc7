"""Members of the car that brackets stand on, each entered once: tubes and pipes, boxes and flats of a frame, axle tubes, plates.

Places are the car's, at ride height, on the left; `both_sides`: its mirror image stands on the right too.
"""

from __future__ import annotations

from math import hypot
from typing import Annotated, Literal

from pydantic import Field, model_validator

from tirante.core.document.fields import Direction, Document, Id, Name, Point, PointName, Positive, Strength

LEAST_LENGTH = 10.0  # mm, of a member: shorter is a slip of typing


class _Along(Document):
    """A member along a line."""

    a: Point
    b: Point

    @model_validator(mode="after")
    def _long(self) -> _Along:
        if hypot(*(q - p for p, q in zip(self.a, self.b, strict=True))) < LEAST_LENGTH:
            raise ValueError(f"b must be {LEAST_LENGTH:g} mm or more from a: the line between them is the member’s")
        return self


class RoundMember(_Along):
    """A round tube, pipe or bar along its middle line."""

    kind: Literal["round"] = "round"
    od_mm: Positive
    wall_mm: Positive | None = None  # null: not known

    @model_validator(mode="after")
    def _hollow(self) -> RoundMember:
        if self.wall_mm is not None and 2 * self.wall_mm > self.od_mm:
            raise ValueError("wall_mm must be at most half of od_mm")
        return self


class BoxMember(_Along):
    """A square or rectangular tube along its middle line; its height stands along `up`, square to the line."""

    kind: Literal["box"] = "box"
    up: Direction = (0.0, 0.0, 1.0)
    width_mm: Positive
    height_mm: Positive
    wall_mm: Positive | None = None

    @model_validator(mode="after")
    def _turned(self) -> BoxMember:
        run = [q - p for p, q in zip(self.a, self.b, strict=True)]
        dot = sum(p * q for p, q in zip(run, self.up, strict=True))
        size = hypot(*run) * hypot(*self.up)
        if size == 0 or abs(dot) > 0.999 * size:
            raise ValueError("up must point across the member, not along it")
        if self.wall_mm is not None and 2 * self.wall_mm > min(self.width_mm, self.height_mm):
            raise ValueError("wall_mm must be at most half of width_mm and height_mm")
        return self


class FlatMember(Document):
    """A plate, a web or a flange: its face, and the way that the face looks."""

    kind: Literal["flat"] = "flat"
    through: Point
    normal: Direction
    wall_mm: Positive | None = None  # its thickness

    @model_validator(mode="after")
    def _looks(self) -> FlatMember:
        if hypot(*self.normal) == 0:
            raise ValueError("normal must point somewhere: the way the face looks")
        return self


class Mount(Document):
    """A member of the car that brackets stand on; of the chassis, or of a body of a suspension end."""

    id: Id
    name: Name
    shape: Annotated[RoundMember | BoxMember | FlatMember, Field(discriminator="kind")]
    end_id: Id | None = None  # of the end that its body belongs to; null: it is of the chassis
    body: PointName = "ground"
    both_sides: bool = True
    material: Annotated[str, Field(max_length=80)] = ""
    yield_mpa: Strength | None = None  # null: not known
    uts_mpa: Strength | None = None

    @model_validator(mode="after")
    def _of_an_end(self) -> Mount:
        if (self.body == "ground") != (self.end_id is None):
            raise ValueError("end_id and body go together: of the chassis neither is given, of an end’s body both")
        return self
