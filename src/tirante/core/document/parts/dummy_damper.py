"""A dummy damper as it is saved."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated, Literal

from pydantic import Field

from tirante.core.document.end import End
from tirante.core.document.fields import Id, Name, NotNegative, Positive
from tirante.core.document.parts.common import Side
from tirante.core.document.parts.saved import SavedPart


class DummyDamper(SavedPart):
    """Flat bar in a damper's place, with holes for bump, ride and droop."""

    kind: Literal["dummy_damper"] = "dummy_damper"
    side: Side = "pair"
    end_id: Id
    damper: Annotated[str, Field(max_length=80)] = "damper"  # as the end calls it
    bump_mm: NotNegative = 60.0  # of the wheel, over ride height
    droop_mm: NotNegative = 60.0
    hole_mm: Positive | None = Field(default=None, description="null: as the eyes’ bores")
    width_mm: Positive = 40.0
    plate_mm: Positive = 8.0
    plate_name: Name = "S235 flat bar"

    @property
    def of_end(self) -> str | None:
        """The end whose damper it stands for."""
        return self.end_id

    def lost(self, ends: Mapping[str, End]) -> str | None:
        """Whether its end is gone."""
        return (
            None
            if self.end_id in ends
            else "The suspension end that it was made for is not there any more. Take it out, or undo."
        )
