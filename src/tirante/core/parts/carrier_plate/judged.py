"""A plate on a carrier under every load case: its arm, its eye and the bolt through it, its bolts or its weld; and how long it lasts.

The force of every joint at its eye is taken whole, off the plate's middle by as much as the joint stands. What pushes along a pin that
two plates hold is taken whole by either of them: which shoulder takes it is not known. Not covered: the face or the
tube that it is fastened to, its bolts' clamping, weld quality, impact.

Source:
    As a rocker's arm (`parts/plate_eye`), with the root's bolts as a group (`brackets/root_bolts`) or two fillets as lines (Blodgett);
    classes of EN 1993-1-9, from memory: plate with a hole 90, plate at the end of a cruciform weld 71, root of the weld 36.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from itertools import combinations_with_replacement

import numpy as np

from tirante.core.brackets import bolt as bolts
from tirante.core.brackets.plate_arm import EyeForce, plate_stress
from tirante.core.brackets.root_bolts import root_bolt_use
from tirante.core.brackets.weld_group import Run, weld_group
from tirante.core.checks.kinds import asked
from tirante.core.checks.result import CheckResult, Reproduction
from tirante.core.document.parts.carrier_plate import CarrierPlate
from tirante.core.document.settings import Settings
from tirante.core.loads.on_body import AtPlace, BodyCase
from tirante.core.members import fatigue
from tirante.core.members.insert_weld import SHEAR_OF_ELECTRODE, THROAT_OF_LEG
from tirante.core.parts.carrier_plate.shape import Array, PlateShape
from tirante.core.parts.plate_eye import HOLE_CLASS, PlateEye, eye_checks, in_plane
from tirante.core.parts.rocker.shape import FIT
from tirante.core.parts.welded.life import Weakest
from tirante.core.parts.worst import worst_case

TOE_CLASS = 71.0  # MPa at 2 million cycles: plate at the toe of a cruciform joint, 50 to 80 mm; EN 1993-1-9 Table 8.5, from memory
A_MOMENT = 1e-3  # of what the force would make over the plate's length: more than that is one that a single plate does not take


@dataclass(frozen=True, slots=True, kw_only=True)
class PlateCase:
    """A plate in one case: what pulls at its eye, from the root's side."""

    case: str
    where: str
    copy: str
    eyes: Mapping[str, EyeForce]
    moment: float  # that its joints pass beside their force [N·mm]


def in_its_plane(saved: CarrierPlate, shape: PlateShape, cases: Sequence[BodyCase]) -> list[PlateCase]:
    """Every case in the plate's own plane.

    Args:
        saved: as it is saved.
        shape: of it.
        cases: what acts on the body that it is a plate of.
    """
    found = []
    for case in cases:
        own = [act for act in case.acting if act.place == saved.point]
        whole = sum((act.force for act in own), np.zeros(3)) + _thrust(shape, own, case)
        force = shape.axes @ whole
        moment = float(np.linalg.norm(sum((act.moment for act in own), np.zeros(3))))
        eye = EyeForce(along=float(force[0]), across=float(force[1]), out=float(force[2]), off=shape.off)
        found.append(
            PlateCase(case=case.case, where=case.where, copy=case.copy, eyes={saved.point: eye}, moment=moment)
        )
    return found


def _thrust(shape: PlateShape, own: Sequence[AtPlace], case: BodyCase) -> Array:
    """What the other point of the same pin is given of the push along it."""
    if shape.pin is None:
        return np.zeros(3)
    line = np.array(shape.pin) / np.linalg.norm(shape.pin)
    pins = {act.what for act in own}
    others = [
        act for act in case.acting if act.place is not None and act.what in pins and all(act is not one for one in own)
    ]
    along: Array = line * float(line @ sum((act.force for act in others), np.zeros(3)))
    return along


def passes_a_moment(saved: CarrierPlate, shape: PlateShape, cases: Sequence[PlateCase]) -> str | None:
    """The case in which its joints pass a moment as well, which one plate does not take; None where they do in none.

    Args:
        saved: as it is saved.
        shape: of it.
        cases: that it sees.
    """
    return next(
        (one.case for one in cases if one.moment > A_MOMENT * max(one.eyes[saved.point].size, 1.0) * shape.reach), None
    )


def eye_of(saved: CarrierPlate, shape: PlateShape) -> PlateEye:
    """Its eye; the bolt is bent by as much as the joint stands off the plate.

    Args:
        saved: as it is saved.
        shape: of it.
    """
    stands = 2 * max(0.0, abs(shape.off) - saved.plate_mm / 2)
    stack = bolts.PinStack(ball_width=stands, gap=0.0, plate=saved.plate_mm, planes=1)
    return PlateEye(
        point=saved.point, words=shape.words, arm=shape.arm(saved), yield_mpa=saved.yield_mpa, uts_mpa=saved.uts_mpa, pin_mm=saved.pin_mm,
        pin_class=saved.pin_class, stack=stack, fit=FIT, net_name="through its nearer bolt" if saved.fastened == "two bolts" else "at its weld",
    )  # fmt: skip


