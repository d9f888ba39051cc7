"""Blodgett, Design of Welded Structures, sect. 7.4, table of weld lines (section modulus, polar moment): from memory.

Two parallel lines of length d, b apart: Sw = d²/3 (bending across their length), Jw = d (3 b² + d²) / 6.
"""

from math import hypot

import pytest

from tirante.core.brackets.weld_group import weld_group

D, B = 80.0, 50.0
PAIR = [(-B / 2, -D / 2, -B / 2, D / 2), (B / 2, -D / 2, B / 2, D / 2)]


def test_bending_along_two_lines_has_modulus_d_squared_over_3() -> None:
    moment_arm, force = 120.0, 10_000.0
    found = weld_group(PAIR, (0.0, force, 0.0), (0.0, 0.0, moment_arm))
    expected = hypot(force * moment_arm / (D**2 / 3), force / (2 * D))
    assert found.max_line_force == pytest.approx(expected, rel=1e-12)


def test_torsion_of_two_lines_has_the_tabled_polar_moment() -> None:
    force, arm = 10_000.0, 200.0
    found = weld_group(PAIR, (0.0, force, 0.0), (arm, 0.0, 0.0))
    polar = D * (3 * B**2 + D**2) / 6
    torsion = force * arm / polar
    expected = hypot(torsion * D / 2, torsion * B / 2 + force / (2 * D))
    assert found.max_line_force == pytest.approx(expected, rel=1e-12)
    assert found.at[0] == pytest.approx(B / 2)
