"""What is kept of a survey: readings as they were taken, marks on the car, and what was taken back. Entries are only added, never changed."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from math import atan2, degrees, sqrt
from typing import Annotated, Literal

from pydantic import Field, model_validator

from tirante.core.document.fields import Coordinate, Document, Id, Name, Note, Point, Said, Signed

ReadingKind = Literal[
    "distance", "height", "left", "ahead", "level", "side", "top", "front", "bar", "swing", "tube", "face"
]
ANGLES: tuple[ReadingKind, ...] = ("level", "side", "top", "front", "bar", "swing")
# how many features a reading is of: least and most. A height or an offset is over the datum, or from a second feature
FEATURES: dict[ReadingKind, tuple[int, int]] = {
    "distance": (2, 2), "height": (1, 2), "left": (1, 2), "ahead": (1, 2), "level": (2, 2), "side": (2, 2), "top": (2, 2), "front": (2, 2), "bar": (2, 2), "swing": (2, 2),
    "tube": (3, 3), "face": (3, 3),
}  # fmt: skip
Instrument = Literal["tape", "rule", "square", "string", "plumb line", "level", "calliper", "inclinometer", "other"]
# standard deviations of a careful hand, where none is given: lengths [mm], angles [deg]; common practice, no source
USUAL_SD: dict[Instrument, tuple[float, float]] = {
    "tape": (1.0, 0.5), "rule": (0.5, 0.5), "square": (1.5, 0.5), "string": (1.5, 0.5), "plumb line": (1.0, 0.5), "level": (1.0, 0.2),
    "calliper": (0.2, 0.5), "inclinometer": (1.0, 0.2), "other": (2.0, 0.5),
}  # fmt: skip

OwnSds = Mapping[tuple[str, Instrument], tuple[float, float]]
NO_OWN: OwnSds = {}

Feature = Annotated[
    str,
    Field(
        pattern=r"^(mark:[0-9a-f-]{36}|end:[0-9a-f-]{36}:[a-z][a-z0-9_]{0,39}:(own|mirror))$",
        description="mark:ID of a mark, or end:ID:POINT:own (as the layout has it) or :mirror (its twin on the other side)",
    ),
]
SdOf = Annotated[float, Field(ge=0.001, le=1000)]


class Added(Document):
    """What is added to a figure that was read, and why: half of two holes, a tube's radius, a shim (taken off: negative)."""

    what: Said
    mm: Signed


Side = Literal["centre", "near side", "far side"]
# how many features a reading may touch beside their centres: of a distance both, of a height or an offset the one, of a tube’s axis the tube
TOUCHED: dict[ReadingKind, int] = {"distance": 2, "height": 1, "left": 1, "ahead": 1, "tube": 1, "face": 1}


class Touched(Document):
    """Where a round feature was touched: a hole’s or a bolt head’s edge, a tube’s surface. Its near side is the one nearer to what it is measured from."""

    at: Side = "centre"
    diameter: Coordinate | None = Field(default=None, description="of the round, with what was typed")

    @model_validator(mode="after")
    def _whole(self) -> Touched:
        if self.at != "centre" and (self.diameter is None or self.diameter.mm <= 0):
            raise ValueError("diameter: give the diameter of what was touched at its side")
        return self

    @property
    def mm(self) -> float:
        """What it adds to the figure, so that it counts to the centre [mm]."""
        if self.at == "centre" or self.diameter is None:
            return 0.0
        return self.diameter.mm / 2 if self.at == "near side" else -self.diameter.mm / 2


