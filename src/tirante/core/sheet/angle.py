"""An angle folded from one plate: a foot with two bolt holes, and an ear with a round head that stands square on it.

Coordinates of the flat: x across the bend, 0 where the foot's flat ends and the bend begins, the ear on the positive side; y along it. Of two
angles to either side of a joint the ears' smooth faces look at each other, the feet point away from it; both are one and the same piece.

Source:
    Bend allowance by the neutral fibre (`sheet/bend`); tangents to a circle (derived). Hole to bend 2 t + R from the bend's beginning, shortest
    flange 0.7 of the die's opening: common practice, no source. Bolts: 2.4 holes apart, 1.2 from an edge, EN 1993-1-8 Table 3.3 (from memory).
"""

from __future__ import annotations

from dataclasses import dataclass
from math import cos, hypot, sin

from tirante.core.errors import InputError
from tirante.core.flat.contour import Bend, Contour, Hole, Straight, rounded
from tirante.core.flat.hull import around, edges_between
from tirante.core.quantities import or_more
from tirante.core.sheet.bend import Bent
from tirante.core.sheet.folded_u import FLANGE_OF_DIE, SQUARE, USUAL_DIE, square_bend, upper_half

APART, FROM_EDGE = 2.4, 1.2  # of a bolt's hole


@dataclass(frozen=True, slots=True, kw_only=True)
class FoldedAngle:
    """A folded angle [mm]."""

    contour: Contour
    bend: Bent
    foot: float  # flat of the foot, from its toe to where the bend begins
    hole_at: float  # of the joint's hole in the flat
    bolts_at: float  # of the foot's holes in the flat, toward the toe
    height: float  # the foot's lower face to the joint's hole, folded

    def folded(self, x: float, y: float, depth: float = 0.0) -> tuple[float, float, float]:
        """Where a place of the flat is when it is folded: out from the ear's smooth face toward the toe, along the bend, up from the foot's lower face.

        Args:
            x: across the bend.
            y: along it.
            depth: through the sheet from the face that becomes the inside, 0 to the thickness.
        """
        one, t, r = self.bend, self.bend.thickness, self.bend.radius
        if x <= 0:
            return t + r - x, y, t - depth
        if x < one.allowance:
            turn = x / one.allowance * one.angle
            reach = r + depth
            return t + r - reach * sin(turn), y, t + r - reach * cos(turn)
        return t - depth, y, t + r + x - one.allowance


