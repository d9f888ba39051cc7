"""A turned reducer between a wide tube and a narrow sleeve: where the tube ends, its neck's notch, what is turned, judged, weighed and drawn."""

from __future__ import annotations

from math import hypot, pi, sqrt
from typing import Any

import numpy as np
import pytest
from scipy.integrate import quad

from tests.core.test_flat_end import HARD
from tests.core.test_joined import a_link, mm
from tests.core.test_sleeve_end import job_with, made, sleeved
from tests.core.test_tube_ends import put_back
from tests.jobs import draw, work
from tirante.calc import calculate
from tirante.core.document.parts.link import Bent, Link, Reducer, Sleeve
from tirante.core.drawing.model import Text
from tirante.core.drawing.sheet import Numbers
from tirante.core.members.insert_weld import insert_weld
from tirante.core.members.neck import neck_stress
from tirante.core.parts.link.checks import column_segments
from tirante.core.parts.link.life import _details as life_details
from tirante.core.parts.link.sleeve import cuts_of
from tirante.core.parts.part import TubePiece, TurnedPiece

ONE = Reducer(neck_mm=30.0, neck_long_mm=22.0, collar_mm=5.0, spigot_mm=50.0)
NARROW = Sleeve(outside_mm=38.0, wall_mm=4.0, long_mm=44.0, reducer=ONE)
WIDE_TUBE = {"tube": "tube-2x0.120", "grade": "dom-1026"}
FACE = sqrt(19.0**2 - 15.0**2)


def reduced(**more: Any) -> Link:
    fields = {"end_a": sleeved(NARROW), "end_b": sleeved(NARROW), "cases": HARD, **WIDE_TUBE, **more}
    return a_link(**fields)


def test_a_neck_is_pulled_and_bent_where_it_leaves_what_is_wider() -> None:
    """By the section of a circle, integrated."""
    d, r = 30.0, 15.0
    area = quad(lambda y: 2 * sqrt(r * r - y * y), -r, r)[0]
    inertia = quad(lambda y: 2 * y * y * sqrt(r * r - y * y), -r, r)[0]
    assert neck_stress(d, 40.0, 12_000.0, 0.0) == pytest.approx(12_000 / area, rel=1e-6)
    assert neck_stress(d, 40.0, -12_000.0, -700.0) == pytest.approx(12_000 / area + 700 * 40 * r / inertia, rel=1e-6)


