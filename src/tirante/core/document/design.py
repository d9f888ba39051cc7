"""The design: one document per job, what a user saves, exports and imports, and what everything is computed from.

Units are in every name; lengths a person typed keep the text beside the millimetres. A design holds the left side;
side "pair" means a mirrored part on the right. Version 5 of the format; `load_design` upgrades older ones.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import Annotated, Literal, TypeVar

from pydantic import AfterValidator, Field, model_validator

import tirante.core.document.parts  # noqa: F401 - every kind of part is known before a design is read
from tirante.core.document.car import Car
from tirante.core.document.catalogue import Catalogue
from tirante.core.document.end import End, Ride
from tirante.core.document.fields import Document, Id, Name, Note
from tirante.core.document.joints import HeldJoint, PointOfBody
from tirante.core.document.load_cases import LoadSet
from tirante.core.document.mounts import Mount
from tirante.core.document.parts.saved import AnyPart, SavedPart
from tirante.core.document.settings import Settings

SCHEMA_VERSION = 5
P = TypeVar("P", bound=SavedPart)


class TravelBox(Document):
    """How far the end is to be moved, each way from ride height."""

    bump_mm: Annotated[float, Field(gt=0, le=600)] = 80.0
    droop_mm: Annotated[float, Field(gt=0, le=600)] = 80.0
    roll_deg: Annotated[float, Field(ge=0, le=15)] = 3.0
    steer_mm: Annotated[float, Field(ge=0, le=200)] = 30.0  # of a rack
    steer_deg: Annotated[float, Field(ge=0, le=60)] = 25.0  # of a steering arm


class SuspensionEnd(Document):
    """One end of the car in this job."""

    id: Id
    name: Name
    end: End
    box: TravelBox = TravelBox()
    made: bool = False  # its parts are made: a pick-up that is moved keeps their lengths


class Design(Document):
    """A job."""

    schema_version: Literal[5] = 5
    name: Name
    note: Note = ""
    settings: Settings = Settings()
    parts: Annotated[tuple[AnyPart, ...], Field(max_length=600, strict=False)] = ()
    joints: Annotated[tuple[HeldJoint, ...], Field(max_length=1200, strict=False)] = ()
    mounts: Annotated[tuple[Mount, ...], Field(max_length=200, strict=False)] = ()
    catalogue: Catalogue = Catalogue()
    ends: Annotated[tuple[SuspensionEnd, ...], Field(max_length=8, strict=False)] = ()
    car: Car = Car()
    loads: LoadSet = LoadSet()

    def standing(self, end: SuspensionEnd) -> End:
        """An end in this job's car, at its ride height."""
        return self.car.standing(end.end)

    def part(self, part_id: str) -> SavedPart | None:
        """A part by its id; None when there is none."""
        return next((one for one in self.parts if one.id == part_id), None)

    def mount(self, mount_id: str | None) -> Mount | None:
        """A member of the car that brackets stand on, by its id; None when there is none."""
        return next((one for one in self.mounts if one.id == mount_id), None)

    def end(self, end_id: str | None) -> SuspensionEnd | None:
        """A suspension end by its id; None when there is none."""
        return next((one for one in self.ends if one.id == end_id), None)

    def of_kind(self, saved: type[P]) -> tuple[P, ...]:
        """All parts of one kind, in the job's order."""
        return tuple(one for one in self.parts if isinstance(one, saved))

    def held_by(self, part_id: str) -> tuple[HeldJoint, ...]:
        """The joints that a bracket holds."""
        return tuple(one for one in self.joints if one.by == part_id)

    def joints_of(self, part_id: str) -> tuple[HeldJoint, ...]:
        """The joints at which a part is held."""
        return tuple(j for j in self.joints if not isinstance(j.held, PointOfBody) and j.held.part == part_id)

    def used_rows(self) -> Iterator[tuple[str, str, str]]:
        """Every catalogue row in use: (table, key, place in the design)."""
        for i, part in enumerate(self.parts):
            yield from ((table, key, f"parts.{i}.{field}") for table, key, field in part.used_rows())
        for i, joint in enumerate(self.joints):
            yield from ((table, key, f"joints.{i}.{field}") for table, key, field in joint.used_rows())

    @model_validator(mode="after")
    def _consistent(self) -> Design:
        for what, ids in (
            ("parts", [one.id for one in self.parts]),
            ("joints", [one.id for one in self.joints]),
            ("ends", [one.id for one in self.ends]),
            ("mounts", [one.id for one in self.mounts]),
        ):
            if len(set(ids)) != len(ids):
                raise ValueError(f"{what}: two {what} have the same id; give one a new id")
        for i, one in enumerate(self.ends):
            if one.end.vehicle is not None or one.end.ride != Ride():
                which = "ride" if one.end.vehicle is None else "vehicle"
                raise ValueError(
                    f"ends.{i}.end.{which}: the vehicle and its ride height are the job’s; give them in car"
                )
        for table, key, place in self.used_rows():
            if self.catalogue.find(table, key) is None:  # type: ignore[arg-type]
                raise ValueError(
                    f"{place}: the catalogue rows of this design have no {table[:-1]} “{key}”; choose one from the catalogue"
                )
        return self


