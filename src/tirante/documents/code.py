"""Codes that a phone reads, on sheets and labels: an address and an id, never a secret (ISO/IEC 18004, by a general library)."""

from __future__ import annotations

from functools import cache

from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Sheet, SheetPoint

QUIET = 4  # modules of blank round a code, as the standard asks


def code_drawing(text: str, size: float) -> Drawing:
    """A code by itself.

    Args:
        text: that it holds.
        size: across, its blank rim included [mm].
    """
    sheet = Sheet(name="code", title=text, width=size, height=size)
    draw_code(sheet, text, (0.0, 0.0), size)
    return sheet.done()


def draw_code(sheet: Sheet, text: str, at: SheetPoint, size: float) -> None:
    """A code on a sheet.

    Args:
        sheet: to draw on.
        text: that it holds.
        at: its lower left corner.
        size: across, its blank rim included [mm].
    """
    dark = modules(text)
    step = size / (len(dark) + 2 * QUIET)
    x, y = at
    sheet.box(at, (x + size, y + size), "sheet", None)
    for n, row in enumerate(dark):
        top = y + size - (QUIET + n) * step
        begin = None
        for i, on in enumerate((*row, False)):
            if on and begin is None:
                begin = i
            elif not on and begin is not None:
                sheet.box((x + (QUIET + begin) * step, top - step), (x + (QUIET + i) * step, top), "solid", None)
                begin = None


@cache
def modules(text: str) -> tuple[tuple[bool, ...], ...]:
    """Which fields of a code are dark, row by row from its top; a quarter of it may be dirty.

    Args:
        text: that it holds.
    """
    import segno

    return tuple(
        tuple(bool(one) for one in row) for row in segno.make(text, error="m", micro=False, boost_error=False).matrix
    )


def sheet_address(link: str, part_id: str, metal: str) -> str:
    """What a part's code opens: whether its sheet is as the part is now.

    Args:
        link: of the revision that the sheet is of, as its stamp has it.
        part_id: the part.
        metal: fingerprint of its metal as it was printed.
    """
    return f"{link}/{part_id}?m={metal}"
