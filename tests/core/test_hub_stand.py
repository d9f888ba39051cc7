"""Hub stands: the flange's plane rebuilt from holes and washers, and the shim rule by hand."""

from __future__ import annotations

import re
from math import cos, radians, sin, tan

import numpy as np
import pytest
from numpy.typing import NDArray

from tests.conftest import ROOT
from tests.jobs import work
from tirante.core.document.parts.hub_stand import HubStand
from tirante.core.document.parts.plate_jig import PlateJig, UprightOf
from tirante.core.document.upgrades import load_design
from tirante.core.errors import InputError
from tirante.core.jigs.hub_stand import StudHole, same_for_both, stud_holes
from tirante.core.job.evaluate import evaluate
from tirante.core.job.lay_jigs import of_end
from tirante.core.job.memory import Memory
from tirante.core.parts.kind import ViewAsked
from tirante.core.parts.numbers import numbers_of
from tirante.core.parts.part import BoughtPiece, Part, PlatePiece, TubePiece
from tirante.core.parts.registry import kind_of

Array = NDArray[np.float64]
ID = "0190a000-0000-7000-8000-00000000bb{:02d}"
MEMORY = Memory()


def holes(camber: float = 0.0, toe: float = 0.0, **more: object) -> tuple[StudHole, ...]:
    given = {"studs": 4, "circle": 100.0, "first_deg": 0.0, "used": (1, 2, 3, 4), "height": 310.0} | more
    return stud_holes(**given, camber_deg=camber, toe_deg=toe)  # type: ignore[arg-type]


def plane_of(found: tuple[StudHole, ...]) -> Array:
    """The flange's normal, by the places where the studs leave it: forward, outward, up; the plate stands at the same y all over."""
    at = np.array([(one.forward, -one.washers, one.up) for one in found])
    _, _, ways = np.linalg.svd(at - at.mean(axis=0))
    normal: Array = ways[2]
    return normal if normal[1] > 0 else -normal


@pytest.mark.parametrize(("camber", "toe"), [(-2.0, 0.0), (1.5, 0.0), (0.0, 0.3), (-3.0, 0.5), (4.0, -1.0)])
@pytest.mark.parametrize("studs", [4, 5, 6])
def test_the_flange_that_lies_on_its_washers_has_the_camber_and_toe_that_were_asked(
    studs: int, camber: float, toe: float
) -> None:
    found = holes(camber, toe, studs=studs, used=tuple(range(1, studs + 1)), first_deg=20.0)
    n = plane_of(found)
    # camber: the trace in the plane across the car leans outward at its top by it; toe: that from above inward at its front
    assert np.degrees(np.arctan2(-n[2], n[1])) == pytest.approx(camber, abs=1e-9)
    assert np.degrees(np.arctan2(n[0], n[1])) == pytest.approx(toe, abs=1e-9)
    at = np.array([(one.forward, -one.washers, one.up) for one in found])
    assert np.linalg.norm(at - at.mean(axis=0), axis=1) == pytest.approx(50.0)  # on their own circle
    assert min(one.washers for one in found) == 0.0


def test_washers_stand_on_the_top_studs_for_negative_camber_and_are_the_studs_spacing_times_its_tangent() -> None:
    top, rear, low, front = holes(camber=-2.0)
    assert top.washers - low.washers == pytest.approx((top.up - low.up) * tan(radians(2.0)))
    assert (low.washers, rear.washers) == (0.0, pytest.approx(front.washers))
    assert top.up - low.up == pytest.approx(100.0 * cos(radians(2.0)))
    assert top.height == pytest.approx(310.0 + 50.0 * cos(radians(2.0)))


def test_washers_stand_on_the_front_studs_for_toe_in() -> None:
    top, rear, low, front = holes(toe=0.5)
    assert front.forward > 0 > rear.forward
    assert front.washers == pytest.approx(100.0 * cos(radians(0.5)) * tan(radians(0.5)))
    assert rear.washers == 0.0
    assert top.washers == pytest.approx(low.washers)


def test_five_studs_by_two_of_them_go_by_their_own_spacing_and_not_by_the_circle() -> None:
    """The two lowest of five, the first straight up: 114.3 mm · sin 36° apart across, 57.15 mm · cos 36° under the axis."""
    a, b = holes(studs=5, circle=114.3, used=(3, 4))
    assert abs(a.forward - b.forward) == pytest.approx(114.3 * sin(radians(36.0)))
    assert (a.up, b.up) == (pytest.approx(-57.15 * cos(radians(36.0))),) * 2


