"""Plates on sheets: every layout measured with exact outlines, optima known by hand, what is kept when it is stopped, what is refused."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from functools import partial
from itertools import combinations
from math import ceil, pi
from time import monotonic
from types import SimpleNamespace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely.affinity import rotate, translate
from shapely.geometry import LineString, box

from tirante.core.cutting import sheets
from tirante.core.cutting.sheets import Nest, Shape, Sheet, angles_of
from tirante.core.errors import InputError
from tirante.core.flat.contour import Bend, Contour, Curve, Straight, polygon, straight_sides

nest = partial(sheets.nest, clock=monotonic)
TRIANGLE = Contour(edges=straight_sides([(0.0, 0.0), (100.0, 0.0), (0.0, 100.0)]))


def rectangle(long: float, wide: float) -> Contour:
    return Contour(edges=straight_sides([(0.0, 0.0), (long, 0.0), (long, wide), (0.0, wide)]))


def round_ended(long: float, wide: float) -> Contour:
    r = wide / 2
    return Contour(edges=(
        Straight(0.0, 0.0, long, 0.0), Curve(long, r, r, -90.0, 90.0), Straight(long, wide, 0.0, wide), Straight(0.0, wide, 0.0, 0.0),
    ))  # fmt: skip


def ell(long: float, wide: float) -> Contour:
    return Contour(edges=straight_sides([(0.0, 0.0), (long, 0.0), (long, wide / 3), (long / 3, wide / 3), (long / 3, wide), (0.0, wide)]))  # fmt: skip


def shape(outline: Contour, count: int, name: str = "plate", turns: sheets.Turns = "quarter") -> Shape:
    return Shape(name=name, outline=outline, count=count, angles=angles_of(outline, turns))


def sound(found: Nest, shapes: Sequence[Shape], new: Sheet, offcuts: Sequence[Sheet], spacing: float, edge: float) -> None:  # fmt: skip
    """By measuring: every piece once, at an angle that it may lie at, within its sheet's edges, as far from its neighbours as was asked, nothing on what is left."""
    assert Counter(piece.shape for one in found.sheets for piece in one.placed) == Counter(
        {i: one.count for i, one in enumerate(shapes) if one.count}
    )
    taken = Counter((one.length, one.width) for one in found.sheets if not one.new)
    there: Counter[tuple[float, float]] = Counter()
    for one in offcuts:
        there[one.length, one.width] += one.count or 0
    assert all(taken[size] <= there[size] for size in taken)
    assert all((one.length, one.width) == (new.length, new.width) for one in found.sheets if one.new)
    assert found.new == sum(one.new for one in found.sheets)
    assert found.bound <= found.new
    metal_of_all = 0.0
    for one in found.sheets:
        metal = []
        for piece in one.placed:
            own = shapes[piece.shape]
            assert any(abs((piece.angle_deg - angle + 180.0) % 360.0 - 180.0) < 1e-6 for angle in own.angles)
            exact = polygon(Contour(edges=own.outline.edges), 0.001)
            metal.append(translate(rotate(exact, piece.angle_deg, origin=(0.0, 0.0)), piece.x, piece.y))
        room = box(edge, edge, one.length - edge, one.width - edge).buffer(1e-4)
        assert all(room.contains(own) for own in metal)
        for a, b in combinations(metal, 2):
            assert a.distance(b) >= spacing - 1e-4
            assert a.intersection(b).area < 1e-3
        assert one.used <= one.length
        assert one.left == pytest.approx(one.length - one.used)
        if one.left > 0:  # a cut as wide as the spacing leaves it whole
            assert max(own.bounds[2] for own in metal) <= one.used - spacing + 1e-4
        metal_of_all += sum(own.area for own in metal)
    assert found.utilisation == pytest.approx(
        metal_of_all / sum(one.used * one.width for one in found.sheets), rel=1e-4
    )


def test_forty_right_angled_triangles_take_no_more_than_450_mm_of_a_strip() -> None:
    """Two as a square: 100 + 3/√2 each way, five across 600 mm, four along; a cut behind them and an edge before."""
    new, shapes = Sheet(length=3000.0, width=600.0, count=None), [shape(TRIANGLE, 40)]
    found = nest(shapes, new, spacing=3.0, seconds=0.0)
    sound(found, shapes, new, [], 3.0, 3.0)
    square = 100.0 + 3.0 / 2**0.5
    assert found.sheets[0].used == pytest.approx(4 * square + 3 * 3.0 + 2 * 3.0, abs=0.1)
    assert found.sheets[0].used <= 450.0


