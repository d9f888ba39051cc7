"""A welded arm as a frame: its nodes and tubes at the position of a case, what acts brought to them, many sizes solved at once.

The tubes run from the pivots to the outer joint, with a cross brace and a gusset where those are wanted; what acts along
them (spring, stop, push rod, drop link) is brought to the nearest tube with its moment. A gusset counts as a flat strut
of half its reach between the two tubes: what the plate does in bending is left out, on the safe side.

Pivots and outer joint are three points of one body, so in axes of its own an arm is the same plane frame in every case
and on either side of the car: the cases that load the same places of its tubes are solved at once.

Source:
    Forces from the mechanism; frame by direct stiffness (docs/methods.md, Arms as frames).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from tirante.core.document.parts.arm import Arm
from tirante.core.document.template import HingeJoint, Template
from tirante.core.geometry.vectors import cross
from tirante.core.loads.end_loads import Carried
from tirante.core.members.frame import FrameForces, flat_stiffness, frames, stiffness_of
from tirante.core.parts.welded.cases import SHEAR_OF_E, FrameCase, FrameCases, Material, lengths_of
from tirante.core.suspension.held import Acting

Array = NDArray[np.float64]


TUBES = ("front tube", "rear tube")


BRACE, GUSSET = "brace", "gusset"


SAME_PLACE = 8  # decimals of a share of a tube, to which what acts in two cases acts at one place


@dataclass(frozen=True, slots=True, kw_only=True)
class ArmPlaces:
    """The hinge's two points and the outer joint of an arm."""

    pivots: tuple[str, str]
    hinge: str
    outer_point: str
    outer: str


def places_of(template: Template, body: str) -> ArmPlaces | None:
    """Where a hinged arm stands; None for a body that is none."""
    hinge = next((j for j in template.joints if isinstance(j, HingeJoint) and j.body == body), None)
    outers = [j for j in template.joints if j.kind == "ball" and body in j.bodies]
    if hinge is None or len(outers) != 1:
        return None
    return ArmPlaces(pivots=hinge.points, hinge=hinge.name, outer_point=outers[0].point, outer=outers[0].name)


@dataclass(frozen=True, slots=True, kw_only=True)
class ArmFrame(FrameCase):
    """An arm in one case: the pivots, the outer joint, then what stands along the tubes are its nodes; the brace is among its
    stretches, the gusset left out."""

    at_pivot: (
        Array  # (tubes asked, 2 pivots, 2): along the tube that meets the pivot, tension positive, and square to it [N]
    )
    gusset: Array  # push or pull of the gusset (tubes asked) [N]; 0 without one
    moved: Array  # of the outer joint (tubes asked, 3) [mm]
    outer_force: Array  # on the arm at its outer joint, car axes [N]
    plate: tuple[int, int] | None  # the gusset's two nodes
    acting: tuple[tuple[int, str], ...]  # what acts along the tubes, by the node it is brought to
    line: Array  # direction in which the outer joint is held about the hinge, where nothing is felt


ArmFrames = FrameCases[ArmFrame]  # a name for the reader; made by FrameCases


def arm_frame(arm: Arm, one: Carried, suffix: str, places: ArmPlaces, tubes: Sequence[Material]) -> ArmFrame:
    """Carry a case through an arm made of each of these tubes.

    Args:
        arm: the part.
        one: the case, carried by its end.
        suffix: of the side, "" or ", right".
        places: of the arm on its template.
        tubes: of which it may be made.

    Raises:
        InputError: the frame is loose.
    """
    return arm_frames(arm, [(one, suffix)], places, tubes)[0].at[0]


def arm_frames(
    arm: Arm, every: Sequence[tuple[Carried, str]], places: ArmPlaces, tubes: Sequence[Material]
) -> list[ArmFrames]:
    """Carry many cases through an arm made of each of these tubes, those of one layout at once.

    Args:
        arm: the part.
        every: each case, carried by its end, with the suffix of the side.
        places: of the arm on its template.
        tubes: of which it may be made.

    Raises:
        InputError: the frame is loose.
    """
    stood = [_stood(arm, one, suffix, places) for one, suffix in every]
    groups: dict[tuple[tuple[int, float, str], ...], list[int]] = {}
    for i, one in enumerate(stood):
        groups.setdefault(one.layout, []).append(i)
    return [_solved(arm, tuple(own), [stood[i] for i in own], tubes) for own in groups.values()]


def sides_in(one: Carried, arm: Arm) -> list[str]:
    """On which sides of the car a case loads an arm, of those it is made for: "" and ", right"."""
    assert one.forces
    made_for = {"left": ("",), "right": (", right",)}.get(arm.side, ("", ", right"))
    return [suffix for suffix in made_for if f"{arm.body}{suffix}" in one.forces.on]


