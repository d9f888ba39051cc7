"""How many everyday cycles a control arm lasts: its tubes at their weld toes and roots, bent and twisted as a frame, and its threads."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import combinations_with_replacement

import numpy as np
from numpy.typing import NDArray

from tirante.core.checks.result import CheckResult
from tirante.core.document.catalogue import Grade, Tube
from tirante.core.document.parts.arm import Arm
from tirante.core.document.settings import Settings
from tirante.core.errors import InputError
from tirante.core.loads.case_seen import NotCarried, worst_axial
from tirante.core.members import fatigue
from tirante.core.members.insert_weld import legs_for
from tirante.core.members.tube import Section
from tirante.core.parts.arm.ends import ArmSide
from tirante.core.parts.arm.frame import TUBES, ArmFrame, arm_frames, places_of, sides_in
from tirante.core.parts.arm.judged import ArmSetting
from tirante.core.parts.link.assembly import ThreadedEnd
from tirante.core.parts.link.checks import shank_lever
from tirante.core.parts.welded.cases import Material, in_order
from tirante.core.parts.welded.life import CASE, Weakest, details, lacks, not_known

Array = NDArray[np.float64]


def everyday_frames(arm: Arm, tube: Tube, grade: Grade, setting: ArmSetting) -> list[list[ArmFrame]] | NotCarried:
    """Of either side of the car the arm in every everyday case; or why nothing says what it goes through.

    Args:
        arm: as it is saved.
        tube: the stock of its tubes.
        grade: their metal.
        setting: its end, with the everyday cases.
    """
    places, days = places_of(setting.template, arm.body), setting.everyday
    lacking = not_known(grade.family) or lacks(days)
    if lacking or places is None or days is None:
        return lacking or NotCarried(case=CASE, why="nothing says what it goes through")
    made = [Material(section=Section(od=tube.od_mm, wall=tube.wall_mm), elastic_modulus=grade.e_mpa)]
    every = [(one, suffix) for one in days.cases for suffix in sides_in(one, arm)]
    try:
        found = in_order(arm_frames(arm, every, places, made))
    except InputError as error:
        return NotCarried(case=CASE, why=error.message)
    sides: dict[str, list[ArmFrame]] = {}
    for (_, suffix), frame in zip(every, found, strict=True):
        sides.setdefault(suffix, []).append(frame)
    return list(sides.values())


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
    weakest = Weakest(metal, settings, target)
    friction = [_arm_of(side, settings) for side in sides]

    def turned(one: ArmFrame, two: ArmFrame) -> dict[str, float]:
        """The balls at its pivots bend its sides out of its plane."""
        return {TUBES[i]: arm_mm * (_on_pivot(one, i) + _on_pivot(two, i)) for i, arm_mm in enumerate(friction)}

    for own in frames:
        for part, detail in details(section, leg, metal, own, turned):
            weakest.look(part, detail)
        for which, side in enumerate(sides):
            for index, end in enumerate(side.assembly.ends):
                if isinstance(end, ThreadedEnd):
                    engaged, seen = side.stack.ends[index].engagement or 0.0, worst_axial(side.assembly.cases)
                    lever = shank_lever(end, engaged, seen, settings)
                    stress = _at_thread(own, which, end, lever, settings.joint_friction)
                    detail = ("thread root", stress, fatigue.thread_class(end.thread.major), False)
                    weakest.look(side.pivot.replace("_", " "), detail)
    return weakest.results()
