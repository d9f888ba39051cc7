"""Every case of a load set carried through one end of a car.

A case becomes what acts at contact patches and points, at a travel position; the mechanism is solved at all positions at
once and balanced at each. Inertia of what is unsprung is not taken off the wheel loads: on the safe side.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field, replace
from itertools import pairwise
from math import sqrt

import numpy as np
from numpy.typing import NDArray

from tirante.core.document.car import Car
from tirante.core.document.end import BumpStop, End
from tirante.core.document.load_cases import CarCase
from tirante.core.errors import InputError
from tirante.core.loads.bump_stop import Caught, caught, polynomial, tabulated
from tirante.core.loads.wheel_loads import Contact, accelerated, hit, standing_loads
from tirante.core.suspension import axle
from tirante.core.suspension.assemble import LinkMarks
from tirante.core.suspension.clearance import lopsided
from tirante.core.suspension.cycle import Solved, resolved, solved_cycle
from tirante.core.suspension.limits import limit_measures
from tirante.core.suspension.statics import Carrier, Case, Forces, Push, forces
from tirante.core.suspension.template import Template
from tirante.core.units import STANDARD_GRAVITY

Array = NDArray[np.float64]
SWEPT = 41  # positions to find where stop, damper and strap end the travel
UP = (0.0, 0.0, 1.0)


@dataclass(frozen=True, slots=True, kw_only=True)
class Carried:
    """One case, one way round, carried by one end."""

    case: CarCase
    name: str  # of the case and which way round
    position: tuple[float, float, float]  # travel, roll, steer
    carrier: Carrier
    pushes: tuple[Push, ...]
    strikes: dict[str, float] = field(default_factory=dict)  # by link: square to it at mid-span [N]
    notes: tuple[str, ...] = ()
    forces: Forces | None = None
    fault: str | None = None

    @property
    def where(self) -> str:
        """The position that it applies at, in words."""
        travel, roll, steer = self.position
        found = f"at {travel:+.1f} mm" if travel else "at ride height"
        found += f", roll {roll:+.1f}°" if roll else ""
        return found + (f", steer {steer:+.1f}" if steer else "")


@dataclass(frozen=True, slots=True, kw_only=True)
class EndLoads:
    """All cases of one end."""

    solved: Solved | None
    cases: tuple[Carried, ...]
    bump_mm: float  # where the stop touches, or the damper closes
    droop_mm: float
    bump_by: str
    droop_by: str


def swept_for_loads(template: Template, end: End, bump: float, droop: float) -> Solved:
    """An end moved from droop to bump: where its stops are met; it does not depend on what the car weighs.

    Args:
        template: of the end.
        end: as it stands in its car.
        bump: furthest travel [mm].
        droop: the same downward, positive.

    Raises:
        InputError: by point, for what makes the mechanism impossible.
    """
    travel = np.unique(np.concatenate([np.linspace(-droop, bump, SWEPT), [0.0]])) if template.rises else np.zeros(1)
    return solved_cycle(template, end, np.vstack([travel, np.zeros_like(travel), np.zeros_like(travel)]))


def end_loads(
    template: Template, end: End, car: Car, cases: Sequence[CarCase], *, bump: float, droop: float, tracks: dict[str, float],
    swept: Solved | None = None,
) -> EndLoads:  # fmt: skip
    """Carry the cases that concern this end.

    Args:
        template: of the end.
        end: as it stands in its car.
        car: its masses.
        cases: of the load set.
        bump: furthest travel to look for the stop in [mm].
        droop: the same downward, positive.
        tracks: by end of the car [mm].
        swept: the end as `swept_for_loads` moved it; None: it is moved here.

    Raises:
        InputError: by point, for what makes the mechanism impossible.
    """
    swept = swept or swept_for_loads(template, end, bump, droop)
    high, by_high, low, by_low = _ends_of_travel(swept, end, swept.rows[0])
    made: list[Carried] = []
    for case in cases:
        if case.end not in ("both", end.end):
            continue
        made += _made(case, template, end, car, swept, tracks, high, low)
    done = _carry(made, swept, end, car, by_high)
    return EndLoads(
        solved=swept, cases=tuple(done), bump_mm=high, droop_mm=low, bump_by=by_high, droop_by=by_low
    )  # fmt: skip


# --- where the travel ends ------------------------------------------------------------------------------------------------


def _ends_of_travel(swept: Solved, end: End, travel: Array) -> tuple[float, str, float, str]:
    """Where the bump stop touches (else the damper closes) and the strap or the damper ends the droop; by what."""
    side = swept.left
    reached = side.solved.status == 0
    found = limit_measures(side.assembled, side.solved, side.rest)
    bumps: list[tuple[float, str]] = []
    droops: list[tuple[float, str]] = []
    for columns in found.values():
        if "gap_mm" in columns and (at := _crossing(travel, columns["gap_mm"], reached, 1)) is not None:
            bumps.append((at, "the bump stop touches"))
        if "slack_mm" in columns and (at := _crossing(travel, columns["slack_mm"], reached, -1)) is not None:
            droops.append((at, "the strap is taut"))
    damper = end.damper
    if damper:
        length = axle.damper_measures(side.assembled, side.solved)["damper_length_mm"]
        if (
            damper.closed_mm is not None
            and (at := _crossing(travel, length - damper.closed_mm, reached, 1)) is not None
        ):
            bumps.append((at, "the damper is closed"))
        if damper.open_mm is not None and (at := _crossing(travel, damper.open_mm - length, reached, -1)) is not None:
            droops.append((at, "the damper is open"))
    good = travel[reached]
    high = min(bumps, default=(float(good.max(initial=0.0)), "end of the travel asked for"))
    low = max(droops, default=(float(good.min(initial=0.0)), "end of the travel asked for"))
    return high[0], high[1], low[0], low[1]


def _crossing(travel: Array, left: Array, reached: NDArray[np.bool_], way: int) -> float | None:
    """First travel from ride height, upward or downward, at which what is left is used up."""
    order = np.flatnonzero(reached & (travel * way >= 0))
    order = order if way > 0 else order[::-1]
    for one, two in pairwise(order):
        if left[one] > 0 >= left[two]:
            share = left[one] / (left[one] - left[two])
            return float(travel[one] + share * (travel[two] - travel[one]))
    return None


# --- what acts ---------------------------------------------------------------------------------------------------------------


def _position(case: CarCase, high: float, low: float, rises: bool) -> tuple[float, float, float]:
    named = {"ride": 0.0, "stop": high, "droop": low}[case.at]
    travel = named if case.travel_mm is None else case.travel_mm
    return travel if rises else 0.0, case.roll_deg, case.steer


def _made(
    case: CarCase, template: Template, end: End, car: Car, swept: Solved, tracks: dict[str, float], high: float, low: float
) -> list[Carried]:  # fmt: skip
    """The case, each way round, as what acts; faults stay with it."""
    position = _position(case, high, low, template.rises)
    whole = end.bump_stop is not None and case.travel_mm is None and case.at == "stop"
    carrier: Carrier = "stop" if whole else "spring"
    shared = {"case": case, "position": position, "carrier": carrier}
    try:
        build = {"wheel": _wheel, "car": _car, "landing": _landing, "strike": _strike, "jack": _jack, "snatch": _snatch}
        return [
            Carried(name=f"{case.name}{way}", pushes=pushes, strikes=strikes, notes=notes, **shared)  # type: ignore[arg-type]
            for way, pushes, strikes, notes in build[case.kind](case, template, end, car, swept, tracks)
        ]
    except InputError as error:
        return [Carried(name=case.name, pushes=(), fault=error.message, **shared)]  # type: ignore[arg-type]


Made = tuple[str, tuple[Push, ...], dict[str, float], tuple[str, ...]]


def _unlike(template: Template, end: End) -> bool:
    """Whether the right side may see something else than the left does."""
    return template.axle == "beam" or bool(end.right_points) or any(lopsided(thing) for thing in end.obstacles)


def _contact(side: str, contact: Contact, case: CarCase, template: Template, end: End) -> Push:
    """The ground's force: all of it at the contact when the torque is taken by the wheel's own body, else rolling."""
    vehicle = end.vehicle
    assert vehicle
    if case.torque == "brake":
        fixed = vehicle.brakes == "outboard"
    elif case.torque == "drive":
        fixed = vehicle.drive == "upright" or (vehicle.drive is None and template.axle == "beam")
    else:
        fixed = False
    return Push(at=f"contact_{side}", force=contact.force, rolling=not fixed)


def _wheel(
    case: CarCase, template: Template, end: End, car: Car, swept: Solved, tracks: dict[str, float]
) -> list[Made]:
    rest = standing_loads(car)
    pushes = {s: _contact(s, hit(rest[end.end, s], case, s), case, template, end) for s in ("left", "right")}
    if case.wheels == "both":
        return [("", tuple(pushes.values()), {}, ())]
    if not _unlike(template, end):  # the heavier wheel stands for both
        heavy = max(rest[end.end, "left"], rest[end.end, "right"])
        return [("", (_contact("left", hit(heavy, case, "left"), case, template, end),), {}, ())]
    # the other wheel stands on the ground meanwhile
    other = {s: Push(at=f"contact_{s}", force=(0.0, 0.0, rest[end.end, s])) for s in ("left", "right")}
    return [
        (", left wheel", (pushes["left"], other["right"]), {}, ()),
        (", right wheel", (pushes["right"], other["left"]), {}, ()),
    ]


def _car(case: CarCase, template: Template, end: End, car: Car, swept: Solved, tracks: dict[str, float]) -> list[Made]:
    ways = (
        [("", 0.0)]
        if case.lateral == 0
        else [(", turning left", abs(case.lateral)), (", turning right", -abs(case.lateral))]
    )
    out: list[Made] = []
    for way, across in ways:
        contacts = accelerated(car, case, case.longitudinal, across, tracks)
        own = {side: contacts[end.end, side] for side in ("left", "right")}
        notes = tuple(f"the {side} wheel is off the ground" for side, contact in own.items() if contact.lifted)
        out.append(
            (way, tuple(_contact(side, contact, case, template, end) for side, contact in own.items()), {}, notes)
        )
    return out


def _unsprung(car: Car, end: End) -> float:
    """Of one wheel [kg]."""
    both = car.unsprung_front_kg if end.end == "front" else car.unsprung_rear_kg
    if both is None:
        raise InputError(
            f"What goes up and down with the {end.end} wheels is not known. Give the unsprung mass at Layout, under Vehicle.",
            code="missing", fields=(f"car.unsprung_{end.end}_kg",),
        )  # fmt: skip
    return both / 2


def stopped(case: CarCase, end: End, sprung: float, motion_ratio: float, wheel_rate: float, preload: float) -> Caught:
    """A corner of so many sprung kg that falls onto its stop.

    Args:
        case: the landing: drop or speed.
        end: with its bump stop.
        sprung: mass of the corner [kg].
        motion_ratio: of the stop to the wheel.
        wheel_rate: of the spring at the wheel [N/mm].
        preload: of the spring at the wheel as the stop is touched [N].

    Raises:
        InputError: the stop has no rate.
    """
    stop = end.bump_stop
    if stop is None or (stop.rate_n_per_mm is None and not stop.table):
        raise InputError(
            "A landing needs a bump stop with its rate. Give it at Layout, under Stops.",
            code="missing",
            fields=("bump_stop.rate_n_per_mm",),
        )
    speed = case.speed_m_s if case.speed_m_s is not None else sqrt(2 * STANDARD_GRAVITY * (case.drop_mm or 0.0) / 1000)
    return caught(
        sprung, speed, _stop_of(stop), wheel_rate=wheel_rate, wheel_preload=preload, motion_ratio=motion_ratio,
    )  # fmt: skip


def _stop_of(stop: BumpStop) -> tuple[Callable[[float], float], Callable[[float], float]]:
    return tabulated(stop.table) if stop.table else polynomial(stop.rate_n_per_mm or 0.0, stop.rate3_n_per_mm3)


def _landing(
    case: CarCase, template: Template, end: End, car: Car, swept: Solved, tracks: dict[str, float]
) -> list[Made]:
    rest = standing_loads(car)
    if end.bump_stop is None:
        raise InputError(
            "A landing needs a bump stop. Give it at Layout, under Stops.", code="missing", fields=("bump_stop",)
        )
    both = car.unsprung_front_kg if end.end == "front" else car.unsprung_rear_kg
    sprung = max(rest[end.end, s] for s in ("left", "right")) / STANDARD_GRAVITY - (both or 0.0) / 2
    ratio = _stop_ratio(swept)
    rate, preload = _spring_at_stop(swept, end, car)
    found = stopped(case, end, sprung, ratio, rate, preload)
    crush = end.bump_stop.crush_mm if end.bump_stop else 0.0
    notes = [f"stop crushed {found.compression:.1f} mm with {found.stop_force:.0f} N"]
    if found.compression > crush:
        notes.append(f"that is past solid ({crush:g} mm): the real force is higher; take a longer or harder stop")
    sides = ("left", "right") if template.axle == "beam" else ("left",)
    pushes = tuple(Push(at=f"contact_{s}", force=(0.0, 0.0, found.wheel_force), rolling=True) for s in sides)
    return [("", pushes, {}, tuple(notes))]


def _stop_ratio(swept: Solved) -> float:
    """How fast the stop's gap closes with the wheel, near where it touches."""
    side = swept.left
    found = next(c for n, c in limit_measures(side.assembled, side.solved, side.rest).items() if "gap_mm" in c)
    travel, gap = swept.rows[0], found["gap_mm"]
    slope = -np.gradient(gap, travel)
    return float(np.interp(0.0, -gap, slope)) if np.isfinite(gap).all() else float(np.nanmax(slope))


