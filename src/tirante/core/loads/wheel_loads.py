"""What stands on each wheel, and what a case puts into its contact patch.

Load transfer is that of a rigid car: W a h / wheelbase along it, each axle's own share of W a h over its track across it
(how the ends' roll stiffness shares it is left out, and said).

Source:
    Equilibrium of the whole car (derived; docs/methods.md, Wheel loads).
"""

from __future__ import annotations

from dataclasses import dataclass

from tirante.core.document.car import Car
from tirante.core.document.load_cases import CarCase
from tirante.core.errors import InputError
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


def accelerated(car: Car, case: CarCase, ahead: float, across: float, tracks: dict[str, float]) -> dict[Wheel, Contact]:
    """Every wheel while the car is accelerated by so many g, ahead and to the left, each wheel's rest load × `vertical`.

    Args:
        car: its masses and height of mass.
        case: gives vertical factor and what drives or brakes.
        ahead: g, speeding up positive.
        across: g, to the left positive.
        tracks: by end [mm]; an end without one takes no transfer across.
    """
    rest = standing_loads(car)
    weight = sum(rest.values())
    along = weight * ahead * car.cg_height_mm / car.wheelbase_mm  # off the front, on to the rear
    loads: dict[Wheel, float] = {}
    for end, side in WHEELS:
        axle = rest[end, "left"] + rest[end, "right"]
        track = tracks.get(end)
        sideways = axle * across * car.cg_height_mm / track if track else 0.0  # on to the right
        loads[end, side] = (
            case.vertical * rest[end, side] + (along / 2 if end == "rear" else -along / 2)
            + (sideways if side == "right" else -sideways)
        )  # fmt: skip
    carried = {wheel: max(0.0, load) for wheel, load in loads.items()}
    total = sum(carried.values()) or 1.0
    front = car.drive_front_share if case.torque == "drive" else car.brake_front_share
    out: dict[Wheel, Contact] = {}
    for wheel, load in carried.items():
        end = wheel[0]
        share = front if end == "front" else 1 - front
        lifted = loads[wheel] < 0
        push = weight * ahead * share / 2
        other = carried[end, "right" if wheel[1] == "left" else "left"]
        if load == 0.0:  # the wheel on the ground takes its neighbour's
            push = 0.0
        elif other == 0.0:
            push *= 2
        out[wheel] = Contact(force=(push, weight * across * load / total, load), lifted=lifted)
    return out


def hit(rest: float, case: CarCase, side: str) -> Contact:
    """One wheel: factors × its standing load, lateral to the middle of the car.

    Args:
        rest: load of the wheel as the car stands [N].
        case: its factors.
        side: "left" or "right".
    """
    inward = -1.0 if side == "left" else 1.0
    return Contact(force=(case.longitudinal * rest, inward * case.lateral * rest, case.vertical * rest))
