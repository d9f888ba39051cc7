"""A part that stands for a moving body, held at one of its joints: on which body, about which line, and what that joint sees."""

from __future__ import annotations

from abc import abstractmethod
from collections.abc import Iterator, Sequence
from contextlib import suppress
from typing import TypeVar

import numpy as np

from tirante.core.document.catalogue import Catalogue, Eye
from tirante.core.document.joints import HeldJoint, PivotOfArm
from tirante.core.document.parts.saved import SavedPart
from tirante.core.document.template import LinkJoint
from tirante.core.errors import InputError
from tirante.core.loads.case_seen import CaseSeen
from tirante.core.loads.envelope import envelope
from tirante.core.loads.on_body import BodyCase
from tirante.core.parts.around import Around, not_carried
from tirante.core.parts.body import body_places, seen_of
from tirante.core.parts.feet import Spot, TurnsAbout
from tirante.core.parts.joint import HeldEnd
from tirante.core.parts.kind import Kind
from tirante.core.suspension.on_body import OnBody, StandsAs

S = TypeVar("S", bound=SavedPart)
MOST_CASES = 40
TURNING: tuple[StandsAs, ...] = ("hinge", "pivot")  # what turns about one line alone
LINES: dict[StandsAs, str] = {
    "hinge": "the line that it turns about", "pivot": "the line that it turns about", "bush": "the line of its bush",
}  # fmt: skip


class BodyKind(Kind[S]):
    """A kind of part that stands for a body of an end and is held where that turns or is bushed, by plates on what it turns on."""

    @abstractmethod
    def body_of(self, saved: S) -> str:
        """The body of its end's template that it is."""

    @abstractmethod
    def goes_in(self, saved: S, at: str) -> Eye | None:
        """What the plates clamp at one of `ends`; None: not given."""

    def point_of(self, saved: S, at: str, around: Around) -> str:
        """The point of its end at which one of `ends` is: of its name.

        Args:
            saved: as the user keeps it.
            at: one of `ends`.
            around: the job.
        """
        del saved, around
        return at

    def held_at(self, saved: S, at: str) -> PivotOfArm:
        """A joint of the body."""
        return PivotOfArm(part=saved.id, pivot=at)

    def spot(self, saved: S, at: str, around: Around) -> Spot | None:
        """The joint's point, on the body that holds it there."""
        return spot_on(saved, self.body_of(saved), self.point_of(saved, at, around), around)

    def turns_about(self, saved: S, at: str, around: Around) -> TurnsAbout | None:
        """The line of hinge, pivot or bush."""
        return line_at(saved, self.body_of(saved), self.point_of(saved, at, around), around)

    def eye_row(self, saved: S, at: str, rows: Catalogue) -> Eye | None:
        """What the plates clamp."""
        del rows
        return self.goes_in(saved, at)

    def held_end(self, saved: S, at: str, around: Around) -> HeldEnd | None:
        """What the plates clamp, and what the mechanism puts through it."""
        held = self.held_at(saved, at)
        joint = next((one for one in around.joints_of(saved.id) if one.held == held), None)
        return held_at_point(
            saved, self.body_of(saved), self.point_of(saved, at, around), self.goes_in(saved, at), joint or HeldJoint(id=saved.id, held=held), around
        )  # fmt: skip

    def looks_along(self, saved: S, at: str, around: Around) -> str | None:
        """The place furthest from the joint among those that it is built between: so it swings there, where it has no line of its own."""
        here = _place(saved, self.body_of(saved), self.point_of(saved, at, around), around)
        if here is None:
            return None
        places = [one for one in body_places(saved, self.body_of(saved), around) if one.jointed]
        far = max(places, key=lambda one: float(np.linalg.norm(np.subtract(one.at, here.at))))
        return far.point if far.point != here.point else None


def spot_on(saved: SavedPart, body: str, point: str, around: Around) -> Spot | None:
    """The place of an end at which a joint of a body is, on the other body that it ties; None where it ties none there.

    Args:
        saved: the part.
        body: of its end's template.
        point: of the end.
        around: the job.
    """
    end_id = saved.of_end
    place = _place(saved, body, point, around)
    if end_id is None or place is None:
        return None
    joint = next((one for one in around.template(end_id).joints if one.name == place.what and not isinstance(one, LinkJoint)), None)  # fmt: skip
    other = next((one for one in joint.bodies_tied if one != body), None) if joint else None
    return Spot(end_id, other, point) if other else None


def line_at(saved: SavedPart, body: str, point: str, around: Around) -> TurnsAbout | None:
    """The line that a body turns about at one of its joints; None of a ball, or where the end cannot be put together.

    Args:
        saved: the part.
        body: of its end's template.
        point: of the end.
        around: the job.
    """
    place = _place(saved, body, point, around)
    return line_of(place) if place else None


def line_of(place: OnBody) -> TurnsAbout | None:
    """The line that a joint at a place of a body turns about; None of a ball.

    Args:
        place: on the body.
    """
    if place.bolt is None:
        return None
    return TurnsAbout(place.bolt, place.sort in TURNING, LINES.get(place.sort, "its own line"))


def held_at_point(saved: SavedPart, body: str, point: str, row: Eye | None, joint: HeldJoint, around: Around) -> HeldEnd | None:  # fmt: skip
    """What a body has at one of its joints and what that sees: square to its bolt, and along it as the side force.

    What turns the joint over, square to its bolt, is borne by its two plates pulling against each other: twice it over the width between
    them counts as more pull, as if it always came on top.

    Args:
        saved: the part.
        body: of its end's template.
        point: of the end.
        row: ball or sleeve; None: not given.
        joint: that it is held at, its bolt's way with it.
        around: the job.
    """
    place, at = _place(saved, body, point, around), around.at_of(joint)
    if row is None or place is None or at is None or at.bolt is None:
        return None
    cases: tuple[CaseSeen, ...] = ()
    if around.has_loads():
        with suppress(InputError):  # told by not_carried
            cases = tuple(cases_at(seen_of(saved, body, around).cases, place, at.bolt, row))
    left_out = seen_of(saved, body, around).left_out if cases else ()
    return HeldEnd(
        name=f"{saved.name}, {place.words}", of_end=saved.of_end, row=row, cases=tuple(envelope(list(cases))[:MOST_CASES]),
        not_carried=(*not_carried(saved.of_end, around), *left_out),
    )  # fmt: skip


def cases_at(every: Sequence[BodyCase], place: OnBody, line: np.ndarray, row: Eye) -> Iterator[CaseSeen]:
    """What a joint of a body sees, case by case: square to its bolt, what turns it over with it, and along the bolt.

    Args:
        every: that load the body.
        place: of the joint on it.
        line: the bolt's way, of unit length (3).
        row: what is clamped.
    """
    for case in every:
        acts = [act for act in case.acting if act.place == place.point and act.what == place.what]
        force = sum((act.force for act in acts), np.zeros(3))
        moment = sum((act.moment for act in acts), np.zeros(3))
        along = float(force @ line)
        over = float(np.linalg.norm(moment - (moment @ line) * line))
        pull = float(np.linalg.norm(force - along * line)) + 2 * over / row.ball_width_mm
        yield CaseSeen(name=case.case[:80], at=case.where, worked=True, axial_n=pull, side_n=abs(along))


def _place(saved: SavedPart, body: str, point: str, around: Around) -> OnBody | None:
    if saved.of_end is None or saved.of_end not in around.ends:
        return None
    try:
        return next((one for one in body_places(saved, body, around) if one.point == point), None)
    except InputError:
        return None
