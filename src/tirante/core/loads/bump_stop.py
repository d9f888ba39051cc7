"""A corner caught by its bump stop: how far the stop is crushed, and with what force.

Source:
    Energy: m v²/2 + m g x = ∫ F dx, F of stop and wheel spring; for a linear stop alone F = mg (1 + √(1 + k v²/(m g²)))
    (derived; docs/methods.md, Bump stop).
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from itertools import pairwise
from math import isfinite, sqrt

from tirante.core.errors import InputError
from tirante.core.units import STANDARD_GRAVITY

FURTHEST = 1e5  # mm


@dataclass(frozen=True, slots=True, kw_only=True)
class Caught:
    """The moment the corner stands still."""

    compression: float  # of the stop [mm]
    stop_force: float  # [N]
    wheel_force: float  # at the wheel: stop and spring together [N]
    wheel_travel: float  # after touching [mm]


def polynomial(k1: float, k3: float) -> tuple[Callable[[float], float], Callable[[float], float]]:
    """Force and energy of a stop F = k1 x + k3 x³ [N, N·mm]."""
    return lambda x: k1 * x + k3 * x**3, lambda x: k1 * x * x / 2 + k3 * x**4 / 4


def tabulated(table: Sequence[tuple[float, float]]) -> tuple[Callable[[float], float], Callable[[float], float]]:
    """Force and energy of a stop given by points of compression [mm] and force [N], straight between; on along the last slope.

    Raises:
        InputError: compressions that do not rise, or forces that fall.
    """
    rows = sorted(table)
    if not rows or rows[0][0] > 0:
        rows = [(0.0, 0.0), *rows]
    if len(rows) < 2 or any(b[0] <= a[0] or b[1] < a[1] for a, b in pairwise(rows)):
        raise InputError(
            "The stop's table must rise: each compression more than the one before, no force less.",
            code="not_rising", fields=("table",),
        )  # fmt: skip
    (xa, fa), (xb, fb) = rows[-2:]
    slope = (fb - fa) / (xb - xa)

    def force(x: float) -> float:
        for (x1, f1), (x2, f2) in pairwise(rows):
            if x <= x2:
                return f1 + (f2 - f1) * (x - x1) / (x2 - x1)
        return fb + slope * (x - xb)

    def energy(x: float) -> float:
        total = 0.0
        for (x1, f1), (x2, f2) in pairwise(rows):
            if x <= x1:
                return total
            end = min(x, x2)
            here = f1 + (f2 - f1) * (end - x1) / (x2 - x1)
            total += (f1 + here) / 2 * (end - x1)
        return total + (x - xb) * (fb + force(x)) / 2 if x > xb else total

    return force, energy


def caught(
    mass: float, speed: float, stop: tuple[Callable[[float], float], Callable[[float], float]], *,
    wheel_rate: float = 0.0, wheel_preload: float = 0.0, motion_ratio: float = 1.0,
) -> Caught:  # fmt: skip
    """Where a mass that meets its stop comes to rest.

    Args:
        mass: on this corner [kg].
        speed: of the wheel against the body as the stop touches [m/s].
        stop: force and energy of the stop's compression.
        wheel_rate: of the spring, at the wheel [N/mm].
        wheel_preload: of the spring at the wheel as the stop touches [N].
        motion_ratio: stop travel per wheel travel.

    Raises:
        InputError: nothing stops it.
    """
    force, energy = stop
    kinetic = mass * speed * speed / 2 * 1000.0  # N·mm
    weight = mass * STANDARD_GRAVITY

    def left(x: float) -> float:
        return energy(motion_ratio * x) + wheel_preload * x + wheel_rate * x * x / 2 - kinetic - weight * x

    high = 1.0
    while left(high) <= 0.0:
        high *= 2
        if high > FURTHEST or not isfinite(left(high)):
            raise InputError(
                "Nothing stops it: the stop and the spring take up less than it falls with. Give the stop a rate.",
                code="not_stopped", fields=("k1_n_mm",),
            )  # fmt: skip
    low = 0.0
    for _ in range(200):  # left falls below nought first, then rises for good: the last crossing is where it stands
        middle = (low + high) / 2
        if left(middle) > 0.0:
            high = middle
        else:
            low = middle
        if high - low <= 1e-15 * high:
            break
    x = (low + high) / 2
    push = force(motion_ratio * x)
    return Caught(
        compression=motion_ratio * x, stop_force=push, wheel_force=motion_ratio * push + wheel_preload + wheel_rate * x,
        wheel_travel=x,
    )  # fmt: skip


def compressed(
    load: float, force: Callable[[float], float], *, wheel_rate: float = 0.0, wheel_preload: float = 0.0, motion_ratio: float = 1.0
) -> float:  # fmt: skip
    """How far a wheel's load crushes its stop, the spring helping: wheel travel after touching [mm]; 0 where the spring holds it alone.

    Args:
        load: on the wheel [N].
        force: of the stop by its crush [N].
        wheel_rate: of the spring, at the wheel [N/mm].
        wheel_preload: of the spring at the wheel as the stop touches [N].
        motion_ratio: stop travel per wheel travel.

    Raises:
        InputError: nothing holds it.
    """

    def short(x: float) -> float:
        return motion_ratio * force(motion_ratio * x) + wheel_preload + wheel_rate * x - load

    if short(0.0) >= 0.0:
        return 0.0
    high = 1.0
    while short(high) < 0.0:
        high *= 2
        if high > FURTHEST:
            raise InputError(
                "The stop gives way without end under this load. Give it a rate.",
                code="not_stopped",
                fields=("k1_n_mm",),
            )
    low = 0.0
    for _ in range(200):
        middle = (low + high) / 2
        low, high = (low, middle) if short(middle) > 0.0 else (middle, high)
        if high - low <= 1e-15 * high:
            break
    return (low + high) / 2


def linear_force(mass: float, speed: float, k: float) -> float:
    """Closed form for a linear stop alone [N]: k in N/mm.

    Args:
        mass: that falls [kg].
        speed: as the stop is touched [m/s].
        k: of the stop [N/mm].
    """
    weight = mass * STANDARD_GRAVITY
    return weight * (1 + sqrt(1 + k * 1000 * speed * speed / (mass * STANDARD_GRAVITY**2)))
