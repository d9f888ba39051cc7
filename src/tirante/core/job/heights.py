"""Ride height as it is measured on the finished car: a place of the chassis over the floor, beside what the layout has it at."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from tirante.core.document.built import BuiltEntry, HeightTaken
from tirante.core.document.survey import TakenBack
from tirante.core.document.template import GROUND, Template
from tirante.core.job.worked import Worked
from tirante.core.suspension.ride import as_it_stands


@dataclass(frozen=True, slots=True, kw_only=True)
class HeightSeen:
    """A height that was read, and what it was to be."""

    taken: HeightTaken
    back: TakenBack | None
    wanted: float | None  # [mm]; None: the place is not there any more
    inside: bool
    stands: bool  # whether it is the latest of its place that was not taken back
    says: str  # lengths in it as `numbers.told` takes them


def chassis_places(template: Template) -> tuple[str, ...]:
    """Places of an end that stand still on the chassis, in the template's order.

    Args:
        template: of the end.
    """
    held = {place.point for joint in template.joints for place in joint.places if place.body == GROUND}
    return tuple(point.name for point in template.points if point.name in held)


def height_wanted(job: Worked, end_id: str, place: str, side: str) -> float | None:
    """How high a place of the chassis stands over the floor as the layout has it at ride height [mm]; None where it is not there.

    The floor lies a loaded radius under the wheel's centre; the body is as much higher as it rises, and pitched about that centre.

    Args:
        job: worked out.
        end_id: of the end.
        place: of it.
        side: left or right.
    """
    if end_id not in job.ends:
        return None
    template, end = as_it_stands(job.template(end_id), job.ends[end_id])
    if place not in chassis_places(template):
        return None
    at = end.right_points.get(place) if side == "right" else None
    z = (at or end.points[place])[2]
    floor = end.points[template.roles.wheel_centre][2] - end.wheel.loaded_radius_mm
    return z - floor + end.ride.rise_mm


def heights_seen(job: Worked, entries: Sequence[BuiltEntry]) -> tuple[HeightSeen, ...]:
    """Every height that was read, as it came, against what was wanted.

    Args:
        job: worked out.
        entries: as they came.
    """
    back = {one.entry: one for one in entries if isinstance(one, TakenBack)}
    latest = {
        (one.end, one.side, one.place): one.id for one in entries if isinstance(one, HeightTaken) and one.id not in back
    }
    found = []
    for one in entries:
        if not isinstance(one, HeightTaken):
            continue
        wanted = height_wanted(job, one.end, one.place, one.side)
        off = None if wanted is None else one.read.mm - wanted
        inside = off is not None and abs(off) <= one.tolerance_mm + 1e-9
        found.append(HeightSeen(taken=one, back=back.get(one.id), wanted=wanted, inside=inside, stands=latest.get((one.end, one.side, one.place)) == one.id, says=_says(one, off, inside)))  # fmt: skip
    return tuple(found)


def _says(one: HeightTaken, off: float | None, inside: bool) -> str:
    if off is None:
        return "that place is not there any more"
    size = abs(off)
    if size < 0.05:
        return "within: as the layout has it"
    way = "high" if off > 0 else "low"
    if inside:
        return f"within: {size:.1f} mm too {way}"
    return f"out: {size:.1f} mm too {way}, {size - one.tolerance_mm:.1f} mm more than is let through"
