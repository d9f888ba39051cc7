"""A folded bracket as it is saved: one plate bent to a U, its base on a flat, its two ears holding a joint in double shear."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from tirante.core.document.fields import Angle, Document, Length, Name, NotNegative, Positive, Signed, Strength
from tirante.core.document.parts.bracket import Extra, Lighten
from tirante.core.document.parts.saved import SavedPart


class BaseSlot(Document):
    """An opening in the base, for what swings between the ears; its corners round."""

    long_mm: Annotated[float, Field(ge=8, le=1000)] = 20.0  # along the bends
    wide_mm: Annotated[float, Field(ge=8, le=1000)] = 10.0  # along the bolt, as far to either side of the base's middle
    at_mm: Signed = 0.0  # of its middle from the base's, along the bends


class FoldedU(SavedPart):
    """A U folded from one plate; one for each joint that it holds."""

    kind: Literal["folded_u"] = "folded_u"
    plate: Length
    radius_mm: Positive = 5.0  # of both bends, inside
    k_factor: Annotated[float, Field(ge=0, le=0.5)] | None = None  # from the shop's own test bend; null: DIN 6935
    ratio: Annotated[float, Field(gt=0.5, le=1)] | None = (
        None  # of the angle that is left to the angle that is set, from that test
    )
    die_mm: Positive | None = None  # width of the die's opening; null: eight times the plate
    punch_mm: Positive | None = None  # thickness of the straight punch’s body; null: a usual one
    grade_name: Name = "S275 plate"
    yield_mpa: Strength = 275.0
    uts_mpa: Strength = 410.0
    hole: Length
    ream_mm: Annotated[float, Field(ge=0, le=5)] = (
        0.0  # that its hole is cut under size by, and reamed in line after welding
    )
    head_radius: Length
    edge: Length  # hole centre to the free end
    base_width: Length  # of the base, along the bends
    skew_deg: Annotated[float, Field(ge=-45, le=45)] = (
        0.0  # of the base's free edges from square to its bends: a parallelogram; + toward the foot's way along the bolt's
    )
    follows: bool = False  # whether those edges lie along the member's
    height: Length  # what it stands on, to the hole's centre
    height_fixed: bool = False
    wall_mm: NotNegative | None = None  # of what it is welded to
    weld_leg_mm: Annotated[float, Field(gt=0, le=50)] = 5.0
    load_angle_deg: Angle | None = None
    lighten: Lighten | None = None  # of either ear; null: none
    extra: Extra = ()  # in both ears, for something else
    slot: BaseSlot | None = None  # in its base; null: none
