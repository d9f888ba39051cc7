"""A two-pivot link as it is saved."""

from __future__ import annotations

from collections.abc import Mapping
from math import hypot
from typing import Annotated, Literal

from pydantic import Field, model_validator

from tirante.core.document.catalogue import Family
from tirante.core.document.end import DamperEye, End
from tirante.core.document.fields import Angle, Document, Key, Length, Name, NotNegative, Positive, Strength
from tirante.core.document.parts.common import Between, LoadCase, OfEnd, RodEndEnd, Welding, followed, gone
from tirante.core.document.parts.saved import SavedPart, UsedRow
from tirante.core.document.settings import School


class Machined(Document):
    """An end turned or milled from the solid: an eye on a spigot, or a clevis, let into the tube and welded."""

    form: Literal["eye", "clevis"] = "eye"
    thickness_mm: Positive  # of the eye, or of one ear
    width_mm: Positive  # across the hole
    hole_mm: Positive
    pin_mm: Positive
    edge_mm: Positive  # hole's centre to the free end
    gap_mm: NotNegative = 0.0  # between a clevis's ears
    fork_mm: Positive | None = (
        None  # hole's centre to the bottom of its fork; null, or less: so that an eye as wide as it turns
    )
    spigot_mm: Positive | None = None  # long, in the tube; null: as the bore is wide, and as its plug welds ask
    yield_mpa: Strength = 355.0
    uts_mpa: Strength = 490.0
    pin_yield_mpa: Strength = 640.0


class FlatEnd(Document):
    """An end of flat metal with a hole: one or two plates let into slots of the tube and welded, or the tube itself squashed."""

    form: Literal["eye let in", "clevis let in", "squashed"] = "eye let in"
    thickness_mm: Positive = 8.0  # of a plate; of a squashed end twice the wall
    width_mm: Positive = 60.0  # likewise; of a squashed end half the way round the tube
    hole_mm: Positive = 12.2
    pin_mm: Positive = 12.0
    edge_mm: Positive = 20.0  # hole's centre to the free end
    gap_mm: NotNegative = 0.0  # between the plates of a clevis
    lap_mm: Positive = 60.0  # plates: from the tube's end into it; squashed: flat, from the hole's centre to where the tube begins to be round
    leg_mm: Annotated[float, Field(gt=0, le=50)] = 4.0
    plate_name: Name = "S355 plate"
    yield_mpa: Strength = 355.0
    uts_mpa: Strength = 470.0
    pin_yield_mpa: Strength = 640.0

    @property
    def squashed(self) -> bool:
        """Whether it is the tube itself."""
        return self.form == "squashed"

    @property
    def plates(self) -> int:
        """How many stand through the tube, or take the pin."""
        return 2 if self.form == "clevis let in" else 1


class Reducer(Document):
    """A turned reducer in the end of a tube that is wider than its sleeve: a spigot in the bore, a collar on the tube's end, a neck notched to the sleeve."""

    neck_mm: Positive = 30.0
    neck_long_mm: Positive = 20.0  # from its collar to its longest point
    collar_mm: Positive = 5.0  # thick, as wide as the tube
    spigot_mm: Positive = 40.0  # in the tube


class Sleeve(Document):
    """A sleeve for a bush, square across the tube, which is notched to it."""

    outside_mm: Positive = 44.0
    wall_mm: Positive = 5.0
    long_mm: Positive = 50.0
    rings: bool = False  # at both its ends, out to a tube that is wider than it is long
    reducer: Reducer | None = None  # between it and a tube that is wider than it; null: none


class Plug(Document):
    """A solid plug welded into the tube's open end, plug and tube bored across for a pin."""

    hole_mm: Positive = 12.2
    pin_mm: Positive = 12.0
    edge_mm: Positive = 24.0  # hole's centre to the tube's end
    long_mm: Positive = 70.0  # from the tube's end to the plug's inner end
    leg_mm: Annotated[float, Field(gt=0, le=50)] = (
        3.0  # of the fillet round inside the tube's end, which the plug is sunk by
    )
    plug_mm: NotNegative = 8.0  # of each weld through the wall
    plugs: Annotated[int, Field(ge=0, le=8)] = 2  # round the tube, in one cross-section
    metal_name: Name = "S355 round"
    yield_mpa: Strength = 355.0
    uts_mpa: Strength = 470.0
    pin_yield_mpa: Strength = 640.0


class FixedEnd(Document):
    """An end that does not adjust: bush sleeve, cup, machined eye or clevis, plates let in, a plug, all welded to the tube; or the tube squashed."""

    kind: Literal["fixed"] = "fixed"
    what: Name = "bush sleeve"
    family: Family = "steel"  # of its metal: what does not weld to the tube's is refused
    centre_to_face: Length
    machined: Machined | None = None
    flat: FlatEnd | None = Field(
        default=None, description="plates let into the tube, or the tube squashed; null: neither"
    )

    sleeve: Sleeve | None = Field(
        default=None, description="a sleeve that the tube is notched to; null: none, or its sizes are not given"
    )
    plug: Plug | None = Field(
        default=None, description="a solid plug in the tube's end, both bored across for a pin; null: none"
    )
    eye: DamperEye | None = Field(
        default=None,
        description="what goes in it, a bush or a bearing, as the plates of a bracket clamp it; null: not given",
    )

    @model_validator(mode="after")
    def _made_one_way(self) -> FixedEnd:
        if sum(one is not None for one in (self.machined, self.flat, self.sleeve, self.plug)) > 1:
            raise ValueError("machined: an end is machined, flat, a sleeve, or plugged; choose one")
        return self


