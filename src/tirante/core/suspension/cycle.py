"""An end moved through travel, roll and steer: every measure at every position.

An independent end is solved as two left corners: the right wheel is the mirror image of a left one at its own travel
(travel + y tan φ) and the opposite rack travel; where points are unpaired, of a corner of its own. A beam axle is solved
whole. Travel is counted from where the body stands (`ride`), not from where the points were taken.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from math import hypot, radians

import numpy as np
from numpy.typing import ArrayLike, NDArray

from tirante.core.document.end import End
from tirante.core.document.template import Template
from tirante.core.errors import InputError
from tirante.core.mechanism.model import Coordinate, Distance, Mark, separation
from tirante.core.mechanism.solve import CONVERGED, NOT_ASSEMBLED, OTHER_WAY, SINGULAR, Positions, solve
from tirante.core.mechanism.system import System, system_of
from tirante.core.suspension import axle, instant_centres, joints, measures
from tirante.core.suspension.assemble import SIDES, TRAVEL, Assembled, LinkMarks, assemble_end, right_corner
from tirante.core.suspension.clearance import clearances, lopsided
from tirante.core.suspension.limits import limit_measures
from tirante.core.suspension.ride import as_it_stands

Array = NDArray[np.float64]
FAR = 10.0  # tracks from the middle of the car: lines that meet further off run parallel
MAX_POSITIONS = 200_000
WHY = {
    CONVERGED: "converged",
    NOT_ASSEMBLED: "cannot be assembled at this position",
    SINGULAR: "singular: the mechanism stands in a toggle here",
    OTHER_WAY: "past a toggle: it can be put together here only another way round",
}


@dataclass(frozen=True, slots=True, kw_only=True)
class Cycle:
    """All positions: inputs, whether each was reached, and columns of values by name (NaN where not reached)."""

    travel_mm: Array
    roll_deg: Array
    steer: Array  # mm of a rack, deg of a steering arm
    steer_name: str  # steer_mm or steer_deg, as it is
    status: tuple[str, ...]
    residual_mm: Array
    columns: dict[str, Array]  # of the axle, or of the left wheel
    right: dict[str, Array]  # of the right wheel, by the same names
    links: dict[str, dict[str, Array]]  # by link: length, bind, tilt and misalignment of its ends
    balls: dict[str, dict[str, Array]]  # by ball joint or bush: misalignment
    shafts: dict[str, dict[str, Array]]  # by shaft: length, plunge, angles
    bars: dict[str, dict[str, Array]]  # by half of an anti-roll bar: angle to the drop link, turn of the arm
    clearances: dict[str, dict[str, Array]]  # by pair: how far apart, and what is wanted
    limits: dict[str, dict[str, Array]]  # of bump stop, strap and sliders


def at_position(found: Cycle, i: int) -> Cycle:
    """One of the positions alone."""

    def cut(columns: dict[str, Array]) -> dict[str, Array]:
        return {name: column[i : i + 1] for name, column in columns.items()}

    kinds = ("links", "balls", "shafts", "bars", "clearances", "limits")
    parts = {kind: {name: cut(columns) for name, columns in getattr(found, kind).items()} for kind in kinds}
    return replace(
        found, travel_mm=found.travel_mm[i : i + 1], roll_deg=found.roll_deg[i : i + 1], steer=found.steer[i : i + 1],
        status=found.status[i : i + 1], residual_mm=found.residual_mm[i : i + 1], columns=cut(found.columns), right=cut(found.right),
        **parts,  # type: ignore[arg-type]
    )  # fmt: skip


def positions(travel: ArrayLike, roll: ArrayLike, steer: ArrayLike) -> Array:
    """Every combination (3, n), travel slowest.

    Args:
        travel: [mm]
        roll: [deg]
        steer: [mm, deg]
    """
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
    return measured(solved_cycle(template, end, rows))


# --- solving --------------------------------------------------------------------------------------------------------------


@dataclass(frozen=True, slots=True, kw_only=True)
class SolvedSide:
    """A solved mechanism with its position at ride height: a corner, or a whole beam axle."""

    assembled: Assembled
    solved: Positions
    rest: Positions


@dataclass(frozen=True, slots=True, kw_only=True)
class Solved:
    """An end solved at every row; of an independent end `right` stands mirrored, as a left corner."""

    rows: Array  # travel [mm], roll [deg], steer [mm or deg]
    left: SolvedSide
    right: SolvedSide | None  # None: a beam, or the same as the left
    end: End

    @property
    def sides(self) -> tuple[SolvedSide, ...]:
        """Each once."""
        return (self.left, self.right) if self.right else (self.left,)

    @property
    def status(self) -> NDArray[np.int8]:
        """The worse of both sides."""
        found: NDArray[np.int8] = np.max([side.solved.status for side in self.sides], axis=0)
        return found


def resolved(before: Solved, rows: Array) -> Solved:
    """Other rows of an end that has been solved already, its mechanism as it is."""
    left = before.left
    if left.assembled.beam:
        return _whole(left.assembled, left.solved.system, left.rest, rows, before.end)
    return _corners(left.assembled, left.solved.system, rows, before)


def taken(before: Solved, rows: Array) -> Solved | None:
    """Some of the positions that were solved already; None when one of them was not."""
    lanes = []
    for row in rows.T:
        same = np.flatnonzero((before.rows == row[:, None]).all(axis=0))
        if len(same) == 0:
            return None
        lanes.append(int(same[0]))
    cut = [replace(side, solved=side.solved.take(np.array(lanes))) for side in before.sides]
    return replace(before, rows=rows, left=cut[0], right=cut[1] if before.right else None)


def _whole(assembled: Assembled, system: System, rest: Positions, rows: Array, end: End) -> Solved:
    solved = solve(system, beam_drives(assembled, rows))
    if not assembled.template.rises:
        solved.status[rows[0] != 0] = NOT_ASSEMBLED
    return Solved(rows=rows, left=SolvedSide(assembled=assembled, solved=solved, rest=rest), right=None, end=end)


def solved_cycle(template: Template, end: End, rows: Array) -> Solved:
    """Every row solved, nothing measured yet.

    Args:
        template: of the end.
        end: as it stands in the car.
        rows: travel, roll and steer of each position (3, n).

    Raises:
        InputError: as `cycle`.
    """
    template, end = as_it_stands(template, end)
    assembled = assemble_end(template, end)
    system = system_of(assembled.mechanism)
    if assembled.beam:
        return _whole(assembled, system, _resting(assembled, system), rows, end)
    return _corners(assembled, system, rows)


def _corners(assembled: Assembled, system: System, rows: Array, before: Solved | None = None) -> Solved:
    travel, roll, steer = rows
    end, n = assembled.end, rows.shape[1]
    rest = before.left.rest if before else _resting(assembled, system)
    y = float(measures.wheel_at(assembled, rest, 1.0).contact[1, 0])
    unlike = bool(end.right_points)
    turn = np.radians(steer) if assembled.turns else steer

    def drives(y: float, sign: float) -> Array:
        return np.vstack([travel - end.ride.rise_mm - sign * y * np.tan(np.radians(roll)), sign * turn])

    if unlike:
        if before and before.right:
            other, own, still = before.right.assembled, before.right.solved.system, before.right.rest
        else:
            other = replace(assemble_end(assembled.template, right_corner(end)), corner="right")
            own = system_of(other.mechanism)
            still = _resting(other, own)
        yr = float(measures.wheel_at(other, still, 1.0).contact[1, 0])
        left, right = solve(system, drives(y, 1.0)), solve(own, drives(yr, -1.0))
        return Solved(
            rows=rows, left=SolvedSide(assembled=assembled, solved=left, rest=rest), right=SolvedSide(assembled=other, solved=right, rest=still),
            end=end,
        )  # fmt: skip
    both = bool(np.any(roll != 0) or np.any(steer != 0)) or any(lopsided(thing) for thing in end.obstacles)
    if not both:  # the two sides are one and the same
        solved = solve(system, drives(y, 1.0))
        return Solved(rows=rows, left=SolvedSide(assembled=assembled, solved=solved, rest=rest), right=None, end=end)
    # leaned and steered both ways, a position of one wheel is one of the other's: each is solved once
    each, where = np.unique(np.hstack([drives(y, 1.0), drives(y, -1.0)]), axis=1, return_inverse=True)
    whole = solve(system, each)
    left, right = (whole.take(where.reshape(-1)[part]) for part in (slice(0, n), slice(n, 2 * n)))
    mirror = SolvedSide(assembled=replace(assembled, corner="right"), solved=right, rest=rest)
    return Solved(rows=rows, left=SolvedSide(assembled=assembled, solved=left, rest=rest), right=mirror, end=end)


def beam_drives(assembled: Assembled, rows: Array) -> Array:
    """Values of a beam's drivers for travel [mm], roll [deg] and steer [mm, deg] (3, positions)."""
    travel, roll, steer = rows
    turn = np.radians(steer) if assembled.turns else steer
    return np.vstack([travel - assembled.end.ride.rise_mm, -np.radians(roll), turn])


