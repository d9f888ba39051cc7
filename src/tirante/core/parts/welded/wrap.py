"""Wraps for the notches of a tube, 1:1: both ends on one sheet, along the line that clocks them to each other."""

from __future__ import annotations

from itertools import pairwise
from math import radians

import numpy as np

from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Numbers, Sheet
from tirante.core.notch.meeting import Fitted
from tirante.core.parts.part import Part, View
from tirante.core.parts.welded.tube_ends import Cut, wrap_places, wrap_width, wrapped

FINE = 1.0  # [deg] from point to point of the curve, its corners beside them: a test holds its chords to a hundredth of a millimetre on the demos
BAND = 22.0  # [mm] of paper beyond the bottom of a notch, to hold it by
BETWEEN = 14.0  # [mm] between the wraps of both ends


def wrap_name(cut: Cut) -> str:
    """Of the view."""
    return f"wrap-{cut.run.name.replace(' ', '-')}"


def wrap_views(cuts: tuple[Cut, ...], numbers: Numbers | None = None) -> tuple[View, ...]:
    """A view for each tube that has a notch.

    Args:
        cuts: the tubes.
        numbers: how lengths are written; None: in millimetres.
    """
    written = (numbers or Numbers()).written
    return tuple(
        View(
            name=wrap_name(cut), title=f"{cut.run.name}, wrap", cut=True,
            told=f"{cut.run.name}: saw {written(cut.length)}. Cut the paper along the curve, wrap it with the print outside, its end line on the "
            "sawn end and “top” on the tube’s top line; scribe, cut square to the tube, and dress what touches early.",
        )
        for cut in cuts if any(isinstance(end, Fitted) for end in cut.ends)
    )  # fmt: skip


def wrap_sheet(cut: Cut, numbers: Numbers, other_hand: str) -> Drawing:
    """The wraps of a tube's ends, the first at the foot.

    Args:
        cut: the tube.
        numbers: how lengths are written.
        other_hand: what is said of the part on the other side; empty where it is the same.
    """
    wide = wrap_width(cut)
    ends = [which for which in (0, 1) if isinstance(cut.ends[which], Fitted)]
    tall = {which: _depth(cut, which) + BAND for which in ends}
    high = sum(tall.values()) + BETWEEN * (len(ends) - 1) + 2.0
    sheet = Sheet(name=wrap_name(cut), title=f"{cut.run.name}, wrap", width=wide, height=high + 10.0, numbers=numbers)
    y = 1.0
    for which in ends:
        _one(sheet, cut, which, y, wide, tall[which])
        y += tall[which] + BETWEEN
    sheet.line((wide / 2, 1.0), (wide / 2, high), "mark", ref=f"tube:{cut.run.name}")
    said = f"{numbers.main(wide)} round"
    sheet.text((wide / 2, high + 5.0), f"top · {said}", 3.5, "middle", mono=True, bold=True, ref=f"tube:{cut.run.name}")
    if other_hand:
        sheet.text((0.0, high + 1.4), other_hand, 2.8, "start", "muted")
    return sheet.done()


def wrap_of(cut: Cut, part: Part, numbers: Numbers) -> Drawing:
    """The wraps of a tube of a part.

    Args:
        cut: the tube.
        part: that it is a tube of.
        numbers: how lengths are written.
    """
    other = (
        "the left one is drawn; for the right one wrap it with the print inside"
        if part.side == "pair" and not part.own_mirror
        else ""
    )
    return wrap_sheet(cut, numbers, other)


def _depth(cut: Cut, which: int) -> float:
    end = cut.ends[which]
    assert isinstance(end, Fitted)
    return end.depth


def _one(sheet: Sheet, cut: Cut, which: int, y: float, wide: float, tall: float) -> None:
    """One end: its end line, the curve, and which end it is."""
    line, sign = (y, 1.0) if which == 0 else (y + tall, -1.0)
    across = wrap_places(cut, which, FINE)
    depths = wrapped(cut, which, across)
    places = [(wide / 2 + float(x), line + sign * float(d)) for x, d in zip(across, depths, strict=True)]
    sheet.area(((0.0, line), *places, (wide, line)), "steel", None, ref=f"tube:{cut.run.name}")  # what comes off
    for a, b in pairwise(places):
        sheet.line(a, b, "cut", ref=f"tube:{cut.run.name}")
    back = line + sign * tall
    # closed, so that a cutter of paper or vinyl goes round it
    round_it = (places[-1], (wide, back), (0.0, back), places[0])
    for a, b in pairwise(round_it):
        sheet.line(a, b, "cut", ref=f"tube:{cut.run.name}")
    sheet.line((0.0, line), (wide, line), "mark", ref=f"tube:{cut.run.name}")
    end = cut.ends[which]
    assert isinstance(end, Fitted)
    place = line + sign * (end.depth + BAND * 0.5)
    meets = cut.run.ends[which]
    sheet.text((3.0, place + 1.0), f"{cut.run.name}, {meets.where}", 3.2, bold=True, ref=f"tube:{cut.run.name}")
    sheet.text(
        (3.0, place - 4.0),
        f"over {', then '.join(one.name for one in end.rounds)}",
        2.8,
        tone="muted",
        ref=f"tube:{cut.run.name}",
    )
    for quarter in (-90, 90):
        x = wide / 2 + radians(quarter) * wide / (2 * np.pi)
        sheet.line(
            (x, line + sign * (end.depth + 2)), (x, line + sign * (end.depth + 6)), "mark", ref=f"tube:{cut.run.name}"
        )
