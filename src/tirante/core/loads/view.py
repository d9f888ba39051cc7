"""The forces of one case on a suspension end: links by sign, line and colour, the load, and what the car's frame feels.

Pull is blue with a whole line and a plus; push is ink with a dashed middle and a minus. Arrows are to one scale.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import atan2, hypot

from tirante.core.drawing.model import Drawing, Tone
from tirante.core.drawing.sheet import Frame, Numbers, Sheet, SheetPoint
from tirante.core.suspension.shown.end_view import (
    HEIGHT,
    VIEWS_DRAWN,
    Box,
    PaperLine,
    Point3,
    Posture,
    View,
    bar,
    clear_place,
    fit,
    flat,
    lines_of,
    posture_on,
    view_places,
)

WIDTH = 217.0


LONGEST = 26.0  # mm on the sheet, of the largest arrow


NOTHING = 1.0  # N; less is not written


@dataclass(frozen=True, slots=True, kw_only=True)
class LinkForce:
    """A link with what it carries: tension positive [N]."""

    name: str
    a: Point3
    b: Point3
    force: float


@dataclass(frozen=True, slots=True, kw_only=True)
class PointForce:
    """A force at a point [N]: of a case, or of a joint on the car's frame."""

    at: Point3
    force: Point3
    what: str
    applied: bool


def kilonewtons(force: float) -> str:
    """With its sign."""
    return f"{'+' if force > 0 else '−' if force < 0 else ''}{abs(force) / 1000:.2f} kN"


def load_sheet(
    name: str, posture: Posture, ride: Posture, links: tuple[LinkForce, ...], points: tuple[PointForce, ...], numbers: Numbers
) -> Drawing:  # fmt: skip
    """Three views with the forces on them.

    Args:
        name: what the drawing is called, for those who pick in it.
        posture: of the end in the case.
        ride: as it stands at ride height.
        links: what each carries.
        points: what acts at each.
        numbers: how lengths are written.
    """
    sheet = Sheet(name="loads", title=name, width=WIDTH, height=HEIGHT, numbers=numbers)
    largest = max((hypot(*p.force) for p in points), default=0.0)
    worst = max((abs(link.force) for link in links), default=0.0)
    labelled = _where_longest(links)
    for view, (x, y, w, h) in zip(VIEWS_DRAWN, view_places(WIDTH - 3), strict=True):
        frame = fit(view, ride, posture, x + LONGEST / 2, y + 12, w - LONGEST, h - 24)
        sheet.text((x, y + h - 2), view.title, 2.9, tone="muted")
        posture_on(sheet, frame, view, posture, ghost=False)
        for link in links:
            _link(sheet, frame, view, link)
        lines = [*lines_of(frame, view, posture), *(_shaft(frame, view, point, largest) for point in points)]
        taken: list[Box] = []
        for point in points:
            size = {v.title: hypot(*flat(v, point.force)) for v in VIEWS_DRAWN}
            told = (
                point.what not in labelled
                and hypot(*point.force) > 0.12 * largest
                and size[view.title] >= max(size.values())
            )  # a link's own force stands on it
            _arrow(sheet, frame, view, point, largest, (lines, taken), label=told)
        for link in links:  # over all that is drawn, so that nothing runs through a figure
            if labelled[link.name] == view.title:
                _label(sheet, frame, view, link, (lines, taken), bold=abs(link.force) >= worst > NOTHING)
    sheet.text((34, HEIGHT - 8), "whole blue +: pulled", 2.7, tone="blue")
    sheet.text((68, HEIGHT - 8), "dashed −: pushed", 2.7, tone="ink")
    sheet.text(
        (98, HEIGHT - 8),
        "heavy arrow: the load; light: on the car’s frame, and of the arms’ outer joints, kN",
        2.7,
        tone="muted",
    )
    return sheet.done()


def _where_longest(links: tuple[LinkForce, ...]) -> dict[str, str]:
    """The view in which a link is seen longest, where its force is written."""
    found = {}
    for link in links:
        found[link.name] = max(
            VIEWS_DRAWN, key=lambda view, one=link: hypot(*(p - q for p, q in zip(flat(view, one.a), flat(view, one.b), strict=True)))  # type: ignore[misc]
        ).title  # fmt: skip
    return found


