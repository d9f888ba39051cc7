"""The measures of a wheel and of a beam axle at every solved position, by their definitions (ISO 8855 axes).

Velocities are exact: the Jacobian is solved once for a unit of travel (of roll, of rack). Angles in degrees, lengths in
mm, arrays one value a position. Where two constructions exist (drawn lines, true path) both are given, named.

Source:
    ISO 8855, SAE J670 (from memory) for axes and angles; anti percentages and roll centres by instant centres and by
    virtual work of the contact force (derived; docs/methods.md).
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from tirante.core.mechanism.model import GROUND, Mark
from tirante.core.mechanism.solve import CONVERGED, Positions, rates
from tirante.core.suspension.assemble import ROLL, STEER, TRAVEL, Assembled
from tirante.core.suspension.end import Vehicle

Array = NDArray[np.float64]
UP = np.array([0.0, 0.0, 1.0])


@dataclass(frozen=True, slots=True)
class Motion:
    """Velocity of a body for a unit of a driver: of its origin, and its turning (3, lanes)."""

    v: Array
    w: Array
    origin: Array

    def at(self, place: Array) -> Array:
        """Velocity of the body's point at a place."""
        return self.v + np.cross(self.w, place - self.origin, axis=0)


def motions(solved: Positions, driver: str) -> dict[str, Motion]:
    """Velocity of every body for a unit of a driver, drivers of other names held; found once for each driver."""
    if driver in solved.rates:
        return solved.rates[driver]  # type: ignore[return-value]
    system = solved.system
    rate = rates(solved, driver)
    found: dict[str, Motion] = {}
    solved.rates[driver] = found
    for name, i in system.index.items():
        if i < 0:
            continue
        found[name] = Motion(
            v=rate[6 * i : 6 * i + 3], w=rate[6 * i + 3 : 6 * i + 6], origin=system.origins[i][:, None] + solved.poses.r[i]
        )  # fmt: skip
    return found


def unit(vector: Array) -> Array:
    """Directions of vectors (3, lanes)."""
    found: Array = vector / np.maximum(np.linalg.norm(vector, axis=0), 1e-300)
    return found


def spin_axis(camber_deg: float, toe_deg: float, side: float) -> tuple[float, float, float]:
    """The wheel's spin axis pointing outboard, from camber and toe as they stand; side +1 left, −1 right."""
    camber, toe = np.radians(camber_deg), np.radians(toe_deg)
    return (
        float(np.cos(camber) * np.sin(toe)), float(side * np.cos(camber) * np.cos(toe)), float(-np.sin(camber)),
    )  # fmt: skip


@dataclass(frozen=True, slots=True)
class WheelState:
    """A wheel at every position (3, lanes)."""

    centre: Array
    spin: Array
    contact: Array
    side: float

    @property
    def camber(self) -> Array:
        """[deg] positive, top leaning outboard."""
        found: Array = np.degrees(-np.arcsin(np.clip(self.spin[2], -1, 1)))
        return found

    @property
    def toe(self) -> Array:
        """[deg] positive, toe-in."""
        found: Array = np.degrees(np.arctan2(self.spin[0], self.side * self.spin[1]))
        return found

    @property
    def heading(self) -> Array:
        """Horizontal direction the wheel rolls in."""
        ahead = np.cross(self.spin, np.broadcast_to(UP[:, None], self.spin.shape), axis=0) * self.side
        return unit(ahead)


def wheel_state(centre: Array, spin: Array, radius: float, side: float) -> WheelState:
    """The wheel with the lowest point of its thin disc."""
    down = unit(UP[:, None] - spin[2] * spin)
    return WheelState(centre=centre, spin=spin, contact=centre - radius * down, side=side)


