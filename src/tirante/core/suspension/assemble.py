"""From a template and an end's points to a mechanism.

An independent end is its left corner; a beam axle is whole, each paired part twice (`_left`, `_right`). The travel driver
is the rise of the wheel centre (of the axle's centre), the roll driver of a beam its turn about x against the body,
and the steer driver the rack's travel to the left.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import dist, hypot

from tirante.core.errors import InputError
from tirante.core.mechanism.model import (
    GROUND,
    Coincident,
    Constraint,
    Coordinate,
    Distance,
    Mark,
    Mechanism,
    OnLine,
    Parallel,
    Turned,
    Vector,
    separation,
)
from tirante.core.suspension.end import End, EndLink
from tirante.core.suspension.template import BallJoint, HingeJoint, Joint, LinkJoint, SliderJoint, Template

TRAVEL, ROLL, STEER = "travel", "roll", "steer"
SIDES = ("left", "right")


@dataclass(frozen=True, slots=True, kw_only=True)
class LinkMarks:
    """A link with its two ends."""

    name: str
    template_name: str
    side: str  # left, right or centre
    a: Mark
    b: Mark
    length: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Assembled:
    """An end as a mechanism, with the marks its measures are taken from."""

    template: Template
    end: End
    mechanism: Mechanism
    marks: dict[str, Mark]  # by point name; of a beam's pairs also name_left, name_right
    links: tuple[LinkMarks, ...]
    wheel_centre: Mark

    @property
    def steers(self) -> bool:
        """Whether the rack's travel moves anything."""
        return any(mark.drive == STEER for link in self.links for mark in (link.a, link.b))


def mirrored(at: Vector) -> Vector:
    """The mirror image on the other side of the car."""
    return at[0], -at[1], at[2]


def assemble_end(template: Template, end: End) -> Assembled:
    """Build the mechanism.

    Raises:
        InputError: a point, link or body is missing or unknown, two points coincide, a line has no direction; each by its
            field.
    """
    _check_damper(template, end)
    _check_points(template, end)
    _check_links(template, end)
    builder = _Builder(template, end)
    for joint in template.joints:
        if template.axle == "beam" and joint.pair:
            for side in SIDES:
                builder.add(joint, side)
        else:
            builder.add(joint, "centre" if template.axle == "beam" else "left")
    builder.drive()
    return builder.done()


def _check_points(template: Template, end: End) -> None:
    wanted = {point.name for point in template.points}
    needed = {place.point for joint in template.joints for place in joint.places} | {template.roles.wheel_centre}
    missing = sorted(needed - set(end.points))
    damper = {place.point for place in end.damper.places} if end.damper else set()
    extra = sorted(set(end.points) - wanted - damper)
    if missing:
        raise InputError(
            f"These points are missing: {', '.join(missing)}. A {template.title.lower()} needs them.",
            code="missing", fields=tuple(f"points.{name}" for name in missing),
        )  # fmt: skip
    if extra:
        raise InputError(
            f"A {template.title.lower()} has no {', '.join(extra)}. Points: {', '.join(sorted(wanted))}.",
            code="unknown_point", fields=tuple(f"points.{name}" for name in extra),
        )  # fmt: skip


def _check_links(template: Template, end: End) -> None:
    """A misspelt link would be a joint whose limit nobody watches."""
    known = [joint.name for joint in template.joints if isinstance(joint, LinkJoint)]
    unknown = sorted(set(end.links) - set(known))
    if unknown:
        raise InputError(
            f"A {template.title.lower()} has no link {', '.join(unknown)}. Links: {', '.join(known)}.",
            code="unknown_link", fields=tuple(f"links.{name}" for name in unknown),
        )  # fmt: skip
    for name, link in end.links.items():
        for which, joint in (("a", link.a), ("b", link.b)):
            if joint is not None and hypot(*joint.bolt_axis) < 1e-9:
                raise InputError(
                    "A bolt's axis needs a direction: three numbers that are not all 0.",
                    code="zero_length", fields=(f"links.{name}.{which}.bolt_axis",),
                )  # fmt: skip


def _check_damper(template: Template, end: End) -> None:
    """Its ends lie apart, at points the end has, on bodies the template has."""
    damper = end.damper
    if damper is None:
        return
    bodies = ["ground", *template.bodies]
    for which, place in (("a", damper.a), ("b", damper.b)):
        if place.point not in end.points:
            raise InputError(
                f"The damper's point {place.point} is missing. Give it, or name another point.",
                code="missing", fields=(f"damper.{which}.point",), value=place.point,
            )  # fmt: skip
        if place.body not in bodies:
            raise InputError(
                f"A {template.title.lower()} has no body {place.body} to carry a damper. Bodies: {', '.join(bodies)}.",
                code="unknown_body", fields=(f"damper.{which}.body",), value=place.body,
            )  # fmt: skip
    one, two = (end.points[place.point] for place in damper.places)
    if dist(one, two) < 1e-6:
        raise InputError(
            "The damper's two ends are one point, so it has no length. Move one of them.",
            code="zero_length", fields=("damper.a.point", "damper.b.point"),
        )  # fmt: skip
    if damper.closed_mm is not None and damper.open_mm is not None and damper.closed_mm >= damper.open_mm:
        raise InputError(
            f"The damper is {damper.closed_mm:g} mm closed and {damper.open_mm:g} mm open: it must be longer open.",
            code="contradictory", fields=("damper.closed_mm", "damper.open_mm"),
        )  # fmt: skip


