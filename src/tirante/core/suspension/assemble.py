"""From a template and an end's points to a mechanism.

An independent end is its left corner (the right one, where it is not its mirror image, is a left corner of its own); a
beam axle is whole, each paired part twice (`_left`, `_right`). The travel driver is the rise of the wheel centre (of the
axle's centre), the roll driver of a beam its turn about x against the body, and the steer driver the rack's travel to
the left, or the turn of the steering arm that steers left.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from itertools import combinations
from math import dist, pi

import numpy as np

from tirante.core.document.end import Bushing, End, EndLink, PlaceIn
from tirante.core.document.template import (
    AboutLine,
    BallJoint,
    BushJoint,
    HingeJoint,
    Joint,
    LinkJoint,
    Place,
    SliderJoint,
    Template,
    UniversalJoint,
)
from tirante.core.errors import InputError
from tirante.core.mechanism.model import (
    GROUND,
    Bush,
    Coincident,
    Constraint,
    Coordinate,
    Distance,
    Mark,
    Mechanism,
    OnLine,
    Parallel,
    Square,
    Turned,
    Vector,
    separation,
    unit,
)
from tirante.core.mechanism.solve import Positions, rates
from tirante.core.mechanism.system import system_of
from tirante.core.suspension.soundness import check_end

TRAVEL, ROLL, STEER = "travel", "roll", "steer"
LEFT, RIGHT = "left wheel", "right wheel"  # drivers instead of travel and roll: each wheel's rise
SIDES = ("left", "right")
STEERING_ARM = "steering_arm"  # the body that stands for the rack when an arm steers


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
    wheel_centre: Mark  # left
    wheel_centre_right: Mark  # of a beam
    split: frozenset[str]  # bodies that a beam has twice
    corner: str = "left"  # of an independent end: which corner it stands for; the right one is mirrored

    @property
    def beam(self) -> bool:
        """Whether both wheels stand on one axle."""
        return self.template.axle == "beam"

    @property
    def steers(self) -> bool:
        """Whether the steering moves anything."""
        if STEERING_ARM in self.mechanism.bodies:
            return True
        return any(mark.drive == STEER for link in self.links for mark in (link.a, link.b))

    @property
    def turns(self) -> bool:
        """Whether the steer driver is an angle [rad], not a rack's travel."""
        return STEERING_ARM in self.mechanism.bodies

    @property
    def axle_body(self) -> str:
        """The body of a beam's tube."""
        return self.template.axle_body

    def wheel(self, side: float) -> Mark:
        """The wheel's centre on a side, +1 left, −1 right."""
        return self.wheel_centre if side > 0 else self.wheel_centre_right

    def role(self, point: str, side: str = "left") -> Mark:
        """The mark of a point that a role names, on a side."""
        return self.marks[f"{point}_{side}" if f"{point}_{side}" in self.marks else point]

    def body_on(self, body: str, side: str) -> str:
        """A body's name in the mechanism on a side."""
        if body in (GROUND, "rack"):
            return GROUND
        return f"{body}_{side}" if body in self.split else body

    def place(self, place: PlaceIn, side: str = "left") -> Mark:
        """A place that the end names beside its joints; on a beam's right the mirror image, unless unpaired."""
        at = _vector(self.end.points[place.point])
        if self.beam and side == "right":
            single = any(p.name == place.point and not p.pair for p in self.template.points)
            own = self.end.right_points.get(place.point)
            at = at if single else _vector(own) if own else mirrored(at)
        return Mark(self.body_on(place.body, side), at)

    def pad_link(self, side: str = "left") -> LinkMarks | None:
        """The link that carries the bump stop's pad on a side; None where a body does."""
        stop = self.end.bump_stop
        name = stop.pad_link if stop else None
        return next((one for one in self.links if one.template_name == name and one.side in (side, "centre")), None)

    def joined(self, body: str) -> list[Mark]:
        """The joints of a moving body, each once; of a hinge both ends of its line."""
        found: list[Mark] = []

        def add(at: Vector) -> None:
            if all(dist(at, other.at) > 1e-6 for other in found):
                found.append(Mark(body, at))

        for constraint in self.mechanism.constraints:
            for name in ("a", "b", "through", "mark"):
                mark = getattr(constraint, name, None)
                driven = isinstance(constraint, Coordinate)
                if isinstance(mark, Mark) and mark.body == body and not driven:
                    add(mark.at)
        for joint in self.template.joints:
            if joint.kind == "hinge":
                for side in SIDES if self.beam and joint.pair else ("left",):
                    if self.body_on(joint.body, side) == body:
                        for point in joint.points:
                            add(self.role(point, side).at)
        return found

    def edges(self, body: str) -> list[tuple[Mark, Mark]]:
        """The straight parts of a moving body: between all its joints; of an anti-roll bar's half the bar and its arm."""
        joints = self.joined(body)
        for bar in self.template.bars:
            for side in SIDES if self.beam else ("left",):
                if self.body_on(bar.arm, side) == body:
                    hinge = next(joint for joint in self.template.joints if joint.name == bar.hinge)
                    line = [self.role(point, side).at for point in hinge.points]  # type: ignore[union-attr]
                    tips = [mark for mark in joints if mark.at not in line]
                    inner, outer = (Mark(body, at) for at in line)
                    return [(inner, outer), *((outer, tip) for tip in tips)]
        return list(combinations(joints, 2))


