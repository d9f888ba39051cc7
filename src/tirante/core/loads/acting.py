"""What each kind of case puts into an end: where the end stands, and the forces and moments that act on it there."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, field
from math import atan2, cos, degrees, radians, sin, sqrt

import numpy as np

from tirante.core.document.car import Car
from tirante.core.document.end import BumpStop, End
from tirante.core.document.load_cases import CarCase
from tirante.core.document.template import LinkJoint
from tirante.core.errors import InputError
from tirante.core.loads.body_roll import EndRoll, to_body
from tirante.core.loads.bump_stop import Caught, caught, compressed, polynomial, tabulated
from tirante.core.loads.travel import NOTHING, Swept, Way, spring_label
from tirante.core.loads.wheel_loads import Contact, accelerated, hit, standing_loads
from tirante.core.suspension import measures
from tirante.core.suspension.assemble import SIDES, STEER
from tirante.core.suspension.cycle import Solved
from tirante.core.suspension.statics import Push
from tirante.core.units import STANDARD_GRAVITY

ASSUMED_PRESSURE_KPA = 200.0  # of a tyre that has none given; common practice, no source
ASSUMED_FINAL_DRIVE = (
    3.5  # turns of the propeller shaft for one of the wheels, where it is not given; common practice, no source
)
ASSUMED_RIM = 0.65  # of the loaded radius, where no rim is given; common practice, no source
SAME = 1e-9


@dataclass(frozen=True, slots=True, kw_only=True)
class Acts:
    """A case, one way round: where the end stands and what acts there."""

    way: str  # what tells it from the case's other ways, ", left wheel"
    position: tuple[float, float, float]  # travel [mm], roll [deg], steer
    pushes: tuple[Push, ...]
    strikes: Mapping[str, float] = field(default_factory=dict)  # by link: square to it at mid-span [N]
    notes: tuple[str, ...] = ()
    refused: str | None = None  # why nothing of it can be relied on, though it could be carried


@dataclass(frozen=True, slots=True, kw_only=True)
class Asked:
    """What the cases of an end are made from."""

    end: End
    car: Car
    swept: Swept
    rolls: Mapping[str, EndRoll]  # of both ends of the car, as far as the job has them
    lock: float  # furthest steer [mm or deg]
    at_ride: Callable[[], Mapping[str, float]]  # force of every spring as the car stands [N]

    @property
    def rest(self) -> dict[str, float]:
        """What this end's wheels carry as the car stands [N].

        Raises:
            InputError: it is not known.
        """
        found = standing_loads(self.car)
        return {side: found[self.end.end, side] for side in SIDES}

    @property
    def beam(self) -> bool:
        """Whether both wheels stand on one axle."""
        return self.swept.beam


def acting(case: CarCase, asked: Asked) -> list[Acts]:
    """A case each way round.

    Args:
        case: of the load set.
        asked: the end and its car.

    Raises:
        InputError: what the case asks for is not known.
    """
    return list(_KINDS[case.kind](case, asked))


# --- where it stands ------------------------------------------------------------------------------------------------------


def _rise(case: CarCase, asked: Asked, way: Way) -> float:
    """How far the wheels that move stand above ride height [mm]."""
    if case.travel_mm is not None:
        return case.travel_mm
    found = asked.swept.ends[way]
    return {"ride": 0.0, "stop": found.bump, "droop": found.droop}[case.at]


def _place(case: CarCase, asked: Asked, rise: float, way: Way) -> tuple[float, float, float]:
    travel, roll = asked.swept.position(rise, way)
    return travel, roll if case.roll_deg is None else case.roll_deg, case.steer


def _name(way: Way) -> str:
    return "" if way == "both" else f", {way} wheel"


def _ways(case: CarCase) -> tuple[Way, ...]:
    return ("both",) if case.wheels == "both" else ("left", "right")


# --- wheels ---------------------------------------------------------------------------------------------------------------


def _contact(side: str, contact: Contact, case: CarCase, asked: Asked) -> Push:
    """The ground's force: all of it at the contact when the torque is taken by the wheel's own body, else rolling."""
    return Push(at=f"contact_{side}", force=contact.force, rolling=not _taken_there(case, asked))


def _taken_there(case: CarCase, asked: Asked) -> bool:
    """Whether the torque of braking or driving is taken by the wheel's own body."""
    vehicle = asked.end.vehicle
    assert vehicle
    if case.torque == "brake":
        return vehicle.brakes == "outboard"
    if case.torque == "drive":
        return vehicle.drive == "upright" or (vehicle.drive is None and asked.beam)
    return False


