"""A pad that a bar's bearing is bolted to, as it is saved."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Literal

from tirante.core.document.end import End
from tirante.core.document.fields import Id
from tirante.core.document.parts.pad import PadPart


class BearingPad(PadPart):
    """A pad on two webs under a bearing with two bolts; what it is drilled for is the own affair of what lies on it."""

    kind: Literal["bearing_pad"] = "bearing_pad"
    bar: Id  # the part that lies in it: a bar, a rack

    @property
    def lies_under(self) -> str | None:
        """What is bolted down on it."""
        return self.bar

    def lost(self, ends: Mapping[str, End]) -> str | None:
        """Whether its end is gone."""
        if self.end_id in ends:
            return None
        return "The suspension end whose bar or rack it holds is not there any more. Take it out, or undo."
