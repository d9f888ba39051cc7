"""A folded bracket whose base is a parallelogram: folded back in space, laid along a rail that runs aslant, judged by what lies on both sides of its holes.

Developed width of a skewed bracket: width / cos(angle), common practice, no source.
"""

from __future__ import annotations

from math import cos, hypot, radians, tan

import numpy as np
import pytest
from shapely.geometry import Point, Polygon

from tests.core.test_folded_u import GOOD, the_u
from tests.jobs import draw, part_of, with_part, work
from tirante.calc import calculate
from tirante.core.document.design import Design
from tirante.core.document.fields import Length
from tirante.core.document.mounts import BoxMember, FlatMember
from tirante.core.document.parts.folded_u import FoldedU
from tirante.core.drawing.sheet import Numbers
from tirante.core.errors import InputError
from tirante.core.flat.contour import polygon, require_closed
from tirante.core.job.bracket_map import as_tabs
from tirante.core.parts.bracket.families.folded_u import FOLDED_U, fitted_folded, root_pair, shift_of, welds
from tirante.core.parts.bracket.families.place_view import plates_in_space
from tirante.core.parts.stands import Stand
from tirante.core.sheet.folded_u import folded_u
from tirante.documents.cutting_table import drive
from tirante.documents.dxf import to_dxf


@pytest.mark.parametrize("skew", [25.0, -40.0])
def test_folded_back_its_free_edges_run_aslant_and_its_holes_are_in_line(skew: float) -> None:
    one = folded_u(**(GOOD | {"gap": 34.0, "width": 76.0}), skew=radians(skew))
    require_closed(one.contour, "u")
    flat = polygon(one.contour)
    assert flat.is_valid
    assert flat.area == pytest.approx(one.contour.area, rel=1e-4)
    # as much metal as a square one: the base is sheared, the ears only moved along their bends before their heads
    base = Polygon([(-one.base / 2, -90), (one.base / 2, -90), (one.base / 2, 90), (-one.base / 2, 90)])
    assert flat.intersection(base).area == pytest.approx(one.base * 76.0, rel=2e-4)
    # folded: the four corners of what lies flat are a parallelogram whose sides are square to the bolt, and aslant by the skew
    edges = {}
    for way in (1.0, -1.0):
        for side in (1.0, -1.0):
            place = one.folded(side * one.base / 2, way * 38.0 + side * one.shift, GOOD["thickness"])
            edges[way, side] = np.array(place[:2])
            corner = Point(side * one.base / 2, way * 38.0 + side * one.shift)
            rounded = way * side * skew < 0  # the inside corners, by no more than the plate is thick
            assert flat.exterior.distance(corner) < (0.3 if rounded else 1e-5)
            assert flat.buffer(-1e-3).contains(corner) is False or rounded
    for way in (1.0, -1.0):
        run = edges[way, 1.0] - edges[way, -1.0]
        assert run[1] / run[0] == pytest.approx(tan(radians(skew)))
    run = (edges[1.0, 1.0] - edges[1.0, -1.0]) / np.linalg.norm(edges[1.0, 1.0] - edges[1.0, -1.0])
    apart = edges[1.0, 1.0] - edges[-1.0, 1.0]
    assert abs(run[0] * apart[1] - run[1] * apart[0]) == pytest.approx(76.0 * cos(radians(skew)))
    holes = [one.folded(hole.x, hole.y, 0.0) for hole in one.contour.holes]
    assert [h[1:] for h in holes] == [pytest.approx((0.0, GOOD["height"]))] * 2
    with pytest.raises(InputError, match="no longer reaches under the head") as caught:
        folded_u(**(GOOD | {"gap": 34.0, "width": 50.0}), skew=radians(skew))
    assert caught.value.limits
    folded_u(**(GOOD | {"gap": 34.0, "width": caught.value.limits[0]}), skew=radians(skew))


def on_a_rail(mounted: Design, turned: float, wide: float, **more: object) -> tuple[FoldedU, Design, Stand]:
    """The demo's folded bracket on a rail that runs that far from its bolt, in its face."""
    saved = the_u(mounted).model_copy(
        update={"base_width": Length(mm=77.0), "weld_leg_mm": 3.0, "radius_mm": 3.0, **more}
    )
    (joint,) = [one for one in mounted.joints if one.by == saved.id]
    stood = work(mounted).stand_of(joint)
    assert isinstance(stood, Stand)
    one, turn = stood.standing, radians(turned)
    run = cos(turn) * one.bolt + np.sin(turn) * one.x
    middle = one.foot - 20.0 * one.y
    shape = BoxMember(a=tuple(middle - 150.0 * run), b=tuple(middle + 150.0 * run), up=tuple(one.y), width_mm=wide, height_mm=40.0, wall_mm=4.0)  # fmt: skip
    mounts = tuple(m.model_copy(update={"shape": shape, "both_sides": False}) if m.id == joint.mount else m for m in mounted.mounts)  # fmt: skip
    design = with_part(mounted.model_copy(update={"mounts": mounts}), saved)
    stand = work(design).stand_of(joint)
    assert isinstance(stand, Stand)
    return saved, design, stand


