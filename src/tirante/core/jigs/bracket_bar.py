"""A bracket bar: a dummy bar through a row of brackets on a tube or an axle, held by two plates that go round the member, at its angle.

Not covered: brackets whose bolts do not run along the member.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import atan2, degrees

import numpy as np
from numpy.typing import NDArray

from tirante.core.errors import InputError

Array = NDArray[np.float64]
ALONG = 0.02  # [rad] within which a bolt runs along the member
SAME = 0.5  # [mm] within which two bolts lie on one bar
PAST = 40.0  # [mm] of bar beyond the plates; common practice, no source
BESIDE = 60.0  # [mm] from the outermost bracket's middle to its plate; common practice, no source


@dataclass(frozen=True, slots=True, kw_only=True)
class OnMember:
    """A bracket's bolt: its middle and way in the car, what goes through it and how wide that is [mm]."""

    name: str
    at: Array
    bolt: Array
    bore: float
    wide: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Row:
    """Brackets on one bar [mm]."""

    names: tuple[str, ...]
    along: tuple[float, ...]  # of each middle, from the first
    off: float  # from the member's middle line to the bar's
    angle_deg: float  # of that line from straight up: forward of a member across the car, outward of one along it
    from_pinion_deg: float | None  # the same from the pinion's own way
    bores: tuple[float, ...]  # of what goes in each
    wide: tuple[float, ...]
    first: float  # the first middle, from the member's first end
    plates: tuple[float, float]  # along, from the first middle

    @property
    def bore(self) -> float:
        """Of the bar: the least that goes through any."""
        return min(self.bores)

    @property
    def long(self) -> float:
        """Of the bar [mm]."""
        return self.plates[1] - self.plates[0] + 2 * PAST


def rows_on(
    a: Array, b: Array, brackets: Sequence[OnMember], *, pinion_deg: float | None = None, rear: bool = True
) -> tuple[tuple[Row, ...], tuple[str, ...]]:  # fmt: skip
    """The rows of brackets on a member, and the brackets that stand on none, with the reason.

    Args:
        a: first end of its middle line (3).
        b: its second.
        brackets: on it.
        pinion_deg: above level, of a live axle; None: it has none, or it is not known.
        rear: whether that points forward, as a rear axle's does.

    Raises:
        InputError: no bracket's bolt runs along the member.

    Source:
        Geometry (derived).
    """
    u = (b - a) / np.linalg.norm(b - a)
    across = abs(float(u[1])) > abs(float(u[0]))
    up = np.array([0.0, 0.0, 1.0])
    up = up - float(up @ u) * u
    if float(np.linalg.norm(up)) < 1e-6:
        raise InputError("The member stands upright: nothing says which way round it up is.", code="contradictory", fields=("mount",))  # fmt: skip
    up = up / np.linalg.norm(up)
    side = np.array([1.0, 0.0, 0.0]) if across else np.array([0.0, 1.0, 0.0])
    side = side - float(side @ u) * u - float(side @ up) * up
    side = side / np.linalg.norm(side)
    groups: list[tuple[Array, list[tuple[float, OnMember]]]] = []
    left = []
    for one in brackets:
        if float(np.linalg.norm(np.cross(one.bolt / np.linalg.norm(one.bolt), u))) > ALONG:
            left.append(f"{one.name}: its bolt does not run along the member")
            continue
        along = float((one.at - a) @ u)
        off = one.at - a - along * u
        for known, group in groups:
            if float(np.linalg.norm(known - off)) < SAME:
                group.append((along, one))
                break
        else:
            groups.append((off, [(along, one)]))
    if not groups:
        raise InputError(f"No bracket on it has a bolt that runs along it. {'; '.join(left)}".rstrip(), code="no_solution", fields=("mount",))  # fmt: skip
    ahead = None if pinion_deg is None or not across else (90.0 - pinion_deg if rear else pinion_deg - 90.0)
    found = []
    for off, group in groups:
        group.sort(key=lambda pair: pair[0])
        angle = degrees(atan2(float(off @ side), float(off @ up)))
        places = [along for along, _ in group]
        found.append(Row(
            names=tuple(one.name for _, one in group), along=tuple(along - places[0] for along in places), off=float(np.linalg.norm(off)), angle_deg=angle,
            from_pinion_deg=None if ahead is None else (angle - ahead + 180.0) % 360.0 - 180.0, bores=tuple(one.bore for _, one in group), wide=tuple(one.wide for _, one in group),
            first=places[0], plates=(-BESIDE, places[-1] - places[0] + BESIDE),
        ))  # fmt: skip
    return tuple(found), tuple(left)
