"""The design: one document per job, what a user saves, exports and imports, and what everything is computed from.

Units are in every name; lengths a person typed keep the text beside the millimetres. A design holds the left side;
side "pair" means a mirrored part on the right. Version 3 of the format; `load_design` upgrades older ones.
"""

from __future__ import annotations

import json
from math import dist, hypot
from typing import Annotated, Any, Literal

from pydantic import AfterValidator, Field, model_validator

from tirante.core.design.car import Car
from tirante.core.design.catalogue import Catalogue
from tirante.core.design.fields import (
    Angle,
    Coordinate,
    Document,
    Factor,
    Force,
    Id,
    Key,
    Length,
    Name,
    Note,
    NotNegative,
    Positive,
    Strength,
)
from tirante.core.loads.cases import LoadSet
from tirante.core.suspension.end import End, PointName, Ride

SCHEMA_VERSION = 3
Side = Literal["left", "right", "pair", "centre"]
School = Literal["centred", "buried", "exposure"]
Hand = Literal["RH", "LH"]


class DesignFactors(Document):
    """What loads are multiplied by before each check; common practice, editable."""

    yielding: Factor = 1.5
    column: Factor = 2.0
    strip: Factor = 2.0
    joint: Factor = 2.0
    tab_yield: Factor = 1.67
    tab_rupture: Factor = 2.0
    bolt: Factor = 2.0
    weld: Factor = 2.0


class Settings(Document):
    """The shop's choices."""

    units: Literal["mm", "in"] = "mm"
    decimals: Annotated[int, Field(ge=0, le=3)] = 1
    inch_denominator: Literal[16, 32, 64] = 32
    school: School = "centred"
    showing: Length | None = None
    left_hand_end: Literal["a", "b"] = "b"
    projection: Literal["first", "third"] = "first"
    factors: DesignFactors = DesignFactors()
    electrode_uts_mpa: Strength = 483.0  # 70 ksi class; from memory
    saw_kerf_mm: NotNegative = 2.0
    check_tolerance_mm: Annotated[float, Field(gt=0, le=20)] = 0.5
    weld_shrink_mm: Annotated[float, Field(ge=0, le=5)] = 0.0


class Pivots(Document):
    """A link between two pivots in car axes: x forward, y left, z up."""

    kind: Literal["pivots"] = "pivots"
    a: tuple[Coordinate, Coordinate, Coordinate] = Field(strict=False)
    b: tuple[Coordinate, Coordinate, Coordinate] = Field(strict=False)

    @property
    def mm(self) -> float:
        """Centre to centre [mm]."""
        return dist([c.mm for c in self.a], [c.mm for c in self.b])

    @model_validator(mode="after")
    def _apart(self) -> Pivots:
        if self.mm < 1.0:
            raise ValueError("the two pivots coincide; move one of them")
        return self


class CentreToCentre(Document):
    """A link of a given length."""

    kind: Literal["length"] = "length"
    length: Length

    @property
    def mm(self) -> float:
        """Centre to centre [mm]."""
        return self.length.mm


class OfEnd(Document):
    """A link of a suspension end: its length follows that end's points (`tied`)."""

    kind: Literal["end"] = "end"
    end_id: Id
    link: Annotated[str, Field(max_length=80)]  # as the template calls it
    a: PointName
    b: PointName
    a_side: Literal["left", "right"] = "left"
    b_side: Literal["left", "right"] = "left"
    mm: Positive  # centre to centre, as the end last gave it


Between = Annotated[Pivots | CentreToCentre | OfEnd, Field(discriminator="kind")]


class LoadCase(Document):
    """What the link sees at once; typed, or worked out of the car's load cases (`worked`, made anew whenever it is read)."""

    name: Name
    at: Annotated[str, Field(max_length=120)] = ""  # the travel position that a worked one applies at
    worked: bool = False
    axial_n: Force = 0.0  # tension positive
    strike_n: Annotated[float, Field(ge=0, le=1e7)] = 0.0  # at mid-span, square to the link
    side_n: Annotated[float, Field(ge=0, le=1e7)] = 0.0  # at an eye, square to the link


