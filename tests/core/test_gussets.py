"""Gussets of a welded arm of any layout: a strut between its tubes, against a general frame library and its own command.

Source: direct stiffness (a general-purpose library, PyNite, as the independent solution); a triangle's area by hand.
"""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest
from Pynite import FEModel3D

from tests.core.end_jobs import all_parts, job_of
from tests.core.test_life import SHELF
from tests.jobs import part_of, with_part, work
from tirante.calc import calculate
from tirante.core.document.adopt import adopted, patched
from tirante.core.document.design import Design
from tirante.core.document.parts.frame_arm import FrameArm, FrameGusset
from tirante.core.members.fatigue import life
from tirante.core.members.insert_weld import legs_for
from tirante.core.parts.body import seen_of
from tirante.core.parts.frame_arm.judged import carried
from tirante.core.parts.frame_arm.layout import Layout, laid_out
from tirante.core.parts.part import PlatePiece
from tirante.core.parts.welded.judged import material_of

TUBE, GRADE = "tube-2.5x0.250", "dom-1026"
ISOTROPIC = 2.6  # E / G, as the project's own frames have it


def gusseted(name: str, reach: float, thick: float) -> tuple[Design, FrameArm]:
    """An example's welded arm with a gusset in the first of its corners."""
    design = job_of(name)
    arm = next(part for part in all_parts(design) if isinstance(part, FrameArm))
    at, far = next(
        (node, ends) for node in {n for t in arm.tubes for n in (t.a, t.b)}
        if len(ends := [t.b if t.a == node else t.a for t in arm.tubes if node in (t.a, t.b)]) >= 2
    )  # fmt: skip
    gusset = FrameGusset(at=at, a=far[0], b=far[1], reach_mm=reach, thickness_mm=thick)
    arm = arm.model_copy(update={"tube": TUBE, "grade": GRADE, "gussets": (gusset,)})
    return patched(with_part(design, arm), adopted(design, [arm], SHELF)), arm


def whole(design: Design, arm: FrameArm) -> tuple[Layout, Any]:
    seen = seen_of(arm, arm.body, work(design))
    layout = laid_out(arm, seen.places)
    assert isinstance(layout, Layout)
    return layout, seen


@pytest.mark.parametrize("name", ["radius-arms", "trailing-arm-three-links"])
def test_its_gusset_is_pulled_as_a_general_library_pulls_it(name: str) -> None:
    design, arm = gusseted(name, 100.0, 5.0)
    layout, seen = whole(design, arm)
    tube, grade = SHELF.find("tubes", TUBE), SHELF.find("grades", GRADE)
    material = material_of(tube, grade)  # type: ignore[arg-type]
    (plate,) = layout.plates
    assert (plate.width, plate.thickness) == (50.0, 5.0)
    frames = carried(layout, seen.cases, [material]).at
    e = material.elastic_modulus
    section = material.section
    for frame in frames[:6]:
        model = FEModel3D()
        model.add_material("m", e, e / ISOTROPIC, 0.3, 7.85e-6)
        second = np.pi / 64 * (section.od**4 - (section.od - 2 * section.wall) ** 4)
        model.add_section("tube", section.area, second, second, 2 * second)
        thin = 50.0 * 5.0**3 / 12
        model.add_section("flat", 250.0, thin, thin, 4 * thin)
        for i, at in enumerate(layout.nodes):
            model.add_node(f"n{i}", *map(float, at))
        for i, (a, b) in enumerate(layout.ends):
            model.add_member(f"t{i}", f"n{a}", f"n{b}", "m", "tube")
        model.add_member("gusset", *(f"n{i}" for i in plate.ends), "m", "flat")
        model.def_support("n0", True, True, True, True, True, True)
        for i, load in enumerate(frame.loads):
            for way, value in zip(("FX", "FY", "FZ", "MX", "MY", "MZ"), load, strict=True):
                if abs(value) > 1e-12:
                    model.add_node_load(f"n{i}", way, float(value))
        model.analyze_linear(check_statics=False)
        theirs = [abs(float(model.members[f"t{i}"].axial(0.0, "Combo 1"))) for i in range(len(layout.ends))]
        size = max(1.0, *theirs)
        np.testing.assert_allclose(np.abs(frame.axial[0]), theirs, atol=2e-4 * size)
        assert abs(float(frame.plates[0, 0])) == pytest.approx(
            abs(float(model.members["gusset"].axial(0.0, "Combo 1"))), abs=2e-4 * size
        )


