"""What a part that stands for a moving body asks of its job: where things stand on it, and what it sees."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from typing import Protocol

import numpy as np

from tirante.core.document.end import End
from tirante.core.document.parts.common import Side
from tirante.core.document.parts.saved import SavedPart
from tirante.core.document.template import LinkJoint, Template
from tirante.core.errors import InputError
from tirante.core.loads.case_seen import NotCarried
from tirante.core.loads.end_loads import UNHELD, Carried
from tirante.core.loads.on_body import AtPlace, BodyCase, seen_by_body
from tirante.core.parts.around import Around
from tirante.core.parts.part import Misfit
from tirante.core.suspension.assemble import mirrored
from tirante.core.suspension.on_body import OnBody, places_on

BALANCED = 1e-6  # of the largest that acts
COPIES: dict[Side, tuple[str, ...]] = {
    "left": ("", ", left"), "right": (", right",), "pair": ("", ", left", ", right"), "centre": ("", ", left", ", right"),
}  # fmt: skip
DAYS = "everyday cycles"
UNHELD_LIFE = NotCarried(case=DAYS, why=UNHELD)


class OfBody(Protocol):
    """Whoever stands for a body of an end: a part of the job, or a joint of what no part is made for."""

    @property
    def of_end(self) -> str | None:
        """The suspension end."""

    @property
    def side(self) -> Side:
        """Which of its bodies."""

    @property
    def plate_of(self) -> tuple[str, str] | None:
        """Of a plate on what is not made here: whose joint it is, body and point."""


@dataclass(frozen=True, slots=True, kw_only=True)
class BodySeen:
    """A body of an end: its places, the cases that load it, and those in which what holds it is not all known."""

    places: tuple[OnBody, ...]
    cases: tuple[BodyCase, ...]
    left_out: tuple[NotCarried, ...]
    not_known: NotCarried | None = None  # of everyday cases: why nothing says what it goes through


def body_places(saved: OfBody, body: str, around: Around) -> tuple[OnBody, ...]:
    """Of a body; as the right one has them where the part is made for the right alone.

    Args:
        saved: the part.
        body: of its end's template.
        around: the job.

    Raises:
        InputError: its end cannot be put together.
    """
    assert saved.of_end
    return places_on(around.template(saved.of_end), around.ends[saved.of_end], body, right=saved.side == "right")


def seen_of(saved: OfBody, body: str, around: Around, *, everyday: bool = False, either_side: bool = False) -> BodySeen:
    """What a part that stands for a body sees.

    Args:
        saved: the part.
        body: of its end's template.
        around: the job.
        everyday: the everyday cases instead of the load set's; faults of those are told, not raised.
        either_side: of a body in the middle of a beam, what it sees at its places on the left and, as their mirror image, at those
            on the right, each a case of its own.

    Raises:
        InputError: its end cannot be put together.
    """
    assert saved.of_end
    if saved.plate_of:  # what it is plated to counts too
        return _seen_of(saved, body, around, everyday=everyday, either_side=either_side)
    key = body, saved.side, everyday, either_side
    return around.once("seen on a body", saved.of_end, key, lambda: _seen_of(saved, body, around, everyday=everyday, either_side=either_side))  # fmt: skip


def _seen_of(saved: OfBody, body: str, around: Around, *, everyday: bool, either_side: bool) -> BodySeen:
    assert saved.of_end
    places = body_places(saved, body, around)
    not_known = None
    if everyday:
        try:
            found = around.everyday(saved.of_end).cases
        except InputError as error:
            return BodySeen(places=places, cases=(), left_out=(), not_known=NotCarried(case=DAYS, why=error.message))
        lacking = next((one for one in found if one.fault or one.forces is None), None)
        if lacking:
            why = f"{lacking.case.name}: {lacking.fault or 'not worked out'}"
            not_known = NotCarried(case=DAYS, why=why)
    else:
        found = around.carried(saved.of_end).cases
    once = either_side and around.template(saved.of_end).axle == "beam"
    every = [
        case
        for case in (_seen_on_either(saved, found, body, around) if once else seen_by_body(found, body, places))
        if case.copy in COPIES[saved.side]
    ]
    known = _known_at_plate(saved, found, around) if saved.plate_of else frozenset()
    unheld = [case for case in every if case.unbalanced > BALANCED and _of_whom(case) not in known]
    left_out = tuple(NotCarried(case=case.case, why=UNHELD) for case in unheld)
    good = tuple(case for case in every if all(case is not one for one in unheld))
    return BodySeen(places=places, cases=good, left_out=left_out, not_known=not_known)


def _seen_on_either(saved: OfBody, found: Sequence[Carried], body: str, around: Around) -> Iterator[BodyCase]:
    """Of a body that a beam has once, by its places on the left and by those on the right, brought over; of one that it has twice, its own."""
    assert saved.of_end
    template, end = around.template(saved.of_end), around.ends[saved.of_end]
    for side in ("left", "right"):
        places = places_on(template, end, body, right=side == "right")
        here = places if side == "left" else [replace(one, at=mirrored(one.at), bolt=one.bolt and mirrored(one.bolt)) for one in places]  # fmt: skip
        for case in seen_by_body(found, body, here, ", left" if side == "right" else ", right"):
            if case.copy:  # a body on either side is brought over by itself
                if side == "left":
                    yield case
                continue
            told = f", {side}"
            acting = case.acting if side == "left" else tuple(_over(act) for act in case.acting)
            yield replace(case, case=f"{case.case}{told}", copy=told, acting=acting)


def _of_whom(case: BodyCase) -> tuple[str, str, str]:
    """A case of either side, by its own name: without the side that was put behind it."""
    return case.case.removesuffix(case.copy), case.copy, case.where


def _known_at_plate(saved: OfBody, found: Sequence[Carried], around: Around) -> frozenset[tuple[str, str, str]]:
    """Cases in which what pulls at a plate is known though what carries it is not held: a link has its force from the other end, and what
    turns on its pin is in balance by itself."""
    assert saved.of_end
    assert saved.plate_of
    template, end, (body, point) = around.template(saved.of_end), around.ends[saved.of_end], saved.plate_of
    joints = [j for j in template.joints if any(place.point == point for place in j.places) and body in j.bodies_tied]
    others = {one for joint in joints if not isinstance(joint, LinkJoint) for one in joint.bodies_tied if one != body}
    sides = ("", ", left", ", right")
    named = {(one.name, copy, one.where) for one in found if one.forces is not None and not one.fault for copy in sides}
    for other in others:
        seen = seen_by_body(found, other, places_on(template, end, other)) if other in template.bodies else []
        named &= {_of_whom(case) for case in seen if case.unbalanced <= BALANCED}
    return frozenset(named)


def _over(act: AtPlace) -> AtPlace:
    """What acts, as its mirror image: a moment turns the other way about what lies in the mirror's plane."""
    y, turn = np.array([1.0, -1.0, 1.0]), np.array([-1.0, 1.0, -1.0])
    return AtPlace(act.place, act.what, act.at * y, act.force * y, act.moment * turn)


