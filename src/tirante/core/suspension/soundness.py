"""What makes an end impossible before anything is solved: each cause named by part and point."""

from __future__ import annotations

from math import dist, hypot
from typing import Any

import numpy as np

from tirante.core.document.end import DAMPER, Damper, End, PlaceIn
from tirante.core.document.template import (
    BallJoint,
    BushJoint,
    HingeJoint,
    LinkJoint,
    SliderJoint,
    SpinJoint,
    Template,
)
from tirante.core.errors import InputError

PAD_OFF_LINK = 120.0  # mm: of a bump stop's pad from the line of the link that carries it


def dampers_by_field(end: End) -> dict[str, Damper]:
    """Every damper and spring by itself, by the field that it is given in."""
    return {"damper" if name == DAMPER else f"other_dampers.{name}": damper for name, damper in end.dampers.items()}


def places_of(end: End) -> dict[str, PlaceIn]:
    """Every place that an end names beside its template's joints, by field."""
    found: dict[str, PlaceIn] = {}
    for field, damper in dampers_by_field(end).items():
        found |= {f"{field}.a": damper.a, f"{field}.b": damper.b}
    if end.strap:
        found |= {"strap.a": end.strap.a, "strap.b": end.strap.b}
    if end.bump_stop:
        found |= {"bump_stop.tip": end.bump_stop.tip, "bump_stop.pad": end.bump_stop.pad}
    for name, shaft in end.shafts.items():
        found |= {f"shafts.{name}.inner": shaft.inner, f"shafts.{name}.outer": shaft.outer}
    return found


def check_end(template: Template, end: End) -> None:
    """Refuse what cannot be built.

    Raises:
        InputError: a point, link or body is missing or unknown, points coincide or stand in a line or on the wrong side.
    """
    _places(template, end)
    _damper(template, end)
    _points(template, end)
    _named(template, end)
    _directions(end)
    _arms(template, end)
    _sides(template, end)
    _pad(template, end)


def _pad(template: Template, end: End) -> None:
    """A pad on a link stands over it, between its joints."""
    stop = end.bump_stop
    if stop is None or stop.pad_link is None:
        return
    joint = next((j for j in template.joints if isinstance(j, LinkJoint) and j.name == stop.pad_link), None)
    if joint is None:
        links = ", ".join(j.name for j in template.joints if isinstance(j, LinkJoint))
        raise InputError(
            f"A {template.title.lower()} has no link “{stop.pad_link}”. Links: {links}.",
            code="unknown_link", fields=("bump_stop.pad_link",), value=stop.pad_link,
        )  # fmt: skip
    a, b = (np.array(end.points[place.point]) for place in joint.places)
    share = float((np.array(end.points[stop.pad.point]) - a) @ (b - a) / ((b - a) @ (b - a)))
    if not 0.02 <= share <= 0.98:
        raise InputError(
            f"The pad does not stand over the {joint.name}: its foot falls at {100 * share:.0f} % of the way from one joint to the other. "
            "Move it between the link’s joints.",
            code="out_of_range", fields=(f"points.{stop.pad.point}",),
        )  # fmt: skip
    off = float(np.linalg.norm(np.array(end.points[stop.pad.point]) - a - share * (b - a)))
    if off > PAD_OFF_LINK:
        raise InputError(
            f"The pad stands {off:.0f} mm off the {joint.name}’s line; at most {PAD_OFF_LINK:.0f} mm, or it would roll the link. Move it nearer.",
            code="out_of_range", fields=(f"points.{stop.pad.point}",),
        )  # fmt: skip


