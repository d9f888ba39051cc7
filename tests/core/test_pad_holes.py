"""Further holes in pads, lightening holes in their webs, round corners: where they may be, what is left of what carries, cut as they are judged."""

from __future__ import annotations

from dataclasses import replace
from math import hypot, pi
from typing import Any

import pytest
from pydantic import ValidationError
from scipy.integrate import quad
from shapely.geometry import Point

from tests.core.test_bearing_pad import BOX, fitted, with_pad
from tests.core.test_leaf_perch import with_perch
from tests.core.test_strike_pad import padded, worked
from tests.jobs import draw, part_of, with_part
from tirante.calc import calculate
from tirante.core.brackets.bearing_pad import OnBearing, PadBolts, plate_stress
from tirante.core.brackets.strike_pad import Blow, PadOnWebs, plate_bending, web_push, web_stress
from tirante.core.document.design import Design
from tirante.core.document.fields import Length
from tirante.core.document.parts.angle_bracket import AngleBracket
from tirante.core.document.parts.bracket import Lighten
from tirante.core.document.parts.pad import PadHole
from tirante.core.document.parts.strike_pad import StrikePad
from tirante.core.drawing.sheet import Numbers
from tirante.core.errors import InputError
from tirante.core.flat.contour import polygon, require_closed
from tirante.core.parts.bracket.families.angle_bracket import flat_of as flat_of_angle
from tirante.core.parts.bracket.families.angle_bracket import shim_outline
from tirante.core.parts.bracket.families.pad import pad_outline
from tirante.core.parts.part import Part, PlatePiece
from tirante.core.sheet.lapped import lapped
from tirante.core.units import STEEL_DENSITY
from tirante.documents.cutting_table import drive
from tirante.documents.dxf import to_dxf

PAD = PadOnWebs(plate=8.0, length=120.0, web=6.0, apart=50.0, height=60.0, footprint=20.0)
HOLE = PadHole(what="sensor", along_mm=66.0, across_mm=0.0, diameter_mm=6.0)


# --- what is left ----------------------------------------------------------------------------------------------------------------


def test_a_web_beside_its_hole_is_a_beam_of_what_is_left_and_two_legs_that_what_shears_bends() -> None:
    bored, d, t = replace(PAD, hole=40.0), 40.0, 6.0
    area = t * (120.0 - d)
    inertia = 2 * t * quad(lambda x: x * x, d / 2, 60.0)[0]
    assert web_stress(bored, Blow(push=9000.0)) == pytest.approx(4500 / area)
    # tilted along the webs by a couple alone, half of it on either
    assert web_stress(bored, Blow(push=0.0, tilts=400_000.0)) == pytest.approx(200_000 * 60 / inertia)
    # pushed along: the same, and V/2 shared by the legs beside the hole, built in at both ends of 0.45 diameters
    leg = (120.0 - d) / 2
    local = 1000 / 2 * (0.45 * d / 2) / (t * leg**2 / 6)
    assert web_stress(bored, Blow(push=0.0, along=2000.0)) == pytest.approx(1000 * 60 * 60 / inertia + local)
    # twisted: one web is pushed along itself forward, the other back
    twisted = web_stress(bored, Blow(push=0.0, twists=100_000.0))
    assert twisted == pytest.approx(100_000 / 50 * 60 * 60 / inertia + 2000 / 2 * (0.45 * d / 2) / (t * leg**2 / 6))
    # across: each a leg of a portal as thick as it is, as wide as is left
    tipped = web_push(bored, Blow(push=0.0, across=800.0)) / area
    assert web_stress(bored, Blow(push=0.0, across=800.0)) == pytest.approx(tipped + 400 * 30 / (area * t / 6))
    assert (bored.column.width, bored.column.thickness, bored.column.length) == (80.0, 6.0, 60.0)
    # and no hole, no difference
    assert web_stress(replace(PAD, hole=0.0), Blow(push=9000.0, along=2000.0)) == web_stress(PAD, Blow(push=9000.0, along=2000.0))  # fmt: skip


