"""ASME B1.1 unified inch threads (tables also in Machinery's Handbook, screw thread systems): from memory.

Tolerance: diameters half the last printed digit; areas a whole one, since two rows as recalled differ from the formula by
more than half (1/2-20: 0.1599 against 0.15995; 5/16-24: 0.0580 against 0.05807). Whether the table or the memory of it is
the cause is not known here: confirm against the text.
"""

import pytest

from tirante.core.members.thread import parse_thread

SQUARE_INCH = 25.4**2

# size, tensile stress area [in^2] as printed
STRESS_AREAS = [
    ("1/4-28 UNF", "0.0364"), ("5/16-24 UNF", "0.0580"), ("3/8-24 UNF", "0.0878"), ("7/16-20 UNF", "0.1187"),
    ("1/2-20 UNF", "0.1599"), ("9/16-18 UNF", "0.203"), ("5/8-18 UNF", "0.256"), ("3/4-16 UNF", "0.373"),
    ("7/8-14 UNF", "0.509"), ("1-12 UNF", "0.663"), ("1-14 UNS", "0.680"), ("1 1/8-12 UNF", "0.856"),
    ("1 1/4-12 UNF", "1.073"), ("1/4-20 UNC", "0.0318"), ("3/8-16 UNC", "0.0775"), ("1/2-13 UNC", "0.1419"),
    ("5/8-11 UNC", "0.226"), ("3/4-10 UNC", "0.334"), ("1-8 UNC", "0.606"),
]  # fmt: skip

# size, basic pitch diameter, basic minor diameter of the internal thread [in]
DIAMETERS = [
    ("1/2-20 UNF", "0.4675", "0.4459"), ("5/8-18 UNF", "0.5889", "0.5649"), ("3/4-16 UNF", "0.7094", "0.6823"),
    ("1-8 UNC", "0.9188", "0.8647"),
]  # fmt: skip


def half_digit(printed: str) -> float:
    return 0.5001 * 10 ** -len(printed.split(".")[1])


@pytest.mark.parametrize(("size", "printed"), STRESS_AREAS)
def test_tensile_stress_area_is_the_printed_one(size: str, printed: str) -> None:
    assert parse_thread(size).stress_area / SQUARE_INCH == pytest.approx(float(printed), abs=2 * half_digit(printed))


@pytest.mark.parametrize(("size", "pitch_diameter", "minor"), DIAMETERS)
def test_basic_diameters_are_the_printed_ones(size: str, pitch_diameter: str, minor: str) -> None:
    thread = parse_thread(size)
    assert thread.pitch_diameter / 25.4 == pytest.approx(float(pitch_diameter), abs=half_digit(pitch_diameter))
    assert thread.minor_internal / 25.4 == pytest.approx(float(minor), abs=half_digit(minor))
