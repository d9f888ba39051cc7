"""Reviews of issued revisions: signed by somebody who did not draw the job, and withdrawn with a reason."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated

from flask import Blueprint
from pydantic import BaseModel, ConfigDict, Field

from tirante import ENGINE_VERSION
from tirante.api.context import link_of, now, services, worked
from tirante.api.jobs import MadeOf, NumberOut, find_revision, log_head, own_work, stamp_of
from tirante.api.people import again
from tirante.api.problems import Refused
from tirante.api.routing import operation
from tirante.api.traveller import WithdrawIn, may_withdraw
from tirante.core.document.design import Design
from tirante.core.document.fields import Id, Note
from tirante.documents.pack import make_pack
from tirante.documents.sheets import Chosen
from tirante.storage import acknowledged, cuttings, deeds, drafts, issued, reviews, revisions
from tirante.storage.drafts import NotFound
from tirante.storage.signatures import SignedAlready

blueprint = Blueprint("reviews", __name__)
UNKNOWN = "Part of this job was saved by nobody who was signed in: who drew that is not known."


class ReviewIn(BaseModel):
    """A review: of which revision the address says, by whom is known; the password is typed a second time."""

    model_config = ConfigDict(extra="forbid", strict=True)
    id: Annotated[Id, Field(description="made by the client: the same again does no harm")]
    limits: Annotated[Note, Field(min_length=1, description="what was looked at, and what was not")]
    password: Annotated[str, Field(max_length=128)]


@operation(
    blueprint, "POST", "/api/jobs/<job_id>/revisions/<int:number>/review", body=ReviewIn, answer=NumberOut
)  # fmt: skip
def sign_review(job_id: str, number: int, data: ReviewIn) -> NumberOut:
    """Sign a review of an issued revision; its sheets then carry name, limits and date instead of NOT REVIEWED."""
    me = again(data.password, "password")
    row, design, _ = find_revision(job_id, number)
    time = now()
    with services().database.transaction() as connection:
        signed = reviews.of_job(connection, job_id)
        if any((one.id, one.number, one.person_id) == (data.id, number, me.id) for one in signed):
            return NumberOut(number=number)
        own = own_work(connection, job_id)
        unknown = "" in reviews.who_drew(connection, job_id)
        kept = issued.get(connection, job_id, number, unreviewed=True)
        log = log_head(connection)
    if own:
        raise Refused(403, "own_work", own)
    if row.kind != "issued" or kept is None:
        raise Refused(409, "not_issued", "Only what is issued, and kept as it was issued, is reviewed: what may still change is not signed for. Issue it first.")  # fmt: skip
    if not data.limits.strip():
        raise Refused(422, "limits", "Say what was looked at, and what was not.", "limits")
    one = reviews.Review(id=data.id, number=number, person_id=me.id, name=me.name, limits=f"{data.limits.strip()}{f' {UNKNOWN}' if unknown else ''}", at=time)  # fmt: skip
    pack = _with_review(job_id, row, design, kept, one, log)
    with services().database.transaction() as connection:
        drafts.get_draft(connection, job_id, lock=True)  # two who sign at once: one after the other
        own = own_work(connection, job_id)  # what they saved while the pack was made counts
        if own:
            raise Refused(403, "own_work", own)
        try:
            reviews.keep(connection, job_id, one, pack)
        except SignedAlready as error:
            raise Refused(409, "signed", f"{error.by} reviewed and signed it already.") from error
        deeds.add(connection, "reviewed", {"job": job_id, "number": number, "digest": row.digest, "limits": one.limits, "review": one.id}, me.id, time)  # fmt: skip
    return NumberOut(number=number)


def _with_review(
    job_id: str, row: revisions.RevisionRow, design: Design, kept: issued.Issued, one: reviews.Review, log: str
) -> bytes:
    """The pack as it was issued, with the review on its sheets and nothing else otherwise.

    Raises:
        Refused: 409, made again it is another than what was issued: by another engine, or with other layouts.
    """
    made_of = MadeOf.model_validate_json(kept.made_of) if kept.made_of else None
    if made_of is None:
        with services().database.transaction() as connection:
            answered = acknowledged.of_job(connection, job_id).get(row.number)
            made_of = MadeOf(
                stamp=replace(stamp_of(row, design, answered=answered), link=link_of(job_id, row.number)),
                layouts=cuttings.standing(connection, job_id),
            )
    job, chosen = worked(design), Chosen(layouts=made_of.layouts)
    stamp = replace(made_of.stamp, reviewer=None, reviewed_on="", limits="")
    with services().long.enter():
        if kept.engine != ENGINE_VERSION or make_pack(job, stamp, chosen=chosen) != kept.pack:
            raise Refused(
                409, "made_otherwise",
                f"What was issued by engine {kept.engine} comes out otherwise when it is made again by {ENGINE_VERSION}, so that no review can be put on its sheets. Issue the job again and review that.",
            )  # fmt: skip
        reviewed = replace(stamp, reviewer=one.name, reviewed_on=one.at.date().isoformat(), limits=one.limits, log=log)
        return make_pack(job, reviewed, chosen=chosen)


@operation(
    blueprint, "POST", "/api/jobs/<job_id>/reviews/<review_id>/withdraw", body=WithdrawIn, answer=NumberOut
)  # fmt: skip
def withdraw_review(job_id: str, review_id: str, data: WithdrawIn) -> NumberOut:
    """Withdraw a review of one's own, an owner anybody's; it is kept with the reason, and the sheets say NOT REVIEWED again."""
    me = again(data.password, "password")
    with services().database.transaction() as connection:
        one = next((one for one in reviews.of_job(connection, job_id) if one.id == review_id), None)
        if one is None:
            raise NotFound(review_id)
        may_withdraw(one.person_id, one.name)
        if one.stands:
            reviews.withdraw(connection, review_id, me.id, data.why, now())
            deeds.add(connection, "review withdrawn", {"job": job_id, "number": one.number, "review": review_id, "why": data.why}, me.id, now())  # fmt: skip
    return NumberOut(number=one.number)
