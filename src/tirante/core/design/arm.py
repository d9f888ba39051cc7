"""A welded arm under every load case: its frame, each tube and its welds, its outer joint, and what it gives per g.

The tubes run from the pivots to the outer joint; what acts along them (spring, stop, push rod, drop link) is brought to
the nearest tube with its moment. Where tubes are welded, the as-welded yield holds.
Not covered: gussets and sleeves themselves, the joint's housing, second order beyond the column check of each tube.

Source:
    Forces from the mechanism; frame by direct stiffness; stress by von Mises; column Shigley and AISC E3, the lower, and
    bending by linear interaction (docs/methods.md, Arms as frames).
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from math import atan, degrees, pi

import numpy as np
from numpy.typing import NDArray

from tirante.core.design.catalogue import Grade, Tube
from tirante.core.design.model import Arm, DesignFactors
from tirante.core.errors import InputError
from tirante.core.loads.end_loads import Carried, EndLoads
from tirante.core.members.column import column_strength
from tirante.core.members.frame import Bar, frame, von_mises
from tirante.core.members.tube import Section, wall_slenderness
from tirante.core.suspension.statics import Acting
from tirante.core.suspension.template import HingeJoint, Template

Array = NDArray[np.float64]
SHEAR_OF_E = 2.6  # E / G at Poisson's ratio 0.3


@dataclass(frozen=True, slots=True, kw_only=True)
class TubeForces:
    """A stretch of tube in a case [N, N·mm, MPa]."""

    name: str
    case: str
    axial: float
    moment: float
    torsion: float
    shear: float
    stress: float
    weld_use: float  # factored stress at its welded ends over the as-welded yield
    column_use: float  # factored push over the column's, and bending over yield, together


@dataclass(frozen=True, slots=True, kw_only=True)
class ArmResult:
    """An arm, worked out."""

    tubes: tuple[TubeForces, ...]  # of each stretch the worst case
    worst: float | None
    worst_what: str
    worst_case: str
    outer: str  # joint's name
    outer_force: float  # worst [N]
    outer_case: str
    outer_pull: float  # worst along the stud, away from its housing or into it [N]; 0 where the stud is not known
    stud_use: float | None
    deflection_mm: Array  # of the outer joint under 1 g of cornering, outer wheel
    camber_deg_per_g: float | None
    mass_kg: float
    residual: float
    notes: tuple[str, ...]


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


def arm_result(
    arm: Arm, tube: Tube, grade: Grade, template: Template, loads: EndLoads, everyday: EndLoads | None, factors: DesignFactors,
    studs: dict[str, tuple[float, float, float]],
) -> ArmResult:  # fmt: skip
    """Carry every case through the arm.

    Args:
        arm: the part.
        tube: of it.
        grade: of the tube.
        template: of its end.
        loads: the end's cases.
        everyday: cornering of 1 g, for the deflection.
        factors: yield and column.
        studs: axes of ball joints' studs at ride height, by joint.

    Raises:
        InputError: the body is no hinged arm; no case was carried; the frame is loose.
    """
    places = places_of(template, arm.body)
    if places is None:
        raise InputError(f"“{arm.body}” is no arm on a hinge with one outer joint.", code="no_arm", fields=("body",))
    good = [one for one in loads.cases if one.forces is not None and not one.fault]
    if not good:
        raise InputError(
            "No case could be carried, so nothing says what the arm sees.", code="missing", fields=("loads",)
        )
    section = Section(od=tube.od_mm, wall=tube.wall_mm)
    worst: dict[str, TubeForces] = {}
    outer_force, outer_case, outer_pull, stud_use, residual = 0.0, "", 0.0, None, 0.0
    for one in good:
        for suffix in _sides(one, arm.body):
            stretches, left = _stretches(arm, one, suffix, places, section, grade, factors)
            residual = max(residual, left)
            for stretch in stretches:
                known = worst.get(stretch.name)
                if known is None or max(stretch.weld_use, stretch.column_use) > max(known.weld_use, known.column_use):
                    worst[stretch.name] = stretch
            assert one.forces
            force = one.forces.joints[f"{places.outer}{suffix}"].force
            size = float(np.linalg.norm(force))
            if size > outer_force:
                outer_force, outer_case = size, one.name
            axis = studs.get(places.outer)
            if axis is not None:
                unit = np.array(axis) / np.linalg.norm(axis) * np.array([1.0, -1.0 if suffix else 1.0, 1.0])
                along = float(force @ unit)
                outer_pull = max(outer_pull, abs(along))
                if arm.stud:
                    across = float(np.linalg.norm(force - along * unit)) * factors.joint
                    d = arm.stud.diameter_mm
                    stress = 32 * across * arm.stud.lever_mm / (pi * d**3) + 4 * abs(along) * factors.joint / (
                        pi * d * d
                    )
                    stud_use = max(stud_use or 0.0, stress / arm.stud.yield_mpa)
    every = tuple(worst.values())
    top = max(every, key=lambda t: max(t.weld_use, t.column_use), default=None)
    notes = []
    wall = wall_slenderness(section, grade.yield_mpa, grade.e_mpa)
    if not wall.bending_ok:
        notes.append(f"the wall is thin for bending: D/t {wall.d_over_t:.0f}, at most {wall.bending_limit:.0f}")
    if arm.pivots != "bush sleeves":
        notes.append("along the hinge's line its two pivots are taken to share: joints with play leave it to one")
    if arm.stud is None and arm.outer == "ball joint in a socket":
        notes.append("the ball joint's stud is not checked: give its size")
    moved, camber = _give(arm, everyday, template, places, section, grade)
    lengths = _lengths(arm, good[0], places)
    return ArmResult(
        tubes=every, worst=max(top.weld_use, top.column_use) if top else None,
        worst_what="" if top is None else f"{top.name}, {'at its weld' if top.weld_use >= top.column_use else 'as a column that bends'}",
        worst_case=top.case if top else "", outer=places.outer, outer_force=outer_force, outer_case=outer_case, outer_pull=outer_pull,
        stud_use=stud_use, deflection_mm=moved, camber_deg_per_g=camber, mass_kg=section.area * lengths * grade.density_kg_m3 * 1e-9,
        residual=residual, notes=tuple(notes),
    )  # fmt: skip


def _sides(one: Carried, body: str) -> list[str]:
    assert one.forces
    return [suffix for suffix in ("", ", right") if f"{body}{suffix}" in one.forces.on]


@dataclass(frozen=True, slots=True)
class _Frame:
    nodes: Array
    names: list[str]
    bars: list[Bar]
    stretches: list[str]


def _built(
    arm: Arm, pivots: list[Array], outer: Array, acting: Sequence[Acting], section: Section, grade: Grade
) -> tuple[_Frame, list[tuple[int, Array, Array]]]:
    """Nodes and tubes; and what acts, brought to the nearest node or tube with its moment."""
    shares: list[list[tuple[float, str]]] = [[], []]
    brought: list[tuple[str, Array, Array]] = []
    if arm.brace_at is not None:
        for side in shares:
            side.append((arm.brace_at, f"brace {shares.index(side)}"))
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
        brought.append((name, one.force, one.moment + np.cross(one.at - foot, one.force)))
    nodes, names = [pivots[0], pivots[1], outer], ["pivot 0", "pivot 1", "outer"]
    bars: list[Bar] = []
    stretches: list[str] = []

    def add(a: str, b: str, name: str) -> None:
        bars.append(
            Bar(
                a=names.index(a),
                b=names.index(b),
                section=section,
                elastic_modulus=grade.e_mpa,
                shear_modulus=grade.e_mpa / SHEAR_OF_E,
            )
        )
        stretches.append(name)

    for i, label in enumerate(("front tube", "rear tube")):
        before = f"pivot {i}"
        stops = sorted(shares[i])
        for share, name in stops:
            nodes.append(pivots[i] + share * (outer - pivots[i]))
            names.append(name)
        for j, name in enumerate([*(name for _, name in stops), "outer"]):
            add(before, name, label if not stops else f"{label}, stretch {j + 1}")
            before = name
    if arm.brace_at is not None:
        add("brace 0", "brace 1", "brace")
    made = _Frame(np.array(nodes), names, bars, stretches)
    return made, [(names.index(name), force, moment) for name, force, moment in brought]


def _solved(arm: Arm, one: Carried, suffix: str, places: ArmPlaces, section: Section, grade: Grade):  # type: ignore[no-untyped-def]
    assert one.forces
    right = "_right" if suffix else ""
    pivots = [one.forces.pivots[f"{p}{right}"].at for p in places.pivots]
    outer = one.forces.joints[f"{places.outer}{suffix}"].at
    acting = [a for a in one.forces.on[f"{arm.body}{suffix}"] if a.what != f"{places.hinge}{suffix}"]
    made, brought = _built(arm, pivots, outer, acting, section, grade)
    n = len(made.nodes)
    held = np.zeros((n, 6), bool)
    held[:2, :3] = True
    loads = np.zeros((n, 6, 1))
    for node, force, moment in brought:
        loads[node, :3, 0] += force
        loads[node, 3:, 0] += moment
    # about its hinge nothing holds the arm but the balance of what acts: one line at the outer joint, that feels nothing
    axis = pivots[1] - pivots[0]
    square = np.cross(axis, outer - pivots[0])
    found = frame(made.nodes, made.bars, held, loads, [(2, square / np.linalg.norm(square))])
    return made, found, loads


def _stretches(
    arm: Arm, one: Carried, suffix: str, places: ArmPlaces, section: Section, grade: Grade, factors: DesignFactors
) -> tuple[list[TubeForces], float]:  # fmt: skip
    made, found, loads = _solved(arm, one, suffix, places, section, grade)
    size = float(np.abs(loads[:, :3]).max(initial=1.0))
    left = max(found.residual, float(np.abs(found.lines).max(initial=0.0)) / size)
    out = []
    plastic = section.second_moment / (section.od / 2)
    for i, (bar, name) in enumerate(zip(made.bars, made.stretches, strict=True)):
        axial = float(found.axial()[i, 0])
        moment, shear = float(found.bending()[i, :, 0].max()), float(found.shear()[i, :, 0].max())
        torsion = float(found.torsion()[i, 0])
        stress = von_mises(section, axial, moment, torsion, shear)
        whole = _tube_length(made, name)
        strong = column_strength(section, whole, grade.yield_mpa, grade.e_mpa)
        push = max(0.0, -axial) * factors.column / min(strong.critical, strong.aisc_e3)
        out.append(
            TubeForces(
                name=name, case=f"{one.name}{suffix}", axial=axial, moment=moment, torsion=torsion, shear=shear, stress=stress,
                weld_use=stress * factors.yielding / grade.welded_yield_mpa,
                column_use=push + moment * factors.yielding / (plastic * grade.yield_mpa) if push else 0.0,
            )
        )  # fmt: skip
        del bar
    return out, left


def _tube_length(made: _Frame, name: str) -> float:
    """Of the whole tube that a stretch is part of: what it buckles over, on the safe side."""
    stem = name.split(",")[0]
    return float(
        sum(
            np.linalg.norm(made.nodes[bar.b] - made.nodes[bar.a])
            for bar, other in zip(made.bars, made.stretches, strict=True)
            if other.split(",")[0] == stem
        )
    )


def _lengths(arm: Arm, one: Carried, places: ArmPlaces) -> float:
    """Of all its tubes, joint centre to joint centre [mm]."""
    assert one.forces
    pivots = [one.forces.pivots[p].at for p in places.pivots if p in one.forces.pivots]
    outer = one.forces.joints[places.outer].at
    total = sum(float(np.linalg.norm(outer - p)) for p in pivots)
    if arm.brace_at is not None and len(pivots) == 2:
        total += float(np.linalg.norm(pivots[1] - pivots[0])) * (1 - arm.brace_at)
    return total


def _give(
    arm: Arm, everyday: EndLoads | None, template: Template, places: ArmPlaces, section: Section, grade: Grade
) -> tuple[Array, float | None]:  # fmt: skip
    """How far the outer joint goes under 1 g of cornering, outer wheel; and the camber that it costs by itself."""
    if everyday is None:
        return np.full(3, np.nan), None
    one = next(
        (c for c in everyday.cases if c.case.lateral and c.name.endswith("right") and c.forces and not c.fault), None
    )
    if one is None or arm.body not in (one.forces.on if one.forces else {}):
        return np.full(3, np.nan), None
    made, found, _ = _solved(arm, one, "", places, section, grade)
    moved: Array = found.displacements[made.names.index("outer"), :3, 0]
    assert one.forces
    beside = [places_of(template, body) for body in template.bodies if body != arm.body]
    on_upright = [p.outer for p in beside if p is not None and p.outer in one.forces.joints]
    others = [one.forces.joints[outer].at for outer in on_upright if _shares(template, outer, places.outer)]
    if not others:
        return moved, None
    own = one.forces.joints[places.outer].at
    height = float(own[2] - others[0][2])
    return moved, degrees(atan(float(moved[1]) / height)) if abs(height) > 1.0 else None


def _shares(template: Template, one: str, other: str) -> bool:
    """Whether two ball joints hold the wheel's body."""
    tied = {joint.name: joint.bodies for joint in template.joints if joint.kind == "ball"}
    return all(template.roles.wheel_body in tied[name] for name in (one, other))


