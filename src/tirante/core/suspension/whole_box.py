"""An end moved through its whole box of travel, roll and steer: what is past its limit anywhere before damper, stop, strap or slider ends the travel.

At every roll and steer the travel is followed from ride height outward to where something ends it; between the last position before that
and the first one past it all quantities are taken straight.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from tirante.core.document.end import End
from tirante.core.document.template import Template
from tirante.core.mechanism.solve import CONVERGED
from tirante.core.suspension.cycle import Cycle, Solved, positions, solved_cycle, watched_measures
from tirante.core.suspension.watches import Watch, watches

Array = NDArray[np.float64]
ENDS_TRAVEL = ("damper", "stop", "slider")  # families that end the travel as they should


@dataclass(frozen=True, slots=True, kw_only=True)
class Worst:
    """The largest of a quantity over what is reached, and where."""

    value: float
    travel: float  # [mm]
    roll: float  # [deg]
    steer: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Reach:
    """Which positions of a box are reached before something ends the travel, and the edges where it does."""

    travel: Array  # each axis
    roll: Array
    steer: Array
    reached: NDArray[np.bool_]  # (travel, roll, steer)
    # of each edge: the last position before, the first past it, roll and steer by index; how far between them it lies
    last: NDArray[np.intp]
    past: NDArray[np.intp]
    rolls: NDArray[np.intp]
    steers: NDArray[np.intp]
    shares: Array
    lost: (
        tuple[float, float, float] | None
    )  # the first position (travel, roll, steer) beyond which it cannot be put together
    ended_up: bool  # whether something ends the travel upward at every roll and steer
    ended_down: bool

    def worst(self, values: Array) -> Worst:
        """Of a quantity at every position; at the edges it is taken straight between the last position before and the first past.

        Args:
            values: (positions), NaN where it is not known.
        """
        cube = values.reshape(self.reached.shape)
        inside = np.where(self.reached & np.isfinite(cube), cube, -np.inf)
        i, r, s = (int(k) for k in np.unravel_index(int(inside.argmax()), cube.shape))
        most, at = float(inside[i, r, s]), float(self.travel[i])
        if len(self.last):
            one, two = cube[self.last, self.rolls, self.steers], cube[self.past, self.rolls, self.steers]
            edge = np.nan_to_num(one + self.shares * (two - one), nan=-np.inf)
            k = int(edge.argmax())
            if edge[k] > most:
                here, beyond = self.travel[self.last[k]], self.travel[self.past[k]]
                most, at, r, s = (
                    float(edge[k]),
                    float(here + self.shares[k] * (beyond - here)),
                    int(self.rolls[k]),
                    int(self.steers[k]),
                )
        return Worst(value=most, travel=at, roll=float(self.roll[r]), steer=float(self.steer[s]))


@dataclass(frozen=True, slots=True, kw_only=True)
class Box:
    """All positions of an end's box, solved, and what is watched at each."""

    end: End
    travel: Array  # each axis
    roll: Array
    steer: Array
    rows: Array  # (3, positions): the axes, travel slowest
    steps: tuple[int, int, int]  # as they were asked for
    done: Solved
    found: Cycle
    watched: tuple[Watch, ...]
    reach: Reach

    @property
    def shape(self) -> tuple[int, int, int]:
        """Positions along each axis."""
        return len(self.travel), len(self.roll), len(self.steer)


def box_of(
    template: Template, end: End, *, bump: float, droop: float, roll: float, steer: float, steps: tuple[int, int, int] = (17, 5, 5)
) -> Box:  # fmt: skip
    """Move an end through its whole box.

    Args:
        template: with its additions.
        end: with what its joints allow.
        bump: furthest travel up [mm].
        droop: furthest travel down, positive [mm].
        roll: of the body, each way [deg].
        steer: each way [mm of the rack, or deg of the arm].
        steps: positions along travel, roll and steer.

    Raises:
        InputError: as `cycle`.
    """
    along = np.unique(np.append(np.linspace(-droop, bump, steps[0]), 0.0)) if template.rises else np.zeros(1)
    # the same to the last digit both ways, so that what one wheel goes through is what the other does
    lean = roll * np.linspace(-1.0, 1.0, steps[1]) if roll else np.zeros(1)
    turn = steer * np.linspace(-1.0, 1.0, steps[2]) if steer and template.steered else np.zeros(1)
    rows = positions(along, lean, turn)
    done = solved_cycle(template, end, rows)
    found = watched_measures(done)
    watched = tuple(watches(found, end))
    shape = len(along), len(lean), len(turn)
    ended = np.full(shape, -np.inf)  # past 0 something has ended the travel
    for watch in watched:
        if _ends_travel(watch):
            ended = np.fmax(ended, watch.excess.reshape(shape))
    reach = _reach((along, lean, turn), (done.status == CONVERGED).reshape(shape), ended)
    return Box(
        end=end, travel=along, roll=lean, steer=turn, rows=rows, steps=steps, done=done, found=found, watched=watched, reach=reach
    )  # fmt: skip


def _ends_travel(watch: Watch) -> bool:
    return watch.family in ENDS_TRAVEL and watch.kind == "stop"


