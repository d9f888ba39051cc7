"""What a job comes to, with units in the names, ready for any client: its parts alike whatever their kind, lists, what is to be settled."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Field, GetJsonSchemaHandler, SerializeAsAny
from pydantic.json_schema import JsonSchemaValue
from pydantic_core import CoreSchema, core_schema

from tirante.core.checks.shown import CheckOut, Out, Status
from tirante.core.document.end import LinkBend
from tirante.core.document.forms.table import FieldGroup
from tirante.core.document.joints import Held
from tirante.core.document.parts.common import Side
from tirante.core.document.shape import Shape
from tirante.core.parts.kind import Station
from tirante.core.parts.registry import KINDS


class FaultOut(Out):
    """What is missing or contradictory, at a field of the part."""

    field: str
    message: str


class ViewOut(Out):
    """A drawing that a part has."""

    name: str
    title: str
    cut: bool


class FigureOut(Out):
    """A length that somebody works to."""

    label: str
    mm: float
    note: str


class CardLineOut(Out):
    """A line of a card."""

    text: str
    mm: float | None
    strong: bool


class CardEndOut(Out):
    """An end of a part on its card."""

    mark: str
    lines: list[CardLineOut]


class CardOut(Out):
    """What the bench needs of a part, on paper and on a phone alike."""

    figures: list[FigureOut]
    lines: list[CardLineOut]
    ends: list[CardEndOut]


class JigStationOut(Out):
    """Something that stands in a jig."""

    name: str
    ordinate_mm: float
    what: str


class JigOut(Out):
    """How a part is held while it is welded."""

    view: str
    set_length_mm: float
    check_length_mm: float
    tolerance_mm: float
    stations: list[JigStationOut]
    steps: list[str]


class _OwnOfKind:
    """Described as one of what the kinds have of their own."""

    def __get_pydantic_json_schema__(self, schema: CoreSchema, handler: GetJsonSchemaHandler) -> JsonSchemaValue:
        del schema
        models = [kind.own for _, kind in sorted(KINDS.items()) if kind.own is not None]
        choices = {model.model_fields["kind"].default: model.__pydantic_core_schema__ for model in models}
        return handler(
            core_schema.nullable_schema(core_schema.tagged_union_schema(choices=choices, discriminator="kind"))
        )


class PartOut(Out):
    """A part, worked out; the same whatever its kind, but for `own`."""

    id: str
    kind: str
    word: str
    station: Station
    name: str
    side: str
    count: int
    own_mirror: bool
    of_end: str | None
    complete: bool
    status: Status
    headline: str
    governing: str | None
    faults: list[FaultOut]
    stock: str | None
    material: str | None
    mass_kg: float | None
    checks: list[CheckOut]
    not_checked: list[str]
    not_carried: list[str]
    views: list[ViewOut]
    card: CardOut | None
    jig: JigOut | None
    procedure: str
    welding: list[str]
    notes: list[str]
    begins: dict[str, Any] = Field(description="what objects that may be absent begin with, by path")
    metal: str = Field(description="fingerprint of what its metal depends on")
    judged: str = Field(description="fingerprint of what its judgement depends on")
    tool: bool = Field(default=False, description="whether it is a tool of the shop, which carries no load of the car")
    own: Annotated[SerializeAsAny[Out] | None, _OwnOfKind()]


class PieceOut(Out):
    """A saw piece."""

    key: str
    part_id: str
    part: str
    side: str
    tube: str
    grade: str
    length_mm: float
    count: int
    before_notching: bool
    ends: tuple[str, str]
    off_mm: float | None = Field(default=None, description="of a bought link: what comes off")
    told: str = ""
    at_ends: str = Field(default="", description="what is made at either end, in words")
    turned: str = Field(
        default="",
        description="how far the second end’s long side is turned from the first’s, right-handed about the way from first to second; empty: not both are notched",
    )
    mass_kg: float | None = Field(default=None, description="of one; null: not known")


class ItemOut(Out):
    """Plate, hardware, tools."""

    kind: str
    what: str
    hand: str
    count: int = Field(description="0: as much as is needed")
    mass_kg: float | None = Field(default=None, description="of all of a plate; null: not known, or nobody asks")


class LeftOutOut(Out):
    """A part that is not on the list, and why."""

    part_id: str
    name: str
    why: str


class CutListOut(Out):
    """The job's cut list."""

    pieces: list[PieceOut]
    items: list[ItemOut]
    left_out: list[LeftOutOut]


