"""Gussets cut to the sides of their tubes: put back in the plane, every edge lies along a tube's side or between the ends of the reach."""

from __future__ import annotations

import numpy as np
import pytest
from shapely.geometry import LineString, Polygon

from tests.documents.test_on_table import demo
from tests.jobs import work
from tirante.core.parts.flat_plates import gusset_between, gusset_piece
from tirante.documents.on_table import on_table


@pytest.mark.parametrize(("angle", "a", "b", "half"), [(90.0, 100.0, 100.0, (20.0, 20.0)), (62.0, 110.0, 90.0, (12.0, 25.0)), (118.0, 80.0, 120.0, (16.0, 16.0))])  # fmt: skip
def test_a_gusset_is_what_the_tubes_leave_of_the_triangle_between_their_middle_lines(
    angle: float, a: float, b: float, half: tuple[float, float]
) -> None:
    """Against another library: the triangle less what lies within either tube, and of the same corners' distances."""
    turn = np.radians(angle)
    corner, one, two = np.zeros(2), np.array([a, 0.0]), b * np.array([np.cos(turn), np.sin(turn)])
    tubes = [LineString([corner - 5 * (end - corner), corner + 5 * (end - corner)]).buffer(r, cap_style="flat") for end, r in ((one, half[0]), (two, half[1]))]  # fmt: skip
    left = Polygon([corner, one, two]).difference(tubes[0]).difference(tubes[1])
    found = gusset_between(corner, one, two, half)
    assert found is not None
    assert found.area == pytest.approx(left.area, rel=1e-9)
    sides = sorted(float(np.hypot(e.end[0] - e.start[0], e.end[1] - e.start[1])) for e in found.edges)
    ring = np.array(left.simplify(1e-6).exterior.coords)
    assert sides == pytest.approx(sorted(np.linalg.norm(np.diff(ring, axis=0), axis=1)), rel=1e-9)
    assert found.bounds[:2] == pytest.approx((0.0, 0.0), abs=1e-9) or found.bounds[1] == pytest.approx(0.0, abs=1e-9)
    # in space, on any plane
    q, _ = np.linalg.qr(np.random.default_rng(3).normal(size=(3, 3)))
    lift = [q @ np.append(p, 0.0) + 40.0 for p in (corner, one, two)]
    again = gusset_between(*lift, half)
    assert again is not None
    assert again.area == pytest.approx(found.area, rel=1e-9)


def test_tubes_that_leave_nothing_of_a_gusset_leave_the_triangle_to_be_marked_out() -> None:
    ends = np.zeros(2), np.array([50.0, 0.0]), np.array([0.0, 50.0])
    assert gusset_between(*ends, (24.0, 24.0)) is None
    piece = gusset_piece("gusset", ("steel", 4.0), ends, (24.0, 24.0))
    assert piece.outline is None
    assert "trim to their sides" in piece.told
    assert (piece.length, piece.width) == pytest.approx((50 * 2**0.5, 25 * 2**0.5))


@pytest.mark.parametrize(("name", "piece"), [("marram", "gusset"), ("plover", "hub flange at wheel centre")])
def test_every_plate_with_an_outline_has_a_file_that_the_table_takes(name: str, piece: str) -> None:
    job = work(demo(name))
    found = on_table(job, 1.2)
    tried = next(one for one in found.plates if one.piece == piece)
    assert tried.driven is not None
    part = job.part(tried.part_id)
    assert part
    plate = next(one for one in part.pieces if one.name == piece)  # type: ignore[union-attr]
    assert tried.driven.area_mm2 == pytest.approx(plate.outline.area, rel=2e-4)  # type: ignore[union-attr]
    assert (tried.driven.pierces, tried.count) == (1 + len(plate.outline.holes), plate.count * part.saved.count)  # type: ignore[union-attr]
