"""The measuring sheet of an end, to print: its points and lengths with room beside each for what the car says."""

from __future__ import annotations

from typing import Any

from tirante.core.document.design import SuspensionEnd
from tirante.core.document.template import Template
from tirante.core.drawing.sheet import Numbers
from tirante.core.job.worked import Worked
from tirante.core.parts.numbers import numbers_of
from tirante.core.suspension.shown.lengths import LengthRow, lengths
from tirante.documents.book import ROOM, Book, rows, words
from tirante.documents.pdf import Stamp

BLANK = "________"
HOW = (
    "x forward from the axle line as drawn, y left from the centre line, z up from the floor. Car on stands, at ride height, springs "
    "unloaded before anything is cycled."
)


def measuring_sheet_pdf(job: Worked, one: SuspensionEnd, date: str) -> bytes:
    """The sheet as PDF.

    Args:
        job: worked out.
        one: its end.
        date: as shown.

    Raises:
        InputError: the end is impossible, by field.
    """
    template, numbers, design = job.template(one.id), numbers_of(job.settings), job.design
    stamp = Stamp(
        job=design.name, revision="draft", date=date, units=design.settings.units, reviewer=None, issued=False
    )
    title = f"{one.name}: measuring sheet"
    book = Book(f"{design.name}, {title}", stamp)
    book.section(
        title,
        "both sides",
        [
            words(f"Points of a {template.title.lower()}", 5, bold=True),
            words(HOW, 2.9),
            _points(template, one, numbers),
        ],
    )
    found = lengths(template, job.ends[one.id])
    book.section(
        title, "both sides", [words("Lengths, centre to centre", 5, bold=True), _lengths(template, found, numbers)]
    )
    return book.close()


def _points(template: Template, one: SuspensionEnd, numbers: Numbers) -> Any:
    cells = []
    for point in template.points:
        if point.name not in one.end.points:
            continue
        said = [words(point.what, 3.4, bold=True), words(point.measure, 2.7, tone="muted")]
        told = []
        for axis, value in zip("xyz", one.end.points[point.name], strict=True):
            sign = "−" if value < 0 else ""
            told.append(
                [words(f"{axis} {sign}{numbers.main(abs(value))}", 3.2, mono=True), words(BLANK, 3.2, tone="muted")]
            )
        cells.append([said, *told])
    return rows(cells, [ROOM - 108, 36, 36, 36])


def _lengths(template: Template, found: tuple[LengthRow, ...], numbers: Numbers) -> Any:
    called = {point.name: point.what for point in template.points}
    cells: list[list[Any]] = [[words("", 3.2), words("left", 3.2, bold=True), words("right", 3.2, bold=True)]]
    for row in found:
        opposite = f"; angle opposite {row.angle_deg:.2f}°" if row.angle_deg is not None else ""
        between = f"{called.get(row.a, row.a)} – {called.get(row.b, row.b)}{opposite}"
        said = [words(row.part, 3.4, bold=True), words(between, 2.7, tone="muted")]
        told = [
            words("" if long is None else f"{numbers.main(long)}  {BLANK}", 3.2, mono=True) for long in (row.left, row.right)
        ]  # fmt: skip
        cells.append([said, *told])
    return rows(cells, [ROOM - 96, 48, 48], head=True)
