"""What a person is told: headlines, what is to be settled, the thread that is left, the line that repeats a figure, what a search lost by."""

from __future__ import annotations

import json
import shlex
import subprocess
import sys
from dataclasses import replace
from typing import Any

import pytest

from tests.conftest import ROOT
from tests.core.test_loads import demo
from tests.golden.test_pins import shelf, shop
from tests.jobs import shown, with_part, work
from tirante.calc import calculate
from tirante.core.checks.kinds import CHECKS
from tirante.core.checks.result import ratio_of, weaker_of_each, weakest_first
from tirante.core.checks.shown import CheckOut, command_line, headline, left_out, shown_utilisation
from tirante.core.document.design import Design
from tirante.core.document.parts.link import Link
from tirante.core.job.alignment import adjusters_of, sheet_of, thread_budget, turned_to
from tirante.core.job.evaluate import evaluate
from tirante.core.job.screens import corners
from tirante.core.loads.case_seen import NotCarried
from tirante.core.loads.shown import as_calc_input
from tirante.core.parts.adjusters import EndLeft, ends_at
from tirante.core.parts.link.kind import LINK
from tirante.core.suspension.turns import Wanted


def checks(*uses: float | None, case: str | None = "pull") -> list[CheckOut]:
    """Checks of one part with these utilisations, weakest first."""
    design = demo("marram")
    one = evaluate(work(design)).parts[0].checks[0]
    found = []
    for i, use in enumerate(uses):
        state = "not asked" if use is None else "stop" if use > 1 else "attention" if use >= 0.85 else "ok"
        found.append(one.model_copy(update={"key": f"column:{i}", "name": f"Check {i}", "utilisation": use, "shown": shown_utilisation(use), "state": state,
                                            "case": None if use is None else case}))  # fmt: skip
    return found


# --- a headline ----------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("uses", "status", "text"),
    [
        ((0.41, 0.2), "ok", "It holds. Weakest: Check 0, 0.41 of 1.00 in “pull”."),
        ((0.9, 0.2), "attention", "Check 0 is close: 0.90 of 1.00 in “pull”."),
        ((1.004, 0.9), "stop", "Check 0 is over: 1.01 of 1.00 in “pull”."),
        ((1.7, 1.2), "stop", "Check 0 is over: 1.70 of 1.00 in “pull”, and 1 more."),
        ((150.0, 3.0, 2.0, 0.1), "stop", "Check 0 is over: >99 of 1.00 in “pull”, and 2 more."),
        ((None, None), "incomplete", "No load is entered, so nothing says whether it holds."),
    ],
)
def test_a_headline_says_the_worst_and_how_many_more(uses: tuple[float | None, ...], status: str, text: str) -> None:
    found = headline(checks(*uses))
    assert (found.status, found.text) == (status, text)
    assert found.governing == (None if status == "incomplete" else "column:0")


def test_it_never_says_that_it_holds_while_a_case_was_not_carried() -> None:
    for uses in ((0.3,), (0.9,), (1.5,), (None,)):
        lacking = [NotCarried(case="landing", why="no stop"), NotCarried(case="jack", why="no such point")]
        found = headline(checks(*uses), lacking)
        assert "Not judged in “landing”, “jack”; why is listed beside the checks." in found.text
        assert "It holds" not in found.text
        assert found.status != "ok"
        refused = headline(checks(*uses), [NotCarried(case="jump", why="It is solid.", refuses=True), *lacking])
        assert "It holds" not in refused.text
        assert "“jump” is refused: It is solid." in refused.text
        assert refused.status == "stop"
    one = headline(checks(0.3), [NotCarried(case="landing", why="no stop")])
    assert "Not judged in “landing”; why is listed beside the checks." in one.text
    assert one.status == "incomplete"
    assert left_out([]) == ""
    assert "“0”, “1” and 2 more" in left_out([NotCarried(case=str(i), why="?") for i in range(4)])


@pytest.mark.parametrize(
    ("use", "text"), [(None, "–"), (0.0, "0.00"), (0.001, "0.01"), (0.85, "0.85"), (1.0, "1.00"), (1.0000001, "1.01"), (99.0, "99.00"), (99.5, ">99")]
)  # fmt: skip
def test_a_use_is_rounded_up_and_never_down_to_one(use: float | None, text: str) -> None:
    assert shown_utilisation(use) == text


