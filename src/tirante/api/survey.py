"""The survey of a job: readings are added, taken back, never changed; what they come to is worked out of all of them at once."""

from __future__ import annotations

import uuid
from collections.abc import Sequence
from datetime import UTC, datetime
from math import isfinite
from typing import Annotated, Literal, TypeVar

from flask import Blueprint, Response, request
from pydantic import BaseModel, ConfigDict, Field

from tirante.api.context import attached, now, services, worked
from tirante.api.problems import Refused
from tirante.api.routing import operation
from tirante.api.signed_in import signed_in
from tirante.core.document.end import SurveyedPoint
from tirante.core.document.survey import USUAL_SD, DatumSaid, Entry, OwnSd, OwnSds, Taken, TakenBack, own_said, own_sds
from tirante.core.drawing.model import Drawing
from tirante.core.job.marks import Mark, mark_of_survey
from tirante.core.job.survey_means import survey_means
from tirante.core.job.survey_view import numbered, survey_view
from tirante.core.job.surveyed import (
    Place,
    ReadingSeen,
    Surveyed,
    ends_of,
    in_degrees,
    into_layout,
    left_against_right,
    places,
    survey_of,
)
from tirante.core.job.which_view import words
from tirante.core.parts.numbers import numbers_of
from tirante.core.quantities import Unit
from tirante.core.survey.floor import lean
from tirante.core.survey.photograph import CLICK, LENS, SIZE, Photograph, measured_in
from tirante.core.survey.readings import Distance, Kind, Offset
from tirante.core.suspension.shown.points_paste import MAX_ROWS, pasted_points
from tirante.documents.pack import file_name
from tirante.storage import drafts, entries

blueprint = Blueprint("survey", __name__)
MOST = 2000  # entries of a job
E = TypeVar("E", bound=entries.AnyEntry)


class PlaceOut(BaseModel):
    """Something that can be measured to."""

    key: str
    name: str
    near: tuple[float, float, float] = Field(description="mm; where the layout has it, or a mark is thought to be")
    fixed: bool


class SlipOut(BaseModel):
    """What may have been done, and what the reading then is."""

    what: str
    would_be: float


class ReadingSeenOut(BaseModel):
    """A reading, and what became of it: mm, or degrees of an angle."""

    taken: Taken
    made_at: str
    counts: float = Field(description="as it counts, with what is added to it")
    sd: float = Field(description="standard deviation that it counts with")
    back: str | None = Field(description="why it was taken back; null: it counts")
    lost: str = Field(description="why it could not be used")
    residual: float | None = Field(description="computed less read; several of one set-up as one")
    redundancy: float | None = Field(description="share of a slip that its residual shows")
    normalised: float | None = Field(description="null: nothing checks it")
    expected: float | None = Field(description="of one that does not fit: what all others say")
    expected_sd: float | None = Field(description="how surely they say it")
    leaned: float = Field(description="deg of the floor’s lean, taken out of it")
    slips: list[SlipOut]
    twins: list[str] = Field(description="ids of readings that it cannot be told from")


class FoundPoint(BaseModel):
    """A point as it was measured."""

    key: str
    number: int
    at: tuple[float, float, float]
    sd: tuple[float | None, float | None, float | None] = Field(description="mm; null: nothing determines it")
    off: tuple[float, float, float] = Field(description="mm; from where the layout has it")
    fixed: bool


class NextOut(BaseModel):
    """A reading that would help the worst point most."""

    kind: Literal["distance", "height", "left", "ahead"]
    of: list[str]
    point: str
    sd_before: float | None = Field(description="mm; the root of the sum of its three variances; null: it is free")
    sd_after: float | None = Field(description="null: it still is")


class MirroredOut(BaseModel):
    """Points that could stand elsewhere as well."""

    points: list[str]
    elsewhere: dict[str, tuple[float, float, float]]


class LeftRightOut(BaseModel):
    """A point of a pair measured on both sides: the right one mirrored, against the left one."""

    own: str
    mirror: str
    off: tuple[float, float, float] = Field(description="mm; of the mirrored one from the other")
    sd: tuple[float, float, float]
    beyond: bool = Field(description="farther than the readings’ uncertainty explains")


