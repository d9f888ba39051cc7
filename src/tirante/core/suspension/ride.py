"""The body higher, lower or pitched against how the points were taken; another wheel or a spacer on the hub.

A spacer, or a wheel of another offset, moves the wheel's centre along its spin axis.

Pitch turns everything about the line through the wheel's centre across the car, nose up: wheels are round, so the wheel
stays where it is and only its camber, toe and steering axis lean. The rise is left to the travel driver.
"""

from __future__ import annotations

from math import asin, atan2, cos, degrees, radians, sin
from typing import Any

from tirante.core.document.end import End
from tirante.core.document.fields import Direction, Point
from tirante.core.document.template import AboutLine, BushJoint, Template
from tirante.core.suspension.measures import spin_axis


def as_it_stands(template: Template, end: End) -> tuple[Template, End]:
    """Template and end with wheel, spacer and pitch taken into points and directions; the rise stays in `ride`."""
    end = _with_wheel(template, end)
    pitch = radians(end.ride.pitch_deg)
    if pitch == 0.0 or template.roles.wheel_centre not in end.points:
        return template, end
    cx, _, cz = end.points[template.roles.wheel_centre]

    def turned(v: Direction) -> tuple[float, float, float]:
        x, y, z = v
        return x * cos(pitch) - z * sin(pitch), y, x * sin(pitch) + z * cos(pitch)

    def moved(p: Point) -> tuple[float, float, float]:
        x, y, z = turned((p[0] - cx, p[1], p[2] - cz))
        return x + cx, y, z + cz

    s = turned(spin_axis(end.wheel.camber_deg, end.wheel.toe_deg, 1.0))
    wheel = end.wheel.model_copy(
        update={"camber_deg": degrees(-asin(max(-1.0, min(1.0, s[2])))), "toe_deg": degrees(atan2(s[0], s[1]))}
    )
    change: dict[str, Any] = {
        "points": {name: moved(p) for name, p in end.points.items()},
        "right_points": {name: moved(p) for name, p in end.right_points.items()},
        "wheel": wheel,
        "links": {
            name: link.model_copy(
                update={
                    which: joint.model_copy(update={"bolt_axis": turned(joint.bolt_axis)})
                    for which, joint in (("a", link.a), ("b", link.b)) if joint is not None
                }
            )
            for name, link in end.links.items()
        },
        "shafts": {
            name: shaft.model_copy(
                update={"inner_axis": turned(shaft.inner_axis), "outer_axis": turned(shaft.outer_axis) if shaft.outer_axis else None}
            )
            for name, shaft in end.shafts.items()
        },
        "balls": {
            name: ball.model_copy(
                update={"stud_axis": turned(ball.stud_axis), "housing_axis": turned(ball.housing_axis) if ball.housing_axis else None}
            )
            for name, ball in end.balls.items()
        },
    }  # fmt: skip
    if end.bump_stop:
        change["bump_stop"] = end.bump_stop.model_copy(
            update={"axis": turned(end.bump_stop.axis), "face": turned(end.bump_stop.face)}
        )
    if end.steering:
        change["steering"] = end.steering.model_copy(update={"axis": turned(end.steering.axis)})
    joints = tuple(
        joint.model_copy(update={"direction": turned(joint.direction)}) if isinstance(joint, AboutLine | BushJoint) and joint.direction else joint
        for joint in template.joints
    )  # fmt: skip
    return template.model_copy(update={"joints": joints}), end.model_copy(update=change)


def _with_wheel(template: Template, end: End) -> End:
    """The wheel's centre where spacer and offset put it, and the spokes where that wheel has them."""
    out, name = end.wheel.moved_out_mm, template.roles.wheel_centre
    rim = end.wheel.rim
    if rim and rim.offset_mm is not None:
        fitted = rim.model_copy(update={"spokes_mm": rim.offset_mm, "offset_mm": None})
        end = end.model_copy(update={"wheel": end.wheel.model_copy(update={"rim": fitted})})
    if out == 0.0 or name not in end.points:
        return end

    def shifted(at: Point, side: float) -> Point:
        s = spin_axis(end.wheel.camber_deg, end.wheel.toe_deg, side)
        x, y, z = (a + out * float(b) for a, b in zip(at, s, strict=True))
        return x, y, z

    right = {name: shifted(end.right_points[name], -1.0)} if name in end.right_points else {}
    return end.model_copy(
        update={
            "points": {**end.points, name: shifted(end.points[name], 1.0)},
            "right_points": {**end.right_points, **right},
            "wheel": end.wheel.model_copy(update={"spacer_mm": 0.0}),
        }
    )


def pitched(template: Template, end: End) -> tuple[tuple[float, float, float], float]:
    """Where the pitch turns about (the left wheel's centre) and by how much [rad], for things that keep their own axes."""
    return end.points[template.roles.wheel_centre], radians(end.ride.pitch_deg)
