"""Sleeves at a link's ends: the tube notched to each and clocked, by rays against the cylinder; what is sawn, turned, judged and drawn."""

from __future__ import annotations

from math import asin, atan2, cos, degrees, pi, radians, sin, sqrt
from typing import Any

import numpy as np
import pytest

from tests.core.test_flat_end import HARD, job_with
from tests.core.test_joined import SHELF, a_link, mm
from tests.core.test_moving_members import again
from tests.core.test_tube_ends import put_back
from tests.jobs import draw, part_of, work
from tirante.core.brackets import lug
from tirante.core.document.catalogue import Tube
from tirante.core.document.end import DamperEye
from tirante.core.document.fields import Length
from tirante.core.document.parts.common import RodEndEnd
from tirante.core.document.parts.link import Bent, BoughtLink, FixedEnd, Link, Machined, Sleeve, Splice
from tirante.core.drawing.sheet import Numbers
from tirante.core.members.insert_weld import insert_weld
from tirante.core.notch.meeting import on_one
from tirante.core.parts.link.sleeve import cuts_of, face_of, foot_on
from tirante.core.parts.part import Part, TubePiece, TurnedPiece
from tirante.core.parts.registry import kind_of

WIDE, SMALL = Sleeve(outside_mm=50.0, wall_mm=5.0, long_mm=60.0), Sleeve(outside_mm=38.0, wall_mm=4.0, long_mm=40.0)


def sleeved(sleeve: Sleeve = WIDE) -> FixedEnd:
    return FixedEnd(what="bush sleeve", centre_to_face=mm(99.0), sleeve=sleeve)


def made(link: Link) -> Part:
    return part_of(link, job_with(link))


def reach(radius: float, bolt: Any, r: float, phi: float) -> float:
    """How far from a sleeve's middle a line along the tube's skin meets the sleeve, by the ray and the cylinder: the tube comes along +x."""
    skin = np.array([0.0, r * sin(phi), r * cos(phi)])  # phi from the marked line, square to end A's bolt
    off = skin - bolt * float(skin @ bolt)
    return sqrt(radius**2 - float(off @ off))


