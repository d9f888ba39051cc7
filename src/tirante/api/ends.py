"""Suspension ends: templates and additions, a new end, its points as files, its lengths and the links made of them."""

from __future__ import annotations

from collections import defaultdict
from functools import lru_cache
from typing import Literal

import numpy as np
from flask import Blueprint, Response
from pydantic import BaseModel, ConfigDict, Field, model_validator

from tirante.api.context import now, services, worked
from tirante.api.designs import DesignIn
from tirante.api.problems import Refused
from tirante.api.routing import operation
from tirante.core.document.design import SuspensionEnd
from tirante.core.document.end import End
from tirante.core.document.fields import Id, Key, Name
from tirante.core.document.survey import DatumWords
from tirante.core.document.template import TemplatePoint
from tirante.core.drawing.model import Drawing
from tirante.core.suspension.first_spring import with_damper
from tirante.core.suspension.moved_pickup import moved_pickup
from tirante.core.suspension.own_kind import begun, end_of_kind, kind_file, own, read_kind, with_body, with_point
from tirante.core.suspension.shown.points_csv import read_points, write_points
from tirante.core.suspension.shown.points_paste import pasted_points
from tirante.core.suspension.shown.posture import postures
from tirante.core.suspension.shown.sketch import kind_sketch
from tirante.shipped.templates import example_ends
from tirante.storage.drafts import NotFound

blueprint = Blueprint("ends", __name__)
_strict = ConfigDict(extra="forbid", strict=True)


class TemplatePointOut(BaseModel):
    """A named point, what it is and how it is measured on a car."""

    name: str
    what: str
    measure: str
    pair: bool


class TemplateOut(BaseModel):
    """A kind of suspension."""

    name: str
    title: str
    says: str = Field(description="what it is for, and what it asks; empty of an end’s own")
    axle: Literal["independent", "beam"]
    own: bool = Field(description="the end’s own, which may be changed")
    steered: bool
    rises: bool
    points: list[TemplatePointOut]
    bodies: list[str]
    links: list[str]
    bushes: list[str]
    balls: list[str] = Field(description="ball joints and bushes, whose studs may be watched")
    sliders: list[str]


class SketchesOut(BaseModel):
    """Small drawings of the kinds of suspension, by name."""

    sketches: dict[str, Drawing]


class AdditionOut(BaseModel):
    """Something that can be added to a kind of suspension."""

    name: str
    title: str
    axle: Literal["independent", "beam", "any"]
    asks: list[str]
    has_bar: bool = Field(description="an anti-roll bar, with a rate")


class TemplatesOut(BaseModel):
    """All kinds, and all that can be added."""

    templates: list[TemplateOut]
    additions: list[AdditionOut]


class NewEndIn(DesignIn):
    """An end to add: of a kind that ships, of another end's own kind, of a kind from a file, or of one begun from nothing."""

    id: Id
    name: Name
    template: Key | None = None
    like: Id | None = Field(default=None, description="the end whose own kind it is of, its points where that has them")
    file: str | None = Field(default=None, max_length=900_000, description="text of a template file")
    begin: Literal["independent", "beam"] | None = Field(
        default=None, description="a kind of its own, with nothing in it yet but a wheel"
    )

    @model_validator(mode="after")
    def _one_kind(self) -> NewEndIn:
        if sum(one is not None for one in (self.template, self.like, self.file, self.begin)) != 1:
            raise ValueError("template: say which kind: one of template, like, file and begin")
        return self


class OfEndIn(DesignIn):
    """One of the design's ends."""

    end_id: Id


class AddIn(OfEndIn):
    """What to put on an end, or to take off it."""

    addition: Key
    present: bool


class MovePointIn(OfEndIn):
    """A pick-up to move while the parts on it stay as long as they are."""

    point: str = Field(max_length=80)
    side: Literal["left", "right"] = "left"
    at: tuple[float, float, float] = Field(description="where it is to be [mm]")


