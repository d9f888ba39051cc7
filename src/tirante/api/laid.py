"""What came of laying out a job: on sticks, on sheets. Asked for as a task (`sawing`), done by the worker, kept from its result."""

from __future__ import annotations

from collections.abc import Callable
from time import monotonic
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

from tirante.api.designs import DesignIn
from tirante.core.cutting.cut_list import cut_list
from tirante.core.cutting.from_rack import TubeCut, from_rack, told
from tirante.core.cutting.kept import keep
from tirante.core.cutting.on_sheets import Asked, PlateNest, keep_nest, on_sheets, plates_of
from tirante.core.cutting.on_sheets import told as told_sheets
from tirante.core.cutting.sheets import Sheet, Turns
from tirante.core.cutting.sheets_view import sheet_drawing, sheet_title
from tirante.core.cutting.sticks import Saw
from tirante.core.cutting.sticks_view import sticks_sheet
from tirante.core.document.cutting import KeptCutting, KeptNest
from tirante.core.document.fields import Id
from tirante.core.document.rack import RackRow
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Numbers
from tirante.core.job.worked import Worked
from tirante.core.parts.numbers import numbers_of
from tirante.core.quantities import Unit

Short = Annotated[float, Field(ge=0, le=500, allow_inf_nan=False)]
Long = Annotated[float, Field(gt=0, le=100_000, allow_inf_nan=False)]
Step = Callable[[int, int], bool]
TaskId = Annotated[Id, Field(description="of the task, made by the client: the same again gives the same task")]


class SticksIn(DesignIn):
    """A job to be sawn, and the saw."""

    id: TaskId
    job_id: Id
    stock_mm: Annotated[Long, Field(description="length of a new stick")]
    kerf_mm: Short
    trim_start_mm: Short
    trim_end_mm: Short
    hold_mm: Annotated[
        Short, Field(description="that the saw's vice holds at least; shorter pieces are sawn first")
    ] = 60.0
    share: Annotated[
        bool,
        Field(description="whether like notches are parted by one pass of the hole saw, where there is room for it"),
    ] = False
    unit: Unit = "mm"


class SheetsIn(DesignIn):
    """A job whose plates are to be cut, and how they are to lie."""

    id: TaskId
    job_id: Id
    length_mm: Annotated[Long, Field(description="of a new sheet, along its grain")]
    width_mm: Long
    spacing_mm: Short
    edge_mm: Short
    turns: Turns = "quarter"
    across: Annotated[bool, Field(description="whether bends lie across the grain")] = True
    seconds: Annotated[
        float, Field(ge=1, le=120, allow_inf_nan=False, description="that the search of one thickness may take")
    ] = 10.0
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


class LaidSheetOut(BaseModel):
    """A sheet with what is cut from it."""

    title: str
    plates: int
    left_mm: float = Field(description="length of the whole rectangle that is left; 0: none")
    width_mm: float
    drawing: Drawing


class PlateOut(BaseModel):
    """A plate, numbered from 1 in the drawings."""

    what: str
    count: int
    blank: bool


class PlateNestOut(BaseModel):
    """The plates of one thickness and material laid out; without sheets where they were not, and why."""

    material: str
    thickness_mm: float
    new: int
    bound: int
    told: str
    fault: str
    left_out: list[str] = Field(description="of the rack, and why")
    plates: list[PlateOut]
    sheets: list[LaidSheetOut]


class NoPlateOut(BaseModel):
    """A part whose plates are not among it."""

    part_id: str
    name: str
    why: str


class SticksOut(BaseModel):
    """Every tube of the saw's list."""

    tubes: list[TubeCutOut]
    kept: list[KeptCutting | None] = Field(description="what is kept of each; none where it was not laid out")


class SheetsOut(BaseModel):
    """Every thickness of a job's plates."""

    nests: list[PlateNestOut]
    left_out: list[NoPlateOut]
    kept: list[KeptNest | None]


class KeepIn(BaseModel):
    """Which of what came of a task is kept; the layout's id made by the client."""

    model_config = ConfigDict(extra="forbid", strict=True)
    id: Id
    task_id: Id
    index: Annotated[int, Field(ge=0, le=10_000)]


