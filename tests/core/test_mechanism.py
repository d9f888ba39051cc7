"""The mechanism solver: exact Jacobian, closed forms, invariants, and what it refuses."""

from copy import deepcopy
from math import cos, hypot, sin, sqrt

import numpy as np
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from tests.core.test_suspension import example
from tests.jobs import template_of
from tirante.bench import one_by_one
from tirante.core.errors import InputError
from tirante.core.mechanism.linear import plan_elimination, solve_many
from tirante.core.mechanism.model import (
    GROUND,
    Bush,
    Coincident,
    Constraint,
    Coordinate,
    Distance,
    Mark,
    Mechanism,
    OnLine,
    Parallel,
    Turned,
)
from tirante.core.mechanism.solve import CONVERGED, freedom, solve
from tirante.core.mechanism.system import System
from tirante.core.suspension.assemble import assemble_end

Y = (0.0, 1.0, 0.0)


def planar(name: str, at: tuple[float, float, float], a: str, b: str) -> list[Constraint]:
    """A hinge about y."""
    return [
        Coincident(name=name, a=Mark(a, at), b=Mark(b, at)),
        Parallel(name=f"{name} axis", body_a=a, body_b=b, axis=Y),
    ]


@pytest.mark.parametrize("twice", [False, True])
def test_the_jacobian_is_the_derivative_of_the_residuals(twice: bool) -> None:
    # every kind of constraint, between two moving bodies, far from the reference position
    marks = [(10.0, 20.0, 30.0), (-40.0, 15.0, 80.0), (70.0, -60.0, 5.0)]
    mechanism = Mechanism(
        bodies=("a", "b"),
        drivers=("d", "e"),
        constraints=(
            Distance(name="1", a=Mark("a", marks[0]), b=Mark("b", marks[1]), drive="d"),
            Distance(name="2", a=Mark("a", marks[2]), b=Mark(GROUND, marks[1], "e", (0.0, 0.6, 0.8))),
            Coincident(name="3", a=Mark("a", marks[1]), b=Mark("b", marks[1])),
            Parallel(name="4", body_a="a", body_b="b", axis=(1.0, 2.0, 3.0)),
            OnLine(name="5", mark=Mark("a", marks[0]), through=Mark("b", marks[2]), along=(3.0, -1.0, 2.0)),
            Coordinate(name="6", mark=Mark("b", marks[0]), along=(0.0, 0.0, 1.0), drive="d"),
            Turned(name="7", body="b", direction=(0.0, 1.0, 0.0), about=(1.0, 0.0, 0.0), drive="e"),
            # both marks on one body: it feels nothing
            *((Distance(name="8", a=Mark("b", marks[0]), b=Mark("b", marks[2])),) if twice else ()),
        ),
    )
    system, rng = System(mechanism), np.random.default_rng(3)
    poses, drives = system.reference(5), rng.normal(size=(2, 5))
    system.step(poses, rng.normal(size=(12, 5)) * 0.7)
    jacobian = np.empty((mechanism.equations, 12, 5))
    system.evaluate(poses, drives, jacobian)
    for j in range(12):
        step = np.zeros((12, 5))
        step[j] = 1e-6
        ahead, behind = deepcopy(poses), deepcopy(poses)
        system.step(ahead, step)
        system.step(behind, -step)
        slope = (system.evaluate(ahead, drives) - system.evaluate(behind, drives)) / 2e-6
        np.testing.assert_allclose(jacobian[:, j], slope, atol=2e-7)
    assert ((np.abs(jacobian) > 0).any(axis=2) <= system.pattern).all()


@settings(max_examples=30, deadline=None)
@given(st.integers(0, 10_000))
def test_planned_elimination_solves_what_lapack_solves(seed: int) -> None:
    rng = np.random.default_rng(seed)
    n, lanes = int(rng.integers(2, 14)), 7
    pattern = rng.random((n, n)) < 0.5
    pattern[np.arange(n), rng.permutation(n)] = True
    matrix = rng.normal(size=(n, n, lanes)) * pattern[:, :, None]
    rhs = rng.normal(size=(n, lanes))
    good = [lane for lane in range(lanes) if np.linalg.cond(matrix[:, :, lane]) < 1e8]
    assume(0 in good)
    x, singular, sign = solve_many(matrix, rhs, plan_elimination(matrix[:, :, 0], pattern))
    for lane in good:
        assert not singular[lane]
        assert sign[lane] == np.sign(np.linalg.det(matrix[:, :, lane]))
        np.testing.assert_allclose(matrix[:, :, lane] @ x[:, lane], rhs[:, lane], atol=1e-6)


