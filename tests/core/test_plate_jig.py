"""Jigs as parts of a job: each part rebuilt from its printed sheet alone, its pieces, its hands, what is said where none can be."""

from __future__ import annotations

import re
from itertools import combinations

import numpy as np
import pytest
from numpy.typing import NDArray

from tests.conftest import ROOT
from tests.core.test_jig_hands import turned
from tests.jobs import with_part, work
from tirante.core.document.design import Design
from tirante.core.document.parts.plate_jig import PlateJig
from tirante.core.document.parts.plate_link import PlateLink
from tirante.core.document.parts.rocker import Rocker
from tirante.core.document.template import SpinJoint
from tirante.core.document.upgrades import load_design
from tirante.core.drawing.model import Area, Drawing, Text
from tirante.core.errors import InputError
from tirante.core.jigs.features import Features
from tirante.core.jigs.handed import signed_height
from tirante.core.jigs.plate import laid_out
from tirante.core.jigs.posts import Sizes
from tirante.core.job.evaluate import evaluate
from tirante.core.job.lay_jigs import jig_for, lay_out
from tirante.core.job.memory import Memory
from tirante.core.job.worked import Worked
from tirante.core.parts.kind import ViewAsked
from tirante.core.parts.numbers import numbers_of
from tirante.core.parts.part import Part, PlatePiece, TubePiece
from tirante.core.parts.plate_jig.made import cross_rails
from tirante.core.parts.registry import kind_of
from tirante.core.quantities import Unit

Array = NDArray[np.float64]
ID = "0190a000-0000-7000-8000-00000000aa{:02d}"
MEMORY = Memory()
HELD = [
    ("marram", "Front lower arm"), ("marram", "Front upper arm"), ("plover", "Front radius arm"), ("plover", "Rear arm"), ("marram", "Panhard rod"),
    ("dunlin", "Front drop link"), ("tern", "Toe link"), ("dunlin", "Front rocker"),
]  # fmt: skip


def demo(name: str) -> Design:
    return load_design((ROOT / f"data/demo/{name}.json").read_bytes())


def with_jig(job: str, name: str, **given: object) -> tuple[Worked, Part, Features]:
    design = demo(job)
    saved = next(one for one in design.parts if one.name == name)
    jig = PlateJig(id=ID.format(1), name=f"{name}, jig", holds=saved.id, **given)  # type: ignore[arg-type]
    job_ = work(design.model_copy(update={"parts": (*design.parts, jig)}), MEMORY)
    part = job_.part(jig.id)
    assert part is not None
    features = kind_of(saved).features(saved, job_)
    assert isinstance(features, Features)
    return job_, part, features


def sheet(job: Worked, part: Part, view: str, unit: Unit = "mm") -> list[list[str]]:
    """The sheet as it is read: its texts, line by line from the top, from left to right."""
    drawing: Drawing = kind_of(part.saved).draw(part, ViewAsked(name=view), numbers_of(job.settings, unit))
    rows: dict[float, list[tuple[float, str]]] = {}
    for item in drawing.items:
        if isinstance(item, Text):
            rows.setdefault(round(item.y, 3), []).append((item.x, item.text))
    return [[text for _, text in sorted(row)] for _, row in sorted(rows.items(), reverse=True)]


def read(text: str, unit: Unit) -> float:
    return float(text.replace("″", "").replace("−", "-")) * (25.4 if unit == "in" else 1.0)


def joints_of(rows: list[list[str]], unit: Unit) -> dict[str, tuple[Array, Array]]:
    """Middles and bars from the joints' table."""
    out = {}
    for row in rows:
        if len(row) == 8 and re.fullmatch(r"[A-Z]", row[0]):
            figures = [read(one, unit) for one in row[2:]]
            out[row[1]] = np.array(figures[:3]), np.array(figures[3:])
    return out


