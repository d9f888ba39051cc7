"""One thing wrong at a time: a part that goes together is refused at the field that was spoilt, at that alone, and says what is wrong."""

from __future__ import annotations

import math
from typing import Any

import pytest

from tests.golden.test_pins import shelf, shop
from tests.jobs import built, draw, faults, links, part_of, with_joint, work
from tirante.core.document.adopt import adopted, patched
from tirante.core.document.catalogue import Joint, Tube, bolt_fits, pin_hole, same_thread, spacer_fits
from tirante.core.document.design import Design
from tirante.core.document.parts.arm import Arm
from tirante.core.document.parts.bracket import TabPair
from tirante.core.document.parts.link import Link
from tirante.core.drawing.sheet import Numbers
from tirante.core.errors import InputError
from tirante.core.parts.bracket.families.tab_sizing import bolts_for
from tirante.core.parts.kind import ViewAsked
from tirante.core.parts.link.assembly import tapped_insert
from tirante.core.parts.registry import kind_of

ROWS = shelf()


def whole() -> Design:
    """Marram's job with every row of the shop's catalogue, so that any may be chosen."""
    design = shop()
    return design.model_copy(update={"catalogue": ROWS})


def changed(link: Link, **change: Any) -> Link:
    return Link.model_validate(link.model_dump(mode="json") | change, strict=False)


def end_of(link: Link, **change: Any) -> dict[str, Any]:
    return link.end_a.model_dump(mode="json") | change


def other(table: str, key: str, differs: Any) -> str:
    """A row of the catalogue that differs from one in what is asked."""
    here = ROWS.find(table, key)  # type: ignore[arg-type]
    return next(row.key for row in ROWS.rows(table) if differs(here, row))  # type: ignore[arg-type]


def spoilt(link: Link) -> list[tuple[str, Link, str]]:
    """What is wrong, the link with it, the field that is to say so."""
    a = link.end_a
    assert a.kind == "rod_end"
    assert a.insert
    assert a.nut
    assert a.joint
    assert link.grade

    def threads(x: Any, y: Any) -> bool:
        return not same_thread(x.designation, y.designation)

    return [
        ("no tube", changed(link, tube=None), "tube"),
        ("no grade", changed(link, grade=None), "grade"),
        ("no nut", changed(link, end_a=end_of(link, nut=None)), "end_a.nut"),
        ("no insert", changed(link, end_a=end_of(link, insert=None)), "end_a.insert"),
        ("no joint", changed(link, end_a=end_of(link, joint=None)), "end_a.joint"),
        ("a nut of another thread", changed(link, end_a=end_of(link, nut=other("nuts", a.nut, threads))), "end_a.nut"),
        ("an insert of another thread", changed(link, end_a=end_of(link, insert=other("inserts", a.insert, lambda x, y: threads(x, y) and x.fit_diameter_mm == y.fit_diameter_mm))), "end_a.insert"),
        ("an insert that does not fit the bore", changed(link, end_a=end_of(link, insert=other("inserts", a.insert, lambda x, y: not threads(x, y) and x.family == y.family and abs(x.fit_diameter_mm - y.fit_diameter_mm) > 3))), "end_a.insert"),
        ("a hole smaller than its pin", changed(link, end_b=machined(pin_mm=14.0, hole_mm=12.0)), "end_b.machined.hole_mm"),
        ("a hole as wide as the end", changed(link, end_b=machined(width_mm=12.0)), "end_b.machined.width_mm"),
        ("a hole that breaks out", changed(link, end_b=machined(edge_mm=5.0)), "end_b.machined.edge_mm"),
    ]  # fmt: skip


def machined(**change: Any) -> dict[str, Any]:
    made = {"form": "eye", "thickness_mm": 20.0, "width_mm": 40.0, "hole_mm": 12.2, "pin_mm": 12.0, "edge_mm": 26.0}
    return {"kind": "fixed", "what": "eye", "centre_to_face": {"mm": 25.0}, "machined": made | change}


DESIGN = whole()
LINK = links(DESIGN)[0]


@pytest.mark.parametrize(("what", "link", "field"), spoilt(LINK), ids=[what for what, _, _ in spoilt(LINK)])
def test_what_is_wrong_with_a_link_is_said_at_its_own_field_alone(what: str, link: Link, field: str) -> None:
    assert faults(LINK, DESIGN) == []
    found = faults(link, DESIGN)
    assert [fault.field for fault in found] == [field], what
    assert len(found[0].message) > 15
    assert not part_of(link, DESIGN).pieces


