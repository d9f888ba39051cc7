"""What a part is worked out in: the design's settings and rows, its ends and loads, other parts and joints, each when it is asked for."""

from __future__ import annotations

from collections.abc import Callable, Hashable, Mapping, Sequence
from typing import TYPE_CHECKING, Protocol, TypeVar

from tirante.core.document.catalogue import Catalogue, Eye
from tirante.core.document.joints import Held, HeldJoint, PointOfBody
from tirante.core.document.settings import Settings
from tirante.core.errors import InputError, NotApplicable
from tirante.core.loads.case_seen import CaseSeen, NotCarried, typed
from tirante.core.loads.end_loads import UNHELD
from tirante.core.loads.seen import seen_by_link, swing_of_link

if TYPE_CHECKING:
    from tirante.core.document.end import End
    from tirante.core.document.mounts import Mount
    from tirante.core.document.parts.common import Between, LoadCase, Side
    from tirante.core.document.parts.saved import SavedPart
    from tirante.core.document.template import Template
    from tirante.core.jigs.features import Features
    from tirante.core.loads.end_loads import EndLoads
    from tirante.core.parts.bearing import Bearing, BearingSeen
    from tirante.core.parts.feet import Foot, Spot
    from tirante.core.parts.joint import HeldEnd
    from tirante.core.parts.kind import Refit
    from tirante.core.parts.part import Part
    from tirante.core.parts.stands import At, Stand
    from tirante.core.parts.unmade import Unmade
    from tirante.core.suspension.cycle import Solved


T = TypeVar("T")


class Around(Protocol):
    """Whoever works a job out; a part asks it and nothing else."""

    @property
    def settings(self) -> Settings:
        """Of the design."""

    @property
    def use(self) -> str:
        """What the car is for."""

    @property
    def catalogue(self) -> Catalogue:
        """The rows that the design holds."""

    @property
    def ends(self) -> Mapping[str, End]:
        """The suspension ends by id, as they stand in the car."""

    def end_name(self, end_id: str) -> str:
        """What an end is called."""

    def template(self, end_id: str) -> Template:
        """An end's template with its additions; `InputError` when they do not go together."""

    def carried(self, end_id: str) -> EndLoads:
        """Every case of the job's load set, carried by an end; `InputError` when the end cannot be put together."""

    def everyday(self, end_id: str) -> EndLoads:
        """The everyday cases, carried by an end; `InputError` likewise."""

    def once(self, what: str, end_id: str, key: Hashable, work: Callable[[], T]) -> T:
        """What follows from an end and the loads that it carries alone: worked out once for all who ask with the same key.

        Args:
            what: it is.
            end_id: of the end.
            key: what else it depends on.
            work: gives it.
        """

    def at_ride(self, end_id: str) -> Solved:
        """An end solved at ride height; `InputError` likewise."""

    def features(self, saved: SavedPart) -> Features | str:
        """What a jig takes hold of on a part of the job; or why none is laid out for it."""

    @property
    def spanning(self) -> Sequence[SavedPart]:
        """The parts of the job that stand between two points, in its order."""

    def saved(self, part_id: str) -> SavedPart | None:
        """A part of the job as it is saved."""

    def part(self, part_id: str) -> Part | None:
        """A part of the job, worked out."""

    def held_by(self, part_id: str) -> tuple[HeldJoint, ...]:
        """The joints that a bracket holds."""

    def joints_of(self, part_id: str) -> tuple[HeldJoint, ...]:
        """The joints at which a part is held."""

    def held_end(self, joint: HeldJoint) -> HeldEnd | None:
        """What a joint holds; None while that is not known."""

    def refitted(
        self, bracket_id: str, joints: Sequence[HeldJoint], held: Sequence[HeldEnd], shelf: Catalogue
    ) -> Refit:
        """A bracket with what would stand in some of its joints."""

    def bracket_at(self, spot: Spot) -> SavedPart | None:
        """The part that holds what stands at a place of an end; None where nothing does yet."""

    def eye_at(self, spot: Spot) -> Eye | None:
        """What is held at a place of an end: a link's end or a damper's eye; None where the job does not have it yet."""

    def foot_of(self, joint: HeldJoint) -> tuple[SavedPart, Foot] | None:
        """The part of the job that what a joint holds stands on, and where; None where it stands on none."""

    def mount_of(self, joint: HeldJoint) -> Mount | None:
        """The member of the car that a joint's bracket is given to stand on; None where it is given none."""

    def at_of(self, joint: HeldJoint) -> At | None:
        """Where a joint is in the car, its bolt and what pulls at it; None where that is not known."""

    def member_at(self, joint: HeldJoint) -> Mount | None:
        """The member of the car, or the tube of a part, that the bracket of a joint stands on."""

    def stand_of(self, joint: HeldJoint) -> Stand | NotApplicable | None:
        """How a joint's bracket stands on the member of the car that it is given; why it does not; None where it is given none."""

    @property
    def mounts(self) -> Sequence[Mount]:
        """The members of the car."""

    def standing_on(self, mount_id: str) -> tuple[HeldJoint, ...]:
        """The joints whose brackets are given a member of the car."""

    def bearing_at(self, held: Held) -> Bearing | None:
        """The bearing that stands at a place; None where none does."""

    def unmade_at(self, held: PointOfBody) -> Unmade | None:
        """The joint of what no part is made for that is at a place; None where there is none."""

    def at_bearing(self, bearing: Bearing) -> BearingSeen:
        """What a bearing sees; `InputError` where nothing says so."""

    def has_loads(self) -> bool:
        """Whether the job has load cases at all."""


def seen_between(between: Between, side: Side, cases: tuple[LoadCase, ...], around: Around) -> tuple[CaseSeen, ...]:
    """What a part between two pivots sees: its typed cases, and those of its end where it is tied to one.

    Of an end that cannot be put together nothing is seen; `not_carried` says so.

    Args:
        between: what it stands between.
        side: of the part.
        cases: typed.
        around: the job.
    """
    own = typed(cases)
    if between.kind != "end" or between.end_id not in around.ends or not around.has_loads():
        return own
    try:
        return (*own, *seen_by_link(side, between.link, around.carried(between.end_id).cases))
    except InputError:
        return own


def not_carried(end_id: str | None, around: Around) -> tuple[NotCarried, ...]:
    """Load cases that a part of an end should have seen and that could not be carried, or that nothing may be relied on in.

    Args:
        end_id: of the end; None: it belongs to none.
        around: the job.
    """
    if end_id is None or end_id not in around.ends or not around.has_loads():
        return ()
    try:
        found = around.carried(end_id).cases
    except InputError as error:
        return (NotCarried(case="every case", why=error.message),)
    told = (
        NotCarried(case=one.case.name, why=one.fault or UNHELD, refuses=one.refused) for one in found if one.fault or one.unheld
    )  # fmt: skip
    return tuple({(one.case, one.refuses): one for one in reversed(list(told))}.values())[::-1]


def swing_between(between: Between, side: Side, around: Around) -> float | None:
    """How far a part between two pivots points from where it does at ride height [°]; nothing turns typed loads; None: not known.

    Args:
        between: what it stands between.
        side: of the part.
        around: the job.
    """
    if between.kind != "end" or between.end_id not in around.ends or not around.has_loads():
        return 0.0
    try:
        return swing_of_link(side, between.link, around.carried(between.end_id).cases)
    except InputError:
        return None
