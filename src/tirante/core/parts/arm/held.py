"""What a jig takes hold of on a welded arm: sleeves or rod ends at its pivots, the cup at its outer joint, its tubes and brace, its gusset."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from tirante.core.document.parts.arm import Arm
from tirante.core.jigs.features import DUMMY, Features, Held, Sheet, triple
from tirante.core.parts.arm.checks import rings_of
from tirante.core.parts.arm.ends import ArmSide
from tirante.core.parts.arm.frame import BRACE, ArmPlaces
from tirante.core.parts.around import Around
from tirante.core.parts.welded.tube_ends import Cut, bar_of
from tirante.core.suspension.on_body import places_on

Array = NDArray[np.float64]


def features_of(
    arm: Arm, places: ArmPlaces, around: Around, sides: Sequence[ArmSide], cuts: Sequence[Cut]
) -> Features | str:  # fmt: skip
    """An arm as a jig has it; or what must be given first.

    Args:
        arm: complete.
        places: its joints in its end’s template.
        around: the job.
        sides: both, where its pivots are rod ends.
        cuts: its tubes.
    """
    end = around.ends[arm.end_id]
    at = {p.point: p.at for p in places_on(around.template(arm.end_id), end, arm.body, right=arm.side == "right")}
    known = end.balls.get(places.outer)
    stud = known.stud_axis if known else None  # of its outer joint's cup, as the left side has it; None: not known
    rings = rings_of(arm)
    lacking = []
    if not sides and "pivot_wall_mm" not in rings:
        lacking.append("the bush or bearing at either pivot and the wall of its sleeve")
    if arm.outer == "rod end":
        lacking.append("the rod end at its outer joint, which is not worked out here")
    elif "outer_housing.wall_mm" not in rings:
        lacking.append("the cup at its outer joint")
    if lacking:
        return f"A jig’s dummies go in its bores. Give it first, at station 5: {' and '.join(lacking)}."
    mirror = np.array([1.0, -1.0, 1.0]) if arm.side == "right" else np.ones(3)
    front, rear, outer = (np.array(at[name], float) * mirror for name in (*places.pivots, places.outer_point))
    along = (rear - front) / np.linalg.norm(rear - front)
    up = np.cross(rear - front, outer - front)
    up = up / np.linalg.norm(up) * (1.0 if up[2] >= 0 else -1.0)
    names = [name.replace("_", " ") for name in (*places.pivots, places.outer_point)]
    held = [_pivot(arm, name, pivot, along, sides[i] if sides else None) for i, (name, pivot) in enumerate(zip(names, (front, rear), strict=False))]  # fmt: skip
    axis = up if stud is None else np.array(stud, float) * mirror
    outside, wall, long = rings["outer_housing.wall_mm"]
    ball = arm.outer == "ball joint in a socket"
    held.append(Held(
        name=names[2], at=triple(outer), axis=triple(axis / np.linalg.norm(axis)), directed=ball and stud is not None, bore=DUMMY, wide=long, outside=outside,
        what="cup for the ball joint" if ball else "cup for the spherical bearing", seat=outside - 2 * wall, guessed=stud is None,
    ))  # fmt: skip
    bars = [bar_of(cut.run, ("", "") if cut.run.name == BRACE else (names[i], names[2])) for i, cut in enumerate(cuts)]
    sheets: tuple[Sheet, ...] = ()
    if arm.gusset:
        reach = [outer + arm.gusset.reach_mm * (p - outer) / np.linalg.norm(p - outer) for p in (front, rear)]
        sheets = (Sheet(name="gusset", corners=(triple(outer), triple(reach[0]), triple(reach[1])), thickness=arm.gusset.thickness_mm),)  # fmt: skip
    return Features(held=tuple(held), bars=tuple(bars), sheets=sheets)


def _pivot(arm: Arm, name: str, at: Array, along: Array, side: ArmSide | None) -> Held:
    if side is not None:
        joint = side.assembly.threaded[0].joint
        return Held(
            name=name, at=triple(at), axis=triple(along), directed=False, bore=joint.bore_mm, wide=joint.ball_width_mm, outside=joint.head_diameter_mm,
            what="old rod end in its insert, to the showing length",
        )  # fmt: skip
    assert arm.pivot_eye
    outside, wall, long = rings_of(arm)["pivot_wall_mm"]
    word = "sleeve for the bush" if arm.pivots == "bush sleeves" else "cup for the spherical bearing"
    return Held(name=name, at=triple(at), axis=triple(along), directed=False, bore=arm.pivot_eye.bore_mm, wide=long, outside=outside, what=word, seat=outside - 2 * wall)  # fmt: skip
