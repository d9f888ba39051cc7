"""A pad that a bump stop strikes, as it is saved."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Literal

from tirante.core.document.end import End
from tirante.core.document.parts.pad import PadPart


class StrikePad(PadPart):
    """A pad on two webs where a stop lands."""

    kind: Literal["strike_pad"] = "strike_pad"

    def lost(self, ends: Mapping[str, End]) -> str | None:
        """Whether its end or that end's stop is gone."""
        end = ends.get(self.end_id)
        if end is not None and end.bump_stop is not None:
            return None
        return (
            "The suspension end whose bump stop strikes it, or that stop, is not there any more. Take it out, or undo."
        )
