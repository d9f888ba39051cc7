"""A printed sheet of a part: what holds of it when loads, metal or issues have changed since."""

from __future__ import annotations

from dataclasses import replace

from tests.core.test_loads import demo
from tests.core.test_plate_jig import with_jig
from tests.jobs import work
from tirante.core.document.design import Design
from tirante.core.job.changes import _with_judgement
from tirante.core.job.evaluate import part_out
from tirante.core.job.of_end import is_of
from tirante.core.job.still_so import Printed, still_so
from tirante.core.loads.case_seen import NotCarried

BEFORE = work(demo("marram"))
LINK = next(part for part in BEFORE.parts if part.name == "Rear lower link")


def sheet(**more: object) -> Printed:
    return Printed(**{"part_id": LINK.id, "number": 4, "issued": True, "metal": LINK.metal, **more})  # type: ignore[arg-type]


def rougher(design: Design, factor: float) -> Design:
    """Every load case of the job so many times as hard: no part is cut otherwise."""
    cases = tuple(one.model_copy(update={"vertical": factor * one.vertical}) for one in design.loads.cases)
    return design.model_copy(update={"loads": design.loads.model_copy(update={"cases": cases})})


def test_a_part_that_does_not_hold_any_more_is_not_to_be_worked_to_though_its_metal_is_the_same() -> None:
    """Every case is four times as hard: the sheet is as it was, and the link on it would bend."""
    heavy = work(rougher(demo("marram"), 4.0))
    now = heavy.part(LINK.id)
    assert now is not None
    assert now.metal == LINK.metal
    assert part_out(LINK, BEFORE).status != "stop"
    assert part_out(now, heavy).status == "stop"
    for newer, says in (
        (None, "The job was changed since"),
        ((6, heavy), "Out of date: rev 6 is issued since. What was made fits. But"),
    ):
        found = still_so(sheet(), BEFORE, newer, heavy)
        assert found is not None
        assert not found.current
        assert says in found.lines[0]
        assert "does not hold now" in found.lines[0]
    # one that was printed when it did not hold says so on its own sheet already
    late = still_so(sheet(metal=now.metal), heavy, None, heavy)
    assert late is not None
    assert late.current
    assert late.lines == ("The part is as it was printed, and is judged as it was.",)


def test_a_part_that_is_judged_the_same_and_is_the_same_may_be_worked_to() -> None:
    found = still_so(sheet(), BEFORE, (5, BEFORE), BEFORE)
    assert found is not None
    assert (found.current, found.lines, found.differs) == (
        True,
        ("rev 5 is issued since; this part is the same in it.",),
        None,
    )
    assert still_so(sheet(part_id="0190a000-0000-7000-8000-0000000000ff"), BEFORE, None, BEFORE) is None


def test_every_member_bracket_and_jig_of_a_car_is_of_one_of_its_ends() -> None:
    for name in ("marram", "tern", "quay"):
        job = work(demo(name))
        for part in job.parts:
            owners = [end.name for end in job.design.ends if is_of(job, part.saved, end.id)]
            if part.saved.of_end is not None or any(joint.by == part.id for joint in job.design.joints):
                assert len(owners) == 1, (part.name, owners)
            if part.name.startswith(("Front", "Rear")) and len(job.design.ends) == 2:
                assert owners == [part.name.split()[0]], part.name


def test_a_part_that_was_judged_in_every_case_and_is_not_now_holds_no_longer() -> None:
    """And one that was not judged in a case when it was printed said so itself."""
    lacking = replace(LINK, not_carried=(NotCarried(case="corner 0.9 g", why="its inner wheel leaves the ground"),))
    found = _with_judgement(None, LINK, lacking)
    assert found is not None
    assert (found.holds, found.verdict) == (False, "fits")
    assert found.says == "What was made fits. But it is not judged in “corner 0.9 g”."
    assert _with_judgement(None, lacking, lacking) is None
    assert _with_judgement(None, LINK, LINK) is None


def test_the_jig_of_a_front_arm_is_the_front_s() -> None:
    job, jig, _ = with_jig("marram", "Front lower arm")
    assert [end.name for end in job.design.ends if is_of(job, jig.saved, end.id)] == ["Front"]
