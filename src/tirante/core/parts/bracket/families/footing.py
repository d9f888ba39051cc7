"""What a folded bracket's ears stand on: a base between them, or a foot outside each; as plates that lie on the member, and the metal in their bends.

A bend's inside is looked at as if it were cut straight across, its outside as if it were square: more metal than there is, by little.
"""

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
    thick: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Footing:
    """A base, or two feet."""

    name: str  # "its base", "its feet"
    width: float  # along the bends [mm]
    plate: float  # thickness of the ears [mm]
    thick: float  # of what lies on the member, shims and all [mm]
    skew: float = 0.0  # of a base's free edges: along the bends for each millimetre along the bolt
    reach: float = 0.0  # of a foot from its ear's outer face [mm]; 0: a base between the ears
    radius: float = 0.0  # of its bends, inside [mm]
    slot: tuple[float, float, float, float] | None = (
        None  # square-cornered, open in a base: from where to where along the bends, then along the bolt [mm]
    )

    @property
    def taken(self) -> str:
        """What of it is not looked at, in words; empty where all is."""
        return "behind the wall that its feet are bolted to nothing is known" if self.reach else ""

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
        if self.slot is not None:
            return [*self._round_the_slot(gap, stand), *self._corners(gap, stand)]
        lie = [
            Laid(
                outline=np.array([(k * low - w, low), (k * low + w, low), (k * high + w, high), (k * high - w, high)]),
                at=one.foot + self.thick / 2 * one.y, x=one.x, y=one.bolt, thick=self.thick,
            )
            for low, high in self.spans(gap)
        ]  # fmt: skip
        return [*lie, *self._corners(gap, stand)] if self.radius else lie

    def strip(self, stand: Stand, first: float, last: float, low: float, high: float) -> Laid:
        """A rectangle of a base that is not skewed.

        Args:
            stand: where.
            first: where it begins along the bends [mm].
            last: where it ends.
            low: from where along the bolt [mm].
            high: to where.
        """
        one, outline = stand.standing, np.array([(first, low), (last, low), (last, high), (first, high)])
        return Laid(outline=outline, at=one.foot + self.thick / 2 * one.y, x=one.x, y=one.bolt, thick=self.thick)

    def _round_the_slot(self, gap: float, stand: Stand) -> list[Laid]:
        """What is left of a base beyond either end of its slot, and to either side of it."""
        assert self.slot
        first, last, low, high = self.slot
        w, b = self.width / 2, gap / 2
        return [self.strip(stand, *one) for one in ((last, w, -b, b), (-w, first, -b, b), (first, last, high, b), (first, last, -b, low))]  # fmt: skip

    def _corners(self, gap: float, stand: Stand) -> list[Laid]:
        """The metal inside its bends: between ear and base, or ear and foot, a bar in the corner along either bend."""
        one, r, found = stand.standing, self.radius, []
        for way in (1.0, -1.0):
            ear = way * (gap / 2 + (self.plate if self.reach else 0.0))
            inward = way * r if self.reach else -way * r
            corner = np.array([(ear, self.thick), (ear + inward, self.thick), (ear, self.thick + r)])
            found.append(
                Laid(outline=corner, at=one.foot + self.skew * ear * one.x, x=one.bolt, y=one.y, thick=self.width)
            )
        return found
