"""An end moved through travel, roll and steer: every measure at every position.

An independent end is solved as two left corners: the right wheel is the mirror image of a left one at its own travel
(travel + y tan φ) and the opposite rack travel. A beam axle is solved whole.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import hypot, radians

import numpy as np
from numpy.typing import ArrayLike, NDArray

from tirante.core.errors import InputError
from tirante.core.mechanism.model import Mark
from tirante.core.mechanism.solve import CONVERGED, NOT_ASSEMBLED, SINGULAR, Positions, solve
from tirante.core.mechanism.system import System
from tirante.core.suspension import joints, measures
from tirante.core.suspension.assemble import TRAVEL, Assembled, LinkMarks, assemble_end
from tirante.core.suspension.end import End
from tirante.core.suspension.template import Template

Array = NDArray[np.float64]
MAX_POSITIONS = 200_000
WHY = {
    CONVERGED: "converged",
    NOT_ASSEMBLED: "cannot be assembled at this position",
    SINGULAR: "singular: the mechanism stands in a toggle here",
}


@dataclass(frozen=True, slots=True, kw_only=True)
class Cycle:
    """All positions: inputs, whether each was reached, and columns of values by name (NaN where not reached)."""

    travel_mm: Array
    roll_deg: Array
    steer_mm: Array
    status: tuple[str, ...]
    residual_mm: Array
    columns: dict[str, Array]  # of the axle, or of the left wheel
    right: dict[str, Array]  # of the right wheel, by the same names
    links: dict[str, dict[str, Array]]  # by link: length, bind, tilt and misalignment of its ends


def positions(travel: ArrayLike, roll: ArrayLike, steer: ArrayLike) -> Array:
    """Every combination (3, n), travel slowest."""
    grid = np.meshgrid(np.asarray(travel, float), np.asarray(roll, float), np.asarray(steer, float), indexing="ij")
    return np.vstack([axis.ravel() for axis in grid])


def cycle(template: Template, end: End, rows: Array) -> Cycle:
    """Solve and measure.

    Args:
        template: of the end's kind.
        end: the design of the end.
        rows: travel [mm], roll [deg], steer [mm] (3, positions).

    Raises:
        InputError: by point, for what makes the mechanism impossible; by input, for too many positions.
    """
    if rows.shape[1] > MAX_POSITIONS:
        raise InputError(
            f"{rows.shape[1]} positions are asked for; at most {MAX_POSITIONS} at once. Use fewer steps.",
            code="too_many", fields=("travel_mm",), value=rows.shape[1],
        )  # fmt: skip
    assembled = assemble_end(template, end)
    if template.axle == "beam":
        return _beam(assembled, rows)
    return _independent(assembled, rows)


# --- independent ----------------------------------------------------------------------------------------------------------


def _corner(assembled: Assembled, solved: Positions, rest: measures.WheelState) -> dict[str, Array]:
    end, radius = assembled.end, assembled.end.wheel.loaded_radius_mm
    state = _wheel(assembled, solved, 1.0)
    body = assembled.wheel_centre.body
    motion = measures.motions(solved, TRAVEL)[body]
    toe_rate = np.degrees(_toe_rate(state, motion))
    found = {
        "camber_deg": state.camber,
        "toe_deg": state.toe,
        "half_track_change_mm": state.contact[1] - rest.contact[1],
        "wheelbase_change_mm": state.centre[0] - rest.centre[0],
        "contact_y_mm": state.contact[1],
        "contact_z_mm": state.contact[2],
        "bump_steer_deg_per_mm": toe_rate,
        **measures.centre_measures(state, motion, radius),
        **measures.damper_measures(assembled, solved),
    }
    drawn = measures.plane_trace_centre(assembled, solved, state.centre[0])
    if drawn:
        y, z = drawn
        c = state.contact
        slope = measures.quotient(z - c[2], y - c[1])
        found |= {"ic_front_drawn_y_mm": y, "ic_front_drawn_z_mm": z, "roll_centre_drawn_mm": -slope * c[1]}
    axis = measures.steering_axis(assembled, solved)
    if axis is not None:
        found |= measures.steer_measures(state, axis)
    if end.vehicle:
        fixed, centre = motion.at(state.contact), motion.at(state.centre)
        found |= measures.anti_measures(end.vehicle, end.end, "independent", fixed, centre)
    return found


def _toe_rate(state: measures.WheelState, motion: measures.Motion) -> Array:
    rate = np.cross(motion.w, state.spin, axis=0)
    flat = state.spin[0] ** 2 + state.spin[1] ** 2
    found: Array = (rate[0] * state.spin[1] - rate[1] * state.spin[0]) / flat * state.side
    return found


def _wheel(assembled: Assembled, solved: Positions, side: float) -> measures.WheelState:
    wheel = assembled.end.wheel
    x, y, z = assembled.wheel_centre.at
    centre = solved.system.where(solved.poses, Mark(assembled.wheel_centre.body, (x, side * y, z)), solved.drives)
    spin = measures.spin_axis(wheel.camber_deg, wheel.toe_deg, side)
    axis = solved.system.direction(solved.poses, assembled.wheel_centre.body, spin)
    return measures.wheel_state(centre, axis, wheel.loaded_radius_mm, side)


def _resting(assembled: Assembled, system: System) -> Positions:
    """The reference position, as one solved position."""
    drives = np.zeros((len(assembled.mechanism.drivers), 1))
    return Positions(
        system=system, drives=drives, poses=system.reference(1), residual=np.zeros(1), status=np.zeros(1, dtype=np.int8), bind=None,
    )  # fmt: skip


def drives_of(assembled: Assembled, system: System, rows: Array) -> Array:
    """Values of the mechanism's drivers for travel [mm], roll [deg] and steer [mm] (3, positions).

    Of a beam one column a position; of an independent end the left corners, then as many right ones as left corners.
    """
    travel, roll, steer = rows
    if assembled.template.axle == "beam":
        return np.vstack([travel, -np.radians(roll), steer])
    half_track = float(_wheel(assembled, _resting(assembled, system), 1.0).contact[1, 0])
    lean = half_track * np.tan(np.radians(roll))
    return np.vstack([np.concatenate([travel - lean, travel + lean]), np.concatenate([steer, -steer])])


def _independent(assembled: Assembled, rows: Array) -> Cycle:
    travel, roll, steer = rows
    system = System(assembled.mechanism)
    still = _resting(assembled, system)
    rest = _wheel(assembled, still, 1.0)
    n = rows.shape[1]
    drives = drives_of(assembled, system, rows)
    both = assembled.steers or bool(np.any(roll != 0))
    if not both:  # the two sides are one and the same
        drives = drives[:, :n]
    solved = solve(system, drives)
    values = _corner(assembled, solved, rest)
    bad = ~measures.good_lanes(solved)
    for column in values.values():
        column[bad] = np.nan
    left = {name: column[:n] for name, column in values.items()}
    right = {name: (column[n:] if both else column[:n]) for name, column in values.items()}
    _to_the_ground(left, right)
    _roll_centre_in_roll(left, right, roll)
    if assembled.end.vehicle and both:
        _ackermann(left, right, steer, assembled, still)
    status = solved.status[:n] if not both else np.maximum(solved.status[:n], solved.status[n:])
    residual = solved.residual[:n] if not both else np.maximum(solved.residual[:n], solved.residual[n:])
    links = _links(assembled, solved, np.arange(n))
    if both:
        right_links = _links(assembled, solved, np.arange(n, 2 * n))
        links |= {f"{name}, right": columns for name, columns in right_links.items()}
    return Cycle(
        travel_mm=travel, roll_deg=roll, steer_mm=steer, status=tuple(WHY[int(s)] for s in status), residual_mm=residual,
        columns=left, right=right, links=links,
    )  # fmt: skip


def _to_the_ground(left: dict[str, Array], right: dict[str, Array]) -> None:
    """Camber against the plane through both contact centres; the body's axes lean by its own angle."""
    lean = np.degrees(
        np.arctan2(left["contact_z_mm"] - right["contact_z_mm"], left["contact_y_mm"] + right["contact_y_mm"])
    )
    # the ground rises to the left by `lean` in the body's axes: the left wheel leans out less, the right one more
    left["camber_to_ground_deg"] = left["camber_deg"] + lean
    right["camber_to_ground_deg"] = right["camber_deg"] - lean