@pytest.mark.parametrize("unit", ["mm", "in"])
@pytest.mark.parametrize(("job", "name"), HELD)
def test_a_part_is_rebuilt_from_its_printed_sheet_alone_and_the_wrong_hand_does_not_pass(
    job: str, name: str, unit: Unit
) -> None:
    worked, part, features = with_jig(job, name)
    assert part.complete, part.faults
    views = [view.name for view in part.views if view.name.startswith("jig")]
    for view in views:
        found = joints_of(sheet(worked, part, view, unit), unit)
        wanted = features.mirrored() if view.endswith("right") else features
        assert list(found) == [one.name for one in wanted.held]
        true = np.array([p for one in wanted.held for p in (one.p, one.p + 100.0 * one.a)])
        built = []
        for one in wanted.held:
            middle, bar = found[one.name]
            assert float(np.linalg.norm(bar - middle)) == pytest.approx(100.0, abs=0.05)
            built += [middle, bar]
        # laid on the part in the car without turning it inside out: pivots and the ways of bolts; a bar that tells no end apart may lie either way
        for i, one in enumerate(wanted.held):
            if not one.directed and _laid_on(np.array(built), true) > 1.0:
                built[2 * i + 1] = 2 * built[2 * i] - built[2 * i + 1]
        off = _off(wanted, {one.name: (built[2 * i], built[2 * i + 1]) for i, one in enumerate(wanted.held)})
        assert off < worked.settings.check_tolerance_mm / 5, off
    for a, b in combinations(features.held, 2):
        told = f"{float(np.linalg.norm(a.p - b.p)):.2f}".removesuffix("0")
        text = " ".join(" ".join(row) for row in sheet(worked, part, views[0].replace("jig", "posts")))
        assert f"({a.name}) to" in text
        assert told in text


def _laid_on(one: Array, other: Array) -> float:
    """How far points stay apart at most when they are laid on others, turned and moved, never mirrored."""
    a, b = one - one.mean(axis=0), other - other.mean(axis=0)
    u, _, v = np.linalg.svd(a.T @ b)
    turn = u @ np.diag([1.0, 1.0, float(np.sign(np.linalg.det(u @ v)))]) @ v
    assert np.linalg.det(turn) == pytest.approx(1.0)
    return float(np.max(np.linalg.norm(a @ turn - b, axis=1)))


def _off(wanted: Features, found: dict[str, tuple[Array, Array]]) -> float:
    """The least of that over the ways that bars may lie which tell no end apart."""
    loose = [one.name for one in wanted.held if not one.directed]
    least = float("inf")
    for bits in range(2 ** len(loose)):
        points, true = [], []
        for one in wanted.held:
            middle, bar = found[one.name]
            if one.name in loose and bits >> loose.index(one.name) & 1:
                bar = 2 * middle - bar
            points += [middle, bar]
            true += [one.p, one.p + 100.0 * one.a]
        least = min(least, _laid_on(np.array(points), np.array(true)))
    return least


@pytest.mark.parametrize(("job", "name"), HELD[:4])
def test_the_signed_figure_of_the_sheet_holds_for_its_own_hand_and_refuses_the_other_by_more_than_three_times_its_tolerance(
    job: str, name: str
) -> None:  # fmt: skip
    worked, part, features = with_jig(job, name)
    for view in ("posts-left", "posts-right"):
        text = " ".join(" ".join(row) for row in sheet(worked, part, view))
        found = re.search(r"Look so that (.+?), (.+?) and (.+?) go round counter-clockwise: (.+?),? lies ([\d.]+) mm (above|below) their plane\..*?± ([\d.]+) mm", re.sub(r"\s+", " ", text))  # fmt: skip
        assert found, text
        height = float(found[5]) * (1 if found[6] == "above" else -1)
        own, wrong = (features, features.mirrored()) if view.endswith("left") else (features.mirrored(), features)
        for one, sign in ((own, 1.0), (wrong, -1.0)):
            places = np.array([_measured(one, words) for words in (found[1], found[2], found[3], found[4])])
            assert signed_height(*turned(places, 3)) == pytest.approx(sign * height, abs=0.01)
        assert abs(height) > 3 * float(found[7]) > 0


def _measured(features: Features, words: str) -> Array:
    """A place as a fabricator finds it on the part in his hands by what the sheet says."""
    if words.startswith("middle of "):
        return next(one.p for one in features.held if one.name == words.removeprefix("middle of "))
    name = re.match(r"bar in (.+?), 100 mm", words)
    assert name, words
    held = next(one for one in features.held if one.name == name[1])
    if "stud points" in words or words.endswith("outboard"):
        return held.p + 100.0 * held.a
    near = next(one.p for one in features.held if words.endswith(f"nearer to {one.name}"))
    ends = [held.p + 100.0 * held.a, held.p - 100.0 * held.a]
    return min(ends, key=lambda end: float(np.linalg.norm(end - near)))