def test_a_singular_lane_is_told_and_its_neighbours_are_solved() -> None:
    matrix = np.stack([np.eye(3), np.zeros((3, 3)), 2 * np.eye(3)], axis=2)
    x, singular, _ = solve_many(matrix, np.ones((3, 3)), plan_elimination(np.eye(3), np.ones((3, 3), dtype=bool)))
    assert singular.tolist() == [False, True, False]
    np.testing.assert_allclose(x[:, 2], 0.5)


# --- closed forms -------------------------------------------------------------------------------------------------------


def four_bar(crank: float, coupler: float, rocker: float, ground: float) -> tuple[Mechanism, float]:
    """A planar four-bar in x–z, crank along +x to begin with; and its rocker's angle then."""
    d = ground - crank
    x = (d * d + coupler * coupler - rocker * rocker) / (2 * d)
    p = (crank + x, 0.0, sqrt(coupler * coupler - x * x))
    a, o = (crank, 0.0, 0.0), (ground, 0.0, 0.0)
    constraints = [
        *planar("A0", (0.0, 0.0, 0.0), "crank", GROUND), *planar("A", a, "coupler", "crank"),
        *planar("B0", o, "rocker", GROUND), Coincident(name="B", a=Mark("coupler", p), b=Mark("rocker", p)),
        Turned(name="drive", body="crank", direction=(0.0, 0.0, 1.0), about=Y, drive="angle"),
    ]  # fmt: skip
    return Mechanism(bodies=("crank", "coupler", "rocker"), constraints=tuple(constraints), drivers=("angle",)), p[2]


def test_a_planar_four_bar_follows_its_closed_form() -> None:
    crank, coupler, rocker, ground = 60.0, 150.0, 120.0, 170.0
    mechanism, _ = four_bar(crank, coupler, rocker, ground)
    held = freedom(System(mechanism))
    assert held.degrees == 0
    assert held.redundant == 1  # hinges all parallel hold the linkage's plane once too often
    angles = np.radians(np.linspace(-100, 100, 41))
    # about +y a positive turn takes +x to −z; the crank's end then is at (r cos, −r sin)
    stiff = Mechanism(bodies=mechanism.bodies, constraints=_without_redundancy(mechanism), drivers=mechanism.drivers)
    solved = solve(stiff, angles[None, :])
    assert (solved.status == CONVERGED).all()
    for i, angle in enumerate(angles):
        ax, az = crank * cos(angle), -crank * sin(angle)
        dx, dz = ground - ax, -az
        d = hypot(dx, dz)
        along = (d * d + coupler**2 - rocker**2) / (2 * d)
        up = sqrt(coupler**2 - along**2)
        # the branch it was assembled in: to the left of the line from crank to ground
        bx, bz = ax + (along * dx - up * dz) / d, az + (along * dz + up * dx) / d
        b = next(c for c in stiff.constraints if c.name == "B")
        found = solved.system.where(solved.poses, b.mark, solved.drives)[:, i]  # type: ignore[union-attr]
        np.testing.assert_allclose(found, (bx, 0.0, bz), atol=1e-8)


def _without_redundancy(mechanism: Mechanism) -> tuple[Constraint, ...]:
    """B held in x and z only, and the rocker's hinge kept."""
    out: list[Constraint] = []
    for constraint in mechanism.constraints:
        if constraint.name == "B":
            assert isinstance(constraint, Coincident)
            out.append(OnLine(name="B", mark=constraint.a, through=constraint.b, along=Y))
        else:
            out.append(constraint)
    # the coupler's place along y is then held by its own hinge
    return tuple(out)


def test_a_slider_crank_follows_its_closed_form() -> None:
    r, length = 50.0, 160.0
    end = (r + length, 0.0, 0.0)
    mechanism = Mechanism(
        bodies=("crank", "rod"),
        drivers=("angle",),
        constraints=(
            *planar("main", (0.0, 0.0, 0.0), "crank", GROUND), *planar("pin", (r, 0.0, 0.0), "rod", "crank"),
            Coordinate(name="cylinder", mark=Mark("rod", end), along=(0.0, 0.0, 1.0)),
            Turned(name="drive", body="crank", direction=(0.0, 0.0, 1.0), about=Y, drive="angle"),
        ),
    )  # fmt: skip
    angles = np.radians(np.linspace(-170, 170, 69))
    solved = solve(mechanism, angles[None, :])
    assert (solved.status == CONVERGED).all()
    x = solved.system.where(solved.poses, Mark("rod", end), solved.drives)[0]
    np.testing.assert_allclose(x, r * np.cos(angles) + np.sqrt(length**2 - (r * np.sin(angles)) ** 2), atol=1e-8)


