"""The topic of sticks cut to a list."""

from __future__ import annotations

from typing import Annotated, Any

from pydantic import Field

from tirante.calc.fields import Input, Mm, MmOrZero
from tirante.calc.registry import Working, step, topic
from tirante.core.cutting.sticks import Saw, cut_sticks, set_ups

Many = Annotated[int, Field(ge=0, le=2000)]


class SticksInput(Input):
    stock_mm: Mm = Field(description="mm; length of a new stick")
    kerf_mm: MmOrZero = 0.0
    trim_start_mm: MmOrZero = Field(default=0.0, description="mm; cut off every stick's first end")
    trim_end_mm: MmOrZero = Field(default=0.0, description="mm; of its last end, that is not used")
    pieces: list[tuple[Mm, Many]] = Field(min_length=1, max_length=400, description="[length_mm, quantity]")
    offcuts: list[tuple[Mm, Many]] = Field(default=[], max_length=400, description="[length_mm, quantity], used first")


@topic(
    "sticks",
    SticksInput,
    outputs={
        "sticks": "new ones", "bound": "fewer new ones are not possible", "proven": "whether sticks is the bound", "set_ups": "how often the stop is set",
        "layout": "of each stick in the order of cutting, offcuts first: length_mm, new, pieces_mm, left_mm behind the last cut",
        "wishes": "what comes after the number: name, value, bound, proven",
    },
    example={"stock_mm": 6000, "kerf_mm": 3, "trim_start_mm": 10, "trim_end_mm": 30, "pieces": [[820, 4], [600, 6], [1450, 2]], "offcuts": [[1700, 1]]},
    sources=("geometry", "gilmore-gomory"),
)  # fmt: skip
def run_sticks(data: SticksInput) -> tuple[dict[str, Any], Working]:
    """The fewest new sticks for a list of pieces, offcuts first, with its proof or its bound."""
    saw = Saw(kerf=data.kerf_mm, trim_start=data.trim_start_mm, trim_end=data.trim_end_mm)
    found = cut_sticks(data.stock_mm, data.pieces, saw, data.offcuts)
    total = sum(length * count for length, count in data.pieces)
    out = {
        "sticks": found.new, "proven": found.proven, "bound": found.bound, "set_ups": set_ups(found.sticks),
        "layout": [{"length_mm": one.length, "new": one.new, "pieces_mm": list(one.pieces), "left_mm": one.left} for one in found.sticks],
        "wishes": [{"name": one.name, "value": one.value, "bound": one.bound, "proven": one.proven} for one in found.wishes],
    }  # fmt: skip
    return out, [
        step("a stick", "Σ L + (n − 1) kerf ≤ stock − trims", "geometry", room_mm=saw.room(data.stock_mm) - saw.kerf, pieces_mm=total),
        step("fewest new sticks", "the linear program over all patterns, rounded up; met by what is packed", "gilmore-gomory", sticks=found.new, bound=found.bound),
    ]  # fmt: skip
