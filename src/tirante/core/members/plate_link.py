"""A link cut from plate: pressed and bent its weaker way, by itself or two side by side.

Pinned at both ends in either plane, which is safe where its bolts hold it square; two plates bend each by itself, since nothing ties them
along their length. Not covered: twist, edges that buckle, the bolts.

Source:
    Column Shigley and AISC 360 E3, the lower (from memory); P/A + M c/I with the moment grown by 1/(1 − P/Pe), AISC 360 App. 8 (from memory).
"""

from __future__ import annotations

from dataclasses import dataclass
from math import inf, pi, sqrt

from tirante.core.members.column import column_strength


@dataclass(frozen=True, slots=True, kw_only=True)
class FlatLink:
    """Flat bar between two eyes [mm]."""

    length: float
    width: float
    thickness: float  # of one plate
    plates: int = 1

    @property
    def area(self) -> float:
        """[mm²]"""
        return self.plates * self.width * self.thickness

    @property
    def second_moment(self) -> float:
        """The weaker way, of all plates about their own middles [mm⁴]."""
        t, w = min(self.thickness, self.width), max(self.thickness, self.width)
        return self.plates * w * t**3 / 12

    @property
    def radius_of_gyration(self) -> float:
        """The least: across the thinner way of one plate [mm]."""
        return min(self.thickness, self.width) / sqrt(12)

    @property
    def modulus(self) -> float:
        """Against bending the weaker way, of all plates [mm³]."""
        t, w = min(self.thickness, self.width), max(self.thickness, self.width)
        return self.plates * w * t * t / 6

    def column(self, yield_strength: float, elastic_modulus: float) -> float:
        """What it bears pressed, the lower of both methods [N].

        Args:
            yield_strength: [MPa]
            elastic_modulus: [MPa]
        """
        found = column_strength(self, self.length, yield_strength, elastic_modulus)
        return min(found.critical, found.aisc_e3)

    def euler(self, elastic_modulus: float) -> float:
        """Elastic critical force the weaker way [N]."""
        return self.area * pi**2 * elastic_modulus * (self.radius_of_gyration / self.length) ** 2


def flat_stress(link: FlatLink, axial: float, strike: float, side: float, elastic_modulus: float) -> float:
    """Greatest stress, bent its weaker way; infinite where the push reaches its Euler load [MPa].

    Args:
        link: the plates.
        axial: force, pull positive [N].
        strike: square to it at mid-span [N].
        side: square to it at an eye, held at the other [N].
        elastic_modulus: [MPa]
    """
    push = max(0.0, -axial)
    euler = link.euler(elastic_modulus)
    if push >= euler:
        return inf
    moment = (abs(strike) * link.length / 4 + abs(side) * link.length) / (1 - push / euler)
    return abs(axial) / link.area + moment / link.modulus
