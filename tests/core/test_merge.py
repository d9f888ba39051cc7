"""Two people's drafts of one job put together: nothing of either is lost, and what both changed is asked about."""

from __future__ import annotations

from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from tests.jobs import links, with_part
from tirante.core.document.design import Design
from tirante.core.document.fields import Length
from tirante.core.document.merge import GONE, merge
from tirante.core.document.parts.common import CentreToCentre
from tirante.core.job.clashes import clash_told, way_told

VALUES = st.one_of(st.integers(0, 3), st.none(), st.booleans(), st.sampled_from(["a", "b"]))
ROWS = st.lists(
    st.builds(lambda i, of: {"id": i, **of}, st.sampled_from("pqrs"), st.dictionaries(st.sampled_from("xy"), VALUES)), max_size=4,
    unique_by=lambda row: row["id"],
)  # fmt: skip
DOCUMENTS = st.fixed_dictionaries({"n": VALUES, "at": st.fixed_dictionaries({"u": VALUES, "v": VALUES}), "rows": ROWS})


def plain(document: dict[str, Any]) -> dict[str, Any]:
    """With rows by id, since their order is nobody's."""
    return {**document, "rows": {row["id"]: row for row in document["rows"]}}


@settings(deadline=None)
@given(DOCUMENTS, DOCUMENTS)
def test_what_one_alone_changed_is_taken_whole(base: dict[str, Any], one: dict[str, Any]) -> None:
    assert plain(merge(base, one, base).design) == plain(one)
    assert plain(merge(base, base, one).design) == plain(one)
    assert plain(merge(base, one, one).design) == plain(one)
    assert merge(base, one, base).clashes == ()


@settings(deadline=None)
@given(DOCUMENTS, DOCUMENTS, DOCUMENTS)
def test_all_taken_one_way_leaves_no_clash_of_the_other_and_both_ways_name_the_same(
    base: dict[str, Any], mine: dict[str, Any], theirs: dict[str, Any]
) -> None:
    found = merge(base, mine, theirs)
    other = merge(base, theirs, mine)
    assert {clash.key for clash in found.clashes} == {clash.key for clash in other.clashes}
    turned = merge(base, mine, theirs, {clash.key: "mine" for clash in found.clashes})
    # taking mine at every clash is what the other calls theirs
    assert plain(turned.design) == plain(other.design)
    for clash in found.clashes:
        assert not (clash.mine == clash.base or clash.theirs == clash.base or clash.mine == clash.theirs) or GONE in (
            clash.mine,
            clash.theirs,
            clash.base,
        )


def dumped(design: Design) -> dict[str, Any]:
    found: dict[str, Any] = design.model_dump(mode="json")
    return found


def test_two_fields_of_one_link_go_together_and_one_field_is_asked_about(marram: Design) -> None:
    link = next(one for one in links(marram) if one.name == "Panhard rod")
    noted = with_part(marram, link.model_copy(update={"note": "second hand"}))
    sided = with_part(marram, link.model_copy(update={"name": "Track rod"}))
    found = merge(dumped(marram), dumped(noted), dumped(sided))
    assert found.clashes == ()
    both = Design.model_validate(found.design, strict=False)
    part = both.part(link.id)
    assert part
    assert (part.name, part.note) == ("Track rod", "second hand")
    assert [way_told(way, (sided, noted)) for way in found.mine] == ["Track rod: Note"]
    other = with_part(marram, link.model_copy(update={"name": "Cross rod"}))
    (clash,) = merge(dumped(marram), dumped(sided), dumped(other)).clashes
    told = clash_told(clash, (other, sided))
    assert (told.field, told.base, told.mine, told.theirs) == ("Name", "Panhard rod", "Track rod", "Cross rod")


def test_a_length_is_one_value_and_a_part_taken_out_under_an_edit_is_asked_about(marram: Design) -> None:
    link = next(one for one in links(marram) if one.name == "Rear upper link")

    def of(mm: float, typed: str) -> Design:
        return with_part(marram, link.model_copy(update={"between": CentreToCentre(length=Length(mm=mm, typed=typed))}))

    base, mine, theirs = of(500.0, "500"), of(508.0, "20 in"), of(510.0, "510")
    (clash,) = merge(dumped(base), dumped(mine), dumped(theirs)).clashes
    told = clash_told(clash, (theirs, mine))
    assert (told.of, told.mine, told.theirs) == ("Rear upper link", "20 in", "510")
    assert clash.mine == {"mm": 508.0, "typed": "20 in"}
    out = base.model_copy(update={"parts": tuple(part for part in base.parts if part.id != link.id)})
    (gone,) = merge(dumped(base), dumped(out), dumped(theirs)).clashes
    assert gone.mine is GONE
    said = clash_told(gone, (theirs, out))
    assert (said.of, said.mine, said.theirs) == ("Rear upper link", "not there", "Rear upper link")
    kept = merge(dumped(base), dumped(out), dumped(theirs), {gone.key: "mine"}).design
    assert link.id not in {part["id"] for part in kept["parts"]}


def test_what_is_told_says_the_form_s_words_units_and_rows(marram: Design) -> None:
    car = marram.model_copy(update={"car": marram.car.model_copy(update={"cg_height_mm": 500.0})})
    other = marram.model_copy(update={"car": marram.car.model_copy(update={"cg_height_mm": 512.5})})
    (clash,) = merge(dumped(marram), dumped(car), dumped(other)).clashes
    told = clash_told(clash, (other, car))
    assert (told.of, told.field, told.mine, told.theirs) == ("the car", "Height of the mass", "500 mm", "512.5 mm")
    link = links(marram)[0]
    tubes = [row.key for row in marram.catalogue.tubes if row.key != link.tube][:2]
    assert len(tubes) == 2
    one, two = (with_part(marram, link.model_copy(update={"tube": key})) for key in tubes)
    (clash,) = merge(dumped(marram), dumped(one), dumped(two)).clashes
    told = clash_told(clash, (two, one))
    rows = {row.key: row.label for row in marram.catalogue.tubes}
    assert (told.field, told.mine, told.theirs) == ("Tube, size", rows[tubes[0]], rows[tubes[1]])
    points = dict(marram.ends[0].end.points)

    def at(y: float) -> Design:
        end = marram.ends[0]
        given_points = {**points, "tie_inner": (points["tie_inner"][0], y, points["tie_inner"][2])}
        own = end.model_copy(update={"end": end.end.model_copy(update={"points": given_points})})
        return marram.model_copy(update={"ends": (own, *marram.ends[1:])})

    (clash,) = merge(dumped(marram), dumped(at(301.0)), dumped(at(302.0))).clashes
    told = clash_told(clash, (at(302.0), at(301.0)))
    assert (told.of, told.field) == ("Front", "Tie inner")
    assert ", 301, " in told.mine
