"""A link whose tube is plugged and bored across: areas by polygons, strengths by the rules written out, what is sawn, turned, bored and said.

Sources: AISC 360 D5, J7, D2, J2.4 (from memory); areas by a general-purpose geometry library.
"""

from __future__ import annotations

from math import hypot, pi
from typing import Any

import pytest
from shapely import Point, box

from tests.core.test_flat_end import HARD, TUBE, job_with, made
from tests.core.test_joined import a_link, mm, tapped
from tests.core.test_joined import job as job_of_thick
from tests.core.test_moving_members import again
from tests.jobs import draw, part_of, work
from tirante.core.brackets.plug_eye import PlugEye
from tirante.core.document.catalogue import Tube
from tirante.core.document.parts.link import FixedEnd, Plug
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Numbers
from tirante.core.errors import InputError
from tirante.core.parts.link.fixed_eye import fixed_eye
from tirante.core.parts.part import TubePiece, TurnedPiece

assert isinstance(TUBE, Tube)
BORE = TUBE.od_mm - 2 * TUBE.wall_mm
OWN = {"hole_mm": 10.2, "pin_mm": 10.0, "edge_mm": 22.0, "long_mm": 60.0, "leg_mm": 3.0, "plug_mm": 7.0, "plugs": 2}


def plugged(**more: Any) -> FixedEnd:
    return FixedEnd(what="plug", centre_to_face=mm(99.0), plug=Plug(**{**OWN, **more}))


def test_what_is_left_of_a_round_across_its_hole_by_polygons() -> None:
    for bore, hole in ((30.0, 12.2), (24.0, 20.0), (50.0, 6.0)):
        eye = PlugEye(bore=bore, hole=hole, pin=hole - 0.2, edge=hole)
        left = Point(0, 0).buffer(bore / 2, 2048).difference(box(-hole / 2, -bore, hole / 2, bore))
        assert eye.net_area == pytest.approx(left.area, rel=1e-4)
        one = eye.lug
        # the flat that stands for it has as much metal across the hole, and no more anywhere else
        assert one.thickness * (one.width - one.hole) == pytest.approx(left.area, rel=1e-4)
        assert one.thickness * one.width <= pi * bore**2 / 4
        assert one.thickness <= 2 * ((bore / 2) ** 2 - (hole / 2) ** 2) ** 0.5
    with pytest.raises(InputError, match="as wide as the plug"):
        PlugEye(bore=20.0, hole=20.0, pin=12.0, edge=30.0)


def test_a_link_with_a_plugged_end_is_judged_sawn_turned_and_told_as_what_it_is() -> None:
    link = a_link(end_a=plugged(), end_b=plugged(edge_mm=25.0, plugs=3), cases=HARD)
    design = job_with(link)
    part = part_of(link, design)
    assert part.complete, part.faults
    settings, grade = work(design).settings, part.own[0].assembly.grade
    factors, filler = settings.factors, part.own[0].assembly.filler(settings)
    left = Point(0, 0).buffer(BORE / 2, 2048).difference(box(-5.1, -BORE, 5.1, BORE)).area
    thick = left / (BORE - 10.2)
    found = {(one.key, one.part): one for one in part.checks}
    beyond = 22.0 - 3.0 - 5.1  # the plug is sunk by its fillet
    for key, capacity, factor in (
        ("machined_bearing", 1.8 * 355 * 10.0 * thick, factors.tab_rupture), ("machined_tension", 470 * left, factors.tab_rupture),
        ("machined_tearout", 0.6 * 470 * 2 * thick * (beyond + 5.0), factors.tab_rupture), ("machined_yield", 355 * BORE * thick, factors.tab_yield),
        ("spigot_weld", 0.6 * (filler * pi * BORE * 0.707 * 3.0 + 470.0 * 2 * pi / 4 * 49), factors.weld),
    ):  # fmt: skip
        one = found[key, "end A"]
        assert one.capacity == pytest.approx(capacity, rel=1e-3), key
        assert one.demand == pytest.approx(9000.0 * factor), key
    # three welds of 7 take more of end B's tube than its two holes of 10.2, and more than end A's
    assert found["net_rupture", "end B"].name == "Tube torn across the plug’s welds"
    assert found["net_rupture", "end B"].capacity == pytest.approx((pi * (TUBE.od_mm - TUBE.wall_mm) - 21.0) * TUBE.wall_mm * grade.uts_at_weld, rel=1e-3)  # fmt: skip
    assert found["net_rupture", "end B"].demand == pytest.approx(9000.0 * factors.rupture)
    fewer = {one.key: one for one in made(a_link(end_a=plugged(), cases=HARD)).checks}["net_rupture"]
    assert (fewer.name, fewer.part) == ("Tube torn across the pin’s holes", "end A")
    assert fewer.capacity == pytest.approx((pi * (TUBE.od_mm - TUBE.wall_mm) - 20.4) * TUBE.wall_mm * grade.uts_at_weld, rel=1e-3)  # fmt: skip
    assert ("machined_pin", "end A") not in found
    assert found["machined_pin_shear", "end A"].capacity == pytest.approx(2 * pi * 100 / 4 * 0.577 * 640.0, rel=1e-3)
    for one in part.checks:
        if one.reproduce is not None:
            again(one)
    # sawn past both holes, whatever was typed as its face
    (sawn,) = [piece for piece in part.pieces if isinstance(piece, TubePiece)]
    assert sawn.length == pytest.approx(600.0 + 22.0 + 25.0)
    assert sawn.ends == ("plugged and bored across",) * 2
    turned = [piece for piece in part.pieces if isinstance(piece, TurnedPiece)]
    assert [(p.name, p.turned.length, p.turned.bore) for p in turned if p.turned] == [("end A plug", 57.0, 0.0), ("end B plug", 57.0, 0.0)]  # fmt: skip
    assert turned[0].turned
    assert turned[0].turned.outside == pytest.approx(BORE - 0.1, abs=1e-3)
    assert "bore" not in turned[0].what.split(",")[0]
    tube_kg = pi * (TUBE.od_mm - TUBE.wall_mm) * TUBE.wall_mm * sawn.length
    plugs_kg = 2 * (pi / 4 * BORE**2 * 57.0 - pi / 4 * 10.2**2 * TUBE.od_mm)
    assert part.mass == pytest.approx((tube_kg + plugs_kg) * grade.density_kg_m3 * 1e-9)
    lines = [line for side in part.card.ends for line in side.lines]  # type: ignore[union-attr]
    past = [line.mm for line in lines if "runs past the hole" in line.text]
    assert past == [22.0, 25.0]
    (at, _) = [line.mm for line in lines if "welds through the wall" in line.text]
    assert at == pytest.approx((22.0 + 5.1 + 60.0) / 2)
    assert part.jig
    assert [round(one.ordinate, 6) for one in part.jig.stations if one.name in "14"] == [-22.0, 625.0]
    assert "Bore it there" in part.jig.steps[-1]
    assert any("Both ends shut the tube" in note for note in part.welding)
    assert not any("bush or ball" in note for note in part.welding)
    assert any("bored across, and wear" in one for one in part.not_checked)
    assert draw(link, design, "drawing", Numbers()).items
    solid = draw(link, design, "turned-end-a-plug", Numbers())
    assert "bore ⌀" not in " ".join(texts(solid))


