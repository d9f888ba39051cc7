"""How an arm of any layout is built between its joints: the usual tubes of one that is new, and the frame of those that are saved."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from itertools import combinations, pairwise

import numpy as np
from numpy.typing import NDArray

from tirante.core.document.parts.frame_arm import BoxOf, FrameArm, FrameGusset, FrameJoint, FrameTube, MadeAs
from tirante.core.geometry.distance import segments
from tirante.core.members.frame import BoxSection
from tirante.core.parts.frame_arm.at_joints import usual_pin
from tirante.core.parts.part import Misfit
from tirante.core.suspension.on_body import OnBody, StandsAs

Array = NDArray[np.float64]
MADE: dict[StandsAs, tuple[MadeAs, float]] = {  # what is usually made at a joint, and its centre to the tubes [mm]; common practice, no source
    "hinge": ("bush sleeve", 22.0), "bush": ("bush sleeve", 22.0), "pivot": ("bush sleeve", 22.0), "ball": ("cup with a spherical bearing", 22.0),
    "link": ("pair of tabs", 25.0), "slider": ("cup with a spherical bearing", 22.0), "wheel": ("hub flange", 40.0),
}  # fmt: skip
CLEAR = 30.0  # mm: a tube that passes another joint or tube nearer than this would be welded to it on its way
STANDS_UPRIGHT = 0.9  # of a member that is so steep
ENDS_OF_TUBE = 0.02  # of a tube's length: what stands nearer to its end stands at it


def usual_joints(places: Sequence[OnBody]) -> tuple[FrameJoint, ...]:
    """What is usually made at each joint of a body."""
    out = []
    for place in places:
        if place.jointed:
            made, face = MADE[place.sort]
            out.append(FrameJoint(point=place.point, made=made, face_mm=face, pin=usual_pin(made, face)))
    return tuple(out)


def usual_tubes(places: Sequence[OnBody]) -> tuple[FrameTube, ...]:
    """Tubes between the joints of a body, the shortest first; none that passes another joint, or crosses a shorter tube, on its way."""
    at = {place.point: np.array(place.at) for place in places if place.jointed}
    pairs = sorted(combinations(at, 2), key=lambda pair: (float(np.linalg.norm(at[pair[1]] - at[pair[0]])), pair))
    taken: list[tuple[str, str]] = []
    for a, b in pairs:
        passes = any(_off(at[a], at[b], where) < CLEAR for name, where in at.items() if name not in (a, b))
        crosses = any(
            not {a, b} & {c, d} and _apart(at[a], at[b], at[c], at[d]) < CLEAR for c, d in taken
        )  # fmt: skip
        if not passes and not crosses:
            taken.append((a, b))
    return tuple(FrameTube(a=a, b=b) for a, b in taken)


def _apart(*ends: Array) -> float:
    return float(np.min(segments(*(end[:, None] for end in ends))))


def _off(a: Array, b: Array, point: Array) -> float:
    """How far a point is off the line between two others, where it lies beside it; otherwise far."""
    run = b - a
    share = float((point - a) @ run / (run @ run))
    return float(np.linalg.norm(point - a - share * run)) if 0.0 < share < 1.0 else float("inf")


@dataclass(frozen=True, slots=True, kw_only=True)
class Stands:
    """Something that stands on an arm beside its joints, and the tube that takes it."""

    place: str
    words: str
    tube: str
    share: float  # of that tube's length, from its first end
    off: float  # from the tube's line [mm]: the reach of its bracket


@dataclass(frozen=True, slots=True, kw_only=True)
class Plate:
    """A gusset as a flat strut between its two tubes, as wide as half its reach."""

    name: str
    at: int  # the node where the tubes meet
    ends: tuple[int, int]
    width: float  # [mm]
    thickness: float
    reach: float  # along either tube [mm]


@dataclass(frozen=True, slots=True, kw_only=True)
class Layout:
    """An arm as a frame in its own axes: nodes, stretches of tube between them, and the node that each place of the arm loads."""

    names: tuple[str, ...]  # of the nodes
    nodes: Array  # (nodes, 3) [mm]
    ends: tuple[tuple[int, int], ...]  # of the stretches
    stretches: tuple[str, ...]
    tubes: Mapping[str, tuple[str, str]]  # of whole tubes by name: the names of their ends
    boxes: Mapping[str, BoxSection]  # of those that are boxes of plate
    ups: Array  # (stretches, 3): the way that each one's height stands
    lengths: Mapping[str, float]  # of whole tubes, centre to centre [mm]
    takes: Mapping[str, int]  # by place: the node that takes it
    stands: tuple[Stands, ...]
    plates: tuple[Plate, ...] = ()


def tube_name(tube: FrameTube) -> str:
    """As a list has it."""
    return f"{tube.a} to {tube.b}".replace("_", " ")


def laid_out(arm: FrameArm, places: Sequence[OnBody]) -> Layout | list[Misfit]:
    """The frame of an arm, or what stands in its way.

    Args:
        arm: as it is saved.
        places: of its body.
    """
    at = {place.point: np.array(place.at) for place in places}
    at |= {node.name: np.array(node.at, float) for node in arm.nodes}
    faults = _faults(arm, places, at)
    if faults:
        return faults
    used = list(dict.fromkeys(name for tube in arm.tubes for name in (tube.a, tube.b)))
    stands = [
        _nearest(place, arm, at) for place in places if place.point not in used
    ]  # fmt: skip
    names, nodes, ends, stretches, takes = (
        list(used),
        [at[name] for name in used],
        [],
        [],
        {name: i for i, name in enumerate(used)},
    )
    lets = _let_in(arm, at, stands)
    on: dict[tuple[str, float], int] = {}  # nodes along the tubes
    for tube in arm.tubes:
        name = tube_name(tube)
        run = [takes[tube.a]]
        own = {one.share for one in stands if one.tube == name} | {
            share for where in lets for n, share in where if n == name
        }
        for share in sorted(own):
            if ENDS_OF_TUBE < share < 1 - ENDS_OF_TUBE:
                on[name, share] = len(nodes)
                run.append(len(nodes))
                names.append(f"on {name}, {share:.3f}")
                nodes.append(at[tube.a] + share * (at[tube.b] - at[tube.a]))
        run.append(takes[tube.b])
        for one in stands:
            if one.tube == name:
                foot = at[tube.a] + one.share * (at[tube.b] - at[tube.a])
                takes[one.place] = min(run, key=lambda i: float(np.linalg.norm(nodes[i] - foot)))
        for k, pair in enumerate(pairwise(run)):
            ends.append(pair)
            stretches.append(name if len(run) == 2 else f"{name}, stretch {k + 1}")
    return Layout(
        names=tuple(names), nodes=np.array(nodes), ends=tuple(ends), stretches=tuple(stretches),
        tubes={tube_name(tube): (tube.a, tube.b) for tube in arm.tubes},
        boxes={tube_name(tube): box_of(tube.box) for tube in arm.tubes if tube.box}, ups=_ups(np.array(nodes), ends),
        lengths={tube_name(tube): float(np.linalg.norm(at[tube.b] - at[tube.a])) for tube in arm.tubes}, takes=takes, stands=tuple(stands),
        plates=tuple(
            Plate(
                name=gusset_name(one), at=takes[one.at], ends=(on[where[0]], on[where[1]]), width=one.reach_mm / 2, thickness=one.thickness_mm, reach=one.reach_mm
            )
            for one, where in zip(arm.gussets, lets, strict=True)
        ),
    )  # fmt: skip


def gusset_name(gusset: FrameGusset) -> str:
    """As a list has it."""
    return f"gusset at {gusset.at} to {gusset.a} and {gusset.b}".replace("_", " ")


def _tubes_of(gusset: FrameGusset, arm: FrameArm) -> list[FrameTube | None]:
    """The two tubes that a gusset is let in between; None where there is none."""
    return [
        next((tube for tube in arm.tubes if {tube.a, tube.b} == {gusset.at, far}), None) for far in (gusset.a, gusset.b)
    ]


def _let_in(
    arm: FrameArm, at: Mapping[str, Array], stands: Sequence[Stands]
) -> list[tuple[tuple[str, float], tuple[str, float]]]:
    """Where each gusset ends on its two tubes: their names and shares; where something stands close by, there."""
    out = []
    for gusset in arm.gussets:
        where = []
        for tube in _tubes_of(gusset, arm):
            assert tube
            share = gusset.reach_mm / float(np.linalg.norm(at[tube.b] - at[tube.a]))
            share = round(share if tube.a == gusset.at else 1.0 - share, 9)
            name = tube_name(tube)
            close = (one.share for one in stands if one.tube == name and abs(one.share - share) < ENDS_OF_TUBE)
            where.append((name, next(close, share)))
        out.append((where[0], where[1]))
    return out


def _gusset_faults(arm: FrameArm, at: Mapping[str, Array]) -> list[Misfit]:
    out = []
    for i, gusset in enumerate(arm.gussets):
        tubes = _tubes_of(gusset, arm)
        if None in tubes or tubes[0] is tubes[1]:
            out.append(Misfit(field=f"gussets.{i}.at", message=f"No two tubes run from {gusset.at.replace('_', ' ')} to {gusset.a.replace('_', ' ')} and to {gusset.b.replace('_', ' ')}. Choose two that meet."))  # fmt: skip
            continue
        shortest = min(float(np.linalg.norm(at[tube.b] - at[tube.a])) for tube in tubes if tube)
        if not ENDS_OF_TUBE * shortest * 2 < gusset.reach_mm < (1 - 2 * ENDS_OF_TUBE) * shortest:
            out.append(Misfit(field=f"gussets.{i}.reach_mm", message=f"A reach of {gusset.reach_mm:g} mm does not end on tubes of which the shorter is {shortest:.0f} mm long. Give it less than that, and more than {ENDS_OF_TUBE * shortest * 2:.0f} mm."))  # fmt: skip
    return out


def box_of(box: BoxOf) -> BoxSection:
    """Its section."""
    return BoxSection(height=box.height_mm, width=box.width_mm, wall=box.wall_mm)


def _ups(nodes: Array, ends: Sequence[tuple[int, int]]) -> Array:
    """Upward; forward for what stands upright itself."""
    out = np.empty((len(ends), 3))
    for i, (a, b) in enumerate(ends):
        run = (nodes[b] - nodes[a]) / np.linalg.norm(nodes[b] - nodes[a])
        out[i] = (1.0, 0.0, 0.0) if abs(run[2]) > STANDS_UPRIGHT else (0.0, 0.0, 1.0)
    return out


def _faults(arm: FrameArm, places: Sequence[OnBody], at: Mapping[str, Array]) -> list[Misfit]:
    known = ", ".join(name.replace("_", " ") for name in at)
    out = [
        Misfit(field=f"tubes.{i}.{end}", message=f"The arm has no place “{name}”. There are: {known}.")
        for i, tube in enumerate(arm.tubes) for end, name in (("a", tube.a), ("b", tube.b)) if name not in at
    ]  # fmt: skip
    if out:
        return out
    if not arm.tubes:
        return [Misfit(field="tubes", message="It has no tubes yet. Put in a tube between two of its joints.")]
    for i, tube in enumerate(arm.tubes):
        if float(np.linalg.norm(at[tube.b] - at[tube.a])) < 1.0:
            out.append(Misfit(field=f"tubes.{i}", message=f"{tube.a} and {tube.b} are one place: a tube between them has no length."))  # fmt: skip
    left_out = [place for place in places if place.jointed and all(place.point not in (t.a, t.b) for t in arm.tubes)]
    out += [
        Misfit(field="tubes", message=f"No tube goes to {place.words} ({place.what}). Put one in.")
        for place in left_out
    ]
    reached = {arm.tubes[0].a}
    while grown := {
        n for t in arm.tubes for n in (t.a, t.b) if (t.a in reached or t.b in reached) and n not in reached
    }:
        reached |= grown
    out += _gusset_faults(arm, at)
    known_tubes = [{tube.a, tube.b} for tube in arm.tubes]
    out += [
        Misfit(field=f"stands.{i}", message=f"No tube runs from {one.a.replace('_', ' ')} to {one.b.replace('_', ' ')} to take {one.point.replace('_', ' ')}. Choose another, or the nearest.")
        for i, one in enumerate(arm.stands) if {one.a, one.b} not in known_tubes
    ]  # fmt: skip
    loose = next((t for t in arm.tubes if t.a not in reached), None)
    if loose and not out:
        out.append(Misfit(field="tubes", message=f"The tube {tube_name(loose)} is not joined to the others. Put in one that joins them."))  # fmt: skip
    return out


def _nearest(place: OnBody, arm: FrameArm, at: Mapping[str, Array]) -> Stands:
    """The tube that takes what stands beside the joints: the one that is chosen for it, or the nearest."""
    found = []
    chosen = next((one for one in arm.stands if one.point == place.point), None)
    for tube in arm.tubes:
        if chosen is not None and {tube.a, tube.b} != {chosen.a, chosen.b}:
            continue
        a, run = at[tube.a], at[tube.b] - at[tube.a]
        share = min(1.0, max(0.0, float((at[place.point] - a) @ run / (run @ run))))
        share = 0.0 if share <= ENDS_OF_TUBE else 1.0 if share >= 1 - ENDS_OF_TUBE else round(share, 9)
        found.append((float(np.linalg.norm(at[place.point] - a - share * run)), tube_name(tube), share))
    off, name, share = min(found)
    return Stands(place=place.point, words=place.words, tube=name, share=share, off=off)
