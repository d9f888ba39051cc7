"""Turned pieces: sizes from what they are part of, their drawing by its texts and lengths, H7 by the standard's own formula."""

from __future__ import annotations

from math import sqrt
from typing import Any

import pytest

from tests.core.test_loads import demo
from tests.jobs import draw, part_of, with_part
from tirante.core.document.design import Design
from tirante.core.document.fields import Length
from tirante.core.document.parts.frame_arm import FrameArm
from tirante.core.document.parts.link import Link, Splice
from tirante.core.document.parts.rocker import Rocker
from tirante.core.drawing.sheet import Numbers
from tirante.core.parts.part import TurnedPiece
from tirante.core.parts.turned import H7, h7


def test_h7_is_sixteen_tolerance_units_of_the_step_s_mean() -> None:
    """ISO 286-1: i = 0.45 ∛D + 0.001 D [µm], D the geometric mean of the step; IT7 = 16 i, rounded (from memory)."""
    for over, to, upper in H7:
        mean = sqrt(over * to)
        assert upper == pytest.approx(16 * (0.45 * mean ** (1 / 3) + 0.001 * mean), abs=1.2)
        assert h7(to) == upper / 1000
        assert h7(over + 0.1) == upper / 1000
    assert h7(30.0) == 0.021  # every handbook: 30 H7 is 0 to +21
    assert h7(500.0) is None


def turned(part: Any) -> list[TurnedPiece]:
    return [piece for piece in part.pieces if isinstance(piece, TurnedPiece) and piece.turned is not None]


def words(drawing: Any) -> str:
    return " | ".join(item.text for item in drawing.items if hasattr(item, "text"))


def test_a_welded_arm_s_sleeves_are_turned_as_they_are_judged() -> None:
    design = demo("plover")
    arm = next(p for p in design.parts if isinstance(p, FrameArm) and p.name == "Front radius arm")
    part = part_of(arm, design)
    found = turned(part)
    assert len(found) == len([joint for joint in arm.joints if joint.pin])
    for piece, joint in zip(found, arm.joints, strict=True):
        of, pin = piece.turned, joint.pin
        assert of
        assert pin
        assert (of.outside, of.length) == (2 * joint.face_mm, pin.between_mm - pin.shorter_mm)
        assert (of.outside - of.bore) / 2 == pytest.approx(pin.wall_mm)  # the wall that its checks have
        assert of.rough == pytest.approx(of.bore - 1.0)  # left for after welding
        view = next(v for v in part.views if v.title == f"{piece.name}, turned")
        sheet = draw(arm, design, view.name, Numbers())
        told = words(sheet)
        assert f"⌀{Numbers(fits=True).main(of.bore)} H7, 0 to +{h7(of.bore):.3f} mm" in told
        inches = words(draw(arm, design, view.name, Numbers(unit="in")))
        assert f"⌀{of.bore / 25.4:.3f}″ H7" in inches  # thousandths: a fit is no tape's fraction
        assert f"Turn {piece.count * arm.count}" in told
        assert Numbers(fits=True).main(of.length) in told
        assert Numbers(fits=True).main(of.outside) in told
        assert f"Turn the bore to ⌀{Numbers(fits=True).main(of.rough)}" in told
    # a longer sleeve is another piece of metal
    longer = arm.model_copy(update={"joints": tuple(j.model_copy(update={"pin": j.pin and j.pin.model_copy(update={"shorter_mm": 1.0})}) for j in arm.joints)})  # fmt: skip
    assert part_of(longer, with_part(design, longer)).metal != part.metal
    # without sizes there is no drawing, and the list says what it can
    bare = arm.model_copy(update={"joints": tuple(j.model_copy(update={"pin": None}) for j in arm.joints)})
    assert turned(part_of(bare, with_part(design, bare))) == []


def test_a_rocker_s_boss_and_a_link_s_sleeve_have_their_drawings(marram: Design) -> None:
    design = demo("dunlin")
    rocker = next(p for p in design.parts if isinstance(p, Rocker))
    (boss,) = turned(part_of(rocker, design))
    assert boss.turned
    assert (boss.turned.outside, boss.turned.length, boss.turned.bore) == (rocker.boss_mm, rocker.boss_length_mm, rocker.bore_mm)  # fmt: skip
    assert "finished after welding" in boss.what
    link = next(p for p in marram.parts if isinstance(p, Link) and p.name == "Panhard rod")
    spliced = link.model_copy(
        update={"splice": Splice(at=Length(mm=300.0), length=Length(mm=90.0), wall_mm=2.0, sleeve="outside")}
    )
    part = part_of(spliced, with_part(marram, spliced))
    (sleeve,) = turned(part)
    tube = next(row for row in marram.catalogue.tubes if row.key == link.tube)
    assert sleeve.turned
    assert (sleeve.turned.bore, sleeve.turned.outside, sleeve.turned.length) == pytest.approx((tube.od_mm, tube.od_mm + 4.0, 90.0))  # fmt: skip
    assert not sleeve.turned.after
    assert "to slip over the tube" in words(draw(spliced, with_part(marram, spliced), "turned-sleeve", Numbers()))
