"""A rocker under every load case: its arms bent, its eyes and their bolts, the weld of its boss, its bearings; and how long it lasts.

What acts on it comes of the mechanism, each force at its eye. Not covered: the bearings beyond their maker's rating, the boss's own
wall, weld quality, impact.

Source:
    Arms as flat bars and rings as lines (`brackets/plate_arm`), eyes as AISC 360 D5 and J7 with an interaction for a pull at a slant, bolts
    EN 1993-1-8; classes of EN 1993-1-9, from memory: plate with a hole 90 on the net section, plate at the boss's weld 71, root of the weld 36.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from itertools import combinations_with_replacement
from math import hypot

import numpy as np
from numpy.typing import NDArray

from tirante.core.brackets import bolt as bolts
from tirante.core.brackets.plate_arm import EyeForce, PlateArm, plate_stress, ring_stress
from tirante.core.checks.kinds import asked
from tirante.core.checks.result import CheckResult, Reproduction
from tirante.core.document.parts.rocker import Rocker
from tirante.core.document.settings import Settings
from tirante.core.loads.on_body import BodyCase
from tirante.core.members import fatigue
from tirante.core.members.insert_weld import SHEAR_OF_ELECTRODE
from tirante.core.parts.plate_eye import HOLE_CLASS, PlateEye, eye_checks, in_plane
from tirante.core.parts.rocker.shape import FIT, EyeAt, RockerShape
from tirante.core.parts.welded.life import Weakest
from tirante.core.parts.worst import worst_case

Array = NDArray[np.float64]
BOSS_CLASS = 71.0  # MPa at 2 million cycles; EN 1993-1-9 Table 8.4, from memory


@dataclass(frozen=True, slots=True, kw_only=True)
class RockerCase:
    """A rocker in one case: what pulls at each eye, and what its bearings put on it."""

    case: str
    where: str
    copy: str
    eyes: Mapping[str, EyeForce]  # by point; along and across its own arm
    pivot: tuple[float, float, float]  # in the plates' plane, and along the line it turns about [N]
    tip: float  # moment that tips it on its bearings [N·mm]


def plate_arm(rocker: Rocker, eye: EyeAt) -> PlateArm:
    """One of its arms.

    Args:
        rocker: as it is saved.
        eye: of the arm.
    """
    apart = rocker.inside_mm + rocker.plate_mm if rocker.plates == 2 else 0.0
    return PlateArm(
        length=eye.reach, eye_radius=eye.eye.head_mm, hub_radius=rocker.hub_mm, hub_hole=rocker.boss_mm, thickness=rocker.plate_mm,
        plates=rocker.plates, apart=apart,
    )  # fmt: skip


def in_its_plane(shape: RockerShape, cases: Sequence[BodyCase]) -> list[RockerCase]:
    """Every case in the rocker's own plane.

    Args:
        shape: of the rocker.
        cases: what acts on its body.
    """
    found = []
    for case in cases:
        eyes: dict[str, EyeForce] = {}
        for eye in shape.eyes:
            force = shape.axes @ sum((act.force for act in case.acting if act.place == eye.eye.point), np.zeros(3))
            c, s = eye.x / eye.reach, eye.y / eye.reach
            eyes[eye.eye.point] = EyeForce(
                along=float(force[0] * c + force[1] * s), across=float(force[1] * c - force[0] * s), out=float(force[2]), off=eye.off
            )  # fmt: skip
        own = [act for act in case.acting if act.place == shape.pivot]
        force = shape.axes @ sum((act.force for act in own), np.zeros(3))
        moment = shape.axes @ sum((act.moment for act in own), np.zeros(3))
        found.append(RockerCase(
            case=case.case, where=case.where, copy=case.copy, eyes=eyes, pivot=(float(force[0]), float(force[1]), float(force[2])),
            tip=hypot(float(moment[0]), float(moment[1])),
        ))  # fmt: skip
    return found


def rocker_checks(
    rocker: Rocker, shape: RockerShape, cases: Sequence[RockerCase], settings: Settings
) -> list[CheckResult]:
    """All its checks.

    Args:
        rocker: as it is saved.
        shape: of it.
        cases: that it sees.
        settings: factors, electrode.
    """
    out = [check for eye in shape.eyes for check in eye_checks(_plate_eye(rocker, eye), cases, settings.factors)]
    kind = asked("boss_weld", "boss", settings.factors)
    leg = min(rocker.leg_mm, rocker.plate_mm)
    strength = SHEAR_OF_ELECTRODE * settings.electrode_uts_mpa

    def ring(one: RockerCase, factor: float) -> tuple[float, Reproduction]:
        data = {
            "boss_mm": rocker.boss_mm, "leg_mm": leg, "plates": rocker.plates, "apart_mm": plate_arm(rocker, shape.eyes[0]).apart,
            "in_plane_n": hypot(*one.pivot[:2]) * factor, "out_n": abs(one.pivot[2]) * factor, "tip_nmm": one.tip * factor,
        }  # fmt: skip
        stress = ring_stress(
            rocker.boss_mm, leg, rocker.plates, data["apart_mm"], data["in_plane_n"], data["out_n"], data["tip_nmm"]
        )
        return stress, Reproduction(topic="boss-weld", input=data, output="throat_mpa", figure="demand")

    out.append(worst_case(kind, cases, lambda one: (*ring(one, kind.factor), strength)))
    if rocker.bearing_rating_n:
        rated, of = (
            asked("pivot_joint", "bearings", settings.factors, name="Bearings, their rating"),
            rocker.bearing_rating_n,
        )
        out.append(worst_case(rated, cases, lambda one: (hypot(*one.pivot) * rated.factor, None, of)))
    return out


def _plate_eye(rocker: Rocker, eye: EyeAt) -> PlateEye:
    """One of its eyes, its bolt through one plate or two."""
    planes = rocker.plates
    gap = max(0.0, (rocker.inside_mm - eye.eye.between_mm) / 2) if planes == 2 else 0.0
    stack = bolts.PinStack(ball_width=eye.eye.between_mm, gap=gap, plate=rocker.plate_mm, planes=planes)
    return PlateEye(
        point=eye.eye.point, words=eye.words, arm=plate_arm(rocker, eye), yield_mpa=rocker.yield_mpa, uts_mpa=rocker.uts_mpa,
        pin_mm=eye.eye.pin_mm, pin_class=eye.eye.pin_class, stack=stack, fit=FIT,
    )  # fmt: skip


def rocker_life(
    rocker: Rocker, shape: RockerShape, days: Sequence[RockerCase], settings: Settings, target: float
) -> list[CheckResult]:
    """The life of its arms and of the weld of its boss, the worse of either side of the car.

    Args:
        rocker: as it is saved.
        shape: of it.
        days: the everyday cases.
        settings: the spectrum.
        target: cycles that are wanted.
    """
    weakest = Weakest(fatigue.STEEL, settings, target)
    leg = min(rocker.leg_mm, rocker.plate_mm)
    for one, two in combinations_with_replacement(days, 2):
        if one.copy != two.copy or one is two:
            continue
        for eye in shape.eyes:
            arm, a, b = plate_arm(rocker, eye), one.eyes[eye.eye.point], two.eyes[eye.eye.point]
            between = EyeForce(along=a.along - b.along, across=a.across - b.across, out=a.out - b.out, off=a.off)
            found = plate_stress(arm, between)
            weakest.look(eye.words, ("plate at the boss’s weld", max(found.worst, found.net), BOSS_CLASS, False))
            beside = _plate_eye(rocker, eye).beside
            weakest.look(eye.words, ("plate beside its hole", in_plane(between) / beside, HOLE_CLASS, False))
        pull = [p - q for p, q in zip(one.pivot, two.pivot, strict=True)]
        apart = plate_arm(rocker, shape.eyes[0]).apart
        stress = ring_stress(rocker.boss_mm, leg, rocker.plates, apart, hypot(*pull[:2]), pull[2], one.tip + two.tip)
        weakest.look("boss", ("root of the boss’s weld", stress, fatigue.THROAT_CLASS, False))
    return weakest.results()
