"""Left or right: mirror images, and the signed figure that tells them apart."""

from __future__ import annotations

from dataclasses import replace
from math import cos, radians, sin, sqrt

import numpy as np
import pytest
from numpy.typing import NDArray

from tirante.core.jigs.features import Features, Held
from tirante.core.jigs.handed import own_mirror, places_to_measure, signed_figure, signed_height

Array = NDArray[np.float64]


def held(
    name: str, at: tuple[float, float, float], axis: tuple[float, float, float], *, directed: bool = False, wide: float = 40.0
) -> Held:  # fmt: skip
    way = np.array(axis) / np.linalg.norm(axis)
    return Held(name=name, at=at, axis=(float(way[0]), float(way[1]), float(way[2])), directed=directed, bore=12.0, wide=wide, outside=40.0, what="sleeve")  # fmt: skip


def link(clock_deg: float, *, second: float = 40.0) -> tuple[Held, ...]:
    t = radians(clock_deg)
    return held("A", (0.0, 0.0, 0.0), (0.0, 1.0, 0.0)), held("B", (400.0, 0.0, 0.0), (0.0, cos(t), sin(t)), wide=second)


ARM = (
    held("front", (100.0, 300.0, 200.0), (1.0, 0.0, 0.0)), held("rear", (-180.0, 300.0, 200.0), (1.0, 0.0, 0.0)),
    held("ball", (20.0, 640.0, 190.0), (0.0, 0.1, 1.0), directed=True),
)  # fmt: skip


def turned(points: Array, seed: int) -> Array:
    """Points turned and moved at random, never mirrored."""
    rng = np.random.default_rng(seed)
    q, r = np.linalg.qr(rng.normal(size=(3, 3)))
    q = q * np.sign(np.diag(r))
    if np.linalg.det(q) < 0:
        q[:, 0] = -q[:, 0]
    return points @ q.T + rng.normal(size=3) * 100


def test_the_height_of_a_regular_tetrahedron_is_its_edge_times_the_root_of_two_thirds() -> None:
    a, b, c = np.zeros(3), np.array([90.0, 0.0, 0.0]), np.array([45.0, 45.0 * sqrt(3), 0.0])
    d = np.array([45.0, 15.0 * sqrt(3), 90.0 * sqrt(2 / 3)])
    assert signed_height(a, b, c, d) == pytest.approx(90.0 * sqrt(2 / 3))
    assert signed_height(a, c, b, d) == pytest.approx(-90.0 * sqrt(2 / 3))


@pytest.mark.parametrize(
    ("clock", "alike"), [(0.0, True), (90.0, True), (180.0, True), (30.0, False), (-30.0, False), (89.0, False)]
)
def test_a_link_is_its_own_mirror_image_only_with_its_bolts_parallel_or_square(clock: float, alike: bool) -> None:
    assert (own_mirror(link(clock)) is not None) is alike


def test_a_stud_makes_an_arm_handed_and_a_bore_through_it_does_not() -> None:
    assert own_mirror(ARM) is None
    # the same bore without a stud, square to the plane of its pivots: turned over it is the other hand
    flat = (replace(ARM[0]), replace(ARM[1]), held("ball", (20.0, 640.0, 200.0), (0.0, 0.0, 1.0)))
    assert own_mirror(flat) is not None
    # leaning outward in that plane's own mirror plane it is still one; leaning along the car it is not
    assert own_mirror((*flat[:2], held("ball", (-40.0, 640.0, 200.0), (0.0, 0.3, 1.0)))) is not None
    assert own_mirror((*flat[:2], held("ball", (20.0, 640.0, 200.0), (0.3, 0.1, 1.0)))) is None


def test_pivots_of_one_width_may_change_over_and_those_of_two_may_not() -> None:
    """An arm as long in front as behind, its stud up: its mirror image is itself, front for rear."""
    even = (
        held("front", (150.0, 300.0, 200.0), (1.0, 0.0, 0.0)), held("rear", (-150.0, 300.0, 200.0), (1.0, 0.0, 0.0)),
        held("ball", (0.0, 640.0, 190.0), (0.0, 0.1, 1.0), directed=True),
    )  # fmt: skip
    assert own_mirror(even) == ((0, 1), (1, 0), (2, 2))
    assert own_mirror((even[0], replace(even[1], wide=60.0), even[2])) is None


@pytest.mark.parametrize("seed", range(6))
def test_the_signed_figure_is_the_same_wherever_the_part_lies_and_turns_its_sign_on_the_wrong_hand(seed: int) -> None:
    figure = signed_figure(ARM, 0.5)
    assert figure is not None
    places = {one.words: one.at for one in places_to_measure(ARM)}
    named = [places[name] for name in (*figure.plane, figure.fourth)]
    assert signed_height(*turned(np.array(named), seed)) == pytest.approx(figure.height)
    other = {one.words: one.at for one in places_to_measure(Features(held=ARM).mirrored().held)}
    wrong = turned(np.array([other[name] for name in (*figure.plane, figure.fourth)]), seed)
    assert signed_height(*wrong) == pytest.approx(-figure.height)
    assert figure.height > 3 * figure.tolerance > 0


def test_the_tolerance_of_a_signed_figure_is_what_four_places_all_the_worst_way_make_of_it() -> None:
    figure = signed_figure(ARM, 0.5)
    assert figure is not None
    places = {one.words: one.at for one in places_to_measure(ARM)}
    named = [places[name] for name in (*figure.plane, figure.fourth)]
    normal = np.cross(named[1] - named[0], named[2] - named[0])
    normal = normal / np.linalg.norm(normal)
    reached = max(
        abs(signed_height(*[p + 0.5 * s * normal for p, s in zip(named, signs, strict=True)]) - figure.height)
        for signs in np.array(np.meshgrid(*[[-1, 1]] * 4)).T.reshape(-1, 4)
    )
    assert figure.tolerance == pytest.approx(reached, rel=0.01)


@pytest.mark.parametrize("clock", [30.0, -30.0, 60.0])
def test_the_bolts_of_a_clocked_link_tell_its_hand_whichever_end_is_taken(clock: float) -> None:
    """By hand: over the plane of the link and bolt A, the end of bar B beside it stands 100 mm · sin of the clocking; the wrong hand's as far under it."""
    figure = signed_figure(link(clock), 0.5)
    assert figure is not None
    assert figure.height == pytest.approx(100.0 * abs(sin(radians(clock))))
    assert "either end" in " ".join(figure.plane)
    # the plane's middles are told the other way round on the other hand, so that it is above on both
    other = signed_figure(link(-clock), 0.5)
    assert other is not None
    assert other.plane != figure.plane


def test_bolts_that_lean_toward_one_another_are_known_by_which_end_is_nearer() -> None:
    leaning = (held("A", (0.0, 0.0, 0.0), (0.3, 1.0, 0.0)), held("B", (400.0, 0.0, 0.0), (0.3, 0.8, 0.6)))
    assert own_mirror(leaning) is None
    figure = signed_figure(leaning, 0.5)
    assert figure is not None
    assert "nearer to" in figure.fourth + "".join(figure.plane)
