"""Further and lightening holes in plates of every other family: in line, cut where they were said, listed, judged with what each plate bears."""

from __future__ import annotations

from math import ceil, cos, hypot, pi, radians, sin, sqrt
from typing import Any

import numpy as np
import pytest
from shapely.geometry import LineString

from tests.core.test_lapped import held_by_a_plate
from tests.core.test_split_clamp import clamped
from tests.jobs import draw, part_of, with_part, work
from tirante.calc import calculate
from tirante.core.brackets.lapped import holed_stress
from tirante.core.brackets.tab_bending import Legs, section_stress
from tirante.core.document.design import Design
from tirante.core.document.fields import Length
from tirante.core.document.parts.angle_bracket import AngleBracket
from tirante.core.document.parts.bracket import ExtraHole, Lighten, TabPair
from tirante.core.drawing.sheet import Numbers
from tirante.core.flat.contour import Contour, polygon
from tirante.core.parts.bracket.families.angle_bracket import AngleMade, angle_for
from tirante.core.parts.bracket.families.lapped import LAPPED_PLATE, LappedMade
from tirante.core.parts.bracket.families.lapped_checks import as_pair
from tirante.core.parts.bracket.families.split_clamp import eared_with
from tirante.core.parts.bracket.families.tab_checks import slants
from tirante.core.parts.part import Part, PlatePiece
from tirante.core.units import STEEL_DENSITY
from tirante.documents.cutting_table import drive
from tirante.documents.dxf import to_dxf

# --- the metal at a level of a plate in single shear -----------------------------------------------------------------------------


def test_a_plate_in_single_shear_is_bent_off_its_plane_and_twisted_across_its_holes() -> None:
    """Each force by itself, by the moduli of two strips; off the axis too."""
    at, t = Legs(thickness=8.0, legs=((-30.0, -6.0), (6.0, 30.0)), opening=12.0), 8.0
    wide = 48.0
    pulled = holed_stress(at, 40.0, 12.0, 3000.0, 0.0, 0.0)
    assert pulled == pytest.approx(3000 / (wide * t) + 3000 * 12 / (wide * t**2 / 6))
    pushed = holed_stress(at, 40.0, 12.0, 0.0, 0.0, 500.0)
    assert pushed == pytest.approx(hypot(500 * 40 / (wide * t**2 / 6), sqrt(3) * 1.5 * 500 / (wide * t)))
    across = holed_stress(at, 40.0, 12.0, 0.0, 2000.0, 0.0)
    in_plane = section_stress(at, 40.0, 0.0, 2000.0, 0.0)
    # either strip takes half of the twist: T/2 (3 + 1.8 t/b)/(b t²)
    twist = 2000 * 12 / 2 * (3 + 1.8 * t / 24) / (24 * t**2)
    assert across == pytest.approx(hypot(in_plane, sqrt(3) * (twist + 1.5 * 2000 / (wide * t))))
    # without holes and with nothing beside its axis it is what a plate is at its root
    aside = Legs(thickness=8.0, legs=((-30.0, -14.0), (-2.0, 30.0)), opening=12.0)
    assert holed_stress(aside, 40.0, 12.0, 3000.0, 0.0, 0.0) > pulled


