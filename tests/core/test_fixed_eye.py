"""Fixed ends of links held by brackets: what goes in them as it is given, or their own metal; and why there is none."""

from __future__ import annotations

from typing import Any

import pytest

from tests.core.test_loads import demo
from tests.core.test_mounts import IDS, SHOP
from tests.jobs import bare, part_of, with_part, work
from tirante.core.document.adopt import patched
from tirante.core.document.design import Design
from tirante.core.document.end import DamperEye
from tirante.core.document.fields import Length
from tirante.core.document.parts.bracket import TabPair
from tirante.core.document.parts.link import FixedEnd, FlatEnd, Link, Machined, Sleeve
from tirante.core.job.places import places_of
from tirante.core.job.propose import propose
from tirante.core.parts.bracket.families.tab_pair import TAB_PAIR, TabMade
from tirante.core.parts.link.fixed_eye import BARE, NO_FORK, NOT_GIVEN, fixed_eye
from tirante.core.parts.link.kind import LINK

BUSH = DamperEye(bore_mm=12.7, ball_width_mm=54.0, head_diameter_mm=44.0, housing_width_mm=50.0, tilt_limit_deg=12.0)
SLEEVE = Sleeve(outside_mm=44.0, wall_mm=5.0, long_mm=50.0)


def fixed(**change: Any) -> FixedEnd:
    return FixedEnd(**({"what": "bush sleeve", "centre_to_face": Length(mm=25.0)} | change))


def ended(name: str = "Rear lower link", **change: Any) -> tuple[Design, Link]:
    """Marram with nothing that holds anything, one of its rear links with a fixed end at the chassis."""
    design = bare(demo("marram"))
    link = next(part for part in design.of_kind(Link) if part.name == name)
    link = link.model_copy(update={"end_a": fixed(**change)})
    return with_part(design, link), link


def test_a_bush_in_its_sleeve_is_held_by_a_bracket_as_wide_as_what_is_clamped() -> None:
    design, link = ended(sleeve=SLEEVE, eye=BUSH)
    place = next(one for one in places_of(work(design)) if one.id == link.id and one.name == "end A")
    assert place.missing is None
    found = propose(work(design), SHOP, IDS, (link.id,))
    design = patched(design, found.patch)
    tab = next(part for part in design.of_kind(TabPair) if "end A" in part.name)
    part = part_of(tab, design)
    assert not part.faults, part.faults
    assert isinstance(part.own, TabMade)
    (made,) = part.own.joints
    assert made.gap - 2 * made.joint.shim_mm == pytest.approx(54.0)
    assert made.bolt is not None
    assert made.bolt.diameter_mm == pytest.approx(12.7)  # 1/2 in through its sleeve
    assert made.tilt_limit_deg == 12.0
    # what the link sees is what the bracket is judged for
    seen = LINK.held_end(link, "a", work(design))
    assert seen is not None
    most = max(abs(case.axial_n) for case in seen.cases)
    assert most > 1000.0
    assert max(abs(case.axial_n) for case in made.held.cases) == pytest.approx(most)
    assert BARE not in part.not_checked


@pytest.mark.parametrize(
    ("end", "row"),
    [
        ({"flat": FlatEnd(hole_mm=12.2, edge_mm=30.0, thickness_mm=8.0, width_mm=56.0)}, (12.0, 8.0, 60.0, 8.0)),
        ({"machined": Machined(form="eye", thickness_mm=20.0, width_mm=40.0, hole_mm=12.2, pin_mm=12.0, edge_mm=26.0)}, (12.0, 20.0, 52.0, 20.0)),
    ],
)  # fmt: skip
def test_an_eye_of_metal_is_clamped_by_its_own_sizes_and_its_tilt_named_as_not_watched(
    end: dict[str, Any], row: tuple[float, ...]
) -> None:
    design, link = ended(**end)
    job = work(design)
    held = LINK.held_end(link, "a", job)
    assert held is not None
    assert (held.row.bore_mm, held.row.ball_width_mm, held.row.head_diameter_mm, held.row.housing_width_mm) == row
    assert held.row.tilt_limit_deg is None
    assert held.not_checked == (BARE,)
    assert LINK.allows(link, "a", job) is None