def _resting(assembled: Assembled, system: System) -> Positions:
    """The position at ride height.

    Raises:
        InputError: the body cannot stand so.
    """
    drives = np.zeros((len(assembled.mechanism.drivers), 1))
    rise = assembled.end.ride.rise_mm
    if rise == 0.0 or not assembled.template.rises:
        return Positions(
            system=system, drives=drives, poses=system.reference(1), residual=np.zeros(1), status=np.zeros(1, dtype=np.int8), bind=None,
        )  # fmt: skip
    drives[0] = -rise
    found = solve(system, drives)
    if found.status[0] != CONVERGED:
        raise InputError(
            f"With the body {abs(rise):g} mm {'higher' if rise > 0 else 'lower'} the suspension cannot be assembled. "
            "Choose a ride height nearer to where the points were taken.",
            code="out_of_range", fields=("ride.rise_mm",), value=rise,
        )  # fmt: skip
    return found


def by_wheel(template: Template, end: End, rows: Array) -> Array:
    """Travel [mm] and roll [deg] of a beam (2, positions) that lift its wheels by so much each; NaN where it cannot.

    Args:
        template: of a beam that rises.
        end: its design.
        rows: rise of the left wheel's centre, of the right one's [mm], steer (3, positions).
    """
    template, end = as_it_stands(template, end)
    assembled = assemble_end(template, end, by_wheel=True)
    system = system_of(assembled.mechanism)
    left, right, steer = rows
    rise = end.ride.rise_mm
    turn = np.radians(steer) if assembled.turns else steer
    solved = solve(system, np.vstack([left - rise, right - rise, turn]))
    one, two = assembled.wheel_centre.at, assembled.wheel_centre_right.at
    x, y, z = ((a + b) / 2 for a, b in zip(one, two, strict=True))
    middle = system.where(solved.poses, Mark(assembled.axle_body, (x, y, z)), solved.drives)
    e = system.direction(solved.poses, assembled.axle_body, (0.0, 1.0, 0.0))
    found = np.vstack([middle[2] - z + rise, -np.degrees(np.arctan2(e[2], e[1]))])
    found[:, solved.status != CONVERGED] = np.nan
    return found


