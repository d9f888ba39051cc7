"""What several kinds of part are saved with: sides, what a part stands between, typed loads, threaded ends, welding."""

from __future__ import annotations

from collections.abc import Mapping
from math import dist
from typing import Annotated, Literal

from pydantic import Field, model_validator

from tirante.core.document.end import End
from tirante.core.document.fields import (
    Coordinate,
    Document,
    Force,
    Id,
    Key,
    Length,
    Name,
    NotNegative,
    PointName,
    Positive,
)
from tirante.core.document.settings import Hand

Side = Literal["left", "right", "pair", "centre"]


class Pivots(Document):
    """A link between two pivots in car axes: x forward, y left, z up."""

    kind: Literal["pivots"] = "pivots"
    a: tuple[Coordinate, Coordinate, Coordinate] = Field(strict=False)
    b: tuple[Coordinate, Coordinate, Coordinate] = Field(strict=False)

    @property
    def mm(self) -> float:
        """Centre to centre [mm]."""
        return dist([c.mm for c in self.a], [c.mm for c in self.b])

    @model_validator(mode="after")
    def _apart(self) -> Pivots:
        if self.mm < 1.0:
            raise ValueError("the two pivots coincide; move one of them")
        return self


class CentreToCentre(Document):
    """A link of a given length."""

    kind: Literal["length"] = "length"
    length: Length

    @property
    def mm(self) -> float:
        """Centre to centre [mm]."""
        return self.length.mm


class OfEnd(Document):
    """A link of a suspension end: its length follows that end's points (`followed`)."""

    kind: Literal["end"] = "end"
    end_id: Id
    link: Annotated[str, Field(max_length=80)]  # as the template calls it
    a: PointName
    b: PointName
    a_side: Literal["left", "right"] = "left"
    b_side: Literal["left", "right"] = "left"
    mm: Positive  # centre to centre, as the end last gave it


Between = Annotated[Pivots | CentreToCentre | OfEnd, Field(discriminator="kind")]


def length_of(between: Between, ends: Mapping[str, End]) -> float | None:
    """What an end's points make of a length that is tied to them.

    Args:
        between: what the part stands between.
        ends: the design's suspension ends, by id.

    Returns:
        Centre to centre [mm]; None when it is not tied, or what it was tied to is gone.
    """
    if not isinstance(between, OfEnd) or between.end_id not in ends:
        return None
    end = ends[between.end_id]
    places = []
    for point, side in ((between.a, between.a_side), (between.b, between.b_side)):
        given = end.points.get(point)
        if given is None:
            return None
        mirror = (given[0], -given[1], given[2])
        places.append(end.right_points.get(point, mirror) if side == "right" else given)
    length = dist(*places)
    return length if length >= 1e-3 else None


def followed(between: Between, ends: Mapping[str, End]) -> Between:
    """The same, as long as the end's points now make it; what is gone keeps the length it had.

    Args:
        between: what the part stands between.
        ends: the design's suspension ends, by id.
    """
    length = length_of(between, ends)
    return between if length is None or length == between.mm else between.model_copy(update={"mm": length})


def gone(between: Between, ends: Mapping[str, End]) -> str | None:
    """That the end or the points it was tied to are gone, in words; None when they are there, or it never was tied.

    Args:
        between: what the part stands between.
        ends: the design's suspension ends, by id.
    """
    if isinstance(between, OfEnd) and length_of(between, ends) is None:
        return "It was a link of a suspension end that is not there any more. Give it its pivots or its length."
    return None


class LoadCase(Document):
    """What a part sees at once, as a user types it."""

    name: Name
    axial_n: Force = 0.0  # tension positive
    strike_n: Annotated[float, Field(ge=0, le=1e7)] = 0.0  # at mid-span, square to the link
    side_n: Annotated[float, Field(ge=0, le=1e7)] = 0.0  # at an eye, square to the link


class RodEndEnd(Document):
    """A threaded end: joint, insert and nut by catalogue key (None: not chosen yet), or the tube itself tapped."""

    kind: Literal["rod_end"] = "rod_end"
    joint: Key | None = None
    insert: Key | None = None
    nut: Key | None = None
    hand: Hand = "RH"
    tapped_mm: Positive | None = None  # full thread cut into a thick tube, in place of an insert


class Welding(Document):
    """How inserts are welded in."""

    leg_mm: NotNegative | None = None  # null: what the wall asks
    plug_mm: NotNegative = 9.5
    plugs: Annotated[int, Field(ge=0, le=8)] = 2
    plugs_in_section: Annotated[int, Field(ge=0, le=8)] = 1  # square to each other: one in any cross-section
