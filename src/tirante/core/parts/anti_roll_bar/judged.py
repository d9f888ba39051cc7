"""An anti-roll bar under every load case: at its bearing, in its corner, along its arms and at their welds; its rate; how long it lasts.

Source:
    `members/torsion_bar`, `members/stress_life`; rings of welded arms as lines (Blodgett), their life by EN 1993-1-9: twisted ring class 80,
    toe of the ring on the bar 71 (from memory).
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from itertools import combinations
from math import hypot, pi
from typing import Any

import numpy as np
from numpy.typing import NDArray

from tirante.core.brackets import bolt as bolts
from tirante.core.brackets.bolt import AT_THE_THREAD, TENSION, TENSION_BESIDE_SHEAR
from tirante.core.brackets.plate_arm import EyeForce, PlateArm
from tirante.core.checks.kinds import Asked, asked
from tirante.core.checks.result import CheckResult, Reproduction
from tirante.core.document.end import End
from tirante.core.document.parts.anti_roll_bar import AntiRollBar
from tirante.core.document.settings import DesignFactors, Settings
from tirante.core.loads.on_body import BodyCase
from tirante.core.members import fatigue
from tirante.core.members.insert_weld import SHEAR_OF_ELECTRODE, THROAT_OF_LEG
from tirante.core.members.stress_life import BarSteel, bar_life, equivalent
from tirante.core.members.torsion_bar import (
    BarForces,
    Three,
    TorsionBar,
    bar_forces,
    inner_fibre,
    round_stress,
)
from tirante.core.parts.bearing import BearingCase
from tirante.core.parts.everyday import told
from tirante.core.parts.plate_eye import HOLE_CLASS, PlateEye, eye_alone, in_plane
from tirante.core.parts.welded.life import Weakest
from tirante.core.parts.worst import worst_case

Array = NDArray[np.float64]
EYE_FIT = 0.2  # mm: a hole over its bolt; common practice, no source
TOE_ON_BAR = 71.0  # MPa at 2 million cycles; EN 1993-1-9 Table 8.4, from memory


@dataclass(frozen=True, slots=True, kw_only=True)
class BarCase:
    """A half of the bar in one case."""

    case: str
    where: str
    copy: str
    force: Three  # of the drop link: along the bar outward, along the lever, square to both [N]
    carried: BarForces


def bar_cases(saved: AntiRollBar, bar: TorsionBar, end: End, cases: Sequence[BodyCase]) -> list[BarCase]:
    """Every case on every half, in the bar's own axes.

    Args:
        saved: the bar.
        bar: half of it.
        end: with its points.
        cases: what acts on its halves.
    """
    axes = bar_axes(saved, end)
    found = []
    for one in cases:
        force = axes @ sum((act.force for act in one.acting if act.place == saved.joint), np.zeros(3))
        three = float(force[0]), float(force[1]), float(force[2])
        found.append(
            BarCase(case=one.case, where=one.where, copy=one.copy, force=three, carried=bar_forces(bar, three))
        )
    return found


def bar_axes(saved: AntiRollBar, end: End) -> Array:
    """Along the bar outward, along its arm's lever, and square to both, in the car (3, 3).

    Args:
        saved: the bar.
        end: with its points.
    """
    inner, outer, joint = (np.array(end.points[point], float) for point in (saved.inner, saved.outer, saved.joint))
    along = (outer - inner) / np.linalg.norm(outer - inner)
    lever = joint - outer - along * float((joint - outer) @ along)
    lever /= np.linalg.norm(lever)
    return np.array([along, lever, np.cross(along, lever)])


def at_bearing(saved: AntiRollBar, end: End, cases: Sequence[BarCase]) -> tuple[BearingCase, ...]:
    """What a half puts on its bearing in every case, in the car.

    Args:
        saved: the bar.
        end: with its points.
        cases: that it sees.
    """
    _, lever, square = bar_axes(saved, end)
    return tuple(
        BearingCase(case=one.case, where=one.where, force=-(lever * one.carried.held[0] + square * one.carried.held[1])) for one in cases
    )  # fmt: skip


def bar_checks(saved: AntiRollBar, bar: TorsionBar, cases: Sequence[BarCase], settings: Settings) -> list[CheckResult]:
    """All its checks.

    Args:
        saved: as it is.
        bar: half of it.
        cases: that it sees.
        settings: factors, electrode.
    """
    factors, section = settings.factors, bar.section

    def again(one: BarCase, factor: float, output: str) -> Reproduction:
        return Reproduction(
            topic="torsion-bar",
            input=bar_input(bar, one.force, factor, settings.electrode_uts_mpa, saved),
            output=output,
            figure="demand",
        )

    def stress(kind: Asked, output: str, of: Callable[[BarForces], float], capacity: float) -> CheckResult:
        return worst_case(
            kind, cases, lambda one: (of(one.carried) * kind.factor, again(one, kind.factor, output), capacity)
        )

    out = [
        stress(
            asked("bar_bearing", "bar", factors),
            "bearing_mpa",
            lambda c: equivalent((round_stress(section, c.bearing)[0],), round_stress(section, c.bearing)[1]),
            saved.yield_mpa,
        )
    ]
    if saved.flats is None:
        out.append(
            stress(
                asked("bar_corner", "corner", factors), "corner_mpa", lambda c: corner_stress(bar, c), saved.yield_mpa
            )
        )
    else:
        leg = min(saved.flats.leg_mm, saved.flats.thickness_mm)
        out.append(stress(asked("bar_arm", "arm", factors), "arm_mpa", lambda c: arm_stress(bar, c), saved.yield_mpa))
        strength = SHEAR_OF_ELECTRODE * settings.electrode_uts_mpa
        out.append(
            stress(asked("bar_weld", "arm’s weld", factors), "weld_mpa", lambda c: weld_stress(bar, c, leg), strength)
        )
    out += _eye_checks(saved, bar, cases, factors)
    if saved.bearings:
        own = saved.bearings
        if own.rating_n:
            rated = asked("pivot_joint", "bearings", factors, name="Bearings of the bar, their rating")
            out.append(stress(rated, "bearing_n", lambda c: c.on_bearing, own.rating_n))
        bolted = asked("bearing_bolts", "bearings", factors)
        out.append(stress(bolted, "bearing_n", lambda c: c.on_bearing, two_bolts(own.bolt_mm, own.bolt_class)))
    return out


def two_bolts(diameter: float, grade: str) -> float:
    """What the two bolts of a bearing hold, pulled off or along its foot, whichever is worse [N].

    Args:
        diameter: [mm].
        grade: their class.

    Source:
        EN 1993-1-8 Table 3.4 without its partial factor (from memory): shear F_v/(0.6 Rm A) and tension F_t/(1.4 · 0.9 Rm A_s) added, each
        a part of one pull; tension alone against 0.9 Rm A_s.
    """
    material, area = bolts.bolt_class(grade, diameter), pi * diameter**2 / 4
    sheared, pulled = (
        bolts.SHEAR_IN_SHANK * material.ultimate * area,
        TENSION * material.ultimate * AT_THE_THREAD * area,
    )
    return 2 / max(1 / pulled, hypot(1 / sheared, 1 / (TENSION_BESIDE_SHEAR * pulled)))


@dataclass(frozen=True, slots=True, kw_only=True)
class EyeCase:
    """What the drop link puts on the eye in one case."""

    case: str
    where: str
    eyes: Mapping[str, EyeForce]


def _eye_checks(
    saved: AntiRollBar, bar: TorsionBar, cases: Sequence[BarCase], factors: DesignFactors
) -> list[CheckResult]:
    """Its eye and bolt; nothing where their sizes are not given."""
    one = _eye_of(saved, bar)
    if one is None:
        return []
    seen = [EyeCase(case=c.case, where=c.where, eyes={saved.joint: _at_eye(c.force)}) for c in cases]
    return list(eye_alone(one, seen, factors))


def _at_eye(force: Three) -> EyeForce:
    return EyeForce(along=force[1], across=force[2], out=force[0])


def _eye_of(saved: AntiRollBar, bar: TorsionBar) -> PlateEye | None:
    """The eye at an arm's end; None where its sizes are not given."""
    eye = saved.eye
    if eye is None:
        return None
    width, thick = (bar.arm.height, bar.arm.thickness) if bar.arm else (eye.width_mm, eye.thickness_mm)
    radius = min(width / 2, saved.eye_mm)
    return PlateEye(
        point=saved.joint, words="eye", arm=PlateArm(length=bar.arm_length, eye_radius=radius, hub_radius=radius, hub_hole=0.0, thickness=thick),
        yield_mpa=saved.yield_mpa, uts_mpa=saved.uts_mpa, pin_mm=eye.bolt_mm, pin_class=eye.bolt_class,
        stack=bolts.PinStack(ball_width=eye.between_mm, gap=0.0, plate=thick, planes=1), fit=EYE_FIT,
    )  # fmt: skip


