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
    Point3,
    Posture,
    View,
    bar,
    fit,
    flat,
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
        for point in points:
            size = {v.title: hypot(*flat(v, point.force)) for v in VIEWS_DRAWN}
            told = (
                point.what not in labelled
                and hypot(*point.force) > 0.12 * largest
                and size[view.title] >= max(size.values())
            )  # a link's own force stands on it
            _arrow(sheet, frame, view, point, largest, label=told)
        taken: list[tuple[float, float, float, float]] = []
        for link in links:  # over all that is drawn, so that nothing runs through a figure
            if labelled[link.name] == view.title:
                _label(sheet, frame, view, link, taken, bold=abs(link.force) >= worst > NOTHING)
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


def _label(
    sheet: Sheet, frame: Frame, view: View, link: LinkForce, taken: list[tuple[float, float, float, float]], *, bold: bool
) -> None:  # fmt: skip
    """The force beside its link, moved along the page until it covers no other."""
    if abs(link.force) <= NOTHING:
        return
    a, b = frame.at(*flat(view, link.a)), frame.at(*flat(view, link.b))
    ref, tone = f"link:{link.name}", _tone(link.force)
    middle = ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)
    steep = abs(b[1] - a[1]) > abs(b[0] - a[0])
    size = 3.0 if bold else 2.6
    text = kilonewtons(link.force)
    x, y = (middle[0] + 1.6, middle[1] - 0.9) if steep else (middle[0] - 0.3 * size * len(text), middle[1] + 1.4)
    width, high = 0.62 * size * len(text) + 0.8, 1.5 * size
    for shift in (0.0, high, -high, 2 * high, -2 * high, 3 * high):
        place = (x, y + shift, x + width, y + shift + high)
        if all(place[0] >= b[2] or place[2] <= b[0] or place[1] >= b[3] or place[3] <= b[1] for b in taken):
            y += shift
            break
    taken.append((x, y, x + width, y + high))
    sheet.box((x - 0.4, y - 0.6), (x + 0.62 * size * len(text), y + 0.8 * size), "sheet", None)
    sheet.text((x, y), text, size, "start", tone, mono=True, bold=bold, ref=ref)


def _tone(force: float) -> Tone:
    return "blue" if force > NOTHING else "ink" if force < -NOTHING else "muted"


def _arrow(sheet: Sheet, frame: Frame, view: View, point: PointForce, largest: float, *, label: bool) -> None:
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
        sheet.text(
            (start[0] + 1.0, max(1.5, start[1] - 2.2)), f"{size / 1000:.2f} kN", 2.6, tone="amber", mono=True, ref=ref
        )
    else:
        tip: SheetPoint = (at[0] + dx * scale, at[1] + dy * scale)
        sheet.line(at, tip, "thin", "muted", ref)
        sheet.arrow(tip, atan2(dy, dx), "muted", ref)
        if label:
            sheet.text((tip[0] + (1.0 if dx >= 0 else -1.0), tip[1] - 0.9), f"{hypot(*point.force) / 1000:.2f}", 2.4,
                       "start" if dx >= 0 else "end", "muted", mono=True, ref=ref)  # fmt: skip
