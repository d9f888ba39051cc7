"""Arms as parts: made from an end's hinged bodies, worked out under every case, sized."""

from __future__ import annotations

from typing import Annotated

from flask import Blueprint
from pydantic import BaseModel, Field

from tirante.api.context import services, shop_catalogue
from tirante.api.designs import BareDesign, DesignIn, DesignOut
from tirante.api.ends import OfEndIn, end_of
from tirante.api.problems import Refused
from tirante.api.routing import operation
from tirante.calc.loaded import EVERYDAY, bare, loads_of
from tirante.calc.templates import template_of
from tirante.core.design.arm import ArmResult, arm_result, places_of, size_arm
from tirante.core.design.catalogue import grade_comes_as
from tirante.core.design.choose import adopt_arm
from tirante.core.design.evaluate import shown_utilisation
from tirante.core.design.fields import Id
from tirante.core.design.model import Arm, Design, SuspensionEnd
from tirante.core.errors import InputError
from tirante.core.loads.end_loads import EndLoads
from tirante.storage.jobs import NotFound

blueprint = Blueprint("arms", __name__)


class NewArmsIn(OfEndIn):
    """Ids for the arms that the end's hinged bodies become."""

    ids: Annotated[list[Id], Field(min_length=1, max_length=20)]


class ArmIn(DesignIn):
    """One of the design's arms."""

    arm_id: Id


class ArmTubeOut(BaseModel):
    """A stretch of tube in its worst case."""

    name: str
    case: str
    axial_n: float
    moment_nmm: float
    torsion_nmm: float
    shear_n: float
    stress_mpa: float
    weld_use: float
    column_use: float
    shown: str
    state: str


class ArmOut(BaseModel):
    """An arm, worked out; or what stands in the way."""

    id: str
    name: str
    fault: str | None
    tube_label: str | None
    grade_label: str | None
    shown: str
    state: str
    headline: str
    tubes: list[ArmTubeOut]
    outer: str
    outer_n: float | None
    outer_case: str
    outer_pull_n: float | None
    stud_use: float | None
    stud_shown: str
    deflection_mm: list[float] | None
    camber_deg_per_g: float | None
    mass_kg: float | None
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


def _end(design: Design, arm: Arm) -> SuspensionEnd | None:
    return next((end for end in design.ends if end.id == arm.end_id), None)


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
        found = [_worked(arm, data.design) for arm in data.design.arms]
    missing = {}
    for end in data.design.ends:
        known = {arm.body for arm in data.design.arms if arm.end_id == end.id}
        own = [body for body in _bodies(end) if body not in known]
        if own:
            missing[end.id] = own
    return ArmsOut(arms=found, missing=missing)


def _fault(arm: Arm, message: str, tube: str | None = None, grade: str | None = None) -> ArmOut:
    return ArmOut(
        id=arm.id, name=arm.name, fault=message, tube_label=tube, grade_label=grade, shown="–", state="incomplete", headline=message, tubes=[],
        outer="", outer_n=None, outer_case="", outer_pull_n=None, stud_use=None, stud_shown="–", deflection_mm=None, camber_deg_per_g=None,
        mass_kg=None, notes=[],
    )  # fmt: skip


def _loads(design: Design, end: SuspensionEnd) -> EndLoads:
    found = loads_of(design, end)
    if isinstance(found, InputError):
        raise found
    return found


def _worked(arm: Arm, design: Design) -> ArmOut:
    end = _end(design, arm)
    if end is None:
        return _fault(arm, "The suspension end that it was an arm of is not there any more.")
    tube = design.catalogue.find("tubes", arm.tube) if arm.tube else None
    grade = design.catalogue.find("grades", arm.grade) if arm.grade else None
    labels = (tube.label if tube else None, grade.label if grade else None)
    if tube is None or grade is None:
        return _fault(arm, "Not sized yet: press Size it.", *labels)
    try:
        everyday = _loads(bare(design).model_copy(update={"loads": EVERYDAY}), end)
        studs = {name: ball.stud_axis for name, ball in end.end.balls.items()}
        found = arm_result(
            arm, tube, grade, template_of(end.end), _loads(design, end), everyday, design.settings.factors, studs  # type: ignore[arg-type]
        )  # fmt: skip
    except InputError as error:
        return _fault(arm, error.message, *labels)
    return _told(arm, found, labels)


