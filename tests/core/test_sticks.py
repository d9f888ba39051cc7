"""Sticks cut to a list: nothing lost, no stick overfull, the fewest new ones against lists whose optimum is known and against trying everything."""

from __future__ import annotations

from collections import Counter
from itertools import combinations, pairwise
from math import ceil

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tirante.calc import calculate
from tirante.core.cutting.sticks import Cutting, Saw, cut_sticks, set_ups
from tirante.core.errors import InputError

SAW = Saw(kerf=3.0, trim_start=10.0, trim_end=30.0)


def sound(found: Cutting, stock: float, pieces: list[tuple[float, int]], saw: Saw, offcuts: list[tuple[float, int]]) -> None:  # fmt: skip
    """By the saw itself: every piece once, no offcut twice, and what is walked along each stick stays on it."""
    cut = Counter(piece for stick in found.sticks for piece in stick.pieces)
    asked: Counter[float] = Counter()
    for length, count in pieces:
        asked[float(length)] += count
    assert cut == +asked
    taken = Counter(stick.length for stick in found.sticks if not stick.new)
    there: Counter[float] = Counter()
    for length, count in offcuts:
        there[float(length)] += count
    assert all(taken[length] <= there[length] for length in taken)
    assert all(stick.length == stock for stick in found.sticks if stick.new)
    assert found.new == sum(stick.new for stick in found.sticks)
    for stick in found.sticks:
        at = saw.trim_start
        for i, piece in enumerate(stick.pieces):
            at += piece + (saw.kerf if i else 0.0)
        assert at <= stick.length - saw.trim_end + 1e-6
        assert stick.left == pytest.approx(max(0.0, stick.length - at - saw.kerf), abs=1e-6)
        assert stick.pieces
    assert found.bound <= found.new
    for wish in found.wishes:
        assert wish.value <= wish.bound + 1e-6 or wish.name.startswith("set-ups")
    (ups,) = (wish for wish in found.wishes if wish.name.startswith("set-ups"))
    every = [piece for stick in found.sticks for piece in stick.pieces]
    assert ups.value == 1 + sum(a != b for a, b in pairwise(every)) == set_ups(found.sticks)
    assert ups.value >= ups.bound == len(+asked)


def test_a_published_list_takes_as_few_as_is_known() -> None:
    """The usual textbook list of paper rolls (5600 wide, 13 widths, 219 rolls): 73 are the fewest, 0.4 % is waste; from memory."""
    widths = [1380, 1520, 1560, 1710, 1820, 1880, 1930, 2000, 2050, 2100, 2140, 2150, 2200]
    demand = [22, 25, 12, 14, 18, 18, 20, 10, 12, 14, 16, 18, 20]
    saw, pieces = Saw(kerf=0.0), [(float(w), n) for w, n in zip(widths, demand, strict=True)]
    found = cut_sticks(5600.0, pieces, saw)
    assert (found.new, found.proven) == (73, True)
    sound(found, 5600.0, pieces, saw, [])
    waste = 1 - sum(w * n for w, n in pieces) / (73 * 5600)
    assert waste == pytest.approx(0.00401, abs=1e-5)


