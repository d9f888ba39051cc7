"""Bowed, kinked, eccentric and struck tubes against a boundary-value solver of the bent line."""

from math import cos, pi, sqrt, tan

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.integrate import solve_bvp

from tirante.core.errors import InputError, NotApplicable
from tirante.core.members.beam_column import BeamColumn, Kink, first_yield, response
from tirante.core.members.tube import Section

E = 205_000.0
SECTION = Section(od=38.1, wall=3.048)
LENGTH = 840.0


def beam(**more: object) -> BeamColumn:
    return BeamColumn(section=SECTION, length=LENGTH, elastic_modulus=E, **more)  # type: ignore[arg-type]


def mid_by_bvp(case: BeamColumn, axial: float) -> float:
    """Elastic deflection w from EI w'' = −(P (w + y0 + e) + F x/2), half the span by symmetry; total offset at mid."""
    ei, half = E * SECTION.second_moment, LENGTH / 2

    def initial(x: np.ndarray) -> np.ndarray:
        y = case.bow * np.sin(pi * x / LENGTH) + case.eccentricity
        return y + (case.kink.offset * np.minimum(1, x / case.kink.from_ends) if case.kink else 0)

    def slope(x: np.ndarray, y: np.ndarray) -> np.ndarray:
        return np.vstack([y[1], -(axial * (y[0] + initial(x)) + case.mid_lateral * x / 2) / ei])

    x = np.linspace(0, half, 400)
    found = solve_bvp(slope, lambda a, b: np.array([a[0], b[1]]), x, np.zeros((2, x.size)), tol=1e-9, max_nodes=20_000)
    assert found.success
    return float(found.sol(half)[0] + initial(np.array([half]))[0])


@settings(max_examples=12, deadline=None)
@given(
    st.floats(0.02, 0.85), st.floats(0, 6000), st.floats(0, 10), st.floats(0, 8), st.floats(0, 12), st.floats(0.15, 0.5)
)
def test_offset_at_mid_span_agrees_with_the_differential_equation(
    share: float, lateral: float, eccentricity: float, bow: float, kink: float, where: float
) -> None:
    case = beam(
        mid_lateral=lateral, eccentricity=eccentricity, bow=bow, kink=Kink(offset=kink, from_ends=where * LENGTH)
    )
    axial = share * case.euler
    assert response(case, axial).mid_deflection == pytest.approx(mid_by_bvp(case, axial), rel=1e-4, abs=1e-5)


def test_struck_at_mid_span_the_moment_is_fl_over_4_times_tan_u_over_u() -> None:
    case = beam(mid_lateral=4000.0)
    axial = 0.6 * case.euler
    u = pi / 2 * sqrt(0.6)
    assert response(case, axial).max_moment == pytest.approx(4000 * LENGTH / 4 * tan(u) / u, rel=1e-12)


def test_eccentric_load_follows_the_secant_formula() -> None:
    case = beam(eccentricity=5.0)
    axial = 0.5 * case.euler
    moment = axial * 5.0 / cos(pi / 2 * sqrt(0.5))
    stress = axial / SECTION.area + moment * SECTION.od / 2 / SECTION.second_moment
    assert response(case, axial).max_stress == pytest.approx(stress, rel=1e-12)


def test_a_half_sine_bow_grows_by_one_over_one_less_p_over_pe() -> None:
    case = beam(bow=3.0)
    assert response(case, 0.75 * case.euler).mid_deflection == pytest.approx(12.0, rel=1e-12)


def test_without_compression_it_is_a_plain_beam() -> None:
    found = response(beam(mid_lateral=3000.0), 0.0)
    assert found.max_moment == pytest.approx(3000 * LENGTH / 4, rel=1e-12)
    assert found.mid_deflection == pytest.approx(3000 * LENGTH**3 / (48 * E * SECTION.second_moment), rel=1e-12)


def test_small_compression_passes_smoothly_into_none() -> None:
    case = beam(mid_lateral=3000.0, kink=Kink(offset=4.0, from_ends=200.0), eccentricity=2.0)
    below, above = response(case, 1e-4), response(case, 1e-1)
    assert below.mid_deflection == pytest.approx(above.mid_deflection, rel=1e-5)


def test_a_kink_at_mid_span_is_a_triangle_before_it_is_loaded() -> None:
    assert response(beam(kink=Kink(offset=7.0, from_ends=LENGTH / 2)), 0.0).mid_deflection == pytest.approx(7.0)


def test_at_the_euler_load_there_is_no_answer() -> None:
    case = beam(bow=1.0)
    with pytest.raises(NotApplicable) as caught:
        response(case, case.euler)
    assert caught.value.fields == ("axial_compression_n",)
    assert response(case, case.euler * (1 - 1e-9)).max_stress > 1e6


def test_a_kink_beyond_mid_span_is_refused() -> None:
    with pytest.raises(InputError) as caught:
        beam(kink=Kink(offset=5.0, from_ends=LENGTH * 0.6))
    assert caught.value.fields == ("kink.from_ends_mm",)


@settings(max_examples=30, deadline=None)
@given(st.floats(0, 5000), st.floats(0, 15), st.floats(150, 900))
def test_at_first_yield_the_worst_fibre_is_just_at_yield(lateral: float, bow: float, sy: float) -> None:
    case = beam(mid_lateral=lateral, bow=bow)
    load = first_yield(case, sy)
    if load == 0.0:
        assert response(case, 0.0).max_stress >= sy
    elif load < min(case.euler, SECTION.area * sy) * (1 - 1e-6):
        assert response(case, load).max_stress == pytest.approx(sy, rel=1e-6)


def test_opposed_bow_and_strike_peak_away_from_mid_span() -> None:
    case = beam(mid_lateral=-2000.0, eccentricity=12.0)
    axial = 0.4 * case.euler
    k = sqrt(axial / (E * SECTION.second_moment))
    xs = np.linspace(0, LENGTH / 2, 20_001)
    u = k * LENGTH / 2
    y = 12.0 * np.cos(k * (LENGTH / 2 - xs)) / cos(u) - 2000 / (2 * axial) * (np.sin(k * xs) / (k * cos(u)) - xs)
    moments = axial * y - 2000 * xs / 2
    assert response(case, axial).max_moment == pytest.approx(np.abs(moments).max(), rel=1e-6)
