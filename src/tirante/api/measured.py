"""Measured against wanted: what a part is measured by, what was read of it, and what that comes to in words."""

from __future__ import annotations

from typing import Annotated, Literal

from flask import Blueprint, request
from pydantic import BaseModel, ConfigDict, Field

from tirante.api.bench import WorkedFrom, worked_from
from tirante.api.context import now, services
from tirante.api.problems import Refused
from tirante.api.routing import operation
from tirante.api.signed_in import signed_in
from tirante.api.traveller import hands_of
from tirante.core.document.fields import Id, Note, Said
from tirante.core.job.measured import STAGES, Sort, Stage, Wanted, judge, wanted_of
from tirante.core.parts.part import Part
from tirante.storage import drafts, measured
from tirante.storage.drafts import NotFound

blueprint = Blueprint("measured", __name__)
NOT_HERE = (
    "torque of jam nuts, and of bolts whose thread is not known: none is worked out",
    "with what a locking nut turns by itself: read that while it is still loose, and add it",
    "how hard a bolt clamps: a torque within still leaves that to friction",
    "what a plate jig allows for shrink: of what it holds tacked readings are held to the cold figures",
)


class PartReadOut(BaseModel):
    """A reading, as it came."""

    id: str
    figure: float
    made: Stage
    instrument: str
    who: str
    note: str
    at: str
    inside: bool
    says: str


class WantedOut(BaseModel):
    """Something that is measured, and all that was read of it, the latest last."""

    key: str
    sort: Sort
    what: str
    unit: Literal["mm", "N·m"]
    figure: float
    tolerance: float
    when: dict[Stage, str] = Field(description="stages of the part at which it is read, in words")
    read: list[PartReadOut]


class MeasuredOut(BaseModel):
    """One hand of a part against what it must be."""

    part_id: str
    hand: str
    metal: str
    wanted: list[WantedOut]
    why: str = Field(description="why its joints give no lengths; empty: they do")
    other_metal: int = Field(description="readings of it when it was of other metal, which count for nothing here")
    not_here: list[str]


class PartReadIn(BaseModel):
    """A reading."""

    model_config = ConfigDict(extra="forbid", strict=True)
    id: Annotated[Id, Field(description="made by the client: the same again does no harm")]
    hand: Literal["left", "right", ""]
    metal: Annotated[str, Field(pattern=r"^[0-9a-f]{1,40}$")]
    what: Annotated[str, Field(max_length=200, description="key of what is measured")]
    figure: Annotated[
        float, Field(ge=-20_000, le=20_000, allow_inf_nan=False, description="in the unit of what is measured")
    ]
    made: Annotated[Stage, Field(description="tacked or cold; of a torque fitted, or outing: after the first")] = "cold"
    instrument: Said = ""
    who: Said = ""
    note: Note = ""


def _of(found: WorkedFrom, part_id: str, hand: str) -> Part:
    """A part that has such a hand.

    Raises:
        NotFound: it is not there, or has not.
    """
    with services().gate_of(found.now).enter():
        part = found.job.part(part_id)
    if part is None or hand not in hands_of(part.side):
        raise NotFound(part_id)
    return part


def _wanted(found: WorkedFrom, part: Part, hand: str) -> tuple[tuple[Wanted, ...], str]:
    with services().gate_of(found.now).enter():
        return wanted_of(found.job, part, hand)


@operation(
    blueprint, "GET", "/api/jobs/<job_id>/measured/<part_id>", answer=MeasuredOut,
    query={"draft": "integer", "hand": "string"},
)  # fmt: skip
def measured_part(job_id: str, part_id: str) -> MeasuredOut:
    """What one hand of a part is measured by as it is issued, and what was read."""
    found, hand = worked_from(job_id), request.args.get("hand", "")
    return _out(job_id, found, _of(found, part_id, hand), hand)


def _out(job_id: str, found: WorkedFrom, part: Part, hand: str) -> MeasuredOut:
    wanted, why = _wanted(found, part, hand)
    with services().database.transaction() as connection:
        every = [one for one in measured.of_job(connection, job_id) if (one.part_id, one.hand) == (part.id, hand)]
    own = [one for one in every if one.metal == part.metal]
    return MeasuredOut(
        part_id=part.id, hand=hand, metal=part.metal, why=why, other_metal=len(every) - len(own), not_here=list(NOT_HERE),
        wanted=[
            WantedOut(
                key=one.key, sort=one.sort, what=one.what, unit=one.unit, figure=one.figure, tolerance=one.tolerance,
                when={stage: STAGES[stage] for stage in one.when},
                read=[_read(one, read) for read in own if read.what == one.key],
            )
            for one in wanted
        ],
    )  # fmt: skip


def _read(wanted: Wanted, one: measured.Measured) -> PartReadOut:
    found = judge(wanted, one.figure, tacked=one.made == "tacked")
    return PartReadOut(
        id=one.id, figure=one.figure, made=one.made, instrument=one.instrument, who=one.who, note=one.note, at=f"{one.came_at.isoformat()}Z", inside=found.inside,
        says=found.says,
    )  # fmt: skip


@operation(blueprint, "POST", "/api/jobs/<job_id>/measured/<part_id>", body=PartReadIn, answer=MeasuredOut)
def keep_measured(job_id: str, part_id: str, data: PartReadIn) -> MeasuredOut:
    """Keep a reading of one hand of a part; one that was wrong is read again, and both are kept."""
    found = worked_from(job_id)
    part = _of(found, part_id, data.hand)
    if part.metal != data.metal:
        raise Refused(409, "stale", "The part is another now than it was on that page. Look at it again.")
    wanted = next((one for one in _wanted(found, part, data.hand)[0] if one.key == data.what), None)
    if wanted is None:
        raise Refused(422, "not_measured", "That is not among what this part is measured by.", "what")
    if data.made not in wanted.when:
        told = " or ".join(STAGES[stage] for stage in wanted.when)
        raise Refused(422, "not_then", f"That is read {told}. Say which.", "made")
    me = signed_in()
    one = measured.Measured(
        id=data.id, part_id=part_id, hand=data.hand, metal=data.metal, what=data.what, figure=data.figure, made=data.made, instrument=data.instrument,
        who=me.person.name if me else data.who, note=data.note, person_id=me.person.id if me else None, came_at=now(),
    )  # fmt: skip
    with services().database.transaction() as connection:
        drafts.get_draft(connection, job_id)
        measured.add(connection, job_id, one)
    return _out(job_id, found, part, data.hand)
