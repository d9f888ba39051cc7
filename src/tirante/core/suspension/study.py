"""What the page shows of an end: measures along the travel, what happens on the way, what stops it.

One study is the end moved through its travel at one roll and one steer. Events are found between solved positions by
straight interpolation of the quantity that reaches its limit; what is past its limit at ride height already stands there.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from tirante.core.document.end import End
from tirante.core.document.template import Template
from tirante.core.mechanism.solve import CONVERGED, OTHER_WAY, SINGULAR
from tirante.core.suspension.cycle import WHY, Cycle, Solved, at_position, measured, resolved, solved_cycle
from tirante.core.suspension.watches import Watch, watches

Array = NDArray[np.float64]
STEPS = 41
ENDS = {
    WHY[SINGULAR]: "it stands in a toggle",
    WHY[OTHER_WAY]: "it goes past a toggle and is put together another way round",
}


@dataclass(frozen=True, slots=True, kw_only=True)
class Event:
    """Something on the way."""

    travel: float  # [mm]
    kind: Literal["stop", "attention"]
    what: str
    short: str
    at_ride: bool = False  # past its limit at ride height already
    family: str = "reach"  # of what limits it: damper, joint, stop …


@dataclass(frozen=True, slots=True, kw_only=True)
class Study:
    """An end along its travel."""

    found: Cycle
    at_ride: Cycle
    done: Solved  # the mechanism, for whoever wants it at other places
    events: tuple[Event, ...]
    bump: str  # what stops it upward, a sentence
    droop: str
    lowest: float  # [mm] travel from here …
    highest: float  # … to here is free of stops


def study(template: Template, end: End, bump: float, droop: float, roll_deg: float, steer: float) -> Study:
    """Move the end from full droop to full bump at a roll and a steer.

    Args:
        template: of the end.
        end: as it stands in the car.
        bump: furthest travel up [mm].
        droop: furthest travel down, positive [mm].
        roll_deg: of the body.
        steer: mm of the rack, or deg of the steering arm.

    Raises:
        InputError: as `cycle`.
    """
    travel = np.unique(np.concatenate([np.linspace(-droop, bump, STEPS), [0.0]])) if template.rises else np.zeros(1)
    rows = np.vstack([travel, np.full(travel.shape, roll_deg), np.full(travel.shape, steer)])
    done = solved_cycle(template, end, rows)
    found = measured(done)
    ride = int(np.flatnonzero(travel == 0.0)[0])
    straight = roll_deg == 0 and steer == 0
    at_ride = at_position(found, ride) if straight else measured(resolved(done, np.zeros((3, 1))))
    events = [*_reach(found), *_watched(found.travel_mm, watches(found, end))]
    events.sort(key=lambda e: e.travel)
    stops = [e for e in events if e.kind == "stop"]
    # what stands past its limit at ride height stops it both ways
    up = min((e for e in stops if e.travel > 0 or e.at_ride), key=lambda e: e.travel, default=None)
    down = max((e for e in stops if e.travel < 0 or e.at_ride), key=lambda e: e.travel, default=None)
    return Study(
        found=found, at_ride=at_ride, done=done, events=tuple(events),
        bump=_sentence(up, [e for e in stops if e.travel > 0], 1.0),
        droop=_sentence(down, [e for e in stops if e.travel < 0], -1.0),
        lowest=down.travel if down else -droop, highest=up.travel if up else bump,
    )  # fmt: skip


def _reach(found: Cycle) -> list[Event]:
    """The last position on either side that could be put together."""
    travel = found.travel_mm
    good = np.array([s == WHY[CONVERGED] for s in found.status])
    ride = int(np.flatnonzero(travel == 0.0)[0])
    out = []
    for sign in (1, -1):
        i = ride
        while 0 <= i < len(travel) and good[i]:
            i += sign
        if not 0 <= i < len(travel):
            continue
        why = ENDS.get(found.status[i], "it cannot be put together")
        if i == ride:
            return [Event(travel=0.0, kind="stop", what=f"{why} at ride height", short="end of reach", at_ride=True)]
        out.append(Event(travel=float(travel[i - sign]), kind="stop", what=f"beyond this {why}", short="end of reach"))
    return out


def _passes(travel: Array, excess: Array) -> list[tuple[float, bool]]:
    """Travels at which a quantity passes its limit (excess 0); and ride height, True, when it is past it there."""
    out = []
    ride = np.flatnonzero(travel == 0.0)
    if len(ride) and excess[ride[0]] > 0:
        out.append((0.0, True))
    a, b = excess[:-1], excess[1:]
    for i in np.flatnonzero(np.isfinite(a) & np.isfinite(b) & ((a > 0) != (b > 0))):
        out.append((float(travel[i] + (travel[i + 1] - travel[i]) * a[i] / (a[i] - b[i])), False))
    return out


def _watched(travel: Array, watched: list[Watch]) -> list[Event]:
    out = []
    ride = np.flatnonzero(travel == 0.0)
    for watch in watched:
        for place, at_ride in _passes(travel, watch.excess):
            if at_ride and watch.harder is not None and watch.harder[ride[0]] > 0:
                continue
            what = watch.at_ride if at_ride else watch.what
            out.append(
                Event(travel=place, kind=watch.kind, what=what, short=watch.short, at_ride=at_ride, family=watch.family)
            )
    return out


def _sentence(first: Event | None, stops: list[Event], sign: float) -> str:
    """What stops it, and whether the damper or a stop does so before a joint binds."""
    if first is None:
        return "nothing stops it as far as it was moved"
    joints = sorted((e for e in stops if e.family == "joint" and e is not first), key=lambda e: sign * e.travel)
    if first.family in ("damper", "stop"):
        later = f"; then {joints[0].what}" if joints else ""
        return f"{first.what}, before any joint binds{later}" if not first.at_ride else first.what
    softer = [e for e in stops if e.family in ("damper", "stop")]
    if first.family == "joint" and not first.at_ride:
        return f"{first.what}, before the damper or a stop does{'' if softer else ' (none is given that would)'}"
    return first.what
