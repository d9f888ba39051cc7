"""Joints over the whole box: by what is chosen for them, against other positions, and advice that is followed to the letter."""

from __future__ import annotations

import re
from typing import Any

import numpy as np
import pytest

from tests.core.test_loads import demo
from tests.core.test_suspension import example
from tests.jobs import links, with_links, with_part, work
from tirante.core.document.design import Design
from tirante.core.document.end import End, EndLink, JointEnd
from tirante.core.document.joints import EndOfLink
from tirante.core.document.parts.link import Link
from tirante.core.document.template import Template
from tirante.core.job.evaluate import evaluate
from tirante.core.job.studies import bind_map_of, study_of, whole_box_of
from tirante.core.job.unsettled import unsettled
from tirante.core.suspension.bind_map import bind_map
from tirante.core.suspension.cycle import cycle, positions
from tirante.core.suspension.joint_advice import PLAIN, _Joint, _Shares, advice_for, stands
from tirante.core.suspension.watches import plain
from tirante.core.suspension.whole_box import Box, box_of, whole_box
from tirante.shipped import the_shelf
from tirante.shipped.templates import example_ends

SHELF = the_shelf()
EXAMPLES = sorted(example_ends())


def asked(template: Template, end: End, rows: Any, link: str, which: str) -> np.ndarray[Any, Any]:
    """What positions ask of a joint, by a cycle of them alone [deg]."""
    found = cycle(template, end, rows).links
    names = [name for name in found if plain(name) == link]
    return np.max([found[n].get(f"misalignment_{which}_deg", found[n].get(f"tilt_{which}_deg")) for n in names], axis=0)


# --- what is chosen -------------------------------------------------------------------------------------------------------


def tie_rod(design: Design) -> Link:
    return next(link for link in links(design) if link.stands_for == "tie rod")


def front(design: Design) -> Any:
    return next(end for end in design.ends if end.name == "Front")


def test_the_rod_end_and_spacer_that_are_chosen_set_what_a_joint_allows() -> None:
    design = demo("marram")
    link, end = tie_rod(design), front(design)
    row = design.catalogue.find("joints", link.end_b.joint)  # type: ignore[union-attr]
    job = work(design)
    # 16° of its own; misalignment spacers stand at its outer end alone and add 12
    assert (job.watched(end.id).links["tie rod"].a.limit_deg, job.watched(end.id).links["tie rod"].b.limit_deg) == (
        row.tilt_limit_deg,
        row.tilt_limit_deg + 12,
    )  # type: ignore[union-attr]
    bare = design.model_copy(update={"joints": tuple(j.model_copy(update={"spacer": None}) for j in design.joints)})
    assert work(bare).watched(end.id).links["tie rod"].b.limit_deg == 16  # type: ignore[union-attr]
    # what asks 18° of it passes no more: on the way, in the whole box, at what is to be settled, and when it is issued
    moved = study_of(work(bare), end.id, 0.0, 30.0)
    assert any("outer joint reaches its limit, 16°" in event.what and event.kind == "stop" for event in moved.events)
    found = evaluate(work(bare))
    told = next(one for one in found.ends if one.id == end.id)
    assert told.state == "stop"
    assert "tie rod" in told.says
    assert any(hold.station == "cycle" and hold.state == "stop" for hold in found.holds)
    assert any(line.startswith("Front: Over the whole box") for line in unsettled(found))
    assert not any(hold.station == "cycle" for hold in evaluate(job).holds)


def test_a_rod_end_that_is_not_chosen_is_not_watched_whatever_was_typed() -> None:
    design = demo("marram")
    link, end = tie_rod(design), front(design)
    bare = with_links(
        design,
        link.model_copy(update={"end_a": link.end_a.model_copy(update={"joint": None, "insert": None, "nut": None})}),
    )
    job = work(bare)
    assert end.end.links["tie rod"].a.limit_deg == 28  # typed
    assert job.watched(end.id).links["tie rod"].a.limit_deg is None  # type: ignore[union-attr]
    told = next(one for one in evaluate(job).ends if one.id == end.id)
    assert any("not watched until its rod end is chosen" in line for line in told.not_watched)
    assert told.limits["tie rod"]["a"] is None
    # of two parts for one link, left and right, the lesser counts
    other = link.model_copy(update={"id": "00000000-0000-4000-8000-00000000aaaa", "side": "right"})
    both = with_part(design, other)
    assert work(both).watched(end.id).links["tie rod"].b.limit_deg == 16  # no spacers stand at the other's  # type: ignore[union-attr]
    assert not any(isinstance(j.held, EndOfLink) and j.held.part == other.id for j in both.joints)


# --- the whole box --------------------------------------------------------------------------------------------------------