class Splice(Document):
    """Two lengths of tube joined over or round a sleeve: how a link is mended, or a short one made long enough."""

    at: Length  # from pivot A along the tube to where the two meet
    sleeve: Literal["inside", "outside"] = "inside"
    length: Length  # of the sleeve, half of it in either tube
    wall_mm: Positive
    plugs: Annotated[int, Field(ge=0, le=8)] = 2  # on either side
    plugs_in_section: Annotated[int, Field(ge=0, le=8)] = 1
    plug_mm: NotNegative = 9.5
    leg_mm: NotNegative | None = (
        None  # null: what the thinner wall asks; of the ring: the two tubes' meeting over an inside sleeve, the ends of an outside one
    )


LinkEnd = Annotated[RodEndEnd | FixedEnd, Field(discriminator="kind")]


class Bent(Document):
    """A tube bent round something: straight pieces that meet off the line between the pivots."""

    offset: Length
    from_ends: Length | None = None  # of either bend from its pivot; None: one bend at mid-span
    radius_mm: Positive | None = (
        None  # of the former, at the tube's middle line; null: 3 outside diameters, common practice
    )
    plane_deg: Angle = 0.0  # which way it points: from square to end A's bolt, on the upper side, about the link


class BoughtLink(Document):
    """A link bought ready-made, to be shortened: what of it was measured as it came, and the end that stays."""

    measured: Literal["tube", "centres"] = "tube"
    tube_length: Length | None = None  # end to end of its bare tube
    centres: Length | None = None  # pin to pin, its joints screwed in as far as this link has them
    keep: Literal["a", "b"] = "a"
    with_joints: bool = True  # its joints and nuts came with it

    @property
    def length(self) -> Length | None:
        """What was measured."""
        return self.tube_length if self.measured == "tube" else self.centres


class Link(SavedPart):
    """A two-pivot link."""

    kind: Literal["link"] = "link"
    between: Between
    cases: Annotated[tuple[LoadCase, ...], Field(max_length=40, strict=False)] = ()
    tube: Key | None = None
    grade: Key | None = None
    end_a: LinkEnd = RodEndEnd(hand="RH")
    end_b: LinkEnd = RodEndEnd(hand="LH")
    school: School | None = None  # None: the shop's
    showing: Length | None = None
    bow_mm: NotNegative | None = None  # None: length / 1000
    bent: Bent | None = None
    splice: Splice | None = None
    mid_welded: bool = False  # something is welded on along the span
    welding: Welding = Welding()
    clocking_deg: Angle = 0.0  # between the two bolt axes
    bought: BoughtLink | None = None
    everyday_n: NotNegative | None = None  # range of its everyday force, where no end of the job tells it

    @property
    def of_end(self) -> str | None:
        """The end whose points its length follows."""
        return self.between.end_id if isinstance(self.between, OfEnd) else None

    @property
    def adjustable(self) -> list[RodEndEnd]:
        """Its threaded ends, A first."""
        return [end for end in (self.end_a, self.end_b) if isinstance(end, RodEndEnd)]

    def used_rows(self) -> list[UsedRow]:
        """Catalogue rows that it uses: (table, key, field)."""
        wanted = [("tubes", self.tube, "tube"), ("grades", self.grade, "grade")]
        for name, end in (("end_a", self.end_a), ("end_b", self.end_b)):
            if isinstance(end, RodEndEnd):
                wanted += [
                    ("joints", end.joint, f"{name}.joint"),
                    ("inserts", end.insert if end.tapped_mm is None else None, f"{name}.insert"),
                    ("nuts", end.nut, f"{name}.nut"),
                ]
        return [(table, key, field) for table, key, field in wanted if key is not None]

    @property
    def stands_for(self) -> str | None:
        """The link of its end's template that it is."""
        return self.between.link if isinstance(self.between, OfEnd) else None

    def tied(self, ends: Mapping[str, End]) -> Link:
        """As long as the end's points now make it."""
        between = followed(self.between, ends)
        return self if between is self.between else self.model_copy(update={"between": between})

    def lost(self, ends: Mapping[str, End]) -> str | None:
        """Whether the end or points that it was tied to are gone."""
        return gone(self.between, ends)

    @property
    def path_mm(self) -> float:
        """Centre to centre along the tube: more than pivot to pivot where it is bent [mm]."""
        span = self.between.mm
        if self.bent is None:
            return span
        leg = self.bent.from_ends.mm if self.bent.from_ends else span / 2
        return 2 * hypot(leg, self.bent.offset.mm) + span - 2 * leg

    @model_validator(mode="after")
    def _bends(self) -> Link:
        if self.splice and not self.splice.length.mm / 2 < self.splice.at.mm < self.path_mm - self.splice.length.mm / 2:
            raise ValueError(
                f"splice.at: the sleeve does not lie along the tube; give between {self.splice.length.mm / 2:.1f} and "
                f"{self.path_mm - self.splice.length.mm / 2:.1f} mm"
            )
        if self.bent and self.bent.from_ends and self.bent.from_ends.mm > self.between.mm / 2:
            raise ValueError(
                f"bent.from_ends: the bends lie past the middle; give at most {self.between.mm / 2:.1f} mm, or none for one bend"
            )
        if self.bent and self.bent.offset.mm > self.between.mm / 4:
            raise ValueError("bent.offset: bent by more than a quarter of its length it is no link any more; give less")
        return self
