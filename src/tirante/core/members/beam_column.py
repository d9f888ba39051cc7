"""Tubes that are bowed, kinked, loaded off their axis or struck at mid-span while compressed or pulled: exact second order.

All four effects are linear in the offset for a given axial load, so they add. y is the distance of the tube's axis
from the line through the pins; M = P y + the moment of the lateral load. A pull draws the offsets straight and holds up
against a strike; which way a bow lies is not known, so that their moments count together.

Not covered: lateral load away from mid-span, unequal eccentricities.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from math import cos, cosh, pi, sin, sinh, sqrt, tanh

from tirante.core.errors import InputError, NotApplicable
from tirante.core.members.tube import Section


@dataclass(frozen=True, slots=True, kw_only=True)
class Kink:
    """Straight pieces meeting at `offset` from the pin line, at `from_ends` from either pin (half the length: one kink)."""

    offset: float  # [mm]
    from_ends: float  # [mm]


@dataclass(frozen=True, slots=True, kw_only=True)
class BeamColumn:
    """A pin-ended tube with its imperfections and side load."""

    section: Section
    length: float  # [mm]
    elastic_modulus: float  # [MPa]
    mid_lateral: float = 0.0  # [N]
    eccentricity: float = 0.0  # [mm] equal at both ends
    bow: float = 0.0  # [mm] half sine
    kink: Kink | None = None

    def __post_init__(self) -> None:
        if self.kink and not 0 < self.kink.from_ends <= self.length / 2:
            raise InputError(
                f"A kink lies between a pin and mid-span: more than 0 and at most {self.length / 2:g} mm from the ends.",
                code="out_of_range",
                fields=("kink.from_ends_mm",),
                value=self.kink.from_ends,
                limits=(0.0, self.length / 2),
            )

    @property
    def euler(self) -> float:
        """Elastic critical load of the straight tube [N]."""
        return pi**2 * self.elastic_modulus * self.section.second_moment / self.length**2


@dataclass(frozen=True, slots=True, kw_only=True)
class Response:
    """What the axial load does to the tube."""

    mid_deflection: float  # [mm] total offset from the pin line at mid-span
    max_moment: float  # [N·mm] largest magnitude along the tube
    max_stress: float  # [MPa] compressive fibre


def _offset_line(beam: BeamColumn, axial: float) -> Callable[[float], float]:
    """y(x) for 0 ≤ x ≤ L/2 (the line is symmetrical), exact for the given compression."""
    half = beam.length / 2
    flexural = beam.elastic_modulus * beam.section.second_moment
    k = sqrt(axial / flexural)
    u = k * half
    # below this the amplification differs from 1 by less than a rounding error and the closed forms cancel
    straight = u < 1e-4
    kink = beam.kink

    def line(x: float) -> float:
        y = beam.bow * sin(pi * x / beam.length) / (1 - axial / beam.euler)
        if straight:
            y += beam.eccentricity + beam.mid_lateral * x * (3 * beam.length**2 - 4 * x**2) / (48 * flexural)
            if kink:
                y += kink.offset * min(1.0, x / kink.from_ends)
            return y
        y += beam.eccentricity * cos(k * (half - x)) / cos(u)
        y += beam.mid_lateral / (2 * axial) * (sin(k * x) / (k * cos(u)) - x)
        if kink:
            a = kink.from_ends
            slope = kink.offset / (a * k * cos(u))
            y += slope * (sin(k * x) * cos(k * (half - a)) if x < a else sin(k * a) * cos(k * (half - x)))
        return y

    return line


def response(beam: BeamColumn, axial: float) -> Response:
    """Deflection, moment and stress under `axial` compression, equilibrium written on the bent shape.

    With only a lateral force F the moment is (F L / 4) tan u / u, u = (π/2) √(P/Pe); with only an eccentricity e it is
    P e sec u (the secant formula); a half-sine bow grows by 1 / (1 − P/Pe).

    Args:
        beam: The tube with its imperfections.
        axial: compression, not negative [N]

    Returns:
        Mid-span offset, greatest moment, greatest compressive stress.

    Raises:
        NotApplicable: `axial` reaches the Euler load.

    Source:
        Timoshenko and Gere ch. 1 (derived; docs/methods.md); Roark and Shigley give the same cases.
    """
    if axial >= beam.euler:
        raise NotApplicable(
            f"The compression, {axial:.6g} N, reaches the Euler load, {beam.euler:.6g} N: the tube has no bent "
            "equilibrium. Use a stiffer or shorter tube.",
            code="beyond_euler",
            fields=("axial_compression_n",),
            value=axial,
            limits=(0.0, beam.euler),
        )
    line = _offset_line(beam, axial)
    half = beam.length / 2

    def moment(x: float) -> float:
        return axial * line(x) + beam.mid_lateral * x / 2

    signs = [beam.mid_lateral, beam.eccentricity, beam.bow, beam.kink.offset if beam.kink else 0.0]
    largest = max(abs(moment(half)), abs(moment(0.0)))
    if min(signs) < 0 < max(signs):  # opposed effects may peak elsewhere
        largest = max(largest, _peak(lambda x: abs(moment(x)), half))
    section = beam.section
    return Response(
        mid_deflection=line(half),
        max_moment=largest,
        max_stress=axial / section.area + largest * section.od / 2 / section.second_moment,
    )


def pulled(beam: BeamColumn, tension: float) -> Response:
    """Deflection, moment and stress under a pull, equilibrium written on the bent shape.

    With k = √(P/EI), u = kL/2: F tanh u / (2k) of a strike; P b / (1 + P/Pe) of a bow; P e of an eccentricity, at the pins; P y of a kink,
    y = c sinh(ka) cosh(k(L/2 − a)) / (ka cosh u). They are taken to stand at one place and one way round: on the safe side.

    Args:
        beam: the tube with its imperfections.
        tension: not negative [N].

    Source:
        Timoshenko and Gere ch. 1, beam with a pull (derived; docs/methods.md); Roark gives the same cases.
    """
    section, half = beam.section, beam.length / 2
    flexural = beam.elastic_modulus * section.second_moment
    k = sqrt(tension / flexural)
    u = k * half
    strike = abs(beam.mid_lateral)
    if u < 1e-4:  # the closed forms cancel, and the pull does nothing to the shape
        moment, offset = strike * beam.length / 4, strike * beam.length**3 / (48 * flexural)
        kinked = abs(beam.kink.offset) if beam.kink else 0.0
    else:
        moment = strike / (2 * k) * tanh(u)
        offset = strike / (2 * tension) * (half - tanh(u) / k)
        kinked = 0.0
        if beam.kink:
            a = beam.kink.from_ends
            kinked = abs(beam.kink.offset) * sinh(k * a) * cosh(k * (half - a)) / (k * a * cosh(u))
    bowed = abs(beam.bow) / (1 + tension / beam.euler)
    moment += tension * (bowed + kinked + abs(beam.eccentricity))
    stress = tension / section.area + moment * section.od / 2 / section.second_moment
    return Response(mid_deflection=offset + bowed + kinked, max_moment=moment, max_stress=stress)


def _peak(function: Callable[[float], float], half: float, steps: int = 400) -> float:
    best = max(range(steps + 1), key=lambda i: function(half * i / steps))
    low, high = half * max(best - 1, 0) / steps, half * min(best + 1, steps) / steps
    for _ in range(100):
        third = (high - low) / 3
        if function(low + third) < function(high - third):
            low += third
        else:
            high -= third
    return function((low + high) / 2)


def first_yield(beam: BeamColumn, yield_strength: float) -> float:
    """Axial compression at which the worst fibre first yields, the lateral load held; 0 if it already yields.

    Args:
        beam: The tube with its imperfections.
        yield_strength: [MPa]

    Returns:
        Compression, at most the lower of squash and Euler load [N].

    Source:
        As `response`; Roark; Shigley.
    """

    def excess(axial: float) -> float:
        return response(beam, axial).max_stress - yield_strength

    if excess(0.0) >= 0:
        return 0.0
    low, high = 0.0, min(beam.section.area * yield_strength, beam.euler)
    if high < beam.euler and excess(high) < 0:
        return high
    for _ in range(200):
        middle = (low + high) / 2
        if middle in (low, high):
            break
        if excess(middle) < 0:
            low = middle
        else:
            high = middle
    return low
