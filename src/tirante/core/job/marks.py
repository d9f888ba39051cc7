"""How each station of a job stands: by the same lines that are to be settled, and full only when nothing is left out of its sheet.

Survey and build log by what was read and ticked, which is no part of the design."""

from __future__ import annotations

from typing import Literal

from tirante.core.document.design import Design
from tirante.core.job.results import CutListOut, EndMotionOut, HoldOut, NotMadeOut, PartOut, PlaceOut
from tirante.core.job.surveyed import Surveyed
from tirante.core.parts.plate_jig.kind import PlateJigOwn
from tirante.core.parts.registry import KINDS
from tirante.core.survey.net import CHECKED

Mark = Literal["untouched", "in hand", "good", "attention", "stop"]
_OF_HOLD: dict[str, Mark] = {"stop": "stop", "attention": "attention", "incomplete": "in hand"}
_GRAVEST: tuple[Mark, ...] = ("stop", "attention", "in hand")


def marks_of(
    design: Design, parts: list[PartOut], ends: list[EndMotionOut], holds: list[HoldOut], found: tuple[CutListOut, list[NotMadeOut], list[PlaceOut]],
) -> dict[str, Mark]:  # fmt: skip
    """The mark of each station that is built, by its name in an address.

    Args:
        design: of the job.
        parts: of it, worked out.
        ends: likewise.
        holds: all that is to be settled.
        found: the cut list, what is not made, and the places that a bracket may hold.
    """
    cut_list, not_made, places = found
    members = [part for part in parts if part.station == "members"]
    unfinished = any(part.status == "incomplete" for part in members)  # or not judged in every case
    left = any(one.can for one in not_made)  # moves, may be made here, and is not yet
    full: dict[str, Mark] = {
        "layout": "good" if design.ends else "untouched",
        "cycle": ("in hand" if any(end.not_watched for end in ends) else "good") if design.ends else "untouched",
        "loads": ("good" if design.ends else "in hand") if design.loads.cases else "untouched",
        "members": ("in hand" if left or unfinished else "good") if members else "untouched",
        "brackets": _brackets(parts, places),
        "jigs": _jigs(parts, members),
        "pack": ("in hand" if cut_list.left_out or left else "good")
        if cut_list.pieces or cut_list.items
        else "untouched",
    }
    for hold in holds:
        full[hold.station] = _worse(full.get(hold.station, "untouched"), _OF_HOLD[hold.state])
    if full["pack"] == "good" and any(part.status == "stop" for part in parts):
        full["pack"] = "attention"  # the list is whole, and something on it does not hold
    return full


def mark_of_survey(found: Surveyed) -> Mark:
    """How a survey stands: good only where every reading that counts fits, something checks each, and nothing is left free or mirrored.

    Args:
        found: worked out.
    """
    counted = [one for one in found.readings if one.back is None]
    if not counted:
        return "untouched"
    if found.more or any(one.suspect is not None or one.lost for one in counted):
        return "attention"
    if found.found is None or found.found.free or found.mirrored:
        return "in hand"
    return "good" if all(one.checked and one.checked.redundancy >= CHECKED for one in counted) else "in hand"


def mark_of_build(begun: int, askew: int, unsigned: int, left: int) -> Mark:
    """How a build stands.

    Args:
        begun: hands of parts that anything was done to.
        askew: of them, that do not fit or hold as the job now stands, or of which it cannot be told.
        unsigned: hands of parts that were worked on past a hold that nobody signed.
        left: hands of parts with a step that is not done, and parts that cannot be made yet.
    """
    if not begun:
        return "untouched"
    if askew or unsigned:
        return "attention"
    return "in hand" if left else "good"


def _brackets(parts: list[PartOut], places: list[PlaceOut]) -> Mark:
    made = [part for part in parts if part.station == "brackets"]
    if not made:
        return "untouched"
    lacking = any(not place.settled for place in places) or any(part.status == "incomplete" for part in made)
    return "in hand" if lacking else "good"


def _jigs(parts: list[PartOut], members: list[PartOut]) -> Mark:
    """By the members that a jig holds, of plate and posts or a link's own rail."""
    made = {part.own.holds_id for part in parts if isinstance(part.own, PlateJigOwn) and part.complete}
    done = [
        part.jig is not None or part.id in made
        for part in members
        if not KINDS[part.kind].bought and KINDS[part.kind].welded
    ]
    if any(part.station == "jigs" and part.status == "incomplete" for part in parts):
        return "in hand"
    if not any(done):
        return "untouched"
    return "good" if all(done) else "in hand"


def _worse(one: Mark, other: Mark) -> Mark:
    return next((mark for mark in _GRAVEST if mark in (one, other)), other)