# --- measuring ------------------------------------------------------------------------------------------------------------


PARTS = ("links", "balls", "shafts", "bars", "clearances", "limits")


def watched_measures(done: Solved) -> Cycle:
    """What is watched at every position of a solved end: all its parts and the dampers' lengths, without the wheels' own measures,
    which are the larger part of the work."""
    one, two = done.left, done.right or done.left
    other = "right" if one.assembled.beam else "left"
    left: dict[str, Array] = {}
    right: dict[str, Array] = {}
    if done.end.damper:
        left["damper_length_mm"] = axle.damper_length(one.assembled, one.solved)
        right["damper_length_mm"] = axle.damper_length(two.assembled, two.solved, other)
    return _cycle(done, left, right, _all_parts(done))


def measured(done: Solved) -> Cycle:
    """Every measure at every position of a solved end."""
    beam = done.left.assembled.beam
    left, right = wheel_columns(done)
    parts = _all_parts(done)
    for kind, key in (
        ("shafts", "shaft_plunge_mm"),
        ("shafts", "shaft_angle_deg"),
        ("shafts", "shaft_angle_inner_deg"),
        ("shafts", "shaft_angle_outer_deg"),
        ("shafts", "shaft_angle_difference_deg"),
        ("bars", "arb_link_angle_deg"),
    ):
        for name in list(parts[kind])[:1]:  # the first shaft's and bar's stand among the wheel's measures too
            other = name.replace(", left", ", right") if beam else f"{name}, right"
            left[key] = parts[kind][name][key].copy()
            right[key] = parts[kind].get(other, parts[kind][name])[key].copy()
    return _cycle(done, left, right, parts)


