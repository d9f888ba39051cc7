"""The feet of two angles that are bolted to a face, one to either side of a joint: their bolts as a group, and the foot bent between bolt and toe.

Two bolts a foot, four in all. The ears hand their pull to the feet at their middles and are taken as hinged there: what bends a foot is its
own pull times the way to the bolts, and its toe pries against the face as far as that asks, in full. Friction is not counted on. Not
covered: what the feet are bolted to, bolts that are not torqued, feet that lie on an uneven face.

Source:
    Bolts as an elastic group: Shigley, ch. 8 (from memory). Prying in full, the foot a beam over its bolts pressing with its toe: statics
    (derived; AISC Manual part 9 has less of it), its moment against Fy Z, AISC 360 F11 (from memory). Shear with tension EN 1993-1-8 Table 3.4 without its partial factor (from memory).
"""

from __future__ import annotations

from dataclasses import dataclass
from math import hypot, pi

from tirante.core.brackets.bolt import BoltClass, sheared_and_pulled

BOLTS = 4
BEARING = 1.8  # of yield, times diameter and thickness: AISC 360 J7, from memory


@dataclass(frozen=True, slots=True, kw_only=True)
class BoltedFeet:
    """Two feet with their bolts [mm]."""

    bolt: float  # diameter
    hole: float
    apart: float  # of a foot's two bolts, along the bend
    lever: float  # from an ear's middle to its bolts
    toe: float  # from the bolts to the foot's end
    between: float  # from the pair's middle to either ear's middle
    width: float  # of a foot, along the bend
    thickness: float
    height: float  # from the face to the joint, shims and all


@dataclass(frozen=True, slots=True, kw_only=True)
class OnFeet:
    """What acts at the joint [N]."""

    off: float  # straight off the face, either way: taken as away from it
    over: float  # along the bend
    side: float  # along the joint's bolt


def pulled(feet: BoltedFeet, acting: OnFeet) -> float:
    """Pull of the worst bolt without prying [N].

    Args:
        feet: with their bolts.
        acting: at the joint.
    """
    off = abs(acting.off) / BOLTS
    over = abs(acting.over) * feet.height / (2 * feet.apart)
    side = abs(acting.side) * feet.height / (BOLTS * (feet.between + feet.lever))
    return off + over + side


def bolt_use(feet: BoltedFeet, material: BoltClass, acting: OnFeet) -> float:
    """How far the worst bolt is used: sheared and pulled together, or pulled alone, its toe's prying with it.

    Args:
        feet: with their bolts.
        material: of these.
        acting: at the joint, factored.
    """
    pull = pulled(feet, acting) * (feet.lever + feet.toe) / feet.toe
    return sheared_and_pulled(feet.bolt, material, hypot(acting.over, acting.side) / BOLTS, pull)


def foot_stress(feet: BoltedFeet, acting: OnFeet) -> float:
    """Bending of a foot through its two bolt holes, as it yields right through [MPa]: both bolts as hard pulled as the worst.

    Args:
        feet: with their bolts.
        acting: at the joint, factored.
    """
    moment = 2 * pulled(feet, acting) * feet.lever
    return 4 * moment / ((feet.width - 2 * feet.hole) * feet.thickness**2)


def bearing_use(feet: BoltedFeet, yield_strength: float, acting: OnFeet) -> float:
    """How far a bolt's hole in the foot is used.

    Args:
        feet: with their bolts.
        yield_strength: of the plate [MPa].
        acting: at the joint, factored.
    """
    return hypot(acting.over, acting.side) / BOLTS / (BEARING * yield_strength * feet.bolt * feet.thickness)


def sleeve_stress(clamp: float, outside: float, bore: float) -> float:
    """Pressure in a crush sleeve that a bolt is torqued on, the walls beside it not counted on [MPa].

    Args:
        clamp: of the bolt [N].
        outside: of the sleeve [mm].
        bore: of it [mm].
    """
    return clamp / (pi / 4 * (outside**2 - bore**2))
