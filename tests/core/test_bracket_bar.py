"""Bracket bars: rows on a member, their angles by hand, the plates that hold the bar, the demo's own axle."""

from __future__ import annotations

from math import cos, radians, sin

import numpy as np
import pytest
from shapely.geometry import Point

from tests.conftest import ROOT
from tests.jobs import work
from tirante.core.document.mounts import FlatMember, Mount, RoundMember
from tirante.core.document.parts.bracket_bar import BracketBar
from tirante.core.document.upgrades import load_design
from tirante.core.errors import InputError
from tirante.core.flat.contour import polygon
from tirante.core.jigs.bracket_bar import OnMember, Row, rows_on
from tirante.core.job.lay_jigs import for_member
from tirante.core.job.memory import Memory
from tirante.core.parts.bracket_bar.kind import _on, plate_contour, slack
from tirante.core.parts.kind import ViewAsked
from tirante.core.parts.numbers import numbers_of
from tirante.core.parts.part import PlatePiece
from tirante.core.parts.registry import kind_of
from tirante.core.parts.stands import spans_both

ID = "0190a000-0000-7000-8000-00000000dd{:02d}"
MEMORY = Memory()
A, B = np.array([-1500.0, 600.0, 330.0]), np.array([-1500.0, -600.0, 330.0])  # an axle, left to right


def on(
    name: str, y: float, angle: float, off: float = 90.0, bolt: tuple[float, float, float] = (0.0, 1.0, 0.0)
) -> OnMember:
    """A bracket so far round the axle from straight up, forward."""
    t = radians(angle)
    return OnMember(
        name=name,
        at=np.array([-1500.0 + off * sin(t), y, 330.0 + off * cos(t)]),
        bolt=np.array(bolt),
        bore=14.0,
        wide=22.0,
    )


def test_a_member_that_spans_the_car_carries_the_twin_and_no_other_does() -> None:
    at = np.array([-900.0, 430.0, 262.0])

    def spans(a: tuple[float, float, float], b: tuple[float, float, float], place: np.ndarray = at) -> bool:
        shape = RoundMember(a=a, b=b, od_mm=80.0)
        return spans_both(
            Mount(id="019b0000-0000-7000-8000-000000000001", name="tube", shape=shape, both_sides=False), place
        )

    assert spans((-900, 640, 350), (-900, -640, 350))  # an axle's tube
    assert spans((-500, 0, 300), (-1500, 0, 250))  # a tunnel in the middle
    assert not spans((-900, 500, 0), (-900, 500, 800))  # a post on the left
    assert not spans((-900, 640, 350), (-980, -640, 350))  # a tube aslant
    assert not spans((-900, 640, 350), (-900, -640, 350), np.array([-900.0, 0.5, 262.0]))  # in the middle there is one


def test_brackets_at_one_angle_and_height_are_one_row_and_each_has_its_place_along_the_axle() -> None:
    rows, left = rows_on(A, B, [on("left", 450.0, 60.0), on("right", -450.0, 60.0), on("upper", 100.0, -20.0)])
    assert left == ()
    assert [(row.names, row.along, pytest.approx(row.angle_deg), pytest.approx(row.off)) for row in rows] == [
        (("left", "right"), (0.0, 900.0), 60.0, 90.0), (("upper",), (0.0,), -20.0, 90.0),
    ]  # fmt: skip
    assert rows[0].first == 150.0
    assert rows[0].plates == (-60.0, 960.0)
    assert rows[0].long == 1100.0
    assert rows[0].from_pinion_deg is None


@pytest.mark.parametrize(
    ("rear", "pinion", "wanted"), [(True, 5.0, 60.0 - 85.0), (True, 0.0, -30.0), (False, 5.0, 60.0 + 85.0)]
)
def test_the_angle_from_the_pinion_is_counted_from_the_way_that_it_points(
    rear: bool, pinion: float, wanted: float
) -> None:
    """A rear axle's pinion points forward, so many degrees above level: 90° less that from straight up; a front axle's points back."""
    (row,), _ = rows_on(A, B, [on("left", 450.0, 60.0)], pinion_deg=pinion, rear=rear)
    assert row.from_pinion_deg == pytest.approx(wanted)


