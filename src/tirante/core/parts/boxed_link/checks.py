"""A boxed link: four plates with a pad along the top, under what it sees; its checks, its plates, what to know of it.

Its axial force acts pin to pin; strikes push square on its pad. Not covered: bosses and pins, the pad's own weld, fatigue.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from tirante.core.checks.kinds import Asked, asked
from tirante.core.checks.result import CheckResult, Try, weakest_first, worst_of
from tirante.core.document.parts.boxed_link import BoxedLink
from tirante.core.document.settings import Settings
from tirante.core.errors import InputError
from tirante.core.loads.case_seen import CaseSeen
from tirante.core.members.boxed_link import Box, boxed_link, slender_limit
from tirante.core.members.column import column_strength
from tirante.core.units import STEEL_DENSITY

MODULUS = 205_000.0  # MPa, steel plate; common value
NOT_CHECKED = (
    "bosses, their tube, pins and welds, and what holds them",
    "the pad’s own weld",
    "its plates at their notches: every tab is welded in flush",
    "fatigue",
    "weld quality (assumed sound)",
    "corrosion and wear",
)


def box_of(link: BoxedLink) -> Box:
    """Its section."""
    return Box(height=link.height.mm, width=link.width.mm, side=link.side_mm, top=link.top_mm, bottom=link.bottom_mm)


def boxed_mass(link: BoxedLink) -> float:
    """Of the plates from pin to pin [kg]: what rounds and tabs add there, bosses and notches take off."""
    box = box_of(link)
    return link.between.mm * box.area * STEEL_DENSITY


def boxed_checks(link: BoxedLink, cases: Sequence[CaseSeen], settings: Settings) -> tuple[CheckResult, ...]:
    """All checks of a boxed link, weakest first; loads are factored before each.

    Args:
        link: as it is saved.
        cases: what it sees.
        settings: factors, electrode.
    """
    factors = settings.factors
    box, length = box_of(link), link.between.mm
    leg = min(link.leg_mm, box.thinnest_leg)  # a larger one burns through
    bow = length / 1000  # AISC 360 E3's crookedness
    common: dict[str, Any] = {
        "length_mm": length, "height_mm": link.height.mm, "width_mm": link.width.mm, "side_mm": link.side_mm, "top_mm": link.top_mm,
        "bottom_mm": link.bottom_mm, "at_mm": link.pad_at.mm, "offset_mm": link.pad_offset_mm, "yield_mpa": link.yield_mpa,
        "e_mpa": MODULUS, "leg_mm": leg, "electrode_uts_mpa": settings.electrode_uts_mpa, "bow_mm": bow,
    }  # fmt: skip
    bare = {**common, "force_n": 0.0, "axial_n": 0.0}
    strength = column_strength(box, length, link.yield_mpa, MODULUS)
    least = min(strength.critical, strength.aisc_e3)

    def judged(of: Asked, output: str) -> CheckResult:
        def attempt(case: CaseSeen) -> Try | None:
            if case.axial_n == 0 and case.strike_n == 0 and case.side_n == 0:
                return None
            force, axial, across = (v * of.factor for v in (case.strike_n, case.axial_n, abs(case.side_n)))
            at = link.pad_at.mm if case.strike_at is None else case.strike_at * length
            data = {**common, "at_mm": at, "force_n": force, "axial_n": axial, "side_n": across}
            try:
                found = boxed_link(
                    box, length, force, at, link.pad_offset_mm, axial, MODULUS, leg, settings.electrode_uts_mpa, across, bow
                )  # fmt: skip
            except InputError as error:  # past its own column's load
                return Try(
                    demand=-axial, capacity=strength.euler, topic="boxed-link", input=bare, output="area_mm2", figure="",
                    utilisation=max(1.000001, -axial / strength.euler), unit="N", note=error.message,
                )  # fmt: skip
            demand, capacity = {
                "von_mises_mpa": (found.von_mises, link.yield_mpa),
                "plates_used": (found.plates, 1.0),
                "seam_throat_mpa": (found.seam_throat, found.seam_nominal),
            }[output]
            return Try(demand=demand, capacity=capacity, topic="boxed-link", input=data, output=output, figure="demand")

        return worst_of(of, cases, attempt)

    column = asked("box_column", "box", factors)
    wall = asked("box_wall", "box", factors)
    limit = slender_limit(link.yield_mpa, MODULUS)

    def as_column(case: CaseSeen) -> Try | None:
        if case.axial_n >= 0:
            return None
        return Try(
            demand=-case.axial_n * column.factor, capacity=least, topic="boxed-link", input=bare, output="column_n"
        )

    def slender(case: CaseSeen) -> Try | None:
        if case.axial_n >= 0:
            return None
        return Try(
            demand=box.slenderness, capacity=limit, topic="boxed-link", input=bare, output="plate_slenderness", figure="demand"
        )  # fmt: skip

    return weakest_first(
        [
            judged(asked("box_stress", "box", factors), "von_mises_mpa"),
            judged(asked("box_plates", "box", factors), "plates_used"),
            judged(asked("box_seams", "box", factors), "seam_throat_mpa"),
            worst_of(column, cases, as_column),
            worst_of(wall, cases, slender),
        ]
    )


def boxed_notes(boxed: BoxedLink) -> list[str]:
    """What to know of it; common practice, no source."""
    notes = [
        "Strikes of its cases push on its pad, square to the top plate. So does a bump stop whose pad is put on this link at Layout, under Stops: "
        "its force and place then come of the load cases and are not typed.",
        "Tack all four plates on a flat, clamp it to a stiff back, weld short runs from the middle to the ends, opposite seams in turn.",
        "Its ends carry bosses for bushes: their tube, pins and welds are not checked here.",
    ]
    thinnest = box_of(boxed).thinnest_leg
    if boxed.leg_mm > thinnest:
        notes.append(
            f"Seams of {boxed.leg_mm:g} mm would burn through: they are counted, and laid, at {thinnest:g} mm."
        )
    if boxed.pad_offset_mm:
        notes.insert(
            1,
            f"The pad stands {abs(boxed.pad_offset_mm):g} mm off the middle: the torque is taken at one end, which must not be a spherical joint.",
        )
    return notes
