"""What a design gives: evaluation, drawings, parts made and chosen. Stateless: a design in, results or what changes of it out."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from flask import Blueprint
from pydantic import BaseModel, ConfigDict, Field

from tirante.api.context import services, shop_catalogue, worked
from tirante.api.problems import Refused
from tirante.api.routing import operation
from tirante.core.document.adopt import Patch, adopted
from tirante.core.document.catalogue import Catalogue
from tirante.core.document.design import TiedDesign
from tirante.core.document.fields import Id, Key, Name, PointName
from tirante.core.document.joints import HeldJoint
from tirante.core.document.parts.common import Between, Side
from tirante.core.document.parts.saved import AnyPart, SavedPart
from tirante.core.drawing.model import Drawing
from tirante.core.job.evaluate import evaluate, kinds_out
from tirante.core.job.make_parts import parts_of_end, plate_on_carrier
from tirante.core.job.overview import overview_sheet
from tirante.core.job.results import Evaluation, KindOut
from tirante.core.job.worked import Worked
from tirante.core.parts.kind import ViewAsked
from tirante.core.parts.link.shown import AdjusterOut
from tirante.core.parts.numbers import numbers_of
from tirante.core.parts.registry import KINDS, kind_of
from tirante.storage.drafts import NotFound

blueprint = Blueprint("designs", __name__)
_strict = ConfigDict(extra="forbid", strict=True)
MOST_PARTS = 600


class DesignIn(BaseModel):
    """A design."""

    model_config = _strict
    design: TiedDesign


class PartIn(DesignIn):
    """A design and one of its parts."""

    part_id: Id


class DrawIn(PartIn):
    """What to draw: a view that the part has."""

    view: Annotated[str, Field(max_length=40)] = "drawing"
    end: Annotated[int, Field(ge=0, le=1)] = 1
    turns: Annotated[float, Field(ge=-500, le=500, allow_inf_nan=False)] = 0.0
    unit: Literal["mm", "in"] = "mm"


class DrawFault(BaseModel):
    """What stands in the way of a drawing, at a field."""

    field: str
    message: str


class DrawOut(BaseModel):
    """A drawing, or what stands in its way."""

    drawing: Drawing | None
    faults: list[DrawFault]
    adjuster: AdjusterOut | None = None


class OverviewIn(DesignIn):
    """Which parts to draw, by the number of the first."""

    first: Annotated[int, Field(ge=0, le=MOST_PARTS)] = 0
    unit: Literal["mm", "in"] = "mm"


class NewLinkIn(DesignIn):
    """A link to add."""

    id: Id
    name: Name
    side: Side = "pair"
    between: Between
    kind: Key = Field(default="link", description="of those that stand between two points")


class PartsOfEndIn(DesignIn):
    """An end whose moving members are to be parts; ids for them, made by the client."""

    end_id: Id
    ids: Annotated[list[Id], Field(max_length=60)]
    kinds: Annotated[list[Key], Field(max_length=20, default_factory=list, description="only of these; none: of all")]


class PlateOnCarrierIn(DesignIn):
    """A joint of what carries a wheel that is to have a plate; the part's id made by the client."""

    end_id: Id
    body: PointName
    point: PointName
    part_id: Id


class ChooseIn(PartIn):
    """A row to take for a field; null clears it."""

    field: str = Field(max_length=40)
    key: Key | None


class PatchOut(BaseModel):
    """What changes of a design: parts and joints by id, rows that it has not yet; everything else stays."""

    parts: list[AnyPart]
    joints: list[HeldJoint]
    rows: Catalogue
    told: list[str] = Field(description="what a person must know of it")


class OffersOut(BaseModel):
    """Keys that fit, by field."""

    offers: dict[str, list[str]]


class KindsOut(BaseModel):
    """Every kind of part."""

    kinds: list[KindOut]


class WorkingOut(BaseModel):
    """A calculation with its steps."""

    topic: str
    result: dict[str, Any]
    working: list[dict[str, Any]]


class WorkingIn(BaseModel):
    """A calculation's input."""

    model_config = _strict
    topic: str = Field(max_length=40)
    input: dict[str, Any]


def patch_out(patch: Patch) -> PatchOut:
    """As the API gives it."""
    return PatchOut(parts=list(patch.parts), joints=list(patch.joints), rows=patch.rows, told=list(patch.told))


def saved_part(job: Worked, part_id: str) -> SavedPart:
    """A part of a job.

    Raises:
        NotFound: there is none with this id.
    """
    found = job.saved(part_id)
    if found is None:
        raise NotFound(part_id)
    return found


def room_for(job: Worked, more: int) -> None:
    """Whether a job may hold so many parts more.

    Raises:
        Refused: it may not.
    """
    if len(job.design.parts) + more > MOST_PARTS:
        raise Refused(422, "too_many", f"A job holds {MOST_PARTS} parts. Start another job for more.", "design.parts")


@operation(blueprint, "GET", "/api/kinds", answer=KindsOut)
def list_kinds() -> KindsOut:
    """The kinds of parts, with what a person may set of each."""
    return KindsOut(kinds=kinds_out())


