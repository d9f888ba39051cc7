"""Which of many errors explains what was read: against scipy, against figures worked out by hand, and by its wiring."""

from __future__ import annotations

from math import sqrt

import numpy as np
import pytest
from scipy.optimize import least_squares
from scipy.stats import chi2

from tirante.core.errors import InputError
from tirante.core.tolerance.explain import ALIKE, explain, one_more

SHARED = np.diag([0.04, 0.01, 0.09, 0.04]) + 0.02  # [y²] what each reading is off by itself, and what all share


def bent(slopes: np.ndarray, bend: float):
    """Responses that curve: s · slope + bend · s² of the first reading alone."""

    def respond(index: int, size: float) -> np.ndarray:
        return slopes[:, index] * size + bend * size**2 * np.eye(len(slopes))[0]

    return respond


def test_each_size_is_the_least_squares_one_by_scipy_with_the_readings_shared_error() -> None:
    slopes = np.array([[0.30, 0.10], [0.25, -0.30], [0.20, 0.40], [0.1, 0.2]])
    respond = bent(slopes, 0.01)
    read = np.array([1.6, 1.3, 0.8, 0.7])
    found = explain(read, SHARED, slopes, respond, most=50.0)
    weight = np.linalg.inv(SHARED)
    root = np.linalg.cholesky(weight).T
    one, far = found.ranked
    wanted = least_squares(lambda s: root @ (read - respond(0, float(s[0]))), [1.0], xtol=1e-15, gtol=1e-15)
    assert one.size == pytest.approx(float(wanted.x[0]), rel=3e-3)
    assert one.left == pytest.approx(2 * wanted.cost, rel=1e-4)
    assert one.sd == pytest.approx(1 / sqrt(float((wanted.jac.T @ wanted.jac)[0, 0])), rel=1e-2)
    # what is far from the likeliest is told by its slopes
    strength = float(slopes[:, 1] @ weight @ slopes[:, 1])
    assert far.size == pytest.approx(float(slopes[:, 1] @ weight @ read) / strength)
    assert far.left == pytest.approx(found.before - far.size**2 * strength)
    assert found.before == pytest.approx(read @ weight @ read)
    assert [one.index for one in found.ranked] == [0, 1]
    assert found.verdict == "one_error"
    assert pytest.approx(chi2.ppf(0.95, 1)) == ALIKE


def straight(slopes: np.ndarray):
    return lambda index, size: slopes[:, index] * size


def test_what_shows_alike_is_named_together_and_what_cannot_show_is_said() -> None:
    slopes = np.array([[0.2, 0.201, 0.0, 0.001], [0.3, 0.299, 0.2, 0.001]])
    found = explain(6 * slopes[:, 0], 0.01 * np.eye(2), slopes, straight(slopes), most=25.0)
    assert found.verdict == "cannot_tell"
    assert set(found.named) == {0, 1}
    assert found.twins == (1,)
    assert found.unseen == (3,)  # 25 of it are 0.025 twice, a third of what the readings are sure to
    # by hand: the third, with the first reading not touched, leaves (1.2 / 0.1)²
    third = next(one for one in found.ranked if one.index == 2)
    assert third.left == pytest.approx(144.0)
    assert third.size == pytest.approx(9.0)


def test_a_size_that_cannot_be_is_told_and_not_named() -> None:
    slopes = np.array([[0.2, 0.02], [0.3, 0.03]])  # the second would have to be ten times the first
    found = explain(6 * slopes[:, 0], 0.01 * np.eye(2), slopes, straight(slopes), most=25.0)
    assert found.verdict == "one_error"
    assert found.named == (0,)
    assert [(one.index, one.possible) for one in found.ranked] == [(0, True), (1, False)]
    # the only one that would explain it would have to be 30: nothing that may be does, and it is not put before what may
    slopes = np.array([[0.2, 0.02], [-0.3, 0.03]])
    found = explain(30 * slopes[:, 1], 0.01 * np.eye(2), slopes, straight(slopes), most=25.0)
    assert [(one.index, one.possible) for one in found.ranked] == [(0, True), (1, False)]
    assert found.verdict == "not_one_error"
    assert found.ranked[1].left < 5 < found.ranked[0].left


def test_what_cannot_be_put_together_is_no_explanation() -> None:
    slopes = np.array([[0.2, 0.1], [0.3, -0.3]])
    found = explain(
        6 * slopes[:, 0], 0.01 * np.eye(2), slopes, lambda k, s: None if k == 0 else slopes[:, k] * s, most=25.0
    )
    assert all(not one.possible for one in found.ranked if one.index == 0)
    assert 0 not in found.named
    assert found.verdict == "not_one_error"


def test_two_errors_that_no_single_one_sums_to_are_not_one_error() -> None:
    slopes = np.array([[0.2, 0.0], [0.0, 0.3], [0.1, 0.1]])
    found = explain(6 * slopes.sum(axis=1), 0.01 * np.eye(3), slopes, straight(slopes), most=25.0)
    assert found.verdict == "not_one_error"


def test_a_sound_car_is_accused_in_about_one_of_twenty() -> None:
    rng = np.random.default_rng(11)
    slopes = rng.normal(size=(9, 30)) * 0.2
    root = np.linalg.cholesky(np.diag(rng.uniform(0.01, 0.05, 9)) + 0.02)
    verdicts = [
        explain(root @ rng.normal(size=9), root @ root.T, slopes, straight(slopes), most=25.0).verdict
        for _ in range(300)
    ]
    assert sum(one != "fits" for one in verdicts) <= 22  # 5 % of 300, and twice its deviation


def test_the_further_reading_is_the_one_that_tells_and_what_is_shared_is_taken_off() -> None:
    # two errors alike in what was read, at odds in the third reading, alike in the fourth
    slopes = np.array([[0.2, 0.2], [0.3, 0.3], [0.2, -0.2], [0.25, 0.25]])
    covariance = 0.01 * np.eye(4)
    covariance[0, 2] = covariance[2, 0] = 0.008  # read with the same fault as the first
    read = 5 * slopes[:2, 0] + [0.05, 0.0]
    told = explain(read, covariance[:2, :2], slopes[:2], straight(slopes), most=25.0)
    assert told.verdict == "cannot_tell"
    best, *more = one_more(told, read, covariance, slopes, [2, 3])
    assert (best.index, best.told, more) == (2, (1,), [])
    # by hand: size (0.2·1.05 + 0.3·1.5) / 0.13; the first reading's rest of it is carried over by 0.8
    size = (0.2 * 1.05 + 0.3 * 1.5) / 0.13
    carried = 0.8 * (1.05 - 0.2 * size)
    assert best.expected == pytest.approx({0: 0.2 * size + carried, 1: -0.2 * size + carried})
    assert best.sd == pytest.approx(sqrt(0.01 - 0.008**2 / 0.01))
    spread = [sign * 0.2 - 0.8 * 0.2 for sign in (1, -1)]
    variance = 0.01 - 0.0064 + sum(s * s for s in spread) * 0.01 / 0.13
    assert best.apart == pytest.approx((0.4 * size) ** 2 / variance)


def test_a_reading_with_no_deviation_is_refused() -> None:
    with pytest.raises(InputError, match="no deviation"):
        explain(np.ones(2), np.diag([0.0, 1.0]), np.ones((2, 1)), lambda _, s: np.full(2, s), most=25.0)