def test_what_is_searched_for_is_shorter_than_rows_and_measured_all_the_same() -> None:
    new = Sheet(length=3000.0, width=400.0, count=None)
    shapes = [
        shape(ell(150.0, 120.0), 6), shape(round_ended(120.0, 60.0), 6), shape(TRIANGLE, 7), shape(rectangle(90.0, 40.0), 5),
        shape(ell(80.0, 160.0), 4, turns="any"), shape(round_ended(40.0, 90.0), 12),
    ]  # fmt: skip
    rows = nest(shapes, new, spacing=4.0, edge=10.0, seconds=0.0)
    found = nest(shapes, new, spacing=4.0, edge=10.0, seconds=3.0)
    for one in (rows, found):
        sound(one, shapes, new, [], 4.0, 10.0)
    assert sum(one.count for one in shapes) == 40
    assert found.sheets[0].used < 0.97 * rows.sheets[0].used
    assert found.utilisation > rows.utilisation


@settings(max_examples=20, deadline=None)
@given(st.data())
def test_nothing_is_lost_and_nothing_overlaps_on_any_sheets(data: st.DataObject) -> None:
    size = st.integers(20, 150).map(float)
    kinds = st.sampled_from([rectangle, round_ended, ell])
    shapes = [
        shape(data.draw(kinds)(data.draw(size), data.draw(size)), data.draw(st.integers(1, 6)), turns=data.draw(st.sampled_from(["quarter", "half", "any"])))
        for _ in range(data.draw(st.integers(1, 4)))
    ]  # fmt: skip
    spacing, edge = data.draw(st.sampled_from([0.0, 2.5, 8.0])), data.draw(st.sampled_from([0.0, 5.0]))
    new = Sheet(length=data.draw(st.integers(240, 700)), width=data.draw(st.integers(240, 400)), count=None)
    offcuts = [Sheet(length=data.draw(st.integers(30, 500)), width=data.draw(st.integers(30, 300)), count=data.draw(st.integers(0, 2))) for _ in range(2)]  # fmt: skip
    found = nest(shapes, new, offcuts, spacing=spacing, edge=edge, seconds=0.0)
    sound(found, shapes, new, offcuts, spacing, edge)


def test_over_several_sheets_what_is_searched_for_is_measured_too() -> None:
    new, offcuts = Sheet(length=420.0, width=330.0, count=None), [Sheet(length=200.0, width=260.0, count=1)]
    shapes = [shape(ell(150.0, 120.0), 8), shape(TRIANGLE, 9), shape(round_ended(90.0, 50.0), 10)]
    found = nest(shapes, new, offcuts, spacing=3.0, seconds=3.0)
    sound(found, shapes, new, offcuts, 3.0, 3.0)
    assert not found.sheets[0].new
    assert found.new <= nest(shapes, new, offcuts, spacing=3.0, seconds=0.0).new


@pytest.mark.parametrize(("count", "wanted"), [(6, 1), (7, 2), (12, 2), (13, 3)])
def test_squares_that_fill_a_sheet_exactly_need_as_many_as_their_area_says(count: int, wanted: int) -> None:
    shapes, new = [shape(rectangle(100.0, 100.0), count)], Sheet(length=300.0, width=200.0, count=None)
    found = nest(shapes, new, spacing=0.0, edge=0.0, seconds=0.0)
    sound(found, shapes, new, [], 0.0, 0.0)
    assert (found.new, found.bound, found.proven) == (wanted, wanted, True)


def test_the_bound_counts_half_of_the_spacing_round_every_piece() -> None:
    """Discs of 40 mm at 10 mm: 25² π each, of a sheet's room of (200 + 10) × (100 + 10); by what is left of them more."""
    disc = Contour(edges=(Curve(0.0, 0.0, 20.0, 0.0, 180.0), Curve(0.0, 0.0, 20.0, 180.0, 360.0)))
    for count in (11, 12, 23, 24, 36):
        found = nest([shape(disc, count)], Sheet(length=200.0, width=100.0, count=None), spacing=10.0, edge=0.0, seconds=0.0)  # fmt: skip
        assert found.bound == ceil(count * pi * 25.0**2 / (210.0 * 110.0))
    offcut = Sheet(length=100.0, width=100.0, count=2)
    found = nest([shape(disc, 36)], Sheet(length=200.0, width=100.0, count=None), [offcut], spacing=10.0, edge=0.0, seconds=0.0)  # fmt: skip
    assert found.bound == ceil((36 * pi * 25.0**2 - 2 * 110.0 * 110.0) / (210.0 * 110.0))


