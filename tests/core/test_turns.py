"""The turn sheet: against the mechanism built with longer parts, and the shortest set of turns against all others."""

from __future__ import annotations

import itertools

import numpy as np
import pytest

from tests.core.test_loads import demo
from tests.core.test_suspension import example, kind
from tests.core.test_whole_suspension import changed
from tests.jobs import template_of, work
from tirante.core.errors import InputError
from tirante.core.job.alignment import adjusters_of, sheet_of, turned_to
from tirante.core.suspension.changed import lengthened
from tirante.core.suspension.cycle import Solved, measured, solved_cycle, wheel_columns
from tirante.core.suspension.turns import Adjuster, Turned, Wanted, shortest_turns, turn_sheet


def at_ride(name: str) -> Solved:
    end = example(name)
    return solved_cycle(template_of(end), end, np.zeros((3, 1)))


def test_a_level_tie_rod_steers_its_wheel_by_the_arm_it_pulls() -> None:
    """Upright kingpin, tie rod square to the car: a turn shorter or longer swings the steering arm, an arc in closed form."""
    end = changed(example("double-wishbone"), points={
        "upper_outer": [0, 650, 500], "lower_outer": [0, 650, 200], "tie_inner": [100, 250, 300], "tie_outer": [100, 650, 300],
        "upper_front": [150, 300, 500], "upper_rear": [-150, 300, 500], "lower_front": [150, 300, 200], "lower_rear": [-150, 300, 200],
    }, wheel={"loaded_radius_mm": 310.0})  # fmt: skip
    done = solved_cycle(template_of(end), end, np.zeros((3, 1)))
    (tie,) = turn_sheet(done, [Adjuster(link="tie rod", kind="pair", mm=3.175)])
    # the arm's end on a circle of 100 mm about (0, 650), the rod's on one of 403.175 mm about (100, 250)
    a, c, r, b = np.array([0.0, 650.0]), np.array([100.0, 250.0]), 100.0, 403.175
    d = np.linalg.norm(c - a)
    along = (c - a) / d
    x = (d * d + r * r - b * b) / (2 * d)
    side = np.array([-along[1], along[0]])
    ends = [a + x * along + sign * np.sqrt(r * r - x * x) * side for sign in (1, -1)]
    end_now = min(ends, key=lambda p: np.linalg.norm(p - [100.0, 650.0]))
    turned = np.degrees(np.arctan2(end_now[1] - 650.0, end_now[0]))
    assert tie.change["toe_deg"] == pytest.approx(-turned, abs=1e-9)
    assert tie.change["camber_deg"] == pytest.approx(0.0, abs=1e-9)
    assert tie.per_mm["toe_deg"] * 3.175 == pytest.approx(tie.change["toe_deg"], rel=0.03)


@pytest.mark.parametrize("name", ["five-link", "three-links-panhard", "triangulated-four-links"])
def test_the_slope_is_what_two_lengths_tell(name: str) -> None:
    """The slope for a millimetre against the changes of two lengths, whose curvature cancels."""
    done = at_ride(name)
    link = done.left.assembled.links[0]
    (one,) = turn_sheet(done, [Adjuster(link=link.name, kind="one_end", mm=0.9)])
    (double,) = turn_sheet(done, [Adjuster(link=link.name, kind="one_end", mm=1.8)])
    for measure, slope in one.per_mm.items():
        if measure in ("camber_deg", "toe_deg", "pinion_change_deg", "axle_steer_deg", "caster_deg"):
            # change = slope L + curvature L²: two lengths tell the slope
            told = (4 * one.change[measure] - double.change[measure]) / 1.8
            assert told == pytest.approx(slope, abs=2e-5)


def test_an_arm_side_let_out_moves_the_outer_joint_on_its_triangle() -> None:
    done = at_ride("double-wishbone")
    end = done.end
    p = {name: np.array(at) for name, at in end.points.items()}
    sheet = turn_sheet(
        done, [Adjuster(link=f"upper_{which} – upper_outer", kind="one_end", mm=1.0) for which in ("front", "rear")]
    )
    both = {key: sheet[0].per_mm[key] + sheet[1].per_mm[key] for key in ("camber_deg", "caster_deg")}
    # an upper arm that grows pushes the top out: camber up; the front side alone pushes it rearward too: caster up
    assert both["camber_deg"] > 0.1
    assert sheet[0].per_mm["caster_deg"] > 0.05 > 0 > sheet[1].per_mm["caster_deg"]
    # camber by the height of the kingpin, both sides grown: the top goes out about as far, square to the hinge
    out = (p["upper_outer"] - p["upper_front"])[1:]
    out = out / np.linalg.norm(out)
    rough = np.degrees(out[0] / (p["upper_outer"] - p["lower_outer"])[2])
    assert both["camber_deg"] == pytest.approx(rough, rel=0.15)


