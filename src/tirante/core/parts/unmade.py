"""Joints of bodies that no part of a job is made for: a swing axle's own pivots, a leaf's eye, what an arm carries at its outer joint.

A bracket may hold those that turn on the chassis, once what it clamps is given with the end; of all others it is said by name what they stand in.
"""

from __future__ import annotations

from collections.abc import Iterator, Set
from contextlib import suppress
from dataclasses import dataclass
from typing import Any

from tirante.core.document.end import End
from tirante.core.document.joints import HeldJoint, PointOfBody
from tirante.core.document.parts.common import Side
from tirante.core.document.template import GROUND, RACK, HingeJoint, Joint, LinkJoint, SliderJoint, Template
from tirante.core.errors import InputError
from tirante.core.loads.case_seen import CaseSeen
from tirante.core.loads.envelope import envelope
from tirante.core.parts.around import Around, not_carried
from tirante.core.parts.body import COPIES, body_places, seen_of
from tirante.core.parts.feet import TurnsAbout
from tirante.core.parts.held_body import MOST_CASES, cases_at, line_of
from tirante.core.parts.joint import HeldEnd
from tirante.core.suspension.moving import moving

SIZES = "Give the sizes of what is clamped there first: a bracket is proportioned to the bolt."
SLIDES = "Nothing here makes what holds the ends of a slide, or the top of a strut: its maker’s mount, or plates of your own."
NOT_CHECKED = ("the bush or ball that is bought with it: its maker’s",)


@dataclass(frozen=True, slots=True, kw_only=True)
class Unmade:
    """A joint of a body that no part stands for. It is asked for its loads as a part of that body would be."""

    of_end: str
    body: str  # that moves
    holder: str  # that it is held by
    point: str
    joint: str  # of the template
    side: Side
    bracket: bool  # whether a bracket may hold it
    elsewhere: str = ""  # what holds it that is made or bought otherwise
    missing: str = ""  # why nothing here makes what holds it
    seat: bool = False  # whether it is clamped on a seat, as a leaf is on its axle
    shaft: bool = False  # a drive shaft’s own joint
    alone: bool = True  # whether its joint stands at this one point
    plate_of: tuple[str, str] | None = None

    @property
    def held(self) -> PointOfBody:
        """As a joint of the job names it."""
        return PointOfBody(end_id=self.of_end, body=self.holder, point=self.point)

    @property
    def name(self) -> str:
        """The body, as a person says it."""
        return _words(self.body)

    @property
    def words(self) -> str:
        """Which joint of it, as a person says it."""
        return self.joint if self.alone else f"{self.joint} ({self.point.replace('_', ' ')})"


def unmade_joints(
    end_id: str, template: Template, end: End, parts: Set[str], makes: Set[str], known: Set[str]
) -> Iterator[Unmade]:
    """Every joint of an end, links aside, that no part of the job answers for.

    Args:
        end_id: of the end.
        template: with its additions.
        end: as it stands.
        parts: bodies that a part of the job stands for.
        makes: bodies that some kind of part can stand for.
        known: points that are joints of parts, or the bearings of one, already.
    """
    carries = {one.name for one in moving(template, end) if one.sort == "carrier"}
    for joint in template.joints:
        if isinstance(joint, LinkJoint):
            yield from _of_shaft(end_id, template, joint) if joint.shaft else ()
            continue
        body, holder = _sorted(joint, carries)
        if body in makes - parts or holder in makes - parts:
            continue  # a part that is still to be made will answer for it
        side = _side(template, joint)
        if isinstance(joint, SliderJoint):
            # what runs along it is one with the body that it is on: only what stands on the chassis is held
            for place in joint.places:
                if place.body == GROUND:
                    yield Unmade(of_end=end_id, body=body, holder=GROUND, point=place.point, joint=joint.name, side=side, alone=False, bracket=False, missing=SLIDES)  # fmt: skip
            continue
        if any(place.point in known for place in joint.places):
            continue
        points = joint.points if isinstance(joint, HingeJoint) else (joint.places[0].point,)
        for point in points:
            yield Unmade(of_end=end_id, body=body, holder=holder, point=point, joint=joint.name, side=side, alone=len(points) == 1, **_how(template, joint, body, holder, parts))  # fmt: skip


