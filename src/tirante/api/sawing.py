"""The saw's list laid out on sticks."""

from __future__ import annotations

from typing import Annotated

from flask import Blueprint
from pydantic import BaseModel, Field

from tirante.api.context import services, worked
from tirante.api.designs import DesignIn
from tirante.api.routing import operation
from tirante.core.cutting.cut_list import cut_list
from tirante.core.cutting.from_rack import TubeCut, from_rack, told
from tirante.core.cutting.sticks import Saw
from tirante.core.cutting.sticks_view import sticks_sheet
from tirante.core.drawing.model import Drawing
from tirante.core.parts.numbers import numbers_of
from tirante.core.quantities import Unit
from tirante.storage import rack

blueprint = Blueprint("sawing", __name__)
Short = Annotated[float, Field(ge=0, le=500, allow_inf_nan=False)]


class SticksIn(DesignIn):
    """A job to be sawn, and the saw."""

    stock_mm: Annotated[float, Field(gt=0, le=100_000, allow_inf_nan=False, description="length of a new stick")]
    kerf_mm: Short
    trim_start_mm: Short
    trim_end_mm: Short
    unit: Unit = "mm"


class WishOut(BaseModel):
    """What comes after the number of sticks."""

    name: str
    unit: str
    value: float
    bound: float = Field(description="no layout of that number betters it")
    proven: bool


class TubeCutOut(BaseModel):
    """One tube laid out; without a drawing where it was not, and why."""

    tube: str
    grade: str
    new: int
    bound: int
    proven: bool
    told: str
    fault: str
    wishes: list[WishOut]
    left_out: list[str] = Field(description="of the rack, and why")
    pieces: list[str] = Field(description="in the order of cutting, numbered from 1: what each is for")
    lengths_mm: list[float] = Field(description="of the same pieces")
    drawing: Drawing | None


class SticksOut(BaseModel):
    """Every tube of the saw's list."""

    tubes: list[TubeCutOut]


@operation(blueprint, "POST", "/api/sticks", body=SticksIn, answer=SticksOut)
def lay_out_on_sticks(data: SticksIn) -> SticksOut:
    """Every tube of the saw's list on what stands on the rack and on as few new sticks as can be."""
    job = worked(data.design)
    with services().database.transaction() as connection:
        rows = [row for row, _ in rack.rows(connection)]
    saw = Saw(kerf=data.kerf_mm, trim_start=data.trim_start_mm, trim_end=data.trim_end_mm)
    with services().long.enter():
        found = from_rack(cut_list(job.parts).pieces, rows, data.stock_mm, saw)
    return SticksOut(tubes=[_out(one, data) for one in found])


def _out(one: TubeCut, data: SticksIn) -> TubeCutOut:
    found = one.cutting
    return TubeCutOut(
        tube=one.tube, grade=one.grade, new=found.new if found else 0, bound=found.bound if found else 0, proven=bool(found and found.proven),
        told=told(one), fault=one.fault, left_out=list(one.left_out),
        wishes=[WishOut(name=w.name, unit=w.unit, value=w.value, bound=w.bound, proven=w.proven) for w in (found.wishes if found else ())],
        pieces=[one.names[piece] for stick in (found.sticks if found else ()) for piece in stick.pieces],
        lengths_mm=[piece for stick in (found.sticks if found else ()) for piece in stick.pieces],
        drawing=sticks_sheet(one, numbers_of(data.design.settings, data.unit)),
    )  # fmt: skip
