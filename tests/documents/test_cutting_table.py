"""The simulated cutting table drives what the product writes and refuses what a real one would, of whoever wrote it."""

from __future__ import annotations

import io
import json
import subprocess
import sys
from collections.abc import Callable
from math import pi
from pathlib import Path
from typing import Any

import ezdxf
import pytest
from ezdxf import units

from tests.conftest import ROOT
from tests.core.test_loads import demo
from tests.jobs import work
from tirante.core.drawing.sheet import Numbers
from tirante.core.parts.kind import ViewAsked
from tirante.core.parts.part import PlatePiece
from tirante.core.parts.registry import kind_of
from tirante.documents.cutting_table import FEED, PIERCE, RAPID, Refused, _read, drive, loops_of
from tirante.documents.dxf import to_dxf

Put = Callable[[Any], None]
SQUARE = [(0, 0), (100, 0), (100, 60), (0, 60)]


def file(*puts: Put, unit: int = units.MM) -> str:
    document = ezdxf.new("R2010")
    document.units = unit
    document.layers.add("CUT")
    for put in puts:
        put(document.modelspace())
    stream = io.StringIO()
    document.write(stream)
    return stream.getvalue()


CUT = {"layer": "CUT"}


def lines(*places: tuple[float, float], close: bool = True) -> Put:
    def put(space: Any) -> None:
        ends = [*places[1:], places[0]] if close else places[1:]
        for a, b in zip(places, ends, strict=False):
            space.add_line(a, b, dxfattribs=CUT)

    return put


def circle(x: float, y: float, r: float) -> Put:
    return lambda space: space.add_circle((x, y), r, dxfattribs=CUT)


def test_every_flat_pattern_of_the_demo_jobs_is_driven_round_and_measures_what_it_was_drawn_as() -> None:
    driven = 0
    for name in ("marram", "quay", "tern", "dunlin", "plover"):
        job = work(demo(name))
        for part in job.parts:
            for view in part.views if part.complete else ():
                if not view.cut:
                    continue
                drawing = kind_of(part.saved).draw(part, ViewAsked(name=view.name), Numbers())
                plates = [piece for piece in part.pieces if isinstance(piece, PlatePiece) and piece.outline]
                if view.plate is None:  # a wrap of paper: cut by hand, its inside corners as sharp as they come
                    loops, faults = loops_of(_read(to_dxf(drawing)))
                    assert loops
                    assert not faults
                    driven += 1
                    continue
                found = drive(
                    to_dxf(drawing), plates[0].thickness if plates and not view.told else 0.1, 0.8 if plates else 0.1
                )
                driven += 1
                if len(plates) == 1 and plates[0].outline and not view.told:
                    outline = plates[0].outline
                    assert found.area_mm2 == pytest.approx(outline.area, rel=2e-4), (part.name, view.name)
                    assert (found.parts, found.pierces) == (1, 1 + len(outline.holes))
                    low, high = outline.bounds[:2], outline.bounds[2:]
                    assert found.width_mm == pytest.approx(high[0] - low[0], abs=0.05)
                    assert found.height_mm == pytest.approx(high[1] - low[1], abs=0.05)
    assert driven > 20


def test_a_plate_with_a_hole_is_as_long_round_as_its_lines_and_takes_as_long_as_they_ask() -> None:
    found = drive(file(lines(*SQUARE), circle(50, 30, 10)), 5.0)
    assert found.cut_mm == pytest.approx(320 + 20 * pi)
    assert (found.parts, found.pierces) == (1, 2)
    assert found.area_mm2 == pytest.approx(6000 - 100 * pi, rel=1e-3)
    # the hole before the outline: to the hole's beginning, and from there to the outline's
    assert found.rapid_mm == pytest.approx((60**2 + 30**2) ** 0.5 * 2)
    assert found.seconds == pytest.approx(60 * (found.cut_mm * 5 / FEED + found.rapid_mm / RAPID) + 2 * PIERCE * 5)


def test_lines_in_any_order_and_either_way_make_one_outline_and_a_bulged_polyline_its_arcs() -> None:
    def mixed(space: Any) -> None:
        for a, b in ((SQUARE[2], SQUARE[1]), (SQUARE[0], SQUARE[1]), (SQUARE[0], SQUARE[3]), (SQUARE[3], SQUARE[2])):
            space.add_line(a, b, dxfattribs=CUT)

    assert drive(file(mixed), 5.0).cut_mm == pytest.approx(320)

    def slot(space: Any) -> None:
        space.add_lwpolyline([(0, 0, 0), (80, 0, 1), (80, 30, 0), (0, 30, 1)], format="xyb", close=True, dxfattribs=CUT)

    found = drive(file(slot), 5.0)
    assert found.cut_mm == pytest.approx(160 + 30 * pi)
    assert found.area_mm2 == pytest.approx(80 * 30 + 15**2 * pi, rel=1e-3)


