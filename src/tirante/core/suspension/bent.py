"""A bent link as it goes through the travel: its bends off the line between its joints, and how far it may roll about that line.

Which way a bend points is set when its rod ends are clocked to their bolts: square to end A's bolt on the upper side, turned on
from there. It goes with the link the shortest way from how it stood. What a hinge holds at an end cannot roll; rod ends let it
roll as far as they may tilt, and all of that is looked at; where nothing says how far, all the way round.
"""

from __future__ import annotations

from math import cos, radians, sin

import numpy as np
from numpy.typing import NDArray

from tirante.core.document.end import EndLink, JointEnd, LinkBend
from tirante.core.geometry.vectors import cross
from tirante.core.suspension.assemble import LinkMarks

Array = NDArray[np.float64]
ALL_ROUND = 180.0  # °


def rolls(known: EndLink) -> float:
    """How far a link may roll about its own line, each way [°]: by the joint that lets it least."""
    joints = [joint for joint in (known.a, known.b) if joint is not None]
    if any(joint.kind == "hinged" for joint in joints):
        return 0.0
    return min((joint.limit_deg for joint in joints if joint.limit_deg is not None), default=ALL_ROUND)


def told(name: str, known: EndLink) -> str:
    """What is taken of a bent link's rolling, in words."""
    roll = rolls(known)
    if roll == 0.0:
        return f"{name}: bent, and held from rolling by a hinge"
    if roll >= ALL_ROUND:
        return f"{name}: bent; nothing says how far it may roll about its line: looked at all round"
    return f"{name}: bent; its rod ends let it roll {roll:g}° about its line either way: looked at all of it"


class BentLine:
    """A bent link between its two joints."""

    def __init__(self, link: LinkMarks, known: EndLink, bend: LinkBend) -> None:
        """
        Args:
            link: with its two ends as the points were taken.
            known: its joints.
            bend: as it is made.
        """
        a, b = np.array(link.a.at), np.array(link.b.at)
        length = float(np.linalg.norm(b - a))
        self.way = (b - a) / length
        leg = min(0.5, bend.from_ends_mm / length) if bend.from_ends_mm else 0.5
        self.shares = (0.5,) if leg >= 0.5 - 1e-9 else (leg, 1 - leg)
        self.offset, self.roll = bend.offset_mm, rolls(known)
        mirror = np.array([1.0, -1.0 if link.side == "right" else 1.0, 1.0])
        up = _up(self.way, known.a, mirror)
        turn = radians(bend.plane_deg) * mirror[1]  # the other way round in a mirror
        self.up = up * cos(turn) + np.cross(self.way, up) * sin(turn)

    def rolled(self) -> list[float]:
        """The rolls that are looked at [°]."""
        if self.roll == 0.0:
            return [0.0]
        if self.roll >= ALL_ROUND:
            return list(np.linspace(0.0, 360.0, 24, endpoint=False))
        return list(np.linspace(-self.roll, self.roll, 7))

    def points(self, a: Array, b: Array, roll: float = 0.0) -> list[Array]:
        """Its joints and bends in order, each (3, lanes).

        Args:
            a: its first end (3, lanes).
            b: its second.
            roll: about its line [°].
        """
        d = b - a
        u, was = d / np.linalg.norm(d, axis=0), self.way[:, None]
        k, v = cross(was + 0 * u, u), self.up[:, None] + 0 * u
        kv = cross(k, v)
        up = v + kv + cross(k, kv) / (1.0 + (was * u).sum(axis=0))
        turned = up * cos(radians(roll)) + cross(u, up) * sin(radians(roll))
        return [a, *(a + share * d + self.offset * turned for share in self.shares), b]


def _up(way: Array, joint: JointEnd | None, mirror: Array) -> Array:
    """Square to the link and to end A's bolt, on the upper side; where no bolt is given, or it lies along the link, straight up."""
    found = np.zeros(3)
    if joint is not None and joint.bolt_axis is not None:
        bolt = np.array(joint.bolt_axis, float) * mirror
        found = np.cross(bolt / np.linalg.norm(bolt), way)
    if np.linalg.norm(found) < 0.1:
        found = np.array([0.0, 0.0, 1.0]) - way[2] * way
    if np.linalg.norm(found) < 0.1:  # the link stands upright
        found = np.array([1.0, 0.0, 0.0]) - way[0] * way
    up: Array = found / np.linalg.norm(found) * (1.0 if found[2] >= -1e-9 else -1.0)
    return up