@pytest.mark.parametrize("turned", [28.0, -28.0, 118.0, -152.0])
def test_its_base_lies_along_the_rail_that_it_stands_on(mounted: Design, turned: float) -> None:
    saved, design, stand = on_a_rail(mounted, turned, 90.0 if turned == 118.0 else 78.0)
    square = part_of(saved, design)
    past = any("reach" in fault.message and fault.field == "base_width" for fault in square.faults)
    assert past is (turned != 118.0)  # with its ears along the rail there is room for it
    asks = saved.model_copy(update={"follows": True})
    (told,) = [fault for fault in part_of(asks, design).faults if fault.field == "skew_deg"]
    assert "Fit it" in told.message
    fits = fitted_folded(asks, stand)
    # its own corners in the car: folded from its flat, laid on the plates' axes; both free edges keep to one line across the rail
    one, run = stand.standing, stand.standing.run
    assert run is not None
    part = part_of(fits, design)
    assert part.complete, part.faults
    flat, half = part.own.flat, fits.base_width.mm / 2
    across = np.cross(one.y, run)
    for way in (1.0, -1.0):
        lines = []
        for side in (1.0, -1.0):
            bolt, along, up = flat.folded(side * flat.base / 2, way * half + side * flat.shift, fits.plate.mm)
            lines.append(one.foot + along * one.x + bolt * one.bolt + up * one.y)
        edge = lines[0] - lines[1]
        square_to = across if abs(edge @ run) > abs(edge @ across) else run
        assert abs(float(edge @ square_to)) < 0.02
        if square_to is across:
            assert all(abs(float((p - np.array(stand.mount.shape.a)) @ across)) <= 39.0 for p in lines)  # type: ignore[union-attr]
    assert part.own_mirror is False
    assert FOLDED_U.past(fits, [stand], part.own.joints[0]) == ""
    # where it stands in the car its ears are seen on their own sides: the plates of the scene against the same corners
    found = as_tabs(part)
    assert found
    tab, outlines, footing = found
    for (corners, _), side in zip(
        plates_in_space(tab, outlines, part.own.joints[0].gap, stand), (1.0, -1.0), strict=True
    ):
        feet = [float((p - one.foot) @ one.x) for p in corners if abs(float((p - one.foot) @ one.y)) < 1e-6]
        assert sorted(feet) == pytest.approx(sorted((side * flat.shift - half, side * flat.shift + half)))
    assert footing
    one_laid = footing.laid(part.own.joints[0].gap, stand)[0]  # the base; its bends come after it
    laid = one_laid.outline
    gap = part.own.joints[0].gap
    assert Polygon(laid).area == pytest.approx(gap * fits.base_width.mm)
    assert laid[0][0] - laid[3][0] == pytest.approx(-gap * tan(radians(fits.skew_deg)))
    assert draw(fits, design, "place", Numbers()).items
    assert draw(fits, design, "folded", Numbers()).items
    cut = drive(to_dxf(draw(fits, design, "folded-flat", Numbers())), thickness=fits.plate.mm, kerf=0.3)
    assert cut.pierces == 3


