"""Brackets and what they stand on: made for places, proposed for the whole job, put on members of the car; members read from lists."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import asdict
from typing import Annotated, Literal

from flask import Blueprint
from pydantic import BaseModel, Field

from tirante.api.context import services, shop_catalogue, worked
from tirante.api.designs import DesignIn, PartIn, PatchOut, patch_out, room_for, saved_part
from tirante.api.problems import Refused
from tirante.api.routing import operation
from tirante.core.document.adopt import Patch, adopted, patched
from tirante.core.document.design import SuspensionEnd
from tirante.core.document.fields import Document, Id
from tirante.core.document.joints import Held, HeldJoint
from tirante.core.document.mounts import Mount
from tirante.core.document.parts.bracket import FlatBase, TabPair
from tirante.core.document.parts.pad import PadPart
from tirante.core.document.parts.saved import SavedPart
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.scene import Scene
from tirante.core.errors import InputError, NotApplicable
from tirante.core.job.bracket_map import map_of, scene_in_place
from tirante.core.job.hole_table import HoleRow, hole_table, nearest, put_in_hole, shim_table
from tirante.core.job.mounts_csv import mounts_of_obstacles, read_mounts, write_mounts
from tirante.core.job.pads import pad_at
from tirante.core.job.places import places_of
from tirante.core.job.propose import propose
from tirante.core.job.room.look import look_round
from tirante.core.job.worked import Worked
from tirante.core.parts.axle_saddle.kind import saddle_for
from tirante.core.parts.bracket.families.drawn import loops_of_outline, outline_from, sizes_of
from tirante.core.parts.bracket.families.held import joint_made
from tirante.core.parts.bracket.families.single_tab import SINGLE_TAB
from tirante.core.parts.bracket.families.tab_pair import fitted_to, proposed
from tirante.core.parts.bracket.families.tab_sizing import bolt_of
from tirante.core.parts.numbers import numbers_of
from tirante.core.parts.part import Misfit
from tirante.core.parts.registry import HOLDERS, PADS
from tirante.core.parts.stands import Stand
from tirante.documents.outline_in import loops_in
from tirante.storage.drafts import NotFound

blueprint = Blueprint("brackets", __name__)
Ids = Annotated[list[Id], Field(max_length=1200)]


class NewJointIn(Document):
    """A joint for a place that is to be held; its id made by the client."""

    id: Id
    held: Held


class NewBracketIn(DesignIn):
    """A bracket for one or more places of a part, or for a damper's eye; ids made by the client."""

    bracket_id: Id
    joints: Annotated[list[NewJointIn], Field(min_length=1, max_length=8)]
    family: Literal[
        "tab_pair", "folded_u", "angle_bracket", "lapped_plate", "strap_tab", "rail_sleeve", "split_clamp", "single_tab"
    ] = "tab_pair"


class ProposeIn(DesignIn):
    """A job whose joints are to have brackets; ids made by the client, two for each joint."""

    ids: Ids
    only: Annotated[
        list[Id],
        Field(max_length=600, default_factory=list, description="parts or ends whose joints are meant; none: all"),
    ]


class ProposalOut(BaseModel):
    """What is proposed for a joint."""

    place: str
    part_id: Id | None = Field(description="null: nothing is proposed")
    told: str = Field(description="what it stands on and whether it holds, or why there is none")
    settled: bool = Field(
        default=False, description="whether something holds it already that is no bracket: none is asked for"
    )


class ProposalsOut(PatchOut):
    """Brackets for a job."""

    every: list[ProposalOut]


class MapIn(DesignIn):
    """Which end to show the joints of."""

    end_id: Id
    unit: Literal["mm", "in"] = "mm"


class PlacedIn(DesignIn):
    """Which end to show in 3D, leaning and steered how."""

    end_id: Id
    roll_deg: Annotated[float, Field(ge=-15, le=15, allow_inf_nan=False)] = 0.0
    steer: Annotated[
        float, Field(ge=-1000, le=1000, allow_inf_nan=False, description="mm of the rack, or deg of the steering arm")
    ] = 0.0


class MapOut(BaseModel):
    """The joints of an end in three views, marked by their numbers among the job's places (from 1); null: it cannot be put together."""

    drawing: Drawing | None


