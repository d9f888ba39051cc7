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
from tirante.core.members.boxed_link import Box, boxed_link
from tirante.core.members.column import euler_of
from tirante.core.parts.part import PlatePiece
from tirante.core.units import STEEL_DENSITY

MODULUS = 205_000.0  # MPa, steel plate; common value
NOT_CHECKED = (
    "bosses, their tube, pins and welds",
    "the pad’s own weld",
    "fatigue",
    "weld quality (assumed sound)",
    "corrosion and wear",
)


def box_of(link: BoxedLink) -> Box:
    """Its section."""
    return Box(height=link.height.mm, width=link.width.mm, side=link.side_mm, top=link.top_mm, bottom=link.bottom_mm)


def plates_of(link: BoxedLink) -> tuple[PlatePiece, ...]:
    """What is cut for it: top and bottom over the sides' full width, the sides between them; pin to pin, bosses are cut into them."""
    box, length = box_of(link), link.between.mm

    def plate(name: str, width: float, thickness: float, count: int) -> PlatePiece:
        return PlatePiece(
            name=name, material=link.plate_name, thickness=thickness, length=length, width=width, count=count
        )

    return (
        plate("side plate", box.web, link.side_mm, 2),
        plate("top plate", link.width.mm, link.top_mm, 1),
        plate("bottom plate", link.width.mm, link.bottom_mm, 1),
    )


def boxed_mass(link: BoxedLink) -> float:
    """Of the plates [kg]."""
    return sum(p.length * p.width * p.thickness * p.count for p in plates_of(link)) * STEEL_DENSITY


def boxed_checks(link: BoxedLink, cases: Sequence[CaseSeen], settings: Settings) -> tuple[CheckResult, ...]:
    """All checks of a boxed link, weakest first; loads are factored before each.

    Args:
        link: as it is saved.
        cases: what it sees.
        settings: factors, electrode.
    """
    factors = settings.factors
    box, length = box_of(link), link.between.mm
    common: dict[str, Any] = {
        "length_mm": length, "height_mm": link.height.mm, "width_mm": link.width.mm, "side_mm": link.side_mm, "top_mm": link.top_mm,
        "bottom_mm": link.bottom_mm, "at_mm": link.pad_at.mm, "offset_mm": link.pad_offset_mm, "yield_mpa": link.yield_mpa,
        "e_mpa": MODULUS, "leg_mm": link.leg_mm, "electrode_uts_mpa": settings.electrode_uts_mpa,
    }  # fmt: skip
    bare = {**common, "force_n": 0.0, "axial_n": 0.0}
    euler = euler_of(length, MODULUS, min(box.second_moment, box.second_moment_across))

    def judged(of: Asked, output: str) -> CheckResult:
        def attempt(case: CaseSeen) -> Try | None:
            if case.axial_n == 0 and case.strike_n == 0:
                return None
            force, axial = case.strike_n * of.factor, case.axial_n * of.factor
            data = {**common, "force_n": force, "axial_n": axial}
            try:
                found = boxed_link(
                    box, length, force, link.pad_at.mm, link.pad_offset_mm, axial, MODULUS, link.leg_mm, settings.electrode_uts_mpa
                )  # fmt: skip
            except InputError as error:  # past its own column's load
                return Try(
                    demand=-axial, capacity=euler, topic="boxed-link", input=bare, output="area_mm2", figure="",
                    utilisation=max(1.000001, -axial / euler), unit="N", note=error.message,
                )  # fmt: skip
            pressed = found.bending + max(0.0, -axial) / box.area
            demand, capacity = {
                "von_mises_mpa": (found.von_mises, link.yield_mpa),
                "buckling_mpa": (pressed, min(found.top_buckling, found.side_buckling)),
                "seam_throat_mpa": (found.seam_throat, found.seam_nominal),
            }[output]
            return Try(demand=demand, capacity=capacity, topic="boxed-link", input=data, output=output, figure="demand")

        return worst_of(of, cases, attempt)

    column = asked("box_column", "box", factors)
    least = min(euler, box.area * link.yield_mpa)

    def as_column(case: CaseSeen) -> Try | None:
        if case.axial_n >= 0:
            return None
        return Try(
            demand=-case.axial_n * column.factor, capacity=least, topic="boxed-link", input=bare, output="column_n"
        )

    return weakest_first(
        [
            judged(asked("box_stress", "box", factors), "von_mises_mpa"),
            judged(asked("box_plates", "box", factors), "buckling_mpa"),
            judged(asked("box_seams", "box", factors), "seam_throat_mpa"),
            worst_of(column, cases, as_column),
        ]
    )


def boxed_notes(boxed: BoxedLink) -> list[str]:
    """What to know of it; common practice, no source."""
    notes = [
        "Strikes of its cases push on its pad, square to the top plate. A bump stop that lands on it is such a strike: type its force.",
        "Tack all four plates on a flat, clamp it to a stiff back, weld short runs from the middle to the ends, opposite seams in turn.",
        "Its ends carry bosses for bushes: their tube, pins and welds are not checked here.",
    ]
    if boxed.pad_offset_mm:
        notes.insert(
            1,
            f"The pad stands {abs(boxed.pad_offset_mm):g} mm off the middle: the torque is taken at one end, which must not be a spherical joint.",
        )
    return notes