def plate_checks(
    saved: CarrierPlate, shape: PlateShape, cases: Sequence[PlateCase], settings: Settings
) -> list[CheckResult]:
    """All its checks; loads are factored before each.

    Args:
        saved: as it is saved.
        shape: of it.
        cases: that it sees.
        settings: factors, electrode.
    """
    return [
        *eye_checks(eye_of(saved, shape), cases, settings.factors),
        *_root_checks(saved, shape, cases, settings),
    ]


def _root_checks(
    saved: CarrierPlate, shape: PlateShape, cases: Sequence[PlateCase], settings: Settings
) -> Iterator[CheckResult]:
    def times(force: EyeForce, factor: float) -> EyeForce:
        return EyeForce(along=force.along * factor, across=force.across * factor, out=force.out * factor, off=force.off)

    if saved.fastened == "two bolts":
        kind, pair = asked("root_bolts", "root", settings.factors), shape.bolts(saved)
        material = bolts.bolt_class(saved.bolt_class, saved.bolt_mm)

        def used(one: PlateCase) -> tuple[float, Reproduction, float]:
            force = times(one.eyes[saved.point], kind.factor)
            data = {
                "diameter_mm": pair.diameter, "class": saved.bolt_class, "apart_mm": pair.apart, "reach_mm": pair.reach, "width_mm": pair.width,
                "along_n": force.along, "across_n": force.across, "out_n": force.out, "off_mm": force.off,
            }  # fmt: skip
            return (
                root_bolt_use(pair, material, force),
                Reproduction(topic="root-bolts", input=data, output="use", figure="demand"),
                1.0,
            )

        yield worst_case(kind, cases, used)
        return
    kind = asked("root_weld", "root", settings.factors)
    runs, leg = root_runs(saved), min(saved.leg_mm, saved.plate_mm)

    def stressed(one: PlateCase) -> tuple[float, Reproduction, float]:
        at, force = on_its_weld(shape, times(one.eyes[saved.point], kind.factor))
        data = {
            "segments": [list(run) for run in runs], "leg_mm": leg, "force_n": list(force), "at_mm": list(at),
            "electrode_uts_mpa": settings.electrode_uts_mpa,
        }  # fmt: skip
        stress = weld_group(runs, force, at).max_line_force / (THROAT_OF_LEG * leg)
        again = Reproduction(topic="weld", input=data, output="throat_stress_max_mpa", figure="demand")
        return stress, again, SHEAR_OF_ELECTRODE * settings.electrode_uts_mpa

    yield worst_case(kind, cases, stressed)


def root_runs(saved: CarrierPlate) -> list[Run]:
    """The two fillets of a welded root, one on either face, in the plane that they are laid in."""
    half, face = saved.root_width_mm / 2, saved.plate_mm / 2
    return [(-half, way * face, half, way * face) for way in (1.0, -1.0)]


def on_its_weld(
    shape: PlateShape, force: EyeForce
) -> tuple[tuple[float, float, float], tuple[float, float, float]]:  # fmt: skip
    """Where a force acts seen from the weld (across the plate, square to it, out along it), and its parts that way.

    Args:
        shape: of the plate.
        force: at its eye.
    """
    return (0.0, force.off, shape.reach), (force.across, force.out, force.along)


def plate_life(
    saved: CarrierPlate, shape: PlateShape, days: Sequence[PlateCase], settings: Settings, target: float
) -> list[CheckResult]:
    """The life of its arm, of its eye and of its weld, the worse of either side of the car.

    Args:
        saved: as it is saved.
        shape: of it.
        days: the everyday cases.
        settings: the spectrum.
        target: cycles that are wanted.
    """
    weakest, eye = Weakest(fatigue.STEEL, settings, target), eye_of(saved, shape)
    welded = saved.fastened == "weld"
    leg = min(saved.leg_mm, saved.plate_mm)
    for one, two in combinations_with_replacement(days, 2):
        if one.copy != two.copy or one is two:
            continue
        a, b = one.eyes[saved.point], two.eyes[saved.point]
        between = EyeForce(along=a.along - b.along, across=a.across - b.across, out=a.out - b.out, off=a.off)
        found = plate_stress(eye.arm, between)
        at_root = (
            ("plate at its weld", max(found.worst, found.net), TOE_CLASS)
            if welded
            else ("plate at its nearer bolt", max(found.worst, found.net), HOLE_CLASS)
        )
        weakest.look("plate", (*at_root, False))
        weakest.look("eye", ("plate beside its hole", in_plane(between) / eye.beside, HOLE_CLASS, False))
        if welded:
            at, force = on_its_weld(shape, between)
            line = weld_group(root_runs(saved), force, at).max_line_force
            weakest.look("weld", ("root of its weld", line / (THROAT_OF_LEG * leg), fatigue.THROAT_CLASS, False))
    return weakest.results()
