"""A torch along the fillets of what is no pair of plates: the way that it needs against a closed form, and where the fillets are."""

from __future__ import annotations

from math import cos, radians, sqrt
from typing import Any

import numpy as np
import pytest

from tests.core.test_folded_u import the_u
from tests.core.test_lapped import held_by_a_plate
from tests.core.test_loads import demo
from tests.core.test_rail_sleeve import sleeved
from tests.core.test_spanners import slab
from tests.core.test_strap import whole
from tests.jobs import part_of, work
from tirante.core.brackets.strap import StrapWelds
from tirante.core.brackets.tools import (
    TORCH_LENGTH,
    TORCH_OFF,
    TORCH_RADIUS,
    TORCH_TRAVEL,
    TORCH_WORK,
    Fillet,
    ring_fillet,
    straight_fillet,
)
from tirante.core.document.design import Design
from tirante.core.document.mounts import BoxMember, Mount
from tirante.core.geometry.convex import Prism
from tirante.core.job.room.look import look_round
from tirante.core.job.room.plates import PAD, pieces_of
from tirante.core.job.room.reach import Fixed, torch_along
from tirante.core.parts.bracket.families.folded_u import FOLDED_U, welds
from tirante.core.parts.bracket.families.lapped import LAPPED_PLATE, weld_runs
from tirante.core.parts.bracket.families.rail_sleeve import RAIL_SLEEVE
from tirante.core.parts.bracket.families.strap import STRAP_TAB

X, Y, Z = np.eye(3)


def sound(fillet: Fillet) -> None:
    """Ways of length 1, square to each other, at every place."""
    for way in (fillet.normals, fillet.aways, fillet.along):
        assert np.linalg.norm(way, axis=1) == pytest.approx(np.ones(len(way)))
    for one, two in ((fillet.normals, fillet.aways), (fillet.normals, fillet.along), (fillet.aways, fillet.along)):
        assert (one * two).sum(axis=1) == pytest.approx(np.zeros(len(one)), abs=1e-9)


def test_a_torch_needs_so_much_way_beside_a_fillet_as_its_cup_reaches_where_it_is_held_steepest() -> None:
    """A wall beside the root: the far end of the cup is (off + length) h away and the cup's rim r √(1 − h²) more, h the way's share toward the wall."""
    fillet = straight_fillet("run", -20.0 * X, 20.0 * X, Z, Y)
    sound(fillet)
    assert len(fillet.roots) == 9
    assert abs(fillet.roots[:, 0]).max() == pytest.approx(18.0)
    shares = [cos(radians(t)) * cos(radians(w)) for t in TORCH_TRAVEL for w in TORCH_WORK]
    least = min((min(TORCH_OFF) + TORCH_LENGTH) * h + TORCH_RADIUS * sqrt(1 - h * h) for h in shares)
    for further, reached in ((0.1, 1.0), (-0.1, 0.0)):
        found = torch_along(fillet, [slab((0.0, least + further, 0.0), (0.0, -1.0, 0.0), "rail")])
        assert found.share == reached
        assert found.plate == "run"
    assert found.worst.to == "rail"
    # a post at one end keeps the torch off there alone
    outline = np.array([(0.0, 2.0), (300.0, 2.0), (300.0, 200.0), (0.0, 200.0)])
    post = Fixed(name="post", solid=Prism(outline, np.zeros((3, 1)), X[:, None], Y[:, None], Z[:, None], 300.0))
    found = torch_along(fillet, [post])
    assert 0.3 < found.share < 0.8
    assert found.worst.to == "post"
    # nothing beside it
    assert torch_along(fillet, []).share == 1.0
    # round a ring a wall keeps it off on the side that it stands on
    ring = ring_fillet("ring", np.zeros(3), X, Y, 15.0, Z)
    sound(ring)
    assert np.linalg.norm(ring.roots, axis=1) == pytest.approx(np.full(24, 15.0))
    beside = torch_along(ring, [slab((0.0, 15.0 + least - 1.0, 0.0), (0.0, -1.0, 0.0), "rail")])
    assert 0.5 < beside.share < 1.0
    assert beside.worst.to == "rail"
    assert torch_along(ring, [slab((0.0, 15.0 + least + 0.1, 0.0), (0.0, -1.0, 0.0), "rail")]).share == 1.0


def runs(fillets: tuple[Fillet, ...]) -> list[tuple[np.ndarray, np.ndarray]]:
    """Both ends of each straight one, as far as its places reach 0.9 of it."""
    found = []
    for one in fillets:
        sound(one)
        middle, half = (one.roots[0] + one.roots[-1]) / 2, (one.roots[-1] - one.roots[0]) / 2 / 0.9
        found.append((middle - half, middle + half))
    return found


