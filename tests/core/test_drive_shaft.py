"""Drive shafts: length, angles and plunge where the cases apply, against the mechanism's own measures; as a column."""

from __future__ import annotations

from math import pi, sqrt

import numpy as np
import pytest

from tests.core.end_jobs import all_parts, job_of
from tests.jobs import draw, part_of, work
from tirante.core.document.parts.drive_shaft import DriveShaft
from tirante.core.drawing.sheet import Numbers
from tirante.core.suspension.cycle import cycle


def the_shaft(name: str, **more: object) -> tuple[object, DriveShaft]:
    design = job_of(name)
    found = next(part for part in all_parts(design) if isinstance(part, DriveShaft))
    return design, found.model_copy(update=more)


def test_a_shaft_that_locates_keeps_its_length_and_is_a_column() -> None:
    design, shaft = the_shaft("drive-shaft-link", od_mm=24.0, yield_mpa=400.0)
    part = part_of(shaft, design)  # type: ignore[arg-type]
    assert part.complete, part.faults
    assert all(one.length == pytest.approx(part.own.length, abs=1e-6) for one in part.own.cases)
    column = next(check for check in part.checks if check.key == "shaft_column")
    carried = work(design).carried(design.ends[0].id).cases  # type: ignore[attr-defined, arg-type]
    push = max(
        -force
        for one in carried
        if one.forces and not one.fault
        for name, force in one.forces.axial.items()
        if "drive shaft" in name
    )
    assert column.demand == pytest.approx(push * design.settings.factors.column)  # type: ignore[attr-defined]
    slender = part.own.length / (24.0 / 4)
    euler = pi**2 * 205_000 / slender**2
    area = pi / 4 * 24**2
    johnson = area * 400 * (1 - 400 / (4 * euler)) if slender < sqrt(2 * pi**2 * 205_000 / 400) else area * euler
    aisc = area * (0.658 ** (400 / euler) * 400 if 400 / euler <= 2.25 else 0.877 * euler)
    assert column.capacity == pytest.approx(min(johnson, aisc))
    assert any("not judged" in note for note in part.notes)
    assert "torque through its joints, splines and tube" in part.not_checked
    assert draw(shaft, design, "drawing", Numbers()).items  # type: ignore[arg-type]


def test_a_shaft_that_plunges_turns_and_slides_as_the_cycle_measures_it() -> None:
    design, shaft = the_shaft("five-link", angle_limit_deg=19.0)
    part = part_of(shaft, design)  # type: ignore[arg-type]
    end = design.ends[0]  # type: ignore[attr-defined]
    job = work(design)  # type: ignore[arg-type]
    carried = [one for one in job.carried(end.id).cases if one.forces and not one.fault]
    by_name = {one.case: one for one in part.own.cases}
    looked = 0
    for one in carried[:12]:
        if "left wheel" in one.name and one.name not in by_name:
            continue
        measured = cycle(job.template(end.id), end.end, np.array([[v] for v in one.position]))
        columns = measured.shafts["drive shaft"]
        if one.name in by_name:
            assert by_name[one.name].length - part.own.length == pytest.approx(
                float(columns["shaft_plunge_mm"][0]), abs=1e-6
            )
            worst = max(float(columns[key][0]) for key in columns if key.startswith("shaft_angle"))
            assert max(by_name[one.name].angles) == pytest.approx(worst, abs=1e-6)
            looked += 1
    assert looked > 3
    angle = next(check for check in part.checks if check.key == "shaft_angle")
    assert angle.capacity == 19.0
    assert angle.demand == pytest.approx(max(max(one.angles) for one in part.own.cases))
    own = end.end.shafts["drive shaft"]
    plunges = {check.key: check for check in part.checks if check.key.startswith("shaft_plunge")}
    assert plunges["shaft_plunge:outward"].capacity == own.plunge_out_mm
    assert plunges["shaft_plunge:inward"].demand == pytest.approx(
        max(part.own.length - one.length for one in part.own.cases)
    )


def test_both_sides_of_the_car_are_looked_at() -> None:
    """Level cases turn both shafts alike; one wheel's turns one of them."""
    design, shaft = the_shaft("drive-shaft-link")
    part = part_of(shaft, design)  # type: ignore[arg-type]
    left = {one.case: one for one in part.own.cases if not one.case.endswith(", right")}
    right = {one.case.removesuffix(", right"): one for one in part.own.cases if one.case.endswith(", right")}
    level = [name for name in left if name in right and name.startswith(("brake", "launch")) and "corner" not in name]
    assert level
    for name in level:
        assert right[name].angles == pytest.approx(left[name].angles, abs=1e-6)
    for one in work(design).carried(design.ends[0].id).cases:  # type: ignore[attr-defined, arg-type]
        if one.forces and not one.fault and one.name in right:
            assert right[one.name].axial == one.forces.axial["drive shaft, right"]
        if one.forces and not one.fault and one.name in left:
            assert left[one.name].axial == one.forces.axial["drive shaft"]