def test_where_there_is_no_capacity_there_is_no_end_of_the_use() -> None:
    assert ratio_of(0.0, 0.0) == 0.0
    assert ratio_of(1.0, 0.0) == float("inf")
    assert ratio_of(-3.0, 2.0) == 0.0
    assert ratio_of(3.0, 2.0) == 1.5


def test_of_checks_made_at_several_places_the_weaker_stands_and_the_weakest_comes_first() -> None:
    from tests.jobs import built, links

    design = demo("marram")
    made = list(built(links(design)[0], design).checks)
    assert [one.utilisation or -1.0 for one in weakest_first(made)] == sorted(
        ((one.utilisation or -1.0) for one in made), reverse=True
    )
    twice = [
        replace(made[0], part="end A", utilisation=0.4),
        replace(made[0], part="end B", utilisation=0.6),
        replace(made[1], key="other", utilisation=None),
    ]
    assert [(one.key, one.part) for one in weaker_of_each(twice)] == [(made[0].key, "end B"), ("other", made[1].part)]
    assert [one.part for one in weaker_of_each(twice[::-1]) if one.key == made[0].key] == ["end B"]


def test_the_line_that_repeats_a_figure_is_one_that_a_shell_takes_as_it_stands() -> None:
    payload = {"name": 'it’s "odd" $HOME `x`; rm', "length_mm": 1.25, "list": [1, 2]}
    line = command_line("column", payload)
    echo, _, rest = line.partition(" | ")
    assert shlex.split(echo)[0] == "echo"
    assert json.loads(shlex.split(echo)[1]) == payload
    assert rest == "./tirante calc column"
    # and one of a job gives its figure through a real shell
    part = evaluate(work(demo("tern"))).parts[0]
    check = next(one for one in part.checks if one.topic == "thread-strip" and one.command)
    assert check.command
    python = f"{shlex.quote(sys.executable)} -m tirante.cli calc"
    done = subprocess.run(
        ["bash", "-c", check.command.replace("./tirante calc", python)], capture_output=True, text=True, cwd=ROOT,
        env={"PYTHONPATH": str(ROOT / "src"), "PATH": "/usr/bin:/bin"}, timeout=60,
    )  # fmt: skip
    assert json.loads(done.stdout) == json.loads(json.dumps(calculate(check.topic or "", check.topic_input or {}))), (
        done.stderr
    )


# --- what is to be settled ------------------------------------------------------------------------------------------------


def test_all_that_fails_or_is_missing_is_on_the_list_once_and_the_worst_first() -> None:
    design = shop()
    lacking = design.of_kind(Link)[1].model_copy(update={"grade": None})
    weak = Link.model_validate(
        design.of_kind(Link)[2].model_dump(mode="json") | {"cases": [{"name": "crushed", "axial_n": -400000.0}]},
        strict=False,
    )
    found = evaluate(work(with_part(design, lacking, weak)))
    ranks = [hold.rank for hold in found.holds]
    assert ranks == sorted(ranks, reverse=True)
    wanted = {
        (part.id, f"check:{check.key}")
        for part in found.parts
        for check in part.checks
        if check.state in ("stop", "attention")
    }
    said = [(hold.id, hold.selection) for hold in found.holds if hold.selection.startswith("check:")]
    assert len(said) == len(set(said))
    assert set(said) == wanted
    states = [hold.state for hold in found.holds]
    assert states[: states.count("stop")] == ["stop"] * states.count("stop")  # what is over comes before what is close
    assert states.count("stop") > 0
    missing = [hold for hold in found.holds if hold.id == lacking.id]
    assert [(hold.state, hold.selection) for hold in missing] == [("incomplete", "field:grade")]
    for hold in found.holds:
        part = next((one for one in found.parts if one.id == hold.id), None)
        if part:
            assert (hold.part, hold.station) == (part.name, part.station)


def test_every_part_stands_under_its_own_end_in_what_gives_first() -> None:
    job = work(shop())
    found = {corner.name: corner for corner in corners(job)}
    for part in job.parts:
        if not any(check.case and check.utilisation for check in part.checks):
            continue
        own = part.saved.of_end
        if own is None:
            ends = {held.of_end for joint in job.held_by(part.id) if (held := job.held_end(joint)) and held.of_end}
            own = next(iter(ends), None)
        name = next((end.name for end in job.design.ends if end.id == own), "Other parts")
        assert part.id in {row.part_id for row in found[name].order.gives}, (part.name, name)
        for other in found.keys() - {name}:
            assert part.id not in {row.part_id for row in found[other].order.gives}
    for corner in found.values():
        times = [row.times for row in corner.order.gives]
        assert times == sorted(times)
        if corner.order.gives:
            first = corner.order.gives[0]
            assert f"at {first.times:.1f} times" in corner.order.sentence
            assert corner.order.brittle_first == (first.how == "lets go")
            kind = CHECKS[first.key.split(":")[0]]
            assert kind.gives == first.how


