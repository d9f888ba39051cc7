"""A beam axle as a whole, and what hangs beside the links: dampers, shafts, anti-roll bars.

Source:
    From the positions and velocities of the bodies (derived; docs/methods.md, Measures of a suspension).
"""

from __future__ import annotations

from math import hypot

import numpy as np
from numpy.typing import NDArray

from tirante.core.document.end import Damper, Shaft
from tirante.core.document.template import AntiRollBar, HingeJoint
from tirante.core.geometry.vectors import cross
from tirante.core.mechanism.model import GROUND, Mark
from tirante.core.mechanism.solve import Positions
from tirante.core.suspension.assemble import ROLL, SIDES, TRAVEL, Assembled
from tirante.core.suspension.measures import motions, quotient, spin_axis, unit

Array = NDArray[np.float64]


def length_of(assembled: Assembled, solved: Positions, damper: Damper, side: str = "left") -> Array:
    """Eye to eye of a damper or spring at every position [mm].

    Args:
        assembled: the mechanism with its named marks.
        solved: its positions.
        damper: of the end.
        side: of the car, by name; of a beam each has its own.
    """
    a, b = (solved.system.where(solved.poses, assembled.place(place, side), solved.drives) for place in damper.places)
    found: Array = np.linalg.norm(a - b, axis=0)
    return found


def damper_length(assembled: Assembled, solved: Positions, side: str = "left") -> Array:
    """Eye to eye of the damper at every position [mm].

    Args:
        assembled: the mechanism with its named marks.
        solved: its positions.
        side: of the car, by name; of a beam each has its own.

    Raises:
        ValueError: the end has no damper.
    """
    damper = assembled.end.damper
    if damper is None:
        raise ValueError("no damper")
    return length_of(assembled, solved, damper, side)


def damper_measures(assembled: Assembled, solved: Positions, side: str = "left") -> dict[str, Array]:
    """Length of the damper, and how the spring that carries (the first of several) and the damper beside it follow the wheel.

    Args:
        assembled: the mechanism with its named marks.
        solved: its positions.
        side: of the car, by name; of a beam each has its own.
    """
    end = assembled.end
    spring = next(iter(end.springs.values()), None)
    found: dict[str, Array] = {}
    if end.damper:
        found["damper_length_mm"] = length_of(assembled, solved, end.damper, side)
        if spring is not end.damper:
            found["damper_ratio"] = _ratio(assembled, solved, end.damper, side)
    if spring:
        found["motion_ratio"] = _ratio(assembled, solved, spring, side)
    return found


def _ratio(assembled: Assembled, solved: Positions, damper: Damper, side: str) -> Array:
    """How much shorter a damper or spring is for each millimetre that the wheel rises."""
    marks = [assembled.place(place, side) for place in damper.places]
    a, b = (solved.system.where(solved.poses, mark, solved.drives) for mark in marks)
    d = a - b
    length = np.linalg.norm(d, axis=0)
    rates = motions(solved, TRAVEL)
    speed = np.zeros_like(length)
    for mark, where, sign in ((marks[0], a, 1.0), (marks[1], b, -1.0)):
        if mark.body != GROUND:
            speed += sign * (d * rates[mark.body].at(where)).sum(axis=0) / length
    found: Array = -speed
    return found


def beam_measures(
    assembled: Assembled, solved: Positions, ride_contact_z: float, *, once: bool = False
) -> dict[str, Array]:
    """The axle as a whole: where it is, how it has turned, and the roll motion that its links allow.

    Args:
        assembled: the mechanism with its named marks.
        solved: its positions.
        ride_contact_z: height of the contact as the points were taken [mm].
        once: as of `motions`.
    """
    system, poses, drives = solved.system, solved.poses, solved.drives
    body = assembled.axle_body
    mark = _middle(assembled)
    middle = system.where(poses, mark, drives)
    roll = motions(solved, ROLL, once=once)[body]
    v, w = roll.at(middle), roll.w
    height = middle[2] + quotient(v[1], w[0])
    return {
        **axle_stands(assembled, solved),
        "roll_centre_mm": height - (middle[2] - (mark.at[2] - ride_contact_z)),
        "roll_axis_deg": np.degrees(np.arctan2(w[2], w[0])),
    }


def _middle(assembled: Assembled) -> Mark:
    """Midway between an axle's two wheels."""
    one, two = assembled.wheel_centre.at, assembled.wheel_centre_right.at
    x, y, z = ((a + b) / 2 for a, b in zip(one, two, strict=True))
    return Mark(assembled.axle_body, (x, y, z))


def axle_stands(assembled: Assembled, solved: Positions) -> dict[str, Array]:
    """Where an axle's middle is against where its points were taken [mm], and how it has turned seen from above and from the side [deg]."""
    system, poses, body = solved.system, solved.poses, assembled.axle_body
    mark = _middle(assembled)
    middle = system.where(poses, mark, solved.drives)
    e = system.direction(poses, body, (0.0, 1.0, 0.0))
    nose = system.direction(poses, body, (1.0, 0.0, 0.0))
    return {
        "lateral_shift_mm": middle[1] - mark.at[1],
        "wheelbase_change_mm": middle[0] - mark.at[0],
        "axle_steer_deg": np.degrees(np.arctan2(-e[0], e[1])),
        "pinion_change_deg": np.degrees(np.arctan2(nose[2], np.hypot(nose[0], nose[1]))),
    }


