"""What the page shows of an end: measures along the travel, what happens on the way, what stops it.

One study is the end moved through its travel at one roll and one steer. Events are found between solved positions by
straight interpolation of the quantity that reaches its limit.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from tirante.core.suspension.cycle import Cycle, cycle
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
    up = min((e for e in stops if e.travel > 0), key=lambda e: e.travel, default=None)
    down = max((e for e in stops if e.travel <= 0), key=lambda e: e.travel, default=None)
    return Study(
        found=found, at_ride=at_ride, events=tuple(events),
        bump=up.what if up else f"nothing stops it up to +{bump:g}",
        droop=down.what if down else f"nothing stops it down to −{droop:g}",
        lowest=down.travel if down else -droop, highest=up.travel if up else bump,
    )  # fmt: skip


def _reach(found: Cycle) -> list[Event]:
    good = np.array([s == "converged" for s in found.status])
    out = []
    travel = found.travel_mm
    for sign in (1, -1):
        side = np.flatnonzero(travel * sign > 0)
        side = side if sign > 0 else side[::-1]
        lost = [i for i in side if not good[i]]
        if lost:
            at = float(travel[lost[0] - sign]) if 0 <= lost[0] - sign < len(travel) else 0.0
            out.append(
                Event(
                    travel=at,
                    kind="stop",
                    what=f"beyond this it {found.status[lost[0]].split(' at this')[0]}",
                    short="end of reach",
                )
            )
    return out


def _crossings(travel: Array, value: Array, limit: float) -> list[float]:
    """Travels at which a value passes a limit."""
    out = []
    for i in range(len(travel) - 1):
        a, b = value[i] - limit, value[i + 1] - limit
        if np.isfinite(a) and np.isfinite(b) and (a < 0) != (b < 0):
            out.append(float(travel[i] + (travel[i + 1] - travel[i]) * a / (a - b)))
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
        for limit, word in ((damper.closed_mm, "closed"), (damper.open_mm, "open")):
            if limit is None:
                continue
            for travel in _crossings(found.travel_mm, length, limit):
                out.append(Event(travel=travel, kind="stop", what=f"the {which} is {word}", short=f"{which} {word}"))
    return out


def _joints(found: Cycle, end: End) -> list[Event]:
    out = []
    for name, columns in found.links.items():
        template_name = name.split(", ")[0]
        known = end.links.get(template_name)
        if known is None:
            continue
        for which in ("a", "b"):
            joint = getattr(known, which)
            angle = columns.get(f"misalignment_{which}_deg", columns.get(f"tilt_{which}_deg"))
            if joint is None or joint.limit_deg is None or angle is None:
                continue
            ends = {"a": "inner", "b": "outer"}[which]
            for share, kind in ((1.0, "stop"), (WARN_FROM, "attention")):
                for travel in _crossings(found.travel_mm, angle, share * joint.limit_deg):
                    reaches = "its limit" if kind == "stop" else f"{100 * WARN_FROM:.0f} % of its limit"
                    out.append(
                        Event(
                            travel=travel, kind=kind, what=f"the {name}’s {ends} joint reaches {reaches}, {joint.limit_deg:g}°",  # type: ignore[arg-type]
                            short=f"{name} {ends} joint {share * joint.limit_deg:.0f}°",
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