def test_further_holes_are_taken_off_the_width_that_carries() -> None:
    lost = replace(PAD, lost=18.0)
    wide = 2 * 20 + 50.0
    for blow in (Blow(push=9000.0), Blow(push=9000.0, off_across=6.0)):
        assert plate_bending(lost, blow) == pytest.approx(plate_bending(PAD, blow) * wide / (wide - 18))
        rim, bare = replace(lost, rim=True), replace(PAD, rim=True)
        assert plate_bending(rim, blow) == pytest.approx(plate_bending(bare, blow) * wide / (wide - 18))
    on = OnBearing(off=3000.0, over=0.0)
    for turned, apart, strip in ((0.0, 50.0, None), (90.0, 70.0, 2 * (8 + 35 - 26)), (90.0, 30.0, 2 * (8 + 26 - 15))):
        bolts = PadBolts(bolt=8.0, hole=8.5, pitch=52.0, turned_deg=turned, high=24.0)
        one = replace(PAD, footprint=8.0, apart=apart)
        wide = strip if strip is not None else min(8 + 25, 60 - 26) + min(8 + 25, 26)
        net = wide - (0.0 if turned and apart < 52 else 8.5)
        less = plate_stress(replace(one, lost=5.0), bolts, on)
        assert less == pytest.approx(plate_stress(one, bolts, on) * net / (net - 5))
    with pytest.raises(InputError):
        plate_stress(replace(PAD, footprint=8.0, apart=30.0, lost=60.0), PadBolts(bolt=8.0, hole=8.5, pitch=52.0, turned_deg=90.0, high=24.0), on)  # fmt: skip


# --- on a car --------------------------------------------------------------------------------------------------------------------


def large(**more: Any) -> tuple[Design, StrikePad]:
    """Plover’s bump stop’s pad, long and high enough for everything."""
    return padded("plover", 1, **({"length_mm": 170.0, "width_mm": 110.0, "height_mm": 60.0, "apart_mm": 22.0} | more))


def plate_of(part: Part, name: str) -> PlatePiece:
    (found,) = (piece for piece in part.pieces if isinstance(piece, PlatePiece) and piece.name == name)
    return found


def test_they_are_cut_listed_weighed_and_judged() -> None:
    design, plain = large()
    before = worked(design)
    assert before.faults == (), before.faults
    radius = before.own.shape.pad.footprint
    at = ((radius + 8.0, 0.0), (-radius - 5.0, 35.0))
    extra = tuple(HOLE.model_copy(update={"along_mm": x, "across_mm": y, "diameter_mm": d}) for (x, y), d in zip(at, (4.0, 9.0), strict=True))  # fmt: skip
    bored = plain.model_copy(update={"extra": extra, "lighten": Lighten(), "corner_mm": 12.0})
    part = part_of(bored, with_part(design, bored))
    assert part.faults == (), part.faults
    pad = plate_of(part, "pad")
    assert [(hole.x, hole.y, hole.diameter) for hole in pad.outline.holes] == [(*at[0], 4.0), (*at[1], 9.0)]
    assert pad.told == "2 more holes"
    # each web's hole as far from its foot as from its top, with its rim to all of its edges, as large as that lets it be
    shape, rim = part.own.shape, max(8.0, 2 * plain.web_mm)
    d = shape.pad.hole
    rooms = []
    for i, name in enumerate(("inner web", "outer web") if len({round(sum(web), 6) for web in shape.heights}) > 1 else ("web", "web")):  # fmt: skip
        web = plate_of(part, name)
        (hole,) = web.outline.holes
        assert hole.diameter == d
        bare = polygon(replace(web.outline, holes=()))
        rooms.append(float(bare.boundary.distance(Point(hole.x, hole.y))))
        rear, front = shape.heights[i]
        top = (rear + front) / 2 - hole.y
        assert hole.y == pytest.approx(top * 170 / hypot(170, front - rear), abs=0.2)
    assert min(rooms) - d / 2 == pytest.approx(rim, abs=0.55)
    assert min(rooms) - d / 2 >= rim - 0.06
    webs = sum(piece.count for piece in part.pieces if "web" in piece.name)  # type: ignore[union-attr]
    lost = (pi / 4 * (16 + 81) + (4 - pi) * 144) * plain.plate_mm + webs * pi / 4 * d * d * plain.web_mm
    assert (before.mass or 0) - (part.mass or 0) == pytest.approx(lost * STEEL_DENSITY, rel=1e-6)
    for view, more in (("pad", 2), ("web-1", 1)):
        counts = [drive(to_dxf(draw(one, with_part(design, one), view, Numbers())), thickness=1.0, kerf=0.3).pierces for one in (plain, bored)]  # fmt: skip
        assert counts[1] - counts[0] == more
    lines = part.card.lines  # type: ignore[union-attr]
    assert any(line.text.startswith("hole ⌀9 mm for sensor in the plate, 35 mm across") and line.mm == at[1][0] for line in lines)  # fmt: skip
    assert any(line.text == f"lightening hole midway along either web ⌀{round(d, 2):g} mm" for line in lines)
    assert any("corners round" in line.text and line.mm == 12.0 for line in lines)
    # judged: by the pad that is left, in its own worst case, and repeated by the command line
    old, new = ({check.key: check for check in one.checks} for one in (before, part))
    assert set(old) == set(new)
    assert {key for key in new if new[key].demand != old[key].demand} == {"pad_plate", "pad_web"}
    assert new["pad_column"].capacity < old["pad_column"].capacity
    carries = min(170.0, 2 * radius + 22.0)
    assert new["pad_plate"].demand == pytest.approx(old["pad_plate"].demand * carries / (carries - 13))
    for key in ("pad_plate", "pad_web", "pad_column"):
        again = new[key].reproduce
        assert again
        out = calculate(again.topic, again.input)
        assert out[again.output] == pytest.approx(new[key].demand)
        if key == "pad_column":
            assert out["column_n"] == pytest.approx(new[key].capacity)


