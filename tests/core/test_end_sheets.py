"""Machined ends and let-in plates as drawings with tolerances: their metal by integration, every size that is told on the sheet, the tables of ISO."""

from __future__ import annotations

from math import pi
from typing import Any

import pytest
from shapely.geometry import Point, box

from tests.core.test_flat_end import HARD
from tests.core.test_joined import a_link, mm
from tests.core.test_sleeve_end import job_with, made
from tests.jobs import draw
from tirante.core.document.parts.link import FixedEnd, FlatEnd, Link, Machined
from tirante.core.drawing.model import Text
from tirante.core.drawing.sheet import Numbers
from tirante.core.parts.link.end_sheets import general
from tirante.core.parts.link.solid import fork, head_of, solid_metal, spigot_of
from tirante.core.parts.part import TurnedPiece

EYE = Machined(thickness_mm=20.0, width_mm=40.0, hole_mm=12.2, pin_mm=12.0, edge_mm=26.0)
CLEVIS = Machined(form="clevis", thickness_mm=8.0, width_mm=36.0, hole_mm=12.2, pin_mm=12.0, edge_mm=18.0, gap_mm=20.0)
FACE = 45.0


MILLIMETRES = Numbers()


def ended(end: Machined | FlatEnd, face: float = FACE, **more: Any) -> Link:
    made_as = {"machined": end} if isinstance(end, Machined) else {"flat": end}
    return a_link(end_a=FixedEnd(what="eye", centre_to_face=mm(face), **made_as), cases=HARD, **more)


def words(link: Link, view: str, numbers: Numbers = MILLIMETRES) -> list[str]:
    return [item.text for item in draw(link, job_with(link), view, numbers).items if isinstance(item, Text)]


@pytest.mark.parametrize(("size", "plus"), [(0.4, None), (6.0, 0.1), (6.1, 0.2), (30.0, 0.2), (31.0, 0.3), (120.0, 0.3), (121.0, 0.5), (400.0, 0.5), (900.0, 0.8), (1001.0, None)])  # fmt: skip
def test_sizes_without_a_tolerance_have_that_of_the_standard(size: float, plus: float | None) -> None:
    """ISO 2768-1, class m, from memory."""
    assert general(size) == plus


def test_an_eye_and_a_clevis_weigh_what_their_shapes_do() -> None:
    """By another library: a round head on a bar, less its hole; two of them with a floor between; a spigot as long as the bore is wide."""
    part = made(ended(EYE))
    tube, welding = part.own[0].assembly.tube, part.own[0].assembly.link.welding
    bore = tube.od_mm - 2 * tube.wall_mm
    spigot, long = spigot_of(EYE, tube, welding)
    assert spigot == pytest.approx(bore - 0.1)
    assert long >= bore
    assert spigot_of(EYE.model_copy(update={"spigot_mm": 33.0}), tube, welding)[1] == 33.0
    shaft = pi / 4 * spigot**2 * long

    def flat_area(end: Machined) -> float:
        r = end.width_mm / 2
        head = Point(r - end.edge_mm, 0.0).buffer(r, 512).union(box(r - end.edge_mm, -r, FACE, r))
        return float(head.difference(Point(0, 0).buffer(end.hole_mm / 2, 512)).area)

    assert head_of(EYE, FACE).area == pytest.approx(flat_area(EYE), rel=1e-5)
    assert solid_metal(EYE, FACE, tube, welding) == pytest.approx(20 * flat_area(EYE) + shaft, rel=1e-5)
    floor = FACE - (18.0 + 2.0)
    assert solid_metal(CLEVIS, FACE, tube, welding) == pytest.approx(2 * 8 * flat_area(CLEVIS) + 20 * 36 * floor + shaft, rel=1e-5)  # fmt: skip
    # and the link with it
    bare = made(a_link(end_a=FixedEnd(what="eye", centre_to_face=mm(FACE)), cases=HARD))
    density = part.own[0].assembly.grade.density_kg_m3 * 1e-9
    assert (part.mass or 0) - (bare.mass or 0) == pytest.approx(
        solid_metal(EYE, FACE, tube, welding) * density, rel=1e-6
    )