class PlateAtOut(Out):
    """A joint of what carries a wheel."""

    point: str
    words: str


class NotMadeOut(Out):
    """Something that moves at an end and is no part of the job."""

    end_id: str
    end: str
    name: str
    why: str
    can: bool = Field(description="whether a kind of part can be made of it")
    body: str = Field(default="", description="of what carries a wheel, by the template's name")
    plates_at: list[PlateAtOut] = Field(default=[], description="its joints that may have a plate and have none yet")


Family = Literal["tab_pair", "strike_pad", "bearing_pad", "leaf_perch", "spring_seat"]


class PlaceOut(Out):
    """Where a bracket may hold something: an end of a part, or a damper's eye; and what holds it."""

    held: Held
    of: str = Field(description="what is held: a part, or the damper of an end")
    name: str = Field(description="which of its places, in words")
    id: str = Field(description="of the part, or of the suspension end")
    by: str | None = Field(description="id of the bracket; null: nothing in this job")
    side: Side = Field(description="of what is held")
    missing: str | None = Field(description="what must be chosen before a bracket can be made for it")
    together: bool = Field(description="whether one bracket is made for all places of it that nothing holds yet")
    on: str | None = Field(default=None, description="id of the part that it stands on; null: on none of this job")
    where: str = Field(default="", description="on that part or member, in words")
    at: tuple[float, float, float] | None = Field(
        default=None, description="where it is in the car, as the points were taken; null: not known"
    )
    bolt: str = Field(default="", description="its bolt’s direction and where that is known from, in words")
    mount: str | None = Field(default=None, description="id of the member of the car that its bracket stands on")
    family: Family = Field(default="tab_pair", description="which kind of bracket is made for it")
    makes: str = Field(default="tab pair", description="what that kind is called")
    forked: bool = Field(default=False, description="whether it is a clevis, which a single tab alone goes into")
    elsewhere: str = Field(
        default="",
        description="what holds it that is no bracket: a part’s own plates, or what is bought with it; empty: a bracket does, or nothing yet",
    )

    sized: str | None = Field(
        default=None,
        description="where in its end the sizes of what is clamped there are kept, as the end’s form has it; null: they are a part’s",
    )

    @property
    def settled(self) -> bool:
        """Whether something holds it."""
        return self.by is not None or bool(self.elsewhere)


class HoldOut(Out):
    """Something to settle, and where."""

    part: str
    what: str
    detail: str
    state: Literal["stop", "attention", "incomplete"]
    rank: float = Field(description="the worse, the higher")
    station: Literal["layout", "cycle", "loads", "members", "brackets", "jigs"]
    id: str = Field(description="of the part, or of the suspension end")
    selection: str


class FarOffOut(Out):
    """A point that stands where hardly any car has one."""

    point: str
    side: str
    says: str


class EndMotionOut(Out):
    """How a suspension end goes through its whole box of travel, roll and steer."""

    id: str
    name: str
    state: Literal["good", "attention", "stop", "incomplete"]
    says: str
    not_watched: list[str] = Field(description="joints of its links of which nothing says what they allow")
    allowed: list[str] = Field(description="what its rod ends and spacers allow, each with where it comes from")
    limits: dict[str, dict[Literal["a", "b"], float | None]] = Field(
        description="the same as figures, °, for whoever asks of the end without its parts"
    )
    bends: dict[str, LinkBend | None] = Field(description="how its links are bent by the parts that stand for them")
    far_off: list[FarOffOut] = Field(description="points that are asked about")
    shapes: dict[str, Shape] = Field(description="what its members look like as their parts are made")


class Evaluation(Out):
    """A design, worked out."""

    ends: list[EndMotionOut]

    parts: list[PartOut]
    cut_list: CutListOut
    not_made: list[NotMadeOut]
    holds: list[HoldOut]
    places: list[PlaceOut]
    marks: dict[str, Literal["untouched", "in hand", "good", "attention", "stop"]] = Field(
        description="how each station stands, by its name"
    )
    engine: str


class KindOut(Out):
    """A kind of part: what a person may set of it."""

    key: str
    word: str
    station: Station
    searched: bool
    of_tubes: bool = Field(
        description="whether that is over tubes of the catalogue, so that some of them may be left out"
    )
    searches: str = Field(description="what Size it goes over, in words")
    stands_between: bool = Field(description="whether one is made between two points")
    has_room: bool = Field(description="whether the room round it is looked at")
    fields: list[FieldGroup]