def _vector(point: tuple[float, float, float]) -> Vector:
    x, y, z = point
    return float(x), float(y), float(z)


def mirrored(at: Vector) -> Vector:
    """The mirror image on the other side of the car."""
    return at[0], -at[1], at[2]


def right_corner(end: End) -> End:
    """The right corner of an independent end as a left corner of its own: the mirror image of its points."""
    own = {name: mirrored(_vector(at)) for name, at in end.right_points.items()}
    return end.model_copy(update={"points": {**end.points, **own}, "right_points": {}})


def assemble_end(template: Template, end: End, *, by_wheel: bool = False) -> Assembled:
    """Build the mechanism.

    Args:
        template: with its additions.
        end: what the user gives.
        by_wheel: of a beam, drive each wheel's rise instead of travel and roll.

    Raises:
        InputError: a point, link or body is missing or unknown, two points coincide, a line has no direction; each by its
            field.
    """
    check_end(template, end)
    builder = _Builder(template, end)
    for joint in template.joints:
        if template.axle == "beam" and joint.pair:
            for side in SIDES:
                builder.add(joint, side)
        else:
            builder.add(joint, "centre" if template.axle == "beam" else "left")
    builder.steer()
    builder.drive(by_wheel)
    return builder.done(by_wheel)


def _steering_left(mechanism: Mechanism, wheel_body: str) -> Mechanism:
    """The mechanism with its steering arm's turn counted the way that turns the left wheel to the left."""
    system = system_of(mechanism)
    drives = np.zeros((len(mechanism.drivers), 1))
    rest = Positions(
        system=system, drives=drives, poses=system.reference(1), residual=np.zeros(1), status=np.zeros(1, dtype=np.int8), bind=None,
    )  # fmt: skip
    # what something is free in is refused where it is solved; here the sign alone counts
    if not rates(rest, STEER, once=True)[6 * system.index[wheel_body] + 5, 0] < 0:
        return mechanism
    turned = tuple(
        replace(c, about=(-c.about[0], -c.about[1], -c.about[2])) if isinstance(c, Turned) and c.drive == STEER else c
        for c in mechanism.constraints
    )
    return replace(mechanism, constraints=turned)