def _roll_centre_in_roll(left: dict[str, Array], right: dict[str, Array], roll: Array) -> None:
    """Where both sides' lines meet, from each contact square to its path: height above the ground line, and y."""
    leaning = roll != 0
    if not leaning.any():
        return
    yl, zl, yr, zr = left["contact_y_mm"], left["contact_z_mm"], -right["contact_y_mm"], right["contact_z_mm"]
    # slope of each line = −dy/dz of the path, from roll_centre_path = y · dy/dz of that wheel
    sl = -left["roll_centre_path_mm"] / left["contact_y_mm"]
    sr = right["roll_centre_path_mm"] / right["contact_y_mm"]
    y = measures.quotient(zr - zl + sl * yl - sr * yr, sl - sr)
    z = zl + sl * (y - yl)
    ground = zl + (zr - zl) * (y - yl) / (yr - yl)
    height = (z - ground) * np.cos(np.arctan2(zl - zr, yl - yr))
    for side in (left, right):
        side["roll_centre_path_mm"] = np.where(leaning, height, side["roll_centre_path_mm"])
        side["roll_centre_y_mm"] = np.where(leaning, y, 0.0)


def _ackermann(
    left: dict[str, Array], right: dict[str, Array], steer: Array, assembled: Assembled, still: Positions
) -> None:
    """cot δo − cot δi against kingpin spacing at ride height / wheelbase; toe of the straight position taken off."""
    vehicle = assembled.end.vehicle
    assert vehicle is not None
    base = assembled.end.wheel.toe_deg
    delta_left = -(left["toe_deg"] - base)  # toe-in of the left wheel turns it to the right
    delta_right = right["toe_deg"] - base
    outer = np.where(steer > 0, delta_right, -delta_left)
    inner = np.where(steer > 0, delta_left, -delta_right)
    rest = _wheel(assembled, still, 1.0)
    spacing = 2 * float(rest.contact[1, 0])
    axis = measures.steering_axis(assembled, still)
    if axis is not None:
        spacing -= 2 * float(measures.steer_measures(rest, axis)["scrub_radius_mm"][0])
    with np.errstate(divide="ignore", invalid="ignore"):
        have = 1 / np.tan(np.radians(outer)) - 1 / np.tan(np.radians(inner))
    percent = 100 * have / (spacing / vehicle.wheelbase_mm)
    percent[np.abs(steer) < 1e-9] = np.nan
    left["ackermann_percent"] = right["ackermann_percent"] = percent