class _Builder:
    def __init__(self, template: Template, end: End) -> None:
        self.template, self.end = template, end
        self.beam = template.axle == "beam"
        self.constraints: list[Constraint] = []
        self.links: list[LinkMarks] = []
        self.paired = {point.name for point in template.points if point.pair}
        self.bodies: list[str] = []
        self.split = {
            body
            for joint in template.joints
            if self.beam and joint.pair
            for body in joint.bodies_tied
            if body not in (template.roles.wheel_body, "ground", "rack")
        }

    def body(self, name: str, side: str) -> str:
        """A body's name on a side: a beam's arms exist twice, its axle once."""
        if name in ("ground", "rack"):
            return GROUND
        found = f"{name}_{side}" if name in self.split else name
        if found not in self.bodies:
            self.bodies.append(found)
        return found

    def at(self, point: str, side: str) -> Vector:
        """Where a point is, mirrored for the right side of a pair."""
        if point not in self.end.points:
            raise InputError(f"The point {point} is missing.", code="missing", fields=(f"points.{point}",))
        x, y, z = self.end.points[point]
        place = (float(x), float(y), float(z))
        return mirrored(place) if side == "right" and (point in self.paired or not self.beam) else place

    def mark(self, body: str, point: str, side: str) -> Mark:
        """A point as it belongs to a body; on the rack it moves with the steering."""
        at = self.at(point, side)
        if body == "rack":
            return Mark(GROUND, at, STEER, (0.0, 1.0, 0.0))
        return Mark(self.body(body, side), at)

    def add(self, joint: Joint, side: str) -> None:
        """One joint, on one side."""
        name = f"{joint.name}, {side}" if side != "centre" and self.beam else joint.name
        if isinstance(joint, LinkJoint):
            a, b = (self.mark(p.body, p.point, side) for p in (joint.a, joint.b))
            self._apart(a, b, joint.a.point, joint.b.point, joint.name)
            stiffness = self.end.links.get(joint.name, EndLink()).stiffness_n_per_mm
            self.constraints.append(Distance(name=name, a=a, b=b, stiffness=stiffness))
            self.links.append(
                LinkMarks(name=name, template_name=joint.name, side=side, a=a, b=b, length=separation(a, b))
            )
        elif isinstance(joint, BallJoint):
            a, b = (self.mark(body, joint.point, side) for body in joint.bodies)
            self.constraints.append(Coincident(name=name, a=a, b=b))
        elif isinstance(joint, HingeJoint):
            one, two = (self.at(point, side) for point in joint.points)
            self._apart(Mark(GROUND, one), Mark(GROUND, two), *joint.points, joint.name)
            axis = (two[0] - one[0], two[1] - one[1], two[2] - one[2])
            a, b = self.mark(joint.body, joint.points[0], side), self.mark(joint.on, joint.points[0], side)
            self.constraints.append(Coincident(name=name, a=a, b=b))
            self.constraints.append(Parallel(name=f"{name}, axis", body_a=a.body, body_b=b.body, axis=axis))
        elif isinstance(joint, SliderJoint):
            one, two = (self.at(point, side) for point in joint.line)
            self._apart(Mark(GROUND, one), Mark(GROUND, two), *joint.line, joint.name)
            along = (two[0] - one[0], two[1] - one[1], two[2] - one[2])
            through = self.mark(joint.on, joint.line[0], side)
            mark = self.mark(joint.place.body, joint.place.point, side)
            self.constraints.append(OnLine(name=name, mark=mark, through=through, along=along))
        else:
            a, b = self.mark(joint.body, joint.point, side), self.mark(joint.on, joint.point, side)
            x, y, z = joint.direction
            axis = (x, -y if side == "right" else y, z)
            self.constraints.append(Coincident(name=name, a=a, b=b))
            self.constraints.append(Parallel(name=f"{name}, axis", body_a=a.body, body_b=b.body, axis=axis))

    @staticmethod
    def _apart(a: Mark, b: Mark, one: str, two: str, name: str) -> None:
        if separation(a, b) < 1e-6:
            raise InputError(
                f"{name}: the points {one} and {two} are one point, so it has no length. Move one of them.",
                code="zero_length", fields=(f"points.{one}", f"points.{two}"),
            )  # fmt: skip

    def drive(self) -> None:
        """Travel, and of a beam roll."""
        body = self.body(self.template.roles.wheel_body, "left")
        centre = self.at(self.template.roles.wheel_centre, "left")
        up = (0.0, 0.0, 1.0)
        if self.beam:
            middle = (centre[0], 0.0, centre[2])
            self.constraints.append(Coordinate(name="travel", mark=Mark(body, middle), along=up, drive=TRAVEL))
            self.constraints.append(
                Turned(name="roll", body=body, direction=(0.0, 1.0, 0.0), about=(1.0, 0.0, 0.0), drive=ROLL)
            )
        else:
            self.constraints.append(Coordinate(name="travel", mark=Mark(body, centre), along=up, drive=TRAVEL))

    def done(self) -> Assembled:
        """The finished mechanism."""
        drivers = (TRAVEL, ROLL, STEER) if self.beam else (TRAVEL, STEER)
        wheel_body = self.body(self.template.roles.wheel_body, "left")
        marks: dict[str, Mark] = {}
        for joint in self.template.joints:
            for place in joint.places:
                paired = self.beam and place.point in self.paired
                for side in SIDES if paired else ("left",):
                    mark = self.mark(place.body, place.point, side)
                    marks.setdefault(f"{place.point}_{side}" if paired else place.point, mark)
        mechanism = Mechanism(bodies=tuple(self.bodies), constraints=tuple(self.constraints), drivers=drivers)
        centre = Mark(wheel_body, self.at(self.template.roles.wheel_centre, "left"))
        return Assembled(
            template=self.template, end=self.end, mechanism=mechanism, marks=marks, links=tuple(self.links), wheel_centre=centre,
        )  # fmt: skip
