"""The measuring sheet of an end, to print: its points and lengths with room beside each for what the car says."""

from __future__ import annotations

from tirante.core.document.design import Design, SuspensionEnd
from tirante.core.parts.numbers import numbers_of
from tirante.core.suspension.shown.lengths import lengths
from tirante.documents.pdf import Book, Stamp
from tirante.shipped.templates import template_of

TOP, FOOT = 262.0, 24.0


def measuring_sheet_pdf(design: Design, one: SuspensionEnd, date: str) -> bytes:
    """The sheet as PDF.

    Raises:
        InputError: the end is impossible, by field.
    """
    end, template, numbers = one.end, template_of(one.end), numbers_of(design.settings)
    stamp = Stamp(
        job=design.name, revision="draft", date=date, units=design.settings.units, reviewer=None, issued=False,
    )  # fmt: skip
    book = Book(f"{design.name}, {one.name}: measuring sheet", stamp)
    title = f"{one.name}: measuring sheet"

    def fresh(head: str) -> float:
        book.page(title, "both sides")
        book.text(12, TOP, head, 5, bold=True)
        return TOP - 6

    y = fresh(f"Points of a {template.title.lower()}")
    book.text(12, y, "x forward from the axle line as drawn, y left from the centre line, z up from the floor. Car on stands, at ride "
              "height, springs unloaded before anything is cycled.", 2.9)  # fmt: skip
    y -= 7
    for point in template.points:
        if y < FOOT + 12:
            y = fresh("Points, continued")
        if point.name not in end.points:
            continue
        book.text(12, y, point.what, 3.6, bold=True)
        book.text(12, y - 4.4, point.measure, 2.7, tone="muted")
        for x, axis, value in zip((92, 128, 164), "xyz", end.points[point.name], strict=True):
            sign = "−" if value < 0 else ""
            book.text(x, y, f"{axis} {sign}{numbers.main(abs(value))}", 3.2, mono=True)
            book.text(x, y - 4.4, "________", 3.2, tone="muted")
        y -= 11
    y = fresh("Lengths, centre to centre")
    book.text(112, y, "left", 3.2, bold=True)
    book.text(152, y, "right", 3.2, bold=True)
    called = {point.name: point.what for point in template.points}
    for row in lengths(template, design.standing(one)):
        y -= 10
        if y < FOOT:
            y = fresh("Lengths, continued") - 4
        book.text(12, y, row.part, 3.6, bold=True)
        opposite = f"; angle opposite {row.angle_deg:.2f}°" if row.angle_deg is not None else ""
        book.text(12, y - 4.2, f"{called.get(row.a, row.a)} – {called.get(row.b, row.b)}{opposite}", 2.7, tone="muted")
        for x, long in ((112, row.left), (152, row.right)):
            if long is not None:
                book.text(x, y, numbers.main(long), 3.4, mono=True)
                book.text(x + 20, y, "________", 3.2, tone="muted")
    return book.close()
