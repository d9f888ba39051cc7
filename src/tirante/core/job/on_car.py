"""What each part of a job is for: whether a wheel or the steering hangs on it, what it holds, which jigs hold it. Of no kind is it asked."""

from __future__ import annotations

from tirante.core.document.joints import Held, HeldJoint, PointOfBody
from tirante.core.errors import InputError
from tirante.core.job.worked import Worked
from tirante.core.parts.part import Part
from tirante.core.parts.registry import kind_of
from tirante.core.parts.steps import OnCar
from tirante.core.suspension.duty import Duty, duty_of


def on_car(job: Worked) -> dict[str, OnCar]:
    """Of every part by its id what it is for; a tool is for nothing on the car.

    Args:
        job: worked out.
    """
    jigs: dict[str, list[str]] = {}
    for saved in job.design.parts:
        if saved.made_for:
            jigs.setdefault(saved.made_for, []).append(saved.name)
    own = {part.id: _own_duty(job, part) for part in job.parts}
    found = {}
    for part in job.parts:
        held, above = job.held_by(part.id), job.design.part(part.saved.lies_under or "")
        duties = {own[part.id], *(_of_held(job, one.held, own) for one in held), own[above.id] if above else ""}
        holds = (above.name,) if above else tuple(dict.fromkeys(_name(job, one) for one in held))
        found[part.id] = OnCar() if part.tool else OnCar(
            duty="steers" if "steers" in duties else "locates" if "locates" in duties else "", member=_member(job, part), holds=holds,
            jigs=tuple(jigs.get(part.id, ())),
        )  # fmt: skip
    return found


def _member(job: Worked, part: Part) -> bool:
    """Whether it stands for something that moves with an end."""
    return part.saved.of_end in job.ends and (part.saved.stands_for or part.saved.plate_of) is not None


def _own_duty(job: Worked, part: Part) -> Duty:
    """What it is for by itself: as every part of its kind, or as the link of its end that it is."""
    fixed, end_id, link = kind_of(part.saved).duty, part.saved.of_end, part.saved.stands_for
    if fixed or end_id is None or link is None or end_id not in job.ends:
        return fixed
    try:
        return duty_of(job.at_ride(end_id), link)
    except InputError:
        return ""


def _of_held(job: Worked, held: Held, own: dict[str, Duty]) -> Duty:
    """What something that is held is for: the part, or what no part of the job stands for."""
    if not isinstance(held, PointOfBody):
        return own.get(held.part, "")
    unmade = job.unmade_at(held)
    if unmade is None or unmade.shaft:
        return ""
    try:
        return duty_of(job.at_ride(held.end_id), unmade.body) or "locates"
    except InputError:
        return "locates"


def _name(job: Worked, joint: HeldJoint) -> str:
    """What is held at a joint, as a person says it."""
    found = job.held_end(joint)
    if found is not None:
        return found.name
    if isinstance(joint.held, PointOfBody):
        return joint.held.point.replace("_", " ")
    saved = job.design.part(joint.held.part)
    return saved.name if saved else "a part that is gone"
