"""The bench: the cards of a job, the steps of its parts, and what was ticked of them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime
from typing import Annotated, Any, Literal

from flask import Blueprint, request
from pydantic import BaseModel, ConfigDict, Field

from tirante.api.changes import PartChangedOut, SinceOut, cards_of, draft_of, kept_of, part_changed_out, since_of
from tirante.api.context import now, services, worked
from tirante.api.problems import Refused
from tirante.api.routing import operation
from tirante.api.signed_in import signed_in
from tirante.core.document.design import Design
from tirante.core.document.fields import Id
from tirante.core.document.settings import Settings
from tirante.core.document.ticked import NOTHING, Told
from tirante.core.job.bench_steps import StepOut, steps_told
from tirante.core.job.changes import PartChanged, changes
from tirante.core.job.evaluate import evaluate
from tirante.core.job.results import CardOut
from tirante.core.job.traveller import shut_by
from tirante.core.job.worked import Worked
from tirante.core.parts.steps import HOLDS
from tirante.storage import drafts, signatures, ticks

blueprint = Blueprint("bench", __name__)
_strict = ConfigDict(extra="forbid", strict=True)


class TickOut(BaseModel):
    """A step that was ticked, or signed, for this part as it is made here."""

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


@dataclass(frozen=True, slots=True, kw_only=True)
class WorkedFrom:
    """What a bench works from: an issued revision with all that was kept of it, or the draft."""

    since: SinceOut | None
    draft: bool
    design: Design
    kept: dict[str, Any]  # as it was shown when it was issued; empty of a draft, and where nothing was kept
    now: Worked  # the draft
    before: Design | None  # what is issued

    @property
    def job(self) -> Worked:
        """It, to be worked out."""
        return self.now if self.draft else worked(self.design)

    def steps(self, job: Worked) -> dict[str, list[dict[str, Any]]]:
        """The steps that were kept with an issue; of one that kept none those of the parts that are still worked out to the same metal.

        Args:
            job: it, worked out.
        """
        kept: dict[str, list[dict[str, Any]]] | None = self.kept.get("steps")
        if kept is not None:
            return kept
        metals = {part["id"]: part.get("metal") for part in self.kept.get("parts", [])}
        same = {part.id for part in job.parts if not metals or metals.get(part.id) == part.metal}
        return {own: found for own, found in steps_told(job).items() if own in same}


def parts_and_steps(found: WorkedFrom) -> list[tuple[dict[str, Any], list[StepOut]]]:
    """The parts as they are worked from, each with its steps.

    Args:
        found: what is worked from.
    """
    job = found.job
    parts = found.kept.get("parts") or [{"id": one.id, "name": one.name, "word": one.word, "side": one.side, "metal": one.metal} for one in job.parts]  # fmt: skip
    steps = found.steps(job)
    return [(part, [StepOut.model_validate(one) for one in steps.get(part["id"], [])]) for part in parts]


def worked_from(job_id: str, *, draft: bool = False) -> WorkedFrom:
    """What a job is worked from: as it is issued; the draft where nothing is, or where the request asks for it.

    Args:
        job_id: the job.
        draft: whether the draft is asked for here.
    """
    stands = draft_of(job_id)
    found = since_of(job_id, stands, None)
    of_draft = found is None or draft or request.args.get("draft") == "1"
    since, design, kept = found or (None, None, None)
    return WorkedFrom(
        since=since, draft=of_draft, design=stands.design if of_draft or design is None else design, kept={} if of_draft else kept_of(kept),
        now=worked(stands.design), before=design,
    )  # fmt: skip


@operation(blueprint, "GET", "/api/jobs/<job_id>/bench", answer=BenchOut, query={"draft": "integer"})
def bench(job_id: str) -> BenchOut:
    """The cards to work from at the bench: as they were issued; of the draft where nothing is, or where it is asked for."""
    found = worked_from(job_id)
    with services().gate_of(found.now).enter():
        told: list[PartChanged] = []
        if found.since is not None and found.before is not None and not found.since.current:
            told = changes(worked(found.before), found.now)
        shown = found.kept or evaluate(found.job).model_dump()
        steps = found.steps(found.job)
    left = [f"{one['end']}, {one['name']}: {one['why']}" for one in shown.get("not_made", [])]
    with services().database.transaction() as connection:
        ticked, signed = ticks.standing(connection, job_id), signatures.of_job(connection, job_id)
    return BenchOut(
        job=found.design.name, settings=found.design.settings, issued=found.since, draft=found.draft,
        parts=[_bench_part(part, steps, ticked, signed) for part in shown.get("parts", [])], changes=[part_changed_out(one) for one in told], not_here=left,
    )  # fmt: skip


def _bench_part(
    part: dict[str, Any],
    steps: dict[str, list[dict[str, Any]]],
    ticked: Sequence[ticks.Tick],
    signed: Sequence[signatures.Signature],
) -> BenchPartOut:
    card = cards_of([part]).get(part["id"])
    more = {name: part.get(name, "") for name in ("id", "name", "word", "side", "status", "headline", "metal")}
    of_part = [one for one in ticked if one.part_id == part["id"]]
    return BenchPartOut(
        **more, card=card, own_mirror=part.get("own_mirror", True), welding=part.get("welding", []),
        steps=len(steps.get(part["id"], [])),
        ticks=[
            TickOut(step=one.step, hand=one.hand, done=one.done, made_at=f"{one.made_at.isoformat()}Z") for one in of_part if one.metal == more["metal"]
        ] + [
            TickOut(step=one.step, hand=one.hand, done=True, made_at=f"{one.at.isoformat()}Z")
            for one in signed if one.stands and one.part_id == part["id"] and one.metal == more["metal"]
        ],
        otherwise=sum(one.done for one in of_part if one.metal != more["metal"]),
    )  # fmt: skip


class StepsOut(BaseModel):
    """Of every part by its id the steps that it is made in."""

    steps: dict[str, list[StepOut]]


@operation(blueprint, "GET", "/api/jobs/<job_id>/bench/steps", answer=StepsOut, query={"draft": "integer"})
def bench_steps(job_id: str) -> StepsOut:
    """The steps of the cards of a bench: as they were issued; of the draft where nothing is, or where it is asked for."""
    found = worked_from(job_id)
    with services().gate_of(found.now).enter():
        return StepsOut.model_validate({"steps": found.steps(found.job)})


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
    told: Told = Field(default=NOTHING, description="what was written down with it")


class TicksIn(BaseModel):
    """Ticks as they were made, in any order."""

    model_config = _strict
    ticks: Annotated[list[TickIn], Field(min_length=1, max_length=500)]


class TickRefusedOut(BaseModel):
    """A tick that was not kept, and why."""

    id: str
    why: str


class TicksOut(BaseModel):
    """How many are kept, and which are not."""

    kept: int
    refused: list[TickRefusedOut]


@operation(blueprint, "POST", "/api/jobs/<job_id>/ticks", body=TicksIn, answer=TicksOut)
def keep_ticks(job_id: str, data: TicksIn) -> TicksOut:
    """Keep ticks of the bench; of two of one step the later made stands. What waits for somebody's signature is not kept, by whatever way it comes."""
    for i, one in enumerate(data.ticks):
        if one.step in HOLDS:
            raise Refused(422, "signed", "Somebody else signs for this step: it is not ticked.", f"ticks.{i}.step")
    me, time = signed_in(), now()
    ways = _ways(job_id) if any(one.done for one in data.ticks) else {}
    with services().database.transaction() as connection:
        drafts.get_draft(connection, job_id)
        signed = signatures.of_job(connection, job_id)
        shut = {one.id: why for one in data.ticks if one.done and (why := _shut(one, ways, signed))}
        kept = [one for one in data.ticks if one.id not in shut]
        ticks.add(connection, job_id, [
            ticks.Tick(
                id=one.id, number=one.number, part_id=one.part_id, hand=one.hand, step=one.step, metal=one.metal, done=one.done,
                person_id=me.person.id if me else None, told=one.told.model_copy(update={"who": me.person.name}) if me else one.told,
                made_at=min(datetime.fromtimestamp(one.at_ms / 1000, UTC).replace(tzinfo=None), time),  # a clock that is ahead does not outlast what is ticked later
            )
            for one in kept
        ], time)  # fmt: skip
    return TicksOut(kept=len(kept), refused=[TickRefusedOut(id=own, why=why) for own, why in shut.items()])


Ways = dict[tuple[str, str], list[StepOut]]


def _ways(job_id: str) -> Ways:
    """Of every part, with its metal, the steps that it is made in: as it is issued; by the draft what is in no issue so."""
    found: Ways = {}
    for one in {from_.draft: from_ for from_ in (worked_from(job_id), worked_from(job_id, draft=True))}.values():
        with services().gate_of(one.now).enter():
            for part, steps in parts_and_steps(one):
                found.setdefault((part["id"], part.get("metal", "")), steps)
    return found


def _shut(tick: TickIn, ways: Ways, signed: Sequence[signatures.Signature]) -> str:
    """Why a tick is not kept; empty where it is."""
    done = {
        one.step for one in signed if one.stands and (one.part_id, one.hand, one.metal) == (tick.part_id, tick.hand, tick.metal)
    }  # fmt: skip
    hold = shut_by(ways.get((tick.part_id, tick.metal), []), tick.step, done)
    return (
        hold and f"It waits for a signature: {hold[0].lower()}{hold[1:]}. What comes after that is not ticked before."
    )
