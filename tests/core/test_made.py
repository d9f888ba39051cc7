"""Parts as they were made against the job as it stands: by pitches and lengths, and by what was done to them at the bench."""

from __future__ import annotations

from dataclasses import replace

import pytest

from tests.core.test_changes import PITCH_3_4_16, length_of
from tests.jobs import arms, built, links, with_part, work
from tirante.core.document.design import Design
from tirante.core.document.parts.link import Link
from tirante.core.document.rack import RackRow
from tirante.core.job.made import AsMade, MadeNow, Source, made_now
from tirante.core.parts.part import TubePiece

SAWN = frozenset({"have", "saw"})
TACKED = SAWN | {"tack"}
WELDED = TACKED | {"check", "weld"}
LONG = 840.0


def lower(design: Design, mm: float = LONG, name: str = "Rear lower link") -> Link:
    return length_of(next(one for one in links(design) if one.name == name), mm)


def made(was: Design, now: Design, *ones: AsMade, rack: tuple[RackRow, ...] = ()) -> tuple[MadeNow, ...]:
    return made_now(ones, {1: work(was)}, work(now), rack)


def one(was: Design, now: Design, link: Link, steps: frozenset[str] = WELDED, rack: tuple[RackRow, ...] = (), **more: object) -> MadeNow:  # fmt: skip
    (found,) = made(was, now, AsMade(part_id=link.id, hand="left", made_from=1, steps=steps, **more), rack=rack)  # type: ignore[arg-type]
    return found


def test_a_welded_link_is_turned_to_its_new_length_and_what_is_left_of_its_threads_is_told(marram: Design) -> None:
    link = lower(marram)
    was, now = with_part(marram, link), with_part(marram, lower(marram, LONG + 2.0))
    found = one(was, now, link)
    assert (found.verdict, found.is_now, found.of) == ("set", "welded", "the link")
    assert found.turns == pytest.approx(2.0 / (2 * PITCH_3_4_16))
    stack = built(link, was).stack
    for left, before in zip(found.ends, stack.ends, strict=True):  # both ends share it
        assert left.showing == pytest.approx(before.showing + 1.0)
        assert left.engaged == pytest.approx(before.engagement - 1.0)
    assert one(was, was, link).verdict == "fits"


def test_what_a_link_was_found_to_stand_at_counts_and_not_what_it_was_to_be(marram: Design) -> None:
    link = lower(marram)
    was, now = with_part(marram, link), with_part(marram, lower(marram, LONG + 2.0))
    # it stands 1.5 mm too long already: half a millimetre is left to turn, and its threads stand as if it were turned from the start
    found = one(was, now, link, measured=LONG + 1.5)
    assert found.turns == pytest.approx(0.5 / (2 * PITCH_3_4_16))
    assert [left.showing for left in found.ends] == pytest.approx([left.showing for left in one(was, now, link).ends])
    # a job that stands as it was built from, and a link that does not
    found = one(was, was, link, measured=LONG - 3.0)
    assert (found.verdict, found.turns) == ("set", pytest.approx(3.0 / (2 * PITCH_3_4_16)))
    assert one(was, was, link, measured=LONG).verdict == "fits"
    # further than its thread goes: turned it will not do
    stack = built(link, was).stack
    assert one(was, now, link, measured=LONG - (stack.longest - LONG)).verdict == "set"
    over = one(was, with_part(marram, lower(marram, stack.longest + 3.0)), link, measured=LONG)
    assert over.verdict == "make"


def test_what_is_tacked_is_sawn_no_more_and_of_what_is_only_at_hand_nothing_is_lost(marram: Design) -> None:
    link = lower(marram)
    was = with_part(marram, link)
    shorter = built(link, was).stack.shortest - 3.0
    now = with_part(marram, lower(marram, shorter))
    sawn = one(was, now, link, SAWN)
    assert sawn.verdict == "cut"
    assert [mm for _, mm in sawn.off] == pytest.approx([LONG - shorter])
    assert one(was, now, link, TACKED).verdict == "make"
    assert "tacked in" in one(was, now, link, TACKED).says
    at_hand = one(was, now, link, frozenset({"have"}))
    assert (at_hand.verdict, at_hand.says) == ("buy", "Nothing is cut of it yet: take to hand what its card says now.")