def test_what_differs_has_a_jig_for_each_hand_and_what_is_alike_one() -> None:
    _, part, _ = with_jig("marram", "Front lower arm")
    assert [view.name for view in part.views] == [
        "jig-left",
        "posts-left",
        "plate-left",
        "jig-right",
        "posts-right",
        "plate-right",
    ]
    assert not part.own_mirror
    plates = [one for one in part.pieces if isinstance(one, PlatePiece)]
    assert [one.name for one in plates] == ["left base", "right base"]
    # right is left's mirror image hole for hole
    left, right = (one.outline for one in plates)
    assert left
    assert right
    assert {(round(h.x, 6), round(-h.y, 6), h.diameter) for h in left.holes} == {
        (round(h.x, 6), round(h.y, 6), h.diameter) for h in right.holes
    }
    _, alike, _ = with_jig("marram", "Rear lower link")
    assert [view.name for view in alike.views] == ["jig", "posts", "plate"]
    assert alike.own_mirror


def test_a_right_arm_s_words_stand_at_the_right_in_another_outline() -> None:
    worked, part, _ = with_jig("marram", "Front lower arm")
    where = {}
    for view in ("jig-left", "jig-right"):
        drawing = kind_of(part.saved).draw(part, ViewAsked(name=view), numbers_of(worked.settings))
        word = next(one for one in drawing.items if isinstance(one, Text) and one.text in ("LEFT", "RIGHT"))
        where[word.text] = word.x
        corners = [
            len(one.points)
            for one in drawing.items
            if isinstance(one, Area) and max(p[1] for p in one.points) > drawing.height - 3
        ]
        assert corners == [4 if word.text == "LEFT" else 6]
    assert where["LEFT"] < 60 < 150 < where["RIGHT"]


def test_its_own_pieces_are_on_the_cut_list_and_every_post_of_the_sheet_is_one_of_them() -> None:
    worked, part, _ = with_jig("marram", "Front lower arm")
    listed = evaluate(worked).cut_list
    items = {one.what: one.count for one in listed.items if "; Front lower arm, jig: " in one.what}
    places = {what: what.partition("; Front lower arm, jig: ")[2].split(" · ") for what in items}
    rows = [row for row in sheet(worked, part, "posts-left") if len(row) == 8 and row[0].isdigit()]
    for row in rows:
        found = [what for what, where in places.items() if f"left {row[1]}" in where]
        assert len(found) == 1, row
        assert f"{float(row[5]):.1f} mm long" in found[0]
    # what is alike is one row, sawn at one setting, with every place that it goes to; two spacers go to one place
    for what, where in places.items():
        joint = next((one for one in part.own.hands[0].jig.joints if where[0] == f"left {one.held.name}"), None)
        assert items[what] == len(where) * (2 if what.startswith("spacer ") and joint and not joint.pinned else 1), what
    alike = [what for what, where in places.items() if {one.split()[0] for one in where} == {"left", "right"}]
    assert len(alike) == len(items)
    assert (
        sum(count for what, count in items.items() if what.startswith("dummy turned ")) == 6
    )  # three bores, two hands
    assert sum(one.count for one in listed.items if "screws for" in one.what) == sum(
        len(post.holes())
        for hand in part.own.hands
        for post in hand.jig.posts
        if post.sort != "pin" or post.lean_deg > 1.2
    )


def test_of_box_tube_the_rails_carry_every_post_and_are_sawn_from_one_stock() -> None:
    worked, part, _ = with_jig("marram", "Front lower arm", base="box tube and angle iron", rail_mm=50.0)
    rails = [one for one in part.pieces if isinstance(one, TubePiece)]
    assert {one.tube for one in rails} == {"box 50 × 50 × 3"}
    jig = part.own.hands[0].jig
    assert rails[0].length == pytest.approx(jig.high[0] - jig.low[0])
    assert not any(view.cut for view in part.views)
    from tirante.core.parts.plate_jig.made import cross_rails

    across = cross_rails(part.saved, jig)
    for post in jig.posts:
        on_main = abs(post.v) + post.reach <= 25.0
        assert on_main or any(abs(post.u - u) <= 25.0 and low <= post.v <= high for u, low, high in across), post.name
    named = [one.part for one in evaluate(worked).cut_list.pieces if one.tube.startswith("box 50")]
    assert len(named) == len(rails)


