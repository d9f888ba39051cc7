"""The tab's contour: closed, tangent, of the right area, and refused where it contradicts itself."""

from math import atan2, cos, hypot, pi, radians, sin

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st
from shapely.geometry import LineString, Polygon

from tirante.core.errors import InputError
from tirante.core.flat.contour import Curve, Straight, grown, polygon, require_closed
from tirante.core.parts.bracket.families.tab_outline import TabOutline, Under, tab_outline

TAB = {"head_radius": 30.0, "edge": 38.0, "base_width": 70.0, "height": 45.0, "hole": 19.4, "thickness": 6.0}


def walk(outline: TabOutline, steps: int = 2000) -> np.ndarray:
    """The contour as points, in the order it is walked; it closes by itself."""
    pieces = []
    for edge in outline.contour.edges:
        if isinstance(edge, Straight):
            pieces.append(np.array([edge.start, edge.end]))
        else:
            angles = np.radians(np.linspace(edge.start_deg, edge.end_deg, steps))
            arc = np.column_stack([edge.cx + edge.r * np.cos(angles), edge.cy + edge.r * np.sin(angles)])
            pieces.append(arc[::-1] if edge.back else arc)
    for one, two in zip(pieces, [*pieces[1:], pieces[0]], strict=True):
        assert np.linalg.norm(two[0] - one[-1]) < 1e-9
    return np.vstack(pieces)


def _tab(radius: float, hole: float, beyond: float, wider: float, higher: float, thickness: float) -> dict[str, float]:
    """Most of these hold together: proportions are drawn, not sizes."""
    return {
        "head_radius": radius, "hole": 2 * radius * hole, "edge": radius * beyond, "base_width": 2 * radius * wider,
        "height": radius * higher, "thickness": thickness,
    }  # fmt: skip


tabs = st.builds(
    _tab,
    st.floats(12, 60),
    st.floats(0.1, 0.9),
    st.floats(1, 2),
    st.floats(0.5, 2),
    st.floats(0.6, 3),
    st.floats(2, 15),
)


@given(tabs, st.one_of(st.none(), st.floats(40, 200)))
def test_contour_closes_and_its_area_is_that_of_the_polygon(tab: dict[str, float], tube: float | None) -> None:
    try:
        outline = tab_outline(**tab, under=Under(tube_od=tube))
    except InputError:
        assume(False)
    require_closed(outline.contour, "tab")
    x, y = walk(outline).T
    assert np.dot(x, np.roll(y, -1)) - np.dot(y, np.roll(x, -1)) > 0  # walked with the metal on the left
    low = outline.contour.bounds
    assert low == pytest.approx((x.min(), y.min(), x.max(), y.max()), abs=1e-3)
    area = abs(np.dot(x, np.roll(y, -1)) - np.dot(y, np.roll(x, -1))) / 2 - pi * tab["hole"] ** 2 / 4
    assert outline.contour.area == pytest.approx(area, rel=1e-5)


@given(tabs)
def test_flanks_run_into_the_head_without_a_corner(tab: dict[str, float]) -> None:
    try:
        outline = tab_outline(**tab)
    except InputError:
        assume(False)
    flank, head = outline.contour.edges[0], outline.contour.edges[1]
    assert isinstance(flank, Straight)
    assert isinstance(head, Curve)
    along = atan2(flank.y2 - flank.y1, flank.x2 - flank.x1)
    at = radians(head.start_deg)
    # the tangent of a circle is square to its radius
    assert cos(along) * cos(at) + sin(along) * sin(at) == pytest.approx(0.0, abs=1e-9)


def test_metal_beyond_the_hole_is_the_edge_distance() -> None:
    outline = tab_outline(**TAB)
    assert walk(outline)[:, 1].max() == pytest.approx(TAB["height"] + TAB["edge"])
    hole = outline.contour.holes[0]
    assert (hole.x, hole.y, hole.diameter) == (0.0, TAB["height"], TAB["hole"])


def test_a_tab_on_a_thin_tube_draws_in_to_its_foot_and_is_narrowest_there() -> None:
    """By the width across it at every height: what is judged at the foot is the least of the tab."""
    outline = tab_outline(**{**TAB, "base_width": 34.0})  # the head is 60 wide
    ring = Polygon(walk(outline))
    heights = np.linspace(0.5, TAB["height"] + TAB["edge"] - TAB["head_radius"], 60)
    widths = [ring.intersection(LineString([(-100, y), (100, y)])).length for y in heights]
    assert widths[0] == pytest.approx(34.0, abs=1.0)
    assert np.diff(widths).min() > 0
    assert widths[-1] == pytest.approx(60.0, abs=0.5)


def test_a_saddle_foot_lies_on_its_tube() -> None:
    outline = tab_outline(**TAB, under=Under(tube_od=90.0))
    foot = next(e for e in outline.contour.edges if isinstance(e, Curve) and e.cy < 0)
    x, y = foot.cx + foot.r * cos(radians(foot.start_deg)), foot.cy + foot.r * sin(radians(foot.start_deg))
    assert (x, y) == pytest.approx((35.0, outline.low))
    assert hypot(x, y + 45.0) == pytest.approx(45.0)


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"base_width": 29.0}, "base_width"), ({"hole": 61.0}, "hole"), ({"edge": 20.0}, "edge"), ({"height": 9.0}, "height"),
        ({"under": Under(tube_od=60.0)}, "base_width"),
    ],
)  # fmt: skip
def test_a_shape_that_contradicts_itself_names_the_field(change: dict[str, object], field: str) -> None:
    with pytest.raises(InputError) as caught:
        tab_outline(**{**TAB, **change})  # type: ignore[arg-type]
    assert caught.value.fields == (field,)


def test_an_open_outline_is_refused_with_its_gap() -> None:
    from dataclasses import replace

    contour = tab_outline(**TAB).contour
    torn = replace(contour, edges=contour.edges[:-1])
    with pytest.raises(InputError, match=r"open by 70\.000 mm"):
        require_closed(torn, "tab")


def test_an_offset_grows_by_the_girth_and_the_corners_arc() -> None:
    # Steiner: area + girth · d + π d² of a convex outline
    contour = tab_outline(**TAB).contour
    points = walk(tab_outline(**TAB))
    girth = np.linalg.norm(np.diff(np.vstack([points, points[:1]]), axis=0), axis=1).sum()
    metal = contour.area + pi * TAB["hole"] ** 2 / 4
    assert grown(contour, 5.0).area == pytest.approx(metal + girth * 5 + pi * 25, rel=2e-4)
    assert polygon(contour).area == pytest.approx(contour.area, rel=2e-3)
