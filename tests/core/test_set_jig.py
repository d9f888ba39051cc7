"""Set jigs: where the carriage stands for each link, its slots, its scale, its spacers, by hand."""

from __future__ import annotations

from dataclasses import replace
from math import cos, radians, sin

import pytest
from shapely.geometry import Point, Polygon

from tests.conftest import ROOT
from tests.core.test_jig_hands import held
from tests.jobs import work
from tirante.core.document.design import Design
from tirante.core.document.parts.set_jig import SetJig
from tirante.core.document.upgrades import load_design
from tirante.core.drawing.model import Text
from tirante.core.errors import InputError
from tirante.core.flat.contour import points_along
from tirante.core.jigs.features import Bar, Features
from tirante.core.jigs.set_jig import bar_contour, set_jig, two_ended
from tirante.core.job.lay_jigs import for_links
from tirante.core.job.memory import Memory
from tirante.core.parts.kind import ViewAsked
from tirante.core.parts.numbers import numbers_of
from tirante.core.parts.part import BoughtPiece, Part
from tirante.core.parts.registry import kind_of
from tirante.core.parts.set_jig.kind import _pieces

ID = "0190a000-0000-7000-8000-00000000cc01"
MEMORY = Memory()


def link(
    length: float, *, wide: tuple[float, float] = (20.0, 20.0), clock: float = 0.0, beads: int = 2, bore: float = 12.0
) -> Features:
    t = radians(clock)
    a, b = (
        held("end A", (0.0, 0.0, 0.0), (0.0, 1.0, 0.0), wide=wide[0]),
        held("end B", (length, 0.0, 0.0), (0.0, cos(t), sin(t)), wide=wide[1]),
    )
    seams = [0.0 if i < beads else None for i in range(2)]
    bar = Bar(
        name="tube",
        a=(40.0, 0.0, 0.0),
        b=(length - 40.0, 0.0, 0.0),
        od=32.0,
        a_seam=seams[0],
        b_seam=seams[1],
        to=("end A", "end B"),
    )
    return Features(held=(replace(a, bore=bore), replace(b, bore=bore)), bars=(bar,))


def test_each_link_is_set_at_its_length_and_its_beads_shrink_and_the_gap_is_filled() -> None:
    laid = set_jig(
        [("long", link(600.0)), ("short", link(350.0, wide=(20.0, 46.0), beads=1))],
        shrink=0.5,
        clearance=25.0,
        margin=30.0,
        gap=None,
    )
    assert [(one.name, one.at, one.cold) for one in laid.settings] == [("short", 350.5, 350.0), ("long", 601.0, 600.0)]
    assert laid.gap == 46.0
    assert [one.spacers for one in laid.settings] == [(13.0, 0.0), (13.0, 13.0)]
    assert laid.height == 20.0 + 25.0  # half of the thickest eye and the clearance
    for one in laid.settings:
        for wide, spacer in zip((20.0, 46.0) if one.name == "short" else (20.0, 20.0), one.spacers, strict=True):
            assert wide + 2 * spacer == laid.gap


def test_the_slots_reach_past_the_shortest_and_the_longest_and_stay_in_the_bar() -> None:
    for up_to in (0.0, 900.0):
        laid = set_jig(
            [("long", link(600.0)), ("short", link(350.0))],
            shrink=0.0,
            clearance=25.0,
            margin=30.0,
            gap=None,
            up_to=up_to,
        )
        contour = bar_contour(laid, post=12.0, clamp=10.5, pilot=8.5)
        bar = Polygon(points_along(contour.edges))
        for opening in contour.openings:
            cut = Polygon(points_along(opening))
            assert bar.buffer(-10.0).contains(cut)
            # a clamping bolt’s washer, twice as wide as its slot, stands clear of the posts
            assert min(abs(y) for _, y in cut.exterior.coords) + 10.5 / 2 - 10.5 >= laid.gap / 2 + 12.0
            left, _, right, _ = cut.bounds
            # the carriage's clamping bolts stand 20 mm to either side of its dummy
            assert left <= 350.0 - 20.0 - 10.5 / 2
            assert right >= max(600.0, up_to) + 20.0 + 10.5 / 2
        assert all(bar.contains(Point(hole.x, hole.y).buffer(hole.diameter / 2)) for hole in contour.holes)
        # a mark each ten millimetres of the scale, from the fixed bolt, the longer ones at fifties
        xs = sorted(mark.x1 for mark in contour.marks)
        assert all(x % 10 == pytest.approx(0.0, abs=1e-9) for x in xs)
        assert set(xs) >= {400.0, 500.0, 600.0}
        long = {mark.x1 for mark in contour.marks if abs(mark.y1 - mark.y2) > 8}
        assert long == {x for x in xs if x % 50 == 0}


