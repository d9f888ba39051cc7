"""Links cut from plate: bent and pressed by hand, their eyes as plates of a tab, their life at their holes, sized in a job."""

from __future__ import annotations

from math import inf, pi, sqrt
from typing import Any

import pytest

from tests.core.end_jobs import job_of
from tests.core.test_life import SHELF
from tests.core.test_moving_members import again
from tests.jobs import draw, part_of, with_part, work
from tirante.core.brackets.lug import Lug, lug_strength
from tirante.core.document.design import Design
from tirante.core.document.fields import Length
from tirante.core.document.parts.common import CentreToCentre, LoadCase, OfEnd
from tirante.core.document.parts.plate_link import PlateLink
from tirante.core.drawing.sheet import Numbers
from tirante.core.errors import InputError
from tirante.core.job.evaluate import evaluate
from tirante.core.loads.seen import swings_of_link
from tirante.core.members.fatigue import endurance
from tirante.core.members.plate_link import FlatLink, flat_stress
from tirante.core.parts.part import PlatePiece
from tirante.core.parts.plate_link.kind import PLATE_LINK

ID = "00000000-0000-4000-8000-0000000000e1"


def a_link(**more: Any) -> PlateLink:
    given = {
        "id": ID, "name": "plate link", "side": "pair", "between": CentreToCentre(length=Length(mm=320.0)), "plate_mm": 12.0, "everyday_n": 6000.0,
        "cases": (LoadCase(name="push", axial_n=-9000.0), LoadCase(name="pull", axial_n=14_000.0, side_n=120.0)),
    }  # fmt: skip
    return PlateLink(**{**given, **more})


def job(*parts: PlateLink) -> Design:
    return job_of("double-wishbone", *parts)


def test_a_flat_bar_is_pressed_and_bent_its_weaker_way() -> None:
    """12 × 40 over 320: slenderness 320 √12/12 = 92.4; Johnson below 107 at 355 MPa; M = F L/4 grown by 1/(1 − P/Pe)."""
    flat = FlatLink(length=320.0, width=40.0, thickness=12.0)
    slender = 320 * sqrt(12) / 12
    stress = pi**2 * 205_000 / slender**2
    johnson, aisc = 480 * 355 * (1 - 355 / (4 * stress)), 480 * 0.658 ** (355 / stress) * 355
    assert flat.column(355.0, 205_000.0) == pytest.approx(min(johnson, aisc))
    assert flat.euler(205_000.0) == pytest.approx(pi**2 * 205_000 * 40 * 12**3 / 12 / 320**2)
    grown = 1 / (1 - 9000 / flat.euler(205_000.0))
    assert flat_stress(flat, -9000.0, 300.0, 50.0, 205_000.0) == pytest.approx(
        9000 / 480 + (300 * 80 + 50 * 320) * grown / (40 * 12**2 / 6)
    )
    assert flat_stress(flat, 9000.0, 300.0, 0.0, 205_000.0) == pytest.approx(9000 / 480 + 300 * 80 / (40 * 12**2 / 6))
    assert flat_stress(flat, -1.01 * flat.euler(205_000.0), 0.0, 0.0, 205_000.0) == inf
    # two plates bend each by itself: twice as strong, no stiffer for its length
    two = FlatLink(length=320.0, width=40.0, thickness=12.0, plates=2)
    assert two.euler(205_000.0) == pytest.approx(2 * flat.euler(205_000.0))
    assert flat_stress(two, -18_000.0, 600.0, 100.0, 205_000.0) == pytest.approx(
        flat_stress(flat, -9000.0, 300.0, 50.0, 205_000.0)
    )


