"""The foot of a plate that stands on a round tube at any angle to its axis and beside its crown.

The plate holds the line out of the tube's axis; its own axis x runs along the foot. Cut square to the plate along the middle of its
thickness. Not covered: plates that lean over, tubes that are bent there.

Source:
    Plane and cylinder, derived: a point of the plate's middle lies x sin(angle) + offset across the tube.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import asin, cos, pi, radians, sin, sqrt

from tirante.core.errors import InputError, NotApplicable, require_range

MOST_ROUND = (
    0.9  # of the tube's radius, across it, to which a foot reaches: beyond it wraps past where a weld can reach
)
MOST_FILLET = radians(
    120
)  # between the faces; the other face is then at 60°, the least; EN 1993-1-8, 4.3.2, from memory


@dataclass(frozen=True, slots=True, kw_only=True)
class Saddle:
    """How a plate stands on a tube."""

    tube_od: float  # [mm]
    angle: float  # between plate and tube axis [rad]
    offset: float = 0.0  # of the plate's middle across the tube [mm]

    def across(self, x: float) -> float:
        """How far across the tube a place of the foot lies [mm]; x along the foot from its middle."""
        return x * sin(self.angle) + self.offset

    def foot(self, x: float, beside: float = 0.0) -> float:
        """Height of the tube under a place of the foot, from its crown [mm]; `beside` the middle of the plate's thickness, along its normal."""
        u = self.across(x) + beside * cos(self.angle)
        r = self.tube_od / 2
        return sqrt(r * r - u * u) - r

    def reach(self, half: float) -> float:
        """Furthest that a foot of half a width reaches across the tube [mm]."""
        return half * sin(self.angle) + abs(self.offset)

    def face_gap(self, half: float, thickness: float) -> float:
        """How far a foot cut square to the plate stands off the tube at one face, at its most [mm]: the other face touches early by as much."""
        steps = [half * (2 * i / 200 - 1) for i in range(201)]
        return max(self.foot(x) - self.foot(x, side) for x in steps for side in (-thickness / 2, thickness / 2))

    def widest_weld(self, half: float) -> float:
        """Largest angle between plate and tube along the foot [rad]: the fillet's throat is least there."""
        return pi / 2 + asin(min(1.0, abs(cos(self.angle)) * self.reach(half) / (self.tube_od / 2)))


def saddle(tube_od: float, angle_deg: float, half: float, thickness: float, offset: float = 0.0) -> Saddle:
    """A foot on a tube.

    Args:
        tube_od: of the tube [mm].
        angle_deg: between plate and tube axis.
        half: of the foot's width [mm].
        thickness: of the plate [mm].
        offset: of the plate's middle across the tube [mm].

    Raises:
        InputError: a size that is none; it reaches round the tube.
        NotApplicable: no fillet goes along it. Both with the width that does.
    """
    require_range("tube_od_mm", tube_od, 1e-6, None)
    require_range("angle_deg", angle_deg, 15.0, 90.0)
    found = Saddle(tube_od=tube_od, angle=radians(angle_deg), offset=offset)
    r = tube_od / 2
    room = MOST_ROUND * r - abs(offset) - thickness / 2 * cos(found.angle)
    if half * sin(found.angle) > room + 1e-9:
        raise InputError(
            f"A foot of {2 * half:g} mm does not stand on a tube of {tube_od:g} mm: at most {max(0.0, 2 * room / sin(found.angle)):.1f} mm, or it "
            "wraps past where a weld can reach.",
            code="contradictory", fields=("width_mm",), value=2 * half, limits=(None, max(0.0, 2 * room / sin(found.angle))),
        )  # fmt: skip
    if found.widest_weld(half) > MOST_FILLET + 1e-9:
        most = (sin(MOST_FILLET - pi / 2) * r / abs(cos(found.angle)) - abs(offset)) / sin(found.angle)
        raise NotApplicable(
            f"At {angle_deg:g}° the plate meets the tube at {found.widest_weld(half) * 180 / pi:.0f}° where it reaches furthest round, and no plain fillet "
            f"is laid beyond 120°. Make the foot no wider than {max(0.0, 2 * most):.1f} mm, or stand it squarer.",
            code="no_fillet", fields=("width_mm",), value=2 * half, limits=(None, max(0.0, 2 * most)),
        )  # fmt: skip
    return found


def throat_share(widest: float) -> float:
    """Throat of a fillet over its leg where the faces meet at an angle, at most that of a right angle.

    Args:
        widest: largest angle between the faces [rad].

    Source:
        EN 1993-1-8, 4.5.2: the height of the largest triangle; leg · cos(ψ/2), from memory.
    """
    return min(cos(pi / 4), cos(widest / 2))