def _spring_at_stop(swept: Solved, end: End, car: Car) -> tuple[float, float]:
    """Of the spring at the wheel as the stop touches: its rate [N/mm] and its force [N]; 0, 0 where no rate is known."""
    damper = end.damper
    if damper is None or damper.rate_n_per_mm is None:
        return 0.0, 0.0
    found = axle.damper_measures(swept.left.assembled, swept.left.solved)
    travel = swept.rows[0]
    high = _ends_of_travel(swept, end, travel)[0]
    ratio = float(np.interp(high, travel, found["motion_ratio"]))
    length = float(np.interp(high, travel, found["damper_length_mm"]))
    rest_length = float(np.interp(0.0, travel, found["damper_length_mm"]))
    push = _spring_at_ride(swept, end, car) + damper.rate_n_per_mm * (rest_length - length)
    return damper.rate_n_per_mm * ratio**2, push * ratio


def _spring_at_ride(swept: Solved, end: End, car: Car) -> float:
    """Force of one spring as the car stands, what is unsprung taken off [N]; the heavier wheel's."""
    rest = standing_loads(car)
    both = car.unsprung_front_kg if end.end == "front" else car.unsprung_rear_kg
    load = max(rest[end.end, s] for s in ("left", "right")) - (both or 0.0) / 2 * STANDARD_GRAVITY
    found = axle.damper_measures(swept.left.assembled, swept.left.solved)
    ratio = float(np.interp(0.0, swept.rows[0], found["motion_ratio"]))
    return load / ratio if abs(ratio) > 1e-6 else 0.0


