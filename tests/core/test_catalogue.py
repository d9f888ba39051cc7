"""The shipped catalogue, what fits what, and reading CSV."""

import pytest

from tests.jobs import links
from tirante.core.document.adopt import adopted, patched
from tirante.core.document.catalogue import (
    KINDS,
    ROW_MODELS,
    Catalogue,
    Table,
    grade_comes_as,
    read_csv,
    same_thread,
    write_csv,
)
from tirante.core.document.design import Design
from tirante.core.document.parts.common import RodEndEnd
from tirante.core.document.parts.link import Link
from tirante.core.errors import InputError
from tirante.core.loads.case_seen import CaseSeen
from tirante.core.parts.link.assembly import Assembly, assemble
from tirante.core.parts.link.choose import choose, offers
from tirante.core.parts.part import Misfit

CASES = (CaseSeen(name="push", axial_n=-9000.0),)


@pytest.mark.parametrize("kind", KINDS)
def test_every_row_names_its_source_and_comes_back_from_csv(kind: Table, catalogue: Catalogue) -> None:
    rows = catalogue.rows(kind)
    assert rows
    assert all(len(row.source) > 10 for row in rows)
    assert tuple(read_csv(kind, write_csv(kind, rows))) == rows


def test_light_metals_are_offered_in_no_size_that_nobody_stocks(catalogue: Catalogue) -> None:
    """Common practice, no source: titanium to 3.05 mm of wall and 38.1 mm across, aluminium to 6.35 and 76.2."""
    most = {"titanium": (38.1, 3.05), "aluminium": (76.2, 6.35)}
    for family, (across, wall) in most.items():
        grades = [grade for grade in catalogue.grades if grade.family == family]
        assert grades
        for grade in grades:
            drawn = [tube for tube in catalogue.tubes if grade_comes_as(grade, tube)]
            assert max(tube.od_mm for tube in drawn) <= across + 1e-9
            assert max(tube.wall_mm for tube in drawn) <= wall + 1e-9
            # and in every other of its series
            own = [t for t in catalogue.tubes if grade.series in ("both", t.series) or t.series == "both"]
            assert len(drawn) == sum(t.od_mm <= across + 1e-9 and t.wall_mm <= wall + 1e-9 for t in own)


def test_tubes_cover_the_inch_and_metric_ranges(catalogue: Catalogue) -> None:
    inch = [t for t in catalogue.tubes if t.series == "inch"]
    assert min(t.od_mm for t in inch) == pytest.approx(19.05)
    assert max(t.od_mm for t in inch) == pytest.approx(63.5)
    assert any(t.series == "metric" for t in catalogue.tubes)


def test_every_joint_finds_an_insert_a_nut_and_a_bolt(catalogue: Catalogue) -> None:
    for joint in catalogue.joints:
        assert any(same_thread(joint.designation, i.designation) for i in catalogue.inserts), joint.key
        assert any(same_thread(joint.designation, n.designation) for n in catalogue.nuts), joint.key
        assert any(0 <= joint.bore_mm - b.diameter_mm <= 0.15 for b in catalogue.bolts), joint.key


def test_whatever_is_offered_goes_together(catalogue: Catalogue, marram: Design) -> None:
    # walk the whole road for many tubes; whatever comes out assembles without a misfit
    link = links(marram)[0]
    walked = 0
    for tube in offers(link, catalogue)["tube"][::9]:
        at_tube = choose(link, "tube", tube, catalogue)
        for grade in offers(at_tube, catalogue)["grade"]:
            at_grade = choose(at_tube, "grade", grade, catalogue)
            for joint in offers(at_grade, catalogue)["end_a.joint"]:
                chosen = choose(at_grade, "ends.joint", joint, catalogue)
                found = assemble(chosen, catalogue, CASES)
                assert isinstance(found, Assembly), found
                walked += 1
    assert walked > 60


def test_what_does_not_fit_is_never_offered(catalogue: Catalogue, marram: Design) -> None:
    link = links(marram)[0]
    offered = offers(link, catalogue)
    for field, kind in (("end_a.joint", "joints"), ("end_a.insert", "inserts"), ("end_a.nut", "nuts")):
        leaf = field.split(".")[1]
        assert offered[field]
        for row in catalogue.rows(kind):  # type: ignore[arg-type]
            if row.key in offered[field] or leaf == "joint":
                continue
            end = link.end_a.model_copy(update={leaf: row.key})
            faults = assemble(link.model_copy(update={"end_a": end}), catalogue, CASES)
            assert isinstance(faults, list), f"{row.key} fits and is not offered"
            assert any(fault.field == field for fault in faults)


