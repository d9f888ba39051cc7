"""A joggle: two equal and opposite bends that set a face off to the side by a given offset.

Not covered: bends pressed at once in a joggle die, whose radii differ.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import cos, sin

from tirante.core.errors import NotApplicable, require_range
from tirante.core.sheet.bend import Bent, bent


@dataclass(frozen=True, slots=True, kw_only=True)
class Joggle:
    """Both bends and the straight between them."""

    bend: Bent
    offset: float  # [mm] face to the same face
    leg_a: float  # [mm] flat, to where the first bend begins
    leg_b: float
    straight: float  # [mm] between the bends; below nothing it cannot be bent

    @property
    def feasible(self) -> bool:
        """Whether there is room for both bends."""
        return self.straight >= 0.0

    @property
    def flat(self) -> float:
        """Length before it is bent [mm]."""
        return self.leg_a + self.leg_b + 2 * self.bend.allowance + self.straight

    @property
    def run(self) -> float:
        """How far it goes along the legs' way, from where the first bend begins to where the second ends [mm]."""
        angle = self.bend.angle
        return 2 * (self.bend.radius + self.bend.thickness / 2) * sin(angle) + self.straight * cos(angle)


def joggle(
    thickness: float, radius: float, angle: float, offset: float, leg_a: float, leg_b: float, k: float | None = None
) -> Joggle:
    """A joggle.

    Args:
        thickness: of the sheet [mm].
        radius: inside, of both bends [mm].
        angle: of each from flat [rad], at most a quarter turn.
        offset: face to the same face [mm].
        leg_a: flat, to where the first bend begins [mm].
        leg_b: likewise, from where the second ends.
        k: where the neutral fibre lies, from a test bend; else by DIN 6935.

    Raises:
        InputError: a figure that is none.
        NotApplicable: bends of more than a quarter turn run back over themselves.
    """
    require_range("offset_mm", offset, 1e-9, None)
    require_range("leg_a_mm", leg_a, 0.0, None)
    require_range("leg_b_mm", leg_b, 0.0, None)
    one = bent(thickness, radius, angle, k)
    if cos(angle) < -1e-12:
        raise NotApplicable(
            "Bends of more than 90° run back over themselves: that is a hem, not a joggle.", code="runs_back", fields=("angle_deg",),
            limits=(0.0, 90.0),
        )  # fmt: skip
    # the middle of the sheet rises by (R + t/2)(1 − cos) in each bend and by the straight's sine between them
    straight = (offset - 2 * (radius + thickness / 2) * (1 - cos(angle))) / sin(angle)
    return Joggle(bend=one, offset=offset, leg_a=leg_a, leg_b=leg_b, straight=straight)
