"""Two tabs from one strip of flat bar: bolt holes drilled at either end, one hole-saw cut in the middle that makes both saddles.

Along the strip, from its middle: the saw's centre, half the saw, the foot, the bolt's hole, the round head. A saw wider than the tube
touches its crown and gaps at the strip's sides; a narrower one touches at the sides and gaps over the crown, and its foot reaches less far.

Not covered: a saw that walks, and the burr that it leaves.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import sqrt

from tirante.core.document.parts.bracket import SaddleBase, TabPair
from tirante.core.drawing.flat import cross_holes, draw_contour
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Frame, Numbers, Sheet
from tirante.core.flat.contour import Contour, Curve, Hole, Straight
from tirante.core.notch.hole_saw import CLOSE, MOST, USUAL_SAWS
from tirante.core.parts.bracket.families.hole_pattern import holes_of
from tirante.core.parts.part import CardLine, Misfit, PlatePiece, View

STRIP = "strip"
PILOT = 6.0  # mm, for the saw's pilot drill; common practice, no source
SAME = 0.01  # mm: the head's width and the strip's


@dataclass(frozen=True, slots=True, kw_only=True)
class Strip:
    """A strip that makes two tabs [mm]."""

    width: float
    length: float
    hole_at: float  # either bolt hole from its own end
    saw: float
    gap: float  # that the saw leaves under a foot, at its widest
    at_sides: bool  # whether that is at the strip's sides, and not over the crown

    @property
    def middle(self) -> float:
        """The saw's centre from either end."""
        return self.length / 2

    @property
    def apart(self) -> float:
        """From bolt hole to bolt hole."""
        return self.length - 2 * self.hole_at


def sagitta(diameter: float, width: float) -> float:
    """How deep a circle goes over a width [mm].

    Args:
        diameter: of the circle [mm].
        width: of the chord, less than that [mm].

    Source:
        Geometry.
    """
    return diameter / 2 - sqrt(diameter**2 / 4 - width**2 / 4)


def strip_of(tab: TabPair) -> Strip:
    """The strip that two of its tabs are cut from, with the saw of those that are sold that leaves the least gap.

    Args:
        tab: that may be made so (`strip_faults`).
    """
    assert isinstance(tab.base, SaddleBase)
    width, tube = tab.base_width.mm, tab.base.tube_od.mm
    cuts = [
        (abs(sagitta(tube, width) - sagitta(saw, width)), abs(saw - tube), saw) for saw in USUAL_SAWS if saw > width
    ]
    gap, _, saw = min(cuts)
    foot = tab.height.mm if saw >= tube else tab.height.mm - gap  # hole to the middle of the cut
    return Strip(
        width=width, length=2 * (saw / 2 + foot + tab.edge.mm), hole_at=tab.edge.mm, saw=saw, gap=gap, at_sides=saw >= tube
    )  # fmt: skip


def strip_faults(tab: TabPair) -> list[Misfit]:
    """Why its tabs cannot be made two from a strip.

    Args:
        tab: as it is saved.
    """
    base = tab.base
    if not tab.strip:
        return []

    def no(field: str, message: str) -> list[Misfit]:
        return [Misfit(field=field, message=message)]

    if not isinstance(base, SaddleBase) or base.lean_deg or base.offset_mm or abs(base.angle_deg - 90.0) > 1e-6:
        return no("strip", "One saw cut makes both saddles only of tabs that stand square across a round tube, in its middle. Cut these to their templates.")  # fmt: skip
    if tab.drawn is not None or len(holes_of(tab)) > 1:
        return no("strip", "A tab from a strip has a round head and one hole. Cut these to their templates.")
    if abs(tab.base_width.mm - 2 * tab.head_radius.mm) > SAME:
        return no("base_width", f"A tab from a strip is as wide at its foot as at its head. Make its foot {2 * tab.head_radius.mm:g} mm wide, or press Size it.")  # fmt: skip
    if tab.base_width.mm >= min(base.tube_od.mm, USUAL_SAWS[-1]):
        return no("base_width", f"A strip of {tab.base_width.mm:g} mm is not cut through by a saw for a tube of {base.tube_od.mm:g} mm. Make it narrower.")  # fmt: skip
    found = strip_of(tab)
    if found.gap > MOST:
        return no("strip", f"The nearest saw, ⌀{found.saw:g} mm, leaves {found.gap:.1f} mm under the feet, more than a fillet fills ({MOST:g} mm). Cut these to their templates.")  # fmt: skip
    return []


def strip_outline(tab: TabPair) -> Contour:
    """The strip as it is drilled, its middle at 0: both bolt holes, and a pilot hole for the saw.

    Args:
        tab: as it is saved.
    """
    strip, r = strip_of(tab), tab.head_radius.mm
    reach = strip.length / 2 - r
    edges = (
        Straight(-reach, -r, reach, -r), Curve(reach, 0.0, r, -90.0, 90.0), Straight(reach, r, -reach, r), Curve(-reach, 0.0, r, 90.0, 270.0),
    )  # fmt: skip
    at = strip.apart / 2
    bored = tab.hole.mm - tab.ream_mm
    return Contour(edges=edges, holes=(Hole(-at, 0.0, bored), Hole(at, 0.0, bored), Hole(0.0, 0.0, PILOT)))


def gap_told(strip: Strip) -> str:
    """What the saw leaves, in words; empty of next to nothing.

    Args:
        strip: it.
    """
    if strip.gap < 0.05:
        return ""
    where = "at the strip’s sides" if strip.at_sides else "over the tube’s crown"
    fill = "" if strip.gap <= CLOSE else ": make the fillet’s leg larger by it"
    return f"gap {strip.gap:.1f} mm {where}{fill}"


