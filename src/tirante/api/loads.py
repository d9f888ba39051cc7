"""Loads: the sets that ship, and what the cases of a job put through its suspension."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, Literal

from flask import Blueprint
from pydantic import BaseModel, Field

from tirante.api.context import services, worked
from tirante.api.designs import DrawFault
from tirante.api.ends import OfEndIn, PointsCsvIn, end_of
from tirante.api.routing import operation
from tirante.core.checks.shown import command_line
from tirante.core.document.load_cases import LoadSet
from tirante.core.drawing.model import Drawing
from tirante.core.errors import InputError
from tirante.core.parts.numbers import numbers_of

if TYPE_CHECKING:
    from tirante.core.loads.shown import Worst
    from tirante.core.suspension.statics import Forces

blueprint = Blueprint("loads", __name__)


class LoadSetsOut(BaseModel):
    """The load sets that ship."""

    sets: list[LoadSet]


class LoadsIn(OfEndIn):
    """Which case to draw; none: the one that loads a link most."""

    case: Annotated[str, Field(max_length=200)] | None = None
    unit: Literal["mm", "in"] = "mm"


class CaseOut(BaseModel):
    """One case, one way round."""

    name: str
    of: str = Field(description="the case of the load set")
    kind: str
    travel_mm: float
    roll_deg: float
    steer: float
    carrier: str
    source: str
    notes: list[str]
    fault: str | None
    refused: bool = Field(description="nothing may be relied on in it, as the fault says")
    reason: str = Field(description="why it is among the cases")
    hardest: str = Field(description="the link that it loads most")
    hardest_n: float | None
    residual: float | None


class PartForce(BaseModel):
    """What a part carries in the case shown; links and straps tension positive, springs and stops compression positive."""

    part: str
    kind: Literal["link", "joint", "spring", "stop", "strap", "bar", "held"]
    force_n: float
    vector_n: list[float] | None = None
    moment_nmm: list[float] | None = None


class WorstOut(BaseModel):
    """The hardest a part is pulled and pushed, and by which case."""

    part: str
    pull_n: float
    pull_case: str
    push_n: float
    push_case: str


class LoadsOut(BaseModel):
    """All cases of an end, one of them drawn."""

    faults: list[DrawFault]
    cases: list[CaseOut]
    shown: str | None
    parts: list[PartForce]
    links: list[WorstOut]
    joints: list[WorstOut]
    stiffness: str = Field(description="how redundant layouts share, in words; empty where nothing is shared")
    bump: str
    droop: str
    command: str | None = Field(description="the line that repeats the case shown")
    drawing: Drawing | None


@operation(blueprint, "GET", "/api/load-sets", answer=LoadSetsOut)
def load_sets() -> LoadSetsOut:
    """The load sets that ship; each factor common practice, to be edited."""
    return LoadSetsOut(sets=list(services().shelf.load_sets.values()))


@operation(blueprint, "POST", "/api/loads", body=LoadsIn, answer=LoadsOut)
def loads(data: LoadsIn) -> LoadsOut:
    """Every case of the load set carried through an end."""
    from tirante.core.loads.shown import as_calc_input, draw_case, worst_of_parts

    end = end_of(data)
    job = worked(data.design)
    with services().gate_of(job).enter():
        try:
            found = job.carried(end.id)
        except InputError as error:
            faults = [DrawFault(field=field, message=error.message) for field in error.fields or ("",)]
            return LoadsOut(
                faults=faults,
                cases=[],
                shown=None,
                parts=[],
                links=[],
                joints=[],
                stiffness="",
                bump="",
                droop="",
                command=None,
                drawing=None,
            )
        rows = []
        for one in found.cases:
            most = max(one.forces.axial.items(), key=lambda item: abs(item[1]), default=None) if one.forces else None
            rows.append(
                CaseOut(
                    name=one.name, of=one.case.name, kind=one.case.kind, travel_mm=one.position[0], roll_deg=one.position[1],
                    steer=one.position[2], carrier=one.carrier, source=one.case.source, notes=list(one.notes), fault=one.fault, refused=one.refused, reason=one.case.reason,
                    hardest=most[0] if most and not one.fault else "", hardest_n=most[1] if most and not one.fault else None,
                    residual=one.forces.residual if one.forces and not one.fault else None,
                )
            )  # fmt: skip
        good = [one for one in found.cases if one.forces is not None and not one.fault]
        hardest = max(good, key=lambda one: max(map(abs, one.forces.axial.values()), default=0.0), default=None)  # type: ignore[union-attr]
        chosen = next((one for one in good if one.name == data.case), hardest)
        links, joints = worst_of_parts(found)
        drawing = draw_case(end.name, found, chosen, numbers_of(data.design.settings, data.unit)) if chosen else None
        repeats = as_calc_input(job.ends[end.id], chosen) if chosen else None
        command = command_line("loads", repeats) if repeats else None
        shares = bool(found.solved and any(side.solved.bind is not None for side in found.solved.sides))
    return LoadsOut(
        faults=[], cases=rows, shown=chosen.name if chosen else None, parts=_parts(chosen.forces) if chosen else [],
        links=[_worst(row) for row in links], joints=[_worst(row) for row in joints],
        stiffness="more holds than is needed: links and bushes share by their stiffness, as given at Layout" if shares else "",
        bump=f"{found.bump_by} at {found.bump_mm:+.1f} mm", droop=f"{found.droop_by} at {found.droop_mm:+.1f} mm",
        command=command, drawing=drawing,
    )  # fmt: skip


def _worst(row: Worst) -> WorstOut:
    return WorstOut(part=row.part, pull_n=row.pull, pull_case=row.pull_case, push_n=row.push, push_case=row.push_case)


def _parts(forces: Forces | None) -> list[PartForce]:
    if forces is None:
        return []
    out = [PartForce(part=name, kind="link", force_n=force) for name, force in forces.axial.items()]
    out += [PartForce(part=name, kind="spring", force_n=force) for name, force in forces.springs.items()]
    out += [PartForce(part=name, kind="stop", force_n=force) for name, force in forces.stops.items()]
    out += [PartForce(part=name, kind="strap", force_n=force) for name, force in forces.straps.items()]
    out += [PartForce(part=name, kind="bar", force_n=torque) for name, torque in forces.bars.items()]
    out += [PartForce(part=name, kind="held", force_n=force) for name, force in forces.holds.items()]
    out += [
        PartForce(
            part=name, kind="joint", force_n=float((joint.force @ joint.force) ** 0.5), vector_n=joint.force.tolist(),
            moment_nmm=joint.moment.tolist(),
        )
        for name, joint in forces.joints.items()
    ]  # fmt: skip
    return out


@operation(blueprint, "POST", "/api/loads/pick-ups", body=OfEndIn, answer=PointsCsvIn)
def pick_ups(data: OfEndIn) -> PointsCsvIn:
    """Loads of the pick-up points on the car's frame as CSV: every end, every case."""
    from tirante.core.loads.shown import pickups_csv

    end_of(data)
    job = worked(data.design)
    with services().gate_of(job).enter():
        found = {}
        for one in job.design.ends:
            try:
                found[one.name] = job.carried(one.id)
            except InputError:
                continue  # what is wrong with an end stands at Layout and in what is to be settled
        return PointsCsvIn(text=pickups_csv(found))
