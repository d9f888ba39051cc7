"""How a part goes onto the car: what is looked at twice because a wheel hangs on it, what comes before what, and how far a part is."""

from __future__ import annotations

from itertools import pairwise

import pytest

from tests.core.end_jobs import job_of
from tests.core.test_loads import demo
from tests.core.test_plate_jig import with_jig
from tests.jobs import work
from tirante.core.document.joints import HeldJoint
from tirante.core.job.bench_steps import steps_told
from tirante.core.job.on_car import _of_held, on_car
from tirante.core.job.traveller import BECOMES, shut_by, stands
from tirante.core.job.worked import Worked
from tirante.core.parts.part import Part, TurnedPiece
from tirante.core.parts.steps import HOLDS, KINDS, OnCar, Step, steps_of

JOBS = ("marram", "tern", "quay", "plover", "dunlin")


def travelling(name: str) -> tuple[Worked, list[tuple[Part, OnCar, list[Step]]]]:
    job = work(demo(name))
    of = on_car(job)
    return job, [(part, of[part.id], list(steps_of(part, of[part.id]))) for part in job.parts if part.complete]


def test_what_a_wheel_or_the_steering_hangs_on_is_looked_at_twice_and_what_holds_it_too() -> None:
    """Marram's front arms, tie rod and rack, its rear links on a beam of three links and a Panhard rod: each by itself keeps a wheel or the axle."""
    _, parts = travelling("marram")
    twice = {part.name for part, _, steps in parts if any(step.hold for step in steps)}
    once = {part.name for part, _, _ in parts} - twice
    for own in ("Rear lower link", "Rear upper link", "Panhard rod", "Front tie rod", "Front upper arm", "Front lower arm", "Front steering rack"):  # fmt: skip
        assert own in twice
        assert {name for name in once if name.startswith(f"{own},")} == set(), own
    assert {name.split(",")[0] for name in once} == {"Front damper", "Front bump stop", "Rear damper", "Rear strap", "Rear bump stop"}  # fmt: skip
    why = {part.name: of.duty for part, of, _ in parts}
    assert (why["Front tie rod"], why["Front tie rod, tabs"], why["Front steering rack, bearing pad"]) == ("steers",) * 3  # fmt: skip
    assert why["Panhard rod, end A, folded"] == "locates"


@pytest.mark.parametrize("name", JOBS)
def test_nothing_is_welded_before_the_tacks_nor_painted_before_the_beads_nor_driven_before_the_torque_were_looked_at(
    name: str,
) -> None:
    _, parts = travelling(name)
    assert any(of.duty for _, of, _ in parts) or name == "quay"  # there two pairs of links hold the axle between them
    for part, of, steps in parts:
        at = {step.kind: i for i, step in enumerate(steps)}
        if not of.duty:
            assert not set(HOLDS) & set(at), part.name
            assert "crack" not in at
            continue
        assert at["torque"] < at["witness"] < at["seen"] < at["outing"]
        if "weld" not in at:
            continue
        assert at["tack"] < at["cycle"] < at["second"] < at["weld"] < at["crack"] < at["passed"] < at["prime"] < at["paint"] < at["fit"]  # fmt: skip
        assert at["measure"] < at["passed"]
        assert {step.key for step in steps if step.kind == "outing"} == {"outing:crack", "outing:torque"}
        assert ("back" in at) == (of.member and part.jig is not None)
        hardens = any("chrome-moly" in line for line in part.welding)
        assert ("preheat" in at, "wait" in at) == (hardens, hardens), part.name


def test_a_bore_is_reamed_to_its_own_size_from_what_it_was_left_at() -> None:
    for name in JOBS:
        for part, _, steps in travelling(name)[1]:
            after = [
                p.turned for p in part.pieces if isinstance(p, TurnedPiece) and p.turned is not None and p.turned.after
            ]
            reamed = [[figure.mm for figure in step.figures] for step in steps if step.kind == "ream"]
            assert reamed == [[one.bore, one.bore - 2 * one.left] for one in after], part.name


