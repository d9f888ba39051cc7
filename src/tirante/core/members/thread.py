"""Screw threads: sizes from the designation, limits of their class, stress area, shear areas and engagement.

Strip takes the limits of the class on both threads (external 2A or 6g, internal 2B or 6H: rod ends of a closer class are on
the safe side of it), or basic sizes where that is asked for. Not covered: tapered, trapezoidal and buttress threads.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from fractions import Fraction
from functools import lru_cache
from math import inf, pi, sqrt
from typing import Literal

from tirante.core.errors import InputError
from tirante.core.units import INCH_EXACT

SHEAR_OF_ULTIMATE = 0.5  # FED-STD-H28 takes shear strength as half of tensile
_UNIFIED = re.compile(
    r"^#?(?P<size>\d+\s+\d+/\d+|\d+-\d+/\d+|\d+/\d+|\d*\.\d+|\d+)\s*-\s*(?P<tpi>\d+(?:\.\d+)?)"
    r"(?:\s*(?:UNC|UNF|UNEF|UNS|UN|UNJF|UNRF|UNR|NF|NC))?(?:-?[123][AB])?(?:\s*-?\s*LH)?$",
    re.IGNORECASE,
)
_METRIC = re.compile(r"^M(?P<size>\d+(?:\.\d+)?)(?:\s*[x×]\s*(?P<pitch>\d+(?:\.\d+)?))?(?:\s*-?\s*LH)?$", re.IGNORECASE)
# coarse pitches, ISO 261 (from memory)
COARSE = {
    3: 0.5,
    4: 0.7,
    5: 0.8,
    6: 1.0,
    8: 1.25,
    10: 1.5,
    12: 1.75,
    14: 2.0,
    16: 2.0,
    18: 2.5,
    20: 2.5,
    22: 2.5,
    24: 3.0,
    27: 3.0,
    30: 3.5,
    33: 3.5,
    36: 4.0,
}


@dataclass(frozen=True, slots=True, kw_only=True)
class Thread:
    """A 60° thread by its basic sizes [mm]."""

    designation: str
    series: Literal["unified", "metric"]
    major: float
    pitch: float

    @property
    def pitch_diameter(self) -> float:
        """Basic pitch diameter, D − 3H/4 [mm]."""
        return self.major - 3 * sqrt(3) / 8 * self.pitch

    @property
    def minor_internal(self) -> float:
        """Basic minor diameter of the internal thread, D − 5H/4 [mm]."""
        return self.major - 5 * sqrt(3) / 8 * self.pitch

    @property
    def root_external(self) -> float:
        """Root diameter of the external thread, D − 17H/12 (rounded root, d3 of ISO 898-1) [mm]."""
        return self.major - 17 * sqrt(3) / 24 * self.pitch

    @property
    def root_area(self) -> float:
        """Area at the root [mm^2]."""
        return pi * self.root_external**2 / 4

    @property
    def stress_area(self) -> float:
        """Tensile stress area: ASME B1.1 for unified, ISO 898-1 for metric [mm^2]."""
        factor = 0.9743 if self.series == "unified" else 0.9382
        return pi / 4 * (self.major - factor * self.pitch) ** 2


Fit = Literal["class", "basic"]


@dataclass(frozen=True, slots=True)
class Limits:
    """The sizes that strip is worked out with [mm]."""

    major_external: float  # least
    pitch_external: float  # least
    pitch_internal: float  # greatest
    minor_internal: float  # greatest


@lru_cache(maxsize=512)
def limits_of(thread: Thread, fit: Fit) -> Limits:
    """The thread's sizes at the limits of its class, or its basic ones.

    Args:
        thread: the thread.
        fit: "class" (2A in 2B, 6g in 6H; length of engagement one diameter) or "basic".

    Source:
        ASME B1.1 (tolerances of 2A and 2B), ISO 965-1 (6g and 6H), from memory.
    """
    d, p = thread.major, thread.pitch
    if fit == "basic":
        return Limits(d, thread.pitch_diameter, thread.pitch_diameter, thread.minor_internal)
    if thread.series == "unified":
        inch = float(INCH_EXACT)
        di, pi_ = d / inch, p / inch
        td2 = 0.0015 * di ** (1 / 3) + 0.0015 * di**0.5 + 0.015 * pi_ ** (2 / 3)
        allowance = 0.3 * td2
        major = di - allowance - 0.060 * pi_ ** (2 / 3)
        minor = 0.25 * pi_ - 0.40 * pi_**2
        return Limits(
            major * inch, thread.pitch_diameter - (allowance + td2) * inch, thread.pitch_diameter + 1.3 * td2 * inch,
            thread.minor_internal + minor * inch,
        )  # fmt: skip
    td2 = 90 * p**0.4 * d**0.1 / 1000
    deviation = (15 + 11 * p) / 1000
    major = d - deviation - (180 * p ** (2 / 3) - 3.15 / sqrt(p)) / 1000
    minor = (230 * p**0.7 if p >= 1 else 433 * p - 190 * p**1.22) / 1000
    return Limits(
        major,
        thread.pitch_diameter - deviation - td2,
        thread.pitch_diameter + 1.32 * td2,
        thread.minor_internal + minor,
    )


def dilation(thread: Thread, outside: float | None) -> float:
    """Share of the internal thread's strength that is left where what it is cut in gives way outward: −(s/D)² + 3.8 s/D − 2.61.

    Args:
        thread: the thread.
        outside: of what it is cut in [mm]; None: as thick as a full nut or thicker.

    Source:
        Alexander, analysis and design of threaded assemblies, SAE 770420 (from memory); it was tried from 1.4 to 1.9 diameters, and is
        carried on below that.
    """
    if outside is None:
        return 1.0
    s = min(1.9, outside / thread.major)
    return max(0.0, min(1.0, -(s**2) + 3.8 * s - 2.61))


def _fraction(text: str) -> Fraction:
    total = Fraction(0)
    for part in re.split(r"[\s-]+", text.strip()):
        total += Fraction(part)
    return total


@lru_cache(maxsize=512)
def parse_thread(designation: str) -> Thread:
    """Read a thread designation such as "3/4-16 UNF", "1 1/4-12" or "M14x2".

    Raises:
        InputError: not a 60° thread in inch or metric writing.
    """
    text = " ".join(designation.split())
    bad = InputError(
        f"“{designation[:40]}” is not a thread this program reads. Write for example 3/4-16 UNF, 1 1/4-12 or M14x2.",
        code="not_a_thread",
        fields=("designation",),
        value=designation[:40],
    )
    try:
        if metric := _METRIC.match(text):
            major = float(metric["size"])
            pitch = float(metric["pitch"]) if metric["pitch"] else COARSE[int(major)]
            series: Literal["unified", "metric"] = "metric"
        elif unified := _UNIFIED.match(text):
            size = _fraction(unified["size"])
            if text.startswith("#"):  # numbered sizes: 0.060 in and 0.013 in a number
                size = Fraction(60 + 13 * int(size), 1000)
            major = float(size * INCH_EXACT)
            pitch = float(INCH_EXACT / Fraction(unified["tpi"]))
            series = "unified"
        else:
            raise bad
    except (KeyError, ZeroDivisionError, ValueError):
        raise bad from None
    if not 1 <= major <= 200 or not 0 < pitch <= major / 3:
        raise bad
    return Thread(designation=text, series=series, major=major, pitch=pitch)


@dataclass(frozen=True, slots=True, kw_only=True)
class StripStrength:
    """How a threaded joint of given engagement fails in tension (nominal ultimate)."""

    external_shear_area: float  # [mm^2] at the engagement
    internal_shear_area: float  # [mm^2]
    min_engagement: float  # [mm] at which the shank breaks before either thread strips
    break_force: float  # [N] shank, on its stress area
    strip_external: float  # [N]
    strip_internal: float  # [N]

    @property
    def strip(self) -> float:
        """The weaker thread [N]."""
        return min(self.strip_external, self.strip_internal)


def shear_area_external(thread: Thread, engagement: float, fit: Fit = "basic") -> float:
    """Shear area of the external thread at the internal minor diameter [mm^2] (FED-STD-H28).

    Args:
        thread: the thread.
        engagement: length of full threads engaged [mm].
        fit: sizes at the limits of the class, or basic.
    """
    size = limits_of(thread, fit)
    d1 = size.minor_internal
    return pi * engagement / thread.pitch * d1 * (thread.pitch / 2 + (size.pitch_external - d1) / sqrt(3))


def shear_area_internal(thread: Thread, engagement: float, fit: Fit = "basic") -> float:
    """Shear area of the internal thread at the external major diameter [mm^2] (FED-STD-H28).

    Args:
        thread: the thread.
        engagement: length of full threads engaged [mm].
        fit: sizes at the limits of the class, or basic.
    """
    size = limits_of(thread, fit)
    d = size.major_external
    return pi * engagement / thread.pitch * d * (thread.pitch / 2 + (d - size.pitch_internal) / sqrt(3))


def thread_strip(
    thread: Thread, external_ultimate: float, internal_ultimate: float, engagement: float, fit: Fit = "basic",
    internal_outside: float | None = None,
) -> StripStrength:  # fmt: skip
    """Strip and break strengths, and the engagement at which the shank breaks first.

    Le makes the external shear area twice the stress area; J = (As·ext)/(An·int) > 1 says that the internal thread
    strips first and lengthens it.

    Args:
        thread: The thread.
        external_ultimate: tensile strength of the shank [MPa]
        internal_ultimate: tensile strength of the insert or nut [MPa]
        engagement: length of full threads engaged [mm]
        fit: sizes at the limits of the class, or basic.
        internal_outside: outside of what the internal thread is cut in, which may give way outward [mm]; None: it does not.

    Returns:
        Areas, forces and the engagement for a shank that breaks before it strips.

    Source:
        FED-STD-H28 (from memory).
    """
    per_mm_external = shear_area_external(thread, 1.0, fit)
    per_mm_internal = shear_area_internal(thread, 1.0, fit)
    left = dilation(thread, internal_outside)
    held = per_mm_internal * internal_ultimate * left
    j = per_mm_external * external_ultimate / held if held > 0 else inf
    return StripStrength(
        external_shear_area=per_mm_external * engagement,
        internal_shear_area=per_mm_internal * engagement,
        min_engagement=2 * thread.stress_area / per_mm_external * max(1.0, j),
        break_force=thread.stress_area * external_ultimate,
        strip_external=SHEAR_OF_ULTIMATE * external_ultimate * per_mm_external * engagement,
        strip_internal=SHEAR_OF_ULTIMATE * held * engagement,
    )


def engagement_for_load(
    thread: Thread, external_ultimate: float, internal_ultimate: float, factored: float, fit: Fit = "basic",
    internal_outside: float | None = None,
) -> float:  # fmt: skip
    """Engagement that holds a factored axial load against strip of the weaker thread [mm].

    Args:
        thread: of the shank.
        external_ultimate: of the shank [MPa].
        internal_ultimate: of what it is screwed into [MPa].
        factored: axial load times its factor [N].
        fit: sizes at the limits of the class, or basic.
        internal_outside: outside of what the internal thread is cut in [mm]; None: it does not give way.
    """
    strip = thread_strip(thread, external_ultimate, internal_ultimate, 1.0, fit, internal_outside).strip
    return factored / strip if strip > 0 else inf


def shank_bending_stress(thread: Thread, axial: float, side: float, lever: float, moment: float = 0.0) -> float:
    """Greatest stress at the root of an exposed thread under axial load, a side force at `lever` and a moment [MPa].

    Args:
        thread: of the shank.
        axial: force, pull positive [N].
        side: force square to the shank [N].
        lever: from the side force to the root [mm].
        moment: beside the side force's, of the joint's friction [N·mm].

    Source:
        Shigley, axial and bending stress on the root section (from memory).
    """
    d3 = thread.root_external
    return abs(axial) / thread.root_area + 32 * (abs(side) * lever + abs(moment)) / (pi * d3**3)
