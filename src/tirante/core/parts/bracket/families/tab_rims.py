"""How much metal is left round a hole that only makes a plate lighter."""

from __future__ import annotations

RIM, LEAST_RIM, MOST_RIM = 2.0, 8.0, 16.0  # plates’ thicknesses; mm at least and at most; common practice, no source


def rim_of(thickness: float) -> float:
    """Metal that is left round a lightening hole [mm].

    Args:
        thickness: of the plate [mm].
    """
    return min(max(RIM * thickness, LEAST_RIM), MOST_RIM)
