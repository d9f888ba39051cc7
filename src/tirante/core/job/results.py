"""What an evaluation gives, with units in the names, ready for any client."""

from __future__ import annotations

from pydantic import Field

from tirante.core.checks.shown import CheckOut, Out, Status


class FaultOut(Out):
    """What is missing or contradictory, at a field of the link."""

    field: str
    message: str


class EndOut(Out):
    """One end as built [mm]."""

    hand: str | None
    label: str
    engagement_mm: float | None
    showing_mm: float | None
    adjust_in_mm: float
    adjust_out_mm: float
    max_showing_mm: float | None
    centre_to_face_mm: float
    ok: bool
    reasons: list[str]
    one_diameter_mm: float | None = None
    for_load_mm: float | None = None
    shank_breaks_first_mm: float | None = None
    two_thirds_of_thread_mm: float | None = None
    needed_mm: float | None = None


class StackOut(Out):
    """The link's stack [mm]."""

    school: str
    centre_to_centre_mm: float
    tube_cut_mm: float
    shortest_mm: float
    longest_mm: float
    mm_per_turn: float | None
    mm_per_half_turn: float | None
    turns_in: float
    turns_out: float
    ends: list[EndOut]


class TabOut(Out):
    """The tab pair's derived figures."""

    gap_mm: float
    grip_mm: float
    plates: int
    area_mm2: float
    warnings: list[str]


class JigStationOut(Out):
    """Something on the rail."""

    name: str
    ordinate_mm: float
    what: str


class JigOut(Out):
    """The jig."""

    set_length_mm: float
    check_length_mm: float
    tolerance_mm: float
    axis_height_mm: float
    rail_length_mm: float
    stations: list[JigStationOut]
    steps: list[str]


class BoughtOut(Out):
    """How a bought link is shortened."""

    cut_off_mm: float
    cut_end: str
    instruction: str
    possible: bool


class LinkCaseOut(Out):
    """A load case of a link: typed, or worked out of the car's."""

    name: str
    at: str
    worked: bool
    axial_n: float
    strike_n: float
    side_n: float


class LinkOut(Out):
    """One link, worked out."""

    id: str
    name: str
    side: str
    status: Status
    headline: str
    faults: list[FaultOut]
    length_mm: float
    tube_label: str | None = None
    grade_label: str | None = None
    stack: StackOut | None = None
    cases: list[LinkCaseOut] = Field(default=[])
    checks: list[CheckOut] = Field(default=[])
    governing: str | None = None
    mass_kg: float | None = None
    tab: TabOut | None = None
    jig: JigOut | None = None
    bought: BoughtOut | None = None
    procedure: str = ""
    welding_notes: list[str] = Field(default=[])
    notes: list[str] = Field(default=[])  # what to know of it that is no check


class PieceOut(Out):
    """A saw piece."""

    part: str
    side: str
    tube: str
    grade: str
    length_mm: float
    count: int
    link_id: str


class ItemOut(Out):
    """Hardware."""

    kind: str
    what: str
    hand: str
    count: int


class CutListOut(Out):
    """The job's cut list."""

    pieces: list[PieceOut]
    items: list[ItemOut]
    incomplete: list[str]


class Evaluation(Out):
    """A design, worked out."""

    links: list[LinkOut]
    cut_list: CutListOut
    not_checked: list[str]
    engine: str
