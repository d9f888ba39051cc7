"""The pack's PDF: a card per part, the 1:1 tab template, the jig sheet, weld notes, the cut list."""

from __future__ import annotations

from textwrap import wrap

from tirante.core.checks.shown import shown_utilisation
from tirante.core.document.design import Design
from tirante.core.drawing.sheet import Numbers
from tirante.core.job.evaluate import evaluate
from tirante.core.job.loads import with_loads
from tirante.core.parts.bracket.families.tab_view import tab_flat, tab_sheet
from tirante.core.parts.link.assembly import ThreadedEnd
from tirante.core.parts.link.built import Built, build
from tirante.core.parts.link.checks import NOT_CHECKED
from tirante.core.parts.link.jig_view import jig_sheet
from tirante.core.parts.link.notes import welding_notes
from tirante.core.parts.link.view import link_sheet
from tirante.core.parts.numbers import numbers_of
from tirante.documents.pdf import Book, Stamp

_FIT = 186.0 / 217.0  # a station's sheet on the printable width


def pack_pdf(design: Design, stamp: Stamp) -> bytes:
    """All pages of a job."""
    design = with_loads(design)
    book = Book(f"{design.name}, {stamp.revision}", stamp)
    numbers = numbers_of(design.settings)
    _cut_list_page(book, design, numbers)
    for link in design.links:
        built = build(link, design)
        if isinstance(built, list):
            book.page(link.name, link.side)
            book.text(12, 262, "Not complete, so nothing is drawn:", 4, bold=True)
            for i, fault in enumerate(built[:20]):
                book.text(12, 254 - 6 * i, f"{fault.field}: {fault.message}")
            continue
        _card(book, built, numbers)
        if link.tab and built.outline:
            _template(book, built, numbers)
        _jig_page(book, built, numbers)
    return book.close()


def _card(book: Book, built: Built, numbers: Numbers) -> None:
    assembly, stack, link = built.assembly, built.stack, built.assembly.link
    book.page(link.name, link.side)
    book.text(12, 262, f"SAW {numbers.main(stack.tube_cut)}", 11, bold=True)
    book.text(12, 255, f"{numbers.other(stack.tube_cut)}   {assembly.tube.label}, {assembly.grade.label}", 4)
    count = 2 if link.side == "pair" else 1
    book.text(198, 262, f"make {count}", 7, bold=True, right=True)
    book.text(198, 255, f"{numbers.main(stack.centre_to_centre)} pivot to pivot", 4, right=True)
    lh = next((i for i, end in enumerate(assembly.ends) if isinstance(end, ThreadedEnd) and end.hand == "LH"), 1)
    drawing = link_sheet(assembly, stack, built.rules, lh, numbers)
    book.draw(drawing, 12, 115, _FIT)
    y = 111.0
    book.text(12, y, "End", 3.4, bold=True)
    for x, head in ((30, "joint"), (98, "in the insert"), (128, "showing"), (152, "go/no-go: never more than")):
        book.text(x, y, head, 3.4, bold=True)
    for index, (end, state) in enumerate(zip(assembly.ends, stack.ends, strict=True)):
        y -= 6.5
        if not isinstance(end, ThreadedEnd):
            book.text(12, y, f"{'AB'[index]}", 4, bold=True)
            book.text(30, y, f"{end.what}, {numbers.main(end.centre_to_face)} centre to tube face")
            continue
        book.text(12, y, f"{'AB'[index]} {end.hand}", 4.4 if end.hand == "LH" else 4, bold=True)
        book.text(30, y, end.joint.label)
        book.text(98, y, numbers.main(state.engagement or 0), 4.4, mono=True)
        book.text(128, y, numbers.main(state.showing or 0), 4.4, mono=True)
        book.text(152, y, numbers.main(state.max_showing or 0), 4.4, mono=True)
    y -= 9
    book.text(12, y, "Before and after welding", 3.8, bold=True)
    for note in welding_notes(assembly):
        y -= 5.2
        book.text(14, y, f"– {note}", 3.2)
    asked = [check for check in built.checks if check.utilisation is not None and check.case]
    if asked and y > 40:
        y -= 9
        book.text(12, y, "Weakest first (1.00 is the limit)", 3.8, bold=True)
        for check in asked[: min(5, int((y - 20) / 5.2))]:
            y -= 5.2
            tone = "red" if not check.passed else "ink"
            book.text(14, y, f"{shown_utilisation(check.utilisation)}  {check.name}, {check.case}", 3.2, tone=tone)
    book.text(12, 13.5, f"Not checked: {', '.join(NOT_CHECKED)}.", 3.0, tone="muted")


