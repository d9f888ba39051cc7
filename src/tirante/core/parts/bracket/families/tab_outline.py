"""The outline of a tab: a round-headed plate on a flat or saddle foot, or on one that straddles a corner.

Coordinates: mm, x across the plate, y from the foot's middle toward the hole.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import acos, atan2, cos, degrees, hypot, pi, radians, sin, tan

from tirante.core.brackets.corner import CornerFoot
from tirante.core.brackets.saddle import Saddle, saddle
from tirante.core.errors import InputError, NotApplicable, require_range
from tirante.core.flat.contour import Contour, Curve, Edge, Hole, Straight, moved, slot
from tirante.core.flat.hull import around, edges_between
from tirante.core.flat.true_curve import arcs_of
from tirante.core.notch.hole_saw import CLOSE
from tirante.core.parts.bracket.families.hole_pattern import along_a_slot, require_webs

# the method's inputs as a tab pair has them
SADDLE_FIELDS = {
    "width_mm": "base_width", "angle_deg": "base.angle_deg", "tube_od_mm": "base.tube_od", "offset_mm": "base.offset_mm",
    "lean_deg": "base.lean_deg",
}  # fmt: skip
MOST_LEAN = 30.0  # °, from square to a flat: beyond it one face takes no plain fillet (60–120°); EN 1993-1-8, 4.3.2, from memory
NARROWEST = 1.0  # head radii that a foot is wide at least: on a thin tube the tab draws in toward it; common practice, no source


@dataclass(frozen=True, slots=True, kw_only=True)
class Under:
    """What a plate stands on, and how: a flat, a round tube, or a box's corner."""

    tube_od: float | None = None  # of a round tube [mm]; None: a flat
    angle_deg: float = 90.0  # between plate and tube axis
    offset: float = 0.0  # of the bolt across the tube, from over the foot's middle [mm]
    lean_deg: float = 0.0  # of the plate from square to skin or flat, toward its bolt's own way
    beside: float = 0.0  # of this plate's middle from the pair's, along the bolt [mm]
    corner: CornerFoot | None = None  # that it straddles
    aside: float = 0.0  # of the foot's middle along it from under the hole, on a flat [mm]


@dataclass(frozen=True, slots=True, kw_only=True)
class TabOutline:
    """A tab's contour with its hole [mm]."""

    contour: Contour
    low: float  # lowest point of the foot, or 0 where that is lower
    warnings: tuple[str, ...]


