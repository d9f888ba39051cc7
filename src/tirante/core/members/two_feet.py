"""A stiff bar on two feet, pushed at its ends: what each foot bears.

Across the bar the feet are supports of a beam; what pushes it along itself is taken as if either foot bore the whole of it: which one does is
the clamps' affair. Not covered: feet that hold the bar from turning over, friction.

Source:
    Statics (derived): moments about either foot.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from tirante.core.errors import require_range

Array = NDArray[np.float64]


@dataclass(frozen=True, slots=True, kw_only=True)
class PushedAt:
    """A force on the bar."""

    x: float  # along it from midway between the feet [mm]
    force: Array  # along it, and both ways across (3) [N]


def at_feet(apart: float, pushed: Sequence[PushedAt]) -> tuple[Array, Array]:
    """What the bar puts on its foot at minus half, and at plus half of their distance (3) [N].

    Args:
        apart: between the feet's middles, along the bar [mm].
        pushed: every force on it.

    Raises:
        InputError: feet that stand in one place.
    """
    require_range("apart_mm", apart, 1e-6, None)
    total = sum((one.force for one in pushed), np.zeros(3))
    turning = sum((one.x * one.force for one in pushed), np.zeros(3))
    first, second = total / 2 - turning / apart, total / 2 + turning / apart
    first[0] = second[0] = total[0]
    return first, second