def test_the_shortest_set_is_the_shortest_of_all_that_reach() -> None:
    done = at_ride("five-link")
    names = [link.name for link in done.left.assembled.links][:3]
    sheet = turn_sheet(done, [Adjuster(link=name, kind="one_end", mm=1.0) for name in names])
    wanted = [
        Wanted(measure="camber_deg", change=-0.35, within=0.12),
        Wanted(measure="toe_deg", change=0.2, within=0.12),
    ]
    found = shortest_turns(done, sheet, wanted)
    assert found.reached
    total = sum(abs(count) for count in found.turns.values())
    for counts in itertools.product(range(-6, 7), repeat=3):
        if sum(map(abs, counts)) < total:
            reached = all(
                abs(sum(n * one.change[w.measure] for n, one in zip(counts, sheet, strict=True)) - w.change)
                < 0.98 * w.within
                for w in wanted
            )
            assert not reached, counts


def test_turns_that_cannot_be_had_are_said() -> None:
    done = at_ride("double-wishbone")
    sheet = turn_sheet(done, [Adjuster(link="tie rod", kind="one_end", mm=0.79)])
    with pytest.raises(InputError, match="No adjuster"):
        shortest_turns(done, sheet, [Wanted(measure="lateral_shift_mm", change=5.0, within=0.1)])
    short = shortest_turns(done, sheet, [Wanted(measure="toe_deg", change=-4.0, within=0.05)], {"tie rod": (-2.0, 2.0)})
    assert (short.reached, short.turns["tie rod"]) == (False, 2.0)
    assert short.misses_by["toe_deg"] == pytest.approx(-4.0 - short.comes_to["toe_deg"])
    assert measured(done).columns["toe_deg"][0] == pytest.approx(done.end.wheel.toe_deg, abs=1e-9)


def test_a_link_too_long_for_its_end_is_refused_and_no_alignment_is_made_up() -> None:
    """By the triangle: a tie rod longer than its inner joint to the far side of the steering arm's circle reaches nothing."""
    done = at_ride("double-wishbone")
    with pytest.raises(InputError, match="cannot be put together") as caught:
        turn_sheet(done, [Adjuster(link="tie rod", kind="pair", mm=400.0)])
    assert caught.value.code == "not_assembled"
    assert "tie rod" in str(caught.value.value)
    # asked for what no turns reach, it says so, of an end that goes together
    sheet = turn_sheet(done, [Adjuster(link="tie rod", kind="pair", mm=3.0)])
    far = shortest_turns(done, sheet, [Wanted(measure="toe_deg", change=-170.0, within=0.1)])
    assert not far.reached
    assert abs(far.turns["tie rod"]) <= 40
    assert all(np.isfinite(value) for value in far.comes_to.values())


# --- beams, whose wheels one adjuster moves both ---------------------------------------------------------------------------


def steered_beam() -> tuple[Solved, list[Turned]]:
    end = example("three-links-panhard-steered")
    done = solved_cycle(kind("three-links-panhard-steered"), end, np.zeros((3, 1)))
    adjusters = [Adjuster(link=link.name, kind="pair", mm=3.0) for link in done.left.assembled.links]
    return done, turn_sheet(done, adjusters)


def made(done: Solved, turns: dict[str, float], mm: float = 3.0) -> tuple[dict[str, float], dict[str, float]]:
    """What comes of turns that are made, each so many mm, by the mechanism: of the left and the right wheel."""
    after = wheel_columns(lengthened(done, {link: mm * count for link, count in turns.items()}))
    before = wheel_columns(done)
    return tuple({name: float(a[name][0] - b[name][0]) for name in a} for a, b in zip(after, before, strict=True))  # type: ignore[return-value]