@pytest.mark.parametrize("spare", [1.0, 30.0])
def test_a_bend_must_leave_the_ends_of_the_tube_straight(spare: float) -> None:
    length = LINK.between.mm
    near = changed(LINK, bent={"offset": {"mm": 20.0}, "from_ends": {"mm": spare}})
    assert [fault.field for fault in faults(near, DESIGN)] == ["bent.from_ends"]
    # nor in what is let into the tube and a diameter of it for the weld, or what the bender holds; a little after that it may be
    made = built(LINK, DESIGN)
    state, end, od = made.stack.ends[0], made.assembly.threaded[0], made.assembly.tube.od_mm
    needed = max(end.insert.thread_depth_mm - end.insert.shoulder_mm + od, 2 * od)
    for past, field in ((-1.0, ["bent.from_ends"]), (1.0, [])):
        along = state.face_from_centre + needed + past
        for _ in range(30):  # the arc on three diameters begins before the corner
            tangent = 3 * od * math.tan(math.atan2(20.0, along) / 2)
            along = ((state.face_from_centre + needed + past + tangent) ** 2 - 20.0**2) ** 0.5
        bent = changed(LINK, bent={"offset": {"mm": 20.0}, "from_ends": {"mm": along}})
        assert [fault.field for fault in faults(bent, DESIGN)] == field, past
    good = changed(LINK, bent={"offset": {"mm": 20.0}, "from_ends": {"mm": length / 3}})
    assert faults(good, DESIGN) == []
    assert draw(good, DESIGN, "drawing", Numbers()).items


@pytest.mark.parametrize("place", [62.0, 778.0])
def test_a_splice_must_be_where_there_is_tube_on_both_sides_of_it(place: float) -> None:
    splice = {"at": {"mm": place}, "length": {"mm": 120.0}, "wall_mm": 4.0}
    found = faults(changed(LINK, splice=splice), DESIGN)
    assert found
    assert {fault.field.split(".")[0] for fault in found} == {"splice"}
    assert faults(changed(LINK, splice=splice | {"at": {"mm": LINK.between.mm / 2}}), DESIGN) == []


def test_a_tapped_tube_is_its_own_insert_of_its_own_metal() -> None:
    tube = next(row for row in ROWS.tubes if row.od_mm > 25)
    grade, joint = ROWS.grades[0], ROWS.joints[3]
    made = tapped_insert(joint, tube, grade, 37.0)
    assert (made.thread_depth_mm, made.shoulder_mm) == (37.0, 0.0)
    assert (made.uts_mpa, made.yield_mpa, made.family) == (grade.uts_mpa, grade.yield_mpa, grade.family)
    assert (made.fit_diameter_mm, made.shoulder_diameter_mm, made.designation) == (
        tube.od_mm,
        tube.od_mm,
        joint.designation,
    )


# --- brackets ----------------------------------------------------------------------------------------------------------


def the_tab() -> tuple[TabPair, Joint]:
    tab = DESIGN.of_kind(TabPair)[0]
    row = work(DESIGN).held_end(DESIGN.held_by(tab.id)[0])
    assert row
    return tab, row.row


def test_only_bolts_that_go_through_ball_or_spacer_are_offered() -> None:
    for joint in ROWS.joints:
        for spacer in (None, *ROWS.spacers):
            found = {bolt.key for bolt in bolts_for(joint, spacer, ROWS)}
            if spacer is not None and abs(spacer.ball_bore_mm - joint.bore_mm) > 0.05:
                assert found == set(), (joint.key, spacer.key)
                continue
            hole = spacer.bolt_mm if spacer else joint.bore_mm
            assert pin_hole(joint, spacer) == hole
            assert found == {bolt.key for bolt in ROWS.bolts if bolt_fits(bolt.diameter_mm, hole)}
            assert all(0 <= hole - bolt.diameter_mm <= 0.3 for bolt in ROWS.bolts if bolt.key in found)


def test_what_is_wrong_at_a_joint_is_said_at_the_bracket_s_own_field() -> None:
    tab, row = the_tab()
    joint = DESIGN.held_by(tab.id)[0]
    assert faults(tab, DESIGN) == []

    def wrong(**change: Any) -> list[str]:
        return [fault.field for fault in faults(tab, with_joint(DESIGN, joint, **change))]

    assert wrong(bolt=None) == ["bolt"]
    thin = next(
        bolt.key
        for bolt in ROWS.bolts
        if not bolt_fits(bolt.diameter_mm, row.bore_mm) and bolt.diameter_mm < row.bore_mm
    )
    assert "bolt" in wrong(bolt=thin, spacer=None)
    misfit = next(spacer.key for spacer in ROWS.spacers if not spacer_fits(spacer, row))
    assert "spacer" in wrong(spacer=misfit)
    assert [
        f.field
        for f in faults(
            TabPair.model_validate(tab.model_dump(mode="json") | {"hole": {"mm": 4.0}}, strict=False), DESIGN
        )
    ] == ["hole"]


def test_a_joint_s_offers_are_the_bolts_and_spacers_that_fit_what_it_holds() -> None:
    tab, row = the_tab()
    joint = DESIGN.held_by(tab.id)[0]
    offered = kind_of(tab).offers(tab, work(DESIGN), ROWS)
    spacer = ROWS.find("spacers", joint.spacer) if joint.spacer else None
    assert set(offered["bolt"]) == {bolt.key for bolt in bolts_for(row, spacer, ROWS)}  # type: ignore[arg-type]
    assert set(offered["spacer"]) == {one.key for one in ROWS.spacers if spacer_fits(one, row)}