def sticks_of(job: Worked, rows: list[RackRow], data: SticksIn, revision: str, step: Step) -> SticksOut:
    """Every tube of the saw's list on what stands on the rack and on as few new sticks as can be.

    Args:
        job: worked out.
        rows: of the rack.
        data: what was asked.
        revision: of the job, in words.
        step: told how far it is; it answers whether to go on.
    """
    saw = Saw(kerf=data.kerf_mm, trim_start=data.trim_start_mm, trim_end=data.trim_end_mm)
    pieces = cut_list(job.parts, catalogue=job.catalogue).pieces
    found = from_rack(pieces, rows, data.stock_mm, saw, step, data.hold_mm, data.share)
    numbers = numbers_of(job.settings, data.unit)
    return SticksOut(
        tubes=[_tube(one, numbers) for one in found],
        kept=[keep(one, job.design.name, revision, job.parts) if one.cutting else None for one in found],
    )


def _tube(one: TubeCut, numbers: Numbers) -> TubeCutOut:
    found = one.cutting
    return TubeCutOut(
        tube=one.tube, grade=one.grade, new=found.new if found else 0, bound=found.bound if found else 0, proven=bool(found and found.proven),
        told=told(one), fault=one.fault, left_out=list(one.left_out),
        wishes=[WishOut(name=w.name, unit=w.unit, value=w.value, bound=w.bound, proven=w.proven) for w in (found.wishes if found else ())],
        pieces=[one.names[piece] for stick in (found.sticks if found else ()) for piece in stick.pieces],
        lengths_mm=[piece for stick in (found.sticks if found else ()) for piece in stick.pieces],
        drawing=sticks_sheet(one, numbers),
    )  # fmt: skip


def sheets_of(job: Worked, rows: list[RackRow], data: SheetsIn, revision: str, step: Step) -> SheetsOut:
    """Every thickness of a job's plates on what the rack holds and on as few new sheets as are found.

    Args:
        job: worked out.
        rows: of the rack.
        data: what was asked.
        revision: of the job, in words.
        step: told how far it is; it answers whether to go on.
    """
    asked = Asked(
        new=Sheet(length=data.length_mm, width=data.width_mm, count=None), spacing=data.spacing_mm, edge=data.edge_mm, turns=data.turns,
        across=data.across, seconds=data.seconds,
    )  # fmt: skip
    plates, left_out = plates_of(job.parts)
    found = on_sheets(plates, rows, asked, monotonic, step)
    kept = [keep_nest(one, asked, job.design.name, revision, job.parts) if one.nest else None for one in found]
    numbers = numbers_of(job.settings, data.unit)
    return SheetsOut(
        nests=[_nest(one, own, asked, numbers) for one, own in zip(found, kept, strict=True)],
        left_out=[NoPlateOut(part_id=one.part_id, name=one.name, why=one.why) for one in left_out], kept=kept,
    )  # fmt: skip


def _nest(one: PlateNest, kept: KeptNest | None, asked: Asked, numbers: Numbers) -> PlateNestOut:
    return PlateNestOut(
        material=one.material, thickness_mm=one.thickness, new=one.nest.new if one.nest else 0, bound=one.nest.bound if one.nest else 0,
        told=told_sheets(one, asked), fault=one.fault, left_out=list(one.left_out),
        plates=[PlateOut(what=plate.what, count=plate.count, blank=plate.blank) for plate in one.plates],
        sheets=shown_sheets(kept, numbers) if kept else [],
    )  # fmt: skip


def shown_sheets(kept: KeptNest, numbers: Numbers) -> list[LaidSheetOut]:
    """The sheets of a layout as they are shown.

    Args:
        kept: the layout.
        numbers: how lengths are written.
    """
    return [
        LaidSheetOut(title=sheet_title(kept, n), plates=len(sheet.placed), left_mm=sheet.left_mm, width_mm=sheet.width_mm, drawing=sheet_drawing(kept, n, numbers))
        for n, sheet in enumerate(kept.sheets)
    ]  # fmt: skip
