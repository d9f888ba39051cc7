"""A welded arm of any layout, worked out, and what its drawing shows of it."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from tirante.core.checks.result import CheckResult
from tirante.core.checks.shown import check_out
from tirante.core.document.catalogue import Tube
from tirante.core.document.parts.frame_arm import FrameArm
from tirante.core.drawing.model import Tone
from tirante.core.parts.frame_arm.judged import FrameResult
from tirante.core.parts.frame_arm.layout import Layout
from tirante.core.parts.frame_arm.view import DrawnPlace, DrawnTube, FrameDrawn
from tirante.core.parts.welded.tube_ends import Cut
from tirante.core.suspension.on_body import OnBody


@dataclass(frozen=True, slots=True, kw_only=True)
class FrameMade:
    """An arm with its core objects; without a result while no tube is chosen."""

    places: tuple[OnBody, ...]
    layout: Layout | None = None
    tube: Tube | None = None
    result: FrameResult | None = None
    saw: dict[str, float] | None = None
    checks: tuple[CheckResult, ...] = ()
    cuts: tuple[Cut, ...] = ()


def flat_of(made: FrameMade) -> np.ndarray:
    """Its nodes along its longest way and square to it in its plane [mm], from its first end."""
    assert made.layout
    nodes = made.layout.nodes
    _, _, ways = np.linalg.svd(nodes - nodes.mean(axis=0), full_matrices=True)
    far = np.linalg.norm(nodes[:, None] - nodes[None], axis=2)
    a, b = (int(i) for i in np.unravel_index(int(np.argmax(far)), far.shape))
    along = (nodes[b] - nodes[a]) / far[a, b]
    across = np.cross(ways[2], along)
    return np.array([((node - nodes[a]) @ along, (node - nodes[a]) @ across) for node in nodes])


def drawn_of(arm: FrameArm, made: FrameMade, layout: Layout, tube: Tube) -> FrameDrawn:
    """What its drawing shows.

    Args:
        arm: as it is saved.
        made: worked out.
        layout: of its tubes.
        tube: that they are of.
    """
    at = {place.point: np.array(place.at) for place in made.places} | {n.name: np.array(n.at, float) for n in arm.nodes}
    tubes = []
    for name, (a, b) in layout.tubes.items():
        own = [check for check in made.checks if check.key in (f"frame_weld:{name}", f"frame_column:{name}")]
        worst = max(own, key=lambda c: c.utilisation or 0.0, default=None)
        told = check_out(worst) if worst else None
        tone: Tone = (
            "red" if told and told.state == "stop" else "amber" if told and told.state == "attention" else "ink"
        )
        box = layout.boxes.get(name)
        tubes.append(            DrawnTube(
                name=name if box is None else f"{name}, box {box.height:g} × {box.width:g} × {box.wall:g}",
                od=tube.od_mm if box is None else (box.height + box.width) / 2, a=at[a], b=at[b], length=layout.lengths[name], saw=(made.saw or {})[name], shown=told.shown if told else "–", tone=tone,
            ref=f"check:{worst.key}" if worst else f"tube:{name}",
        ))  # fmt: skip
    built = {joint.point: joint for joint in arm.joints}
    feet = {
        one.place: at[layout.tubes[one.tube][0]]
        + one.share * (at[layout.tubes[one.tube][1]] - at[layout.tubes[one.tube][0]])
        for one in layout.stands
    }
    places = [
        DrawnPlace(name=place.words, at=at[place.point], radius=built[place.point].face_mm if place.point in built else 0.0, foot=feet.get(place.point))
        for place in made.places
    ]  # fmt: skip
    places += [DrawnPlace(name=node.name.replace("_", " "), at=at[node.name], radius=0.0) for node in arm.nodes]
    nodes = layout.nodes
    plates = tuple((nodes[plate.at], nodes[plate.ends[0]], nodes[plate.ends[1]]) for plate in layout.plates)
    return FrameDrawn(plates=plates, title=arm.name, od=tube.od_mm, tubes=tuple(tubes), places=tuple(places))
