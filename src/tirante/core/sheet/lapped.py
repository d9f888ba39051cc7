"""A plate that lies on a face and holds a joint past its edge, or off it: straight, joggled, or with a flange hooked over the edge behind it.

Coordinates of the flat: y along the plate, 0 where its joggle begins (or where it leaves what it lies on), the hole on the positive side; x across it.
Seen from the side away from what it lies on; the joggle's first bend goes up toward that side, its second down, the flange down.

Source:
    Joggle and bend allowance by the neutral fibre (`sheet/joggle`, `sheet/bend`); tangents to a circle (derived). Hole to bend 2 t + R, shortest
    flange 0.7 of the die's opening: common practice, no source.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import cos, pi, sin

from tirante.core.errors import InputError
from tirante.core.flat.contour import Bend, Contour, Edge, Hole, Straight, rounded
from tirante.core.flat.hull import around, edges_between
from tirante.core.quantities import or_more
from tirante.core.sheet.bend import Bent
from tirante.core.sheet.folded_u import FLANGE_OF_DIE, USUAL_DIE, square_bend, upper_half
from tirante.core.sheet.joggle import Joggle, joggle


@dataclass(frozen=True, slots=True, kw_only=True)
class Lapped:
    """A lapped plate [mm]."""

    contour: Contour
    thickness: float
    joggle: Joggle | None
    hook: Bent | None
    foot: float  # that it lies on what it is welded to
    flange: float  # of the hook, from the outer corner
    hole_at: float  # in the flat
    reach: float  # the same, folded

    def folded(self, y: float, depth: float = 0.0) -> tuple[float, float]:
        """Where a place of the flat is when it is folded: along it, and up from what it lies on.

        Args:
            y: along the flat.
            depth: through the sheet from its upper face, 0 to the thickness.
        """
        t, up = self.thickness, self.thickness - depth
        if self.hook is not None and y < -self._flat_foot:
            past, one = -self._flat_foot - y, self.hook
            turn = min(past / one.allowance, 1.0) * one.angle
            beyond = max(0.0, past - one.allowance)
            # its inside is on the lower side: about a centre a radius below the lower face
            reach = one.radius + up
            along = -self._flat_foot - reach * sin(turn) - beyond * cos(turn)
            return along, -one.radius + reach * cos(turn) - beyond * sin(turn)
        if self.joggle is None or y <= 0:
            return y, up
        one = self.joggle.bend
        a, angle, r = one.allowance, one.angle, one.radius
        if y <= a:
            turn = y / a * angle
            reach = r + depth
            return reach * sin(turn), t + r - reach * cos(turn)
        first = (r + t / 2) * sin(angle), (r + t / 2) * (1 - cos(angle))  # of the middle of the sheet
        off = t / 2 - depth  # of this place from the middle, up
        if y <= a + self.joggle.straight:
            s = y - a
            return first[0] + s * cos(angle) - off * sin(angle), t / 2 + first[1] + s * sin(angle) + off * cos(angle)
        end = first[0] + self.joggle.straight * cos(angle), t / 2 + first[1] + self.joggle.straight * sin(angle)
        s = y - a - self.joggle.straight
        if s <= a:
            turn = angle - s / a * angle
            along = end[0] + (r + t / 2) * (sin(angle) - sin(turn))
            high = end[1] + (r + t / 2) * (cos(turn) - cos(angle))
            return along - off * sin(turn), high + off * cos(turn)
        return self.joggle.run + s - a, self.joggle.offset + up

    @property
    def _flat_foot(self) -> float:
        """Of the foot, up to where its hook's bend begins [mm]."""
        return self.foot if self.hook is None else self.foot - self.hook.radius


