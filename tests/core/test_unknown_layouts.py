"""Layouts that no file of the project describes, from data to parts: counted, moved, carried, made, judged.

Sources: equilibrium of each body by itself, and virtual work, by hand; bending of an arm from what acts beyond a cut.
"""

from __future__ import annotations

import numpy as np
import pytest

from tests.core.end_jobs import all_parts
from tests.core.test_life import SHELF
from tests.core.test_own_kinds import job_with
from tests.core.unknown_layouts import UNKNOWN, ball
from tests.jobs import part_of, template_of, with_part, work
from tirante.core.document.adopt import adopted, patched
from tirante.core.document.parts.arm import Arm
from tirante.core.document.parts.frame_arm import FrameArm, FrameTube
from tirante.core.document.template import Template
from tirante.core.loads.on_body import seen_by_body
from tirante.core.parts.frame_arm.judged import carried
from tirante.core.parts.frame_arm.layout import laid_out
from tirante.core.parts.welded.judged import material_of
from tirante.core.suspension.as_built import as_built
from tirante.core.suspension.cycle import cycle, positions
from tirante.core.suspension.moving import moving
from tirante.core.suspension.on_body import places_on

NAMES = sorted(UNKNOWN)


@pytest.mark.parametrize("name", NAMES)
def test_it_is_whole_and_goes_through_its_travel(name: str) -> None:
    end = UNKNOWN[name]()
    template = template_of(end)
    assert as_built(template, end).whole
    steer = [-10.0, 0.0, 10.0] if template.steered else [0.0]
    found = cycle(template, end, positions([-60.0, 0.0, 60.0], [-2.0, 0.0, 2.0], steer))
    assert set(found.status) == {"converged"}


@pytest.mark.parametrize("name", NAMES)
def test_every_body_of_it_is_in_balance_under_every_case(name: str) -> None:
    end = UNKNOWN[name]()
    design = job_with(end)
    cases = [one for one in work(design).carried(design.ends[0].id).cases if one.forces and not one.fault]
    assert len(cases) > 8
    for one in cases:
        assert one.forces
        assert one.forces.residual < 1e-9
        for body, acts in one.forces.on.items():
            size = max(float(np.linalg.norm(act.force)) for act in acts)
            force = sum((act.force for act in acts), np.zeros(3))
            about = sum((np.cross(act.at, act.force) + act.moment for act in acts), np.zeros(3))
            if "roll, held" in one.forces.holds and body == template_of(end).axle_body:
                continue  # what leans freely is held about its own line, which stands on no list of what acts
            assert np.abs(force).max() < 1e-6 * max(size, 1.0), (one.name, body)
            assert np.abs(about).max() < 1e-5 * max(size, 1.0) * 1000.0, (one.name, body)


@pytest.mark.parametrize("name", NAMES)
def test_every_member_that_moves_is_made_and_none_is_left_unjudged(name: str) -> None:
    end = UNKNOWN[name]()
    design = job_with(end)
    parts = all_parts(design)
    wanted = [one.name for one in moving(template_of(end), end) if one.sort != "carrier"]
    assert sorted(str(part.stands_for) for part in parts) == sorted(wanted)
    left = work(with_part(design, *parts)).not_made()
    assert {one.sort for where, one in left if where.id == design.ends[0].id} <= {"carrier"}
    # what stands in the middle of a beam is made once
    for part in parts:
        if template_of(end).axle == "beam" and isinstance(part, Arm | FrameArm):
            joints = [j for j in template_of(end).joints if part.body in j.bodies_tied]
            assert part.count == (2 if any(j.pair for j in joints) else 1)


