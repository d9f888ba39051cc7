"""Layouts of a job on sticks and sheets: asked for, kept, cut, taken back, driven by the table and the saw."""

from __future__ import annotations

import json
import re
from collections.abc import Callable, Sequence
from typing import Annotated

from flask import Blueprint, Response
from pydantic import BaseModel, ConfigDict, Field

from tirante.api.context import attached, now, services
from tirante.api.laid import KeepIn, LaidSheetOut, SheetsIn, SheetsOut, SticksIn, SticksOut, shown_sheets
from tirante.api.problems import Refused
from tirante.api.routing import operation
from tirante.api.tasks import SHEETS, STICKS, TaskOut, queued
from tirante.core.cutting.kept import RackChange, confirmed, taken_back
from tirante.core.cutting.sheets_view import sheet_cut, sheet_title
from tirante.core.document.cutting import KeptCutting, KeptNest, OfPart, Remnant
from tirante.core.document.fields import Id
from tirante.core.document.rack import Heat, RackRow
from tirante.core.document.upgrades import dump_design
from tirante.core.errors import InputError
from tirante.core.parts.numbers import numbers_of
from tirante.documents.cutting_table import Refused as TableRefused
from tirante.documents.cutting_table import drive
from tirante.documents.dxf import to_dxf
from tirante.documents.pack import file_name
from tirante.documents.saw import Refused as SawRefused
from tirante.documents.saw import cut_order, saw
from tirante.storage import cuttings, drafts, tasks
from tirante.storage.drafts import NotFound

blueprint = Blueprint("sawing", __name__)
Rule = Callable[[KeptCutting | KeptNest, Sequence[RackRow]], RackChange]


def _asked(kind: str, data: SticksIn | SheetsIn) -> TaskOut:
    with services().database.transaction() as connection:
        draft = drafts.get_draft(connection, data.job_id)
    body = json.loads(data.model_dump_json(exclude={"design"})) | {"design": json.loads(dump_design(data.design)), "revision": f"draft {draft.version}"}  # fmt: skip
    return queued(data.id, data.job_id, kind, body)


@operation(blueprint, "POST", "/api/tasks/sticks", body=SticksIn, answer=TaskOut)
def lay_out_on_sticks(data: SticksIn) -> TaskOut:
    """Have every tube of the saw's list laid out on what stands on the rack and on as few new sticks as can be."""
    return _asked(STICKS, data)


@operation(blueprint, "POST", "/api/tasks/sheets", body=SheetsIn, answer=TaskOut)
def lay_out_on_sheets(data: SheetsIn) -> TaskOut:
    """Have every plate of a job laid out on the rack's sheets and on as few new ones as are found."""
    return _asked(SHEETS, data)


class ConfirmIn(BaseModel):
    """That it is cut: ids for what is left, made by the client."""

    model_config = ConfigDict(extra="forbid", strict=True)
    ids: Annotated[list[Id], Field(max_length=400)]
    least_mm: Annotated[
        float, Field(ge=0, le=100_000, allow_inf_nan=False, description="a remnant shorter than this is scrap")
    ] = 150.0
    place: Annotated[str, Field(max_length=80, description="where remnants are put")] = ""
    heat: Annotated[
        Heat, Field(description="number of what was bought for it; what is left of anything keeps its own")
    ] = ""


class SaidIn(BaseModel):
    """That it was so; nothing more is to be said."""

    model_config = ConfigDict(extra="forbid", strict=True)


class CuttingOut(BaseModel):
    """A layout with its state."""

    id: Id
    state: cuttings.State
    title: str
    told: str
    revision: str
    sticks: KeptCutting | None = Field(description="of a layout of sticks")
    sheets: list[LaidSheetOut] = Field(description="of a layout of sheets")
    plates: list[str] = Field(description="of a layout of sheets: what the numbers in its drawings are")
    parts: list[OfPart] = Field(
        description="that it is cut for, with the fingerprint of their metal as it was laid out"
    )
    remnants: list[Remnant] = Field(description="what it put on the rack when it was cut")
    made_at: str


class CuttingsOut(BaseModel):
    """All layouts of a job, the newest first."""

    cuttings: list[CuttingOut]


def _all(job_id: str) -> CuttingsOut:
    with services().database.transaction() as connection:
        found = cuttings.of_job(connection, job_id)
        numbers = numbers_of(drafts.get_draft(connection, job_id).design.settings) if found else None
    out = []
    for one in found:
        kept, nest = one.cutting, one.cutting if isinstance(one.cutting, KeptNest) else None
        out.append(CuttingOut(
            id=one.id, state=one.state, title=kept.title, told=kept.told, revision=kept.revision, sticks=kept if isinstance(kept, KeptCutting) else None,
            sheets=shown_sheets(nest, numbers) if nest and numbers else [], plates=[shape.what for shape in nest.shapes] if nest else [],
            parts=list(kept.parts), remnants=list(kept.remnants), made_at=f"{one.made_at.isoformat()}Z",
        ))  # fmt: skip
    return CuttingsOut(cuttings=out)


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
    """Keep a layout as it came of its task, bound to the rows of the rack that it is cut from; nothing is worked out again, and nothing is taken off the rack by it."""
    with services().database.transaction() as connection:
        task = tasks.get(connection, data.task_id)
        if task.job_id != job_id or task.kind not in (STICKS, SHEETS) or task.result is None:
            raise Refused(409, "not_laid_out", "Nothing was laid out for this job by that task, or not yet. Lay it out.", "task_id")  # fmt: skip
        found = (SticksOut if task.kind == STICKS else SheetsOut).model_validate_json(task.result).kept
        kept = found[data.index] if data.index < len(found) else None
        if kept is None:
            raise Refused(422, "unknown", "That was not laid out.", "index")
        cuttings.keep(connection, job_id, data.id, kept, now())
    return _all(job_id)