def _driven(case: CarCase, asked: Asked) -> bool:
    vehicle = asked.end.vehicle
    return vehicle is not None and (case.torque != "drive" or vehicle.drive_share > 0)


def _propeller(case: CarCase, asked: Asked, along: float) -> tuple[list[tuple[str, tuple[Push, ...]]], tuple[str, ...]]:
    """What the propeller shaft puts into a live axle beside the wheels: its torque about the car's length, either way round.

    The body feels it the other way round through the engine's mounts, so that all of it goes through this end's suspension.

    Args:
        case: that drives.
        asked: the end and its car.
        along: push of both wheels [N].
    """
    if case.torque != "drive" or not (asked.beam and _taken_there(case, asked)) or abs(along) < SAME:
        return [("", ())], ()
    ratio = asked.car.final_drive_ratio
    notes: tuple[str, ...] = ()
    if ratio is None:
        notes = (f"no final drive ratio is given: taken as {ASSUMED_FINAL_DRIVE:g}",)
    torque = abs(along) * asked.end.wheel.loaded_radius_mm / (ratio or ASSUMED_FINAL_DRIVE)
    body = asked.swept.ride.left.assembled.axle_body
    return [
        (f", propeller shaft turning {hand}", (Push(on=body, moment=(sign * torque, 0.0, 0.0)),))
        for hand, sign in (("right", 1.0), ("left", -1.0))
    ], notes


def _wheel(case: CarCase, asked: Asked) -> Iterator[Acts]:
    """One wheel (or both) hit: factors of its standing load. The other stands at ride height on its own load meanwhile."""
    if not _driven(case, asked):
        return
    rest = asked.rest
    hits = {side: hit(rest[side], case, side) for side in SIDES}
    for way in _ways(case):
        rise = _rise(case, asked, way)
        notes: list[str] = []
        refused = None
        if case.at == "stop" and case.travel_mm is None and asked.end.bump_stop:
            rise, told, refused = _crushed(case, asked, way, rise, {s: hits[s].force[2] for s in SIDES})
            notes += told
        pushes = tuple(
            _contact(side, hits[side], case, asked)
            if way in ("both", side)
            else Push(at=f"contact_{side}", force=(0.0, 0.0, rest[side]), rolling=True)
            for side in SIDES
        )
        along = sum(hits[side].force[0] for side in SIDES if way in ("both", side))
        shafts, told_of_it = _propeller(case, asked, along)
        for hand, couple in shafts:
            yield Acts(
                way=f"{_name(way)}{hand}", pushes=(*pushes, *couple), notes=(*notes, *told_of_it), refused=refused,
                position=_place(case, asked, rise, way),
            )  # fmt: skip


def _car(case: CarCase, asked: Asked) -> Iterator[Acts]:
    """The whole car accelerated; in a corner its body leans, and roll and steer turn round with it."""
    if not _driven(case, asked) and not case.lateral:
        return
    ways = (
        [("", 0.0)]
        if case.lateral == 0
        else [(", turning left", abs(case.lateral)), (", turning right", -abs(case.lateral))]
    )
    name = asked.end.end
    for way, across in ways:
        sign = -1.0 if across < 0 else 1.0
        contacts, leaning = accelerated(asked.car, case, case.longitudinal, across, asked.rolls)
        notes = [f"the {side} wheel is off the ground" for side in SIDES if contacts[name, side].lifted]
        roll = sign * case.roll_deg if case.roll_deg is not None else 0.0
        if leaning:
            notes += leaning.notes
            if case.roll_deg is None:
                roll = sign * degrees(leaning.roll[name])
            shares = ", ".join(f"{end} {leaning.transfer[end]:.0f} N" for end in ("front", "rear"))
            notes.append(f"goes from the inner wheels on to the outer ones: {shares}")
        pushes = tuple(
            _contact(side, Contact(force=to_body(contacts[name, side].force, radians(roll))), case, asked)
            for side in SIDES
        )
        along = sum(contacts[name, side].force[0] for side in SIDES)
        shafts, told = _propeller(case, asked, along)
        rise = _rise(case, asked, "both")
        for hand, couple in shafts:
            yield Acts(
                way=f"{way}{hand}", position=(asked.swept.position(rise, "both")[0], roll, sign * case.steer),
                pushes=(*pushes, *couple), notes=(*notes, *told),
            )  # fmt: skip


