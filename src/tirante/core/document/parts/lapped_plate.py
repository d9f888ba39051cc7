"""A plate that lies on a face and holds a joint in single shear, as it is saved."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from tirante.core.document.fields import Angle, Length, Name, NotNegative, Positive, Strength
from tirante.core.document.parts.bracket import Extra, Lighten
from tirante.core.document.parts.saved import SavedPart


class LappedPlate(SavedPart):
    """One plate lapped on a face, straight, joggled off it, or hooked over the edge behind it; one for each joint that it holds."""

    kind: Literal["lapped_plate"] = "lapped_plate"
    plate: Length
    grade_name: Name = "S355 plate"
    yield_mpa: Strength = 355.0
    uts_mpa: Strength = 470.0
    hole: Length
    head_radius: Length
    edge: Length  # hole centre to the free end
    base_width: Length  # of the plate, across it
    height: Length  # where it leaves what it lies on, to the hole's centre, along it, folded
    height_fixed: bool = False  # it is where the job has it: sizing keeps it
    corner_mm: NotNegative = 0.0  # radius of the corners of its far end; 0: sharp
    foot_mm: Positive = 60.0  # that it lies on what it is welded to
    offset_mm: NotNegative = 0.0  # that a joggle sets it off by, face to the same face
    bend_deg: Annotated[float, Field(ge=10, le=90)] = 45.0  # of either of the joggle's bends
    flange_mm: NotNegative = 0.0  # hooked over the edge behind the foot, outside; 0: none
    radius_mm: Positive = 5.0  # of every bend, inside
    k_factor: Annotated[float, Field(ge=0, le=0.5)] | None = None  # from the shop's own test bend; null: DIN 6935
    ratio: Annotated[float, Field(gt=0.5, le=1)] | None = None  # of the angle left to the angle set, from that test
    die_mm: Positive | None = None  # width of the die's opening; null: eight times the plate
    wall_mm: NotNegative | None = None  # of what it is welded to
    weld_leg_mm: Annotated[float, Field(gt=0, le=50)] = 5.0
    load_angle_deg: Angle | None = None  # pull from the plate's axis at ride height; null: any way in its plane
    lighten: Lighten | None = None  # of it, between its hole and what it lies on; null: none
    extra: Extra = ()  # in it, for something else
