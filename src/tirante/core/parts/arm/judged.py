"""A welded arm under every load case: each tube and its welds, its gusset, its outer joint, what it gives per g; and its size.

Where tubes are welded, the as-welded yield holds. Not covered: the sleeves and cups themselves, the ball joint's
housing, second order beyond the column check of each tube.

Source:
    Stress by von Mises; column Shigley and AISC E3, the lower, and bending by linear interaction; toe and camber per g by the
    mechanism with the outer joint moved as the frame gives (docs/methods.md, Arms as frames).
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from math import pi

import numpy as np
from numpy.typing import NDArray

from tirante.core.document.catalogue import Grade, Tube
from tirante.core.document.parts.arm import Arm
from tirante.core.document.settings import DesignFactors
from tirante.core.document.template import Template
from tirante.core.errors import InputError
from tirante.core.loads.end_loads import Carried, EndLoads
from tirante.core.mechanism.solve import CONVERGED
from tirante.core.members.tube import Section, wall_slenderness
from tirante.core.parts.arm.frame import (
    GUSSET,
    ArmFrame,
    ArmFrames,
    ArmPlaces,
    arm_frame,
    arm_frames,
    places_of,
    sides_in,
)
from tirante.core.parts.welded.cases import Material, in_order
from tirante.core.parts.welded.judged import TubeForces, material_of, uses, worst_of_tubes
from tirante.core.parts.welded.sizing import least_of, pairs_of
from tirante.core.suspension.changed import shifted
from tirante.core.suspension.cycle import Solved, left_wheel

Array = NDArray[np.float64]


@dataclass(frozen=True, slots=True, kw_only=True)
class ArmSetting:
    """Where an arm stands and what it sees.

    `everyday` is cornering of 1 g with the end at ride height (`ride`), for what the arm gives; None leaves that out. `studs`
    are the axes of ball joints' studs at ride height, by joint, each from the ball to its seat.
    """

    template: Template
    loads: EndLoads
    factors: DesignFactors
    studs: dict[str, tuple[float, float, float]]
    friction: float = 0.15  # of a ball in its race
    everyday: EndLoads | None = None
    ride: Solved | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class OuterJoint:
    """What an arm's outer joint sees."""

    name: str
    force: float  # worst [N]
    case: str
    out: float  # worst along the stud, pulling the ball out of its socket [N]; 0 where the stud is not known
    out_case: str
    into: float  # worst along the stud, pressing it in [N]
    stud_use: float | None
    stud_case: str
    out_use: float | None  # over what the maker says the socket holds; None where that is not entered
    upward: bool | None  # whether the stud points up from its ball


@dataclass(frozen=True, slots=True, kw_only=True)
class Given:
    """What an arm gives under 1 g of cornering, outer wheel, by its own tubes."""

    moved: Array  # of its outer joint, car axes [mm]
    camber_deg: float  # of the wheel, positive top outward
    toe_deg: float  # positive toe-in


@dataclass(frozen=True, slots=True, kw_only=True)
class ArmResult:
    """An arm, worked out."""

    tubes: tuple[TubeForces, ...]  # of each stretch the worst case
    welds: tuple[TubeForces, ...]  # of each whole tube the case that asks most of its welds
    columns: tuple[TubeForces, ...]  # … and the one that asks most of it as a column; only of tubes that are pushed
    worst: float | None
    worst_what: str
    worst_case: str
    outer: OuterJoint
    gives: Given | None
    gusset: float | None  # worst push or pull over the plate's factored yield
    gusset_case: str
    lengths: dict[str, float]  # of the tubes between centres [mm]
    mass_kg: float
    residual: float
    notes: tuple[str, ...]
    places: ArmPlaces
    frames: tuple[ArmFrame, ...]  # every case, with this arm's tube alone


def carried(arm: Arm, setting: ArmSetting, tubes: Sequence[Material]) -> tuple[ArmPlaces, list[ArmFrames]]:
    """Every case and side, carried through the arm made of each of these tubes.

    Args:
        arm: as it is saved.
        setting: its end, loads and factors.
        tubes: with their metals.

    Raises:
        InputError: the body is no hinged arm; no case was carried; the frame is loose.
    """
    places, every = _asked(arm, setting)
    return places, arm_frames(arm, every, places, tubes)


def _asked(arm: Arm, setting: ArmSetting) -> tuple[ArmPlaces, list[tuple[Carried, str]]]:
    """Where the arm stands, and every case and side that loads it."""
    places = places_of(setting.template, arm.body)
    if places is None:
        raise InputError(f"“{arm.body}” is no arm on a hinge with one outer joint.", code="no_arm", fields=("body",))
    good = [one for one in setting.loads.cases if one.forces is not None and not one.fault]
    if not good:
        raise InputError(
            "No case could be worked out, so nothing says what the arm sees.", code="missing", fields=("loads",)
        )
    return places, [(one, suffix) for one in good for suffix in sides_in(one, arm)]


