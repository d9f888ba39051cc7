"""What stops and what binds, what must be missed, what still moves, and the 3D scene: by the physical fact."""

import json
from itertools import combinations
from typing import Any

import numpy as np
import pytest

from tests.core.test_statics import IN_BUSHES
from tests.core.test_suspension import BEAMS, NAMES, RISING, example, kind, parallel_arms, run
from tests.core.test_whole_suspension import changed
from tirante.core.document.end import End
from tirante.core.errors import InputError
from tirante.core.suspension.bind_map import bind_map
from tirante.core.suspension.clearance import tyres
from tirante.core.suspension.cycle import positions, solved_cycle
from tirante.core.suspension.joint_advice import advice_for
from tirante.core.suspension.measures import wheel_at
from tirante.core.suspension.shown.scene import scene
from tirante.core.suspension.still_moves import parts_of, still_moves
from tirante.core.suspension.study import Study, study
from tirante.core.suspension.whole_box import box_of

STOP = {
    "tip": {"body": "ground", "point": "stop_tip"}, "axis": [0, 0, -1], "pad": {"body": "upright", "point": "stop_pad"},
    "pad_radius_mm": 8.0, "crush_mm": 15.0,
}  # fmt: skip


def upright_mover(**more: Any) -> End:
    """Equal parallel arms: the upright goes up and in on a circle of 350 mm, and does not turn."""
    stop = {"stop_tip": [0, 600, 380], "stop_pad": [0, 600, 340]} if "bump_stop" in more else {}
    return changed(parallel_arms(), points=stop | more.pop("points", {}), **more)


def moved(end: End, bump: float = 80.0, droop: float = 80.0) -> Study:
    return study(kind("double-wishbone"), end, bump, droop, 0.0, 0.0)


def event(found: Study, words: str) -> float:
    return next(e.travel for e in found.events if words in e.what)


def test_a_bump_stop_touches_when_its_gap_is_used_and_is_solid_when_it_is_crushed() -> None:
    found = moved(upright_mover(bump_stop={**STOP, "pad_radius_mm": 90.0}))
    assert event(found, "touches") == pytest.approx(40.0, abs=1e-9)
    assert event(found, "solid") == pytest.approx(55.0, abs=1e-9)
    assert found.highest == pytest.approx(55.0, abs=1e-9)
    assert found.bump.startswith("the bump stop is solid, before any joint binds")


def test_a_stop_that_lands_beside_its_pad_is_told_from_where_it_does() -> None:
    # the pad moves inward by 350 − √(350² − t²) under the stop
    found = moved(upright_mover(bump_stop=STOP))
    at = np.sqrt(350.0**2 - 342.0**2)
    assert event(found, "beside its pad") == pytest.approx(at, abs=0.05)
    assert not any("beside" in e.what for e in moved(upright_mover(bump_stop={**STOP, "pad_radius_mm": 20.0})).events)


def test_a_strap_is_taut_when_its_ends_are_its_length_apart() -> None:
    end = upright_mover(
        points={"hook": [0, 650, 700], "eye": [0, 650, 300]},
        strap={"a": {"body": "ground", "point": "hook"}, "b": {"body": "upright", "point": "eye"}, "length_mm": 450.0},
    )
    t = -event(moved(end), "taut")
    assert np.hypot(400 + t, 350 - np.sqrt(350.0**2 - t**2)) == pytest.approx(450.0, abs=1e-2)


def test_a_strut_runs_along_its_line_until_its_ends() -> None:
    end = example("strut")
    found = run(end, [-60.0, 0.0, 60.0]).limits["strut"]["slider_mm"]
    # the strut's lower end to its top, less what it was: the slider is a point on a line of the other body
    limited = changed(end, sliders={"strut": {"along_mm": abs(found[0]) * 0.5, "back_mm": abs(found[2]) * 0.5}})
    events = study(kind("strut"), limited, 80.0, 80.0, 0.0, 0.0).events
    assert {e.what for e in events if e.family == "slider"} == {"the strut runs out of its guide", "the strut bottoms"}
    assert found[1] == pytest.approx(0.0, abs=1e-12)
    assert found[0] * found[2] < 0