def _state(use: float) -> str:
    return "stop" if use > 1.0 else "attention" if use >= 0.85 else "ok"


def _told(arm: Arm, found: ArmResult, labels: tuple[str | None, str | None]) -> ArmOut:
    worst = found.worst or 0.0
    stud = found.stud_use
    top = max(worst, stud or 0.0)
    word = {"stop": "It does not hold", "attention": "It is close", "ok": "It holds"}[_state(top)]
    what = "the ball joint’s stud, bent" if stud is not None and stud > worst else found.worst_what
    return ArmOut(
        id=arm.id, name=arm.name, fault=None, tube_label=labels[0], grade_label=labels[1], shown=shown_utilisation(top), state=_state(top),
        headline=f"{word}. Weakest: {what}, {shown_utilisation(top)} of 1.00 in “{found.worst_case}”.",
        tubes=[
            ArmTubeOut(
                name=t.name, case=t.case, axial_n=t.axial, moment_nmm=t.moment, torsion_nmm=t.torsion, shear_n=t.shear, stress_mpa=t.stress,
                weld_use=t.weld_use, column_use=t.column_use, shown=shown_utilisation(max(t.weld_use, t.column_use)),
                state=_state(max(t.weld_use, t.column_use)),
            )
            for t in found.tubes
        ],
        outer=found.outer, outer_n=found.outer_force, outer_case=found.outer_case, outer_pull_n=found.outer_pull or None, stud_use=stud,
        stud_shown=shown_utilisation(stud), deflection_mm=found.deflection_mm.tolist() if found.camber_deg_per_g is not None else None,
        camber_deg_per_g=found.camber_deg_per_g, mass_kg=found.mass_kg, notes=list(found.notes),
    )  # fmt: skip


@operation(blueprint, "POST", "/api/arms/size", body=ArmIn, answer=ArmSizedOut)
def size_an_arm(data: ArmIn) -> ArmSizedOut:
    """The lightest tube and grade of the catalogue that hold an arm under every case."""
    design, catalogue = data.design, shop_catalogue()
    arm = next((one for one in design.arms if one.id == data.arm_id), None)
    end = _end(design, arm) if arm else None
    if arm is None or end is None:
        raise NotFound(data.arm_id)
    with services().gate.enter():
        studs = {name: ball.stud_axis for name, ball in end.end.balls.items()}
        try:
            found = size_arm(
                arm, catalogue.tubes, catalogue.grades, grade_comes_as, template_of(end.end), _loads(design, end), design.settings.factors,
                studs,
            )  # fmt: skip
        except InputError as error:
            return ArmSizedOut(
                design=None, tube="", grade="", mass_kg=None, worst="", runner_up="", considered=0, advice=error.message
            )
    if found.tube is None or found.grade is None or found.result is None:
        return ArmSizedOut(
            design=None,
            tube="",
            grade="",
            mass_kg=None,
            worst="",
            runner_up="",
            considered=found.considered,
            advice=found.advice,
        )
    sized = arm.model_copy(update={"tube": found.tube.key, "grade": found.grade.key})
    return ArmSizedOut(
        design=adopt_arm(design, sized, catalogue), tube=found.tube.label, grade=found.grade.label, mass_kg=found.result.mass_kg,
        worst=f"{found.result.worst_what} {shown_utilisation(found.result.worst)}", runner_up=found.runner_up, considered=found.considered,
        advice=found.advice,
    )  # fmt: skip
