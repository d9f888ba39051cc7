"""The pack's PDF: the cut list, then of each part its card, its views, its 1:1 templates and its jig; the same for every kind of part."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import groupby
from typing import Any

from reportlab.platypus import CondPageBreak, Spacer

from tirante.core.checks.shown import shown_utilisation
from tirante.core.cutting.cut_list import SawPiece, cut_list
from tirante.core.cutting.kept import heats_of
from tirante.core.cutting.sheets_view import sheet_drawing, sheet_title
from tirante.core.document.cutting import KeptCutting, KeptNest
from tirante.core.drawing.sheet import Numbers
from tirante.core.errors import InputError
from tirante.core.job.check_sheets import CheckSheet, check_sheets
from tirante.core.job.evaluate import cut_list_out, evaluate
from tirante.core.job.results import CutListOut, NotMadeOut, PartOut, PieceOut
from tirante.core.job.unsettled import unsettled
from tirante.core.job.worked import Worked
from tirante.core.loads.shown import worst_of_parts
from tirante.core.parts.kind import ViewAsked
from tirante.core.parts.numbers import numbers_of
from tirante.core.parts.part import Part, PlatePiece
from tirante.core.parts.plate_jig.made import told_signed
from tirante.core.parts.registry import kind_of
from tirante.documents.book import BARS, FOOT, ROOM, Book, Drawn, beside, fitted, heading, items, rows, tiles, words
from tirante.documents.code import code_drawing, sheet_address
from tirante.documents.pdf import MM, Stamp


@dataclass(frozen=True, slots=True, kw_only=True)
class Chosen:
    """What of a job is printed."""

    parts: frozenset[str] | None = None  # by id; None: all
    layouts: tuple[KeptCutting | KeptNest, ...] = ()  # of the shop, that are kept

    def has(self, part_id: str) -> bool:
        """Whether a part is among it."""
        return self.parts is None or part_id in self.parts

    def heats(self, piece: SawPiece | PieceOut) -> str:
        """The heats that a saw piece is cut from; empty where the shop keeps none.

        Args:
            piece: of the cut list.
        """
        return heats_of(self.layouts, piece)

    @property
    def nests(self) -> tuple[tuple[int, KeptNest], ...]:
        """Its layouts of sheets, numbered from 1 as they are printed."""
        return tuple((n, one) for n, one in enumerate(self.layouts, 1) if isinstance(one, KeptNest))


WHOLE = Chosen()


def pack_pdf(job: Worked, stamp: Stamp, chosen: Chosen = WHOLE) -> bytes:
    """All pages of a job, or of what is chosen.

    Args:
        job: worked out.
        stamp: that every page carries.
        chosen: which parts, and the layouts that are printed with them.
    """
    book = Book(f"{job.design.name}, {stamp.revision}", stamp)
    numbers = numbers_of(job.settings)
    found = evaluate(job)
    some = [part for part in job.parts if chosen.has(part.id)]
    of = "whole job" if chosen.parts is None else f"{len(some)} of {len(job.parts)} parts"
    book.section(
        "Cover",
        of,
        _cover(
            [numbers.told(one) for one in unsettled(found)],
            stamp,
            some if chosen.parts is not None else None,
            found.not_made,
        ),
    )
    cut = found.cut_list if chosen.parts is None else cut_list_out(cut_list(some, job.settings, job.catalogue))
    book.section("Cut list", of, _cut_list(cut, found.not_made if chosen.parts is None else [], numbers, chosen))
    if chosen.parts is None:
        book.section("Load summary", "whole job", _loads(job))
    for n, layout in enumerate(chosen.layouts, 1):
        book.section(f"Layout {n}: {numbers.told(layout.title)}", "whole job", _layout(layout, found.parts, numbers))
    for part, out in zip(job.parts, found.parts, strict=True):
        if not chosen.has(part.id):
            continue
        book.section(part.name, _side(out), _card(part, out, numbers, stamp))
        if part.complete:
            if part.tool:
                _tool(book, part, out, numbers)
            else:
                _templates(book, part, out, numbers)
                _jig(book, part, out, numbers)
    checked = check_sheets(job, some)
    if checked:
        book.section("Check sheets", of, _checks(checked, numbers))
    return book.close()


def _cover(open_: list[str], stamp: Stamp, some: list[Part] | None, not_made: Sequence[NotMadeOut]) -> list[Any]:
    """What stands of the whole: issued or not, reviewed or not, and what is not settled with who answers for it."""
    state = "ISSUED to build from" if stamp.issued else "DRAFT. Nothing is to be cut from it."
    pieces = [
        words(stamp.job, 8, bold=True), words(f"{stamp.revision}, {stamp.date}", 4.2), words(state, 4.2, bold=True),
        words(stamp.review, 4.2, bold=True, tone="ink" if stamp.reviewed else "red"),
    ]  # fmt: skip
    if stamp.reviewed:
        pieces.append(words(f"Limits of the review: {stamp.limits}", 3.6))
    if stamp.log:
        pieces.append(words(f"Log of who did what, its latest entry when this was made: {stamp.log}", 3.5, tone="muted"))  # fmt: skip
    pieces.append(Spacer(1, 4 * MM))
    if some is not None:
        pieces += [
            words(
                f"Of this job only: {', '.join(part.name for part in some)}. What is not settled below is of the whole job. Its load summary, its layouts on sticks and sheets and what of the car is not made are in the whole pack.",
                3.6,
            ),
            Spacer(1, 2 * MM),
        ]
    lines = list(stamp.acknowledged) if stamp.issued and stamp.acknowledged else open_
    beside = [
        words("Moves with the car, is no part of this job and was not looked at:", 3.6, bold=True),
        *items([f"{one.end}: {one.name}" for one in not_made], 3.5),
    ] if not_made else []  # fmt: skip
    if not lines:
        return [
            *pieces,
            words("Every part that is made here holds in every load case that it was given.", 3.6),
            *beside,
            words(CAUTION, 3.5, tone="muted"),
        ]
    said = (
        f"Issued with the following not settled. {stamp.acknowledged_by} answers for it:"
        if stamp.acknowledged_by
        else "Not settled, and nobody has answered for it:"
    )
    return [
        *pieces,
        words(said, 4, bold=True, tone="amber"),
        *items(lines, 3.5),
        *beside,
        words(CAUTION, 3.5, tone="muted"),
    ]


CAUTION = "A margin is not an approval: weld quality, materials and the structure these parts bolt to are not checked here. Local rules and a licensed engineer come first."


def _side(out: PartOut) -> str:
    hands = [hand for hand in ("left", "right") if any(view.title.endswith(hand.upper()) for view in out.views)]
    if hands:
        return f"for {' and '.join(hands)}, each its own"
    differ = "" if out.own_mirror or out.side != "pair" else ", left and right differ"
    return f"{out.side}{differ}"


def _side_of_view(title: str, out: PartOut) -> str:
    """The hand that a sheet is for, where it is for one."""
    return next((hand for hand in ("left", "right") if title.endswith(hand.upper())), out.side)


CODE = 30.0  # [mm] across of a part's code, its rim included: half a millimetre a field, which a phone reads at arm's length


def _loads(job: Worked) -> list[Any]:
    """Of each end the hardest that every link, spring, stop and joint is loaded, by which case; what was not carried by name."""
    pieces: list[Any] = []
    for end in job.design.ends:
        pieces += heading(job.end_name(end.id))
        if not job.has_loads():
            pieces.append(words("The job has no load cases: nothing is carried here.", 3.5, tone="amber"))
            continue
        try:
            carried = job.carried(end.id)
        except InputError as error:
            pieces.append(words(f"Not worked out: {error.message}", 3.5, tone="amber"))
            continue
        links, joints = worst_of_parts(carried)
        head = [words(text, 3.5, bold=True) for text in ("link, spring or stop", "pull, N", "in", "push, N", "in")]
        cells = [
            [words(one.part.replace("_", " "), 3.5), words(_whole(one.pull), 3.5, mono=True, right=True), words(one.pull_case, 3.5),
             words(_whole(-one.push), 3.5, mono=True, right=True), words(one.push_case, 3.5)]
            for one in links
        ]  # fmt: skip
        pieces.append(rows([head, *cells], [50, 22, 46, 22, ROOM - 140], head=True))
        if joints:
            head = [words(text, 3.5, bold=True) for text in ("joint", "force, N", "in")]
            cells = [
                [words(one.part.replace("_", " "), 3.5), words(f"{one.pull:.0f}", 3.5, mono=True, right=True), words(one.pull_case, 3.5)]
                for one in joints
            ]  # fmt: skip
            pieces += [Spacer(1, 2 * MM), rows([head, *cells], [70, 26, ROOM - 96], head=True)]
        missing = [f"{one.name}: {one.fault}" for one in carried.cases if one.forces is None or one.fault]
        if missing:
            pieces += [words("Not carried:", 3.5, bold=True, tone="amber"), *items(missing, 3.5)]
    return pieces or [words("The job has no end of a car: its parts carry the load cases that are typed at them.", 3.6)]


def _whole(force: float) -> str:
    return f"{round(force) + 0:d}"  # an int: nothing is never less than nothing


def _layout(layout: KeptCutting | KeptNest, parts: Sequence[PartOut], numbers: Numbers) -> list[Any]:
    """A layout that the shop keeps, as it was laid out; parts that are other now stand first."""
    metals = {part.id: part.metal for part in parts}
    other = [one.name for one in layout.parts if metals.get(one.id) != one.metal]
    pieces: list[Any] = [words(numbers.told(f"{layout.told}. Laid out from {layout.revision}."), 3.6)]
    if other:
        pieces.append(
            words(
                f"Changed since it was laid out: {', '.join(other)}. Do not cut by this sheet.",
                3.8,
                bold=True,
                tone="red",
            )
        )
    if isinstance(layout, KeptNest):
        for n in range(len(layout.sheets)):
            pieces += [*heading(sheet_title(layout, n)), fitted(sheet_drawing(layout, n, numbers), height=120.0)]
        counts = Counter(place.shape for sheet in layout.sheets for place in sheet.placed)
        cells = [
            [words(str(i + 1), 3.5, mono=True), words(f"{counts[i]} ×", 3.5, mono=True), words(shape.what + (", the rectangle that it is made of" if shape.blank else ""), 3.5)]
            for i, shape in enumerate(layout.shapes)
        ]  # fmt: skip
        return [*pieces, *heading("Its plates"), rows(cells, [12, 16, ROOM - 28])]
    cells = []
    for n, stick in enumerate(layout.sticks, 1):
        row = next((one for one in layout.rows if one.id == stick.row_id), None)
        heat = layout.heat_of(stick.row_id)
        where = ("new" if row is None else row.place or "from the rack") + (f", heat {heat}" if heat else "")
        cells.append([
            words(str(n), 3.5, mono=True), words(f"{numbers.main(stick.length_mm)}, {where}", 3.5),
            [words(f"{numbers.main(piece.length_mm)}  {piece.what}", 3.5) for piece in stick.pieces], words(numbers.main(stick.left_mm), 3.5, mono=True, right=True),
        ])  # fmt: skip
    head = [words(text, 3.5, bold=True) for text in ("", "stick", "cut, in this order", "left")]
    return [*pieces, rows([head, *cells], [10, 46, ROOM - 86, 30], head=True)]


def _coded(pieces: list[Any], part: Part, stamp: Stamp) -> list[Any]:
    """The head of a card with its code at its right, where the sheets carry codes."""
    if not stamp.link:
        return pieces
    drawing = code_drawing(sheet_address(stamp.link, part.id, part.metal), CODE)
    return [beside(pieces, [Drawn(drawing, 1.0), words("is it still so?", 3.5, tone="muted")], CODE + 6)]


def _card(part: Part, out: PartOut, numbers: Numbers, stamp: Stamp) -> list[Any]:
    stock = ", ".join(text for text in (out.stock, out.material) if text)
    if out.faults:
        pieces = [words("Not complete, so nothing is to be cut:", 4, bold=True)]
        return [
            *_coded(pieces, part, stamp),
            *items([numbers.told(f"{fault.field}: {fault.message}") for fault in out.faults[:20]]),
        ]
    assert out.card
    pieces = [words(f"make {out.count} · {out.word} · {stock}", 4.2, bold=True), Spacer(1, 1.5 * MM)]
    for i, figure in enumerate(out.card.figures):
        size = 10 if i == 0 else 6
        pieces.append(
            words(f"{figure.label.upper() if i == 0 else figure.label} {numbers.main(figure.mm)}", size, bold=True)
        )
        pieces.append(words(f"{numbers.other(figure.mm)}   {numbers.told(figure.note)}", 3.5, tone="muted"))
    pieces = _coded(pieces, part, stamp)
    # what must not be missed stands above the drawing, the rest below it
    pieces += [words(_line(line.text, line.mm, numbers), 3.6, bold=True) for line in out.card.lines if line.strong]
    view = next(
        (view for view in part.views if not view.cut and (part.jig is None or view.name != part.jig.view)), None
    )
    if view:
        lh = next((i for i, end in enumerate(out.card.ends) if end.mark == "LH"), 1)
        pieces += [
            Spacer(1, 2 * MM),
            fitted(kind_of(part.saved).draw(part, ViewAsked(name=view.name, end=lh), numbers)),
        ]
    pieces += [words(_line(line.text, line.mm, numbers), 3.6) for line in out.card.lines if not line.strong]
    if out.card.ends:
        cells = [
            [words(end.mark, 4.2, bold=True)] + [words(_line(line.text, line.mm, numbers), 3.5, bold=line.strong) for line in end.lines]
            for end in out.card.ends
        ]  # fmt: skip
        most = max(len(row) for row in cells)
        cells = [row + [""] * (most - len(row)) for row in cells]
        pieces += [*heading("Ends"), rows(cells, [14.0, *[(ROOM - 14) / (most - 1)] * (most - 1)])]
    if out.welding:
        pieces += [*heading("Before and after welding"), *items([numbers.told(one) for one in out.welding])]
    if out.notes:
        pieces += [*heading("Worth knowing"), *items([numbers.told(one) for one in out.notes])]
    return pieces + _judged(part, out, numbers)


def _judged(part: Part, out: PartOut, numbers: Numbers) -> list[Any]:
    if part.tool:
        return [
            *heading("What it is"), words(numbers.told(out.headline), 3.5),
            words(f"Not checked: {', '.join(out.not_checked)}.", 3.5, tone="muted"),
        ]  # fmt: skip
    pieces = [*heading("Will it hold?"), words(numbers.told(out.headline), 3.5)]
    asked = [check for check in part.checks if check.utilisation is not None and check.case]
    if asked:
        pieces.append(words("Weakest first (1.00 is the limit)", 3.5, bold=True))
        pieces += [
            words(f"{shown_utilisation(c.utilisation)}  {c.name}, {c.case}", 3.5, tone="ink" if c.passed else "red")
            for c in asked[:5]
        ]
    if out.not_carried:
        pieces += [
            words("Load cases that are not worked out:", 3.5, bold=True, tone="amber"),
            *items([numbers.told(one) for one in out.not_carried]),
        ]
    return [
        *pieces,
        words(f"Not checked: {', '.join(out.not_checked)}. A margin is not an approval.", 3.5, tone="muted"),
    ]


def _line(text: str, mm: float | None, numbers: Numbers) -> str:
    return numbers.told(text) if mm is None else f"{text} {numbers.main(mm)} ({numbers.other(mm)})"


def _templates(book: Book, part: Part, out: PartOut, numbers: Numbers) -> None:
    plates = [piece for piece in part.pieces if isinstance(piece, PlatePiece) and piece.outline]
    for view in part.views:
        if not view.cut:
            continue
        drawing = kind_of(part.saved).draw(part, ViewAsked(name=view.name), numbers)
        own = next((piece for piece in plates if piece.name == view.plate), plates[0] if plates else None)
        what = f"{numbers.main(own.thickness)} {own.material}, cut {own.count * out.count}. " if own else ""
        pieces: list[Any] = [
            words(
                f"{numbers.told(view.told)} Print at 100 % and measure the bars."
                if view.told
                else f"{what}Print at 100 %, measure the bars, glue on, centre-punch the holes.",
                3.5,
            ),
            Spacer(1, 4 * MM),
        ]
        room = book.top - BARS - 24
        over = tiles(drawing, ROOM, room)
        for i, tile in enumerate(over):
            if i:
                pieces.append(CondPageBreak((room + 10) * MM))
            if len(over) > 1:
                pieces.append(
                    words(
                        f"Sheet {i + 1} of {len(over)}: lay the crosses of one name on each other, and glue.",
                        3.6,
                        bold=True,
                    )
                )
            pieces.append(tile)
        book.section(f"{part.name}: {view.title}", out.side, pieces, true_size=True)


def _tool(book: Book, part: Part, out: PartOut, numbers: Numbers) -> None:
    """A jig's other sheets, each hand's by itself, with a line to sign; its plate is in its DXF and by its ordinates, not on paper at 1:1."""
    shown = [view for view in part.views if not view.cut]
    plates = [view.name for view in part.views if view.cut]
    for view in shown[1:]:
        drawing = kind_of(part.saved).draw(part, ViewAsked(name=view.name), numbers)
        last = view is shown[-1]
        at_size = (
            f"The base at 1:1 is in the pack’s DXF ({', '.join(plates)}): it is cut, or set out by these ordinates."
            if plates and last
            else ""
        )
        pieces = [
            fitted(drawing, height=(book.top - FOOT) * 0.85), Spacer(1, 4 * MM), *([words(at_size, 3.5)] if at_size else []),
            words("Measured: ________________   the hand of this sheet: ______   welder: ____________   date: ________", 3.6),
        ]  # fmt: skip
        book.section(f"{part.name}: {view.title}", _side_of_view(view.title, out), pieces)


def _jig(book: Book, part: Part, out: PartOut, numbers: Numbers) -> None:
    if part.jig is None or out.jig is None:
        return
    drawing = kind_of(part.saved).draw(part, ViewAsked(name=part.jig.view), numbers)
    stations = [
        [words(s.name, 3.5, bold=True), words(numbers.main(s.ordinate_mm), 3.5, mono=True), words(s.what, 3.5)]
        for s in out.jig.stations
    ]
    pieces = [
        fitted(drawing, height=(book.top - FOOT) * 0.5), *heading("Ordinates from the datum"), rows(stations, [16, 34, ROOM - 50]),
        *heading("Order"), *[words(numbers.told(f"{i}. {step}"), 3.5) for i, step in enumerate(out.jig.steps, 1)], Spacer(1, 5 * MM),
        words(
            f"Cold, pin to pin: ________   must be {numbers.gauged(out.jig.check_length_mm)} ± {numbers.within(out.jig.tolerance_mm)}"
            "      welder: ____________   date: ________", 3.6,
        ),
    ]  # fmt: skip
    book.section(f"{part.name}: jig", out.side, pieces)


NOT_ON_CHECKS = "Brackets are not on it: check them by their templates, their set-out and the bracket bars. What is bought comes with its maker’s own figures."


def _checks(sheets: Sequence[CheckSheet], numbers: Numbers) -> list[Any]:
    """Of every member what it is measured by, cold, with room for what was read; for each hand by itself."""
    pieces: list[Any] = [words(NOT_ON_CHECKS, 3.5, tone="muted")]
    for sheet in sheets:
        blanks = [f"{when} {hand[:1]}".strip() for hand in sheet.hands for when in ("tacked", "cold")]
        head = [
            words(text, 3.2, tone="muted")
            for text in ("length" if sheet.from_card else "pivot to pivot", "must be", "", *blanks)
        ]
        cells = [
            [words(one.what, 3.5), words(numbers.gauged(one.mm), 4.2, bold=True, mono=True, right=True), words(numbers.other(one.mm), 3.2, mono=True, tone="muted"), *[""] * len(blanks)]
            for one in sheet.lengths
        ]  # fmt: skip
        own = 22.0 if len(blanks) > 2 else 30.0
        pieces += [
            CondPageBreak(40 * MM), *heading(f"{sheet.name}, each ± {numbers.within(sheet.tolerance)}"),
            rows([head, *cells], [ROOM - 48 - own * len(blanks), 26, 22, *[own] * len(blanks)], head=True),
        ]  # fmt: skip
        if sheet.from_card:
            pieces.append(words(f"As its card has it. {sheet.from_card}", 3.2, tone="muted"))
        pieces += [words(told, 3.5, bold=True) for told in _signed(sheet, numbers)]
        if sheet.alike and len(sheet.hands) == 2:
            pieces.append(words("Left and right are alike: it is its own mirror image.", 3.5))
        elif not (sheet.alike or sheet.signed or sheet.from_card):
            pieces.append(words("No figure of its joints tells its hands apart surely: hold it against the car’s own brackets.", 3.5, tone="amber"))  # fmt: skip
        pieces.append(
            words("measured by: ____________________   with: ____________________   date: ______________", 3.5)
        )
    return pieces


def _signed(sheet: CheckSheet, numbers: Numbers) -> list[str]:
    """The figure that the wrong hand cannot pass, of each hand."""
    if sheet.signed is None:
        return []
    found = []
    for i, hand in enumerate(sheet.hands):
        figure = replace(sheet.signed, height=-sheet.signed.height) if i else sheet.signed
        told = told_signed(figure, numbers.gauged(abs(figure.height)) + (" mm" if numbers.unit == "mm" else ""))
        found.append(f"{hand or 'Its hand'}: {told} Within ± {numbers.within(figure.tolerance)}. Read: ____________")
    return found


def _sawn(piece: PieceOut, numbers: Numbers) -> str:
    """What is to be minded of a cut."""
    if piece.off_mm is not None:
        return f". {piece.told}: {numbers.written(piece.off_mm)}"
    return f", {piece.told}" if piece.told else ""


TURNED = "turned: how far the long side of the second end is from that of the first round the tube, right-handed as one looks from first to second"


def _heat(number: str) -> str:
    return f"heat {number}" if number else ""


def _kg(mass: float | None) -> str:
    return "" if mass is None else f"{mass:.3f} kg" if mass < 1.0 else f"{mass:.2f} kg"


def _cut_list(found: CutListOut, not_made: list[NotMadeOut], numbers: Numbers, chosen: Chosen) -> list[Any]:
    pieces: list[Any] = []
    if found.pieces:
        pieces += heading("Saw")
        for (tube, grade), of in groupby(found.pieces, lambda p: (p.tube, p.grade)):
            cells = [
                [
                    words(f"{p.count} ×", 3.5, mono=True), words(numbers.main(p.length_mm), 4.2, bold=True, mono=True, right=True),
                    words(numbers.other(p.length_mm), 3.5, mono=True, tone="muted"), words("; ".join(one for one in (_kg(p.mass_kg), _heat(chosen.heats(p))) if one), 3.5),
                    words("; ".join(one for one in (p.at_ends, p.turned) if one), 3.5), words(f"{p.part} ({p.side}){_sawn(p, numbers)}", 3.5),
                ]
                for p in of
            ]  # fmt: skip
            head = [words(text, 3.2, tone="muted") for text in ("", "to saw", "", "each", "ends; turned", "for")]
            pieces += [
                CondPageBreak(22 * MM),
                words(numbers.told(f"{tube}, {grade}"), 3.6, bold=True),
                rows([head, *cells], [12, 28, 24, 24, 46, ROOM - 134], head=True),
            ]
        if any(p.turned for p in found.pieces):
            pieces.append(words(TURNED, 3.2, tone="muted"))
    if found.items:
        cells = [
            [
                words(f"{i.count} ×" if i.count else "as needed", 3.5, mono=bool(i.count)),
                words(i.kind, 3.5),
                words(i.hand, 3.5, bold=i.hand == "LH", mono=True),
                words(numbers.told(f"{i.what}{f', together {_kg(i.mass_kg)}' if i.mass_kg is not None else ''}"), 3.5),
            ]
            for i in found.items
        ]
        pieces += [*heading("Cut from plate, turn, have or buy"), rows(cells, [14, 20, 12, ROOM - 46])]
    if found.left_out:
        pieces += [
            *heading("Left out, not complete"),
            *items([numbers.told(f"{one.name}: {one.why}") for one in found.left_out]),
        ]
    if not_made:
        pieces += [
            *heading("Moves with the car and is not on this list"),
            *items([numbers.told(f"{one.end}, {one.name}: {one.why}") for one in not_made]),
        ]
    return pieces or [words("Nothing to cut yet.", 4)]
