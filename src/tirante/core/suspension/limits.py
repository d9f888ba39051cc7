"""What limits travel beside the damper and the joints: bump stop with its pad, strap, slider ends; and what to watch for."""

from __future__ import annotations

from math import hypot
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from tirante.core.document.end import BumpStop
from tirante.core.mechanism.model import Vector
from tirante.core.mechanism.solve import Positions
from tirante.core.suspension.assemble import SIDES, Assembled
from tirante.core.suspension.measures import quotient
from tirante.core.suspension.template import SliderJoint

if TYPE_CHECKING:
    pass


Array = NDArray[np.float64]


def limit_measures(assembled: Assembled, solved: Positions, rest: Positions) -> dict[str, dict[str, Array]]:
    """Of every stop, strap and slider, on either side of a beam: where it stands [mm].

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


def _stop(assembled: Assembled, solved: Positions, stop: BumpStop, side: str) -> dict[str, Array]:
    """The gap along the stop's own line to its pad's face, and how far from the pad's middle it strikes."""
    system, poses = solved.system, solved.poses
    tip_mark, pad_mark = assembled.place(stop.tip, side), assembled.place(stop.pad, side)
    tip, pad = (system.where(poses, mark, solved.drives) for mark in (tip_mark, pad_mark))
    line = system.direction(poses, tip_mark.body, _facing(stop.axis, side, assembled))
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
