"""The foot of a plate that stands on a round tube at any angle to its axis, upright on it or leaning, over its crown or beside it.

Frame: the foot's middle is where the pair's own middle plane meets the tube; c points out of the tube there, v across it. The plate's own
axes are x along the foot and y from the foot to its hole, the way in the plate that is nearest to c: the tab points straight at its tube.
A pair's two plates stand to either side of one middle plane; heights are from that foot's middle. Cut square to the plate along the middle of
its thickness. Not covered: tubes that are bent there.

Source:
    Plane and cylinder, derived. Normal n of the plate: n·axis = sin ψ, n·c = sin λ, n·v = m = √(cos² ψ − sin² λ). A place of the plate lies
    v = (x sin ψ − y sin λ m) / cos λ + z m across and R + y cos λ + z sin λ out; both together lie on the tube's circle.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from math import asin, atan2, cos, degrees, nan, pi, radians, sin, sqrt

import numpy as np
from numpy.typing import NDArray

from tirante.core.errors import InputError, NotApplicable, require_range

MOST_ROUND = (
    0.9  # of the tube's radius, across it, to which a foot reaches: beyond it wraps past where a weld can reach
)
MOST_FILLET = radians(
    120
)  # between the faces; the other face is then at 60°, the least; EN 1993-1-8, 4.3.2, from memory
LEAST_SHARE = sin(radians(5))  # of an angle under which a plate stands along its tube
_HALVES = 60  # of the search for the widest foot


@dataclass(frozen=True, slots=True, kw_only=True)
class Saddle:
    """How a plate stands on a tube."""

    tube_od: float  # [mm]
    angle: float  # between plate and tube axis [rad]
    lean: float = 0.0  # of the plate from square to the tube's skin at the foot's middle [rad]
    shift: float = 0.0  # of the hole along the foot, from over its middle [mm]
    beside: float = 0.0  # of this plate's middle from the pair's, along the bolt [mm]

    @property
    def normal_across(self) -> float:
        """How much of the plate's normal points across the tube."""
        return sqrt(max(0.0, cos(self.angle) ** 2 - sin(self.lean) ** 2))

    def _meet(self, x: float, beside: float) -> tuple[float, float]:
        """How high the tube is under a place of the foot, from the pair's own foot, and how far round it lies from there [mm, rad]; NaN past it."""
        r, z, at = self.tube_od / 2, self.beside + beside, x + self.shift
        m, upright = self.normal_across, cos(self.lean)
        yv, yc = -sin(self.lean) * m / upright, upright
        v, c = at * sin(self.angle) / upright + z * m, r + z * sin(self.lean)
        a, b = yv * yv + yc * yc, v * yv + c * yc
        root = b * b - a * (v * v + c * c - r * r)
        if root < 0:
            return nan, nan
        y = (sqrt(root) - b) / a
        return y, atan2(v + y * yv, c + y * yc)

    def _heights(self, x: NDArray[np.float64], beside: NDArray[np.float64]) -> NDArray[np.float64]:
        """What `foot` gives, of many places at once."""
        z, at, upright = self.beside + beside, x + self.shift, cos(self.lean)
        yv = -sin(self.lean) * self.normal_across / upright
        v, c = at * sin(self.angle) / upright + z * self.normal_across, self.tube_od / 2 + z * sin(self.lean)
        a, b = yv * yv + upright * upright, v * yv + c * upright
        root = b * b - a * (v * v + c * c - (self.tube_od / 2) ** 2)
        with np.errstate(invalid="ignore"):
            return np.asarray((np.sqrt(root) - b) / a)

    def foot(self, x: float, beside: float = 0.0) -> float:
        """How high the tube is under a place of the foot [mm]; x along the foot from its middle, `beside` the middle of the plate's thickness, along its normal."""
        return self._meet(x, beside)[0]

    def across(self, x: float, beside: float = 0.0) -> float:
        """How far across the tube a place of the foot lies from the foot's middle [mm]; NaN past it."""
        around = self._meet(x, beside)[1]
        return nan if not abs(around) < pi / 2 else self.tube_od / 2 * sin(around)

    def reach(self, half: float, beside: float = 0.0) -> float:
        """Furthest that a foot of half a width reaches across the tube [mm]; NaN where it reaches past it."""
        ends = [abs(self.across(x, z)) for x in (-half, half) for z in (-beside, beside)]
        return nan if any(one != one for one in ends) else max(ends)

    def face_gap(self, half: float, thickness: float) -> float:
        """How far a foot cut square to the plate stands off the tube at one face, at its most [mm]: the other face touches early by as much."""
        x = np.linspace(-half, half, 201)[:, None]
        heights = self._heights(x, np.array([0.0, -thickness / 2, thickness / 2]))
        return float((heights[:, :1] - heights[:, 1:]).max())

    def widest_weld(self, half: float) -> float:
        """Largest angle between plate and tube along the foot [rad]: the fillet's throat is least there."""
        m, least = self.normal_across, 0.0
        for x in (-half, 0.0, half):
            around = self._meet(x, 0.0)[1]
            if around != around:
                return pi
            # of the plate's normal, how much points out of the tube there
            least = max(least, abs(m * sin(around) + sin(self.lean) * cos(around)))
        return pi / 2 + asin(min(1.0, least))

    def stands(self, half: float, thickness: float) -> bool:
        """Whether a foot of half a width does not wrap past where a weld can reach."""
        return self.reach(half, thickness / 2) <= MOST_ROUND * self.tube_od / 2 + 1e-9

    def welds(self, half: float) -> bool:
        """Whether a plain fillet goes along it."""
        return self.widest_weld(half) <= MOST_FILLET + 1e-9


