"""The weld along a plate's outer face: bevelled, or beside the edge of the face that it stands on.

Sources: AISC 360 Tables J2.1 and J2.2, AWS D1.1 2.4 (from memory), written out again here by points and lines.
"""

from __future__ import annotations

from math import sqrt

import numpy as np
import pytest

from tests.core.test_moving_members import again
from tests.jobs import draw, part_of, with_part, work
from tirante.calc import calculate
from tirante.core.brackets.foot_weld import bevelled_throat, edge_throat
from tirante.core.checks.result import CheckResult
from tirante.core.document.design import Design
from tirante.core.document.fields import Length
from tirante.core.document.mounts import BoxMember
from tirante.core.document.parts.bracket import FlatBase, SaddleBase, SpreadPlate, TabPair
from tirante.core.drawing.model import Area, Text
from tirante.core.drawing.sheet import Numbers
from tirante.core.parts.bracket.families.tab_checks import foot_runs, tab_checks
from tirante.core.parts.bracket.families.tab_fields import bevel_faults
from tirante.core.parts.joint import JointMade
from tirante.core.parts.part import Part
from tirante.core.parts.stands import Stand, face_edge, fitted_on


@pytest.mark.parametrize(("bevel", "leg"), [(6.0, 5.0), (10.0, 5.0), (5.0, 8.0), (8.0, 8.0)])
def test_a_bevel_counts_from_its_root_to_the_weld_s_face_less_three(bevel: float, leg: float) -> None:
    # the plate's outer face is x = 0, it stands on y = 0; the root lies as deep in it as it is bevelled
    root, toe, top = np.array([bevel, 0.0]), np.array([-leg, 0.0]), np.array([0.0, max(leg, bevel)])
    along = (top - toe) / np.linalg.norm(top - toe)
    off = root - toe
    least = abs(float(off[0] * along[1] - off[1] * along[0]))
    assert bevelled_throat(bevel, leg) == pytest.approx(max(least - 3.0, 0.707 * leg), rel=1e-6)
    assert bevelled_throat(bevel, 0.0) == pytest.approx(bevel - 3.0)  # filled flush: Table J2.1
    assert bevelled_throat(0.0, leg) == pytest.approx(0.707 * leg)
    assert bevelled_throat(3.1, 12.0) == pytest.approx(0.707 * 12.0)  # too little to better its fillet


def test_where_the_face_ends_a_fillet_is_what_lies_on_it_or_the_groove_on_the_rounded_corner() -> None:
    assert edge_throat(5.0, None, 8.0) == edge_throat(5.0, 5.0, 8.0) == pytest.approx(0.707 * 5)
    assert edge_throat(5.0, 2.0, 0.0) == pytest.approx(0.707 * 2.0)
    assert edge_throat(5.0, 0.0, 8.0) == pytest.approx(5 / 16 * 8)
    assert edge_throat(5.0, -3.0, 8.0) == pytest.approx(5 / 16 * 8)
    assert edge_throat(2.0, 0.0, 8.0) == pytest.approx(0.707 * 2)  # no more than was asked for
    assert edge_throat(5.0, 0.0, 0.0) == 0.0


def pair_on_rail(mounted: Design, room: float, **more: object) -> tuple[TabPair, Design, Part]:
    """Marram's rear lower link on its rail, the rail as wide as leaves so much face beside the plates."""
    saved = next(part for part in mounted.parts if part.name == "Rear lower link, end A, tabs")
    assert isinstance(saved, TabPair)
    saved = saved.model_copy(update={"weld_leg_mm": 4.0, **more})
    (joint,) = [one for one in mounted.joints if one.by == saved.id]
    made = part_of(saved, mounted).own.joints[0]
    stand = work(mounted).stand_of(joint)
    assert isinstance(stand, Stand)
    shape = stand.mount.shape
    assert isinstance(shape, BoxMember)
    assert stand.standing.across
    way, middle, _ = stand.standing.across
    off = abs(float(stand.standing.foot @ way) - middle)
    wide = 2 * (off + made.gap / 2 + saved.plate.mm + room)
    named = "width_mm" if abs(float(way @ np.array(shape.up))) < 0.5 else "height_mm"
    moved = stand.mount.model_copy(update={"shape": shape.model_copy(update={named: wide})})
    design = mounted.model_copy(update={"mounts": tuple(moved if m.id == moved.id else m for m in mounted.mounts)})
    stand = work(design).stand_of(joint)
    assert isinstance(stand, Stand)
    fits = fitted_on(saved, stand)
    return fits, design, part_of(fits, with_part(design, fits))


def weld_of(part: Part) -> CheckResult:
    return next(check for check in part.checks if check.key == "tab_weld")


