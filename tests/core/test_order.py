"""What is to be bought: counted from the pieces themselves, weighed and priced by hand, suppliers' lists read and refused."""

from __future__ import annotations

from collections import Counter
from dataclasses import replace
from math import cos, pi, radians

import numpy as np
import pytest

from tests.core.test_loads import demo
from tests.core.test_on_sheets import own
from tests.jobs import work
from tirante.core.cutting.consumables import consumables, plate_mass
from tirante.core.cutting.cut_list import cut_list
from tirante.core.cutting.order import Offer, OrderLine, not_ordered, offer_of, order_of, price_key, read_prices
from tirante.core.document.rack import RackRow
from tirante.core.errors import InputError
from tirante.core.flat.contour import Contour, Hole, straight_sides
from tirante.core.parts.part import BoughtPiece, NotchedEnd, PlatePiece, ToolPiece, TubePiece, TurnedPiece, box_piece

JOB = work(demo("marram"))


def order(spares: int = 0, rack: tuple[RackRow, ...] = ()) -> tuple[OrderLine, ...]:
    return order_of(JOB.parts, JOB.catalogue, rack, spares)


def test_every_bolt_is_ordered_by_its_length_and_every_one_has_its_locking_nut() -> None:
    """Two grips that ask for one length are one line; as many locking nuts of a thread as bolts that carry one."""
    lines = order()
    bolts = [piece for part in JOB.parts if part.complete for piece in (*part.pieces, *part.beside) if isinstance(piece, BoughtPiece) and piece.order for _ in range(piece.count * part.saved.count)]  # fmt: skip
    assert len({piece.what for piece in bolts}) > len({piece.order for piece in bolts})
    assert Counter({line.what: int(line.count) for line in lines if line.sort == "bolt" and "under the head" in line.what}) == Counter(piece.order for piece in bolts)  # fmt: skip
    assert {line.what: line.count for line in lines if line.sort == "nut" and line.what.startswith("locking")} == Counter(piece.nut for piece in bolts)  # fmt: skip
    for piece in bolts:
        assert piece.what.split(", order ")[0] in piece.order
        assert piece.order.rpartition(", ")[2].split()[0] in piece.what


def test_tube_is_ordered_by_the_metre_with_its_mass_and_its_grade_s_price() -> None:
    line = next(one for one in order() if one.sort == "tube" and one.what.startswith("2 × 0.120 in"))
    pieces = [(piece, part.saved.count) for part in JOB.parts if part.complete for piece in part.pieces if isinstance(piece, TubePiece) and piece.tube == "2 × 0.120 in"]  # fmt: skip
    metres = sum(piece.length * piece.count * count for piece, count in pieces) / 1000
    assert line.count == pytest.approx(metres)
    grade = next(row for row in JOB.catalogue.grades if row.key == pieces[0][0].grade_key)
    od, inside = 50.8, 50.8 - 2 * 3.048
    kilograms = pi / 4 * (od**2 - inside**2) * 1e-6 * metres * grade.density_kg_m3
    assert f"{kilograms:.2f} kg" in line.told
    assert line.each is None  # the demo knows no price: it is said, and nothing is summed
    assert line.cost is None
    priced = JOB.catalogue.model_copy(update={"grades": tuple(row.model_copy(update={"price": 4.0}) for row in JOB.catalogue.grades)})  # fmt: skip
    known = next(one for one in order_of(JOB.parts, priced, ()) if one.what == line.what)
    assert known.cost == pytest.approx(4.0 * kilograms)