class IntoEndOut(BaseModel):
    """Points of an end as they were measured, as the layout keeps them."""

    points: dict[str, tuple[float, float, float]]
    right_points: dict[str, tuple[float, float, float]] = Field(description="of points unpaired on purpose")
    surveyed: dict[str, SurveyedPoint] = Field(description="where each of the points came from")
    right_surveyed: dict[str, SurveyedPoint] = Field(description="the same of the right-hand ones")


class FloorOut(BaseModel):
    """How the floor leans, by its heights under the wheels."""

    ahead_deg: float = Field(description="rising ahead positive: a car on it stands nose up")
    left_deg: float = Field(description="rising to the left positive: a car on it leans right")
    warp_mm: float = Field(description="by how much it lies off its plane under a wheel, at most")
    levelled: int = Field(description="readings that its lean is taken out of")


class SurveyOut(BaseModel):
    """All of a survey."""

    places: list[PlaceOut]
    datum: DatumSaid | None
    floor: FloorOut | None
    own: list[OwnSd] = Field(description="how sure somebody’s readings with an instrument are, the latest said of each")
    elsewhere: list[OwnSd] = Field(
        description="the same as it was said in other jobs, the latest of each, where it was not said here"
    )
    usual: dict[str, tuple[float, float]] = Field(description="by instrument what is usual, mm and deg")
    readings: list[ReadingSeenOut]
    points: list[FoundPoint]
    dof: int
    s0: float
    critical: float | None = Field(description="of a normalised residual")
    fits: bool | None = Field(description="the global test of what fits; null: nothing checks anything")
    more: bool = Field(description="whether some still do not fit: too many to be told one from the other")
    lost: str = Field(description="why nothing could be adjusted")
    next: list[NextOut]
    mirrored: list[MirroredOut]
    pairs: list[LeftRightOut]
    layout: dict[str, IntoEndOut] = Field(description="by end, what the measured points are in the layout")
    drawing: Drawing


class MeasureKnownOut(BaseModel):
    """A measure at ride height, and how surely the survey lets it be known."""

    name: str
    value: float
    sd: float
    unit: Literal["deg", "mm"]


class EndKnownOut(BaseModel):
    """An end, of an independent one a wheel, by the survey."""

    end: str
    name: str
    side: Literal["left", "right", ""]
    measures: list[MeasureKnownOut]
    counted: int = Field(description="places whose uncertainty counts")
    taken_as_true: list[str] = Field(description="places that are not surveyed")


class LengthKnownOut(BaseModel):
    """A length that is made after the layout, and how surely the survey lets it be known [mm]."""

    end: str
    part: str
    of: tuple[str, str]
    side: Literal["left", "right", ""]
    mm: float
    sd: float | None = Field(description="null: one of its points is not surveyed")
    lacking: list[str]
    part_id: str | None
    takes_up: float | None = Field(description="mm that its adjuster takes up either way; null: nothing does")
    beyond: bool = Field(description="less certain, at 95 %, than what can be taken up")


class SurveyMarkOut(BaseModel):
    """How a survey stands, for its station."""

    mark: Mark


class MeansOut(BaseModel):
    """What the uncertainty of a survey means for the car."""

    ends: list[EndKnownOut]
    lengths: list[LengthKnownOut]
    lost: list[str] = Field(description="ends of which nothing can be told, each with the reason")


class CoordinatesIn(BaseModel):
    """Coordinates as they were pasted, or as a CSV file has them."""

    model_config = ConfigDict(extra="forbid", strict=True)
    text: Annotated[str, Field(max_length=60_000)]
    unit: Unit


class CoordinateRow(BaseModel):
    """A row as it was read: which place it is taken for, and its heights and offsets as readings."""

    line: int
    called: str
    key: str
    name: str
    at: tuple[float, float, float] = Field(description="mm; ahead, left, up")


class CoordinatesOut(BaseModel):
    """All rows; nothing is kept by reading them."""

    rows: list[CoordinateRow]


Dot = tuple[Annotated[float, Field(ge=-100_000, le=100_000)], Annotated[float, Field(ge=-100_000, le=100_000)]]


