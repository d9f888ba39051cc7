"""ISO 898-1 (stress areas), ISO 724 (basic diameters), ISO 898-1 annex (root diameter d3): from memory.

Tolerance: half the last printed digit.
"""

import pytest

from tirante.core.members.thread import parse_thread

STRESS_AREAS = [
    ("M5", 14.2, 0.05), ("M6", 20.1, 0.05), ("M8", 36.6, 0.05), ("M10", 58.0, 0.05), ("M12", 84.3, 0.05),
    ("M14x2", 115, 0.5), ("M16", 157, 0.5), ("M20", 245, 0.5), ("M24", 353, 0.5), ("M8x1", 39.2, 0.05),
    ("M10x1.25", 61.2, 0.05), ("M12x1.5", 88.1, 0.05), ("M14x1.5", 125, 0.5), ("M16x1.5", 167, 0.5),
    ("M18x1.5", 216, 0.5), ("M20x1.5", 272, 0.5),
]  # fmt: skip
# d2, D1, d3
DIAMETERS = [
    ("M10x1.5", 9.026, 8.376, 8.160), ("M12x1.75", 10.863, 10.106, 9.853), ("M16x2", 14.701, 13.835, 13.546),
    ("M20x2.5", 18.376, 17.294, 16.933),
]  # fmt: skip


@pytest.mark.parametrize(("size", "printed", "half"), STRESS_AREAS)
def test_tensile_stress_area_is_the_printed_one(size: str, printed: float, half: float) -> None:
    assert parse_thread(size).stress_area == pytest.approx(printed, abs=half * 1.0001)


@pytest.mark.parametrize(("size", "d2", "d1", "d3"), DIAMETERS)
def test_basic_and_root_diameters_are_the_printed_ones(size: str, d2: float, d1: float, d3: float) -> None:
    thread = parse_thread(size)
    found = (thread.pitch_diameter, thread.minor_internal, thread.root_external)
    assert found == pytest.approx((d2, d1, d3), abs=0.00051)
