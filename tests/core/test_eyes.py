"""A damper's eye on a bracket: the spring's force by virtual work and by its rate, what is not known of it, and what a list offers."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np
import pytest

from tests.conftest import ROOT
from tests.jobs import work
from tirante.core.document.catalogue import KINDS, Catalogue, read_csv
from tirante.core.document.design import Design, tied
from tirante.core.document.end import DamperEye
from tirante.core.document.joints import HeldJoint, PointOfBody
from tirante.core.document.load_cases import CarCase, LoadSet
from tirante.core.document.parts.bracket import TabPair
from tirante.core.document.upgrades import load_design
from tirante.core.job.evaluate import evaluate
from tirante.core.job.screens import corners
from tirante.core.loads.wheel_loads import standing_loads
from tirante.core.parts.bracket.families.tab_pair import proposed
from tirante.core.parts.part import Part
from tirante.core.suspension import axle
from tirante.core.suspension.cycle import solved_cycle
from tirante.shipped import the_shelf

SHELF = Catalogue(**{kind: tuple(read_csv(kind, (ROOT / f"data/catalogue/{kind}.csv").read_text())) for kind in KINDS})  # type: ignore[arg-type]
EYE = DamperEye(bore_mm=12.0, ball_width_mm=22.0, housing_width_mm=16.0, head_diameter_mm=34.0, tilt_limit_deg=9.0)
ID, JOINT = "00000000-0000-4000-8000-0000000000e1", "00000000-0000-4000-8000-0000000000e2"
RIDE = CarCase(name="lifted", kind="jack", vertical=2.0, at="ride", point="wheel_centre_left", source="typed")
MARRAM = load_design((ROOT / "tests/marram-on-flats.json").read_text())


def held_design(
    cases: tuple[CarCase, ...], end: int = 0, side: Any = "pair", eye: str = "eye_a", **damper: Any
) -> Design:
    """Marram with a tab pair on one of its dampers' eyes, and these load cases."""
    one = MARRAM.ends[end]
    assert one.end.damper
    changed = one.end.damper.model_copy(update={eye: EYE} | damper)
    ends = [*MARRAM.ends]
    ends[end] = one.model_copy(update={"end": one.end.model_copy(update={"damper": changed})})
    place = changed.places[["eye_a", "eye_b"].index(eye)]
    design = MARRAM.model_copy(update={"ends": tuple(ends), "loads": LoadSet(name="typed", cases=cases)})
    joint = HeldJoint(id=JOINT, held=PointOfBody(end_id=one.id, body=place.body, point=place.point))
    held = work(design).held_end(joint)
    assert held
    pair, joint = proposed(ID, "Damper tabs", side, held, joint, SHELF)
    bolt = next(row for row in SHELF.bolts if row.key == joint.bolt)
    rows = design.catalogue.model_copy(update={"bolts": (*design.catalogue.bolts, bolt)})
    return design.model_copy(
        update={"parts": (*design.parts, pair), "joints": (*design.joints, joint), "catalogue": rows}
    )


def tabs(design: Design) -> Part:
    found = work(design).part(ID)
    assert found
    return found


def lengths(end: int, travel: list[float]) -> list[float]:
    """Of the damper at these travels [mm], by the mechanism."""
    standing = MARRAM.standing(MARRAM.ends[end])
    done = solved_cycle(
        the_shelf().template_of(standing), standing, np.array([travel, [0.0] * len(travel), [0.0] * len(travel)])
    )
    return [float(v) for v in axle.damper_measures(done.left.assembled, done.left.solved)["damper_length_mm"]]


def check(part: Part, key: str) -> Any:
    return next(one for one in part.checks if one.key == key)


def test_a_damper_s_bracket_carries_the_wheel_s_force_by_virtual_work() -> None:
    part = tabs(held_design((RIDE,)))
    assert part.complete, part.faults
    less, more = lengths(0, [-0.5, 0.5])
    rest = standing_loads(MARRAM.car)
    push = 2.0 * (rest["front", "left"] + rest["front", "right"]) / 2 / (less - more)  # F δz = S δl
    sheared = check(part, "pin_shear")
    assert sheared.demand == pytest.approx(push * MARRAM.settings.factors.bolt, rel=1e-5)
    assert check(part, "tab_bearing").demand == pytest.approx(push * MARRAM.settings.factors.tab_rupture, rel=1e-5)