class PhotographIn(BaseModel):
    """What was clicked in a photograph of a flat thing, and what is known of it."""

    model_config = ConfigDict(extra="forbid", strict=True)
    size_px: tuple[Annotated[int, Field(ge=10, le=20_000)], Annotated[int, Field(ge=10, le=20_000)]] = Field(
        strict=False
    )
    marks_px: Annotated[list[Annotated[Dot, Field(strict=False)]], Field(min_length=2, max_length=4)] = Field(
        description="four round a rectangle, or two of a ruler"
    )
    sides_mm: tuple[Annotated[float, Field(gt=0, le=10_000)], Annotated[float, Field(gt=0, le=10_000)]] = Field(
        strict=False, description="of the rectangle, the first from mark 1 to 2; of a ruler its length twice"
    )
    places_px: dict[Annotated[str, Field(max_length=200)], Annotated[Dot, Field(strict=False)]] = Field(
        min_length=1, max_length=40
    )
    click_px: Annotated[float, Field(ge=0.1, le=50)] = Field(default=CLICK, description="standard deviation of a click")
    sides_sd_mm: Annotated[float, Field(ge=0.01, le=50)] = Field(default=SIZE, description="of each side")
    lens: Annotated[float, Field(ge=0, le=0.1)] = Field(
        default=LENS, description="of what the lens bends at the picture’s corner, as a share of the half diagonal"
    )
    off_plane_mm: Annotated[float, Field(ge=0, le=200)] = Field(
        default=0.0, description="of how far places stand off the marks’ plane"
    )
    camera_mm: Annotated[float, Field(ge=50, le=50_000)] = Field(default=1000.0, description="over the plane")


class InPlaneOut(BaseModel):
    """A place in the plane [mm]."""

    key: str
    at: tuple[float, float]
    sd: tuple[float, float]


class BetweenOut(BaseModel):
    """A distance between two of them [mm]."""

    of: tuple[str, str]
    mm: float
    sd: float


class PhotographOut(BaseModel):
    """A photograph, measured."""

    perspective: bool = Field(description="whether it was taken out")
    places: list[InPlaneOut]
    distances: list[BetweenOut]
    said: list[str] = Field(description="what counts in the deviations and what does not")


class EntryIn(BaseModel):
    """An entry with when it was made, at the car."""

    model_config = ConfigDict(extra="forbid", strict=True)
    entry: Entry
    made_at: Annotated[datetime, Field(strict=False)]


class EntriesIn(BaseModel):
    """Entries to be added, in the order in which they were made."""

    model_config = ConfigDict(extra="forbid", strict=True)
    entries: Annotated[list[EntryIn], Field(min_length=1, max_length=3 * MAX_ROWS)]  # of a table’s rows three each


class SurveyFile(BaseModel):
    """A survey as a file."""

    model_config = ConfigDict(extra="forbid", strict=True)
    format: Literal["tirante survey 1"] = "tirante survey 1"
    entries: Annotated[list[EntryIn], Field(max_length=MOST)]


@operation(blueprint, "GET", "/api/jobs/<job_id>/survey", answer=SurveyOut, query={"unit": "string"})
def get_survey(job_id: str) -> SurveyOut:
    """The readings of a job, adjusted."""
    return _answer(job_id)


@operation(blueprint, "GET", "/api/jobs/<job_id>/survey/mark", answer=SurveyMarkOut)
def survey_mark(job_id: str) -> SurveyMarkOut:
    """How the survey of a job stands: asked beside every station, so that nothing more is worked out for it."""
    with services().database.transaction() as connection:
        draft, kept = drafts.get_draft(connection, job_id), entries.SURVEY.of_job(connection, job_id)
    job = worked(draft.design)
    with services().gate_of(job).enter():
        return SurveyMarkOut(mark=mark_of_survey(survey_of(job, [one.entry for one in kept])))


