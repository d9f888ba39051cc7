"""An eye at the end of a plate that is bent, pulled and pressed: the plate's arm, the eye itself, and the bolt that goes through it.

Used of a rocker's arms and of a plate on a carrier.

Source:
    Arms as flat bars (`brackets/plate_arm`), eyes as AISC 360 D5 and J7 with an interaction for a pull at a slant, bolts EN 1993-1-8,
    columns the lower of Shigley and AISC 360 E3 (all from memory).
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from math import atan2, degrees, hypot
from typing import Any, Protocol, TypeVar

from tirante.core.brackets import bolt as bolts
from tirante.core.brackets import lug
from tirante.core.brackets.plate_arm import EyeForce, PlateArm, plate_stress
from tirante.core.checks.kinds import Asked, asked
from tirante.core.checks.result import CheckResult, Reproduction
from tirante.core.document.settings import DesignFactors
from tirante.core.members.column import column_strength
from tirante.core.parts.worst import worst_case

MODULUS = 205_000.0  # MPa, steel plate; common value
SWAYS = 2.1  # effective length of an arm that nothing holds sideways at its eye: AISC 360, commentary to App. 7, from memory
HOLE_CLASS = 90.0  # MPa at 2 million cycles: plate with a hole, on its net section; EN 1993-1-9 Table 8.1, from memory


@dataclass(frozen=True, slots=True, kw_only=True)
class PlateEye:
    """An eye with the arm that leads to it, its metal and its bolt."""

    point: str
    words: str
    arm: PlateArm
    yield_mpa: float
    uts_mpa: float
    pin_mm: float
    pin_class: str
    stack: bolts.PinStack  # along the bolt
    fit: float  # mm that the hole is larger than the bolt
    net_name: str = ""  # of the check across the arm's inner end, where it is not the table's

    @property
    def lug(self) -> lug.Lug:
        """The plate round the bolt."""
        arm = self.arm
        return lug.Lug(
            thickness=arm.thickness, width=2 * arm.eye_radius, hole=self.pin_mm + self.fit, pin=self.pin_mm, edge=arm.eye_radius, plates=arm.plates
        )  # fmt: skip

    @property
    def beside(self) -> float:
        """Section of all plates beside the hole [mm²]."""
        return self.arm.plates * self.arm.thickness * (2 * self.arm.eye_radius - self.pin_mm - self.fit)


class EyesSeen(Protocol):
    """A case with what pulls at each eye."""

    @property
    def case(self) -> str:
        """Its name."""

    @property
    def where(self) -> str:
        """Its position."""

    @property
    def eyes(self) -> Mapping[str, EyeForce]:
        """By point."""


C = TypeVar("C", bound=EyesSeen)


def in_plane(force: EyeForce) -> float:
    """What pulls in the plate's plane [N]."""
    return hypot(force.along, force.across)


def eye_checks(one: PlateEye, cases: Sequence[C], factors: DesignFactors) -> Iterator[CheckResult]:
    """All checks of an eye, its arm and its bolt; loads are factored before each.

    Args:
        one: the eye.
        cases: what pulls at it.
        factors: the design's.
    """
    point, arm = one.point, one.arm
    words = f"{one.words[0].upper()}{one.words[1:]}"

    def of(key: str, name: str = "") -> Asked:
        kind = asked(key, one.words, factors, of=point)
        return replace(kind, name=f"{words}, {name or kind.name}")

    def data(force: EyeForce, factor: float) -> dict[str, Any]:
        return {
            "length_mm": arm.length, "eye_radius_mm": arm.eye_radius, "hub_radius_mm": arm.hub_radius, "hub_hole_mm": arm.hub_hole,
            "thickness_mm": arm.thickness, "plates": arm.plates, "apart_mm": arm.apart, "along_n": force.along * factor,
            "across_n": force.across * factor, "out_n": force.out * factor, "off_mm": force.off, "yield_mpa": one.yield_mpa,
        }  # fmt: skip

    def times(force: EyeForce, factor: float) -> EyeForce:
        return EyeForce(along=force.along * factor, across=force.across * factor, out=force.out * factor, off=force.off)

    def again(force: EyeForce, factor: float, output: str, figure: str = "demand") -> Reproduction:
        return Reproduction(topic="plate-arm", input=data(force, factor), output=output, figure=figure)

    bent, net, pressed = of("plate_bent"), of("plate_net", one.net_name), of("plate_column")
    strong = column_strength(arm, arm.length, one.yield_mpa, MODULUS, SWAYS)
    yield worst_case(bent, cases, lambda case: (
        plate_stress(arm, times(case.eyes[point], bent.factor)).worst, again(case.eyes[point], bent.factor, "worst_mpa"), one.yield_mpa,
    ))  # fmt: skip
    yield worst_case(net, cases, lambda case: (
        plate_stress(arm, times(case.eyes[point], net.factor)).net, again(case.eyes[point], net.factor, "net_mpa"), one.yield_mpa,
    ))  # fmt: skip
    yield worst_case(pressed, cases, lambda case: (
        max(0.0, -case.eyes[point].along) * pressed.factor, again(case.eyes[point], 1.0, "column_n", "capacity"), min(strong.critical, strong.aisc_e3),
    ))  # fmt: skip
    yield from eye_alone(one, cases, factors)


