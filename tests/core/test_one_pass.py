"""Notches that one pass of a hole saw makes on two pieces: the tube cut through point by point, and layouts that lose nothing by it."""

from __future__ import annotations

from collections import Counter
from math import cos, radians, sin, sqrt

import numpy as np
import pytest
from numpy.typing import NDArray

from tests.core.test_loads import demo
from tests.jobs import work
from tirante.core.cutting.cut_list import SawPiece, cut_list
from tirante.core.cutting.from_rack import from_rack, named_piece, told
from tirante.core.cutting.kept import heats_of, keep
from tirante.core.cutting.passes import Pass, pass_of
from tirante.core.cutting.sticks import Saw
from tirante.core.parts.part import TubePiece
from tirante.documents.saw import cut_order, saw

Array = NDArray[np.float64]
JOB = work(demo("marram"))
PIECES = cut_list(JOB.parts, catalogue=JOB.catalogue).pieces
FINE = 0.02  # [mm] along the tube from point to point


def cut_through(od: float, by: Pass) -> tuple[Array, Array, Array]:
    """Round a tube, in its own degrees: where its metal ends before the saw and begins again behind it, along the tube, points of its outside tried one by one."""
    phi = np.arange(0.0, 360.0, 3.0)
    r, beta = od / 2, radians(by.off_square)
    along = np.arange(-120.0, 120.0, FINE)
    way = np.array(
        [cos(beta), 0.0, sin(beta)]
    )  # of the saw: in the plane of both axes, so far off square to the tube (z)
    before, behind = [], []
    for deg in np.radians(phi):
        at = np.stack([np.full_like(along, r * np.cos(deg)), np.full_like(along, r * np.sin(deg)), along], axis=1)
        off = np.linalg.norm(np.cross(at, way), axis=1)
        inside = np.flatnonzero(off < by.saw / 2)
        # a saw that is as wide as the tube only touches its sides
        before.append(along[inside[0]] if inside.size else float(r * np.cos(deg) * np.tan(beta)))
        behind.append(along[inside[-1]] if inside.size else float(r * np.cos(deg) * np.tan(beta)))
    return phi, np.array(before), np.array(behind)


@pytest.mark.parametrize(
    ("od", "saw_mm", "off"), [(50.8, 60.0, 24.0), (50.8, 60.0, 0.0), (38.0, 38.0, 0.0), (38.0, 38.0, 40.0), (25.4, 44.0, 55.0), (22.0, 60.0, 8.6)]
)  # fmt: skip
def test_what_one_pass_leaves_between_the_longest_points_is_what_a_tube_cut_point_by_point_has(od: float, saw_mm: float, off: float) -> None:  # fmt: skip
    by = Pass(saw=saw_mm, off_square=off)
    _, before, behind = cut_through(od, by)
    assert by.apart(od) == pytest.approx(float(behind.min() - before.max()), abs=0.1)
    assert by.apart(od) >= -1e-9
    if off == 0.0:
        assert by.apart(od) == pytest.approx(sqrt(saw_mm**2 - od**2), abs=1e-3)
    # the piece behind has the same notch as the one before, turned over
    assert np.sort(before.max() - before) == pytest.approx(np.sort(behind - behind.min()), abs=2 * FINE)


def test_the_notch_that_a_pass_leaves_is_the_one_that_was_worked_out_for_the_arm_s_tube() -> None:
    tube = next(piece for part in JOB.parts if part.name == "Front lower arm" for piece in part.pieces if isinstance(piece, TubePiece) and piece.name == "front tube")  # fmt: skip
    notch = tube.notches[0]
    by = pass_of(notch)
    assert notch
    assert by
    assert (by.saw, by.off_square) == (60.0, pytest.approx(90.0 - notch.angle_deg, abs=0.05))
    _, before, _ = cut_through(50.8, by)
    depths = np.sort(before.max() - before)
    worked = np.sort([depth for deg, depth, _ in notch.profile if deg < 360.0])
    assert np.quantile(depths, [0.1, 0.5, 0.9, 1.0]) == pytest.approx(
        np.quantile(worked, [0.1, 0.5, 0.9, 1.0]), abs=0.35
    )
    # over two surfaces, square, or beside the middle there is none
    two = next(piece for part in JOB.parts if part.name == "Front lower arm" for piece in part.pieces if isinstance(piece, TubePiece) and piece.name == "rear tube").notches[1]  # fmt: skip
    assert two
    assert len(two.onto) == 2
    assert pass_of(two) is None
    assert pass_of(None) is None


SAW = Saw(kerf=2.0, trim_start=10.0, trim_end=10.0)