def test_a_tilted_bolt_is_left_out_by_name_and_a_member_without_any_is_refused() -> None:
    askew = on("askew", 300.0, 0.0, bolt=(0.0, 1.0, 0.1))
    rows, left = rows_on(A, B, [on("left", 450.0, 60.0), askew])
    assert [row.names for row in rows] == [("left",)]
    assert left == ("askew: its bolt does not run along the member",)
    with pytest.raises(InputError, match="askew: its bolt does not run along"):
        rows_on(A, B, [askew])
    with pytest.raises(InputError, match="stands upright"):
        rows_on(A, A + np.array([0.0, 0.0, 300.0]), [on("left", 450.0, 60.0)])


def test_of_a_rail_along_the_car_angles_count_outward() -> None:
    a, b = np.array([0.0, 300.0, 400.0]), np.array([1000.0, 300.0, 400.0])
    one = OnMember(name="tab", at=np.array([200.0, 380.0, 400.0]), bolt=np.array([1.0, 0.0, 0.0]), bore=12.0, wide=20.0)
    (row,), _ = rows_on(a, b, [one])
    assert (row.angle_deg, row.off, row.first) == (pytest.approx(90.0), pytest.approx(80.0), pytest.approx(200.0))


@pytest.mark.parametrize(("od", "off"), [(76.2, 95.0), (60.0, 60.0), (40.0, 160.0)])
def test_a_plate_goes_round_the_member_and_the_bar_with_its_edge_round_both(od: float, off: float) -> None:
    row = Row(
        names=("x",),
        along=(0.0,),
        off=off,
        angle_deg=0.0,
        from_pinion_deg=None,
        bores=(14.0,),
        wide=(20.0,),
        first=0.0,
        plates=(-60.0, 60.0),
    )
    contour = plate_contour(od, row, 20.0)
    assert contour.gap < 1e-9
    plate = polygon(contour)
    assert plate.is_valid
    for hole in contour.holes:
        rim = Point(hole.x, hole.y).buffer(hole.diameter / 2, quad_segs=64)
        assert plate.exterior.distance(rim) >= 20.0 - 0.3
    middle, bar = contour.holes
    assert (bar.y - middle.y, bar.x - middle.x) == (off, 0.0)
    assert contour.area == pytest.approx(plate.area, rel=1e-3)


def test_the_brackets_of_a_demo_axle_are_on_its_bars_where_they_are_in_the_car() -> None:
    design = load_design((ROOT / "data/demo/marram.json").read_bytes())
    job = work(design, MEMORY)
    rounds = [one for one in design.mounts if isinstance(one.shape, RoundMember) and one.body == "axle"]
    assert rounds
    mount = max(rounds, key=lambda one: len(job.standing_on(one.id)))
    bar = for_member(job, mount.id, ID.format(1))
    job = work(design.model_copy(update={"parts": (*design.parts, bar)}), MEMORY)
    part = job.part(bar.id)
    assert part is not None
    assert part.complete, part.faults
    a, b = np.array(mount.shape.a), np.array(mount.shape.b)  # type: ignore[union-attr]
    u = (b - a) / np.linalg.norm(b - a)
    told = {name for row in part.own.rows for name in row.names}
    for joint in job.standing_on(mount.id):
        bracket, at = job.saved(joint.by or ""), job.at_of(joint)
        assert bracket is not None
        assert at is not None
        left_out = any(note.startswith(f"Not on it: {bracket.name}") for note in part.notes)
        assert (bracket.name in told) is not left_out
        for row in part.own.rows:
            for name, along in zip(row.names, row.along, strict=True):
                if name == bracket.name:
                    assert row.first + along == pytest.approx(float((at.at - a) @ u), abs=1e-6)
                    assert row.off == pytest.approx(float(np.linalg.norm(np.cross(at.at - a, u))), abs=0.5)
    assert kind_of(part.saved).draw(part, ViewAsked(name="drawing"), numbers_of(design.settings, "in")).items
    whats = [getattr(one, "what", "") for one in part.pieces]
    assert sum(what.startswith("bar of row") for what in whats) == len(part.own.rows)
    # on the card every bracket counts from the first plate, which stands 60 mm outside the outermost; collars: either side of every bracket and of both plates
    figures = iter(part.card.figures)
    collars = [one for one in part.pieces if "shaft collars" in getattr(one, "what", "")]
    plates = [one for one in part.pieces if isinstance(one, PlatePiece)]
    for i, row in enumerate(part.own.rows):
        assert [next(figures).mm for _ in row.names] == pytest.approx([60.0 + along for along in row.along])
        assert collars[i].count == 2 * (len(row.names) + 2)
        assert plates[i].count == 2
    with pytest.raises(InputError, match="already"):
        for_member(job, mount.id, ID.format(2))
    with pytest.raises(InputError, match="not there any more"):
        for_member(job, ID.format(9), ID.format(2))
    flat = next((one for one in design.mounts if isinstance(one.shape, FlatMember)), None)
    if flat is not None:
        refused = work(
            design.model_copy(update={"parts": (BracketBar(id=ID.format(3), name="x", mount=flat.id),)}), MEMORY
        ).part(ID.format(3))
        assert refused is not None
        assert "flat has nothing" in refused.faults[0].message