@pytest.mark.parametrize("turn", [0.0, 90.0, 35.0])
def test_both_ends_are_notched_to_their_sleeves_and_clocked_to_each_other(turn: float) -> None:
    link = a_link(end_a=sleeved(), end_b=sleeved(SMALL), cases=HARD, clocking_deg=turn)
    design = job_with(link)
    part = part_of(link, design)
    assert part.complete, part.faults
    tube = part.own[0].assembly.tube
    assert isinstance(tube, Tube)
    r = tube.od_mm / 2
    (sawn,) = [piece for piece in part.pieces if isinstance(piece, TubePiece)]
    offs = [sqrt(one.outside_mm**2 / 4 - r * r) for one in (WIDE, SMALL)]
    # to the longest points, whatever welds draw it shorter by beside
    plain = made(
        a_link(end_a=FixedEnd(centre_to_face=mm(offs[0])), end_b=FixedEnd(centre_to_face=mm(offs[1])), cases=HARD)
    )
    (square,) = [piece for piece in plain.pieces if isinstance(piece, TubePiece)]
    assert sawn.length == pytest.approx(square.length)
    assert sawn.length == pytest.approx(600.0 - sum(offs), abs=2.0)
    assert sawn.ends == ("notched", "notched")
    bolts = (np.array([0.0, 1.0, 0.0]), np.array([0.0, cos(radians(turn)), sin(radians(turn))]))
    for which, (notch, sleeve, off) in enumerate(zip(sawn.notches, (WIDE, SMALL), offs, strict=True)):
        assert notch
        assert notch.off == pytest.approx(off)
        assert notch.depth == pytest.approx(sleeve.outside_mm / 2 - off, abs=0.02)
        # every place round the tube, counted the same way at both ends: how far the edge lies behind the longest point
        for phi, outer, _ in notch.profile[::9]:
            # right-handed about the way from A to B, at both: so a wrap of either lies along one line
            wanted = reach(sleeve.outside_mm / 2, bolts[which], r, -radians(phi)) - off
            assert outer == pytest.approx(wanted, abs=1e-6)
    turned = [piece for piece in part.pieces if isinstance(piece, TurnedPiece) and piece.turned]
    assert [
        (one.turned.outside, one.turned.bore, one.turned.length, one.turned.rough) for one in turned if one.turned
    ] == [(50.0, 40.0, 60.0, 39.0), (38.0, 30.0, 40.0, 29.0)]
    # it lies on the bottoms of its notches, where no stop can stand; both sleeves shut it
    assert part.jig
    assert [one.ordinate for one in part.jig.stations if one.name in "14"] == pytest.approx(
        [25.0, part.jig.set_length - 19.0]
    )
    assert all("no stop" in one.what for one in part.jig.stations if one.name in "14")
    assert any("vent hole" in note for note in part.welding)
    rings = pi * (45.0 * 5.0 * 60.0 + 34.0 * 4.0 * 40.0)
    wall = pi * (tube.od_mm - tube.wall_mm) * tube.wall_mm * sawn.length
    assert part.mass == pytest.approx((wall + rings) * part.own[0].assembly.grade.density_kg_m3 * 1e-9)
    views = {view.name for view in part.views}
    assert {"wrap-tube", "turned-end-a", "turned-end-b"} <= views
    for name in ("drawing", "wrap-tube", "turned-end-b"):
        assert draw(link, design, name, Numbers()).items
    lines = [(line.text, line.mm) for end in part.card.ends for line in end.lines]  # type: ignore[union-attr]
    assert [figure for text, figure in lines if "longest point" in text] == pytest.approx(offs)
    assert any(f"turned {turn:g}° against A, clockwise" in text for text, _ in lines) is (turn > 0)
    # in line or square a left one is a right one; aslant they differ, and every sheet says so
    handed = turn == 35.0
    assert part.own_mirror is not handed
    assert any("of the right one counter-clockwise" in text for text, _ in lines) is handed
    assert ("of the right one counter-clockwise" in " ".join(part.jig.steps)) is handed
    for name, told in (("jig", "left and right differ"), ("wrap-tube", "print inside")):
        assert any(told in getattr(item, "text", "") for item in draw(link, design, name, Numbers()).items) is handed
    assert sum("notched over" in text for text, _ in lines) == 2
    assert not any(
        "is not checked here" in getattr(item, "text", "") for item in draw(link, design, "drawing", Numbers()).items
    )


def test_turned_a_quarter_the_notches_turn_a_quarter() -> None:
    """The longest points lie square to the sleeve's bolt: where that is turned, so are they."""
    longest = []
    for turn in (0.0, 90.0):
        (sawn,) = [
            piece
            for piece in made(a_link(end_a=sleeved(), end_b=sleeved(), cases=HARD, clocking_deg=turn)).pieces
            if isinstance(piece, TubePiece)
        ]
        assert sawn.notches[0]
        assert sawn.notches[1]
        longest.append((sawn.notches[0].long_deg % 180, sawn.notches[1].long_deg % 180))
    (a, b), (same, turned) = longest
    assert a == pytest.approx(b)
    assert same == pytest.approx(a)
    assert abs(turned - a) == pytest.approx(90.0)