def _template(book: Book, built: Built, numbers: Numbers) -> None:
    link = built.assembly.link
    tab = link.tab
    assert tab is not None
    assert built.outline is not None
    book.page(f"{link.name}: tab, 1:1 template", link.side, true_size=True)
    flat = tab_flat(built.outline, tab)
    plates = 2 * len(built.assembly.tabbed) * (2 if link.side == "pair" else 1)
    book.text(12, 270, f"{numbers.main(tab.plate.mm)} {tab.grade_name}, cut {plates}. Print at 100 %, measure the bars, "
              "glue on, centre-punch the hole.", 3.4)  # fmt: skip
    room = 125.0
    if flat.width <= 186 and flat.height <= 235:
        book.draw(flat, (210 - flat.width) / 2, 262 - flat.height, 1.0)
    else:
        book.text(12, 150, "This plate is larger than the page: use the DXF.", 4, bold=True)
    if flat.height < room - 5 and built.assembly.tabbed:
        book.draw(tab_sheet(built.assembly, tab, built.outline, numbers), 24, 28, 0.68)


def _jig_page(book: Book, built: Built, numbers: Numbers) -> None:
    link = built.assembly.link
    book.page(f"{link.name}: jig", link.side)
    book.draw(jig_sheet(built.assembly, built.stack, built.jig, numbers), 12, 132, _FIT)
    y = 124.0
    book.text(12, y, "Order", 3.8, bold=True)
    for i, step in enumerate(built.jig.steps, 1):
        for line in wrap(f"{i}. {step}", 108, subsequent_indent="   "):
            y -= 5.4
            book.text(14, y, line, 3.3)
    y -= 10
    book.text(12, y, f"Cold, pin to pin: ________   must be {numbers.main(built.jig.check_length)} ± "
              f"{numbers.main(built.jig.tolerance)}      welder: ____________   date: ________", 3.6)  # fmt: skip


def _cut_list_page(book: Book, design: Design, numbers: Numbers) -> None:
    book.page("Cut list", "whole job")
    found = evaluate(design).cut_list
    y = 268.0
    book.text(12, y, "Saw", 4.2, bold=True)
    for piece in found.pieces:
        y = _next(book, y, 6.2)
        book.text(14, y, f"{piece.count} ×", 3.6, mono=True)
        book.text(52, y, numbers.main(piece.length_mm), 4.2, mono=True, right=True)
        book.text(55, y, numbers.other(piece.length_mm), 2.8, mono=True, tone="muted")
        book.text(78, y, f"{piece.tube}, {piece.grade}", 3.3)
        book.text(198, y, f"{piece.part} ({piece.side})", 3.3, right=True)
    y = _next(book, y, 10)
    book.text(12, y, "Have or buy", 4.2, bold=True)
    for item in found.items:
        y = _next(book, y, 5.4)
        book.text(14, y, f"{item.count} ×", 3.4, mono=True)
        book.text(28, y, item.kind, 3.3)
        book.text(48, y, item.hand, 3.6, bold=item.hand == "LH", mono=True)
        book.text(60, y, item.what, 3.3)
    if found.incomplete:
        y = _next(book, y, 9)
        book.text(12, y, f"Left out, not complete: {', '.join(found.incomplete)}", 3.6, bold=True, tone="amber")


def _next(book: Book, y: float, step: float) -> float:
    if y - step < 18:
        book.page("Cut list", "whole job, continued")
        return 268.0
    return y - step
