"""EN 1993-1-8 Table 3.1 (8.8: 640/800, 10.9: 900/1000 MPa) and SAE J429 (grade 5: 120/92 ksi, grade 8: 150/130 ksi): from memory."""

from math import pi

import pytest

from tirante.core.brackets.bolt import bolt_class, pin_shear
from tirante.core.members.thread import parse_thread


@pytest.mark.parametrize(
    ("name", "ultimate", "yielding"),
    [
        ("8.8", 800, 640),
        ("10.9", 1000, 900),
        ("12.9", 1200, 1080),
        ("grade 5", 827.4, 634.3),
        ("grade 8", 1034.2, 896.3),
    ],
)
def test_class_strengths(name: str, ultimate: float, yielding: float) -> None:
    found = bolt_class(name, 12.7)
    assert (found.ultimate, found.yield_strength) == pytest.approx((ultimate, yielding), abs=0.051)


def test_grade_5_over_one_inch_is_weaker() -> None:
    assert bolt_class("grade 5", 28.6).ultimate == pytest.approx(723.9, abs=0.051)


def test_shear_of_an_m12_8_8_in_the_shank_and_in_the_thread() -> None:
    # EN 1993-1-8 Table 3.4 without the partial factor: 0.6 · 800 · 113.1 and · 84.3 mm², each plane
    material, thread = bolt_class("8.8", 12.0), parse_thread("M12")
    assert pin_shear(12.0, material, 1) == pytest.approx(0.6 * 800 * pi * 36, rel=1e-12)
    assert pin_shear(12.0, material, 2, thread, True) == pytest.approx(2 * 0.6 * 800 * 84.3, rel=1e-3)


def test_thread_in_the_plane_costs_10_9_more_than_its_area() -> None:
    thread = parse_thread("M12")
    shear = pin_shear(12.0, bolt_class("10.9", 12.0), 1, thread, True)
    assert shear == pytest.approx(0.5 * 1000 * 84.3, rel=1e-3)
