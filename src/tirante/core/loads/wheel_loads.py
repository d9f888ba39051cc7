"""What stands on each wheel, and what a case puts into its contact patch.

Load transfer is W a h / wheelbase along the car; across it each end's share by roll stiffness and roll-centre height (body_roll).

Source:
    Equilibrium of the whole car (derived; docs/methods.md, Wheel loads).
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from tirante.core.document.car import Car
from tirante.core.document.load_cases import CarCase
from tirante.core.errors import InputError
from tirante.core.loads.body_roll import EndRoll, Lean, lean
from tirante.core.units import STANDARD_GRAVITY

Wheel = tuple[str, str]  # end, side
WHEELS: tuple[Wheel, ...] = (("front", "left"), ("front", "right"), ("rear", "left"), ("rear", "right"))


@dataclass(frozen=True, slots=True, kw_only=True)
class Contact:
    """Force of the ground on a wheel in car axes [N]."""

    force: tuple[float, float, float]
    lifted: bool = False  # it would pull on the ground: it is in the air


def standing_loads(car: Car) -> dict[Wheel, float]:
    """Load of every wheel as the car stands [N].

    Raises:
        InputError: neither corner weights nor mass and place of the mass are known; the mass stands outside the wheelbase.
    """
    if car.corners is not None:
        c = car.corners
        masses = (c.front_left_kg, c.front_right_kg, c.rear_left_kg, c.rear_right_kg)
        return {wheel: mass * STANDARD_GRAVITY for wheel, mass in zip(WHEELS, masses, strict=True)}
    if car.mass_kg is None or car.cg_behind_front_mm is None:
        raise InputError(
            "What the wheels carry is not known. Give the corner weights, or the car’s mass and how far behind the front axle it stands.",
            code="missing", fields=("car.corners" if car.mass_kg is None else "car.cg_behind_front_mm",),
        )  # fmt: skip
    share = 1 - car.cg_behind_front_mm / car.wheelbase_mm
    if not 0 < share < 1:
        raise InputError(
            f"The mass stands {car.cg_behind_front_mm:g} mm behind the front axle, outside the wheelbase of {car.wheelbase_mm:g} mm. "
            "Give a place between the axles.",
            code="out_of_range", fields=("car.cg_behind_front_mm",), value=car.cg_behind_front_mm, limits=(0, car.wheelbase_mm),
        )  # fmt: skip
    weight = car.mass_kg * STANDARD_GRAVITY
    return {(end, side): weight * (share if end == "front" else 1 - share) / 2 for end, side in WHEELS}


def accelerated(
    car: Car, case: CarCase, ahead: float, across: float, ends: Mapping[str, EndRoll]
) -> tuple[dict[Wheel, Contact], Lean | None]:
    """Every wheel while the car is accelerated by so many g, ahead and to the left, each wheel's rest load × `vertical`.

    Args:
        car: its masses and height of mass.
        case: gives vertical factor, what drives or brakes, and the body's roll where it is typed.
        ahead: g, speeding up positive.
        across: g, to the left positive.
        ends: both ends as the body leans on them.

    Returns:
        The contacts, and how the body leans (None when it does not).

    Raises:
        InputError: what the lean asks for is not known; the car tips over.
    """
    rest = standing_loads(car)
    weight = sum(rest.values())
    along = weight * ahead * car.cg_height_mm / car.wheelbase_mm  # off the front, on to the rear
    loads = {
        (end, side): case.vertical * rest[end, side] + (along / 2 if end == "rear" else -along / 2)
        for end, side in WHEELS
    }
    leaning = None
    if across:
        inner = "left" if across > 0 else "right"
        before = {end: max(0.0, loads[end, inner]) for end in ("front", "rear")}
        leaning = lean(car, rest, before, ends, abs(across))
        for end, side in WHEELS:
            loads[end, side] += leaning.transfer[end] * (-1.0 if side == inner else 1.0)
    carried = {wheel: max(0.0, load) for wheel, load in loads.items()}
    total = sum(carried.values()) or 1.0
    front = car.drive_front_share if case.torque == "drive" else car.brake_front_share
    out: dict[Wheel, Contact] = {}
    for wheel, load in carried.items():
        end = wheel[0]
        share = front if end == "front" else 1 - front
        lifted = loads[wheel] < 1e-6 * weight
        push = weight * ahead * share / 2
        other = carried[end, "right" if wheel[1] == "left" else "left"]
        if load == 0.0:  # the wheel on the ground takes its neighbour's
            push = 0.0
        elif other == 0.0:
            push *= 2
        out[wheel] = Contact(force=(push, weight * across * load / total, load), lifted=lifted)
    return out, leaning


def hit(rest: float, case: CarCase, side: str) -> Contact:
    """One wheel: factors × its standing load, lateral to the middle of the car.

    Args:
        rest: load of the wheel as the car stands [N].
        case: its factors.
        side: "left" or "right".
    """
    inward = -1.0 if side == "left" else 1.0
    return Contact(force=(case.longitudinal * rest, inward * case.lateral * rest, case.vertical * rest))