# --- stops ----------------------------------------------------------------------------------------------------------------


def stop_curves(stop: BumpStop) -> tuple[Callable[[float], float], Callable[[float], float]] | None:
    """A stop's force and energy by its crush; None where no rate is given."""
    if stop.table:
        return tabulated(stop.table)
    return None if stop.rate_n_per_mm is None else polynomial(stop.rate_n_per_mm, stop.rate3_n_per_mm3)


def _at_touch(asked: Asked, way: Way, side: str, rise: float) -> tuple[float, float, float]:
    """Where a wheel's stop touches: its ratio, and the springs' rate and force at the wheel [N/mm, N]; 0, 0 where no rate is known."""
    along = asked.swept.along(way, side)
    if not asked.end.rated:
        return along.ratio, 0.0, 0.0
    rate = preload = 0.0
    for name, spring in asked.end.springs.items():
        at_ride = asked.at_ride().get(spring_label(name, side, asked.beam), 0.0)
        one = along.spring(name, rise, spring.rate_n_per_mm or 0.0, at_ride)
        rate, preload = rate + one[0], preload + one[1]
    return along.ratio, rate, preload


def past_solid(
    stop: BumpStop, needed: float, energy: Callable[[float], float], between: float, all_of_it: float
) -> str:
    """Why a stop that would have to be crushed further than it can be is no answer.

    Args:
        stop: with its crush to solid.
        needed: crush [mm].
        energy: of the stop by its crush [N·mm].
        between: what the spring takes up to solid [N·mm].
        all_of_it: what stop and spring would have to take [N·mm].
    """
    taken = energy(stop.crush_mm) + between
    return (
        f"The stop is solid after {stop.crush_mm:g} mm: up to there it and the spring take {taken / 1000:.0f} J of {all_of_it / 1000:.0f} J, and "
        f"{needed:.0f} mm of crush would be wanted. What is past that is metal on metal and is not worked out. Take a longer or a harder stop, or more "
        "spring."
    )


def _crushed(
    case: CarCase, asked: Asked, way: Way, rise: float, loads: Mapping[str, float]
) -> tuple[float, list[str], str | None]:
    """How far beyond touching the stop is crushed by a wheel's load, by its own curve and the spring's: rise, notes, why it is refused."""
    stop = asked.end.bump_stop
    assert stop
    if asked.swept.ends[way].bump_by != "the bump stop touches":
        said = f"{asked.swept.ends[way].bump_by} before the bump stop touches: it takes what the springs do not"
        return rise, [said], None
    curves = stop_curves(stop)
    if curves is None:
        return rise, ["the stop has no rate: taken where it touches, and whether it goes solid is not known"], None
    force, energy = curves
    most = 0.0
    notes: list[str] = []
    refused = None
    for side in SIDES:
        if way not in ("both", side):
            continue
        ratio, rate, preload = _at_touch(asked, way, side, rise)
        x = compressed(loads[side], force, wheel_rate=rate, wheel_preload=preload, motion_ratio=ratio)
        most = max(most, x)
        crush = ratio * x
        if crush > stop.crush_mm * (1 + 1e-9) and refused is None:
            solid = stop.crush_mm / ratio
            spring = preload * solid + rate * solid**2 / 2
            whole = energy(crush) + preload * x + rate * x**2 / 2
            refused = past_solid(stop, crush, energy, spring, whole)
    refused = refused or _blocked(asked, way, rise, most)
    return rise + (0.0 if refused else most), notes, refused


def _blocked(asked: Asked, way: Way, rise: float, further: float) -> str | None:
    """Why the stop cannot be crushed as far as a load asks: the damper closes, or the links do not reach.

    Args:
        asked: the end and its car.
        way: which wheels move.
        rise: where the stop touches [mm].
        further: wheel travel after that [mm].
    """
    ends = asked.swept.ends[way]
    if ends.closed is not None and rise + further > ends.closed + SAME:
        return (
            f"The damper closes at {ends.closed:+.1f} mm, and the stop, met at {rise:+.1f} mm, would have to let the wheel on to {rise + further:+.1f} mm: the "
            "damper’s end takes the rest, metal on metal, which is not worked out. Take a longer damper, or a stop that is met sooner or is harder."
        )
    if rise + further > ends.reached + SAME:
        return (
            f"The stop lets the wheel on to {rise + further:+.1f} mm, and the end can be put together up to {ends.reached:+.1f} mm only. Take a stop that is met "
            "sooner or is harder."
        )
    return None