@pytest.mark.parametrize(
    ("hole", "field", "told"),
    [
        ({"along_mm": 80.0}, "extra.0.diameter_mm", "not there"),
        ({"along_mm": 69.5, "across_mm": 35.0, "diameter_mm": 9.0}, "extra.0.diameter_mm", "at most 7 mm across"),
        ({"along_mm": 40.0}, "extra.0.along_mm", "under the stop"),
        ({"along_mm": 60.0, "across_mm": 20.0}, "extra.0.across_mm", "beside a web"),
        ({"along_mm": 60.0, "across_mm": 22.0, "diameter_mm": 7.0}, "extra.0.across_mm", "at most 4 mm across"),
    ],
)
def test_where_a_hole_may_not_be_it_says_how_much_is_left_and_what_goes(hole: dict[str, float], field: str, told: str) -> None:  # fmt: skip
    design, plain = large()
    wrong = plain.model_copy(update={"extra": (HOLE.model_copy(update=hole),)})
    (fault,) = part_of(wrong, with_part(design, wrong)).faults
    assert fault.field == field
    assert told in fault.message, fault.message
    if "at most" in told:  # what it says goes, and half a millimetre more does not
        most = float(told.split()[2])
        for d, faults in ((most, 0), (most + 0.5, 1)):
            one = plain.model_copy(update={"extra": (HOLE.model_copy(update=hole | {"diameter_mm": d}),)})
            assert len(part_of(one, with_part(design, one)).faults) == faults


def test_two_stand_apart_and_a_web_that_has_no_room_for_its_hole_says_so() -> None:
    design, plain = large()
    two = (
        HOLE.model_copy(update={"along_mm": 60.0, "across_mm": 35.0}),
        HOLE.model_copy(update={"along_mm": 70.0, "across_mm": 35.0}),
    )
    near = plain.model_copy(update={"extra": two})
    (fault,) = part_of(near, with_part(design, near)).faults
    assert (fault.field, "Between holes 1 and 2 4.0 mm" in fault.message) == ("extra.1.along_mm", True)
    low = plain.model_copy(update={"length_mm": 32.0, "lighten": Lighten()})
    assert [one.field for one in part_of(low, with_part(design, low)).faults] == ["lighten"]
    light = plain.model_copy(update={"lighten": Lighten()})
    most = part_of(light, with_part(design, light)).own.shape.pad.hole
    for d, fields in ((most, []), (most + 0.5, ["lighten.diameter_mm"])):
        one = plain.model_copy(update={"lighten": Lighten(diameter_mm=d)})
        assert [fault.field for fault in part_of(one, with_part(design, one)).faults] == fields
    with pytest.raises(ValidationError, match="corner_mm"):
        StrikePad.model_validate(plain.model_dump() | {"corner_mm": 42.0})  # (110 − 22 − 6)/2 = 41


def part_fault(design: Design, wide: dict[str, float]) -> str:
    span = HOLE.model_copy(update={"along_mm": 11.0, "across_mm": 12.9, "diameter_mm": 3.0})
    return with_pad(design, **wide, plate_mm=4.0, apart_mm=50.0, extra=(span,)).faults[0].message


