"""A bent link goes through the travel bent: against walls and rods, as far as its ends let it roll, on either side, drawn so."""

from __future__ import annotations

from math import cos, radians, sin
from typing import Any
from uuid import uuid4

import numpy as np
import pytest

from tests.core.test_loads import demo
from tests.core.test_statics import solved
from tests.core.test_whole_suspension import changed, example
from tests.jobs import links, with_part, work
from tirante.core.document.end import End
from tirante.core.document.fields import Length
from tirante.core.document.parts.link import Bent
from tirante.core.job.evaluate import evaluate
from tirante.core.job.studies import solved_at, study_of
from tirante.core.suspension.cycle import measured
from tirante.core.suspension.shown.posture import postures_of
from tirante.core.suspension.shown.scene import scene

OFFSET, RADIUS = 60.0, 12.5


def level(bend: dict[str, Any] | None, a: dict[str, Any] | None = None, *obstacles: dict[str, Any]) -> End:
    """An axle whose lower links lie level along x, 430 out and 300 up, their bolts across the car."""
    joint = {"bolt_axis": [0.0, 1.0, 0.0], "kind": "spherical", "limit_deg": None} | (a or {})
    return changed(
        example("four-links-panhard"),
        points={"lower_chassis": [700.0, 430.0, 300.0], "lower_axle": [0.0, 430.0, 300.0]},
        links={"lower link": {"a": joint, "od_mm": 2 * RADIUS, "bend": bend}}, obstacles=list(obstacles),
    )  # fmt: skip


def wall(name: str, z: float, facing: float) -> dict[str, Any]:
    return {
        "name": name, "body": "ground", "shape": {"kind": "wall", "through": [0.0, 0.0, z], "normal": [0.0, 0.0, facing]}, "wanted_mm": 5.0,
        "both_sides": False,
    }  # fmt: skip


def gap(end: End, to: str, at: float = 0.0) -> float:
    return float(measured(solved(end, at)).clearances[f"lower link, left to {to}"]["clearance_mm"][0])


def held(limit: float | None, kind: str = "spherical") -> dict[str, Any]:
    return {"limit_deg": limit, "kind": kind}


@pytest.mark.parametrize("plane", [0.0, 35.0, 90.0, 180.0, -120.0])
@pytest.mark.parametrize(("a", "roll"), [(held(None, "hinged"), 0.0), (held(14.0), 14.0), (held(None), 180.0)])
def test_what_stands_over_a_bent_link_sees_its_bend_wherever_it_may_roll(
    plane: float, a: dict[str, Any], roll: float
) -> None:
    ceiling, floor = wall("ceiling", 420.0, -1.0), wall("floor", 200.0, 1.0)
    end = level({"offset_mm": OFFSET, "plane_deg": plane}, a, ceiling, floor)
    angles = np.radians(np.linspace(plane - roll, plane + roll, 24001))
    # the link's own line stands 300 up: its joints, and its bend above or below them
    highest, lowest = max(0.0, OFFSET * np.cos(angles).max()), min(0.0, OFFSET * np.cos(angles).min())
    coarse = OFFSET * (1 - cos(radians(7.5)))  # all round is looked at every 15°
    assert gap(end, "ceiling") == pytest.approx(120.0 - highest - RADIUS, abs=coarse if roll else 1e-6)
    assert gap(end, "floor") == pytest.approx(100.0 + lowest - RADIUS, abs=coarse if roll else 1e-6)
    straight = level(None, a, ceiling, floor)
    assert gap(straight, "ceiling") == pytest.approx(120.0 - RADIUS)


def test_the_bends_stand_where_they_are_made_and_swing_with_the_link() -> None:
    # a rod across the car over the link, a hand's breadth from the joint: between joint and bend the link rises in proportion
    rod = {
        "name": "rod", "body": "ground", "wanted_mm": 5.0, "both_sides": False,
        "shape": {"kind": "round", "a": [600.0, 300.0, 400.0], "b": [600.0, 560.0, 400.0], "radius_mm": 10.0},
    }  # fmt: skip
    bend = {"offset_mm": OFFSET, "from_ends_mm": 200.0}
    end = level(bend, held(None, "hinged"), rod)
    lean = np.arctan2(OFFSET, 200.0)  # of the outer piece
    at = np.array([600.0, 400.0]) - np.array([700.0, 300.0])
    off = at @ np.array([np.sin(lean), np.cos(lean)])
    assert gap(end, "rod") == pytest.approx(off - 10.0 - RADIUS, abs=1e-6)
    # raised, the whole of it turns about its joint on the chassis
    done = solved(end, 50.0)
    z = float(
        done.left.solved.system.where(done.left.solved.poses, done.left.assembled.links[0].b, done.left.solved.drives)[
            2, 0
        ]
    )
    swing = np.arcsin((z - 300.0) / 700.0)
    outer = lean + swing if done.left.assembled.links[0].a.at[0] == 700.0 else lean - swing
    off = at @ np.array([np.sin(outer), np.cos(outer)])
    assert gap(end, "rod", 50.0) == pytest.approx(off - 10.0 - RADIUS, abs=0.2)


