"""Every check of a link: reproducible to the last digit, moving the way the metal does."""

import json
import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from pydantic import ValidationError

from tests.core.test_loads import demo
from tests.jobs import built, checks_of, draw, links, shown, tabs_of, with_joint, with_part, work
from tirante.calc import calculate
from tirante.core.checks.shown import shown_utilisation
from tirante.core.document.design import Design
from tirante.core.document.fields import Length
from tirante.core.document.parts.common import CentreToCentre, LoadCase
from tirante.core.document.parts.link import Bent, Link
from tirante.core.job.evaluate import evaluate
from tirante.core.loads.case_seen import typed
from tirante.core.parts.link.assembly import Assembly, assemble, stack_of
from tirante.core.parts.link.checks import column_segments
from tirante.core.parts.numbers import numbers_of

LINK_CHECKS = {
    "column", "column_aisc", "stepped", "bowed", "net", "net_rupture", "wall", "wall_bending", "engagement", "thread_tension", "strip_insert",
    "strip_shank", "shank_bending", "joint", "joint_side", "insert_weld", "life",
}  # fmt: skip
TAB_CHECKS = {
    "pin_shear", "pin_bending", "tab_bearing", "tab_tension", "tab_tearout", "tab_slanted", "tab_yield", "tab_detailing", "tab_foot", "tab_weld",
}  # fmt: skip


def loaded(design: Design, *cases: LoadCase, **more: object) -> Link:
    """The first link, of the same length but tied to no end: it sees what is typed and nothing of the car."""
    link = links(design)[0]
    length = CentreToCentre(length=Length(mm=link.between.mm))
    return link.model_copy(update={"between": length, "cases": cases, **more})


def test_a_link_with_its_tab_has_every_check(marram: Design) -> None:
    assert set(checks_of(links(marram)[0], marram)) == LINK_CHECKS | TAB_CHECKS


@settings(max_examples=25, deadline=None)
@given(
    axial=st.floats(-60_000, 60_000),
    strike=st.floats(0, 9000),
    side=st.floats(0, 2000),
    index=st.integers(0, 3),
    school=st.sampled_from(["centred", "buried"]),
)
def test_the_command_reproduces_every_figure_to_the_last_digit(
    axial: float, strike: float, side: float, index: int, school: str, marram: Design
) -> None:
    case = LoadCase(name="any", axial_n=axial, strike_n=strike, side_n=side)
    link = links(marram)[index].model_copy(update={"cases": (case,), "school": school})
    whole = with_part(marram, link)
    tab = tabs_of(link, whole)
    for check in [*shown(link, whole).checks, *(shown(tab, whole).checks if tab else [])]:
        if check.topic is None or check.key == "tab_detailing":
            continue
        found: object = calculate(check.topic, check.topic_input)
        for step in (check.output or "").split("."):
            found = found[int(step)] if isinstance(found, list) else found[step]  # type: ignore[index]
        assert found == getattr(check, check.figure or "capacity"), check.key


@pytest.mark.parametrize(
    ("change", "broken"),
    [
        ({}, None), ({"edge": 33.0}, "a_at_least_1_33_be"), ({"hole": 21.0}, "hole_at_most_pin_plus_1_mm"),
    ],
)  # fmt: skip
def test_a_tab_out_of_proportion_names_the_limit_it_breaks_and_the_command_shows_it(
    change: dict[str, float], broken: str | None, marram: Design
) -> None:
    tab = tabs_of(links(marram)[0], marram)
    assert tab
    tab = tab.model_copy(update={name: Length(mm=value) for name, value in change.items()})
    check = checks_of(tab, marram)["tab_detailing"]
    assert check.passed  # a rule of detailing, told as such: strength is judged by the others
    assert ("no strength" in check.note) is (broken is not None)
    assert check.reproduce is not None
    name = check.reproduce.output.removeprefix("detailing.")
    assert calculate("lug", check.reproduce.input)["detailing"][name] is (broken is None)
    assert broken in (None, name)


def test_results_stand_weakest_first(marram: Design) -> None:
    for link in evaluate(work(marram)).parts:
        ratios = [check.utilisation for check in link.checks if check.utilisation is not None]
        assert ratios == sorted(ratios, reverse=True)


