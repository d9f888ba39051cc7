"""The design: one document per job, what a user saves, exports and imports, and what everything is computed from.

Units are in every name; lengths a person typed keep the text beside the millimetres. A design holds the left side;
side "pair" means a mirrored part on the right. Version 3 of the format; `load_design` upgrades older ones.
"""

from __future__ import annotations

from math import dist
from typing import Annotated, Literal

from pydantic import AfterValidator, Field, model_validator

from tirante.core.document.car import Car
from tirante.core.document.catalogue import Catalogue
from tirante.core.document.end import End, Ride
from tirante.core.document.fields import (
    Document,
    Id,
    Name,
    Note,
)
from tirante.core.document.load_cases import LoadSet
from tirante.core.document.parts.arm import Arm, keys_of_arm
from tirante.core.document.parts.common import OfEnd
from tirante.core.document.parts.link import Link, used_keys
from tirante.core.document.settings import Settings

SCHEMA_VERSION = 3


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


class Design(Document):
    """A job."""

    schema_version: Literal[3] = 3
    name: Name
    note: Note = ""
    settings: Settings = Settings()
    links: Annotated[tuple[Link, ...], Field(max_length=500, strict=False)] = ()
    catalogue: Catalogue = Catalogue()
    ends: Annotated[tuple[SuspensionEnd, ...], Field(max_length=8, strict=False)] = ()
    arms: Annotated[tuple[Arm, ...], Field(max_length=60, strict=False)] = ()
    car: Car = Car()
    loads: LoadSet = LoadSet()

    def standing(self, end: SuspensionEnd) -> End:
        """An end in this job's car, at its ride height."""
        return self.car.standing(end.end)

    @model_validator(mode="after")
    def _consistent(self) -> Design:
        every = {"links": self.links, "ends": self.ends, "arms": self.arms}
        for what, ids in ((what, [one.id for one in parts]) for what, parts in every.items()):  # type: ignore[attr-defined]
            if len(set(ids)) != len(ids):
                raise ValueError(f"{what}: two {what} have the same id; give one a new id")
        for i, one in enumerate(self.ends):
            if one.end.vehicle is not None or one.end.ride != Ride():
                which = "ride" if one.end.vehicle is None else "vehicle"
                raise ValueError(
                    f"ends.{i}.end.{which}: the vehicle and its ride height are the job’s; give them in car"
                )
        for i, link in enumerate(self.links):
            for kind, key, field in used_keys(link):
                if self.catalogue.find(kind, key) is None:  # type: ignore[arg-type]
                    raise ValueError(
                        f"links.{i}.{field}: the catalogue rows of this design have no {kind[:-1]} “{key}”; choose "
                        "one from the catalogue"
                    )
        for i, arm in enumerate(self.arms):
            for row, wanted, field in keys_of_arm(arm):
                if self.catalogue.find(row, wanted) is None:  # type: ignore[arg-type]
                    raise ValueError(
                        f"arms.{i}.{field}: the catalogue rows of this design have no {row[:-1]} “{wanted}”; choose one from the catalogue"
                    )
        return self


def tied(design: Design) -> Design:
    """The design with every link of an end as long as that end's points now make it.

    A link whose end or points are gone keeps the length it had; `assemble` says so.
    """
    ends = {one.id: one.end for one in design.ends}
    links = []
    for link in design.links:
        length = of_end_length(link, ends)
        fresh = length is not None and length != link.between.mm
        links.append(
            link.model_copy(update={"between": link.between.model_copy(update={"mm": length})}) if fresh else link
        )
    return (
        design
        if all(a is b for a, b in zip(links, design.links, strict=True))
        else design.model_copy(update={"links": tuple(links)})
    )


def of_end_length(link: Link, ends: dict[str, End]) -> float | None:
    """What an end's points make of a link's length [mm]; None when it is not tied, or what it was tied to is gone."""
    between = link.between
    if not isinstance(between, OfEnd) or between.end_id not in ends:
        return None
    end = ends[between.end_id]
    places = []
    for point, side in ((between.a, between.a_side), (between.b, between.b_side)):
        given = end.points.get(point)
        if given is None:
            return None
        mirror = (given[0], -given[1], given[2])
        places.append(end.right_points.get(point, mirror) if side == "right" else given)
    length = dist(*places)
    return length if length >= 1e-3 else None


def loose(link: Link, design: Design) -> bool:
    """Whether what a link was tied to is gone."""
    tied_to = isinstance(link.between, OfEnd)
    return tied_to and of_end_length(link, {one.id: one.end for one in design.ends}) is None


TiedDesign = Annotated[Design, AfterValidator(tied)]


def prune_catalogue(design: Design) -> Design:
    """The design with only the catalogue rows it uses, in a fixed order."""
    used = {(kind, key) for link in design.links for kind, key, _ in used_keys(link)}
    used |= {(kind, key) for arm in design.arms for kind, key, _ in keys_of_arm(arm)}
    rows = {
        kind: tuple(
            sorted(
                (r for r in design.catalogue.rows(kind) if (kind, r.key) in used),  # type: ignore[arg-type]
                key=lambda r: r.key,
            )
        )
        for kind in Catalogue.model_fields
    }
    return design.model_copy(update={"catalogue": Catalogue(**rows)})  # type: ignore[arg-type]
