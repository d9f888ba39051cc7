"""One jig for a range of links: a fixed pair of posts and a pair on a carriage in two slots, set by a scale, the gap filled by spacers.

Not covered: links whose two bolts are not parallel, and how stiff its bar is.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import ceil, floor

import numpy as np

from tirante.core.errors import InputError
from tirante.core.flat.contour import Contour, Edge, Hole, Straight, slot, straight_sides
from tirante.core.jigs.features import Features

PARALLEL = 1e-6  # of the bolts' directions
STEP = 10.0  # [mm] from mark to mark of the scale
LONG = 5  # marks to a longer one with its figure
FREE = 20.0  # [mm] that the slots go on past the shortest and the longest
WEB = 10.0  # [mm] of bar beside a slot; common practice, no source
SCALE = 12.0  # [mm] for the scale and its figures
FOOT = 40.0  # [mm] between the two clamping bolts of one side, along the bar


@dataclass(frozen=True, slots=True, kw_only=True)
class Setting:
    """A link on the jig [mm]."""

    name: str
    at: float  # pivot to pivot as it is set
    cold: float
    spacers: tuple[float, float]  # each side, at either end
    bores: tuple[float, float]
    bent: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class SetJig:
    """The jig [mm]."""

    settings: tuple[Setting, ...]
    gap: float  # between the posts of a pair
    bore: float  # of the holes in its posts; thinner bolts have a bush
    height: float  # of the bolts over the bar
    bar: tuple[float, float]  # from and to along it, from the fixed pair's bolt
    slots: tuple[float, float]


def two_ended(features: Features) -> str:
    """Why a part is not held by such a jig; empty where it is.

    Args:
        features: of the part.
    """
    if len(features.held) != 2:
        return "it has not two joints"
    a, b = features.held
    long = float(np.linalg.norm(b.p - a.p))
    if long < 2 * FOOT + FREE:
        return f"it is {long:.0f} mm long, and its two foot plates need {2 * FOOT + FREE:.0f} mm between the bolts"
    along = (b.p - a.p) / long
    if abs(abs(float(a.a @ b.a)) - 1.0) > PARALLEL:
        return "its two bolts are not parallel"
    if abs(float(along @ a.a)) > PARALLEL:
        return "its bolts are not square to it"
    return ""


def set_jig(
    links: Sequence[tuple[str, Features]], *, shrink: float, clearance: float, margin: float, gap: float | None, up_to: float = 0.0
) -> SetJig:  # fmt: skip
    """What holds all of some links, one at a time.

    Args:
        links: each by its name, that `two_ended` has nothing against.
        shrink: allowance of one bead across a tube [mm].
        clearance: from the bar to the lowest of any [mm].
        margin: of bar past its posts [mm].
        gap: between the posts of a pair [mm]; None: as the widest asks.
        up_to: longer links that it is to take some day [mm].

    Raises:
        InputError: no link, or a gap that one does not go into.

    Source:
        Geometry (derived).
    """
    if not links:
        raise InputError("No link of this job goes on one jig: none has two parallel bolts yet.", code="missing", fields=("links",))  # fmt: skip
    widest = max(held.wide for _, features in links for held in features.held)
    if gap is not None and gap < widest:
        name = next(name for name, features in links for held in features.held if held.wide == widest)
        raise InputError(f"{name} is {widest:g} mm wide over an end and does not go between posts {gap:g} mm apart: give {widest:g} mm or more.", code="out_of_range", fields=("gap_mm",), value=gap, limits=(widest, None))  # fmt: skip
    gap = widest if gap is None else gap
    settings = []
    low = 0.0
    for name, features in links:
        a, b = features.held
        cold = float(np.linalg.norm(b.p - a.p))
        beads = sum(seam is not None for bar in features.bars for seam in (bar.a_seam, bar.b_seam))
        settings.append(Setting(
            name=name, at=cold + shrink * beads, cold=cold, spacers=((gap - a.wide) / 2, (gap - b.wide) / 2), bores=(a.bore, b.bore), bent=len(features.bars) > 1 and _bent(features),
        ))  # fmt: skip
        low = max(low, *(held.outside / 2 for held in features.held), *(bar.od / 2 for bar in features.bars))
    longest, shortest = max(up_to, *(one.at for one in settings)), min(one.at for one in settings)
    reach = FREE + FOOT / 2
    return SetJig(
        settings=tuple(sorted(settings, key=lambda one: one.at)), gap=gap, bore=max(bore for one in settings for bore in one.bores), height=low + clearance,
        bar=(-margin - FOOT, longest + reach + margin), slots=(shortest - reach, longest + reach),
    )  # fmt: skip


def _bent(features: Features) -> bool:
    a, b = features.held
    way = (b.p - a.p) / float(np.linalg.norm(b.p - a.p))
    return any(
        float(np.linalg.norm(np.cross(np.array(end) - a.p, way))) > 1.0
        for bar in features.bars
        for end in (bar.a, bar.b)
    )


def across(jig: SetJig, *, post: float, clamp: float) -> tuple[float, float]:
    """How far off its middle the clamping bolts stand, clear of the posts, and how wide the bar then is, with web and scale beside the slots [mm].

    Args:
        jig: laid out.
        post: thickness of a post [mm].
        clamp: width of a slot [mm].
    """
    off = float(ceil(jig.gap / 2 + post + clamp + 3.0))
    return off, 2.0 * (off + ceil(clamp / 2) + WEB + SCALE)


def bar_contour(jig: SetJig, *, post: float, clamp: float, pilot: float) -> Contour:
    """The bar: two slots for the carriage's clamping bolts, holes for the fixed foot plate, the scale etched along its edge from the fixed bolt.

    Args:
        jig: laid out.
        post: thickness of a post [mm].
        clamp: width of a slot [mm].
        pilot: holes of the fixed foot plate [mm].
    """
    v, wide = across(jig, post=post, clamp=clamp)
    (left, right), half = jig.bar, wide / 2
    corners = [(left, -half), (right, -half), (right, half), (left, half)]
    edges: tuple[Edge, ...] = straight_sides(corners)
    openings = tuple(slot(Straight(jig.slots[0] + clamp / 2, y, jig.slots[1] - clamp / 2, y), clamp) for y in (-v, v))
    holes = tuple(Hole(x, y, pilot) for x in (-FOOT / 2, FOOT / 2) for y in (-v, v))
    marks = []
    for i in range(ceil(jig.slots[0] / STEP), floor(jig.slots[1] / STEP) + 1):
        long = 10.0 if i % LONG == 0 else 5.0
        marks.append(Straight(i * STEP, half - long, i * STEP, half - 0.5))
    return Contour(edges=edges, holes=holes, openings=openings, marks=tuple(marks))
