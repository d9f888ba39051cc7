"""What a finished member is measured by: every length from joint to joint with its tolerance, and the one signed figure that the wrong hand cannot pass."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import combinations

import numpy as np

from tirante.core.jigs.features import Features
from tirante.core.jigs.handed import SignedFigure, own_mirror, signed_figure
from tirante.core.job.worked import Worked
from tirante.core.parts.part import Part
from tirante.core.parts.registry import kind_of


@dataclass(frozen=True, slots=True, kw_only=True)
class CheckLength:
    """A length that is measured cold [mm]."""

    what: str
    mm: float


@dataclass(frozen=True, slots=True, kw_only=True)
class CheckSheet:
    """A member's."""

    part_id: str
    name: str
    hands: tuple[str, ...]  # LEFT and RIGHT, or one side; empty where there is one
    lengths: tuple[CheckLength, ...]
    tolerance: float  # [mm]
    signed: SignedFigure | None  # of the left one of a pair; the right one's has the other sign
    alike: bool  # whether it is its own mirror image
    from_card: str = ""  # why its joints give no lengths, so that its card's figures stand here; empty: they do


def check_sheets(job: Worked, parts: list[Part]) -> tuple[CheckSheet, ...]:
    """Of every complete member that is made here.

    Args:
        job: worked out.
        parts: of it, that are wanted.
    """
    return tuple(
        _sheet(job, part) for part in parts
        if part.complete and kind_of(part.saved).station == "members" and not kind_of(part.saved).bought
    )  # fmt: skip


def _sheet(job: Worked, part: Part) -> CheckSheet:
    tolerance = job.settings.check_tolerance_mm
    hands = {"pair": ("LEFT", "RIGHT"), "left": ("LEFT",), "right": ("RIGHT",)}.get(part.side, ("",))
    features = job.features(part.saved)
    if not isinstance(features, Features) or len(features.held) < 2:
        lengths = [CheckLength(what=one.label, mm=one.mm) for one in (part.card.figures if part.card else ())]
        if kind_of(part.saved).stands_between and not lengths:
            lengths = [CheckLength(what="end A to end B", mm=part.saved.between.mm)]  # type: ignore[attr-defined]
        why = features if isinstance(features, str) else "Fewer than two of its joints are known."
        return CheckSheet(
            part_id=part.id, name=part.name, hands=hands, lengths=tuple(lengths), tolerance=tolerance, signed=None, alike=part.own_mirror, from_card=why,
        )  # fmt: skip
    alike = own_mirror(features.held) is not None
    return CheckSheet(
        part_id=part.id, name=part.name, hands=hands,
        lengths=tuple(CheckLength(what=f"{a.name} to {b.name}", mm=float(np.linalg.norm(a.p - b.p))) for a, b in combinations(features.held, 2)),
        tolerance=tolerance, signed=None if alike else signed_figure(features.held, tolerance), alike=alike,
    )  # fmt: skip
