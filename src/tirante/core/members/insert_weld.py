"""The weld that holds a threaded insert in a tube: a fillet ring at the tube's end and plug welds through its wall.

Not covered: weld quality, the tube beside the weld (see `tube.net_section`), fatigue.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import pi

SHEAR_OF_ELECTRODE = 0.6  # AISC 360 Table J2.5
SHEAR_OF_BASE = 0.6  # AISC 360 J4.2
THROAT_OF_LEG = 0.707  # equal-leg fillet at 45°


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
