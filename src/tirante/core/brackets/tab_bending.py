"""Stress at the foot of a tab pair: pull, in-plane bending from a slanting pull, out-of-plane bending from side load.

Not covered: plastic reserve, restraint by the joint's bolt tying the two plates together (left out, on the safe side).
"""

from __future__ import annotations

from dataclasses import dataclass
from math import cos, radians, sin

from tirante.core.errors import InputError


def tab_foot_stress(
    thickness: float,
    width: float,
    height: float,
    plates: int,
    force: float,
    angle_deg: float,
    side: float,
    outside_only: bool = False,
    aside: float = 0.0,
) -> float:
    """Largest elastic stress at the foot of one of `plates` equal tabs [MPa].

    Args:
        thickness: one plate [mm]
        width: of the foot, in the plate's plane [mm]
        height: foot to hole centre [mm]
        plates: sharing force and side equally
        force: pull or push through the hole, in the plates' plane [N]
        angle_deg: of the force from the tab's axis [deg]
        side: along the bolt [N]
        aside: of the hole along the foot, from over its middle [mm]
        outside_only: welded along its outer face alone: the pull comes off its weld half a thickness aside, which bends the foot

    Returns:
        N/A + in-plane M/Z + out-of-plane M/Z, added as magnitudes at the corner.

    Source:
        Beam bending of a rectangle, Shigley ch. 3 (from memory).
    """
    share, lateral = abs(force) / plates, abs(side) / plates
    along = share * abs(cos(radians(angle_deg))) / (thickness * width)
    lever = abs(sin(radians(angle_deg))) * height + abs(cos(radians(angle_deg)) * aside)
    in_plane = 6 * share * lever / (thickness * width**2)
    out_of_plane = 6 * lateral * height / (width * thickness**2)
    if outside_only:
        along += 6 * share * abs(cos(radians(angle_deg))) * (thickness / 2) / (width * thickness**2)
    return along + in_plane + out_of_plane


OPENING = 0.225  # of a round hole's diameter to either side of its middle, that the metal beside it is bent over


@dataclass(frozen=True, slots=True, kw_only=True)
class Legs:
    """One plate across the level of a hole [mm]."""

    thickness: float
    legs: tuple[tuple[float, float], ...]  # the metal between its holes: from where to where, from the joint's axis
    opening: float  # diameter of the hole

    @property
    def widths(self) -> list[float]:
        """Of the legs."""
        return [b - a for a, b in self.legs]

    @property
    def middle(self) -> float:
        """Of all their metal, from the joint's axis."""
        return sum(w * (a + b) / 2 for w, (a, b) in zip(self.widths, self.legs, strict=True)) / sum(self.widths)

    @property
    def inertia(self) -> float:
        """Of all their metal about that middle, in the plate's plane [mm⁴]."""
        return self.thickness * sum(w**3 / 12 + w * ((a + b) / 2 - self.middle) ** 2 for w, (a, b) in zip(self.widths, self.legs, strict=True))  # fmt: skip


def section_stress(at: Legs, over: float, along: float, across: float, side: float) -> float:
    """Largest elastic stress of one plate across the level of its holes [MPa].

    Args:
        at: the plate there.
        over: from that level up to the joint's middle [mm].
        along: of one plate's pull, along the tab [N].
        across: of it, across the tab in its plane [N].
        side: of one plate, along the bolt [N].

    Returns:
        N/A + M c/I of all legs together + what shears across bends a leg beside the opening, shared by the legs' stiffness, + M/Z out of plane,
        added as magnitudes.

    Raises:
        InputError: no metal is left there.

    Source:
        Beam bending, Shigley ch. 3 (from memory); a round opening in a web as one 0.45 diameters long, AISC Design Guide 2 (from memory).
    """
    if not at.legs:
        raise InputError("No metal is left at that level.", code="contradictory", fields=("legs_mm",))
    wide, t = sum(at.widths), at.thickness
    furthest = max(abs(edge - at.middle) for leg in at.legs for edge in leg)
    in_plane = (across * over + along * abs(at.middle)) * furthest / at.inertia
    stiff = sum(w**3 for w in at.widths)
    beside = max(6 * (across * w**3 / stiff) * OPENING * at.opening / (t * w**2) for w in at.widths)
    return along / (t * wide) + in_plane + beside + 6 * side * over / (wide * t**2)


def lightened_stress(
    thickness: float,
    width: float,
    hole: float,
    over: float,
    along: float,
    across: float,
    side: float,
    aside: float = 0.0,
) -> float:
    """Largest elastic stress of one plate beside a round hole in its middle [MPa].

    Args:
        thickness: of the plate [mm].
        width: of the plate at the hole's level [mm].
        hole: diameter [mm].
        over: from the hole's middle up to the joint's [mm].
        along: of one plate's pull, along the tab [N].
        across: of it, across the tab in its plane [N].
        side: of one plate, along the bolt [N].
        aside: of the middle of the width from the hole's middle [mm].

    Returns:
        N/A + in-plane M/Z + out-of-plane M/Z, and what shears across bends the metal to either side of the hole, added as magnitudes.

    Source:
        Beam bending, Shigley ch. 3 (from memory); a round opening in a web as one 0.45 diameters long, AISC Design Guide 2 (from memory).
    """
    net, each = width - hole, (width - hole) / 2
    in_plane = (across * over + along * aside) * 6 * width / (thickness * (width**3 - hole**3))
    beside = 6 * (across / 2 * OPENING * hole) / (thickness * each**2)
    return along / (thickness * net) + in_plane + beside + 6 * side * over / (net * thickness**2)