def test_a_sleeve_is_an_eye_and_its_weld_goes_round_the_tube() -> None:
    link = a_link(end_a=sleeved(), end_b=RodEndEnd(hand="RH"), cases=HARD)
    design = job_with(link)
    found = kind_of(link).size(link, work(design), SHELF, "mass")
    assert found.winner
    link = found.winner.parts[0]
    assert isinstance(link, Link)
    design = job_with(link)
    part = part_of(link, design)
    assert part.complete, part.faults
    assembly, settings = part.own[0].assembly, work(design).settings
    grade = assembly.grade
    checks = {one.key: one for one in part.checks if one.part == "end A"}
    plate = lug.Lug(thickness=60.0, width=50.0, hole=40.0, pin=40.0, edge=25.0, plates=1)
    strength = lug.lug_strength(plate, grade.welded_yield_mpa, grade.uts_at_weld)
    whole = max(9000.0, (7000.0**2 + 300.0**2) ** 0.5)
    for key, capacity, factor in (
        ("machined_bearing", strength.bearing, settings.factors.tab_rupture), ("machined_tension", strength.tension_rupture, settings.factors.tab_rupture),
        ("machined_tearout", strength.shear_rupture, settings.factors.tab_rupture), ("machined_yield", strength.gross_yield, settings.factors.tab_yield),
    ):  # fmt: skip
        assert checks[key].name.startswith("Sleeve")
        assert checks[key].capacity == pytest.approx(capacity)
        assert checks[key].demand == pytest.approx(whole * factor)
        again(checks[key])
    weld = checks["spigot_weld"]
    assert weld.capacity == pytest.approx(
        insert_weld(assembly.tube.od_mm, assembly.leg, 0.0, 0, assembly.filler(settings), grade.uts_at_weld).capacity
    )
    assert weld.capacity <= pi * assembly.tube.od_mm * assembly.leg * grade.uts_at_weld
    assert weld.demand == pytest.approx(9000.0 * settings.factors.weld)
    again(weld)
    # no tube was taken that is wider than its sleeve, or than it is long
    assert assembly.tube.od_mm <= 50.0
    (sawn,) = [piece for piece in part.pieces if isinstance(piece, TubePiece)]
    assert sawn.ends == ("notched", "square")


@pytest.mark.parametrize(
    ("sleeve", "more", "field", "word"),
    [
        ({"outside_mm": 30.0}, {}, "outside_mm", "31.75 mm or more"), ({"long_mm": 31.0}, {}, "long_mm", "31.75 mm long or more"), ({"wall_mm": 25.0}, {}, "wall_mm", "no hole"),
        ({}, {"bought": BoughtLink(tube_length=Length(mm=700.0))}, "outside_mm", "bought link is shortened"),
    ],
)  # fmt: skip
def test_what_does_not_go_together_names_its_field_and_the_cure(
    sleeve: dict[str, Any], more: dict[str, Any], field: str, word: str
) -> None:
    faults = made(a_link(end_a=sleeved(WIDE.model_copy(update=sleeve)), cases=HARD, **more)).faults
    assert any(fault.field == f"end_a.sleeve.{field}" and word in fault.message for fault in faults), faults


def test_an_end_is_made_one_way() -> None:
    with pytest.raises(ValueError, match="choose one"):
        FixedEnd(
            centre_to_face=mm(30),
            sleeve=WIDE,
            machined=Machined(thickness_mm=8, width_mm=32, hole_mm=12.2, pin_mm=12, edge_mm=24),
        )


