"""What a jig takes hold of on a welded arm of any layout: sleeves, cups, pairs of tabs and hub flanges, its tubes and boxes, its gussets."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

import numpy as np
from numpy.typing import NDArray

from tirante.core.document.parts.frame_arm import FrameArm, FrameJoint
from tirante.core.jigs.features import Bar, Features, Held, Sheet, triple
from tirante.core.parts.frame_arm.flange import AXIS
from tirante.core.parts.frame_arm.layout import Layout, tube_name
from tirante.core.parts.frame_arm.view import plane_of
from tirante.core.parts.welded.tube_ends import Cut, bar_of
from tirante.core.suspension.on_body import OnBody

Array = NDArray[np.float64]
DISC = 20.0  # [mm] thick, of the dummy that a hub flange is bolted to; its bar as thick
ON = 30.0


def features_of(
    arm: FrameArm, layout: Layout, places: Sequence[OnBody], studs: Mapping[str, tuple[float, float, float]], cuts: Sequence[Cut]
) -> Features | str:  # fmt: skip
    """An arm as a jig has it; or what must be given first.

    Args:
        arm: complete.
        layout: its frame.
        places: of its body, as the left side has them.
        studs: axes of ball joints, by joint, likewise.
        cuts: its round tubes.
    """
    mirror = np.array([1.0, -1.0, 1.0]) if arm.side == "right" else np.ones(3)
    at = {place.point: np.array(place.at, float) * mirror for place in places}
    at |= {node.name: np.array(node.at, float) * mirror for node in arm.nodes}
    up = plane_of(np.array([at[end] for one in arm.tubes for end in (one.a, one.b)]))[2]
    of = {place.point: place for place in places}
    held, lacking = [], []
    for joint in arm.joints:
        if joint.point not in layout.takes:
            continue
        place = of.get(joint.point)
        axis = place.bolt if place and place.bolt else studs.get(place.what) if place else None
        found = _held(
            joint, at[joint.point], up if axis is None else np.array(axis, float) * mirror, guessed=axis is None
        )
        if found is None:
            lacking.append(joint.point.replace("_", " "))
        else:
            held.append(found)
    if lacking:
        return f"A jig’s dummies go in its bores. Give first what is made at its joints, with its sizes, at station 5: {', '.join(lacking)}."
    known = {one.name for one in held}
    cut = {one.run.name: one.run for one in cuts}
    bars = []
    for one in arm.tubes:
        to = tuple(end.replace("_", " ") if end.replace("_", " ") in known else "" for end in (one.a, one.b))
        name = tube_name(one)
        if name in cut:
            bars.append(bar_of(cut[name], (to[0], to[1])))
        else:
            box = layout.boxes[name]
            bars.append(Bar(name=name, a=triple(at[one.a]), b=triple(at[one.b]), od=max(box.height, box.width), a_seam=box.height / 2, b_seam=box.height / 2, to=(to[0], to[1]), square=True))  # fmt: skip
    sheets = tuple(
        Sheet(name=plate.name, corners=(triple(layout.nodes[plate.at] * mirror), *(triple(layout.nodes[end] * mirror) for end in plate.ends)), thickness=plate.thickness)
        for plate in layout.plates
    )  # fmt: skip
    return Features(held=tuple(held), bars=tuple(bars), sheets=sheets, not_held=tuple(f"{one.words}, on its bracket" for one in layout.stands if one.off > 0.5))  # fmt: skip


def _held(joint: FrameJoint, at: Array, axis: Array, *, guessed: bool) -> Held | None:
    """A joint's bore; None where its sizes are not given."""
    name, way = joint.point.replace("_", " "), axis / np.linalg.norm(axis)
    pin, flange = joint.pin, joint.flange
    if joint.made == "hub flange":
        if flange is None:
            return None
        return Held(
            name=name, at=triple(at), axis=triple(AXIS * (1.0 if at[1] >= 0 else -1.0)), directed=True, bore=ON, wide=flange.plate_mm + DISC, outside=flange.outside_mm,
            what=f"hub flange, bolted by its {flange.bolts} holes to a disc on a ⌀{ON:g} bar",
            way="outboard",
        )  # fmt: skip
    if pin is None:
        return None
    if joint.made == "pair of tabs":
        return Held(
            name=name, at=triple(at), axis=triple(way), directed=False, bore=pin.bolt_mm, wide=pin.between_mm + 2 * pin.plate_mm, outside=2 * pin.head_mm,
            what=f"pair of tabs, a spacer {pin.between_mm:g} mm long between them", guessed=guessed,
        )  # fmt: skip
    ball = joint.made == "ball joint in a socket"
    return Held(
        name=name, at=triple(at), axis=triple(way), directed=ball and not guessed, bore=pin.bolt_mm, wide=pin.housing_mm, outside=2 * joint.face_mm,
        what=joint.made, seat=max(0.0, 2 * joint.face_mm - 2 * pin.wall_mm), guessed=guessed,
    )  # fmt: skip
