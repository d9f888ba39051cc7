"""Drawing primitives on a sheet: millimetres, x right, y up, origin at the lower left.

A view is placed on its sheet at a scale when it is built, so that screen, SVG, PDF and DXF draw the same numbers. Each
item may name what it shows in `ref` ("dim:tube_cut", "check:joint", "field:between"), so that picking works everywhere.
"""

from __future__ import annotations

from math import cos, radians, sin
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

Style = Literal["visible", "thin", "hidden", "centre", "dimension", "hatch", "cut", "mark", "bend"]
Tone = Literal["ink", "muted", "blue", "amber", "red"]
Fill = Literal["none", "steel", "pale", "thread", "solid", "sheet", "blue"]
Anchor = Literal["start", "middle", "end"]


class Item(BaseModel):
    """Base of all primitives."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    ref: str | None = None


class Line(Item):
    """A straight line."""

    kind: Literal["line"] = "line"
    x1: float
    y1: float
    x2: float
    y2: float
    style: Style = "visible"
    tone: Tone = "ink"


class Arc(Item):
    """A circular arc, counter-clockwise from start to end; 0 to 360 is a full circle."""

    kind: Literal["arc"] = "arc"
    cx: float
    cy: float
    r: float
    start_deg: float = 0.0
    end_deg: float = 360.0
    style: Style = "visible"
    tone: Tone = "ink"
    fill: Fill = "none"

    @property
    def full(self) -> bool:
        """Whether it is a whole circle."""
        return abs(self.end_deg - self.start_deg) >= 360 - 1e-9

    def point(self, angle_deg: float) -> tuple[float, float]:
        """A point on it."""
        return self.cx + self.r * cos(radians(angle_deg)), self.cy + self.r * sin(radians(angle_deg))


class Area(Item):
    """A filled polygon with straight sides."""

    kind: Literal["area"] = "area"
    points: tuple[tuple[float, float], ...]
    fill: Fill = "none"
    style: Style | None = "visible"
    tone: Tone = "ink"


class Text(Item):
    """A line of text; y is its baseline, size its height of capitals over 0.7."""

    kind: Literal["text"] = "text"
    x: float
    y: float
    text: str
    size: float = 3.0
    anchor: Anchor = "start"
    tone: Tone = "ink"
    mono: bool = False
    bold: bool = False
    angle_deg: float = 0.0


Primitive = Annotated[Line | Arc | Area | Text, Field(discriminator="kind")]


class Drawing(BaseModel):
    """A sheet of primitives."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    name: str
    title: str
    width: float  # [mm]
    height: float  # [mm]
    scale: float  # of the main view, sheet over part
    items: tuple[Primitive, ...]
