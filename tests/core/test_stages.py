"""The one memory never answers with what was: whatever is edited, in whatever order, a job worked out with it is as one worked out anew.

A key that leaves out something that a result depends on shows here as an answer that did not change.
"""

from __future__ import annotations

import random
import threading
import time
from collections.abc import Callable
from typing import Any

import pytest

from tests.core.test_loads import demo
from tests.golden.test_pins import differences, plain
from tirante.core.document.design import Design
from tirante.core.document.load_cases import CarCase, LoadSet
from tirante.core.document.parts.arm import Arm
from tirante.core.document.parts.bracket import TabPair
from tirante.core.document.parts.link import Link
from tirante.core.document.parts.saved import SavedPart
from tirante.core.job.evaluate import evaluate
from tirante.core.job.memory import Memory
from tirante.core.job.screens import corners
from tirante.core.job.studies import solved_at, study_of
from tirante.core.job.worked import Worked
from tirante.shipped import the_shelf

Edit = Callable[[Design, random.Random], Design]


def replaced(design: Design, part: SavedPart) -> Design:
    return design.model_copy(update={"parts": tuple(part if one.id == part.id else one for one in design.parts)})


def of(part: SavedPart, **change: Any) -> Any:
    return type(part).model_validate(part.model_dump(mode="json") | change, strict=False)


def a_point(design: Design, chance: random.Random) -> Design:
    one = chance.choice(design.ends)
    name = chance.choice(sorted(one.end.points))
    x, y, z = one.end.points[name]
    end = one.end.model_copy(update={"points": one.end.points | {name: (x, y, z + chance.uniform(-2, 2))}})
    return design.model_copy(
        update={"ends": tuple(o.model_copy(update={"end": end}) if o.id == one.id else o for o in design.ends)}
    )


def a_box(design: Design, chance: random.Random) -> Design:
    one = chance.choice(design.ends)
    box = one.box.model_copy(update={"bump_mm": chance.uniform(50, 110), "droop_mm": chance.uniform(50, 110)})
    return design.model_copy(
        update={"ends": tuple(o.model_copy(update={"box": box}) if o.id == one.id else o for o in design.ends)}
    )


def the_car(design: Design, chance: random.Random) -> Design:
    change: dict[str, Any] = chance.choice(
        [{"cg_height_mm": chance.uniform(400, 600)}, {"brake_front_share": chance.uniform(0.5, 0.7)}, {"unsprung_front_kg": chance.uniform(40, 90)},
         {"front_rise_mm": chance.uniform(-15, 15)}, {"brakes_rear": "inboard"}, {"drive_rear": "inboard"}, {"wheelbase_mm": chance.uniform(2300, 2700)}]
    )  # fmt: skip
    return design.model_copy(update={"car": design.car.model_copy(update=change)})


def the_loads(design: Design, chance: random.Random) -> Design:
    cases = list(design.loads.cases)
    i = chance.randrange(len(cases))
    if chance.random() < 0.5:
        cases[i] = cases[i].model_copy(update={"vertical": chance.uniform(1.0, 4.0)})
    else:
        cases.append(
            CarCase(
                name=f"case {chance.random():.6f}", vertical=chance.uniform(1.0, 5.0), lateral=chance.uniform(-1, 1)
            )
        )
    return design.model_copy(update={"loads": LoadSet(name="t", cases=tuple(cases[-12:]))})


def a_link(design: Design, chance: random.Random) -> Design:
    link = chance.choice(design.of_kind(Link))
    change: dict[str, Any] = chance.choice(
        [{"bow_mm": chance.uniform(0.5, 4)}, {"cases": [{"name": "typed", "axial_n": -chance.uniform(100, 9000)}]}, {"school": "buried"},
         {"clocking_deg": chance.uniform(0, 40)}, {"side": "left"}, {"name": f"Link {chance.random():.5f}"}]
    )  # fmt: skip
    return replaced(design, of(link, **change))


def an_arm(design: Design, chance: random.Random) -> Design:
    arm = chance.choice(design.of_kind(Arm))
    change: dict[str, Any] = chance.choice(
        [{"brace_at": chance.uniform(0.4, 0.8)}, {"gusset": None}, {"pivot_face_mm": chance.uniform(18, 30)}]
    )
    return replaced(design, of(arm, **change))


def a_tab(design: Design, chance: random.Random) -> Design:
    tab = chance.choice(design.of_kind(TabPair))
    if chance.random() < 0.5:
        return replaced(design, of(tab, weld_leg_mm=chance.uniform(3, 8)))
    joint = design.held_by(tab.id)[0]
    joints = tuple(
        j.model_copy(update={"thread_in_plane": not j.thread_in_plane}) if j.id == joint.id else j
        for j in design.joints
    )
    return design.model_copy(update={"joints": joints})


def the_settings(design: Design, chance: random.Random) -> Design:
    factor = chance.choice(["yielding", "column", "strip", "joint", "tab_yield", "bolt", "weld"])
    factors = design.settings.factors.model_copy(update={factor: chance.uniform(1.2, 2.5)})
    change: dict[str, Any] = chance.choice(
        [
            {"factors": factors},
            {"electrode_uts_mpa": chance.uniform(400, 550)},
            {"weld_shrink_mm": chance.uniform(0, 1)},
        ]
    )
    return design.model_copy(update={"settings": design.settings.model_copy(update=change)})


def a_row(design: Design, chance: random.Random) -> Design:
    """The shop's tube is another than it was: same key, other wall."""
    tubes = list(design.catalogue.tubes)
    i = chance.randrange(len(tubes))
    tubes[i] = tubes[i].model_copy(update={"wall_mm": tubes[i].wall_mm * chance.uniform(0.9, 1.1)})
    return design.model_copy(update={"catalogue": design.catalogue.model_copy(update={"tubes": tuple(tubes)})})


