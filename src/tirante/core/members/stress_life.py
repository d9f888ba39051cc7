"""Life of plain bar under stresses that go up and down, by the stress-life method: amplitude and mean at the worst fibre, a fatigue strength
from the ultimate, its surface and size, a line between a thousand and a million cycles; Miner's sum over a spectrum.

For round steel bar without welds. Not covered: corrosion, fretting under a bearing, notches other than those whose factor is in the stress,
peening and presetting (both help), decarburised skin.

Source:
    Shigley, Mechanical Engineering Design, ch. 6: Se' = 0.5 Sut (700 MPa at most), surface a Sut^b, size 1.24 d^-0.107, reliability 99 %
    0.814, fraction f at a thousand cycles, Goodman's line, von Mises of amplitudes and means (from memory).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import hypot, inf, log10, sqrt

from tirante.core.errors import InputError
from tirante.core.members.fatigue import FOR_EVER, FULL, Spectrum

SURFACES = {"ground": (1.58, -0.085), "machined": (4.51, -0.265), "hot rolled": (57.7, -0.718)}  # a [MPa], b
RELIABILITY = 0.814
KNEE, FEW = 1e6, 1e3
KSI = 6.894757  # MPa


@dataclass(frozen=True, slots=True, kw_only=True)
class BarSteel:
    """A round steel bar."""

    diameter: float  # [mm]
    ultimate: float  # [MPa]
    surface: str = "hot rolled"

    def __post_init__(self) -> None:
        if self.surface not in SURFACES:
            raise InputError(
                f"There is no surface “{self.surface[:20]}”. There are: {', '.join(SURFACES)}.", code="unknown_surface", fields=("surface",)
            )  # fmt: skip

    @property
    def endurance(self) -> float:
        """Amplitude that it stands without end, fully reversed [MPa]."""
        a, b = SURFACES[self.surface]
        surface = min(1.0, a * self.ultimate**b)
        size = 1.24 * self.diameter**-0.107 if self.diameter <= 51 else 1.51 * self.diameter**-0.157
        return float(min(0.5 * self.ultimate, 700.0) * surface * min(1.0, size) * RELIABILITY)

    @property
    def few(self) -> float:
        """Amplitude at a thousand cycles [MPa]."""
        ksi = min(max(self.ultimate / KSI, 70.0), 200.0)
        return (1.06 - 2.8e-3 * ksi + 6.9e-6 * ksi * ksi) * self.ultimate


def reversed_amplitude(amplitude: float, mean: float, ultimate: float) -> float:
    """The fully reversed amplitude that does as much harm, by Goodman's line; a mean that presses does no good [MPa].

    Args:
        amplitude: of the stress [MPa].
        mean: of it [MPa].
        ultimate: [MPa]
    """
    left = 1 - max(mean, 0.0) / ultimate
    return inf if left <= 0 else amplitude / left


def cycles(steel: BarSteel, amplitude: float, *, several: bool = False) -> float:
    """To failure, of a fully reversed amplitude.

    Args:
        steel: the bar.
        amplitude: [MPa]
        several: one of several, others of which are over the endurance: the line goes on below it.
    """
    if amplitude <= 0:
        return FOR_EVER
    endurance, few = steel.endurance, steel.few
    if amplitude <= endurance and not several:
        return FOR_EVER
    slope = log10(few / endurance) / (log10(KNEE) - log10(FEW))
    found: float = KNEE * (endurance / amplitude) ** (1 / slope)
    return max(1.0, min(FOR_EVER, found))  # what breaks at once has gone through one


def bar_life(steel: BarSteel, amplitude: float, mean: float = 0.0, spectrum: Spectrum = FULL) -> float:
    """Cycles of a spectrum to failure, by Miner’s sum; the mean goes with the amplitude.

    Args:
        steel: the bar.
        amplitude: of the fullest cycle [MPa].
        mean: of it [MPa].
        spectrum: of all cycles the share at each fraction of the full range.
    """
    most = max((fraction for share, fraction in spectrum if share > 0), default=1.0)
    several = len(spectrum) > 1 and reversed_amplitude(amplitude * most, mean * most, steel.ultimate) > steel.endurance
    used = 0.0
    for share, fraction in spectrum:
        one = reversed_amplitude(amplitude * fraction, mean * fraction, steel.ultimate)
        n = cycles(steel, one, several=several)
        if n < FOR_EVER:
            used += share / n
    return FOR_EVER if used <= 0 else min(FOR_EVER, 1 / used)


def equivalent(bending: Sequence[float], torsion: float, direct: float = 0.0) -> float:
    """Von Mises stress of bending about two axes of a round bar, torsion and a direct stress [MPa].

    Args:
        bending: stresses of both [MPa].
        torsion: [MPa]
        direct: [MPa]
    """
    return sqrt((abs(direct) + hypot(*bending)) ** 2 + 3 * torsion**2)
