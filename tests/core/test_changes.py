"""What was made to an earlier state of a job: fits, is turned, cut, made anew; measured by lengths and pitches, not by what says it."""

from __future__ import annotations

from dataclasses import replace
from math import cos, dist, sin

import pytest

from tests.jobs import arms, built, links, part_of, with_part, work
from tirante.core.document.design import Design
from tirante.core.document.fields import Length
from tirante.core.document.parts.common import CentreToCentre, RodEndEnd
from tirante.core.document.parts.link import Link
from tirante.core.job.changes import PartChanged, changes, figures_changed, issued_otherwise
from tirante.core.job.evaluate import part_out
from tirante.core.members.link_stack import AdjustableEnd, FixedEnd, as_set, link_stack

PITCH_3_4_16 = 25.4 / 16  # UNF 3/4-16, ASME B1.1: 16 threads to the inch


def moved(design: Design, end: int, **points: tuple[float, float, float]) -> Design:
    one = design.ends[end]
    given = {**one.end.points, **points}
    own = one.model_copy(update={"end": one.end.model_copy(update={"points": given})})
    return design.model_copy(update={"ends": tuple(own if i == end else e for i, e in enumerate(design.ends))})


def changed(before: Design, now: Design) -> dict[str, PartChanged]:
    return {one.name: one for one in changes(work(before), work(now))}


def by(
    design: Design, end: int, name: str, x: float = 0.0, y: float = 0.0, z: float = 0.0
) -> tuple[float, float, float]:
    at = design.ends[end].end.points[name]
    return at[0] + x, at[1] + y, at[2] + z


def test_nothing_differs_from_itself_and_another_end_s_pivot_changes_no_metal_here(marram: Design) -> None:
    assert changes(work(marram), work(marram)) == []
    rear = changed(marram, moved(marram, 1, lower_chassis=by(marram, 1, "lower_chassis", x=2.0)))
    assert set(rear) == {"Rear lower link"}
    # what is summed another way differs in the thirteenth place, and is the same metal
    upper = moved(marram, 0, upper_front=by(marram, 0, "upper_front", y=-5.0))
    assert set(changed(marram, upper)) == {"Front upper arm"}
    lower = next(part for part in marram.parts if part.name == "Front lower arm")
    assert part_of(lower, upper).metal == part_of(lower, marram).metal


def test_a_pivot_moved_along_a_pair_is_taken_up_by_so_many_turns_of_both_pitches(marram: Design) -> None:
    now = moved(marram, 1, lower_chassis=by(marram, 1, "lower_chassis", x=2.0, z=1.0))
    one = changed(marram, now)["Rear lower link"]
    points, was = now.ends[1].end.points, marram.ends[1].end.points
    further = dist(points["lower_chassis"], points["lower_axle"]) - dist(was["lower_chassis"], was["lower_axle"])
    assert one.verdict == "set"
    assert one.turns == pytest.approx(further / (2 * PITCH_3_4_16), abs=1e-9)
    saw = next(figure for figure in one.figures if figure.label == "Saw")
    assert saw.before
    assert saw.now
    assert saw.now - saw.before == pytest.approx(further, abs=1e-6)
    assert f"{abs(one.turns or 0):.2f}" in one.says
    assert "longer" in one.says
    # and back again, the other way round
    back = changed(now, marram)["Rear lower link"]
    assert back.turns == pytest.approx(-(one.turns or 0.0), abs=1e-9)
    assert "shorter" in back.says


def length_of(link: Link, mm: float, **more: object) -> Link:
    return link.model_copy(update={"between": CentreToCentre(length=Length(mm=mm)), **more})


def test_past_its_thread_a_link_is_sawn_shorter_or_made_anew(marram: Design) -> None:
    link = length_of(next(one for one in links(marram) if one.name == "Rear lower link"), 840.0)
    before = with_part(marram, link)
    stack = built(link, before).stack
    # as far as the thread goes, and a turn further, both ways
    longest, shortest = stack.longest - 840.0, stack.shortest - 840.0
    just = changed(before, with_part(marram, length_of(link, 840.0 + longest - 0.2)))["Rear lower link"]
    assert just.verdict == "set"
    assert just.turns == pytest.approx((longest - 0.2) / (2 * PITCH_3_4_16))
    over = changed(before, with_part(marram, length_of(link, 840.0 + longest + 3.0)))["Rear lower link"]
    assert over.verdict == "make"
    assert "engaged" in over.says
    under = changed(before, with_part(marram, length_of(link, 840.0 + shortest - 3.0)))["Rear lower link"]
    assert under.verdict == "cut"
    assert "if nothing is welded in yet" in under.says


