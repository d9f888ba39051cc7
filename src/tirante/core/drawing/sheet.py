"""Building a drawing: a sheet that collects primitives, frames that place a view at a scale, dimensions, hatching."""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from math import atan2, ceil, cos, degrees, floor, hypot, sin

from tirante.core.drawing.model import Anchor, Arc, Area, Drawing, Fill, Line, Primitive, Style, Text, Tone
from tirante.core.quantities import MINUS, Unit, format_length
from tirante.core.units import INCH

SheetPoint = tuple[float, float]
# lengths in a sentence: "30.2 × 40 × 4 mm", never an area, a rate or a modulus
_LENGTHS = re.compile(r"((?:[−-]?\d+(?:\.\d+)?\s*[×x]\s*)*)([−-]?\d+(?:\.\d+)?)\s?mm(?![\w²³⁴/·])")
_MORE, _LESS = re.compile(r"( \w+)? (or more|at least)\b"), re.compile(r"( \w+)? (or less|at most)\b")

A_FRACTION = 0.006  # mm beside a 64th within which a diameter is that fraction: less than what is printed of it


@dataclass(frozen=True, slots=True, kw_only=True)
class Numbers:
    """How lengths are written on a sheet: the unit in front, the other below."""

    unit: Unit = "mm"
    decimals: int = 1
    inch_denominator: int = 32
    fits: bool = (
        False  # hundredths of a millimetre and thousandths of an inch: what is machined to a fit is no tape's work
    )

    def main(self, mm: float) -> str:
        """In the page's unit."""
        if self.fits:
            return _to_a_fit(mm, self.unit)
        text = format_length(mm, self.unit, decimals=self.decimals, inch_denominator=self.inch_denominator)
        return text if self.unit == "mm" else f"{text}″"

    def written(self, mm: float) -> str:
        """In the page's unit, with the unit's name."""
        return f"{self.main(mm)} mm" if self.unit == "mm" else self.main(mm)

    def finely(self, mm: float) -> str:
        """With the unit's name, to a hundredth of a millimetre or a thousandth of an inch: a thread's turn."""
        return f"{mm:.2f} mm" if self.unit == "mm" else f"{mm / INCH:.3f}″"

    def gauged(self, mm: float) -> str:
        """In the page's unit, what is measured against a tolerance: in inches to a thousandth, since a fraction would use half of the tolerance up."""
        return self.main(mm) if self.unit == "mm" else _to_a_fit(mm, "in")

    def within(self, mm: float) -> str:
        """A tolerance with its unit, never wider than it is [mm]: of inches the thousandth below it."""
        return f"{mm:g} mm" if self.unit == "mm" else f"{floor(1000 * mm / INCH + 1e-6) / 1000:.3f}″"

    def drilled(self, mm: float) -> str:
        """The diameter of a hole or a bar: in inches a fraction only where it is one, since the nearest may be smaller than its bolt."""
        return _drilled(mm, self.unit) if self.unit == "in" else self.main(mm)

    def drilled_other(self, mm: float) -> str:
        """The same in the other unit."""
        return _drilled(mm, "in") if self.unit == "mm" else f"{_drilled(mm, 'mm')} mm"

    def told(self, text: str) -> str:
        """A sentence whose lengths stand in millimetres, on a sheet in inches: inches first, millimetres as the other reading."""
        return text if self.unit == "mm" else _LENGTHS.sub(self._in_inches, text)

    def _in_inches(self, found: re.Match[str]) -> str:
        sizes = [one for one in re.split(r"\s*[×x]\s*", found[1]) if one] + [found[2]]
        before = found.string[: found.start()]
        way = _bound(before, found.string[found.end() :])
        if before.endswith("⌀"):
            return f"{' × '.join(_drilled(float(one), 'in')[:-1] for one in sizes)}″ ({found[0]})"
        return f"{' × '.join(self._inches(one, way, before.rstrip().endswith('±')) for one in sizes)}″ ({found[0]})"

    def _inches(self, text: str, way: int, fine: bool) -> str:
        mm = float(text.replace(MINUS, "-"))
        fine = fine or abs(mm) < 10 or len(text.partition(".")[2]) > 1
        step = INCH / (1000 if fine else self.inch_denominator)
        if way:
            mm = step * (ceil(mm / step - 1e-6) if way > 0 else floor(mm / step + 1e-6))
        if fine:
            return f"{mm / INCH:.3f}".replace("-", MINUS)
        return format_length(mm, "in", inch_denominator=self.inch_denominator)

    def other(self, mm: float) -> str:
        """In the other unit."""
        if self.fits:
            return _to_a_fit(mm, "in") if self.unit == "mm" else f"{_to_a_fit(mm, 'mm')} mm"
        if self.unit == "mm":
            return f"{format_length(mm, 'in', inch_denominator=self.inch_denominator)}″"
        return f"{format_length(mm, 'mm', decimals=self.decimals)} mm"


