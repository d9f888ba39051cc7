"""How a design writes lengths on its drawings: its own unit or the one asked for."""

from __future__ import annotations

from tirante.core.document.settings import Settings
from tirante.core.drawing.sheet import Numbers
from tirante.core.quantities import Unit


def numbers_of(settings: Settings, unit: Unit | None = None) -> Numbers:
    """How a design writes lengths; in the unit asked for, else its own."""
    return Numbers(unit=unit or settings.units, decimals=settings.decimals, inch_denominator=settings.inch_denominator)