@operation(blueprint, "POST", "/api/jobs/<job_id>/cuttings/<cutting_id>/confirm", body=ConfirmIn, answer=CuttingsOut)
def confirm_cutting(job_id: str, cutting_id: str, data: ConfirmIn) -> CuttingsOut:
    """It is cut: its sticks are off the rack, what is left of them is on it, together or not at all."""

    def rule(kept: KeptCutting | KeptNest, rows: Sequence[RackRow]) -> RackChange:
        return confirmed(kept, rows, data.ids, least=data.least_mm, place=data.place, heat=data.heat)

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


def _kept(job_id: str, own_id: str) -> KeptCutting | KeptNest:
    with services().database.transaction() as connection:
        found = next((one for one in cuttings.of_job(connection, job_id) if one.id == own_id), None)
    if found is None:
        raise NotFound(own_id)
    return found.cutting


def _sheet_asked(kept: KeptCutting | KeptNest, number: str) -> tuple[KeptNest, int]:
    if (
        not isinstance(kept, KeptNest)
        or not re.fullmatch(r"[0-9]{1,4}", number)
        or not 1 <= int(number) <= len(kept.sheets)
    ):
        raise Refused(404, "not_found", "This layout has no such sheet.", "sheet")
    return kept, int(number) - 1


@operation(blueprint, "GET", "/api/jobs/<job_id>/cuttings/<cutting_id>/sheet-<number>.dxf", media="image/vnd.dxf")
def sheet_file(job_id: str, cutting_id: str, number: str) -> Response:
    """A sheet of a layout as the table cuts it, at 1:1; its origin is the sheet's corner."""
    kept, n = _sheet_asked(_kept(job_id, cutting_id), number)
    name = f"{file_name(kept.job)}-{file_name(kept.title)}-sheet-{n + 1}.dxf"
    return attached(to_dxf(sheet_cut(kept, n)), "image/vnd.dxf", name)


@operation(blueprint, "GET", "/api/jobs/<job_id>/cuttings/<cutting_id>/cut-order.csv", media="text/csv")
def cut_order_file(job_id: str, cutting_id: str) -> Response:
    """The cut order of a layout of sticks, as a saw with a length stop takes it."""
    kept = _kept(job_id, cutting_id)
    if not isinstance(kept, KeptCutting):
        raise Refused(404, "not_found", "Sheets have no cut order: each has a DXF.", "cutting_id")
    return attached(cut_order(kept), "text/csv", f"{file_name(kept.job)}-{file_name(kept.tube)}-cut-order.csv")


class MachineIn(BaseModel):
    """The machine's cut."""

    model_config = ConfigDict(extra="forbid", strict=True)
    kerf_mm: Annotated[float, Field(gt=0, le=10, allow_inf_nan=False)] = 1.2


class DrivenOut(BaseModel):
    """A sheet or a stick's cut as the simulated machine did it, or all that it refuses."""

    what: str
    told: str
    faults: list[str]


class MachineOut(BaseModel):
    """What the simulated machine did."""

    machine: str
    runs: list[DrivenOut]
    seconds: float = Field(description="of an invented machine")


@operation(blueprint, "POST", "/api/jobs/<job_id>/cuttings/<cutting_id>/machine", body=MachineIn, answer=MachineOut)
def on_machine(job_id: str, cutting_id: str, data: MachineIn) -> MachineOut:
    """A layout on the machine that stands in for the shop's: sticks on the saw with a stop, sheets on the cutting table, each by the file that it would be sent."""
    kept = _kept(job_id, cutting_id)
    return _sawn(kept) if isinstance(kept, KeptCutting) else _driven(kept, data.kerf_mm)


def _sawn(kept: KeptCutting) -> MachineOut:
    name = "saw with a length stop (simulated)"
    try:
        found = saw(cut_order(kept), kept.kerf_mm)
    except SawRefused as error:
        return MachineOut(
            machine=name, runs=[DrivenOut(what=kept.title, told="", faults=list(error.faults))], seconds=0.0
        )
    runs = [
        DrivenOut(
            what=f"stick {one.stick}: {one.what}",
            told=f"{'stop set to' if one.set else 'stop stays at'} {one.stop:.1f} mm, cut; {one.left:.1f} mm left{', the piece held' if one.turned else ''}", faults=[],
        )
        for one in found.cuts
    ]  # fmt: skip
    return MachineOut(machine=name, runs=runs, seconds=found.seconds)


def _driven(kept: KeptNest, kerf: float) -> MachineOut:
    runs, seconds = [], 0.0
    for n, sheet in enumerate(kept.sheets):
        try:
            found = drive(to_dxf(sheet_cut(kept, n)), kept.thickness_mm, kerf)
        except TableRefused as error:
            runs.append(DrivenOut(what=sheet_title(kept, n), told="", faults=list(error.faults)))
            continue
        seconds += found.seconds
        short = [] if found.parts == len(sheet.placed) else [f"It cuts {found.parts} plates of {len(sheet.placed)}."]
        runs.append(DrivenOut(what=sheet_title(kept, n), told=f"{found.parts} plates, {found.pierces} pierces, {found.cut_mm:.0f} mm of cut", faults=short))  # fmt: skip
    return MachineOut(machine="cutting table (simulated)", runs=runs, seconds=seconds)
