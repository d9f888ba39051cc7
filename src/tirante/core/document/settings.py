"""The shop's choices: units, school, factors, tolerances."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from tirante.core.document.fields import (
    Document,
    Factor,
    Key,
    Length,
    NotNegative,
    Strength,
)

School = Literal["centred", "buried", "exposure"]


Hand = Literal["RH", "LH"]


class DesignFactors(Document):
    """What loads are multiplied by before each check; common practice, editable."""

    yielding: Factor = 1.5
    column: Factor = 2.0
    strip: Factor = 2.0
    joint: Factor = 2.0
    rupture: Factor = 2.0  # of a net section, AISC D2
    tab_yield: Factor = 1.67
    tab_rupture: Factor = 2.0
    bolt: Factor = 2.0
    weld: Factor = 2.0


Share = Annotated[float, Field(ge=0, le=1)]


class SearchLimits(Document):
    """What a search may return, beyond what holds; each common practice but where its reason says otherwise, and editable."""

    slenderness: Annotated[float, Field(ge=20, le=1000)] = 200.0  # AISC 360 E2, a user note
    locating_thread_mm: NotNegative = 12.0  # M12 or 1/2 in, of links that steer or alone locate
    wall_mm: NotNegative | None = None  # null: 2, on a circuit 1.2
    struck_wall_mm: NotNegative = 3.0
    only_tubes: Annotated[
        tuple[Key, ...], Field(max_length=200, strict=False)
    ] = ()  # keys; empty: all of the catalogue


class Settings(Document):
    """The shop's choices."""

    search: SearchLimits = SearchLimits()

    units: Literal["mm", "in"] = "mm"
    paper: Literal["A4", "Letter"] = "A4"  # that sheets are printed on
    decimals: Annotated[int, Field(ge=0, le=3)] = 1
    inch_denominator: Literal[16, 32, 64] = 32
    school: School = "centred"
    showing: Length | None = None
    left_hand_end: Literal["a", "b"] = "b"
    projection: Literal["first", "third"] = "first"
    factors: DesignFactors = DesignFactors()
    life_cycles: Annotated[float, Field(gt=0, le=1e9)] | None = (
        None  # null: 1e5 on circuits and off-road, 1e6 on roads; common practice
    )
    everyday: Annotated[tuple[tuple[Share, Share], ...], Field(strict=False, max_length=20)] = (
        (1.0, 1.0),
    )  # of all everyday cycles the share, and the fraction of the full range; a spectrum of one's own, where it is not all full
    full_one_in: Annotated[float, Field(ge=1, le=1e6)] | None = (
        None  # of so many everyday cycles one is full, the others fewer the larger; null: all, on roads one in 1000; common practice
    )
    thread_fit: Literal["class", "basic"] = "class"  # sizes that strip is worked out with
    two_thirds_rule: bool = False  # whether two thirds of a rod end's thread must be engaged, as kits' instructions ask
    aluminium_filler: Literal["4043", "5356"] = "4043"
    rod_end_seals: bool = False  # whether the shop puts seals on rod ends: they come on the lists
    joint_friction: Annotated[float, Field(ge=0, le=1)] = (
        0.15  # of a ball in its race, lined or greased; dry 0.3; common practice
    )
    electrode_uts_mpa: Strength = 483.0  # 70 ksi class; from memory
    bender_straight_mm: NotNegative | None = (
        None  # what the bender must hold straight; null: 2 outside diameters, common practice
    )
    inside_fillet_gap_mm: NotNegative = (
        25.0  # between two plates, for a torch to lay a fillet inside; common practice, no source
    )
    saw_kerf_mm: NotNegative = 2.0
    check_tolerance_mm: Annotated[float, Field(gt=0, le=20)] = 0.5
    wrap_paper_mm: Annotated[float, Field(ge=0, le=3)] = 0.1  # thickness of what wraps are printed on
    weld_shrink_mm: Annotated[float, Field(ge=0, le=5)] = 0.0