def test_choosing_a_tube_brings_the_rest_of_the_link_along_or_leaves_it_to_be_chosen() -> None:
    fitting = kind_of(LINK).offers(LINK, work(DESIGN), ROWS)["tube"]
    for key in fitting[::40]:
        found = kind_of(LINK).choose(LINK, "tube", key, work(DESIGN), ROWS)
        made = found.parts[0]
        assert isinstance(made, Link)
        assert made.tube == key
        tube = ROWS.find("tubes", key)
        assert isinstance(tube, Tube)
        after = patched(DESIGN, adopted(DESIGN, [made], ROWS))
        # whatever is left chosen goes together; what does not is empty, and asked for
        assert all("No " in fault.message for fault in faults(made, after)), faults(made, after)


def test_a_row_chosen_for_a_pivot_of_an_arm_is_in_its_end_and_nowhere_else() -> None:
    arm = DESIGN.of_kind(Arm)[0]
    job, kind = work(DESIGN), kind_of(arm)
    offered = kind.offers(arm, job, ROWS)
    for leaf in ("joint", "insert", "nut"):
        key = offered[f"pivot_end.{leaf}"][-1]
        made = kind.choose(arm, f"pivot_end.{leaf}", key, job, ROWS).parts[0]
        assert isinstance(made, Arm)
        assert getattr(made.pivot_end, leaf) == key
        assert made.model_copy(update={"pivot_end": arm.pivot_end}) == arm
        assert made.pivot_end.model_copy(update={leaf: getattr(arm.pivot_end, leaf)}) == arm.pivot_end
    with pytest.raises(InputError):
        kind.choose(arm, "pivot_end.joint", "no-such-row", job, ROWS)


def test_a_row_chosen_for_a_bracket_s_joint_goes_to_the_joint_and_the_bracket_stays() -> None:
    tab, row = the_tab()
    job, kind = work(DESIGN), kind_of(tab)
    before = DESIGN.held_by(tab.id)[0]
    key = next(key for key in kind.offers(tab, job, ROWS)["bolt"] if key != before.bolt)
    found = kind.choose(tab, "bolt", key, job, ROWS)
    changed_joints = {joint.id: joint for joint in found.joints}
    assert changed_joints[before.id].bolt == key
    assert changed_joints[before.id].spacer == before.spacer
    after = DESIGN.model_copy(update={"joints": tuple(changed_joints.get(j.id, j) for j in DESIGN.joints)})
    assert faults(tab, after) == []
    spacers = kind.offers(tab, job, ROWS)["spacer"]
    if spacers:
        with_spacer = {joint.id: joint for joint in kind.choose(tab, "spacer", spacers[0], job, ROWS).joints}[before.id]
        assert with_spacer.spacer == spacers[0]
        # a bolt that does not go through the spacer is not kept
        spacer = ROWS.find("spacers", spacers[0])
        kept = ROWS.find("bolts", with_spacer.bolt) if with_spacer.bolt else None
        assert kept is None or bolt_fits(kept.diameter_mm, pin_hole(row, spacer))  # type: ignore[arg-type, union-attr]


def test_a_view_that_a_part_has_not_is_refused_by_name() -> None:
    for part in (LINK, DESIGN.of_kind(Arm)[0], the_tab()[0]):
        with pytest.raises(InputError, match="no such view") as caught:
            kind_of(part).draw(part_of(part, DESIGN), ViewAsked(name="no such view"), Numbers())
        assert (caught.value.code, caught.value.fields) == ("no_view", ("view",))


def test_a_spacer_that_takes_a_smaller_bolt_asks_for_a_smaller_hole_in_the_bracket() -> None:
    tab, row = the_tab()
    job, kind = work(DESIGN), kind_of(tab)
    offered = [ROWS.find("spacers", key) for key in kind.offers(tab, job, ROWS)["spacer"]]
    reducing = [one for one in offered if one is not None and one.bolt_mm < row.bore_mm - 1.0]  # type: ignore[union-attr]
    assert reducing
    found = kind.choose(tab, "spacer", reducing[0].key, job, ROWS)
    made = found.parts[0]
    assert isinstance(made, TabPair)
    bolt = ROWS.find("bolts", found.joints[0].bolt or "")
    assert bolt is not None
    assert bolt_fits(bolt.diameter_mm, reducing[0].bolt_mm)  # type: ignore[union-attr]
    assert bolt.diameter_mm <= made.hole.mm < tab.hole.mm  # type: ignore[union-attr]
    # everything else of the bracket that a bolt has no say in stays
    assert (made.plate, made.base, made.weld_leg_mm, made.grade_name) == (
        tab.plate,
        tab.base,
        tab.weld_leg_mm,
        tab.grade_name,
    )