# --- the thread that is left ------------------------------------------------------------------------------------------------


def _tie_rod(design: Design) -> Any:
    job = work(design)
    end = design.ends[0]
    adjusters, _ = adjusters_of(job, end.id)
    sheet = sheet_of(job, end.id, [one.adjuster for one in adjusters])
    return job, end, adjusters, sheet


@pytest.mark.parametrize("toe", [0.2, 0.6, 1.5])
def test_over_a_range_of_toe_the_tie_rod_is_turned_as_far_as_its_slope_says_and_its_ends_lose_that_thread(
    toe: float,
) -> None:
    job, end, adjusters, sheet = _tie_rod(demo("marram"))
    budget, extremes = thread_budget(job.at_ride(end.id), sheet, adjusters, {"toe_deg": toe}, job.settings)
    assert [name for name, _ in extremes] == [f"toe_deg {toe:+g}", f"toe_deg {-toe:+g}"]
    slopes = {turned.adjuster.link: turned.change.get("toe_deg", 0.0) for turned in sheet}
    for sign, (_, found) in zip((1.0, -1.0), extremes, strict=True):
        # by the slopes, to within the tenth of a degree that is asked for and what they bend over the range
        got = sum(turns * slopes[link] for link, turns in found.turns.items())
        assert sign * got == pytest.approx(toe, abs=0.1 + 0.02 * toe)
    for own, one in zip(adjusters, budget, strict=True):
        turned = [found.turns.get(own.adjuster.link, 0.0) for _, found in extremes]
        assert (one.shortest, one.longest) == (min(0.0, *turned), max(0.0, *turned))
        for turns, ends in ((one.shortest, one.at_shortest), (one.longest, one.at_longest)):
            assert list(ends) == ends_at(own, turns, job.settings)
            threaded = [state for state in own.stack.ends if state.engagement is not None]
            for left, parts, state in zip(ends, own.assembly.threaded, threaded, strict=True):
                # a pair gives a pitch at either end for a turn, one end half a pitch for half a turn
                moved = turns * parts.thread.pitch * (1.0 if own.adjuster.kind == "pair" else 0.5)
                assert left.engagement == pytest.approx((state.engagement or 0.0) - moved)
                assert left.showing == pytest.approx((state.showing or 0.0) + moved)
                assert left.depth_left == pytest.approx(parts.insert.thread_depth_mm - left.engagement)
        assert one.ok == all(left.ok for left in (*one.at_shortest, *one.at_longest))


@pytest.mark.parametrize(
    ("change", "ok"), [({}, True), ({"engagement": 9.9}, False), ({"showing": -0.1}, False), ({"depth_left": -0.1}, False), ({"depth_left": None}, True)]
)  # fmt: skip
def test_an_end_is_right_while_enough_is_in_the_nut_has_its_thread_and_the_shank_does_not_bottom(
    change: dict[str, Any], ok: bool
) -> None:
    assert (
        EndLeft(**{"end": "A", "engagement": 10.0, "needed": 10.0, "showing": 0.0, "depth_left": 0.0} | change).ok is ok
    )


def test_what_is_wanted_is_had_with_the_rest_left_as_it_is_where_any_turns_do_that() -> None:
    job, end, adjusters, sheet = _tie_rod(shop())
    done, room = job.at_ride(end.id), {one.adjuster.link: one.room for one in adjusters}
    found = turned_to(done, sheet, [Wanted(measure="camber_deg", change=-0.3, within=0.05)], room)
    change = {
        measure: sum(found.turns.get(one.adjuster.link, 0.0) * one.change.get(measure, 0.0) for one in sheet)
        for measure in ("camber_deg", "toe_deg", "caster_deg")
    }
    assert change["camber_deg"] == pytest.approx(-0.3, abs=0.08)
    if found.reached:
        assert abs(change["toe_deg"]) < 0.3  # toe is not given away for it
    for name, turns in found.turns.items():
        least, most = room[name]
        assert least - 1e-9 <= turns <= most + 1e-9