@operation(blueprint, "GET", "/api/jobs/<job_id>/survey/means", answer=MeansOut)
def get_means(job_id: str) -> MeansOut:
    """How surely measures and lengths of parts are known by the survey of a job."""
    with services().database.transaction() as connection:
        draft, kept = drafts.get_draft(connection, job_id), entries.SURVEY.of_job(connection, job_id)
    job = worked(draft.design)
    with services().gate_of(job).enter():
        ends, lengths, lost = survey_means(job, survey_of(job, [one.entry for one in kept]))
    return MeansOut(
        ends=[
            EndKnownOut(
                end=one.end_id, name=job.end_name(one.end_id), side=one.side, counted=one.counted, taken_as_true=[name.replace("_", " ") for name in one.taken_as_true],
                measures=[MeasureKnownOut(name=words(m.name), value=m.value, sd=m.sd, unit="mm" if m.name.endswith("_mm") else "deg") for m in one.measures],
            )
            for one in ends
        ],
        lengths=[
            LengthKnownOut(
                end=one.end_id, part=one.part, of=(one.a.replace("_", " "), one.b.replace("_", " ")), side=one.side, mm=one.mm, sd=one.sd, lacking=[name.replace("_", " ") for name in one.lacking],
                part_id=one.part_id, takes_up=one.takes_up, beyond=one.beyond,
            )
            for one in lengths
        ],
        lost=[f"{job.end_name(end_id)}: {why}" for end_id, why in lost],
    )  # fmt: skip


@operation(blueprint, "POST", "/api/jobs/<job_id>/survey", body=EntriesIn, answer=SurveyOut, query={"unit": "string"})
def add_to_survey(job_id: str, data: EntriesIn) -> SurveyOut:
    """Add readings, marks, words of the datum, or that a reading does not count; what came already does no harm."""
    add_entries(entries.SURVEY, job_id, [(one.entry, one.made_at) for one in data.entries])
    return _answer(job_id)


@operation(blueprint, "POST", "/api/jobs/<job_id>/survey/coordinates", body=CoordinatesIn, answer=CoordinatesOut)
def read_coordinates(job_id: str, data: CoordinatesIn) -> CoordinatesOut:
    """Coordinates pasted or from a CSV file, each row with the place that it is taken for; every bad row by its line, or all of them."""
    with services().database.transaction() as connection:
        draft, kept = drafts.get_draft(connection, job_id), entries.SURVEY.of_job(connection, job_id)
    known = {one.name: one.key for one in places(ends_of(worked(draft.design)), [one.entry for one in kept])}
    rows = pasted_points(data.text, [(name, name) for name in known], data.unit, "of this survey; one that is no pick-up is added as a mark first")  # fmt: skip
    return CoordinatesOut(rows=[CoordinateRow(line=row.line, called=row.called, key=known[row.point], name=row.point, at=row.at) for row in rows])  # fmt: skip


@operation(blueprint, "GET", "/api/jobs/<job_id>/survey/file")
def get_survey_file(job_id: str) -> Response:
    """The survey as a file: every entry as it was kept, with when it was made."""
    with services().database.transaction() as connection:
        draft, kept = drafts.get_draft(connection, job_id), entries.SURVEY.of_job(connection, job_id)
    found = SurveyFile(entries=[EntryIn(entry=one.entry, made_at=one.made_at) for one in kept])
    return attached(found.model_dump_json(indent=1), "application/json", f"{file_name(draft.design.name)}-survey.json")


@operation(blueprint, "POST", "/api/jobs/<job_id>/survey/file", body=SurveyFile, answer=SurveyOut, query={"unit": "string"})  # fmt: skip
def read_survey_file(job_id: str, data: SurveyFile) -> SurveyOut:
    """A survey from a file into a job that has none yet, its entries under ids of their own; marks and pick-ups as they are named in it."""
    with services().database.transaction() as connection:
        if entries.SURVEY.of_job(connection, job_id):
            raise Refused(409, "has_survey", "This job has a survey already: a file is read into one that has none.", "entries")  # fmt: skip
    me = signed_in()
    own = {one.entry.id: str(uuid.uuid4()) for one in data.entries}
    made = []
    for one in data.entries:
        change = {"id": own[one.entry.id]}
        if isinstance(one.entry, TakenBack):
            if one.entry.entry not in own:
                raise Refused(422, "invalid", "A reading is taken back in it that is not in it. Take the whole file.", "entries")  # fmt: skip
            change["entry"] = own[one.entry.entry]
        if isinstance(one.entry, Taken):  # in the name that it has in the file, which nobody signed in for here
            change["note"] = (
                f"{one.entry.note[:1900]} (read in from a file{f' by {me.person.name}' if me else ''})".strip()
            )
        made.append((one.entry.model_copy(update=change), one.made_at))
    if made:
        add_entries(entries.SURVEY, job_id, made, as_they_were=True)
    return _answer(job_id)