def test_it_is_judged_by_what_lies_alike_on_both_sides_of_its_holes(mounted: Design) -> None:
    saved, design, stand = on_a_rail(mounted, 20.0, 90.0, follows=True)
    fits = fitted_folded(saved, stand)
    part = part_of(fits, design)
    assert part.complete, part.faults
    gap = part.own.joints[0].gap
    shift = (gap / 2 - fits.radius_mm) * tan(radians(20.0))
    assert shift_of(fits, gap) == pytest.approx(shift, rel=1e-3)
    assert root_pair(fits, gap).base_width.mm == pytest.approx(77.0 - 2 * shift, rel=1e-4)
    foot = next(check for check in part.checks if check.key == "tab_foot")
    narrow = fits.model_copy(update={"skew_deg": 0.0, "follows": False, "base_width": root_pair(fits, gap).base_width})
    same = next(check for check in part_of(narrow, design).checks if check.key == "tab_foot")
    assert foot.demand == pytest.approx(same.demand)
    # and so by what a search asks, its wall with it
    made = part.own.joints
    searched = {one.key: one.demand for one in FOLDED_U.judged(fits, made, work(design).settings, [stand])}
    plain = {one.key: one.demand for one in FOLDED_U.judged(narrow, made, work(design).settings, [stand])}
    assert searched["tab_foot"] == pytest.approx(plain["tab_foot"])
    assert searched == pytest.approx({one.key: one.demand for one in part.checks})
    walls = [key for key in searched if key.startswith("mount_wall") or "wall" in key]
    assert walls
    assert all(searched[key] == pytest.approx(plain[key]) for key in walls)
    # round a parallelogram: its slanted sides are longer, and it closes on itself
    runs = welds(fits, gap)
    reach = gap / 2 - fits.radius_mm
    assert sum(hypot(c - a, d - b) for a, b, c, d in runs) == pytest.approx(2 * 77.0 + 4 * reach / cos(radians(20.0)), rel=1e-4)  # fmt: skip
    ends = sorted((round(x, 6), round(y, 6)) for a, b, c, d in runs for x, y in ((a, b), (c, d)))
    assert ends[::2] == ends[1::2]
    outline = Polygon([runs[0][:2], runs[0][2:], runs[1][2:], runs[1][:2]])
    assert outline.area == pytest.approx(77.0 * 2 * reach)
    weld = next(check for check in part.checks if check.key == "tab_weld").reproduce
    assert weld
    assert sorted(map(tuple, weld.input["segments"])) == sorted(runs)
    assert any(
        "parallelogram" in line.text and line.mm == pytest.approx(77.0 * cos(radians(fits.skew_deg)))
        for line in part.card.lines
    )  # type: ignore[union-attr]
    # a pair's right one is the same blank turned over
    pair = fits.model_copy(update={"side": "pair"})
    both = tuple(mount.model_copy(update={"both_sides": True}) for mount in design.mounts)
    twin = part_of(pair, with_part(design.model_copy(update={"mounts": both}), pair))
    assert twin.complete, twin.faults  # its mirror image stands on the mirrored rail
    lines = [line.text for line in twin.card.lines]  # type: ignore[union-attr]
    assert any("turned over before it is bent" in text for text in lines)


def test_a_flat_has_no_edges_to_lie_along(mounted: Design) -> None:
    saved, design, stand = on_a_rail(mounted, 0.0, 90.0, follows=True)
    one = stand.standing
    shape = FlatMember(through=tuple(one.foot), normal=tuple(one.y), wall_mm=5.0)
    mounts = tuple(m.model_copy(update={"shape": shape}) if m.id == stand.mount.id else m for m in design.mounts)
    faults = part_of(saved, design.model_copy(update={"mounts": mounts})).faults
    assert any(fault.field == "follows" and "no edges" in fault.message for fault in faults)


def test_the_command_line_cuts_it_skewed() -> None:
    data = {
        "family": "folded_u", "holds": {"bore_mm": 12, "ball_width_mm": 30, "housing_width_mm": 20, "head_diameter_mm": 32},
        "bolt": {"designation": "M12x1.75", "diameter_mm": 12, "strength_class": "10.9"}, "cases": [{"name": "one", "axial_n": 4000}],
        "parameters": {"plate_mm": 4, "radius_mm": 4, "hole_mm": 12.2, "head_radius_mm": 18, "edge_mm": 20, "base_width_mm": 60, "height_mm": 40, "skew_deg": 30},
    }  # fmt: skip
    skewed = calculate("bracket", data)
    square = calculate("bracket", {**data, "parameters": {**data["parameters"], "skew_deg": 0}})  # type: ignore[dict-item]
    found = [{check["key"]: check["demand"] for check in out["checks"]} for out in (skewed, square)]
    assert found[0]["tab_foot"] > found[1]["tab_foot"]
    assert len(skewed["flats"][0]["edges"]) == len(square["flats"][0]["edges"]) + 6


def test_a_face_that_ends_beside_its_base_is_told_and_a_wide_one_is_not(mounted: Design) -> None:
    for wide, told in ((78.0, True), (120.0, False)):
        saved, design, _ = on_a_rail(mounted, 0.0, wide)
        part = part_of(saved, design)
        assert part.complete, part.faults
        found = [one for one in part.not_checked if "of face beside it" in one]
        assert bool(found) is told
        assert not told or "0.5 mm of face" in found[0]  # a rail of 78 under a base of 77
