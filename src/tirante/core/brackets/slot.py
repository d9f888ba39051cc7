"""A bolt in a slot: what friction holds along it, and the metal beside it, bent across it.

Along the slot nothing but the clamp holds: at either end the bolt bears too, which is not counted. Not covered: cams, serrated plates, washers
that are welded over the slot once it is set (each holds more than friction alone; none is counted), wear, a bolt that loses its clamp.

Source:
    EN 1993-1-8, 3.9.1: slip-resistant connections, k_s of long slots along the force, γ_M3; EN 1090-2: surfaces as they are (from memory).
    A strip fixed at both ends under a force at its middle: Roark, Table 8.1 (from memory).
"""

from __future__ import annotations

SLIP = 0.2  # friction of steel on steel as it is, class D of EN 1090-2, from memory
LONG_SLOT = 0.63  # k_s: EN 1993-1-8 Table 3.6, from memory
SLIP_FACTOR = 1.25  # γ_M3, from memory
FACES = 2  # the inner face of either plate; that washers hold the outer ones too is not counted


def slip_resistance(clamp: float, faces: int = FACES) -> float:
    """What friction holds along a slot [N].

    Args:
        clamp: of the bolt [N].
        faces: that rub.

    Source:
        EN 1993-1-8 (3.6): k_s n μ F_p / γ_M3 (from memory).
    """
    return LONG_SLOT * faces * SLIP * clamp / SLIP_FACTOR


def beside_stress(force: float, length: float, width: float, thickness: float, beside: float, plates: int = 2) -> float:
    """Bending in the strip of metal beside a slot that the bolt presses on half way along it [MPa].

    Args:
        force: across the slot, of all plates [N].
        length: of the slot's middle line [mm].
        width: of the slot [mm].
        thickness: of one plate [mm].
        beside: metal between slot and edge [mm].
        plates: that share it.

    Source:
        F (l + w)/8 over t h²/6: a strip as long as the slot with its round ends, fixed at both (Roark Table 8.1, from memory).
    """
    return force / plates * (length + width) / 8 / (thickness * beside**2 / 6)