def test_under_a_bearing_and_on_a_leaf_s_seat_there_are_none() -> None:
    design = fitted(BOX, length_mm=90.0)
    wide = {"length_mm": 110.0, "width_mm": 130.0}
    free = with_pad(design, **wide)
    assert free.faults == ()
    x, y = free.own.bolts.at
    assert (x, y) == pytest.approx((26.0, 0.0))  # one behind the other, between the webs
    for beside, faults in ((13.5 - 0.6, 1), (13.5 + 0.1, 0)):  # its foot reaches 1.5 bolts to either side of their line
        span = HOLE.model_copy(update={"along_mm": 11.0, "across_mm": beside, "diameter_mm": 3.0})
        under = with_pad(design, **wide, plate_mm=4.0, apart_mm=50.0, extra=(span,))
        assert [fault.field for fault in under.faults] == ["extra.0.along_mm"] * faults, under.faults
    assert "0.6 mm under the bearing’s foot, taken as 3 of its bolts wide" in part_fault(design, wide)
    aside = HOLE.model_copy(update={"along_mm": 40.0, "across_mm": 50.0, "diameter_mm": 5.0})
    holed = with_pad(design, **wide, extra=(aside,))
    assert holed.faults == (), holed.faults
    one, two = (next(check for check in part.checks if check.key == "pad_bolted") for part in (free, holed))
    assert two.demand > one.demand
    assert two.reproduce
    assert two.reproduce.input["lost_mm"] == 5.0
    assert calculate(two.reproduce.topic, two.reproduce.input)["plate_mpa"] == pytest.approx(two.demand)
    job, perch = with_perch()
    bored = perch.model_copy(update={"extra": (HOLE.model_copy(update={"along_mm": 20.0, "diameter_mm": 3.0}),), "plate_mm": 4.0})  # fmt: skip
    (fault,) = part_of(bored, with_part(job, bored)).faults
    assert fault.field.startswith("extra.0.")


# --- corners ---------------------------------------------------------------------------------------------------------------------


def test_round_corners_are_quarters_of_a_circle_on_pad_lapped_plate_angle_and_shim() -> None:
    corner = (4 - pi) / 4
    pad = StrikePad(
        id="00000000-0000-4000-8000-000000000001",
        name="pad",
        end_id="00000000-0000-4000-8000-000000000002",
        width_mm=90.0,
    )
    sharp, round_ = (pad_outline(pad.model_copy(update={"corner_mm": c})) for c in (0.0, 10.0))
    require_closed(round_, "pad")
    assert sharp.area - round_.area == pytest.approx(4 * corner * 100)
    head = (18.0, 22.0, 12.5)
    one, two = (lapped(6.0, 50.0, 60.0, 90.0, head, corner=c).contour for c in (0.0, 12.0))
    require_closed(two, "plate")
    assert one.area - two.area == pytest.approx(2 * corner * 144)
    assert one.bounds == pytest.approx(two.bounds)
    half = lapped(6.0, 50.0, 60.0, 90.0, head, corner=25.0).contour  # all of its end round
    require_closed(half, "plate")
    with pytest.raises(InputError, match="corners of its far end"):
        lapped(6.0, 50.0, 60.0, 90.0, head, corner=25.1)
    angle = AngleBracket(
        id="00000000-0000-4000-8000-000000000003", name="angle", plate=Length(mm=6.0), radius_mm=6.0, hole=Length(mm=16.3), head_radius=Length(mm=24.0), edge=Length(mm=28.0),
        base_width=Length(mm=70.0), height=Length(mm=66.0), gauge_mm=31.0, toe_mm=16.0, apart_mm=40.0, shim_mm=4.0,
    )  # fmt: skip
    curved = angle.model_copy(update={"corner_mm": 14.0})
    for of in (lambda a: flat_of_angle(a).contour, shim_outline):
        require_closed(of(curved), "angle")
        assert of(angle).area - of(curved).area == pytest.approx(2 * corner * 196)
        assert of(angle).bounds == pytest.approx(of(curved).bounds)
        # as far from a bolt's middle to the round as to an edge, by another library
        plate = polygon(replace(of(curved), holes=()))
        bolts = [hole for hole in of(curved).holes if hole.diameter == 11.0]
        assert all(plate.boundary.distance(Point(hole.x, hole.y)) >= 1.2 * 11.0 for hole in bolts)
    with pytest.raises(InputError, match="beside the foot’s bolts"):
        flat_of_angle(angle.model_copy(update={"corner_mm": 33.0}))
