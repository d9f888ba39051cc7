"""Suspension ends: templates and additions, a new end, its points as files, its lengths and the links made of them."""

from __future__ import annotations

from typing import Annotated, Literal

from flask import Blueprint, Response
from pydantic import BaseModel, ConfigDict, Field

from tirante.api.context import now
from tirante.api.designs import DesignIn, DesignOut, link_with_rod_ends
from tirante.api.problems import Refused
from tirante.api.routing import operation
from tirante.core.document.design import Design, SuspensionEnd, tied
from tirante.core.document.end import End
from tirante.core.document.fields import Id, Key, Name
from tirante.core.document.parts.common import OfEnd
from tirante.core.suspension.shown.points_csv import read_points, write_points
from tirante.core.suspension.template import TemplatePoint
from tirante.shipped.templates import FOLDER, shipped_additions, shipped_templates, template_named, template_of
from tirante.storage.jobs import NotFound

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
    axle: Literal["independent", "beam"]
    steered: bool
    rises: bool
    points: list[TemplatePointOut]
    bodies: list[str]
    links: list[str]
    bushes: list[str]
    balls: list[str] = Field(description="ball joints and bushes, whose studs may be watched")
    sliders: list[str]


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
    """An end to add, from a template."""

    id: Id
    name: Name
    template: Key


class OfEndIn(DesignIn):
    """One of the design's ends."""

    end_id: Id


class AddIn(OfEndIn):
    """What to put on an end, or to take off it."""

    addition: Key
    present: bool


class LinkIdsIn(OfEndIn):
    """Ids for the links to make, as many as the end has links."""

    ids: Annotated[list[Id], Field(max_length=40)]


class PointsCsvIn(BaseModel):
    """A file's text: CSV, or JSON."""

    model_config = _strict
    text: str = Field(max_length=900_000)


class PointsOut(BaseModel):
    """Points read from a file [mm]."""

    points: dict[str, list[float]]


class KindOut(BaseModel):
    """An end's kind with its additions put on: what its points and bodies are."""

    template: TemplateOut


def end_of(data: OfEndIn) -> SuspensionEnd:
    """The end asked for."""
    found = next((end for end in data.design.ends if end.id == data.end_id), None)
    if found is None:
        raise NotFound(data.end_id)
    return found


def _template_out(end: End | None, name: str) -> TemplateOut:
    t = template_of(end) if end else template_named(name)

    def point(p: TemplatePoint) -> TemplatePointOut:
        return TemplatePointOut(name=p.name, what=p.what, measure=p.measure, pair=p.pair)

    named: dict[str, list[str]] = {kind: [] for kind in ("link", "ball", "bush", "slider", "hinge", "pivot")}
    for joint in t.joints:
        named[joint.kind].append(joint.name)
    return TemplateOut(
        name=t.name, title=t.title, axle=t.axle, steered=t.steered, rises=t.rises, points=[point(p) for p in t.points],
        bodies=["ground", *t.bodies], links=named["link"], bushes=named["bush"], balls=named["ball"] + named["bush"], sliders=named["slider"],
    )  # fmt: skip


@operation(blueprint, "GET", "/api/templates", answer=TemplatesOut)
def list_templates() -> TemplatesOut:
    """The kinds of suspension, with their points, and what can be added to them."""
    return TemplatesOut(
        templates=[_template_out(None, name) for name in shipped_templates()],
        additions=[AdditionOut(name=a.name, title=a.title, axle=a.axle, asks=list(a.asks), has_bar=bool(a.bars)) for a in shipped_additions().values()],
    )  # fmt: skip


@operation(blueprint, "POST", "/api/ends/kind", body=OfEndIn, answer=KindOut)
def kind_of_end(data: OfEndIn) -> KindOut:
    """What an end's points, bodies and links are, its additions counted."""
    end = end_of(data).end
    return KindOut(template=_template_out(end, end.template))


@operation(blueprint, "POST", "/api/ends", body=NewEndIn, answer=DesignOut)
def new_end(data: NewEndIn) -> DesignOut:
    """The design with a new end, its points those of the template's example."""
    if any(end.id == data.id for end in data.design.ends):
        return DesignOut(design=data.design)
    template = template_named(data.template)
    if len(data.design.ends) >= 8:
        raise Refused(422, "too_many", "A job holds eight ends.", "design.ends")
    example = _example(template.name)
    where = "rear" if any(one.end.end == "front" for one in data.design.ends) else "front"
    end = SuspensionEnd(id=data.id, name=data.name, end=example.model_copy(update={"vehicle": None, "end": where}))
    return DesignOut(design=data.design.model_copy(update={"ends": (*data.design.ends, end)}))


