"""The tubes of a welded arm of any layout as they are cut: to the sleeves and cups at its joints, and each to those that stood there before."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from math import ceil

import numpy as np
from numpy.typing import NDArray

from tirante.core.document.catalogue import Tube
from tirante.core.document.parts.frame_arm import FrameArm, FrameJoint
from tirante.core.notch.meeting import Block, round_at
from tirante.core.parts.frame_arm.layout import Layout, tube_name
from tirante.core.parts.frame_arm.view import plane_of
from tirante.core.parts.welded.tube_ends import Cut, Meets, Run, cut_to_each_other
from tirante.core.suspension.on_body import OnBody

Array = NDArray[np.float64]
ROUND = ("bush sleeve", "cup with a spherical bearing", "ball joint in a socket")


def cut_of(
    arm: FrameArm, tube: Tube, layout: Layout, places: Sequence[OnBody], studs: Mapping[str, tuple[float, float, float]], paper: float
) -> tuple[Cut, ...]:  # fmt: skip
    """Its round tubes in the order in which they are fitted, which is that of its list.

    Args:
        arm: as it is saved.
        tube: the stock of its tubes.
        layout: its frame.
        places: of its body, as the left side has them.
        studs: axes of ball joints, by joint, likewise.
        paper: thickness of what its wraps are printed on [mm].
    """
    mirror = np.array([1.0, -1.0, 1.0]) if arm.side == "right" else np.ones(3)
    at = {place.point: np.array(place.at, float) * mirror for place in places}
    at |= {node.name: np.array(node.at, float) * mirror for node in arm.nodes}
    up = plane_of(np.array([at[end] for one in arm.tubes for end in (one.a, one.b)]))[2]
    up = up if up[2] >= -1e-9 else -up
    joints = {joint.point: joint for joint in arm.joints}
    of = {place.point: place for place in places}
    runs: list[Run] = []
    boxes = _boxes_at(arm, layout, at, mirror)
    for one in arm.tubes:
        if tube_name(one) in layout.boxes:
            continue
        ends = [
            _at_boxes(end, joints.get(end), (at[end], at[far]), boxes[end], runs) if end in boxes else _meets(end, joints.get(end), of.get(end), at[end], up, mirror, studs, runs)
            for end, far in ((one.a, one.b), (one.b, one.a))
        ]  # fmt: skip
        runs.append(
            Run(
                name=tube_name(one), a=at[one.a], b=at[one.b], od=tube.od_mm, wall=tube.wall_mm, ends=(ends[0], ends[1])
            )
        )
    return cut_to_each_other(runs, up, paper)


def standing(joint: FrameJoint, od: float) -> FrameJoint:
    """What is made at a joint, no narrower than the tubes that stand on it.

    Args:
        joint: of the arm.
        od: of its tubes [mm].
    """
    if joint.made not in ROUND or 2 * joint.face_mm >= od:
        return joint
    return joint.model_copy(update={"face_mm": float(ceil(od / 2))})


def _meets(
    end: str, joint: FrameJoint | None, place: OnBody | None, at: Array, up: Array, mirror: Array, studs: Mapping[str, tuple[float, float, float]],
    before: Sequence[Run],
) -> Meets:  # fmt: skip
    """What the end of a tube comes to, of a joint, and of those that stand there already."""
    name = end.replace("_", " ")
    earlier = [run for run in before if any(np.allclose(at, far) for far in (run.a, run.b))]
    there = tuple(run.from_end(at) for run in earlier)
    if joint is None:
        if earlier:  # it stands on the side of the first, which runs on past the place
            return Meets(where=name, rounds=(earlier[0].round(), *there[1:]))
        return Meets(
            where=name,
            why="it ends where others come to it and nothing is made: how it is closed there is not worked out",
        )
    if joint.made == "pair of tabs":
        return Meets(where=name, square=joint.face_mm, open=True)
    if joint.made not in ROUND or joint.face_mm <= 0:
        return Meets(where=name, before=joint.face_mm, why=f"how it comes to the {joint.made} is not worked out")
    axis = place.bolt if place and place.bolt else studs.get(place.what) if place else None
    along = up if axis is None else np.array(axis, float) * mirror
    word = {"bush sleeve": "sleeve", "ball joint in a socket": "ball joint’s socket"}.get(joint.made, "cup")
    return Meets(
        where=name, before=joint.face_mm, rounds=(round_at(f"{word} at {name}", at, along, joint.face_mm), *there)
    )


def _boxes_at(arm: FrameArm, layout: Layout, at: Mapping[str, Array], mirror: Array) -> dict[str, list[Block]]:
    """The boxes of plate that come to each place, each running on past it."""
    found: dict[str, list[Block]] = {}
    for one in arm.tubes:
        name = tube_name(one)
        box = layout.boxes.get(name)
        if box is None:
            continue
        which = next(i for i, stretch in enumerate(layout.stretches) if stretch.split(", stretch")[0] == name)
        for end in (one.a, one.b):
            found.setdefault(end, []).append(Block(
                name=f"box {name}", at=_three(at[end]), along=_three(at[one.b] - at[one.a]), up=_three(layout.ups[which] * mirror), height=box.height,
                width=box.width,
            ))  # fmt: skip
    return found


def _three(vector: Array) -> tuple[float, float, float]:
    x, y, z = (float(v) for v in vector)
    return x, y, z


def _at_boxes(
    end: str, joint: FrameJoint | None, places: tuple[Array, Array], boxes: Sequence[Block], before: Sequence[Run]
) -> Meets:
    """What the end of a tube comes to where boxes of plate meet: their faces, of that first which it is squarest to, and tubes that stand there already."""
    here, far = places
    way = (far - here) / np.linalg.norm(far - here)

    def along(box: Block) -> float:
        return abs(float(way @ np.array(box.along))) / float(np.linalg.norm(box.along))

    earlier = [run for run in before if any(np.allclose(here, other) for other in (run.a, run.b))]
    return Meets(
        where=end.replace("_", " "), before=joint.face_mm if joint else 0.0,
        rounds=(*sorted(boxes, key=along), *(run.from_end(here) for run in earlier)),
    )  # fmt: skip
