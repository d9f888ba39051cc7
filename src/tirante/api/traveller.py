"""The traveller: how far every part of a car is made, step by step, with what was written down, and what waits for somebody else."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import timedelta
from typing import Annotated, Any, Literal

from flask import Blueprint, request
from pydantic import BaseModel, ConfigDict, Field

from tirante.api.bench import WorkedFrom, parts_and_steps, worked_from
from tirante.api.changes import SinceOut
from tirante.api.context import now, services
from tirante.api.people import again
from tirante.api.problems import Refused
from tirante.api.routing import operation
from tirante.api.signed_in import must_be_signed_in
from tirante.core.document.fields import Id, Note
from tirante.core.document.ticked import Told
from tirante.core.job.bench_steps import StepOut
from tirante.core.job.measured import Stage, judge, wanted_of
from tirante.core.job.traveller import shut_by, stands
from tirante.core.parts.steps import ASKED
from tirante.storage import deeds, drafts, measured, signatures, ticks
from tirante.storage.drafts import NotFound
from tirante.storage.signatures import SignedAlready

blueprint = Blueprint("traveller", __name__)
LATE = timedelta(minutes=2)  # between a tick and its arrival, from which it was made while the server was away
NOT_KEPT = (
    "a photograph that is taken while the server is away",
    "what the design file, a copy of the job and the pack would need of this: it is kept here, with the job",
)


class RowOut(BaseModel):
    """A part, one hand of it, and how far it is made."""

    part_id: str
    name: str
    word: str
    hand: str
    metal: str
    is_now: str = Field(description="in a word or two; empty: nothing is done yet")
    done: int
    of: int
    next: str
    waits: bool = Field(description="for somebody else, who signs")
    left_out: list[str] = Field(description="steps that are not ticked though a later one is")
    unsigned: list[str] = Field(description="of those, what somebody else was to look at")
    otherwise: int = Field(description="steps that were ticked for it with other metal")


class TravellerOut(BaseModel):
    """The whole car at a glance."""

    job: str
    issued: SinceOut | None
    draft: bool = Field(description="these are the steps of the draft: nothing is to be made by it")
    rows: list[RowOut]
    no_steps: list[str] = Field(description="parts that cannot be made yet, so that they have none")
    gone: list[str] = Field(description="ids of parts that were ticked and are in the job no more")
    not_kept: list[str]


class MarkOut(BaseModel):
    """A step ticked, or taken back: as it was made, never changed."""

    done: bool
    made_at: str
    late: bool = Field(description="made while the server was away, and told afterwards")
    number: int | None
    told: Told


class SignedOut(BaseModel):
    """Somebody's signature, as it was made; one that was withdrawn is kept."""

    id: str
    name: str
    number: int
    at: str
    note: str
    withdrawn: str | None = Field(description="why; null: it stands")
    withdrawn_by: str


class DoneStepOut(BaseModel):
    """A step with all that was ever marked of it, the latest last."""

    step: StepOut
    done: bool
    marks: list[MarkOut]
    signed: list[SignedOut]
    waits: str = Field(description="for the signature that opens it; empty: it is open")


class PartTravelsOut(BaseModel):
    """One hand of a part, step by step."""

    part_id: str
    name: str
    hand: str
    metal: str
    steps: list[DoneStepOut]
    asked: dict[str, str] = Field(description="what may be written down with a step, in words")
    other_metal: list[str] = Field(description="what was ticked when it was of other metal, in words")


def hands_of(side: str) -> tuple[str, ...]:
    """The hands of a part that are made each by itself."""
    return ("left", "right") if side == "pair" else ("",)


def _done(
    marks: Sequence[ticks.Tick], signed: Sequence[signatures.Signature], part: dict[str, Any], hand: str
) -> set[str]:
    """Keys of the steps of a hand of a part, of this metal, that are ticked or signed."""
    own = part["id"], hand, part.get("metal")
    ticked = {one.step for one in marks if one.done and (one.part_id, one.hand, one.metal) == own}
    return ticked | {one.step for one in signed if one.stands and (one.part_id, one.hand, one.metal) == own}


