"""Pictures of a job: they come as a camera makes them, and are kept as they were decoded and written anew here."""

from __future__ import annotations

import hashlib
from typing import Annotated, Literal

from flask import Blueprint, Response, request
from pydantic import BaseModel, ConfigDict, Field, TypeAdapter

from tirante.api.context import now, services
from tirante.api.problems import Refused
from tirante.api.routing import operation
from tirante.api.signed_in import signed_in
from tirante.core.document.fields import Id, Said
from tirante.documents.picture_in import MOST_BYTES, picture_of
from tirante.storage import deeds, drafts, people, pictures

blueprint = Blueprint("pictures", __name__)
MEDIA = ("image/jpeg", "image/png", "image/webp")


class PictureOf(BaseModel):
    """What a picture is of, as it is asked with."""

    model_config = ConfigDict(extra="forbid")
    id: Id
    sort: Literal["step", "survey"]
    part_id: Id | None = None
    hand: Literal["left", "right", ""] = ""
    step: Annotated[str, Field(max_length=80, pattern=r"^[a-z0-9:_.-]*$")] = ""
    metal: Annotated[str, Field(pattern=r"^[0-9a-f]{0,40}$")] = ""
    told: Said = ""


class PictureOut(BaseModel):
    """A picture, and what it is of."""

    id: str
    sort: Literal["step", "survey"]
    part_id: str | None
    hand: str
    step: str
    metal: str
    told: str
    wide: int
    high: int
    who: str
    at: str


class PicturesOut(BaseModel):
    """All pictures of a job, as they came."""

    pictures: list[PictureOut]


QUERY = {"id": "string", "sort": "string", "part_id": "string", "hand": "string", "step": "string", "metal": "string", "told": "string"}  # fmt: skip


@operation(blueprint, "GET", "/api/jobs/<job_id>/pictures", answer=PicturesOut)
def get_pictures(job_id: str) -> PicturesOut:
    """The pictures of a job, without their dots."""
    return _all(job_id)


@operation(blueprint, "POST", "/api/jobs/<job_id>/pictures", answer=PicturesOut, query=QUERY, takes=MEDIA)
def add_picture(job_id: str) -> PicturesOut:
    """Keep a picture of a part being made, or one that is measured in: made smaller, without what a camera writes into it."""
    request.max_content_length = MOST_BYTES
    of = TypeAdapter(PictureOf).validate_python(dict(request.args))
    if of.sort == "step" and not (of.part_id and of.step and of.metal):
        raise Refused(422, "invalid", "A picture of a step names its part, its step and the part’s metal.", "step")
    if (request.content_length or 0) > MOST_BYTES:
        raise Refused(413, "too_large", f"That is larger than {MOST_BYTES // 1_000_000} MB. Take it with less resolution.", "picture")  # fmt: skip
    data = request.get_data(cache=False)
    with services().long.enter():
        made = picture_of(data)
    me, time = signed_in(), now()
    kept = pictures.Kept(
        **of.model_dump(), wide=made.wide, high=made.high, sha256=hashlib.sha256(made.jpeg).hexdigest(), came=hashlib.sha256(data).hexdigest(),
        person_id=me.person.id if me else None, came_at=time,
    )  # fmt: skip
    with services().database.transaction() as connection:
        design = drafts.get_draft(connection, job_id).design
        if len(pictures.of_job(connection, job_id)) >= pictures.MOST:
            raise Refused(422, "pictures_full", f"A job keeps {pictures.MOST} pictures at most.", "picture")
        try:
            if pictures.add(connection, job_id, kept, made.jpeg):
                deeds.add(connection, "picture added", {"job": job_id, "part": next((one.name for one in design.parts if one.id == of.part_id), ""), "part_id": of.part_id, "hand": of.hand, "step": of.step, "picture": of.id, "sha256": kept.sha256}, kept.person_id, time)  # fmt: skip
        except pictures.Taken as error:
            raise Refused(409, "id_taken", "A picture with this id is there already and is another. Make a new one.", "id") from error  # fmt: skip
    return _all(job_id)


def _all(job_id: str) -> PicturesOut:
    with services().database.transaction() as connection:
        drafts.get_draft(connection, job_id)
        found = pictures.of_job(connection, job_id)
        names = {one.id: one.name for one in people.everybody(connection)}
    return PicturesOut(
        pictures=[
            PictureOut(
                id=one.id, sort=one.sort, part_id=one.part_id, hand=one.hand, step=one.step, metal=one.metal, told=one.told, wide=one.wide, high=one.high,
                who=names.get(one.person_id or "", ""), at=f"{one.came_at.isoformat()}Z",
            )
            for one in found
        ]
    )  # fmt: skip


@operation(blueprint, "GET", "/api/jobs/<job_id>/pictures/<picture_id>", media="image/jpeg")
def get_picture(job_id: str, picture_id: str) -> Response:
    """A picture as it is kept."""
    with services().database.transaction() as connection:
        found = pictures.jpeg(connection, job_id, picture_id) if job_id.isascii() and picture_id.isascii() else None
    if found is None:
        raise Refused(404, "not_found", "There is no such picture in this job.")
    return Response(found, mimetype="image/jpeg")