def test_beside_its_joint_a_bent_link_s_bracket_is_left_out_along_the_piece_that_stands_in_it() -> None:
    rod = {
        "name": "rod", "body": "ground", "wanted_mm": 5.0, "both_sides": False,
        "shape": {"kind": "round", "a": [690.0, 300.0, 330.0], "b": [690.0, 560.0, 330.0], "radius_mm": 4.0},
    }  # fmt: skip
    end = level({"offset_mm": OFFSET, "from_ends_mm": 200.0}, held(None, "hinged"), rod)
    piece = np.array([-200.0, OFFSET]) / np.hypot(200.0, OFFSET)
    start = 50.0 * piece  # from the joint, where the bracket ends
    assert gap(end, "rod") == pytest.approx(np.linalg.norm(np.array([-10.0, 30.0]) - start) - 4.0 - RADIUS)


def test_of_two_parts_for_one_link_the_one_that_is_bent_more_counts() -> None:
    design = demo("marram")
    link = next(one for one in links(design) if one.stands_for == "lower link")
    assert link.of_end
    for left, right in ((40.0, 90.0), (90.0, 40.0)):
        one = link.model_copy(update={"side": "left", "bent": Bent(offset=Length(mm=left))})
        two = link.model_copy(update={"id": str(uuid4()), "side": "right", "bent": Bent(offset=Length(mm=right))})
        both = design.model_copy(update={"parts": (one, two), "joints": ()})
        bend = work(both).watched(link.of_end).links["lower link"].bend
        assert bend
        assert bend.offset_mm == 90.0


def test_either_side_is_the_other_s_mirror_image() -> None:
    posts = [
        {"name": name, "body": "ground", "wanted_mm": 5.0, "both_sides": False,
         "shape": {"kind": "round", "a": [300.0, y, 200.0], "b": [300.0, y, 500.0], "radius_mm": 10.0}}
        for name, y in (("left post", 520.0), ("right post", -520.0))
    ]  # fmt: skip
    end = level({"offset_mm": OFFSET, "plane_deg": 50.0}, held(8.0), *posts)
    found = measured(solved(end)).clearances
    left = found["lower link, left to left post"]["clearance_mm"][0]
    right = found["lower link, right to right post"]["clearance_mm"][0]
    assert left == pytest.approx(right)
    # outward by the sine of its plane (and roll), or inward: one of the two, alike on both sides
    out = OFFSET * sin(radians(58.0)) * (300.0 / 350.0)
    away = -OFFSET * sin(radians(42.0)) * (300.0 / 350.0)
    assert any(left == pytest.approx(90.0 - 10.0 - RADIUS - y, abs=1.0) for y in (out, away, 0.0))


def test_a_part_of_the_job_goes_bent_through_cycle_and_is_drawn_so() -> None:
    design = demo("marram")
    link = next(one for one in links(design) if one.stands_for == "lower link")
    assert link.of_end
    bent = link.model_copy(update={"bent": Bent(offset=Length(mm=80.0), from_ends=Length(mm=150.0), plane_deg=20.0)})
    before, after = work(design), work(with_part(design, bent))
    told = next(one for one in evaluate(after).ends if one.id == link.of_end)
    assert told.bends["lower link"]
    assert told.bends["lower link"].offset_mm == 80.0
    assert any("lower link: bent; its rod ends let it roll" in line for line in told.allowed)
    watched = after.watched(link.of_end)
    assert watched.links["lower link"].bend == told.bends["lower link"]
    assert after.ends[link.of_end].links["lower link"].bend is None  # the end itself says nothing of it
    gaps = [study_of(job, link.of_end, 0.0, 0.0).found.clearances for job in (before, after)]
    changed_gaps = [
        name for name, columns in gaps[0].items()
        if name.startswith("lower link") and not np.allclose(columns["clearance_mm"], gaps[1][name]["clearance_mm"], equal_nan=True)
    ]  # fmt: skip
    assert changed_gaps
    # three pieces instead of one, on the screen and in the scene; asked for where no study has been
    done = solved_at(after, link.of_end, 30.0, 0.6, 0.0)
    posture = postures_of(done)[0]
    assert posture
    sticks = [stick for stick in posture.sticks if stick.ref == "link:lower link, left"]
    assert [stick.eyes for stick in sticks] == [(True, False), (False, False), (False, True)]
    a, b = np.array(sticks[0].a), np.array(sticks[-1].b)
    u = (b - a) / np.linalg.norm(b - a)
    knee = np.array(sticks[0].b) - a
    assert np.linalg.norm(knee - (knee @ u) * u) == pytest.approx(80.0)
    assert knee @ u == pytest.approx(150.0, abs=1.0)
    pieces = [float(np.linalg.norm(np.array(stick.b) - np.array(stick.a))) for stick in sticks]
    assert pieces == pytest.approx(
        [np.hypot(150.0, 80.0), np.linalg.norm(b - a) - 300.0, np.hypot(150.0, 80.0)], abs=1.0
    )
    cylinders = [solid for solid in scene(done).solids if solid.ref == "link:lower link, left"]
    assert len(cylinders) == 3


def test_a_client_that_asks_of_the_end_alone_says_how_its_links_are_bent() -> None:
    design = demo("marram")
    end = next(one for one in design.ends if one.name == "Rear")
    job = work(design.model_copy(update={"parts": (), "joints": ()}))
    bent = work(design.model_copy(update={"parts": (), "joints": ()}))
    bent.given_bends = {"lower link": level({"offset_mm": 70.0}).links["lower link"].bend}
    assert job.watched(end.id).links["lower link"].bend is None
    assert bent.watched(end.id).links["lower link"].bend is not None