def test_rings_bring_a_short_sleeve_out_to_a_wider_tube_and_carry_nothing() -> None:
    """The tube, 31.75 wide, on a sleeve of 24: the weld that lies between both of the sleeve's faces counts, by points round the tube."""
    ringed = Sleeve(outside_mm=50.0, wall_mm=5.0, long_mm=24.0, rings=True)
    link = a_link(end_a=sleeved(ringed), end_b=sleeved(), cases=HARD, everyday_n=6000.0)
    part = made(link)
    assert part.complete, part.faults
    tube, leg = part.own[0].assembly.tube, part.own[0].assembly.leg
    round_ = np.linspace(0, 2 * pi, 200_001)[:-1]
    share = float((np.abs(tube.od_mm / 2 * np.sin(round_)) <= 12.0).mean())
    weld = next(check for check in part.checks if check.key == "spigot_weld")
    settings, grade = work(job_with(link)).settings, part.own[0].assembly.grade
    whole = insert_weld(tube.od_mm, leg, 0.0, 0, part.own[0].assembly.filler(settings), grade.uts_at_weld).capacity
    assert weld.part == "end A"
    assert weld.capacity == pytest.approx(share * whole, rel=1e-3)
    again(weld)
    life = next(check for check in part.checks if check.key == "life")
    assert life.reproduce
    assert life.reproduce.input["stress_range_mpa"] == pytest.approx(
        6000.0 / (pi * tube.od_mm * share * 0.707 * leg), rel=1e-3
    )
    (ring,) = [piece for piece in part.pieces if isinstance(piece, TurnedPiece) and piece.name == "end A ring"]
    assert ring.turned
    long = (tube.od_mm - 24.0) / 2
    assert (ring.count, ring.turned.outside, ring.turned.bore, ring.turned.length) == (
        2,
        50.0,
        41.0,
        pytest.approx(long),
    )
    # as long with them as the tube is wide, and so much heavier
    bare = made(
        a_link(end_a=sleeved(Sleeve(outside_mm=50.0, wall_mm=5.0, long_mm=tube.od_mm)), end_b=sleeved(), cases=HARD)
    )
    missing = pi / 4 * (50.0**2 - 40.0**2) * 2 * long - 2 * pi / 4 * (50.0**2 - 41.0**2) * long
    assert bare.mass is not None
    assert part.mass == pytest.approx(bare.mass - missing * grade.density_kg_m3 * 1e-9, rel=1e-6)
    # the tube is cut alike, rings or a long sleeve
    cuts = [next(piece for piece in one.pieces if isinstance(piece, TubePiece)) for one in (part, bare)]
    assert cuts[0].length == pytest.approx(cuts[1].length)
    lines = [line for side in part.card.ends for line in side.lines if "ring at either end" in line.text]  # type: ignore[union-attr]
    assert [line.mm for line in lines] == [pytest.approx(long)]
    # none where the sleeve is as long as the tube is wide
    assert not [
        piece
        for piece in made(a_link(end_a=sleeved(WIDE.model_copy(update={"rings": True})), cases=HARD)).pieces
        if "ring" in getattr(piece, "name", "")
    ]


def test_a_short_sleeve_without_rings_and_one_too_short_with_them_are_refused() -> None:
    short = Sleeve(outside_mm=50.0, wall_mm=5.0, long_mm=24.0)
    (fault,) = made(a_link(end_a=sleeved(short), cases=HARD)).faults
    assert fault.field == "end_a.sleeve.long_mm"
    assert "give it rings" in fault.message
    (fault,) = made(a_link(end_a=sleeved(short.model_copy(update={"rings": True, "long_mm": 18.0})), cases=HARD)).faults
    assert "19.1 mm long or more" in fault.message
    eye = DamperEye(bore_mm=12.0, ball_width_mm=30.0, head_diameter_mm=50.0, housing_width_mm=28.0)
    held = sleeved(short.model_copy(update={"rings": True})).model_copy(update={"eye": eye})
    (fault,) = made(a_link(end_a=held, cases=HARD)).faults
    assert fault.field == "end_a.eye.ball_width_mm"
    wide = held.model_copy(update={"eye": eye.model_copy(update={"ball_width_mm": 32.0})})
    assert made(a_link(end_a=wide, cases=HARD)).complete


# --- bent and spliced ------------------------------------------------------------------------------------------------------------

LONG = Sleeve(outside_mm=50.0, wall_mm=5.0, long_mm=90.0)


def turned_about(way: Any, vector: Any, deg: float) -> Any:
    """Right-handed about a way (Rodrigues)."""
    k, t = np.array(way, float) / np.linalg.norm(way), radians(deg)
    return vector * cos(t) + np.cross(k, vector) * sin(t) + k * float(k @ vector) * (1 - cos(t))


