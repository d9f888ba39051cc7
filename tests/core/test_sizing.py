"""Size it: the lightest that passes, against trying everything."""

import pytest

from tests.jobs import built, links, shown, with_part, work
from tirante.core.document.catalogue import Catalogue
from tirante.core.document.design import Design
from tirante.core.document.fields import Length
from tirante.core.document.parts.common import CentreToCentre, LoadCase, RodEndEnd
from tirante.core.document.parts.link import Bent, FixedEnd, Link
from tirante.core.document.settings import Settings
from tirante.core.errors import InputError
from tirante.core.loads.case_seen import typed, worst_axial
from tirante.core.members.thread import parse_thread
from tirante.core.parts.link.assembly import Assembly, assemble, mass_of, stack_of
from tirante.core.parts.link.checks import link_checks
from tirante.core.parts.link.choose import choose, offers
from tirante.core.parts.link.kind import LINK
from tirante.core.parts.link.sizing import bearable_share, candidates, judge, size

ID = "0190a0a0-0000-7000-8000-000000000001"


def link(length: float = 600.0, *, axial: float = -12_000.0, strike: float = 0.0, **more: object) -> Link:
    cases = (LoadCase(name="push", axial_n=axial, strike_n=strike), LoadCase(name="pull", axial_n=-axial))
    return Link(id=ID, name="one", between=CentreToCentre(length=Length(mm=length)), cases=cases, **more)  # type: ignore[arg-type]


CASES = typed(link().cases)


@pytest.fixture(scope="module")
def shelf(catalogue: Catalogue) -> Catalogue:
    """A small shop: every fifth tube, three grades."""
    return catalogue.model_copy(update={"tubes": catalogue.tubes[::5], "grades": catalogue.grades[:4]})


@pytest.mark.parametrize(
    ("length", "axial", "strike"), [(600, -12_000, 0), (900, -30_000, 0), (700, -6000, 3500), (300, -45_000, 0)]
)
def test_winner_and_runner_up_are_those_of_judging_every_candidate(
    length: float, axial: float, strike: float, shelf: Catalogue
) -> None:
    wanted = link(length, axial=axial, strike=strike)
    settings = Settings()
    judged = [j for c in candidates(wanted, typed(wanted.cases), settings, shelf) if (j := judge(c, settings))]
    passing = sorted(j.candidate.mass for j in judged if j.passed)
    found = size(wanted, typed(wanted.cases), settings, shelf)
    assert found.winner is not None
    assert found.winner.passed
    assert [found.winner.candidate.mass, found.runner_up.candidate.mass if found.runner_up else None] == passing[:2]


def test_what_wins_passes_when_it_is_built(catalogue: Catalogue, marram: Design) -> None:
    found = size(link(), CASES, Settings(), catalogue)
    assert found.winner is not None
    design = Design(name="t", parts=(found.winner.candidate.link,), catalogue=catalogue)
    built = shown(found.winner.candidate.link, design)
    assert built.status in ("ok", "attention")
    assert built.mass_kg == pytest.approx(found.winner.candidate.mass)


def test_when_nothing_fits_the_nearest_and_what_would_clear_it_are_named(shelf: Catalogue) -> None:
    wanted = link(2500.0, axial=-400_000.0)
    found = size(wanted, typed(wanted.cases), Settings(), shelf)
    assert found.winner is None
    assert found.nearest is not None
    settings = Settings()
    everything = [
        j.utilisation for c in candidates(wanted, typed(wanted.cases), settings, shelf) if (j := judge(c, settings))
    ]
    assert found.nearest.utilisation == pytest.approx(min(everything))
    assert "binds" in found.advice
    # the share of the load it names really passes, and a little more does not
    share = bearable_share(found.nearest.candidate.assembly, settings)
    assert 0 < share < 1
    for factor, passes in ((share * 0.999, True), (share * 1.002, False)):
        again = judge(_scaled(found.nearest.candidate, factor), settings)
        assert again.passed is passes


