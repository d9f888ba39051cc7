"""An arm's checks, each a result with its demand, capacity, source and the line that reproduces it, as a link's are."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from typing import Any

import numpy as np

from tirante.core.checks.result import CheckResult, Reproduction
from tirante.core.document.catalogue import Grade, Tube
from tirante.core.document.parts.arm import Arm
from tirante.core.document.settings import DesignFactors
from tirante.core.parts.arm.ends import ArmSide
from tirante.core.parts.arm.frame import ArmFrame
from tirante.core.parts.arm.judged import ArmResult, TubeForces


def arm_checks(
    arm: Arm, tube: Tube, grade: Grade, found: ArmResult, sides: Sequence[ArmSide], factors: DesignFactors
) -> list[CheckResult]:
    """All checks of an arm, weakest first."""
    frames = {one.case: one for one in found.frames}
    out = [_weld(one, frames[one.case], arm, tube, grade, factors) for one in found.welds]
    out += [_column(one, frames[one.case], arm, tube, grade, factors) for one in found.columns]
    if found.gusset is not None and arm.gusset:
        one = frames[found.gusset_case]
        i = len(one.names)
        out.append(
            _result(
                "gusset", "Gusset between the tubes", "gusset", found.gusset * grade.welded_yield_mpa, grade.welded_yield_mpa, "MPa",
                found.gusset, one.case, factors.yielding, "F/(reach/2 · t), factored, against the as-welded yield", "direct-stiffness",
                Reproduction(topic="arm", input=frame_input(one, arm, tube, grade, factors), output=f"tubes.{i}.utilisation", figure="utilisation"),
            )
        )  # fmt: skip
    out += _stud(arm, found, factors)
    out += _ratings(arm, found, factors)
    weakest: dict[str, CheckResult] = {}
    for side in sides:
        for check in side.checks:
            named = _of_side(check, side)
            if check.key not in weakest or (check.utilisation or -1.0) > (weakest[check.key].utilisation or -1.0):
                weakest[check.key] = named
    out += weakest.values()
    where = {one.case: one.where for one in found.frames}
    out = [replace(one, at=one.at or where.get(one.case or "", "")) for one in out]
    return sorted(out, key=lambda r: -(r.utilisation if r.utilisation is not None else -1.0))


def _of_side(check: CheckResult, side: ArmSide) -> CheckResult:
    return replace(check, part=side.pivot.replace("_", " "))


def _result(
    key: str, name: str, part: str, demand: float, capacity: float, unit: str, use: float, case: str, factor: float, formula: str,
    source: str, reproduce: Reproduction | None, note: str = "",
) -> CheckResult:  # fmt: skip
    return CheckResult(
        key=key, name=name, part=part, demand=demand, capacity=capacity, unit=unit, utilisation=use, passed=use <= 1.0, case=case,
        factor=factor, factor_name="yielding" if factor != 1.0 else "none", formula=formula, source=source, reproduce=reproduce, note=note,
    )  # fmt: skip


def _named(one: TubeForces) -> str:
    return one.name.split(",")[0].capitalize()


def _weld(one: TubeForces, frame: ArmFrame, arm: Arm, tube: Tube, grade: Grade, factors: DesignFactors) -> CheckResult:
    i = frame.names.index(one.name)
    return _result(
        f"weld:{one.name.split(',')[0]}", f"{_named(one)} at its weld", "tube", one.stress * factors.yielding, grade.welded_yield_mpa, "MPa",
        one.weld_use, one.case, factors.yielding,
        "√((N/A + M c/I)² + 3 (T c/2I)²), or 2 V/A at the neutral fibre, factored, against the as-welded yield", "direct-stiffness",
        Reproduction(topic="arm", input=frame_input(frame, arm, tube, grade, factors), output=f"tubes.{i}.utilisation", figure="utilisation"),
        _told(one),
    )  # fmt: skip


def _column(
    one: TubeForces, frame: ArmFrame, arm: Arm, tube: Tube, grade: Grade, factors: DesignFactors
) -> CheckResult:
    i = frame.names.index(one.name)
    return _result(
        f"column:{one.name.split(',')[0]}", f"{_named(one)} as a column that bends", "tube", one.column_use, 1.0, "", one.column_use, one.case,
        factors.yielding, "P · column factor / lower of Euler–Johnson and AISC E3 + M c/I · yield factor / yield", "shigley-columns",
        Reproduction(
            topic="arm", input=frame_input(frame, arm, tube, grade, factors), output=f"tubes.{i}.column_and_bending", figure="utilisation"
        ),
        _told(one),
    )  # fmt: skip


def _told(one: TubeForces) -> str:
    where = one.name.split(", ")[1] + ", " if "," in one.name else ""
    pull = "pulled" if one.axial >= 0 else "pushed"
    return f"{where}{pull} {abs(one.axial) / 1000:.1f} kN, bent {one.moment / 1000:.0f} N·m, twisted {one.torsion / 1000:.0f} N·m"


def _stud(arm: Arm, found: ArmResult, factors: DesignFactors) -> list[CheckResult]:
    out, joint, stud = [], found.outer, arm.stud
    if stud and joint.stud_use is not None:
        out.append(
            _result(
                "stud", "Ball joint’s stud, bent at its seat", "outer joint", joint.stud_use * stud.yield_mpa, stud.yield_mpa, "MPa",
                joint.stud_use, joint.stud_case, factors.joint, "32 V·lever/(π d³) + N/(π d²/4), factored, against the stud’s yield",
                "shigley-shaft", None,
            )
        )  # fmt: skip
    if stud and stud.holds_in_n and joint.out_use is not None:
        out.append(
            _result(
                "pull_out", "Ball pulled out of its socket", "outer joint", joint.out * factors.joint, stud.holds_in_n, "N", joint.out_use,
                joint.out_case, factors.joint, "pull along the stud, factored, against what the maker says the socket holds", "maker", None,
            )
        )  # fmt: skip
    return out


def _ratings(arm: Arm, found: ArmResult, factors: DesignFactors) -> list[CheckResult]:
    """What the joints see, whatever its way, against what their makers say they bear."""
    out = []
    if arm.outer_rating_n:
        use = found.outer.force * factors.joint / arm.outer_rating_n
        out.append(
            _result(
                "outer_joint", f"Outer {'joint' if arm.outer.startswith('ball') else arm.outer}, its rating", "outer joint",
                found.outer.force * factors.joint, arm.outer_rating_n, "N", use, found.outer.case, factors.joint,
                "the force at the joint, factored, against the maker’s static rating", "maker", None,
            )
        )  # fmt: skip
    if arm.pivot_rating_n and arm.pivots != "rod ends":
        force, case = max(
            (float(np.hypot(*one.at_pivot[0, pivot])), one.case) for one in found.frames for pivot in (0, 1)
        )
        out.append(
            _result(
                "pivot_joint", f"{arm.pivots.capitalize()} at the pivots, their rating", "pivots", force * factors.joint, arm.pivot_rating_n,
                "N", force * factors.joint / arm.pivot_rating_n, case, factors.joint,
                "the larger of both pivots’ forces, factored, against the maker’s static rating", "maker", None,
            )
        )  # fmt: skip
    return out


def frame_input(one: ArmFrame, arm: Arm, tube: Tube, grade: Grade, factors: DesignFactors) -> dict[str, Any]:
    """The arm in a case, as `calc arm` takes it."""
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
