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


class LinkJoint(Part):
    """Two points a fixed length apart."""

    kind: Literal["link"] = "link"
    name: str
    a: Place
    b: Place
    pair: bool = True


class BallJoint(Part):
    """Two bodies share a point."""

    kind: Literal["ball"] = "ball"
    name: str
    bodies: tuple[str, str]
    point: str
    pair: bool = True


class HingeJoint(Part):
    """A body turns about the line through two points of another."""

    kind: Literal["hinge"] = "hinge"
    name: str
    body: str
    on: str
    points: tuple[str, str]
    pair: bool = True


class SliderJoint(Part):
    """A point of a body runs along a line through two points of another."""

    kind: Literal["slider"] = "slider"
    name: str
    place: Place
    on: str
    line: tuple[str, str]
    pair: bool = True


class SpinJoint(Part):
    """A body turns about a line through a point, its direction given by two others (a rocker)."""

    kind: Literal["pivot"] = "pivot"
    name: str
    body: str
    on: str
    point: str
    direction: tuple[float, float, float]
    pair: bool = False


Joint = Annotated[LinkJoint | BallJoint | HingeJoint | SliderJoint | SpinJoint, Field(discriminator="kind")]


class Roles(Part):
    """Which points the measures are taken from."""

    wheel_body: str
    wheel_centre: str
    steer_axis: tuple[str, str] | None = None  # lower outer, upper outer
    upper_plane: tuple[str, str, str] | None = None
    lower_plane: tuple[str, str, str] | None = None
    pinion: str | None = None


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
    damper: tuple[Place, Place] | None = None  # usual places, unless the end says otherwise

    @model_validator(mode="after")
    def _consistent(self) -> Template:
        points = {point.name for point in self.points}
        bodies = {"ground", "rack", *self.bodies}
        for joint in self.joints:
            used_points, used_bodies = _uses(joint)
            for point in used_points:
                if point not in points:
                    raise ValueError(f"{joint.name}: there is no point “{point}”")
            for body in used_bodies:
                if body not in bodies:
                    raise ValueError(f"{joint.name}: there is no body “{body}”")
        return self


def _uses(joint: LinkJoint | BallJoint | HingeJoint | SliderJoint | SpinJoint) -> tuple[list[str], list[str]]:
    if isinstance(joint, LinkJoint):
        return [joint.a.point, joint.b.point], [joint.a.body, joint.b.body]
    if isinstance(joint, BallJoint):
        return [joint.point], list(joint.bodies)
    if isinstance(joint, HingeJoint):
        return list(joint.points), [joint.body, joint.on]
    if isinstance(joint, SliderJoint):
        return [joint.place.point, *joint.line], [joint.place.body, joint.on]
    return [joint.point], [joint.body, joint.on]
