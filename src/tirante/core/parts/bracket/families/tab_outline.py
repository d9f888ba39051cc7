"""The outline of a tab: a round-headed plate on a flat or saddle foot.

Coordinates: mm, x across the plate, y from the foot's middle toward the hole.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import acos, atan2, cos, degrees, hypot, radians, sin, sqrt

from tirante.core.errors import InputError, NotApplicable
from tirante.core.flat.contour import Contour, Curve, Edge, Hole, Straight


@dataclass(frozen=True, slots=True, kw_only=True)
class TabOutline:
    """A tab's contour with its hole [mm]."""

    contour: Contour
    low: float  # lowest point of the foot (below 0 on a saddle)
    warnings: tuple[str, ...]


def tab_outline(
    head_radius: float, edge: float, base_width: float, height: float, hole: float, thickness: float,
    saddle_od: float | None = None, saddle_angle_deg: float = 90.0,
) -> TabOutline:  # fmt: skip
    """Contour of a tab: foot, two flanks tangent to the head, head arc above the hole.

    Args:
        head_radius: of the free end, half the width across the hole [mm]
        edge: hole centre to the free end, at least the head radius [mm]
        base_width: of the foot [mm]
        height: foot (on a saddle: the tube's crown) to hole centre [mm]
        hole: diameter [mm]
        thickness: [mm]
        saddle_od: tube that the foot stands square across, None for a flat foot [mm]
        saddle_angle_deg: between plate and tube axis; only 90 is covered.

    Returns:
        Outline and warnings (hole under the plate's thickness, thin web).

    Raises:
        InputError: the shape contradicts itself.
        NotApplicable: an oblique saddle.

    Source:
        Geometry (derived).
    """
    if saddle_od is not None and abs(saddle_angle_deg - 90.0) > 1e-6:
        raise NotApplicable(
            "An oblique saddle (a plate not square across its tube) is not worked out yet: its foot is part of an "
            "ellipse. Set the angle to 90° or use a flat foot.",
            code="oblique_saddle", fields=("base.angle_deg",), value=saddle_angle_deg, limits=(90.0, 90.0),
        )  # fmt: skip
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
    foot = 0.0
    if saddle_od is not None:
        radius = saddle_od / 2
        if half > 0.9 * radius:
            raise InputError(
                f"A foot of {base_width:g} mm does not stand on a tube of {saddle_od:g} mm: at most "
                f"{1.8 * radius:.1f} mm, or it wraps past where a weld can reach.",
                code="contradictory", fields=("base_width",), value=base_width, limits=(None, 1.8 * radius),
            )  # fmt: skip
        foot = sqrt(radius * radius - half * half) - radius
    if hole / 2 >= height:
        raise InputError(
            "The hole reaches the foot. Raise the hole.",
            code="contradictory", fields=("height",), value=height, limits=(hole / 2, None),
        )  # fmt: skip
    tx, ty, angle = _flank(half, foot, centre, head_radius)
    edges: list[Edge] = [
        Straight(half, foot, tx, ty),
        Curve(0.0, centre, head_radius, angle, 180.0 - angle),
        Straight(-tx, ty, -half, foot),
    ]
    if saddle_od is None:
        edges.append(Straight(-half, 0.0, half, 0.0))
    else:
        side = degrees(atan2(foot + saddle_od / 2, half))
        edges.append(Curve(0.0, -saddle_od / 2, saddle_od / 2, side, 180.0 - side, back=True))
    warnings = []
    if hole < thickness:
        warnings.append("the hole is smaller than the plate is thick: drill it, it does not punch or burn well")
    if height - hole / 2 < 1.5 * thickness:
        warnings.append("less than 1.5 thicknesses between hole and foot: the weld's heat reaches the hole")
    contour = Contour(edges=tuple(edges), holes=(Hole(0.0, height, hole),))
    return TabOutline(contour=contour, low=min(0.0, foot), warnings=tuple(warnings))


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
