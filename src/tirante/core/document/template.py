"""What kind of suspension: named points, bodies, joints and roles, as data. A template holds no code.

Those that ship are files; one of a job's own is saved in the end that is of it, and taken away as such a file.

Names in a template are the trade's. A beam template's paired points stand on the left and are mirrored to the right by
themselves; an independent one describes the left corner, the right is its mirror image. An addition (an anti-roll bar, a
steered axle's knuckles) is more of the same, put onto a template; where it says `$on`, `$carrier` or `$side`, the end
says which body or side that is.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Annotated, Any, Literal

from pydantic import Field, model_validator

from tirante.core.document.fields import Direction, Document, Key, Name, Point, PointName, Said

GROUND, RACK = "ground", "rack"
RESERVED = (GROUND, RACK, "steering_arm", "wheel")  # names that the core gives by itself
WHEEL_CENTRE, CONTACT = "wheel_centre", "contact"  # places that loads are told at
CARRIERS = ("upright", "knuckle", "axle", "hub")  # bodies so called carry a wheel, where a kind does not say which do


# in an addition the end says which body it is: $on, $carrier
BodyName = Annotated[str, Field(pattern=r"^(\$(on|carrier)|[a-z][a-z0-9_]{0,39})$")]
# a comma parts a joint's name from its side
JointName = Annotated[Name, Field(pattern=r"^[^,$]+$")]


class TemplatePoint(Document):
    """A named point of the car."""

    name: PointName
    what: Said
    measure: Said = ""
    pair: bool = True  # of a beam axle: has its mirror image on the right
    at: Point | None = Field(default=None, description="where a new end has it at first, in a file by itself")


class Place(Document):
    """A point as it belongs to a body; `rack` is what the steering moves, a rack or the end of its arm.

    In a joint that stands once, `side` says on which side of a beam the point is.
    """

    body: BodyName
    point: PointName
    side: Literal["own", "left", "right", "$side"] = "own"


class JointPart(Document):
    """What every joint has."""

    name: JointName

    @property
    def bodies_tied(self) -> tuple[str, ...]:
        """The bodies it holds together."""
        raise NotImplementedError

    @property
    def places(self) -> tuple[Place, ...]:
        """Its points, each with the body it is followed on."""
        raise NotImplementedError


class LinkJoint(JointPart):
    """Two points a fixed length apart."""

    kind: Literal["link"] = "link"
    a: Place
    b: Place
    pair: bool = True
    shaft: bool = False  # a drive shaft of fixed length, which is bought whole
    struck: bool | None = Field(
        default=None,
        description="whether it hangs low, so that a rock may strike it; null: where it is called a lower link",
    )

    @property
    def low(self) -> bool:
        """Whether a car that comes down on a rock comes down on it."""
        return "lower" in self.name if self.struck is None else self.struck

    @property
    def bodies_tied(self) -> tuple[str, ...]:
        return self.a.body, self.b.body

    @property
    def places(self) -> tuple[Place, ...]:
        return self.a, self.b


class BallJoint(JointPart):
    """Two bodies share a point."""

    kind: Literal["ball"] = "ball"
    bodies: Annotated[tuple[BodyName, BodyName], Field(strict=False)]
    point: PointName
    pair: bool = True

    @property
    def bodies_tied(self) -> tuple[str, ...]:
        return self.bodies

    @property
    def places(self) -> tuple[Place, ...]:
        return (Place(body=self.bodies[0], point=self.point),)


class HingeJoint(JointPart):
    """A body turns about the line through two points of another."""

    kind: Literal["hinge"] = "hinge"
    body: BodyName
    on: BodyName
    points: Annotated[tuple[PointName, PointName], Field(strict=False)]
    pair: bool = True

    @property
    def bodies_tied(self) -> tuple[str, ...]:
        return self.body, self.on

    @property
    def places(self) -> tuple[Place, ...]:
        return tuple(Place(body=self.on, point=point) for point in self.points)


class SliderJoint(JointPart):
    """A point of a body runs along a line through two points of another."""

    kind: Literal["slider"] = "slider"
    place: Place
    on: BodyName
    line: Annotated[tuple[PointName, PointName], Field(strict=False)]
    pair: bool = True

    @property
    def bodies_tied(self) -> tuple[str, ...]:
        return self.place.body, self.on

    @property
    def places(self) -> tuple[Place, ...]:
        return (self.place, *(Place(body=self.on, point=point) for point in self.line))


class AboutLine(JointPart):
    """A joint with a line of its own: along a direction of the car, or from its point toward a second one."""

    body: BodyName
    on: BodyName
    point: PointName
    direction: Direction | None = None
    toward: PointName | None = None

    @model_validator(mode="after")
    def _one_line(self) -> AboutLine:
        if (self.direction is None) == (self.toward is None):
            raise ValueError(f"{self.name}: give its line a direction, or the point it runs toward; one of the two")
        return self

    def along(self, at: Callable[[str], Direction]) -> Direction:
        """Its line, as long as its two points are apart where it has two.

        Args:
            at: where a point is.
        """
        if self.toward is None:
            assert self.direction is not None
            return self.direction
        (x, y, z), (x2, y2, z2) = at(self.point), at(self.toward)
        return x2 - x, y2 - y, z2 - z

    @property
    def bodies_tied(self) -> tuple[str, ...]:
        return self.body, self.on

    @property
    def places(self) -> tuple[Place, ...]:
        return tuple(Place(body=self.on, point=point) for point in (self.point, self.toward) if point)


class SpinJoint(AboutLine):
    """A body turns about a line through a point (a rocker)."""

    kind: Literal["pivot"] = "pivot"
    pair: bool = False


class UniversalJoint(AboutLine):
    """A body is held at a point and swings both ways there, but does not roll about its own length: a bush or a clevis.

    Its line is the bolt's, which stands on the other body; its length runs from the point to `end`, a point of the body. It
    swings about the bolt, and about what is square to bolt and length.
    """

    kind: Literal["universal"] = "universal"
    end: PointName
    pair: bool = True

    @property
    def places(self) -> tuple[Place, ...]:
        return (*super().places, Place(body=self.body, point=self.end))

    def across(self, at: Callable[[str], Direction]) -> Direction:
        """What its body swings about beside the bolt: square to the bolt and to its own length.

        Args:
            at: where a point is.
        """
        (x, y, z), (x2, y2, z2) = at(self.point), at(self.end)
        (bx, by, bz), (lx, ly, lz) = self.along(at), (x2 - x, y2 - y, z2 - z)
        return by * lz - bz * ly, bz * lx - bx * lz, bx * ly - by * lx


class BushJoint(JointPart):
    """Two bodies share a point through a bush about a fixed direction of the car; the end gives its stiffness."""

    kind: Literal["bush"] = "bush"
    bodies: Annotated[tuple[BodyName, BodyName], Field(strict=False)]
    point: PointName
    direction: Direction
    pair: bool = True

    @property
    def bodies_tied(self) -> tuple[str, ...]:
        return self.bodies

    @property
    def places(self) -> tuple[Place, ...]:
        return (Place(body=self.bodies[0], point=self.point),)


Joint = Annotated[
    LinkJoint | BallJoint | BushJoint | HingeJoint | SliderJoint | SpinJoint | UniversalJoint,
    Field(discriminator="kind"),
]
Two = Annotated[tuple[PointName, PointName], Field(strict=False)]
Three = Annotated[tuple[PointName, PointName, PointName], Field(strict=False)]
Points = Annotated[tuple[TemplatePoint, ...], Field(strict=False, max_length=120)]
Bodies = Annotated[tuple[BodyName, ...], Field(strict=False, max_length=40)]
Joints = Annotated[tuple[Joint, ...], Field(strict=False, max_length=120)]


class Roles(Document):
    """Which bodies and points the measures are taken from."""

    wheel_body: PointName
    wheel_centre: PointName
    axle_body: PointName | None = None  # of a beam whose wheels stand on knuckles
    steer_axis: Two | None = None  # lower outer, upper outer
    upper_plane: Three | None = None
    lower_plane: Three | None = None
    upper_line: Two | None = None  # of a beam's links in the side view: chassis, axle
    lower_line: Two | None = None


class AntiRollBar(Document):
    """An anti-roll bar's half: the arm that turns with it, and the drop link that turns the arm."""

    name: JointName
    arm: PointName  # body
    hinge: JointName  # joint that the arm turns in
    drop_link: JointName  # link joint
    addition: Key | None = None  # that put it on: the end gives its rate there


