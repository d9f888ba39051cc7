"""What was measured against what is wanted: by coordinates, signs and tolerances, not by what says it."""

from __future__ import annotations

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
    assert left["length:upper front to upper rear"].mm == pytest.approx(dist(points["upper_front"], points["upper_rear"]))  # fmt: skip
    assert left["signed"].mm == pytest.approx(-right["signed"].mm)
    assert left["signed"].mm > 90
    for key, one in left.items():
        if key != "signed":
            assert one == right[key]
    assert len(left) == 4
    # the mirror image in the place of it, and one that is only out
    mirrored = judge(left["signed"], right["signed"].mm)
    assert not mirrored.inside
    assert "other hand" in mirrored.says
    assert "other hand" not in judge(left["signed"], left["signed"].mm + 3).says


def test_a_link_is_measured_end_to_end_and_by_what_shows_of_its_threads(mounted: Design) -> None:
    found = of(mounted, "Rear lower link", "left")
    points = mounted.ends[1].end.points
    assert found["length:end A to end B"].mm == pytest.approx(dist(points["lower_chassis"], points["lower_axle"]))
    shows = found["showing:A"]
    assert set(found) == {"length:end A to end B", "showing:A", "showing:B"}
    assert shows.most
    assert judge(shows, shows.mm).inside
    assert "Do not drive it" in judge(shows, shows.most + 0.1).says
    assert "Do not drive it" not in judge(shows, shows.most).says


@pytest.mark.parametrize(("off", "inside", "says"), [(0.5, True, "0.5 mm too long"), (-0.5, True, "0.5 mm too short"), (0.6, False, "0.1 mm more than"), (0.52, False, "0.02 mm more than"), (-2.0, False, "out: 2.0 mm too short, 1.5 mm more")])  # fmt: skip
def test_the_tolerance_is_let_through_and_no_more(off: float, inside: bool, says: str) -> None:
    wanted = Wanted(key="length:a", sort="length", what="a", mm=400.0, tolerance=0.5)
    found = judge(wanted, 400.0 + off)
    assert found.inside is inside
    assert says in found.says
    assert found.off == pytest.approx(off)


def test_a_unit_that_was_taken_for_another_is_named() -> None:
    wanted = Wanted(key="length:a", sort="length", what="a", mm=400.0, tolerance=0.5)
    assert "if it was read in inches" in judge(wanted, 15.75).says
    assert "inches were taken" in judge(wanted, 400.2 * 25.4).says
    assert "inches" not in judge(wanted, 396.0).says


def test_what_is_only_tacked_is_longer_by_what_its_rail_allows_for_shrink(mounted: Design) -> None:
    allowed = mounted.model_copy(update={"settings": mounted.settings.model_copy(update={"weld_shrink_mm": 0.3})})
    length = of(allowed, "Rear lower link", "left")["length:end A to end B"]
    cold = of(mounted, "Rear lower link", "left")["length:end A to end B"].mm
    assert (length.mm, length.shrink) == (cold, pytest.approx(2 * 0.3))  # a weld at each end
    assert judge(length, cold + 0.6, tacked=True).off == pytest.approx(0.0, abs=1e-9)
    assert not judge(length, cold + 0.6).inside
    assert not judge(length, cold - 0.1, tacked=True).inside
