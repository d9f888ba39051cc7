"""The tab's contour: closed, tangent, of the right area, and refused where it contradicts itself."""

from math import atan2, cos, hypot, pi, radians, sin

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from tirante.core.errors import InputError, NotApplicable
from tirante.core.parts.bracket.families.tab_outline import Curve, Straight, TabOutline, developed_area, tab_outline

TAB = {"head_radius": 30.0, "edge": 38.0, "base_width": 70.0, "height": 45.0, "hole": 19.4, "thickness": 6.0}


def walk(outline: TabOutline, steps: int = 2000) -> np.ndarray:
    """The contour as points, each edge turned so that it starts where the one before ended."""
    pieces = []
    for edge in outline.edges:
        if isinstance(edge, Straight):
            pieces.append(np.array([(edge.x1, edge.y1), (edge.x2, edge.y2)]))
        else:
            angles = np.radians(np.linspace(edge.start_deg, edge.end_deg, steps))
            pieces.append(np.column_stack([edge.cx + edge.r * np.cos(angles), edge.cy + edge.r * np.sin(angles)]))
    joined = [pieces[0]]
    for piece in pieces[1:]:
        end = joined[-1][-1]
        forward = np.linalg.norm(piece[0] - end) <= np.linalg.norm(piece[-1] - end)
        joined.append(piece if forward else piece[::-1])
        assert np.linalg.norm(joined[-1][0] - end) < 1e-9
    assert np.linalg.norm(joined[-1][-1] - joined[0][0]) < 1e-9
    return np.vstack(joined)


def _tab(radius: float, hole: float, beyond: float, wider: float, higher: float, thickness: float) -> dict[str, float]:
    """Most of these hold together: proportions are drawn, not sizes."""
    return {
        "head_radius": radius, "hole": 2 * radius * hole, "edge": radius * beyond, "base_width": 2 * radius * wider,
        "height": radius * higher, "thickness": thickness,
    }  # fmt: skip


tabs = st.builds(
    _tab, st.floats(12, 60), st.floats(0.1, 0.9), st.floats(1, 2), st.floats(1, 2), st.floats(0.6, 3), st.floats(2, 15)
)


@given(tabs, st.one_of(st.none(), st.floats(40, 200)))
def test_contour_closes_and_its_area_is_that_of_the_polygon(tab: dict[str, float], tube: float | None) -> None:
    try:
        outline = tab_outline(**tab, saddle_od=tube)
    except InputError:
        assume(False)
    x, y = walk(outline).T
    area = abs(np.dot(x, np.roll(y, -1)) - np.dot(y, np.roll(x, -1))) / 2 - pi * tab["hole"] ** 2 / 4
    assert developed_area(outline) == pytest.approx(area, rel=1e-5)


@given(tabs)
def test_flanks_run_into_the_head_without_a_corner(tab: dict[str, float]) -> None:
    try:
        outline = tab_outline(**tab)
    except InputError:
        assume(False)
    flank, head = outline.edges[0], outline.edges[1]
    assert isinstance(flank, Straight)
    assert isinstance(head, Curve)
    along = atan2(flank.y2 - flank.y1, flank.x2 - flank.x1)
    at = radians(head.start_deg)
    # the tangent of a circle is square to its radius
    assert cos(along) * cos(at) + sin(along) * sin(at) == pytest.approx(0.0, abs=1e-9)


def test_metal_beyond_the_hole_is_the_edge_distance() -> None:
    outline = tab_outline(**TAB)
    assert walk(outline)[:, 1].max() == pytest.approx(TAB["height"] + TAB["edge"])
    assert outline.hole == (0.0, TAB["height"], TAB["hole"])


def test_a_saddle_foot_lies_on_its_tube() -> None:
    outline = tab_outline(**TAB, saddle_od=90.0)
    foot = next(e for e in outline.edges if isinstance(e, Curve) and e.cy < 0)
    x, y = foot.cx + foot.r * cos(radians(foot.start_deg)), foot.cy + foot.r * sin(radians(foot.start_deg))
    assert (x, y) == pytest.approx((35.0, outline.low))
    assert hypot(x, y + 45.0) == pytest.approx(45.0)


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"base_width": 40.0}, "base_width"), ({"hole": 61.0}, "hole"), ({"edge": 20.0}, "edge"), ({"height": 9.0}, "height"),
        ({"saddle_od": 60.0}, "base_width"),
    ],
)  # fmt: skip
def test_a_shape_that_contradicts_itself_names_the_field(change: dict[str, float], field: str) -> None:
    with pytest.raises(InputError) as caught:
        tab_outline(**{**TAB, **change})  # type: ignore[arg-type]
    assert caught.value.fields == (field,)


def test_an_oblique_saddle_is_refused_by_name() -> None:
    with pytest.raises(NotApplicable) as caught:
        tab_outline(**TAB, saddle_od=90.0, saddle_angle_deg=60.0)
    assert caught.value.code == "oblique_saddle"