def texts(sheet: Drawing) -> list[str]:
    return [item.text for item in sheet.items if hasattr(item, "text")]


def test_one_plugged_end_and_one_screwed_in() -> None:
    """Only the insert is welded in the jig, and draws the tube shorter."""
    part = made(a_link(end_a=plugged(), cases=HARD))
    assert part.complete, part.faults
    assert part.jig
    assert part.own[0].assembly.shrinking == 1
    assert any("Weld the plug in and bore it across before" in step for step in part.jig.steps)
    assert any(
        "reamed or honed" in step or "ream or hone" in step for step in part.jig.steps
    )  # the bush's, not the plug's


def test_plates_clamp_the_tube_itself() -> None:
    one = fixed_eye(plugged(), TUBE)
    assert one
    assert (one.bore_mm, one.ball_width_mm, one.housing_width_mm) == (10.0, TUBE.od_mm, TUBE.od_mm)
    assert one.head_diameter_mm == pytest.approx(2 * hypot(22.0, TUBE.od_mm / 2))  # out to the tube's corner
    assert fixed_eye(plugged(), None) is None


@pytest.mark.parametrize(
    ("change", "field", "word"),
    [
        ({"pin_mm": 10.5}, "hole_mm", "bore it larger"), ({"hole_mm": 26.0, "pin_mm": 25.0, "edge_mm": 40.0, "long_mm": 120.0}, "hole_mm", "smaller pin"),
        ({"edge_mm": 8.0}, "edge_mm", "more edge"), ({"long_mm": 40.0}, "long_mm", "14.0 mm are asked for by the welds"), ({"long_mm": 32.0, "plugs": 0}, "long_mm", "5.1 mm are asked for:"),
        ({"leg_mm": 3.2}, "leg_mm", "3 to 3.048"), ({"leg_mm": 2.0}, "leg_mm", "3 to 3.048"), ({"plugs": 8}, "plugs", "half of the way round"),
    ],
)  # fmt: skip
def test_what_does_not_go_together_names_its_field_and_the_cure(change: dict[str, Any], field: str, word: str) -> None:
    faults = made(a_link(end_a=plugged(**change), cases=HARD)).faults
    assert any(fault.field == f"end_a.plug.{field}" and word in fault.message for fault in faults), faults


def test_its_fillet_lasts_by_what_it_lies_on_round_inside_the_tube() -> None:
    link = a_link(end_a=plugged(), end_b=plugged(), cases=HARD, everyday_n=8000.0)
    (one,) = [check for check in made(link).checks if check.key == "life"]
    assert one.reproduce
    assert one.note.startswith("root of the ring weld")
    assert one.reproduce.input["stress_range_mpa"] == pytest.approx(8000.0 / (pi * BORE * 0.707 * 3.0), rel=1e-3)


def test_with_a_tapped_end_beside_it_nothing_is_tacked_in_the_jig() -> None:
    thick = tapped(end_a=plugged(hole_mm=6.2, pin_mm=6.0, leg_mm=5.0), cases=HARD)
    part = part_of(thick, job_of_thick(thick))
    assert part.complete, part.faults
    assert part.jig
    steps = " ".join(part.jig.steps)
    assert "Tack" not in steps
    assert "mark the plugged end’s hole" in steps
