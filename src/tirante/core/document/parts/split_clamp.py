"""A split clamp as it is saved: a pair of clamps round a tube, each of two halves cut from thick plate, the joint's ears on one half of each."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from tirante.core.document.fields import Angle, Length, Name, NotNegative, Positive, Strength
from tirante.core.document.parts.bracket import Extra, Lighten
from tirante.core.document.parts.saved import SavedPart

Metric = Annotated[float, Field(ge=6, le=24)]


class SplitClamp(SavedPart):
    """Two clamps, one on either side of what is held; one pair for each joint that it holds."""

    kind: Literal["split_clamp"] = "split_clamp"
    plate: Length  # of the halves, along the tube
    grade_name: Name = "S355 plate"
    yield_mpa: Strength = 355.0
    uts_mpa: Strength = 470.0
    hole: Length
    head_radius: Length
    edge: Length  # hole centre to the free end
    base_width: Length  # of the ear, where it leaves the shoulders
    tube_od: Length
    height: Length  # the tube's middle to the hole's centre
    height_fixed: bool = False
    wall_mm: NotNegative | None = None  # of the tube
    clamp_bolt_mm: Metric = 10.0
    clamp_class: Literal["8.8", "10.9", "12.9"] = "8.8"
    torque_nm: Positive | None = None  # of a clamp bolt; null: all that it is usually tightened with
    apart_mm: Positive = Field(description="mm; middle of a clamp bolt from the tube's middle")
    shoulder_mm: Positive = Field(description="mm; from the tube's middle to where nuts lie on the eared half")
    cap_mm: Positive = Field(description="mm; from the tube's middle to the back of the other half")
    gap_mm: Annotated[float, Field(ge=0.5, le=20)] = 2.0  # between the halves
    bore_mm: Annotated[float, Field(ge=0, le=5)] = 1.0  # left on the bore's radius as cut, to be bored as one
    load_angle_deg: Angle | None = None  # pull from the ears' axis at ride height; null: any way in their plane
    lighten: Lighten | None = None  # of either ear; null: none
    extra: Extra = ()  # in both ears, for something else

    @model_validator(mode="after")
    def _goes_round(self) -> SplitClamp:
        r = self.tube_od.mm / 2
        for field in ("apart_mm", "cap_mm"):
            if getattr(self, field) <= r:
                raise ValueError(f"{field}: it goes round a tube of {self.tube_od.mm:g} mm; make it more than {r:g} mm")
        if self.height.mm - self.hole.mm / 2 <= r:
            raise ValueError(f"height: the joint’s hole stands over the tube; make it more than {r + self.hole.mm / 2:g} mm")  # fmt: skip
        return self