def test_a_machined_end_is_drawn_with_every_size_and_its_tolerance() -> None:
    for end, form in ((EYE, "eye"), (CLEVIS, "clevis")):
        link = ended(end)
        part = made(link)
        assert part.faults == (), part.faults
        view = next(one for one in part.views if one.name == "made-end-a")
        assert (view.title, view.cut) == (f"end A {form}, with tolerances", False)
        said = " | ".join(words(link, "made-end-a"))
        assembly = part.own[0].assembly
        spigot, long = spigot_of(end, assembly.tube, assembly.link.welding)
        for size in (end.width_mm, end.edge_mm, end.thickness_mm, FACE, spigot, long, *((end.gap_mm, fork(end)) if form == "clevis" else ())):  # fmt: skip
            assert Numbers(fits=True).main(size) in said, (size, said)
        assert "⌀12.2 H7, 0 to +0.018 mm" in said  # ISO 286-2, over 10 up to 18
        assert "″ ±0.2 mm" in said  # beside the inches that it stands behind it is still of millimetres
        inches = " | ".join(
            words(link, "made-end-a", Numbers(unit="in"))
        )  # a machinist reads thousandths, no tape's fraction
        assert "⌀0.480″ H7, 0 to +0.0007″ (0.018 mm)" in inches
        assert "±0.007″ (0.2 mm) to 1 3/16″ (30 mm)" in inches
        assert (
            "Fork 0 to +0.004″ (0.1 mm)" if form == "clevis" else "Eye’s thickness −0.004″ (-0.1 mm) to 0"
        ) in inches
        assert f"⌀{spigot / 25.4:.3f}″" in inches
        assert "Put the eye on its pin, its spigot in the tube" in " ".join(part.jig.steps if part.jig else ())
        assert "square to the spigot’s axis" in said
        assert ("Fork 0 to +0.1 mm" if form == "clevis" else "Eye’s thickness -0.1 mm to 0") in said
        piece = next(one for one in part.pieces if isinstance(one, TurnedPiece))
        assert f"spigot ⌀{spigot:.2f} × {long:g} mm" in piece.what
        assert ("two ears 8 mm, 20 mm apart" if form == "clevis" else "20 mm thick") in piece.what


def test_a_plate_that_is_let_in_is_drawn_with_how_far_it_goes_in() -> None:
    flat = FlatEnd(thickness_mm=8.0, width_mm=60.0, hole_mm=12.2, edge_mm=22.0, lap_mm=70.0)
    link = ended(flat)
    part = made(link)
    assert part.faults == (), part.faults
    assert "made-end-a" in {view.name for view in part.views}
    said = " | ".join(words(link, "made-end-a"))
    for size in (60.0, 22.0, FACE, 70.0, 22.0 + FACE + 70.0):
        assert Numbers(fits=True).main(size) in said
    assert "0 to +0.1 mm" in said
    assert "Both plates" not in said
    two = ended(flat.model_copy(update={"form": "clevis let in", "thickness_mm": 5.0, "gap_mm": 12.0}))
    assert "Both plates of an end drilled as one" in " ".join(words(two, "made-end-a"))
    squashed = ended(flat.model_copy(update={"form": "squashed"}))
    assert "made-end-a" not in {view.name for view in made(squashed).views}


def test_a_fork_in_which_no_eye_turns_is_told_how_far_off_the_tube_must_be() -> None:
    least = 18.0 + 2.0 + 4.0  # half its width and room, half an ear behind it
    (fault,) = made(ended(CLEVIS, face=20.0)).faults
    assert fault.field == "end_a.centre_to_face"
    assert f"make it {least:.1f} mm or more" in fault.message
    assert made(ended(CLEVIS, face=least)).faults == ()
    assert made(ended(EYE, face=20.0)).faults == ()
