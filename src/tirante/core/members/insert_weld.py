"""The weld that holds a threaded insert in a tube: a fillet ring at the tube's end and plug welds through its wall.

Not covered: weld quality, the tube beside the weld (see `tube.net_section`), fatigue.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import pi

SHEAR_OF_ELECTRODE = 0.6  # AISC 360 Table J2.5
SHEAR_OF_BASE = 0.6  # AISC 360 J4.2
THROAT_OF_LEG = 0.707  # equal-leg fillet at 45°


USUAL_LEG = 4.0  # mm, on a wall that takes it; common practice, no source
# shear ultimate of aluminium fillers, Aluminum Design Manual table J.2.1, from memory [MPa]
ALUMINIUM_SHEAR = {"4043": 79.0, "5356": 117.0}
STAINLESS_UTS = 517.0  # MPa: E308L, 75 ksi, from memory


@dataclass(frozen=True, slots=True)
class Legs:
    """Legs that a fillet may have [mm]."""

    least: float
    most: float
    usual: float


def legs_for(thinner: float) -> Legs:
    """Least and greatest leg of a fillet by the thinner wall that it joins, and the one taken where none is given [mm].

    No more than the wall, which a larger one burns through; from 3 mm on no less than Table J2.4 asks, but never more than the wall. Under
    3 mm it is the wall (common practice).

    Args:
        thinner: wall [mm].

    Source:
        AISC 360-16 Table J2.4 (from memory).
    """
    if thinner < 3.0:
        return Legs(0.0, thinner, thinner)
    least = 3.0 if thinner <= 6.0 else 5.0 if thinner <= 13.0 else 6.0 if thinner <= 19.0 else 8.0
    return Legs(min(least, thinner), thinner, max(min(least, thinner), min(thinner, USUAL_LEG)))


def filler_ultimate(family: str, steel: float, titanium: float, aluminium: str) -> float:
    """What a filler metal holds, by the metal that it joins: its ultimate, of which 0.6 is its shear [MPa].

    Args:
        family: of the tube's metal.
        steel: the shop's electrode for steel [MPa].
        titanium: of the tube as welded; its filler is of its own grade [MPa].
        aluminium: which filler, "4043" or "5356".

    Source:
        AWS classes; Aluminum Design Manual J.2 (from memory).
    """
    if family == "aluminium":
        return ALUMINIUM_SHEAR[aluminium] / SHEAR_OF_ELECTRODE
    if family == "stainless":
        return STAINLESS_UTS
    return titanium if family == "titanium" else steel


@dataclass(frozen=True, slots=True, kw_only=True)
class InsertWeld:
    """Nominal shear strengths [N]."""

    ring: float
    plugs: float

    @property
    def capacity(self) -> float:
        """Ring and plugs together [N]."""
        return self.ring + self.plugs


def insert_weld(
    tube_od: float, leg: float, plug_diameter: float, plugs: int, electrode_ultimate: float, base_ultimate: float
) -> InsertWeld:
    """Nominal strength of ring and plug welds along the tube's axis.

    Ring: 0.6 FEXX on the throat 0.707 leg around the tube, or 0.6 Fu of the base on the leg if that is less. Plugs:
    0.6 of the lower of electrode and base on the plug's area in the faying surface.

    Args:
        tube_od: ring's diameter [mm]
        leg: fillet leg, 0 for none [mm]
        plug_diameter: [mm]
        plugs: number of plug welds
        electrode_ultimate: [MPa]
        base_ultimate: the weaker of tube and insert [MPa]

    Returns:
        Both strengths.

    Source:
        AISC 360-16 J2.3, J2.4, J4.2 (from memory).
    """
    around = pi * tube_od * leg
    ring = around * min(SHEAR_OF_ELECTRODE * electrode_ultimate * THROAT_OF_LEG, SHEAR_OF_BASE * base_ultimate)
    each = pi * plug_diameter**2 / 4 * SHEAR_OF_ELECTRODE * min(electrode_ultimate, base_ultimate)
    return InsertWeld(ring=ring, plugs=plugs * each)
