"""The outline of a tab: a round-headed plate on a flat or saddle foot.

Coordinates: mm, x across the plate, y from the foot's middle toward the hole.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import acos, atan2, cos, degrees, hypot, radians, sin

from tirante.core.brackets.saddle import saddle
from tirante.core.errors import InputError, NotApplicable
from tirante.core.flat.contour import Contour, Curve, Edge, Hole, Straight
from tirante.core.flat.true_curve import arcs_of
from tirante.core.notch.hole_saw import CLOSE

# the method's inputs as a tab pair has them
SADDLE_FIELDS = {"width_mm": "base_width", "angle_deg": "base.angle_deg", "tube_od_mm": "base.tube_od"}


@dataclass(frozen=True, slots=True, kw_only=True)
class TabOutline:
    """A tab's contour with its hole [mm]."""

    contour: Contour
    low: float  # lowest point of the foot (below 0 on a saddle)
    warnings: tuple[str, ...]


def tab_outline(
    head_radius: float, edge: float, base_width: float, height: float, hole: float, thickness: float,
    saddle_od: float | None = None, saddle_angle_deg: float = 90.0, saddle_offset: float = 0.0,
) -> TabOutline:  # fmt: skip
    """Contour of a tab: foot, two flanks tangent to the head, head arc above the hole.

    Args:
        head_radius: of the free end, half the width across the hole [mm]
        edge: hole centre to the free end, at least the head radius [mm]
        base_width: of the foot [mm]
        height: foot (on a saddle: the tube's crown) to hole centre [mm]
        hole: diameter [mm]
        thickness: [mm]
        saddle_od: tube that the foot stands on, None for a flat foot [mm]
        saddle_angle_deg: between plate and tube axis.
        saddle_offset: of the plate's middle across the tube [mm]

    Returns:
        Outline and warnings (hole under the plate's thickness, thin web).

    Raises:
        InputError: the shape contradicts itself.
        NotApplicable: a foot that wraps round its tube, or along which no fillet goes.

    Source:
        Geometry (derived).
    """
    half = base_width / 2
    if base_width < 2 * head_radius - 1e-9:
        raise InputError(
            f"The foot ({base_width:g} mm) is narrower than the head ({2 * head_radius:g} mm). Widen the foot.",
            code="contradictory", fields=("base_width",), value=base_width, limits=(2 * head_radius, None),
        )  # fmt: skip
    if hole / 2 >= head_radius:
        raise InputError(
            "The hole breaks out of the head. Use a larger head radius.",
            code="contradictory", fields=("hole",), value=hole, limits=(None, 2 * head_radius),
        )  # fmt: skip
    if edge < head_radius - 1e-9:
        raise InputError(
            f"The hole stands {head_radius - edge:.2f} mm past the head's centre, where the metal thins on every side. "
            "Make the edge distance at least the head radius.",
            code="contradictory", fields=("edge",), value=edge, limits=(head_radius, None),
        )  # fmt: skip
    centre = height + edge - head_radius
    try:
        stands = None if saddle_od is None else saddle(saddle_od, saddle_angle_deg, half, thickness, saddle_offset)
    except (InputError, NotApplicable) as error:
        error.fields = tuple(SADDLE_FIELDS.get(field, field) for field in error.fields)
        raise
    left, right = (stands.foot(x) if stands else 0.0 for x in (-half, half))
    if hole / 2 >= height:
        raise InputError(
            "The hole reaches the foot. Raise the hole.",
            code="contradictory", fields=("height",), value=height, limits=(hole / 2, None),
        )  # fmt: skip
    rx, ry, first = _flank(half, right, centre, head_radius)
    lx, ly, last = _flank(half, left, centre, head_radius)
    edges: list[Edge] = [
        Straight(half, right, rx, ry),
        Curve(0.0, centre, head_radius, first, 180.0 - last),
        Straight(-lx, ly, -half, left),
    ]
    if stands is None:
        edges.append(Straight(-half, 0.0, half, 0.0))
    elif abs(stands.offset) < 1e-9 and abs(saddle_angle_deg - 90.0) < 1e-9:
        r = stands.tube_od / 2
        side = degrees(atan2(right + r, half))
        edges.append(Curve(0.0, -r, r, side, 180.0 - side, back=True))
    else:
        edges += arcs_of(lambda x: (x, stands.foot(x)), -half, half)
    warnings = []
    if hole < thickness:
        warnings.append("the hole is smaller than the plate is thick: drill it, it does not punch or burn well")
    if height - hole / 2 < 1.5 * thickness:
        warnings.append("less than 1.5 thicknesses between hole and foot: the weld's heat reaches the hole")
    gap = stands.face_gap(half, thickness) if stands else 0.0
    if gap > 0.05:
        how = "the fillet fills it" if gap <= CLOSE else "bevel the foot to its tube"
        warnings.append(
            f"cut square to the plate its foot stands off the tube at one face by {gap:.1f} mm at most: {how}"
        )
    contour = Contour(edges=tuple(edges), holes=(Hole(0.0, height, hole),))
    return TabOutline(contour=contour, low=min(0.0, left, right), warnings=tuple(warnings))


def _flank(half: float, foot: float, height: float, radius: float) -> tuple[float, float, float]:
    """Where the right flank touches the head, and the angle of that point seen from the head's centre [deg]."""
    dx, dy = half, foot - height
    distance = hypot(dx, dy)
    if distance <= radius * (1 + 1e-12):
        raise InputError(
            "The head swallows the foot's corner. Raise the hole, widen the foot or shrink the head.",
            code="contradictory", fields=("height",), value=height,
        )  # fmt: skip
    toward = degrees(atan2(dy, dx))
    angle = toward + degrees(acos(min(1.0, radius / distance)))
    return radius * cos(radians(angle)), height + radius * sin(radians(angle)), angle
