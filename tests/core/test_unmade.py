"""Joints of what no part of a job is made for: every joint of every kind of end is somewhere, and what a bracket may hold is held like any other."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import numpy as np
import pytest

from tests.core.end_jobs import all_parts, job_of, stood
from tests.jobs import part_of, work
from tirante.core.document.design import Design
from tirante.core.document.end import End
from tirante.core.document.fields import Length
from tirante.core.document.joints import HeldJoint, PointOfBody
from tirante.core.document.mounts import Mount
from tirante.core.document.parts.bracket import TabPair
from tirante.core.document.template import LinkJoint, Template
from tirante.core.job.make_parts import plate_on_carrier
from tirante.core.job.places import places_of
from tirante.core.job.propose import propose
from tirante.core.job.worked import Worked
from tirante.core.loads.end_loads import UNHELD
from tirante.core.parts.body import body_places, seen_of
from tirante.core.parts.registry import kind_of
from tirante.core.parts.unmade import Unmade, unmade_joints

ROOT = Path(__file__).resolve().parents[2]
NAMES = sorted(path.stem for path in (ROOT / "data/ends").glob("*.json"))
EYE = {"bore_mm": 16.0, "ball_width_mm": 50.0, "housing_width_mm": 44.0, "head_diameter_mm": 52.0}
# what keeps a swing axle from rolling over
SPRUNG: dict[str, Any] = {
    "points": {**stood("centre-pivot-beam").points, "damper_top": (-30.0, 380.0, 560.0), "damper_low": (-10.0, 400.0, 230.0)},
    "damper": {"a": {"body": "ground", "point": "damper_top"}, "b": {"body": "axle", "point": "damper_low"}, "rate_n_per_mm": 60.0},
}  # fmt: skip
# a bar's two points are borne by one bearing on its pad; a pivot's second point only says which way it runs
ONE_FOR_TWO = {("bar bearings", "bar_inner"), ("bar bearings", "bar_outer"), ("rocker pivot", "rocker_axis")}


def ids(many: int) -> list[str]:
    return [f"00000000-0000-4000-9000-{n:012d}" for n in range(many)]


def car_with(name: str, **more: Any) -> Design:
    """A job with an end of a kind, what is there of it changed, and all made of it that can be; its other end stays out."""
    design = job_of(name, mounts=())
    own = design.ends[0]
    own = own.model_copy(update={"end": End.model_validate({**own.end.model_dump(), **more})})
    design = design.model_copy(update={"ends": (own, *design.ends[1:])})
    return design.model_copy(update={"parts": tuple(all_parts(design))})


def held(design: Design, body: str, point: str) -> HeldJoint:
    return HeldJoint(id=ids(99)[-1], held=PointOfBody(end_id=design.ends[0].id, body=body, point=point))


def unmade(job: Worked) -> list[Unmade]:
    """Of its first end."""
    return [one for one in job.unmade() if one.of_end == job.design.ends[0].id]


@pytest.mark.parametrize("name", NAMES)
def test_every_joint_of_every_end_is_held_or_said_by_name(name: str) -> None:
    design = car_with(name)
    job = work(design)
    known = {one.point for one in unmade(job)}
    for saved in design.parts:
        spots = [kind_of(saved).spot(saved, at, job) for at in kind_of(saved).ends(saved)]
        known |= {spot.point for spot in spots if spot} | {one.held.point for one in kind_of(saved).bearings(saved, job)}  # fmt: skip
    template = job.template(design.ends[0].id)
    # what slides along a line on a moving body is one with that body
    asked = {
        (joint.name, place.point) for joint in template.joints for place in joint.places
        if not (joint.kind == "slider" and place.body != "ground") and not (joint.kind == "universal" and place.point == joint.end)
    }  # fmt: skip
    assert {(joint, point) for joint, point in asked if point not in known} <= ONE_FOR_TWO
    assert all(one.bracket or one.seat or one.elsewhere or one.missing for one in unmade(job))
    # and nothing twice: what a part answers for is not asked for again
    moved = {joint.name for joint in template.joints if not isinstance(joint, LinkJoint) or joint.shaft}
    assert all(one.joint in moved or one.shaft for one in unmade(job))


def told(job: Worked) -> dict[str, str]:
    every = (one for one in places_of(job) if one.of.startswith(job.design.ends[0].name))
    return {
        f"{one.of}, {one.name}".removeprefix(f"{job.design.ends[0].name} "): one.elsewhere or one.missing or ""
        for one in every
    }


def test_what_holds_a_joint_that_is_no_bracket_is_said() -> None:
    wishbones = told(work(car_with("double-wishbone")))
    assert wishbones["upper arm, upper outer joint"] == "the upright, which is not made here"
    strut = told(work(car_with("strut")))
    assert strut["upright, strut (strut top)"].startswith("Nothing here makes what holds the ends of a slide, or the top of a strut")  # fmt: skip
    assert "upright, strut (strut low)" not in strut
    shafts = told(work(car_with("trailing-arm-drive-shaft")))
    assert shafts["drive shaft, its joint (shaft outer)"] == "the wheel’s hub, which is bought"


def test_a_plate_on_the_axle_holds_its_kingpin_there() -> None:
    design = car_with("three-links-panhard-steered")
    assert told(work(design))["knuckle, kingpin (kingpin low)"] == "the axle, which is not made here"
    plate = plate_on_carrier(work(design), design.ends[0].id, "axle", "kingpin_low", ids(80)[-1])
    both = told(work(design.model_copy(update={"parts": (*design.parts, plate)})))
    assert both["knuckle, kingpin (kingpin low)"] == f"{plate.name}’s own plates"
    assert both["knuckle, kingpin (kingpin high)"] == "the axle, which is not made here"


def test_a_part_that_is_still_to_be_made_asks_for_its_own_joints() -> None:
    made = car_with("double-wishbone")
    assert {one.point for one in unmade(work(made))} == {"upper_outer", "lower_outer"}
    assert unmade(work(made.model_copy(update={"parts": ()}))) == []


def pulls(design: Design, holder: str, point: str, bolt: tuple[float, float, float] | None = None) -> dict[str, tuple[float, float]]:  # fmt: skip
    joint = held(design, holder, point).model_copy(update={"bolt_axis": bolt})
    found = work(design).held_end(joint)
    assert found
    return {case.name: (case.axial_n, case.side_n) for case in found.cases}


def test_both_pivots_of_a_swing_axle_take_what_pushes_it_along() -> None:
    eyes = {"pivot_front": EYE, "pivot_rear": EYE}
    design = car_with("centre-pivot-beam", eyes=eyes, **SPRUNG)
    job = work(design)
    one = next(one for one in unmade(job) if one.point == "pivot_front")
    case = next(case for case in seen_of(one, one.body, job).cases if case.case.startswith("brake"))
    at_pivots = [act for act in case.acting if act.what == "centre pivot"]
    others = [act for act in case.acting if act.what != "centre pivot"]
    assert {act.place for act in at_pivots} == {"pivot_front", "pivot_rear"}
    line = np.array(job.at_of(held(design, "ground", "pivot_front")).bolt, float)  # type: ignore[union-attr]
    pushed = -sum(float(act.force @ line) for act in others)
    share = [pulls(design, "ground", point)[case.case] for point in eyes]
    assert abs(pushed) > 3000
    # a hinge’s thrust is put on both its points alike, as no one knows which bush takes it
    assert sum(side for _, side in share) == pytest.approx(abs(pushed), rel=1e-6)
    # square to the line, by moments about the other pivot
    (xa, xb), force = (np.array(next(p.at for p in body_places(one, one.body, job) if p.point == point)) for point in eyes), sum(act.force for act in others)  # fmt: skip
    turned = sum(act.moment + np.cross(act.at - xb, act.force) for act in others)
    arm = xa - xb
    across = np.cross(turned, arm) / float(arm @ arm)  # what the front pivot must put against it
    across -= line * float(across @ line)
    assert share[0][0] == pytest.approx(float(np.linalg.norm(across)), rel=1e-6)
    assert np.linalg.norm(force) > 0


def test_a_leaf_s_eye_sees_its_pull_and_what_turns_it_over_by_its_width() -> None:
    narrow, wide = (pulls(car_with("leaves-top-link", eyes={"leaf_eye": {**EYE, "ball_width_mm": mm}}), "ground", "leaf_eye") for mm in (50.0, 100.0))  # fmt: skip
    name = next(name for name in narrow if name.startswith("corner"))
    job = work(car_with("leaves-top-link", eyes={"leaf_eye": EYE}))
    one = next(one for one in unmade(job) if one.point == "leaf_eye")
    case = next(case for case in seen_of(one, "leaf", job, either_side=True).cases if case.case == name)
    act = next(act for act in case.acting if act.place == "leaf_eye")
    x, y, z = act.force
    mx, my, mz = act.moment
    assert abs(my) < 1e-6 * np.hypot(mx, mz)  # it turns freely there
    for width, found in ((50.0, narrow), (100.0, wide)):
        pull, side = found[name]
        assert pull == pytest.approx(np.hypot(x, z) + 2 * np.hypot(mx, mz) / width, rel=1e-6)
        assert side == pytest.approx(abs(y), rel=1e-6)


def test_what_turns_about_one_line_stands_on_it_however_it_swings_and_what_nothing_carries_is_told() -> None:
    design = car_with("centre-pivot-beam", eyes={"pivot_front": EYE})
    pivot = held(design, "ground", "pivot_front")
    at, end = work(design).at_of(pivot), work(design).held_end(pivot)
    assert at is not None
    assert at.hinged
    assert end is not None
    # no spring carries it: not one case is known
    assert end.cases == ()
    assert {one.why for one in end.not_carried} >= {UNHELD}


def test_a_beam_on_two_bushes_sees_its_right_one_as_the_left_one_s_mirror_image() -> None:
    """An axle that two bushes hold, one on either side, is one body: what its right one sees comes over."""
    kind = json.loads((ROOT / "data/templates/leaves-top-link.json").read_text())
    points = [one for one in kind["points"] if one["name"] in ("leaf_eye", "wheel_centre")]
    bush = {"kind": "bush", "name": "beam bush", "bodies": ["axle", "ground"], "point": "leaf_eye", "direction": [0, 1, 0], "pair": True}  # fmt: skip
    kind |= {"name": "own", "bodies": ["axle"], "bought": [], "points": points, "joints": [bush]}
    design = job_of("leaves-top-link", mounts=())
    raw = design.ends[0].end.model_dump()
    raw |= {
        "template": "own", "kind": Template.model_validate_json(json.dumps(kind)).model_dump(), "links": {}, "eyes": {"leaf_eye": EYE},
        "points": {name: at for name, at in raw["points"].items() if name not in ("leaf_bend", "top_chassis", "top_axle")},
        "bushes": {"beam bush": {"radial_n_per_mm": 4000.0, "axial_n_per_mm": 2000.0, "conical_nmm_per_deg": 30000.0}},
    }  # fmt: skip
    own = design.ends[0].model_copy(update={"end": End.model_validate(raw)})
    seen = pulls(design.model_copy(update={"ends": (own, *design.ends[1:])}), "ground", "leaf_eye")
    assert {name.rpartition(", ")[2] for name in seen} == {"left", "right"}


RAIL = {
    "id": ids(70)[-1], "name": "Rail", "end_id": None, "body": "ground", "both_sides": True, "material": "S355", "yield_mpa": 355.0, "uts_mpa": 470.0,
    "shape": {"kind": "box", "a": [400.0, 500.0, 450.0], "b": [950.0, 500.0, 450.0], "width_mm": 80.0, "height_mm": 80.0, "wall_mm": 5.0, "up": [0.0, 0.0, 1.0]},
}  # fmt: skip


def test_a_bracket_is_proposed_for_a_leaf_s_eye_and_is_judged_on_its_own_side() -> None:
    design = car_with("leaves-top-link", eyes={"leaf_eye": EYE})
    design = design.model_copy(update={"mounts": (Mount.model_validate_json(json.dumps(RAIL)),)})
    shelf = design.catalogue
    found = next(one for one in propose(work(design), shelf, ids(60)).every if one.place.name == "leaf eye")
    assert found.part is not None, found.told
    made = propose(work(design), shelf, ids(60)).patch
    whole = design.model_copy(update={"parts": (*design.parts, *made.parts), "joints": made.joints})
    saved = whole.part(found.part.id)
    assert isinstance(saved, TabPair)
    part = part_of(saved, whole)
    assert part.complete
    assert part.faults == ()
    named = {check.case for check in part.checks if check.case}
    right = part_of(saved.model_copy(update={"side": "right"}), whole)
    assert any(name.endswith(", left") for name in named)
    assert not any((check.case or "").endswith(", left") for check in right.checks)
    # its sizes taken away, it says where they are given
    gone = whole.model_copy(update={"ends": (whole.ends[0].model_copy(update={"end": whole.ends[0].end.model_copy(update={"eyes": {}})}),)})  # fmt: skip
    assert "at its joint, in the list of Brackets" in part_of(saved, gone).faults[0].message


def test_a_seat_is_asked_for_what_is_bought_and_hangs_elsewhere_too() -> None:
    design = car_with("leaves-top-link")
    template, end = work(design).template(design.ends[0].id), design.ends[0].end

    def clamped(**more: Any) -> Unmade:
        every = unmade_joints(design.ends[0].id, template.model_copy(update=more), end, set(), set(), set())
        return next(one for one in every if one.joint == "leaf at its clamp")

    assert clamped().seat
    for other in ({"bought": ()}, {"joints": tuple(one for one in template.joints if one.name != "leaf eye")}):
        assert (clamped(**other).seat, clamped(**other).elsewhere) == (False, "the axle, which is not made here")


def test_every_eye_says_where_its_sizes_are_kept_and_is_held_by_what_stands_there() -> None:
    design = car_with("leaves-top-link")
    end = design.ends[0]
    rows = {one.name: one.sized for one in places_of(work(design)) if one.sized and one.id == end.id}
    assert rows["leaf eye"] == "eyes/leaf_eye"
    assert rows["upper eye"] == "damper/eye_a"
    assert rows["lower eye"] == "damper/eye_b"
    for name, path in rows.items():
        raw = json.loads(end.end.model_dump_json())
        *way, last = path.split("/")
        place = raw
        for step in way:
            place = place[step]
        place[last] = EYE
        given = end.model_copy(update={"end": End.model_validate_json(json.dumps(raw))})
        job = work(design.model_copy(update={"ends": (given, *design.ends[1:])}))
        now = {one.name: one.missing for one in places_of(job) if one.id == end.id and one.sized}
        assert now[name] is None
        assert all(missing is not None for other, missing in now.items() if other != name)


def test_nothing_is_proposed_for_what_nothing_here_makes_and_it_is_said() -> None:
    found = {
        one.place.name: one for one in propose(work(car_with("strut")), car_with("strut").catalogue, ids(60)).every
    }
    assert found["strut (strut top)"].part is None
    assert found["strut (strut top)"].told.startswith("Nothing here makes")
    assert found["lower outer joint"].told == "held by the upright, which is not made here"


def test_a_case_that_is_not_judged_is_told_once() -> None:
    design = car_with("centre-pivot-beam", eyes={"pivot_front": EYE})
    sizes = {"plate": 8.0, "hole": 16.0, "head_radius": 24.0, "edge": 24.0, "base_width": 60.0, "height": 60.0}
    tab = TabPair(id=ids(81)[-1], name="Tabs", side="centre", **{name: Length(mm=mm) for name, mm in sizes.items()})  # type: ignore[arg-type]
    joint = held(design, "ground", "pivot_front").model_copy(update={"by": tab.id})
    part = part_of(tab, design.model_copy(update={"joints": (joint,)}))
    names = [one.case for one in part.not_carried]
    assert "brake 0.9 g" in names
    assert "bump 4 g at the stop" in names
    # nor of a wheel by itself what is told of the case
    assert len(names) == len({name.partition(",")[0] for name in names})
