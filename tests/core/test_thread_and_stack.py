"""Threads by their geometry, and the stack of a link by its sums."""

from math import pi

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from tests.core.test_loads import demo
from tests.core.test_wiring import loaded
from tests.jobs import built
from tirante.core.document.parts.common import LoadCase
from tirante.core.errors import InputError
from tirante.core.members.link_stack import AdjustableEnd, FixedEnd, link_stack
from tirante.core.members.thread import (
    engagement_for_load,
    parse_thread,
    shank_bending_stress,
    shear_area_external,
    shear_area_internal,
    thread_strip,
)

SIZES = [
    "3/8-24 UNF",
    "1/2-20",
    "5/8-18 UNF",
    "3/4-16 UNF",
    "7/8-14",
    "1 1/4-12 UNF",
    "M8",
    "M10x1.25",
    "M14x2",
    "M20x1.5",
]


@pytest.mark.parametrize(
    ("text", "major", "pitch"),
    [
        ("3/4-16 UNF", 19.05, 25.4 / 16), ("1 1/4-12", 31.75, 25.4 / 12), ("1-1/4-12 UNF", 31.75, 25.4 / 12),
        ("0.75-16", 19.05, 25.4 / 16), ("#10-32 UNF", 0.19 * 25.4, 25.4 / 32), ("M14x2", 14.0, 2.0), ("M14×1.5 LH", 14.0, 1.5),
        ("m12", 12.0, 1.75), ("3/4-16 UNF-LH", 19.05, 25.4 / 16), ("5/8-18 UNF-2A", 15.875, 25.4 / 18),
    ],
)  # fmt: skip
def test_a_designation_gives_its_sizes(text: str, major: float, pitch: float) -> None:
    thread = parse_thread(text)
    assert (thread.major, thread.pitch) == pytest.approx((major, pitch), rel=1e-12)


@pytest.mark.parametrize(
    "text", ["", "M", "M0x1", "3/0-16", "M13.7", "Tr20x4", "3/4", "M10x9", "1/2-20 pipe", "-1/2-20", "M1e3"]
)
def test_what_is_no_thread_is_refused_by_its_field(text: str) -> None:
    with pytest.raises(InputError) as caught:
        parse_thread(text)
    assert caught.value.fields == ("designation",)


@pytest.mark.parametrize("size", SIZES)
def test_shear_areas_are_those_of_the_60_degree_profile(size: str) -> None:
    # cut the ideal profile by the two cylinders of FED-STD-H28 and measure how much metal each crosses
    t = parse_thread(size)
    axial = np.linspace(0, t.pitch, 200_001)
    # radius of the sharp external profile over one pitch: flanks at 30° either side of the crest, through d2 at p/4
    distance = np.abs((axial / t.pitch) % 1 - 0.5) * t.pitch
    radius = t.pitch_diameter / 2 + (t.pitch / 4 - distance) / np.tan(pi / 6)
    in_external = (radius >= t.minor_internal / 2).mean() * t.pitch
    in_internal = (radius <= t.major / 2).mean() * t.pitch
    assert shear_area_external(t, t.pitch) == pytest.approx(pi * t.minor_internal * in_external, rel=1e-4)
    assert shear_area_internal(t, t.pitch) == pytest.approx(pi * t.major * in_internal, rel=1e-4)


@pytest.mark.parametrize("size", SIZES)
@given(external=st.floats(300, 1200), internal=st.floats(200, 1200))
def test_at_the_least_engagement_neither_thread_strips_before_the_shank_breaks(
    size: str, external: float, internal: float
) -> None:
    t = parse_thread(size)
    least = thread_strip(t, external, internal, t.major).min_engagement
    found = thread_strip(t, external, internal, least)
    assert found.strip >= found.break_force * (1 - 1e-9)
    short = thread_strip(t, external, internal, least * 0.999)
    assert short.strip < short.break_force


@given(st.floats(100, 200_000))
def test_engagement_for_a_load_just_holds_it(load: float) -> None:
    t = parse_thread("3/4-16 UNF")
    need = engagement_for_load(t, 860, 620, load)
    assert thread_strip(t, 860, 620, need).strip == pytest.approx(load, rel=1e-12)


def test_shank_bending_adds_to_axial_whatever_the_signs() -> None:
    t = parse_thread("5/8-18")
    assert shank_bending_stress(t, -5000, 700, 20) == shank_bending_stress(t, 5000, -700, 20)
    assert shank_bending_stress(t, 0, 700, 40) == pytest.approx(2 * shank_bending_stress(t, 0, 700, 20))


# --- the stack ---------------------------------------------------------------------------------------------------------


def end(**more: object) -> AdjustableEnd:
    fields = {
        "pitch": 1.5875, "thread_length": 44.45, "eye_to_shank_end": 73.03, "jam_nut": 11.11, "shoulder": 6.35,
        "min_engagement": 19.05, "hand": "RH", **more,
    }  # fmt: skip
    return AdjustableEnd(**fields)  # type: ignore[arg-type]


