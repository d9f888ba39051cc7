"""Limits of thread classes against the tables that machinists use, and strip by them.

Sources: ASME B1.1 table of limits (classes 2A and 2B) and ISO 965-2 (6g and 6H), from memory.
"""

from __future__ import annotations

from math import pi, sqrt

import pytest

from tirante.calc import calculate
from tirante.core.members.thread import dilation, limits_of, parse_thread, thread_strip

INCH = 25.4


@pytest.mark.parametrize(
    ("designation", "major", "pitch", "pitch_internal", "minor"),
    [("1/2-13 UNC", 0.4876, 0.4435, 0.4565, 0.434), ("3/8-16 UNC", 0.3643, 0.3287, 0.3401, 0.321), ("1/2-20 UNF", 0.4906, 0.4619, 0.4731, 0.457),
     ("3/4-16 UNF", 0.7391, 0.7029, 0.7159, 0.696)],
)  # fmt: skip
def test_unified_limits_are_those_of_the_table(
    designation: str, major: float, pitch: float, pitch_internal: float, minor: float
) -> None:
    found = limits_of(parse_thread(designation), "class")
    inches = [
        one / INCH for one in (found.major_external, found.pitch_external, found.pitch_internal, found.minor_internal)
    ]
    assert inches == pytest.approx(
        [major, pitch, pitch_internal, minor], abs=5.1e-4
    )  # the table gives minor diameters to a thousandth


@pytest.mark.parametrize(
    ("designation", "major", "pitch", "pitch_internal", "minor"),
    [("M10x1.5", 9.732, 8.862, 9.206, 8.676), ("M12x1.75", 11.701, 10.679, 11.063, 10.441), ("M16x2", 15.682, 14.503, 14.913, 14.210),
     ("M8x1.25", 7.760, 7.042, 7.348, 6.912)],
)  # fmt: skip
def test_metric_limits_are_those_of_the_table(
    designation: str, major: float, pitch: float, pitch_internal: float, minor: float
) -> None:
    found = limits_of(parse_thread(designation), "class")
    assert found.major_external == pytest.approx(major, abs=0.006)
    assert found.pitch_external == pytest.approx(pitch, abs=0.006)
    assert found.pitch_internal == pytest.approx(
        pitch_internal, abs=0.012
    )  # the table takes a mean diameter for a range of them
    assert found.minor_internal == pytest.approx(minor, abs=0.006)


def test_strip_by_class_is_the_standard_s_formula_at_the_limits_and_less_than_by_basic_sizes() -> None:
    """FED-STD-H28: As = π n Le Kn_max (1/2n + 0.57735 (Es_min − Kn_max)), An with Ds_min and En_max."""
    t = parse_thread("1/2-13 UNC")
    e = 15.0
    kn, es, ds, en = (x * INCH for x in (0.434, 0.4435, 0.4876, 0.4565))
    n = 13 / INCH
    by_class = thread_strip(t, 860.0, 620.0, e, "class")
    assert by_class.external_shear_area == pytest.approx(
        pi * n * e * kn * (1 / (2 * n) + (es - kn) / sqrt(3)), rel=8e-3
    )
    assert by_class.internal_shear_area == pytest.approx(
        pi * n * e * ds * (1 / (2 * n) + (ds - en) / sqrt(3)), rel=8e-3
    )
    basic = thread_strip(t, 860.0, 620.0, e)
    assert 0.7 * basic.strip < by_class.strip < 0.95 * basic.strip
    data = {"designation": "1/2-13 UNC", "external_uts_mpa": 860, "internal_uts_mpa": 620, "engagement_mm": 15}
    assert calculate("thread-strip", data)["strip_internal_n"] == pytest.approx(
        basic.strip_internal
    )  # as it always was
    fit = calculate("thread-strip", {**data, "fit": "class", "internal_outside_mm": 20.0})
    assert fit["strip_internal_n"] == pytest.approx(by_class.strip_internal * dilation(t, 20.0))
    assert fit["strip_external_n"] == pytest.approx(by_class.strip_external)


def test_a_thin_insert_gives_way_outward() -> None:
    """Alexander's factor, from memory: 1.5 diameters 0.84, 1.9 and more 1; thinner is less, never more than all or less than none."""
    t = parse_thread("M12x1.75")
    assert dilation(t, 18.0) == pytest.approx(-(1.5**2) + 3.8 * 1.5 - 2.61)
    assert dilation(t, 22.8) == pytest.approx(1.0, abs=1e-9)
    assert dilation(t, 40.0) == dilation(t, 22.8)
    assert dilation(t, None) == 1.0
    assert 0.0 <= dilation(t, 12.5) < dilation(t, 15.0) < dilation(t, 18.0)
