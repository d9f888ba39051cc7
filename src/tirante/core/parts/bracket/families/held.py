"""What a bracket holds, worked out, and what does not go together with it: alike for every family."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any

from tirante.core.document.fields import Length
from tirante.core.document.joints import HeldJoint, PointOfBody
from tirante.core.errors import NotApplicable
from tirante.core.parts.around import Around
from tirante.core.parts.bracket.families.tab_sizing import bolt_of, spacer_of
from tirante.core.parts.joint import ForkMade, JointMade, misfits
from tirante.core.parts.part import Misfit
from tirante.core.parts.stands import Stand, leans_out, pull_angle

LEANS = 1.0  # °: a pull that leans by more out of the plates' plane is told
UNLIKE = "The ends that it holds have different balls, so one pattern cannot hold them all. Give one of them a bracket of its own."


IN_A_FORK = "It ends in a clevis: a single tab goes between its ears, and plates to either side of it hold nothing. Make it a single tab."
NO_CLEVIS = (
    "A single tab goes between the ears of a clevis, and this is an eye. Make it a tab pair, or the end a clevis."
)


def joint_made(joint: HeldJoint, around: Around, single: float | None = None) -> JointMade | Misfit:
    """A joint that a bracket holds worked out; or what it lacks.

    Args:
        joint: of the job.
        around: the job.
        single: thickness of the one plate of it that goes between a clevis's ears [mm]; None: plates stand to either side of an eye.
    """
    held, rows = around.held_end(joint), around.catalogue
    if held is None:
        message = (
            "The eye that it holds is not known. Give its sizes at its joint, in the list of Brackets, or let it go."
            if isinstance(joint.held, PointOfBody)
            else "The end that it holds has no joint yet. Choose that first, at its own part."
        )
        return Misfit(field="joints", message=message)
    if (held.fork is None) != (single is None):
        return Misfit(field="joints", message=NO_CLEVIS if held.fork is None else IN_A_FORK)
    if single is not None:
        return ForkMade(joint=joint, held=held, bolt=bolt_of(joint.bolt, rows), spacer=None, plate=single)
    return JointMade(joint=joint, held=held, bolt=bolt_of(joint.bolt, rows), spacer=spacer_of(joint.spacer, rows))


def go_in(made: Sequence[JointMade], hole: float) -> list[Misfit]:
    """What of its joints does not go in a bracket of one pattern.

    Args:
        made: its joints.
        hole: in its plates [mm].
    """
    if len({(one.held.row.bore_mm, one.held.row.ball_width_mm) for one in made}) > 1:
        return [Misfit(field="joints", message=UNLIKE)]
    return list(dict.fromkeys(fault for one in made for fault in misfits(one, hole)))


def joints_held(
    part_id: str,
    hole: float,
    around: Around,
    at: Callable[[JointMade, Stand | None], list[Misfit]],
    single: float | None = None,
) -> tuple[list[JointMade], list[Stand | None], list[Misfit]]:
    """The joints that a bracket holds worked out, where each stands on a mount, and what does not go together with it.

    Args:
        part_id: the bracket.
        hole: in its plates [mm].
        around: the job.
        at: what does not go together at a joint of it, by the joint and where it stands.
        single: as of `joint_made`.
    """
    made: list[JointMade] = []
    on: list[Stand | None] = []
    joints = around.held_by(part_id)
    faults = [] if joints else [Misfit(field="joints", message="It holds nothing yet. Say which end it holds.")]
    for joint in joints:
        one, stand = joint_made(joint, around, single), around.stand_of(joint)
        if isinstance(stand, NotApplicable):
            faults.append(Misfit(field="mount", message=stand.message))
        if isinstance(one, Misfit):
            faults.append(one)
            continue
        made.append(one)
        on.append(stand if isinstance(stand, Stand) else None)
        faults += at(one, on[-1])
    return made, on, list(dict.fromkeys([*faults, *go_in(made, hole)]))


def over_a_tube(stand: Stand) -> dict[str, Any]:
    """Of a bracket that goes over a round tube or round it, what follows from where it stands: tube, height from its middle, wall, angle of the pull.

    Args:
        stand: where, on a round tube.
    """
    one = stand.standing
    assert one.tube_od
    change: dict[str, Any] = {
        "tube_od": Length(mm=round(one.tube_od, 4)), "height": Length(mm=round(one.height + one.tube_od / 2, 2)), "height_fixed": True,
        "wall_mm": stand.mount.shape.wall_mm,
    }  # fmt: skip
    angle = pull_angle(stand)
    return change if angle is None else change | {"load_angle_deg": round(angle, 1)}


def leans_too_far(made: JointMade, stand: Stand) -> list[Misfit]:
    """Whether what is held leans out of the plates further than its joint may tilt, at ride height.

    Args:
        made: the joint.
        stand: where.
    """
    limit, lean = made.tilt_limit_deg, leans_out(stand)
    if limit is None or lean <= limit or stand.at.hinged:
        return []
    return [Misfit(field="bolt_axis", message=f"At ride height what it holds leans {lean:.0f}° out of its plates, and its joint may tilt {limit:g}°. Turn the bolt, or take a joint that tilts further.")]  # fmt: skip


def leaning_told(stand: Stand) -> list[str]:
    """What of a pull that leans out of the plates no check looks at.

    Args:
        stand: where.
    """
    lean = leans_out(stand)
    if lean <= LEANS:
        return []
    return [f"what pulls along the bolt: the pull leans {lean:.0f}° out of the plates’ plane at ride height; what that puts along the bolt is taken at its own tilt in every case"]  # fmt: skip