@operation(blueprint, "GET", "/api/jobs/<job_id>/traveller", answer=TravellerOut, query={"draft": "integer"})
def traveller(job_id: str) -> TravellerOut:
    """How far every part is made: as it is issued; by the draft where nothing is, or where it is asked for."""
    found = worked_from(job_id)
    with services().gate_of(found.now).enter():
        parts = parts_and_steps(found)
    with services().database.transaction() as connection:
        marks, signed = ticks.standing(connection, job_id), signatures.of_job(connection, job_id)
    rows = []
    for part, own in parts:
        for hand in hands_of(part["side"]) if own else ():
            now = stands(own, _done(marks, signed, part, hand))
            other = sum(
                one.done and one.part_id == part["id"] and one.hand == hand and one.metal != part.get("metal")
                for one in marks
            )
            rows.append(RowOut(
                part_id=part["id"], name=part["name"], word=part["word"], hand=hand, metal=part.get("metal", ""), is_now=now.is_now, done=now.done, of=now.of,
                next=now.next, waits=now.waits, left_out=list(now.left_out), unsigned=list(now.unsigned), otherwise=other,
            ))  # fmt: skip
    return TravellerOut(
        job=found.design.name, issued=found.since, draft=found.draft, rows=rows,
        no_steps=[part["name"] for part, own in parts if not own],
        gone=sorted({one.part_id for one in marks if one.done} - {part["id"] for part, _ in parts}), not_kept=list(NOT_KEPT),
    )  # fmt: skip


@operation(
    blueprint, "GET", "/api/jobs/<job_id>/traveller/<part_id>", answer=PartTravelsOut,
    query={"draft": "integer", "hand": "string"},
)  # fmt: skip
def part_travels(job_id: str, part_id: str) -> PartTravelsOut:
    """The steps of one hand of a part, each with all that was marked of it."""
    return _travels(worked_from(job_id), job_id, part_id, request.args.get("hand", ""))


def _travels(found: WorkedFrom, job_id: str, part_id: str, hand: str) -> PartTravelsOut:
    part, steps = _of_part(found, part_id, hand)
    metal = part.get("metal", "")
    with services().database.transaction() as connection:
        marks = [one for one in ticks.every(connection, job_id, part_id) if one.hand == hand]
        signed = [one for one in signatures.of_job(connection, job_id) if (one.part_id, one.hand, one.metal) == (part_id, hand, metal)]  # fmt: skip
    own = [one for one in marks if one.metal == metal]
    good = {one.step for one in signed if one.stands}
    return PartTravelsOut(
        part_id=part_id, name=part["name"], hand=hand, metal=metal, asked=ASKED,
        steps=[
            _step(step, [one for one in own if one.step == step.key], [one for one in signed if one.step == step.key], shut_by(steps, step.key, good))
            for step in steps
        ],
        other_metal=_otherwise([one for one in marks if one.metal != metal]),
    )  # fmt: skip


def _of_part(found: WorkedFrom, part_id: str, hand: str) -> tuple[dict[str, Any], list[StepOut]]:
    """A part and its steps.

    Raises:
        NotFound: there is no such part, or it has no such hand.
    """
    with services().gate_of(found.now).enter():
        parts = parts_and_steps(found)
    own = next((one for one in parts if one[0]["id"] == part_id), None)
    if own is None or hand not in hands_of(own[0]["side"]):
        raise NotFound(part_id)
    return own