EDITS: list[Edit] = [a_point, a_box, the_car, the_loads, a_link, an_arm, a_tab, the_settings, a_row]


def told(design: Design, memory: Memory) -> Any:
    job = Worked(design, the_shelf(), memory)
    found = {"evaluation": plain(evaluate(job)), "corners": plain(corners(job))}
    for end in job.design.ends:
        study = study_of(job, end.id, 0.0, 0.0)
        found[end.name] = plain([study.bump, study.droop, study.events, study.found.columns])
        found[f"{end.name} at"] = plain([side.solved.poses.r for side in solved_at(job, end.id, 20.0, 0.0, 0.0).sides])
    return found


def test_after_any_edits_a_job_from_memory_is_a_job_worked_out_anew() -> None:
    chance, memory, design = random.Random(1), Memory(), demo("marram")
    told(design, memory)
    states = [design]
    for edit in chance.sample(EDITS, len(EDITS)):
        design = edit(design, chance)
        states.append(design)
        assert differences(told(design, memory), told(design, Memory())) == [], edit.__name__
    # and back again: what was kept of the first is still its own
    assert differences(told(states[0], memory), told(states[0], Memory())) == []


@pytest.mark.parametrize("edit", [a_link, an_arm, a_tab])
def test_an_edit_of_one_part_works_no_load_out_again(edit: Edit, monkeypatch: pytest.MonkeyPatch) -> None:
    from tirante.core.loads import end_loads

    chance, memory, design = random.Random(5), Memory(), demo("marram")
    evaluate(Worked(design, the_shelf(), memory))

    def again(*_: Any, **__: Any) -> Any:
        raise AssertionError("the loads of an end do not depend on the part that was edited")

    monkeypatch.setattr(end_loads, "end_loads", again)
    assert evaluate(Worked(edit(design, chance), the_shelf(), memory)).parts


def test_a_heavier_car_is_not_moved_through_its_travel_again(monkeypatch: pytest.MonkeyPatch) -> None:
    from tirante.core.loads import travel

    memory, design = Memory(), demo("marram")
    evaluate(Worked(design, the_shelf(), memory))
    moved: list[str] = []
    before = travel.Swept.__init__
    monkeypatch.setattr(
        travel.Swept, "__init__", lambda self, *given: moved.append(given[1].end) or before(self, *given)
    )
    evaluate(
        Worked(
            design.model_copy(update={"car": design.car.model_copy(update={"unsprung_front_kg": 77.0})}),
            the_shelf(),
            memory,
        )
    )
    assert moved == []
    evaluate(Worked(a_point(design, random.Random(1)), the_shelf(), memory))
    assert len(moved) == 1  # the end whose point was moved, for its loads and its everyday loads alike


def test_five_who_ask_at_once_cost_one_and_a_fault_is_told_to_all_and_not_kept() -> None:
    memory, begun, answers = Memory(), [0], list[Any]()

    def slow() -> str:
        begun[0] += 1
        time.sleep(0.1)
        return "done"

    threads = [threading.Thread(target=lambda: answers.append(memory.get("t", "key", slow))) for _ in range(5)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert (begun[0], answers) == (1, ["done"] * 5)

    def fails() -> str:
        begun[0] += 1
        time.sleep(0.05)
        raise ValueError("once")

    def ask() -> None:
        try:
            memory.get("t", "other", fails)
        except ValueError as error:
            answers.append(str(error))

    threads = [threading.Thread(target=ask) for _ in range(3)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert answers[5:] == ["once"] * 3
    assert memory.get("t", "other", lambda: "well now") == "well now"


def test_what_is_kept_is_bounded_and_the_least_used_leaves_first() -> None:
    memory = Memory({"t": 3})
    for key in "abc":
        memory.get("t", key, lambda key=key: key.upper())
    memory.get("t", "a", lambda: "again")
    memory.get("t", "d", lambda: "D")
    assert [memory.known("t", key) for key in "abcd"] == ["A", None, "C", "D"]
    assert memory.known("other", "a") is None
    memory.forget()
    assert memory.known("t", "a") is None


@pytest.mark.parametrize("bump", [30.0, 110.0])
def test_an_end_that_may_move_less_is_moved_again_for_its_loads(bump: float) -> None:
    memory, design = Memory(), demo("marram")
    end = design.ends[0]
    met = Worked(design, the_shelf(), memory).carried(end.id).bump_mm
    assert 30.0 < met < 110.0  # where its stop is met, which less travel never comes to
    other = end.model_copy(update={"box": end.box.model_copy(update={"bump_mm": bump})})
    moved = design.model_copy(update={"ends": (other, *design.ends[1:])})
    kept, anew = (Worked(moved, the_shelf(), one).carried(end.id) for one in (memory, Memory()))
    assert (kept.bump_mm, kept.bump_by) == (anew.bump_mm, anew.bump_by)
    assert (kept.bump_mm < met - 1.0) == (bump < met)


def test_a_search_asks_before_each_that_it_tries_whether_anybody_waits_for_it() -> None:
    looks: list[int] = []
    job = Worked(demo("marram"), the_shelf(), Memory(pause=lambda: looks.append(1)))
    joint = next(one for one in job.design.joints if one.by is not None and job.held_end(one) is not None)
    held = job.held_end(joint)
    assert joint.by
    assert held
    for _ in range(2):  # the second time all that it depends on is known
        before = len(looks)
        job.refitted(joint.by, [joint], [held], job.catalogue)
    assert len(looks) - before == 1
