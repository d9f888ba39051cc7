"""Stress at the foot of a tab pair: pull, in-plane bending from a slanting pull, out-of-plane bending from side load.

Not covered: plastic reserve, restraint by the joint's bolt tying the two plates together (left out, on the safe side).
"""

from __future__ import annotations

from math import cos, radians, sin


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
