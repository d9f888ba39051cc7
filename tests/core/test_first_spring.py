"""What a new end of every kind begins on: a damper that it can be moved with, and no rate that nobody typed."""

from __future__ import annotations

from math import dist

import pytest

from tirante.core.suspension.far_off import far_off
from tirante.core.suspension.first_spring import with_damper
from tirante.core.suspension.study import study
from tirante.shipped import the_shelf
from tirante.shipped.templates import example_ends

KINDS = sorted(the_shelf().templates)


@pytest.mark.parametrize("kind", KINDS)
def test_a_new_end_can_be_moved_on_its_damper_and_is_stopped_by_it(kind: str) -> None:
    template, example = the_shelf().templates[kind], example_ends()[kind]
    end = with_damper(template, example)
    if example.dampers or not template.rises:
        assert end == example
        return
    damper = end.damper
    assert damper
    assert damper.rate_n_per_mm is None
    assert not end.rated
    top, low = (end.points[place.point] for place in damper.places)
    assert damper.closed_mm is not None
    assert damper.open_mm is not None
    assert damper.closed_mm < dist(low, top) < damper.open_mm
    assert 0 < low[1] < end.points[template.roles.wheel_centre][1]
    assert top[2] > low[2]
    assert far_off(template, end) == []
    found = study(template, end, 100.0, 100.0, 0.0, 0.0)
    assert "damper is closed" in found.bump
    assert "damper is open" in found.droop
    # it moves with its wheel, near enough that its stroke is most of the wheel's
    assert 50.0 < found.highest < 100.0
    assert -100.0 < found.lowest < -50.0