def test_the_tube_is_square_on_its_collar_and_the_neck_notched_to_the_sleeve() -> None:
    link = reduced(clocking_deg=35.0)
    part = made(link)
    assert part.faults == (), part.faults
    assembly, stack = part.own[0].assembly, part.own[0].stack
    od, wall = assembly.tube.od_mm, assembly.tube.wall_mm
    assert od > 38.0
    (sawn,) = [piece for piece in part.pieces if isinstance(piece, TubePiece)]
    assert (sawn.ends, sawn.notches, sawn.before_notching) == (("square", "square"), (None, None), False)
    face = FACE + 22.0 + 5.0
    assert [end.face_from_centre for end in stack.ends] == pytest.approx([face, face])
    assert sawn.length == pytest.approx(600.0 - 2 * face, abs=2.0)
    # its neck put back by its wrap lies on the sleeve, about the sleeve's own bolt
    cuts = cuts_of(link, assembly.tube, stack, 0.1)
    assert [cut.run.name for cut in cuts] == ["reducer at A", "reducer at B"]
    turn = np.radians(35.0)
    bolts = (np.array([0.0, 1.0, 0.0]), np.array([0.0, np.cos(turn), np.sin(turn)]))
    long = 22.0 + 5.0 + 50.0
    for which, (cut, bolt) in enumerate(zip(cuts, bolts, strict=True)):
        pivot = np.array([0.0 if which == 0 else stack.centre_to_centre, 0.0, 0.0])
        places = [place for end, place in put_back(cut) if end == which]
        assert len(places) > 100
        for place in places:
            assert float(np.linalg.norm(np.cross(place - pivot, bolt))) == pytest.approx(19.0, abs=1e-6)
            assert hypot(place[1], place[2]) == pytest.approx(15.0)
        assert cut.length == pytest.approx(long)
        assert cut.off(which) == pytest.approx(FACE, abs=1e-6)
    # turned in steps, each as it is drawn, its notch as deep as the round asks
    turned = [piece for piece in part.pieces if isinstance(piece, TurnedPiece) and "reducer" in piece.name]
    assert len(turned) == 2
    of = turned[0].turned
    assert of
    assert of.steps == ((pytest.approx(od - 2 * wall - 0.1), 50.0), (od, 5.0), (30.0, 22.0))
    assert of.length == long
    assert f"{19.0 - FACE:.1f} mm deep" in of.notes[0]
    said = [item.text for item in draw(link, job_with(link), "turned-end-a-reducer", Numbers()).items if isinstance(item, Text)]  # fmt: skip
    assert all(any(f"⌀{Numbers().main(d)}" == text for text in said) for d, _ in of.steps if d != od)
    # a bar of the alloy may be weaker than the tube whose strength the checks take
    assert any(f"shows {part.own[0].assembly.grade.yield_mpa:g} MPa of yield or more" in text for text in said)
    lines = [(line.text, line.mm) for end in part.card.ends for line in end.lines]  # type: ignore[union-attr]
    assert [mm_ for text, mm_ in lines if "reducer, its collar against" in text] == pytest.approx([face, face])
    assert [mm_ for text, mm_ in lines if "to the neck’s longest point" in text] == pytest.approx([FACE, FACE])
    # in the jig the tube stands against stops at its faces
    assert part.jig
    assert [one.ordinate for one in part.jig.stations if one.name in "14"] == pytest.approx([face, part.jig.set_length - face])  # fmt: skip
    assert all(one.what.startswith("stop: tube face") for one in part.jig.stations if one.name in "14")
    assert {"wrap-reducer-at-A", "wrap-reducer-at-B"} <= {view.name for view in part.views}
    for name in ("drawing", "jig", "wrap-reducer-at-B"):
        assert draw(link, job_with(link), name, Numbers()).items
    density = assembly.grade.density_kg_m3 * 1e-9
    metal = pi / 4 * (of.steps[0][0] ** 2 * 50 + od**2 * 5 + 30**2 * 22)
    rings = pi * 34.0 * 4.0 * 44.0
    tube = pi * (od - wall) * wall * sawn.length
    assert part.mass == pytest.approx((2 * (metal + rings) + tube) * density)


def test_its_neck_its_collar_s_weld_and_the_ring_on_the_sleeve_are_judged_and_the_column_has_it() -> None:
    one = reduced()
    part = made(one)
    assembly, settings = part.own[0].assembly, work(job_with(one)).settings
    grade, filler = assembly.grade, assembly.filler(settings)
    checks = {check.name: check for check in part.checks if check.part == "end A"}
    neck = next(check for check in part.checks if check.key == "reducer_neck" and check.part == "end A")
    factor, lever = settings.factors.yielding, FACE + 27.0
    wanted = max(factor * (abs(case.axial_n) / (pi / 4 * 900) + 32 * abs(case.across_n) * lever / (pi * 27_000)) for case in assembly.cases)  # fmt: skip
    assert neck.demand == pytest.approx(wanted)
    assert neck.capacity == grade.welded_yield_mpa
    assert neck.reproduce
    assert calculate(neck.reproduce.topic, neck.reproduce.input)["stress_mpa"] == pytest.approx(neck.demand)
    ring = checks["Sleeve’s weld round the neck"]
    assert ring.capacity == pytest.approx(insert_weld(30.0, assembly.leg, 0.0, 0, filler, grade.uts_at_weld).capacity)
    collar = checks["Reducer’s weld in the tube"]
    welding = one.welding
    assert collar.capacity == pytest.approx(insert_weld(assembly.tube.od_mm, assembly.leg, welding.plug_mm, welding.plugs, filler, grade.uts_at_weld).capacity)  # fmt: skip
    stretches = column_segments(assembly, part.own[0].stack)
    assert [(round(s.length, 3), s.od, s.wall) for s in (stretches[0], stretches[-1])] == [(round(lever, 3), 30.0, None)] * 2  # fmt: skip
    assert sum(s.length for s in stretches) == pytest.approx(600.0)


