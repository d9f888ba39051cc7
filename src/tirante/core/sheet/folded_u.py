"""A U folded from one plate with a round-headed ear on either side: its flat pattern, and the same folded back.

Coordinates of the flat: x across the bends from the base's middle, y along them. The base's outer face is what it stands on.
A skewed base is a parallelogram: its bends stay square to the bolt, its free edges do not, so that either ear stands off the middle of its hole by
half the base's flat times the tangent of the skew, one way and the other.
Not covered: hems, more than two bends, ears that lean.

Source:
    Bend allowance by the neutral fibre (`sheet/bend`); tangents to a circle (derived). Shortest flange 0.7 of the die's opening: common
    practice, no source. Hole to bend: 2 t + R from the bend's beginning: common practice, no source.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import atan2, cos, degrees, pi, sin, tan

from tirante.core.errors import InputError, NotApplicable
from tirante.core.flat.contour import Bend, Contour, Curve, Edge, Hole, Straight
from tirante.core.flat.hull import around, edges_between
from tirante.core.quantities import or_more
from tirante.core.sheet.bend import Bent, bent

FLANGE_OF_DIE = 0.7
USUAL_DIE = 8.0  # times the plate's thickness
SQUARE = pi / 2


@dataclass(frozen=True, slots=True, kw_only=True)
class FoldedU:
    """A folded U [mm]."""

    contour: Contour
    bend: Bent
    gap: float  # between the ears, inside
    base: float  # flat of the base between the bends
    hole_at: float  # of either hole in the flat, from the base's middle
    height: float  # outer face of the base to the holes, folded
    shift: float = 0.0  # of the ear at + x along its bend, from its hole; of the other as much the other way

    def folded(self, x: float, y: float, depth: float = 0.0) -> tuple[float, float, float]:
        """Where a place of the flat is when it is folded: across, along, and up from the outer face of the base.

        Args:
            x: across the bends.
            y: along them.
            depth: through the sheet from the face that becomes the inside, 0 to the thickness.
        """
        one, side = self.bend, 1.0 if x >= 0 else -1.0
        t, r, past = one.thickness, one.radius, abs(x) - self.base / 2
        if past <= 0:
            return x, y, t - depth
        if past < one.allowance:
            turn = past / one.allowance * one.angle
            reach = r + depth
            return side * (self.base / 2 + reach * sin(turn)), y, t + r - reach * cos(turn)
        return side * (self.base / 2 + r + depth), y, t + r + past - one.allowance


def square_bend(thickness: float, radius: float, k: float | None) -> Bent:
    """A bend by a right angle; its faults by the fields of a bracket.

    Args:
        thickness: of the plate [mm].
        radius: of the bend, inside [mm].
        k: where the neutral fibre lies; else by DIN 6935.
    """
    try:
        return bent(thickness, radius, SQUARE, k)
    except (InputError, NotApplicable) as error:
        error.fields = tuple({"thickness_mm": "plate"}.get(f, f) for f in error.fields)
        raise


def folded_u(
    gap: float, thickness: float, radius: float, width: float, height: float, head: float, edge: float, hole: float,
    k: float | None = None, die: float | None = None, skew: float = 0.0,
) -> FoldedU:  # fmt: skip
    """The flat of a U.

    Args:
        gap: between the ears, inside [mm].
        thickness: of the plate [mm].
        radius: of the bends, inside [mm].
        width: of the base along the bends [mm].
        height: outer face of the base to the holes [mm].
        head: radius of the ears' heads [mm].
        edge: hole centre to the free end [mm].
        hole: diameter [mm].
        k: where the neutral fibre lies; else by DIN 6935.
        die: width of the die's opening [mm]; None: eight thicknesses.
        skew: of the base's free edges from square to the bends [rad].

    Raises:
        InputError: a figure that contradicts another, by field, with the rule and the least that works.
        NotApplicable: too tight a bend for the rule of the neutral fibre.
    """
    one = square_bend(thickness, radius, k)
    base = gap - 2 * radius
    if base < 0:
        raise InputError(
            f"The ears stand {gap:.1f} mm apart, and both bends take {2 * radius:.1f} mm of it. Bend tighter, or put spacers beside the ball.",
            code="contradictory", fields=("radius_mm",), value=radius, limits=(None, gap / 2),
        )  # fmt: skip
    if width < 2 * head - 1e-9:
        raise InputError(
            f"The base ({width:g} mm) is narrower than the head ({2 * head:g} mm). Widen it.",
            code="contradictory", fields=("base_width",), value=width, limits=(2 * head, None),
        )  # fmt: skip
    shift = base / 2 * tan(skew)
    if width < 2 * (head + abs(shift)) - 1e-9:
        raise InputError(
            f"Skewed, either ear stands {abs(shift):.1f} mm off the middle of its hole, and the base ({width:g} mm) no longer reaches under the head. Make it {or_more(2 * (head + abs(shift)))} mm or more.",
            code="contradictory", fields=("base_width",), value=width, limits=(2 * (head + abs(shift)), None),
        )  # fmt: skip
    if edge < head - 1e-9:
        raise InputError(
            f"The hole stands {head - edge:.2f} mm past the head’s centre. Make the edge distance at least the head radius.",
            code="contradictory", fields=("edge",), value=edge, limits=(head, None),
        )  # fmt: skip
    if hole / 2 >= head:
        raise InputError("The hole breaks out of the head. Use a larger head radius.", code="contradictory", fields=("hole",), value=hole, limits=(None, 2 * head))  # fmt: skip
    least = thickness + radius + 2 * thickness + radius + hole / 2
    if height < least:
        raise InputError(
            f"The hole stands {height:.1f} mm over what the U stands on, too near to its bend: from the bend’s beginning to the hole’s edge 2 t + R is left free "
            f"(common practice), so {or_more(least)} mm or more.",
            code="contradictory", fields=("height",), value=height, limits=(least, None),
        )  # fmt: skip
    flange, opening = height + edge, USUAL_DIE * thickness if die is None else die
    if flange < FLANGE_OF_DIE * opening + thickness:
        raise InputError(
            f"The ears are {flange:.1f} mm tall, too short to lie on a die of {opening:.0f} mm: {or_more(FLANGE_OF_DIE * opening + thickness)} mm or more (common practice).",
            code="contradictory", fields=("die_mm",), value=opening, limits=(None, (flange - thickness) / FLANGE_OF_DIE),
        )  # fmt: skip
    if gap + thickness < FLANGE_OF_DIE * opening - 1e-9:
        raise InputError(
            f"For its second bend the base lies on the die as far as the first ear, {gap + thickness:.1f} mm, too short for a die of {opening:.0f} mm: {or_more(FLANGE_OF_DIE * opening)} mm or more (common practice). Take a narrower die.",
            code="contradictory", fields=("die_mm",), value=opening, limits=(None, (gap + thickness) / FLANGE_OF_DIE),
        )  # fmt: skip
    straight = height - thickness - radius  # of an ear, from its bend's end to its hole
    end = base / 2 + one.allowance
    hole_at = end + straight
    centre = hole_at + edge - head
    half = width / 2
    corners = ((end, shift - half, 0.0), (end, shift + half, 0.0))
    if centre - head < end:
        raise InputError("The head swallows the bend’s corner. Raise the hole, or shrink the head.", code="contradictory", fields=("height",), value=height)  # fmt: skip
    # from the lower corner at the bend's end round the head to the upper one
    right = edges_between(
        (*corners, (centre, 0.0, head)), upper_half(around((*corners, (centre, 0.0, head)), 0, -SQUARE))
    )
    left = [turned_round(edge_) for edge_ in right]
    edges: list[Edge] = [
        *right,
        *_free_edge(base / 2, end, half, shift, thickness),
        *left,
        *(turned_round(one) for one in _free_edge(base / 2, end, half, shift, thickness)),
    ]
    lines = [base / 2 + one.allowance / 2, -(base / 2 + one.allowance / 2)]
    bends = tuple(
        Bend(line=Straight(x, way * shift - half, x, way * shift + half), angle_deg=90.0, radius=radius)
        for x, way in zip(lines, (1.0, -1.0), strict=True)
    )
    contour = Contour(edges=tuple(edges), holes=(Hole(hole_at, 0.0, hole), Hole(-hole_at, 0.0, hole)), bends=bends)
    return FoldedU(contour=contour, bend=one, gap=gap, base=base, hole_at=hole_at, height=height, shift=shift)


def _free_edge(base: float, end: float, half: float, shift: float, round_: float) -> list[Edge]:
    """The base's upper edge from the right ear to the left one: aslant over what lies flat, square to the bends over these, its inside corner rounded.

    Args:
        base: half of what lies flat [mm].
        end: of the right bend, from the middle [mm].
        half: of the ears' width [mm].
        shift: of the right ear [mm].
        round_: radius of the inside corner [mm].
    """
    if shift == 0:
        return [Straight(end, half, -end, half)]
    turn = abs(atan2(shift, base))
    cut = min(round_ * tan(turn / 2), 0.9 * (end - base), base)
    r, dx, dy = cut / tan(turn / 2), cos(turn), sin(turn)
    if shift > 0:  # the inside corner is at the left bend
        a, b = (-base + cut * dx, half - shift + cut * dy), (-base - cut, half - shift)
        curve = Curve(b[0], b[1] + r, r, 270.0, 270.0 + degrees(turn), back=True)
        corner = Straight(base, half + shift, *a), curve, Straight(*b, -end, half - shift)
        return [Straight(end, half + shift, base, half + shift), *corner]
    a, b = (base + cut, half + shift), (base - cut * dx, half + shift + cut * dy)
    curve = Curve(a[0], a[1] + r, r, 270.0 - degrees(turn), 270.0, back=True)
    return [Straight(end, half + shift, *a), curve, Straight(*b, -base, half - shift), Straight(-base, half - shift, -end, half - shift)]  # fmt: skip


def upper_half(passed: list[tuple[int, float, float]]) -> list[tuple[int, float, float]]:
    """Of the line round an ear what runs from its lower corner over its head to its upper one.

    Args:
        passed: corners and head, as they are met.
    """
    upper = next(i for i, one in enumerate(passed) if one[0] == 1)
    return passed[: upper + 1]


def turned_round(edge: Edge) -> Edge:
    """An edge turned half round about the middle."""
    if isinstance(edge, Straight):
        return Straight(-edge.x1, -edge.y1, -edge.x2, -edge.y2)
    from dataclasses import replace

    return replace(edge, cx=-edge.cx, cy=-edge.cy, start_deg=edge.start_deg + 180.0, end_deg=edge.end_deg + 180.0)