# --- a search -------------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("aim", ["mass", "cost"])
def test_a_search_says_what_the_runner_up_lost_by_and_it_is_true(aim: Any) -> None:
    design = demo("marram")
    rows = shelf()
    if aim == "cost":  # the shipped rows have no prices: each by its own size
        priced = {
            "tubes": [row.model_copy(update={"price": 1.0 + row.od_mm / 10}) for row in rows.tubes],
            "grades": [row.model_copy(update={"price": 2.0}) for row in rows.grades],
            "joints": [row.model_copy(update={"price": row.bore_mm}) for row in rows.joints],
            "inserts": [row.model_copy(update={"price": 3.0}) for row in rows.inserts],
            "nuts": [row.model_copy(update={"price": 0.5}) for row in rows.nuts],
        }
        rows = rows.model_copy(update={table: tuple(made) for table, made in priced.items()})
    link = design.of_kind(Link)[1]
    found = LINK.size(link, work(design), rows, aim)
    assert found.winner
    assert found.runner_up
    assert found.judged <= found.considered
    if aim == "mass":
        assert found.winner.mass <= found.runner_up.mass + 1e-9
        extra = (found.runner_up.mass - found.winner.mass) * 1000
        assert (f"{extra:.0f} g heavier" in found.advice) == (extra >= 1)
    else:
        assert "costs" in found.advice
    best = found.winner.parts[0]
    told = shown(best, design.model_copy(update={"catalogue": rows}))
    assert told.status in ("ok", "attention")
    assert max(check.utilisation or 0.0 for check in told.checks) <= 1.0


def test_where_nothing_passes_the_loads_that_would_are_told_and_do() -> None:
    design = demo("marram")
    hard = Link.model_validate(
        design.of_kind(Link)[1].model_dump(mode="json") | {"cases": [{"name": "far too hard", "axial_n": -900000.0}]},
        strict=False,
    )
    found = LINK.size(hard, work(with_part(design, hard)), shelf(), "mass")
    assert found.winner is None
    assert found.nearest
    assert "Nothing passes" in found.advice
    share = int(found.advice.split("loads of ")[1].split(" %")[0])
    lighter = Link.model_validate(
        hard.model_dump(mode="json") | {"cases": [{"name": "as told", "axial_n": -9000.0 * share}]}, strict=False
    )
    nearest = found.nearest.parts[0]
    assert isinstance(nearest, Link)
    whole = design.model_copy(update={"catalogue": shelf()})
    as_told = nearest.model_copy(update={"cases": lighter.cases})
    assert max(check.utilisation or 0.0 for check in shown(as_told, whole).checks) <= 1.0 + 1e-9
    more = Link.model_validate(
        hard.model_dump(mode="json") | {"cases": [{"name": "more", "axial_n": -9000.0 * (share + 2)}]}, strict=False
    )
    assert (
        max(check.utilisation or 0.0 for check in shown(nearest.model_copy(update={"cases": more.cases}), whole).checks)
        > 1.0
    )


@pytest.mark.parametrize(("force", "shorter"), [(-400000.0, True), (900000.0, False)])
def test_what_buckles_is_told_to_be_made_shorter_and_what_is_pulled_apart_is_not(force: float, shorter: bool) -> None:
    design = demo("marram")
    link = design.of_kind(Link)[0]
    long = {"kind": "length", "length": {"mm": 1400.0}}
    hard = Link.model_validate(
        link.model_dump(mode="json") | {"between": long, "cases": [{"name": "far too hard", "axial_n": force}]},
        strict=False,
    )
    found = LINK.size(hard, work(with_part(design, hard)), shelf(), "mass")
    assert found.winner is None
    assert found.nearest
    assert found.nearest.worst
    cures = CHECKS[found.nearest.worst.key.split(":")[0]].cure
    assert ("shorter link" in found.advice) == ("shorter link" in cures)
    if not shorter:
        assert "shorter link" not in found.advice
    assert f"binds at {found.nearest.worst.utilisation:.2f} in “far too hard”" in found.advice


def test_a_case_that_was_not_carried_has_no_line_that_repeats_it() -> None:
    design = demo("marram")
    job = work(design)
    end = design.ends[0]
    one = next(case for case in job.carried(end.id).cases if case.carrier == "spring")
    standing = job.ends[end.id]
    assert as_calc_input(standing, one)
    for change in ({"forces": None}, {"fault": "it could not be carried"}):
        assert as_calc_input(standing, replace(one, **change)) is None  # type: ignore[arg-type]