def test_a_cross_rail_reaches_under_all_of_a_post_s_foot_on_either_side() -> None:
    """Every corner of every foot lies on the main rail or on a cross rail, and each rail is as long as what is sawn."""
    _, part, _ = with_jig("marram", "Front lower arm", base="box tube and angle iron")
    saved, made = part.saved, part.own
    for hand in made.hands:
        rails = cross_rails(saved, hand.jig)
        assert rails
        for post in hand.jig.posts:
            for _, v in post.corners():
                under = abs(v) <= saved.rail_mm / 2 or any(
                    abs(u - post.u) < saved.rail_mm / 2 and low - 1e-9 <= v <= high + 1e-9 for u, low, high in rails
                )
                assert under, post.name
        word = f"{hand.word.lower()} " if hand.word else ""
        sawn = [one.length for one in part.pieces if isinstance(one, TubePiece) and one.name.startswith(f"{word}cross")]
        assert sawn == pytest.approx([high - low for _, low, high in rails])


def test_a_jig_of_a_part_that_is_gone_or_not_complete_or_bought_says_so() -> None:
    design = demo("marram")
    jig = PlateJig(id=ID.format(1), name="lost", holds=ID.format(77))
    found = evaluate(work(design.model_copy(update={"parts": (*design.parts, jig)}), MEMORY))
    lost = next(one for one in found.parts if one.id == jig.id)
    assert not lost.complete
    assert "not there any more" in lost.headline
    assert any(hold.id == jig.id and hold.station == "jigs" for hold in found.holds)
    assert found.marks["jigs"] == "in hand"
    rack = next(one for one in design.parts if one.kind == "steering_rack")
    with pytest.raises(InputError, match="bought whole"):
        jig_for(work(design, MEMORY), rack, ID.format(2))


def test_lay_out_makes_one_for_each_member_that_has_none_and_names_the_others() -> None:
    design = demo("dunlin")
    worked = work(design, MEMORY)
    made, left = lay_out(worked, [ID.format(i) for i in range(20)])
    names = {part.id: part.name for part in design.parts}
    assert [names[one.holds] for one in made] == ["Front upper arm", "Front lower arm", "Front rocker"]
    assert {one.name for one in left} == {"Front anti-roll bar", "Front steering rack"}
    again = work(design.model_copy(update={"parts": (*design.parts, *made)}), MEMORY)
    assert lay_out(again, [ID.format(i) for i in range(20)])[0] == []
    with pytest.raises(InputError) as found:
        lay_out(worked, [ID.format(1)])
    assert found.value.fields == ("ids",)
    for one in made:
        part = again.part(one.id)
        assert part is not None
        assert part.complete, part.faults


def test_a_boxed_link_is_held_by_dummies_in_the_place_of_its_bosses() -> None:
    from tirante.core.document.fields import Length
    from tirante.core.document.parts.boxed_link import BoxedLink
    from tirante.core.document.parts.common import CentreToCentre

    box = BoxedLink(
        id=ID.format(5), name="boxed", between=CentreToCentre(length=Length(mm=500.0)), height=Length(mm=70.0), width=Length(mm=60.0), side_mm=5.0, top_mm=6.0,
        bottom_mm=5.0, pad_at=Length(mm=250.0), boss_mm=40.0,
    )  # fmt: skip
    jig = PlateJig(id=ID.format(6), name="its jig", holds=box.id)
    design = demo("tern")
    part = work(design.model_copy(update={"parts": (box, jig)}), MEMORY).part(jig.id)
    assert part is not None
    assert part.complete, part.faults
    assert [one.mm for one in part.own.hands[0].jig.distances] == [500.0]
    assert part.own_mirror
    dummies = [one.what for one in part.pieces if "dummy at" in getattr(one, "what", "")]
    assert dummies == [f"dummy at end {letter}: turned ⌀39.90 × 60.0 mm, bored ⌀12 mm" for letter in "AB"]
    bare = box.model_copy(update={"boss_mm": None})
    lacking = work(design.model_copy(update={"parts": (bare, jig)}), MEMORY).part(jig.id)
    assert lacking is not None
    assert "bosses’ outside" in lacking.faults[0].message


def test_a_jig_carries_no_load_and_is_no_reason_to_hold_an_issue_back() -> None:
    from tirante.core.job.unsettled import unsettled

    worked, part, _ = with_jig("marram", "Front upper arm")
    found = evaluate(worked)
    out = next(one for one in found.parts if one.id == part.id)
    assert out.tool
    assert out.status == "ok"
    assert out.headline.startswith("Holds Front upper arm: plate ")
    assert not any(line.startswith(part.name) for line in unsettled(found))
    assert not any(hold.id == part.id for hold in found.holds)