def test_a_lapped_plate_s_fillets_are_those_that_its_weld_is_counted_by(mounted: Design) -> None:
    design, plate = held_by_a_plate(mounted)
    part = part_of(plate, design)
    made, stand = part.own.joints[0], part.own.stands[0]
    one, fillets = stand.standing, LAPPED_PLATE.fillets(plate, made, stand)
    found = {tuple(np.round([(p - one.foot) @ one.x, (p - one.foot) @ one.y, (q - one.foot) @ one.x, (q - one.foot) @ one.y], 6)) for p, q in runs(fillets)}  # fmt: skip
    assert found == {tuple(float(v) for v in run) for run in weld_runs(plate)}
    for fillet in fillets:
        assert (fillet.roots - one.foot) @ one.bolt == pytest.approx(np.zeros(9), abs=1e-9)  # on the face
        out = fillet.roots.mean(axis=0) - (one.foot - plate.foot_mm / 2 * one.y)
        assert (fillet.aways @ out > 0).all()  # away from the plate


def test_a_sleeve_s_fillets_go_round_both_of_its_ends_and_a_beam_beside_one_keeps_the_torch_off(mounted: Design) -> None:  # fmt: skip
    design, saved = sleeved(mounted)
    part = part_of(saved, design)
    made, stand = part.own.joints[0], part.own.stands[0]
    one = stand.standing
    near, far = RAIL_SLEEVE.fillets(saved, made, stand)
    for fillet, level, way in ((near, 0.0, 1.0), (far, -saved.through_mm, -1.0)):
        sound(fillet)
        off = fillet.roots - one.foot
        assert off @ one.bolt == pytest.approx(np.full(24, level), abs=1e-9)
        assert np.linalg.norm(off - np.outer(off @ one.bolt, one.bolt), axis=1) == pytest.approx(np.full(24, saved.sleeve_od_mm / 2))  # fmt: skip
        assert fillet.normals @ one.bolt == pytest.approx(np.full(24, way))
    (mount,) = design.mounts
    face = one.foot - saved.through_mm * one.bolt

    def told(beside: float) -> dict[str, str]:
        at = face - 40.0 * one.bolt + (saved.sleeve_od_mm / 2 + beside + 10.0) * one.x
        beam = BoxMember(a=tuple(at - 200.0 * one.y), b=tuple(at + 200.0 * one.y), up=tuple(one.x), width_mm=70.0, height_mm=20.0, wall_mm=2.0)  # fmt: skip
        more = design.model_copy(update={"mounts": (mount, Mount(id="01900000-0000-7000-8000-00000000aaac", name="Beam", shape=beam, both_sides=False))})  # fmt: skip
        every = [line for joint in look_round(work(more), saved.id).joints for line in joint.lines if line.sort == "torch"]  # fmt: skip
        return {line.what: line.state for line in every}

    assert told(120.0) == {"a torch along its near end": "good", "a torch along its far end": "good"}
    assert told(12.0) == {"a torch along its near end": "good", "a torch along its far end": "stop"}


def test_a_strap_s_fillets_go_half_round_the_tube_along_both_edges(mounted: Design) -> None:
    design, saved = whole(mounted)
    part = part_of(saved, design)
    made, stand = part.own.joints[0], part.own.stands[0]
    one, r = stand.standing, saved.tube_od.mm / 2
    middle = one.foot - r * one.y
    fillets = STRAP_TAB.fillets(saved, made, stand)
    assert len(fillets) == 2
    counted = StrapWelds(
        tube_od=saved.tube_od.mm, width=saved.base_width.mm
    ).places  # along the tube, the bolt, toward the joint
    for fillet in fillets:
        sound(fillet)
        off = fillet.roots - middle
        x = off @ one.x
        assert abs(x) == pytest.approx(np.full(len(x), saved.base_width.mm / 2))
        assert (fillet.aways @ one.x) * np.sign(x) == pytest.approx(np.ones(len(x)))
        assert np.hypot(off @ one.bolt, off @ one.y) == pytest.approx(np.full(len(x), r))
        assert (off @ one.y < 0).all()  # on the side away from the joint
        for place in off:
            own = np.array([place @ one.x, place @ one.bolt, place @ one.y])
            assert np.linalg.norm(counted - own, axis=1).min() < r * radians(1.0)
    assert any(line.sort == "torch" for joint in look_round(work(design), saved.id).joints for line in joint.lines)


