"""What the command line gives whoever checks the work: every check of a size, names that can be typed, quiet ends, refusals of what does nothing."""

from __future__ import annotations

import math
import subprocess
import sys

import pytest

from tests.conftest import ROOT
from tests.core.test_arm import SHELF
from tests.core.test_suspension import example
from tirante.calc import calculate
from tirante.core.document.fields import Length
from tirante.core.document.parts.common import CentreToCentre, RodEndEnd
from tirante.core.document.parts.link import Link
from tirante.core.document.settings import Settings
from tirante.core.errors import InputError
from tirante.core.loads.case_seen import CaseSeen
from tirante.core.members.thread import parse_thread
from tirante.core.parts.link.assembly import Everyday
from tirante.core.parts.link.sizing import candidates, judge
from tirante.core.quantities import format_length


def test_a_size_is_the_least_of_all_that_keep_every_rule_and_brings_all_its_checks() -> None:
    """Every set that fits together, judged one by one; the rules are written out here."""
    data = {
        "length_mm": 900.0, "cases": [{"name": "push", "axial_n": -7000.0}, {"name": "rock", "axial_n": 2500.0, "strike_n": 900.0}],
        "everyday_n": 2500.0, "use": "off-road", "duty": "locates",
    }  # fmt: skip
    found = calculate("size", data)
    winner = found["winner"]
    link = Link(
        id="00000000-0000-4000-8000-000000000000", name="link", between=CentreToCentre(length=Length(mm=900.0)),
        end_a=RodEndEnd(hand="RH"), end_b=RodEndEnd(hand="LH"),
    )  # fmt: skip
    cases = tuple(CaseSeen(**case) for case in data["cases"])  # type: ignore[attr-defined, arg-type]
    day = Everyday(swings=((2500.0, 2500.0),), target=1e5)
    for one in candidates(link, cases, Settings(), SHELF, everyday=day):
        if one.mass >= winner["mass_kg"] - 1e-6:
            break
        tube, grade, end = one.assembly.tube, one.assembly.grade, one.assembly.threaded[0]
        kept = (
            tube.wall_mm >= 3.0 - 1e-6  # it is struck
            and 900.0 / one.assembly.section.radius_of_gyration <= 200.0
            and parse_thread(end.joint.designation).major >= 12.0 - 1e-6
            and grade.family in ("steel", "stainless")
        )
        assert not (kept and judge(one, Settings()).passed), (tube.key, grade.key, end.joint.key)
    checks = {check["check"]: check for check in winner["checks"]}
    assert {
        "column",
        "column_aisc",
        "stepped",
        "bowed",
        "shank_bending",
        "strip_insert",
        "net_rupture",
        "insert_weld",
        "joint",
        "life",
    } <= set(checks)
    assert all(check["passed"] for check in winner["checks"])
    assert checks["column"]["demand"] == pytest.approx(7000 * 2.0)
    assert checks["life"]["capacity"] == winner["life_cycles"] >= 1e5
    tube = next(row for row in SHELF.tubes if row.key == winner["tube"])
    assert winner["weld_leg_mm"] <= tube.wall_mm
    inside = tube.od_mm - 2 * tube.wall_mm
    assert winner["slenderness"] == pytest.approx(900.0 / ((tube.od_mm**2 + inside**2) ** 0.5 / 4))
    assert found["runner_up"]["checks"]
    # without the limits it is no heavier, and what they ruled out is counted
    free = calculate("size", {**data, "limits": False})
    assert free["winner"]["mass_kg"] <= winner["mass_kg"]
    assert free["left_out"] == {}
    assert any("wall under 3 mm" in why for why in found["left_out"])
    only = calculate("size", {**data, "only_tubes": [winner["tube"]]})
    assert only["winner"]["tube"] == winner["tube"]
    assert any("not among those the shop has" in why for why in only["left_out"])


def test_an_adjuster_is_named_as_it_can_be_typed() -> None:
    end = {**example("double-wishbone").model_dump(mode="json", exclude_none=True), "travel_mm": 0}
    dashed, typed = (
        calculate("turns", {**end, "adjusters": {name: {}}})["turns"][name]
        for name in ("upper_front – upper_outer", "upper_front-upper_outer")
    )
    assert dashed == typed
    with pytest.raises(InputError, match=r"no adjuster “upper” here. There are: tie rod, upper_front-upper_outer"):
        calculate("turns", {**end, "adjusters": {"upper": {}}})


def test_one_value_is_taken_for_a_list_of_one_and_what_does_nothing_is_refused() -> None:
    beam = example("four-links-panhard").model_dump(mode="json", exclude_none=True)
    one, listed = (
        calculate("cycle", {**beam, "travel_mm": travel, "roll_deg": roll}) for travel, roll in ((20, 1), ([20], [1]))
    )
    assert one == listed
    for extra in ({"travel_mm": 0, "steer_mm": 5}, {"rows": [[0, 0, 5]]}):
        with pytest.raises(InputError, match="no steering"):
            calculate("cycle", {**beam, **extra})
    with pytest.raises(InputError, match="no steering"):
        calculate("turns", {**beam, "steer_mm": 4.0})
    assert calculate("cycle", {**beam, "travel_mm": 0, "steer_mm": 0})["positions"]


@pytest.mark.parametrize("arguments", [["calc", "--help"], ["calc", "loads", "--help"]])
def test_a_reader_that_reads_no_further_ends_it_quietly(arguments: list[str]) -> None:
    line = f"{sys.executable} -m tirante.cli {' '.join(arguments)} | head -c 1"
    for _ in range(3):
        done = subprocess.run(
            ["bash", "-o", "pipefail", "-c", line], capture_output=True, text=True, cwd=ROOT, timeout=60, check=False
        )
        assert (done.returncode, done.stderr) == (0, "")


def test_a_half_is_rounded_away_from_zero_whatever_its_last_bits_are() -> None:
    assert [format_length(mm, "mm") for mm in (819.15, 1022.35, 0.25, 0.35, -819.15)] == [
        "819.2",
        "1022.4",
        "0.3",
        "0.4",
        "−819.2",
    ]
    assert format_length(1016 - 196.85, "mm") == "819.2"
    assert format_length(819.149, "mm") == "819.1"
    assert format_length(2.0005, "mm", decimals=3) == "2.001"


def test_fatigue_takes_a_spectrum_and_sums_it_by_miner() -> None:
    """EN 1993-1-9, 3.1 and 7.1: N = 2e6 (class / range γ)³ above the constant-amplitude limit; Palmgren and Miner (from memory)."""
    spectrum = [[0.1, 1.0], [0.9, 0.5]]
    body = {"range_n": 26_000, "designation": "3/4-16 UNF", "od_mm": 31.75, "wall_mm": 3.05}
    found = calculate("fatigue", body | {"spectrum": spectrum})
    stress = 26_000 / (math.pi * 31.75 * 4.0 * 0.7071)  # on the throat of a 4 mm ring
    assert found["throat_range_mpa"] == pytest.approx(stress, rel=1e-3)
    used = sum(share / (2e6 * (36 / (stress * 1.35 * fraction)) ** 3) for share, fraction in spectrum)
    assert found["life_governing"] == "throat"
    assert found["life_cycles"] == pytest.approx(1 / used, rel=1e-3)
    alone = calculate("fatigue", body)
    assert alone["life_cycles"] == pytest.approx(alone["cycles"])
    assert calculate("fatigue", body | {"range_n": 100})["life_cycles"] == 1e9