def test_the_worked_stack_of_a_three_quarter_inch_rod_end() -> None:
    # D 19.05, A 44.45, j 11.11, e_min = D: e = 26.2, x = 7.1, ± 7.1 an end
    found = link_stack(842.0, [end(), end(hand="LH")])
    state = found.ends[0]
    assert (state.engagement, state.showing) == pytest.approx((26.195, 7.145), abs=1e-9)
    assert (state.adjust_in, state.adjust_out, state.max_showing) == pytest.approx((7.145, 7.145, 14.29), abs=1e-9)
    assert found.per_turn == pytest.approx(3.175)
    assert found.tube_cut == pytest.approx(842 - 2 * (73.03 - 26.195 + 6.35), abs=1e-9)


lengths = st.floats(30, 90)


@given(
    st.floats(400, 2000), lengths, st.floats(0.3, 0.9), st.floats(4, 12), st.floats(0, 8), st.floats(8, 25),
    st.sampled_from(["centred", "buried", "exposure"]), st.floats(0, 20),
)  # fmt: skip
def test_every_stack_adds_up_to_its_centre_distance(
    span: float, b: float, share: float, nut: float, shoulder: float, least: float, school: str, showing: float
) -> None:
    one = end(eye_to_shank_end=b, thread_length=b * share, jam_nut=nut, shoulder=shoulder, min_engagement=least)
    other = FixedEnd(centre_to_face=31.0)
    try:
        found = link_stack(span, [one, other], school, showing)  # type: ignore[arg-type]
    except InputError:
        assume(False)
    state = found.ends[0]
    assert state.engagement is not None
    assert state.showing is not None
    # thread: shown + nut + engaged; link: eye to shank end + shoulder + tube + fixed end, less what is inside
    assert state.showing + nut + state.engagement == pytest.approx(b * share, abs=1e-9)
    assert b - state.engagement + shoulder + found.tube_cut + 31.0 == pytest.approx(span, abs=1e-9)


def test_swapping_the_ends_changes_nothing_but_their_order() -> None:
    a, b = end(), end(hand="LH", thread_length=40.0, pitch=1.814)
    there, back = link_stack(700.0, [a, b]), link_stack(700.0, [b, a])
    assert there.tube_cut == pytest.approx(back.tube_cut, rel=1e-12)
    assert (there.shortest, there.longest) == pytest.approx((back.shortest, back.longest), rel=1e-12)
    assert there.per_turn == back.per_turn
    assert there.ends == back.ends[::-1]


def test_a_pair_stops_when_the_first_end_does() -> None:
    shallow = end(hand="LH", insert_depth=28.0)
    found = link_stack(700.0, [end(), shallow])
    turns = (28.0 - 26.195) / 1.5875
    assert found.turns_in == pytest.approx(turns)
    assert found.shortest == pytest.approx(700 - turns * 3.175)


def test_two_ends_of_one_hand_are_two_single_adjusters() -> None:
    found = link_stack(700.0, [end(), end()])
    assert found.per_turn is None
    assert found.per_half_turn == pytest.approx(1.5875 / 2)
    assert found.longest == pytest.approx(700 + 2 * 7.145)


def test_buried_shows_two_pitches_and_is_stopped_by_the_insert_s_depth() -> None:
    found = link_stack(700.0, [end(insert_depth=25.0), end(hand="LH")], "buried")
    assert found.ends[1].showing == pytest.approx(3.175)
    assert not found.ends[0].ok
    assert "bottoms" in found.ends[0].reasons[0]


@pytest.mark.parametrize(
    ("ends", "school", "field"),
    [
        ([end(), end(thread_length=80.0)], "centred", "ends.1.thread_length_mm"),
        ([end(), end()], "exposure", "showing_mm"),
        ([end(eye_to_shank_end=400.0), end(eye_to_shank_end=400.0)], "centred", "centre_to_centre_mm"),
    ],
)
def test_a_contradiction_names_its_field(ends: list[AdjustableEnd], school: str, field: str) -> None:
    with pytest.raises(InputError) as caught:
        link_stack(700.0, ends, school)  # type: ignore[arg-type]
    assert caught.value.fields == (field,)


def test_two_thirds_of_the_thread_are_a_rule_where_the_shop_says_so() -> None:
    """A kit's instruction (common practice, no source): of 44.45 mm of thread 29.6 engaged, so less may show and less is left to turn."""

    design = demo("marram")
    link = loaded(design, LoadCase(name="pull", axial_n=2000.0))
    kept = design.model_copy(update={"settings": design.settings.model_copy(update={"two_thirds_rule": True})})
    usual, strict = (built(link, one).stack.ends[0] for one in (design, kept))
    row = built(link, design).assembly.threaded[0].joint
    assert strict.max_showing == pytest.approx(
        (usual.max_showing or 0) - (row.thread_length_mm * 2 / 3 - parse_thread(row.designation).major)
    )
    assert strict.adjust_out < usual.adjust_out
