"""A bump stop that lands on a link: where its pad goes, what its force is, and what the link, its joints and the frame see of it."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np
import pytest

from tests.core.test_carrying import with_end
from tests.core.test_loads import demo
from tests.core.test_statics import solved, supports
from tests.core.test_whole_suspension import changed, example
from tests.jobs import built, links, template_of, work
from tirante.core.document.end import End
from tirante.core.document.parts.boxed_link import BoxedLink
from tirante.core.document.parts.common import OfEnd
from tirante.core.errors import InputError
from tirante.core.loads.case_seen import CaseSeen
from tirante.core.loads.seen import _landed_on
from tirante.core.loads.shown import on_frame
from tirante.core.mechanism.model import GROUND
from tirante.core.parts.around import seen_between
from tirante.core.parts.link.assembly import stack_of
from tirante.core.parts.link.checks import link_checks
from tirante.core.suspension.cycle import measured, solved_cycle
from tirante.core.suspension.limits import shared
from tirante.core.suspension.soundness import check_end
from tirante.core.suspension.statics import Case, Push, forces

LOAD = 6000.0


def landed(**more: Any) -> End:
    """A live axle whose stops point down at pads on its lower links, off the links' lines and aslant."""
    stop = {
        "tip": {"body": "ground", "point": "stop_tip"}, "pad": {"body": "ground", "point": "stop_pad"}, "pad_link": "lower link",
        "axis": [0.1, 0.05, -1.0], "face": [0.02, 0.0, 1.0], "pad_radius_mm": 40.0, "crush_mm": 30.0, "rate_n_per_mm": 300.0,
    }  # fmt: skip
    # over the link, two fifths of the way from its joint on the axle
    return changed(
        example("four-links-panhard"), points={"stop_tip": [276.0, 424.0, 395.0], "stop_pad": [280.0, 426.0, 335.0]},
        bump_stop=stop | more,
    )  # fmt: skip


def test_the_force_of_a_stop_on_a_link_does_the_work_of_the_wheels_over_its_gap() -> None:
    # positions know nothing of forces: how fast the gap closes says what the stop must carry
    # a stop acts along itself: with the pad square to it as it stands, that is also what closes the gap
    end, step = landed(axis=[0.1, 0.05, -1.0], face=[-0.1, -0.05, 1.0]), 0.01
    rows = np.array([[-step, 0.0, step], [0.0] * 3, [0.0] * 3])
    done = solved_cycle(template_of(end), end, rows)
    limits = measured(done).limits
    pushes = tuple(Push(at=f"contact_{side}", force=(0.0, 0.0, LOAD)) for side in ("left", "right"))
    found = forces(done, 1, [Case(name="up", pushes=pushes)], met={"left": "stop", "right": "stop"})[0]
    assert found.fault is None
    # the Panhard rod draws the axle aside as it rises, so that the two stops do not carry quite alike
    work_of = 0.0
    for side in ("left", "right"):
        gaps = limits[f"bump stop, {side}"]["gap_mm"]
        work_of -= found.stops[f"bump stop, {side}"] * (gaps[2] - gaps[0]) / (2 * step)
    assert work_of == pytest.approx(2 * LOAD, rel=1e-6)
    assert found.stops["bump stop, left"] == pytest.approx(found.stops["bump stop, right"], rel=0.01)
    assert found.stops["bump stop, left"] > 1.5 * LOAD  # it lands at two fifths of the link's length


def test_a_pad_stays_over_its_link_as_the_link_swings() -> None:
    end = landed(axis=[0.0, 0.0, -1.0], face=[0.0, 0.0, 1.0])
    done = solved(end, 60.0)
    side = done.left
    link = side.assembled.pad_link("left")
    assert link
    assert link.name == "lower link, left"
    rest, now = (
        np.array([p.system.where(p.poses, m, p.drives)[:, 0] for m in (link.a, link.b)])
        for p in (side.rest, side.solved)
    )
    pad = np.array(end.points["stop_pad"])
    # straight down from the tip on to the pad's face, which has leaned with the link: by hand, in its own plane
    lean = np.arctan2(*(now[1] - now[0])[[2, 0]]) - np.arctan2(*(rest[1] - rest[0])[[2, 0]])
    turn = np.array([[np.cos(lean), 0, -np.sin(lean)], [0, 1, 0], [np.sin(lean), 0, np.cos(lean)]])
    moved, face = now[0] + turn @ (pad - rest[0]), turn @ np.array([0.0, 0.0, 1.0])
    tip = np.array(end.points["stop_tip"])
    gap = (moved - tip) @ face / -face[2]
    assert measured(done).limits["bump stop, left"]["gap_mm"][0] == pytest.approx(
        gap, abs=0.05
    )  # the link swings sideways a little
    assert abs(lean) > 0.05


