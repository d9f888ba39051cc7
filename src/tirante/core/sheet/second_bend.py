"""A U's second bend on a press brake: the first ear stands up already, and comes over toward the punch as the base lifts on both sides of it.

The sheet lies on a V die, the punch goes down at the bend's middle, and both sides lift by half of the angle. Faces are taken as they run on to
the inside corners, without their radii. Not covered: clamps and the machine's frame above the punch, springback of the first ear.

Source:
    Two turns of a right angle in the plane (derived). Usual punch: common practice, no source.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import cos, radians, sin, tan

USUAL_PUNCH = 20.0  # mm, thickness of a straight punch’s body; common practice, no source
PUNCH_HALF_DEG = 43.0  # °, from its middle to its flank below that body: 86° in all; common practice, no source


@dataclass(frozen=True, slots=True, kw_only=True)
class SecondBend:
    """How the first ear's tip passes the punch at the end of the second bend [mm]."""

    aside: float  # from the punch's middle to the tip's inner face; less than nothing: past the middle
    above: float  # over the sheet's inside corner
    clear: float  # between the ear and a straight punch; less than nothing: it is in the way


def second_bend(gap: float, ear: float, set_deg: float, punch: float = USUAL_PUNCH) -> SecondBend:
    """The first ear beside the punch as the second one is bent; it comes nearest at the very end, its tip first.

    Args:
        gap: between the ears, inside [mm].
        ear: from the base's inner face to its tip [mm].
        set_deg: angle that the bend is set to [°].
        punch: thickness of the punch's body [mm].
    """
    turn = radians(set_deg / 2)
    aside, above = gap * cos(turn) - ear * sin(turn), gap * sin(turn) + ear * cos(turn)
    half = min(punch / 2, above * tan(radians(PUNCH_HALF_DEG)))
    return SecondBend(aside=aside, above=above, clear=aside - half)


def second_bend_told(bend: SecondBend, gap: float, punch: float) -> str:
    """What is to be known of it at the brake, in words; empty where a straight punch clears.

    Args:
        bend: as it ends.
        gap: between the ears, inside [mm].
        punch: thickness of the straight punch [mm].
    """
    if bend.clear >= 0:
        return ""
    how = (
        f"a goose-necked one whose throat goes back {-bend.aside:.0f} mm and more past its tip"
        if bend.aside <= 0
        else f"one whose body stands out {bend.aside:.0f} mm at most from its tip to that side"
    )
    return (
        f"as the second ear is bent the first one strikes a straight punch {punch:g} mm thick, {bend.above:.0f} mm over its tip: take {how}, "
        f"or fold it over fingers no longer than {gap:.0f} mm that are taller than the ear"
    )