@pytest.mark.parametrize("name", ["semi_trailing", "h_arm", "leading_arm", "beam_on_a_arms", "spring_on_a_link"])
def test_an_arm_is_bent_by_what_acts_beyond_a_cut(name: str) -> None:
    """At every node where an arm is one tube thick, what bends and twists it is the moment of all that acts on one side of it."""
    end = UNKNOWN[name]()
    design = job_with(end)
    arm = next(part for part in all_parts(design) if isinstance(part, FrameArm))
    chosen = arm.model_copy(update={"tube": "tube-2x0.120", "grade": "dom-1026", "tubes": _tree(arm)})
    whole = patched(with_part(design, arm), adopted(design, [chosen], SHELF))
    made = part_of(chosen, whole)
    assert made.checks
    assert not made.faults
    places = places_on(template_of(end), end, arm.body)
    layout = laid_out(chosen, places)
    assert not isinstance(layout, list)
    tube, grade = (SHELF.find(table, key) for table, key in (("tubes", chosen.tube), ("grades", chosen.grade)))  # type: ignore[arg-type]
    cases = seen_by_body(work(whole).carried(design.ends[0].id).cases, arm.body, places)[:12]
    looked = 0
    for case, frame in zip(cases, carried(layout, cases, [material_of(tube, grade)]).at, strict=True):  # type: ignore[arg-type]
        for i, (a, b) in enumerate(layout.ends):
            side = _beyond(layout.ends, i, b)
            if a in side:
                continue  # a ring of tubes: no cut parts it
            foot = layout.nodes[a]
            acts = [act for act in case.acting if _node(layout, act) in side]
            force = sum((act.force for act in acts), np.zeros(3))
            moment = sum((np.cross(act.at - foot, act.force) + act.moment for act in acts), np.zeros(3))
            run = (layout.nodes[b] - foot) / np.linalg.norm(layout.nodes[b] - foot)
            twist = float(moment @ run)
            ends = [moment - twist * run, moment - np.cross(layout.nodes[b] - foot, force)]
            ends[1] = ends[1] - float(ends[1] @ run) * run
            most = max(float(np.linalg.norm(one)) for one in ends)
            size = max(most, abs(twist), 1e4)
            assert float(np.max(frame.moment[..., i])) == pytest.approx(most, abs=2e-3 * size), (case.case, i)
            assert abs(float(np.max(np.abs(frame.torsion[..., i])))) == pytest.approx(abs(twist), abs=2e-3 * size)
            assert abs(float(np.ravel(frame.axial[..., i])[0])) == pytest.approx(
                abs(float(force @ run)), abs=2e-3 * max(float(np.linalg.norm(force)), 10.0)
            )
            looked += 1
    assert looked > 10


def _tree(arm: FrameArm) -> tuple[FrameTube, ...]:
    """Of its tubes those that join all its places without a ring, so that every one may be cut."""
    kept: list[FrameTube] = []
    group = {name: name for tube in arm.tubes for name in (tube.a, tube.b)}
    for tube in arm.tubes:
        one, two = group[tube.a], group[tube.b]
        if one != two:
            kept.append(tube)
            group = {name: one if own == two else own for name, own in group.items()}
    return tuple(kept)


def _beyond(ends: tuple[tuple[int, int], ...], cut: int, start: int) -> set[int]:
    """The nodes that are reached from one without the stretch that is cut."""
    found, more = {start}, [start]
    while more:
        here = more.pop()
        for k, (a, b) in enumerate(ends):
            if k == cut:
                continue
            for one, two in ((a, b), (b, a)):
                if one == here and two not in found:
                    found.add(two)
                    more.append(two)
    return found


def _node(layout: object, act: object) -> int:
    known = layout.takes.get(act.place or "")  # type: ignore[attr-defined]
    if known is not None:
        return int(known)
    return int(np.argmin(np.linalg.norm(layout.nodes - act.at, axis=1)))  # type: ignore[attr-defined]


def test_paired_arms_of_a_beam_on_balls_see_both_sides_and_one_in_the_middle_is_a_hinged_arm() -> None:
    end = UNKNOWN["beam_on_a_arms"]()
    assert end.kind
    joints = [
        ball("a arm ball", "a_arm", "dead_axle", "aa_ball") if joint.kind == "bush" else joint.model_dump() for joint in end.kind.joints
    ]  # fmt: skip
    kind = Template.model_validate({**end.kind.model_dump(), "joints": joints})
    paired = end.model_copy(update={"kind": kind, "bushes": {}})
    made = {part.stands_for: part.kind for part in all_parts(job_with(paired))}
    assert made["a_arm"] == "frame_arm"
    middle = {part.stands_for: part.kind for part in all_parts(job_with(UNKNOWN["de_dion"]()))}
    assert middle["a_frame"] == "arm"