def test_three_lengths_place_a_point_where_three_spheres_meet() -> None:
    feet = [(0.0, 0.0, 0.0), (300.0, 0.0, 0.0), (80.0, 260.0, 0.0)]
    top = (120.0, 90.0, 200.0)
    constraints: list[Constraint] = [
        Distance(name=f"leg {i}", a=Mark("body", top), b=Mark(GROUND, foot), drive="lengthen" if i == 0 else None)
        for i, foot in enumerate(feet)
    ]
    constraints += [
        Parallel(name="upright", body_a="body", body_b=GROUND, axis=(0.0, 0.0, 1.0)),
        Turned(name="square", body="body", direction=(0.0, 1.0, 0.0), about=(0.0, 0.0, 1.0)),
    ]
    solved = solve(
        Mechanism(bodies=("body",), constraints=tuple(constraints), drivers=("lengthen",)),
        np.array([[-20.0, 0.0, 35.0]]),
    )
    found = solved.system.where(solved.poses, Mark("body", top), solved.drives)
    l0, l1, l2 = (float(np.linalg.norm(np.subtract(top, foot))) for foot in feet)
    for i, extra in enumerate((-20.0, 0.0, 35.0)):
        a = l0 + extra
        x = (a * a - l1 * l1 + 300.0**2) / 600.0
        y = (a * a - l2 * l2 + 80.0**2 + 260.0**2 - 2 * 80.0 * x) / (2 * 260.0)
        np.testing.assert_allclose(found[:, i], (x, y, sqrt(a * a - x * x - y * y)), atol=1e-8)


def test_a_watts_linkage_leaves_its_line_by_the_known_error() -> None:
    # equal arms R, rocker half-length h, arms square to it: x ≈ ± … the error of order (z/R)³; against the exact circles
    arm, half = 300.0, 60.0
    high, low = (0.0, 0.0, half), (0.0, 0.0, -half)
    mechanism = Mechanism(
        bodies=("rocker",),
        drivers=("lift",),
        constraints=(
            Distance(name="left", a=Mark("rocker", high), b=Mark(GROUND, (0.0, arm, half))),
            Distance(name="right", a=Mark("rocker", low), b=Mark(GROUND, (0.0, -arm, -half))),
            Parallel(name="plane", body_a="rocker", body_b=GROUND, axis=(1.0, 0.0, 0.0)),
            Coordinate(name="x", mark=Mark("rocker", (0.0, 0.0, 0.0)), along=(1.0, 0.0, 0.0)),
            Coordinate(name="lift", mark=Mark("rocker", (0.0, 0.0, 0.0)), along=(0.0, 0.0, 1.0), drive="lift"),
        ),
    )
    lifts = np.array([[-80.0, -40.0, 0.0, 40.0, 80.0]])
    solved = solve(mechanism, lifts)
    y = solved.system.where(solved.poses, Mark("rocker", (0.0, 0.0, 0.0)), solved.drives)[1]
    top, bottom = (solved.system.where(solved.poses, Mark("rocker", m), solved.drives) for m in (high, low))
    np.testing.assert_allclose(np.hypot(top[1] - arm, top[2] - half), arm, atol=1e-8)
    np.testing.assert_allclose(np.hypot(bottom[1] + arm, bottom[2] + half), arm, atol=1e-8)
    np.testing.assert_allclose(y, -y[::-1], atol=1e-9)  # odd in the lift
    panhard = 2 * arm - np.sqrt((2 * arm) ** 2 - lifts[0] ** 2)
    assert (np.abs(y[lifts[0] != 0]) < 0.1 * panhard[lifts[0] != 0]).all()


# --- what it tells -----------------------------------------------------------------------------------------------------


def test_what_nothing_holds_is_named() -> None:
    free = Mechanism(bodies=("arm", "hub"), constraints=tuple(planar("pivot", (0.0, 0.0, 0.0), "arm", GROUND)))
    with pytest.raises(InputError) as caught:
        solve(free, np.zeros((0, 1)))
    assert caught.value.code == "under_constrained"
    assert set(caught.value.fields) == {"arm", "hub"}


