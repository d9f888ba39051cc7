"""A strap tab as it is saved: a strip of plate bent half round a tube, both its ends ears that hold a joint in double shear."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from tirante.core.document.fields import Angle, Length, Name, NotNegative, Strength
from tirante.core.document.parts.bracket import Extra, Lighten
from tirante.core.document.parts.saved import SavedPart


class StrapTab(SavedPart):
    """A strap over a tube; one for each joint that it holds."""

    kind: Literal["strap_tab"] = "strap_tab"
    plate: Length
    grade_name: Name = "S275 plate"
    yield_mpa: Strength = 275.0
    uts_mpa: Strength = 410.0
    hole: Length
    ream_mm: Annotated[float, Field(ge=0, le=5)] = (
        0.0  # that its hole is cut under size by, and reamed in line after welding
    )
    head_radius: Length
    edge: Length  # hole centre to the free end
    base_width: Length  # of the strap, along the tube
    tube_od: Length  # that it is bent round; its ears stand as far apart
    height: Length  # the tube's middle to the hole's centre
    height_fixed: bool = False
    k_factor: Annotated[float, Field(ge=0, le=0.5)] | None = None  # from the shop's own test bend; null: DIN 6935
    ratio: Annotated[float, Field(gt=0.5, le=1)] | None = (
        None  # of the angle that is left to the angle that is set, from that test
    )
    wall_mm: NotNegative | None = None  # of the tube
    weld_leg_mm: Annotated[float, Field(gt=0, le=50)] = 5.0
    load_angle_deg: Angle | None = None  # pull from the ears' axis at ride height; null: any way in their plane
    lighten: Lighten | None = None  # of either ear; null: none
    extra: Extra = ()  # in both ears, for something else

    @property
    def radius_mm(self) -> float:
        """Of its bend, inside [mm]."""
        return self.tube_od.mm / 2
