"""A flange that a hub or stub axle is bolted to: its bolts on a circle, its plate between them, the ring that welds it to the arm.

The bolts are an elastic group about the wheel's axis: what lies in the flange shears them, what turns about the axis turns them, what
tips it pulls those furthest out. The plate is bent by each bolt as far as the weld, single curvature, with no prying: its width is what a
yield line round one bolt has, no more than its share of the circle. Not covered: spigot and friction (not counted on), prying, a plate
that is not flat, the hub and its bearings.

Source:
    Bolt groups: Shigley, ch. 8 (from memory). Effective lengths min(2 π m, 4 m + 1.25 e): EN 1993-1-8 Table 6.4 (from memory).
    Ring as a line: Blodgett (from memory). Shear with tension EN 1993-1-8 Table 3.4 without its partial factor (from memory).
"""

from __future__ import annotations

from dataclasses import dataclass
from math import hypot, pi

from tirante.core.brackets.bolt import BoltClass, sheared_and_pulled
from tirante.core.errors import InputError
from tirante.core.members.insert_weld import THROAT_OF_LEG


@dataclass(frozen=True, slots=True, kw_only=True)
class HubFlange:
    """The flange [mm]."""

    bolts: int
    circle: float  # diameter that they stand on
    bolt: float  # diameter
    outside: float
    thickness: float
    ring: float  # outside of what is welded to it in its middle
    leg: float  # of that weld

    def __post_init__(self) -> None:
        if self.bolts < 3:
            raise InputError(
                "Fewer than three bolts hold no flange against tipping.", code="contradictory", fields=("bolts",)
            )
        if self.circle <= self.ring + self.bolt:
            raise InputError(
                "The bolts stand in what is welded to the flange. Give a larger circle, or weld on something smaller.",
                code="contradictory", fields=("circle_mm",), value=self.circle,
            )  # fmt: skip
        if self.outside <= self.circle + self.bolt:
            raise InputError(
                "The bolts’ holes break out of the flange. Give it more outside.",
                code="contradictory",
                fields=("outside_mm",),
            )

    @property
    def lever(self) -> float:
        """From a bolt to the toe of the weld [mm]: EN 1993-1-8's m, 0.8 of the leg taken off."""
        return (self.circle - self.ring) / 2 - 0.8 * self.leg

    @property
    def bent_width(self) -> float:
        """Of the plate that one bolt bends [mm]."""
        m, edge = self.lever, (self.outside - self.circle) / 2
        return min(2 * pi * m, 4 * m + 1.25 * edge, pi * self.circle / self.bolts)

    def one_bolt_bends(self, yield_strength: float) -> float:
        """Pull of one bolt at which the plate yields right through, t²/4 of its width [N].

        Args:
            yield_strength: of the plate [MPa].
        """
        return self.bent_width * self.thickness**2 / 4 * yield_strength / self.lever


@dataclass(frozen=True, slots=True, kw_only=True)
class OnFlange:
    """What acts on the flange's middle."""

    across: float  # in its plane [N]
    axial: float  # square to it, either way [N]
    spin: float  # about its axis [N·mm]
    tip: float  # about a line in its plane [N·mm]


def bolt_forces(flange: HubFlange, acting: OnFlange) -> tuple[float, float]:
    """Shear and pull of the worst bolt, wherever the bolts stand on their circle [N].

    Args:
        flange: with its bolts.
        acting: on it.
    """
    n, r = flange.bolts, flange.circle / 2
    shear = abs(acting.across) / n + abs(acting.spin) / (n * r)
    return shear, abs(acting.axial) / n + 2 * abs(acting.tip) / (n * r)


def bolt_use(flange: HubFlange, material: BoltClass, acting: OnFlange) -> float:
    """How far the worst bolt is used.

    Args:
        flange: with its bolts.
        material: their class.
        acting: on it, factored.
    """
    return sheared_and_pulled(flange.bolt, material, *bolt_forces(flange, acting))


def ring_throat(flange: HubFlange, acting: OnFlange) -> float:
    """Stress on the throat of the ring that welds it to the arm [MPa].

    Args:
        flange: with its weld.
        acting: on it.
    """
    d = flange.ring
    square = abs(acting.axial) / (pi * d) + 4 * abs(acting.tip) / (pi * d * d)
    along = abs(acting.across) / (pi * d) + 2 * abs(acting.spin) / (pi * d * d)
    return hypot(square, along) / (THROAT_OF_LEG * flange.leg)
