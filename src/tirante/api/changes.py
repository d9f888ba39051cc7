"""What differs: between an issued revision and the job as it stands, between two people's drafts; and what a bench needs of either."""

from __future__ import annotations

import json
from dataclasses import asdict
from typing import Annotated, Any, Literal

from flask import Blueprint, request
from pydantic import BaseModel, ConfigDict, Field, ValidationError

from tirante.api.context import services, worked
from tirante.api.jobs import DraftOut, draft_out, find_revision
from tirante.api.packs import number_asked
from tirante.api.problems import Refused
from tirante.api.routing import operation
from tirante.core.document.design import Design, TiedDesign
from tirante.core.document.merge import merge
from tirante.core.drawing.model import Drawing
from tirante.core.job.changes import FigureChanged, PartChanged, Verdict, changes, issued_otherwise
from tirante.core.job.clashes import clash_told, way_told
from tirante.core.job.glance import glance
from tirante.core.job.results import CardOut
from tirante.storage import drafts, issued, revisions

blueprint = Blueprint("changes", __name__)
_strict = ConfigDict(extra="forbid", strict=True)


class SinceOut(BaseModel):
    """A revision that somebody may have built from."""

    number: int
    name: str
    sealed_at: str
    reviewer: str | None
    current: bool = Field(description="the job stands as it was issued")


class FigureChangedOut(BaseModel):
    """A length that somebody works to, before and now."""

    label: str
    before_mm: float | None
    now_mm: float | None


class PartChangedOut(BaseModel):
    """A part that differs, and what is to be done with one that was made."""

    part_id: str
    name: str
    word: str
    verdict: Verdict
    says: str
    figures: list[FigureChangedOut]
    turns: float | None
    left_mm: float


class OtherEngineOut(BaseModel):
    """A part whose issued sheets have other figures than this engine makes of the same design."""

    name: str
    figures: list[FigureChangedOut]


class ChangesOut(BaseModel):
    """What changed since a revision; nothing to compare with where none is issued."""

    since: SinceOut | None
    parts: list[PartChangedOut]
    otherwise: list[OtherEngineOut]


class GlanceOut(BaseModel):
    """A job in a list of jobs."""

    drawing: Drawing | None
    parts: int
    stop: int = Field(description="lines to be settled, by how grave they are")
    attention: int
    incomplete: int
    issued: int | None = Field(description="the latest revision that is issued")
    current: bool = Field(description="it stands as it was issued")


class MergeIn(BaseModel):
    """My draft, and what it grew from; theirs is the job's."""

    model_config = _strict
    base: TiedDesign
    mine: TiedDesign
    take: dict[Annotated[str, Field(max_length=600)], Literal["mine", "theirs"]] = Field(default={}, max_length=2000)


class ClashOut(BaseModel):
    """A field that both changed."""

    key: str
    of: str
    field: str
    base: str
    mine: str
    theirs: str


class MergeOut(BaseModel):
    """Both drafts in one; what both changed is theirs unless it is taken otherwise."""

    theirs: DraftOut
    merged: Design | None = Field(description="null: the two do not go together so, `fault` says why")
    fault: str
    clashes: list[ClashOut]
    mine: list[str]
    others: list[str]


def since_of(
    job_id: str, draft: drafts.Draft, asked: str | None
) -> tuple[SinceOut, Design, issued.Issued | None] | None:
    """The revision that is compared with: the one asked for, or the latest that is issued."""
    with services().database.transaction() as connection:
        rows = revisions.list_revisions(connection, job_id)
    if asked is None:
        row = next((one for one in rows if one.kind == "issued"), None)
        if row is None:
            return None
        number = row.number
    else:
        number = number_asked(asked)
    row, design, _ = find_revision(job_id, number)
    with services().database.transaction() as connection:
        kept = issued.get(connection, job_id, number)
    since = SinceOut(
        number=row.number, name=row.name, sealed_at=row.sealed_at.isoformat(timespec="milliseconds") + "Z", reviewer=row.reviewer,
        current=row.digest == draft.digest,
    )  # fmt: skip
    return since, design, kept


def draft_of(job_id: str) -> drafts.Draft:
    with services().database.transaction() as connection:
        return drafts.get_draft(connection, job_id)


