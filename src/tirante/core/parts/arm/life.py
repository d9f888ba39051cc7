"""How many everyday cycles a control arm lasts: its tubes at their weld toes and roots, bent and twisted as a frame, and its threads."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from itertools import combinations, combinations_with_replacement, pairwise
from math import pi

import numpy as np
from numpy.typing import NDArray

from tirante.core.checks.kinds import asked
from tirante.core.checks.result import CheckResult, Reproduction
from tirante.core.document.catalogue import Grade, Tube
from tirante.core.document.parts.arm import Arm
from tirante.core.document.settings import Settings
from tirante.core.errors import InputError
from tirante.core.loads.case_seen import NotCarried, worst_axial
from tirante.core.members import fatigue
from tirante.core.members.insert_weld import THROAT_OF_LEG, legs_for
from tirante.core.members.tube import Section
from tirante.core.parts.arm.ends import ArmSide
from tirante.core.parts.arm.frame import TUBES, ArmFrame, Material, arm_frames, in_order, places_of, sides_in
from tirante.core.parts.arm.judged import ArmSetting
from tirante.core.parts.link.assembly import ThreadedEnd
from tirante.core.parts.link.checks import shank_lever
from tirante.core.parts.link.life import line_of, told_of

Array = NDArray[np.float64]
CASE = "everyday cycles"
Detail = tuple[str, float, float, bool]  # what, range of stress [MPa], class [MPa], whether it is shear


def everyday_frames(arm: Arm, tube: Tube, grade: Grade, setting: ArmSetting) -> list[list[ArmFrame]] | NotCarried:
    """Of either side of the car the arm in every everyday case; or why nothing says what it goes through.

    Args:
        arm: as it is saved.
        tube: the stock of its tubes.
        grade: their metal.
        setting: its end, with the everyday cases.
    """
    if grade.family not in fatigue.BY_FAMILY:
        return NotCarried(case=CASE, why=f"no class for {grade.family} is in here: its life is not judged")
    places, days = places_of(setting.template, arm.body), setting.everyday
    if places is None or days is None:
        return NotCarried(case=CASE, why="nothing says what it goes through")
    lacking = next((one for one in days.cases if one.fault or one.forces is None), None)
    if lacking:
        return NotCarried(case=CASE, why=f"{lacking.case.name}: {lacking.fault or 'not carried'}")
    made = [Material(section=Section(od=tube.od_mm, wall=tube.wall_mm), elastic_modulus=grade.e_mpa)]
    every = [(one, suffix) for one in days.cases for suffix in sides_in(one, arm.body)]
    try:
        found = in_order(arm_frames(arm, every, places, made))
    except InputError as error:
        return NotCarried(case=CASE, why=error.message)
    sides: dict[str, list[ArmFrame]] = {}
    for (_, suffix), frame in zip(every, found, strict=True):
        sides.setdefault(suffix, []).append(frame)
    return list(sides.values())


def _details(
    section: Section, leg: float, metal: fatigue.Classes, frames: Sequence[ArmFrame], friction: Sequence[float] = ()
) -> Iterator[tuple[str, Detail]]:
    """By whole tube: the ranges between any two cases that follow one another, at the worse end of the worst stretch. `friction`: of
    the balls at its pivots, which bend its sides out of its plane, the moment of each newton on the joint [mm]."""
    c, second, area, ring = section.od / 2, section.second_moment, section.area, pi * section.od
    throat = THROAT_OF_LEG * leg
    for one, two in combinations(frames, 2):
        turned = {
            TUBES[which]: arm * (_on_pivot(one, which) + _on_pivot(two, which)) for which, arm in enumerate(friction)
        }
        for stem, axial, moment, twisted in _ranges(one, two):
            bent = moment + turned.get(stem, 0.0)
            yield stem, ("weld’s toe", axial / area + bent * c / second, metal.toe, False)
            line = axial / ring + bent / (pi * c**2)
            yield stem, ("weld’s root", line / throat, metal.throat, False)
            yield stem, ("weld, twisted", twisted / (2 * pi * c**2) / throat, metal.shear, True)


def _ranges(one: ArmFrame, two: ArmFrame) -> Iterator[tuple[str, float, float, float]]:
    """By whole tube, between two cases: axial force [N], moment and torque [N·mm] from one to the other.

    What acts along a tube divides it into stretches, others in one case than in another (a stop that is met in one of them). Between
    the places of both nothing acts: force and torque are one, the moment goes straight.
    """
    tubes = [_along(frame) for frame in (one, two)]
    for stem in tubes[0]:
        own = [tube[stem] for tube in tubes]
        places = sorted({round(at, 9) for stretches in own for start, end, _ in stretches for at in (start, end)})
        for low, high in pairwise(places):
            if high - low < 1e-6:
                continue
            within = [next(s for s in stretches if s[0] <= (low + high) / 2 <= s[1]) for stretches in own]
            i, j = within[0][2], within[1][2]
            moment = max(
                float(np.linalg.norm(_moment(one, within[0], at) - _moment(two, within[1], at))) for at in (low, high)
            )
            yield (
                stem,
                abs(float(one.axial[0, i] - two.axial[0, j])),
                moment,
                abs(float(one.twisted[0, i] - two.twisted[0, j])),
            )


def _along(frame: ArmFrame) -> dict[str, list[tuple[float, float, int]]]:
    """Of every whole tube its stretches: share of its length at which each begins and ends, and which it is."""
    found: dict[str, list[tuple[float, float, int]]] = {}
    for i, (name, (a, b)) in enumerate(zip(frame.names, frame.ends, strict=True)):
        stem = name.split(",")[0]
        start = found[stem][-1][1] if stem in found else 0.0
        length = float(np.linalg.norm(frame.nodes[b] - frame.nodes[a])) / frame.lengths[stem]
        found.setdefault(stem, []).append((start, start + length, i))
    return found


def _moment(frame: ArmFrame, stretch: tuple[float, float, int], at: float) -> Array:
    """In a tube at a place of a stretch, about its own two axes: what its near end is given, straight to what its far end gives back."""
    start, end, i = stretch
    share = (at - start) / (end - start)
    near, far = frame.bent[0, i, 0], -frame.bent[0, i, 1]
    found: Array = near + (far - near) * share
    return found


def _arm_of(side: ArmSide, settings: Settings) -> float:
    """Of the ball at a side’s pivot."""
    end = side.assembly.threaded[0]
    return fatigue.friction_arm(settings.joint_friction, end.joint.ball_diameter_mm)


def _at_thread(frames: Sequence[ArmFrame], which: int, end: ThreadedEnd, lever: float, friction: float) -> float:
    """Range of stress in the shank at a pivot, between two cases and about each by itself [MPa]: pulled, bent by what is square to it
    at the eye, and by its ball, which turns one way on the way there and the other on the way back."""
    root, arm = fatigue.of_thread(end.thread), fatigue.friction_arm(friction, end.joint.ball_diameter_mm)
    forces = [(float(one.at_pivot[0, which, 0]), _across(one, which)) for one in frames]
    worst = 0.0
    for (pull, side), (other, beside) in combinations_with_replacement(forces, 2):
        sizes = np.hypot(pull, np.linalg.norm(side)) + np.hypot(other, np.linalg.norm(beside))
        bending = float(np.linalg.norm(side - beside) * lever + sizes * arm)
        worst = max(worst, root.stress(abs(pull - other), bending))
    return worst


def _on_pivot(frame: ArmFrame, which: int) -> float:
    return float(np.hypot(*frame.at_pivot[0, which]))


def _across(frame: ArmFrame, which: int) -> Array:
    """Force square to the tube that meets a pivot, about that tube's own two axes [N]: as much as its moment changes along it."""
    i = next(i for i, (a, _) in enumerate(frame.ends) if a == which)
    a, b = frame.ends[i]
    found: Array = (frame.bent[0, i, 0] + frame.bent[0, i, 1]) / float(np.linalg.norm(frame.nodes[b] - frame.nodes[a]))
    return found


