"""Shigley, Mechanical Engineering Design, columns with central loading: from memory.

Euler example: a 1.5 m pinned round steel column carrying 22 kN with design factor 4, E = 207 GPa, needs d = 37.5 mm.
"""

from math import pi, sqrt

import pytest

from tirante.core.members.column import column_strength
from tirante.core.members.tube import Section


def test_worked_euler_example_needs_a_bar_of_37_5_mm() -> None:
    # the book prints the diameter to 0.1 mm: just below it the load is not carried, just above it is
    def load(diameter: float) -> float:
        return column_strength(Section(od=diameter, wall=None), 1500.0, 500.0, 207_000.0).euler

    assert load(37.45) < 4 * 22_000 < load(37.55)


@pytest.mark.parametrize(("od", "wall", "length", "expected"), [
    (38.1, 3.048, 600.0, 139_600.0), (50.8, 6.35, 820.0, 360_100.0),
])  # fmt: skip
def test_johnson_loads_of_two_tubes(od: float, wall: float, length: float, expected: float) -> None:
    # common formula results; printed to 0.1 kN
    assert column_strength(Section(od=od, wall=wall), length, 483.0, 205_000.0).critical == pytest.approx(
        expected, abs=50.1
    )


def test_section_of_the_inch_and_a_half_tube() -> None:
    section = Section(od=38.1, wall=3.048)
    assert section.area == pytest.approx(335.64, abs=0.0051)
    assert section.second_moment == pytest.approx(51_938, abs=0.51)
    assert section.radius_of_gyration == pytest.approx(12.440, abs=0.00051)


def test_long_tube_is_an_euler_column() -> None:
    found = column_strength(Section(od=31.75, wall=3.048), 1000.0, 483.0, 205_000.0)
    assert found.slenderness == pytest.approx(98.0, abs=0.0501)
    assert found.governing == "euler"
    assert found.critical == pytest.approx(57_900, abs=50.1)


def test_johnson_touches_euler_at_half_the_yield_stress() -> None:
    section = Section(od=40.0, wall=3.0)
    length = section.radius_of_gyration * sqrt(2 * pi**2 * 205_000 / 483)
    found = column_strength(section, length, 483.0, 205_000.0)
    assert found.johnson == pytest.approx(found.euler, rel=1e-12)
    assert found.euler == pytest.approx(section.area * 483 / 2, rel=1e-12)
    # and they share their slope there
    step = 1e-4
    near = [column_strength(section, length * (1 + d), 483.0, 205_000.0) for d in (-step, step)]
    assert near[1].johnson - near[0].johnson == pytest.approx(near[1].euler - near[0].euler, rel=1e-5)
