"""Drawings of a bolted bracket: both angles on their face with the flat beside, the flat at 1:1, its shim."""

from __future__ import annotations

from tirante.core.document.parts.angle_bracket import AngleBracket
from tirante.core.drawing.flat import cross_holes, draw_contour
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Frame, Numbers, Sheet
from tirante.core.flat.contour import Contour
from tirante.core.sheet.angle import FoldedAngle


def angle_flat(flat: FoldedAngle) -> Drawing:
    """The flat alone at 1:1, its origin at the lower left of its bounds: what the DXF holds.

    Args:
        flat: of one angle.
    """
    left, low, right, high = flat.contour.bounds
    sheet = Sheet(name="angle-flat", title="angle", width=right - left, height=high - low)
    frame = Frame(-left, -low, 1.0)
    draw_contour(sheet, frame, flat.contour, "cut")
    for bend in flat.contour.bends:
        sheet.line(frame.at(*bend.line.start), frame.at(*bend.line.end), "bend")
        sheet.text(frame.at(bend.line.x1 + 1.0, 0.0), f"up {bend.angle_deg:g}° R{bend.radius:g}", 3.5, angle_deg=90.0)
    cross_holes(sheet, frame, flat.contour)
    return sheet.done()


def shim_flat(outline: Contour) -> Drawing:
    """A shim at 1:1.

    Args:
        outline: of it.
    """
    left, low, right, high = outline.bounds
    sheet = Sheet(name="angle-shim", title="shim", width=right - left, height=high - low)
    frame = Frame(-left, -low, 1.0)
    draw_contour(sheet, frame, outline, "cut")
    cross_holes(sheet, frame, outline)
    return sheet.done()


def angle_sheet(
    saved: AngleBracket, flat: FoldedAngle, of: tuple[float, int, float | None], numbers: Numbers
) -> Drawing:
    """Both angles seen along their bends, bolted on, above; the flat with its bend line below.

    Args:
        saved: as it is.
        flat: of one angle.
        of: between the ears [mm], how many joints, and to what the bend is set [°].
        numbers: how lengths are written.
    """
    (gap, joints, set_deg), t = of, saved.plate.mm
    sheet = Sheet(name="angle", title=saved.name, width=217.0, height=160.0, numbers=numbers)
    tall, wide = saved.height.mm + saved.edge.mm, gap + 2 * (t + saved.gauge_mm + saved.toe_mm)
    scale = min(42.0 / tall, 84.0 / wide, 1.5)
    sheet.text((6, 152), "Bolted on", 3.8, bold=True)
    sheet.text((30, 152), f"{numbers.main(t)} {saved.grade_name}, cut {2 * joints * saved.count}", 2.9, tone="muted")
    frame, s = Frame(60, 101, scale), saved.shim_mm
    _, _, right, _ = flat.contour.bounds
    for way in (-1.0, 1.0):
        inner = [flat.folded(x, 0.0, 0.0) for x in _stations(flat, right)]
        outer = [flat.folded(x, 0.0, t) for x in _stations(flat, right)]
        ring = [frame.at(way * (gap / 2 + u), s + z) for u, _, z in inner]
        ring += [frame.at(way * (gap / 2 + u), s + z) for u, _, z in reversed(outer)]
        sheet.area(ring, "steel", ref="field:plate")
        toe, ear = gap / 2 + t + saved.gauge_mm + saved.toe_mm, gap / 2
        if s > 0:
            corners = [(ear, 0.0), (toe, 0.0), (toe, s), (ear, s)]
            sheet.area([frame.at(way * x, z) for x, z in corners], "pale", ref="field:shim_mm")
        bolt = way * (gap / 2 + t + saved.gauge_mm)
        deep = saved.through_mm or 2.5 * t
        if saved.through_mm > 0:
            outside = (saved.sleeve_od_mm or saved.bolt_mm + 8.0) / 2
            for edge in (-outside, outside):
                sheet.line(frame.at(bolt + edge, 0), frame.at(bolt + edge, -min(deep, 13.0 / scale)), "hidden", ref="field:through_mm")  # fmt: skip
        head = saved.bolt_mm * 0.8
        sheet.box(
            frame.at(bolt - head, s + t),
            frame.at(bolt + head, s + t + 0.65 * saved.bolt_mm),
            "pale",
            ref="field:bolt_mm",
        )
        sheet.line(frame.at(bolt, s + t + saved.bolt_mm), frame.at(bolt, -min(deep, 15.0 / scale)), "centre", "muted")
    reach = wide / 2 + 4.0 / scale
    sheet.line(frame.at(-reach, 0), frame.at(reach, 0), "thin", "muted")
    sheet.line(frame.at(-gap / 2 - 2.5 * t, saved.height.mm), frame.at(gap / 2 + 2.5 * t, saved.height.mm), "centre", "muted")  # fmt: skip
    top = frame.at(0, tall)[1]
    sheet.dimension((frame.at(-gap / 2, 0)[0], top), (frame.at(gap / 2, 0)[0], top), gap, offset=5.0, ref="dim:gap", note="between", tone="blue")  # fmt: skip
    x = frame.at(wide / 2, 0)[0]
    sheet.dimension((x, frame.at(0, saved.height.mm)[1]), (x, frame.at(0, 0)[1]), saved.height.mm, offset=6.0, ref="dim:height", tone="blue")  # fmt: skip
    told = [
        f"foot’s bolts ⌀{numbers.drilled(saved.bolt_mm)} class {saved.bolt_class}, {numbers.main(saved.gauge_mm)} from the ears",
        f"bend allowance {numbers.main(flat.bend.allowance)}, K {flat.bend.k:.3f} ({'test bend' if saved.k_factor is not None else 'DIN 6935'})",
        f"set to {set_deg:.1f}° for 90°" if set_deg else "set angle not known: test bend",
        *([f"shims {numbers.main(s)} behind each foot"] if s > 0 else []),
        *([f"sleeves through the box, {numbers.main(saved.through_mm)} long"] if saved.through_mm > 0 else []),
    ]
    for i, line in enumerate(told):
        sheet.text((122, 142 - 5.2 * i), line, 2.9, tone="muted" if i else "ink")
    _flat_below(sheet, saved, flat)
    return sheet.done()


