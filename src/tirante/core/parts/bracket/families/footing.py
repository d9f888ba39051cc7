"""What a folded bracket's ears stand on: a base between them, or a foot outside each; as plates that lie on the member, bends left out."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from tirante.core.parts.stands import Stand

Array = NDArray[np.float64]


@dataclass(frozen=True, slots=True, kw_only=True)
class Laid:
    """A flat of what lies on the member."""

    outline: Array  # its corners (n, 2)
    at: Array  # the middle of its thickness (3)
    x: Array  # the ways of its outline (3)
    y: Array


@dataclass(frozen=True, slots=True, kw_only=True)
class Footing:
    """A base, or two feet."""

    name: str  # "its base", "its feet"
    width: float  # along the bends [mm]
    plate: float  # thickness of the ears [mm]
    thick: float  # of what lies on the member, shims and all [mm]
    skew: float = 0.0  # of a base's free edges: along the bends for each millimetre along the bolt
    reach: float = 0.0  # of a foot from its ear's outer face [mm]; 0: a base between the ears

    @property
    def taken(self) -> str:
        """As what it is looked at, in words."""
        if self.reach:
            return f"its bends: {self.name} are taken as flat; behind the wall that they are bolted to nothing is known"
        return f"its bends: {self.name} is taken as flat"

    def spans(self, gap: float) -> tuple[tuple[float, float], ...]:
        """From where to where along the bolt each lies [mm].

        Args:
            gap: between the ears [mm].
        """
        if self.reach <= 0:
            return ((-gap / 2, gap / 2),)
        near = gap / 2 + self.plate
        return (near, near + self.reach), (-near - self.reach, -near)

    def laid(self, gap: float, stand: Stand) -> list[Laid]:
        """Each flat, its outline along the foot and along the bolt.

        Args:
            gap: between the ears [mm].
            stand: where.
        """
        w, k, one = self.width / 2, self.skew, stand.standing
        return [
            Laid(
                outline=np.array([(k * low - w, low), (k * low + w, low), (k * high + w, high), (k * high - w, high)]),
                at=one.foot + self.thick / 2 * one.y, x=one.x, y=one.bolt,
            )
            for low, high in self.spans(gap)
        ]  # fmt: skip