def corner_stress(bar: TorsionBar, carried: BarForces) -> float:
    """Where the bar is bent into its arm: on the bar's side it is twisted, on the arm's the same moment bends it, its inner fibre more [MPa]."""
    more = inner_fibre(bar.od, bar.bend_radius)
    return max(
        equivalent((b,), t)
        for b, t in (round_stress(bar.section, side, more) for side in (carried.corner, carried.arm))
    )


def arm_stress(bar: TorsionBar, carried: BarForces) -> float:
    """Of an arm of flat bar at its root, on edge [MPa]."""
    assert bar.arm
    h, t = bar.arm.height, bar.arm.thickness
    twist, one, two = carried.arm
    return float(((6 * hypot(one, two) / (t * h * h)) ** 2 + 3 * (3 * abs(twist) / (h * t * t)) ** 2) ** 0.5)


def weld_stress(bar: TorsionBar, carried: BarForces, leg: float) -> float:
    """On the throat of the two rings that weld an arm round the bar [MPa].

    Args:
        bar: half of it.
        carried: by it.
        leg: of the fillets [mm].
    """
    twist, one, two = carried.corner
    ring = pi * bar.od**2
    return hypot(abs(twist) / ring, 2 * hypot(one, two) / ring) / (THROAT_OF_LEG * leg)


