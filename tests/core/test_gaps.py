"""What must be missed: how thick everything is, on which side a thing stands, and what a bend away from it asks for.

No source: the geometry of bars at right angles, by hand.
"""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from tests.core.test_limits_and_freedom import upright_mover
from tests.core.test_suspension import example, run
from tests.core.test_whole_suspension import changed
from tirante.core.document.end import End

FAR = 5000.0


def wall(z: float, **more: Any) -> dict[str, Any]:
    """A level face that looks down: what is under it is free."""
    return {
        "name": "wall",
        "shape": {"kind": "wall", "through": [0, 0, z], "normal": [0, 0, -1]},
        "wanted_mm": 0.0,
        **more,
    }


def gaps(end: End, **at: Any) -> dict[str, float]:
    """Every clearance to the wall at ride height."""
    found = run(end, [at.get("travel", 0.0)], [at.get("roll", 0.0)]).clearances
    return {
        name.removesuffix(" to wall"): float(one["clearance_mm"][0])
        for name, one in found.items()
        if name.endswith(" to wall")
    }


def dumped(end: End, **change: Any) -> End:
    return End.model_validate(end.model_dump(mode="json") | change, strict=False)


@pytest.mark.parametrize(
    ("name", "member", "thicker"),
    [
        ("double-wishbone", "damper", lambda end, od: dumped(end, damper=end.damper.model_dump() | {"od_mm": od})),
        ("double-wishbone", "tie rod", lambda end, od: dumped(end, links=_sized(end, "tie rod", od))),
        ("double-wishbone", "upper arm", lambda end, od: dumped(end, member_od_mm={"upper_arm": od})),
        ("three-links-panhard", "axle", lambda end, od: dumped(end, member_od_mm={"axle": od})),
        ("three-links-panhard", "Panhard rod", lambda end, od: dumped(end, links=_sized(end, "Panhard rod", od))),
        ("three-links-panhard", "damper, right", lambda end, od: dumped(end, damper=end.damper.model_dump() | {"od_mm": od})),
    ],
)  # fmt: skip
def test_a_thing_comes_nearer_by_half_of_what_a_member_grows_across(name: str, member: str, thicker: Any) -> None:
    end = changed(example(name), obstacles=[wall(900.0)])
    if end.damper is None and member.startswith("damper"):
        end = changed(end, damper={"a": {"body": "ground", "point": "damper_top"}, "b": {"body": "axle", "point": "damper_low"}},
                      points={"damper_top": [0, 500, 600], "damper_low": [0, 500, 250]})  # fmt: skip
    one, two = gaps(thicker(end, 30.0)), gaps(thicker(end, 44.0))
    assert one[member] - two[member] == pytest.approx(7.0, abs=1e-9)
    for other in one.keys() - {member}:
        same = other.split(",")[0] == member.split(",")[0]
        assert two[other] == pytest.approx(one[other] - (7.0 if same else 0.0), abs=1e-9), other


def _sized(end: End, link: str, od: float) -> dict[str, Any]:
    known = {name: one.model_dump(mode="json") for name, one in end.links.items()}
    return known | {link: known.get(link, {"a": None, "b": None, "clocking_deg": 0.0}) | {"od_mm": od}}


def test_a_level_wall_is_as_far_as_the_highest_point_of_each_member_and_half_its_thickness() -> None:
    end = dumped(changed(example("double-wishbone"), obstacles=[wall(900.0)]), member_od_mm={"upper_arm": 26.0})
    found = gaps(dumped(end, links=_sized(end, "tie rod", 18.0)))
    z = {point: at[2] for point, at in end.points.items()}
    assert found["tie rod"] == pytest.approx(900 - max(z["tie_inner"], z["tie_outer"]) - 9.0, abs=1e-9)
    top = max(z["upper_front"], z["upper_rear"], z["upper_outer"])
    assert found["upper arm"] == pytest.approx(900 - top - 13.0, abs=1e-9)


def test_a_thing_on_the_left_alone_is_not_met_by_the_right_wheel_that_rises_in_roll() -> None:
    shape = {"kind": "round", "a": [-300, 480, 430], "b": [300, 480, 430], "radius_mm": 10.0}
    both = changed(example("double-wishbone"), obstacles=[{"name": "wall", "shape": shape, "wanted_mm": 0.0}])
    left = changed(
        example("double-wishbone"), obstacles=[{"name": "wall", "shape": shape, "wanted_mm": 0.0, "both_sides": False}]
    )
    found = {
        (whole, roll): {name: float(one["clearance_mm"][0]) for name, one in run(end, [0.0], [roll]).clearances.items()}
        for whole, end in ((True, both), (False, left)) for roll in (3.0, -3.0)
    }  # fmt: skip
    for name, gap in found[True, 3.0].items():
        if not name.endswith(", right"):
            # one side leaning is the other leaning the other way
            assert found[True, -3.0][f"{name}, right"] == pytest.approx(gap, abs=1e-6)
            assert found[False, 3.0][name] == pytest.approx(gap, abs=1e-9)
            # what stands on the left alone is across the whole car from the right
            assert found[False, 3.0][f"{name}, right"] > 500.0


@pytest.mark.parametrize("od", [20.0, 23.0, 29.0])
def test_two_members_that_must_miss_each_other_are_apart_by_their_axes_less_both_halves(od: float) -> None:
    end = example("three-links-panhard-steered")
    watched = dumped(end, misses=[{"a": "drag link", "b": "Panhard rod", "wanted_mm": 3.0}])
    thick = dumped(watched, links=_sized(watched, "drag link", od))
    thick = dumped(
        thick,
        links={name: one.model_dump(mode="json") for name, one in thick.links.items()}
        | _sized(thick, "Panhard rod", 32.0),
    )
    found = run(thick, [0.0]).clearances["drag link to Panhard rod"]
    a, b, c, d = (np.array(end.points[n]) for n in ("drag_inner", "drag_knuckle", "panhard_chassis", "panhard_axle"))
    share = np.linspace(0.0, 1.0, 2001)[:, None]
    apart = np.linalg.norm((a + share * (b - a))[:, None] - (c + share * (d - c))[None], axis=2).min()
    assert found["clearance_mm"][0] == pytest.approx(apart - od / 2 - 16.0, abs=0.05)
    assert found["wanted_mm"][0] == 3.0


def test_a_thing_that_rides_on_a_body_keeps_its_distance_to_that_body() -> None:
    box = {"kind": "block", "low": [-30, 610, 620], "high": [30, 650, 670]}
    fixed = upright_mover(obstacles=[{"name": "wall", "shape": box, "wanted_mm": 0.0}])
    # the tyre rises to it, a little inward on its arms
    assert 25.0 < gaps(fixed, travel=0.0)["tyre"] - gaps(fixed, travel=30.0)["tyre"] <= 30.0
    riding = upright_mover(obstacles=[{"name": "wall", "shape": box, "wanted_mm": 0.0, "body": "upright"}])
    moved = [gaps(riding, travel=travel) for travel in (-30.0, 0.0, 30.0)]
    assert "tyre" not in moved[0]  # the wheel rides with it, and nothing between them is watched
    # an arm turns under it, about the joint that they both ride with
    assert moved[0]["upper arm"] == pytest.approx(moved[1]["upper arm"], abs=5.0)
    assert moved[2]["upper arm"] == pytest.approx(moved[1]["upper arm"], abs=5.0)
    fixed_arm = [gaps(fixed, travel=travel)["upper arm"] for travel in (-30.0, 30.0)]
    assert fixed_arm[0] - fixed_arm[1] > 30.0  # which a thing on the chassis does not