@settings(max_examples=20, deadline=None)
@given(force=st.floats(500, 50_000), times=st.floats(1.05, 3))
def test_a_larger_load_never_helps(force: float, times: float, marram: Design) -> None:
    small = checks_of(loaded(marram, LoadCase(name="a", axial_n=-force, side_n=force / 20)), marram)
    large = checks_of(loaded(marram, LoadCase(name="a", axial_n=-force * times, side_n=force * times / 20)), marram)
    for key, check in small.items():
        if check.utilisation is not None and key != "engagement":
            assert large[key].utilisation >= check.utilisation * (1 - 1e-12), key  # type: ignore[operator]


def test_linear_checks_are_proportional_to_the_load(marram: Design) -> None:
    one, two = (checks_of(loaded(marram, LoadCase(name="a", axial_n=-f)), marram) for f in (8000.0, 16_000.0))
    for key in ("column", "stepped", "net", "joint", "insert_weld", "pin_bending", "tab_bearing", "strip_insert"):
        assert two[key].utilisation == pytest.approx(2 * one[key].utilisation), key  # type: ignore[operator]
    assert two["bowed"].utilisation > 2 * one["bowed"].utilisation  # type: ignore[operator]


def test_compression_and_tension_ask_different_things(marram: Design) -> None:
    pull = checks_of(loaded(marram, LoadCase(name="a", axial_n=9000.0)), marram)
    push = checks_of(loaded(marram, LoadCase(name="a", axial_n=-9000.0)), marram)
    assert pull["column"].utilisation is None
    assert push["thread_tension"].utilisation is None
    assert pull["joint"].utilisation == push["joint"].utilisation


def test_the_factor_is_on_the_load_before_the_amplified_check(marram: Design) -> None:
    # at a factored load equal to the Euler load the check is over, however little stress there is at the load itself
    link = loaded(marram, LoadCase(name="a", axial_n=-10_000.0))
    capacity = checks_of(link, marram)["column"]
    euler = calculate("column", capacity.reproduce.input)["euler_n"]  # type: ignore[union-attr]
    over = checks_of(loaded(marram, LoadCase(name="a", axial_n=-euler / 1.5)), marram)["bowed"]
    assert not over.passed
    assert "no bent equilibrium" in over.note


def test_segments_of_the_stepped_column_add_up_pin_to_pin(marram: Design, quay: Design) -> None:
    for design in (marram, quay):
        for link in links(design):
            assembly = assemble(link, design.catalogue, typed(link.cases))
            assert isinstance(assembly, Assembly)
            stack = stack_of(assembly, design.settings)
            out = sum(state.adjust_out for state in stack.ends)
            pieces = column_segments(assembly, stack)
            assert sum(piece.length for piece in pieces) == pytest.approx(link.between.mm + out, rel=1e-12)


def test_the_worst_case_is_the_one_named(marram: Design) -> None:
    link = loaded(
        marram,
        LoadCase(name="small", axial_n=-5000.0),
        LoadCase(name="large", axial_n=-9000.0),
        LoadCase(name="pull", axial_n=7000.0),
    )
    found = checks_of(link, marram)
    assert found["column"].case == "large"
    assert found["thread_tension"].case == "pull"


def test_welded_mid_span_counts_the_as_welded_yield(marram: Design) -> None:
    case = LoadCase(name="strike", strike_n=3000.0)
    plain, welded = checks_of(loaded(marram, case), marram), checks_of(loaded(marram, case, mid_welded=True), marram)
    grade = marram.catalogue.grades[0]
    ratio = grade.yield_mpa / grade.welded_yield_mpa
    assert welded["bowed"].utilisation == pytest.approx(plain["bowed"].utilisation * ratio)  # type: ignore[operator]


def test_a_utilisation_is_shown_rounded_up_and_decided_unrounded() -> None:
    assert shown_utilisation(1.0) == "1.00"
    assert shown_utilisation(1.0000001) == "1.01"
    assert shown_utilisation(0.991) == "1.00"
    assert shown_utilisation(0.99) == "0.99"
    assert shown_utilisation(None) == "–"
    assert shown_utilisation(1e6) == ">99"


