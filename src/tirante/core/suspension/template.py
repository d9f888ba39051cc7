"""What kind of suspension: named points, bodies, joints and roles, as data. A template holds no code.

Names in a template are the trade's. A beam template's paired points stand on the left and are mirrored to the right by
themselves; an independent one describes the left corner, the right is its mirror image. An addition (an anti-roll bar, a
steered axle's knuckles) is more of the same, put onto a template; where it says `$on`, `$carrier` or `$side`, the end
says which body or side that is.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, model_validator

Direction = tuple[float, float, float]


class OfTemplate(BaseModel):
    """Base of a template's parts."""

    model_config = ConfigDict(extra="forbid", frozen=True)


class TemplatePoint(OfTemplate):
    """A named point of the car."""

    name: str
    what: str
    measure: str = ""
    pair: bool = True  # of a beam axle: has its mirror image on the right


class Place(OfTemplate):
    """A point as it belongs to a body; `rack` is what the steering moves, a rack or the end of its arm.

    In a joint that stands once, `side` says on which side of a beam the point is.
    """

    body: str
    point: str
    side: Literal["own", "left", "right", "$side"] = "own"


class JointPart(OfTemplate):
    """What every joint has."""

    name: str

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

    @property
    def bodies_tied(self) -> tuple[str, ...]:
        return self.a.body, self.b.body

    @property
    def places(self) -> tuple[Place, ...]:
        return self.a, self.b


class BallJoint(JointPart):
    """Two bodies share a point."""

    kind: Literal["ball"] = "ball"
    bodies: tuple[str, str]
    point: str
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
    body: str
    on: str
    points: tuple[str, str]
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
    on: str
    line: tuple[str, str]
    pair: bool = True

    @property
    def bodies_tied(self) -> tuple[str, ...]:
        return self.place.body, self.on

    @property
    def places(self) -> tuple[Place, ...]:
        return (self.place, *(Place(body=self.on, point=point) for point in self.line))


class SpinJoint(JointPart):
    """A body turns about a line through a point (a rocker): along a fixed direction of the car, or toward a second point."""

    kind: Literal["pivot"] = "pivot"
    body: str
    on: str
    point: str
    direction: Direction | None = None
    toward: str | None = None
    pair: bool = False

    @model_validator(mode="after")
    def _one_line(self) -> SpinJoint:
        if (self.direction is None) == (self.toward is None):
            raise ValueError(f"{self.name}: give its line a direction, or the point it runs toward; one of the two")
        return self

    def along(self, at: Callable[[str], Direction]) -> Direction:
        """The line it turns about, as long as its two points are apart where it has two."""
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


class BushJoint(JointPart):
    """Two bodies share a point through a bush about a fixed direction of the car; the end gives its stiffness."""

    kind: Literal["bush"] = "bush"
    bodies: tuple[str, str]
    point: str
    direction: tuple[float, float, float]
    pair: bool = True

    @property
    def bodies_tied(self) -> tuple[str, ...]:
        return self.bodies

    @property
    def places(self) -> tuple[Place, ...]:
        return (Place(body=self.bodies[0], point=self.point),)


Joint = Annotated[LinkJoint | BallJoint | BushJoint | HingeJoint | SliderJoint | SpinJoint, Field(discriminator="kind")]


class Roles(OfTemplate):
    """Which bodies and points the measures are taken from."""

    wheel_body: str
    wheel_centre: str
    axle_body: str | None = None  # of a beam whose wheels stand on knuckles
    steer_axis: tuple[str, str] | None = None  # lower outer, upper outer
    upper_plane: tuple[str, str, str] | None = None
    lower_plane: tuple[str, str, str] | None = None
    upper_line: tuple[str, str] | None = None  # of a beam's links in the side view: chassis, axle
    lower_line: tuple[str, str] | None = None


class AntiRollBar(OfTemplate):
    """An anti-roll bar's half: the arm that turns with it, and the drop link that turns the arm."""

    name: str
    arm: str  # body
    hinge: str  # joint that the arm turns in
    drop_link: str  # link joint
    addition: str | None = None  # that put it on: the end gives its rate there


class AdditionRoles(OfTemplate):
    """What an addition changes of a template's roles."""

    wheel_body: str | None = None
    steer_axis: tuple[str, str] | None = None


class Addition(OfTemplate):
    """Something that can be added to a kind of suspension."""

    name: str
    title: str
    axle: Literal["independent", "beam", "any"] = "any"
    points: tuple[TemplatePoint, ...]
    bodies: tuple[str, ...]
    joints: tuple[Joint, ...]
    roles: AdditionRoles = AdditionRoles()
    bars: tuple[AntiRollBar, ...] = ()
    steered: bool = False
    asks: tuple[Literal["on", "carrier", "side"], ...] = ()  # what the end says of it


class Template(OfTemplate):
    """A kind of suspension."""

    name: str
    title: str
    axle: Literal["independent", "beam"]
    points: tuple[TemplatePoint, ...]
    bodies: tuple[str, ...]
    joints: tuple[Joint, ...]
    roles: Roles
    bars: tuple[AntiRollBar, ...] = ()
    steered: bool = False
    rises: bool = True  # its wheels rise against the body; not those of a beam on a centre pivot, which only leans

    @property
    def axle_body(self) -> str:
        """The body of a beam's tube."""
        return self.roles.axle_body or self.roles.wheel_body

    @model_validator(mode="after")
    def _consistent(self) -> Template:
        points = {point.name for point in self.points}
        bodies = {"ground", "rack", *self.bodies}
        for joint in self.joints:
            for place in joint.places:
                if place.point not in points:
                    raise ValueError(f"{joint.name}: there is no point “{place.point}”")
            for body in joint.bodies_tied:
                if body not in bodies:
                    raise ValueError(f"{joint.name}: there is no body “{body}”")
        self._roles_stand({place.point for joint in self.joints for place in joint.places}, points, bodies)
        return self

    def _roles_stand(self, joined: set[str], points: set[str], bodies: set[str]) -> None:
        """The measures follow joints' points, and the wheel's own."""
        roles = self.roles
        for role in ("wheel_body", "axle_body"):
            body = getattr(roles, role)
            if body is not None and body not in bodies:
                raise ValueError(f"roles.{role}: there is no body “{body}”")
        if roles.wheel_centre not in points:
            raise ValueError(f"roles.wheel_centre: there is no point “{roles.wheel_centre}”")
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
    return Template.model_validate(
        {
            **template.model_dump(),
            "points": [p.model_dump() for p in (*template.points, *more.points)],
            "bodies": (*template.bodies, *more.bodies),
            "joints": [j.model_dump() for j in (*template.joints, *more.joints)],
            "roles": roles.model_dump(),
            "bars": [
                *(b.model_dump() for b in template.bars),
                *({**b.model_dump(), "addition": addition.name} for b in more.bars),
            ],
            "steered": template.steered or more.steered,
        }
    )
