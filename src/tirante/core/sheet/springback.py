"""Springback of an air bend: what radius and angle are set so that the wanted ones are left.

Source:
    The ratio of radii by elastic recovery of a rectangular section, 4 (R Y / E t)³ − 3 (R Y / E t) + 1 (from memory; found in textbooks of
    metal forming); a shop's own test bend is preferred.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import pi

from tirante.core.errors import NoSolution, require_range


@dataclass(frozen=True, slots=True, kw_only=True)
class Set:
    """What is set on the machine."""

    angle: float  # from flat [rad]
    radius: float  # inside, under load [mm]
    ratio: float  # of the angle that is left to the angle that is set


def by_elasticity(thickness: float, radius: float, angle: float, yield_strength: float, elastic_modulus: float) -> Set:
    """Set-up for a bend by elastic recovery.

    Args:
        thickness: of the sheet [mm].
        radius: inside, that is to be left [mm].
        angle: from flat, that is to be left [rad].
        yield_strength: of the sheet [MPa].
        elastic_modulus: likewise.

    Raises:
        NoSolution: the sheet would spring back flat.
    """
    require_range("thickness_mm", thickness, 1e-6, None)
    require_range("radius_mm", radius, 1e-9, None)
    require_range("angle_deg", angle * 180 / pi, 1e-6, 179.9)
    require_range("yield_mpa", yield_strength, 1e-6, None)

    def left(set_radius: float) -> float:
        x = set_radius * yield_strength / (elastic_modulus * thickness)
        return set_radius / (4 * x**3 - 3 * x + 1) if x < 0.5 else float("inf")

    low, high = 0.0, radius
    if left(high) < radius:
        raise NoSolution("No radius springs back to this one.", code="springs_flat", fields=("radius_mm",))
    for _ in range(200):
        middle = (low + high) / 2
        low, high = (middle, high) if left(middle) < radius else (low, middle)
    found = (low + high) / 2
    # the neutral fibre keeps its length, taken in the middle of the sheet
    ratio = (found + thickness / 2) / (radius + thickness / 2)
    return Set(angle=angle / ratio, radius=found, ratio=ratio)


def by_test(angle: float, test_set: float, test_left: float) -> Set:
    """Set-up for a bend by a shop's own test bend in the same sheet over the same tools: the share that is left is kept.

    Args:
        angle: from flat, that is to be left [rad].
        test_set: to which the test was bent [rad].
        test_left: that was left of it [rad].
    """
    require_range("test_left_deg", test_left * 180 / pi, 1e-6, test_set * 180 / pi)
    ratio = test_left / test_set
    return Set(angle=angle / ratio, radius=float("nan"), ratio=ratio)