def test_a_moved_pivot_moves_its_post_and_another_part_s_note_does_not_lay_it_out_anew() -> None:
    design = demo("marram")
    saved = next(one for one in design.parts if one.name == "Front lower arm")
    jig = PlateJig(id=ID.format(1), name="jig", holds=saved.id)
    design = design.model_copy(update={"parts": (*design.parts, jig)})
    before = work(design, MEMORY)
    first = before.part(jig.id)
    noted = design.model_copy(
        update={
            "parts": tuple(
                one.model_copy(update={"note": "x"}) if one.name == "Panhard rod" else one for one in design.parts
            )
        }
    )
    assert work(noted, MEMORY).judged_by(jig) == before.judged_by(jig)
    end = design.ends[0].model_copy(
        update={"end": design.ends[0].end.model_copy(update={"points": design.ends[0].end.points | {"lower_rear": tuple(v + d for v, d in zip(design.ends[0].end.points["lower_rear"], (-4.0, 0.0, 0.0), strict=True))}})}
    )  # fmt: skip
    after = work(design.model_copy(update={"ends": (end, *design.ends[1:])}), MEMORY).part(jig.id)
    assert first is not None
    assert after is not None
    a, b = (one.own.hands[0].jig.distances[0].mm for one in (first, after))
    assert b - a == pytest.approx(4.0, abs=0.5)
    assert first.metal != after.metal


def test_dummies_spacers_and_bolts_are_as_the_arm_s_own_sleeves_ask() -> None:
    """Marram's lower arm by its saved sizes: sleeves ⌀2 · face with their wall, as long as the bush's housing; its cup likewise."""
    _, part, features = with_jig("marram", "Front lower arm")
    saved = next(one for one in demo("marram").parts if one.name == "Front lower arm")
    pivot, outer = features.held[0], features.held[2]
    assert (pivot.outside, pivot.wide, pivot.bore) == (
        2 * saved.pivot_face_mm,
        saved.pivot_eye.housing_width_mm,
        saved.pivot_eye.bore_mm,
    )  # type: ignore[attr-defined]
    assert pivot.seat == 2 * saved.pivot_face_mm - 2 * saved.pivot_wall_mm  # type: ignore[attr-defined]
    assert outer.seat == 2 * saved.outer_face_mm - 2 * saved.outer_housing.wall_mm  # type: ignore[attr-defined]
    whats = [(one.what, one.count) for one in part.pieces if "left " in getattr(one, "what", "")]
    assert (
        f"left dummy at lower front: turned ⌀{pivot.seat - 0.1:.2f} × {pivot.wide:.1f} mm, bored ⌀{pivot.bore:g} mm",
        1,
    ) in whats
    joint = part.own.hands[0].jig.joints[0]
    assert (
        f"left spacer at lower front: ⌀{pivot.bore + 12:g} × {joint.spacer:.1f} mm, bored ⌀{pivot.bore:g} mm",
        2,
    ) in whats
    # through both posts, both spacers and the sleeve, and 30 mm on
    assert (
        f"dummy bolt ⌀{pivot.bore:g} mm, {pivot.wide + 2 * joint.spacer + 2 * 10 + 30:.0f} mm or longer under its head, at left lower front",
        1,
    ) in whats


def test_rod_ends_and_tabs_are_held_over_what_their_bolts_clamp() -> None:
    worked, _, features = with_jig("marram", "Panhard rod")
    saved = next(one for one in worked.design.parts if one.name == "Panhard rod")
    row = worked.catalogue.find("joints", saved.end_a.joint)  # type: ignore[attr-defined]
    assert row is not None
    assert (features.held[0].bore, features.held[0].wide) == (row.bore_mm, row.ball_width_mm)  # type: ignore[union-attr]
    worked, _, features = with_jig("plover", "Rear arm")
    arm = next(one for one in worked.design.parts if one.name == "Rear arm")
    tabs = next(one for one in arm.joints if one.point == "lower_outer")  # type: ignore[attr-defined]
    held = next(one for one in features.held if one.name == "lower outer")
    assert (held.bore, held.wide) == (tabs.pin.bolt_mm, tabs.pin.between_mm + 2 * tabs.pin.plate_mm)