def test_the_smallest_offcut_that_takes_all_of_it_is_taken_and_nothing_else() -> None:
    offcuts = [Sheet(length=900.0, width=500.0), Sheet(length=320.0, width=210.0), Sheet(length=150.0, width=100.0)]
    found = nest([shape(rectangle(100.0, 100.0), 6)], Sheet(length=2000.0, width=1000.0, count=None), offcuts, spacing=0.0, edge=0.0, seconds=0.0)  # fmt: skip
    assert [(one.length, one.width, one.new) for one in found.sheets] == [(320.0, 210.0, False)]
    assert (found.sheets[0].used, found.sheets[0].left) == (300.0, 20.0)


def test_one_layout_is_cut_again_and_again_where_there_is_enough_for_it(monkeypatch: pytest.MonkeyPatch) -> None:
    """One program for the table, and the sheets before the last are full alike."""
    shapes, new = [shape(TRIANGLE, 40)], Sheet(length=320.0, width=320.0, count=None)
    found = nest(shapes, new, spacing=3.0, seconds=0.0)
    sound(found, shapes, new, [], 3.0, 3.0)
    assert found.new > 2
    asked: list[int] = []
    real = sheets._Search.fill

    def fill(self: sheets._Search, rest: sheets.Counts, sheet: Sheet, more: int) -> object:
        asked.append(sum(rest.values()))
        return real(self, rest, sheet, more)

    monkeypatch.setattr(sheets._Search, "fill", fill)
    assert nest(shapes, new, spacing=3.0, seconds=0.0) == found
    assert len(asked) == 2  # once for all that are full, once for the last
    assert len({one.placed for one in found.sheets[:-1]}) == 1


def test_a_bend_lies_across_the_grain_and_what_follows_the_grain_lies_as_it_is_drawn() -> None:
    for line in (Straight(0.0, 20.0, 60.0, 20.0), Straight(30.0, 0.0, 30.0, 50.0), Straight(0.0, 0.0, 60.0, 50.0)):
        bent = Contour(edges=rectangle(60.0, 50.0).edges, bends=(Bend(line, 90.0, 3.0), Bend(Straight(1.0, 1.0, 5.0, 1.0), 90.0, 3.0)))  # fmt: skip
        for angle in angles_of(bent, "quarter"):
            (ax, ay), (bx, by) = rotate(LineString([line.start, line.end]), angle, origin=(0.0, 0.0)).coords
            assert ax == pytest.approx(bx, abs=1e-9)
            assert abs(ay - by) > 1.0
        assert angles_of(bent, "quarter", across=False) == (0.0, 90.0, 180.0, 270.0)
    assert angles_of(TRIANGLE, "half") == (0.0, 180.0)
    assert 45.0 in {angle % 90.0 for angle in angles_of(TRIANGLE, "any")}  # onto its longest side


def test_what_goes_on_no_sheet_is_refused_by_name_and_what_goes_on_an_offcut_alone_lies_there() -> None:
    long = shape(rectangle(500.0, 40.0), 1, name="long strip")
    with pytest.raises(InputError, match=r"long strip is 500\.0 × 40\.0 mm .* largest has 394\.0 × 294\.0") as caught:
        nest([long], Sheet(length=400.0, width=300.0, count=None), spacing=3.0, seconds=0.0)
    assert caught.value.fields == ("sheet_mm",)
    found = nest([long, shape(TRIANGLE, 3)], Sheet(length=400.0, width=300.0, count=None), [Sheet(length=600.0, width=60.0)], spacing=3.0, seconds=0.0)  # fmt: skip
    assert [(one.new, {piece.shape for piece in one.placed}) for one in found.sheets] == [(False, {0}), (True, {1})]
    with pytest.raises(InputError, match="long strip goes on no new sheet"):
        nest([shape(rectangle(500.0, 40.0), 3, name="long strip")], Sheet(length=400.0, width=300.0, count=None), [Sheet(length=600.0, width=60.0)], spacing=3.0, seconds=0.0)  # fmt: skip
    with pytest.raises(InputError, match="nothing to lay out"):
        nest([], Sheet(length=400.0, width=300.0, count=None), spacing=3.0)
    with pytest.raises(InputError, match="more than 2000"):
        nest([shape(TRIANGLE, 2001)], Sheet(length=400.0, width=300.0, count=None), spacing=3.0)