def _strike(
    case: CarCase, template: Template, end: End, car: Car, swept: Solved, tracks: dict[str, float]
) -> list[Made]:
    rest = standing_loads(car)
    force = case.vertical * max(rest[end.end, side] for side in ("left", "right"))
    links = [
        link for link in swept.left.assembled.links
        if (case.link is None and _low(link)) or link.template_name == case.link
    ]  # fmt: skip
    if not links and case.link is None:
        return []  # nothing hangs low enough here to be struck
    if not links:
        raise InputError(
            f"There is no link “{case.link}” at the {end.end} to be struck.", code="unknown_link", fields=("link",)
        )
    out: list[Made] = []
    beam = template.axle == "beam"
    for link in links:
        # half of it at either end, into the bodies there; the link itself is bent by the whole
        pushes = tuple(
            Push(at=_place_of(swept, mark.at), force=(0.0, 0.0, force / 2), on=mark.body)
            for mark in (link.a, link.b)
            if mark.body != "ground"
        )
        name = link.name if beam else link.template_name
        out.append((f", {name}" if len(links) > 1 else "", pushes, {link.name: force}, ()))
    return out


def _low(link: LinkMarks) -> bool:
    """A lower link, by the trade's name for it; any other is struck by naming it in the case."""
    return "lower" in link.template_name


