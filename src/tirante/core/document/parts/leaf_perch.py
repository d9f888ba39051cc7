"""A leaf's seat on an axle, as it is saved."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated, Literal

from pydantic import Field, model_validator

from tirante.core.document.end import End
from tirante.core.document.fields import NotNegative, Positive
from tirante.core.document.parts.pad import PadPart

Metric = Annotated[float, Field(ge=6, le=30)]


class LeafPerch(PadPart):
    """A seat on two webs along the axle, the leaf clamped on it by two U-bolts round the axle and a plate over the leaf."""

    kind: Literal["leaf_perch"] = "leaf_perch"
    leaf_mm: Positive = 60.0  # how wide the leaves are
    stack_mm: Positive = 30.0  # how thick all leaves are at the seat
    line_mm: NotNegative = 26.0  # from the seat to the main leaf's middle, which the end's points lie on
    u_bolt_mm: Metric = 12.0
    u_class: Literal["8.8", "10.9"] = "8.8"
    tie_mm: Metric = 10.0  # the leaf's own bolt
    tie_class: Literal["8.8", "10.9", "12.9"] = "8.8"
    head_mm: Positive = 17.0  # hole in the seat for that bolt's head
    top_mm: Positive = 12.0  # plate over the leaf

    def lost(self, ends: Mapping[str, End]) -> str | None:
        """Whether its end is gone."""
        if self.end_id in ends:
            return None
        return "The suspension end whose leaf it seats is not there any more. Take it out, or undo."

    @model_validator(mode="after")
    def _seats(self) -> LeafPerch:
        if self.length_mm > self.leaf_mm:
            raise ValueError(
                "length_mm: the U-bolts pass beside the leaf; make the seat no longer than the leaf is wide"
            )
        if self.head_mm <= self.tie_mm:
            raise ValueError("head_mm: the head of the tie bolt is wider than the bolt")
        return self
