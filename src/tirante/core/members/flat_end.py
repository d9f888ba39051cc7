"""The end of a round tube that a flat is made of: plates let into slots of it and welded, or the tube itself squashed flat.

A let-in plate stands through the tube, its faces welded to the wall where they leave it: four fillets a plate. The tube is torn across the slots'
inner ends, what lags behind the plate taken off as for one plate through the middle, which is worse than for two. A squashed end is two
walls lying on each other, folded at their edges as sharply as they are thick.
Not covered: the tube's wall between two plates bent inward, cracks where a tube was squashed too sharply, what rusts in an open one.

Source:
    Slotted round tube with a plate through it: AISC 360 Table D3.1 case 5 (x̄ = D/π, l at least D; U 1.0 from 1.3 D), D2 rupture, J2.4 fillets, J4.2
    base metal in shear, all from memory. Widths by the circle (derived).
"""

from __future__ import annotations

from dataclasses import dataclass
from math import asin, pi, sqrt

from tirante.core.errors import InputError
from tirante.core.members.insert_weld import SHEAR_OF_ELECTRODE, THROAT_OF_LEG

SLOT = 0.5  # mm of a slot over its plate; common practice, no source
FULL = 1.3  # tube diameters of lap, from which nothing lags
BASE_SHEAR = 0.6  # of the ultimate strength


@dataclass(frozen=True, slots=True, kw_only=True)
class LetIn:
    """Plates let into a tube's end [mm]."""

    od: float
    wall: float
    thickness: float
    plates: int  # one through the middle, or two
    gap: float  # between two
    lap: float  # from the tube's end to the slots' inner ends
    leg: float  # of the fillets

    def __post_init__(self) -> None:
        if self.plates == 2 and self.gap <= 0:
            raise InputError(
                "Nothing goes between the plates of the clevis. Give the gap.", code="missing", fields=("gap_mm",)
            )
        if self.outermost >= self.od / 2 - self.wall:
            raise InputError(
                f"The plates, {2 * self.outermost:.1f} mm over both, do not stand through a tube of {self.od:g} mm. Set them nearer, or make them thinner.",
                code="contradictory", fields=("gap_mm",), value=self.gap, limits=(None, self.od - 2 * self.wall - 2 * self.thickness),
            )  # fmt: skip
        if self.lap < self.od:
            raise InputError(
                f"The plates go {self.lap:g} mm into the tube: less than it is wide, and the rule for what lags behind them does not reach there. Let them in {self.od:g} mm or more.",
                code="out_of_range", fields=("lap_mm",), value=self.lap, limits=(self.od, None),
            )  # fmt: skip

    @property
    def outermost(self) -> float:
        """From the tube's middle to the outermost face of a plate."""
        return self.thickness / 2 if self.plates == 1 else self.gap / 2 + self.thickness

    @property
    def least_width(self) -> float:
        """Of a plate, so that its fillets lie on it: what of it stands out of the tube on either side is a leg wide."""
        inner = self.outermost - self.thickness if self.plates == 2 else 0.0
        return 2 * sqrt((self.od / 2) ** 2 - inner**2) + 2 * self.leg

    @property
    def cut(self) -> float:
        """What all slots take of the tube's middle line."""
        r, over = (self.od - self.wall) / 2, SLOT / 2
        if self.plates == 1:
            return 4 * r * asin(min(1.0, (self.thickness / 2 + over) / r))
        low, high = self.gap / 2 - over, self.outermost + over
        return 4 * r * (asin(min(1.0, high / r)) - asin(max(0.0, low) / r))


def lag(of: LetIn) -> float:
    """What part of the tube beside its slots is pulled along: U of Table D3.1.

    Args:
        of: the end.
    """
    return 1.0 if of.lap >= FULL * of.od else 1.0 - of.od / pi / of.lap


def tube_rupture(of: LetIn, uts: float) -> float:
    """Strength of the tube across its slots [N].

    Args:
        of: the end.
        uts: of the tube where it is welded [MPa].
    """
    area = pi * (of.od - of.wall) * of.wall - of.cut * of.wall
    return lag(of) * max(0.0, area) * uts


def weld_strength(of: LetIn, tube_uts: float, plate_uts: float, electrode: float) -> float:
    """Strength of its fillets, or of the metal beside them where that shears first [N].

    Args:
        of: the end.
        tube_uts: where it is welded [MPa].
        plate_uts: of the plates [MPa].
        electrode: of the weld's metal [MPa].
    """
    fillets = 4 * of.plates * of.lap * THROAT_OF_LEG * of.leg * SHEAR_OF_ELECTRODE * electrode
    wall = 4 * of.plates * of.lap * of.wall * BASE_SHEAR * tube_uts
    plate = 2 * of.plates * of.lap * of.thickness * BASE_SHEAR * plate_uts
    return min(fillets, wall, plate)


def squashed(od: float, wall: float) -> tuple[float, float]:
    """Width and thickness of a tube's end squashed flat, its metal as much as it was [mm].

    Args:
        od: of the tube [mm].
        wall: of it [mm].
    """
    return pi * (od - 2 * wall) / 2 + 2 * wall, 2 * wall