def test_what_stops_first_is_said_against_what_would_stop_next() -> None:
    end = example("double-wishbone")
    assert end.damper is not None
    by_damper = moved(end)
    assert "before any joint binds" in by_damper.bump or "before" in by_damper.bump
    tight = json.loads(end.model_dump_json())["links"]
    tight["tie rod"]["a"]["limit_deg"] = 4.0
    assert "before the damper or a stop does" in moved(changed(end, links=tight)).droop


# --- clearances --------------------------------------------------------------------------------------------------------


def test_a_wall_above_the_tyre_is_met_when_the_tyre_has_risen_to_it() -> None:
    # a wheel that rises straight: its top is a loaded radius above its centre
    shape = {"kind": "wall", "through": [0, 0, 640], "normal": [0, 0, -1]}
    end = upright_mover(obstacles=[{"name": "arch", "shape": shape, "wanted_mm": 10.0}])
    found = moved(end)
    assert event(found, "tyre hits arch") == pytest.approx(40.0, abs=1e-6)
    assert event(found, "tyre comes within 10 mm of arch") == pytest.approx(30.0, abs=1e-6)


def test_a_thing_that_moves_with_the_upright_is_missed_by_the_arms_as_they_swing() -> None:
    rod = {"kind": "round", "a": [-200, 500, 260], "b": [200, 500, 260], "radius_mm": 5.0}
    fixed = upright_mover(obstacles=[{"name": "rod", "shape": rod, "wanted_mm": 0.0}])
    riding = upright_mover(obstacles=[{"name": "rod", "shape": rod, "wanted_mm": 0.0, "body": "upright"}])
    name = "lower arm to rod"
    one, other = (run(end, [0.0, 40.0]).clearances[name]["clearance_mm"] for end in (fixed, riding))
    assert one[0] == pytest.approx(other[0], abs=1e-9)
    assert one[0] == pytest.approx(60.0 - 12.5 - 5.0, abs=1e-6)
    assert one[1] < one[0] - 20  # the arm comes up to a thing on the chassis
    assert other[1] > one[1] + 20  # and stays away from one that rises with the wheel


def test_a_joint_inside_the_rim_knows_its_barrel_and_spokes() -> None:
    rim = {"barrel_radius_mm": 165.0, "spokes_mm": 15.0, "inboard_edge_mm": -90.0, "joint_radius_mm": 20.0}
    end = upright_mover()
    end = changed(end, wheel={**json.loads(end.wheel.model_dump_json()), "rim": rim})
    gaps = run(end, [0.0, 50.0]).clearances
    # lower outer joint: 100 mm under the axle, 50 mm inboard of the wheel's middle
    assert gaps["lower outer in the rim"]["clearance_mm"][0] == pytest.approx(min(165 - 100, 15 + 50) - 20, abs=1e-9)
    np.testing.assert_allclose(gaps["lower outer in the rim"]["clearance_mm"], 45.0, atol=1e-9)  # fixed to the upright
    assert gaps["tie outer in the rim"]["clearance_mm"][0] == pytest.approx(165 - np.hypot(100, 50) - 20, abs=1e-9)


def test_a_drag_link_under_a_panhard_rod_keeps_the_gap_that_two_bars_have() -> None:
    found = run("three-links-panhard-steered", [0.0])
    end = example("three-links-panhard-steered")
    a, b, c, d = (np.array(end.points[n]) for n in ("drag_inner", "drag_knuckle", "panhard_chassis", "panhard_axle"))
    s = np.linspace(0, 1, 2001)[:, None]
    apart = np.linalg.norm((a + s * (b - a))[:, None] - (c + s * (d - c))[None], axis=2).min()
    assert found.clearances["drag link to Panhard rod"]["clearance_mm"][0] == pytest.approx(apart - 25.0, abs=0.05)


# --- bind map ----------------------------------------------------------------------------------------------------------


