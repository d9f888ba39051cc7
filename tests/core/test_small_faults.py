"""Small things that a sample of faults put into the core had gone unseen in: each asked by what it is for, from the outside."""

from __future__ import annotations

import json
from dataclasses import replace
from math import pi
from types import SimpleNamespace
from typing import Any

import numpy as np
import pytest

from tests.conftest import ROOT
from tests.core.test_joined import a_link, job, tapped
from tests.core.test_loads import demo
from tests.jobs import arms, built, links, part_of, work
from tirante.core.brackets.bolt import bolt_class
from tirante.core.brackets.lug import Lug
from tirante.core.brackets.weld_group import weld_group
from tirante.core.checks.first_to_give import order_of
from tirante.core.cutting import cut_list
from tirante.core.document.catalogue import KINDS, Catalogue, read_csv
from tirante.core.document.design import tied
from tirante.core.document.end import Ride
from tirante.core.document.forms.table import choice
from tirante.core.document.parts.bracket import TabPair
from tirante.core.document.parts.common import LoadCase
from tirante.core.errors import InputError
from tirante.core.loads.case_seen import CaseSeen
from tirante.core.members.boxed_link import Box, boxed_link
from tirante.core.members.rod_end import rod_end_strength
from tirante.core.members.splice import sleeve_section
from tirante.core.members.thread import parse_thread
from tirante.core.members.tube import Section
from tirante.core.parts.arm.ends import side_cases
from tirante.core.parts.link.assembly import mass_of
from tirante.core.parts.link.kind import LINK
from tirante.core.parts.part import card_of
from tirante.core.quantities import parse_length
from tirante.core.sources import SOURCES, cite
from tirante.core.suspension.changed import lengthened
from tirante.core.suspension.cycle import by_wheel, solved_cycle, wheel_columns
from tirante.core.suspension.shown.points_csv import read_points
from tirante.core.suspension.turns import Wanted, _badness
from tirante.core.units import KSI

SHELF = Catalogue(**{kind: tuple(read_csv(kind, (ROOT / f"data/catalogue/{kind}.csv").read_text())) for kind in KINDS})  # type: ignore[arg-type]


def limits(call: Any) -> Any:
    with pytest.raises(InputError) as told:
        call()
    return told.value.limits


def test_what_is_refused_says_between_which_limits_it_would_be_taken() -> None:
    """The page and the command line show them beside the field."""
    assert limits(lambda: sleeve_section(Section(od=30.0, wall=3.0), 15.0, inside=True))[0] == 0.0
    assert limits(lambda: sleeve_section(Section(od=30.0, wall=3.0), 15.0, inside=True))[1] == pytest.approx(12.0)
    t = parse_thread("1/2-20")
    assert limits(lambda: rod_end_strength(t, 30.0, 12.0, 31.0, 20.0, 800.0, 200.0)) == (0.0, 30.0)
    assert limits(lambda: rod_end_strength(t, 30.0, 12.0, 22.0, 23.0, 800.0, 200.0)) == (0.0, 22.0)
    assert limits(lambda: Lug(thickness=6, width=20.0, hole=21.0, pin=20.0, edge=30.0)) == (0.0, 20.0)


def test_a_short_run_of_weld_is_a_run() -> None:
    assert weld_group(
        [(0.0, 0.0, 0.6, 0.0), (0.0, 5.0, 0.6, 5.0)], (0.0, 0.0, 100.0), (0.3, 2.5, 0.0)
    ).length == pytest.approx(1.2)


def test_of_turns_that_miss_the_one_that_misses_by_most_of_what_is_allowed_is_worst() -> None:
    wanted = [
        Wanted(measure="toe_deg", change=0.0, within=0.05),
        Wanted(measure="camber_deg", change=0.0, within=2.0),
    ]
    names = [want.measure for want in wanted]
    found = SimpleNamespace(misses_by={names[0]: 0.1, names[1]: 1.0, "toe_deg, left": 0.1, "camber_deg, left": 1.0})
    assert _badness(found, wanted) == pytest.approx(2.0)  # type: ignore[arg-type]


def test_a_link_that_is_turned_moves_the_right_wheel_of_an_end_whose_sides_differ() -> None:
    design = demo("tern")
    one = design.ends[0]
    x, y, z = one.end.points["toe_inner"]
    unlike = one.end.model_copy(update={"right_points": {"toe_inner": (x, -y - 4.0, z)}})
    standing = design.standing(one.model_copy(update={"end": unlike}))
    done = solved_cycle(work(design).template(one.id), standing, np.zeros((3, 1)))
    assert done.right
    longer = lengthened(done, {"toe link": 2.0})
    assert longer.right
    for i in (0, 1):
        assert abs(wheel_columns(longer)[i]["toe_deg"][0] - wheel_columns(done)[i]["toe_deg"][0]) > 0.2