def test_torque_tells_every_bolt_and_jam_nut_of_the_part_and_does_so_again_after_the_first_outing() -> None:
    _, parts = travelling("marram")
    by = {part.name: {step.key: step.lines for step in steps} for part, _, steps in parts}
    rod = by["Front tie rod"]["torque"]
    assert [line.rsplit(", ", 1)[1] for line in rod if "jam nut" in line] == ["RH", "LH"]
    assert by["Front tie rod"]["outing:torque"][:2] == rod[:2]
    assert "112 N·m" in by["Front upper arm, front pivot, tabs"]["torque"][0]
    assert by["Front upper arm, front pivot, tabs"]["fit"] == ("for Front upper arm, front pivot",)


def test_what_a_jig_holds_is_tacked_in_it_goes_back_in_it_and_is_checked_by_its_list() -> None:
    job, jig, _ = with_jig("marram", "Front upper arm")
    told = {part.name: {one["key"]: one for one in steps_told(job)[part.id]} for part in job.parts}
    arm, rod = told["Front upper arm"], told["Front tie rod"]
    for key in ("tack", "back"):
        assert f"in {jig.name}" in arm[key]["lines"]
    assert "signed figure" in arm["check"]["lines"][0]
    assert "signed figure" not in rod["check"]["lines"][0]
    assert told[jig.name] == {key: one for key, one in told[jig.name].items() if not one["hold"] and one["kind"] not in ("weld", "fit")}  # fmt: skip


def test_what_holds_a_leaf_that_is_bought_is_looked_at_twice_too() -> None:
    job = work(job_of("leaves-top-link"))
    leaf = next(held for held, one in job._unmade.items() if one.body == "leaf")
    joint = HeldJoint(id="0190a000-0000-7000-8000-000000000001", held=leaf)
    assert _of_held(job, joint.held, {}) == "locates"
    damper = next(one.held for part in demo("marram").parts if part.name == "Front damper, lower eye, tabs" for one in demo("marram").held_by(part.id))  # fmt: skip
    assert _of_held(work(demo("marram")), damper, {}) == ""


def step(key: str) -> Step:
    return Step(key=key, kind=key.split(":")[0], title=key.upper())


ROW = [step(key) for key in ("saw:0", "tack", "second", "weld", "passed", "paint", "seen", "outing:torque")]


def test_how_far_a_part_is_is_told_by_the_furthest_step_and_what_was_passed_over_by_name() -> None:
    nothing = stands(ROW, set())
    assert (nothing.is_now, nothing.done, nothing.of, nothing.next, nothing.waits) == ("", 0, 8, "SAW:0", False)
    tacked = stands(ROW, {"saw:0", "tack"})
    assert (tacked.is_now, tacked.next, tacked.waits, tacked.left_out) == ("tacked", "SECOND", True, ())
    past = stands(ROW, {"saw:0", "weld", "of other metal"})
    assert (past.is_now, past.done, past.left_out, past.unsigned) == ("welded", 2, ("TACK", "SECOND"), ("SECOND",))
    every = stands(ROW, {one.key for one in ROW})
    assert (every.done, every.next, every.waits, every.left_out) == (8, "", False, ())
    assert set(BECOMES) == set(KINDS)


def test_a_step_waits_for_the_first_hold_before_it_that_nobody_signed() -> None:
    assert [shut_by(ROW, one.key, set()) for one in ROW] == ["", "", "", *["SECOND"] * 5]
    assert [shut_by(ROW, one.key, {"second"}) for one in ROW] == ["", "", "", "", "", "PASSED", "PASSED", "PASSED"]
    assert [shut_by(ROW, one.key, {"second", "passed", "seen"}) for one in ROW] == [""] * 8
    # a later signature opens nothing that an earlier hold shuts
    assert shut_by(ROW, "weld", {"passed", "seen"}) == "SECOND"
    assert shut_by(ROW, "no such step", {"second", "passed", "seen"}) == ""


def test_the_table_of_steps_is_in_the_order_of_the_work() -> None:
    order = ("saw", "tack", "check", "cycle", "back", "second", "preheat", "weld", "cool", "inspect", "wait", "crack", "ream", "measure", "passed", "prime", "paint", "fit", "torque", "witness", "seen", "outing")  # fmt: skip
    places = [list(KINDS).index(one) for one in order]
    assert all(a < b for a, b in pairwise(places))
