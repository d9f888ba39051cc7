"""The tubes of a welded arm of any layout as they are cut: to the sleeves and cups at its joints, and each to those that stood there before."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from math import ceil, radians, sin, sqrt

import numpy as np
from numpy.typing import NDArray

from tirante.core.document.catalogue import Tube
from tirante.core.document.parts.frame_arm import FrameArm, FrameJoint, FrameTube
from tirante.core.notch.meeting import LEAST_ANGLE, Block, Round, round_at
from tirante.core.parts.frame_arm.flange import AXIS
from tirante.core.parts.frame_arm.layout import Layout, tube_name
from tirante.core.parts.frame_arm.view import plane_of
from tirante.core.parts.welded.tube_ends import Cut, Meets, Run, cut_to_each_other
from tirante.core.suspension.on_body import OnBody

Array = NDArray[np.float64]
WELD_ROOM = 5.0  # mm that a tube runs on past the feet that stand on it, for their fillets; common practice, no source
MOST_PAST = (
    2.0  # of its width, that a tube runs on past a place for the others there to stand on; common practice, no source
)
ALONG_ONE_ANOTHER = "the tubes that meet there lie so nearly along one another that none can stand on another’s side: let them meet squarer, or make a joint’s sleeve or a plate there"
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
            _at_boxes(end, joints.get(end), (at[end], at[far]), boxes[end], runs) if end in boxes else _meets(end, joints.get(end), of.get(end), (at[end], at[far]), _others(arm, one, end, at), tube.od_mm, up, mirror, studs, runs)
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


def _others(arm: FrameArm, tube: FrameTube, end: str, at: Mapping[str, Array]) -> list[Array]:
    """Where the other tubes that come to a place go from there."""
    found = []
    for one in arm.tubes:
        if one is not tube and end in (one.a, one.b):
            found.append(at[one.b if one.a == end else one.a] - at[end])
    return found


def runs_past(way: Array, others: Sequence[Array], od: float) -> float:
    """How far a tube runs on past the place where it ends, so that all others that come there stand on its side, a fillet round them [mm].

    Args:
        way: that it runs on (3).
        others: the ways that the others go from there (3); those that run along it cannot stand on it.
        od: of all of them [mm].
    """
    reach = 0.0
    for other in others:
        cosine = float(way @ other) / float(np.linalg.norm(way) * np.linalg.norm(other))
        sine = sqrt(max(0.0, 1.0 - cosine * cosine))
        if sine < sin(radians(LEAST_ANGLE)):
            continue
        # its middle line leaves the tube at half its width, its foot reaches half its own to either side
        reach = max(reach, od / 2 * (cosine / sine + 1.0 / sine) + WELD_ROOM)
    return reach


def _at_flange(name: str, joint: FrameJoint, ends: tuple[Array, Array], od: float, there: tuple[Round, ...]) -> Meets:
    """A tube that comes to the back of a hub flange, and to the ring in its middle."""
    flange, (here, far) = joint.flange, ends
    if flange is None:
        return Meets(where=name, before=joint.face_mm, why="the sizes of its hub flange are not given")
    way = (far - here) / float(np.linalg.norm(far - here))
    inboard = AXIS * (1.0 if float(way @ AXIS) > 0 else -1.0)
    cosine = float(way @ inboard)
    sine = sqrt(max(0.0, 1.0 - cosine * cosine))
    out = (joint.face_mm * sine + od / 2) / max(cosine, 1e-9)
    if out > flange.outside_mm / 2:
        told = f"it would come to its hub flange as far as {out:.0f} mm from the wheel’s axis, and that ends at {flange.outside_mm / 2:g} mm" if cosine > sin(radians(LEAST_ANGLE)) else "it runs along the back of its hub flange"  # fmt: skip
        return Meets(where=name, before=joint.face_mm, why=f"{told}: give the arm a place behind the flange, on the wheel’s axis, that its tubes come to, and a tube from there to the wheel’s centre")  # fmt: skip
    across = way - cosine * inboard
    side = across / sine if sine > 1e-9 else np.array([1.0, 0.0, 0.0])
    back = Block(
        name="the back of the hub flange", at=_three(here), along=_three(np.cross(inboard, side)), up=_three(inboard), height=2 * joint.face_mm, width=flange.outside_mm, plate=True,
    )  # fmt: skip
    ring = round_at("the ring of the hub flange", here + joint.face_mm * inboard, inboard, flange.ring_mm / 2, begins=True)  # fmt: skip
    return Meets(where=name, before=joint.face_mm, rounds=(back, *((ring,) if sine > sin(radians(LEAST_ANGLE)) else ()), *there))  # fmt: skip


def _meets(
    end: str, joint: FrameJoint | None, place: OnBody | None, ends: tuple[Array, Array], others: Sequence[Array], od: float, up: Array, mirror: Array,
    studs: Mapping[str, tuple[float, float, float]], before: Sequence[Run],
) -> Meets:  # fmt: skip
    """What the end of a tube comes to, of a joint, and of those that stand there already."""
    name, (at, far_end) = end.replace("_", " "), ends
    earlier = [run for run in before if any(np.allclose(at, far) for far in (run.a, run.b))]
    there = tuple(run.from_end(at) for run in earlier)
    if joint is None:
        if earlier:  # it stands on the side of the first, which runs on past the place
            first = earlier[0].ends[0 if np.allclose(earlier[0].a, at) else 1]
            if first.square is None and not first.rounds:
                return Meets(where=name, why=ALONG_ONE_ANOTHER)
            return Meets(where=name, rounds=(earlier[0].round(), *there[1:]))
        past = runs_past(at - far_end, others, od)
        if past > MOST_PAST * od:
            return Meets(where=name, why=ALONG_ONE_ANOTHER)
        return Meets(where=name, square=-past, capped=True)
    if joint.made == "pair of tabs":
        return Meets(where=name, square=joint.face_mm, open=True)
    if joint.made == "hub flange":
        return _at_flange(name, joint, ends, od, there)
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