def _scaled(candidate, share):  # type: ignore[no-untyped-def]
    from dataclasses import replace

    cases = tuple(case.scaled(share) for case in candidate.assembly.cases)
    return replace(candidate, assembly=replace(candidate.assembly, cases=cases))


def test_titanium_tube_gets_no_steel_insert(catalogue: Catalogue) -> None:
    for one in candidates(link(), typed(link().cases), Settings(), catalogue):
        for end in one.assembly.threaded:
            assert end.insert.family == one.assembly.grade.family


def test_fixed_ends_need_no_hardware(catalogue: Catalogue) -> None:
    sleeve = FixedEnd(what="sleeve", centre_to_face=Length(mm=25.0))
    found = size(link(end_a=sleeve, end_b=sleeve), typed(link(end_a=sleeve, end_b=sleeve).cases), Settings(), catalogue)
    assert found.winner is not None
    assert not found.winner.candidate.assembly.threaded


def test_without_a_load_there_is_nothing_to_size(catalogue: Catalogue) -> None:
    from tirante.core.errors import InputError

    with pytest.raises(InputError) as caught:
        size(link(axial=0.0), typed(link(axial=0.0).cases), Settings(), catalogue)
    assert caught.value.fields == ("cases",)


def test_the_cheapest_change_clears_the_governing_check(catalogue: Catalogue, marram: Design) -> None:
    design = marram
    heavy = links(design)[0].model_copy(
        update={
            "cases": tuple(
                c.model_copy(update={"axial_n": c.axial_n * 1.3, "strike_n": c.strike_n * 1.2})
                for c in links(design)[0].cases
            )
        }
    )
    before = shown(heavy, design)
    assert before.status == "stop"
    change = LINK.cheaper(heavy, work(with_part(design, heavy)), catalogue)
    assert change is not None
    assert all(check.passed for check in change.checks)
    after = next(c for c in change.checks if c.key == before.governing)
    assert after.utilisation <= 0.85  # type: ignore[operator]
    assert worst_axial(typed(heavy.cases)) > worst_axial(typed(links(design)[0].cases))


def test_a_shank_that_bottoms_is_cleared_by_centring_the_thread(catalogue: Catalogue, quay: Design) -> None:
    # what is tapped through does not bottom
    buried = links(quay)[0].model_copy(update={"school": "buried"})
    assert shown(buried, quay).governing != "engagement"
    centred = max(state.engagement or 0.0 for state in built(links(quay)[0], quay).stack.ends)
    change_to = {"open_back": "closed", "thread_depth_mm": centred + 0.5}
    closed = tuple(row.model_copy(update=change_to) for row in quay.catalogue.inserts)
    quay = quay.model_copy(update={"catalogue": quay.catalogue.model_copy(update={"inserts": closed})})
    assert shown(buried, quay).governing == "engagement"
    change = LINK.cheaper(buried, work(quay), catalogue)
    assert change is not None
    assert change.changed == ("thread showing",)
    assert change.choice.parts[0].tube == buried.tube


def tapped(**more: object) -> Link:
    return link(
        end_a=RodEndEnd(hand="RH", tapped_mm=40.0),
        end_b=RodEndEnd(hand="LH", tapped_mm=40.0),
        **more,  # type: ignore[arg-type]
    )


