"""What was measured of a finished part against what it must be: in words, with how far it is out and what that may come from.

Not covered: torque of jam nuts and of bolts whose thread is not known; with what a locking nut turns by itself, which comes on top; the clamp
that a torque gives, which friction scatters (VDI 2230, tightening factor of a torque wrench 1.4 to 1.6, from memory).
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from tirante.core.job.check_sheets import check_sheets
from tirante.core.job.worked import Worked
from tirante.core.parts.part import BoughtPiece, Part
from tirante.core.parts.steps import bolts_of
from tirante.core.units import INCH

SHOWING = "thread showing"  # as a link's card has it
MOST = "never more than"
Sort = Literal["length", "signed", "showing", "torque"]
Stage = Literal["tacked", "cold", "fitted", "outing"]
STAGES: dict[Stage, str] = {"tacked": "tacked", "cold": "cold", "fitted": "fitted", "outing": "after the first outing"}
FOOT_POUND = 1.3558179483  # [N·m]; NIST SP 811, table B.8
# up to so many N·m, by what share a wrench may be out; ISO 6789-1:2017, setting tools, from memory
WRENCH = ((10.0, 0.06), (float("inf"), 0.04))


@dataclass(frozen=True, slots=True, kw_only=True)
class Wanted:
    """Something that is measured of one hand of a part, in its unit."""

    key: str
    sort: Sort
    what: str
    figure: float
    tolerance: float
    most: float | None = None  # of a thread: more never shows
    shrink: float = 0.0  # [mm] that it is set longer by than it is cold, while it is only tacked

    @property
    def unit(self) -> Literal["mm", "N·m"]:
        """Of the figure and its tolerance."""
        return "N·m" if self.sort == "torque" else "mm"

    @property
    def when(self) -> tuple[Stage, ...]:
        """At which stages of the part it is read."""
        return ("fitted", "outing") if self.sort == "torque" else ("tacked", "cold")


@dataclass(frozen=True, slots=True, kw_only=True)
class Judged:
    """A reading against what is wanted."""

    off: float  # read less wanted
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
    torques = _torques(part)
    sheet = next(iter(check_sheets(job, [part])), None)
    if sheet is None:
        return torques, "No check sheet is made of it: measure it by its drawing."
    shrink = part.jig.set_length - part.jig.check_length if part.jig is not None else 0.0
    found = [
        Wanted(key=f"length:{one.what}", sort="length", what=one.what, figure=one.mm, shrink=shrink, tolerance=sheet.tolerance) for one in sheet.lengths
    ]  # fmt: skip
    if sheet.signed is not None:
        mirrored = hand == "right" and part.side == "pair"  # a sheet's figure is of the left one of a pair
        figure = sheet.signed
        what = f"{figure.fourth}, over the plane of {', '.join(figure.plane)}"
        height = -figure.height if mirrored else figure.height
        found.append(Wanted(key="signed", sort="signed", what=what, figure=height, tolerance=figure.tolerance))
    for i, end in enumerate(part.card.ends if part.card else ()):
        lines = {line.text: line.mm for line in end.lines}
        shows = lines.get(SHOWING)
        if shows is not None:
            found.append(Wanted(key=f"showing:{'AB'[i]}", sort="showing", what=f"end {'AB'[i]}, {SHOWING}", figure=shows, tolerance=sheet.tolerance, most=lines.get(MOST)))  # fmt: skip
    return (*found, *torques), sheet.from_card


def _torques(part: Part) -> tuple[Wanted, ...]:
    """Of the bolts that it goes onto the car with, as far as a torque is told; none of a tool, which holds no car together."""
    told = [] if part.tool else [(one, one.torque_nm) for one in bolts_of(part) if one.torque_nm is not None]
    return tuple(
        Wanted(
            key=f"torque:{i}:{torque:.1f}", sort="torque", what=f"torque of {_each(bolt)}, {torque / FOOT_POUND:.0f} lb·ft", figure=torque,
            tolerance=torque * next(share for most, share in WRENCH if torque <= most),
        )
        for i, (bolt, torque) in enumerate(told)
    )  # fmt: skip


def _each(one: BoughtPiece) -> str:
    called = one.ordered.partition(";")[0]
    return called if one.count == 1 else f"{one.count} × {called}, the one that is farthest out"


def judge(wanted: Wanted, read: float, *, tacked: bool = False) -> Judged:
    """A reading against what is wanted, in words.

    Args:
        wanted: what it is of.
        read: the figure, in its unit.
        tacked: before its beads have drawn it: it is then longer by what its rail allows for that.
    """
    unit = wanted.unit
    off = read - wanted.figure - (wanted.shrink if tacked else 0.0)
    inside = abs(off) <= wanted.tolerance + 1e-9
    out = abs(off) - wanted.tolerance
    if wanted.most is not None and read > wanted.most + 1e-9:
        return Judged(off=off, inside=False, says=f"{read - wanted.most:.1f} mm more shows than ever may: too little of it is engaged. Do not drive it.")  # fmt: skip
    if inside:
        return Judged(off=off, inside=True, says=f"within: {abs(off):.1f} {unit} {_way(wanted, off)} of ± {wanted.tolerance:.1f} {unit}")  # fmt: skip
    says = f"out: {abs(off):.1f} {unit} {_way(wanted, off)}, {out:.{1 if out >= 0.1 else 2}f} {unit} more than is let through"
    if wanted.sort == "signed" and abs(read + wanted.figure) <= wanted.tolerance:
        return Judged(off=off, inside=False, says="the other hand: it is made as its mirror image")
    small, large, ratio = ("foot-pounds", "newton metres", FOOT_POUND) if wanted.sort == "torque" else ("inches", "millimetres", INCH)  # fmt: skip
    slack = wanted.tolerance if wanted.sort == "torque" else 10 * wanted.tolerance
    if abs(read * ratio - wanted.figure) <= slack:
        says += f"; it would fit if it was read in {small}"
    elif abs(read / ratio - wanted.figure) <= slack:
        says += f"; it would fit if {small} were taken for it that were {large}"
    return Judged(off=off, inside=False, says=says)


def _way(wanted: Wanted, off: float) -> str:
    if wanted.sort == "length":
        return "too long" if off > 0 else "too short"
    return "too much" if off > 0 else "too little"
