"""The weld along the outer face of a plate's foot: a plain fillet, a bevel filled under a fillet, or a groove where the face beside it ends.

Of a bevel of 45° the joint's root lies as deep as it is cut; what is counted is the way from there to the weld's face, less 3 mm that the arc does not
reach. A plate flush with the edge of a box leaves no face for a fillet: what lies on the rounded corner is a flare bevel groove.
Not covered: bevels on both faces, full penetration.

Source:
    Bevel of 45° less 3 mm: AISC 360 Table J2.1; groove under a fillet, shortest way from root to face: AWS D1.1 2.4; flare bevel 5/16 of the radius:
    AISC 360 Table J2.2; all from memory.
"""

from __future__ import annotations

from math import hypot

from tirante.core.members.insert_weld import THROAT_OF_LEG

NOT_REACHED = 3.0  # mm at the root of a bevel of 45°
GROOVE_OF_RADIUS = 5.0 / 16.0


def bevelled_throat(bevel: float, leg: float) -> float:
    """Of a bevel of 45° filled and covered by a fillet; no less than that fillet's own [mm].

    Args:
        bevel: how deep the plate's edge is cut [mm].
        leg: of the fillet, on what the plate stands on [mm].
    """
    up = max(leg, bevel)  # the weld's face goes up at least to where the bevel ends
    way = (bevel + leg) * up / hypot(leg, up) if leg > 0 else bevel
    return max(THROAT_OF_LEG * leg, way - NOT_REACHED) if bevel > 0 else THROAT_OF_LEG * leg


def edge_throat(leg: float, room: float | None, rounded: float) -> float:
    """Of a fillet beside which the face ends [mm].

    Args:
        leg: asked for [mm].
        room: of face beside the plate [mm]; None: enough.
        rounded: outside radius of the corner there [mm]; 0: square.
    """
    if room is None or room >= leg:
        return THROAT_OF_LEG * leg
    return min(THROAT_OF_LEG * leg, max(THROAT_OF_LEG * max(room, 0.0), GROOVE_OF_RADIUS * rounded))