def _cycle(
    done: Solved, left: dict[str, Array], right: dict[str, Array], parts: dict[str, dict[str, dict[str, Array]]]
) -> Cycle:
    """Nothing is known where the end was not put together."""
    bad = done.status != CONVERGED
    for columns in (left, right, *(one for kind in parts.values() for one in kind.values())):
        for column in columns.values():
            column[bad] = np.nan
    residual = np.max([side.solved.residual for side in done.sides], axis=0)
    travel, roll, steer = done.rows
    return Cycle(
        travel_mm=travel, roll_deg=roll, steer=steer, steer_name="steer_deg" if done.left.assembled.turns else "steer_mm", status=tuple(WHY[int(s)] for s in done.status), residual_mm=residual,
        columns=left, right=right, **parts,
    )  # fmt: skip


def wheel_columns(done: Solved) -> tuple[dict[str, Array], dict[str, Array]]:
    """The measures of the axle and its left wheel, and of the right one."""
    return _axle(done) if done.left.assembled.beam else _wheels(done)


def roll_centre(done: Solved) -> tuple[Array, Array]:
    """The roll centre by the path, alone: height above the ground and y [mm], the same as among all measures.

    It is all that a drawing at one position asks for, at a small part of the work.
    """
    side = done.left
    if side.assembled.beam:
        height = axle.beam_measures(side.assembled, side.solved, _still(side), once=True)["roll_centre_mm"]
        y = np.zeros_like(height)
    else:
        left = _path(side)
        right = _path(done.right) if done.right else {name: column.copy() for name, column in left.items()}
        _roll_centre_in_roll(left, right, done.rows[1])
        height = left["roll_centre_path_mm"]
        y = left.get("roll_centre_y_mm", np.zeros_like(height))
    there = done.status == CONVERGED
    return np.where(there, height, np.nan), np.where(there, y, np.nan)


def _path(side: SolvedSide) -> dict[str, Array]:
    state = _state(side)
    motion = measures.motions(side.solved, TRAVEL, once=True)[side.assembled.wheel_centre.body]
    found = instant_centres.centre_measures(state, motion, side.assembled.end.wheel.loaded_radius_mm)
    return {
        "contact_y_mm": state.contact[1], "contact_z_mm": state.contact[2], "roll_centre_path_mm": found["roll_centre_path_mm"],
    }  # fmt: skip


def _still(side: SolvedSide) -> float:
    """Height of the contact as the wheels stood when the points were taken [mm]."""
    wheel = side.assembled.end.wheel
    return float(side.assembled.wheel_centre.at[2] - wheel.loaded_radius_mm * np.cos(np.radians(wheel.camber_deg)))


def _mirrored_lanes(done: Solved) -> NDArray[np.intp] | None:
    """Of every position of the right corner the one of the left that is its mirror image; None where there is none, or where
    something beside the car's middle tells the sides apart."""
    left, right = done.left, done.right
    if right is None or right.solved.system is not left.solved.system or right.rest is not left.rest:
        return None
    if any(lopsided(thing) for thing in done.end.obstacles):
        return None
    lanes = {column.tobytes(): i for i, column in enumerate((left.solved.drives + 0.0).T.copy())}
    found = [lanes.get(column.tobytes(), -1) for column in (right.solved.drives + 0.0).T.copy()]
    return np.array(found, dtype=np.intp) if min(found) >= 0 else None


def _all_parts(done: Solved) -> dict[str, dict[str, dict[str, Array]]]:
    """Every kind of part, measured."""
    mirrored = _mirrored_lanes(done)
    if mirrored is None:
        return {kind: _parts(kind, done) for kind in PARTS}
    found = {}
    for kind in PARTS:
        own = _parts(kind, replace(done, right=None))
        other = {f"{name}, right": {key: c[mirrored] for key, c in columns.items()} for name, columns in own.items()}
        found[kind] = own | other
    return found


