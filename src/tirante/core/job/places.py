"""Every place of a job that a bracket may hold: ends of its parts, whatever their kind, and the eyes of its dampers and straps, pads of its stops."""

from __future__ import annotations

from typing import Any

from tirante.core.document.end import DAMPER, SPRING
from tirante.core.document.joints import Held, HeldJoint, PointOfBody
from tirante.core.document.parts.common import Side
from tirante.core.document.parts.saved import SavedPart
from tirante.core.job.results import Family, PlaceOut
from tirante.core.job.worked import Worked
from tirante.core.parts.eyes import STRAP_ENDS, path_of_eye, places_of_damper
from tirante.core.parts.feet import where_told
from tirante.core.parts.registry import KINDS, kind_of
from tirante.core.parts.stands import At, Stand, bolt_told
from tirante.core.parts.unmade import SIZES, Unmade

RACK = "the rack, which is bought with its own ends"
STEERING_ARM = "the arm of the steering box, which is bought"
_NO_ID = "00000000-0000-4000-8000-000000000000"  # of a joint that is only asked about


def _bought(job: Worked, at: At | None) -> str:
    """What is bought that a place is on; empty: nothing."""
    if at is None or at.end_id is None or at.body != "rack":
        return ""
    return STEERING_ARM if job.ends[at.end_id].steering else RACK


def _elsewhere(job: Worked, own_plates: SavedPart | None, at: At | None, unmade: Unmade | None) -> str:
    """What holds a place that is no bracket; empty: nothing does."""
    if own_plates and not (unmade and unmade.shaft):
        return f"{own_plates.name}’s own plates"
    return _bought(job, at) or (unmade.elsewhere if unmade else "")


def places_of(job: Worked) -> list[PlaceOut]:
    """All of them, in the order of parts and ends, with what holds each.

    Args:
        job: worked out.
    """
    known: dict[Held, HeldJoint] = {joint.held: joint for joint in job.design.joints}
    found: list[PlaceOut] = []

    def add(
        held: Held, of: str, name: str, own: str, side: Side, missing: str | None, together: bool, family: Family = "tab_pair", unmade: Unmade | None = None, sized: str | None = None
    ) -> None:  # fmt: skip
        joint = known.get(held) or HeldJoint(id=_NO_ID, held=held)
        end = job.held_end(joint) if family == "tab_pair" else None
        there = missing is None if family != "tab_pair" else end is not None
        forked = end is not None and end.fork is not None
        own_plates = job.holds_itself(joint)
        stands = job.foot_of(joint) if own_plates is None else None
        more: dict[str, Any] = {"on": stands[0].id, "where": where_told(stands[1])} if stands else {}
        at = job.at_of(joint)
        if at is not None:
            x, y, z = (float(v) for v in at.at)
            # what lies on a seat or strikes a pad has no bolt; a bearing's line is told
            more |= {"at": (x, y, z), "bolt": bolt_told(at) if family in ("tab_pair", "bearing_pad") else ""}
        if joint.by is None:
            more["elsewhere"] = _elsewhere(job, own_plates, at, unmade)
        more["sized"] = sized
        member = job.stand_of(joint) if family == "tab_pair" else None
        if isinstance(member, Stand):
            more["bolt"] = bolt_told(member.at)  # on an arm's tube it may lie otherwise than is best
        if isinstance(member, Stand) and joint.mount is not None:
            more |= {"mount": member.mount.id, "where": member.where}
        elif family != "tab_pair" and (mount := job.mount_of(joint)) is not None:
            more |= {"mount": mount.id, "where": mount.name}
        found.append(
            PlaceOut(held=held, of=of, name=name, id=own, by=joint.by, side=side, missing=None if there else missing, together=together and stands is None, family=family, makes=KINDS["single_tab" if forked else family].word, forked=forked, **more)
        )  # fmt: skip

    for saved in job.design.parts:
        kind = kind_of(saved)
        for at in kind.ends(saved):
            add(
                kind.held_at(saved, at),
                saved.name,
                kind.end_name(at),
                saved.id,
                saved.side,
                kind.end_lacks(saved, at),
                True,
            )
        for bearing in kind.bearings(saved, job):
            add(bearing.held, saved.name, bearing.name, saved.id, saved.side, bearing.missing, False, "bearing_pad")
    for end in job.design.ends:
        seated = {
            PointOfBody(end_id=end.id, body=place.body, point=place.point): f"{end.name} {SPRING if unit == DAMPER else unit}, {which} end"
            for unit, spring in end.end.seated.items()
            for which, place in zip(("upper", "lower"), spring.places, strict=True)
        }  # fmt: skip
        for name, held in places_of_damper(end.id, end.end):
            if held in seated:
                add(held, seated[held], "its seat", end.id, "pair", None, False, "spring_seat")
                continue
            strap = name in STRAP_ENDS
            missing = f"Give the eye’s sizes first, here or at Layout, under {'Stops' if strap else 'Damper'}."
            add(
                held,
                f"{end.name} {'strap' if strap else 'damper'}",
                name,
                end.id,
                "pair",
                missing,
                False,
                sized=path_of_eye(held, end.end),
            )
        stop = end.end.bump_stop
        if stop and not stop.pad_link:
            held = PointOfBody(end_id=end.id, body=stop.pad.body, point=stop.pad.point)
            add(held, f"{end.name} bump stop", "its pad", end.id, "pair", None, False, "strike_pad")
    names = {end.id: end.name for end in job.design.ends}
    for one in job.unmade():
        lacks = None if one.seat else one.missing or SIZES
        add(one.held, f"{names[one.of_end]} {one.name}", one.words, one.of_end, one.side, lacks, False, "leaf_perch" if one.seat else "tab_pair", one, f"eyes/{one.point}" if one.bracket else None)  # fmt: skip
    return found