def test_a_search_that_is_stopped_lays_out_the_rest_in_rows_and_says_so() -> None:
    told: list[tuple[int, int]] = []

    def step(done: int, of: int) -> bool:
        told.append((done, of))
        return False

    new, shapes = Sheet(length=300.0, width=300.0, count=None), [shape(TRIANGLE, 30)]
    found = nest(shapes, new, spacing=3.0, seconds=60.0, step=step)
    sound(found, shapes, new, [], 3.0, 3.0)
    assert found.stopped
    assert told == [(0, 30)]


def test_a_layout_of_the_library_that_overlaps_or_leaves_its_sheet_or_lacks_a_piece_is_thrown_away(monkeypatch: pytest.MonkeyPatch) -> None:  # fmt: skip
    """Every answer that it might give wrongly; what is left is what rows make."""
    import spyrrow

    asked = []

    def wrong(places: Sequence[tuple[float, float]]) -> type:
        class Strip:
            def __init__(self, name: str, strip_height: float, items: Sequence[spyrrow.Item]) -> None:
                self.items = items

            def solve(self, config: object) -> SimpleNamespace:
                asked.append(config)
                every = [item.id for item in self.items for _ in range(item.demand)]
                return SimpleNamespace(placed_items=[SimpleNamespace(id=own, rotation=0.0, translation=at) for own, at in zip(every, places, strict=False)])  # fmt: skip

        return Strip

    # three of 50 × 30 within 70: two beside one another and one behind them, unless the spacing or an edge is not kept
    shapes, new = [shape(rectangle(50.0, 30.0), 3, turns="half")], Sheet(length=500.0, width=80.0, count=None)
    rows = nest(shapes, new, spacing=5.0, seconds=0.0)
    assert rows.sheets[0].used == 5.0 + 105.0 + 5.0
    at = 5.01
    for places in (
        [(at, at), (at + 10.0, at), (at, at + 36.0)], [(at, at), (at, at + 34.0), (at + 54.0, at)], [(at, at - 31.0), (at, at + 4.0), (at, at + 40.0)],
        [(at, at), (at, at + 36.0), (at, at + 72.0)], [(at, at), (at, at + 36.0)], [(at - 6.0, at), (at - 6.0, at + 36.0), (at + 49.5, at)],
    ):  # fmt: skip
        monkeypatch.setattr(spyrrow, "StripPackingInstance", wrong(places))
        ticks = iter(range(1000))
        found = sheets.nest(shapes, new, spacing=5.0, seconds=40.0, clock=lambda ticks=ticks: float(next(ticks)))
        sound(found, shapes, new, [], 5.0, 5.0)
        assert found.sheets == rows.sheets
    assert asked


def test_without_spacing_a_piece_that_lies_wholly_on_another_is_seen_and_one_that_touches_is_none() -> None:
    """Equal, within, across one another: none of them is a layout; edge to edge is."""
    shapes = [shape(rectangle(50.0, 30.0), 2), shape(rectangle(20.0, 10.0), 1)]
    solids = [sheets._solid(one) for one in shapes]
    search = sheets._Search(solids, 0.0, 0.0, lambda: 0.0, 0.0, 1, None, 3)

    def placed(which: int, x: float, y: float) -> sheets.Placed:
        return sheets.Placed(shape=which, x=x, y=y, angle_deg=0.0)

    for wrong in ([placed(0, 0, 0), placed(0, 0, 0)], [placed(0, 0, 0), placed(1, 10, 10)], [placed(0, 0, 0), placed(0, 25, 0)]):  # fmt: skip
        assert search.faults(sheets._Laid(tuple(wrong), 100.0), 100.0)
    assert not search.faults(sheets._Laid((placed(0, 0, 0), placed(0, 50, 0), placed(1, 0, 30)), 100.0), 100.0)


def test_a_rack_full_of_strips_that_nothing_goes_on_is_passed_over_at_once() -> None:
    """A hundred thousand of one size are looked at once."""
    looked: list[Sheet] = []
    real = sheets._Search.fill

    class Counted(sheets._Search):
        def fill(self, rest: sheets.Counts, sheet: Sheet, more: int) -> sheets._Laid | None:
            looked.append(sheet)
            return real(self, rest, sheet, more)

    narrow = Sheet(length=3000.0, width=20.0, count=100_000)
    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(sheets, "_Search", Counted)
        found = nest([shape(TRIANGLE, 3)], Sheet(length=400.0, width=300.0, count=None), [narrow], spacing=3.0, seconds=0.0)  # fmt: skip
    assert [one.new for one in found.sheets] == [True]
    assert len(looked) == 2