def test_pieces_sawn_as_one_are_the_list_s_own_and_no_stick_is_longer_or_more_than_before() -> None:
    plain, both = from_rack(PIECES, [], 3000.0, SAW), from_rack(PIECES, [], 3000.0, SAW, share=True)
    assert sum(one.passes for one in both) >= 3
    for before, after in zip(plain, both, strict=True):
        assert before.cutting
        assert after.cutting
        assert after.cutting.new == before.cutting.new
        assert len(after.cutting.sticks) == len(before.cutting.sticks)
        counted: Counter[str] = Counter()
        for stick in after.cutting.sticks:
            used = sum(stick.pieces) + SAW.kerf * (len(stick.pieces) - 1)
            assert SAW.trim_start + used <= stick.length - SAW.trim_end + 1e-6
            assert stick.left == pytest.approx(SAW.left(stick.length, stick.pieces))
        own = [piece for piece in PIECES if (piece.tube, piece.grade) == (after.tube, after.grade)]
        lengths = Counter(round(piece.length_mm, 1) for piece in own for _ in range(piece.count))
        long = 0
        for stick in after.cutting.sticks:
            for mm in stick.pieces:
                if lengths[round(mm, 1)] > 0 and " as one: " not in after.names[mm]:
                    lengths[round(mm, 1)] -= 1
                    continue
                long += 1
                pair = [
                    (a, b)
                    for a in lengths
                    for b in lengths
                    if lengths[a] > (a == b) and lengths[b] > 0 and -0.05 <= mm - a - b <= 60.0
                ]
                assert pair, mm
                a, b = min(pair, key=lambda two: mm - two[0] - two[1])
                lengths[a] -= 1
                lengths[b] -= 1
                assert "hole saw" in after.names[mm]
        assert not +lengths, (after.tube, counted)
        assert long == after.passes
        if after.passes:
            assert f"with every piece sawn by itself; {after.passes} pass" in told(after)
            kept = keep(after, "Marram", "draft 1")
            assert len(saw(cut_order(kept), SAW.kerf).cuts) == sum(len(one.pieces) for one in after.cutting.sticks)
            hot = kept.model_copy(update={"new_heat": "H-1"})
            assert all(heats_of([hot], piece) == "H-1" for piece in own)


def like(name: str, mm: float, count: int, **more: object) -> SawPiece:
    given = {"od_mm": 50.0, "passes": (Pass(saw=60.0, off_square=20.0), None)} | more
    return SawPiece(key=name, part_id=name, part=name, side="pair", tube="50 × 3", grade="steel", length_mm=mm, count=count, before_notching=False, ends=("notched", "square"), **given)  # type: ignore[arg-type]  # fmt: skip


def test_it_is_done_where_there_is_room_and_the_notches_are_alike_and_says_where_the_saw_goes() -> None:
    apart = Pass(saw=60.0, off_square=20.0).apart(50.0)
    step = np.ceil(apart * 10 - 1e-6) / 10
    assert step > 2.0
    two = [like("arm", 500.0, 2)]
    full = 10.0 + 500.0 + step + 500.0 + 10.0
    (one,) = from_rack(two, [], full, SAW, share=True)
    assert one.cutting
    assert one.cutting.sticks[0].pieces == (round(1000.0 + step, 1),)
    assert one.names[round(1000.0 + step, 1)] == f"arm (pair) and arm (pair) as one: one pass of the ⌀60 mm hole saw, 20° off square, its middle {500.0 + step / 2:.1f} mm from the first’s other end, parts them"  # fmt: skip
    (less,) = from_rack(two, [], full - 0.2, SAW, share=True)
    assert less.passes == 0
    for other in (
        {"passes": (Pass(saw=60.0, off_square=21.0), None)},
        {"passes": (Pass(saw=57.0, off_square=20.0), None)},
        {"passes": (None, None)},
    ):
        (apart_,) = from_rack([like("arm", 500.0, 1), like("other", 400.0, 1, **other)], [], 3000.0, SAW, share=True)
        assert apart_.passes == 0
    (blind,) = from_rack([like("arm", 500.0, 2, od_mm=None)], [], 3000.0, SAW, share=True)
    assert blind.passes == 0
    # of four on a stick with room for one pass only one is made
    for many, room in ((1, 2026.0 + step - 2.0), (2, 2026.0 + 2 * (step - 2.0))):
        (four,) = from_rack([like("arm", 500.0, 4)], [], room, SAW, share=True)
        assert (four.passes, len(four.cutting.sticks) if four.cutting else 0) == (many, 1)
    (three,) = from_rack([like("arm", 500.0, 3)], [], 3000.0, SAW, share=True)
    assert (three.passes, named_piece(two[0])) == (1, "arm (pair)")
