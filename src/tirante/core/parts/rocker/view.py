"""A rocker: its plate flat and dimensioned, and the stack of plates, boss and bearings seen on edge."""

from __future__ import annotations

from math import hypot

from tirante.core.document.parts.rocker import Rocker
from tirante.core.drawing.flat import draw_contour
from tirante.core.drawing.model import Anchor, Drawing
from tirante.core.drawing.sheet import Frame, Numbers, Sheet
from tirante.core.parts.rocker.shape import RockerShape

WIDTH, HEIGHT = 217.0, 160.0


def rocker_sheet(rocker: Rocker, shape: RockerShape, numbers: Numbers) -> Drawing:
    """The drawing.

    Args:
        rocker: as it is saved.
        shape: of it.
        numbers: how lengths are written.
    """
    sheet = Sheet(name="rocker", title=rocker.name, width=WIDTH, height=HEIGHT, numbers=numbers)
    low_x, low_y, high_x, high_y = shape.outline.bounds
    wide, tall = high_x - low_x, high_y - low_y
    scale = min(120.0 / wide, 112.0 / tall, 1.5)
    sheet.scale = scale
    frame = Frame(12 + (126 - scale * wide) / 2 - scale * low_x, 22 + (112 - scale * tall) / 2 - scale * low_y, scale)
    many = "one plate" if rocker.plates == 1 else "two plates alike"
    sheet.text(
        (6, HEIGHT - 8),
        f"{many}, {numbers.main(rocker.plate_mm)} {rocker.plate_name}, seen along the line it turns about",
        2.9,
        tone="muted",
    )
    draw_contour(sheet, frame, shape.outline, "visible", ref="field:plate")
    centre = frame.at(0, 0)
    sheet.circle(centre, rocker.bore_mm / 2 * scale, "thin", ref="field:boss")
    sheet.text((centre[0], centre[1] - 1.0), "pivot", 2.6, "middle", "muted")
    for eye in shape.eyes:
        at = frame.at(eye.x, eye.y)
        sheet.line(centre, at, "centre", "muted", f"eye:{eye.eye.point}")
        # outside its eye, on the side away from the pivot
        ux, uy = eye.x / eye.reach, eye.y / eye.reach
        out = eye.eye.head_mm * scale + 4.0
        anchor: Anchor = "start" if ux > 0.4 else "end" if ux < -0.4 else "middle"
        where = (at[0] + ux * out, at[1] + uy * out + (0 if abs(uy) < 0.4 else 2.0 if uy > 0 else -4.0))
        sheet.text(where, eye.words, 2.9, anchor, bold=True, ref=f"eye:{eye.eye.point}")
        sheet.text(
            (where[0], where[1] - 3.6),
            f"⌀{numbers.drilled(eye.eye.pin_mm)}",
            2.9,
            anchor,
            "blue",
            mono=True,
            ref=f"eye:{eye.eye.point}",
        )
    _on_edge(sheet, rocker, scale)
    y = 24.0 + 5.0 * len(shape.eyes)
    sheet.text((150, y), "from the pivot", 2.6, tone="muted")
    for i, eye in enumerate(shape.eyes):
        row = y - 5.0 * (i + 1)
        sheet.text((150, row), eye.words, 2.9, ref=f"eye:{eye.eye.point}")
        sheet.text(
            (212, row), numbers.written(eye.reach), 3.2, "end", "blue", mono=True, bold=True, ref=f"eye:{eye.eye.point}"
        )
    for i, one in enumerate(shape.eyes):
        for two in shape.eyes[i + 1 :]:
            y += 5.0
            sheet.text((150, y + 2), f"{one.words} to {two.words}"[:34], 2.6, ref=f"eye:{one.eye.point}")
            sheet.text((212, y + 2), numbers.main(hypot(one.x - two.x, one.y - two.y)), 3.0, "end", mono=True)
    return sheet.done()


def _on_edge(sheet: Sheet, rocker: Rocker, scale: float) -> None:
    """Boss and plates in section through the pivot."""
    half = rocker.boss_length_mm / 2
    size = min(scale, 46.0 / max(rocker.boss_length_mm, 1.0), 34.0 / (2 * rocker.hub_mm))
    frame = Frame(180.0, 118.0, size)
    sheet.text((150, 146), "through the pivot", 2.9, tone="muted")
    offsets = (
        [0.0]
        if rocker.plates == 1
        else [-(rocker.inside_mm + rocker.plate_mm) / 2, (rocker.inside_mm + rocker.plate_mm) / 2]
    )
    for sign in (1, -1):
        wall = [
            frame.at(x, sign * r)
            for x, r in (
                (-half, rocker.bore_mm / 2),
                (half, rocker.bore_mm / 2),
                (half, rocker.boss_mm / 2),
                (-half, rocker.boss_mm / 2),
            )
        ]
        sheet.area(wall, "sheet", ref="field:boss")
        sheet.hatch(wall, 1.2, ref="field:boss")
        for middle in offsets:
            a, b = middle - rocker.plate_mm / 2, middle + rocker.plate_mm / 2
            plate = [
                frame.at(a, sign * rocker.boss_mm / 2),
                frame.at(b, sign * rocker.boss_mm / 2),
                frame.at(b, sign * rocker.hub_mm),
                frame.at(a, sign * rocker.hub_mm),
            ]
            sheet.area(plate, "sheet", ref="field:plate")
            sheet.hatch(plate, 1.2, rising=False, ref="field:plate")
    sheet.line(frame.at(-half * 1.3, 0), frame.at(half * 1.3, 0), "centre", "muted")
    low = -rocker.hub_mm
    sheet.dimension(
        frame.at(-half, low),
        frame.at(half, low),
        rocker.boss_length_mm,
        offset=-5.0,
        ref="field:boss",
        size=3.0,
        both=False,
    )
    if rocker.plates == 2:
        sheet.text((150, 141.5), f"inside {sheet.numbers.written(rocker.inside_mm)}", 2.7, tone="muted")


def rocker_flat(rocker: Rocker, shape: RockerShape) -> Drawing:
    """The plate alone at 1:1, origin at the lower left of its bounds: what is cut."""
    low_x, low_y, high_x, high_y = shape.outline.bounds
    sheet = Sheet(name="flat", title=rocker.name, width=high_x - low_x, height=high_y - low_y)
    frame = Frame(-low_x, -low_y, 1.0)
    draw_contour(sheet, frame, shape.outline, "cut")
    for hole in shape.outline.holes:
        reach = hole.diameter / 2 + 3
        sheet.line(frame.at(hole.x - reach, hole.y), frame.at(hole.x + reach, hole.y), "mark")
        sheet.line(frame.at(hole.x, hole.y - reach), frame.at(hole.x, hole.y + reach), "mark")
    return sheet.done()
