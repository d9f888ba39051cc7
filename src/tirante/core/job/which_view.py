"""What was read at each height, beside what the model says and what it would with the likeliest error in it: one panel a measure."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace
from math import ceil, floor, isfinite, log10

import numpy as np

from tirante.core.drawing.model import Drawing, Style, Tone
from tirante.core.drawing.sheet import Numbers, Sheet, SheetPoint
from tirante.core.job.as_read import AngleSeen, Group, likeliest, name_of
from tirante.core.mechanism.solve import CONVERGED, solve
from tirante.core.suspension.cycle import SolvedSide
from tirante.core.suspension.one_error import can_be_read, with_errors

WIDTH, HEIGHT = 262.0, 132.0
LEFT, FOOT, HEAD, GAP = 20.0, 27.0, 14.0, 8.0
STEPS = 17  # positions of a line
MOST = 5  # panels beside one another
DASH: Style = "hidden"


def which_view(group: Group, numbers: Numbers) -> Drawing:
    """The panels.

    Args:
        group: what was read of an end.
        numbers: how lengths are written.
    """
    sheet = Sheet(name="read", title="Read and modelled", width=WIDTH, height=HEIGHT, numbers=numbers)
    shown = [one for one in group.readings if one.back is None and one.model is not None]
    if group.model is None or not shown:
        return sheet.done()
    by: dict[str, list[AngleSeen]] = {}
    for one in shown:
        by.setdefault(name_of(one.taken, group.wheel), []).append(one)
    heights = [one.taken.risen.mm for one in shown]
    low, high = min(heights), max(heights)
    room = max(0.15 * (high - low), 10.0)
    low, high = low - room, high + room
    lines = _lines(group, low, high)
    top = HEIGHT - HEAD

    def up(mm: float) -> float:
        return FOOT + (top - FOOT) * (mm - low) / (high - low)

    panels = list(by.items())[:MOST]
    width = (WIDTH - LEFT - 3 - GAP * (len(panels) - 1)) / len(panels)
    for i, (name, read) in enumerate(panels):
        _panel(sheet, name, read, lines, (LEFT + i * (width + GAP), width), up)
    for mm in dict.fromkeys(sorted({0.0, *heights})):
        if low <= mm <= high:
            said = f"{'+' if mm > 0 else '−' if mm < 0 else ''}{numbers.main(abs(mm))}" if mm else "ride"
            sheet.text((LEFT - 2, up(mm) - 1), said, 2.8, "end", mono=True)
            sheet.line((LEFT, up(mm)), (WIDTH - 3, up(mm)), DASH if mm == 0 else "thin", "muted")
    _key(sheet, group, len(by) - len(panels))
    return sheet.done()


def _lines(group: Group, low: float, high: float) -> list[tuple[SolvedSide, np.ndarray, Style, Tone]]:
    """The end with level body and straight wheels through its heights: as modelled, and with the likeliest error in it."""
    model = group.model
    assert model
    heights = np.linspace(low, high, STEPS)
    side = model.side
    drives = np.zeros((len(side.solved.drives), STEPS))
    drives[0] = heights - (model.rows[0, 0] - side.solved.drives[0, 0])
    level = replace(side, solved=solve(side.solved.system, drives))
    good = np.flatnonzero(level.solved.status == CONVERGED)
    if len(good) == 0:
        return []
    level = replace(level, solved=level.solved.take(good))
    found: list[tuple[SolvedSide, np.ndarray, Style, Tone]] = [(level, heights[good], "visible", "ink")]
    best = likeliest(group.found)
    if best and group.found:
        off = with_errors(level, {group.found.error(best): best.size})
        if off is not None:
            found.append((off, heights[good], DASH, "blue"))
    return found


def _panel(
    sheet: Sheet, name: str, read: Sequence[AngleSeen], lines: Sequence[tuple[SolvedSide, np.ndarray, Style, Tone]],
    at: tuple[float, float], up: Callable[[float], float],
) -> None:  # fmt: skip
    left, width = at
    columns = [(can_be_read(side).get(name), heights, style, tone) for side, heights, style, tone in lines]
    known = [float(v) for column, *_ in columns if column is not None for v in column if isfinite(float(v))]
    for one in read:
        known += [one.taken.deg - one.taken.deviation, one.taken.deg + one.taken.deviation, one.model or 0.0]
    least, most = min(known), max(known)
    room = max(0.08 * (most - least), 0.05)
    least, most = least - room, most + room

    def across(value: float) -> float:
        return left + width * (value - least) / (most - least)

    top = HEIGHT - HEAD
    sheet.box((left, FOOT), (left + width, top), "pale", "dimension", "muted")
    sheet.text((left + width / 2, top + 3.5), words(name), 3.2, "middle", bold=True)
    _scale(sheet, least, most, across)
    for column, heights, style, tone in columns:
        if column is None:
            continue
        before: SheetPoint | None = None
        for mm, value in zip(heights, column, strict=True):
            here = (across(float(value)), up(float(mm))) if isfinite(float(value)) else None
            if here and before:
                sheet.line(before, here, style, tone)
            before = here
    for one in read:
        y, ref = up(one.taken.risen.mm), f"reading:{one.taken.id}"
        if one.taken.roll_deg or one.taken.steer:  # its model stands on no line that is drawn
            x = across(one.model or 0.0)
            sheet.box((x - 0.9, y - 0.9), (x + 0.9, y + 0.9), "sheet", "thin", "ink", ref=ref)
        a, b = (across(one.taken.deg + sign * one.taken.deviation) for sign in (-1, 1))
        sheet.line((a, y), (b, y), "visible", "blue", ref=ref)
        for x in (a, b):
            sheet.line((x, y - 0.9), (x, y + 0.9), "visible", "blue", ref=ref)
        sheet.circle((across(one.taken.deg), y), 1.1, "thin", "blue", "blue", ref=ref)


def _scale(sheet: Sheet, least: float, most: float, across: Callable[[float], float]) -> None:
    """Round degrees under the panel."""
    rough = (most - least) / 3
    power = 10.0 ** floor(log10(rough))
    step = next(step * power for step in (1, 2, 5, 10) if step * power >= rough)
    digits = max(0, -floor(log10(step)))
    for k in range(ceil(least / step), floor(most / step) + 1):
        value = k * step
        sheet.line((across(value), FOOT), (across(value), FOOT - 1.2), "dimension", "muted")
        if not 0.06 * (most - least) < value - least < 0.94 * (most - least):
            continue  # its figure would run into the next panel's
        sign = "+" if value > 1e-9 else "−" if value < -1e-9 else ""
        sheet.text((across(value), FOOT - 5), f"{sign}{abs(value):.{digits}f}°", 2.8, "middle", mono=True)


def _key(sheet: Sheet, group: Group, more: int) -> None:
    """What stands for what."""
    x, y = LEFT, 13.0
    sheet.circle((x + 3, y + 0.9), 1.1, "thin", "blue", "blue")
    sheet.line((x, y + 0.9), (x + 6, y + 0.9), "visible", "blue")
    sheet.text((x + 8, y), "read, one standard deviation to either side", 2.8, tone="muted")
    sheet.line((x + 82, y + 0.9), (x + 92, y + 0.9))
    sheet.text((x + 94, y), "as modelled", 2.8, tone="muted")
    if likeliest(group.found):
        sheet.line((x + 122, y + 0.9), (x + 132, y + 0.9), DASH, "blue")
        sheet.text((x + 134, y), "modelled with the likeliest error in it", 2.8, tone="muted")
    told = ["wheel higher up the page, as it is on the car"]
    if any(one.taken.roll_deg or one.taken.steer for one in group.readings if one.back is None):
        told.append("square: as modelled, rolled or steered, beside the lines")
    if more:
        told.append(f"{more} more measures are in the list alone")
    sheet.text((x, 6.5), "; ".join(told), 2.8, tone="muted")


def words(name: str) -> str:
    """A measure as it is said.

    Args:
        name: as the mechanism calls it.
    """
    return name.removesuffix("_deg").removesuffix("_mm").replace("_", " ")