def test_a_pattern_as_far_ahead_as_behind_is_one_for_both_sides() -> None:
    assert same_for_both(holes(studs=5, used=(1, 2, 3, 4, 5)))
    assert not same_for_both(holes(studs=5, used=(1, 2, 3, 4, 5), first_deg=10.0))
    assert not same_for_both(holes(studs=5, used=(1, 2, 3)))


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"used": (1,)}, "used"),
        ({"used": (1, 9)}, "used"),
        ({"camber": 20.0}, "camber_deg"),
        ({"toe": -16.0}, "toe_deg"),
    ],
)
def test_what_no_stand_is_is_refused(change: dict[str, object], field: str) -> None:
    with pytest.raises(InputError) as found:
        holes(**change)  # type: ignore[arg-type]
    assert found.value.fields == (field,)


def test_an_end_s_stand_and_dummies_are_parts_of_the_job_at_its_own_wheel() -> None:
    design = load_design((ROOT / "data/demo/marram.json").read_bytes())
    end = design.ends[0]
    made = of_end(work(design, MEMORY), end.id, [ID.format(i) for i in range(9)])
    assert [one.kind for one in made] == ["hub_stand", "plate_jig", "dummy_damper"]
    job = work(design.model_copy(update={"parts": (*design.parts, *made)}), MEMORY)
    assert of_end(job, end.id, []) == []
    stand, *_ = (job.part(one.id) for one in made)
    assert stand is not None
    assert stand.complete, stand.faults
    wheel = end.end.wheel
    face = stand.own.face
    assert face.height == pytest.approx(
        wheel.loaded_radius_mm * cos(radians(wheel.camber_deg))
    )  # its tyre leans with it
    assert (face.camber, face.toe) == (wheel.camber_deg, wheel.toe_deg)
    plate = next(one for one in stand.pieces if isinstance(one, PlatePiece) and one.name == "upright plate")
    assert plate.outline is not None
    for one in face.holes:  # seen from outside on the left: forward is to the left
        assert any(h.x == pytest.approx(-one.forward) and h.y == pytest.approx(one.height) for h in plate.outline.holes)
    asked = [one for one in face.holes if one.washers > 0.05]
    assert len([one for one in stand.pieces if isinstance(one, BoughtPiece) and one.sort == "washer"]) == len(asked)
    for part in (job.part(one.id) for one in made):
        assert part is not None
        assert part.tool
        for view in part.views:
            assert kind_of(part.saved).draw(part, ViewAsked(name=view.name), numbers_of(job.settings, "in")).items
    found = evaluate(job)
    assert {one.id for one in found.parts if one.tool} == {one.id for one in made}


def test_a_dummy_is_as_long_as_the_damper_where_its_study_has_the_wheel() -> None:
    design = load_design((ROOT / "data/demo/marram.json").read_bytes())
    end = design.ends[0]
    made = of_end(work(design, MEMORY), end.id, [ID.format(i) for i in range(9)])
    job = work(design.model_copy(update={"parts": (*design.parts, *made)}), MEMORY)
    dummy = job.part(made[2].id)
    assert dummy is not None
    assert dummy.complete, dummy.faults
    from tirante.core.suspension.cycle import cycle

    rows = np.array([[0.0, 0, 0], [made[2].bump_mm, 0, 0], [-made[2].droop_mm, 0, 0]]).T  # type: ignore[attr-defined]
    study = cycle(job.template(end.id), job.ends[end.id], rows)
    assert [dummy.own.lengths[name] for name in ("ride", "bump", "droop")] == pytest.approx(
        list(study.columns["damper_length_mm"]), abs=1e-6
    )
    damper = end.end.damper
    assert damper
    a, b = (np.array(end.end.points[place.point]) for place in damper.places)
    assert dummy.own.lengths["ride"] == pytest.approx(float(np.linalg.norm(a - b)))
    bar = next(one for one in dummy.pieces if isinstance(one, PlatePiece))
    assert bar.outline
    xs = sorted(hole.x for hole in bar.outline.holes)
    assert xs == pytest.approx([0.0, *sorted(dummy.own.lengths.values())])
    far = made[2].model_copy(update={"bump_mm": 4000.0})
    broken = work(design.model_copy(update={"parts": (*design.parts, far)}), MEMORY).part(far.id)
    assert broken is not None
    assert broken.faults[0].field == "bump_mm"