def test_a_travel_that_cannot_be_reached_is_told_and_the_rest_is_solved() -> None:
    # a 100 mm link cannot let its end rise 150 mm
    mechanism = Mechanism(
        bodies=("arm",),
        drivers=("rise",),
        constraints=(
            *planar("pivot", (0.0, 0.0, 0.0), "arm", GROUND),
            Coordinate(name="rise", mark=Mark("arm", (100.0, 0.0, 0.0)), along=(0.0, 0.0, 1.0), drive="rise"),
        ),
    )
    rises = np.array([[-150.0, -99.0, -50.0, 0.0, 50.0, 99.0, 150.0]])
    solved = solve(mechanism, rises)
    assert (solved.status[[0, -1]] != CONVERGED).all()
    assert (solved.status[1:-1] == CONVERGED).all()
    x = solved.system.where(solved.poses, Mark("arm", (100.0, 0.0, 0.0)), solved.drives)[0]
    np.testing.assert_allclose(x[1:-1], np.sqrt(100.0**2 - rises[0, 1:-1] ** 2), atol=1e-7)


def test_a_redundant_bar_shares_by_stiffness() -> None:
    # one bar pulled between two springs along a line: the middle settles where their forces are equal
    def bar(k: float, name: str, x: float, drive: str | None) -> Distance:
        return Distance(
            name=name, a=Mark("block", (0.0, 0.0, 0.0)), b=Mark(GROUND, (x, 0.0, 0.0)), stiffness=k, drive=drive
        )

    mechanism = Mechanism(
        bodies=("block",),
        drivers=("stretch",),
        constraints=(
            bar(300.0, "left", -100.0, None), bar(100.0, "right", 100.0, "stretch"),
            Coordinate(name="y", mark=Mark("block", (0.0, 0.0, 0.0)), along=Y),
            Coordinate(name="z", mark=Mark("block", (0.0, 0.0, 0.0)), along=(0.0, 0.0, 1.0)),
            Parallel(name="level", body_a="block", body_b=GROUND, axis=(0.0, 0.0, 1.0)),
            Turned(name="square", body="block", direction=(0.0, 1.0, 0.0), about=(0.0, 0.0, 1.0)),
        ),
    )  # fmt: skip
    solved = solve(mechanism, np.array([[0.0, 4.0]]))
    assert (solved.status == CONVERGED).all()
    x = solved.system.where(solved.poses, Mark("block", (0.0, 0.0, 0.0)), solved.drives)[0]
    assert x == pytest.approx([0.0, -1.0], abs=1e-8)  # 4 mm shared 1 : 3, the stiffer gives the less
    assert solved.bind is not None
    forces = solved.bind[:2, 1] * solved.system.stiffness[:2]
    assert forces == pytest.approx([-300.0, -300.0], abs=1e-5)  # both pushed by 300 N


def test_a_sweep_returns_to_where_it_began() -> None:
    mechanism, _ = four_bar(60.0, 150.0, 120.0, 170.0)
    stiff = Mechanism(bodies=mechanism.bodies, constraints=_without_redundancy(mechanism), drivers=mechanism.drivers)
    out = solve(stiff, np.array([[1.2]]))
    back = solve(stiff, np.array([[0.0]]), start=out.poses)
    np.testing.assert_allclose(back.poses.r, 0.0, atol=1e-8)
    np.testing.assert_allclose(back.poses.R[:, :, :, 0], np.broadcast_to(np.eye(3), (3, 3, 3)), atol=1e-10)


def _raised_arm(soft: bool) -> Mechanism:
    """An arm of 100 mm that stands 60° up, its end's height driven; with a strut that yields it is redundant."""
    end = (50.0, 0.0, 50.0 * sqrt(3.0))
    strut = Distance(name="strut", a=Mark("arm", end), b=Mark(GROUND, (150.0, 0.0, -40.0)), stiffness=500.0)
    return Mechanism(
        bodies=("arm",),
        drivers=("rise",),
        constraints=(
            *planar("pivot", (0.0, 0.0, 0.0), "arm", GROUND), *([strut] if soft else []),
            Coordinate(name="rise", mark=Mark("arm", end), along=(0.0, 0.0, 1.0), drive="rise"),
        ),
    )  # fmt: skip


