"""Uniform and stepped columns: limits, symmetries, and an independent finite-element solution."""

from math import pi

import numpy as np
import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st
from scipy.linalg import eigh

from tirante.core.errors import InputError
from tirante.core.members.column import Segment, column_strength, stepped_column
from tirante.core.members.tube import Section

E = 205_000.0


def buckling_by_elements(segments: list[Segment]) -> float:
    """Least critical load by Hermite beam elements with consistent geometric stiffness: a solution of its own."""
    lengths, stiffness = [], []
    whole = sum(s.length for s in segments)
    for s in segments:
        # elements of like length: tiny ones beside long ones cost the stiffness matrix its digits; and four at least of the shortest
        # piece, since two of a slim one at the pin of a stout tube are 5e-4 too stiff (four 4e-5 at most, of 1500 columns by chance)
        count = max(4, round(60 * s.length / whole))
        lengths += [s.length / count] * count
        stiffness += [s.elastic_modulus * s.section.second_moment] * count
    size = 2 * (len(lengths) + 1)
    k, g = np.zeros((size, size)), np.zeros((size, size))
    for i, (el, ei) in enumerate(zip(lengths, stiffness, strict=True)):
        at = slice(2 * i, 2 * i + 4)
        k[at, at] += (
            ei
            / el**3
            * np.array(
                [
                    [12, 6 * el, -12, 6 * el],
                    [6 * el, 4 * el * el, -6 * el, 2 * el * el],
                    [-12, -6 * el, 12, -6 * el],
                    [6 * el, 2 * el * el, -6 * el, 4 * el * el],
                ]
            )
        )
        g[at, at] += (
            1
            / (30 * el)
            * np.array(
                [
                    [36, 3 * el, -36, 3 * el],
                    [3 * el, 4 * el * el, -3 * el, -el * el],
                    [-36, -3 * el, 36, -3 * el],
                    [3 * el, -el * el, -3 * el, 4 * el * el],
                ]
            )
        )
    free = [i for i in range(size) if i not in (0, size - 2)]
    # the largest 1/P: the geometric matrix is the definite one
    return float(1 / eigh(g[np.ix_(free, free)], k[np.ix_(free, free)], eigvals_only=True)[-1])


segment = st.builds(
    lambda length, od, share, e: Segment(length=length, section=Section(od=od, wall=od * share), elastic_modulus=e),
    st.floats(20, 900), st.floats(10, 60), st.floats(0.05, 0.45), st.sampled_from([205_000.0, 107_000.0, 68_900.0]),
)  # fmt: skip


@settings(max_examples=40, deadline=None)
@given(st.lists(segment, min_size=1, max_size=5))
@example(
    [
        Segment(length=n, section=Section(od=od, wall=od * share), elastic_modulus=E)
        for n, od, share in ((20.0, 10.0, 0.05), (900.0, 60.0, 0.4))
    ]
)
def test_stepped_critical_load_agrees_with_finite_elements(segments: list[Segment]) -> None:
    # the element solution is an upper bound that converges from above
    found = stepped_column(segments).elastic_critical
    assert found == pytest.approx(buckling_by_elements(segments), rel=2e-4)


@settings(max_examples=60, deadline=None)
@given(st.lists(segment, min_size=1, max_size=6))
def test_a_column_turned_end_for_end_buckles_at_the_same_load(segments: list[Segment]) -> None:
    there, back = (stepped_column(s).elastic_critical for s in (segments, segments[::-1]))
    assert there == pytest.approx(back, rel=1e-10)


@settings(max_examples=60, deadline=None)
@given(segment, st.integers(1, 7))
def test_a_uniform_tube_cut_into_pieces_is_an_euler_column(one: Segment, pieces: int) -> None:
    parts = [Segment(length=one.length / pieces, section=one.section, elastic_modulus=one.elastic_modulus)] * pieces
    euler = pi**2 * one.elastic_modulus * one.section.second_moment / one.length**2
    assert stepped_column(parts).elastic_critical == pytest.approx(euler, rel=1e-11)


def test_stepped_strength_of_a_uniform_tube_is_johnsons() -> None:
    section = Section(od=38.1, wall=3.048)
    found = stepped_column([Segment(length=600, section=section, elastic_modulus=E, yield_strength=483.0)])
    assert found.critical == pytest.approx(column_strength(section, 600, 483.0, E).johnson, rel=1e-11)


def test_a_slim_shank_at_one_end_weakens_the_link() -> None:
    tube = Segment(length=700, section=Section(od=38.1, wall=3.048), elastic_modulus=E, yield_strength=483.0)
    shank = Segment(length=60, section=Section(od=15.0, wall=None), elastic_modulus=E, yield_strength=690.0)
    whole = Segment(length=760, section=tube.section, elastic_modulus=E, yield_strength=483.0)
    assert stepped_column([shank, tube]).critical < stepped_column([whole]).critical


def test_a_short_strong_shank_in_the_middle_of_nothing_needs_a_segment() -> None:
    with pytest.raises(InputError) as caught:
        stepped_column([])
    assert caught.value.fields == ("segments",)


@given(st.floats(50, 3000), st.floats(1.1, 4))
def test_euler_falls_with_the_square_of_the_length(length: float, times: float) -> None:
    section = Section(od=30.0, wall=2.0)
    near, far = (column_strength(section, n, 400.0, E).euler for n in (length, length * times))
    assert near / far == pytest.approx(times**2, rel=1e-12)


def test_inch_pound_and_millimetre_newton_give_one_answer() -> None:
    # the same tube in inches and psi: the load in pounds-force times 4.44822 must be the load in newtons
    metric = column_strength(Section(od=38.1, wall=3.048), 600.0, 483.0, E)
    psi = 1 / 0.00689475729
    inch = column_strength(Section(od=1.5, wall=0.12), 600 / 25.4, 483.0 * psi, E * psi)
    assert inch.critical * 4.4482216 == pytest.approx(metric.critical, rel=1e-6)
    assert inch.aisc_e3 * 4.4482216 == pytest.approx(metric.aisc_e3, rel=1e-6)
