"""What was measured of a finished part against what it must be: in words, with how far it is out and what that may come from."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from tirante.core.job.check_sheets import check_sheets
from tirante.core.job.worked import Worked
from tirante.core.parts.part import Part
from tirante.core.units import INCH

SHOWING = "thread showing"  # as a link's card has it
MOST = "never more than"
Sort = Literal["length", "signed", "showing"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Wanted:
    """Something that is measured of one hand of a part [mm]."""

    key: str
    sort: Sort
    what: str
    mm: float
    tolerance: float
    most: float | None = None  # of a thread: more never shows
    shrink: float = 0.0  # [mm] that it is set longer by than it is cold, while it is only tacked


@dataclass(frozen=True, slots=True, kw_only=True)
class Judged:
    """A reading against what is wanted."""

    off: float  # [mm] read less wanted
    inside: bool
    says: str


def wanted_of(job: Worked, part: Part, hand: str) -> tuple[tuple[Wanted, ...], str]:
    """What one hand of a part is measured by: its joints' lengths and signed figure as its check sheet has them, and what shows of its threads.

    Args:
        job: worked out.
        part: of it.
        hand: left or right; empty of a part that is no pair.

    Returns:
        What is measured, and why nothing (else) is; empty where that is all.
    """
    sheet = next(iter(check_sheets(job, [part])), None)
    if sheet is None:
        return (), "No check sheet is made of it: measure it by its drawing."
    shrink = part.jig.set_length - part.jig.check_length if part.jig is not None else 0.0
    found = [
        Wanted(key=f"length:{one.what}", sort="length", what=one.what, mm=one.mm, shrink=shrink, tolerance=sheet.tolerance) for one in sheet.lengths
    ]  # fmt: skip
    if sheet.signed is not None:
        mirrored = hand == "right" and part.side == "pair"  # a sheet's figure is of the left one of a pair
        figure = sheet.signed
        what = f"{figure.fourth}, over the plane of {', '.join(figure.plane)}"
        height = -figure.height if mirrored else figure.height
        found.append(Wanted(key="signed", sort="signed", what=what, mm=height, tolerance=figure.tolerance))
    for i, end in enumerate(part.card.ends if part.card else ()):
        lines = {line.text: line.mm for line in end.lines}
        shows = lines.get(SHOWING)
        if shows is not None:
            found.append(Wanted(key=f"showing:{'AB'[i]}", sort="showing", what=f"end {'AB'[i]}, {SHOWING}", mm=shows, tolerance=sheet.tolerance, most=lines.get(MOST)))  # fmt: skip
    return tuple(found), sheet.from_card


def judge(wanted: Wanted, mm: float, *, tacked: bool = False) -> Judged:
    """A reading against what is wanted, in words.

    Args:
        wanted: what it is of.
        mm: that was read.
        tacked: before its beads have drawn it: it is then longer by what its rail allows for that.
    """
    off = mm - wanted.mm - (wanted.shrink if tacked else 0.0)
    inside = abs(off) <= wanted.tolerance + 1e-9
    out = abs(off) - wanted.tolerance
    if wanted.most is not None and mm > wanted.most + 1e-9:
        return Judged(off=off, inside=False, says=f"{mm - wanted.most:.1f} mm more shows than ever may: too little of it is engaged. Do not drive it.")  # fmt: skip
    if inside:
        return Judged(off=off, inside=True, says=f"within: {abs(off):.1f} mm {_way(wanted, off)} of ± {wanted.tolerance:.1f} mm")  # fmt: skip
    says = f"out: {abs(off):.1f} mm {_way(wanted, off)}, {out:.{1 if out >= 0.1 else 2}f} mm more than is let through"
    if wanted.sort == "signed" and abs(mm + wanted.mm) <= wanted.tolerance:
        says = "the other hand: it is made as its mirror image"
    elif abs(mm * INCH - wanted.mm) <= 10 * wanted.tolerance:
        says += "; it would fit if it was read in inches"
    elif abs(mm / INCH - wanted.mm) <= 10 * wanted.tolerance:
        says += "; it would fit if inches were taken for it that were millimetres"
    return Judged(off=off, inside=False, says=says)


def _way(wanted: Wanted, off: float) -> str:
    if wanted.sort == "length":
        return "too long" if off > 0 else "too short"
    return "too much" if off > 0 else "too little"
