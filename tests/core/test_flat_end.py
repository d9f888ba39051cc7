"""Ends of flat metal on a link's tube: plates let in, the tube squashed. Areas by polygons, the line as a column by eigenvalues, rules by hand.

Sources: AISC 360 Table D3.1 case 5, D2, J2.4, J4.2 (from memory); areas and columns by general-purpose libraries.
"""

from __future__ import annotations

from math import pi, sqrt
from typing import Any

import numpy as np
import pytest
from scipy.integrate import quad
from scipy.linalg import eigh_tridiagonal
from shapely import Point, box

from tests.core.test_joined import SHELF, a_link, mm
from tests.core.test_loads import demo
from tests.core.test_moving_members import again
from tests.jobs import draw, part_of, with_part, work
from tirante.core.brackets import lug
from tirante.core.document.adopt import adopted, patched
from tirante.core.document.catalogue import Tube
from tirante.core.document.design import Design
from tirante.core.document.parts.common import LoadCase
from tirante.core.document.parts.link import FixedEnd, FlatEnd, Link
from tirante.core.drawing.sheet import Numbers
from tirante.core.errors import InputError
from tirante.core.members.flat_end import SLOT, LetIn, lag, squashed, tube_rupture, weld_strength
from tirante.core.members.plate_link import FlatLink, flat_stress
from tirante.core.parts.link.checks import column_segments
from tirante.core.parts.part import Part, PlatePiece, TubePiece
from tirante.documents.cutting_table import drive
from tirante.documents.dxf import to_dxf
from tirante.documents.pack import cut_list_csv

TUBE = next(row for row in SHELF.tubes if row.key == "tube-1.25x0.120")
HARD = (LoadCase(name="push", axial_n=-9000.0), LoadCase(name="pull", axial_n=7000.0, side_n=300.0))
LET_IN = {
    "thickness_mm": 6.0,
    "width_mm": 42.0,
    "hole_mm": 12.2,
    "pin_mm": 12.0,
    "edge_mm": 21.0,
    "lap_mm": 40.0,
    "leg_mm": 4.0,
}


def fixed(face: float = 30.0, **flat: Any) -> FixedEnd:
    return FixedEnd(what="flat", centre_to_face=mm(face), flat=FlatEnd(**{**LET_IN, **flat}))


def job_with(link: Link) -> Design:
    design = with_part(demo("marram"), link)
    return patched(design, adopted(design, [link], SHELF))


def made(link: Link) -> Part:
    return part_of(link, job_with(link))


@pytest.mark.parametrize(("plates", "gap"), [(1, 0.0), (2, 10.0), (2, 14.0)])
def test_what_slots_take_and_what_lags_by_polygons(plates: int, gap: float) -> None:
    od, wall, thick = 38.1, 3.0, 5.0
    one = LetIn(od=od, wall=wall, thickness=thick, plates=plates, gap=gap, lap=45.0, leg=4.0)
    ring = Point(0, 0).buffer(od / 2, 512).difference(Point(0, 0).buffer(od / 2 - wall, 512))
    middles = [0.0] if plates == 1 else [-(gap + thick) / 2, (gap + thick) / 2]
    slots = [box(-od, m - (thick + SLOT) / 2, od, m + (thick + SLOT) / 2) for m in middles]
    lost = sum(ring.intersection(slot).area for slot in slots)
    assert one.cut * wall == pytest.approx(lost, rel=0.02)  # along its middle line, where the wall is cut aslant
    # half a ring's own middle lies D/π off the plate: by integration round it
    centroid = quad(lambda t: od / 2 * np.sin(t), 0, pi)[0] / pi
    assert lag(one) == pytest.approx(1.0 - centroid / 45.0)
    assert lag(LetIn(od=od, wall=wall, thickness=thick, plates=plates, gap=gap, lap=1.3 * od, leg=4.0)) == 1.0
    assert tube_rupture(one, 500.0) == pytest.approx(lag(one) * (pi * (od - wall) * wall - one.cut * wall) * 500.0)
    # the least of fillets, of the wall sheared beside them, of the plate sheared
    lines = 4 * plates * 45.0
    for leg, tube, plate in ((2.0, 900.0, 900.0), (9.0, 300.0, 900.0), (9.0, 900.0, 200.0)):
        own = LetIn(od=od, wall=wall, thickness=thick, plates=plates, gap=gap, lap=45.0, leg=leg)
        each = (lines * 0.7071 * leg * 0.6 * 480.0, lines * wall * 0.6 * tube, lines / 2 * thick * 0.6 * plate)
        assert weld_strength(own, tube, plate, 480.0) == pytest.approx(min(each), rel=2e-4)
    inner = 0.0 if plates == 1 else gap / 2
    assert one.least_width == pytest.approx(2 * sqrt((od / 2) ** 2 - inner**2) + 8.0)


