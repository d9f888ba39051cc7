"""Two tabs from one strip: sawn apart by another library's shapes, and each set on its tube."""

from __future__ import annotations

import numpy as np
import pytest
from shapely.affinity import rotate, translate
from shapely.geometry import MultiPolygon, Point, Polygon

from tests.core.test_mounts import IDS, SHOP
from tests.jobs import draw, part_of, with_part, work
from tirante.core.document.design import Design
from tirante.core.document.fields import Length
from tirante.core.document.joints import HeldJoint
from tirante.core.document.parts.bracket import FlatBase, RowOfHoles, SaddleBase, TabPair
from tirante.core.drawing.model import Text
from tirante.core.drawing.sheet import Numbers
from tirante.core.flat.contour import polygon
from tirante.core.notch.hole_saw import USUAL_SAWS
from tirante.core.parts.bracket.families.strip import sagitta, strip_faults, strip_of, strip_outline
from tirante.core.parts.part import PlatePiece
from tirante.core.parts.registry import kind_of


def mm(value: float) -> Length:
    return Length(mm=value)


def tab(tube: float, width: float) -> TabPair:
    return TabPair(
        id=IDS[150], name="Strip", plate=mm(6), hole=mm(12.4), head_radius=mm(width / 2), edge=mm(width / 2 + 2), base_width=mm(width), height=mm(38),
        base=SaddleBase(tube_od=mm(tube)), strip=True,
    )  # fmt: skip


@pytest.mark.parametrize(("tube", "width"), [(76.2, 40.0), (50.0, 36.0), (48.3, 38.0), (101.6, 60.0), (63.5, 44.0)])
def test_sawn_apart_both_tabs_stand_on_the_tube_with_their_holes_where_they_belong(tube: float, width: float) -> None:
    one = tab(tube, width)
    strip = strip_of(one)
    outline = strip_outline(one)
    whole = polygon(outline, 0.0002)
    assert whole.bounds == pytest.approx((-strip.length / 2, -width / 2, strip.length / 2, width / 2), abs=1e-3)
    parts = whole.difference(Point(0, 0).buffer(strip.saw / 2, 2000))
    assert isinstance(parts, MultiPolygon)
    assert len(parts.geoms) == 2  # the saw goes right through
    first, second = parts.geoms
    assert first.area == pytest.approx(second.area, rel=1e-6)
    right = next(g for g in (first, second) if g.centroid.x > 0)
    hole = max(outline.holes, key=lambda h: h.x)
    assert Polygon(right.interiors[0]).centroid.x == pytest.approx(hole.x, abs=1e-6)
    # stood up on the tube, its hole as high over the crown as it is to be
    up = translate(rotate(right, 90, origin=(0, 0)), 0.0, tube / 2 + one.height.mm - hole.x)
    xs = np.linspace(-width / 2 + 1e-6, width / 2 - 1e-6, 401)
    at = tube / 2 + one.height.mm - hole.x  # of the saw's centre over the tube's
    foot = at + np.sqrt(strip.saw**2 / 4 - xs**2)
    skin = np.sqrt(tube**2 / 4 - xs**2)
    clear = foot - skin
    assert clear.min() == pytest.approx(0.0, abs=1e-6)  # it touches, and cuts into nothing
    assert clear.max() == pytest.approx(strip.gap, abs=1e-3)
    assert (abs(xs[np.argmax(clear)]) > 1.0) == strip.at_sides or strip.gap < 1e-9
    # and it is that piece: the foot's middle is where the sum says
    assert up.bounds[1] == pytest.approx(min(foot[0], foot[200]), abs=2e-3)
    top = up.bounds[3]
    assert top == pytest.approx(tube / 2 + one.height.mm + one.edge.mm, abs=1e-3)
    # no saw that is sold leaves less
    others = [abs(sagitta(tube, width) - sagitta(s, width)) for s in USUAL_SAWS if s > width]
    assert strip.gap == pytest.approx(min(others))