def test_a_part_that_does_not_fit_is_refused_and_nothing_changes(catalogue: Catalogue, marram: Design) -> None:
    with pytest.raises(InputError) as caught:
        choose(links(marram)[0], "end_a.insert", "insert-3_8-24-bore-15.748", catalogue)
    assert caught.value.code == "does_not_fit"
    with pytest.raises(InputError):
        choose(links(marram)[0], "end_c.insert", "x", catalogue)


def test_a_left_hand_end_takes_no_right_hand_part(catalogue: Catalogue, marram: Design) -> None:
    joint = catalogue.joints[4].model_copy(update={"key": "only-rh", "hands": "RH"})
    widened = catalogue.model_copy(update={"joints": (*catalogue.joints, joint)})
    offered = offers(links(marram)[0], widened)
    assert "only-rh" not in offered["end_b.joint"]
    end = links(marram)[0].end_b
    assert isinstance(end, RodEndEnd)
    forced = links(marram)[0].model_copy(update={"end_b": end.model_copy(update={"joint": "only-rh"})})
    faults = assemble(forced, widened, CASES)
    assert isinstance(faults, list)
    assert Misfit(field="end_b.joint", message=f"{joint.label} is not made LH.") in faults


def test_another_tube_brings_inserts_that_fit_its_bore(catalogue: Catalogue, marram: Design) -> None:
    link = links(marram)[0]
    other = next(t for t in catalogue.tubes if t.series == "inch" and abs(t.od_mm - 50.8) < 0.1 and t.wall_mm > 6)
    changed = choose(link, "tube", other.key, catalogue)
    found = assemble(changed, catalogue, CASES)
    assert isinstance(found, Assembly), found
    assert found.ends[0].insert.key != link.end_a.insert  # type: ignore[union-attr]
    assert found.ends[0].joint.key == link.end_a.joint  # type: ignore[union-attr]


def test_a_design_keeps_its_rows_when_the_catalogue_is_edited(catalogue: Catalogue, marram: Design) -> None:
    grade = marram.catalogue.grades[0]
    weaker = grade.model_copy(update={"yield_mpa": grade.yield_mpa / 2, "welded_yield_mpa": grade.yield_mpa / 3})
    edited = catalogue.model_copy(update={"grades": (weaker, *[g for g in catalogue.grades if g.key != grade.key])})
    renamed = patched(marram, adopted(marram, [links(marram)[0].model_copy(update={"note": "x"})], edited))
    assert renamed.catalogue.find("grades", grade.key) == grade
    assert grade.hash != weaker.hash
    # nor does another part that takes the row by its key change it behind the backs of those that have it: it is told
    new = Link(id="00000000-0000-4000-8000-0000000000aa", name="new", between=links(marram)[0].between, grade=grade.key)
    taken = adopted(marram, [new], edited)
    assert patched(marram, taken).catalogue.find("grades", grade.key) == grade
    assert [grade.label in told for told in taken.told] == [True]


def test_bad_rows_are_all_named_by_line_and_field_and_nothing_is_read() -> None:
    text = (
        "# shop's own tubes\n"
        "od_mm,key,label,wall_mm,series,source\n"
        "30,t1,ok,2,metric,from the rack\n"
        "30,t2,wall too thick,15,metric,from the rack\n"
        "\n"
        "x,t3,no number,2,metric,from the rack\n"
        "30,t1,twice,2,metric,from the rack\n"
        "30,t5,inch?,2,imperial,from the rack\n"
        "30,t6,too few\n"
        "nan,t7,not a number,2,metric,from the rack\n"
    )
    with pytest.raises(InputError) as caught:
        read_csv("tubes", text)
    assert [f.split(",")[0] for f in caught.value.fields] == [
        "line 4",
        "line 6",
        "line 7",
        "line 8",
        "line 9",
        "line 10",
    ]
    assert "line 6, od_mm" in caught.value.fields
    assert "line 7, key" in caught.value.fields
    assert len(caught.value.value) == 6  # type: ignore[arg-type]


@pytest.mark.parametrize(
    "text", ["", "a,b\n1,2\n", "key\n", "od_mm,od_mm,key,label,wall_mm,series,source\n", 'key,label\n"unclosed']
)
def test_a_file_that_is_not_the_table_says_what_column_is_wrong(text: str) -> None:
    with pytest.raises(InputError) as caught:
        read_csv("tubes", text)
    assert caught.value.code == "bad_rows"


def test_row_models_cover_every_kind() -> None:
    assert set(ROW_MODELS) == set(KINDS)


def test_an_unsized_link_is_offered_every_tube(catalogue: Catalogue, marram: Design) -> None:
    bare = Link(id=links(marram)[0].id, name="bare", between=links(marram)[0].between)
    assert len(offers(bare, catalogue)["tube"]) == len(catalogue.tubes)
    assert offers(bare, catalogue)["grade"] == []