class RodEndEnd(Document):
    """A threaded end: joint, insert and nut by catalogue key (None: not chosen yet), or the tube itself tapped."""

    kind: Literal["rod_end"] = "rod_end"
    joint: Key | None = None
    insert: Key | None = None
    nut: Key | None = None
    hand: Hand = "RH"
    tapped_mm: Positive | None = None  # full thread cut into a thick tube, in place of an insert


class Machined(Document):
    """An end turned or milled from the solid: an eye on a spigot, or a clevis, let into the tube and welded."""

    form: Literal["eye", "clevis"] = "eye"
    thickness_mm: Positive  # of the eye, or of one ear
    width_mm: Positive  # across the hole
    hole_mm: Positive
    pin_mm: Positive
    edge_mm: Positive  # hole's centre to the free end
    gap_mm: NotNegative = 0.0  # between a clevis's ears
    yield_mpa: Strength = 355.0
    uts_mpa: Strength = 490.0
    pin_yield_mpa: Strength = 640.0


class FixedEnd(Document):
    """An end that does not adjust: bush sleeve, cup, machined eye or clevis, welded to the tube."""

    kind: Literal["fixed"] = "fixed"
    what: Name = "bush sleeve"
    centre_to_face: Length
    machined: Machined | None = None


class Splice(Document):
    """Two lengths of tube joined over or round a sleeve: how a link is mended, or a short one made long enough."""

    at: Length  # from pivot A along the tube to where the two meet
    sleeve: Literal["inside", "outside"] = "inside"
    length: Length  # of the sleeve, half of it in either tube
    wall_mm: Positive
    plugs: Annotated[int, Field(ge=0, le=8)] = 2  # on either side
    plugs_in_section: Annotated[int, Field(ge=0, le=8)] = 1
    plug_mm: NotNegative = 9.5
    leg_mm: NotNegative = 4.0  # of the ring: the two tubes' meeting over an inside sleeve, the ends of an outside one


class Boxed(Document):
    """A link of four plates that takes a bump stop or a strike on a pad along its top; it has no tube."""

    height: Length  # outside
    width: Length
    side_mm: Positive
    top_mm: Positive
    bottom_mm: Positive
    pad_at: Length  # from pivot A
    pad_offset_mm: Annotated[float, Field(ge=-200, le=200)] = 0.0  # of the stop's line from the middle
    leg_mm: Annotated[float, Field(gt=0, le=50)] = 4.0  # of the four seams
    plate_name: Name = "S355 plate"
    yield_mpa: Strength = 355.0
    uts_mpa: Strength = 470.0


LinkEnd = Annotated[RodEndEnd | FixedEnd, Field(discriminator="kind")]


class Welding(Document):
    """How inserts are welded in."""

    leg_mm: NotNegative = 4.0
    plug_mm: NotNegative = 9.5
    plugs: Annotated[int, Field(ge=0, le=8)] = 2
    plugs_in_section: Annotated[int, Field(ge=0, le=8)] = 1  # square to each other: one in any cross-section


class Bent(Document):
    """A tube bent round something: straight pieces that meet off the line between the pivots."""

    offset: Length
    from_ends: Length | None = None  # of either bend from its pivot; None: one bend at mid-span


class BoughtLink(Document):
    """A link bought ready-made, to be shortened: its tube as it came and the end that stays."""

    tube_length: Length
    keep: Literal["a", "b"] = "a"


class FlatBase(Document):
    """The tab stands on a flat."""

    kind: Literal["flat"] = "flat"
    wall_mm: NotNegative | None = None  # of what it is welded to


class SaddleBase(Document):
    """The tab's foot is cut to stand square across a round tube."""

    kind: Literal["saddle"] = "saddle"
    tube_od: Length
    angle_deg: Angle = 90.0  # between plate and tube axis; only 90 is worked out
    wall_mm: NotNegative | None = None


Base = Annotated[FlatBase | SaddleBase, Field(discriminator="kind")]


class TabPair(Document):
    """Two plates that hold a joint in double shear."""

    ends: Literal["a", "b", "both"] = "both"
    plate: Length
    grade_name: Name = "S275 plate"
    yield_mpa: Strength = 275.0
    uts_mpa: Strength = 410.0
    hole: Length
    head_radius: Length  # of the free end; half the width across the hole
    edge: Length  # hole centre to the free end along the load, at least the head radius
    base_width: Length
    height: Length  # base to hole centre
    base: Base = FlatBase()
    bolt: Key | None = None
    spacer: Key | None = None
    shim_mm: NotNegative = 0.0  # each side, beside the spacer
    thread_in_plane: bool = False
    weld_leg_mm: Annotated[float, Field(gt=0, le=50)] = 5.0
    load_angle_deg: Angle = 0.0  # pull from the tab's axis: 0 straight off the base


