"""An arm of any layout, flat in the plane it fits best and on edge, its tubes numbered, with a table of what each is sawn to and how it is used."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from math import hypot

import numpy as np
from numpy.typing import NDArray

from tirante.core.drawing.model import Anchor, Drawing, Tone
from tirante.core.drawing.sheet import Frame, Numbers, Sheet, SheetPoint

Array = NDArray[np.float64]
WIDTH, HEIGHT = 217.0, 190.0
TOP, ROW = 186.0, 5.0


@dataclass(frozen=True, slots=True, kw_only=True)
class DrawnTube:
    """A tube between two named places, and how it is used."""

    name: str
    od: float  # drawn so wide [mm]
    a: Array  # (3) [mm]
    b: Array
    length: float  # centre to centre [mm]
    saw: float
    shown: str  # of 1.00
    tone: Tone
    ref: str


@dataclass(frozen=True, slots=True, kw_only=True)
class DrawnPlace:
    """A joint, a node, or where something stands."""

    name: str
    at: Array
    radius: float  # of what is made there [mm]; 0: nothing is
    what: str = ""
    foot: Array | None = None  # on the tube, of what stands on a bracket


@dataclass(frozen=True, slots=True, kw_only=True)
class FrameDrawn:
    """What is drawn."""

    title: str
    od: float
    tubes: tuple[DrawnTube, ...]
    places: tuple[DrawnPlace, ...]
    plates: tuple[tuple[Array, Array, Array], ...] = ()  # corners of its gussets


def plane_of(points: Array) -> tuple[Array, Array, Array]:
    """The plane that points of the car fit best: the way along it that runs forward most, the way square to that, and its normal, each of
    length 1; points (n, 3) [mm]."""
    _, _, ways = np.linalg.svd(points - points.mean(axis=0), full_matrices=True)
    normal: Array = ways[2]
    # seen from above, or from the middle of the car where it stands on edge: forward is to the right, and up is up
    seen = np.array([0.0, 0.0, 1.0]) if abs(normal[2]) > 0.5 else np.array([0.0, -1.0, 0.0])
    if normal @ seen < 0:
        normal = -normal
    ahead = np.array([1.0, 0.0, 0.0]) if abs(normal[0]) < 0.9 else np.array([0.0, 1.0, 0.0])
    along: Array = ahead - normal * float(ahead @ normal)
    along = along / np.linalg.norm(along)
    return along, np.cross(normal, along), normal


def frame_sheet(drawn: FrameDrawn, numbers: Numbers) -> Drawing:
    """The drawing."""
    rows = max(len(drawn.tubes), 1)
    foot = 8.0 + ROW * (rows + 1)
    sheet = Sheet(name="frame", title=drawn.title, width=WIDTH, height=max(HEIGHT, foot + 120.0), numbers=numbers)
    top = sheet.height - 4.0
    points = np.array([place.at for place in drawn.places])
    along, across, normal = plane_of(np.array([end for tube in drawn.tubes for end in (tube.a, tube.b)]))
    flat = points @ np.array([along, across, normal]).T
    low, high = flat.min(axis=0), flat.max(axis=0)
    wide, tall, thick = (float(v) for v in high - low)
    widest = max((tube.od for tube in drawn.tubes), default=drawn.od)
    room = top - foot - 40.0  # for both views
    scale = min((WIDTH - 70.0) / max(wide + widest, 1.0), room / (tall + thick + 2 * widest), 1.0)
    sheet.scale = scale
    edge = scale * (thick + widest)
    left = (WIDTH - scale * wide) / 2 - scale * low[0]
    middle = foot + edge + 22.0 + (room + 10.0 - edge - scale * tall) / 2
    main = Frame(left, middle - scale * low[1], scale)
    side = Frame(left, foot + 8.0 + (edge - scale * thick) / 2 - scale * low[2], scale)
    sheet.text((6, top - 3.0), "flat in the plane it fits best, forward to the right", 2.9, tone="muted")
    sheet.text((6, foot + edge + 10.0), "on edge", 2.9, tone="muted")
    for frame, second in ((main, across), (side, normal)):
        _seen(sheet, frame, drawn, along, second, plain=frame is side)
    _table(sheet, drawn.tubes, foot)
    return sheet.done()


def _seen(sheet: Sheet, frame: Frame, drawn: FrameDrawn, along: Array, second: Array, *, plain: bool) -> None:
    def at(point: Array) -> SheetPoint:
        return frame.at(float(point @ along), float(point @ second))

    for tube in drawn.tubes:
        half = max(0.5, tube.od * frame.scale / 2)
        a, b = at(tube.a), at(tube.b)
        size = hypot(b[0] - a[0], b[1] - a[1])
        if size < 1e-6:
            continue
        nx, ny = -(b[1] - a[1]) / size * half, (b[0] - a[0]) / size * half
        corners = ((a[0] + nx, a[1] + ny), (b[0] + nx, b[1] + ny), (b[0] - nx, b[1] - ny), (a[0] - nx, a[1] - ny))
        sheet.area(corners, "steel", "visible", tube.tone, tube.ref)
    for triangle in drawn.plates:
        sheet.area([at(corner) for corner in triangle], "pale", "thin")
    for place in drawn.places:
        p = at(place.at)
        if place.foot is not None:
            sheet.line(at(place.foot), p, "hidden", "blue", f"place:{place.name}")
        if place.radius:
            sheet.circle(p, max(1.4, place.radius * frame.scale), "visible", "sheet", ref=f"place:{place.name}")
        else:
            sheet.circle(p, 0.9, "thin", "blue", "blue", ref=f"place:{place.name}")
    if not plain:
        _named(sheet, frame, drawn, at)


def _named(sheet: Sheet, frame: Frame, drawn: FrameDrawn, at: Callable[[Array], SheetPoint]) -> None:
    """Numbers on the tubes, names beside the places, away from the middle of the arm."""
    for number, tube in enumerate(drawn.tubes, start=1):
        a, b = at(tube.a), at(tube.b)
        mid = ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)
        sheet.circle(mid, 2.4, "thin", "sheet", tube.tone, ref=tube.ref)
        sheet.text((mid[0], mid[1] - 1.1), str(number), 3.0, "middle", tube.tone, bold=True, ref=tube.ref)
    points = [at(place.at) for place in drawn.places]
    centre = (sum(p[0] for p in points) / len(points), sum(p[1] for p in points) / len(points))
    for place, p in zip(drawn.places, points, strict=True):
        # beyond what is made there and the tubes that end there
        ends = (tube.od / 2 for tube in drawn.tubes if any(np.allclose(end, place.at) for end in (tube.a, tube.b)))
        out = max(1.4, frame.scale * max(place.radius, *ends, 0.0)) + 1.6
        # what stands on a tube is named toward the middle, clear of the tubes' numbers at the end
        anchor: Anchor = "start" if (p[0] >= centre[0]) == bool(place.radius) else "end"
        level = p[1] - 1.0 if place.radius else p[1] + (1.6 if p[1] > centre[1] else -3.2)
        x = p[0] + (out if anchor == "start" else -out)
        reach = x + (1.6 if anchor == "start" else -1.6) * len(place.name)
        if any(q != p and abs(q[1] - p[1]) < 4.0 and min(x, reach) < q[0] < max(x, reach) for q in points):
            x, anchor, level = (
                p[0],
                "middle",
                p[1] - max(out, drawn.od * frame.scale / 2 + 1.6) - 2.4,
            )  # something stands there
        tone: Tone = "ink" if place.radius else "blue"
        sheet.text((x, level), place.name, 2.8, anchor, tone, ref=f"place:{place.name}")


def _table(sheet: Sheet, tubes: Sequence[DrawnTube], foot: float) -> None:
    n = sheet.numbers
    y = foot - ROW
    for x, head in ((14, "tube"), (112, "between centres"), (150, "saw"), (190, "in use")):
        sheet.text((x, y + 1.2), head, 2.6, "start" if x == 14 else "end", "muted")
    for number, tube in enumerate(tubes, start=1):
        y -= ROW
        sheet.text((10, y), str(number), 3.2, "end", bold=True, ref=tube.ref)
        sheet.text((14, y), tube.name, 3.0, ref=tube.ref)
        sheet.text((112, y), n.main(tube.length), 3.2, "end", mono=True, ref=tube.ref)
        sheet.text((150, y), n.written(tube.saw), 3.2, "end", "blue", mono=True, bold=True, ref=tube.ref)
        sheet.text((190, y), tube.shown, 3.2, "end", tube.tone, mono=True, bold=True, ref=tube.ref)
