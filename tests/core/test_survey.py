"""A car measured: nets against closed forms and scipy, slips that were put in, what is free, what could be mirrored, what to measure next.

Sources of what is checked against: the closed form of each small net by hand; scipy.optimize.least_squares (a general-purpose
library); Ghilani, *Adjustment Computations*, trilateration example (data from memory); Baarda's figures for one reading taken
again and again.
"""

from __future__ import annotations

from dataclasses import replace
from itertools import combinations
from math import atan2, cos, degrees, pi, radians, sin, sqrt

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.optimize import approx_fprime, least_squares
from scipy.stats import norm

from tirante.core.errors import InputError
from tirante.core.survey.ellipse import ellipse
from tirante.core.survey.measure_next import Possible, can_be_taken, measure_next, worst_point
from tirante.core.survey.mirrored import mirrored
from tirante.core.survey.net import Net, adjust, critical
from tirante.core.survey.readings import (
    Distance,
    Inclination,
    InView,
    Kind,
    Offset,
    Reading,
    Sum,
    ToFace,
    ToLine,
)
from tirante.core.survey.slips import slips
from tirante.core.survey.suspects import look

NAMES = ("a", "b", "c")
KINDS: tuple[Kind, ...] = (
    Distance(one="a", other="b"),
    Offset(point="a", axis="y", plane=12.0),
    Offset(point="a", axis="z", off="c"),
    ToLine(point="a", one="b", other="c"),
    ToFace(point="a", face="b", out="c"),
    Inclination(one="a", other="b"),
    InView(one="a", other="b", view="side"),
    InView(one="a", other="b", view="top"),
    Sum(terms=((1.0, InView(one="a", other="b", view="front")), (-2.0, InView(one="b", other="c", view="front")))),
)


def read(name: str, of: Kind, value: float, sd: float = 1.0, set_up: str = "") -> Reading:
    return Reading(id=name, of=of, value=value, sd=sd, set_up=set_up)


@pytest.mark.parametrize("kind", KINDS, ids=[f"{i} {type(kind).__name__}" for i, kind in enumerate(KINDS)])
def test_slopes_are_those_of_the_reading_itself(kind: Kind) -> None:
    rng = np.random.default_rng(4)
    for _ in range(5):
        at = rng.uniform(-400, 400, (3, 3))

        def value(flat: np.ndarray) -> float:
            return kind.at(dict(zip(NAMES, flat.reshape(3, 3), strict=True)))[0]

        slopes = kind.at(dict(zip(NAMES, at, strict=True)))[1]
        whole = np.concatenate([slopes.get(name, np.zeros(3)) for name in NAMES])
        assert whole == pytest.approx(approx_fprime(at.ravel(), value, 1e-4), abs=2e-5)


def test_readings_of_known_places_are_what_a_hand_would_read() -> None:
    # b is 300 ahead, 400 to the left and 1200 over a: a box's long diagonal 1300; the rest by the right triangles in it
    at = {"a": np.zeros(3), "b": np.array([300.0, 400.0, 1200.0]), "c": np.array([300.0, 400.0, 0.0])}
    of = {type(one).__name__ + getattr(one, "view", ""): one for one in KINDS}
    assert of["Distance"].at(at)[0] == pytest.approx(1300)
    assert degrees(of["Inclination"].at(at)[0]) == pytest.approx(degrees(atan2(1200, 500)))
    assert degrees(InView(one="a", other="b", view="top").at(at)[0]) == pytest.approx(53.1301, abs=1e-4)
    assert degrees(InView(one="a", other="b", view="side").at(at)[0]) == pytest.approx(75.9638, abs=1e-4)
    assert ToLine(point="a", one="b", other="c").at(at)[0] == pytest.approx(500)
    assert ToFace(point="a", face="c", out="b").at(at)[0] == pytest.approx(0)
    assert ToFace(point="b", face="a", out="c").at(at)[0] == pytest.approx(500)
    assert Offset(point="b", axis="z", off="a").at(at)[0] == 1200
    # an angle near half a turn does not jump
    assert InView(one="b", other="a", view="top", about=pi + 1).at(at)[0] == pytest.approx(
        pi + radians(53.1301), abs=1e-5
    )