def test_a_rail_of_the_left_has_the_left_ones_of_its_pairs_alone() -> None:
    """The right arm's brackets stand on the right rail, 600 mm away, and on no bar of this one."""
    design = load_design((ROOT / "data/demo/marram.json").read_bytes())
    rail = next(one for one in design.mounts if one.name == "Front lower rail")
    bar = for_member(work(design, MEMORY), rail.id, ID.format(1))
    part = work(design.model_copy(update={"parts": (*design.parts, bar)}), MEMORY).part(bar.id)
    assert part is not None
    assert [len(row.names) for row in part.own.rows] == [2]
    assert not any("right" in name for row in part.own.rows for name in row.names)
    assert part.own.rows[0].off < 150.0
    # its bolts are of one size; on a bar that is thinner than one's hole that one is bushed, and it is told
    assert not any("bush it" in note for note in part.notes)


def test_the_twins_of_a_rail_that_has_both_sides_are_on_its_bar_too() -> None:
    """A cross tube carries a pair’s left one and its right one; its own bolts run along it, at one height."""
    design = load_design((ROOT / "data/demo/marram.json").read_bytes())
    job = work(design, MEMORY)
    mount = max((one for one in design.mounts if one.body == "axle"), key=lambda one: len(job.standing_on(one.id)))
    brackets, _ = _on(mount, job)
    pairs = [one.name for one in brackets if one.name.endswith(", right")]
    assert pairs
    for name in pairs:
        left, right = (
            next(one for one in brackets if one.name == told) for told in (name.removesuffix(", right"), name)
        )
        assert tuple(right.at) == pytest.approx((left.at[0], -left.at[1], left.at[2]))
        assert (right.bore, right.wide) == (left.bore, left.wide)


def test_a_member_whose_brackets_go_on_no_bar_is_refused_before_a_part_is_made_of_it() -> None:
    design = load_design((ROOT / "data/demo/marram.json").read_bytes())
    for name, why in (("Front upper rail", "does not run along the member"), ("Panhard post", "stands upright")):
        mount = next(one for one in design.mounts if one.name == name)
        with pytest.raises(InputError, match=why):
            for_member(work(design, MEMORY), mount.id, ID.format(1))


def test_a_bracket_with_a_wider_hole_than_its_row_s_bar_is_told() -> None:
    wide = OnMember(name="wide", at=on("x", -450.0, 60.0).at, bolt=np.array([0.0, 1.0, 0.0]), bore=16.0, wide=22.0)
    (row,), _ = rows_on(A, B, [on("left", 450.0, 60.0), wide])
    assert (row.bore, row.bores) == (14.0, (14.0, 16.0))
    assert slack([row]) == ["wide has a hole for ⌀16 mm on a bar of ⌀14 mm: bush it."]