def test_no_position_that_is_reached_asks_more_than_the_whole_box_says() -> None:
    """Two thousand positions drawn at random, each kept unless damper, stop or strap has ended the travel there."""
    design = demo("marram")
    end, job = front(design), work(design)
    bare = design.model_copy(update={"joints": tuple(j.model_copy(update={"spacer": None}) for j in design.joints)})
    job = work(bare)
    standing, box = job.watched(end.id), end.box
    rng = np.random.default_rng(11)
    rows = np.stack(
        [
            rng.uniform(-box.droop_mm, box.bump_mm, 2000),
            rng.uniform(-box.roll_deg, box.roll_deg, 2000),
            rng.uniform(-box.steer_mm, box.steer_mm, 2000),
        ]
    )
    found = cycle(job.template(end.id), standing, rows)
    kept = np.ones(2000, bool)
    for columns in (found.columns, found.right):
        kept &= (columns["damper_length_mm"] > standing.damper.closed_mm) & (
            columns["damper_length_mm"] < standing.damper.open_mm
        )  # type: ignore[union-attr, operator]
    for name, columns in found.limits.items():
        if "gap_mm" in columns:
            kept &= columns["gap_mm"] > -standing.bump_stop.crush_mm  # type: ignore[union-attr]
        assert "slack_mm" not in columns, name
    assert 500 < kept.sum() < 1990
    joints = {joint.name: joint for joint in bind_map_of(job, end.id).joints}
    for which, word in (("a", "inner"), ("b", "outer")):
        most = asked(job.template(end.id), standing, rows[:, kept], "tie rod", which).max()
        told = max(joints[f"tie rod, {word} end"].worst, joints[f"tie rod, right, {word} end"].worst)
        assert most <= told * 1.02 + 0.05
        assert most >= told * 0.93
    # and what is past its limit stands in the box's own words with the same figure
    past = next(one for one in whole_box_of(job, end.id).past if "outer joint reaches" in one.what)
    assert past.worst.value == pytest.approx(joints["tie rod, outer end"].worst - 16, abs=1e-9)
    at = joints["tie rod, outer end"]
    there = asked(job.template(end.id), standing, positions([at.travel], [at.roll], [at.steer]), "tie rod", "b")
    assert there[0] == pytest.approx(at.worst, abs=0.1)


def test_what_ends_the_travel_is_no_fault_and_what_comes_before_it_is() -> None:
    end, template = example("double-wishbone"), SHELF.template_of(example("double-wishbone"))
    assert end.damper
    found = whole_box(box_of(template, end, bump=60, droop=60, roll=2, steer=15))
    length = cycle(template, end, positions([0.0, 30.0, 60.0], [0.0], [0.0])).columns["damper_length_mm"]
    # a damper that closes at 30 mm: nothing beyond is looked at, and it is no fault
    closed = end.model_copy(
        update={"damper": end.damper.model_copy(update={"closed_mm": float(length[1]), "open_mm": None})}
    )
    box = box_of(template, closed, bump=60, droop=60, roll=0, steer=0)
    assert box.reach.ended_up
    assert not box.reach.ended_down
    assert "Nothing ends the travel downward" in whole_box(box).says
    worst = box.reach.worst(box.rows[0])
    assert worst.travel == pytest.approx(30.0, abs=0.05)
    assert worst.value == pytest.approx(worst.travel)
    assert not any(one.family == "damper" for one in whole_box(box).past)
    # a wall that the wheel meets at 45 mm is met where nothing stops it, and is not where the damper has closed
    known = dict(end.links)
    tight = {
        "tie rod": known["tie rod"].model_copy(
            update={
                w: getattr(known["tie rod"], w).model_copy(update={"limit_deg": at(template, end, w)})
                for w in ("a", "b")
            }
        )
    }
    free = end.model_copy(update={"links": {**known, **tight}})
    assert whole_box(box_of(template, free, bump=60, droop=0, roll=0, steer=0)).state == "stop"
    held = closed.model_copy(update={"links": {**known, **tight}})
    assert whole_box(box_of(template, held, bump=60, droop=0, roll=0, steer=0)).state != "stop"
    assert found.state in ("good", "attention", "stop")


def at(template: Template, end: End, which: str) -> float:
    """What the tie rod's end is asked at 45 mm [deg]."""
    return float(asked(template, end, positions([45.0], [0.0], [0.0]), "tie rod", which)[0]) + 1e-3


# --- advice ---------------------------------------------------------------------------------------------------------------


def tried(template: Template, box: Box, end: End) -> Box:
    return box_of(
        template, end, bump=float(box.travel[-1]), droop=float(-box.travel[0]), roll=float(box.roll[-1]), steer=float(box.steer[-1]), steps=box.steps
    )  # fmt: skip