def shaft_measures(assembled: Assembled, solved: Positions, rest: Positions) -> dict[str, dict[str, Array]]:
    """Of every shaft: length, plunge against ride height (inward negative), the angle at either joint and the larger, and the difference [deg].

    Two universal joints turn smoothly together where their angles are alike; what is left over is felt as a shake (common practice:
    within a degree or so).

    Args:
        assembled: the mechanism with its named marks.
        solved: its positions.
        rest: the same at ride height.
    """
    found: dict[str, dict[str, Array]] = {}
    for name, shaft in assembled.end.shafts.items():
        for side in SIDES if assembled.beam and shaft.pair else ("left",):
            label = f"{name}, {side}" if assembled.beam and shaft.pair else name
            length, inner, outer = _shaft(assembled, solved, shaft, side)
            found[label] = {
                "length_mm": length, "shaft_plunge_mm": length - _shaft(assembled, rest, shaft, side)[0],
                "shaft_angle_inner_deg": inner, "shaft_angle_outer_deg": outer, "shaft_angle_deg": np.maximum(inner, outer),
                "shaft_angle_difference_deg": inner - outer,
            }  # fmt: skip
    return found


def _shaft(assembled: Assembled, solved: Positions, shaft: Shaft, side: str) -> tuple[Array, Array, Array]:
    system, poses = solved.system, solved.poses
    marks = [assembled.place(place, side) for place in (shaft.inner, shaft.outer)]
    a, b = (system.where(poses, mark, solved.drives) for mark in marks)
    axis = unit(b - a)
    wheel = assembled.end.wheel
    outer = shaft.outer_axis or spin_axis(wheel.camber_deg, wheel.toe_deg, 1.0)
    angles = []
    for mark, direction in zip(marks, (shaft.inner_axis, outer), strict=True):
        x, y, z = (v / hypot(*direction) for v in direction)
        flange = system.direction(poses, mark.body, (x, -y if assembled.beam and side == "right" else y, z))
        # a flange has no sense: the acute angle
        angles.append(np.degrees(np.arccos(np.clip(np.abs((flange * axis).sum(axis=0)), 0.0, 1.0))))
    return np.linalg.norm(b - a, axis=0), angles[0], angles[1]


def bar_measures(assembled: Assembled, solved: Positions, rest: Positions) -> dict[str, dict[str, Array]]:
    """Of every anti-roll bar's half: the angle between drop link and arm, and how far the arm has turned [deg].

    Args:
        assembled: the mechanism with its named marks.
        solved: its positions.
        rest: the same at ride height.
    """
    found: dict[str, dict[str, Array]] = {}
    for bar in assembled.template.bars:
        for side in SIDES if assembled.beam else ("left",):
            angle, lever, axis = _bar(assembled, solved, bar, side)
            _, start, _ = _bar(assembled, rest, bar, side)
            turned = np.arctan2((cross(start, lever) * axis).sum(axis=0), (start * lever).sum(axis=0))
            label = f"{bar.name}, {side}" if assembled.beam else bar.name
            found[label] = {"arb_link_angle_deg": angle, "arb_arm_turn_deg": np.degrees(turned)}
    return found


def _bar(assembled: Assembled, solved: Positions, bar: AntiRollBar, side: str) -> tuple[Array, Array, Array]:
    """Angle between the drop link and its arm [deg]; the arm's lever from the bar's line, and that line, in its carrier."""
    system, poses = solved.system, solved.poses
    link = next(one for one in assembled.links if one.template_name == bar.drop_link and one.side in (side, "centre"))
    arm = assembled.body_on(bar.arm, side)
    near, far = (link.a, link.b) if link.a.body == arm else (link.b, link.a)
    hinge = next(joint for joint in assembled.template.joints if joint.name == bar.hinge)
    assert isinstance(hinge, HingeJoint)
    carrier = assembled.body_on(hinge.on, side)
    marks = [Mark(carrier, assembled.role(point, side).at) for point in hinge.points]
    one, two = (system.where(poses, mark, solved.drives) for mark in marks)
    axis = unit(two - one)
    tip, other = (system.where(poses, mark, solved.drives) for mark in (near, far))
    lever = tip - one
    lever = unit(lever - axis * (lever * axis).sum(axis=0))
    angle = np.degrees(np.arccos(np.clip(-(unit(other - tip) * lever).sum(axis=0), -1.0, 1.0)))
    return angle, _within(solved, carrier, lever), _within(solved, carrier, axis)


def _within(solved: Positions, body: str, direction: Array) -> Array:
    """A direction as the body sees it, in the axes that it had at the reference position."""
    if body == GROUND:
        return direction
    found: Array = np.einsum("jik,jk->ik", solved.poses.R[solved.system.index[body]], direction)
    return found
