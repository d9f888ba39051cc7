"""An arm of a rocker: one or two plates from an eye to the boss it turns on, bent in their plane and out of it; and the ring that welds the
boss in.

The plate is taken as wide as the lines that touch eye and boss leave it, which is no more than it is; the boss is left out of its
section. Of two plates each takes half of what pulls across them, by itself: nothing but the boss ties them. Not covered: the boss
and its bearing, buckling of an edge, fatigue.

Source:
    Axial, bending and torsion of a flat bar: Shigley, ch. 3 (from memory); torsion 3 T/(w t²): Roark, narrow rectangle (from memory);
    ring as a line: Blodgett (from memory).
"""

from __future__ import annotations

from dataclasses import dataclass
from math import hypot, pi, sqrt

from tirante.core.errors import InputError
from tirante.core.members.insert_weld import THROAT_OF_LEG

LOOKS = 40  # sections between eye and boss


@dataclass(frozen=True, slots=True, kw_only=True)
class PlateArm:
    """An arm between its eye and the pivot [mm]."""

    length: float  # pivot to eye
    eye_radius: float  # of the plate round the eye
    hub_radius: float  # of the plate round the boss
    hub_hole: float  # diameter that the boss goes through
    thickness: float  # of one plate
    plates: int = 1
    apart: float = 0.0  # between the middles of two plates

    def __post_init__(self) -> None:
        if self.hub_hole >= 2 * self.hub_radius:
            raise InputError(
                "The boss is as wide as the plate round it, or wider.", code="contradictory", fields=("hub_radius_mm",)
            )
        if self.length <= self.eye_radius:
            raise InputError(
                "The eye stands over the pivot.", code="contradictory", fields=("length_mm",), value=self.length
            )
        if self.plates == 2 and self.apart <= self.thickness:
            raise InputError(
                "Two plates stand apart by more than one is thick.", code="contradictory", fields=("apart_mm",)
            )

    def width(self, out: float) -> float:
        """Of the plate at a distance from the eye, no hole counted [mm]."""
        share = min(1.0, max(0.0, out / self.length))
        return 2 * (self.eye_radius + (self.hub_radius - self.eye_radius) * share)

    @property
    def area(self) -> float:
        """Of all plates at their mean width, for a column [mm²]."""
        return self.plates * self.thickness * (self.eye_radius + self.hub_radius)

    @property
    def radius_of_gyration(self) -> float:
        """Out of its plane, each plate by itself [mm]."""
        return self.thickness / sqrt(12)


@dataclass(frozen=True, slots=True, kw_only=True)
class EyeForce:
    """What pulls at an eye [N]: along the arm (away from the pivot positive), across it in the plate's plane, and out of that plane;
    `off`: how far off the plates' middle it pulls [mm]."""

    along: float
    across: float
    out: float = 0.0
    off: float = 0.0

    @property
    def size(self) -> float:
        """Of the whole [N]."""
        return hypot(self.along, self.across, self.out)


@dataclass(frozen=True, slots=True, kw_only=True)
class PlateStress:
    """Worst between eye and boss, and in the net section through the pivot [MPa]."""

    worst: float
    at: float  # from the eye [mm]
    net: float


def plate_stress(arm: PlateArm, force: EyeForce) -> PlateStress:
    """Equivalent stress of an arm under what pulls at its eye.

    Args:
        arm: the plates.
        force: at the eye.
    """
    clear = arm.length - arm.hub_hole / 2
    sections = [clear * i / LOOKS for i in range(LOOKS + 1)]
    found = [(_section(arm, force, out, arm.width(out), 0.0), out) for out in sections]
    worst, at = max(found)
    return PlateStress(worst=worst, at=at, net=_section(arm, force, arm.length, 2 * arm.hub_radius, arm.hub_hole))


def _section(arm: PlateArm, force: EyeForce, out: float, width: float, hole: float) -> float:
    """Equivalent stress across the arm at a distance from its eye, with a hole in the middle."""
    t, n = arm.thickness, arm.plates
    net = width - hole
    modulus = t * (width**3 - hole**3) / (6 * width)  # of one plate, in its plane
    along, across, twist = abs(force.along) / n, abs(force.across) / n, 0.0
    flat = abs(force.out) * out / n  # that bends one plate out of its plane
    if n == 2:  # what pulls beside the middle pulls more at one plate than at the other
        along += abs(force.along * force.off) / arm.apart
        across += abs(force.across * force.off) / arm.apart
    else:
        flat += abs(force.along * force.off)
        twist = abs(force.across * force.off)
    direct = along / (net * t) + across * out / modulus + 6 * flat / (net * t * t)
    return sqrt(direct**2 + 3 * (3 * twist / (net * t * t)) ** 2)


def ring_stress(
    diameter: float, leg: float, plates: int, apart: float, in_plane: float, out: float, moment: float
) -> float:  # fmt: skip
    """Stress on the throat of the fillets that weld a boss in: of one plate a ring on either face, of two a ring each [MPa].

    Args:
        diameter: of the boss [mm].
        leg: of the fillets [mm].
        plates: one or two.
        apart: between the middles of two plates [mm].
        in_plane: force of the boss on the plates in their plane [N].
        out: and along its axis [N].
        moment: that tips it [N·mm].
    """
    around = pi * diameter
    lean = 4 * abs(moment) / (2 * pi * diameter**2) if plates == 1 else abs(moment) / apart / around
    line = hypot(abs(in_plane) / (2 * around), abs(out) / (2 * around) + lean)
    return line / (THROAT_OF_LEG * leg)
