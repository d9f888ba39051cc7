"""Jobs, drafts, revisions, branches, import and export."""

from __future__ import annotations

import json
import re
from collections.abc import Sequence
from dataclasses import replace
from datetime import datetime
from typing import Annotated, Any, Literal

from flask import Blueprint, Response, request
from pydantic import AfterValidator, BaseModel, ConfigDict, Field
from pymysql.connections import Connection

from tirante import ENGINE_VERSION
from tirante.api.context import link_of, now, services, worked
from tirante.api.problems import Refused
from tirante.api.rights import MAY, ROLES, WORDS
from tirante.api.routing import operation
from tirante.api.signed_in import signed_in
from tirante.core.document.cutting import KeptCutting, KeptNest
from tirante.core.document.design import Design, TiedDesign, pruned
from tirante.core.document.fields import Id, Name
from tirante.core.document.upgrades import dump_design, open_design
from tirante.core.job.bench_steps import steps_told
from tirante.core.job.evaluate import evaluate
from tirante.core.job.unsettled import unsettled
from tirante.core.job.worked import Worked
from tirante.documents.pack import file_name, make_pack
from tirante.documents.pdf import Stamp
from tirante.documents.sheets import Chosen
from tirante.storage import acknowledged, cuttings, deeds, drafts, issued, jobs, reviews, revisions

blueprint = Blueprint("jobs", __name__)
_strict = ConfigDict(extra="forbid", strict=True)


class JobOut(BaseModel):
    """A job in the list."""

    id: str
    name: str
    demo: bool
    version: int
    saved_at: str


class JobsOut(BaseModel):
    """All jobs, last saved first."""

    jobs: list[JobOut]


class DraftOut(BaseModel):
    """The working state of a job."""

    job_id: str
    version: int
    based_on: int | None
    saved_at: str
    design: Design
    told: list[str] = Field(default=[], description="what an older file says otherwise since it was saved, and why")


class NewJob(BaseModel):
    """A job to start; the id is made by the client."""

    model_config = _strict
    id: Id
    name: Name


class ImportJob(BaseModel):
    """A design file of any version to open as a job."""

    model_config = _strict
    id: Id
    design: dict[str, Any]


class SaveDraft(BaseModel):
    """A state to save."""

    model_config = _strict
    save_id: Id
    design: TiedDesign


class SavedOut(BaseModel):
    """What a save gave."""

    version: int
    saved_at: str


class KeepBranch(BaseModel):
    """A version to keep beside the draft."""

    model_config = _strict
    save_id: Id
    name: Name
    based_on: int | None
    design: TiedDesign


class SealRevision(BaseModel):
    """A revision to name, or to issue for building."""

    model_config = _strict
    save_id: Id
    version: int
    name: Name
    issue: bool = False
    acknowledged_by: Annotated[Name, AfterValidator(str.strip)] | None = Field(
        default=None, description="who answers for issuing it with what is not settled"
    )
    acknowledged: Annotated[list[Annotated[str, Field(max_length=4000)]], Field(max_length=5000)] = Field(
        default=[], description="what is not settled, as it was shown to that person"
    )
    reviewer: Annotated[Name, AfterValidator(str.strip)] | None = None


class ReviewOut(BaseModel):
    """A review of an issued revision, as it was signed; one that was withdrawn is kept."""

    id: str
    name: str
    at: str
    limits: str
    withdrawn: str | None = Field(description="why; null: it stands")
    withdrawn_by: str


class RevisionOut(BaseModel):
    """A revision in the history."""

    number: int
    parent: int | None
    kind: Literal["sealed", "named", "issued", "branch"]
    name: str
    reviewer: str | None
    reviews: list[ReviewOut] = Field(description="that were signed, withdrawn ones too")
    acknowledged_by: str | None
    acknowledged: list[str]
    sealed_at: str
    current: bool = Field(description="the draft is this revision, unchanged")
    engine: str | None = Field(description="that an issued one is kept with; None: its sheets are worked out anew")


class RevisionsOut(BaseModel):
    """The history, newest first."""

    revisions: list[RevisionOut]
    not_reviewed_by_me: str = Field(description="why who is signed in cannot review them; empty: they can")


class RevisionDesignOut(BaseModel):
    """A revision whole."""

    revision: RevisionOut
    design: Design


class NumberOut(BaseModel):
    """The number of a revision."""

    number: int