def test_the_worst_corner_of_the_box_is_the_worst_of_all_its_positions() -> None:
    box = box_of(kind("double-wishbone"), example("double-wishbone"), bump=70, droop=70, roll=2, steer=25)
    assert not box.reach.reached.all()  # the damper ends the travel within it
    found = bind_map(box)
    for joint in found.joints:
        # the worst may lie where the damper ends the travel, between two positions: there it is taken straight
        assert joint.worst >= np.nanmax(joint.angles) - 1e-12
        at = run("double-wishbone", [joint.travel], [joint.roll], [joint.steer])
        link, _, end = joint.name.rpartition(", ")
        side = at.links[link.removesuffix(", right") + (", right" if "right" in link else "")]
        assert side[f"misalignment_{'a' if end.startswith('inner') else 'b'}_deg"][0] == pytest.approx(
            joint.worst, abs=0.12
        )
    assert [j.share for j in found.joints] == sorted((j.share for j in found.joints), reverse=True)


def test_a_hinged_end_is_asked_what_a_spherical_one_would_swallow() -> None:
    # a clevis at the chassis whose bolt lies across the link holds its roll: the other end has to take what is left
    links = {
        "tie rod": {
            "a": {"bolt_axis": [1, 0, 0], "limit_deg": 1.5, "kind": "hinged"},
            "b": {"bolt_axis": [1, 0.6, 0], "limit_deg": 20},
        }
    }
    end = changed(example("double-wishbone"), links=links)
    columns = run(end, [0.0, 60.0], steer=[0.0, 20.0]).links["tie rod"]
    np.testing.assert_allclose(columns["misalignment_a_deg"], columns["tilt_a_deg"], atol=1e-6)
    links["tie rod"]["a"]["kind"] = "spherical"  # type: ignore[index]
    free = run(changed(example("double-wishbone"), links=links), [0.0, 60.0], steer=[0.0, 20.0]).links["tie rod"]
    assert (columns["misalignment_b_deg"] >= free["misalignment_b_deg"] - 1e-9).all()
    box = box_of(kind("double-wishbone"), end, bump=70, droop=70, roll=0, steer=20)
    worst = next(j for j in bind_map(box).joints if j.hinged)
    assert worst.share is not None
    assert worst.share > 1
    assert any("spherical end" in one.text for one in advice_for(kind("double-wishbone"), box, "tie rod", "a"))


def test_a_ball_joint_is_asked_the_angle_between_its_stud_and_its_socket() -> None:
    # parallel arms: the upright does not turn, the arm does, by asin of the rise over its length
    end = upright_mover(balls={"lower outer joint": {"stud_axis": [0, 0, 1], "limit_deg": 10}})
    found = run(end, [0.0, 50.0]).balls["lower outer joint"]["misalignment_deg"]
    np.testing.assert_allclose(found, [0.0, np.degrees(np.arcsin(50 / 350))], atol=1e-6)
    assert abs(event(moved(end), "lower outer joint reaches its limit")) == pytest.approx(
        350 * np.sin(np.radians(10)), abs=0.01
    )


# --- what still moves --------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("name", NAMES)
def test_all_parts_in_place_leave_travel_steer_and_a_beam_its_roll(name: str) -> None:
    template, end = kind(name), example(name)
    parts = [p.name for p in still_moves(template, end, []).parts if p.kind == "part"]
    found = still_moves(template, end, parts)
    # a five-link that is steered at the rear has a rack too; parallel links with a rod hold roll, as do radius arms
    drivers = 1 + template.steered + (name in BEAMS and name not in ROLL_IS_HELD and template.rises)
    drivers -= name in IN_BUSHES  # what moves there, moves as a bush gives
    assert found.degrees == drivers == len(found.motions)
    if name == "leaves-top-link":  # two leaves in upright planes let it lean no further than their bushes give
        assert (
            "one way. Only as its bushes give: both wheels rise and fall, one up as the other goes down." in found.says
        )
    else:
        assert found.as_bushes_give == ()
    for motion in found.motions:
        assert motion.frames.poses.lanes > 4
        residual = motion.frames.system.evaluate(motion.frames.poses, motion.frames.drives)
        assert np.abs(residual).max() < 1e-9


ROLL_IS_HELD = {
    "four-links-panhard",
    "four-links-panhard-air-springs",
    "four-links-slider",
    "four-links-watts-axle",
    "four-links-watts-chassis",
    "radius-arms",
    "leaves-top-link",
}


