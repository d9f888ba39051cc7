"""What a strike pad's webs stand on: a tube of an arm, a member of the car, or what is typed.

Not covered: members that are bent there, and webs that straddle a corner.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from math import hypot

import numpy as np
from numpy.typing import NDArray

from tirante.core.document.mounts import BoxMember, FlatMember, Mount
from tirante.core.document.parts.pad import PadPart
from tirante.core.parts.feet import Foot
from tirante.core.parts.part import Misfit
from tirante.core.parts.stands import MIRROR, At

Array = NDArray[np.float64]
LEANS_MOST = 0.7  # least cosine between a pad's face and what it stands on; common practice, no source


@dataclass(frozen=True, slots=True, kw_only=True)
class Under:
    """What the webs stand on."""

    along: Array  # the way that they stand along (3)
    out: Array  # from it toward the pad (3), square to that
    od: float | None  # of a round tube [mm]; None: a flat
    off: float  # from the tube's middle line, or from the flat, to the middle of the pad's face, along `out` [mm]
    told: str  # in words
    given: bool  # whether its height follows from where it stands, and is not typed
    room: tuple[float, float] | None = None  # from the pad's middle to either end of it, along it [mm]; None: not known


def under_part(foot: Foot, on: str, saved: PadPart, face: Array) -> Under | Misfit:
    """A tube or a box of a part of the job.

    Args:
        foot: where on it.
        on: the part's name.
        saved: the pad.
        face: the way the stop's face looks (3), length 1.
    """
    if not foot.box and foot.od is None:
        return Misfit(field="end_id", message=f"{on} has no tube chosen yet. Size it first: the pad’s webs are cut to it.")  # fmt: skip
    if not foot.on_bracket:
        return Misfit(field="end_id", message=f"The pad’s middle lies on {foot.tube} of {on} itself. Move it out to where the stop strikes, at Layout.")  # fmt: skip
    along = np.array(foot.along)
    if foot.box or foot.od is None:  # a box is flat; how high it stands there is typed
        return _typed(saved, face, along, None, f"{foot.tube} of {on}, a box")
    return Under(along=along, out=_square(np.array(foot.out), along), od=foot.od, off=foot.off, told=f"{foot.tube} of {on}, ⌀{foot.od:g} mm", given=True)  # fmt: skip


def under_typed(saved: PadPart, face: Array, along: Array | None = None) -> Under:
    """What is typed at the pad itself.

    Args:
        saved: the pad.
        face: the way the stop's face looks (3), length 1.
        along: the way that it runs (3), length 1; None: along the car, or across it.
    """
    found = _typed(saved, face, np.array([1.0, 0.0, 0.0]) if along is None else along, saved.tube_od_mm, "")
    what = f"⌀{saved.tube_od_mm:g} mm" if saved.tube_od_mm else "a flat"
    return replace(found, told=f"{what}, the webs {_way(found.along)}")


def under_member(mount: Mount, at: At, face: Array) -> Under | Misfit:
    """A member of the car, or its mirror image where that is nearer; of a box the face that looks most as the stop's does.

    Args:
        mount: the member.
        at: the stop's place.
        face: the way the stop's face looks (3), length 1; either way round.
    """
    if not at.moves_with(mount):
        return Misfit(field="mount", message=f"{mount.name} does not move with {at.on}, which this pad is on.")
    found = [_on(mount, at.at, face, way) for way in ((np.ones(3), MIRROR) if mount.both_sides else (np.ones(3),))]
    best = min(found, key=lambda one: one[0])
    return best[1]


def under_bearing(mount: Mount, at: At, along: Array, high: float, turns: str = "bar") -> tuple[Array, Under] | Misfit:
    """The face under a bearing on a member of the car, or on its mirror image where that is nearer: as near to square to the member as its bar lets it.

    Args:
        mount: the member.
        at: the bearing's place, on its bar's line.
        along: of that line (3), length 1.
        high: of that line over the face [mm].
        turns: what lies along it, in a word.

    Returns:
        The face's way (3), length 1, and what is under it.
    """
    if not at.moves_with(mount):
        return Misfit(field="mount", message=f"{mount.name} does not move with {at.on}, which this bearing is on.")
    found: list[tuple[float, tuple[Array, Under] | Misfit]] = []
    for way in (np.ones(3), MIRROR) if mount.both_sides else (np.ones(3),):
        out = _outward(mount, at.at, way)
        across = None if out is None else out - along * float(out @ along)
        size = 0.0 if across is None else float(np.linalg.norm(across))
        if across is None or size < LEANS_MOST:
            off, _ = _on(mount, at.at, np.eye(3)[2], way)
            found.append((off, Misfit(field="mount", message=f"The {turns} runs {'through' if out is None else 'straight at'} {mount.name}: no pad can stand under it there. Give it another mount.")))  # fmt: skip
            continue
        face = across / size
        off, under = _on(mount, at.at - face * high, face, way)
        found.append((off, under if isinstance(under, Misfit) else (face, under)))
    return min(found, key=lambda one: one[0])[1]


def _outward(mount: Mount, at: Array, way: Array) -> Array | None:
    """The way from a member toward a place (3), length 1; of a box square to the face that looks there; None in its middle."""
    shape = mount.shape
    if isinstance(shape, FlatMember):
        out = way * np.array(shape.normal)
        return np.asarray(out / np.linalg.norm(out))
    a, b = way * np.array(shape.a), way * np.array(shape.b)
    along = (b - a) / np.linalg.norm(b - a)
    away = at - a - float((at - a) @ along) * along
    if isinstance(shape, BoxMember):
        up = _square(way * np.array(shape.up), along)
        sides = ((up, shape.height_mm), (np.cross(along, up), shape.width_mm))
        return max(((s * n, mm) for n, mm in sides for s in (1.0, -1.0)), key=lambda one: float(away @ one[0]) - one[1] / 2)[0]  # fmt: skip
    size = float(np.linalg.norm(away))
    return away / size if size > 1e-6 else None


def _on(mount: Mount, at: Array, face: Array, way: Array) -> tuple[float, Under | Misfit]:
    """How far away a member is [mm], and the pad on it."""
    shape = mount.shape
    if isinstance(shape, FlatMember):
        out = way * np.array(shape.normal) / np.linalg.norm(shape.normal)
        off = float((at - way * np.array(shape.through)) @ out)
        along = np.eye(3)[int(np.argmin(np.abs(out)))]
        return abs(off), _over(mount, _square(along, out), out, None, off, None)
    a, b = way * np.array(shape.a), way * np.array(shape.b)
    length = float(np.linalg.norm(b - a))
    along = (b - a) / length
    from_end = float((at - a) @ along)
    away = at - a - from_end * along
    aside, room = float(np.linalg.norm(away)), (from_end, length - from_end)
    distance = hypot(aside, max(0.0, -min(room)))  # past its end its middle line alone is no nearer
    if isinstance(shape, BoxMember):
        up = _square(way * np.array(shape.up), along)
        sides = ((up, shape.height_mm), (np.cross(along, up), shape.width_mm))
        out, size = max(((s * n, mm) for n, mm in sides for s in (1.0, -1.0)), key=lambda one: (abs(float(one[0] @ face)) > LEANS_MOST, float(away @ one[0]) - one[1] / 2))  # fmt: skip
        return distance, _over(mount, along, out, None, float(away @ out) - size / 2, room)
    if aside <= shape.od_mm / 2:
        return distance, Misfit(field="mount", message=f"The pad’s middle lies inside {mount.name}. Move it out to where the stop strikes, at Layout, or give it another mount.")  # fmt: skip
    return distance, _over(mount, along, away / aside, shape.od_mm, aside, room)


def _over(mount: Mount, along: Array, out: Array, od: float | None, off: float, room: tuple[float, float] | None) -> Under | Misfit:  # fmt: skip
    if off <= 0.0:
        return Misfit(field="mount", message=f"The pad’s middle lies inside {mount.name}, or behind it. Move it out to where the stop strikes, at Layout, or give it another mount.")  # fmt: skip
    told = f"{mount.name}, {f'⌀{od:g} mm' if od else f'a flat face, the webs {_way(along)}'}"
    return Under(along=along, out=out, od=od, off=off, told=told, given=True, room=room)


def _typed(saved: PadPart, face: Array, along: Array, od: float | None, told: str) -> Under:
    if abs(face @ along) > LEANS_MOST:
        along = np.array([0.0, 1.0, 0.0])
    return Under(along=along, out=_square(face, along), od=od, off=saved.height_mm + (od or 0.0) / 2, told=told, given=False)  # fmt: skip


def _way(along: Array) -> str:
    """Which way webs run, in words: nothing else says it of a flat, or of what is typed."""
    return ("along the car", "across the car", "upright")[int(np.argmax(np.abs(along)))]


def _square(way: Array, to: Array) -> Array:
    """What of a direction is square to another, length 1."""
    out = way - to * float(way @ to)
    return np.asarray(out / np.linalg.norm(out))
