"""A notch cut by a hole saw: which saw, how the tube is held, and what gap is left where the saw is not as wide as what the tube stands on.

Not covered: a saw that walks or is worn; a notch over more than one surface, which one saw does not cut.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import degrees, pi

import numpy as np

from tirante.core.errors import NotApplicable
from tirante.core.notch.meeting import Fitted

CLOSE = 1.6  # [mm] of gap that a fillet fills as it is; AWS D1.1, fit-up of fillet welds, from memory
MOST = 5.0  # [mm] of gap up to which the leg is made larger by the gap; beyond it the joint is fitted anew; likewise
# sizes that hole saws for metal are sold in [mm]; common practice, no source: a shop's own are what counts
USUAL_SAWS = (
    14, 16, 17, 19, 20, 21, 22, 24, 25, 27, 29, 30, 32, 33, 35, 37, 38, 40, 41, 43, 44, 46, 48, 51, 52, 54, 55, 57, 59, 60, 64, 65, 67, 68, 70, 73,
    76, 79, 83, 86, 89, 92, 95, 98, 102, 105, 108, 111, 114, 121, 127, 133, 140, 146, 152,
)  # fmt: skip


@dataclass(frozen=True, slots=True, kw_only=True)
class SawCut:
    """A notch by a hole saw."""

    saw: float  # [mm] across
    off_square: float  # [rad] that the tube is turned in the fixture from square to the saw's way
    offset: float  # [mm] of the tube's axis beside the saw's
    gap: float  # [mm] at its widest, from the tube's edge to the surface
    gap_at: float  # [rad] where round the tube

    @property
    def fit(self) -> str:
        """How the gap is welded."""
        if self.gap <= CLOSE:
            return "close"
        return "larger fillet" if self.gap <= MOST else "too wide"


AROUND = np.arange(720) * 2 * pi / 720  # places round the tube that are looked at


def saw_cut(found: Fitted, saw: float) -> SawCut:
    """The notch that a saw leaves, set as close as it goes without being dressed.

    Args:
        found: the tube's end as it should be.
        saw: across [mm].

    Raises:
        NotApplicable: the tube meets more than one surface, or is wider than the saw.
    """
    if len(found.rounds) > 1:
        raise NotApplicable(
            "One hole saw does not cut a notch over two surfaces. Cut it to its wrap template.", code="two_surfaces"
        )
    least = _narrowest(found)
    if saw < least - 1e-9:
        raise NotApplicable(
            f"A saw of ⌀{saw:g} mm is narrower than the tube stands across, {least:.1f} mm. Take a wider one.",
            code="narrow_saw", fields=("saw_mm",), value=saw, limits=(least, None),
        )  # fmt: skip
    return _cuts(found, [saw])[0]


def nearest_saw(found: Fitted, saws: Sequence[float] = USUAL_SAWS) -> SawCut | None:
    """Of a shop's saws the one that leaves the least gap; None where none does or one saw does not cut it.

    Args:
        found: the tube's end as it should be.
        saws: across [mm].
    """
    wide = [saw for saw in saws if saw >= _narrowest(found) - 1e-9]
    one = found.one_round
    if one is None or not wide:
        return None
    return min(_cuts(found, wide), key=lambda cut: (round(cut.gap, 6), abs(cut.saw - 2 * one.radius)))


def _narrowest(found: Fitted) -> float:
    """Saw that the tube stands in at all [mm]."""
    return 2 * (found.offset_to(found.rounds[0]) + found.branch.od / 2)


def _cuts(found: Fitted, saws: Sequence[float]) -> list[SawCut]:
    """The notches that saws leave, all at once: a saw's axis is the surface's own."""
    one, radius = found.one_round, found.branch.od / 2
    assert one
    come = found.coming(one, AROUND, radius)
    cut = (-come.half + come.root(np.array(saws, float)[:, None] / 2)) / come.a
    begins = cut + (found.at(AROUND, radius) - cut).max(axis=1, keepdims=True)
    away = come.away(begins) - one.radius
    worst = np.argmax(away, axis=1)
    off_square, offset = pi / 2 - found.angle_to(one), found.offset_to(one)
    return [
        SawCut(saw=saw, off_square=off_square, offset=offset, gap=max(0.0, float(row[at])), gap_at=float(AROUND[at]))
        for saw, row, at in zip(saws, away, worst, strict=True)
    ]


def told(cut: SawCut) -> str:
    """The cut in words."""
    how = {
        "close": "",
        "larger fillet": ": make the fillet’s leg larger by it",
        "too wide": ": too wide, cut it to its wrap template",
    }[cut.fit]
    gap = f", gap {cut.gap:.1f} mm at most{how}" if cut.gap > 0.05 else ""
    beside = f", {cut.offset:.1f} mm beside its middle" if cut.offset > 0.05 else ""
    return f"hole saw ⌀{cut.saw:g} mm, tube {degrees(cut.off_square):.1f}° off square{beside}{gap}"