class MovedPointOut(BaseModel):
    """The end as it stands then, and where its wheel went."""

    end: SuspensionEnd
    wheel_mm: tuple[float, float, float] = Field(description="of that side: ahead, to the left, up")
    camber_deg: float = Field(description="more than before")
    toe_deg: float
    bases_mm: dict[str, float] = Field(description="arms whose pivots stand further apart than they were made")
    left_behind: list[str] = Field(description="things to clear on what moves, which stand where they stood")


class PointsCsvIn(BaseModel):
    """A file's text: CSV, or JSON."""

    model_config = _strict
    text: str = Field(max_length=900_000)


class PasteIn(OfEndIn):
    """A table as it was pasted, and the unit that a bare number is in."""

    text: str = Field(max_length=60_000)
    unit: Literal["mm", "in"]


class PastedRowOut(BaseModel):
    """A row, and the point that it is taken for."""

    line: int
    called: str
    point: str
    what: str
    at: list[float] = Field(description="x, y, z in mm")


class PastedOut(BaseModel):
    """What was pasted, row by row."""

    rows: list[PastedRowOut]


class PointsOut(BaseModel):
    """Points read from a file [mm]."""

    points: dict[str, list[float]]


class AddToKindIn(OfEndIn):
    """What to add to an end's own kind."""

    sort: Literal["point", "body"]
    what: Name = Field(description="what it is, as a person says it")


class KindFileOut(BaseModel):
    """A kind as a template file."""

    name: str
    text: str


class EndOut(BaseModel):
    """A suspension end, new or changed."""

    end: SuspensionEnd


class EndKindOut(BaseModel):
    """An end's kind with its additions put on: what its points and bodies are."""

    template: TemplateOut


def end_of(data: OfEndIn) -> SuspensionEnd:
    """The end asked for."""
    found = next((end for end in data.design.ends if end.id == data.end_id), None)
    if found is None:
        raise NotFound(data.end_id)
    return found


def _template_out(end: End | None, name: str) -> TemplateOut:
    shelf = services().shelf
    t = shelf.template_of(end) if end else shelf.template_named(name)

    def point(p: TemplatePoint) -> TemplatePointOut:
        return TemplatePointOut(name=p.name, what=p.what, measure=p.measure, pair=p.pair)

    named: dict[str, list[str]] = defaultdict(list)
    for joint in t.joints:
        named[joint.kind].append(joint.name)
    return TemplateOut(
        name=t.name, title=t.title, says=t.says, axle=t.axle, own=bool(end and end.kind), steered=t.steered, rises=t.rises, points=[point(p) for p in t.points],
        bodies=["ground", *t.bodies], links=named["link"], bushes=named["bush"], balls=named["ball"] + named["bush"], sliders=named["slider"],
    )  # fmt: skip


@operation(blueprint, "GET", "/api/templates", answer=TemplatesOut)
def list_templates() -> TemplatesOut:
    """The kinds of suspension, with their points, and what can be added to them."""
    return TemplatesOut(
        templates=[_template_out(None, name) for name in services().shelf.templates],
        additions=[AdditionOut(name=a.name, title=a.title, axle=a.axle, asks=list(a.asks), has_bar=bool(a.bars)) for a in services().shelf.additions.values()],
    )  # fmt: skip


@lru_cache(maxsize=1)
def _sketches() -> dict[str, Drawing]:
    """Of every kind that ships, of its example end; worked out once, since neither changes."""
    shelf, found = services().shelf, {}
    for name, end in example_ends().items():
        if name not in shelf.templates:
            continue
        template = shelf.template_of(end)
        (posture,) = postures(template, end, np.zeros((3, 1)))
        if posture is not None:
            found[name] = kind_sketch(name, template.title, posture, template.axle == "beam")
    return found


@operation(blueprint, "GET", "/api/templates/sketches", answer=SketchesOut)
def list_sketches() -> SketchesOut:
    """Every kind that ships, as a small drawing."""
    return SketchesOut(sketches=_sketches())