def _points(template: Template, end: End) -> None:
    wanted = {point.name for point in template.points}
    needed = {place.point for joint in template.joints for place in joint.places} | {template.roles.wheel_centre}
    if end.steering:
        needed.add(end.steering.pivot)
    known = wanted | needed | {place.point for place in places_of(end).values()}
    title = template.title.lower()
    missing = sorted(needed - set(end.points))
    if missing:
        raise InputError(
            f"These points are missing: {', '.join(missing)}. A {title} needs them.",
            code="missing", fields=tuple(f"points.{name}" for name in missing),
        )  # fmt: skip
    for field, points in (("points", end.points), ("right_points", end.right_points)):
        extra = sorted(set(points) - known)
        if extra:
            raise InputError(
                f"A {title} has no {', '.join(extra)}. Points: {', '.join(sorted(known))}.",
                code="unknown_point", fields=tuple(f"{field}.{name}" for name in extra),
            )  # fmt: skip


def _places(template: Template, end: End) -> None:
    bodies = ["ground", *template.bodies]
    for field, place in places_of(end).items():
        if place.point not in end.points:
            raise InputError(
                f"The point {place.point} is missing. Give it, or name another point.",
                code="missing", fields=(f"{field}.point",), value=place.point,
            )  # fmt: skip
        _body(template, bodies, place.body, f"{field}.body")
    for i, obstacle in enumerate(end.obstacles):
        _body(template, bodies, obstacle.body, f"obstacles.{i}.body")
    for body in end.member_od_mm:
        _body(template, bodies, body, f"member_od_mm.{body}")


def _body(template: Template, bodies: list[str], body: str, field: str) -> None:
    if body not in bodies:
        raise InputError(
            f"A {template.title.lower()} has no body {body}. Bodies: {', '.join(bodies)}.",
            code="unknown_body", fields=(field,), value=body,
        )  # fmt: skip


def _damper(template: Template, end: End) -> None:
    """Its ends lie apart, and it is longer open than closed."""
    moving = {joint.name for joint in template.joints} | {body.replace("_", " ") for body in template.bodies}
    for field, damper in dampers_by_field(end).items():
        name = field.removeprefix("other_dampers.")
        if name in moving and name != DAMPER:
            raise InputError(
                f"A {template.title.lower()} has something called {name} already. Call this one otherwise.",
                code="unfit", fields=(field,), value=name,
            )  # fmt: skip
        one, two = (end.points[place.point] for place in damper.places)
        if dist(one, two) < 1e-6:
            raise InputError(
                f"The {name}'s two ends are one point, so it has no length. Move one of them.",
                code="zero_length", fields=(f"{field}.a.point", f"{field}.b.point"),
            )  # fmt: skip
        if damper.closed_mm is not None and damper.open_mm is not None and damper.closed_mm >= damper.open_mm:
            raise InputError(
                f"The {name} is {damper.closed_mm:g} mm closed and {damper.open_mm:g} mm open: it must be longer open.",
                code="contradictory", fields=(f"{field}.closed_mm", f"{field}.open_mm"),
            )  # fmt: skip


def _named(template: Template, end: End) -> None:
    """A misspelt name would be a joint whose limit nobody watches."""
    title = template.title.lower()
    kinds: Any
    for field, kinds, said in (
        ("links", LinkJoint, "link"), ("bushes", BushJoint, "bush"), ("sliders", SliderJoint, "slider"),
        ("balls", BallJoint | BushJoint, "ball joint"),
    ):  # fmt: skip
        known = [joint.name for joint in template.joints if isinstance(joint, kinds)]
        unknown = sorted(set(getattr(end, field)) - set(known))
        if unknown:
            have = f"Known: {', '.join(known)}." if known else f"It has no {said} at all."
            raise InputError(
                f"A {title} has no {said} {', '.join(unknown)}. {have}",
                code=f"unknown_{said.replace(' ', '_')}", fields=tuple(f"{field}.{name}" for name in unknown),
            )  # fmt: skip