def folded_angle(
    thickness: float, radius: float, width: float, height: float, head: float, edge: float, hole: float, bolts: tuple[float, float, float, float],
    k: float | None = None, die: float | None = None, corner: float = 0.0,
) -> FoldedAngle:  # fmt: skip
    """The flat of an angle.

    Args:
        thickness: of the plate [mm].
        radius: of the bend, inside [mm].
        width: along the bend [mm].
        height: the foot's lower face to the joint's hole [mm].
        head: radius of the ear's head [mm].
        edge: hole centre to the free end [mm].
        hole: of the joint [mm].
        bolts: of the foot: their holes, the ear's outer face to their line, from there to the toe, and how far the two stand apart [mm].
        k: where the neutral fibre lies; else by DIN 6935.
        die: width of the die's opening [mm]; None: eight thicknesses.
        corner: radius of the foot's corners [mm].

    Raises:
        InputError: a figure that contradicts another, by field, with the rule and the least that works.
        NotApplicable: too tight a bend for the rule of the neutral fibre.
    """
    one = square_bend(thickness, radius, k)
    bore, gauge, toe, apart = bolts

    def least(field: str, value: float, wanted: float, told: str) -> None:
        if value < wanted - 1e-9:
            raise InputError(f"{told}: {or_more(wanted)} mm or more, and it is {value:.1f} mm.", code="contradictory", fields=(field,), value=value, limits=(wanted, None))  # fmt: skip

    least("base_width", width, 2 * head, "The foot is at least as wide as the head")
    least("edge", edge, head, "From the hole to the free end it is at least the head’s radius")
    least("head_radius", head, hole / 2 + 1e-6, "The hole breaks out of the head, which is more than half of it")
    rise = thickness + 2 * radius + 2 * thickness
    least(
        "height",
        height,
        rise + hole / 2,
        "From the bend’s beginning to the joint’s hole 2 t + R is left free (common practice): its height over the face",
    )
    least(
        "gauge_mm",
        gauge,
        2 * radius + 2 * thickness + bore / 2,
        "From the bend’s beginning to a bolt’s hole 2 t + R is left free (common practice): from the ear to the bolts",
    )
    least("toe_mm", toe, FROM_EDGE * bore, "From the bolts to the foot’s end 1.2 holes (EN 1993-1-8)")
    least("apart_mm", apart, APART * bore, "The foot’s two bolts stand 2.4 holes apart (EN 1993-1-8)")
    least(
        "base_width",
        width,
        apart + 2 * FROM_EDGE * bore,
        "Beside the foot’s bolts 1.2 holes of metal are left (EN 1993-1-8): the foot’s width",
    )
    opening = USUAL_DIE * thickness if die is None else die
    for field, flange, told in (("toe_mm", gauge + toe + thickness, "foot"), ("height", height + edge, "ear")):
        least(
            field,
            flange,
            FLANGE_OF_DIE * opening + thickness,
            f"The {told} is too short to lie on a die of {opening:.0f} mm (common practice): outside",
        )
    foot = gauge + toe - radius
    # from a bolt to the arc of its corner, where it stands within that, as far as to an edge
    inside = max(0.0, corner - toe), max(0.0, corner - (width - apart) / 2)
    if all(inside) and corner - hypot(*inside) < FROM_EDGE * bore - 1e-9:
        raise InputError(f"So round its corners leave {corner - hypot(*inside):.1f} mm beside the foot’s bolts, and 1.2 holes, {FROM_EDGE * bore:.1f} mm, are asked (EN 1993-1-8). Make them less round, or the foot larger.", code="contradictory", fields=("corner_mm",), value=corner)  # fmt: skip
    if 2 * corner >= width or corner > foot:
        raise InputError(f"The foot’s corners are round by {corner:g} mm, and it is {width:g} mm wide and {foot:.1f} mm long before its bend. Make them less round.", code="contradictory", fields=("corner_mm",), value=corner, limits=(0.0, min(width / 2, foot)))  # fmt: skip
    hole_at = one.allowance + height - thickness - radius
    centre, half = hole_at + edge - head, width / 2
    if centre - head < one.allowance:
        raise InputError("The head swallows the bend’s corner. Raise the hole, or shrink the head.", code="contradictory", fields=("height",), value=height)  # fmt: skip
    circles = ((one.allowance, -half, 0.0), (one.allowance, half, 0.0), (centre, 0.0, head))
    ear = edges_between(circles, upper_half(around(circles, 0, -SQUARE)))
    edges = (
        *ear, Straight(one.allowance, half, corner - foot, half), *rounded(-foot, half, 90.0, corner), Straight(-foot, half - corner, -foot, corner - half),
        *rounded(-foot, -half, 180.0, corner), Straight(corner - foot, -half, one.allowance, -half),
    )  # fmt: skip
    bolts_at = -(gauge - radius)
    line = one.allowance / 2
    contour = Contour(
        edges=edges, holes=(Hole(hole_at, 0.0, hole), *(Hole(bolts_at, way * apart / 2, bore) for way in (-1.0, 1.0))),
        bends=(Bend(line=Straight(line, -half, line, half), angle_deg=90.0, radius=radius),),
    )  # fmt: skip
    return FoldedAngle(contour=contour, bend=one, foot=foot, hole_at=hole_at, bolts_at=bolts_at, height=height)
