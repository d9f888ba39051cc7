"""Pages made of flowing pieces: paragraphs, tables and drawings run on to the next page by themselves, each under its own frame."""

from __future__ import annotations

import io
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from math import ceil
from typing import Any
from xml.sax.saxutils import escape

from reportlab.lib.colors import HexColor
from reportlab.lib.styles import ParagraphStyle
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import CondPageBreak, Flowable, Frame, Paragraph, Spacer, Table, TableStyle

from tirante.core.drawing.model import Drawing
from tirante.documents.pdf import BOLD, EDGE, MM, MONO, REGULAR, WIDE, Stamp, draw, extent, frame, register_fonts
from tirante.documents.svg import INK

FOOT = 17.0  # mm, below which nothing flows on a page
ROOM = WIDE
# The least letters of a sheet that is read at arm's length, 600 mm: 0.67 of it are the capitals, 2.35 mm, some 13 minutes of arc. ISO 3098-1 begins
# its lettering at 2.5 mm, from memory.
LEAST = 3.5  # [mm]
BARS = 30.0  # mm, below which the check bars of a 1:1 page stand


class Drawn(Flowable):  # type: ignore[misc]
    """A drawing as a piece of a page, at a scale of its own; the blank about what is drawn is left away."""

    def __init__(self, drawing: Drawing, scale: float) -> None:
        """
        Args:
            drawing: what.
            scale: mm on paper for each mm of the drawing's sheet.
        """
        super().__init__()
        self.drawing, self.scale = drawing, scale
        self.left, self.foot, right, top = extent(drawing, scale)
        self.size = (right - self.left) * scale * MM, (top - self.foot) * scale * MM
        self.hAlign = "CENTER"

    def wrap(self, width: float, height: float) -> tuple[float, float]:
        """What it takes [points]."""
        del width, height
        return self.size

    def draw(self) -> None:
        """On the canvas, whose origin is its lower left."""
        draw(self.canv, self.drawing, -self.left * self.scale, -self.foot * self.scale, self.scale)


LAP = 12.0  # [mm] that neighbouring tiles of a drawing share
CROSS = 4.0  # [mm] from the middle of a joining mark to its ends


class Tile(Flowable):  # type: ignore[misc]
    """A window of a drawing that is larger than a page, at 1:1, with the marks by which it is laid on its neighbours."""

    def __init__(
        self, drawing: Drawing, window: tuple[float, float, float, float], marks: Sequence[tuple[float, float, str]]
    ) -> None:
        """
        Args:
            drawing: what.
            window: left, foot, right, top of it [mm].
            marks: joining marks of the whole drawing: x, y [mm] and what stands beside each.
        """
        super().__init__()
        self.drawing, self.window = drawing, window
        left, foot, right, top = window
        self.marks = [one for one in marks if left <= one[0] <= right and foot <= one[1] <= top]
        self.hAlign = "LEFT"

    def wrap(self, width: float, height: float) -> tuple[float, float]:
        """What it takes [points]."""
        del width, height
        left, foot, right, top = self.window
        return (right - left) * MM, (top - foot) * MM

    def draw(self) -> None:
        """On the canvas, what lies outside the window left away."""
        left, foot, right, top = self.window
        canvas = self.canv
        canvas.saveState()
        path = canvas.beginPath()
        path.rect(0, 0, (right - left) * MM, (top - foot) * MM)
        canvas.clipPath(path, stroke=0, fill=0)
        draw(canvas, self.drawing, -left, -foot, 1.0)
        canvas.restoreState()
        canvas.setStrokeColor(HexColor(INK["ink"]))
        canvas.setFillColor(HexColor(INK["ink"]))
        canvas.setLineWidth(0.2 * MM)
        canvas.setDash()
        canvas.setFont(BOLD, 3.0 * MM)
        for x, y, told in self.marks:
            at = (x - left) * MM, (y - foot) * MM
            canvas.line(at[0] - CROSS * MM, at[1], at[0] + CROSS * MM, at[1])
            canvas.line(at[0], at[1] - CROSS * MM, at[0], at[1] + CROSS * MM)
            canvas.drawString(at[0] + 0.8 * MM, at[1] + 0.8 * MM, told)