def test_each_wheel_of_a_beam_is_lifted_from_where_it_stands_in_a_raised_car() -> None:
    design = demo("quay")
    standing = design.standing(design.ends[0]).model_copy(update={"ride": Ride(rise_mm=12.0)})
    template = work(design).template(design.ends[0].id)
    travel, roll = by_wheel(template, standing, np.array([[20.0, 0.0], [20.0, 0.0], [0.0, 0.0]]))
    assert travel == pytest.approx([20.0, 0.0], abs=1e-6)
    assert roll == pytest.approx([0.0, 0.0], abs=1e-6)


def test_a_design_that_is_tied_follows_its_ends_and_forgets_what_is_gone() -> None:
    design = demo("marram")
    held = next(joint for joint in design.joints if joint.by)
    fewer = design.model_copy(update={"parts": tuple(part for part in design.parts if part.id != held.by)})
    assert next(joint for joint in tied(fewer).joints if joint.id == held.id).by is None
    assert tied(design) is design  # what is as it should be is the same object: nothing is worked out again


BOX = Box(width=60.0, height=80.0, top=5.0, bottom=4.0, side=3.0)


def test_a_box_under_its_stop_by_plain_statics() -> None:
    """Reactions F b/L and F a/L; plate of clear height in bending 23.9 π² E/(12 (1 − ν²)) (t/b)² (Timoshenko and Gere ch. 9, from memory)."""
    found = boxed_link(BOX, 600.0, 9000.0, 0.5, 0.0, 0.0, 205_000.0, 4.0, 483.0)  # half a millimetre from the pin
    assert found.shear_force == pytest.approx(9000.0 * 599.5 / 600.0)
    near = boxed_link(BOX, 600.0, 9000.0, 200.0, 0.0, 0.0, 205_000.0, 4.0, 483.0)
    assert near.shear_force == pytest.approx(6000.0)
    clear = BOX.height - BOX.top - BOX.bottom
    assert near.side_buckling == pytest.approx(
        23.9 * pi**2 * 205_000 / (12 * (1 - 0.3**2)) * (3.0 / clear) ** 2, rel=1e-6
    )
    # at the neutral axis: the webs' shear, V Q/(I b) with Q of half the section, is no less than V over the webs alone
    assert near.shear > 6000.0 / (2 * 3.0 * BOX.height)


def test_a_large_grade_5_bolt_is_weaker_in_both_its_strengths() -> None:
    """SAE J429: over 1 in 105 and 81 ksi (from memory)."""
    large = bolt_class("grade 5", 28.0)
    assert (large.ultimate, large.yield_strength) == (105 * KSI, 81 * KSI)


def test_the_nut_of_a_tapped_tube_weighs_as_a_nut() -> None:
    link = tapped()
    made = built(link, job(link))
    found = mass_of(made.assembly, made.stack)
    end = made.assembly.threaded[0]
    hexagon = (0.866 * (1.5 * end.thread.major) ** 2 - pi / 4 * end.thread.major**2) * end.nut.height_mm * 7.85e-6
    assert found.nuts == pytest.approx(len(made.assembly.threaded) * hexagon, rel=1e-3)
    assert found.inserts == 0.0


def test_a_length_knows_which_system_it_was_typed_in() -> None:
    for text, wanted in (("2 in", "in"), ("1'", "in"), ("3 ft", "in"), ("20 mm", "mm"), ("2 cm", "mm")):
        found = parse_length(text, "mm")
        told = {getattr(found, name) for name in ("unit", "system") if hasattr(found, name)}
        assert wanted in told, (text, found)


def test_a_tab_s_card_says_how_far_its_plates_stand_apart() -> None:
    design = demo("marram")
    tab = design.of_kind(TabPair)[0]
    part = part_of(tab, design)
    assert part.card
    (line,) = [line for line in part.card.lines if line.text == "between the plates"]
    assert line.mm == pytest.approx(part.own.joints[0].gap)
    assert line.strong


def test_cards_of_links_and_arms_say_more_than_what_is_sawn() -> None:
    design = demo("marram")
    link, arm = part_of(links(design)[0], design), part_of(arms(design)[0], design)
    assert link.card
    assert arm.card
    assert [end.mark for end in link.card.ends] == ["RH", "LH"]
    # an arm's card is its own: what the plain one does not know, its plane and its pivots, is on it
    assert arm.card != card_of(arm)
    assert link.card != card_of(link)


