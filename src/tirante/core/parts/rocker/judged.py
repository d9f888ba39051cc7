"""A rocker under every load case: its arms bent, its eyes and their bolts, the weld of its boss, its bearings; and how long it lasts.

What acts on it comes of the mechanism, each force at its eye. Not covered: the bearings beyond their maker's rating, the boss's own
wall, weld quality, impact.

Source:
    Arms as flat bars and rings as lines (`brackets/plate_arm`), eyes as AISC 360 D5 and J7 with an interaction for a pull at a slant, bolts
    EN 1993-1-8; classes of EN 1993-1-9, from memory: plate with a hole 90 on the net section, plate at the boss's weld 71, root of the weld 36.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import combinations_with_replacement
from math import atan2, degrees, hypot
from typing import Any

import numpy as np
from numpy.typing import NDArray

from tirante.core.brackets import bolt as bolts
from tirante.core.brackets import lug
from tirante.core.brackets.plate_arm import EyeForce, PlateArm, plate_stress, ring_stress
from tirante.core.checks.kinds import Asked, asked
from tirante.core.checks.result import CheckResult, Reproduction
from tirante.core.document.parts.rocker import Rocker
from tirante.core.document.settings import Settings
from tirante.core.loads.on_body import BodyCase
from tirante.core.members import fatigue
from tirante.core.members.column import column_strength
from tirante.core.members.insert_weld import SHEAR_OF_ELECTRODE
from tirante.core.parts.rocker.shape import FIT, EyeAt, RockerShape
from tirante.core.parts.welded.life import Weakest
from tirante.core.parts.worst import worst_case

Array = NDArray[np.float64]
MODULUS = 205_000.0  # MPa, steel plate; common value
SWAYS = 2.1  # effective length of an arm that nothing holds sideways at its eye: AISC 360, commentary to App. 7, from memory
HOLE_CLASS, BOSS_CLASS = 90.0, 71.0  # MPa at 2 million cycles; EN 1993-1-9 Tables 8.1 and 8.4, from memory


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
    out = [check for eye in shape.eyes for check in _arm_checks(rocker, eye, cases, settings)]
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


def _arm_checks(
    rocker: Rocker, eye: EyeAt, cases: Sequence[RockerCase], settings: Settings
) -> Iterator[CheckResult]:  # fmt: skip
    factors, point, arm = settings.factors, eye.eye.point, plate_arm(rocker, eye)
    words = f"{eye.words[0].upper()}{eye.words[1:]}"

    def of(key: str) -> Asked:
        kind = asked(key, eye.words, factors, of=point)
        return replace(kind, name=f"{words}, {kind.name}")

    def data(force: EyeForce, factor: float) -> dict[str, Any]:
        return {
            "length_mm": arm.length, "eye_radius_mm": arm.eye_radius, "hub_radius_mm": arm.hub_radius, "hub_hole_mm": arm.hub_hole,
            "thickness_mm": arm.thickness, "plates": arm.plates, "apart_mm": arm.apart, "along_n": force.along * factor,
            "across_n": force.across * factor, "out_n": force.out * factor, "off_mm": force.off, "yield_mpa": rocker.yield_mpa,
        }  # fmt: skip

    def times(force: EyeForce, factor: float) -> EyeForce:
        return EyeForce(along=force.along * factor, across=force.across * factor, out=force.out * factor, off=force.off)

    def again(force: EyeForce, factor: float, output: str, figure: str = "demand") -> Reproduction:
        return Reproduction(topic="plate-arm", input=data(force, factor), output=output, figure=figure)

    bent, net, pressed = of("plate_bent"), of("plate_net"), of("plate_column")
    strong = column_strength(arm, arm.length, rocker.yield_mpa, MODULUS, SWAYS)
    yield worst_case(
        bent,
        cases,
        lambda one: (
            plate_stress(arm, times(one.eyes[point], bent.factor)).worst,
            again(one.eyes[point], bent.factor, "worst_mpa"),
            rocker.yield_mpa,
        ),
    )
    yield worst_case(
        net,
        cases,
        lambda one: (
            plate_stress(arm, times(one.eyes[point], net.factor)).net,
            again(one.eyes[point], net.factor, "net_mpa"),
            rocker.yield_mpa,
        ),
    )
    yield worst_case(
        pressed, cases,
        lambda one: (max(0.0, -one.eyes[point].along) * pressed.factor, again(one.eyes[point], 1.0, "column_n", "capacity"), min(strong.critical, strong.aisc_e3)),
    )  # fmt: skip
    plates = lug.Lug(
        thickness=rocker.plate_mm, width=2 * eye.eye.head_mm, hole=eye.eye.pin_mm + FIT, pin=eye.eye.pin_mm, edge=eye.eye.head_mm, plates=rocker.plates
    )  # fmt: skip
    strength, slanted = (
        lug.lug_strength(plates, rocker.yield_mpa, rocker.uts_mpa),
        lug.slanted(plates, rocker.yield_mpa, rocker.uts_mpa),
    )
    lugs = {
        "thickness_mm": plates.thickness, "plates": plates.plates, "width_mm": plates.width, "hole_mm": plates.hole, "pin_mm": plates.pin,
        "edge_mm": plates.edge, "yield_mpa": rocker.yield_mpa, "uts_mpa": rocker.uts_mpa,
    }  # fmt: skip
    bearing, torn = of("eye_bearing"), of("eye_torn")
    yield worst_case(
        bearing, cases,
        lambda one: (_in_plane(one.eyes[point]) * bearing.factor, Reproduction(topic="lug", input=lugs, output="bearing_n", figure="capacity"), strength.bearing),
    )  # fmt: skip

    def at_a_slant(one: RockerCase) -> tuple[float, Reproduction, float]:
        force = one.eyes[point]
        angle = degrees(atan2(force.across, force.along))
        again = Reproduction(topic="lug", input={**lugs, "angle_deg": angle}, output="slanted_n", figure="capacity")
        return _in_plane(force) * torn.factor, again, slanted.at(angle)

    yield worst_case(torn, cases, at_a_slant)
    yield from _pin_checks(rocker, eye, cases, of("eye_pin"), of("eye_pin_bent"))


def _pin_checks(
    rocker: Rocker, eye: EyeAt, cases: Sequence[RockerCase], sheared: Asked, bent: Asked
) -> Iterator[CheckResult]:  # fmt: skip
    point, planes = eye.eye.point, rocker.plates
    material = bolts.bolt_class(eye.eye.pin_class, eye.eye.pin_mm)
    gap = max(0.0, (rocker.inside_mm - eye.eye.between_mm) / 2) if planes == 2 else 0.0
    stack = bolts.PinStack(ball_width=eye.eye.between_mm, gap=gap, plate=rocker.plate_mm, planes=planes)

    def data(force: float) -> dict[str, Any]:
        return {
            "diameter_mm": eye.eye.pin_mm, "class": eye.eye.pin_class, "planes": planes, "ball_width_mm": eye.eye.between_mm,
            "plate_mm": rocker.plate_mm, "gap_mm": gap, "force_n": force,
        }  # fmt: skip

    shear = bolts.pin_shear(eye.eye.pin_mm, material, planes)
    yield worst_case(sheared, cases, lambda one: (
        one.eyes[point].size * sheared.factor, Reproduction(topic="pin", input=data(one.eyes[point].size * sheared.factor), output="shear_n", figure="capacity"), shear,
    ))  # fmt: skip

    def bending(one: RockerCase) -> tuple[float, Reproduction, float]:
        force = one.eyes[point].size * bent.factor
        stress = bolts.pin_bending_stress(eye.eye.pin_mm, bolts.pin_bending_moment(stack, force))
        again = Reproduction(topic="pin", input=data(force), output="bending_mpa", figure="demand")
        return stress, again, material.yield_strength

    yield worst_case(bent, cases, bending)


def _in_plane(force: EyeForce) -> float:
    return hypot(force.along, force.across)


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
            beside = rocker.plates * rocker.plate_mm * (2 * eye.eye.head_mm - eye.eye.pin_mm - FIT)
            weakest.look(eye.words, ("plate beside its hole", _in_plane(between) / beside, HOLE_CLASS, False))
        pull = [p - q for p, q in zip(one.pivot, two.pivot, strict=True)]
        apart = plate_arm(rocker, shape.eyes[0]).apart
        stress = ring_stress(rocker.boss_mm, leg, rocker.plates, apart, hypot(*pull[:2]), pull[2], one.tip + two.tip)
        weakest.look("boss", ("root of the boss’s weld", stress, fatigue.THROAT_CLASS, False))
    return weakest.results()
