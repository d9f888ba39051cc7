"""A strip of plate bent half round a tube, both its ends ears that stand along it: its flat pattern, and the same folded back.

Coordinates of the flat: x round the tube from the strap's middle, y along the tube. The inside lies on the tube; the ears leave it at its sides,
so that they stand as far apart as it is wide.
Not covered: ears that lean or are set in, a strap that goes less than half round.

Source:
    Length of the neutral fibre (`sheet/bend`). Two thicknesses between hole and roll: common practice, no source.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import cos, pi, sin

from tirante.core.errors import InputError
from tirante.core.flat.contour import Bend, Contour, Hole, Straight
from tirante.core.flat.hull import around, edges_between
from tirante.core.sheet.bend import Bent
from tirante.core.sheet.folded_u import SQUARE, square_bend, turned_round, upper_half

CLEAR = 2.0  # thicknesses between a hole’s edge and where the roll begins; common practice, no source


@dataclass(frozen=True, slots=True, kw_only=True)
class Strap:
    """A strap [mm]."""

    contour: Contour
    quarter: Bent  # a quarter of the way round, from the middle to an ear
    hole_at: float  # of either hole in the flat, from the middle
    height: float  # tube's middle to the holes, bent

    @property
    def gap(self) -> float:
        """Between the ears."""
        return 2 * self.quarter.radius

    def folded(self, x: float, y: float, depth: float = 0.0) -> tuple[float, float, float]:
        """Where a place of the flat is when it is bent: along the bolt, along the tube, and from the tube's middle toward the joint.

        Args:
            x: round the tube.
            y: along it.
            depth: through the sheet from the face that lies on the tube, 0 to the thickness.
        """
        one, side = self.quarter, 1.0 if x >= 0 else -1.0
        reach, past = one.radius + depth, abs(x) - one.allowance
        if past > 0:
            return side * reach, y, past
        turn = abs(x) / one.allowance * SQUARE
        return side * reach * sin(turn), y, -reach * cos(turn)


def strap(
    tube_od: float, thickness: float, width: float, height: float, head: float, edge: float, hole: float, k: float | None = None
) -> Strap:  # fmt: skip
    """The flat of a strap.

    Args:
        tube_od: of the tube that it goes over [mm].
        thickness: of the plate [mm].
        width: of the strap, along the tube [mm].
        height: tube's middle to the holes [mm].
        head: radius of the ears' heads [mm].
        edge: hole centre to the free end [mm].
        hole: diameter [mm].
        k: where the neutral fibre lies; else by DIN 6935.

    Raises:
        InputError: a figure that contradicts another, by field, with the rule and the least that works.
        NotApplicable: too tight a bend for the rule of the neutral fibre.
    """
    quarter = square_bend(thickness, tube_od / 2, k)
    if width < 2 * head - 1e-9:
        raise InputError(f"The strap ({width:g} mm) is narrower than its heads ({2 * head:g} mm). Widen it.", code="contradictory", fields=("base_width",), value=width, limits=(2 * head, None))  # fmt: skip
    if edge < head - 1e-9:
        raise InputError(f"The hole stands {head - edge:.2f} mm past the head’s centre. Make the edge distance at least the head radius.", code="contradictory", fields=("edge",), value=edge, limits=(head, None))  # fmt: skip
    if hole / 2 >= head:
        raise InputError("The hole breaks out of the head. Use a larger head radius.", code="contradictory", fields=("hole",), value=hole, limits=(None, 2 * head))  # fmt: skip
    least = max(tube_od / 2 + hole / 2, CLEAR * thickness + hole / 2, 2 * head - edge)
    if height < least:
        raise InputError(
            f"The hole stands {height:.1f} mm over the tube’s middle: its bolt clears the tube, and the hole the roll, from {least:.1f} mm on.",
            code="contradictory", fields=("height",), value=height, limits=(least, None),
        )  # fmt: skip
    begins = quarter.allowance
    hole_at, half = begins + height, width / 2
    circles = ((begins, -half, 0.0), (begins, half, 0.0), (hole_at + edge - head, 0.0, head))
    right = edges_between(circles, upper_half(around(circles, 0, -SQUARE)))
    side = Straight(begins, half, -begins, half)
    edges = [*right, side, *(turned_round(one) for one in (*right, side))]
    contour = Contour(
        edges=tuple(edges), holes=(Hole(hole_at, 0.0, hole), Hole(-hole_at, 0.0, hole)),
        bends=(Bend(line=Straight(0.0, -half, 0.0, half), angle_deg=180.0, radius=tube_od / 2),),
    )  # fmt: skip
    return Strap(contour=contour, quarter=quarter, hole_at=hole_at, height=height)


def springs_open(left: float, height: float) -> float:
    """How much wider its ears stand at their holes before they are drawn together [mm].

    Args:
        left: angle that is left of its half turn [rad].
        height: tube's middle to the holes [mm].
    """
    return 2 * height * sin((pi - left) / 2)
