"""The survey's three views: the car's left on the left from behind, forward to the left from the left and up from above; ellipses as large as they say."""

from __future__ import annotations

import re
import uuid
from math import sqrt

import pytest
from scipy.stats import chi2

from tests.core.test_loads import demo
from tests.jobs import work
from tirante.core.document.fields import Coordinate
from tirante.core.document.survey import Taken
from tirante.core.drawing.model import Arc, Area, Text
from tirante.core.drawing.sheet import Numbers
from tirante.core.job.survey_view import survey_view
from tirante.core.job.surveyed import surveyed

SD = {"ahead": 1.0, "left": 2.0, "height": 4.0}


def test_every_view_shows_its_own_two_ways_and_ellipses_are_drawn_as_large_as_is_said() -> None:
    job = work(demo("marram"))
    ends = {one.id: (one.name, job.ends[one.id]) for one in job.design.ends}
    front = job.design.ends[0].id
    places = {
        f"end:{front}:upper_front:own": (95.0, 318.0, 482.0), f"end:{front}:lower_rear:own": (-205.0, 268.0, 196.0), f"end:{front}:upper_front:mirror": (95.0, -318.0, 482.0),
    }  # fmt: skip
    entries = [
        Taken(id=str(uuid.uuid4()), kind=kind, of=(key,), read=Coordinate(mm=value), sd=SD[kind])  # type: ignore[arg-type]
        for key, at in places.items()
        for kind, value in zip(SD, at, strict=True)
    ]
    drawing = survey_view(surveyed(ends, entries), Numbers())
    left, low, right = (f"point:{key}" for key in places)
    dots = {
        ref: [(one.cx, one.cy) for one in drawing.items if isinstance(one, Arc) and one.ref == ref]
        for ref in (left, low, right)
    }
    assert {len(found) for found in dots.values()} == {3}
    behind, side, above = range(3)
    scale = (dots[right][behind][0] - dots[left][behind][0]) / 636.0  # the car's left is on the left
    assert scale > 0
    assert dots[left][behind][1] - dots[low][behind][1] == pytest.approx(scale * 286)
    assert dots[low][side][0] - dots[left][side][0] == pytest.approx(scale * 300)  # forward is to the left
    assert dots[left][side] == pytest.approx(dots[right][side])  # one behind the other
    assert dots[left][above][1] - dots[low][above][1] == pytest.approx(scale * 300)  # forward is up
    assert dots[low][above][0] - dots[left][above][0] == pytest.approx(scale * 50)
    told = next(one.text for one in drawing.items if isinstance(one, Text) and "times as large" in one.text)
    grow = float(re.search(r"drawn ([\d.]+) times", told)[1])  # type: ignore[index]
    wide = sqrt(chi2.ppf(0.95, 2)) * grow * scale
    for view, (across, up) in enumerate((("left", "height"), ("ahead", "height"), ("left", "ahead"))):
        area = [one for one in drawing.items if isinstance(one, Area) and one.ref == left][view]
        xs, ys = ([point[i] for point in area.points] for i in (0, 1))
        assert (max(xs) - min(xs)) / 2 == pytest.approx(wide * SD[across], rel=0.02)
        assert (max(ys) - min(ys)) / 2 == pytest.approx(wide * SD[up], rel=0.02)
    # what stands behind one another has both its numbers
    assert "1, 2" in [one.text for one in drawing.items if isinstance(one, Text)]