def test_nothing_that_is_loaded_gives_an_empty_order() -> None:
    assert order_of([]).gives == ()


def test_what_is_of_no_known_sort_stands_last_on_the_list() -> None:
    known = max(cut_list._place(sort) for sort in cut_list._ORDER)
    assert cut_list._place("something new") > known
    assert cut_list._place(cut_list._ORDER[0]) == 0


def test_a_source_says_how_sure_it_is_but_common_practice_says_it_by_itself() -> None:
    practice = next(key for key, source in SOURCES.items() if source.status == "common practice")
    other = next(key for key, source in SOURCES.items() if source.status != "common practice")
    assert cite(practice) == SOURCES[practice].title
    assert cite(other) == f"{SOURCES[other].title} ({SOURCES[other].status})"


def test_a_choice_shows_its_words_and_keeps_its_value() -> None:
    found = choice("a/b", "What", [("x", "the first"), "plain"])
    assert [(one.value, one.label) for one in found.choices] == [("x", "the first"), ("plain", "plain")]


def test_points_of_json_are_numbers_and_nothing_else() -> None:
    end = demo("marram").ends[0].end
    good = {name: list(point) for name, point in end.points.items()}
    assert read_points(json.dumps(good)) == {name: tuple(point) for name, point in end.points.items()}
    for bad in ([1.0, True, 2.0], [1.0, "2", 3.0], [1.0, None, 3.0]):
        with pytest.raises(InputError):
            read_points(json.dumps({**good, "upper_outer": bad}))


def test_a_pull_of_less_than_a_newton_is_no_push() -> None:
    link = a_link(cases=(LoadCase(name="x", axial_n=0.4), LoadCase(name="y", axial_n=5000.0)))
    assert next(check for check in part_of(link, job(link)).checks if check.key == "column").utilisation is None


def test_a_link_whose_tube_is_chosen_and_one_that_has_lost_its_end_are_not_just_unsized() -> None:
    design = demo("marram")
    link = links(design)[0]
    around = work(design)
    assert LINK.unfinished(link, around) is None
    assert LINK.unfinished(link.model_copy(update={"tube": None}), around)
    gone = design.model_copy(update={"ends": ()})
    lost = next(one for one in work(gone).design.parts if one.id == link.id)
    assert LINK.unfinished(lost.model_copy(update={"tube": None}), work(gone)) is None  # type: ignore[arg-type]


def test_what_holds_a_link_of_one_side_sees_that_side() -> None:
    design = demo("marram")
    link = next(one for one in links(design) if one.name == "Rear lower link")
    seen = {}
    for side in ("left", "right", "pair"):
        held = LINK.held_end(link.model_copy(update={"side": side, "cases": ()}), "a", work(design))
        assert held
        seen[side] = {case.axial_n for case in held.cases}
    assert seen["left"] != seen["right"]
    assert max(seen["pair"]) == max(*seen["left"], *seen["right"])


def test_a_pivot_s_rod_end_is_bent_by_the_frame_s_shear_in_all_directions() -> None:
    """The shear at the pivot as the frame gives it, square to the tube: no less than its part in any direction."""
    frames = [SimpleNamespace(case="x", where="", at_pivot=np.array([[[1000.0, 30.0], [-500.0, 40.0]]]))]
    (one,) = side_cases(frames, 1)  # type: ignore[arg-type]
    assert (one.axial_n, one.side_n) == (-500.0, 40.0)
    assert isinstance(one, CaseSeen)


def test_a_tyre_is_as_wide_as_it_is_and_no_wider_than_nine_tenths_of_its_radius() -> None:
    design = demo("quay")
    one = design.ends[0]
    near = [thing for thing in one.end.obstacles if thing.name == "bed frame"]
    assert near
    job_ = work(design)
    from tirante.core.suspension.clearance import tyres

    done = job_.at_ride(one.id).left
    for width, wanted in ((200.0, 100.0), (590.0, 295.0)):
        wheel = one.end.wheel.model_copy(update={"width_mm": width})
        fitted = replace(done.assembled, end=done.assembled.end.model_copy(update={"wheel": wheel}))
        (_, _, radius), *_ = tyres(fitted, done.solved)
        assert radius == pytest.approx(min(wanted, 0.9 * wheel.loaded_radius_mm))
    small = one.end.wheel.model_copy(update={"width_mm": 590.0, "loaded_radius_mm": 250.0})
    fitted = replace(done.assembled, end=done.assembled.end.model_copy(update={"wheel": small}))
    assert tyres(fitted, done.solved)[0][2] == pytest.approx(225.0)
