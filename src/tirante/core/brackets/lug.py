"""Strength of a lug (a tab with a pin hole) loaded in its plane: AISC 360 D5 and J7, and at a slant by an interaction of both ways.

Not covered: out-of-plane load, wear of a hole that works, fatigue.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import atan, cos, inf, pi, radians, sin

from tirante.core.errors import InputError

EFFECTIVE_EXTRA = 16.0  # mm, in b_e = 2 t + 16 mm (AISC D5.1)


@dataclass(frozen=True, slots=True, kw_only=True)
class Lug:
    """One plate of a tab pair, and how many there are."""

    thickness: float  # [mm] one plate
    width: float  # [mm] across the load at the hole
    hole: float  # [mm] diameter
    pin: float  # [mm] diameter
    edge: float  # [mm] hole centre to the free end along the load
    plates: int = 2

    def __post_init__(self) -> None:
        if self.hole >= self.width:
            raise InputError(
                "The hole is as wide as the plate or wider.",
                code="contradictory", fields=("hole_mm",), value=self.hole, limits=(0.0, self.width),
            )  # fmt: skip
        if self.pin > self.hole:
            raise InputError(
                "The pin does not go into the hole.",
                code="contradictory", fields=("pin_mm",), value=self.pin, limits=(0.0, self.hole),
            )  # fmt: skip
        if self.edge <= self.hole / 2:
            raise InputError(
                "The hole breaks out of the plate's end.",
                code="contradictory", fields=("edge_mm",), value=self.edge, limits=(self.hole / 2, None),
            )  # fmt: skip

    @property
    def beyond_hole(self) -> float:
        """a: metal between hole and free end along the load [mm]."""
        return self.edge - self.hole / 2

    @property
    def effective_width(self) -> float:
        """b_e: 2 t + 16 mm, at most the metal beside the hole [mm]."""
        return min(2 * self.thickness + EFFECTIVE_EXTRA, (self.width - self.hole) / 2)


@dataclass(frozen=True, slots=True, kw_only=True)
class LugStrength:
    """Nominal strengths of all plates together [N] and the detailing rules."""

    bearing: float
    tension_rupture: float
    shear_rupture: float
    gross_yield: float
    extension_ok: bool  # a at least 1.33 b_e
    hole_ok: bool  # at most 1 mm over the pin
    width_ok: bool  # at least 2 b_e + pin; holds of itself once b_e is capped by the metal beside the hole

    def modes(self) -> dict[str, float]:
        """Strength by mode [N]."""
        return {
            "bearing": self.bearing,
            "tension_rupture": self.tension_rupture,
            "shear_rupture": self.shear_rupture,
            "gross_yield": self.gross_yield,
        }

    @property
    def governing(self) -> str:
        """The weakest mode."""
        modes = self.modes()
        return min(modes, key=lambda mode: modes[mode])


def lug_strength(lug: Lug, yield_strength: float, ultimate_strength: float) -> LugStrength:
    """Nominal in-plane strength: bearing 1.8 Fy d t, rupture on 2 t b_e, tear-out on 2 t (a + d/2), gross yielding.

    Args:
        lug: The plates.
        yield_strength: [MPa]
        ultimate_strength: [MPa]

    Returns:
        Strength by mode, and the D5.2 limits.

    Source:
        AISC 360-16 D5.1, D5.2, J7 (from memory).
    """
    t = lug.thickness * lug.plates
    return LugStrength(
        bearing=1.8 * yield_strength * lug.pin * t,
        tension_rupture=ultimate_strength * 2 * t * lug.effective_width,
        shear_rupture=0.6 * ultimate_strength * 2 * t * (lug.beyond_hole + lug.pin / 2),
        gross_yield=yield_strength * lug.width * t,
        extension_ok=lug.beyond_hole >= 1.33 * lug.effective_width,
        hole_ok=lug.hole <= lug.pin + 1.0,
        width_ok=lug.width >= 2 * lug.effective_width + lug.pin,
    )


POWER = 1.6  # of the interaction: R_a^1.6 + R_t^1.6 = 1, Melcon and Hoblit, from memory


def pulled_across(lug: Lug) -> Lug:
    """The same plates seen along a pull square to their axis: what is beside the hole is beyond it, and what is beyond it beside.

    Of the metal on either side of the hole then, that towards the free end is the less; both are taken as that.

    Args:
        lug: as it is along its axis.
    """
    return Lug(
        thickness=lug.thickness, width=2 * lug.edge, hole=lug.hole, pin=lug.pin, edge=lug.width / 2, plates=lug.plates
    )  # fmt: skip


@dataclass(frozen=True, slots=True, kw_only=True)
class SlantedLug:
    """Rupture strength of a lug along and across its axis [N], and between them."""

    along: float
    across: float

    def at(self, angle_deg: float) -> float:
        """Strength under a pull at an angle from the axis [N].

        Args:
            angle_deg: of either sign [°].
        """
        angle = radians(angle_deg)
        return float(
            ((abs(cos(angle)) / self.along) ** POWER + (abs(sin(angle)) / self.across) ** POWER) ** (-1 / POWER)
        )

    def weakest_between(self, low: float, high: float) -> tuple[float, float]:
        """The angle of least strength within a range [°], and that strength [N].

        The interaction has its one least place between along and across at tan θ = (P_along/P_across)⁴, and its like in every quadrant.

        Args:
            low: [°]
            high: [°]
        """
        inner = atan((self.along / self.across) ** (POWER / (2 - POWER))) * 180 / pi
        found = (inf, low)
        for turn in (-180.0, 0.0, 180.0):
            for angle in (turn - inner, turn + inner):
                if low < angle < high:
                    found = min(found, (self.at(angle), angle))
        for angle in (low, high):
            found = min(found, (self.at(angle), angle))
        return found[1], found[0]


def slanted(lug: Lug, yield_strength: float, ultimate_strength: float) -> SlantedLug:
    """Rupture of a lug under a pull at any angle in its plane: the lesser of net tension and tear-out, along and across.

    Args:
        lug: the plates.
        yield_strength: [MPa]
        ultimate_strength: [MPa]

    Source:
        AISC 360-16 D5.1 either way (across: derived, the hole's sides and end exchanged); interaction by Melcon and Hoblit (from memory).
    """
    along, across = (
        min(found.tension_rupture, found.shear_rupture)
        for found in (lug_strength(one, yield_strength, ultimate_strength) for one in (lug, pulled_across(lug)))
    )
    return SlantedLug(along=along, across=across)
