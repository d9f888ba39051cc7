"""Topics of tube ends: notch."""

from __future__ import annotations

from math import degrees
from typing import Annotated, Any

import numpy as np
from pydantic import Field

from tirante.calc.fields import Input, Mm, MmOrZero, SignedMm
from tirante.calc.registry import Working, step, topic
from tirante.core.notch.hole_saw import USUAL_SAWS, nearest_saw, saw_cut
from tirante.core.notch.meeting import arc_of, on_one, weld_angle_range

Result = tuple[dict[str, Any], Working]


class NotchInput(Input):
    branch_od_mm: Mm
    branch_wall_mm: Mm
    main_od_mm: Mm
    angle_deg: Annotated[float, Field(gt=0, le=90, description="deg; acute, between the axes", allow_inf_nan=False)]
    offset_mm: SignedMm = Field(default=0.0, description="mm; how far the branch's axis passes the main's along their common normal")  # fmt: skip
    length_mm: Mm = Field(description="mm; work point (foot of the common normal) to the square far end")
    step_deg: Annotated[float, Field(ge=0.1, le=90, description="deg round the branch", allow_inf_nan=False)] = 10.0
    saw_mm: Mm | None = Field(default=None, description="mm; a hole saw at hand; else the nearest of usual sizes")
    paper_mm: MmOrZero = Field(default=0.0, description="mm; thickness of the wrap: arc_mm is that of its middle")


@topic(
    "notch",
    NotchInput,
    outputs={
        "profile": "per step round the branch: phi_deg (0 on the obtuse side, 90 along the common normal, away from the main's axis), arc_mm, and "
        "along the branch from the foot: outer_mm, inner_mm, cut_mm (no more than this is cut off, square to the surface, or a gap is left somewhere "
        "in the wall), seat_mm (cut square to here it sits without being dressed)",
        "long_point_mm": "tube to saw: far end to its longest point, outside", "short_point_mm": "far end to the bottom of the notch, outside",
        "depth_mm": "of the notch", "wrap_mm": "length of a wrap, pi (D + paper)", "weld_angles_deg": "least and largest angle between the faces",
        "saw": "hole saw, degrees off square in the fixture, offset, gap that is left and how it is welded; null where none cuts it",
    },
    example={"branch_od_mm": 38.1, "branch_wall_mm": 3.05, "main_od_mm": 50.8, "angle_deg": 60, "offset_mm": 3, "length_mm": 400, "step_deg": 90},
    sources=("notch", "aws-d1.1"),
)  # fmt: skip
def run_notch(data: NotchInput) -> Result:
    """Notch of a round tube's end on a round tube."""
    found = on_one(data.branch_od_mm, data.branch_wall_mm, data.main_od_mm, data.angle_deg, data.offset_mm)
    count = int(360 / data.step_deg + 1e-9)
    phi = np.radians(np.arange(count + 1) * data.step_deg)
    outer, inner = found.at(phi, data.branch_od_mm / 2), found.at(phi, data.branch_od_mm / 2 - data.branch_wall_mm)
    cut, seat = found.at_square(phi)
    rows = [
        {
            "phi_deg": i * data.step_deg, "arc_mm": arc_of(data.branch_od_mm, i * data.step_deg, data.paper_mm), "outer_mm": float(outer[i]),
            "inner_mm": float(inner[i]), "cut_mm": float(cut[i]), "seat_mm": float(seat[i]),
        }
        for i in range(count + 1)
    ]  # fmt: skip
    saw = saw_cut(found, data.saw_mm) if data.saw_mm else nearest_saw(found, USUAL_SAWS)
    low, high = weld_angle_range(found)
    out: dict[str, Any] = {
        "profile": rows, "long_point_mm": data.length_mm - found.long, "short_point_mm": data.length_mm - found.short, "depth_mm": found.depth,
        "wrap_mm": arc_of(data.branch_od_mm, 360.0, data.paper_mm), "weld_angles_deg": [degrees(low), degrees(high)],
        "saw": None if saw is None else {
            "saw_mm": saw.saw, "off_square_deg": degrees(saw.off_square), "offset_mm": saw.offset, "gap_mm": saw.gap,
            "gap_at_deg": degrees(saw.gap_at), "fit": saw.fit,
        },
    }  # fmt: skip
    return out, [
        step("wall meets surface", "s = [√(R² − (e + r sin φ)²) − r cos φ cos θ] / sin θ", "notch", R_mm=data.main_od_mm / 2,
             r_mm=data.branch_od_mm / 2, theta_deg=data.angle_deg, e_mm=data.offset_mm),
        step("long and short point", "length − least s, length − largest s", "notch", long_point_mm=out["long_point_mm"],
             short_point_mm=out["short_point_mm"]),
    ]  # fmt: skip