def _parts(kind: str, done: Solved) -> dict[str, dict[str, Array]]:
    found: dict[str, dict[str, Array]] = {}
    for side in done.sides:
        measure = {
            "links": _links, "balls": _balls, "shafts": axle.shaft_measures, "bars": axle.bar_measures, "clearances": clearances,
            "limits": limit_measures,
        }[kind]  # fmt: skip
        own = measure(side.assembled, side.solved, side.rest)
        suffix = ", right" if side is done.right else ""
        found |= {f"{name}{suffix}": columns for name, columns in own.items()}
    return found


def _wheels(done: Solved) -> tuple[dict[str, Array], dict[str, Array]]:
    """Both wheels of an independent end."""
    one, two = done.left, done.right or done.left
    left = _corner(one)
    right = _corner(two) if done.right else {name: column.copy() for name, column in left.items()}
    _to_the_ground(left, right, [_state(one), _state(two)])
    _roll_centre_in_roll(left, right, done.rows[1])
    if one.assembled.steers:
        spacing = sum(_kingpin_y(side.assembled, side.rest, 1.0) for side in (one, two))
        _ackermann(left, right, done, spacing)
        for side, columns, sign in ((one, left, 1.0), (two, right, -1.0)):
            jacking = _jacking(side, done.rows, sign)
            if jacking is not None:
                columns["jacking_mm"] = jacking
    return left, right


def left_wheel(done: Solved) -> measures.WheelState:
    """The left wheel at every position: camber and toe, at a small part of the work of all measures."""
    return measures.wheel_at(done.left.assembled, done.left.solved, 1.0)


def _state(side: SolvedSide) -> measures.WheelState:
    return measures.wheel_at(side.assembled, side.solved, 1.0)


def _corner(side: SolvedSide) -> dict[str, Array]:
    assembled, solved = side.assembled, side.solved
    end, radius = assembled.end, assembled.end.wheel.loaded_radius_mm
    state, rest = _state(side), measures.wheel_at(assembled, side.rest, 1.0)
    motion = measures.motions(solved, TRAVEL)[assembled.wheel_centre.body]
    found = {
        "camber_deg": state.camber,
        "toe_deg": state.toe,
        "half_track_change_mm": state.contact[1] - rest.contact[1],
        "wheelbase_change_mm": state.centre[0] - rest.centre[0],
        "contact_y_mm": state.contact[1],
        "contact_z_mm": state.contact[2],
        "bump_steer_deg_per_mm": np.degrees(measures.toe_rate(state, motion)),
        **instant_centres.centre_measures(state, motion, radius),
        **axle.damper_measures(assembled, solved),
    }
    drawn = instant_centres.plane_trace_centre(assembled, solved, state.centre[0], 0)
    if drawn:
        (y, z), c = drawn.centre, state.contact
        slope = drawn.slope_from(c[1], c[2])
        found |= {"ic_front_drawn_y_mm": y, "ic_front_drawn_z_mm": z, "roll_centre_drawn_mm": -slope * c[1]}
    steering = measures.steering_axis(assembled, solved)
    if steering is not None:
        found |= measures.steer_measures(state, steering)
    aside = instant_centres.plane_trace_centre(assembled, solved, state.centre[1], 1)
    if aside:
        found |= dict(zip(("ic_side_drawn_x_mm", "ic_side_drawn_z_mm"), aside.centre, strict=True))
    if end.vehicle:
        fixed, centre = motion.at(state.contact), motion.at(state.centre)
        found |= _anti(end, "independent", fixed, centre, aside, state.contact, state.centre)
    return found


def _anti(
    end: End, kind: str, fixed: Array, centre: Array, drawn: instant_centres.Met | None, contact: Array, middle: Array
) -> dict[str, Array]:
    assert end.vehicle is not None
    found = instant_centres.anti_measures(end.vehicle, end.end, kind, fixed, centre)
    if drawn:
        lines = (instant_centres.about(drawn, contact), instant_centres.about(drawn, middle))
        found |= instant_centres.drawn_anti(instant_centres.anti_measures(end.vehicle, end.end, kind, *lines))
    return found


