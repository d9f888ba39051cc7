"""A plate that lies on a face and holds a joint beside it in single shear: the plate where it leaves its weld, and across further holes.

What pulls in the joint's own plane stands off the plate, so that it bends the plate across its thickness, and twists it where it pulls across.
Not covered: the plate's own bends, which are no weaker than its root, fatigue, a joint that is not clamped.

Source:
    Beams and the torsion of a rectangle, T (3 + 1.8 t/b)/(b t²): Shigley, ch. 3 (from memory); added as one element bears them all, by the distortion
    energy (on the safe side: they are greatest at different places).
"""

from __future__ import annotations

from dataclasses import dataclass
from math import cos, radians, sin, sqrt

from tirante.core.brackets.tab_bending import Legs, section_stress


@dataclass(frozen=True, slots=True, kw_only=True)
class LappedRoot:
    """A plate where it leaves its weld [mm]."""

    width: float
    thickness: float
    reach: float  # to the hole, along it
    lever: float  # the middle of its thickness there to the joint's middle, along the bolt


def root_stress(root: LappedRoot, pull: float, angle_deg: float, side: float) -> float:
    """Of the plate at its root, all that bends, pulls and twists it together [MPa].

    Args:
        root: the plate there.
        pull: in the joint's plane [N].
        angle_deg: of it from the plate's axis.
        side: along the bolt [N].
    """
    b, t = root.width, root.thickness
    along, across = abs(pull * cos(radians(angle_deg))), abs(pull * sin(radians(angle_deg)))
    over = along * root.lever + abs(side) * root.reach
    direct = along / (b * t) + 6 * across * root.reach / (t * b**2) + 6 * over / (b * t**2)
    twist = across * root.lever * (3.0 + 1.8 * t / b) / (b * t**2)
    shear = 1.5 * (across + abs(side)) / (b * t)
    return sqrt(direct**2 + 3 * (twist + shear) ** 2)


def holed_stress(at: Legs, over: float, lever: float, along: float, across: float, side: float) -> float:
    """Of the plate across the level of its holes, all that bends, pulls and twists it together [MPa].

    The legs beside the holes share the twist by their widths, as strips; they bend against each other as well, which over so short an opening
    bears most of it at less stress (on the safe side).

    Args:
        at: the plate there.
        over: from that level up to the joint's middle, along it [mm].
        lever: the middle of its thickness there to the joint's middle, along the bolt [mm].
        along: of the pull, along the plate [N].
        across: of it, across the plate in its plane [N].
        side: along the bolt [N].

    Raises:
        InputError: no metal is left there.
    """
    direct, wide, t = section_stress(at, over, along, across, side), sum(at.widths), at.thickness
    direct += 6 * along * lever / (wide * t**2)
    twist = across * lever * (3.0 + 1.8 * t / min(at.widths)) / (wide * t**2)
    shear = 1.5 * (across + abs(side)) / (wide * t)
    return sqrt(direct**2 + 3 * (twist + shear) ** 2)
