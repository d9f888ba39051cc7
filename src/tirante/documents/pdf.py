"""Drawing to PDF, and pages that print true: check bars, part, revision, date, side, units, review mark, page x of y.

Fonts are the shipped ones (Atkinson Hyperlegible, open licence). Same input, same bytes: the date is an argument.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from math import cos, radians, sin
from pathlib import Path
from typing import Any, Literal

from tirante.core.drawing.model import Arc, Area, Drawing, Line, Text
from tirante.core.units import INCH
from tirante.documents.svg import DASHES, FILLS, INK, WIDTHS

MM = 72 / INCH  # points
PAPER = {"A4": (210.0, 297.0), "Letter": (8.5 * INCH, 11.0 * INCH)}  # [mm]; ISO 216, and 8 1/2 × 11 in
EDGE, WIDE = 12.0, 186.0  # where what stands on a page begins, and how far it reaches, on either paper [mm]
LOG = 16  # digits of the link of the log that every page carries; the cover carries them all
DRAWN = 2.8  # [mm] the least letters of a drawing that is made smaller to fit its page: what it tells beside its main figures
_FONTS = Path(__file__).parent / "fonts"
REGULAR, BOLD, MONO = "Hyperlegible", "HyperlegibleBold", "HyperlegibleMono"


@dataclass(frozen=True, slots=True, kw_only=True)
class Stamp:
    """What every page carries."""

    job: str
    revision: str  # "rev 14" or "DRAFT"
    date: str  # as shown
    units: str
    reviewer: str | None  # None: NOT REVIEWED
    issued: bool
    acknowledged_by: str | None = None  # who answers for what is not settled of it
    acknowledged: tuple[str, ...] = ()
    paper: Literal["A4", "Letter"] = "A4"
    link: str = ""  # what the codes of its parts begin with; empty: it carries none
    reviewed_on: str = ""  # when the reviewer signed; empty: the name was typed, and nobody signed
    limits: str = ""  # of the review, in the reviewer's words
    log: str = (
        ""  # number and link of the latest entry of the shop's log when it was made; empty: nothing is written there
    )

    @property
    def review(self) -> str:
        """Who reviewed it and when, or that nobody did."""
        if self.reviewer is None:
            return "NOT REVIEWED"
        return f"reviewed by {self.reviewer}" + (f", {self.reviewed_on}" if self.reviewed_on else "")

    @property
    def reviewed(self) -> bool:
        """Whether somebody signed a review of what is issued."""
        return self.issued and bool(self.reviewed_on)

    @property
    def page(self) -> tuple[float, float]:
        """Width and height of its pages [mm]."""
        return PAPER[self.paper]


@cache
def register_fonts() -> None:
    """The shipped fonts, known to the PDF library once."""
    from reportlab.pdfbase import pdfmetrics
    from reportlab.pdfbase.ttfonts import TTFont

    for name, file in ((REGULAR, "regular.ttf"), (BOLD, "bold.ttf"), (MONO, "mono.ttf")):
        pdfmetrics.registerFont(TTFont(name, str(_FONTS / file)))


def _colour(canvas: Any, tone: str) -> None:
    from reportlab.lib.colors import HexColor

    canvas.setStrokeColor(HexColor(INK[tone]))
    canvas.setFillColor(HexColor(INK[tone]))


def _rule(canvas: Any, x1: float, y1: float, x2: float, y2: float, width: float) -> None:
    _colour(canvas, "ink")
    canvas.setLineWidth(width * MM)
    canvas.setDash()
    canvas.line(x1 * MM, y1 * MM, x2 * MM, y2 * MM)


def _text(canvas: Any, x: float, y: float, text: str, size: float, font: str, tone: str, right: bool) -> None:
    _colour(canvas, tone)
    canvas.setFont(font, size * MM)
    (canvas.drawRightString if right else canvas.drawString)(x * MM, y * MM, text)


def _pen(canvas: Any, style: str, tone: str) -> None:
    _colour(canvas, tone)
    canvas.setLineWidth(WIDTHS[style] * MM)
    if style in DASHES:
        canvas.setDash([float(n) * MM for n in DASHES[style].split()])
    else:
        canvas.setDash()


def draw(canvas: Any, drawing: Drawing, x: float, y: float, scale: float) -> None:
    """Draw all primitives of a drawing on a reportlab canvas."""
    from reportlab.lib.colors import HexColor

    def px(value: float) -> float:
        return (x + value * scale) * MM

    def py(value: float) -> float:
        return (y + value * scale) * MM

    for item in drawing.items:
        if isinstance(item, Line):
            _pen(canvas, item.style, item.tone)
            canvas.line(px(item.x1), py(item.y1), px(item.x2), py(item.y2))
        elif isinstance(item, Arc):
            _pen(canvas, item.style, item.tone)
            if item.full:
                filled = item.fill != "none"
                if filled:
                    canvas.setFillColor(HexColor(FILLS[item.fill]))
                canvas.circle(px(item.cx), py(item.cy), item.r * scale * MM, stroke=1, fill=int(filled))
            else:
                r = item.r * scale * MM
                path = canvas.beginPath()
                path.arc(px(item.cx) - r, py(item.cy) - r, px(item.cx) + r, py(item.cy) + r, item.start_deg,
                         item.end_deg - item.start_deg)  # fmt: skip
                canvas.drawPath(path, stroke=1, fill=0)
        elif isinstance(item, Area):
            _area(canvas, item, px, py)
        elif isinstance(item, Text):
            _drawn_text(canvas, item, px(item.x), py(item.y), scale)


def lettering(item: Text, scale: float) -> float:
    """Size of a drawing's letters on paper [mm]: they shrink with it, but not past what is read at arm's length."""
    return max(item.size * scale, min(item.size, DRAWN))


def extent(drawing: Drawing, scale: float = 1.0) -> tuple[float, float, float, float]:
    """The least rectangle that holds all that is drawn, its texts as wide as they print: left, foot, right, top, in mm of the drawing's sheet.

    Args:
        drawing: what.
        scale: at which it prints.
    """
    register_fonts()
    from reportlab.pdfbase.pdfmetrics import stringWidth

    xs: list[float] = []
    ys: list[float] = []
    for item in drawing.items:
        if isinstance(item, Line):
            xs += [item.x1, item.x2]
            ys += [item.y1, item.y2]
        elif isinstance(item, Arc):
            xs += [item.cx - item.r, item.cx + item.r]
            ys += [item.cy - item.r, item.cy + item.r]
        elif isinstance(item, Area):
            xs += [x for x, _ in item.points]
            ys += [y for _, y in item.points]
        else:
            size = lettering(item, scale) / scale
            wide = stringWidth(item.text, _font(item), size)
            begin = -wide * {"start": 0.0, "middle": 0.5, "end": 1.0}[item.anchor]
            c, s = cos(radians(item.angle_deg)), sin(radians(item.angle_deg))
            for along in (begin, begin + wide):
                for up in (-0.25 * size, 0.75 * size):
                    xs.append(item.x + along * c - up * s)
                    ys.append(item.y + along * s + up * c)
    return (min(xs), min(ys), max(xs), max(ys)) if xs else (0.0, 0.0, drawing.width, drawing.height)


def _font(item: Text) -> str:
    return MONO if item.mono else BOLD if item.bold else REGULAR


def _area(canvas: Any, item: Area, px: Any, py: Any) -> None:
    from reportlab.lib.colors import HexColor

    if item.style:
        _pen(canvas, item.style, item.tone)
    path = canvas.beginPath()
    path.moveTo(px(item.points[0][0]), py(item.points[0][1]))
    for a, b in item.points[1:]:
        path.lineTo(px(a), py(b))
    path.close()
    if item.fill != "none":
        canvas.setFillColor(HexColor(INK[item.tone] if item.fill == "solid" else FILLS[item.fill]))
    canvas.drawPath(path, stroke=int(item.style is not None), fill=int(item.fill != "none"))


def _drawn_text(canvas: Any, item: Text, x: float, y: float, scale: float) -> None:
    _colour(canvas, item.tone)
    canvas.setFont(_font(item), lettering(item, scale) * MM)
    canvas.saveState()
    canvas.translate(x, y)
    canvas.rotate(item.angle_deg)
    place = {"start": canvas.drawString, "middle": canvas.drawCentredString, "end": canvas.drawRightString}
    place[item.anchor](0, 0, item.text)
    canvas.restoreState()


def frame(canvas: Any, stamp: Stamp, part: str, side: str, number: int, total: int, true_size: bool) -> None:
    """What every page carries.

    Args:
        canvas: the page.
        stamp: of the document.
        part: that the page is about.
        side: of it.
        number: of the page.
        total: of pages.
        true_size: whether it prints at 1:1 and is to be measured.
    """
    head = stamp.page[1] - 12.0
    _rule(canvas, EDGE, head, EDGE + WIDE, head, 0.25)
    log = f"log {stamp.log[: LOG + stamp.log.index(' ') + 1]} · " if stamp.log else ""
    where = f"{log}{stamp.revision} · {stamp.date} · {stamp.units} · page {number} of {total}"
    _beside(canvas, head + 2.5, (stamp.job, 4.2, BOLD, "ink"), (where, 3.5, REGULAR, "ink"))
    mark = f"{stamp.review}; its limits are on the cover" if stamp.reviewed else stamp.review
    if not stamp.issued:
        mark = f"DRAFT: do not cut from this · {mark}"
    tone = "ink" if stamp.reviewed else "red"
    _beside(canvas, head - 5.5, (f"{part} · {side}", 3.8, BOLD, "ink"), (mark, 3.8, BOLD, tone))
    _text(canvas, EDGE, 7.6, "Checked by calculation only. Follow local construction rules; have a licensed engineer or certifier pass a road "
          "or race car.", 3.5, REGULAR, "muted", False)  # fmt: skip
    if true_size:
        check_bars(canvas)


Told = tuple[str, float, str, str]  # text, size [mm], font, tone


def _beside(canvas: Any, y: float, left: Told, right: Told) -> None:
    """Two texts on one line, the right one whole; the left one smaller, then shorter, where they would meet."""
    text, size, font, tone = left
    room = WIDE * MM - canvas.stringWidth(right[0], right[2], right[1] * MM) - 4 * MM
    wide = canvas.stringWidth(text, font, size * MM)
    if wide > room:
        size = max(size * room / wide, 0.7 * size)
    while len(text) > 1 and canvas.stringWidth(text, font, size * MM) > room:
        text = f"{text[:-2].rstrip()}…"
    _text(canvas, EDGE, y, text, size, font, tone, False)
    _text(canvas, EDGE + WIDE, y, *right, True)


def check_bars(canvas: Any) -> None:
    """100 mm and 4 in, to check the printer by."""
    for x, y, length, label, ticks in ((12.0, 22.0, 100.0, "100 mm", 10), (12.0, 14.0, 101.6, "4 in", 4)):
        _rule(canvas, x, y, x + length, y, 0.3)
        for i in range(ticks + 1):
            step = x + length * i / ticks
            _rule(canvas, step, y, step, y + (2.4 if i in (0, ticks) else 1.4), 0.2)
        _text(canvas, x + length + 3, y - 0.8, f"{label}: measure this bar before you cut", 3.5, REGULAR, "ink", False)
