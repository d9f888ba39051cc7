"""The measures of a wheel at every solved position, by their definitions (ISO 8855 axes).

Velocities are exact: the Jacobian is solved once for a unit of travel (of roll, of rack). Angles in degrees, lengths in
mm, arrays one value a position.

Source:
    ISO 8855, SAE J670 (from memory) for axes and angles; roll centres, instant centres, anti percentages and motion ratio
    from the velocities of the wheel's body (derived; docs/methods.md, Measures of a suspension).
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from tirante.core.geometry.vectors import cross
from tirante.core.mechanism.solve import Positions, rates
from tirante.core.suspension.assemble import STEER, Assembled

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
        return self.v + cross(self.w, place - self.origin)


def motions(solved: Positions, driver: str, *, once: bool = False) -> dict[str, Motion]:
    """Velocity of every body for a unit of a driver, drivers of other names held; found once for each driver.

    Args:
        solved: the positions.
        driver: its name.
        once: of positions that hardly anything else is asked of: see `rates`. It is neither kept nor taken from what is, so that
            nothing hangs on what was asked first.
    """
    if driver in solved.rates and not once:
        return solved.rates[driver]  # type: ignore[return-value]
    system = solved.system
    rate = rates(solved, driver, once=once)
    found: dict[str, Motion] = {}
    if not once:
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
    """The wheel's spin axis pointing outboard, from camber and toe as they stand; side +1 left, −1 right.

    Args:
        camber_deg: top inward negative.
        toe_deg: toe-in positive.
        side: +1 left, −1 right.
    """
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
        ahead = cross(self.spin, np.broadcast_to(UP[:, None], self.spin.shape)) * self.side
        return unit(ahead)


def wheel_state(centre: Array, spin: Array, radius: float, side: float) -> WheelState:
    """The wheel with the lowest point of its thin disc.

    Args:
        centre: [mm]
        spin: axis, outboard (3, lanes).
        radius: of the loaded tyre [mm].
        side: +1 left, −1 right.
    """
    down = unit(UP[:, None] - spin[2] * spin)
    return WheelState(centre=centre, spin=spin, contact=centre - radius * down, side=side)


def contact_velocity(state: WheelState, motion: Motion, radius: float) -> Array:
    """Velocity of the disc's lowest point, which moves over the disc as the wheel tilts.

    Args:
        state: of the wheel.
        motion: of its body for a unit of travel.
        radius: of the loaded tyre [mm].
    """
    spin, rate = state.spin, cross(motion.w, state.spin)
    n = UP[:, None] - spin[2] * spin
    size = np.linalg.norm(n, axis=0)
    down = n / size
    change = -rate[2] * spin - spin[2] * rate
    change = (change - down * (down * change).sum(axis=0)) / size
    found: Array = motion.at(state.centre) - radius * change
    return found


def steering_axis(assembled: Assembled, solved: Positions, side: float = 1.0) -> tuple[Array, Array] | None:
    """A point of a wheel's steering axis and its direction, upward; None when nothing steers and no axis is named.

    Args:
        assembled: the mechanism with its named marks.
        solved: its positions.
        side: +1 left, −1 right.
    """
    roles = assembled.template.roles
    if roles.steer_axis:
        marks = [assembled.role(name, "left" if side > 0 else "right") for name in roles.steer_axis]
        low, high = (solved.system.where(solved.poses, mark, solved.drives) for mark in marks)
        return low, unit(high - low)
    if not assembled.steers:
        return None
    motion = motions(solved, STEER)[assembled.wheel(side).body]
    size = np.maximum((motion.w**2).sum(axis=0), 1e-300)
    # the screw axis: the point nearest the body's origin
    place = motion.origin + cross(motion.w, motion.v) / size
    axis = unit(motion.w)
    return place, np.where(axis[2] < 0, -axis, axis)


def steer_measures(state: WheelState, axis: tuple[Array, Array]) -> dict[str, Array]:
    """Caster, kingpin inclination, scrub radius and mechanical trail."""
    place, k = axis
    side = state.side
    reach = (state.contact[2] - place[2]) / np.where(np.abs(k[2]) < 1e-9, np.nan, k[2])
    ground = place + k * reach
    h = state.heading
    outboard = cross(h, np.broadcast_to(UP[:, None], h.shape)) * -side
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


def wheel_at(assembled: Assembled, solved: Positions, side: float) -> WheelState:
    """The wheel of a side, +1 left, −1 right (of a beam), at every position.

    Args:
        assembled: the mechanism with its named marks.
        solved: its positions.
        side: +1 left, −1 right.
    """
    wheel, mark = assembled.end.wheel, assembled.wheel(side)
    centre = solved.system.where(solved.poses, mark, solved.drives)
    spin = spin_axis(wheel.camber_deg, wheel.toe_deg, side)
    return wheel_state(centre, solved.system.direction(solved.poses, mark.body, spin), wheel.loaded_radius_mm, side)


def toe_rate(state: WheelState, motion: Motion) -> Array:
    """Change of toe for a unit of the driver that `motion` belongs to [rad]."""
    rate = cross(motion.w, state.spin)
    flat = state.spin[0] ** 2 + state.spin[1] ** 2
    found: Array = (rate[0] * state.spin[1] - rate[1] * state.spin[0]) / flat * state.side
    return found