@pytest.mark.parametrize(
    ("puts", "says"),
    [
        ([lines(*SQUARE, close=False)], "open at 0.00, 60.00, by 60.00 mm"),
        ([lines(*SQUARE[:2], (100, 60.5), (0, 60)), lines((0, 60), (10, 70), close=False)], "open"),
        ([lines(*SQUARE), lines((100, 0), (0, 0), close=False)], "twice at 50.00, 0.00"),
        ([lines(*SQUARE), circle(50, 30, 10), circle(50, 30, 10)], "twice"),
        ([lines((0, 0), (100, 60), (100, 0), (0, 60))], "crosses itself"),
        ([lines(*SQUARE), circle(98, 30, 10)], "cross or touch at"),
        ([lines(*SQUARE), circle(50, 30, 2.4)], "4.80 mm across, less than the sheet’s 5 mm: drill it"),
        ([lines((0, 0), (100, 0), (100, 20), (40, 20), (40, 60), (0, 60))], "inside corner without a radius at 40.00, 20.00"),
        ([lines(*SQUARE), lines((30, 20), (70, 20), (70, 40), (30, 40))], "inside corner without a radius at"),
        ([lines((0, 0), (100, 0), (100, 60), (50.5, 60), (50.5, 1), (49.5, 1), (49.5, 60), (0, 60))], "neck narrower than the kerf"),
        ([lines(*SQUARE), lines((20, 30), (40, 30), (40, 30.9), (20, 30.9))], "narrower than the kerf"),
        ([lambda space: space.add_spline([(0, 0), (50, 20), (100, 0)], dxfattribs=CUT)], "a SPLINE is on layer CUT"),
        ([lambda space: space.add_text("hello", dxfattribs=CUT)], "a TEXT is on layer CUT"),
        ([lambda space: space.add_line((0, 0), (5, 5), dxfattribs={"layer": "0"})], "nothing on its layer CUT"),
    ],
)  # fmt: skip
def test_what_a_real_table_would_refuse_is_refused_with_its_place(puts: list[Put], says: str) -> None:
    with pytest.raises(Refused) as caught:
        drive(file(*puts), 5.0, 1.2)
    assert any(says in fault for fault in caught.value.faults), caught.value.faults
    assert caught.value.fields == ("file",)


def test_an_inside_corner_with_the_kerf_s_radius_is_cut_and_a_tighter_one_is_not() -> None:
    def angle(radius: float) -> str:
        def put(space: Any) -> None:
            lines((40 + radius, 20), (100, 20), (100, 0), (0, 0), (0, 60), (40, 60), (40, 20 + radius), close=False)(
                space
            )
            space.add_arc((40 + radius, 20 + radius), radius, 180, 270, dxfattribs=CUT)

        return file(put)

    assert drive(angle(0.6), 5.0, 1.2).parts == 1
    with pytest.raises(Refused, match=r"inside radius of 0\.50 mm"):
        drive(angle(0.5), 5.0, 1.2)


def test_a_file_in_no_unit_or_in_inches_or_that_is_none_is_refused() -> None:
    for unit in (0, units.IN):
        with pytest.raises(Refused, match="millimetres"):
            drive(file(lines(*SQUARE), unit=unit), 5.0)
    for rubbish in (b"", b"\x00\x01\x02", b"0\nSECTION\n2\nHEADER", "hello"):
        with pytest.raises(Refused):
            drive(rubbish, 5.0)


def test_a_file_that_was_cut_off_is_refused_since_a_hole_may_be_missing() -> None:
    whole = file(lines(*SQUARE), circle(50, 30, 5.0))
    assert drive(whole, 5.0).pierces == 2
    data = whole.encode() if isinstance(whole, str) else whole
    hole = data.rindex(b"CIRCLE")
    for end in (hole, hole + 200, len(data) - 8):
        with pytest.raises(Refused):
            drive(data[:end], 5.0)


def test_a_hole_as_wide_as_the_sheet_is_thick_is_cut() -> None:
    assert drive(file(lines(*SQUARE), circle(50, 30, 2.5)), 5.0).pierces == 2


def test_the_command_reads_a_file_and_says_what_the_table_did_or_why_not(tmp_path: Path) -> None:
    good, bad = tmp_path / "good.dxf", tmp_path / "bad.dxf"
    good.write_text(file(lines(*SQUARE), circle(50, 30, 10)))
    bad.write_text(file(lines(*SQUARE, close=False)))

    def run(*arguments: str) -> tuple[int, Any]:
        done = subprocess.run(
            [sys.executable, "-m", "tirante.cli", "cut", *arguments],
            cwd=ROOT,
            capture_output=True,
            text=True,
            check=False,
        )
        return done.returncode, json.loads(done.stdout)

    code, told = run(str(good), "5")
    assert (code, told["pierces"]) == (0, 2)
    assert told["cut_mm"] == pytest.approx(320 + 20 * pi)
    code, told = run(str(bad), "5", "--kerf", "1")
    assert (code, told["code"]) == (2, "table_refuses")
    assert "open at" in told["issues"][0]["message"]
    assert run(str(tmp_path / "none.dxf"), "5")[0] == 2
    assert run(str(good), "-3")[0] == 2