def test_heights_over_a_floor_are_a_levelling_net_with_its_closed_form() -> None:
    # z1 = 100 ± 1, z2 = 203 ± 2, z2 − z1 = 100 ± 1: minimise by hand
    # d/dz1: (z1 − 100) − (z2 − z1 − 100) = 0; d/dz2: (z2 − 203)/4 + (z2 − z1 − 100) = 0  →  z1 = 100.5, z2 = 201
    readings = (
        read("one", Offset(point="a", axis="z"), 100.0, 1.0),
        read("two", Offset(point="b", axis="z"), 203.0, 2.0),
        read("step", Offset(point="b", axis="z", off="a"), 100.0, 1.0),
        *(read(f"{n}{x}", Offset(point=n, axis=x), 0.0, 1.0) for n in "ab" for x in "xy"),
    )
    found = adjust(Net(datum={}, approximate={"a": np.zeros(3), "b": np.ones(3)}, readings=readings))
    assert found.points["a"] == pytest.approx([0, 0, 100.5])
    assert found.points["b"] == pytest.approx([0, 0, 201.0])
    assert found.dof == 1
    assert found.s0 == pytest.approx(sqrt(0.5**2 + 1.0**2 + 0.5**2))  # 0.5/1, −2/2, 0.5/1
    # the three close a loop: each residual's share goes as its variance, 1 : 4 : 1 of 6
    assert [one.redundancy for one in found.checked[:3]] == pytest.approx([1 / 6, 4 / 6, 1 / 6])
    assert [abs(one.normalised or 0) for one in found.checked[:3]] == pytest.approx([3 / sqrt(6)] * 3)
    assert found.checked[1].slip == pytest.approx(203 - 200)  # the two others say 200
    assert all(one.normalised is None for one in found.checked[3:])  # nothing checks them
    assert found.sd("a") == pytest.approx([1, 1, sqrt(5 / 6)])


def test_a_reading_taken_again_and_again_and_one_held_again_and_again() -> None:
    def of(set_up: str) -> tuple[float, float, list[float]]:
        readings = [read(f"r{i}", Offset(point="a", axis="z"), 100.0 + i, 2.0, set_up) for i in range(4)]
        rest = [read(x, Offset(point="a", axis=x), 0.0) for x in "xy"]
        found = adjust(Net(datum={}, approximate={"a": np.zeros(3)}, readings=(*readings, *rest)))
        return float(found.points["a"][2]), float(found.sd("a")[2]), [one.redundancy for one in found.checked]

    # four set-ups: the mean, half as unsure; each is checked by three quarters (Baarda: 1 − 1/n)
    z, sd, shares = of("")
    assert (z, sd, *shares[:4]) == pytest.approx((101.5, 1.0, *[0.75] * 4))
    # four readings of one set-up share its error: their mean is as unsure as one, and nothing checks it
    z, sd, shares = of("square at the front")
    assert (z, sd, shares[0]) == pytest.approx((101.5, 2.0, 0.0))
    assert len(shares) == 3


