"""The foot of a plate that straddles the square corner of a box: two legs, one on either wall, and a hole over the point between them.

Coordinates: mm, from the corner's point, y toward the hole that the plate is for, x across. The plate is square to both walls.

Source:
    Geometry (derived). Outside radius of a cold-formed box's corner: 2 walls, EN 10219-2 (from memory); the point is left open as far, and
    5 mm at least, so that the foot lies on both walls and no fillet runs into the corner (common practice, no source).
"""

from __future__ import annotations

from dataclasses import dataclass
from math import cos, radians, sin, sqrt

LEAST_OPEN = 5.0
OPEN_OF_WALL = 2.0
STRADDLES = 135.0  # °, from a corner's middle line to either wall, away from it


@dataclass(frozen=True, slots=True, kw_only=True)
class CornerFoot:
    """A foot on a corner."""

    width: float  # across both legs' ends, as it would be in a corner that is not turned [mm]
    turned_deg: float = 0.0  # of the corner's middle line from y, toward x
    wall: float | None = None  # of the box [mm]; None: not known

    @property
    def leg(self) -> float:
        """From the corner's point along either wall to the foot's end [mm]."""
        return self.width / sqrt(2.0)

    @property
    def open(self) -> float:
        """Radius of the hole over the corner's point [mm]."""
        return max(LEAST_OPEN, OPEN_OF_WALL * (self.wall or 0.0))

    def on_leg(self, way: float, far: float) -> tuple[float, float]:
        """A place of a leg.

        Args:
            way: 1: of the right one, -1: of the left one.
            far: from the corner's point along its wall [mm].
        """
        turn = radians(self.turned_deg + way * STRADDLES)
        return far * sin(turn), far * cos(turn)

    def looks(self, way: float) -> tuple[float, float]:
        """The way that a leg's wall looks, length 1.

        Args:
            way: 1: of the right one, -1: of the left one.
        """
        turn = radians(self.turned_deg + way * (STRADDLES - 90.0))
        return sin(turn), cos(turn)

    def waist(self, centre: float, radius: float) -> tuple[float, float]:
        """How far a plate reaches to its left and right beside the corner's point, at least [mm].

        Args:
            centre: of its round head, from the point.
            radius: of that.

        Returns:
            x of either side at the point's height, by straight lines from the legs' ends to the head's sides: inside the true flanks.
        """
        found = []
        for way in (-1.0, 1.0):
            x, y = self.on_leg(way, self.leg)
            found.append(x + (way * radius - x) * -y / (centre - y))
        return found[0], found[1]

    @property
    def below(self) -> float:
        """From the corner's point down to the middle of the fillets along both legs [mm]."""
        middle = (self.leg + self.open) / 2
        return -sum(self.on_leg(way, middle)[1] for way in (-1.0, 1.0)) / 2

    @property
    def fillets(self) -> list[tuple[float, float]]:
        """From where to where across the plate the fillets go along either leg: their chords, shorter than they are [mm]."""
        out = []
        for way in (-1.0, 1.0):
            ends = sorted((self.on_leg(way, self.open)[0], self.on_leg(way, self.leg)[0]))
            out.append((ends[0], ends[1]))
        return out

    def open_degrees(self) -> tuple[float, float]:
        """Angles from x at which the hole over the point meets the right leg, then the left one [°]."""
        right, left = (90.0 - (self.turned_deg + way * STRADDLES) for way in (1.0, -1.0))
        return right, left