def test_its_checks_are_those_of_the_bar_and_of_both_its_eyes() -> None:
    link = a_link(pin_b_mm=16.0)
    part = part_of(link, job())
    assert part.complete, part.faults
    found = {check.key: check for check in part.checks}
    factors = job().settings.factors
    flat = FlatLink(length=320.0, width=40.0, thickness=12.0)
    assert found["flat_column"].demand == pytest.approx(9000 * factors.column)
    bent = max(
        flat_stress(flat, c.axial_n * factors.yielding, 0.0, c.side_n * factors.yielding, 205_000.0) for c in link.cases
    )
    assert found["flat_bent"].demand == pytest.approx(bent)
    for letter, pin in (("a", 12.0), ("b", 16.0)):
        strength = lug_strength(
            Lug(thickness=12.0, width=40.0, hole=pin + 0.2, pin=pin, edge=20.0, plates=1), 355.0, 470.0
        )
        assert found[f"machined_tension:{letter}"].capacity == pytest.approx(strength.tension_rupture)
        assert found[f"machined_tension:{letter}"].demand == pytest.approx(14_000 * factors.tab_rupture)
        assert found[f"machined_bearing:{letter}"].capacity == pytest.approx(strength.bearing)
        assert found[f"machined_tearout:{letter}"].capacity == pytest.approx(strength.shear_rupture)
        assert found[f"machined_yield:{letter}"].demand == pytest.approx(14_000 * factors.tab_yield)
    for check in part.checks:
        again(check)
    lives = {check.part: check.capacity for check in part.checks if check.key.split(":")[0] == "life"}
    assert lives["end B"] == pytest.approx(endurance(6000 / (12 * (40 - 16.2)), 90.0))
    (plate,) = part.pieces
    assert isinstance(plate, PlatePiece)
    assert plate.outline
    assert plate.outline.area == pytest.approx(320 * 40 + pi * 400 - pi / 4 * (12.2**2 + 16.2**2))
    assert draw(link, job(), "flat", Numbers()).width == pytest.approx(360.0)
    assert draw(link, job(), "drawing", Numbers()).items


def test_tied_to_an_end_it_sees_what_the_end_s_link_does_and_is_sized_by_its_plate() -> None:
    design = job()
    end = design.ends[0]
    between = OfEnd(end_id=end.id, link="tie rod", a="tie_inner", b="tie_outer", mm=300.0)
    link = a_link(between=between, cases=(), everyday_n=None)
    whole = work(with_part(design, link))
    tied = whole.saved(ID)
    assert isinstance(tied, PlateLink)
    found = PLATE_LINK.size(tied, whole, SHELF, "mass")
    assert found.winner, found.advice
    (sized,) = found.winner.parts
    assert isinstance(sized, PlateLink)
    part = part_of(sized, design)
    assert all(check.passed for check in part.checks)
    assert part.saved.between.mm == pytest.approx(
        sum((a - b) ** 2 for a, b in zip(end.end.points["tie_inner"], end.end.points["tie_outer"], strict=True)) ** 0.5
    )  # type: ignore[attr-defined]
    thinner = sized.model_copy(update={"plate_mm": sized.plate_mm * 0.75})
    assert not all(check.passed for check in part_of(thinner, design).checks) or sized.plate_mm <= 2.0
    days = work(with_part(design, link)).everyday(end.id).cases
    swing = swings_of_link("pair", "tie rod", days)[0][0]
    for thick in (sized.plate_mm, 0.2):  # as it is, and so thin that it does not last
        made = part_of(sized.model_copy(update={"plate_mm": thick}), design)
        life = next(check for check in made.checks if check.key.split(":")[0] == "life" and check.part == "end A")
        assert life.capacity == pytest.approx(endurance(swing / (thick * (40 - 12.2)), 90.0))
    assert life.capacity < 1e7
    with pytest.raises(InputError, match="No load is entered"):
        PLATE_LINK.size(a_link(cases=()), work(design), SHELF, "mass")
    silent = a_link(everyday_n=None)
    told = next(one for one in evaluate(work(with_part(design, silent))).parts if one.id == ID)
    assert "It holds" not in told.headline
    with pytest.raises(ValueError, match="the hole is as wide as the plate"):
        a_link(pin_a_mm=40.0)
