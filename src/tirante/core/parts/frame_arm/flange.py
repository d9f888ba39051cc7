"""An arm's hub flange judged: its bolts, its plate, its weld, under what the wheel puts on it; and how long plate and weld last.

The wheel's force and moment are brought from its centre to the back of the flange, where the arm begins. Not covered: the hub and its
bearings, the bolts' clamping and life (a clamped bolt feels little of it), prying.

Source:
    `brackets/hub_flange`; classes of EN 1993-1-9, from memory: toe of the ring on the plate 71, its root 36.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from itertools import combinations
from typing import Any

import numpy as np
from numpy.typing import NDArray

from tirante.core.brackets import bolt as bolts
from tirante.core.brackets.hub_flange import HubFlange, OnFlange, bolt_forces, bolt_use, ring_throat
from tirante.core.checks.kinds import Asked, asked
from tirante.core.checks.result import CheckResult, Reproduction
from tirante.core.document.parts.frame_arm import FrameJoint
from tirante.core.document.settings import Settings
from tirante.core.errors import InputError
from tirante.core.loads.on_body import BodyCase
from tirante.core.members import fatigue
from tirante.core.members.insert_weld import SHEAR_OF_ELECTRODE
from tirante.core.parts.part import Misfit
from tirante.core.parts.welded.life import Weakest
from tirante.core.parts.worst import worst_case

Array = NDArray[np.float64]
AXIS = np.array([0.0, 1.0, 0.0])  # the wheel's, at ride height, toe and camber left out
FLANGE_AT = "flange at"
TOE_CLASS = 71.0  # MPa at 2 million cycles; EN 1993-1-9 Table 8.5, from memory
USUAL_PLATES = (8.0, 10.0, 12.0, 15.0, 20.0, 25.0)  # mm, of flanges; common practice, no source


@dataclass(frozen=True, slots=True, kw_only=True)
class FlangeCase:
    """A flange in one case."""

    case: str
    where: str
    copy: str
    force: Array  # on the flange's back [N]
    moment: Array  # [N·mm]

    def times(self, factor: float) -> OnFlange:
        """What acts, factored, by its parts."""
        return split(self.force * factor, self.moment * factor)


def split(force: Array, moment: Array) -> OnFlange:
    """A force and a moment by their parts about the wheel's axis.

    Args:
        force: [N]
        moment: [N·mm]
    """
    axial, spin = float(force @ AXIS), float(moment @ AXIS)
    return OnFlange(
        across=float(np.linalg.norm(force - axial * AXIS)), axial=axial, spin=spin, tip=float(np.linalg.norm(moment - spin * AXIS))
    )  # fmt: skip


def on_flange(joint: FrameJoint, cases: Sequence[BodyCase]) -> list[FlangeCase]:
    """What the wheel puts on the back of the flange in every case.

    Args:
        joint: of the arm, its flange's back `face_mm` inboard of the wheel's centre.
        cases: what acts on the arm.
    """
    found = []
    for case in cases:
        own = [act for act in case.acting if act.place == joint.point]
        force = sum((act.force for act in own), np.zeros(3))
        moment = sum((act.moment for act in own), np.zeros(3)) + np.cross(AXIS * joint.face_mm, force)
        found.append(FlangeCase(case=case.case, where=case.where, copy=case.copy, force=force, moment=moment))
    return found


def flange_of(joint: FrameJoint) -> HubFlange | None:
    """The flange that is made at a joint; None where there is none, or its sizes are not given.

    Raises:
        InputError: they do not go together.
    """
    one = joint.flange
    if one is None or joint.made != "hub flange":
        return None
    return HubFlange(
        bolts=one.bolts, circle=one.circle_mm, bolt=one.bolt_mm, outside=one.outside_mm, thickness=one.plate_mm, ring=one.ring_mm,
        leg=min(one.leg_mm, one.plate_mm),
    )  # fmt: skip


def flange_faults(joint: FrameJoint, i: int) -> Iterator[Misfit]:
    """What of a flange's sizes does not go together, at its own field.

    Args:
        joint: of the arm.
        i: its place among the joints.
    """
    try:
        flange_of(joint)
    except InputError as error:
        yield Misfit(field=f"joints.{i}.flange.{(error.fields or ('',))[0]}", message=error.message)


def flange_checks(
    joint: FrameJoint, cases: Sequence[BodyCase], yield_mpa: float, settings: Settings
) -> Iterator[CheckResult]:
    """Its bolts, its plate and its weld; nothing where its sizes are not given.

    Args:
        joint: of the arm.
        cases: what acts on the arm.
        yield_mpa: of the flange's plate.
        settings: factors, electrode.
    """
    flange = flange_of(joint)
    if flange is None or joint.flange is None or not cases:
        return
    grade = joint.flange.bolt_class
    seen, words = on_flange(joint, cases), joint.point.replace("_", " ")
    material = bolts.bolt_class(grade, flange.bolt)

    def of(key: str) -> Asked:
        kind = asked(key, words, settings.factors, of=joint.point)
        return replace(kind, name=f"{words[0].upper()}{words[1:]}, {kind.name}")

    def again(acting: OnFlange, output: str) -> Reproduction:
        data: dict[str, Any] = {
            "bolts": flange.bolts, "circle_mm": flange.circle, "bolt_mm": flange.bolt, "class": grade, "outside_mm": flange.outside,
            "thickness_mm": flange.thickness, "ring_mm": flange.ring, "leg_mm": flange.leg, "yield_mpa": yield_mpa, "across_n": acting.across,
            "axial_n": acting.axial, "spin_nmm": acting.spin, "tip_nmm": acting.tip,
        }  # fmt: skip
        return Reproduction(topic="hub-flange", input=data, output=output, figure="demand")

    bolted, bent, welded = of("flange_bolts"), of("flange_plate"), of("flange_weld")

    def used(one: FlangeCase) -> tuple[float, Reproduction, float]:
        acting = one.times(bolted.factor)
        return bolt_use(flange, material, acting), again(acting, "bolt_use"), 1.0

    def bending(one: FlangeCase) -> tuple[float, Reproduction, float]:
        acting = one.times(bent.factor)
        return bolt_forces(flange, acting)[1], again(acting, "bolt_pull_n"), flange.one_bolt_bends(yield_mpa)

    def throat(one: FlangeCase) -> tuple[float, Reproduction, float]:
        acting = one.times(welded.factor)
        return (
            ring_throat(flange, acting),
            again(acting, "throat_mpa"),
            SHEAR_OF_ELECTRODE * settings.electrode_uts_mpa,
        )

    yield worst_case(bolted, seen, used)
    yield worst_case(bent, seen, bending)
    yield worst_case(welded, seen, throat)


def look_at_flange(joint: FrameJoint, days: Sequence[BodyCase], weakest: Weakest) -> None:
    """The everyday ranges of its plate at the weld's toe and of the weld's root, between any two cases of one side.

    Args:
        joint: of the arm.
        days: the everyday cases.
        weakest: to which they are put.
    """
    flange = flange_of(joint)
    if flange is None:
        return
    words = f"{FLANGE_AT} {joint.point.replace('_', ' ')}"
    for one, two in combinations(on_flange(joint, days), 2):
        if one.copy != two.copy:
            continue
        change = split(one.force - two.force, one.moment - two.moment)
        pull = bolt_forces(flange, change)[1]
        toe = 6 * pull * flange.lever / (flange.bent_width * flange.thickness**2)
        weakest.look(words, ("flange’s plate at its weld", toe, TOE_CLASS, False))
        weakest.look(words, ("root of the flange’s weld", ring_throat(flange, change), fatigue.THROAT_CLASS, False))


def sized_flange(
    joint: FrameJoint, cases: Sequence[BodyCase], days: Sequence[BodyCase], yield_mpa: float, settings: Settings, target: float
) -> FrameJoint:  # fmt: skip
    """With the least class of bolts, thickness and leg that hold and last; bolts and circle are the hub's. The stoutest tried where none does.

    Args:
        joint: of the arm.
        cases: what acts on the arm.
        days: what acts on it every day; none where that is not known.
        yield_mpa: of the flange's plate.
        settings: factors, electrode, spectrum.
        target: cycles that are wanted.
    """
    if joint.flange is None or joint.made != "hub flange":
        return joint
    tried = joint
    for grade in ("8.8", "10.9", "12.9"):
        for thick in USUAL_PLATES:
            for leg in (5.0, 6.0, 8.0, 10.0):
                if leg > thick:
                    continue
                change = {"bolt_class": grade, "plate_mm": thick, "leg_mm": leg}
                tried = joint.model_copy(update={"flange": joint.flange.model_copy(update=change)})
                weakest = Weakest(fatigue.STEEL, settings, target)
                look_at_flange(tried, days, weakest)
                checks = (*flange_checks(tried, cases, yield_mpa, settings), *weakest.results())
                if all(check.passed for check in checks):
                    return tried
    return tried
