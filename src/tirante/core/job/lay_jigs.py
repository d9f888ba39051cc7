"""Jigs for members of a job: which of them have one, and one laid out for each that has none."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from tirante.core.document.parts.bracket_bar import BracketBar
from tirante.core.document.parts.dummy_damper import DummyDamper
from tirante.core.document.parts.hanger import Hanger
from tirante.core.document.parts.hub_stand import HubStand
from tirante.core.document.parts.plate_jig import PlateJig, UprightOf
from tirante.core.document.parts.saved import SavedPart
from tirante.core.document.parts.set_jig import SetJig
from tirante.core.errors import InputError
from tirante.core.job.worked import Worked
from tirante.core.parts.dummy_damper.kind import sides_differ
from tirante.core.parts.plate_jig.upright import stands_twice
from tirante.core.parts.registry import kind_of

GONE = InputError("That suspension end is not there any more.", code="missing", fields=("end_id",))


@dataclass(frozen=True, slots=True, kw_only=True)
class NoJig:
    """A member that no jig was laid out for, and why."""

    part_id: str
    name: str
    why: str


def jig_for(job: Worked, saved: SavedPart, jig_id: str) -> PlateJig:
    """A jig of plate and posts for a part.

    Args:
        job: that it belongs to.
        saved: the part.
        jig_id: made by the client.

    Raises:
        InputError: nothing of the part can be taken hold of, or not yet.
    """
    if isinstance(saved, PlateJig):
        raise InputError("A jig is not held by another. Choose the part that it is to hold.", code="contradictory", fields=("part_id",))  # fmt: skip
    found = job.features(saved)
    if isinstance(found, str):
        raise InputError(found, code="no_jig", fields=("part_id",))
    return PlateJig(id=jig_id, name=f"{saved.name[:75]}, jig", holds=saved.id)


def of_end(job: Worked, end_id: str, ids: Sequence[str]) -> list[SavedPart]:
    """A hub stand for an end, a jig for its upright, and a dummy in the place of every damper of it, that it has none of yet; over its own box.

    Args:
        job: that it belongs to.
        end_id: of the end.
        ids: made by the client, one for each.

    Raises:
        InputError: there is no such end, or fewer ids than parts.
    """
    end = job.design.end(end_id)
    if end is None:
        raise GONE
    known = {(part.kind, getattr(part, "damper", "")) for part in job.design.parts if part.of_end == end_id}
    made: list[SavedPart] = []

    def next_id() -> str:
        if len(made) == len(ids):
            raise InputError("More parts are to be made than ids came with the question. Ask again.", code="missing", fields=("ids",), value=len(ids))  # fmt: skip
        return ids[len(made)]

    if ("hub_stand", "") not in known:
        made.append(HubStand(id=next_id(), name=f"{end.name[:60]} hub stand", end_id=end_id))
    template = job.template(end_id)
    body = template.roles.wheel_body
    uprights = {
        part.upright.body
        for part in job.design.parts
        if isinstance(part, PlateJig) and part.upright and part.upright.end_id == end_id
    }
    if body in template.bodies and template.carries(body) and stands_twice(template) and body not in uprights:
        words = body.replace("_", " ")
        made.append(PlateJig(id=next_id(), name=f"{end.name[:40]} {words}, jig"[:80], what="an upright", upright=UprightOf(end_id=end_id, body=body)))  # fmt: skip
    for name in end.end.dampers:
        if ("dummy_damper", name) not in known and name not in end.end.seated:
            one = DummyDamper(id=next_id(), name=f"{end.name[:40]} dummy {name}"[:70], end_id=end_id, damper=name, bump_mm=end.box.bump_mm, droop_mm=end.box.droop_mm)  # fmt: skip
            if not sides_differ(one, job):
                made.append(one)
                continue
            made.append(one.model_copy(update={"side": "left", "name": f"{one.name}, left"}))
            made.append(one.model_copy(update={"side": "right", "name": f"{one.name}, right", "id": next_id()}))
    return made


def hanger_for(job: Worked, end_id: str, jig_id: str) -> Hanger:
    """A hanger for both hubs of an end.

    Args:
        job: that it belongs to.
        end_id: of the end.
        jig_id: made by the client.

    Raises:
        InputError: there is no such end, or it has a hanger already.
    """
    end = job.design.end(end_id)
    if end is None:
        raise GONE
    if any(isinstance(part, Hanger) and part.end_id == end_id for part in job.design.parts):
        raise InputError(f"{end.name} has a hanger already.", code="contradictory", fields=("end_id",))
    return Hanger(id=jig_id, name=f"{end.name[:60]} hub hanger", end_id=end_id)


def for_links(job: Worked, jig_id: str) -> SetJig:
    """One jig for all links of a job that go on one.

    Args:
        job: that they belong to.
        jig_id: made by the client.

    Raises:
        InputError: the job has one already.
    """
    if any(isinstance(part, SetJig) for part in job.design.parts):
        raise InputError("The job has a set jig already: it takes every link that goes on it.", code="contradictory", fields=("jig_id",))  # fmt: skip
    return SetJig(id=jig_id, name="Set jig for links")


def for_member(job: Worked, mount_id: str, jig_id: str) -> BracketBar:
    """A bracket bar for the brackets on a member of the car.

    Args:
        job: that it belongs to.
        mount_id: of the member.
        jig_id: made by the client.

    Raises:
        InputError: no such member, one that has a bar already, or none of whose brackets goes on one.
    """
    mount = job.design.mount(mount_id)
    if mount is None:
        raise InputError("That member is not there any more.", code="missing", fields=("mount_id",))
    if any(isinstance(part, BracketBar) and part.mount == mount_id for part in job.design.parts):
        raise InputError(f"{mount.name} has a bracket bar already.", code="contradictory", fields=("mount_id",))
    made = BracketBar(id=jig_id, name=f"{mount.name[:66]}, bracket bar", mount=mount_id)
    lacking = kind_of(made).work_out(made, job).faults
    if lacking:
        raise InputError(lacking[0].message, code="no_jig", fields=("mount_id",))
    return made


def without(job: Worked) -> list[SavedPart]:
    """Members that neither a jig holds nor a rail of their own, in the job's order.

    Args:
        job: worked out.
    """
    held = {part.made_for for part in job.design.parts}
    own = {part.id for part in job.parts if part.jig is not None}
    return [one for one in job.design.parts if kind_of(one).station == "members" and one.id not in held | own]


def lay_out(job: Worked, ids: Sequence[str]) -> tuple[list[PlateJig], list[NoJig]]:
    """A jig for every member that has none and that one can be laid out for; the others with why not.

    Args:
        job: worked out.
        ids: made by the client, as many as may be needed.

    Raises:
        InputError: fewer ids than jigs.
    """
    made: list[PlateJig] = []
    left: list[NoJig] = []
    for saved in without(job):
        if len(made) == len(ids):
            raise InputError("More jigs are to be laid out than ids came with the question. Ask again.", code="missing", fields=("ids",), value=len(ids))  # fmt: skip
        try:
            made.append(jig_for(job, saved, ids[len(made)]))
        except InputError as error:
            left.append(NoJig(part_id=saved.id, name=saved.name, why=error.message))
    return made, left