@pytest.mark.parametrize("seed", [0, 1, 2])
def test_triplets_that_fill_their_sticks_exactly_are_found(seed: int) -> None:
    """Lists of 60 made by cutting 20 full sticks in three (Falkenauer's recipe, Journal of Heuristics 2 (1996), from memory): 20 are the fewest, and packing longest first takes more."""
    rng = np.random.default_rng(seed)
    pieces = []
    for _ in range(20):
        first = int(rng.integers(380, 491))
        second = int(rng.integers(250, (1000 - first) // 2 + 1))
        pieces += [(float(one), 1) for one in (first, second, 1000 - first - second)]
    saw = Saw(kerf=0.0)
    found = cut_sticks(1000.0, pieces, saw)
    assert (found.new, found.proven) == (20, True)
    sound(found, 1000.0, pieces, saw, [])
    # nineteen of them are on the rack: one is bought
    mostly = cut_sticks(1000.0, pieces, saw, [(1000.0, 19)])
    assert (mostly.new, mostly.proven) == (1, True)


@pytest.mark.parametrize("seed", range(3))
def test_sixty_pieces_of_links_and_arms_are_proved(seed: int) -> None:
    rng = np.random.default_rng(seed)
    pieces = [(float(rng.integers(2000, 25000)) / 10, 1) for _ in range(60)]
    found = cut_sticks(6000.0, pieces, SAW, [(2500.0, 1), (1700.0, 2)])
    assert found.proven
    sound(found, 6000.0, pieces, SAW, [(2500.0, 1), (1700.0, 2)])


def fewest(stock: float, pieces: list[float], saw: Saw, offcuts: list[float]) -> int:
    """By trying everything: which pieces the offcuts carry, and how few sticks the rest takes."""
    n = len(pieces)

    def fits(which: tuple[int, ...], length: float) -> bool:
        return sum(pieces[i] for i in which) + saw.kerf * (len(which) - 1) <= length - saw.trim_start - saw.trim_end + 1e-9  # fmt: skip

    sets = [which for size in range(1, n + 1) for which in combinations(range(n), size)]
    masks = {length: [sum(1 << i for i in which) for which in sets if fits(which, length)] for length in {stock, *offcuts}}  # fmt: skip
    reached = {0}
    for length in offcuts:
        reached |= {had | more for had in reached for more in masks[length] if not had & more}
    full, count = (1 << n) - 1, 0
    while full not in reached:
        reached |= {had | more for had in reached for more in masks[stock] if not had & more}
        count += 1
    return count


@settings(max_examples=60, deadline=None)
@given(
    st.lists(st.integers(60, 700), min_size=1, max_size=7), st.lists(st.integers(150, 900), max_size=2), st.sampled_from([0.0, 3.0, 3.2]),
    st.integers(0, 30), st.integers(0, 40),
)  # fmt: skip
def test_no_list_is_cut_from_fewer_than_it_says(lengths: list[int], offcuts: list[int], kerf: float, start: int, end: int) -> None:  # fmt: skip
    saw, stock = Saw(kerf=kerf, trim_start=start, trim_end=end), 1000.0
    pieces, heads = [(float(one), 1) for one in lengths], [(float(one), 1) for one in offcuts]
    found = cut_sticks(stock, pieces, saw, heads)
    sound(found, stock, pieces, saw, heads)
    assert found.proven
    assert found.new == fewest(stock, [float(one) for one in lengths], saw, [float(one) for one in offcuts])


def test_a_piece_that_just_fits_and_one_that_does_not() -> None:
    """6000 less both trims is 5960: the last cut falls in the end trim."""
    assert cut_sticks(6000.0, [(5960.0, 1)], SAW).new == 1
    found = cut_sticks(6000.0, [(2978.5, 2)], SAW)
    assert (found.new, found.sticks[0].left) == (1, 27.0)  # 30 of trim, less the kerf that parts off
    assert cut_sticks(6000.0, [(2978.6, 2)], SAW).new == 2
    with pytest.raises(InputError, match=r"5960\.0 mm or less") as error:
        cut_sticks(6000.0, [(5960.1, 1)], SAW)
    assert error.value.limits == (None, 5960.0)
    # an offcut may be longer than the stock that is bought
    assert cut_sticks(6000.0, [(7000.0, 1)], SAW, [(7100.0, 1)]).new == 0


def test_a_piece_longer_than_new_stock_goes_into_an_offcut_or_is_refused() -> None:
    """Two of 700 mm, new sticks of 500: one offcut carries one of them, and the other is put nowhere."""
    assert cut_sticks(500.0, [(700.0, 1), (400.0, 1)], Saw(kerf=3.0), [(800.0, 1)]).new == 1
    with pytest.raises(InputError, match=r"700\.0 mm goes into no new stick of 500\.0 mm"):
        cut_sticks(500.0, [(700.0, 2)], Saw(kerf=3.0), [(800.0, 1)])


def test_a_stick_that_is_filled_to_the_last_is_filled_in_inches_too() -> None:
    """Twenty feet in four and an eighth of kerf between them: 59 29/32 in, exactly; and thirds, which no decimal says, never claim what is not so."""
    saw = Saw(kerf=25.4 / 8)
    quarter = (6096.0 - 3 * saw.kerf) / 4
    found = cut_sticks(6096.0, [(quarter, 4)], saw)
    assert (found.new, found.proven) == (1, True)
    assert cut_sticks(6096.0, [(quarter + 0.396875, 4)], saw).new == 2
    thirds = cut_sticks(1000.0, [(1000.0 / 3, 3)], Saw(kerf=0.0))
    assert thirds.bound == 1
    assert thirds.new == 1 or not thirds.proven


def test_a_long_list_of_odd_lengths_on_a_full_rack_is_laid_out() -> None:
    rng = np.random.default_rng(5)
    pieces = [(float(one), 1) for one in rng.uniform(100.0, 2000.0, 80)]
    offcuts = [(float(one), 40) for one in rng.uniform(300.0, 3000.0, 12)]
    sound(cut_sticks(6000.0, pieces, SAW, offcuts), 6000.0, pieces, SAW, offcuts)


def test_a_remnant_shorter_than_the_kerf_is_none() -> None:
    saw = Saw(kerf=3.0)
    assert cut_sticks(1000.0, [(998.0, 1)], saw).sticks[0].left == 0.0
    assert cut_sticks(1000.0, [(990.0, 1)], saw).sticks[0].left == 7.0


def test_offcuts_go_first_and_what_is_left_is_one_long_remnant() -> None:
    """Two sticks are needed; an offcut takes 900 of the list, and one stick is left as long as can be: worked out by hand."""
    saw, pieces = Saw(kerf=0.0), [(700.0, 1), (400.0, 2), (300.0, 1), (200.0, 1), (500.0, 1)]  # 2500 in all
    found = cut_sticks(1000.0, pieces, saw, [(900.0, 1)])
    sound(found, 1000.0, pieces, saw, [(900.0, 1)])
    assert (found.new, found.bound) == (2, 2)
    values = {wish.name: (wish.value, wish.proven) for wish in found.wishes}
    assert values["cut from offcuts"] == (900.0, True)
    assert values["longest remnant"] == (400.0, True)  # 1600 on two: one full, one with 600


def test_fewer_set_ups_than_one_a_length_there_are_none() -> None:
    """Two lengths, each a stick full: the stop is set twice, whichever way they were packed."""
    found = cut_sticks(1000.0, [(190.0, 5), (95.0, 10)], Saw(kerf=3.0))
    assert found.new == 2
    assert next(wish for wish in found.wishes if wish.name.startswith("set-ups")).value == 2


def test_nothing_to_cut_takes_no_stick() -> None:
    assert cut_sticks(6000.0, [(500.0, 0)], SAW) == Cutting(sticks=(), new=0, bound=0, wishes=())


def test_the_command_says_the_same() -> None:
    given_ = {"stock_mm": 6000, "kerf_mm": 3, "trim_start_mm": 10, "trim_end_mm": 30, "pieces": [[820, 4], [600, 6], [1450, 2]], "offcuts": [[1700, 1]]}  # fmt: skip
    out = calculate("sticks", given_)
    found = cut_sticks(6000.0, [(820, 4), (600, 6), (1450, 2)], SAW, [(1700, 1)])
    assert (out["sticks"], out["proven"], out["bound"]) == (found.new, found.proven, found.bound)
    assert [one["pieces_mm"] for one in out["layout"]] == [list(stick.pieces) for stick in found.sticks]
    # 12 pieces with their kerfs, less what the offcut has room for, in sticks of 5963 of room
    assert out["bound"] == ceil((820 * 4 + 600 * 6 + 1450 * 2 + 3 * 12 - (1700 - 40 + 3)) / 5963)
    assert next(one for one in out["wishes"] if one["name"] == "cut from offcuts")["value"] == 1640.0