def test_no_load_is_not_a_pass(marram: Design) -> None:
    found = shown(loaded(marram), marram)
    assert found.status == "incomplete"
    assert "No load" in found.headline


def test_what_is_missing_is_said_at_its_field(marram: Design) -> None:
    end = links(marram)[0].end_a.model_copy(update={"nut": None})
    found = shown(links(marram)[0].model_copy(update={"end_a": end, "tube": None}), marram)
    assert {fault.field for fault in found.faults} >= {"tube", "end_a.nut"}
    assert found.own.stack is None


def test_an_exposure_without_its_length_is_asked_for(marram: Design) -> None:
    found = shown(links(marram)[0].model_copy(update={"school": "exposure"}), marram)
    assert [fault.field for fault in found.faults] == ["showing"]


def test_inserts_that_would_meet_inside_the_tube_are_refused(marram: Design) -> None:
    found = shown(links(marram)[0].model_copy(update={"between": CentreToCentre(length=Length(mm=130.0))}), marram)
    assert found.status == "incomplete"
    assert [fault.field for fault in found.faults] == ["between"]


def test_a_tab_pair_on_two_different_balls_is_refused(marram: Design, catalogue: object) -> None:
    joints = catalogue.joints  # type: ignore[attr-defined]
    link = links(marram)[0]
    other = next(j for j in joints if j.designation == "3/4-16 UNF" and j.key != link.end_b.joint)  # type: ignore[union-attr]
    odd = other.model_copy(update={"key": "wide", "ball_width_mm": other.ball_width_mm + 5})
    design = marram.model_copy(
        update={"catalogue": marram.catalogue.model_copy(update={"joints": (*marram.catalogue.joints, odd)})}
    )
    mixed = with_part(design, link.model_copy(update={"end_b": link.end_b.model_copy(update={"joint": "wide"})}))
    tab = tabs_of(link, mixed)
    assert tab
    assert "different balls" in shown(tab, mixed).faults[0].message
    # the one at B alone is held: its gap is that of its own ball
    one = mixed.model_copy(update={"joints": tuple(j for j in mixed.joints if j.by != tab.id or j.held.end == "b")})  # type: ignore[union-attr]
    assert shown(tab, one).own.gap_mm == pytest.approx(odd.ball_width_mm)  # type: ignore[union-attr]


def test_spacers_and_shims_widen_the_clevis_and_bend_the_bolt_more(marram: Design) -> None:
    tab = tabs_of(links(marram)[0], marram)
    assert tab
    wider = marram
    for joint in marram.held_by(tab.id):
        wider = with_joint(wider, joint, shim_mm=2.0)
    plain, shimmed = shown(tab, marram), shown(tab, wider)
    assert shimmed.own.gap_mm == pytest.approx(plain.own.gap_mm + 4.0)  # type: ignore[union-attr]
    bending = [next(c for c in r.checks if c.key == "pin_bending").utilisation for r in (plain, shimmed)]
    assert bending[1] > bending[0]  # type: ignore[operator]


def test_a_bought_link_says_how_much_to_cut_off(quay: Design) -> None:
    found = shown(links(quay)[1], quay)
    assert found.own.bought is not None
    assert found.own.stack is not None
    assert found.own.bought.cut_off_mm == pytest.approx(457.2 - found.own.stack.tube_cut_mm)
    assert found.own.bought.cut_at_mm == found.own.stack.tube_cut_mm
    assert (found.own.bought.keep_end, found.own.bought.cut_end) == ("A", "B")
    bought = links(quay)[1].bought
    assert bought
    # measured pin to pin, as much comes off as it is too long; the tube that is left is the same
    whole = bought.model_copy(
        update={"measured": "centres", "centres": Length(mm=found.own.length_mm + 17.0), "keep": "b"}
    )
    other = shown(links(quay)[1].model_copy(update={"bought": whole}), quay)
    assert other.own.bought is not None  # type: ignore[union-attr]
    assert other.own.bought.cut_off_mm == pytest.approx(17.0)  # type: ignore[union-attr]
    assert other.own.bought.cut_at_mm == pytest.approx(found.own.stack.tube_cut_mm)  # type: ignore[union-attr]
    assert (other.own.bought.keep_end, other.own.bought.cut_end) == ("B", "A")  # type: ignore[union-attr]
    for change, why in (({"tube_length": Length(mm=100.0)}, "too short"), ({"measured": "centres"}, "Type how long")):
        refused = shown(links(quay)[1].model_copy(update={"bought": bought.model_copy(update=change)}), quay)
        assert not refused.complete
        assert why in refused.faults[0].message