@pytest.mark.parametrize("soft", [False, True])
def test_what_is_reached_by_a_leap_is_followed_from_where_it_stands_or_told(soft: bool) -> None:
    # at every height the arm could stand to the right or, past straight up or down, to the left
    height = np.linspace(-130.0, 130.0, 521)
    solved = solve(_raised_arm(soft), height[None, :] - 50.0 * sqrt(3.0))
    x = solved.system.where(solved.poses, Mark("arm", (50.0, 0.0, 50.0 * sqrt(3.0))), solved.drives)[0]
    good = solved.status == CONVERGED
    assert not good[np.abs(height) > 100.001].any()
    np.testing.assert_allclose(x[good], np.sqrt(100.0**2 - height[good] ** 2), atol=1e-3)  # to the right
    assert good[np.abs(height) < 98.0].all()


def test_a_four_bar_with_a_bush_for_a_pin_keeps_to_its_own_side_all_the_way_round() -> None:
    # a crank that goes round, its coupler's pin in a bush: redundant across the plane, so no determinant tells its sides apart
    a, b, c, d = 60.0, 150.0, 120.0, 170.0

    def pin(crank: float) -> tuple[float, float]:
        """Where coupler and rocker meet: two circles, always on the same side of the line between their centres."""
        ax, az = a * cos(crank), a * sin(crank)
        r, way = hypot(d - ax, az), np.arctan2(-az, d - ax)
        angle = way + np.arccos((b * b + r * r - c * c) / (2 * b * r))
        return ax + b * cos(angle), az + b * sin(angle)

    first = 0.4
    at = (pin(first)[0], 0.0, pin(first)[1])
    mechanism = Mechanism(
        bodies=("crank", "coupler", "rocker"),
        drivers=("turn",),
        constraints=(
            *planar("main", (0.0, 0.0, 0.0), "crank", GROUND), *planar("crank pin", (a * cos(first), 0.0, a * sin(first)), "coupler", "crank"),
            *planar("rocker pivot", (d, 0.0, 0.0), "rocker", GROUND),
            Bush(name="bush", a=Mark("coupler", at), b=Mark("rocker", at), axis=Y, radial=1000.0, axial=500.0),
            Turned(name="drive", body="crank", direction=(cos(first), 0.0, sin(first)), about=Y, drive="turn"),
        ),
    )  # fmt: skip
    turns = np.linspace(-2.5, 2.5, 51)
    solved = solve(mechanism, turns[None, :])
    assert (solved.status == CONVERGED).all()
    found = solved.system.where(solved.poses, Mark("rocker", at), solved.drives)
    # a turn about y that is positive takes z to x
    np.testing.assert_allclose(found[[0, 2]].T, [pin(first - turn) for turn in turns], atol=1e-5)


@pytest.mark.parametrize("soft", [False, True])
def test_a_position_is_the_same_whatever_else_is_asked_for(soft: bool) -> None:
    drives = np.linspace(-190.0, 12.0, 65)
    together, backward = (solve(_raised_arm(soft), one) for one in (drives[None, :], drives[None, ::-1]))
    assert (backward.status[::-1] == together.status).all()
    good = together.status == CONVERGED
    np.testing.assert_array_equal(backward.poses.r[..., ::-1][..., good], together.poses.r[..., good])
    for i in range(0, 65, 5):
        alone = solve(_raised_arm(soft), drives[None, i : i + 1])
        assert alone.status[0] == together.status[i]
        if good[i]:
            np.testing.assert_array_equal(alone.poses.r[..., 0], together.poses.r[..., i])


@pytest.mark.parametrize("name", ["double-wishbone", "four-links-watts-axle"])
def test_a_general_optimiser_finds_the_same_positions(name: str) -> None:
    """scipy's least_squares on the residuals alone, one position after another, as the bench times it."""
    end = example(name)
    mechanism = assemble_end(template_of(end), end).mechanism
    drives = np.zeros((len(mechanism.drivers), 4))
    drives[0] = [5.0, 15.0, 25.0, 35.0]
    drives[-1] += np.radians([0.0, 0.4, 0.8, 1.2]) if name != "double-wishbone" else np.array([0.0, 2.0, 4.0, 6.0])
    _, found = one_by_one(name, drives)
    done = solve(mechanism, drives)
    assert (done.status == CONVERGED).all()
    for i, origins in enumerate(found):
        ours = done.system.origins + done.poses.r[:, :, i]
        np.testing.assert_allclose(origins, ours, atol=1e-4)