@operation(blueprint, "POST", "/api/evaluate", body=DesignIn, answer=Evaluation)
def evaluate_design(data: DesignIn) -> Evaluation:
    """Work out a design: its parts, lists, and what is to be settled."""
    job = worked(data.design)
    with services().gate_of(job).enter():
        return evaluate(job)


@operation(blueprint, "POST", "/api/draw", body=DrawIn, answer=DrawOut)
def draw_part(data: DrawIn) -> DrawOut:
    """Draw a view of a part."""
    job = worked(data.design)
    saved, numbers = saved_part(job, data.part_id), numbers_of(data.design.settings, data.unit)
    kind = kind_of(saved)
    with services().gate_of(job).enter():
        part = job.part(saved.id)
        assert part
        faults = [DrawFault(field=f.field, message=f.message) for f in part.faults]
        if part.view(data.view) is None:
            if part.complete:
                raise Refused(404, "no_view", f"There is no drawing “{data.view}” of this {part.word}.", "view")
            return DrawOut(drawing=None, faults=faults)
        drawing = kind.draw(part, ViewAsked(name=data.view, end=data.end, turns=data.turns), numbers)
        turned = kind.adjuster(part, data.turns, numbers) if data.view == "drawing" and part.complete else None
    return DrawOut(drawing=drawing, faults=faults, adjuster=turned if isinstance(turned, AdjusterOut) else None)


@operation(blueprint, "POST", "/api/overview", body=OverviewIn, answer=Drawing)
def overview(data: OverviewIn) -> Drawing:
    """All members of a design to one scale."""
    job, numbers = worked(data.design), numbers_of(data.design.settings, data.unit)
    with services().gate_of(job).enter():
        members = [part for part in job.parts if kind_of(part.saved).station == "members"]
        return overview_sheet(members, numbers, first=data.first)


@operation(blueprint, "POST", "/api/links", body=NewLinkIn, answer=PatchOut)
def new_link(data: NewLinkIn) -> PatchOut:
    """A new link, or a known one made as another kind: it keeps its id, cases and note, and what was chosen for it goes."""
    job = worked(data.design)
    known, kind = job.saved(data.id), KINDS.get(data.kind)
    if known is not None and known.kind == data.kind:
        return patch_out(Patch(parts=(known,)))
    room_for(job, 0 if known else 1)
    fields: dict[str, Any] = {"id": data.id, "name": data.name, "side": data.side, "between": data.between}
    if known is not None:
        fields |= {"note": known.note, "cases": getattr(known, "cases", ())}
    made = kind.between(fields, job.settings) if kind else None
    if made is None:
        raise Refused(422, "no_such_kind", f"Nothing of the kind “{data.kind}” stands between two points.", "kind")
    return patch_out(Patch(parts=(made,)))


@operation(blueprint, "POST", "/api/parts/of-end", body=PartsOfEndIn, answer=PatchOut)
def make_parts(data: PartsOfEndIn) -> PatchOut:
    """A part for everything that moves at an end and has none yet; each stays tied to the end's points."""
    job = worked(data.design)
    if job.design.end(data.end_id) is None:
        raise NotFound(data.end_id)
    made = parts_of_end(job, data.end_id, data.ids, data.kinds)
    room_for(job, len(made))
    return patch_out(Patch(parts=tuple(made)))


@operation(blueprint, "POST", "/api/parts/on-carrier", body=PlateOnCarrierIn, answer=PatchOut)
def make_plate(data: PlateOnCarrierIn) -> PatchOut:
    """A plate for a joint of an upright, knuckle or axle: a steering arm, or one of a kingpin's plates."""
    job = worked(data.design)
    if job.design.end(data.end_id) is None:
        raise NotFound(data.end_id)
    room_for(job, 1)
    return patch_out(Patch(parts=(plate_on_carrier(job, data.end_id, data.body, data.point, data.part_id),)))


@operation(blueprint, "POST", "/api/offers", body=PartIn, answer=OffersOut)
def offers(data: PartIn) -> OffersOut:
    """What may be chosen for each field of a part; nothing that does not fit."""
    job = worked(data.design)
    saved = saved_part(job, data.part_id)
    return OffersOut(offers=kind_of(saved).offers(saved, job, shop_catalogue()))


@operation(blueprint, "POST", "/api/choose", body=ChooseIn, answer=PatchOut)
def choose_part(data: ChooseIn) -> PatchOut:
    """Take a row; what no longer fits behind it follows. A row that other parts of the job use stays as they have it."""
    job, shelf = worked(data.design), shop_catalogue()
    saved = saved_part(job, data.part_id)
    changed = kind_of(saved).choose(saved, data.field, data.key, job, shelf)
    return patch_out(adopted(job.design, changed.parts, shelf, changed.joints))


@operation(blueprint, "POST", "/api/working", body=WorkingIn, answer=WorkingOut)
def working(data: WorkingIn) -> WorkingOut:
    """A calculation with its steps, as `./tirante calc TOPIC --working` gives it."""
    result = services().answers(data.topic, data.input)
    if result is None:
        raise Refused(404, "unknown_topic", "There is no such calculation.", "topic")
    steps = result.pop("working")
    return WorkingOut(topic=data.topic, result=result, working=steps)
