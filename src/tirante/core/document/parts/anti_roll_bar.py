"""An anti-roll bar as it is saved: a round bar across the car with an arm at either end."""

from __future__ import annotations

from collections.abc import Mapping
from math import sqrt
from typing import Annotated, Literal

from pydantic import Field, model_validator

from tirante.core.document.end import End
from tirante.core.document.fields import Document, Id, Key, Name, NotNegative, PointName, Positive, Strength
from tirante.core.document.parts.common import Side
from tirante.core.document.parts.saved import SavedPart
from tirante.core.errors import InputError
from tirante.core.members.torsion_bar import FlatArm, TorsionBar, rate_of

USUAL_BEND = 3.0  # outside diameters, of a bend's radius; common practice, no source


class FlatArms(Document):
    """Arms of flat bar on edge, welded round the bar's ends."""

    height_mm: Positive = 30.0
    thickness_mm: Positive = 8.0
    leg_mm: Annotated[float, Field(gt=0, le=50)] = 5.0


BoltClass = Literal["8.8", "10.9", "12.9"]


class BarEye(Document):
    """The eye at an arm's end that the drop link's bolt goes through, the link's ball beside it; the bolt runs along the bar."""

    bolt_mm: Positive = 10.0
    bolt_class: BoltClass = "8.8"
    between_mm: Positive = 14.0  # width of the ball
    width_mm: Positive = 28.0  # of a bent bar forged flat; an arm of flat bar is as wide as it is high
    thickness_mm: Positive = 9.0  # likewise


class BarBearing(Document):
    """A split bearing that the bar turns in, held by two bolts."""

    rating_n: Annotated[float, Field(gt=0, le=1e7)] | None = None  # the maker's, of one
    bolt_mm: Positive = 8.0
    bolt_class: BoltClass = "8.8"
    pitch_mm: Positive | None = None  # between its two bolts, across the bar; null: not given
    high_mm: Positive | None = None  # from its foot to the bar's line; null: not given

    @model_validator(mode="after")
    def _goes_together(self) -> BarBearing:
        if self.pitch_mm is not None and self.pitch_mm <= 2 * self.bolt_mm:
            raise ValueError(
                "pitch_mm: the bearing’s bolts stand in one another; give the distance between their middles"
            )
        return self


class AntiRollBar(SavedPart):
    """An anti-roll bar of a suspension end; its rate follows from its size, and is the end's."""

    kind: Literal["anti_roll_bar"] = "anti_roll_bar"
    side: Side = "centre"
    end_id: Id
    body: PointName  # of the end's template: the half that turns
    addition: Key = "anti-roll-bar"  # of the end, that put it on
    inner: PointName = "bar_inner"  # middle of the bar, on its line
    outer: PointName = "bar_outer"  # where the arm leaves it
    joint: PointName = "bar_arm"  # of the drop link
    od_mm: Positive | None = None
    wall_mm: Positive | None = None  # null: solid
    bearing_mm: NotNegative = 60.0  # from where the arm leaves the bar, inward
    bend_radius_mm: Positive | None = None  # at the bar's middle; null: three diameters
    flats: FlatArms | None = None  # null: the arms are bent of the bar
    eye_mm: NotNegative = 20.0  # of bar past either drop link's joint
    eye: BarEye | None = None  # null: not given, and not judged
    bearings: BarBearing | None = None  # likewise
    wanted_nm_per_deg: Annotated[float, Field(gt=0, le=1e6)] | None = None  # what Size it looks for
    steel_name: Name = "42CrMo4, quenched and tempered"
    yield_mpa: Strength = 750.0  # EN 10083-3, 16 to 40 mm; from memory
    uts_mpa: Strength = 1000.0
    surface: Literal["ground", "machined", "hot rolled"] = "machined"

    @property
    def of_end(self) -> str | None:
        """The end that it is a bar of."""
        return self.end_id

    @property
    def stands_for(self) -> str | None:
        """The body of its end's template that it is."""
        return self.body

    def lost(self, ends: Mapping[str, End]) -> str | None:
        """Whether its end or its points are gone."""
        end = ends.get(self.end_id)
        if end is not None and all(point in end.points for point in (self.inner, self.outer, self.joint)):
            return None
        return "The suspension end that it was the anti-roll bar of, or its points, are not there any more. Take it out, or undo."

    def bar(self, end: End) -> TorsionBar | None:
        """Half of it, as its end's points make it; None while no diameter is chosen.

        Raises:
            InputError: the points make no bar.
        """
        if self.od_mm is None:
            return None
        inner, outer, joint = ([float(v) for v in end.points[point]] for point in (self.inner, self.outer, self.joint))
        along = [b - a for a, b in zip(inner, outer, strict=True)]
        half = sqrt(sum(v * v for v in along))
        if half < 1.0:
            raise InputError(
                "The bar’s middle and where its arm leaves it are one point.", code="zero_length", fields=("outer",)
            )
        out = [b - a for a, b in zip(outer, joint, strict=True)]
        beyond = sum(a * b for a, b in zip(along, out, strict=True)) / half
        lever = sqrt(max(0.0, sum(v * v for v in out) - beyond * beyond))
        return TorsionBar(
            half=half, bearing=self.bearing_mm, lever=lever, beyond=beyond, od=self.od_mm, wall=self.wall_mm,
            arm=FlatArm(height=self.flats.height_mm, thickness=self.flats.thickness_mm) if self.flats else None,
            bend_radius=0.0 if self.flats else self.bend_radius_mm or USUAL_BEND * self.od_mm,
        )  # fmt: skip

    def stiffens(self, ends: Mapping[str, End]) -> tuple[str, Key, float] | None:
        """Its end, the addition that it is of, and the rate that its size gives it [N·m/°]."""
        if self.lost(ends):
            return None
        try:
            bar = self.bar(ends[self.end_id])
            return (self.end_id, self.addition, rate_of(bar)) if bar else None
        except InputError:
            return None

    @model_validator(mode="after")
    def _goes_together(self) -> AntiRollBar:
        if self.od_mm and self.wall_mm and 2 * self.wall_mm >= self.od_mm:
            raise ValueError("wall_mm: the wall is as thick as the bar; give less, or none for a solid bar")
        if self.eye:
            width = self.flats.height_mm if self.flats else self.eye.width_mm
            if self.eye.bolt_mm + 1.0 >= min(width, 2 * self.eye_mm):
                raise ValueError(
                    "eye.bolt_mm: its hole breaks out of the eye; give the eye more width, or more bar past it"
                )
        if self.od_mm and self.bend_radius_mm and self.bend_radius_mm <= self.od_mm / 2:
            raise ValueError("bend_radius_mm: a bar cannot be bent on less than half its diameter; give more")
        return self