def test_holes_that_would_run_into_one_another_have_a_bar_each() -> None:
    from tirante.core.jigs.dummy_damper import strips

    assert len(strips({"ride": 300.0, "bump": 260.0, "droop": 340.0}, first=12.0, second=12.0, width=40.0)) == 1
    apart = strips({"ride": 300.0, "bump": 280.0, "droop": 340.0}, first=12.0, second=12.0, width=40.0)
    assert [dict(one.holes) for one in apart] == [{"ride": 300.0}, {"bump": 280.0}, {"droop": 340.0}]
    assert all(len(one.contour.holes) == 2 and one.contour.gap < 1e-9 for one in apart)


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"recess_mm": 110.0}, "recess_mm"),
        ({"used": "1, two"}, "used"),
        ({"height_mm": 60.0}, "height_mm"),
        ({"used": "1"}, "used"),
    ],
)
def test_a_stand_that_cannot_be_made_says_at_which_field(change: dict[str, object], field: str) -> None:
    design = load_design((ROOT / "data/demo/marram.json").read_bytes())
    saved = HubStand(id=ID.format(1), name="stand", end_id=design.ends[0].id, **change)  # type: ignore[arg-type]
    part = work(design.model_copy(update={"parts": (*design.parts, saved)}), MEMORY).part(saved.id)
    assert part is not None
    assert [one.field for one in part.faults] == [field]


def test_an_upright_s_jig_carries_its_kingpin_and_the_wheel_s_own_axis() -> None:
    """Rebuilt from its ordinates: the ball joints' line and the wheel's axis stand to one another as in the car, for either hand."""
    design = load_design((ROOT / "data/demo/marram.json").read_bytes())
    end = design.ends[0]
    made = of_end(work(design, MEMORY), end.id, [ID.format(i) for i in range(9)])
    job = work(design.model_copy(update={"parts": (*design.parts, *made)}), MEMORY)
    part = job.part(made[1].id)
    assert part is not None
    assert part.complete, part.faults
    points = end.end.points
    low, top = np.array(points["lower_outer"]), np.array(points["upper_outer"])
    camber, toe = radians(end.end.wheel.camber_deg), radians(end.end.wheel.toe_deg)
    spin = np.array(
        [sin(toe) * cos(camber), cos(toe) * cos(camber), -sin(camber)]
    )  # outboard, its front inward, its top out by camber
    cosine = float((top - low) @ spin / np.linalg.norm(top - low))
    assert [hand.word for hand in part.own.hands] == ["LEFT", "RIGHT"]
    for hand in part.own.hands:
        at = {joint.held.name: (np.array(joint.at), np.array(joint.bar)) for joint in hand.jig.joints}
        kingpin = at["upper outer"][0] - at["lower outer"][0]
        wheel = at["wheel centre"][1] - at["wheel centre"][0]
        assert float(kingpin @ wheel / np.linalg.norm(kingpin) / 100.0) == pytest.approx(cosine, abs=1e-9)
        assert float(np.linalg.norm(at["wheel centre"][0] - at["lower outer"][0])) == pytest.approx(
            float(np.linalg.norm(np.array(points["wheel_centre"]) - low))
        )
        # the wheel’s axis has a way of its own, and a dummy as thick as its bearings’ seats; the ball joints’ bosses are as the others
        held = {joint.held.name: joint.held for joint in hand.jig.joints}
        of = made[1].upright
        assert of is not None
        assert held["wheel centre"].directed
        assert (held["wheel centre"].bore, held["wheel centre"].wide) == (of.wheel_bore_mm, of.wheel_wide_mm)
        assert (held["lower outer"].bore, held["lower outer"].wide) == (of.bore_mm, of.wide_mm)
        assert of.wheel_bore_mm != of.bore_mm
    assert part.own.hands[0].signed is not None
    lean = np.degrees(np.arctan2(-(top - low)[1], (top - low)[2]))
    assert any(f"kingpin leans {lean:.2f}° inward" in note for note in part.notes)


def test_the_largest_opening_that_is_told_is_taken_and_a_tenth_more_is_not() -> None:
    design = load_design((ROOT / "data/demo/marram.json").read_bytes())

    def worked_out(recess: float) -> Part:
        saved = HubStand(id=ID.format(1), name="stand", end_id=design.ends[0].id, recess_mm=recess)
        part = work(design.model_copy(update={"parts": (*design.parts, saved)}), MEMORY).part(saved.id)
        assert part is not None
        return part

    found = re.search(r"Give ([\d.]+) mm or less", worked_out(110.0).faults[0].message)
    assert found
    assert worked_out(float(found[1])).complete
    assert not worked_out(float(found[1]) + 0.1).complete


