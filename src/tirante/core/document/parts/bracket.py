"""Brackets as they are saved: what holds a joint, by family."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from tirante.core.document.fields import Angle, Document, Length, Name, NotNegative, Signed, Strength
from tirante.core.document.parts.saved import SavedPart


class FlatBase(Document):
    """The tab stands on a flat."""

    kind: Literal["flat"] = "flat"
    lean_deg: Annotated[float, Field(ge=-60, le=60)] = (
        0.0  # of the plates, from square to the flat, toward the bolt's own way
    )
    wall_mm: NotNegative | None = None  # of what it is welded to


class SaddleBase(Document):
    """The tab's foot is cut to stand on a round tube."""

    kind: Literal["saddle"] = "saddle"
    tube_od: Length
    angle_deg: Angle = 90.0  # between plate and tube axis
    lean_deg: Annotated[float, Field(ge=-30, le=30)] = (
        0.0  # of the plates from square to the tube's skin, toward the bolt's own way
    )
    offset_mm: Signed = 0.0  # of the bolt across the tube, from over the foot's middle
    wall_mm: NotNegative | None = None


Base = Annotated[FlatBase | SaddleBase, Field(discriminator="kind")]


class TabPair(SavedPart):
    """Two plates that hold a joint in double shear; one pair for each joint that it holds."""

    kind: Literal["tab_pair"] = "tab_pair"
    plate: Length
    grade_name: Name = "S275 plate"
    yield_mpa: Strength = 275.0
    uts_mpa: Strength = 410.0
    hole: Length
    head_radius: Length  # of the free end; half the width across the hole
    edge: Length  # hole centre to the free end along the load, at least the head radius
    base_width: Length
    height: Length  # base to hole centre
    height_fixed: bool = False  # it is where the job has it: sizing keeps it
    base: Base = FlatBase()
    weld_leg_mm: Annotated[float, Field(gt=0, le=50)] = 5.0
    load_angle_deg: Angle | None = (
        None  # pull from the tab's axis at ride height: 0 straight off the base; null: any way in its plane
    )