def test_distances_from_three_known_points_as_scipy_finds_them() -> None:
    # Ghilani, Adjustment Computations: station U by distances from A, B and C (data from memory), flat, in its own unit
    datum = {"A": (865.40, 4527.15), "B": (2432.55, 2047.25), "C": (2865.22, 27.15)}
    read_off = {"A": 6049.00, "B": 4736.83, "C": 5446.49}

    def missing(at: np.ndarray) -> list[float]:
        return [float(np.hypot(*(at - np.array(datum[name])))) - far for name, far in read_off.items()]

    wanted = least_squares(missing, np.array([6930.0, 3300.0]), xtol=1e-14, gtol=1e-14, ftol=1e-14)
    flat = {name: np.array([*at, 0.0]) for name, at in datum.items()}
    readings = (
        *(read(name, Distance(one=name, other="U"), far) for name, far in read_off.items()),
        read("flat", Offset(point="U", axis="z"), 0.0),
    )
    found = adjust(Net(datum=flat, approximate={"U": np.array([6900.0, 3200.0, 0.0])}, readings=readings))
    assert found.points["U"][:2] == pytest.approx(wanted.x, abs=1e-6)
    assert found.s0 == pytest.approx(sqrt(2 * wanted.cost), rel=1e-6)
    jac = wanted.jac
    assert found.covariance[:2, :2] == pytest.approx(np.linalg.inv(jac.T @ jac), rel=1e-5)


def car(rng: np.random.Generator, points: int = 25) -> dict[str, np.ndarray]:
    """Points of a car's end: both sides, from sill to strut tower."""
    return {f"p{i}": rng.uniform((-400, -700, 100), (400, 700, 900)) for i in range(points)}


def net_of(rng: np.random.Generator, slip: bool) -> tuple[Net, str | None, dict[str, np.ndarray]]:
    """A random net of 25 points and 150 readings with a mean redundancy of at least a half; one slip of 6 σ/√r where something checks it."""
    true = car(rng)
    names = list(true)
    kinds: list[tuple[Kind, float]] = []
    for name in names:
        kinds += [(Offset(point=name, axis=axis), 1.5) for axis in ("x", "y", "z") if rng.random() < 0.75]  # type: ignore[arg-type]
    pairs = list(combinations(names, 2))
    order = [pairs[i] for i in rng.permutation(len(pairs))]
    kinds += [(Distance(one=a, other=b), 1.0) for a, b in order[: 150 - len(kinds)]]
    readings = tuple(
        read(f"r{i}", of, of.at(true)[0] + sd * float(rng.standard_normal()), sd) for i, (of, sd) in enumerate(kinds)
    )
    near = {name: at + rng.uniform(-30, 30, 3) for name, at in true.items()}
    net = Net(datum={}, approximate=near, readings=readings)
    if not slip:
        return net, None, true
    clean = adjust(net)
    assert np.mean([one.redundancy for one in clean.checked]) >= 0.5 - 1e-9
    can = [i for i, one in enumerate(clean.checked) if one.redundancy > 0.3]
    i = can[int(rng.integers(len(can)))]
    size = 6 * readings[i].sd / sqrt(clean.checked[i].redundancy) * (1 if rng.random() < 0.5 else -1)
    spoiled = replace(readings[i], value=readings[i].value + size)
    return replace(net, readings=(*readings[:i], spoiled, *readings[i + 1 :])), readings[i].id, true


def test_a_slip_is_named_and_a_clean_net_is_not_accused() -> None:
    rng = np.random.default_rng(20261201)
    named = 0
    for _ in range(100):
        net, bad, _ = net_of(rng, slip=True)
        suspects = look(net).suspects
        named += bool(suspects) and suspects[0].ids == (bad,)
    accused = sum(bool(look(net_of(rng, slip=False)[0]).suspects) for _ in range(100))
    assert named >= 95
    assert accused <= 7


def test_a_gross_slip_is_set_aside_before_anything_is_linearised() -> None:
    # an inch taken for a millimetre throws a point a metre off; all others stay where they were, and its right figure is told
    rng = np.random.default_rng(8)
    net, _, true = net_of(rng, slip=False)
    i = next(i for i, one in enumerate(net.readings) if isinstance(one.of, Distance))
    bad = net.readings[i]
    spoiled = replace(bad, value=bad.value * 25.4)
    found = look(replace(net, readings=(*net.readings[:i], spoiled, *net.readings[i + 1 :])))
    assert [one.ids for one in found.suspects] == [(bad.id,)]
    assert found.suspects[0].expected == pytest.approx(bad.of.at(true)[0], abs=6)
    alone = adjust(replace(net, readings=(*net.readings[:i], *net.readings[i + 1 :])))
    for name in true:
        assert found.good.points[name] == pytest.approx(alone.points[name], abs=1e-5)
    assert found.good.fits


