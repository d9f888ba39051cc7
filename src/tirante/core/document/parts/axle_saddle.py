"""An axle saddle or truss as it is saved: the plates of a box that stands on a round member of the car, with brackets on it."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from tirante.core.document.fields import Id, Name, Strength
from tirante.core.document.parts.common import Side
from tirante.core.document.parts.saved import SavedPart


class AxleSaddle(SavedPart):
    """Two sides along a tube and a cap over them; the box is a mount of the job, entered where it stands, and as thick as its wall."""

    kind: Literal["axle_saddle"] = "axle_saddle"
    side: Side = "centre"
    box: Id  # the mount whose plates these are
    tube: Id | None = None  # the mount that they stand on; null: the round one under it that runs along it
    closed: bool = True  # whether plates close its ends, cut to the tube
    leg_mm: Annotated[float, Field(gt=0, le=50)] = 5.0
    plate_name: Name = "S355 plate"
    yield_mpa: Strength = 355.0
    uts_mpa: Strength = 470.0