class PlacedOut(BaseModel):
    """An end in 3D with members and brackets; null: it cannot be put together."""

    scene: Scene | None


class HolesIn(PartIn):
    """A bracket with several holes, and what is wished of its end."""

    wish: Annotated[str, Field(max_length=60)] | None = Field(
        default=None, description="key of a figure that is wished for"
    )
    wanted: Annotated[float, Field(ge=-1e5, le=1e5, allow_inf_nan=False)] = 0.0


class HoleFigureOut(BaseModel):
    """A measure with the joint in a hole."""

    key: str
    name: str
    unit: str
    value: float | None


class HoleOut(BaseModel):
    """A hole of a bracket."""

    number: int
    here: bool = Field(description="whether the joint is in it now")
    at_mm: tuple[float, float, float]
    fault: str = Field(description="why the end cannot stand so; empty where it can")
    figures: list[HoleFigureOut]
    tilt: str


class HolesOut(BaseModel):
    """Hole by hole, what each makes of its end."""

    holes: list[HoleOut]
    told: str
    best: int | None = Field(description="the hole that comes nearest to the wish")


class ShimsIn(PartIn):
    """A bracket whose shims are asked for."""

    under: bool = Field(default=False, description="behind the feet of one that is bolted on; else beside its joint")


class ShimsOut(BaseModel):
    """Shims taken from one side of a joint to the other, and what each amount makes of the end."""

    amounts_mm: list[float] = Field(description="along the bolt, the way that is told")
    shims: list[HoleOut]
    told: str


class OutlineIn(PartIn):
    """An outline for a tab pair: a DXF of another program, or another hole of the outline that it has; neither takes it off."""

    text: Annotated[str, Field(max_length=2_000_000)] | None = None
    name: Annotated[str, Field(max_length=120)] = ""
    unit: Literal["mm", "in"] | None = Field(default=None, description="of the file, where it does not say so itself")
    hole: Annotated[int, Field(ge=0, le=59)] | None = Field(
        default=None,
        description="which is the joint's, as they are numbered on the drawing, from 0; null: the one that its bolt fits best",
    )


class RoomLineOut(BaseModel):
    """One thing that was looked at, as `core.job.room.room.Line` has it."""

    sort: Literal["swing", "stands", "bolt", "spanner", "torch"]
    what: str
    to: str
    gap_mm: float | None
    wanted_mm: float
    where: str
    state: Literal["good", "attention", "stop"]
    told: str
    cure: str


class JointRoomOut(BaseModel):
    """The room at one joint of a bracket, the worst first."""

    joint: str
    lines: list[RoomLineOut]


class RoomOut(BaseModel):
    """The room round a bracket over the whole box of its end."""

    state: Literal["good", "attention", "stop"]
    joints: list[JointRoomOut]
    not_looked_at: list[str]


class SaddleIn(DesignIn):
    """The box whose plates are to be made, and the new part's id."""

    mount_id: Id
    id: Id


class PutInHoleIn(PartIn):
    """A hole that the joint is to be put in."""

    hole: Annotated[int, Field(ge=1, le=36)]


class PutInHoleOut(PatchOut):
    """The bracket, and the end as it then stands."""

    end: SuspensionEnd


class StandIn(PartIn):
    """A member of the car for a bracket to stand on; null takes it off."""

    mount_id: Id | None


class MountsIn(DesignIn):
    """A list of members of the car; ids for them, made by the client."""

    ids: Ids
    text: Annotated[str, Field(max_length=200_000)]


class FromObstaclesIn(DesignIn):
    """A job whose things to clear are to be members that brackets may stand on; ids for them, made by the client."""

    ids: Ids


class MountsOut(BaseModel):
    """Members of the car."""

    mounts: list[Mount]


class MountsTextOut(BaseModel):
    """Members of the car as CSV."""

    text: str


def _end(job: Worked, end_id: str) -> None:
    if job.design.end(end_id) is None:
        raise NotFound(end_id)