@operation(blueprint, "POST", "/api/ends/kind", body=OfEndIn, answer=EndKindOut)
def kind_of_end(data: OfEndIn) -> EndKindOut:
    """What an end's points, bodies and links are, its additions counted."""
    end = end_of(data).end
    return EndKindOut(template=_template_out(end, end.template))


@operation(blueprint, "POST", "/api/ends", body=NewEndIn, answer=EndOut)
def new_end(data: NewEndIn) -> EndOut:
    """A new end, its points those of the template's example."""
    if any(end.id == data.id for end in data.design.ends):
        return EndOut(end=next(end for end in data.design.ends if end.id == data.id))
    if len(data.design.ends) >= 8:
        raise Refused(422, "too_many", "A job holds eight ends.", "design.ends")
    where = "rear" if any(one.end.end == "front" for one in data.design.ends) else "front"
    made = _first(data).model_copy(update={"vehicle": None, "end": where})
    return EndOut(end=SuspensionEnd(id=data.id, name=data.name, end=made))


def _first(data: NewEndIn) -> End:
    """What a new end is at first."""
    examples = example_ends()
    if data.begin:
        return begun(data.begin)
    if data.file is not None:
        kind = read_kind(data.file)
        return end_of_kind(kind, examples.get(kind.name))
    if data.like:
        found = next((one.end for one in data.design.ends if one.id == data.like), None)
        if found is None:
            raise NotFound(data.like)
        return found
    template = services().shelf.template_named(data.template or "")
    return with_damper(template, examples[template.name])


@operation(blueprint, "POST", "/api/ends/own", body=OfEndIn, answer=EndOut)
def own_kind(data: OfEndIn) -> EndOut:
    """The end with its kind as its own, to be changed at will."""
    one = end_of(data)
    return EndOut(end=one.model_copy(update={"end": own(services().shelf.kind_of(one.end), one.end)}))


@operation(blueprint, "POST", "/api/ends/kind/add", body=AddToKindIn, answer=EndOut)
def add_to_kind(data: AddToKindIn) -> EndOut:
    """The end with one more point or body in its own kind."""
    one = end_of(data)
    if one.end.kind is None:
        raise Refused(422, "not_own", "This kind ships with the application. Make it the end’s own first.", "end_id")
    if len(one.end.kind.points) >= 120 or len(one.end.kind.bodies) >= 40:
        raise Refused(422, "too_many", "A kind holds 120 points and 40 bodies.", "what")
    add = with_point if data.sort == "point" else with_body
    return EndOut(end=one.model_copy(update={"end": add(one.end, data.what)}))


@operation(blueprint, "POST", "/api/ends/kind/file", body=OfEndIn, answer=KindFileOut)
def write_kind_file(data: OfEndIn) -> KindFileOut:
    """The end's kind as a template file: points, bodies, joints and roles, the points where this end has them."""
    end = end_of(data).end
    kind = services().shelf.kind_of(end)
    return KindFileOut(name=kind.name, text=kind_file(kind, end))