def test_a_rocker_s_bores_lie_as_far_from_the_line_it_turns_about_as_in_its_end_and_its_boss_is_free_for_a_torch() -> (
    None
):
    worked, part, features = with_jig("dunlin", "Front rocker")
    rocker = next(one for one in worked.design.parts if one.name == "Front rocker")
    assert isinstance(rocker, Rocker)
    end = worked.design.end(rocker.end_id)
    assert end is not None
    points = {one: np.array(at) for one, at in end.end.points.items()}
    template = worked.template(rocker.end_id)
    spin = next(one for one in template.joints if isinstance(one, SpinJoint) and one.body == rocker.body)
    at, way = points[spin.point], part_axis(worked, rocker)
    lengths = {frozenset((one.one, one.other)): one.mm for one in part.own.hands[0].jig.distances}
    assert len(features.held) == 1 + len(rocker.eyes)
    for eye in rocker.eyes:
        out = points[eye.point] - at
        off = float(np.linalg.norm(out - (out @ way) * way))
        assert lengths[frozenset(("pivot", eye.point.replace("_", " ")))] == pytest.approx(off, abs=1e-6)
    jig = part.own.hands[0].jig
    boss = next(one for one in jig.joints if one.held.name == "pivot")
    faces = rocker.inside_mm / 2 + rocker.plate_mm  # of its two plates, from their middle
    bead = rocker.boss_mm / 2 + rocker.leg_mm
    under = next(post for post in jig.posts if post.of == "pivot")
    assert boss.at[2] - faces - under.top >= bead + part.saved.room_mm - 1e-9
    assert boss.at[2] - faces - under.top < bead + part.saved.room_mm + 1.0
    for eye in (one for one in jig.joints if one.held.name != "pivot"):
        post = next(one for one in jig.posts if one.of == eye.held.name)
        assert post.top == pytest.approx(boss.at[2] - faces)  # the lower plate lies on it
    for eye, held in zip(rocker.eyes, features.held[1:], strict=True):
        assert (held.bore, held.outside, held.wide) == (eye.pin_mm, 2 * eye.head_mm, 2 * faces)
    dummy = next(one.what for one in part.pieces if "dummy at pivot" in getattr(one, "what", ""))
    assert (
        f"⌀{rocker.bore_mm - 1.0 - 0.1:.2f} × {rocker.boss_length_mm:.1f} mm" in dummy
    )  # bored after welding: half a millimetre is left all round


def part_axis(worked: Worked, rocker: Rocker) -> Array:
    from tirante.core.suspension.on_body import places_on

    place = next(
        one
        for one in places_on(worked.template(rocker.end_id), worked.ends[rocker.end_id], rocker.body)
        if one.sort == "pivot"
    )
    return np.array(place.bolt) / np.linalg.norm(place.bolt)


def test_a_rocker_stood_on_edge_has_room_under_its_plates_and_a_plate_on_one_alone_is_welded_on_both_faces() -> None:
    worked, _, _ = with_jig("dunlin", "Front rocker")
    saved = next(one for one in worked.design.parts if one.name == "Front rocker")
    assert isinstance(saved, Rocker)
    features = kind_of(saved).features(saved, worked)
    assert isinstance(features, Features)
    edge = laid_out(features, Sizes(clearance=37.0), (np.array([0.0, 1.0, 0.0]), "on edge"))
    lowest = min(corner[1] for one in features.sheets for corner in one.corners)
    assert edge.joints[0].at[2] + lowest - features.held[0].p[1] >= 37.0 - 1e-9
    one = saved.model_copy(update={"plates": 1})
    single = kind_of(one).features(one, work(with_part(worked.design, one), MEMORY))
    assert isinstance(single, Features)
    assert [ring.at[2] for ring in single.rings] == [-one.plate_mm / 2, one.plate_mm / 2]
    assert {held.wide for held in single.held if held.name != "pivot"} == {one.plate_mm}


def test_what_is_cut_whole_from_plate_asks_for_no_jig_and_says_why() -> None:
    from tirante.core.document.fields import Length
    from tirante.core.document.parts.common import CentreToCentre

    flat = PlateLink(id=ID.format(7), name="flat", between=CentreToCentre(length=Length(mm=200.0)), plates=2)
    worked = work(demo("tern").model_copy(update={"parts": (flat,)}), MEMORY)
    with pytest.raises(InputError, match=r"Nothing of it is welded.*Drill both plates in one"):
        jig_for(worked, flat, ID.format(8))
    # and nobody waits for one: the station is settled by the jig of what is welded
    link = next(one for one in demo("tern").parts if one.kind == "link")
    both = work(
        demo("tern").model_copy(update={"parts": (flat, link, PlateJig(id=ID.format(9), name="j", holds=link.id))}),
        MEMORY,
    )
    assert evaluate(both).marks["jigs"] == "good"
