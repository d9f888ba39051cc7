"""Lengths as people type them."""

from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tirante.core.drawing.sheet import Numbers
from tirante.core.errors import InputError
from tirante.core.quantities import format_inch_fraction, format_length, or_less, or_more, parse_length
from tirante.core.units import KSI, POUND_FORCE


@pytest.mark.parametrize(
    ("text", "unit", "mm"),
    [
        ("546.1", "mm", 546.1), ("21 1/2", "in", 546.1), ("21-1/2", "in", 546.1), ("14.5in", "mm", 368.3), ('1/2"', "mm", 12.7),
        ("2' 3 1/4\"", "mm", 692.15), ("2'3", "mm", 685.8), ("10 cm", "mm", 100.0), ("1.2 m", "in", 1200.0), ("½ in", "mm", 12.7),
        ("1½″", "mm", 38.1), (".5", "mm", 0.5), ("7.", "mm", 7.0), ("110 mm", "in", 110.0), ("27 inches", "mm", 685.8),
        ("110 mm = 4.33 in", "mm", 110.0), (" 3/4 in ", "mm", 19.05),
    ],
)  # fmt: skip
def test_what_is_typed_is_understood(text: str, unit: str, mm: float) -> None:
    assert parse_length(text, unit).mm == pytest.approx(mm, abs=1e-9)  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("text", "unit", "code"),
    [
        ("21 1/", "in", "not_a_length"), ("", "mm", "not_a_length"), ("abc", "mm", "not_a_length"), ("1/0 in", "mm", "not_a_length"),
        ("1,5", "mm", "not_a_length"), ("1.5 1/2 in", "mm", "not_a_length"), ("3 mm 4 mm", "mm", "not_a_length"),
        ("21 1/2", "mm", "ambiguous_unit"), ("110 mm = 4 5/8 in", "mm", "readings_disagree"), ("-5", "mm", "out_of_range"),
        ("9999999 m", "mm", "out_of_range"), ("1e5", "mm", "not_a_length"), ("nan", "mm", "not_a_length"), ("1" * 90, "mm", "not_a_length"),
        ("12 furlongs", "mm", "not_a_length"),
    ],
)  # fmt: skip
def test_what_cannot_be_meant_is_asked_about(text: str, unit: str, code: str) -> None:
    with pytest.raises(InputError) as caught:
        parse_length(text, unit)  # type: ignore[arg-type]
    assert caught.value.code == code


@given(st.integers(0, 4000), st.sampled_from([16, 32, 64]))
def test_a_tape_reading_comes_back_as_it_was_read(units: int, denominator: int) -> None:
    exact = Fraction(units, denominator)
    shown = format_inch_fraction(float(exact * Fraction(254, 10)), denominator)
    assert parse_length(f"{shown} in", "mm").exact == exact * Fraction(254, 10)


@given(st.floats(-90_000, 90_000))
def test_a_coordinate_shown_in_mm_reads_back_within_its_decimals(mm: float) -> None:
    assert parse_length(format_length(mm, "mm", decimals=2), "mm", signed=True).mm == pytest.approx(mm, abs=0.005001)


def test_minus_is_kept_for_coordinates() -> None:
    assert parse_length("−12.5", "mm", signed=True).mm == -12.5
    with pytest.raises(InputError):
        parse_length("--5", "mm", signed=True)
    assert format_length(-12.5, "mm") == "−12.5"
    assert format_length(-0.01, "mm") == "0.0"


def test_force_and_stress_units_follow_from_the_pound() -> None:
    # NIST SP 811: 1 lbf = 4.448222 N, 1 ksi = 6.894757 MPa (from memory)
    assert pytest.approx(4.448222, abs=5e-7) == POUND_FORCE
    assert pytest.approx(6.894757, abs=5e-7) == KSI


@pytest.mark.parametrize(
    ("text", "inches"),
    [
        ("saw 546.1 mm off", "saw 21 1/2″ (546.1 mm) off"),
        ("a wall of 3.048 mm", "a wall of 0.120″ (3.048 mm)"),
        ("plate 76.2 × 50.8 × 6.35 mm steel", "plate 3 × 2 × 0.250″ (76.2 × 50.8 × 6.35 mm) steel"),
        ("moved −2.54 mm", "moved −0.100″ (−2.54 mm)"),
        ("200 N/mm over 30 mm² and 4 mm/s", "200 N/mm over 30 mm² and 4 mm/s"),
        ("M12 × 1.75", "M12 × 1.75"),
        # a bound is read on its right side: 32 mm are 1.2598 in, 4.7 mm are 0.18504 in
        ("make it 32.0 mm or more, not 32.0 mm", "make it 1 9/32″ (32.0 mm) or more, not 1 1/4″ (32.0 mm)"),
        ("32 mm wide or less", "1 1/4″ (32 mm) wide or less"),
        ("41.0 mm long or less", "1 19/32″ (41.0 mm) long or less"),
        ("at least 4.7 mm", "at least 0.186″ (4.7 mm)"),
        ("4.7 mm at most", "0.185″ (4.7 mm) at most"),
        ("25.4 mm or more, 50.8 mm or less", "1″ (25.4 mm) or more, 2″ (50.8 mm) or less"),
        # a tolerance is never wider in inches: 0.5 mm are 0.01969 in; a hole is no fraction that its bolt does not go through
        ("cold, ± 0.5 mm", "cold, ± 0.019″ (0.5 mm)"),
        ("other sizes ±0.3 mm", "other sizes ±0.011″ (0.3 mm)"),
        ("± 25.4 mm", "± 1.000″ (25.4 mm)"),
        ("hole ⌀14.4 mm", "hole ⌀0.567″ (14.4 mm)"),
        ("hole ⌀16.27 mm", "hole ⌀41/64″ (16.27 mm)"),
        ("a ⌀12.7 mm bar", "a ⌀1/2″ (12.7 mm) bar"),
        ("⌀26 × 1.0 mm", "⌀1.024 × 0.039″ (26 × 1.0 mm)"),
        ("1 1/4 × 0.120 in", "1 1/4 × 0.120 in"),
    ],
)
def test_a_sentence_on_an_inch_sheet_says_inches_first(text: str, inches: str) -> None:
    assert Numbers(unit="in").told(text) == inches
    assert Numbers().told(text) == text


def test_a_least_length_in_a_sentence_is_never_under_it_and_a_greatest_never_over() -> None:
    for mm in (32.01, 32.05, 32.0, 7.349, 120.0 - 1e-9, 0.3 * 3):
        assert -1e-6 <= float(or_more(mm)) - mm < 0.1
        assert -1e-6 <= mm - float(or_less(mm)) < 0.1
    assert (or_more(32.0), or_less(32.0), or_more(32.01), or_less(32.09)) == ("32.0", "32.0", "32.1", "32.0")
