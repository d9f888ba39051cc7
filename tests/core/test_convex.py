"""Distances of convex solids against closed forms, a general-purpose optimiser, and what must be true of any distance."""

from __future__ import annotations

import numpy as np
import pytest
from scipy.optimize import minimize

from tirante.core.geometry.convex import Bar, Cylinder, Prism, Solid, Wall, gap
from tirante.core.geometry.distance import segment_block, segments

X, Y, Z = (axis[:, None] for axis in np.eye(3))
BOX = np.array([(-10.0, -20.0), (10.0, -20.0), (10.0, 20.0), (-10.0, 20.0)])


def turned(rng: np.random.Generator) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    q, _ = np.linalg.qr(rng.normal(size=(3, 3)))
    return q[:, [0]], q[:, [1]], q[:, [2]] * np.sign(np.linalg.det(q))


def test_round_bars_are_as_far_apart_as_their_middle_lines_less_both_radii() -> None:
    rng = np.random.default_rng(1)
    ends = [rng.normal(size=(3, 300)) * 50 for _ in range(4)]
    found = gap(Bar(ends[0], ends[1], 2.0), Bar(ends[2], ends[3], 3.0), 300)
    assert found == pytest.approx(segments(*ends) - 5.0, abs=1e-3)
    assert (found < 0).any()  # down to where the middle lines meet


def test_a_bar_and_a_block_stand_apart_as_the_closed_form_has_it() -> None:
    rng = np.random.default_rng(2)
    p, q = (rng.normal(size=(3, 200)) * 40 for _ in range(2))
    axes = np.broadcast_to(np.eye(3)[:, :, None], (3, 3, 200))
    closed = segment_block(p, q, np.zeros((3, 200)), axes, np.array([10.0, 20.0, 5.0]))
    found = gap(Bar(p, q, 0.0), Prism(BOX, np.zeros((3, 1)), X, Y, Z, 5.0), 200)
    assert found == pytest.approx(closed, abs=2e-3)


@pytest.mark.parametrize(("at", "wanted"), [((0, 0, 9.0), 4.0 - 3.0), ((16.0, 0, 0), 6.0 - 4.0), ((0, 0, 7.0), 0.0)])
def test_a_bar_cut_square_is_nearest_by_its_end_or_by_its_side(at: tuple[float, ...], wanted: float) -> None:
    """Upright over the block its end counts, three millimetres below its middle; beside it its radius of four."""
    middle = np.array(at, float)[:, None]
    bar = Cylinder(middle - 3 * Z, middle + 3 * Z, 4.0)
    assert gap(bar, Prism(BOX, np.zeros((3, 1)), X, Y, Z, 5.0), 1)[0] == pytest.approx(wanted, abs=2e-3)


def test_a_tilted_disc_comes_as_near_to_a_face_as_half_its_width_and_its_radius_reach() -> None:
    tilt = np.radians(np.linspace(0.0, 60.0, 13))
    axis = np.stack([np.sin(tilt), 0 * tilt, np.cos(tilt)])
    disc = Cylinder(-4.0 * axis, 4.0 * axis, 15.0)
    reach = 4.0 * np.cos(tilt) + 15.0 * np.sin(tilt)
    assert gap(disc, Wall(-30.0 * Z, Z), 13) == pytest.approx(30.0 - reach, abs=1e-9)
    face = Prism(100 * BOX, -31.0 * Z, X, Y, Z, 1.0)
    assert gap(disc, face, 13) == pytest.approx(30.0 - reach, abs=2e-3)


def test_a_prism_and_a_cylinder_against_a_general_optimiser() -> None:
    """Sequential least squares over the shares of the corners and the place in the cylinder: it never comes nearer, and mostly as near."""
    rng = np.random.default_rng(3)
    compared = 0
    for _ in range(25):
        x, y, z = turned(rng)
        at, outline = rng.normal(size=(3, 1)) * 25, rng.normal(size=(6, 2)) * 10
        a = rng.normal(size=3) * 30
        b = a + rng.normal(size=3) * 30
        found = gap(Prism(outline, at, x, y, z, 4.0), Cylinder(a[:, None], b[:, None], 6.0), 1)[0]
        corners = np.array([(at + u * x + v * y + s * 4 * z)[:, 0] for u, v in outline for s in (1, -1)])
        run = (b - a) / np.linalg.norm(b - a)
        one = np.cross(run, np.eye(3)[int(np.argmin(np.abs(run)))])
        one /= np.linalg.norm(one)
        two, n = np.cross(run, one), len(corners)

        def apart(
            s: np.ndarray, corners: np.ndarray = corners, a: np.ndarray = a, b: np.ndarray = b, one: np.ndarray = one, two: np.ndarray = two, n: int = n
        ) -> float:  # fmt: skip
            return float((((s[:n] @ corners) - (a + s[n] * (b - a) + s[n + 1] * one + s[n + 2] * two)) ** 2).sum())

        best = minimize(
            apart, np.r_[np.ones(n) / n, 0.5, 0.0, 0.0], method="SLSQP", bounds=[(0, 1)] * (n + 1) + [(None, None)] * 2,
            constraints=[{"type": "eq", "fun": lambda s, n=n: s[:n].sum() - 1}, {"type": "ineq", "fun": lambda s, n=n: 36 - s[n + 1] ** 2 - s[n + 2] ** 2}],
            options={"maxiter": 500, "ftol": 1e-12},
        )  # fmt: skip
        share, beside = best.x[:n].sum(), np.hypot(best.x[n + 1], best.x[n + 2])
        if abs(share - 1.0) < 1e-6 and beside < 6.0 + 1e-6:  # two places, one in each: no nearer than the nearest
            other = np.sqrt(max(best.fun, 0.0))
            assert found <= other + 2e-3
            compared += abs(found - other) < 2e-3
    assert compared >= 15


def test_a_distance_is_the_same_both_ways_and_wherever_the_two_stand() -> None:
    rng = np.random.default_rng(4)
    for _ in range(20):
        x, y, z = turned(rng)
        move = rng.normal(size=(3, 1)) * 100
        a, b, at = (rng.normal(size=(3, 1)) * 30 for _ in range(3))
        frame = np.hstack([x, y, z])

        def made(turn: np.ndarray, shift: np.ndarray, a: np.ndarray = a, b: np.ndarray = b, at: np.ndarray = at) -> tuple[Solid, Solid]:  # fmt: skip
            prism = Prism(BOX, turn @ at + shift, turn @ X, turn @ Y, turn @ Z, 5.0)
            return Cylinder(turn @ a + shift, turn @ b + shift, 4.0), prism

        one, two = made(np.eye(3), np.zeros((3, 1)))
        here = gap(one, two, 1)[0]
        assert gap(two, one, 1)[0] == pytest.approx(here, abs=2e-3)
        assert gap(*made(frame, move), 1)[0] == pytest.approx(here, abs=2e-3)


def test_what_is_further_than_asked_is_told_as_further() -> None:
    rng = np.random.default_rng(5)
    a, b = (rng.normal(size=(3, 400)) * 60 for _ in range(2))
    bar, block = Cylinder(a, b, 5.0), Prism(BOX, np.zeros((3, 1)), X, Y, Z, 5.0)
    whole, some = gap(bar, block, 400), gap(bar, block, 400, enough=10.0)
    near = whole < 10.0
    assert near.any()
    assert not near.all()
    assert some[near] == pytest.approx(whole[near], abs=1e-6)
    assert (some[~near] >= 10.0 - 1e-3).all()
