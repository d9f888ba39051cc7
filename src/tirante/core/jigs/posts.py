"""What stands on a jig: the joints of a part as they are set, the posts that hold them, the part's bars between them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import cos, hypot, sin
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from tirante.core.jigs.features import Bar, Held

Array = NDArray[np.float64]
Sort = Literal["cheek", "pin", "rest", "stop"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Sizes:
    """What a shop builds its jigs of [mm]."""

    clearance: float = 30.0  # from the plate to the lowest of the part
    post_thick: float = 10.0
    post_wide: float = 50.0
    room: float = 15.0  # for a torch, from a bead to a post
    margin: float = 40.0  # of plate round what stands on it
    pilot: float = 5.0
    datum_hole: float = 8.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Joint:
    """A joint as it is set on the jig: its centre from the datum and the plate, and a bar through its bore [mm]."""

    held: Held
    at: tuple[float, float, float]
    bar: tuple[float, float, float]  # so far along the bore: `handed.BAR`
    cold: tuple[float, float, float]  # where it is to be when the beads have drawn it in
    pinned: bool
    spacer: float  # along the bolt, each side; under the joint where it is pinned
    lean_deg: float  # from level, or from upright where it is pinned

    @property
    def moved(self) -> float:
        """How far it is set off for shrink [mm]."""
        return float(np.linalg.norm(np.subtract(self.at, self.cold)))


@dataclass(frozen=True, slots=True, kw_only=True)
class Post:
    """Something that stands on the plate: where its middle is, and which way its thin side looks."""

    name: str
    sort: Sort
    u: float
    v: float
    turn: float  # [rad] from u, of its thin side; of a leaning pin the way its top looks down to
    thick: float
    wide: float
    top: float  # of the post itself, over the plate
    work: float  # over the plate: of a post the middle of its hole, of a rest the bottom of its vee, of a stop or a pin its top
    lean_deg: float
    bore: float  # of its hole; 0: none
    of: str = ""  # the joint that it holds

    @property
    def reach(self) -> float:
        """Round it in plan [mm]."""
        return hypot(self.thick, self.wide) / 2 if self.sort != "pin" else self.wide / 2

    def off(self, places: Array) -> Array:
        """How far places (n, 3) are from it [mm]; 0 in it."""
        x, y = places[:, 0] - self.u, places[:, 1] - self.v
        up = np.maximum(0.0, places[:, 2] - self.top)
        if self.sort == "pin":
            return np.hypot(np.maximum(0.0, np.hypot(x, y) - self.wide / 2), up)
        along, across = x * cos(self.turn) + y * sin(self.turn), -x * sin(self.turn) + y * cos(self.turn)
        beside = np.hypot(
            np.maximum(0.0, np.abs(along) - self.thick / 2), np.maximum(0.0, np.abs(across) - self.wide / 2)
        )
        found: Array = np.hypot(beside, up)
        return found

    def holes(self) -> tuple[tuple[float, float], ...]:
        """Where it is screwed to the plate."""
        if self.sort == "pin":
            return ((self.u, self.v),)
        x, y = -sin(self.turn) * self.wide / 4, cos(self.turn) * self.wide / 4
        return (self.u + x, self.v + y), (self.u - x, self.v - y)

    def corners(self) -> tuple[tuple[float, float], ...]:
        """Of its foot, counter-clockwise."""
        e, f = (cos(self.turn), sin(self.turn)), (-sin(self.turn), cos(self.turn))
        t, w = self.thick / 2, self.wide / 2
        return tuple(
            (self.u + i * t * e[0] + j * w * f[0], self.v + i * t * e[1] + j * w * f[1]) for i, j in ((1, -1), (1, 1), (-1, 1), (-1, -1))
        )  # fmt: skip


@dataclass(frozen=True, slots=True, kw_only=True)
class LaidBar:
    """A bar of the part as it lies on the jig: both ends from the datum and the plate [mm]."""

    bar: Bar
    a: tuple[float, float, float]
    b: tuple[float, float, float]


def named(post: Post) -> str:
    """Its name at the head of a sentence."""
    return f"{post.name[0].upper()}{post.name[1:]}"


def listed(names: Sequence[str]) -> str:
    """Names in a sentence."""
    return " and ".join((", ".join(names[:-1]), names[-1])) if len(names) > 1 else names[0]
