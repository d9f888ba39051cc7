"""A sheet that plates lie on: to scale for the page and the pack, and at 1:1 as the table cuts it."""

from __future__ import annotations

from tirante.core.document.cutting import KeptNest, KeptSheet
from tirante.core.drawing.flat import draw_contour
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Frame, Numbers, Sheet, SheetPoint
from tirante.core.flat.contour import Contour, polygon

LONG, TALL = 200.0, 120.0  # mm of the drawing that the sheet may take
REST = 0.1  # of a sheet's width, that of what is left is shown at least
NAME = 6.0  # mm, of letters etched on a plate


def sheet_title(kept: KeptNest, n: int) -> str:
    """Which sheet it is.

    Args:
        kept: the layout.
        n: number of the sheet, from 0.
    """
    sheet = kept.sheets[n]
    row = next((one for one in kept.rows if one.id == sheet.row_id), None)
    place = f", {row.place}" if row and row.place else ""
    if heat := kept.heat_of(sheet.row_id):
        place += f", heat {heat}"
    return f"sheet {n + 1} of {len(kept.sheets)}: {'new' if row is None else 'offcut' if row.offcut else 'from the rack'}{place}"  # fmt: skip


def sheet_drawing(kept: KeptNest, n: int, numbers: Numbers) -> Drawing:
    """A sheet with its plates numbered as the list under it has them, and what is left of it, which is broken off where it is long.

    A sheet that is used by a narrow strip along one end is shown with that end along the page.

    Args:
        kept: the layout.
        n: number of the sheet, from 0.
        numbers: how lengths are written.
    """
    sheet = kept.sheets[n]
    used = sheet.length_mm - sheet.left_mm
    shown = min(sheet.length_mm, used + max(0.15 * used, REST * sheet.width_mm))
    across = shown < sheet.width_mm
    long, wide = (sheet.width_mm, shown) if across else (shown, sheet.width_mm)
    scale = min(LONG / long, TALL / wide)
    out = Sheet(name=f"sheet-{n + 1}", title=f"{kept.title}, {sheet_title(kept, n)}", width=LONG + 16.0, height=wide * scale + 24.0, numbers=numbers)  # fmt: skip
    frame = Frame(8.0, 12.0, scale)

    def at(x: float, y: float) -> SheetPoint:
        return frame.at(y, shown - x) if across else frame.at(x, y)

    grain = "up the page" if across else "along the page"
    out.text((8.0, wide * scale + 16.0), f"{numbers.main(sheet.length_mm)} × {numbers.main(sheet.width_mm)}, the grain {grain}", 2.9, bold=True)  # fmt: skip
    whole = shown >= sheet.length_mm - 1e-6
    for a, b in (((0.0, 0.0), (shown, 0.0)), ((0.0, sheet.width_mm), (shown, sheet.width_mm)), ((0.0, 0.0), (0.0, sheet.width_mm))):  # fmt: skip
        out.line(at(*a), at(*b))
    out.line(at(shown, 0.0), at(shown, sheet.width_mm), "visible" if whole else "thin", "ink" if whole else "muted")
    if sheet.left_mm > 0:
        out.line(at(used, 0.0), at(used, sheet.width_mm), "hidden", "blue")
        broken = "" if whole else ", broken off here"
        out.text((8.0, 6.0), f"{numbers.main(sheet.left_mm)} × {numbers.main(sheet.width_mm)} left{broken}", 2.9, "start", "blue", mono=True)  # fmt: skip
    for place in sheet.placed:
        contour = kept.shapes[place.shape].outline.placed(place.x_mm, place.y_mm, place.angle_deg)
        if across:
            contour = contour.placed(0.0, shown, -90.0)
        draw_contour(out, frame, contour, "visible", ref=f"shape:{place.shape + 1}")
        x, y, room = _clear(contour)
        size = min(3.4, 1.2 * scale * room)
        if size >= 1.0:
            middle = frame.at(x, y)
            out.text((middle[0], middle[1] - size / 3), str(place.shape + 1), size, "middle", "blue", bold=True)
    return out.done()


def _clear(contour: Contour) -> tuple[float, float, float]:
    """The middle of the largest round that lies in the metal, and its radius [mm]: where a number can be read."""
    from shapely import maximum_inscribed_circle

    line = maximum_inscribed_circle(polygon(contour, 0.2), 1.0)
    (x, y), _ = line.coords
    return x, y, line.length


def sheet_cut(kept: KeptNest, n: int) -> Drawing:
    """A sheet at 1:1 for the table: plates to cut, bends and marks to etch, names. Its origin is the sheet's corner; the sheet's own edge is no line of it.

    Args:
        kept: the layout.
        n: number of the sheet, from 0.
    """
    sheet: KeptSheet = kept.sheets[n]
    out = Sheet(name=f"sheet-{n + 1}", title=f"{kept.title}, {sheet_title(kept, n)}", width=sheet.length_mm, height=sheet.width_mm)  # fmt: skip
    frame = Frame(0.0, 0.0, 1.0)
    for place in sheet.placed:
        shape = kept.shapes[place.shape]
        contour = shape.outline.placed(place.x_mm, place.y_mm, place.angle_deg)
        draw_contour(out, frame, contour, "cut")
        for bend in contour.bends:
            out.line(bend.line.start, bend.line.end, "bend")
        for mark in contour.marks:
            out.line(mark.start, mark.end, "mark")
        left, low, right, high = contour.bounds
        out.text(((left + right) / 2, (low + high) / 2), shape.what, min(NAME, (right - left) / max(8, len(shape.what))), "middle")  # fmt: skip
    return out.done()