class Link(Document):
    """A two-pivot link."""

    id: Id
    name: Name
    side: Side = "pair"
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
    boxed: Boxed | None = None  # then there is no tube; strikes push on its pad
    mid_welded: bool = False  # something is welded on along the span
    welding: Welding = Welding()
    clocking_deg: Angle = 0.0  # between the two bolt axes
    bought: BoughtLink | None = None
    tab: TabPair | None = None
    note: Note = ""

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
        if self.boxed and not self.boxed.pad_at.mm < self.between.mm:
            raise ValueError(f"boxed.pad_at: the pad stands past pivot B; give less than {self.between.mm:.1f} mm")
        if self.boxed and (self.bent or self.splice or self.bought):
            raise ValueError("boxed: a boxed link is of plates: it is neither bent, spliced nor bought; take one out")
        if self.boxed and (
            self.boxed.top_mm + self.boxed.bottom_mm >= self.boxed.height.mm
            or 2 * self.boxed.side_mm >= self.boxed.width.mm
        ):
            raise ValueError("boxed.height: the plates together are as thick as the box; give it more height and width")
        if self.bent and self.bent.from_ends and self.bent.from_ends.mm > self.between.mm / 2:
            raise ValueError(
                f"bent.from_ends: the bends lie past the middle; give at most {self.between.mm / 2:.1f} mm, or none for one bend"
            )
        if self.bent and self.bent.offset.mm > self.between.mm / 4:
            raise ValueError("bent.offset: bent by more than a quarter of its length it is no link any more; give less")
        return self


class Stud(Document):
    """A ball joint's stud between its ball and the seat of its taper."""

    diameter_mm: Positive  # at the seat
    lever_mm: Positive  # ball centre to the seat
    yield_mpa: Strength = 650.0
    taper: Literal["1:8", "1:10", "none"] = "1:10"  # in diameter; the boss is reamed to the same
    holds_in_n: Annotated[float, Field(gt=0, le=1e7)] | None = (
        None  # the maker's, against being pulled out of its socket
    )


class Gusset(Document):
    """A flat plate let in between the two tubes where they meet at the outer joint."""

    reach_mm: Positive  # along either tube, from the outer joint's centre
    thickness_mm: Positive


class Arm(Document):
    """A welded arm of a suspension end: a tube from each pivot of its hinge to the outer joint, braced where wanted."""

    id: Id
    name: Name
    side: Side = "pair"
    end_id: Id
    body: PointName  # of the end's template
    tube: Key | None = None
    grade: Key | None = None
    brace_at: Annotated[float, Field(gt=0.05, lt=0.95)] | None = (
        None  # share of the way from the pivots to the outer joint
    )
    pivots: Literal["bush sleeves", "rod ends", "spherical bearings"] = "bush sleeves"
    outer: Literal["ball joint in a socket", "spherical bearing in a cup", "rod end"] = "ball joint in a socket"
    stud: Stud | None = None
    gusset: Gusset | None = None
    pivot_end: RodEndEnd = RodEndEnd(hand="RH")  # of either pivot, where those are rod ends
    pivot_face_mm: NotNegative = 22.0  # pivot's centre to where its tube begins: half the sleeve or cup
    outer_face_mm: NotNegative = 30.0  # the same at the outer joint
    outer_rating_n: Annotated[float, Field(gt=0, le=1e7)] | None = None  # the maker's static rating of the outer joint
    pivot_rating_n: Annotated[float, Field(gt=0, le=1e7)] | None = (
        None  # the same of the bush or bearing at either pivot
    )
    welding: Welding = Welding()  # of the inserts, where the pivots are rod ends
    note: Note = ""


