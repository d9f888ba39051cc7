"""A pick-up that is moved with the parts as they are: what was made stays as it was, the wheel goes where it takes it."""

from __future__ import annotations

from itertools import combinations

import numpy as np
import pytest
from scipy.optimize import least_squares

from tests.core.test_statics import IN_BUSHES
from tests.core.test_suspension import example, kind
from tirante.core.document.end import End
from tirante.core.errors import InputError
from tirante.core.mechanism.model import GROUND
from tirante.core.suspension.assemble import assemble_end
from tirante.core.suspension.moved_pickup import moved_pickup
from tirante.core.suspension.shown.lengths import lengths
from tirante.shipped.templates import example_ends


def by(end: End, point: str, *mm: float) -> tuple[float, float, float]:
    x, y, z = (a + b for a, b in zip(end.points[point], mm, strict=True))
    return x, y, z


def pickups(name: str) -> list[str]:
    end, found = example(name), []
    marks = assemble_end(kind(name), end).marks
    for point in end.points:
        mark = marks.get(point) or marks.get(f"{point}_left")
        if mark is not None and mark.body == GROUND:
            found.append(point)
    return found


def test_five_links_of_the_old_lengths_meet_where_it_is_said() -> None:
    # the upright put on five lengths by a solver of its own: six coordinates, five links and the height of the wheel
    name, point = "five-link", "lower_front_inner"
    end, template = example(name), kind(name)
    to = by(end, point, 3.0, -4.0, 6.0)
    found = moved_pickup(template, end, point, to)
    pairs = [(row.a, row.b) for row in lengths(template, end) if row.is_link]
    assert len(pairs) == 5
    at = {p: np.array(v) for p, v in end.points.items()}
    hub = at["wheel_centre"]
    moved = {**at, point: np.array(to)}

    def turned(x: np.ndarray, place: np.ndarray) -> np.ndarray:
        a, b, c = x[3:]
        rx = np.array([[1, 0, 0], [0, np.cos(a), -np.sin(a)], [0, np.sin(a), np.cos(a)]])
        ry = np.array([[np.cos(b), 0, np.sin(b)], [0, 1, 0], [-np.sin(b), 0, np.cos(b)]])
        rz = np.array([[np.cos(c), -np.sin(c), 0], [np.sin(c), np.cos(c), 0], [0, 0, 1]])
        return np.asarray(hub + x[:3] + rz @ ry @ rx @ (place - hub))

    def misfit(x: np.ndarray) -> list[float]:
        return [
            float(np.linalg.norm(turned(x, at[o]) - moved[i]) - np.linalg.norm(at[o] - at[i])) for i, o in pairs
        ] + [x[2]]

    x = least_squares(misfit, np.zeros(6), xtol=1e-14, ftol=1e-14, gtol=1e-14).x
    assert np.abs(misfit(x)).max() < 1e-9
    assert found.wheel_mm == pytest.approx(x[:3], abs=1e-5)
    for _, outer in pairs:
        assert found.end.points[outer] == pytest.approx(turned(x, at[outer]), abs=1e-5)
    # the wheel's axle turns with it; outward of the left wheel, positive camber leans it down, toe in turns it ahead
    lean, steer = np.radians(end.wheel.camber_deg), np.radians(end.wheel.toe_deg)
    axle = np.array([np.sin(steer) * np.cos(lean), np.cos(steer) * np.cos(lean), -np.sin(lean)])
    new = turned(x, hub + axle) - hub - x[:3]
    assert found.camber_deg == pytest.approx(-np.degrees(np.arcsin(new[2])) - end.wheel.camber_deg, abs=2e-5)
    assert found.toe_deg == pytest.approx(np.degrees(np.arctan2(new[0], new[1])) - end.wheel.toe_deg, abs=2e-5)


@pytest.mark.parametrize("name", sorted(example_ends()))
def test_every_pickup_of_every_end_keeps_what_is_made_or_says_why_not(name: str) -> None:
    end, template = example(name), kind(name)
    codes: set[str] = set()
    moved, across = 0, -1.5 if template.axle == "independent" else 0.0
    for point in pickups(name):
        try:
            found = moved_pickup(template, end, point, by(end, point, 2.0, across, 3.0))
        except InputError as refused:
            codes.add(refused.code)
            continue
        moved += 1
        assert found.end.points[point] == pytest.approx(by(end, point, 2.0, across, 3.0))
        before = {(r.part, r.a, r.b): r for r in lengths(template, end)}
        for row in lengths(template, found.end):
            old = before[row.part, row.a, row.b]
            slack = abs(found.bases_mm.get(row.part, 0.0))
            assert abs(row.left - old.left) < 0.005 + slack, (point, row)
            if row.is_link:
                assert abs(row.left - old.left) < 0.005, (point, row)
                assert row.right is None or abs(row.right - (old.right or 0.0)) < 0.005
        # the wheel's height is held, and so is the size of whatever turns with it
        assert (
            found.wheel_mm[2] == pytest.approx(0, abs=1e-4 if template.axle == "independent" else 0.02)
            or not template.rises
        )
    assert codes <= {"askew", *(["not_kept"] if name in IN_BUSHES else [])}
    assert moved or name in ("radius-arms", "three-links-panhard-steered"), "none could be moved"


