"""What is written down with a step that is ticked: who did it, from what, and what there is to say."""

from __future__ import annotations

from pydantic import Field

from tirante.core.document.fields import Document, Note, Said


class Told(Document):
    """Written down with a step; empty where nothing was."""

    who: Said = ""
    heat: Said = Field(default="", description="heat or batch of the stock")
    filler: Said = Field(default="", description="filler and its batch")
    welder: Said = ""
    note: Note = ""

    @property
    def nothing(self) -> bool:
        """Whether nothing was written down."""
        return self == Told()


NOTHING = Told()