def test_total_toe_is_had_by_the_track_rod_and_straight_ahead_by_the_drag_link() -> None:
    """The track rod turns the right wheel alone, the drag link both as one (plain geometry of a steered beam)."""
    done, sheet = steered_beam()
    by = {one.adjuster.link: one.change for one in sheet}
    assert abs(by["track rod"]["total_toe_deg"]) > 1.0
    assert abs(by["drag link"]["total_toe_deg"]) < 0.02
    assert (
        by["drag link"]["straight_ahead_deg"] > 0.9
    )  # the left wheel's toe-in goes, the right one's comes: both point to the left
    for one in sheet:
        assert one.change["total_toe_deg"] == pytest.approx(one.change["toe_deg"] + one.right["toe_deg"], abs=1e-9)
        assert one.change["straight_ahead_deg"] == pytest.approx(
            (one.right["toe_deg"] - one.change["toe_deg"]) / 2, abs=1e-9
        )
    found = turned_to(done, sheet, [Wanted(measure="total_toe_deg", change=0.6, within=0.1)])
    assert found.reached
    assert {link for link, count in found.turns.items() if count} == {"track rod", "drag link"}
    left, right = made(done, found.turns)
    assert left["toe_deg"] + right["toe_deg"] == pytest.approx(0.6, abs=0.1)
    assert abs(right["toe_deg"] - left["toe_deg"]) / 2 < 0.15  # it runs as straight as it did
    assert abs(left["axle_steer_deg"]) < 1e-6
    straight = turned_to(done, sheet, [Wanted(measure="straight_ahead_deg", change=-0.5, within=0.1)])
    left, right = made(done, straight.turns)
    assert (right["toe_deg"] - left["toe_deg"]) / 2 == pytest.approx(-0.5, abs=0.1)
    assert abs(left["toe_deg"] + right["toe_deg"]) < 0.15
    assert {link for link, count in straight.turns.items() if count} == {"drag link"}


def test_toe_that_is_wanted_of_a_beam_is_wanted_of_both_its_wheels() -> None:
    done, sheet = steered_beam()
    found = turned_to(done, sheet, [Wanted(measure="toe_deg", change=0.3, within=0.1)])
    assert found.reached
    left, right = made(done, found.turns)
    assert left["toe_deg"] == pytest.approx(0.3, abs=0.1)
    assert right["toe_deg"] == pytest.approx(0.3, abs=0.1)
    # a solid axle has none to give: it is not told as reached by skewing the axle
    end = example("three-links-panhard")
    solid = solved_cycle(kind("three-links-panhard"), end, np.zeros((3, 1)))
    own = turn_sheet(solid, [Adjuster(link=link.name, kind="pair", mm=3.0) for link in solid.left.assembled.links])
    assert not turned_to(solid, own, [Wanted(measure="toe_deg", change=0.4, within=0.1)]).reached


def test_caster_of_a_beam_is_had_without_skewing_it_and_what_else_moves_is_told() -> None:
    done, sheet = steered_beam()
    found = turned_to(done, sheet, [Wanted(measure="caster_deg", change=1.2, within=0.1)])
    assert found.reached
    left, right = made(done, found.turns)
    assert left["caster_deg"] == pytest.approx(1.2, abs=0.1)
    assert right["caster_deg"] == pytest.approx(1.2, abs=0.3)
    assert abs(left["axle_steer_deg"]) < 0.15
    assert abs(left["lateral_shift_mm"]) < 1.0
    assert found.also["wheelbase_change_mm"] == pytest.approx(left["wheelbase_change_mm"], abs=1e-6)
    assert "caster_deg" not in found.also


@pytest.mark.parametrize("change", [-0.6, -0.3, 0.2, 1.0])
def test_where_a_quarter_turn_is_too_coarse_it_is_half_a_flat_before_the_rest_is_let_go(change: float) -> None:
    # a pair on a 2 mm pitch is 4 mm a turn: a quarter of Tern's toe link is 0.4° of toe, more than is asked within
    design = demo("tern")
    job, end = work(design), design.ends[0]
    adjusters, _ = adjusters_of(job, end.id)
    sheet = sheet_of(job, end.id, [one.adjuster for one in adjusters])
    toe = next(one for one in sheet if one.adjuster.link == "toe link")
    assert abs(toe.change["toe_deg"]) / 4 > 0.2
    done = job.at_ride(end.id)
    found = turned_to(done, sheet, [Wanted(measure="toe_deg", change=change, within=0.1)])
    assert found.reached
    left, _ = made(done, found.turns, 4.0)
    assert left["toe_deg"] == pytest.approx(change, abs=0.1)
    for kept in ("camber_deg", "caster_deg"):  # it was had by 4 turns of another link, and 2.6° of caster
        assert abs(left[kept]) < 0.151
    assert all((12 * count) == pytest.approx(round(12 * count)) for count in found.turns.values())