@dataclass(frozen=True, slots=True)
class _Stood:
    """An arm as it stands in a case, and what acts brought to the nodes of its tubes."""

    case: str
    where: str
    pivots: tuple[Array, Array]
    outer: Array
    axes: Array  # (3, 3) rows: along the hinge, square to it towards the outer joint, square to the arm; car axes
    outer_force: Array
    layout: tuple[
        tuple[int, float, str], ...
    ]  # what stands along the tubes: tube, share of it, and what it is if not a load
    shares: tuple[float, ...]  # as of the layout, to the last digit
    brought: tuple[tuple[int, Array, Array], ...]  # by node: force, and moment about it
    acting: tuple[tuple[int, str], ...]

    @property
    def nodes(self) -> Array:
        """The pivots, the outer joint, then what stands along the tubes [mm]."""
        along = []
        for (i, _, _), share in zip(self.layout, self.shares, strict=True):
            along.append(self.pivots[i] + share * (self.outer - self.pivots[i]))
        return np.array([*self.pivots, self.outer, *along])


def _stood(arm: Arm, one: Carried, suffix: str, places: ArmPlaces) -> _Stood:
    """Where an arm stands in a case; what acts is brought to the nearest node or tube with its moment."""
    assert one.forces
    right = "_right" if suffix else ""
    front, rear = (one.forces.pivots[f"{p}{right}"].at for p in places.pivots)
    pivots, outer_name = (front, rear), f"{places.outer}{suffix}"
    outer = one.forces.joints[outer_name].at
    acting = [a for a in one.forces.on[f"{arm.body}{suffix}"] if a.what != f"{places.hinge}{suffix}"]
    runs = [outer - pivot for pivot in pivots]
    squares = [float(run @ run) for run in runs]
    stops: list[list[tuple[float, str]]] = [[], []]
    for i, side in enumerate(stops):
        if arm.brace_at is not None:
            side.append((arm.brace_at, BRACE))
        if arm.gusset is not None:
            share = 1 - arm.gusset.reach_mm / squares[i] ** 0.5
            if share > 0.05:
                side.append((share, GUSSET))
    brought: list[tuple[tuple[int, float] | None, Acting, Array]] = []  # tube and share of it; None: the outer joint
    for act in acting:
        gap = act.at - outer
        if float(gap @ gap) < 1e-12:
            brought.append((None, act, act.moment))
            continue
        near = []
        for i, (pivot, run) in enumerate(zip(pivots, runs, strict=True)):
            share = min(0.98, max(0.02, float((act.at - pivot) @ run) / squares[i]))
            gap = act.at - pivot - share * run
            near.append((float(gap @ gap), i, share))
        _, i, share = min(near)
        # what stands within a fiftieth of the tube stands at one node
        close = next((at for at, _ in stops[i] if abs(at - share) < 0.02), None)
        if close is None:
            stops[i].append((share, ""))
        else:
            share = close
        foot = pivots[i] + share * runs[i]
        brought.append(((i, share), act, act.moment + cross(act.at - foot, act.force)))
    along = [(i, at, name) for i, side in enumerate(stops) for at, name in sorted(side)]
    node = {(i, at): 3 + n for n, (i, at, _) in enumerate(along)}
    hinge = rear - front
    across = cross(hinge, runs[0])
    x, z = hinge / np.linalg.norm(hinge), across / np.linalg.norm(across)
    return _Stood(
        case=f"{one.name}{suffix}", where=one.where, pivots=pivots, outer=outer, axes=np.array([x, cross(z, x), z]),
        outer_force=sum((act.force for act in acting if act.what == outer_name), np.zeros(3)),
        layout=tuple((i, round(at, SAME_PLACE), name) for i, at, name in along), shares=tuple(at for _, at, _ in along),
        brought=tuple((2 if place is None else node[place], act.force, moment) for place, act, moment in brought),
        acting=tuple((node[place], act.what) for place, act, _ in brought if place is not None),
    )  # fmt: skip


