"""What is printed and cut: the pack of a draft or revision."""

from __future__ import annotations

import io
import json
import re
import zipfile
from collections.abc import Callable, Sequence
from dataclasses import replace
from typing import Annotated, Literal

from flask import Blueprint, Response, request
from pydantic import BaseModel, ConfigDict, Field

from tirante import ENGINE_VERSION
from tirante.api.context import attached, link_of, now, services, worked
from tirante.api.designs import DesignIn
from tirante.api.jobs import find_revision, log_head, stamp_of
from tirante.api.problems import Refused
from tirante.api.routing import operation
from tirante.api.tasks import TaskOut, queued
from tirante.core.document.design import Design
from tirante.core.document.fields import Id
from tirante.core.errors import InputError
from tirante.core.job.memory import Memory
from tirante.core.job.worked import Worked
from tirante.documents.on_table import on_table
from tirante.documents.pack import cut_list_csv, file_name, make_pack
from tirante.documents.pdf import Stamp
from tirante.documents.sheets import Chosen, pack_pdf
from tirante.shipped import the_shelf
from tirante.storage import acknowledged, cuttings, drafts, issued, prints, revisions, tasks
from tirante.storage.pool import Database
from tirante.storage.prints import PrintedPart

blueprint = Blueprint("packs", __name__)

PACK = "pack"


def number_asked(asked: str) -> int:
    """The revision that an address names.

    Raises:
        Refused: it is no number.
    """
    # never a draft in the place of the revision that was meant
    if not re.fullmatch(r"[0-9]{1,9}", asked):
        raise Refused(422, "not_a_revision", "A revision is a number, as the history shows it.", "revision")
    return int(asked)


def _sealed(job_id: str) -> int:
    """The draft as a revision."""
    with services().database.transaction() as connection:
        return revisions.seal(connection, drafts.get_draft(connection, job_id, lock=True), now())


def _stamped(
    row: revisions.RevisionRow, design: Design, kept: issued.Issued | None, answered: acknowledged.Acknowledged | None = None
) -> Stamp:  # fmt: skip
    # issued before anything was kept: what is printed now may differ from what was built from, and says so
    anew = row.kind == "issued" and kept is None
    return stamp_of(row, design, f", worked out anew, engine {ENGINE_VERSION}" if anew else "", answered)


def _kept(job_id: str) -> tuple[Stamp, Design, bytes]:
    """The pack of an issued revision, as it was issued."""
    asked = request.args.get("revision")
    if asked is not None:
        row, design, _ = find_revision(job_id, number_asked(asked))
        with services().database.transaction() as connection:
            kept = issued.get(connection, job_id, row.number)
        if kept is not None:
            return _stamped(row, design, kept), design, kept.pack
    else:
        with services().database.transaction() as connection:
            drafts.get_draft(connection, job_id)
    raise Refused(
        409, "not_kept",
        "Only a revision that was issued is kept with its pack. Have another one made: POST /api/tasks/pack.", "revision",
    )  # fmt: skip


class PackIn(BaseModel):
    """What is to be made."""

    model_config = ConfigDict(extra="forbid")
    id: Annotated[Id, Field(description="of the task, made by the client: the same again gives the same task")]
    job_id: Id
    revision: int | None = Field(
        default=None, ge=0, le=999_999_999, description="none: the draft as it stands, sealed first"
    )
    what: Literal["pack.zip", "pack.pdf"]
    parts: list[Id] | None = Field(default=None, min_length=1, max_length=600, description="none: all")


@operation(blueprint, "POST", "/api/tasks/pack", body=PackIn, answer=TaskOut)
def make_the_pack(data: PackIn) -> TaskOut:
    """Have the pack of a revision made, or its sheets alone."""
    number = _sealed(data.job_id) if data.revision is None else find_revision(data.job_id, data.revision)[0].number
    body = {
        "job_id": data.job_id,
        "number": number,
        "what": data.what,
        "parts": data.parts,
        "link": link_of(data.job_id, number),
    }
    return queued(data.id, data.job_id, PACK, body)