def arm_result(arm: Arm, tube: Tube, grade: Grade, setting: ArmSetting) -> ArmResult:
    """Carry every case through the arm, made of one tube.

    Args:
        arm: as it is saved.
        tube: the stock of its tubes.
        grade: their metal.
        setting: its end, loads and factors.

    Raises:
        InputError: as `carried`.
    """
    places, found = carried(arm, setting, [material_of(tube, grade)])
    section, factors = Section(od=tube.od_mm, wall=tube.wall_mm), setting.factors
    every = in_order(found)
    tubes, welds, columns = worst_of_tubes(found, every, section, grade, factors)
    top = max(tubes, key=lambda t: t.use, default=None)
    plate, plate_case = _gusset(arm, grade, factors, every)
    lengths = dict(every[0].lengths)
    notes = []
    wall = wall_slenderness(section, grade.yield_mpa, grade.e_mpa)
    if not wall.bending_ok:
        notes.append(f"the wall is thin for bending: D/t {wall.d_over_t:.0f}, at most {wall.bending_limit:.0f}")
    if arm.pivots != "bush sleeves":
        notes.append("along the hinge’s line its two pivots are taken to share: joints with play leave it to one")
    if arm.stud is None and arm.outer == "ball joint in a socket":
        notes.append("the ball joint’s stud is not checked: give its size")
    if arm.outer != "ball joint in a socket" and arm.outer_rating_n is None:
        notes.append(f"the {arm.outer} at its outer end is not checked: give its maker’s rating")
    if arm.pivots == "spherical bearings" and arm.pivot_rating_n is None:
        notes.append("the spherical bearings at its pivots are not checked: give their maker’s rating")
    if arm.gusset and GUSSET not in every[0].lengths:
        notes.append("the gusset reaches past the tubes: it is left out. Give it less reach.")
    return ArmResult(
        tubes=tubes, welds=welds, columns=columns, worst=top.use if top else None,
        worst_what="" if top is None else f"{top.name}, {'at its weld' if top.weld_use >= top.column_use else 'as a column that bends'}",
        worst_case=top.case if top else "", outer=_outer(arm, setting, places, every), gives=_gives(arm, setting, places, tube, grade),
        gusset=plate, gusset_case=plate_case, lengths=lengths, mass_kg=_mass(arm, section, grade, lengths),
        residual=max(one.residual for one in every), notes=tuple(notes), places=places,
        frames=tuple(every),
    )  # fmt: skip


def _mass(arm: Arm, section: Section, grade: Grade, lengths: dict[str, float]) -> float:
    tubes = section.area * sum(length for name, length in lengths.items() if name != GUSSET)
    plate = 0.0
    if arm.gusset and GUSSET in lengths:  # a triangle between the two tubes
        r, across = arm.gusset.reach_mm, lengths[GUSSET]
        plate = across / 2 * float(np.sqrt(max(0.0, r * r - across * across / 4))) * arm.gusset.thickness_mm
    return (tubes + plate) * grade.density_kg_m3 * 1e-9


def _gusset(arm: Arm, grade: Grade, factors: DesignFactors, every: Sequence[ArmFrame]) -> tuple[float | None, str]:
    if arm.gusset is None or GUSSET not in every[0].lengths:
        return None, ""
    area = arm.gusset.reach_mm / 2 * arm.gusset.thickness_mm
    found = [
        (abs(float(one.gusset[0])) * factors.yielding / (area * grade.welded_yield_mpa), one.case) for one in every
    ]
    return max(found)


def _outer(arm: Arm, setting: ArmSetting, places: ArmPlaces, every: Sequence[ArmFrame]) -> OuterJoint:
    axis = setting.studs.get(places.outer)
    force, case, out, out_case, into = 0.0, "", 0.0, "", 0.0
    stud_use, stud_case = None, ""
    for one in every:
        size = float(np.linalg.norm(one.outer_force))
        if size > force:
            force, case = size, one.case
        if axis is None:
            continue
        unit = (
            np.array(axis) / np.linalg.norm(axis) * np.array([1.0, -1.0 if one.case.endswith(", right") else 1.0, 1.0])
        )
        along = float(one.outer_force @ unit)  # the stud draws the housing after it, out of which it is pulled
        if along > out:
            out, out_case = along, one.case
        into = max(into, -along)
        if arm.stud:
            across = float(np.linalg.norm(one.outer_force - along * unit)) * setting.factors.joint
            d = arm.stud.diameter_mm
            # the ball is taken twice the stud across (common practice, no source): its friction turns the stud with it
            turn = setting.friction * size * setting.factors.joint * d
            stress = 32 * (across * arm.stud.lever_mm + turn) / (pi * d**3) + 4 * abs(along) * setting.factors.joint / (
                pi * d * d
            )
            if stress / arm.stud.yield_mpa > (stud_use or 0.0):
                stud_use, stud_case = stress / arm.stud.yield_mpa, one.case
    holds = arm.stud.holds_in_n if arm.stud else None
    return OuterJoint(
        name=places.outer, force=force, case=case, out=out, out_case=out_case, into=into, stud_use=stud_use, stud_case=stud_case,
        out_use=out * setting.factors.joint / holds if holds else None, upward=axis[2] > 0 if axis is not None else None,
    )  # fmt: skip


