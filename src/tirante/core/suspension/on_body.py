"""Where things stand on a moving body: its joints, the wheel, what a damper, stop or strap puts on it."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from tirante.core.document.end import End, PlaceIn
from tirante.core.document.template import AboutLine, BushJoint, HingeJoint, LinkJoint, SliderJoint, Template

StandsAs = Literal["hinge", "ball", "bush", "link", "slider", "pivot", "wheel", "damper", "stop", "strap"]
JOINTED: tuple[StandsAs, ...] = (
    "hinge",
    "ball",
    "bush",
    "link",
    "slider",
    "pivot",
    "wheel",
)  # what a body is built between


@dataclass(frozen=True, slots=True, kw_only=True)
class OnBody:
    """A place on a body, by the end's own name of the point."""

    point: str
    at: tuple[float, float, float]  # at ride height, on the left [mm]
    sort: StandsAs
    what: str  # the joint's name, or damper, bump stop, strap, wheel
    bolt: tuple[float, float, float] | None = None  # along a joint that turns about one line, as a hinge or a bush does

    @property
    def words(self) -> str:
        """As a person says it."""
        return self.point.replace("_", " ")

    @property
    def jointed(self) -> bool:
        """Whether the body is built between places like this one."""
        return self.sort in JOINTED


def places_on(template: Template, end: End, body: str, *, right: bool = False) -> tuple[OnBody, ...]:
    """Every place on a body, each point once, joints first.

    Args:
        template: of the end, with its additions.
        end: as it stands in the car.
        body: of the template.
        right: as the right one of a pair has it, brought over to the left as its mirror image.
    """
    found: dict[str, OnBody] = {}
    for one in _places(template, end, body, right):
        found.setdefault(one.point, one)
    return tuple(found.values())


def _places(template: Template, end: End, body: str, right: bool) -> Iterator[OnBody]:
    def at(point: str) -> tuple[float, float, float] | None:
        given = end.right_points.get(point) if right else None
        if given is not None:
            return given[0], -given[1], given[2]
        known = end.points.get(point)
        return None if known is None else (known[0], known[1], known[2])

    def place(
        point: str, sort: StandsAs, what: str, bolt: tuple[float, float, float] | None = None
    ) -> Iterator[OnBody]:
        where = at(point)
        if where is not None:
            yield OnBody(point=point, at=where, sort=sort, what=what, bolt=bolt)

    for joint in template.joints:
        if body not in joint.bodies_tied:
            continue
        if isinstance(joint, HingeJoint):
            ends = [where for where in (at(point) for point in joint.points) if where is not None]
            bolt = None
            if len(ends) == 2:
                bolt = ends[1][0] - ends[0][0], ends[1][1] - ends[0][1], ends[1][2] - ends[0][2]
            for point in joint.points:
                yield from place(point, "hinge", joint.name, bolt)
        elif isinstance(joint, LinkJoint):
            for end_of in joint.places:
                if end_of.body == body:
                    yield from place(end_of.point, "link", joint.name)
        elif isinstance(joint, SliderJoint):
            if joint.place.body == body:
                yield from place(joint.place.point, "slider", joint.name)
            else:
                for point in joint.line:
                    yield from place(point, "slider", joint.name)
        else:
            along = joint.direction if isinstance(joint, BushJoint | AboutLine) else None
            if isinstance(joint, AboutLine) and joint.toward:
                both = [where for where in map(at, (joint.point, joint.toward)) if where is not None]
                along = (
                    joint.along(dict(zip((joint.point, joint.toward), both, strict=True)).__getitem__)
                    if len(both) == 2
                    else None
                )
            # what swings both ways about a bolt is held there as in a bush
            sort: StandsAs = "bush" if joint.kind == "universal" else joint.kind
            yield from place(joint.places[0].point, sort, joint.name, along)
    if template.roles.wheel_body == body:
        yield from place(template.roles.wheel_centre, "wheel", "wheel")
    for what, sort, own in _beside(end):
        if own.body == body:
            yield from place(own.point, sort, what)


def _beside(end: End) -> Iterator[tuple[str, StandsAs, PlaceIn]]:
    """What the end has beside its joints."""
    for name, damper in end.dampers.items():
        for place in damper.places:
            yield name, "damper", place
    if end.bump_stop:
        for place in (end.bump_stop.pad, end.bump_stop.tip):
            yield "bump stop", "stop", place
    if end.strap:
        for place in (end.strap.a, end.strap.b):
            yield "strap", "strap", place
