"""The arms of a job, worked out in its end under its load cases: the same for page, search and turn sheet."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from typing import TYPE_CHECKING

import numpy as np

from tirante import ENGINE_VERSION
from tirante.core.checks.result import CheckResult
from tirante.core.document.catalogue import Catalogue, Grade, Tube, grade_comes_as
from tirante.core.document.design import Design, SuspensionEnd
from tirante.core.document.parts.arm import Arm, keys_of_arm
from tirante.core.errors import InputError
from tirante.core.job.loads import EVERYDAY, bare, loads_of, tracks_of
from tirante.core.job.memory import Memory
from tirante.core.loads.end_loads import EndLoads
from tirante.core.parts.arm.checks import arm_checks
from tirante.core.parts.arm.ends import ArmSide, arm_sides_of, size_ends
from tirante.core.parts.arm.judged import ArmResult, ArmSetting, ArmSized, arm_result, size_arm
from tirante.core.parts.link.assembly import Misfit
from tirante.shipped.templates import template_of

if TYPE_CHECKING:
    from tirante.core.suspension.cycle import Solved


@dataclass(frozen=True, slots=True, kw_only=True)
class WorkedArm:
    """An arm with its checks, weakest first; or what stands in the way."""

    arm: Arm
    end: SuspensionEnd | None
    tube: Tube | None
    grade: Grade | None
    faults: tuple[Misfit, ...] = ()
    result: ArmResult | None = None
    sides: tuple[ArmSide, ...] = ()
    checks: tuple[CheckResult, ...] = ()

    @property
    def complete(self) -> bool:
        """Whether nothing stands in the way."""
        return self.result is not None and not self.faults


def end_of_arm(design: Design, arm: Arm) -> SuspensionEnd | None:
    """The suspension end an arm belongs to; None when it is gone."""
    return next((end for end in design.ends if end.id == arm.end_id), None)


def setting_of(design: Design, end: SuspensionEnd) -> ArmSetting:
    """Where an end's arms stand and what they see.

    Raises:
        InputError: the end cannot be put together.
    """
    plain = bare(design)
    every, everyday = _loads(plain, end), _loads(plain.model_copy(update={"loads": EVERYDAY}), end)
    return ArmSetting(
        template=template_of(end.end), loads=every, factors=design.settings.factors, everyday=everyday,
        studs={name: ball.stud_axis for name, ball in end.end.balls.items()}, ride=at_ride(design.standing(end).model_dump_json()),
    )  # fmt: skip


def _loads(design: Design, end: SuspensionEnd) -> EndLoads:
    found = loads_of(design, end)
    if isinstance(found, InputError):
        raise found
    return found


@lru_cache(maxsize=16)
def at_ride(end_json: str) -> Solved:
    """An end as it stands in its car, solved at ride height; by its text, so that it is solved once."""
    from tirante.core.document.end import End
    from tirante.core.suspension.cycle import solved_cycle

    end = End.model_validate_json(end_json)
    return solved_cycle(template_of(end), end, np.zeros((3, 1)))


_memory: Memory[WorkedArm] = Memory(64)


def worked_arm(arm: Arm, design: Design) -> WorkedArm:
    """An arm of a job, worked out; from memory while nothing that it depends on has changed."""
    end = end_of_arm(design, arm)
    if end is None:
        return _worked(arm, design, None)
    rows = [row.hash for kind, key, _ in keys_of_arm(arm) if (row := design.catalogue.find(kind, key))]  # type: ignore[arg-type]
    known = (arm, design.standing(end), end.box, design.car, design.loads, design.settings)
    key = "|".join([ENGINE_VERSION, *(one.model_dump_json() for one in known), str(tracks_of(design)), *rows])
    found = _memory.get(key)
    if found is None:
        found = _worked(arm, design, end)
        _memory.put(key, found)
    return found


def _worked(arm: Arm, design: Design, end: SuspensionEnd | None) -> WorkedArm:
    tube = design.catalogue.find("tubes", arm.tube) if arm.tube else None
    grade = design.catalogue.find("grades", arm.grade) if arm.grade else None
    tube = tube if isinstance(tube, Tube) else None
    grade = grade if isinstance(grade, Grade) else None
    known = {"arm": arm, "end": end, "tube": tube, "grade": grade}
    if end is None:
        lost = "The suspension end that it was an arm of is not there any more. Take it out, or undo."
        return WorkedArm(**known, faults=(Misfit(field="end_id", message=lost),))  # type: ignore[arg-type]
    if tube is None or grade is None:
        return WorkedArm(**known, faults=(Misfit(field="tube", message="Not sized yet: press Size it."),))  # type: ignore[arg-type]
    try:
        setting = setting_of(design, end)
        result = arm_result(arm, tube, grade, setting)
    except InputError as error:
        return WorkedArm(**known, faults=(Misfit(field=(error.fields or ("",))[0], message=error.message),))  # type: ignore[arg-type]
    sides: list[ArmSide] = []
    faults: tuple[Misfit, ...] = ()
    if arm.pivots == "rod ends":
        found = arm_sides_of(arm, result.places, result.frames, design.catalogue, design.settings)
        faults = tuple(one for one in found if isinstance(one, Misfit))
        sides = [one for one in found if isinstance(one, ArmSide)]
    checks = arm_checks(arm, tube, grade, result, sides, design.settings.factors)
    return WorkedArm(**known, faults=faults, result=result, sides=tuple(sides), checks=tuple(checks))  # type: ignore[arg-type]


@dataclass(frozen=True, slots=True, kw_only=True)
class SizedArm:
    """What the search found, and the arm with it."""

    found: ArmSized
    arm: Arm | None  # as it would be; None when nothing holds
    advice: str


def sized_arm(arm: Arm, design: Design, catalogue: Catalogue, aim: str = "mass") -> SizedArm:
    """The least tube and grade that hold an arm, and the rod ends at its pivots where it has them.

    Raises:
        InputError: the end is gone or cannot be put together; no case was carried; a price is missing.
    """
    end = end_of_arm(design, arm)
    if end is None:
        raise InputError("The suspension end of this arm is not there any more.", code="missing", fields=("end_id",))
    setting = setting_of(design, end)

    def price(_tube: Tube, grade: Grade, mass: float) -> float | None:
        return None if grade.price is None else grade.price * mass

    tubes: tuple[Tube, ...] = catalogue.tubes
    left_out = 0
    while True:
        found = size_arm(
            arm, tubes, catalogue.grades, grade_comes_as, setting, price if aim == "cost" else None
        )  # fmt: skip
        if found.tube is None or found.grade is None:
            why = " (tubes that hold have no rod end that does)" if left_out else ""
            return SizedArm(found=found, arm=None, advice=found.advice + why)
        sized = arm.model_copy(update={"tube": found.tube.key, "grade": found.grade.key})
        if arm.pivots != "rod ends":
            return SizedArm(found=found, arm=sized, advice=found.advice)
        assert found.result
        end_parts = size_ends(sized, found.result.frames, found.tube, found.grade, catalogue, design.settings)
        if end_parts is not None:
            more = f" {left_out} lighter tubes were left out: no rod end that fits them holds." if left_out else ""
            return SizedArm(
                found=found, arm=sized.model_copy(update={"pivot_end": end_parts}), advice=found.advice + more
            )
        # no insert of the catalogue fits this tube, or none that does holds: the next tube
        key = found.tube.key
        tubes = tuple(t for t in tubes if t.key != key)
        left_out += 1