@pytest.mark.parametrize("name", ["double-wishbone", "three-links-panhard", "five-link", "centre-pivot-beam"])
def test_each_part_taken_off_gives_its_freedom_back_and_is_named_as_what_takes_it(name: str) -> None:
    template, end = kind(name), example(name)
    every = [p.name for p in still_moves(template, end, []).parts]
    links = [
        p
        for p in every
        if p in {link.name for link in solved_cycle(template, end, np.zeros((3, 1))).left.assembled.links}
    ]
    parts = [p for p in every if not p.startswith(("dummy", "stand"))]
    whole = still_moves(template, end, parts).degrees
    for link in links:
        without = still_moves(template, end, [p for p in parts if p != link])
        assert without.degrees == whole + 1
        assert (link, whole) in {(one.name, one.leaves) for one in without.takes_away}


def test_with_the_steering_held_and_a_stand_under_the_wheel_nothing_moves() -> None:
    template, end = kind("double-wishbone"), example("double-wishbone")
    every = [p.name for p in still_moves(template, end, []).parts]
    assert still_moves(template, end, [p for p in every if p != "dummy damper"]).degrees == 0
    assert still_moves(template, end, [p for p in every if p != "stand under the wheel"]).degrees == 0


def test_an_upright_on_two_arms_steers_and_rises() -> None:
    arms = ["upper arm pivots", "upper outer joint", "lower arm pivots", "lower outer joint"]
    found = still_moves(kind("double-wishbone"), example("double-wishbone"), arms)
    assert [m.what for m in found.motions] == ["the wheel steers", "the wheel rises and falls"]
    # both outer joints turn about nothing but the kingpin in the first: they stay where they are
    frames = found.motions[0].frames
    for point in ("upper_outer", "lower_outer"):
        at = frames.system.where(frames.poses, found.assembled.marks[point], frames.drives)
        wandered = np.linalg.norm(at - at[:, [frames.poses.lanes // 2]], axis=0).max()
        assert wandered < 12  # of some 40 mm that the wheel's rim moves


def test_the_tie_rod_takes_the_steering_away_with_what_holds_its_other_end() -> None:
    arms = ["upper arm pivots", "upper outer joint", "lower arm pivots", "lower outer joint"]
    found = still_moves(kind("double-wishbone"), example("double-wishbone"), arms)
    rod = next(one for one in found.takes_away if one.name == "tie rod")
    assert (rod.leaves, set(rod.along)) == (1, {"rack guide", "steering held"})
    assert "The next part that takes some of it away: tie rod (with rack guide and steering held)." in found.says


def test_a_part_that_is_not_there_is_named() -> None:
    with pytest.raises(InputError) as caught:
        still_moves(kind("strut"), example("strut"), ["upper arm pivots"])
    assert caught.value.fields == ("in_place",)
    assert "lower arm pivots" in caught.value.message


# --- scene -------------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("name", NAMES)
def test_every_group_of_the_scene_goes_where_the_solved_points_go(name: str) -> None:
    template, end = kind(name), example(name)
    travel = np.array([-40.0, 0.0, 35.0]) if name in RISING else np.zeros(1)
    done = solved_cycle(template, end, np.vstack([travel, np.full(travel.shape, 2.0), np.full(travel.shape, 5.0)]))
    found = scene(done)
    assert set(found.groups) >= {solid.group for solid in found.solids}
    side, lane = done.left, len(travel) - 1
    matrices = {g: np.array(rows[lane]).reshape(3, 4) for g, rows in found.groups.items() if rows[lane] is not None}
    links = {f"link:{link.name}": link for link in side.assembled.links}
    seen = 0
    for solid in found.solids:
        if solid.kind == "bar" and solid.ref in links:
            link = links[solid.ref]
            for at, mark in ((solid.a, link.a), (solid.b, link.b)):
                m = matrices[solid.group]
                where = side.solved.system.where(side.solved.poses, mark, side.solved.drives)
                np.testing.assert_allclose(
                    m[:, :3] @ np.array(at) + m[:, 3], where[:, lane % where.shape[1]], atol=1e-6
                )
                seen += 1
    assert seen == 2 * len(links)


def test_a_body_s_bars_keep_their_shape_on_the_way() -> None:
    found = scene(
        solved_cycle(kind("double-wishbone"), example("double-wishbone"), positions(np.linspace(-60, 60, 7), 1.0, 8.0))
    )
    bars = [s for s in found.solids if s.kind == "bar" and s.group.startswith("body:lower_arm")]
    assert len(bars) == 3 + 3  # both pivots and the outer joint of either side, joined by each
    for group in {bar.group for bar in bars}:
        points = [np.array(p) for bar in bars if bar.group == group for p in (bar.a, bar.b)]
        for rows in found.groups[group]:
            m = np.array(rows).reshape(3, 4)
            for p, q in combinations(points, 2):
                before, after = np.linalg.norm(p - q), np.linalg.norm(m[:, :3] @ (p - q))
                assert after == pytest.approx(before, abs=1e-6)


def test_parts_stand_in_the_template_s_order_and_stops_after_them() -> None:
    found = parts_of(solved_cycle(kind("strut"), example("strut"), np.zeros((3, 1))).left.assembled)
    assert [p.kind for p in found] == sorted(p.kind for p in found)
    assert found[-1].name == "stand under the wheel"


def test_the_end_of_reach_is_the_last_place_that_could_be_put_together_and_says_why() -> None:
    # arms of 350 mm, level at ride: the joints can rise and fall no more than that
    found = moved(upright_mover(), bump=420.0, droop=420.0)
    steps = np.array(found.found.travel_mm)
    ends = {event.travel: event.what for event in found.events if event.short == "end of reach"}
    assert set(ends.values()) <= {
        "beyond this it cannot be put together",
        "beyond this it stands in a toggle",
        "beyond this it goes past a toggle and is put together another way round",
    }
    assert sorted(ends) == [steps[steps > -350.0][0], steps[steps < 350.0][-1]]


@pytest.mark.parametrize("rise", [-30.0, 0.0, 45.0])
def test_the_body_higher_by_so_much_is_the_wheel_lower_by_it(rise: float) -> None:
    end = upright_mover()
    raised = changed(end, ride={"rise_mm": rise, "pitch_deg": 0.0})
    one, other = run(raised, [20.0 + rise]), run(end, [20.0])
    # in the body's own frame: a wheel that is up by as much more stands where it stood
    assert one.columns["camber_deg"][0] == pytest.approx(other.columns["camber_deg"][0], abs=1e-9)


@pytest.mark.parametrize("barrel", [None, 165.0, 100.0, 250.0])
def test_a_tyre_on_its_rim_fills_from_the_barrel_to_the_tread_over_its_width(barrel: float | None) -> None:
    """Where the rim is entered, what stands inside its barrel is not in the tyre; where it is not, the tyre is one round ring as thick as it is wide."""
    end = upright_mover()
    raw = json.loads(end.wheel.model_dump_json())
    rim = None if barrel is None else {"barrel_radius_mm": barrel, "spokes_mm": 15.0}
    end = changed(end, wheel={**raw, "rim": rim})
    done = solved_cycle(kind("double-wishbone"), end, positions([0.0, 40.0], [0.0], [0.0]))
    assembled, solved = done.left.assembled, done.left.solved
    (name, ring, radius), *_ = tyres(assembled, solved)
    wheel = end.wheel
    state = wheel_at(assembled, solved, 1.0)
    d = ring - state.centre[:, None]
    along = (d * state.spin[:, None]).sum(axis=0)
    off = np.linalg.norm(d - along * state.spin[:, None], axis=0)
    assert name == "tyre"
    assert (off + radius).max() == pytest.approx(wheel.loaded_radius_mm)
    inner = wheel.loaded_radius_mm - wheel.width_mm if barrel is None else max(barrel, wheel.loaded_radius_mm - wheel.width_mm)  # fmt: skip
    assert (off - radius).min() == pytest.approx(inner)
    assert (np.abs(along) + radius).max() == pytest.approx(wheel.width_mm / 2)
    rows = np.unique(np.round(along[:, 0], 6))
    assert len(rows) == 1 or np.diff(rows).max() <= radius + 1e-6