@pytest.mark.parametrize("point", ["lower_front", "lower_rear", "upper_front", "upper_rear"])
def test_an_arm_keeps_its_sides_and_what_stands_on_it(point: str) -> None:
    name = "double-wishbone"
    end, template = example(name), kind(name)
    found = moved_pickup(template, end, point, by(end, point, 0.0, 0.0, 8.0))
    arm = point.split("_")[0]
    old, new = ({n: np.array(p) for n, p in one.points.items()} for one in (end, found.end))
    for pivot in (f"{arm}_front", f"{arm}_rear"):
        assert np.linalg.norm(new[f"{arm}_outer"] - new[pivot]) == pytest.approx(
            np.linalg.norm(old[f"{arm}_outer"] - old[pivot]), abs=1e-5
        )
    base = [np.linalg.norm(one[f"{arm}_front"] - one[f"{arm}_rear"]) for one in (old, new)]
    assert found.bases_mm == pytest.approx({f"{arm} arm": base[1] - base[0]})
    # the upright is one piece
    for a, b in combinations(("upper_outer", "lower_outer", "tie_outer", "wheel_centre"), 2):
        assert np.linalg.norm(new[a] - new[b]) == pytest.approx(np.linalg.norm(old[a] - old[b]), abs=1e-5)
    # and the damper's eye on the lower arm is as far from the arm's joint as it was, and in its plane
    eye = end.damper.b.point  # type: ignore[union-attr]
    assert np.linalg.norm(new[eye] - new["lower_outer"]) == pytest.approx(
        np.linalg.norm(old[eye] - old["lower_outer"]), abs=0.1
    )


@pytest.mark.parametrize("point", ["rocker_pivot", "rocker_axis"])
def test_a_rocker_whose_line_is_moved_goes_with_it_as_it_was_made(point: str) -> None:
    """How far its eyes lie along the line it turns about, and off it, is the plate's; only the pull of its rod may turn it."""
    name = "double-wishbone-rod-upper"
    end, template = example(name), kind(name)
    found = moved_pickup(template, end, point, by(end, point, -4.0, 6.0, 9.0))
    shapes = []
    for one in (end, found.end):
        at = {n: np.array(p) for n, p in one.points.items()}
        line = (at["rocker_axis"] - at["rocker_pivot"]) / np.linalg.norm(at["rocker_axis"] - at["rocker_pivot"])
        eyes = [at[n] - at["rocker_pivot"] for n in ("rod_rocker", "damper_rocker")]
        shapes.append(
            [
                *(float(e @ line) for e in eyes),
                *(float(np.linalg.norm(e)) for e in eyes),
                float(np.linalg.norm(eyes[0] - eyes[1])),
            ]
        )
    assert shapes[1] == pytest.approx(shapes[0], abs=1e-5)
    assert np.linalg.norm(np.subtract(found.end.points["rod_rocker"], end.points["rod_rocker"])) > 1.0
    assert found.wheel_mm == pytest.approx((0.0, 0.0, 0.0), abs=1e-6)


def test_a_shorter_link_pulls_the_wheel_in_by_what_it_lacks() -> None:
    # a pivot line moved 5 mm straight inward carries the whole end in by 5 mm when all pick-ups go, one after the other
    name = "double-wishbone"
    end, template = example(name), kind(name)
    now = end
    for point in ("upper_front", "upper_rear", "lower_front", "lower_rear", "tie_inner"):
        now = moved_pickup(template, now, point, by(now, point, 0.0, -5.0, 0.0)).end
    for point in ("wheel_centre", "upper_outer", "lower_outer", "tie_outer"):
        assert now.points[point] == pytest.approx(by(end, point, 0.0, -5.0, 0.0), abs=0.05)
    assert now.wheel.camber_deg == pytest.approx(end.wheel.camber_deg, abs=0.01)
    assert now.wheel.toe_deg == pytest.approx(end.wheel.toe_deg, abs=0.02)


def test_both_lower_links_of_an_axle_moved_ahead_carry_it_ahead() -> None:
    name = "four-links-watts-axle"
    end, template = example(name), kind(name)
    found = moved_pickup(template, end, "lower_chassis", by(end, "lower_chassis", 4.0, 0.0, 0.0))
    # the upper links hold their own: the axle turns about the lateral axis, and goes ahead by the share of its height between them
    assert 0 < found.wheel_mm[0] < 4.0
    assert found.wheel_mm[1] == pytest.approx(0, abs=0.02)
    for row, old in zip(lengths(template, found.end), lengths(template, end), strict=True):
        assert row.left == pytest.approx(old.left, abs=1e-3)


