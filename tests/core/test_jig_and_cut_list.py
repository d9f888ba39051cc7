"""The jig holds what the stack says; the cut list counts what is to be made."""

from collections import Counter
from dataclasses import replace
from math import pi

import pytest

from tests.jobs import arms, links, part_of, tabs_of, with_part, work
from tests.jobs import built as built_link
from tirante.core.cutting.cut_list import CutList, cut_list
from tirante.core.document.catalogue import Catalogue
from tirante.core.document.design import Design
from tirante.core.document.fields import Length
from tirante.core.document.parts.link import Link, Splice
from tirante.core.parts.link.assembly import ThreadedEnd, mass_of
from tirante.core.parts.link.built import Built
from tirante.core.parts.link.choose import choose
from tirante.core.parts.part import BoughtPiece


def built(design: Design, i: int) -> Built:
    return built_link(links(design)[i], design)


def without_arms(design: Design) -> Design:
    known = {arm.id for arm in arms(design)}
    return design.model_copy(update={"parts": tuple(part for part in design.parts if part.id not in known)})


def the_list(design: Design) -> CutList:
    return cut_list(work(design).parts)


def test_ordinates_run_from_a_to_b_and_place_the_tube(marram: Design) -> None:
    for i in range(len(links(marram))):
        one = built(marram, i)
        ordinates = [s.ordinate for s in one.jig.stations]
        assert ordinates == sorted(ordinates)
        assert ordinates[0] == 0.0
        assert ordinates[-1] == one.jig.set_length
        assert one.jig.stations[4].ordinate - one.jig.stations[1].ordinate == pytest.approx(one.stack.tube_cut)
        assert one.jig.check_length == one.stack.centre_to_centre
        assert one.jig.rail_length > one.jig.set_length


def test_shrink_is_set_on_at_each_welded_end_and_the_cold_length_stays(marram: Design) -> None:
    shop = marram.model_copy(update={"settings": marram.settings.model_copy(update={"weld_shrink_mm": 0.4})})
    plain, allowed = built(marram, 0).jig, built(shop, 0).jig
    assert allowed.set_length == pytest.approx(plain.set_length + 0.8)
    assert allowed.check_length == plain.check_length


def test_shrink_is_counted_for_each_weld_that_is_laid_here(marram: Design, quay: Design) -> None:
    # both inserts of a link that is made; of a bought one the end that is cut and welded anew
    for design, count in ((marram, 2), (quay, 1)):
        i = next(i for i, link in enumerate(links(design)) if (link.bought is not None) == (count == 1))
        shop = design.model_copy(update={"settings": design.settings.model_copy(update={"weld_shrink_mm": 0.4})})
        plain, allowed = built(design, i), built(shop, i)
        assert allowed.stack.tube_cut == pytest.approx(plain.stack.tube_cut + 0.4 * count)
        assert allowed.jig.set_length == pytest.approx(plain.jig.set_length + 0.4 * count)


def test_the_rail_clears_eye_and_tube(marram: Design) -> None:
    one = built(marram, 0)
    heads = [e.joint.head_diameter_mm / 2 for e in one.assembly.ends if isinstance(e, ThreadedEnd)]
    assert one.jig.axis_height >= max([*heads, one.assembly.tube.od_mm / 2]) + 10


def test_clocked_bolts_are_said_in_the_order_of_work(marram: Design) -> None:
    turned = links(marram)[0].model_copy(update={"clocking_deg": 90.0})
    found = built_link(turned, marram)
    assert any("90°" in step for step in found.jig.steps)


def test_counts_are_those_of_the_links_one_by_one(marram: Design, quay: Design) -> None:
    for design in (without_arms(marram), quay):
        expected: Counter[tuple[str, str]] = Counter()
        for i, link in enumerate(links(design)):
            n = 2 if link.side == "pair" else 1
            for letter, end in zip("ab", built(design, i).assembly.ends, strict=True):
                if link.bought and link.bought.with_joints:
                    if letter != link.bought.keep and isinstance(end, ThreadedEnd):
                        expected[end.insert.label, end.hand] += n
                elif isinstance(end, ThreadedEnd):
                    expected[end.joint.label, end.hand] += n
                    expected[end.insert.label, end.hand] += n
                    expected[end.nut.label, end.hand] += n
        found = {
            (i.what, i.hand): i.count for i in the_list(design).items if i.kind in ("joint", "insert", "nut") and i.hand
        }
        assert found == dict(expected)


def test_each_thread_and_hand_needs_one_tap_and_one_die(marram: Design) -> None:
    threads = set()
    for i in range(len(links(marram))):
        threads |= {(e.joint.designation, e.hand) for e in built(marram, i).assembly.ends if isinstance(e, ThreadedEnd)}
    for tool in ("tap", "die"):
        found = [(i.what.split(",")[0], i.hand) for i in the_list(without_arms(marram)).items if i.kind == tool]
        assert sorted(found) == sorted(threads)


def test_a_bought_link_is_sawn_where_it_says_and_nothing_is_bought_for_the_end_that_stays(quay: Design) -> None:
    bought = next(link for link in links(quay) if link.bought)
    pieces = {piece.part: piece for piece in the_list(quay).pieces}
    cut, stock = pieces[bought.name], pieces["Parallel lower link"]
    assert stock.off_mm is None
    assert cut.off_mm == pytest.approx(457.2 - cut.length_mm)
    assert "from end A’s tube end" in cut.told

    def has(link: Link) -> Counter[str]:
        return Counter(piece.sort for piece in part_of(link, quay).pieces if isinstance(piece, BoughtPiece))

    assert has(bought) == {"insert": 1}
    assert bought.bought
    bare = bought.model_copy(update={"bought": bought.bought.model_copy(update={"with_joints": False})})
    assert has(bare) == {"insert": 1, "joint": 2, "nut": 2}
    made = bought.model_copy(update={"bought": None})
    assert has(made) == {"insert": 2, "joint": 2, "nut": 2}


