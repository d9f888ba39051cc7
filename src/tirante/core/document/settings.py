"""The shop's choices: units, school, factors, tolerances."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from tirante.core.document.fields import (
    Document,
    Factor,
    Length,
    NotNegative,
    Strength,
)

School = Literal["centred", "buried", "exposure"]


Hand = Literal["RH", "LH"]


class DesignFactors(Document):
    """What loads are multiplied by before each check; common practice, editable."""

    yielding: Factor = 1.5
    column: Factor = 2.0
    strip: Factor = 2.0
    joint: Factor = 2.0
    tab_yield: Factor = 1.67
    tab_rupture: Factor = 2.0
    bolt: Factor = 2.0
    weld: Factor = 2.0


class Settings(Document):
    """The shop's choices."""

    units: Literal["mm", "in"] = "mm"
    decimals: Annotated[int, Field(ge=0, le=3)] = 1
    inch_denominator: Literal[16, 32, 64] = 32
    school: School = "centred"
    showing: Length | None = None
    left_hand_end: Literal["a", "b"] = "b"
    projection: Literal["first", "third"] = "first"
    factors: DesignFactors = DesignFactors()
    joint_friction: Annotated[float, Field(ge=0, le=1)] = (
        0.15  # of a ball in its race, lined or greased; dry 0.3; common practice
    )
    electrode_uts_mpa: Strength = 483.0  # 70 ksi class; from memory
    saw_kerf_mm: NotNegative = 2.0
    check_tolerance_mm: Annotated[float, Field(gt=0, le=20)] = 0.5
    weld_shrink_mm: Annotated[float, Field(ge=0, le=5)] = 0.0
