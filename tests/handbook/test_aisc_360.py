"""ANSI/AISC 360: Manual Table 4-22 (column stress), Design Example D.7 (pin-connected member), B4.1: from memory.

Tolerance: half the last printed digit of the manual, in kips and ksi.
"""

from math import sqrt

import pytest

from tirante.core.brackets.lug import Lug, lug_strength
from tirante.core.members.column import column_strength
from tirante.core.members.tube import Section, wall_slenderness
from tirante.core.units import KSI, POUND_FORCE

KIP = 1000 * POUND_FORCE
E_KSI = 29_000
PHI = 0.9


@pytest.mark.parametrize(
    ("fy", "slenderness", "printed"),
    [(50, 50, 37.5), (50, 100, 21.7), (50, 150, 10.0), (36, 100, 19.1), (36, 50, 28.4)],
)
def test_available_column_stress_is_that_of_table_4_22(fy: float, slenderness: float, printed: float) -> None:
    section = Section(od=60.0, wall=4.0)
    length = slenderness * section.radius_of_gyration
    found = column_strength(section, length, fy * KSI, E_KSI * KSI)
    assert PHI * found.aisc_e3 / section.area / KSI == pytest.approx(printed, abs=0.0501)


def test_pin_connected_member_of_design_example_d_7() -> None:
    inch = 25.4
    lug = Lug(
        thickness=0.5 * inch, plates=1, width=4.25 * inch, hole=(1 + 1 / 32) * inch, pin=1.0 * inch,
        edge=(2.25 + (1 + 1 / 32) / 2) * inch,
    )  # fmt: skip
    found = lug_strength(lug, 36 * KSI, 58 * KSI)
    # the example goes on with b rounded to 1.61 in (1.609): 0.02 in 93
    assert found.tension_rupture / KIP == pytest.approx(93.4, abs=0.0701)
    assert found.shear_rupture / KIP == pytest.approx(95.7, abs=0.0501)
    assert found.bearing / KIP == pytest.approx(32.4, abs=0.0501)
    assert found.gross_yield / KIP == pytest.approx(76.5, abs=0.0501)
    assert found.governing == "bearing"


def test_round_hss_limits_stand_where_table_b4_1_has_them() -> None:
    # 0.11 E/Fy = 69.3 and 0.07 E/Fy = 44.1 for Fy = 46 ksi
    limits = wall_slenderness(Section(od=100.0, wall=2.0), 46 * KSI, E_KSI * KSI)
    assert limits.compression_limit == pytest.approx(69.3, abs=0.0501)
    assert limits.bending_limit == pytest.approx(44.1, abs=0.0501)
    assert limits.compression_ok
    assert not limits.bending_ok


def test_e3_changes_curve_at_slenderness_4_71_root_e_over_fy() -> None:
    section = Section(od=60.0, wall=4.0)
    at = 4.71 * sqrt(E_KSI / 50) * section.radius_of_gyration
    below, above = (column_strength(section, at * f, 50 * KSI, E_KSI * KSI).aisc_e3 for f in (0.999, 1.001))
    assert above < below < above * 1.01
