"""The saw's list laid out on sticks."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Annotated

from flask import Blueprint
from pydantic import BaseModel, ConfigDict, Field

from tirante.api.context import now, services, worked
from tirante.api.designs import DesignIn
from tirante.api.problems import Refused
from tirante.api.routing import operation
from tirante.core.cutting.cut_list import cut_list
from tirante.core.cutting.from_rack import TubeCut, from_rack, told
from tirante.core.cutting.kept import RackChange, confirmed, keep, taken_back
from tirante.core.cutting.sticks import Saw
from tirante.core.cutting.sticks_view import sticks_sheet
from tirante.core.document.cutting import KeptCutting
from tirante.core.document.fields import Id
from tirante.core.document.rack import RackRow
from tirante.core.drawing.model import Drawing
from tirante.core.errors import InputError
from tirante.core.parts.numbers import numbers_of
from tirante.core.quantities import Unit
from tirante.storage import cuttings, drafts, rack
from tirante.storage.drafts import NotFound

blueprint = Blueprint("sawing", __name__)
Rule = Callable[[KeptCutting, Sequence[RackRow]], RackChange]
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


class KeepIn(SticksIn):
    """One tube of a job, to be kept as it is laid out; its id made by the client."""

    id: Id
    tube: Annotated[str, Field(max_length=200)]
    grade: Annotated[str, Field(max_length=200)]


class ConfirmIn(BaseModel):
    """That it is cut: ids for what is left, made by the client."""

    model_config = ConfigDict(extra="forbid", strict=True)
    ids: Annotated[list[Id], Field(max_length=400)]
    least_mm: Annotated[
        float, Field(ge=0, le=100_000, allow_inf_nan=False, description="a remnant shorter than this is scrap")
    ] = 150.0
    place: Annotated[str, Field(max_length=80, description="where remnants are put")] = ""


class SaidIn(BaseModel):
    """That it was so; nothing more is to be said."""

    model_config = ConfigDict(extra="forbid", strict=True)


class CuttingOut(BaseModel):
    """A layout with its state."""

    id: Id
    state: cuttings.State
    cutting: KeptCutting
    made_at: str


class CuttingsOut(BaseModel):
    """All layouts of a job, the newest first."""

    cuttings: list[CuttingOut]


def _all(job_id: str) -> CuttingsOut:
    with services().database.transaction() as connection:
        found = cuttings.of_job(connection, job_id)
    return CuttingsOut(cuttings=[CuttingOut(id=one.id, state=one.state, cutting=one.cutting, made_at=f"{one.made_at.isoformat()}Z") for one in found])  # fmt: skip


WORDS = {"kept": "not cut yet", "cut": "cut already", "undone": "taken back already"}


def _other(error: cuttings.OtherState) -> Refused:
    return Refused(409, "other_state", f"This layout is {WORDS[error.state]}. Look at it as it is now.", "id")


def _changed(job_id: str, own_id: str, states: tuple[cuttings.State, cuttings.State], rule: Rule) -> None:
    """A layout from one state to another, and the rack with it; who comes too late is told what is not there any more."""
    try:
        with services().database.transaction() as connection:
            cuttings.change(connection, job_id, own_id, *states, rule, now())
    except cuttings.Gone as error:
        raise NotFound from error
    except cuttings.OtherState as error:
        raise _other(error) from error
    except InputError as error:
        if error.code != "changed":
            raise
        raise Refused(409, "changed", error.message, error.fields[0]) from error


@operation(blueprint, "GET", "/api/jobs/<job_id>/cuttings", answer=CuttingsOut)
def kept_cuttings(job_id: str) -> CuttingsOut:
    """The layouts of a job that are kept."""
    return _all(job_id)


@operation(blueprint, "POST", "/api/jobs/<job_id>/cuttings", body=KeepIn, answer=CuttingsOut)
def keep_cutting(job_id: str, data: KeepIn) -> CuttingsOut:
    """Keep one tube of the saw's list as it is laid out, bound to the rows of the rack that it is cut from; nothing is taken off the rack by it."""
    job = worked(data.design)
    with services().database.transaction() as connection:
        draft = drafts.get_draft(connection, job_id)
        rows = [row for row, _ in rack.rows(connection)]
    saw = Saw(kerf=data.kerf_mm, trim_start=data.trim_start_mm, trim_end=data.trim_end_mm)
    pieces = [one for one in cut_list(job.parts).pieces if (one.tube, one.grade) == (data.tube, data.grade)]
    if not pieces:
        raise Refused(422, "unknown", "There is nothing of this tube on the saw’s list.", "tube")
    with services().long.enter():
        (one,) = from_rack(pieces, rows, data.stock_mm, saw)
    kept = keep(one, data.design.name, f"draft {draft.version}")
    with services().database.transaction() as connection:
        cuttings.keep(connection, job_id, data.id, kept, now())
    return _all(job_id)


@operation(blueprint, "POST", "/api/jobs/<job_id>/cuttings/<cutting_id>/confirm", body=ConfirmIn, answer=CuttingsOut)
def confirm_cutting(job_id: str, cutting_id: str, data: ConfirmIn) -> CuttingsOut:
    """It is cut: its sticks are off the rack, what is left of them is on it, together or not at all."""

    def rule(kept: KeptCutting, rows: Sequence[RackRow]) -> RackChange:
        return confirmed(kept, rows, data.ids, least=data.least_mm, place=data.place)

    _changed(job_id, cutting_id, ("kept", "cut"), rule)
    return _all(job_id)


@operation(blueprint, "POST", "/api/jobs/<job_id>/cuttings/<cutting_id>/undo", body=SaidIn, answer=CuttingsOut)
def undo_cutting(job_id: str, cutting_id: str, data: SaidIn) -> CuttingsOut:
    """It was not cut after all: what was left of it goes off the rack, and its sticks stand there again."""
    del data
    _changed(job_id, cutting_id, ("cut", "undone"), taken_back)
    return _all(job_id)


@operation(blueprint, "POST", "/api/jobs/<job_id>/cuttings/<cutting_id>/remove", body=SaidIn, answer=CuttingsOut)
def remove_cutting(job_id: str, cutting_id: str, data: SaidIn) -> CuttingsOut:
    """Take away a layout that nothing was cut by."""
    del data
    try:
        with services().database.transaction() as connection:
            cuttings.remove(connection, job_id, cutting_id)
    except cuttings.OtherState as error:
        raise _other(error) from error
    return _all(job_id)