def test_one_adjustable_end_goes_by_half_turns_and_says_what_it_leaves(quay: Design) -> None:
    link = next(
        one for one in links(quay) if one.name == "Parallel lower link"
    )  # 3/4-16 at one end, a bush at the other
    half = PITCH_3_4_16 / 2
    own = link.between.mm
    exact = changed(quay, with_part(quay, length_of(link, own - 2 * half)))["Parallel lower link"]
    assert exact.verdict == "set"
    assert exact.turns == pytest.approx(-1.0)
    assert exact.left == pytest.approx(0.0, abs=1e-9)
    between = changed(quay, with_part(quay, length_of(link, own - 2 * half - 0.3)))["Parallel lower link"]
    assert between.turns == pytest.approx(-1.0)
    assert between.left == pytest.approx(-0.3)
    assert "half turns" in between.says


def test_what_is_turned_to_suit_is_judged_there(marram: Design) -> None:
    """The range by its thread is there, and the link is refused all the same where a check fails on it as it is turned."""
    link = length_of(next(one for one in links(marram) if one.name == "Rear lower link"), 840.0)
    before = with_part(marram, link)
    now = with_part(marram, length_of(link, 842.0))
    heavy = now.model_copy(
        update={
            "settings": now.settings.model_copy(
                update={"factors": now.settings.factors.model_copy(update={"joint": 19.0})}
            )
        }
    )
    assert changed(before, now)["Rear lower link"].verdict == "set"
    one = changed(before, heavy)["Rear lower link"]
    assert one.verdict == "make"
    assert "would be over" in one.says


def test_an_arm_whose_tubes_keep_their_lengths_is_made_anew_where_its_hinge_is_spread(marram: Design) -> None:
    """Its front pivot swung about the outer joint: no tube is another length, and the arm does not fit."""
    points = marram.ends[0].end.points
    out, front = points["lower_outer"], points["lower_front"]
    a = 0.03
    x, y = front[0] - out[0], front[1] - out[1]
    swung = (out[0] + x * cos(a) - y * sin(a), out[1] + x * sin(a) + y * cos(a), front[2])
    assert dist(swung, out) == pytest.approx(dist(front, out))
    one = changed(marram, moved(marram, 0, lower_front=swung))["Front lower arm"]
    assert one.verdict == "make"
    assert "stand elsewhere" in one.says
    assert "lower front" in one.says


def test_a_right_arm_is_asked_where_the_right_side_s_points_went(marram: Design) -> None:
    arm = next(one for one in arms(marram) if one.name == "Front upper arm").model_copy(update={"side": "right"})

    def with_right(y: float, left: float = 0.0) -> Design:
        end = marram.ends[0]
        x0, y0, z0 = end.end.points["upper_front"]
        own = end.end.model_copy(
            update={
                "right_points": {"upper_front": (x0, y, z0)},
                "points": {**end.end.points, "upper_front": (x0, y0 + left, z0)},
            }
        )
        return with_part(
            marram.model_copy(update={"ends": (end.model_copy(update={"end": own}), *marram.ends[1:])}), arm
        )

    y = -marram.ends[0].end.points["upper_front"][1]
    assert "upper front, right" in changed(with_right(y), with_right(y + 6.0))[arm.name].says
    assert arm.name not in changed(with_right(y), with_right(y, left=6.0))
    unpaired = with_right(y + 6.0)
    end = unpaired.ends[0].end
    right = {name: end.right_points.get(name) or (x, -y, z) for name, (x, y, z) in end.points.items()}
    made = part_of(arm, unpaired).own.result
    assert made.lengths["front tube"] == pytest.approx(dist(right["upper_front"], right["upper_outer"]), abs=1e-3)
    assert all(frame.case.endswith(", right") for frame in made.frames)
    (fault,) = part_of(arm.model_copy(update={"side": "pair"}), unpaired).faults
    assert fault.field == "side"


def test_new_gone_other_hardware_and_what_holds_no_more(marram: Design) -> None:
    rod = next(one for one in links(marram) if one.name == "Panhard rod")
    without = marram.model_copy(update={"parts": tuple(part for part in marram.parts if part.id != rod.id)})
    assert changed(without, marram)["Panhard rod"].verdict == "new"
    assert changed(marram, without)["Panhard rod"].verdict == "gone"
    unfinished = with_part(marram, rod.model_copy(update={"tube": None}))
    assert changed(marram, unfinished)["Panhard rod"].verdict == "incomplete"
    assert changed(unfinished, marram)["Panhard rod"].verdict == "new"
    thicker = next(row for row in marram.catalogue.tubes if row.key != rod.tube)
    assert changed(marram, with_part(marram, rod.model_copy(update={"tube": thicker.key}))).get("Panhard rod")
    # a factor alone: no metal, no figure, and it does not hold
    factors = marram.settings.factors.model_copy(update={"column": 20.0})
    strict = marram.model_copy(update={"settings": marram.settings.model_copy(update={"factors": factors})})
    found = changed(marram, strict)
    assert found
    assert all("does not hold now" in one.says for one in found.values() if one.verdict == "fits")
    assert any(one.verdict == "fits" for one in found.values())