def _example(name: str) -> End:
    return End.model_validate_json((FOLDER.parent / "ends" / f"{name}.json").read_bytes())


@operation(blueprint, "POST", "/api/ends/add", body=AddIn, answer=DesignOut)
def add_to_end(data: AddIn) -> DesignOut:
    """The design with something put on an end, its points where they are likely, or with it taken off."""
    one = end_of(data)
    known = shipped_additions()
    if data.addition not in known:
        raise Refused(422, "unknown_addition", f"There is nothing called {data.addition} to add.", "addition")
    addition = known[data.addition]
    additions = {name: given for name, given in one.end.additions.items() if name != data.addition}
    points = dict(one.end.points)
    if data.present:
        example = next(
            (
                end for path in sorted((FOLDER.parent / "ends").glob("*.json"))
                if data.addition in (end := End.model_validate_json(path.read_bytes())).additions
                and template_named(end.template).axle == template_named(one.end.template).axle
            ),
            None,
        )  # fmt: skip
        if example is None:
            raise Refused(422, "unfit", f"{addition.title} does not go on this kind of suspension.", "addition")
        given = example.additions[data.addition]
        bodies = template_of(one.end).bodies
        if given.on is not None and given.on not in (*bodies, "ground"):
            given = given.model_copy(update={"on": template_named(one.end.template).roles.wheel_body})
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
        others = {p.name for p in template_named(one.end.template).points}
        points = {name: at for name, at in points.items() if name not in gone - others}
    steering = one.end.steering
    if addition.steered:
        steering = example.steering if data.present and example else None
    end = one.end.model_copy(update={"additions": additions, "points": points, "steering": steering})
    template_of(end)
    ends = tuple(other.model_copy(update={"end": end}) if other.id == one.id else other for other in data.design.ends)
    return DesignOut(design=data.design.model_copy(update={"ends": ends}))


@operation(blueprint, "POST", "/api/ends/links", body=LinkIdsIn, answer=DesignOut)
def links_of_end(data: LinkIdsIn) -> DesignOut:
    """The design with a link for every link of an end that has none yet; each stays tied to the end's points."""
    from tirante.core.suspension.shown.lengths import lengths

    one = end_of(data)
    have = {(link.between.end_id, link.between.link) for link in data.design.links if isinstance(link.between, OfEnd)}
    made = []
    ids = iter(data.ids)
    for row in lengths(template_of(one.end), data.design.standing(one)):
        if not row.is_link or (one.id, row.part) in have:
            continue
        link_id = next(ids, None)
        if link_id is None:
            raise Refused(422, "too_few", "There are more links to make than ids were given.", "ids")
        between = OfEnd(end_id=one.id, link=row.part, a=row.a, b=row.b, b_side=row.b_side, mm=row.left)
        side: Literal["pair", "centre"] = "centre" if row.right is None else "pair"
        name = f"{one.name} {row.part}"[:80]
        made.append(link_with_rod_ends(link_id, name, side, between, data.design.settings))
    design: Design = tied(data.design.model_copy(update={"links": (*data.design.links, *made)}))
    return DesignOut(design=design)


@operation(blueprint, "POST", "/api/points/read", body=PointsCsvIn, answer=PointsOut)
def read_points_file(data: PointsCsvIn) -> PointsOut:
    """Points from CSV or JSON; every bad row by line and column, or all of them."""
    return PointsOut(points={name: list(place) for name, place in read_points(data.text).items()})


@operation(blueprint, "POST", "/api/points/write", body=OfEndIn, answer=PointsCsvIn)
def write_points_csv(data: OfEndIn) -> PointsCsvIn:
    """The points of an end as CSV."""
    return PointsCsvIn(text=write_points({n: (p[0], p[1], p[2]) for n, p in end_of(data).end.points.items()}))


@operation(blueprint, "POST", "/api/ends/measuring-sheet.pdf", body=OfEndIn, media="application/pdf")
def measuring_sheet(data: OfEndIn) -> Response:
    """The end's points and lengths with room to write what the car says, to print."""
    from tirante.documents.measuring_sheet import measuring_sheet_pdf

    return Response(
        measuring_sheet_pdf(data.design, end_of(data), now().date().isoformat()), mimetype="application/pdf"
    )