def strip_piece(tab: TabPair, count: int) -> PlatePiece:
    """The strips to cut.

    Args:
        tab: as it is saved.
        count: of strips, of one bracket.
    """
    strip = strip_of(tab)
    return PlatePiece(
        name=STRIP, material=tab.grade_name, thickness=tab.plate.mm, length=strip.length, width=strip.width, outline=strip_outline(tab),
        told=f"two tabs: holes {tab.hole.mm - tab.ream_mm:g} mm, sawn in two by a hole saw ⌀{strip.saw:g}", count=count, sort="strip",
    )  # fmt: skip


def strip_views() -> tuple[View, ...]:
    """The strip with its lengths, and at 1:1."""
    return (
        View(name="strip", title="two from a strip"),
        View(name="strip-flat", title="1:1 template, strip", cut=True, plate=STRIP, told="Drill all three holes, then saw the two tabs apart; the ring is the saw’s cut."),
    )  # fmt: skip


def strip_lines(tab: TabPair) -> list[CardLine]:
    """How the strip is marked out and sawn.

    Args:
        tab: as it is saved.
    """
    strip = strip_of(tab)
    told = gap_told(strip)
    return [
        CardLine(text="two tabs from a strip, wide", mm=strip.width),
        CardLine(text="strip, long", mm=strip.length, strong=True),
        CardLine(text="bolt holes, each from its own end", mm=strip.hole_at),
        CardLine(text="saw’s centre from either end", mm=strip.middle),
        CardLine(text=f"hole saw ⌀{round(strip.saw, 2):g} mm{f'; {told}' if told else ''}"),
    ]


def strip_sheet(tab: TabPair, strips: int, numbers: Numbers) -> Drawing:
    """The strip marked out, and one of its tabs on the tube.

    Args:
        tab: as it is saved.
        strips: how many the job needs.
        numbers: how lengths are written.
    """
    assert isinstance(tab.base, SaddleBase)
    strip = strip_of(tab)
    sheet = Sheet(name="strip", title=tab.name, width=217.0, height=110.0, numbers=numbers)
    scale = min(186.0 / strip.length, 34.0 / max(strip.width, strip.saw), 1.5)
    sheet.scale = scale
    s = "" if strips == 1 else "s"
    sheet.text((6, 102), f"Cut {strips} strip{s}, two tabs each", 3.8, bold=True)
    sheet.text((80, 102), f"{numbers.main(tab.plate.mm)} × {numbers.main(strip.width)} flat, {tab.grade_name}", 2.9, tone="muted")  # fmt: skip
    frame = Frame(108.5, 58.0, scale)
    at = frame.at
    draw_contour(sheet, frame, strip_outline(tab), "visible", ref="field:plate")
    sheet.circle(at(0, 0), strip.saw / 2 * scale, "hidden", ref="dim:saw")
    sheet.line(at(-strip.length / 2 - 4 / scale, 0), at(strip.length / 2 + 4 / scale, 0), "centre", "muted")
    for x in (-strip.apart / 2, 0.0, strip.apart / 2):
        reach = strip.width / 2 + 3 / scale
        sheet.line(at(x, -reach), at(x, reach), "centre", "muted")
    low, left = at(0, -max(strip.width, strip.saw) / 2)[1], -strip.length / 2
    for i, (to, value, ref) in enumerate(
        ((-strip.apart / 2, strip.hole_at, "dim:edge"), (0.0, strip.middle, "dim:saw"), (strip.apart / 2, strip.length - strip.hole_at, "dim:hole"), (-left, strip.length, "dim:strip"))
    ):  # fmt: skip
        sheet.dimension(
            (at(left, 0)[0], low), (at(to, 0)[0], low), value, offset=-6.0 - 8.0 * i, ref=ref, size=3.2, tone="blue"
        )
    top = at(0, max(strip.width, strip.saw) / 2)[1]
    told = gap_told(strip)
    sheet.leader(
        at(strip.saw / 2 * 0.7071, strip.saw / 2 * 0.7071), (at(0, 0)[0] + 24, top + 8),
        f"hole saw ⌀{numbers.drilled(strip.saw)}, for a tube ⌀{numbers.drilled(tab.base.tube_od.mm)}", "dim:saw",
    )  # fmt: skip
    if told:
        sheet.text((6, 6), f"The saw leaves a {told}.", 2.8, tone="muted", ref="dim:saw")
    hole = tab.hole.mm - tab.ream_mm
    reamed = f", reamed to {numbers.main(tab.hole.mm)} after welding" if tab.ream_mm else ""
    sheet.leader(
        at(-strip.apart / 2 - hole / 2 * 0.7071, hole / 2 * 0.7071), (at(left, 0)[0] + 6, top + 8), f"2 holes ⌀{numbers.drilled(hole)}{reamed}", "dim:hole"
    )  # fmt: skip
    return sheet.done()


def strip_flat(tab: TabPair) -> Drawing:
    """The strip alone at 1:1; the saw's cut is marked, not cut.

    Args:
        tab: as it is saved.
    """
    contour, strip = strip_outline(tab), strip_of(tab)
    left, low, right, high = contour.bounds
    sheet = Sheet(name="strip-flat", title=STRIP, width=right - left, height=high - low)
    frame = Frame(-left, -low, 1.0)
    draw_contour(sheet, frame, contour, "cut")
    cross_holes(sheet, frame, contour)
    for way in (1.0, -1.0):  # as far as it goes on the strip
        x = way * strip.saw / 2
        sheet.line(frame.at(x, -2.0), frame.at(x, 2.0), "mark")
    return sheet.done()