def test_all_that_the_frame_takes_is_what_acts() -> None:
    end = landed()
    case = Case(name="hit", pushes=(
        Push(at="contact_left", force=(-900.0, 700.0, 9000.0)), Push(at="contact_right", force=(300.0, 0.0, 4000.0)),
    ))  # fmt: skip
    done = solved(end, 30.0)
    found = forces(done, 0, [case], met={"left": "stop", "right": "stop"})[0]
    assert found.fault is None
    force, moment = np.zeros(3), np.zeros(3)
    for _, at, push in found.applied:
        force, moment = force + push, moment + np.cross(at, push)
    for at, push, turn in supports(found):
        force, moment = force + push, moment + np.cross(at, push) + turn
    frame = sum(push for _, _, push in on_frame(found))
    for side in ("left", "right"):
        link, stop = f"lower link, {side}", f"bump stop, {side}"
        (a, b), (one, two) = found.ends[link], found.across[link]
        push = one + two
        assert found.bodies[link] == (GROUND, "axle") or found.bodies[link] == ("axle", GROUND)
        assert np.linalg.norm(push) == pytest.approx(found.stops[stop])
        # of the link: the stop at its tip, and its joints against that; nothing is left but what would roll it
        tip = np.array(end.points["stop_tip"]) * [1, 1 if side == "left" else -1, 1]
        left = np.cross(tip - a, push) - np.cross(b - a, two)
        assert np.linalg.norm(np.cross(left, (b - a) / np.linalg.norm(b - a))) < 1e-6 * np.linalg.norm(push)
        # the stop stands on the frame and is not among the links' and joints' supports
        force, moment = force + push, moment + np.cross(tip, push)
        if found.bodies[link][0] == GROUND:
            on_it, place = one, a
        else:
            on_it, place = two, b
        force, moment = force - on_it, moment - np.cross(place, on_it)
        # the rest that would roll the link is left out: it is small here, and told
        moment = moment - left
        frame = frame - push
    assert np.linalg.norm(force) < 1e-3
    assert np.linalg.norm(moment) < 2.0
    applied = sum(push for _, _, push in found.applied)
    np.testing.assert_allclose(frame, applied, atol=1e-3)


def test_a_link_sees_the_stop_where_it_lands_and_both_its_stretches() -> None:
    end = landed()
    pushes = tuple(Push(at=f"contact_{side}", force=(0.0, 0.0, LOAD)) for side in ("left", "right"))
    found = forces(solved(end, 30.0), 0, [Case(name="up", pushes=pushes)], met={"left": "stop", "right": "stop"})[0]
    name = "lower link, left"
    (a, b), (one, two), pull = found.ends[name], found.across[name], found.axial[name]
    seen = _landed_on(CaseSeen(name="up", axial_n=pull, at="here"), name, found)
    u = (b - a) / np.linalg.norm(b - a)
    push = one + two
    square = np.linalg.norm(push - (push @ u) * u)
    assert [case.axial_n for case in seen] == pytest.approx(sorted([pull + one @ u, pull - two @ u]))
    assert abs(seen[0].axial_n - seen[1].axial_n) == pytest.approx(abs(push @ u))
    share = seen[0].strike_at
    assert share
    tip = np.array(end.points["stop_tip"])
    assert share == pytest.approx((tip - a) @ u / np.linalg.norm(b - a), abs=0.03)
    assert [case.strike_n for case in seen] == pytest.approx([square, square])
    assert seen[0].mid_strike_n == pytest.approx(4 * share * (1 - share) * square)
    assert seen[0].across_n == pytest.approx(max(share, 1 - share) * square)
    # struck besides: nothing gets less
    both = _landed_on(CaseSeen(name="up", axial_n=pull, strike_n=1000.0), name, found)[0]
    assert both.mid_strike_n >= seen[0].mid_strike_n + 1000.0
    assert both.across_n == pytest.approx(seen[0].across_n + 500.0)


def test_a_force_on_a_link_is_a_beam_s_on_two_joints() -> None:
    a, b = np.array([0.0, 0.0, 0.0]), np.array([1000.0, 0.0, 0.0])
    one, two = shared(np.array([0.0, 0.0, -8000.0]), np.array([250.0, 0.0, 0.0]), a, b)
    assert (one[2], two[2]) == pytest.approx((-6000.0, -2000.0))
    # along the link, 60 mm over it: a couple on its joints
    one, two = shared(np.array([400.0, 0.0, 0.0]), np.array([250.0, 0.0, 60.0]), a, b)
    assert (one[2], two[2]) == pytest.approx((24.0, -24.0))
    assert (one[0], two[0]) == pytest.approx((300.0, 100.0))


