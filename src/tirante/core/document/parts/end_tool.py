"""What tools of a suspension end are saved with: a hub stand, a dummy damper."""

from __future__ import annotations

from collections.abc import Mapping

from tirante.core.document.end import End
from tirante.core.document.fields import Id
from tirante.core.document.parts.common import Side
from tirante.core.document.parts.saved import SavedPart


class EndTool(SavedPart):
    """A tool that is made for an end."""

    side: Side = "pair"
    end_id: Id

    @property
    def of_end(self) -> str | None:
        """The end that it is made for."""
        return self.end_id

    def lost(self, ends: Mapping[str, End]) -> str | None:
        """Whether its end is gone."""
        if self.end_id in ends:
            return None
        return "The suspension end that it was made for is not there any more. Take it out, or undo."
