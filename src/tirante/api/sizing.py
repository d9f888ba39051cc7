"""Sizing: a part, the cheapest change that clears what governs, and the whole job."""

from __future__ import annotations

from flask import Blueprint
from pydantic import BaseModel, Field

from tirante.api.context import services, shop_catalogue, worked
from tirante.api.designs import PartIn, PatchOut, patch_out, saved_part
from tirante.api.routing import operation
from tirante.core.checks.shown import left_out, shown_utilisation
from tirante.core.document.adopt import adopted
from tirante.core.document.catalogue import Catalogue
from tirante.core.job.evaluate import part_out
from tirante.core.job.size_all import AllSized, PartSized
from tirante.core.job.worked import Worked
from tirante.core.parts.kind import Choice
from tirante.core.parts.part import Part
from tirante.core.parts.registry import kind_of

blueprint = Blueprint("sizing", __name__)


class SizedOut(BaseModel):
    """A set of stock, judged."""

    patch: PatchOut = Field(description="the part so built, with the brackets that go with it")
    tube: str
    grade: str
    joint: str | None
    mass_kg: float
    worst: str
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
    """The cheapest change that clears the governing check, if there is one; tried before it is given."""

    found: SizedOut | None
    changed: list[str]
    mass_change_kg: float | None
    sentence: str


class PartSizedOut(BaseModel):
    """One part of the job."""

    part_id: str
    kind: str
    name: str
    sized: bool
    searched: bool = Field(description="whether its kind is searched for at all; what is bought whole is not")
    tube: str
    grade: str
    joint: str | None
    mass_kg: float | None
    worst: str
    runner_up: str
    advice: str


class SizeAllOut(BaseModel):
    """The job sized: what changes of the design, and what was found."""

    patch: PatchOut
    parts: list[PartSizedOut]
    stocks: int
    mass_kg: float
    considered: int
    judged: int
    seconds: float
    stopped: bool = Field(description="before all parts were sized")


def _worst(choice: Choice) -> str:
    worst = choice.worst
    return f"{worst.name} {shown_utilisation(worst.utilisation)}" if worst else choice.worst_told


def _choice(choice: Choice | None, job: Worked, shelf: Catalogue) -> SizedOut | None:
    if choice is None:
        return None
    return SizedOut(
        patch=patch_out(adopted(job.design, choice.parts, shelf, choice.joints)), tube=choice.tube, grade=choice.grade, joint=choice.joint,
        mass_kg=choice.mass, worst=_worst(choice), worst_case=choice.worst.case if choice.worst else None,
    )  # fmt: skip


@operation(blueprint, "POST", "/api/size", body=PartIn, answer=SizingOut)
def size_part(data: PartIn) -> SizingOut:
    """The lightest stock of the catalogue that passes every check, and the next."""
    job, shelf = worked(data.design), shop_catalogue()
    saved = saved_part(job, data.part_id)
    with services().long.enter():
        found = kind_of(saved).size(saved, job, shelf, "mass")
        part = job.part(saved.id)
    return SizingOut(
        considered=found.considered, judged=found.judged, advice=_advised(found.advice, part), winner=_choice(found.winner, job, shelf),
        runner_up=_choice(found.runner_up, job, shelf), nearest=_choice(found.nearest, job, shelf),
    )  # fmt: skip


@operation(blueprint, "POST", "/api/change", body=PartIn, answer=ChangeOut)
def cheapest_change(data: PartIn) -> ChangeOut:
    """The cheapest change of stock that clears the governing check."""
    job, shelf = worked(data.design), shop_catalogue()
    saved = saved_part(job, data.part_id)
    with services().long.enter():
        change = kind_of(saved).cheaper(saved, job, shelf)
        part = job.part(saved.id)
        assert part
        before = part_out(part, job)
    governing = next((c for c in before.checks if c.key == before.governing), None)
    if change is None or governing is None:
        cure = f" What would help: {governing.cure}." if governing else ""
        kind = kind_of(saved)
        if kind.changes:
            sentence = f"No change of stock in the catalogue clears it. Lower the load, shorten it or add to the catalogue.{cure}"
        else:
            more = " Size it searches the whole catalogue for it." if kind.searched else ""
            sentence = f"No single change is tried for this kind of part ({kind.word}).{cure}{more}"
        return ChangeOut(found=None, changed=[], mass_change_kg=None, sentence=sentence)
    after = next((c for c in change.checks if c.key == governing.key), change.checks[0])
    to = f"{governing.name} goes from {governing.shown} to {shown_utilisation(after.utilisation)}"
    if change.changed == ("thread showing",):
        sentence = f"The same parts with the thread centred: {to}."
    else:
        what = f"{change.choice.tube}, {change.choice.grade.split(',')[0]}"
        if ("thread" in change.changed or "joint" in change.changed) and change.choice.joint:
            what += f", {change.choice.joint}"
        more = "adds" if change.mass_change >= 0 else "saves"
        sentence = f"{what}: {to} and {more} {abs(change.mass_change):.2f} kg a {before.word}."
    return ChangeOut(
        found=_choice(change.choice, job, shelf), changed=list(change.changed), mass_change_kg=change.mass_change, sentence=sentence
    )  # fmt: skip


def sized_out(found: AllSized, job: Worked, shelf: Catalogue, seconds: float) -> SizeAllOut:
    """What was found, and what it changes of the design.

    Args:
        found: the search's answer.
        job: that was searched for.
        shelf: that was searched.
        seconds: that it took.
    """
    winners = [one.sized.winner for one in found.parts if one.sized and one.sized.winner]
    parts = [part for winner in winners for part in winner.parts]
    joints = [joint for winner in winners for joint in winner.joints]
    return SizeAllOut(
        patch=patch_out(adopted(job.design, parts, shelf, joints)), parts=[_row(one, job.part(one.part.id)) for one in found.parts], stocks=found.stocks,
        mass_kg=found.mass, considered=found.considered, judged=found.judged, seconds=seconds, stopped=len(found.parts) < found.asked,
    )  # fmt: skip


def _advised(advice: str, part: Part | None) -> str:
    """What a search says, and which load cases it was made without."""
    return f"{advice} {left_out(part.not_carried) if part else ''}".strip()


def _row(one: PartSized, part: Part | None) -> PartSizedOut:
    winner = one.sized.winner if one.sized else None
    second = one.sized.runner_up if one.sized else None
    return PartSizedOut(
        part_id=one.part.id, kind=one.part.kind, name=one.part.name, sized=winner is not None, searched=kind_of(one.part).searched, tube=winner.tube if winner else "",
        grade=winner.grade if winner else "", joint=winner.joint if winner else None, mass_kg=winner.mass if winner else None,
        worst=_worst(winner) if winner else "", runner_up=second.tube if second else one.sized.runner_up_told if one.sized else "",
        advice=_advised((one.sized.advice if one.sized else None) or one.fault or "", part),
    )  # fmt: skip
