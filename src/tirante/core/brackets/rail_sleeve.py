"""A sleeve through a box, welded to both of its walls, and a joint on its bolt before one of them.

The joint pulls square to the bolt, before the near wall: sleeve and walls are a beam on two supports, the walls' middles, that runs past one
of them. The bolt in the sleeve is not counted on to bend with it. What pushes along the bolt goes half into either wall, since the sleeve does
not stretch and both walls are alike. Not covered: the box with its walls bored, walls that are not alike, friction under the bolt's clamp.

Source:
    Beam on two supports: statics (derived); stress of a tube 32 M D/(π (D⁴ − d⁴)): Shigley, ch. 3 (from memory). Pressure at the mouth of a
    bore that a stiff pin is bent in: F (6 h + 4 s)/(d s²), from a linear pressure over its depth (derived; Roloff/Matek has it for driven
    pins, from memory). Wall pressed: 1.8 Fy D t, AISC 360 J7 (from memory). Wall pushed through by a round patch: π/4 of a square one as wide, AISC 360,
    chapter K, and EN 1993-1-8 Table 7.11 alike (from memory).
"""

from __future__ import annotations

from dataclasses import dataclass
from math import hypot, pi

from tirante.core.brackets.mount_wall import Wall
from tirante.core.errors import require_range

DEEP = 2.0  # bolt diameters that a bolt bears in its bore at most: further in it bends away from it; taken, no source
BEARING = 1.8  # of yield, times diameter and thickness: AISC 360 J7, from memory
OF_SQUARE = pi / 4  # what a round patch carries of a square one


@dataclass(frozen=True, slots=True, kw_only=True)
class ThroughBox:
    """A sleeve with the box that it goes through [mm]."""

    outside: float
    bore: float
    through: float  # from the box's near face to its far one
    wall: float  # of the box; 0: not known, the walls' outer faces are the supports
    proud: float  # how far it stands out before the near face


@dataclass(frozen=True, slots=True, kw_only=True)
class OnWalls:
    """What the two walls bear, square to the bolt [N]."""

    near: float
    far: float  # the other way


def on_walls(sleeve: ThroughBox, lever: float, force: float) -> OnWalls:
    """What the walls bear of a pull square to the bolt.

    Args:
        sleeve: with its box.
        lever: from the near face to the joint's middle [mm].
        force: of the joint [N].

    Raises:
        InputError: a wall as thick as the box.
    """
    require_range("wall_mm", sleeve.wall, 0.0, sleeve.through / 2)
    far = force * (lever + sleeve.wall / 2) / (sleeve.through - sleeve.wall)
    return OnWalls(near=force + far, far=far)


def bent(sleeve: ThroughBox, lever: float, force: float) -> float:
    """Bending stress of the sleeve at its near wall [MPa].

    Args:
        sleeve: with its box.
        lever: from the near face to the joint's middle [mm].
        force: of the joint [N].

    Raises:
        InputError: a bore as wide as the sleeve.
    """
    require_range("bore_mm", sleeve.bore, 0.0, sleeve.outside * (1 - 1e-9))
    modulus = pi / 32 * (sleeve.outside**4 - sleeve.bore**4) / sleeve.outside
    return abs(force) * (lever + sleeve.wall / 2) / modulus


def pressed(sleeve: ThroughBox, bolt: float, lever: float, force: float) -> float:
    """Pressure of the bolt at the mouth of the bore [MPa].

    Args:
        sleeve: with its box.
        bolt: its diameter [mm].
        lever: from the near face to the joint's middle [mm].
        force: of the joint [N].
    """
    deep = min(DEEP * bolt, sleeve.through + sleeve.proud)
    return abs(force) * (6 * (lever - sleeve.proud) + 4 * deep) / (bolt * deep**2)


def ring_line(sleeve: ThroughBox, near: float, push: float) -> float:
    """What each millimetre of the fillet round it at the near wall bears [N/mm].

    Args:
        sleeve: with its box.
        near: what that wall bears square to the bolt [N].
        push: along the bolt, of both walls [N].
    """
    return hypot(near, push / 2) / (pi * sleeve.outside)


def wall_pressed(sleeve: ThroughBox, yield_mpa: float) -> float:
    """What the near wall bears, pressed by the sleeve in it [N].

    Args:
        sleeve: with its box.
        yield_mpa: of the wall.
    """
    return BEARING * yield_mpa * sleeve.outside * sleeve.wall


def walls_pushed(sleeve: ThroughBox, wall: Wall) -> float:
    """What both walls carry of a push along the bolt [N].

    Args:
        sleeve: with its box.
        wall: either of them.
    """
    return 2 * OF_SQUARE * wall.carries(sleeve.outside, sleeve.outside)