def _kingpin_y(assembled: Assembled, rest: Positions, side: float) -> float:
    """How far the steering axis meets the ground from the middle at ride height [mm]."""
    state = measures.wheel_at(assembled, rest, side)
    out = float(side * state.contact[1, 0])
    steering = measures.steering_axis(assembled, rest, side)
    return out - float(measures.steer_measures(state, steering)["scrub_radius_mm"][0]) if steering else out


def _to_the_ground(left: dict[str, Array], right: dict[str, Array], states: list[measures.WheelState]) -> None:
    """Camber and toe against the plane through both contact centres; the body's axes lean by its own angle."""
    lean = np.arctan2(left["contact_z_mm"] - right["contact_z_mm"], left["contact_y_mm"] + right["contact_y_mm"])
    # the ground rises to the left by `lean` in the body's axes; seen in its own, every direction turns by −lean about x
    for columns, state, turn in ((left, states[0], lean), (right, states[1], -lean * states[1].side)):
        s = state.spin
        across = s[1] * np.cos(turn) + s[2] * np.sin(turn)
        up = s[2] * np.cos(turn) - s[1] * np.sin(turn)
        columns["camber_to_ground_deg"] = np.degrees(-np.arcsin(np.clip(up, -1, 1)))
        columns["toe_to_ground_deg"] = np.degrees(np.arctan2(s[0], state.side * across))


def _roll_centre_in_roll(left: dict[str, Array], right: dict[str, Array], roll: Array) -> None:
    """Where both sides' lines meet: height above the ground line, and y; by the path (each square to its contact's) and as drawn.

    NaN where they run parallel, or meet further off than `FAR` tracks, which no car tells from parallel: on the other side of that
    they meet at the other end of the road, and a height between the two is none.
    """
    leaning = roll != 0
    if not leaning.any():
        return
    yl, zl, yr, zr = left["contact_y_mm"], left["contact_z_mm"], -right["contact_y_mm"], right["contact_z_mm"]
    for key, across in (("roll_centre_path_mm", "roll_centre_y_mm"), ("roll_centre_drawn_mm", None)):
        if key not in left:
            continue
        # slope of each line, from roll centre = −slope · y of that wheel alone
        sl, sr = -left[key] / left["contact_y_mm"], right[key] / right["contact_y_mm"]
        y = measures.quotient(zr - zl + sl * yl - sr * yr, sl - sr)
        z = zl + sl * (y - yl)
        ground = zl + (zr - zl) * (y - yl) / (yr - yl)
        height = (z - ground) * np.cos(np.arctan2(zl - zr, yl - yr))
        near = np.abs(y - (yl + yr) / 2) <= FAR * np.abs(yl - yr)
        y, height = np.where(near, y, np.nan), np.where(near, height, np.nan)
        for side in (left, right):
            side[key] = np.where(leaning, height, side[key])
            if across:
                side[across] = np.where(leaning, y, 0.0)


def _ackermann(left: dict[str, Array], right: dict[str, Array], done: Solved, spacing: float) -> None:
    """cot δo − cot δi against kingpin spacing at ride height / wheelbase; toe of the straight position taken off."""
    vehicle, steer = done.end.vehicle, done.rows[2]
    if vehicle is None:
        return
    base = done.end.wheel.toe_deg
    delta_left = -(left["toe_deg"] - base)  # toe-in of the left wheel turns it to the right
    delta_right = right["toe_deg"] - base
    outer = np.where(steer > 0, delta_right, -delta_left)
    inner = np.where(steer > 0, delta_left, -delta_right)
    with np.errstate(divide="ignore", invalid="ignore"):
        have = 1 / np.tan(np.radians(outer)) - 1 / np.tan(np.radians(inner))
    percent = 100 * have / (spacing / vehicle.wheelbase_mm)
    percent[np.abs(steer) < 1e-9] = np.nan
    left["ackermann_percent"] = percent
    right["ackermann_percent"] = percent.copy()