class TravelBox(Document):
    """How far the end is to be moved, each way from ride height."""

    bump_mm: Annotated[float, Field(gt=0, le=600)] = 80.0
    droop_mm: Annotated[float, Field(gt=0, le=600)] = 80.0
    roll_deg: Annotated[float, Field(ge=0, le=15)] = 3.0
    steer_mm: Annotated[float, Field(ge=0, le=200)] = 30.0  # of a rack
    steer_deg: Annotated[float, Field(ge=0, le=60)] = 25.0  # of a steering arm


class SuspensionEnd(Document):
    """One end of the car in this job."""

    id: Id
    name: Name
    end: End
    box: TravelBox = TravelBox()


class Design(Document):
    """A job."""

    schema_version: Literal[3] = 3
    name: Name
    note: Note = ""
    settings: Settings = Settings()
    links: Annotated[tuple[Link, ...], Field(max_length=500, strict=False)] = ()
    catalogue: Catalogue = Catalogue()
    ends: Annotated[tuple[SuspensionEnd, ...], Field(max_length=8, strict=False)] = ()
    arms: Annotated[tuple[Arm, ...], Field(max_length=60, strict=False)] = ()
    car: Car = Car()
    loads: LoadSet = LoadSet()

    def standing(self, end: SuspensionEnd) -> End:
        """An end in this job's car, at its ride height."""
        return self.car.standing(end.end)

    @model_validator(mode="after")
    def _consistent(self) -> Design:
        every = {"links": self.links, "ends": self.ends, "arms": self.arms}
        for what, ids in ((what, [one.id for one in parts]) for what, parts in every.items()):  # type: ignore[attr-defined]
            if len(set(ids)) != len(ids):
                raise ValueError(f"{what}: two {what} have the same id; give one a new id")
        for i, one in enumerate(self.ends):
            if one.end.vehicle is not None or one.end.ride != Ride():
                which = "ride" if one.end.vehicle is None else "vehicle"
                raise ValueError(
                    f"ends.{i}.end.{which}: the vehicle and its ride height are the job’s; give them in car"
                )
        for i, link in enumerate(self.links):
            for kind, key, field in used_keys(link):
                if self.catalogue.find(kind, key) is None:  # type: ignore[arg-type]
                    raise ValueError(
                        f"links.{i}.{field}: the catalogue rows of this design have no {kind[:-1]} “{key}”; choose "
                        "one from the catalogue"
                    )
        for i, arm in enumerate(self.arms):
            for row, wanted, field in keys_of_arm(arm):
                if self.catalogue.find(row, wanted) is None:  # type: ignore[arg-type]
                    raise ValueError(
                        f"arms.{i}.{field}: the catalogue rows of this design have no {row[:-1]} “{wanted}”; choose one from the catalogue"
                    )
        return self


def used_keys(link: Link) -> list[tuple[str, str, str]]:
    """Catalogue rows a link uses: (kind, key, field)."""
    wanted = [("tubes", link.tube, "tube"), ("grades", link.grade, "grade")]
    for name, end in (("end_a", link.end_a), ("end_b", link.end_b)):
        if isinstance(end, RodEndEnd):
            wanted += [
                ("joints", end.joint, f"{name}.joint"),
                ("inserts", end.insert if end.tapped_mm is None else None, f"{name}.insert"),
                ("nuts", end.nut, f"{name}.nut"),
            ]
    if link.tab:
        wanted += [("bolts", link.tab.bolt, "tab.bolt"), ("spacers", link.tab.spacer, "tab.spacer")]
    return [(kind, key, field) for kind, key, field in wanted if key is not None]


def keys_of_arm(arm: Arm) -> list[tuple[str, str, str]]:
    """Catalogue rows an arm uses: (kind, key, field)."""
    end = arm.pivot_end
    wanted = [
        ("tubes", arm.tube, "tube"), ("grades", arm.grade, "grade"), ("joints", end.joint, "pivot_end.joint"),
        ("inserts", end.insert, "pivot_end.insert"), ("nuts", end.nut, "pivot_end.nut"),
    ]  # fmt: skip
    return [(kind, key, field) for kind, key, field in wanted if key is not None]


# --- reading and writing --------------------------------------------------------------------------------------------


def _add_ends(raw: dict[str, Any]) -> dict[str, Any]:
    """1 → 2: suspension ends."""
    return {**raw, "schema_version": 2, "ends": []}