class AdditionRoles(Document):
    """What an addition changes of a template's roles."""

    wheel_body: PointName | None = None
    steer_axis: Two | None = None


class Addition(Document):
    """Something that can be added to a kind of suspension."""

    name: Key
    title: Name
    axle: Literal["independent", "beam", "any"] = "any"
    points: Points
    bodies: Bodies
    joints: Joints
    roles: AdditionRoles = AdditionRoles()
    bars: Annotated[tuple[AntiRollBar, ...], Field(strict=False, max_length=8)] = ()
    steered: bool = False
    asks: Annotated[tuple[Literal["on", "carrier", "side"], ...], Field(strict=False)] = ()  # what the end says of it


class Template(Document):
    """A kind of suspension."""

    name: Key
    title: Name
    says: Said = ""  # what it is for, and what it asks
    axle: Literal["independent", "beam"]
    points: Points
    bodies: Bodies
    joints: Joints
    roles: Roles
    bars: Annotated[tuple[AntiRollBar, ...], Field(strict=False, max_length=8)] = ()
    rises: bool = True  # its wheels rise against the body; not those of a beam on a centre pivot, which only leans
    carriers: Annotated[tuple[PointName, ...], Field(strict=False, max_length=40)] | None = Field(
        default=None,
        description="bodies that carry a wheel and are not made here; null: those called upright, knuckle, axle or hub",
    )
    bought: Annotated[tuple[PointName, ...], Field(strict=False, max_length=40)] = Field(
        default=(), description="bodies that are bought whole and not judged here, as a leaf that is kept for locating"
    )

    @property
    def axle_body(self) -> str:
        """The body of a beam's tube."""
        return self.roles.axle_body or self.roles.wheel_body

    @property
    def steered(self) -> bool:
        """Whether the steering moves anything of it."""
        return any(RACK in joint.bodies_tied for joint in self.joints)

    def carries(self, body: str) -> bool:
        """Whether a body carries a wheel and is no arm by itself: it is not made here.

        Args:
            body: of the template.
        """
        return body in (CARRIERS if self.carriers is None else self.carriers)

    @model_validator(mode="after")
    def _consistent(self) -> Template:
        points = {point.name for point in self.points}
        bodies = {GROUND, RACK, *self.bodies}
        self._named_once()
        for joint in self.joints:
            for place in joint.places:
                if place.point not in points:
                    raise ValueError(f"{joint.name}: there is no point “{place.point}”")
            for body in joint.bodies_tied:
                if body not in bodies:
                    raise ValueError(f"{joint.name}: there is no body “{body}”")
            self._ties_two(joint)
        for body in self.carriers or ():
            if body not in bodies:
                raise ValueError(f"carriers: there is no body “{body}”")
        for body in self.bought:
            if body not in self.bodies:
                raise ValueError(f"bought: there is no body “{body}”")
            if self.carries(body):
                raise ValueError(
                    f"bought: the {body} carries a wheel and is not made here anyway; take it out of one of them"
                )
        self._roles_stand({place.point for joint in self.joints for place in joint.places}, points, bodies)
        return self

    def _named_once(self) -> None:
        """Names that would be taken for one another."""
        every: tuple[tuple[str, list[str]], ...] = (
            ("points", [point.name for point in self.points]),
            ("bodies", list(self.bodies)),
            ("joints", [joint.name for joint in self.joints]),
        )
        for what, names in every:
            twice = next((name for i, name in enumerate(names) if name in names[:i]), None)
            if twice is not None:
                raise ValueError(f"{what}: there are two called “{twice}”; give one another name")
            if what == "joints":
                continue
            sided = next((n for n in names for side in ("_left", "_right") if n + side in names), None)
            if sided is not None:
                raise ValueError(
                    f"{what}: “{sided}” has a left and a right by itself; leave out {sided}_left and {sided}_right"
                )
        taken = next((body for body in self.bodies if body in RESERVED), None)
        if taken is not None:
            raise ValueError(f"bodies: “{taken}” is there by itself; give this one another name")

    def _ties_two(self, joint: JointPart) -> None:
        """A joint is between two bodies, at points that differ where it has two."""
        across = isinstance(joint, LinkJoint) and joint.a.side != joint.b.side  # from a body to its other side's own
        if len(set(joint.bodies_tied)) < 2 and not across:
            raise ValueError(
                f"{joint.name}: both its ends are on the {joint.bodies_tied[0]}, so it holds nothing; choose another body"
            )
        if RACK in joint.bodies_tied and not isinstance(joint, LinkJoint):
            raise ValueError(f"{joint.name}: only the end of a link goes with the rack; choose another body")
        if {GROUND, RACK} == set(joint.bodies_tied):
            raise ValueError(
                f"{joint.name}: it ties the rack to the chassis, which the steering does by itself; choose another body"
            )
        # a link may go to the same point on the other side of an axle; what slides may stand in an end of its line
        points: list[str] = list(joint.line) if isinstance(joint, SliderJoint) else []
        if isinstance(joint, HingeJoint | AboutLine):
            points = [place.point for place in joint.places]
        if len(set(points)) < len(points):
            raise ValueError(f"{joint.name}: two of its points are one, “{points[0]}”; choose another")

    def _roles_stand(self, joined: set[str], points: set[str], bodies: set[str]) -> None:
        """The measures follow joints' points, and the wheel's own."""
        roles = self.roles
        if roles.wheel_body in (GROUND, RACK):
            raise ValueError("roles.wheel_body: the wheel is carried by what moves; choose the body that it turns on")
        for role in ("wheel_body", "axle_body"):
            body = getattr(roles, role)
            if body is not None and body not in bodies:
                raise ValueError(f"roles.{role}: there is no body “{body}”")
        if roles.wheel_centre != WHEEL_CENTRE:
            raise ValueError(
                f"roles.wheel_centre: the middle of the wheel is the point called “{WHEEL_CENTRE}” in every kind"
            )
        if WHEEL_CENTRE not in points:
            raise ValueError(f"roles.wheel_centre: there is no point “{WHEEL_CENTRE}”")
        if CONTACT in points:
            raise ValueError(
                f"points: “{CONTACT}” is where the tyre stands, which is there by itself; give this one another name"
            )
        for name in ("steer_axis", "upper_plane", "lower_plane", "upper_line", "lower_line"):
            for point in getattr(roles, name) or ():
                if point not in joined:
                    raise ValueError(f"roles.{name}: no joint has the point “{point}”")