def test_what_does_not_go_on_one_is_told_why() -> None:
    assert two_ended(link(300.0)) == ""
    assert two_ended(link(300.0, clock=180.0)) == ""
    assert two_ended(link(300.0, clock=30.0)) == "its two bolts are not parallel"
    assert (
        two_ended(
            Features(held=(held("a", (0.0, 0.0, 0.0), (0.6, 0.8, 0.0)), held("b", (300.0, 0.0, 0.0), (0.6, 0.8, 0.0))))
        )
        == "its bolts are not square to it"
    )
    # two foot plates of 80 mm, and room between them
    assert two_ended(link(100.0)) == ""
    assert two_ended(link(99.0)) == "it is 99 mm long, and its two foot plates need 100 mm between the bolts"
    shortest = set_jig([("short", link(100.0))], shrink=0.0, clearance=25.0, margin=30.0, gap=None)
    assert shortest.slots[0] >= 40.0  # clear of the fixed foot plate
    assert two_ended(Features(held=link(300.0).held[:1])) == "it has not two joints"
    with pytest.raises(InputError) as found:
        set_jig([("wide", link(300.0, wide=(50.0, 20.0)))], shrink=0.0, clearance=25.0, margin=30.0, gap=40.0)
    assert found.value.fields == ("gap_mm",)
    set_jig(
        [("wide", link(300.0, wide=(50.0, 20.0)))], shrink=0.0, clearance=25.0, margin=30.0, gap=50.0
    )  # its advice taken
    with pytest.raises(InputError, match="No link"):
        set_jig([], shrink=0.0, clearance=25.0, margin=30.0, gap=None)


def test_two_foot_plates_have_two_posts_each_and_every_joint_its_spacers_and_bushes_on_both_sides() -> None:
    """Four posts in all: so four bushes of a size, and of each spacer two at either end, since a link may lie either way."""
    links = [("thin", link(350.0, bore=10.0)), ("wide", link(600.0, wide=(46.0, 46.0)))]
    laid = set_jig(links, shrink=0.0, clearance=25.0, margin=30.0, gap=None)
    pieces = _pieces(SetJig(id=ID, name="set"), laid)
    counts = {one.name: one.count for one in pieces if not isinstance(one, BoughtPiece)}
    assert {name: counts[name] for name in ("bar", "posts", "foot plates", "spacer 13", "bush 10")} == {
        "bar": 1, "posts": 4, "foot plates": 2, "spacer 13": 4, "bush 10": 4,
    }  # fmt: skip
    bought = {one.what.split(",")[0].split(" ⌀")[0]: one.count for one in pieces if isinstance(one, BoughtPiece)}
    assert bought == {"clamping bolt for a 10.5 mm slot": 4, "dummy bolt": 2}


def with_one(name: str) -> tuple[Design, Part]:
    design = load_design((ROOT / f"data/demo/{name}.json").read_bytes())
    jig = for_links(work(design, MEMORY), ID)
    design = design.model_copy(update={"parts": (*design.parts, jig)})
    part = work(design, MEMORY).part(ID)
    assert part is not None
    return design, part


def test_the_links_of_a_job_are_on_it_at_their_own_lengths_and_the_sheet_has_them() -> None:
    design, part = with_one("marram")
    assert part.complete, part.faults
    laid, left = part.own
    wanted = sorted(one.between.mm for one in design.parts if one.kind == "link")  # type: ignore[attr-defined]
    assert [one.cold for one in laid.settings] == pytest.approx(wanted, abs=0.1)
    assert left == ()
    drawing = kind_of(part.saved).draw(part, ViewAsked(name="drawing"), numbers_of(design.settings))
    texts = [one.text for one in drawing.items if isinstance(one, Text)]
    for one in laid.settings:
        assert f"{one.at:.2f}".removesuffix("0") in texts
        assert one.name in texts
    bar = kind_of(part.saved).draw(part, ViewAsked(name="bar"), numbers_of(design.settings))
    assert "500" in [one.text for one in bar.items if isinstance(one, Text)]
    whats = {getattr(one, "what", ""): one.count for one in part.pieces}
    spacers = {round(mm, 1) for one in laid.settings for mm in one.spacers if mm > 0.2}
    assert {mm for mm in spacers if any(f"× {mm:.1f} mm, bored" in what for what in whats)} == spacers
    assert all(count == 4 for what, count in whats.items() if what.startswith("spacer"))
    with pytest.raises(InputError, match="already"):
        for_links(work(design, MEMORY), ID)


def test_a_link_that_is_not_complete_is_named_and_the_others_stand() -> None:
    _, part = with_one("quay")
    assert part.complete, part.faults
    assert any("Parallel lower link" in note for note in part.notes)
