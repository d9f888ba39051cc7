"""What kind of suspension: named points, bodies, joints and roles, as data. A template holds no code.

Names in a template are the trade's. A beam template's paired points stand on the left and are mirrored to the right by
themselves; an independent one describes the left corner, the right is its mirror image.
"""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, model_validator


class Part(BaseModel):
    """Base of a template's parts."""

    model_config = ConfigDict(extra="forbid", frozen=True)


class TemplatePoint(Part):
    """A named point of the car."""

    name: str
    what: str
    measure: str = ""
    pair: bool = True  # of a beam axle: has its mirror image on the right


class Place(Part):
    """A point as it belongs to a body; `rack` is the ground as the steering moves it."""

    body: str
    point: str


class JointPart(Part):
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
    """A body turns about a line through a point along a fixed direction of the car (a rocker)."""

    kind: Literal["pivot"] = "pivot"
    body: str
    on: str
    point: str
    direction: tuple[float, float, float]
    pair: bool = False

    @property
    def bodies_tied(self) -> tuple[str, ...]:
        return self.body, self.on

    @property
    def places(self) -> tuple[Place, ...]:
        return (Place(body=self.on, point=self.point),)


Joint = Annotated[LinkJoint | BallJoint | HingeJoint | SliderJoint | SpinJoint, Field(discriminator="kind")]


class Roles(Part):
    """Which points the measures are taken from."""

    wheel_body: str
    wheel_centre: str
    steer_axis: tuple[str, str] | None = None  # lower outer, upper outer
    upper_plane: tuple[str, str, str] | None = None
    lower_plane: tuple[str, str, str] | None = None


class Template(Part):
    """A kind of suspension."""

    name: str
    title: str
    axle: Literal["independent", "beam"]
    points: tuple[TemplatePoint, ...]
    bodies: tuple[str, ...]
    joints: tuple[Joint, ...]
    roles: Roles
    steered: bool = False

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
        if roles.wheel_body not in bodies:
            raise ValueError(f"roles.wheel_body: there is no body “{roles.wheel_body}”")
        if roles.wheel_centre not in points:
            raise ValueError(f"roles.wheel_centre: there is no point “{roles.wheel_centre}”")
        for name in ("steer_axis", "upper_plane", "lower_plane"):
            for point in getattr(roles, name) or ():
                if point not in joined:
                    raise ValueError(f"roles.{name}: no joint has the point “{point}”")
