"""What differs: between an issued revision and the job as it stands, between two people's drafts; and what a bench needs of either."""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import asdict
from datetime import UTC, datetime
from typing import Annotated, Any, Literal

from flask import Blueprint, request
from pydantic import BaseModel, ConfigDict, Field, ValidationError

from tirante.api.context import services, worked
from tirante.api.jobs import DraftOut, draft_out, find_revision
from tirante.api.packs import number_asked
from tirante.api.problems import Refused
from tirante.api.routing import operation
from tirante.core.document.design import Design, TiedDesign
from tirante.core.document.fields import Id
from tirante.core.document.merge import merge
from tirante.core.document.settings import Settings
from tirante.core.drawing.model import Drawing
from tirante.core.job.bench_steps import StepOut, steps_told
from tirante.core.job.changes import FigureChanged, PartChanged, Verdict, changes, issued_otherwise
from tirante.core.job.clashes import clash_told, way_told
from tirante.core.job.evaluate import evaluate
from tirante.core.job.glance import glance
from tirante.core.job.results import CardOut
from tirante.core.job.worked import Worked
from tirante.storage import drafts, issued, revisions, ticks

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


class TickOut(BaseModel):
    """A step that was ticked for this part as it is made here."""

    step: str
    hand: str
    done: bool
    made_at: str


class BenchPartOut(BaseModel):
    """A part as somebody makes it."""

    id: str
    name: str
    word: str
    side: str
    own_mirror: bool
    status: str
    headline: str
    card: CardOut | None
    welding: list[str]
    metal: str = Field(description="fingerprint, that its ticks name")
    steps: int = Field(
        description="how many it is made in; what they are is asked by itself, so that a phone's first card is light"
    )
    ticks: list[TickOut]
    otherwise: int = Field(description="steps that were ticked for it as it was once, with other metal")


class BenchOut(BaseModel):
    """The cards of a job: of what is issued, or of the draft, marked so; what has changed since it was issued."""

    job: str
    settings: Settings
    issued: SinceOut | None
    draft: bool = Field(description="these cards are of the draft, not to cut from")
    parts: list[BenchPartOut]
    changes: list[PartChangedOut]
    not_here: list[str] = Field(description="what moves with the car and has no card here, each with the reason")


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


def _since(job_id: str, draft: drafts.Draft, asked: str | None) -> tuple[SinceOut, Design, issued.Issued | None] | None:
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


def _draft(job_id: str) -> drafts.Draft:
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


def _kept(kept: issued.Issued | None) -> dict[str, Any]:
    """An issued revision as it was shown then; empty where nothing was kept."""
    found: dict[str, Any] = json.loads(kept.figures) if kept else {}
    return found


def _kept_parts(kept: issued.Issued | None) -> list[dict[str, Any]]:
    return list(_kept(kept).get("parts", []))


def _cards(parts: list[dict[str, Any]]) -> dict[str, CardOut]:
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
    draft = _draft(job_id)
    found = _since(job_id, draft, request.args.get("since"))
    if found is None:
        return ChangesOut(since=None, parts=[], otherwise=[])
    since, design, kept = found
    before, now = worked(design), worked(draft.design)
    with services().gate_of(now).enter():
        parts = [] if since.current else changes(before, now)
        other = issued_otherwise(_cards(_kept_parts(kept)), before)
    return ChangesOut(
        since=since, parts=[part_changed_out(one) for one in parts],
        otherwise=[OtherEngineOut(name=name, figures=_figures(figures)) for name, figures in other],
    )  # fmt: skip


@operation(blueprint, "GET", "/api/jobs/<job_id>/bench", answer=BenchOut, query={"draft": "integer"})
def bench(job_id: str) -> BenchOut:
    """The cards to work from at the bench: as they were issued; of the draft where nothing is, or where it is asked for."""
    draft = _draft(job_id)
    found = _since(job_id, draft, None)
    of_draft = found is None or request.args.get("draft") == "1"
    now = worked(draft.design)
    design, kept = draft.design, None
    with services().gate_of(now).enter():
        told: list[PartChanged] = []
        if found is not None:
            told = [] if found[0].current else changes(worked(found[1]), now)
            if not of_draft:
                design, kept = found[1], found[2]
        made_of = now if of_draft else worked(design)
        shown = _kept(kept) or evaluate(made_of).model_dump()
        steps = _steps(shown, made_of)
    left = [f"{one['end']}, {one['name']}: {one['why']}" for one in shown.get("not_made", [])]
    with services().database.transaction() as connection:
        ticked = ticks.standing(connection, job_id)
    return BenchOut(
        job=design.name, settings=design.settings, issued=found[0] if found else None, draft=of_draft,
        parts=[_bench_part(part, steps, ticked) for part in shown.get("parts", [])], changes=[part_changed_out(one) for one in told], not_here=left,
    )  # fmt: skip