def _gives(arm: Arm, setting: ArmSetting, places: ArmPlaces, tube: Tube, grade: Grade) -> Given | None:
    """Toe and camber of the outer wheel under 1 g of cornering: the wheel where the arm's tubes let its joint go."""
    if setting.everyday is None or setting.ride is None:
        return None
    one = next((c for c in setting.everyday.cases if _outer_wheel(c)), None)
    if one is None or arm.body not in (one.forces.on if one.forces else {}):
        return None
    found = arm_frame(arm, one, "", places, [material_of(tube, grade)])
    before, moved = left_wheel(setting.ride), shifted(setting.ride, arm.body, places.outer, found.moved[0])
    after = left_wheel(moved)
    if moved.status[0] != CONVERGED:
        return None
    camber, toe = float(after.camber[0] - before.camber[0]), float(after.toe[0] - before.toe[0])
    return Given(moved=found.moved[0], camber_deg=camber, toe_deg=toe)


def _outer_wheel(one: Carried) -> bool:
    """Whether a case is cornering to the right, in which the left wheel is the outer one."""
    return bool(one.case.lateral and one.name.endswith("right") and one.forces and not one.fault)


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
    arm: Arm, tubes: Sequence[Tube], grades: Sequence[Grade], comes_as: Callable[[Grade, Tube], bool], setting: ArmSetting,
    by: Callable[[Tube, Grade, float], float | None] | None = None, lasts: Callable[[Tube, Grade], bool] | None = None,
) -> ArmSized:  # fmt: skip
    """Every tube and grade judged under every case; the least mass (or what `by` makes of tube, grade and mass) wins.

    Args:
        arm: as it is saved.
        tubes: to choose from.
        grades: to choose from.
        comes_as: whether a grade is drawn as a tube.
        setting: its end, loads and factors.
        by: what is to be least, of tube, grade and mass [kg]; None: the mass.
        lasts: whether it lasts the everyday cycles that are wanted; None: that is not asked.

    Raises:
        InputError: as `carried`; what is to be least is not known of one that comes into question.
    """
    pairs = pairs_of(tubes, grades, comes_as, arm.grade)

    def masses() -> list[float]:
        lengths = arm_result(arm, *pairs[len(pairs) // 2], setting).lengths
        return [_mass(arm, Section(od=t.od_mm, wall=t.wall_mm), g, lengths) for t, g in pairs]

    def nearest(tube: Tube, grade: Grade) -> str:
        near = arm_result(arm, tube, grade, setting)
        return f"{near.worst_what} {near.worst:.2f} in “{near.worst_case}”. A brace, a gusset, another place for spring or stop, or a larger tube in the catalogue"

    found = least_of(
        pairs, masses, lambda few: judged(arm, few, setting), nearest, "A brace or a gusset, a larger tube in the catalogue", by, lasts
    )  # fmt: skip
    result = arm_result(arm, *found.of, setting) if found.of else None
    tube, grade = found.of or (None, None)
    return ArmSized(
        tube=tube, grade=grade, result=result, runner_up=found.runner_up, considered=len(pairs), advice=found.advice
    )


def judged(arm: Arm, pairs: Sequence[tuple[Tube, Grade]], setting: ArmSetting) -> Array:
    """Worst use of every tube and grade over all cases.

    Args:
        arm: as it is saved.
        pairs: of tube and grade.
        setting: its end, loads and factors.

    Raises:
        InputError: as `carried`.
    """
    kinds = sorted({(tube.key, grade.e_mpa) for tube, grade in pairs})
    place = {kind: n for n, kind in enumerate(kinds)}
    sections = {tube.key: material_of(tube, grade).section for tube, grade in pairs}
    of: dict[str, list[int]] = {}
    for k, (_, grade) in enumerate(pairs):
        of.setdefault(grade.key, []).append(k)
    worst = np.zeros(len(pairs))
    for found in carried(arm, setting, [Material(section=sections[key], elastic_modulus=e) for key, e in kinds])[1]:
        for rows in of.values():
            grade = pairs[rows[0]][1]
            which = np.array([place[pairs[k][0].key, grade.e_mpa] for k in rows])
            weld, column, _ = uses(found, [sections[pairs[k][0].key] for k in rows], which, grade, setting.factors)
            worst[rows] = np.maximum(worst[rows], np.maximum(weld, column).max(axis=(1, 2)))
    return worst