def test_what_the_rule_does_not_reach_is_refused_with_what_it_does() -> None:
    with pytest.raises(InputError, match=r"38\.1 mm or more") as short:
        LetIn(od=38.1, wall=3.0, thickness=5.0, plates=1, gap=0.0, lap=38.0, leg=4.0)
    assert short.value.fields == ("lap_mm",)
    with pytest.raises(InputError, match="Give the gap"):
        LetIn(od=38.1, wall=3.0, thickness=5.0, plates=2, gap=0.0, lap=50.0, leg=4.0)
    # as wide as the bore of a tube of foil: nothing is left of it, and no figure breaks
    foil = LetIn(od=38.1, wall=0.2, thickness=37.6, plates=1, gap=0.0, lap=50.0, leg=4.0)
    assert tube_rupture(foil, 400.0) == pytest.approx(0.0, abs=1e-6)
    with pytest.raises(InputError, match="do not stand through"):
        LetIn(od=38.1, wall=3.0, thickness=5.0, plates=2, gap=24.0, lap=50.0, leg=4.0)


def test_a_squashed_tube_has_as_much_metal_as_it_had() -> None:
    for od, wall in ((19.05, 1.2), (38.1, 3.0)):
        width, thick = squashed(od, wall)
        flat = (width - thick) * thick + pi * thick**2 / 4  # straight, and a half round at either edge
        assert flat == pytest.approx(pi * (od - wall) * wall)


def test_a_flat_pressed_and_pulled_aside_is_a_beam_column() -> None:
    """Against the differential equation of a cantilever under push P and side force V: at its root V tan(kL)/k (Timoshenko), no more than the formula's."""
    lever, across = 60.0, 300.0
    whole = FlatLink(length=2 * lever, width=40.0, thickness=6.0)  # it is half of that, with 2 V in the middle
    euler = pi**2 * 205_000 * (40 * 6**3 / 12) / (2 * lever) ** 2
    for share in (0.05, 0.3, 0.6):
        push = share * euler
        k = sqrt(push / 205_000 / (40 * 6**3 / 12))
        exact = push / 240 + across * np.tan(k * lever) / k / 240
        found = flat_stress(whole, -push, 2 * across, 0.0, 205_000.0)
        assert exact * 0.999 <= found <= exact * 1.12
    assert flat_stress(whole, -1.01 * euler, 0.0, 0.0, 205_000.0) == np.inf
    assert flat_stress(whole, 5000.0, 2 * across, 0.0, 205_000.0) == pytest.approx(
        5000 / 240 + 6 * across * lever / (40 * 36)
    )


def buckles(pieces: list[Any], count: int = 4000) -> float:
    """Least load at which a pin-ended line bows, by the eigenvalues of its curvature on a fine grid."""
    ends = np.cumsum([0.0, *(piece.length for piece in pieces)])
    step = ends[-1] / count
    at = (np.arange(1, count)) * step
    stiff = np.array([piece.e_mpa * piece.segment.section.second_moment for piece in pieces])[
        np.clip(np.searchsorted(ends, at) - 1, 0, len(pieces) - 1)
    ]
    # y″ = −P/EI y: symmetric in √(1/EI)
    soft = 1 / np.sqrt(stiff)
    least = eigh_tridiagonal(
        2 / step**2 / soft**2, -1 / step**2 / (soft[:-1] * soft[1:]), select="i", select_range=(0, 0)
    )[0][0]
    return float(least)