@operation(blueprint, "POST", "/api/ends/add", body=AddIn, answer=EndOut)
def add_to_end(data: AddIn) -> EndOut:
    """The end with something put on it, its points where they are likely, or with it taken off."""
    one = end_of(data)
    shelf = services().shelf
    known = shelf.additions
    if data.addition not in known:
        raise Refused(422, "unknown_addition", f"There is nothing called {data.addition} to add.", "addition")
    addition = known[data.addition]
    additions = {name: given for name, given in one.end.additions.items() if name != data.addition}
    points = dict(one.end.points)
    if data.present:
        example = next(
            (
                end for end in example_ends().values() if data.addition in end.additions
                and shelf.kind_of(end).axle == shelf.kind_of(one.end).axle
            ),
            None,
        )  # fmt: skip
        if example is None:
            raise Refused(422, "unfit", f"{addition.title} does not go on this kind of suspension.", "addition")
        given = example.additions[data.addition]
        bodies = shelf.template_of(one.end).bodies
        if given.on is not None and given.on not in (*bodies, "ground"):
            given = given.model_copy(update={"on": shelf.kind_of(one.end).roles.wheel_body})
        additions[data.addition] = given
        shift = one.end.points["wheel_centre"][0] - example.points["wheel_centre"][0]
        wanted = {p.name for p in addition.points} | (
            {example.steering.pivot} if example.steering and addition.steered else set()
        )
        for name in wanted - set(points):
            x, y, z = example.points[name]
            points[name] = (x + shift, y, z)
    else:
        gone = {p.name for p in addition.points} | (
            {one.end.steering.pivot} if one.end.steering and addition.steered else set()
        )
        others = {p.name for p in shelf.kind_of(one.end).points}
        points = {name: at for name, at in points.items() if name not in gone - others}
    steering = one.end.steering
    if addition.steered:
        steering = example.steering if data.present and example else None
    end = one.end.model_copy(update={"additions": additions, "points": points, "steering": steering})
    shelf.template_of(end)
    return EndOut(end=one.model_copy(update={"end": end}))


@operation(blueprint, "POST", "/api/ends/move-point", body=MovePointIn, answer=MovedPointOut)
def move_point(data: MovePointIn) -> MovedPointOut:
    """A pick-up moved, all parts as long as before: the wheel goes where they take it."""
    one = end_of(data)
    found = moved_pickup(services().shelf.template_of(one.end), one.end, data.point, data.at, side=data.side)
    return MovedPointOut(
        end=one.model_copy(update={"end": found.end}), wheel_mm=found.wheel_mm, camber_deg=found.camber_deg, toe_deg=found.toe_deg, bases_mm=found.bases_mm,
        left_behind=list(found.left_behind),
    )  # fmt: skip


@operation(blueprint, "POST", "/api/points/read", body=PointsCsvIn, answer=PointsOut)
def read_points_file(data: PointsCsvIn) -> PointsOut:
    """Points from CSV or JSON; every bad row by line and column, or all of them."""
    return PointsOut(points={name: list(place) for name, place in read_points(data.text).items()})


@operation(blueprint, "POST", "/api/points/paste", body=PasteIn, answer=PastedOut)
def paste_points(data: PasteIn) -> PastedOut:
    """Points pasted from a spreadsheet, each row with the point that it is taken for; every bad row by its line, or all of them."""
    end = end_of(data).end
    known = [(point.name, point.what) for point in services().shelf.template_of(end).points]
    known += [(name, name.replace("_", " ")) for name in end.points if name not in dict(known)]
    called = dict(known)
    return PastedOut(
        rows=[
            PastedRowOut(line=row.line, called=row.called, point=row.point, what=called[row.point], at=list(row.at))
            for row in pasted_points(data.text, known, data.unit)
        ]
    )


@operation(blueprint, "POST", "/api/points/write", body=OfEndIn, answer=PointsCsvIn)
def write_points_csv(data: OfEndIn) -> PointsCsvIn:
    """The points of an end as CSV."""
    return PointsCsvIn(text=write_points({n: (p[0], p[1], p[2]) for n, p in end_of(data).end.points.items()}))


class MeasuringIn(OfEndIn):
    """One of the design's ends, and what its car is measured from."""

    datum: DatumWords | None = Field(
        default=None, description="of the survey; what is not said has room to be written in"
    )


@operation(blueprint, "POST", "/api/ends/measuring-sheet.pdf", body=MeasuringIn, media="application/pdf")
def measuring_sheet(data: MeasuringIn) -> Response:
    """The end's points and lengths with room to write what the car says, to print."""
    from tirante.documents.measuring_sheet import measuring_sheet_pdf

    return Response(
        measuring_sheet_pdf(worked(data.design), end_of(data), now().date().isoformat(), data.datum),
        mimetype="application/pdf",
    )
