"""Where an end's travel is ended, by what, on the way of both wheels and of one alone; and the springs as the car stands."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property
from itertools import pairwise
from math import asin, atan, degrees
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from tirante.core.document.car import Car
from tirante.core.document.end import End
from tirante.core.document.template import Template
from tirante.core.loads.wheel_loads import standing_loads
from tirante.core.suspension import axle, measures
from tirante.core.suspension.assemble import SIDES
from tirante.core.suspension.cycle import Solved, SolvedSide, resolved, solved_cycle
from tirante.core.suspension.held import Carrier
from tirante.core.suspension.limits import limit_measures
from tirante.core.suspension.statics import Case, Push, forces
from tirante.core.units import STANDARD_GRAVITY

Array = NDArray[np.float64]
Way = Literal["both", "left", "right"]  # which wheels move
WAYS: tuple[Way, ...] = ("both", "left", "right")
SWEPT = 41  # positions to find where stop, damper and strap end the travel
PAST = 2.0  # of the stop's crush to solid: how far past its travel an end is looked at
MET = 0.05  # mm: a stop or strap nearer than this is met


NOTHING = "end of the travel asked for"  # what ends a travel that no stop, strap, damper or slider does


@dataclass(frozen=True, slots=True, kw_only=True)
class TravelEnds:
    """Where the travel of a wheel (or of both) ends, from ride height [mm], and by what."""

    bump: float
    bump_by: str
    droop: float
    droop_by: str
    reached: float  # furthest bump that the mechanism was put together at, past where it is stopped
    closed: float | None  # where the first damper closes, though a stop be met before


def spring_label(name: str, side: str, beam: bool) -> str:
    """A spring as forces name it.

    Args:
        name: of the spring.
        side: of the car.
        beam: whether both stand on one mechanism.
    """
    return f"{name}, {side}" if beam else name if side == "left" else f"{name}, right"


class Swept:
    """An end moved from droop to bump by both wheels, by the left one alone and by the right one alone.

    It does not depend on what the car weighs.
    """

    def __init__(self, template: Template, end: End, bump: float, droop: float) -> None:
        """
        Args:
            template: of the end.
            end: as it stands in its car.
            bump: furthest travel [mm].
            droop: the same downward, positive.

        Raises:
            InputError: by point, for what makes the mechanism impossible.
        """
        self.template, self.end = template, end
        self.ride = solved_cycle(template, end, np.zeros((3, 1)))
        beam = self.ride.left.assembled.beam
        beyond = bump + PAST * end.bump_stop.crush_mm if end.bump_stop else bump  # a stop is crushed after it is met
        grid = (np.linspace(-droop, bump, SWEPT), np.linspace(bump, beyond, SWEPT // 4), [0.0])
        self.travel = np.unique(np.concatenate(grid)) if template.rises else np.zeros(1)
        self.asked = self.travel <= bump
        # of a corner the other wheel's height is nothing to it
        self.ways: tuple[Way, ...] = WAYS if beam and template.rises else ("both",)
        rows = np.hstack([np.array([(*self.position(t, way), 0.0) for t in self.travel]).T for way in self.ways])
        self.solved = solved_cycle(template, end, rows)
        self._alongs: dict[tuple[Way, str], StopWay] = {}
        self._locks: dict[tuple[float, ...], Solved] = {}

    @property
    def beam(self) -> bool:
        """Whether both wheels stand on one axle."""
        return self.ride.left.assembled.beam

    def position(self, rise: float, way: Way) -> tuple[float, float]:
        """Travel [mm] and roll [deg] at which the wheels that move have risen by so much, and another stands at ride height."""
        if not self.template.rises:
            return 0.0, 0.0
        left, right = {"both": (rise, rise), "left": (rise, 0.0), "right": (0.0, rise)}[way]
        return wheels_at(self.ride, left, right)

    @cached_property
    def ends(self) -> dict[Way, TravelEnds]:
        """Where the travel ends, each way."""
        found = {way: self._ends(i, way) for i, way in enumerate(self.ways)}
        if len(self.ways) > 1:
            return found
        unlike = bool(self.end.right_points)
        one = self._of_side(self.solved, 0, "left")
        two = self._of_side(self.solved, 0, "right") if unlike else one
        return {"both": _first(one, two), "left": one, "right": two}

    def _ends(self, i: int, way: Way) -> TravelEnds:
        if way == "both":
            return _first(*(self._of_side(self.solved, i, side) for side in SIDES))
        return self._of_side(self.solved, i, way)

    def _side(self, done: Solved, side: str) -> tuple[SolvedSide, str, str]:
        """The mechanism of a side, the suffix of its stops' names, and how its places are asked for."""
        if self.beam:
            return done.left, f", {side}", side
        return (done.right or done.left) if side == "right" else done.left, "", "left"

    def _of_side(self, done: Solved, i: int, side: str) -> TravelEnds:
        own, suffix, near = self._side(done, side)
        n = len(self.travel)
        lanes = slice(i * n, (i + 1) * n)
        reached = done.status[lanes] == 0
        # one wheel of a beam meets its stop later than both: it is looked for as far as the end was moved
        wanted = reached & (self.asked | (self.beam and i > 0))
        bumps: list[tuple[float, str]] = []
        droops: list[tuple[float, str]] = []

        def cross(left: Array, way: int, what: str) -> None:
            at = _crossing(self.travel, left[lanes], wanted, way)
            if at is not None:
                (bumps if way > 0 else droops).append((at, what))

        found = limit_measures(own.assembled, own.solved, own.rest)
        if stop := found.get(f"bump stop{suffix}"):
            cross(stop["gap_mm"], 1, "the bump stop touches")
        if strap := found.get(f"strap{suffix}"):
            cross(strap["slack_mm"], -1, "the strap is taut")
        for joint in own.assembled.template.joints:
            room = self.end.sliders.get(joint.name)
            run = next(
                (
                    c["slider_mm"]
                    for name, c in found.items()
                    if name in (joint.name, f"{joint.name}{suffix}") and "slider_mm" in c
                ),
                None,
            )
            if room is not None and run is not None:
                for way in (1, -1):
                    for left in (room.along_mm - run, room.back_mm + run):
                        cross(left, way, f"the {joint.name} is at its end")
        closing: list[float] = []
        for name, damper in self.end.dampers.items():
            length = axle.length_of(own.assembled, own.solved, damper, near)
            if damper.closed_mm is not None:
                cross(length - damper.closed_mm, 1, f"the {name} is closed")
                at = _crossing(self.travel, length[lanes] - damper.closed_mm, reached, 1)
                closing += [] if at is None else [at]
            if damper.open_mm is not None:
                cross(damper.open_mm - length, -1, f"the {name} is open")
        good = self.travel[wanted]
        last = float(good.max(initial=0.0))
        high = min(bumps, default=(last, NOTHING))
        low = max(droops, default=(float(good.min(initial=0.0)), NOTHING))
        return TravelEnds(
            bump=high[0],
            bump_by=high[1],
            droop=low[0],
            droop_by=low[1],
            reached=float(self.travel[reached].max(initial=0.0)),
            closed=min(closing, default=None),
        )

    def met(self, done: Solved) -> list[dict[str, Carrier]]:
        """Of each solved position, by side, the stop or strap that is met there."""
        out: list[dict[str, Carrier]] = [{} for _ in range(done.rows.shape[1])]
        for side in SIDES:
            own, suffix, _ = self._side(done, side)
            found = limit_measures(own.assembled, own.solved, own.rest)
            stop, strap = found.get(f"bump stop{suffix}"), found.get(f"strap{suffix}")
            for lane, one in enumerate(out):
                if stop and stop["gap_mm"][lane] < MET:
                    one[side] = "stop"
                elif strap and strap["slack_mm"][lane] < MET:
                    one[side] = "strap"
        return out

    # --- the springs and stops along the travel -----------------------------------------------------------------------

    def along(self, way: Way, side: str) -> StopWay:
        """How a wheel's stop closes and its spring stands where the stop is touched."""
        if (way, side) not in self._alongs:
            self._alongs[way, side] = self._along(way, side)
        return self._alongs[way, side]

    def _along(self, way: Way, side: str) -> StopWay:
        i = self.ways.index(way) if way in self.ways else 0
        n = len(self.travel)
        lanes = slice(i * n, (i + 1) * n)
        own, suffix, near = self._side(self.solved, side)
        gap = limit_measures(own.assembled, own.solved, own.rest)[f"bump stop{suffix}"]["gap_mm"][lanes]
        slope = -np.gradient(gap, self.travel)
        # where the gap is closed; where the travel asked for does not close it, its last slope
        ratio = float(np.interp(0.0, -gap, slope)) if np.isfinite(gap).all() else float(np.nanmax(slope))
        lengths = {
            name: axle.length_of(own.assembled, own.solved, spring, near)[lanes]
            for name, spring in self.end.springs.items()
        }
        return StopWay(travel=self.travel, ratio=ratio, lengths=lengths)

    def springs_at_ride(self, car: Car) -> dict[str, float]:
        """Force of every spring as the car stands, what is unsprung taken off [N]; compression positive.

        Raises:
            InputError: what the wheels carry is not known, or nothing carries it.
        """
        rest = standing_loads(car)
        both = car.unsprung_front_kg if self.end.end == "front" else car.unsprung_rear_kg
        pushes = tuple(
            Push(
                at=f"contact_{side}", force=(0.0, 0.0, rest[self.end.end, side] - (both or 0.0) / 2 * STANDARD_GRAVITY)
            )
            for side in SIDES
        )
        found = forces(self.ride, 0, [Case(name="ride", pushes=pushes)])[0]
        if found.fault:
            raise found.fault
        return found.springs

    def own_springs(self, done: Solved, lane: int, at_ride: Mapping[str, float]) -> dict[str, float]:
        """What every spring carries by itself at a position: its force as the car stands, and its rate [N]; none where no rate is known."""
        if not self.end.rated:
            return {}
        out = {}
        for side in SIDES:
            own, _, near = self._side(done, side)
            for name, spring in self.end.springs.items():
                label = spring_label(name, side, self.beam)
                now = axle.length_of(own.assembled, own.solved.take(np.array([lane])), spring, near)[0]
                rest = axle.length_of(own.assembled, own.rest, spring, near)[0]
                assert spring.rate_n_per_mm is not None
                out[label] = max(0.0, at_ride.get(label, 0.0) + spring.rate_n_per_mm * float(rest - now))
        return out

    def resolved(self, rows: Array) -> Solved:
        """The end at other positions."""
        return resolved(self.solved, rows)

    def at_locks(self, steers: tuple[float, ...]) -> Solved:
        """The end at ride height, steered [mm or deg]; kept while few are asked for."""
        found = self._locks.get(steers)
        if found is None:
            found = self.resolved(np.array([[0.0] * len(steers), [0.0] * len(steers), steers]))
            self._locks = {steers: found} if len(self._locks) > 8 else {**self._locks, steers: found}
        return found


