"""Straight columns: Euler and Johnson, AISC E3, and columns whose section steps along their length.

Not covered: end moments and side load (see `beam_column`), wall buckling (see `tube`), torsion.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import atan2, cos, inf, pi, sin, sqrt
from typing import Literal, Protocol

from tirante.core.errors import InputError


@dataclass(frozen=True, slots=True, kw_only=True)
class ColumnStrength:
    """Nominal compression strengths of a uniform column, magnitudes."""

    slenderness: float  # effective length over radius of gyration [-]
    transition_slenderness: float  # [-]
    euler: float  # [N]
    johnson: float  # [N]; without meaning above the transition
    aisc_e3: float  # [N]

    @property
    def governing(self) -> Literal["euler", "johnson"]:
        """Which of the two curves holds at this slenderness."""
        return "euler" if self.slenderness > self.transition_slenderness else "johnson"

    @property
    def critical(self) -> float:
        """The force of the governing curve [N]."""
        return self.euler if self.governing == "euler" else self.johnson


class CrossSection(Protocol):
    """What a column asks of its section."""

    @property
    def area(self) -> float:
        """[mm²]"""

    @property
    def radius_of_gyration(self) -> float:
        """The least [mm]."""


def column_strength(
    section: CrossSection, length: float, yield_strength: float, elastic_modulus: float, k: float = 1.0
) -> ColumnStrength:
    """Euler above, Johnson below the transition √(2π²E/Sy); beside them AISC E3, which allows for crookedness.

    Args:
        section: Uniform along the length.
        length: between the pins [mm]
        yield_strength: [MPa]
        elastic_modulus: [MPa]
        k: effective length factor, 1 between spherical ends [-]

    Returns:
        All three strengths.

    Source:
        Shigley, columns; AISC 360-16 E3 (from memory).
    """
    slenderness = k * length / section.radius_of_gyration
    elastic_stress = pi**2 * elastic_modulus / slenderness**2
    euler = section.area * elastic_stress
    johnson = section.area * yield_strength * (1 - yield_strength / (4 * elastic_stress))
    if yield_strength / elastic_stress <= 2.25:
        aisc_stress = 0.658 ** (yield_strength / elastic_stress) * yield_strength
    else:
        aisc_stress = 0.877 * elastic_stress
    return ColumnStrength(
        slenderness=slenderness,
        transition_slenderness=sqrt(2 * pi**2 * elastic_modulus / yield_strength),
        euler=euler,
        johnson=johnson,
        aisc_e3=section.area * aisc_stress,
    )


class Stiff(Protocol):
    """A section of a stretch."""

    @property
    def area(self) -> float:
        """[mm²]"""

    @property
    def second_moment(self) -> float:
        """The way that it bends easiest [mm⁴]."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Segment:
    """A stretch of a stepped column."""

    length: float  # [mm]
    section: Stiff
    elastic_modulus: float  # [MPa]
    yield_strength: float | None = None  # [MPa]


@dataclass(frozen=True, slots=True, kw_only=True)
class SteppedStrength:
    """Strength of a stepped column, magnitudes; squash and critical only when every yield is known."""

    elastic_critical: float  # [N]
    squash: float | None  # [N]
    critical: float | None  # [N]


def _phase(pieces: Sequence[tuple[float, float]], force: float) -> float:
    """Prüfer phase of the deflected line at the far pin under `force`; it passes π at the critical load.

    In a segment y'' = −k² y with k = √(P/EI), so tan φ = k y / y' advances by k·length; at a step y and y' are
    continuous, so only k changes and φ stays in its quadrant. Exact: no subdivision, no finite element.

    Args:
        pieces: (length, 1/√EI) of each segment.
        force: [N]
    """
    root = sqrt(force)
    phase, previous = 0.0, 0.0
    for length, softness in pieces:
        if previous:
            turns = 2 * pi * ((phase + pi) // (2 * pi))
            rest = phase - turns
            phase = turns + atan2(sin(rest) * softness / previous, cos(rest))
        phase += root * softness * length
        previous = softness
    return phase


def _critical_load(pieces: Sequence[tuple[float, float]], low: float, high: float) -> float:
    """Where the phase, which rises with the force, reaches π: bisection guarded by regula falsi (Illinois)."""
    f_low, f_high = _phase(pieces, low) - pi, _phase(pieces, high) - pi
    if f_low >= 0:
        return low
    if f_high <= 0:
        return high
    side = 0
    for _ in range(200):
        middle = low + (high - low) * f_low / (f_low - f_high)
        if not low < middle < high:
            middle = (low + high) / 2
        if middle in (low, high) or high - low <= 4e-16 * high:
            break
        f = _phase(pieces, middle) - pi
        if f == 0:
            return middle
        if f < 0:
            low, f_low = middle, f
            f_high = f_high / 2 if side == -1 else f_high
            side = -1
        else:
            high, f_high = middle, f
            f_low = f_low / 2 if side == 1 else f_low
            side = 1
    return low if abs(f_low) < abs(f_high) else high


def stepped_column(segments: Sequence[Segment]) -> SteppedStrength:
    """Critical load of a pin-ended column whose section steps, and Johnson's parabola on it.

    Pe is the least load at which the exact deflected line returns to the far pin. Py = least A·Sy. The strength is
    Py (1 − Py / 4 Pe), and Pe when Py > 2 Pe: Johnson itself for a uniform tube.

    Args:
        segments: from pin to pin, in order.

    Returns:
        Elastic critical load; squash and strength when every segment has a yield.

    Raises:
        InputError: no segments.

    Source:
        Timoshenko and Gere ch. 2 (derived; docs/methods.md).
    """
    if not segments:
        raise InputError("A column needs at least one segment.", fields=("segments",))
    length = sum(segment.length for segment in segments)
    stiffness = [segment.elastic_modulus * segment.section.second_moment for segment in segments]
    low, high = (pi**2 * value / length**2 for value in (min(stiffness), max(stiffness)))
    pieces = [(segment.length, 1 / sqrt(ei)) for segment, ei in zip(segments, stiffness, strict=True)]
    elastic = _critical_load(pieces, low * (1 - 1e-12), high * (1 + 1e-12))
    squash = inf
    for segment in segments:
        if segment.yield_strength is None:
            return SteppedStrength(elastic_critical=elastic, squash=None, critical=None)
        squash = min(squash, segment.section.area * segment.yield_strength)
    critical = elastic if squash > 2 * elastic else squash * (1 - squash / (4 * elastic))
    return SteppedStrength(elastic_critical=elastic, squash=squash, critical=critical)
