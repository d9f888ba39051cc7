"""A set jig as it is saved."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from tirante.core.document.fields import Name, NotNegative, Positive
from tirante.core.document.parts.common import Side
from tirante.core.document.parts.saved import SavedPart


class SetJig(SavedPart):
    """A bar with a fixed pair of posts and a pair on a carriage, for a range of links."""

    kind: Literal["set_jig"] = "set_jig"
    side: Side = "centre"
    gap_mm: Positive | None = Field(default=None, description="between the posts of a pair; null: as the widest asks")
    clearance_mm: Positive = 25.0
    margin_mm: Positive = 30.0
    plate_mm: Positive = 12.0
    post_thick_mm: Positive = 12.0
    clamp_mm: Positive = 10.5  # slots, for the carriage's bolts
    pilot_mm: Positive = 8.5
    up_to_mm: NotNegative = Field(default=0.0, description="longer links that it is to take some day; 0: none")
    plate_name: Name = "S235 plate"
