"""A hub stand: a plate that stands on the floor in the wheel's place, bolted to the hub's studs, so that height, camber and toe hold while brackets are tacked.

The plate stands upright and along the car; the hub's flange leans against it as camber and toe ask, with washers on the studs between. Not covered:
caster (how the upright is turned about the wheel's axis shows on no stud), and how far a floor is out of level.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import cos, radians, sin, tan

import numpy as np

from tirante.core.errors import InputError, require_range

FREE = 1.0  # [mm] that holes and the recess's opening are larger than what goes in


@dataclass(frozen=True, slots=True, kw_only=True)
class StudHole:
    """A stud's hole in the plate: from the wheel's axis forward and up, over the floor, and the washers on its stud [mm]."""

    number: int
    forward: float
    up: float
    height: float
    washers: float


@dataclass(frozen=True, slots=True)
class OnFlange:
    """The studs that are bolted, from the middle of the hub's face: number, forward, up, outward [mm]."""

    studs: tuple[tuple[int, float, float, float], ...]

    @property
    def out(self) -> float:
        """How far an upright plate on them stands outboard of the middle of the face, which leans on it by the stud without washers [mm]."""
        return max(y for *_, y in self.studs)

    def at(self, height: float) -> tuple[StudHole, ...]:
        """Where they come through it, and the washers on each.

        Args:
            height: of the middle of the face [mm].
        """
        return tuple(StudHole(number=number, forward=x, up=z, height=height + z, washers=self.out - y) for number, x, z, y in self.studs)  # fmt: skip


def stud_holes(
    *, studs: int, circle: float, first_deg: float, used: tuple[int, ...], height: float, camber_deg: float, toe_deg: float
) -> tuple[StudHole, ...]:  # fmt: skip
    """Where the studs come through an upright plate, and how thick the washers on each are.

    Studs are counted from the first, clockwise as one looks at the left wheel from outside, where the front of the car is on the left. The stand is outboard
    of the flange: washers on the top studs lean its top inward, which is negative camber; washers on the front ones turn its front inward, toe-in.

    Args:
        studs: on the hub's flange.
        circle: that they stand on [mm].
        first_deg: the first, from straight up, clockwise as seen [°].
        used: which of them are bolted, counted from 1.
        height: of the middle of the hub's face over the floor [mm].
        camber_deg: wanted, positive with the top outward [°].
        toe_deg: wanted, positive with the front inward [°].

    Raises:
        InputError: fewer than two studs, one that is not there, or angles that no washers make.

    Source:
        Geometry (derived): the flange's plane by its two traces; shim = vertical stud spacing · tan camber.
    """
    return on_flange(studs=studs, circle=circle, first_deg=first_deg, used=used, camber_deg=camber_deg, toe_deg=toe_deg).at(height)  # fmt: skip


def on_flange(
    *, studs: int, circle: float, first_deg: float, used: tuple[int, ...], camber_deg: float, toe_deg: float
) -> OnFlange:
    """The studs as camber and toe turn them; refusals and source as of `stud_holes`.

    Args:
        studs: on the hub's flange.
        circle: that they stand on [mm].
        first_deg: the first, from straight up, clockwise as seen [°].
        used: which of them are bolted, counted from 1.
        camber_deg: wanted, positive with the top outward [°].
        toe_deg: wanted, positive with the front inward [°].
    """
    require_range("camber_deg", camber_deg, -15.0, 15.0)
    require_range("toe_deg", toe_deg, -15.0, 15.0)
    if len(set(used)) < 2 or not all(1 <= one <= studs for one in used):
        raise InputError(f"Bolt it by two of its {studs} studs at least, each named once by its number from 1 to {studs}.", code="out_of_range", fields=("used",), value=str(used)[:40])  # fmt: skip
    camber, toe = radians(camber_deg), radians(toe_deg)
    # forward, outward, up: the flange's own plane
    normal = np.array([tan(toe), 1.0, -tan(camber)])
    normal = normal / np.linalg.norm(normal)
    up = np.array([0.0, 0.0, 1.0]) - normal[2] * normal
    up = up / np.linalg.norm(up)
    ahead = np.cross(normal, up)
    ahead = ahead if ahead[0] > 0 else -ahead
    found = []
    for number in sorted(set(used)):
        turn = radians(first_deg + 360.0 * (number - 1) / studs)
        # clockwise from straight up with the front on the left: a quarter on is the rear
        at = circle / 2 * (cos(turn) * up - sin(turn) * ahead)
        found.append((number, float(at[0]), float(at[2]), float(at[1])))
    return OnFlange(tuple(found))


def same_for_both(holes: tuple[StudHole, ...], within: float = 0.05) -> bool:
    """Whether the other side's studs come through the same holes: as far ahead as behind, hole for hole.

    Args:
        holes: of one side.
        within: [mm]
    """
    return all(
        any(abs(one.forward + other.forward) < within and abs(one.up - other.up) < within for other in holes)
        for one in holes
    )