def test_it_is_judged_repeated_weighed_and_cut() -> None:
    design, arm = gusseted("radius-arms", 100.0, 5.0)
    layout, seen = whole(design, arm)
    part = part_of(arm, design)
    (check,) = [one for one in part.checks if one.key.startswith("gusset:")]
    tube, grade = SHELF.find("tubes", TUBE), SHELF.find("grades", GRADE)
    frames = carried(layout, seen.cases, [material_of(tube, grade)]).at  # type: ignore[arg-type]
    most = max(abs(float(one.plates[0, 0])) for one in frames)
    assert check.demand == pytest.approx(most * check.factor / (50.0 * 5.0), rel=1e-9)
    assert check.reproduce
    repeated = calculate(check.reproduce.topic, check.reproduce.input)
    tubes = repeated["tubes"]
    index = int(check.reproduce.output.split(".")[1])
    assert tubes[index]["utilisation"] == pytest.approx(check.utilisation, rel=1e-6)
    # a triangle of two sides of 100 and what is between them
    (plate,) = [piece for piece in part.pieces if isinstance(piece, PlatePiece)]
    corner, one, two = (layout.nodes[i] for i in (layout.plates[0].at, *layout.plates[0].ends))
    assert np.linalg.norm(one - corner) == pytest.approx(100.0)
    assert np.linalg.norm(two - corner) == pytest.approx(100.0)
    area = np.linalg.norm(np.cross(one - corner, two - corner)) / 2
    # as the frame has it, between the middle lines; its file, where there is one, is what the tubes leave of it
    assert plate.outline is None or plate.outline.area < area
    assert plate.outline is not None or plate.length * plate.width / 2 == pytest.approx(area, rel=1e-6)
    bare = part_of(arm.model_copy(update={"gussets": ()}), design)
    assert part.mass is not None
    assert bare.mass is not None
    assert part.mass - bare.mass == pytest.approx(area * 5.0 * grade.density_kg_m3 * 1e-9, rel=1e-6)  # type: ignore[union-attr]


def test_a_gusset_that_ends_on_no_tube_is_told_at_its_field() -> None:
    design, arm = gusseted("radius-arms", 5000.0, 5.0)
    assert "gussets.0.reach_mm" in {fault.field for fault in part_of(arm, design).faults}
    lost = arm.gussets[0].model_copy(update={"a": arm.gussets[0].at})
    other = arm.model_copy(update={"gussets": (lost,)})
    assert "gussets.0.at" in {fault.field for fault in part_of(other, with_part(design, other)).faults}


def test_its_gussets_last_by_the_worst_range_of_their_pull() -> None:
    """Plate 71 on F/(w t), fillets along both tubes 36 on F/(2 reach · 0.707 leg) (EN 1993-1-9 Tables 8.5, from memory): the two by hand from the
    everyday forces, the weaker told."""
    design, arm = gusseted("trailing-arm-three-links", 100.0, 5.0)
    layout, _ = whole(design, arm)
    tube, grade = SHELF.find("tubes", TUBE), SHELF.find("grades", GRADE)
    days = seen_of(arm, arm.body, work(design), everyday=True)
    frames = carried(layout, days.cases, [material_of(tube, grade)]).at  # type: ignore[arg-type]
    ranges = [
        abs(float(one.plates[0, 0] - two.plates[0, 0]))
        for a, one in zip(days.cases, frames, strict=True) for b, two in zip(days.cases, frames, strict=True) if a.copy == b.copy
    ]  # fmt: skip
    part = part_of(arm, design)
    (found,) = [
        check for check in part.checks if check.part == layout.plates[0].name and check.key.split(":")[0] == "life"
    ]
    leg = min(legs_for(6.35).usual, 5.0)
    lives = [
        life(max(ranges) / (50.0 * 5.0), 71.0, design.settings.everyday), life(max(ranges) / 200.0 / (leg / 2**0.5), 36.0, design.settings.everyday)
    ]  # fmt: skip
    assert found.capacity == pytest.approx(min(lives), rel=1e-2)
    assert not any("gusset" in one for one in part.not_checked)