def _reach(axes: tuple[Array, Array, Array], good: NDArray[np.bool_], ended: Array) -> Reach:
    """Follow the travel from ride height outward at every roll and steer."""
    travel, roll, steer = axes
    ride = int(np.flatnonzero(travel == 0.0)[0])
    reached = np.zeros(good.shape, bool)
    edges: list[tuple[int, int, int, int, float]] = []
    lost: tuple[float, float, float] | None = None
    open_ways: set[int] = set()
    for r, s in np.ndindex(good.shape[1:]):
        if not good[ride, r, s]:
            lost = lost or (0.0, float(roll[r]), float(steer[s]))
            continue
        if ended[ride, r, s] > 0:
            continue
        reached[ride, r, s] = True
        for way in (1, -1):
            i = ride
            while 0 <= i + way < len(travel):
                n = i + way
                if not good[n, r, s]:
                    lost = lost or (float(travel[i]), float(roll[r]), float(steer[s]))
                    break
                if ended[n, r, s] > 0:
                    before, then = float(ended[i, r, s]), float(ended[n, r, s])
                    edges.append((i, n, r, s, before / (before - then) if np.isfinite(before) else 1.0))
                    break
                i = n
                reached[i, r, s] = True
            else:
                open_ways.add(way)
    last, past, rolls, steers = (np.array([edge[k] for edge in edges], dtype=np.intp) for k in range(4))
    return Reach(
        travel=travel, roll=roll, steer=steer, reached=reached, last=last, past=past, rolls=rolls, steers=steers,
        shares=np.array([edge[4] for edge in edges]), lost=lost, ended_up=1 not in open_ways, ended_down=-1 not in open_ways,
    )  # fmt: skip


@dataclass(frozen=True, slots=True, kw_only=True)
class Past:
    """Something past its limit or near it, where it is worst."""

    kind: Literal["stop", "attention"]
    family: str
    what: str
    worst: Worst  # by how much, in its own unit, and where


@dataclass(frozen=True, slots=True, kw_only=True)
class WholeBox:
    """What the whole box says of an end, the worst first."""

    state: Literal["good", "attention", "stop"]
    says: str
    past: tuple[Past, ...]


def whole_box(box: Box) -> WholeBox:
    """Look for what is past its limit before the travel is ended.

    Args:
        box: moved through.
    """
    worst: dict[str, tuple[Past, Watch]] = {}
    for watch in box.watched:
        if _ends_travel(watch) or (watch.family == "stop" and "beside" not in watch.what):
            continue
        found = box.reach.worst(watch.excess)
        if found.value > 0:
            worst[watch.what] = Past(kind=watch.kind, family=watch.family, what=watch.what, worst=found), watch
    past = [one for one, watch in worst.values() if not _said_harder(watch, worst)]
    if box.reach.lost:
        travel, roll, steer = box.reach.lost
        beyond = "it cannot be put together" + (" beyond this" if travel else "")
        past.append(
            Past(
                kind="stop", family="reach", what=beyond, worst=Worst(value=1.0, travel=travel, roll=roll, steer=steer)
            )
        )
    past.sort(key=lambda one: (one.kind != "stop", one.family == "reach", -one.worst.value))
    state: Literal["good", "attention", "stop"] = "good"
    if past:
        state = "stop" if past[0].kind == "stop" else "attention"
    return WholeBox(state=state, says=_says(box, past), past=tuple(past))


def _said_harder(watch: Watch, worst: dict[str, tuple[Past, Watch]]) -> bool:
    """Whether a stop of the same thing says it already."""
    if watch.kind == "stop" or watch.harder is None:
        return False
    return any(
        other.kind == "stop" and other.harder is None and np.array_equal(other.excess, watch.harder, equal_nan=True)
        for _, other in worst.values()
    )


def where_told(at: Worst, unit: str) -> str:
    """A place of the box in words.

    Args:
        at: the place.
        unit: of the steer, "mm" or "°".
    """
    told = f"at {at.travel:+.1f} mm" if at.travel else "at ride height"
    told += f", roll {at.roll:+g}°" if at.roll else ""
    return told + (f", steer {at.steer:+g} {unit}".replace(" °", "°") if at.steer else "")


def _says(box: Box, past: list[Past]) -> str:
    unit = "°" if box.end.steering else "mm"
    size = f"{box.travel[0]:+.0f} to {box.travel[-1]:+.0f} mm"
    size += f", roll ±{box.roll[-1]:g}°" if len(box.roll) > 1 else ""
    size += f", steer ±{box.steer[-1]:g} {unit}".replace(" °", "°") if len(box.steer) > 1 else ""
    hard = [one for one in past if one.kind == "stop"]
    if hard:
        more = f"; {len(hard) - 1} more of its kind" if len(hard) > 1 else ""
        first = f"Over the whole box ({size}) {hard[0].what} {where_told(hard[0].worst, unit)}, before damper, stop, strap or slider ends the travel{more}."
    elif past:
        first = f"Over the whole box ({size}) nothing is past its limit; nearest: {past[0].what} {where_told(past[0].worst, unit)}."
    else:
        first = (
            f"Over the whole box ({size}) nothing is at its limit before damper, stop, strap or slider ends the travel."
        )
    open_ = [way for way, ended in (("upward", box.reach.ended_up), ("downward", box.reach.ended_down)) if not ended]
    told = f"{first} Nothing ends the travel {' or '.join(open_)} everywhere in it." if open_ else first
    return told.replace(" -", " −").replace("(-", "(−")
