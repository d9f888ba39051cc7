"""The points of a survey in three views: each with the ellipse that it lies in, drawn larger than it is, and the readings between them."""

from __future__ import annotations

from collections.abc import Mapping
from math import cos, log10, pi, sin

import numpy as np

from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Frame, Numbers, Sheet
from tirante.core.job.surveyed import Surveyed
from tirante.core.survey.ellipse import CONFIDENCE, ellipse
from tirante.core.survey.readings import VIEWS, Array, View

WIDTH, HEIGHT = 262.0, 132.0
# each view: its words, what of x, y, z goes across and up its sheet, and which way: from behind and from above stand over one another, the
# car's left on the left; forward lies to the left from the left, and up from above
Ways = tuple[tuple[int, int], tuple[int, int]]
SEEN: tuple[tuple[View, str, Ways], ...] = (
    ("front", "from behind", ((1, -1), (2, 1))), ("side", "from the left", ((0, -1), (2, 1))), ("top", "from above", ((1, -1), (0, 1))),
)  # fmt: skip
DRAWN = 7.0  # [mm] of the sheet that the largest half axis is drawn by at most
EDGE, HEAD, FOOT = 9.0, 8.0, 13.0
AROUND = np.array([120.0, 120.0, 120.0])  # [mm] of the car round the points
BESIDE = 2.4  # [mm] of the sheet within which two points stand on one another
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
    low, high = np.min([*places.values()], axis=0), np.max([*places.values()], axis=0)
    span, middle = high - low + AROUND, (low + high) / 2
    boxes, scale = _boxes(span)
    grow = _grow(found, scale)
    for (view, words, ways), (x, y, w, h) in zip(SEEN, boxes, strict=True):
        (across, right), (up, over) = ways
        frame = Frame(x + w / 2 - scale * right * middle[across], y + h / 2 - scale * over * middle[up], scale)
        spots = {key: frame.at(right * float(at[across]), over * float(at[up])) for key, at in places.items()}
        sheet.text((x, y + h + 2.5), words, 3.4, bold=True)
        _lines(sheet, found, spots)
        for key, spot in spots.items():
            ref = f"point:{key}"
            if key in found.found.names:
                _ellipse(sheet, found, key, view, ways, spot, grow * scale, ref)
                sheet.circle(spot, 0.9, "thin", "blue", "blue", ref=ref)
            else:
                sheet.box((spot[0] - 1.1, spot[1] - 1.1), (spot[0] + 1.1, spot[1] + 1.1), "solid", "thin", ref=ref)
        for keys in _close(spots):  # points that stand behind one another have their numbers beside one another
            spot = spots[keys[0]]
            sheet.text(
                (spot[0] + 1.6, spot[1] + 1.4),
                ", ".join(str(numbers_of[key]) for key in keys),
                3.0,
                bold=True,
                ref=f"point:{keys[0]}",
            )
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


def _boxes(span: Array) -> tuple[tuple[tuple[float, float, float, float], ...], float]:
    """Where the three views stand, and at what scale: as large as all of them can be alike."""
    x, y, z = (float(one) for one in span)
    wide, high = WIDTH - 3 * EDGE, HEIGHT - FOOT - 2 * HEAD
    scale = min(wide / (x + y), high / (x + z))
    left, top = scale * y, scale * z
    over = FOOT + scale * x + HEAD
    return ((EDGE, over, left, top), (2 * EDGE + left, over, scale * x, top), (EDGE, FOOT, left, scale * x)), scale


def _close(spots: Mapping[str, tuple[float, float]]) -> list[list[str]]:
    """Points by where their numbers would stand on one another."""
    found: list[list[str]] = []
    for key, (x, y) in spots.items():
        near = next(
            (keys for keys in found if abs(spots[keys[0]][0] - x) < BESIDE and abs(spots[keys[0]][1] - y) < BESIDE),
            None,
        )
        if near is None:
            found.append([key])
        else:
            near.append(key)
    return found


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


def _ellipse(sheet: Sheet, found: Surveyed, key: str, view: View, ways: Ways, spot: tuple[float, float], size: float, ref: str) -> None:  # fmt: skip
    assert found.found
    (across, right), (up, over) = ways
    free = found.found.moves(key)
    if free[across] or free[up]:
        sheet.text((spot[0], spot[1] - 4.2), "free", 2.8, "middle", "amber", ref=ref)
        return
    one = ellipse(found.found.covariance_of(key), view)
    c, s = cos(one.turn), sin(one.turn)
    points = []
    for k in range(ROUND):
        a, b = one.long * cos(2 * pi * k / ROUND), one.short * sin(2 * pi * k / ROUND)
        of = dict(zip(VIEWS[view], (a * c - b * s, a * s + b * c), strict=True))
        points.append((spot[0] + size * right * of[across], spot[1] + size * over * of[up]))
    sheet.area(points, style="thin", tone="blue", ref=ref)


def _lines(sheet: Sheet, found: Surveyed, spots: Mapping[str, tuple[float, float]]) -> None:
    for one in found.readings:
        if one.back or one.lost or one.taken.kind not in ("distance", "level", "side", "top", "front"):
            continue
        a, b = (spots[key] for key in one.taken.of)
        sheet.line(
            a,
            b,
            "visible" if one.suspect else "thin",
            "amber" if one.suspect else "muted",
            ref=f"reading:{one.taken.id}",
        )