def _figures(found: tuple[FigureChanged, ...]) -> list[FigureChangedOut]:
    return [FigureChangedOut(label=one.label, before_mm=one.before, now_mm=one.now) for one in found]


def part_changed_out(one: PartChanged) -> PartChangedOut:
    """A part that differs, as it is told.

    Args:
        one: the part.
    """
    return PartChangedOut(
        part_id=one.part_id, name=one.name, word=one.word, verdict=one.verdict, says=one.says, figures=_figures(one.figures), turns=one.turns,
        left_mm=one.left,
    )  # fmt: skip


def kept_of(kept: issued.Issued | None) -> dict[str, Any]:
    """An issued revision as it was shown then; empty where nothing was kept."""
    found: dict[str, Any] = json.loads(kept.figures) if kept else {}
    return found


def kept_parts(kept: issued.Issued | None) -> list[dict[str, Any]]:
    return list(kept_of(kept).get("parts", []))


def cards_of(parts: list[dict[str, Any]]) -> dict[str, CardOut]:
    found = {}
    for part in parts:
        try:
            found[part["id"]] = CardOut.model_validate(part["card"])
        except (KeyError, ValidationError):
            continue  # not complete then, or kept by an engine that knew no such card
    return found


@operation(blueprint, "GET", "/api/jobs/<job_id>/changes", answer=ChangesOut, query={"since": "integer"})
def changes_since(job_id: str) -> ChangesOut:
    """What changed since a revision, part by part; without one since the latest that is issued."""
    draft = draft_of(job_id)
    found = since_of(job_id, draft, request.args.get("since"))
    if found is None:
        return ChangesOut(since=None, parts=[], otherwise=[])
    since, design, kept = found
    before, now = worked(design), worked(draft.design)
    with services().gate_of(now).enter():
        parts = [] if since.current else changes(before, now)
        other = issued_otherwise(cards_of(kept_parts(kept)), before)
    return ChangesOut(
        since=since, parts=[part_changed_out(one) for one in parts],
        otherwise=[OtherEngineOut(name=name, figures=_figures(figures)) for name, figures in other],
    )  # fmt: skip


@operation(blueprint, "GET", "/api/jobs/<job_id>/glance", answer=GlanceOut)
def glance_at(job_id: str) -> GlanceOut:
    """A job at a glance, for a list of jobs: its car in small, what is to be settled, what is issued."""
    draft = draft_of(job_id)
    with services().database.transaction() as connection:
        rows = revisions.list_revisions(connection, job_id)
    row = next((one for one in rows if one.kind == "issued"), None)
    job = worked(draft.design)
    with services().long.enter():
        found = job.memory.get("glance", draft.digest, lambda: glance(job))
    return GlanceOut(
        **{name: getattr(found, name) for name in ("drawing", "parts", "stop", "attention", "incomplete")},
        issued=row.number if row else None, current=row is not None and row.digest == draft.digest,
    )  # fmt: skip


@operation(blueprint, "POST", "/api/jobs/<job_id>/merge", body=MergeIn, answer=MergeOut)
def merge_drafts(job_id: str, data: MergeIn) -> MergeOut:
    """My draft and the job's, which grew from one: put together, and what both changed field by field. Nothing is saved."""
    draft = draft_of(job_id)
    base, mine, theirs = (one.model_dump(mode="json") for one in (data.base, data.mine, draft.design))
    found = merge(base, mine, theirs, data.take)
    known = {clash.key for clash in found.clashes}
    unknown = next((key for key in data.take if key not in known), None)
    if unknown is not None:
        raise Refused(422, "no_such_clash", "That field is settled already. Look at the two versions again.", "take")
    designs = (data.base, draft.design, data.mine)
    merged, fault = None, ""
    try:
        merged = Design.model_validate_json(json.dumps(found.design))
    except ValidationError as error:
        fault = str(error.errors()[0]["msg"])
    return MergeOut(
        theirs=draft_out(draft), merged=merged, fault=fault,
        clashes=[ClashOut(**asdict(clash_told(one, designs))) for one in found.clashes],
        mine=list(dict.fromkeys(way_told(way, designs) for way in found.mine)),
        others=list(dict.fromkeys(way_told(way, designs) for way in found.theirs)),
    )  # fmt: skip
