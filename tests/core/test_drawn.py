"""Outlines that were drawn elsewhere: written by another library, read, turned onto their foot, measured, judged and cut again."""

from __future__ import annotations

import io
import itertools
import random
from contextlib import suppress
from math import asin, atan2, cos, degrees, hypot, radians, sin, sqrt
from typing import Any

import ezdxf
import pytest
from ezdxf import units
from shapely.geometry import LineString, Point, Polygon

from tests.core.test_mounts import SHOP
from tests.jobs import part_of, with_part, work
from tirante.core.document.design import Design
from tirante.core.document.fields import Length
from tirante.core.document.parts.bracket import FlatBase, TabPair
from tirante.core.document.upgrades import dump_design, load_design
from tirante.core.errors import InputError, TiranteError
from tirante.core.flat.contour import Curve, Straight
from tirante.core.parts.bracket.families.drawn import (
    contour_of,
    drawn_outline,
    loops_of_outline,
    outline_from,
    sizes_of,
)
from tirante.core.parts.bracket.families.tab_checks import tab_checks
from tirante.core.parts.bracket.families.tab_pair import TAB_PAIR
from tirante.core.parts.kind import ViewAsked
from tirante.core.parts.numbers import numbers_of
from tirante.documents.cutting_table import drive
from tirante.documents.dxf import to_dxf
from tirante.documents.outline_in import loops_in

# where a line from the foot's end touches the head's circle, and the angle of that place on it
_FAR = hypot(45.0, 44.0)
_WAY = atan2(44.0, -45.0) - asin(25.0 / _FAR)
TOUCH = (45.0 + sqrt(_FAR**2 - 25.0**2) * cos(_WAY), sqrt(_FAR**2 - 25.0**2) * sin(_WAY))
ROUND = degrees(atan2(TOUCH[1] - 44.0, TOUCH[0]))
SIDES = [(-TOUCH[0], TOUCH[1]), (-45.0, 0.0), (45.0, 0.0), TOUCH]
HOLE, LIGHT = (0.0, 44.0, 19.45), (16.0, 12.0, 10.0)  # x, y over the foot, diameter


def a_file(
    turn: float = 0.0,
    scale: float = 1.0,
    unit: int = units.MM,
    *,
    layer: str = "0",
    light: bool = True,
    open_: bool = False,
) -> str:
    """A tab: foot of 90 mm, straight sides touching a round head of 25 about it; turned and moved about the sheet."""
    document = ezdxf.new("R2010")
    document.units = unit
    space = document.modelspace()
    c, s = cos(radians(turn)), sin(radians(turn))

    def at(x: float, y: float) -> tuple[float, float]:
        return (c * x - s * y + 130.0) * scale, (s * x + c * y - 70.0) * scale

    look = {"layer": layer}
    corners = SIDES
    for a, b in list(itertools.pairwise(corners))[1 if open_ else 0 :]:
        space.add_line(at(*b), at(*a), dxfattribs=look)  # each the other way round: files are drawn in any order
    space.add_arc(at(0.0, 44.0), 25.0 * scale, turn + ROUND, turn + 180.0 - ROUND, dxfattribs=look)
    for x, y, d in (HOLE, LIGHT) if light else (HOLE,):
        space.add_circle(at(x, y), d / 2 * scale, dxfattribs=look)
    space.add_text("tab 1", dxfattribs={"layer": "NOTES"})
    if layer == "CUT":
        space.add_line((0, 0), (5, 5), dxfattribs={"layer": "NOTES"})
    out = io.StringIO()
    document.write(out)
    return out.getvalue()