def test_an_axle_that_moves_aside_has_a_dummy_for_each_side_and_no_jig_of_an_upright() -> None:
    """Marram's Panhard rod takes its axle aside as it rises: the left damper is longer by as much as the right one is shorter, or nearly."""
    design = load_design((ROOT / "data/demo/marram.json").read_bytes())
    end = next(one for one in design.ends if one.name == "Rear")
    made = of_end(work(design, MEMORY), end.id, [ID.format(i) for i in range(9)])
    assert [(one.kind, one.side) for one in made] == [
        ("hub_stand", "pair"),
        ("dummy_damper", "left"),
        ("dummy_damper", "right"),
    ]
    assert len({one.id for one in made}) == 3
    job = work(design.model_copy(update={"parts": (*design.parts, *made)}), MEMORY)
    left, right = (job.part(one.id) for one in made[1:])
    assert left is not None
    assert right is not None
    assert left.complete
    assert right.complete
    assert left.own.lengths["ride"] == pytest.approx(right.own.lengths["ride"], abs=1e-6)
    assert abs(left.own.lengths["bump"] - right.own.lengths["bump"]) > 0.5
    both = made[1].model_copy(update={"side": "pair"})
    told = work(design.model_copy(update={"parts": (*design.parts, both)}), MEMORY).part(both.id)
    assert told is not None
    assert told.faults[0].field == "side"
    axle = PlateJig(id=ID.format(8), name="axle", what="an upright", upright=UprightOf(end_id=end.id, body="axle"))
    refused = work(design.model_copy(update={"parts": (*design.parts, axle)}), MEMORY).part(axle.id)
    assert refused is not None
    assert "stands once in the car" in refused.faults[0].message


def test_an_upright_that_differs_left_and_right_is_told_where_and_none_is_laid_out() -> None:
    design = load_design((ROOT / "data/demo/marram.json").read_bytes())
    one = design.ends[0]
    x, y, z = one.end.points["tie_outer"]
    unlike = one.model_copy(
        update={"end": one.end.model_copy(update={"right_points": {"tie_outer": (x + 3.0, -y, z)}})}
    )
    jig = PlateJig(id=ID.format(8), name="upright", what="an upright", upright=UprightOf(end_id=one.id, body="upright"))
    for ends, complete in (
        ((one, *design.ends[1:]), True),
        ((unlike, *design.ends[1:]), False),
        (design.ends[1:], False),
    ):
        part = work(design.model_copy(update={"ends": ends, "parts": (jig,), "joints": ()}), MEMORY).part(jig.id)
        assert part is not None
        assert part.complete is complete
        if ends[0] is unlike:
            assert "differ at tie outer" in part.faults[0].message


def stood(name: str, **more: object) -> Part:
    design = load_design((ROOT / f"data/demo/{name}.json").read_bytes())
    one = HubStand(id=ID.format(30), name="stand", end_id=design.ends[0].id, **more)  # type: ignore[arg-type]
    part = work(design.model_copy(update={"parts": (*design.parts, one)}), MEMORY).part(one.id)
    assert part is not None
    return part


def test_the_face_of_a_wheel_that_leans_in_stands_higher_the_further_out_it_lies() -> None:
    """Tern's rear: 308 mm of tyre at −1.2°, the face 30 mm out by its rim."""
    assert stood("tern").own.face.height == pytest.approx(308.0 * cos(radians(1.2)) + 30.0 * sin(radians(1.2)))
    assert stood("tern", face_mm=60.0).own.face.height - stood("tern").own.face.height == pytest.approx(
        30.0 * sin(radians(1.2))
    )
    assert stood("tern", height_mm=333.0).own.face.height == 333.0


def test_a_stand_of_square_tube_ends_under_the_hub_s_nuts_and_its_plate_laps_it() -> None:
    part = stood(
        "tern",
        base="square tube",
        tube_mm=40.0,
        tube_wall_mm=2.5,
        lap_mm=70.0,
        edge_mm=25.0,
        foot_mm=300.0,
        height_mm=310.0,
    )
    assert part.complete, part.faults
    tubes = {one.name: one for one in part.pieces if isinstance(one, TubePiece)}
    post = 310.0 - 114.3 / 2 - 25.0
    assert {one.tube for one in tubes.values()} == {"box 40 × 40 × 2.5"}
    assert tubes["post"].length == pytest.approx(post - 40.0)  # it stands on its foot
    assert tubes["foot, along the car"].length == 300.0
    plate = next(one for one in part.pieces if isinstance(one, PlatePiece))
    assert plate.outline is not None
    assert (plate.outline.bounds[1], plate.outline.bounds[3]) == (
        pytest.approx(post - 70.0),
        pytest.approx(310.0 + 114.3 / 2 + 25.0),
    )
    assert [one.name for one in part.pieces if isinstance(one, PlatePiece)] == ["hub plate"]
    low = stood("tern", base="square tube", height_mm=180.0)
    assert [one.field for one in low.faults] == ["lap_mm"]
    fits = stood(
        "tern",
        base="square tube",
        height_mm=180.0,
        lap_mm=float(low.faults[0].message.split(", ")[1].split(" mm")[0]) - 1.0,
    )
    assert fits.complete, fits.faults
