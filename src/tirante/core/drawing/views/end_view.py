"""A suspension end at one position: from behind, from the left, from above, with a ghost at ride height, and its plots."""

from __future__ import annotations

from dataclasses import dataclass
from math import cos, pi, sin

from tirante.core.drawing.model import Drawing, Style, Tone
from tirante.core.drawing.sheet import Frame, Numbers, Sheet

WIDTH, HEIGHT = 217.0, 172.0
Point3 = tuple[float, float, float]


@dataclass(frozen=True, slots=True, kw_only=True)
class Stick:
    """A straight part between two points."""

    a: Point3
    b: Point3
    ref: str
    thick: bool  # a link, drawn with its eyes


@dataclass(frozen=True, slots=True, kw_only=True)
class WheelShape:
    """A wheel: centre, spin axis outboard, loaded radius and width [mm]."""

    centre: Point3
    spin: Point3
    radius: float
    width: float
    contact: Point3


@dataclass(frozen=True, slots=True, kw_only=True)
class Posture:
    """All that is drawn of an end at one position, in the body's axes."""

    sticks: tuple[Stick, ...]
    wheels: tuple[WheelShape, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Plot:
    """One measure along the travel."""

    name: str
    unit: str
    values: tuple[float | None, ...]
    now: float | None
    signed: bool


@dataclass(frozen=True, slots=True)
class _View:
    title: str
    across: int  # axis drawn to the right
    flip: float
    up: int


_VIEWS = (_View("from behind", 1, -1.0, 2), _View("from the left", 0, 1.0, 2), _View("from above", 1, -1.0, 0))


def end_sheet(
    name: str, now: Posture, ride: Posture, plots: tuple[Plot, ...], travel: tuple[float, ...], at: float,
    marks: tuple[tuple[float, str, Tone], ...], roll_centre: float | None, numbers: Numbers,
) -> Drawing:  # fmt: skip
    """The three views and the plots; travel stands up the page as it does on the car."""
    sheet = Sheet(name="end", title=name, width=WIDTH, height=HEIGHT, numbers=numbers)
    places = ((6.0, 88.0, 138.0, 78.0), (6.0, 4.0, 66.0, 76.0), (78.0, 4.0, 66.0, 76.0))
    for view, (x, y, w, h) in zip(_VIEWS, places, strict=True):
        frame = _fit(view, ride, now, x, y, w, h - 6)
        sheet.text((x, y + h - 2), view.title, 2.9, tone="muted")
        _posture(sheet, frame, view, ride, ghost=True)
        _posture(sheet, frame, view, now, ghost=False)
        if view.up == 2:
            _ground(sheet, frame, view, now)
        if view.title == "from behind":
            _middle(sheet, frame, now, roll_centre)
    _plots(sheet, plots, travel, at, marks)
    return sheet.done()


def _flat(view: _View, p: Point3) -> tuple[float, float]:
    return view.flip * p[view.across], p[view.up]


def _fit(view: _View, ride: Posture, now: Posture, x: float, y: float, w: float, h: float) -> Frame:
    points = [_flat(view, p) for posture in (ride, now) for p in _extent(posture)]
    xs, ys = [p[0] for p in points], [p[1] for p in points]
    scale = min(w / max(1.0, max(xs) - min(xs)), h / max(1.0, max(ys) - min(ys)))
    return Frame(x + w / 2 - scale * (max(xs) + min(xs)) / 2, y + h / 2 - scale * (max(ys) + min(ys)) / 2, scale)


def _extent(posture: Posture) -> list[Point3]:
    out = [p for s in posture.sticks for p in (s.a, s.b)]
    for wheel in posture.wheels:
        x, y, z = wheel.centre
        r, half = wheel.radius, wheel.width / 2
        out += [(x + sx * r, y + sy * half, z + sz * r) for sx in (-1, 1) for sy in (-1, 1) for sz in (-1, 1)]
    return out


def _posture(sheet: Sheet, frame: Frame, view: _View, posture: Posture, *, ghost: bool) -> None:
    for wheel in posture.wheels:
        outline = [frame.at(*p) for p in _hull([_flat(view, p) for p in _rims(wheel)])]
        if ghost:
            sheet.area(outline, style="hidden", tone="muted")
        else:
            sheet.area(outline, "sheet" if view.title != "from the left" else "none", "visible", ref="wheel")
    for stick in posture.sticks:
        a, b = frame.at(*_flat(view, stick.a)), frame.at(*_flat(view, stick.b))
        if ghost:
            sheet.line(a, b, "hidden", "muted")
            continue
        if stick.thick:
            _bar(sheet, a, b, stick.ref)
            for end in (a, b):
                sheet.circle(end, 0.95, "thin", "sheet", ref=stick.ref)
        else:
            sheet.line(a, b, "visible", "ink", stick.ref)


def _bar(sheet: Sheet, a: tuple[float, float], b: tuple[float, float], ref: str) -> None:
    dx, dy = b[0] - a[0], b[1] - a[1]
    size = (dx * dx + dy * dy) ** 0.5
    if size < 1e-6:
        return
    nx, ny = -dy / size * 0.65, dx / size * 0.65
    sheet.area(
        ((a[0] + nx, a[1] + ny), (b[0] + nx, b[1] + ny), (b[0] - nx, b[1] - ny), (a[0] - nx, a[1] - ny)), "steel", "thin", ref=ref
    )  # fmt: skip


def _rims(wheel: WheelShape) -> list[Point3]:
    """Points of the tyre's two outer circles."""
    sx, sy, sz = wheel.spin
    # two directions in the wheel's plane
    ux, uy = -sy, sx
    size = (ux * ux + uy * uy) ** 0.5 or 1.0
    u = (ux / size, uy / size, 0.0)
    v = (sy * u[2] - sz * u[1], sz * u[0] - sx * u[2], sx * u[1] - sy * u[0])
    out = []
    for half in (-wheel.width / 2, wheel.width / 2):
        for i in range(48):
            c, s = wheel.radius * cos(2 * pi * i / 48), wheel.radius * sin(2 * pi * i / 48)
            out.append(
                (
                    wheel.centre[0] + half * sx + c * u[0] + s * v[0],
                    wheel.centre[1] + half * sy + c * u[1] + s * v[1],
                    wheel.centre[2] + half * sz + c * u[2] + s * v[2],
                )
            )
    return out


def _hull(points: list[tuple[float, float]]) -> list[tuple[float, float]]:
    """Convex outline, counter-clockwise (monotone chain)."""
    ordered = sorted(set(points))

    def half(run: list[tuple[float, float]]) -> list[tuple[float, float]]:
        out: list[tuple[float, float]] = []
        for p in run:
            while len(out) > 1 and (out[-1][0] - out[-2][0]) * (p[1] - out[-2][1]) <= (out[-1][1] - out[-2][1]) * (
                p[0] - out[-2][0]
            ):
                out.pop()
            out.append(p)
        return out[:-1]

    return half(ordered) + half(ordered[::-1])


def _ground(sheet: Sheet, frame: Frame, view: _View, now: Posture) -> None:
    contacts = [frame.at(*_flat(view, wheel.contact)) for wheel in now.wheels]
    if len(contacts) == 2 and view.across == 1:
        (x1, y1), (x2, y2) = contacts
        slope = (y2 - y1) / (x2 - x1) if abs(x2 - x1) > 1e-9 else 0.0
        sheet.line(
            (x1 - 14 if x1 < x2 else x1 + 14, y1 - slope * (14 if x1 < x2 else -14)),
            (x2 + (14 if x1 < x2 else -14), y2 + slope * (14 if x1 < x2 else -14)),
            "visible",
        )
    else:
        x, y = contacts[0]
        sheet.line((x - 26, y), (x + 26, y), "visible")


def _middle(sheet: Sheet, frame: Frame, now: Posture, roll_centre: float | None) -> None:
    low = min(frame.at(0, wheel.contact[2])[1] for wheel in now.wheels)
    x = frame.at(0, 0)[0]
    sheet.line((x, low - 3), (x, low + 58), "centre", "muted")
    if roll_centre is None:
        return
    ground = sum(wheel.contact[2] for wheel in now.wheels) / len(now.wheels)
    at = frame.at(0, ground + roll_centre)
    if not low - 20 < at[1] < HEIGHT:
        return
    for wheel in now.wheels:
        sheet.line(at, frame.at(-wheel.contact[1], wheel.contact[2]), "hidden", "blue", "measure:roll_centre")
    sheet.circle(at, 1.1, "thin", "blue", "blue", ref="measure:roll_centre")
    sheet.text(
        (at[0] + 2.5, at[1] + 1.2),
        f"roll centre {sheet.numbers.main(roll_centre)}",
        2.9,
        tone="blue",
        mono=True,
        ref="measure:roll_centre",
    )


def _plots(
    sheet: Sheet,
    plots: tuple[Plot, ...],
    travel: tuple[float, ...],
    at: float,
    marks: tuple[tuple[float, str, Tone], ...],
) -> None:
    low, high = 12.0, 150.0
    span = max(1e-9, travel[-1] - travel[0])
    x0, gap = 158.0, 2.0
    width = (WIDTH - 4 - x0 - gap * (len(plots) - 1)) / max(1, len(plots))

    def y(value: float) -> float:
        return low + (high - low) * (value - travel[0]) / span

    for i, plot in enumerate(plots):
        left = x0 + i * (width + gap)
        sheet.box((left, low - 2), (left + width, high + 2), "pale", "dimension", "muted")
        sheet.text((left + width / 2, high + 10), plot.name, 2.5, "middle", bold=True)
        sheet.text(
            (left + width / 2, high + 5),
            _said(plot),
            2.6,
            "middle",
            "blue",
            mono=True,
            bold=True,
            ref=f"measure:{plot.name}",
        )
        known = [v for v in plot.values if v is not None]
        if not known:
            continue
        least, most = min(known), max(known)
        margin = max((most - least) * 0.1, 1e-6)
        least, most = least - margin, most + margin

        def x(value: float, left: float = left, least: float = least, most: float = most) -> float:
            return left + width * (value - least) / (most - least)

        before: tuple[float, float] | None = None
        for t, v in zip(travel, plot.values, strict=True):
            here = (x(v), y(t)) if v is not None else None
            if here and before:
                sheet.line(before, here, "visible", ref=f"measure:{plot.name}")
            before = here
        if plot.now is not None:
            sheet.circle((x(min(max(plot.now, least), most)), y(at)), 1.0, "thin", "blue", "blue")
    right = WIDTH - 4
    away = abs(y(at) - y(0)) > 3
    _row(sheet, x0 - 2, right, y(0), "hidden", "muted", "ride" if away else "")
    for value, word, tone in marks:
        _row(sheet, x0 - 2, right, y(value), "thin", tone, word if abs(y(value) - y(at)) > 3 else "")
    sign = "+" if at > 0 else "−" if at < 0 else ""
    _row(sheet, x0 - 2, right, y(at), "thin", "blue", f"{sign}{sheet.numbers.main(abs(at))}" if at else "ride")
    sheet.text(((x0 + right) / 2, low - 8), "travel up the page, as it is on the car", 2.5, "middle", "muted")


def _said(plot: Plot) -> str:
    if plot.now is None:
        return "–"
    sign = "+" if plot.signed and plot.now > 0 else "−" if plot.now < 0 else ""
    digits = 2 if plot.unit == "°" else 1
    return f"{sign}{abs(plot.now):.{digits}f}{plot.unit}"


def _row(sheet: Sheet, left: float, right: float, y: float, style: Style, tone: Tone, word: str) -> None:
    sheet.line((left, y), (right, y), style, tone)
    if word:
        sheet.text((left - 1, y - 0.9), word, 2.5, "end", tone, bold=tone == "blue")
