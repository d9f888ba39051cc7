"""Rows of the catalogue that ship, against printed tables of bought parts."""

from __future__ import annotations

import pytest

from tirante.core.document.catalogue import Catalogue
from tirante.core.members.rod_end import rod_end_strength
from tirante.core.members.thread import parse_thread

# ASME B18.2.2, hex jam nuts: basic and greatest thickness [in]; from memory
JAM_NUTS = {
    "3/8-24 UNF": (7 / 32, 0.227), "7/16-20 UNF": (1 / 4, 0.260), "1/2-20 UNF": (5 / 16, 0.323), "5/8-18 UNF": (3 / 8, 0.387),
    "3/4-16 UNF": (27 / 64, 0.446), "7/8-14 UNF": (31 / 64, 0.510), "1-14 UNS": (35 / 64, 0.575), "1 1/4-12 UNF": (23 / 32, 0.751),
}  # fmt: skip
# ISO 4035 and 8675, thin nuts: greatest thickness [mm]; from memory
THIN_NUTS = {"M8": 4.0, "M10": 5.0, "M12": 6.0, "M14": 7.0, "M16": 8.0, "M18": 9.0, "M20": 10.0}
# rod ends of ISO 12240-4, series K, bronze race, greased: static radial rating as such joints are listed [kN]; from memory
SERIES_K = {"M8": 12.9, "M10": 18.0, "M12": 24.0, "M14": 31.0, "M16": 39.0, "M18": 47.5, "M20": 57.0}


@pytest.mark.parametrize("designation", sorted(JAM_NUTS))
def test_inch_jam_nuts_hold_the_basic_and_the_greatest_thickness_of_the_table(
    designation: str, catalogue: Catalogue
) -> None:
    basic, greatest = JAM_NUTS[designation]
    nut = next(row for row in catalogue.nuts if row.designation == designation)
    assert nut.basic_mm == pytest.approx(basic * 25.4, abs=0.006)
    assert nut.height_mm == pytest.approx(greatest * 25.4, abs=0.006)
    assert nut.height_mm > nut.basic_mm


@pytest.mark.parametrize("size", sorted(THIN_NUTS))
def test_metric_thin_nuts_hold_the_greatest_thickness_of_the_table(size: str, catalogue: Catalogue) -> None:
    nut = next(row for row in catalogue.nuts if row.designation.startswith(f"{size}x"))
    assert nut.height_mm == THIN_NUTS[size]


@pytest.mark.parametrize("size", sorted(SERIES_K))
def test_metric_rod_ends_are_rated_as_such_joints_are_listed(size: str, catalogue: Catalogue) -> None:
    row = next(row for row in catalogue.joints if row.designation.startswith(f"{size}x"))
    found = rod_end_strength(
        parse_thread(row.designation), row.head_diameter_mm, row.housing_width_mm, row.housing_bore_mm, row.ball_diameter_mm,
        row.body_uts_mpa, row.race_pressure_mpa, row.maker_static_n,
    )  # fmt: skip
    assert found.rating / 1000 == pytest.approx(SERIES_K[size], rel=0.02)