def _utc(time: datetime) -> str:
    return time.isoformat(timespec="milliseconds") + "Z"


def draft_out(draft: drafts.Draft) -> DraftOut:
    """As the API shows it."""
    return DraftOut(
        job_id=draft.job_id, version=draft.version, based_on=draft.based_on, saved_at=_utc(draft.saved_at),
        design=draft.design, told=list(draft.told),
    )  # fmt: skip


def _revision_out(
    row: revisions.RevisionRow,
    draft: drafts.Draft,
    engine: str | None,
    answered: acknowledged.Acknowledged | None,
    signed: Sequence[reviews.Review],
) -> RevisionOut:
    return RevisionOut(
        number=row.number, parent=row.parent, kind=row.kind, name=row.name, reviewer=row.reviewer,
        acknowledged_by=answered.person if answered else None, acknowledged=list(answered.lines) if answered else [],
        sealed_at=_utc(row.sealed_at), current=row.number == draft.based_on and row.digest == draft.digest,
        engine=engine,
        reviews=[ReviewOut(id=one.id, name=one.name, at=_utc(one.at), limits=one.limits, withdrawn=one.withdrawn, withdrawn_by=one.withdrawn_by) for one in signed if one.number == row.number],
    )  # fmt: skip


def _if_match() -> int:
    found = re.fullmatch(r'"?(\d{1,9})"?', request.headers.get("If-Match", "").strip())
    if not found:
        raise Refused(428, "version_missing", "Say which version you edited: send its number as If-Match.", "If-Match")
    return int(found[1])


@operation(blueprint, "GET", "/api/jobs", answer=JobsOut)
def list_jobs() -> JobsOut:
    """All jobs."""
    with services().database.transaction() as connection:
        rows = jobs.list_jobs(connection)
    return JobsOut(
        jobs=[
            JobOut(id=r.id, name=r.name, demo=r.demo is not None, version=r.version, saved_at=_utc(r.saved_at))
            for r in rows
        ]
    )


@operation(blueprint, "POST", "/api/jobs", body=NewJob, answer=DraftOut)
def create_job(data: NewJob) -> DraftOut:
    """Start an empty job."""
    with services().database.transaction() as connection:
        return draft_out(jobs.create_job(connection, data.id, Design(name=data.name), now(), by=who()))


@operation(blueprint, "POST", "/api/import", body=ImportJob, answer=DraftOut)
def import_job(data: ImportJob) -> DraftOut:
    """Open a design file as a new job; one of an older version is brought up to date."""
    design, told = open_design(json.dumps(data.design))
    with services().database.transaction() as connection:
        draft = jobs.create_job(connection, data.id, design, now(), by=who())
    return draft_out(replace(draft, told=told))


@operation(blueprint, "GET", "/api/jobs/<job_id>", answer=DraftOut)
def get_job(job_id: str) -> DraftOut:
    """The working state of a job."""
    with services().database.transaction() as connection:
        return draft_out(drafts.get_draft(connection, job_id))


@operation(blueprint, "PUT", "/api/jobs/<job_id>/draft", body=SaveDraft, answer=SavedOut, headers=("If-Match",))
def save_draft(job_id: str, data: SaveDraft) -> SavedOut:
    """Save the working state; 409 with the newer draft when it was edited from an older one."""
    version, time = _if_match(), now()
    with services().database.transaction() as connection:
        done = jobs.save_draft(connection, job_id, data.save_id, version, data.design, time, by=who())
    return SavedOut(version=done, saved_at=_utc(time))


@operation(blueprint, "POST", "/api/jobs/<job_id>/branches", body=KeepBranch, answer=NumberOut)
def keep_branch(job_id: str, data: KeepBranch) -> NumberOut:
    """Keep a version beside the draft, as a revision of kind branch."""
    time = now()
    with services().database.transaction() as connection:
        drafts.get_draft(connection, job_id, lock=True)
        known = drafts.version_of_save(connection, data.save_id, job_id)
        if known is not None:
            return NumberOut(number=known)
        if data.based_on is not None and revisions.get_revision(connection, job_id, data.based_on) is None:
            raise Refused(422, "unknown_revision", "There is no such revision to branch from.", "based_on")
        number = revisions.keep_as_branch(connection, job_id, data.based_on, data.name, data.design, time)
        drafts.note_save(connection, data.save_id, job_id, number, time)
    return NumberOut(number=number)


