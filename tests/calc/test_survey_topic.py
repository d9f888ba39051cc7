"""`calc survey` by its contract: names and signs of what it answers, and what it refuses."""

from __future__ import annotations

import json
from math import degrees, sqrt

import numpy as np
import pytest
from pydantic import ValidationError
from scipy.optimize import least_squares

from tirante.calc.registry import calculate
from tirante.core.errors import TiranteError

DATUM = {"A": [0.0, 0.0, 0.0], "B": [1000.0, 0.0, 0.0], "C": [0.0, 1000.0, 0.0], "D": [400.0, 300.0, 900.0]}
P = np.array([420.0, 310.0, 180.0])


def distances(slip: float = 0.0) -> list[list[object]]:
    off = {"A": 0.4, "B": -0.7, "C": 0.2 + slip, "D": 0.5}
    return [
        [name, "P", float(np.linalg.norm(P - np.array(at))) + off[name], 0.5 if name == "D" else 1.0]
        for name, at in DATUM.items()
    ]


def answer(**given: object) -> dict:
    return calculate("survey", {"datum": DATUM, "approximate": {"P": [400, 300, 200]}, **given})


def test_it_is_scipy_s_weighted_least_squares_and_residuals_are_computed_less_measured() -> None:
    read = distances()
    found = answer(distances=read)

    def missing(at: np.ndarray) -> np.ndarray:
        return np.array([(np.linalg.norm(at - np.array(DATUM[a])) - value) / sd for a, _, value, sd in read])  # type: ignore[call-overload]

    wanted = least_squares(missing, P, xtol=1e-15, ftol=1e-15, gtol=1e-15)
    assert found["points"]["P"] == pytest.approx(wanted.x, abs=1e-6)
    assert found["points"]["A"] == DATUM["A"]
    assert found["residuals"] == pytest.approx(missing(wanted.x) * [sd for *_, sd in read], abs=1e-6)
    cofactor = np.linalg.inv(wanted.jac.T @ wanted.jac)
    assert found["sd"]["P"] == pytest.approx(np.sqrt(np.diag(cofactor)), rel=1e-5)
    assert found["sd"]["A"] == [0, 0, 0]
    share = 1 - np.diag(wanted.jac @ cofactor @ wanted.jac.T)
    assert found["redundancy"] == pytest.approx(share, abs=1e-6)
    assert found["normalised"] == pytest.approx(missing(wanted.x) / np.sqrt(share), rel=1e-4)
    assert (found["dof"], found["suspect"], found["fits"]) == (1, None, True)
    assert found["s0"] == pytest.approx(sqrt(2 * wanted.cost))


def test_what_does_not_fit_is_told_by_its_points() -> None:
    more = [["P", "x", 420.5, 1.0], ["P", "y", 309.5, 1.0], ["P", "z", 180.2, 1.0]]
    assert answer(distances=distances(), offsets=more)["suspect"] is None
    found = answer(distances=distances(slip=12.0), offsets=more)
    assert found["suspect"] == ["C", "P"]
    assert found["suspects"][0]["expected"] == pytest.approx(float(np.linalg.norm(P - [0, 1000, 0])), abs=2)
    found = answer(distances=distances(), offsets=[*more[:2], ["P", "z", 168.0, 1.0]])
    assert found["suspect"] == ["P", "z"]


def test_angles_steps_lines_and_faces_are_read_in_their_own_units() -> None:
    q = P + np.array([100.0, 0.0, 30.0])
    given = {
        "approximate": {"P": [400, 300, 200], "Q": [500, 300, 200]}, "distances": distances(),
        "steps": [["P", "Q", "x", 100.0, 1.0], ["P", "Q", "y", 0.0, 1.0]], "angles": [["P", "Q", "level", degrees(np.arctan2(30, 100)), 0.1]],
    }  # fmt: skip
    found = answer(**given)
    assert np.array(found["points"]["Q"]) - found["points"]["P"] == pytest.approx([100, 0, 30], abs=1e-6)
    # 0.1° over 104 mm of line is 0.19 mm across it; with it the height is as sure as the length and the angle make it
    assert found["sd"]["Q"][2] == pytest.approx(
        sqrt(found["sd"]["P"][2] ** 2 + (104.4**2 / 100 * np.radians(0.1)) ** 2 + 0.3**2), rel=0.02
    )
    side = answer(**{**given, "angles": [["P", "Q", "side", degrees(np.arctan2(30, 100)), 0.1]]})
    assert side["points"]["Q"] == pytest.approx(found["points"]["Q"], abs=1e-6)
    line = answer(
        **{
            **given,
            "angles": [],
            "lines": [["Q", "A", "B", float(np.hypot(q[1], q[2])), 1.0]],
            "faces": [["Q", "A", "B", float(q[0]), 1.0]],
        }
    )
    assert line["dof"] == found["dof"] + 1
    assert line["residuals"][-1] == pytest.approx(line["points"]["Q"][0] - q[0], abs=1e-6)


def test_what_is_free_has_no_deviation_and_is_measured_next() -> None:
    found = answer(distances=distances()[:2])
    assert found["sd"]["P"][0] is not None
    assert None in found["sd"]["P"]
    assert found["free"]["P"]
    assert found["next"][0]["sd_before_mm"] is None
    assert "P" in found["next"][0]["points"]
    assert found["fits"] is None
    three = answer(distances=distances()[:3])
    assert three["free"] == {}
    assert three["mirrored"][0]["P"][2] == pytest.approx(-three["points"]["P"][2], abs=1e-4)
    json.dumps(found, allow_nan=False)


@pytest.mark.parametrize(
    ("given", "told"),
    [
        ({"distances": [["A", "nowhere", 5.0, 1.0]]}, "nowhere"),
        ({"distances": [["A", "P", 5.0, 0.0]]}, "distances"),
        ({}, "nothing was read"),
        ({"distances": [["A", "P", 5.0, 1.0]], "datum": {**DATUM, "P": [0, 0, 0]}}, "both"),
    ],
)
def test_what_is_refused_says_where(given: dict, told: str) -> None:
    with pytest.raises((ValidationError, TiranteError)) as caught:
        answer(**given)
    assert told in str(caught.value)