def _jacking(side: SolvedSide, rows: Array, sign: float) -> Array | None:
    """How much the tyre rises against the body as it is steered, the spring's length held (level body only) [mm].

    The straight position of the same travel gives the spring its length; NaN in roll, None without a damper.
    """
    travel, roll, steer = rows
    assembled, damper = side.assembled, next(iter(side.assembled.end.springs.values()), None)
    if damper is None:
        return None
    found = np.where(roll == 0, 0.0, np.nan)  # straight ahead nothing rises
    level = np.flatnonzero((roll == 0) & (steer != 0))
    if len(level) == 0:
        return found
    heights, which = np.unique(travel[level], return_inverse=True)
    straight = solve(side.solved.system, np.vstack([heights - assembled.end.ride.rise_mm, np.zeros(len(heights))]))
    spring = axle.length_of(assembled, straight, damper)
    a, b = (assembled.place(place) for place in damper.places)
    held = replace(
        assembled.mechanism,
        constraints=tuple(
            Distance(name="spring", a=a, b=b, drive=TRAVEL) if isinstance(c, Coordinate) and c.drive == TRAVEL else c
            for c in assembled.mechanism.constraints
        ),
    )
    turn = sign * (np.radians(steer[level]) if assembled.turns else steer[level])
    try:
        moved = solve(held, np.vstack([spring[which] - separation(a, b), turn]))
    except InputError:  # the damper does not feel the travel: nothing is held by it
        found[level] = np.nan
        return found
    contact = measures.wheel_at(assembled, moved, 1.0).contact[2]
    start = measures.wheel_at(assembled, straight, 1.0).contact[2][which]
    good = (moved.status == CONVERGED) & (straight.status[which] == CONVERGED)
    found[level] = np.where(good, contact - start, np.nan)
    return found


def _axle(done: Solved) -> tuple[dict[str, Array], dict[str, Array]]:
    """A beam axle and both its wheels."""
    side, end = done.left, done.end
    assembled, solved = side.assembled, side.solved
    values = axle.beam_measures(assembled, solved, _still(side))
    if end.pinion_deg is not None:  # it points away from its own end of the car
        values["pinion_deg"] = end.pinion_deg + values["pinion_change_deg"] * (1.0 if end.end == "rear" else -1.0)
    states = [measures.wheel_at(assembled, solved, sign) for sign in (1.0, -1.0)]
    left, right = (_beam_wheel(side, state) for state in states)
    _to_the_ground(left, right, states)
    if assembled.steers:
        spacing = sum(_kingpin_y(assembled, side.rest, sign) for sign in (1.0, -1.0))
        _ackermann(left, right, done, spacing)
        straight = solve(
            solved.system, beam_drives(assembled, np.vstack([done.rows[:2], np.zeros_like(done.rows[:1])]))
        )
        for columns, sign in ((left, 1.0), (right, -1.0)):
            start = measures.wheel_at(assembled, straight, sign).contact[2]
            columns["jacking_mm"] = columns["contact_z_mm"] - start
    if end.vehicle and assembled.template.rises:
        motion = measures.motions(solved, TRAVEL)[assembled.axle_body]
        # of the axle as a whole: mid-way between its two contacts, and between its two wheel centres
        contact = (states[0].contact + states[1].contact) / 2
        middle = (states[0].centre + states[1].centre) / 2
        drawn = instant_centres.link_line_centre(assembled, solved)
        if drawn:
            values |= dict(zip(("ic_side_drawn_x_mm", "ic_side_drawn_z_mm"), drawn.centre, strict=True))
        values |= _anti(end, "beam", motion.at(contact), motion.at(middle), drawn, contact, middle)
    for name, columns in (("left", left), ("right", right)):
        columns |= axle.damper_measures(assembled, solved, name)
    return values | left, right


def _beam_wheel(side: SolvedSide, state: measures.WheelState) -> dict[str, Array]:
    assembled, solved = side.assembled, side.solved
    rest = measures.wheel_at(assembled, side.rest, state.side)
    found = {
        "camber_deg": state.camber, "toe_deg": state.toe, "contact_y_mm": state.side * state.contact[1],
        "contact_z_mm": state.contact[2].copy(),
        "half_track_change_mm": state.side * (state.contact[1] - rest.contact[1]),
    }  # fmt: skip
    steering = measures.steering_axis(assembled, solved, state.side)
    if steering is not None:
        found |= measures.steer_measures(state, steering)
        if assembled.template.rises:
            motion = measures.motions(solved, TRAVEL)[assembled.wheel(state.side).body]
            found["bump_steer_deg_per_mm"] = np.degrees(measures.toe_rate(state, motion))
    return found