def _directions(end: End) -> None:
    directions = {
        f"links.{name}.{which}.bolt_axis": joint.bolt_axis
        for name, link in end.links.items() for which, joint in (("a", link.a), ("b", link.b)) if joint is not None
    }  # fmt: skip
    if end.bump_stop:
        directions |= {"bump_stop.axis": end.bump_stop.axis, "bump_stop.face": end.bump_stop.face}
    if end.steering:
        directions["steering.axis"] = end.steering.axis
    for name, shaft in end.shafts.items():
        directions[f"shafts.{name}.inner_axis"] = shaft.inner_axis
        if shaft.outer_axis:
            directions[f"shafts.{name}.outer_axis"] = shaft.outer_axis
    for name, ball in end.balls.items():
        directions[f"balls.{name}.stud_axis"] = ball.stud_axis
        if ball.housing_axis:
            directions[f"balls.{name}.housing_axis"] = ball.housing_axis
    for i, obstacle in enumerate(end.obstacles):
        if obstacle.shape.kind == "wall":
            directions[f"obstacles.{i}.shape.normal"] = obstacle.shape.normal
    for field, direction in directions.items():
        if hypot(*direction) < 1e-9:
            said = "A bolt's axis" if field.endswith("bolt_axis") else "This"
            raise InputError(
                f"{said} needs a direction: three numbers that are not all 0.", code="zero_length", fields=(field,)
            )


def _arms(template: Template, end: End) -> None:
    """A body that turns about a line needs something away from that line, or nothing holds its turning."""
    for joint in template.joints:
        if not isinstance(joint, HingeJoint | SpinJoint):
            continue
        if isinstance(joint, HingeJoint):
            start, along = (np.array(end.points[p], float) for p in joint.points)
            axis = along - start
        else:
            start, axis = np.array(end.points[joint.point], float), np.array(joint.along(end.points.__getitem__), float)
        size = np.linalg.norm(axis)
        if size < 1e-6:
            continue  # coincident points are named where the joint is made
        others = {
            place.point for other in template.joints if other is not joint
            for place in other.places if place.body == joint.body
            or (not isinstance(other, LinkJoint) and joint.body in other.bodies_tied)
        }  # fmt: skip
        away = [np.linalg.norm(np.cross(np.array(end.points[p], float) - start, axis / size)) for p in others]
        if away and max(away) < 1e-6:
            own = joint.points if isinstance(joint, HingeJoint) else (joint.point,)
            names = (*own, *sorted(others))
            raise InputError(
                f"{joint.name}: {', '.join(names)} stand in one line, so {joint.body.replace('_', ' ')} turns about "
                "itself and holds nothing. Move one of them out of the line.",
                code="collinear", fields=tuple(f"points.{name}" for name in names),
            )  # fmt: skip


def _sides(template: Template, end: End) -> None:
    """The left side is y > 0: the wheel, and what the wheel's body carries."""
    on_left = {template.roles.wheel_centre}
    if template.axle == "independent":
        hub = template.roles.wheel_body
        on_left |= {
            place.point for joint in template.joints for place in joint.places
            if place.body == hub or (isinstance(joint, BallJoint | BushJoint) and hub in joint.bodies_tied)
        }  # fmt: skip
    for name in sorted(on_left):
        if end.points[name][1] <= 0:
            raise InputError(
                f"{name} stands at y = {end.points[name][1]:g} mm, on the right side: the left side is described, y is "
                "positive to the left. Change its sign.",
                code="wrong_side", fields=(f"points.{name}",), value=end.points[name][1],
            )  # fmt: skip
    for name in sorted(on_left & set(end.right_points)):
        if end.right_points[name][1] >= 0:
            raise InputError(
                f"{name} of the right side stands at y = {end.right_points[name][1]:g} mm: y is negative on the right.",
                code="wrong_side", fields=(f"right_points.{name}",), value=end.right_points[name][1],
            )  # fmt: skip
    roles = template.roles
    if roles.steer_axis:
        low, high = (end.points[name] for name in roles.steer_axis)
        if dist(low, high) < 1e-6:
            raise InputError(
                f"{' and '.join(roles.steer_axis)} are one point, so the wheel has no steering axis. Move one of them.",
                code="zero_length", fields=tuple(f"points.{name}" for name in roles.steer_axis),
            )  # fmt: skip