def arm_life(
    arm: Arm, tube: Tube, grade: Grade, frames: Sequence[Sequence[ArmFrame]], sides: Sequence[ArmSide], settings: Settings, target: float
) -> list[CheckResult]:  # fmt: skip
    """The life of each of its tubes at their welds, and of the threads at its pivots.

    The two sides of the car go through their own cases each; the one that lasts less counts.

    Args:
        arm: as it is saved.
        tube: the stock of its tubes.
        grade: their metal.
        frames: by `everyday_frames`.
        sides: its rod ends; none where it has none.
        settings: the spectrum.
        target: cycles that are wanted.
    """
    section = Section(od=tube.od_mm, wall=tube.wall_mm)
    wanted = arm.welding.leg_mm if arm.pivots == "rod ends" else None
    leg = legs_for(tube.wall_mm).usual if wanted is None else wanted
    metal = fatigue.BY_FAMILY[grade.family]
    worst: dict[str, tuple[float, Detail]] = {}

    def look(part: str, detail: Detail) -> None:
        what, stress, grade_mpa, shear = detail
        cycles = fatigue.life(float(stress), grade_mpa, settings.everyday, shear=shear, metal=line_of(what, metal))
        if part not in worst or (cycles, -stress) < (worst[part][0], -worst[part][1][1]):
            worst[part] = cycles, (what, float(stress), grade_mpa, shear)

    for own in frames:
        for part, detail in _details(section, leg, metal, own, [_arm_of(side, settings) for side in sides]):
            look(part, detail)
        for which, side in enumerate(sides):
            for index, end in enumerate(side.assembly.ends):
                if isinstance(end, ThreadedEnd):
                    engaged, seen = side.stack.ends[index].engagement or 0.0, worst_axial(side.assembly.cases)
                    lever = shank_lever(end, engaged, seen, settings)
                    stress = _at_thread(own, which, end, lever, settings.joint_friction)
                    detail = ("thread root", stress, fatigue.thread_class(end.thread.major), False)
                    look(side.pivot.replace("_", " "), detail)
    out = []
    for part, (cycles, (what, stress, grade_mpa, shear)) in worst.items():
        kind = asked("life", part, settings.factors)
        data = {
            "stress_range_mpa": stress, "class_mpa": grade_mpa, "shear": shear, "spectrum": [list(one) for one in settings.everyday], "range_n": 0.0,
            **({"metal": "aluminium"} if line_of(what, metal) is fatigue.ALUMINIUM else {}),
        }  # fmt: skip
        out.append(CheckResult(
            key=kind.key, name=f"{part.capitalize()}, {kind.name[0].lower()}{kind.name[1:]}", part=part, demand=target, capacity=cycles, unit=kind.unit,
            utilisation=target / cycles, passed=cycles >= target, case=CASE, factor=1.0, factor_name="none", formula=kind.formula, source=kind.source,
            note=f"{what}: {stress:.0f} MPa of everyday range, class {grade_mpa:.0f}{told_of(what, metal)}", reproduce=Reproduction(topic="life", input=data, output="cycles", figure="capacity"),
        ))  # fmt: skip
    return out