def eye_alone(one: PlateEye, cases: Sequence[C], factors: DesignFactors) -> Iterator[CheckResult]:
    """The checks of an eye and its bolt, whatever leads to it.

    Args:
        one: the eye.
        cases: what pulls at it.
        factors: the design's.
    """
    point = one.point
    words = f"{one.words[0].upper()}{one.words[1:]}"

    def of(key: str) -> Asked:
        kind = asked(key, one.words, factors, of=point)
        return replace(kind, name=f"{words}, {kind.name}")

    plates = one.lug
    strength, slanted = (
        lug.lug_strength(plates, one.yield_mpa, one.uts_mpa),
        lug.slanted(plates, one.yield_mpa, one.uts_mpa),
    )
    lugs = {
        "thickness_mm": plates.thickness, "plates": plates.plates, "width_mm": plates.width, "hole_mm": plates.hole, "pin_mm": plates.pin,
        "edge_mm": plates.edge, "yield_mpa": one.yield_mpa, "uts_mpa": one.uts_mpa,
    }  # fmt: skip
    bearing, torn = of("eye_bearing"), of("eye_torn")
    yield worst_case(bearing, cases, lambda case: (
        in_plane(case.eyes[point]) * bearing.factor, Reproduction(topic="lug", input=lugs, output="bearing_n", figure="capacity"), strength.bearing,
    ))  # fmt: skip

    def at_a_slant(case: C) -> tuple[float, Reproduction, float]:
        force = case.eyes[point]
        angle = degrees(atan2(force.across, force.along))
        again = Reproduction(topic="lug", input={**lugs, "angle_deg": angle}, output="slanted_n", figure="capacity")
        return in_plane(force) * torn.factor, again, slanted.at(angle)

    yield worst_case(torn, cases, at_a_slant)
    yield from _pin_checks(one, cases, of("eye_pin"), of("eye_pin_bent"))


def _pin_checks(one: PlateEye, cases: Sequence[C], sheared: Asked, bent: Asked) -> Iterator[CheckResult]:
    point, stack = one.point, one.stack
    material = bolts.bolt_class(one.pin_class, one.pin_mm)

    def data(force: float) -> dict[str, Any]:
        return {
            "diameter_mm": one.pin_mm, "class": one.pin_class, "planes": stack.planes, "ball_width_mm": stack.ball_width,
            "plate_mm": stack.plate, "gap_mm": stack.gap, "force_n": force,
        }  # fmt: skip

    shear = bolts.pin_shear(one.pin_mm, material, stack.planes)
    yield worst_case(sheared, cases, lambda case: (
        case.eyes[point].size * sheared.factor, Reproduction(topic="pin", input=data(case.eyes[point].size * sheared.factor), output="shear_n", figure="capacity"), shear,
    ))  # fmt: skip

    def bending(case: C) -> tuple[float, Reproduction, float]:
        force = case.eyes[point].size * bent.factor
        stress = bolts.pin_bending_stress(one.pin_mm, bolts.pin_bending_moment(stack, force))
        again = Reproduction(topic="pin", input=data(force), output="bending_mpa", figure="demand")
        return stress, again, material.yield_strength

    yield worst_case(bent, cases, bending)