def _fitted(saved: SavedPart, joint: HeldJoint, job: Worked) -> SavedPart:
    """Made for what it stands on; what cannot stand there stays as it is, and says so itself."""
    if isinstance(saved, TabPair):
        return fitted_to(saved, joint, job)
    stand, one = job.stand_of(joint), joint_made(joint, job)
    if not isinstance(stand, Stand):
        return saved
    fitted: SavedPart = HOLDERS[saved.kind].fitted(saved, stand, None if isinstance(one, Misfit) else one)
    return fitted


@operation(blueprint, "POST", "/api/brackets/new", body=NewBracketIn, answer=PatchOut)
def new_bracket(data: NewBracketIn) -> PatchOut:
    """A tab pair for places that are to be held, proportioned to the bolt that goes through the first; a pad where one is made."""
    job, shelf = worked(data.design), shop_catalogue()
    room_for(job, 1)
    places = {place.held: place for place in places_of(job)}
    pad = next((p for asked in data.joints if (p := places.get(asked.held)) and p.family in PADS), None)
    if pad is not None:
        if len(data.joints) != 1:
            raise InputError(
                f"A {pad.makes} takes one place. Ask for it by itself.", code="contradictory", fields=("joints",)
            )
        if pad.missing:
            raise InputError(pad.missing, code="missing", fields=("joint",))
        known = next((one for one in job.design.joints if one.held == pad.held), None)
        joint = HeldJoint(id=data.joints[0].id, held=pad.held, by=data.bracket_id, mount=known.mount if known else None)
        made, _ = pad_at(job, pad, joint, data.bracket_id, shelf)
        return patch_out(adopted(job.design, (made,), shelf, (joint,)))
    joints, held = [], []
    for asked in data.joints:
        place = places.get(asked.held)
        if place is None:
            raise Refused(422, "no_such_end", "There is no such place that a bracket could hold.", "joints")
        joint = HeldJoint(id=asked.id, held=asked.held)
        one = job.held_end(joint)
        if one is None:
            raise InputError(place.missing or "", code="missing", fields=("joint",))
        joints.append(joint)
        held.append(one)
    if len({one.fork is None for one in held}) > 1:
        raise InputError("One of them is a clevis and another an eye. Ask for a bracket for each by itself.", code="contradictory", fields=("joints",))  # fmt: skip
    first_place = places[joints[0].held]
    what = first_place.of if first_place.together else f"{first_place.of}, {first_place.name}"
    pair, first = proposed(data.bracket_id, f"{what[:73]}, tabs", first_place.side, held[0], joints[0], shelf)
    pair = fitted_to(pair, joints[0], job)
    more = [joint.model_copy(update={"by": pair.id, "bolt": first.bolt}) for joint in joints[1:]]
    family = data.family if held[0].fork is None else SINGLE_TAB.key  # nothing else goes between a clevis's ears
    bracket = pair if family == pair.kind else HOLDERS[family].begun(pair)
    if family == SINGLE_TAB.key:
        bracket = _fitted(bracket, first, job)
    return patch_out(adopted(job.design, (bracket,), shelf, (first, *more)))


@operation(blueprint, "POST", "/api/brackets/propose", body=ProposeIn, answer=ProposalsOut)
def propose_brackets(data: ProposeIn) -> ProposalsOut:
    """A bracket for every joint that nothing holds, on what is there, as light as holds; each worked out, or why there is none."""
    job = worked(data.design)
    with services().gate_of(job).enter():
        found = propose(job, shop_catalogue(), data.ids, data.only)
    room_for(job, len(found.patch.parts))
    every = [
        ProposalOut(
            place=f"{one.place.of}, {one.place.name}",
            part_id=one.part.id if one.part else None,
            told=one.told,
            settled=one.place.settled,
        )
        for one in found.every
    ]
    return ProposalsOut(**dict(patch_out(found.patch)), every=every)