@pytest.mark.parametrize("name", EXAMPLES)
def test_every_advice_comes_true_when_it_is_followed(name: str) -> None:
    """Each advice for each joint of each shipped end, its joints allowing little: typed in as it is told, and moved through the box again."""
    end = example(name)
    template = SHELF.template_of(end)
    # every end of every link on a bolt that stands badly, and allows little
    poor = JointEnd(bolt_axis=(0.35, 0.25, 0.9), limit_deg=4.0)
    names = {plain(link) for link in cycle(template, end, np.zeros((3, 1))).links}
    tight = {name: end.links.get(name, EndLink()).model_copy(update={"a": poor, "b": poor}) for name in names}
    end = end.model_copy(update={"links": tight})
    box = box_of(template, end, bump=50, droop=50, roll=2, steer=15 if template.steered else 0, steps=(5, 3, 3))
    worst = {joint.name: joint for joint in bind_map(box).joints}
    count = 0
    for joint in worst.values():
        if joint.link is None or joint.share is None or joint.share < 0.8 or joint.link.endswith(", right"):
            continue
        for advice in advice_for(template, box, joint.link, joint.which):
            count += 1
            # as a person would: the bolt, clocking or limit that is told, typed where it stands now
            link = plain(joint.link)
            known = end.links[link]
            axis = re.search(r"\((-?[\d.]+), (-?[\d.]+), (-?[\d.]+)\)", advice.text)
            clocked = re.search(r"clocked ([+-]\d+)°", advice.text)
            own: dict[str, Any] = {"bolt_axis": tuple(float(v) for v in axis.groups())} if axis else {}
            if "spherical end" in advice.text:
                own |= {"kind": "spherical", "limit_deg": None}
            wide = re.search(r"let it tilt ([\d.]+)°", advice.text)
            if wide:
                own |= {"limit_deg": float(wide.group(1))}
            typed = known.model_copy(update={joint.which: getattr(known, joint.which).model_copy(update=own)})
            if clocked:
                typed = typed.model_copy(update={"clocking_deg": float(clocked.group(1))})
            followed = end.model_copy(update={"links": {**end.links, link: typed}})
            then = {row.name: row for row in bind_map(tried(template, box, followed)).joints}
            word = "inner" if joint.which == "a" else "outer"
            told = re.search(r": ([\d.]+)° here \(now ([\d.]+)°\)", advice.text)
            assert told, advice.text
            both = [row for row in then.values() if row.link and plain(row.link) == link and row.which == joint.which]
            assert max(row.worst for row in both) == pytest.approx(float(told.group(1)), abs=0.051)
            was = max(
                row.worst for row in worst.values() if row.link and plain(row.link) == link and row.which == joint.which
            )
            assert was == pytest.approx(float(told.group(2)), abs=0.051)
            limit = getattr(typed, joint.which).limit_deg or 90.0
            assert float(told.group(1)) / limit < was / 4.0  # of what it allows it is asked less
            for row in then.values():  # and nothing else is asked more
                if (
                    row.name != f"{link}, {word} end"
                    and row.name in worst
                    and (row.link is None or row.which != joint.which or plain(row.link) != link)
                ):
                    assert row.worst <= worst[row.name].worst + 4.0 * 0.003, (advice.text, row.name)
    assert count or not names


def test_no_direction_of_a_bolt_does_better_than_the_one_told() -> None:
    end = example("double-wishbone")
    template = SHELF.template_of(end)
    box = box_of(template, end, bump=60, droop=60, roll=2, steer=20, steps=(7, 3, 3))
    shares = _Shares(box, _Joint("tie rod", "b"), end.links["tie rod"])
    direction, turn = shares.best_direction(np.array([0.0, 0.0, 1.0]))
    told = shares.worst(np.array(direction) / np.linalg.norm(direction), turn)
    rng = np.random.default_rng(3)
    random = rng.normal(size=(400, 3))
    random /= np.linalg.norm(random, axis=1)[:, None]
    assert told <= min(shares.worst(bolt, turn) for bolt in random) + 0.05
    assert told <= min(shares.worst(np.array(bolt), end.links["tie rod"].clocking_deg) for bolt in PLAIN) + 1e-9


def test_a_bolt_is_told_as_it_is_seen() -> None:
    assert stands((1.0, 0.0, 0.0)) == "stands fore and aft (1, 0, 0)"
    assert stands((-1.0, 0.0, 0.0)) == "stands fore and aft (1, 0, 0)"  # the same bolt
    assert "upper end" in stands((0.1, 0.2, 0.97))
    assert "outboard" in stands((0.1, 0.2, 0.97))
    assert "forward" in stands((0.1, 0.2, 0.97))
    assert "athwart" in stands((0.1, -0.95, 0.2))
    assert "down" in stands((0.1, -0.95, 0.2))  # its outer end: the direction turned round
