"""What limits travel beside the damper and the joints: bump stop with its pad, strap, slider ends; and what to watch for."""

from __future__ import annotations

from math import hypot
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from tirante.core.document.end import BumpStop
from tirante.core.document.template import SliderJoint
from tirante.core.geometry.vectors import cross
from tirante.core.mechanism.model import Vector
from tirante.core.mechanism.solve import Positions
from tirante.core.suspension.assemble import SIDES, Assembled, LinkMarks
from tirante.core.suspension.measures import quotient

if TYPE_CHECKING:
    pass


Array = NDArray[np.float64]


def limit_measures(assembled: Assembled, solved: Positions, rest: Positions) -> dict[str, dict[str, Array]]:
    """Of every stop, strap and slider, on either side of a beam, where it stands; of every damper but the first how long it is [mm].

    Args:
        assembled: the mechanism with its named marks.
        solved: its positions.
        rest: the same at ride height.
    """
    end = assembled.end
    found: dict[str, dict[str, Array]] = {}
    for side in SIDES if assembled.beam else ("left",):
        suffix = f", {side}" if assembled.beam else ""
        if end.bump_stop:
            found[f"bump stop{suffix}"] = _stop(assembled, solved, end.bump_stop, side)
        if end.strap:
            a, b = (
                solved.system.where(solved.poses, assembled.place(place, side), solved.drives)
                for place in (end.strap.a, end.strap.b)
            )
            found[f"strap{suffix}"] = {"slack_mm": end.strap.length_mm - np.linalg.norm(a - b, axis=0)}
        for name, damper in end.other_dampers.items():
            a, b = (solved.system.where(solved.poses, assembled.place(p, side), solved.drives) for p in damper.places)
            found[f"{name}{suffix}"] = {"length_mm": np.linalg.norm(a - b, axis=0)}
    for joint in assembled.template.joints:
        if not isinstance(joint, SliderJoint):
            continue
        for side in SIDES if assembled.beam and joint.pair else ("left",):
            label = f"{joint.name}, {side}" if assembled.beam and joint.pair else joint.name
            run = _run(assembled, solved, joint, side) - _run(assembled, rest, joint, side)
            found[label] = {"slider_mm": np.broadcast_to(run, (solved.poses.lanes,)).copy()}
    return found


def _facing(direction: Vector, side: str, assembled: Assembled) -> Vector:
    x, y, z = (v / hypot(*direction) for v in direction)
    return x, -y if assembled.beam and side == "right" else y, z


class OnLink:
    """A place on a link of an end: it goes with the link, which is taken not to roll about its own line.

    A force there is carried by what the link is fastened to (`shared`); what would roll the link is left out.
    """

    def __init__(self, link: LinkMarks, at: Vector) -> None:
        """
        Args:
            link: with its two ends.
            at: the place, as the points were taken [mm].
        """
        a, b = np.array(link.a.at), np.array(link.b.at)
        self.way = (b - a) / np.linalg.norm(b - a)
        self.share = float((np.array(at) - a) @ self.way / np.linalg.norm(b - a))
        self.off = np.array(at) - a - self.share * (b - a)

    def at(self, a: Array, b: Array) -> Array:
        """Where it is (3, lanes) [mm].

        Args:
            a: the link's first end (3, lanes).
            b: its second.
        """
        return a + self.share * (b - a) + self._turn(self.off, a, b)

    def turned(self, direction: Vector, a: Array, b: Array) -> Array:
        """Where a direction that stands on the link points (3, lanes).

        Args:
            direction: as the points were taken.
            a: the link's first end (3, lanes).
            b: its second.
        """
        return self._turn(np.array(direction), a, b)

    def _turn(self, vector: Array, a: Array, b: Array) -> Array:
        """Turned with the link the shortest way."""
        d = b - a
        u, v, was = d / np.linalg.norm(d, axis=0), vector[:, None], self.way[:, None]
        k = cross(was + 0 * u, u)
        kv = cross(k, v + 0 * u)
        found: Array = v + kv + cross(k, kv) / (1.0 + (was * u).sum(axis=0))
        return found


def shared(force: Array, at: Array, a: Array, b: Array) -> tuple[Array, Array]:
    """What a force on a link comes to at its two joints, each (3) [N]: as of a beam on two joints; along the link by the share of its
    length, which no joint feels but the link's own two stretches do.

    Args:
        force: (3) [N].
        at: where it acts (3) [mm].
        a: the link's first end (3).
        b: its second.
    """
    length = float(np.linalg.norm(b - a))
    u, arm = (b - a) / length, at - a
    second = cross(cross(arm, force), u) / length + float(arm @ u) / length * float(force @ u) * u
    return force - second, second


def _stop(assembled: Assembled, solved: Positions, stop: BumpStop, side: str) -> dict[str, Array]:
    """The gap along the stop's own line to its pad's face, and how far from the pad's middle it strikes."""
    system, poses = solved.system, solved.poses
    tip_mark, pad_mark = assembled.place(stop.tip, side), assembled.place(stop.pad, side)
    tip = system.where(poses, tip_mark, solved.drives)
    line = system.direction(poses, tip_mark.body, _facing(stop.axis, side, assembled))
    link = assembled.pad_link(side)
    if link:
        a, b = (system.where(poses, mark, solved.drives) for mark in (link.a, link.b))
        on = OnLink(link, pad_mark.at)
        many = np.zeros((3, poses.lanes))  # both ends may stand on the ground
        pad, face = on.at(a + many, b + many), on.turned(_facing(stop.face, side, assembled), a + many, b + many)
    else:
        pad = system.where(poses, pad_mark, solved.drives)
        face = system.direction(poses, pad_mark.body, _facing(stop.face, side, assembled))
    gap = quotient(((pad - tip) * face).sum(axis=0), (line * face).sum(axis=0))
    strike = tip + line * gap
    lanes = (solved.poses.lanes,)
    return {
        "gap_mm": np.broadcast_to(gap, lanes).copy(),
        "off_pad_mm": np.broadcast_to(np.linalg.norm(strike - pad, axis=0), lanes).copy(),
    }


def _run(assembled: Assembled, solved: Positions, joint: SliderJoint, side: str) -> Array:
    """Where a slider's point stands along its line."""
    one, two = (assembled.role(point, side) for point in joint.line)
    mark = assembled.role(joint.place.point, side)
    p, a, b = (solved.system.where(solved.poses, m, solved.drives) for m in (mark, one, two))
    d = b - a
    found: Array = ((p - a) * d).sum(axis=0) / np.linalg.norm(d, axis=0)
    return found
