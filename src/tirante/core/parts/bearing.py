"""A bearing that a part turns in and that is bolted down: where it is, how it is drilled, and what comes through it."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from tirante.core.document.joints import PointOfBody
from tirante.core.loads.case_seen import NotCarried

Array = NDArray[np.float64]


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Bearing:
    """A split bearing with two bolts, as the left one is; its sizes [mm]."""

    name: str  # of it, on its part
    part_id: str
    part_name: str
    held: PointOfBody
    at: Array  # on the bar's line (3)
    along: Array  # of that line (3), length 1
    bar: float | None  # diameter of what turns in it; None: not known
    bolt: float | None = None
    bolt_class: str = ""
    pitch: float | None = None  # between its bolts, across the bar
    high: float | None = None  # of the bar's line over its foot
    alike: bool = True  # whether the right one is its mirror image
    turns: str = "bar"  # what lies in it, in a word
    foot: str = "bearing"  # what it is called
    unseen: tuple[str, ...] = (
        "what pushes the bar along itself: no case has it, collars do",
    )  # what no case has of it

    @property
    def missing(self) -> str | None:
        """What must be given before anything can be made under it."""
        if self.bolt is None or self.pitch is None or self.high is None:
            plural = "feet" if self.foot == "foot" else f"{self.foot}s"
            return f"Give the bolts of the {plural} first, how far apart they are, and how high the {self.turns}’s line is over its foot, at {self.part_name}."
        return None


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class BearingCase:
    """What a bearing sees in a case, as the left one is."""

    case: str
    where: str
    force: Array  # of the part on what holds it (3) [N]


@dataclass(frozen=True, slots=True, kw_only=True)
class BearingSeen:
    """Every case at a bearing, of either side."""

    cases: tuple[BearingCase, ...]
    left_out: tuple[NotCarried, ...] = ()