@pytest.mark.parametrize(("d", "wide"), [(6.0, 60.0), (20.0, 60.0), (30.0, 60.0), (12.0, 40.0)])
def test_sharing_a_twist_as_strips_is_on_the_safe_side_of_strips_that_bend_against_each_other(d: float, wide: float) -> None:  # fmt: skip
    """Both strips built in at both ends of 0.45 diameters, turned alike: St Venant and bending side by side, by their stiffness."""
    t, w, long, twist = 8.0, (wide - d) / 2, 0.45 * d, 50_000.0
    modulus, shear = 205_000.0, 79_000.0
    apart = (wide + d) / 2
    st_venant = 2 * shear * w * t**3 / 3 / long
    bending = 2 * (12 * modulus * w * t**3 / 12 / long**3) * (apart / 2) ** 2
    share = bending / (bending + st_venant)
    force = share * twist / apart
    bent = force * long / 2 / (w * t**2 / 6)
    sheared = (1 - share) * twist / 2 * (3 + 1.8 * t / w) / (w * t**2) + 1.5 * force / (w * t)
    at = Legs(thickness=t, legs=((-wide / 2, -d / 2), (d / 2, wide / 2)), opening=d)
    lever = 12.0
    alone = sqrt(3) * twist * (3 + 1.8 * t / w) / (2 * w * t**2)
    assert hypot(bent, sqrt(3) * sheared) < alone
    # and that is what is counted
    across = twist / lever
    whole = holed_stress(at, 0.0, lever, 0.0, across, 0.0)
    bare = section_stress(at, 0.0, 0.0, across, 0.0)
    assert sqrt((whole**2 - bare**2) / 3) - 1.5 * across / (2 * w * t) == pytest.approx(alone / sqrt(3))


# --- on a car --------------------------------------------------------------------------------------------------------------------

CLIP = ExtraHole(what="brake line clip", below_mm=40.0, diameter_mm=6.0)
FLATS = {"lapped_plate": "lapped-flat", "angle_bracket": "angle-flat", "split_clamp": "clamp-eared"}
MADE = {"lapped_plate": 1, "angle_bracket": 2, "split_clamp": 2}


def tall(kind: str, mounted: Design) -> tuple[Design, Any]:
    """A bracket with room for both between its hole and its foot."""
    if kind == "lapped_plate":
        design, plate = held_by_a_plate(mounted, past=130.0)
        return design, plate.model_copy(update={"base_width": Length(mm=90.0)})
    if kind == "split_clamp":
        design, one = clamped(mounted, apart_mm=90.0, height=Length(mm=180.0), base_width=Length(mm=90.0))
    else:
        design = mounted
        pair = next(part for part in mounted.of_kind(TabPair) if part.name == "Rear lower link, end A, tabs")
        one = angle_for(pair, None).model_copy(
            update={"height": Length(mm=150.0), "base_width": Length(mm=110.0), "shim_mm": 4.0}
        )
    joints = tuple(j.model_copy(update={"mount": None}) if j.by == one.id else j for j in design.joints)
    return with_part(design.model_copy(update={"joints": joints}), one), one


def cut_of(part: Part, saved: Any) -> Contour:
    """The flat that has the joint's hole."""
    own = part.own
    return own.flat.contour if isinstance(own, LappedMade | AngleMade) else eared_with(saved)


