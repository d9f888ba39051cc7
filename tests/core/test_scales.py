"""Symmetries that every end must have: the same car elsewhere, larger, or with its right side given as the mirror of its left.

No source: kinematics has no length of its own, and no place.
"""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from tests.core.test_suspension import CORNERS, NAMES, example, kind
from tirante.core.document.end import End
from tirante.core.suspension.cycle import cycle, positions
from tirante.core.suspension.shown.lengths import lengths


def mapped(end: End, at: Any, length: Any) -> End:
    """An end with every place and every length of it changed alike."""

    def walk(value: Any, name: str = "") -> Any:
        if isinstance(value, dict):
            if name in ("points", "right_points"):
                return {key: at(point) for key, point in value.items()}
            return {key: walk(one, key) for key, one in value.items()}
        if (
            isinstance(value, list)
            and name in ("a", "b", "low", "high", "through")
            and len(value) == 3
            and not isinstance(value[0], dict)
        ):
            return at(value)
        if isinstance(value, list):
            return [walk(one) for one in value]
        if (
            isinstance(value, float | int)
            and not isinstance(value, bool)
            and name.endswith("_mm")
            and "_per_" not in name
            and "n_per" not in name
        ):
            return length(value)
        return value

    return End.model_validate(walk(end.model_dump(mode="json")), strict=False)


def measures(end: End, name: str, travel: float, roll: float, steer: float = 0.0) -> dict[str, Any]:
    template = kind(name)
    found = cycle(template, end, positions([travel, 0.0], [roll], [steer]))
    assert set(found.status) == {"converged"}
    return {key: np.ravel(column).astype(float) for key, column in found.columns.items()}


@pytest.mark.parametrize("name", NAMES)
def test_a_car_of_twice_the_size_has_the_same_angles_and_twice_the_lengths(name: str) -> None:
    end = example(name)
    double = mapped(end, lambda p: [2 * v for v in p], lambda v: 2 * v)
    # what yields shares alike: a bush's stiffness against leaning goes with the square of the size
    leaning = {
        key: bush.model_copy(update={"conical_nmm_per_deg": bush.conical_nmm_per_deg and 4 * bush.conical_nmm_per_deg})
        for key, bush in double.bushes.items()
    }
    double = double.model_copy(update={"bushes": leaning})
    travel = 20.0 if kind(name).rises else 0.0
    one, two = measures(end, name, travel, 1.2), measures(double, name, 2 * travel, 1.2)
    compared = 0
    for key, column in one.items():
        if key in ("travel_mm", "steer_mm", "steer_deg", "roll_deg"):
            continue
        rate = 0.5 if key.endswith("_per_mm") else 2.0 if key.endswith("_mm") else 1.0
        if not key.endswith(("_mm", "_deg", "_per_mm")) and not any(
            word in key for word in ("ratio", "percent", "anti")
        ):
            continue
        wanted = rate * column
        # what is far away (a centre of lines that are nearly parallel) is compared by its size
        close = np.abs(wanted) < 1e5
        np.testing.assert_allclose(two[key][close], wanted[close], rtol=2e-6, atol=2e-5, err_msg=key)
        compared += 1
    assert compared > 4


@pytest.mark.parametrize("name", NAMES)
def test_a_car_that_stands_elsewhere_along_the_road_moves_alike(name: str) -> None:
    end = example(name)
    if any(body for body in end.obstacles) or end.vehicle:
        end = End.model_validate(end.model_dump(mode="json") | {"obstacles": [], "vehicle": None}, strict=False)
    further = mapped(end, lambda p: [p[0] + 1234.0, p[1], p[2]], lambda v: v)
    travel = -25.0 if kind(name).rises else 0.0
    one, two = measures(end, name, travel, 0.8), measures(further, name, travel, 0.8)
    for key, column in one.items():
        if "_x_" in key or key.endswith("_x_mm"):
            continue  # places along the car
        close = np.abs(column) < 1e5
        np.testing.assert_allclose(two[key][close], column[close], rtol=2e-6, atol=2e-5, err_msg=key)
    for a, b in zip(lengths(kind(name), end), lengths(kind(name), further), strict=True):
        assert (b.part, b.a, b.b, b.is_link) == (a.part, a.a, a.b, a.is_link)
        assert b.left == pytest.approx(a.left, abs=1e-9)


@pytest.mark.parametrize("name", CORNERS)
def test_a_right_side_given_as_the_mirror_of_the_left_is_the_end_without_one(name: str) -> None:
    end = example(name)
    if end.right_points:
        pytest.skip("its sides differ on purpose")
    unpaired = (
        {point.name for point in kind(name).points.values() if not point.pair}
        if isinstance(kind(name).points, dict)
        else set()
    )
    mirrored = {point: (x, -y, z) for point, (x, y, z) in end.points.items() if point not in unpaired and abs(y) > 1e-9}
    given = end.model_copy(update={"right_points": mirrored})
    one, two = measures(end, name, 18.0, 1.5), measures(given, name, 18.0, 1.5)
    assert set(one) == set(two)
    for key in one:
        np.testing.assert_allclose(two[key], one[key], rtol=1e-7, atol=1e-6, err_msg=key)