def saddle(
    tube_od: float, angle_deg: float, half: float, thickness: float, offset: float = 0.0, beside: float = 0.0, lean_deg: float = 0.0
) -> Saddle:  # fmt: skip
    """A foot on a tube.

    Args:
        tube_od: of the tube [mm].
        angle_deg: between plate and tube axis; 0: it stands along the tube.
        half: of the foot's width [mm].
        thickness: of the plate [mm].
        offset: of the hole across the tube, from over the foot's middle [mm]: of a plate along its tube there is none, it leans.
        beside: of this plate's middle from the pair's, along the bolt [mm].
        lean_deg: of the plate from square to the tube's skin at the foot's middle.

    Raises:
        InputError: a size that is none; it reaches round the tube.
        NotApplicable: no fillet goes along it. Both with the width that does.
    """
    require_range("tube_od_mm", tube_od, 1e-6, None)
    require_range("angle_deg", angle_deg, 0.0, 90.0)
    most_lean = min(degrees(MOST_FILLET) - 90.0, 90.0 - angle_deg)
    require_range("lean_deg", lean_deg, -most_lean - 1e-9, most_lean + 1e-9)
    share = sin(radians(angle_deg))
    if abs(offset) > 1e-9 and share < LEAST_SHARE:
        raise InputError(
            f"A plate at {angle_deg:g}° stands along its tube: it is not offset, it leans. Give the lean: asin(2 · offset / tube).",
            code="contradictory", fields=("offset_mm",), value=offset, limits=(0.0, 0.0),
        )  # fmt: skip
    shift = 0.0 if abs(offset) <= 1e-9 else offset / share
    found = Saddle(tube_od=tube_od, angle=radians(angle_deg), lean=radians(lean_deg), shift=shift, beside=beside)
    if not found.stands(half, thickness):
        most = _widest(half, lambda one: found.stands(one, thickness))
        cure = (
            f"at most {2 * most:.1f} mm"
            if most > 0
            else "none does, so far beside its crown: bring the plates closer together, or turn the bolt"
        )
        raise InputError(
            f"A foot of {2 * half:g} mm does not stand on a tube of {tube_od:g} mm: {cure}, or it wraps past where a weld can reach.",
            code="contradictory", fields=("width_mm",), value=2 * half, limits=(None, 2 * most),
        )  # fmt: skip
    if not found.welds(half):
        most = _widest(half, found.welds)
        cure = f"Make the foot no wider than {2 * most:.1f} mm, or stand it squarer." if most > 0 else "Bring the plates closer together, or stand them squarer to the tube."  # fmt: skip
        raise NotApplicable(
            f"At {angle_deg:g}° the plate meets the tube at {found.widest_weld(half) * 180 / pi:.0f}° where it reaches furthest round, and no plain fillet "
            f"is laid beyond 120°. {cure}",
            code="no_fillet", fields=("width_mm",), value=2 * half, limits=(None, 2 * most),
        )  # fmt: skip
    return found


def _widest(half: float, does: Callable[[float], bool]) -> float:
    """Half of the widest foot that does [mm]; nothing where none does."""
    low, high = 0.0, half
    for _ in range(_HALVES):
        middle = (low + high) / 2
        if does(middle):
            low = middle
        else:
            high = middle
    return low if low > half * 1e-9 else 0.0


def throat_share(widest: float) -> float:
    """Throat of a fillet over its leg where the faces meet at an angle, at most that of a right angle.

    Args:
        widest: largest angle between the faces [rad].

    Source:
        EN 1993-1-8, 4.5.2: the height of the largest triangle; leg · cos(ψ/2), from memory.
    """
    return min(cos(pi / 4), cos(widest / 2))
