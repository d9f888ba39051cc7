"""An anti-roll bar whole, in the plane of its arms, with its bearings, and what is sawn."""

from __future__ import annotations

from math import atan2, cos, hypot, pi, sin

from tirante.core.document.parts.anti_roll_bar import AntiRollBar
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Frame, Numbers, Sheet, SheetPoint
from tirante.core.members.torsion_bar import TorsionBar

WIDTH, HEIGHT = 217.0, 130.0


def bar_sheet(saved: AntiRollBar, bar: TorsionBar, saw: float, rate: float, numbers: Numbers) -> Drawing:
    """The drawing.

    Args:
        saved: as it is.
        bar: half of it.
        saw: length of bar to saw [mm].
        rate: of the bar [N·m/°].
        numbers: how lengths are written.
    """
    sheet = Sheet(name="bar", title=saved.name, width=WIDTH, height=HEIGHT, numbers=numbers)
    wide = 2 * (bar.half + max(bar.beyond, 0.0) + bar.od)
    scale = min((WIDTH - 50) / wide, 58.0 / (bar.lever + 2 * bar.od), 0.6)
    sheet.scale = scale
    frame = Frame(WIDTH / 2, 88.0, scale)
    sheet.text((6, HEIGHT - 8), "in the plane of its arms", 2.9, tone="muted")
    draw_bar(sheet, frame, saved, bar)
    for sign in (-1, 1):
        x = sign * (bar.half - bar.bearing)
        at = frame.at(x, 0)
        size = max(2.0, bar.od * scale)
        sheet.box(
            (at[0] - 1.8, at[1] - size), (at[0] + 1.8, at[1] + size), "blue", "thin", "blue", ref="field:bearing_mm"
        )
    sheet.line(frame.at(0, bar.od * 2), frame.at(0, -bar.lever * 0.3), "centre", "muted")
    up = frame.at(0, bar.od)[1] + 9
    sheet.dimension(
        (frame.at(-bar.half, 0)[0], up),
        (frame.at(bar.half, 0)[0], up),
        2 * bar.half,
        offset=3.0,
        ref="dim:half",
        note="between the arms, along the bar",
    )
    tip = frame.at(bar.half + bar.beyond, -bar.lever)
    sheet.dimension((tip[0], frame.at(0, 0)[1]), tip, bar.lever, offset=8.0, ref="dim:lever", tone="blue", text_side=1)
    many = f"⌀{numbers.drilled(bar.od)}" + (f" × {numbers.main(bar.wall)}" if bar.wall else ", solid")
    y = 18.0
    sheet.text((6, y + 6), f"{many}, {saved.steel_name}", 3.2, ref="field:bar")
    arms = (
        "arms bent of it"
        if saved.flats is None
        else f"arms of flat bar {saved.flats.height_mm:g} × {saved.flats.thickness_mm:g}, on edge"
    )
    sheet.text((6, y), arms, 2.9, tone="muted")
    sheet.text((120, y + 6), f"saw {numbers.written(saw)}", 4.0, tone="blue", mono=True, bold=True, ref="dim:saw")
    sheet.text((120, y), f"{rate:.1f} N·m for each degree between its ends", 2.9, ref="check:bar_bearing")
    return sheet.done()


def draw_bar(sheet: Sheet, frame: Frame, saved: AntiRollBar, bar: TorsionBar, ref: str | None = None) -> None:
    """Bar and arms, the middle of the car at 0, the arms downward.

    Args:
        sheet: to draw on.
        frame: where and to what scale.
        saved: as it is.
        bar: half of it.
        ref: what all of it names; None: each its own.
    """
    half = bar.od / 2
    for sign in (-1, 1):
        corner, tip = (sign * bar.half, 0.0), (sign * (bar.half + bar.beyond), -bar.lever)
        if saved.flats is None:
            _strip(sheet, frame, _rounded((0.0, 0.0), corner, tip, bar.bend_radius), half, ref or "field:bar")
        else:
            _strip(sheet, frame, [(0.0, 0.0), corner], half, ref or "field:bar")
            _strip(sheet, frame, [corner, tip], saved.flats.thickness_mm / 2, ref or "field:flats")
        at = frame.at(*tip)
        sheet.circle(at, max(1.0, half * frame.scale), "visible", "sheet", ref=ref or "field:joint")


def _strip(sheet: Sheet, frame: Frame, line: list[SheetPoint], half: float, ref: str) -> None:
    """A bar along a line, as wide as it is."""
    sides: list[list[SheetPoint]] = [[], []]
    for i, (x, y) in enumerate(line):
        before, after = line[max(0, i - 1)], line[min(len(line) - 1, i + 1)]
        size = hypot(after[0] - before[0], after[1] - before[1])
        nx, ny = -(after[1] - before[1]) / size * half, (after[0] - before[0]) / size * half
        for side, sign in zip(sides, (1, -1), strict=True):
            side.append(frame.at(x + sign * nx, y + sign * ny))
    sheet.area([*sides[0], *reversed(sides[1])], "steel", ref=ref)


def _rounded(start: SheetPoint, corner: SheetPoint, end: SheetPoint, radius: float) -> list[SheetPoint]:
    """Straight to a corner, round it, and on."""
    a = (start[0] - corner[0], start[1] - corner[1])
    b = (end[0] - corner[0], end[1] - corner[1])
    la, lb = hypot(*a), hypot(*b)
    ua, ub = (a[0] / la, a[1] / la), (b[0] / lb, b[1] / lb)
    cosine = max(-1.0, min(1.0, ua[0] * ub[0] + ua[1] * ub[1]))
    sine = max(1e-9, (1 - cosine * cosine) ** 0.5)
    tangent = min(radius * (1 + cosine) / sine, la, lb)
    radius = tangent * sine / (1 + cosine)
    across = (ua[0] + ub[0], ua[1] + ub[1])
    reach = hypot(*across)
    away = (radius * radius + tangent * tangent) ** 0.5
    centre = (corner[0] + across[0] / reach * away, corner[1] + across[1] / reach * away)
    p, q = (
        (corner[0] + ua[0] * tangent, corner[1] + ua[1] * tangent),
        (corner[0] + ub[0] * tangent, corner[1] + ub[1] * tangent),
    )
    one, two = atan2(p[1] - centre[1], p[0] - centre[0]), atan2(q[1] - centre[1], q[0] - centre[0])
    turn = (two - one + pi) % (2 * pi) - pi
    return [
        start,
        *(
            (centre[0] + radius * cos(one + turn * i / 12), centre[1] + radius * sin(one + turn * i / 12))
            for i in range(13)
        ),
        end,
    ]