def lapped(
    thickness: float, width: float, foot: float, reach: float, head: tuple[float, float, float], off: tuple[float, float] = (0.0, 0.0), flange: float = 0.0,
    radius: float = 5.0, k: float | None = None, die: float | None = None, corner: float = 0.0,
) -> Lapped:  # fmt: skip
    """The flat of a lapped plate.

    Args:
        thickness: of the plate [mm].
        width: of its foot, across it [mm].
        foot: that it lies on what it is welded to [mm].
        reach: from there to the hole, along it, folded [mm].
        head: radius of its head, hole centre to the free end, and diameter of the hole [mm].
        off: how far a joggle sets it off, face to the same face [mm], and by which bends [rad]; nothing: it is straight.
        flange: hooked over the edge behind the foot, outside [mm]; 0: none.
        radius: of every bend, inside [mm].
        k: where the neutral fibre lies; else by DIN 6935.
        die: width of the die's opening [mm]; None: eight thicknesses.
        corner: radius of the corners of its far end [mm].

    Raises:
        InputError: a figure that contradicts another, by field, with the rule and the least that works.
        NotApplicable: too tight a bend for the rule of the neutral fibre; a joggle that runs back over itself.
    """
    round_, edge, hole = head
    opening = USUAL_DIE * thickness if die is None else die

    def least(field: str, value: float, wanted: float, told: str) -> None:
        if value < wanted - 1e-9:
            raise InputError(f"{told}: {or_more(wanted)} mm or more, and it is {value:.1f} mm.", code="contradictory", fields=(field,), value=value, limits=(wanted, None))  # fmt: skip

    least("base_width", width, 2 * round_, "The plate is at least as wide as its head")
    least("edge", edge, round_, "From the hole to the free end it is at least the head’s radius")
    least("head_radius", round_, hole / 2 + 1e-6, "The hole breaks out of the head, which is more than half of it")
    bends: list[Bend] = []
    half, made, at = width / 2, None, reach
    if off[0] > 0:
        made = joggle(thickness, radius, off[1], off[0], 0.0, 0.0, k)
        if not made.feasible:
            most = 2 * (radius + thickness / 2) * (1 - cos(off[1]))
            raise InputError(f"A joggle of {off[0]:.1f} mm has no room for two bends: they alone set it off by {most:.1f} mm. Bend less far, or tighter.", code="contradictory", fields=("bend_deg",), value=off[1] * 180 / pi)  # fmt: skip
        clear = made.run + 2 * thickness + radius + hole / 2
        least(
            "reach_mm",
            reach,
            clear,
            "From the joggle’s end to the hole’s edge 2 t + R is left free (common practice): from what it lies on to the hole",
        )
        least(
            "foot_mm",
            foot,
            FLANGE_OF_DIE * opening,
            f"Its foot is too short to lie on a die of {opening:.0f} mm (common practice)",
        )
        a = made.bend.allowance
        at = reach - made.run + 2 * a + made.straight
        bends += [
            Bend(line=Straight(-half, a / 2, half, a / 2), angle_deg=off[1] * 180 / pi, radius=radius),
            Bend(line=Straight(-half, 1.5 * a + made.straight, half, 1.5 * a + made.straight), angle_deg=-off[1] * 180 / pi, radius=radius),
        ]  # fmt: skip
        root = 2 * a + made.straight  # its sides run straight as far as its bends do
    else:
        least("reach_mm", reach, hole / 2 + 1.5 * thickness, "Between what it lies on and the hole 1.5 t is left, or the weld’s heat reaches it: to the hole")  # fmt: skip
        root = 0.0
    hook, low = None, -foot
    if flange > 0:
        hook = square_bend(thickness, radius, k)
        least("flange_mm", flange, max(FLANGE_OF_DIE * opening, radius + thickness) + 1e-9, f"The flange is too short to lie on a die of {opening:.0f} mm (common practice)")  # fmt: skip
        least("foot_mm", foot, radius + FLANGE_OF_DIE * opening, f"Behind its hook the foot is too short to lie on a die of {opening:.0f} mm (common practice)")  # fmt: skip
        begins = -(foot - radius)
        low = begins - hook.allowance - (flange - radius - thickness)
        line = begins - hook.allowance / 2
        bends.append(Bend(line=Straight(-half, line, half, line), angle_deg=-90.0, radius=radius))
    centre = at + edge - round_
    if centre - round_ < root:
        raise InputError("The head swallows the plate’s corner. Move the hole out, or shrink the head.", code="contradictory", fields=("reach_mm",), value=reach)  # fmt: skip
    circles = ((half, root, 0.0), (-half, root, 0.0), (0.0, centre, round_))
    # from its right side round the head to its left one
    ear = edges_between(circles, upper_half(around(circles, 0, 0.0)))
    most = min(half, (flange - radius - thickness) if hook else foot)
    if corner > most + 1e-9:
        raise InputError(f"The corners of its far end are round by {corner:g} mm, and there is room for {max(0.0, most):.1f} mm. Give that or less.", code="contradictory", fields=("corner_mm",), value=corner, limits=(0.0, most))  # fmt: skip
    edges: list[Edge] = [
        *ear, Straight(-half, root, -half, low + corner), *rounded(-half, low, 180.0, corner),
        *((Straight(corner - half, low, half - corner, low),) if corner < half else ()), *rounded(half, low, 270.0, corner),
        Straight(half, low + corner, half, root),
    ]  # fmt: skip
    contour = Contour(edges=tuple(edges), holes=(Hole(0.0, at, hole),), bends=tuple(bends))
    return Lapped(
        contour=contour, thickness=thickness, joggle=made, hook=hook, foot=foot, flange=flange, hole_at=at, reach=reach
    )
