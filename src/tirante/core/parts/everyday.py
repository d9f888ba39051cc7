"""What a part goes through day by day, by what the car is for: how many cycles are wanted, and how many of them go the whole way."""

from __future__ import annotations

from tirante.core.document.settings import Settings
from tirante.core.members.fatigue import FULL, Spectrum, straight_line

BY_USE = {"road": 1e6, "circuit": 1e5, "off-road": 1e5}  # cycles; common practice, no source
# On a circuit every corner is near the limit, and off the road every blow; on roads hardly one in a thousand is. Common practice, no source.
FULL_ONE_IN = {"road": 1000.0, "circuit": 1.0, "off-road": 1.0}


def spectrum_of(settings: Settings, use: str) -> Spectrum:
    """Of all everyday cycles the share at each fraction of the full range.

    Args:
        settings: of the shop; a spectrum of its own is taken as it stands.
        use: what the car is for.
    """
    if tuple(settings.everyday) != tuple(FULL):
        return settings.everyday
    return straight_line(settings.full_one_in or FULL_ONE_IN[use])


def for_use(settings: Settings, use: str) -> Settings:
    """Settings whose spectrum is the one that counts for this use.

    Args:
        settings: of the shop.
        use: what the car is for.
    """
    found = tuple(spectrum_of(settings, use))
    return settings if found == settings.everyday else settings.model_copy(update={"everyday": found})


def told(settings: Settings) -> str:
    """What a note says of a spectrum that is not all full cycles; of settings that `for_use` gave."""
    full = sum(share for share, fraction in settings.everyday if fraction == 1.0)
    return "" if full >= 1.0 else f"; of the cycles {full:.3g} are full, the rest smaller"
