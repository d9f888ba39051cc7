"""A bend of sheet: how much of the flat it takes, its set-back and its deduction.

The neutral fibre lies K t outside the inside face. Not covered: thinning of tight bends, grain, coining and bottoming.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import log10, pi, tan

from tirante.core.errors import InputError, NotApplicable, require_range

MOST_K = 0.5  # the middle of the sheet: no bend's neutral fibre lies beyond it
LEAST_RADIUS = 0.01  # of the thickness; below it the rule's logarithm says nothing


def usual_k(radius: float, thickness: float) -> float:
    """Where the neutral fibre lies, as a share of the thickness from the inside face.

    Args:
        radius: inside [mm].
        thickness: of the sheet [mm].

    Raises:
        NotApplicable: a radius that is next to nothing.

    Source:
        DIN 6935, K = 0.325 + 0.25 lg(R/t), at most 0.5 (the standard's k is twice this), from memory.
    """
    require_range("thickness_mm", thickness, 1e-6, None)
    if radius < LEAST_RADIUS * thickness:
        raise NotApplicable(
            f"An inside radius of {radius:g} mm is too tight for the rule of the neutral fibre. Give the radius of your tool, or K from a test bend.",
            code="too_tight", fields=("radius_mm",), value=radius, limits=(LEAST_RADIUS * thickness, None),
        )  # fmt: skip
    return max(0.0, min(MOST_K, 0.325 + 0.25 * log10(radius / thickness)))


@dataclass(frozen=True, slots=True, kw_only=True)
class Bent:
    """A bend."""

    thickness: float  # [mm]
    radius: float  # inside [mm]
    angle: float  # from flat [rad]
    k: float

    @property
    def allowance(self) -> float:
        """Of the flat that the bend takes: the length of its neutral fibre [mm]."""
        return self.angle * (self.radius + self.k * self.thickness)

    @property
    def setback(self) -> float:
        """From the sharp corner of the outside faces to where the bend begins [mm]; there is none at 180°."""
        return (self.radius + self.thickness) * tan(self.angle / 2)

    @property
    def deduction(self) -> float:
        """By which the flat is shorter than both outside lengths to the sharp corner [mm]."""
        return 2 * self.setback - self.allowance


def bent(thickness: float, radius: float, angle: float, k: float | None = None) -> Bent:
    """A bend.

    Args:
        thickness: of the sheet [mm].
        radius: inside [mm].
        angle: from flat [rad], more than nothing and less than a half turn.
        k: where the neutral fibre lies, from a test bend; else by DIN 6935.

    Raises:
        InputError: a figure that is none.
        NotApplicable: too tight for the rule.
    """
    require_range("thickness_mm", thickness, 1e-6, None)
    require_range("radius_mm", radius, 0.0, None)
    require_range("angle_deg", angle * 180 / pi, 1e-6, 179.9)
    if k is not None:
        require_range("k_factor", k, 0.0, MOST_K)
    return Bent(thickness=thickness, radius=radius, angle=angle, k=usual_k(radius, thickness) if k is None else k)


def k_of_test(thickness: float, radius: float, angle: float, flat: float, leg_a: float, leg_b: float) -> float:
    """K from a test bend: a strip of known length, bent, its legs measured outside to the sharp corner.

    Args:
        thickness: of the sheet [mm].
        radius: inside, as it came out [mm].
        angle: from flat, as it came out [rad].
        flat: length of the strip before [mm].
        leg_a: outside, to the sharp corner [mm].
        leg_b: likewise.

    Raises:
        InputError: the lengths do not go together: K would lie outside the sheet.
    """
    require_range("thickness_mm", thickness, 1e-6, None)
    require_range("angle_deg", angle * 180 / pi, 1e-6, 179.9)
    setback = (radius + thickness) * tan(angle / 2)
    allowance = flat - (leg_a + leg_b - 2 * setback)
    k = (allowance / angle - radius) / thickness
    if not 0.0 <= k <= MOST_K + 0.1:
        raise InputError(
            f"These lengths do not go together: the neutral fibre would lie at {k:.2f} of the thickness. Measure the legs outside, to the sharp corner.",
            code="contradictory", fields=("test_flat_mm",), value=flat,
        )  # fmt: skip
    return min(k, MOST_K)
