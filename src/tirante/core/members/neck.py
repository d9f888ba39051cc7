"""A solid round neck between a joint and what is wider than it: pulled or pushed, and bent where it leaves that.

Not covered: the notch of the step (a life is judged by the welds beside it), bowing under a push (the whole link's column has the neck in it).

Source:
    P/A + 32 M/(π d³): Shigley, ch. 3 (from memory).
"""

from __future__ import annotations

from math import pi


def neck_stress(diameter: float, lever: float, axial: float, side: float) -> float:
    """Largest stress where it leaves what is wider [MPa].

    Args:
        diameter: of the neck [mm].
        lever: from the joint's middle to there [mm].
        axial: pull or push [N].
        side: square to it, at the joint [N].
    """
    return abs(axial) / (pi / 4 * diameter**2) + 32 * abs(side) * lever / (pi * diameter**3)