class ToeBar(Document):
    """A bar held flat on a wheel or a hub’s face, how far two marks on it are from the centre line, or from a string along it."""

    ahead: Coordinate = Field(description="of the mark ahead, to the left positive")
    behind: Coordinate = Field(description="of the mark behind, to the left positive")
    apart: Coordinate = Field(description="the marks from one another")

    @model_validator(mode="after")
    def _whole(self) -> ToeBar:
        if self.apart.mm <= 0:
            raise ValueError("apart: the marks are some way from one another; give it")
        return self

    @property
    def deg(self) -> float:
        """Where the bar points, from straight ahead, to the left positive [deg]."""
        return degrees(atan2(self.ahead.mm - self.behind.mm, self.apart.mm))

    def deg_sd(self, mm: float) -> float:
        """Its standard deviation [deg].

        Args:
            mm: of each of the two figures.
        """
        return degrees(sqrt(2.0) * mm / self.apart.mm)


class CasterSwing(Document):
    """A gauge of camber on a wheel that is turned both ways by the same angle, as turn plates tell it."""

    turned_out: Signed = Field(description="deg; camber with the wheel’s front turned away from the car’s middle")
    turned_in: Signed = Field(description="deg; camber with its front turned towards the middle")
    turn_deg: Annotated[float, Field(ge=2, le=45)] = Field(default=20.0, description="deg; either way")

    @property
    def deg(self) -> float:
        """By how much camber is more turned out than turned in [deg]: positive with positive caster."""
        return self.turned_out - self.turned_in


class Taken(Document):
    """A reading as it was taken."""

    sort: Literal["reading"] = "reading"
    id: Id
    kind: ReadingKind
    of: Annotated[tuple[Feature, ...], Field(min_length=1, max_length=3, strict=False)]
    read: Coordinate | None = Field(default=None, description="of a length, with what was typed")
    unit: Literal["mm", "in"] = Field(default="mm", description="that it was typed in")
    deg: Annotated[float, Field(ge=-360, le=360)] | None = Field(default=None, description="of an angle")
    bar: ToeBar | None = Field(default=None, description="of a toe bar, in place of the angle")
    swing: CasterSwing | None = Field(default=None, description="of a caster gauge, in place of the angle")
    added: Annotated[tuple[Added, ...], Field(max_length=6, strict=False)] = ()
    touched: Annotated[tuple[Touched, ...], Field(max_length=2, strict=False)] = Field(
        default=(),
        description="of each feature that was not read to its centre, in their order; of a tube’s axis the tube",
    )
    instrument: Instrument = "tape"
    sd: SdOf | None = Field(default=None, description="standard deviation, mm or deg; null: usual for the instrument")
    set_up: Said = Field(default="", description="readings of one thing in one set-up share its error")
    who: Said = ""
    note: Note = ""

    @model_validator(mode="after")
    def _whole(self) -> Taken:
        least, most = FEATURES[self.kind]
        if not least <= len(self.of) <= most:
            need = f"{least}" if least == most else f"{least} or {most}"
            raise ValueError(f"of: a reading of this kind is of {need} features")
        if len(set(self.of)) != len(self.of):
            raise ValueError("of: a reading is of features that differ; choose another")
        for kind, given, what in (("bar", self.bar, "what both marks read and how far they are apart"), ("swing", self.swing, "the camber turned out and turned in")):  # fmt: skip
            if (self.kind == kind) != (given is not None):
                raise ValueError(f"{kind}: {f'give {what}' if given is None else 'belongs to a reading of that kind; leave it out'}")  # fmt: skip
        if self.kind in ("bar", "swing") and self.deg is not None:
            raise ValueError("deg: follows from what was read; leave it out")
        if self.kind in ANGLES and self.angle is None:
            raise ValueError("deg: give the angle that was read")
        if self.kind not in ANGLES and self.read is None:
            raise ValueError("read: give the length that was read")
        if len(self.touched) > TOUCHED.get(self.kind, 0):
            raise ValueError("touched: a reading of this kind touches no more than that; leave it out")
        if self.kind in ("distance", "tube") and self.mm <= 0:
            raise ValueError("read: a distance is more than nothing, with what is added to it")
        return self

    @property
    def mm(self) -> float:
        """A length as it counts [mm]: as read, and what is added."""
        return (self.read.mm if self.read else 0.0) + sum(self.all_added.values())

    @property
    def all_added(self) -> dict[str, float]:
        """What is added to the figure, each in words [mm]: what was said, and the half of what was touched at its side."""
        found: dict[str, float] = {}
        for what, mm in [
            *((one.what, one.mm) for one in self.added),
            *((f"half of the {('first', 'second')[i]} round, touched at its {one.at}" if len(self.touched) > 1 else f"half of the round, touched at its {one.at}", one.mm)
              for i, one in enumerate(self.touched) if one.at != "centre"),
        ]:  # fmt: skip
            found[what] = found.get(what, 0.0) + mm
        return found

    @property
    def angle(self) -> float | None:
        """Of an angle what was read, or what follows from the figures that were [deg]."""
        return self.bar.deg if self.bar else self.swing.deg if self.swing else self.deg

    def deviation(self, own: OwnSds = NO_OWN) -> float:
        """Of the reading [mm] or [deg]: its own, usual for whoever read it, or usual for the instrument; where two figures were read, of what follows from both.

        Args:
            own: what is usual for somebody with an instrument, by name and instrument: lengths [mm], angles [deg].
        """
        mm, deg = own.get((self.who.casefold(), self.instrument), USUAL_SD[self.instrument])
        each = self.sd if self.sd is not None else deg if self.kind in ANGLES and not self.bar else mm
        return self.bar.deg_sd(each) if self.bar else sqrt(2.0) * each if self.swing else each