def test_another_rod_end_is_bought_and_another_insert_is_welded_into_another_tube(marram: Design) -> None:
    rod = next(one for one in links(marram) if one.name == "Panhard rod")
    assert isinstance(rod.end_a, RodEndEnd)

    def with_row(table: str, key: str | None, label: str) -> Design:
        """The job with a row beside that one, alike but for its name, in the rod's end A."""
        rows = getattr(marram.catalogue, table)
        row = next(row for row in rows if row.key == key).model_copy(update={"key": f"{key}-other", "label": label})
        catalogue = marram.catalogue.model_copy(update={table: (*rows, row)})
        end = rod.end_a.model_copy(update={{"joints": "joint", "inserts": "insert"}[table]: row.key})
        own = rod.model_copy(update={"end_a": end})
        return with_part(marram.model_copy(update={"catalogue": catalogue}), own)

    joint = changed(marram, with_row("joints", rod.end_a.joint, "another maker’s rod end"))["Panhard rod"]
    assert joint.verdict == "buy"
    assert "another maker’s rod end" in joint.says
    insert = changed(marram, with_row("inserts", rod.end_a.insert, "another insert"))["Panhard rod"]
    assert insert.verdict == "make"
    assert "welded" in insert.says


def test_a_bought_link_is_turned_or_sawn_shorter_where_it_was_sawn(quay: Design) -> None:
    link = next(one for one in links(quay) if one.bought)
    own = link.between.mm
    turned = changed(quay, with_part(quay, length_of(link, own + 2.0)))[link.name]
    assert turned.verdict == "set"
    assert turned.turns == pytest.approx(2.0 / (2 * 25.4 / 18))  # 5/8-18, right and left
    shorter = changed(quay, with_part(quay, length_of(link, own - 60.0)))[link.name]
    assert shorter.verdict == "cut"
    longer = changed(quay, with_part(quay, length_of(link, own + 60.0)))[link.name]
    assert longer.verdict == "make"
    assert changed(with_part(quay, link.model_copy(update={"bought": None})), quay)[link.name].verdict == "make"


def test_a_pair_that_becomes_one_is_told_and_a_left_one_is_no_right_one(marram: Design) -> None:
    link = next(one for one in links(marram) if one.name == "Rear upper link")
    one = changed(
        with_part(marram, link.model_copy(update={"side": "pair"})),
        with_part(marram, link.model_copy(update={"side": "left"})),
    )
    assert one["Rear upper link"].says.endswith("Only one of it is wanted now.")


def test_set_by_hand_to_what_it_shows_a_stack_is_itself() -> None:
    ends = [
        AdjustableEnd(pitch=1.5, thread_length=38.0, eye_to_shank_end=60.0, jam_nut=7.0, shoulder=6.0, min_engagement=14.0, insert_depth=40.0, hand="RH"),
        AdjustableEnd(pitch=1.25, thread_length=30.0, eye_to_shank_end=50.0, jam_nut=6.0, shoulder=5.0, min_engagement=12.0, insert_depth=32.0, hand="LH"),
    ]  # fmt: skip
    whole = link_stack(500.0, ends)
    assert as_set(500.0, ends, [end.showing for end in whole.ends]) == whole
    # a turn out shows a pitch more at either end, with the same tube
    turned = as_set(502.75, ends, [(end.showing or 0.0) + own.pitch for end, own in zip(whole.ends, ends, strict=True)])
    assert turned.tube_cut == pytest.approx(whole.tube_cut)
    assert turned.turns_out == pytest.approx(whole.turns_out - 1.0)
    fixed = as_set(500.0, [FixedEnd(centre_to_face=20.0), ends[0]], [None, 5.0])
    assert fixed.tube_cut == pytest.approx(500.0 - 20.0 - (60.0 - (38.0 - 7.0 - 5.0) + 6.0))


def test_a_card_that_was_issued_with_another_length_is_told(marram: Design) -> None:
    job = work(marram)
    cards = {part.id: part_out(part, job).card for part in job.parts}
    kept = {key: card for key, card in cards.items() if card}
    assert issued_otherwise(kept, job) == []
    rod = next(part for part in job.parts if part.name == "Panhard rod")
    card = kept[rod.id]
    first = card.figures[0]
    kept[rod.id] = card.model_copy(
        update={"figures": [first.model_copy(update={"mm": first.mm + 0.4}), *card.figures[1:]]}
    )
    ((name, (figure,)),) = issued_otherwise(kept, job)
    assert (name, figure.label) == ("Panhard rod", "Saw")
    assert figure.before is not None
    assert figure.now is not None
    assert figure.before - figure.now == pytest.approx(0.4)
    assert rod.card
    shorter = replace(rod.card, figures=rod.card.figures[1:])
    assert [(one.label, one.before is None, one.now) for one in figures_changed(rod.card, shorter)] == [
        ("Saw", False, None)
    ]