@pytest.mark.parametrize("kind", ["lapped_plate", "angle_bracket", "split_clamp"])
def test_holes_are_where_they_were_said_of_list_card_and_mass_and_judged_by_what_the_plate_bears(kind: str, mounted: Design) -> None:  # fmt: skip
    design, plain = tall(kind, mounted)
    below = round((plain.hole.mm + CLIP.diameter_mm) / 2 + min(16.0, max(8.0, 2 * plain.plate.mm)) + 0.1, 1)
    clip = CLIP.model_copy(update={"below_mm": below})
    made = plain.model_copy(update={"extra": (clip,), "lighten": Lighten()})
    before, part = (part_of(one, with_part(design, one)) for one in (plain, made))
    assert before.faults == part.faults == ()
    new = {check.key for check in part.checks} - {check.key for check in before.checks}
    assert new == ({"lapped_holed"} if kind == "lapped_plate" else {"tab_holed", "tab_lightened"})
    # in the flat: the joint's hole, then (an angle's feet,) the clip's and the lightening hole, straight below it
    contour, more = cut_of(part, made), cut_of(part, made).holes[-2:]
    joint = contour.holes[0]
    assert round(hypot(more[0].x - joint.x, more[0].y - joint.y), 6) == below
    assert more[0].diameter == 6.0
    light = more[1].diameter
    assert light >= 10.0
    down = hypot(more[1].x - joint.x, more[1].y - joint.y)
    own = part.own
    if isinstance(own, LappedMade):
        assert own.flat.joggle is not None  # folded, they are in its tongue, as far below
        for hole, far in zip(more, (below, down), strict=True):
            here, there = own.flat.folded(hole.y), own.flat.folded(joint.y)
            assert (there[0] - here[0], here[1], hole.x) == pytest.approx((far, there[1], joint.x))
    elif isinstance(own, AngleMade):
        for hole, far in zip(more, (below, down), strict=True):
            here3, there3 = own.flat.folded(hole.x, hole.y), own.flat.folded(joint.x, joint.y)
            assert (there3[2] - here3[2], here3[1], here3[0]) == pytest.approx((far, there3[1], there3[0]))
    lost = MADE[kind] * pi / 4 * (6.0**2 + light**2) * made.plate.mm * STEEL_DENSITY
    assert (before.mass or 0) - (part.mass or 0) == pytest.approx(lost, rel=1e-6)
    plate = part.pieces[0]
    assert isinstance(plate, PlatePiece)
    assert f", 1 more, lightening hole {light:g} mm" in plate.told
    card = part.card
    assert card
    assert any(line.text.startswith("hole ⌀6 mm for brake line clip") and line.mm == below for line in card.lines)
    assert any(line.text == f"lightening hole ⌀{round(light, 2):g} mm" for line in card.lines)
    # what is cut: of a clamp no hole that is smaller than its plate is thick
    counts = [drive(to_dxf(draw(one, with_part(design, one), FLATS[kind], Numbers())), thickness=1.0, kerf=0.3).pierces for one in (plain, made)]  # fmt: skip
    assert counts[1] - counts[0] == (int(light >= made.plate.mm) if kind == "split_clamp" else 2)
    # each is judged at its own level by what one plate bears: of two half, of one all
    job, share = work(with_part(design, made)), MADE[kind]
    assert own is not None
    held = own.joints[0].held
    for key in new:
        check = next(one for one in part.checks if one.key == key)
        assert check.reproduce
        data, case = check.reproduce.input, next(one for one in held.cases if one.name == check.case)
        pull = abs(case.axial_n) * check.factor / share
        assert hypot(data["along_n"], data["across_n"]) == pytest.approx(pull)
        assert data["side_n"] == pytest.approx(abs(case.across_n) * check.factor / share)
        assert check.factor == job.settings.factors.tab_yield
        assert min(abs(data["over_mm"] - far) for far in (below, down)) < 0.06
        assert calculate(check.reproduce.topic, data)[check.reproduce.output] == pytest.approx(check.demand)
        if kind == "lapped_plate":
            row = held.row
            assert data["lever_mm"] == pytest.approx(made.plate.mm / 2 + own.joints[0].beside + row.ball_width_mm / 2)
            assert made.offset_mm > 5.0  # which its root's lever has besides
            # the worst of both levels, at every angle that its pull has
            found = {}
            for hole, far in zip(more, (below, down), strict=True):
                w, at = LAPPED_PLATE.ears(made, 0.0)[0].contour, made.height.mm - far
                left, right = polygon(w).intersection(LineString([(-99.0, at), (99.0, at)])).bounds[::2]
                legs = ((left, hole.x * 1.0 - hole.diameter / 2), (hole.x + hole.diameter / 2, right))
                low, high = slants(as_pair(made), held)
                found[far] = max(
                    holed_stress(Legs(thickness=made.plate.mm, legs=legs, opening=hole.diameter), far, data["lever_mm"], pull * abs(cos(radians(a))), pull * abs(sin(radians(a))), data["side_n"])  # type: ignore[arg-type]
                    for a in np.linspace(low, high, max(2, ceil(high - low) + 1))
                )  # fmt: skip
            assert check.demand == pytest.approx(max(found.values()), rel=1e-3)
            assert max(found, key=lambda far: found[far]) == down  # which is not the first of them