def test_what_cannot_be_said_or_met_is_refused_by_name() -> None:
    end, template = example("double-wishbone"), kind("double-wishbone")
    for point, to, code in (
        ("tie_outer", by(end, "tie_outer", 1.0, 0.0, 0.0), "no_pickup"),
        ("nothing", (0.0, 0.0, 0.0), "no_pickup"),
        ("upper_front", by(end, "upper_front", 0.0, -700.0, 0.0), "not_assembled"),
    ):
        with pytest.raises(InputError) as refused:
            moved_pickup(template, end, point, to)
        assert refused.value.code == code, point
        assert refused.value.fields == ("point",)
    beam, of = example("three-links-panhard"), kind("three-links-panhard")
    with pytest.raises(InputError, match="each wheel would stand at its own") as refused:
        moved_pickup(of, beam, "panhard_chassis", by(beam, "panhard_chassis", 0.0, 10.0, 0.0))
    assert refused.value.code == "askew"


def test_a_place_on_the_body_that_holds_no_length_is_moved_alone() -> None:
    end, template = example("double-wishbone"), kind("double-wishbone")
    top = end.damper.a.point  # type: ignore[union-attr]
    found = moved_pickup(template, end, top, by(end, top, 0.0, 0.0, 5.0))
    assert found.end == end.model_copy(update={"points": {**end.points, top: by(end, top, 0.0, 0.0, 5.0)}})
    assert found.wheel_mm == (0.0, 0.0, 0.0)


def test_bolts_and_studs_turn_with_what_they_are_in() -> None:
    template = kind("double-wishbone")
    end = example("double-wishbone", balls={"upper outer joint": {"limit_deg": 30.0, "stud_axis": [0.1, 0.2, 1.0]}})
    found = moved_pickup(template, end, "upper_front", by(end, "upper_front", 3.0, -6.0, 9.0)).end
    assert found.wheel.camber_deg != pytest.approx(end.wheel.camber_deg, abs=0.1)

    def angles(one: End) -> list[float]:
        kingpin = np.subtract(one.points["upper_outer"], one.points["lower_outer"])
        steering = np.subtract(one.points["tie_outer"], one.points["lower_outer"])
        arm = np.subtract(one.points["upper_outer"], one.points["upper_front"])
        tie, upper = one.links["tie rod"].b, one.balls["upper outer joint"]
        assert tie is not None
        bolt, stud, housing = (
            np.array(axis) for axis in (tie.bolt_axis, upper.stud_axis, upper.housing_axis or upper.stud_axis)
        )
        unit = [v / np.linalg.norm(v) for v in (bolt, stud, housing)]
        return [
            float(unit[0] @ kingpin),
            float(unit[0] @ steering),
            float(unit[1] @ kingpin),
            float(unit[1] @ steering),
            float(unit[2] @ arm),
        ]

    assert angles(found)[:4] == pytest.approx(angles(end)[:4], abs=0.02)
    assert angles(found)[4] == pytest.approx(angles(end)[4], abs=1.0)  # the arm's own pivots gave a little
    # what is bolted to the car's own body stays
    assert found.links["tie rod"].a == end.links["tie rod"].a


def test_what_slides_beside_its_line_stays_there_and_is_not_put_on_another() -> None:
    name = "four-links-slider"
    end, template = example(name), kind(name)
    slider = next(joint for joint in template.joints if joint.kind == "slider")
    x, y, z = end.points[slider.place.point]
    beside = end.model_copy(update={"points": {**end.points, slider.place.point: (x + 12.0, y, z)}})
    # another pick-up moves the axle ahead or back; sideways it stays where its slider has it
    found = moved_pickup(template, beside, "lower_chassis", by(beside, "lower_chassis", 2.0, 0.0, 3.0))
    straight = moved_pickup(template, end, "lower_chassis", by(end, "lower_chassis", 2.0, 0.0, 3.0))
    assert found.wheel_mm == pytest.approx(straight.wheel_mm, abs=0.05)
    with pytest.raises(InputError, match="stands beside its line"):
        moved_pickup(template, beside, slider.line[0], by(beside, slider.line[0], 1.0, 0.0, 0.0))


def test_things_to_miss_on_what_moves_are_named_and_those_on_the_car_are_not() -> None:
    shape = {"kind": "round", "a": [0, 500, 300], "b": [0, 600, 300], "radius_mm": 10}
    things = [{"name": "hose", "body": "upright", "shape": shape}, {"name": "pipe", "body": "ground", "shape": shape}]
    end, template = example("double-wishbone", obstacles=things), kind("double-wishbone")
    found = moved_pickup(template, end, "tie_inner", by(end, "tie_inner", 0.0, -2.0, 0.0))
    assert found.left_behind == ("hose",)