# --- beam ------------------------------------------------------------------------------------------------------------------


def _beam(assembled: Assembled, rows: Array) -> Cycle:
    travel, roll, steer = rows
    end = assembled.end
    system = System(assembled.mechanism)
    solved = solve(system, drives_of(assembled, system, rows))
    radius = end.wheel.loaded_radius_mm
    rest = _wheel(assembled, _resting(assembled, system), 1.0)
    values = measures.beam_measures(assembled, solved, radius, float(rest.contact[2, 0]))
    states = [_wheel(assembled, solved, side) for side in (1.0, -1.0)]
    left, right = (
        {
            "camber_deg": s.camber, "toe_deg": s.toe, "contact_y_mm": s.side * s.contact[1], "contact_z_mm": s.contact[2],
            "half_track_change_mm": s.side * s.contact[1] - rest.contact[1],
        } for s in states
    )  # fmt: skip
    _to_the_ground(left, right)
    if end.vehicle:
        motion = measures.motions(solved, TRAVEL)[assembled.wheel_centre.body]
        # of the axle as a whole: mid-way between its two contacts, and between its two wheel centres
        fixed = motion.at((states[0].contact + states[1].contact) / 2)
        centre = motion.at((states[0].centre + states[1].centre) / 2)
        values |= measures.anti_measures(end.vehicle, end.end, "beam", fixed, centre)
    for name in ("left", "right"):
        values |= measures.damper_measures(assembled, solved, name)
    bad = ~measures.good_lanes(solved)
    for column in (*values.values(), *left.values(), *right.values()):
        column[bad] = np.nan
    n = rows.shape[1]
    return Cycle(
        travel_mm=travel, roll_deg=roll, steer_mm=steer, status=tuple(WHY[int(s)] for s in solved.status),
        residual_mm=solved.residual, columns=values | left, right=right, links=_links(assembled, solved, np.arange(n)),
    )  # fmt: skip


# --- links and joints ------------------------------------------------------------------------------------------------------


def _links(assembled: Assembled, solved: Positions, lanes: NDArray[np.intp]) -> dict[str, dict[str, Array]]:
    """Length, bind, and how far each end is out of line, at some of the positions.

    Of an independent end these are a left corner's; the right one's are those of its mirror image.
    """
    found: dict[str, dict[str, Array]] = {}
    rows = {name: row for name, row, _ in solved.system.rows}
    bad = ~measures.good_lanes(solved)[lanes]
    for link in assembled.links:
        a, b = (solved.system.where(solved.poses, mark, solved.drives)[:, lanes] for mark in (link.a, link.b))
        d = b - a
        one: dict[str, Array] = {"length_mm": np.linalg.norm(d, axis=0)}
        if solved.bind is not None:
            stretch = solved.bind[rows[link.name], lanes].copy()
            one |= {"bind_mm": stretch, "bind_n": stretch * solved.system.stiffness[rows[link.name]]}
        one |= _joint_angles(assembled, solved, link, measures.unit(d), lanes)
        for column in one.values():
            column[bad] = np.nan
        found[link.name] = one
    return found


def _joint_angles(
    assembled: Assembled, solved: Positions, link: LinkMarks, axis: Array, lanes: NDArray[np.intp]
) -> dict[str, Array]:
    known = assembled.end.links.get(link.template_name)
    if known is None:
        return {}
    one: dict[str, Array] = {}
    bolts: dict[str, Array] = {}
    for name, mark in (("a", link.a), ("b", link.b)):
        joint = getattr(known, name)
        if joint is None:
            continue
        x, y, z = (float(v) / hypot(*joint.bolt_axis) for v in joint.bolt_axis)
        turned = solved.system.direction(solved.poses, mark.body, (x, -y if link.side == "right" else y, z))
        bolts[name] = turned[:, lanes]
        one[f"tilt_{name}_deg"] = np.degrees(joints.tilt(axis, bolts[name]))
    if len(bolts) == 2:
        pair = joints.misalignment(axis, bolts["a"], bolts["b"], radians(known.clocking_deg))
        one["misalignment_a_deg"], one["misalignment_b_deg"] = (np.degrees(angle) for angle in pair)
    return one