@operation(blueprint, "POST", "/api/brackets/stand", body=StandIn, answer=PatchOut)
def stand_bracket(data: StandIn) -> PatchOut:
    """A tab pair put on a member of the car and cut for it; or taken off, as it is."""
    job = worked(data.design)
    saved, joints = saved_part(job, data.part_id), job.held_by(data.part_id)
    if not (isinstance(saved, TabPair | PadPart) or saved.kind in HOLDERS) or not joints:
        raise InputError("Only what holds a joint stands on a mount. Say first what it holds.", code="no_solution", fields=("part_id",))  # fmt: skip
    if data.mount_id is not None and job.design.mount(data.mount_id) is None:
        raise InputError("That mount is not there any more.", code="missing", fields=("mount_id",))
    on = [joint.model_copy(update={"mount": data.mount_id}) for joint in joints]
    if isinstance(saved, PadPart):
        there = Worked(patched(job.design, Patch(parts=(), joints=tuple(on))), job.shelf, job.memory)
        return patch_out(Patch(parts=(PADS[saved.kind].fitted(saved, there),), joints=tuple(on)))
    found = job.stand_of(on[0])
    if isinstance(found, NotApplicable):
        raise InputError(found.message, code=found.code, fields=("mount_id",))
    return patch_out(Patch(parts=(_fitted(saved, on[0], job),), joints=tuple(on)))


@operation(blueprint, "POST", "/api/brackets/fit", body=PartIn, answer=PatchOut)
def fit_bracket(data: PartIn) -> PatchOut:
    """A tab pair cut anew for what it stands on, reaching to where the end has its bolt."""
    job = worked(data.design)
    saved = saved_part(job, data.part_id)
    on = next((joint for joint in job.held_by(saved.id) if job.foot_of(joint) or joint.mount), None)
    if not (isinstance(saved, TabPair) or saved.kind in HOLDERS) or on is None:
        raise InputError(
            "It stands on no part of this job and on no mount, so there is nothing to fit it to.",
            code="no_solution",
            fields=("part_id",),
        )
    return patch_out(Patch(parts=(_fitted(saved, on, job),)))


@operation(blueprint, "POST", "/api/brackets/map", body=MapIn, answer=MapOut)
def bracket_map(data: MapIn) -> MapOut:
    """Where the joints of an end are, numbered as among all places, with the members that brackets stand on."""
    job = worked(data.design)
    _end(job, data.end_id)
    with services().gate_of(job).enter():
        try:
            return MapOut(drawing=map_of(job, data.end_id, places_of(job), numbers_of(data.design.settings, data.unit)))
        except InputError:
            return MapOut(drawing=None)


@operation(blueprint, "POST", "/api/brackets/scene", body=PlacedIn, answer=PlacedOut)
def bracket_scene(data: PlacedIn) -> PlacedOut:
    """An end in 3D with the members of the car and the brackets on them."""
    job = worked(data.design)
    _end(job, data.end_id)
    try:
        with services().gate_of(job).enter():
            return PlacedOut(scene=scene_in_place(job, data.end_id, data.roll_deg, data.steer))
    except InputError:
        return PlacedOut(scene=None)


def _rows_out(rows: Sequence[HoleRow]) -> list[HoleOut]:
    return [
        HoleOut(
            number=row.number, here=row.here, at_mm=row.at, fault=row.fault, tilt=row.tilt,
            figures=[HoleFigureOut(key=f.key, name=f.name, unit=f.unit, value=f.value) for f in row.figures],
        )
        for row in rows
    ]  # fmt: skip


@operation(blueprint, "POST", "/api/brackets/holes", body=HolesIn, answer=HolesOut)
def holes_of_bracket(data: HolesIn) -> HolesOut:
    """What each hole of an adjustable mount makes of its end, all that is made as long as it is."""
    job = worked(data.design)
    saved = saved_part(job, data.part_id)
    with services().gate_of(job).enter():
        table = hole_table(job, saved.id)
    return HolesOut(
        holes=_rows_out(table.rows), told=table.told, best=nearest(table, data.wish, data.wanted) if data.wish else None
    )


@operation(blueprint, "POST", "/api/brackets/shims", body=ShimsIn, answer=ShimsOut)
def shims_of_bracket(data: ShimsIn) -> ShimsOut:
    """What shims along the bolt, or behind bolted feet, make of the end, all that is made as long as it is."""
    job = worked(data.design)
    saved = saved_part(job, data.part_id)
    with services().gate_of(job).enter():
        table = shim_table(job, saved.id, under=data.under)
    return ShimsOut(amounts_mm=list(table.amounts), shims=_rows_out(table.rows), told=table.told)


