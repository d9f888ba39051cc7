"""What was measured against what is wanted: by coordinates, signs and tolerances, not by what says it."""

from __future__ import annotations

import re
from math import dist

import pytest

from tests.jobs import work
from tirante.core.document.design import Design
from tirante.core.job.measured import Wanted, judge, wanted_of


def of(design: Design, name: str, hand: str) -> dict[str, Wanted]:
    job = work(design)
    part = next(one for one in job.parts if one.name == name)
    return {one.key: one for one in wanted_of(job, part, hand)[0]}


def test_an_arm_is_measured_between_its_points_and_its_right_one_by_the_other_sign(mounted: Design) -> None:
    left, right = of(mounted, "Front upper arm", "left"), of(mounted, "Front upper arm", "right")
    points = mounted.ends[0].end.points
    assert left["length:upper front to upper rear"].figure == pytest.approx(dist(points["upper_front"], points["upper_rear"]))  # fmt: skip
    assert left["signed"].figure == pytest.approx(-right["signed"].figure)
    assert left["signed"].figure > 90
    for key, one in left.items():
        if key != "signed":
            assert one == right[key]
    assert len(left) == 4
    # the mirror image in the place of it, and one that is only out
    mirrored = judge(left["signed"], right["signed"].figure)
    assert not mirrored.inside
    assert "other hand" in mirrored.says
    assert "other hand" not in judge(left["signed"], left["signed"].figure + 3).says


def test_a_link_is_measured_end_to_end_and_by_what_shows_of_its_threads(mounted: Design) -> None:
    found = of(mounted, "Rear lower link", "left")
    points = mounted.ends[1].end.points
    assert found["length:end A to end B"].figure == pytest.approx(dist(points["lower_chassis"], points["lower_axle"]))
    shows = found["showing:A"]
    assert set(found) == {"length:end A to end B", "showing:A", "showing:B"}
    assert shows.most
    assert judge(shows, shows.figure).inside
    assert "Do not drive it" in judge(shows, shows.most + 0.1).says
    assert "Do not drive it" not in judge(shows, shows.most).says


@pytest.mark.parametrize(("off", "inside", "says"), [(0.5, True, "0.5 mm too long"), (-0.5, True, "0.5 mm too short"), (0.6, False, "0.1 mm more than"), (0.52, False, "0.02 mm more than"), (-2.0, False, "out: 2.0 mm too short, 1.5 mm more")])  # fmt: skip
def test_the_tolerance_is_let_through_and_no_more(off: float, inside: bool, says: str) -> None:
    wanted = Wanted(key="length:a", sort="length", what="a", figure=400.0, tolerance=0.5)
    found = judge(wanted, 400.0 + off)
    assert found.inside is inside
    assert says in found.says
    assert found.off == pytest.approx(off)


def test_a_unit_that_was_taken_for_another_is_named() -> None:
    wanted = Wanted(key="length:a", sort="length", what="a", figure=400.0, tolerance=0.5)
    assert "if it was read in inches" in judge(wanted, 15.75).says
    assert "inches were taken" in judge(wanted, 400.2 * 25.4).says
    assert "inches" not in judge(wanted, 396.0).says


def test_what_is_only_tacked_is_longer_by_what_its_rail_allows_for_shrink(mounted: Design) -> None:
    allowed = mounted.model_copy(update={"settings": mounted.settings.model_copy(update={"weld_shrink_mm": 0.3})})
    length = of(allowed, "Rear lower link", "left")["length:end A to end B"]
    cold = of(mounted, "Rear lower link", "left")["length:end A to end B"].figure
    assert (length.figure, length.shrink) == (cold, pytest.approx(2 * 0.3))  # a weld at each end
    assert judge(length, cold + 0.6, tacked=True).off == pytest.approx(0.0, abs=1e-9)
    assert not judge(length, cold + 0.6).inside
    assert not judge(length, cold - 0.1, tacked=True).inside


def test_a_bolt_is_torqued_as_its_table_says_and_one_read_in_foot_pounds_is_named(mounted: Design) -> None:
    """The table: SAE J429 grade 8, 1/2-20 UNF, proof 120 ksi over 0.1599 in² (Machinery's Handbook, from memory); T = 0.2 d F at 3/4 of proof."""
    (one,) = (
        one for one in of(mounted, "Rear strap, upper end of the strap, tabs", "").values() if one.sort == "torque"
    )
    foot_pounds = 0.2 * 0.5 / 12 * 0.75 * 120_000 * 0.1599
    assert one.figure == pytest.approx(foot_pounds * 1.3558179, rel=0.03)  # proof is taken as 0.9 of yield: 117 ksi
    assert (one.unit, one.tolerance) == ("N·m", pytest.approx(0.04 * one.figure))
    assert "grade 8" in one.what
    assert float(one.what.rpartition(", ")[2].removesuffix(" lb·ft")) == pytest.approx(foot_pounds, rel=0.03)
    assert judge(one, 1.039 * one.figure).says.startswith("within")
    light = judge(one, one.figure / 1.3558179)
    assert not light.inside
    assert light.says.endswith("it would fit if it was read in foot-pounds")
    assert judge(one, one.figure * 1.3558179).says.endswith("if foot-pounds were taken for it that were newton metres")
    assert "foot-pounds" not in judge(one, 0.8 * one.figure).says
    assert "too little" in judge(one, 0.8 * one.figure).says


def test_every_bolt_that_a_job_lists_with_a_torque_is_measured_by_it_and_a_tool_s_by_none(mounted: Design) -> None:
    """What is read off the words of the list, part by part."""
    job, seen = work(mounted), 0
    for part in job.parts:
        told = [float(found.group(1)) for piece in (*part.pieces, *part.beside) if (found := re.search(r"(\d+) N·m", getattr(piece, "what", "")))]  # fmt: skip
        wanted = [one.figure for one in wanted_of(job, part, "left")[0] if one.sort == "torque"]
        assert wanted == ([] if part.tool else pytest.approx(told, abs=0.5)), part.name
        seen += len(wanted)
    assert seen >= 15