# --- links and joints ------------------------------------------------------------------------------------------------------


def _links(assembled: Assembled, solved: Positions, rest: Positions) -> dict[str, dict[str, Array]]:
    """Length, bind, and how far each end is out of line.

    Of an independent end these are a left corner's; the right one's are those of its mirror image.
    """
    found: dict[str, dict[str, Array]] = {}
    rows = {name: row for name, row, _ in solved.system.rows}
    for link in assembled.links:
        a, b = (solved.system.where(solved.poses, mark, solved.drives) for mark in (link.a, link.b))
        d = b - a
        one: dict[str, Array] = {"length_mm": np.linalg.norm(d, axis=0)}
        if solved.bind is not None:
            stretch = solved.bind[rows[link.name]].copy()
            one |= {"bind_mm": stretch, "bind_n": stretch * solved.system.stiffness[rows[link.name]]}
        found[link.name] = one | joint_angles(assembled, solved, link, measures.unit(d))
    return found


def _balls(assembled: Assembled, solved: Positions, rest: Positions) -> dict[str, dict[str, Array]]:
    """Of ball joints and bushes whose axes are known: the angle between housing and stud [deg]."""
    found: dict[str, dict[str, Array]] = {}
    for joint in assembled.template.joints:
        known = assembled.end.balls.get(joint.name)
        if known is None:
            continue
        for side in SIDES if assembled.beam and joint.pair else ("left",):
            turned = []
            for body, axis in zip(
                joint.bodies_tied, (known.housing_axis or known.stud_axis, known.stud_axis), strict=True
            ):
                x, y, z = (v / hypot(*axis) for v in axis)
                direction = (x, -y if side == "right" else y, z)
                turned.append(solved.system.direction(solved.poses, assembled.body_on(body, side), direction))
            angle = np.degrees(np.arccos(np.clip(np.abs((turned[0] * turned[1]).sum(axis=0)), 0.0, 1.0)))
            name = f"{joint.name}, {side}" if assembled.beam and joint.pair else joint.name
            found[name] = {"misalignment_deg": np.broadcast_to(angle, (solved.poses.lanes,)).copy()}
    return found


def bolt_directions(assembled: Assembled, solved: Positions, link: LinkMarks) -> dict[str, Array]:
    """Where the bolts of a link's ends point (3, lanes), of those that are known.

    Args:
        assembled: the mechanism with its named marks.
        solved: its positions.
        link: with the marks of its two ends.
    """
    known = assembled.end.links.get(link.template_name)
    found: dict[str, Array] = {}
    for name, mark in (("a", link.a), ("b", link.b)):
        joint = getattr(known, name, None)
        if joint is not None:
            x, y, z = (float(v) / hypot(*joint.bolt_axis) for v in joint.bolt_axis)
            found[name] = solved.system.direction(solved.poses, mark.body, (x, -y if link.side == "right" else y, z))
    return found


def joint_angles(assembled: Assembled, solved: Positions, link: LinkMarks, axis: Array) -> dict[str, Array]:
    """Tilt of either end, and the misalignment of both at the link's best roll [deg]; of a hinged end what it is bent by.

    Args:
        assembled: the mechanism with its named marks.
        solved: its positions.
        link: with the marks of its two ends.
        axis: of the link (3, lanes), length 1.
    """
    known = assembled.end.links.get(link.template_name)
    if known is None:
        return {}
    bolts = bolt_directions(assembled, solved, link)
    one = {f"tilt_{name}_deg": np.degrees(joints.tilt(axis, bolt)) for name, bolt in bolts.items()}
    if len(bolts) == 2:
        hinged = tuple(joint is not None and joint.kind == "hinged" for joint in (known.a, known.b))
        own = tuple(joint.limit_deg if joint is not None else None for joint in (known.a, known.b))
        limits = own if None not in own else (1.0, 1.0)
        pair = joints.misalignment(axis, bolts["a"], bolts["b"], radians(known.clocking_deg), hinged, limits)  # type: ignore[arg-type]
        one["misalignment_a_deg"], one["misalignment_b_deg"] = (np.degrees(angle) for angle in pair)
    return one