@operation(blueprint, "POST", "/api/brackets/outline", body=OutlineIn, answer=PatchOut)
def outline_of_bracket(data: OutlineIn) -> PatchOut:
    """A tab pair of an outline that was drawn elsewhere, its sizes measured on it; or of the usual shape again."""
    job = worked(data.design)
    saved = saved_part(job, data.part_id)
    if not isinstance(saved, TabPair):
        raise InputError("Only a tab pair takes an outline.", code="no_solution", fields=("part_id",))
    if data.text is None and data.hole is None:
        return patch_out(Patch(parts=(saved.model_copy(update={"drawn": None}),)))
    joint = next(iter(job.held_by(saved.id)), None)
    bolt = bolt_of(joint.bolt, job.catalogue) if joint else None
    if data.text is not None:
        loops = loops_in(data.text, data.unit)
    elif saved.drawn is not None:
        loops = loops_of_outline(saved.drawn)
    else:
        raise InputError("It has no drawn outline whose hole could be chosen. Read one first.", code="missing", fields=("text",))  # fmt: skip
    name = data.name or (saved.drawn.name if saved.drawn else "")
    drawn = outline_from(loops, name, bolt.diameter_mm if bolt else None, data.hole)
    return patch_out(Patch(parts=(saved.model_copy(update={**sizes_of(drawn), "drawn": drawn, "holes": None, "in_hole": 1, "base": FlatBase(wall_mm=saved.base.wall_mm), "height_fixed": True}),)))  # fmt: skip


@operation(blueprint, "POST", "/api/brackets/room", body=PartIn, answer=RoomOut)
def room_of_bracket(data: PartIn) -> RoomOut:
    """What comes near a bracket while its end moves, and whether bolt, spanner and torch get there."""
    job = worked(data.design)
    saved = saved_part(job, data.part_id)
    with services().gate_of(job).enter():
        room = look_round(job, saved.id)
    joints = [JointRoomOut(joint=one.joint, lines=[RoomLineOut(**asdict(line)) for line in one.lines]) for one in room.joints]  # fmt: skip
    return RoomOut(state=room.state, joints=joints, not_looked_at=list(room.not_looked_at))


@operation(blueprint, "POST", "/api/brackets/put-in-hole", body=PutInHoleIn, answer=PutInHoleOut)
def put_joint_in_hole(data: PutInHoleIn) -> PutInHoleOut:
    """The joint put in another hole: the plate stays, its end moves with all lengths kept."""
    job = worked(data.design)
    saved = saved_part(job, data.part_id)
    with services().gate_of(job).enter():
        found = put_in_hole(job, saved.id, data.hole)
    return PutInHoleOut(**dict(patch_out(Patch(parts=(found.part,)))), end=found.end)


@operation(blueprint, "POST", "/api/brackets/saddle", body=SaddleIn, answer=PatchOut)
def new_saddle(data: SaddleIn) -> PatchOut:
    """The plates of a box that stands on a tube of the car, as a part."""
    job = worked(data.design)
    room_for(job, 1)
    box = job.design.mount(data.mount_id)
    if box is None:
        raise InputError("That mount is not there any more. Take another.", code="missing", fields=("mount_id",))
    return patch_out(Patch(parts=(saddle_for(data.id, box, job.design.mounts),)))


@operation(blueprint, "POST", "/api/mounts/read", body=MountsIn, answer=MountsOut)
def read_mount_list(data: MountsIn) -> MountsOut:
    """Members of the car from CSV."""
    return MountsOut(mounts=list(read_mounts(data.text, data.design.ends, data.ids)))


@operation(blueprint, "POST", "/api/mounts/from-obstacles", body=FromObstaclesIn, answer=MountsOut)
def mounts_from_obstacles(data: FromObstaclesIn) -> MountsOut:
    """The things to clear that stand on the chassis, as members that brackets may stand on."""
    return MountsOut(mounts=list(mounts_of_obstacles(data.design, data.ids)))


@operation(blueprint, "POST", "/api/mounts/write", body=DesignIn, answer=MountsTextOut)
def write_mount_list(data: DesignIn) -> MountsTextOut:
    """Members of the car as CSV."""
    return MountsTextOut(text=write_mounts(data.design))