def _unsprung(asked: Asked) -> float:
    """Of one wheel [kg]."""
    name = asked.end.end
    both = asked.car.unsprung_front_kg if name == "front" else asked.car.unsprung_rear_kg
    if both is None:
        raise InputError(
            f"What goes up and down with the {name} wheels is not known. Give the unsprung mass at Layout, under Vehicle.",
            code="missing", fields=(f"car.unsprung_{name}_kg",),
        )  # fmt: skip
    return both / 2


def _landing(case: CarCase, asked: Asked) -> Iterator[Acts]:
    """A wheel, or both, falls onto its stop with the sprung mass of its corner."""
    stop = asked.end.bump_stop
    if stop is None:
        raise InputError(
            "A landing needs a bump stop. Give it at Layout, under Stops.", code="missing", fields=("bump_stop",)
        )
    curves = stop_curves(stop)
    if curves is None:
        raise InputError(
            "A landing needs a bump stop with its rate. Give it at Layout, under Stops.",
            code="missing",
            fields=("bump_stop.rate_n_per_mm",),
        )
    name = asked.end.end
    both = (asked.car.unsprung_front_kg if name == "front" else asked.car.unsprung_rear_kg) or 0.0
    speed = case.speed_m_s if case.speed_m_s is not None else sqrt(2 * STANDARD_GRAVITY * (case.drop_mm or 0.0) / 1000)
    rest = asked.rest
    for way in _ways(case):
        rise = _rise(case, asked, way)
        found: dict[str, Caught] = {}
        notes: list[str] = []
        refused = None
        if asked.swept.ends[way].bump_by != "the bump stop touches" and case.travel_mm is None:
            raise InputError(
                f"{asked.swept.ends[way].bump_by[0].upper()}{asked.swept.ends[way].bump_by[1:]} before the bump stop touches: nothing takes up a landing. "
                "Look at stop and damper at Layout.",
                code="not_stopped", fields=("bump_stop",),
            )  # fmt: skip
        for side in SIDES:
            if way not in ("both", side):
                continue
            ratio, rate, preload = _at_touch(asked, way, side, rise)
            mass = rest[side] / STANDARD_GRAVITY - both / 2
            one = found[side] = caught(mass, speed, curves, wheel_rate=rate, wheel_preload=preload, motion_ratio=ratio)
            notes.append(f"{side} stop crushed {one.compression:.1f} mm with {one.stop_force:.0f} N")
            if one.compression > stop.crush_mm and refused is None:
                solid = stop.crush_mm / ratio
                spring = preload * solid + rate * solid**2 / 2
                whole = mass * speed**2 / 2 * 1000 + mass * STANDARD_GRAVITY * solid
                refused = past_solid(stop, one.compression, curves[1], spring, whole)
        further = max(one.wheel_travel for one in found.values())
        refused = refused or _blocked(asked, way, rise, further)
        further = 0.0 if refused else further
        pushes = tuple(
            Push(
                at=f"contact_{side}",
                force=(0.0, 0.0, found[side].wheel_force if side in found else rest[side]),
                rolling=True,
            )
            for side in SIDES
        )
        yield Acts(
            way=_name(way),
            pushes=pushes,
            notes=tuple(notes),
            refused=refused,
            position=_place(case, asked, rise + further, way),
        )


def _snatch(case: CarCase, asked: Asked) -> Iterator[Acts]:
    """A wheel, or both, drops onto whatever ends the droop."""
    force = (case.speed_m_s or 0.0) * sqrt((case.stiffness_n_per_mm or 0.0) * 1000 * _unsprung(asked))
    for way in _ways(case):
        rest = {} if way == "both" else asked.rest
        pushes = tuple(
            Push(at=f"wheel_centre_{side}", force=(0.0, 0.0, -force))
            if way in ("both", side)
            else Push(at=f"contact_{side}", force=(0.0, 0.0, rest[side]), rolling=True)
            for side in SIDES
        )
        by = asked.swept.ends[way].droop_by if case.travel_mm is None else "where the wheel stands"
        if by == NOTHING:
            raise InputError(
                "Nothing at this end stops the droop, so there is nothing that a snatch goes through. Give a strap, a damper with its open length, "
                "or a slider with its run at Layout.", code="missing", fields=("strap", "damper"),
            )  # fmt: skip
        yield Acts(
            way=_name(way), pushes=pushes, notes=(by,), position=_place(case, asked, _rise(case, asked, way), way)
        )


