"""What a design gives: evaluation, drawings, sizing, choosing parts. Stateless: a design in, results out."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from flask import Blueprint
from pydantic import AfterValidator, BaseModel, BeforeValidator, ConfigDict, Field

from tirante.api.context import services, shop_catalogue
from tirante.api.problems import Refused
from tirante.api.routing import operation
from tirante.calc import TOPICS, calculate
from tirante.core.checks.shown import shown_utilisation
from tirante.core.document.adopt import adopt
from tirante.core.document.catalogue import Catalogue
from tirante.core.document.design import Design, TiedDesign
from tirante.core.document.fields import Id, Key, Name
from tirante.core.document.parts.common import Between, RodEndEnd, Side
from tirante.core.document.parts.link import Link
from tirante.core.document.settings import Settings
from tirante.core.drawing.model import Drawing
from tirante.core.job.drawings import Adjuster, adjuster, draw, draw_overview
from tirante.core.job.evaluate import evaluate, evaluate_link
from tirante.core.job.loads import bare, with_loads
from tirante.core.job.results import Evaluation
from tirante.core.parts.link import choose, sizing
from tirante.core.parts.numbers import numbers_of
from tirante.storage.jobs import NotFound

blueprint = Blueprint("designs", __name__)
_strict = ConfigDict(extra="forbid", strict=True)


# every link that is tied to an end comes with what the load cases put into it; what goes out does not keep that
LoadedDesign = Annotated[TiedDesign, AfterValidator(with_loads)]
BareDesign = Annotated[Design, BeforeValidator(lambda design: bare(design) if isinstance(design, Design) else design)]


class DesignIn(BaseModel):
    """A design."""

    model_config = _strict
    design: LoadedDesign


class LinkIn(DesignIn):
    """A design and one of its links."""

    link_id: Id


class DrawIn(LinkIn):
    """What to draw."""

    view: Literal["link", "tab", "jig", "tab-flat"] = "link"
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
    adjuster: Adjuster | None = None


class OverviewIn(DesignIn):
    """Which links to draw."""

    first: Annotated[int, Field(ge=0, le=500)] = 0
    unit: Literal["mm", "in"] = "mm"


class NewLinkIn(DesignIn):
    """A link to add."""

    id: Id
    name: Name
    side: Side = "pair"
    between: Between


class ChooseIn(LinkIn):
    """A part to take for a field; null clears it."""

    part: str = Field(max_length=40)
    key: Key | None


class DesignOut(BaseModel):
    """A design."""

    design: BareDesign


class OffersOut(BaseModel):
    """Keys that fit, by field."""

    offers: dict[str, list[str]]


class SizedOut(BaseModel):
    """A set of parts, judged."""

    design: BareDesign = Field(description="with the link so built")
    tube: str
    grade: str
    joint: str | None
    mass_kg: float
    worst_name: str
    worst_shown: str
    worst_case: str | None


class SizingOut(BaseModel):
    """What sizing found."""

    considered: int
    judged: int
    advice: str
    winner: SizedOut | None
    runner_up: SizedOut | None
    nearest: SizedOut | None


class ChangeOut(BaseModel):
    """The cheapest change that clears the governing check, if there is one."""

    found: SizedOut | None
    changed: list[str]
    mass_change_kg: float | None
    sentence: str


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


def _link(data: LinkIn) -> Link:
    found = next((link for link in data.design.links if link.id == data.link_id), None)
    if found is None:
        raise NotFound(data.link_id)
    return found


@operation(blueprint, "POST", "/api/evaluate", body=DesignIn, answer=Evaluation)
def evaluate_design(data: DesignIn) -> Evaluation:
    """Work out a design."""
    with services().gate.enter():
        return evaluate(data.design)


@operation(blueprint, "POST", "/api/draw", body=DrawIn, answer=DrawOut)
def draw_link(data: DrawIn) -> DrawOut:
    """Draw a link, its tab or its jig."""
    numbers = numbers_of(data.design.settings, data.unit)
    link = _link(data)
    with services().gate.enter():
        found = draw(link, data.design, data.view, numbers, end=data.end, turns=data.turns)
        turned = adjuster(link, data.design, data.turns, numbers) if data.view == "link" else None
    if isinstance(found, list):
        return DrawOut(drawing=None, faults=[DrawFault(field=f.field, message=f.message) for f in found])
    return DrawOut(drawing=found, faults=[], adjuster=turned)


@operation(blueprint, "POST", "/api/overview", body=OverviewIn, answer=Drawing)
def overview(data: OverviewIn) -> Drawing:
    """All links of a design to one scale."""
    numbers = numbers_of(data.design.settings, data.unit)
    with services().gate.enter():
        return draw_overview(data.design, numbers, data.first)


@operation(blueprint, "POST", "/api/links", body=NewLinkIn, answer=DesignOut)
def new_link(data: NewLinkIn) -> DesignOut:
    """The design with a new link, its left-hand end where the shop has it."""
    if any(link.id == data.id for link in data.design.links):
        return DesignOut(design=data.design)
    link = link_with_rod_ends(data.id, data.name, data.side, data.between, data.design.settings)
    if len(data.design.links) >= 500:
        raise Refused(422, "too_many", "A job holds 500 links. Start another job for more.", "design.links")
    return DesignOut(design=data.design.model_copy(update={"links": (*data.design.links, link)}))


def link_with_rod_ends(link_id: str, name: str, side: Side, between: Between, settings: Settings) -> Link:
    """A link with a rod end at either end, the left-hand one where the shop has it."""
    left_at_a = settings.left_hand_end == "a"
    return Link(
        id=link_id, name=name, side=side, between=between,
        end_a=RodEndEnd(hand="LH" if left_at_a else "RH"), end_b=RodEndEnd(hand="RH" if left_at_a else "LH"),
    )  # fmt: skip


@operation(blueprint, "POST", "/api/offers", body=LinkIn, answer=OffersOut)
def offers(data: LinkIn) -> OffersOut:
    """What may be chosen for each field of a link; nothing that does not fit."""
    return OffersOut(offers=choose.offers(_link(data), shop_catalogue()))


@operation(blueprint, "POST", "/api/choose", body=ChooseIn, answer=DesignOut)
def choose_part(data: ChooseIn) -> DesignOut:
    """Take a part; what no longer fits behind it follows."""
    catalogue = shop_catalogue()
    link = choose.choose(_link(data), data.part, data.key, catalogue)
    return DesignOut(design=adopt(data.design, link, catalogue))


@operation(blueprint, "POST", "/api/tab", body=LinkIn, answer=DesignOut)
def add_tab(data: LinkIn) -> DesignOut:
    """Give a link a tab pair proportioned to its bolt."""
    catalogue = shop_catalogue()
    link = choose.add_tab(_link(data), catalogue)
    return DesignOut(design=adopt(data.design, link, catalogue))


def _sized(judged: sizing.Judged | None, design: Design, catalogue: Catalogue) -> SizedOut | None:
    if judged is None:
        return None
    assembly, worst = judged.candidate.assembly, judged.worst
    return SizedOut(
        design=adopt(design, judged.candidate.link, catalogue), tube=assembly.tube.label,
        grade=assembly.grade.label, joint=assembly.threaded[0].joint.label if assembly.threaded else None,
        mass_kg=judged.candidate.mass, worst_name=worst.name, worst_shown=shown_utilisation(worst.utilisation),
        worst_case=worst.case,
    )  # fmt: skip


@operation(blueprint, "POST", "/api/size", body=LinkIn, answer=SizingOut)
def size_link(data: LinkIn) -> SizingOut:
    """The lightest parts of the catalogue that pass every check, and the next."""
    link, catalogue = _link(data), shop_catalogue()
    with services().gate.enter():
        found = sizing.size(link, data.design.settings, catalogue)
    return SizingOut(
        considered=found.considered, judged=found.judged, advice=found.advice,
        winner=_sized(found.winner, data.design, catalogue), runner_up=_sized(found.runner_up, data.design, catalogue),
        nearest=_sized(found.nearest, data.design, catalogue),
    )  # fmt: skip


@operation(blueprint, "POST", "/api/change", body=LinkIn, answer=ChangeOut)
def cheapest_change(data: LinkIn) -> ChangeOut:
    """The cheapest change of parts that clears the governing check."""
    link, catalogue = _link(data), shop_catalogue()
    with services().gate.enter():
        change = sizing.cheapest_change(link, data.design, catalogue)
        before = evaluate_link(link, data.design)
    governing = next((c for c in before.checks if c.key == before.governing), None)
    if change is None or governing is None:
        sentence = "No change of parts in the catalogue clears it. Lower the load, shorten the link or add parts."
        return ChangeOut(found=None, changed=[], mass_change_kg=None, sentence=sentence)
    assembly = change.judged.candidate.assembly
    after = next((c for c in change.judged.checks if c.key == governing.key), change.judged.worst)
    if change.changed == ("thread showing",):
        sentence = f"The same parts with the thread centred: {governing.name} goes from {governing.shown} to {shown_utilisation(after.utilisation)}."
        return ChangeOut(
            found=_sized(change.judged, data.design, catalogue), changed=list(change.changed),
            mass_change_kg=change.mass_change, sentence=sentence,
        )  # fmt: skip
    what = f"{assembly.tube.label}, {assembly.grade.label.split(',')[0]}"
    if ("thread" in change.changed or "joint" in change.changed) and assembly.threaded:
        what += f", {assembly.threaded[0].joint.label}"
    more = "adds" if change.mass_change >= 0 else "saves"
    sentence = (
        f"{what}: {governing.name} goes from {governing.shown} to {shown_utilisation(after.utilisation)} and "
        f"{more} {abs(change.mass_change):.2f} kg a link."
    )
    return ChangeOut(
        found=_sized(change.judged, data.design, catalogue), changed=list(change.changed),
        mass_change_kg=change.mass_change, sentence=sentence,
    )  # fmt: skip


@operation(blueprint, "POST", "/api/working", body=WorkingIn, answer=WorkingOut)
def working(data: WorkingIn) -> WorkingOut:
    """A calculation with its steps, as `./tirante calc TOPIC --working` gives it."""
    if data.topic not in TOPICS:
        raise Refused(404, "unknown_topic", "There is no such calculation.", "topic")
    result = calculate(data.topic, data.input, working=True)
    steps = result.pop("working")
    return WorkingOut(topic=data.topic, result=result, working=steps)