def _steps(shown: dict[str, Any], job: Worked) -> dict[str, Any]:
    """The steps that were kept with an issue; of one that kept none those of the parts that are still worked out to the same metal."""
    kept: dict[str, Any] | None = shown.get("steps")
    if kept is not None:
        return kept
    metals = {part["id"]: part.get("metal") for part in shown.get("parts", [])}
    same = {part.id for part in job.parts if not metals or metals.get(part.id) == part.metal}
    return {own: found for own, found in steps_told(job).items() if own in same}


def _bench_part(
    part: dict[str, Any], steps: dict[str, list[dict[str, Any]]], ticked: Sequence[ticks.Tick]
) -> BenchPartOut:
    card = _cards([part]).get(part["id"])
    more = {name: part.get(name, "") for name in ("id", "name", "word", "side", "status", "headline", "metal")}
    of_part = [one for one in ticked if one.part_id == part["id"]]
    return BenchPartOut(
        **more, card=card, own_mirror=part.get("own_mirror", True), welding=part.get("welding", []),
        steps=len(steps.get(part["id"], [])),
        ticks=[
            TickOut(step=one.step, hand=one.hand, done=one.done, made_at=f"{one.made_at.isoformat()}Z") for one in of_part if one.metal == more["metal"]
        ],
        otherwise=sum(one.done for one in of_part if one.metal != more["metal"]),
    )  # fmt: skip


class StepsOut(BaseModel):
    """Of every part by its id the steps that it is made in."""

    steps: dict[str, list[StepOut]]


@operation(blueprint, "GET", "/api/jobs/<job_id>/bench/steps", answer=StepsOut, query={"draft": "integer"})
def bench_steps(job_id: str) -> StepsOut:
    """The steps of the cards of a bench: as they were issued; of the draft where nothing is, or where it is asked for."""
    draft = _draft(job_id)
    found = _since(job_id, draft, None)
    if found is None or request.args.get("draft") == "1":
        job, kept = worked(draft.design), None
    else:
        job, kept = worked(found[1]), found[2]
    with services().gate_of(job).enter():
        return StepsOut.model_validate({"steps": _steps(_kept(kept), job)})


class TickIn(BaseModel):
    """A step ticked, or not done after all; made at the bench, maybe while the server was away."""

    model_config = _strict
    id: Annotated[Id, Field(description="made by the client: the same again does no harm")]
    number: Annotated[
        int | None, Field(ge=0, le=999_999_999, description="of the issued revision whose card it was; null: a draft")
    ]
    part_id: Id
    hand: Literal["left", "right", ""]
    step: Annotated[str, Field(pattern=r"^[a-z]+(:[0-9A-Za-z.]+)*$", max_length=60)]
    metal: Annotated[str, Field(pattern=r"^[0-9a-f]{1,40}$")]
    done: bool
    at_ms: Annotated[
        int, Field(ge=0, le=32_503_680_000_000, description="when it was ticked, milliseconds since 1970, UTC")
    ]


class TicksIn(BaseModel):
    """Ticks as they were made, in any order."""

    model_config = _strict
    ticks: Annotated[list[TickIn], Field(min_length=1, max_length=500)]


class TicksOut(BaseModel):
    """That they are kept."""

    kept: int


@operation(blueprint, "POST", "/api/jobs/<job_id>/ticks", body=TicksIn, answer=TicksOut)
def keep_ticks(job_id: str, data: TicksIn) -> TicksOut:
    """Keep ticks of the bench; of two of one step the later made stands."""
    time = datetime.now(UTC).replace(tzinfo=None)
    with services().database.transaction() as connection:
        drafts.get_draft(connection, job_id)
        ticks.add(connection, job_id, [
            ticks.Tick(
                id=one.id, number=one.number, part_id=one.part_id, hand=one.hand, step=one.step, metal=one.metal, done=one.done,
                made_at=min(datetime.fromtimestamp(one.at_ms / 1000, UTC).replace(tzinfo=None), time),  # a clock that is ahead does not outlast what is ticked later
            )
            for one in data.ticks
        ], time)  # fmt: skip
    return TicksOut(kept=len(data.ticks))


@operation(blueprint, "GET", "/api/jobs/<job_id>/glance", answer=GlanceOut)
def glance_at(job_id: str) -> GlanceOut:
    """A job at a glance, for a list of jobs: its car in small, what is to be settled, what is issued."""
    draft = _draft(job_id)
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
    draft = _draft(job_id)
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