def test_plate_is_ordered_by_the_area_of_its_metal_and_what_the_shop_has_stands_beside() -> None:
    sheet = RackRow.model_validate({"id": own(1), "sort": "sheet", "stock": "plate 3 mm", "material": "S275", "length_mm": 500.0, "width_mm": 400.0, "count": 2})  # fmt: skip
    tube = RackRow.model_validate({"id": own(2), "stock": "2 x 0.120 IN", "material": "4130 normalised, wall to 4.78 mm", "length_mm": 1500.0, "count": 3})  # fmt: skip
    lines = order(rack=(sheet, tube))
    line = next(one for one in lines if one.what == "3 mm S275 plate")
    area = sum(piece.outline.area * piece.count * part.saved.count for part in JOB.parts if part.complete for piece in part.pieces if isinstance(piece, PlatePiece) and piece.outline and (piece.thickness, piece.material) == (3.0, "S275 plate"))  # fmt: skip
    assert line.count == pytest.approx(area * 1e-6)
    assert (line.unit, line.there) == ("m²", "0.40 m² in 2")
    assert next(one.there for one in lines if one.what.startswith("2 × 0.120 in")) == "4.50 m in 3"
    assert all(one.there == "" for one in lines if one.sort not in ("tube", "plate"))


def test_spares_are_of_what_is_bought_one_by_one_alone() -> None:
    plain, more = order(), order(spares=2)
    assert [(one.what, one.hand) for one in plain] == [(one.what, one.hand) for one in more]
    for before, after in zip(plain, more, strict=True):
        assert after.count - before.count == (0 if before.unit else 2)
        assert ("2 of them spare" in after.told) is (not before.unit)


def test_what_is_needed_and_stands_on_no_line_is_named() -> None:
    """Every piece of every part is on a line, or named."""
    told = not_ordered(JOB.parts)
    for part in JOB.parts:
        for piece in (*part.pieces, *part.beside) if part.complete else ():
            if isinstance(piece, TurnedPiece):
                assert f"stock for {part.name}: {piece.what}" in told
            elif isinstance(piece, ToolPiece):
                assert any(piece.what in one for one in told)
            else:
                assert isinstance(piece, TubePiece | PlatePiece | BoughtPiece)
    assert told[-1] == "gas, paint and how much filler is used are not counted"
    quay = not_ordered(work(demo("quay")).parts)
    assert "Watts link left, bought itself, which is bought and shortened" in quay


def test_filler_and_seals_are_on_the_list_and_the_order_as_the_job_s_welds_and_settings_ask() -> None:
    settings = JOB.settings.model_copy(update={"electrode_uts_mpa": 551.0, "rod_end_seals": True})
    rod_ends = Counter({
        what: sum(piece.count * part.saved.count for part in JOB.parts for piece in (*part.pieces, *part.beside) if isinstance(piece, BoughtPiece) and piece.key and (piece.sort, piece.what) == ("joint", what))
        for what in {piece.what for part in JOB.parts for piece in part.pieces if isinstance(piece, BoughtPiece) and piece.sort == "joint" and piece.key}
    })  # fmt: skip
    assert rod_ends
    found = consumables(JOB.parts, settings, JOB.catalogue)
    assert [one.what for one in found if one.sort == "filler"] == [
        "filler for steel, its ultimate 551 MPa or more, as the welds are judged with"
    ]
    assert {one.what.removeprefix("pair of seals for "): one.count for one in found if one.sort == "seal"} == rod_ends
    assert not [one for one in consumables(JOB.parts, JOB.settings, JOB.catalogue) if one.sort == "seal"]
    listed = cut_list(JOB.parts, settings, JOB.catalogue).items
    assert [(one.kind, one.what, one.count) for one in listed if one.kind in ("filler", "seal")] == [
        (one.sort, one.what, one.count) for one in found
    ]
    ordered = order_of(JOB.parts, JOB.catalogue, (), 3, settings)
    assert {one.what: one.count for one in ordered if one.sort in ("filler", "seal")} == {
        one.what: one.count + (3 if one.sort == "seal" else 0) for one in found
    }
    assert {one.told for one in ordered if one.sort == "seal"} == {
        "3 of them spare; what they take of tilt and stack is not checked"
    }
    # of aluminium by the job's own filler; a tool of the shop, which is screwed together, asks for none
    metal = JOB.catalogue.model_copy(
        update={"grades": tuple(row.model_copy(update={"family": "aluminium"}) for row in JOB.catalogue.grades)}
    )
    link = [part for part in JOB.parts if part.saved.kind == "link"]
    assert [one.what for one in consumables(link, settings, metal) if one.sort == "filler"] == [
        "filler 4043 for aluminium"
    ]
    tools = [replace(part, tool="holds something") for part in JOB.parts]
    assert not [one for one in consumables(tools, settings, JOB.catalogue) if one.sort == "filler"]


