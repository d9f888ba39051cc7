"""How the floor leans under a car, by its heights under the wheels: tilt, that inclinometers feel and heights over the floor do not, and warp.

The plane nearest to the heights in the least-squares sense; what it leaves is the warp, which nothing takes off.

Source:
    Plane by least squares (a textbook of adjustment computation, Ghilani, from memory).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import atan

import numpy as np

from tirante.core.errors import InputError
from tirante.core.survey.readings import Array


@dataclass(frozen=True, slots=True, kw_only=True)
class Floor:
    """Rise of the floor to a level, along the car and across it."""

    ahead: float  # rise for each mm ahead; a car on it stands nose up where it is positive
    left: float  # the same to the left; it leans right where it is positive
    warp: float  # [mm] by how much the floor under a wheel lies off the plane, at most

    def to_gravity(self, direction: Array) -> Array:
        """A direction of a car that stands on it, as a level sees it: the third axis straight up, the first the car's ahead along the level.

        Args:
            direction: (3) in the axes of the floor: ahead, left, square to it.
        """
        up = np.array([-self.ahead, -self.left, 1.0])
        up /= np.linalg.norm(up)
        ahead = np.array([1.0, 0.0, self.ahead])
        ahead -= up * float(ahead @ up)
        ahead /= np.linalg.norm(ahead)
        found: Array = np.column_stack([ahead, np.cross(up, ahead), up]) @ direction
        return found


def floor_of(contacts: Sequence[tuple[float, float]], heights: Sequence[float]) -> Floor:
    """The floor by a level's heights under the wheels.

    Args:
        contacts: x and y of each wheel's contact [mm]; three or more, not in a line.
        heights: of the floor there [mm], from any level zero.

    Raises:
        InputError: fewer than three, or in a line.
    """
    places = np.array([(1.0, x, y) for x, y in contacts])
    if len(contacts) < 3 or np.linalg.matrix_rank(places / np.abs(places).max(axis=0).clip(1e-9)) < 3:
        raise InputError("A floor is told by its heights at three places or more that are not in a line.", code="too_few", fields=("heights",))  # fmt: skip
    plane, *_ = np.linalg.lstsq(places, np.array(heights, float), rcond=None)
    left = np.array(heights) - places @ plane
    return Floor(ahead=float(plane[1]), left=float(plane[2]), warp=float(np.abs(left).max()))


def lean(rise: float) -> float:
    """Degrees of a rise [mm for each mm].

    Args:
        rise: of the floor.
    """
    return float(np.degrees(atan(rise)))