def test_what_is_said_of_a_suspect_is_what_the_others_say() -> None:
    # by itself: adjusted without it, computed, and how surely, with both their variances
    rng = np.random.default_rng(12)
    net, bad, _ = net_of(rng, slip=True)
    found = look(net).suspects[0]
    one = next(one for one in net.readings if one.id == bad)
    rest = adjust(replace(net, readings=tuple(other for other in net.readings if other.id != bad)))
    whole = next(other for other in adjust(net).checked if other.ids == (bad,))
    assert found.expected == pytest.approx(one.of.at(rest.points)[0], abs=1e-6)
    assert found.read - found.expected == pytest.approx(
        whole.slip, rel=0.01
    )  # the same by the redundancy, nearly linear
    assert found.off_sd == pytest.approx(whole.slip_sd, rel=0.01)
    # how surely the others say it: the spread of that figure over their covariance
    slopes = np.zeros(3 * len(rest.names))
    for name, slope in one.of.at(rest.points)[1].items():
        i = 3 * rest.names.index(name)
        slopes[i : i + 3] += slope
    assert found.expected_sd == pytest.approx(sqrt(slopes @ rest.covariance @ slopes), rel=1e-6)


def test_readings_that_no_residual_tells_apart_are_named_together() -> None:
    # a point p by three heights: two readings of one height disagree, and nothing says which is off; of three it is told
    rest = [read(x, Offset(point="p", axis=x), 0.0) for x in "xy"]  # type: ignore[arg-type]

    def of(*values: float) -> list[tuple[tuple[str, ...], tuple[str, ...]]]:
        heights = [read(f"z{i}", Offset(point="p", axis="z"), value) for i, value in enumerate(values)]
        found = look(Net(datum={}, approximate={"p": np.zeros(3)}, readings=(*heights, *rest)))
        return [(one.ids, one.twins) for one in found.suspects]

    assert [{*ids, *twins} for ids, twins in of(100.0, 108.0)] == [{"z0", "z1"}]
    assert of(100.0, 108.0, 100.2) == [(("z1",), ())]


def test_known_deviations_by_baarda_and_ratios_by_pope() -> None:
    # Šidák at 150 tests: each at 1 − 0.95^(1/150); two readings make a tau that nothing can exceed, √dof
    assert critical(150, 75, True) == pytest.approx(norm.ppf(1 - (1 - 0.95 ** (1 / 150)) / 2))
    assert critical(1, 10**6, False) == pytest.approx(1.95996, abs=1e-3)
    assert 1.0 < critical(20, 3, False) < sqrt(3)
    rng = np.random.default_rng(3)
    net, _, _ = net_of(rng, slip=False)
    once = adjust(net)
    wide = tuple(replace(one, sd=10 * one.sd) for one in net.readings)
    ratio = adjust(replace(net, readings=wide, sds_known=False))
    plain = adjust(replace(net, sds_known=False))
    # ratios alone count: ten times the deviations change neither tau nor how surely a point is told to be known
    assert [one.normalised for one in ratio.checked] == pytest.approx([one.normalised for one in plain.checked])
    assert ratio.sd("p3") == pytest.approx(plain.sd("p3"))
    assert plain.sd("p3") == pytest.approx(once.sd("p3") * once.s0)