def _link(sheet: Sheet, frame: Frame, view: View, link: LinkForce) -> None:
    a, b = frame.at(*flat(view, link.a)), frame.at(*flat(view, link.b))
    ref = f"link:{link.name}"
    tone = _tone(link.force)
    if link.force > NOTHING:
        bar(sheet, a, b, ref, "blue", tone)
    else:
        bar(sheet, a, b, ref, "sheet", tone)
        if link.force < -NOTHING:
            sheet.line(a, b, "hidden", "ink", ref)
    for end in (a, b):
        sheet.circle(end, 0.95, "thin", "sheet", ref=ref)


Clear = tuple[list[PaperLine], list[Box]]  # what words may not cross, and where others stand


def _shaft(frame: Frame, view: View, point: PointForce, largest: float) -> PaperLine:
    """The line of an arrow, as it is drawn."""
    at, (dx, dy) = frame.at(*flat(view, point.at)), flat(view, point.force)
    scale = (-1.0 if point.applied else 1.0) * LONGEST / max(largest, NOTHING)
    return at, (at[0] + dx * scale, at[1] + dy * scale)


def _beside(
    sheet: Sheet, at: SheetPoint, text: str, size: float, tone: Tone, ref: str, clear: Clear, *, bold: bool = False
) -> None:
    """A figure near a place, clear of lines and of other figures; where there is no room over the lines, on ground of its own."""
    lines, taken = clear
    long = 0.62 * size * len(text)
    place = clear_place(at, long, size, lines, taken, 4, 1.2)
    if place is None:
        place = clear_place(at, long, size, (), taken, 6, 1.2) or (at[0] + 1.2, at[1] + 0.6)
        sheet.box((place[0] - 0.4, place[1] - 0.6), (place[0] + long, place[1] + 0.8 * size), "sheet", None)
    taken.append((place[0] - 0.3, place[1] - 0.6, place[0] + long + 0.3, place[1] + size))
    sheet.text(place, text, size, "start", tone, mono=True, bold=bold, ref=ref)


def _label(sheet: Sheet, frame: Frame, view: View, link: LinkForce, clear: Clear, *, bold: bool) -> None:
    """The force beside its link's middle."""
    if abs(link.force) <= NOTHING:
        return
    a, b = frame.at(*flat(view, link.a)), frame.at(*flat(view, link.b))
    middle = ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)
    size = 3.0 if bold else 2.6
    _beside(sheet, middle, kilonewtons(link.force), size, _tone(link.force), f"link:{link.name}", clear, bold=bold)


def _tone(force: float) -> Tone:
    return "blue" if force > NOTHING else "ink" if force < -NOTHING else "muted"


def _arrow(
    sheet: Sheet, frame: Frame, view: View, point: PointForce, largest: float, clear: Clear, *, label: bool
) -> None:  # fmt: skip
    if largest < NOTHING:
        return
    dx, dy = flat(view, point.force)
    size = hypot(dx, dy)
    if size < 0.02 * largest:
        return
    scale = LONGEST / largest
    at = frame.at(*flat(view, point.at))
    ref = f"point:{point.what}"
    if point.applied:  # it pushes: the head stands at the point
        start: SheetPoint = (at[0] - dx * scale, at[1] - dy * scale)
        sheet.line(start, at, "visible", "amber", ref)
        sheet.arrow(at, atan2(dy, dx), "amber", ref)
        _beside(sheet, start, f"{size / 1000:.2f} kN", 2.6, "amber", ref, clear)
    else:
        tip: SheetPoint = (at[0] + dx * scale, at[1] + dy * scale)
        sheet.line(at, tip, "thin", "muted", ref)
        sheet.arrow(tip, atan2(dy, dx), "muted", ref)
        if label:
            _beside(sheet, tip, f"{hypot(*point.force) / 1000:.2f}", 2.4, "muted", ref, clear)