def by_hand(tab: TabPair, made: JointMade, part: Part, outer: float) -> float:
    """The weld group worked out again by its own inertias, each run's end by its own throat."""
    told = weld_of(part).reproduce
    assert told
    runs, force, at = (
        foot_runs(tab, made.gap, 1e9 if outer < 0 else 12.0),
        np.array(told.input["force_n"]),
        np.array(told.input["at_mm"]),
    )
    outermost = made.gap / 2 + tab.plate.mm
    points, throats, weights = [], [], []
    for x1, y1, x2, y2 in runs:
        steps = np.linspace(0, 1, 4001)
        size = sqrt((x2 - x1) ** 2 + (y2 - y1) ** 2)
        points.append(np.stack([x1 + steps * (x2 - x1), y1 + steps * (y2 - y1)]))
        weights.append(np.full(4001, size / 4001))
        own = abs(y1) == abs(y2) == outermost
        throats.append(
            np.full(4001, outer if own else 0.707 * min(tab.weld_leg_mm, tab.plate.mm, tab.base.wall_mm or 99))
        )
    x, y = np.concatenate(points, axis=1)
    w, t = np.concatenate(weights), np.concatenate(throats)
    cx, cy = (w @ x) / w.sum(), (w @ y) / w.sum()
    x, y = x - cx, y - cy
    arm = at - np.array([cx, cy, 0.0])
    mx, my, mz = np.cross(arm, force)
    ixx, iyy, ixy = w @ (y * y), w @ (x * x), w @ (x * y)
    a, b = np.linalg.solve([[ixy, ixx], [-iyy, -ixy]], [mx, my])
    q = np.stack(
        [
            force[0] / w.sum() - mz * y / (ixx + iyy),
            force[1] / w.sum() + mz * x / (ixx + iyy),
            force[2] / w.sum() + a * x + b * y,
        ]
    )
    return float((np.sqrt((q**2).sum(axis=0)) / t).max())


@pytest.mark.parametrize(
    ("room", "bevel", "throat"),
    [(30.0, 0.0, None), (0.6, 0.0, 5 / 16 * 2 * 4), (2.5, 0.0, 5 / 16 * 2 * 4), (3.9, 0.0, 0.707 * 3.9), (30.0, 5.5, (5.5 + 4) * 5.5 / sqrt(4**2 + 5.5**2) - 3)],
)  # fmt: skip
def test_each_run_is_judged_by_what_is_laid_along_it(mounted: Design, room: float, bevel: float, throat: float | None) -> None:  # fmt: skip
    more = {"bevel_mm": bevel, "plate": Length(mm=6.0)} if bevel else {"plate": Length(mm=6.0)}
    tab, _, part = pair_on_rail(mounted, room, **more)
    assert part.complete, part.faults
    one, made = weld_of(part), part.own.joints[0]
    told = one.reproduce
    assert told
    fillet = 0.707 * 4.0  # the rail's wall is 4 mm
    assert ("throats_mm" in told.input) is (throat is not None)
    if throat is not None:
        outermost = made.gap / 2 + tab.plate.mm
        for (_, y1, _, y2), has in zip(told.input["segments"], told.input["throats_mm"], strict=True):
            assert has == pytest.approx(throat if abs(y1) == abs(y2) == outermost else fillet, rel=1e-3)
    assert one.demand == pytest.approx(by_hand(tab, made, part, throat or fillet), rel=2e-3)
    again(one)
    assert ("face ends" in one.note) is (room < 4.0)
    assert ("bevelled" in one.note) is (bevel > 0)
    lines = [line.text for line in part.card.lines]  # type: ignore[union-attr]
    assert any("bevelled at 45°" in text for text in lines) is (bevel > 0)


def test_a_pair_that_was_cut_before_its_rail_was_known_is_told_and_fitting_it_cures_it(mounted: Design) -> None:
    tab, design, _ = pair_on_rail(mounted, 0.5)
    assert isinstance(tab.base, FlatBase)
    old = tab.model_copy(update={"base": tab.base.model_copy(update={"edge_mm": None, "round_mm": 0.0})})
    (fault,) = part_of(old, with_part(design, old)).faults
    assert fault.field == "base/edge_mm"
    assert "0.5 mm of face beside it" in fault.message
    far, wide, part = pair_on_rail(mounted, 60.0)
    assert part.complete
    assert isinstance(far.base, FlatBase)
    same = far.model_copy(update={"base": far.base.model_copy(update={"edge_mm": None, "round_mm": 0.0})})
    assert part_of(same, with_part(wide, same)).complete  # too far off to matter
    # square corners hold no groove
    sharp = tab.model_copy(update={"base": tab.base.model_copy(update={"round_mm": 0.0})})
    assert any(one.field == "base/edge_mm" for one in part_of(sharp, with_part(design, sharp)).faults)