@pytest.mark.parametrize(
    ("change", "field", "told", "cure"),
    [
        ({"neck_mm": 40.0}, "reducer.neck_mm", "wider than its sleeve, ⌀38 mm", {"neck_mm": 38.0}),
        ({"spigot_mm": 30.0}, "reducer.spigot_mm", "45 mm or more", {"spigot_mm": 45.0}),
        ({"collar_mm": 2.0}, "reducer.collar_mm", "make it 3.048 mm or more", {"collar_mm": 3.048}),
    ],
)  # fmt: skip
def test_what_does_not_go_together_is_named_with_what_does(change: dict[str, float], field: str, told: str, cure: dict[str, float]) -> None:  # fmt: skip
    wrong = NARROW.model_copy(update={"reducer": ONE.model_copy(update=change)})
    (fault,) = made(reduced(end_a=sleeved(wrong))).faults
    assert fault.field == f"end_a.sleeve.{field}"
    assert told in fault.message, fault.message
    right = NARROW.model_copy(update={"reducer": ONE.model_copy(update=cure)})
    assert made(reduced(end_a=sleeved(right))).faults == ()


def test_without_one_a_wide_tube_is_told_to_take_one_and_a_narrow_tube_needs_none() -> None:
    bare = NARROW.model_copy(update={"reducer": None, "long_mm": 60.0})
    (fault,) = made(reduced(end_a=sleeved(bare))).faults
    assert "give the tube a reducer" in fault.message
    thin = a_link(end_a=sleeved(NARROW), end_b=sleeved(Sleeve(outside_mm=50.0, long_mm=60.0)), cases=HARD, tube="tube-1x0.120", grade="4130n-thin")  # fmt: skip
    assert any("leave the reducer out" in fault.message for fault in made(thin).faults)


def test_on_a_bent_tube_its_neck_leans_with_its_outer_piece() -> None:
    bent = Bent(offset=mm(40.0), from_ends=mm(150.0), plane_deg=90.0, radius_mm=80.0)
    link = reduced(bent=bent, cases=(), end_a=sleeved(NARROW.model_copy(update={"long_mm": 60.0})), end_b=sleeved(NARROW.model_copy(update={"long_mm": 60.0})))  # fmt: skip
    part = made(link)
    assert part.faults == (), part.faults
    cuts = cuts_of(link, part.own[0].assembly.tube, part.own[0].stack, 0.1)
    assert [cut.run.name for cut in cuts] == ["reducer at A", "reducer at B"]
    way = np.array([150.0, -40.0, 0.0]) / hypot(150.0, 40.0)  # square to z, along A's bolt
    for place in (place for end, place in put_back(cuts[0]) if end == 0):
        assert hypot(place[0], place[2]) == pytest.approx(19.0, abs=1e-6)
        assert float(np.linalg.norm(np.cross(place, way))) == pytest.approx(15.0, abs=1e-6)


def test_its_life_is_asked_at_its_neck_and_at_both_its_welds() -> None:
    """A circle's and two thin rings' own areas and moduli, in closed form."""
    part = made(reduced())
    assembly = part.own[0].assembly
    rounds = {one.what: one.round for one in life_details(assembly, 0.1) if one.where == "end A"}
    neck = rounds["reducer’s neck at its weld, end A"]
    assert (neck.pull, neck.bend) == pytest.approx((4 / (pi * 30**2), 32 / (pi * 30**3)))
    throat = sqrt(0.5) * assembly.leg
    collar, foot = rounds["root of its collar’s ring weld, end A"], rounds["root of the ring weld, end A"]
    od = assembly.tube.od_mm
    assert (collar.pull, collar.bend) == pytest.approx((1 / (pi * od * throat), 4 / (pi * od**2 * throat)), rel=1e-3)
    assert (foot.pull, foot.bend) == pytest.approx((1 / (pi * 30 * throat), 4 / (pi * 30**2 * throat)), rel=1e-3)
