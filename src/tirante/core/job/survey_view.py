"""The points of a survey in three views: each with the ellipse that it lies in, drawn larger than it is, and the readings between them."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from math import cos, log10, pi, sin

import numpy as np

from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Frame, Numbers, Sheet
from tirante.core.job.surveyed import Surveyed
from tirante.core.survey.ellipse import CONFIDENCE, ellipse
from tirante.core.survey.readings import VIEWS, Array, View

WIDTH, HEIGHT = 262.0, 168.0
# each view: its words, what of x, y, z goes across and up its sheet, and which way: forward lies to the left, as it is walked round
SEEN: tuple[tuple[View, str, tuple[int, int]], ...] = (
    ("side", "from the left", (-1, 1)),
    ("front", "from behind", (-1, 1)),
    ("top", "from above", (-1, -1)),
)
DRAWN = 7.0  # [mm] of the sheet that the largest half axis is drawn by at most
EDGE, HEAD, FOOT = 9.0, 9.0, 16.0
ROUND = 40  # sides of what an ellipse is drawn as


def numbered(found: Surveyed) -> Mapping[str, int]:
    """The number of each point that was measured to or from, as it stands in drawing and table.

    Args:
        found: the survey.
    """
    points = found.found.points if found.found else {}
    return {key: n for n, key in enumerate((one.key for one in found.places if one.key in points), 1)}


def survey_view(found: Surveyed, numbers: Numbers) -> Drawing:
    """The three views.

    Args:
        found: the survey.
        numbers: how lengths are written.
    """
    sheet = Sheet(name="survey", title="Survey", width=WIDTH, height=HEIGHT, numbers=numbers)
    if found.found is None:
        return sheet.done()
    numbers_of = numbered(found)
    places = {key: np.asarray(found.found.points[key]) for key in numbers_of}
    boxes = _boxes(places)
    scale = _scale(places, boxes)
    grow = _grow(found, scale)
    for (view, words, ways), (x, y, w, h) in zip(SEEN, boxes, strict=True):
        middle = np.mean([np.min([*places.values()], axis=0), np.max([*places.values()], axis=0)], axis=0)
        across, up = (way * middle[axis] for way, axis in zip(ways, VIEWS[view], strict=True))
        frame = Frame(x + w / 2 - scale * across, y + h / 2 - scale * up, scale)

        def at(
            place: Array, frame: Frame = frame, view: View = view, ways: tuple[int, int] = ways
        ) -> tuple[float, float]:
            a, b = (way * float(place[axis]) for way, axis in zip(ways, VIEWS[view], strict=True))
            return frame.at(a, b)

        sheet.text((x, y + h + 2.5), words, 3.2, bold=True)
        _lines(sheet, found, places, at)
        for key, place in places.items():
            ref = f"point:{key}"
            spot = at(place)
            if key in found.found.names:
                _ellipse(sheet, found, key, view, ways, spot, grow * scale, ref)
                sheet.circle(spot, 0.9, "thin", "blue", "blue", ref=ref)
            else:
                sheet.box((spot[0] - 1.1, spot[1] - 1.1), (spot[0] + 1.1, spot[1] + 1.1), "solid", "thin", ref=ref)
            sheet.text((spot[0] + 1.6, spot[1] + 1.4), str(numbers_of[key]), 2.8, bold=True, ref=ref)
    told = (
        f"ellipses: {CONFIDENCE:.0%} of each point, drawn {grow:g} times as large as they are"
        if grow
        else "no point is determined yet"
    )
    sheet.text((EDGE, 7.0), told, 2.8, tone="muted")
    sheet.text(
        (EDGE, 3.0), "square: of the datum, taken as true; amber: a reading that does not fit", 2.8, tone="muted"
    )
    return sheet.done()


def _boxes(places: Mapping[str, Array]) -> tuple[tuple[float, float, float, float], ...]:
    """Where the views stand: the two with the heights beside one another, the one from above under the first."""
    spans = np.ptp([*places.values()], axis=0) + 120.0
    share = float(np.clip(spans[0] / (spans[0] + spans[1]), 0.35, 0.65))
    room = WIDTH - 3 * EDGE
    left = room * share
    high = HEIGHT - FOOT - 2 * HEAD - 4
    top = high * float(np.clip(spans[2] / (spans[2] + spans[1]), 0.3, 0.6))
    y = FOOT + high - top + HEAD
    return (EDGE, y, left, top), (2 * EDGE + left, y, room - left, top), (EDGE, FOOT, left, high - top)


def _scale(places: Mapping[str, Array], boxes: Sequence[tuple[float, float, float, float]]) -> float:
    spans = np.ptp([*places.values()], axis=0) + 120.0
    found = [
        min(w / spans[VIEWS[view][0]], h / spans[VIEWS[view][1]])
        for (view, _, _), (_, _, w, h) in zip(SEEN, boxes, strict=True)
    ]
    return float(min(found))


def _grow(found: Surveyed, scale: float) -> float:
    """By how much ellipses are drawn larger: 1, 2 or 5 times a power of ten, so that most of them can be seen and none covers the sheet."""
    assert found.found
    sizes = [
        ellipse(found.found.covariance_of(key), view).long
        for key in found.found.names
        if not found.found.moves(key).any()
        for view, *_ in SEEN
    ]
    if not sizes:
        return 0.0
    wanted = DRAWN / (scale * max(float(np.median(sizes)) * 2, 1e-9))
    power = 10.0 ** int(np.floor(log10(wanted)))
    return float(max(step * power for step in (1, 2, 5) if step * power <= wanted * (1 + 1e-9)))


def _ellipse(sheet: Sheet, found: Surveyed, key: str, view: View, ways: tuple[int, int], spot: tuple[float, float], size: float, ref: str) -> None:  # fmt: skip
    assert found.found
    i, j = VIEWS[view]
    free = found.found.moves(key)
    if free[i] or free[j]:
        sheet.text((spot[0], spot[1] - 4.2), "free", 2.6, "middle", "amber", ref=ref)
        return
    one = ellipse(found.found.covariance_of(key), view)
    c, s = cos(one.turn), sin(one.turn)
    points = []
    for k in range(ROUND):
        a, b = one.long * cos(2 * pi * k / ROUND), one.short * sin(2 * pi * k / ROUND)
        points.append((spot[0] + size * ways[0] * (a * c - b * s), spot[1] + size * ways[1] * (a * s + b * c)))
    sheet.area(points, style="thin", tone="blue", ref=ref)


def _lines(sheet: Sheet, found: Surveyed, places: Mapping[str, Array], at: object) -> None:
    for one in found.readings:
        if one.back or one.lost or one.taken.kind not in ("distance", "level", "side", "top", "front"):
            continue
        a, b = (places[key] for key in one.taken.of)
        sheet.line(at(a), at(b), "thin", "amber" if one.suspect else "muted", ref=f"reading:{one.taken.id}")  # type: ignore[operator]