def test_what_the_datum_leaves_free_is_found_and_named() -> None:
    # three distances between three points: their shape is known, and six motions of it are free
    true = {"a": np.zeros(3), "b": np.array([300.0, 0, 0]), "c": np.array([0.0, 400, 0])}
    readings = tuple(
        read(a + b, Distance(one=a, other=b), float(np.linalg.norm(true[a] - true[b])) + 0.5)
        for a, b in combinations(true, 2)
    )
    found = adjust(Net(datum={}, approximate=true, readings=readings))
    assert (len(found.free), found.dof) == (6, 0)
    assert all(found.moves(name).all() for name in true)
    assert np.isinf(found.sd("a")).all()
    # two fixed points leave a third that is measured from both one motion: round their line, up here
    round_ = adjust(
        Net(datum={"a": true["a"], "c": true["c"]}, approximate={"b": true["b"]}, readings=(readings[0], readings[2]))
    )
    assert len(round_.free) == 1
    assert round_.moves("b").tolist() == [False, False, True]
    assert np.isfinite(round_.sd("b")[:2]).all()


def test_a_point_measured_from_three_others_may_stand_on_either_side_of_them() -> None:
    datum = {"a": np.zeros(3), "b": np.array([500.0, 0, 0]), "c": np.array([0.0, 500, 0])}
    true = np.array([150.0, 200.0, 300.0])
    readings = tuple(
        read(name, Distance(one=name, other="p"), float(np.linalg.norm(true - at))) for name, at in datum.items()
    )
    net = Net(datum=datum, approximate={"p": true + 5}, readings=readings)
    told = mirrored(net, adjust(net))
    assert [one.names for one in told] == [("p",)]
    assert told[0].elsewhere["p"] == pytest.approx([150, 200, -300], abs=1e-4)
    # a height tells which side; a fourth distance from out of the plane does too
    height = replace(net, readings=(*readings, read("z", Offset(point="p", axis="z"), 300.0)))
    assert mirrored(height, adjust(height)) == ()
    off = replace(
        net,
        datum={**datum, "d": np.array([0.0, 0, 400])},
        readings=(*readings, read("d", Distance(one="d", other="p"), float(np.linalg.norm(true - [0, 0, 400])))),
    )
    assert mirrored(off, adjust(off)) == ()


def test_measure_next_is_the_best_of_all_that_can_be_tried() -> None:
    rng = np.random.default_rng(99)
    net, _, _ = net_of(rng, slip=False)
    thin = replace(net, readings=tuple(one for i, one in enumerate(net.readings) if i % 8))
    found = adjust(thin)
    point = worst_point(found)
    assert point
    possible = list(can_be_taken(found.points, [one.of for one in thin.readings], 1.0, 1.5))
    advice = measure_next(found, possible, point)
    assert advice[0].of not in [one.of for one in thin.readings]

    def after(one: Possible) -> float:  # taken for once, at what it would be, and all adjusted again
        more = read("next", one.of, one.of.at(found.points)[0], one.sd)
        again = adjust(
            replace(
                thin,
                approximate={name: found.points[name] for name in thin.approximate},
                readings=(*thin.readings, more),
            )
        )
        return sqrt(float(np.trace(again.covariance_of(point))))

    tried = {one.of: after(one) for one in possible if point in one.of.points() or rng.random() < 0.1}
    assert tried[advice[0].of] <= 1.05 * min(tried.values())
    assert advice[0].sd_after == pytest.approx(tried[advice[0].of], rel=1e-3)
    assert advice[0].sd_before == pytest.approx(sqrt(float(np.trace(found.covariance_of(point)))))
    assert advice[0].sd_after < advice[0].sd_before


def test_what_is_free_is_measured_first() -> None:
    datum = {"a": np.zeros(3), "b": np.array([500.0, 0, 0])}
    at = np.array([200.0, 300.0, 100.0])
    readings = tuple(
        read(name, Distance(one=name, other="p"), float(np.linalg.norm(at - where))) for name, where in datum.items()
    )
    found = adjust(
        Net(
            datum=datum,
            approximate={"p": at, "q": at + 10},
            readings=(
                *readings,
                *(
                    read(f"q{x}", Offset(point="q", axis=x), float(v), 20.0)
                    for x, v in zip("xyz", at + 10, strict=True)
                ),
            ),
        )
    )  # type: ignore[arg-type]
    assert worst_point(found) == "p"
    best = measure_next(found, list(can_be_taken(found.points, [one.of for one in readings], 1.0, 1.0)))[0]
    assert np.isinf(best.sd_before)
    assert best.sd_after < 20
    # round the line from a to b it moves along (0, −100, 300): a height sees that best of all offsets and distances
    assert best.of == Offset(point="p", axis="z")