def test_plates_are_weighed_by_their_outline_and_the_metal_that_they_are_called_by() -> None:
    square = PlatePiece(name="x", material="S355 plate", thickness=6.0, length=100.0, width=50.0, outline=Contour(edges=straight_sides([(0, 0), (100, 0), (100, 50), (0, 50)]), holes=(Hole(50.0, 25.0, 20.0),)))  # fmt: skip
    area = 5000.0 - pi * 100.0
    assert plate_mass(square, JOB.catalogue) == pytest.approx(area * 6.0 * 7850e-9)
    assert plate_mass(replace(square, outline=None), JOB.catalogue) == pytest.approx(5000.0 * 6.0 * 7850e-9)
    for unknown in ("hard stuff", "crystal", "304 stainless steel", "7075 plate"):
        assert plate_mass(replace(square, material=unknown), JOB.catalogue) is None
    assert plate_mass(replace(square, material="mild steel plate"), JOB.catalogue) == pytest.approx(
        area * 6.0 * 7850e-9
    )
    light = JOB.catalogue.model_copy(update={"grades": (JOB.catalogue.grades[0].model_copy(update={"key": "6061", "label": "6061-T6", "density_kg_m3": 2700.0}),)})  # fmt: skip
    assert plate_mass(replace(square, material="6061-t6 plate"), light) == pytest.approx(area * 6.0 * 2700e-9)
    lines = cut_list(JOB.parts, JOB.settings, JOB.catalogue).items
    gusset = next(item for item in lines if "gusset" in item.what)
    one = next(
        piece for part in JOB.parts for piece in part.pieces if isinstance(piece, PlatePiece) and "gusset" in piece.name
    )
    assert one.outline is not None
    assert gusset.mass_kg == pytest.approx(gusset.count * one.outline.area * one.thickness * 7850e-9)
    plate = next(one for one in order() if one.what == "3 mm S275 plate")
    assert float(plate.told.split(" kg")[0]) == pytest.approx(
        plate.count * 3.0 * 7.85, abs=0.006
    )  # m² · mm · 1000 kg/m³


def _long_side(notch: NotchedEnd, n: int) -> float:
    """By fitting a wave of n to a turn to its edge, least squares."""
    at = np.radians([one[0] for one in notch.profile])
    waves = np.array([np.ones_like(at), np.cos(n * at), np.sin(n * at)]).T
    _, c, s = np.linalg.lstsq(waves, -np.array([one[1] for one in notch.profile]), rcond=None)[0]
    return float(np.degrees(np.arctan2(s, c)) / n)