def _bound(before: str, after: str) -> int:
    """1 where a length in a sentence is a least one, −1 where a greatest, so that its reading in inches is on the right side of it."""
    if _MORE.match(after) or before.endswith("at least "):
        return 1
    return -1 if _LESS.match(after) or before.endswith(("at most ", "± ", "±")) else 0


def _drilled(mm: float, unit: Unit) -> str:
    step = INCH / 64
    if unit == "in" and abs(mm - step * round(mm / step)) < A_FRACTION:
        return f"{format_length(mm, 'in', inch_denominator=64)}″"
    return _to_a_fit(mm, unit)


def _to_a_fit(mm: float, unit: Unit) -> str:
    text = f"{round(mm / INCH, 3) + 0.0:.3f}″" if unit == "in" else f"{round(mm, 2) + 0.0:.2f}".removesuffix("0")
    return text.replace("-", MINUS)


@dataclass(frozen=True, slots=True)
class Frame:
    """Where a view stands on its sheet: sheet = origin + scale · part, turned."""

    ox: float
    oy: float
    scale: float = 1.0
    turn: float = 0.0  # [rad], counter-clockwise

    def at(self, x: float, y: float) -> SheetPoint:
        """A part point on the sheet."""
        if self.turn:
            x, y = x * cos(self.turn) - y * sin(self.turn), x * sin(self.turn) + y * cos(self.turn)
        return self.ox + self.scale * x, self.oy + self.scale * y

    def on(self, x: float, y: float, turn: float) -> Frame:
        """A frame that stands on a point of this one, at its scale, turned against it [rad]."""
        ox, oy = self.at(x, y)
        return Frame(ox, oy, self.scale, self.turn + turn)


