"""What was printed, and whether a sheet in somebody's hand is still so; labels."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated

from flask import Blueprint, request
from pydantic import BaseModel, ConfigDict, Field

from tirante.api.changes import PartChangedOut, part_changed_out
from tirante.api.context import link_of, now, services, worked
from tirante.api.jobs import find_revision, stamp_of
from tirante.api.packs import number_asked
from tirante.api.problems import Refused
from tirante.api.routing import operation
from tirante.core.document.fields import Id
from tirante.core.drawing.model import Drawing
from tirante.core.job.still_so import Printed, still_so
from tirante.documents.label import labels_of
from tirante.storage import drafts, prints, revisions
from tirante.storage.drafts import NotFound
from tirante.storage.prints import PrintedPart

blueprint = Blueprint("prints", __name__)
WHAT = {"pack-zip": "pack", "pack-pdf": "sheets", "labels": "labels"}


class PrintOut(BaseModel):
    """Sheets that were made."""

    number: int
    issued: bool
    what: str
    times: int
    last_at: str
    parts: int
    changed: list[str] = Field(description="parts on them whose metal is another in the job as it stands")
    gone: list[str] = Field(description="parts on them that are not in the job any more")


class PrintsOut(BaseModel):
    """All of a job, the latest first."""

    prints: list[PrintOut]


@operation(blueprint, "GET", "/api/jobs/<job_id>/prints", answer=PrintsOut)
def printed(job_id: str) -> PrintsOut:
    """What was printed of a job, and which parts on it are other now."""
    with services().database.transaction() as connection:
        draft, found = drafts.get_draft(connection, job_id), prints.of_job(connection, job_id)
    if not found:
        return PrintsOut(prints=[])
    job = worked(draft.design)
    with services().gate_of(job).enter():
        metals = {part.id: part.metal for part in job.parts}
    return PrintsOut(prints=[
        PrintOut(
            number=one.number, issued=one.issued, what=WHAT.get(one.what, one.what), times=one.times, last_at=f"{one.last_at.isoformat()}Z", parts=len(one.parts),
            changed=[part.name for part in one.parts if part.id in metals and metals[part.id] != part.metal],
            gone=[part.name for part in one.parts if part.id not in metals],
        )
        for one in found
    ])  # fmt: skip


class PrintedSheetOut(BaseModel):
    """A printed sheet of a part: whether the part is still so."""

    job: str
    part_id: Id
    part: str
    number: int
    issued: bool
    current: bool = Field(description="nothing says otherwise: it may be worked to")
    lines: list[str] = Field(description="what there is to say, gravest first")
    changed: PartChangedOut | None = Field(description="what differs in what is to be built from now")


@operation(
    blueprint, "GET", "/api/jobs/<job_id>/sheets/<number>/<part_id>", answer=PrintedSheetOut, query={"m": "string"}
)
def is_it_so(job_id: str, number: str, part_id: str) -> PrintedSheetOut:
    """What a sheet's code asks: whether the part is as it was printed, and what changed."""
    row, design, draft = find_revision(job_id, number_asked(number))
    with services().database.transaction() as connection:
        latest = next((one for one in revisions.list_revisions(connection, job_id) if one.kind == "issued"), None)
    newer = None
    if latest is not None and latest.number > row.number:
        newer = latest.number, worked(find_revision(job_id, latest.number)[1])
    sheet = Printed(part_id=part_id, number=row.number, issued=row.kind == "issued", metal=request.args.get("m", ""))
    before, now_ = worked(design), worked(draft.design)
    with services().gate_of(now_).enter():
        found = still_so(sheet, before, newer, now_)
        part = before.part(part_id)
    if found is None or part is None:
        raise NotFound(part_id)
    return PrintedSheetOut(
        job=design.name, part_id=part_id, part=part.name, number=row.number, issued=sheet.issued, current=found.current, lines=list(found.lines),
        changed=part_changed_out(found.differs) if found.differs else None,
    )  # fmt: skip


class LabelsIn(BaseModel):
    """Which parts."""

    model_config = ConfigDict(extra="forbid", strict=True)
    parts: Annotated[list[Id] | None, Field(min_length=1, max_length=600, description="none: all")] = None


class LabelOut(BaseModel):
    """A label as it is printed."""

    part_id: str
    name: str
    hand: str
    drawing: Drawing


class LabelsOut(BaseModel):
    """What the simulated label printer printed."""

    printer: str
    number: int
    issued: bool
    labels: list[LabelOut]
    left_out: list[str] = Field(description="parts without a label, and why")


@operation(blueprint, "POST", "/api/jobs/<job_id>/labels", body=LabelsIn, answer=LabelsOut)
def print_labels(job_id: str, data: LabelsIn) -> LabelsOut:
    """Labels of what is issued, or, where nothing is, of the draft as it stands, sealed and marked so."""
    with services().database.transaction() as connection:
        draft = drafts.get_draft(connection, job_id, lock=True)
        row = next((one for one in revisions.list_revisions(connection, job_id) if one.kind == "issued"), None)
        number = row.number if row else revisions.seal(connection, draft, now())
    row, design, _ = find_revision(job_id, number)
    job = worked(design)
    stamp = replace(stamp_of(row, design), link=link_of(job_id, number))
    with services().gate_of(job).enter():
        wanted = [part for part in job.parts if data.parts is None or part.id in data.parts]
        made = [part for part in wanted if part.complete]
    if not wanted:
        raise Refused(422, "unknown", "None of the parts that were chosen is in what is to be printed.", "parts")
    labels = [one for part in made for one in labels_of(part, stamp)]
    with services().database.transaction() as connection:
        printed_parts = [PrintedPart(id=part.id, name=part.name, metal=part.metal) for part in made]
        prints.record(connection, job_id, number, "labels", printed_parts, now(), issued=row.kind == "issued")
    return LabelsOut(
        printer="label printer (simulated)", number=number, issued=row.kind == "issued",
        labels=[LabelOut(part_id=one.part_id, name=one.name, hand=one.hand, drawing=one.drawing) for one in labels],
        left_out=[f"{part.name}: {part.faults[0].message}" for part in wanted if not part.complete],
    )  # fmt: skip