def test_what_is_not_complete_is_named_and_the_rest_is_listed(marram: Design) -> None:
    bare = links(marram)[0].model_copy(update={"tube": None})
    found = the_list(with_part(without_arms(marram), bare))
    assert [(one.name, one.why.split(".")[0]) for one in found.left_out] == [
        ("Rear lower link", "No tube is chosen yet")
    ]
    assert len(found.pieces) == 3


def test_the_arms_stand_on_the_list_with_their_saw_lengths_to_the_longest_points(marram: Design) -> None:
    found = the_list(marram)
    for arm in arms(marram):
        own = [piece for piece in found.pieces if piece.part_id == arm.id]
        between = work(marram).part(arm.id).own.result.lengths  # type: ignore[union-attr]
        assert len(own) == (3 if arm.brace_at else 2)
        assert all(
            piece.told == "to its longest points" and not piece.before_notching and piece.count == 2 for piece in own
        )
        if arm.pivots == "bush sleeves":
            # a notch reaches past the face of what it stands on, and not to its middle
            faces = arm.pivot_face_mm + arm.outer_face_mm
            by_name = {piece.part.rsplit(", ", 1)[1]: piece.length_mm for piece in own}
            assert between["front tube"] - faces < by_name["front tube"] < between["front tube"]
            assert by_name["brace"] == pytest.approx(
                between["brace"]
            )  # tubes of one size: the ears reach their middle lines
    gusset = next(item for item in found.items if "gusset" in item.what)
    assert (gusset.kind, gusset.count) == ("plate", 2)


def test_every_saw_line_has_a_key_of_its_own(marram: Design) -> None:
    splice = Splice(at=Length(mm=250.0), length=Length(mm=120.0), wall_mm=4.0)
    found = the_list(with_part(marram, links(marram)[0].model_copy(update={"splice": splice})))
    keys = [piece.key for piece in found.pieces]
    assert len(keys) == len(set(keys))
    own = [piece for piece in found.pieces if piece.part_id == links(marram)[0].id]
    assert {piece.part for piece in own} == {"Rear lower link, to A", "Rear lower link, to B"}
    whole = next(piece for piece in the_list(marram).pieces if piece.part_id == links(marram)[0].id)
    assert sum(piece.length_mm for piece in own) == pytest.approx(whole.length_mm)


def test_a_tab_at_one_end_has_half_the_plates_and_half_the_bolts(marram: Design) -> None:
    tab = tabs_of(links(marram)[0], marram)
    assert tab

    def counted(ends: str) -> tuple[int, int]:
        joints = tuple(j for j in marram.held_by(tab.id) if j.held.end in ends)  # type: ignore[union-attr]
        design = marram.model_copy(update={"parts": (links(marram)[0], tab), "joints": joints})
        items = the_list(design).items
        return tuple(sum(i.count for i in items if i.kind == kind) for kind in ("tab", "bolt"))  # type: ignore[return-value]

    assert counted("ab") == (8, 4)  # two plates and a bolt, two ends, a pair
    assert counted("a") == counted("b") == (4, 2)


def test_the_mass_is_the_volume_of_its_tube_and_the_parts_as_listed(marram: Design) -> None:
    one = built(marram, 0)
    mass = mass_of(one.assembly, one.stack)
    tube = one.assembly.tube
    ring = pi / 4 * (tube.od_mm**2 - tube.bore_mm**2)
    assert mass.tube == pytest.approx(ring * one.stack.tube_cut * one.assembly.grade.density_kg_m3 * 1e-9)
    assert mass.joints == pytest.approx(sum(e.joint.mass_kg for e in one.assembly.ends if isinstance(e, ThreadedEnd)))
    assert mass.total == pytest.approx(mass.tube + mass.joints + mass.inserts + mass.nuts)
    assert mass.inserts > 0
    assert mass.nuts > 0


def test_an_insert_weighs_as_the_metal_it_is_welded_to(marram: Design) -> None:
    one = built(marram, 0)
    light = one.assembly.grade.model_copy(update={"density_kg_m3": one.assembly.grade.density_kg_m3 / 3})
    steel, third = (mass_of(a, one.stack) for a in (one.assembly, replace(one.assembly, grade=light)))
    assert third.inserts == pytest.approx(steel.inserts / 3)
    assert third.nuts == steel.nuts
    # by its rings: the plug in the tube and the collar before it, both drilled for the thread
    insert, major = one.assembly.threaded[0].insert, one.assembly.threaded[0].thread.major
    plug = (insert.fit_diameter_mm**2 - major**2) * (insert.thread_depth_mm - insert.shoulder_mm)
    collar = (insert.shoulder_diameter_mm**2 - major**2) * insert.shoulder_mm
    assert steel.inserts == pytest.approx(2 * pi / 4 * (plug + collar) * one.assembly.grade.density_kg_m3 * 1e-9)


def test_another_joint_moves_the_saw_length_by_what_its_shank_differs(catalogue: Catalogue, marram: Design) -> None:
    link = links(marram)[0]
    design = marram.model_copy(update={"catalogue": catalogue})
    before = built_link(link, design)
    other = choose(link, "ends.joint", "rod-end-3_4-16-mild", catalogue)
    after = built_link(other, design)
    # same dimensions, weaker steel: same saw length, as long as the load asks for no more thread
    assert after.stack.tube_cut == pytest.approx(before.stack.tube_cut)
    assert {c.key: c.utilisation for c in after.checks}["joint"] > {c.key: c.utilisation for c in before.checks}[
        "joint"
    ]  # type: ignore[operator]
