"""A station's mark, what is to be settled and what is left out say one thing."""

from __future__ import annotations

from pathlib import Path

import pytest

from tests.conftest import ROOT
from tests.core.end_jobs import all_parts, job_of
from tests.jobs import links, with_part, work
from tirante.core.document.design import Design
from tirante.core.document.upgrades import load_design
from tirante.core.job.evaluate import evaluate
from tirante.core.job.glance import glance

DEMOS = sorted((ROOT / "data/demo").glob("*.json"))
RANK = {"stop": 0, "attention": 1, "incomplete": 2}
MARK = {"stop": "stop", "attention": "attention", "incomplete": "in hand"}


@pytest.mark.parametrize("file", DEMOS, ids=lambda file: file.stem)
def test_a_station_is_as_grave_as_what_is_to_be_settled_there_and_full_only_when_nothing_is_left_out(
    file: Path,
) -> None:
    design = load_design(file.read_bytes())
    found = evaluate(work(design))
    for station, mark in found.marks.items():
        here = [hold.state for hold in found.holds if hold.station == station]
        if here:
            assert mark == MARK[min(here, key=lambda state: RANK[state])], station
        elif station != "pack":
            assert mark in ("untouched", "in hand", "good"), station
    lacking = any(one.can for one in found.not_made)
    if found.marks["pack"] in ("good", "attention"):
        assert not lacking
        assert not found.cut_list.left_out
    if found.marks["members"] == "good":
        assert not lacking
        assert all(part.status != "incomplete" for part in found.parts if part.station == "members")
    if found.marks["brackets"] == "good":
        assert all(place.by for place in found.places)
    if found.marks["jigs"] == "good":
        assert all(part.jig for part in found.parts if part.station == "members")
    seen = glance(work(design))
    assert (seen.stop, seen.attention, seen.incomplete) == tuple(
        sum(hold.state == state for hold in found.holds) for state in ("stop", "attention", "incomplete")
    )
    assert seen.parts == len(design.parts)
    assert (seen.drawing is None) == (not design.ends)


def test_an_empty_job_is_untouched_and_each_thing_put_in_marks_its_own_station(marram: Design) -> None:
    empty = Design(name="new")
    assert set(evaluate(work(empty)).marks.values()) == {"untouched"}
    with_end = empty.model_copy(update={"ends": marram.ends[1:]})
    marks = evaluate(work(with_end)).marks
    assert marks["members"] == marks["pack"] == marks["brackets"] == "untouched"
    assert marks["layout"] in ("good", "in hand")
    assert marks["cycle"] != "untouched"


def test_a_part_that_fails_marks_its_station_and_the_pack_though_the_list_is_whole() -> None:
    design = job_of("lateral-links-damper-on-link")
    every = design.model_copy(update={"parts": tuple(all_parts(design))})
    marks = evaluate(work(every)).marks
    assert marks["members"] == "in hand"  # nothing chosen yet
    assert marks["pack"] == "untouched"


def test_one_member_taken_out_leaves_members_and_pack_unfinished(marram: Design) -> None:
    rod = next(one for one in links(marram) if one.name == "Panhard rod")
    without = marram.model_copy(update={"parts": tuple(part for part in marram.parts if part.id != rod.id)})
    assert evaluate(work(without)).marks["pack"] == "in hand"
    bare = with_part(marram, rod.model_copy(update={"tube": None}))
    assert evaluate(work(bare)).marks["pack"] == "in hand"
