"""A leaf's seat on an axle tube, clamped by two U-bolts: what their legs are pulled with, what clamp keeps it shut, the leaf's tie bolt, the plate over it.

Axes of the seat: x along the axle, y along the leaf, z off the seat toward the leaf. Both U-bolts go round the axle, one on either side of the leaf,
so that four legs stand at the corners of a rectangle. External loads are taken wholly by the legs, as if nothing were clamped; the clamp is asked
for by itself: so much that the seat does not open at an edge, and that the leaf does not turn on it. What pushes the leaf along or across is held
by the head of its tie bolt in the seat alone.
Not covered: the leaf, the axle squeezed between seat and U-bolts, loss of clamp as paint and leaves settle, fatigue.

Source:
    Bolt group, kern of a rectangle, torque of a clamped face: Shigley, ch. 3, 8 and 16 (from memory). Bolts: EN 1993-1-8 Table 3.4 without its
    partial factor (from memory). Bearing of the head: AISC 360 J7 (from memory).
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from math import hypot, log, pi

from tirante.core.brackets.bolt import SHEAR_IN_SHANK, BoltClass, sheared_and_pulled, tightening_metric

BESIDE = 1.0  # mm between a leaf and the legs beside it; common practice, no source
FRICTION = 0.2  # of a leaf on its seat, painted or not; EN 1090-2 class D, from memory
BEARING = 1.8  # of yield, times diameter and thickness: AISC 360 J7, from memory
FROM_EDGE = 1.5  # diameters from a leg's middle to the edge of the plate over the leaf; common practice, no source


@dataclass(frozen=True, slots=True, kw_only=True)
class Perch:
    """Seat, leaf and U-bolts [mm]."""

    od: float  # of the axle, that the U-bolts go round
    leaf: float  # how wide
    long: float  # of the seat, along the axle: no longer than the leaf is wide
    wide: float  # of the seat, along the leaf
    plate: float  # of the seat, thick
    bolt: float  # of a U-bolt
    tie: float  # the leaf’s own bolt, and its head in the seat
    head: float
    top: float  # of the plate over the leaf, thick

    @property
    def legs(self) -> tuple[float, float]:
        """Of a leg’s middle from the seat’s: along the axle, and along the leaf."""
        return self.leaf / 2 + BESIDE + self.bolt / 2, (self.od + self.bolt) / 2

    @property
    def top_size(self) -> tuple[float, float]:
        """Of the plate over the leaf: along the axle, and along the leaf."""
        x, y = self.legs
        return 2 * (x + FROM_EDGE * self.bolt), 2 * (y + FROM_EDGE * self.bolt)

    @property
    def grips(self) -> float:
        """How far from its middle a clamped seat of even pressure holds a torque, on average.

        Source:
            Mean distance of a rectangle's points from its middle, by integration.
        """
        a, b = min(self.long, self.leaf), self.wide
        d = hypot(a, b)
        return d / 6 + a * a / (12 * b) * log((b + d) / a) + b * b / (12 * a) * log((a + d) / b)


@dataclass(frozen=True, slots=True, kw_only=True)
class OnSeat:
    """What the leaf puts on the middle of its seat."""

    off: float = 0.0  # straight off it [N]; below 0: it presses
    along: float = 0.0  # along the axle
    across: float = 0.0  # along the leaf
    about_axle: float = 0.0  # [N·mm]
    about_leaf: float = 0.0
    twists: float = 0.0  # about what is square to both

    def times(self, factor: float) -> OnSeat:
        """The same, factored."""
        return replace(self, **{name: getattr(self, name) * factor for name in self.__slots__})


def clamp_of(diameter: float, material: BoltClass) -> float:
    """With what one leg clamps when it is tightened [N].

    Args:
        diameter: a coarse metric thread's.
        material: its class.

    Raises:
        InputError: there is no such coarse thread.
    """
    return tightening_metric(diameter, material, "u_bolt_mm")[0]


def leg_pull(perch: Perch, on: OnSeat) -> float:
    """Of the leg that is pulled most [N]: as four bolts at the corners of a rectangle.

    Args:
        perch: seat and U-bolts.
        on: the seat, factored.
    """
    x, y = perch.legs
    return max(0.0, on.off) / 4 + abs(on.about_axle) / (4 * y) + abs(on.about_leaf) / (4 * x)


def leg_use(perch: Perch, material: BoltClass, on: OnSeat) -> float:
    """How far that leg is used.

    Args:
        perch: seat and U-bolts.
        material: of these.
        on: the seat, factored.
    """
    return sheared_and_pulled(perch.bolt, material, 0.0, leg_pull(perch, on))


def clamp_needed(perch: Perch, on: OnSeat) -> float:
    """Clamp of all legs that keeps the seat shut at its edges and the leaf from turning on it [N]. What presses it is not counted on.

    Args:
        perch: seat and U-bolts.
        on: the seat, factored.
    """
    shut = 6 * abs(on.about_axle) / perch.wide + 6 * abs(on.about_leaf) / min(perch.long, perch.leaf)
    return max(0.0, on.off) + shut + abs(on.twists) / (FRICTION * perch.grips)


def tie_use(perch: Perch, material: BoltClass, on: OnSeat) -> float:
    """How far the tie bolt is used, sheared at the seat.

    Args:
        perch: seat and leaf.
        material: of the tie bolt.
        on: the seat, factored.
    """
    return hypot(on.along, on.across) / (SHEAR_IN_SHANK * material.ultimate * pi * perch.tie**2 / 4)


def head_use(perch: Perch, yield_strength: float, on: OnSeat) -> float:
    """How far the seat is used where the tie bolt's head presses in its hole.

    Args:
        perch: seat and leaf.
        yield_strength: of the seat [MPa].
        on: the seat, factored.
    """
    return hypot(on.along, on.across) / (BEARING * yield_strength * perch.head * perch.plate)


def top_stress(perch: Perch, clamp: float, on: OnSeat) -> float:
    """Of the plate over the leaf, bent beside it by two legs: by their clamp, or by what pulls them where that is more [MPa].

    Args:
        perch: leaf and U-bolts.
        clamp: of one leg [N].
        on: the seat, factored.
    """
    lever = perch.legs[0] - perch.leaf / 2
    return 6 * 2 * max(clamp, leg_pull(perch, on)) * lever / (perch.top_size[1] * perch.top**2)