def test_what_no_check_says_is_said_in_words(marram: Design) -> None:
    link = links(marram)[0]
    (caution,) = shown(link, marram).notes
    assert caution.startswith("it alone locates a wheel or axle")
    welded = shown(link.model_copy(update={"mid_welded": True}), marram)
    assert "two spherical ends" in welded.notes[1]
    both = link.model_copy(update={"end_b": link.end_b.model_copy(update={"hand": "RH"})})
    alike = shown(both, marram)
    assert alike.own.stack is not None
    assert alike.own.stack.mm_per_turn is None
    assert "one hand" in alike.notes[1]


@pytest.mark.parametrize(("offset", "leg"), [(30.0, None), (45.0, 200.0)])
def test_a_bent_link_is_sawn_along_its_tube_and_bends_by_its_offset(
    marram: Design, offset: float, leg: float | None
) -> None:
    straight = loaded(marram, LoadCase(name="push", axial_n=-3000.0), bow_mm=0.0)
    bent = straight.model_copy(
        update={"bent": Bent(offset=Length(mm=offset), from_ends=None if leg is None else Length(mm=leg))}
    )
    found, plain = built(bent, marram), built(straight, marram)
    span = straight.between.mm
    reach = leg or span / 2
    longer = 2 * (reach**2 + offset**2) ** 0.5 - 2 * reach
    # each bend is an arc on three diameters in place of its two tangents
    turn, radius = math.atan2(offset, reach) * (1 if leg else 2), 3 * found.assembly.tube.od_mm
    longer -= (2 if leg else 1) * radius * (2 * math.tan(turn / 2) - turn)
    assert found.stack.tube_cut - plain.stack.tube_cut == pytest.approx(longer)
    assert found.stack.centre_to_centre == span
    assert found.stack.longest == pytest.approx(plain.stack.longest)
    check = checks_of(bent, marram)["bowed"]
    section = found.assembly.section
    # first order: P/A + P e D/2I; second order is a little more at this small share of the column's load
    axial = 3000.0 * marram.settings.factors.yielding
    first = axial / section.area + axial * offset * section.od / 2 / section.second_moment
    assert first < check.demand < 1.15 * first
    pulled = checks_of(bent.model_copy(update={"cases": (LoadCase(name="pull", axial_n=3000.0),)}), marram)["bowed"]
    # pulled it is drawn straight: less than first order, and no more than a little (T and G ch. 1)
    assert 0.85 * first < pulled.demand < first * (1 + 1e-9) + 0.2
    assert any("rolls" in note for note in shown(bent, marram).notes)
    drawn = draw(bent, marram, "drawing", numbers_of(marram.settings))
    assert any("off its line" in item.text for item in drawn.items if item.kind == "text")


def test_bends_past_the_middle_are_refused(marram: Design) -> None:
    link = links(marram)[0]
    data = link.model_dump(mode="json")
    for bent, words in (
        ({"offset": {"mm": 20.0}, "from_ends": {"mm": 600.0}}, "past the middle"),
        ({"offset": {"mm": 400.0}}, "quarter"),
    ):
        with pytest.raises(ValidationError, match=words):
            Link.model_validate_json(json.dumps({**data, "bent": bent}))


@pytest.mark.parametrize("name", ["marram", "tern", "quay", "plover", "dunlin"])
def test_every_check_of_a_part_is_told_apart_by_its_key(name: str) -> None:
    """A page that has two by one key shows an old one beside a new one."""
    for part in evaluate(work(demo(name))).parts:
        keys = [check.key for check in part.checks]
        assert len(keys) == len(set(keys)), [key for key in keys if keys.count(key) > 1]