# --- the car on something ---------------------------------------------------------------------------------------------------


def _strike(case: CarCase, asked: Asked) -> Iterator[Acts]:
    """The car comes down on a link: factors of what stands on both wheels of the end."""
    force = case.vertical * sum(asked.rest.values())
    assembled = asked.swept.ride.left.assembled
    low = {joint.name for joint in assembled.template.joints if isinstance(joint, LinkJoint) and joint.low}
    links = [
        link for link in assembled.links
        if (link.template_name in low if case.link is None else link.template_name == case.link)
    ]  # fmt: skip
    if not links and case.link is None:
        return  # nothing hangs low enough here to be struck
    if not links:
        raise InputError(
            f"There is no link “{case.link}” at the {asked.end.end} to be struck.",
            code="unknown_link",
            fields=("link",),
        )
    for link in links:
        for mirror in (False, True) if not asked.beam else (False,):
            # half of it at either end, into the bodies there; the link itself is bent by the whole
            pushes = tuple(
                Push(
                    at=_place_of(asked, mark.at, mirror),
                    force=(0.0, 0.0, force / 2),
                    on=f"{mark.body}_right" if mirror else mark.body,
                )
                for mark in (link.a, link.b)
                if mark.body != "ground"
            )
            name = f"{link.name}, right" if mirror else link.name
            told = name if len(links) > 1 or mirror else ""
            yield Acts(
                way=f", {told}" if told else "", pushes=pushes, strikes={name: force}, position=_place(case, asked, _rise(case, asked, "both"), "both")
            )  # fmt: skip


def _place_of(asked: Asked, at: tuple[float, float, float], mirror: bool) -> str:
    marks = asked.swept.ride.left.assembled.marks
    name = next(name for name, mark in marks.items() if np.allclose(mark.at, at, atol=1e-9))
    return f"{name.removesuffix('_left')}_right" if mirror else name


def _jack(case: CarCase, asked: Asked) -> Iterator[Acts]:
    """An end of the car on a jack or stand: at the point named, or at the lowest joint of what carries the wheel, on either side."""
    rest = asked.rest
    lifted = case.vertical * (sum(rest.values()) if asked.beam else sum(rest.values()) / 2)
    point = case.point or _lowest_joint(asked)
    one_sided = point.endswith(("_left", "_right"))
    known = asked.swept.ride.left.assembled.marks
    twice = not one_sided and (not asked.beam or f"{point}_left" in known or point in ("wheel_centre", "contact"))
    for at in [f"{point}_{side}" for side in SIDES] if twice else [point]:
        body = case.body
        if body and at.endswith("_right") and not body.endswith("_right") and not asked.beam:
            body = f"{body}_right"
        told = f"under the {at.replace('_', ' ')}"
        way = f", {told}" if twice else ""
        yield Acts(
            way=way, pushes=(Push(at=at, force=(0.0, 0.0, lifted), on=body),), notes=() if twice else (told,),
            position=_place(case, asked, _rise(case, asked, "both"), "both"),
        )  # fmt: skip


def _lowest_joint(asked: Asked) -> str:
    """The lowest point of a joint of the wheel's own body (of a beam, the axle) that does not steer; the wheel's centre where there is none."""
    assembled = asked.swept.ride.left.assembled
    body = assembled.axle_body if asked.beam else assembled.wheel_centre.body
    steering = {link.template_name for link in assembled.links if STEER in (link.a.drive, link.b.drive)}
    heights: dict[str, float] = {}
    for joint in assembled.template.joints:
        if joint.name in steering or body not in joint.bodies_tied:
            continue
        places = [place for place in joint.places if place.body == body] or joint.places[:1]
        heights |= {
            place.point: asked.end.points[place.point][2] for place in places if place.point in asked.end.points
        }
    return min(heights, key=lambda name: heights[name]) if heights else "wheel_centre"


# --- steering ----------------------------------------------------------------------------------------------------------------