@dataclass(frozen=True, slots=True, kw_only=True)
class ArmSized:
    """The lightest tube and grade that hold an arm, and the next."""

    tube: Tube | None
    grade: Grade | None
    result: ArmResult | None
    runner_up: str
    considered: int
    advice: str


def size_arm(
    arm: Arm, tubes: Sequence[Tube], grades: Sequence[Grade], comes_as: Callable[[Grade, Tube], bool], template: Template, loads: EndLoads,
    factors: DesignFactors, studs: dict[str, tuple[float, float, float]],
) -> ArmSized:  # fmt: skip
    """Tubes and grades in order of mass, judged under the cases that load the first of them most, then under all.

    Raises:
        InputError: as `arm_result`.
    """
    # steel, unless the arm has a grade of another family already: light metals lose too much beside their welds to be proposed
    family = next((g.family for g in grades if g.key == arm.grade), "steel")
    pairs = [(t, g) for t in tubes for g in grades if g.family == family and comes_as(g, t)]
    pairs.sort(key=lambda p: (Section(od=p[0].od_mm, wall=p[0].wall_mm).area * p[1].density_kg_m3, p[0].key, p[1].key))
    if not pairs:
        return ArmSized(
            tube=None, grade=None, result=None, runner_up="", considered=0, advice="No tube in the catalogue. Add one."
        )
    middle = pairs[len(pairs) // 2]
    first = arm_result(arm, *middle, template, loads, None, factors, studs)
    named = {t.case.removesuffix(", right") for t in first.tubes}
    few = replace(loads, cases=tuple(one for one in loads.cases if one.name in named))
    passed: list[tuple[Tube, Grade, ArmResult]] = []
    nearest: tuple[float, str] | None = None
    for tube, grade in pairs:
        quick = arm_result(arm, tube, grade, template, few, None, factors, studs)
        if (quick.worst or 0.0) > 1.0:
            if nearest is None or (quick.worst or 0.0) < nearest[0]:
                nearest = (
                    quick.worst or 0.0,
                    f"{tube.label}, {grade.label}: {quick.worst_what} {quick.worst:.2f} in “{quick.worst_case}”",
                )
            continue
        whole = arm_result(arm, tube, grade, template, loads, None, factors, studs)
        if (whole.worst or 0.0) <= 1.0:
            passed.append((tube, grade, whole))
            if len(passed) == 2:
                break
    if not passed:
        near = nearest[1] if nearest else ""
        return ArmSized(
            tube=None, grade=None, result=None, runner_up="", considered=len(pairs),
            advice=f"No tube holds. Nearest: {near}. A brace, another place for spring or stop, or a larger tube in the catalogue would clear it.",
        )  # fmt: skip
    tube, grade, result = passed[0]
    if len(passed) < 2:
        return ArmSized(
            tube=tube, grade=grade, result=result, runner_up="", considered=len(pairs), advice="No other tube holds."
        )
    other, of, second = passed[1]
    more = (second.mass_kg - result.mass_kg) * 1000
    return ArmSized(
        tube=tube, grade=grade, result=result, runner_up=f"{other.label}, {of.label}", considered=len(pairs),
        advice=f"The runner-up, {other.label}, {of.label}, holds too and is {more:.0f} g heavier.",
    )  # fmt: skip
