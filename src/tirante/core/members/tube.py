"""Round tube and bar sections: area, second moment, wall slenderness, net section at plug-weld holes.

Not covered: oval or tapered tube, holes that overlap.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import pi, sqrt

from tirante.core.errors import InputError


@dataclass(frozen=True, slots=True, kw_only=True)
class Section:
    """Round section; `wall` None means a solid bar."""

    od: float  # [mm]
    wall: float | None = None  # [mm]

    def __post_init__(self) -> None:
        if not self.od > 0:
            raise InputError("The outside diameter must be more than 0.", fields=("od_mm",), value=self.od)
        if self.wall is not None and not 0 < self.wall < self.od / 2:
            raise InputError(
                f"A wall of {self.wall:g} mm does not go into a tube of {self.od:g} mm: it must be more than 0 and less "
                f"than half the diameter, {self.od / 2:g} mm.",
                code="out_of_range",
                fields=("wall_mm",),
                value=self.wall,
                limits=(0.0, self.od / 2),
            )

    @property
    def bore(self) -> float:
        """Inside diameter, 0 for a bar [mm]."""
        return 0.0 if self.wall is None else self.od - 2 * self.wall

    @property
    def area(self) -> float:
        """Cross-section [mm^2]."""
        if self.wall is None:
            return pi * self.od**2 / 4
        return pi * self.wall * (self.od - self.wall)

    @property
    def second_moment(self) -> float:
        """Second moment of area about a diameter [mm^4]."""
        return pi * (self.od**4 - self.bore**4) / 64

    @property
    def radius_of_gyration(self) -> float:
        """[mm]"""
        return sqrt(self.od**2 + self.bore**2) / 4


@dataclass(frozen=True, slots=True, kw_only=True)
class WallSlenderness:
    """Diameter over wall against the limits of a stocky wall [-]."""

    d_over_t: float
    compression_limit: float
    bending_limit: float

    @property
    def compression_ok(self) -> bool:
        """Non-slender in uniform compression."""
        return self.d_over_t <= self.compression_limit

    @property
    def bending_ok(self) -> bool:
        """Compact in bending."""
        return self.d_over_t <= self.bending_limit


def wall_slenderness(section: Section, yield_strength: float, elastic_modulus: float) -> WallSlenderness:
    """Round-tube wall limits 0.11 E/Fy in compression and 0.07 E/Fy in bending.

    Args:
        section: A tube (not a bar).
        yield_strength: [MPa]
        elastic_modulus: [MPa]

    Returns:
        D/t and its limits.

    Raises:
        InputError: the section is a solid bar.

    Source:
        AISC 360-16 Table B4.1a case 9, Table B4.1b case 20 (from memory).
    """
    if section.wall is None:
        raise InputError("A solid bar has no wall to buckle.", fields=("wall_mm",))
    ratio = elastic_modulus / yield_strength
    return WallSlenderness(
        d_over_t=section.od / section.wall, compression_limit=0.11 * ratio, bending_limit=0.07 * ratio
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class Holes:
    """Equal holes drilled through one wall, cut by the same cross-section."""

    diameter: float  # [mm]
    count: int


@dataclass(frozen=True, slots=True, kw_only=True)
class NetSection:
    """Tension strengths at a section with holes."""

    gross_area: float  # [mm^2]
    net_area: float  # [mm^2]
    yield_force: float  # [N] on the gross section, at the lower of delivered and welded yield
    rupture_force: float  # [N] on the net section

    @property
    def capacity(self) -> float:
        """The lower of the two [N]."""
        return min(self.yield_force, self.rupture_force)


def net_section(
    section: Section,
    holes: Sequence[Holes],
    yield_strength: float,
    ultimate_strength: float,
    welded_yield: float | None = None,
) -> NetSection:
    """Nominal tension strength of a tube with plug-weld holes: gross yielding and net rupture.

    A hole takes diameter × wall from the section; weld metal in it does not count (AISC B4.3b, plug welds).
    The heat of a weld leaves its own yield, which replaces the delivered one when it is lower.

    Args:
        section: The tube.
        holes: Holes in the worst cross-section.
        yield_strength: as delivered [MPa]
        ultimate_strength: [MPa]
        welded_yield: yield beside the weld, if known [MPa]

    Returns:
        Areas and forces.

    Raises:
        InputError: the holes take the whole section.

    Source:
        AISC 360-16 D2 and B4.3 (from memory).
    """
    wall = section.od / 2 if section.wall is None else section.wall
    gross = section.area
    net = gross - sum(hole.diameter * hole.count * wall for hole in holes)
    if net <= 0 or any(hole.diameter >= section.od for hole in holes):
        raise InputError("The holes leave nothing of the tube. Use fewer or smaller holes.", fields=("holes",))
    effective_yield = min(yield_strength, welded_yield) if welded_yield is not None else yield_strength
    return NetSection(
        gross_area=gross, net_area=net, yield_force=gross * effective_yield, rupture_force=net * ultimate_strength
    )