@pytest.mark.parametrize(("plane", "turn", "from_ends"), [(0.0, 0.0, None), (0.0, 35.0, 150.0), (40.0, 0.0, 150.0), (90.0, -20.0, None), (-90.0, 90.0, 200.0)])  # fmt: skip
def test_the_outer_pieces_of_a_bent_tube_are_notched_where_they_lean_along_their_sleeves(plane: float, turn: float, from_ends: float | None) -> None:  # fmt: skip
    """Bent, each wrap put back round its outer piece lies on its sleeve: a cylinder about its own bolt, wherever the bend points."""
    bent = Bent(offset=Length(mm=40.0), from_ends=mm(from_ends) if from_ends else None, plane_deg=plane)
    link = a_link(end_a=sleeved(LONG), end_b=sleeved(LONG), cases=(), clocking_deg=turn, bent=bent)
    part = made(link)
    assert part.faults == (), part.faults
    tube = part.own[0].assembly.tube
    (sawn,) = [piece for piece in part.pieces if isinstance(piece, TubePiece)]
    x, y, z = np.eye(3)
    # it points so far round from the upper side as the room has it: about the way from A to B
    off = turned_about(x, z, plane)
    along = from_ends or 300.0
    corners = (along * x + 40.0 * off, (600.0 - along) * x + 40.0 * off)
    pivots = (np.zeros(3), 600.0 * x)
    # counter to that the bolt of B is turned clockwise seen from A, which looks along x with its bolt to the left
    bolts = (y, turned_about(x, y, turn))
    cuts = cuts_of(link, tube, part.own[0].stack, 0.1)
    assert [cut.run.name for cut in cuts] == ["bent tube at A", "bent tube at B"]
    reached, lean = [], degrees(atan2(40.0, along))
    for which, cut in enumerate(cuts):
        way = corners[which] - pivots[which]
        way = way / np.linalg.norm(way)
        places = [place for end, place in put_back(cut) if end == which]
        assert len(places) > 100
        for place in places:
            gap = place - pivots[which]
            assert float(np.linalg.norm(np.cross(gap, bolts[which]))) == pytest.approx(25.0, abs=1e-6)
            assert float(np.linalg.norm(np.cross(gap, way))) == pytest.approx(tube.od_mm / 2, abs=1e-6)
        reached.append(min(float((place - pivots[which]) @ way) for place in places))
        # the line that both are counted from lies along the flat of the bend, on the left with the bend up
        assert cut.up == pytest.approx(np.cross(off, x))
        # as far from the sleeve's middle as its foot reaches, the sleeve is long
        angle = 90.0 - degrees(asin(min(1.0, abs(float(way @ bolts[which])))))
        assert max(abs(float((place - pivots[which]) @ bolts[which])) for place in places) == pytest.approx(foot_on(LONG, tube.od_mm, angle), abs=0.02)  # fmt: skip
        assert cut.length == sawn.length
        notch = sawn.notches[which]
        assert notch
        assert (notch.off, notch.angle_deg) == pytest.approx((reached[which], angle), abs=2e-3)
    # sawn along the bent tube between both longest points
    path = part.own[0].assembly.path
    assert sawn.length == pytest.approx(path - sum(reached), abs=1.7)  # and what welds draw it shorter by
    plain = made(
        a_link(
            end_a=FixedEnd(centre_to_face=mm(reached[0])),
            end_b=FixedEnd(centre_to_face=mm(reached[1])),
            cases=(),
            bent=bent,
        )
    )
    (square,) = [piece for piece in plain.pieces if isinstance(piece, TubePiece)]
    assert sawn.length == pytest.approx(square.length, abs=1e-3)
    assert {"wrap-bent-tube-at-A", "wrap-bent-tube-at-B"} <= {view.name for view in part.views}
    lines = [line.text for end in part.card.ends for line in end.lines]  # type: ignore[union-attr]
    assert sum("along the flat of the bend: on the left" in text for text in lines) == 2
    # in its jig it lies on the bottoms of its notches, leaning
    assert part.jig
    bottoms = [max(float((place - pivots[which]) @ ((corners[which] - pivots[which]) / np.linalg.norm(corners[which] - pivots[which]))) for end, place in put_back(cut) if end == which) for which, cut in enumerate(cuts)]  # fmt: skip
    ordinates = [one.ordinate for one in part.jig.stations if one.name in "14"]
    assert ordinates == pytest.approx([bottoms[0] * cos(radians(lean)), part.jig.set_length - bottoms[1] * cos(radians(lean))], abs=0.02)  # fmt: skip


