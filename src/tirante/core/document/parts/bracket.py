"""Brackets as they are saved: what holds a joint, by family."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from tirante.core.brackets.corner import CornerFoot
from tirante.core.document.fields import Angle, Document, Length, Name, NotNegative, Signed, Strength
from tirante.core.document.parts.saved import SavedPart


class FlatBase(Document):
    """The tab stands on a flat."""

    kind: Literal["flat"] = "flat"
    lean_deg: Annotated[float, Field(ge=-60, le=60)] = (
        0.0  # of the plates, from square to the flat, toward the bolt's own way
    )
    wall_mm: NotNegative | None = None  # of what it is welded to
    edge_mm: NotNegative | None = (
        None  # from the pair's middle along the bolt to the nearer edge of the face; null: not near, or not known
    )
    round_mm: NotNegative = 0.0  # outside radius of a box's corner beyond that edge; 0: square, or not known


class SaddleBase(Document):
    """The tab's foot is cut to stand on a round tube."""

    kind: Literal["saddle"] = "saddle"
    tube_od: Length
    angle_deg: Angle = 90.0  # between plate and tube axis
    lean_deg: Annotated[float, Field(ge=-30, le=30)] = (
        0.0  # of the plates from square to the tube's skin, toward the bolt's own way
    )
    offset_mm: Signed = 0.0  # of the bolt across the tube, from over the foot's middle
    wall_mm: NotNegative | None = None


class CornerBase(Document):
    """The tab's foot is notched to straddle the square corner of a box, its plates across the box."""

    kind: Literal["corner"] = "corner"
    turned_deg: Annotated[float, Field(ge=-30, le=30)] = (
        0.0  # of the corner's own middle line from the tab's axis, toward the plate's right
    )
    wall_mm: NotNegative | None = None

    @property
    def lean_deg(self) -> float:
        """Its plates are square to both walls [°]."""
        return 0.0


Place = Annotated[tuple[Signed, Signed], Field(strict=False)]


Base = Annotated[FlatBase | SaddleBase | CornerBase, Field(discriminator="kind")]


Count = Annotated[int, Field(ge=2, le=12)]
Pitch = Annotated[float, Field(ge=5, le=300)]


class RowOfHoles(Document):
    """Holes in a row, the first one over the foot's middle; or one slot from the first to the last."""

    kind: Literal["row"] = "row"
    count: Count = 3
    pitch_mm: Pitch = 40.0
    angle_deg: Angle = 90.0  # of the row, from along the foot; 90: away from it
    slotted: bool = False  # cut through from the first to the last: they are places in a slot


class ArcOfHoles(Document):
    """Holes on an arc about a pivot, so that what they hold keeps its distance from that."""

    kind: Literal["arc"] = "arc"
    count: Count = 3
    radius_mm: Annotated[float, Field(ge=10, le=2000)] = 80.0
    toward_deg: Angle = 0.0  # from the first hole to the pivot, from along the foot
    step_deg: Annotated[float, Field(ge=-90, le=90)] = 30.0
    slotted: bool = False  # cut through from the first to the last: they are places in a slot


class GridOfHoles(Document):
    """Holes in columns along the foot and rows away from it."""

    kind: Literal["grid"] = "grid"
    columns: Annotated[int, Field(ge=1, le=6)] = 2
    rows: Annotated[int, Field(ge=1, le=6)] = 2
    across_mm: Pitch = 40.0
    up_mm: Pitch = 40.0


Holes = Annotated[RowOfHoles | ArcOfHoles | GridOfHoles, Field(discriminator="kind")]


class SpreadPlate(Document):
    """A plate between the feet and the wall that they stand on, welded all round."""

    thickness: Length
    beyond_mm: Annotated[float, Field(ge=3, le=100)] = 20.0  # the feet, all round
    plug_mm: Annotated[float, Field(gt=0, le=60)] | None = Field(
        default=None,
        description="holes that it is plug-welded to the wall through, as many as are clear of the feet; null: none",
    )


class Lighten(Document):
    """A round hole between the joint's and the foot that only makes the plate lighter."""

    diameter_mm: Annotated[float, Field(ge=10, le=500)] | None = Field(
        default=None, description="null: as large as the rule lets it be"
    )


class ExtraHole(Document):
    """A further round hole in both plates alike, from the joint's."""

    what: Annotated[str, Field(max_length=60)] = ""  # that it is for
    below_mm: Annotated[float, Field(gt=0, le=500)] = 40.0  # toward the foot
    beside_mm: Signed = 0.0  # along the foot
    diameter_mm: Annotated[float, Field(ge=3, le=200)] = 6.5


