"""A bracket bar as it is saved."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from tirante.core.document.fields import Id, Name, Positive
from tirante.core.document.parts.common import Side
from tirante.core.document.parts.saved import SavedPart


class BracketBar(SavedPart):
    """Dummy bars through the brackets on a member of the car, held by plates round it."""

    kind: Literal["bracket_bar"] = "bracket_bar"
    side: Side = "centre"
    mount: Id
    plate_mm: Positive = 8.0
    edge_mm: Positive = Field(default=20.0, description="of plate round its holes")
    plate_name: Name = "S235 plate"
