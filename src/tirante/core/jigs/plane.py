"""In which plane a part lies on its jig: how high its bores stand above the plate, and how far each leans from what a straight post holds."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import combinations
from math import asin

import numpy as np
from numpy.typing import NDArray

from tirante.core.errors import InputError
from tirante.core.jigs.features import Features, Held

Array = NDArray[np.float64]
LEANS = 0.02  # [rad] from level or upright, within which a bore is taken as it
LEAN_COST = 60.0  # [mm of post] that a bore which neither stands nor lies counts for: its post is drilled at an angle; common practice, no source
FLAT = 1.0  # [mm] that three places must at least stand off one line


@dataclass(frozen=True, slots=True, kw_only=True)
class Plane:
    """A jig's plate as it stands to the part: two ways along it and the way up from it, right-handed, each of length 1."""

    u: Array
    v: Array
    n: Array
    told: str  # how it was chosen

    def flat(self, point: Array) -> Array:
        """A place in the plate's ways, from the part's own origin (3)."""
        return np.array([point @ self.u, point @ self.v, point @ self.n])


def rise_of(held: Held, n: Array) -> float:
    """How steeply a bore rises from the plate, whichever of its ends is up [rad, 0 to π/2].

    Args:
        held: the joint.
        n: square to the plate.
    """
    return asin(min(1.0, abs(float(held.a @ n))))


def cost_of(features: Features, n: Array) -> float:
    """What posts and leans a plane asks [mm of post].

    Args:
        features: of the part.
        n: square to the plate.
    """
    heights = np.array([one.p @ n for one in features.held])
    ends = [np.array(end) @ n for bar in features.bars for end in (bar.a, bar.b)]
    lowest = min([*heights, *ends]) if ends else heights.min()
    leans = sum(LEANS < rise_of(one, n) < np.pi / 2 - LEANS for one in features.held)
    return float(np.sum(heights - lowest)) + LEAN_COST * leans


def candidates(features: Features) -> list[tuple[Array, str]]:
    """Planes that are tried: through three joints, square to a bore, along two bores, the one that all fit best, level; each either way up.

    Args:
        features: of the part.
    """
    held = features.held
    found: list[tuple[Array, str]] = []
    for a, b, c in combinations(held, 3):
        normal = np.cross(b.p - a.p, c.p - a.p)
        longest = max(float(np.linalg.norm(one)) for one in (b.p - a.p, c.p - a.p, c.p - b.p))
        if float(np.linalg.norm(normal)) / longest > FLAT:
            found.append((normal, f"through {a.name}, {b.name} and {c.name}"))
    for one in held:
        found.append((one.a, f"square to the bore of {one.name}"))
        for other in held:
            along = np.cross(one.a, other.p - one.p)
            if other is not one and float(np.linalg.norm(along)) > FLAT:
                found.append((along, f"along the bore of {one.name}, through {other.name}"))
    for one, other in combinations(held, 2):
        square = np.cross(one.a, other.a)
        if float(np.linalg.norm(square)) > LEANS:
            found.append((square, f"along the bores of {one.name} and {other.name}"))
    found.append((np.array([0.0, 0.0, 1.0]), "level, as it stands in the car"))
    out = []
    for normal, told in found:
        unit = normal / np.linalg.norm(normal)
        unit = -unit if unit[2] < -LEANS else unit  # as it stands in the car comes before turned over
        out += [(unit, told), (-unit, f"{told}, turned over")]
    return out


def through(features: Features, names: Sequence[str]) -> tuple[Array, str]:
    """The plane through three joints, by their names; seen from above they go round counter-clockwise.

    Args:
        features: of the part.
        names: three of its joints.

    Raises:
        InputError: not three, one that is not there, or three on one line.
    """
    known = {one.name.lower(): one for one in features.held}
    told = ", ".join(one.name for one in features.held)
    if len(names) != 3:
        raise InputError(f"Name three joints, with commas between: there are {told}.", code="missing", fields=("through",), value=len(names), limits=(3, 3))  # fmt: skip
    for name in names:
        if name.lower() not in known:
            raise InputError(f"There is no joint “{name[:40]}” on it. There are {told}.", code="unknown", fields=("through",), value=name[:40])  # fmt: skip
    a, b, c = (known[name.lower()] for name in names)
    normal = np.cross(b.p - a.p, c.p - a.p)
    longest = max(float(np.linalg.norm(one)) for one in (b.p - a.p, c.p - a.p, c.p - b.p))
    if longest <= 0 or float(np.linalg.norm(normal)) / longest <= FLAT:
        raise InputError("Those three lie on one line, through which every plane goes. Name another.", code="contradictory", fields=("through",))  # fmt: skip
    return normal / np.linalg.norm(normal), f"through {a.name}, {b.name} and {c.name}"


def plane_with(features: Features, n: Array, told: str, datum: int) -> Plane:
    """A plane with its ways: u from the datum toward the joint that lies furthest from it along the plate.

    Args:
        features: of the part.
        n: its way up.
        told: how it was chosen.
        datum: which joint the ordinates begin at.
    """
    base = features.held[datum].p
    ways = [one.p - base - float((one.p - base) @ n) * n for one in features.held]
    u = max(ways, key=lambda way: float(np.linalg.norm(way)))
    if float(np.linalg.norm(u)) < FLAT:  # all over one another: any way along the plate
        u = np.cross(n, [0.0, 1.0, 0.0] if abs(n[1]) < 0.9 else [1.0, 0.0, 0.0])
    u = u / np.linalg.norm(u)
    return Plane(u=u, v=np.cross(n, u), n=n, told=told)