def made(
    database: Database, memory: Memory, job_id: str, number: int, what: str, step: Callable[[int, int], bool], parts: Sequence[str] | None = None, link: str = "",
) -> tuple[str, bytes]:  # fmt: skip
    """The pack of a revision, or its sheets alone; of an issued one as it was issued, unless only some of its parts are wanted. It is noted as printed.

    Args:
        database: where the revision is.
        memory: of results.
        job_id: the job.
        number: of the revision.
        what: pack.zip or pack.pdf.
        step: told how far it is; it answers whether to go on.
        parts: by id; None: all.
        link: that the codes of the sheets begin with.

    Returns:
        Name and content of the file.

    Raises:
        NotFound: no such job or revision.
        Stopped: it is wanted no more.
    """
    with database.transaction() as connection:
        found, kept = revisions.get_revision(connection, job_id, number), issued.get(connection, job_id, number)
        answered, log = acknowledged.of_job(connection, job_id).get(number), log_head(connection)
    if found is None:
        raise drafts.NotFound(job_id)
    row, design = found
    stamp = replace(_stamped(row, design, None if parts else kept, answered), link=link, log=log)
    if kept is None or kept.engine != ENGINE_VERSION:  # what was reviewed were the figures of another engine
        stamp = replace(stamp, reviewer=None, reviewed_on="", limits="")
    some = "-chosen" if parts else ""
    name = f"{file_name(design.name)}-{file_name(stamp.revision)}{some}.{what.rpartition('.')[2]}"
    job = Worked(design, the_shelf(), memory)
    if kept is not None and not parts:
        body = _from_pack(kept.pack, ".pdf") if what == "pack.pdf" else kept.pack
    else:
        with database.transaction() as connection:
            layouts = () if parts else cuttings.standing(connection, job_id)
        chosen = Chosen(parts=frozenset(parts) if parts else None, layouts=layouts)
        if parts and not any(chosen.has(part.id) for part in job.parts):
            raise InputError(
                "None of the parts that were chosen is in that revision.", code="unknown", fields=("parts",)
            )
        body = pack_pdf(job, stamp, chosen) if what == "pack.pdf" else make_pack(job, stamp, step, chosen)
    note_print(database, job_id, row, what, job, parts)
    return name, body


def note_print(
    database: Database,
    job_id: str,
    row: revisions.RevisionRow,
    what: str,
    job: Worked,
    parts: Sequence[str] | None = None,
) -> None:
    """Note that sheets of a revision were made.

    Args:
        database: where it is noted.
        job_id: the job.
        row: the revision.
        what: that was made.
        job: worked out.
        parts: that are on them; None: all.
    """
    printed = [
        PrintedPart(id=one.id, name=one.name, metal=one.metal) for one in job.parts if parts is None or one.id in parts
    ]
    with database.transaction() as connection:
        prints.record(
            connection, job_id, row.number, what.replace(".", "-"), printed, now(), issued=row.kind == "issued"
        )


class TableIn(DesignIn):
    """A design whose plates are to be tried."""

    kerf_mm: Annotated[float, Field(gt=0, le=10, allow_inf_nan=False)] = 1.2


class TriedOut(BaseModel):
    """A plate that was put on the table; without figures where it was refused."""

    part_id: str
    part: str
    piece: str
    file: str
    material: str
    thickness_mm: float
    count: int
    faults: list[str]
    cut_mm: float | None
    pierces: int | None
    seconds: float | None


class NoFileOut(BaseModel):
    """A part or plate that has no file to be cut by."""

    part_id: str
    name: str
    why: str


class TableOut(BaseModel):
    """Every plate of a job, tried on the simulated cutting table."""

    plates: list[TriedOut]
    left_out: list[NoFileOut]
    seconds: float = Field(description="for all that are driven, every count of each; of an invented table")