def tied(design: Design) -> Design:
    """The design with every part of an end as that end's points now make it, and no joint of a part or an end that is gone.

    A part whose end or points are gone keeps the length it had, and says so. A bracket that is taken out leaves its joints with
    nothing that holds them, a member of the car its brackets with nothing that they stand on.
    """
    ends = {one.id: one.end for one in design.ends}
    parts = tuple(part.tied(ends) for part in design.parts)
    mounts = tuple(one for one in design.mounts if one.end_id is None or one.end_id in ends)
    known, members = {part.id for part in parts}, {one.id for one in mounts}
    joints = tuple(
        _with_what_is_there(one, known, members)
        for one in design.joints
        if (one.held.end_id in ends if isinstance(one.held, PointOfBody) else one.held.part in known)
    )
    changed: dict[str, object] = {}
    stiff = _stiffened(design.ends, parts)
    if stiff is not None:
        changed["ends"] = stiff
    if any(a is not b for a, b in zip(parts, design.parts, strict=True)):
        changed["parts"] = parts
    if len(mounts) != len(design.mounts):
        changed["mounts"] = mounts
    if len(joints) != len(design.joints) or any(a is not b for a, b in zip(joints, design.joints, strict=True)):
        changed["joints"] = joints
    return design.model_copy(update=changed) if changed else design


def _with_what_is_there(joint: HeldJoint, parts: set[str], mounts: set[str]) -> HeldJoint:
    gone: dict[str, None] = {}
    if joint.by is not None and joint.by not in parts:
        gone["by"] = None
    if joint.mount is not None and joint.mount not in mounts:
        gone["mount"] = None
    return joint.model_copy(update=gone) if gone else joint


def _stiffened(ends: Sequence[SuspensionEnd], parts: Sequence[SavedPart]) -> tuple[SuspensionEnd, ...] | None:
    """The ends with the rates of anti-roll bars as the parts that stand for them have them; None where nothing changes."""
    by_id = {one.id: one.end for one in ends}
    found = dict(by_id)
    for part in parts:
        own = part.stiffens(by_id)
        if own is None:
            continue
        end_id, name, rate = own
        addition = found[end_id].additions.get(name)
        if addition is not None and addition.rate_nm_per_deg != rate:
            more = {**found[end_id].additions, name: addition.model_copy(update={"rate_nm_per_deg": rate})}
            found[end_id] = found[end_id].model_copy(update={"additions": more})
    if all(found[key] is by_id[key] for key in found):
        return None
    return tuple(one.model_copy(update={"end": found[one.id]}) for one in ends)


TiedDesign = Annotated[Design, AfterValidator(tied)]


def pruned(design: Design) -> Design:
    """The design with only the catalogue rows it uses, in a fixed order."""
    used = {(table, key) for table, key, _ in design.used_rows()}
    rows = {
        table: tuple(
            sorted(
                (r for r in design.catalogue.rows(table) if (table, r.key) in used),  # type: ignore[arg-type]
                key=lambda r: r.key,
            )
        )
        for table in Catalogue.model_fields
    }
    return design.model_copy(update={"catalogue": Catalogue(**rows)})  # type: ignore[arg-type]
