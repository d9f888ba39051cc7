"""A strap bent half round a tube and welded to it along both its edges: the two fillets as lines, pulled at anywhere.

Axes: x along the tube from the strap's middle, y along the bolt, z from the tube's middle toward the joint.
Not covered: what the strap presses on the tube between its welds, which takes from them; the tube's wall.

Source:
    Weld lines as a group, on two half circles (Blodgett, from memory; their second moments by integration, derived): the line force is the
    direct part F/L, plus what turns the group about its middle, shared by the second moments about each axis.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import pi, radians

import numpy as np
from numpy.typing import NDArray

from tirante.core.errors import InputError

Array = NDArray[np.float64]
STEP_DEG = 1.0  # between the places that are looked at


@dataclass(frozen=True, slots=True, kw_only=True)
class StrapWelds:
    """Two fillets half round a tube, on its side away from the joint [mm]."""

    tube_od: float
    width: float  # of the strap, along the tube: between the fillets

    def __post_init__(self) -> None:
        for field, value in (("tube_od_mm", self.tube_od), ("width_mm", self.width)):
            if value <= 0:
                raise InputError("A strap has a width, and goes over a tube.", code="out_of_range", fields=(field,), value=value, limits=(0.0, None))  # fmt: skip

    @property
    def length(self) -> float:
        """Of both fillets."""
        return pi * self.tube_od

    @property
    def middle(self) -> float:
        """Of the fillets, from the tube's middle, away from the joint."""
        return self.tube_od / pi

    @property
    def places(self) -> Array:
        """Round both fillets, every degree (n, 3)."""
        turn = np.radians(np.arange(0.0, 180.0 + STEP_DEG / 2, STEP_DEG))
        r = self.tube_od / 2
        ends = [np.stack([np.full_like(turn, way * self.width / 2), r * np.cos(turn), -r * np.sin(turn)], axis=1) for way in (-1.0, 1.0)]  # fmt: skip
        return np.concatenate(ends)


def line_forces(welds: StrapWelds, force: Array, at: float) -> Array:
    """Force per length of the fillets at their places, linear in the force [N/mm] (n, 3).

    Args:
        welds: of the strap.
        force: on its ears (3) [N].
        at: how far from the tube's middle the joint stands, where it acts [mm].
    """
    r, length, low = welds.tube_od / 2, welds.length, -welds.middle
    along = length * (welds.width / 2) ** 2
    across = pi * r**3
    away = pi * r**3 - length * low**2
    moment = np.cross(np.array([0.0, 0.0, at - low]), force)
    turn = moment / np.array([across + away, along + away, along + across])
    off = welds.places - np.array([0.0, 0.0, low])
    return np.asarray(force / length + np.cross(turn, off))


def worst_pull(
    welds: StrapWelds, at: float, pull: float, side: float, angles: tuple[float, float]
) -> tuple[float, Array]:
    """The largest line force [N/mm] while the pull points between two angles, and the force that makes it (3).

    Args:
        welds: of the strap.
        at: from the tube's middle to the joint [mm].
        pull: in the ears' plane [N].
        side: along the bolt; either way does alike [N].
        angles: of the pull from the ears' axis, the least and the greatest [°].
    """
    low, high = angles
    each = np.stack([line_forces(welds, way, at) for way in np.eye(3)])
    turns = np.array([radians(one) for one in np.linspace(low, high, max(2, round((high - low) / STEP_DEG) + 1))])
    forces = np.stack([pull * np.sin(turns), np.full_like(turns, side), pull * np.cos(turns)], axis=1)
    sizes = np.linalg.norm(np.einsum("wnc,tw->tnc", each, forces), axis=2).max(axis=1)
    worst = int(sizes.argmax())
    return float(sizes[worst]), forces[worst]
