"""Arms as parts: made from an end's hinged bodies, worked out under every case, drawn, sized."""

from __future__ import annotations

from typing import Annotated, Literal

from flask import Blueprint
from pydantic import BaseModel, Field

from tirante.api.context import services, shop_catalogue
from tirante.api.designs import BareDesign, DesignIn, DesignOut, DrawFault
from tirante.api.ends import OfEndIn, end_of
from tirante.api.problems import Refused
from tirante.api.routing import operation
from tirante.core.checks.shown import CheckOut, check_out, shown_utilisation
from tirante.core.document.adopt import adopt_arm
from tirante.core.document.design import Design, SuspensionEnd
from tirante.core.document.fields import Id
from tirante.core.document.parts.arm import Arm
from tirante.core.drawing.model import Drawing
from tirante.core.errors import InputError
from tirante.core.job.arms import SizedArm, WorkedArm, sized_arm, worked_arm
from tirante.core.parts.arm.frame import places_of
from tirante.core.parts.arm.shown import arm_drawing, hardware_offers, saw_lengths
from tirante.core.parts.numbers import numbers_of
from tirante.shipped.templates import template_of
from tirante.storage.jobs import NotFound

blueprint = Blueprint("arms", __name__)


class NewArmsIn(OfEndIn):
    """Ids for the arms that the end's hinged bodies become."""

    ids: Annotated[list[Id], Field(min_length=1, max_length=20)]


class ArmIn(DesignIn):
    """One of the design's arms."""

    arm_id: Id


class ArmDrawIn(ArmIn):
    """In which unit."""

    unit: Literal["mm", "in"] = "mm"


class OuterOut(BaseModel):
    """What the outer joint sees [N], along its stud where that is known."""

    name: str
    force_n: float
    case: str
    out_n: float
    out_case: str
    into_n: float
    stud_points: Literal["up", "down"] | None


class GivesOut(BaseModel):
    """Under 1 g of cornering, outer wheel, by this arm's tubes alone."""

    moved_mm: list[float]
    camber_deg: float
    toe_deg: float


class ArmOut(BaseModel):
    """An arm, worked out; or what stands in the way."""

    id: str
    name: str
    faults: list[DrawFault]
    tube_label: str | None
    grade_label: str | None
    shown: str
    state: Literal["ok", "attention", "stop", "incomplete"]
    headline: str
    checks: list[CheckOut]
    outer: OuterOut | None
    gives: GivesOut | None
    mass_kg: float | None
    saw_mm: dict[str, float]
    residual: float | None
    notes: list[str]


class ArmsOut(BaseModel):
    """All arms of the job, and which hinged bodies have none yet."""

    arms: list[ArmOut]
    missing: dict[str, list[str]] = Field(description="by end: hinged bodies that are no part yet")


class ArmSizedOut(BaseModel):
    """An arm sized."""

    design: BareDesign | None
    tube: str
    grade: str
    mass_kg: float | None
    worst: str
    runner_up: str
    considered: int
    advice: str


class ArmDrawOut(BaseModel):
    """The arm in its plane; None while it is not complete."""

    drawing: Drawing | None
    faults: list[DrawFault]


class ArmOffersOut(BaseModel):
    """Joints, inserts and nuts that go into the arm's tube together with what is chosen, by kind."""

    joints: list[str]
    inserts: list[str]
    nuts: list[str]


def _bodies(end: SuspensionEnd) -> list[str]:
    template = template_of(end.end)
    return [body for body in template.bodies if places_of(template, body) is not None]


@operation(blueprint, "POST", "/api/arms/new", body=NewArmsIn, answer=DesignOut)
def new_arms(data: NewArmsIn) -> DesignOut:
    """The design with an arm for every hinged body of an end that has none."""
    end, design = end_of(data), data.design
    known = {arm.body for arm in design.arms if arm.end_id == end.id}
    made = [body for body in _bodies(end) if body not in known]
    if len(design.arms) + len(made) > 60:
        raise Refused(422, "too_many", "A job holds 60 arms. Start another job for more.", "design.arms")
    arms = [
        Arm(id=new, name=f"{end.name} {body.replace('_', ' ')}", end_id=end.id, body=body)
        for new, body in zip(data.ids, made, strict=False)
    ]  # fmt: skip
    return DesignOut(design=design.model_copy(update={"arms": (*design.arms, *arms)}))


@operation(blueprint, "POST", "/api/arms", body=DesignIn, answer=ArmsOut)
def arms(data: DesignIn) -> ArmsOut:
    """Every arm of the job under every load case."""
    with services().gate.enter():
        found = [_told(worked_arm(arm, data.design)) for arm in data.design.arms]
    missing = {}
    for end in data.design.ends:
        known = {arm.body for arm in data.design.arms if arm.end_id == end.id}
        own = [body for body in _bodies(end) if body not in known]
        if own:
            missing[end.id] = own
    return ArmsOut(arms=found, missing=missing)