def test_a_folded_bracket_s_fillets_go_along_its_base_and_its_grooves_as_far_out_as_its_ears(mounted: Design) -> None:
    design, saved = mounted, the_u(mounted)
    part = part_of(saved, design)
    made, stand = part.own.joints[0], part.own.stands[0]
    one, outer = stand.standing, made.gap / 2 + saved.plate.mm
    fillets = FOLDED_U.fillets(saved, made, stand)
    ends = [[(float((p - one.foot) @ one.x), float((p - one.foot) @ one.bolt)) for p in pair] for pair in runs(fillets)]
    for (first, last), (x1, y1, x2, y2), fillet in zip(ends, welds(saved, made.gap), fillets, strict=True):
        groove = y1 == y2
        wanted = [(x, (1 if y > 0 else -1) * outer if groove else y) for x, y in ((x1, y1), (x2, y2))]
        assert [*first, *last] == pytest.approx([v for pair in wanted for v in pair])
        assert (fillet.aways @ (fillet.roots.mean(axis=0) - one.foot) > 0).all()
        assert fillet.name == ("the grooves under its bends" if groove else "the edges of its base")
    told = [line for joint in look_round(work(design), saved.id).joints for line in joint.lines if line.sort == "torch"]
    assert {line.what for line in told} == {"a torch along the grooves under its bends", "a torch along the edges of its base"}  # fmt: skip


@pytest.mark.parametrize(("job", "name"), [("marram", "Rear bump stop, pad"), ("quay", "Rear spring, lower end, seat")])
def test_a_pad_s_fillets_go_along_its_webs_on_what_they_stand_on(job: str, name: str) -> None:
    design = demo(job)
    saved = next(part for part in design.parts if part.name == name)
    part = part_of(saved, design)
    shape: Any = part.own.shape
    (mount,) = [one for one in design.mounts if one.id in {joint.mount for joint in design.joints if joint.by == saved.id}]  # fmt: skip
    a, b = np.array(mount.shape.a), np.array(mount.shape.b)  # type: ignore[union-attr]
    u = (b - a) / np.linalg.norm(b - a)
    _, aside, out = shape.stands
    for fillet, side in zip(part.own.fillets, (1.0, -1.0), strict=True):
        sound(fillet)
        across = (fillet.roots - shape.foot) @ aside
        assert across == pytest.approx(np.full(9, side * (shape.pad.apart + shape.pad.web) / 2))
        assert np.linalg.norm(fillet.roots[-1] - fillet.roots[0]) == pytest.approx(0.9 * shape.pad.length)
        axis = fillet.roots - a - np.outer((fillet.roots - a) @ u, u)
        if shape.od is None:
            assert fillet.normals == pytest.approx(np.tile(out, (9, 1)))
            assert axis @ out == pytest.approx(np.full(9, mount.shape.height_mm / 2))  # type: ignore[union-attr]
        else:  # square to the tube's skin; a web stands on it by its inner face, so its outer one is a little off
            assert np.linalg.norm(np.cross(fillet.normals, axis), axis=1) == pytest.approx(np.zeros(9), abs=1e-6)
        assert (fillet.aways @ (side * aside) > 0).all()
    lines = [line for joint in look_round(work(design), saved.id).joints for line in joint.lines if line.sort == "torch"]  # fmt: skip
    assert [line.what for line in lines] == ["a torch along the outer feet of its webs"]
    assert "before its plate is laid" in lines[0].where


def test_the_webs_of_a_low_pad_are_welded_before_its_plate_lies_over_them() -> None:
    """The seat over an air spring is 20 mm high and reaches 23 mm past its webs: under it no torch would go."""
    design = demo("quay")
    saved = next(part for part in design.parts if part.name == "Rear spring, upper end, seat")
    lines = [line for joint in look_round(work(design), saved.id).joints for line in joint.lines if line.sort == "torch"]  # fmt: skip
    assert [line.state for line in lines] == ["good"]
    under = [Fixed(name=one.name, solid=one.solid) for one in pieces_of(part_of(saved, design).own.flats, PAD)]
    assert any(torch_along(fillet, under).share < 1.0 for fillet in part_of(saved, design).own.fillets)


def test_what_an_arm_s_other_tube_keeps_the_torch_from_is_to_be_welded_before_that_stands_there() -> None:
    design = demo("marram")
    saved = next(part for part in design.parts if part.name == "Front bump stop, pad")
    (line,) = [line for joint in look_round(work(design), saved.id).joints for line in joint.lines if line.sort == "torch"]  # fmt: skip
    assert "another tube in the way" in line.told
    assert line.state == "attention"
    assert "Weld it before the rest stands there" in line.cure
