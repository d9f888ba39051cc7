"""What a jig takes hold of on a rocker: its boss and the eyes of its plates, in the plane of its plates, z along the line it turns about."""

from __future__ import annotations

from tirante.core.document.parts.rocker import Rocker
from tirante.core.flat.contour import points_along
from tirante.core.jigs.features import Features, Held, Ring, Sheet
from tirante.core.parts.part import Turned
from tirante.core.parts.rocker.shape import RockerShape

_ACROSS = (0.0, 0.0, 1.0)
COARSE = 1.0  # [mm] that a plate's edge may stand off, where only its room is asked


def features_of(rocker: Rocker, shape: RockerShape, boss: Turned) -> Features:
    """A rocker as a jig has it: its plates are held by the bolts of all their bores, its boss by a turned dummy in its bore as it is until it is welded.

    Args:
        rocker: complete.
        shape: its plate and where its eyes lie.
        boss: as it is turned.
    """
    twins = rocker.plates == 2
    over = rocker.plate_mm + (rocker.inside_mm + rocker.plate_mm if twins else 0.0)  # over the faces of what is held
    apart = f", a spacer {rocker.inside_mm:g} mm long between the plates" if twins else ""
    boss_at = Held(
        name="pivot", at=(0.0, 0.0, 0.0), axis=_ACROSS, directed=False, bore=rocker.pivot_eye.bore_mm if rocker.pivot_eye else rocker.bore_mm / 2, wide=boss.length, outside=rocker.boss_mm,
        what="boss", seat=boss.rough,
    )  # fmt: skip
    eyes = tuple(
        Held(
            name=one.words, at=(one.x, one.y, 0.0), axis=_ACROSS, directed=False, bore=one.eye.pin_mm, wide=over, outside=2 * one.eye.head_mm,
            what=f"eye{apart}",
        )
        for one in shape.eyes
    )  # fmt: skip
    edge = points_along(shape.outline.edges, COARSE)
    half = (over - rocker.plate_mm) / 2
    middles = (-half, half) if twins else (0.0,)
    sheets = tuple(
        Sheet(name="plate" if not twins else f"plate {i}", corners=tuple((x, y, z) for x, y in edge), thickness=rocker.plate_mm, stopped=False)
        for i, z in enumerate(middles, start=1)
    )  # fmt: skip
    rings = tuple(
        Ring(name="boss", to="pivot", at=(0.0, 0.0, z), reach=rocker.boss_mm / 2 + rocker.leg_mm)
        for z in (-over / 2, over / 2)
    )
    return Features(held=(boss_at, *eyes), sheets=sheets, rings=rings)
