"""An arm's checks, each a result with its demand, capacity, source and the line that reproduces it, as a link's are."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from tirante.core.checks.kinds import Asked, asked
from tirante.core.checks.result import CheckResult, Reproduction, weaker_of_each, weakest_first
from tirante.core.document.catalogue import Grade, Tube
from tirante.core.document.parts.arm import Arm
from tirante.core.document.settings import DesignFactors
from tirante.core.parts.arm.ends import ArmSide
from tirante.core.parts.arm.frame import ArmFrame
from tirante.core.parts.arm.judged import ArmResult
from tirante.core.parts.welded.checks import column_check, result, weld_check
from tirante.core.parts.welded.housing import Metal, Pulled, eye_checks, ring_of


def arm_checks(
    arm: Arm, tube: Tube, grade: Grade, found: ArmResult, sides: Sequence[ArmSide], factors: DesignFactors
) -> list[CheckResult]:
    """All checks of an arm, weakest first.

    Args:
        arm: as it is saved.
        tube: of which it is made.
        grade: likewise.
        found: its frame under every case.
        sides: its rod ends, seen as links' ends; none where it has none.
        factors: the design's.
    """
    frames = {one.case: one for one in found.frames}
    where = {one.case: one.where for one in found.frames}
    made = _Made(arm=arm, tube=tube, grade=grade, factors=factors)
    strength = grade.welded_yield_mpa
    out = [weld_check(one, frames[one.case], strength, factors, made.again) for one in found.welds]
    out += [column_check(one, frames[one.case], factors, made.again) for one in found.columns]
    if found.gusset is not None and arm.gusset:
        one = frames[found.gusset_case]
        out.append(
            result(
                asked("gusset", "gusset", factors),
                found.gusset * strength,
                strength,
                one.case,
                made.again(one, len(one.names), "utilisation"),
            )
        )
    out += _stud(arm, found, factors)
    out += _ratings(arm, found, factors)
    out += _housings(arm, grade, found, factors)
    out += weaker_of_each(
        replace(check, part=side.pivot.replace("_", " ")) for side in sides for check in side.checks
    )  # fmt: skip
    return list(weakest_first(replace(one, at=one.at or where.get(one.case or "", "")) for one in out))


@dataclass(frozen=True, slots=True, kw_only=True)
class _Made:
    """What an arm is made of, for the line that repeats a figure."""

    arm: Arm
    tube: Tube
    grade: Grade
    factors: DesignFactors

    def again(self, frame: ArmFrame, stretch: int, output: str) -> Reproduction:
        data = frame_input(frame, self.arm, self.tube, self.grade, self.factors)
        return Reproduction(topic="arm", input=data, output=f"tubes.{stretch}.{output}", figure="utilisation")


def _stud(arm: Arm, found: ArmResult, factors: DesignFactors) -> list[CheckResult]:
    out, joint, stud = [], found.outer, arm.stud
    if stud and joint.stud_use is not None:
        kind = asked("stud", "outer joint", factors)
        demand = joint.stud_use * stud.yield_mpa
        out.append(result(kind, demand, stud.yield_mpa, joint.stud_case, None, use=joint.stud_use))
    if stud and stud.holds_in_n and joint.out_use is not None:
        kind = asked("pull_out", "outer joint", factors)
        out.append(result(kind, joint.out * kind.factor, stud.holds_in_n, joint.out_case, None, use=joint.out_use))
    return out


def _ratings(arm: Arm, found: ArmResult, factors: DesignFactors) -> list[CheckResult]:
    """What the joints see, whatever its way, against what their makers say they bear."""
    out = []
    if arm.outer_rating_n:
        name = f"Outer {'joint' if arm.outer.startswith('ball') else arm.outer}, its rating"
        kind = asked("outer_joint", "outer joint", factors, name=name)
        out.append(result(kind, found.outer.force * kind.factor, arm.outer_rating_n, found.outer.case, None))
    if arm.pivot_rating_n and arm.pivots != "rod ends":
        force, case = max(
            (float(np.hypot(*one.at_pivot[0, pivot])), one.case) for one in found.frames for pivot in (0, 1)
        )
        kind = asked("pivot_joint", "pivots", factors, name=f"{arm.pivots.capitalize()} at the pivots, their rating")
        out.append(result(kind, force * kind.factor, arm.pivot_rating_n, case, None))
    return out


def rings_of(arm: Arm) -> dict[str, tuple[float, float, float]]:
    """Its sleeves and cups whose sizes are given: outside, wall and length [mm], by the field of their wall.

    Args:
        arm: as it is saved.
    """
    found = {}
    if arm.pivots != "rod ends" and arm.pivot_wall_mm and arm.pivot_eye and arm.pivot_face_mm:
        found["pivot_wall_mm"] = 2 * arm.pivot_face_mm, arm.pivot_wall_mm, arm.pivot_eye.housing_width_mm
    if arm.outer != "rod end" and arm.outer_housing and arm.outer_face_mm:
        found["outer_housing.wall_mm"] = 2 * arm.outer_face_mm, arm.outer_housing.wall_mm, arm.outer_housing.long_mm
    return found


def _housings(arm: Arm, grade: Grade, found: ArmResult, factors: DesignFactors) -> list[CheckResult]:
    """Sleeves and cups as eyes, each under the whole force of what goes in."""
    metal = Metal(yield_mpa=grade.welded_yield_mpa, uts_mpa=grade.uts_at_weld)
    out: list[CheckResult] = []
    for field, sizes in rings_of(arm).items():
        at_pivot = field == "pivot_wall_mm"
        part, name = ("sleeves at its pivots", "Pivots’ sleeve") if at_pivot else ("outer cup", "Outer cup")

        def force(one: ArmFrame, at_pivot: bool = at_pivot) -> float:
            return (
                max(float(np.hypot(*one.at_pivot[0, i])) for i in (0, 1))
                if at_pivot
                else float(np.linalg.norm(one.outer_force))
            )

        def of(key: str, part: str = part, name: str = name, at_pivot: bool = at_pivot) -> Asked:
            kind = asked(key, part, factors, of="pivots" if at_pivot else "outer")
            return replace(kind, name=f"{name}, {kind.name.replace('of its bolt', 'of what goes in')}")

        out += eye_checks(ring_of(*sizes, field), Pulled(cases=found.frames, force=force), metal, of)
    return out


def frame_input(one: ArmFrame, arm: Arm, tube: Tube, grade: Grade, factors: DesignFactors) -> dict[str, Any]:
    """The arm in a case, as `calc arm` takes it.

    Args:
        one: the arm’s frame in the case.
        arm: as it is saved.
        tube: the stock of its tubes.
        grade: their metal.
        factors: the design’s.
    """
    names = ["front pivot", "rear pivot", "outer", *(f"along {i + 1}" for i in range(len(one.nodes) - 3))]
    round_tube = {
        "od_mm": tube.od_mm, "wall_mm": tube.wall_mm, "yield_mpa": grade.yield_mpa, "welded_yield_mpa": grade.welded_yield_mpa,
        "e_mpa": grade.e_mpa,
    }  # fmt: skip
    tubes = [
        {"a": names[a], "b": names[b], **round_tube, "column_mm": one.lengths[stretch.split(",")[0]]}
        for (a, b), stretch in zip(one.ends, one.names, strict=True)
    ]
    if one.plate and arm.gusset:
        a, b = one.plate
        flat = {"flat_mm": [arm.gusset.reach_mm / 2, arm.gusset.thickness_mm]}
        own = {key: round_tube[key] for key in ("yield_mpa", "welded_yield_mpa", "e_mpa")}
        tubes.append({"a": names[a], "b": names[b], **flat, **own})
    return {
        "nodes": {name: at.tolist() for name, at in zip(names, one.nodes, strict=True)}, "tubes": tubes,
        "pivots": names[:2], "held": [{"at": "outer", "along": one.line.tolist()}],
        "loads": [
            {"at": name, "f_n": load[:3].tolist(), "m_nmm": load[3:].tolist()}
            for name, load in zip(names, one.loads, strict=True) if load.any()
        ],
        "yield_factor": factors.yielding, "column_factor": factors.column,
    }  # fmt: skip