def tab_outline(
    head_radius: float, edge: float, base_width: float, height: float, hole: float, thickness: float, under: Under = Under(),
    more: Sequence[tuple[float, float]] = ((0.0, 0.0),), through: Edge | None = None,
) -> TabOutline:  # fmt: skip
    """Contour of a tab: foot, two flanks tangent to the head, head arc above the hole.

    Args:
        head_radius: of the free end, half the width across the hole [mm]
        edge: hole centre to the free end, at least the head radius [mm]
        base_width: of the foot [mm]
        height: where the pair's own middle meets what it stands on, to the hole's centre [mm]
        hole: diameter [mm]
        thickness: [mm]
        under: what it stands on, and how.
        more: all of its holes from the joint's, x along the foot and y away from it [mm]
        through: middle line of the slot that they are places of, likewise; None: they are round holes.

    Returns:
        Outline and warnings (hole under the plate's thickness, thin web).

    Raises:
        InputError: the shape contradicts itself.
        NotApplicable: a foot that wraps round its tube, or along which no fillet goes.

    Source:
        Geometry (derived).
    """
    half = base_width / 2
    if base_width < NARROWEST * head_radius - 1e-9:
        raise InputError(
            f"The foot ({base_width:g} mm) is narrower than half the head ({NARROWEST * head_radius:g} mm). Widen the foot.",
            code="contradictory", fields=("base_width",), value=base_width, limits=(NARROWEST * head_radius, None),
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
    stands = _stands(under, half, thickness)
    flat = -under.beside * tan(radians(under.lean_deg))
    left, right, middle = (stands.foot(x) if stands else flat for x in (-half, half, 0.0))
    foot = (under.aside - half, left), (under.aside + half, right)
    if under.corner is not None:
        foot, middle = _on_corner(under.corner, centre, head_radius), under.corner.open
        left, right = foot[0][1], foot[1][1]
    if hole / 2 >= height - middle:
        raise InputError(
            "The hole reaches the foot. Raise the hole.",
            code="contradictory", fields=("height",), value=height, limits=(hole / 2 + middle, None),
        )  # fmt: skip
    if through is None:
        require_webs(more, hole, thickness)
    else:
        more = along_a_slot(through)
    lowest = min(y for _, y in more) + height
    if hole / 2 >= lowest - max(left, right, middle):
        raise InputError(
            f"The lowest hole reaches the foot: it stands {lowest:.1f} mm over it. Raise the joint, or set the holes otherwise.",
            code="contradictory", fields=("holes" if len(more) > 1 else "height",), value=lowest, limits=(hole / 2, None),
        )  # fmt: skip
    edges = flanks(foot, centre, head_radius) if len(more) == 1 else _round_holes(foot, centre, head_radius, more)
    if under.corner is not None:
        edges += _straddling(under.corner)
    elif stands is None:
        edges.append(Straight(*foot[0], *foot[1]))
    elif abs(under.angle_deg - 90.0) < 1e-9:
        r, aside = stands.tube_od / 2, -under.offset
        first_deg, last_deg = (degrees(atan2(y + r, x - aside)) for x, y in ((half, right), (-half, left)))
        edges.append(Curve(aside, -r, r, first_deg, last_deg, back=True))
    else:
        edges += arcs_of(lambda x: (x, stands.foot(x)), -half, half)
    warnings = []
    if hole < thickness:
        warnings.append("the hole is smaller than the plate is thick: drill it, it does not punch or burn well")
    if lowest - middle - hole / 2 < 1.5 * thickness:
        warnings.append("less than 1.5 thicknesses between hole and foot: the weld's heat reaches the hole")
    gap = stands.face_gap(half, thickness) if stands else thickness / 2 * abs(tan(radians(under.lean_deg)))
    if gap > 0.05:
        how = "the fillet fills it" if gap <= CLOSE else "bevel the foot to what it stands on"
        on = "the tube" if stands else "the flat"
        warnings.append(f"cut square to the plate its foot stands off {on} at one face by {gap:.1f} mm at most: {how}")
    cut = () if through is None else (slot(moved(through, 0.0, height), hole),)
    round_holes = () if cut else tuple(Hole(x, height + y, hole) for x, y in more)
    contour = Contour(edges=tuple(edges), holes=round_holes, openings=cut)
    return TabOutline(contour=contour, low=min(0.0, left, right), warnings=tuple(warnings))


Foot = tuple[tuple[float, float], tuple[float, float]]  # where it ends, left and right


def flanks(foot: Foot, centre: float, radius: float) -> list[Edge]:
    """From the foot's right end round the head to its left one.

    Args:
        foot: where it ends, left and right.
        centre: of the head, over the foot's own level 0 [mm].
        radius: of the head [mm].

    Raises:
        InputError: the head swallows a corner.
    """
    (x_left, left), (x_right, right) = foot
    rx, ry, first = _flank(x_right, right, centre, radius)
    lx, ly, last = _flank(-x_left, left, centre, radius)
    return [
        Straight(x_right, right, rx, ry),
        Curve(0.0, centre, radius, first, 180.0 - last),
        Straight(-lx, ly, x_left, left),
    ]


def _on_corner(corner: CornerFoot, centre: float, radius: float) -> Foot:
    """Where a foot on a corner ends.

    Raises:
        InputError: its legs are too short to be welded, or its head reaches a wall.
    """
    least = 2 * corner.open * 2**0.5
    if corner.width < least - 1e-9:
        raise InputError(
            f"Of each leg on the corner no more than {corner.leg - corner.open:.1f} mm are left to weld: its point stays open, {corner.open:g} mm. Widen the foot to {least:.1f} mm.",
            code="contradictory", fields=("base_width",), value=corner.width, limits=(least, None),
        )  # fmt: skip
    for way in (-1.0, 1.0):
        off = centre * corner.looks(way)[1]
        if off < radius:
            raise InputError(
                f"The head reaches {radius - off:.1f} mm into a wall beside the corner. Make the head smaller, or set joint and corner further apart.",
                code="contradictory", fields=("height",), value=off, limits=(radius, None),
            )  # fmt: skip
    return corner.on_leg(-1.0, corner.leg), corner.on_leg(1.0, corner.leg)


def _straddling(corner: CornerFoot) -> list[Edge]:
    """From the left leg's end to the hole over the corner's point, round it, and to the right leg's end."""
    right, left = corner.open_degrees()
    edges: list[Edge] = [Straight(*corner.on_leg(-1.0, corner.leg), *corner.on_leg(-1.0, corner.open))]
    edges.append(Curve(0.0, 0.0, corner.open, right, left, back=True))
    edges.append(Straight(*corner.on_leg(1.0, corner.open), *corner.on_leg(1.0, corner.leg)))
    return edges


def _round_holes(foot: Foot, centre: float, radius: float, more: Sequence[tuple[float, float]]) -> list[Edge]:
    """From the foot's right end round a head over every hole to its left one."""
    (x_left, left), (x_right, right) = foot
    circles = [(x_right, right, 0.0), (x_left, left, 0.0), *((x, centre + y, radius) for x, y in more)]
    down = atan2(right - left, x_right - x_left) - pi / 2
    reach = x_right * cos(down) + right * sin(down)
    past = max(x * cos(down) + y * sin(down) + r for x, y, r in circles) - reach
    if past > 1e-6:
        raise InputError(
            f"The metal round a hole reaches {past:.1f} mm past the foot. Raise the joint, widen the foot, or set the holes otherwise.",
            code="contradictory", fields=("holes",), value=past,
        )  # fmt: skip
    passed = around(circles, 0, down)
    if passed[-1][0] != 1:
        raise InputError(
            "The metal round the holes swallows the foot’s corner. Raise the joint, or widen the foot.",
            code="contradictory", fields=("base_width",), value=x_right - x_left,
        )  # fmt: skip
    return edges_between(circles, passed)


def _stands(under: Under, half: float, thickness: float) -> Saddle | None:
    """The foot on its tube; None on a flat. Faults are named by the pair's own fields."""
    if under.corner is not None:
        return None
    if under.tube_od is None:
        try:
            require_range("base.lean_deg", under.lean_deg, -MOST_LEAN, MOST_LEAN)
        except InputError as error:
            error.message = f"The plates lean {abs(under.lean_deg):.0f}° from square to the flat, and no plain fillet is laid beyond {MOST_LEAN:.0f}°. Turn the bolt along the flat, or stand them on another face."
            raise
        return None
    try:
        return saddle(
            under.tube_od, under.angle_deg, half, thickness, under.offset, under.beside, under.lean_deg
        )  # fmt: skip
    except (InputError, NotApplicable) as error:
        error.fields = tuple(SADDLE_FIELDS.get(field, field) for field in error.fields)
        raise


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
