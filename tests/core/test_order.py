"""What is to be bought: counted from the pieces themselves, weighed and priced by hand, suppliers' lists read and refused."""

from __future__ import annotations

from collections import Counter
from math import pi

import pytest

from tests.core.test_loads import demo
from tests.core.test_on_sheets import own
from tests.jobs import work
from tirante.core.cutting.order import Offer, OrderLine, not_ordered, offer_of, order_of, price_key, read_prices
from tirante.core.document.rack import RackRow
from tirante.core.errors import InputError
from tirante.core.parts.part import BoughtPiece, PlatePiece, ToolPiece, TubePiece, TurnedPiece

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
    assert told[-1].startswith("filler metal")
    quay = not_ordered(work(demo("quay")).parts)
    assert "Watts link left, bought itself, which is bought and shortened" in quay


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
