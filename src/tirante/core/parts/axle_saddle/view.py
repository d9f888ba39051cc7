"""The drawing of an axle saddle: across its tube, and from its side with what stands on it."""

from __future__ import annotations

from collections.abc import Sequence

from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Frame, Numbers, Sheet
from tirante.core.parts.axle_saddle.shape import SaddleShape


def saddle_sheet(
    title: str, shape: SaddleShape, tube: str, stands: Sequence[tuple[str, tuple[float, float, float]]], numbers: Numbers
) -> Drawing:  # fmt: skip
    """Across the tube on the left, from the side below with the places of what stands on it.

    Args:
        title: the part's name.
        shape: on its tube.
        tube: in words.
        stands: what stands on it, and where from between its feet.
        numbers: how lengths are written.
    """
    sheet = Sheet(name="saddle", title=title, width=217.0, height=160.0, numbers=numbers)
    r, t, top = shape.od / 2, shape.plate, shape.top
    scale = min(58.0 / (r + top), 70.0 / max(shape.wide, 2 * r), 1.0)
    sheet.scale = scale
    sheet.text((6, 152), "Across the tube", 3.8, bold=True)
    sheet.text((132, 142), f"{numbers.main(t)} plate; looking along {tube}", 2.9, tone="muted")
    frame = Frame(60, 84 + scale * r, scale)
    sheet.circle(frame.at(0, 0), r * scale, "thin", fill="pale")
    for side in shape.sides:
        low, high = sorted((side.inner, side.outer))
        sheet.box(frame.at(low, side.foot), frame.at(high, top - t), "steel", ref="plate:side")
    left = shape.aside - shape.wide / 2
    sheet.box(frame.at(left, top - t), frame.at(left + shape.wide, top), "steel", ref="plate:cap")
    for a, b in (((-r - 6, 0), (r + 6, 0)), ((0, -r - 6), (0, top + 8))):
        sheet.line(frame.at(*a), frame.at(*b), "centre", "muted")
    x = frame.at(max(r, left + shape.wide), 0)[0]
    sheet.dimension(
        (x, frame.at(0, top)[1]),
        (x, frame.at(0, 0)[1]),
        top,
        offset=9.0,
        ref="dim:top",
        note="to the tube’s middle",
        tone="blue",
    )
    y = frame.at(0, top)[1]
    sheet.dimension(
        (frame.at(left, 0)[0], y),
        (frame.at(left + shape.wide, 0)[0], y),
        shape.wide,
        offset=6.0,
        ref="dim:wide",
        tone="blue",
    )
    side = shape.sides[1]
    sheet.leader(
        frame.at(side.middle, (side.foot + top) / 2),
        (132, 128),
        f"sides {numbers.main(top - t - side.foot)} tall",
        "plate:side",
    )
    half, foot = shape.length / 2, shape.foot
    high = max([top, *(at[2] + foot for _, at in stands)])
    reach = max([half, *(abs(at[0]) for _, at in stands)])
    long_scale = min(170.0 / (2 * reach), 42.0 / (r + high))
    sheet.text((6, 66), "From its side", 3.8, bold=True)
    f2 = Frame(108, 18 + long_scale * r, long_scale)
    for level in (r, -r):
        sheet.line(f2.at(-half - 12, level), f2.at(half + 12, level), "thin", "muted")
    sheet.line(f2.at(-half - 12, 0), f2.at(half + 12, 0), "centre", "muted")
    sheet.box(f2.at(-half, foot), f2.at(half, top - t), "steel", ref="plate:side")
    sheet.box(f2.at(-half, top - t), f2.at(half, top), "steel", ref="plate:cap")
    low = f2.at(0, -r)[1]
    sheet.dimension(
        (f2.at(-half, 0)[0], low),
        (f2.at(half, 0)[0], low),
        shape.length,
        offset=-8.0,
        ref="length",
        note="long",
        tone="blue",
    )
    for i, (name, at) in enumerate(stands):
        x, y = f2.at(at[0], at[2] + foot)
        sheet.circle((x, y), 1.4, "visible", fill="sheet", ref=f"stands:{i}")
        sheet.line((x, f2.at(0, top)[1]), (x, y), "thin", "muted")
        sheet.text((x + 2.2, y - 0.8), f"{i + 1}", 2.9, bold=True, ref=f"stands:{i}")
        sheet.text((132, 104 - 5.0 * i), f"{i + 1}  {name}", 2.7, tone="muted", ref=f"stands:{i}")
    return sheet.done()