def _solved(arm: Arm, which: tuple[int, ...], stood: Sequence[_Stood], tubes: Sequence[Material]) -> ArmFrames:
    """Cases of one layout, in the arm's own axes."""
    first = stood[0]
    ends, stretches = _stretches(first.layout)
    nodes = (first.nodes - first.pivots[0]) @ first.axes.T
    nodes[:, 2] = 0.0
    held = np.zeros((len(nodes), 6), bool)
    held[:2, :3] = True
    own = np.zeros((len(stood), len(nodes), 2, 3))  # force and moment, car axes
    for k, one in enumerate(stood):
        for node, force, moment in one.brought:
            own[k, node, 0] += force
            own[k, node, 1] += moment
    axes = np.array([one.axes for one in stood])
    loads = np.einsum("kij,knmj->nmik", axes, own).reshape(len(nodes), 6, len(stood))
    # about its hinge nothing holds the arm but the balance of what acts: one line at the outer joint, that feels nothing
    lines = [(2, np.array([0.0, 0.0, 1.0]))]
    found = frames(nodes, ends, _stiffness(arm, stretches, ends, tubes), held, loads, lines)
    size = np.abs(own[:, :, 0]).max(axis=(1, 2), initial=1.0)
    felt = np.abs(found.lines).max(axis=(0, 1), initial=0.0) / size
    tube = [i for i, name in enumerate(stretches) if name != GUSSET]
    plate = next((i for i, name in enumerate(stretches) if name == GUSSET), None)
    axial, shear, at_pivot = found.axial(), found.shear().max(axis=2), _at_pivots(ends, found)
    moment, torsion, bent, twisted = found.bending().max(axis=2), found.torsion(), found.bent(), found.twisted()
    gusset = axial[:, plate] if plate is not None else np.zeros((len(tubes), len(stood)))
    moved = np.einsum("kij,tik->tjk", axes, found.displacements[:, 2, :3])
    names, tube_ends = tuple(stretches[i] for i in tube), tuple(ends[i] for i in tube)
    lengths = lengths_of(nodes, ends, stretches)
    axial, moment, torsion, shear = (of[:, tube] for of in (axial, moment, torsion, shear))
    bent, twisted = bent[:, tube], twisted[:, tube]
    at = tuple(
        ArmFrame(
            case=one.case, where=one.where, names=names, axial=axial[..., k], moment=moment[..., k], torsion=torsion[..., k],
            shear=shear[..., k], bent=bent[..., k], twisted=twisted[..., k], lengths=lengths, at_pivot=at_pivot[..., k],
            gusset=gusset[:, k], moved=moved[..., k], outer_force=one.outer_force, nodes=one.nodes, ends=tube_ends,
            plate=None if plate is None else ends[plate], loads=own[k].reshape(len(nodes), 6), acting=one.acting, line=one.axes[2],
            residual=max(found.residual, float(felt[k])),
        )
        for k, one in enumerate(stood)
    )  # fmt: skip
    return FrameCases(
        which=which,
        names=names,
        axial=axial,
        moment=moment,
        torsion=torsion,
        shear=shear,
        bent=bent,
        lengths=lengths,
        at=at,
    )


def _stretches(layout: Sequence[tuple[int, float, str]]) -> tuple[list[tuple[int, int]], list[str]]:
    """The tubes from node to node, and what they are called; brace and gusset last."""
    ends: list[tuple[int, int]] = []
    names: list[str] = []
    for i, label in enumerate(TUBES):
        stops = [3 + n for n, (tube, _, _) in enumerate(layout) if tube == i]
        run = [i, *stops, 2]
        for j, pair in enumerate(pairwise(run)):
            ends.append(pair)
            names.append(label if not stops else f"{label}, stretch {j + 1}")
    for across in (BRACE, GUSSET):
        both = [3 + n for n, (_, _, name) in enumerate(layout) if name == across]
        if len(both) == 2:
            ends.append((both[0], both[1]))
            names.append(across)
    return ends, names


def _stiffness(arm: Arm, stretches: Sequence[str], ends: Sequence[tuple[int, int]], tubes: Sequence[Material]) -> Array:
    out = np.empty((len(tubes), len(ends), 3))
    for k, tube in enumerate(tubes):
        e = tube.elastic_modulus
        out[k, :] = stiffness_of(tube.section, e, e / SHEAR_OF_E)
        if arm.gusset and GUSSET in stretches:
            plate = flat_stiffness(arm.gusset.reach_mm / 2, arm.gusset.thickness_mm, e, e / SHEAR_OF_E)
            out[k, stretches.index(GUSSET)] = plate
    return out


def _at_pivots(ends: Sequence[tuple[int, int]], found: FrameForces) -> Array:
    """At either pivot: along the tube that meets it, and square to it (tubes asked, 2, 2, cases)."""
    axial, shear = found.axial(), found.shear()
    out = []
    for pivot in (0, 1):
        i = next(i for i, (a, _) in enumerate(ends) if a == pivot)
        out.append(np.stack([axial[:, i], shear[:, i, 0]], axis=1))
    return np.stack(out, axis=1)