@pytest.mark.parametrize(
    ("turn", "scale", "unit"),
    [(0.0, 1.0, units.MM), (37.0, 1.0, units.MM), (0.0, 1 / 25.4, units.IN), (180.0, 0.1, units.CM)],
)
def test_an_outline_comes_onto_its_foot_under_its_hole_however_it_lay_on_the_sheet(
    turn: float, scale: float, unit: int
) -> None:
    drawn = outline_from(loops_in(a_file(turn, scale, unit), None), "tab.dxf", 19.05)
    assert drawn.foot_mm == pytest.approx((-45.0, 45.0), abs=1e-5)
    assert drawn.holes[0].at == pytest.approx((0.0, 44.0), abs=1e-5)
    assert drawn.holes[0].diameter_mm == pytest.approx(19.45, abs=1e-5)
    assert drawn.holes[1].at == pytest.approx((16.0, 12.0), abs=1e-5)
    contour = contour_of(drawn)
    assert contour.gap < 1e-4
    head = radians(180.0 - 2 * ROUND)
    body = Polygon(SIDES).area + (head - sin(head)) / 2 * 25**2
    assert contour.area == pytest.approx(body - radians(180) * (19.45**2 + 10.0**2) / 4, rel=1e-6)


def test_its_sizes_are_no_more_than_the_metal_that_is_there() -> None:
    drawn = outline_from(loops_in(a_file(), None), "tab.dxf", 19.05)
    sizes = {key: one.mm for key, one in sizes_of(drawn).items()}
    assert sizes == pytest.approx(
        {"hole": 19.45, "head_radius": 25.0, "edge": 25.0, "base_width": 90.0, "height": 44.0}, abs=0.02
    )
    # its waist: where the joint's hole begins, or where the light hole takes its chord
    shape = Polygon(SIDES).union(Point(0, 44).buffer(25, 512)).difference(Point(16, 12).buffer(5, 256))
    by_hand = min(shape.intersection(LineString([(-99, y / 10), (99, y / 10)])).length for y in range(1, 342))
    assert drawn.waist_mm == pytest.approx(by_hand, abs=0.3)
    low = outline_from(loops_in(a_file(), None), "tab.dxf", 9.8)  # the bolt of the other hole
    assert low.holes[0].diameter_mm == pytest.approx(10.0)
    assert sizes_of(low)["height"].mm == pytest.approx(12.0)
    assert low.foot_mm == pytest.approx((-61.0, 29.0), abs=1e-5)
    # what is under it is its foot, 12 mm away, and no free end
    assert sizes_of(low)["head_radius"].mm > 20.0
    assert sizes_of(low)["base_width"].mm == pytest.approx(58.0)  # no more than twice the shorter side


def test_a_large_hole_beside_the_joints_takes_its_width_from_the_waist() -> None:
    loops = loops_in(a_file(light=False), None)
    plain = outline_from(loops, "a", 19.05)
    x, y = next((e.cx, e.cy) for loop in loops if len(loop) == 1 for e in loop)  # type: ignore[union-attr]
    holed = outline_from([*loops, [Curve(x, y - 28.0, 15.0, 0.0, 360.0)]], "a", 19.05)
    shape = Polygon(SIDES).union(Point(0, 44).buffer(25, 512)).difference(Point(0, 16).buffer(15, 256))
    by_hand = min(shape.intersection(LineString([(-99, h / 10), (99, h / 10)])).length for h in range(1, 342))
    assert holed.waist_mm == pytest.approx(by_hand, abs=0.3)
    assert holed.waist_mm < plain.waist_mm - 3.0


def test_another_hole_may_be_the_joints_and_the_outline_is_the_same_plate() -> None:
    first = outline_from(loops_in(a_file(), None), "tab.dxf", 19.05)
    second = outline_from(loops_of_outline(first), "tab.dxf", 19.05, hole=1)
    back = outline_from(loops_of_outline(second), "tab.dxf", 19.05, hole=1)
    assert second.holes[0].diameter_mm == pytest.approx(10.0)
    assert contour_of(second).area == pytest.approx(contour_of(first).area, rel=1e-9)
    assert back.foot_mm == pytest.approx(first.foot_mm, abs=1e-5)
    assert back.holes[0].at == pytest.approx(first.holes[0].at, abs=1e-5)


