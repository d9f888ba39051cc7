"""A boxed link of a job: four plates with a pad along the top, under what it sees; its checks and its plates.

Its axial force acts pin to pin; strikes push square on its pad. Not covered: bosses and pins, the pad's own weld, fatigue.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from tirante.core.checks.result import CheckResult, Kind, Try, worst_of
from tirante.core.document.parts.boxed_link import Boxed
from tirante.core.document.parts.common import LoadCase
from tirante.core.document.parts.link import Link
from tirante.core.document.settings import Settings
from tirante.core.errors import InputError
from tirante.core.members.boxed_link import Box, BoxStress, boxed_link
from tirante.core.members.column import euler_of

MODULUS = 205_000.0  # MPa, steel plate; common value


DENSITY = 7850e-9  # kg/mm³


@dataclass(frozen=True, slots=True, kw_only=True)
class Plate:
    """One of the box's plates, flat."""

    name: str
    length: float  # [mm] pin to pin; bosses and ends are cut into it at the bracket station
    width: float
    thickness: float
    count: int


def box_of(boxed: Boxed) -> Box:
    """Its section."""
    return Box(
        height=boxed.height.mm, width=boxed.width.mm, side=boxed.side_mm, top=boxed.top_mm, bottom=boxed.bottom_mm
    )


def plates_of(link: Link) -> list[Plate]:
    """What is cut for it: top and bottom over the sides' full width, the sides between them."""
    boxed = link.boxed
    assert boxed
    box, length = box_of(boxed), link.between.mm
    return [
        Plate(name="side plate", length=length, width=box.web, thickness=boxed.side_mm, count=2),
        Plate(name="top plate", length=length, width=boxed.width.mm, thickness=boxed.top_mm, count=1),
        Plate(name="bottom plate", length=length, width=boxed.width.mm, thickness=boxed.bottom_mm, count=1),
    ]


def boxed_mass(link: Link) -> float:
    """Of the plates [kg]."""
    return sum(p.length * p.width * p.thickness * p.count for p in plates_of(link)) * DENSITY


def boxed_checks(link: Link, settings: Settings) -> list[CheckResult]:
    """All checks of a boxed link, weakest first; loads are factored before each."""
    boxed, factors = link.boxed, settings.factors
    assert boxed
    box, length = box_of(boxed), link.between.mm
    common: dict[str, Any] = {
        "length_mm": length, "height_mm": boxed.height.mm, "width_mm": boxed.width.mm, "side_mm": boxed.side_mm, "top_mm": boxed.top_mm,
        "bottom_mm": boxed.bottom_mm, "at_mm": boxed.pad_at.mm, "offset_mm": boxed.pad_offset_mm, "yield_mpa": boxed.yield_mpa,
        "e_mpa": MODULUS, "leg_mm": boxed.leg_mm, "electrode_uts_mpa": settings.electrode_uts_mpa,
    }  # fmt: skip

    def stress(case: LoadCase, factor: float) -> tuple[BoxStress, dict[str, Any]]:
        force, axial = case.strike_n * factor, case.axial_n * factor
        found = boxed_link(
            box, length, force, boxed.pad_at.mm, boxed.pad_offset_mm, axial, MODULUS, boxed.leg_mm, settings.electrode_uts_mpa
        )  # fmt: skip
        return found, {**common, "force_n": force, "axial_n": axial}

    def kind(
        key: str, name: str, part: str, factor: float, factor_name: str, formula: str, source: str, unit: str = "MPa"
    ) -> Kind:
        return Kind(
            key=key,
            name=name,
            part=part,
            unit=unit,
            factor=factor,
            factor_name=factor_name,
            formula=formula,
            source=source,
        )

    def judged(of: Kind, output: str) -> CheckResult:
        def attempt(case: LoadCase) -> Try | None:
            if case.axial_n == 0 and case.strike_n == 0:
                return None
            try:
                found, data = stress(case, of.factor)
            except InputError as error:  # past its own column's load
                limit = euler_of(length, MODULUS, min(box.second_moment, box.second_moment_across))
                push = -case.axial_n * of.factor
                return Try(
                    demand=push, capacity=limit, topic="boxed-link", input={**common, "force_n": 0.0, "axial_n": 0.0}, output="area_mm2",
                    figure="", utilisation=max(1.000001, push / limit), unit="N", note=error.message,
                )  # fmt: skip
            pressed = found.bending + max(0.0, -case.axial_n * of.factor) / box.area
            demand, capacity = {
                "von_mises_mpa": (found.von_mises, boxed.yield_mpa),
                "buckling_mpa": (pressed, min(found.top_buckling, found.side_buckling)),
                "seam_throat_mpa": (found.seam_throat, found.seam_nominal),
            }[output]
            return Try(demand=demand, capacity=capacity, topic="boxed-link", input=data, output=output, figure="demand")

        return worst_of(of, link.cases, attempt)

    column = kind(
        "box_column",
        "Box as a column",
        "box",
        factors.column,
        "column",
        "π² E I/L², I the lesser; at most A · yield",
        "shigley-columns",
        "N",
    )
    least = min(euler_of(length, MODULUS, min(box.second_moment, box.second_moment_across)), box.area * boxed.yield_mpa)

    def as_column(case: LoadCase) -> Try | None:
        if case.axial_n >= 0:
            return None
        return Try(
            demand=-case.axial_n * column.factor, capacity=least, topic="boxed-link", input={**common, "force_n": 0.0, "axial_n": 0.0},
            output="column_n",
        )  # fmt: skip

    out = [
        judged(
            kind("box_stress", "Box bent and twisted by its pad", "box", factors.yielding, "yielding",
                 "√((P/A + M c/I · 1/(1 − P/Pe))² + 3 τ²), τ Bredt; or shear at the neutral axis", "shigley-shaft"), "von_mises_mpa",
        ),
        judged(
            kind("box_plates", "Plates buckling", "box", factors.column, "column", "k π² E/(12 (1 − ν²)) (t/b)², k 4 pressed, 23.9 bent",
                 "timoshenko-plates"), "buckling_mpa",
        ),
        judged(
            kind("box_seams", "Seam welds", "box", factors.weld, "weld", "V Q/(2 I) + T/(2 A_m) over 0.707 leg, against 0.6 FEXX", "aisc-j2"),
            "seam_throat_mpa",
        ),
        worst_of(column, link.cases, as_column),
    ]  # fmt: skip
    return sorted(out, key=lambda r: -(r.utilisation if r.utilisation is not None else -1.0))


def boxed_notes(link: Link) -> list[str]:
    """What to know of it; common practice, no source."""
    boxed = link.boxed
    assert boxed
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