def test_a_saw_of_the_tube_s_own_size_leaves_nothing() -> None:
    strip = strip_of(tab(76.0, 40.0))
    assert (strip.saw, strip.gap) == (76, 0.0)
    # two heads, two heights, the saw between them
    assert strip.length == pytest.approx(76.0 + 2 * 38.0 + 2 * 22.0)
    assert strip.apart == pytest.approx(76.0 + 2 * 38.0)
    assert strip.middle == pytest.approx(strip.hole_at + strip.apart / 2)


def test_what_cannot_be_made_from_a_strip_is_refused_by_name() -> None:
    good = tab(76.2, 40.0)
    assert strip_faults(good) == []
    slant = good.model_copy(update={"base": SaddleBase(tube_od=mm(76.2), angle_deg=70.0)})
    assert strip_faults(slant)[0].field == "strip"
    assert strip_faults(good.model_copy(update={"base": FlatBase()}))[0].field == "strip"
    assert strip_faults(good.model_copy(update={"holes": RowOfHoles()}))[0].field == "strip"
    assert "40 mm wide" in strip_faults(good.model_copy(update={"base_width": mm(50.0)}))[0].message
    assert "narrower" in strip_faults(tab(40.0, 40.0))[0].message
    assert strip_faults(slant.model_copy(update={"strip": False})) == []
    wide = tab(300.0, 120.0)
    assert "fillet fills" in strip_faults(wide)[0].message  # no saw is that large


def test_a_pair_on_a_tube_comes_from_strips_on_list_card_and_file(mounted: Design) -> None:
    saved = next(p for p in mounted.parts if isinstance(p, TabPair) and isinstance(p.base, SaddleBase) and p.base.angle_deg == 90.0 and not p.base.lean_deg and p.holes is None)  # fmt: skip
    one = saved.model_copy(update={"strip": True})
    design = with_part(mounted, one)
    job = work(design)
    sized = kind_of(one).size(one, job, SHOP, "mass")
    assert sized.winner is not None, sized.advice
    pair = sized.winner.parts[0]
    assert isinstance(pair, TabPair)
    assert pair.strip
    assert pair.base_width.mm == pytest.approx(2 * pair.head_radius.mm)
    joints = {joint.id: joint for joint in (*design.joints, *sized.winner.joints)}
    made = with_part(design, pair).model_copy(update={"joints": tuple(joints.values())})
    rows = made.catalogue.model_copy(update={"bolts": SHOP.bolts})
    made = made.model_copy(update={"catalogue": rows})
    part = part_of(pair, made)
    assert not part.faults, part.faults
    (strip,) = [piece for piece in part.pieces if isinstance(piece, PlatePiece) and piece.sort == "strip"]
    held: list[HeldJoint] = [joint for joint in made.joints if joint.by == pair.id]
    assert strip.count == len(held)  # two plates a joint, two plates a strip
    assert not [piece for piece in part.pieces if piece.sort == "tab"]
    assert [view.name for view in part.views if view.cut] == ["strip-flat"]
    assert part.card
    lines = {line.text: line.mm for line in part.card.lines}
    assert lines["strip, long"] == pytest.approx(strip_of(pair).length)
    sheet = draw(pair, made, "strip", Numbers())
    assert [item for item in sheet.items if "hole saw" in getattr(item, "text", "")]
    texts = [item for item in sheet.items if isinstance(item, Text)]
    assert all(item.x + 0.55 * item.size * len(item.text) < 217.0 for item in texts if item.anchor == "start")
    both = 2 if pair.side == "pair" else 1
    s = "" if len(held) * both == 1 else "s"
    assert [
        item for item in sheet.items if getattr(item, "text", "") == f"Cut {len(held) * both} strip{s}, two tabs each"
    ]
    flat = draw(pair, made, "strip-flat", Numbers())
    assert (flat.width, flat.height) == pytest.approx((strip.length, strip.width))