def contact_velocity(state: WheelState, motion: Motion, radius: float) -> Array:
    """Velocity of the disc's lowest point, which moves over the disc as the wheel tilts."""
    spin, rate = state.spin, np.cross(motion.w, state.spin, axis=0)
    n = UP[:, None] - spin[2] * spin
    size = np.linalg.norm(n, axis=0)
    down = n / size
    change = -rate[2] * spin - spin[2] * rate
    change = (change - down * (down * change).sum(axis=0)) / size
    found: Array = motion.at(state.centre) - radius * change
    return found


def steering_axis(assembled: Assembled, solved: Positions) -> tuple[Array, Array] | None:
    """A point of the steering axis and its direction, upward; None when nothing steers and no axis is named."""
    roles = assembled.template.roles
    if roles.steer_axis:
        low, high = (
            solved.system.where(solved.poses, assembled.marks[name], solved.drives) for name in roles.steer_axis
        )
        return low, unit(high - low)
    if not assembled.steers:
        return None
    motion = motions(solved, STEER)[assembled.wheel_centre.body]
    size = np.maximum((motion.w**2).sum(axis=0), 1e-300)
    # the screw axis: the point nearest the body's origin
    place = motion.origin + np.cross(motion.w, motion.v, axis=0) / size
    axis = unit(motion.w)
    return place, np.where(axis[2] < 0, -axis, axis)


def steer_measures(state: WheelState, axis: tuple[Array, Array]) -> dict[str, Array]:
    """Caster, kingpin inclination, scrub radius and mechanical trail."""
    place, k = axis
    side = state.side
    reach = (state.contact[2] - place[2]) / np.where(np.abs(k[2]) < 1e-9, np.nan, k[2])
    ground = place + k * reach
    h = state.heading
    outboard = np.cross(h, np.broadcast_to(UP[:, None], h.shape), axis=0) * -side
    return {
        "caster_deg": np.degrees(np.arctan2(-k[0], k[2])),
        "kingpin_inclination_deg": np.degrees(np.arctan2(-side * k[1], k[2])),
        "scrub_radius_mm": ((state.contact - ground) * outboard).sum(axis=0),
        "mechanical_trail_mm": ((ground - state.contact) * h).sum(axis=0),
    }


def quotient(top: Array, bottom: Array) -> Array:
    """top / bottom, NaN where there is none."""
    with np.errstate(divide="ignore", invalid="ignore"):
        found: Array = np.where(np.abs(bottom) < 1e-12, np.nan, top / bottom)
    return found


def centre_measures(state: WheelState, motion: Motion, radius: float) -> dict[str, Array]:
    """Instant centres of zero in-plane velocity, and the roll centre by the contact's path (one side)."""
    v, w, c = motion.at(state.centre), motion.w, state.centre
    path = contact_velocity(state, motion, radius)
    return {
        "ic_front_y_mm": c[1] - quotient(v[2], w[0]),
        "ic_front_z_mm": c[2] + quotient(v[1], w[0]),
        "ic_side_x_mm": c[0] + quotient(v[2], w[1]),
        "ic_side_z_mm": c[2] - quotient(v[0], w[1]),
        "roll_centre_path_mm": state.contact[1] * quotient(path[1], path[2]),
    }


def plane_trace_centre(assembled: Assembled, solved: Positions, x: Array) -> tuple[Array, Array] | None:
    """Where the traces of the two arm planes meet in the transverse plane at x: y and z (drawn instant centre)."""
    roles = assembled.template.roles
    if not roles.upper_plane or not roles.lower_plane:
        return None
    lines = []
    for names in (roles.upper_plane, roles.lower_plane):
        p, q, r = (solved.system.where(solved.poses, assembled.marks[name], solved.drives) for name in names)
        n = np.cross(q - p, r - p, axis=0)
        # n · (point − p) = 0 at x: n_y y + n_z z = n · p − n_x x
        lines.append((n[1], n[2], (n * p).sum(axis=0) - n[0] * x))
    (a1, b1, c1), (a2, b2, c2) = lines
    determinant = a1 * b2 - a2 * b1
    return quotient(c1 * b2 - c2 * b1, determinant), quotient(a1 * c2 - a2 * c1, determinant)