@operation(blueprint, "POST", "/api/cutting-table", body=TableIn, answer=TableOut)
def try_on_table(data: TableIn) -> TableOut:
    """The files of the pack's plates on the simulated cutting table."""
    job = worked(data.design)
    with services().gate_of(job).enter():
        found = on_table(job, data.kerf_mm)
    plates = [
        TriedOut(
            part_id=one.part_id, part=one.part, piece=one.piece, file=one.file, material=one.material, thickness_mm=one.thickness, count=one.count,
            faults=list(one.faults), cut_mm=one.driven.cut_mm if one.driven else None, pierces=one.driven.pierces if one.driven else None,
            seconds=one.driven.seconds if one.driven else None,
        )
        for one in found.plates
    ]  # fmt: skip
    return TableOut(
        plates=plates, left_out=[NoFileOut(part_id=one.part_id, name=one.name, why=one.why) for one in found.left_out],
        seconds=sum(one.count * one.seconds for one in plates if one.seconds is not None),
    )  # fmt: skip


@operation(blueprint, "GET", "/api/tasks/<task_id>/file", media="application/octet-stream")
def get_file(task_id: str) -> Response:
    """The file that came of a task; kept for a week."""
    with services().database.transaction() as connection:
        task, file = tasks.get(connection, task_id), tasks.file_of(connection, task_id)
    if file is None or task.result is None:
        raise Refused(404, "not_found", "No file has come of this task (yet).")
    name = json.loads(task.result)["name"]
    return attached(file, "application/zip" if name.endswith(".zip") else "application/pdf", name)


def _from_pack(pack: bytes, ending: str) -> bytes:
    with zipfile.ZipFile(io.BytesIO(pack)) as archive:
        return archive.read(next(name for name in archive.namelist() if name.endswith(ending)))


def _noted(job_id: str, design: Design, what: str) -> None:
    """An issued pack that is fetched once more is printed once more."""
    asked = request.args.get("revision")
    assert asked is not None
    row, _, _ = find_revision(job_id, number_asked(asked))
    note_print(services().database, job_id, row, what, worked(design))


@operation(blueprint, "GET", "/api/jobs/<job_id>/pack.zip", media="application/zip", query={"revision": "integer"})
def get_pack(job_id: str) -> Response:
    """Everything of an issued revision, as it was issued: PDF, DXF, SVG, CSV and the design."""
    stamp, design, pack = _kept(job_id)
    _noted(job_id, design, "pack.zip")
    return attached(pack, "application/zip", f"{file_name(design.name)}-{file_name(stamp.revision)}.zip")


@operation(blueprint, "GET", "/api/jobs/<job_id>/pack.pdf", media="application/pdf", query={"revision": "integer"})
def get_pdf(job_id: str) -> Response:
    """The sheets of an issued revision, as it was issued."""
    stamp, design, pack = _kept(job_id)
    _noted(job_id, design, "pack.pdf")
    name = f"{file_name(design.name)}-{file_name(stamp.revision)}.pdf"
    return attached(_from_pack(pack, ".pdf"), "application/pdf", name)


@operation(blueprint, "GET", "/api/jobs/<job_id>/cut-list.csv", media="text/csv", query={"revision": "integer"})
def get_cut_list(job_id: str) -> Response:
    """The cut list of a revision, as it was issued where it was; without one the draft's, which is sealed."""
    asked = request.args.get("revision")
    row, design, _ = find_revision(job_id, _sealed(job_id) if asked is None else number_asked(asked))
    with services().database.transaction() as connection:
        kept = issued.get(connection, job_id, row.number)
    body = _from_pack(kept.pack, "cut-list.csv") if kept else cut_list_csv(worked(design))
    name = f"{file_name(design.name)}-{file_name(_stamped(row, design, kept).revision)}-cut-list.csv"
    return attached(body, "text/csv", name)
