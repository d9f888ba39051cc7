"""Sticks drawn as bars, in the order in which they are cut: pieces with their lengths, trims, what is left."""

from __future__ import annotations

from tirante.core.cutting.from_rack import TubeCut
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Numbers, Sheet

WIDTH, ROW, BAR = 217.0, 15.0, 6.0
LEFT, LONG = 8.0, 150.0  # where bars begin, and how long the longest is
ROOM = 2.0  # mm on the sheet for a digit of a length, under which it is told below its bar


def sticks_sheet(one: TubeCut, numbers: Numbers) -> Drawing | None:
    """A tube's sticks, one below the other; None where it was not laid out.

    Args:
        one: laid out.
        numbers: how lengths are written.
    """
    found = one.cutting
    if found is None or not found.sticks:
        return None
    height = 12.0 + ROW * len(found.sticks)
    sheet = Sheet(name="sticks", title=f"{one.tube}, {one.grade}", width=WIDTH, height=height, numbers=numbers)
    scale = LONG / max(stick.length for stick in found.sticks)
    number = 0
    for i, stick in enumerate(found.sticks):
        y = height - 10.0 - ROW * i
        row = None if stick.new else one.row_of(stick.length)
        head = f"new, {numbers.main(stick.length)}" if stick.new else f"{'offcut' if row and row.offcut else 'from the rack'}, {numbers.main(stick.length)}{f', {row.place}' if row and row.place else ''}{f', heat {row.heat}' if row and row.heat else ''}"  # fmt: skip
        sheet.text((LEFT, y + 2.0), f"{i + 1}. {head}", 2.9, bold=True)
        low, end = y - BAR, LEFT + scale * stick.length
        sheet.box((LEFT, low), (end, y), "sheet", "thin")
        at = one.saw.trim_start
        for piece in stick.pieces:
            number += 1
            a, b = LEFT + scale * at, LEFT + scale * (at + piece)
            sheet.box((a, low), (b, y), "pale", ref=f"piece:{number}")
            text = numbers.main(piece)
            if b - a > ROOM * len(text):
                sheet.text(((a + b) / 2, low + 1.9), text, 3.0, "middle", mono=True, bold=True, ref=f"piece:{number}")
            else:
                sheet.text(((a + b) / 2, low + 1.9), f"{number}", 2.4, "middle", ref=f"piece:{number}")
            at += piece + one.saw.kerf
        if stick.left > 0:
            told = f"{numbers.main(stick.left)} left"
            sheet.text((end + 3.0, low + 1.9), told, 3.0, tone="muted", mono=True)
        else:
            sheet.text((end + 3.0, low + 1.9), "nothing left", 3.0, tone="muted")
    return sheet.done()
