"""How much wider than the ball a gap must be, so that what is held does not strike the plates while it tilts.

Of each round piece that leaves the joint: where plates reach along it, its side stands off the middle by its radius and by how far it has
tilted out of the plates' plane there. The gap is twice the most of that, and of the tilted head.
"""

from __future__ import annotations

from collections.abc import Sequence
from math import ceil

import numpy as np
from numpy.typing import NDArray

from tirante.core.document.joints import EndOfLink, HeldJoint
from tirante.core.errors import InputError
from tirante.core.job.room.around import WANTED, moving_things
from tirante.core.job.room.axes import Seen, seen_of
from tirante.core.job.room.own import Own, runs_of
from tirante.core.job.worked import Worked
from tirante.core.parts.bracket.families.place_view import contour_points
from tirante.core.parts.link.built import Built
from tirante.core.parts.link.neck import Neck, necks

Array = NDArray[np.float64]
SHIM_STEP = 0.5  # mm, that shims and spacers are made in; common practice, no source
ROUGH = 0.3  # mm, by which an outline in steps may tell too little
DENSE = 1.0  # mm, between places along an outline


def necks_at(job: Worked, joint: HeldJoint) -> Sequence[Neck]:
    """What leaves a link's joint toward its tube; none where its link is not worked out, or is no link.

    Args:
        job: worked out.
        joint: of it.
    """
    held = joint.held
    part = job.part(held.part) if isinstance(held, EndOfLink) else None
    built = part.own[0] if part is not None and isinstance(part.own, tuple) else None
    if not isinstance(held, EndOfLink) or not isinstance(built, Built):
        return ()
    which = 0 if held.end == "a" else 1
    return necks(built.assembly.ends[which], built.stack.ends[which])


def half_gap(own: Own, runs: Sequence[tuple[Array, list[Neck]]], *, hinge: bool) -> float:
    """Half the gap that clears by what is wanted between things that move [mm].

    Args:
        own: the bracket.
        runs: as `runs_of` has them.
        hinge: whether its head turns about the bolt and does not tilt.
    """
    one, row = own.stand.standing, own.made.held.row
    outlines = [_dense(np.array(contour_points(outline.contour)) - own.place) for outline in own.outlines]
    most = row.ball_width_mm / 2
    for way, steps in runs:
        tilt = np.abs((way * one.bolt[:, None]).sum(axis=0))
        flat = np.sqrt(1.0 - tilt**2)
        if not hinge:
            most = max(most, float((row.housing_width_mm / 2 * flat + row.head_diameter_mm / 2 * tilt).max()) + WANTED)
        along = np.stack([(way * one.x[:, None]).sum(axis=0), (way * one.y[:, None]).sum(axis=0)]) / flat
        for step in steps:
            reach = np.max([_reach(points, along, step.radius) for points in outlines], axis=0)
            reach = (reach + step.radius * tilt) / flat  # its end is cut square to it, not to the bolt
            at = np.minimum(reach, step.stop)
            off = np.where(reach > step.start, step.radius * flat + at * tilt, 0.0)
            most = max(most, float(off.max()) + WANTED if off.max() > 0 else 0.0)
    return most


def _dense(points: Array) -> Array:
    ends = np.roll(points, -1, axis=0)
    found = []
    for a, b in zip(points, ends, strict=True):
        count = max(1, ceil(float(np.linalg.norm(b - a)) / DENSE))
        found.append(a + np.linspace(0.0, 1.0, count, endpoint=False)[:, None] * (b - a))
    return np.concatenate(found)


def _reach(points: Array, along: Array, radius: float) -> Array:
    """How far an outline reaches from the joint along each way, within a radius of it (lanes)."""
    far = points @ along
    beside = np.abs(points @ np.stack([-along[1], along[0]]))
    return np.asarray(np.where(beside <= radius + DENSE, far, -np.inf).max(axis=0))


def shim_that_clears(job: Worked, joint: HeldJoint, own: Own) -> float:
    """What must stand beside the ball on each side, beyond its spacer, so that what is held clears the plates [mm]; 0 where nothing must, or where it is not known how it moves.

    Args:
        job: worked out.
        joint: of it.
        own: the bracket as it would be.
    """
    found = _swings(job, joint, own)
    if found is None:
        return 0.0
    lacks = half_gap(own, found[1], hinge=own.stand.at.hinged) + ROUGH - (own.made.gap / 2 - joint.shim_mm)
    return max(0.0, ceil(lacks / SHIM_STEP - 1e-9) * SHIM_STEP)


def _swings(job: Worked, joint: HeldJoint, own: Own) -> tuple[Seen, list[tuple[Array, list[Neck]]]] | None:
    """How what is held swings, run by run; None where that is not known."""
    at = job.at_of(joint)
    if at is None or at.end_id is None:
        return None
    try:
        seen = seen_of(job, at)
    except InputError:
        return None
    if not seen.reached:
        return None
    return seen, runs_of(seen, own, moving_things(job, seen, at.at), necks_at(job, joint))


def furthest_tilt(own: Own, runs: Sequence[tuple[Array, list[Neck]]]) -> tuple[float, int] | None:
    """How far what is held tilts out of the plates' plane [°], and in which lane it is the most; None of what turns about its bolt alone.

    Args:
        own: the bracket.
        runs: as `runs_of` has them.
    """
    if own.stand.at.hinged or not runs:
        return None
    sines = np.max([np.abs((way * own.stand.standing.bolt[:, None]).sum(axis=0)) for way, _ in runs], axis=0)
    lane = int(np.argmax(sines))
    return float(np.degrees(np.arcsin(min(1.0, float(sines[lane]))))), lane


def tilts_past(job: Worked, joint: HeldJoint, own: Own) -> float:
    """How far what is held tilts over the whole box where that is more than its joint may [°]; 0 where it is not, or where either is not known.

    Args:
        job: worked out.
        joint: of it.
        own: the bracket as it would be.
    """
    limit, found = own.made.tilt_limit_deg, _swings(job, joint, own)
    tilt = furthest_tilt(own, found[1]) if found else None
    return tilt[0] if tilt is not None and limit is not None and tilt[0] > limit else 0.0
