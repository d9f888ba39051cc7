"""A suspension end at one position: from behind, from the left and from above, with a ghost at ride height; and its plots."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import lru_cache
from math import cos, pi, sin
from typing import Literal

from tirante.core.drawing.model import Drawing, Fill, Style, Tone
from tirante.core.drawing.sheet import Frame, Numbers, Sheet, SheetPoint

VIEWS, PLOTS, WIDTH, HEIGHT = 145.0, 72.0, 217.0, 172.0


Point3 = tuple[float, float, float]
PaperLine = tuple[SheetPoint, SheetPoint]
Box = tuple[float, float, float, float]  # left, low, right, high on the sheet [mm]
THIN = 1.1  # the least that a member is drawn wide, on the sheet [mm]


@dataclass(frozen=True, slots=True, kw_only=True)
class Stick:
    """A straight part between two points."""

    a: Point3
    b: Point3
    ref: str
    thick: bool = False  # a link, drawn with its eyes
    eyes: tuple[bool, bool] = (True, True)  # a bent link has none at its bends
    coil: float = 0.0  # of a damper: the diameter of the spring round it
    width: float = 0.0  # as it is made [mm]; 0: not known, drawn as wide as it is seen


@dataclass(frozen=True, slots=True, kw_only=True)
class WheelShape:
    """A wheel: centre, spin axis outboard, loaded radius and width [mm]."""

    centre: Point3
    spin: Point3
    radius: float
    width: float
    contact: Point3


@dataclass(frozen=True, slots=True, kw_only=True)
class Thing:
    """Something to clear, by the corners of its outline from any side."""

    points: tuple[Point3, ...]
    ref: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Posture:
    """All that is drawn of an end at one position, in the body's axes."""

    sticks: tuple[Stick, ...]
    wheels: tuple[WheelShape, ...]
    things: tuple[Thing, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class Plot:
    """One measure along the travel."""

    name: str
    unit: str  # of the values; lengths are written as the sheet writes them
    values: tuple[float | None, ...]
    now: float | None
    signed: bool
    other: tuple[float | None, ...] = ()  # the same of another revision, faint
    gap: str = ""  # why there is none where the end stands and it has no value


@dataclass(frozen=True, slots=True)
class Axis:
    """What stands up the page of the plots: its name, unit, places, and where the end stands now."""

    name: str
    unit: Literal["mm", "°"]
    places: tuple[float, ...]
    at: float

    def said(self, value: float, numbers: Numbers) -> str:
        """A place on it, with its sign."""
        sign = "+" if value > 0 else "−" if value < 0 else ""
        return f"{sign}{numbers.main(abs(value)) if self.unit == 'mm' else f'{abs(value):.3g}°'}"


@dataclass(frozen=True, slots=True)
class View:
    """From where it is seen."""

    title: str
    across: int  # axis drawn to the right
    flip: float
    up: int
    nearer: float  # the way of the third axis that comes nearer

    def near(self, stick: Stick) -> float:
        """How near the middle of a part is to who looks."""
        toward = 3 - self.across - self.up
        return self.nearer * (stick.a[toward] + stick.b[toward])


VIEWS_DRAWN = (
    View("from behind", 1, -1.0, 2, -1.0), View("from the left", 0, 1.0, 2, 1.0), View("from above", 1, -1.0, 0, 1.0),
)  # fmt: skip


@dataclass(frozen=True, slots=True, kw_only=True)
class ViewPlace:
    """Where a view stands on its sheet, so that a place on the sheet is one in the car: sheet = origin + scale · flip · car."""

    box: tuple[float, float, float, float]  # x, y, width, height on the sheet [mm]
    origin: tuple[float, float]
    scale: float
    across: int  # axis of the car that runs to the right: 0 x, 1 y, 2 z
    flip: float
    up: int

    @property
    def frame(self) -> Frame:
        """From the car to the sheet."""
        return OnPaper(*self.origin, self.scale)


def view_places(width: float) -> tuple[tuple[float, float, float, float], ...]:
    """Where the three views stand on a sheet: x, y, width, height."""
    half = (width - 12) / 2
    return (6.0, 88.0, width - 6, 78.0), (6.0, 4.0, half, 76.0), (12.0 + half, 4.0, half, 76.0)


def views_sheet(
    name: str,
    now: Posture,
    ride: Posture,
    roll_centre: tuple[float, float] | None,
    numbers: Numbers,
    width: float = VIEWS,
    named: Sequence[tuple[str, Point3]] = (),
    handles: Sequence[tuple[str, Point3]] = (),
    *,
    middle: bool = True,
    size: float = 2.3,
    places: Sequence[ViewPlace] | None = None,
) -> Drawing:
    """From behind, from the left and from above, with the ghost at ride height.

    Args:
        name: what the drawing is called, for those who pick in it.
        now: as it stands.
        ride: as it stands at ride height.
        roll_centre: y and height [mm]; None where there is none.
        numbers: how lengths are written.
        width: of the sheet [mm].
        named: points to be marked where they are at ride height, each with its name.
        handles: points that are moved by hand, each marked in every view.
        middle: whether the car's middle and the roll centre on it are drawn.
        size: of names [mm].
        places: where its views stand, where that is known; else found.
    """
    sheet = Sheet(name="end", title=name, width=width, height=HEIGHT, numbers=numbers)
    places = places or places_of_views(now, ride, width, named)
    _views(sheet, places, now, ride, roll_centre if middle else None, named, middle=middle, size=size)
    for view, place in zip(VIEWS_DRAWN, places, strict=True):
        frame = Frame(*place.origin, place.scale)  # exact: a place on the sheet is taken back to the car by it
        for point, at in handles:
            sheet.circle(frame.at(*flat(view, at)), 0.85, "thin", "sheet", "blue", ref=f"point:{point}")
    return sheet.done()


def places_of_views(
    now: Posture, ride: Posture, width: float = VIEWS, named: Sequence[tuple[str, Point3]] = ()
) -> tuple[ViewPlace, ...]:
    """Where the three views stand on the sheet that `views_sheet` makes of the same.

    Args:
        now: as it stands.
        ride: as it stands at ride height.
        width: of the sheet [mm].
        named: points that are marked.
    """
    found = []
    for view, (x, y, w, h) in zip(VIEWS_DRAWN, view_places(width - 3), strict=True):
        frame = fit(view, ride, now, x, y, w, h - 6, [at for _, at in named])
        found.append(
            ViewPlace(
                box=(x, y, w, h), origin=(frame.ox, frame.oy), scale=frame.scale, across=view.across, flip=view.flip, up=view.up
            )
        )  # fmt: skip
    return tuple(found)


def plots_sheet(
    name: str, plots: tuple[Plot, ...], axis: Axis, marks: tuple[tuple[float, str, Tone], ...], numbers: Numbers
) -> Drawing:
    """Measures side by side; travel stands up the page as it does on the car.

    Args:
        name: what the drawing is called, for those who pick in it.
        plots: one a measure.
        axis: what they stand along.
        marks: places along it with their words.
        numbers: how lengths are written.
    """
    sheet = Sheet(name="plots", title=f"{name}: measures", width=PLOTS, height=HEIGHT, numbers=numbers)
    _plots(sheet, plots, axis, marks)
    return sheet.done()


def _views(
    sheet: Sheet, places: Sequence[ViewPlace], now: Posture, ride: Posture, roll_centre: tuple[float, float] | None,
    named: Sequence[tuple[str, Point3]] = (), *, middle: bool = True, size: float = 2.3,
) -> None:  # fmt: skip
    for view, place in zip(VIEWS_DRAWN, places, strict=True):
        (x, y, _, h), frame = place.box, place.frame
        sheet.text((x, y + h - 2), view.title, 2.9, tone="muted")
        if now != ride:
            posture_on(sheet, frame, view, ride, ghost=True)
        posture_on(sheet, frame, view, now, ghost=False)
        if view.up == 2 and now.wheels:
            _ground(sheet, frame, view, now)
        if middle and view.title == "from behind" and len(now.wheels) == 2:
            _middle(sheet, frame, view, now, roll_centre)
        if named:
            _names(sheet, [(name, frame.at(*flat(view, at))) for name, at in named], lines_of(frame, view, now), size)


def _names(
    sheet: Sheet, named: Sequence[tuple[str, SheetPoint]], lines: Sequence[PaperLine], size: float = 2.3
) -> None:
    """Points with their names, each beside its mark where no line and no other name stands; one that finds no room is left out here."""
    taken: list[Box] = []
    for name, (x, y) in named:
        sheet.circle((x, y), 0.8, "thin", "blue", "blue", ref=f"point:{name}")
        taken.append((x - 0.9, y - 0.9, x + 0.9, y + 0.9))
    for name, at in named:
        long = 0.52 * size * len(name)
        # clear of all where there is room, else of the other names alone
        place = clear_place(at, long, size, lines, taken, 4, 1.4) or clear_place(at, long, size, (), taken, 2, 1.4)
        if place and 0 < place[0] < sheet.width - long:
            taken.append((place[0], place[1] - 0.4, place[0] + long, place[1] + size))
            sheet.text(place, name, size, tone="blue", ref=f"point:{name}")


def flat(view: View, p: Point3) -> tuple[float, float]:
    """A point or direction as the view sees it."""
    return view.flip * p[view.across], p[view.up]


class OnPaper(Frame):
    """A frame whose places are told to a thousandth of a millimetre of the sheet: a picture is carried with every edit."""

    __slots__ = ()

    def at(self, x: float, y: float) -> SheetPoint:
        """A point of the car on the sheet."""
        return round(self.ox + self.scale * x, 3), round(self.oy + self.scale * y, 3)


def fit(
    view: View, ride: Posture, now: Posture, x: float, y: float, w: float, h: float, more: Sequence[Point3] = ()
) -> Frame:
    """Both postures inside a box of the sheet.

    Args:
        view: which of the three.
        ride: as it stands at ride height.
        now: as it stands.
        x: left of the box [mm of the sheet].
        y: its foot.
        w: its width.
        h: its height.
        more: points that are to be seen too.
    """
    points = [p for posture in ((now,) if now is ride else (ride, now)) for p in _extent(posture)] + list(more)
    xs, ys = [view.flip * p[view.across] for p in points], [p[view.up] for p in points]
    scale = min(w / max(1.0, max(xs) - min(xs)), h / max(1.0, max(ys) - min(ys)))
    return OnPaper(x + w / 2 - scale * (max(xs) + min(xs)) / 2, y + h / 2 - scale * (max(ys) + min(ys)) / 2, scale)


def _extent(posture: Posture) -> list[Point3]:
    out = [p for s in posture.sticks for p in (s.a, s.b)] + [p for thing in posture.things for p in thing.points]
    for wheel in posture.wheels:
        x, y, z = wheel.centre
        r, half = wheel.radius, wheel.width / 2
        out += [(x + sx * r, y + sy * half, z + sz * r) for sx in (-1, 1) for sy in (-1, 1) for sz in (-1, 1)]
    return out


def posture_on(sheet: Sheet, frame: Frame, view: View, posture: Posture, *, ghost: bool) -> None:
    """Wheels, things to clear, links and bodies; of a ghost dashed lines alone.

    Args:
        sheet: to draw on.
        frame: from the car to the sheet.
        view: which of the three.
        posture: to draw.
        ghost: whether it is another position’s.
    """
    for wheel in posture.wheels:
        outline = [frame.at(*p) for p in _outline(view, _rims(wheel))]
        if ghost:
            sheet.area(outline, style="hidden", tone="muted")
        else:
            sheet.area(outline, "sheet" if view.title != "from the left" else "none", "visible", ref="wheel")
    for thing in () if ghost else posture.things:
        outline = [frame.at(*p) for p in _outline(view, tuple(thing.points))]
        if len(outline) > 2:
            sheet.area(outline, "pale", "thin", "muted", ref=thing.ref)
    # the near side over the far
    for stick in sorted(posture.sticks, key=view.near):
        a, b = frame.at(*flat(view, stick.a)), frame.at(*flat(view, stick.b))
        if ghost:
            sheet.line(a, b, "hidden", "muted")
            continue
        if stick.coil:
            _coil(sheet, a, b, stick.coil * frame.scale, stick.ref)
        elif stick.thick:
            wide = max(THIN, stick.width * frame.scale)
            bar(sheet, a, b, stick.ref, wide=wide)
            for end, eye in zip((a, b), stick.eyes, strict=True):
                if eye:
                    sheet.circle(end, max(0.95, 0.7 * wide), "thin", "sheet", ref=stick.ref)
        else:
            sheet.line(a, b, "visible", "ink", stick.ref)


def bar(
    sheet: Sheet, a: tuple[float, float], b: tuple[float, float], ref: str, fill: Fill = "steel", tone: Tone = "ink",
    wide: float = 1.3,
) -> None:  # fmt: skip
    """A link as a bar.

    Args:
        sheet: to draw on.
        a: one end, on the sheet [mm].
        b: its other end.
        ref: what it names, to be picked.
        fill: of its area.
        tone: of its lines.
        wide: on the sheet [mm].
    """
    dx, dy = b[0] - a[0], b[1] - a[1]
    size = (dx * dx + dy * dy) ** 0.5
    if size < 1e-6:
        return
    nx, ny = round(-dy / size * wide / 2, 3), round(dx / size * wide / 2, 3)
    sheet.area(
        ((a[0] + nx, a[1] + ny), (b[0] + nx, b[1] + ny), (b[0] - nx, b[1] - ny), (a[0] - nx, a[1] - ny)), fill, "thin", tone, ref
    )  # fmt: skip


def _coil(sheet: Sheet, a: tuple[float, float], b: tuple[float, float], across: float, ref: str) -> None:
    """A damper with its spring: the line, and the spring as a zigzag in the middle of it."""
    dx, dy = b[0] - a[0], b[1] - a[1]
    size = (dx * dx + dy * dy) ** 0.5
    sheet.line(a, b, "thin", "ink", ref)
    if size < 2:
        return
    nx, ny = -dy / size * across / 2, dx / size * across / 2
    turns, before = 9, (a[0] + 0.2 * dx, a[1] + 0.2 * dy)
    for i in range(1, turns + 1):
        share, sign = 0.2 + 0.6 * i / turns, 1 if i % 2 else -1
        here = (a[0] + share * dx + sign * nx, a[1] + share * dy + sign * ny)
        sheet.line(before, here, "thin", "ink", ref)
        before = here


@lru_cache(maxsize=16)  # three views ask for each wheel's
def _rims(wheel: WheelShape) -> tuple[Point3, ...]:
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
    return tuple(out)


@lru_cache(maxsize=256)  # drawn once, and looked at again by every word that may not cross it
def _outline(view: View, points: tuple[Point3, ...]) -> tuple[tuple[float, float], ...]:
    """Convex outline of points of the car as a view sees them."""
    return tuple(_hull([flat(view, p) for p in points]))


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


def _ground(sheet: Sheet, frame: Frame, view: View, now: Posture) -> None:
    """Through the contacts, or level under the near wheel when the other stands behind it."""
    contacts = sorted(frame.at(*flat(view, wheel.contact)) for wheel in now.wheels)
    (x1, y1), (x2, y2) = contacts[0], contacts[-1]
    if view.across == 1 and x2 - x1 > 1e-9:
        slope = (y2 - y1) / (x2 - x1)
        sheet.line((x1 - 14, y1 - 14 * slope), (x2 + 14, y2 + 14 * slope), "visible")
    else:
        x, y = frame.at(*flat(view, now.wheels[0].contact))
        sheet.line((x - 26, y), (x + 26, y), "visible")


def clear_place(
    at: SheetPoint,
    long: float,
    size: float,
    lines: Sequence[PaperLine],
    taken: Sequence[Box] = (),
    steps: int = 12,
    off: float = 2.5,
) -> SheetPoint | None:
    """Where words beside a mark cross no line and no other words, as near to it as there is room; None where there is none.

    Args:
        at: the mark, on the sheet.
        long: of the words [mm].
        size: their height.
        lines: that they may not cross.
        taken: where other words stand.
        steps: how far it is looked for, each 3 mm up and down.
        off: how far beside the mark they begin [mm].
    """
    for step in range(steps):
        for dx in (off, -off - long, -long / 2):
            for dy in (0.5 * off + 3.0 * step, -0.6 * off - size - 3.0 * step):
                x, y = at[0] + dx, at[1] + dy
                box = (x - 0.4, y - 0.7, x + long + 0.4, y + size + 0.3)
                if _meets(box, taken) or any(crosses(line, box) for line in lines):
                    continue
                return x, y
    return None


def _meets(box: Box, others: Sequence[Box]) -> bool:
    return any(box[0] < c and a < box[2] and box[1] < d and b < box[3] for a, b, c, d in others)


def crosses(line: PaperLine, box: Box) -> bool:
    """Whether a line runs through a box (clipped against each side in turn, Liang and Barsky, from memory).

    Args:
        line: its two ends, on the sheet.
        box: on the sheet.
    """
    (x1, y1), (x2, y2) = line
    left, foot, right, top = box
    # most lines stand wholly to one side
    if (x1 < left and x2 < left) or (x1 > right and x2 > right) or (y1 < foot and y2 < foot) or (y1 > top and y2 > top):
        return False
    dx, dy, low, high = x2 - x1, y2 - y1, 0.0, 1.0
    for p, q in ((-dx, x1 - box[0]), (dx, box[2] - x1), (-dy, y1 - box[1]), (dy, box[3] - y1)):
        if abs(p) < 1e-12:
            if q < 0:
                return False
            continue
        share = q / p
        low, high = (max(low, share), high) if p < 0 else (low, min(high, share))
    return low <= high


def lines_of(frame: Frame, view: View, posture: Posture) -> list[PaperLine]:
    """What words may not cross: the middles and edges of parts, and the outlines of wheels and things.

    Args:
        frame: from the car to the sheet.
        view: which of the three.
        posture: that is drawn.
    """
    found: list[PaperLine] = []
    for stick in posture.sticks:
        a, b = frame.at(*flat(view, stick.a)), frame.at(*flat(view, stick.b))
        wide = max(max(stick.width, stick.coil) * frame.scale, 1.3 if stick.thick else 0.0) / 2
        dx, dy = b[0] - a[0], b[1] - a[1]
        size = max((dx * dx + dy * dy) ** 0.5, 1e-9)
        for off in {-wide, 0.0, wide}:
            ox, oy = -dy / size * off, dx / size * off
            found.append(((a[0] + ox, a[1] + oy), (b[0] + ox, b[1] + oy)))
        for x, y in (a, b) if stick.thick else ():
            found += [((x - 1.2, y - 1.2), (x + 1.2, y + 1.2)), ((x - 1.2, y + 1.2), (x + 1.2, y - 1.2))]
    outlines = [_outline(view, tuple(thing.points)) for thing in posture.things]
    outlines += [_outline(view, _rims(wheel)) for wheel in posture.wheels]
    for outline in outlines:
        points = [frame.at(*p) for p in outline]
        found += list(zip(points, [*points[1:], *points[:1]], strict=True))
    return found


def _middle(
    sheet: Sheet, frame: Frame, view: View, now: Posture, roll_centre: tuple[float, float] | None
) -> None:  # fmt: skip
    low = min(frame.at(0, wheel.contact[2])[1] for wheel in now.wheels)
    x = frame.at(0, 0)[0]
    top = min(low + 58, view_places(sheet.width - 3)[0][1] + view_places(sheet.width - 3)[0][3] - 6)
    sheet.line((x, low - 3), (x, top), "centre", "muted")
    if roll_centre is None:
        sheet.text(
            (x + 2.5, low + 8), "roll centre: the lines run parallel", 2.6, tone="blue", ref="measure:roll_centre"
        )
        return
    y, height = roll_centre
    one, two = (wheel.contact for wheel in now.wheels)
    ground = one[2] + (two[2] - one[2]) * (y - one[1]) / (two[1] - one[1])
    at = frame.at(-y, ground + height)
    if not (low - 20 < at[1] < HEIGHT and 0 < at[0] < sheet.width):
        said = f"roll centre {sheet.numbers.main(height)}, off the sheet"
        sheet.text((x + 2.5, low + 8), said, 2.6, tone="blue", ref="measure:roll_centre")
        return
    for wheel in now.wheels:
        sheet.line(at, frame.at(-wheel.contact[1], wheel.contact[2]), "hidden", "blue", "measure:roll_centre")
    sheet.circle(at, 1.1, "thin", "blue", "blue", ref="measure:roll_centre")
    words = f"roll centre {sheet.numbers.main(height)}"
    lines = [*lines_of(frame, view, now), ((x, low - 3), (x, low + 58))]
    lines += [(at, frame.at(-wheel.contact[1], wheel.contact[2])) for wheel in now.wheels]
    sheet.text(
        clear_place(at, 0.62 * 2.9 * len(words), 2.9, lines) or (at[0] + 2.5, at[1] + 1.2),
        words,
        2.9,
        tone="blue",
        mono=True,
        ref="measure:roll_centre",
    )


def _plots(sheet: Sheet, plots: tuple[Plot, ...], axis: Axis, marks: tuple[tuple[float, str, Tone], ...]) -> None:
    low, high = 12.0, 150.0
    travel, at = axis.places, axis.at
    span = max(1e-9, travel[-1] - travel[0])
    x0, gap = 14.0, 2.0
    width = (PLOTS - 3 - x0 - gap * (len(plots) - 1)) / max(1, len(plots))

    def y(value: float) -> float:
        return low + (high - low) * (value - travel[0]) / span

    for i, plot in enumerate(plots):
        left = x0 + i * (width + gap)
        sheet.box((left, low - 2), (left + width, high + 2), "pale", "dimension", "muted")
        sheet.text((left + width / 2, high + 10), plot.name, 2.5, "middle", bold=True)
        sheet.text(
            (left + width / 2, high + 5),
            _said(plot, sheet.numbers),
            2.6,
            "middle",
            "blue",
            mono=True,
            bold=True,
            ref=f"measure:{plot.name}",
        )
        known = [v for v in (*plot.values, *plot.other) if v is not None]
        if not known:
            continue
        least, most = min(known), max(known)
        margin = max((most - least) * 0.1, 1e-6)
        least, most = least - margin, most + margin

        def x(value: float, left: float = left, least: float = least, most: float = most) -> float:
            return left + width * (value - least) / (most - least)

        for values, style, tone in ((plot.other, "thin", "muted"), (plot.values, "visible", "ink")):
            before: tuple[float, float] | None = None
            for t, v in zip(travel, values, strict=False):
                here = (x(v), y(t)) if v is not None else None
                if here and before:
                    sheet.line(before, here, style, tone, ref=f"measure:{plot.name}")  # type: ignore[arg-type]
                before = here
        _gaps(sheet, plot, travel, y, left + width / 2)
        if plot.now is not None:
            sheet.circle((x(min(max(plot.now, least), most)), y(at)), 1.0, "thin", "blue", "blue")
    right = PLOTS - 3
    away = abs(y(at) - y(0)) > 3
    rest = "ride" if axis.name == "travel" else "0"
    _row(sheet, x0 - 2, right, y(0), "hidden", "muted", rest if away else "")
    spoken = [y(at), *([y(0)] if away else [])]  # where a word stands, each a line high
    for value, word, tone in marks:
        room = all(abs(y(value) - other) > 3 for other in spoken)
        if word and room:
            spoken.append(y(value))
        _row(sheet, x0 - 2, right, y(value), "thin", tone, word if room else "")
    _row(sheet, x0 - 2, right, y(at), "thin", "blue", axis.said(at, sheet.numbers) if at else rest)
    foot = {
        "travel": "travel up the page, as it is on the car", "roll": "roll up the page, leaning right +",
        "steer": "steer up the page, to the left +",
    }[axis.name]  # fmt: skip
    sheet.text(((x0 + right) / 2, low - 8), foot, 2.5, "middle", "muted")


def _gaps(sheet: Sheet, plot: Plot, travel: tuple[float, ...], y: Callable[[float], float], middle: float) -> None:
    """A word in the middle of each stretch without a value, where it has one on either side or ends inside the plot."""
    if not plot.gap:
        return
    lost = [i for i, value in enumerate(plot.values) if value is None]
    for i in lost:
        if i - 1 in lost:
            continue
        last = i
        while last + 1 in lost:
            last += 1
        at = (y(travel[max(0, i - 1)]) + y(travel[min(len(travel) - 1, last + 1)])) / 2
        sheet.text((middle, at - 0.9), plot.gap, 2.2, "middle", "muted", ref=f"measure:{plot.name}")


def _said(plot: Plot, numbers: Numbers) -> str:
    if plot.now is None:
        return "–"
    size = numbers.main(abs(plot.now)) if plot.unit == "mm" else f"{abs(plot.now):.2f}{plot.unit}"
    nothing = not any(digit in size for digit in "123456789")
    sign = "" if nothing else "+" if plot.signed and plot.now > 0 else "−" if plot.now < 0 else ""
    return f"{sign}{size}"


def _row(sheet: Sheet, left: float, right: float, y: float, style: Style, tone: Tone, word: str) -> None:
    sheet.line((left, y), (right, y), style, tone)
    if word:
        sheet.text((left - 1, y - 0.9), word, 2.5, "end", tone, bold=tone == "blue")