def tiles(drawing: Drawing, width: float, height: float) -> list[Tile]:
    """A drawing at 1:1 over as many pages as it takes, row by row from its foot, each row from the left.

    Args:
        drawing: what.
        width: of a page's room [mm].
        height: likewise.
    """
    left, foot, right, top = extent(drawing)
    across, up = (_cuts(a, b, room) for a, b, room in ((left, right, width), (foot, top, height)))
    marks = []
    for axis, cuts, other in (("x", across, up), ("y", up, across)):
        for i, ((_, end), (begin, _)) in enumerate(pairwise(cuts)):
            seam = (begin + end) / 2
            for j, (low, high) in enumerate(other):
                for share, which in ((0.25, "a"), (0.75, "b")):
                    along = low + share * (high - low)
                    place = (seam, along) if axis == "x" else (along, seam)
                    marks.append((*place, f"{i + 1}{'-' if axis == 'x' else '|'}{i + 2}.{j + 1}{which}"))
    return [Tile(drawing, (a, c, b, d), marks) for c, d in up for a, b in across]


def _cuts(low: float, high: float, room: float) -> list[tuple[float, float]]:
    """Even windows of no more than the room over a length, each over its neighbour by the lap at least."""
    if high - low <= room:
        return [(low, high)]
    count = ceil((high - low - LAP) / (room - LAP))
    step = (high - low - room) / (count - 1)
    return [(low + i * step, low + i * step + room) for i in range(count)]


def fitted(drawing: Drawing, width: float = ROOM, height: float = 150.0) -> Drawn:
    """A drawing as large as its room, never past its own size.

    Args:
        drawing: what.
        width: of its room [mm].
        height: likewise.
    """
    scale = 1.0
    for _ in range(4):  # letters that shrink no further take more of the width: a second look settles it
        left, foot, right, top = extent(drawing, scale)
        scale = min(width / (right - left), height / (top - foot), 1.0)
    return Drawn(drawing, 0.995 * scale if scale < 1.0 else scale)


def words(
    text: str, size: float = 3.6, *, bold: bool = False, mono: bool = False, tone: str = "ink", right: bool = False
) -> Paragraph:
    """A paragraph.

    Args:
        text: as it is; nothing in it is taken for markup.
        size: of its letters [mm], never under `LEAST`.
        bold: or not.
        mono: for figures.
        tone: of the ink.
        right: to the right edge.
    """
    register_fonts()
    size = max(size, LEAST)
    style = ParagraphStyle(
        name="words", fontName=MONO if mono else BOLD if bold else REGULAR, fontSize=size * MM, leading=size * 1.3 * MM,
        textColor=HexColor(INK[tone]), alignment=2 if right else 0,
    )  # fmt: skip
    return Paragraph(escape(text), style)


def heading(text: str) -> list[Any]:
    """A heading with room above it, never alone at a page's foot."""
    return [CondPageBreak(22 * MM), Spacer(1, 3.2 * MM), words(text, 3.9, bold=True), Spacer(1, 0.8 * MM)]


def items(texts: Sequence[str], size: float = 3.6) -> list[Any]:
    """Lines, each after a dash."""
    return [words(f"– {text}", size) for text in texts]


def rows(cells: Sequence[Sequence[Any]], widths: Sequence[float], *, head: bool = False) -> Table:
    """A table that runs on to the next page, its head repeated.

    Args:
        cells: paragraphs or texts.
        widths: of its columns [mm].
        head: whether the first row is one.
    """
    style = [
        ("VALIGN", (0, 0), (-1, -1), "MIDDLE"), ("LEFTPADDING", (0, 0), (-1, -1), 0.8 * MM), ("RIGHTPADDING", (0, 0), (-1, -1), 0.8 * MM),
        ("TOPPADDING", (0, 0), (-1, -1), 0.7 * MM), ("BOTTOMPADDING", (0, 0), (-1, -1), 0.7 * MM),
        ("LINEBELOW", (0, 0), (-1, -1), 0.1 * MM, HexColor(INK["muted"])),
    ]  # fmt: skip
    return Table(
        list(map(list, cells)),
        colWidths=[w * MM for w in widths],
        repeatRows=int(head),
        style=TableStyle(style),
        hAlign="LEFT",
    )


