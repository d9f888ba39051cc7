"""A seat for a spring that stands by itself, as it is saved."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Literal

from pydantic import model_validator

from tirante.core.document.end import End
from tirante.core.document.fields import Positive
from tirante.core.document.parts.pad import PadPart


class SpringSeat(PadPart):
    """A pad on two webs that an air spring or a coil stands on: drilled for what bolts it on, or with a ring that keeps a coil on it."""

    kind: Literal["spring_seat"] = "spring_seat"
    seat_mm: Positive = 120.0  # diameter that the spring presses on
    stud_mm: Positive | None = None  # thread of what bolts it on; null: nothing does
    pitch_mm: Positive | None = None  # between two of them, along the webs; null: one, in the middle
    port_mm: Positive | None = None  # hole in the middle for air
    ring_mm: Positive | None = None  # outside diameter of a ring that a coil stands round; null: none
    ring_high_mm: Positive = 12.0
    ring_wall_mm: Positive = 4.0

    def lost(self, ends: Mapping[str, End]) -> str | None:
        """Whether its end is gone."""
        if self.end_id in ends:
            return None
        return "The suspension end whose spring stands on it is not there any more. Take it out, or undo."

    @model_validator(mode="after")
    def _drilled(self) -> SpringSeat:
        if self.pitch_mm is not None and self.stud_mm is None:
            raise ValueError("pitch_mm: say which thread stands at it, or clear it")
        if self.port_mm is not None and self.stud_mm is not None and self.pitch_mm is None:
            raise ValueError(
                "port_mm: a single stud stands in the middle, where the hole for air would be; give two studs, or clear it"
            )
        if self.ring_mm is not None and self.ring_mm <= 2 * self.ring_wall_mm:
            raise ValueError("ring_mm: the ring is no wider than its two walls")
        if self.ring_mm is not None and self.ring_mm >= self.seat_mm:
            raise ValueError("ring_mm: the coil stands round the ring; make it less than what the spring presses on")
        return self
