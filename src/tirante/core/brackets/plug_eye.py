"""A solid plug in a tube's open end, plug and tube bored across for a pin.

The pin's force is taken to go through the plug alone, and from it by its welds into the tube: a way that it can go without yielding is one that
it holds at least by (lower bound of plastic theory), and what the tube's own wall bears beside it is not counted on. As an eye the plug is a
flat as wide as the tube’s bore and as thick as the chords beside the hole are on average, so that its metal across the hole is the round's own.
Not covered: the plug loose in its bore, a pin that turns in it and wears it.

Source:
    Area of a disc beside a slot through its middle: integral of its chords (derived). Net and torn strength: AISC 360 D5 by `lug`, from memory.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import asin, pi, sqrt

from tirante.core.brackets.lug import Lug
from tirante.core.errors import InputError


@dataclass(frozen=True, slots=True, kw_only=True)
class PlugEye:
    """A plug bored across [mm]."""

    bore: float  # of the tube, that it fills
    hole: float
    pin: float
    edge: float  # from the hole's centre to the plug's own outer end

    def __post_init__(self) -> None:
        if self.hole >= self.bore:
            raise InputError(
                f"The hole, {self.hole:g} mm, is as wide as the plug in a bore of {self.bore:g} mm: give it a smaller pin, or take a larger tube.",
                code="contradictory", fields=("hole_mm",), value=self.hole, limits=(0.0, self.bore),
            )  # fmt: skip

    @property
    def net_area(self) -> float:
        """Of the round across the hole [mm²]."""
        r, h = self.bore / 2, self.hole / 2
        return pi * r * r - 2 * (h * sqrt(r * r - h * h) + r * r * asin(h / r))

    @property
    def mean_chord(self) -> float:
        """Of the metal on either side of the hole, along the pin [mm]."""
        return self.net_area / (self.bore - self.hole)

    @property
    def lug(self) -> Lug:
        """The flat that stands for it."""
        return Lug(thickness=self.mean_chord, width=self.bore, hole=self.hole, pin=self.pin, edge=self.edge, plates=1)
