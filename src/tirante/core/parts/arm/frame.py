"""A welded arm as a frame: its nodes and tubes at the position of a case, what acts brought to them, many sizes solved at once.

The tubes run from the pivots to the outer joint, with a cross brace and a gusset where those are wanted; what acts along
them (spring, stop, push rod, drop link) is brought to the nearest tube with its moment. A gusset counts as a flat strut
of half its reach between the two tubes: what the plate does in bending is left out, on the safe side.

Source:
    Forces from the mechanism; frame by direct stiffness (docs/methods.md, Arms as frames).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from tirante.core.document.parts.arm import Arm
from tirante.core.geometry.vectors import cross
from tirante.core.loads.end_loads import Carried
from tirante.core.members.frame import FrameForces, flat_stiffness, frames, stiffness_of
from tirante.core.members.tube import Section
from tirante.core.suspension.held import Acting
from tirante.core.suspension.template import HingeJoint, Template

Array = NDArray[np.float64]


SHEAR_OF_E = 2.6  # E / G at Poisson's ratio 0.3


TUBES = ("front tube", "rear tube")


BRACE, GUSSET = "brace", "gusset"


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
class Material:
    """A tube and the stiffness of its metal."""

    section: Section
    elastic_modulus: float  # [MPa]


@dataclass(frozen=True, slots=True, kw_only=True)
class ArmFrame:
    """An arm in one case, on one side of the car, with each of the tubes that were asked for (first axis of every array)."""

    case: str
    where: str  # the position of the case, in words
    names: tuple[str, ...]  # of the stretches of tube, the brace among them; the gusset is left out
    axial: Array  # (tubes asked, stretches) [N]
    moment: Array  # larger of both ends [N·mm]
    torsion: Array
    shear: Array
    bent: Array  # moments at both ends about the stretch's own two axes across it (tubes asked, stretches, 2, 2), for ranges between cases [N·mm]
    twisted: Array  # torque with its sign [N·mm]
    lengths: dict[str, float]  # of whole tubes, joint centre to joint centre [mm]
    at_pivot: (
        Array  # (tubes asked, 2 pivots, 2): along the tube that meets the pivot, tension positive, and square to it [N]
    )
    gusset: Array  # push or pull of the gusset (tubes asked) [N]; 0 without one
    moved: Array  # of the outer joint (tubes asked, 3) [mm]
    outer_force: Array  # on the arm at its outer joint, car axes [N]
    nodes: Array  # (nodes, 3): the pivots, the outer joint, then what stands along the tubes [mm]
    ends: tuple[tuple[int, int], ...]  # of the stretches, by node
    plate: tuple[int, int] | None  # the gusset's two nodes
    loads: Array  # (nodes, 6) [N, N·mm]
    acting: tuple[tuple[int, str], ...]  # what acts along the tubes, by the node it is brought to
    line: Array  # direction in which the outer joint is held about the hinge, where nothing is felt
    residual: float


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
    assert one.forces
    right = "_right" if suffix else ""
    pivots = [one.forces.pivots[f"{p}{right}"].at for p in places.pivots]
    outer = one.forces.joints[f"{places.outer}{suffix}"].at
    acting = [a for a in one.forces.on[f"{arm.body}{suffix}"] if a.what != f"{places.hinge}{suffix}"]
    made, brought = _built(arm, pivots, outer, acting)
    held = np.zeros((len(made.nodes), 6), bool)
    held[:2, :3] = True
    loads = np.zeros((len(made.nodes), 6, 1))
    for node, force, moment in brought:
        loads[node, :3, 0] += force
        loads[node, 3:, 0] += moment
    # about its hinge nothing holds the arm but the balance of what acts: one line at the outer joint, that feels nothing
    axis = pivots[1] - pivots[0]
    square = cross(axis, outer - pivots[0])
    lines = [(2, square / np.linalg.norm(square))]
    found = frames(made.nodes, made.ends, _stiffness(arm, made, tubes), held, loads, lines)
    size = float(np.abs(loads[:, :3]).max(initial=1.0))
    own = [i for i, name in enumerate(made.stretches) if name != GUSSET]
    plate = [i for i, name in enumerate(made.stretches) if name == GUSSET]
    return ArmFrame(
        case=f"{one.name}{suffix}", where=one.where, names=tuple(made.stretches[i] for i in own), axial=found.axial()[..., 0][:, own],
        moment=found.bending()[..., 0][:, own].max(axis=2), torsion=found.torsion()[..., 0][:, own],
        shear=found.shear()[..., 0][:, own].max(axis=2), bent=found.bent()[..., 0][:, own],
        twisted=found.twisted()[..., 0][:, own], lengths=made.lengths(), at_pivot=_at_pivots(made, found),
        gusset=found.axial()[:, plate[0], 0] if plate else np.zeros(len(tubes)),
        moved=found.displacements[:, 2, :3, 0], outer_force=_from(acting, f"{places.outer}{suffix}"),
        nodes=made.nodes, ends=tuple(made.ends[i] for i in own), plate=made.ends[plate[0]] if plate else None,
        loads=loads[:, :, 0], line=lines[0][1],
        acting=tuple((node, one.what) for (node, _, _), one in zip(brought, acting, strict=True) if node > 2),
        residual=max(found.residual, float(np.abs(found.lines).max(initial=0.0)) / size),
    )  # fmt: skip


def _from(acting: Sequence[Acting], what: str) -> Array:
    found: Array = sum((one.force for one in acting if one.what == what), np.zeros(3))
    return found


def sides_in(one: Carried, body: str) -> list[str]:
    """On which sides of the car a case loads an arm: "" and ", right"."""
    assert one.forces
    return [suffix for suffix in ("", ", right") if f"{body}{suffix}" in one.forces.on]


@dataclass(frozen=True, slots=True)
class _Frame:
    nodes: Array  # pivots first, then the outer joint
    ends: list[tuple[int, int]]
    stretches: list[str]

    def lengths(self) -> dict[str, float]:
        """Of whole tubes, by the name before the stretch."""
        out: dict[str, float] = {}
        for (a, b), name in zip(self.ends, self.stretches, strict=True):
            stem = name.split(",")[0]
            out[stem] = out.get(stem, 0.0) + float(np.linalg.norm(self.nodes[b] - self.nodes[a]))
        return out


def _stiffness(arm: Arm, made: _Frame, tubes: Sequence[Material]) -> Array:
    out = np.empty((len(tubes), len(made.ends), 3))
    for k, tube in enumerate(tubes):
        e = tube.elastic_modulus
        out[k, :] = stiffness_of(tube.section, e, e / SHEAR_OF_E)
        if arm.gusset and GUSSET in made.stretches:
            plate = flat_stiffness(arm.gusset.reach_mm / 2, arm.gusset.thickness_mm, e, e / SHEAR_OF_E)
            out[k, made.stretches.index(GUSSET)] = plate
    return out


def _at_pivots(made: _Frame, found: FrameForces) -> Array:
    axial, shear = found.axial()[..., 0], found.shear()[..., 0]
    out = []
    for pivot in (0, 1):
        i = next(i for i, (a, _) in enumerate(made.ends) if a == pivot)
        out.append(np.stack([axial[:, i], shear[:, i, 0]], axis=1))
    return np.stack(out, axis=1)


def _built(
    arm: Arm, pivots: list[Array], outer: Array, acting: Sequence[Acting]
) -> tuple[_Frame, list[tuple[int, Array, Array]]]:
    """Nodes and tubes; and what acts, brought to the nearest node or tube with its moment."""
    shares: list[list[tuple[float, str]]] = [[], []]
    for i, side in enumerate(shares):
        if arm.brace_at is not None:
            side.append((arm.brace_at, f"{BRACE} {i}"))
        if arm.gusset is not None:
            share = 1 - arm.gusset.reach_mm / float(np.linalg.norm(outer - pivots[i]))
            if share > 0.05:
                side.append((share, f"{GUSSET} {i}"))
    brought: list[tuple[str, Array, Array]] = []
    for k, one in enumerate(acting):
        if np.linalg.norm(one.at - outer) < 1e-6:
            brought.append(("outer", one.force, one.moment))
            continue
        near = []
        for i, pivot in enumerate(pivots):
            d = outer - pivot
            share = float(np.clip((one.at - pivot) @ d / (d @ d), 0.02, 0.98))
            near.append((float(np.linalg.norm(one.at - pivot - share * d)), i, share))
        _, i, share = min(near)
        foot = pivots[i] + share * (outer - pivots[i])
        name = f"load {k}"
        close = next((other for at, other in shares[i] if abs(at - share) < 0.02), None)
        if close is None:
            shares[i].append((share, name))
        else:
            at = next(a for a, other in shares[i] if other == close)
            foot, name = pivots[i] + at * (outer - pivots[i]), close
        brought.append((name, one.force, one.moment + cross(one.at - foot, one.force)))
    nodes, names = [pivots[0], pivots[1], outer], ["pivot 0", "pivot 1", "outer"]
    ends: list[tuple[int, int]] = []
    stretches: list[str] = []

    def add(a: str, b: str, name: str) -> None:
        ends.append((names.index(a), names.index(b)))
        stretches.append(name)

    for i, label in enumerate(TUBES):
        before = f"pivot {i}"
        stops = sorted(shares[i])
        for share, name in stops:
            nodes.append(pivots[i] + share * (outer - pivots[i]))
            names.append(name)
        for j, name in enumerate([*(name for _, name in stops), "outer"]):
            add(before, name, label if not stops else f"{label}, stretch {j + 1}")
            before = name
    for across in (BRACE, GUSSET):
        if {f"{across} 0", f"{across} 1"} <= set(names):
            add(f"{across} 0", f"{across} 1", across)
    return _Frame(np.array(nodes), ends, stretches), [(names.index(name), f, m) for name, f, m in brought]