def _step(
    step: StepOut, marks: Sequence[ticks.Tick], signed: Sequence[signatures.Signature], waits: str
) -> DoneStepOut:
    return DoneStepOut(
        step=step, done=any(one.stands for one in signed) if step.hold else bool(marks) and marks[-1].done, waits=waits,
        marks=[
            MarkOut(
                done=one.done, made_at=f"{one.made_at.isoformat()}Z", number=one.number, told=one.told,
                late=one.came_at is not None and one.came_at - one.made_at > LATE,
            )
            for one in marks
        ],
        signed=[
            SignedOut(
                id=one.id, name=one.name, number=one.number, at=f"{one.at.isoformat()}Z", note=one.note, withdrawn=one.withdrawn, withdrawn_by=one.withdrawn_by
            )
            for one in signed
        ],
    )  # fmt: skip


class SignIn(BaseModel):
    """A signature: of what, by whom is known; the password is typed a second time."""

    model_config = ConfigDict(extra="forbid", strict=True)
    id: Annotated[Id, Field(description="made by the client: the same again does no harm")]
    number: Annotated[int, Field(ge=1, le=999_999_999, description="of the issued revision that it is of")]
    hand: Literal["left", "right", ""]
    step: Annotated[str, Field(max_length=60)]
    metal: Annotated[str, Field(pattern=r"^[0-9a-f]{1,40}$")]
    note: Note = ""
    password: Annotated[str, Field(max_length=128)]


@operation(
    blueprint, "POST", "/api/jobs/<job_id>/traveller/<part_id>/sign", body=SignIn, answer=PartTravelsOut
)  # fmt: skip
def sign_step(job_id: str, part_id: str, data: SignIn) -> PartTravelsOut:
    """Sign that somebody else's work was looked at; of an issued revision alone, all before it done, and by none who did it."""
    me = again(data.password, "password")
    found = worked_from(job_id)
    part, steps = _of_part(found, part_id, data.hand)
    if found.draft or found.since is None:
        raise Refused(409, "not_issued", "Nothing is issued yet: what may still change is not signed for. Issue it first.")  # fmt: skip
    if (found.since.number, part.get("metal")) != (data.number, data.metal):
        raise Refused(409, "stale", f"Rev {found.since.number} is issued since, or the part is another in it. Look at it again.")  # fmt: skip
    at = next((i for i, one in enumerate(steps) if one.key == data.step and one.hold), None)
    if at is None:
        raise Refused(422, "no_hold", "That step is not one that is signed.", "step")
    time = now()
    with services().database.transaction() as connection:
        drafts.get_draft(connection, job_id, lock=True)  # two who sign at once: one after the other
        marks = [one for one in ticks.standing(connection, job_id) if (one.part_id, one.hand, one.metal) == (part_id, data.hand, data.metal)]  # fmt: skip
        signed = signatures.of_job(connection, job_id)
        done = _done(marks, signed, part, data.hand)
        open_ = [one.title for one in steps[:at] if one.key not in done]
        if open_:
            raise Refused(409, "open", f"Not done before it: {', '.join(open_)}.")
        did = [one for one in marks if one.done and one.step in {step.key for step in steps[:at]}]
        if any(one.person_id == me.id for one in did):
            raise Refused(403, "own_work", "You ticked steps before this one yourself. Somebody else looks at it and signs.")  # fmt: skip
        titles = {one.key: one.title for one in steps}
        unknown = [titles[one.step] for one in did if one.person_id is None]
        if unknown:
            raise Refused(409, "unknown_hand", f"Who did this is not known, since nobody was signed in: {', '.join(unknown)}. Have whoever did it tick it again.")  # fmt: skip
        out = _out_of_tolerance(found, part_id, data, measured.of_job(connection, job_id)) if data.step in LOOKED_AT else []  # fmt: skip
        if out and not data.note.strip():
            raise Refused(409, "measures_out", f"Not measured within tolerance: {'; '.join(out)}. Have it measured, mended where it is out, and measured again; or say in the note why it may stay so.", "note")  # fmt: skip
        one = signatures.Signature(
            id=data.id, number=data.number, part_id=part_id, hand=data.hand, step=data.step, metal=data.metal, person_id=me.id, name=me.name,
            note=data.note, at=time,
        )  # fmt: skip
        try:
            fresh = signatures.sign(connection, job_id, one)
        except SignedAlready as error:
            raise Refused(409, "signed", f"{error.by} signed it already.") from error
        if fresh:
            deeds.add(connection, "signed", {"job": job_id, "number": data.number, "part": part["name"], "hand": data.hand, "step": data.step, "metal": data.metal, "signature": data.id}, me.id, time)  # fmt: skip
    return _travels(found, job_id, part_id, data.hand)


