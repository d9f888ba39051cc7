"""A single tab as it is saved: one plate on its edge that goes between the ears of a clevis."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from tirante.core.document.fields import Angle, Length, Name, Strength
from tirante.core.document.parts.bracket import Extra, FlatBase, Lighten, SaddleBase
from tirante.core.document.parts.saved import SavedPart

SingleBase = Annotated[FlatBase | SaddleBase, Field(discriminator="kind")]


class SingleTab(SavedPart):
    """One plate between a clevis's ears; one for each clevis that it holds."""

    kind: Literal["single_tab"] = "single_tab"
    plate: Length
    grade_name: Name = "S355 plate"
    yield_mpa: Strength = 355.0
    uts_mpa: Strength = 470.0
    hole: Length
    ream_mm: Annotated[float, Field(ge=0, le=5)] = 0.0  # that its hole is cut under size by, and reamed after welding
    head_radius: Length  # of the free end; half the width across the hole
    edge: Length  # hole centre to the free end, at least the head radius
    base_width: Length
    height: Length  # base to hole centre
    height_fixed: bool = False  # it is where the job has it: sizing keeps it
    base: SingleBase = FlatBase()
    lighten: Lighten | None = None  # null: none
    extra: Extra = ()  # for something else
    weld_leg_mm: Annotated[float, Field(gt=0, le=50)] = 5.0
    load_angle_deg: Angle | None = None  # pull from the tab's axis at ride height; null: any way in its plane