def _place_of(swept: Solved, at: tuple[float, float, float]) -> str:
    marks = swept.left.assembled.marks
    return next(name for name, mark in marks.items() if np.allclose(mark.at, at, atol=1e-9))


def _jack(case: CarCase, template: Template, end: End, car: Car, swept: Solved, tracks: dict[str, float]) -> list[Made]:
    rest = standing_loads(car)
    both = sum(rest[end.end, side] for side in ("left", "right"))
    lifted = case.vertical * (both if template.axle == "beam" else both / 2)
    push = Push(at=case.point, force=(0.0, 0.0, lifted), on=case.body)
    return [("", (push,), {}, ())]


def _snatch(
    case: CarCase, template: Template, end: End, car: Car, swept: Solved, tracks: dict[str, float]
) -> list[Made]:
    mass = _unsprung(car, end)
    force = (case.speed_m_s or 0.0) * sqrt((case.stiffness_n_per_mm or 0.0) * 1000 * mass)
    sides = ("left", "right") if template.axle == "beam" else ("left",)
    return [("", tuple(Push(at=f"wheel_centre_{s}", force=(0.0, 0.0, -force)) for s in sides), {}, ())]


# --- carrying --------------------------------------------------------------------------------------------------------------


def _carry(made: list[Carried], swept: Solved, end: End, car: Car, by_high: str) -> list[Carried]:
    """Balance every case at its position; those at one position share its solution."""
    places = sorted({one.position for one in made if one.fault is None})
    if not places:
        return made
    solved = resolved(swept, np.array(places).T)
    lanes = {place: i for i, place in enumerate(places)}
    ready = [one if one.fault is not None else _with_carrier(one, end, by_high) for one in made]
    # cases that stand alike are carried by one mechanism
    groups: dict[tuple[int, Carrier], list[int]] = {}
    for i, one in enumerate(ready):
        if one.fault is None:
            groups.setdefault((lanes[one.position], one.carrier), []).append(i)
    for (lane, carrier), members in groups.items():
        shares = carrier == "stop" and end.damper is not None and end.damper.rate_n_per_mm is not None
        own = _own_springs(solved, lane, end, car, swept) if shares else {}
        left: list[int] = []
        for i, found in zip(members, _forces(solved, lane, [ready[i] for i in members], carrier, own), strict=True):
            if isinstance(found, InputError):
                ready[i] = replace(ready[i], fault=found.message)
            elif carrier == "stop" and found.stops and max(found.stops.values()) < 0:
                left.append(i)  # the springs alone hold more than the load: the stop is left
            else:
                ready[i] = replace(ready[i], forces=found, fault=found.fault.message if found.fault else None)
        for i, found in zip(left, _forces(solved, lane, [ready[i] for i in left], "spring", {}), strict=True):
            assert not isinstance(found, InputError)
            notes = (*ready[i].notes, "the springs carry it without the stop")
            ready[i] = replace(
                ready[i],
                carrier="spring",
                notes=notes,
                forces=found,
                fault=found.fault.message if found.fault else None,
            )
    return ready