# at which stage it was read by then, of the holds that look at measures
LOOKED_AT: dict[str, Stage] = {"passed": "cold", "seen": "fitted"}


def _out_of_tolerance(found: WorkedFrom, part_id: str, data: SignIn, read: Sequence[measured.Measured]) -> list[str]:
    """What of one hand of a part was last measured at that stage and is out, or was never measured so, in words: cold, and once it is fitted its torques."""
    with services().gate_of(found.now).enter():
        part = found.job.part(part_id)
        wanted = wanted_of(found.job, part, data.hand)[0] if part else ()
    told = []
    made = LOOKED_AT[data.step]
    for one in wanted:
        if made not in one.when:
            continue
        own = [r for r in read if (r.part_id, r.hand, r.metal, r.what, r.made) == (part_id, data.hand, data.metal, one.key, made)]  # fmt: skip
        if not own:
            told.append(f"{one.what}, never measured {made}")
        elif not (judged := judge(one, own[-1].figure)).inside:
            told.append(f"{one.what}, {judged.says}")
    return told


class WithdrawIn(BaseModel):
    """Why a signature is withdrawn; the password is typed a second time."""

    model_config = ConfigDict(extra="forbid", strict=True)
    why: Annotated[Note, Field(min_length=1)]
    password: Annotated[str, Field(max_length=128)]


def may_withdraw(person_id: str, name: str) -> None:
    """That who is signed in may withdraw what somebody signed: their own, an owner anybody's.

    Raises:
        Refused: 403, it is another's.
    """
    me = must_be_signed_in().person
    if person_id != me.id and me.role != "owner":
        raise Refused(403, "not_yours", f"{name} signed that. They withdraw it, or an owner does.")


@operation(
    blueprint, "POST", "/api/jobs/<job_id>/signatures/<signature_id>/withdraw", body=WithdrawIn, answer=PartTravelsOut
)  # fmt: skip
def withdraw_signature(job_id: str, signature_id: str, data: WithdrawIn) -> PartTravelsOut:
    """Withdraw a signature of one's own, an owner anybody's; it is kept with the reason, and its step is open again."""
    me = again(data.password, "password")
    with services().database.transaction() as connection:
        one = next((one for one in signatures.of_job(connection, job_id) if one.id == signature_id), None)
        if one is None:
            raise NotFound(signature_id)
        may_withdraw(one.person_id, one.name)
        if one.stands:
            signatures.withdraw(connection, signature_id, me.id, data.why, now())
            deeds.add(connection, "signature withdrawn", {"job": job_id, "signature": signature_id, "why": data.why}, me.id, now())  # fmt: skip
    return _travels(worked_from(job_id), job_id, one.part_id, one.hand)


def _otherwise(marks: Sequence[ticks.Tick]) -> list[str]:
    """What was ticked of other metal: by metal, how many steps, and from which revision's card."""
    found = []
    for metal in dict.fromkeys(one.metal for one in marks):
        of_it = {one.step: one for one in marks if one.metal == metal}
        done = sum(one.done for one in of_it.values())
        numbers = sorted({one.number for one in of_it.values() if one.number is not None})
        of = f"rev {', '.join(map(str, numbers))}" if numbers else "a draft"
        if done:
            found.append(
                f"{done} {'step was' if done == 1 else 'steps were'} ticked for it as {of} had it: other metal, which counts for nothing here"
            )
    return found