def test_on_a_spread_plate_it_is_that_plate_s_edge(mounted: Design) -> None:
    tab, design, part = pair_on_rail(mounted, 60.0)
    made = part.own.joints[0]
    tab = tab.model_copy(update={"spread": SpreadPlate(thickness=Length(mm=6.0), beyond_mm=3.0)})
    settings = work(design).settings
    (one,) = [check for check in tab_checks(tab, made, settings) if check.key == "tab_weld"]
    assert "the face ends 3.0 mm beside" in one.note
    assert "2.1 mm is counted" in one.note  # 0.707 · 3


def test_the_edge_is_found_along_the_bolt_whichever_way_the_plates_stand(mounted: Design) -> None:
    tab, design, _ = pair_on_rail(mounted, 7.0)
    (joint,) = [one for one in design.joints if one.by == tab.id]
    stand = work(design).stand_of(joint)
    assert isinstance(stand, Stand)
    made = part_of(tab, design).own.joints[0]
    edge, rounded = face_edge(stand)
    assert edge == pytest.approx(made.gap / 2 + tab.plate.mm + 7.0, abs=0.01)
    assert rounded == pytest.approx(8.0)  # twice its wall of 4
    # turned along the rail, the nearer of its ends, which is sawn square
    one = stand.standing
    turned = Stand(mount=stand.mount, standing=type(one)(**{**{f: getattr(one, f) for f in one.__slots__}, "bolt": one.run, "along": 31.0}), mirrored=False, at=stand.at)  # fmt: skip
    assert face_edge(turned) == (31.0, 0.0)


@pytest.mark.parametrize(("base", "bevel", "word"), [
    (FlatBase(lean_deg=12.0), 5.0, "square to a flat"), (SaddleBase(tube_od=Length(mm=60.0)), 5.0, "square to a flat"), (FlatBase(), 6.5, "6 mm at most"), (FlatBase(), 2.0, "does not reach"),
])  # fmt: skip
def test_a_bevel_that_cannot_be_says_why(mounted: Design, base: FlatBase | SaddleBase, bevel: float, word: str) -> None:
    saved = next(part for part in mounted.parts if isinstance(part, TabPair))
    tab = saved.model_copy(update={"base": base, "bevel_mm": bevel, "plate": Length(mm=6.0)})
    (fault,) = bevel_faults(tab)
    assert fault.field == "bevel_mm"
    assert word in fault.message
    assert bevel_faults(tab.model_copy(update={"bevel_mm": 0.0})) == []


def test_the_command_line_takes_a_throat_for_each_run() -> None:
    data = {"segments": [[-25, 0, 25, 0], [-25, 30, 25, 30]], "leg_mm": 5, "force_n": [0, 0, 12000], "at_mm": [0, 15, 40], "electrode_uts_mpa": 483}  # fmt: skip
    plain = calculate("weld", data)
    assert calculate("weld", {**data, "throats_mm": [0.707 * 5, 0.707 * 5]})["throat_stress_max_mpa"] == pytest.approx(plain["throat_stress_max_mpa"])  # fmt: skip
    assert calculate("weld", {**data, "throats_mm": [2.0, 8.0]})["throat_stress_max_mpa"] == pytest.approx(120.0 / 2.0)
    from tirante.core.errors import InputError

    with pytest.raises(InputError, match="a throat for each run"):
        calculate("weld", {**data, "throats_mm": [2.0]})


@pytest.mark.parametrize(("room", "bevel"), [(30.0, 0.0), (0.6, 0.0), (30.0, 5.5)])
def test_its_fillets_are_drawn_as_wide_as_the_face_lets_them_lie(mounted: Design, room: float, bevel: float) -> None:
    tab, design, part = pair_on_rail(mounted, room, bevel_mm=bevel, plate=Length(mm=6.0))
    sheet = draw(tab, design, "tab", Numbers())
    # of an area: from its root in the plate to its toe on the face; the inner ones are plain fillets of 4 mm
    welds = [item.points for item in sheet.items if isinstance(item, Area) and item.ref == "check:tab_weld"]
    wide = sorted(max(x for x, _ in points) - min(x for x, _ in points) for points in welds)
    tall = [max(y for _, y in points) - min(y for _, y in points) for points in welds]
    scale = (wide[-1] if room < 4.0 else wide[0]) / 4.0
    assert max(tall) / scale == pytest.approx(max(4.0, bevel))
    outer = room if room < 4.0 else 4.0 + bevel
    assert [one / scale for one in wide] == pytest.approx(sorted([4.0, 4.0, outer, outer]), abs=0.01)
    texts = [item.text for item in sheet.items if isinstance(item, Text)]
    assert any("outside a throat of" in text for text in texts) is (room < 4.0 or bevel > 0)
    assert part.complete
