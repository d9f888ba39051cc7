"""Instant centres, roll centres and anti percentages: by the true path, and by drawn lines where lines can be drawn.

Source:
    From the velocities of the wheel's body (derived; docs/methods.md, Measures of a suspension); the drawn constructions
    are the textbooks' (from memory).
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from tirante.core.document.end import Vehicle
from tirante.core.geometry.vectors import cross
from tirante.core.mechanism.solve import Positions
from tirante.core.suspension.assemble import SIDES, Assembled
from tirante.core.suspension.measures import Motion, WheelState, contact_velocity, quotient

Array = NDArray[np.float64]


def centre_measures(state: WheelState, motion: Motion, radius: float) -> dict[str, Array]:
    """Instant centres of zero in-plane velocity, and the roll centre by the contact's path (one side).

    Args:
        state: of the wheel.
        motion: of its body for a unit of travel.
        radius: of the loaded tyre [mm].
    """
    v, w, c = motion.at(state.centre), motion.w, state.centre
    path = contact_velocity(state, motion, radius)
    return {
        "ic_front_y_mm": c[1] - quotient(v[2], w[0]),
        "ic_front_z_mm": c[2] + quotient(v[1], w[0]),
        "ic_side_x_mm": c[0] + quotient(v[2], w[1]),
        "ic_side_z_mm": c[2] - quotient(v[0], w[1]),
        "roll_centre_path_mm": state.contact[1] * quotient(path[1], path[2]),
    }


@dataclass(frozen=True, slots=True)
class Met:
    """Where two drawn lines meet, in homogeneous form: (x/w, z/w), and for parallel lines (w = 0) the way that they go."""

    x: Array
    z: Array
    w: Array

    @property
    def centre(self) -> tuple[Array, Array]:
        """The point; NaN where the lines are parallel."""
        return quotient(self.x, self.w), quotient(self.z, self.w)

    def slope_from(self, x: Array, z: Array) -> Array:
        """Of the line from a place to where they meet; where they are parallel, of the line through the place parallel to them."""
        return quotient(self.z - z * self.w, self.x - x * self.w)


def _met(one: tuple[Array, Array, Array], two: tuple[Array, Array, Array]) -> Met:
    """Where a x + b z = c of both."""
    (a1, b1, c1), (a2, b2, c2) = one, two
    return Met(c1 * b2 - c2 * b1, a1 * c2 - a2 * c1, a1 * b2 - a2 * b1)


def plane_trace_centre(assembled: Assembled, solved: Positions, at: Array, axis: int) -> Met | None:
    """Where the traces of the two arm planes meet (drawn instant centre).

    Args:
        assembled: with the planes its roles name.
        solved: its positions.
        at: where the view's plane stands along its axis.
        axis: 0 the transverse plane (answers y and z), 1 the side view (answers x and z).
    """
    across = 1 - axis
    roles = assembled.template.roles
    if not roles.upper_plane or not roles.lower_plane:
        return None
    lines = []
    for names in (roles.upper_plane, roles.lower_plane):
        p, q, r = (solved.system.where(solved.poses, assembled.marks[name], solved.drives) for name in names)
        n = cross(q - p, r - p)
        # n · (point − p) = 0 in the view's plane: n_y y + n_z z = n · p − n_x x, and likewise from the side
        lines.append((n[across], n[2], (n * p).sum(axis=0) - n[axis] * at))
    return _met(*lines)


def link_line_centre(assembled: Assembled, solved: Positions) -> Met | None:
    """Where a beam's upper and lower links meet in the side view, pairs averaged: x and z (drawn instant centre)."""
    roles = assembled.template.roles
    if not roles.upper_line or not roles.lower_line:
        return None
    lines = []
    for names in (roles.upper_line, roles.lower_line):
        p, q = (_averaged(assembled, solved, name) for name in names)
        d = q - p
        lines.append((d[2], -d[0], d[2] * p[0] - d[0] * p[2]))
    return _met(*lines)


def _averaged(assembled: Assembled, solved: Positions, point: str) -> Array:
    found: Array = sum(  # type: ignore[assignment]
        solved.system.where(solved.poses, assembled.role(point, side), solved.drives) for side in SIDES
    )
    return found / 2


def about(met: Met, place: Array) -> Array:
    """A velocity of a place that turns about a side-view centre (3, lanes), for its slope; square to parallel lines where those are."""
    return np.stack([met.z - place[2] * met.w, np.zeros_like(met.x), place[0] * met.w - met.x])


def drawn_anti(found: dict[str, Array]) -> dict[str, Array]:
    """The same percentages under the names of the drawn construction."""
    return {name.replace("_percent", "_drawn_percent"): values for name, values in found.items()}


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