@dataclass(frozen=True, slots=True, kw_only=True)
class StopWay:
    """A wheel's travel beside its stop and spring."""

    travel: Array  # [mm]
    ratio: float  # of the stop's gap to the wheel where it is touched
    lengths: Mapping[str, Array]  # of every spring along the travel [mm]

    def spring(self, name: str, at: float, rate: float, at_ride: float) -> tuple[float, float]:
        """At a travel, a spring's rate and force at the wheel [N/mm, N].

        Args:
            name: of the spring.
            at: the travel [mm].
            rate: of the spring [N/mm].
            at_ride: its own force as the car stands [N].
        """
        length = self.lengths[name]
        slope = -np.gradient(length, self.travel)
        ratio = float(np.interp(at, self.travel, slope))
        shorter = float(np.interp(0.0, self.travel, length) - np.interp(at, self.travel, length))
        return rate * ratio**2, (at_ride + rate * shorter) * ratio


def wheels_at(ride: Solved, left: float, right: float) -> tuple[float, float]:
    """Travel [mm] and roll [deg] of an end whose wheels have risen by so much, each.

    Args:
        ride: the end at ride height.
        left: rise of the left wheel [mm].
        right: of the right one.
    """
    side = ride.left
    if side.assembled.beam:  # about the axle's middle
        half = abs(side.assembled.wheel_centre.at[1] - side.assembled.wheel_centre_right.at[1]) / 2
        return (left + right) / 2, degrees(asin(max(-1.0, min(1.0, (right - left) / 2 / half))))
    y = float(measures.wheel_at(side.assembled, side.rest, 1.0).contact[1, 0])
    return (left + right) / 2, degrees(atan((right - left) / 2 / y))


def _first(*ends: TravelEnds) -> TravelEnds:
    """What is met first."""
    high, low = min(ends, key=lambda one: one.bump), max(ends, key=lambda one: one.droop)
    return TravelEnds(
        bump=high.bump, bump_by=high.bump_by, droop=low.droop, droop_by=low.droop_by, reached=min(one.reached for one in ends),
        closed=min((one.closed for one in ends if one.closed is not None), default=None),
    )  # fmt: skip


def _crossing(travel: Array, left: Array, reached: NDArray[np.bool_], way: int) -> float | None:
    """First travel from ride height, upward or downward, at which what is left is used up."""
    order = np.flatnonzero(reached & (travel * way >= 0))
    order = order if way > 0 else order[::-1]
    for one, two in pairwise(order):
        if left[one] > 0 >= left[two]:
            share = left[one] / (left[one] - left[two])
            return float(travel[one] + share * (travel[two] - travel[one]))
    return None