@operation(blueprint, "POST", "/api/survey/photograph", body=PhotographIn, answer=PhotographOut)
def measure_photograph(data: PhotographIn) -> PhotographOut:
    """A photograph of a flat thing, measured: its places in their plane and how surely; nothing is kept by it."""
    found = measured_in(
        Photograph(
            size=data.size_px, marks=data.marks_px, sides=data.sides_mm, places=data.places_px, click=data.click_px, side_sd=data.sides_sd_mm, lens=data.lens,
            off_plane=data.off_plane_mm, camera=data.camera_mm,
        )
    )  # fmt: skip
    said = [
        f"In each ± count: clicks to {data.click_px:.1f} px, sides to {data.sides_sd_mm:g} mm, the lens to {100 * data.lens:g} % at the picture’s corner, places to {data.off_plane_mm:g} mm off the plane under a camera {data.camera_mm:g} mm over it.", "Distances of one photograph share its scale and its lens: taken together they are less sure than as many tapes."]  # fmt: skip
    if not found.perspective:
        said.insert(0, "A ruler gives scale alone: what perspective adds is not taken out and stands in no ±. Photograph it square, or with four marks of a rectangle in its plane.")  # fmt: skip
    return PhotographOut(
        perspective=found.perspective, said=said,
        places=[InPlaneOut(key=key, at=at, sd=found.sd[key]) for key, at in found.at.items()],
        distances=[BetweenOut(of=of, mm=mm, sd=sd) for of, (mm, sd) in found.distances.items()],
    )  # fmt: skip


def add_entries(
    table: entries.Entries[E], job_id: str, made: Sequence[tuple[E, datetime]], *, as_they_were: bool = False
) -> None:
    """Keep entries of a job, all or none of them.

    Args:
        table: of their kind.
        job_id: the job.
        made: each with when, in the order in which they were made.
        as_they_were: whether they stay in the name that they have, as they came in a file.

    Raises:
        Refused: there are too many; an id says something else already.
        drafts.NotFound: there is no such job.
    """
    me = None if as_they_were else signed_in()
    kept = [entries.Kept(entry=_by(entry, me.person.name if me else None), made_at=utc(at)) for entry, at in made]
    try:
        with services().database.transaction() as connection:
            drafts.get_draft(connection, job_id)  # is there such a job
            if len(table.of_job(connection, job_id)) + len(kept) > MOST:
                raise Refused(422, "survey_full", f"A job keeps {MOST} entries at most. Begin another job for what is measured anew.", "entries")  # fmt: skip
            table.add(connection, job_id, kept, now())
    except entries.Taken as error:
        raise Refused(
            409,
            "id_taken",
            "An entry with this id is there already and says something else. Make a new one.",
            "entries",
        ) from error


def _by(entry: E, name: str | None) -> E:
    """An entry in the name of who is signed in, whatever was typed; as it is where nobody is, and of what nobody is asked for."""
    if name is None or not isinstance(entry, BaseModel) or "who" not in type(entry).model_fields:
        return entry
    return entry.model_copy(update={"who": name})


def utc(at: datetime) -> datetime:
    """A time as it is kept.

    Args:
        at: with or without its zone.
    """
    return at.astimezone(UTC).replace(tzinfo=None) if at.tzinfo else at