def parking_moment(load: float, friction: float, pressure_kpa: float) -> float:
    """Moment that turns a tyre on the spot on dry ground [N·mm]: μ W^1.5 / (3 √p).

    Args:
        load: on the wheel [N].
        friction: of the ground.
        pressure_kpa: of the tyre.

    Source:
        Gough, from memory.
    """
    return friction * load * sqrt(load) / (3 * sqrt(pressure_kpa * 1000.0)) * 1000.0


def _park(case: CarCase, asked: Asked) -> Iterator[Acts]:
    """The steering turned at a standstill: both tyres hold against it."""
    if not asked.swept.ride.left.assembled.steers or not asked.lock:  # or what would steer it stands still
        return
    rest = asked.rest
    given = asked.car.tyre_pressure_front_kpa if asked.end.end == "front" else asked.car.tyre_pressure_rear_kpa
    pressure = given or ASSUMED_PRESSURE_KPA
    notes = ["what the driver or the assist can push is not known: the tyres’ whole moment counts"]
    if given is None:
        notes.append(f"no tyre pressure is given: taken as {ASSUMED_PRESSURE_KPA:g} kPa")
    for way, sign in ((", turned left", -1.0), (", turned right", 1.0)):
        pushes = tuple(
            Push(
                at=f"contact_{side}", force=(0.0, 0.0, case.vertical * rest[side]),
                moment=(0.0, 0.0, sign * parking_moment(case.vertical * rest[side], case.friction, pressure)),
            )
            for side in SIDES
        )  # fmt: skip
        yield Acts(
            way=way, pushes=pushes, notes=tuple(notes), position=_place(case, asked, _rise(case, asked, "both"), "both")
        )


def _jam(case: CarCase, asked: Asked) -> Iterator[Acts]:
    """A wheel at full lock meets a kerb with the front of its rim, from either side; the other wheel stands."""
    if not asked.swept.ride.left.assembled.steers or not asked.lock:  # or what would steer it stands still
        return
    rest = asked.rest
    rim = asked.end.wheel.rim
    arm = rim.barrel_radius_mm if rim else ASSUMED_RIM * asked.end.wheel.loaded_radius_mm
    notes = [] if rim else [f"no rim is given: taken {arm:.0f} mm ahead of the wheel’s middle"]
    locks = (case.steer,) if case.steer else (asked.lock, -asked.lock)
    done = asked.swept.at_locks(locks)
    for lane, lock in enumerate(locks):
        for side in SIDES:
            heading = _heading(asked, done, side, lane)
            for sense, sign in (("from outside", -1.0), ("from inside", 1.0)):
                out = 1.0 if side == "left" else -1.0
                force = (0.0, sign * out * case.lateral * rest[side], 0.0)
                lever = (arm * cos(heading), arm * sin(heading), 0.0)
                pushes = (
                    Push(
                        at=f"wheel_centre_{side}",
                        force=force,
                        moment=(0.0, 0.0, lever[0] * force[1] - lever[1] * force[0]),
                    ),
                    *(Push(at=f"contact_{one}", force=(0.0, 0.0, rest[one]), rolling=True) for one in SIDES),
                )
                turned = "left" if lock > 0 else "right"
                yield Acts(
                    way=f", {side} wheel turned {turned}, met {sense}", position=(0.0, case.roll_deg or 0.0, lock), pushes=pushes,
                    notes=tuple(notes),
                )  # fmt: skip


def _heading(asked: Asked, done: Solved, side: str, lane: int) -> float:
    """Which way a wheel points at a position, from straight ahead to the left [rad]."""
    own = done.left if asked.beam or side == "left" else done.right or done.left
    near = -1.0 if asked.beam and side == "right" else 1.0
    state = measures.wheel_at(own.assembled, own.solved, near)
    x, y = float(state.spin[0, lane]), float(state.spin[1, lane])
    if near < 0:  # outboard is to the right
        x, y = -x, -y
    ahead = atan2(-x, y)  # the axle's own turn: spin to the left, ahead is square to it
    return -ahead if side == "right" and not asked.beam else ahead


_KINDS: dict[str, Callable[[CarCase, Asked], Iterator[Acts]]] = {
    "wheel": _wheel, "car": _car, "landing": _landing, "strike": _strike, "jack": _jack, "snatch": _snatch, "park": _park, "jam": _jam,
}  # fmt: skip