def copies_differ(saved: SavedPart, body: str, around: Around) -> tuple[Misfit, ...]:
    """Of a pair, whether left and right are one part; a fault where they are not.

    Args:
        saved: the part.
        body: of its end's template.
        around: the job.
    """
    if saved.side != "pair" or not saved.of_end:
        return ()
    off = unlike_at(around.template(saved.of_end), around.ends[saved.of_end], body)
    if not off:
        return ()
    told = f"Left and right differ at {', '.join(off)}: make one part for the left and one for the right."
    return (Misfit(field="side", message=told),)


def unlike_at(template: Template, end: End, body: str) -> list[str]:
    """Where the right one of a body is not the mirror image of the left one, in words.

    Args:
        template: of the end.
        end: as it stands in the car.
        body: of the template.
    """
    left, right = (places_on(template, end, body, right=side) for side in (False, True))
    return [
        a.words
        for a, b in zip(left, right, strict=True)
        if max(abs(x - y) for x, y in zip(a.at, b.at, strict=True)) > 1e-6 or _askew(a, b)
    ]


def _askew(a: OnBody, b: OnBody) -> bool:
    """Whether what two places turn about runs otherwise, which the places alone do not show."""
    if a.bolt is None or b.bolt is None:
        return a.bolt is not b.bolt
    lengths = [float(np.linalg.norm(bolt)) for bolt in (a.bolt, b.bolt)]
    if not all(lengths):
        return any(lengths)  # points that fall together are told where the end is put together
    one, two = (np.array(bolt) / length for bolt, length in zip((a.bolt, b.bolt), lengths, strict=True))
    return float(np.linalg.norm(np.cross(one, two))) > 1e-9


def side_of(template: Template, body: str) -> Side:
    """Which sides a body has: a beam's that only single joints tie stands once, in the middle."""
    if template.axle != "beam":
        return "pair"
    paired = any(joint.pair for joint in template.joints if body in joint.bodies_tied)
    return "pair" if paired else "centre"
