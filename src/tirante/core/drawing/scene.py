"""The 3D scene of an end: solids in their place at ride height, each in a group, and where every group is on the way.

Like the drawings it is made here and only shown elsewhere: a page moves groups, it works out no geometry.
"""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

ScenePoint = tuple[float, float, float]
Tone = Literal["steel", "joint", "tyre", "obstacle", "ghost", "member", "bracket"]


class Solid(BaseModel):
    """Base of the scene's solids."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    group: str
    ref: str | None = None
    tone: Tone = "steel"


class Cylinder(Solid):
    """A round bar between two points [mm]."""

    kind: Literal["bar"] = "bar"
    a: ScenePoint
    b: ScenePoint
    radius: float


class Ball(Solid):
    """A ball; `point` names the design's point that it stands for, which can be dragged."""

    kind: Literal["ball"] = "ball"
    at: ScenePoint
    radius: float
    point: str | None = None


class Ring(Solid):
    """A tyre: a ring about an axis."""

    kind: Literal["ring"] = "ring"
    at: ScenePoint
    axis: ScenePoint
    radius: float  # outer
    width: float


class Box(Solid):
    """A block along the axes of the car."""

    kind: Literal["box"] = "box"
    low: ScenePoint
    high: ScenePoint


class Plate(Solid):
    """A flat piece: its outline and holes in its own plane, standing in the car; half of its thickness lies to either side of that plane [mm]."""

    kind: Literal["plate"] = "plate"
    outline: tuple[tuple[float, float], ...]
    holes: tuple[tuple[tuple[float, float], ...], ...] = ()  # their outlines
    at: ScenePoint  # where the outline's zero is
    x: ScenePoint  # its axes in the car, length 1
    y: ScenePoint
    thickness: float


Shape = Annotated[Cylinder | Ball | Ring | Box | Plate, Field(discriminator="kind")]


class Scene(BaseModel):
    """Solids, and for every place of the travel a matrix for each group (rows of 3 × 4, mm)."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    solids: tuple[Shape, ...]
    travel: tuple[float, ...]
    groups: dict[str, tuple[tuple[float, ...] | None, ...]]  # None: not reached there
    low: ScenePoint  # of all of it at ride height
    high: ScenePoint