@pytest.mark.parametrize("form", ["eye let in", "clevis let in", "squashed"])
def test_a_link_with_flat_ends_is_judged_as_what_it_is(form: str) -> None:
    more: dict[str, Any] = {"gap_mm": 8.0} if form == "clevis let in" else {}
    wanted: dict[str, Any] = {"tube": "tube-1x0.065", "lap_mm": 20.0} if form == "squashed" else {"tube": TUBE.key}
    tube_key = wanted.pop("tube")
    link = a_link(
        end_a=fixed(form=form, **more, **wanted),
        end_b=fixed(face=20.0, form=form, **more, **wanted),
        cases=HARD,
        tube=tube_key,
    )
    design = job_with(link)
    part = part_of(link, design)
    assert part.complete, part.faults
    built = part.own[0]
    tube, grade, end = built.assembly.tube, built.assembly.grade, link.end_a.flat  # type: ignore[union-attr]
    assert isinstance(tube, Tube)
    assert isinstance(end, FlatEnd)
    flat = form == "squashed"
    plates = 2 if form == "clevis let in" else 1
    width, thick = squashed(tube.od_mm, tube.wall_mm) if flat else (42.0, 6.0)
    metal = (grade.yield_mpa, grade.uts_mpa) if flat else (355.0, 470.0)
    factors = work(design).settings.factors
    strength = lug.lug_strength(
        lug.Lug(thickness=thick, width=width, hole=12.2, pin=12.0, edge=21.0, plates=plates), *metal
    )
    checks = {(one.key, one.part): one for one in part.checks}
    found = {key: checks[key, where] for key, where in checks if where == "end A"}
    for key, capacity in (
        ("machined_bearing", strength.bearing), ("machined_tension", strength.tension_rupture), ("machined_tearout", strength.shear_rupture), ("machined_yield", strength.gross_yield),
    ):  # fmt: skip
        factor = factors.tab_yield if key == "machined_yield" else factors.tab_rupture
        assert found[key].capacity == pytest.approx(capacity)
        assert found[key].demand == pytest.approx(9000.0 * factor)
    assert found["machined_pin_shear"].capacity == pytest.approx(2 * pi * 144 / 4 * 0.577 * 640.0, rel=1e-3)
    assert ("machined_pin" in found) is (plates == 2)
    # a cantilever from where it is held: the pull case has the side force, the push none
    lever = 20.0 if flat else 30.0
    bend = 6 * 300.0 * lever / (plates * width * thick**2)
    asked = max(9000.0 / (plates * width * thick), 7000.0 / (plates * width * thick) + bend) * factors.yielding
    assert found["flat_end_bent"].demand == pytest.approx(asked)
    assert found["flat_end_bent"].capacity == metal[0]
    assert ("slotted_tube" in found) is ("slot_weld" in found) is (not flat)
    if not flat:
        own = LetIn(od=tube.od_mm, wall=tube.wall_mm, thickness=6.0, plates=plates, gap=end.gap_mm, lap=40.0, leg=4.0)
        assert found["slotted_tube"].capacity == pytest.approx(tube_rupture(own, grade.uts_at_weld))
        assert found["slotted_tube"].demand == pytest.approx(9000.0 * factors.rupture)
        assert found["slot_weld"].capacity == pytest.approx(
            weld_strength(own, grade.uts_at_weld, 470.0, built.assembly.filler(work(design).settings))
        )
        assert found["slot_weld"].demand == pytest.approx(9000.0 * factors.weld)
    for one in part.checks:
        if one.reproduce is not None:
            again(one)
    # squashed at both ends nothing is welded, and the tube is as it was delivered
    assert built.assembly.welded is not flat
    assert checks["net_rupture", "tube"].capacity == pytest.approx(
        pi * (tube.od_mm - tube.wall_mm) * tube.wall_mm * (grade.uts_mpa if flat else grade.uts_at_weld)
    )
    # the whole line, flats and all, by its eigenvalues
    pieces = column_segments(built.assembly, built.stack)
    assert sum(piece.length for piece in pieces) == pytest.approx(600.0)
    flats = (20 + tube.od_mm, 20 + tube.od_mm) if flat else (30.0, 20.0)
    assert [piece.length for piece in pieces] == pytest.approx([flats[0], 600.0 - sum(flats), flats[1]])
    assert pieces[0].segment.section.second_moment == pytest.approx(plates * width * thick**3 / 12)
    stepped = checks["stepped", "tube and flats"]
    euler, squash = buckles(pieces), min(piece.segment.section.area * piece.yield_mpa for piece in pieces)
    assert stepped.capacity == pytest.approx(
        squash * (1 - squash / 4 / euler) if squash <= 2 * euler else euler, rel=2e-3
    )
    # what is sawn, cut and said
    (sawn,) = [piece for piece in part.pieces if isinstance(piece, TubePiece)]
    assert sawn.length == pytest.approx(600.0 + 42.0 if flat else 600.0 - 50.0)
    assert sawn.ends == (("squashed 41 mm",) * 2 if flat else (f"{2 * plates} slots 6.5 × 40 mm",) * 2)
    (row,) = [line for line in cut_list_csv(work(design)).splitlines() if line.startswith("saw,") and ",link," in line]
    assert ("squashed 41 mm" if flat else "slots 6.5 × 40 mm") in row
    cut = [piece for piece in part.pieces if isinstance(piece, PlatePiece)]
    assert len(cut) == (0 if flat else 2)
    for piece, face in zip(cut, (30.0, 20.0), strict=False):
        assert piece.outline
        assert (piece.length, piece.width, piece.count) == (pytest.approx(21 + face + 40), 42.0, plates)
        assert piece.outline.area == pytest.approx((face + 40) * 42.0 + pi * 21**2 / 2 - pi * 12.2**2 / 4)
        assert drive(dxf_of(design, link, piece.name), thickness=6.0, kerf=0.3).pierces == 2
    tube_kg = pi * (tube.od_mm - tube.wall_mm) * tube.wall_mm * sawn.length * grade.density_kg_m3 * 1e-9
    plates_kg = sum(piece.outline.area * piece.thickness * piece.count for piece in cut if piece.outline) * grade.density_kg_m3 * 1e-9  # fmt: skip
    slots_kg = 0.0 if flat else 2 * own.cut * tube.wall_mm * 40.0 * grade.density_kg_m3 * 1e-9
    assert part.mass == pytest.approx(tube_kg + plates_kg - slots_kg)
    # the jig: what the tube comes to, and what is done there
    assert part.jig
    assert [round(one.ordinate, 6) for one in part.jig.stations if one.name in "14"] == (
        [-21.0, 621.0] if flat else [30.0, 580.0]
    )
    steps, welding = " ".join(part.jig.steps), " ".join(part.welding)
    assert ("Nothing is welded" in steps) is ("both its ends are squashed" in welding) is flat
    assert ("Fillets along the plates" in steps) is not flat
    assert "bush or ball" not in steps
    assert "ring in four runs" not in steps
    lines = [line.text for side in part.card.ends for line in side.lines]  # type: ignore[union-attr]
    assert any(("runs past the hole" in text) is flat and ("slots" in text) is not flat for text in lines)
    assert any("everyday life of" in one for one in part.not_checked)
    assert draw(link, design, "drawing", Numbers()).items