@pytest.mark.parametrize(
    ("text", "unit", "told"),
    [
        (a_file(unit=0), None, "does not say what its lengths are"),
        (a_file(open_=True), None, "open at"),
        ("nothing of the kind", None, "no DXF"),
    ],
)
def test_a_file_that_is_no_plate_is_refused_by_name(text: str, unit: Any, told: str) -> None:
    with pytest.raises(InputError, match=told):
        loops_in(text, unit)


def test_a_file_without_units_is_read_in_those_that_are_said() -> None:
    loops = loops_in(a_file(scale=1 / 25.4, unit=0), "in")
    assert outline_from(loops, "tab.dxf", 19.05).foot_mm == pytest.approx((-45.0, 45.0), abs=1e-5)


def test_only_what_is_on_its_layer_cut_is_read_where_it_has_one() -> None:
    assert len(loops_in(a_file(layer="CUT"), None)) == 3


def window(middle: tuple[float, float], half: float) -> list[Straight]:
    x, y = middle
    corners = [(x - half, y - half), (x - half, y + half), (x + half, y + half), (x + half, y - half)]  # clockwise
    return [Straight(*a, *b) for a, b in zip(corners, [*corners[1:], corners[0]], strict=True)]


def test_a_cut_out_that_is_not_round_is_kept_and_counts_as_no_metal() -> None:
    """A window of 8 mm beside the light hole: area, width under the hole and metal beside it by plain geometry."""
    loops = loops_in(a_file(), None)
    plain = outline_from(loops, "a", None)
    low = outline_from([*loops, window((115.0, -55.0), 4.0)], "a", None)  # 15 mm beside the foot's middle, 15 over it
    assert contour_of(low).area == pytest.approx(contour_of(plain).area - 64.0)
    assert [one.kind for one in low.openings[0]] == ["line"] * 4
    (ring,) = (Polygon([one.a for one in loop]) for loop in low.openings)
    assert ring.exterior.is_ccw
    assert ring.centroid.coords[0] == pytest.approx((-15.0, 15.0), abs=1e-6)
    whole = Polygon(SIDES)
    metal = whole.difference(Point(LIGHT[:2]).buffer(5.0, 256)).difference(ring)
    heights = [0.25 * i for i in range(1, 4 * 34)]
    waist = min(metal.intersection(LineString([(-60, y), (60, y)])).length for y in heights)
    assert low.waist_mm == pytest.approx(waist, abs=0.05)
    assert low.waist_mm < plain.waist_mm
    # above and beside the joint's hole it is the nearest edge of the metal
    high = outline_from([*loops, window((130.0, -70.0 + 44.0 + 18.0), 2.0)], "a", None)
    assert sizes_of(high)["edge"].mm == pytest.approx(16.0, abs=0.02)
    assert sizes_of(plain)["edge"].mm == pytest.approx(25.0, abs=0.02)
    assert any("beside hole 1" in told for told in drawn_outline(high, 8.0).warnings)
    # read again through its own loops it is the same plate
    assert outline_from(loops_of_outline(low), "a", None) == low


def test_two_plates_and_no_hole_are_refused() -> None:
    loops = loops_in(a_file(), None)
    far = [Straight(e.x1 + 500, e.y1, e.x2 + 500, e.y2) for e in window((130.0, -55.0), 4.0)]
    with pytest.raises(InputError, match="more than one plate"):
        outline_from([*loops, far], "a", None)
    outer = max(loops, key=len)
    with pytest.raises(InputError, match="no hole"):
        outline_from([outer], "a", None)


def test_a_damaged_file_is_read_or_refused_and_nothing_else() -> None:
    """Lines taken out, cut off and written over, a hundred and twenty times: by the page's reader and by the cutting table's."""
    lines, rng = a_file(layer="CUT").splitlines(), random.Random(11)
    begins = next(i for i, one in enumerate(lines) if one.strip() == "ENTITIES")
    refused = 0
    for _ in range(120):
        damaged = list(lines)
        way = rng.randrange(3)
        if way == 0:
            for _ in range(rng.randint(1, 4)):
                damaged[rng.randrange(begins, len(lines))] = rng.choice(
                    ["", "-1", "1e308", "nan", "abc", "inf", "1e-12"]
                )
        elif way == 1:
            damaged = damaged[: rng.randrange(len(lines))]
        else:
            at = rng.randrange(len(lines))
            del damaged[at : at + rng.randint(1, 6)]
        text = "\n".join(damaged)
        try:
            sizes_of(outline_from(loops_in(text, "mm"), "x", 19.05))
        except TiranteError:
            refused += 1
        with suppress(InputError):
            drive(text, 5.0, 1.2)
    assert 20 < refused < 120