def _with_carrier(one: Carried, end: End, by_high: str) -> Carried:
    """What takes the load: the stop only where it is met before anything else ends the travel."""
    if one.carrier != "stop":
        return one
    if by_high != "the bump stop touches":
        said = f"{by_high} before the bump stop touches: the springs are taken to carry it all"
        return replace(one, carrier="spring", notes=(*one.notes, said))
    if end.damper is None or end.damper.rate_n_per_mm is None:
        return replace(one, notes=(*one.notes, "no spring rate is known: the stop is taken to carry it all"))
    return one


def _forces(
    solved: Solved, lane: int, group: list[Carried], carrier: Carrier, own: dict[str, float]
) -> list[Forces | InputError]:  # fmt: skip
    """Every case of a group; one that names no place of this end keeps its reason, the others stand."""
    cases = [Case(name=one.name, pushes=one.pushes) for one in group]
    if not cases:
        return []
    try:
        return list(forces(solved, lane, cases, carrier=carrier, spring_n=own))
    except InputError as error:
        if len(cases) == 1:
            return [error]
        return [found for one in group for found in _forces(solved, lane, [one], carrier, own)]


def _own_springs(solved: Solved, lane: int, end: End, car: Car, swept: Solved) -> dict[str, float]:
    """What every spring carries by itself at a position: its force as the car stands, and its rate."""
    assert end.damper
    assert end.damper.rate_n_per_mm
    ride = _spring_at_ride(swept, end, car)
    out = {}
    beam = solved.left.assembled.beam
    for label, side, near in (
        [("spring, left", solved.left, "left"), ("spring, right", solved.left, "right")] if beam
        else [("spring", solved.left, "left"), ("spring, right", solved.right or solved.left, "left")]
    ):  # fmt: skip
        now = axle.damper_measures(side.assembled, side.solved, near)["damper_length_mm"][lane]
        rest = axle.damper_measures(side.assembled, side.rest, near)["damper_length_mm"][0]
        out[label] = max(0.0, ride + end.damper.rate_n_per_mm * float(rest - now))
    return out
