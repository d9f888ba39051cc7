"""What is made at an arm's joints, judged: its bolt in double shear and bent, its sleeve or tabs as an eye that is pulled at.

A sleeve or cup is taken as an eye as thick as it is long, as wide as it is outside; tabs as a pair of plates. The whole force of the
joint is taken, whichever way it points. Not covered: a ring drawn oval, the bush or ball beyond its maker's rating. A hub flange is judged in `flange`.

Source:
    Eyes AISC 360 D5 and J7, bolts EN 1993-1-8, as of a rocker (docs/methods.md).
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from tirante.core.brackets import bolt as bolts
from tirante.core.brackets import lug
from tirante.core.checks.kinds import Asked, asked
from tirante.core.checks.result import CheckResult, Reproduction
from tirante.core.document.catalogue import Eye, bolt_fits
from tirante.core.document.end import DamperEye
from tirante.core.document.parts.frame_arm import FrameArm, FrameJoint, JointPin
from tirante.core.document.settings import DesignFactors
from tirante.core.loads.on_body import BodyCase
from tirante.core.parts.part import Misfit
from tirante.core.parts.welded.housing import Metal, Pulled, eye_checks, ring_of
from tirante.core.parts.worst import worst_case

USUAL_BOLTS = (10.0, 12.0, 14.0, 16.0, 18.0, 20.0, 24.0)  # mm, stocked; common practice, no source
USUAL_WALLS = (4.0, 5.0, 6.0, 8.0, 10.0)  # mm, of sleeves; likewise
USUAL_TABS = (5.0, 6.0, 8.0, 10.0, 12.0)  # mm, of tabs; likewise
FIT = 0.2  # mm: a hole over its bolt
ROUND_BOLT = 1.5  # of a bolt: the least radius of plate round it
BOLTED = ("bush sleeve", "cup with a spherical bearing", "pair of tabs")
EYED = ("bush sleeve", "cup with a spherical bearing")


@dataclass(frozen=True, slots=True, kw_only=True)
class JointCase:
    """The force of every joint in one case [N]."""

    case: str
    where: str
    forces: Mapping[str, float]  # by point


def at_joints(cases: Sequence[BodyCase]) -> list[JointCase]:
    """The force that acts at every place of an arm, by case.

    Args:
        cases: what acts on its body.
    """
    out = []
    for case in cases:
        sums: dict[str, np.ndarray] = {}
        for act in case.acting:
            if act.place is not None:
                sums[act.place] = sums.get(act.place, np.zeros(3)) + act.force
        out.append(
            JointCase(case=case.case, where=case.where, forces={p: float(np.linalg.norm(f)) for p, f in sums.items()})
        )
    return out


def joint_checks(
    joint: FrameJoint, cases: Sequence[JointCase], metal: Metal, factors: DesignFactors
) -> Iterator[CheckResult]:
    """What is made at one joint, under every case; nothing where its sizes are not given.

    Args:
        joint: as it is saved.
        cases: what it sees.
        metal: of sleeve, cup or tabs.
        factors: the design's.
    """
    pin = joint.pin
    if pin is None or joint.made not in BOLTED or not cases:
        return
    words = joint.point.replace("_", " ")

    def of(key: str) -> Asked:
        kind = asked(key, words, factors, of=joint.point)
        return replace(kind, name=f"{words[0].upper()}{words[1:]}, {kind.name}")

    material = bolts.bolt_class(pin.bolt_class, pin.bolt_mm)
    stack = bolts.PinStack(ball_width=pin.between_mm, gap=0.0, plate=pin.plate_mm, planes=2)

    def again(force: float, output: str, figure: str) -> Reproduction:
        data: dict[str, Any] = {
            "diameter_mm": pin.bolt_mm, "class": pin.bolt_class, "planes": 2, "ball_width_mm": pin.between_mm, "plate_mm": pin.plate_mm, "gap_mm": 0.0,
            "force_n": force,
        }  # fmt: skip
        return Reproduction(topic="pin", input=data, output=output, figure=figure)

    sheared, bent = of("eye_pin"), of("eye_pin_bent")
    shear = bolts.pin_shear(pin.bolt_mm, material, 2)

    def force(one: JointCase) -> float:
        return one.forces.get(joint.point, 0.0)

    yield worst_case(
        sheared,
        cases,
        lambda one: (force(one) * sheared.factor, again(force(one) * sheared.factor, "shear_n", "capacity"), shear),
    )

    def bending(one: JointCase) -> tuple[float, Reproduction, float]:
        pushed = force(one) * bent.factor
        stress = bolts.pin_bending_stress(pin.bolt_mm, bolts.pin_bending_moment(stack, pushed))
        return stress, again(pushed, "bending_mpa", "demand"), material.yield_strength

    yield worst_case(bent, cases, bending)
    plates = eye_of(joint)
    if plates is None:
        return
    yield from eye_checks(plates, Pulled(cases=cases, force=force), metal, of)


def eye_of(joint: FrameJoint) -> lug.Lug | None:
    """What is pulled at, as an eye; None where there is none to be judged.

    Args:
        joint: as it is saved.

    Raises:
        InputError: its hole is as wide as it is.
    """
    pin = joint.pin
    if pin is None:
        return None
    if joint.made == "pair of tabs":
        radius = pin.head_mm
        return lug.Lug(
            thickness=pin.plate_mm, width=2 * radius, hole=pin.bolt_mm + FIT, pin=pin.bolt_mm, edge=radius, plates=2
        )
    return ring_of(2 * joint.face_mm, pin.wall_mm, pin.housing_mm)


def row_of(joint: FrameJoint) -> DamperEye | None:
    """What goes into a sleeve or cup, as a bracket holds it; None of anything else, or while its sizes are not given.

    Args:
        joint: as it is saved.
    """
    pin = joint.pin
    if pin is None or joint.made not in EYED or pin.bolt_mm >= 2 * joint.face_mm:
        return None
    return DamperEye(
        bore_mm=pin.bolt_mm, ball_width_mm=pin.between_mm, head_diameter_mm=2 * joint.face_mm, housing_width_mm=pin.housing_mm,
    )  # fmt: skip


def joint_faults(joint: FrameJoint, i: int, eye: Eye | None) -> Iterator[Misfit]:
    """What does not go together at a joint: its bolt with what is held there, its metal with its bolt.

    Args:
        joint: as it is saved.
        i: its place among the joints.
        eye: what is held there, where the job has it.
    """
    pin = joint.pin
    if pin is None or joint.made not in BOLTED:
        return
    words = joint.point.replace("_", " ")
    if joint.made == "pair of tabs":
        if pin.head_mm <= pin.bolt_mm / 2:
            yield Misfit(field=f"joints.{i}.pin.head_mm", message=f"The hole at {words} breaks out of its tabs. Give them a larger radius.")  # fmt: skip
        if eye is not None and not bolt_fits(pin.bolt_mm, eye.bore_mm):
            yield Misfit(field=f"joints.{i}.pin.bolt_mm", message=f"The bolt at {words} is {pin.bolt_mm:g} mm, and what it holds has a bore of {eye.bore_mm:g} mm.")  # fmt: skip
        if eye is not None and abs(pin.between_mm - eye.ball_width_mm) > CLOSE:
            yield Misfit(field=f"joints.{i}.pin.between_mm", message=f"Between the tabs at {words} are {pin.between_mm:g} mm, and what they hold is {eye.ball_width_mm:g} mm wide.")  # fmt: skip
    elif pin.wall_mm >= joint.face_mm:
        yield Misfit(field=f"joints.{i}.pin.wall_mm", message=f"The wall at {words} leaves no hole for what goes in. Give it less.")  # fmt: skip


CLOSE = 0.5  # mm: a gap that a washer or a squeeze of the plates does not make up


def usual_pin(made: str, face_mm: float) -> JointPin | None:
    """Sizes to begin with, to be sized; None of what has no bolt of its own. Common practice, no source.

    Args:
        made: at the joint.
        face_mm: its centre to the tubes.
    """
    if made == "bush sleeve":
        return JointPin(bolt_mm=14.0, between_mm=50.0, wall_mm=min(5.0, face_mm / 3))
    if made == "cup with a spherical bearing":
        return JointPin(bolt_mm=14.0, between_mm=24.0, wall_mm=min(5.0, face_mm / 3))
    return JointPin(bolt_mm=12.0, between_mm=16.0) if made == "pair of tabs" else None


def not_told(saved: FrameArm) -> tuple[str, ...]:
    """What is made at its joints and judged by nothing, by name.

    Args:
        saved: the arm.
    """
    out = []
    for joint in saved.joints:
        words = joint.point.replace("_", " ")
        if joint.made == "hub flange":
            out.append(
                f"prying of the hub flange at {words}, and the life of its bolts"
                if joint.flange
                else f"the hub flange at {words} and its bolts: their sizes are not given"
            )
        elif joint.made in BOLTED and joint.pin is None:
            out.append(f"the {joint.made} at {words} and its bolt: their sizes are not given")
        elif joint.made == "ball joint in a socket" and not joint.rating_n:
            out.append(f"the ball joint at {words}: no rating is given")
        if joint.made in EYED and not joint.rating_n:
            out.append(f"what goes into the {joint.made} at {words}: no rating is given")
    return tuple(out)


def sized_joints(
    saved: FrameArm, cases: Sequence[JointCase], metal: Metal, factors: DesignFactors, eyes: Mapping[str, Eye]
) -> tuple[FrameJoint, ...]:
    """Its joints with the least bolt, wall and tabs that hold; the stoutest tried where none does.

    Args:
        saved: the arm.
        cases: what its joints see.
        metal: of sleeves, cups and tabs.
        factors: the design's.
        eyes: what is held at its tabs, where the job has it.
    """
    return tuple(_sized(joint, cases, metal, factors, eyes.get(joint.point)) for joint in saved.joints)


def _sized(
    joint: FrameJoint, cases: Sequence[JointCase], metal: Metal, factors: DesignFactors, eye: Eye | None
) -> FrameJoint:
    if joint.made not in BOLTED:
        return joint
    pin = joint.pin or usual_pin(joint.made, joint.face_mm)
    assert pin
    tabs = joint.made == "pair of tabs"
    widths: tuple[float, ...] = (eye.bore_mm,) if tabs and eye else USUAL_BOLTS
    if tabs and eye:
        pin = pin.model_copy(update={"between_mm": eye.ball_width_mm})
    tried = joint
    for bolt in widths:
        for grade in ("8.8", "10.9", "12.9"):
            for thick in USUAL_TABS if tabs else USUAL_WALLS:
                if not tabs and thick >= joint.face_mm - bolt / 2:
                    continue  # no room for a bush round the bolt
                change: dict[str, Any] = {"bolt_mm": bolt, "bolt_class": grade}
                change |= (
                    {"plate_mm": thick, "head_mm": max(pin.head_mm, ROUND_BOLT * bolt)} if tabs else {"wall_mm": thick}
                )
                tried = joint.model_copy(update={"pin": pin.model_copy(update=change)})
                if all(check.passed for check in joint_checks(tried, cases, metal, factors)):
                    return tried
    return tried
