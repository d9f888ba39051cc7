"""What a moving member of an end looks like as it is made: its tubes at their size, for whoever draws it or looks what it clears."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from tirante.core.document.fields import Document, NotNegative, Point, PointName, Positive


class ShapeTube(Document):
    """A tube between two points of the end, by name, or places on its left side [mm]."""

    a: PointName | Point
    b: PointName | Point
    od_mm: Positive


class Shape(Document):
    """A member as it is made; without tubes it is one between its ends."""

    od_mm: Positive
    tubes: Annotated[tuple[ShapeTube, ...], Field(strict=False, max_length=60)] = ()
    sleeve_mm: NotNegative = 0.0  # how long the sleeves at its hinge are