def _flat_below(sheet: Sheet, saved: AngleBracket, flat: FoldedAngle) -> None:
    left, low, right, high = flat.contour.bounds
    scale = min(150.0 / (right - left), 30.0 / (high - low), 1.5)
    sheet.scale = scale
    sheet.text((6, 78), "Flat, from the side that becomes the inside", 3.8, bold=True)
    frame = Frame(106 - scale * (left + right) / 2, 50, scale)
    draw_contour(sheet, frame, flat.contour, "visible", ref="field:plate")
    bend = flat.contour.bends[0]
    sheet.line(frame.at(bend.line.x1, bend.line.y1 - 4), frame.at(bend.line.x2, bend.line.y2 + 4), "hidden", "blue", "bend")  # fmt: skip
    y, x0, line = frame.at(0, low)[1], frame.at(left, 0)[0], frame.at(bend.line.x1, 0)[0]
    above = frame.at(0, high)[1]
    sheet.dimension((x0, above), (frame.at(flat.bolts_at, 0)[0], above), saved.toe_mm, offset=5.0, ref="field:toe_mm", tone="blue", size=3.0)  # fmt: skip
    sheet.dimension((line, y), (frame.at(flat.hole_at, 0)[0], y), flat.hole_at - bend.line.x1, offset=-6.0, ref="dim:hole", note="bend to hole")  # fmt: skip
    sheet.dimension((x0, y), (line, y), bend.line.x1 - left, offset=-15.0, ref="bend", note="to bend")
    sheet.dimension((x0, y), (frame.at(right, 0)[0], y), right - left, offset=-25.0, ref="length", note="long")
    edge = frame.at(left, 0)[0]
    sheet.text((edge - 11, frame.at(0, 0)[1] - 8), "bolts apart", 2.6, "middle", "muted")
    sheet.dimension((edge, frame.at(0, -saved.apart_mm / 2)[1]), (edge, frame.at(0, saved.apart_mm / 2)[1]), saved.apart_mm, offset=22.0, ref="field:apart_mm", tone="blue", size=3.0)  # fmt: skip
    x = frame.at(right, 0)[0]
    sheet.dimension((x, y), (x, frame.at(0, high)[1]), high - low, offset=-7.0, ref="dim:base_width", tone="blue")


def _stations(flat: FoldedAngle, right: float) -> list[float]:
    """Places along the flat, close together over the bend."""
    bend = flat.bend.allowance
    return [-flat.foot, *(bend * i / 12 for i in range(13)), right]