@dataclass(slots=True)
class Sheet:
    """Collects primitives; `ref` given to a method names what the item shows."""

    name: str
    title: str
    width: float
    height: float
    scale: float = 1.0
    numbers: Numbers = field(default_factory=Numbers)
    items: list[Primitive] = field(default_factory=list)

    def done(self) -> Drawing:
        """The finished drawing."""
        return Drawing(
            name=self.name, title=self.title, width=self.width, height=self.height, scale=self.scale,
            items=tuple(self.items),
        )  # fmt: skip

    def line(
        self, a: SheetPoint, b: SheetPoint, style: Style = "visible", tone: Tone = "ink", ref: str | None = None
    ) -> None:
        """A straight line."""
        self.items.append(Line(x1=a[0], y1=a[1], x2=b[0], y2=b[1], style=style, tone=tone, ref=ref))

    def circle(
        self,
        c: SheetPoint,
        r: float,
        style: Style = "visible",
        fill: Fill = "none",
        tone: Tone = "ink",
        ref: str | None = None,
    ) -> None:
        """A whole circle."""
        self.items.append(Arc(cx=c[0], cy=c[1], r=r, style=style, fill=fill, tone=tone, ref=ref))

    def arc(
        self, c: SheetPoint, r: float, start: float, end: float, style: Style = "visible", ref: str | None = None
    ) -> None:
        """An arc, counter-clockwise, degrees."""
        self.items.append(Arc(cx=c[0], cy=c[1], r=r, start_deg=start, end_deg=end, style=style, ref=ref))

    def area(
        self, points: Sequence[SheetPoint], fill: Fill = "none", style: Style | None = "visible", tone: Tone = "ink",
        ref: str | None = None,
    ) -> None:  # fmt: skip
        """A polygon."""
        self.items.append(Area(points=tuple(points), fill=fill, style=style, tone=tone, ref=ref))

    def box(
        self, a: SheetPoint, b: SheetPoint, fill: Fill = "none", style: Style | None = "visible", tone: Tone = "ink",
        ref: str | None = None,
    ) -> None:  # fmt: skip
        """An upright rectangle by two corners."""
        (x1, y1), (x2, y2) = a, b
        self.area(((x1, y1), (x2, y1), (x2, y2), (x1, y2)), fill=fill, style=style, tone=tone, ref=ref)

    def block(
        self, at: Callable[[float, float], SheetPoint], a: SheetPoint, b: SheetPoint, fill: Fill = "none",
        style: Style | None = "visible", ref: str | None = None,
    ) -> None:  # fmt: skip
        """A rectangle by two corners of the part, as its frame turns it; `at` brings a part point to the sheet."""
        (x1, y1), (x2, y2) = a, b
        self.area((at(x1, y1), at(x2, y1), at(x2, y2), at(x1, y2)), fill=fill, style=style, ref=ref)

    def text(
        self, at: SheetPoint, text: str, size: float = 3.0, anchor: Anchor = "start", tone: Tone = "ink",
        mono: bool = False, bold: bool = False, ref: str | None = None, angle_deg: float = 0.0,
    ) -> None:  # fmt: skip
        """A line of text."""
        self.items.append(
            Text(x=at[0], y=at[1], text=text, size=size, anchor=anchor, tone=tone, mono=mono, bold=bold, ref=ref,
                 angle_deg=angle_deg)
        )  # fmt: skip

    def hatch(
        self, points: Sequence[SheetPoint], spacing: float = 1.2, rising: bool = True, ref: str | None = None
    ) -> None:
        """45° hatching of a convex polygon (ISO 128 section lining)."""
        sign = 1.0 if rising else -1.0
        keys = [y - sign * x for x, y in points]
        step = spacing * 2**0.5
        for n in range(ceil(min(keys) / step), floor(max(keys) / step) + 1):
            crossing = _cut_convex(points, n * step, sign)
            if crossing:
                self.line(*crossing, style="hatch", tone="muted", ref=ref)

    def arrow(self, tip: SheetPoint, angle: float, tone: Tone, ref: str | None) -> None:
        """A filled arrowhead at `tip`, pointing along `angle` [rad]."""
        length, half = 2.2, 0.45
        back = (tip[0] - length * cos(angle), tip[1] - length * sin(angle))
        side = (-sin(angle) * half, cos(angle) * half)
        self.area(
            (tip, (back[0] + side[0], back[1] + side[1]), (back[0] - side[0], back[1] - side[1])),
            fill="blue" if tone == "blue" else "solid", style=None, tone=tone, ref=ref,
        )  # fmt: skip

    def dimension(
        self, a: SheetPoint, b: SheetPoint, value: float, *, offset: float, ref: str, tone: Tone = "ink", note: str = "",
        prefix: str = "", size: float = 3.6, both: bool = True, text_side: float = 0.0,
    ) -> None:  # fmt: skip
        """A linear dimension from a to b, its line `offset` to the left of a→b (negative: to the right).

        The value is the part's, the points are the sheet's. Short spans carry arrows from outside and the text beside
        (ISO 129-1 practice).
        """
        angle = atan2(b[1] - a[1], b[0] - a[0])
        nx, ny = -sin(angle) * offset, cos(angle) * offset
        start, end = (a[0] + nx, a[1] + ny), (b[0] + nx, b[1] + ny)
        sign = 1 if offset >= 0 else -1
        gx, gy = -sin(angle) * sign, cos(angle) * sign
        for p, q in ((a, start), (b, end)):
            self.line((p[0] + gx * 0.8, p[1] + gy * 0.8), (q[0] + gx * 1.4, q[1] + gy * 1.4), "dimension", "muted", ref)
        span = hypot(b[0] - a[0], b[1] - a[1])
        text = f"{prefix}{self.numbers.main(value)}"
        room = span > 6 + len(text) * size * 0.62
        if room:
            self.line(start, end, "dimension", tone, ref)
            self.arrow(start, atan2(start[1] - end[1], start[0] - end[0]), tone, ref)
            self.arrow(end, angle, tone, ref)
        else:
            ux, uy = cos(angle) * 5, sin(angle) * 5
            self.line((start[0] - ux, start[1] - uy), start, "dimension", tone, ref)
            self.line(end, (end[0] + ux, end[1] + uy), "dimension", tone, ref)
            self.arrow(start, angle, tone, ref)
            self.arrow(end, atan2(start[1] - end[1], start[0] - end[0]), tone, ref)
        self._dimension_text(start, end, angle, text, value, room, tone, note, size, both, text_side, ref)

    def _dimension_text(
        self, start: SheetPoint, end: SheetPoint, angle: float, text: str, value: float, room: bool, tone: Tone, note: str,
        size: float, both: bool, text_side: float, ref: str,
    ) -> None:  # fmt: skip
        upright = degrees(angle) % 180
        vertical = 45 < upright < 135
        below = self.numbers.other(value) + (f" {note}" if note else "")
        mid = ((start[0] + end[0]) / 2, (start[1] + end[1]) / 2)
        if vertical:
            x, anchor = (mid[0] + 1.2, "start")
            y = mid[1] if room else max(start[1], end[1]) + 6
            if text_side < 0:
                x, anchor = mid[0] - 1.2, "end"
            self.text((x, y), text, size, anchor, tone, mono=True, bold=True, ref=ref)  # type: ignore[arg-type]
            if both:
                self.text((x, y - 3.2), below, 2.5, anchor, "muted", mono=True, ref=ref)  # type: ignore[arg-type]
            return
        if room:
            x, anchor = mid[0], "middle"
            self.text((x, mid[1] + 1.0), text, size, "middle", tone, mono=True, bold=True, ref=ref)
            if both:
                self.text((x, mid[1] - 3.4), below, 2.5, "middle", "muted", mono=True, ref=ref)
            return
        right = max(start[0], end[0]) + 6.2
        left = min(start[0], end[0]) - 6.2
        x, anchor = (left, "end") if text_side < 0 else (right, "start")
        self.text((x, mid[1] - 0.6), text, size, anchor, tone, mono=True, bold=True, ref=ref)  # type: ignore[arg-type]
        if both:
            self.text((x, mid[1] - 4.2), below, 2.5, anchor, "muted", mono=True, ref=ref)  # type: ignore[arg-type]

    def leader(
        self, tip: SheetPoint, to: SheetPoint, text: str, ref: str | None = None, anchor: Anchor = "start"
    ) -> None:
        """A note with a thin line to what it names."""
        self.line(tip, to, "dimension", "muted", ref)
        shift = 1.0 if anchor == "start" else -1.0
        self.text((to[0] + shift, to[1] - 0.9), text, 2.9, anchor, ref=ref)


def _cut_convex(points: Sequence[SheetPoint], key: float, sign: float) -> tuple[SheetPoint, SheetPoint] | None:
    """Where the line y − sign·x = key crosses a convex polygon."""
    found: list[SheetPoint] = []
    for (x1, y1), (x2, y2) in zip(points, [*points[1:], points[0]], strict=True):
        k1, k2 = y1 - sign * x1 - key, y2 - sign * x2 - key
        if (k1 < 0) != (k2 < 0):
            t = k1 / (k1 - k2)
            found.append((x1 + t * (x2 - x1), y1 + t * (y2 - y1)))
    return (found[0], found[1]) if len(found) == 2 else None
