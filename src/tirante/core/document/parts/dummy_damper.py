"""A dummy damper as it is saved."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from tirante.core.document.fields import Name, NotNegative, Positive
from tirante.core.document.parts.end_tool import EndTool


class DummyDamper(EndTool):
    """Flat bar in a damper's place, with holes for bump, ride and droop."""

    kind: Literal["dummy_damper"] = "dummy_damper"
    damper: Annotated[str, Field(max_length=80)] = "damper"  # as the end calls it
    bump_mm: NotNegative = 60.0  # of the wheel, over ride height
    droop_mm: NotNegative = 60.0
    hole_mm: Positive | None = Field(default=None, description="null: as the eyes’ bores")
    width_mm: Positive = 40.0
    plate_mm: Positive = 8.0
    plate_name: Name = "S235 flat bar"
