"""Rod ends at an arm's pivots: each side of the arm seen as a link, so that thread, insert and joint are checked as a link's are.

A side runs from a pivot, where a rod end adjusts it by half turns, to the outer joint. It carries what the frame puts
along its tube at the pivot, and across it what bends the shank.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from tirante.core.checks.result import CheckResult
from tirante.core.document.catalogue import Catalogue, Grade, Insert, Joint, Nut, Tube
from tirante.core.document.fields import Length
from tirante.core.document.parts.arm import Arm
from tirante.core.document.parts.common import CentreToCentre, RodEndEnd
from tirante.core.document.parts.link import FixedEnd, Link
from tirante.core.document.settings import Settings
from tirante.core.errors import InputError
from tirante.core.loads.case_seen import CaseSeen
from tirante.core.loads.end_loads import Carried
from tirante.core.loads.envelope import envelope
from tirante.core.members.link_stack import LinkStack
from tirante.core.members.thread import parse_thread
from tirante.core.parts.arm.frame import TUBES, ArmFrame, ArmPlaces, sides_in
from tirante.core.parts.link.assembly import Assembly, ThreadedEnd, assemble, stack_of
from tirante.core.parts.link.checks import link_checks
from tirante.core.parts.link.sizing import hardware
from tirante.core.parts.part import Misfit


@dataclass(frozen=True, slots=True, kw_only=True)
class ArmSide:
    """One side of an arm, with its rod end."""

    pivot: str
    link: Link
    assembly: Assembly
    stack: LinkStack
    checks: tuple[CheckResult, ...]  # of thread, joint and insert; the tube's are the frame's


def side_cases(every: Sequence[ArmFrame], which: int) -> tuple[CaseSeen, ...]:
    """What a pivot sees, of all cases those that can govern."""
    found = [
        CaseSeen(
            name=one.case[:80], at=one.where, worked=True, axial_n=float(one.at_pivot[0, which, 0]), side_n=float(one.at_pivot[0, which, 1])
        )
        for one in every
    ]  # fmt: skip
    return tuple(envelope(found)[:40])


def pivot_cases(arm: Arm, places: ArmPlaces, which: int, every: Sequence[Carried]) -> tuple[CaseSeen, ...]:
    """What a bush or bearing at a pivot puts into what holds it: square to the hinge's line, and along it as the side force.

    The force along the line is halved between the pivots, as the hinge has it: bushes that give share, joints with play leave it to one.

    Args:
        arm: as it is saved.
        places: its joints in its end's template.
        which: 0 the front pivot, 1 the rear one.
        every: case, carried by the end.
    """
    found = []
    for one in every:
        if one.forces is None or one.fault:
            continue
        for suffix in sides_in(one, arm):
            right = "_right" if suffix else ""
            front, rear = (one.forces.pivots[f"{point}{right}"] for point in places.pivots)
            line = (rear.at - front.at) / np.linalg.norm(rear.at - front.at)
            force = (front, rear)[which].force
            along = float(force @ line)
            name = one.name if not suffix or "right" in one.name else f"{one.name} (right)"
            found.append(
                CaseSeen(name=name[:80], at=one.where, worked=True, axial_n=float(np.linalg.norm(force - along * line)), side_n=abs(along))
            )  # fmt: skip
    return tuple(envelope(found)[:40])


def side_link(arm: Arm, which: int, length: float, end: RodEndEnd) -> Link:
    """A side of an arm as a link: rod end at the pivot, what does not adjust at the outer joint.

    Args:
        arm: as it is saved.
        which: 0 the front side, 1 the rear.
        length: joint centre to joint centre [mm].
        end: the rod end at the pivot.
    """
    outer = FixedEnd(what=arm.outer, centre_to_face=Length(mm=max(arm.outer_face_mm, 0.1)))
    return Link(
        id=arm.id, name=f"{arm.name}, {TUBES[which]}"[:80], side=arm.side, between=CentreToCentre(length=Length(mm=length)),
        tube=arm.tube, grade=arm.grade, end_a=end, end_b=outer, welding=arm.welding,
    )  # fmt: skip


def arm_sides_of(
    arm: Arm, places: ArmPlaces, every: Sequence[ArmFrame], catalogue: Catalogue, settings: Settings
) -> list[ArmSide] | list[Misfit]:
    """Both sides of an arm on rod ends, with their checks; or all that is missing or does not fit.

    Args:
        arm: as it is saved.
        places: its joints in its end’s template.
        every: the frame of every case and side.
        catalogue: rows that its keys lead to.
        settings: factors, schools and allowances of the shop.
    """
    out: list[ArmSide] = []
    for which, pivot in enumerate(places.pivots):
        link = side_link(arm, which, every[0].lengths[TUBES[which]], arm.pivot_end)
        assembly = assemble(link, catalogue, side_cases(every, which))
        if isinstance(assembly, list):
            return [Misfit(field=m.field.replace("end_a", "pivot_end"), message=m.message) for m in assembly]
        try:
            stack = stack_of(assembly, settings)
            checks = link_checks(assembly, stack, settings)
        except InputError as error:
            return [Misfit(field="pivot_end.joint", message=error.message)]
        own = tuple(check for check in checks if check.part.startswith("end "))
        out.append(ArmSide(pivot=pivot, link=link, assembly=assembly, stack=stack, checks=own))
    return out


def fitting_ends(
    arm: Arm, tube: Tube, grade: Grade, catalogue: Catalogue, settings: Settings
) -> list[tuple[Joint, Insert, Nut]]:
    """Joint, insert and nut that go into a tube at the pivots, the lightest joint first; an arm alone locates its wheel.

    Args:
        arm: as it is saved.
        tube: the stock of its tubes.
        grade: their metal.
        catalogue: to choose from.
        settings: the least thread of what locates.
    """
    least = settings.search.locating_thread_mm - 1e-6
    return sorted(
        (
            one
            for one in hardware(tube, grade, [arm.pivot_end.hand], catalogue)
            if parse_thread(one[0].designation).major >= least
        ),
        key=lambda s: (s[0].mass_kg, s[0].key, s[1].key, s[2].key),
    )


def size_ends(
    arm: Arm, every: Sequence[ArmFrame], tube: Tube, grade: Grade, catalogue: Catalogue, settings: Settings,
    lasts: Callable[[RodEndEnd, Sequence[ArmSide]], bool],
) -> RodEndEnd | None:  # fmt: skip
    """The lightest joint, insert and nut that hold at both pivots and last; None when none of the catalogue does.

    Args:
        arm: as it is saved.
        every: the frame of every case and side.
        tube: the stock of its tubes.
        grade: their metal.
        catalogue: rows that its keys lead to.
        settings: factors, schools and allowances of the shop.
        lasts: whether the arm goes through its everyday cycles with such an end at its pivots, the two sides given with it.
    """
    for joint, insert, nut in fitting_ends(arm, tube, grade, catalogue, settings):
        end = arm.pivot_end.model_copy(update={"joint": joint.key, "insert": insert.key, "nut": nut.key})
        rows = Catalogue(tubes=(tube,), grades=(grade,), joints=(joint,), inserts=(insert,), nuts=(nut,))
        sides = [_holds(arm, which, every, rows, end, settings) for which in (0, 1)]
        held = [side for side in sides if side is not None]
        if len(held) == 2 and lasts(end, held):
            return end
    return None


def _holds(
    arm: Arm, which: int, every: Sequence[ArmFrame], rows: Catalogue, end: RodEndEnd, settings: Settings
) -> ArmSide | None:
    link = side_link(arm, which, every[0].lengths[TUBES[which]], end)
    link = link.model_copy(update={"tube": rows.tubes[0].key, "grade": rows.grades[0].key})
    assembly = assemble(link, rows, side_cases(every, which))
    if isinstance(assembly, list) or not any(isinstance(one, ThreadedEnd) for one in assembly.ends):
        return None
    try:
        stack = stack_of(assembly, settings)
        checks = tuple(check for check in link_checks(assembly, stack, settings) if check.part.startswith("end "))
    except InputError:
        return None
    if not all(check.passed for check in checks):
        return None
    return ArmSide(pivot=TUBES[which], link=link, assembly=assembly, stack=stack, checks=checks)