def dxf_of(design: Design, link: Link, name: str) -> str:
    return to_dxf(draw(link, design, f"plate-{name.lower().replace(' ', '-')}", Numbers()))


def test_a_link_that_steers_or_alone_locates_is_never_squashed() -> None:
    design = demo("marram")
    for name in ("Front tie rod", "Panhard rod"):
        link = next(part for part in design.parts if part.name == name)
        assert isinstance(link, Link)
        one = link.model_copy(update={"end_b": fixed(form="squashed", lap_mm=20.0)})
        faults = part_of(one, patched(with_part(design, one), adopted(with_part(design, one), [one], SHELF))).faults
        assert any("never squashed" in fault.message and fault.field == "end_b.flat.form" for fault in faults)
    assert made(a_link(end_b=fixed(form="squashed", lap_mm=20.0), tube="tube-1x0.065", cases=HARD)).complete


@pytest.mark.parametrize(
    ("change", "field", "word"),
    [
        ({"pin_mm": 12.5}, "hole_mm", "bore it larger"), ({"hole_mm": 42.0, "pin_mm": 12.0}, "width_mm", "more width"), ({"edge_mm": 6.0}, "edge_mm", "more edge"),
        ({"width_mm": 39.0}, "width_mm", "39.8 mm wide or more"), ({"lap_mm": 31.0}, "lap_mm", "31.75 mm or more"),
        ({"form": "clevis let in", "gap_mm": 20.0}, "gap_mm", "do not stand through"),
    ],
)  # fmt: skip
def test_what_does_not_go_together_names_its_field_and_the_cure(change: dict[str, Any], field: str, word: str) -> None:
    faults = made(a_link(end_a=fixed(**change), cases=HARD)).faults
    assert any(fault.field == f"end_a.flat.{field}" and word in fault.message for fault in faults), faults


def test_what_does_not_weld_as_steel_gives_as_its_own_metal_does() -> None:
    metal = {"family": "aluminium"}
    one = fixed().model_copy(update=metal)
    link = a_link(end_a=one, end_b=one, cases=HARD, tube="tube-1.25x0.120", grade="6061-t6")
    part = made(link)
    assert part.complete, part.faults
    pieces = column_segments(part.own[0].assembly, part.own[0].stack)
    assert [piece.e_mpa for piece in pieces] == [68900.0] * 3
    for check in part.checks:
        if check.reproduce is not None:
            again(check)


def test_a_thick_wall_is_not_squashed_and_a_flat_has_room_for_its_washer() -> None:
    thick = made(a_link(end_a=fixed(form="squashed", lap_mm=20.0), cases=HARD, tube="tube-1x0.120")).faults
    assert any("cracks where it is squashed" in fault.message for fault in thick)
    (short,) = made(a_link(end_a=fixed(form="squashed", lap_mm=12.0), cases=HARD, tube="tube-1x0.065")).faults
    assert short.field == "end_a.flat.lap_mm"
