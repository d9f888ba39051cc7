"""An arm flat in its own plane, to scale: tubes, brace, gusset, what acts along it, its lengths, and how each tube is used."""

from __future__ import annotations

from dataclasses import dataclass
from math import atan2, hypot, pi

from tirante.core.drawing.model import Anchor, Drawing, Fill, Tone
from tirante.core.drawing.sheet import Frame, Numbers, Sheet, SheetPoint

WIDTH, HEIGHT = 217.0, 172.0


@dataclass(frozen=True, slots=True, kw_only=True)
class ArmTube:
    """A tube of an arm between two points of its plane [mm], and how it is used."""

    name: str
    a: SheetPoint
    b: SheetPoint
    od: float
    saw: float | None  # what is sawn; None: not said
    shown: str  # of 1.00
    tone: Tone
    ref: str


@dataclass(frozen=True, slots=True, kw_only=True)
class ArmDrawn:
    """An arm in its plane: the pivots on the x axis, the outer joint above them."""

    title: str
    pivots: tuple[tuple[SheetPoint, str], tuple[SheetPoint, str]]
    outer: tuple[SheetPoint, str]
    tubes: tuple[ArmTube, ...]
    gusset: tuple[SheetPoint, SheetPoint] | None
    acting: tuple[tuple[SheetPoint, str], ...]  # what else acts on it, brought to its plane
    pivot_radius: float
    outer_radius: float


def arm_sheet(arm: ArmDrawn, numbers: Numbers) -> Drawing:
    """The drawing."""
    sheet = Sheet(name="arm", title=arm.title, width=WIDTH, height=HEIGHT, numbers=numbers)
    points = [p for p, _ in (*arm.pivots, arm.outer)]
    xs, ys = [p[0] for p in points], [p[1] for p in points]
    wide, high = max(xs) - min(xs), max(ys) - min(ys)
    scale = min(120.0 / max(wide, 1.0), 104.0 / max(high, 1.0), 1.0)
    frame = Frame(
        WIDTH / 2 - scale * (max(xs) + min(xs)) / 2, 38.0 + (104.0 - scale * high) / 2 - scale * min(ys), scale
    )
    sheet.text((6, HEIGHT - 6), "flat in its own plane, seen square to it", 2.9, tone="muted")
    for tube in arm.tubes:
        _tube(sheet, frame, tube)
    if arm.gusset:
        corners = [frame.at(*p) for p in (arm.outer[0], *arm.gusset)]
        sheet.area(corners, "pale", "thin", ref="check:gusset")
    for place, name in arm.pivots:
        at = frame.at(*place)
        sheet.circle(at, max(1.6, arm.pivot_radius * scale), "visible", "sheet", ref="pivot")
        sheet.circle(at, 0.5, "thin", "solid")
        sheet.text((at[0], at[1] - max(1.6, arm.pivot_radius * scale) - 4.4), name, 2.9, "middle", ref="pivot")
    at = frame.at(*arm.outer[0])
    radius = max(1.8, arm.outer_radius * scale)
    sheet.circle(at, radius, "visible", "sheet", ref="outer")
    sheet.circle(at, 0.5, "thin", "solid")
    sheet.text((at[0], at[1] + radius + 2.0), arm.outer[1], 2.9, "middle", ref="outer")
    for place, name in arm.acting:
        p = frame.at(*place)
        sheet.circle(p, 1.1, "thin", "blue", "blue")
        sheet.text((p[0] + 2.4, p[1] - 1.0), name, 2.5, tone="blue")
    a, b = (frame.at(*place) for place, _ in arm.pivots)
    span = hypot(arm.pivots[1][0][0] - arm.pivots[0][0][0], arm.pivots[1][0][1] - arm.pivots[0][0][1])
    low = min(a[1], b[1]) - 17.0
    sheet.dimension((a[0], low + 8), (b[0], low + 8), span, offset=-8.0, ref="span")
    for tube in arm.tubes:
        if tube.saw is not None:
            _length(sheet, frame, arm, tube)
    return sheet.done()


def _tube(sheet: Sheet, frame: Frame, tube: ArmTube) -> None:
    a, b = frame.at(*tube.a), frame.at(*tube.b)
    dx, dy = b[0] - a[0], b[1] - a[1]
    size = hypot(dx, dy)
    if size < 1e-6:
        return
    half = max(0.6, tube.od * frame.scale / 2)
    nx, ny = -dy / size * half, dx / size * half
    fill: Fill = "steel"
    sheet.area(
        ((a[0] + nx, a[1] + ny), (b[0] + nx, b[1] + ny), (b[0] - nx, b[1] - ny), (a[0] - nx, a[1] - ny)), fill, "visible",
        "ink" if tube.tone == "ink" else tube.tone, tube.ref,
    )  # fmt: skip
    mid = ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)
    sheet.box((mid[0] - 6.4, mid[1] - 2.1), (mid[0] + 6.4, mid[1] + 2.5), "sheet", None, ref=tube.ref)
    sheet.text((mid[0], mid[1] - 1.0), tube.shown, 3.2, "middle", tube.tone, mono=True, bold=True, ref=tube.ref)


def _length(sheet: Sheet, frame: Frame, arm: ArmDrawn, tube: ArmTube) -> None:
    """Centre to centre outside the arm; the saw's length under it."""
    a, b = frame.at(*tube.a), frame.at(*tube.b)
    long = hypot(tube.b[0] - tube.a[0], tube.b[1] - tube.a[1])
    inside = frame.at(
        sum(p[0] for p, _ in (*arm.pivots, arm.outer)) / 3, sum(p[1] for p, _ in (*arm.pivots, arm.outer)) / 3
    )
    # to the left of a → b lies outside when the middle of the arm lies to the right
    left = (b[0] - a[0]) * (inside[1] - a[1]) - (b[1] - a[1]) * (inside[0] - a[0]) < 0
    size = hypot(b[0] - a[0], b[1] - a[1])
    sign = 1 if left else -1
    nx, ny = -(b[1] - a[1]) / size * sign, (b[0] - a[0]) / size * sign
    ref = f"length:{tube.name}"
    start, end = (a[0] + nx * 13, a[1] + ny * 13), (b[0] + nx * 13, b[1] + ny * 13)
    for foot, tip in ((a, start), (b, end)):
        sheet.line((foot[0] + nx, foot[1] + ny), (tip[0] + nx * 1.4, tip[1] + ny * 1.4), "dimension", "muted", ref)
    sheet.line(start, end, "dimension", "ink", ref)
    slope = atan2(end[1] - start[1], end[0] - start[0])
    sheet.arrow(end, slope, "ink", ref)
    sheet.arrow(start, slope + pi, "ink", ref)
    # a slanted figure would cross its own line: it stands beside it, level
    assert tube.saw is not None
    place = ((start[0] + end[0]) / 2 + nx * 5, (start[1] + end[1]) / 2 + ny * 5)
    anchor: Anchor = "end" if nx < -0.3 else "start" if nx > 0.3 else "middle"
    numbers = sheet.numbers
    sheet.text((place[0], place[1] + 3.4), numbers.main(long), 3.6, anchor, mono=True, bold=True, ref=ref)
    sheet.text((place[0], place[1] + 0.2), f"{tube.name}, between centres", 2.5, anchor, "muted", ref=ref)
    sheet.text(
        (place[0], place[1] - 4.6),
        f"saw {numbers.written(tube.saw)}",
        3.2,
        anchor,
        "blue",
        mono=True,
        bold=True,
        ref=tube.ref,
    )
