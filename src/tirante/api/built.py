"""What was read of a car as it is built: readings are added, taken back, never changed; which dimension would explain them is worked out anew."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from flask import Blueprint, request
from pydantic import BaseModel, ConfigDict, Field

from tirante.api.context import services, worked
from tirante.api.routing import operation
from tirante.api.survey import add_entries, unit_of
from tirante.core.document.built import AngleTaken, BuiltEntry, HeightTaken
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Numbers
from tirante.core.job.as_read import AngleSeen, Group, as_read, bench_words
from tirante.core.job.heights import chassis_places, heights_seen
from tirante.core.job.surveyed import survey_of
from tirante.core.job.which_view import which_view, words
from tirante.core.job.worked import Worked
from tirante.core.parts.numbers import numbers_of
from tirante.core.suspension.error_words import told, what
from tirante.core.suspension.which_error import MOST_MM, MoreRead, Sds, says
from tirante.storage import drafts, entries

blueprint = Blueprint("built", __name__)
USUAL = Sds()


class AngleSeenOut(BaseModel):
    """A reading, and what the model says where the wheel then stood."""

    taken: AngleTaken
    made_at: str
    sd: float
    leaned: float | None = Field(
        description="deg of the floor’s lean, taken out of it; null: it stood on a floor that is not known"
    )
    back: str | None = Field(description="why it was taken back; null: it counts")
    model: float | None = Field(description="deg; null: not worked out")
    explained: float | None = Field(description="deg; what the model says with the likeliest error in it")


class ErrorOut(BaseModel):
    """One error that would explain what was read."""

    key: str
    says: str
    bench: str
    size_mm: float
    sd_mm: float
    chi2: float = Field(description="that it leaves")
    named: bool = Field(description="as likely as the likeliest")


class NextReadingOut(BaseModel):
    """A further reading that would tell the likeliest errors apart."""

    measure: str
    risen_mm: float
    roll_deg: float
    steer: float
    expected: list[tuple[str, float]] = Field(description="what would be read, by error")
    tells: list[str] = Field(description="errors that it tells from the likeliest")
    sd: float


class ReadOut(BaseModel):
    """All that was read of an end; of an independent one, of one wheel."""

    end: str
    name: str
    wheel: Literal["left", "right", ""] = Field(description="empty: of a beam, both")
    readings: list[AngleSeenOut]
    lost: str = Field(description="why nothing could be told")
    verdict: Literal["fits", "one_error", "cannot_tell", "not_one_error"] | None
    says: str
    errors: list[ErrorOut] = Field(description="those as likely as the likeliest, then the next five")
    next: list[NextReadingOut]
    tape: list[str] = Field(description="what no angle tells apart, and is to be measured itself")
    unseen: list[str] = Field(description="what would not show in these readings")
    left_out: list[str] = Field(description="what is not looked for, with the reason")
    surveyed: int = Field(
        description="points of the end whose deviations the survey says; all others count as sure to `place_sd_mm`"
    )
    most_mm: float = Field(description="no larger error is looked for")
    height_sd_mm: float = Field(description="of each wheel’s height, at each position by itself")
    length_sd_mm: float = Field(description="of made lengths")
    place_sd_mm: float = Field(description="of each place along each axis, where no survey says")
    drawing: Drawing


class HeightSeenOut(BaseModel):
    """A height that was read, and what it was to be."""

    taken: HeightTaken
    made_at: str
    back: str | None = Field(description="why it was taken back; null: it counts")
    wanted: float | None = Field(description="mm over the floor, as the layout has it at ride height")
    inside: bool
    stands: bool = Field(description="whether it is the latest of its place that was not taken back")
    says: str


class CanRead(BaseModel):
    """An end, and what can be read of it."""

    end: str
    name: str
    beam: bool
    steered: Literal["", "mm", "deg"]
    measures: list[str]
    heights: dict[str, str] = Field(
        description="places of the chassis whose height over the floor can be read, in words"
    )


class BuiltOut(BaseModel):
    """What was read of the whole car."""

    ends: list[CanRead]
    read: list[ReadOut]
    heights: list[HeightSeenOut] = Field(description="as they came")


class BuiltEntryIn(BaseModel):
    """An entry with when it was made, at the car."""

    model_config = ConfigDict(extra="forbid", strict=True)
    entry: BuiltEntry
    made_at: Annotated[datetime, Field(strict=False)]


class BuiltEntriesIn(BaseModel):
    """Entries to be added, in the order in which they were made."""

    model_config = ConfigDict(extra="forbid", strict=True)
    entries: Annotated[list[BuiltEntryIn], Field(min_length=1, max_length=200)]


@operation(blueprint, "GET", "/api/jobs/<job_id>/built", answer=BuiltOut, query={"unit": "string"})
def get_built(job_id: str) -> BuiltOut:
    """What was read of a car as it is built, and which dimension would explain it."""
    return _answer(job_id)


@operation(
    blueprint, "POST", "/api/jobs/<job_id>/built", body=BuiltEntriesIn, answer=BuiltOut, query={"unit": "string"}
)
def add_to_built(job_id: str, data: BuiltEntriesIn) -> BuiltOut:
    """Add readings, or that one does not count; what came already does no harm."""
    add_entries(entries.BUILT, job_id, [(one.entry, one.made_at) for one in data.entries])
    return _answer(job_id)


def _answer(job_id: str) -> BuiltOut:
    with services().database.transaction() as connection:
        draft = drafts.get_draft(connection, job_id)
        survey, built = entries.SURVEY.of_job(connection, job_id), entries.BUILT.of_job(connection, job_id)
    job = worked(draft.design)
    numbers = numbers_of(job.settings, unit_of(request.args.get("unit", job.settings.units)))
    with services().gate_of(job).enter():
        groups = as_read(job, [one.entry for one in built], survey_of(job, [one.entry for one in survey]))
        made = {one.entry.id: f"{one.made_at.isoformat()}Z" for one in built}
        return BuiltOut(ends=_ends(job), read=[_read(job, group, numbers, made) for group in groups],
            heights=[
                HeightSeenOut(taken=one.taken, made_at=made[one.taken.id], back=one.back.why if one.back else None, wanted=one.wanted, inside=one.inside, stands=one.stands, says=numbers.told(one.says))
                for one in heights_seen(job, [one.entry for one in built])
            ],
        )  # fmt: skip


def _ends(job: Worked) -> list[CanRead]:
    found = []
    for one in job.design.ends:
        template = job.template(one.id)
        beam = template.axle == "beam"
        own = ["camber_deg", "toe_deg"]
        if template.steered or template.roles.steer_axis:
            own += ["caster_deg", "kingpin_inclination_deg"]
        if beam:
            own += ["pinion_deg"] if one.end.pinion_deg is not None else ["pinion_change_deg"]
            own += ["axle_steer_deg"]
        steered: Literal["", "mm", "deg"] = "" if not template.steered else "deg" if one.end.steering else "mm"
        found.append(
            CanRead(
                end=one.id,
                name=one.name,
                beam=beam,
                steered=steered,
                measures=own,
                heights={name: words(name) for name in chassis_places(template)},
            )
        )
    return found


def _read(job: Worked, group: Group, numbers: Numbers, made: dict[str, str]) -> ReadOut:
    found = group.found
    name = next((one.name for one in job.design.ends if one.id == group.end_id), "an end that is gone")
    shown = [one for one in found.told.ranked if one.possible and one.index in found.told.named] if found else []
    rest = [one for one in found.told.ranked if one.possible and one not in shown] if found else []
    likely = found is not None and found.told.verdict in ("one_error", "cannot_tell")
    return ReadOut(
        end=group.end_id, name=name, wheel=group.wheel, readings=[_seen(one, made) for one in group.readings], lost=group.lost,  # type: ignore[arg-type]
        verdict=found.told.verdict if found else None, says=numbers.told(says(found)) if found else "",
        errors=[
            ErrorOut(
                key=error.key, says=_said(numbers.told(told(error, found.size(one)))), bench=numbers.told(bench_words(job, group.end_id, error, found.size(one), group.wheel)), size_mm=found.size(one), sd_mm=one.sd,
                chi2=one.left, named=one in shown,
            )
            for one in [*shown, *rest[:5]] if found for error in [found.error(one)]
        ] if likely else [],
        next=[_next(one) for one in found.further[:3]] if found else [], tape=[what(error) for error in found.tape] if found else [],
        unseen=[what(found.sought.errors[i]) for i in found.told.unseen] if found else [],
        left_out=[f"{key.replace('_', ' ')}: {why}" for key, why in found.sought.left_out.items()] if found else [],
        surveyed=len(group.sure), most_mm=MOST_MM, height_sd_mm=USUAL.height, length_sd_mm=USUAL.length, place_sd_mm=USUAL.place, drawing=which_view(group, numbers),
    )  # fmt: skip


def _said(text: str) -> str:
    return text[0].upper() + text[1:]


def _seen(one: AngleSeen, made: dict[str, str]) -> AngleSeenOut:
    return AngleSeenOut(
        taken=one.taken, made_at=made[one.taken.id], sd=one.taken.deviation, leaned=one.leaned, back=one.back.why if one.back else None, model=one.model, explained=one.explained
    )  # fmt: skip


def _next(one: MoreRead) -> NextReadingOut:
    risen, roll, steer = one.position
    return NextReadingOut(
        measure=words(one.measure), risen_mm=risen, roll_deg=roll, steer=steer, sd=one.sd, expected=[(what(error), value) for error, value in one.expected.items()],
        tells=[what(error) for error in one.tells],
    )  # fmt: skip