def anti_measures(vehicle: Vehicle, end: str, axle: str, fixed: Array, centre: Array) -> dict[str, Array]:
    """Anti percentages from the slope of the point at which the reacting body meets the ground (or of the centre).

    Args:
        vehicle: shares and lengths.
        end: "front" or "rear".
        axle: "beam" or "independent": where the drive torque goes unless the vehicle says so.
        fixed: velocity of the upright- or axle-fixed point at the contact (3, lanes), torque reacted there.
        centre: velocity of the wheel's centre, torque reacted by the body.
    """
    forward = 1.0 if end == "front" else -1.0
    scale = 100 * vehicle.wheelbase_mm / vehicle.cg_height_mm
    braking = fixed if vehicle.brakes == "outboard" else centre
    driving = fixed if (vehicle.drive or ("upright" if axle == "beam" else "inboard")) == "upright" else centre
    brake = scale * vehicle.brake_share * forward * quotient(braking[0], braking[2])
    drive = scale * vehicle.drive_share * forward * quotient(driving[0], driving[2])
    if end == "front":
        found = {"anti_dive_percent": brake}
        return found | ({"anti_lift_percent": drive} if vehicle.drive_share else {})
    found = {"anti_lift_percent": brake}
    return found | ({"anti_squat_percent": drive} if vehicle.drive_share else {})


def damper_measures(assembled: Assembled, solved: Positions, side: str = "left") -> dict[str, Array]:
    """Length of the damper and its rate of change against travel."""
    damper = assembled.end.damper
    if damper is None:
        return {}
    beam = assembled.template.axle == "beam"
    marks = []
    for place in damper.places:
        x, y, z = (float(v) for v in assembled.end.points[place.point])
        # a beam's arms stand twice in the mechanism, by side
        body = place.body if place.body in solved.system.index else f"{place.body}_{side}"
        marks.append(Mark(body, (x, -y if beam and side == "right" else y, z)))
    a, b = (solved.system.where(solved.poses, mark, solved.drives) for mark in marks)
    d = a - b
    length = np.linalg.norm(d, axis=0)
    rates = motions(solved, TRAVEL)
    speed = np.zeros_like(length)
    for mark, where, sign in ((marks[0], a, 1.0), (marks[1], b, -1.0)):
        if mark.body != GROUND:
            speed += sign * (d * rates[mark.body].at(where)).sum(axis=0) / length
    suffix = f"_{side}" if beam else ""
    return {f"damper_length{suffix}_mm": length, f"motion_ratio{suffix}": -speed}


def beam_measures(assembled: Assembled, solved: Positions, radius: float, ride_contact_z: float) -> dict[str, Array]:
    """The axle as a whole: where it is, how it has turned, and the roll motion that its links allow."""
    system, poses, drives = solved.system, solved.poses, solved.drives
    body = assembled.wheel_centre.body
    x, _, z = assembled.wheel_centre.at
    middle = system.where(poses, Mark(body, (x, 0.0, z)), drives)
    e = system.direction(poses, body, (0.0, 1.0, 0.0))
    nose = system.direction(poses, body, (1.0, 0.0, 0.0))
    roll = motions(solved, ROLL)[body]
    v, w = roll.at(middle), roll.w
    height = middle[2] + quotient(v[1], w[0])
    return {
        "lateral_shift_mm": middle[1],
        "axle_steer_deg": np.degrees(np.arctan2(-e[0], e[1])),
        "pinion_change_deg": np.degrees(np.arctan2(nose[2], np.hypot(nose[0], nose[1]))),
        "roll_centre_mm": height - (middle[2] - (z - ride_contact_z)),
        "roll_axis_deg": np.degrees(np.arctan2(w[2], w[0])),
        "wheelbase_change_mm": middle[0] - x,
    }


def good_lanes(solved: Positions) -> NDArray[np.bool_]:
    """Positions whose measures mean something."""
    found: NDArray[np.bool_] = solved.status == CONVERGED
    return found