Extra = Annotated[tuple[ExtraHole, ...], Field(strict=False, max_length=8)]


class DrawnLine(Document):
    """A straight edge of a drawn outline [mm]."""

    kind: Literal["line"] = "line"
    a: Place
    b: Place


class DrawnArc(Document):
    """A round edge: counter-clockwise from its first angle to its second, walked the other way where `back`."""

    kind: Literal["arc"] = "arc"
    centre: Place
    radius_mm: Annotated[float, Field(gt=0, le=2000)]
    start_deg: Annotated[float, Field(ge=-720, le=720)]
    end_deg: Annotated[float, Field(ge=-720, le=1080)]
    back: bool = False


class DrawnHole(Document):
    """A round hole."""

    at: Place
    diameter_mm: Annotated[float, Field(gt=0, le=500)]


DrawnEdge = Annotated[DrawnLine | DrawnArc, Field(discriminator="kind")]


class DrawnOutline(Document):
    """An outline that was drawn elsewhere: its foot along x, the joint's hole over the origin; counter-clockwise, metal on the left."""

    name: Annotated[str, Field(max_length=120)] = ""  # of the file
    edges: Annotated[tuple[DrawnEdge, ...], Field(strict=False, min_length=2, max_length=400)]
    holes: Annotated[
        tuple[DrawnHole, ...], Field(strict=False, min_length=1, max_length=60)
    ]  # the joint's is the first
    openings: Annotated[
        tuple[Annotated[tuple[DrawnEdge, ...], Field(strict=False, min_length=2, max_length=200)], ...],
        Field(strict=False, max_length=20),
    ] = ()  # fmt: skip - cut-outs that are not round, each counter-clockwise
    foot_mm: Place  # from where to where along x it stands
    waist_mm: Annotated[float, Field(gt=0, le=2000)]  # least metal across it between foot and hole


class TabPair(SavedPart):
    """Two plates that hold a joint in double shear; one pair for each joint that it holds."""

    kind: Literal["tab_pair"] = "tab_pair"
    plate: Length
    grade_name: Name = "S275 plate"
    yield_mpa: Strength = 275.0
    uts_mpa: Strength = 410.0
    hole: Length
    ream_mm: Annotated[float, Field(ge=0, le=5)] = (
        0.0  # that its hole is cut under size by, and reamed in line after welding
    )
    head_radius: Length  # of the free end; half the width across the hole
    edge: Length  # hole centre to the free end along the load, at least the head radius
    base_width: Length
    height: Length  # base to hole centre
    height_fixed: bool = False  # it is where the job has it: sizing keeps it
    holes: Holes | None = None  # more than one: an adjustable mount; null: one hole
    in_hole: Annotated[int, Field(ge=1, le=36)] = 1  # that the joint is in now; height and foot are those of the first
    base: Base = FlatBase()
    drawn: DrawnOutline | None = None  # null: a round head on a foot, of the sizes above
    strip: bool = False  # two of them are made from a strip, by one hole-saw cut
    spread: SpreadPlate | None = None  # null: the feet stand on the wall itself
    lighten: Lighten | None = None  # null: none
    extra: Extra = ()  # for something else
    weld_leg_mm: Annotated[float, Field(gt=0, le=50)] = 5.0
    bevel_mm: Annotated[float, Field(ge=0, le=50)] = (
        0.0  # of its outer face's edge at the foot, at 45°, how deep; 0: square
    )
    load_angle_deg: Angle | None = (
        None  # pull from the tab's axis at ride height: 0 straight off the base; null: any way in its plane
    )

    @property
    def waist(self) -> float:
        """How wide it is where its foot is judged: of a drawn outline at its narrowest under the hole, over a corner what is left beside its point [mm]."""
        if self.corner is not None:
            left, right = self.corner.waist(self.edge.mm + self.height.mm - self.head_radius.mm, self.head_radius.mm)
            return right - left - 2 * self.corner.open
        return self.base_width.mm if self.drawn is None else min(self.base_width.mm, self.drawn.waist_mm)

    @property
    def corner(self) -> CornerFoot | None:
        """Its foot on a box's corner; None: it stands on something else."""
        if not isinstance(self.base, CornerBase):
            return None
        return CornerFoot(width=self.base_width.mm, turned_deg=self.base.turned_deg, wall=self.base.wall_mm)

    @property
    def half_foot(self) -> float:
        """How far its foot reaches along the wall from under the bolt, at most [mm]."""
        return self.base_width.mm / 2 if self.drawn is None else max(abs(x) for x in self.drawn.foot_mm)