def with_addition(template: Template, addition: Addition, said: dict[str, str]) -> Template:
    """A template with an addition put on; `said` gives the body or side that each of its `asks` stands for.

    Args:
        template: of the end.
        addition: joints and bodies to be put on.
        said: which body or side each of its `asks` stands for.

    Raises:
        ValueError: they do not go together, or a body is not there.
    """
    if addition.axle not in ("any", template.axle):
        raise ValueError(
            f"{addition.title} goes on {'a beam axle' if addition.axle == 'beam' else 'an independent end'}."
        )
    text = addition.model_dump_json()
    for ask in addition.asks:
        text = text.replace(f'"${ask}"', f'"{said[ask]}"')
    more = Addition.model_validate_json(text)
    roles = template.roles.model_copy(update=more.roles.model_dump(exclude_none=True))
    if more.roles.wheel_body:
        roles = roles.model_copy(update={"axle_body": template.axle_body})
    whole: dict[str, Any] = {
        **template.model_dump(),
        "points": [p.model_dump() for p in (*template.points, *more.points)],
        "bodies": (*template.bodies, *more.bodies),
        "joints": [j.model_dump() for j in (*template.joints, *more.joints)],
        "roles": roles.model_dump(),
        "bars": [
            *(b.model_dump() for b in template.bars),
            *({**b.model_dump(), "addition": addition.name} for b in more.bars),
        ],
    }
    if template.carriers is not None:
        whole["carriers"] = (*template.carriers, *(body for body in more.bodies if body in CARRIERS))
    return Template.model_validate(whole)
