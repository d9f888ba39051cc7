"""One joint over travel and steer (or roll): how far it is out of line in every corner, against its limit."""

from __future__ import annotations

from dataclasses import dataclass

from tirante.core.drawing.model import Drawing, Tone
from tirante.core.drawing.sheet import Numbers, Sheet

WIDTH, HEIGHT = 217.0, 172.0


NEAR = 0.8  # of the limit, from which it wants attention


@dataclass(frozen=True, slots=True, kw_only=True)
class Cells:
    """A joint's angle [deg] at every travel [mm] and steer (or roll); None where the position is not reached."""

    travel: tuple[float, ...]
    across: tuple[float, ...]
    steers: bool  # across is steer, else roll
    values: tuple[tuple[float | None, ...], ...]  # by travel, then across
    limit: float | None


def bind_sheet(name: str, cells: Cells, numbers: Numbers, steer_unit: str) -> Drawing:
    """The map: travel up the page, steer or roll across, angles written in; what is past the limit stands out.

    Args:
        name: what the drawing is called, for those who pick in it.
        cells: the joint’s tilt over the box.
        numbers: how lengths are written.
        steer_unit: "mm" or "deg".
    """
    sheet = Sheet(name="bind", title=f"{name}: over the whole box", width=WIDTH, height=HEIGHT, numbers=numbers)
    left, right, low, high = 30.0, WIDTH - 8.0, 16.0, HEIGHT - 22.0
    rows, columns = len(cells.travel), len(cells.across)
    dx, dy = (right - left) / columns, (high - low) / rows
    limit = f", limit {cells.limit:g}°" if cells.limit else ", no limit given"
    sheet.text((left, high + 10), f"{name}{limit}", 4.2, bold=True)
    known = [v for row in cells.values for v in row if v is not None]
    worst = max(known, default=0.0)
    for i, row in enumerate(cells.values):
        y = low + i * dy
        travel = cells.travel[i]
        sign = "+" if travel > 0 else "−" if travel < 0 else ""
        word = "ride" if travel == 0 else f"{sign}{numbers.main(abs(travel))}"
        sheet.text((left - 3, y + dy / 2 - 1), word, 2.8, "end", "ink" if travel == 0 else "muted", mono=True)
        for j, value in enumerate(row):
            x = left + j * dx
            corners = ((x, y), (x + dx, y), (x + dx, y + dy), (x, y + dy))
            tone = _tone(value, cells.limit)
            sheet.area(corners, "none" if value is None else "pale" if tone == "ink" else "sheet", "thin", "muted")
            middle = (x + dx / 2, y + dy / 2 - 1)
            if value is None:
                sheet.text(middle, "out of reach", 2.4, "middle", "muted")
                continue
            share = value / (cells.limit or max(worst, 1e-9))
            # the bar in the cell is the angle against its limit, full at the limit
            reach = (dx - 1.6) * min(1.0, share)
            if reach > 0.1:
                bar = ((x + 0.8, y + 0.5), (x + 0.8 + reach, y + 0.5), (x + 0.8 + reach, y + 1.3), (x + 0.8, y + 1.3))
                sheet.area(bar, "solid", None, tone)
            mark = "■ " if tone == "red" else "▲ " if tone == "amber" else ""
            bold = value == worst
            sheet.text(middle, f"{mark}{value:.1f}°", 2.9, "middle", tone, mono=True, bold=bold)
    for j, across in enumerate(cells.across):
        sign = "+" if across > 0 else "−" if across < 0 else ""
        unit = steer_unit if cells.steers else "°"
        size = numbers.written(abs(across)) if unit == "mm" else f"{abs(across):.3g}°"
        sheet.text((left + (j + 0.5) * dx, low - 5), f"{sign}{size}", 2.8, "middle", "muted", mono=True)
    across_name = "steer, left +; the worst of all roll" if cells.steers else "roll, leaning right +"
    sheet.text(((left + right) / 2, low - 11), across_name, 2.8, "middle", "muted")
    sheet.text((left - 22, high + 3.5), "travel, bump up", 2.8, tone="muted")
    return sheet.done()


def _tone(value: float | None, limit: float | None) -> Tone:
    if value is None or limit is None:
        return "ink"
    return "red" if value > limit else "amber" if value >= NEAR * limit else "ink"
