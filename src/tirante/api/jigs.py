"""Jigs laid out for the members of a job."""

from __future__ import annotations

from dataclasses import asdict
from typing import Annotated

from flask import Blueprint
from pydantic import BaseModel, Field

from tirante.api.context import services, worked
from tirante.api.designs import DesignIn, PatchOut, patch_out, room_for, saved_part
from tirante.api.routing import operation
from tirante.core.document.adopt import Patch
from tirante.core.document.fields import Id
from tirante.core.document.rack import RackRow
from tirante.core.job.jig_stock import of_rack
from tirante.core.job.lay_jigs import for_links, for_member, hanger_for, jig_for, lay_out, of_end
from tirante.storage import rack

blueprint = Blueprint("jigs", __name__)


class NewJigIn(DesignIn):
    """A part that is to be held; the jig's id made by the client."""

    part_id: Id
    jig_id: Id


class AllJigsIn(DesignIn):
    """A job whose members are to have jigs; ids made by the client, one for each member that has none."""

    ids: Annotated[list[Id], Field(max_length=600)]


class SetJigIn(DesignIn):
    """A job whose links are to have one jig; its id made by the client."""

    jig_id: Id


class MemberJigIn(DesignIn):
    """A member of the car whose brackets are to have a bar; its id made by the client."""

    mount_id: Id
    jig_id: Id


class EndJigsIn(DesignIn):
    """An end that is to have a hub stand and dummy dampers; ids made by the client."""

    end_id: Id
    ids: Annotated[list[Id], Field(max_length=20)]


class HangerIn(DesignIn):
    """An end whose hubs are to hang from a beam; its id made by the client."""

    end_id: Id
    jig_id: Id


class NoJigOut(BaseModel):
    """A member that no jig was laid out for, and why."""

    part_id: Id
    name: str
    why: str


class AllJigsOut(PatchOut):
    """Jigs that are added, and what none was laid out for."""

    left: list[NoJigOut]


def _rack() -> list[RackRow]:
    with services().database.transaction() as connection:
        return [row for row, _ in rack.rows(connection)]


@operation(blueprint, "POST", "/api/jigs/new", body=NewJigIn, answer=PatchOut)
def new_jig(data: NewJigIn) -> PatchOut:
    """A jig of plate and posts for a part."""
    job = worked(data.design)
    room_for(job, 1)
    saved = saved_part(job, data.part_id)
    with services().gate_of(job).enter():
        return patch_out(Patch(parts=tuple(of_rack(job, [jig_for(job, saved, data.jig_id)], _rack()))))


@operation(blueprint, "POST", "/api/jigs/of-end", body=EndJigsIn, answer=PatchOut)
def end_jigs(data: EndJigsIn) -> PatchOut:
    """A hub stand for an end, and a dummy for each damper of it, where it has none yet."""
    job = worked(data.design)
    made = of_end(job, data.end_id, data.ids)
    room_for(job, len(made))
    return patch_out(Patch(parts=tuple(made)))


@operation(blueprint, "POST", "/api/jigs/hanger", body=HangerIn, answer=PatchOut)
def end_hanger(data: HangerIn) -> PatchOut:
    """A beam over the rails that both hubs of an end hang from."""
    job = worked(data.design)
    room_for(job, 1)
    return patch_out(Patch(parts=(hanger_for(job, data.end_id, data.jig_id),)))


@operation(blueprint, "POST", "/api/jigs/for-links", body=SetJigIn, answer=PatchOut)
def links_jig(data: SetJigIn) -> PatchOut:
    """One jig for all links of a job that go on one, set by a scale."""
    job = worked(data.design)
    room_for(job, 1)
    return patch_out(Patch(parts=(for_links(job, data.jig_id),)))


@operation(blueprint, "POST", "/api/jigs/for-member", body=MemberJigIn, answer=PatchOut)
def member_jig(data: MemberJigIn) -> PatchOut:
    """A bracket bar for the brackets on a member of the car."""
    job = worked(data.design)
    room_for(job, 1)
    return patch_out(Patch(parts=(for_member(job, data.mount_id, data.jig_id),)))


@operation(blueprint, "POST", "/api/jigs/all", body=AllJigsIn, answer=AllJigsOut)
def all_jigs(data: AllJigsIn) -> AllJigsOut:
    """A jig for every member that has none; what none was laid out for, with the reason."""
    job = worked(data.design)
    rows = _rack()
    with services().gate_of(job).enter():
        made, left = lay_out(job, data.ids)
        made = of_rack(job, made, rows)
    room_for(job, len(made))
    patch = patch_out(Patch(parts=tuple(made)))
    return AllJigsOut(**{name: getattr(patch, name) for name in PatchOut.model_fields}, left=[NoJigOut(**asdict(one)) for one in left])  # fmt: skip