def _one_car(raw: dict[str, Any]) -> dict[str, Any]:
    """2 → 3: the vehicle belongs to the job. Where two ends said different things, the first is kept."""
    car: dict[str, Any] = {}
    ends = []
    for one in raw["ends"]:
        vehicle = one["end"].get("vehicle")
        where = one["end"].get("end", "front")
        if vehicle:
            share, driven = vehicle.get("brake_share", 0.5), vehicle.get("drive_share", 0.0)
            car.setdefault("wheelbase_mm", vehicle["wheelbase_mm"])
            car.setdefault("cg_height_mm", vehicle["cg_height_mm"])
            car.setdefault("brake_front_share", share if where == "front" else round(1 - share, 12))
            car.setdefault("drive_front_share", driven if where == "front" else round(1 - driven, 12))
            car.setdefault(f"brakes_{where}", vehicle.get("brakes", "outboard"))
            car.setdefault(f"drive_{where}", vehicle.get("drive"))
        ends.append({**one, "end": {**one["end"], "vehicle": None}})
    return {**raw, "schema_version": 3, "ends": ends, "car": car}


_UPGRADES: dict[int, Any] = {
    1: _add_ends,
    2: _one_car,
}  # version → function to the next; a stored example of every version is a test


def load_design(text: str | bytes) -> Design:
    """Read a design of any version.

    Raises:
        ValidationError: by field, for what does not fit the format.
    """
    try:
        version = json.loads(text).get("schema_version", SCHEMA_VERSION)
    except (ValueError, AttributeError, RecursionError):
        version = SCHEMA_VERSION
    if version in _UPGRADES:
        raw = json.loads(text)
        while raw["schema_version"] in _UPGRADES:
            raw = _UPGRADES[raw["schema_version"]](raw)
        text = json.dumps(raw)
    return tied(Design.model_validate_json(text))


def tied(design: Design) -> Design:
    """The design with every link of an end as long as that end's points now make it.

    A link whose end or points are gone keeps the length it had; `assemble` says so.
    """
    ends = {one.id: one.end for one in design.ends}
    links = []
    for link in design.links:
        length = of_end_length(link, ends)
        fresh = length is not None and length != link.between.mm
        links.append(
            link.model_copy(update={"between": link.between.model_copy(update={"mm": length})}) if fresh else link
        )
    return (
        design
        if all(a is b for a, b in zip(links, design.links, strict=True))
        else design.model_copy(update={"links": tuple(links)})
    )


def of_end_length(link: Link, ends: dict[str, End]) -> float | None:
    """What an end's points make of a link's length [mm]; None when it is not tied, or what it was tied to is gone."""
    between = link.between
    if not isinstance(between, OfEnd) or between.end_id not in ends:
        return None
    end = ends[between.end_id]
    places = []
    for point, side in ((between.a, between.a_side), (between.b, between.b_side)):
        given = end.points.get(point)
        if given is None:
            return None
        mirror = (given[0], -given[1], given[2])
        places.append(end.right_points.get(point, mirror) if side == "right" else given)
    length = dist(*places)
    return length if length >= 1e-3 else None


def loose(link: Link, design: Design) -> bool:
    """Whether what a link was tied to is gone."""
    tied_to = isinstance(link.between, OfEnd)
    return tied_to and of_end_length(link, {one.id: one.end for one in design.ends}) is None


TiedDesign = Annotated[Design, AfterValidator(tied)]


def dump_design(design: Design) -> str:
    """The design as JSON text: fixed order, two spaces, a final newline; the same design gives the same bytes."""
    return json.dumps(design.model_dump(mode="json"), ensure_ascii=False, indent=2) + "\n"


def prune_catalogue(design: Design) -> Design:
    """The design with only the catalogue rows it uses, in a fixed order."""
    used = {(kind, key) for link in design.links for kind, key, _ in used_keys(link)}
    used |= {(kind, key) for arm in design.arms for kind, key, _ in keys_of_arm(arm)}
    rows = {
        kind: tuple(
            sorted(
                (r for r in design.catalogue.rows(kind) if (kind, r.key) in used),  # type: ignore[arg-type]
                key=lambda r: r.key,
            )
        )
        for kind in Catalogue.model_fields
    }
    return design.model_copy(update={"catalogue": Catalogue(**rows)})  # type: ignore[arg-type]