def test_what_is_made_anew_is_made_from_the_shortest_that_is_there(marram: Design) -> None:
    link = lower(marram)
    was = with_part(marram, link)
    longer = built(link, was).stack.longest + 20.0
    now = with_part(marram, lower(marram, longer))
    (piece,) = (p for p in work(now).part(link.id).pieces if isinstance(p, TubePiece))  # type: ignore[union-attr]
    assert one(was, now, link).verdict == "make"
    assert one(was, now, link).sources == ()
    assert "long enough" in one(was, now, link).not_found[0]

    def row(name: str, mm: float, **more: object) -> RackRow:
        fields = {"id": f"00000000-0000-4000-8000-00000000000{name}", "stock": piece.tube, "material": piece.grade, "length_mm": mm, "place": f"bay {name}", "offcut": True}  # fmt: skip
        return RackRow.model_validate(fields | more)

    rack = (
        row("1", piece.length + 300), row("2", piece.length + 10), row("3", piece.length - 0.5), row("4", piece.length, stock="another tube"),
        row("5", piece.length, material="another metal"), row("6", piece.length + 1, count=0), row("7", piece.length + 2, offcut=False),
    )  # fmt: skip
    assert one(was, now, link, rack=rack).sources == (Source(piece=piece.name, length=piece.length, what="offcut bay 2", there=piece.length + 10),)  # fmt: skip
    assert (
        one(was, now, link, rack=rack[2:]).sources[0].what == "length bay 7"
    )  # a whole length where no offcut will do
    # the tube that was sawn for a link that is not wanted any more; once it is tacked it is none
    other = lower(marram, longer + 30.0, "Rear lower link").model_copy(update={"id": "0f0f0f0f-0000-4000-8000-000000000001", "name": "Spare"})  # fmt: skip
    both = with_part(was, other)
    gone = AsMade(part_id=other.id, hand="", made_from=1, steps=SAWN)
    wanted = AsMade(part_id=link.id, hand="left", made_from=1, steps=WELDED)
    found = {each.made.part_id: each for each in made(both, now, wanted, gone)}
    assert found[other.id].verdict == "gone"
    assert [(s.what, s.there) for s in found[link.id].sources] == [("sawn for Spare", pytest.approx(piece.length + 30.0))]  # fmt: skip
    found = {each.made.part_id: each for each in made(both, now, wanted, replace(gone, steps=TACKED))}
    assert found[link.id].sources == ()


def test_what_was_made_by_a_card_that_is_not_kept_is_not_said_to_fit(marram: Design) -> None:
    link = lower(marram)
    now = with_part(marram, link)
    metal = work(now).part(link.id).metal  # type: ignore[union-attr]
    unknown = AsMade(part_id=link.id, metal="0" * 16, steps=WELDED)
    (found,) = made_now([unknown], {}, work(now), ())
    assert found.verdict is None
    assert "not kept" in found.says
    (found,) = made_now([replace(unknown, metal=metal)], {}, work(now), ())
    assert found.verdict == "fits"


def test_of_a_bought_link_that_is_sawn_shorter_it_is_told_by_how_much(quay: Design) -> None:
    link = next(each for each in links(quay) if each.bought)
    found = one(quay, with_part(quay, length_of(link, link.between.mm - 60.0)), link, SAWN)
    assert found.verdict == "cut"
    assert [mm for _, mm in found.off] == pytest.approx([60.0])


def test_a_hand_that_is_wanted_no_more_is_not_said_to_fit_unless_it_is_its_own_mirror_image(marram: Design) -> None:
    arm = next(each for each in arms(marram) if each.name == "Front upper arm")
    now = with_part(marram, arm.model_copy(update={"side": "left"}))
    hands = [AsMade(part_id=arm.id, hand=hand, made_from=1, steps=WELDED) for hand in ("left", "right")]
    found = {each.made.hand: each for each in made(marram, now, *hands)}
    assert (found["left"].verdict, found["right"].verdict) == ("fits", "gone")
    assert "Only the left one" in found["right"].says
    link = lower(marram)
    was = with_part(marram, link)
    single = with_part(was, link.model_copy(update={"side": "right"}))
    assert one(was, single, link).verdict == "fits"


def test_what_fits_and_holds_no_more_is_askew(marram: Design) -> None:
    """A factor alone: no metal and no figure is another, and the link is over where it was not."""
    link = lower(marram)
    as_it_was = with_part(marram, link)
    factors = marram.settings.factors.model_copy(update={"column": 20.0})
    strict = as_it_was.model_copy(update={"settings": marram.settings.model_copy(update={"factors": factors})})
    for now, askew in ((as_it_was, False), (strict, True)):
        found = one(as_it_was, now, link)
        assert (found.verdict, found.holds, found.askew) == ("fits", not askew, askew)
    unknown = made_now([AsMade(part_id=link.id, metal="0" * 16, steps=WELDED)], {}, work(as_it_was), ())
    assert unknown[0].askew  # nobody can tell