def bar_input(bar: TorsionBar, force: Three, factor: float, electrode: float, saved: AntiRollBar) -> dict[str, Any]:
    """A half as `calc torsion-bar` takes it.

    Args:
        bar: half of it.
        force: of the drop link [N].
        factor: on the force.
        electrode: strength of the weld's metal [MPa].
        saved: the bar as it is saved.
    """
    flat = (
        {
            "arm_height_mm": bar.arm.height,
            "arm_thickness_mm": bar.arm.thickness,
            "leg_mm": min(saved.flats.leg_mm, saved.flats.thickness_mm),
        }
        if bar.arm and saved.flats
        else {"bend_radius_mm": bar.bend_radius}
    )
    return {
        "half_mm": bar.half, "bearing_mm": bar.bearing, "lever_mm": bar.lever, "beyond_mm": bar.beyond, "od_mm": bar.od, "wall_mm": bar.wall, **flat,
        "force_n": [v * factor for v in force],
    }  # fmt: skip


def life_of_bar(
    saved: AntiRollBar, bar: TorsionBar, days: Sequence[BarCase], settings: Settings, target: float
) -> list[CheckResult]:
    """The life of its weakest place over the everyday cases, of either half.

    Args:
        saved: as it is.
        bar: half of it.
        days: the everyday cases.
        settings: the spectrum.
        target: cycles that are wanted.
    """
    steel = BarSteel(diameter=bar.od, ultimate=saved.uts_mpa, surface=saved.surface)
    more = inner_fibre(bar.od, bar.bend_radius) if saved.flats is None else 1.0
    places: list[tuple[str, Callable[[BarForces], Three], float]] = [("at its bearing", lambda c: c.bearing, 1.0)]
    if saved.flats is None:
        places += [
            ("in its corner", lambda c: c.corner, more),
            ("in its corner, the arm’s side", lambda c: c.arm, more),
        ]
    else:
        places.append(("beside its arm", lambda c: c.corner, 1.0))
    worst: tuple[float, str, float, float] | None = None
    welds = Weakest(fatigue.STEEL, settings, target)
    for one, two in combinations(days, 2):
        if one.copy != two.copy:
            continue
        for what, of, factor in places:
            a, b = np.array(of(one.carried)), np.array(of(two.carried))
            up, middle = (_equivalent(bar, way, factor) for way in ((a - b) / 2, (a + b) / 2))
            lasts = bar_life(steel, up, middle, settings.everyday)
            if worst is None or (lasts, -up) < (worst[0], -worst[2]):
                worst = lasts, what, up, middle
        eye = _eye_of(saved, bar)
        if eye is not None:
            pull = _at_eye(tuple(a - b for a, b in zip(one.force, two.force, strict=True)))  # type: ignore[arg-type]
            welds.look("eye", ("plate beside its hole", in_plane(pull) / eye.beside, HOLE_CLASS, False))
        if saved.flats is not None:
            leg = min(saved.flats.leg_mm, saved.flats.thickness_mm)
            change = np.array(one.carried.corner) - np.array(two.carried.corner)
            ring, throat = pi * bar.od**2, THROAT_OF_LEG * leg
            welds.look(
                "arm’s weld", ("weld, twisted", abs(float(change[0])) / ring / throat, fatigue.SHEAR_CLASS, True)
            )
            toe = hypot(float(change[1]), float(change[2])) * bar.od / 2 / bar.section.second_moment
            welds.look("arm’s weld", ("weld’s toe on the bar", toe, TOE_ON_BAR, False))
    if worst is None:
        return []
    lasts, what, up, middle = worst
    kind = asked("bar_life", "bar", settings.factors)
    data = {
        "diameter_mm": bar.od,
        "uts_mpa": saved.uts_mpa,
        "surface": saved.surface,
        "amplitude_mpa": up,
        "mean_mpa": middle,
        "spectrum": [list(s) for s in settings.everyday],
    }
    out = [CheckResult(
        key=kind.key, name=kind.name, part=kind.part, demand=target, capacity=lasts, unit=kind.unit, utilisation=target / lasts, passed=lasts >= target, case="everyday cycles",
        factor=1.0, factor_name="none", formula=kind.formula, source=kind.source, note=f"{what}: ±{up:.0f} MPa about {middle:.0f}, endures {steel.endurance:.0f}{told(settings)}",
        reproduce=Reproduction(topic="stress-life", input=data, output="cycles", figure="capacity"),
    )]  # fmt: skip
    return out + welds.results()


def _equivalent(bar: TorsionBar, carried: Array, factor: float) -> float:
    twist, one, two = (float(v) for v in carried)
    bending, torsion = round_stress(bar.section, (twist, one, two), factor)
    return equivalent((bending,), torsion)