def test_what_is_offered_for_a_tapped_tube_can_be_tapped_and_nothing_that_can_is_left_out(catalogue: Catalogue) -> None:
    # by the thread's own sizes: ISO and unified internal minor diameter D − 1.0825 p
    pairs = {
        (tube.key, joint.key)
        for tube in catalogue.tubes for joint in catalogue.joints
        if tube.bore_mm <= (thread := parse_thread(joint.designation)).major - 1.082532 * thread.pitch and tube.od_mm > thread.major + 2
    }  # fmt: skip
    offered = offers(tapped(), catalogue)
    assert set(offered["tube"]) == {tube for tube, _ in pairs}
    assert pairs
    for key in offered["tube"]:
        chosen = choose(tapped(), "tube", key, catalogue)
        grades = offers(chosen, catalogue)["grade"]
        chosen = choose(chosen, "grade", grades[0], catalogue)
        joints = offers(chosen, catalogue)["end_a.joint"]
        assert set(joints) == {joint for tube, joint in pairs if tube == key}
        for joint in joints:
            made = choose(chosen, "ends.joint", joint, catalogue)
            assert made.end_a.insert is None  # type: ignore[union-attr]
            assert made.end_a.nut is not None  # type: ignore[union-attr]
            assert isinstance(assemble(made, catalogue, CASES), Assembly), (key, joint)


def test_a_tapped_tube_is_sized_as_trying_every_tube_and_thread_would(catalogue: Catalogue) -> None:
    few = catalogue.model_copy(update={"grades": catalogue.grades[:3]})
    passing = []
    for tube in few.tubes:
        for grade in few.grades:
            for joint in few.joints:
                for nut in few.nuts:
                    update = {"joint": joint.key, "nut": nut.key}
                    ends = {name: getattr(tapped(), name).model_copy(update=update) for name in ("end_a", "end_b")}
                    one = tapped().model_copy(update={"tube": tube.key, "grade": grade.key, **ends})
                    thread = parse_thread(joint.designation)
                    if (
                        nut.designation != joint.designation
                        or tube.bore_mm > thread.minor_internal
                        or tube.od_mm <= thread.major + 2
                    ):
                        continue
                    made = assemble(one, few, CASES)
                    if not isinstance(made, Assembly):
                        continue
                    try:
                        stack = stack_of(made, Settings())
                    except InputError:
                        continue
                    if all(check.passed for check in link_checks(made, stack, Settings())):
                        passing.append(mass_of(made, stack).total)
    found = size(tapped(), CASES, Settings(), few)
    assert found.winner is not None
    assert found.runner_up is not None
    won = found.winner.candidate
    assert [won.mass, found.runner_up.candidate.mass] == pytest.approx(sorted(passing)[:2])
    assert won.link.end_a.insert is None  # type: ignore[union-attr]
    assert won.link.end_a.tapped_mm == 40.0  # type: ignore[union-attr]
    assert {end.insert.uts_mpa for end in won.assembly.threaded} == {won.assembly.grade.uts_mpa}


def test_a_bent_link_is_sized_on_the_bend_of_each_tube(catalogue: Catalogue) -> None:
    # the bender's radius is three diameters: thicker tubes need more room, and are sawn shorter
    bent = link(400.0, axial=-3_000.0, bent=Bent(offset=Length(mm=40.0), from_ends=Length(mm=150.0)))
    found = size(bent, typed(bent.cases), Settings(), catalogue)
    assert found.winner is not None
    for judged in (found.winner, found.runner_up):
        assert judged is not None
        one = judged.candidate
        made = assemble(one.link, catalogue, typed(bent.cases))
        assert isinstance(made, Assembly)
        stack = stack_of(made, Settings())
        assert one.mass == pytest.approx(mass_of(made, stack).total)
        assert made.bend is not None
        assert made.bend.radius == pytest.approx(3 * one.assembly.tube.od_mm)
    pool = candidates(bent, typed(bent.cases), Settings(), catalogue)
    for one in pool[::25]:  # each by its own tube: what another tube's bend leaves of the length is not its own
        assert one.mass == pytest.approx(mass_of(one.assembly, stack_of(one.assembly, Settings())).total, rel=1e-12)
    masses = [c.mass for c in pool]
    straight = [c.mass for c in candidates(link(400.0, axial=-3_000.0), CASES, Settings(), catalogue)]
    assert 0 < len(masses) < len(straight)  # what cannot be bent so is not a candidate
