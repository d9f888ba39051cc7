"""A jig as it is saved: what it holds, how it lies, and what the shop builds it of."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from tirante.core.document.fields import Id, Name, NotNegative, Positive
from tirante.core.document.parts.common import Side
from tirante.core.document.parts.saved import SavedPart

Size = Annotated[float, Field(gt=0, le=500)]


class PlateJig(SavedPart):
    """A plate, or a rail of box tube, with posts and dummy bolts that hold a part of the job while it is welded."""

    kind: Literal["plate_jig"] = "plate_jig"
    side: Side = "centre"
    holds: Id  # the part
    lies: Literal["least posts", "level", "through three joints"] = "least posts"
    through: Annotated[str, Field(max_length=240)] = ""  # names of three joints, with commas between
    over: bool = False  # turned over
    datum: Annotated[str, Field(max_length=80)] = ""  # the joint that ordinates begin at; empty: the first
    base: Literal["plate and posts", "box tube and angle iron"] = "plate and posts"
    clearance_mm: Size = 30.0
    post_thick_mm: Size = 10.0
    post_wide_mm: Size = 50.0
    room_mm: NotNegative = 15.0  # for a torch, from a bead to a post
    margin_mm: Size = 40.0
    plate_mm: Positive = 12.0
    plate_name: Name = "S235 plate"
    rail_mm: Size = 60.0  # box tube, outside
    rail_wall_mm: Positive = 3.0
    pilot_mm: Size = 5.0
    datum_hole_mm: Size = 8.0
