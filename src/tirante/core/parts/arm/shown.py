"""An arm as it is shown: flat in its plane, what its tubes are sawn to, and which rod ends go into it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

import numpy as np

from tirante.core.checks.result import CheckResult
from tirante.core.checks.shown import check_out
from tirante.core.document.catalogue import Catalogue, Grade, Tube
from tirante.core.document.parts.arm import Arm
from tirante.core.drawing.model import Drawing, Tone
from tirante.core.drawing.sheet import Numbers, SheetPoint
from tirante.core.parts.arm.frame import BRACE, TUBES
from tirante.core.parts.arm.judged import ArmResult
from tirante.core.parts.arm.view import ArmDrawn, ArmTube, arm_sheet
from tirante.core.parts.link.sizing import hardware


def _in_plane(found: ArmResult) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """The first pivot, the way along the pivots and the way square to it to the outer joint, each of length 1."""
    one, two, outer = found.frames[0].nodes[:3]
    along = (two - one) / np.linalg.norm(two - one)
    square = outer - one - along * float((outer - one) @ along)
    return one, along, square / np.linalg.norm(square)


def reach_of(found: ArmResult) -> float:
    """From the line of an arm's pivots to its outer joint [mm]."""
    one, _, square = _in_plane(found)
    return float((found.frames[0].nodes[2] - one) @ square)


def arm_drawing(
    arm: Arm, tube: Tube, found: ArmResult, saw: Mapping[str, float], checks: Sequence[CheckResult], numbers: Numbers
) -> Drawing:
    """The arm in its plane, the pivots level, each tube with its worst check.

    Args:
        arm: as it is saved.
        tube: the stock of its tubes.
        found: the arm, carried.
        saw: what each tube is sawn to [mm]; none while the arm is not complete.
        checks: of it, weakest first.
        numbers: how lengths are written.
    """
    frame = found.frames[0]
    one, two, outer = frame.nodes[:3]
    _, along, square = _in_plane(found)

    def flat(place: np.ndarray) -> SheetPoint:
        d = place - one
        return float(d @ along), float(d @ square)

    named = {name: (one, outer) if name == TUBES[0] else (two, outer) for name in TUBES}
    if arm.brace_at is not None:
        named[BRACE] = (one + arm.brace_at * (outer - one), two + arm.brace_at * (outer - two))
    tubes = []
    for name, (a, b) in named.items():
        own = [check for check in checks if check.key in (f"frame_weld:{name}", f"frame_column:{name}")]
        worst = max(own, key=lambda c: c.utilisation or 0.0, default=None)
        told = check_out(worst) if worst else None
        tone: Tone = (
            "red" if told and told.state == "stop" else "amber" if told and told.state == "attention" else "ink"
        )
        tubes.append(
            ArmTube(
                name=name, a=flat(a), b=flat(b), od=tube.od_mm, saw=saw.get(name) if name in TUBES else None, shown=told.shown if told else "–",
                tone=tone, ref=f"check:{worst.key}" if worst else f"tube:{name}",
            )
        )  # fmt: skip
    plate = (flat(frame.nodes[frame.plate[0]]), flat(frame.nodes[frame.plate[1]])) if frame.plate else None
    others = [(flat(frame.nodes[i]), what.split(",")[0]) for i, what in frame.acting]
    pivots = [(flat(at), name.replace("_", " ")) for at, name in zip((one, two), found.places.pivots, strict=True)]
    return arm_sheet(
        ArmDrawn(
            title=arm.name, pivots=(pivots[0], pivots[1]), outer=(flat(outer), found.places.outer), tubes=tuple(tubes), gusset=plate,
            acting=tuple(others), pivot_radius=arm.pivot_face_mm, outer_radius=arm.outer_face_mm,
        ),
        numbers,
    )  # fmt: skip


def hardware_offers(arm: Arm, own: Catalogue, shelf: Catalogue) -> dict[str, list[str]]:
    """Joints, inserts and nuts that fit the arm's tube and each other; those chosen narrow what else is offered.

    Args:
        arm: as it is saved.
        own: the design’s catalogue.
        shelf: the shop’s catalogue.
    """
    tube = own.find("tubes", arm.tube) if arm.tube else None
    grade = own.find("grades", arm.grade) if arm.grade else None
    out: dict[str, list[str]] = {"joints": [], "inserts": [], "nuts": []}
    if not isinstance(tube, Tube) or not isinstance(grade, Grade):
        return out
    end = arm.pivot_end
    for joint, insert, nut in hardware(tube, grade, [end.hand], shelf):
        fits = {
            "joints": True,
            "inserts": end.joint in (None, joint.key),
            "nuts": end.joint in (None, joint.key) and end.insert in (None, insert.key),
        }
        for kind, row in (("joints", joint), ("inserts", insert), ("nuts", nut)):
            if fits[kind] and row.key not in out[kind]:
                out[kind].append(row.key)
    return out