@operation(blueprint, "GET", "/api/jobs/<job_id>/revisions", answer=RevisionsOut)
def list_revisions(job_id: str) -> RevisionsOut:
    """The history; a draft that has lain idle is sealed first."""
    with services().database.transaction() as connection:
        draft = drafts.get_draft(connection, job_id, lock=True)
        revisions.seal_if_idle(connection, draft, now())
        draft = drafts.get_draft(connection, job_id)
        rows = revisions.list_revisions(connection, job_id)
        kept = issued.engines(connection, job_id)
        answered = acknowledged.of_job(connection, job_id)
        signed = reviews.of_job(connection, job_id)
        not_mine = own_work(connection, job_id)
    return RevisionsOut(
        revisions=[_revision_out(row, draft, kept.get(row.number), answered.get(row.number), signed) for row in rows],
        not_reviewed_by_me=not_mine,
    )


@operation(blueprint, "POST", "/api/jobs/<job_id>/revisions", body=SealRevision, answer=NumberOut)
def seal_revision(job_id: str, data: SealRevision) -> NumberOut:
    """Name the state as it stands, or issue it to build from."""
    if data.reviewer is not None:
        raise Refused(422, "review_typed", "A reviewer’s name is not typed: once it is issued, somebody who did not draw it reviews it and signs. Leave it empty: the sheets say NOT REVIEWED.", "reviewer")  # fmt: skip
    me = signed_in()
    if me is not None and data.acknowledged_by is not None:
        data = data.model_copy(
            update={"acknowledged_by": me.person.name}
        )  # who is signed in answers, whatever was typed
    time = now()
    if data.issue:
        _work_ahead(job_id, data.version)
    with services().database.transaction() as connection:
        draft = drafts.get_draft(connection, job_id, lock=True)
        known = drafts.version_of_save(connection, data.save_id, job_id)
        if known is not None:
            return NumberOut(number=known)
        if draft.version != data.version:
            raise drafts.Stale(draft)
        number = revisions.seal(connection, draft, time, kind="issued" if data.issue else "named", name=data.name)
        if data.issue:
            row = revisions.get_revision(connection, job_id, number)
            assert row
            answered = _acknowledged(data, draft.design)
            if answered:
                acknowledged.keep(connection, job_id, number, answered.person, answered.lines)
            kept = _as_issued(job_id, row[0], draft.design, answered, cuttings.standing(connection, job_id), log_head(connection))  # fmt: skip
            issued.keep(connection, job_id, number, kept)
            if me is not None:
                reviews.drew(connection, job_id, me.person.id, draft.version)  # who issues it answers for it
                deeds.add(
                    connection, "issued", {"job": job_id, "number": number, "name": data.name}, me.person.id, time
                )
        drafts.note_save(connection, data.save_id, job_id, number, time)
    return NumberOut(number=number)


def _work_ahead(job_id: str, version: int) -> None:
    """Work out the state that is to be issued before its job is locked: others would wait for all of that."""
    with services().database.transaction() as connection:
        draft = drafts.get_draft(connection, job_id)
    if draft.version == version:
        job = worked(draft.design)
        with services().gate_of(job).enter():
            evaluate(job)


def _acknowledged(data: SealRevision, design: Design) -> acknowledged.Acknowledged | None:
    """Who answers for what is not settled of a state that is to be issued; None where all of it is.

    Raises:
        Refused: something is not settled, and nobody answers for just that.
    """
    job = worked(design)
    with services().gate.enter():
        lines = unsettled(evaluate(job))
    if not lines:
        return None
    if data.acknowledged_by is None or data.acknowledged != lines:
        raise Refused(
            422, "to_acknowledge",
            "Not everything of this job is settled. Settle it, or have somebody answer for the list below by name; the name and the list stand on the cover.",
            "acknowledged", lines,
        )  # fmt: skip
    return acknowledged.Acknowledged(person=data.acknowledged_by, lines=tuple(lines))


def stamp_of(
    row: revisions.RevisionRow, design: Design, remark: str = "", answered: acknowledged.Acknowledged | None = None
) -> Stamp:
    """What stands on every sheet of a revision.

    Args:
        row: the revision.
        design: of it.
        remark: behind its number.
        answered: who answers for what is not settled of it.
    """
    return Stamp(
        job=design.name, revision=f"rev {row.number}{remark}", date=row.sealed_at.date().isoformat(),
        units=design.settings.units, paper=design.settings.paper, reviewer=row.reviewer, issued=row.kind == "issued",
        reviewed_on=row.reviewed_at.date().isoformat() if row.reviewed_at else "", limits=row.limits,
        acknowledged_by=answered.person if answered else None, acknowledged=answered.lines if answered else (),
    )  # fmt: skip