def test_a_boxed_link_is_judged_by_the_stop_s_own_force_and_by_no_typed_one() -> None:
    design = demo("marram")
    rear = next(i for i, one in enumerate(design.ends) if one.name == "Rear")
    end = design.ends[rear].end
    inner, outer = (np.array(end.points[p]) for p in ("lower_chassis", "lower_axle"))
    over = inner + 0.6 * (outer - inner)
    stop = {
        "tip": {"body": "ground", "point": "stop_tip"}, "pad": {"body": "ground", "point": "stop_pad"}, "pad_link": "lower link",
        "axis": (0.0, 0.0, -1.0), "crush_mm": 60.0, "rate_n_per_mm": 250.0, "pad_radius_mm": 60.0,
    }  # fmt: skip
    points = {
        **end.points,
        "stop_tip": tuple((over + np.array([0, 0, 70.0])).tolist()),
        "stop_pad": tuple((over + np.array([0, 0, 45.0])).tolist()),
    }
    design = with_end(design, rear, points=points, bump_stop=type(design.ends[0].end.bump_stop).model_validate(stop))  # type: ignore[union-attr]
    link = next(part for part in design.parts if part.kind == "link" and part.stands_for == "lower link")
    assert isinstance(link.between, OfEnd)
    boxed = BoxedLink.model_validate({
        "id": link.id, "name": link.name, "side": link.side, "between": link.between, "height": {"mm": 70.0}, "width": {"mm": 60.0}, "side_mm": 4.0,
        "top_mm": 5.0, "bottom_mm": 5.0, "pad_at": {"mm": 100.0},
    })  # fmt: skip
    design = design.model_copy(update={"parts": tuple(boxed if part.id == link.id else part for part in design.parts)})
    job = work(design)
    part = job.part(boxed.id)
    assert part
    loads = job.carried(design.ends[rear].id)
    landings = [one for one in loads.cases if one.forces and not one.fault and one.forces.stops]
    assert landings
    hardest = 0.0
    for one in landings:
        assert one.forces
        for name, (first, second) in one.forces.across.items():
            a, b = one.forces.ends[name]
            u = (b - a) / np.linalg.norm(b - a)
            push = first + second
            hardest = max(hardest, float(np.linalg.norm(push - (push @ u) * u)))
    stress = next(check for check in part.checks if check.key == "box_stress")
    assert stress.reproduce
    assert stress.reproduce.input["force_n"] == pytest.approx(hardest * stress.factor)
    assert stress.reproduce.input["at_mm"] == pytest.approx(
        0.6 * boxed.between.mm, rel=0.03
    )  # where it lands, not where a pad was typed
    seen = seen_between(boxed.between, boxed.side, boxed.cases, job)
    landed_on = [case for case in seen if "lands on it" in case.at]
    assert landed_on
    assert all("would roll the link, not judged" in case.at for case in landed_on)


@pytest.mark.parametrize("share", [0.25, 0.6])
def test_a_tube_is_bent_by_a_stop_as_its_own_moment_says(share: float) -> None:
    design = demo("marram")
    assembly = built(links(design)[0], design).assembly
    landing = CaseSeen(name="landing", axial_n=-2000.0, strike_n=3000.0, strike_at=share)
    stack = stack_of(assembly, design.settings)
    found = link_checks(replace(assembly, cases=(landing,)), stack, design.settings)
    bowed = next(check for check in found if check.key == "bowed")
    assert bowed.reproduce
    # P a b / L, as of a strike in the middle
    assert bowed.reproduce.input["mid_lateral_n"] == pytest.approx(3000.0 * 4 * share * (1 - share) * bowed.factor)
    joint = next(check for check in found if check.key == "joint_side")
    assert joint.demand == pytest.approx(3000.0 * max(share, 1 - share) * joint.factor)


@pytest.mark.parametrize(
    ("link", "pad", "field", "told"),
    [
        ("no such link", [280.0, 426.0, 335.0], "bump_stop.pad_link", "lower link"),
        ("lower link", [900.0, 420.0, 310.0], "points.stop_pad", "between the link"),
        ("lower link", [280.0, 250.0, 335.0], "points.stop_pad", "off the lower link"),
    ],
)
def test_a_pad_on_no_link_and_one_beside_its_link_are_refused_by_field(
    link: str, pad: list[float], field: str, told: str
) -> None:
    end = changed(landed(pad_link=link), points={"stop_pad": pad})
    with pytest.raises(InputError, match=told) as caught:
        check_end(template_of(end), end)
    assert caught.value.fields == (field,)
