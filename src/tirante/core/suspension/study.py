"""What the page shows of an end: measures along the travel, what happens on the way, what stops it.

One study is the end moved through its travel at one roll and one steer. Events are found between solved positions by
straight interpolation of the quantity that reaches its limit; what is past its limit at ride height already stands there.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from tirante.core.mechanism.solve import CONVERGED, SINGULAR
from tirante.core.suspension.cycle import WHY, Cycle, cycle
from tirante.core.suspension.end import End
from tirante.core.suspension.template import Template

Array = NDArray[np.float64]
STEPS = 41
WARN_FROM = 0.8  # of a joint's limit


@dataclass(frozen=True, slots=True, kw_only=True)
class Event:
    """Something on the way."""

    travel: float  # [mm]
    kind: Literal["stop", "attention"]
    what: str
    short: str
    at_ride: bool = False  # past its limit at ride height already


@dataclass(frozen=True, slots=True, kw_only=True)
class Study:
    """An end along its travel."""

    found: Cycle
    at_ride: Cycle
    events: tuple[Event, ...]
    bump: str  # what stops it upward, a sentence
    droop: str
    lowest: float  # [mm] travel from here …
    highest: float  # … to here is free of stops


def study(template: Template, end: End, bump: float, droop: float, roll_deg: float, steer_mm: float) -> Study:
    """Move the end from full droop to full bump at a roll and a steer.

    Raises:
        InputError: as `cycle`.
    """
    travel = np.unique(np.concatenate([np.linspace(-droop, bump, STEPS), [0.0]]))
    rows = np.vstack([travel, np.full(travel.shape, roll_deg), np.full(travel.shape, steer_mm)])
    found = cycle(template, end, rows)
    at_ride = cycle(template, end, np.zeros((3, 1)))
    events = [*_reach(found), *_damper(found, end), *_joints(found, end)]
    events.sort(key=lambda e: e.travel)
    stops = [e for e in events if e.kind == "stop"]
    # what stands past its limit at ride height stops it both ways
    up = min((e for e in stops if e.travel > 0 or e.at_ride), key=lambda e: e.travel, default=None)
    down = max((e for e in stops if e.travel < 0 or e.at_ride), key=lambda e: e.travel, default=None)
    return Study(
        found=found, at_ride=at_ride, events=tuple(events),
        bump=up.what if up else "nothing stops it as far as it was moved",
        droop=down.what if down else "nothing stops it as far as it was moved",
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
        why = "it stands in a toggle" if found.status[i] == WHY[SINGULAR] else "it cannot be put together"
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
    for i in range(len(travel) - 1):
        a, b = excess[i], excess[i + 1]
        if np.isfinite(a) and np.isfinite(b) and (a > 0) != (b > 0):
            out.append((float(travel[i] + (travel[i + 1] - travel[i]) * a / (a - b)), False))
    return out


def _damper(found: Cycle, end: End) -> list[Event]:
    damper = end.damper
    if damper is None:
        return []
    sides: list[tuple[str, Array]] = []
    if "damper_length_mm" in found.columns:
        left, right = found.columns["damper_length_mm"], found.right["damper_length_mm"]
        alike = np.allclose(left, right, equal_nan=True)
        sides = [("damper", left)] if alike else [("left damper", left), ("right damper", right)]
    for side in ("left", "right"):
        if f"damper_length_{side}_mm" in found.columns:
            sides.append((f"{side} damper", found.columns[f"damper_length_{side}_mm"]))
    out = []
    for which, length in sides:
        for limit, word, sign in ((damper.closed_mm, "closed", -1.0), (damper.open_mm, "open", 1.0)):
            if limit is None:
                continue
            for travel, at_ride in _passes(found.travel_mm, sign * (length - limit)):
                past = f"past {word} at ride height" if at_ride else word
                out.append(
                    Event(
                        travel=travel, kind="stop", what=f"the {which} is {past}", short=f"{which} {word}", at_ride=at_ride,
                    )
                )  # fmt: skip
    return out


def _joints(found: Cycle, end: End) -> list[Event]:
    out = []
    for name, columns in found.links.items():
        known = end.links.get(name.split(", ")[0])  # a link is named with its side behind
        if known is None:
            continue
        for which, side in (("a", "inner"), ("b", "outer")):
            joint = getattr(known, which)
            angle = columns.get(f"misalignment_{which}_deg", columns.get(f"tilt_{which}_deg"))
            if joint is None or joint.limit_deg is None or angle is None:
                continue
            out += _joint_events(f"{name}’s {side} joint", found.travel_mm, angle, joint.limit_deg)
    return out


def _joint_events(joint: str, travel: Array, angle: Array, limit: float) -> list[Event]:
    """The stop at a joint's limit, and the warning before it."""
    kinds: tuple[tuple[float, Literal["stop", "attention"], str], ...] = (
        (1.0, "stop", "its limit"), (WARN_FROM, "attention", f"{100 * WARN_FROM:.0f} % of its limit"),
    )  # fmt: skip
    out = []
    for share, kind, words in kinds:
        for place, at_ride in _passes(travel, angle - share * limit):
            if at_ride and kind == "attention" and angle[np.flatnonzero(travel == 0.0)[0]] > limit:
                continue  # the stop says it
            does = f"is past {words} at ride height" if at_ride else f"reaches {words}"
            out.append(
                Event(
                    travel=place, kind=kind, what=f"the {joint} {does}, {limit:g}°",
                    short=f"{joint.replace('’s', '')} {share * limit:.0f}°", at_ride=at_ride,
                )
            )  # fmt: skip
    return out


# what is shown beside the ride-height value: usual ranges for a light car, common practice, no source
USUAL: dict[str, tuple[float, float, str]] = {
    "camber_deg": (-1.5, 0.0, "more negative loads the outer edge in a corner and wears the inner on the straight"),
    "toe_deg": (-0.1, 0.25, "toe-in steadies, toe-out turns in sooner; both wear the tyre"),
    "caster_deg": (3.0, 8.0, "more returns the wheel harder and gains camber in steer, and is heavier to turn"),
    "kingpin_inclination_deg": (5.0, 14.0, "more lifts the car as it steers and takes camber off the outer wheel"),
    "scrub_radius_mm": (-10.0, 40.0, "more pulls at the wheel under braking; a wide tyre or spacer makes it so"),
    "mechanical_trail_mm": (5.0, 30.0, "more gives weight and return, less gives a light wheel"),
    "roll_centre_path_mm": (0.0, 150.0, "higher rolls less and jacks more"),
    "roll_centre_mm": (150.0, 450.0, "a beam axle's stands high by its lateral location"),
    "anti_dive_percent": (0.0, 40.0, "more holds the nose up and harshens braking on bumps"),
    "anti_lift_percent": (0.0, 80.0, "more holds the tail down under braking, and may hop"),
    "anti_squat_percent": (20.0, 120.0, "more holds the tail up as it drives off, and may hop"),
}
