"""A station's mark, what is to be settled and what is left out say one thing."""

from __future__ import annotations

import json
from pathlib import Path

import pytest
from pydantic import TypeAdapter

from tests.conftest import ROOT
from tests.core.end_jobs import all_parts, job_of
from tests.jobs import links, with_part, work
from tirante.core.document.design import Design
from tirante.core.document.survey import Entry, TakenBack
from tirante.core.document.upgrades import load_design
from tirante.core.job.evaluate import evaluate
from tirante.core.job.glance import glance
from tirante.core.job.marks import mark_of_build, mark_of_survey, marks_of
from tirante.core.job.results import HoldOut, PartOut
from tirante.core.job.surveyed import surveyed

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


def test_the_gravest_line_of_a_station_is_its_mark_and_a_whole_list_with_a_part_that_fails_is_not_good(
    marram: Design,
) -> None:
    found = evaluate(work(marram))

    def hold(state: str, station: str) -> HoldOut:
        return HoldOut(part="p", what="w", detail="d", state=state, rank=1.0, station=station, id="i", selection="")  # type: ignore[arg-type]

    def marks(holds: list[HoldOut], parts: list[PartOut]) -> dict[str, str]:
        nothing = found.cut_list.model_copy(update={"left_out": []})
        return dict(marks_of(marram, parts, found.ends, holds, (nothing, [], [])))

    ok = [part.model_copy(update={"status": "ok"}) for part in found.parts]
    assert marks([], ok)["pack"] == "good"
    for order in (
        ("attention", "stop", "incomplete"),
        ("incomplete", "attention", "stop"),
        ("stop", "incomplete", "attention"),
    ):
        assert marks([hold(state, "cycle") for state in order], ok)["cycle"] == "stop"
    assert marks([hold("incomplete", "cycle"), hold("attention", "cycle")], ok)["cycle"] == "attention"
    assert marks([hold("incomplete", "layout")], ok)["layout"] == "in hand"
    failing = [ok[0].model_copy(update={"status": "stop"}), *ok[1:]]
    assert marks([], failing)["pack"] == "attention"
    half = [ok[0].model_copy(update={"status": "incomplete"}), *ok[1:]]
    assert marks([], half)["members"] == "in hand"


def test_a_survey_asks_for_attention_while_a_reading_does_not_fit_and_is_good_only_once_something_checks_each(
    mounted: Design,
) -> None:
    """The demo's survey, which has one slip in it."""
    told = json.loads((ROOT / "data/demo/survey/marram.json").read_text())["entries"]
    every: list[Entry] = [TypeAdapter(Entry).validate_json(json.dumps(one["entry"])) for one in told]  # type: ignore[type-arg]
    ends = {one.id: (one.name, one.end) for one in mounted.ends}
    assert mark_of_survey(surveyed(ends, [])) == "untouched"
    found = surveyed(ends, every)
    assert mark_of_survey(found) == "attention"
    (slip,) = (one.taken.id for one in found.readings if one.suspect is not None)
    off = TakenBack(sort="back", id="00000000-0000-4000-8000-000000000001", entry=slip, why="read anew")
    mended = surveyed(ends, [*every, off])
    (alone,) = (one.taken for one in mended.readings if one.checked and one.checked.redundancy < 0.02)
    assert mark_of_survey(mended) == "in hand"  # nothing checks that one
    again = alone.model_copy(update={"id": "00000000-0000-4000-8000-000000000002", "set_up": ""})
    assert mark_of_survey(surveyed(ends, [*every, off, again])) == "good"
    back = [
        TakenBack(sort="back", id=f"00000000-0000-4000-8000-0000000001{i:02d}", entry=one.taken.id, why="all anew")
        for i, one in enumerate(found.readings)
    ]
    assert mark_of_survey(surveyed(ends, [*every, *back])) == "untouched"


@pytest.mark.parametrize(
    ("begun", "askew", "unsigned", "left", "mark"),
    [(0, 0, 0, 9, "untouched"), (2, 0, 0, 9, "in hand"), (2, 1, 0, 9, "attention"), (2, 0, 1, 0, "attention"), (9, 0, 0, 0, "good")],
)  # fmt: skip
def test_a_build_is_good_only_when_every_step_is_done_and_nothing_is_askew(begun: int, askew: int, unsigned: int, left: int, mark: str) -> None:  # fmt: skip
    assert mark_of_build(begun, askew, unsigned, left) == mark