def _answer(job_id: str) -> SurveyOut:
    with services().database.transaction() as connection:
        draft, kept = drafts.get_draft(connection, job_id), entries.SURVEY.of_job(connection, job_id)
        others = own_said(one.entry for one in entries.SURVEY.elsewhere(connection, job_id, "own"))
    job = worked(draft.design)
    unit = request.args.get("unit", job.settings.units)
    with services().gate_of(job).enter():
        found = survey_of(job, [one.entry for one in kept])
    made = {one.entry.id: one.made_at for one in kept}
    own, said = own_sds(one.entry for one in kept), own_said(one.entry for one in kept)
    numbers = numbered(found)
    near = {one.key: one for one in found.places}
    good = found.found
    return SurveyOut(
        places=[PlaceOut(key=one.key, name=one.name, near=one.near, fixed=one.fixed) for one in found.places], datum=found.datum, floor=FloorOut(ahead_deg=lean(found.floor.ahead), left_deg=lean(found.floor.left), warp_mm=found.floor.warp, levelled=found.levelled) if found.floor else None,
        own=list(said.values()), elsewhere=[one for whose, one in others.items() if whose not in said], usual={str(name): sds for name, sds in USUAL_SD.items()},
        readings=[_reading(one, f"{made[one.taken.id].isoformat()}Z", own) for one in found.readings],
        points=[_point(found, near[key], number) for key, number in numbers.items()], dof=good.dof if good else 0, s0=good.s0 if good else 0.0,
        critical=good.critical if good and isfinite(good.critical) else None, fits=good.fits if good else None, more=found.more, lost=found.lost,
        next=[
            NextOut(kind=_sort(one.of), of=list(one.of.points()), point=one.point, sd_before=one.sd_before if isfinite(one.sd_before) else None, sd_after=one.sd_after if isfinite(one.sd_after) else None)
            for one in found.next
        ],
        mirrored=[MirroredOut(points=list(one.names), elsewhere={key: _three(at) for key, at in one.elsewhere.items()}) for one in found.mirrored],
        pairs=[LeftRightOut(own=one.own, mirror=one.mirror, off=one.off, sd=one.sd, beyond=one.beyond) for one in left_against_right(found)],
        layout={end: IntoEndOut(points=dict(one.points), right_points=dict(one.right_points), surveyed=dict(one.surveyed), right_surveyed=dict(one.right_surveyed)) for end, one in into_layout(found, ends_of(job), {id_: f"{at:%Y-%m-%d}" for id_, at in made.items()}).items()},
        drawing=survey_view(found, numbers_of(job.settings, unit_of(unit))),
    )  # fmt: skip


def unit_of(text: str) -> Unit:
    """A unit of a request.

    Args:
        text: mm or in.

    Raises:
        Refused: it is neither.
    """
    if text not in ("mm", "in"):
        raise Refused(422, "invalid", "unit is mm or in.", "unit")
    return "mm" if text == "mm" else "in"


def _sort(of: Kind) -> Literal["distance", "height", "left", "ahead"]:
    if isinstance(of, Distance):
        return "distance"
    assert isinstance(of, Offset)
    words: dict[str, Literal["height", "left", "ahead"]] = {"x": "ahead", "y": "left", "z": "height"}
    return words[of.axis]


def _three(at: object) -> tuple[float, float, float]:
    x, y, z = (float(v) for v in at)  # type: ignore[attr-defined]
    return x, y, z


def _reading(one: ReadingSeen, made_at: str, own: OwnSds) -> ReadingSeenOut:
    taken = one.taken
    found, suspect = one.checked, one.suspect
    return ReadingSeenOut(
        taken=taken, made_at=made_at, counts=taken.angle - one.leaned if taken.angle is not None else taken.mm, sd=taken.deviation(own), back=one.back.why if one.back else None, lost=one.lost,
        residual=in_degrees(taken, found.residual) if found else None, redundancy=found.redundancy if found else None, normalised=found.normalised if found else None,
        expected=in_degrees(taken, suspect.expected) if suspect else None, expected_sd=in_degrees(taken, suspect.expected_sd) if suspect else None,
        leaned=one.leaned, slips=[SlipOut(what=slip.what, would_be=in_degrees(taken, slip.would_be)) for slip in one.slips[:4]], twins=list(one.twins),
    )  # fmt: skip


def _point(found: Surveyed, place: Place, number: int) -> FoundPoint:
    assert found.found
    at = _three(found.found.points[place.key])
    sd = [float(v) if isfinite(v) else None for v in found.found.sd(place.key)]
    off = tuple(a - b for a, b in zip(at, place.near, strict=True))
    return FoundPoint(
        key=place.key, number=number, at=at, sd=(sd[0], sd[1], sd[2]), off=(off[0], off[1], off[2]), fixed=place.fixed
    )
