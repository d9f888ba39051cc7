"""The small drawing of a kind of suspension: where ahead, left and up go on it, and that every shipped kind has one with its sentence."""

from __future__ import annotations

from math import cos, radians, sin

import numpy as np
import pytest

from tests.core.test_suspension import NAMES, example, kind
from tirante.core.drawing.model import Area, Line
from tirante.core.suspension.shown.end_view import Posture, Stick, WheelShape
from tirante.core.suspension.shown.posture import postures
from tirante.core.suspension.shown.sketch import ABOVE, AROUND, HEIGHT, WIDTH, kind_sketch


def test_ahead_goes_left_outboard_right_and_up_up() -> None:
    """An eye far off ahead, left and above: a point's place is its share of the two directions square to the look (orthographic)."""
    ends = [(100.0, 0.0, 0.0), (0.0, 100.0, 0.0), (0.0, 0.0, 100.0)]
    sticks = tuple(Stick(a=(0.0, 0.0, 0.0), b=end, ref="", thick=True) for end in ends)
    drawn = kind_sketch("k", "K", Posture(sticks=sticks, wheels=()), beam=True)
    lines = [item for item in drawn.items if isinstance(item, Line)]
    a, e = radians(AROUND), radians(ABOVE)
    look = np.array([cos(e) * cos(a), cos(e) * sin(a), sin(e)])
    scale = None
    for line, end in zip(lines, ends, strict=True):
        seen = np.array([line.x2 - line.x1, line.y2 - line.y1])
        flat = np.array(end) - look * float(np.array(end) @ look)  # what is left of it square to the look
        size = np.linalg.norm(seen) / np.linalg.norm(flat)
        scale = scale or size
        assert size == pytest.approx(scale, rel=1e-2)
    ahead, left, up = lines
    assert ahead.x2 < ahead.x1
    assert left.x2 > left.x1
    assert up.x2 == pytest.approx(up.x1, abs=0.02)
    assert up.y2 > up.y1


def test_of_an_independent_end_the_left_corner_is_drawn_and_of_a_beam_both() -> None:
    wheel = {"spin": (0.0, 1.0, 0.0), "radius": 300.0, "width": 200.0, "contact": (0.0, 0.0, 0.0)}
    posture = Posture(
        sticks=tuple(Stick(a=(0.0, 0.0, 0.0), b=(0.0, side, 0.0), ref="", thick=True) for side in (500.0, -500.0)),
        wheels=tuple(WheelShape(centre=(0.0, side, 300.0), **wheel) for side in (600.0, -600.0)),  # type: ignore[arg-type]
    )  # fmt: skip
    for beam, wheels in ((False, 1), (True, 2)):
        items = kind_sketch("k", "K", posture, beam).items
        assert sum(isinstance(item, Area) for item in items) == 2 * wheels
        assert sum(isinstance(item, Line) for item in items) == wheels


@pytest.mark.parametrize("name", sorted(set(NAMES)))
def test_every_kind_that_ships_has_one_and_a_sentence(name: str) -> None:
    template, end = kind(name), example(name)
    (posture,) = postures(template, end, np.zeros((3, 1)))
    assert posture is not None
    drawn = kind_sketch(name, template.title, posture, template.axle == "beam")
    for item in drawn.items:
        points = item.points if isinstance(item, Area) else [(item.x1, item.y1), (item.x2, item.y2)]  # type: ignore[union-attr]
        assert all(0 <= x <= WIDTH and 0 <= y <= HEIGHT for x, y in points)
    assert len(drawn.items) > 6
    assert 40 < len(template.says) <= 200
    assert template.says.endswith(".")