def test_an_outline_of_a_size_that_no_bracket_has_asks_for_its_unit() -> None:
    with pytest.raises(InputError, match="Is its unit right"):
        outline_from(loops_in(a_file(unit=units.M), None), "x", 19.05)


def drawn_pair(design: Design, name: str = "Panhard rod, end B, tabs") -> TabPair:
    tab = next(one for one in design.of_kind(TabPair) if one.name == name)
    drawn = outline_from(loops_in(a_file(), None), "tab.dxf", 19.05)
    return tab.model_copy(
        update={**sizes_of(drawn), "drawn": drawn, "base": FlatBase(wall_mm=tab.base.wall_mm), "plate": Length(mm=5.0)}
    )


def test_a_pair_of_a_drawn_outline_is_judged_cut_and_refused_where_it_does_not_reach(mounted: Design) -> None:
    pair = drawn_pair(mounted)
    told = part_of(pair, with_part(mounted, pair)).faults
    assert [one.field for one in told] == ["drawn"]  # its hole stands 44 mm over its foot, the joint 40 over the stub
    assert "44.0 mm over its foot" in told[0].message
    stub = next(one for one in mounted.mounts if one.name == "Panhard stub on the axle")
    narrow = stub.shape.model_copy(update={"a": (-2044.0, -485.0, 308.0), "b": (-2240.0, -485.0, 308.0)})
    as_wide = tuple(one.model_copy(update={"shape": narrow}) if one.id == stub.id else one for one in mounted.mounts)
    past = part_of(pair, with_part(mounted.model_copy(update={"mounts": as_wide}), pair)).faults
    assert "Its feet reach 5.0 mm past" in past[0].message  # 90 mm of foot on a face of 80
    lower = narrow.model_copy(update={"width_mm": 100.0})
    mounts = tuple(one.model_copy(update={"shape": lower}) if one.id == stub.id else one for one in mounted.mounts)
    design = with_part(mounted.model_copy(update={"mounts": mounts}), pair)
    part = part_of(pair, design)
    assert not part.faults
    job = work(design)
    made = part.own.joints[0]
    # its foot is judged as wide as it is at its narrowest, not as it stands on the wall
    foot = next(one for one in part.checks if one.key == "tab_foot")
    assert foot.reproduce is not None
    assert foot.reproduce.input["width_mm"] == pair.drawn.waist_mm  # type: ignore[union-attr]
    usual = pair.model_copy(update={"drawn": None})
    as_usual = next(one for one in tab_checks(usual, made, job.settings) if one.key == "tab_foot")
    assert foot.utilisation > as_usual.utilisation  # type: ignore[operator]
    drawing = TAB_PAIR.draw(part, ViewAsked(name="tab-flat"), numbers_of(job.settings))
    driven = drive(to_dxf(drawing), 5.0, 1.2)
    assert driven.area_mm2 == pytest.approx(contour_of(pair.drawn).area, rel=2e-4)  # type: ignore[arg-type]
    assert driven.pierces == 3
    assert load_design(dump_design(design)) == design  # kept as it was read
    # sized: plate and bolt alone change
    sized = TAB_PAIR.size(pair, job, SHOP, "mass")
    assert sized.winner is not None
    (winner,) = sized.winner.parts
    assert isinstance(winner, TabPair)
    assert (winner.drawn, winner.base_width, winner.height) == (pair.drawn, pair.base_width, pair.height)
    changed = pair.model_copy(update={"edge": Length(mm=40.0)})
    assert any(one.field == "edge" for one in part_of(changed, with_part(design, changed)).faults)