def test_a_tube_is_weighed_and_the_turn_of_its_ends_is_told_for_either_hand() -> None:
    for piece in cut_list(JOB.parts).pieces:
        row = next(tube for tube in JOB.catalogue.tubes if tube.label == piece.tube)
        grade = next(one for one in JOB.catalogue.grades if one.label == piece.grade)
        area = pi / 4 * (row.od_mm**2 - (row.od_mm - 2 * row.wall_mm) ** 2)
        assert piece.mass_kg == pytest.approx(area * piece.length_mm * grade.density_kg_m3 * 1e-9)
    assert box_piece("b", 50.0, 3.0, 800.0).mass == pytest.approx((50.0**2 - 44.0**2) * 800.0 * 7850e-9)
    real = next(
        piece for part in JOB.parts for piece in part.pieces if isinstance(piece, TubePiece) and all(piece.notches)
    )
    first, second = real.notches
    assert first
    assert second
    part = next(part for part in JOB.parts if real in part.pieces)
    assert first.long_side[0] == pytest.approx(_long_side(first, 1), abs=1.5)

    def cut(at: float, alike: bool = False) -> NotchedEnd:
        """An edge whose long side is known: a slant, or a saddle with two ears alike, turned."""
        n = 2 if alike else 1
        return replace(
            first, profile=tuple((deg, 9.0 - 9.0 * cos(radians(n * (deg - at))), 0.0) for deg in range(0, 360, 3))
        )

    for a, b, pair, single in (
        (cut(10.0), cut(45.0), "L +35.0°, R −35.0°", "+35.0°"), (cut(350.0), cut(5.0), "L +15.0°, R −15.0°", "+15.0°"), (cut(40.0), cut(40.02), "in line", "in line"),
        (cut(0.0), cut(180.0), "opposite", "opposite"), (cut(30.0), cut(10.0), "L −20.0°, R +20.0°", "−20.0°"),
        (cut(10.0, True), cut(200.0), "L +10.0°, R −10.0°", "+10.0°"), (cut(100.0, True), cut(20.0, True), "L −80.0°, R +80.0°", "−80.0°"),
        (cut(0.0, True), cut(180.0, True), "in line", "in line"),
    ):  # fmt: skip
        turned = replace(real, notches=(a, b))
        for side, told in (("pair", pair), ("left", single)):
            one = replace(part, saved=part.saved.model_copy(update={"side": side}), pieces=(turned,), beside=())
            (sawn,) = cut_list([one]).pieces
            assert sawn.turned == told
    assert real.at_ends == (f"notched {first.angle_deg:.1f}° / notched {second.angle_deg:.1f}°" if abs(first.angle_deg - second.angle_deg) > 0.05 else f"both notched {first.angle_deg:.1f}°")  # fmt: skip
    square = replace(real, notches=(None, second), ends=("square", "notched"))
    assert square.turned_deg is None
    assert square.at_ends == f"square / notched {second.angle_deg:.1f}°"


def line(what: str, count: float = 2.0, hand: str = "") -> OrderLine:
    return OrderLine(sort="joint", what=what, hand=hand, count=count, unit="", told="", there="", each=None)


def test_two_suppliers_stand_side_by_side_and_what_is_on_no_list_is_counted() -> None:
    lines = (line("rod end 5/8-18 UNF", 4, "LH"), line("rod end 5/8-18 UNF", 4, "RH"), line("32 × 2 mm, S355", 3.5))
    first = read_prices("what;hand;price\nRod end 5/8-18 UNF;LH;21,50\nROD END 5/8-18 unf;RH;19,9\n", "suppliers.0")
    second = read_prices('\ufeffwhat,price\n"32 x 2 MM, s355",7.25\n\'=strange,1\n', "suppliers.1")
    assert offer_of(lines, first) == Offer(
        prices=(21.5, 19.9, None), total=pytest.approx(4 * 21.5 + 4 * 19.9), missing=1
    )
    assert offer_of(lines, second) == Offer(prices=(None, None, 7.25), total=pytest.approx(3.5 * 7.25), missing=2)
    assert price_key("=strange", "") in second


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("", "It has no line of headings. The columns are called what and price"), ("what,price,what\nx,1,y\n", "A heading stands there twice"), ("what,price\n" + "x,1\n" * 20_001, "It has 20001 rows"), ("name,cost\nx,1\n", "Line 1: the columns"), ("what,price\nx,1.2.3\n", "Line 2: price “1.2.3”"), ("what,price\nx,12 EUR\n", "Line 2: price “12 EUR”"),
        ("what,price\nx,1\nX,2\n", "Line 3: “X” stands there twice"), ("what,price\nx,-1\n", "Line 2: price"), ("what,price\nx\n", "Line 2: price “”"), ("what,price\nx,nan\n", "Line 2"),
    ],
)  # fmt: skip
def test_a_bad_list_is_refused_with_its_line_and_its_field(text: str, says: str) -> None:
    with pytest.raises(InputError) as caught:
        read_prices(text, "suppliers.1")
    assert says in caught.value.message
    assert caught.value.fields == ("suppliers.1",)