def test_a_hole_beside_its_axis_is_on_the_side_that_was_said_of_a_plate_that_lies_on_a_face(mounted: Design) -> None:
    """Seen as the flat is, from the side away from the face."""
    design, plain = tall("lapped_plate", mounted)
    one = plain.model_copy(update={"extra": (CLIP.model_copy(update={"beside_mm": 11.0}),)})
    own = part_of(one, with_part(design, one)).own
    assert isinstance(own, LappedMade)
    hole = own.flat.contour.holes[-1]
    assert (hole.x, own.flat.hole_at - hole.y) == pytest.approx((11.0, 40.0))


@pytest.mark.parametrize("kind", ["lapped_plate", "angle_bracket", "split_clamp"])
def test_no_hole_reaches_into_a_bend_or_under_the_shoulders(kind: str, mounted: Design) -> None:
    design, plain = tall(kind, mounted)
    part = part_of(plain, design)
    own = part.own
    if isinstance(own, LappedMade):
        assert own.flat.joggle
        low = own.flat.joggle.run + 2 * plain.plate.mm + plain.radius_mm
    elif isinstance(own, AngleMade):
        low = plain.shim_mm + 3 * plain.plate.mm + 2 * plain.radius_mm
    else:
        low = plain.shoulder_mm + min(16.0, max(8.0, 2 * plain.plate.mm))  # of its rim
    end = plain.height.mm - low - CLIP.diameter_mm / 2
    for off, faults in ((-0.1, 0), (0.1, 1)):
        one = plain.model_copy(update={"extra": (CLIP.model_copy(update={"below_mm": end + off}),)})
        found = [fault.field for fault in part_of(one, with_part(design, one)).faults]
        assert len(found) == faults
        assert all(field.startswith("extra.0.") for field in found)


def test_what_is_beside_the_axis_of_an_angle_has_its_like_on_the_other_side(mounted: Design) -> None:
    """Of two pieces alike, one turned half round, it is in line only so."""
    design, plain = tall("angle_bracket", mounted)
    assert isinstance(plain, AngleBracket)
    left, right = (CLIP.model_copy(update={"below_mm": 60.0, "beside_mm": x}) for x in (-12.0, 12.0))
    for extra, faults in (((left,), ["extra.0.beside_mm"]), ((left, right), []), ((left, right.model_copy(update={"diameter_mm": 7.0})), ["extra.0.beside_mm"])):  # fmt: skip
        one = plain.model_copy(update={"extra": extra})
        assert [fault.field for fault in part_of(one, with_part(design, one)).faults] == faults
    both = plain.model_copy(update={"extra": (left, right)})
    own = part_of(both, with_part(design, both)).own
    assert isinstance(own, AngleMade)
    lines = {(round(own.flat.hole_at - hole.x, 6), abs(hole.y)) for hole in own.flat.contour.holes[-2:]}
    assert lines == {(60.0, 12.0)}


def test_a_clamp_s_small_holes_are_drilled_and_its_large_ones_cut(mounted: Design) -> None:
    design, plain = tall("split_clamp", mounted)
    large = CLIP.model_copy(update={"below_mm": 60.0, "diameter_mm": plain.plate.mm + 1.0})
    one = plain.model_copy(update={"extra": (large,)})
    part = part_of(one, with_part(design, one))
    assert part.faults == ()
    plate = part.pieces[0]
    assert isinstance(plate, PlatePiece)
    assert [hole.diameter for hole in plate.outline.holes] == [plain.plate.mm + 1.0]
    assert f"hole {plain.hole.mm:g} mm drilled" in plate.told
    small = eared_with(plain.model_copy(update={"extra": (CLIP.model_copy(update={"below_mm": 60.0}),)}))
    assert [hole.diameter for hole in small.holes] == [plain.hole.mm, 6.0]