def beside(pieces: Sequence[Any], right: Any, wide: float) -> Table:
    """Pieces with something at their right.

    Args:
        pieces: one below the other.
        right: what stands there.
        wide: its room [mm].
    """
    style = [("VALIGN", (0, 0), (-1, -1), "TOP"), ("LEFTPADDING", (0, 0), (-1, -1), 0), ("RIGHTPADDING", (0, 0), (-1, -1), 0),
             ("TOPPADDING", (0, 0), (-1, -1), 0), ("BOTTOMPADDING", (0, 0), (-1, -1), 0)]  # fmt: skip
    return Table(
        [[list(pieces), right]], colWidths=[(ROOM - wide) * MM, wide * MM], style=TableStyle(style), hAlign="LEFT"
    )


@dataclass(slots=True)
class _Section:
    part: str
    side: str
    pieces: list[Any]
    true_size: bool


class _Numbered(Canvas):  # type: ignore[misc]
    """Pages are kept until their number is known."""

    def __init__(self, *args: Any, **more: Any) -> None:
        super().__init__(*args, **more)
        self.kept: list[tuple[dict[str, Any], _Section]] = []
        self.section: _Section | None = None

    def showPage(self) -> None:  # noqa: N802 - the library's name
        assert self.section
        self.kept.append((dict(self.__dict__), self.section))
        self._startPage()


class Book:
    """A PDF of sections, each of which begins a page; pages are numbered x of y. Same input, same bytes."""

    def __init__(self, title: str, stamp: Stamp) -> None:
        """
        Args:
            title: of the document.
            stamp: that every page carries.
        """
        self.title, self.stamp = title, stamp
        self._sections: list[_Section] = []

    @property
    def top(self) -> float:
        """Above which nothing flows on a page [mm]."""
        return self.stamp.page[1] - 23.0

    def section(self, part: str, side: str, pieces: Sequence[Any], *, true_size: bool = False) -> None:
        """Pages about a part.

        Args:
            part: that they are about.
            side: of it.
            pieces: that flow from one to the next.
            true_size: whether they print at 1:1 and carry the check bars.
        """
        self._sections.append(_Section(part, side, list(pieces), true_size))

    def close(self) -> bytes:
        """The finished document."""
        register_fonts()
        stream = io.BytesIO()
        wide, high = self.stamp.page
        canvas = _Numbered(stream, pagesize=(wide * MM, high * MM), invariant=1, pageCompression=1)
        canvas.setTitle(self.title)
        canvas.setCreator("Tirante")
        for section in self._sections:
            _flow(canvas, section, self.top)
        total = len(canvas.kept)
        for number, (state, section) in enumerate(canvas.kept, 1):
            canvas.__dict__.update(state)
            frame(canvas, self.stamp, section.part, section.side, number, total, section.true_size)
            Canvas.showPage(canvas)
        Canvas.save(canvas)
        return stream.getvalue()


def _flow(canvas: _Numbered, section: _Section, top: float) -> None:
    left = list(section.pieces) or [Spacer(1, 1)]
    foot = BARS if section.true_size else FOOT
    canvas.section = section
    while left:
        room = Frame(
            EDGE * MM, foot * MM, ROOM * MM, (top - foot) * MM, leftPadding=0, rightPadding=0, topPadding=0, bottomPadding=0
        )  # fmt: skip
        before = len(left)
        room.addFromList(left, canvas)
        if left and not _split_on(left, room, canvas) and len(left) == before:
            raise ValueError(f"a piece of “{section.part}” is taller than a page")
        canvas.showPage()
        canvas.section = _Section(section.part, f"{section.side}, continued", [], section.true_size)


def _split_on(left: list[Any], room: Frame, canvas: Canvas) -> bool:
    """Put as much of the first piece on the page as goes there; the rest stays for the next."""
    parts = room.split(left[0], canvas)
    if len(parts) < 2:
        return False
    room.add(parts[0], canvas)
    left[0:1] = parts[1:]
    return True