class _Builder:
    def __init__(self, template: Template, end: End) -> None:
        self.template, self.end = template, end
        self.beam = template.axle == "beam"
        self.constraints: list[Constraint] = []
        self.links: list[LinkMarks] = []
        self.paired = {point.name for point in template.points if point.pair}
        self.bodies: list[str] = []
        self.split = self._split()

    def _split(self) -> frozenset[str]:
        """Bodies that a beam has on either side: those that only paired joints, or sides by name, tie."""
        if not self.beam:
            return frozenset()
        twice = {body for joint in self.template.joints if joint.pair for body in joint.bodies_tied}
        once = {
            body for joint in self.template.joints if not joint.pair for body in joint.bodies_tied
            if not any(place.body == body and place.side != "own" for place in joint.places)
        }  # fmt: skip
        return frozenset(twice - once - {self.template.axle_body, "ground", "rack"})

    def body(self, name: str, side: str) -> str:
        """A body's name on a side: a beam's arms exist twice, its axle once."""
        if name == "ground":
            return GROUND
        found = STEERING_ARM if name == "rack" else f"{name}_{side}" if name in self.split else name
        if found not in self.bodies:
            self.bodies.append(found)
        return found

    def at(self, point: str, side: str) -> Vector:
        """Where a point is, mirrored for the right side of a pair unless it is unpaired on purpose."""
        if side == "right" and point in self.end.right_points:
            return _vector(self.end.right_points[point])
        place = _vector(self.end.points[point])
        return mirrored(place) if side == "right" and (point in self.paired or not self.beam) else place

    def mark(self, body: str, point: str, side: str) -> Mark:
        """A point as it belongs to a body; on the rack it moves with the steering."""
        at = self.at(point, side)
        if body == "rack" and self.end.steering is None:
            return Mark(GROUND, at, STEER, (0.0, 1.0, 0.0))
        return Mark(self.body(body, side), at)

    def placed(self, place: Place, side: str) -> Mark:
        """A joint's place, on its own side where it names one."""
        return self.mark(place.body, place.point, side if place.side == "own" else place.side)

    def add(self, joint: Joint, side: str) -> None:
        """One joint, on one side."""
        name = f"{joint.name}, {side}" if side != "centre" and self.beam else joint.name
        if isinstance(joint, LinkJoint):
            a, b = self.placed(joint.a, side), self.placed(joint.b, side)
            self._apart(a, b, joint.a.point, joint.b.point, joint.name)
            stiffness = self.end.links.get(joint.name, EndLink()).stiffness_n_per_mm
            self.constraints.append(Distance(name=name, a=a, b=b, stiffness=stiffness))
            self.links.append(
                LinkMarks(name=name, template_name=joint.name, side=side, a=a, b=b, length=separation(a, b))
            )
        elif isinstance(joint, BallJoint):
            a, b = (self.mark(body, joint.point, side) for body in joint.bodies)
            self.constraints.append(Coincident(name=name, a=a, b=b))
        elif isinstance(joint, BushJoint):
            self._bush(name, joint, side)
        elif isinstance(joint, HingeJoint):
            one, two = (self.at(point, side) for point in joint.points)
            self._apart(Mark(GROUND, one), Mark(GROUND, two), *joint.points, joint.name)
            axis = (two[0] - one[0], two[1] - one[1], two[2] - one[2])
            self._hinge(name, joint.body, joint.on, joint.points[0], axis, side)
        elif isinstance(joint, SliderJoint):
            one, two = (self.at(point, side) for point in joint.line)
            self._apart(Mark(GROUND, one), Mark(GROUND, two), *joint.line, joint.name)
            along = (two[0] - one[0], two[1] - one[1], two[2] - one[2])
            through = self.mark(joint.on, joint.line[0], side)
            self.constraints.append(
                OnLine(name=name, mark=self.placed(joint.place, side), through=through, along=along)
            )
        elif isinstance(joint, UniversalJoint):
            self._universal(name, joint, side)
        else:
            self._hinge(name, joint.body, joint.on, joint.point, self._line(joint, side), side)

    def _line(self, joint: AboutLine, side: str) -> Vector:
        """The line of a joint that has one of its own, on a side."""
        if joint.direction is not None:
            return self._facing(joint.direction, side)
        axis = joint.along(lambda point: self.at(point, side))
        if max(map(abs, axis)) < 1e-6:
            one, two = (self.at(point, side) for point in (joint.point, joint.toward or ""))
            self._apart(Mark(GROUND, one), Mark(GROUND, two), joint.point, joint.toward or "", joint.name)
        return axis

    def _universal(self, name: str, joint: UniversalJoint, side: str) -> None:
        """A ball whose body does not roll about its own length: the second line it swings about stays square to the bolt."""
        a, b = self.mark(joint.body, joint.point, side), self.mark(joint.on, joint.point, side)
        end = self.mark(joint.body, joint.end, side)
        self._apart(a, end, joint.point, joint.end, joint.name)
        bolt = self._line(joint, side)
        length = np.subtract(end.at, a.at)
        across = np.cross(bolt, length)
        if np.linalg.norm(across) < 1e-3 * np.linalg.norm(bolt) * np.linalg.norm(length):
            raise InputError(
                f"{joint.name}: its bolt runs along the {joint.body.replace('_', ' ')} itself, so nothing keeps that from rolling. "
                "Turn the bolt across it, or choose another joint.",
                code="collinear", fields=(f"points.{joint.point}", f"points.{joint.end}"),
            )  # fmt: skip
        x, y, z = (float(v) for v in across)
        self.constraints += [
            Coincident(name=name, a=a, b=b),
            Square(name=f"{name}, axis", body_a=a.body, body_b=b.body, axis_a=(x, y, z), axis_b=bolt),
        ]

    @staticmethod
    def _facing(direction: Vector, side: str) -> Vector:
        x, y, z = direction
        return x, -y if side == "right" else y, z

    def _hinge(self, name: str, body: str, on: str, point: str, axis: Vector, side: str) -> None:
        a, b = self.mark(body, point, side), self.mark(on, point, side)
        self.constraints.append(Coincident(name=name, a=a, b=b))
        self.constraints.append(Parallel(name=f"{name}, axis", body_a=a.body, body_b=b.body, axis=axis))

    def _bush(self, name: str, joint: BushJoint, side: str) -> None:
        gives = self.end.bushes.get(joint.name, Bushing())
        a, b = (self.mark(body, joint.point, side) for body in joint.bodies)
        conical = gives.conical_nmm_per_deg
        self.constraints.append(
            Bush(
                name=name, a=a, b=b, axis=self._facing(joint.direction, side), radial=gives.radial_n_per_mm,
                axial=gives.axial_n_per_mm, conical=conical * 180 / pi if conical else None,
            )
        )  # fmt: skip

    @staticmethod
    def _apart(a: Mark, b: Mark, one: str, two: str, name: str) -> None:
        if separation(a, b) < 1e-6:
            raise InputError(
                f"{name}: the points {one} and {two} are one point, so it has no length. Move one of them.",
                code="zero_length", fields=(f"points.{one}", f"points.{two}"),
            )  # fmt: skip

    def steer(self) -> None:
        """A steering arm in place of the rack: a body on a line of the car, its turn driven."""
        if self.end.steering is None or STEERING_ARM not in self.bodies:
            return
        at = _vector(self.end.points[self.end.steering.pivot])
        axis = unit(self.end.steering.axis, "steering.axis")
        across = np.cross(axis, np.eye(3)[int(np.argmin(np.abs(axis)))])
        x, y, z = (float(v) for v in across / np.linalg.norm(across))
        name = "steering arm"
        a, b = Mark(STEERING_ARM, at), Mark(GROUND, at)
        self.constraints += [
            Coincident(name=name, a=a, b=b),
            Parallel(name=f"{name}, axis", body_a=STEERING_ARM, body_b=GROUND, axis=axis),
            Turned(name=f"{name}, turn", body=STEERING_ARM, direction=(x, y, z), about=axis, drive=STEER),
        ]

    def drive(self, by_wheel: bool) -> None:
        """Travel and of a beam roll, or each wheel's rise."""
        up = (0.0, 0.0, 1.0)
        centre = self.template.roles.wheel_centre
        if not self.beam:
            mark = self.mark(self.template.roles.wheel_body, centre, "left")
            self.constraints.append(Coordinate(name="travel", mark=mark, along=up, drive=TRAVEL))
            return
        axle = self.body(self.template.axle_body, "left")
        if by_wheel:
            for name, side in ((LEFT, "left"), (RIGHT, "right")):
                mark = self.mark(self.template.roles.wheel_body, centre, side)
                self.constraints.append(Coordinate(name=name, mark=mark, along=up, drive=name))
            return
        if self.template.rises:
            one, two = self.at(centre, "left"), self.at(centre, "right")
            middle = ((one[0] + two[0]) / 2, (one[1] + two[1]) / 2, (one[2] + two[2]) / 2)
            self.constraints.append(Coordinate(name="travel", mark=Mark(axle, middle), along=up, drive=TRAVEL))
        self.constraints.append(
            Turned(name="roll", body=axle, direction=(0.0, 1.0, 0.0), about=(1.0, 0.0, 0.0), drive=ROLL)
        )

    def done(self, by_wheel: bool) -> Assembled:
        """The finished mechanism; a steering arm turned so that its driver steers left."""
        drivers = (LEFT, RIGHT, STEER) if by_wheel else (TRAVEL, ROLL, STEER) if self.beam else (TRAVEL, STEER)
        marks: dict[str, Mark] = {}
        for joint in self.template.joints:
            for place in joint.places:
                paired = self.beam and place.point in self.paired
                for side in SIDES if paired else ("left",):
                    mark = self.mark(place.body, place.point, side)
                    marks.setdefault(f"{place.point}_{side}" if paired else place.point, mark)
        mechanism = Mechanism(bodies=tuple(self.bodies), constraints=tuple(self.constraints), drivers=drivers)
        if STEERING_ARM in self.bodies:
            mechanism = _steering_left(mechanism, self.body(self.template.roles.wheel_body, "left"))
        roles = self.template.roles
        left, right = (self.mark(roles.wheel_body, roles.wheel_centre, side) for side in SIDES)
        return Assembled(
            template=self.template, end=self.end, mechanism=mechanism, marks=marks, links=tuple(self.links),
            wheel_centre=left, wheel_centre_right=right, split=self.split,
        )  # fmt: skip
