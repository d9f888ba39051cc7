"""What a kind of part must answer, and what it may leave to the plain answer. A kind is a folder, its saved model and one line in
the registry; nobody else needs to know of it.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any, Generic, Literal, TypeVar

import numpy as np
from numpy.typing import NDArray

from tirante.core.checks.result import CheckResult
from tirante.core.checks.shown import Out
from tirante.core.document.catalogue import Catalogue, Eye
from tirante.core.document.end import End, LinkBend
from tirante.core.document.forms.table import FieldGroup
from tirante.core.document.joints import EndOfLink, Held, HeldJoint
from tirante.core.document.parts.saved import SavedPart
from tirante.core.document.settings import Settings
from tirante.core.document.shape import Shape
from tirante.core.document.template import Template
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Numbers, Sheet
from tirante.core.errors import InputError
from tirante.core.jigs.features import Features
from tirante.core.parts.around import Around
from tirante.core.parts.bearing import Bearing, BearingSeen
from tirante.core.parts.feet import Foot, Spot, TurnsAbout
from tirante.core.parts.flat_plates import plate_flat
from tirante.core.parts.joint import Allowed, HeldEnd
from tirante.core.parts.part import Part
from tirante.core.parts.stands import Stand
from tirante.core.parts.turned import turned_sheet
from tirante.core.suspension.duty import Duty
from tirante.core.suspension.moving import Moving

Array = NDArray[np.float64]
S = TypeVar("S", bound=SavedPart)
Aim = Literal["mass", "cost", "stocks"]
Station = Literal["members", "brackets", "jigs"]


@dataclass(frozen=True, slots=True, kw_only=True)
class ViewAsked:
    """How a view is wanted: which end in section, turned out by how many turns."""

    name: str
    end: int = 1
    turns: float = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Choice:
    """A set of stock for a part, judged: what the design would hold with it."""

    parts: tuple[SavedPart, ...]  # the part first, then brackets that go with it
    joints: tuple[HeldJoint, ...]
    tube: str
    grade: str
    joint: str | None
    stock: tuple[str, str]  # keys of tube and grade
    mass: float  # [kg]
    worst: CheckResult | None
    worst_told: str = ""  # in words, where there is no one check


@dataclass(frozen=True, slots=True, kw_only=True)
class Sized:
    """What a search found."""

    considered: int
    judged: int
    winner: Choice | None
    runner_up: Choice | None
    nearest: Choice | None  # when nothing passes
    advice: str
    runner_up_told: str = ""  # in words, where it is not kept whole


@dataclass(frozen=True, slots=True, kw_only=True)
class Cheaper:
    """The cheapest change of parts that clears what governs."""

    choice: Choice
    changed: tuple[str, ...]
    mass_change: float  # [kg]
    checks: tuple[CheckResult, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Everyday:
    """What a part goes through every day: the range of its force, and the details that it is screened at, as `calc fatigue` takes them."""

    range: float  # [N]
    details: Mapping[str, Any]


@dataclass(frozen=True, slots=True, kw_only=True)
class Refit:
    """A bracket as it would be with another joint in it: what changes, its checks, or why it cannot hold it."""

    parts: tuple[SavedPart, ...]
    joints: tuple[HeldJoint, ...]
    checks: tuple[CheckResult, ...]
    fault: str | None = None
    left_out: str = ""  # of the nearest, where none holds: why what is thicker could not stand there

    @property
    def passed(self) -> bool:
        """Whether it holds."""
        return self.fault is None and all(check.passed for check in self.checks)

    @property
    def utilisation(self) -> float:
        """Of its weakest check."""
        return (self.checks[0].utilisation or 0.0) if self.checks else 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class MadeFrom:
    """Where a part is made from: an end as it stands in the car, and what the part is to be called by."""

    part_id: str
    end_id: str
    end_name: str
    end: End
    template: Template
    settings: Settings


@dataclass(frozen=True, slots=True, kw_only=True)
class Changed:
    """What choosing a row changes: the part, and joints that follow."""

    parts: tuple[SavedPart, ...]
    joints: tuple[HeldJoint, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class ThreadLeft:
    """A threaded end as it stands once it is set [mm]."""

    end: str  # A or B
    showing: float
    engaged: float
    needed: float


@dataclass(frozen=True, slots=True, kw_only=True)
class AsCut:
    """A part that was cut for other lengths, tried at those that are asked now."""

    turns: float | None = None  # longer (+) or shorter (−); None: it cannot be set at all
    of: str = ""  # what is turned: the link, or one end
    left: float = 0.0  # [mm] that it stays too short (+) or too long (−), since one end goes by half turns
    why: str = ""  # why it may not stay so; empty: it holds there
    ends: tuple[ThreadLeft, ...] = ()  # the thread that is left there


class Kind(Generic[S]):
    """A kind of part."""

    key: str
    word: str
    station: Station = "members"
    saved: type[S]
    own: type[Out] | None = None  # the model of what `told` gives
    fields: tuple[FieldGroup, ...] = ()  # what a person may set of it, in the page's order
    searched = False  # whether `size` searches
    searches = (
        "Every tube and grade of the catalogue that fit are judged against all checks under what it sees."  # what over
    )
    of_tubes = True  # whether `size` goes over tubes of the catalogue
    changes = False  # whether `cheaper` does
    stands_between = False  # whether `between` makes one
    bought = False  # whether it comes whole, and nothing of it is welded here
    welded = True  # whether a jig holds it while it is; not what is cut whole
    has_room = False  # whether the room round it is looked at
    duty: Duty = ""  # what every one of it is for; of what is a link its end says it
    set_anew = "What was made fits; it is set as the lengths say."  # of one whose pieces are the same and whose lengths are not

    def work_out(self, saved: S, around: Around) -> Part:
        """The part with its pieces, checks and views; or what stands in the way.

        Args:
            saved: as the user keeps it.
            around: the job.
        """
        raise NotImplementedError

    def depends(self, saved: S, around: Around) -> str:
        """What its judgement depends on beside itself, its rows, settings and the loads of the end that it belongs to.

        Args:
            saved: as the user keeps it.
            around: the job.
        """
        del saved, around
        return ""

    def draw(self, part: Part, asked: ViewAsked, numbers: Numbers) -> Drawing:
        """One of its views.

        Args:
            part: complete.
            asked: a view that the part has.
            numbers: how lengths are written.
        """
        flat = plate_flat(part, asked.name) or turned_sheet(part, asked.name, numbers)
        if flat is not None:
            return flat
        raise InputError(f"There is no drawing “{asked.name}” of this.", code="no_view", fields=("view",))

    def span(self, part: Part) -> float | None:
        """Its length in a row of parts to one scale [mm]; None for what is not drawn in a row (yet)."""
        del part
        return None

    def tall(self, part: Part) -> float:
        """Its height in that row [mm]."""
        del part
        return 20.0

    def strip(self, part: Part, sheet: Sheet, at: tuple[float, float], scale: float, ref: str) -> None:
        """It drawn in a row of parts.

        Args:
            part: complete.
            sheet: to draw on.
            at: its left end, on the sheet.
            scale: of the row.
            ref: what everything of it names.
        """

    def strip_told(self, part: Part) -> str:
        """What stands below it in that row; empty: its stock and material."""
        del part
        return ""

    def adjuster(self, part: Part, turns: float, numbers: Numbers) -> Out | None:
        """What turning it does, in words; None for what does not turn.

        Args:
            part: complete.
            turns: out (+) or in (−).
            numbers: how lengths are written.
        """
        del part, turns, numbers
        return None

    def told(self, part: Part) -> Out | None:
        """The figures that only this kind has, ready to show; None when there are none."""
        del part
        return None

    def between(self, fields: Mapping[str, Any], settings: Settings) -> S | None:
        """A new part between two points, nothing chosen yet; None for kinds that do not stand between two.

        Args:
            fields: id, name, side, what it stands between, and cases that are known.
            settings: of the job.
        """
        del fields, settings
        return None

    def begins(self, saved: S) -> dict[str, Any]:
        """What the objects that may be absent begin with when they are given, by their path in `fields`.

        Args:
            saved: as the user keeps it.
        """
        del saved
        return {}

    def unfinished(self, saved: S, around: Around) -> str | None:
        """One sentence for a part whose stock was never chosen; None when it was."""
        del saved, around
        return None

    def ends(self, saved: S) -> tuple[str, ...]:
        """Names of the places where it may be held ("a", "b"); empty when nothing holds it at a joint yet."""
        del saved
        return ()

    def holds(self, saved: S) -> tuple[str, ...]:
        """Points of the body that it is, at which its own plates hold what stands there: no bracket is asked for.

        Args:
            saved: as the user keeps it.
        """
        del saved
        return ()

    def features(self, saved: S, around: Around) -> Features | str:
        """What a jig takes hold of, in the part's own hand, of a pair the left one's; or why none is laid out for it.

        Args:
            saved: as the user keeps it.
            around: the job.
        """
        del saved, around
        if self.bought:
            return f"A {self.word} is bought whole: nothing of it is welded here."
        return f"No jig is laid out here for this kind of part ({self.word}): hold it by its joints’ centres, as its drawing gives them."

    def housings(self, saved: S, around: Around) -> tuple[tuple[Array, Array, float], ...]:
        """What of it stands still on the chassis as a round bar, for what is put near it: both its ends, as the left side has them, and its radius [mm].

        Args:
            saved: as it is.
            around: the job.
        """
        del saved, around
        return ()

    def bearings(self, saved: S, around: Around) -> tuple[Bearing, ...]:
        """Where it turns in bearings that are bolted down.

        Args:
            saved: as the user keeps it.
            around: the job.
        """
        del saved, around
        return ()

    def at_bearings(self, saved: S, around: Around) -> BearingSeen:
        """What each of them sees, of a kind that has some.

        Args:
            saved: as the user keeps it.
            around: the job.

        Raises:
            InputError: its end cannot be put together, or it is not sized.
        """
        del saved, around
        return BearingSeen(cases=())

    def end_lacks(self, saved: S, at: str) -> str:
        """What must be chosen at one of those places before a bracket can be made for it.

        Args:
            saved: as the user keeps it.
            at: one of `ends`.
        """
        del saved, at
        return "Choose its joint first: a bracket is proportioned to the bolt."

    def held_at(self, saved: S, at: str) -> Held:
        """That place, as a joint names it.

        Args:
            saved: as the user keeps it.
            at: one of `ends`.
        """
        return EndOfLink(part=saved.id, end=at)  # type: ignore[arg-type]

    def spot(self, saved: S, at: str, around: Around) -> Spot | None:
        """The place of a suspension end at which one of those is, on the body that holds it there; None of what belongs to none.

        Args:
            saved: as the user keeps it.
            at: one of `ends`.
            around: the job.
        """
        del saved, at, around
        return None

    def turns_about(self, saved: S, at: str, around: Around) -> TurnsAbout | None:
        """The line of its own that it turns about at one of those, and its bolt lies in; None of what swings on a ball.

        Args:
            saved: as the user keeps it.
            at: one of `ends`.
            around: the job.
        """
        del saved, at, around
        return None

    def looks_along(self, saved: S, at: str, around: Around) -> str | None:
        """The point of its end that it points at from one of those: what shows how it swings there; None where that is told otherwise.

        Args:
            saved: as the user keeps it.
            at: one of `ends`.
            around: the job.
        """
        del saved, at, around
        return None

    def shank_toward(self, saved: S, at: str, around: Around) -> str | None:
        """The point of its end that a rod end at one of its pivots looks at, in line with the tube that it is screwed into; None of any other pivot.

        Args:
            saved: as the user keeps it.
            at: one of `ends`.
            around: the job.
        """
        del saved, at, around
        return None

    def end_name(self, at: str) -> str:
        """Such a place in words.

        Args:
            at: one of `ends`.
        """
        return f"end {at.upper()}"

    def held_end(self, saved: S, at: str, around: Around) -> HeldEnd | None:
        """What it has at one of those places; None while that is not chosen.

        Args:
            saved: as the user keeps it.
            at: the place.
            around: the job.
        """
        del saved, at, around
        return None

    def eye_row(self, saved: S, at: str, rows: Catalogue) -> Eye | None:
        """The catalogue's row of what it has at one of those places; None while that is not chosen.

        Args:
            saved: as the user keeps it.
            at: one of `ends`.
            rows: that the design holds.
        """
        del saved, at, rows
        return None

    def allows(self, saved: S, at: str, around: Around) -> Allowed | None:
        """How far what is chosen at one of those places may tilt; None where nothing is chosen there that says so.

        Args:
            saved: as the user keeps it.
            at: one of `ends`.
            around: the job.
        """
        del saved, at, around
        return None

    def bend(self, saved: S) -> LinkBend | None:
        """How what stands for a link of an end is bent; None where it is straight."""
        del saved
        return None

    def shape(self, saved: S, around: Around) -> Shape | None:
        """What it looks like at its end, from its saved sizes alone; None while none is chosen, or where the end's own line will do.

        Args:
            saved: as the user keeps it.
            around: the job.
        """
        del saved, around
        return None

    def offers(self, saved: S, around: Around, shelf: Catalogue) -> dict[str, list[str]]:
        """Keys that fit, by the field that they may be chosen for.

        Args:
            saved: as the user keeps it.
            around: the job.
            shelf: the shop's catalogue.
        """
        del saved, around, shelf
        return {}

    def choose(self, saved: S, field: str, key: str | None, around: Around, shelf: Catalogue) -> Changed:
        """A row taken for a field; what no longer fits behind it follows.

        Args:
            saved: as the user keeps it.
            field: one of `offers`.
            key: of the row; None clears it.
            around: the job.
            shelf: the shop's catalogue.

        Raises:
            InputError: no such field, or a row that does not fit.
        """
        del saved, around, shelf
        self.fits({}, field, key)
        return Changed(parts=())

    @staticmethod
    def fits(offered: Mapping[str, Sequence[str]], field: str, key: str | None) -> None:
        """Whether a row may be chosen for a field.

        Args:
            offered: keys by field.
            field: that is chosen for.
            key: of the row; None clears it.

        Raises:
            InputError: no such field, or a row that does not fit.
        """
        if field not in offered:
            raise InputError(
                f"“{field[:40]}” is not a part that can be chosen here.", code="unknown_field", fields=("field",)
            )
        if key is not None and key not in offered[field]:
            raise InputError(
                "That part does not fit what is chosen already. Choose one of those offered.", code="does_not_fit", fields=("key",), value=key,
            )  # fmt: skip

    def size(self, saved: S, around: Around, shelf: Catalogue, aim: Aim) -> Sized:
        """The least stock that holds.

        Args:
            saved: as the user keeps it.
            around: the job.
            shelf: to choose from.
            aim: what is to be least.

        Raises:
            InputError: it cannot be searched, with the cure.
        """
        del around, shelf, aim
        raise InputError(
            f"Size it does not search this kind of part ({self.word}). Change its sizes until its checks hold.",
            code="not_searched", fields=("kind",), value=saved.kind,
        )  # fmt: skip

    def options(self, saved: S, around: Around, shelf: Catalogue) -> StockOptions | None:
        """For the fewest different stocks: what each stock would weigh, judged when asked for; None where that is not searched.

        Args:
            saved: as the user keeps it.
            around: the job.
            shelf: to choose from.
        """
        del saved, around, shelf
        return None

    def cheaper(self, saved: S, around: Around, shelf: Catalogue) -> Cheaper | None:
        """The cheapest change that clears what governs, tried before it is given; None when there is none.

        Args:
            saved: as the user keeps it.
            around: the job.
            shelf: the shop's catalogue.
        """
        del saved, around, shelf
        return None

    def refit(
        self, saved: S, joints: Sequence[HeldJoint], held: Sequence[HeldEnd], settings: Settings, shelf: Catalogue, stands: Sequence[Stand] = ()
    ) -> Refit:  # fmt: skip
        """A bracket made anew for what would stand in it, as light as holds.

        Args:
            saved: as the user keeps it.
            joints: that it holds.
            held: what would stand in each.
            settings: factors.
            shelf: to choose bolts from.
            stands: where it stands on members of the car.
        """
        return self.judged_with(saved, joints, held, settings, shelf, stands)

    def judged_with(
        self, saved: S, joints: Sequence[HeldJoint], held: Sequence[HeldEnd], settings: Settings, shelf: Catalogue, stands: Sequence[Stand] = ()
    ) -> Refit:  # fmt: skip
        """A bracket as it is, with what would stand in it.

        Args:
            saved: as the user keeps it.
            joints: that it holds.
            held: what would stand in each.
            settings: factors.
            shelf: where bolts and spacers are found.
            stands: where it stands on members of the car.
        """
        del joints, held, settings, shelf, stands
        return Refit(parts=(), joints=(), checks=(), fault=f"{saved.name} is not judged with what it holds.")

    def feet(self, saved: S, around: Around) -> tuple[Foot, ...]:
        """What stands on it beside its joints, each on one of its tubes; nothing where that cannot be told.

        Args:
            saved: the part.
            around: the job.
        """
        del saved, around
        return ()

    def may_be(self, template: Template, one: Moving) -> bool:
        """Whether a part of this kind can stand for something that moves at an end.

        Args:
            template: of the end.
            one: what moves.
        """
        del template, one
        return False

    def made_from(self, one: Moving, made: MadeFrom) -> S | None:
        """A part that stands for it, its stock not chosen yet; None when its points are not there.

        Args:
            one: what moves.
            made: where.
        """
        del one, made
        return None

    def stands_at(self, template: Template, body: str) -> tuple[str, ...]:
        """Joints of what is not made here that this kind can be a part of, by their points.

        Args:
            template: of the end.
            body: that carries a wheel.
        """
        del template, body
        return ()

    def beside(self, body: str, point: str, made: MadeFrom) -> S | None:
        """A part for a joint of what is not made here; None where this kind makes none there.

        Args:
            body: of the end's template.
            point: whose joint it would hold.
            made: where.
        """
        del body, point, made
        return None

    def everyday(self, part: Part, around: Around) -> Everyday | None:
        """What it goes through every day; None where that is not screened.

        Args:
            part: complete.
            around: the job.
        """
        del part, around
        return None

    def as_cut(self, cut: Part, asked: Part, settings: Settings, measured: float | None = None) -> AsCut | None:
        """What was cut, set to what is asked now; None where this kind is not tried so.

        Args:
            cut: as it was made; its pieces differ from those that are asked in the length of tubes alone.
            asked: as it should be now, worked out with what it sees now.
            settings: of the job as it is now.
            measured: how long it was found to stand, centre to centre [mm]; None: as it was to be made.
        """
        del cut, asked, settings, measured
        return None

    def adjusters(self, part: Part, names: Sequence[str], around: Around) -> tuple[list[Any], list[str]]:
        """Its adjusters in the turn sheet, and why it has none, in words.

        Args:
            part: worked out.
            names: of what the end's mechanism can make longer.
            around: the job.
        """
        del names, around
        return [], [f"{part.name}: does not adjust"]


class StockOptions:
    """Of one part: the stocks that may do, each with the least it can weigh; a stock is settled when it is picked."""

    @property
    def least(self) -> dict[tuple[str, str], float]:
        """Of each stock that may still do, what the part weighs at least [kg]."""
        raise NotImplementedError

    def settle(self, stock: tuple[str, str]) -> bool:
        """Judge a stock's lightest set; True when it passes (or did before)."""
        raise NotImplementedError

    def passing(self, stock: tuple[str, str]) -> Choice:
        """The set that passed."""
        raise NotImplementedError
