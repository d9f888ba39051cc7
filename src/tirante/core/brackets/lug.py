"""Strength of a lug (a tab with a pin hole) loaded in its plane: AISC 360 D5 and J7.

Not covered: out-of-plane load, wear of a hole that works, fatigue.
"""

from __future__ import annotations

from dataclasses import dataclass

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