@given(st.lists(st.floats(-3, 3), min_size=9, max_size=9), st.sampled_from(["front", "side", "top"]))
@settings(max_examples=40, deadline=None)
def test_an_ellipse_holds_as_many_as_it_says(parts: list[float], view: str) -> None:
    root = np.array(parts).reshape(3, 3) + 4 * np.eye(3)
    covariance = root @ root.T
    i, j = {"front": (1, 2), "side": (0, 2), "top": (0, 1)}[view]
    found = ellipse(covariance, view)  # type: ignore[arg-type]
    rng = np.random.default_rng(1)
    many = rng.standard_normal((4000, 3)) @ root.T
    c, s = cos(found.turn), sin(found.turn)
    along, across = many[:, i] * c + many[:, j] * s, -many[:, i] * s + many[:, j] * c
    inside = ((along / found.long) ** 2 + (across / max(found.short, 1e-9)) ** 2 <= 1).mean()
    assert inside == pytest.approx(0.95, abs=0.02)
    assert found.long >= found.short


@pytest.mark.parametrize(
    ("what", "typed", "unit", "truth", "taken"),
    [
        ("inches were read and millimetres typed", "21.5", "mm", 546.1, {}),
        ("millimetres were read and inches typed", "546", "in", 546.0, {}),
        ("two digits changed over", "1263", "mm", 1236.0, {}),
        ("two digits changed over", "457.2", "mm", 452.7, {}),
        ("sixteenths were typed behind a point", "12.5", "in", (12 + 5 / 16) * 25.4, {}),
        ("tenths were typed as sixteenths", "12 5/16", "in", 12.5 * 25.4, {}),
        ("the sign is the other one", "-35", "mm", 35.0, {}),
        ("the tube’s radius was not taken into account", "400", "mm", 419.05, {"the tube’s radius": 19.05}),
        (
            "the tube’s radius was taken into account and should not be",
            "400",
            "mm",
            400.0,
            {"the tube’s radius": 19.05},
        ),
        ("the tape was read one mark off, 100 mm", "712", "mm", 812.0, {}),
        ("the tape was read one mark off, 1/16 in", "12 5/16", "in", 12.375 * 25.4, {}),
    ],
)
def test_a_slip_of_the_hand_is_recognised(
    what: str, typed: str, unit: str, truth: float, taken: dict[str, float]
) -> None:
    from fractions import Fraction

    sign = -1 if typed.startswith("-") else 1
    figure = sign * float(sum(Fraction(part) for part in typed.lstrip("-").split())) * (25.4 if unit == "in" else 1.0)
    read_ = figure + 19.05 if "should not be" in what else figure
    found = slips(read_, truth + 0.3, 0.4, typed, unit, taken)
    assert what in [one.what for one in found]
    assert next(one for one in found if one.what == what).would_be == pytest.approx(truth, abs=1e-6)
    assert [one.off for one in found] == sorted(one.off for one in found)
    assert slips(read_, figure + 55.5, 0.4, typed, unit, taken) == ()  # nothing a hand does would explain that


def test_bad_nets_name_what_is_wrong() -> None:
    at = {"a": np.zeros(3)}
    for readings, field in (
        ((read("r1", Distance(one="a", other="nowhere"), 5.0),), "r1"),
        ((read("r2", Offset(point="a", axis="z"), 5.0, 0.0),), "r2"),
    ):
        with pytest.raises(InputError) as caught:
            adjust(Net(datum={}, approximate=at, readings=readings))
        assert field in caught.value.fields
    with pytest.raises(InputError, match="both"):
        adjust(Net(datum=at, approximate=at, readings=()))