def _told(worked: WorkedArm) -> ArmOut:
    arm, found = worked.arm, worked.result
    checks = [check_out(check) for check in worked.checks]
    # as of a link: thread that is long enough is no weakness, thread that is too short is
    ranked = [one for one in checks if one.key != "engagement" or one.state == "stop"]
    top = ranked[0] if ranked else None
    if worked.faults:
        state, headline = "incomplete", worked.faults[0].message
    elif top is None:
        state, headline = "incomplete", "No load asks anything of it yet."
    else:
        word = {"stop": "It does not hold", "attention": "It is close"}.get(top.state, "It holds")
        state = top.state if top.state in ("stop", "attention") else "ok"
        headline = f"{word}. Weakest: {top.name}, {top.shown} of 1.00{f' in “{top.case}”' if top.case else ''}."
    joint = found.outer if found else None
    gives = found.gives if found else None
    return ArmOut(
        id=arm.id, name=arm.name, faults=[DrawFault(field=f.field, message=f.message) for f in worked.faults],
        tube_label=worked.tube.label if worked.tube else None, grade_label=worked.grade.label if worked.grade else None,
        shown=top.shown if top else "–", state=state, headline=headline, checks=checks,  # type: ignore[arg-type]
        outer=OuterOut(
            name=joint.name, force_n=joint.force, case=joint.case, out_n=joint.out, out_case=joint.out_case, into_n=joint.into,
            stud_points=None if joint.upward is None else "up" if joint.upward else "down",
        ) if joint else None,
        gives=GivesOut(moved_mm=gives.moved.tolist(), camber_deg=gives.camber_deg, toe_deg=gives.toe_deg) if gives else None,
        mass_kg=found.mass_kg if found else None, saw_mm=saw_lengths(arm, found, worked.sides) if found else {},
        residual=found.residual if found else None, notes=list(found.notes) if found else [],
    )  # fmt: skip


@operation(blueprint, "POST", "/api/arms/drawing", body=ArmDrawIn, answer=ArmDrawOut)
def draw_arm(data: ArmDrawIn) -> ArmDrawOut:
    """An arm flat in its plane, each tube with how it is used."""
    arm = _arm(data.design, data.arm_id)
    with services().gate.enter():
        worked = worked_arm(arm, data.design)
    faults = [DrawFault(field=f.field, message=f.message) for f in worked.faults]
    if worked.result is None or worked.tube is None:
        return ArmDrawOut(drawing=None, faults=faults)
    numbers = numbers_of(data.design.settings, data.unit)
    drawing = arm_drawing(arm, worked.tube, worked.result, worked.sides, worked.checks, numbers)
    return ArmDrawOut(drawing=drawing, faults=faults)


def _arm(design: Design, arm_id: str) -> Arm:
    arm = next((one for one in design.arms if one.id == arm_id), None)
    if arm is None:
        raise NotFound(arm_id)
    return arm


@operation(blueprint, "POST", "/api/arms/offers", body=ArmIn, answer=ArmOffersOut)
def arm_offers(data: ArmIn) -> ArmOffersOut:
    """What goes into the pivots' ends of an arm's tube."""
    arm, catalogue = _arm(data.design, data.arm_id), shop_catalogue()
    found = hardware_offers(arm, data.design.catalogue, catalogue)
    return ArmOffersOut(joints=found["joints"], inserts=found["inserts"], nuts=found["nuts"])


class ArmChooseIn(ArmIn):
    """A part for its pivots' rod ends; null clears it."""

    part: Literal["joint", "insert", "nut", "tube", "grade"]
    key: Annotated[str, Field(max_length=80)] | None


@operation(blueprint, "POST", "/api/arms/choose", body=ArmChooseIn, answer=DesignOut)
def choose_for_arm(data: ArmChooseIn) -> DesignOut:
    """The design with a part chosen for an arm, its catalogue row copied in."""
    arm, catalogue = _arm(data.design, data.arm_id), shop_catalogue()
    if data.key is not None and catalogue.find(f"{data.part}s", data.key) is None:  # type: ignore[arg-type]
        raise Refused(422, "unknown_part", f"There is no {data.part} “{data.key}” in the catalogue.", "key")
    if data.part in ("tube", "grade"):
        changed = arm.model_copy(update={data.part: data.key})
    else:
        changed = arm.model_copy(update={"pivot_end": arm.pivot_end.model_copy(update={data.part: data.key})})
    return DesignOut(design=adopt_arm(data.design, changed, catalogue))


@operation(blueprint, "POST", "/api/arms/size", body=ArmIn, answer=ArmSizedOut)
def size_an_arm(data: ArmIn) -> ArmSizedOut:
    """The lightest tube and grade of the catalogue that hold an arm under every case, with rod ends where it has them."""
    design, catalogue = data.design, shop_catalogue()
    arm = _arm(design, data.arm_id)
    try:
        with services().gate.enter():
            found = sized_arm(arm, design, catalogue)
    except InputError as error:
        return ArmSizedOut(
            design=None, tube="", grade="", mass_kg=None, worst="", runner_up="", considered=0, advice=error.message
        )
    return arm_sized_out(found, design)


def arm_sized_out(found: SizedArm, design: Design) -> ArmSizedOut:
    """What the search found, ready to show."""
    one = found.found
    if found.arm is None or one.tube is None or one.grade is None or one.result is None:
        return ArmSizedOut(
            design=None, tube="", grade="", mass_kg=None, worst="", runner_up="", considered=one.considered, advice=found.advice
        )  # fmt: skip
    return ArmSizedOut(
        design=adopt_arm(design, found.arm, shop_catalogue()), tube=one.tube.label, grade=one.grade.label, mass_kg=one.result.mass_kg,
        worst=f"{one.result.worst_what} {shown_utilisation(one.result.worst)}", runner_up=one.runner_up, considered=one.considered,
        advice=found.advice,
    )  # fmt: skip