@pytest.mark.parametrize("angle", [90.0, 80.0, 60.0, 40.0, 25.0, 16.0])
@pytest.mark.parametrize("od", [20.0, 32.0, 44.0, 50.0])
def test_the_longest_point_of_a_tube_on_its_sleeve_is_that_of_its_notch(angle: float, od: float) -> None:
    assert face_of(LONG, od, angle) == pytest.approx(on_one(od, 2.0, 50.0, angle, 0.0).long, abs=1e-4)


def test_a_bend_that_leans_the_tube_off_its_sleeve_says_how_long_that_must_be() -> None:
    bent = Bent(offset=Length(mm=40.0), from_ends=mm(150.0), plane_deg=90.0)
    (fault,) = made(a_link(end_a=sleeved(SMALL), end_b=sleeved(LONG), cases=(), bent=bent)).faults
    assert fault.field == "end_a.sleeve.long_mm"
    least = float(fault.message.split("make it ")[1].split(" mm")[0])
    assert 40.0 < least < 45.0
    for long, faults in ((least, 0), (least - 0.1, 1)):
        ended = sleeved(SMALL.model_copy(update={"long_mm": long}))
        assert len(made(a_link(end_a=ended, end_b=sleeved(LONG), cases=(), bent=bent)).faults) == faults
    # where the bend lies square to the one bolt the other's may be turned along it
    turned = a_link(end_a=sleeved(SMALL), end_b=sleeved(SMALL), cases=(), clocking_deg=90.0, bent=bent.model_copy(update={"plane_deg": 0.0}))  # fmt: skip
    assert [fault.field for fault in made(turned).faults] == ["end_b.sleeve.long_mm"]
    along = Bent(offset=Length(mm=150.0), from_ends=mm(40.0), plane_deg=90.0, radius_mm=20.0)
    fields = [fault.field for fault in made(a_link(end_a=sleeved(LONG), end_b=sleeved(LONG), cases=(), bent=along)).faults]  # fmt: skip
    assert "bent.plane_deg" in fields


def test_either_length_of_a_spliced_tube_has_its_own_notch() -> None:
    splice = Splice(at=mm(250.0), length=mm(90.0), wall_mm=3.0)
    link = a_link(end_a=sleeved(), end_b=sleeved(SMALL), cases=(), clocking_deg=35.0, splice=splice)
    part = made(link)
    assert part.faults == (), part.faults
    one, two = (piece for piece in part.pieces if isinstance(piece, TubePiece))
    (whole,) = [piece for piece in made(a_link(end_a=sleeved(), end_b=sleeved(SMALL), cases=(), clocking_deg=35.0)).pieces if isinstance(piece, TubePiece)]  # fmt: skip
    assert (one.notches[0], two.notches[1]) == whole.notches
    assert (one.notches[1], two.notches[0]) == (None, None)
    assert (one.ends, two.ends) == (("notched", "square"), ("square", "notched"))
    assert whole.notches[0]
    assert one.length == pytest.approx(250.0 - whole.notches[0].off)
    assert one.length + two.length == pytest.approx(whole.length, abs=0.9)  # and a weld more
    cuts = cuts_of(link, part.own[0].assembly.tube, part.own[0].stack, 0.1)
    assert [(cut.run.name, round(cut.length, 6)) for cut in cuts] == [(piece.name, round(piece.length, 6)) for piece in (one, two)]  # fmt: skip
    for name in ("wrap-to-A", "wrap-to-B"):
        assert draw(link, job_with(link), name, Numbers()).items
    assert [cut.run.name for cut in cuts_of(link.model_copy(update={"end_b": FixedEnd(centre_to_face=mm(20.0))}), part.own[0].assembly.tube, part.own[0].stack, 0.1) if any(end.rounds for end in cut.run.ends)] == ["to A"]  # fmt: skip
