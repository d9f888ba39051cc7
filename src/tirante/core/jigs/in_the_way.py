"""What stands in the way on a jig: of a torch, of the part itself, of a rule over its dummy bolts.

Tubes and bores are taken as rounds along their middle lines, looked at every few millimetres.
"""

from __future__ import annotations

from collections.abc import Sequence
from math import ceil

import numpy as np
from numpy.typing import NDArray

from tirante.core.jigs.features import Seam
from tirante.core.jigs.posts import Joint, LaidBar, Post, listed, named

Array = NDArray[np.float64]
EVERY = 4.0  # [mm] along a tube from look to look
TOUCHES = 0.5  # [mm] of a tube in a post that is taken as touching it
END = 10.0  # [mm] of a dummy bolt past what holds it, that a rule is laid to


def beads_blocked(posts: Sequence[Post], seams: Sequence[Seam], room: float) -> list[str]:
    """Beads that a torch does not get round for a post.

    Args:
        posts: of the jig.
        seams: in its ordinates.
        room: that a torch needs [mm].
    """
    found = []
    for seam in seams:
        near = min(
            ((float(post.off(seam.at[None])[0]) - seam.reach, post) for post in posts if post.sort != "rest"),
            key=lambda one: one[0],
            default=None,
        )
        if near is not None and near[0] < room - 1e-6:
            found.append(f"{named(near[1])} stands {max(0.0, near[0]):.0f} mm from the bead of {seam.bar}{f' at {seam.to}' if seam.to else ''}: tack there, and lay that bead with the post off or the part out.")  # fmt: skip
    return found


def feet_on_one_another(posts: Sequence[Post]) -> list[str]:
    """Posts whose feet lie on one another.

    Args:
        posts: of the jig.
    """
    from shapely.geometry import Point, Polygon

    feet = [Point(one.u, one.v).buffer(one.wide / 2) if one.sort == "pin" else Polygon(one.corners()) for one in posts]
    return [
        f"{named(posts[i])} and {posts[j].name} stand on one another."
        for i in range(len(posts)) for j in range(i + 1, len(posts)) if feet[i].intersection(feet[j]).area > 1.0
    ]  # fmt: skip


def stands_in_the_part(posts: Sequence[Post], joints: Sequence[Joint], bars: Sequence[LaidBar]) -> list[str]:
    """Posts that stand in a tube of the part, or in what is round the bore of another joint than their own.

    Args:
        posts: of the jig.
        joints: as they are set.
        bars: as they lie.
    """
    rounds: list[tuple[str, str | None, Array, float]] = [
        (one.bar.name, None, _places(np.array(one.a), np.array(one.b)), one.bar.od / 2) for one in bars
    ]
    for joint in joints:
        at, half = np.array(joint.at), joint.held.wide / 2
        way = (np.array(joint.bar) - at) / float(np.linalg.norm(np.subtract(joint.bar, joint.at)))
        rounds.append(
            (joint.held.name, joint.held.name, _places(at - half * way, at + half * way), joint.held.outside / 2)
        )
    found = []
    for post in posts:
        if post.sort == "rest":  # it touches what it carries, and was put where nothing else is
            continue
        for name, own, places, radius in rounds:
            if own is not None and own == post.of:
                continue
            if float(np.min(post.off(places))) < radius - TOUCHES:
                found.append(f"{named(post)} stands in {name}.")
    return found


def _places(a: Array, b: Array) -> Array:
    return np.linspace(a, b, max(2, ceil(float(np.linalg.norm(b - a)) / EVERY)))


def ends_covered(joints: Sequence[Joint], seams: Sequence[Seam], post_thick: float) -> list[str]:
    """Joints at which a bead lies over the end of the dummy bolt, so that no rule gets at it.

    Args:
        joints: as they are set.
        seams: in the jig's ordinates.
        post_thick: [mm]
    """
    found = []
    for joint in joints:
        at = np.array(joint.at)
        way = (np.array(joint.bar) - at) / float(np.linalg.norm(np.subtract(joint.bar, joint.at)))
        way = way if way[2] >= 0 else -way
        out = joint.held.wide / 2 + END + (0.0 if joint.pinned else joint.spacer + post_thick)
        ends = [at + out * way] if joint.pinned else [at + out * way, at - out * way]
        if all(any(float(np.linalg.norm(seam.at - end)) < seam.reach for seam in seams) for end in ends):
            found.append(joint.held.name)
    return found


def comes_out(joints: Sequence[Joint]) -> str:
    """How the part leaves the jig when its beads are on: every dummy is a bolt, and posts stand straight up.

    Args:
        joints: as they are set.
    """
    lying = [one.held.name for one in joints if not one.pinned]
    standing = [one.held.name for one in joints if one.pinned]
    told = []
    if lying:
        told.append(f"Draw the dummy bolt{'s' if len(lying) > 1 else ''} of {listed(lying)} and take the spacers out.")
    if standing:
        told.append(f"Draw the dummy bolt{'s' if len(standing) > 1 else ''} of {listed(standing)} upward.")
    return f"{' '.join(told)} Lift the part straight up."