def test_a_squashed_end_is_two_walls_thick_once_its_tube_is_chosen() -> None:
    design, link = ended(flat=FlatEnd(form="squashed", hole_mm=12.2, edge_mm=20.0))
    tube = work(design).catalogue.find("tubes", link.tube or "")
    assert tube is not None
    row = LINK.eye_row(link, "a", work(design).catalogue)
    assert row is not None
    assert row.ball_width_mm == pytest.approx(2 * tube.wall_mm)  # type: ignore[union-attr]
    assert fixed_eye(link.end_a, None) is None  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("end", "told"),
    [
        ({}, NOT_GIVEN), ({"sleeve": SLEEVE}, NOT_GIVEN), ({"flat": FlatEnd(form="clevis let in")}, NO_FORK),
        ({"machined": Machined(form="clevis", thickness_mm=10.0, width_mm=40.0, hole_mm=12.2, pin_mm=12.0, edge_mm=18.0)}, NO_FORK),
    ],
)  # fmt: skip
def test_why_nothing_is_clamped_is_told_where_a_bracket_is_asked_for(end: dict[str, Any], told: str) -> None:
    design, link = ended(**end)
    place = next(one for one in places_of(work(design)) if one.id == link.id and one.name == "end A")
    assert place.missing == told
    found = propose(work(design), SHOP, IDS, (link.id,))
    assert next(one for one in found.every if one.place.name == "end A").told == told


def test_how_far_a_bush_may_tilt_is_watched_as_it_is_given() -> None:
    design, link = ended(sleeve=SLEEVE, eye=BUSH)
    allowed = LINK.allows(link, "a", work(design))
    assert allowed is not None
    assert allowed.limit_deg == 12.0
    # what was said of a bush is nothing to an eye of plate that stands there now
    design, link = ended(flat=FlatEnd(), eye=BUSH)
    assert LINK.allows(link, "a", work(design)) is None
    loose = BUSH.model_copy(update={"tilt_limit_deg": None})
    design, link = ended(sleeve=SLEEVE, eye=loose)
    assert LINK.allows(link, "a", work(design)) is None


def test_a_link_that_is_sized_has_the_bracket_of_its_fixed_end_sized_with_it() -> None:
    narrow = BUSH.model_copy(update={"ball_width_mm": 48.0, "housing_width_mm": 44.0, "bore_mm": 15.875})
    design, link = ended("Rear upper link", sleeve=SLEEVE.model_copy(update={"long_mm": 44.0}), eye=narrow)
    design = patched(design, propose(work(design), SHOP, IDS, (link.id,)).patch)
    tab = next(part for part in design.of_kind(TabPair) if "end A" in part.name)
    weak = tab.model_copy(update={"plate": Length(mm=tab.plate.mm / 2)})
    found = LINK.size(link, work(with_part(design, weak)), SHOP, "mass")
    choice = found.winner or found.nearest
    assert choice is not None
    again = next(part for part in choice.parts if part.id == tab.id)
    assert isinstance(again, TabPair)
    assert again.plate.mm > weak.plate.mm


def test_where_thicker_plates_do_not_stand_the_advice_says_so_and_does_not_ask_for_them_alone() -> None:
    """A wide bush low under a rail of 80 mm: beside 54 mm of it no thicker plates have face under them."""
    design, link = ended(sleeve=SLEEVE, eye=BUSH)
    design = patched(design, propose(work(design), SHOP, IDS, (link.id,)).patch)
    tab = next(part for part in design.of_kind(TabPair) if "end A" in part.name)
    found = TAB_PAIR.size(tab, work(design), SHOP, "mass")
    assert found.winner is None
    assert "Thicker plates were left out: Its feet reach" in found.advice