def _as_issued(
    job_id: str, row: revisions.RevisionRow, design: Design, answered: acknowledged.Acknowledged | None, layouts: tuple[KeptCutting | KeptNest, ...], log: str,
) -> issued.Issued:  # fmt: skip
    """Figures, drawings, lists and the layouts that are kept, as they are now, to be printed again as they are."""
    job = worked(design)
    stamp = replace(stamp_of(row, design, answered=answered), link=link_of(job_id, row.number), log=log)
    with services().gate_of(job).enter():  # not where searches are: who issues waits for none of them
        return as_issued(job, stamp, layouts)


def as_issued(job: Worked, stamp: Stamp, layouts: tuple[KeptCutting | KeptNest, ...] = ()) -> issued.Issued:
    """What is kept with an issue.

    Args:
        job: worked out.
        stamp: that its sheets carry.
        layouts: that go with them.
    """
    return issued.Issued(
        engine=ENGINE_VERSION,
        figures=json.dumps(evaluate(job).model_dump(mode="json") | {"steps": steps_told(job)}, ensure_ascii=False),
        pack=make_pack(job, stamp, chosen=Chosen(layouts=layouts)),
        made_of=MadeOf(stamp=stamp, layouts=layouts).model_dump_json(),
    )


class MadeOf(BaseModel):
    """What a pack is made of beside the design."""

    stamp: Stamp
    layouts: tuple[Annotated[KeptCutting | KeptNest, Field(discriminator="sort")], ...]


def log_head(connection: Connection[Any]) -> str:
    """Number and link of the latest entry of the log, as sheets carry it; empty where nothing is written there.

    Args:
        connection: in a transaction.
    """
    number, link = deeds.head(connection)
    return f"{number} {link}" if number else ""


def who() -> str | None:
    """The id of who is signed in; None where nobody is."""
    found = signed_in()
    return found.person.id if found else None


def own_work(connection: Connection[Any], job_id: str) -> str:
    """Why who is signed in cannot review a job; empty: they can.

    Args:
        connection: in a transaction.
        job_id: the job.
    """
    me = signed_in()
    if me is None:
        return "A review is signed, and nobody has an account here: make them under People."
    if "review" not in MAY[me.person.role]:
        return f"A {ROLES[me.person.role]} does not {WORDS['review']}."
    began = reviews.who_drew(connection, job_id).get(me.person.id)
    if began is not None:
        return f"You changed or issued this job yourself, from its state {began} on. Somebody who did not draw it reviews it."
    return ""


def find_revision(job_id: str, number: int) -> tuple[revisions.RevisionRow, Design, drafts.Draft]:
    """A revision of a job, with the job's draft.

    Raises:
        NotFound: no such job or revision.
    """
    if number > 4_000_000_000:
        raise drafts.NotFound(job_id)
    with services().database.transaction() as connection:
        draft = drafts.get_draft(connection, job_id)
        found = revisions.get_revision(connection, job_id, number)
    if found is None:
        raise drafts.NotFound(job_id)
    return found[0], found[1], draft


@operation(blueprint, "GET", "/api/jobs/<job_id>/revisions/<int:number>", answer=RevisionDesignOut)
def get_revision(job_id: str, number: int) -> RevisionDesignOut:
    """A revision whole."""
    row, design, draft = find_revision(job_id, number)
    with services().database.transaction() as connection:
        kept = issued.get(connection, job_id, number)
        answered = acknowledged.of_job(connection, job_id).get(number)
        signed = reviews.of_job(connection, job_id)
    return RevisionDesignOut(
        revision=_revision_out(row, draft, kept.engine if kept else None, answered, signed), design=design
    )


@operation(blueprint, "GET", "/api/jobs/<job_id>/export")
def export_job(job_id: str) -> Response:
    """The design as a file; the state is sealed as a revision."""
    with services().database.transaction() as connection:
        draft = drafts.get_draft(connection, job_id, lock=True)
        revisions.seal(connection, draft, now())
    response = Response(dump_design(pruned(draft.design)), mimetype="application/json")
    response.headers["Content-Disposition"] = f'attachment; filename="{file_name(draft.design.name)}.json"'
    return response