class SurveyMark(Document):
    """A place on the car or the floor that readings are taken from: a punch mark, a hole, a nail in the floor. One of the same id stands for the one before."""

    sort: Literal["mark"] = "mark"
    id: Id
    mark: Id = Field(description="of the mark: entries that change it have one mark and ids of their own")
    name: Name
    near: Point = Field(description="mm; where it is thought to be")
    fixed: bool = Field(default=False, description="whether it is taken as true: part of the datum")
    note: Note = ""


class TakenBack(Document):
    """That a reading does not count any more, and why. The reading is kept."""

    sort: Literal["back"] = "back"
    id: Id
    entry: Id
    why: Said = ""


class OwnSd(Document):
    """How sure somebody’s readings with an instrument are, in place of what is usual for it. The latest of each stands."""

    sort: Literal["own"] = "own"
    id: Id
    who: Annotated[str, Field(min_length=1, max_length=200)]
    instrument: Instrument
    mm: SdOf = Field(description="standard deviation of a length")
    deg: SdOf = Field(description="of an angle")


class DatumWords(Document):
    """What is floor, centre line and zero, and how the car stands: in words, for the sheet."""

    floor: Said = ""
    centre: Said = ""
    zero: Said = ""
    stands: Said = Field(default="", description="on its wheels or on stands, at what ride height")


class DatumSaid(DatumWords):
    """The datum as it was said; the latest stands."""

    sort: Literal["datum"] = "datum"
    id: Id


class FloorHeights(Document):
    """Heights of the floor under the four wheels, by a level: tilt is taken out of what inclinometers read, warp is told. The latest stands."""

    sort: Literal["floor"] = "floor"
    id: Id
    front_left: Coordinate
    front_right: Coordinate
    rear_left: Coordinate
    rear_right: Coordinate


Entry = Annotated[Taken | SurveyMark | TakenBack | DatumSaid | FloorHeights | OwnSd, Field(discriminator="sort")]


def own_said(entries: Iterable[Entry]) -> dict[tuple[str, Instrument], OwnSd]:
    """What somebody said of their readings with an instrument, the latest of each.

    Args:
        entries: of a survey, as they came.
    """
    return {(one.who.casefold(), one.instrument): one for one in entries if isinstance(one, OwnSd)}


def own_sds(entries: Iterable[Entry]) -> OwnSds:
    """The deviations of that: lengths [mm], angles [deg].

    Args:
        entries: of a survey, as they came.
    """
    return {key: (one.mm, one.deg) for key, one in own_said(entries).items()}
