"""An arm of any layout under every load case: a space frame in its own axes, every tube at its welds and as a column, and its size.

What acts on it is in balance by itself, so the frame is held at one node, which feels nothing. Joints turn freely but for what
their bushes put in; tubes are rigid where they are welded. Not covered here: what is made at its joints (`at_joints`), brackets of
what stands on it (parts of their own), second order beyond the column check of each tube.

Source:
    Forces from the mechanism; frame by direct stiffness (docs/methods.md, Arms as frames).
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import combinations

import numpy as np
from numpy.typing import NDArray

from tirante.core.document.catalogue import Grade, Tube
from tirante.core.document.settings import DesignFactors
from tirante.core.errors import InputError
from tirante.core.geometry.vectors import cross
from tirante.core.loads.on_body import BodyCase
from tirante.core.members import fatigue
from tirante.core.members.frame import FrameForces, flat_stiffness, frames, stiffness_of
from tirante.core.members.insert_weld import THROAT_OF_LEG
from tirante.core.members.tube import Section
from tirante.core.parts.frame_arm.layout import Layout, Plate
from tirante.core.parts.welded.cases import SHEAR_OF_E, FrameCase, FrameCases, Material, in_order, stem_of
from tirante.core.parts.welded.judged import PLATE_MODULUS, Boxed, TubeForces, material_of, uses, worst_of_tubes
from tirante.core.parts.welded.sizing import Pair
from tirante.core.units import STEEL_DENSITY

Array = NDArray[np.float64]
UPWARD = (0.0, 0.0, 1.0)


@dataclass(frozen=True, slots=True, kw_only=True)
class AtJoint:
    """What a joint of the arm sees."""

    point: str
    force: float  # worst [N]
    case: str
    moment: float  # worst that its bush puts in [N·mm]


@dataclass(frozen=True, slots=True, kw_only=True)
class ArmCase(FrameCase):
    """An arm in one case; its gussets beside its tubes."""

    plates: Array  # push or pull of each gusset (tubes asked, gussets) [N]


@dataclass(frozen=True, slots=True, kw_only=True)
class FrameResult:
    """An arm, worked out."""

    tubes: tuple[TubeForces, ...]  # of each stretch the worst case
    welds: tuple[TubeForces, ...]  # of each whole tube the case that asks most of its welds
    columns: tuple[TubeForces, ...]  # … and the one that asks most of it as a column; only of tubes that are pushed
    worst: TubeForces
    joints: tuple[AtJoint, ...]
    mass_kg: float
    residual: float
    frames: tuple[ArmCase, ...]


def carried(layout: Layout, cases: Sequence[BodyCase], tubes: Sequence[Material]) -> FrameCases[ArmCase]:
    """Every case through the arm made of each of these tubes.

    Args:
        layout: the frame.
        cases: what acts, by case and side.
        tubes: of which it may be made.

    Raises:
        InputError: no case was carried.
    """
    if not cases:
        raise InputError(
            "No case could be worked out, so nothing says what the arm sees.", code="missing", fields=("loads",)
        )
    nodes, ends, names = layout.nodes, layout.ends, layout.stretches
    loads = np.zeros((len(nodes), 6, len(cases)))
    for k, case in enumerate(cases):
        for act in case.acting:
            known = layout.takes.get(act.place or "")
            node = _nearest(nodes, act.at) if known is None else known
            loads[node, :3, k] += act.force
            loads[node, 3:, k] += act.moment + cross(act.at - nodes[node], act.force)
    held = np.zeros((len(nodes), 6), bool)
    held[0] = True
    every = (*ends, *(plate.ends for plate in layout.plates))
    ups = np.concatenate([layout.ups, np.tile(UPWARD, (len(layout.plates), 1))]) if layout.plates else layout.ups
    found = frames(nodes, every, _stiffness(layout, tubes), held, loads, ups=ups)
    size = np.abs(loads[:, :3]).max(axis=(0, 1), initial=1.0)
    # the node that is held feels nothing where what acts is in balance
    felt = np.abs(found.reactions[:, 0, :3]).max(axis=(0, 1), initial=0.0) / size
    return _by_case(layout, cases, found, loads, felt, names)


def _stiffness(layout: Layout, tubes: Sequence[Material]) -> Array:
    """Of every stretch for each of the tubes; a box is as stiff whatever the tube."""
    n = len(layout.ends)
    out = np.empty((len(tubes), n + len(layout.plates), 4))
    for k, tube in enumerate(tubes):
        e = tube.elastic_modulus
        ea, ei, gj = stiffness_of(tube.section, e, e / SHEAR_OF_E)
        out[k, :n] = ea, ei, gj, ei
        for i, plate in enumerate(layout.plates):  # of the tubes' metal
            ea, ei, gj = flat_stiffness(plate.width, plate.thickness, e, e / SHEAR_OF_E)
            out[k, n + i] = ea, ei, gj, ei
    for i, name in enumerate(layout.stretches):
        box = layout.boxes.get(stem_of(name))
        if box:
            out[:, i] = box.stiffness(PLATE_MODULUS, PLATE_MODULUS / SHEAR_OF_E)
    return out


def _by_case(
    layout: Layout, cases: Sequence[BodyCase], found: FrameForces, loads: Array, felt: Array, names: tuple[str, ...]
) -> FrameCases[ArmCase]:  # fmt: skip
    axial, shear, moment, torsion = (
        found.axial(),
        found.shear().max(axis=2),
        found.bending().max(axis=2),
        found.torsion(),
    )
    bent, twisted, lengths = found.bent(), found.twisted(), dict(layout.lengths)
    n = len(names)  # the tubes; its gussets are the last
    plates = axial[:, n:]
    axial, shear, moment, torsion, bent, twisted = (
        one[:, :n] for one in (axial, shear, moment, torsion, bent, twisted)
    )
    at = tuple(
        ArmCase(
            plates=plates[..., k], case=one.case, where=one.where, names=names, axial=axial[..., k], moment=moment[..., k], torsion=torsion[..., k],
            shear=shear[..., k], bent=bent[..., k], twisted=twisted[..., k], lengths=lengths, nodes=layout.nodes, ends=layout.ends,
            loads=loads[..., k], residual=max(found.residual, float(felt[k])),
        )
        for k, one in enumerate(cases)
    )  # fmt: skip
    return FrameCases(
        which=tuple(range(len(cases))), names=names, axial=axial, moment=moment, torsion=torsion, shear=shear, bent=bent, lengths=lengths, at=at
    )  # fmt: skip


def _nearest(nodes: Array, at: Array) -> int:
    return int(np.argmin(np.linalg.norm(nodes - at, axis=1)))


def frame_result(
    layout: Layout, cases: Sequence[BodyCase], tube: Tube, grade: Grade, factors: DesignFactors, plate: float
) -> FrameResult:  # fmt: skip
    """Carry every case through the arm, made of one tube.

    Args:
        layout: the frame.
        cases: what acts, by case and side.
        tube: the stock of its tubes.
        grade: their metal.
        factors: the design’s.
        plate: yield of its boxes’ plate [MPa].

    Raises:
        InputError: as `carried`.
    """
    found = carried(layout, cases, [material_of(tube, grade)])
    section, every = Section(od=tube.od_mm, wall=tube.wall_mm), in_order([found])
    tubes, welds, columns = worst_of_tubes(
        [found], every, section, grade, factors, Boxed(sections=layout.boxes, yield_strength=plate)
    )
    return FrameResult(
        tubes=tubes, welds=welds, columns=columns, worst=max(tubes, key=lambda one: one.use), joints=_joints(cases),
        mass_kg=mass_of(layout, tube, grade), residual=max(one.residual for one in every), frames=tuple(every),
    )  # fmt: skip


# MPa at 2 million cycles: plate at the toe of a fillet across its pull; EN 1993-1-9 Table 8.5, aluminium IIW's 25, from memory
GUSSET_TOE, GUSSET_TOE_ALUMINIUM = 71.0, 25.0


def gusset_details(
    layout: Layout, leg: float, metal: fatigue.Classes, frames: Sequence[ArmCase]
) -> Iterator[tuple[str, tuple[str, float, float, bool]]]:
    """Of each gusset, between any two cases: its plate where it is welded on, and the two fillets along either tube.

    The tubes at its ends are looked at with all their other welds, at a class no better than a plate's end has.

    Args:
        layout: of the arm.
        leg: of the tubes' welds [mm].
        metal: its classes.
        frames: the everyday cases of one side of the car.
    """
    toe = GUSSET_TOE_ALUMINIUM if metal is fatigue.ALUMINIUM else GUSSET_TOE
    for one, two in combinations(frames, 2):
        for i, plate in enumerate(layout.plates):
            pull = abs(float(one.plates[0, i] - two.plates[0, i]))
            yield plate.name, ("gusset’s plate at its welds", pull / (plate.width * plate.thickness), toe, False)  # fmt: skip
            throat = THROAT_OF_LEG * min(leg, plate.thickness)
            yield plate.name, ("root of the gusset’s welds", pull / (2 * plate.reach) / throat, metal.throat, False)


def _joints(cases: Sequence[BodyCase]) -> tuple[AtJoint, ...]:
    """The worst force of each place, all that acts there together."""
    worst: dict[str, AtJoint] = {}
    for case in cases:
        at: dict[str, Array] = {}
        for act in case.acting:
            if act.place is not None:
                both = np.concatenate([act.force, act.moment])
                at[act.place] = at.get(act.place, np.zeros(6)) + both
        for place, both in at.items():
            force, moment = float(np.linalg.norm(both[:3])), float(np.linalg.norm(both[3:]))
            known = worst.get(place)
            if known is None or force > known.force:
                moment = max(moment, known.moment if known else 0.0)
                worst[place] = AtJoint(point=place, force=force, case=case.case, moment=moment)
            elif moment > known.moment:
                worst[place] = AtJoint(point=place, force=known.force, case=known.case, moment=moment)
    return tuple(worst.values())


def mass_of(layout: Layout, tube: Tube, grade: Grade) -> float:
    """Of its tubes and boxes between centres [kg].

    Args:
        layout: the frame.
        tube: the stock of its tubes.
        grade: their metal.
    """
    section = Section(od=tube.od_mm, wall=tube.wall_mm)
    tubes = sum(long for name, long in layout.lengths.items() if name not in layout.boxes)
    boxes = sum(box.area * layout.lengths[name] for name, box in layout.boxes.items())
    triangles = sum(area_of(plate, layout) * plate.thickness for plate in layout.plates)
    return (section.area * tubes + triangles) * grade.density_kg_m3 * 1e-9 + boxes * STEEL_DENSITY


def area_of(plate: Plate, layout: Layout) -> float:
    """Of a gusset as a triangle between the tubes' centre lines [mm²].

    Args:
        plate: the gusset.
        layout: of the arm.
    """
    corner, one, two = layout.nodes[plate.at], *(layout.nodes[end] for end in plate.ends)
    return float(np.linalg.norm(np.cross(one - corner, two - corner))) / 2


def judged(
    layout: Layout, cases: Sequence[BodyCase], pairs: Sequence[Pair], factors: DesignFactors, plate: float
) -> Array:
    """Worst use of every tube and grade over all cases.

    Args:
        layout: the frame.
        cases: what acts, by case and side.
        pairs: of tube and grade.
        factors: the design’s.
        plate: yield of its boxes’ plate [MPa].

    Raises:
        InputError: as `carried`.
    """
    kinds = sorted({(tube.key, grade.e_mpa) for tube, grade in pairs})
    place = {kind: n for n, kind in enumerate(kinds)}
    sections = {tube.key: material_of(tube, grade).section for tube, grade in pairs}
    found = carried(layout, cases, [Material(section=sections[key], elastic_modulus=e) for key, e in kinds])
    worst, boxed = np.zeros(len(pairs)), Boxed(sections=layout.boxes, yield_strength=plate)
    for key in {grade.key for _, grade in pairs}:
        rows = [k for k, (_, grade) in enumerate(pairs) if grade.key == key]
        grade = pairs[rows[0]][1]
        which = np.array([place[pairs[k][0].key, grade.e_mpa] for k in rows])
        weld, column, _ = uses(found, [sections[pairs[k][0].key] for k in rows], which, grade, factors, boxed)
        worst[rows] = np.maximum(weld, column).max(axis=(1, 2))
    return worst
