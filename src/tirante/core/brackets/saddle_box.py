"""Two plates along a tube with a cap over them, pulled at anywhere: the fillets at their feet, and the plates between foot and cap.

What pulls may point any way: of each pull the worst way is taken, and pulls add up as if each came its own worst way at once.
Not covered: the ends' closing plates, which stiffen it; the bead between cap and sides, laid all along; the tube's own bending.

Source:
    Weld lines as a group: Blodgett (from memory, `weld_group`); of a linear map of a unit pull the greatest length is its first singular value
    (derived). Sides held by tube and cap as a frame's legs, their bending a quarter of push times height: statics of a portal with stiff ends (derived).
    A pull spread at 45° from cap to foot: common practice, no source.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from tirante.core.brackets.weld_group import line_forces
from tirante.core.errors import InputError

Array = NDArray[np.float64]


@dataclass(frozen=True, slots=True, kw_only=True)
class Pull:
    """A pull at the box: where, from its feet's middle (along, across, up) [mm], and how much at most, any way [N]."""

    at: tuple[float, float, float]
    force: float
    foot: float = 0.0  # how long what pulls stands on the cap, along [mm]


@dataclass(frozen=True, slots=True, kw_only=True)
class SaddleBox:
    """Its sides [mm]."""

    length: float  # along the tube
    apart: float  # between the sides' middles
    tall: float  # of a side from the tube to the cap
    plate: float

    def __post_init__(self) -> None:
        if self.apart <= self.plate:
            raise InputError("Its sides stand in one another: make the box wider, or its wall thinner.", code="contradictory", fields=("apart_mm",), value=self.apart, limits=(self.plate, None))  # fmt: skip
        if self.tall <= 0:
            raise InputError("Its sides have no height: the cap lies on the tube. Raise the box.", code="contradictory", fields=("tall_mm",), value=self.tall, limits=(0.0, None))  # fmt: skip


def line_force(box: SaddleBox, pulls: Sequence[Pull]) -> float:
    """Largest force per length of the two fillets at its feet [N/mm].

    Args:
        box: its sides.
        pulls: all at once, each its own worst way.
    """
    half, aside = box.length / 2, box.apart / 2
    runs = [(-half, -aside, half, -aside), (-half, aside, half, aside)]
    total = np.zeros(4)
    for pull in pulls:
        ways = [np.array(line_forces(runs, way, pull.at).forces) for way in ((1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0))]  # fmt: skip
        for end in range(4):
            of_unit = np.stack([way[end] for way in ways], axis=1)
            total[end] += float(np.linalg.svd(of_unit, compute_uv=False)[0]) * pull.force
    return float(total.max())


def spread_over(box: SaddleBox, foot: float = 0.0) -> float:
    """How much of a side's length takes a pull, 45° from either end of what stands on the cap to the foot [mm].

    Args:
        box: its sides.
        foot: how long what pulls stands on the cap, along [mm].
    """
    return min(box.length, foot + 2 * box.tall)


def side_stress(box: SaddleBox, pulls: Sequence[Pull]) -> float:
    """Largest stress of a side between foot and cap, pushed across and pulled or pressed [MPa].

    Args:
        box: its sides.
        pulls: all at once; of each, those that stand near enough to share its stretch of the side.
    """
    t, most = box.plate, 0.0
    for one in pulls:
        stress = 0.0
        for pull in pulls:
            wide = spread_over(box, pull.foot)
            if abs(pull.at[0] - one.at[0]) >= (wide + spread_over(box, one.foot)) / 2:
                continue
            over = max(0.0, pull.at[2] - box.tall / 2)  # over the sides' middles, where a portal's legs are not bent
            bent = pull.force * box.tall / 4
            pushed = pull.force / 2 + pull.force * (over + abs(pull.at[1])) / box.apart
            stress += 6 * bent / (wide * t**2) + pushed / (wide * t)
        most = max(most, stress)
    return most