def test_with_the_stop_the_eye_carries_the_spring_s_own_force_by_its_rate() -> None:
    bump = CarCase(name="bump", kind="wheel", vertical=4.0, at="stop", wheels="both", source="typed")
    design = held_design((bump,))
    carried = work(design).carried(design.ends[0].id)
    at = next(one for one in carried.cases if one.case.name == "bump")
    assert at.carrier == "stop"
    ride, now = lengths(0, [0.0, at.position[0]])
    less, more = lengths(0, [-0.5, 0.5])
    rest = standing_loads(MARRAM.car)
    unsprung = (MARRAM.car.unsprung_front_kg or 0.0) / 2 * 9.80665
    load = max(rest["front", "left"], rest["front", "right"]) - unsprung
    push = load / (less - more) + 42.0 * (ride - now)
    held = work(design).held_end(design.held_by(ID)[0])
    assert held
    assert {case.name: case.axial_n for case in held.cases}["bump"] == pytest.approx(-push, rel=1e-3)


def test_without_a_rate_what_the_stop_leaves_is_not_known_and_stands_in_the_headline() -> None:
    bump = CarCase(name="bump", kind="wheel", vertical=4.0, at="stop", wheels="both", source="typed")
    design = held_design((RIDE, bump), rate_n_per_mm=None)
    part = tabs(design)
    assert [told for told in part.not_carried if told.case == "bump" and told.why.startswith("what the spring carries")]
    shown = next(one for one in evaluate(work(design)).parts if one.id == ID)
    assert shown.status != "ok"
    assert "Not judged in “bump”; why is listed beside the checks." in shown.headline
    assert tabs(held_design((RIDE, bump))).not_carried == ()


def test_what_no_case_has_of_a_damper_is_said() -> None:
    assert any("damper’s own force" in told for told in tabs(held_design((RIDE,))).not_checked)


def test_only_the_heavier_side_loads_a_pair_and_each_side_its_own() -> None:
    # on the beam the springs share a corner's roll: the outer one is pushed, the inner relieved
    corner = CarCase(name="corner", kind="car", lateral=0.5, vertical=1.0, source="typed")
    most = {}
    for side in ("left", "right", "pair"):
        design = held_design((corner,), end=1, side=side)
        held = work(design).held_end(design.held_by(ID)[0])
        assert held
        most[side] = min(case.axial_n for case in held.cases)
    assert most["pair"] == min(most["left"], most["right"])
    assert most["left"] == pytest.approx(most["right"], rel=0.2)


def test_a_damper_that_is_gone_leaves_a_bracket_that_says_so() -> None:
    design = held_design((RIDE,))
    end = design.ends[0]
    without = end.model_copy(update={"end": end.end.model_copy(update={"damper": None})})
    part = tabs(design.model_copy(update={"ends": (without, *design.ends[1:])}))
    assert not part.complete
    assert "eye that it holds is not known" in part.faults[0].message
    gone = tied(design.model_copy(update={"ends": design.ends[1:]}))
    assert JOINT not in {joint.id for joint in gone.joints}
    assert "nothing yet" in next(p for p in evaluate(work(gone)).parts if p.id == ID).headline


def test_places_name_every_eye_with_what_holds_it_and_what_is_missing() -> None:
    design = held_design((RIDE,))
    places = {(place.of, place.name): place for place in evaluate(work(design)).places}
    held, free = places["Front damper", "upper eye"], places["Front damper", "lower eye"]
    assert (held.by, held.missing) == (ID, None)
    assert free.by is None
    assert "Layout, under Damper" in (free.missing or "")
    assert {place.by for place in places.values()} - {None} <= {part.id for part in design.of_kind(TabPair)}


def test_a_damper_s_bracket_stands_under_its_own_end_in_what_gives_first() -> None:
    found = corners(work(held_design((RIDE,))))
    assert [corner.name for corner in found if any(row.part_id == ID for row in corner.order.gives)] == ["Front"]


def test_a_joint_may_tilt_by_its_own_row_and_by_what_its_spacers_add() -> None:
    design = held_design((RIDE,))
    told = tabs(design).own.joints[0]
    assert told.tilt_limit_deg == 9.0
    spacer = SHELF.spacers[0].model_copy(
        update={"ball_bore_mm": 12.0, "bolt_mm": 10.0, "tilt_gain_deg": 7.5, "height_mm": 5.0}
    )
    wide = replace(told, spacer=spacer)
    assert (wide.tilt_limit_deg, wide.gap, wide.hole) == (16.5, 22.0 + 2 * 5.0, 10.0)
    unknown = replace(wide, held=replace(wide.held, row=EYE.model_copy(update={"tilt_limit_deg": None})))
    assert unknown.tilt_limit_deg is None