def _of_shaft(end_id: str, template: Template, joint: LinkJoint) -> Iterator[Unmade]:
    for place in joint.places:
        what = "the final drive, which is bought" if place.body in (GROUND, RACK) else "the wheel’s hub, which is bought"  # fmt: skip
        yield Unmade(of_end=end_id, body=joint.name, holder=place.body, point=place.point, joint="its joint", side=_side(template, joint), bracket=False, shaft=True, alone=False, elsewhere=what)  # fmt: skip


def _sorted(joint: Joint, carries: Set[str]) -> tuple[str, str]:
    """Of the two bodies that a joint ties, the one that is held, and the one that holds it."""
    one, two = joint.bodies_tied
    holds = two if two in (GROUND, RACK) else one if one in (GROUND, RACK) else None
    if holds is None:
        # what is hinged on another is held by that; else what carries the wheel holds the other
        on = getattr(joint, "on", None)
        holds = on or (two if two in carries else one)
    return (one if holds == two else two), holds


def _how(template: Template, joint: Joint, body: str, holder: str, parts: Set[str]) -> dict[str, Any]:
    if holder == GROUND:
        return {"bracket": True}
    # a bought body that hangs at another joint too, and that what carries the wheel clamps: a leaf, by its model
    hangs = any(body in one.bodies_tied for one in template.joints if one.name != joint.name)
    if joint.kind == "bush" and body in template.bought and hangs and body not in parts:
        return {"bracket": False, "seat": True}
    return {"bracket": False, "elsewhere": f"the {_words(holder)}" + ("" if holder in parts else ", which is not made here")}  # fmt: skip


def _words(body: str) -> str:
    return body.replace("_", " ")


def _side(template: Template, joint: Joint) -> Side:
    return "centre" if template.axle == "beam" and not joint.pair else "pair"


def turns_about(one: Unmade, around: Around) -> TurnsAbout | None:
    """The line that it turns about; None of a ball, or where its end cannot be put together.

    Args:
        one: the joint.
        around: the job.
    """
    with suppress(InputError):
        place = next((p for p in body_places(one, one.body, around) if p.point == one.point), None)
        return line_of(place) if place else None
    return None


def held_unmade(one: Unmade, joint: HeldJoint, side: Side, around: Around) -> HeldEnd | None:
    """What it clamps and sees; None where no bracket holds it, or its sizes are not given.

    Args:
        one: the joint.
        joint: of the job, that names it.
        side: of what holds it.
        around: the job.
    """
    end, at = around.ends.get(one.of_end), around.at_of(joint)
    row = end.eyes.get(one.point) if end else None
    if row is None or not one.bracket or at is None or at.bolt is None:
        return None
    cases: tuple[CaseSeen, ...] = ()
    told = not_carried(one.of_end, around)
    if around.has_loads():
        with suppress(InputError):  # told by not_carried
            place = next(p for p in body_places(one, one.body, around) if p.point == one.point)
            # a beam that is held on either side is one body: its right joint's cases are brought over
            seen = seen_of(one, one.body, around, either_side=one.side == "pair")
            kept = [case for case in seen.cases if case.copy in COPIES[side]]
            cases = tuple(envelope(list(cases_at(kept, place, at.bolt, row)))[:MOST_CASES])
            told += seen.left_out
    return HeldEnd(
        name=f"{around.end_name(one.of_end)} {one.name}, {one.words}", of_end=one.of_end, row=row, cases=cases, not_carried=told,
        not_checked=NOT_CHECKED,
    )  # fmt: skip
